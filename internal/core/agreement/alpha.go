package agreement

import (
	"cmp"
	"maps"
	"slices"
)

// ordinal holds what ordinal marks are compared by: how often each was given, and how far apart two of them lie. Marks
// with many between them lie further apart than marks that nobody ever gave between.
type ordinal struct {
	values   []float64 // in order
	count    []float64 // of each, in units that at least two saw
	n        float64
	expected float64 // the mean distance of any two marks given
}

// ordinalOf reads the marks of units that at least two saw.
func ordinalOf(units []Unit) ordinal {
	counts := map[float64]float64{}
	o := ordinal{}
	for _, u := range units {
		if len(u.Marks) < 2 {
			continue
		}
		for _, x := range u.Marks {
			counts[x]++
			o.n++
		}
	}
	o.values = slices.Sorted(maps.Keys(counts))
	for _, v := range o.values {
		o.count = append(o.count, counts[v])
	}
	for a := range o.values {
		for b := range o.values {
			o.expected += o.count[a] * o.count[b] * o.apart(a, b)
		}
	}
	if o.n > 1 {
		o.expected /= o.n * (o.n - 1)
	}
	return o
}

// apart is the squared distance of two marks, by their places: all marks from one to the other, of both ends half.
func (o ordinal) apart(a, b int) float64 {
	if a > b {
		a, b = b, a
	}
	sum := -(o.count[a] + o.count[b]) / 2
	for i := a; i <= b; i++ {
		sum += o.count[i]
	}
	if a == b {
		return 0
	}
	return sum * sum
}

// observed is the mean distance of two marks of one unit.
func (o ordinal) observed(u Unit) float64 {
	var at []int
	for _, x := range u.Marks {
		place, _ := slices.BinarySearch(o.values, x)
		at = append(at, place)
	}
	slices.Sort(at)
	sum := 0.0
	for i, a := range at {
		for _, b := range at[i+1:] {
			sum += 2 * o.apart(a, b)
		}
	}
	return sum / float64(len(at)*(len(at)-1))
}

// Alpha is Krippendorff's alpha for ordinal marks, over all units that at least two saw: 0 chance, 1 always alike. ok is
// false where only one mark was ever given, or fewer than two marks stand beside each other.
//
//	alpha = 1 − observed / expected distance
func Alpha(units []Unit) (alpha float64, ok bool) {
	o := ordinalOf(units)
	if o.expected == 0 {
		return 0, false
	}
	sum := 0.0
	for _, u := range units {
		if n := len(u.Marks); n >= 2 {
			sum += float64(n) * o.observed(u)
		}
	}
	return 1 - sum/o.n/o.expected, true
}

// Part is how far examiners agree on one thing: an item, or a candidate.
type Part struct {
	Name      string
	Units     int                // that at least two saw
	Agreement float64            // 0 as chance would have it, or worse; 1 always alike
	Means     map[string]float64 // examiner → mean mark, in scale steps above the lowest
}

// Parts are how far examiners agree on each thing of a kind, the least first. of names what a unit belongs to; "" leaves
// it out.
func Parts(units []Unit, of func(Unit) string) (out []Part) {
	o := ordinalOf(units)
	if o.expected == 0 {
		return nil
	}
	type sums struct {
		observed, n float64
		units       int
		sum         map[string]float64
		marks       map[string]float64
	}
	by := map[string]*sums{}
	for _, u := range units {
		name := of(u)
		if len(u.Marks) < 2 || name == "" {
			continue
		}
		x := by[name]
		if x == nil {
			x = &sums{sum: map[string]float64{}, marks: map[string]float64{}}
			by[name] = x
		}
		n := float64(len(u.Marks))
		x.observed, x.n, x.units = x.observed+n*o.observed(u), x.n+n, x.units+1
		for name, mark := range u.Marks {
			x.sum[name] += mark
			x.marks[name]++
		}
	}
	for _, name := range slices.Sorted(maps.Keys(by)) {
		x := by[name]
		p := Part{Name: name, Units: x.units, Agreement: max(0, 1-x.observed/x.n/o.expected), Means: map[string]float64{}}
		for examiner := range x.sum {
			p.Means[examiner] = x.sum[examiner] / x.marks[examiner]
		}
		out = append(out, p)
	}
	slices.SortStableFunc(out, func(a, b Part) int { return cmp.Compare(a.Agreement, b.Agreement) })
	return out
}
