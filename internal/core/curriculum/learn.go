package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
)

// Apart is another technique that looks alike, and the one thing seen by which they differ.
type Apart struct {
	TechniqueID string `json:"technique"`
	Differs     string `json:"differs"` // what is seen here and not there: "both feet planted before the fist lands"
}

// Drill is a way in for learners; a technique lists its drills in order, the easiest first.
type Drill struct {
	Name string  `json:"name"`
	How  string  `json:"how,omitempty"`
	From string  `json:"from_track,omitempty"` // id of the youngest track it suits; "" any
	With Setting `json:"with,omitempty"`       // pads, bag or partner; "" it is done alone, with nothing
}

// Far is how far a student is with something.
type Far int

// How far: the first drill, one further on, and the last are for each.
const (
	Begins Far = iota // never shown
	Tries             // shown and not right yet, or in part
	Knows             // shown as it is asked
)

// DrillFor is the drill of a technique for somebody on a track who is so far: of those that suit
// the track the first, one of the middle, or the last; nil where none suits. Without drills of its
// own a variant has those of its base. A track that is not known suits what suits the youngest.
// can says whether there is what a drill is done with; nil: there is everything.
func (b *Book) DrillFor(t *Technique, track string, far Far, can func(with Setting) bool) *Drill {
	of := b.base(t, func(x *Technique) bool { return len(x.Drills) > 0 })
	place := func(id string) int {
		return max(slices.IndexFunc(b.Program.Tracks, func(x Track) bool { return x.ID == id }), 0)
	}
	var fit []*Drill
	for i := range of.Drills {
		if d := &of.Drills[i]; (d.From == "" || place(d.From) <= place(track)) && (can == nil || can(d.With)) {
			fit = append(fit, d)
		}
	}
	switch {
	case len(fit) == 0:
		return nil
	case far == Begins:
		return fit[0]
	case far == Tries:
		return fit[len(fit)/2]
	}
	return fit[len(fit)-1]
}

// Cues are the cue words of a technique, or of the one it is a variant of.
func (b *Book) Cues(t *Technique) []string {
	return b.base(t, func(x *Technique) bool { return len(x.Cues) > 0 }).Cues
}

// ToldApart says of every technique that looks like t how the two are told apart, whichever of
// them it was written at.
func (b *Book) ToldApart(t *Technique) (out []ToldApart) {
	for _, a := range t.Apart {
		if o := b.Technique(a.TechniqueID); o != nil {
			out = append(out, ToldApart{From: o.Name, Differs: a.Differs})
		}
	}
	for _, o := range b.likened[t.ID] {
		for _, a := range o.Apart {
			if a.TechniqueID == t.ID && !slices.ContainsFunc(out, func(x ToldApart) bool { return x.From == o.Name }) {
				out = append(out, ToldApart{From: o.Name, Differs: a.Differs, There: true})
			}
		}
	}
	return out
}

// ApartFaults are the faults that follow from what looks like t: to show the other one. Faults are texts of a school, and
// noted as such; so are these.
func (b *Book) ApartFaults(t *Technique) (out []Fault) {
	for _, a := range b.ToldApart(t) {
		f := Fault{Seen: "shows " + a.From + " instead", Correction: a.Differs}
		if a.There {
			f.Correction = "in " + a.From + " " + a.Differs + "; here not"
		}
		out = append(out, f)
	}
	return out
}

// drillSettings are what a drill may be done with, as it is written.
var drillSettings = []Setting{"pads", "bag", "partner"}

// ParseDrills reads one drill a line: its name, how it is done, what it is done with, and the youngest track it suits,
// with strokes between: Wall kicks | one hand on the wall, ten slow chambers | on pads | from Juniors.
func ParseDrills(lines []string, tracks []Track) (out []Drill, err error) {
	for i, line := range lines {
		parts := strings.Split(line, "|")
		d := Drill{Name: check.Tidy(parts[0])}
		for _, part := range parts[1:] {
			part = check.Tidy(part)
			name, from := strings.CutPrefix(part, "from ")
			k := slices.IndexFunc(tracks, func(t Track) bool { return check.Key(t.Name) == check.Key(name) })
			with := slices.IndexFunc(drillSettings, func(s Setting) bool { return check.Key(part) == s.Words() })
			switch {
			case with >= 0:
				d.With = drillSettings[with]
			case from && k >= 0:
				d.From = tracks[k].ID
			case from && d.How != "":
				return nil, fmt.Errorf("line %d: %q is no track of this program", i+1, name)
			case d.How != "":
				return nil, fmt.Errorf("line %d: write the name, how it is done, with what and from which track, with strokes between: Wall kicks | one hand on the wall | on pads | from Juniors", i+1)
			default:
				d.How = part
			}
		}
		out = append(out, d)
	}
	return out, nil
}

// Line is the line ParseDrills reads.
func (d Drill) Line(tracks []Track) string {
	out := d.Name
	if d.How != "" {
		out += " | " + d.How
	}
	if d.With != "" {
		out += " | " + d.With.Words()
	}
	if k := slices.IndexFunc(tracks, func(t Track) bool { return t.ID == d.From }); k >= 0 && d.From != "" {
		out += " | from " + tracks[k].Name
	}
	return out
}

// String is the drill as one says it.
func (d Drill) String() string {
	out := d.Name
	if d.How != "" {
		out += ": " + d.How
	}
	if d.With != "" {
		out += ", " + d.With.Words()
	}
	return out
}

// maxDrills bounds the drills, and the cue words, of one technique.
const maxDrills = 12

func (t *Technique) checkLearning(p *check.Problems) {
	if len(t.Drills) > maxDrills {
		p.Add("drills", "there are %d; up to %d fit", len(t.Drills), maxDrills)
	}
	if len(t.Cues) > maxDrills {
		p.Add("cues", "there are %d; up to %d fit", len(t.Cues), maxDrills)
	}
	for _, d := range t.Drills {
		p.Name("drills", d.Name)
		p.Line("drills", d.How, check.LineLength)
	}
	for _, c := range t.Cues {
		p.Line("cues", c, check.NameLength)
	}
	for _, a := range t.Apart {
		if check.Tidy(a.Differs) == "" {
			p.Add("told_apart", "say the one thing seen by which they differ")
		}
		p.Line("told_apart", a.Differs, check.LineLength)
	}
}
