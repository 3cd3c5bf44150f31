package progress

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
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

// TestStudentBounds: the least and the most of each figure, and one beyond.
func TestStudentBounds(t *testing.T) {
	today := civil.MustParse("2026-11-24")
	wrong := func(field string, change func(*Student)) bool {
		s := Student{Name: "Ada"}
		change(&s)
		p := s.Check(today)
		for _, x := range p {
			assert.Equal(t, field, x.Field)
		}
		return len(p) > 0
	}
	for field, x := range map[string]struct {
		set         func(*Student, int)
		least, most int
	}{
		"height_cm": {func(s *Student, n int) { s.HeightCM = n }, 40, 260}, "weight_kg": {func(s *Student, n int) { s.WeightKG = n }, 8, 250}, "waist_cm": {func(s *Student, n int) { s.WaistCM = n }, 30, 200},
		"shoulder_cm": {func(s *Student, n int) { s.ShoulderMM = n }, 150, 700}, "leg_cm": {func(s *Student, n int) { s.LegMM = n }, 200, 1500}, "foot_cm": {func(s *Student, n int) { s.FootMM = n }, 80, 400}, // millimetres
	} {
		for n, bad := range map[int]bool{-1: true, 0: false, 1: true, x.least - 1: true, x.least: false, x.most: false, x.most + 1: true} {
			assert.Equal(t, bad, wrong(field, func(s *Student) { x.set(s, n) }), "%s %d", field, n)
		}
	}
	for field, want := range map[string]string{"shoulder_cm": "is 1.2 cm; it must be from 15 to 70, or empty", "leg_cm": "is 1.2 cm; it must be from 20 to 150, or empty", "foot_cm": "is 1.2 cm; it must be from 8 to 40, or empty"} {
		s := Student{Name: "Ada", ShoulderMM: 12}
		if field != "shoulder_cm" {
			s.ShoulderMM, s.LegMM, s.FootMM = 0, map[bool]int{true: 12}[field == "leg_cm"], map[bool]int{true: 12}[field == "foot_cm"]
		}
		assert.Equal(t, want, s.Check(today).Of(field), field)
	}
	for field, x := range map[string]struct {
		set  func(*Student, string)
		most int
	}{
		"belt_size": {func(s *Student, v string) { s.BeltSize = v }, 20}, "uniform_size": {func(s *Student, v string) { s.UniformSize = v }, 20},
		"guardian": {func(s *Student, v string) { s.Guardian = v }, check.NameLength}, "contact": {func(s *Student, v string) { s.Contact = v }, check.LineLength}, "name": {func(s *Student, v string) { s.Name = v }, check.NameLength},
	} {
		assert.False(t, wrong(field, func(s *Student) { x.set(s, strings.Repeat("a", x.most)) }), field)
		assert.True(t, wrong(field, func(s *Student) { x.set(s, strings.Repeat("a", x.most+1)) }), field)
	}
	born := func(d civil.Date) bool { return wrong("birth_date", func(s *Student) { s.BirthDate = d }) }
	assert.Equal(t, []bool{false, true}, []bool{born(today.AddMonths(-12 * 110)), born(today.AddMonths(-12 * 111))}, "110 years, and 111")
	joined := func(born, joined civil.Date) bool {
		return wrong("joined_on", func(s *Student) { s.BirthDate, s.JoinedOn = born, joined })
	}
	assert.Equal(t, []bool{false, true, false, false}, []bool{joined(today, today), joined(today, today.AddDays(-1)), joined(civil.Date{}, today), joined(today, civil.Date{})})
}

// TestWhatADrawingGuesses: a height or all three parts say enough, but a child's parts follow from no height.
func TestWhatADrawingGuesses(t *testing.T) {
	today := civil.MustParse("2026-11-24")
	child, grownUp := civil.MustParse("2012-11-25"), civil.MustParse("2012-11-24")
	for s, want := range map[Student]Estimate{
		{}: NoHeight, {ShoulderMM: 300, LegMM: 700}: NoHeight, {LegMM: 700, FootMM: 220}: NoHeight, {ShoulderMM: 300, FootMM: 220}: NoHeight, {ShoulderMM: 300, LegMM: 700, FootMM: 220}: "", {HeightCM: 150}: "",
		{HeightCM: 150, BirthDate: child}: ChildParts, {HeightCM: 150, BirthDate: grownUp}: "", {HeightCM: 150, BirthDate: child, ShoulderMM: 300, LegMM: 700, FootMM: 220}: "", {HeightCM: 150, BirthDate: child, LegMM: 700, FootMM: 220}: ChildParts, {BirthDate: child}: NoHeight,
	} {
		assert.Equal(t, want, s.Estimated(today), "%+v", s)
	}
}
