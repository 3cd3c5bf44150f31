package frame

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAHubForgetsNobody: a device that is far behind is told to read all again, and streams are bounded.
func TestAHubForgetsNobody(t *testing.T) {
	h := &Hub{}
	ch, leave, ok := h.listen("a")
	require.True(t, ok)
	for i := range 3 * behind {
		h.Tell("a", i)
	}
	last := ""
	for len(ch) > 0 {
		last = string(<-ch)
	}
	assert.Equal(t, string(resync), last)
	leave()
	for range mostStreams {
		_, _, ok = h.listen("b")
		require.True(t, ok)
	}
	_, _, ok = h.listen("b")
	assert.False(t, ok, "streams are bounded")
}
