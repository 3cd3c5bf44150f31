package store

import (
	"context"
	"maps"
	"slices"
	"sync"

	"velvetladder/internal/core/civil"
)

// known remembers everybody's climb in a program, judged today. What only concerns some
// climbs (a class attended, a sign-off) lets those be read anew, everything else all of them.
type known struct {
	mu       sync.Mutex
	wrote    int // counts commits
	programs map[string]*knownProgram
}

type knownProgram struct {
	today civil.Date
	all   []Climbing
	stale map[string]bool // enrolments to be read anew
}

// someStale is how many climbs are read anew one by one; more are read with all the others.
const someStale = 200

// forget is called after a commit: of some climbs, or of all where narrow is false.
func (k *known) forget(narrow bool, climbs map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.wrote++
	if !narrow {
		k.programs = nil
		return
	}
	for _, p := range k.programs {
		for id := range climbs {
			p.stale[id] = true
		}
	}
}

// everyone are the climbs in a program judged today, by rung. The caller must not change them.
func (s *Store) everyone(ctx context.Context, program string) ([]Climbing, error) {
	today := s.Today()
	s.known.mu.Lock()
	wrote := s.known.wrote
	p := s.known.programs[program]
	var all []Climbing
	var stale []string
	if p != nil && p.today == today && len(p.stale) <= someStale {
		all, stale = p.all, slices.Sorted(maps.Keys(p.stale))
	}
	s.known.mu.Unlock()
	if all != nil && len(stale) == 0 {
		return all, nil
	}
	if all == nil {
		fresh, err := s.read(ctx, today, `e.program_id = ? AND e.ended_on IS NULL`, program)
		if err != nil {
			return nil, err
		}
		all = byRung(fresh)
	} else {
		fresh, err := s.read(ctx, today, `e.program_id = ? AND e.id IN (SELECT value FROM json_each(?))`, program, toJSON(stale))
		if err != nil {
			return nil, err
		}
		all = slices.Clone(all)
		for _, c := range fresh {
			if at := slices.IndexFunc(all, func(x Climbing) bool { return x.EnrolmentID == c.EnrolmentID }); at >= 0 {
				all[at] = c
			}
		}
	}
	s.known.mu.Lock()
	defer s.known.mu.Unlock()
	if s.known.wrote == wrote { // else something changed while we read
		if s.known.programs == nil {
			s.known.programs = map[string]*knownProgram{}
		}
		s.known.programs[program] = &knownProgram{today, all, map[string]bool{}}
	}
	return all, nil
}
