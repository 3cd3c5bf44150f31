package classes

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPermille(t *testing.T) {
	for n, want := range map[int]string{812: "81.2", 4: "0.4", 1000: "100.0"} {
		assert.Equal(t, want, permille(n))
	}
}
