package words

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

func TestAdaptationsInWords(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Techniques: []curriculum.Technique{{ID: "jab", Name: "Jab", Kind: "strike"}, {ID: "knee", Name: "Knee", Kind: "kick"}}})
	once := curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	for said, a := range map[string]curriculum.Adaptation{
		"excused from Jab":                {TechniqueID: "jab", Does: curriculum.Excuse},
		"Knee instead of Jab":             {TechniqueID: "jab", Does: curriculum.Replace, ReplacementID: "knee"},
		"something else instead of Jab":   {TechniqueID: "jab", Does: curriculum.Replace, ReplacementID: "gone"},
		"Jab: once":                       {TechniqueID: "jab", Does: curriculum.Change, Quantity: &once},
		"excused from every kick":         {Kind: "kick", Does: curriculum.Excuse},
		"excused from everything jumping": {Modifier: "jumping", Does: curriculum.Excuse},
		"every throw or takedown: once":   {Kind: "throw", Does: curriculum.Change, Quantity: &once},
	} {
		assert.Equal(t, said, Adaptation(b, a))
	}
}

func TestWhatDiffers(t *testing.T) {
	for said, c := range map[string]curriculum.Differing{
		"name: Gold, was Yellow":             {Of: curriculum.ChangedName, Now: "Gold", Was: "Yellow"},
		"must pass: no, was yes":             {Of: curriculum.ChangedMust, Was: "yes"},
		"bonus: yes, was no":                 {Of: curriculum.ChangedBonus, Now: "yes"},
		"examiners at least: 5, was none":    {Of: curriculum.ChangedPanel, Now: "5"},
		"place: above none, was above White": {Of: curriculum.ChangedPlace, Was: "White"},
		"place: above White, was above none": {Of: curriculum.ChangedPlace, Now: "White"},
		"what looks like it":                 {Of: curriculum.ChangedApart},
	} {
		assert.Equal(t, said, Differing(c))
	}
	for of := range changed {
		assert.NotEmpty(t, Differing(curriculum.Differing{Of: of}))
	}
	line := func(slow bool) *curriculum.Line { return &curriculum.Line{Slow: slow} }
	assert.Equal(t, []string{"5 a side"}, Difference(curriculum.Difference{What: "added", Amount: "5 a side", Line: line(false)}))
	d := curriculum.Difference{What: "changed", Line: line(true), Older: line(false), Changes: []curriculum.Differing{{Of: curriculum.ChangedWeight, Now: "2", Was: "1"}, {Of: curriculum.ChangedManner}}}
	assert.Equal(t, []string{"weight: 2, was 1", "manner: slowly, was none"}, Difference(d))
	assert.Equal(t, curriculum.Differing{Of: curriculum.ChangedManner}, d.Changes[1], "what was told stays as it is")
	assert.Equal(t, []string{"numbers"}, Changes([]curriculum.Differing{{Of: curriculum.ChangedNumbers}}))
}
