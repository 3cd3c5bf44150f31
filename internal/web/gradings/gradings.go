package gradings

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type gradingsView struct {
	Rows     []store.Grading
	Today    civil.Date
	HasRungs bool
}

func (ch *chapter) gradingsList(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	rows, err := ch.records.Gradings(r.Context(), "")
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	rungs, err := ch.records.Ladder(r.Context(), p.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, http.StatusOK, p.ID, frame.Page{Screen: "gradings", Title: "Gradings", Nav: "gradings", Body: gradingsView{rows, ch.records.Today(), len(rungs) > 1}})
}

type gradingView struct {
	Grading  store.Grading
	Editing  bool
	Form     frame.Form
	Markings []frame.Option
	Rungs    []frame.Option
	Sizes    []frame.Option
	Seats    []int
	Floors   []ringField // one more than are named
	Panels   []frame.Option
	Ties     []frame.Option
	Results  []frame.Option
	Scopes   []frame.Option
	Policy   frame.Form

	Candidates []store.Candidate
	Groups     []gradingGroup
	Eligible   []store.Climbing // may be tested on the day, or it is not known
	NotYet     []store.Climbing // the nearly eligible, the earliest first
	Exceptions []store.ListedStudent
	Add        frame.Form
	Today      civil.Date
	Rule       string
	Minutes    int
	General    string
	Remarks    []string // what to look at before the tables open
	Left       []store.Left
	Leaving    frame.Form        // of the candidate named by its field "candidate"
	Sheets     map[string]string // candidate → the sheet in words
}

// entrant is a line of the list from which candidates are ticked.
type entrant struct {
	store.Climbing
	Form frame.Form
}

// ringField names the fields of one ring in the form.
type ringField struct {
	Label, Name, Seats, Chief string
	Spare                     bool // not used yet
}

func ringFields(i int) ringField {
	x := ringField{Label: "Ring " + string(rune('A'+i)), Name: "ring_name", Seats: "examiner", Chief: "chief"}
	if i > 0 {
		n := "_" + strconv.Itoa(i)
		x.Name, x.Seats, x.Chief = x.Name+n, x.Seats+n, x.Chief+n
	}
	return x
}

type gradingGroup struct {
	ID, Name, To string
	Ring         gradingday.Ring
	Marked       bool // it stays in its ring
	Candidates   []store.Candidate
	Sheets       []gradingSheet
}

type gradingSheet struct {
	store.Sheet
	Examiner gradingday.Examiner
}

func (ch *chapter) gradingsNew(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	f := frame.Form{Values: frame.Values("program", p.ID, "on", ch.records.Today().String(),
		"marking", "movement_scale", "group_size", "3", "retest_days", "28", "results", "held",
		"retest_scope", "whole", "carry_days", strconv.Itoa(gradingday.DefaultCarryDays), "chief", "1")}
	setValues(f.Values, parts.PolicyValues(scoring.MovementScale()))
	if b, err := ch.records.Book(r.Context(), p.ID); err == nil && b.Program.Policy != nil { // the program's usual marking
		f.Values.Set("marking", parts.DetailValues(b.Program.ProgramDetails).Get("marking"))
		setValues(f.Values, parts.PolicyValues(*b.Program.Policy))
	}
	ch.gradingForm(w, r, http.StatusOK, gradingView{}, f)
}

