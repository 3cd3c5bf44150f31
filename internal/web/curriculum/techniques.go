package curriculum

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type techniquesView struct {
	Kind, Text string
	Kinds      []frame.Option
	Rows       []store.ListedTechnique
	Marks      map[string]template.HTML // the small marks, by technique
	Any        bool
	Wanted     curriculum.Wanted
	Zones      []frame.Option
	Attacks    []frame.Option
	Cautions   []frame.Option
}

func (ch *chapter) techniquesList(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := techniquesView{Kind: r.URL.Query().Get("kind"), Text: r.URL.Query().Get("text"), Kinds: frame.Options(curriculum.Kinds, curriculum.Kind.Words)}
	if v.Rows, err = ch.records.Techniques(r.Context(), p.ID, curriculum.Kind(v.Kind), v.Text); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Any = len(v.Rows) > 0 || v.Kind != "" || v.Text != ""
	if p.ID != "" {
		b, err := ch.records.Book(r.Context(), p.ID)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Marks = map[string]template.HTML{}
		for _, x := range v.Rows {
			v.Marks[x.ID] = mark(b, x.ID)
		}
		q := r.URL.Query()
		v.Wanted = curriculum.Wanted{Range: curriculum.Zone(q.Get("range")), Target: q.Get("target"),
			Surface: q.Get("surface"), Answers: curriculum.AttackKind(q.Get("answers")), Caution: q.Get("caution")}
		v.Zones = append([]frame.Option{{Value: "", Label: "any range"}}, frame.Options(curriculum.Zones, func(z curriculum.Zone) string { return string(z) })...)
		v.Attacks = append([]frame.Option{{Value: "", Label: "anything"}}, frame.Options(b.Program.Taught(), func(k curriculum.AttackKind) string { return string(k) })...)
		v.Cautions = append([]frame.Option{{Value: "", Label: "any"}}, frame.Options(curriculum.CautionKinds, words.CautionAbout)...)
		if v.Wanted.Any() {
			v.Rows = slices.DeleteFunc(v.Rows, func(x store.ListedTechnique) bool {
				t := b.Technique(x.ID)
				return t == nil || !b.Fits(t, v.Wanted)
			})
		}
	}
	ch.Show(w, r, http.StatusOK, p.ID, frame.Page{Screen: "techniques", Title: "Techniques", Nav: "techniques", Body: v})
}

// techniqueBook is the technique an address names with its curriculum.
func (ch *chapter) techniqueBook(w http.ResponseWriter, r *http.Request) (t *curriculum.Technique, b *curriculum.Book, ok bool) {
	x, err := ch.records.Technique(r.Context(), r.PathValue("technique"))
	if err == nil {
		b, err = ch.records.Book(r.Context(), x.ProgramID)
	}
	if err == nil {
		if t = b.Technique(x.ID); t == nil {
			err = store.ErrNotFound
		}
	}
	if err != nil {
		ch.Fail(w, r, err)
		return nil, nil, false
	}
	return t, b, true
}

type techniqueView struct {
	Technique *curriculum.Technique
	Chosen    chosen
	Showing   curriculum.Showing
	Entries   []entryView
	Facts     []fact
	Stage     int // shown
	Stages    []stageView
	Staircase template.HTML
	Branches  []branchView
	BuildsOn  []*curriculum.Technique
	Variants  []*curriculum.Technique // that build on it
	Checks    []phased                // of its own, or of the technique it is a variant of; faults and surfaces too
	Faults    []curriculum.Fault
	Surfaces  []curriculum.Surface
	Cautions  []curriculum.Caution
	Youngest  string
	Uses      []store.Use
	Pairs     bool // it is shown for two, so that both stances matter
	Told      []fact
	Clips     []clipView
	Apart     []string // from what looks like it
	Drills    []drillView
	Cues      []string
	Mark      template.HTML
	Targets   template.HTML // on a figure
	Struck    []chart.Target
	Floor     *parts.FloorView
	Drawn     drawnFor
	Stance    template.HTML // from above
	Names     string        // of the stance's measures
}

// drillView is a way in for learners, with the track it begins at.
type drillView struct {
	curriculum.Drill
	Track string
}

// entryView is a way into a technique, with its own steps before those of the technique.
type entryView struct {
	curriculum.Entry
	Showing curriculum.Showing
}

// Own are the steps of the entry itself.
func (e entryView) Own() (out []curriculum.ShownStep) {
	for _, s := range e.Showing.Steps {
		if s.Entry != "" {
			out = append(out, s)
		}
	}
	return out
}

type fact struct{ Name, Value string }

// stageView is one part of a technique, as the growth view shows it.
type stageView struct {
	Number      int
	Name, Rung  string
	RungID      string
	Does, Shown string
	Note        string
	Steps       []curriculum.ShownStep // all up to this part; those it brings have its Number
	Attached    *curriculum.Technique
	Optional    bool // either ending is right
}

