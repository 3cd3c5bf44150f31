// Package starter holds general ladders of our own with which a school may begin, and how a curriculum
// is written in this program's files. They name no technique of a real system.
package starter

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// Written is a curriculum as files of the program write it: words in the order people
// read them, with names where records have ids.
type Written struct {
	Name, Language string
	Details        curriculum.ProgramDetails
	// Techniques has a line "kind | name | term | remark" for each, and indented under it
	// lines "what: value" for what else it says.
	Techniques string
	// Rungs has a line "name | kind | colour | marks | weave" for each, lowest first, and
	// indented under it its binder page; lines that begin with @ state kit and rules.
	Rungs string
}

// id is a permanent id that follows from words.
func id(words ...any) string {
	h := fnv.New64a()
	fmt.Fprintln(h, words...)
	return fmt.Sprintf("d%016x", h.Sum64())
}

// Curriculum makes the value; what is wrong in what is written is a panic with its place. Its ids follow from its words.
func (w Written) Curriculum() curriculum.Curriculum {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: id(w.Name), Name: w.Name, SecondLanguage: w.Language, ProgramDetails: w.Details}}
	for i := range c.Program.Tracks {
		c.Program.Tracks[i].ID = id(w.Name, "track", c.Program.Tracks[i].Name)
	}
	for i := range c.Program.Groups {
		c.Program.Groups[i].ID = id(w.Name, "group", c.Program.Groups[i].Name)
	}
	for _, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: id(w.Name, "section", s), Name: s, Kind: curriculum.UsualKind(s)})
	}
	pages := map[string]string{}
	for line := range strings.Lines(w.Rungs) {
		trimmed := strings.TrimSpace(line)
		switch {
		case trimmed == "":
		case strings.HasPrefix(trimmed, "@"):
			w.state(&c, &c.Rungs[len(c.Rungs)-1], strings.TrimPrefix(trimmed, "@"))
		case strings.HasPrefix(line, "\t"):
			pages[c.Rungs[len(c.Rungs)-1].ID] += trimmed + "\n"
		default:
			r := rung(trimmed)
			r.ID = id(w.Name, "rung", r.Name)
			c.Rungs = append(c.Rungs, r)
		}
	}
	w.addTechniques(&c)
	if c.Program.PermanentFrom != "" {
		c.Program.PermanentFrom = id(w.Name, "rung", c.Program.PermanentFrom)
	}
	for _, r := range c.Rungs {
		slices.SortStableFunc(r.Rules, func(x, y curriculum.Rule) int {
			return cmp.Or(cmp.Compare(slices.Index(curriculum.RuleKinds, x.Kind), slices.Index(curriculum.RuleKinds, y.Kind)), cmp.Compare(x.Of, y.Of), cmp.Compare(x.TrackID, y.TrackID))
		})
		b := binder.Open(c)
		n := 0
		next, err := b.AddPage(r.ID, b.ParsePage(pages[r.ID]), func() string { n++; return id(w.Name, r.Name, n) })
		if err != nil {
			panic(fmt.Errorf("%s, %s: %w", w.Name, r.Name, err))
		}
		c = next
	}
	return c
}

func rung(line string) curriculum.Rung {
	parts := strings.Split(line, "|")
	for i := range parts {
		parts[i] = strings.TrimSpace(parts[i])
	}
	r := curriculum.Rung{Name: parts[0], Kind: curriculum.RungKind(parts[1]), Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: parts[2]}}
	if len(parts) > 3 && parts[3] != "" {
		r.Cloth.Marks = &curriculum.BeltMarks{Place: curriculum.Tip}
		fmt.Sscan(parts[3], &r.Cloth.Marks.Count, &r.Cloth.Marks.Colour)
	}
	if len(parts) > 4 {
		var weave string
		fmt.Sscan(parts[4], &weave, &r.Cloth.Second)
		r.Cloth.Weave = curriculum.Weave(weave)
	}
	return r
}

