package golden

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// told is a test that writes down what it is told.
type told struct{ said string }

func (t *told) Errorf(format string, args ...any) { t.said += fmt.Sprintf(format, args...) }
func (t *told) FailNow()                          { panic(t) }
func (t *told) Helper()                           {}

func TestHold(t *testing.T) {
	file := filepath.Join(t.TempDir(), "some", "kept.txt")
	hold := func(lines ...string) (said string) {
		x := &told{}
		defer func() { recover(); said = x.said }()
		Hold(x, file, lines, func(i int) string { return fmt.Sprint("page ", i) })
		return x.said
	}
	assert.Contains(t, hold("a"), "no such file")
	*Update = true
	assert.Empty(t, hold("a", "b"))
	*Update = false
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "a\nb\n", string(text))
	assert.Empty(t, hold("a", "b"))
	assert.Contains(t, hold("a", "c"), "line 2 of "+file+", page 1")
	assert.Contains(t, hold("a", "b", "c"), "more than there was")
	assert.Contains(t, hold("a"), "lines of")
}
