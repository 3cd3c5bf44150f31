package notation

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// told is a footing in one line: its turn, travel, the foot that is placed, the stance, and who leads then.
func (x Footing) told() string {
	var out []string
	add := func(yes bool, format string, args ...any) {
		if yes {
			out = append(out, fmt.Sprintf(format, args...))
		}
	}
	add(x.Turned != 0, "turns %d", x.Turned)
	add(x.Only, "only")
	add(x.Travel != "", "%s", x.Travel)
	add(x.Way != "", "to the %s", x.Way)
	add(x.Begins != "", "begins %s", x.Begins)
	add(x.Places != "", "places %s", x.Places)
	add(x.Stance.Name != "", "in %s", x.Stance.Name)
	add(x.Out != 0, "out %d", x.Out)
	switch {
	case x.Nobody:
		out = append(out, "level")
	case x.LeftLeads:
		out = append(out, "L")
	default:
		out = append(out, "R")
	}
	return strings.Join(out, " ")
}

// TestFooting: what the feet do in each move, whatever its words, for whoever draws them.
func TestFooting(t *testing.T) {
	c, err := NewCatalogue([]Entry{{ID: "jab", Name: "jab"}, {ID: "front", Name: "front stance", Stands: OneLeads}, {ID: "ready", Name: "ready stance", Stands: SideBySide}, {ID: "ox", Name: "ox step", Own: []string{"step through, slide"}}})
	require.NoError(t, err)
	for line, want := range map[string]string{
		"lead jab":                                      "",
		"step":                                          "step L",
		"left step":                                     "step begins left L",               // it leads already: both move
		"right step":                                    "step begins right places right R", // it becomes the lead
		"left step back":                                "step back begins left places left R",
		"right step back":                               "step back begins right L",
		"step through lead jab":                         "step through places right R",
		"x2 step through lead jab":                      "step through places right R | step through places left L",
		"left step turn cw 90":                          "turns 90 only L; step begins left places left L",
		"turn cw 90":                                    "turns 90 L",
		"turn cw 180":                                   "turns 180 R",
		"turn cw 90 turn cw 90":                         "turns 180 R",
		"step turn ccw 180":                             "turns -180 R; step R",
		"step in right front stance":                    "step places right in front stance R",
		"step in left front stance":                     "step L; in front stance L", // it leads already
		"step back in right front stance":               "step back places left in front stance R",
		"step through in right front stance":            "step through places right in front stance R",
		"turn ccw 90 in right front stance":             "turns -90 only L; places right in front stance R",
		"in right front stance":                         "in front stance R",
		"front stance":                                  "in front stance L",
		"in ready stance":                               "in ready stance L",
		"from ready stance: step":                       "step places left L",
		"from ready stance: step back":                  "step back places right L",
		"from ready stance: step through":               "step through places left L",
		"from ready stance: turn cw 90":                 "turns 90 level",
		"from ready stance: in right front stance":      "places right in front stance R",
		"from ready stance: step in right front stance": "step places right in front stance R",
		"switch":                      "switch R",
		"switch in front stance":      "switch in front stance R",
		"circle to the left":          "circle to the left L",
		"right side step":             "side step begins right L",
		"slide angle out 45":          "slide out 45 L",
		"left step back angle out 30": "step back begins left places left out 30 R",
		"jump turn cw 90":             "turns 90 L; jump L",
		"ox step":                     "step through places right R; slide R",
		"slide ox step":               "slide L; step through places right R; slide R",
	} {
		seq, err := c.Parse(line)
		require.NoError(t, err, line)
		var times []string
		for _, s := range c.Floor(seq, false, false) {
			require.Len(t, s.Footing, len(s.Limbs), line)
			for _, each := range s.Footing {
				var told []string
				for _, x := range each {
					told = append(told, x.told())
				}
				times = append(times, strings.Join(told, "; "))
			}
		}
		assert.Equal(t, want, strings.Join(times, " | "), line)
		steps, _ := c.Walk(seq, false)
		assert.Nil(t, steps[0].Footing, "only Floor tells it")
	}
	placed := func(line string) (out []bool) {
		seq, err := c.Parse(line)
		require.NoError(t, err)
		for _, s := range c.Floor(seq, false, false) {
			out = append(out, s.Placed)
		}
		return out
	}
	assert.Equal(t, []bool{true, false, false, true}, placed("lead jab, turn cw 90, slide, step through"))
	assert.Equal(t, []bool{false, true}, placed("turn cw 90, turn cw 90"))
	assert.Equal(t, []bool{false, true}, placed("from ready stance: left jab, step"), "nobody leads, so nobody is placed")
}

// TestNamedMoves: when the move of an attack comes that a phrase names; what is done at one time has one number, each time of a
// repeat its own.
func TestNamedMoves(t *testing.T) {
	c, err := NewCatalogue([]Entry{{ID: "jab", Name: "jab"}, {ID: "cross", Name: "cross"}, {ID: "hook", Name: "hook"}})
	require.NoError(t, err)
	seq, err := c.Parse("slide, lead jab + rear hook, x2 step through lead cross / double lead jab, rear hook")
	require.NoError(t, err)
	moves := c.Attack(seq, false)
	for said, want := range map[string]int{"the hook": 6, "first hook": 2, "the jab": 5, "first jab": 2, "the cross": 4, "first cross": 3, "the kick": 0, "": 0} {
		assert.Equal(t, want, Named(moves, said), said)
	}
}
