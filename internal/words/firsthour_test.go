package words

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/office"
)

func TestEveryFirstStepHasWords(t *testing.T) {
	seen := map[string]bool{}
	for _, s := range office.FirstSteps {
		for _, text := range func() []string { a, b, c := FirstStep(s); return []string{a, b, c} }() {
			assert.NotEmpty(t, text, s)
			assert.False(t, seen[text], "%s: %q stands for two things", s, text)
			seen[text] = true
		}
	}
	title, _, _ := FirstStep("elsewhere")
	assert.Empty(t, title)
}
