package parts

import (
	"net/http"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
)

// ClassKinds are the kinds of class on the timetable, each once.
func (ps *Parts) ClassKinds(r *http.Request) (out []string, err error) {
	t, err := ps.records.Timetable(r.Context())
	seen := map[string]bool{}
	for _, c := range t.Classes {
		if key := check.Key(c.Kind); !seen[key] {
			seen[key] = true
			out = append(out, c.Kind)
		}
	}
	return out, err
}

// Week is the first day of a day's week, as the school has it.
func (ps *Parts) Week(r *http.Request, d civil.Date) (civil.Date, error) {
	s, err := ps.records.Settings(r.Context())
	return s.WeekOf(d), err
}
