package curriculum_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

// What the ladder check finds, at its bounds.

// TestWhatHoldsUpTheLadder: kit, sparring, stages and grades from rung to rung.
func TestWhatHoldsUpTheLadder(t *testing.T) {
	b := Open(Curriculum{Program: Program{ProgramDetails: ProgramDetails{PermanentFrom: "c"}}, Rungs: []Rung{
		{ID: "a", RungDetails: RungDetails{Kit: []string{"belt"}}}, {ID: "b", RungDetails: RungDetails{Kit: []string{"gloves", "belt"}, Sparring: &SparringRule{Limbs: "hands"}}}, {ID: "c"}, {ID: "d", RungDetails: RungDetails{Kit: []string{"helmet"}, Sparring: &SparringRule{Limbs: "all"}}}}})
	assert.Equal(t, [][]string{{"belt"}, {"belt", "gloves"}, {"belt", "gloves"}, {"belt", "gloves", "helmet"}, nil}, [][]string{b.KitOf("a"), b.KitOf("b"), b.KitOf("c"), b.KitOf("d"), b.KitOf("x")})
	assert.Nil(t, b.SparringOf("a"))
	assert.Nil(t, b.SparringOf("x"))
	assert.Equal(t, []string{"hands", "hands", "all"}, []string{b.SparringOf("b").Limbs, b.SparringOf("c").Limbs, b.SparringOf("d").Limbs})
	assert.Equal(t, []bool{true, true, false, false, false}, []bool{b.Provisional("a"), b.Provisional("b"), b.Provisional("c"), b.Provisional("d"), b.Provisional("x")})
	b.Program.PermanentFrom = ""
	assert.False(t, b.Provisional("a"))
	x := &Technique{TechniqueDetails: TechniqueDetails{Stages: []Stage{{RungID: "b"}, {RungID: "b"}, {RungID: "d"}, {RungID: "gone"}}}}
	assert.Equal(t, []int{0, 2, 2, 3}, []int{b.StageAt(x, 0), b.StageAt(x, 1), b.StageAt(x, 2), b.StageAt(x, 3)})
	assert.Equal(t, []string{"b", "d", ""}, []string{b.Above("a").ID, b.Above("c").ID, func() string {
		if b.Above("d") != nil || b.Above("x") != nil {
			return "above the top"
		}
		return ""
	}()})
	assert.Equal(t, []int{0, 1, 1, 2, 2}, []int{TestSheet{}.Minutes(), TestSheet{Seconds: 1}.Minutes(), TestSheet{Seconds: 60}.Minutes(), TestSheet{Seconds: 61}.Minutes(), TestSheet{Seconds: 120}.Minutes()})
	assert.Equal(t, Otherwise{Amount: "once"}, Line{Quantity: Quantity{Measure: RepsInAll, Reps: 1}, Stage: 1}.Unlike(Line{Stage: 2, Level: notation.Low}), "no parts, no height")
	assert.Equal(t, Otherwise{Part: 1, Of: 1}, Line{Stage: 1, Stages: 1}.Unlike(Line{Stage: 2, Stages: 2}))
	assert.Equal(t, Otherwise{NoBonus: true}, Line{}.Unlike(Line{Bonus: true}))
}

// loads makes a ladder of rungs that ask for so many lines of so many seconds.
func loads(rungs ...[2]int) *Book {
	c := Curriculum{Program: Program{ID: "p", Name: "P"}, Sections: []Section{{ID: "s", Name: "All", Kind: "strike"}}}
	for i, x := range rungs {
		id := fmt.Sprint("r", i)
		c.Rungs = append(c.Rungs, Rung{ID: id, Name: id})
		for n := range x[0] {
			name := fmt.Sprint("t", i, "-", n)
			c.Techniques = append(c.Techniques, Technique{ID: name, Name: name, Kind: "fitness", Cautions: []string{"fitness: rest"}})
			c.Requirements = append(c.Requirements, Requirement{ID: "q" + name, RungID: id, SectionID: "s", TechniqueID: name, Weight: 1, Role: "performer", Quantity: Quantity{Measure: Timed, Seconds: x[1]}})
		}
	}
	return Open(c)
}

