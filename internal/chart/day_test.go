package chart

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
)

func TestDay(t *testing.T) {
	d := Day{DayRules: gradingday.UsualDay, Finish: 620, Bound: 610, Bands: []DayBand{{Name: `Mill "<floor>"`, Panel: "Castellane, Duvall, Moriarty"}, {Name: "Wheel room", Panel: "closed: nobody", Closed: true}}}
	d.PauseFrom, d.PauseTo = 590, 600
	orange := curriculum.Cloth{Weave: curriculum.Plain, Colour: "#d9772b"}
	d.Blocks = []DayBlock{{Group: "g1", Name: "Group 1", For: "Orange belt, Juniors", Label: `Group 1 "<x>"`, Cloth: orange, From: 555, To: 585, Pinned: true}, {Group: "g1", Name: "Group 1", Cloth: orange, From: 600, To: 608, Second: true}, {Group: "g2", Name: "Group 2", For: "Orange belt", Cloth: orange, Ring: 1, From: 555, To: 557, Wrong: true}}
	golden(t, "day", d.SVG())
	d.Blocks, d.Finish, d.Bound = nil, 0, 0
	golden(t, "day_empty", d.SVG())
	assert.Contains(t, d.SVG(), "No plan yet for 2 rings")
}

func TestLineUp(t *testing.T) {
	people := []gradingday.InLine{{Name: "Ada Rill", Rung: 4, HeightCM: 180}, {Name: `Bo "<b>"`, Rung: 2, HeightCM: 120}, {Name: "Cai", Rung: 1}, {Name: "Dov", Rung: 1, HeightCM: 150}}
	h := gradingday.Hall{WidthCM: 300, DepthCM: 500}
	cloth := curriculum.Cloth{Weave: curriculum.Plain, Colour: "#d9772b"}
	names := []string{"Ada Rill", `Bo "<b>"`, "Cai", "Dov"}
	golden(t, "lineup", LineUp(gradingday.MakeLineUp(people, h), h, names, []curriculum.Cloth{cloth, cloth, cloth, cloth}))
	golden(t, "lineup_empty", LineUp(gradingday.MakeLineUp(nil, h), h, nil, nil))
}
