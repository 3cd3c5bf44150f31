package gradingday

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/timetable"
)

// Order says which groups go first in a ring.
type Order string

// The orders.
const (
	YoungestFirst Order = "youngest_first" // by the age of the youngest in the group; unknown ages last
	RankUp        Order = "rank_up"        // the lowest rung first
	RankDown      Order = "rank_down"      // the highest rung first
	AnyOrder      Order = "any"
)

// Orders are the choices.
var Orders = []Order{YoungestFirst, RankUp, RankDown, AnyOrder}

// Words is the order as people say it.
func (o Order) Words() string {
	return map[Order]string{YoungestFirst: "youngest first", RankUp: "lowest rank first", RankDown: "highest rank first", AnyOrder: "any order"}[o]
}

// DayRules are the hours and habits of a day. Times of day are minutes after midnight, all
// else is minutes.
type DayRules struct {
	Open      int   `json:"open"`  // the hall, 0 to 1439
	Close     int   `json:"close"` // after Open, to 1440
	Warmup    int   `json:"warmup"`
	Rest      int   `json:"rest"`                 // between fitness and sparring
	Change    int   `json:"change"`               // between two groups in a ring
	PauseFrom int   `json:"pause_from,omitempty"` // nothing is tested until PauseTo; both 0: no pause
	PauseTo   int   `json:"pause_to,omitempty"`
	Order     Order `json:"order"`
	Share     bool  `json:"share,omitempty"` // the plan shares the examiners over the rings; else they sit where they are named
}

// UsualDay is what a new plan begins with.
var UsualDay = DayRules{Open: 9 * 60, Close: 18 * 60, Warmup: 15, Rest: 10, Change: 3, Order: YoungestFirst}

// Check notes what is wrong with the rules.
func (r DayRules) Check() check.Problems {
	var p check.Problems
	if r.Open < 0 || r.Open > 1439 {
		p.Add("open", "is no time of day; write one from 00:00 to 23:59")
	}
	if r.Close <= r.Open || r.Close > 1440 {
		p.Add("close", "is %s; the hall closes after it opens, at %s", timetable.Clock(r.Close), timetable.Clock(r.Open))
	}
	for _, x := range []struct {
		name  string
		value int
	}{{"warmup", r.Warmup}, {"rest", r.Rest}, {"change", r.Change}} {
		if x.value < 0 || x.value > 120 {
			p.Add(x.name, "is %d min; it must be from 0 to 120", x.value)
		}
	}
	if (r.PauseFrom != 0 || r.PauseTo != 0) && (r.PauseTo <= r.PauseFrom || r.PauseFrom < r.Open || r.PauseTo > r.Close) {
		p.Add("pause_from", "the pause is from %s to %s; write a time within hall hours, %s to %s, or leave both empty", timetable.Clock(r.PauseFrom), timetable.Clock(r.PauseTo), timetable.Clock(r.Open), timetable.Clock(r.Close))
	}
	check.OneOf(&p, "order", r.Order, Orders)
	return p
}

// RankUnknown is the rank of an examiner of whom none is on record. It is held against
// nobody, and said.
const RankUnknown = -1

// Spare is the ring of an examiner who sits in none.
const Spare = -1

// DayExaminer is an examiner as the plan sees them.
type DayExaminer struct {
	ID, Name string
	Chief    bool
	Ring     int      // index of the ring they are named for, or Spare
	Rank     int      // place of the highest rung held in this program, or RankUnknown
	RankName string   // as words
	Family   []string // students of their family
}

// May says whether an examiner may examine a group; why says what forbids it.
func (e DayExaminer) May(g DayGroup) (ok bool, why string) {
	if e.Rank != RankUnknown && e.Rank < g.Rung {
		return false, fmt.Sprintf("%s holds %s, and %s is tested", e.Name, e.RankName, g.For)
	}
	for _, s := range g.Students {
		if slices.Contains(e.Family, s) {
			return false, e.Name + " is of the family of a candidate"
		}
	}
	return true, ""
}

