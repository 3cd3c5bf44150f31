package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/body"
	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// floorBook is a program that draws to scale: its own front stance is longer than the usual one.
func floorBook(t *testing.T, change ...func(*Curriculum)) *Book {
	c := Curriculum{Program: Program{ID: "p", Name: "Floor"}, Techniques: []Technique{
		{ID: "front", Name: "Front stance", Kind: "stance", TechniqueDetails: TechniqueDetails{Stance: &floor.Definition{Width: 100, Length: 200, OnLead: 60, BendLead: floor.Computed, BendRear: 10}}},
		{ID: "heron", Name: "Heron stance", Kind: "stance"},
		{ID: "mill", Name: "Mill stance", Kind: "stance", TechniqueDetails: TechniqueDetails{Feet: notation.SideBySide}},
		{ID: "punch", Name: "Lunge punch", Kind: "strike"}, {ID: "cross", Name: "Cross", Kind: "strike"}, {ID: "hook", Name: "Hook", Kind: "strike"},
		{ID: "in", Name: "Inward block", Kind: "block"}, {ID: "out", Name: "Outward block", Kind: "block"},
		{ID: "weir", Name: "The Weir", Kind: "form", TechniqueDetails: TechniqueDetails{Returns: true, Stages: []Stage{{Does: Appends, Steps: []Step{
			{Moves: "from ready stance: left step in front stance turn ccw 90 / step through"}, {Moves: "Breathe out slowly."}, {Moves: "right step turn cw 180 / step through"}, {Moves: "left step turn ccw 90 in ready stance"}}}}}},
		{ID: "gate", Name: "The Gate", Kind: "self_defence", TechniqueDetails: TechniqueDetails{AttackMoves: "step through right lunge punch in front stance / left hook", Position: "outside",
			Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "from ready stance: left step back + right outward block"}, {Moves: "left inward block", Answers: "the hook"}, {Moves: "rear cross"}}}}}},
	}}
	for _, f := range change {
		f(&c)
	}
	b := Open(c)
	require.NoError(t, b.Collision)
	return b
}

// TestALineByItself: moves typed by themselves are followed for either stance, as written in lead and rear.
func TestALineByItself(t *testing.T) {
	b := floorBook(t)
	of := body.PartsOf(body.Measured{HeightCM: 170})
	for v, want := range map[View][2]string{AsWritten: {"lead cross", "right"}, Orthodox: {"right cross", "right"}, Southpaw: {"left cross", "left"}} {
		f := b.LineOnFloor("step through lead cross", v, of)
		require.NotNil(t, f, v)
		assert.Equal(t, want, [2]string{f.Strip[0].What, string(f.Path.Frames[1].Limbs[0])}, v)
	}
	assert.Nil(t, b.LineOnFloor("step through lead nobody's", Orthodox, of), "what cannot be read")
	assert.Nil(t, (&Book{}).LineOnFloor("lead cross", Orthodox, of))
}

// TestStancesOfAProgram: the school's own before the usual one; what nobody defines stands by its feet.
func TestStancesOfAProgram(t *testing.T) {
	b := floorBook(t)
	of := body.PartsOf(body.Measured{HeightCM: 170})
	find := b.Stances(of)
	for name, want := range map[string][2]float64{"Front stance": {1, 2}, "front": {1, 2}, "Heron stance": {1, 1.25}, "Mill stance": {1, 0}, "horse stance": {2, 0}, "back stance": {0, 1.5}, "fighting stance": {1, 1.25}, "nobody's": {1, 1.25}} {
		s, known := find(name)
		assert.True(t, known)
		assert.InDelta(t, want[0], s.Width, 1e-9, name)
		assert.InDelta(t, want[1], s.Length, 1e-9, name)
		assert.Equal(t, want[1] == 0, s.Level, name)
	}
	_, own, known := b.StanceOf(b.Technique("front"))
	assert.True(t, own && known)
	_, own, known = b.StanceOf(b.Technique("heron"))
	assert.False(t, own || known)
}

