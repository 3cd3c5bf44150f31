package curriculum

import (
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type requirementsView struct {
	Requirement curriculum.Requirement
	Technique   curriculum.Technique
	Rung        curriculum.Rung
	Form        frame.Form
	Roles       []frame.Option
	Section     []frame.Option
	Settings    []frame.Option
	Carries     []frame.Option
	Above       []frame.Option // rungs until which it may be carried
	Groups      []frame.Option
	Levels      []frame.Option
	Stages      []frame.Option
	Voices      []frame.Option
	Checkpoints []string // of the technique, or of the one it is a variant of
	Tracks      []trackChoice
	Techniques  []curriculum.Technique
}

// trackChoice is a track with the names of its fields on the form.
type trackChoice struct {
	curriculum.Track
	Prefix string
}

var levelOptions = []frame.Option{{Value: "", Label: "any"}, {Value: "low", Label: "low"}, {Value: "mid", Label: "mid"}, {Value: "high", Label: "high"}}

func stageOptions(t *curriculum.Technique) []frame.Option {
	out := []frame.Option{{Value: "", Label: "as far as the rung goes"}}
	if t == nil {
		return out
	}
	for i := range t.Stages {
		out = append(out, frame.Option{Value: strconv.Itoa(i + 1), Label: "up to " + t.StageName(i+1)})
	}
	return out
}

// readLooks reads what marks look like on a line, a row each.
func readLooks(v url.Values, p *check.Problems) (out []curriculum.MarkLook) {
	for i, line := range p.Lines("mark_looks", v.Get("mark_looks")) {
		mark, looks, found := strings.Cut(line, ":")
		m, wrong := scoring.ParseDecimal(strings.TrimSpace(mark))
		if !found || wrong != nil || strings.TrimSpace(looks) == "" {
			p.Add("mark_looks", "row %d: %q; write a mark, a colon and what it looks like, for example 2: one slide", i+1, line)
			continue
		}
		out = append(out, curriculum.MarkLook{Mark: m, Looks: strings.TrimSpace(looks)})
	}
	slices.SortStableFunc(out, func(a, b curriculum.MarkLook) int { return cmp.Compare(a.Mark, b.Mark) })
	return out
}

// readRequirement reads a requirement's form on top of what is on record: the amount is
// typed as people write it. The short form on a rung sends only some of the fields.
func readRequirement(v url.Values, x curriculum.Requirement, b *curriculum.Book) (curriculum.Requirement, check.Problems) {
	var p check.Problems
	q, err := curriculum.ParseQuantity(v.Get("amount"))
	if err != nil {
		p.Add("amount", "%s", err)
	}
	x.SectionID, x.Role, x.Quantity = v.Get("section"), curriculum.Role(v.Get("role")), q
	x.MustPass, x.Bonus, x.Weight, x.Note = v.Get("must_pass") != "", v.Get("bonus") != "", p.Whole("weight", v.Get("weight"), 1, 100, 1), v.Get("note")
	if !v.Has("whole") {
		x.ShowAgain = x.ShowAgain || v.Get("show_again") != ""
		return x, p
	}
	d := &x.RequirementDetails
	d.Setting, d.LeastLevel = curriculum.Setting(v.Get("setting")), notation.Level(v.Get("least_level"))
	for name, on := range map[string]*bool{"covers": &d.Covers, "non_stop": &d.NonStop, "slow": &d.Slow,
		"supported": &d.Supported, "show_again": &d.ShowAgain, "free": &d.Free, "by_phases": &d.Phases} {
		*on = v.Get(name) != ""
	}
	d.Sprint, d.AtOnce, d.Looks = p.Whole("sprint", v.Get("sprint"), 0, 600, 0), p.Whole("at_once", v.Get("at_once"), 0, 50, 0), p.Whole("looks", v.Get("looks"), 0, 9, 0)
	d.Voice, d.Entries = curriculum.Voice(v.Get("voice")), nil
	if t := b.Technique(x.TechniqueID); t != nil {
		for _, name := range v["entries"] {
			if e := t.Entry(name); e != nil {
				d.Entries = append(d.Entries, e.Name)
			}
		}
	}
	d.StageCap = p.Whole("stage_cap", v.Get("stage_cap"), 0, 20, 0)
	d.Carry = curriculum.Carry{Kind: curriculum.CarryKind(v.Get("carry"))}
	switch d.Carry.Kind {
	case curriculum.Until:
		d.Carry.Rung = v.Get("carry_rung")
	case curriculum.Sample:
		d.Carry.Group = v.Get("carry_group")
	}
	d.Versions = p.Lines("versions", v.Get("versions"))
	d.Checks = nil
	if t := b.Technique(x.TechniqueID); t != nil && len(v["checkpoints"]) < len(b.Checkpoints(t)) {
		d.Checks = v["checkpoints"]
	}
	d.Table = nil
	for i, line := range p.Lines("table", v.Get("table")) {
		count, mark, found := strings.Cut(line, "=")
		n, err := strconv.Atoi(strings.TrimSpace(count))
		m, wrong := scoring.ParseDecimal(strings.TrimSpace(mark))
		if !found || err != nil || wrong != nil {
			p.Add("table", "row %d: %q; write the least count and its mark, for example 18 = 2", i+1, line)
		}
		d.Table = append(d.Table, curriculum.TableMark{Count: n, Mark: m})
	}
	d.MarkLooks = readLooks(v, &p)
	d.Tracks = readTracks(v, b, &p)
	return x, p
}

// readTracks reads what each track changes.
func readTracks(v url.Values, b *curriculum.Book, p *check.Problems) (out []curriculum.TrackChange) {
	for i, t := range b.Program.Tracks {
		at := fmt.Sprintf("track_%d_", i)
		c := curriculum.TrackChange{TrackID: t.ID, LeaveOut: v.Get(at+"out") != "", Bonus: v.Get(at+"bonus") != "",
			Level: notation.Level(v.Get(at + "level")), StageCap: p.Whole(at+"stage", v.Get(at+"stage"), 0, 20, 0)}
		if amount := check.Tidy(v.Get(at + "amount")); amount != "" {
			q, err := curriculum.ParseQuantity(amount)
			if err != nil {
				p.Add(at+"amount", "%s", err)
			}
			c.Quantity = &q
		}
		if c != (curriculum.TrackChange{TrackID: t.ID}) {
			out = append(out, c)
		}
	}
	return out
}

// requirementValues fills the form from a requirement.
func requirementValues(x curriculum.Requirement, t curriculum.Technique, b *curriculum.Book) url.Values {
	v := frame.Values("technique", t.Name, "section", x.SectionID, "role", string(x.Role), "amount", x.Quantity.String(), "weight", strconv.Itoa(x.Weight), "note", x.Note,
		"setting", string(x.Setting), "carry", string(x.Carry.Kind), "carry_rung", x.Carry.Rung, "carry_group", x.Carry.Group, "least_level", string(x.LeastLevel),
		"stage_cap", parts.Positive(x.StageCap), "sprint", parts.Positive(x.Sprint), "at_once", parts.Positive(x.AtOnce), "looks", parts.Positive(x.Looks), "versions", strings.Join(x.Versions, "\n"))
	if x.Carry.Kind == curriculum.Once {
		v.Set("carry", "")
	}
	for name, on := range map[string]bool{"must_pass": x.MustPass, "bonus": x.Bonus, "covers": x.Covers,
		"non_stop": x.NonStop, "slow": x.Slow, "supported": x.Supported, "show_again": x.ShowAgain, "free": x.Free, "by_phases": x.Phases} {
		if on {
			v.Set(name, "1")
		}
	}
	v.Set("voice", string(x.Voice))
	v["entries"] = x.Entries
	v["checkpoints"] = x.Checks
	if len(x.Checks) == 0 {
		v["checkpoints"] = b.Checkpoints(&t)
	}
	var rows []string
	for _, m := range x.Table {
		rows = append(rows, fmt.Sprintf("%d = %s", m.Count, m.Mark))
	}
	v.Set("table", strings.Join(rows, "\n"))
	rows = nil
	for _, m := range x.MarkLooks {
		rows = append(rows, fmt.Sprintf("%s: %s", m.Mark, m.Looks))
	}
	v.Set("mark_looks", strings.Join(rows, "\n"))
	for i, track := range b.Program.Tracks {
		at := fmt.Sprintf("track_%d_", i)
		for _, c := range x.Tracks {
			if c.TrackID != track.ID {
				continue
			}
			if c.LeaveOut {
				v.Set(at+"out", "1")
			}
			if c.Bonus {
				v.Set(at+"bonus", "1")
			}
			if c.Quantity != nil {
				v.Set(at+"amount", c.Quantity.String())
			}
			v.Set(at+"level", string(c.Level))
			v.Set(at+"stage", parts.Positive(c.StageCap))
		}
	}
	return v
}

// saveRequirement checks everything before it writes, so that all problems are told at once.
func (ch *chapter) saveRequirement(r *http.Request, by store.By, v url.Values, x curriculum.Requirement, b *curriculum.Book, p check.Problems) (store.Done, error) {
	if p.Of("amount") == "" {
		for _, y := range x.Check() {
			p.Add(y.Field, "%s", y.Text)
		}
	}
	for _, y := range b.CheckCarry(x) {
		p.Add(y.Field, "%s", y.Text)
	}
	name := check.Tidy(v.Get("technique"))
	p.Name("technique", name)
	if t := b.Named(name); t != nil && x.ID == "" && len(p) == 0 {
		x.TechniqueID = t.ID
		if stands := binder.For(b).AskedAlready(x); stands != nil {
			much := words.Asked(curriculum.Line{Kind: t.Kind, Call: t.Name, Quantity: stands.Quantity})
			p.Add("technique", "is asked by %s already, %s; open that line to change it, or tick “show again” for one more", b.Rung(x.RungID).Name, much)
		}
	}
	if len(p) > 0 {
		return store.Done{}, p
	}
	x.TechniqueID = ""
	kind := curriculum.Kind(v.Get("kind"))
	if s := b.Section(x.SectionID); s != nil && kind == "" {
		kind = s.Kind
	}
	return ch.records.SaveRequirement(r.Context(), by, x, name, kind)
}

func (ch *chapter) requirementsAdd(w http.ResponseWriter, r *http.Request) {
	var x curriculum.Requirement
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		g, err := ch.records.Rung(r.Context(), v.Get("rung"))
		if err != nil {
			return store.Done{}, err
		}
		b, err := ch.records.Book(r.Context(), g.ProgramID)
		if err != nil {
			return store.Done{}, err
		}
		var p check.Problems
		x, p = readRequirement(v, curriculum.Requirement{RungID: g.ID}, b)
		return ch.saveRequirement(r, by, v, x, b, p)
	}, func(store.Done) string {
		return ch.rungAddress(x.RungID, frame.Values("section", x.SectionID)) + "#add"
	}, func(status int, f frame.Form) {
		ch.ladderRung(w, r, f.Get("rung"), status, f)
	})
}