type branchView struct {
	When, Then string
	To         *curriculum.Technique
}

// phased are checkpoints of one phase.
type phased struct {
	Phase string
	Lines []string
}

type clipView struct {
	curriculum.Clip
	Stages string
	Rung   string
	Link   bool // the address is one a browser can open
}

func (ch *chapter) techniquesShow(w http.ResponseWriter, r *http.Request) {
	t, b, ok := ch.techniqueBook(w, r)
	if !ok {
		return
	}
	uses, err := ch.records.UsedBy(r.Context(), t.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := techniqueView{Technique: t, Chosen: choice(r, b), Uses: uses, Stage: len(t.Stages), Pairs: len(t.Attack) > 0 || t.AttackMoves != ""}
	if v.Drawn, err = ch.drawn(r, t, &v.Chosen); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Showing = b.Show(t, v.Stage, "", v.Chosen.View, v.Chosen.Attacker)
	for _, e := range t.Entries {
		v.Entries = append(v.Entries, entryView{e, b.Show(t, v.Stage, e.Name, v.Chosen.View, v.Chosen.Attacker)})
	}
	v.Facts = countedFacts(v)
	v.showStages(b)
	for _, x := range t.Branches {
		v.Branches = append(v.Branches, branchView{x.When, x.Then.Words(), b.Technique(x.TechniqueID)})
	}
	for _, id := range t.BuildsOn {
		if x := b.Technique(id); x != nil {
			v.BuildsOn = append(v.BuildsOn, x)
		}
	}
	v.Variants = b.Variants(t.ID)
	v.Apart, v.Cues = words.ToldApart(b.ToldApart(t)), b.Cues(t)
	v.Faults, v.Surfaces, v.Cautions = b.Faults(t), b.Surfaces(t), b.AllCautions(t)
	v.showTraining(b)
	if track := b.Track(t.YoungestTrack); track != nil {
		v.Youngest = track.Name
	}
	v.Told = toldFacts(t, v.Youngest)
	hall, err := ch.Hall(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.onFloor(b, hall)
	v.Mark = mark(b, t.ID)
	names, care := b.Targets(t)
	for i, name := range names {
		v.Struck = append(v.Struck, chart.Target{Name: name, Care: care[i]})
	}
	v.Targets = template.HTML(chart.Targets("Targets of "+t.Name+": "+strings.Join(names, ", "), v.Struck))
	ch.Show(w, r, http.StatusOK, t.ProgramID, frame.Page{Screen: "technique", Title: t.Name, Nav: "techniques", Body: v})
}

// onFloor draws it to scale: a stance from above, anything that moves with its path.
func (v *techniqueView) onFloor(b *curriculum.Book, hall gradingday.Hall) {
	t := v.Technique
	if t.Kind == "stance" {
		if d, _, known := b.StanceOf(t); known {
			level := t.FeetStand() == notation.SideBySide
			of := v.Drawn.Who.Body
			s := parts.Scaled(t, d, d.For(of, t.Name, level).Take(of, floor.Left), of)
			v.Stance, v.Names = template.HTML(s.Above()), words.Stance(d, level)
		}
		return
	}
	v.Floor = parts.FloorOf(b, v.Drawn.onFloor(t, v.Chosen, hall))
}

// showStages lays out the parts of a technique and the staircase of the rungs they arrive on.
func (v *techniqueView) showStages(b *curriculum.Book) {
	t := v.Technique
	var steps []chart.StairStep
	before := 0
	for i, s := range t.Stages {
		x := stageView{Number: i + 1, Name: t.StageName(i + 1), RungID: s.RungID, Does: s.Does.Words(),
			Shown: s.Shown.Words(), Note: s.Note, Optional: t.Tail() == i+1, Attached: b.Technique(s.Attached), Steps: b.Show(t, i+1, "", v.Chosen.View, v.Chosen.Attacker).Steps}
		step := chart.StairStep{Name: x.Name, Rung: b.Rung(s.RungID),
			Adds: map[curriculum.Does]string{curriculum.Alters: "alters ", curriculum.Appends: "adds ",
				curriculum.ReplacesTail: "new end, "}[s.Does] + words.Count(len(s.Steps), "step"), Shown: x.Shown}
		if i == 0 {
			step.Adds = words.Count(len(s.Steps), "step")
		}
		if x.Attached != nil {
			step.Adds = "goes on with " + x.Attached.Name
		}
		if step.Rung != nil {
			x.Rung = step.Rung.Name
		}
		v.Stages = append(v.Stages, x)
		steps = append(steps, step)
		before = len(x.Steps)
	}
	if before > 0 && len(steps) > 1 {
		v.Staircase = template.HTML(chart.Staircase(fmt.Sprintf("The %d parts of %s and the rungs they arrive on", len(steps), t.Name), steps))
	}
}

// showTraining lays out how it is trained: checkpoints by phase, drills, clips.
func (v *techniqueView) showTraining(b *curriculum.Book) {
	t := v.Technique
	for _, c := range b.Checkpoints(t) {
		phase, rest := curriculum.Phase(c)
		if n := len(v.Checks); n == 0 || v.Checks[n-1].Phase != phase {
			v.Checks = append(v.Checks, phased{Phase: phase})
		}
		last := &v.Checks[len(v.Checks)-1]
		last.Lines = append(last.Lines, rest)
	}
	for _, d := range t.Drills {
		x := drillView{Drill: d}
		if track := b.Track(d.From); track != nil {
			x.Track = track.Name
		}
		v.Drills = append(v.Drills, x)
	}
	for _, c := range t.Clips {
		x := clipView{Clip: c, Link: strings.HasPrefix(c.Address, "https://") || strings.HasPrefix(c.Address, "http://")}
		if c.Stage > 0 {
			x.Stages = t.StageName(c.Stage)
		}
		if g := b.Rung(c.From); g != nil {
			x.Rung = g.Name
		}
		v.Clips = append(v.Clips, x)
	}
}

// countedFacts are what can be counted in the moves, in the chosen stance or, as called, for
// the left foot forward.
func countedFacts(v techniqueView) (out []fact) {
	f := v.Showing.Facts
	if f.Beats == 0 {
		return nil
	}
	if f.Sentences > 0 {
		out = append(out, fact{"Steps", fmt.Sprintf("%d, %d of them in words", f.Beats, f.Sentences)})
	}
	out = append(out, fact{"Moves", fmt.Sprintf("%d in %s", f.Moves, words.Count(f.Counts, "count"))},
		fact{"Left and right", fmt.Sprintf("%d and %d", f.Left, f.Right)}, fact{"Lead and rear", fmt.Sprintf("%d and %d", f.Lead, f.Rear)})
	if f.Low+f.Mid+f.High > 0 {
		out = append(out, fact{"Low, mid, high", fmt.Sprintf("%d, %d, %d", f.Low, f.Mid, f.High)})
	}
	if f.Turns > 0 {
		out = append(out, fact{"Changes of direction", fmt.Sprintf("%d, ends facing %d°", f.Turns, f.Facing)})
	}
	ends := "the right foot forward"
	switch {
	case f.Nobody:
		ends = "the feet level"
	case f.LeftLeads:
		ends = "the left foot forward"
	}
	out = append(out, fact{"Ends with", ends}, fact{"Takes about", fmt.Sprintf("%s s", halves(f.HalfSeconds))})
	for _, h := range f.Held {
		out = append(out, fact{"Still held", h})
	}
	for _, p := range f.Problems {
		out = append(out, fact{"To look at", p})
	}
	return out
}

func halves(n int) string {
	if n%2 == 1 {
		return fmt.Sprintf("%d½", n/2)
	}
	return fmt.Sprint(n / 2)
}

// toldFacts are what the school has said about a technique, where it has.
func toldFacts(t *curriculum.Technique, youngest string) (out []fact) {
	list := func(xs []string) string { return strings.Join(xs, ", ") }
	var modifiers, levels []string
	for _, m := range t.Modifiers {
		modifiers = append(modifiers, string(m))
	}
	for _, l := range t.Levels {
		levels = append(levels, string(l))
	}
	number := ""
	if t.Number > 0 {
		number = fmt.Sprintf("%s %d", t.Series, t.Number)
	}
	call := parts.Positive(t.Call)
	difficulty := ""
	if t.Difficulty > 0 {
		difficulty = fmt.Sprintf("%d of 5", t.Difficulty)
	}
	for _, f := range []fact{
		{"Family", t.Family}, {"Variant", list(modifiers)}, {"Series", number}, {"Called by number", call},
		{"Levels", list(levels)}, {"Range", string(t.Range)}, {"Targets", list(t.Targets)}, {"Angle", t.Angle},
		{"Difficulty", difficulty}, {"Ends", string(t.Position)}, {"Trained on", cmp.Or(string(t.Sides), "both") + sideWords(t.Sides)}, {"Youngest track", youngest},
		{"Advised in", list(t.AdvisedIn)}, {"For skill only in", list(t.SkillOnly)}, {"Leaves open", t.LeavesOpen},
		{"Covered by", t.CoveredBy}, {"Set up by", t.SetUpBy}, {"Followed by", t.FollowedBy},
	} {
		if f.Value != "" {
			out = append(out, f)
		}
	}
	return out
}

func sideWords(s curriculum.SidePolicy) string {
	switch s {
	case curriculum.LeftOnly, curriculum.RightOnly:
		return " only, by tradition"
	case curriculum.NoSide:
		return " in particular"
	case "", curriculum.BothSides:
		return " sides"
	}
	return " side"
}

func (ch *chapter) techniquesDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteTechnique(r.Context(), by, r.PathValue("technique"))
	}, frame.To("/techniques"), func(status int, f frame.Form) { ch.techniqueEdit(w, r, status, frame.Form{General: f.General}) })
}
