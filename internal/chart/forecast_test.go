package chart

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// TestClimbWithAForecast draws classes as ticks, a long gap in words, stripes, and the fan.
func TestClimbWithAForecast(t *testing.T) {
	day := civil.MustParse
	c := Climb{Name: "Ada", Today: day("2026-11-24"), Steps: []ClimbStep{{On: day("2026-01-10"), Position: 0}, {On: day("2026-05-02"), Position: 1}}}
	for _, name := range []string{"White belt", "Yellow belt", "Green belt", "Blue belt"} {
		c.Rungs = append(c.Rungs, curriculum.Rung{Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})
	}
	for d := day("2026-01-12"); d.Before(c.Today); d = d.AddDays(4) {
		if d.Before(day("2026-07-01")) || day("2026-09-10").Before(d) {
			c.Came = append(c.Came, d)
		}
	}
	c.Stripes = []ClimbStripe{{On: day("2026-08-01"), Position: 1, Colour: "#b8322c", Words: "Kicks <stripe>"}}
	c.Fan = &ClimbFan{Position: 2, Early: day("2026-12-08"), Likely: day("2026-12-22"), Late: day("2027-02-16")}
	golden(t, "climb_forecast", c.SVG())
	assert.Contains(t, c.SVG(), "away 10 weeks")
	assert.Contains(t, c.SVG(), "likely 22 Dec")
	assert.Contains(t, c.Sentence(), "Green belt may be tested for: early Tue 8 Dec 2026, likely Tue 22 Dec 2026, late Tue 16 Feb 2027")
	c.Fan = &ClimbFan{Position: 2, Early: day("2027-06-01")}
	golden(t, "climb_not_in_sight", c.SVG())
	assert.Contains(t, c.SVG(), "not in sight")
	assert.Contains(t, c.SVG(), "late beyond what is foreseen")
}

func TestBar(t *testing.T) {
	for _, x := range []struct {
		done, of int
		holds    string
	}{{0, 0, `class="done" width="0"`}, {1, 3, `class="done" width="50"`}, {3, 3, `class="done" width="150"`}} {
		assert.Contains(t, Bar(x.done, x.of), x.holds)
	}
}

func TestCohortCurves(t *testing.T) {
	c := []progress.Cohort{
		{From: civil.MustParse("2025-01-01"), Points: []progress.CohortPoint{{Months: 0, Seen: 4}, {Months: 3, Climbed: 50, Seen: 4}, {Months: 6, Climbed: 125, Seen: 4}}},
		{From: civil.MustParse("2025-07-01"), Points: []progress.CohortPoint{{Months: 0, Seen: 2}, {Months: 3, Climbed: 120, Seen: 2}, {Months: 6, Climbed: 130, Seen: 2}}},
		{From: civil.MustParse("2026-01-01"), Points: []progress.CohortPoint{{Months: 0, Seen: 1}}},
	}
	svg := Cohorts(c)
	golden(t, "cohorts", svg)
	assert.Equal(t, 2, strings.Count(svg, `class="curve`), "a point is no curve yet")
	golden(t, "cohorts_none", Cohorts(nil))
}

// TestCalibration: dots by what was told and what came, larger where there were more.
func TestCalibration(t *testing.T) {
	golden(t, "calibration", Calibration([]progress.ChanceOf{{Told: 0.05, Came: 0, N: 10}, {Told: 0.5, Came: 0.4, N: 40}, {Told: 1, Came: 1, N: 20}}))
	golden(t, "calibration_none", Calibration(nil))
}
