package gradingday

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/timetable"
)

// Bound is the proof that no plan ends earlier.
type Bound struct {
	Finish int
	Why    string
}

// Beside are the plain plan and the bound for panels that are known.
func Beside(d Day, panels [][]int) (greedy DayPlan, bound Bound) {
	p := planner{Day: d, panels: panels, elig: eligibility(d, panels)}
	for g, bits := range p.elig {
		if bits == 0 {
			p.unplaced = append(p.unplaced, g)
		}
	}
	return p.greedy(), lowerBound(d, panels, p.elig)
}

// lowerBound is the latest of what no plan can undercut:
//
//	rings   for every set of rings: warm-up, and an even share of the work and changes of all
//	        groups that only those rings may take; longer by the pause where that reaches into it.
//	        Every part but the first of a ring follows a change, or its own rest, if that is shorter
//	path    one group's own way: warm-up, first part, rest, second part
//	pinned  the same from the minute a group is pinned to
//	shares  where the groups are few: every way to share them over the rings, each ring's end being at least its
//	        work with the changes between, and the first parts, the last group's rest and its second part
//	rank    where the plan shares the examiners: for every rung, an even share of the work of
//	        that rung and above over as many rings as have panels of that rank
func lowerBound(d Day, panels [][]int, elig []uint) (b Bound) {
	start := d.Open + d.Warmup
	raise := func(finish int, why string) {
		if finish > b.Finish {
			b = Bound{finish, why}
		}
	}
	clock := func(work int) int {
		if d.PauseTo > 0 && start+work > d.PauseFrom {
			return start + work + max(0, d.PauseTo-max(d.PauseFrom, start))
		}
		return start + work
	}
	// reach is the earliest end of a ring that is busy for so many minutes, changes and all: what ends before the pause has all
	// of its changes; what does not, ends after it, and is busy for no less than spared, with one change less.
	reach := func(busy, spared int) int {
		if d.PauseTo == 0 || start+busy <= d.PauseFrom {
			return start + busy
		}
		return max(d.PauseTo, clock(spared))
	}
	shared := func(rings, n, second, work int, whose string) {
		if n == 0 || rings == 0 {
			return
		}
		gaps := d.Change*max(0, n-rings) + min(d.Change, d.Rest)*second
		share := (work + gaps + rings - 1) / rings
		spared := (work + max(0, gaps-d.Change*rings) + rings - 1) / rings
		raise(reach(share, spared), fmt.Sprintf("%s: %d groups need %d min of testing and %d min of changing, over %s at least %d min each", whose, n, work, gaps, many(rings, "ring"), share))
	}
	open := 0
	for _, panel := range panels {
		if len(panel) > 0 {
			open++
		}
	}
	if open == 0 {
		return b
	}
	for i, g := range d.Groups {
		if elig[i] == 0 {
			continue
		}
		way := g.First + g.Then
		if g.Then > 0 {
			way += d.Rest
		}
		from := start
		if g.At > 0 {
			from = g.At
		}
		finish := from + way
		if g.At == 0 {
			finish = max(finish, clock(g.Minutes()))
		}
		why := fmt.Sprintf("%s alone needs %d min after the warm-up", g.Name, way)
		if g.At > 0 {
			why = fmt.Sprintf("%s is pinned to %s and needs %d min", g.Name, timetable.Clock(g.At), way)
		}
		raise(finish, why)
	}
	if d.Share {
		seats := 0
		for _, panel := range panels {
			seats = max(seats, len(panel))
		}
		levels := map[int]bool{}
		for _, g := range d.Groups {
			levels[g.Rung] = true
		}
		for level := range levels {
			able, n, second, work, name := 0, 0, 0, 0, ""
			for _, e := range d.Examiners {
				if e.Rank == RankUnknown || e.Rank >= level {
					able++
				}
			}
			lowest := true
			for i, g := range d.Groups {
				if g.Rung < level {
					lowest = false
				}
				if g.Rung >= level && elig[i] != 0 && (g.At == 0 || g.At >= start) {
					n, second, work = n+1, second+min(1, g.Then), work+g.Minutes()
				}
				if g.Rung == level {
					name = g.For
				}
			}
			whose := "all groups"
			if !lowest {
				whose = "those tested for " + name + " and above"
			}
			shared(min(open, able/max(seats, 1)), n, second, work, whose)
		}
		return b
	}
	for set := uint(1); set < 1<<len(panels); set++ {
		n, second, work, rings, whole := 0, 0, 0, 0, true
		var names []string
		for r := range panels {
			if set&(1<<r) != 0 {
				if len(panels[r]) == 0 {
					whole = false
				}
				rings++
				names = append(names, d.Rings[r].Name)
			}
		}
		if !whole {
			continue
		}
		for i := range d.Groups {
			early := d.Groups[i].At > 0 && d.Groups[i].At < start // pinned before the warm-up is over
			if elig[i] != 0 && elig[i]&^set == 0 && !early {
				n, second, work = n+1, second+min(1, d.Groups[i].Then), work+d.Groups[i].Minutes()
			}
		}
		whose := "all groups"
		if rings < open {
			whose = "those that only " + strings.Join(names, " or ") + " may take"
		}
		shared(rings, n, second, work, whose)
	}
	if finish, ways := everyShare(d, elig, len(panels), clock, reach); finish > b.Finish {
		raise(finish, fmt.Sprintf("of all %d ways to share the groups over the rings none ends earlier", ways))
	}
	return b
}

