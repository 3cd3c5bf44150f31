package practice

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
)

// own is a ladder with a free-choice line, a kick of a later rung, and one that Cubs may not do.
func own() (*curriculum.Book, curriculum.Line) {
	c := curriculum.Curriculum{
		Program:  curriculum.Program{ID: "p", ProgramDetails: curriculum.ProgramDetails{Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 6}, {ID: "adults", Name: "Adults", From: 7}}}},
		Sections: []curriculum.Section{{ID: "s", Name: "All"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}, {ID: "g", Name: "Green"}},
		Techniques: []curriculum.Technique{{ID: "jab", Name: "Jab", Kind: "strike"}, {ID: "cross", Name: "Cross", Kind: "strike"}, {ID: "front", Name: "Front kick", Kind: "kick"}, {ID: "axe", Name: "Axe kick", Kind: "kick"},
			{ID: "back", Name: "Back kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{YoungestTrack: "adults"}}, {ID: "own", Name: "Own combinations", Kind: "combination"}, {ID: "gone", Name: "Hammer", Kind: "strike"}},
	}
	ask := func(rung, technique string) {
		c.Requirements = append(c.Requirements, curriculum.Requirement{ID: rung + technique, RungID: rung, SectionID: "s", TechniqueID: technique, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}, RequirementDetails: curriculum.RequirementDetails{Free: technique == "own"}})
	}
	for _, t := range []string{"jab", "cross", "front", "back", "own"} {
		ask("y", t)
	}
	ask("g", "axe")
	b := curriculum.Open(c)
	for _, l := range b.Compile(curriculum.Asking{RungID: "y"}).Lines {
		if l.Free {
			return b, l
		}
	}
	panic("there is no free-choice line")
}

// noteKinds are what is said of a combination, for short.
func noteKinds(all []ChoiceNote) string {
	var out []string
	for _, n := range all {
		out = append(out, strings.TrimSpace(string(n.Kind)+" "+n.Technique+" "+n.Rung))
	}
	return strings.Join(out, "; ")
}

// choosing are lines somebody chooses, as they are kept, what is said of each, and what is wrong with them.
type choosing struct{ lines, kept, notes, problem string }

func (x choosing) holds(t *testing.T, b *curriculum.Book, l curriculum.Line, line func(Chosen) string) {
	t.Helper()
	chosen, p := Choose(b, l, "y", "cubs", strings.Split(x.lines, "\n"))
	var kept, notes []string
	for _, c := range chosen {
		kept, notes = append(kept, line(c)), append(notes, noteKinds(c.Notes))
	}
	assert.Equal(t, []string{x.kept, x.notes}, []string{strings.Join(kept, "|"), strings.Join(notes, "|")}, x.lines)
	if x.problem == "" {
		assert.Empty(t, p, x.lines)
	} else {
		assert.ErrorContains(t, p, x.problem)
	}
}

// TestChoosing: what is chosen ahead is read, held against the rules, and kept as it is printed.
func TestChoosing(t *testing.T) {
	b, l := own()
	for _, x := range []choosing{
		{"lead jab, rear cross, rear front kick", "lead jab, rear cross, rear front kick", "", ""},
		{"LEAD Jab ,rear  cross", "lead jab, rear cross", "", ""},
		{"rear cross, lead jab", "rear cross, lead jab", "rear first", ""},
		{"lead jab, lead jab", "lead jab, lead jab", "limb twice", ""},
		{"lead double jab, rear cross", "double lead jab, rear cross", "", ""},
		{"lead jab, lead double jab", "lead jab, double lead jab", "", ""},
		{"lead front kick, rear front kick", "lead front kick, rear front kick", "no recovery", ""},
		{"lead front kick, rear cross", "lead front kick, rear cross", "", ""},
		{"left jab, left cross", "left jab, left cross", "", ""},
		{"lead axe kick", "lead axe kick", "comes later Axe kick Green", ""},
		{"lead hammer", "lead hammer", "", ""},
		{"step back", "step back", "steps only", ""},
		{"Whatever comes.", "whatever comes.", "", ""},
		{"lead jba", "", "", `line 1, column 6`},
		{"lead jab\nrear cross, lead jab\nlead jab", "lead jab|rear cross, lead jab|lead jab", "|rear first|", "there are 3; 2 are shown"},
		{"lead jab\nLead jab", "lead jab|lead jab", "|", "lines 1 and 2 are the same"},
		{"lead back kick", "lead back kick", "", "line 1: Back kick: Not for Cubs: it suits Adults and older."},
	} {
		x.holds(t, b, l, func(c Chosen) string {
			assert.NotEmpty(t, c.Moves, x.lines)
			return strings.ToLower(c.Line)
		})
	}
	_, p := Choose(b, l, "y", "adults", []string{"lead back kick"})
	assert.Empty(t, p)
	none, p := Choose(b, l, "y", "", nil)
	assert.Empty(t, p)
	assert.Empty(t, none)
	l.Free = false
	_, p = Choose(b, l, "y", "", nil)
	assert.ErrorContains(t, p, "no free-choice line")

	noted := Noted(b, "combination", "y", "cubs", []string{"lead jab, rear cross", "lead old kick", "lead back kick, rear cross"})
	require.Len(t, noted, 3)
	assert.Empty(t, noted[0].Notes)
	assert.Equal(t, Unreadable, noted[1].Notes[0].Kind)
	assert.ErrorContains(t, noted[1].Notes[0].Why, "column 6")
	assert.Empty(t, noted[1].Moves)
	assert.Equal(t, []ChoiceNote{{Kind: NotAllowed, Technique: "Back kick", Why: &curriculum.NotFor{Track: "Cubs", Suits: "Adults"}}}, noted[2].Notes)
	assert.NotEmpty(t, noted[2].Moves)
}

