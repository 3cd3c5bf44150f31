package agreement

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestPublishedCorrelation: six targets by four judges.
func TestPublishedCorrelation(t *testing.T) {
	single, average, ok := correlation([][]float64{{9, 2, 5, 8}, {6, 1, 3, 2}, {8, 4, 6, 8}, {7, 1, 2, 6}, {10, 5, 6, 9}, {6, 2, 4, 7}})
	require.True(t, ok)
	assert.Equal(t, "0.290 0.620", fmt.Sprintf("%.3f %.3f", single, average))
}

// four are the units of four raters' marks, 0 standing for a gap.
func four(rows [4][12]float64) (units []Unit) {
	for k := range rows[0] {
		u := Unit{Candidate: fmt.Sprint(k), Item: "i", Marks: map[string]float64{}}
		for r, row := range rows {
			if row[k] > 0 {
				u.Marks[string(rune('a'+r))] = row[k]
			}
		}
		units = append(units, u)
	}
	return units
}

// TestPublishedAlpha: twelve units by four raters, with gaps.
func TestPublishedAlpha(t *testing.T) {
	alpha, ok := Alpha(four([4][12]float64{
		{1, 2, 3, 3, 2, 1, 4, 1, 2, 0, 0, 0},
		{1, 2, 3, 3, 2, 2, 4, 1, 2, 5, 0, 3},
		{0, 3, 3, 3, 2, 3, 4, 2, 2, 5, 1, 0},
		{1, 2, 3, 3, 2, 4, 4, 1, 2, 5, 1, 0},
	}))
	require.True(t, ok)
	assert.Equal(t, "0.815", fmt.Sprintf("%.3f", alpha))
}

// panel are units of some candidates and items, with what each examiner gives to a performance.
func panel(candidates, items int, give map[string]func(c, i int) float64) (units []Unit) {
	for c := range candidates {
		for i := range items {
			u := Unit{Candidate: fmt.Sprint("c", c), Item: fmt.Sprint("i", i), Marks: map[string]float64{}}
			for name, f := range give {
				if x := f(c, i); x >= 0 {
					u.Marks[name] = x
				}
			}
			units = append(units, u)
		}
	}
	return units
}

func TestSeverity(t *testing.T) {
	plain := func(c, i int) float64 { return float64((c + i) % 3) }
	lower := func(c, i int) float64 { return plain(c, i) + 1 - float64(c%2)/2 - 0.75 }
	for _, x := range []struct {
		name              string
		candidates, items int
		enough            bool
	}{
		{"five candidates, twenty marks", 5, 4, true}, {"four candidates", 4, 20, false}, {"nineteen marks", 19, 1, false}, {"twenty of twenty", 20, 1, true},
	} {
		all := Severities(panel(x.candidates, x.items, map[string]func(int, int) float64{"a": plain, "b": plain, "c": func(c, i int) float64 { return plain(c, i) + 1 }}))
		require.Len(t, all, 3, x.name)
		assert.Equal(t, x.enough, all[2].Enough, x.name)
		assert.Equal(t, []int{x.candidates * x.items, x.candidates}, []int{all[2].Marks, all[2].Candidates}, x.name)
		assert.InDelta(t, 1, all[2].Mean, 1e-12, x.name)
		assert.InDelta(t, -0.5, all[0].Mean, 1e-12, "%s: the mean of the two others is half a step above", x.name)
		if x.enough {
			assert.InDelta(t, 1, all[2].Low, 1e-9)
			assert.Equal(t, 100, all[2].Hundredths())
			assert.Equal(t, -50, all[0].Hundredths())
		} else {
			assert.Zero(t, all[2].Hundredths(), x.name)
			assert.Zero(t, all[2].High, "%s: nothing is computed", x.name)
		}
	}
	// Half a step up and down in turn, on six candidates: -0.25 and 0.25 around nothing.
	all := Severities(panel(6, 4, map[string]func(int, int) float64{"a": plain, "b": lower}))
	require.Len(t, all, 2)
	assert.InDelta(t, 0, all[1].Mean, 1e-12)
	// t with 5 degrees of freedom is 2.5706; the deviation of ±0.25 over six is 0.27386.
	assert.InDelta(t, 2.5706*0.273861/math.Sqrt(6), all[1].High, 1e-4)
	assert.InDelta(t, -all[1].High, all[1].Low, 1e-12)
	assert.False(t, all[1].Sure())
	assert.Zero(t, all[1].Hundredths(), "what is not sure moves nothing")
	assert.Empty(t, Severities(panel(9, 9, map[string]func(int, int) float64{"alone": plain})), "nobody stands beside them")
	// What others did not see does not count, nor does a candidate with many items count for more.
	uneven := append(panel(1, 30, map[string]func(int, int) float64{"a": plain, "b": func(c, i int) float64 { return plain(c, i) + 2 }}), panel(4, 1, map[string]func(int, int) float64{"a": plain, "b": plain})...)
	uneven = append(uneven, Unit{Candidate: "x", Item: "y", Marks: map[string]float64{"b": 9}})
	for i := 30; i < len(uneven); i++ {
		uneven[i].Candidate += " later"
	}
	all = Severities(uneven)
	assert.Equal(t, []int{34, 5}, []int{all[1].Marks, all[1].Candidates})
	assert.InDelta(t, 2.0/5, all[1].Mean, 1e-12)
}

