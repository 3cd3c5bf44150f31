package scoring

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// shape bounds a drawn test.
type shape struct {
	items, sheets, steps int
	rules                []PanelRule
	unseen, deductions   bool
}

func draw(t *rapid.T, s shape) (Policy, Test) {
	steps := rapid.IntRange(1, s.steps).Draw(t, "steps")
	p := Policy{
		Scale: Scale{Highest: Whole(steps), Step: Whole(1)},
		Panel: rapid.SampledFrom(s.rules).Draw(t, "panel"),
		Tie:   rapid.SampledFrom([]TieRule{TieChief, TieRetest, TieCommittee}).Draw(t, "tie"),
	}
	if rapid.Bool().Draw(t, "has failing") {
		p.Scale.Failing = ptr(Whole(rapid.IntRange(0, steps-1).Draw(t, "failing")))
		if rapid.Bool().Draw(t, "has allowed") {
			p.Rules.AllowedFailing = ptr(rapid.IntRange(0, 2).Draw(t, "allowed"))
		}
	}
	if rapid.Bool().Draw(t, "has honours") {
		p.Scale.Honours = ptr(Whole(rapid.IntRange(1, steps).Draw(t, "honours")))
	}
	p.Scale.Double = rapid.Bool().Draw(t, "double")
	p.Rules.MinimumSeen = ptr(Whole(rapid.IntRange(0, 4).Draw(t, "seen")) / 4)
	x := Test{}
	full := 0
	for i := range rapid.IntRange(1, s.items).Draw(t, "items") {
		it := Item{ID: fmt.Sprint("i", i), Weight: rapid.IntRange(1, 3).Draw(t, "weight"), Section: rapid.SampledFrom([]string{"a", "b"}).Draw(t, "section"),
			Bonus: rapid.IntRange(0, 4).Draw(t, "bonus") == 0, MustPass: rapid.IntRange(0, 3).Draw(t, "must") == 0}
		x.Items = append(x.Items, it)
		if !it.Bonus {
			full += it.Weight * steps
		}
	}
	if rapid.Bool().Draw(t, "has threshold") {
		p.Rules.Threshold = ptr(Whole(rapid.IntRange(0, 2*full+1).Draw(t, "threshold")) / 2)
	}
	if rapid.IntRange(0, 2).Draw(t, "has minimum") == 0 {
		p.Rules.SectionMinima = []SectionMinimum{{x.Items[0].Section, Whole(rapid.IntRange(0, 4).Draw(t, "minimum")) / 4}}
	}
	for j := range rapid.IntRange(1, s.sheets).Draw(t, "sheets") {
		sh := Sheet{Examiner: fmt.Sprint("e", j)}
		for range x.Items {
			m := Seen(Whole(rapid.IntRange(0, steps).Draw(t, "mark")))
			if s.unseen && rapid.IntRange(0, 6).Draw(t, "unseen") == 0 {
				m = Mark{}
			}
			sh.Marks = append(sh.Marks, m)
		}
		if s.deductions && rapid.IntRange(0, 3).Draw(t, "deducts") == 0 {
			sh.Deductions = Whole(rapid.IntRange(0, 4).Draw(t, "deduction")) / 2
		}
		x.Sheets = append(x.Sheets, sh)
	}
	if rapid.Bool().Draw(t, "has chief") {
		x.Chief = "e0"
	}
	return p, x
}

var allRules = []PanelRule{Majority, Mean, Median, TrimmedMean}

func rank(o Outcome) int {
	return slices.Index([]Outcome{OutcomeIncomplete, OutcomeRetest, OutcomeCommittee, OutcomePromote, OutcomeHonours, OutcomeDouble}, o)
}

func TestLawOrderOfExaminersIsIrrelevant(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 5, sheets: 6, steps: 4, rules: allRules, unseen: true, deductions: true})
		before := p.outcome(x)
		y := x
		y.Sheets = rapid.Permutation(x.Sheets).Draw(t, "order")
		after := p.outcome(y)
		assert.Equal(t, before.Outcome, after.Outcome)
		require.NoError(t, x.Check(p))
	})
}

