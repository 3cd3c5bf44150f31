package scoring

import (
	"cmp"
	"math/big"
	"slices"
)

// plan counts scale steps per [sheet][item]; it is the change before it has names.
type plan [][]int

func newPlan(sheets, items int) plan {
	p := make(plan, sheets)
	for j := range p {
		p[j] = make([]int, items)
	}
	return p
}

func (p plan) steps() (n int) {
	for _, row := range p {
		for _, x := range row {
			n += x
		}
	}
	return n
}

// answer is a plan with what is proven of it: no plan has fewer steps than least, and the
// plan is of that size when exact.
type answer struct {
	plan  plan
	least int
	exact bool
	never bool
}

var impossible = answer{never: true}

// search looks for plans over the complete sheets of one test.
type search struct {
	p      Policy
	items  []Item
	sheets []Sheet
	rule   PanelRule
	up     bool
	panel  int // sheets of the whole panel that are complete
}

// room is the number of steps a mark can still go.
func (s search) room(j, k int) int {
	m := s.sheets[j].Marks[k]
	switch {
	case !m.Seen:
		return 0
	case s.up:
		return int((s.p.Scale.Highest - m.Value) / s.p.Scale.Step)
	}
	return int((m.Value - s.p.Scale.Lowest) / s.p.Scale.Step)
}

// after returns the sheets with the plan's steps taken.
func (s search) after(pl plan) []Sheet {
	out := slices.Clone(s.sheets)
	for j, row := range pl {
		for k, x := range row {
			if x == 0 {
				continue
			}
			if &out[j].Marks[0] == &s.sheets[j].Marks[0] {
				out[j].Marks = slices.Clone(out[j].Marks)
			}
			step := Decimal(x) * s.p.Scale.Step
			if !s.up {
				step = -step
			}
			out[j].Marks[k].Value += step
		}
	}
	return out
}

// done reports whether the plan turns what the sheets say.
func (s search) done(pl plan) bool { return s.p.holds(s.items, s.after(pl), s.rule) == s.up }

// with returns the same search on the sheets as the plan leaves them.
func (s search) with(pl plan) search {
	s.sheets = s.after(pl)
	return s
}

// best returns the smallest plan that makes the rules hold (up) or fail (down).
func (s search) best() answer {
	if s.up {
		return s.raise()
	}
	return s.lower()
}

// lower breaks the cheapest single rule: to fail it is enough that one of them does.
func (s search) lower() answer {
	var all []answer
	if s.p.Rules.Threshold != nil {
		all = append(all, s.figure(nil))
	}
	for i := range s.p.Rules.SectionMinima {
		all = append(all, s.figure(&s.p.Rules.SectionMinima[i]))
	}
	if s.p.Scale.Failing != nil {
		all = append(all, s.breakItems()...)
	}
	best := impossible
	least := -1
	for _, a := range all {
		if a.never {
			continue
		}
		if least < 0 || a.least < least {
			least = a.least
		}
		if a.exact && (best.never || a.least < best.least || a.least == best.least && earlier(a.plan, best.plan)) {
			best = a
		}
	}
	if least >= 0 && (best.never || best.least > least) {
		return answer{least: least}
	}
	return best
}

// earlier orders plans: the one whose first steps stand on an earlier examiner or item.
func earlier(a, b plan) bool {
	for j := range a {
		if c := slices.Compare(a[j], b[j]); c != 0 {
			return c > 0
		}
	}
	return false
}

// turn is the cheapest way to make one item fail, or stop failing, on the panel.
type turn struct {
	item, steps int
	rows        [][2]int // sheet, steps
}

