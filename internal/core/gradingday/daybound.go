package gradingday

import (
	"cmp"
	"slices"
)

// Bound is the proof that no plan ends earlier than at Finish, in minutes of the day.
type Bound struct {
	Finish int
	Proof
}

// ProofKind is what proves a Bound.
type ProofKind string

// The proofs of a bound; none where nobody is tested.
const (
	EveryWay ProofKind = "every way" // every way to share the groups over the rings, and to order them, was tried
	ByShare  ProofKind = "share"     // an even share of what Groups need over some Rings
	ByPin    ProofKind = "pin"       // one group, Name, pinned to At, and Each minutes
	ByItself ProofKind = "itself"    // one group, Name, and Each minutes after the warm-up
)

// Proof is why no plan can end earlier. Minutes.
type Proof struct {
	Kind          ProofKind
	Whose         Whose
	Groups, Rings int
	Work, Gaps    int // of testing, of changing
	Each          int // for each ring at least; for one group what it needs
	Name          string
	At            int // of the day
}

// Whose are the groups of a share: all, those tested for a rung and above, or those that only some rings may take.
type Whose struct {
	AtLeast string   // the rung, as words
	Only    []string // rings
}

// Beside are the plain plan and the bound for panels that are known.
func Beside(d Day, panels [][]int) (greedy DayPlan, bound Bound) {
	p := planner{Day: d, panels: panels, elig: eligibility(d, panels)}
	for g, bits := range p.elig {
		if bits == 0 {
			p.unplaced = append(p.unplaced, g)
		}
	}
	bound = lowerBound(d, panels, p.elig)
	if _, finish, _, all := everyPlan(d, p.elig, len(panels), bound.Finish); all {
		bound.tried(d, finish)
	}
	return p.greedy(), bound
}

// tried takes the end of the best of all plans into account. Where the plan shares the examiners, they may be shared
// otherwise, and it proves nothing.
func (b *Bound) tried(d Day, finish int) {
	if !d.Share && finish > b.Finish {
		*b = Bound{finish, Proof{Kind: EveryWay}}
	}
}

// lowerBound is the latest of what no plan can undercut:
//
//	rings   for every set of rings: warm-up, and an even share of the work and changes of all
//	        groups that only those rings may take; longer by the pause where that reaches into it.
//	        Every part but the first of a ring follows a change, or its own rest, if that is shorter
//	path    one group's own way: warm-up, first part, rest, second part
//	pinned  the same from the minute a group is pinned to
//	rank    where the plan shares the examiners: for every rung, an even share of the work of
//	        that rung and above over as many rings as have panels of that rank
func lowerBound(d Day, panels [][]int, elig []uint) Bound {
	x := bounding{Day: d, panels: panels, elig: elig, start: d.Open + d.Warmup}
	for _, panel := range panels {
		if len(panel) > 0 {
			x.open++
		}
	}
	if x.open == 0 {
		return x.b
	}
	for i, g := range d.Groups {
		if elig[i] != 0 {
			x.path(g)
		}
	}
	if d.Share {
		x.ranks()
		return x.b
	}
	x.ringSets()
	return x.b
}

// bounding looks for the latest of what no plan can undercut.
type bounding struct {
	Day
	panels [][]int
	elig   []uint
	start  int // of the tests
	open   int // rings with a panel
	b      Bound
}

func (x *bounding) raise(finish int, proof Proof) {
	if finish > x.b.Finish {
		x.b = Bound{finish, proof}
	}
}

// clock is when so many minutes of work are over, the pause where that reaches into it.
func (x *bounding) clock(work int) int {
	if x.PauseTo > 0 && x.start+work > x.PauseFrom {
		return x.start + work + max(0, x.PauseTo-max(x.PauseFrom, x.start))
	}
	return x.start + work
}

// reach is the earliest end of a ring that is busy for so many minutes, changes and all: what ends before the pause has all
// of its changes; what does not, ends after it, and is busy for no less than spared, with one change less.
func (x *bounding) reach(busy, spared int) int {
	if x.PauseTo == 0 || x.start+busy <= x.PauseFrom {
		return x.start + busy
	}
	return max(x.PauseTo, x.clock(spared))
}

// load is what some groups have in common: how many, how many of them with a second part, the minutes of work.
type load struct{ n, second, work int }

