package scoring

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestByHandDecidesAsTheTally: whoever adds up a sheet with the figures on paper comes to the tally's verdict, under any
// rules, wherever everything was seen; and to incomplete where too little was.
func TestByHandDecidesAsTheTally(t *testing.T) {
	rng := rand.New(rand.NewPCG(17, 6))
	verdicts := map[bool]int{}
	for range 5000 {
		p := MovementScale()
		p.Scale.Honours, p.Rules.AllowedFailing, p.Rules.IgnoreMustPass = nil, nil, rng.IntN(3) == 0
		items, sheet, stands := make([]Item, 1+rng.IntN(6)), Sheet{Deductions: Whole(rng.IntN(4)) / 2}, []*Decimal(nil)
		if rng.IntN(3) == 0 {
			p.Scale.Step = unit / 2
		}
		for k := range items {
			items[k] = Item{Weight: 1 + rng.IntN(3), Bonus: k > 0 && rng.IntN(5) == 0, MustPass: rng.IntN(4) == 0, Section: []string{"Kicks", "Forms"}[k%2]}
			sheet.Marks = append(sheet.Marks, Seen(p.Scale.Step*Decimal(rng.IntN(int(p.Scale.Highest/p.Scale.Step)+1))))
			stands = append(stands, nil)
			if k > 0 && rng.IntN(4) == 0 {
				stands[k] = &sheet.Marks[k].Value
			}
		}
		if rng.IntN(2) == 0 {
			p.Rules.Threshold = ptr(Decimal(rng.IntN(10*len(items))) * unit / 2)
		}
		if rng.IntN(2) == 0 {
			p.Rules.AllowedFailing = ptr(rng.IntN(3))
		}
		if rng.IntN(2) == 0 {
			p.Rules.SectionMinima = []SectionMinimum{{"Kicks", Decimal(rng.IntN(101)) * unit / 100}}
		}
		b := p.ByHand(items, stands)

		// What an examiner does with a pencil.
		points, kicks, failing, musts := b.Stood, Decimal(0), 0, 0
		for k, it := range items {
			mark := sheet.Marks[k].Value
			if stands[k] == nil {
				points += Decimal(it.Weight) * mark
			}
			if it.Bonus {
				continue
			}
			if it.Section == "Kicks" {
				kicks += Decimal(it.Weight) * mark
			}
			if b.Failing != nil && mark <= *b.Failing {
				failing++
				if it.MustPass && b.Must {
					musts++
				}
			}
		}
		sum := min(max(points-sheet.Deductions, 0), b.Full)
		passes := (b.Threshold == nil || sum >= *b.Threshold) && (b.Allowed == nil || failing <= *b.Allowed) && musts == 0
		for _, s := range b.Sections {
			passes = passes && kicks >= s.Least
		}
		tally := p.Tally(items, sheet)
		require.True(t, tally.Complete())
		require.Equal(t, tally.Verdict.Passes(), passes, "%+v %+v %+v", p.Rules, items, sheet)
		require.Equal(t, tally.Points, sum)
		require.Equal(t, tally.Full, b.Full)
		require.Equal(t, tally.Counted, b.Counted)
		verdicts[passes]++

		p.Rules.SectionMinima = nil
		seen := 0
		for k := range items {
			if seen += 1; items[k].Bonus {
				seen--
			} else if seen > b.LeastSeen {
				sheet.Marks[k] = Mark{}
			}
		}
		require.True(t, p.Tally(items, sheet).Complete(), "just enough was seen")
		for k := range items {
			if !items[k].Bonus {
				sheet.Marks[k] = Mark{}
				break
			}
		}
		require.False(t, p.Tally(items, sheet).Complete(), "one fewer is too few")
	}
	assert.Greater(t, min(verdicts[true], verdicts[false]), 1000, "%v", verdicts)
}

// TestByHandInFigures: what stands is told apart, and a minimum is the next sum that marks can make.
func TestByHandInFigures(t *testing.T) {
	p := MovementScale()
	p.Rules.SectionMinima = []SectionMinimum{{"Forms", unit * 6 / 10}, {"Boards", unit / 2}}
	items := []Item{{Weight: 1, Section: "Kicks", MustPass: true}, {Weight: 2, Section: "Kicks"}, {Weight: 3, Section: "Forms"}, {Weight: 1, Section: "Forms", Bonus: true}}
	b := p.ByHand(items, []*Decimal{nil, ptr(Whole(3)), nil, ptr(Whole(4))})
	assert.Equal(t, ByHand{Stood: Whole(10), StoodOf: Whole(8), Full: Whole(24), Failing: ptr(Whole(1)), Allowed: p.Rules.AllowedFailing, Must: true, Weighted: true, Counted: 3, LeastSeen: 3,
		Sections: []SectionByHand{{"Forms", Whole(8), Whole(12)}, {"Boards", 0, 0}}}, b, "0.6 of 12 is 7.2, and marks are whole; nothing of Boards is asked")
	assert.False(t, p.Tally(items, Sheet{Marks: []Mark{Seen(Whole(4)), Seen(Whole(4)), Seen(Whole(4)), Seen(Whole(4))}}).Complete(), "and so no sheet is complete")
	p.Scale.Lowest = unit / 3
	assert.Equal(t, "7.2", p.ByHand(items, nil).Sections[0].Least.String(), "marks between whole numbers: no rounding")
	p.Rules.IgnoreMustPass = true
	assert.False(t, p.ByHand(items, nil).Must)
	assert.False(t, p.ByHand(items[:1], nil).Weighted)
}

// TestWeightsOnPaper: a sheet says "counts n times" where an item counts more than once, and not else.
func TestWeightsOnPaper(t *testing.T) {
	items := itemsOf(2)
	assert.False(t, MovementScale().ByHand(items, nil).Weighted)
	items[1].Weight = 2
	assert.True(t, MovementScale().ByHand(items, nil).Weighted)
}