// shareWays is how many ways to share groups over rings are tried at most: some hundredths of a second.
const shareWays = 60_000

// everyShare is the least end of the last ring over all ways to share the groups over the rings, each ring ending
// no earlier than it must; 0 where the ways are too many or a group is pinned to a time.
func everyShare(d Day, elig []uint, rings int, clock func(int) int, reach func(busy, spared int) int) (finish, ways int) {
	var groups []int
	ways = 1
	for i, g := range d.Groups {
		if elig[i] == 0 {
			continue
		}
		if ways *= ones(elig[i]); ways > shareWays || g.At > 0 {
			return 0, 0
		}
		groups = append(groups, i)
	}
	type load struct{ first, then, seconds, n, last int } // last: the least rest and second part after the last first part
	slices.SortStableFunc(groups, func(a, b int) int { return cmp.Compare(d.key(d.Groups[a]), d.key(d.Groups[b])) })
	loads := make([]load, rings)
	ends := func(l load) int {
		if l.n == 0 {
			return 0
		}
		with := func(work, gaps int) int { return reach(work+gaps, work+max(0, gaps-d.Change)) }
		changes := d.Change * (l.n - 1)
		return max(with(l.first+l.then, changes+min(d.Change, d.Rest)*l.seconds), with(l.first, changes)+l.last)
	}
	finish = 1 << 30
	var try func(k, sofar int)
	try = func(k, sofar int) {
		if sofar >= finish {
			return
		}
		if k == len(groups) {
			finish = sofar
			return
		}
		g := d.Groups[groups[k]]
		for r := range loads {
			if elig[groups[k]]&(1<<r) == 0 {
				continue
			}
			before := loads[r]
			l := &loads[r]
			l.first, l.then, l.n = l.first+g.First, l.then+g.Then, l.n+1
			tail := 0
			if g.Then > 0 {
				l.seconds++
				tail = d.Rest + g.Then
			}
			// Groups of one key may stand in any order: the one that leaves the least to do may be the last.
			if l.last = tail; before.n > 0 && k > 0 && sameKey(d, groups[:k], g) {
				l.last = min(before.last, tail)
			}
			now := sofar
			if k == len(groups)-1 {
				now = 0
				for _, x := range loads {
					now = max(now, ends(x))
				}
			} else {
				now = max(now, clock(l.first+l.then))
			}
			try(k+1, now)
			*l = before
		}
	}
	try(0, 0)
	return finish, ways
}

// sameKey reports whether a group before this one has its key, so that the two may change places.
func sameKey(d Day, before []int, g DayGroup) bool {
	return slices.ContainsFunc(before, func(i int) bool { return d.key(d.Groups[i]) == d.key(g) })
}

// Limit says what keeps the day from ending earlier.
func Limit(d Day, p DayPlan, b Bound) string {
	if len(p.Slots) == 0 {
		return ""
	}
	last := slices.MaxFunc(p.Slots, func(a, b Slot) int { return cmp.Compare(a.To, b.To) }).Ring
	groups, work, longest := map[int]bool{}, 0, 0
	for _, s := range p.Slots {
		if s.Ring == last {
			groups[s.Group] = true
			work += s.To - s.From
			longest = max(longest, d.Groups[s.Group].Minutes())
		}
	}
	n := len(groups)
	idle := p.Finish - d.Open - d.Warmup - work
	words := fmt.Sprintf("%s is full until %s: %s × %d min, %d min in all", d.Rings[last].Name, timetable.Clock(p.Finish), many(n, "group"), (work+n/2)/n, work)
	if n == 1 {
		words = fmt.Sprintf("%s is full until %s: one group of %d min", d.Rings[last].Name, timetable.Clock(p.Finish), longest)
	}
	words += fmt.Sprintf(", and %d min of changing, rest and pause between them. ", idle)
	if p.Finish <= b.Finish {
		return words + "No plan can end earlier: " + b.Why + "."
	}
	return words + fmt.Sprintf("No plan can end before %s: %s.", timetable.Clock(b.Finish), b.Why)
}
