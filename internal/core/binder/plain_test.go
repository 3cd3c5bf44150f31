package binder

import (
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// shore is a school with a few techniques and all the usual sections.
func shore() *Reader {
	c := curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "y", Name: "Yellow belt"}}}
	for _, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: s, Name: s, Kind: curriculum.UsualKind(s)})
	}
	for name, kind := range map[string]Kind{"Jab": "strike", "Front kick": "kick", "Side kick": "kick", "Show Stance": "stance", "Gate": "self_defence"} {
		c.Techniques = append(c.Techniques, curriculum.Technique{ID: name, Name: name, Kind: kind})
	}
	return Open(c)
}

// understoodIn is what a page is read as, a line each: set-aside lines by their reason, problems and
// doubts with a question mark.
func understoodIn(b *Reader, page string) string {
	var out []string
	for _, l := range b.ParsePage(strings.ReplaceAll(page, "|", "\n")) {
		switch {
		case l.Aside != "":
			out = append(out, "~ "+l.Aside)
		case l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits:
			out = append(out, "? "+understood(b, l))
		default:
			out = append(out, understood(b, l))
		}
	}
	return strings.Join(out, "|")
}

// TestPagesWithoutTheirDress: boxes, signs, stars, capitals and whole sentences do not change what is
// asked; what only looks like them stays.
func TestPagesWithoutTheirDress(t *testing.T) {
	golden.Alone(t)
	for page, want := range map[string]string{
		"Kicks|☐ Front kick 10|[ ] Side kick 5|- [x] Hook kick, 5":             "kick: Front kick, 10|kick: Side kick, 5|kick: Hook kick, 5",
		"Kicks|Front kick* 10|*Side kick 5|Hook kick, 3|* = must be passed":    "kick: Front kick, 10, must|kick: Side kick, 5, must|kick: Hook kick, 3|~ what a sign means: must",
		"Kicks|Front kick 10 †|Side kick 5|† optional":                         "kick: Front kick, 10, bonus|kick: Side kick, 5|~ what a sign means: bonus",
		"Kicks|* Front kick 10|* Side kick 5":                                  "kick: Front kick, 10|kick: Side kick, 5",
		"**Kicks**|- **Front kick** – 10/leg|- *Hook kick* – 5/leg (**must**)": "kick: Front kick, 10 each limb|kick: Hook kick, 5 each limb, must",
		"Kicks|Front kick 2*3": "? kick: Front kick 2*3, 5 a side",
		"Kicks: Front kick x10, Side kick x5|Strikes: Jab, 10 each hand, must":                                        "kick: Front kick, 10|kick: Side kick, 5|strike: Jab, 10 each limb, must",
		"Sparring: 2 x 1 min|Fitness: 20 push-ups":                                                                    "sparring: Sparring, 2 x 60 s|fitness: Push-ups, 20",
		"Blocks: all on command":                                                                                      "? block: Blocks, 5 a side: all on command",
		"Stances|Show Stance, 20 s|Stand in Horse stance for 40 seconds.":                                             "stance: Show Stance, 20 s|stance: Horse stance, 40 s",
		"Perform 10 front kicks with each leg.|Show a Side kick, 5 on each side":                                      "kick: Front kick, 10 each limb|kick: Side kick, 5 a side",
		"Students must be able to:|Do 10 jabs":                                                                        "~ it leads in what follows|strike: Jab, 10",
		"Self-defence|Show the palm to the partner.":                                                                  "self_defence: Show the palm to the partner, 2 a side",
		"Kicks|Front kick @ head height, 5|Side kick at waist level 5 L/R":                                            "kick: Front kick, 5, level high|kick: Side kick, 5 a side, level mid",
		"Kicks|10 x Hook kick L+R|Front kick L/R 8|Side kick 10 L & R":                                                "kick: Hook kick, 10 a side|kick: Front kick, 8 a side|kick: Side kick, 10 a side",
		"Fitness|Beep test level 5":                                                                                   "? fitness: Beep test level 5, 60 s",
		"Fitness|Burpees 15|Plank 2|Sit-ups, 20 ea.":                                                                  "fitness: Burpees, 15|? fitness: Plank 2, 60 s|fitness: Sit-ups, 20 a side",
		"Sparring|3 x 2 min. (1 min. rest), light|Rounds 2 x 1 min (body only)":                                       "sparring: Sparring, 3 x 120 s, 60 s rest (light)|sparring: Rounds, 2 x 60 s (body only)",
		"Self-defence|Rear choke – throw|Wrist grab, lock":                                                            "self_defence: Rear choke, 2 a side against rear choke, rear (throw)|self_defence: Wrist grab, 2 a side against wrist grab (lock)",
		"Self-defence|Sea wall, throw":                                                                                "throw: Sea wall, 3 a side",
		"Forms|Shore One, up to the second shout":                                                                     "? : , 0 x 0 s, as ",
		"Strikes|Jab to the head, 10|Jab to a pad, 5|Jab-Jab, 5":                                                      "strike: Jab, 10 (to the head)|strike: Jab, 5, on pads|combination: Jab-Jab, 5: Jab, Jab",
		"FORMS|WATER LINE|KICKS|BACK KICK, 5|FRONT KICK 5|LOW KICK, 5":                                                "form: Water Line, 1|kick: Back kick, 5|kick: Front kick, 5|kick: Low kick, 5",
		"Stances|Horse stance, left and right, 20 seconds each|Low stance, 20 seconds each":                           "stance: Horse stance, 20 s a side (left and right)|? stance: Low stance, 20 s a side",
		"Kicks|10 front kicks, alternating|Side kick, 5 a side, alternating":                                          "kick: Front kick, 10 alternating|kick: Side kick, 5 a side (alternating)",
		"Kicks|Front kick, knee height or above, 5":                                                                   "kick: Front kick, 5 (knee height or above)",
		"Combinations|13. Combination 4|Kicks|Front kick 5":                                                           "? combination: Combination 4, 4 a side|kick: Front kick, 5",
		"Striking (pads)|Jab, 10|Kicks (on the bag)|Front kick, 5":                                                    "strike: Jab, 10, on pads|kick: Front kick, 5, on the bag",
		"Sparring|One 2-minute round, light|2 3-minute rounds":                                                        "sparring: Sparring, 1 x 120 s (light)|sparring: Sparring, 2 x 180 s, again",
		"Theory|Meaning of bow, guard and belt|Name two stances, must|Name the hall (any), once":                      "knowledge: Meaning of bow, guard and belt, 1|knowledge: Name two stances, 1, must|knowledge: Name the hall, 1 (any)",
		"Strikes|Jab, high and low, 10 each|Jab, 10 each hand":                                                        "strike: Jab, 10 a side (high and low)|strike: Jab, 10 each limb, again",
		"Defences|Front choke on the wall|Hair grab, 3 a side|Low cover, 5":                                           "self_defence: Front choke on the wall, 2 a side against front choke|self_defence: Hair grab, 3 a side against hair grab|block: Low cover, 5",
		"Self-defence|Bear hug, arms trapped|Defence to a knife slash w/ disarm at once|Defense vs a push and a pull": "self_defence: Bear hug, 2 a side against hug (arms trapped)|self_defence: Defence to a knife slash with disarm at once, 2 a side against knife slash|? self_defence: Defense vs a push and a pull, 2 a side",
		"Technique;Reps|Hook kick;10|Low jab;5":                                                                       "~ the head of the columns|kick: Hook kick, 10|strike: Low jab, 5",
		"Type,Name,Reps|Kick,\"Hook kick (slow, high)\",10|Strike,Jab,5":                                              "~ the head of the columns|kick: Hook kick, 10, slowly, level high|strike: Jab, 5",
		"6. Defences against|a. a low grab|b. a push|7. Good manners and effort":                                      "self_defence: a low grab, 2 a side|self_defence: a push, 2 a side against push|? : Good manners and effort, 5 a side",
		"Forms|Part 3: Friends|Good manners":                                                                          "? : , 0 x 0 s, as |? : Good manners, 5 a side",
		"Kicks (each 4x forward, 4x back)|Hook kick|Side kick, 3":                                                     "kick: Hook kick, 4 each way|kick: Side kick, 3",
		"Kicks|Hook kick x10  ______|Low kick, 5  ___ / 5|Parent's signature ______":                                  "kick: Hook kick, 10|kick: Low kick, 5|~ a sum, a fee or a place to sign",
		"Kicks|Low kick 3 sets of 10|Hook kick 3 x 10 times":                                                          "kick: Low kick, 30 (3 sets of 10)|? kick: Hook kick 3, 10",
		"Later: the throw|As above|All of the kicks above":                                                            "? : , 0 x 0 s, as |? : , 0 x 0 s, as |? : , 0 x 0 s, as ",
		"Theory: why we bow; who leads":                                                                               "knowledge: why we bow, 1|knowledge: who leads, 1",
		"Kicks|Hooks|Fades|Hook kicks":                                                                                "kick: Hooks, 5 a side|? kick: Fades, 5 a side|kick: Hook kicks, 5 a side",
		"Kicks|Hook kick 5|Low kick 6|Axe kick 7":                                                                     "kick: Hook kick, 5|kick: Low kick, 6|kick: Axe kick, 7",
		"Kicks|Hook kick 5|Low kick 6":                                                                                "? kick: Hook kick 5, 5 a side|? kick: Low kick 6, 5 a side",
		"Stripe 2||Holds|Scarf hold, 20 s||Walks|Bear walk, 20 s||Weapons|Stick form":                                 "~ the title of the page|lock: Scarf hold, 20 s|? : , 0 x 0 s, as |fitness: Bear walk, 20 s|? : , 0 x 0 s, as |form: Stick form, 1",
		"Kicks||Fade||Hook kick, 5":                                                                                   "kick: Fade, 5 a side|kick: Hook kick, 5", // nothing right below
		"Part 1. Kicking. Ten times each leg.|Hook kick. ":                                                            "kick: Hook kick, 10 each limb",
		"[ ] Partner: low block|[ ] Form B from memory":                                                               "block: Low block, 5 a side, with a partner|form: Form B, 1 (from memory)",
		"Tower form steps 1-12":                                                                                       "? form: Tower form steps 1-12, 1",
		"Strikes|Double jab in low stance, 5|Low elbow, both sides, 8 reps":                                           "? strike: Double jab in low stance, 5|strike: Low elbow, 8 a side",
		"Fitness|Referee a bout|5 km run":                                                                             "? fitness: Referee a bout, 60 s|fitness: Run, 1 (5 km)",
		"Kumite|gohon kumite":                                                                                         "partner_set: gohon kumite, 3 a side",
		"Self-defence|Against a stick: 2|All escapes, 3":                                                              "? self_defence: Against a stick, 2 against stick|? self_defence: All escapes, 3",
		"Tachi waza: kiba dachi, ko dachi|Renraku waza: mae geri - oi zuki":                                           "stance: Kiba dachi, 5 a side|stance: Ko dachi, 5 a side|combination: mae geri - oi zuki, 4 a side: mae geri, oi zuki",
		"Throws       low hip x3|Hands & elbows|Low elbow, 5":                                                         "throw: Low hip, 3|strike: Low elbow, 5",
		"Kicks: slow hook kick, 5; low kick, 6.":                                                                      "kick: slow hook kick, 5|kick: low kick, 6",
		"You will also be asked to explain the bow.":                                                                  "knowledge: Explain the bow, 1",
		"Forms|Form 1 thru Form 3|No. 1 and No. 2|Form 5 (new)":                                                       "? form: Form 1 thru Form 3, 1|? form: No. 1 and No. 2, 1|form: Form 5, 1 (new)",
		"Forms|Free sparring, 2 min":                                                                                  "? form: Free sparring, 120 s",
	} {
		assert.Equal(t, want, understoodIn(shore(), page), page)
	}
}