func (ch *chapter) requirementsShow(w http.ResponseWriter, r *http.Request) {
	ch.requirementsForm(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) requirementsForm(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	ctx := r.Context()
	x, err := ch.records.Requirement(ctx, r.PathValue("requirement"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	b, err := ch.records.Book(ctx, x.Technique.ProgramID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	g := b.Rung(x.RungID)
	if g == nil {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	v := requirementsView{Voices: voiceOptions("as the rung says"), Checkpoints: b.Checkpoints(&x.Technique),
		Requirement: x.Requirement, Technique: x.Technique, Rung: *g, Form: f, Techniques: b.Techniques, Section: sectionOptions(b), Levels: levelOptions, Stages: stageOptions(&x.Technique),
		Roles: frame.Options(curriculum.Roles, func(x curriculum.Role) string { return string(x) }), Settings: frame.Options(curriculum.Settings, curriculum.Setting.Words),
		Carries: []frame.Option{{Value: "", Label: "once, at this rung"},
			{Value: "until", Label: "again until a rung"}, {Value: "always", Label: "always from here on"}, {Value: "sample", Label: "drawn from a sample group"}}}
	v.Settings[0].Value = ""
	for _, y := range b.Rungs[g.Position:] {
		v.Above = append(v.Above, frame.Option{Value: y.ID, Label: y.Name})
	}
	for _, y := range b.Program.Groups {
		v.Groups = append(v.Groups, frame.Option{Value: y.ID, Label: fmt.Sprintf("%s, %d drawn", y.Name, y.Draw)})
	}
	for i, y := range b.Program.Tracks {
		v.Tracks = append(v.Tracks, trackChoice{y, fmt.Sprintf("track_%d_", i)})
	}
	v.Form = v.Form.Filled(requirementValues(x.Requirement, x.Technique, b))
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "requirements", Title: x.Technique.Name + " for " + v.Rung.Name, Nav: "ladder", Here: x.RungID, Body: v})
}

func (ch *chapter) requirementsSave(w http.ResponseWriter, r *http.Request) {
	var rung string
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		old, err := ch.records.Requirement(r.Context(), r.PathValue("requirement"))
		if err != nil {
			return store.Done{}, err
		}
		b, err := ch.records.Book(r.Context(), old.Technique.ProgramID)
		if err != nil {
			return store.Done{}, err
		}
		rung = old.RungID
		x, p := readRequirement(v, old.Requirement, b)
		return ch.saveRequirement(r, by, v, x, b, p)
	}, func(store.Done) string { return ch.rungAddress(rung, nil) }, func(status int, f frame.Form) { ch.requirementsForm(w, r, status, f) })
}

// requirementsMove moves a requirement by places, or past another one of its section: the
// page does not list those that another line shows.
func (ch *chapter) requirementsMove(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		id, distance := r.PathValue("requirement"), places(v)
		if past := v.Get("past"); past != "" {
			x, err := ch.records.Requirement(r.Context(), id)
			if err != nil {
				return store.Done{}, err
			}
			all, err := ch.records.Requirements(r.Context(), x.RungID)
			if err != nil {
				return store.Done{}, err
			}
			from := slices.IndexFunc(all, func(y store.ListedRequirement) bool { return y.ID == id })
			to := slices.IndexFunc(all, func(y store.ListedRequirement) bool { return y.ID == past && y.SectionID == x.SectionID })
			if from < 0 || to < 0 {
				return store.Done{}, &store.Refused{Reason: "The line to move past stands in another section now; load the page again."}
			}
			distance = to - from
		}
		return ch.records.MoveRequirement(r.Context(), by, id, distance)
	}, frame.To(ch.rungAddress(r.FormValue("rung"), nil)+"#requirements"), nil)
}

