package curriculum

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/starter"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

type programsView struct {
	Program   curriculum.Program // its ID is "" for a new one
	First     bool
	Form      frame.Form
	Sections  []curriculum.Section
	Section   frame.Form // what was typed for a section
	Editing   string
	Details   frame.Form // tracks, sample groups, words, the usual policy
	Rows      []int
	Rungs     []frame.Option
	Voices    []frame.Option
	SideMeans []frame.Option
	Brackets  []frame.Option
	Markings  []frame.Option
	Kinds     []frame.Option // of what is new in a section
	Begins    []beginning    // what a new one may begin with
}

// beginning is what a new program may begin with: a general ladder, another program's, or nothing.
type beginning struct {
	Value, Name, Says string
	Cloths            []curriculum.Cloth
	Techniques        int
}

// The values of the field "begin": a general ladder's key or a program's id behind these, or nothing.
const (
	fromStarter = "starter:"
	fromProgram = "program:"
)

// beginnings are the general ladders, the programs there are, and an empty ladder.
func (ch *chapter) beginnings(ctx context.Context, programs []curriculum.Program) (out []beginning, err error) {
	cloths := func(c curriculum.Curriculum) (out []curriculum.Cloth) {
		for _, r := range c.Rungs {
			out = append(out, r.Cloth)
		}
		return out
	}
	for _, l := range starter.Ladders() {
		c, _ := starter.Curriculum(l.Key)
		out = append(out, beginning{fromStarter + l.Key, l.Name, l.Says, cloths(c), len(c.Techniques)})
	}
	for _, p := range programs {
		b, err := ch.records.Book(ctx, p.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, beginning{fromProgram + p.ID, "A copy of " + p.Name,
			"All its rungs, techniques and requirements as they stand; students stay where they are.", cloths(b.Curriculum), len(b.Techniques)})
	}
	return append(out, beginning{Name: "An empty ladder", Says: "Every rung and technique added by you. A file can be read in too."}), nil
}

// begin is the curriculum a new program begins with; found is false for an empty ladder.
func (ch *chapter) begin(ctx context.Context, with string) (c curriculum.Curriculum, found bool, err error) {
	if key, is := strings.CutPrefix(with, fromStarter); is {
		if c, found = starter.Curriculum(key); found {
			return c, true, nil
		}
	}
	if id, is := strings.CutPrefix(with, fromProgram); is {
		b, err := ch.records.Book(ctx, id)
		if err == nil {
			return b.Curriculum, true, nil
		}
		if !errors.Is(err, store.ErrNotFound) {
			return c, false, err
		}
	}
	if with != "" {
		return c, false, check.Problems{{Field: "begin", Text: "is not among the choices any more; choose again"}}
	}
	return c, false, nil
}

// addProgram adds a program with what it begins with, in one step. Without a name it is called as the ladder is.
func (ch *chapter) addProgram(ctx context.Context, by store.By, name, language, with string) (store.Done, error) {
	c, found, err := ch.begin(ctx, with)
	if err != nil {
		return store.Done{}, err
	}
	if !found {
		return ch.records.SaveProgram(ctx, by, curriculum.Program{Name: name, SecondLanguage: language})
	}
	if check.Tidy(name) == "" && strings.HasPrefix(with, fromStarter) {
		name = c.Program.Name
	}
	now, err := c.Copied(name, store.NewID)
	if err != nil {
		return store.Done{}, err
	}
	if now.Program.SecondLanguage = check.Tidy(language); now.Program.SecondLanguage == "" && strings.HasPrefix(with, fromProgram) {
		now.Program.SecondLanguage = c.Program.SecondLanguage
	}
	if err := now.Program.Check().Err(); err != nil {
		return store.Done{}, err
	}
	return ch.records.SaveCurriculum(ctx, by, now)
}

// spareRows is how many empty rows the lists of tracks and sample groups end with.
const spareRows = 2

func (ch *chapter) programsNew(w http.ResponseWriter, r *http.Request) {
	ch.programsForm(w, r, http.StatusOK, programsView{})
}

func (ch *chapter) programsShow(w http.ResponseWriter, r *http.Request) {
	ch.programsOf(w, r, http.StatusOK, programsView{})
}