func (l *load) add(g DayGroup) {
	l.n, l.second, l.work = l.n+1, l.second+min(1, g.Then), l.work+g.Minutes()
}

// shared is an even share of a load over some rings.
func (x *bounding) shared(rings int, l load, whose Whose) {
	if l.n == 0 || rings == 0 {
		return
	}
	gaps := x.Change*max(0, l.n-rings) + min(x.Change, x.Rest)*l.second
	share := (l.work + gaps + rings - 1) / rings
	spared := (l.work + max(0, gaps-x.Change*rings) + rings - 1) / rings
	x.raise(x.reach(share, spared), Proof{Kind: ByShare, Whose: whose, Groups: l.n, Work: l.work, Gaps: gaps, Rings: rings, Each: share})
}

// path is one group's own way, from the minute it is pinned to where it is.
func (x *bounding) path(g DayGroup) {
	way := g.First + g.Then
	if g.Then > 0 {
		way += x.Rest
	}
	if g.At > 0 {
		x.raise(g.At+way, Proof{Kind: ByPin, Name: g.Name, At: g.At, Each: way})
		return
	}
	x.raise(max(x.start+way, x.clock(g.Minutes())), Proof{Kind: ByItself, Name: g.Name, Each: way})
}

// ranks are, for every rung, the groups of that rung and above over as many rings as have panels of that rank.
func (x *bounding) ranks() {
	seats := 0
	for _, panel := range x.panels {
		seats = max(seats, len(panel))
	}
	levels := map[int]bool{}
	for _, g := range x.Groups {
		levels[g.Rung] = true
	}
	for level := range levels {
		able := 0
		for _, e := range x.Examiners {
			if e.Rank == RankUnknown || e.Rank >= level {
				able++
			}
		}
		var l load
		name, lowest := "", true
		for i, g := range x.Groups {
			lowest = lowest && g.Rung >= level
			if g.Rung >= level && x.elig[i] != 0 && (g.At == 0 || g.At >= x.start) {
				l.add(g)
			}
			if g.Rung == level {
				name = g.For
			}
		}
		var whose Whose
		if !lowest {
			whose.AtLeast = name
		}
		x.shared(min(x.open, able/max(seats, 1)), l, whose)
	}
}

// ringSets are, for every set of rings, the groups that only those rings may take.
func (x *bounding) ringSets() {
	for set := uint(1); set < 1<<len(x.panels); set++ {
		rings, whole := 0, true
		var names []string
		for r := range x.panels {
			if set&(1<<r) != 0 {
				whole = whole && len(x.panels[r]) > 0
				rings++
				names = append(names, x.Rings[r].Name)
			}
		}
		if !whole {
			continue
		}
		var l load
		for i, g := range x.Groups {
			early := g.At > 0 && g.At < x.start // pinned before the warm-up is over
			if x.elig[i] != 0 && x.elig[i]&^set == 0 && !early {
				l.add(g)
			}
		}
		var whose Whose
		if rings < x.open {
			whose.Only = names
		}
		x.shared(rings, l, whose)
	}
}

// Limit is what keeps a day from ending earlier: the ring that ends last, and the bound.
type Limit struct {
	Ring   string
	Until  int // minutes of the day
	Groups int // in that ring; 0 nobody is tested
	Work   int // their minutes in all
	Idle   int // minutes of changing, rest and pause between them
	Bound  Bound
}

// Proven reports whether no plan can end earlier.
func (l Limit) Proven() bool { return l.Until <= l.Bound.Finish }

// LimitOf finds what keeps the day from ending earlier.
func LimitOf(d Day, p DayPlan, b Bound) (out Limit) {
	if len(p.Slots) == 0 {
		return Limit{}
	}
	last := slices.MaxFunc(p.Slots, func(a, b Slot) int { return cmp.Compare(a.To, b.To) }).Ring
	out = Limit{Ring: d.Rings[last].Name, Until: p.Finish, Bound: b}
	groups := map[int]bool{}
	for _, s := range p.Slots {
		if s.Ring == last {
			groups[s.Group] = true
			out.Work += s.To - s.From
		}
	}
	out.Groups = len(groups)
	out.Idle = p.Finish - d.Open - d.Warmup - out.Work
	return out
}