// turnItem finds it: the cheapest sheets to move over the failing mark, until more than
// half (down) or no more than half (up) of those that saw the item fail it.
func (s search) turnItem(k int) (turn, bool) {
	saw, fail := 0, 0
	var rows [][2]int
	for j, sheet := range s.sheets {
		m := sheet.Marks[k]
		if !m.Seen {
			continue
		}
		saw++
		failing := s.p.Fails(s.items[k], m)
		if failing {
			fail++
		}
		if failing == s.up {
			over := (m.Value - *s.p.Scale.Failing) / s.p.Scale.Step
			if s.up {
				over = -over + 1
			}
			rows = append(rows, [2]int{j, int(over)})
		}
	}
	need := fail - saw/2 // sheets to lift
	if !s.up {
		need = saw/2 + 1 - fail
	}
	if saw == 0 || need <= 0 || need > len(rows) {
		return turn{}, false
	}
	slices.SortStableFunc(rows, func(a, b [2]int) int { return cmp.Compare(a[1], b[1]) })
	t := turn{item: k, rows: rows[:need]}
	for _, r := range t.rows {
		t.steps += r[1]
	}
	return t, true
}

func (s search) planOf(turns []turn) plan {
	pl := newPlan(len(s.sheets), len(s.items))
	for _, t := range turns {
		for _, r := range t.rows {
			pl[r[0]][t.item] += r[1]
		}
	}
	return pl
}

// breakItems is the ways down by failing items: one must-pass item, or one more than allowed.
func (s search) breakItems() (out []answer) {
	var turns []turn
	first := impossible // of the must-pass items
	failing := 0
	for k, it := range s.items {
		if it.Bonus {
			continue
		}
		if s.p.itemFails(it, k, s.sheets) {
			failing++
			continue
		}
		t, ok := s.turnItem(k)
		if !ok {
			continue
		}
		turns = append(turns, t)
		if s.p.mustPass(it) {
			if a := (answer{least: t.steps, exact: true}); first.never || a.least <= first.least {
				if a.plan = s.planOf([]turn{t}); first.never || a.least < first.least || earlier(a.plan, first.plan) {
					first = a
				}
			}
		}
	}
	if !first.never {
		out = append(out, first)
	}
	if s.p.Rules.AllowedFailing == nil {
		return out
	}
	need := *s.p.Rules.AllowedFailing + 1 - failing
	if need > len(turns) {
		return out
	}
	slices.SortStableFunc(turns, func(a, b turn) int { return cmp.Compare(a.steps, b.steps) })
	pl := s.planOf(turns[:need])
	return append(out, answer{plan: pl, least: pl.steps(), exact: true})
}

// raise makes every rule hold. Each rule's own smallest plan is a lower bound; a plan made
// rule by rule is an upper bound; where they differ a bounded search closes the gap.
func (s search) raise() answer {
	top := newPlan(len(s.sheets), len(s.items))
	for j := range top {
		for k := range top[j] {
			top[j][k] = s.room(j, k)
		}
	}
	if !s.done(top) {
		return impossible
	}
	// On a single sheet a failing must-pass item has one way up, so it is forced.
	forced := newPlan(len(s.sheets), len(s.items))
	if len(s.sheets) == 1 {
		forced = s.rescue(true)
	}
	rest := s.with(forced)
	least := forced.steps() + rest.lowerBound()
	pl := forced
	for _, next := range []func(search) (plan, bool){
		func(s search) (plan, bool) { return s.rescue(true), true },
		func(s search) (plan, bool) { return s.rescue(false), true },
		func(s search) (plan, bool) { return s.meetSections() },
		func(s search) (plan, bool) {
			if s.p.Rules.Threshold == nil {
				return newPlan(len(s.sheets), len(s.items)), true
			}
			a := s.figure(nil)
			return a.plan, a.exact
		},
	} {
		more, ok := next(s.with(pl))
		if !ok {
			return answer{least: least}
		}
		pl = sum(pl, more)
	}
	if pl.steps() == least {
		return answer{plan: pl, least: least, exact: true}
	}
	return s.closeGap(forced, pl, least)
}

func sum(a, b plan) plan {
	out := newPlan(len(a), len(a[0]))
	for j := range out {
		for k := range out[j] {
			out[j][k] = a[j][k] + b[j][k]
		}
	}
	return out
}