// programsOf shows a program on record, with what was typed where it was refused.
func (ch *chapter) programsOf(w http.ResponseWriter, r *http.Request, status int, v programsView) {
	b, err := ch.records.Book(r.Context(), r.PathValue("program"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Program, v.Editing, v.Kinds = b.Program, v.Section.Get("section"), kindOptions("each line says it")
	v.Details = v.Details.Filled(parts.DetailValues(b.Program.ProgramDetails))
	for i := range max(len(b.Program.Tracks), len(b.Program.Groups)) + spareRows {
		v.Rows = append(v.Rows, i)
	}
	v.Rungs = []frame.Option{{Value: "", Label: "every grade is permanent"}}
	for _, g := range b.Rungs {
		v.Rungs = append(v.Rungs, frame.Option{Value: g.ID, Label: "from " + g.Name + " on"})
	}
	v.Voices, v.SideMeans = voiceOptions("not said"), sideMeans("a change of stance, as is usual")
	v.Brackets = []frame.Option{{Value: "", Label: "asked when a page is typed"},
		{Value: string(curriculum.BracketTerms), Label: "the term"}, {Value: string(curriculum.BracketRemarks), Label: "a remark"}}
	v.Markings = append([]frame.Option{{Value: "", Label: "not said"}}, frame.Options(gradingday.Markings, gradingday.Marking.Words)...)
	ch.programsForm(w, r, status, v)
}

// readDetails reads the form on top of what is on record. Ids of tracks and groups stay with
// their rows; a row whose name was emptied is taken out.
func readDetails(v url.Values, d *curriculum.ProgramDetails) check.Problems {
	var p check.Problems
	readTracksAndGroups(v, d, &p)
	d.Commands, d.Counting = nil, nil
	for i, line := range p.Lines("commands", v.Get("commands")) {
		said, meaning, found := strings.Cut(line, "=")
		if !found {
			p.Add("commands", "line %d: %q; write the word and its meaning, for example hajime = begin", i+1, line)
		}
		d.Commands = append(d.Commands, curriculum.Command{Word: check.Tidy(said), Meaning: check.Tidy(meaning)})
	}
	for said := range strings.SplitSeq(v.Get("counting"), ",") {
		if said = check.Tidy(said); said != "" {
			p.Line("counting", said, check.NameLength)
			d.Counting = append(d.Counting, said)
		}
	}
	meanings, wrong := curriculum.ParseMeanings(p.Lines("words", v.Get("words")))
	if wrong != nil {
		p.Add("words", "%s", wrong)
	}
	d.Meanings, d.Brackets = meanings, curriculum.Brackets(v.Get("brackets"))
	own, left, err := curriculum.ParseAttackLines(p.Lines("attacks", v.Get("attacks")))
	if err != nil {
		p.Add("attacks", "%s", err)
	}
	d.Attacks, d.NoAttacks = own, left
	d.Opening, d.Closing = p.Lines("opening", v.Get("opening")), p.Lines("closing", v.Get("closing"))
	d.SideMeans, d.Voice = curriculum.SideMeaning(v.Get("side_means")), curriculum.Voice(v.Get("voice"))
	was, marked := d.Policy, d.Marking
	d.PermanentFrom, d.Marking, d.Policy = v.Get("permanent_from"), curriculum.Marking(v.Get("marking")), nil
	if d.Marking != "" {
		policy := parts.ReadPolicy(v, parts.UsualPolicy(d.Marking), d.Marking, &p)
		if was != nil && marked == d.Marking { // what the form does not ask, such as section minima, stays
			kept := *was
			kept.Rules.Threshold, kept.Rules.AllowedFailing = policy.Rules.Threshold, policy.Rules.AllowedFailing
			policy = kept
		}
		d.Policy = &policy
	}
	return p
}

// readTracksAndGroups reads the rows of tracks and sample groups.
func readTracksAndGroups(v url.Values, d *curriculum.ProgramDetails, p *check.Problems) {
	rows := 0
	for name := range v {
		var i int
		if _, err := fmt.Sscanf(name, "track_%d_name", &i); err == nil && i < 100 {
			rows = max(rows, i+1)
		}
	}
	d.Tracks, d.Groups = nil, nil
	for i := range rows {
		at := func(what, name string) string { return check.Tidy(v.Get(fmt.Sprintf("%s_%d_%s", what, i, name))) }
		age := func(name string) int {
			return p.Whole(fmt.Sprintf("track_%d_%s", i, name), at("track", name), 0, 120, 0)
		}
		if name := at("track", "name"); name != "" {
			t := curriculum.Track{ID: at("track", "id"), Name: name, From: age("from"), To: age("to"), Young: at("track", "young") != "", AllowsRisk: at("track", "risk") != ""}
			if t.ID == "" {
				t.ID = store.NewID()
			}
			d.Tracks = append(d.Tracks, t)
		}
		if name := at("group", "name"); name != "" {
			g := curriculum.SampleGroup{ID: at("group", "id"), Name: name, Draw: p.Whole(fmt.Sprintf("group_%d_draw", i), at("group", "draw"), 1, 50, 1), Outright: at("group", "outright") != ""}
			if g.ID == "" {
				g.ID = store.NewID()
			}
			d.Groups = append(d.Groups, g)
		}
	}
}

// keepsUsed refuses to take out tracks and groups that something names.
func keepsUsed(b *curriculum.Book, now curriculum.ProgramDetails) error {
	for _, t := range b.Program.Tracks {
		if slices.ContainsFunc(now.Tracks, func(x curriculum.Track) bool { return x.ID == t.ID }) {
			continue
		}
		n := 0
		for _, r := range b.Requirements {
			if slices.ContainsFunc(r.Tracks, func(c curriculum.TrackChange) bool { return c.TrackID == t.ID }) {
				n++
			}
		}
		for _, x := range b.Techniques {
			if x.YoungestTrack == t.ID {
				n++
			}
		}
		for _, g := range b.Rungs {
			if slices.ContainsFunc(g.Rules, func(r curriculum.Rule) bool { return r.TrackID == t.ID }) {
				n++
			}
		}
		if n > 0 {
			return &store.Refused{Reason: fmt.Sprintf("%s cannot be taken out: %s it. Change those first.", t.Name, names(n))}
		}
	}
	for _, g := range b.Program.Groups {
		if slices.ContainsFunc(now.Groups, func(x curriculum.SampleGroup) bool { return x.ID == g.ID }) {
			continue
		}
		n := 0
		for _, r := range b.Requirements {
			if r.Carry.Group == g.ID {
				n++
			}
		}
		if n > 0 {
			return &store.Refused{Reason: fmt.Sprintf("%s cannot be taken out: %s it. Change those first.", g.Name, names(n))}
		}
	}
	return nil
}

func names(n int) string {
	if n == 1 {
		return "1 requirement, technique or rung names"
	}
	return fmt.Sprintf("%d requirements, techniques or rungs name", n)
}

// programsDetails saves tracks, sample groups, words and the usual policy.
func (ch *chapter) programsDetails(w http.ResponseWriter, r *http.Request) {
	program := r.PathValue("program")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		b, err := ch.records.Book(r.Context(), program)
		if err == nil && len(v) == 0 {
			err = check.Problems{{Field: "form", Text: "came empty, and nothing was changed; load the page again"}}
		}
		if err != nil {
			return store.Done{}, err
		}
		return ch.records.ChangeProgram(r.Context(), by, program, office.WordsChanged.Named(b.Program.Name), func(d *curriculum.ProgramDetails) error {
			if p := readDetails(v, d); len(p) > 0 {
				return p
			}
			return keepsUsed(b, *d)
		})
	}, frame.To("/programs/"+program+"#details"), func(status int, f frame.Form) { ch.programsOf(w, r, status, programsView{Details: f}) })
}

