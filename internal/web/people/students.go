package people

import (
	"bytes"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// studentsPage is how many students one page lists.
const studentsPage = 100

type studentsView struct {
	Text       string
	Everybody  bool // of all programs
	Rows       []store.ListedStudent
	Total      int
	First      int
	Before     string // addresses of the pages before and after, "" for none
	After      string
	Today      civil.Date
	AnyProgram bool
}

func (ch *chapter) studentsList(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	q := r.URL.Query()
	v := studentsView{Text: q.Get("text"), Everybody: q.Get("of") == "everybody", Today: ch.records.Today(), AnyProgram: p.ID != ""}
	of := p.ID
	if v.Everybody {
		of = ""
	}
	var problems check.Problems
	from := problems.Whole("from", q.Get("from"), 0, 10_000_000, 0)
	if len(problems) > 0 {
		ch.Message(w, r, http.StatusBadRequest, "The address is wrong", problems.Error())
		return
	}
	if v.Rows, v.Total, err = ch.records.Students(r.Context(), of, v.Text, studentsPage, from); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.First = from + 1
	turn := func(n int) string {
		q.Set("from", strconv.Itoa(n))
		return "/students?" + q.Encode()
	}
	if from > 0 {
		v.Before = turn(max(from-studentsPage, 0))
	}
	if from+len(v.Rows) < v.Total {
		v.After = turn(from + studentsPage)
	}
	ch.Show(w, r, http.StatusOK, p.ID, frame.Page{Screen: "students", Title: "Students", Nav: "students", Body: v})
}

type studentView struct {
	Student  progress.Student
	Age      string
	Climbs   []studentClimb
	Editing  bool // the form is shown instead of the climb
	Form     frame.Form
	Stances  []frame.Option
	Typed    frame.Form    // in one of the forms beside the climbs; Of is the form and the enrolment or program
	Open     []enrolChoice // programs the student does not climb yet
	Today    civil.Date
	NewRungs []frame.Option
	Known    []progress.Known // who the new one may be
	Rest     bool             // what a student's form asks besides who it is is open

	First      string // the first name
	KitKnown   bool
	Kit        []string // on record
	KitAsked   []string // for the rungs climbed to
	KitMore    []string // on record and not asked
	Papers     []progress.Paper
	PaperKinds []frame.Option
	Parts      []string // of the body, that were measured
	Taped      []tapedStance
	ToScale    []frame.Option // the stances of what they climb, to be drawn for them
}

// tapedStance is what a tape said of a stance on a day.
type tapedStance struct {
	store.Taped
	Words []string
	Fine  bool
}

// Owns reports whether a thing is among the kit on record.
func (v studentView) Owns(k string) bool {
	return slices.ContainsFunc(v.Kit, func(x string) bool { return check.Key(x) == check.Key(k) })
}

// Until is the last day of a paper on record, empty for none.
func (v studentView) Until(kind string) string {
	for _, p := range v.Papers {
		if string(p.Kind) == kind {
			return p.Until.String()
		}
	}
	return ""
}

// ForGood reports whether a paper on record does not end.
func (v studentView) ForGood(kind string) bool {
	return slices.ContainsFunc(v.Papers, func(p progress.Paper) bool { return string(p.Kind) == kind && p.Until.IsZero() })
}

// askedPart is a section of what the next rung asks.
type askedPart struct {
	Name     string
	Done, Of int
	Notes    []string
	Items    []askedItem
}

// shownEntry is a sign-off with what it was for.
type shownEntry struct {
	store.SignedOff
	Call     string
	SideName string // of what was shown on one side
}

type askedItem struct {
	progress.Item
	Key    string
	Said   string // when it was seen, or what is missing
	LastID string // the sign-off to take back
}

type enrolChoice struct {
	ProgramID, Program string
	Rungs              []frame.Option
}

type studentClimb struct {
	store.Standing
	Picture  template.HTML
	Words    string
	History  []progress.Entry
	Attempts []store.Attempt
	Left     []store.Left // gradings it was entered for and left
	Rungs    []frame.Option
	store.ClimbsBy
	Tracks []frame.Option
	Grade  string // of the rank held
	Judged store.Climbing
	Given  []store.PastGiven
	store.ReadyClimb
	Parts         []askedPart
	NextThings    []progress.Next
	Planned       []store.Planned
	Chances       []string // of each planned grading
	Foreseen      string
	PastStripes   []store.PastStripe
	Shown         []shownEntry // sign-offs of this climb, the newest first
	Lately        []store.AttendedClass
	AsksCharacter bool
	Adapted       []adapted
	Kinds         []frame.Option
	Modifiers     []frame.Option
	Techniques    []curriculum.Technique
}

func (ch *chapter) studentsShow(w http.ResponseWriter, r *http.Request) {
	ch.studentOf(w, r, r.PathValue("student"), http.StatusOK, frame.Form{})
}

// studentOf shows a student, with what was typed in a form that was refused. What is wrong is
// also said at the head, because the form may be gone from the page.
func (ch *chapter) studentOf(w http.ResponseWriter, r *http.Request, id string, status int, typed frame.Form) {
	if len(typed.Problems) > 0 {
		typed.General = "Not saved. " + typed.Problems.Error()
	}
	ctx := r.Context()
	s, err := ch.records.Student(ctx, id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := studentView{Student: s, Typed: typed, Today: ch.records.Today()}
	v.First, _, _ = strings.Cut(s.Name, " ")
	if !s.BirthDate.IsZero() {
		v.Age = words.Count(s.BirthDate.Age(v.Today), "year")
	}
	standings, err := ch.records.Standings(ctx, s.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	climbs := map[string]bool{}
	here := ""
	for _, st := range standings {
		c, err := ch.climbOf(r, st)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Climbs = append(v.Climbs, c)
		climbs[st.ProgramID] = st.EndedOn.IsZero()
		if here == "" {
			here = st.Rung.ID
		}
	}
	if err := ch.evidence(r, &v); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if err := ch.onTheMat(ctx, &v); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Open, err = ch.openPrograms(r, climbs); err != nil {
		ch.Fail(w, r, err)
		return
	}
	of := ""
	if len(standings) > 0 {
		of = standings[0].ProgramID
	}
	ch.Show(w, r, status, of, frame.Page{Screen: "student", Title: s.Name, Nav: "students", Here: here, Body: v})
}

// openPrograms are those in which a student does not climb already.
func (ch *chapter) openPrograms(r *http.Request, climbs map[string]bool) (out []enrolChoice, err error) {
	programs, err := ch.records.Programs(r.Context())
	if err != nil {
		return nil, err
	}
	for _, p := range programs {
		if climbs[p.ID] {
			continue
		}
		rungs, err := ch.rungOptions(r, p.ID)
		if err != nil {
			return nil, err
		}
		if len(rungs) > 0 {
			out = append(out, enrolChoice{p.ID, p.Name, rungs})
		}
	}
	return out, nil
}

func (ch *chapter) rungOptions(r *http.Request, program string) (out []frame.Option, err error) {
	rungs, err := ch.records.Ladder(r.Context(), program)
	for _, g := range rungs {
		out = append(out, frame.Option{Value: g.ID, Label: g.Name})
	}
	return out, err
}

// climbOf draws one climb.
func (ch *chapter) climbOf(r *http.Request, st store.Standing) (studentClimb, error) {
	c := studentClimb{Standing: st}
	rungs, err := ch.records.Ladder(r.Context(), st.ProgramID)
	if err != nil {
		return c, err
	}
	if c.History, err = ch.records.History(r.Context(), st.EnrolmentID); err != nil {
		return c, err
	}
	if c.Left, err = ch.records.WhoLeft(r.Context(), "", st.EnrolmentID); err != nil {
		return c, err
	}
	if c.Attempts, err = ch.records.Attempts(r.Context(), st.EnrolmentID); err != nil {
		return c, err
	}
	c.Rungs = []frame.Option{{Value: "", Label: "choose a rung"}}
	picture := chart.Climb{Name: st.Name, Today: ch.records.Today()}
	at := map[string]int{}
	for i, g := range rungs {
		at[g.ID] = i
		picture.Rungs = append(picture.Rungs, g.Rung)
		c.Rungs = append(c.Rungs, frame.Option{Value: g.ID, Label: g.Name})
		if g.ID == st.Rung.ID && i+1 < len(rungs) {
			c.ReadyClimb.Next = &rungs[i+1].Rung
		}
	}
	for _, e := range c.History {
		if i, there := at[e.RungID]; there {
			picture.Steps = append(picture.Steps, chart.ClimbStep{On: e.On, Position: i})
		}
	}
	for _, t := range c.Attempts {
		if t.Outcome != scoring.OutcomeRetest {
			continue
		}
		stood := -1
		for _, s := range picture.Steps {
			if !t.On.Before(s.On) {
				stood = s.Position
			}
		}
		if stood >= 0 {
			picture.Tries = append(picture.Tries, chart.ClimbTry{On: t.On, Position: stood, Words: "retest for " + t.ToWords})
		}
	}
	if err := ch.climbsBy(r, &c); err != nil {
		return c, err
	}
	if len(picture.Steps) > 0 {
		if picture.Came, err = ch.records.DaysAttended(r.Context(), st.StudentID, st.ProgramID, picture.Steps[0].On); err != nil {
			return c, err
		}
	}
	if err := ch.readiness(r, &c, &picture, at); err != nil {
		return c, err
	}
	c.Picture, c.Words = template.HTML(picture.SVG()), picture.Sentence()
	return c, nil
}

func (ch *chapter) studentsNew(w http.ResponseWriter, r *http.Request) {
	ch.studentForm(w, r, http.StatusOK, progress.Student{}, nil, frame.Form{Values: frame.Values("joined_on", ch.records.Today().String())})
}

func (ch *chapter) studentsEdit(w http.ResponseWriter, r *http.Request) {
	ch.studentEdit(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) studentEdit(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	s, err := ch.records.Student(r.Context(), r.PathValue("student"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	f = f.Filled(frame.Values("name", s.Name, "birth_date", s.BirthDate.String(), "guardian", s.Guardian, "contact", s.Contact, "stance", string(s.Stance),
		"height_cm", measured(s.HeightCM), "weight_kg", measured(s.WeightKG), "waist_cm", measured(s.WaistCM), "shoulder_cm", inCM(s.ShoulderMM), "leg_cm", inCM(s.LegMM), "foot_cm", inCM(s.FootMM),
		"belt_size", s.BeltSize, "uniform_size", s.UniformSize, "limits", s.Limits,
		"joined_on", s.JoinedOn.String()))
	ch.studentForm(w, r, status, s, nil, f)
}

// measured is a measure as typed, nothing where none was taken.
func measured(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

// inCM is a measure in millimetres as it is typed, in centimetres.
func inCM(mm int) string {
	if mm == 0 {
		return ""
	}
	return check.Hundredths(mm * 10)
}

func (ch *chapter) studentForm(w http.ResponseWriter, r *http.Request, status int, s progress.Student, known []progress.Known, f frame.Form) {
	v := studentView{Student: s, Editing: true, Form: f, Known: known, Today: ch.records.Today(),
		Stances: []frame.Option{{Value: "", Label: "not known yet"},
			{Value: string(progress.Orthodox), Label: "orthodox (left foot forward)"}, {Value: string(progress.Southpaw), Label: "southpaw (right foot forward)"}}}
	first := []string{"name", "birth_date", "joined_on", "another", "guardian", "contact", "rung", "since"}
	v.Rest = s.ID != "" || slices.ContainsFunc(f.Problems, func(p check.Problem) bool { return !slices.Contains(first, p.Field) })
	title := s.Name
	if s.ID == "" {
		title = "A new student"
		p, err := ch.Program(r)
		if err == nil && p.ID != "" {
			v.NewRungs, err = ch.rungOptions(r, p.ID)
		}
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "student", Title: title, Nav: "students", Body: v})
}

func readStudent(v url.Values) (progress.Student, check.Problems) {
	var p check.Problems
	return progress.Student{
		Name: v.Get("name"), BirthDate: p.Date("birth_date", v.Get("birth_date")), Guardian: v.Get("guardian"), Contact: v.Get("contact"), Stance: progress.Stance(v.Get("stance")),
		HeightCM: p.Whole("height_cm", v.Get("height_cm"), 40, 260, 0),
		WeightKG: p.Whole("weight_kg", v.Get("weight_kg"), 8, 250, 0), WaistCM: p.Whole("waist_cm", v.Get("waist_cm"), 30, 200, 0),
		ShoulderMM: p.Tenths("shoulder_cm", v.Get("shoulder_cm")), LegMM: p.Tenths("leg_cm", v.Get("leg_cm")), FootMM: p.Tenths("foot_cm", v.Get("foot_cm")),
		BeltSize: v.Get("belt_size"), UniformSize: v.Get("uniform_size"),
		Limits: v.Get("limits"), JoinedOn: p.Date("joined_on", v.Get("joined_on")),
	}, p
}

func (ch *chapter) studentsSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("student")
	var known []progress.Known
	more := false
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		more = v.Get("more") != ""
		s, p := readStudent(v)
		since := p.Date("since", v.Get("since"))
		if today := ch.records.Today(); today.Before(since) {
			p.Add("since", "%s lies in the future; write today or an earlier day", since.Long())
		} else if since.IsZero() {
			since = today
		}
		if len(p) > 0 {
			for _, x := range s.Check(ch.records.Today()) {
				p.Add(x.Field, "%s", x.Text)
			}
			return store.Done{}, p
		}
		if s.ID = id; id != "" {
			return ch.records.SaveStudent(r.Context(), by, s)
		}
		added := store.NewStudent{Student: s, Ask: v.Get("another") == ""}
		if v.Get("rung") != "" {
			added.Starts = []store.Start{{RungID: v.Get("rung"), Since: since}}
		}
		done, err := ch.records.AddStudents(r.Context(), by, []store.NewStudent{added})
		var here *store.ErrKnown
		if errors.As(err, &here) {
			known = here.Known
			return done, check.Problems{{Field: "another", Text: here.Error()}}.Err()
		}
		return done, err
	}, func(d store.Done) string {
		if more {
			return "/students/new"
		}
		return "/students/" + d.ID
	}, func(status int, f frame.Form) {
		if id != "" {
			ch.studentEdit(w, r, status, f)
			return
		}
		ch.studentForm(w, r, status, progress.Student{}, known, f)
	})
}

func (ch *chapter) studentsDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteStudent(r.Context(), by, r.PathValue("student"))
	}, frame.To("/students"), func(status int, f frame.Form) { ch.studentEdit(w, r, status, frame.Form{General: f.General}) })
}

