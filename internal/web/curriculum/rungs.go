package curriculum

import (
	"cmp"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type rungsView struct {
	Rung    curriculum.Rung // its ID is "" for a new one
	Program string
	Form    frame.Form
	Above   []frame.Option // where a new rung may go
	Kinds   []frame.Option
	Weaves  []frame.Option
	Places  []frame.Option
	Preview curriculum.Cloth
	// Contacts, Below and Sections belong to what the rung states besides its cloth.
	Contacts []frame.Option
	Below    *curriculum.SparringRule // the rule that holds where the rung has none
	Sections []curriculum.Section
	Tracks   []curriculum.Track
	Rules    []frame.Option // rules that have an amount
	Switches []frame.Option // rules that are on or off
	Modes    []frame.Option // ways of taking part that may count
	Rest     bool           // what a rung says besides name and belt is open
	Copy     frame.Form     // of the copy
}

func (ch *chapter) rungsNew(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	at := "top"
	if r.URL.Query().Get("at") == "first" {
		at = "0"
	}
	ch.rungsForm(w, r, http.StatusOK, rungsView{Program: b.Program.ID, Form: frame.Form{Values: frame.Values("kind", "belt",
		"weave", "plain", "colour", curriculum.WhiteCloth.Colour, "second", "#1b1b1b", "mark_count", "0", "mark_colour", "#c8371f",
		"mark_place", "tip", "position", at, "contact", "none")}})
}

func (ch *chapter) rungsShow(w http.ResponseWriter, r *http.Request) {
	ch.rungsOf(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) rungsOf(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	ch.rungsChange(w, r, status, f, frame.Form{})
}

// rungsChange shows a rung on record with what was typed, in its own form or in that of a copy.
func (ch *chapter) rungsChange(w http.ResponseWriter, r *http.Request, status int, f, copied frame.Form) {
	x, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	g := *x
	c := g.Cloth
	marks := curriculum.BeltMarks{Colour: "#c8371f", Place: curriculum.Tip}
	if c.Marks != nil {
		marks = *c.Marks
	}
	if c.Second == "" {
		c.Second = "#1b1b1b"
	}
	stands := frame.Values("name", g.Name, "kind", string(g.Kind), "weave", string(c.Weave), "colour", c.Colour, "second", c.Second,
		"mark_count", strconv.Itoa(marks.Count), "mark_colour", marks.Colour,
		"mark_place", string(marks.Place), "kit", strings.Join(g.Kit, "\n"), "rung_note", g.Note, "panel", strconv.Itoa(g.Panel),
		"contact", "none", "voice", string(g.Voice), "common", commonLines(g.Common))
	if s := g.Sparring; s != nil {
		for name, value := range map[string]string{"sparring": "1", "limbs": s.Limbs, "targets": s.Targets, "contact": string(s.Contact), "scoring": s.Scoring} {
			stands.Set(name, value)
		}
	}
	for _, r := range g.Rules {
		name, amount := "rule_"+string(r.Key()), strconv.Itoa(r.Amount)
		if r.Modes != "" {
			stands["modes"] = strings.Fields(r.Modes)
		}
		if r.TrackID != "" {
			name += "_" + r.TrackID
		}
		if r.Kind == curriculum.Word {
			amount = "1"
		}
		stands.Set(name, amount)
	}
	for _, s := range g.Stripes {
		stands.Add("stripe", s.SectionID)
		stands.Set("stripe_"+s.SectionID, s.Colour)
	}
	f = f.Filled(stands)
	v := rungsView{Rung: g, Program: g.ProgramID, Form: f, Copy: copied}
	if g.Position > 0 {
		v.Below = b.SparringOf(b.Rungs[g.Position-1].ID)
	}
	ch.rungsForm(w, r, status, v)
}

func (ch *chapter) rungsForm(w http.ResponseWriter, r *http.Request, status int, v rungsView) {
	v.Kinds = frame.Options(curriculum.RungKinds, curriculum.RungKind.Words)
	v.Weaves = frame.Options(curriculum.Weaves, curriculum.Weave.Words)
	v.Places = []frame.Option{{Value: "tip", Label: "bars across the tip"}, {Value: "lengthwise", Label: "lines along the belt"}}
	v.Contacts = frame.Options(curriculum.Contacts, func(c curriculum.Contact) string { return string(c) })
	b, err := ch.records.Book(r.Context(), v.Program)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Sections, v.Tracks = b.Sections, b.Program.Tracks
	v.Modes = frame.Options(timetable.Modes, timetable.Mode.Words)
	if v.Form.Values != nil && v.Form.Values["modes"] == nil {
		v.Form.Values["modes"] = []string{"hall", "live"}
	}
	if v.Rules, v.Switches, err = ch.ruleFields(r, v.Form.Values); err != nil {
		ch.Fail(w, r, err)
		return
	}
	first := []string{"name", "kind", "position", "colour", "weave", "second"}
	v.Rest = v.Rung.ID != "" || slices.ContainsFunc(v.Form.Problems, func(p check.Problem) bool { return !slices.Contains(first, p.Field) })
	if v.Copy.Of == "" {
		v.Copy = frame.Form{Of: "copy", Values: frame.Values("page", "1")}
	}
	read, _ := readRung(v.Form.Values)
	v.Preview = read.Cloth
	var p check.Problems
	if v.Preview.Check(&p); len(p) > 0 {
		v.Preview = curriculum.WhiteCloth
	}
	title := v.Rung.Name
	if v.Rung.ID == "" {
		title = "A new rung"
		v.Above = append(v.Above, frame.Option{Value: "top", Label: "at the top"})
		for i, x := range slices.Backward(b.Rungs) {
			v.Above = append(v.Above, frame.Option{Value: strconv.Itoa(i), Label: "below " + x.Name})
		}
	}
	ch.Show(w, r, status, v.Program, frame.Page{Screen: "rungs", Title: title, Nav: "ladder", Here: v.Rung.ID, Body: v})
}

// readRung reads a rung's form; what cannot be read is a problem.
func readRung(v url.Values) (curriculum.Rung, check.Problems) {
	var p check.Problems
	g := curriculum.Rung{Name: v.Get("name"), Kind: curriculum.RungKind(v.Get("kind")), ProgramID: v.Get("program"), Position: 1 << 30}
	if at := v.Get("position"); at != "top" && at != "" {
		g.Position = p.Whole("position", at, 0, 10_000, 0)
	}
	g.Cloth = curriculum.Cloth{Weave: curriculum.Weave(v.Get("weave")), Colour: v.Get("colour")}
	if g.Cloth.Weave != curriculum.Plain {
		g.Cloth.Second = v.Get("second")
	}
	if n := p.Whole("mark_count", v.Get("mark_count"), 0, curriculum.MaxMarks, 0); n > 0 {
		g.Cloth.Marks = &curriculum.BeltMarks{Colour: v.Get("mark_colour"), Count: n, Place: curriculum.MarkPlace(v.Get("mark_place"))}
	}
	g.Panel = p.Whole("panel", v.Get("panel"), 0, gradingday.MaxPanel, 0)
	g.Kit, g.Note, g.Voice = p.Lines("kit", v.Get("kit")), check.Tidy(v.Get("rung_note")), curriculum.Voice(v.Get("voice"))
	common, err := curriculum.ParseCommon(p.Lines("common", v.Get("common")))
	if err != nil {
		p.Add("common", "%s", err)
	}
	g.Common = common
	if v.Get("sparring") != "" {
		g.Sparring = &curriculum.SparringRule{Limbs: check.Tidy(v.Get("limbs")),
			Targets: check.Tidy(v.Get("targets")), Contact: curriculum.Contact(v.Get("contact")), Scoring: check.Tidy(v.Get("scoring"))}
	}
	g.Rules = readRules(v, &p)
	for _, section := range v["stripe"] {
		g.Stripes = append(g.Stripes, curriculum.SectionStripe{SectionID: section, Colour: v.Get("stripe_" + section)})
	}
	return g, p
}

// ruleFields are the rules a rung's form offers: those with an amount, with a row for each kind
// of class on the timetable and of those the rung asks for already, and those that are on or
// off.
func (ch *chapter) ruleFields(r *http.Request, typed url.Values) (counted, switches []frame.Option, err error) {
	kinds, err := ch.ClassKinds(r)
	if len(kinds) == 1 { // they are all the classes there are
		kinds = nil
	}
	for _, field := range slices.Sorted(maps.Keys(typed)) {
		if rest, found := strings.CutPrefix(field, "rule_classes:"); found {
			of, _, _ := strings.Cut(rest, "_")
			if !slices.ContainsFunc(kinds, func(k string) bool { return check.Key(k) == check.Key(of) }) {
				kinds = append(kinds, of)
			}
		}
	}
	for _, k := range curriculum.RuleKinds {
		if !k.Counted() {
			if k != curriculum.Word {
				switches = append(switches, frame.Option{Value: string(k), Label: k.Words()})
			}
			continue
		}
		counted = append(counted, frame.Option{Value: string(k), Label: k.Words()})
		if k == curriculum.ClassesSince {
			for _, of := range kinds {
				key := curriculum.Rule{Kind: k, Of: strings.ReplaceAll(of, "_", " ")}.Key()
				counted = append(counted, frame.Option{Value: string(key), Label: key.Words()})
			}
		}
	}
	return counted, switches, err
}

// readRules reads the rules of eligibility: rule_KEY for everybody, rule_KEY_TRACK for one
// track, where 0 lets the track off.
func readRules(v url.Values, p *check.Problems) (out []curriculum.Rule) {
	modes := ""
	for _, m := range timetable.Modes {
		if slices.Contains(v["modes"], string(m)) {
			modes = strings.TrimSpace(modes + " " + string(m))
		}
	}
	if modes == "hall live" { // as usual
		modes = ""
	}
	for _, field := range slices.Sorted(maps.Keys(v)) {
		name, found := strings.CutPrefix(field, "rule_")
		if !found || strings.TrimSpace(v.Get(field)) == "" {
			continue
		}
		var r curriculum.Rule
		more := ""
		for _, k := range curriculum.RuleKinds { // the longest that fits: signed_off_each is not signed_off
			if rest, fits := strings.CutPrefix(name, string(k)); fits && len(k) > len(r.Kind) && (rest == "" || rest[0] == '_' || rest[0] == ':') {
				r.Kind, more = k, rest
			}
		}
		if r.Kind == "" {
			continue
		}
		if of, cut := strings.CutPrefix(more, ":"); cut {
			r.Of, r.TrackID, _ = strings.Cut(of, "_")
		} else {
			r.TrackID = strings.TrimPrefix(more, "_")
		}
		if r.Kind == curriculum.ClassesSince || r.Kind == curriculum.ClassShare {
			r.Modes = modes
		}
		if r.Kind == curriculum.Word {
			out = append(out, r)
		} else if r.Amount = p.Whole(field, v.Get(field), 0, 3650, 0); r.Amount > 0 || r.TrackID != "" {
			out = append(out, r)
		}
	}
	slices.SortStableFunc(out, func(x, y curriculum.Rule) int {
		return cmp.Or(cmp.Compare(slices.Index(curriculum.RuleKinds, x.Kind), slices.Index(curriculum.RuleKinds, y.Kind)), cmp.Compare(x.Of, y.Of), cmp.Compare(x.TrackID, y.TrackID))
	})
	return out
}

func (ch *chapter) rungsSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("rung")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		g, p := readRung(v)
		if len(p) > 0 {
			return store.Done{}, append(p, g.Check()...)
		}
		if c, told := curriculum.ClothCalled(g.Name); told && id == "" && g.Cloth == curriculum.WhiteCloth {
			g.Cloth = c
		}
		g.ID = id
		if err := ch.ownSections(r, g); err != nil {
			return store.Done{}, err
		}
		return ch.records.SaveRung(r.Context(), by, g)
	}, func(d store.Done) string { return "/ladder/" + d.ID }, func(status int, f frame.Form) {
		if id != "" {
			ch.rungsOf(w, r, status, f)
			return
		}
		ch.rungsForm(w, r, status, rungsView{Program: f.Get("program"), Form: f})
	})
}

