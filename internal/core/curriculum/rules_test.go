package curriculum_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// said is a sheet as "call, amount, freshness" lines.
func said(s TestSheet) (out []string) {
	for _, l := range s.Lines {
		out = append(out, fmt.Sprintf("%s, %s, %s", l.Call, l.Quantity, l.Freshness))
	}
	return out
}

// Rule 1: this rung's, and lower ones whose carry still holds.
func TestRule1Carry(t *testing.T) {
	b := ladder(t, simple)
	assert.Equal(t, []string{"Jab, 5 a side, carried", "Cross, 5 a side, carried", "Palm, 5 a side, new"}, said(b.Compile(Asking{RungID: "yellow"})))
	assert.Equal(t, []string{"Jab, 8 a side, grown", "Cross, 5 a side, carried"}, said(b.Compile(Asking{RungID: "orange"})), "until is inclusive")
	assert.Equal(t, []string{"Jab, 5 a side, carried", "Knee, 5 a side, new"}, said(b.Compile(Asking{RungID: "green"})))
	assert.Empty(t, b.Compile(Asking{RungID: "nowhere"}).Lines)
	cross := b.Compile(Asking{RungID: "yellow"}).Lines[1]
	assert.Equal(t, []Why{{Kind: WhyUntil, Rung: "White", To: "Orange"}}, cross.Why)
	assert.Equal(t, Before{Rung: "White"}, cross.Before)
}

// Rule 2: the track, then the adaptations.
func TestRule2TracksThenAdaptations(t *testing.T) {
	three, ten := Quantity{Measure: RepsPerSide, Reps: 3}, Quantity{Measure: RepsPerSide, Reps: 10}
	b := ladder(t, simple, func(c *Curriculum) {
		c.Requirements[0].Tracks = []TrackChange{{TrackID: "cubs", Quantity: &three, Level: notation.Low}}
		c.Requirements[1].Tracks = []TrackChange{{TrackID: "cubs", LeaveOut: true}}
		c.Requirements[3].Tracks = []TrackChange{{TrackID: "cubs", Bonus: true}}
		c.Requirements[3].MustPass = true
		technique(c, "palm").Modifiers = []Modifier{"jumping"}
	})
	sheet := b.Compile(Asking{RungID: "yellow", TrackID: "cubs"})
	assert.Equal(t, []string{"Jab, 3 a side, carried", "Palm, 5 a side, new"}, said(sheet))
	assert.Equal(t, notation.Low, sheet.Lines[0].Level)
	assert.True(t, sheet.Lines[1].Bonus && !sheet.Lines[1].MustPass, "a bonus cannot fail")
	assert.Equal(t, []LeftOut{{Call: "Cross", Kind: LeftByTrack, Track: "Cubs"}}, sheet.LeftOut)
	assert.Len(t, b.Compile(Asking{RungID: "yellow", TrackID: "adults"}).Lines, 3)

	sheet = b.Compile(Asking{RungID: "yellow", TrackID: "cubs", Adaptations: []Adaptation{
		{TechniqueID: "jab", Does: Change, Quantity: &ten, Reason: "wrist"}, {Modifier: "jumping", Does: Replace, ReplacementID: "knee", Reason: "hip"}, {Kind: "form", Does: Excuse, Reason: "none here"}}})
	assert.Equal(t, []string{"Jab, 10 a side, grown", "Knee, 5 a side, new"}, said(sheet), "the adaptation comes after the track")
	assert.Equal(t, &Adapted{Now: "10 a side", Was: "3 a side", Reason: "wrist"}, sheet.Lines[0].Adapted)
	assert.Equal(t, &Adapted{Instead: "Palm", Reason: "hip"}, sheet.Lines[1].Adapted)
	sheet = b.Compile(Asking{RungID: "yellow", Adaptations: []Adaptation{{Kind: "strike", Does: Excuse, Reason: "cast"}}})
	assert.Empty(t, sheet.Lines)
	assert.Contains(t, sheet.LeftOut, LeftOut{Call: "Palm", Kind: LeftExcused, Reason: "cast"})
}