// DayGroup is a group with the time it needs in a ring.
type DayGroup struct {
	ID, Name string
	For      string   // "Orange belt, Juniors"
	Rung     int      // the highest place tested
	Months   int      // age of the youngest, 0 unknown
	Students []string // ids
	First    int      // minutes in the ring up to the rest between fitness and sparring, or all of them
	Then     int      // minutes after the rest; 0: there is none
	Ring     int      // where it is pinned, or Spare
	At       int      // when it is pinned to begin; 0: whenever
}

// Minutes is all the time a group needs in a ring.
func (g DayGroup) Minutes() int { return g.First + g.Then }

// Day is what a plan is made for.
type Day struct {
	DayRules
	Rings     []Ring
	Examiners []DayExaminer
	PanelSize int // of each ring, where the plan shares the examiners
	Groups    []DayGroup
}

// Slot is one part of a group in a ring; From and To are minutes after midnight.
type Slot struct {
	Group int `json:"-"` // index in Day.Groups
	Ring  int `json:"-"`
	Part  int `json:"part"` // 1, or 2 after the rest
	From  int `json:"from"`
	To    int `json:"to"`
}

// Unplaced is a group that no ring can take.
type Unplaced struct {
	Group int
	Why   []string // a reason for each ring
}

// DayPlan says who goes when and where.
type DayPlan struct {
	Slots    []Slot  // by ring, then by time
	Panels   [][]int // indexes in Day.Examiners, by ring; an empty one is closed
	Unplaced []Unplaced
	Finish   int // the end of the last slot; 0 where nothing is placed
	Waiting  int // candidate-minutes between a rest that is over and the second part
}

// Bound is the proof that no plan ends earlier.
type Bound struct {
	Finish int
	Why    string
}

// key is what groups are ordered by.
func (r DayRules) key(g DayGroup) int {
	switch r.Order {
	case YoungestFirst:
		if g.Months == 0 {
			return 1 << 20
		}
		return g.Months
	case RankUp:
		return g.Rung
	case RankDown:
		return -g.Rung
	}
	return 0
}

// effort bounds the improving of a plan, in tries: enough for the last few minutes of 70
// groups in 8 rings, and well under a second.
const effort = 12000

// patience is how many tries in a row may bring nothing before the improving ends.
const patience = 2500

// PlanDay makes a plan: panels first, then groups to rings, the longest and the choosiest
// first, then moves and swaps that end the day earlier, then those that shorten waiting. The
// same day and seed give the same plan. greedy is the plain plan beside it: in order, each group
// to the ring that is free first, its rest waited for in the ring.
func PlanDay(d Day, seed uint64) (plan, greedy DayPlan, bound Bound) {
	p := planner{Day: d, rng: rand.New(rand.NewPCG(seed, 1))}
	p.panels = p.seat()
	p.elig = eligibility(d, p.panels)
	bound = lowerBound(d, p.panels, p.elig)
	p.construct()
	p.improve(bound.Finish)
	return p.plan(), p.greedy(), bound
}

