package store

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// TestExaminersBesideEachOther: seven candidates before three examiners of whom one gives a step less: seen only once
// all have signed, as much as it is, anew after every change, and tried on the results.
func TestExaminersBesideEachOther(t *testing.T) {
	x := newSchool(t)
	for i := range 4 {
		d, err := x.SaveStudent(bg, me, progress.Student{Name: fmt.Sprint("Student ", i), Stance: progress.Orthodox})
		require.NoError(t, err)
		_, err = x.Enrol(bg, me, d.ID, x.rungs[0], today.AddDays(-200))
		require.NoError(t, err)
	}
	g := x.plan()
	g.GroupSize = 1
	threshold := scoring.Whole(9)
	g.Policy.Rules.Threshold, g.Policy.Panel = &threshold, scoring.Mean
	g.Examiners = []gradingday.Examiner{{Name: "Cora Vane", Chief: true}, {Name: "Ed Weir"}, {Name: "Fay Rush"}}
	d, err := x.SaveGrading(bg, me, g)
	require.NoError(t, err)
	x.enterAll(d.ID)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(t, err)
	since := today.AddMonths(-12)
	marked := 0
	for _, tables := range x.tables(d.ID) {
		for k, table := range tables {
			x.marksOf([]Table{table}, []int{3, 3, 2}[k])
			if marked == 0 && k == 1 {
				all, err := x.MarkedBeside(bg, x.program, since)
				require.NoError(t, err)
				assert.Empty(t, all, "sealed until all have signed")
			}
		}
		marked++
	}
	all, err := x.MarkedBeside(bg, x.program, since)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Len(t, all[0].Units, 21)
	assert.Len(t, all[0].Candidates, 7)
	assert.Equal(t, []string{"Cora Vane", "Ed Weir", "Fay Rush"}, Examiners(all))
	severities, err := x.Severities(bg, x.program, g.Policy.Scale)
	require.NoError(t, err)
	require.Len(t, severities, 3)
	assert.Equal(t, []any{"Fay Rush", 21, 7, true, -100}, []any{severities[2].Examiner, severities[2].Marks, severities[2].Candidates, severities[2].Sure(), severities[2].Hundredths()})
	shift := AlikeShift(severities, g.Policy.Scale)
	assert.Equal(t, map[string]scoring.Decimal{"Cora Vane": -scoring.Whole(1) / 2, "Ed Weir": -scoring.Whole(1) / 2, "Fay Rush": scoring.Whole(1)}, shift)
	other := g.Policy.Scale
	other.Highest = scoring.Whole(9)
	none, err := x.Severities(bg, x.program, other)
	require.NoError(t, err)
	assert.Empty(t, none, "marks of another scale are other steps")

	// The mean of 9, 9 and 6 of 12 misses the threshold of 9 by one point; of 7½, 7½ and 9 too.
	changes, err := x.AlikeChanges(bg, x.program, g.Policy.Scale)
	require.NoError(t, err)
	assert.Equal(t, AlikeCount{Results: 7, Retests: 7}, changes)
	_, rows, err := x.Review(bg, d.ID)
	require.NoError(t, err)
	alike, err := g.Policy.Decide(rows[0].Test.Alike(map[string]scoring.Decimal{"Fay Rush": scoring.Whole(1)}))
	require.NoError(t, err)
	assert.True(t, alike.Outcome.Promotes(), "three times 9 of 12 meets it")

	// A sheet that is opened again is sealed again, and what is marked anew is looked at anew.
	table := x.tables(d.ID)["Ada Rill"][2]
	_, err = x.Reopen(bg, me, table.Examiner.ID, table.GroupID, "swapped")
	require.NoError(t, err)
	all, err = x.MarkedBeside(bg, x.program, since)
	require.NoError(t, err)
	assert.Len(t, all[0].Units, 18)
	m := table.mark(0, 0, 3)
	for _, old := range table.Marks {
		if old.ItemID == m.ItemID {
			m.Supersedes = old.ID
		}
	}
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
	require.NoError(t, err)
	severities, err = x.Severities(bg, x.program, g.Policy.Scale)
	require.NoError(t, err)
	assert.InDelta(t, -(6+2.0/3)/7, severities[2].Mean, 1e-9)
	early, err := x.MarkedBeside(bg, x.program, today.AddDays(1))
	require.NoError(t, err)
	assert.Empty(t, early, "nothing was marked since tomorrow")
}
