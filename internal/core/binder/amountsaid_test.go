package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// saidAmounts are amounts as people say them, by what they are.
var saidAmounts = map[string]string{
	"10 a side":    "10 each side|10 per side|10 a side|10 each|10 ea|10/side|10 per/side|10 L & R|10 left, 10 right|10R 10L|10 on each side|10x each side|10 times each side|ten each side|10 reps each side|10 reps per side|each side 10x|x10 each side|10 ea. side|10+10|10/10|10 left & 10 right|10 e/s|10 times on both sides|10 x each side|10 for each side|10 on both sides|10 times L/R|each side x 10|each side ten times|10 every side",
	"10 each limb": "10 each leg|10 per leg|10/leg|10 ea leg|10 with each leg|10 reps per leg|10 times each leg|10 each foot|10 x each leg|each leg 10|x10 each leg|ten per leg",
	"10 times":     "10 times|x10|10x|x 10|10 x|10 reps|ten times|10 repetitions|10 in all|10 total|10 in total",
	"30 s":         "30 s|30 sec|30 secs|30 seconds|for 30 seconds|30sec|30s|half a minute|for 30 s|30 seconds long|hold 30 sec|30\"",
	"60 s":         "1 min|one minute|1 minute|60 sec|for 1 minute|1min|for one minute|a minute|1'",
	"60 s a side":  "1 min each side|1 minute per side|60 sec a side|one minute each side|1 min/side",
	"20 s a side":  "20 sec each side|20 secs per side|20 seconds on each side|hold 20 sec each side|20s/side",
}

// usualSections is a program with the usual sections, a rung and a technique.
func usualSections(t curriculum.Technique) *Reader {
	c := curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "y", Name: "Yellow belt"}}, Techniques: []curriculum.Technique{t}}
	for i, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: fmt.Sprint("s", i), Name: s, Kind: curriculum.UsualKind(s)})
	}
	return Open(c)
}

// amountWays are the ways in which such an amount stands beside a name.
var amountWays = []string{"%[1]s, %[2]s", "%[1]s %[2]s", "%[1]s - %[2]s", "%[1]s – %[2]s", "%[1]s (%[2]s)", "%[1]s: %[2]s", "%[1]s\t%[2]s", "%[1]s ...... %[2]s", "%[1]s; %[2]s", "%[1]s = %[2]s", "%[1]s [%[2]s]", "1. %[1]s, %[2]s", "- %[1]s %[2]s", "%[1]s on pads, %[2]s", "%[1]s (fast), %[2]s", "%[1]s, fast, %[2]s", "%[1]s %[2]s must"}

// TestAmountsAsTheyAreSaid: each of them is read in every way of writing it, of a known technique and of a new one, or asked about; nothing else
// is read in silence, and the name stays the name.
func TestAmountsAsTheyAreSaid(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	lines, asked := 0, 0
	for want, all := range saidAmounts {
		for said := range strings.SplitSeq(all, "|") {
			for _, of := range []string{"Kicks|Side kick", "Kicks|Swallow kick", "Strikes|Palm heel", "Blocks|Rising block"} {
				section, name, _ := strings.Cut(of, "|")
				if strings.Contains(want, "limb") && section != "Kicks" {
					continue
				}
				for n, way := range amountWays {
					if name != "Side kick" && n%3 != len(said)%3 { // every way of the first, some of the others
						continue
					}
					if strings.Contains(said, ", ") && !strings.Contains(way, "(") {
						continue
					}
					line := fmt.Sprintf(way, name, said)
					if lines++; !golden.Sample(lines, 3) {
						continue
					}
					read := b.ParsePage(section + "\n" + line)
					l := read[len(read)-1]
					if len(read) == 1 && (l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits) {
						asked++
						continue
					}
					note := map[bool]string{true: "fast"}[strings.Contains(way, "fast")]
					got := []any{len(read), l.Name, l.Quantity.String(), l.Note, l.Setting == "pads", l.MustPass}
					assert.Equal(t, []any{1, name, want, note, strings.Contains(way, "pads"), strings.Contains(way, "must")}, got, line)
				}
			}
		}
	}
	assert.Greater(t, lines, 2400)
	assert.LessOrEqual(t, 100*asked, lines, "asked of them")
}