// TestAFormOnTheFloor: each frame knows its cell of the strip, a step in words has none, and the end is told.
func TestAFormOnTheFloor(t *testing.T) {
	b := floorBook(t)
	of := body.PartsOf(body.Measured{HeightCM: 170})
	f := b.OnFloor(b.Technique("weir"), 1, AsWritten, AsWritten, of)
	require.NotNil(t, f)
	assert.Equal(t, []int{-1, 0, 1, 2, 3, 4, 5}, f.Cells, "a sentence moves nobody, and has a frame of its own")
	assert.True(t, f.Strip[2].Sentence)
	assert.Equal(t, f.Path.Frames[2].Stand.Feet, f.Path.Frames[3].Stand.Feet)
	assert.InDelta(t, 0, f.Path.Frames[6].Stand.Facing, 1e-9)
	// Never mirrored for a person.
	other := b.OnFloor(b.Technique("weir"), 1, Southpaw, AsWritten, of)
	assert.Equal(t, f.Path.Frames[6].Stand.Feet, other.Path.Frames[6].Stand.Feet)
	// A combination is.
	combo := Technique{ID: "c", Name: "Combo", Kind: "combination", Note: "step through lead cross"}
	l, r := b.OnFloor(&combo, 0, Orthodox, AsWritten, of), b.OnFloor(&combo, 0, Southpaw, AsWritten, of)
	assert.InDelta(t, l.Path.Frames[1].Stand.Feet[floor.Left].Heel.X, -r.Path.Frames[1].Stand.Feet[floor.Right].Heel.X, 1e-9)
	words := Technique{ID: "n", Name: "N", Kind: "form", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "Bow to the front. Look left."}}}}}}
	assert.Nil(t, b.OnFloor(&words, 1, AsWritten, AsWritten, of), "words move nobody")
	assert.False(t, b.Travels(&words))
	step := Technique{ID: "s", Name: "S", Kind: "form", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "step through"}}}}}}
	assert.Len(t, b.MarkWay(&step), 2, "from one place to another")
	still := Technique{ID: "still", Name: "Still", Kind: "form", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "lead cross"}}}}}}
	assert.Nil(t, b.MarkWay(&still), "on the spot")
	assert.True(t, b.Travels(&combo))
}

// TestADefenceOnTheFloor: each step meets the move it names, the others the next one, and what is stated is held against the floor.
func TestADefenceOnTheFloor(t *testing.T) {
	of := body.PartsOf(body.Measured{HeightCM: 170})
	b := floorBook(t)
	m := b.Meet(b.Technique("gate"), 1, Orthodox, Orthodox, of, of)
	require.NotNil(t, m)
	assert.Equal(t, []int{0, 1, 2, 2}, m.Pair.With)
	assert.True(t, m.ByHand)
	assert.Equal(t, floor.Outside, m.Side, "the right hand outward against a right punch")
	assert.False(t, m.Opposite)
	assert.Equal(t, "Cross", m.Moments[3].Touches[0].Name)
	for change, want := range map[string][]int{"the lunge punch": {0, 1, 2, 2}, "the hook": {0, 2, 2, 2}, "the thumb opens": {0, 1, 2, 2}} {
		b = floorBook(t, func(c *Curriculum) { technique(c, "gate").Stages[0].Steps[0].Answers = change })
		assert.Equal(t, want, b.Meet(b.Technique("gate"), 1, Orthodox, Orthodox, of, of).Pair.With, change)
	}
	// A southpaw attacker throws the same punch: it names its limbs. Against a lead or rear punch the stated side is not held.
	b = floorBook(t, func(c *Curriculum) {
		technique(c, "gate").AttackMoves = "slide rear lunge punch"
		technique(c, "gate").Stages[0].Steps[1].Answers = ""
		technique(c, "gate").Stages[0].Steps[0].Moves = "left inward block"
	})
	for _, attacker := range []View{Orthodox, Southpaw} {
		m := b.Meet(b.Technique("gate"), 1, Orthodox, attacker, of, of)
		assert.Equal(t, floor.Outside, m.Side, attacker)
	}
	assert.Nil(t, b.Meet(b.Technique("weir"), 1, Orthodox, Orthodox, of, of))
	// Typed, the two begin as far apart as that.
	b = floorBook(t, func(c *Curriculum) { technique(c, "gate").StartApart = 180 })
	assert.InDelta(t, 1800, b.Meet(b.Technique("gate"), 1, Orthodox, Orthodox, of, of).Start, 1e-9)
}

