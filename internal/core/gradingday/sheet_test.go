package gradingday

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// itemOf is an item of one line of a technique.
func itemOf(id, technique string) Item {
	l := curriculum.Line{RequirementID: "r" + technique, TechniqueID: technique, Call: technique, Role: "performer"}
	return Item{Item: scoring.Item{ID: id, Label: technique, Weight: 1}, Lines: []curriculum.Line{l}}
}

func called(all []GroupItem) string {
	var out []string
	for _, it := range all {
		out = append(out, it.Label)
	}
	return strings.Join(out, " ")
}

func TestMerge(t *testing.T) {
	three := scoring.Whole(3)
	stands := itemOf("c2", "kick")
	stands.Carried = &three
	bySheet := map[string][]Item{
		"common": {itemOf("a1", "bow"), itemOf("a2", "kick"), itemOf("a3", "form")},
		"more":   {itemOf("b1", "bow"), itemOf("b2", "lock"), itemOf("b3", "kick"), itemOf("b4", "form"), itemOf("b5", "talk")},
		"retest": {itemOf("c1", "bow"), stands},
	}
	all := Merge(MovementScale, []OnSheet{{"Ada", "common"}, {"Ben", "more"}, {"Cai", "retest"}}, bySheet)
	assert.Equal(t, "bow lock kick form talk", called(all), "what only some are asked stands behind what it follows on their sheet")
	assert.Equal(t, map[string]string{"Ada": "a1", "Ben": "b1", "Cai": "c1"}, all[0].IDs)
	assert.Equal(t, map[string]string{"Ben": "b2"}, all[1].IDs)
	assert.Equal(t, map[string]string{"Ada": "a2", "Ben": "b3"}, all[2].IDs, "Cai is not asked again")
	assert.Equal(t, map[string]bool{"Cai": true}, all[2].Stands)
	for i, it := range all {
		assert.Empty(t, it.Own, it.Label)
		assert.Equal(t, i+1, it.Number, "counted through, whatever the sheets say")
	}

	// An adaptation is one candidate's: the line is called as the others do it, and it is said how theirs differs.
	adapted := itemOf("d1", "kick")
	adapted.Lines[0].Adapted, adapted.Lines[0].Level = &curriculum.Adapted{Now: "3", Was: "5", Reason: "the hip"}, "low"
	for _, group := range [][]OnSheet{{{"Dot", "dot"}, {"Ada", "common"}}, {{"Ada", "common"}, {"Dot", "dot"}}} {
		all = Merge(MovementScale, group, map[string][]Item{"dot": {adapted}, "common": {itemOf("a2", "kick")}})
		require.Len(t, all, 1)
		assert.Empty(t, all[0].Lines[0].Adapted)
		assert.Equal(t, []OwnLine{{Otherwise: curriculum.Otherwise{Level: "low", Adapted: adapted.Lines[0].Adapted}}}, all[0].Own["Dot"])
		assert.NotContains(t, all[0].Own, "Ada")
	}

	// Where categories are marked, one item gathers the prompts of all.
	category := func(id string, techniques ...string) Item {
		it := Item{Item: scoring.Item{ID: id, Label: "Kicks", Weight: 1}}
		for _, x := range techniques {
			it.Lines = append(it.Lines, itemOf("", x).Lines...)
		}
		return it
	}
	all = Merge(CategoryPoints, []OnSheet{{"Ada", "a"}, {"Ben", "b"}}, map[string][]Item{"a": {category("1", "front", "round")}, "b": {category("2", "round", "side")}})
	require.Len(t, all, 1)
	assert.Len(t, all[0].Lines, 3)
	assert.Equal(t, map[string][]OwnLine{"Ada": {{"side", curriculum.Otherwise{NotAsked: true}}}, "Ben": {{"front", curriculum.Otherwise{NotAsked: true}}}}, all[0].Own)
	assert.Empty(t, Merge(MovementScale, nil, bySheet))
}