func (ch *chapter) programsForm(w http.ResponseWriter, r *http.Request, status int, v programsView) {
	school, err := ch.records.School(r.Context())
	if err == nil && v.Program.ID != "" {
		v.Sections, err = ch.records.Sections(r.Context(), v.Program.ID)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Form = v.Form.Filled(frame.Values("school", school, "name", v.Program.Name, "second_language", v.Program.SecondLanguage))
	title := v.Program.Name
	if v.Program.ID == "" {
		title = "A new program"
		all, err := ch.records.Programs(r.Context())
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.First = len(all) == 0
		if v.Begins, err = ch.beginnings(r.Context(), all); err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	ch.Show(w, r, status, v.Program.ID, frame.Page{Screen: "programs", Title: title, Nav: "ladder", Body: v})
}

func (ch *chapter) programsSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("program")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		school := check.Tidy(v.Get("school"))
		old, err := ch.records.School(r.Context())
		if err != nil {
			return store.Done{}, err
		}
		var done store.Done
		if id == "" {
			done, err = ch.addProgram(r.Context(), by, v.Get("name"), v.Get("second_language"), v.Get("begin"))
		} else {
			done, err = ch.records.SaveProgram(r.Context(), by, curriculum.Program{ID: id, Name: v.Get("name"), SecondLanguage: v.Get("second_language")})
		}
		was, _ := url.ParseQuery(v.Get("was"))                                             // what cannot be read is nothing
		if err == nil && v.Has("school") && school != old && school != was.Get("school") { // a name that nobody touched here undoes no other's
			_, err = ch.records.NameSchool(r.Context(), store.By{Actor: by.Actor}, school)
		}
		return done, err
	}, func(d store.Done) string {
		if id == "" {
			return "/ladder?program=" + d.ID
		}
		return "/programs/" + id
	}, func(status int, f frame.Form) {
		if id != "" {
			ch.programsOf(w, r, status, programsView{Form: f})
			return
		}
		ch.programsForm(w, r, status, programsView{Form: f})
	})
}

