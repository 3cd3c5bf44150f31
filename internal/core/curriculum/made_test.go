package curriculum_test

import "velvetladder/internal/laddertest"

// The ladders that the tests are about.
const (
	simple = laddertest.Simple
	sound  = laddertest.Sound
)

var (
	ladder    = laddertest.Ladder
	technique = laddertest.Technique
	soundly   = laddertest.Soundly
	school    = laddertest.School
)
