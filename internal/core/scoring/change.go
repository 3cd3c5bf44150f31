package scoring

import (
	"cmp"
	"slices"
)

// Move raises or lowers one mark.
type Move struct {
	Sheet, Item int // indexes in Test.Sheets and Test.Items
	From, To    Decimal
	Steps       int // scale steps between them
}

// Change is the smallest change of marks that would turn a promotion into a retest or a
// retest into a promotion. A step is one scale step on one mark that was seen, bonus
// included. Of equally small changes it is one in which no single step could be moved to
// an earlier examiner, or on the same sheet to an earlier item.
type Change struct {
	Towards    Outcome // OutcomePromote or OutcomeRetest
	Steps      int
	Exact      bool   // false: a smaller change than Steps is proven not to exist, no change is named
	Moves      []Move // in the order of examiners, then items
	Impossible *Never // why no marks could do it; Steps is then 0. nil: some could
}

// Never is why no marks could turn a result.
type Never struct {
	EndingFault bool     // one is confirmed
	Up          bool     // towards a promotion: even with every mark seen at its highest
	Short       []Reason // what would be missed all the same, by examiner where sheets vote; empty: the sheets that could turn are too few
}

// Effort bounds of the search, in evaluations of a panel. They keep one candidate's answer
// within some tens of milliseconds; past them the answer is a proven "at least".
const (
	effortFigure = 60_000
	effortJoint  = 120_000
	effortTidy   = 4_000
	// An evaluation counts once for every so many marks of the panel, so that a panel at the limits of the format takes
	// no longer than some tenths of a second.
	effortMarks = 500
)

// How far a sheet's figure is followed, in steps, and how large the table of a mean may grow, in entries looked at: a
// fine scale has a hundred thousand steps a mark. Tests make them small.
var (
	longestCurve = 4_096
	effortTable  = 40_000_000
)

// cost is what one evaluation counts: where sheets are looked at one by one, each of them has its share of the whole.
func (s search) cost() int { return 1 + max(s.panel, len(s.sheets))*len(s.items)/effortMarks }

// smallestChange answers for a result that is a promotion or a retest.
func (p Policy) smallestChange(t Test, r Result) Change {
	up := r.Outcome == OutcomeRetest
	c := Change{Towards: OutcomeRetest, Exact: true}
	if up {
		c.Towards = OutcomePromote
	}
	if t.EndingFault {
		c.Impossible = &Never{EndingFault: true}
		return c
	}
	var complete []int
	for i, tally := range r.Tallies {
		if tally.Complete() {
			complete = append(complete, i)
		}
	}
	var a answer
	if p.Panel == Majority {
		a = p.changeVotes(t, r, complete, up)
	} else {
		s := search{p, t.Items, pick(t.Sheets, complete), p.Panel, up, len(complete)}
		if a = s.best(); a.exact {
			a.plan = s.tidy(a.plan)
		}
	}
	if a.never {
		c.Impossible = p.never(t, complete, up)
		return c
	}
	c.Steps, c.Exact = a.least, a.exact
	for row, i := range complete {
		for k := range t.Items {
			if !a.exact || a.plan[row][k] == 0 {
				continue
			}
			m := Move{Sheet: i, Item: k, From: t.Sheets[i].Marks[k].Value, Steps: a.plan[row][k]}
			m.To = m.From + Decimal(m.Steps)*p.Scale.Step
			if !up {
				m.To = m.From - Decimal(m.Steps)*p.Scale.Step
			}
			c.Moves = append(c.Moves, m)
		}
	}
	return c
}

// changeVotes is the change of a majority panel: each sheet's own smallest change, and then
// the cheapest set of sheets that turns the vote.
// It is long: the ways in which votes can turn are weighed against each other in one place.
func (p Policy) changeVotes(t Test, r Result, complete []int, up bool) answer {
	type vote struct {
		row   int
		chief bool
		a     answer
	}
	var votes []vote // the sheets that would have to turn
	pass, chiefRow := 0, -1
	for row, i := range complete {
		passes := r.Tallies[i].Verdict.Passes()
		chief := t.Chief != "" && t.Sheets[i].Examiner == t.Chief
		if chief {
			chiefRow = row
		}
		if passes {
			pass++
		}
		if passes == up {
			continue
		}
		s := search{p, t.Items, t.Sheets[i : i+1], Mean, up, len(complete)}
		a := s.best()
		if a.exact && !a.never {
			a.plan = s.tidy(a.plan)
		}
		if !a.never {
			votes = append(votes, vote{row, chief, a})
		}
	}
	slices.SortStableFunc(votes, func(a, b vote) int { return cmp.Compare(a.a.least, b.a.least) })
	want := OutcomeRetest
	if up {
		want = OutcomePromote
	}
	best := impossible
	chiefPasses := chiefRow >= 0 && r.Tallies[complete[chiefRow]].Verdict.Passes()
	// Turn n sheets, with or without the chief's among them.
	for _, withChief := range []bool{false, true} {
		pool := slices.Clone(votes)
		if withChief {
			at := slices.IndexFunc(pool, func(v vote) bool { return v.chief })
			if at < 0 {
				continue
			}
			chief := pool[at]
			pool = slices.Insert(slices.Delete(pool, at, at+1), 0, chief)
		} else {
			pool = slices.DeleteFunc(pool, func(v vote) bool { return v.chief })
		}
		a := answer{plan: newPlan(len(complete), len(t.Items)), exact: true}
		passing, chiefNow := pass, chiefPasses
		for _, v := range pool {
			a.least += v.a.least
			a.exact = a.exact && v.a.exact
			if v.a.exact {
				a.plan[v.row] = v.a.plan[0]
			}
			if v.chief {
				chiefNow = up
			}
			if passing--; up {
				passing += 2
			}
			if p.voted(passing, len(complete), chiefRow >= 0, chiefNow) == want {
				if best.never || a.least < best.least || a.least == best.least && a.exact && best.exact && earlier(a.plan, best.plan) {
					best = a
				}
				break
			}
		}
	}
	return best
}

// never says why no marks could turn a result: the rules that would not hold even with every mark seen
// at its highest. Downwards there is none: with every mark at its lowest all that are on would hold.
func (p Policy) never(t Test, complete []int, up bool) *Never {
	out := &Never{Up: up}
	if !up {
		return out
	}
	raise := func(sheets []Sheet, rule PanelRule, who string) {
		s := search{p, t.Items, sheets, rule, true, len(sheets)}
		top := newPlan(len(sheets), len(t.Items))
		for j := range top {
			for k := range top[j] {
				top[j][k] = s.room(j, k)
			}
		}
		for _, reason := range p.sheetReasons(t.Items, s.after(top), rule) {
			if reason.Examiner = who; !reason.Holds {
				out.Short = append(out.Short, reason)
			}
		}
	}
	if p.Panel == Majority {
		for _, i := range complete {
			raise(t.Sheets[i:i+1], Mean, t.Sheets[i].Examiner)
		}
	} else {
		raise(pick(t.Sheets, complete), p.Panel, "")
	}
	return out
}
