package store

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

func (x *school) book() *curriculum.Book {
	b, err := x.Book(bg, x.program)
	require.NoError(x.t, err)
	return b
}

// copied is the curriculum as a value of its own, with a change.
func (x *school) copied(change func(*curriculum.Curriculum)) curriculum.Curriculum {
	var c curriculum.Curriculum
	require.NoError(x.t, json.Unmarshal([]byte(toJSON(x.book().Curriculum)), &c))
	change(&c)
	return c
}

func (x *school) undo(d Done, err error) {
	x.t.Helper()
	require.NoError(x.t, err)
	_, err = x.Undo(bg, me, d.Audit)
	require.NoError(x.t, err)
}

func TestAPageIsOneDeed(t *testing.T) {
	x := newSchool(t)
	before := x.book().Curriculum
	_, err := x.SavePage(bg, me, x.rungs[1], "Kicks\nFront kick, 9 a side, until Green\nStep kick\nCombinations\nTurn, 4 a side: lead front kick, rear stepp kick / nonsense")
	problem(t, err, "page", "line 5, column 52: \"nonsense\" is not in the catalogue")
	assert.Equal(t, before, x.book().Curriculum, "nothing half-written")
	d, err := x.SavePage(bg, me, x.rungs[1], "Kicks\nFront kick, 9 a side, until Green\nStep kick\nCombinations\nTurn, 4 a side: lead front kick, rear stepp kick")
	require.NoError(t, err)
	b := x.book()
	assert.Contains(t, binder.For(b).PageOf(x.rungs[1]), "Front kick, 9 a side, must, until Green belt", "which it asked already")
	assert.True(t, strings.HasSuffix(binder.For(b).PageOf(x.rungs[1]), "Kicks\nStep kick, 5 a side\n\nCombinations\nTurn, 4 a side"))
	assert.Len(t, b.Compile(curriculum.Asking{RungID: x.rungs[2]}).Lines[0].Covers, 1, "carried, and shown once")
	x.undo(d, nil)
	assert.Equal(t, before, x.book().Curriculum)
	_, err = x.SavePage(bg, me, x.rungs[1], " \n")
	problem(t, err, "page", "is empty")
}

// TestAPageTypedOverWhatStands: what a rung asks already is changed, not asked twice; what says nothing new is refused, and undoing takes all back.
func TestAPageTypedOverWhatStands(t *testing.T) {
	x := newSchool(t)
	_, err := x.SavePage(bg, me, x.rungs[1], "Kicks\nHeron kick, 9 a side, must\nOtter kick, 4 a side")
	require.NoError(t, err)
	stood := x.book().Curriculum
	_, err = x.SavePage(bg, me, x.rungs[1], "Kicks\nOtter kick, 4 a side\nHeron kick")
	problem(t, err, "page", "asks for nothing new")
	assert.Equal(t, stood, x.book().Curriculum)
	fight := "Sparring\nFree sparring, 2 x 60 s, no contact\n7 = Otter kick"
	d, err := x.SavePage(bg, me, x.rungs[1], fight)
	require.NoError(t, err)
	_, err = x.SavePage(bg, me, x.rungs[1], fight)
	problem(t, err, "page", "asks for nothing new") // nor does it set a number or a sparring rule that is not set
	x.undo(d, nil)
	for page, want := range map[string][]string{
		"Kicks\nHeron kick, 6 a side\nOtter kick, 4 a side":               {"Changed 1 requirement of Yellow belt", "Heron kick, 6 a side, must\nOtter kick, 4 a side"},
		"Kicks\nOtter kick, 8 a side\nSwan kick, 3\nHeron kick, 9 a side": {"Typed a page for Yellow belt: 1 requirement added, 1 changed", "Heron kick, 9 a side, must\nOtter kick, 8 a side\nSwan kick, 3 times"},
		"Kicks\nSwan kick, 3": {"Added 1 requirement to Yellow belt", "Heron kick, 9 a side, must\nOtter kick, 4 a side\nSwan kick, 3 times"},
	} {
		d, err := x.SavePage(bg, me, x.rungs[1], page)
		require.NoError(t, err, page)
		told, err := x.Trail(bg, d.Audit)
		require.NoError(t, err)
		assert.Equal(t, want[0], words.Deed(told.Told), page)
		assert.True(t, strings.HasSuffix(binder.For(x.book()).PageOf(x.rungs[1]), want[1]), binder.For(x.book()).PageOf(x.rungs[1]))
		x.undo(d, nil)
		assert.Equal(t, stood, x.book().Curriculum, page)
	}
}

