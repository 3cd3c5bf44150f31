package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

// TestSums: what an examiner adds up on paper, by the rules that are on; a rule that is off asks for nothing.
func TestSums(t *testing.T) {
	p := scoring.MovementScale()
	t34 := scoring.Whole(34)
	p.Rules.Threshold, p.Rules.SectionMinima = &t34, []scoring.SectionMinimum{{Section: "Forms", Ratio: scoring.Whole(1) / 2}, {Section: "Boards", Ratio: scoring.Whole(1) / 2}}
	three := scoring.Whole(3)
	items := []scoring.Item{{Weight: 2, Section: "Forms", MustPass: true}, {Weight: 1, Section: "Kicks"}}
	both := []scoring.ByHand{p.ByHand(items, nil), p.ByHand(items, []*scoring.Decimal{nil, &three})}
	assert.Equal(t, []words.Sum{
		{Label: "Marks of this sheet, added up, each as often as it counts", Boxes: []string{"", ""}},
		{Label: "Stands from an earlier attempt", Boxes: []string{"0", "3"}, Given: true},
		{Label: "Taken off for faults", Boxes: []string{"", ""}},
		{Label: "Sum, never below 0 nor above what was possible", Boxes: []string{"of 12", "of 12"}},
		{Label: "Threshold; exactly at it is enough", Boxes: []string{"34", "34"}, Given: true},
		{Label: "Forms alone, before anything is taken off", Boxes: []string{"≥ 4 of 8", "≥ 4 of 8"}},
		{Label: "Boards alone, before anything is taken off", Boxes: []string{"incomplete", "incomplete"}},
		{Label: "Marks of 1 or below", Boxes: []string{"up to 2", "up to 2"}},
		{Label: "Of these, marked ◆", Boxes: []string{"none", "none"}},
		{Label: "Marks given; with fewer the sheet is incomplete", Boxes: []string{"≥ 2 of 2", "≥ 2 of 2"}},
		{Label: "Result of this sheet: pass, retest or incomplete", Boxes: []string{"", ""}},
	}, words.Sums(p, both))
	assert.Equal(t, "Where a mark is missing, the threshold is the same share of what was possible: threshold × possible ÷ all points. Earliest retest, where the panel comes to one: Sat 9 Jan 2027.", words.AfterSums(p, civil.MustParse("2027-01-09")))
	assert.Equal(t, "Earliest retest, where the panel comes to one: Sat 9 Jan 2027.", words.AfterSums(scoring.Policy{}, civil.MustParse("2027-01-09")))

	p = scoring.Policy{Scale: scoring.Scale{Highest: scoring.Whole(10), Step: scoring.Whole(1)}}
	var labels []string
	for _, s := range words.Sums(p, []scoring.ByHand{p.ByHand(items[1:], nil)}) {
		labels = append(labels, s.Label)
	}
	assert.Equal(t, []string{"Marks of this sheet, added up", "Taken off for faults", "Sum, never below 0 nor above what was possible", "Marks given; with fewer the sheet is incomplete", "Result of this sheet: pass, retest or incomplete"}, labels)
}
