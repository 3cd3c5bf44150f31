package gradingday

import "velvetladder/internal/core/check"

// Clock is a ring's interval timer. It holds when it was started by the clock of one machine,
// the server's, so that devices whose own clocks differ read the same.
type Clock struct {
	Label     string `json:"label,omitempty"`
	Seconds   int    `json:"seconds"`          // of one round, 1 to 3600; 0: no clock is set
	Rounds    int    `json:"rounds"`           // 1 to 20
	Rest      int    `json:"rest,omitzero"`    // seconds between rounds, 0 to 600
	Cue       int    `json:"cue,omitzero"`     // seconds before the end of a round at which it is told; 0: not told
	StartedAt int64  `json:"started,omitzero"` // ms since 1970 by the server's clock; 0: not running
	Spent     int64  `json:"spent,omitzero"`   // ms that had run before StartedAt
	Version   int    `json:"version"`          // goes up with every change
}

// ClockPhase is what a clock says just now.
type ClockPhase string

// The phases of a clock.
const (
	ClockUnset ClockPhase = "unset"
	ClockReady ClockPhase = "ready"
	ClockWork  ClockPhase = "work"
	ClockRest  ClockPhase = "rest"
	ClockDone  ClockPhase = "done"
)

// Reading is a clock read at an instant.
type Reading struct {
	Phase   ClockPhase `json:"phase"`
	Round   int        `json:"round"` // from 1
	Left    int64      `json:"left"`  // ms of the phase
	Running bool       `json:"running"`
	Closing bool       `json:"closing"` // within the closing cue of a round
}

// Check notes what is wrong with a clock that is to be set.
func (c Clock) Check() check.Problems {
	var p check.Problems
	within := func(field string, n, least, most int) {
		if n < least || n > most {
			p.Add(field, "is %d; it must be from %d to %d", n, least, most)
		}
	}
	p.Line("label", c.Label, check.NameLength)
	within("seconds", c.Seconds, 1, 3600)
	within("rounds", c.Rounds, 1, 20)
	within("rest", c.Rest, 0, 600)
	within("cue", c.Cue, 0, 600)
	return p
}

// spent is how long the clock has run by an instant, in ms.
func (c Clock) spent(now int64) int64 {
	if c.StartedAt == 0 {
		return c.Spent
	}
	return c.Spent + max(now-c.StartedAt, 0)
}

// whole is how long the clock runs in all, in ms; there is no rest after the last round.
func (c Clock) whole() int64 {
	return 1000 * int64(c.Rounds*c.Seconds+(c.Rounds-1)*c.Rest)
}

// At reads the clock at an instant, in ms since 1970.
func (c Clock) At(now int64) Reading {
	if c.Seconds == 0 {
		return Reading{Phase: ClockUnset}
	}
	spent := c.spent(now)
	if spent >= c.whole() {
		return Reading{Phase: ClockDone, Round: c.Rounds}
	}
	out := Reading{Phase: ClockReady, Round: 1, Left: int64(c.Seconds) * 1000, Running: c.StartedAt != 0}
	if spent == 0 && !out.Running {
		return out
	}
	lap := 1000 * int64(c.Seconds+c.Rest)
	out.Round = int(spent/lap) + 1
	in := spent % lap
	if work := 1000 * int64(c.Seconds); in < work {
		out.Phase, out.Left = ClockWork, work-in
		out.Closing = c.Cue > 0 && out.Left <= 1000*int64(c.Cue)
	} else {
		out.Phase, out.Left = ClockRest, lap-in
	}
	return out
}

// ClockSpan is a part of a clock's way: a phase, from where the part before ended until so many ms have run.
type ClockSpan struct {
	Phase ClockPhase `json:"phase"`
	Round int        `json:"round"` // from 1
	Until int64      `json:"until"` // ms run, at which it ends
	Cue   int64      `json:"cue"`   // ms run, from which on the end is told; that of Until: not told
}

// Spans are the parts of a clock's way in order: each round, and the rests between them. A device that
// knows how long a clock has run looks up where it is.
func (c Clock) Spans() (out []ClockSpan) {
	if c.Seconds == 0 {
		return nil
	}
	at := int64(0)
	for round := 1; round <= c.Rounds; round++ {
		at += 1000 * int64(c.Seconds)
		out = append(out, ClockSpan{ClockWork, round, at, at - 1000*int64(min(c.Cue, c.Seconds))})
		if c.Rest > 0 && round < c.Rounds {
			at += 1000 * int64(c.Rest)
			out = append(out, ClockSpan{ClockRest, round, at, at})
		}
	}
	return out
}

// Start lets the clock run from an instant; a clock that runs or is done stays as it is.
func (c Clock) Start(now int64) Clock {
	if c.Seconds > 0 && c.StartedAt == 0 && c.spent(now) < c.whole() {
		c.StartedAt = now
		c.Version++
	}
	return c
}

// Pause stops the clock at an instant where it can go on.
func (c Clock) Pause(now int64) Clock {
	if c.StartedAt != 0 {
		c.Spent, c.StartedAt = min(c.spent(now), c.whole()), 0
		c.Version++
	}
	return c
}

// Reset puts the clock back to its beginning.
func (c Clock) Reset() Clock {
	c.Spent, c.StartedAt = 0, 0
	c.Version++
	return c
}
