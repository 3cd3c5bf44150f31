package parts

import (
	"encoding/json"
	"fmt"
	"html/template"
	"maps"
	"slices"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/words"
)

// FloorView is a technique on the floor, which a page plays.
type FloorView struct {
	ID          string
	Label       string
	Above, Side template.HTML
	Frames      string // JSON
	Steps       []FloorStep
	Facts       []Fact
	Sides       []Fact // per technique
	OneSided    []string
	Troubles    []string
	Pair        bool
	Who, Other  Someone
}

// Fact is a name with its value.
type Fact struct {
	Name, Value string
	Bad         bool
}

// FloorStep is a frame in words.
type FloorStep struct {
	Cell  int    // of the strip, from 0; −1 before the first
	Count string // what is shouted
	What  string
	How   string
	Where string // feet, place and facing, for those who cannot see it
	Notes []Note // of two people: what reaches, and what does not
	Still template.HTML
}

// Note is something to look at.
type Note struct {
	Bad  bool
	Text string
}

// Doing is what techniques do, by id.
func Doing(b *curriculum.Book) func(string) floor.Doing {
	return func(id string) floor.Doing {
		if t := b.Technique(id); t != nil {
			return floor.Doing{Act: t.Act(), Sweep: t.SweepOf()}
		}
		return floor.Doing{}
	}
}

// Scaled is a stance's picture.
func Scaled(t *curriculum.Technique, d floor.Definition, stand floor.Stand, of body.Parts) chart.Stance {
	return chart.Stance{Label: t.Name + " from above: " + words.Stance(d, stand.Stance.Level), Definition: d, Stand: stand, Body: of,
		Width: words.Span(d.Width, d.WidthUnit), Length: words.Span(d.Length, d.LengthUnit)}
}

// OnFloor is what is put on the floor, and for whom.
type OnFloor struct {
	Technique      *curriculum.Technique // nil: the line
	Line           string                // of moves, by itself
	Stage          int                   // of the technique
	View, Attacker curriculum.View
	Who, Other     Someone // Other attacks
	Hall           gradingday.Hall
}

// FloorOf puts something on the floor; a defence with its attacker. nil: it has no moves that can be followed.
func FloorOf(b *curriculum.Book, x OnFloor) *FloorView {
	t := x.Technique
	switch {
	case t == nil:
		return walked(b, x.Line, b.LineOnFloor(x.Line, x.View, x.Who.Body), false, x)
	case t.Defends():
		if m := b.Meet(t, x.Stage, x.View, x.Attacker, x.Who.Body, x.Other.Body); m != nil {
			return pairOnFloor(t, m, x.Who, x.Other)
		}
		return nil
	}
	return walked(b, t.Name, b.OnFloor(t, x.Stage, x.View, x.Attacker, x.Who.Body), t.Returns, x)
}

// walked is what somebody walks alone.
func walked(b *curriculum.Book, name string, f *curriculum.Floored, returns bool, x OnFloor) *FloorView {
	if f == nil || len(f.Path.Frames) < 2 {
		return nil
	}
	out := &FloorView{ID: "floor", Label: name + " on the floor, from above, for " + x.Who.Words, Who: x.Who}
	out.facts(returns, &f.Path, x.Hall)
	if n := len(f.Path.Frames); n > mostFrames {
		out.Troubles = append(out.Troubles, fmt.Sprintf("It has %d steps; the first %d are drawn.", n-1, mostFrames-1))
		f.Path.Frames = f.Path.Frames[:mostFrames]
	}
	scene := chart.Scene{ID: "p", Label: out.Label, Actors: []chart.Actor{chart.Alone(&f.Path, Doing(b))}}
	out.tell(f)
	scene.Counts = counts(f)
	out.draw(&scene)
	return out
}

// mostFrames bounds what one page plays.
const mostFrames = 250

// draw draws a scene at its start, with all its frames.
func (v *FloorView) draw(s *chart.Scene) {
	v.Above, v.Side = template.HTML(s.Above(0)), template.HTML(s.Side(0))
	text, err := json.Marshal(s.Frames())
	if err != nil {
		panic(err) // whole numbers and digits
	}
	v.Frames = string(text)
}

