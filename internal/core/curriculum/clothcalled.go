package curriculum

import (
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/pattern"
)

// The cloth that a rung's name tells.

// WhiteCloth is the cloth of a rung until its name or the school says another.
var WhiteCloth = Cloth{Weave: Plain, Colour: clothColours["white"]}

// clothColours are the colours of belts, as cloth is dyed.
var clothColours = map[string]string{
	"white": "#f5f1e8", "yellow": "#efc231", "gold": "#d9a520", "orange": "#df7b2b", "green": "#2e7d4f", "blue": "#27548f", "purple": "#5d3a78",
	"violet": "#5d3a78", "brown": "#6b4423", "red": "#b8322c", "black": "#1b1a1c", "grey": "#8a8d91", "gray": "#8a8d91", "silver": "#b9bec4", "pink": "#dd8fa6",
}

const aColour = `(white|yellow|gold|orange|green|blue|purple|violet|brown|red|black|gr[ae]y|silver|pink)`

var (
	clothTold = pattern.Of(`(?i)\b` + aColour + `\b`)
	// clothHalves are two colours of one belt: red/black, blue and white.
	clothHalves = pattern.Of(`(?i)\b` + aColour + `(?: ?[/&+-] ?| and )` + aColour + `\b`)
	// clothCore is a line of another colour all along.
	clothCore = pattern.Of(`(?i)\b` + aColour + ` (?:core|centre|center|middle)\b`)
	// clothMarks are what is sewn on: two green stripes, a black tip.
	clothMarks = pattern.Of(`(?i)(?:\b(\d{1,2}|one|two|three|four|five|six) )?\b` + aColour + ` (?:stripe|tip|tag|bar|tape|tab|dot|line|band)s?\b`)
)

// danGrade is a rank that wears black.
var danGrade = pattern.Of(`(?i)\b(?:\d(?:st|nd|rd|th)?\.? ?dan|shodan|nidan|sandan)\b`)

// ClothCalled is the cloth that a rung's name tells: Yellow belt, Red/black, Green belt with two blue stripes. told is false where it tells none.
func ClothCalled(name string) (c Cloth, told bool) {
	c = WhiteCloth
	marks := clothMarks.FindStringSubmatch(name)
	rest := clothMarks.ReplaceAllString(name, "")
	core := clothCore.FindStringSubmatch(rest)
	rest = clothCore.ReplaceAllString(rest, "")
	halves, ground := clothHalves.FindStringSubmatch(rest), clothTold.FindStringSubmatch(rest)
	of := func(word string) string { return clothColours[strings.ToLower(word)] }
	switch {
	case ground == nil && marks != nil && core == nil: // Orange stripe, on whatever is worn
		c.Marks = &BeltMarks{Colour: of(marks[2]), Count: 1, Place: Tip}
		return c, true
	case ground == nil && danGrade.MatchString(name):
		c.Colour = clothColours["black"]
	case ground == nil:
		return c, false
	case halves != nil && of(halves[1]) != of(halves[2]):
		c.Weave, c.Colour, c.Second = Halves, of(halves[1]), of(halves[2])
	default:
		c.Colour = of(ground[1])
	}
	if core != nil && c.Weave == Plain && of(core[1]) != c.Colour {
		c.Weave, c.Second = CoreLine, of(core[1])
	}
	if marks != nil {
		count := max(slices.Index([]string{"", "one", "two", "three", "four", "five", "six"}, strings.ToLower(marks[1])), 1)
		if marks[1] != "" && Bare(marks[1]) {
			n, _ := strconv.Atoi(marks[1])
			count = min(max(n, 1), MaxMarks)
		}
		c.Marks = &BeltMarks{Colour: of(marks[2]), Count: count, Place: Tip}
	}
	return c, true
}
