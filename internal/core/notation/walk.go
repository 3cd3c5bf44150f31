package notation

import (
	"fmt"
	"slices"
)

// Step is a move or a sentence as one student does it.
type Step struct {
	Count, Beat int // from 0
	Move        Move
	Limbs       []Side      // of each time it is done: left, right, both, or "" where no side is stated
	Feet        []Side      // which foot moves each time: left, right, both, or "" where none is told apart
	LeftLeads   bool        // after it
	Nobody      bool        // nobody leads after it: the feet are level
	Placed      bool        // the feet stand as their stance has them after it: no turn on the spot has left them behind
	Facing      int         // after it, 0 to 359 degrees clockwise from the start
	Footing     [][]Footing // of each time it is done; only Floor tells it
}

// Limb is the limb of the last time a step is done.
func (s Step) Limb() Side { return s.Limbs[len(s.Limbs)-1] }

// Facts are what can be counted in a sequence. Repeated moves count as often as they are
// done; a sentence is a step, but no move.
type Facts struct {
	Moves, Counts, Beats    int // Beats are steps: what happens at one time
	Sentences               int
	Left, Right, Lead, Rear int // moves of limbs; a pure step counts for none
	Low, Mid, High          int
	Turns                   int // moves that end on another facing
	LeftLeads               bool
	Nobody                  bool // nobody leads at the end
	Facing                  int
	HalfSeconds             int      // how long it takes, in half seconds
	Held                    []string // what is still kept at the end
	Problems                []string // a free of what was never kept, a lead where nobody leads
}

// Durations in half seconds: a beat takes a second, travel half a second more.
const beatHalves, travelHalves = 2, 1

// mostSteps bounds how many moves are followed through techniques that call each other.
const mostSteps = 20_000

// feet is where somebody stands.
type feet struct {
	southpaw  bool // whose own stance has the right foot in front
	leftLeads bool
	nobody    bool   // nobody leads
	level     string // the stance in which nobody does
	placed    bool   // the left foot led when the feet were last placed
	sum       int    // turned since, clockwise, −179 to 180
	facing    int    // 0 to 359
}

// place puts the feet down: from now on turns are added up anew.
func (f *feet) place(leftLeads bool) {
	f.leftLeads, f.placed, f.nobody, f.sum = leftLeads, leftLeads, false, 0
}

// round brings an angle to −179 … 180.
func round(angle int) int {
	if angle = ((angle % 360) + 360) % 360; angle > 180 {
		angle -= 360
	}
	return angle
}

// turn turns on the spot. Within 90° of how the feet were placed the foot that led then leads,
// beyond it the other; at exactly 90° whoever led just before.
func (f *feet) turn(by int) {
	if by == 0 {
		return
	}
	f.facing = ((f.facing+by)%360 + 360) % 360
	just := 1 // a degree before the end, on the way there
	if by < 0 {
		just = -1
	}
	before := round(f.sum + by - just)
	f.sum = round(f.sum + by)
	near := func(angle int) bool { return angle > -90 && angle < 90 }
	at := f.sum
	if at == 90 || at == -90 {
		at = before
	}
	f.leftLeads = f.placed == near(at)
	if f.sum == 180 && !f.nobody { // the rear foot crosses to the other line
		f.place(f.leftLeads)
	}
}

// limb is the left or right that lead or rear is; other sides are themselves.
func (f *feet) limb(s Side) Side {
	switch {
	case s != Lead && s != Rear:
		return s
	case (s == Lead) == f.leftLeads:
		return Left
	}
	return Right
}

// walker follows a sequence.
type walker struct {
	c       *Catalogue
	feet    feet
	mirror  bool     // own moves of techniques are mirrored
	calling []string // techniques whose own moves are being followed
	steps   int
	telling bool // footing is told
	footing []Footing
}

// wrong is what cannot be where it stands: which part of the move, and why.
type wrong struct {
	side    bool // the side; else the stance after in
	problem string
}