// Named are the panels as the examiners sit, 1, 3 or 5 of each ring.
func Named(d Day) [][]int {
	d.Share = false
	p := planner{Day: d}
	return p.seat()
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

// Retime keeps the rings and the order of the groups in each, and gives them their earliest times.
func Retime(d Day, panels [][]int, rings [][]int) DayPlan {
	p := planner{Day: d, panels: panels, rings: rings}
	return p.plan()
}

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

type planner struct {
	Day
	rng      *rand.Rand
	panels   [][]int
	elig     []uint // by group: bit set of rings that may take it
	rings    [][]int
	unplaced []int
}

// seat gives every ring its panel: as named, or shared out by rank, so that as many rings as
// can be may take the highest rungs, and then by swaps that part examiners from their families.
func (p *planner) seat() [][]int {
	out := make([][]int, len(p.Rings))
	if !p.Share {
		for i, e := range p.Examiners {
			if e.Ring >= 0 && e.Ring < len(out) {
				out[e.Ring] = append(out[e.Ring], i)
			}
		}
		for i := range out {
			out[i] = odd(p.Examiners, out[i])
		}
		return out
	}
	order := make([]int, len(p.Examiners))
	for i := range order {
		order[i] = i
	}
	rank := func(i int) int {
		if p.Examiners[i].Rank == RankUnknown {
			return 1 << 20
		}
		return p.Examiners[i].Rank
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(rank(b), rank(a)) })
	size := p.PanelSize
	for size > 1 && size > len(order) {
		size -= 2
	}
	if size < 1 {
		return out
	}
	for i := range out {
		if len(order) < size {
			break
		}
		out[i], order = slices.Clone(order[:size]), order[size:]
	}
	score := func() int {
		n := 0
		for _, bits := range eligibility(p.Day, out) {
			open := 0
			for ; bits != 0; bits &= bits - 1 {
				open++
			}
			if n += min(open, 3); open == 0 {
				n -= 1000
			}
		}
		return n
	}
	best := score()
	for range 600 {
		a, b := p.rng.IntN(len(out)), p.rng.IntN(len(out))
		if a == b || len(out[a]) == 0 || len(out[b]) == 0 {
			continue
		}
		i, j := p.rng.IntN(len(out[a])), p.rng.IntN(len(out[b]))
		out[a][i], out[b][j] = out[b][j], out[a][i]
		if now := score(); now < best {
			out[a][i], out[b][j] = out[b][j], out[a][i]
		} else {
			best = now
		}
	}
	return out
}

// odd keeps 1, 3 or 5 of a panel, the chief among them.
func odd(all []DayExaminer, panel []int) []int {
	n := min(len(panel), MaxPanel)
	if n%2 == 0 {
		n = max(n-1, 0)
	}
	out := slices.Clone(panel)
	slices.SortStableFunc(out, func(a, b int) int {
		switch {
		case all[a].Chief == all[b].Chief:
			return 0
		case all[a].Chief:
			return -1
		}
		return 1
	})
	out = out[:n]
	slices.Sort(out)
	return out
}

