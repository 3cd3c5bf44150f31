package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/progress"
)

// TestThePartnersPart: what somebody else has to do, and which cautions hold where no instructor
// stands by.
func TestThePartnersPart(t *testing.T) {
	attack := func(all ...curriculum.AttackKind) *curriculum.Technique {
		x := &curriculum.Technique{Kind: "self_defence"}
		for i, k := range all {
			x.Attack = append(x.Attack, curriculum.AttackElement{Kind: k, Side: []notation.Side{notation.Right, notation.Left}[i], Origin: "front"})
		}
		return x
	}
	for _, x := range []struct {
		item      progress.Item
		technique *curriculum.Technique
		partner   PartnerKind
	}{
		{progress.Item{Line: curriculum.Line{Role: "attacker"}}, attack("push"), PartnerDefends},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("push", "hook"), PartnerAttacks},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, &curriculum.Technique{Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "lead jab"}}, PartnerAttacks},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack(), PartnerAttacks},
		{progress.Item{Line: curriculum.Line{Role: "performer"}}, attack("push"), PartnerAttacks},
		{progress.Item{Line: curriculum.Line{Role: "holder"}}, attack(), PartnerStrikes},
		{progress.Item{Line: curriculum.Line{Role: "performer", Setting: "pads"}}, attack(), PartnerHolds},
		{progress.Item{Line: curriculum.Line{Role: "performer", Setting: "partner"}}, attack(), PartnerStands},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("rear choke"), PartnerAttacks},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("club"), PartnerAttacks},
	} {
		assert.Equal(t, x.partner, partner(curriculum.Open(curriculum.Curriculum{}), x.item, x.technique).Kind)
	}
}

// TestWhatIsRiskyAtHome: the cautions of home follow from those of the line, whether kind, attack, word or step call for them.
func TestWhatIsRiskyAtHome(t *testing.T) {
	steps := func(says string) curriculum.TechniqueDetails {
		return curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: says}}}}}
	}
	attack := func(k curriculum.AttackKind) curriculum.TechniqueDetails {
		return curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: k, Origin: "front"}}}
	}
	for _, x := range []struct {
		curriculum.Technique
		role string
		want []HomeCaution
	}{
		{curriculum.Technique{Name: "Turned wrist", Kind: "lock"}, "performer", []HomeCaution{GoThroughSteps}},
		{curriculum.Technique{Name: "Over the hip", Kind: "throw"}, "performer", []HomeCaution{GoThroughSteps}},
		{curriculum.Technique{Name: "Low Tide", Kind: "self_defence", TechniqueDetails: steps("Step through and sweep the front leg.")}, "defender", []HomeCaution{GoThroughSteps}},
		{curriculum.Technique{Name: "Low Gate", Kind: "self_defence", TechniqueDetails: steps("Step back and push away.")}, "defender", []HomeCaution{TapAndWord}},
		{curriculum.Technique{Name: "Loose Collar", Kind: "self_defence", TechniqueDetails: attack("rear choke")}, "attacker", []HomeCaution{HandsOnlyTouch}},
		{curriculum.Technique{Name: "Long Way", Kind: "self_defence", TechniqueDetails: attack("club")}, "defender", []HomeCaution{TapAndWord, SoftWeapon}},
		{curriculum.Technique{Name: "Jumping front kick", Kind: "kick"}, "performer", []HomeCaution{LowFirst}},
		{curriculum.Technique{Name: "Wheel kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"spinning"}}}, "performer", []HomeCaution{LowFirst}},
		{curriculum.Technique{Name: "Free rounds", Kind: "sparring"}, "performer", []HomeCaution{NoSparring}},
		{curriculum.Technique{Name: "Press-ups", Kind: "fitness"}, "performer", []HomeCaution{WarmUpFirst}},
		{curriculum.Technique{Name: "One board", Kind: "board_break"}, "performer", []HomeCaution{NoBoards}},
		{curriculum.Technique{Name: "When is a choke let go?", Kind: "knowledge"}, "performer", nil},
	} {
		x.ID = "x"
		b := curriculum.Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "s", Name: "All"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}}, Techniques: []curriculum.Technique{x.Technique},
			Requirements: []curriculum.Requirement{{ID: "r", RungID: "y", SectionID: "s", TechniqueID: "x", Role: curriculum.Role(x.role), Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}}}})
		var things []progress.Next
		for _, it := range progress.AskedBy(b, "y", b.Compile(curriculum.Asking{RungID: "y"}), nil).Items {
			things = append(things, progress.Next{Item: it})
		}
		tasks := Sheet(b, "y", things, curriculum.Orthodox, "")
		require.Len(t, tasks, 1, x.Name)
		assert.Equal(t, x.want, tasks[0].AtHome, x.Name)
	}
}

