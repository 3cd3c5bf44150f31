package gradingday

import (
	"cmp"
	"slices"
)

// Bounds of trying every way, in steps: some hundredths of a second.
const (
	waySteps  = 250_000 // over a whole day
	ringSteps = 20_000  // for the times of one ring whose groups are settled
	wayGroups = 12      // more groups have too many ways
	wayShares = 60_000  // ways to share the groups over the rings
)

// ringWay is one way to test some groups in a ring.
type ringWay struct {
	finish, waiting int
	slots           []Slot
}

func (w ringWay) better(than ringWay, within int) bool {
	if within > 0 { // every end up to within is as good as another
		return cmp.Or(cmp.Compare(w.waiting, than.waiting), cmp.Compare(w.finish, than.finish)) < 0
	}
	return cmp.Or(cmp.Compare(w.finish, than.finish), cmp.Compare(w.waiting, than.waiting)) < 0
}

// ringSearch looks for the best times of one ring: first parts in their order, of equal groups in any; a second part any
// time after its rest; nothing in the pause or in the way of what is pinned. A part that would begin later than it can
// is never better, so that a way is the order of the parts alone.
type ringSearch struct {
	Day
	groups []int // by key, pinned ones left out
	keys   []int // of groups; equal ones may change places
	pinned []int
	steps  *int // left
	within int  // the least waiting is looked for among what ends by then; 0: the earliest end
	best   ringWay
	slots  []Slot
	seen   map[ringPlace][]ringPast
}

// ringPlace is what is done, and which group was tested last; -1 none.
type ringPlace struct {
	first, second uint32
	last          int
}

// ringPast is how one came there.
type ringPast struct {
	end, waiting int
	ready        [wayGroups]int
}

// bestRing is the best way to test groups in a ring that is better than one known, if there is one; all is false where
// the steps ran out.
func (d Day) bestRing(groups []int, key func(int) int, known ringWay, within int, steps *int) (best ringWay, all bool) {
	if len(groups) > wayGroups {
		return known, false
	}
	x := ringSearch{Day: d, steps: steps, within: within, best: known, seen: map[ringPlace][]ringPast{}}
	for _, g := range groups {
		if d.Groups[g].At > 0 {
			x.pinned = append(x.pinned, g)
		} else {
			x.groups = append(x.groups, g)
		}
	}
	slices.SortStableFunc(x.groups, func(a, b int) int { return cmp.Compare(key(a), key(b)) })
	for _, g := range x.groups {
		x.keys = append(x.keys, key(g))
	}
	from := ringPast{end: d.Open + d.Warmup}
	finish := 0
	for k, g := range x.pinned {
		p := d.Groups[g]
		x.slots = append(x.slots, Slot{Group: g, Part: 1, From: p.At, To: p.At + p.First})
		from.ready[len(x.groups)+k] = p.At + p.First + d.Rest
		finish = max(finish, p.At+p.First)
	}
	first := uint32(0)
	for k := range x.pinned {
		first |= 1 << (len(x.groups) + k)
	}
	x.look(ringPlace{first: first, last: -1}, from, finish)
	return x.best, *steps > 0
}

// at is a group by its place: those that are pinned stand behind the others.
func (x *ringSearch) at(k int) int {
	if k < len(x.groups) {
		return x.groups[k]
	}
	return x.pinned[k-len(x.groups)]
}

// free is when a part of a group can begin, from a minute on.
func (x *ringSearch) free(g, from, minutes int) int {
	for moved := true; moved; {
		moved = false
		if x.PauseTo > 0 && from < x.PauseTo && from+minutes > x.PauseFrom {
			from = x.PauseTo // what is pinned is looked at next, from there
		}
		for _, p := range x.pinned {
			gap := x.Change
			if p == g {
				gap = 0
			}
			if to := x.Day.Groups[p].At + x.Day.Groups[p].First; from < to+gap && from+minutes > x.Day.Groups[p].At-gap {
				from, moved = to+gap, true
			}
		}
	}
	return from
}

// after is the earliest a part of the group at k can follow what was tested last.
func (x *ringSearch) after(at ringPlace, past ringPast, k int) int {
	if at.last < 0 || at.last == k {
		return past.end
	}
	return past.end + x.Change
}

