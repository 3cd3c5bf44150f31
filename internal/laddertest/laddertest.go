// Package laddertest gives tests ladders of made-up schools, written as pages.
package laddertest

import (
	"fmt"
	"strings"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Ladder makes a curriculum from a line for each rung and, indented, its binder page. Ids
// are names without spaces, in small letters. change may do more to it before it is opened.
func Ladder(t require.TestingT, text string, change ...func(*curriculum.Curriculum)) *curriculum.Book {
	id := func(s string) string { return strings.ReplaceAll(strings.ToLower(s), " ", "-") }
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "program", Name: "Kenpo", ProgramDetails: curriculum.ProgramDetails{
		Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 6, Young: true}, {ID: "adults", Name: "Adults", From: 7}}, Groups: []curriculum.SampleGroup{{ID: "pool", Name: "Pool", Draw: 2}, {ID: "old", Name: "Old", Draw: 1, Outright: true}}}}}
	for _, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: "s-" + id(s), Name: s, Kind: curriculum.UsualKind(s)})
	}
	pages := map[string]string{}
	for line := range strings.Lines(text) {
		if line = strings.TrimRight(line, "\n"); strings.HasPrefix(line, "\t") {
			pages[c.Rungs[len(c.Rungs)-1].ID] += strings.TrimPrefix(line, "\t") + "\n"
		} else if line != "" {
			c.Rungs = append(c.Rungs, curriculum.Rung{ID: id(line), Kind: curriculum.Belt, Name: line, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})
		}
	}
	n := 0
	for _, r := range c.Rungs {
		b := curriculum.Open(c)
		next, err := binder.For(b).AddPage(r.ID, binder.For(b).ParsePage(pages[r.ID]), func() string { n++; return fmt.Sprint("new", n) })
		require.NoError(t, err)
		for i := range next.Techniques {
			x := &next.Techniques[i]
			if strings.HasPrefix(x.ID, "new") {
				for j := range next.Requirements {
					if next.Requirements[j].TechniqueID == x.ID {
						next.Requirements[j].TechniqueID = id(x.Name)
					}
				}
				x.ID = id(x.Name)
			}
		}
		c = next
	}
	for _, f := range change {
		f(&c)
	}
	return curriculum.Open(c)
}

// Technique is the technique of a curriculum with an id, nil where there is none.
func Technique(c *curriculum.Curriculum, id string) *curriculum.Technique {
	for i := range c.Techniques {
		if c.Techniques[i].ID == id {
			return &c.Techniques[i]
		}
	}
	panic(id)
}

const Simple = `
No belt
White
	Strikes
	Jab, 5 a side, always
	Cross, 5 a side, until Orange
	Elbow, 5 a side
Yellow
	Strikes
	Palm, 5 a side
Orange
	Strikes
	Jab, 8 a side
Green
	Kicks
	Knee, 5 a side
`

// Sound is a ladder without findings. Each kind of finding is one change away from it.
const Sound = `
White
	Strikes
	Jab, 5 a side
Yellow
	Strikes
	Jab, 10 a side
	Kicks
	Knee, 5 a side
	Hop knee, 5 a side
	Self-defence
	Wheel, 2 a side, as defender
	Lock, 3 a side
	Sparring
	Bout, 2 x 60 s
Orange
	Strikes
	Jab, 12 a side
	Kicks
	Knee, 8 a side
	Forms
	Weir, once
	Combinations
	Combination 1: lead jab, rear knee
	Combination 2: rear jab, lead knee
`

func Soundly(c *curriculum.Curriculum) {
	c.Program.Tracks[0].AllowsRisk = true
	Technique(c, "hop-knee").BuildsOn = []string{"knee"}
	Technique(c, "hop-knee").Modifiers = []curriculum.Modifier{"jumping"}
	Technique(c, "hop-knee").Cautions = []string{"jump: low first"}
	wheel := Technique(c, "wheel")
	wheel.Kind, wheel.Cautions = "self_defence", []string{"weapon: training clubs"}
	wheel.Attack = []curriculum.AttackElement{{Kind: "club", Side: "right", Origin: "front"}, {Kind: "push", Origin: "front"}}
	wheel.Position, wheel.Range = "outside", "middle"
	wheel.Stages = []curriculum.Stage{{RungID: "yellow", Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "lead jab"}}}, {RungID: "orange", Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "rear knee"}}}}
	wheel.Branches = []curriculum.Branch{{When: "too far", Then: curriculum.BreakOff}, {When: "bends", Then: curriculum.GoTo, TechniqueID: "lock"}}
	Technique(c, "lock").Kind = "lock"
	Technique(c, "lock").Cautions = []string{"joint: tap first"}
	Technique(c, "bout").Kind = "sparring"
	Technique(c, "bout").Cautions = []string{"sparring: stop word first"}
	Technique(c, "weir").Kind = "form"
	Technique(c, "weir").Stages = []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "left jab, right jab"}, {Moves: "left jab"}}}}
	for i := range 2 {
		x := Technique(c, fmt.Sprintf("combination-%d", i+1))
		x.Series, x.Number, x.Call = "Combination", i+1, i+1
	}
	c.Rungs[1].Kit = []string{"gloves"}
	c.Rungs[1].Sparring = &curriculum.SparringRule{Limbs: "hands", Targets: "body", Contact: "none"}
	policy := scoring.MovementScale()
	t := scoring.Whole(10)
	policy.Rules.Threshold = &t
	policy.Rules.SectionMinima = []scoring.SectionMinimum{{Section: "kicks", Ratio: scoring.Whole(1) / 2}}
	c.Program.Marking, c.Program.Policy = curriculum.MovementScale, &policy
}

