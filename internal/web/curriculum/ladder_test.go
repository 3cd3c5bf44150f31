package curriculum

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestOrdinals(t *testing.T) {
	for n, want := range map[int]string{1: "1st", 2: "2nd", 3: "3rd", 4: "4th", 11: "11th", 12: "12th", 13: "13th", 21: "21st", 112: "112th"} {
		assert.Equal(t, want, ordinal(n))
	}
}
