package words_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

func TestABriefingInWords(t *testing.T) {
	allowed, three := 2, scoring.Whole(3)
	b := gradingday.Briefing{Policy: scoring.MovementScale(), Panel: 3, Results: gradingday.Held, Retest: civil.MustParse("2027-01-02"), Scope: scoring.ScopeItems,
		Sheets: []gradingday.BriefSheet{{For: "Yellow belt", Must: []string{"Jab", "Front kick"}, Bonus: []string{"Rope"},
			Sections: []gradingday.BriefSection{{Name: "Strikes", Lines: []gradingday.BriefLines{{Names: []string{"Jab", "Cross"}, Asked: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, Called: 6}, {Names: []string{"Elbow"}, Asked: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}}}}}}}}
	b.Policy.Rules.AllowedFailing, b.Policy.Rules.Threshold = &allowed, &three
	b.Policy.Rules.SectionMinima = []scoring.SectionMinimum{{Section: "Kicks", Ratio: scoring.Whole(1) / 2}}
	text := func() (out string) {
		for _, p := range words.Briefing(b) {
			out += p.Title + ": " + strings.Join(p.Rows, " ") + "\n"
		}
		return out
	}
	for _, said := range []string{
		"3 examiners look, each marks alone", "0 not known, 1 not right yet, 2 sound", "1 and below is not enough on that line.", "3 points of the whole sheet are needed",
		"Up to 2 lines may be below that.", "In Kicks at least 50 of 100 of the points.", "For Yellow belt these must be sound by themselves: Jab, Front kick.", "more than half of the examiners",
		"What is seen: Yellow belt: Strikes: Jab · Cross (5 a side asked, 6 called); Elbow (once).", "A bonus, which can only help: Rope.", "The committee weighs marks", "shows only what failed again, from Sat 2 Jan 2027 on", "If something hurts",
	} {
		assert.Contains(t, text(), said)
	}
	none := 0
	b.Policy.Rules, b.Panel, b.Results, b.Scope, b.Marking = scoring.Rules{AllowedFailing: &none, IgnoreMustPass: true}, 1, gradingday.AtOnce, scoring.ScopeWhole, gradingday.CategoryPoints
	for _, said := range []string{"one examiner looks", "No line may be below that.", "as soon as the whole panel has signed", "shows the whole test again", "Each section gets one mark"} {
		assert.Contains(t, text(), said)
	}
	assert.NotContains(t, text(), "must be sound")
	assert.NotContains(t, text(), "more than half")
	b.Policy.Rules = scoring.Rules{IgnoreMustPass: true}
	assert.Contains(t, text(), "the panel looks at the whole")
}
