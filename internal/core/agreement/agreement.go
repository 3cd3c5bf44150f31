// Package agreement says how far examiners agree where they marked the same performances: who marks lower, by how
// much, on what, and how sure that is.
//
// Figures here are statistics, in scale steps and as floats; no outcome is decided by them. A severity that is to be
// looked at in the sums of a sheet is rounded to hundredths of a step first.
package agreement

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Below so few nothing is computed: it would say more of chance than of an examiner.
const (
	FewCandidates = 5
	FewMarks      = 20
)

// nothing is what sums of equal marks may come to by rounding.
const nothing = 1e-9

// sureness of an interval, in both directions together.
const sureness = 0.95

// Unit is one performance of one item, as several examiners marked it.
type Unit struct {
	Candidate string // of one grading
	Item      string // what was marked, the same for every candidate
	Section   string
	Marks     map[string]float64 // examiner → mark in scale steps above the lowest; who did not see it is missing
}

// Severity is how one examiner marks beside the others on the same items.
type Severity struct {
	Examiner   string
	Marks      int     // of this examiner beside at least one other's
	Candidates int     // on whom they stand
	Mean       float64 // scale steps: below 0 lower than the others, above 0 higher
	Low, High  float64 // between these with 95 in 100; 0 where too few
	Enough     bool    // there are FewCandidates and FewMarks at least
}

// Sure reports whether the examiner marks lower or higher beyond chance.
func (s Severity) Sure() bool { return s.Enough && (s.Low > 0 || s.High < 0) }

// Hundredths is the severity in hundredths of a scale step, rounded half away from zero; 0 where it is not sure.
func (s Severity) Hundredths() int {
	if !s.Sure() {
		return 0
	}
	return int(math.Round(s.Mean * 100))
}

// Severities are those of all examiners who stand beside another, by name. For each candidate the mean over the items
// of the difference to the mean of the others; of these the mean over candidates, with a 95 % t interval.
func Severities(units []Unit) (out []Severity) {
	type sum struct {
		difference float64
		n          int
	}
	by := map[string]map[string]sum{} // examiner → candidate
	for _, u := range units {
		if len(u.Marks) < 2 {
			continue
		}
		total := 0.0
		for _, name := range slices.Sorted(maps.Keys(u.Marks)) {
			total += u.Marks[name]
		}
		for name, mark := range u.Marks {
			if by[name] == nil {
				by[name] = map[string]sum{}
			}
			x := by[name][u.Candidate]
			others := (total - mark) / float64(len(u.Marks)-1)
			by[name][u.Candidate] = sum{x.difference + mark - others, x.n + 1}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(by)) {
		s := Severity{Examiner: name, Candidates: len(by[name])}
		var means []float64
		for _, candidate := range slices.Sorted(maps.Keys(by[name])) {
			x := by[name][candidate]
			s.Marks += x.n
			means = append(means, x.difference/float64(x.n))
		}
		s.Mean = mean(means)
		if s.Enough = s.Candidates >= FewCandidates && s.Marks >= FewMarks; s.Enough {
			half := tQuantile(len(means)-1) * math.Sqrt(variance(means)/float64(len(means)))
			s.Low, s.High = s.Mean-half, s.Mean+half
		}
		out = append(out, s)
	}
	return out
}

// tQuantile is where Student's t with so many degrees of freedom leaves half of what is not sure above it.
func tQuantile(freedom int) float64 {
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(freedom)}.Quantile((1 + sureness) / 2)
}

func square(x float64) float64 { return x * x }

func mean(all []float64) float64 {
	sum := 0.0
	for _, x := range all {
		sum += x
	}
	return sum / float64(len(all))
}

// variance is that of a sample: by one less than there are.
func variance(all []float64) float64 {
	m, sum := mean(all), 0.0
	for _, x := range all {
		sum += square(x - m)
	}
	return sum / float64(len(all)-1)
}

// Correlation is the intraclass correlation of a panel: 0 chance, 1 always alike.
type Correlation struct {
	Examiners []string
	Units     int     // that all of them saw
	Single    float64 // of one of them alone
	Average   float64 // of their mean
}

// Correlate is the intraclass correlation, two-way random, absolute agreement, over the units that all of some
// examiners marked; ok is false where they are too few, or nothing varies. From the mean squares of rows R, columns C
// and error E over n units and k examiners:
//
//	single  = (R − E) / (R + (k−1)E + k(C−E)/n)
//	average = (R − E) / (R + (C−E)/n)
func Correlate(units []Unit, examiners []string) (c Correlation, ok bool) {
	var rows [][]float64
	candidates := map[string]bool{}
	for _, u := range units {
		var row []float64
		for _, name := range examiners {
			if mark, saw := u.Marks[name]; saw {
				row = append(row, mark)
			}
		}
		if len(row) == len(examiners) {
			rows = append(rows, row)
			candidates[u.Candidate] = true
		}
	}
	c = Correlation{Examiners: examiners, Units: len(rows)}
	if len(examiners) < 2 || len(candidates) < FewCandidates || len(rows) < FewMarks {
		return c, false
	}
	c.Single, c.Average, ok = correlation(rows)
	return c, ok
}

func correlation(rows [][]float64) (single, average float64, ok bool) {
	n, k := float64(len(rows)), float64(len(rows[0]))
	columns, all := make([]float64, len(rows[0])), 0.0
	for _, row := range rows {
		for j, x := range row {
			columns[j] += x / n
			all += x / (n * k)
		}
	}
	var total, between, over float64
	for _, row := range rows {
		m := mean(row)
		between += k * square(m-all)
		for _, x := range row {
			total += square(x - all)
		}
	}
	for _, m := range columns {
		over += n * square(m-all)
	}
	r, c, e := between/(n-1), over/(k-1), max(total-between-over, 0)/((n-1)*(k-1))
	one, several := r+(k-1)*e+k*(c-e)/n, r+(c-e)/n
	if total < nothing || math.Abs(one) < nothing || math.Abs(several) < nothing {
		return 0, 0, false
	}
	return (r - e) / one, (r - e) / several, true
}

// Panels are the sets of examiners who marked something together, the one with the most units first.
func Panels(units []Unit) (out [][]string) {
	count, names := map[string]int{}, map[string][]string{}
	for _, u := range units {
		if len(u.Marks) < 2 {
			continue
		}
		who := slices.Sorted(maps.Keys(u.Marks))
		key := ""
		for _, name := range who {
			key += name + "\n"
		}
		count[key]++
		names[key] = who
	}
	keys := slices.Sorted(maps.Keys(count))
	slices.SortStableFunc(keys, func(a, b string) int { return cmp.Compare(count[b], count[a]) })
	for _, key := range keys {
		out = append(out, names[key])
	}
	return out
}