func (ch *chapter) programsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteProgram(r.Context(), by, r.PathValue("program"))
	}, frame.To("/ladder"), func(status int, f frame.Form) {
		ch.programsOf(w, r, status, programsView{Form: frame.Form{General: f.General}})
	})
}

func (ch *chapter) sectionsSave(w http.ResponseWriter, r *http.Request) {
	program := r.PathValue("program")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		x := curriculum.Section{ID: v.Get("section"), ProgramID: program, Name: v.Get("name"), Kind: curriculum.Kind(v.Get("kind"))}
		if x.ID == "" && x.Kind == "" {
			x.Kind = curriculum.UsualKind(x.Name)
		}
		return ch.records.SaveSection(r.Context(), by, x)
	}, func(store.Done) string {
		if back := r.PostForm.Get("back"); back != "" { // added where somebody was typing
			return frame.Back(back) + "#add"
		}
		return "/programs/" + program + "#sections"
	}, func(status int, f frame.Form) { ch.programsOf(w, r, status, programsView{Section: f}) })
}

func (ch *chapter) sectionsMove(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		id := r.PathValue("section")
		if to := v.Get("to"); to != "" { // a place, from 1
			var p check.Problems
			all, err := ch.records.Sections(r.Context(), v.Get("program"))
			if err != nil {
				return store.Done{}, err
			}
			at := slices.IndexFunc(all, func(s curriculum.Section) bool { return s.ID == id })
			n := p.Whole("to", to, 1, max(len(all), 1), 1)
			if len(p) > 0 {
				return store.Done{}, p
			}
			return ch.records.MoveSection(r.Context(), by, id, n-1-at)
		}
		return ch.records.MoveSection(r.Context(), by, id, places(v))
	}, frame.To("/programs/"+r.FormValue("program")+"#sections"), nil)
}

func (ch *chapter) sectionsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteSection(r.Context(), by, r.PathValue("section"))
	}, frame.To("/programs/"+r.FormValue("program")+"#sections"), nil)
}

// places is how far a row is to move; anything unreadable is not at all.
func places(v url.Values) int {
	n, _ := strconv.Atoi(v.Get("places"))
	return n
}

// sideMeans are what a side of an amount can mean, with what an empty choice means.
func sideMeans(none string) []frame.Option {
	return append([]frame.Option{{Value: "", Label: none}}, frame.Options(curriculum.SideMeanings, curriculum.SideMeaning.Words)...)
}
