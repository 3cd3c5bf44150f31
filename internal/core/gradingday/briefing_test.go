package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

func TestBrief(t *testing.T) {
	line := func(call, section string, reps int, cautions ...string) curriculum.Line {
		return curriculum.Line{Call: call, Section: section, Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: reps}, Looks: 4, Cautions: cautions}
	}
	item := func(must, bonus bool, lines ...curriculum.Line) GroupItem {
		return GroupItem{Item: Item{Item: scoring.Item{Label: lines[0].Call, MustPass: must, Bonus: bonus}, Lines: lines}}
	}
	g := Grading{On: civil.MustParse("2026-12-05"), RetestDays: 28, Rings: []Ring{{}, {}}, Examiners: []Examiner{{}, {}, {}, {Ring: 1}}, RetestScope: scoring.ScopeItems, Policy: scoring.MovementScale()}
	yellow := []GroupItem{item(true, false, line("Jab", "Strikes", 5)), item(false, false, line("Cross", "Strikes", 5)), item(false, true, line("Front kick", "Kicks", 3))}
	b := Brief(g, []BriefGroup{{"Yellow", 1, yellow[:1]}, {"Orange", 1, []GroupItem{item(false, false, line("Fall", "Falls", 2, "mats"))}}, {"Yellow", 3, yellow}})
	assert.Equal(t, []any{3, "2027-01-02", true}, []any{b.Panel, b.Retest.String(), b.Cautions})
	require.Len(t, b.Sheets, 2, "a page for each thing that is tested for")
	y := b.Sheets[0]
	assert.Equal(t, []any{"Yellow", []string{"Jab"}, []string{"Front kick"}}, []any{y.For, y.Must, y.Bonus}, "of the largest group")
	require.Len(t, y.Sections, 2)
	assert.Equal(t, []BriefLines{{Names: []string{"Jab", "Cross"}, Asked: yellow[0].Lines[0].Quantity, Called: yellow[0].Lines[0].CalledMore(3)}}, y.Sections[0].Lines, "what is called equally often stands together")
	assert.Len(t, b.About("Orange").Sheets, 1)
	assert.Empty(t, b.About("Green").Sheets)
	assert.Len(t, b.About("").Sheets, 2)
	assert.Len(t, b.Sheets, 2)
	none := Brief(g, []BriefGroup{{"Yellow", 1, yellow[:2]}})
	assert.False(t, none.Cautions)
}

func TestLacking(t *testing.T) {
	assert.Equal(t, []string{"Shin guards"}, Lacking([]string{"Gloves", "Shin guards"}, []string{" gloves "}))
	assert.Empty(t, Lacking(nil, []string{"gloves"}))
	assert.Equal(t, []string{"Gloves"}, Lacking([]string{"Gloves"}, nil))
}
