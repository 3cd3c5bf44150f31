package curriculum

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// ladderHome shows the first rung that someone is climbing to, or an empty ladder.
func (ch *chapter) ladderHome(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	rungs, err := ch.records.Ladder(r.Context(), p.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if len(rungs) == 0 {
		ch.Show(w, r, http.StatusOK, p.ID, frame.Page{Screen: "ladder", Title: "Ladder", Nav: "ladder", Body: ladderView{}})
		return
	}
	at := min(1, len(rungs)-1) // nobody climbs to the lowest
	for i := range rungs {
		if i > 0 && rungs[i-1].Students > 0 {
			at = i
			break
		}
	}
	ch.ladderRung(w, r, rungs[at].ID, http.StatusOK, frame.Form{})
}

func (ch *chapter) ladderShow(w http.ResponseWriter, r *http.Request) {
	f := frame.Form{Values: frame.Values("amount", "5 a side", "weight", "1", "role", "performer")}
	if s := r.URL.Query().Get("section"); s != "" {
		f.Values.Set("section", s)
	}
	ch.ladderRung(w, r, r.PathValue("rung"), http.StatusOK, f)
}

type ladderSection struct {
	Name   string
	Common []curriculum.Throughout // counts for all its lines
	Lines  []ladderLine
}

type ladderLine struct {
	curriculum.Line
	Number int
	Own    bool   // the rung itself states it; else it is carried
	Moves  string // for the chosen stance
	Mark   template.HTML
	Prints bool // its moves can be followed on the floor
}

// unlisted is a requirement of the rung that is no line of its own.
type unlisted struct{ ID, Name, Why string }

type ladderView struct {
	Rung       *curriculum.Rung
	Place      string
	Standing   int
	Sections   []ladderSection
	Unlisted   []unlisted
	Absent     []curriculum.LeftOut // what rungs below carry here, left out by the track or the draw
	Program    *curriculum.Program
	Provision  bool
	Kit        []string
	Sparring   *curriculum.SparringRule
	Stripes    []sectionStripe
	Draws      bool // something on the sheet is drawn
	Chosen     chosen
	Techniques []curriculum.Technique
	Sheet      curriculum.TestSheet
	Group      int
	Climbing   []store.Climbing // the first of the Climbers
	Rules      []string         // who may be tested, in words
	Climbers   int
	Below      string
	Next       *store.Grading
	Today      civil.Date
	ReadAnew   int // steps that are read differently since an upgrade, until the owner has looked
	Form       frame.Form
	Adding     bool
	Roles      []frame.Option
	Section    []frame.Option
	Kinds      []frame.Option // of a technique that is new
}

// sectionStripe is a stripe earned in class, with its section's name.
type sectionStripe struct {
	Section string
	Cloth   curriculum.Cloth
}

// climbingShown is how many students the card beside a rung names.
const climbingShown = 15

// sheetGroup is the size of group that screens quote minutes for.
const sheetGroup = 3

// chosen says for whom a curriculum is shown: track, stances, and the seed of what is drawn.
type chosen struct {
	Track    string
	Tracks   []curriculum.Track
	View     curriculum.View
	Attacker curriculum.View
	Views    []curriculum.View
	Seed     uint64
	path     string
}

// choice reads who a page is to be shown for. What the address does not say, or says wrongly,
// is nobody in particular.
func choice(r *http.Request, b *curriculum.Book) chosen {
	q := r.URL.Query()
	c := chosen{Tracks: b.Program.Tracks, Views: curriculum.Views, path: r.URL.Path}
	if b.Track(q.Get("track")) != nil {
		c.Track = q.Get("track")
	}
	for _, v := range curriculum.Views {
		if string(v) == q.Get("stance") {
			c.View = v
		}
		if string(v) == q.Get("attacker") {
			c.Attacker = v
		}
	}
	c.Seed, _ = strconv.ParseUint(q.Get("draw"), 10, 31)
	return c
}

// With is the page's address with one thing chosen differently.
func (c chosen) With(what, value string) string {
	v := url.Values{}
	set := func(name, is string) {
		if name == what {
			is = value
		}
		if is != "" {
			v.Set(name, is)
		}
	}
	set("track", c.Track)
	set("stance", string(c.View))
	set("attacker", string(c.Attacker))
	seed := ""
	if c.Seed > 0 {
		seed = strconv.FormatUint(c.Seed, 10)
	}
	set("draw", seed)
	if len(v) == 0 {
		return c.path
	}
	return c.path + "?" + v.Encode()
}

// Again is the address of another draw.
func (c chosen) Again() string { return c.With("draw", strconv.FormatUint(c.Seed+1, 10)) }

// TrackName is the chosen track's name, "" for all.
func (c chosen) TrackName() string {
	for _, t := range c.Tracks {
		if t.ID == c.Track {
			return t.Name
		}
	}
	return ""
}

// ladderRung shows one rung: what it asks for, who is climbing to it, the next grading.
func (ch *chapter) ladderRung(w http.ResponseWriter, r *http.Request, id string, status int, f frame.Form) {
	ctx := r.Context()
	g, err := ch.records.Rung(ctx, id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	b, err := ch.records.Book(ctx, g.ProgramID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := ladderView{ReadAnew: readAnew(b), Rung: b.Rung(id), Program: &b.Program, Form: f, Group: sheetGroup,
		Today: ch.records.Today(), Adding: r.URL.Query().Has("section") || status != http.StatusOK,
		Techniques: b.Techniques, Chosen: choice(r, b), Provision: b.Provisional(id), Kit: b.KitOf(id), Sparring: b.SparringOf(id)}
	v.Chosen.path = "/ladder/" + id // also where a refused form is answered at another address
	if f.Values == nil {
		v.Form.Values = frame.Values("amount", "5 a side", "weight", "1", "role", "performer")
	}
	v.Stripes = stripesOf(b, v.Rung)
	v.asks(b, false, frame.PersonOf(r).Role == store.Owner)
	for _, load := range []func() error{
		func() error { return ch.climbing(r, g, &v) },
		func() error {
			next, found, err := ch.records.NextGrading(ctx, g.ProgramID)
			if found {
				v.Next = &next
			}
			return err
		},
	} {
		if err := load(); err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	v.Rules = ruleLines(v.Rung, b)
	v.Roles = frame.Options(curriculum.Roles, func(x curriculum.Role) string { return string(x) })
	v.Section = append([]frame.Option{{Value: "", Label: "by its kind"}}, sectionOptions(b)...)
	v.Kinds = kindOptions("as its section")
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "ladder", Title: g.Name, Nav: "ladder", Here: g.ID, Body: v})
}

func stripesOf(b *curriculum.Book, g *curriculum.Rung) (out []sectionStripe) {
	for _, s := range g.Stripes {
		if x := b.Section(s.SectionID); x != nil {
			out = append(out, sectionStripe{x.Name, curriculum.Cloth{Weave: curriculum.Plain, Colour: s.Colour}})
		}
	}
	return out
}

// ruleLines are the rules of eligibility of a rung, a line each.
func ruleLines(g *curriculum.Rung, b *curriculum.Book) (out []string) {
	for _, r := range g.Rules {
		line := r.Words()
		if r.Modes != "" {
			line += " (" + strings.ReplaceAll(r.Modes, " ", ", ") + ")"
		}
		if t := b.Track(r.TrackID); t != nil {
			line += " for " + t.Name
		}
		out = append(out, line)
	}
	return out
}

func sectionOptions(b *curriculum.Book) (out []frame.Option) {
	for _, s := range b.Sections {
		out = append(out, frame.Option{Value: s.ID, Label: s.Name})
	}
	return out
}

// kindOptions are the kinds of technique, after what stands where none is chosen.
func kindOptions(none string) []frame.Option {
	out := []frame.Option{{Value: "", Label: none}}
	for _, k := range curriculum.Kinds {
		out = append(out, frame.Option{Value: string(k), Label: k.Words()})
	}
	return out
}

// asks fills in what a candidate of the chosen track has to show, by section, and what the
// rung states that is no line of its own. With undrawn, what is drawn by lot stands whole; the owner
// reads what the track may not do.
func (v *ladderView) asks(b *curriculum.Book, undrawn, owner bool) {
	v.Sheet = b.Compile(curriculum.Asking{RungID: v.Rung.ID, TrackID: v.Chosen.Track, Seed: v.Chosen.Seed, Group: sheetGroup, Undrawn: undrawn})
	hideMayNots(owner, &v.Sheet)
	listed := map[string]bool{}
	own := map[string]bool{}
	asked := b.Asked(v.Rung.ID)
	for _, q := range asked {
		own[q.ID] = true
	}
	for i, l := range v.Sheet.Lines {
		listed[l.RequirementID] = true
		if n := len(v.Sections); n == 0 || v.Sections[n-1].Name != l.Section {
			v.Sections = append(v.Sections, ladderSection{Name: l.Section, Common: v.Sheet.Common(l.Section)})
		}
		last := &v.Sections[len(v.Sections)-1]
		x := ladderLine{Line: l, Number: i + 1, Own: own[l.RequirementID], Moves: b.Spoken(l, v.Rung.Position, v.Chosen.View), Mark: mark(b, l.TechniqueID)}
		if t := b.Technique(l.TechniqueID); t != nil {
			x.Prints = b.Travels(t)
		}
		last.Lines = append(last.Lines, x)
		for _, why := range l.Why {
			v.Draws = v.Draws || why.Kind == curriculum.WhyDrawn
		}
	}
	for _, q := range asked {
		t := b.Technique(q.TechniqueID)
		if listed[q.ID] || t == nil {
			continue
		}
		why := "shown by another line, drawn by lot, or left out by the track"
		for _, l := range v.Sheet.Lines {
			if l.TechniqueID == t.ID && l.Role == q.Role {
				why = fmt.Sprintf("shown by the line %s", l.Call)
			}
		}
		for _, l := range v.Sheet.LeftOut {
			if l.Call == t.Name {
				why = words.LeftOut(l)
			}
		}
		v.Unlisted = append(v.Unlisted, unlisted{q.ID, t.Name + ", " + words.Asked(curriculum.Line{Kind: t.Kind, Call: t.Name, Quantity: q.Quantity}), why})
	}
	for _, l := range v.Sheet.LeftOut {
		own := slices.ContainsFunc(asked, func(r curriculum.Requirement) bool {
			t := b.Technique(r.TechniqueID)
			return t != nil && t.Name == l.Call
		})
		if !own {
			v.Absent = append(v.Absent, l)
		}
	}
}

// climbing fills in the rung's place and those on the rung below.
func (ch *chapter) climbing(r *http.Request, g curriculum.Rung, v *ladderView) error {
	rungs, err := ch.records.Ladder(r.Context(), g.ProgramID)
	if err != nil {
		return err
	}
	for i, x := range rungs {
		if x.ID != g.ID {
			continue
		}
		v.Place, v.Standing = fmt.Sprintf("%s of %s", ordinal(i+1), words.Count(len(rungs), "rung")), x.Students
		if i > 0 {
			v.Below = rungs[i-1].Name
			v.Climbing, err = ch.records.OnRung(r.Context(), rungs[i-1].ID, climbingShown)
			v.Climbers = rungs[i-1].Students
		}
	}
	return err
}

func ordinal(n int) string {
	end := "th"
	if n%100 < 11 || n%100 > 13 {
		switch n % 10 {
		case 1:
			end = "st"
		case 2:
			end = "nd"
		case 3:
			end = "rd"
		}
	}
	return strconv.Itoa(n) + end
}

// rungAddress is a rung's page, with what it should be shown with.
func (ch *chapter) rungAddress(id string, v url.Values) string {
	address := "/ladder/" + id
	if len(v) > 0 {
		address += "?" + v.Encode()
	}
	return address
}

// readAnew counts the steps that are read differently since an upgrade, until the owner has looked.
func readAnew(b *curriculum.Book) (n int) {
	if !b.Program.ReadAnew {
		return 0
	}
	for _, f := range b.Check() {
		if f.Kind == curriculum.ReadOtherwise && f.Silenced == "" {
			n++
		}
	}
	return n
}

// functions are those of the curriculum’s templates.
func functions() template.FuncMap {
	return template.FuncMap{
		"told":       curriculum.Told,
		"changes":    words.Changes,
		"difference": words.Difference,
		"about":      words.CautionAbout,
		"ground":     words.Ground,
		"panelsizes": func() []frame.Option {
			return []frame.Option{{Value: "0", Label: "as many as there are"}, {Value: "3", Label: "3 at least"}, {Value: "5", Label: "5 at least"}}
		},
		"voices": func() []frame.Option { return voiceOptions("as the program says") },
	}
}
