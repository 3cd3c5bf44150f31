package rehearsal

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// floor is a program that stands in for the real one: it takes marks, and may forget or refuse.
type floor struct {
	mu      sync.Mutex
	marks   map[string]entry // by place
	ids     map[string]bool
	drops   int // acknowledged marks that are forgotten
	refuses bool
	signed  int
}

func (f *floor) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	f.mu.Lock()
	defer f.mu.Unlock()
	answer := func(v any) { json.NewEncoder(w).Encode(v) }
	switch {
	case strings.HasSuffix(r.URL.Path, "/codes"):
		answer(map[string]any{"codes": []code{{"e1", "Cora", "C1"}, {"e2", "Ed", "C2"}}})
	case r.URL.Path == "/join" && r.Method == "POST":
		http.SetCookie(w, &http.Cookie{Name: "s", Value: strings.Replace(r.FormValue("code"), "C", "e", 1)})
	case r.URL.Path == "/join":
		c, _ := r.Cookie("s")
		answer(map[string]any{"examiner": c.Value, "tables": []map[string]string{{"group": "g"}}})
	case strings.HasSuffix(r.URL.Path, "/state"):
		who := strings.Split(r.URL.Path, "/")[2]
		s := map[string]any{"scale": map[string]any{"marks": []map[string]int{{"value": 0}, {"value": 4}}, "highest": 4}, "candidates": []map[string]string{{"ID": "c1"}, {"ID": "c2"}}}
		items, marks := []map[string]any{}, []entry{}
		for i := range 10 {
			items = append(items, map[string]any{"ids": map[string]string{"c1": fmt.Sprint("i", i), "c2": fmt.Sprint("i", i)}})
		}
		for _, m := range f.marks {
			if m.Examiner == who {
				marks = append(marks, m)
			}
		}
		s["items"], s["marks"] = items, marks
		answer(s)
	case strings.HasSuffix(r.URL.Path, "/marks"):
		var in struct{ Entries []entry }
		json.NewDecoder(r.Body).Decode(&in)
		stored := []string{}
		for _, m := range in.Entries {
			if f.refuses {
				w.WriteHeader(http.StatusConflict)
				answer(map[string]any{"stored": stored, "refused": []map[string]string{{"id": m.ID, "problem": "no"}}})
				return
			}
			stored = append(stored, m.ID)
			if f.ids[m.ID] {
				continue
			}
			f.ids[m.ID] = true
			if f.drops > 0 {
				f.drops--
				continue
			}
			f.marks[m.Candidate+m.Item+m.Examiner] = m
		}
		answer(map[string]any{"stored": stored, "refused": []any{}})
	case strings.HasSuffix(r.URL.Path, "/sign"):
		f.signed++
		w.Header().Set("Location", "/")
		w.WriteHeader(http.StatusSeeOther)
	default:
		w.WriteHeader(http.StatusNotFound)
	}
}

func newFloor(t *testing.T) (*floor, string) {
	f := &floor{marks: map[string]entry{}, ids: map[string]bool{}}
	s := httptest.NewServer(f)
	t.Cleanup(s.Close)
	return f, s.URL
}

func TestARehearsal(t *testing.T) {
	f, at := newFloor(t)
	o := Options{URL: at, Grading: "g", Seed: 7, Loss: 100, Away: 100, Correct: 100, NotSeen: 50, Sign: true}
	r, err := Run(context.Background(), o)
	require.NoError(t, err)
	assert.Equal(t, 2, r.Tablets)
	assert.Equal(t, 40, len(f.marks))
	assert.Equal(t, int64(len(f.ids)), r.Marks, "each entry is acknowledged once, however often it went")
	assert.Greater(t, r.Marks, int64(40), "some were corrected")
	assert.Positive(t, r.LostAnswers)
	assert.Zero(t, r.Missing+r.Strange)
	assert.Equal(t, 2, f.signed)
	first := f.marks
	again, at := newFloor(t)
	o.URL = at
	_, err = Run(context.Background(), o)
	require.NoError(t, err)
	for place, m := range first {
		assert.Equal(t, m.Value, again.marks[place].Value, "one seed, one set of marks")
	}
}

// TestARehearsalNotices: a check that could not fail would be none.
func TestARehearsalNotices(t *testing.T) {
	f, at := newFloor(t)
	f.drops = 3
	r, err := Run(context.Background(), Options{URL: at, Grading: "g"})
	require.NoError(t, err)
	assert.Equal(t, 3, r.Missing)
	f, at = newFloor(t)
	f.refuses = true
	_, err = Run(context.Background(), Options{URL: at, Grading: "g"})
	assert.ErrorContains(t, err, "were refused")
}

func TestARehearsalIsBounded(t *testing.T) {
	_, at := newFloor(t)
	for _, x := range []string{"http://192.168.1.9:8484", "https://example.org", "http://10.0.0.1", "ftp://127.0.0.1", "127.0.0.1:80", "http://0.0.0.0:1"} {
		_, err := Run(context.Background(), Options{URL: x, Grading: "g"})
		assert.Error(t, err, x)
	}
	_, err := Run(context.Background(), Options{URL: at, Grading: "g", Loss: 900})
	assert.ErrorContains(t, err, "from 0 to 500")
	_, err = Run(context.Background(), Options{URL: at, Grading: "g", MostRequest: 12})
	assert.ErrorIs(t, err, ErrBound)
	_, err = Run(context.Background(), Options{URL: at, Grading: "g", MostTime: time.Millisecond, Pause: time.Second})
	assert.Error(t, err)
	assert.Equal(t, []time.Duration{0, 5, 10, 10}, []time.Duration{Percentile(nil, 50), Percentile([]time.Duration{9, 1, 5, 10, 2, 3, 6, 7, 8, 4}, 50), Percentile([]time.Duration{9, 1, 5, 10, 2, 3, 6, 7, 8, 4}, 99), Percentile([]time.Duration{10}, 1)})
}
