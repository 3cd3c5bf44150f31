package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// TestHundredths: as people write them, and what is refused.
func TestHundredths(t *testing.T) {
	for text, want := range map[string]int{"1.5": 150, "1,5": 150, "½": 50, "1½": 150, "1 ¾": 175, ".25": 25, "0.2": 20, "-0.25": -25, "2": 200, "": 7, " 3. ": 300} {
		var p Problems
		assert.Equal(t, want, p.Hundredths("width", text, -100, 500, 7), text)
		assert.NoError(t, p.Err(), text)
	}
	for _, text := range []string{"wide", "1.555", "1.5.5", "--1", ".", "½½", "x½", "99999999999", "5.01", "-1.01", "1e2", "+1"} {
		var p Problems
		p.Hundredths("width", text, -100, 500, 7)
		assert.Error(t, p.Err(), text)
	}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(-500, 500).Draw(t, "n")
		var p Problems
		if got := p.Hundredths("x", Hundredths(n), -500, 500, 9999); got != n || p.Err() != nil {
			t.Fatalf("%d is written %s and read as %d", n, Hundredths(n), got)
		}
	})
}

func TestTenths(t *testing.T) {
	for typed, want := range map[string]int{"": 0, "0": 0, "22.5": 225, "22,5": 225, "22½": 225, "1000": 10_000} {
		var p Problems
		assert.Equal(t, want, p.Tenths("x", typed), typed)
		assert.Empty(t, p, typed)
	}
	for typed, said := range map[string]string{
		"22.55": "\"22.55\" has two decimal places; millimetres are exact enough, such as 22.5", "0.1001": "is not a number with up to two decimal places", "tall": "is not a number",
		"1000.1": "is 1000.1; it must be from 0 to 1000", "-1": "is -1; it must be from 0 to 1000", "22.01": "has two decimal places", "1.11": "has two decimal places",
	} {
		var p Problems
		p.Tenths("x", typed)
		if assert.Len(t, p, 1, typed) {
			assert.Contains(t, p[0].Text, said)
		}
	}
}

func TestCount(t *testing.T) {
	for want, got := range map[string]string{"1 mark": Count(1, "mark"), "0 marks": Count(0, "mark"), "2 marks": Count(2, "mark"), "2 classes": Count(2, "class"), "3 missed classes": Count(3, "missed class"), "2 own forms": Count(2, "own form")} {
		assert.Equal(t, want, got)
	}
}
