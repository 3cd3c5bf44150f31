package curriculum

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// Invalid is something that makes a curriculum impossible to hold, with its place.
type Invalid struct {
	Path string // JSON path, such as $.techniques[3].stages[1].rung
	Text string
}

// Error gives place and problem.
func (x Invalid) Error() string { return x.Path + ": " + x.Text }

// Limits of one curriculum, far above any school's.
const (
	MaxRungs        = 200
	MaxTechniques   = 20_000
	MaxRequirements = 50_000
)

type validator struct {
	*Book
	found []Invalid
}

func (v *validator) add(path, format string, args ...any) {
	v.found = append(v.found, Invalid{path, fmt.Sprintf(format, args...)})
}

func (v *validator) problems(path string, p check.Problems) {
	for _, x := range p {
		v.add(path+"."+x.Field, "%s", x.Text)
	}
}

// Validate says all that is wrong with a curriculum: ids that are missing or stand twice,
// names that stand twice, references that lead nowhere, circles in what builds on what,
// lines of moves that cannot be read. A curriculum without findings can be put on record.
func (c Curriculum) Validate() []Invalid {
	v := &validator{Book: Open(c)}
	v.ids()
	if len(v.found) > 0 {
		return v.found // references cannot be told apart
	}
	v.problems("$.program", c.Program.Check())
	for i, t := range c.Program.Tracks {
		if t.ID == "" {
			v.add(fmt.Sprintf("$.program.tracks[%d].id", i), "is empty")
		}
	}
	if p := c.Program.PermanentFrom; p != "" && v.Rung(p) == nil {
		v.add("$.program.permanent_from", "%q is no rung of this ladder", p)
	}
	for i, x := range c.Sections {
		if x.Kind != "" && !slices.Contains(Kinds, x.Kind) {
			v.add(fmt.Sprintf("$.sections[%d].kind", i), "%q is no kind of technique", x.Kind)
		}
	}
	v.named("$.sections", len(c.Sections), func(i int) string { return c.Sections[i].Name })
	v.named("$.rungs", len(c.Rungs), func(i int) string { return c.Rungs[i].Name })
	for i, r := range c.Rungs {
		path := fmt.Sprintf("$.rungs[%d]", i)
		v.problems(path, r.Check())
		v.rules(path, r.Rules)
		for j, s := range r.Stripes {
			if v.Section(s.SectionID) == nil {
				v.add(fmt.Sprintf("%s.section_stripes[%d].section", path, j), "%q is no section of this program", s.SectionID)
			}
		}
	}
	v.names()
	for i := range c.Techniques {
		v.technique(fmt.Sprintf("$.techniques[%d]", i), &c.Techniques[i])
	}
	v.circles()
	for i := range c.Requirements {
		v.requirement(fmt.Sprintf("$.requirements[%d]", i), &c.Requirements[i])
	}
	return v.found
}