// look goes on from a place in every way that may still be better.
// It is long: one step for each part that may come next.
func (x *ringSearch) look(at ringPlace, past ringPast, finish int) {
	if *x.steps--; *x.steps <= 0 {
		return
	}
	least, done := x.least(at, past, finish)
	if done {
		if way := (ringWay{finish, past.waiting, nil}); way.better(x.best, x.within) && (x.within == 0 || finish <= x.within) {
			way.slots = slices.Clone(x.slots)
			x.best = way
		}
		return
	}
	if hopeless := (ringWay{least, past.waiting, nil}); x.within > 0 && least > x.within || !hopeless.better(x.best, x.within) || x.worse(at, past) {
		return
	}
	n := len(x.groups) + len(x.pinned)
	for k := range n { // second parts whose first is over
		bit := uint32(1) << k
		g := x.at(k)
		if at.first&bit == 0 || at.second&bit != 0 || x.Day.Groups[g].Then == 0 {
			continue
		}
		group := x.Day.Groups[g]
		from := x.free(g, max(x.after(at, past, k), past.ready[k]), group.Then)
		next := past
		next.end, next.waiting = from+group.Then, past.waiting+(from-past.ready[k])*max(1, len(group.Students))
		next.ready[k] = 0
		x.slots = append(x.slots, Slot{Group: g, Part: 2, From: from, To: next.end})
		x.look(ringPlace{at.first, at.second | bit, k}, next, max(finish, next.end))
		x.slots = x.slots[:len(x.slots)-1]
	}
	key, tried := 0, map[[3]int]bool{}
	for k := range x.groups { // first parts: of the next key
		bit := uint32(1) << k
		if at.first&bit != 0 {
			continue
		}
		if len(tried) > 0 && x.keys[k] != key {
			break
		}
		g := x.at(k)
		group := x.Day.Groups[g]
		like := [3]int{group.First, group.Then, len(group.Students)}
		if key = x.keys[k]; tried[like] {
			continue
		}
		tried[like] = true
		from := x.free(g, x.after(at, past, k), group.First)
		next := past
		next.end, next.ready[k] = from+group.First, from+group.First+x.Rest
		x.slots = append(x.slots, Slot{Group: g, Part: 1, From: from, To: next.end})
		x.look(ringPlace{at.first | bit, at.second, k}, next, max(finish, next.end))
		x.slots = x.slots[:len(x.slots)-1]
	}
}

// least is the earliest the ring can end from a place; done, that nothing is left.
func (x *ringSearch) least(at ringPlace, past ringPast, finish int) (least int, done bool) {
	work, gaps := 0, 0
	least, done = finish, true
	for k := range len(x.groups) + len(x.pinned) {
		bit := uint32(1) << k
		g := x.Day.Groups[x.at(k)]
		gap := x.Change
		if at.last < 0 || at.last == k {
			gap = 0
		}
		switch {
		case at.first&bit == 0:
			done = false
			work, gaps = work+g.First+g.Then, gaps+x.Change
			end := past.end + gap + g.First
			if g.Then > 0 {
				gaps += min(x.Change, x.Rest)
				end += x.Rest + g.Then
			}
			least = max(least, end)
		case g.Then > 0 && at.second&bit == 0:
			done = false
			work, gaps = work+g.Then, gaps+min(x.Change, x.Rest)
			least = max(least, max(past.end+gap, past.ready[k])+g.Then)
		}
	}
	if done {
		return least, true
	}
	if at.last < 0 {
		gaps -= x.Change
	}
	gaps = max(gaps, 0)
	end := past.end + work + gaps
	if x.PauseTo > past.end && end > x.PauseFrom { // one change may lie in the pause
		end = past.end + work + max(0, gaps-x.Change) + x.PauseTo - max(x.PauseFrom, past.end)
	}
	return max(least, end), false
}

// worse reports whether one was at a place before and had everything no later, and remembers this one where not.
func (x *ringSearch) worse(at ringPlace, past ringPast) bool {
	open := x.open(at)
	for _, k := range open { // whoever is ready earlier has waited longer, whenever they go on
		past.waiting -= past.ready[k] * max(1, len(x.Day.Groups[x.at(k)].Students))
	}
	all := x.seen[at]
	for _, p := range all {
		if p.end <= past.end && p.waiting <= past.waiting && !slices.ContainsFunc(open, func(k int) bool { return p.ready[k] > past.ready[k] }) {
			return true
		}
	}
	x.seen[at] = append(all, past)
	return false
}

// open are the groups whose second part is still to come.
func (x *ringSearch) open(at ringPlace) (out []int) {
	for k := range len(x.groups) + len(x.pinned) {
		if bit := uint32(1) << k; at.first&bit != 0 && at.second&bit == 0 && x.Day.Groups[x.at(k)].Then > 0 {
			out = append(out, k)
		}
	}
	return out
}

// everyWay tries every way to share groups over rings, and in each ring every way to test them.
type everyWay struct {
	Day
	elig   []uint
	rings  int
	order  []int // groups that a ring may take, the longest first
	steps  int
	within int // the end that is held while the least waiting is looked for
	known  map[uint32]ringWay
	sets   []uint32 // by ring: the groups it has so far
	best   []uint32
	finish int
	wait   int
}

