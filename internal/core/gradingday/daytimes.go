package gradingday

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/curriculum"
)

// Minutes is how long a sheet takes in a ring: up to the rest between fitness and sparring, and
// after it. Where one of the two never follows the other there is no rest and then is 0. Each is rounded up.
func Minutes(lines []curriculum.Line) (first, then int) {
	split, last := len(lines), curriculum.Kind("")
	for i, l := range lines {
		if l.Kind != "fitness" && l.Kind != "sparring" {
			continue
		}
		if last != "" && l.Kind != last {
			split = i
			break
		}
		last = l.Kind
	}
	for i, l := range lines {
		if i < split {
			first += l.Seconds
		} else {
			then += l.Seconds
		}
	}
	return (first + 59) / 60, (then + 59) / 60
}

// Retime keeps the rings and the order of the groups in each, and gives them their earliest times.
func Retime(d Day, panels [][]int, rings [][]int) DayPlan {
	p := planner{Day: d, panels: panels, rings: rings, fixed: true}
	return p.plan()
}

// time gives the parts of a ring's groups their times. First parts keep their order; a second
// part is called as soon as its rest is over and the ring is free. Before the last first part up to
// three second parts may be kept back, to fill the last rest: the number that ends earliest, then
// waits least, is taken.
func (d Day) time(ring []int, keep bool) (slots []Slot, best ringCost) {
	for back := range 4 {
		s, c := d.timeWith(ring, back, keep)
		if back == 0 || c.finish < best.finish || c.finish == best.finish && c.waiting < best.waiting {
			slots, best = s, c
		}
	}
	return slots, best
}

type span struct{ from, to int }

// timeWith is long: one pass over the day, minute by minute, in which each slot depends on those before.
func (d Day) timeWith(ring []int, back int, keep bool) (slots []Slot, c ringCost) {
	var taken [8]span
	busy := taken[:0]
	if d.PauseTo > 0 {
		busy = append(busy, span{d.PauseFrom, d.PauseTo})
	}
	place := func(g, part, from, minutes int) {
		if keep {
			slots = append(slots, Slot{Group: g, Part: part, From: from, To: from + minutes})
		}
		c.finish = max(c.finish, from+minutes)
	}
	type resting struct{ group, ready int }
	var restingAt [8]resting
	wait := restingAt[:0]
	left := 0
	for _, g := range ring {
		x := d.Groups[g]
		if x.At == 0 {
			left++
			continue
		}
		busy = append(busy, span{x.At - d.Change, x.At + x.First + d.Change})
		place(g, 1, x.At, x.First)
		if x.Then > 0 {
			wait = append(wait, resting{g, x.At + x.First + d.Rest})
		}
	}
	slices.SortFunc(busy, func(a, b span) int { return cmp.Compare(a.from, b.from) })
	slices.SortStableFunc(wait, func(a, b resting) int { return cmp.Compare(a.ready, b.ready) })
	free := func(from, minutes int) int {
		for _, b := range busy {
			if from < b.to && from+minutes > b.from {
				from = b.to
			}
		}
		return from
	}
	t, next := d.Open+d.Warmup, 0
	for left > 0 || len(wait) > 0 {
		for next < len(ring) && d.Groups[ring[next]].At > 0 {
			next++
		}
		second := len(wait) > 0 && (left == 0 || wait[0].ready <= t && !(left == 1 && len(wait) <= back))
		if second {
			w := wait[0]
			g := d.Groups[w.group]
			from := free(max(t, w.ready), g.Then)
			place(w.group, 2, from, g.Then)
			c.waiting += (from - w.ready) * max(1, len(g.Students))
			t = from + g.Then + d.Change
			wait = wait[1:]
			continue
		}
		g := d.Groups[ring[next]]
		from := free(t, g.First)
		place(ring[next], 1, from, g.First)
		t = from + g.First + d.Change
		if g.Then > 0 {
			wait = append(wait, resting{ring[next], from + g.First + d.Rest})
			slices.SortStableFunc(wait, func(a, b resting) int { return cmp.Compare(a.ready, b.ready) })
		}
		next++
		left--
	}
	return slots, c
}