// TestJumpsInLoad: more than twice a neighbour's lines or minutes, and not of small rungs.
func TestJumpsInLoad(t *testing.T) {
	jumps := func(b *Book) (out []string) {
		for _, f := range b.Check() {
			if f.Kind == LoadJump {
				out = append(out, placeOf(f)+": "+restsOn(f))
			}
		}
		return out
	}
	const lead = 12 // seconds a line takes beside its work
	for _, x := range []struct {
		rungs [][2]int
		want  []string
	}{
		{[][2]int{{9, 1}, {3, 1}, {6, 1}}, nil}, // twice is not more than twice; the lowest is not looked at
		{[][2]int{{0, 0}, {3, 1}, {7, 1}}, []string{"r2: lines jump r1 7 3"}},
		{[][2]int{{0, 0}, {7, 1}, {3, 1}}, []string{"r1: lines jump r2 7 3"}},
		{[][2]int{{0, 0}, {2, 1}, {5, 1}}, nil}, // too few to mean much
		{[][2]int{{0, 0}, {2, 1}, {6, 1}}, []string{"r2: lines jump r1 6 2"}},
		{[][2]int{{0, 0}, {0, 1}, {6, 1}}, nil}, // nothing asked is a finding of its own
		{[][2]int{{0, 0}, {6, 1}, {0, 1}, {2, 1}, {6, 1}}, []string{"r4: lines jump r3 6 2"}},
		{[][2]int{{0, 0}, {1, 300 - lead}, {1, 600 - lead}}, nil},
		{[][2]int{{0, 0}, {1, 299 - lead}, {1, 599 - lead}}, nil},
		{[][2]int{{0, 0}, {1, 299 - lead}, {1, 600 - lead}}, []string{"r2: minutes jump r1 10 5"}},
		{[][2]int{{0, 0}, {1, 600 - lead}, {1, 299 - lead}}, []string{"r1: minutes jump r2 10 5"}},
		{[][2]int{{0, 0}, {2, 400}, {1, 300 - lead}}, []string{"r1: minutes jump r2 14 5"}},
	} {
		assert.Equal(t, x.want, jumps(loads(x.rungs...)), x.rungs)
	}
}

// TestPassMarksAtTheirEnds: a mark that all points just reach can be reached, and one above the
// lowest marks can be missed.
func TestPassMarksAtTheirEnds(t *testing.T) {
	kinds := func(points scoring.Decimal, weight int) (out []FindingKind) {
		b := loads([2]int{1, 9}, [2]int{2, 9})
		policy := scoring.MovementScale()
		policy.Rules.Threshold, policy.Rules.SectionMinima = &points, nil
		policy.Scale.Lowest, policy.Scale.Highest = scoring.Whole(1), scoring.Whole(4)
		c := b.Curriculum
		c.Program.Marking, c.Program.Policy = MovementScale, &policy
		c.Requirements[1].Weight, c.Requirements[2].Bonus = weight, true
		for _, f := range Open(c).Check() {
			if f.Kind == MarkOutOfReach || f.Kind == MarkCannotFail {
				out = append(out, f.Kind)
			}
		}
		return out
	}
	assert.Empty(t, kinds(scoring.Whole(4), 1))
	assert.Equal(t, []FindingKind{MarkOutOfReach}, kinds(scoring.Whole(4)+1, 1))
	assert.Equal(t, []FindingKind{MarkCannotFail}, kinds(scoring.Whole(1), 1))
	assert.Empty(t, kinds(scoring.Whole(1)+1, 1))
	assert.Empty(t, kinds(scoring.Whole(12), 3))
	assert.Equal(t, []FindingKind{MarkCannotFail}, kinds(scoring.Whole(3), 3))
}