func eligibility(d Day, panels [][]int) []uint {
	out := make([]uint, len(d.Groups))
	for g := range d.Groups {
		for r, panel := range panels {
			if len(panel) == 0 || d.Groups[g].Ring != Spare && d.Groups[g].Ring != r {
				continue
			}
			ok := true
			for _, e := range panel {
				if may, _ := d.Examiners[e].May(d.Groups[g]); !may {
					ok = false
					break
				}
			}
			if ok {
				out[g] |= 1 << r
			}
		}
	}
	return out
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
	shared := func(rings, n, second, work int, whose string) {
		if n == 0 || rings == 0 {
			return
		}
		gaps := d.Change*max(0, n-rings) + min(d.Change, d.Rest)*second
		if d.PauseTo > 0 { // one change of each ring may fall into the pause
			gaps = max(0, gaps-d.Change*rings)
		}
		all := work + gaps
		share := (all + rings - 1) / rings
		raise(clock(share), fmt.Sprintf("%s: %d groups need %d min of testing and %d min of changing, over %s at least %d min each", whose, n, work, all-work, many(rings, "ring"), share))
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
	if finish, ways := everyShare(d, elig, len(panels), clock); finish > b.Finish {
		raise(finish, fmt.Sprintf("of all %d ways to share the groups over the rings none ends earlier", ways))
	}
	return b
}

// shareWays is how many ways to share groups over rings are tried at most: some hundredths of a second.
const shareWays = 60_000

// everyShare is the least end of the last ring over all ways to share the groups over the rings, each ring ending
// no earlier than it must; 0 where the ways are too many or a group is pinned to a time.
func everyShare(d Day, elig []uint, rings int, clock func(int) int) (finish, ways int) {
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
	saved := 0                                            // a change that may fall into the pause
	if d.PauseTo > 0 {
		saved = d.Change
	}
	slices.SortStableFunc(groups, func(a, b int) int { return cmp.Compare(d.key(d.Groups[a]), d.key(d.Groups[b])) })
	loads := make([]load, rings)
	ends := func(l load) int {
		if l.n == 0 {
			return 0
		}
		gaps := max(0, d.Change*(l.n-1)-saved)
		return max(clock(l.first+l.then+max(0, d.Change*(l.n-1)+min(d.Change, d.Rest)*l.seconds-saved)), clock(l.first+gaps)+l.last)
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

func many(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

// construct puts each group into the ring that may take it and has the least to do; those
// with the fewest rings to choose from go first, the longest among them before the others.
func (p *planner) construct() {
	p.rings = make([][]int, len(p.Rings))
	order := make([]int, len(p.Groups))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(ones(p.elig[a]), ones(p.elig[b])), cmp.Compare(p.Groups[b].Minutes(), p.Groups[a].Minutes()))
	})
	load := make([]int, len(p.Rings))
	for _, g := range order {
		best := -1
		for r := range p.rings {
			if p.elig[g]&(1<<r) != 0 && (best < 0 || load[r] < load[best]) {
				best = r
			}
		}
		if best < 0 {
			p.unplaced = append(p.unplaced, g)
			continue
		}
		load[best] += p.Groups[g].Minutes() + p.Change
		p.rings[best] = append(p.rings[best], g)
	}
	for r := range p.rings {
		p.sort(p.rings[r])
	}
	slices.Sort(p.unplaced)
}

func ones(x uint) (n int) {
	for ; x != 0; x &= x - 1 {
		n++
	}
	return n
}

func (p *planner) sort(ring []int) {
	slices.SortStableFunc(ring, func(a, b int) int {
		return cmp.Or(cmp.Compare(p.key(p.Groups[a]), p.key(p.Groups[b])), cmp.Compare(a, b))
	})
}

// ringCost is what one ring adds to a plan's cost.
type ringCost struct{ finish, waiting int }

// improve tries moves of a group to another ring and swaps of two. First it ends the day
// earlier and levels the rings, until the bound is met; then, without a later end, it shortens
// waiting.
func (p *planner) improve(bound int) {
	if len(p.Rings) < 2 {
		return
	}
	costs := make([]ringCost, len(p.rings))
	for r := range p.rings {
		costs[r] = p.cost(p.rings[r])
	}
	total := func(waiting bool) (c [2]int) {
		for _, x := range costs {
			c[0] = max(c[0], x.finish)
			if waiting {
				c[1] += x.waiting
			} else {
				m := max(0, x.finish-p.Open)
				c[1] += m * m
			}
		}
		return c
	}
	for phase := range 2 {
		waiting := phase == 1
		now, idle := total(waiting), 0
		for range effort {
			if idle++; !waiting && now[0] <= bound || idle > patience {
				break
			}
			a, b := p.rng.IntN(len(p.rings)), p.rng.IntN(len(p.rings))
			if !waiting && p.rng.IntN(4) > 0 { // mostly relieve the ring that ends last
				for r := range costs {
					if costs[r].finish > costs[a].finish {
						a = r
					}
				}
			}
			if a == b || len(p.rings[a]) == 0 {
				continue
			}
			x := p.rng.IntN(len(p.rings[a]))
			g := p.rings[a][x]
			if p.elig[g]&(1<<b) == 0 {
				continue
			}
			ra, rb := slices.Delete(slices.Clone(p.rings[a]), x, x+1), append(slices.Clone(p.rings[b]), g)
			if len(p.rings[b]) > 0 && p.rng.IntN(3) > 0 {
				y := p.rng.IntN(len(p.rings[b]))
				h := p.rings[b][y]
				if p.elig[h]&(1<<a) == 0 {
					continue
				}
				rb = slices.Delete(rb, y, y+1)
				ra = append(ra, h)
			}
			p.sort(ra)
			p.sort(rb)
			oldA, oldB := costs[a], costs[b]
			costs[a], costs[b] = p.cost(ra), p.cost(rb)
			next := total(waiting)
			if better := cmp.Or(cmp.Compare(next[0], now[0]), cmp.Compare(next[1], now[1])); better <= 0 {
				if better < 0 {
					idle = 0
				}
				p.rings[a], p.rings[b], now = ra, rb, next
			} else {
				costs[a], costs[b] = oldA, oldB
			}
		}
	}
}

func (p *planner) cost(ring []int) ringCost {
	_, c := p.time(ring, false)
	return c
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

func (p *planner) plan() (out DayPlan) {
	out.Panels = p.panels
	for r := range p.rings {
		slots, c := p.time(p.rings[r], true)
		for i := range slots {
			slots[i].Ring = r
		}
		slices.SortStableFunc(slots, func(a, b Slot) int { return cmp.Compare(a.From, b.From) })
		out.Slots = append(out.Slots, slots...)
		out.Finish, out.Waiting = max(out.Finish, c.finish), out.Waiting+c.waiting
	}
	out.Unplaced = WhyUnplaced(p.Day, p.panels, p.unplaced)
	return out
}

// WhyUnplaced says for groups without a ring what each ring lacks.
func WhyUnplaced(d Day, panels [][]int, groups []int) (out []Unplaced) {
	for _, g := range groups {
		u := Unplaced{Group: g}
		for r, panel := range panels {
			x := d.Groups[g]
			if x.Ring != Spare && x.Ring != r {
				continue
			}
			why := ""
			for _, e := range panel {
				if ok, w := d.Examiners[e].May(x); !ok {
					why = w
					break
				}
			}
			switch {
			case len(panel) == 0:
				why = "nobody examines there"
			case why == "":
				continue
			}
			u.Why = append(u.Why, d.Rings[r].Name+": "+why)
		}
		if len(d.Rings) == 0 {
			u.Why = []string{"there is no ring"}
		}
		out = append(out, u)
	}
	return out
}

// greedy is the plan a hurried person makes.
func (p *planner) greedy() DayPlan {
	q := planner{Day: p.Day, panels: p.panels, elig: p.elig, unplaced: p.unplaced, rings: make([][]int, len(p.Rings))}
	order := make([]int, 0, len(p.Groups))
	for i := range p.Groups {
		if !slices.Contains(p.unplaced, i) {
			order = append(order, i)
		}
	}
	p.sort(order)
	out := DayPlan{Panels: p.panels, Unplaced: WhyUnplaced(p.Day, p.panels, p.unplaced)}
	at := make([]int, len(p.Rings))
	for r := range at {
		at[r] = p.Open + p.Warmup
	}
	skip := func(from, minutes int) int {
		if p.PauseTo > 0 && from < p.PauseTo && from+minutes > p.PauseFrom {
			return p.PauseTo
		}
		return from
	}
	for _, g := range order {
		best := -1
		for r := range at {
			if q.elig[g]&(1<<r) != 0 && (best < 0 || at[r] < at[best]) {
				best = r
			}
		}
		x := p.Groups[g]
		from := skip(at[best], x.First)
		out.Slots = append(out.Slots, Slot{g, best, 1, from, from + x.First})
		end := from + x.First
		if x.Then > 0 {
			from = skip(end+p.Rest, x.Then)
			out.Slots = append(out.Slots, Slot{g, best, 2, from, from + x.Then})
			out.Waiting += (from - end - p.Rest) * max(1, len(x.Students))
			end = from + x.Then
		}
		at[best] = end + p.Change
		out.Finish = max(out.Finish, end)
	}
	slices.SortStableFunc(out.Slots, func(a, b Slot) int {
		return cmp.Or(cmp.Compare(a.Ring, b.Ring), cmp.Compare(a.From, b.From))
	})
	return out
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
