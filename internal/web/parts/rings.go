package parts

import (
	"velvetladder/internal/store"
)

// RingOf is the place of a ring among those of a grading; -1 none.
func RingOf(g store.Grading, id string) int {
	ring, _ := g.PanelOf(id)
	return ring
}
