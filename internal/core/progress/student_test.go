package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
)

func TestStudentCheck(t *testing.T) {
	today := civil.MustParse("2026-11-24")
	assert.Empty(t, Student{Name: "Ada"}.Check(today), "everything but the name may be unknown")
	for field, s := range map[string]Student{
		"name":       {Stance: Southpaw},
		"stance":     {Name: "Ada", Stance: "sideways"},
		"birth_date": {Name: "Ada", Stance: Orthodox, BirthDate: today.AddDays(1)},
		"height_cm":  {Name: "Ada", Stance: Orthodox, HeightCM: 12},
		"joined_on":  {Name: "Ada", Stance: Orthodox, BirthDate: today.AddDays(-10), JoinedOn: today.AddDays(-11)},
	} {
		assert.NotEmpty(t, s.Check(today).Of(field), field)
	}
	assert.Contains(t, Student{Name: "Ada", Stance: Orthodox, BirthDate: civil.MustParse("1901-01-01")}.Check(today).Of("birth_date"), "an age of 125")
	assert.Empty(t, Student{Name: "Ada", Stance: Orthodox, BirthDate: today}.Check(today).Of("birth_date"))
}