// TestFindingsOnce: a hole is one finding however often the steps around it are read, and two
// holes are two.
func TestFindingsOnce(t *testing.T) {
	of := func(change func(*Technique, *Curriculum)) (out []string) {
		b := school(func(c *Curriculum) {
			x := Technique{ID: "odder", Name: "Odder", Kind: "self_defence", TechniqueDetails: TechniqueDetails{AttackMoves: "right jab, left jab"}}
			change(&x, c)
			c.Techniques = append(c.Techniques, x)
		})
		for _, f := range b.Check() {
			if f.TechniqueID == "odder" {
				out = append(out, string(f.Kind)+" "+placeOf(f))
			}
		}
		return out
	}
	steps := func(lines ...string) []Stage {
		out := []Stage{{Does: Appends, Steps: ParseSteps(lines)}}
		for range 2 {
			out = append(out, Stage{Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"cross"})})
		}
		return out
	}
	assert.Equal(t, []string{"unreadable Odder, stage 1, step 1", "unreadable Odder, stage 1, step 3"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("jap", "jab", "crox") }))
	assert.Equal(t, []string{"in_doubt Odder, stage 1, step 1", "in_doubt Odder, stage 1, step 2"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("Rear jab.", "Rear cross.") }))
	assert.Equal(t, []string{"relation_open Odder, stage 1, step 1"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("same-side jab; the jab", "rear cross") }))
	assert.Equal(t, []string{"says_side Odder, stage 1, step 1", "says_side Odder, stage 1, step 2"}, of(func(x *Technique, _ *Curriculum) {
		x.AttackMoves, x.Stages = "", steps("Left hand high.", "Right hand low.")
	}))
	assert.Empty(t, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("Left hand high.") }), "the attack names its limbs, and so the answer is never mirrored")
	assert.Len(t, of(func(x *Technique, _ *Curriculum) { x.AttackMoves, x.Stages = "rear jab", steps("Left hand high.") }), 1, "it is mirrored for a southpaw attacker")
	for _, fixed := range []func(*Technique){func(x *Technique) { x.Kind = "form" }, func(x *Technique) { x.Sides = LeftOnly }, func(x *Technique) { x.Sides = RightOnly }} {
		assert.Empty(t, of(func(x *Technique, _ *Curriculum) {
			x.AttackMoves, x.Stages = "", steps("Left hand high.")
			fixed(x)
		}), "what is never mirrored may say left and right")
	}
	assert.Equal(t, []string{"read_otherwise Odder, stage 1, step 2"}, of(func(x *Technique, c *Curriculum) {
		c.Program.ReadAnew = true
		x.AttackMoves, x.Stages = "", steps("lead jab", "lead jab turn cw 180")
	}))
	for n, want := range map[int][]string{1: nil, 2: {"one_sided Odder"}} {
		for _, side := range []string{"left", "right"} {
			line := strings.TrimSuffix(strings.Repeat(side+" jab, ", n), ", ")
			form := func(moves string) []string {
				return of(func(x *Technique, _ *Curriculum) {
					x.Kind, x.AttackMoves, x.Stages = "form", "", []Stage{{Does: Appends, Steps: ParseSteps([]string{moves})}}
				})
			}
			assert.Equal(t, want, form(line), line)
			assert.Empty(t, form(line+", "+map[string]string{"left": "right", "right": "left"}[side]+" jab"), line)
		}
	}
	assert.Equal(t, []string{"stage_gone Odder, stage 2", "stage_gone Odder, stage 3", "stage_gone Odder"}, of(func(x *Technique, _ *Curriculum) {
		x.Stages = []Stage{{Does: Appends, Steps: ParseSteps([]string{"jab"})}, {Does: Appends, Steps: ParseSteps([]string{"jab"})}, {Does: Attaches, RungID: "yellow", Attached: "gone"}, {Does: Attaches, RungID: "yellow", Attached: "jab"}}
		x.Branches = []Branch{{When: "far", Then: BreakOff}, {When: "near", Then: GoTo, TechniqueID: "gone"}}
	}))
	assert.Equal(t, []string{"stage_order Odder, stage 3"}, of(func(x *Technique, c *Curriculum) {
		c.Rungs = append(c.Rungs, Rung{ID: "orange", Name: "Orange"})
		x.Stages = []Stage{{Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "orange", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "orange", Steps: ParseSteps([]string{"jab"})}}
	}), "together on one rung is in order")
}