// everyPlan is the plan that ends earliest of all there are for these panels, and of those waits least; all is false
// where there are too many to be tried. floor is an end that no plan undercuts.
func everyPlan(d Day, elig []uint, rings, floor int) (slots []Slot, finish, waiting int, all bool) {
	x := everyWay{Day: d, elig: elig, rings: rings, steps: waySteps, known: map[uint32]ringWay{}, sets: make([]uint32, rings), finish: 1 << 30}
	shares := 1
	for g, bits := range elig {
		if bits == 0 {
			continue
		}
		if shares *= ones(bits); shares > wayShares || len(d.Groups) > wayGroups {
			return nil, 0, 0, false
		}
		x.order = append(x.order, g)
	}
	if len(x.order) == 0 {
		return nil, 0, 0, false
	}
	slices.SortStableFunc(x.order, func(a, b int) int { return cmp.Compare(d.Groups[b].Minutes(), d.Groups[a].Minutes()) })
	x.share(0, floor)
	if x.steps <= 0 {
		return nil, 0, 0, false
	}
	best, known, finish := x.best, x.known, x.finish
	// The same once more: of what ends by then, the least waiting. Where that takes too long the first stays.
	x.within, x.known, x.wait, x.steps, x.best = finish, map[uint32]ringWay{}, 1<<30, waySteps, nil
	x.share(0, 0)
	if x.steps <= 0 || x.best == nil {
		x.best, x.known = best, known
	}
	for r, set := range x.best {
		way := x.known[set]
		for _, s := range way.slots {
			s.Ring = r
			slots = append(slots, s)
		}
		waiting += way.waiting
	}
	slices.SortStableFunc(slots, func(a, b Slot) int { return cmp.Or(cmp.Compare(a.Ring, b.Ring), cmp.Compare(a.From, b.From)) })
	return slots, finish, waiting, true
}

// share puts the group at k, and those behind it, into every ring that may take it.
func (x *everyWay) share(k, floor int) {
	if x.steps--; x.steps <= 0 || x.within == 0 && x.finish <= floor {
		return
	}
	if k == len(x.order) {
		x.settle()
		return
	}
	g := x.order[k]
	empty := map[uint]bool{} // rings without a group that the same groups may go to are alike
	for r := range x.rings {
		if x.elig[g]&(1<<r) == 0 {
			continue
		}
		if x.sets[r] == 0 {
			like := x.takes(r)
			if empty[like] {
				continue
			}
			empty[like] = true
		}
		x.sets[r] |= 1 << g
		if least := x.load(x.sets[r]); x.within > 0 && least <= x.within || x.within == 0 && least < x.finish {
			x.share(k+1, floor)
		}
		x.sets[r] &^= 1 << g
	}
}

// takes are the groups that may go to a ring.
func (x *everyWay) takes(r int) (set uint) {
	for _, g := range x.order {
		if x.elig[g]&(1<<r) != 0 {
			set |= 1 << g
		}
	}
	return set
}

// load is what a ring with these groups cannot end before.
func (x *everyWay) load(set uint32) int {
	s := ringSearch{Day: x.Day, groups: x.groupsOf(set)}
	least, _ := s.least(ringPlace{last: -1}, ringPast{end: x.Open + x.Warmup}, 0)
	return least
}

func (x *everyWay) groupsOf(set uint32) (out []int) {
	for g := range x.Day.Groups {
		if set&(1<<g) != 0 && (x.Day.Groups[g].At == 0) {
			out = append(out, g)
		}
	}
	return out
}

// settle looks at a whole share: is it better than the best?
func (x *everyWay) settle() {
	finish, waiting := 0, 0
	for _, set := range x.sets {
		if set == 0 {
			continue
		}
		way, there := x.known[set]
		if !there {
			var groups []int
			for g := range x.Day.Groups {
				if set&(1<<g) != 0 {
					groups = append(groups, g)
				}
			}
			way, _ = x.bestRing(groups, func(g int) int { return x.key(x.Day.Groups[g]) }, ringWay{finish: 1 << 30, waiting: 1 << 30}, x.within, &x.steps)
			if x.steps <= 0 {
				return
			}
			x.known[set] = way
		}
		finish, waiting = max(finish, way.finish), waiting+way.waiting
	}
	if x.within > 0 {
		if finish <= x.within && waiting < x.wait {
			x.wait, x.best = waiting, slices.Clone(x.sets)
		}
		return
	}
	if finish < x.finish {
		x.finish, x.best = finish, slices.Clone(x.sets)
	}
}