// TestLawMergeLosesNothing: everybody is asked each of their items once, under its own id, in the order of their
// sheet; what stands is not asked.
func TestLawMergeLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		names := rapid.Permutation([]string{"a", "b", "c", "d", "e", "f"})
		bySheet, group := map[string][]Item{}, []OnSheet{}
		order := names.Draw(t, "order")
		for i := range rapid.IntRange(1, 4).Draw(t, "candidates") {
			sheet := fmt.Sprint("s", i)
			group = append(group, OnSheet{fmt.Sprint("c", i), sheet})
			for _, n := range order { // one curriculum: its order is everybody's
				if rapid.Bool().Draw(t, n) {
					it := itemOf(sheet+n, n)
					if rapid.IntRange(0, 4).Draw(t, "stands") == 0 {
						three := scoring.Whole(3)
						it.Carried = &three
					}
					bySheet[sheet] = append(bySheet[sheet], it)
				}
			}
		}
		all := Merge(MovementScale, group, bySheet)
		for _, c := range group {
			var asked, want []string
			for _, it := range all {
				if id := it.IDs[c.Candidate]; id != "" {
					asked = append(asked, id)
				}
			}
			for _, it := range bySheet[c.Sheet] {
				if it.Carried == nil {
					want = append(want, it.ID)
				}
			}
			assert.ElementsMatch(t, want, asked)
		}
	})
}

func TestCarried(t *testing.T) {
	sheet := []curriculum.Line{itemOf("", "bow").Lines[0], itemOf("", "kick").Lines[0]}
	items := []Marked{{Item: scoring.Item{Label: "bow"}, Lines: []int{0}}, {Item: scoring.Item{Label: "kick"}, Lines: []int{1}}}
	key := Item{Lines: sheet[1:]}.Key(MovementScale)
	got := Carried(MovementScale, items, sheet, map[string]scoring.Decimal{key: scoring.Whole(3)})
	require.Len(t, got, 2)
	assert.Nil(t, got[0])
	assert.Equal(t, scoring.Whole(3), *got[1])
	every := map[string]scoring.Decimal{key: scoring.Whole(3), Item{Lines: sheet[:1]}.Key(MovementScale): scoring.Whole(2)}
	assert.Equal(t, []*scoring.Decimal{nil, nil}, Carried(MovementScale, items, sheet, every), "where everything stood, nothing does")
	assert.Equal(t, []*scoring.Decimal{nil, nil}, Carried(MovementScale, items, sheet, nil))
	assert.Equal(t, "Kicks", Item{Item: scoring.Item{Label: "Kicks"}, Lines: sheet}.Key(CategoryPoints))
	assert.Equal(t, "Kicks", Item{Item: scoring.Item{Label: "Kicks"}}.Key(MovementScale))
}

func TestAssemble(t *testing.T) {
	three := scoring.Whole(3)
	items := []Item{itemOf("i1", "bow"), itemOf("i2", "kick"), itemOf("i3", "form")}
	items[2].Carried = &three
	panel := []Examiner{{ID: "v", Name: "Vane"}, {ID: "r", Name: "Rush", Chief: true}, {ID: "w", Name: "Weir"}}
	given := func(examiner, item string, v int) Mark {
		return Mark{ExaminerID: examiner, ItemID: item, Kind: MarkGiven, Value: scoring.Whole(v)}
	}
	x := Assemble(items, panel, []Mark{given("r", "i1", 4), given("r", "i2", 2), given("v", "i2", 1), {ExaminerID: "w", ItemID: "i1", Kind: MarkNotSeen}, {ExaminerID: "w", ItemID: "i2", Kind: MarkOpen, Note: "look again"}, given("gone", "i1", 1), given("v", "gone", 4)},
		[]Fault{{ExaminerID: "r", Kind: FaultDeduction, Points: scoring.Whole(1)}, {ExaminerID: "r", Kind: FaultDeduction, Points: scoring.Whole(2)}, {ExaminerID: "gone", Kind: FaultDeduction, Points: scoring.Whole(9)}, {ExaminerID: "v", Kind: FaultNote}, {ExaminerID: "v", Kind: FaultEnding}})
	seen, not := scoring.Seen, scoring.Mark{}
	assert.Equal(t, scoring.Test{
		Items: []scoring.Item{items[0].Item, items[1].Item, items[2].Item}, Chief: "Rush",
		Sheets: []scoring.Sheet{
			{Examiner: "Vane", Marks: []scoring.Mark{not, seen(scoring.Whole(1)), seen(three)}},
			{Examiner: "Rush", Marks: []scoring.Mark{seen(scoring.Whole(4)), seen(scoring.Whole(2)), seen(three)}, Deductions: three},
			{Examiner: "Weir", Marks: []scoring.Mark{not, not, not}}, // who marked nothing has nothing that stands either
		}}, x)
	assert.True(t, Assemble(items, panel, nil, []Fault{{ExaminerID: "gone", Kind: FaultConfirmed}}).EndingFault)
}

