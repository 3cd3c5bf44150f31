package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/notation"
)

// Demand is what somebody was asked to show, or has shown, of a technique in a role. One
// showing has to meet the demand of a line in every respect.
type Demand struct {
	Entry       string         `json:"entry,omitempty"` // the way in; "" the technique as such
	Setting     Setting        `json:"setting,omitempty"`
	Covers      bool           `json:"covers_settings,omitzero"` // what is shown in this setting need not be shown in others
	Quantity    Quantity       `json:"quantity"`
	Slow        bool           `json:"slow,omitzero"`
	NonStop     bool           `json:"non_stop,omitzero"`
	Supported   bool           `json:"support_allowed,omitzero"`
	Level       notation.Level `json:"level,omitempty"`
	Stage       int            `json:"stage,omitzero"`
	Checkpoints []string       `json:"checkpoints,omitempty"` // that counted, where not all of them did
}

// Demand is what a line asks.
func (l *Line) Demand() Demand {
	d := Demand{Entry: l.Entry, Setting: l.Setting, Covers: l.CoversSettings, Quantity: l.Quantity, Slow: l.Slow, NonStop: l.NonStop, Supported: l.Supported, Level: l.Level, Stage: l.Stage}
	if l.SomeChecks {
		d.Checkpoints = l.Checkpoints
	}
	return d
}

// Meets reports whether what was shown is no smaller than what a line of the same technique and
// role asks, in every respect.
func (d *Demand) Meets(l *Line) bool { return d.isOf(l) && len(d.short(l, false)) == 0 }

// isOf reports whether a showing is one of the line at all: by the same way in, in its setting
// or in one that covers it. Boards are broken on boards alone.
func (d *Demand) isOf(l *Line) bool {
	had, asked := d.Setting.orAir(), l.Setting.orAir()
	return strings.EqualFold(d.Entry, l.Entry) && (had == asked || d.Covers && asked != boards)
}

// alike reports whether two amounts are in one unit and at one pace.
func (d *Demand) alike(l *Line) bool {
	return d.Quantity.Measure == l.Quantity.Measure && d.Quantity.Side == l.Quantity.Side && d.Slow == l.Slow && d.NonStop == l.NonStop
}

// short lists in which respects a showing falls short of a line, or is of something else.
func (d *Demand) short(l *Line, words bool) (out []string) {
	say := func(format string, args ...any) {
		if !words {
			format, args = "", nil
		}
		out = append(out, fmt.Sprintf(format, args...))
	}
	if l.Stage > d.Stage {
		name := func(n int) string {
			if n < len(l.stageNames) {
				return l.stageNames[n]
			}
			return fmt.Sprint("stage ", n)
		}
		say("%s, after %s", name(l.Stage), name(d.Stage))
	}
	if larger, comparable := l.Quantity.Larger(d.Quantity); larger || !comparable {
		say("%s, after %s", l.Quantity, d.Quantity)
	}
	if l.Slow != d.Slow || l.NonStop != d.NonStop {
		say("%s, after %s", pace(l.Slow, l.NonStop), pace(d.Slow, d.NonStop))
	}
	if height(l.Level) > height(d.Level) {
		before := "any height"
		if d.Level != "" {
			before = string(d.Level)
		}
		say("at least %s, after %s", l.Level, before)
	}
	if d.Supported && !l.Supported {
		say("without support, after support allowed")
	}
	if len(d.Checkpoints) > 0 && slices.ContainsFunc(l.Checkpoints, func(c string) bool { return !slices.Contains(d.Checkpoints, c) }) {
		how := ""
		if !l.SomeChecks {
			how = "all "
		}
		say("%s%d checkpoints count, after %d", how, len(l.Checkpoints), len(d.Checkpoints))
	}
	return out
}

func pace(slow, nonStop bool) string {
	out := "at full speed"
	if slow {
		out = "slowly"
	}
	if nonStop {
		return out + ", non-stop"
	}
	return out + ", counted"
}
