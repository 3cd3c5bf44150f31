package practice

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

func TestWays(t *testing.T) {
	for _, x := range []struct {
		n, k       int
		repeats    bool
		directions int
		each       bool
		words      string
	}{
		{5, 3, false, 1, false, "5 × 4 × 3 = 60"},
		{5, 3, true, 1, false, "5 × 5 × 5 = 125"},
		{5, 3, false, 4, false, "5 × 4 × 3 × 4 directions = 240"},
		{5, 3, false, 4, true, "5 × 4 × 3 × 4 directions to the power of 3 = 3840"},
		{2, 3, false, 1, false, "2 × 1 × 0 = 0"},
		{40, 12, true, 1, false, "40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 × 40 = 16777216000000000000"},
	} {
		_, words := Ways(x.n, x.k, x.repeats, x.directions, x.each)
		assert.Equal(t, x.words, words)
	}
}

var pieces = []Piece{{"lead jab", true, true, false}, {"rear cross", true, false, false}, {"lead front kick", false, true, true}, {"rear front kick", false, false, true}}

func TestUseful(t *testing.T) {
	list, n, exact := Useful(pieces, 2, Rules{LeadFirst: true, Recover: true, NoTwice: true, CanLeave: true}, 99)
	assert.True(t, exact)
	assert.Equal(t, 4, n)
	var lines []string
	for _, c := range list {
		lines = append(lines, Line(c))
	}
	assert.Equal(t, []string{"lead jab, rear cross", "lead jab, lead front kick", "lead front kick, lead jab", "lead front kick, rear cross"}, lines)
	_, n, _ = Useful(pieces, 1, Rules{Directions: 3}, 99)
	assert.Equal(t, 12, n, "one move in three directions")
	_, n, _ = Useful(pieces, 2, Rules{LeadFirst: true, Recover: true, NoTwice: true, CanLeave: true, Directions: 3}, 99)
	assert.Equal(t, 3*len(list), n, "one direction for all moves")
	_, n, _ = Useful(pieces, 2, Rules{LeadFirst: true, Recover: true, NoTwice: true, CanLeave: true, Directions: 3, Each: true}, 99)
	assert.Equal(t, 9*len(list), n, "a direction for each")
	_, n, exact = Useful(pieces, 20, Rules{}, 10)
	assert.False(t, exact, "too many to walk through")
	assert.LessOrEqual(t, n, MostTried)
	list, _, _ = Useful(pieces, 2, Rules{NoRepeats: true}, 99)
	assert.Len(t, list, 12)
	done := map[string]int{}
	for i := range 12 {
		at := Draw(list, done, uint64(i))
		require.GreaterOrEqual(t, at, 0)
		assert.Zero(t, done[Line(list[at])], "the least practised first")
		done[Line(list[at])]++
	}
	assert.Equal(t, -1, Draw(nil, nil, 1))
}

// TestLawsOfCombinations: without rules the walk finds as many as the formula says, every rule
// only takes away, and what is left keeps it.
func TestLawsOfCombinations(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, k := rapid.IntRange(1, 4).Draw(t, "n"), rapid.IntRange(1, 4).Draw(t, "k")
		some := pieces[:n]
		_, all, _ := Useful(some, k, Rules{}, 0)
		total, _ := Ways(n, k, true, 1, false)
		require.Equal(t, total.Int64(), int64(all))
		_, once, _ := Useful(some, k, Rules{NoRepeats: true}, 0)
		total, _ = Ways(n, k, false, 1, false)
		require.Equal(t, total.Int64(), int64(once))
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		r := Rules{LeadFirst: flip("lead"), Recover: flip("recover"), NoTwice: flip("twice"), CanLeave: flip("leave"), NoRepeats: flip("repeats")}
		list, fewer, _ := Useful(some, k, r, 1000)
		require.LessOrEqual(t, fewer, all)
		for _, c := range list {
			for i, p := range c {
				require.True(t, r.allows(c[:i], p, i+1 == k))
			}
		}
	})
}