// TestTickLists: what is ticked of a free choice.
func TestTickLists(t *testing.T) {
	_, l := own()
	sheet := []curriculum.Line{{Kind: "kick"}, {Kind: "form"}, {Kind: "strike"}, {Kind: "kick"}, {Kind: "knowledge"}}
	with := func(change func(*curriculum.Line)) curriculum.Line {
		x := l
		change(&x)
		return x
	}
	round := with(func(l *curriculum.Line) {
		l.Quantity = curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 60}
	})
	for _, x := range []struct {
		line   curriculum.Line
		chosen string
		want   string
	}{
		{l, "", "combination 1|combination 2"},
		{l, "lead jab", "lead jab|combination 2"},
		{l, "lead jab|rear cross", "lead jab|rear cross"},
		{l, "a|b|c", "a|b|c"},
		{with(func(l *curriculum.Line) { l.Quantity.Measure, l.Kind = curriculum.RepsPerSide, "form" }), "", "choice 1|choice 2"},
		{with(func(l *curriculum.Line) { l.Quantity.Measure = curriculum.Alternating }), "", "combination 1|combination 2"},
		{round, "", "a strike|a kick"},
		{round, "lead jab", "lead jab|a strike|a kick"},
		{with(func(l *curriculum.Line) {
			l.Quantity = round.Quantity
			l.Checkpoints = []string{"keeps moving", "uses both legs"}
		}), "", "keeps moving|uses both legs"},
		{with(func(l *curriculum.Line) { l.Free = false }), "lead jab", ""},
	} {
		var chosen []string
		if x.chosen != "" {
			chosen = strings.Split(x.chosen, "|")
		}
		assert.Equal(t, x.want, strings.Join(x.line.TickList(chosen, sheet), "|"), "%v %s", x.line.Quantity, x.chosen)
	}
	assert.Equal(t, []int{2, 0, 20, 0}, []int{l.Slots(), round.Slots(), with(func(l *curriculum.Line) { l.Quantity.Reps = 90 }).Slots(), with(func(l *curriculum.Line) { l.Free = false }).Slots()})
}

// TestChoosingByName: of forms and defences one is chosen by its name; what comes later or is on none of the school's lists says so, what the
// track may not do is refused.
func TestChoosingByName(t *testing.T) {
	b, l := own()
	c := b.Curriculum
	for id, name := range map[string]string{"one": "Reed One", "two": "Reed Two", "three": "Reed Three"} {
		c.Techniques = append(c.Techniques, curriculum.Technique{ID: id, Name: name, Kind: "form"})
	}
	c.Techniques[slices.IndexFunc(c.Techniques, func(t curriculum.Technique) bool { return t.ID == "two" })].YoungestTrack = "adults"
	once := curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	ask := func(technique, rung string) {
		c.Requirements = append(c.Requirements, curriculum.Requirement{ID: technique, RungID: rung, SectionID: "s", TechniqueID: technique, Role: "performer", Weight: 1, Quantity: once})
	}
	for technique, rung := range map[string]string{"one": "w", "two": "y", "three": "g"} {
		ask(technique, rung)
	}
	assert.Equal(t, "lead jab, rear cross, rear front kick", Example(b, "w", ""), "the usual one")
	for _, x := range []curriculum.Technique{{ID: "palm", Name: "Palm", Kind: "strike"}, {ID: "chop", Name: "Chop", Kind: "strike"}, {ID: "hook", Name: "Hook kick", Kind: "kick"}} {
		c.Techniques = append(c.Techniques, x)
		ask(x.ID, "w")
	}
	b = curriculum.Open(c)
	assert.Equal(t, "lead palm, rear chop, rear hook kick", Example(b, "w", ""))
	l.Kind = "form"
	assert.Equal(t, []string{"Reed One", "Reed Two"}, Offered(b, "form", "y", "adults"))
	assert.Equal(t, []string{"Reed One"}, Offered(b, "form", "y", "cubs"))
	assert.Empty(t, Offered(b, "combination", "y", "adults"), "which are written as moves")
	for _, x := range []choosing{
		{"reed  one", "Reed One", "", ""},
		{"Reed One\nReed Three", "Reed One|Reed Three", "|comes later Reed Three Green", ""},
		{"Willow Nine", "Willow Nine", "not known Willow Nine", ""},
		{"Jab", "Jab", "not known Jab", ""},
		{"reed one\nREED ONE", "Reed One|Reed One", "|", "lines 1 and 2 are the same"},
		{"Reed Two", "Reed Two", "", "line 1: Reed Two: Not for Cubs"},
	} {
		x.holds(t, b, l, func(c Chosen) string { return c.Line })
	}
	assert.Equal(t, "not allowed Reed Two", noteKinds(Noted(b, "form", "y", "cubs", []string{"Reed Two"})[0].Notes))
}
