package curriculum_test

import (
	"cmp"
	"fmt"
	"math/big"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// plainLine is a line of a sheet as the second, simple compile makes it.
type plainLine struct {
	Requirement, Technique, Entry, Note, Pool   string
	Adapted                                     Adapted
	Role                                        Role
	Setting                                     Setting
	Quantity                                    Quantity
	Must, Bonus, Free, Slow, NonStop, Supported bool
	Weight, Stage, Looks, AtOnce, Sprint        int
	Level                                       notation.Level
	Checks                                      string
	Freshness                                   Freshness
}

// plainAsked is a requirement as it is asked of somebody, before folding.
type plainAsked struct {
	Requirement
	entry, pool        string
	adapted            Adapted
	checks             map[string]bool // that count
	stage, rung, place int
}

// plainCompile is the rules of a test sheet written down once more, the slow and simple way: by
// looking at every pair. It draws nothing; sheets are those of the rungs below, of nobody in particular.
func adaptedOf(l Line) Adapted {
	if l.Adapted == nil {
		return Adapted{}
	}
	return *l.Adapted
}

func plainCompile(b *Book, rung int, track string, adapted []Adaptation, sheets [][]plainAsked) (out []plainLine) {
	for _, x := range plainFolded(b, rung, track, adapted) {
		l := plainLine{Requirement: x.ID, Technique: x.TechniqueID, Entry: x.entry, Note: x.Note, Adapted: x.adapted, Pool: x.pool, Role: x.Role, Setting: x.Setting, Quantity: x.Quantity, Must: x.MustPass, Bonus: x.Bonus, Free: x.Free,
			Slow: x.Slow, NonStop: x.NonStop, Supported: x.Supported, Weight: x.Weight, Stage: x.stage, Looks: x.Looks, AtOnce: x.AtOnce, Sprint: x.Sprint, Level: x.LeastLevel, Checks: inOrder(x.checks), Freshness: New}
		for below := 1; below < rung; below++ {
			for _, y := range sheets[below] {
				if y.TechniqueID != x.TechniqueID || y.Role != x.Role || y.entry != x.entry || y.Setting != x.Setting && (!y.Covers || x.Setting == "boards") {
					continue
				}
				if l.Freshness == New {
					l.Freshness = Grown
				}
				sameUnit := y.Quantity.Measure == x.Quantity.Measure && y.Quantity.Side == x.Quantity.Side && y.Slow == x.Slow && y.NonStop == x.NonStop
				if sameUnit && amount(y.Quantity).Cmp(amount(x.Quantity)) >= 0 && y.stage >= x.stage && tall[y.LeastLevel] >= tall[x.LeastLevel] && (x.Supported || !y.Supported) && within(x.checks, y.checks) {
					l.Freshness = Carried
				}
			}
		}
		out = append(out, l)
	}
	return out
}

var tall = map[notation.Level]int{"": 1, "low": 1, "mid": 2, "high": 3}

func amount(q Quantity) *big.Rat {
	n := func(a, b int) *big.Rat { return big.NewRat(int64(a), int64(b)) }
	return map[Measure]*big.Rat{Timed: n(q.Seconds, 1), RoundsTimed: n(q.Rounds*q.Seconds, 1), Holds: n(q.Reps*q.Seconds, 1), CountWithin: n(q.Reps, max(q.Seconds, 1)),
		RepsPerSide: n(q.Reps, 1), RepsInAll: n(q.Reps, 1), Alternating: n(q.Reps, 1), NoTouchDown: n(q.Reps, 1)}[q.Measure]
}

func within(few, many map[string]bool) bool {
	for c := range few {
		if !many[c] {
			return false
		}
	}
	return true
}

func inOrder(set map[string]bool) string {
	var out []string
	for c := range set {
		out = append(out, c)
	}
	slices.Sort(out)
	return strings.Join(out, " ")
}

func plainFolded(b *Book, rung int, track string, adapted []Adaptation) (out []plainAsked) {
	all := plainAskedAt(b, rung, track, adapted)
	with := make([]int, len(all)) // the earliest line each is shown with
	for i := range all {
		with[i] = i
	}
	for changed := true; changed; {
		changed = false
		for i := range all {
			for j := range all {
				if with[i] != with[j] && oneShowing(all[i], all[j]) {
					with[i] = min(with[i], with[j])
					with[j] = with[i]
					changed = true
				}
			}
		}
	}
	for i := range all {
		var members []plainAsked
		for j := range all {
			if with[j] == i {
				members = append(members, all[j])
			}
		}
		if len(members) > 0 {
			out = append(out, oneOf(members))
		}
	}
	return out
}

// oneShowing reports whether two lines are of one kind and one's setting stands for the other's.
func oneShowing(x, y plainAsked) bool {
	p := func(a plainAsked) any {
		return [9]any{a.TechniqueID, a.Role, a.entry, a.Quantity.Measure, a.Quantity.Side, a.Slow, a.NonStop, a.Bonus, a.Free}
	}
	if x.ShowAgain || y.ShowAgain || p(x) != p(y) {
		return false
	}
	return x.Setting == y.Setting || x.Covers && y.Setting != "boards" || y.Covers && x.Setting != "boards"
}

func oneOf(members []plainAsked) plainAsked {
	out := members[0]
	largest := slices.MaxFunc(members, func(x, y plainAsked) int { return amount(x.Quantity).Cmp(amount(y.Quantity)) })
	out.Quantity, out.Note, out.Sprint = largest.Quantity, largest.Note, largest.Sprint
	covers := slices.DeleteFunc(slices.Clone(members), func(x plainAsked) bool { return !x.Covers })
	if len(covers) > 0 {
		best := slices.MaxFunc(covers, func(x, y plainAsked) int {
			onBoards := func(a plainAsked) int { return map[bool]int{true: 1}[a.Setting == "boards"] }
			return cmp.Or(cmp.Compare(onBoards(x), onBoards(y)), cmp.Compare(x.rung, y.rung))
		})
		out.Setting, out.Covers = best.Setting, true
	}
	checks := map[string]bool{}
	outright := false
	for _, m := range members {
		out.Weight, out.stage, out.Looks = max(out.Weight, m.Weight), max(out.stage, m.stage), max(out.Looks, m.Looks)
		out.MustPass, out.Supported = out.MustPass || m.MustPass, out.Supported && m.Supported
		if tall[m.LeastLevel] > tall[out.LeastLevel] {
			out.LeastLevel = m.LeastLevel
		}
		if m.AtOnce > 0 {
			out.AtOnce = min(cmp.Or(out.AtOnce, 99), m.AtOnce)
		}
		for c := range m.checks {
			checks[c] = true
		}
		outright = outright || m.pool == ""
		out.adapted = cmp.Or(out.adapted, m.adapted)
	}
	if out.checks = checks; outright {
		out.pool = ""
	}
	return out
}

// plainAskedAt is rules 1 to 3: what a rung asks of a track and a candidate, a line for each
// way in, in the order of the sheet.
func plainAskedAt(b *Book, rung int, track string, adapted []Adaptation) (out []plainAsked) {
	place := func(id string) int { return slices.IndexFunc(b.Rungs, func(r Rung) bool { return r.ID == id }) }
	section := func(id string) int { return slices.IndexFunc(b.Sections, func(s Section) bool { return s.ID == id }) }
	for n, r := range b.Requirements {
		from := place(r.RungID)
		carried := map[CarryKind]bool{Always: true, Sample: true, Until: place(r.Carry.Rung) >= rung}[r.Carry.Kind]
		if from != rung && (from > rung || !carried) {
			continue
		}
		t := b.Technique(r.TechniqueID)
		x := plainAsked{Requirement: r, rung: from, place: section(r.SectionID)*10_000 + from*1000 + n, stage: 0}
		x.Setting, x.Looks = cmp.Or(r.Setting, "air"), cmp.Or(r.Looks, 2)
		if r.Carry.Kind == Sample {
			if g := b.Group(r.Carry.Group); !g.Outright || from < rung {
				x.pool = g.Name
			}
		}
		cap, out1 := cmp.Or(r.StageCap, 99), false
		for _, c := range r.Tracks {
			if c.TrackID != track {
				continue
			}
			out1 = out1 || c.LeaveOut
			if c.Bonus {
				x.Bonus, x.MustPass = true, false
			}
			if c.Quantity != nil {
				x.Quantity = *c.Quantity
			}
			x.LeastLevel = cmp.Or(c.Level, x.LeastLevel)
			cap = min(cap, cmp.Or(c.StageCap, 99))
		}
		var fit *Adaptation
		for i := range adapted { // a name goes before a modifier, that before a kind; the newest is last
			a := &adapted[i]
			closeness := func(a *Adaptation) int {
				return map[bool]int{a.TechniqueID != "": 2, a.Modifier != "": 1}[true]
			}
			if fits := a.TechniqueID == t.ID || a.TechniqueID == "" && a.Modifier != "" && slices.Contains(t.Modifiers, a.Modifier) || a.TechniqueID == "" && a.Modifier == "" && a.Kind == t.Kind; fits && (fit == nil || closeness(a) >= closeness(fit)) {
				fit = a
			}
		}
		entries := cmp.Or(strings.Join(r.Entries, "|"), "")
		if fit != nil {
			out1 = out1 || fit.Does == Excuse
			if fit.Does == Replace {
				x.adapted, t, x.TechniqueID, x.Checks = Adapted{Instead: t.Name, Reason: fit.Reason}, b.Technique(fit.ReplacementID), fit.ReplacementID, nil
				entries = strings.Repeat("|", strings.Count(entries, "|")) // a line each still, none by name
			}
			if fit.Does == Change {
				x.adapted = Adapted{Now: fit.Quantity.String(), Was: x.Quantity.String(), Reason: fit.Reason}
			}
			if fit.Quantity != nil {
				x.Quantity = *fit.Quantity
			}
		}
		if out1 {
			continue
		}
		for k, s := range t.Stages {
			if s.Optional && k > 0 && k == len(t.Stages)-1 {
				continue // either ending is right: nobody is asked for it
			}
			if s.RungID == "" || place(s.RungID) <= rung {
				x.stage = min(k+1, cap)
			}
		}
		x.checks = map[string]bool{}
		for _, c := range cmp.Or(strings.Join(x.Checks, "|"), strings.Join(t.Checkpoints, "|")) {
			if c != '|' {
				x.checks[string(c)] = true
			}
		}
		for _, e := range strings.Split(entries, "|") {
			y := x
			y.entry = e
			out = append(out, y)
		}
	}
	slices.SortStableFunc(out, func(x, y plainAsked) int { return cmp.Compare(x.place, y.place) })
	return out
}

// drawnCurriculum is a curriculum with everything a requirement can say, few techniques, and
// little to choose from, so that lines meet.
func drawnCurriculum(r *rand.Rand) Curriculum {
	pick := func(of ...string) string { return of[r.IntN(len(of))] }
	rarely := func() bool { return r.IntN(5) == 0 }
	seldom := func() bool { return r.IntN(25) == 0 }
	quantity := func() Quantity {
		q := Quantity{Measure: []Measure{RepsPerSide, RepsPerSide, RepsPerSide, RepsInAll, Timed, CountWithin, RoundsTimed, Holds}[r.IntN(8)]}
		switch q.Measure {
		case RepsPerSide, RepsInAll:
			q.Reps = 3 + r.IntN(3)
			if q.Measure == RepsPerSide && rarely() {
				q.Side = ByDirection
			}
		case Timed:
			q.Seconds = 20 + r.IntN(2)
		case RoundsTimed:
			q.Rounds, q.Seconds, q.Rest = 1+r.IntN(2), 20+20*r.IntN(2), 10*r.IntN(2)
		default:
			q.Reps, q.Seconds = 10+r.IntN(3), 29+r.IntN(3)
		}
		return q
	}
	c := Curriculum{Program: Program{ID: "p", Name: "P", ProgramDetails: ProgramDetails{Tracks: []Track{{ID: "cubs", Name: "Cubs"}, {ID: "adults", Name: "Adults"}},
		Groups: []SampleGroup{{ID: "g", Name: "Pool", Draw: 1}, {ID: "h", Name: "Old", Draw: 2, Outright: true}}}}}
	for i := range 2 + r.IntN(4) {
		c.Rungs = append(c.Rungs, Rung{ID: fmt.Sprint("r", i), Name: fmt.Sprint("R", i)})
	}
	anyRung := func() string { return c.Rungs[r.IntN(len(c.Rungs))].ID }
	c.Sections = []Section{{ID: "s0", Name: "S0"}, {ID: "s1", Name: "S1"}}
	for i := range 3 {
		t := Technique{ID: fmt.Sprint("t", i), Name: fmt.Sprint("T", i), Kind: Kind(pick("strike", "knowledge", "self_defence"))}
		t.Checkpoints = []string{"a", "b", "c"}[:r.IntN(4)]
		if rarely() {
			t.Modifiers = []Modifier{"jumping"}
		}
		for range r.IntN(3) {
			t.Stages = append(t.Stages, Stage{RungID: anyRung(), Does: Appends, Steps: []Step{{Moves: "Away."}}, Optional: rarely()})
		}
		t.Entries = []Entry{{Name: "one"}, {Name: "two"}}
		c.Techniques = append(c.Techniques, t)
	}
	for n := range 3 + r.IntN(8) {
		x := Requirement{ID: fmt.Sprint("q", n), RungID: anyRung(), SectionID: pick("s0", "s1"), TechniqueID: pick("t0", "t0", "t0", "t1", "t2"), Role: Role(pick("performer", "performer", "performer", "attacker")), Quantity: quantity(), Weight: 1 + r.IntN(3), Note: pick("", "", "n", "m")}
		if x.MustPass = rarely(); !x.MustPass {
			x.Bonus = rarely()
		}
		x.Setting, x.Covers = Setting(pick("", "", "air", "pads", "bag", "boards")), rarely()
		x.NonStop, x.Slow, x.Supported, x.ShowAgain, x.Free = seldom(), seldom(), rarely(), seldom(), seldom()
		if k := len(technique(&c, x.TechniqueID).Checkpoints); k > 0 && rarely() {
			x.Checks = []string{[]string{"a", "b", "c"}[r.IntN(k)]}
		}
		x.LeastLevel = notation.Level(pick("", "", "low", "mid", "high"))
		x.Carry.Kind = CarryKind(pick("", "once", "until", "always", "always", "sample"))
		switch x.Carry.Kind {
		case Until:
			x.Carry.Rung = anyRung()
		case Sample:
			x.Carry.Group = pick("g", "h")
		}
		x.StageCap, x.AtOnce, x.Looks, x.Sprint = max(r.IntN(8)-5, 0), max(r.IntN(8)-4, 0), max(r.IntN(8)-4, 0), max(r.IntN(8)-4, 0)
		if rarely() {
			x.Entries = [][]string{{"one"}, {"one", "two"}}[r.IntN(2)]
		}
		if rarely() {
			q := quantity()
			x.Tracks = []TrackChange{[]TrackChange{{LeaveOut: true}, {Bonus: true}, {Quantity: &q}, {Level: "high"}, {StageCap: 1}}[r.IntN(5)]}
			x.Tracks[0].TrackID = pick("cubs", "adults")
		}
		c.Requirements = append(c.Requirements, x)
	}
	return c
}

func drawnAdaptations(r *rand.Rand) (out []Adaptation) {
	five := Quantity{Measure: RepsInAll, Reps: 5}
	for n := range r.IntN(3) {
		a := []Adaptation{{TechniqueID: "t0"}, {Modifier: "jumping"}, {Kind: "strike"}, {TechniqueID: "t1"}}[r.IntN(4)]
		a.Does, a.Reason = []AdaptationKind{Excuse, Change, Replace, Replace}[r.IntN(4)], fmt.Sprint("reason ", n)
		switch a.Does {
		case Change:
			a.Quantity = &five
		case Replace:
			a.ReplacementID = "t2"
		}
		out = append(out, a)
	}
	return out
}

// TestCompileTwice holds the compiling of sheets against the simple one, over thousands of
// curricula, for every rung, track and some adaptations, and in whatever order the requirements
// of different rungs are stored.
func TestCompileTwice(t *testing.T) {
	golden.Alone(t)
	n := 2000
	if testing.Short() {
		n = 300
	}
	marks := map[Freshness]int{}
	for seed := range n {
		r := rand.New(rand.NewPCG(uint64(seed), 14))
		b := Open(drawnCurriculum(r))
		adapted := drawnAdaptations(r)
		mixed := mixedUp(b.Curriculum, r)
		for _, track := range []string{"", "cubs", "adults"} {
			var sheets [][]plainAsked // what each rung asks of the track
			for at := range b.Rungs {
				sheets = append(sheets, plainFolded(b, at, track, nil))
				asking := Asking{RungID: b.Rungs[at].ID, TrackID: track, Adaptations: adapted, Undrawn: true}
				want, sheet := plainCompile(b, at, track, adapted, sheets), b.Compile(asking)
				var got []plainLine
				for _, l := range sheet.Lines {
					marks[l.Freshness]++
					got = append(got, plainLine{Requirement: l.RequirementID, Technique: l.TechniqueID, Entry: l.Entry, Note: l.Note, Adapted: adaptedOf(l), Pool: l.Pool, Role: l.Role, Setting: cmp.Or(l.Setting, "air"), Quantity: l.Quantity, Must: l.MustPass, Bonus: l.Bonus, Free: l.Free,
						Slow: l.Slow, NonStop: l.NonStop, Supported: l.Supported, Weight: l.Weight, Stage: l.Stage, Looks: l.Looks, AtOnce: l.AtOnce, Sprint: l.Sprint, Level: l.Level, Checks: inOrder(setOf(l.Checkpoints)), Freshness: l.Freshness})
				}
				require.Equal(t, want, got, "curriculum %d, %s, track %q", seed, b.Rungs[at].ID, track)
				require.Equal(t, sheet.Lines, mixed.Compile(asking).Lines, "curriculum %d stored in another order", seed)
			}
		}
	}
	for _, f := range []Freshness{New, Grown, Carried} {
		require.Greater(t, marks[f], n, "every mark comes up often enough to be held")
	}
}

func setOf(list []string) map[string]bool {
	out := map[string]bool{}
	for _, c := range list {
		out[c] = true
	}
	return out
}

// mixedUp stores the requirements in another order; those of one rung keep theirs, which is the
// school's.
func mixedUp(c Curriculum, r *rand.Rand) *Book {
	byRung := map[string][]Requirement{}
	for _, x := range c.Requirements {
		byRung[x.RungID] = append(byRung[x.RungID], x)
	}
	var mixed []Requirement
	for _, i := range r.Perm(len(c.Requirements)) {
		rung := c.Requirements[i].RungID
		mixed = append(mixed, byRung[rung][0])
		byRung[rung] = byRung[rung][1:]
	}
	c.Requirements = mixed
	return Open(c)
}
