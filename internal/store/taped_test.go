package store

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/progress"
)

// TestTaped: what a tape said goes on record, is taken back by an entry of its own, and the parts of a body are kept.
func TestTaped(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "taped.db"))
	ctx, by := t.Context(), By{Actor: "tester"}
	id := func(d Done, err error) string {
		t.Helper()
		require.NoError(t, err)
		return d.ID
	}
	program := id(s.SaveProgram(ctx, by, curriculum.Program{Name: "P"}))
	stance := id(s.SaveTechnique(ctx, by, curriculum.Technique{ProgramID: program, Name: "Front stance", Kind: "stance"}))
	other := id(s.SaveTechnique(ctx, by, curriculum.Technique{ProgramID: program, Name: "Back stance", Kind: "stance"}))
	student := id(s.SaveStudent(ctx, by, progress.Student{Name: "Teodor", HeightCM: 142, ShoulderMM: 335, LegMM: 715, FootMM: 220}))
	x, err := s.Student(ctx, student)
	require.NoError(t, err)
	assert.Equal(t, []int{335, 715, 220}, []int{x.ShoulderMM, x.LegMM, x.FootMM})
	assert.InDelta(t, 335, x.Body().Shoulder, 1e-9)
	held := floor.Usual["front"].Hold(floor.Taped{Width: 290, Length: floor.Nothing, OutLead: floor.Nothing, OutRear: 12}, x.Body())
	first := id(s.RecordTaped(ctx, by, Taped{StudentID: student, TechniqueID: stance, Held: held, Fault: "feet on one line"}))
	id(s.RecordTaped(ctx, by, Taped{StudentID: student, TechniqueID: other, Held: held[:1]}))
	all, err := s.TapedOf(ctx, student, "")
	require.NoError(t, err)
	require.Len(t, all, 2)
	assert.Equal(t, "Back stance", all[0].Technique, "the newest first")
	own, err := s.TapedOf(ctx, student, stance)
	require.NoError(t, err)
	require.Len(t, own, 1)
	assert.Equal(t, Taped{ID: first, StudentID: student, TechniqueID: stance, Technique: "Front stance", On: s.Today(), Held: held, Fault: "feet on one line", Actor: by.Actor}, own[0])
	_, err = s.WithdrawTaped(ctx, by, first)
	require.NoError(t, err)
	own, err = s.TapedOf(ctx, student, stance)
	require.NoError(t, err)
	assert.Empty(t, own)
	_, err = s.WithdrawTaped(ctx, by, first)
	assert.ErrorIs(t, err, ErrNotFound, "once")
	// Nothing measured, nobody, and a line too long.
	var problems check.Problems
	_, err = s.RecordTaped(ctx, by, Taped{StudentID: student, TechniqueID: stance})
	require.ErrorAs(t, err, &problems)
	_, err = s.RecordTaped(ctx, by, Taped{StudentID: "nobody", TechniqueID: stance, Held: held})
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = s.RecordTaped(ctx, by, Taped{StudentID: student, TechniqueID: "none", Held: held})
	assert.ErrorIs(t, err, ErrNotFound)
	// Bodies that are none are refused.
	for field, y := range map[string]progress.Student{"shoulder_cm": {Name: "X", ShoulderMM: 149}, "leg_cm": {Name: "X", LegMM: 1501}, "foot_cm": {Name: "X", FootMM: 79}} {
		_, err := s.SaveStudent(ctx, by, y)
		require.ErrorAs(t, err, &problems)
		assert.NotEmpty(t, problems.Of(field), "%s: %v", field, problems)
	}
}
