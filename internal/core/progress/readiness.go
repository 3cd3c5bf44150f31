package progress

import (
	"cmp"
	"fmt"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// Showing is one entry about a requirement: it was shown right, or not yet.
type Showing struct {
	TechniqueID string
	Role        curriculum.Role
	Stage       int    // shown; 0 of a technique without stages
	Side        string // left, right; "": all that are asked
	On          civil.Date
	NotYet      bool
	Fault       string // of not yet
	Clip        bool   // seen on a clip
	Graded      bool   // seen at a grading
}

// Item is a line of the next rung's test sheet with how far the student is.
type Item struct {
	curriculum.Line
	SectionID string
	TwoSided  bool // each side is asked
	Counts    bool // new or grown and no bonus: it has to be signed off for the rung
	Done      bool
	Left      bool // shown on this side, of a two-sided line
	Right     bool
	Reached   int        // the stage shown, of Stage asked
	Seen      civil.Date // last seen right, also before this climb; zero: never
	NotYet    civil.Date // last tried and not right since; zero: none
	Fault     string     // and what was seen then
	Clip      bool       // the last sign-off was given from a clip
}

// PartDone is how much of a part of the requirements is done: of a role, or of a side.
type PartDone struct {
	Name     string
	Done, Of int
}

// Readiness is how far a student is on the way to a rung. It is never one figure.
type Readiness struct {
	Items    []Item
	Sections []SectionDone
	Roles    []PartDone
	Sides    []PartDone
}

// Sided reports whether a line is asked on each side.
func Sided(l curriculum.Line, t *curriculum.Technique) bool {
	per := l.Quantity.Measure == curriculum.RepsPerSide || l.Quantity.Measure == curriculum.NoTouchDown
	return per && t != nil && t.Sides.Sides() == 2
}

// Ready holds the lines of a test sheet (its sample groups whole) against what was shown on
// the way to its rung, oldest first, and what was seen before. A line is done when its stage
// was shown on all sides asked; a line carried from below counts as done before.
func Ready(b *curriculum.Book, sheet curriculum.TestSheet, now, before []Showing) (r Readiness) {
	type key struct {
		technique string
		role      curriculum.Role
	}
	at := make(map[key]int, len(sheet.Lines))
	sections := map[string]string{} // name → id
	for _, s := range b.Sections {
		sections[s.Name] = s.ID
	}
	r.Items = make([]Item, 0, len(sheet.Lines))
	for _, l := range sheet.Lines {
		it := Item{Line: l, SectionID: sections[l.Section], TwoSided: Sided(l, b.Technique(l.TechniqueID)), Counts: l.Freshness != curriculum.Carried && !l.Bonus}
		at[key{l.TechniqueID, l.Role}] = len(r.Items)
		r.Items = append(r.Items, it)
	}
	for _, s := range before {
		if i, there := at[key{s.TechniqueID, s.Role}]; there && !s.NotYet {
			r.Items[i].Seen = civil.Max(r.Items[i].Seen, s.On)
		}
	}
	for _, s := range now {
		for i := range r.Items { // one technique may stand on several lines, in other settings
			it := &r.Items[i]
			if it.TechniqueID != s.TechniqueID || it.Role != s.Role {
				continue
			}
			if s.NotYet {
				it.NotYet, it.Fault = s.On, s.Fault
				continue
			}
			it.NotYet, it.Fault = civil.Date{}, ""
			it.Seen, it.Clip = civil.Max(it.Seen, s.On), s.Clip
			if it.Reached = max(it.Reached, s.Stage); s.Stage < it.Stage {
				continue
			}
			it.Left, it.Right = it.Left || s.Side != "right", it.Right || s.Side != "left"
			it.Done = !it.TwoSided || it.Left && it.Right
		}
	}
	roles, sides := map[string]*PartDone{}, [2]PartDone{{Name: "left"}, {Name: "right"}}
	for i := range r.Items {
		it := &r.Items[i]
		if !it.Counts {
			continue
		}
		if n := len(r.Sections); n == 0 || r.Sections[n-1].ID != it.SectionID {
			r.Sections = append(r.Sections, SectionDone{ID: it.SectionID, Name: it.Section})
		}
		s := &r.Sections[len(r.Sections)-1]
		role := roles[string(it.Role)]
		if role == nil {
			role = &PartDone{Name: string(it.Role)}
			roles[role.Name] = role
		}
		s.Of, role.Of = s.Of+1, role.Of+1
		if it.Done {
			s.Done, role.Done = s.Done+1, role.Done+1
		} else {
			s.Open = append(s.Open, it.Call)
		}
		if it.TwoSided {
			for k, shown := range []bool{it.Left, it.Right} {
				if sides[k].Of++; shown {
					sides[k].Done++
				}
			}
		}
	}
	for _, name := range curriculum.Roles {
		if x := roles[string(name)]; x != nil {
			r.Roles = append(r.Roles, *x)
		}
	}
	if sides[0].Of > 0 {
		r.Sides = sides[:]
	}
	return r
}

// Stripes are the section stripes of a rung with whether they are due: a section of which
// every requirement is signed off and none is missing.
func (r Readiness) Stripes(rung *curriculum.Rung, b *curriculum.Book, awarded map[string]civil.Date) (out []StripeState) {
	for _, s := range rung.Stripes {
		x := StripeState{SectionID: s.SectionID, Colour: s.Colour, Awarded: awarded[s.SectionID], Due: true}
		if section := b.Section(s.SectionID); section != nil {
			x.Section = section.Name
		}
		for _, d := range r.Sections {
			if d.ID == s.SectionID {
				x.Due = d.Done == d.Of
			}
		}
		out = append(out, x)
	}
	return out
}

// StaleDays is after how many days something carried is worth a look again.
const StaleDays = 90

// Next is a thing to work on, and why it and not another.
type Next struct {
	Item
	Why   string
	worth int
}

// What makes something worth working on. The figures only order; the reason is told.
const (
	worthMustPass  = 40
	worthHalf      = 34 // one side is shown, the other not
	worthNotYet    = 28 // tried, with a fault to mend
	worthStripe    = 22 // the last of its section's stripe
	worthGrown     = 8  // known in part
	worthStale     = 18 // carried, and not seen for long
	worthBaseFirst = 45 // it builds on something that is open itself
	worthOften     = 12 // another open requirement builds on it
)

// NextThings are the first n things to work on, and why these.
func (r Readiness) NextThings(b *curriculum.Book, stripes []StripeState, today civil.Date, n int) (out []Next) {
	open := map[string]bool{}
	for _, it := range r.Items {
		if it.Counts && !it.Done {
			open[it.TechniqueID] = true
		}
	}
	left := map[string]int{}
	for _, s := range r.Sections {
		left[s.ID] = s.Of - s.Done
	}
	for _, it := range r.Items {
		x := Next{Item: it, worth: it.Weight}
		best := 0
		say := func(worth int, format string, args ...any) {
			if x.worth += worth; worth > best {
				best, x.Why = worth, fmt.Sprintf(format, args...)
			}
		}
		switch {
		case it.Counts && !it.Done:
			x.Why = "new at this rung"
			if it.Freshness == curriculum.Grown {
				say(worthGrown, "known in part: the rest is new")
			}
			if it.MustPass {
				say(worthMustPass, "must pass: without it the test is not passed")
			}
			if it.TwoSided && it.Left != it.Right {
				side := "left"
				if it.Left {
					side = "right"
				}
				say(worthHalf, "one side is signed off, the %s side is missing", side)
			}
			if !it.NotYet.IsZero() {
				fault := "not right yet"
				if it.Fault != "" {
					fault = it.Fault
				}
				say(worthNotYet, "tried on %s: %s", it.NotYet.Long(), fault)
			}
			if slices.ContainsFunc(stripes, func(s StripeState) bool { return s.SectionID == it.SectionID && s.Awarded.IsZero() }) && left[it.SectionID] == 1 {
				say(worthStripe, "the last thing for the %s stripe", it.Section)
			}
			if t := b.Technique(it.TechniqueID); t != nil {
				for _, base := range t.BuildsOn {
					if open[base] {
						x.worth -= worthBaseFirst
					}
				}
				for _, v := range b.Variants(t.ID) {
					if open[v.ID] {
						say(worthOften, "%s builds on it", v.Name)
						break
					}
				}
			}
		case !it.Counts && !it.Bonus && !it.Seen.IsZero() && it.Seen.DaysTo(today) >= StaleDays:
			say(worthStale+min(it.Seen.DaysTo(today)/30, 9), "asked again, and not seen for %s", count(it.Seen.DaysTo(today), "day"))
		default:
			continue
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(x, y Next) int { return cmp.Compare(y.worth, x.worth) })
	return out[:min(n, len(out))]
}