func (ch *chapter) gradingsEdit(w http.ResponseWriter, r *http.Request) {
	ch.gradingEdit(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) gradingEdit(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	g, err := ch.records.Grading(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	stands := frame.Values("program", g.ProgramID, "name", g.Name, "place", g.Place, "on", g.On.String(),
		"marking", string(g.Marking), "group_size", strconv.Itoa(g.GroupSize), "retest_days", g.RetestWait())
	setValues(stands, frame.Values("results", string(g.Results), "retest_scope", string(g.RetestScope), "carry_days", strconv.Itoa(g.CarryDays)))
	setValues(stands, parts.PolicyValues(g.Policy))
	for _, id := range g.RungIDs {
		stands.Add("rungs", id)
	}
	for i, ring := range g.Rings {
		x := ringFields(i)
		stands.Set(x.Name, ring.Name)
		for k, e := range g.Panel(i) {
			stands.Add(x.Seats, e.Name)
			if e.Chief {
				stands.Set(x.Chief, strconv.Itoa(k+1))
			}
		}
	}
	f = f.Filled(stands)
	ch.gradingForm(w, r, status, gradingView{Grading: g}, f)
}

// setValues puts the fields of one form into another.
func setValues(into, from url.Values) {
	for name, v := range from {
		into[name] = v
	}
}

func (ch *chapter) gradingForm(w http.ResponseWriter, r *http.Request, status int, v gradingView, f frame.Form) {
	v.Form, v.Editing = f, true
	v.Markings = frame.Options(gradingday.Markings, gradingday.Marking.Words)
	v.Sizes = []frame.Option{{Value: "1", Label: "1"}, {Value: "2", Label: "2"}, {Value: "3", Label: "3"}, {Value: "4", Label: "4"}}
	v.Seats = []int{0, 1, 2, 3, 4}
	v.Panels, v.Ties = parts.PanelOptions, parts.TieOptions
	v.Results = []frame.Option{{Value: "held", Label: "held until somebody announces them"}, {Value: "at_once", Label: "known as soon as the panel has signed, as the marks propose"}}
	v.Scopes = []frame.Option{{Value: "whole", Label: "the whole test"},
		{Value: "items", Label: "only what failed; the rest stands"}, {Value: "sections", Label: "the sections in which something failed; the rest stands"}}
	for i := range gradingday.MaxRings {
		x := ringFields(i)
		named := check.Tidy(strings.Join(f.Values[x.Seats], "")) != ""
		v.Floors = append(v.Floors, x)
		if i > 0 && !named || i == 0 && !named {
			if i > 0 {
				v.Floors[i].Spare = true
			}
			break
		}
	}
	if len(v.Floors) == 1 && check.Tidy(strings.Join(f.Values["examiner"], "")) == "" {
		spare := ringFields(1)
		spare.Spare = true
		v.Floors = append(v.Floors, spare)
	}
	rungs, err := ch.records.Ladder(r.Context(), f.Get("program"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for i, g := range rungs {
		if i > 0 { // nobody climbs to the lowest
			v.Rungs = append(v.Rungs, frame.Option{Value: g.ID, Label: g.Name})
		}
	}
	title := "A new grading"
	if v.Grading.ID != "" {
		title = v.Grading.Title()
	}
	ch.Show(w, r, status, f.Get("program"), frame.Page{Screen: "grading", Title: title, Nav: "gradings", Body: v})
}

// readGrading reads the form. The policy is the marking's usual one with the threshold and
// the allowed failing lines that were typed.
func readGrading(v url.Values) (gradingday.Grading, check.Problems) {
	var p check.Problems
	g := gradingday.Grading{
		ProgramID: v.Get("program"), Name: v.Get("name"), Place: v.Get("place"), On: p.Date("on", v.Get("on")), Marking: gradingday.Marking(v.Get("marking")),
		GroupSize: p.Whole("group_size", v.Get("group_size"), 1, gradingday.MaxGroup, 3), RungIDs: v["rungs"],
	}
	var said bool
	if g.RetestMonths, g.RetestDays, said = gradingday.ReadRetestWait(v.Get("retest_days")); !said {
		g.RetestDays = p.Whole("retest_days", v.Get("retest_days"), 0, 730, 28)
	}
	g.Results, g.RetestScope, g.CarryDays = gradingday.Results(v.Get("results")), scoring.Scope(v.Get("retest_scope")), p.Whole("carry_days", v.Get("carry_days"), 1, 730, gradingday.DefaultCarryDays)
	g.Policy = parts.ReadPolicy(v, parts.UsualPolicy(g.Marking), g.Marking, &p)
	for i := range gradingday.MaxRings {
		x := ringFields(i)
		names := v[x.Seats]
		if check.Tidy(strings.Join(names, "")) == "" && i > 0 {
			continue // a ring without anybody is none
		}
		ring := len(g.Rings)
		g.Rings = append(g.Rings, gradingday.Ring{Name: v.Get(x.Name)})
		chief := p.Whole("chief", v.Get(x.Chief), 0, gradingday.MaxPanel, 0)
		for k, name := range names {
			if check.Tidy(name) != "" {
				g.Examiners = append(g.Examiners, gradingday.Examiner{Name: check.Tidy(name), Chief: chief == k+1, Ring: ring})
			}
		}
	}
	return g, p
}

func (ch *chapter) gradingsSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		g, p := readGrading(v)
		if len(p) > 0 {
			for _, x := range g.Check() {
				p.Add(x.Field, "%s", x.Text)
			}
			return store.Done{}, p
		}
		g.ID = id
		return ch.records.SaveGrading(r.Context(), by, g)
	}, func(d store.Done) string { return "/gradings/" + d.ID }, func(status int, f frame.Form) {
		if id != "" {
			ch.gradingEdit(w, r, status, f)
			return
		}
		ch.gradingForm(w, r, status, gradingView{}, f)
	})
}

func (ch *chapter) gradingsShow(w http.ResponseWriter, r *http.Request) {
	ch.gradingOf(w, r, r.PathValue("grading"), http.StatusOK, frame.Form{})
}

func (ch *chapter) gradingOf(w http.ResponseWriter, r *http.Request, id string, status int, add frame.Form) {
	ctx := r.Context()
	g, err := ch.records.Grading(ctx, id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := gradingView{Grading: g, Add: add, Today: ch.records.Today(), Rule: parts.RuleWords(g), General: add.General}
	var sheets []store.Sheet
	var uses map[string]store.SheetUse
	for _, load := range []func() error{
		func() (err error) { v.Candidates, err = ch.records.Candidates(ctx, id); return },
		func() error {
			all, err := ch.records.Eligible(ctx, id)
			for _, c := range all {
				if c.Verdict.State == progress.NotMet {
					v.NotYet = append(v.NotYet, c)
				} else {
					v.Eligible = append(v.Eligible, c)
				}
			}
			slices.SortStableFunc(v.NotYet, func(x, y store.Climbing) int { return y.Verdict.Earliest.DaysTo(x.Verdict.Earliest) })
			return err
		},
		func() (err error) { sheets, err = ch.records.Progress(ctx, id); return },
		func() (err error) { uses, err = ch.records.SheetUses(ctx, id); return },
		func() (err error) { v.Left, err = ch.records.WhoLeft(ctx, id, ""); return },
		func() (err error) { v.Remarks, err = ch.remarks(r, g, v.Candidates); return },
		func() (err error) {
			v.Exceptions, _, err = ch.records.Students(ctx, g.ProgramID, "", 1000, 0)
			return
		},
	} {
		if err := load(); err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	if v.Sheets, err = ch.sheetWords(r, g.ProgramID, uses); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.group(sheets)
	for _, x := range g.Rungs {
		v.Rungs = append(v.Rungs, frame.Option{Value: x.ID, Label: x.Name})
	}
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "grading", Title: g.Title(), Nav: "gradings", Body: v})
}

// group puts the candidates and the sheets into their groups.
func (v *gradingView) group(sheets []store.Sheet) {
	g := v.Grading
	for _, c := range v.Candidates {
		if n := len(v.Groups); n == 0 || v.Groups[n-1].ID != c.GroupID {
			ring, _ := g.PanelOf(c.RingID)
			v.Groups = append(v.Groups, gradingGroup{ID: c.GroupID, Name: c.Group, To: c.ToWords, Ring: g.Rings[ring]})
		}
		last := &v.Groups[len(v.Groups)-1]
		last.Candidates = append(last.Candidates, c)
	}
	for i := range v.Groups {
		for _, s := range sheets {
			for _, e := range g.Examiners {
				if s.GroupID == v.Groups[i].ID && s.ExaminerID == e.ID {
					v.Groups[i].Sheets = append(v.Groups[i].Sheets, gradingSheet{s, e})
					v.Groups[i].Marked = v.Groups[i].Marked || s.Marks > 0 || s.Signed
				}
			}
		}
	}
}

func (ch *chapter) gradingsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteGrading(r.Context(), by, r.PathValue("grading"))
	}, frame.To("/gradings"), nil)
}