func (ch *chapter) requirementsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteRequirement(r.Context(), by, r.PathValue("requirement"))
	}, frame.To(ch.rungAddress(r.FormValue("rung"), nil)+"#requirements"), nil)
}

type sheetView struct {
	Rung     curriculum.Rung
	Sheet    curriculum.TestSheet
	Chosen   chosen
	Sizes    []int
	For      *store.Standing // the student it is made for; nil: anybody of the track
	ClimbsBy store.ClimbsBy
	Reading  curriculum.Reading // how its moves are told
}

// sheetShow is the test sheet of a rung, on screen and for print.
func (ch *chapter) sheetShow(w http.ResponseWriter, r *http.Request) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	var p check.Problems
	size := p.Whole("group", r.URL.Query().Get("group"), 1, 4, sheetGroup)
	if len(p) > 0 {
		ch.Message(w, r, http.StatusBadRequest, "The address is wrong", p.Error())
		return
	}
	v := sheetView{Rung: *g, Chosen: choice(r, b), Sizes: []int{1, 2, 3, 4}}
	v.Reading = v.Chosen.View.For()
	asking := curriculum.Asking{RungID: g.ID, TrackID: v.Chosen.Track, Seed: v.Chosen.Seed, Group: size}
	if of := r.URL.Query().Get("student"); of != "" {
		var err error
		if b, err = ch.sheetFor(r, &v, of, g.ProgramID, b); err != nil {
			ch.Fail(w, r, err)
			return
		}
		s, err := ch.records.Student(r.Context(), of)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Reading = curriculum.View(s.Stance).For()
		asking.TrackID, asking.Adaptations, asking.Candidate, asking.Group = v.ClimbsBy.Track.ID, v.ClimbsBy.Adaptations, of, 1
	}
	v.Sheet = b.Compile(asking)
	hideMayNots(frame.PersonOf(r).Role == store.Owner, &v.Sheet)
	ch.Show(w, r, http.StatusOK, g.ProgramID, frame.Page{Screen: "sheet", Title: "Test sheet, " + g.Name, Nav: "ladder", Here: g.ID, Body: v})
}

