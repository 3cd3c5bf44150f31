package floor

import (
	"math"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/notation"
)

// Travel distances, in shoulders.
const (
	stepShare    = .5 // of an unnamed step, a slide and a side step
	shuffleShare = .25
)

const (
	circles     = 30.0   // degrees about the partner
	circleAhead = 1500.0 // where the partner is, of somebody alone
	halfTurn    = 180
)

// Ground is what a walk on the floor needs to know.
type Ground struct {
	Body    body.Parts
	Stances func(name string) (Stance, bool) // a stance by its name in the catalogue; false where nobody knows it
	Form    bool                             // a step out of a level stance takes the stance that a form names first
	Partner *Point                           // whom somebody goes round
}

// Frame is where somebody stands after a step, or after one time of a step that is repeated.
type Frame struct {
	Count, Beat int // from 0; −1 before the first step
	Time        int // from 0, of a step that is repeated
	Moves       []notation.Move
	Limbs       []notation.Side // of the moves
	Stand       Stand
	Placed      bool    // the feet stand as their stance has them
	Moved       [2]bool // by side
	Turned      int     // degrees clockwise in this frame
}

// Path is a sequence on the floor: the start, and a frame for each step.
type Path struct {
	Frames []Frame
	Body   body.Parts
}

// walker follows the feet.
type walker struct {
	g      Ground
	steps  Stance // that a step out of a level stance takes
	x      Stand
	placed bool
	led    Side   // the foot that led when the feet were last placed
	sum    int    // turned since, clockwise, degrees
	about  *Point // whom somebody alone goes round, as long as they do nothing else
}

// Walk follows the feet through steps whose footing is told, from a stance and the foot that leads in it.
func Walk(steps []notation.Step, from notation.Stance, southpaw bool, g Ground) Path {
	w := walker{g: g}
	w.steps = w.stepsInto(steps)
	lead := Left
	if from.Side == notation.Right || from.Side == "" && southpaw {
		lead = Right
	}
	w.x = w.stance(from.Name).Take(g.Body, lead)
	w.placed, w.led = true, lead
	p := Path{Body: g.Body, Frames: []Frame{{Count: -1, Beat: -1, Stand: w.x, Placed: true}}}
	for i, s := range steps {
		for time, footing := range s.Footing {
			before := w.x
			turned := 0
			for _, f := range footing {
				w.do(f)
				turned += f.Turned
			}
			w.x.settle(g.Body)
			fr := Frame{Count: s.Count, Beat: s.Beat, Time: time, Moves: []notation.Move{s.Move}, Limbs: []notation.Side{s.Limbs[time]}, Stand: w.x, Placed: w.placed, Turned: turned}
			for side := range fr.Moved {
				fr.Moved[side] = before.Feet[side].Heel.Minus(w.x.Feet[side].Heel).Length() > 1
			}
			p.add(fr, time == 0 && i > 0 && steps[i-1].Count == s.Count && steps[i-1].Beat == s.Beat)
		}
	}
	return p
}

// add adds a frame, or what happens at the same time as the last one.
func (p *Path) add(f Frame, same bool) {
	if !same {
		p.Frames = append(p.Frames, f)
		return
	}
	last := &p.Frames[len(p.Frames)-1]
	f.Moves, f.Limbs = append(last.Moves, f.Moves...), append(last.Limbs, f.Limbs...)
	f.Turned += last.Turned
	for side := range f.Moved {
		f.Moved[side] = f.Moved[side] || last.Moved[side]
	}
	f.Time = last.Time
	*last = f
}

// stepsInto is the stance that a step out of a level one takes: the fighting stance; in a form the stance it names first.
func (w *walker) stepsInto(steps []notation.Step) Stance {
	if w.g.Form {
		for _, s := range steps {
			for _, all := range s.Footing {
				for _, f := range all {
					if f.Stance.Name == "" {
						continue
					}
					if named := w.stance(f.Stance.Name); !named.Level {
						return named
					}
				}
			}
		}
	}
	return w.stance("")
}

// stance is a stance by its name; the fighting stance where it has none, or nobody knows it.
func (w *walker) stance(name string) Stance {
	if name != "" {
		if s, known := w.g.Stances(name); known {
			return s
		}
	}
	s, _ := w.g.Stances(Fighting + " stance")
	return s
}

// do does one thing with the feet.
func (w *walker) do(f notation.Footing) {
	if f.Travel != "" || f.Stance.Name != "" || f.Places != "" {
		w.x.Low = f.Travel == "drop"
	}
	if f.Travel != "circle" {
		w.about = nil
	}
	w.turn(f)
	was := w.x.Stance
	if f.Stance.Name != "" {
		w.x.Stance = w.stance(f.Stance.Name)
	} else if was.Level && f.Places != "" {
		w.x.Stance = w.steps
	}
	if f.Turned == 0 {
		w.leads(f)
	}
	switch moves, ok := side(f.Places); {
	case ok:
		w.x.Line = w.x.Facing
		if f.Out != 0 {
			w.x.Line += w.outwards(f, moves)
		}
		w.place(moves)
	case f.Travel == "switch":
		w.exchange()
	case f.Travel != "":
		w.travel(f, was)
	case f.Stance.Name != "":
		w.x.Line = w.x.Facing
		w.place(w.x.lighter())
	}
}

