package notation

import "fmt"

// Step is a move as one student does it.
type Step struct {
	Count, Beat int // from 0
	Move        Move
	Limb        Side // left, right, both, or "" where no side is stated
	LeftLeads   bool // after the move
	Facing      int  // after the move, 0 to 359 degrees clockwise from the start
}

// Facts are what can be counted in a sequence. Repeated moves count as often as they are
// done.
type Facts struct {
	Moves, Counts, Beats    int
	Left, Right, Lead, Rear int
	Low, Mid, High          int
	Turns                   int // changes of direction
	LeftLeads               bool
	Facing                  int
	HalfSeconds             int      // how long it takes, in half seconds
	Held                    []string // what is still kept at the end
	Problems                []string // a free of what was never kept
}

// Durations in half seconds: a beat takes a second, travel half a second more.
const beatHalves, travelHalves = 2, 1

// Walk does a sequence from an orthodox (left foot forward) or southpaw stance. Lead and
// rear are read in the stance reached so far: a move's own travel happens first. A step
// through, a switch, and a half turn on the spot exchange lead and rear; nothing else does.
func (s Sequence) Walk(southpaw bool) ([]Step, Facts) {
	f := Facts{Counts: len(s), LeftLeads: !southpaw}
	var steps []Step
	held := map[Side]string{}
	for c, count := range s {
		for b, beat := range count {
			f.Beats++
			halves := beatHalves
			travelled := 0
			for _, m := range beat {
				times := max(m.Times, 1)
				for _, t := range m.Travel {
					travelled = travelHalves
					if t.Kind == "step through" || t.Kind == "switch" {
						f.LeftLeads = !f.LeftLeads
					}
					f.turn(t.Turn)
				}
				limb := m.Side
				switch m.Side {
				case Lead, Rear:
					limb = Right
					if (m.Side == Lead) == f.LeftLeads {
						limb = Left
					}
				}
				f.count(limb, m.Level, times)
				f.hold(held, limb, m)
				f.turn(m.Turn)
				if m.Turn.Degrees > 0 {
					travelled = travelHalves
				}
				halves = max(halves, beatHalves*times)
				steps = append(steps, Step{c, b, m, limb, f.LeftLeads, f.Facing})
			}
			f.HalfSeconds += halves + travelled
		}
	}
	for _, limb := range []Side{Left, Right, Both, ""} {
		if held[limb] != "" {
			f.Held = append(f.Held, held[limb])
		}
	}
	return steps, f
}

func (f *Facts) turn(t Turn) {
	if t.Degrees == 0 {
		return
	}
	f.Turns++
	by := t.Degrees
	if t.CounterClockwise {
		by = -by
	}
	f.Facing = ((f.Facing+by)%360 + 360) % 360
	if t.Degrees%360 == 180 {
		f.LeftLeads = !f.LeftLeads
	}
}

func (f *Facts) count(limb Side, level Level, times int) {
	f.Moves += times
	left, right := limb == Left || limb == Both, limb == Right || limb == Both
	if left {
		f.Left += times
	}
	if right {
		f.Right += times
	}
	if left && f.LeftLeads || right && !f.LeftLeads {
		f.Lead += times
	}
	if right && f.LeftLeads || left && !f.LeftLeads {
		f.Rear += times
	}
	switch level {
	case Low:
		f.Low += times
	case Mid:
		f.Mid += times
	case High:
		f.High += times
	}
}

// hold follows checks, grips and guards that stay on: keep puts one on, free takes it off.
func (f *Facts) hold(held map[Side]string, limb Side, m Move) {
	switch {
	case m.Keep:
		held[limb] = m.Name
	case m.Free && held[limb] == "":
		f.Problems = append(f.Problems, fmt.Sprintf("%s frees what is not kept", m.text(orders[0])))
	case m.Free:
		delete(held, limb)
	}
}
