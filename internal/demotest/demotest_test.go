package demotest

import (
	"errors"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestSharedIsMadeOnce(t *testing.T) {
	path := filepath.Join(t.TempDir(), "it")
	var made atomic.Int32
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() {
			file, err := shared(path, func() ([]byte, error) {
				made.Add(1)
				time.Sleep(50 * time.Millisecond)
				return []byte("whole"), nil
			})
			assert.NoError(t, err)
			assert.Equal(t, "whole", string(file))
		})
	}
	all.Wait()
	assert.Equal(t, int32(1), made.Load())

	no := errors.New("no")
	_, err := shared(filepath.Join(t.TempDir(), "other"), func() ([]byte, error) { return nil, no })
	assert.ErrorIs(t, err, no)
	_, err = shared(filepath.Join(t.TempDir(), "no", "folder"), nil)
	assert.Error(t, err)
}
