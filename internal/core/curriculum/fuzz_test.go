package curriculum_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
)

// again holds that what was read from lines is read the same from the lines it is written as.
func again[T any](t *testing.T, read func([]string) ([]T, error), write func(T) string, in string) {
	x, err := read(strings.Split(in, "\n"))
	if err != nil {
		require.NotEmpty(t, err.Error())
		return
	}
	var lines []string
	for _, v := range x {
		lines = append(lines, write(v))
	}
	y, err := read(lines)
	require.NoError(t, err, "%q is written as %q", in, lines)
	assert.Equal(t, fmt.Sprintf("%+v", x), fmt.Sprintf("%+v", y), "%q is written as %q", in, lines)
}

func sure[T any](read func([]string) []T) func([]string) ([]T, error) {
	return func(lines []string) ([]T, error) { return read(lines), nil }
}

func FuzzAttacks(f *testing.F) {
	for _, seed := range []string{"right straight punch", "grab, left wrist\nkick to the front", "rear bear hug, arms pinned", "two attackers: push", "club overhead\n\n", "own word = strike", "left right"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		again(t, func(l []string) ([]AttackElement, error) { return ParseAttack(l) }, AttackElement.String, in)
		ParseAttackLines(strings.Split(in, "\n"))
	})
}

func FuzzSteps(f *testing.F) {
	for _, seed := range []string{"slide back, low block", "1. step / 2. kick", "answers the punch: block", "inside; outside\nfinish", "=", ": x"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) { again(t, sure(ParseSteps), Step.String, in) })
}

func FuzzFaults(f *testing.F) {
	for _, seed := range []string{"Foot: heel up", "serious: dropped hands (-2)", "minor, timing", "a:b:c", " : "} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) { again(t, sure(ParseFaults), Fault.String, in) })
}

// FuzzDetails are the other lines a technique and a program are described by.
func FuzzDetails(f *testing.F) {
	tracks := []Track{{ID: "a", Name: "Cubs"}, {ID: "b", Name: "Adults"}}
	for _, seed := range []string{"Opening: 1 to 4", "Cubs: kick the pad ten times", "low = below the belt", "kick: knee first; hip turned", "jab as entry", "Middle: 5 to 3", "x = "} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		again(t, ParseParts, Part.String, in)
		again(t, ParseMeanings, Meaning.String, in)
		again(t, ParseCommon, Common.String, in)
		again(t, ParseEntries, Entry.String, in)
		again(t, func(l []string) ([]Drill, error) { return ParseDrills(l, tracks) }, func(d Drill) string { return d.Line(tracks) }, in)
	})
}

func FuzzQuantity(f *testing.F) {
	for _, seed := range []string{"10", "10 each side", "3 x 2 min, 30 s rest", "x 20", "5 kicks", "1 minute", "two rounds of 90 seconds", "10 reps per side", "99999999999", "1.5 min", "½"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		q, err := ParseQuantity(in)
		if err != nil {
			return
		}
		for _, n := range []int{q.Reps, q.Seconds, q.Rounds, q.Rest} {
			require.GreaterOrEqual(t, n, 0, in)
			require.Less(t, n, 1<<31, in)
		}
	})
}
