package parts

import (
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
)

// How far the records are looked at for a plan: what was taught, what was missed, and from when on a
// grading is near.
const (
	TaughtBack = 30
	MissedBack = 28
	NearDays   = 42
)

// Of reports whether a sign-off is of a line: one from before lines were kept is of every line of
// its technique and role.
func Of(g store.SignedOff, it progress.Item) bool {
	return g.TechniqueID == it.TechniqueID && g.Role == it.Role && (g.Line == "" || g.Line == it.Key())
}