func TestCorrelate(t *testing.T) {
	plain := func(c, i int) float64 { return float64((c*7 + i*3) % 5) }
	gap := func(c, i int) float64 {
		if i == 0 {
			return -1
		}
		return plain(c, i)
	}
	units := panel(6, 5, map[string]func(int, int) float64{"a": plain, "b": plain, "c": gap})
	c, ok := Correlate(units, []string{"a", "b", "c"})
	require.True(t, ok)
	assert.Equal(t, 24, c.Units, "those that all of them saw")
	assert.InDelta(t, 1, c.Single, 1e-9)
	assert.InDelta(t, 1, c.Average, 1e-9)
	for name, x := range map[string][]Unit{
		"few candidates": panel(4, 9, map[string]func(int, int) float64{"a": plain, "b": plain}),
		"few units":      panel(19, 1, map[string]func(int, int) float64{"a": plain, "b": plain}),
		"nothing varies": panel(9, 9, map[string]func(int, int) float64{"a": func(int, int) float64 { return 2 }, "b": func(int, int) float64 { return 2 }}),
	} {
		_, ok = Correlate(x, []string{"a", "b"})
		assert.False(t, ok, name)
	}
	_, ok = Correlate(units, []string{"a"})
	assert.False(t, ok, "one alone")
	few := panel(5, 4, map[string]func(int, int) float64{"a": plain, "b": plain})
	_, ok = Correlate(few, []string{"a", "b"})
	assert.True(t, ok, "five candidates and twenty units are enough")
	assert.Equal(t, [][]string{{"a", "b", "c"}, {"a", "b"}}, Panels(units), "the most units first")
	assert.Empty(t, Panels(panel(3, 3, map[string]func(int, int) float64{"a": plain})))
}

func TestParts(t *testing.T) {
	plain := func(c, i int) float64 { return float64(c % 4) }
	units := panel(8, 3, map[string]func(int, int) float64{"a": plain, "b": func(c, i int) float64 {
		if i == 1 {
			return float64(3 - c%4)
		}
		return plain(c, i)
	}})
	parts := Parts(units, func(u Unit) string { return u.Item })
	require.Len(t, parts, 3)
	assert.Equal(t, "i1", parts[0].Name, "where they part most comes first")
	assert.Zero(t, parts[0].Agreement, "worse than chance is none")
	assert.Equal(t, 8, parts[0].Units)
	assert.InDelta(t, 1, parts[1].Agreement, 1e-12)
	assert.InDelta(t, 1.5, parts[1].Means["b"], 1e-12)
	assert.Len(t, Parts(units, func(u Unit) string { return u.Candidate }), 8)
	assert.Empty(t, Parts(units, func(Unit) string { return "" }))
	assert.Empty(t, Parts(nil, func(Unit) string { return "x" }))
	_, ok := Alpha(panel(9, 9, map[string]func(int, int) float64{"a": func(int, int) float64 { return 1 }, "b": func(int, int) float64 { return 1 }}))
	assert.False(t, ok, "one mark alone says nothing")
	_, ok = Alpha(nil)
	assert.False(t, ok)
}

