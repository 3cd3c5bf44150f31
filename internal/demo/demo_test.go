package demo

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
	"velvetladder/internal/words"
)

func TestTheSchoolIsSoundAndDeterministic(t *testing.T) {
	golden.Alone(t)
	today := civil.MustParse("2026-11-24")
	school := At(today)
	assert.Equal(t, school, At(today))
	kinds := map[curriculum.Kind]int{}
	for _, p := range school.Programs {
		require.Empty(t, p.Curriculum.Validate(), p.Program.Name)
		b := curriculum.Open(p.Curriculum)
		for _, x := range p.Techniques {
			kinds[x.Kind]++
			if x.Kind == "combination" || x.Kind == "form" {
				for _, s := range x.StepsAt(len(x.Stages)) {
					_, err := b.Read(s.Moves)
					assert.NoError(t, err, x.Name)
				}
			}
		}
		for _, s := range p.Students {
			assert.Empty(t, s.Check(today), s.Name)
			assert.NotNil(t, b.RungNamed(s.Start), s.Name)
			if s.BirthDate.Age(today) < 18 {
				assert.NotEmpty(t, s.Guardian, s.Name)
			}
		}
		for _, g := range p.Gradings {
			for _, r := range g.Rungs {
				assert.NotNil(t, b.RungNamed(r), r)
			}
			for _, s := range p.Students {
				m, seen := p.Mark(s.Name, "Dorothea Duvall", "Front kick", false, g.On, g.Policy.Scale)
				assert.True(t, !seen || g.Policy.Scale.Holds(m))
			}
		}
	}
	all := 0
	for _, n := range kinds {
		all += n
	}
	assert.GreaterOrEqual(t, all, 150, kinds)
	assert.GreaterOrEqual(t, kinds["combination"], 40)
	assert.GreaterOrEqual(t, kinds["self_defence"], 30)
	assert.GreaterOrEqual(t, kinds["form"], 8)
	p := school.Programs[0]
	strong, _ := p.Mark("Sunniva Aldous", "Marek Moriarty", "Front kick", false, today, scoring.MovementScale().Scale)
	weak, _ := p.Mark("Malachi Brandt", "Marek Moriarty", "Front kick", false, today, scoring.MovementScale().Scale)
	assert.Greater(t, strong, weak)
}

func firstOf(s, _ string) string { return s }

// TestTwoHolesAreLeft: the ladders pass the check but for the two holes that are planted.
func TestTwoHolesAreLeft(t *testing.T) {
	golden.Alone(t)
	var found []string
	for _, p := range At(civil.MustParse("2026-11-24")).Programs {
		for _, f := range curriculum.Open(p.Curriculum).Check() {
			found = append(found, fmt.Sprintf("%s: %s: %s: %s", p.Program.Name, f.Kind, words.Where(f.Where), firstOf(words.Finding(f))))
		}
	}
	assert.Equal(t, []string{"Kenpo: number_missing: Combination: There is no number 13, but there is a 16.", "Kenpo: attack_unanswered: rear choke: No rung asks for an answer to it from the one attacked."}, found)
}

// TestTheWeek: whatever the day, a class is held on it, and every class checks out.
func TestTheWeek(t *testing.T) {
	for d := civil.MustParse("2026-11-24"); d.Before(civil.MustParse("2027-12-01")); d = d.AddDays(1) {
		table := timetable.Table{Closures: Holidays(d)}
		for _, c := range Week(d.AddMonths(-30)) {
			require.Empty(t, c.Check())
			table.Classes = append(table.Classes, c.Class)
		}
		open := 0
		for _, s := range table.On(d) {
			if !s.Off {
				open++
			}
		}
		require.Positive(t, open, d)
		for _, c := range table.Closures {
			require.Empty(t, c.Check())
		}
	}
}