// rungsCloth tells the script which cloth a name tells, as the fields of the form have it.
func (ch *chapter) rungsCloth(w http.ResponseWriter, r *http.Request) {
	c, _ := curriculum.ClothCalled(r.URL.Query().Get("name"))
	fields := map[string]string{"colour": c.Colour, "weave": string(c.Weave), "mark_count": "0"}
	if c.Second != "" {
		fields["second"] = c.Second
	}
	if c.Marks != nil {
		fields["mark_count"], fields["mark_colour"] = strconv.Itoa(c.Marks.Count), c.Marks.Colour
	}
	frame.SendJSON(w, http.StatusOK, fields)
}

// rungsCopy adds a rung like this one, just above it.
func (ch *chapter) rungsCopy(w http.ResponseWriter, r *http.Request) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	added := ""
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.ChangeCurriculum(r.Context(), by, b.Program.ID, func(b *curriculum.Book) (c curriculum.Curriculum, deed office.Deed, err error) {
			c, added, err = b.CopyRung(g.ID, v.Get("name"), v.Get("page") != "", store.NewID)
			return c, office.Deed{Kind: office.RungCopied, What: check.Tidy(v.Get("name")), In: g.Name}, err
		})
	}, func(store.Done) string {
		if added == "" { // the same form sent twice
			return "/ladder"
		}
		return "/ladder/" + added
	}, func(status int, f frame.Form) {
		f.Of = "copy"
		ch.rungsChange(w, r, status, frame.Form{}, f)
	})
}

