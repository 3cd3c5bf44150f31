package table

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/scoring"
)

func TestScalesOfTheTable(t *testing.T) {
	points := scaleOf(scoring.CategoryPoints(0).Scale)
	assert.True(t, points.Halves)
	assert.Len(t, points.Marks, 11)
	movement := scaleOf(scoring.MovementScale().Scale)
	assert.False(t, movement.Halves)
	assert.Equal(t, scoringMark{Value: 1, Word: "not right yet", Fails: true}, movement.Marks[1])
}
