package curriculum

import "velvetladder/internal/core/notation"

// What tests look at that nobody else needs.
var (
	CheckLooks   = checkLooks
	CheckRules   = checkRules
	ClothColours = clothColours
	LineChanges  = lineChanges
	Most         = most

	Alike         = (*Demand).alike
	CautionsOf    = (*Book).cautionsOf
	Duration      = Line.duration
	LeavesOut     = (*Requirement).leftOut
	NotedIn       = (*Book).noted
	Settled       = (*Book).settle
	SurfaceFor    = (*Book).surfaceFor
	UsualCautions = usualCautions
)

const (
	MaxEntries   = maxEntries
	CallOverhead = callOverhead
	MaxDrills    = maxDrills
)

// Sequences are the moves of a technique's first stage.
func Sequences(b *Book, id string) []notation.Sequence {
	return b.told(b.Technique(id), 1, "", -1).seqs
}
