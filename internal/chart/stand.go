package chart

import (
	"fmt"
	"html"
	"math"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/floor"
)

// Stance is a stance for a body, with another definition beside it where there is one.
type Stance struct {
	Label      string // for those who cannot see it
	Definition floor.Definition
	Stand      floor.Stand
	Body       body.Parts
	Width      string // in body units, such as "1 shoulder"
	Length     string
	Other      *floor.Stand // for the same body
}

// The measures of a stance's pictures, in pixels.
const stanceWidth, stanceHeight, stanceTop, stanceRuler = 350, 430, 16, 98

// bounds are the corners of feet on a floor.
func bounds(b body.Parts, stands ...*floor.Stand) (e floor.Extent) {
	e = floor.Extent{Left: math.Inf(1), Right: math.Inf(-1), Back: math.Inf(1), Front: math.Inf(-1)}
	for _, s := range stands {
		if s == nil {
			continue
		}
		for _, f := range s.Feet {
			for _, c := range f.Outline(b) {
				e = floor.Extent{Left: min(e.Left, c.X), Right: max(e.Right, c.X), Back: min(e.Back, c.Y), Front: max(e.Front, c.Y)}
			}
		}
	}
	return e
}

// Above draws it from above: both feet with their share of the weight, where the weight stands, what carries it, and a
// ruler along and across. One square is ten centimetres.
func (s Stance) Above() string {
	e := bounds(s.Body, &s.Stand, s.Other)
	scale := min((stanceWidth-stanceRuler-30)/e.Width(), (stanceHeight-stanceTop-60)/e.Depth(), .62)
	p := plan{scale: scale}
	p.x = (stanceWidth-stanceRuler)/2.0 - (e.Left+e.Right)/2*scale
	p.y = stanceTop + (stanceHeight-stanceTop-60)/2 + (e.Back+e.Front)/2*scale
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="stance above" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, stanceWidth, stanceHeight, html.EscapeString(s.Label))
	b.WriteString(soles("sa", s.Body, scale) + p.grid(stanceWidth, stanceHeight, 100))
	b.WriteString(`<path class="carries" d="` + p.hull(s.Stand, s.Body) + `"/>`)
	if s.Other != nil {
		for side, f := range s.Other.Feet {
			b.WriteString(p.print("print other", fmt.Sprint("sa", side), f))
		}
	}
	for side, f := range s.Stand.Feet {
		class, share := "print rear", 100-s.Stand.Stance.OnLead
		if floor.Side(side) == s.Stand.Lead {
			class, share = "print lead", s.Stand.Stance.OnLead
		}
		b.WriteString(p.print(class, fmt.Sprint("sa", side), f))
		side := floor.Side(side)
		x, y := p.at(f.At(floor.AtMiddle, s.Body))
		anchor, off := "start", s.Body.FootBreadth*scale*.75+4 // inwards, where there is room
		if side == floor.Right {
			anchor, off = "end", -off
		}
		b.WriteString(label(x+off, y+5, "share", anchor, fmt.Sprintf("%d %%", share)))
	}
	x, y := p.at(s.Stand.Mass)
	fmt.Fprintf(&b, `<circle class="mass" cx="%.1f" cy="%.1f" r="9"/><circle class="mass dot" cx="%[1]f" cy="%.1[2]f" r="4"/>`, x, y)
	s.rulers(&b, p, e)
	b.WriteString(`</svg>`)
	return b.String()
}

// rulers measure between the points that the definition names.
func (s Stance) rulers(b *strings.Builder, p plan, e floor.Extent) {
	d, lead := s.Definition, s.Stand.Lead
	l, r := s.Stand.Reads(floor.Left, d.WidthFrom, s.Body), s.Stand.Reads(floor.Right, d.WidthFrom, s.Body)
	x1, _ := p.at(l)
	x2, _ := p.at(r)
	_, y := p.at(floor.Point{Y: e.Back})
	y = min(y+16, stanceHeight-40)
	b.WriteString(ruler(x1, y, x2, y))
	b.WriteString(label((x1+x2)/2, y+20, "figure", "middle", Centimetres(math.Abs(r.X-l.X))))
	b.WriteString(label((x1+x2)/2, y+36, "unit", "middle", s.Width))
	if s.Stand.Stance.Level {
		return
	}
	front, rear := s.Stand.Reads(lead, d.LengthLead, s.Body), s.Stand.Reads(lead.Other(), d.LengthRear, s.Body)
	_, y1 := p.at(front)
	_, y2 := p.at(rear)
	x := float64(stanceWidth - stanceRuler - 6)
	b.WriteString(ruler(x, y1, x, y2))
	b.WriteString(label(x+10, (y1+y2)/2, "figure", "start", Centimetres(front.Y-rear.Y)))
	b.WriteString(label(x+10, (y1+y2)/2+16, "unit", "start", s.Length))
}

// hull is the outline of what carries the weight: around both feet.
func (p plan) hull(s floor.Stand, b body.Parts) string {
	var all []floor.Point
	for _, f := range s.Feet {
		corners := f.Outline(b)
		all = append(all, corners[:]...)
	}
	var d strings.Builder
	// Round the corners: from the lowest one, always the one with no other to its right.
	start := 0
	for i, q := range all {
		if q.Y < all[start].Y || q.Y == all[start].Y && q.X < all[start].X {
			start = i
		}
	}
	for at, n := start, 0; n <= len(all); n++ {
		x, y := p.at(all[at])
		fmt.Fprintf(&d, "%s%.1f %.1f", map[bool]string{true: "M", false: "L"}[n == 0], x, y)
		next := (at + 1) % len(all)
		for i, q := range all {
			a, c := all[next].Minus(all[at]), q.Minus(all[at])
			if cross := a.X*c.Y - a.Y*c.X; cross < 0 || cross == 0 && c.Length() > a.Length() {
				next = i
			}
		}
		if at = next; at == start {
			break
		}
	}
	return d.String() + "Z"
}