// alphaBySecondWay is alpha from the matrix of coincidences, as it is taught: each pair of marks of a unit counts
// 1/(m−1) in it.
func alphaBySecondWay(units []Unit) (float64, bool) {
	values := map[float64]bool{}
	coincide := map[[2]float64]float64{}
	for _, u := range units {
		var marks []float64
		for _, x := range u.Marks {
			marks = append(marks, x)
		}
		for i, a := range marks {
			for j, b := range marks {
				if i != j {
					coincide[[2]float64{a, b}] += 1 / float64(len(marks)-1)
					values[a], values[b] = true, true
				}
			}
		}
	}
	total := map[float64]float64{}
	n := 0.0
	for pair, x := range coincide {
		total[pair[0]] += x
		n += x
	}
	delta := func(a, b float64) float64 {
		lo, hi := min(a, b), max(a, b)
		sum := 0.0
		for v := range values {
			if v >= lo && v <= hi {
				sum += total[v]
			}
		}
		sum -= (total[lo] + total[hi]) / 2
		if a == b {
			return 0
		}
		return sum * sum
	}
	observed, expected := 0.0, 0.0
	for a := range values {
		for b := range values {
			observed += coincide[[2]float64{a, b}] * delta(a, b)
			expected += total[a] * total[b] * delta(a, b)
		}
	}
	if expected == 0 {
		return 0, false
	}
	return 1 - (n-1)*observed/expected, true
}

// TestAgreementInRandomPanels: against a second way to reckon, and laws: the order of units plays no part; the same
// step added to all marks changes nothing; a step added to one examiner's moves their severity by as much.
func TestAgreementInRandomPanels(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		names := []string{"a", "b", "c", "d"}[:rapid.IntRange(2, 4).Draw(t, "examiners")]
		var units []Unit
		for c := range rapid.IntRange(1, 8).Draw(t, "candidates") {
			for i := range rapid.IntRange(1, 6).Draw(t, "items") {
				u := Unit{Candidate: fmt.Sprint(c), Item: fmt.Sprint(i), Marks: map[string]float64{}}
				for _, name := range names {
					if rapid.IntRange(0, 4).Draw(t, "seen") > 0 {
						u.Marks[name] = float64(rapid.IntRange(0, 4).Draw(t, "mark"))
					}
				}
				units = append(units, u)
			}
		}
		alpha, ok := Alpha(units)
		want, can := alphaBySecondWay(units)
		require.Equal(t, can, ok)
		require.InDelta(t, want, alpha, 1e-9)
		turned, raised := []Unit{}, []Unit{}
		for k := range units {
			turned = append(turned, units[len(units)-1-k])
			u := units[k]
			u.Marks = map[string]float64{}
			for name, x := range units[k].Marks {
				u.Marks[name] = x
				if name == "a" {
					u.Marks[name]++
				}
			}
			raised = append(raised, u)
		}
		before, back, after := Severities(units), Severities(turned), Severities(raised)
		require.Equal(t, len(before), len(back))
		for k, s := range before {
			require.InDelta(t, s.Mean, back[k].Mean, 1e-9)
			require.Equal(t, s.Enough, back[k].Enough)
			if s.Enough {
				require.InDelta(t, s.Low, back[k].Low, 1e-9)
				require.True(t, s.Low <= s.Mean && s.Mean <= s.High)
			}
			if s.Examiner == "a" {
				require.InDelta(t, s.Mean+1, after[k].Mean, 1e-9)
				require.InDelta(t, s.High-s.Low, after[k].High-after[k].Low, 1e-9)
			}
		}
		if ok {
			sum, n := 0.0, 0.0
			o := ordinalOf(units)
			for _, p := range Parts(units, func(u Unit) string { return u.Item }) {
				require.True(t, p.Agreement >= 0 && p.Agreement <= 1)
				n += float64(p.Units)
			}
			for _, u := range units {
				if len(u.Marks) > 1 {
					sum += float64(len(u.Marks)) * (1 - o.observed(u)/o.expected)
					n--
				}
			}
			require.Zero(t, n, "every unit belongs to one item")
			require.InDelta(t, alpha, sum/o.n, 1e-9)
		}
	})
}
