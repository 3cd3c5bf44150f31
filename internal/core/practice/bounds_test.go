package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Bounds: the first and the last value for which each rule of practice holds, and the ones beside them.

// TestWhatEachKindTakes: two people, pads, a bag or the instructor's eye.
func TestWhatEachKindTakes(t *testing.T) {
	for _, x := range []struct {
		kind    curriculum.Kind
		role    curriculum.Role
		setting curriculum.Setting
		want    Needs
	}{
		{"kick", "performer", "", Needs{Alone: true}}, {"kick", "performer", "pads", Needs{Pads: true, Alone: true}}, {"kick", "performer", "bag", Needs{Gear: true, Alone: true}},
		{"kick", "performer", "boards", Needs{Never: true}}, {"kick", "performer", "partner", Needs{Partner: true}}, {"kick", "holder", "pads", Needs{Partner: true, Never: true, Pads: true}},
		{"sparring", "performer", "", Needs{Partner: true, Never: true}}, {"throw", "performer", "", Needs{Partner: true, Never: true}}, {"lock", "performer", "", Needs{Partner: true, Never: true}},
		{"partner_set", "attacker", "", Needs{Partner: true, Never: true}}, {"board_break", "performer", "", Needs{Partner: true, Never: true}},
		{"self_defence", "performer", "", Needs{Partner: true}}, {"form", "defender", "", Needs{Partner: true}}, {"breakfall", "performer", "", Needs{Gear: true, Alone: true}},
	} {
		assert.Equal(t, x.want, needsOf(x.kind, x.role, x.setting), "%v", x)
	}
}

// TestHowManyAreChosen: as many as are shown, and one where a round is free; one more is too many.
func TestHowManyAreChosen(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Techniques: []curriculum.Technique{{ID: "j", Name: "Jab", Kind: "strike"}}})
	line := func(q curriculum.Quantity) curriculum.Line { return curriculum.Line{Free: true, Quantity: q} }
	two := line(curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 2})
	assert.Equal(t, 2, two.Slots())
	for n, problems := range map[int]int{1: 0, 2: 0, 3: 1} {
		_, p := Choose(b, two, "", "", []string{"lead jab", "rear jab", "lead jab, rear jab"}[:n])
		assert.Len(t, p, problems, "%d of 2", n)
	}
	round := line(curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 1, Seconds: 60})
	_, p := Choose(b, round, "", "", []string{"lead jab", "rear jab"})
	assert.Equal(t, round.Slots() > 0 && round.Slots() < 2, len(p) > 0, "a free round holds as many as there are")
	_, p = Choose(b, curriculum.Line{}, "", "", nil)
	assert.Len(t, p, 1, "no free choice")
}

// TestCountsOfCombinations: directions count from the second on, and none is made of no moves.
func TestCountsOfCombinations(t *testing.T) {
	for directions, want := range map[int]string{0: "4 × 4 = 16", 1: "4 × 4 = 16", 2: "4 × 4 × 2 directions = 32"} {
		_, words := Ways(4, 2, true, directions, false)
		assert.Equal(t, want, words)
	}
	for k, want := range map[int]int{0: 0, 1: 4, 2: 16} {
		_, n, exact := Useful(pieces, k, Rules{}, 99)
		assert.Equal(t, []any{want, true}, []any{n, exact}, "of %d moves", k)
	}
	list, _, _ := Useful(pieces, 1, Rules{}, 99)
	never := map[string]int{}
	for _, x := range list {
		never[Line(x)] = 1
	}
	assert.GreaterOrEqual(t, Draw(list, never, 3), 0, "all were called as often: one of them")
	assert.Equal(t, -1, Draw(nil, nil, 3))
}

// TestWhatABlockAdds: the worth of a block is what the plan would lose without it, in its row of variety.
func TestWhatABlockAdds(t *testing.T) {
	serve := func(n int) []Served { return []Served{{Student: "a", Worth: n}} }
	p := MakePlan([]Topic{{ID: "a", Section: "S", Minutes: 20, Serves: serve(1000)}, {ID: "b", Section: "S", Minutes: 20, Serves: serve(500)}}, Tonight{Minutes: 60, On: tuesday})
	worths := map[string]int{}
	for _, b := range p.Blocks {
		worths[b.ID] = b.Worth
	}
	assert.Equal(t, 1400, p.Worth)
	assert.Equal(t, []int{900, 400}, []int{worths["a"], worths["b"]})
}

// TestPartsOnTheSheet: a part has its name while it is not the whole; a later part's clip comes with it.
func TestPartsOnTheSheet(t *testing.T) {
	stages := []curriculum.Stage{{Name: "The way in"}, {}, {Name: "The way out"}}
	clips := []curriculum.Clip{{Title: "one", Stage: 1}, {Title: "two", Stage: 2}}
	b := curriculum.Open(curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "y"}}, Techniques: []curriculum.Technique{{ID: "t", Name: "Reed", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Stages: stages, Clips: clips}}}})
	for stage, want := range map[int]string{0: "", 1: "The way in", 2: "", 3: ""} {
		task := Sheet(b, "y", []progress.Next{{Item: progress.Item{Line: curriculum.Line{TechniqueID: "t", Role: "defender", Stage: stage, Stages: 3}}}}, curriculum.Orthodox, "")[0]
		assert.Equal(t, want, task.Part, "stage %d", stage)
		assert.Len(t, task.Clips, []int{2, 1, 2, 2}[stage], "stage %d", stage)
		assert.True(t, task.Answered(), "the partner begins")
	}
	task := Sheet(b, "y", []progress.Next{{Item: progress.Item{Line: curriculum.Line{TechniqueID: "t", Role: "attacker"}}}}, curriculum.Orthodox, "")[0]
	assert.False(t, task.Answered(), "one begins oneself")
}