// saidRemarks are what people say of how something is done, by what it is said of.
var saidRemarks = map[string]string{
	"Kicks|Swallow kick|Side kick|Low round kick":               "from guard|from a fighting stance|chamber high|knee up first|hands up|guard up|re-chamber|with control|slow and controlled|with kiai|with a shout|without wobbling|no hopping|toes back|heel first|good balance|eyes on target|stepping through|off the back leg|off the front leg|on the spot|moving forward|across the floor|through the target|pivot the foot|snap back|land in front|land behind|hip turned over|at own height|as a warm-up|from the ground|against the wall|holding the bar|after a slide|alternating|any height|best effort|watch the hands|keep the guard|on command|in the line|to the count|by numbers|with partner’s help|partner holds the pad|loud kiai on the last|three counts|not above the waist|kyap on last|don’t drop the hands|straight back|down the line",
	"Strikes|Palm heel|Ridge hand":                              "from guard|elbow down|hips first|shoulder relaxed|from a horse stance|with step|wrist straight|to the solar plexus|to the chin|to the ribs|other hand on the hip|pull the other hand back|with hip twist|snap|fist tight|thumb outside|fast hands|hands back to guard|breathe out|with breath|from the hip|on the move|relaxed|full extension|stop before the target|chin tucked|with the lead hand|with the rear hand",
	"Blocks|Rising block|Swallow block":                         "from guard|above the head|fist above the forehead|elbow covered|with step|in front stance|wrist turned out|stops at the shoulder|covers the face|other hand to the hip|strong stance|no leaning|against a punch|in horse stance|with rotation",
	"Stances|Horse stance|Swallow stance":                       "knees bent|back straight|weight even|feet parallel|toes forward|hips low|hands on hips|weight on the back leg|knees over the toes|low|shoulders down|no wobbling|with closed eyes|moving forward|and back",
	"Forms|First Gate|Swallow Form":                             "from memory|with count|without count|to music|good rhythm|strong stances|eyes first|slow|with power|with kiai|no prompting|correct order|up to the turn|turns correct|with meaning|alone|in a group|facing the other way|by own count",
	"Self-defence|Broken Reed (push)|Swallow Gate (wrist grab)": "with partner|slowly|both sides|keep distance|shout first|run away after|no strikes|with control|both hands up|stay on your feet|loud voice|call for help|gently|eyes open|pressure|smooth",
	"Fitness|Squats, 20|Push-ups, 20":                           "knees over the toes|no stopping|on the knees|full range|chest to floor|back straight|can rest|without rest|feet together|own pace|elbows in|good form|in a row",
}

// TestRemarksAsTheyAreSaid: what is said of how something is done, behind a comma, a dash or in brackets, is a remark, or is asked about: the name
// stays the name, and the amount and the kind what they are without it.
func TestRemarksAsTheyAreSaid(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	lines, asked := 0, 0
	for of, all := range saidRemarks {
		names := strings.Split(of, "|")
		for _, name := range names[1:] {
			alone := b.ParsePage(names[0] + "\n" + name)[0]
			for remark := range strings.SplitSeq(all, "|") {
				for n, way := range []string{"%s, %s", "%s (%s)", "%s - %s", "%s – %s", "- %s, %s", "2. %s (%s)", "%s; %s", "%s\t%s"} {
					if name != names[1] && n%3 != len(remark)%3 {
						continue
					}
					line := fmt.Sprintf(way, name, remark)
					if lines++; !golden.Sample(lines, 3) {
						continue
					}
					read := b.ParsePage(names[0] + "\n" + line)
					l := read[len(read)-1]
					if len(read) == 1 && (l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits) {
						asked++
						continue
					}
					if l.Note != remark { // it says a part that is read: slowly, both sides, level low
						kept := check.Key(strings.Join(append(b.PartsOf(l.Requirement), fmt.Sprint(l.Modifiers), string(l.Sides)), " "))
						assert.True(t, l.Note == "" && (strings.Contains(kept, strings.Fields(remark)[0]) || remark == "both sides"), "%s: %s", line, kept)
					}
					got := []any{len(read), l.Name, l.Quantity.String(), l.Kind, curriculum.AttackWords(l.Attack)}
					want := []any{1, alone.Name, alone.Quantity.String(), alone.Kind, curriculum.AttackWords(alone.Attack)}
					assert.Equal(t, want, got, line)
				}
			}
		}
	}
	assert.Greater(t, lines, 1700)
	assert.LessOrEqual(t, 100*asked, 4*lines, "asked of them")
}

// TestRoundsAsTheyAreSaid: rounds and the rest between them are read in every way of writing them, alone, behind a name and in a heading’s list.
func TestRoundsAsTheyAreSaid(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Mat sparring", Kind: "sparring"})
	lines, asked := 0, 0
	for _, rounds := range []string{"3 x 2 min", "3x2 min", "3 x 2 mins", "3x2min", "3 rounds of 2 minutes", "3 rounds x 2 min", "3 rounds of 2 min", "three rounds of two minutes", "3 x 120 s", "3 × 2'", "3 x 2", "3 rounds, 2 min each", "3 2-minute rounds", "3 x 2 minutes", "3 rds x 2 min", "3 bouts of 2 min"} {
		for _, rest := range []string{"", ", 30 s rest", ", 30 sec rest", " with 30 sec rest", " (30 s rest)", ", 30 seconds rest", ", 30 s rest between rounds", " - 30 s rest", ", 30s break", ", rest 30 s"} {
			for _, way := range []string{"%s", "Light sparring %s", "Light sparring, %s", "Light sparring - %s", "Light sparring: %s", "Mat sparring %s", "Mat sparring, %s", "- %s", "2. Light sparring %s", "%s, gloves on", "Light sparring (%s)"} {
				if strings.Contains(way, "(") && rest != "" {
					continue
				}
				line := fmt.Sprintf(way, rounds+rest)
				if lines++; !golden.Sample(lines, 3) {
					continue
				}
				read := b.ParsePage("Sparring\n" + line)
				l := read[len(read)-1]
				if len(read) == 1 && (l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits) {
					asked++
					continue
				}
				want := "3 × 120 s"
				if rest != "" {
					want += ", 30 s rest"
				}
				assert.Equal(t, []any{1, want, Kind("sparring")}, []any{len(read), l.Quantity.String(), l.Kind}, line)
			}
		}
	}
	assert.Greater(t, lines, 1500)
	assert.LessOrEqual(t, 100*asked, 2*lines, "asked of them")
}