// state reads "kit gloves; guards", "sparring limbs | targets | contact | scoring", "stripe
// Kicks #b8322c", "rule months_since 3 Cubs", "rule classes:Sparring 4" and "note …" of a rung.
func (w Written) state(c *curriculum.Curriculum, r *curriculum.Rung, line string) {
	what, value, _ := strings.Cut(line, " ")
	switch what {
	case "kit":
		r.Kit = list(value, ";")
	case "sparring":
		parts := list(value, "|")
		r.Sparring = &curriculum.SparringRule{Limbs: parts[0], Targets: parts[1], Contact: curriculum.Contact(parts[2]), Scoring: parts[3]}
	case "stripe":
		at := strings.LastIndex(value, " ")
		r.Stripes = append(r.Stripes, curriculum.SectionStripe{SectionID: id(w.Name, "section", value[:at]), Colour: value[at+1:]})
	case "rule":
		rule := curriculum.Rule{}
		var track string
		fmt.Sscan(value, &rule.Kind, &rule.Amount, &track)
		if kind, of, found := strings.Cut(string(rule.Kind), ":"); found { // "classes:Sparring 4"
			rule.Kind, rule.Of = curriculum.RuleKind(kind), of
		}
		if track != "" {
			rule.TrackID = id(w.Name, "track", track)
		}
		r.Rules = append(r.Rules, rule)
	case "note":
		r.Note = value
	default:
		panic(w.Name + ": @" + line)
	}
}

