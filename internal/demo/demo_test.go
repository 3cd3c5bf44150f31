package demo

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

func TestTheSchoolIsSoundAndDeterministic(t *testing.T) {
	today := civil.MustParse("2026-11-24")
	school := At(today)
	assert.Equal(t, school, At(today))
	for _, p := range school.Programs {
		names := map[string]bool{}
		for _, x := range p.Techniques {
			assert.Empty(t, x.Check(), x.Name)
			assert.False(t, names[x.Name], x.Name)
			names[x.Name] = true
		}
		rungs := map[string]bool{}
		for _, r := range p.Rungs {
			assert.Empty(t, r.Check(), r.Name)
			rungs[r.Name] = true
			for _, a := range r.Asks {
				assert.True(t, names[a.Technique], "%s asks for %s, which is no technique", r.Name, a.Technique)
				assert.Contains(t, curriculum.DefaultSections, a.Section)
			}
		}
		for _, s := range p.Students {
			assert.Empty(t, s.Check(today), s.Name)
			assert.True(t, rungs[s.Start], s.Name)
			if s.BirthDate.Age(today) < 18 {
				assert.NotEmpty(t, s.Guardian, s.Name)
			}
		}
		for _, g := range p.Gradings {
			for _, r := range g.Rungs {
				assert.True(t, rungs[r], r)
			}
			for _, s := range p.Students {
				m, seen := p.Mark(s.Name, "Dorothea Duvall", "Front kick", false, g.On, g.Policy.Scale)
				assert.True(t, !seen || g.Policy.Scale.Holds(m))
			}
		}
	}
	p := school.Programs[0]
	strong, _ := p.Mark("Sunniva Aldous", "Marek Moriarty", "Front kick", false, today, scoring.MovementScale().Scale)
	weak, _ := p.Mark("Malachi Brandt", "Marek Moriarty", "Front kick", false, today, scoring.MovementScale().Scale)
	assert.Greater(t, strong, weak)
}
