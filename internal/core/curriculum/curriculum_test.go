package curriculum

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/notation"
)

func TestAmountsAsPeopleWriteThem(t *testing.T) {
	for in, want := range map[string]Quantity{
		"5 a side": {Measure: RepsPerSide, Reps: 5}, "10 per side": {Measure: RepsPerSide, Reps: 10}, "4/side": {Measure: RepsPerSide, Reps: 4}, "3 x each side": {Measure: RepsPerSide, Reps: 3},
		"10": {Measure: RepsInAll, Reps: 10}, "10x": {Measure: RepsInAll, Reps: 10}, " Once ": {Measure: RepsInAll, Reps: 1}, "twice": {Measure: RepsInAll, Reps: 2}, "5 times": {Measure: RepsInAll, Reps: 5},
		"60 s": {Measure: Timed, Seconds: 60}, "60s": {Measure: Timed, Seconds: 60}, "2 min": {Measure: Timed, Seconds: 120},
		"2 x 90 s": {Measure: RoundsTimed, Rounds: 2, Seconds: 90}, "3 × 2 min, 30 s rest": {Measure: RoundsTimed, Rounds: 3, Seconds: 120, Rest: 30},
	} {
		got, err := ParseQuantity(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, got, in)
	}
	for in, said := range map[string]string{"": "write for example", "some": "write for example", "5 a": "write", "0": "must be from 1 to 200", "201": "must be from 1 to 200", "5000 s": "must be from 1 to 3600", "99 x 10 s": "must be from 1 to 20", "-5": "write", "1.5": "write"} {
		_, err := ParseQuantity(in)
		assert.ErrorIs(t, err, ErrQuantity, in)
		assert.ErrorContains(t, err, said, in)
	}
}

func TestLawAmountsAreReadAsPrinted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Quantity{Measure: rapid.SampledFrom(Measures).Draw(t, "measure")}
		switch q.Measure {
		case RepsPerSide, RepsInAll:
			q.Reps = rapid.IntRange(1, 200).Draw(t, "reps")
		case RoundsTimed:
			q.Rounds = rapid.IntRange(2, 20).Draw(t, "rounds")
			q.Rest = rapid.IntRange(0, 600).Draw(t, "rest")
			fallthrough
		case Timed:
			q.Seconds = rapid.IntRange(1, 3600).Draw(t, "seconds")
		}
		got, err := ParseQuantity(q.String())
		require.NoError(t, err)
		assert.Equal(t, q, got)
	})
}

func TestCompile(t *testing.T) {
	sections := []Section{{ID: "b", Name: "Blocks", Position: 1}, {ID: "a", Name: "Strikes", Position: 0}}
	techniques := map[string]Technique{
		"jab": {ID: "jab", Name: "Lead jab", Kind: "strike", Note: "to the face"}, "low": {ID: "low", Name: "Low block", Kind: "block"},
		"weir": {ID: "weir", Name: "Lower Weir", Kind: "form"}, "bridge": {ID: "bridge", Name: "Low Bridge", Kind: "throw", Cautions: []string{"mats"}},
		"spar": {ID: "spar", Name: "Light sparring", Kind: "sparring"}, "bow": {ID: "bow", Name: "Bow", Kind: "courtesy"},
	}
	ask := func(section, technique string, position int, amount string) Requirement {
		q, err := ParseQuantity(amount)
		require.NoError(t, err)
		return Requirement{ID: technique, SectionID: section, TechniqueID: technique, Position: position, Role: "performer", Quantity: q, Weight: 1}
	}
	attacker := ask("b", "bridge", 5, "3 a side")
	attacker.Role, attacker.Note = "attacker", "slowly"
	sheet := Compile([]Requirement{ask("b", "low", 0, "2 a side"), attacker, ask("a", "jab", 7, "10 a side"), ask("a", "weir", 2, "once"), ask("a", "spar", 9, "3 x 60 s, 30 s rest"), ask("a", "bow", 10, "once")}, techniques, sections, nil, 3)
	type row struct {
		call    string
		reps    int
		seconds int
	}
	var got []row
	total := 0
	for _, l := range sheet.Lines {
		got = append(got, row{l.Call, l.RepsCalled, l.Seconds})
		total += l.Seconds
	}
	assert.Equal(t, []row{
		{"Lower Weir", 1, 12 + 60},
		{"Lead jab", 10, 12 + 2*10*2},
		{"Light sparring", 0, 12 + 3*60 + 2*30},
		{"Bow", 1, 12 + 15*3},        // each candidate's turn
		{"Low block", 3, 12 + 2*3*2}, // two looks for each of three candidates over two sides
		{"Low Bridge, attacker", 3, 12 + 2*3*12},
	}, got)
	assert.Equal(t, total, sheet.Seconds)
	assert.Equal(t, (total+59)/60, sheet.Minutes())
	assert.Equal(t, "slowly", sheet.Lines[5].Detail)
	assert.Equal(t, []string{"mats", "Breakfalls first, mats, matched partners, supervised."}, sheet.Lines[5].Cautions)
	assert.Empty(t, Compile(nil, nil, nil, nil, 0).Lines)
}

