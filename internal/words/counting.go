package words

import (
	"fmt"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// Aim is what a count aims at within seconds, and how long each may take, rounded down to hundredths:
// "aim 30 in 60 s, 2 s each"; under way without the seconds. "" where nothing is aimed at.
func Aim(s gradingday.Step, seconds int, underWay bool) string {
	if s.Aim <= 0 || seconds <= 0 {
		return ""
	}
	within := fmt.Sprintf(" in %d s", seconds)
	if underWay {
		within = ""
	}
	hundredths := seconds * 100 / s.Aim
	each := fmt.Sprint(hundredths / 100)
	if rest := hundredths % 100; rest > 0 {
		each += "." + trimZeros(fmt.Sprintf("%02d", rest))
	}
	return fmt.Sprintf("aim %d%s, %s s each", s.Aim, within, each)
}

func trimZeros(s string) string {
	for len(s) > 1 && s[len(s)-1] == '0' {
		s = s[:len(s)-1]
	}
	return s
}

// Tally are the sentences of a count on a device, with {n} for a number it puts in.
func Tally() map[string]string {
	return map[string]string{"onPace": "on pace", "ahead": "{n} ahead", "behind": "{n} behind", "below": "below the table’s lowest row", "counted": "{n} counted"}
}

// Left is how many marks are still to be given, with {n} for the number: of one, of several, of none.
func Left() [3]string {
	return [3]string{"1 mark still to be given.", "{n} marks still to be given.", "Every line is marked."}
}

// Early is what is said to whoever signs too early, with {n} for the marks that are missing: of one, of several.
func Early() [2]string {
	return [2]string{
		"Not signed yet: 1 mark is still to be given. This is its line; mark it, or say that the rest was not seen.",
		"Not signed yet: {n} marks are still to be given. This is the line of the first; mark them, or say that the rest was not seen.",
	}
}

// Waits is what keeps a sheet from being signed: entries that wait on a device, one or {n}.
func Waits() [2]string {
	return [2]string{"1 entry waits on this device. Sign when all are stored.", "{n} entries wait on this device. Sign when all are stored."}
}

// MoreFor is how many more a mark takes, with {n} for the number.
func MoreFor(mark scoring.Decimal) string { return "{n} more for " + mark.String() }

// TakeMark is a count that gives a mark, with {n} for the count.
func TakeMark(mark scoring.Decimal) string { return "{n} counted: mark " + mark.String() }