func (ch *chapter) studentsEnrol(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("student")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		since := p.Date("since", v.Get("since"))
		if v.Get("rung") == "" {
			p.Add("rung", "is not chosen; choose the rung the student stands on")
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.Enrol(r.Context(), by, id, v.Get("rung"), since)
	}, frame.To("/students/"+id), func(status int, f frame.Form) {
		f.Of = "enrol-" + f.Get("program")
		ch.studentOf(w, r, id, status, f)
	})
}

func (ch *chapter) studentsExport(w http.ResponseWriter, r *http.Request) {
	rows, _, err := ch.records.Students(r.Context(), "", "", 1<<30, 0)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var out bytes.Buffer
	var lines []exchange.StudentRow
	for _, s := range rows {
		line := exchange.StudentRow{Student: s.Student, Program: s.Program, Since: s.Since}
		if s.Rung != nil {
			line.Rung = s.Rung.Name
		}
		lines = append(lines, line)
	}
	if err := exchange.WriteStudents(&out, lines); err != nil {
		ch.Fail(w, r, err)
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="students-`+ch.records.Today().String()+`.csv"`)
	w.Write(out.Bytes())
}

// studentsStance notes which foot a student has in front, asked on the register.
func (ch *chapter) studentsStance(w http.ResponseWriter, r *http.Request) {
	back := "/students/" + r.PathValue("student")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if c, err := url.PathUnescape(v.Get("class")); err == nil && c != "" {
			back = "/register/" + url.PathEscape(c) + "/" + url.PathEscape(v.Get("on"))
		}
		s, err := ch.records.Student(r.Context(), r.PathValue("student"))
		if err != nil {
			return store.Done{}, err
		}
		if s.Stance = progress.Stance(v.Get("stance")); s.Stance == "" {
			return store.Done{}, check.Problems{{Field: "stance", Text: "is not said; choose the foot in front"}}
		}
		return ch.records.SaveStudent(r.Context(), by, s)
	}, func(store.Done) string { return back }, nil)
}

// functions are those of the templates about people.
func functions() template.FuncMap {
	return template.FuncMap{
		"adaptations": func() []frame.Option {
			return []frame.Option{{Value: "excuse", Label: "excused from it"}, {Value: "replace", Label: "something else"}, {Value: "change", Label: "another amount"}}
		},
		"urge":         words.Urge,
		"likeness":     words.Likeness,
		"howmuch":      words.HowMuch,
		"counts":       words.StandardAtHome,
		"partnerpart":  words.Partner,
		"calledathome": words.CalledAtHome,
		"attackathome": words.AttackAtHome,
		"cautions":     words.Cautions,
		"exposure":     words.Exposure,
		"leads":        words.Leads,
		"choicenote":   words.ChoiceNote,
		"withRequest":  func(p frame.Page, v practiceView) withRequest { return withRequest{p.Request, v} },
		"linkdays": func() []frame.Option {
			return []frame.Option{{Value: "30", Label: "30 days"}, {Value: "180", Label: "half a year"}, {Value: "365", Label: "a year"}}
		},
	}
}
