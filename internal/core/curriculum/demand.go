package curriculum

import (
	"slices"
	"strconv"
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
func (d *Demand) Meets(l *Line) bool { return d.isOf(l) && d.reaches(l) }

// isOf reports whether a showing is one of the line at all: by the same way in, in its setting
// or in one that covers it. Boards are broken on boards alone.
func (d *Demand) isOf(l *Line) bool {
	had, asked := d.Setting.orAir(), l.Setting.orAir()
	return strings.EqualFold(d.Entry, l.Entry) && (had == asked || d.Covers && asked != Boards)
}

// alike reports whether two amounts are in one unit and at one pace.
func (d *Demand) alike(l *Line) bool {
	return d.Quantity.Measure == l.Quantity.Measure && d.Quantity.Side == l.Quantity.Side && d.Slow == l.Slow && d.NonStop == l.NonStop
}

// reaches reports whether a showing falls short of a line in nothing.
func (d *Demand) reaches(l *Line) bool {
	all := true
	d.short(l, func(Growth) bool {
		all = false
		return false
	})
	return all
}

// short tells in which respects a showing falls short of a line, or is of something else, as long as it is asked for more.
func (d *Demand) short(l *Line, more func(Growth) bool) {
	if l.Stage > d.Stage && !more(Growth{Kind: GrownPart, Now: l.stageName(l.Stage), Was: l.stageName(d.Stage)}) {
		return
	}
	if larger, comparable := l.Quantity.Larger(d.Quantity); (larger || !comparable) && !more(Growth{Kind: GrownAmount, Now: l.Quantity.String(), Was: d.Quantity.String()}) {
		return
	}
	if now, was := (Pace{l.Slow, l.NonStop}), (Pace{d.Slow, d.NonStop}); now != was && !more(Growth{Kind: GrownPace, NowPace: now, WasPace: was}) {
		return
	}
	if height(l.Level) > height(d.Level) && !more(Growth{Kind: GrownHeight, Now: string(l.Level), Was: string(d.Level)}) {
		return
	}
	if d.Supported && !l.Supported && !more(Growth{Kind: GrownAlone}) {
		return
	}
	if len(d.Checkpoints) > 0 && slices.ContainsFunc(l.Checkpoints, func(c string) bool { return !slices.Contains(d.Checkpoints, c) }) {
		more(Growth{Kind: GrownChecks, N: len(l.Checkpoints), M: len(d.Checkpoints), All: !l.SomeChecks})
	}
}

func (l *Line) stageName(n int) string {
	if n < len(l.stageNames) {
		return l.stageNames[n]
	}
	return "stage " + strconv.Itoa(n)
}
