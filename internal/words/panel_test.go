package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/words"
)

func TestPanelsInWords(t *testing.T) {
	assert.Empty(t, words.Uneven(nil))
	assert.Equal(t, "The panels are of different sizes: Ring A 3, Ring B 1. The same marks may come to another outcome in another ring.", words.Uneven([]gradingday.RingSize{{Ring: "Ring A", N: 3}, {Ring: "Ring B", N: 1}}))
	assert.Equal(t, "Brown belt asks for 5 examiners; Ring A has 3.", words.TooFew(gradingday.TooFew{Rung: "Brown belt", Ring: "Ring A", Asks: 5, Has: 3}))
}