const staged = `
No belt
White
	Self-defence
	Mill Wheel, 2 a side, as defender
	Sluice, 2 a side
	Ferry, 2 a side
Yellow
	Self-defence
	Mill Wheel, 2 a side, as defender
	Sluice, 3 a side
Orange
	Self-defence
	Mill Wheel, 2 a side, as defender, stage 2
	Mill Wheel, 2 a side, as attacker
	Sluice, 3 a side
	Ferry, 60 s
Green
	Self-defence
	Mill Wheel, 2 a side, as defender
`

func stages(c *Curriculum) {
	plain := func(s string) []Step { return []Step{{Moves: s + "."}} }
	technique(c, "mill-wheel").Stages = []Stage{{Does: Appends, Steps: plain("parry")}, {RungID: "yellow", Does: Appends, Steps: plain("strike")}, {RungID: "green", Does: Alters, From: 1, Steps: plain("block")}, {RungID: "green", Does: ReplacesTail, From: 2, Steps: append(plain("sweep"), plain("away")...), Name: "extension"}}
}

// Rule 3: the highest stage introduced, within ceilings; new, grown or carried.
func TestRule3StagesAndFreshness(t *testing.T) {
	b := ladder(t, staged, stages)
	line := func(rung, track string, i int) Line { return b.Compile(Asking{RungID: rung, TrackID: track}).Lines[i] }
	at := func(rung string) string {
		l := line(rung, "", 0)
		return fmt.Sprint(l.Call, " ", l.Stage, " ", l.Freshness)
	}
	assert.Equal(t, "Mill Wheel, defender, stage 1 1 new", at("white"))
	assert.Equal(t, "Mill Wheel, defender, stage 2 2 grown", at("yellow"))
	assert.Equal(t, "Mill Wheel, defender, stage 2 2 carried", at("orange"), "the ceiling of the line")
	assert.Equal(t, "Mill Wheel, defender 4 grown", at("green"), "the whole of it needs no words")
	assert.Equal(t, []Why{{Kind: WhyAsked, Rung: "Green"}}, line("green", "", 0).Why)
	assert.Equal(t, Before{Rung: "Orange", Growth: []Growth{{Kind: GrownPart, Now: "extension", Was: "stage 2"}}}, line("green", "", 0).Before)
	assert.Equal(t, New, line("orange", "", 1).Freshness, "another role is new")
	assert.Equal(t, []string{"new", "grown", "carried"}, []string{string(line("white", "", 1).Freshness), string(line("yellow", "", 1).Freshness), string(line("orange", "", 2).Freshness)})
	assert.Equal(t, Grown, line("orange", "", 3).Freshness, "another unit")
	assert.Equal(t, []StripMove{{What: "block.", Count: 1, Sentence: true}, {What: "sweep.", Count: 2, Sentence: true}, {What: "away.", Count: 3, Sentence: true}}, plain(line("green", "", 0).Moves), "sentences are steps")

	capped := ladder(t, staged, stages, func(c *Curriculum) {
		c.Requirements[len(c.Requirements)-1].Tracks = []TrackChange{{TrackID: "cubs", StageCap: 1}}
	})
	assert.Equal(t, 1, capped.Compile(Asking{RungID: "green", TrackID: "cubs"}).Lines[0].Stage)
	assert.Equal(t, 4, capped.Compile(Asking{RungID: "green", TrackID: "adults"}).Lines[0].Stage)

	// A lower rung that the track leaves out has not asked for it.
	left := ladder(t, simple, func(c *Curriculum) { c.Requirements[0].Tracks = []TrackChange{{TrackID: "cubs", LeaveOut: true}} })
	assert.Equal(t, []string{"Cross, 5 a side, carried", "Jab, 8 a side, new"}, said(left.Compile(Asking{RungID: "orange", TrackID: "cubs"})))
	// More checkpoints than before are a larger demand.
	looks := ladder(t, simple, func(c *Curriculum) {
		technique(c, "jab").Checkpoints = []string{"a", "b"}
		c.Requirements[0].Checks, c.Requirements[4].Quantity = []string{"a"}, c.Requirements[0].Quantity
	})
	assert.Equal(t, Before{Rung: "Yellow", Growth: []Growth{{Kind: GrownChecks, N: 2, M: 1, All: true}}}, looks.Compile(Asking{RungID: "orange"}).Lines[0].Before)
	assert.Equal(t, []string{"a"}, looks.Compile(Asking{RungID: "yellow"}).Lines[0].Checkpoints)
}