func (ch *chapter) candidatesAdd(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var entrants []store.Entrant
		for _, e := range v["candidates"] {
			entrants = append(entrants, store.Entrant{EnrolmentID: e, Reason: v.Get("reason")})
		}
		if e := v.Get("exception"); e != "" {
			entrants = append(entrants, store.Entrant{EnrolmentID: e, To: v.Get("rung"), Reason: v.Get("reason")})
		}
		return ch.records.AddCandidates(r.Context(), by, id, entrants)
	}, frame.To("/gradings/"+id), func(status int, f frame.Form) { ch.gradingOf(w, r, id, status, f) })
}

// remarks are what to look at before the tables open: panels of different sizes, too few examiners, students who are
// entered elsewhere at the same hour.
func (ch *chapter) remarks(r *http.Request, g store.Grading, candidates []store.Candidate) (out []string, err error) {
	if said := words.Uneven(g.Uneven()); said != "" {
		out = append(out, said)
	}
	few, err := ch.records.TooFew(r.Context(), g, candidates)
	if err != nil {
		return nil, err
	}
	for _, x := range few {
		out = append(out, words.TooFew(x))
	}
	also, err := ch.records.AlsoEntered(r.Context(), g)
	return append(out, also...), err
}

func (ch *chapter) candidatesWithdraw(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("candidate")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.WithdrawCandidate(r.Context(), by, id, v.Get("reason"), v.Get("sure") != "")
		ch.tellTables(r, done.ID, err)
		return done, err
	}, func(d store.Done) string { return "/gradings/" + d.ID }, func(status int, f frame.Form) {
		f.Values.Set("candidate", id)
		ch.gradingOf(w, r, f.Get("grading"), status, f)
	})
}