// do does a move once. It returns the limb and the foot that moves.
// It is long: a case for each move there is.
func (w *walker) do(m *Move) (limb, foot Side, bad *wrong) {
	f := &w.feet
	w.steps++
	note := func(side bool, format string, args ...any) {
		if bad == nil {
			bad = &wrong{side, fmt.Sprintf(format, args...)}
		}
	}
	relative := m.Side == Lead || m.Side == Rear
	named := Side("") // the foot that is named
	if m.Technique == "" && len(m.Travel) > 0 {
		if named = f.limb(m.Side); named != Left && named != Right {
			named = ""
		}
		if relative && f.nobody {
			note(true, "nobody leads in %s; name the foot left or right, or step into a stance first", f.level)
		}
	}
	was, there := f.leftLeads, !f.nobody && f.sum == 0
	turned := m.turned()
	f.turn(turned)
	from := len(w.footing)
	if turned != 0 {
		w.tell(Footing{Turned: turned})
	}
	if turned != 0 && f.sum == 0 && f.leftLeads != was {
		foot = f.limb(Lead) // crossed to the other line
	}
	exchanged, stepped, back := false, false, false // exchanged: this move itself says who leads
	for _, t := range m.Travel {
		placed := Side("") // the foot that goes where the stance wants it
		switch kind := t.Kind; {
		case kind == "step" || kind == "step back" || kind == "step through" && f.nobody:
			stepped, back = true, kind == "step back"
			switch {
			case named != "" && kind != "step through":
				f.place((named == Left) != back)
				if exchanged, foot = true, named; turned != 0 || !there || f.leftLeads != was {
					placed = named
				}
			case f.nobody:
				own := f.own()
				f.place(own == Left)
				if foot = own; back {
					foot = own.Other()
				}
				placed = foot
			default:
				foot = Both
			}
		case kind == "step through":
			stepped, exchanged = true, true
			foot = f.limb(Rear)
			placed = foot
			f.place(!f.leftLeads)
		case kind == "switch" && !f.nobody:
			exchanged, foot = true, Both
			f.place(!f.leftLeads)
		case kind == "turn" || kind == "spin":
		case named != "":
			foot = named
		case foot == "" && kind != "jump" && kind != "drop":
			foot = Both
		}
		if kind := t.Kind; kind != "turn" && kind != "spin" {
			w.tell(Footing{Travel: kind, Way: t.Way, Begins: named, Places: placed, Out: m.AngleOut})
		}
	}
	alone := turned != 0 && !stepped && !exchanged // a turn alone
	ends := func(s Stance, side bool) {
		placed := Side("")
		switch {
		case s.Side != "" && s.Feet != SideBySide:
			if exchanged && f.leftLeads != (s.Side == Left) {
				note(side, "this move puts the %s foot in front; it cannot end in %s", f.limb(Lead), s)
			}
			if !exchanged && (stepped || alone) {
				if foot = s.Side; back {
					foot = s.Side.Other()
				}
				if turned != 0 || !there || (s.Side == Left) != was {
					placed = foot
				}
			} else if f.nobody {
				placed = s.Side
			}
			f.place(s.Side == Left)
		case f.nobody && s.Feet == OneLeads:
			f.place(f.own() == Left)
		case !f.nobody && s.Feet != "":
			f.place(f.leftLeads)
		}
		w.tellStance(from, s, placed)
	}
	if m.In.Name != "" {
		ends(m.In, false)
	}
	if m.Technique == "" {
		w.toldMove(from)
		return f.noLimb(m), foot, bad
	}
	if m.Stands != "" {
		side := f.limb(m.Side)
		if side != Left && side != Right {
			side = ""
		}
		if !(relative && f.nobody) {
			ends(Stance{m.Name, side, m.Stands}, true)
		}
	}
	if relative && f.nobody {
		note(true, "nobody leads in %s; name the limb left or right, or step into a stance first", f.level)
	}
	limb = f.limb(m.Side)
	w.toldMove(from)
	if own := w.c.moves(m.Technique); own != nil && !slices.Contains(w.calling, m.Technique) && w.steps < mostSteps {
		w.follow(*own, m.Technique)
	}
	return limb, foot, bad
}

// own is the foot that leads in one's own stance.
func (f *feet) own() Side {
	if f.southpaw {
		return Right
	}
	return Left
}

// noLimb is the limb of a move without a technique: of a hand that lets go.
func (f *feet) noLimb(m *Move) Side {
	if len(m.Travel) > 0 {
		return ""
	}
	return f.limb(m.Side)
}

// follow moves the feet as a technique's own moves do, which start where one stands.
func (w *walker) follow(s Sequence, id string) {
	if w.mirror {
		s = s.Mirror()
	}
	w.calling = append(w.calling, id)
	s.All(func(_, _ int, m *Move) {
		for range m.wholes() {
			w.do(m)
		}
	})
	w.calling = w.calling[:len(w.calling)-1]
}

// wholes is how often the whole move is done.
func (m *Move) wholes() int {
	if m.Whole {
		return max(m.Times, 1)
	}
	return 1
}

// begin puts somebody at the start of a sequence.
func (w *walker) begin(from Stance, southpaw bool) {
	w.feet = feet{southpaw: southpaw, leftLeads: !southpaw, placed: !southpaw}
	switch {
	case from.Feet == SideBySide:
		w.feet.nobody, w.feet.level = true, from.Name
	case from.Side != "":
		w.feet.place(from.Side == Left)
	}
}