// TestSeriesAtTheirRungs: a number may come again at another rung; without a rung it may not.
func TestSeriesAtTheirRungs(t *testing.T) {
	of := func(rungs ...string) (out []string) {
		c := Curriculum{Program: Program{ID: "p", Name: "P"}, Sections: []Section{{ID: "s", Name: "All", Kind: "strike"}}, Rungs: []Rung{{ID: "a", Name: "A"}, {ID: "b", Name: "B"}}}
		for i, r := range rungs {
			id := fmt.Sprint("t", i)
			c.Techniques = append(c.Techniques, Technique{ID: id, Name: id, Kind: "strike", TechniqueDetails: TechniqueDetails{Series: []string{"Drill", "drill"}[i%2], Number: 4}})
			if r != "" {
				c.Requirements = append(c.Requirements, Requirement{ID: "q" + id, RungID: r, SectionID: "s", TechniqueID: id, Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 1}})
			}
		}
		for _, f := range Open(c).Check() {
			if f.Kind == NumberTwice || f.Kind == NumberMissing {
				out = append(out, restsOn(f))
			}
		}
		return out
	}
	assert.Empty(t, of("a", "b"))
	assert.Empty(t, of("a", ""))
	assert.Equal(t, []string{"t0 t1 A"}, of("a", "a"))
	assert.Equal(t, []string{"t0 t1"}, of("", ""))
	assert.Equal(t, []string{"t0 t1 A", "t0 t2 A"}, of("a", "a", "a"))
}

// TestYoungTracks: who is asked for what suits older students, or is risky for the young.
func TestYoungTracks(t *testing.T) {
	of := func(change func(*Technique, *Curriculum)) (out []string) {
		b := loads([2]int{0, 0}, [2]int{1, 9})
		c := b.Curriculum
		c.Program.Tracks = []Track{{ID: "cubs", Name: "Cubs", Young: true}, {ID: "juniors", Name: "Juniors", Young: true}, {ID: "adults", Name: "Adults"}}
		change(&c.Techniques[0], &c)
		for _, f := range Open(c).Check() {
			if f.Kind == RiskyYoung {
				out = append(out, f.Subject)
			}
		}
		return out
	}
	assert.Empty(t, of(func(*Technique, *Curriculum) {}))
	for youngest, want := range map[string][]string{"": nil, "cubs": nil, "juniors": {"cubs"}, "adults": {"cubs", "juniors"}} {
		assert.Equal(t, want, of(func(x *Technique, _ *Curriculum) { x.YoungestTrack = youngest }), youngest)
	}
	assert.Equal(t, []string{"cubs", "juniors"}, of(func(x *Technique, _ *Curriculum) { x.Cautions = []string{"choke: slowly"} }))
	assert.Equal(t, []string{"cubs", "juniors"}, of(func(x *Technique, _ *Curriculum) { x.Kind = "lock" }))
	assert.Empty(t, of(func(x *Technique, _ *Curriculum) { x.Kind = "throw" }))
	assert.Equal(t, []string{"juniors"}, of(func(x *Technique, c *Curriculum) { x.Kind, c.Program.Tracks[0].AllowsRisk = "lock", true }))
	assert.Equal(t, []string{"juniors"}, of(func(x *Technique, c *Curriculum) {
		x.Kind, c.Requirements[0].Tracks = "lock", []TrackChange{{TrackID: "cubs", LeaveOut: true}}
	}))
}