func TestLawARaisedMarkNeverWorsensAnOutcome(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 5, sheets: 6, steps: 4, rules: allRules, unseen: true, deductions: true})
		before := p.outcome(x)
		j := rapid.IntRange(0, len(x.Sheets)-1).Draw(t, "sheet")
		k := rapid.IntRange(0, len(x.Items)-1).Draw(t, "item")
		m := &x.Sheets[j].Marks[k]
		if !m.Seen || m.Value == p.Scale.Highest {
			return
		}
		m.Value += p.Scale.Step
		assert.GreaterOrEqual(t, rank(p.outcome(x).Outcome), rank(before.Outcome))
	})
}

func TestLawWeightsAndThresholdScaleTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 5, sheets: 5, steps: 4, rules: allRules, unseen: true})
		before := p.outcome(x)
		by := rapid.IntRange(2, 9).Draw(t, "factor")
		x.Items = slices.Clone(x.Items)
		for i := range x.Items {
			x.Items[i].Weight *= by
		}
		if p.Rules.Threshold != nil {
			p.Rules.Threshold = ptr(*p.Rules.Threshold * Decimal(by))
		}
		assert.Equal(t, before.Outcome, p.outcome(x).Outcome)
	})
}

func TestLawPointsAndRatioAgreeWhenAllIsSeen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 6, sheets: 1, steps: 4, rules: allRules, deductions: true})
		if p.Rules.Threshold == nil {
			return
		}
		y := p.Tally(x.Items, x.Sheets[0])
		for _, r := range y.Reasons {
			if r.Rule == "threshold" {
				assert.Equal(t, y.Points >= *p.Rules.Threshold, r.Holds)
			}
		}
	})
}

func TestLawExactlyAtTheThresholdPasses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 6, sheets: 1, steps: 4, rules: allRules})
		p.Rules, p.Scale.Failing = Rules{MinimumSeen: ptr(Decimal(0))}, nil
		y := p.Tally(x.Items, x.Sheets[0])
		if y.Full == 0 {
			return
		}
		p.Rules.Threshold = ptr(y.Points)
		assert.True(t, p.Tally(x.Items, x.Sheets[0]).Verdict.Passes())
		p.Rules.Threshold = ptr(y.Points + 1) // a billionth more
		assert.False(t, p.Tally(x.Items, x.Sheets[0]).Verdict.Passes())
	})
}

// smallestByForce tries every set of changed marks, in steps of one direction, and returns
// the least number of steps that reaches the other side; -1 where none does.
func smallestByForce(p Policy, x Test, up bool, limit int) int {
	type place struct{ j, k int }
	var places []place
	for j, s := range x.Sheets {
		for k := range x.Items {
			if s.Marks[k].Seen {
				places = append(places, place{j, k})
			}
		}
	}
	work := x
	work.Sheets = slices.Clone(x.Sheets)
	for j := range work.Sheets {
		work.Sheets[j].Marks = slices.Clone(x.Sheets[j].Marks)
	}
	reached := func() bool {
		o := p.outcome(work).Outcome
		return up && o.Promotes() || !up && o == OutcomeRetest
	}
	var try func(i, left int) bool
	try = func(i, left int) bool {
		if left == 0 {
			return reached()
		}
		if i == len(places) {
			return false
		}
		m := &work.Sheets[places[i].j].Marks[places[i].k]
		was := m.Value
		defer func() { m.Value = was }()
		for n := 0; n <= left; n++ {
			step := Decimal(n) * p.Scale.Step
			if !up {
				step = -step
			}
			if m.Value = was + step; m.Value > p.Scale.Highest || m.Value < p.Scale.Lowest {
				break
			}
			if try(i+1, left-n) {
				return true
			}
		}
		return false
	}
	for n := 1; n <= limit; n++ {
		if try(0, n) {
			return n
		}
	}
	return -1
}

func apply(p Policy, x Test, c Change) Test {
	y := x
	y.Sheets = slices.Clone(x.Sheets)
	for _, m := range c.Moves {
		y.Sheets[m.Sheet].Marks = slices.Clone(y.Sheets[m.Sheet].Marks)
		y.Sheets[m.Sheet].Marks[m.Item].Value = m.To
	}
	return y
}

