package webtest

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/demo"
	"velvetladder/internal/store"
)

// Marrowby is the demo school on the day of every test, worked out once. Nobody changes it.
var Marrowby = sync.OnceValue(func() demo.School { return demo.At(civil.On(Clock())) })

// Mill is the application with the demo's curricula, without people.
func Mill(t *testing.T) (*House, []demo.Program) {
	h := HouseOf(t, &Milled)
	programs := Marrowby().Programs
	h.Program = programs[0].Program.ID
	return h, programs
}

// Milled is a school with the demo's curricula.
var Milled = furnished{fill: func(t testing.TB, s *store.Store) {
	for _, p := range Marrowby().Programs {
		_, err := s.SaveCurriculum(Ctx, Me, p.Curriculum)
		require.NoError(t, err)
	}
}}
