package curriculum

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

type techniqueEditView struct {
	Technique  curriculum.Technique // its ID is "" for a new one
	Program    string
	Form       frame.Form
	Language   string
	Kinds      []frame.Option
	Contexts   []string
	Modifiers  []frame.Option
	Levels     []frame.Option
	Ranges     []frame.Option
	Positions  []frame.Option
	Sweeps     []frame.Option
	Sides      []frame.Option
	Tracks     []frame.Option
	Rungs      []frame.Option
	Does       []frame.Option
	Shown      []frame.Option
	Stages     []int
	Techniques []curriculum.Technique
	SideMeans  []frame.Option
	Feet       []frame.Option
	Twosome    bool // attack and branches are open at once
}

func (ch *chapter) techniquesNew(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if p.ID == "" {
		ch.Message(w, r, http.StatusConflict, "There is no program yet", "Techniques belong to a program. Add the first program, then come back.")
		return
	}
	ch.techniqueForm(w, r, http.StatusOK, curriculum.Technique{ProgramID: p.ID}, frame.Form{Values: frame.Values("program", p.ID, "kind", "strike")})
}

func (ch *chapter) techniquesEdit(w http.ResponseWriter, r *http.Request) {
	ch.techniqueEdit(w, r, http.StatusOK, frame.Form{})
}

// techniqueEdit shows the form of a technique on record, with what was typed where it was
// refused.
func (ch *chapter) techniqueEdit(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	t, b, ok := ch.techniqueBook(w, r)
	if !ok {
		return
	}
	ch.techniqueForm(w, r, status, *t, f.Filled(techniqueValues(t, b)))
}

func (ch *chapter) techniqueForm(w http.ResponseWriter, r *http.Request, status int, t curriculum.Technique, f frame.Form) {
	program := t.ProgramID
	if program == "" {
		program = f.Get("program")
	}
	b, err := ch.records.Book(r.Context(), program)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := techniqueEditView{Technique: t, Program: program, Form: f, Language: b.Program.SecondLanguage,
		Kinds: frame.Options(curriculum.Kinds, curriculum.Kind.Words), Contexts: curriculum.SurfaceContexts, Techniques: b.Techniques,
		Modifiers: frame.Options(curriculum.Modifiers, func(m curriculum.Modifier) string { return string(m) }),
		Levels:    levelOptions[1:],
		Ranges:    append([]frame.Option{{Value: "", Label: "not said"}}, frame.Options(curriculum.Zones, func(z curriculum.Zone) string { return string(z) })...),
		Positions: append([]frame.Option{{Value: "", Label: "not said"}}, frame.Options(curriculum.Positions, func(p curriculum.Position) string { return string(p) + " the attacker’s arm" })...),
		Sides:     frame.Options(curriculum.SidePolicies, curriculum.SidePolicy.Words),
		SideMeans: sideMeans("as the program says"),
		Feet: []frame.Option{{Value: "", Label: "as its name usually means"},
			{Value: string(notation.OneLeads), Label: "one foot in front"}, {Value: string(notation.SideBySide), Label: "side by side: nobody leads"}},
		Sweeps: append([]frame.Option{{Value: "", Label: "as its name says"}}, frame.Options(floor.Sweeps, func(s floor.Sweep) string { return string(s) })...),
		Tracks: []frame.Option{{Value: "", Label: "any"}},
		Rungs:  []frame.Option{{Value: "", Label: "with whatever rung asks for it first"}},
		Does:   frame.Options([]curriculum.Does{curriculum.Appends, curriculum.Alters, curriculum.ReplacesTail, curriculum.Attaches}, curriculum.Does.Words),
		Shown:  append([]frame.Option{{Value: "", Label: "taught below its rung too"}}, frame.Options([]curriculum.Shown{curriculum.OpenToTry, curriculum.Hidden}, curriculum.Shown.Words)...),
	}
	v.Sides[0].Value = ""
	if v.Language == "" {
		v.Language = "another language"
	}
	for _, x := range b.Program.Tracks {
		v.Tracks = append(v.Tracks, frame.Option{Value: x.ID, Label: x.Name + " (" + x.Ages() + ")"})
	}
	for _, x := range b.Rungs {
		v.Rungs = append(v.Rungs, frame.Option{Value: x.ID, Label: x.Name})
	}
	for i := range stageRows(f.Values) + 1 {
		v.Stages = append(v.Stages, i)
	}
	kind := curriculum.Kind(f.Get("kind"))
	v.Twosome = kind == "self_defence" || kind == "partner_set" || f.Get("attack") != ""
	title := "A new technique"
	if t.ID != "" {
		title = "Change " + t.Name
	}
	ch.Show(w, r, status, program, frame.Page{Screen: "technique_edit", Title: title, Nav: "techniques", Body: v})
}

