package progress

import (
	"math"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// What still stands between a student and a test.

// Need is what still stands between a student and a test.
type Need struct {
	From    civil.Date // the day from which the rules of date and age hold; zero: they do
	Classes []ClassNeed
	Signed  int     // requirements to be signed off, in all, until those asked are among them
	Open    int     // that are not signed off yet; 0: as many as Signed
	Never   *Answer // why no day is in sight; nil one is
}

// ClassNeed is a number of classes that are missing.
type ClassNeed struct {
	Of   string // kind; "" any
	Lack int    // at least 1
	Came int    // of that kind, since the last promotion
	Held int    // and held; 0: not known
}

// NeedOf reads from a verdict what is missing. Evidence that can be given at any time (a
// paper, kit, a word) is taken as given.
func NeedOf(v Verdict, e Evidence) (n Need) {
	all := 0
	var open, striped []part
	for _, s := range e.Sections {
		all += s.Of - s.Done
		open = append(open, part{s.Of - s.Done, s.Of - s.Done})
		striped = append(striped, part{0, s.Of - s.Done})
		for _, x := range e.Stripes {
			if x.SectionID == s.ID && x.Awarded.IsZero() {
				striped[len(striped)-1].lack = s.Of - s.Done
			}
		}
	}
	sign := func(parts []part) {
		if k := untilAll(parts); k > n.Signed {
			n.Signed, n.Open = k, all
		}
	}
	for _, a := range v.Answers {
		if a.State == Met {
			continue
		}
		kind, of, _ := strings.Cut(string(a.Kind), ":")
		switch k := curriculum.RuleKind(kind); k {
		case curriculum.MonthsSince, curriculum.DaysSince, curriculum.LeastAge, curriculum.RetestWait:
			n.From = civil.Max(n.From, a.Earliest)
		case curriculum.ClassesSince, curriculum.ClassShare:
			if a.State == NotMet && a.Earliest.IsZero() {
				n.Never = &a
			}
			if a.State == NotMet && a.Lacks > 0 {
				x := ClassNeed{Of: of, Lack: a.Lacks}
				if of != "" {
					x.Came, x.Held = e.Attended.count(curriculum.Rule{Of: of}), e.Held.count(curriculum.Rule{Of: of})
				}
				n.Classes = append(n.Classes, x)
			}
		case curriculum.AllStripes:
			sign(striped)
		case curriculum.AllSignedOff:
			sign(open)
		case curriculum.EachSignedOff:
			each := make([]part, len(open))
			for i, s := range e.Sections {
				each[i] = part{max(min(s.Of, a.Rule().Amount)-s.Done, 0), s.Of - s.Done}
			}
			sign(each)
		}
	}
	return n
}

// part is a section of which so many are lacking of so many that are open.
type part struct{ lack, open int }

// untilAll is how many of all that is open are signed off, in the middle, until of each part as many are
// as it lacks, where what is signed off next is any of them as likely as another. When a share x of all
// is done, a part of o open ones has at least l of them done with the chance that a binomial count of o
// at x is l or more; the mean of the largest share that a part waits for is the sum of the chances that
// not all have come, over x from 0 to 1. Exact where all is asked.
func untilAll(parts []part) int {
	lack, open := 0, 0
	for _, p := range parts {
		lack, open = lack+p.lack, open+p.open
	}
	if lack == 0 || lack == open {
		return lack
	}
	const steps = 200
	mean := 0.0
	for i := range steps {
		x, all := (float64(i)+0.5)/steps, 1.0
		for _, p := range parts {
			if p.lack > 0 {
				all *= binomialAtLeast(p.lack, p.open, x)
			}
		}
		mean += (1 - all) / steps
	}
	return min(max(int(math.Round(mean*float64(open+1))), lack), open)
}

// binomialAtLeast is P(N ≥ k) of a binomial count of n at x.
func binomialAtLeast(k, n int, x float64) float64 {
	p, below := math.Pow(1-x, float64(n)), 0.0
	for i := range k {
		below += p
		p *= float64(n-i) / float64(i+1) * x / (1 - x)
	}
	return max(1-below, 0)
}
