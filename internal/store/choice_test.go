package store

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestChoices: the newest choice stands, is taken back, and is of one climb and one line.
func TestChoices(t *testing.T) {
	x := newSchool(t)
	climb, other := x.standing(0).EnrolmentID, x.standing(1).EnrolmentID
	techniques, err := x.Techniques(bg, x.program, "", "")
	require.NoError(t, err)
	technique := techniques[0].ID
	chosen := func() map[string]map[string][]string {
		out, err := x.Choices(bg, climb, other)
		require.NoError(t, err)
		return out
	}
	assert.Empty(t, chosen())
	_, err = x.Choose(bg, me, climb, technique, []string{"lead jab"})
	require.NoError(t, err)
	_, err = x.Choose(bg, me, climb, technique, []string{"rear cross", "lead jab"})
	require.NoError(t, err)
	assert.Equal(t, map[string]map[string][]string{climb: {technique: {"rear cross", "lead jab"}}}, chosen())
	_, err = x.Choose(bg, me, other, technique, []string{"round kick"})
	require.NoError(t, err)
	assert.Equal(t, []string{"round kick"}, chosen()[other][technique])
	one, err := x.Choices(bg, other)
	require.NoError(t, err)
	assert.Len(t, one, 1)
	_, err = x.Choose(bg, me, climb, technique, nil)
	require.NoError(t, err)
	assert.Empty(t, chosen()[climb][technique])
	_, err = x.Choose(bg, me, climb, "no technique", []string{"a"})
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.Choose(bg, me, climb, technique, make([]string, maxChosen+1))
	problem(t, err, "lines", "up to 20 fit")
	_, err = x.Choose(bg, me, climb, technique, []string{strings.Repeat("x", 400)})
	problem(t, err, "lines", "up to 300 fit")

	var out bytes.Buffer
	require.NoError(t, x.ExportPerson(bg, x.people[1], &out))
	assert.Contains(t, out.String(), "round kick")
	_, err = x.ErasePerson(bg, me, x.people[1], x.standing(1).Name)
	require.NoError(t, err)
	assert.Empty(t, chosen()[other][technique])
}

// TestAgainAndFaultsOfTheLine: an examiner asks for a line again, for one candidate alone: it is listed like one nobody
// saw, keeps the sheet from being signed, and both marks stay on record. Faults of the line go with the mark.
func TestAgainAndFaultsOfTheLine(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	for who := range table.Candidates {
		for i := range table.Items {
			require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{table.mark(who, i, 3)}))
		}
	}
	group := func() gradingday.GroupState {
		h, err := x.Head(bg, table.Grading.ID)
		require.NoError(t, err)
		return h.Groups[slices.IndexFunc(h.Groups, func(g gradingday.GroupState) bool { return g.GroupID == table.GroupID })]
	}
	before := group()
	require.Empty(t, before.Unseen)
	now, err := x.ScoringTable(bg, table.Examiner.ID, table.GroupID)
	require.NoError(t, err)
	first := now.Marks[0]
	m := first
	m.ID, m.Supersedes, m.Again, m.Faults = NewID(), first.ID, gradingday.AgainFollowed, "heel down\nlooks away"
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	asked := group()
	require.Len(t, asked.Unseen, 1)
	assert.Equal(t, []any{table.Examiner.Name, gradingday.AgainFollowed, gradingday.CallAgain}, []any{asked.Unseen[0].By, asked.Unseen[0].Why, asked.Stage})
	for _, fill := range []bool{false, true} {
		_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, fill)
		refused(t, err, "asked for again")
	}
	settled := m
	settled.ID, settled.Supersedes, settled.Again, settled.Value = NewID(), m.ID, "", scoring.Whole(1)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{settled}))
	assert.Empty(t, group().Unseen)
	_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
	require.NoError(t, err)
	now, err = x.ScoringTable(bg, table.Examiner.ID, table.GroupID)
	require.NoError(t, err)
	stands := now.Marks[slices.IndexFunc(now.Marks, func(y gradingday.Mark) bool { return y.ID == settled.ID })]
	assert.Equal(t, settled, stands)
	stored, err := x.EntriesStored(bg, []string{first.ID, m.ID, settled.ID, NewID()})
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{first.ID, m.ID, settled.ID}, stored, "every entry stays")
	bad := settled
	bad.ID, bad.Supersedes, bad.Again = NewID(), settled.ID, "because"
	problem(t, x.RecordMarks(bg, me, []gradingday.Mark{bad}), "again", "")
	bad.Again, bad.Kind = gradingday.AgainDoubt, gradingday.MarkOpen
	problem(t, x.RecordMarks(bg, me, []gradingday.Mark{bad}), "again", "it is called anyway")
}

// TestTicked: what was ticked goes with the mark, and is part of what makes two entries the same.
func TestTicked(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	m := table.mark(0, 0, 3)
	m.Ticked = "lead jab\nround kick"
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}), "once more is no error")
	again := m
	again.Ticked = "lead jab"
	assert.ErrorIs(t, x.RecordMarks(bg, me, []gradingday.Mark{again}), ErrConflict)
	again.ID, again.Supersedes = NewID(), m.ID
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{again}))
	now, err := x.ScoringTable(bg, table.Examiner.ID, table.GroupID)
	require.NoError(t, err)
	require.Len(t, now.Marks, 1)
	assert.Equal(t, "lead jab", now.Marks[0].Ticked)
	deeds, _, err := x.Deeds(bg, TrailQuery{Grading: table.Grading.ID, Limit: 50})
	require.NoError(t, err)
	assert.NotContains(t, saidOf(deeds[0]), "lead jab", "sealed until all have signed")
	again.ID, again.Supersedes, again.Ticked = NewID(), again.ID, strings.Repeat("x\n", gradingday.MaxTicked)
	problem(t, x.RecordMarks(bg, me, []gradingday.Mark{again}), "ticked", "up to 40 things")
	again.Ticked = strings.TrimSuffix(again.Ticked, "\n")
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{again}))
	x.markRest(now)
	deeds, _, err = x.Deeds(bg, TrailQuery{Grading: table.Grading.ID, Match: saying("lead jab"), Limit: 50})
	require.NoError(t, err)
	require.Len(t, deeds, 2)
	assert.Contains(t, saidOf(deeds[0])+saidOf(deeds[1]), "seen: lead jab; round kick")
}

// markRest says of all that is left that it was not seen, and signs.
func (x *school) markRest(t Table) {
	_, err := x.Sign(bg, me, t.Examiner.ID, t.GroupID, true)
	require.NoError(x.t, err)
}