func TestMayAFaultBeEntered(t *testing.T) {
	ending, note := &Fault{Kind: FaultEnding}, &Fault{Kind: FaultNote}
	for _, x := range []struct {
		name string
		f    Fault
		at   FaultPlace
		want FaultRefusal
	}{
		{"a new one", Fault{Kind: FaultNote}, FaultPlace{}, ""},
		{"after the announcement", Fault{Kind: FaultWithdrawn, Supersedes: "x"}, FaultPlace{Announced: true, Old: note}, FaultAnnounced},
		{"on a signed sheet", Fault{Kind: FaultNote}, FaultPlace{Signed: true}, FaultSigned},
		{"one that stands is settled on a signed sheet", Fault{Kind: FaultWithdrawn, Supersedes: "x"}, FaultPlace{Signed: true, Old: note}, ""},
		{"the chief confirms", Fault{Kind: FaultConfirmed, ExaminerID: "c", Supersedes: "x"}, FaultPlace{Chief: "c", Old: ending}, ""},
		{"another does not", Fault{Kind: FaultConfirmed, ExaminerID: "v", Supersedes: "x"}, FaultPlace{Chief: "c", Old: ending}, FaultForChief},
		{"anybody does where there is no chief", Fault{Kind: FaultConfirmed, ExaminerID: "v", Supersedes: "x"}, FaultPlace{Old: ending}, ""},
		{"what does not end a test is not confirmed", Fault{Kind: FaultConfirmed, ExaminerID: "c", Supersedes: "x"}, FaultPlace{Chief: "c", Old: note}, FaultNotThere},
		{"what is gone is not withdrawn", Fault{Kind: FaultWithdrawn, Supersedes: "x"}, FaultPlace{}, FaultNotThere},
		{"a new one replaces nothing", Fault{Kind: FaultDeduction, Supersedes: "x"}, FaultPlace{Old: note}, FaultsAreNotNew},
	} {
		assert.Equal(t, x.want, x.f.May(x.at), x.name)
	}
	assert.Equal(t, []bool{true, false, false}, []bool{Fault{Conduct: Head, Kind: FaultNote}.EndsSparring(), Fault{Conduct: Head, Kind: FaultWithdrawn}.EndsSparring(), Fault{Conduct: TooFar, Kind: FaultNote}.EndsSparring()})
}

