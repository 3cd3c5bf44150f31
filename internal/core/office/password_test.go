package office

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
)

func TestCheckPassword(t *testing.T) {
	used := map[string]bool{"1234567890": true, "password": true, "password123": true, "monkey": true, "football": true, "dragon": true, "123456789abc": true, "qwertyuiop": true, "1qaz2wsx3edc": true, "abcde12345": true}
	common := func(p string) bool { return used[p] }
	about := []string{"una", "rosalind", "Rosalind Castellane", "Marrowby Mill Karate"}
	for password, says := range map[string]string{
		"four odd grain sacks": "", "correct horse battery staple": "", "мой дом у реки": "", "dragon and three sacks": "", "七つの道場の帯を数える": "", "Tr7#pq9Lmz": "", "the quick brown fox": "", "29 dojo mats": "",
		"karate in the mill at dusk": "", "rosalind keeps four geese": "", strings.Repeat("lantern ", 25): "",
		"": "has 0 characters", "nine char": "has 9 characters", "ten chars!": "", strings.Repeat("é", 200) + "x": "has 201 characters; up to 200 fit",
		"1234567890": "tried first", "password123": "tried first", "monkey-1234": "with figures or signs", "Password2026!": "with figures or signs", "P@ssw0rd!!": "with figures or signs", "p4ssw0rd99": "with figures or signs", "Football!2027": "with figures or signs", "dragon1987": "with figures or signs", "123456789abc": "tried first",
		"aaaaaaaaaaaa": "over and over", "abababababab": "over and over", "karakarakara": "over and over", "qwertyuiop": "tried first", "poiuytrewq": "along", "abcdefghij": "along", "zyxwvutsrqp": "along", "asdfghjkl1234": "along", "1qaz2wsx3edc": "tried first", "abcde12345": "tried first", "mnbvcxz98765": "along",
		"rosalind 12345": "“rosalind”", "rosalind123456": "", "unaunauna12": "“una”", "rosalind12": "“rosalind”", "Castellane1": "“castellane”", "marrowby 24": "“marrowby”", "Rosalind Castellane": "little more than",
	} {
		var p check.Problems
		CheckPassword(&p, password, common, about...)
		if says == "" {
			assert.Empty(t, p, password)
		} else {
			assert.Contains(t, p.Of("password"), says, password)
		}
	}
}