func TestStrip(t *testing.T) {
	c, err := notation.NewCatalogue([]notation.Entry{{ID: "low", Name: "Low block"}, {ID: "palm", Name: "Palm strike"}, {ID: "side", Name: "Side kick"}, {ID: "check", Name: "check"}}, nil)
	require.NoError(t, err)
	assert.Equal(t, []StripMove{
		{"lead low block", "slide back", 1}, {"rear palm strike", "high", 1}, {"lead side kick!", "cross step · mid · to ribs", 2}, {"double palm strike", "turn cw 90 · (eyes first) + rear check, keep", 2}, {"step back", "", 2},
	}, Strip(c, "slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs!, double palm strike turn cw 90 (eyes first) + rear check keep, step back"))
	assert.Empty(t, Strip(c, "Answers a right front kick"), "plain words are no moves")
	asked := Requirement{TechniqueID: "x", Quantity: Quantity{Measure: RepsInAll, Reps: 1}}
	sheet := Compile([]Requirement{asked}, map[string]Technique{"x": {Name: "Combination 1", Kind: "combination", Note: "lead low block, rear palm strike"}}, nil, c, 1)
	assert.Len(t, sheet.Lines[0].Moves, 2)
}

func TestChecks(t *testing.T) {
	r := Rung{Name: "Orange belt", Kind: "ladder", Cloth: Cloth{Weave: Halves, Colour: "#ffffff", Second: "white", Marks: &BeltMarks{Colour: "#000", Count: 11, Place: "sleeve"}}}
	p := r.Check()
	for _, field := range []string{"kind", "second", "mark_colour", "mark_count", "mark_place"} {
		assert.NotEmpty(t, p.Of(field), field)
	}
	assert.Empty(t, p.Of("colour")+p.Of("name"))
	assert.Equal(t, []string{"Orange", "Orange", "belt", " belt"}, []string{Rung{Name: "Orange belt"}.Short(), Rung{Name: "Orange stripe"}.Short(), Rung{Name: "belt"}.Short(), Rung{Name: " belt"}.Short()})
	technique := Technique{Name: "Jab", Kind: "dance", Aliases: []string{"lead", "JAB"}}
	assert.NotEmpty(t, technique.Check().Of("kind"))
	assert.Contains(t, technique.Check().Of("aliases"), "stands twice")
	q := Requirement{Role: "judge", Quantity: Quantity{Measure: "miles"}, Weight: 101, MustPass: true, Bonus: true}.Check()
	for _, field := range []string{"role", "measure", "weight", "bonus"} {
		assert.NotEmpty(t, q.Of(field), field)
	}
	assert.Equal(t, []Fault{{"leaning back", "weight forward"}, {"no chamber", ""}}, ParseFaults([]string{"leaning back -> weight forward", "no chamber"}))
	assert.Equal(t, "leaning back → weight forward", Fault{"leaning back", "weight forward"}.String())
	assert.Equal(t, Kind("kick"), KindOfSection("kicks"))
	assert.Equal(t, Kind("strike"), KindOfSection("anything"))
	for _, k := range Kinds {
		assert.NotEmpty(t, k.Words())
		assert.Contains(t, DefaultSections, sectionOfKind[k], k)
	}
}