func TestFaultsAndMarksAreChecked(t *testing.T) {
	const id = "0123456789ab"
	fault := func(change func(*Fault)) error {
		f := Fault{ID: id, Kind: FaultNote, Text: "late"}
		change(&f)
		f.Tidy()
		return f.Check()
	}
	for says, err := range map[string]error{
		"":                       fault(func(f *Fault) { f.Text, f.Conduct = "", Head }),
		"say what was seen":      fault(func(f *Fault) { f.Text = "  " }),
		"is not a choice":        fault(func(f *Fault) { f.Kind = "odd" }),
		"conduct":                fault(func(f *Fault) { f.Conduct = "odd" }),
		"is 0; a deduction":      fault(func(f *Fault) { f.Kind = FaultDeduction }),
		"is 1000.5; a deduction": fault(func(f *Fault) { f.Kind, f.Points = FaultDeduction, MaxDeduction+scoring.Whole(1)/2 }),
		"made at random":         fault(func(f *Fault) { f.ID = "1234567" }),
	} {
		if says == "" {
			assert.NoError(t, err)
		} else {
			assert.ErrorContains(t, err, says)
		}
	}
	assert.NoError(t, fault(func(f *Fault) { f.Kind, f.Points = FaultDeduction, MaxDeduction }))
	assert.NoError(t, fault(func(f *Fault) { f.Kind, f.Text = FaultWithdrawn, "" }))
	f := Fault{Kind: FaultNote, Points: scoring.Whole(3)}
	f.Tidy()
	assert.Zero(t, f.Points, "only a deduction takes points")

	mark := func(change func(*Mark)) error {
		m := Mark{ID: id, Kind: MarkGiven, Value: scoring.Whole(3)}
		change(&m)
		m.Tidy()
		return m.Check()
	}
	many := strings.Repeat("x\n", MaxTicked-1) + "x"
	for says, err := range map[string]error{
		"":                 mark(func(m *Mark) { m.Count, m.Ticked = MaxCount, many }),
		"is not a choice":  mark(func(m *Mark) { m.Kind = "odd" }),
		"from 0 to 100000": mark(func(m *Mark) { m.Count = MaxCount + 1 }),
		"is -1":            mark(func(m *Mark) { m.Count = -1 }),
		"up to 40 things":  mark(func(m *Mark) { m.Ticked = many + "\nx" }),
		"ticked":           mark(func(m *Mark) { m.Ticked = strings.Repeat("x", MaxTicked*check.LineLength+1) }),
		"note":             mark(func(m *Mark) { m.Note = strings.Repeat("x", check.LineLength+1) }),
		"no mark yet":      mark(func(m *Mark) { m.Kind, m.Again = MarkOpen, Agains[0] }),
		"again":            mark(func(m *Mark) { m.Again = "bored" }),
		"faults":           mark(func(m *Mark) { m.Faults = many + "\nx" }),
		"made at random":   mark(func(m *Mark) { m.ID = strings.Repeat("x", 65) }),
		"letters, digits":  mark(func(m *Mark) { m.ID = "not allowed!" }),
	} {
		if says == "" {
			assert.NoError(t, err)
		} else {
			assert.ErrorContains(t, err, says)
		}
	}
	assert.NoError(t, mark(func(m *Mark) { m.Kind = MarkOpen }))
	for _, a := range Agains {
		assert.NoError(t, mark(func(m *Mark) { m.Again = a }))
		assert.NoError(t, mark(func(m *Mark) { m.Kind, m.Again = MarkNotSeen, a }))
	}
	assert.NoError(t, EntryID(strings.Repeat("x", 8)))
	assert.NoError(t, EntryID(strings.Repeat("x", 64)))
	m := Mark{Kind: MarkNotSeen, Value: scoring.Whole(3), Note: " a  b "}
	m.Tidy()
	assert.Equal(t, Mark{Kind: MarkNotSeen, Note: "a b"}, m)
	assert.Nil(t, m.FaultsSeen())
	m.Faults = "late\nlow"
	assert.Equal(t, []string{"late", "low"}, m.FaultsSeen())
	assert.Equal(t, []bool{true, false, false, false}, []bool{Mark{Kind: MarkGiven}.Settled(), Mark{Kind: MarkOpen}.Settled(), Mark{Kind: MarkNotSeen, Again: Agains[0]}.Settled(), Mark{Kind: MarkOpen, Again: Agains[0]}.Settled()})
	assert.True(t, NobodySaw(1, 1, false), "one examiner alone")
	assert.Equal(t, []bool{true, false, false, false}, []bool{NobodySaw(3, 3, false), NobodySaw(2, 3, false), NobodySaw(3, 3, true), NobodySaw(0, 0, false)})
	assert.Equal(t, []bool{true, false, false}, []bool{Sealed(2, 3), Sealed(3, 3), Sealed(0, 0)})
}

