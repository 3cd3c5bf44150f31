package office

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
)

func TestSettings(t *testing.T) {
	s := Settings{}
	s.Fill()
	assert.Equal(t, Usual, s)
	assert.Empty(t, s.Check(nil))
	assert.Equal(t, []string{"This certifies that", "Ada Rill", "has shown what is asked for", "Orange belt", "in Kenpo, at Mill on 12 December."},
		s.Words(map[string]string{"name": "Ada  Rill", "rank": "Orange belt", "program": "Kenpo", "place": "Mill", "date": "12 December"}))
	s.Wording = "{name}\n{grade}\n{rank}"
	assert.Equal(t, []string{"Ada", "Orange"}, s.Words(map[string]string{"name": "Ada", "rank": "Orange", "grade": ""}), "what comes out empty is left out")
	assert.Equal(t, "MMM", s.SealOf("Marrowby Mill Martial Arts"))
	assert.Equal(t, "", s.SealOf(""))
	s.Seal = "水車"
	assert.Equal(t, "水車", s.SealOf("x"))
	assert.Contains(t, s.Check(func(r rune) bool { return r < 128 }).Of("seal"), "“水” (character 1)")
	s = Usual
	s.SealColour = "plum"
	assert.Contains(t, s.Check(nil).Of("seal_colour"), "#rrggbb")
	for day, want := range map[string][2]string{"2026-11-26": {"2026-11-23", "2026-11-22"}, "2026-11-22": {"2026-11-16", "2026-11-22"}, "2026-11-23": {"2026-11-23", "2026-11-22"}, "2026-11-28": {"2026-11-23", "2026-11-22"}} {
		for i, sunday := range []bool{false, true} {
			assert.Equal(t, want[i], Settings{Sunday: sunday}.WeekOf(civil.MustParse(day)).String(), day)
		}
	}
}
