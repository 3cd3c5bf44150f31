package progress

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// Showing is one entry about a technique: it was shown right, or not yet.
type Showing struct {
	TechniqueID string
	Role        curriculum.Role
	Rung        string             // on whose sheet it was signed off: it counts for every line of technique and role there, unless Demand says which
	Demand      *curriculum.Demand // at which it was shown; nil: those of the lines of Rung's sheet today
	Stage       int                // shown, where there is no Demand; 0 of a technique without stages
	Side        string             // left, right; "": all that are asked
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
	Counts    bool // no bonus: it has to have been shown for the rung
	Done      bool
	Presumed  bool // the student entered higher up and is presumed to know it
	Left      bool // shown on this side, of a two-sided line
	Right     bool
	Reached   int        // the stage shown, of Stage asked
	Seen      civil.Date // last seen right, at whatever demand; zero: never
	NotYet    civil.Date // last tried on this climb and not right since; zero: none
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
func Sided(l curriculum.Line, t *curriculum.Technique) bool { return l.Sides(t) == 2 }

// Asked is what a rung asks of whoever climbs to it, made ready to be held against many
// students.
type Asked struct {
	Items    []Item        // nothing shown yet
	rung     string        // whose sheet it is
	sections []SectionDone // of the items that count, nothing done
	place    []int         // item → section, -1 of one that does not count
	at       map[askedKey][]int
	sheets   func(rung string) *Asked // of other rungs, by which older sign-offs are read; nil: none
}

type askedKey struct {
	technique string
	role      curriculum.Role
}

// AskedBy reads the lines of the test sheet of a rung, its sample groups whole. Every item
// counts but a bonus, what lower rungs asked too. sheets gives the sheets of other rungs on the
// same track; nil where there is nothing older to be read by them.
func AskedBy(b *curriculum.Book, rung string, sheet curriculum.TestSheet, sheets func(rung string) *Asked) *Asked {
	a := &Asked{rung: rung, sheets: sheets, at: make(map[askedKey][]int, len(sheet.Lines)), Items: make([]Item, 0, len(sheet.Lines))}
	sections := map[string]string{} // name → id
	for _, s := range b.Sections {
		sections[s.Name] = s.ID
	}
	for i, l := range sheet.Lines {
		it := Item{Line: l, SectionID: sections[l.Section], TwoSided: Sided(l, b.Technique(l.TechniqueID)), Counts: !l.Bonus}
		place := -1
		if it.Counts {
			if n := len(a.sections); n == 0 || a.sections[n-1].ID != it.SectionID {
				a.sections = append(a.sections, SectionDone{ID: it.SectionID, Name: it.Section})
			}
			place = len(a.sections) - 1
			a.sections[place].Of++
		}
		// One technique may stand on several lines, in other settings.
		key := askedKey{l.TechniqueID, l.Role}
		a.at[key] = append(a.at[key], i)
		a.Items, a.place = append(a.Items, it), append(a.place, place)
	}
	return a
}

// Has reports whether a technique is asked in a role: what is asked of nobody need not be read.
func (a *Asked) Has(technique, role string) bool {
	return len(a.at[askedKey{technique, curriculum.Role(role)}]) > 0
}

// meets reports whether a showing is no smaller than an item asks, in every respect.
func (a *Asked) meets(s *Showing, it *Item) bool {
	switch {
	case s.Demand != nil:
		return s.Demand.Meets(&it.Line)
	case s.Rung == a.rung || s.Rung == "":
		return s.Stage >= it.Stage
	case a.sheets == nil:
		return false
	}
	other := a.sheets(s.Rung)
	if other == nil {
		return false
	}
	for _, k := range other.at[askedKey{s.TechniqueID, s.Role}] {
		d := other.Items[k].Demand()
		if d.Stage = s.Stage; d.Meets(&it.Line) {
			return true
		}
	}
	return false
}

// Presumed marks the items that somebody is presumed to know who entered a ladder on a rung:
// what the sheets of the rungs up to there ask, which are given, on the track of that day.
func (a *Asked) Presumed(sheets []*Asked) []bool {
	out := make([]bool, len(a.Items))
	for i := range a.Items {
		it := &a.Items[i]
		for _, s := range sheets {
			for _, k := range s.at[askedKey{it.TechniqueID, it.Role}] {
				d := s.Items[k].Demand()
				out[i] = out[i] || d.Meets(&it.Line)
			}
		}
	}
	return out
}

// sides of a two-sided item that were shown.
const left, right, both = 1, 2, 3

func sidesOf(side string) uint8 {
	switch side {
	case "left":
		return left
	case "right":
		return right
	}
	return both
}

// done reports whether the sides shown are all that an item asks.
func (it *Item) done(sides uint8) bool { return sides == both || sides != 0 && !it.TwoSided }

// Done counts by section what was shown, of the items that count. One showing has to meet the
// demand of a line in every respect; sides may be shown on different days. presumed are the
// items that count as shown from the start; nil: none. days are those on which the last side of
// an item was shown, in order; what is presumed has none.
func (a *Asked) Done(all []Showing, presumed []bool) (sections []SectionDone, days []civil.Date) {
	var few [64]uint8
	shown := few[:]
	if len(a.Items) > len(few) {
		shown = make([]uint8, len(a.Items))
	}
	a.show(shown, all, presumed, func(it *Item, on civil.Date) {
		if it.Counts {
			days = append(days, on)
		}
	})
	slices.SortFunc(days, func(x, y civil.Date) int { return y.DaysTo(x) })
	return a.count(shown), days
}

// OfThisClimb counts as it was counted before showings had demands: of what is new or grown, what
// was signed off on the way to this rung, whatever else was seen of the student.
func (a *Asked) OfThisClimb(all []Showing) (done, of int) {
	shown := make([]uint8, len(a.Items))
	for i := range all {
		s := &all[i]
		for _, k := range a.at[askedKey{s.TechniqueID, s.Role}] {
			if !s.NotYet && s.Rung == a.rung && s.Stage >= a.Items[k].Stage {
				shown[k] |= sidesOf(s.Side)
			}
		}
	}
	for i := range a.Items {
		if it := &a.Items[i]; it.Counts && it.Freshness != curriculum.Carried {
			if of++; it.done(shown[i]) {
				done++
			}
		}
	}
	return done, of
}

// DoneSince is how many of the items that count were not done when a climb began, and the days
// on which they were, in order.
func (a *Asked) DoneSince(all []Showing, presumed []bool, since civil.Date, counts func(*Item) bool) (asked int, days []civil.Date) {
	for i := range a.Items {
		if counts(&a.Items[i]) && !(i < len(presumed) && presumed[i]) {
			asked++
		}
	}
	a.show(make([]uint8, len(a.Items)), all, presumed, func(it *Item, on civil.Date) {
		switch {
		case !counts(it):
		case on.Before(since):
			asked--
		default:
			days = append(days, on)
		}
	})
	slices.SortFunc(days, func(x, y civil.Date) int { return y.DaysTo(x) })
	return asked, days
}

// Ways are the requirements that count, by section, with the days on which they were done, in order.
func (a *Asked) Ways(all []Showing, presumed []bool) []SectionWay {
	out := make([]SectionWay, len(a.sections))
	for i := range a.sections {
		out[i].ID = a.sections[i].ID
	}
	at := map[*Item]int{}
	for i := range a.Items {
		if k := a.place[i]; k >= 0 {
			at[&a.Items[i]] = k
			if out[k].Of++; i < len(presumed) && presumed[i] {
				out[k].Known++
			}
		}
	}
	a.show(make([]uint8, len(a.Items)), all, presumed, func(it *Item, on civil.Date) {
		if k, counts := at[it]; counts {
			out[k].Done = append(out[k].Done, on)
		}
	})
	for i := range out {
		slices.SortFunc(out[i].Done, func(x, y civil.Date) int { return y.DaysTo(x) })
	}
	return out
}

// show notes the sides on which each item was shown, and tells when an item is done.
func (a *Asked) show(shown []uint8, all []Showing, presumed []bool, done func(it *Item, on civil.Date)) {
	for i, p := range presumed {
		if p {
			shown[i] = both
		}
	}
	for i := range all {
		s := &all[i]
		if s.NotYet {
			continue
		}
		for _, k := range a.at[askedKey{s.TechniqueID, s.Role}] {
			it := &a.Items[k]
			if it.done(shown[k]) || !a.meets(s, it) {
				continue
			}
			if shown[k] |= sidesOf(s.Side); it.done(shown[k]) {
				done(it, s.On)
			}
		}
	}
}

func (a *Asked) count(shown []uint8) []SectionDone {
	out := append(make([]SectionDone, 0, len(a.sections)), a.sections...) // never nil
	for k := range a.Items {
		at := a.place[k]
		if at < 0 {
			continue
		}
		if a.Items[k].done(shown[k]) {
			out[at].Done++
		} else {
			out[at].Open = append(out[at].Open, a.Items[k].Call)
		}
	}
	return out
}

// Ready holds what is asked against what was shown, oldest first, on this climb and before it.
// It is long: one pass over all items that gathers every figure.
func (a *Asked) Ready(all []Showing, presumed []bool) (r Readiness) {
	r.Items = slices.Clone(a.Items)
	shown := make([]uint8, len(r.Items))
	for i := range r.Items {
		if i < len(presumed) && presumed[i] {
			it := &r.Items[i]
			shown[i], it.Presumed, it.Done, it.Left, it.Right, it.Reached = both, true, true, it.TwoSided, it.TwoSided, it.Stage
		}
	}
	for n := range all {
		s := &all[n]
		for _, i := range a.at[askedKey{s.TechniqueID, s.Role}] {
			it := &r.Items[i]
			if s.NotYet {
				if s.Rung == a.rung || s.Rung == "" {
					it.NotYet, it.Fault = s.On, s.Fault
				}
				continue
			}
			it.NotYet, it.Fault = civil.Date{}, ""
			it.Seen, it.Clip = civil.Max(it.Seen, s.On), s.Clip
			reached := s.Stage
			if s.Demand != nil {
				reached = s.Demand.Stage
			}
			it.Reached = max(it.Reached, reached)
			if !a.meets(s, it) {
				continue
			}
			shown[i] |= sidesOf(s.Side)
			it.Left, it.Right, it.Done = shown[i]&left != 0, shown[i]&right != 0, it.done(shown[i])
			it.Presumed = it.Presumed && !it.Done
		}
	}
	r.Sections = a.count(shown)
	roles, sides := map[curriculum.Role]*PartDone{}, [2]PartDone{{Name: "left"}, {Name: "right"}}
	for i := range r.Items {
		it := &r.Items[i]
		if !it.Counts {
			continue
		}
		role := roles[it.Role]
		if role == nil {
			role = &PartDone{Name: string(it.Role)}
			roles[it.Role] = role
		}
		if role.Of++; it.Done {
			role.Done++
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
		if x := roles[name]; x != nil {
			r.Roles = append(r.Roles, *x)
		}
	}
	if sides[0].Of > 0 {
		r.Sides = sides[:]
	}
	return r
}

// Stripes are the section stripes of a rung with whether they are due: a section of which
// every requirement is signed off.
func Stripes(rung *curriculum.Rung, b *curriculum.Book, done []SectionDone, awarded map[string]civil.Date) (out []StripeState) {
	for _, s := range rung.Stripes {
		x := StripeState{SectionID: s.SectionID, Colour: s.Colour, Awarded: awarded[s.SectionID], Due: true}
		if section := b.Section(s.SectionID); section != nil {
			x.Section = section.Name
		}
		for i := range done {
			if done[i].ID == s.SectionID {
				x.Due = done[i].Done == done[i].Of
			}
		}
		out = append(out, x)
	}
	return out
}

// StaleDays is after how many days something carried is worth a look again.
const StaleDays = 90

// UrgeKind is why something comes first.
type UrgeKind string

// The kinds of urges; the words behind name the fields of an Urge they use.
const (
	UrgeNew      UrgeKind = "new"     // at this rung
	UrgeMore     UrgeKind = "more"    // is asked than before
	UrgeInPart   UrgeKind = "in part" // known: the rest is new
	UrgeAgain    UrgeKind = "again"   // asked, and not seen from this student yet
	UrgeMustPass UrgeKind = "must pass"
	UrgeHalf     UrgeKind = "half"    // one side is signed off, Misses is missing
	UrgeNotYet   UrgeKind = "not yet" // tried On a day, with Fault; "" none is on record
	UrgeStripe   UrgeKind = "stripe"  // the last thing for the stripe of its section
	UrgeBase     UrgeKind = "base"    // Name builds on it
	UrgeUnseen   UrgeKind = "unseen"  // asked again, and not seen for so many Days
	UrgeChoice   UrgeKind = "choice"  // of the student's own
)

// Urge is why something comes first.
type Urge struct {
	Kind        UrgeKind
	Misses      string // left, right
	On          civil.Date
	Fault, Name string
	Days        int
}

// Next is a thing to work on, and why it and not another.
type Next struct {
	Item
	Urge
	worth int
}

// What makes something worth working on. The figures only order; the reason is told.
const (
	worthMustPass  = 40
	worthHalf      = 34 // one side is shown, the other not
	worthNotYet    = 28 // tried, with a fault to mend
	worthStripe    = 22 // the last of its section's stripe
	worthGrown     = 8  // known in part
	worthStale     = 18 // carried, shown once, and not seen for long
	worthBaseFirst = 45 // it builds on something that is open itself
	worthOften     = 12 // another open requirement builds on it
)

// NextThings are the first n things to work on, and why these.
// It is long: a case for each reason why something comes first.
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
		say := func(worth int, u Urge) {
			if x.worth += worth; worth > best {
				best, x.Urge = worth, u
			}
		}
		switch {
		case it.Counts && !it.Done:
			switch it.Freshness {
			case curriculum.New:
				x.Urge.Kind = UrgeNew
			case curriculum.Grown:
				x.Urge.Kind = UrgeMore
				if !it.Seen.IsZero() {
					say(worthGrown, Urge{Kind: UrgeInPart})
				}
			default:
				x.Urge.Kind = UrgeAgain
			}
			if it.MustPass {
				say(worthMustPass, Urge{Kind: UrgeMustPass})
			}
			if it.TwoSided && it.Left != it.Right {
				misses := "left"
				if it.Left {
					misses = "right"
				}
				say(worthHalf, Urge{Kind: UrgeHalf, Misses: misses})
			}
			if !it.NotYet.IsZero() {
				say(worthNotYet, Urge{Kind: UrgeNotYet, On: it.NotYet, Fault: it.Fault})
			}
			if slices.ContainsFunc(stripes, func(s StripeState) bool { return s.SectionID == it.SectionID && s.Awarded.IsZero() }) && left[it.SectionID] == 1 {
				say(worthStripe, Urge{Kind: UrgeStripe})
			}
			if t := b.Technique(it.TechniqueID); t != nil {
				for _, base := range t.BuildsOn {
					if open[base] {
						x.worth -= worthBaseFirst
					}
				}
				for _, v := range b.Variants(t.ID) {
					if open[v.ID] {
						say(worthOften, Urge{Kind: UrgeBase, Name: v.Name})
						break
					}
				}
			}
		case it.Done && it.Freshness == curriculum.Carried && !it.Seen.IsZero() && it.Seen.DaysTo(today) >= StaleDays:
			say(worthStale+min(it.Seen.DaysTo(today)/30, 9), Urge{Kind: UrgeUnseen, Days: it.Seen.DaysTo(today)})
		default:
			continue
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(x, y Next) int { return cmp.Compare(y.worth, x.worth) })
	return out[:min(n, len(out))]
}

// Anew is an answer about what is signed off that is another one since it is reckoned from everything that was seen.
type Anew struct {
	Met      bool
	Done, Of int      // on this climb
	Open     []string // what was never seen at what is asked
}

// AnsweredAnew says whether the answer is another one: done of what this climb asked was signed off, and so much stands
// open of all sections.
func AnsweredAnew(done, of int, sections []SectionDone) (x Anew, is bool) {
	x = Anew{Done: done, Of: of}
	for _, s := range sections {
		x.Open = append(x.Open, s.Open...)
	}
	x.Met = len(x.Open) == 0
	return x, (done == of) != x.Met
}
