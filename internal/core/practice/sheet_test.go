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
		partner   string
		cautions  int
	}{
		{progress.Item{Line: curriculum.Line{Role: "attacker"}}, attack("push"), "Your partner defends. You give the attack, in reach and straight on, and let it be stopped.", 1},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("push", "hook"), "Slowly: your partner pushes you with the right hand, then strikes: hook with the left hand. In reach, and no faster than you can answer; they stop where they are stopped.", 1},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, &curriculum.Technique{Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "lead jab"}}, "Slowly: your partner does lead jab. In reach, and no faster than you can answer; they stop where they are stopped.", 1},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack(), "Your partner gives the attack slowly and stops where they are stopped.", 1},
		{progress.Item{Line: curriculum.Line{Role: "performer"}}, attack("push"), "", 0},
		{progress.Item{Line: curriculum.Line{Role: "holder"}}, attack(), "You hold; your partner strikes. Elbows in, the pad against the body.", 0},
		{progress.Item{Line: curriculum.Line{Role: "performer", Setting: "pads"}}, attack(), "A partner holds the pad in both hands, against the body.", 0},
		{progress.Item{Line: curriculum.Line{Role: "performer", Setting: "partner"}}, attack(), "With a partner of about your size.", 0},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("rear choke"), "Slowly: your partner puts an arm or both hands to your neck, from behind. In reach, and no faster than you can answer; they stop where they are stopped.", 1},
		{progress.Item{Line: curriculum.Line{Role: "defender"}}, attack("club"), "Slowly: your partner swings a padded stick with the right hand. In reach, and no faster than you can answer; they stop where they are stopped.", 2},
		{progress.Item{}, &curriculum.Technique{Kind: "lock"}, "", 1}, {progress.Item{}, &curriculum.Technique{Kind: "throw"}, "", 1}, {progress.Item{}, &curriculum.Technique{Kind: "sparring"}, "", 1},
		{progress.Item{}, &curriculum.Technique{Kind: "board_break"}, "", 1}, {progress.Item{}, &curriculum.Technique{Kind: "fitness"}, "", 1},
		{progress.Item{}, &curriculum.Technique{Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"spinning"}}}, "", 1},
		{progress.Item{}, &curriculum.Technique{Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"jumping"}}}, "", 1},
	} {
		assert.Equal(t, x.partner, partner(curriculum.Open(curriculum.Curriculum{}), x.item, x.technique))
		assert.Len(t, atHome(curriculum.Open(curriculum.Curriculum{}), x.item, x.technique), x.cautions, "%s %v", x.technique.Kind, x.technique.Attack)
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
	assert.Equal(t, "twice on each side, left and right exchanged the second time", gate.Do)
	assert.Equal(t, []string{"left step back", "right inward block"}, whats(gate.Moves))
	assert.Equal(t, []string{"right step back", "left inward block"}, whats(gate.Other))
	assert.Equal(t, []string{"right cross"}, whats(gate.Gives))
	assert.Equal(t, []string{"left cross"}, whats(gate.OtherGives))
	assert.Equal(t, "2 of your own choice, on each side, the other foot in front the second time, on the bag, without stopping, slowly, holding on to something, part by part", tasks[1].Do)
	assert.Empty(t, tasks[1].Other)
	call := CallOf(b, things[0].Line, 0)
	assert.Equal(t, []string{"one side 2 rest 5", "the other side 2 after the other side"}, setsOf(call, curriculum.Southpaw))
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
	assert.Equal(t, map[curriculum.Kind]string{"kick": "leg", "balance": "leg", "footwork": "leg", "strike": "hand", "block": "hand", "form": "side"}, map[curriculum.Kind]string{"kick": limbOf("kick"), "balance": limbOf("balance"), "footwork": limbOf("footwork"), "strike": limbOf("strike"), "block": limbOf("block"), "form": limbOf("form")})
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
	assert.Equal(t, []any{"Wall", []string{"knee first"}, "It leaves open: the ribs; covered by: the elbow.", "Before it: a jab. After it: leaving."}, []any{tasks[0].Drill, tasks[0].Cues, tasks[0].Exposure, tasks[0].Leads})
	assert.Equal(t, []any{"Wall", []string{"knee first"}, "It leaves open: the back.", "After it: a turn."}, []any{tasks[1].Drill, tasks[1].Cues, tasks[1].Exposure, tasks[1].Leads}, "a variant has the drills of its base, and says itself what it leaves open")
	assert.Equal(t, []any{"", []string(nil), "", ""}, []any{tasks[2].Drill, tasks[2].Cues, tasks[2].Exposure, tasks[2].Leads})
	assert.Equal(t, "Cone: over a cone", sheet("adults", func(it *progress.Item) { it.NotYet = tuesday })[0].Drill)
	assert.Equal(t, "Rope", sheet("adults", func(it *progress.Item) { it.Done = true })[0].Drill)
	assert.Equal(t, "Cone: over a cone", sheet("cubs", func(it *progress.Item) { it.Done = true })[0].Drill, "not for this track yet")
	var clips []string
	for _, c := range tasks[0].Clips {
		clips = append(clips, c.Title)
	}
	assert.Equal(t, []string{"all", "yellow"}, clips)
}
