package review

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestOutcomesHaveWords(t *testing.T) {
	assert.NotEmpty(t, outcomeWords)
	for o, words := range outcomeWords {
		assert.NotEmpty(t, words, o)
	}
}
