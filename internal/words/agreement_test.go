package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

func TestExaminersInWords(t *testing.T) {
	for steps, said := range map[float64]string{0.04: "as the others", -0.04: "as the others", 0.05: "0.1 higher", -0.44: "0.4 lower", -1.25: "1.3 lower", 12: "12.0 higher"} {
		assert.Equal(t, said, words.StepsApart(steps))
	}
	duvall := agreement.Severity{Examiner: "D. Duvall", Marks: 721, Candidates: 54, Mean: -0.446, Low: -0.48, High: -0.411, Enough: true}
	marek := agreement.Severity{Examiner: "M. Moriarty", Marks: 728, Candidates: 54, Mean: 0.27, Low: 0.23, High: 0.3, Enough: true}
	few := agreement.Severity{Examiner: "F. Loxley", Marks: 1, Candidates: 1, Mean: -3}
	whole, half := scoring.MovementScale().Scale, scoring.CategoryPoints(scoring.Whole(3)).Scale
	lead, sure := words.Beside([]agreement.Severity{marek, few, duvall}, whole)
	assert.Equal(t, "D. Duvall marks 0.4 of a step lower than those who saw the same.", lead, "the furthest of those with enough marks")
	assert.Equal(t, "That is sure: between 0.5 lower and 0.4 lower with 95 in 100, on 54 candidates. A step is one mark.", sure)
	marek.Mean, marek.High = 1.3, 1.5
	lead, sure = words.Beside([]agreement.Severity{marek, duvall}, half)
	assert.Equal(t, "M. Moriarty marks 1.3 steps higher than those who saw the same.", lead)
	assert.Contains(t, sure, "A step is half a point.")
	duvall.High = 0.1
	lead, _ = words.Beside([]agreement.Severity{duvall}, whole)
	assert.Equal(t, "Nobody marks lower or higher than chance would have it.", lead)
	lead, sure = words.Beside([]agreement.Severity{few}, whole)
	assert.Equal(t, "Too few marks stand beside each other to say who marks lower. It takes 20 marks on 5 candidates that another examiner saw too.", lead+" "+sure)
	lead, _ = words.Beside(nil, whole)
	assert.Equal(t, "Nobody has marked beside another yet.", lead)
	assert.Equal(t, "too few to say", words.Severity(few))
	assert.Equal(t, "1 mark on 1 candidate; it takes 20 on 5 candidates at least", words.SeverityRange(few))
	assert.Equal(t, "If all had marked alike, none of 54 results would be another.", words.AlikeChanges(54, 0, 0))
	assert.Equal(t, "If all had marked alike, 1 retest would have been a promotion and 2 promotions would have been none, of 9 results.", words.AlikeChanges(9, 1, 2))
	assert.Equal(t, "If all had marked alike, 4 retests would have been promotions, of 113 results.", words.AlikeChanges(113, 4, 0))
	assert.Equal(t, []string{"+0.45", "−0.27", "+1.30"}, []string{words.Moved(scoring.Whole(45) / 100), words.Moved(-scoring.Whole(27) / 100), words.Moved(scoring.Whole(13) / 10)})
	three := []string{"a", "b", "c"}
	assert.Equal(t, "A panel of these 3 is steady enough to decide by; one of them alone is not.", words.Steady(agreement.Correlation{Examiners: three, Single: 0.74, Average: 0.75}))
	assert.Equal(t, "Each of them alone is steady enough to decide by.", words.Steady(agreement.Correlation{Examiners: three, Single: 0.75, Average: 0.9}))
	assert.Contains(t, words.Steady(agreement.Correlation{Examiners: three, Single: 0.4, Average: 0.74}), "is not steady yet")
	part := agreement.Part{Agreement: 0.4, Means: map[string]float64{"D. Duvall": 2, "M. Moriarty": 6.25}}
	assert.Equal(t, "D 1.0 · M 3.1", words.Apart(part, map[string]string{"D. Duvall": "D", "M. Moriarty": "M"}, half))
	part.Agreement = 0.95
	assert.Equal(t, "alike", words.Apart(part, nil, half))
	assert.Equal(t, "0.25 points", words.AStep(scoring.Scale{Step: scoring.Whole(1) / 4}))
}
