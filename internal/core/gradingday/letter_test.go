package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

func marked(who string, marks ...int) scoring.Sheet {
	s := scoring.Sheet{Examiner: who}
	for _, m := range marks {
		if m < 0 {
			s.Marks = append(s.Marks, scoring.Mark{})
		} else {
			s.Marks = append(s.Marks, scoring.Seen(scoring.Whole(m)))
		}
	}
	return s
}

func TestLetterOf(t *testing.T) {
	test := scoring.Test{Items: []scoring.Item{{ID: "a", Label: "Jab"}, {ID: "b", Label: "Kick"}, {ID: "c", Label: "Form", MustPass: true}, {ID: "d", Label: "Bow"}, {ID: "e", Label: "Reed"}, {ID: "f", Label: "Weir"}},
		Sheets: []scoring.Sheet{marked("A", 4, 1, 1, 3, 2, 3), marked("B", 4, 1, 1, 3, 2, 3), marked("C", 0, 4, 1, 3, 2, -1)}}
	lines := [][]curriculum.Line{{}, {{Faults: []curriculum.Fault{{Seen: "knee low", Correction: "lift the knee first"}}}}, {{Checkpoints: []string{"heels down"}}}, {}, {}, {}}
	l := LetterOf(scoring.MovementScale(), test, lines, map[string][]string{"c": {"turn later"}}, nil)
	assert.Equal(t, []string{"Jab", "Bow", "Weir"}, l.Strong, "one odd examiner does not take the best away")
	require.Len(t, l.Mend, 2)
	require.Len(t, l.Next, 1, "what is sound is never called to be mended")
	assert.Equal(t, Mend{"Form", "not right yet", []string{"turn later"}}, l.Mend[0], "what must pass comes first")
	assert.Equal(t, Mend{"Kick", "not right yet", []string{"lift the knee first"}}, l.Mend[1])
	assert.Equal(t, "Reed", l.Next[0].What)
	// A fault that was seen comes first, with its own correction and no other's.
	lines[1][0].Faults = append(lines[1][0].Faults, curriculum.Fault{Seen: "heel lifts", Correction: "press it down"})
	l = LetterOf(scoring.MovementScale(), test, lines, map[string][]string{"b": {"slower"}}, map[string][]string{"b": {"heel lifts", "leans back"}})
	assert.Equal(t, Mend{"Kick", "not right yet", []string{"heel lifts: press it down", "leans back"}}, l.Mend[0])
	assert.Equal(t, "heel lifts: press it down", Mended("heel lifts", lines[1]))
	assert.Equal(t, "knee low", Mended("knee low", nil))
	top := LetterOf(scoring.MovementScale(), scoring.Test{Items: test.Items[:1], Sheets: []scoring.Sheet{marked("A", 4)}}, lines, nil, nil)
	assert.Equal(t, Letter{Strong: []string{"Jab"}}, top, "nothing to mend at the highest mark")
	assert.Equal(t, Letter{}, LetterOf(scoring.MovementScale(), scoring.Test{Items: test.Items[:1], Sheets: []scoring.Sheet{marked("A", -1)}}, lines, nil, nil), "nothing was seen")
}

func TestLawALetterPraisesNothingItMends(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 12).Draw(t, "items")
		test := scoring.Test{}
		for i := range n {
			test.Items = append(test.Items, scoring.Item{ID: string(rune('a' + i))})
		}
		for e := range rapid.IntRange(1, 5).Draw(t, "panel") {
			var marks []int
			for range n {
				marks = append(marks, rapid.IntRange(-1, 4).Draw(t, "mark"))
			}
			test.Sheets = append(test.Sheets, marked(string(rune('A'+e)), marks...))
		}
		l := LetterOf(scoring.MovementScale(), test, make([][]curriculum.Line, n), nil, nil)
		assert.LessOrEqual(t, len(l.Strong), 3)
		assert.LessOrEqual(t, len(l.Mend)+len(l.Next), 3)
		for _, m := range append(l.Mend, l.Next...) {
			assert.NotContains(t, l.Strong, m.What)
		}
		for _, m := range l.Mend {
			assert.Contains(t, []string{"not known", "not right yet"}, m.Word, "only what fails is to be mended")
		}
	})
}