func TestARenameIsFollowedByLinesOfMoves(t *testing.T) {
	x := newSchool(t)
	_, err := x.SavePage(bg, me, x.rungs[1], "Combinations\nTurn: lead front kick, rear low block")
	require.NoError(t, err)
	b := x.book()
	kick := *b.Named("Front kick")
	kick.Name = "Ram kick"
	d, err := x.SaveTechnique(bg, me, kick)
	require.NoError(t, err)
	assert.Equal(t, "lead Ram kick, rear Low block", x.book().Named("Turn").Stages[0].Steps[0].Moves)
	x.undo(d, nil)
	assert.Equal(t, "lead front kick, rear low block", x.book().Named("Turn").Stages[0].Steps[0].Moves)
}

func TestTechniquesPointSomewhere(t *testing.T) {
	x := newSchool(t)
	b := x.book()
	kick, block := *b.Named("Front kick"), *b.Named("Low block")
	kick.BuildsOn = []string{block.ID}
	_, err := x.SaveTechnique(bg, me, kick)
	require.NoError(t, err)
	block.BuildsOn = []string{kick.ID}
	_, err = x.SaveTechnique(bg, me, block)
	problem(t, err, "builds_on", "goes round in a circle: ")
	block.BuildsOn, block.Stages = nil, []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "lead fornt kick"}}}}
	_, err = x.SaveTechnique(bg, me, block)
	problem(t, err, "stage_0", `step 1, column 6: "fornt kick" is not in the catalogue; near it are Front kick`)
	block.Stages[0].Steps[0].Moves, block.Stages[0].RungID = "lead front kick", "nowhere"
	_, err = x.SaveTechnique(bg, me, block)
	problem(t, err, "stage_0", "is no rung of this ladder")
	block.Stages[0].RungID = x.rungs[2]
	_, err = x.SaveTechnique(bg, me, block)
	require.NoError(t, err)
	_, err = x.DeleteRung(bg, me, x.rungs[2])
	refused(t, err, "1 technique has a part that arrives on it")
	_, err = x.DeleteRequirement(bg, me, x.lines[1])
	require.NoError(t, err)
	for _, id := range []string{x.lines[0]} {
		_, err = x.DeleteRequirement(bg, me, id)
		require.NoError(t, err)
	}
}