// counts are the shouted numbers beside the feet that move in a frame; of a line that is one count, the steps.
func counts(f *curriculum.Floored) (out []string) {
	last := f.Strip[len(f.Strip)-1].Count
	for i, frame := range f.Path.Frames {
		text := ""
		if i > 0 && (frame.Moved[0] || frame.Moved[1]) {
			if text = fmt.Sprint(i); last > 1 {
				text = fmt.Sprint(f.Strip[f.Cells[i]].Count)
			}
		}
		out = append(out, text)
	}
	return out
}

// tell says each frame in words.
func (v *FloorView) tell(f *curriculum.Floored) {
	for i := range f.Path.Frames {
		fr := &f.Path.Frames[i]
		s := FloorStep{Cell: f.Cells[i], What: "before", Where: words.Standing(&fr.Stand, f.Path.Body)}
		if at := f.Cells[i]; at >= 0 {
			c := f.Strip[at]
			s.Count, s.What, s.How = fmt.Sprint(c.Count), c.What, c.How
			if n := len(f.Path.Frames); i+1 < n && f.Cells[i+1] == at || fr.Time > 0 {
				s.What = fmt.Sprintf("%s (%d)", c.What, fr.Time+1)
			}
		}
		v.Steps = append(v.Steps, s)
	}
}

// facts are what a path measures.
func (v *FloorView) facts(returns bool, p *floor.Path, hall gradingday.Hall) {
	e := p.Extent()
	size := fmt.Sprintf("%s × %s m", check.Hundredths(hall.WidthCM), check.Hundredths(hall.DepthCM))
	v.Facts = append(v.Facts, Fact{Name: "Room for one", Value: fmt.Sprintf("%.1f × %.1f m", e.Width()/1000, e.Depth()/1000)},
		Fact{Name: "In a hall of " + size, Value: fmt.Sprintf("%d at once", p.AtOnce(float64(hall.WidthCM*10), float64(hall.DepthCM*10)))},
		Fact{Name: "Ends, from its start", Value: words.Away(p.Ends()), Bad: returns && !p.Returns(0)})
	if last := p.Frames[len(p.Frames)-1].Stand.Facing; last != 0 {
		v.Facts = append(v.Facts, Fact{Name: "Ends facing", Value: words.Facing(last)})
	}
	if turns := p.Turns(); len(turns) > 0 {
		text := ""
		for _, by := range slices.Backward(slices.Sorted(maps.Keys(turns))) {
			if text != "" {
				text += ", "
			}
			text += fmt.Sprintf("%d of %d°", turns[by], by)
		}
		v.Facts = append(v.Facts, Fact{Name: "Turns", Value: text})
	}
	head := Fact{Name: "Head", Value: "stays level"}
	if at := p.Most(); at > 0 {
		way := "rises"
		by := p.Rises(at)
		if by < 0 {
			way, by = "sinks", -by
		}
		head.Value = fmt.Sprintf("%s %s at count %d", way, chart.Centimetres(by), p.Frames[at].Count+1)
	}
	v.Facts = append(v.Facts, head)
	for _, s := range p.Sides() {
		f := Fact{Name: s.Name, Value: fmt.Sprintf("%d left · %d right", s.Left, s.Right)}
		if s.Both > 0 {
			f.Value += fmt.Sprintf(" · %d both", s.Both)
		}
		if s.Left+s.Right+s.Both == 0 {
			f.Value = fmt.Sprint(s.Other)
		}
		v.Sides = append(v.Sides, f)
		if s.OneSided() && s.Left+s.Right > 1 {
			side := "left"
			if s.Left == 0 {
				side = "right"
			}
			v.OneSided = append(v.OneSided, fmt.Sprintf("%s is only ever done with the %s.", s.Name, side))
		}
	}
}