// stageRows is how many parts a form holds; one that says nothing is none.
func stageRows(v url.Values) (n int) {
	for name := range v {
		var i int
		if _, err := fmt.Sscanf(name, "stage_%d_steps", &i); err == nil && i < 100 && (strings.TrimSpace(v.Get(name)) != "" || v.Get(fmt.Sprintf("stage_%d_attached", i)) != "") {
			n = max(n, i+1)
		}
	}
	return n
}

// techniqueValues fills the form from a technique.
func techniqueValues(t *curriculum.Technique, b *curriculum.Book) url.Values {
	lines := func(list []string) string { return strings.Join(list, "\n") }
	name := func(id string) string {
		if x := b.Technique(id); x != nil {
			return x.Name
		}
		return ""
	}
	v := frame.Values("program", t.ProgramID, "name", t.Name, "kind", string(t.Kind), "term", t.Term, "script", t.Script, "note", t.Note, "aliases", strings.Join(t.Aliases, ", "),
		"checkpoints", lines(t.Checkpoints), "cautions", lines(t.Cautions), "series", t.Series, "number", parts.Positive(t.Number), "call", parts.Positive(t.Call), "family", t.Family,
		"range", string(t.Range), "targets", strings.Join(t.Targets, ", "), "angle", t.Angle, "difficulty", parts.Positive(t.Difficulty), "sides", string(t.Sides), "youngest_track", t.YoungestTrack,
		"advised", strings.Join(t.AdvisedIn, ", "), "skill_only", strings.Join(t.SkillOnly, ", "),
		"leaves_open", t.LeavesOpen, "covered_by", t.CoveredBy, "set_up_by", t.SetUpBy,
		"followed_by", t.FollowedBy,
		"success", lines(t.Success), "answers", lines(t.Answers), "attack_moves", t.AttackMoves,
		"attacker_looks", lines(t.AttackerLooks), "position", string(t.Position),
		"side_means", string(t.SideMeans), "feet", string(t.Feet),
		"sweep", string(t.Sweep), "returns", parts.Word(t.Returns), "start_apart", parts.Positive(t.StartApart))
	if t.Sides == curriculum.BothSides {
		v.Set("sides", "")
	}
	var on, branches, clips, apart, drills []string
	for _, id := range t.BuildsOn {
		on = append(on, name(id))
	}
	for _, x := range t.Branches {
		branches = append(branches, strings.TrimSpace(x.When+" → "+x.Then.Words()+" "+name(x.TechniqueID)))
	}
	for _, x := range t.Clips {
		clips = append(clips, clipLine(x, b))
	}
	for _, x := range t.Apart {
		apart = append(apart, name(x.TechniqueID)+": "+x.Differs)
	}
	for _, x := range t.Drills {
		drills = append(drills, x.Line(b.Program.Tracks))
	}
	for field, list := range map[string][]string{"told_apart": apart, "drills": drills, "cues": t.Cues,
		"faults": linesOf(t.Faults), "attack": linesOf(t.Attack), "terms": termLines(t.Terms), "branches": branches, "clips": clips, "entries": linesOf(t.Entries), "parts": linesOf(t.Parts)} {
		v.Set(field, lines(list))
	}
	v.Set("builds_on", strings.Join(on, ", "))
	for _, m := range t.Modifiers {
		v.Add("modifiers", string(m))
	}
	for _, l := range t.Levels {
		v.Add("levels", string(l))
	}
	for _, s := range t.Surfaces {
		v.Set("surface_"+s.Context, s.Part)
	}
	for i, s := range t.Stages {
		stageValues(v, fmt.Sprintf("stage_%d_", i), s, name)
	}
	return v
}