func TestWholeCurricula(t *testing.T) {
	x := newSchool(t)
	before := x.book().Curriculum
	changed := x.copied(func(c *curriculum.Curriculum) {
		c.Rungs[0].Name, c.Rungs[1].Name = c.Rungs[1].Name, c.Rungs[0].Name // an exchange of names
		c.Requirements = c.Requirements[1:]
		c.Techniques = append(c.Techniques, curriculum.Technique{ID: "new-one", Name: "Dusty kick", Kind: "kick"})
		c.Program.Groups = []curriculum.SampleGroup{{ID: "g", Name: "Pool", Draw: 2}}
	})
	d, err := x.SaveCurriculum(bg, me, changed)
	require.NoError(t, err)
	b := x.book()
	assert.Equal(t, "Yellow belt", b.Rungs[0].Name)
	assert.Len(t, b.Requirements, 3)
	assert.NotNil(t, b.Named("dusty kick"))
	assert.NotNil(t, b.Group("g"))
	x.undo(d, nil)
	assert.Equal(t, before, x.book().Curriculum)

	_, err = x.SaveCurriculum(bg, me, x.copied(func(c *curriculum.Curriculum) { c.Techniques[1].ID = c.Techniques[0].ID }))
	assert.ErrorContains(t, err, "stands twice; it is the id of $.techniques[0] too")
	_, err = x.SaveCurriculum(bg, me, x.copied(func(c *curriculum.Curriculum) { c.Rungs = c.Rungs[1:]; c.Requirements = nil }))
	refused(t, err, "students stand on it")
	_, err = x.SaveCurriculum(bg, me, x.copied(func(c *curriculum.Curriculum) { c.Program.ID = "other-program"; c.Program.Name = "Other" }))
	refused(t, err, "belongs to another program here; nothing was read in")
	assert.Equal(t, before, x.book().Curriculum)

	other := curriculum.Curriculum{Program: curriculum.Program{ID: "p2", Name: "Staff"}, Sections: []curriculum.Section{{ID: "s2", Name: "Kicks"}}, Rungs: []curriculum.Rung{{ID: "r2", Kind: curriculum.Belt, Name: "White belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}}}}
	d, err = x.SaveCurriculum(bg, me, other)
	require.NoError(t, err)
	x.undo(d, nil)
	_, err = x.Book(bg, "p2")
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.SaveCurriculum(bg, me, other)
	require.NoError(t, err, "what was taken back can come again")
}

// TestVersions: students stay on the version they began by until moved, and a begun sheet
// names its version and never changes.
func TestVersions(t *testing.T) {
	x := newSchool(t)
	d, err := x.Publish(bg, me, x.program, "as taught in autumn", false)
	require.NoError(t, err)
	first := d.ID
	who, err := x.ClimbsBy(bg, x.standing(0).EnrolmentID, today)
	require.NoError(t, err)
	assert.Equal(t, 1, who.Version, "those who climbed by the draft go on by the first version")
	_, err = x.Publish(bg, me, x.program, "", false)
	refused(t, err, "The draft is the same as version 1")

	grading, table := x.begun()
	frozen := len(table.Items)
	require.Equal(t, 3, frozen)
	_, err = x.DeleteRequirement(bg, me, x.lines[2])
	require.NoError(t, err)
	_, changed, err := x.Versions(bg, x.program)
	require.NoError(t, err)
	assert.True(t, changed)
	second, err := x.Publish(bg, me, x.program, "", false)
	require.NoError(t, err)
	assert.Len(t, x.table(grading).Items, frozen, "publishing never changes a begun sheet")

	asked := func(version string) int {
		b, err := x.VersionBook(bg, version)
		require.NoError(t, err)
		return len(b.Compile(curriculum.Asking{RungID: x.rungs[1]}).Lines)
	}
	assert.Equal(t, []int{3, 2}, []int{asked(first), asked(second.ID)})
	id, err := x.SaveStudent(bg, me, progress.Student{Name: "Dora Pond", Stance: progress.Orthodox})
	require.NoError(t, err)
	e, err := x.Enrol(bg, me, id.ID, x.rungs[0], today)
	require.NoError(t, err)
	who, err = x.ClimbsBy(bg, e.ID, today)
	require.NoError(t, err)
	assert.Equal(t, 2, who.Version, "who begins now begins by the newest")

	moved, err := x.MoveToVersion(bg, me, second.ID, first, nil)
	require.NoError(t, err)
	all, changed, err := x.Versions(bg, x.program)
	require.NoError(t, err)
	assert.False(t, changed)
	assert.Equal(t, []int{4, 0}, []int{all[0].Students, all[1].Students})
	x.undo(moved, nil)
	all, _, err = x.Versions(bg, x.program)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 3}, []int{all[0].Students, all[1].Students})
	_, err = x.w.Exec(`UPDATE version SET note = 'x'`)
	assert.ErrorContains(t, err, "append-only")

	// A sheet frozen now follows each candidate's own version, in a group of its own.
	d, err = x.SaveGrading(bg, me, x.plan())
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}, {EnrolmentID: e.ID}})
	require.NoError(t, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	candidates, err := x.Candidates(bg, d.ID)
	require.NoError(t, err)
	require.Len(t, candidates, 2)
	assert.NotEqual(t, candidates[0].GroupID, candidates[1].GroupID)
	_, rows, err := x.Review(bg, d.ID)
	require.NoError(t, err)
	assert.ElementsMatch(t, []int{3, 2}, []int{len(rows[0].Items), len(rows[1].Items)})
}