// TestBothSidesOfADefence: at home the other side of a defence stands beside the first, with
// what the partner does then; it is the attack in its mirror, whatever the stance.
func TestBothSidesOfADefence(t *testing.T) {
	c := curriculum.Curriculum{Sections: []curriculum.Section{{ID: "s", Name: "All"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}},
		Techniques: []curriculum.Technique{{ID: "c", Name: "Cross", Kind: "strike"}, {ID: "b", Name: "Inward block", Kind: "block"},
			{ID: "g", Name: "Gate", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "right cross", Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "left step back, right inward block"}}}}}}},
		Requirements: []curriculum.Requirement{{ID: "r", RungID: "y", SectionID: "s", TechniqueID: "g", Role: "defender", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}},
			{ID: "gone", RungID: "y", SectionID: "s", TechniqueID: "c", Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}, RequirementDetails: curriculum.RequirementDetails{NonStop: true, Slow: true, Supported: true, Phases: true, Free: true, Setting: "bag"}}}}
	b := curriculum.Open(c)
	var things []progress.Next
	for _, it := range progress.AskedBy(b, "y", b.Compile(curriculum.Asking{RungID: "y"}), nil).Items {
		things = append(things, progress.Next{Item: it})
	}
	things = append(things, progress.Next{Item: progress.Item{Line: curriculum.Line{TechniqueID: "nobody knows it"}}})
	tasks := Sheet(b, "y", things, curriculum.Southpaw, "")
	require.Len(t, tasks, 2, "what is on record no more is no task")
	whats := func(cells []curriculum.StripMove) (out []string) {
		for _, m := range cells {
			out = append(out, m.What)
		}
		return out
	}
	gate := tasks[0]
	assert.Equal(t, []string{"left step back", "right inward block"}, whats(gate.Moves))
	assert.Equal(t, []string{"right step back", "left inward block"}, whats(gate.Other))
	assert.Equal(t, []string{"right cross"}, whats(gate.Gives))
	assert.Equal(t, []string{"left cross"}, whats(gate.OtherGives))
	assert.Empty(t, tasks[1].Other)
	call := CallOf(b, things[0].Line, 0)
	assert.Equal(t, []string{"own stance 2 rest 5", "other stance 2 after side"}, setsOf(call))
	assert.Equal(t, []string{"right step back", "left inward block"}, whats(curriculum.Told(call.Moves, call.Sets[1].Readings[curriculum.Orthodox])))
}

// TestPaces: a rep of a combination or a form takes as long as it has counts, slowly twice that.
func TestPaces(t *testing.T) {
	moves := []curriculum.StripMove{{What: "a", Count: 1}, {What: "b", Count: 9}}
	pace := func(k curriculum.Kind, slow bool, cells ...curriculum.StripMove) int {
		c := CallOf(curriculum.Open(curriculum.Curriculum{}), curriculum.Line{Kind: k, Moves: cells, Slow: slow, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2}}, 0)
		return c.Sets[0].Pace
	}
	assert.Equal(t, []int{90, 180, 60, 600, 100, 30}, []int{pace("combination", false, moves...), pace("combination", true, moves...), pace("combination", false), pace("form", false, moves...), pace("lock", false, moves...), pace("kick", false, moves...)})
	c := CombinationCall(curriculum.Open(curriculum.Curriculum{}), "no such moves", 4)
	assert.Equal(t, []int{4, 30, 5, 4, 30, 0}, []int{c.Sets[0].Reps, c.Sets[0].Pace, c.Sets[0].Rest, c.Sets[1].Reps, c.Sets[1].Pace, c.Sets[1].Rest})
}