// linesOf are values as the lines that are read.
func linesOf[T fmt.Stringer](list []T) (out []string) {
	for _, x := range list {
		out = append(out, x.String())
	}
	return out
}

// termLines are terms as their lines are typed.
func termLines(list []curriculum.Term) (terms []string) {
	for _, x := range list {
		line := x.Language + ": " + x.Text
		if x.Script != "" {
			line += " (" + x.Script + ")"
		}
		terms = append(terms, line)
	}
	return terms
}

// clipLine is a clip as its line is typed.
func clipLine(x curriculum.Clip, b *curriculum.Book) string {
	line := x.Title + " | " + x.Address
	if x.Stage > 0 {
		line += fmt.Sprintf(" | stage %d", x.Stage)
	}
	if x.Side != "" {
		line += " | " + x.Side
	}
	if g := b.Rung(x.From); g != nil {
		line += " | from " + g.Name
	}
	return line
}

// stageValues are the fields of one part of a technique.
func stageValues(v url.Values, at string, s curriculum.Stage, name func(id string) string) {
	for field, value := range map[string]string{
		"rung": s.RungID, "name": s.Name, "does": string(s.Does), "from": parts.Positive(s.From), "shown": string(s.Shown), "note": s.Note,
		"steps": strings.Join(linesOf(s.Steps), "\n"), "attached": name(s.Attached), "optional": parts.Word(s.Optional),
	} {
		v.Set(at+field, value)
	}
}