// TestTracksAndAdaptations: one group is called one running order, each candidate shows
// what is on their own sheet.
func TestTracksAndAdaptations(t *testing.T) {
	x := newSchool(t)
	_, err := x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(p *curriculum.ProgramDetails) error {
		p.Tracks = []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 8}, {ID: "adults", Name: "Adults", From: 9}}
		return nil
	})
	require.NoError(t, err)
	first := x.standing(0)
	kick := x.book().Named("Front kick")
	block := x.book().Named("Low block")
	bad := curriculum.Adaptation{Does: curriculum.Replace, TechniqueID: kick.ID, Reason: "hip"}
	_, err = x.AddAdaptation(bg, me, first.StudentID, x.program, bad)
	problem(t, err, "replacement", "is no technique of this program")
	bad.ReplacementID = block.ID
	bad.To = today.AddDays(-1)
	past, err := x.AddAdaptation(bg, me, first.StudentID, x.program, bad)
	require.NoError(t, err)
	_, err = x.AddAdaptation(bg, me, first.StudentID, x.program, curriculum.Adaptation{Does: curriculum.Excuse, TechniqueID: kick.ID, Reason: "ankle"})
	require.NoError(t, err)
	who, err := x.ClimbsBy(bg, first.EnrolmentID, today)
	require.NoError(t, err)
	assert.Len(t, who.Adaptations, 1, "the past one holds no more")
	assert.Equal(t, "Adults", who.Track.Name, "without a birth date nobody is asked less")
	x.undo(past, nil)

	_, table := x.begun()
	require.Len(t, table.Items, 3)
	byLabel := map[string]int{}
	for _, it := range table.Items {
		byLabel[it.Label] = len(it.IDs)
	}
	assert.Equal(t, map[string]int{"Front kick": 2, "Low block": 3, "Bent Reed": 3}, byLabel)
	sheet, err := x.Progress(bg, table.Grading.ID)
	require.NoError(t, err)
	assert.Equal(t, 8, sheet[0].Of)

	d, err := x.SetTrack(bg, me, first.EnrolmentID, "cubs")
	require.NoError(t, err)
	who, err = x.ClimbsBy(bg, first.EnrolmentID, today)
	require.NoError(t, err)
	assert.Equal(t, "Cubs by hand", who.Track.Name+map[bool]string{true: " by hand"}[who.ByHand])
	_, err = x.SetTrack(bg, me, first.EnrolmentID, "nowhere")
	problem(t, err, "track", "is no track")
	x.undo(d, nil)
}

func TestProvisionalGradesAndMerit(t *testing.T) {
	x := newSchool(t)
	_, err := x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(p *curriculum.ProgramDetails) error { p.PermanentFrom = x.rungs[2]; return nil })
	require.NoError(t, err)
	id, table := x.begun()
	x.markAll(table, 2, 4)
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	grades := map[scoring.Outcome]string{}
	for _, r := range rows {
		_, err = x.Decide(bg, me, Decision{CandidateID: r.ID, Outcome: r.Result.Outcome, DecidedBy: "Cora Vane"})
		require.NoError(t, err)
		_, err = x.Announce(bg, me, id, []string{r.ID})
		require.NoError(t, err)
		history, err := x.History(bg, r.EnrolmentID)
		require.NoError(t, err)
		grades[r.Result.Outcome] = history[1].Grade
	}
	assert.Equal(t, "permanent", grades[scoring.OutcomeHonours]+grades[scoring.OutcomeDouble], "honours make it permanent")
	_, err = x.AwardMerit(bg, me, rows[0].EnrolmentID, today, "")
	problem(t, err, "reason", "is empty")
	for _, r := range rows {
		history, err := x.History(bg, r.EnrolmentID)
		require.NoError(t, err)
		_, err = x.AwardMerit(bg, me, r.EnrolmentID, today, "helped all summer")
		if history[1].Grade == "permanent" {
			refused(t, err, "is not provisional")
			continue
		}
		require.NoError(t, err)
		history, err = x.History(bg, r.EnrolmentID)
		require.NoError(t, err)
		assert.Equal(t, "permanent", history[2].Grade)
		assert.Equal(t, progress.Why{Because: progress.BecauseMerit, On: today, Reason: "helped all summer"}, history[2].Why)
	}
	_, err = x.DeleteRung(bg, me, x.rungs[2])
	refused(t, err, "cannot be deleted")
}