// rescue lifts failing items: all that must pass, or the cheapest that are too many.
func (s search) rescue(mustPass bool) plan {
	var turns []turn
	failing := 0
	for k, it := range s.items {
		if s.p.Scale.Failing == nil || !s.p.itemFails(it, k, s.sheets) {
			continue
		}
		failing++
		if t, ok := s.turnItem(k); ok && (!mustPass || s.p.mustPass(it)) {
			turns = append(turns, t)
		}
	}
	if !mustPass {
		if s.p.Rules.AllowedFailing == nil {
			return s.planOf(nil)
		}
		// Among equally cheap items the heavier gains more towards the other rules.
		slices.SortStableFunc(turns, func(a, b turn) int {
			return cmp.Or(cmp.Compare(a.steps, b.steps), cmp.Compare(s.items[b.item].Weight, s.items[a.item].Weight))
		})
		turns = turns[:max(0, min(failing-*s.p.Rules.AllowedFailing, len(turns)))]
	}
	return s.planOf(turns)
}

func (s search) meetSections() (plan, bool) {
	pl := newPlan(len(s.sheets), len(s.items))
	for i := range s.p.Rules.SectionMinima {
		a := s.with(pl).figure(&s.p.Rules.SectionMinima[i])
		if !a.exact {
			return pl, false
		}
		pl = sum(pl, a.plan)
	}
	return pl, true
}

// lowerBound is a number of steps below which no plan can make every rule hold: the
// dearest of threshold, sections together (they share no item), and failing items.
func (s search) lowerBound() int {
	sections, threshold := 0, 0
	for i := range s.p.Rules.SectionMinima {
		sections += s.figure(&s.p.Rules.SectionMinima[i]).least
	}
	if s.p.Rules.Threshold != nil {
		threshold = s.figure(nil).least
	}
	mustPass := s.rescue(true)
	return max(sections, threshold, mustPass.steps()+s.with(mustPass).rescue(false).steps())
}

// figure is the smallest plan for one figure alone: the threshold (nil) or a section minimum.
func (s search) figure(minimum *SectionMinimum) answer {
	f := frontier{up: s.up, rule: s.rule}
	target := new(big.Rat)
	if minimum == nil {
		full := s.p.add(s.items, s.sheets[0]).full
		target.Quo(s.p.Rules.Threshold.rat(), full.rat())
	} else {
		target = minimum.Ratio.rat()
	}
	for j, sheet := range s.sheets {
		var order []int
		for k, it := range s.items {
			inside := minimum == nil || it.Section == minimum.Section && !it.Bonus
			if inside && s.room(j, k) > 0 {
				order = append(order, k)
			}
		}
		// The heaviest first gains most per step, so n steps along this order are the best n.
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(s.items[b].Weight, s.items[a].Weight) })
		t := s.p.add(s.items, sheet)
		start, possible, clamp := t.raw, t.possible, true
		if minimum != nil {
			start, possible = s.p.section(s.items, sheet, minimum.Section)
			clamp = false
		}
		f.curves = append(f.curves, s.curve(j, order, curve{possible: possible, clamp: clamp, points: []Decimal{start}, end: start}))
	}
	if !f.scale(target) {
		return answer{least: 1}
	}
	steps, exact, found := f.least()
	if !found {
		return impossible
	}
	if !exact {
		return answer{least: steps[0]}
	}
	a := answer{plan: newPlan(len(s.sheets), len(s.items)), exact: true}
	for j, n := range steps {
		for _, k := range f.curves[j].items[:n] {
			a.plan[j][k]++
		}
		a.least += n
	}
	return a
}

// curve is what a sheet's figure becomes step by step along an order of its items, from where it begins.
func (s search) curve(j int, order []int, row curve) curve {
	for _, k := range order {
		gain := Decimal(s.items[k].Weight) * s.p.Scale.Step
		if !s.up {
			gain = -gain
		}
		row.end += gain * Decimal(s.room(j, k))
		for range s.room(j, k) {
			if len(row.points) > longestCurve {
				row.cut = true
				break
			}
			row.points = append(row.points, row.points[len(row.points)-1]+gain)
			row.items = append(row.items, k)
		}
	}
	return row
}

