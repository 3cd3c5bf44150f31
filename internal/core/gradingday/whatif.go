package gradingday

import (
	"fmt"
	"slices"
)

// SwapKind is what goes with a day that is otherwise than planned.
type SwapKind string

// The kinds of swaps; the words behind name the fields of a Swap they use.
const (
	ExaminesThere SwapKind = "examines there" // Name
	ToBeFound     SwapKind = "to be found"    // N people more
	TakesTheSeat  SwapKind = "takes the seat" // Name
	RingsClose    SwapKind = "rings close"    // those without a full panel
	RingCloses    SwapKind = "ring closes"    // Name ring
	GoesOn        SwapKind = "goes on"        // Name ring, N left on its panel
)

// Swap is one thing that goes with a day that is otherwise than planned.
type Swap struct {
	Kind SwapKind
	Name string
	N    int
}

// OneRingMore is the day with another ring, for which spare examiners are taken, of the highest rank
// first. Where they are too few, examiners still to be found stand in for them, who may examine anybody; a swap
// then names how many.
func OneRingMore(d Day, spare []DayExaminer) (out Day, swaps []Swap) {
	out = d
	out.Rings = append(slices.Clone(d.Rings), Ring{ID: "one more", Name: "Ring " + string(rune('A'+len(d.Rings)))})
	out.Examiners = slices.Clone(d.Examiners)
	size := 1
	for r := range d.Rings {
		n := 0
		for _, e := range d.Examiners {
			if e.Ring == r {
				n++
			}
		}
		size = max(size, n)
	}
	ring := len(d.Rings)
	spare = byRank(spare)
	for k := range size {
		e := DayExaminer{ID: fmt.Sprint("to be found ", k), Name: "An examiner to be found", Rank: RankUnknown, Ring: ring}
		if k < len(spare) {
			e = spare[k]
			e.Ring = ring
			swaps = append(swaps, Swap{Kind: ExaminesThere, Name: e.Name})
		}
		out.Examiners = append(out.Examiners, e)
	}
	if n := size - len(spare); n > 0 {
		swaps = append(swaps, Swap{Kind: ToBeFound, N: n})
	}
	out.PanelSize = size
	return out, swaps
}

func byRank(all []DayExaminer) []DayExaminer {
	out := slices.Clone(all)
	slices.SortStableFunc(out, func(a, b DayExaminer) int { return b.Rank - a.Rank })
	return out
}

// Slower is the day with everything taking so many percent longer, rounded up to the minute.
func Slower(d Day, percent int) Day {
	d.Groups = slices.Clone(d.Groups)
	for i := range d.Groups {
		g := &d.Groups[i]
		g.First, g.Then = (g.First*(100+percent)+99)/100, (g.Then*(100+percent)+99)/100
	}
	return d
}

// Without is the day without one examiner: a spare one of the highest rank takes the seat; where
// there is none, the panel goes on as 3 or 1, or its ring closes. Where the plan shares out the examiners,
// rings for which no full panel is left close.
func Without(d Day, spare []DayExaminer, id string) (out Day, swaps []Swap) {
	out = d
	out.Examiners = slices.Clone(d.Examiners)
	i := slices.IndexFunc(out.Examiners, func(e DayExaminer) bool { return e.ID == id })
	if i < 0 {
		return out, nil
	}
	ill := out.Examiners[i]
	if len(spare) > 0 {
		e := byRank(spare)[0]
		e.Ring, e.Chief = ill.Ring, ill.Chief
		out.Examiners[i] = e
		return out, []Swap{{Kind: TakesTheSeat, Name: e.Name}}
	}
	out.Examiners = slices.Delete(out.Examiners, i, i+1)
	if out.Share || ill.Ring < 0 || ill.Ring >= len(out.Rings) {
		return out, []Swap{{Kind: RingsClose}}
	}
	name, left := d.Rings[ill.Ring].Name, len(Named(out)[ill.Ring])
	if left == 0 {
		return out, []Swap{{Kind: RingCloses, Name: name}}
	}
	return out, []Swap{{Kind: GoesOn, Name: name, N: left}}
}
