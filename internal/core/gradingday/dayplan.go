package gradingday

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"velvetladder/internal/core/check"
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

// BarKind is what keeps an examiner from a group.
type BarKind string

// The kinds of bars.
const (
	BarRank   BarKind = "rank"    // Examiner holds Holds, and Tested is tested
	BarFamily BarKind = "family"  // Examiner is of the family of a candidate
	BarEmpty  BarKind = "empty"   // nobody examines in Ring
	BarNoRing BarKind = "no ring" // there is no ring
)

// Bar is why a group is not examined by somebody, or in a ring; the zero value is no bar.
type Bar struct {
	Kind            BarKind
	Ring            string // name, where it is about one
	Examiner, Holds string
	Tested          string
}

// Bar is what forbids an examiner to examine a group; the zero value nothing does.
func (e DayExaminer) Bar(g DayGroup) Bar {
	if e.Rank != RankUnknown && e.Rank < g.Rung {
		return Bar{Kind: BarRank, Examiner: e.Name, Holds: e.RankName, Tested: g.For}
	}
	for _, s := range g.Students {
		if slices.Contains(e.Family, s) {
			return Bar{Kind: BarFamily, Examiner: e.Name}
		}
	}
	return Bar{}
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
	Why   []Bar // one for each ring
}

// DayPlan says who goes when and where.
type DayPlan struct {
	Slots    []Slot  // by ring, then by time
	Panels   [][]int // indexes in Day.Examiners, by ring; an empty one is closed
	Unplaced []Unplaced
	Finish   int // the end of the last slot; 0 where nothing is placed
	Waiting  int // candidate-minutes between a rest that is over and the second part
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

// PlanDay makes a plan: panels first, then groups to rings. Where the groups are so few that every way can be tried, the
// plan is the one that ends earliest, and of those waits least. Else the longest and the choosiest groups go first, then
// moves, swaps and other orders of equal groups end the day earlier, then those that shorten waiting. The same day and
// seed give the same plan. greedy is the plain plan beside it: in order, each group to the ring that is free first, its
// rest waited for in the ring; the plan never ends later than that.
func PlanDay(d Day, seed uint64) (plan, greedy DayPlan, bound Bound) {
	p := planner{Day: d, rng: rand.New(rand.NewPCG(seed, 1))}
	p.panels = p.seat()
	p.elig = eligibility(d, p.panels)
	for g, bits := range p.elig {
		if bits == 0 {
			p.unplaced = append(p.unplaced, g)
		}
	}
	bound = lowerBound(d, p.panels, p.elig)
	greedy = p.greedy()
	slots, finish, waiting, all := everyPlan(d, p.elig, len(p.panels), bound.Finish)
	if all {
		plan = DayPlan{Slots: slots, Panels: p.panels, Unplaced: WhyUnplaced(d, p.panels, p.unplaced), Finish: finish, Waiting: waiting}
		bound.tried(d, finish)
		return plan, greedy, bound
	}
	p.construct()
	if q := p.like(greedy); q.ends() < p.ends() { // begin with the better of the two
		p.rings = q.rings
	}
	p.improve(bound.Finish)
	if plan = p.plan(); greedy.Finish < plan.Finish {
		plan = greedy
	}
	return plan, greedy, bound
}

// like is a planner whose rings have the groups of a plan, in its order.
func (p *planner) like(plan DayPlan) *planner {
	q := *p
	q.rings = make([][]int, len(p.Rings))
	for _, s := range plan.Slots {
		if s.Part == 1 {
			q.rings[s.Ring] = append(q.rings[s.Ring], s.Group)
		}
	}
	return &q
}

// ends is when the last ring ends.
func (p *planner) ends() (finish int) {
	for _, ring := range p.rings {
		finish = max(finish, p.cost(ring).finish)
	}
	return finish
}

// Named are the panels as the examiners sit, 1, 3 or 5 of each ring.
func Named(d Day) [][]int {
	d.Share = false
	p := planner{Day: d}
	return p.seat()
}

type planner struct {
	Day
	rng      *rand.Rand
	panels   [][]int
	elig     []uint // by group: bit set of rings that may take it
	rings    [][]int
	unplaced []int
	fixed    bool // each ring keeps its order, also of equal groups
}

// seat gives every ring its panel: as named, or shared out by rank, so that as many rings as
// can be may take the highest rungs, and then by swaps that part examiners from their families.
// It is long: one search whose steps share who is seated.
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
				if d.Examiners[e].Bar(d.Groups[g]).Kind != "" {
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
			continue
		}
		load[best] += p.Groups[g].Minutes() + p.Change
		p.rings[best] = append(p.rings[best], g)
	}
	for r := range p.rings {
		p.sort(p.rings[r])
	}
}

func ones(x uint) (n int) {
	for ; x != 0; x &= x - 1 {
		n++
	}
	return n
}

// sort puts a ring in its order; equal groups stay as they stand.
func (p *planner) sort(ring []int) {
	slices.SortStableFunc(ring, func(a, b int) int { return cmp.Compare(p.key(p.Groups[a]), p.key(p.Groups[b])) })
}

// turned is a ring in which a group has another place among its equals.
func (p *planner) turned(ring []int) []int {
	out := slices.Clone(ring)
	k := p.rng.IntN(len(out))
	g := out[k]
	out = slices.Insert(slices.Delete(out, k, k+1), p.rng.IntN(len(out)), g) // one less than there were: a place for each
	p.sort(out)
	return out
}

// ringCost is what one ring adds to a plan's cost.
type ringCost struct{ finish, waiting int }

// improve tries moves of a group to another ring and swaps of two. First it ends the day
// earlier and levels the rings, until the bound is met; then, without a later end, it shortens
// waiting.
// It is long: one search whose moves share the plan they try.
func (p *planner) improve(bound int) {
	if len(p.Rings) == 0 {
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
			if len(p.rings[a]) == 0 {
				continue
			}
			if a == b {
				if next := p.turned(p.rings[a]); !slices.Equal(next, p.rings[a]) {
					old := costs[a]
					costs[a] = p.cost(next)
					if then := total(waiting); cmp.Or(cmp.Compare(then[0], now[0]), cmp.Compare(then[1], now[1])) > 0 {
						costs[a] = old
					} else {
						if then != now {
							idle = 0
						}
						p.rings[a], now = next, then
					}
				}
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

func (p *planner) plan() (out DayPlan) {
	out.Panels = p.panels
	for r := range p.rings {
		slots, c := p.time(p.rings[r], true)
		slots, c = p.polished(p.rings[r], slots, c)
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

// polished are the times of a ring where a search finds better ones than were found quickly.
func (p *planner) polished(ring []int, slots []Slot, c ringCost) ([]Slot, ringCost) {
	place := map[int]int{}
	for k, g := range ring {
		place[g] = k
	}
	key := func(g int) int { return p.key(p.Groups[g]) }
	if p.fixed {
		key = func(g int) int { return place[g] }
	}
	steps := ringSteps
	way, _ := p.bestRing(ring, key, ringWay{c.finish, c.waiting, slots}, 0, &steps)
	return way.slots, ringCost{way.finish, way.waiting}
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
			bar := Bar{Kind: BarEmpty}
			for _, e := range panel {
				if bar = d.Examiners[e].Bar(x); bar.Kind != "" {
					break
				}
			}
			if bar.Kind == "" {
				continue
			}
			bar.Ring = d.Rings[r].Name
			u.Why = append(u.Why, bar)
		}
		if len(d.Rings) == 0 {
			u.Why = []Bar{{Kind: BarNoRing}}
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