func small() *curriculum.Book {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Kenpo"},
		Sections: []curriculum.Section{{ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "d", Name: "Self-defence", Kind: "self_defence"}},
		Rungs:    []curriculum.Rung{{ID: "w", Name: "White belt"}, {ID: "y", Name: "Yellow belt"}},
		Techniques: []curriculum.Technique{
			{ID: "fk", Name: "Front kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Call: 4, Clips: []curriculum.Clip{{Title: "Front kick, slowly", Address: "clips/fk.mp4"}, {Title: "Later", Address: "x", From: "z"}}}},
			{ID: "jab", Name: "Jab", Kind: "strike", TechniqueDetails: curriculum.TechniqueDetails{Sides: curriculum.LeadSide}},
			{ID: "mw", Name: "Mill Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: "rear choke", Origin: "rear"}}}},
			{ID: "pu", Name: "Press-ups", Kind: "fitness"},
		},
		Requirements: []curriculum.Requirement{
			{ID: "1", RungID: "y", SectionID: "k", TechniqueID: "fk", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, Weight: 1, RequirementDetails: curriculum.RequirementDetails{Setting: "pads"}},
			{ID: "2", RungID: "y", SectionID: "d", TechniqueID: "mw", Role: "defender", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}, Weight: 1},
			{ID: "3", RungID: "y", SectionID: "d", TechniqueID: "mw", Role: "attacker", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1},
			{ID: "4", RungID: "y", SectionID: "k", TechniqueID: "jab", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 30, Rest: 10}, Weight: 1},
			{ID: "5", RungID: "y", SectionID: "k", TechniqueID: "pu", Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.CountWithin, Reps: 20, Seconds: 60}, Weight: 1},
		}}
	return curriculum.Open(c)
}

func TestSheetAndCalls(t *testing.T) {
	b := small()
	sheet := b.Compile(curriculum.Asking{RungID: "y"})
	ready := progress.AskedBy(b, "", sheet, nil).Ready([]progress.Showing{{TechniqueID: "fk", Role: "performer", Side: "left", On: civil.MustParse("2026-11-01")}}, nil)
	tasks := Sheet(b, "y", ready.NextThings(b, nil, civil.MustParse("2026-11-25"), SheetTasks), curriculum.Orthodox, "")
	by := map[string]Task{}
	for _, x := range tasks {
		by[x.Call] = x
	}
	kick := by["Front kick, on pads"]
	assert.Equal(t, PartnerPart{Kind: PartnerHolds}, kick.Partner)
	require.Len(t, kick.Clips, 1, "a clip of a later rung is not shown")
	wheel := by["Mill Wheel, defender"]
	assert.Equal(t, PartnerPart{Kind: PartnerAttacks, Attacks: []Given{{curriculum.AttackElement{Kind: "rear choke", Origin: "rear"}, "choke"}}}, wheel.Partner)
	assert.Contains(t, wheel.AtHome, HandsOnlyTouch)
	for _, x := range []struct {
		risks   []string
		role    string
		setting curriculum.Setting
		want    []HomeCaution
	}{
		{nil, "performer", "", nil}, {nil, "defender", "", []HomeCaution{TapAndWord}}, {nil, "attacker", "", []HomeCaution{TapAndWord}},
		{[]string{"throw"}, "defender", "", []HomeCaution{GoThroughSteps}}, {[]string{"joint", "weapon"}, "attacker", "", []HomeCaution{GoThroughSteps, SoftWeapon}},
		{[]string{"choke", "throw"}, "defender", "", []HomeCaution{HandsOnlyTouch}}, {[]string{"jump", "surface"}, "performer", "pads", []HomeCaution{LowFirst}},
		{[]string{"surface"}, "performer", "boards", []HomeCaution{NoBoards}}, {[]string{"sparring", "fitness"}, "performer", "", []HomeCaution{NoSparring, WarmUpFirst}},
	} {
		line := progress.Item{Line: curriculum.Line{Role: curriculum.Role(x.role), Setting: x.setting, Risks: x.risks}}
		assert.Equal(t, x.want, atHome(line, &curriculum.Technique{Kind: "kick"}), "%v", x)
	}
	assert.Equal(t, []HomeCaution{NoBoards}, atHome(progress.Item{}, &curriculum.Technique{Kind: "board_break"}))
	assert.Equal(t, PartnerDefends, by["Mill Wheel, attacker"].Partner.Kind)
	assert.Equal(t, []HomeCaution{WarmUpFirst}, by["Press-ups"].AtHome)

	calls := map[string]Call{}
	for _, l := range sheet.Lines {
		calls[l.Call] = CallOf(b, l, 0)
	}
	assert.Equal(t, 4, calls["Front kick, on pads"].Number)
	assert.Equal(t, []string{"own stance 5 rest 5", "other stance 5 after stance"}, setsOf(calls["Front kick, on pads"]))
	assert.Equal(t, []string{"round 1 of 2 30 s rest 10", "round 2 of 2 30 s"}, setsOf(calls["Jab"]))
	assert.Equal(t, []string{"60 s"}, setsOf(calls["Press-ups"]))
	assert.Equal(t, 10, CallOf(b, sheet.Lines[0], 10).Sets[0].Reps)

	got := PiecesOf(b, "y")
	assert.Equal(t, []Piece{{"lead front kick", false, true, true}, {"rear front kick", false, false, true}, {"lead jab", true, true, false}}, got)
	assert.Empty(t, PiecesOf(b, "w"))
	sided := func(of curriculum.TechniqueDetails) (out []string) {
		for _, p := range PiecesOf(curriculum.Open(curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "w"}}, Sections: []curriculum.Section{{ID: "s"}}, Techniques: []curriculum.Technique{{ID: "t", Name: "Rise", Kind: "kick", TechniqueDetails: of}},
			Requirements: []curriculum.Requirement{{ID: "r", RungID: "w", SectionID: "s", TechniqueID: "t", Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}}}}), "w") {
			out = append(out, p.Text)
		}
		return out
	}
	for want, of := range map[string]curriculum.TechniqueDetails{"lead rise, rear rise": {}, "rear rise": {Modifiers: []curriculum.Modifier{"rear-leg"}}, "lead rise": {Modifiers: []curriculum.Modifier{"lead-leg"}}} {
		assert.Equal(t, want, strings.Join(sided(of), ", "))
	}
	assert.Equal(t, []string{"rear rise"}, sided(curriculum.TechniqueDetails{Sides: curriculum.RearSide}))
	assert.Equal(t, []string{"lead rise"}, sided(curriculum.TechniqueDetails{Sides: curriculum.LeadSide}))
	once := sheet.Lines[0]
	once.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	assert.Positive(t, CallOf(b, once, 0).Sets[0].Pace, "one rep has a pace too")
}