// pairOnFloor is a defence with its attacker.
func pairOnFloor(t *curriculum.Technique, m *curriculum.Together, who, other Someone) *FloorView {
	out := &FloorView{ID: "floor", Label: fmt.Sprintf("%s on the floor, from above: %s defends, %s attacks", t.Name, who.Words, other.Words), Pair: true, Who: who, Other: other}
	scene := chart.Scene{ID: "p", Label: out.Label, Actors: chart.Pair(&m.Met, &m.Pair), Lines: true, Around: 350}
	out.tell(m.Defence)
	scene.Counts = counts(m.Defence)
	out.draw(&scene)
	for i := range m.Moments {
		x := &m.Moments[i]
		s := &out.Steps[i]
		s.Notes = append(s.Notes, Note{Text: momentWords(x, i)})
		for _, touch := range x.Touches {
			if touch.Act == floor.Block {
				continue
			}
			who, far := "The ", max(touch.Short, -touch.Short)
			if !touch.ByDefender {
				who = "The attacker’s "
			}
			name := fmt.Sprintf("%s%s %s", who, touch.Limb, words.Lower(touch.Name))
			if touch.Short > reaches {
				s.Notes = append(s.Notes, Note{touch.ByDefender, fmt.Sprintf("%s is %s short", name, chart.Centimetres(far))})
				if touch.ByDefender {
					out.Troubles = append(out.Troubles,
						fmt.Sprintf("At %d the %s is %s short, unless the attacker is pulled in: say “pull” or step.", i, words.Lower(touch.Name), chart.Centimetres(far)))
				}
			} else {
				s.Notes = append(s.Notes, Note{Text: fmt.Sprintf("%s reaches, %s to spare", name, chart.Centimetres(far))})
			}
		}
	}
	out.pairFacts(m)
	out.rangeFact(t, m)
	return out
}

// reaches is up to how much too far something still reaches, in millimetres: what a shoulder gives.
const reaches = 30

// momentWords say how far apart two are.
func momentWords(x *floor.Moment, i int) string {
	zone := "out of range"
	if x.Zone != "" {
		zone = x.Zone + " range"
	}
	if i == 0 || alike(x.Distance, x.Before) {
		return fmt.Sprintf("%s apart, %s", chart.Centimetres(x.Distance), zone)
	}
	return fmt.Sprintf("from %s to %s apart, %s", chart.Centimetres(x.Before), chart.Centimetres(x.Distance), zone)
}

// alike reports whether two ways are shown alike.
func alike(a, b float64) bool { return chart.Centimetres(a) == chart.Centimetres(b) }

// rangeFact holds the range that is stated against where the defender's own techniques come.
func (v *FloorView) rangeFact(t *curriculum.Technique, m *curriculum.Together) {
	var zones []string
	for _, x := range m.Moments {
		zone := x.Zone
		if zone == "" {
			zone = "out of range"
		}
		acts := slices.ContainsFunc(x.Touches, func(c floor.Touch) bool { return c.ByDefender && c.Act != floor.Block })
		if acts && !slices.Contains(zones, zone) {
			zones = append(zones, zone)
		}
	}
	if len(zones) == 0 {
		return
	}
	f := Fact{Name: "Answers come at", Value: strings.Join(zones, ", ")}
	if t.Range != "" {
		f.Value += "; stated " + string(t.Range)
		f.Bad = !slices.Contains(zones, string(t.Range))
	}
	v.Facts = append(v.Facts, f)
}

// pairFacts are what two people on one floor measure.
func (v *FloorView) pairFacts(m *curriculum.Together) {
	v.Facts = []Fact{{Name: "Attacker", Value: v.Other.Words}, {Name: "Defender", Value: v.Who.Words},
		{Name: "They begin", Value: chart.Centimetres(m.Start) + " apart"}, {Name: "Leaves the line by", Value: chart.Centimetres(m.Leaves)}}
	side := Fact{Name: "At the first contact", Value: "neither inside nor outside"}
	if m.Side != "" {
		side.Value = string(m.Side) + " the attacking limb, by the feet"
		if m.ByHand {
			side.Value = string(m.Side) + " the attacking limb, by the blocking hand"
		}
	}
	v.Facts = append(v.Facts, side)
	if m.Stated != "" {
		stated := Fact{Name: "Stated", Value: string(m.Stated)}
		switch {
		case m.Opposite:
			stated.Value, stated.Bad = stated.Value+", which is not so", true
		case m.Side == floor.Reached(m.Stated):
			stated.Value += ", and so it is"
		}
		v.Facts = append(v.Facts, stated)
	}
}