// leads takes over who leads.
func (w *walker) leads(f notation.Footing) {
	if f.Nobody {
		return
	}
	if w.x.Lead = Right; f.LeftLeads {
		w.x.Lead = Left
	}
}

// side is a side of the notation as a foot; false where it is neither.
func side(s notation.Side) (Side, bool) {
	return map[notation.Side]Side{notation.Left: Left, notation.Right: Right}[s], s == notation.Left || s == notation.Right
}

// outwards is how far the line of a step at an angle is turned: forward to the side of the foot that moves, back too.
func (w *walker) outwards(f notation.Footing, moves Side) float64 {
	way := moves.out()
	if goesBack(f.Travel) {
		way = -way
	}
	return way * float64(f.Out)
}

func goesBack(travel string) bool {
	return travel == "step back" || travel == "slide back" || travel == "shuffle back"
}

// lighter is the foot with less weight in the stance, which moves into it; of equal ones the front one.
func (x *Stand) lighter() Side {
	if x.Stance.OnLead > 50 {
		return x.Lead.Other()
	}
	return x.Lead
}

// place lets one foot pivot on its ball to its angle, and puts the other where the stance wants it.
func (w *walker) place(moves Side) {
	stands := moves.Other()
	w.pivot(stands)
	w.x.Feet[moves] = w.x.foot(moves, w.x.Feet[stands].Heel.Plus(w.x.apart(moves, w.g.Body)))
	w.set()
}

// set begins the turns anew from feet that stand as their stance has them.
func (w *walker) set() { w.placed, w.led, w.sum = true, w.x.Lead, 0 }

// pivot turns a foot on its ball to its angle in the stance.
func (w *walker) pivot(side Side) {
	b := w.g.Body
	ball := w.x.Feet[side].At(AtBall, b)
	turned := w.x.foot(side, Point{})
	w.x.Feet[side] = w.x.foot(side, ball.Minus(turned.At(AtBall, b)))
}

// turn turns the facing, and the feet where no foot of the same move is placed.
func (w *walker) turn(f notation.Footing) {
	if f.Turned == 0 {
		return
	}
	w.x.Facing = math.Mod(w.x.Facing+float64(f.Turned)+720, 360)
	if f.Only {
		return
	}
	led := w.led
	w.leads(f)
	w.x.Line = w.x.Facing
	w.sum = (w.sum + f.Turned) % 360
	switch {
	case w.x.Stance.Level: // the outer foot goes round the other
		outer := Left
		if f.Turned < 0 {
			outer = Right
		}
		w.place(outer)
	case w.sum == halfTurn || w.sum == -halfTurn: // the rear foot crosses to the other line
		w.place(led.Other())
	default:
		w.pivot(Left)
		w.pivot(Right)
		w.placed = w.sum == 0
	}
}

// exchange lets the feet exchange their lengths, each on its line.
func (w *walker) exchange() {
	b := w.g.Body
	w.x.Line = w.x.Facing
	middle := w.x.Feet[Left].Heel.Plus(w.x.Feet[Right].Heel).Times(.5)
	for _, side := range []Side{Left, Right} {
		w.x.Feet[side] = w.x.foot(side, middle.Plus(w.x.apart(side, b).Times(.5)))
	}
	w.set()
}

// travel moves both feet alike. was is the stance they stood in before.
func (w *walker) travel(f notation.Footing, was Stance) {
	b := w.g.Body
	begins, named := side(f.Begins)
	if !named {
		if begins = w.x.Lead; goesBack(f.Travel) {
			begins = begins.Other()
		}
	}
	far := 0.0
	switch f.Travel {
	case "step", "slide", "step back", "slide back":
		far = stepShare * b.Shoulder
	case "shuffle", "shuffle back":
		far = shuffleShare * b.Shoulder
	case "skip":
		far = max(0, was.Length*b.Shoulder-b.Foot)
	case "cross step":
		far = was.Length*b.Shoulder + b.Foot/2
	case "side step", "circle":
		w.aside(f, begins, named)
		return
	}
	way := Point{0, far}
	if goesBack(f.Travel) {
		way = Point{0, -far}
	}
	w.x.shift(way.Turned(w.x.Facing + w.outwards(f, begins)))
}

// aside steps to a side, or goes round the partner; where no way is said, to that of the named foot, else outwards of the lead.
func (w *walker) aside(f notation.Footing, begins Side, named bool) {
	to, said := side(f.Way)
	if !said {
		if to = w.x.Lead; named {
			to = begins
		}
	}
	if f.Travel == "side step" {
		w.x.shift(Point{to.out() * stepShare * w.g.Body.Shoulder, 0}.Turned(w.x.Facing))
		return
	}
	w.x.settle(w.g.Body)
	if w.about == nil {
		ahead := w.x.Mass.Plus(Point{0, circleAhead}.Turned(w.x.Facing))
		w.about = &ahead
	}
	about := *w.about
	if w.g.Partner != nil {
		about = *w.g.Partner
	}
	from := w.x.Mass.Minus(about)
	w.x.shift(from.Turned(-circles * to.out()).Minus(from)) // to the left is clockwise about the partner
}