func checkChange(t require.TestingT, p Policy, x Test, force int) {
	r, err := p.Decide(x)
	require.NoError(t, err)
	if !r.Outcome.Promotes() && r.Outcome != OutcomeRetest {
		require.Nil(t, r.Change)
		return
	}
	c := *r.Change
	up := r.Outcome == OutcomeRetest
	if c.Impossible == nil && c.Exact {
		total := 0
		for _, m := range c.Moves {
			total += m.Steps
		}
		require.Equal(t, c.Steps, total)
		turned := p.outcome(apply(p, x, c)).Outcome
		require.Equal(t, up, turned.Promotes(), "the change %+v leads to %s", c, turned)
		require.Equal(t, !up, turned == OutcomeRetest)
	}
	if force == 0 {
		return
	}
	if c.Impossible == nil && c.Exact {
		require.Empty(t, forward(p, x, c, up), "the change %+v could be named earlier", c)
	}
	found := smallestByForce(p, x, up, force)
	switch {
	case c.Impossible != nil || c.Steps > force:
		require.Equal(t, -1, found, "said %+v", c)
	case c.Exact:
		require.Equal(t, found, c.Steps, "said %+v", c)
	default:
		require.True(t, found == -1 || found >= c.Steps)
	}
}

func TestSmallestChangeAgainstBruteForce(t *testing.T) {
	for _, s := range []shape{
		{items: 4, sheets: 1, steps: 3, rules: []PanelRule{Majority, Mean}, unseen: true, deductions: true},
		{items: 2, sheets: 3, steps: 3, rules: []PanelRule{Majority, Mean, TrimmedMean, Median}, unseen: true, deductions: true},
		{items: 2, sheets: 5, steps: 2, rules: []PanelRule{Majority, Mean, TrimmedMean, Median}, unseen: true},
		{items: 3, sheets: 2, steps: 2, rules: []PanelRule{Majority, Mean, Median}, deductions: true},
	} {
		t.Run(fmt.Sprint(s.items, "x", s.sheets), func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				p, x := draw(t, s)
				checkChange(t, p, x, 4)
			})
		})
	}
}

func TestStatedChangeTurnsLargerSheets(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 14, sheets: 5, steps: 6, rules: allRules, unseen: true, deductions: true})
		checkChange(t, p, x, 0)
	})
}

// forward is a single step of a change that could be taken at an earlier place instead: on an earlier examiner, or an earlier item of the
// same; where each sheet has a vote, of the same. "" there is none, so that equal changes are always named alike.
func forward(p Policy, x Test, c Change, up bool) string {
	done := apply(p, x, c)
	step := p.Scale.Step
	if !up {
		step = -step
	}
	for _, m := range c.Moves {
		for j := range m.Sheet + 1 {
			if p.Panel == Majority && j != m.Sheet {
				continue
			}
			last := len(x.Items)
			if j == m.Sheet {
				last = m.Item
			}
			for k := range last {
				other := apply(p, done, Change{})
				for _, i := range []int{m.Sheet, j} {
					other.Sheets[i].Marks = slices.Clone(other.Sheets[i].Marks)
				}
				at := &other.Sheets[j].Marks[k]
				if at.Value += step; !at.Seen || at.Value > p.Scale.Highest || at.Value < p.Scale.Lowest {
					continue
				}
				other.Sheets[m.Sheet].Marks[m.Item].Value -= step
				if o := p.outcome(other).Outcome; up && o.Promotes() || !up && o == OutcomeRetest {
					return fmt.Sprintf("from sheet %d item %d to sheet %d item %d", m.Sheet, m.Item, j, k)
				}
			}
		}
	}
	return ""
}

// TestTheChiefsVoteInATie: whoever is chief, first or last on the panel, decides a tie by the vote as it stands, whoever else is turned.
func TestTheChiefsVoteInATie(t *testing.T) {
	p := MovementScale()
	p.Rules.AllowedFailing = ptr(0)
	passing, failing := []any{2}, []any{1}
	for _, c := range []struct {
		name   string
		sheets [][]any
		chief  string
		want   Outcome
		steps  int
		of     []int // sheets that are turned
	}{
		{"both pass, the first is chief", [][]any{passing, passing}, "e0", OutcomePromote, 1, []int{0}},
		{"both pass, the second is chief", [][]any{passing, passing}, "e1", OutcomePromote, 1, []int{1}},
		{"both fail, the first is chief", [][]any{failing, failing}, "e0", OutcomeRetest, 1, []int{0}},
		{"both fail, the second is chief", [][]any{failing, failing}, "e1", OutcomeRetest, 1, []int{1}},
		{"the chief fails, the other passes", [][]any{failing, passing}, "e0", OutcomeRetest, 1, []int{0}},
		{"the chief passes, three fail", [][]any{passing, failing, failing, failing}, "e0", OutcomeRetest, 1, []int{1}},
		{"the chief passes last, three fail", [][]any{failing, failing, failing, passing}, "e3", OutcomeRetest, 1, []int{0}},
	} {
		x := Test{Items: itemsOf(1), Chief: c.chief}
		for j, marks := range c.sheets {
			x.Sheets = append(x.Sheets, sheet(t, fmt.Sprint("e", j), marks...))
		}
		r, err := p.Decide(x)
		require.NoError(t, err, c.name)
		assert.Equal(t, c.want, r.Outcome, c.name)
		require.NotNil(t, r.Change, c.name)
		var of []int
		for _, m := range r.Change.Moves {
			of = append(of, m.Sheet)
		}
		assert.Equal(t, c.of, of, c.name)
		assert.Equal(t, c.steps, r.Change.Steps, c.name)
	}
}