func (ch *chapter) candidatesBack(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.BringBack(r.Context(), by, r.PathValue("candidate"))
		ch.tellTables(r, done.ID, err)
		return done, err
	}, func(d store.Done) string { return "/gradings/" + d.ID }, nil)
}

// tellTables has every table of a grading read its sheet again: who stands on it has changed.
func (ch *chapter) tellTables(r *http.Request, grading string, err error) {
	if err != nil {
		return
	}
	sheets, err := ch.records.Progress(r.Context(), grading)
	if err != nil {
		ch.Log.Error("tables could not be told who left", "error", err)
	}
	for _, s := range sheets {
		ch.Hub.Tell(frame.TableTopic(s.ExaminerID, s.GroupID), map[string]bool{"again": true})
	}
	ch.Hub.Tell(frame.GradingTopic(grading), nil)
}

func (ch *chapter) gradingsBegin(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) { return ch.records.Begin(r.Context(), by, id) },
		frame.To("/gradings/"+id), func(status int, f frame.Form) { ch.gradingOf(w, r, id, status, frame.Form{General: f.General}) })
}

// sheetWords says which sheet each candidate is marked on: track, version, and whether it is
// theirs alone.
func (ch *chapter) sheetWords(r *http.Request, program string, uses map[string]store.SheetUse) (map[string]string, error) {
	b, err := ch.records.Book(r.Context(), program)
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	for id, u := range uses {
		said := "the draft"
		if u.Version > 0 {
			said = "version " + strconv.Itoa(u.Version)
		}
		if t := b.Track(u.TrackID); t != nil {
			said = t.Name + ", " + said
		}
		if u.Own {
			said += ", a sheet of their own"
		}
		if u.Stands > 0 {
			said += ": a retest, " + words.Count(u.Stands, "item") + " passed before and standing"
		}
		out[id] = said
	}
	return out, nil
}

// functions are those of the templates before a grading.
func functions() template.FuncMap {
	return template.FuncMap{
		"entrant":    func(c store.Climbing, f frame.Form) entrant { return entrant{c, f} },
		"time":       timetable.Clock,
		"checkmark":  checkMark,
		"hundredths": func(thousandths int) string { return fmt.Sprintf("%d.%02d", thousandths/1000, thousandths%1000/10) },
		"years":      func(months int) string { return fmt.Sprintf("%d y %d m", months/12, months%12) },
		"metres":     words.Metres,
		"sized":      words.Size,
		"breach":     words.Breach,
		"toodeep":    words.TooDeep,
		"prepare": func(g store.Grading, here string, owner bool) preparation {
			return preparation{Grading: g, Here: here, Owner: owner}
		},
	}
}

// preparation is the row of places around a grading.
type preparation struct {
	Grading store.Grading
	Here    string
	Owner   bool
}
