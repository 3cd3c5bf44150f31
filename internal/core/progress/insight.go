package progress

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/civil"
)

// Stay is one student's time on one rung, to the promotion that ended it or to now.
type Stay struct {
	StudentID, Name string
	Position        int // of the rung
	From, To        civil.Date
	Ended           bool // by a promotion
}

// Days is how long it lasted.
func (s Stay) Days() int { return s.From.DaysTo(s.To) }

// InGrade is how long students stay on a rung.
type InGrade struct {
	Position     int
	Half         int // days within which half of them were promoted; -1: not half of them yet
	Quickest     int // days of the quickest, -1 where nobody was promoted
	Promoted     []Stay
	Still        []Stay // on it now, the longest first
	LongerThan   int    // of those still on it, how many are past the day by which half were promoted
	StillLongest int
}

// TimeInGrade sums up stays by rung from the lowest up. Half is the product-limit median (Kaplan
// and Meier 1958): those still on the rung count for as long as they have stood on it, so that a
// rung from which only the quick have gone yet does not look quick.
func TimeInGrade(stays []Stay) (out []InGrade) {
	by := map[int][]Stay{}
	for _, s := range stays {
		by[s.Position] = append(by[s.Position], s)
	}
	for position, all := range by {
		g := InGrade{Position: position, Half: -1, Quickest: -1}
		slices.SortStableFunc(all, func(x, y Stay) int {
			c := cmp.Compare(x.Days(), y.Days())
			if c == 0 && x.Ended != y.Ended {
				if x.Ended {
					return -1
				}
				return 1
			}
			return c
		})
		// The share that is left, exactly: a product of (n−1)/n is telescoped in whole numbers.
		num, den := int64(1), int64(1)
		for i, s := range all {
			if !s.Ended {
				g.Still = append(g.Still, s)
				continue
			}
			g.Promoted = append(g.Promoted, s)
			if g.Quickest < 0 {
				g.Quickest = s.Days()
			}
			left := int64(len(all) - i)
			num, den = num*(left-1), den*left
			if d := gcd(num, den); d > 1 {
				num, den = num/d, den/d
			}
			if g.Half < 0 && 2*num <= den {
				g.Half = s.Days()
			}
		}
		slices.Reverse(g.Still)
		if len(g.Still) > 0 {
			g.StillLongest = g.Still[0].Days()
		}
		for _, s := range g.Still {
			if g.Half >= 0 && s.Days() > g.Half {
				g.LongerThan++
			}
		}
		out = append(out, g)
	}
	slices.SortFunc(out, func(x, y InGrade) int { return cmp.Compare(x.Position, y.Position) })
	return out
}

func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return max(a, 1)
}

// Cohort are those who began in one half of a year.
type Cohort struct {
	From   civil.Date // the first day of the half year
	Names  []Stay     // one for each student, from the beginning to now
	Points []CohortPoint
}

// CohortPoint is how far a cohort was so many months after it began.
type CohortPoint struct {
	Months  int
	Climbed int // rungs climbed by then, a hundredth of one as the unit, of those who can be seen so far
	Seen    int // how many were on record that long
	Left    int // of them had left by then
}

// cohortStep is the months between two points of a curve.
const cohortStep = 3

// Way is one student's steps from the first entry on.
type Way struct {
	StudentID, Name string
	Steps           []Stay     // oldest first
	Left            civil.Date // zero: still there
}

// Cohorts follows students by the half year in which they began: how many rungs they had climbed
// on average after three, six, nine … months, over those who are on record so long. Whoever left
// counts with what they had reached.
func Cohorts(ways []Way, today civil.Date) (out []Cohort) {
	at := map[civil.Date]int{}
	for _, w := range ways {
		begun := w.Steps[0].From
		half := halfOf(begun)
		i, there := at[half]
		if !there {
			i = len(out)
			at[half] = i
			out = append(out, Cohort{From: half})
		}
		c := &out[i]
		c.Names = append(c.Names, Stay{StudentID: w.StudentID, Name: w.Name, From: begun, To: today, Position: w.Steps[len(w.Steps)-1].Position})
		for months := 0; !today.Before(begun.AddMonths(months)); months += cohortStep {
			day := begun.AddMonths(months)
			k := months / cohortStep
			for len(c.Points) <= k {
				c.Points = append(c.Points, CohortPoint{Months: len(c.Points) * cohortStep})
			}
			p := &c.Points[k]
			p.Seen++
			if !w.Left.IsZero() && !day.Before(w.Left) {
				p.Left++
			}
			for _, s := range w.Steps {
				if !day.Before(s.From) {
					// The sum for now; made a mean below.
					p.Climbed += 100 * (s.Position - previous(w, s))
				}
			}
		}
	}
	for i := range out {
		for k := range out[i].Points {
			p := &out[i].Points[k]
			p.Climbed = (p.Climbed + p.Seen/2) / max(p.Seen, 1)
		}
	}
	slices.SortFunc(out, func(x, y Cohort) int { return y.From.DaysTo(x.From) })
	return out
}

// previous is the position a step led from.
func previous(w Way, s Stay) int {
	last := w.Steps[0].Position
	for _, x := range w.Steps {
		if x.From == s.From && x.Position == s.Position {
			return last
		}
		last = x.Position
	}
	return last
}

func halfOf(d civil.Date) civil.Date {
	month := "-01-01"
	if d.String()[5:7] >= "07" {
		month = "-07-01"
	}
	return civil.MustParse(d.String()[:4] + month)
}
