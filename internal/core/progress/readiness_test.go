package progress

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// readyBook is a ladder of two rungs: a technique in parts, one that builds on another, a role
// of each kind, a bonus, and one line carried from below.
func readyBook() (*curriculum.Book, *Asked) {
	side := curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}
	once := curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	ask := func(id, rung, section, technique string, role curriculum.Role, q curriculum.Quantity) curriculum.Requirement {
		return curriculum.Requirement{ID: id, RungID: rung, SectionID: section, TechniqueID: technique, Role: role, Quantity: q, Weight: 1}
	}
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Kenpo"},
		Sections: []curriculum.Section{{ID: "k", Name: "Kicks"}, {ID: "d", Name: "Self-defence"}},
		Rungs: []curriculum.Rung{{ID: "w", Name: "White belt"}, {ID: "y", Name: "Yellow belt", RungDetails: curriculum.RungDetails{
			Stripes: []curriculum.SectionStripe{{SectionID: "k", Colour: "#b8322c"}, {SectionID: "d", Colour: "#27548f"}}}}},
		Techniques: []curriculum.Technique{
			{ID: "front", Name: "Front kick", Kind: "kick"},
			{ID: "jump", Name: "Jumping front kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{BuildsOn: []string{"front2"}}},
			{ID: "front2", Name: "Skipping kick", Kind: "kick"},
			{ID: "wheel", Name: "Mill Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"step back"})}, {RungID: "y", Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"step"})}}}},
			{ID: "extra", Name: "Extra", Kind: "kick"},
		},
		Requirements: []curriculum.Requirement{
			ask("1", "w", "k", "front", "performer", side),
			ask("2", "y", "k", "jump", "performer", side),
			ask("3", "y", "k", "front2", "performer", side),
			ask("4", "y", "d", "wheel", "defender", once),
			ask("5", "y", "d", "wheel", "attacker", once),
			ask("6", "y", "k", "extra", "performer", once),
		}}
	c.Requirements[0].Carry.Kind = curriculum.Always
	c.Requirements[2].MustPass = true
	c.Requirements[5].Bonus = true
	b := curriculum.Open(c)
	return b, AskedBy(b, b.Compile(curriculum.Asking{RungID: "y", Undrawn: true}))
}

func TestReadiness(t *testing.T) {
	b, asked := readyBook()
	on := day("2026-11-24")
	shown := func(technique string, role curriculum.Role, side string, stage int) Showing {
		return Showing{TechniqueID: technique, Role: role, Side: side, Stage: stage, On: on}
	}
	at := func(r Readiness, technique string, role curriculum.Role) Item {
		return r.Items[slices.IndexFunc(r.Items, func(i Item) bool { return i.TechniqueID == technique && i.Role == role })]
	}
	none := asked.Ready(nil, nil)
	require.Len(t, none.Items, 6)
	assert.Equal(t, []SectionDone{{ID: "k", Name: "Kicks", Of: 2, Open: []string{"Jumping front kick", "Skipping kick"}}, {ID: "d", Name: "Self-defence", Of: 2, Open: []string{"Mill Wheel, defender", "Mill Wheel, attacker"}}}, none.Sections, "neither what is carried nor a bonus")
	assert.Equal(t, []PartDone{{"performer", 0, 2}, {"attacker", 0, 1}, {"defender", 0, 1}}, none.Roles)
	assert.Equal(t, []PartDone{{"left", 0, 2}, {"right", 0, 2}}, none.Sides)

	r := asked.Ready([]Showing{
		shown("front2", "performer", "left", 0),
		shown("wheel", "defender", "", 1), // a part of it
		shown("wheel", "attacker", "", 2),
		{TechniqueID: "jump", Role: "performer", On: on, NotYet: true, Fault: "lands on the heel"},
	}, []Showing{{TechniqueID: "front", Role: "performer", On: day("2026-05-01")}})
	half := at(r, "front2", "performer")
	assert.True(t, half.Left && !half.Right && !half.Done)
	part := at(r, "wheel", "defender")
	assert.Equal(t, []any{1, 2, false}, []any{part.Reached, part.Stage, part.Done}, "part 1 of the 2 asked")
	assert.True(t, at(r, "wheel", "attacker").Done)
	assert.Equal(t, "lands on the heel", at(r, "jump", "performer").Fault)
	assert.Equal(t, day("2026-05-01"), at(r, "front", "performer").Seen)
	assert.Equal(t, []PartDone{{"left", 1, 2}, {"right", 0, 2}}, r.Sides)

	next := r.NextThings(b, nil, on, 9)
	var order, why []string
	for _, n := range next {
		order, why = append(order, n.TechniqueID+" "+string(n.Role)), append(why, n.Why)
	}
	assert.Equal(t, []string{"front2 performer", "front performer", "wheel defender", "jump performer"}, order, "the base before what builds on it")
	assert.Equal(t, "must pass: without it the test is not passed", why[0])
	assert.Equal(t, "asked again, and not seen for 207 days", why[1])
	assert.Len(t, r.NextThings(b, nil, on, 2), 2)

	done := asked.Done([]Showing{shown("front2", "performer", "left", 0), shown("front2", "performer", "right", 0), shown("jump", "performer", "", 0)})
	stripes := Stripes(b.Rung("y"), b, done, map[string]civil.Date{"d": on})
	assert.Equal(t, []bool{true, false}, []bool{stripes[0].Due, stripes[1].Due})
	assert.Equal(t, on, stripes[1].Awarded)
	assert.Equal(t, "Kicks", stripes[0].Section)
	last := asked.Ready([]Showing{shown("jump", "performer", "", 0)}, nil)
	assert.Equal(t, "the last thing for the Kicks stripe", func() string {
		b.Requirements[2].MustPass = false
		for i := range last.Items {
			last.Items[i].MustPass = false
		}
		return last.NextThings(b, stripes, on, 1)[0].Why
	}())
}

// TestLawsOfReadiness: the quick count is the full one, what is shown is never taken back by
// showing more, and each side, role and section adds up to the same.
func TestLawsOfReadiness(t *testing.T) {
	_, asked := readyBook()
	rapid.Check(t, func(t *rapid.T) {
		var now []Showing
		for range rapid.IntRange(0, 12).Draw(t, "entries") {
			it := rapid.SampledFrom(asked.Items).Draw(t, "item")
			now = append(now, Showing{TechniqueID: it.TechniqueID, Role: it.Role, Stage: rapid.IntRange(0, 2).Draw(t, "stage"), Side: rapid.SampledFrom([]string{"", "left", "right"}).Draw(t, "side"),
				On: anyDay(t, "on"), NotYet: rapid.IntRange(0, 4).Draw(t, "kind") == 0})
		}
		r := asked.Ready(now, nil)
		require.Equal(t, asked.Done(now), r.Sections)
		sum := func(r Readiness) (sections, roles int) {
			for _, s := range r.Sections {
				sections += s.Done
				require.Equal(t, s.Of-s.Done, len(s.Open))
			}
			for _, x := range r.Roles {
				roles += x.Done
			}
			return sections, roles
		}
		before, roles := sum(r)
		require.Equal(t, before, roles)
		it := rapid.SampledFrom(asked.Items).Draw(t, "more")
		after, _ := sum(asked.Ready(append(now, Showing{TechniqueID: it.TechniqueID, Role: it.Role, Stage: 2, On: anyDay(t, "then")}), nil))
		require.GreaterOrEqual(t, after, before)
		for _, x := range r.Items {
			require.False(t, x.Done && x.TwoSided && !(x.Left && x.Right))
			require.False(t, x.Done && x.Reached < x.Stage)
		}
	})
}
