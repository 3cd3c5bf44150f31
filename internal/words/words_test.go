package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/words"
)

func TestCounts(t *testing.T) {
	for said, is := range map[string]string{
		"1 mark": words.Count(1, "mark"), "0 marks": words.Count(0, "mark"), "2 classes": words.Count(2, "class"), "3 failing items": words.Count(3, "failing item"),
		"2 entries": words.Count(2, "entry"), "no failing item": words.No(0, "failing item"), "1 failing item": words.No(1, "failing item"), "5 open classes": words.Count(5, "open class"),
	} {
		assert.Equal(t, said, is)
	}
}

func TestRatiosInSentences(t *testing.T) {
	for margin, said := range map[string]string{
		"48.5": "48.5 clear", "146/3": "48.66… clear", "-1/3": "0.33… short", "0": "exactly met", "0.000000001": "0.00… clear", "-2.5": "2.5 short", "1234567.5": "1234567.50… clear", "100": "100 clear",
	} {
		assert.Equal(t, said, words.Distance(margin))
	}
}