// panelOf makes a seeded test of the size a large grading has.
func panelOf(seed uint64, items, sheets int) Test {
	r := rand.New(rand.NewPCG(seed, 7))
	x := Test{Items: itemsOf(items), Chief: "e0"}
	for i := range x.Items {
		x.Items[i].Section, x.Items[i].MustPass = fmt.Sprint("s", i/8), i%10 == 0
	}
	for j := range sheets {
		s := Sheet{Examiner: fmt.Sprint("e", j)}
		for range items {
			s.Marks = append(s.Marks, Seen(Whole(min(4, 1+r.IntN(4)+r.IntN(2)))))
		}
		x.Sheets = append(x.Sheets, s)
	}
	return x
}

func BenchmarkPanel5x40x200(b *testing.B) {
	for _, rule := range allRules {
		p := MovementScale()
		p.Panel, p.Rules.Threshold, p.Rules.AllowedFailing = rule, ptr(Whole(100)), ptr(6)
		var tests []Test
		for i := range 200 {
			tests = append(tests, panelOf(uint64(i), 40, 5))
		}
		for name, work := range map[string]func(Test){
			"tally only":  func(x Test) { p.outcome(x) },
			"with change": func(x Test) { p.Decide(x) },
		} {
			b.Run(string(rule)+" "+name, func(b *testing.B) {
				for b.Loop() {
					for _, x := range tests {
						work(x)
					}
				}
			})
		}
	}
}

// TestAlike: moved marks count in the sums alone, held against a plain sum; what fails fails as marked, and where nobody
// is moved nothing changes.
func TestAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, x := draw(t, shape{items: 6, sheets: 3, steps: 10, rules: []PanelRule{Majority, Mean, Median}, unseen: true, deductions: true})
		same, err := p.Decide(x)
		require.NoError(t, err)
		again, err := p.Decide(x.Alike(nil))
		require.NoError(t, err)
		require.Equal(t, same, again)
		shift := map[string]Decimal{}
		for _, s := range x.Sheets {
			shift[s.Examiner] = Decimal(rapid.IntRange(-300, 300).Draw(t, "shift")) * Whole(1) / 100
		}
		moved, err := p.Decide(x.Alike(shift))
		require.NoError(t, err)
		for k, s := range x.Sheets {
			points, possible := -s.Deductions, Decimal(0)
			for i, it := range x.Items {
				if s.Marks[i].Seen {
					points += Decimal(it.Weight) * (s.Marks[i].Value + shift[s.Examiner])
					if !it.Bonus {
						possible += Decimal(it.Weight) * p.Scale.Highest
					}
				}
			}
			require.Equal(t, min(max(points, 0), possible), moved.Tallies[k].Points)
			require.Equal(t, same.Tallies[k].Failing, moved.Tallies[k].Failing)
			require.Equal(t, same.Tallies[k].Complete(), moved.Tallies[k].Complete())
			require.Zero(t, x.Sheets[k].Shift, "the test itself stays as it was marked")
		}
		for _, m := range p.Rules.SectionMinima {
			for k, s := range x.Alike(shift).Sheets {
				points, possible := p.section(x.Items, s, m.Section)
				sum := Decimal(0)
				for i, it := range x.Items {
					if it.Section == m.Section && !it.Bonus && s.Marks[i].Seen {
						sum += Decimal(it.Weight) * (x.Sheets[k].Marks[i].Value + shift[s.Examiner])
					}
				}
				require.Equal(t, min(max(sum, 0), possible), points)
			}
		}
	})
}