// TestEachCandidateOfAGroup: lines are called for the whole group; what one of them does
// differently is told beside their name, and every candidate's sheet names track and version.
func TestEachCandidateOfAGroup(t *testing.T) {
	x := newSchool(t)
	_, err := x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(p *curriculum.ProgramDetails) error {
		p.Tracks = []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 8}, {ID: "adults", Name: "Adults", From: 9}}
		return nil
	})
	require.NoError(t, err)
	kick, block := x.book().Named("Front kick"), x.book().Named("Low block")
	_, err = x.ChangeCurriculum(bg, me, x.program, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		c := x.copied(func(c *curriculum.Curriculum) {
			for i := range c.Requirements {
				if c.Requirements[i].TechniqueID == kick.ID {
					c.Requirements[i].Tracks = []curriculum.TrackChange{{TrackID: "cubs", Quantity: &curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}}}
				}
			}
		})
		return c, office.Changed.Named("what Cubs do"), nil
	})
	require.NoError(t, err)
	_, err = x.Publish(bg, me, x.program, "", false)
	require.NoError(t, err)
	small, hurt := x.standing(0), x.standing(1)
	_, err = x.SetTrack(bg, me, small.EnrolmentID, "cubs")
	require.NoError(t, err)
	_, err = x.AddAdaptation(bg, me, hurt.StudentID, x.program, curriculum.Adaptation{Does: curriculum.Change, TechniqueID: block.ID, Quantity: &curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 3}, Reason: "wrist"})
	require.NoError(t, err)

	g, table := x.begun()
	all, err := x.Candidates(bg, table.Grading.ID)
	require.NoError(t, err)
	names, groups := map[string]string{}, map[string]string{}
	for _, c := range all {
		names[c.ID], groups[c.Name] = c.Name, c.GroupID
	}
	assert.NotEqual(t, groups[small.Name], groups[hurt.Name], "tracks are called apart")
	full, err := x.Grading(bg, g)
	require.NoError(t, err)
	table, err = x.ScoringTable(bg, full.Examiners[0].ID, groups[hurt.Name])
	require.NoError(t, err)
	told := map[string]string{}
	for _, it := range table.Items {
		for candidate, own := range it.Own {
			told[it.Label+", "+names[candidate]] = words.OwnLines(own)
		}
	}
	require.Len(t, told, 1, "nothing else differs: %v", told)
	assert.Contains(t, told["Low block, "+hurt.Name], "adapted: 3 times instead of")
	assert.Contains(t, told["Low block, "+hurt.Name], "wrist")

	uses, err := x.SheetUses(bg, table.Grading.ID)
	require.NoError(t, err)
	require.Len(t, uses, len(all))
	for id, u := range uses {
		assert.Equal(t, 1, u.Version)
		assert.Equal(t, map[bool]string{true: "cubs", false: "adults"}[names[id] == small.Name], u.TrackID)
		assert.Equal(t, names[id] == hurt.Name, u.Own, "only an adapted sheet is one candidate's alone")
		assert.Positive(t, u.Seconds)
	}
}

// TestADraftThatWasPutBack is the version again: there is nothing to publish.
func TestADraftThatWasPutBack(t *testing.T) {
	x := newSchool(t)
	_, err := x.Publish(bg, me, x.program, "first", false)
	require.NoError(t, err)
	d, err := x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(p *curriculum.ProgramDetails) error {
		p.Counting = []string{"one"}
		return nil
	})
	require.NoError(t, err)
	_, changed, err := x.Versions(bg, x.program)
	require.NoError(t, err)
	assert.True(t, changed)
	x.undo(d, nil)
	_, changed, err = x.Versions(bg, x.program)
	require.NoError(t, err)
	assert.False(t, changed)
	_, err = x.Publish(bg, me, x.program, "again", false)
	refused(t, err, "The draft is the same as version 1")
}