// ids refuses ids that are missing, malformed or stand twice, whatever they belong to.
func (v *validator) ids() {
	seen := map[string]string{}
	take := func(path, id string) {
		switch {
		case id == "":
			v.add(path, "is empty; every record needs an id")
		case len(id) > 64 || strings.Trim(id, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_") != "":
			v.add(path, "%q is not an id; up to 64 letters, digits, hyphens and underscores", id)
		case seen[id] != "":
			v.add(path, "%q stands twice; it is the id of %s too", id, seen[id])
		}
		seen[id] = strings.TrimSuffix(path, ".id")
	}
	c := &v.Curriculum
	if len(c.Rungs) > MaxRungs || len(c.Techniques) > MaxTechniques || len(c.Requirements) > MaxRequirements {
		v.add("$", "holds %d rungs, %d techniques and %d requirements; up to %d, %d and %d fit", len(c.Rungs), len(c.Techniques), len(c.Requirements), MaxRungs, MaxTechniques, MaxRequirements)
		return
	}
	take("$.program.id", c.Program.ID)
	for i, t := range c.Program.Tracks {
		take(fmt.Sprintf("$.program.tracks[%d].id", i), t.ID)
	}
	for i, g := range c.Program.Groups {
		take(fmt.Sprintf("$.program.sample_groups[%d].id", i), g.ID)
	}
	for i, s := range c.Sections {
		take(fmt.Sprintf("$.sections[%d].id", i), s.ID)
	}
	for i, r := range c.Rungs {
		take(fmt.Sprintf("$.rungs[%d].id", i), r.ID)
	}
	for i, t := range c.Techniques {
		take(fmt.Sprintf("$.techniques[%d].id", i), t.ID)
	}
	for i, r := range c.Requirements {
		take(fmt.Sprintf("$.requirements[%d].id", i), r.ID)
	}
}

func (v *validator) named(path string, n int, name func(int) string) {
	seen := map[string]int{}
	for i := range n {
		key := check.Key(name(i))
		var p check.Problems
		if p.Name("name", name(i)); len(p) > 0 {
			v.problems(fmt.Sprintf("%s[%d]", path, i), p)
		}
		if first, there := seen[key]; there {
			v.add(fmt.Sprintf("%s[%d].name", path, i), "%q is the name of %s[%d] too", name(i), path, first)
		}
		seen[key] = i
	}
}

// names refuses names and aliases that two techniques share.
func (v *validator) names() {
	seen := map[string]int{}
	for i, t := range v.Techniques {
		for j, name := range append([]string{t.Name}, t.Aliases...) {
			key := check.Key(name)
			if first, there := seen[key]; there && first != i {
				field := "name"
				if j > 0 {
					field = fmt.Sprintf("aliases[%d]", j-1)
				}
				v.add(fmt.Sprintf("$.techniques[%d].%s", i, field), "%q is what %s is called already", name, v.Techniques[first].Name)
			}
			seen[key] = i
		}
	}
}

// technique checks one technique and where it points.
func (v *validator) technique(path string, t *Technique) {
	v.problems(path, t.Check())
	known := func(where, id string) {
		if v.Technique(id) == nil {
			v.add(path+where, "%q is no technique of this program", id)
		} else if id == t.ID {
			v.add(path+where, "%s cannot lead to itself", t.Name)
		}
	}
	for i, id := range t.BuildsOn {
		known(fmt.Sprintf(".builds_on[%d]", i), id)
	}
	if t.YoungestTrack != "" && v.Track(t.YoungestTrack) == nil {
		v.add(path+".youngest_track", "%q is no track of this program", t.YoungestTrack)
	}
	for i, a := range t.Attack {
		if !slices.Contains(AttackKinds, a.Kind) && !slices.Contains(v.Program.Own(), a.Kind) {
			v.add(fmt.Sprintf("%s.attack[%d].kind", path, i), "%q is none of the usual attacks, and the program has not added it", a.Kind)
		}
	}
	for i, s := range t.Stages {
		where := fmt.Sprintf(".stages[%d]", i)
		if s.RungID != "" && v.Rung(s.RungID) == nil {
			v.add(path+where+".rung", "%q is no rung of this ladder", s.RungID)
		}
		if s.Attached != "" {
			known(where+".attached", s.Attached)
		}
		before := len(t.StepsAt(i))
		if (s.Does == Alters || s.Does == ReplacesTail) && s.From > before {
			v.add(path+where+".from", "is %d, but the stages before have only %d steps", s.From, before)
		}
		v.steps(path, t, v.told(t, i+1, "", -1), i+1)
	}
	for _, e := range t.Entries {
		v.steps(path, t, v.told(t, len(t.Stages), e.Name, -1), 0)
	}
	for i, b := range t.Branches {
		if b.TechniqueID != "" && v.Technique(b.TechniqueID) == nil {
			v.add(fmt.Sprintf("%s.branches[%d].technique", path, i), "%q is no technique of this program", b.TechniqueID)
		}
	}
	for i, a := range t.Apart {
		known(fmt.Sprintf(".told_apart[%d].technique", i), a.TechniqueID)
	}
	for i, d := range t.Drills {
		if d.With != "" && !slices.Contains(drillSettings, d.With) {
			v.add(fmt.Sprintf("%s.drills[%d].with", path, i), "must be one of pads, bag, partner, or left out")
		}
		if d.From != "" && v.Track(d.From) == nil {
			v.add(fmt.Sprintf("%s.drills[%d].from_track", path, i), "%q is no track of this program", d.From)
		}
	}
	for i, clip := range t.Clips {
		if clip.From != "" && v.Rung(clip.From) == nil {
			v.add(fmt.Sprintf("%s.clips[%d].from", path, i), "%q is no rung of this ladder", clip.From)
		}
	}
	v.moves(path+".attack_moves", t.AttackMoves)
}

// steps refuses steps of a stage, or with 0 of an entry, that cannot be read.
func (v *validator) steps(path string, t *Technique, x *told, stage int) {
	for _, d := range x.doubts {
		s := x.steps[d.step]
		if d.reason == nil || s.Of != "" || s.Stage != stage || s.Number == 0 {
			continue
		}
		where := fmt.Sprintf(".stages[%d].steps[%d].moves", stage-1, s.Number-1)
		if stage == 0 {
			at := slices.IndexFunc(t.Entries, func(e Entry) bool { return e.Name == s.Entry })
			where = fmt.Sprintf(".entries[%d].steps[%d].moves", at, s.Number-1)
		}
		v.add(path+where, "%s", d.reason)
	}
}

func (v *validator) moves(path, line string) {
	if line == "" {
		return
	}
	if _, err := v.Read(line); err != nil {
		v.add(path, "%s", err)
	}
}

// circles refuses techniques that build on themselves by way of others.
func (v *validator) circles() {
	const walking, done = 1, 2
	state := make([]int, len(v.Techniques))
	var trail []int
	var visit func(i int) bool
	visit = func(i int) bool {
		switch state[i] {
		case done:
			return false
		case walking:
			names := []string{}
			for _, k := range trail[slices.Index(trail, i):] {
				names = append(names, v.Techniques[k].Name)
			}
			v.add(fmt.Sprintf("$.techniques[%d].builds_on", trail[len(trail)-1]), "goes round in a circle: %s, and back to %s", strings.Join(names, " builds on "), v.Techniques[i].Name)
			return true
		}
		state[i] = walking
		trail = append(trail, i)
		for _, id := range v.Techniques[i].BuildsOn {
			if k, there := v.Book.techniques[id]; there && k != i && visit(k) {
				break
			}
		}
		trail = trail[:len(trail)-1]
		state[i] = done
		return false
	}
	for i := range v.Techniques {
		visit(i)
	}
}

func (v *validator) requirement(path string, r *Requirement) {
	v.problems(path, r.Check())
	for _, x := range []struct {
		field, id string
		there     bool
		what      string
	}{
		{"rung", r.RungID, v.Rung(r.RungID) != nil, "rung of this ladder"}, {"section", r.SectionID, v.Section(r.SectionID) != nil, "section of this program"},
		{"technique", r.TechniqueID, v.Technique(r.TechniqueID) != nil, "technique of this program"},
	} {
		if !x.there {
			v.add(path+"."+x.field, "%q is no %s", x.id, x.what)
		}
	}
	v.points(path, r)
}

// points checks where a requirement's carry and tracks point.
func (v *validator) points(path string, r *Requirement) {
	if r.Carry.Rung != "" && v.Rung(r.Carry.Rung) == nil {
		v.add(path+".carry.rung", "%q is no rung of this ladder", r.Carry.Rung)
	}
	if r.Carry.Group != "" && v.Group(r.Carry.Group) == nil {
		v.add(path+".carry.group", "%q is no sample group of this program", r.Carry.Group)
	}
	if to := v.Rung(r.Carry.Rung); to != nil && v.Rung(r.RungID) != nil && to.Position < v.Rung(r.RungID).Position {
		v.add(path+".carry.rung", "%s is below %s; a line is carried upwards", to.Name, v.Rung(r.RungID).Name)
	}
	for i, t := range r.Tracks {
		if v.Track(t.TrackID) == nil {
			v.add(fmt.Sprintf("%s.tracks[%d].track", path, i), "%q is no track of this program", t.TrackID)
		}
	}
}

// With is the book with one technique put in the place of the one with its id, or added.
func (b *Book) With(t Technique) *Book {
	c := b.Curriculum
	c.Techniques = slices.Clone(c.Techniques)
	if i, there := b.techniques[t.ID]; there {
		c.Techniques[i] = t
	} else {
		c.Techniques = append(c.Techniques, t)
	}
	return Open(c)
}

// CheckTechnique notes what is wrong with a technique in its program: where it points, and
// the lines of moves. Fields are those of Technique.Check, with stage_0 … for the stages.
func (b *Book) CheckTechnique(t Technique) check.Problems {
	v := &validator{Book: b.With(t)}
	const path = "$"
	v.technique(path, v.Technique(t.ID))
	if len(v.found) == 0 {
		v.circles()
	}
	var p check.Problems
	for _, x := range v.found {
		field := strings.TrimPrefix(x.Path, path+".")
		if i := strings.Index(field, "builds_on"); i >= 0 {
			field = "builds_on"
		}
		name, rest, _ := strings.Cut(field, "[")
		text := x.Text
		if name == "entries" {
			var entry, step int
			if _, err := fmt.Sscanf(field, "entries[%d].steps[%d]", &entry, &step); err == nil {
				text = fmt.Sprintf("%s, step %d, %s", t.Entries[entry].Name, step+1, text)
			}
		}
		if name == "stages" {
			var stage, step int
			fmt.Sscanf(rest, "%d]", &stage)
			if _, err := fmt.Sscanf(field, "stages[%d].steps[%d]", &stage, &step); err == nil {
				text = fmt.Sprintf("step %d, %s", step+1, text)
			}
			name = fmt.Sprintf("stage_%d", stage)
		}
		p.Add(name, "%s", text)
	}
	return p
}

// Renamed gives back the techniques, but for t itself, whose lines of moves name t and must
// be written anew because t has another name or other aliases now.
func (b *Book) Renamed(t Technique) (out []Technique) {
	old := b.Technique(t.ID)
	if old == nil || old.Name == t.Name && slices.Equal(old.Aliases, t.Aliases) {
		return nil
	}
	now := b.With(t)
	if b.Catalogue == nil || now.Catalogue == nil {
		return nil
	}
	anew := func(line string) (string, bool) {
		seq, err := b.Read(line)
		if line == "" || err != nil {
			return line, false
		}
		names := false
		seq.All(func(_, _ int, m *notation.Move) { names = names || m.Technique == t.ID || stanceOf(m.In, old) })
		names = names || stanceOf(seq.From, old)
		if !names {
			return line, false
		}
		if back, err := now.Catalogue.Parse(line); err == nil && now.Catalogue.Print(back) == now.Catalogue.Print(renamed(seq, old, t)) {
			return line, false // still read as before
		}
		return now.Catalogue.Print(renamed(seq, old, t)), true
	}
	for _, x := range b.Techniques {
		if x.ID == t.ID {
			continue
		}
		changed := false
		all := func(steps []Step) []Step {
			out := slices.Clone(steps)
			for i := range out {
				line, other := anew(out[i].Moves)
				out[i].Moves = line
				changed = changed || other
			}
			return out
		}
		x.Stages, x.Entries = slices.Clone(x.Stages), slices.Clone(x.Entries)
		for i := range x.Stages {
			x.Stages[i].Steps = all(x.Stages[i].Steps)
		}
		for i := range x.Entries {
			x.Entries[i].Steps = all(x.Entries[i].Steps)
		}
		line, other := anew(x.AttackMoves)
		x.AttackMoves = line
		note, otherNote := anew(x.Note)
		x.Note = note
		if changed || other || otherNote {
			out = append(out, x)
		}
	}
	return out
}

// renamed is a sequence with the new name of a technique.
func renamed(seq notation.Sequence, old *Technique, t Technique) notation.Sequence {
	out := seq.Clone()
	if stanceOf(out.From, old) {
		out.From.Name = t.Name
	}
	out.All(func(_, _ int, m *notation.Move) {
		if m.Technique == t.ID {
			m.Name = t.Name
		}
		if stanceOf(m.In, old) {
			m.In.Name = t.Name
		}
	})
	return out
}

// stanceOf reports whether a stance that a line names is a technique.
func stanceOf(s notation.Stance, t *Technique) bool {
	return t.Kind == "stance" && s.Feet != "" && s.Name == t.Name
}

// CheckCarry notes where a requirement points at nothing in its program: carry, tracks.
func (b *Book) CheckCarry(r Requirement) check.Problems {
	v := &validator{Book: b}
	v.points("$", &r)
	var p check.Problems
	for _, x := range v.found {
		field, _, _ := strings.Cut(strings.TrimPrefix(x.Path, "$."), ".")
		field, _, _ = strings.Cut(field, "[")
		p.Add(field, "%s", x.Text)
	}
	return p
}