// Side draws it from the side, facing right, on legs of two links: how far each knee bends and whether the front one is over
// the foot, and how far the head sinks. Front draws it from the front.
func (s Stance) Side() string { return s.upright("side", false) }

// Front draws it from the front.
func (s Stance) Front() string { return s.upright("front", true) }

func (s Stance) upright(class string, front bool) string {
	h := s.Body.Height
	scale := (stanceHeight - 70.0) / (1.04 * h)
	ground := float64(stanceHeight - 40)
	across := func(q floor.Point) float64 {
		if front {
			return -q.X // whoever is looked at from the front has the left hand at the right
		}
		return q.Y
	}
	x := func(q floor.Point) float64 { return stanceWidth/2 + across(q)*scale }
	y := func(up float64) float64 { return ground - up*scale }
	pose := s.Stand.Pose(s.Body, nil)
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="stance %s" width="%d" height="%d" viewBox="0 0 %[2]d %[3]d" role="img" aria-label="%s from the %[1]s">`, class, stanceWidth, stanceHeight, html.EscapeString(s.Label))
	s.ground(&b, ground, scale, front)
	line := func(class string, from, to floor.Place, thick float64) {
		b.WriteString(stick(class, x(from.Point), y(from.Up), x(to.Point), y(to.Up), thick*h*scale))
	}
	for _, side := range []floor.Side{s.Stand.Lead.Other(), s.Stand.Lead} {
		role := "rear"
		if side == s.Stand.Lead {
			role = "lead"
		}
		arm, leg := pose.Arms[side], pose.Legs[side]
		toe, heel := x(pose.Toes[side].Point), x(s.Stand.Feet[side].Heel)
		fmt.Fprintf(&b, `<path class="foot %s" d="M%.1f %.1fL%.1f %.1fL%.1f %[3]fL%.1[2]f %.1[3]fZ"/>`, role, heel, ground, x(leg.End.Point), y(leg.End.Up+.02*h), toe)
		line("leg "+role, leg.From, leg.Bend, thickLeg)
		line("leg "+role, leg.Bend, leg.End, thickLeg*.85)
		line("arm "+role, arm.From, arm.Bend, thickArm)
		line("arm "+role, arm.Bend, arm.End, thickArm)
	}
	line("trunk", pose.Hips, pose.Neck, thickTrunk)
	fmt.Fprintf(&b, `<circle class="head" cx="%.1f" cy="%.1f" r="%.1f"/>`, x(pose.Head.Point), y(pose.Head.Up), pose.Radius*scale)
	for side, leg := range pose.Legs {
		fmt.Fprintf(&b, `<circle class="joint" cx="%.1f" cy="%.1f" r="4.5"/>`, x(leg.Bend.Point), y(leg.Bend.Up))
		if s.Stand.Legs[side].Short == 0 {
			at, anchor := x(leg.Bend.Point)+10, "start"
			if x(leg.Bend.Point) < x(pose.Hips.Point) {
				at, anchor = at-20, "end"
			}
			b.WriteString(label(at, y(leg.Bend.Up)-6, "angle", anchor, fmt.Sprintf("%.0f°", s.Stand.Legs[side].Bend)))
		}
	}
	if !front {
		s.knee(&b, x, y, ground)
	}
	s.sunk(&b, x(pose.Head.Point), y, pose)
	b.WriteString(`</svg>`)
	return b.String()
}

// ground is the floor with a ruler in centimetres from the rearmost point of the feet.
func (s Stance) ground(b *strings.Builder, ground, scale float64, front bool) {
	e := bounds(s.Body, &s.Stand)
	from, to := e.Back, e.Front
	if front {
		from, to = -e.Right, -e.Left
	}
	fmt.Fprintf(b, `<path class="floor" d="M8 %.1fH%d"/>`, ground, stanceWidth-8)
	for cm := 0.0; cm*10 <= to-from+1; cm += 20 {
		x := stanceWidth/2 + (from+cm*10)*scale
		words := fmt.Sprint(cm)
		if cm == 0 {
			words = "0 cm"
		}
		fmt.Fprintf(b, `<path class="tick" d="M%.1f %.1fv6"/>`, x, ground)
		b.WriteString(label(x, ground+20, "tick", "middle", words))
	}
}

// knee draws the plumb line of the front knee.
func (s Stance) knee(b *strings.Builder, x func(floor.Point) float64, y func(float64) float64, ground float64) {
	leg := s.Stand.Legs[s.Stand.Lead]
	if leg.Short > 0 || s.Stand.Stance.Level {
		return
	}
	fmt.Fprintf(b, `<path class="plumb" d="M%.1f %.1fV%.1f"/>`, x(leg.At), y(leg.Up), ground)
}

// sunk draws where the head would be on straight legs.
func (s Stance) sunk(b *strings.Builder, x float64, y func(float64) float64, pose floor.Pose) {
	sinks := s.Stand.Sinks(s.Body)
	if sinks < .01*s.Body.Height {
		return
	}
	up := pose.Head.Up + sinks
	r := y(0) - y(pose.Radius)
	fmt.Fprintf(b, `<circle class="upright" cx="%.1f" cy="%.1f" r="%.1f"/>`, x, y(up), r)
	b.WriteString(ruler(x-r-14, y(up+pose.Radius), x-r-14, y(pose.Head.Up+pose.Radius)))
	b.WriteString(label(x-r-24, y(pose.Head.Up+pose.Radius)-2, "figure", "end", "sinks "+Centimetres(sinks)))
}