// TestMovingBetweenVersions: some or all who climb by a version go on by another; nobody is
// moved by mistake, and the ladder keeps what a version refers to.
func TestMovingBetweenVersions(t *testing.T) {
	x := newSchool(t)
	first, err := x.Publish(bg, me, x.program, "first", false)
	require.NoError(t, err)
	_, err = x.ChangeProgram(bg, me, x.program, office.WordsChanged.Named("the program"), func(p *curriculum.ProgramDetails) error {
		p.Opening = []string{"bow"}
		return nil
	})
	require.NoError(t, err)
	second, err := x.Publish(bg, me, x.program, "second", false)
	require.NoError(t, err)
	numbers := func() (out []int) {
		for i := range 3 {
			c, err := x.ClimbsBy(bg, x.standing(i).EnrolmentID, today)
			require.NoError(t, err)
			out = append(out, c.Version)
		}
		return out
	}
	assert.Equal(t, []int{1, 1, 1}, numbers(), "publishing moves nobody")
	d, err := x.MoveToVersion(bg, me, second.ID, first.ID, []string{x.standing(1).EnrolmentID})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2, 1}, numbers())
	x.undo(d, nil)
	assert.Equal(t, []int{1, 1, 1}, numbers())
	_, err = x.MoveToVersion(bg, me, second.ID, first.ID, nil)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 2, 2}, numbers())
	_, err = x.MoveToVersion(bg, me, second.ID, first.ID, nil)
	refused(t, err, "Nobody climbs by that version")
	_, err = x.MoveToVersion(bg, me, "none", first.ID, nil)
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.VersionBook(bg, "none")
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.Publish(bg, me, "none", "", false)
	assert.ErrorIs(t, err, ErrNotFound)
	empty, err := x.SaveProgram(bg, me, curriculum.Program{Name: "Judgement"})
	require.NoError(t, err)
	_, err = x.Publish(bg, me, empty.ID, "", false)
	refused(t, err, "The ladder is empty")
	for _, v := range []string{first.ID, second.ID} {
		b, err := x.VersionBook(bg, v)
		require.NoError(t, err)
		assert.Equal(t, v == second.ID, len(b.Program.Opening) == 1, "a version never changes")
	}
}

// TestWaiversNeedARungAbove: and an enrolment that goes on.
func TestWaiversNeedARungAbove(t *testing.T) {
	x := newSchool(t)
	who := x.standing(0)
	top := x.rungs[len(x.rungs)-1]
	_, err := x.CorrectRank(bg, me, who.EnrolmentID, top, today, "moved here")
	require.NoError(t, err)
	_, err = x.Waive(bg, me, who.EnrolmentID, curriculum.MonthsSince, "so")
	refused(t, err, "stands on the highest rung")
	_, err = x.Waive(bg, me, "nobody", curriculum.MonthsSince, "so")
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.GiveWord(bg, me, x.standing(1).EnrolmentID, "A. Vane")
	require.NoError(t, err)
	_, err = x.GiveWord(bg, me, x.standing(1).EnrolmentID, "B. Weir")
	refused(t, err, "on record already")
	_, err = x.w.Exec(`UPDATE eligibility_event SET reason = 'x'`)
	assert.ErrorContains(t, err, "append-only")
	_, err = x.w.Exec(`DELETE FROM eligibility_event`)
	assert.ErrorContains(t, err, "append-only")
	all, err := x.WhoMayTest(bg, x.program, today)
	require.NoError(t, err)
	for _, c := range all {
		assert.NotEqual(t, who.EnrolmentID, c.EnrolmentID, "whoever stands at the top climbs no further")
	}
	// After a promotion the word was for another rung.
	_, err = x.CorrectRank(bg, me, x.standing(1).EnrolmentID, x.rungs[1], today, "moved here")
	require.NoError(t, err)
	c, err := x.ClimbingOf(bg, x.standing(1).EnrolmentID, today)
	require.NoError(t, err)
	assert.Empty(t, c.Given)
}
