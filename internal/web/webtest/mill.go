package webtest

import (
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/demo"
	"velvetladder/internal/store"
)

// Mill is the application with the demo's curricula, without people.
func Mill(t *testing.T) (*House, []demo.Program) {
	h := HouseOf(t, &Milled)
	school := demo.At(h.Store.Today())
	h.Program = school.Programs[0].Program.ID
	return h, school.Programs
}

// Milled is a school with the demo's curricula.
var Milled = furnished{fill: func(t testing.TB, s *store.Store) {
	for _, p := range demo.At(s.Today()).Programs {
		_, err := s.SaveCurriculum(Ctx, Me, p.Curriculum)
		require.NoError(t, err)
	}
}}