// Rule 4: shown once is enough.
func TestRule4Folds(t *testing.T) {
	b := ladder(t, `
No belt
White
	Strikes
	Jab, 5 a side, always, must
	Kicks
	Knee, 4, always, on pads, covers settings
Yellow
	Stances
	Jab, 3 a side
	Strikes
	Jab, 8 a side, weight 3
	Jab, 60 s
	Jab, 20 a side, again
	Jab, 2 a side, as holder
	Jab, 2 a side, on pads
	Kicks
	Knee, 6
	Knee, 9, bonus
	Elbow, 5 a side, on the bag
	Elbow, 7 a side
`)
	sheet := b.Compile(Asking{RungID: "yellow"})
	assert.Equal(t, []string{"Jab, 8 a side, grown", "Jab, 60 s, grown", "Jab, 20 a side, grown", "Jab, holder, 2 a side, new", "Jab, on pads, 2 a side, new", "Knee, on pads, 6 times, grown", "Knee, 9 times, grown", "Elbow, on the bag, 5 a side, new", "Elbow, 7 a side, new"}, said(sheet))
	first := sheet.Lines[0]
	assert.Equal(t, "Stances", first.Section, "the earliest place")
	assert.Equal(t, 3, first.Weight)
	assert.True(t, first.MustPass)
	assert.Equal(t, []string{"Jab, 5 a side", "Jab, 8 a side"}, first.Covers)
	assert.False(t, sheet.Lines[5].Bonus || !sheet.Lines[6].Bonus, "what cannot fail folds with its like alone")
}

// Rule 5: samples are drawn after folding, with the seed; knowledge for each candidate.
func TestRule5Samples(t *testing.T) {
	b := ladder(t, `
White
	Strikes
	A1, from Pool
	A2, from Pool
	A3, from Pool
	A4, from Pool
	Old one, from Old
	Old two, from Old
Yellow
	Strikes
	A1, 5 a side
	Knowledge
	Q1, from Pool
	Q2, from Pool
	Q3, from Pool
	Q4, from Pool
`)
	calls := func(a Asking) string {
		var out []string
		for _, l := range b.Compile(a).Lines {
			out = append(out, l.Call)
		}
		return strings.Join(out, " ")
	}
	white := b.Compile(Asking{RungID: "white", Seed: 7})
	assert.Len(t, white.Lines, 4, "two of four, and outright what is new of the other group")
	assert.Len(t, white.LeftOut, 2)
	yellow := Asking{RungID: "yellow", Seed: 7}
	assert.Contains(t, calls(yellow), "A1", "asked outright, it is out of the pool")
	assert.Len(t, b.Compile(yellow).Lines, 1+2+1)
	assert.Equal(t, calls(yellow), calls(yellow))
	different := map[string]bool{}
	for seed := range uint64(20) {
		different[calls(Asking{RungID: "yellow", Seed: seed})] = true
	}
	assert.Greater(t, len(different), 5, "another seed draws others")
	candidates := map[string]bool{}
	for i := range 20 {
		candidates[calls(Asking{RungID: "yellow", Seed: 7, Candidate: fmt.Sprint(i)})] = true
	}
	assert.Greater(t, len(candidates), 2, "questions differ between candidates")
	techniques := ladder(t, "White\n\tStrikes\n\tA1, from Pool\n\tA2, from Pool\n\tA3, from Pool")
	assert.Equal(t, techniques.Compile(Asking{RungID: "white", Seed: 3, Candidate: "x"}), techniques.Compile(Asking{RungID: "white", Seed: 3, Candidate: "y"}), "techniques are drawn for all")
	for _, l := range white.Lines[:2] {
		assert.Contains(t, l.Why, Why{Kind: WhyDrawn, N: 2, Of: 4, Group: "Pool", Seed: 7})
	}
}

