package store

import (
	"context"
	"maps"
	"slices"
	"sync"

	"velvetladder/internal/core/civil"
)

// known remembers everybody's climb in a program, judged today. Every write clears it, but for
// tables that are known to bear on no climb, or on those it named stale.
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

// apart are the tables no climb is judged by: what is written there changes no answer. A write to
// a table that is named neither here nor in ofClimbs clears all that is known.
var apart = []string{
	"audit", "request", "person", "person_password", "family_link", "practice_event", "clip_event", "choice_event", "drill_event", "taught_event", "taped_event",
	"mark_event", "fault_event", "signature_event", "ring_state", "bout", "bout_event", "message", "message_event", "join_code", "seat", "stock_event", "calibration", "calibration_event", "withdrawal_event",
}

// ofClimbs are the tables whose rows bear on the climbs a write has named stale, and on no other.
var ofClimbs = []string{"attendance_event", "signoff_event", "stripe_event", "climb_summary"}

// forget is called after a commit, with the tables it wrote to and the climbs to be read anew.
func (k *known) forget(wrote, climbs map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.wrote++
	for table := range wrote {
		if !slices.Contains(apart, table) && !slices.Contains(ofClimbs, table) {
			k.programs = nil
			return
		}
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
