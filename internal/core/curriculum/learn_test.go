package curriculum_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
)

func learners() *Book {
	return Open(Curriculum{
		Program:  Program{ID: "p", ProgramDetails: ProgramDetails{Tracks: []Track{{ID: "cubs", Name: "Cubs"}, {ID: "big", Name: "Big Ones"}}}},
		Sections: []Section{{ID: "s", Name: "Strikes"}}, Rungs: []Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}},
		Techniques: []Technique{
			{ID: "jab", Name: "Jab", Kind: "strike", Faults: []Fault{{Seen: "reaches"}}, TechniqueDetails: TechniqueDetails{Apart: []Apart{{"snap", "the feet are planted"}}, Drills: []Drill{{Name: "Wall", From: "big"}, {Name: "Rope"}}}},
			{ID: "snap", Name: "Snap", Kind: "strike"},
			{ID: "long", Name: "Long jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"sliding"}, BuildsOn: []string{"jab"}, Apart: []Apart{{"jab", "it slides"}, {"snap", "it slides too"}}}},
		},
		Requirements: []Requirement{{ID: "r", RungID: "y", SectionID: "s", TechniqueID: "snap", Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 1}},
			{ID: "q", RungID: "y", SectionID: "s", TechniqueID: "jab", Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 1}}},
	})
}

// TestToldApart: what looks alike is told apart at both, and to show the other one is a fault.
func TestToldApart(t *testing.T) {
	b := learners()
	assert.Equal(t, []ToldApart{{From: "Snap", Differs: "the feet are planted"}, {From: "Long jab", Differs: "it slides", There: true}}, b.ToldApart(b.Technique("jab")))
	assert.Equal(t, []ToldApart{{From: "Jab", Differs: "the feet are planted", There: true}, {From: "Long jab", Differs: "it slides too", There: true}}, b.ToldApart(b.Technique("snap")))
	assert.Equal(t, []ToldApart{{From: "Jab", Differs: "it slides"}, {From: "Snap", Differs: "it slides too"}}, b.ToldApart(b.Technique("long")), "said once, by its own words")
	lines := b.Compile(Asking{RungID: "y"}).Lines
	require.Len(t, lines, 2)
	assert.Equal(t, []Fault{{Seen: "shows Jab instead", Correction: "in Jab the feet are planted; here not"}, {Seen: "shows Long jab instead", Correction: "in Long jab it slides too; here not"}}, lines[0].Faults)
	assert.Equal(t, b.ToldApart(b.Technique("snap")), lines[0].Apart)
	assert.Equal(t, []Fault{{Seen: "reaches"}, {Seen: "shows Snap instead", Correction: "the feet are planted"}, {Seen: "shows Long jab instead", Correction: "in Long jab it slides; here not"}}, lines[1].Faults)
	assert.Len(t, b.Technique("jab").Faults, 1, "the technique's own list is as it was")
}

func TestDrills(t *testing.T) {
	b := learners()
	jab, long := b.Technique("jab"), b.Technique("long")
	name := func(d *Drill) string {
		if d == nil {
			return ""
		}
		return d.Name
	}
	for _, x := range []struct {
		t     *Technique
		track string
		far   Far
		want  string
	}{{jab, "big", Begins, "Wall"}, {jab, "big", Tries, "Rope"}, {jab, "big", Knows, "Rope"}, {jab, "cubs", Begins, "Rope"}, {jab, "", Knows, "Rope"}, {jab, "no track", Begins, "Rope"}, {long, "big", Begins, "Wall"}, {b.Technique("snap"), "big", Begins, ""}} {
		assert.Equal(t, x.want, name(b.DrillFor(x.t, x.track, x.far, nil)), x)
	}
	tracks := b.Program.Tracks
	lines := []string{"Wall kicks | one hand on the wall, slowly | from Big Ones", "Rope", "Cone | from there to here", "Mirror | from cubs", "Shield | ten steps | on pads | from Big Ones", "Chase | with a partner"}
	got, err := ParseDrills(lines, tracks)
	require.NoError(t, err)
	assert.Equal(t, []Drill{{"Wall kicks", "one hand on the wall, slowly", "big", ""}, {"Rope", "", "", ""}, {"Cone", "from there to here", "", ""}, {"Mirror", "", "cubs", ""}, {"Shield", "ten steps", "big", "pads"}, {"Chase", "", "", "partner"}}, got)
	for i, d := range got {
		if d.Name == "Mirror" {
			continue // its track is written as it is called
		}
		assert.Equal(t, lines[i], d.Line(tracks))
	}
	assert.Equal(t, []string{"Wall kicks: one hand on the wall, slowly", "Rope", "Shield: ten steps, on pads", "Chase, with a partner"}, []string{got[0].String(), got[1].String(), got[4].String(), got[5].String()})
	jab.Drills = append(jab.Drills, got[4], got[5])
	alone := func(with Setting) bool { return with == "" }
	assert.Equal(t, []string{"Chase", "Rope", "Rope"}, []string{name(b.DrillFor(jab, "big", Knows, nil)), name(b.DrillFor(jab, "big", Knows, alone)), name(b.DrillFor(jab, "cubs", Knows, alone))}, "what there is decides")
	jab.Drills = jab.Drills[2:]
	assert.Nil(t, b.DrillFor(jab, "big", Begins, alone))
	_, err = ParseDrills([]string{"Rope", "Wall | slowly | from Giants"}, tracks)
	assert.EqualError(t, err, `line 2: "Giants" is no track of this program`)
	_, err = ParseDrills([]string{"Wall | slowly | twice"}, tracks)
	assert.ErrorContains(t, err, "line 1: write the name")
	x := Technique{Name: "A", Kind: "kick", TechniqueDetails: TechniqueDetails{Drills: make([]Drill, MaxDrills+1), Cues: make([]string, MaxDrills+1), Apart: []Apart{{"b", " "}}}}
	said := x.Check().Error()
	for _, want := range []string{"there are 13; up to 12 fit", "say the one thing seen"} {
		assert.Contains(t, said, want)
	}
	x.Cues = []string{strings.Repeat("x", 200)}
	assert.ErrorContains(t, x.Check(), "up to 80 fit")
	x.Drills, x.Cues, x.Apart = []Drill{{Name: "D", From: "no track"}}, nil, []Apart{{"gone", "x"}}
	said = b.CheckTechnique(x).Error()
	assert.Contains(t, said, `"no track" is no track of this program`)
	assert.Contains(t, said, `"gone" is no technique of this program`)
	x.Drills, x.Apart = []Drill{{Name: "D", With: "boards"}}, nil
	assert.ErrorContains(t, b.CheckTechnique(x), "must be one of pads, bag, partner, or left out")
}