// setsOf are the sets of a call, a phrase each.
func setsOf(c Call) (out []string) {
	for _, s := range c.Sets {
		text := turns[s.Turn]
		if s.Of > 0 {
			text += fmt.Sprintf("%d of %d ", s.N, s.Of)
		}
		if s.Reps > 0 {
			text += fmt.Sprint(s.Reps)
		} else {
			text += fmt.Sprintf("%d s", s.Seconds)
		}
		if s.Closing > 0 {
			text += fmt.Sprintf(" sprint %d", s.Closing)
		}
		if s.Rest > 0 {
			text += fmt.Sprintf(" rest %d", s.Rest)
		}
		if s.Before != "" {
			text += " after " + string(s.Before)
		}
		out = append(out, text)
	}
	return out
}

var turns = map[curriculum.Turn]string{curriculum.OwnStance: "own stance ", curriculum.OtherStance: "other stance ", curriculum.LeadLimb: "lead limb ", curriculum.RearLimb: "rear limb ", curriculum.OneWay: "one way ",
	curriculum.BackAgain: "back again ", curriculum.InTurn: "in turn ", curriculum.Round: "round ", curriculum.HoldFor: "hold "}

// TestEveryMeasureEverywhere: whatever measure is asked is kept from the requirement to the
// sheet, the minutes, the caller of one and of a group, and sign-offs.
// Nothing is doubled or halved on the way.
func TestEveryMeasureEverywhere(t *testing.T) {
	for _, x := range []struct {
		asked       string
		kind        curriculum.Kind
		program     curriculum.SideMeaning
		sheet       string   // as it stands on the sheet
		one, three  []string // sets called for one candidate and for three, left foot forward
		calledOne   int
		calledThree int
		seconds     int // for a group of three
		sided       bool
		calledOf    int
	}{
		{asked: "2 a side", kind: "kick", sheet: "2 a side", one: []string{"own stance 2 rest 5", "other stance 2 after stance"}, three: []string{"own stance 6 rest 5", "other stance 6 after stance"},
			calledOne: 2, calledThree: 6, seconds: 12 + 2*6*3, sided: true, calledOf: 6},
		{asked: "8 each leg", kind: "kick", sheet: "8 each limb", one: []string{"lead limb 8 rest 5", "rear limb 8 after limb"}, three: []string{"lead limb 8 rest 5", "rear limb 8 after limb"},
			calledOne: 8, calledThree: 8, seconds: 12 + 2*8*3, sided: true},
		{asked: "5 a side", kind: "strike", program: curriculum.ByLimb, sheet: "5 each limb", one: []string{"lead limb 5 rest 5", "rear limb 5 after limb"}, three: []string{"lead limb 6 rest 5", "rear limb 6 after limb"},
			calledOne: 5, calledThree: 6, seconds: 12 + 2*6*2, sided: true, calledOf: 6},
		{asked: "5 each stance", kind: "strike", program: curriculum.ByLimb, sheet: "5 a side", one: []string{"own stance 5 rest 5", "other stance 5 after stance"}, three: []string{"own stance 6 rest 5", "other stance 6 after stance"},
			calledOne: 5, calledThree: 6, seconds: 12 + 2*6*2, sided: true, calledOf: 6},
		{asked: "5 a side", kind: "combination", program: curriculum.ByLimb, sheet: "5 a side", one: []string{"own stance 5 rest 5", "other stance 5 after stance"}, three: []string{"own stance 6 rest 5", "other stance 6 after stance"},
			calledOne: 5, calledThree: 6, seconds: 12 + 2*6*6, sided: true, calledOf: 6},
		{asked: "4 each way", kind: "evasion", sheet: "4 each way", one: []string{"one way 4 rest 5", "back again 4 after turn"}, three: []string{"one way 6 rest 5", "back again 6 after turn"},
			calledOne: 4, calledThree: 6, seconds: 12 + 2*6*2, sided: true, calledOf: 6},
		{asked: "10 alternating", kind: "kick", sheet: "10 alternating", one: []string{"in turn 10"}, three: []string{"in turn 10"}, calledOne: 10, calledThree: 10, seconds: 12 + 10*3},
		{asked: "5", kind: "kick", sheet: "5 times", one: []string{"5"}, three: []string{"6"}, calledOne: 5, calledThree: 6, seconds: 12 + 6*3, calledOf: 6},
		{asked: "3 each leg without touching down", kind: "balance", sheet: "3 each limb without touching down", one: []string{"lead limb 3 rest 5", "rear limb 3 after limb"}, three: []string{"lead limb 6 rest 5", "rear limb 6 after limb"},
			calledOne: 3, calledThree: 6, seconds: 12 + 2*6*20, sided: true, calledOf: 6},
		{asked: "60 s", kind: "stance", sheet: "60 s", one: []string{"60 s sprint 15"}, three: []string{"60 s sprint 15"}, seconds: 12 + 60},
		{asked: "2 x 60 s, 30 s rest", kind: "sparring", sheet: "2 × 60 s, 30 s rest", one: []string{"round 1 of 2 60 s sprint 15 rest 30", "round 2 of 2 60 s sprint 15"}, three: []string{"round 1 of 2 60 s sprint 15 rest 30", "round 2 of 2 60 s sprint 15"},
			seconds: 12 + 150},
		{asked: "18 in 60 s", kind: "fitness", sheet: "18 in 60 s", one: []string{"60 s sprint 15"}, three: []string{"60 s sprint 15"}, seconds: 12 + 60},
		{asked: "3 holds of 10 s", kind: "balance", sheet: "3 holds of 10 s", one: []string{"hold 1 of 3 10 s sprint 15 rest 5", "hold 2 of 3 10 s sprint 15 rest 5", "hold 3 of 3 10 s sprint 15"}, three: []string{"hold 1 of 3 10 s sprint 15 rest 5", "hold 2 of 3 10 s sprint 15 rest 5", "hold 3 of 3 10 s sprint 15"},
			calledOne: 3, calledThree: 3, seconds: 12 + 30},
		{asked: "2", kind: "form", sheet: "2 times", one: []string{"2"}, three: []string{"2"}, calledOne: 2, calledThree: 2, seconds: 12 + 2*60},
	} {
		q, err := curriculum.ParseQuantity(x.asked)
		require.NoError(t, err, x.asked)
		details := curriculum.RequirementDetails{}
		if q.Seconds > 0 {
			details.Sprint = 15
		}
		b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ID: "p", ProgramDetails: curriculum.ProgramDetails{SideMeans: x.program}}, Sections: []curriculum.Section{{ID: "s", Name: "All"}},
			Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}}, Techniques: []curriculum.Technique{{ID: "t", Name: "Reed", Kind: x.kind}},
			Requirements: []curriculum.Requirement{{ID: "r", RungID: "y", SectionID: "s", TechniqueID: "t", Role: "performer", Quantity: q, Weight: 1, RequirementDetails: details}}})
		sheet := b.Compile(curriculum.Asking{RungID: "y", Group: 3})
		l := sheet.Lines[0]
		assert.Equal(t, x.sheet, l.Quantity.String(), x.asked)
		assert.Equal(t, x.seconds, l.Seconds, x.asked)
		assert.Equal(t, x.calledOne, l.Called(1), x.asked)
		assert.Equal(t, x.calledThree, l.Called(3), x.asked)
		assert.Equal(t, x.calledThree, l.RepsCalled, x.asked)
		assert.Equal(t, x.calledOf, l.CalledMore(3), x.asked)
		assert.Equal(t, x.one, setsOf(CallOf(b, l, l.Called(1))), x.asked)
		assert.Equal(t, x.three, setsOf(CallOf(b, l, l.Called(3))), x.asked)
		item := progress.AskedBy(b, "", sheet, nil).Items[0]
		assert.Equal(t, x.sided, item.TwoSided, x.asked)
	}
}