// TestActs: what a technique does across the distance, and which way a block goes, by its kind and name.
func TestActs(t *testing.T) {
	for _, x := range []struct {
		kind, name string
		act        floor.Act
		sweep      floor.Sweep
	}{
		{"strike", "Jab", floor.Punch, ""}, {"strike", "Rising elbow", floor.Elbow, ""}, {"kick", "Jumping front kick", floor.FrontKick, ""}, {"kick", "Round kick", floor.Kick, ""}, {"kick", "Rising knee", floor.Elbow, ""},
		{"block", "Low block", floor.Block, floor.Down}, {"block", "Inward block", floor.Block, floor.Inward}, {"block", "Outside forearm block", floor.Block, floor.Outward}, {"block", "Rising block", floor.Block, floor.Upward}, {"block", "Cross block", floor.Block, ""},
		{"lock", "Wrist lock", floor.Hold, ""}, {"throw", "Sweep", floor.Hold, ""}, {"stance", "Front stance", "", ""}, {"form", "Low road", "", ""},
	} {
		y := Technique{Kind: Kind(x.kind), Name: x.name}
		assert.Equal(t, x.act, y.Act(), x.name)
		assert.Equal(t, x.sweep, y.SweepOf(), x.name)
	}
	y := Technique{Kind: "block", Name: "Low block", TechniqueDetails: TechniqueDetails{Sweep: floor.Outward}}
	assert.Equal(t, floor.Outward, y.SweepOf(), "as said")
}

// TestFloorFindings: a form that ends elsewhere, a stance nobody can stand in, and the other side of the arm.
func TestFloorFindings(t *testing.T) {
	found := func(kind FindingKind, change ...func(*Curriculum)) (out []string) {
		for _, f := range floorBook(t, change...).Check() {
			if f.Kind == kind {
				out = append(out, placeOf(f)+": "+restsOn(f))
			}
		}
		return out
	}
	assert.Equal(t, []string{"The Weir: ends 0 -855"}, found(EndsElsewhere))
	assert.Empty(t, found(EndsElsewhere, func(c *Curriculum) { technique(c, "weir").Returns = false }))
	assert.Empty(t, found(ArmOpposite))
	assert.Equal(t, []string{"The Gate: outside inside"}, found(ArmOpposite, func(c *Curriculum) { technique(c, "gate").Position = "inside" }))
	assert.Empty(t, found(StanceCannot))
	assert.Equal(t, []string{"Front stance: heel"}, found(StanceCannot, func(c *Curriculum) { technique(c, "front").Stance.Length = 300 }))
	assert.Equal(t, []string{"Front stance: feet"}, found(StanceCannot, func(c *Curriculum) { technique(c, "front").Stance.Length, technique(c, "front").Stance.Width = 30, 0 }))
}

// TestFloorFieldsAreChecked: a stance's measures belong to stances, and a level one has no length.
func TestFloorFieldsAreChecked(t *testing.T) {
	d := floor.Usual["front"]
	for field, x := range map[string]Technique{
		"stance":      {Name: "Jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Stance: &d}},
		"length":      {Name: "Mill stance", Kind: "stance", TechniqueDetails: TechniqueDetails{Feet: notation.SideBySide, Stance: &d}},
		"sweep":       {Name: "Low block", Kind: "block", TechniqueDetails: TechniqueDetails{Sweep: "sideways"}},
		"start_apart": {Name: "Gate", Kind: "self_defence", TechniqueDetails: TechniqueDetails{StartApart: 501}},
	} {
		p := x.Check()
		assert.NotEmpty(t, p.Of(field), "%s: %v", field, p)
	}
	p := Technique{Name: "Front stance", Kind: "stance", TechniqueDetails: TechniqueDetails{Stance: &d}}.Check()
	assert.NoError(t, p.Err())
}