// School is a curriculum written otherwise than the demo's: calls with left and right, a lock
// of sentences and moves, entries, a form with turns, a technique of one side.
func School(change ...func(*curriculum.Curriculum)) *curriculum.Book {
	step := func(lines ...string) []curriculum.Stage {
		return []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.ParseSteps(lines)}}
	}
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Reed"}, Sections: []curriculum.Section{{ID: "s", Name: "All", Kind: "strike"}}, Rungs: []curriculum.Rung{{ID: "white", Name: "White"}, {ID: "yellow", Name: "Yellow", RungDetails: curriculum.RungDetails{
		Common: []curriculum.Common{{Of: "All", Says: []string{"eyes up"}}, {Of: "mill drill", Says: []string{"no pause"}}}, Voice: curriculum.ShoutLast}}},
		Techniques: []curriculum.Technique{
			{ID: "jab", Name: "Jab", Kind: "strike", Checkpoints: []string{"elbow in"}, Faults: []curriculum.Fault{{Seen: "drops", Critical: true}}, Surfaces: []curriculum.Surface{{Context: "basics", Part: "two knuckles"}, {Context: "self-defence", Part: "palm"}}},
			{ID: "hop", Name: "Hopping jab", Kind: "strike", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"jumping"}, BuildsOn: []string{"jab"}}},
			{ID: "cross", Name: "Cross", Kind: "strike"}, {ID: "block", Name: "Inward block", Kind: "block"}, {ID: "slip", Name: "Slip", Kind: "evasion"}, {ID: "hold", Name: "Sleeve hold", Kind: "lock"},
			{ID: "horse", Name: "Millstone stance", Kind: "stance", Aliases: []string{"horse stance"}},
			{ID: "drill", Name: "Mill drill 12", Kind: "combination", TechniqueDetails: curriculum.TechniqueDetails{Series: "Mill drill", Number: 12, Stages: step("left jab, right cross to left ear (left side)", "x2 step through lead jab", "lead hold left.")}},
			{ID: "lock", Name: "Reed lock", Kind: "lock", TechniqueDetails: curriculum.TechniqueDetails{Success: []string{"rises"}, Stages: step("Take the wrist.", "lead sleeve hold keep", "Turn it out, slowly.", "step through rear sleeve hold", "Press behind the shoulder.!", "lead free", "Let go."),
				Entries: []curriculum.Entry{{Name: "Counter-grip", Steps: curriculum.ParseSteps([]string{"Lay the hand over it.", "rear sleeve hold"}), Success: []string{"the elbow lifts"}}, {Name: "Own start", Initiated: true}}}},
			{ID: "wheel", Name: "Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "lead jab, rear cross", Attack: []curriculum.AttackElement{{Kind: "straight punch", Origin: "front"}}, Position: "outside",
				Stages: step("same-side slip; the jab", "left step back, right inward block; the cross", "lead jab; the head drops")}},
			{ID: "gate", Name: "Gate", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "right cross", Attack: []curriculum.AttackElement{{Kind: "straight punch", Side: "right", Origin: "front"}}, Stages: step("left step back, right inward block")}},
			{ID: "push", Name: "Push away", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: "push", Side: "left", Origin: "front"}}, Stages: step("same-name inward block", "rear jab")}},
			{ID: "form", Name: "Weir", Kind: "form", TechniqueDetails: curriculum.TechniqueDetails{Stages: step("from ready: left step, right cross", "turn cw 180 right inward block in right front stance, step through left jab")}},
			{ID: "odd", Name: "Odd", Kind: "combination", TechniqueDetails: curriculum.TechniqueDetails{Sides: curriculum.LeftOnly, Stages: step("left jab, lead cross")}},
			{ID: "on", Name: "Onward", Kind: "combination", TechniqueDetails: curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"lead jab"})}, {Does: curriculum.Attaches, RungID: "white", Attached: "drill"}}}},
			{ID: "card", Name: "Card", Kind: "combination", Note: "rear jab, lead cross"},
			{ID: "broken", Name: "Broken", Kind: "combination", TechniqueDetails: curriculum.TechniqueDetails{Stages: step("lead jab", "do / whatever")}},
		}}
	for _, t := range c.Techniques {
		r := curriculum.Requirement{ID: "r-" + t.ID, RungID: "yellow", SectionID: "s", TechniqueID: t.ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}}
		if t.Kind == "self_defence" {
			r.Role = "defender"
		}
		c.Requirements = append(c.Requirements, r)
	}
	for _, f := range change {
		f(&c)
	}
	return curriculum.Open(c)
}