// TestADefenceThatNamesNoRole: what is asked as such, and answers an attack, has its partner as the defender has.
func TestADefenceThatNamesNoRole(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{})
	of := func(role curriculum.Role, kind curriculum.Kind, attack ...curriculum.AttackElement) (PartnerKind, []HomeCaution) {
		x, tech := progress.Item{Line: curriculum.Line{Role: role}}, &curriculum.Technique{Kind: kind, TechniqueDetails: curriculum.TechniqueDetails{Attack: attack}}
		return partner(b, x, tech).Kind, atHome(x, tech)
	}
	grab := curriculum.AttackElement{Kind: "wrist grab"}
	for _, role := range []curriculum.Role{"performer", "defender"} {
		kind, cautions := of(role, "self_defence", grab)
		assert.Equal(t, PartnerAttacks, kind, role)
		assert.Equal(t, []HomeCaution{TapAndWord}, cautions, role)
	}
	kind, cautions := of("performer", "self_defence")
	assert.Equal(t, PartnerKind(""), kind, "nothing says of what")
	assert.Equal(t, []HomeCaution{TapAndWord}, cautions)
	kind, cautions = of("performer", "kick")
	assert.Equal(t, PartnerKind(""), kind)
	assert.Empty(t, cautions)
}

// TestNeedsAtTheirBounds: what is done and not stale, or of no interest tonight, is no need; a grading that is near presses only what is needed and counts.
func TestNeedsAtTheirBounds(t *testing.T) {
	seen := func(days int) progress.Item {
		return progress.Item{Line: curriculum.Line{Freshness: curriculum.Carried}, Counts: true, Done: true, Seen: tuesday.AddDays(-days)}
	}
	worth := func(p Present, it progress.Item, themed, meant bool) int {
		n, why := p.need(&it, themed, meant, tuesday)
		assert.Equal(t, n > 0, len(why) > 0)
		return n
	}
	assert.Equal(t, []int{0, needStale}, []int{worth(Present{}, seen(progress.StaleDays-1), false, false), worth(Present{}, seen(progress.StaleDays), false, false)})
	assert.Equal(t, []int{needTheme, needTheme, needStale}, []int{worth(Present{}, seen(1), true, false), worth(Present{}, seen(1), false, true), worth(Present{}, seen(progress.StaleDays), false, true)})
	open := progress.Item{Counts: true}
	assert.Equal(t, []int{needOpen, needOpen, needOpen + needNear, 0, needStale + needNear}, []int{worth(Present{}, open, false, false), worth(Present{}, open, true, true), worth(Present{Near: true}, open, false, false), worth(Present{Near: true}, seen(1), false, false), worth(Present{Near: true}, seen(progress.StaleDays), false, false)})
	assert.Equal(t, 0, worth(Present{Near: true}, progress.Item{}, false, false), "what does not count is no need")
	missed := Present{Missed: map[string]civil.Date{"": tuesday}}
	assert.Equal(t, []int{needStale, needOpen + needMissed}, []int{worth(missed, seen(1), false, false), worth(missed, open, false, false)})
	missed.MakeUp = true
	assert.Equal(t, []int{needMakeUp, needOpen + needMakeUp}, []int{worth(missed, seen(1), false, false), worth(missed, open, false, false)})
}

// TestThemesAtTheirBounds: a theme of sections or of words alone is one; short words keep their s.
func TestThemesAtTheirBounds(t *testing.T) {
	assert.Equal(t, []bool{true, false, false}, []bool{Theme{}.IsZero(), Theme{Sections: []string{"s"}}.IsZero(), Theme{Words: "kicks"}.IsZero()})
	assert.Equal(t, []string{"gas", "rib", "glass", "yes"}, stems("gas ribs glass yes"))
}

// TestTheYoungestTrackChoosesTheWayIn: of those served, from the first track of the program on.
func TestTheYoungestTrackChoosesTheWayIn(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ProgramDetails: curriculum.ProgramDetails{Tracks: []curriculum.Track{{ID: "c", Name: "Cubs"}, {ID: "a", Name: "Adults"}}}},
		Techniques: []curriculum.Technique{{ID: "t", Name: "Reed", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Drills: []curriculum.Drill{{Name: "Wall", From: "a"}, {Name: "Frog"}}}}}})
	present := func(tracks ...string) (out []Present) {
		for _, x := range tracks {
			out = append(out, Present{Student: x, Track: x, Chance: 1000, Book: b, Items: []progress.Item{{Line: curriculum.Line{TechniqueID: "t", Kind: "kick", Role: "performer"}, Counts: true}}})
		}
		return out
	}
	assert.Contains(t, Topics(present("c"), nil, tuesday)[0].Drill, "Frog")
	assert.Contains(t, Topics(present("a"), nil, tuesday)[0].Drill, "Wall")
	assert.Contains(t, Topics(present("a", "c"), nil, tuesday)[0].Drill, "Frog")
}