// Rule 6: order, call, what to look for, reps, seconds.
func TestRule6Lines(t *testing.T) {
	b := ladder(t, `
White
	Blocks
	Low, 2 a side
	Low Bridge, 3 a side, as attacker (gently)
	Strikes
	Lower Weir, once
	Jab, 10 a side
	Light sparring, 3 x 60 s, 30 s rest
	Bow, once
	Palm, 4 alternating, slowly, on pads
	Press-ups, 20 in 60 s
	Crane, 3 holds of 10 s
`, func(c *Curriculum) {
		for name, kind := range map[string]Kind{"lower-weir": "form", "light-sparring": "sparring", "bow": "courtesy", "low-bridge": "throw"} {
			technique(c, name).Kind = kind
		}
		x := technique(c, "low-bridge")
		x.Cautions, x.AttackMoves, x.AttackerLooks = []string{"mats"}, "step through rear palm high", []string{"distance"}
		c.Requirements[5].AtOnce, c.Requirements[8].Looks = 1, 4
	})
	type row struct {
		call    string
		reps    int
		seconds int
	}
	sheet := b.Compile(Asking{RungID: "white", Group: 3})
	var got []row
	total := 0
	for _, l := range sheet.Lines {
		got = append(got, row{l.Call, l.RepsCalled, l.Seconds})
		total += l.Seconds
	}
	assert.Equal(t, []row{
		{"Lower Weir", 1, 12 + 60},
		{"Jab", 10, 12 + 2*10*2},
		{"Light sparring", 0, 12 + 3*60 + 2*30},
		{"Bow", 1, 12 + 15*3},          // each candidate's turn
		{"Palm, on pads", 6, 12 + 6*2}, // two looks for each of three
		{"Press-ups", 0, 12 + 60},
		{"Crane", 3, 12 + 3*10},
		{"Low block", 6, 12 + 2*6*2},
		{"Low Bridge, attacker", 6, 12 + 2*6*12},
	}, got)
	assert.Equal(t, total, sheet.Seconds)
	assert.Equal(t, (total+59)/60, sheet.Minutes())
	last := sheet.Lines[8]
	assert.Equal(t, "gently", last.Detail)
	assert.Equal(t, []string{"distance"}, last.Checkpoints, "the attacker is looked at too")
	assert.Equal(t, []StripMove{{What: "rear palm", How: "step through · high", Feet: "the other foot leads", Count: 1}}, plain(last.Moves))
	assert.Equal(t, []string{"mats", "Breakfalls first, mats, matched partners, supervised."}, last.Cautions)
	assert.True(t, sheet.Lines[4].Slow)
	assert.Equal(t, 6, b.Compile(Asking{RungID: "white", Group: 2}).Lines[4].RepsCalled-b.Compile(Asking{RungID: "white", Group: 1}).Lines[4].RepsCalled+6, "four asked are enough for two looks of two")
}

