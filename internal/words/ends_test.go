package words

import (
	"math/big"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// TestSentencesAtTheirEnds: the least of what a sentence counts: one, two, the first step, a millimetre.
func TestSentencesAtTheirEnds(t *testing.T) {
	assert.Contains(t, briefWay(gradingday.Briefing{Panel: 2})[0], "2 examiners look")
	one := gradingday.Briefing{Policy: scoring.MovementScale(), Panel: 2, Sheets: []gradingday.BriefSheet{{For: "Yellow", Must: []string{"Jab"}}, {For: "Green"}}}
	passed := strings.Join(briefPass(one), " ")
	assert.Contains(t, passed, "For Yellow these must be sound by themselves: Jab.")
	assert.NotContains(t, passed, "For Green", "nothing is asked there by itself")
	assert.Contains(t, passed, "more than half of the examiners")
	one.Panel = 1
	assert.NotContains(t, strings.Join(briefPass(one), " "), "more than half", "there is one")

	assert.Equal(t, "Gate, step 1", Where(curriculum.Where{Technique: "Gate", Step: 1}))
	assert.Equal(t, "Gate", Where(curriculum.Where{Technique: "Gate"}))
	assert.Equal(t, "Mill drill 1", Where(curriculum.Where{Series: "Mill drill", Number: 1}))

	assert.Equal(t, "Length fine: 0.1 cm over (up to 5.5 cm is fine)", Held(floor.Held{What: "length", Off: 1, Within: 55}))
	assert.Equal(t, "0.1 cm too wide, 0.01 of a shoulder; up to 0 cm is fine", Held(floor.Held{What: "width", Off: 1, Shoulders: 1}))

	// Means are in steps above the lowest mark of the scale.
	from1 := scoring.Scale{Lowest: scoring.Whole(1), Highest: scoring.Whole(5), Step: scoring.Whole(1) / 2}
	assert.Equal(t, "A 2.5 · B 1.0", Apart(agreement.Part{Agreement: 0.5, Means: map[string]float64{"ann": 3, "ben": 0}}, map[string]string{"ann": "A", "ben": "B"}, from1))
	assert.Equal(t, "alike", Apart(agreement.Part{Agreement: 0.95, Means: map[string]float64{"ann": 3}}, nil, from1))

	for figure, want := range map[string]string{"1/8": "0.125", "247013/2": "123506.5", "2470130/3": "823376.66…", "12345675/10": "1234567.50…", "123456785/10": "12345678.50…", "-2/3": "-0.66…", "-1/300": "-0.00…", "0": "0"} {
		r, _ := new(big.Rat).SetString(figure)
		assert.Equal(t, want, plain(r), figure)
	}

	for _, x := range []struct {
		kind  string
		state progress.State
		want  string
	}{{"kit", progress.Unknown, "nobody has looked"}, {"kit", progress.NotMet, "not owned"}, {"kit", progress.Met, ""}, {"measure", progress.Unknown, "not measured; sparring pairs are matched on it"}, {"contact", progress.NotMet, "none is on record"}, {"paper", progress.Unknown, ""}} {
		assert.Equal(t, x.want, CheckDetail(gradingday.CheckItem{Kind: x.kind, State: x.state}), x)
	}

	free := func(q curriculum.Quantity) string {
		return HowMuch(progress.Item{Line: curriculum.Line{Kind: "combination", Quantity: q, Free: true}})
	}
	assert.Contains(t, free(curriculum.Quantity{Measure: curriculum.Timed, Seconds: 60}), "of your own choice")
	assert.Equal(t, "3 of your own choice", free(curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 3}), "said once")
}