// closeGap looks for a plan of fewer steps than found has, from least on. forced steps are
// part of every plan.
// It is long: one search whose steps share what it has found.
func (s search) closeGap(forced, found plan, least int) answer {
	type place struct{ j, k int }
	var places []place
	for j := range s.sheets {
		for k := range s.items {
			if s.room(j, k)-forced[j][k] > 0 {
				places = append(places, place{j, k})
			}
		}
	}
	effort, cost := effortJoint, s.cost()
	pl := sum(forced, newPlan(len(forced), len(forced[0])))
	// twin: a place like the one before it in every respect need never take more steps.
	twin := make([]bool, len(places))
	for i := 1; i < len(places); i++ {
		a, b := places[i-1], places[i]
		twin[i] = len(s.sheets) == 1 && s.items[a.k].Weight == s.items[b.k].Weight && s.items[a.k].Section == s.items[b.k].Section &&
			s.items[a.k].Bonus == s.items[b.k].Bonus && forced[a.j][a.k] == forced[b.j][b.k] && s.sheets[0].Marks[a.k] == s.sheets[0].Marks[b.k] &&
			s.items[a.k].MustPass == s.items[b.k].MustPass
	}
	var try func(i, left int) bool
	try = func(i, left int) bool {
		if effort -= cost; effort < 0 {
			return false
		}
		if left == 0 {
			return s.done(pl)
		}
		if i == len(places) {
			return false
		}
		at := places[i]
		base := pl[at.j][at.k]
		most := min(left, s.room(at.j, at.k)-base)
		if twin[i] {
			before := places[i-1]
			most = min(most, pl[before.j][before.k]-forced[before.j][before.k])
		}
		// Prune where even every later mark raised by all that is left would not do.
		if i%4 == 0 && !s.reachable(pl, func(yield func(j, k int)) {
			for _, q := range places[i:] {
				yield(q.j, q.k)
			}
		}, left) {
			return false
		}
		for n := most; n >= 0; n-- {
			pl[at.j][at.k] = base + n
			if try(i+1, left-n) {
				return true
			}
		}
		pl[at.j][at.k] = base
		return false
	}
	for n := least; n < found.steps(); n++ {
		if try(0, n-forced.steps()) {
			return answer{plan: pl, least: n, exact: true}
		}
		if effort < 0 {
			return answer{least: n}
		}
	}
	return answer{plan: found, least: found.steps(), exact: true}
}

func (s search) reachable(pl plan, places func(func(j, k int)), left int) bool {
	most := sum(pl, newPlan(len(pl), len(pl[0])))
	places(func(j, k int) { most[j][k] = min(s.room(j, k), pl[j][k]+left) })
	return s.done(most)
}

// tidy moves steps to earlier places while the plan still does its work, so that equal
// changes are always named alike.
func (s search) tidy(pl plan) plan {
	effort := effortTidy
	for moved := true; moved; {
		moved = false
		for j := len(pl) - 1; j >= 0; j-- {
			for k := len(s.items) - 1; k >= 0; k-- {
				for pl[j][k] > 0 && s.pullForward(pl, j, k, &effort) {
					moved = true
				}
			}
		}
	}
	return pl
}

func (s search) pullForward(pl plan, j, k int, effort *int) bool {
	cost := s.cost()
	for a := range j + 1 {
		last := len(s.items)
		if a == j {
			last = k
		}
		for b := range last {
			if pl[a][b] >= s.room(a, b) {
				continue
			}
			if *effort -= cost; *effort < 0 {
				return false
			}
			pl[j][k]--
			pl[a][b]++
			if s.done(pl) {
				return true
			}
			pl[j][k]++
			pl[a][b]--
		}
	}
	return false
}
