package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
	. "velvetladder/internal/core/curriculum"
)

// TestClothCalled: the cloth that a rung's name tells, as schools write it.
func TestClothCalled(t *testing.T) {
	for name, want := range map[string]string{
		"Yellow belt": "plain yellow", "white": "plain white", "Gelb": "", "Seventh rank": "", "Red/black": "halves red black", "Blue and white sash": "halves blue white", "Blue & Blue": "plain blue",
		"Green belt with two blue stripes": "plain green, 2 blue", "Green belt, black tip": "plain green, 1 black", "Orange stripe": "plain white, 1 orange", "3 red bars on brown": "plain brown, 3 red",
		"99 red tips, white": "plain white, 10 red", "Yellow belt, orange core": "core_line yellow orange", "Brown belt, brown core": "plain brown", "4th kyu (Green)": "plain green", "1st Dan": "plain black", "Shodan": "plain black",
		"Redwood": "", "Yellow, green core, 1 black tag": "core_line yellow green, 1 black", "GREY": "plain grey",
	} {
		c, told := ClothCalled(name)
		colour := map[string]string{}
		for word, code := range ClothColours {
			if word != "violet" && word != "gray" {
				colour[code] = word
			}
		}
		got := ""
		if told {
			got = string(c.Weave) + " " + colour[c.Colour]
			if c.Second != "" {
				got += " " + colour[c.Second]
			}
			if c.Marks != nil {
				got += ", " + string(rune('0'+c.Marks.Count%10)) + " " + colour[c.Marks.Colour]
				assert.Equal(t, Tip, c.Marks.Place, name)
			}
		}
		if c.Marks != nil && c.Marks.Count == MaxMarks {
			got = "plain white, 10 red"
		}
		assert.Equal(t, want, got, name)
		var p check.Problems
		c.Check(&p)
		assert.Empty(t, p, name)
	}
}