func (ch *chapter) rungsMove(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("rung")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.MoveRung(r.Context(), by, id, places(v))
	}, frame.To("/ladder/"+id), nil)
}

func (ch *chapter) rungsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteRung(r.Context(), by, r.PathValue("rung"))
	}, frame.To("/ladder"), func(status int, f frame.Form) { ch.rungsOf(w, r, status, frame.Form{General: f.General}) })
}

// ownSections refuses stripes for sections of another program.
func (ch *chapter) ownSections(r *http.Request, g curriculum.Rung) error {
	of := g.ProgramID
	if g.ID != "" {
		old, err := ch.records.Rung(r.Context(), g.ID)
		if err != nil {
			return err
		}
		of = old.ProgramID
	}
	all, err := ch.records.Sections(r.Context(), of)
	if err != nil {
		return err
	}
	b, err := ch.records.Book(r.Context(), of)
	if err != nil {
		return err
	}
	for _, x := range g.Rules {
		if x.TrackID != "" && b.Track(x.TrackID) == nil {
			return check.Problems{{Field: "rules", Text: "names a track that is not this program's; load the page again"}}
		}
	}
	for _, s := range g.Stripes {
		if !slices.ContainsFunc(all, func(x curriculum.Section) bool { return x.ID == s.SectionID }) {
			return check.Problems{{Field: "stripes", Text: "names a section that is not this program's; choose again"}}
		}
	}
	return nil
}

// commonLines are what counts for whole sections, series and forms, as a field holds it.
func commonLines(all []curriculum.Common) string {
	var out []string
	for _, c := range all {
		out = append(out, c.String())
	}
	return strings.Join(out, "\n")
}