// hideMayNots takes from a sheet the notes on what the track may not do, but for the owner.
func hideMayNots(owner bool, sheet *curriculum.TestSheet) {
	if !owner {
		sheet.LeftOut = slices.DeleteFunc(sheet.LeftOut, func(l curriculum.LeftOut) bool { return l.Kind == curriculum.LeftBarred })
	}
}

// sheetFor finds the student a sheet is made for, and the curriculum they climb by.
func (ch *chapter) sheetFor(r *http.Request, v *sheetView, student, program string, draft *curriculum.Book) (*curriculum.Book, error) {
	standings, err := ch.records.Standings(r.Context(), student)
	if err != nil {
		return nil, err
	}
	for _, s := range standings {
		if s.ProgramID != program || !s.EndedOn.IsZero() {
			continue
		}
		v.For = &s
		if v.ClimbsBy, err = ch.records.ClimbsBy(r.Context(), s.EnrolmentID, ch.records.Today()); err != nil || v.ClimbsBy.VersionID == "" {
			return draft, err
		}
		b, err := ch.records.VersionBook(r.Context(), v.ClimbsBy.VersionID)
		if err == nil && b.Rung(v.Rung.ID) == nil { // the rung is younger than the version
			v.ClimbsBy.Version = 0
			return draft, nil
		}
		return b, err
	}
	return nil, store.ErrNotFound
}

// voiceOptions are the ways of using the voice, with what an empty choice means.
func voiceOptions(none string) []frame.Option {
	return append([]frame.Option{{Value: "", Label: none}}, frame.Options(curriculum.Voices, curriculum.Voice.Words)...)
}