// TestWhatElseASheetSays: a way in by how far one is and on which track, cue words, what it leaves open,
// what goes before and after, and the clips that are shown on the way to a rung.
func TestWhatElseASheetSays(t *testing.T) {
	c := ferry().Curriculum
	c.Rungs = []curriculum.Rung{{ID: "w"}, {ID: "y"}, {ID: "g"}}
	x := &c.Techniques[0]
	x.LeavesOpen, x.CoveredBy, x.SetUpBy, x.FollowedBy = "the ribs", "the elbow", "a jab", "leaving"
	x.Clips = []curriculum.Clip{{Title: "all"}, {Title: "yellow", From: "y"}, {Title: "green", From: "g"}, {Title: "gone", From: "no rung"}}
	c.Techniques[1].LeavesOpen, c.Techniques[1].FollowedBy = "the back", "a turn"
	b := curriculum.Open(c)
	sheet := func(track string, change func(*progress.Item)) []Task {
		return Sheet(b, "y", []progress.Next{{Item: item("reed", "kick", change)}, {Item: item("leap", "kick", nil)}, {Item: item("oars", "self_defence", nil)}}, curriculum.Orthodox, track)
	}
	tasks := sheet("adults", nil)
	require.Len(t, tasks, 3)
	assert.Equal(t, []any{"Wall", []string{"knee first"}, "the ribs", "the elbow", "a jab", "leaving"}, []any{tasks[0].Drill, tasks[0].Cues, tasks[0].LeavesOpen, tasks[0].CoveredBy, tasks[0].SetUpBy, tasks[0].FollowedBy})
	assert.Equal(t, []any{"Wall", []string{"knee first"}, "the back", "", "", "a turn"}, []any{tasks[1].Drill, tasks[1].Cues, tasks[1].LeavesOpen, tasks[1].CoveredBy, tasks[1].SetUpBy, tasks[1].FollowedBy}, "a variant has the drills of its base, and says itself what it leaves open")
	assert.Equal(t, []any{"", []string(nil), "", ""}, []any{tasks[2].Drill, tasks[2].Cues, tasks[2].LeavesOpen, tasks[2].FollowedBy})
	assert.Equal(t, "Cone: over a cone", sheet("adults", func(it *progress.Item) { it.NotYet = tuesday })[0].Drill)
	assert.Equal(t, "Rope", sheet("adults", func(it *progress.Item) { it.Done = true })[0].Drill)
	assert.Equal(t, "Cone: over a cone", sheet("cubs", func(it *progress.Item) { it.Done = true })[0].Drill, "not for this track yet")
	x = b.Technique("reed")
	x.Drills = []curriculum.Drill{{Name: "Shield", With: "pads"}, {Name: "Wall"}}
	assert.Equal(t, "Wall", sheet("adults", nil)[0].Drill, "at home there are no pads")
	x.Drills = x.Drills[:1]
	assert.Equal(t, "Shield, on pads", sheet("adults", nil)[0].Drill, "where nothing else is on record it says what it takes")
	var clips []string
	for _, c := range tasks[0].Clips {
		clips = append(clips, c.Title)
	}
	assert.Equal(t, []string{"all", "yellow"}, clips)
}

func TestHowToMend(t *testing.T) {
	it := progress.Item{Line: curriculum.Line{Faults: []curriculum.Fault{{Seen: "foot stays", Correction: "turn the heel first"}, {Seen: "looks down", Correction: "eyes up"}}}, Fault: "looks down"}
	assert.Equal(t, "eyes up", mend(it))
	it.Done = true
	assert.Empty(t, mend(it))
	it.Done, it.Fault = false, ""
	assert.Empty(t, mend(it))
	it.Fault = "something else"
	assert.Empty(t, mend(it))
}