func list(s, sign string) (out []string) {
	for part := range strings.SplitSeq(s, sign) {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

func (w Written) addTechniques(c *curriculum.Curriculum) {
	for line := range strings.Lines(w.Techniques) {
		trimmed := strings.TrimSpace(line)
		switch {
		case trimmed == "":
		case strings.HasPrefix(line, "\t"):
			what, value, _ := strings.Cut(trimmed, ": ")
			w.say(&c.Techniques[len(c.Techniques)-1], what, value)
		default:
			parts := append(strings.Split(line, "|"), make([]string, 4)...)
			for i := range parts {
				parts[i] = strings.TrimSpace(parts[i])
			}
			t := curriculum.Technique{ID: id(w.Name, "technique", parts[1]), Kind: curriculum.Kind(parts[0]), Name: parts[1], Term: parts[2], Note: parts[3]}
			if t.Kind == "combination" {
				at := strings.LastIndex(t.Name, " ")
				if _, err := fmt.Sscan(t.Name[at+1:], &t.Number); err == nil {
					t.Series, t.Call = t.Name[:at], t.Number
				}
			}
			c.Techniques = append(c.Techniques, t)
		}
	}
}

// measures reads "1 wide, 1.5 long, out 0 20, on 60, bend - 10, hips 45, within 20, up, look …" of a stance, in shoulders.
func measures(value string) (d floor.Definition) {
	var p check.Problems
	number := func(s string) int {
		if s == "-" {
			return floor.Computed
		}
		return p.Whole("measures", s, -60, 150, 0)
	}
	for _, part := range list(value, ",") {
		word := append(strings.Fields(part), "", "")
		switch {
		case word[1] == "wide":
			d.Width = p.Hundredths("measures", word[0], 0, 500, 0)
		case word[1] == "long":
			d.Length = p.Hundredths("measures", word[0], 0, 500, 0)
		case word[0] == "out":
			d.OutLead, d.OutRear = number(word[1]), number(word[2])
		case word[0] == "bend":
			d.BendLead, d.BendRear = number(word[1]), number(word[2])
		case word[0] == "on":
			d.OnLead = number(word[1])
		case word[0] == "hips":
			d.Hips = number(word[1])
		case word[0] == "within":
			d.WithinWidth = number(word[1])
		case word[0] == "up":
			d.LeadHeelUp = true
		case word[0] == "toes":
			d.LengthLead, d.LengthRear = floor.Toe, floor.Toe
		case word[0] == "look":
			d.Look = strings.TrimPrefix(part, "look ")
		default:
			p.Add("measures", "%q is no measure", part)
		}
	}
	if d.Check(&p); len(p) > 0 {
		panic(fmt.Errorf("%s: %w", value, p))
	}
	return d
}

// say reads one indented line under a technique.
func (w Written) say(t *curriculum.Technique, what, value string) {
	what, rest, _ := strings.Cut(what, " ")
	name := func(s string) string { return id(w.Name, "technique", s) }
	switch what {
	case "look":
		t.Checkpoints = list(value, ";")
	case "faults":
		t.Faults = curriculum.ParseFaults(list(value, ";"))
	case "care":
		t.Cautions = list(value, ";")
	case "also":
		t.Aliases = list(value, ",")
	case "on":
		for _, s := range list(value, ",") {
			t.BuildsOn = append(t.BuildsOn, name(s))
		}
	case "is":
		for _, s := range list(value, ",") {
			t.Modifiers = append(t.Modifiers, curriculum.Modifier(s))
		}
	case "family":
		t.Family = value
	case "levels":
		for _, s := range list(value, ",") {
			t.Levels = append(t.Levels, notation.Level(s))
		}
	case "range":
		t.Range = curriculum.Zone(value)
	case "targets":
		t.Targets = list(value, ",")
	case "sides":
		t.Sides = curriculum.SidePolicy(value)
	case "surface":
		for _, s := range list(value, ",") {
			context, part, _ := strings.Cut(s, "=")
			t.Surfaces = append(t.Surfaces, curriculum.Surface{Context: context, Part: part})
		}
	case "script":
		t.Script = value
	case "measures":
		d := measures(value)
		t.Stance = &d
	case "level":
		t.Feet = notation.SideBySide
	case "returns":
		t.Returns = true
	case "terms":
		for _, s := range list(value, ",") {
			language, text, _ := strings.Cut(s, "=")
			t.Terms = append(t.Terms, curriculum.Term{Language: language, Text: text})
		}
	case "answers":
		t.Answers = list(value, ";")
	case "entry": // name = steps = sign of success
		parts := list(value, "=")
		lines := []string{parts[0]}
		for _, step := range list(parts[1], " / ") {
			lines = append(lines, "- "+step)
		}
		entries, err := curriculum.ParseEntries(append(lines, "works when: "+parts[2]))
		if err != nil {
			panic(fmt.Errorf("%s, %s: %w", w.Name, t.Name, err))
		}
		t.Entries = append(t.Entries, entries...)
	case "works":
		t.Success = list(value, ";")
	case "apart": // technique = what differs
		for _, s := range list(value, ";") {
			other, differs, _ := strings.Cut(s, "=")
			t.Apart = append(t.Apart, curriculum.Apart{TechniqueID: name(other), Differs: differs})
		}
	case "drills": // name = how = track = what it is done with
		for _, s := range list(value, ";") {
			parts := append(strings.Split(s, "="), "", "", "")
			d := curriculum.Drill{Name: parts[0], How: parts[1], With: curriculum.Setting(parts[3])}
			if parts[2] != "" {
				d.From = id(w.Name, "track", parts[2])
			}
			t.Drills = append(t.Drills, d)
		}
	case "cues":
		t.Cues = list(value, ";")
	case "youngest":
		t.YoungestTrack = id(w.Name, "track", value)
	case "open":
		t.LeavesOpen = value
	case "attack":
		attack, err := curriculum.ParseAttack(list(value, ";"))
		if err != nil {
			panic(fmt.Errorf("%s, %s: %w", w.Name, t.Name, err))
		}
		t.Attack = attack
	case "attacker":
		t.AttackMoves = value
	case "watch":
		t.AttackerLooks = list(value, ";")
	case "ends":
		t.Position = curriculum.Position(value)
	case "branch":
		for _, s := range list(value, ";") {
			when, then, _ := strings.Cut(s, "=")
			b := curriculum.Branch{When: when, Then: curriculum.Then(strings.ReplaceAll(then, " ", "_"))}
			if to, found := strings.CutPrefix(then, "go to "); found {
				b.Then, b.TechniqueID = curriculum.GoTo, name(to)
			}
			t.Branches = append(t.Branches, b)
		}
	case "part", "alter", "tail", "attach":
		t.Stages = append(t.Stages, w.stage(what, rest, value))
	default:
		panic(w.Name + ", " + t.Name + ": " + what)
	}
}

// stage reads "part", "part Orange belt", "alter 2 Green belt", "tail 3 Black belt hidden
// Extension" and "attach Black belt": what the part does, from which step, its rung, how it
// is shown and its name.
func (w Written) stage(what, rest, value string) curriculum.Stage {
	s := curriculum.Stage{Does: map[string]curriculum.Does{"part": curriculum.Appends, "alter": curriculum.Alters, "tail": curriculum.ReplacesTail, "attach": curriculum.Attaches}[what]}
	if what == "alter" || what == "tail" {
		number, after, _ := strings.Cut(rest, " ")
		fmt.Sscan(number, &s.From)
		rest = after
	}
	for _, shown := range []curriculum.Shown{curriculum.Hidden, curriculum.OpenToTry, curriculum.Taught} {
		if before, after, found := strings.Cut(rest, " "+string(shown)); found {
			rest, s.Shown, s.Name = before, shown, strings.TrimSpace(after)
		}
	}
	if rest != "" {
		s.RungID = id(w.Name, "rung", rest)
	}
	if what == "attach" {
		s.Attached = id(w.Name, "technique", value)
		return s
	}
	s.Steps = curriculum.ParseSteps(list(value, " / "))
	return s
}