// listed splits names with commas between.
func listed(text string) (out []string) {
	for part := range strings.SplitSeq(text, ",") {
		if part = check.Tidy(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// readTechnique reads a technique's form; lists have a line each, names commas between.
// Names lead to techniques and rungs of the program.
func readTechnique(v url.Values, b *curriculum.Book) (curriculum.Technique, check.Problems) {
	var p check.Problems
	line := func(field string) string {
		text := check.Tidy(v.Get(field))
		p.Line(field, text, check.LineLength)
		return text
	}
	t := curriculum.Technique{ProgramID: b.Program.ID, Name: check.Tidy(v.Get("name")), Kind: curriculum.Kind(v.Get("kind")), Term: line("term"), Note: line("note"), Aliases: listed(v.Get("aliases"))}
	t.Checkpoints, t.Faults, t.Cautions = p.Lines("checkpoints", v.Get("checkpoints")), curriculum.ParseFaults(p.Lines("faults", v.Get("faults"))), p.Lines("cautions", v.Get("cautions"))
	for _, context := range curriculum.SurfaceContexts {
		if part := check.Tidy(v.Get("surface_" + context)); part != "" {
			p.Line("surface_"+context, part, check.NameLength)
			t.Surfaces = append(t.Surfaces, curriculum.Surface{Context: context, Part: part})
		}
	}
	d := &t.TechniqueDetails
	d.Script, d.Series, d.Family, d.Angle = line("script"), line("series"), line("family"), line("angle")
	d.Number, d.Call, d.Difficulty = p.Whole("number", v.Get("number"), 0, 999, 0), p.Whole("call", v.Get("call"), 0, 999, 0), p.Whole("difficulty", v.Get("difficulty"), 0, 5, 0)
	d.Modifiers, d.Levels = each[curriculum.Modifier](v["modifiers"]), each[notation.Level](v["levels"])
	d.Range, d.Position, d.Sides, d.YoungestTrack = curriculum.Zone(v.Get("range")), curriculum.Position(v.Get("position")), curriculum.SidePolicy(v.Get("sides")), v.Get("youngest_track")
	d.Targets, d.AdvisedIn, d.SkillOnly = listed(v.Get("targets")), listed(v.Get("advised")), listed(v.Get("skill_only"))
	d.LeavesOpen, d.CoveredBy, d.SetUpBy, d.FollowedBy = line("leaves_open"), line("covered_by"), line("set_up_by"), line("followed_by")
	d.Success, d.Answers, d.AttackerLooks = p.Lines("success", v.Get("success")), p.Lines("answers", v.Get("answers")), p.Lines("attacker_looks", v.Get("attacker_looks"))
	d.AttackMoves = line("attack_moves")
	var wrong error
	if d.Entries, wrong = curriculum.ParseEntries(p.Lines("entries", v.Get("entries"))); wrong != nil {
		p.Add("entries", "%s", wrong)
	}
	if d.Parts, wrong = curriculum.ParseParts(p.Lines("parts", v.Get("parts"))); wrong != nil {
		p.Add("parts", "%s", wrong)
	}
	d.Sweep, d.Returns, d.StartApart = floor.Sweep(v.Get("sweep")), v.Get("returns") != "", p.Whole("start_apart", v.Get("start_apart"), 0, 500, 0)
	d.SideMeans, d.Feet = curriculum.SideMeaning(v.Get("side_means")), notation.Feet(v.Get("feet"))
	attack, err := binder.For(b).ReadAttack(p.Lines("attack", v.Get("attack")))
	if err != nil {
		p.Add("attack", "%s", err)
	}
	d.Attack = attack
	d.Terms = readTerms(v, &p)
	named := func(field, name string) string {
		x := b.Named(name)
		if x == nil {
			p.Add(field, "%q is no technique of this program%s", name, parts.Near(b, name))
			return ""
		}
		return x.ID
	}
	for _, name := range listed(v.Get("builds_on")) {
		d.BuildsOn = append(d.BuildsOn, named("builds_on", name))
	}
	d.Branches = readBranches(v, &p, named)
	d.Clips = readClips(v, &p, b)
	d.Cues, d.Apart = p.Lines("cues", v.Get("cues")), readApart(v, &p, named)
	if d.Drills, wrong = curriculum.ParseDrills(p.Lines("drills", v.Get("drills")), b.Program.Tracks); wrong != nil {
		p.Add("drills", "%s", wrong)
	}
	d.Stages = readStages(v, &p, named)
	return t, p
}

// readTerms are the terms of other languages: Korean: ap chagi (앞차기).
func readTerms(v url.Values, p *check.Problems) (out []curriculum.Term) {
	for i, text := range p.Lines("terms", v.Get("terms")) {
		language, term, found := strings.Cut(text, ":")
		x := curriculum.Term{Language: check.Tidy(language), Text: check.Tidy(term)}
		if before, script, has := strings.Cut(x.Text, "("); has {
			x.Text, x.Script = check.Tidy(before), check.Tidy(strings.TrimSuffix(script, ")"))
		}
		if !found || x.Text == "" {
			p.Add("terms", "line %d: %q; write the language and the term, for example Korean: ap chagi (앞차기)", i+1, text)
		}
		out = append(out, x)
	}
	return out
}

// each are what was ticked, as values of a kind.
func each[T ~string](ticked []string) (out []T) {
	for _, x := range ticked {
		out = append(out, T(x))
	}
	return out
}

func readBranches(v url.Values, p *check.Problems, named func(field, name string) string) (out []curriculum.Branch) {
	for i, text := range p.Lines("branches", v.Get("branches")) {
		when, then, found := strings.Cut(strings.ReplaceAll(text, "->", "→"), "→")
		x := curriculum.Branch{When: check.Tidy(when)}
		switch then = check.Tidy(then); {
		case then == "continue":
			x.Then = curriculum.Continue
		case then == "break off":
			x.Then = curriculum.BreakOff
		case strings.HasPrefix(then, "go to "):
			x.Then, x.TechniqueID = curriculum.GoTo, named("branches", strings.TrimPrefix(then, "go to "))
		default:
			found = false
		}
		if !found {
			p.Add("branches", "line %d: %q; write what is seen and how it goes on, for example: partner bends the arm → go to Mill Wheel, or → continue, or → break off", i+1, text)
		}
		out = append(out, x)
	}
	return out
}

// readApart reads one technique a line that looks alike, a colon, and what differs.
func readApart(v url.Values, p *check.Problems, named func(field, name string) string) (out []curriculum.Apart) {
	for i, text := range p.Lines("told_apart", v.Get("told_apart")) {
		name, differs, found := strings.Cut(text, ":")
		if !found || check.Tidy(differs) == "" {
			p.Add("told_apart", "line %d: %q; write the other technique, a colon, and the one thing seen here and not there, for example Cross: the rear heel stays down", i+1, text)
			continue
		}
		out = append(out, curriculum.Apart{TechniqueID: named("told_apart", check.Tidy(name)), Differs: check.Tidy(differs)})
	}
	return out
}

func readClips(v url.Values, p *check.Problems, b *curriculum.Book) (out []curriculum.Clip) {
	for i, text := range p.Lines("clips", v.Get("clips")) {
		parts := strings.Split(text, "|")
		x := curriculum.Clip{Title: check.Tidy(parts[0])}
		if len(parts) > 1 {
			x.Address = check.Tidy(parts[1])
		}
		for _, part := range parts[min(2, len(parts)):] {
			part = check.Tidy(part)
			first, rest, _ := strings.Cut(part, " ")
			n, err := strconv.Atoi(rest)
			switch {
			case part == "left" || part == "right":
				x.Side = part
			case first == "stage" && err == nil && n > 0:
				x.Stage = n
			case first == "from" && b.RungNamed(rest) != nil:
				x.From = b.RungNamed(rest).ID
			default:
				p.Add("clips", "line %d: %q is not understood; after the address may stand stage 2, left, right, or from and a rung", i+1, part)
			}
		}
		out = append(out, x)
	}
	return out
}

func readStages(v url.Values, p *check.Problems, named func(field, name string) string) (out []curriculum.Stage) {
	for i := range stageRows(v) {
		at := fmt.Sprintf("stage_%d", i)
		get := func(field string) string { return check.Tidy(v.Get(at + "_" + field)) }
		steps := p.Lines(at, v.Get(at+"_steps"))
		attached := get("attached")
		if len(steps) == 0 && attached == "" {
			continue // an emptied part is taken out
		}
		s := curriculum.Stage{RungID: get("rung"), Name: get("name"), Does: curriculum.Does(get("does")), Shown: curriculum.Shown(get("shown")), Note: get("note"), Optional: get("optional") != ""}
		if len(out) == 0 {
			s.Does = curriculum.Appends
		}
		if len(out) > 0 && s.RungID == "" {
			p.Add(at, "has no rung; a later part arrives on one")
		}
		// "punch, kick / palm strike" in one line is as many steps as counts.
		for _, step := range curriculum.ParseSteps(steps) {
			parts := curriculum.Steps(step.Moves)
			for k := range parts {
				if k == len(parts)-1 {
					parts[k].Answers = step.Answers
				}
			}
			s.Steps = append(s.Steps, parts...)
		}
		if s.Does == curriculum.Alters || s.Does == curriculum.ReplacesTail {
			s.From = p.Whole(at, get("from"), 1, 100, 0)
		}
		if s.Does == curriculum.Attaches && attached != "" {
			s.Attached = named(at, attached)
		}
		out = append(out, s)
	}
	return out
}

func (ch *chapter) techniquesSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("technique")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		program := v.Get("program")
		var stance *floor.Definition // has a form of its own
		if id != "" {
			old, err := ch.records.Technique(r.Context(), id)
			if err != nil {
				return store.Done{}, err
			}
			program, stance = old.ProgramID, old.Stance
		}
		b, err := ch.records.Book(r.Context(), program)
		if err != nil {
			return store.Done{}, err
		}
		t, p := readTechnique(v, b)
		if t.ID = id; t.Kind == "stance" {
			t.Stance = stance
		}
		for _, x := range append(t.Check(), withoutEmpty(b, t)...) {
			p.Add(x.Field, "%s", x.Text)
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.SaveTechnique(r.Context(), by, t)
	}, func(d store.Done) string { return "/techniques/" + d.ID }, func(status int, f frame.Form) {
		if id != "" {
			ch.techniqueEdit(w, r, status, f)
			return
		}
		ch.techniqueForm(w, r, status, curriculum.Technique{ProgramID: f.Get("program")}, f)
	})
}

// withoutEmpty checks a technique in its program, leaving out links that were not found and
// are told already.
func withoutEmpty(b *curriculum.Book, t curriculum.Technique) check.Problems {
	t.BuildsOn = slices.DeleteFunc(slices.Clone(t.BuildsOn), func(id string) bool { return id == "" })
	if t.ID == "" {
		t.ID = "new"
	}
	return b.CheckTechnique(t)
}