// TestWhoIsCalled: limbs, sides and the second set for each stance, and the words of the program.
func TestWhoIsCalled(t *testing.T) {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", ProgramDetails: curriculum.ProgramDetails{Commands: []curriculum.Command{{Word: "Kawa", Meaning: "change of stance, then wait"}, {Word: "Mill", Meaning: "begin"}, {Word: "Weir", Meaning: "turning point"}}}},
		Sections: []curriculum.Section{{ID: "s", Name: "All"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}},
		Techniques: []curriculum.Technique{{ID: "j", Name: "Jab", Kind: "strike", Checkpoints: []string{"chamber: elbow in", "extend: knuckles up", "extend: shoulder down", "eyes front"}}, {ID: "h", Name: "Hook", Kind: "strike"},
			{ID: "d", Name: "Mill drill 12", Kind: "combination", TechniqueDetails: curriculum.TechniqueDetails{Series: "Mill drill", Number: 12, Parts: []curriculum.Part{{Name: "The way in", From: 1, To: 1}},
				Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "lead jab"}, {Moves: "left hook. right hook"}}}}}}},
		Requirements: []curriculum.Requirement{
			{ID: "1", RungID: "y", SectionID: "s", TechniqueID: "d", Role: "performer", Weight: 1, Note: "eyes on the partner", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}, RequirementDetails: curriculum.RequirementDetails{Slow: true}},
			{ID: "2", RungID: "y", SectionID: "s", TechniqueID: "j", Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 4}, RequirementDetails: curriculum.RequirementDetails{Phases: true}},
		}}
	b := curriculum.Open(c)
	sheet := b.Compile(curriculum.Asking{RungID: "y"})
	call := CallOf(b, sheet.Lines[0], 0)
	assert.Equal(t, []any{12, "Mill drill", "eyes on the partner", []Part{{"The way in", 1, 1}}}, []any{call.Number, call.Series, call.Note, call.Parts})
	assert.Equal(t, ChangeStance, call.Sets[1].Before)
	assert.Equal(t, 10*6*slower, call.Sets[0].Pace)
	told := func(set int, v curriculum.View) (out []string) {
		for _, m := range curriculum.Told(call.Moves, call.Sets[set].Readings[v]) {
			out = append(out, m.What)
		}
		return out
	}
	assert.Equal(t, []string{"lead jab", "left hook.", "right hook"}, told(0, curriculum.AsWritten))
	assert.Equal(t, []string{"lead jab", "left hook.", "left hook"}, told(1, curriculum.AsWritten), "after a change of stance left and right are exchanged")
	assert.Equal(t, []string{"left jab", "left hook.", "right hook"}, told(0, curriculum.Orthodox))
	assert.Equal(t, []string{"right jab", "left hook.", "left hook"}, told(1, curriculum.Orthodox))
	assert.Equal(t, told(1, curriculum.Orthodox), told(0, curriculum.Southpaw))
	assert.Equal(t, told(0, curriculum.Orthodox), told(1, curriculum.Southpaw))
	assert.True(t, curriculum.Told(call.Moves, curriculum.ForSouthpaw)[1].AsWritten, "words cannot be mirrored")
	assert.Equal(t, []string{"chamber", "extend"}, CallOf(b, sheet.Lines[1], 0).Steps)
	assert.Equal(t, Commands{Begin: "Mill", Change: "Kawa"}, CommandsOf(c.Program))
	drawn := CombinationCall(b, "left hook, lead jab", 5)
	assert.Equal(t, []string{"own stance 5 rest 5", "other stance 5 after stance"}, setsOf(drawn))
	assert.Equal(t, "right hook", curriculum.Told(drawn.Moves, drawn.Sets[0].Readings[curriculum.Southpaw])[0].What, "a southpaw's first set stands under the right foot forward")
}