func TestBouts(t *testing.T) {
	const id = "0123456789ab"
	b := Bout{Rounds: 2, Seconds: 60, Events: []BoutEvent{{ID: "p", Kind: BoutPoint, Side: "a", Points: 2}, {ID: "q", Kind: BoutPoint, Side: "b", Points: 1}, {ID: "r", Kind: BoutPoint, Side: "b", Points: 3}}}
	x, y := b.Points()
	assert.Equal(t, []int{2, 4}, []int{x, y})
	assert.Nil(t, b.End())
	for _, bad := range []Bout{{Rounds: 0, Seconds: 60}, {Rounds: MaxRounds + 1, Seconds: 60}, {Rounds: 1, Seconds: 0}, {Rounds: 1, Seconds: MaxRoundSeconds + 1}} {
		assert.Error(t, bad.Check(), "%+v", bad)
	}
	assert.NoError(t, Bout{Rounds: 1, Seconds: 1}.Check())
	assert.NoError(t, Bout{Rounds: MaxRounds, Seconds: MaxRoundSeconds}.Check())
	good := []BoutEvent{{ID: id, Kind: BoutPoint, Side: "a", Points: 1, Round: 1}, {ID: id, Kind: BoutPoint, Side: "b", Points: MaxPoints, Round: MaxRounds}, {ID: id, Kind: BoutEnded, Round: 1}, {ID: id, Kind: BoutStopped, Round: 1}, {ID: id, Kind: BoutWithdrawn, Round: 1}}
	for _, e := range good {
		assert.NoError(t, e.Check(), "%+v", e)
	}
	for _, e := range []BoutEvent{{ID: "x", Kind: BoutEnded, Round: 1}, {ID: id, Kind: "odd", Round: 1}, {ID: id, Kind: BoutPoint, Side: "c", Points: 1, Round: 1}, {ID: id, Kind: BoutPoint, Side: "a", Round: 1}, {ID: id, Kind: BoutPoint, Side: "a", Points: MaxPoints + 1, Round: 1}, {ID: id, Kind: BoutEnded}, {ID: id, Kind: BoutEnded, Round: MaxRounds + 1}, {ID: id, Kind: BoutEnded, Round: 1, Points: -1}} {
		assert.Error(t, e.Check(), "%+v", e)
	}
	takes := func(b Bout, e BoutEvent) string {
		if err := b.Takes(e); err != nil {
			return err.Error()
		}
		return ""
	}
	assert.Empty(t, takes(b, BoutEvent{Kind: BoutPoint, Round: 2}))
	assert.Equal(t, "This bout has 2 rounds.", takes(b, BoutEvent{Kind: BoutPoint, Round: 3}))
	assert.Equal(t, "This bout has 1 round.", takes(Bout{Rounds: 1}, BoutEvent{Kind: BoutPoint, Round: 2}))
	assert.Contains(t, takes(b, BoutEvent{Kind: BoutPoint, Round: 1, Supersedes: "p"}), "replaces nothing")
	assert.Empty(t, takes(b, BoutEvent{Kind: BoutWithdrawn, Supersedes: "q"}))
	assert.Contains(t, takes(b, BoutEvent{Kind: BoutWithdrawn, Supersedes: "z"}), "taken back already")
	for _, end := range []BoutKind{BoutEnded, BoutStopped} {
		over := b
		over.Events = append(append([]BoutEvent{}, b.Events...), BoutEvent{ID: "e", Kind: end, Text: "time"})
		require.NotNil(t, over.End())
		assert.Equal(t, "time", over.End().Text)
		assert.Contains(t, takes(over, BoutEvent{Kind: BoutPoint, Round: 1}), "has ended")
		assert.Empty(t, takes(over, BoutEvent{Kind: BoutWithdrawn, Supersedes: "e"}), "the end can be taken back")
	}
}

// TestSealedMarksAreNotTold: of a mark that is sealed nothing is left but that there is one, and one before.
func TestSealedMarksAreNotTold(t *testing.T) {
	h := Happened{Kind: HappenedMark, Candidate: "Ada", Mark: Mark{Kind: MarkGiven, Value: scoring.Whole(3), Note: "late"}, Before: &Mark{Kind: MarkNotSeen}}
	assert.Equal(t, Happened{Kind: HappenedMark, Candidate: "Ada", Sealed: true, Before: &Mark{}}, h.Seal(true))
	assert.Equal(t, h, h.Seal(false))
	h.Before = nil
	assert.Nil(t, h.Seal(true).Before)
}