// TestLawsOfSheets draws curricula and expects of every sheet: no stage above its rung, no
// line twice, nothing the track leaves out, what is covered is gone, and the same again for
// the same seed.
func TestLawsOfSheets(t *testing.T) {
	golden.Alone(t)
	rapid.Check(t, func(t *rapid.T) {
		var text strings.Builder
		rungs := rapid.IntRange(1, 6).Draw(t, "rungs")
		for r := range rungs {
			fmt.Fprintf(&text, "R%d\n\tStrikes\n", r)
			for range rapid.IntRange(0, 6).Draw(t, "lines") {
				carry := rapid.SampledFrom([]string{"", ", always", ", from Pool", ", from Old", fmt.Sprintf(", until R%d", min(r+1, r))}).Draw(t, "carry")
				fmt.Fprintf(&text, "\tT%d, %d a side%s%s%s\n", rapid.IntRange(0, 4).Draw(t, "t"), rapid.IntRange(1, 9).Draw(t, "n"), carry,
					rapid.SampledFrom([]string{"", ", on pads", ", with a partner, covers settings"}).Draw(t, "setting"), rapid.SampledFrom([]string{"", ", must", ", bonus", ", again"}).Draw(t, "more"))
			}
		}
		b := ladder(t, text.String(), func(c *Curriculum) {
			for i := range c.Techniques {
				for n := range rapid.IntRange(0, 3).Draw(t, "stages") {
					c.Techniques[i].Stages = append(c.Techniques[i].Stages, Stage{RungID: c.Rungs[rapid.IntRange(0, rungs-1).Draw(t, "rung")].ID, Does: Appends, Steps: []Step{{Moves: fmt.Sprint("step ", n, ".")}}})
				}
			}
			for i := range c.Requirements {
				if rapid.Bool().Draw(t, "left out") {
					c.Requirements[i].Tracks = []TrackChange{{TrackID: "cubs", LeaveOut: true}}
				}
			}
		})
		for i, r := range b.Rungs {
			for _, track := range []string{"", "cubs", "adults"} {
				a := Asking{RungID: r.ID, TrackID: track, Seed: uint64(i), Group: 2}
				sheet := b.Compile(a)
				require.Equal(t, sheet, b.Compile(a))
				seen, folded := map[string]bool{}, map[string]bool{}
				for _, l := range sheet.Lines {
					x := b.Technique(l.TechniqueID)
					if l.Stage > 0 {
						if from := x.Stages[l.Stage-1].RungID; from != "" {
							require.LessOrEqual(t, b.Place(from), i)
						}
					}
					require.False(t, seen[l.RequirementID], "a line twice")
					seen[l.RequirementID] = true
					var r *Requirement
					for k := range b.Requirements {
						if b.Requirements[k].ID == l.RequirementID {
							r = &b.Requirements[k]
						}
					}
					require.False(t, track != "" && LeavesOut(r, track))
					require.False(t, l.MustPass && l.Bonus)
					if key := fmt.Sprint(l.TechniqueID, l.Role, l.Setting, l.Quantity.Measure, l.Quantity.Side, l.Bonus, l.Slow, l.NonStop, l.Entry, l.Free); !r.ShowAgain {
						require.False(t, folded[key], "two lines that fold into one")
						folded[key] = true
					}
				}
			}
		}
	})
}

// TestOneOfAGroup: what is told of a candidate whose line differs from the one that is
// called, and what counts at a rung.
func TestOneOfAGroup(t *testing.T) {
	called := Line{Quantity: Quantity{Measure: RepsPerSide, Reps: 5}, Stage: 3, Stages: 3, Level: notation.Mid}
	hip := &Adapted{Now: "2 a side", Was: "5 a side", Reason: "hip"}
	for want, change := range map[Otherwise]func(*Line){
		{}:                               func(*Line) {},
		{Amount: "3 a side"}:             func(l *Line) { l.Quantity.Reps = 3 },
		{Part: 1, Of: 3}:                 func(l *Line) { l.Stage = 1 },
		{Level: notation.Low}:            func(l *Line) { l.Level = notation.Low },
		{Bonus: true}:                    func(l *Line) { l.Bonus = true },
		{Adapted: hip}:                   func(l *Line) { l.Adapted = hip },
		{Amount: "once", Part: 2, Of: 3}: func(l *Line) { l.Quantity, l.Stage = Quantity{Measure: RepsInAll, Reps: 1}, 2 },
	} {
		own := called
		change(&own)
		assert.Equal(t, want, own.Unlike(called))
	}
}
