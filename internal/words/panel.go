package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/gradingday"
)

// Uneven says that panels are of different sizes, and what that comes to; "" where they are not.
func Uneven(sizes []gradingday.RingSize) string {
	if len(sizes) == 0 {
		return ""
	}
	var parts []string
	for _, s := range sizes {
		parts = append(parts, fmt.Sprintf("%s %d", s.Ring, s.N))
	}
	return "The panels are of different sizes: " + strings.Join(parts, ", ") + ". The same marks may come to another outcome in another ring."
}

// TooFew says that a rung asks for more examiners than sit where it is tested.
func TooFew(x gradingday.TooFew) string {
	return fmt.Sprintf("%s asks for %s; %s has %d.", x.Rung, Count(x.Asks, "examiner"), x.Ring, x.Has)
}