// Walk does a sequence from an orthodox (left foot forward) or southpaw stance, as it is
// written. In one move, whatever the order of its words, its turns are added up, then it
// steps, then it takes the stance it ends in, and then comes the technique, whose lead and
// rear are read where the feet stand by then.
func (c *Catalogue) Walk(s Sequence, southpaw bool) ([]Step, Facts) {
	return c.walk(s, southpaw, false)
}

// WalkFor does a sequence that is written for an orthodox student from either stance: for a
// southpaw left and right are exchanged.
func (c *Catalogue) WalkFor(s Sequence, southpaw bool) ([]Step, Facts) {
	if southpaw {
		s = s.Mirror()
	}
	return c.walk(s, southpaw, southpaw)
}

// WalkMirrored does a sequence that was mirrored already: techniques it calls by name move the
// feet as they do in the mirror.
func (c *Catalogue) WalkMirrored(s Sequence, southpaw bool) ([]Step, Facts) {
	return c.walk(s, southpaw, true)
}

func (c *Catalogue) walk(s Sequence, southpaw, mirrored bool) ([]Step, Facts) {
	w := walker{c: c, mirror: mirrored}
	return w.walk(s, southpaw)
}

func (w *walker) walk(s Sequence, southpaw bool) ([]Step, Facts) {
	f := Facts{Counts: len(s.Counts)}
	w.begin(s.From, southpaw)
	var steps []Step
	held := map[Side]string{}
	for n, count := range s.Counts {
		for b, beat := range count {
			f.Beats++
			halves := 0
			for i := range beat {
				m := &beat[i]
				x := Step{Count: n, Beat: b, Move: *m}
				for range m.wholes() {
					facing := w.feet.facing
					limb, foot, bad := w.do(m)
					x.Limbs, x.Feet = append(x.Limbs, limb), append(x.Feet, foot)
					if w.telling {
						x.Footing, w.footing = append(x.Footing, w.footing), nil
					}
					if bad != nil {
						f.Problems = append(f.Problems, m.String()+": "+bad.problem)
					}
					f.count(m, limb, &w.feet)
					if facing != w.feet.facing {
						f.Turns++
					}
				}
				f.hold(held, x.Limb(), *m)
				halves = max(halves, m.halves())
				x.LeftLeads, x.Nobody, x.Facing = w.feet.leftLeads, w.feet.nobody, w.feet.facing
				x.Placed = w.feet.sum == 0 && !w.feet.nobody
				steps = append(steps, x)
			}
			f.HalfSeconds += halves
		}
	}
	for _, limb := range []Side{Left, Right, Both, ""} {
		if held[limb] != "" {
			f.Held = append(f.Held, held[limb])
		}
	}
	f.LeftLeads, f.Nobody, f.Facing = w.feet.leftLeads, w.feet.nobody, w.feet.facing
	return steps, f
}

// halves is how long a move takes, in half seconds: a beat for each time the technique is
// done, and half as long again for each time the feet travel.
func (m *Move) halves() int {
	travels := 0
	if len(m.Travel) > 0 || m.Turn.Degrees > 0 {
		travels = travelHalves
	}
	if m.Whole {
		return m.Times * (beatHalves + travels)
	}
	return max(m.Times, 1)*beatHalves + travels
}

// count counts a move that was done once, or whose technique was done several times.
func (f *Facts) count(m *Move, limb Side, at *feet) {
	if m.Sentence != "" {
		f.Sentences++
		return
	}
	times := 1
	if !m.Whole {
		times = max(m.Times, 1)
	}
	f.Moves += times
	left, right := limb == Left || limb == Both, limb == Right || limb == Both
	if left {
		f.Left += times
	}
	if right {
		f.Right += times
	}
	if !at.nobody {
		if left && at.leftLeads || right && !at.leftLeads {
			f.Lead += times
		}
		if right && at.leftLeads || left && !at.leftLeads {
			f.Rear += times
		}
	}
	switch m.Level {
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
		f.Problems = append(f.Problems, fmt.Sprintf("%s frees what is not kept", m))
	case m.Free:
		delete(held, limb)
	}
}

// possible refuses a sequence with a move that cannot be where it stands, as an *Error with
// its column.
func (c *Catalogue) possible(s Sequence, places []place) error {
	_, err := c.impossible(s, places)
	return err
}

// impossible finds the first move that cannot be where it stands: a lead where nobody leads,
// a stance that the move's own steps contradict. It returns which move it is, from 0.
func (c *Catalogue) impossible(s Sequence, places []place) (int, error) {
	w := walker{c: c}
	w.begin(s.From, false)
	var err error
	n, at := 0, 0
	s.All(func(_, _ int, m *Move) {
		for range m.wholes() {
			if _, _, bad := w.do(m); bad != nil && err == nil {
				column := places[n].in
				if bad.side || column == 0 {
					column = places[n].side
				}
				err, at = &Error{Column: max(column, places[n].move), Problem: bad.problem}, n
			}
		}
		n++
	})
	return at, err
}
