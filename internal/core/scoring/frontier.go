package scoring

import (
	"cmp"
	"math"
	"math/big"
	"slices"
)

// curve is the best a sheet's figure can become in 0, 1, 2 … steps.
type curve struct {
	points   []Decimal
	items    []int // the item of each step
	possible Decimal
	clamp    bool
	end      Decimal // after all steps there are
	cut      bool    // and points stop before
}

// frontier asks how few steps, spread over the sheets, move an aggregate over a target.
// Ratios are held as whole multiples of one over a common denominator.
type frontier struct {
	curves []curve
	rule   PanelRule
	up     bool
	values [][]int64 // per sheet, after 0, 1, 2 … steps
	ends   []int64   // per sheet, after all steps
	cut    bool      // some sheet's values stop before
	goal   int64     // the least sum of the used values that meets the target
}

// maxDenominator keeps the sum of MaxExaminers values inside 64 bits.
const maxDenominator = 1 << 55

// scale brings all ratios to one denominator; false where it would be too large, which
// takes many examiners who each missed different items of odd weights.
func (f *frontier) scale(target *big.Rat) bool {
	common := int64(1)
	gcds := make([]int64, len(f.curves))
	for j, c := range f.curves {
		g := gcd(int64(c.possible), int64(c.end))
		for _, v := range c.points {
			g = gcd(g, int64(v))
		}
		gcds[j] = g
		possible := int64(c.possible) / g
		if common /= gcd(common, possible); common > maxDenominator/possible {
			return false
		}
		common *= possible
	}
	for j, c := range f.curves {
		factor := common / (int64(c.possible) / gcds[j])
		at := func(v Decimal) int64 {
			if c.clamp {
				v = min(max(v, 0), c.possible)
			}
			return int64(v) / gcds[j] * factor
		}
		row := make([]int64, len(c.points))
		for n, v := range c.points {
			row[n] = at(v)
		}
		f.values, f.ends, f.cut = append(f.values, row), append(f.ends, at(c.end)), f.cut || c.cut
	}
	used := len(f.curves)
	switch {
	case f.rule == Median:
		used = 2 - used%2
	case f.rule == TrimmedMean && used >= 5:
		used -= 2
	}
	goal := new(big.Rat).Mul(target, new(big.Rat).SetInt64(common*int64(used)))
	whole, rest := new(big.Int).QuoRem(goal.Num(), goal.Denom(), new(big.Int))
	if rest.Sign() > 0 {
		whole.Add(whole, big.NewInt(1))
	}
	if !whole.IsInt64() {
		whole.SetInt64(math.MaxInt64) // a target above every sum
	}
	f.goal = whole.Int64()
	return true
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return max(a, -a)
}

// met reports whether the aggregate of the values is over the target, in the direction asked.
func (f frontier) met(values []int64) bool {
	sum := int64(0)
	if f.rule == Median || f.rule == TrimmedMean && len(values) >= 5 {
		var room [16]int64
		sorted := append(room[:0], values...)
		slices.Sort(sorted)
		if f.rule == TrimmedMean {
			sorted = sorted[1 : len(sorted)-1]
		} else {
			sorted = sorted[(len(sorted)-1)/2 : len(sorted)/2+1]
		}
		values = sorted
	}
	for _, v := range values {
		sum += v
	}
	return (sum >= f.goal) == f.up
}

// least returns the steps per sheet. When exact is false only their least sum is known, as
// steps[0]. found is false where no number of steps is enough.
func (f frontier) least() (steps []int, exact, found bool) {
	m := len(f.curves)
	chosen := slices.Clone(f.ends)
	if !f.met(chosen) {
		return nil, false, false
	}
	switch {
	case f.rule == Median && m%2 == 1:
		steps, exact = f.middle()
		return steps, exact, true
	case f.rule == Mean || f.rule == TrimmedMean && m < 5:
		steps, exact = f.spread()
		return steps, exact, true
	}
	steps = make([]int, m)
	effort := effortFigure
	var try func(j, left int) bool
	try = func(j, left int) bool {
		if effort--; effort < 0 {
			return false
		}
		if j == m-1 {
			if left >= len(f.values[j]) {
				return false
			}
			steps[j], chosen[j] = left, f.values[j][left]
			return f.met(chosen)
		}
		// Prune where even all the steps left on every sheet at once are not enough.
		for i := j; i < m; i++ {
			chosen[i] = f.values[i][min(left, len(f.values[i])-1)]
		}
		if !f.met(chosen) {
			return false
		}
		for n := min(left, len(f.values[j])-1); n >= 0; n-- {
			steps[j], chosen[j] = n, f.values[j][n]
			if try(j+1, left-n) {
				return true
			}
		}
		return false
	}
	for n := 0; ; n++ {
		if try(0, n) {
			return steps, true, true
		}
		if effort < 0 || f.cut && n == longestCurve { // past it values are missing
			return []int{n}, false, true
		}
	}
}

// middle is least for the median of an odd number of sheets: more than half of them must
// be over the target, so the cheapest are.
// Where sheets that are needed are cut before they are over it, their steps are at least those they were followed.
func (f frontier) middle() (steps []int, exact bool) {
	costs := make([][2]int, 0, len(f.values))
	for j, row := range f.values {
		if n := slices.IndexFunc(row, func(v int64) bool { return (v >= f.goal) == f.up }); n >= 0 {
			costs = append(costs, [2]int{j, n})
		} else if f.curves[j].cut && (f.ends[j] >= f.goal) == f.up {
			costs = append(costs, [2]int{j, len(row)})
		}
	}
	slices.SortStableFunc(costs, func(a, b [2]int) int { return cmp.Compare(a[1], b[1]) })
	steps, exact = make([]int, len(f.values)), true
	sum := 0
	for _, c := range costs[:len(f.values)/2+1] {
		steps[c[0]] = c[1]
		sum += c[1]
		exact = exact && c[1] < len(f.values[c[0]])
	}
	if !exact {
		return []int{sum}, false
	}
	return steps, true
}

// spread is least for the mean: a table of the best sum in n steps over the first sheets,
// grown until it reaches the target. Exact also where the clamp at nothing or at the
// possible points makes the first steps of a sheet worthless.
// Where the table grows too large first, the least sum that it rules out is answered.
func (f frontier) spread() (steps []int, exact bool) {
	m := len(f.values)
	ruledOut := 0 // sums below it
	for limit := 8; ; limit *= 2 {
		if f.cut { // past it values are missing
			limit = min(limit, longestCurve)
		}
		if m*limit*limit/2 > effortTable {
			return []int{ruledOut}, false
		}
		best := []int64{0}
		choice := make([][]int, m)
		for j, row := range f.values {
			next := make([]int64, min(limit, len(best)+len(row)-2)+1)
			choice[j] = make([]int, len(next))
			for n := range next {
				first := max(0, n-len(best)+1)
				for x := first; x <= min(n, len(row)-1); x++ {
					v := best[n-x] + row[x]
					if x == first || v != next[n] && (v > next[n]) == f.up {
						next[n], choice[j][n] = v, x
					}
				}
			}
			best = next
		}
		for n, v := range best {
			if (v >= f.goal) != f.up {
				continue
			}
			steps := make([]int, m)
			for j := m - 1; j >= 0; j-- {
				steps[j] = choice[j][n]
				n -= steps[j]
			}
			return steps, true
		}
		if ruledOut = len(best); f.cut && limit == longestCurve {
			return []int{ruledOut}, false
		}
	}
}