// TestDressKeepsThePlace: what is wrong is pointed at where it was typed, and the line is shown as typed.
func TestDressKeepsThePlace(t *testing.T) {
	for _, line := range []string{"☐ Side kick, 5 a side, level upstairs", "- [ ] Side kick, 5 a side, level upstairs", "Show Side kick, 5 a side, level upstairs"} {
		read := shore().ParsePage("Kicks\n" + line)
		require.Len(t, read, 1, line)
		assert.Equal(t, line, read[0].Text)
		assert.Equal(t, strings.Index(strings.ReplaceAll(line, "☐", "_"), "level")+1, read[0].Column, line)
	}
	two := shore().ParsePage("Kicks: Front kick, Side kick")
	require.Len(t, two, 2)
	assert.Equal(t, []any{1, 1, "Kicks: Front kick, Side kick"}, []any{two[0].Number, two[1].Number, two[1].Text})
}

// TestTheCellIsPointedAt: of a row of a spreadsheet, what is wrong is pointed at where it was typed.
func TestTheCellIsPointedAt(t *testing.T) {
	for row, want := range map[string]string{
		"Kicks;Hook kick;3 x 20;slow":  "3 x 20",
		"Kicks;Äxte kick;2 x 20;slow":  "2 x 20",
		"Wheels;Hook kick;5;slow":      "Wheels",
		"Kicks;Hook kick, level up;5;": "level up",
	} {
		lines := shore().ParsePage("Section;Technique;Reps;Notes\n" + row)
		require.GreaterOrEqual(t, len(lines), 2)
		require.NotEmpty(t, lines[1].Problem, row)
		assert.Equal(t, utf8.RuneCountInString(row[:strings.Index(row, want)])+1, lines[1].Column, "%s: %s", row, lines[1].Problem)
	}
}
