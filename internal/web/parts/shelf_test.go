package parts

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var noon = time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC)

// TestAFileWaitsForItsSender: for nobody else, not for ever, and not without bound.
func TestAFileWaitsForItsSender(t *testing.T) {
	var s Shelf[string]
	x := s.Put("rosa", "a file", noon)
	assert.Equal(t, "a file", s.Of("rosa", x.ID, noon).Look())
	assert.Nil(t, s.Of("marek", x.ID, noon))
	assert.Nil(t, s.Of("rosa", "another", noon))
	assert.NotNil(t, s.Of("rosa", x.ID, noon.Add(shelfFor-time.Second)))
	assert.Nil(t, s.Of("rosa", x.ID, noon.Add(shelfFor)))
	x.Choose("as chosen")
	assert.Equal(t, "as chosen", s.Of("rosa", x.ID, noon).Look())
	for range shelfMost {
		s.Put("rosa", "more", noon)
	}
	assert.Nil(t, s.Of("rosa", x.ID, noon), "the oldest goes")
	assert.Len(t, s.all, shelfMost)
	s.Put("rosa", "later", noon.Add(shelfFor))
	assert.Len(t, s.all, 1, "what waited too long goes with the next")
}

// TestALongFileGoesOn: its page says how far it is; it is begun once, and where it failed once more.
func TestALongFileGoesOn(t *testing.T) {
	var s Shelf[string]
	x := s.Put("rosa", "a long file", noon)
	_, running, err := x.Progress()
	assert.False(t, running)
	require.NoError(t, err)
	goOn, begun := make(chan bool), 0
	long := func(step func(int)) (string, error) {
		begun++
		step(30)
		<-goOn
		step(40)
		return "/there", nil
	}
	to, err := x.Begin(40, "/here", long)
	require.NoError(t, err)
	assert.Equal(t, "/here", to, "it takes longer than one waits")
	p, running, err := x.Progress()
	require.NoError(t, err)
	assert.True(t, running)
	assert.Equal(t, Progress{30, 40, ""}, p)
	go func() { goOn <- true }()
	to, err = x.Begin(40, "/here", long)
	require.NoError(t, err)
	assert.Equal(t, "/there", to)
	assert.Equal(t, 1, begun, "pressed twice it is begun once")
	p, _, _ = x.Progress()
	assert.Equal(t, Progress{40, 40, "/there"}, p)

	y := s.Put("rosa", "a bad file", noon)
	refused := errors.New("refused")
	_, err = y.Begin(1, "/here", func(func(int)) (string, error) { return "", refused })
	require.ErrorIs(t, err, refused)
	_, running, err = y.Progress()
	assert.False(t, running, "it can be begun again")
	require.ErrorIs(t, err, refused)
	_, err = y.Begin(1, "/here", func(func(int)) (string, error) { panic("in the middle") })
	require.ErrorContains(t, err, "in the middle", "the program goes on")
	to, err = y.Begin(1, "/here", func(func(int)) (string, error) { return "/there", nil })
	require.NoError(t, err)
	assert.Equal(t, "/there", to)
}
