package scoring_test

import (
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

func init() {
	scoring.Words = words.Reason
}