func TestThoughts(t *testing.T) {
	p, none := scoring.MovementScale(), scoring.Decimal(0)
	p.Rules.MinimumSeen = &none // a sheet counts however little it saw
	items := []scoring.Item{{ID: "a", Weight: 1, MustPass: true}, {ID: "b", Weight: 1}}
	decide := func(sheets ...scoring.Sheet) (scoring.Test, scoring.Result) {
		x := scoring.Test{Items: items, Sheets: sheets, Chief: "A"}
		r, err := p.Decide(x)
		require.NoError(t, err)
		return x, r
	}
	for _, c := range []struct {
		name   string
		sheets []scoring.Sheet
		faults []Fault
		want   []Thought
	}{
		{"a plain pass", []scoring.Sheet{marked("A", 3, 3), marked("B", 3, 3), marked("C", 3, 3)}, nil, nil},
		{"all agree, however near", []scoring.Sheet{marked("A", 2, 3), marked("B", 2, 3), marked("C", 2, 3)}, nil, nil},
		{"split and near", []scoring.Sheet{marked("A", 2, 3), marked("B", 1, 3), marked("C", 2, 3)}, nil, []Thought{{Kind: PanelSplit}, {Kind: CloseToTurn, N: 1}}},
		{"one of three passes", []scoring.Sheet{marked("A", 3, 3), marked("B", 0, 0), marked("C", 0, 0)}, nil, []Thought{{Kind: PanelSplit}, {Kind: CloseToTurn, N: 2}}},
		{"one examiner at the edge", []scoring.Sheet{marked("A", 2, 3)}, nil, []Thought{{Kind: CloseToTurn, N: 1}}},
		{"a fault", []scoring.Sheet{marked("A", 4, 4)}, []Fault{{Text: "swung wide"}}, []Thought{{Kind: HasItsFaults, Fault: Fault{Text: "swung wide"}}}},
		{"hardly seen", []scoring.Sheet{marked("A", 3, 3), marked("B", 3, 3), marked("C", 3, 3), marked("D", 3, -1), marked("E", 3, -1), marked("F", 3, -1), marked("G", 3, -1)}, nil, []Thought{{Kind: HardlySeen, N: 1}}},
		{"seen by nobody", []scoring.Sheet{marked("A", 3, -1)}, nil, []Thought{{Kind: NotComplete}, {Kind: HardlySeen, N: 1}}},
	} {
		x, r := decide(c.sheets...)
		assert.Equal(t, c.want, Thoughts(x, r, c.faults, ThoughtMargin), c.name)
	}
}

func TestRings(t *testing.T) {
	g := Grading{On: civil.MustParse("2026-12-12"), Marking: SignOff, Policy: scoring.SignOff(), GroupSize: 3, RungIDs: []string{"a"},
		Rings: []Ring{{}, {Name: " Wheel  room "}}, Examiners: []Examiner{{Name: "Cora Vane", Chief: true}, {Name: "Dora Weir", Ring: 1}}}
	g.Fill()
	assert.Empty(t, g.Check())
	assert.Equal(t, []Ring{{Name: "Ring A"}, {Name: "Wheel room"}}, g.Rings)
	assert.Equal(t, Held, g.Results)
	assert.Equal(t, DefaultCarryDays, g.CarryDays)
	assert.Equal(t, []Examiner{{Name: "Dora Weir", Letter: "W", Ring: 1, Chief: true}}, g.Panel(1), "who sits alone is the chief")
	for _, c := range []struct {
		name, words string
		change      func(*Grading)
	}{
		{"a ring without anybody", "Ring A: nobody is named", func(g *Grading) { g.Examiners = g.Examiners[1:] }},
		{"two in one ring", "Wheel room: 2 are named", func(g *Grading) { g.Examiners = append(g.Examiners, Examiner{Name: "E", Ring: 1}) }},
		{"one in two rings", "one place at a time", func(g *Grading) { g.Examiners[1].Name = "CORA  vane" }},
		{"rings of one name", "two rings are called", func(g *Grading) { g.Rings[0].Name = "wheel ROOM" }},
		{"two chiefs", "one chief examiner at most", func(g *Grading) {
			g.Examiners = append(g.Examiners, Examiner{Name: "E", Chief: true}, Examiner{Name: "F"})
		}},
		{"nine rings", "up to 8 run at once", func(g *Grading) { g.Rings = make([]Ring, 9) }},
		{"results some day", "is not a choice", func(g *Grading) { g.Results = "some day" }},
		{"a scope that is none", "is not a choice", func(g *Grading) { g.RetestScope = "half" }},
		{"passed for ever", "from 1 to 730", func(g *Grading) { g.CarryDays = 9999 }},
	} {
		bad := g
		bad.Rings, bad.Examiners = append([]Ring{}, g.Rings...), append([]Examiner{}, g.Examiners...)
		c.change(&bad)
		assert.ErrorContains(t, bad.Check().Err(), c.words, c.name)
	}
	bad := g
	bad.Policy.Quorum = 2
	assert.Contains(t, bad.Check().Of("quorum"), "no result could ever come")
}
