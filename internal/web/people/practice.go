package people

import (
	"context"
	"errors"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// practiceView is a practice sheet, for the desk and for the family.
type practiceView struct {
	Climb  store.ReadyClimb
	First  string
	On     civil.Date
	Tasks  []practiceTask
	Later  []practice.Task // what is left besides
	Whole  []practice.Task // everything the test asks, in its order
	Said   string          // what is missing until the next test, and when it can be
	Away   []awayTask      // what classes worked on while the student was away
	Clips  []store.Clip
	Days   []string // of the log that is printed
	Links  []store.FamilyLink
	Made   string // the address of a link just made
	Form   frame.Form
	Home   string // where the forms of this sheet go
	Family bool
	Until  civil.Date // of the family's link

	Picture  template.HTML
	Verdict  progress.Verdict
	Foreseen string
	Results  []result
}

// result is a grading that was announced.
type result struct {
	On        civil.Date
	Words     string
	Candidate string // whose result can be read in plain words
}

// awayTask is something a class worked on while the student was away, with the school's clips.
type awayTask struct {
	store.Missed
	Name  string
	Clips []curriculum.Clip
}

type practiceTask struct {
	practice.Task
	Key      string
	Times    int // ticks in the last two weeks
	Today    bool
	Sections string
	Chosen   []practice.Chosen // of a free choice: what would be shown
	Slots    int               // how many can be chosen; 0: any number, of a round
	Named    bool              // they are chosen by name
	Offers   []string          // such names
	Example  string            // how moves are written, where they are not
}

// logDays is how many days the log of a printed sheet has.
const logDays = 14

// practiceOf makes the sheet of a climb. There is none without a rung above.
func (ch *chapter) practiceOf(r *http.Request, enrolment string) (v practiceView, err error) {
	ctx := r.Context()
	if v.Climb, err = ch.records.ReadyOf(ctx, enrolment); err != nil {
		return v, err
	}
	v.First, _, _ = strings.Cut(v.Climb.Name, " ")
	v.On = ch.records.Today()
	if v.Climb.Next == nil {
		return v, nil
	}
	s, err := ch.records.Student(ctx, v.Climb.StudentID)
	if err != nil {
		return v, err
	}
	done, err := ch.records.PractisedOf(ctx, enrolment, v.On.AddDays(-logDays))
	if err != nil {
		return v, err
	}
	choices, err := ch.records.Choices(ctx, enrolment)
	if err != nil {
		return v, err
	}
	things := v.Climb.NextThings(v.Climb.Book, v.Climb.Stripes, v.On, 1<<10)
	var all []progress.Next
	unseen := 0
	for _, it := range v.Climb.Items {
		all = append(all, progress.Next{Item: it})
		if it.Counts && !it.Done {
			unseen++
		}
	}
	v.Said = words.Missing(v.First, v.Climb.Next.Name, v.Climb.Verdict, unseen)
	v.Whole = practice.Sheet(v.Climb.Book, v.Climb.Next.ID, all, curriculum.View(s.Stance), v.Climb.Track.ID)
	task := func(t practice.Task) practiceTask {
		return v.task(t, curriculum.View(s.Stance), choices[enrolment][t.TechniqueID], done)
	}
	for i, t := range practice.Sheet(v.Climb.Book, v.Climb.Next.ID, things, curriculum.View(s.Stance), v.Climb.Track.ID) {
		if i >= practice.SheetTasks && !t.Free {
			v.Later = append(v.Later, t)
		} else {
			v.Tasks = append(v.Tasks, task(t))
		}
	}
	for _, t := range v.Whole { // what is one's own is chosen even where it was shown before
		if t.Free && !slices.ContainsFunc(v.Tasks, func(x practiceTask) bool { return x.RequirementID == t.RequirementID }) {
			t.Urge = progress.Urge{Kind: progress.UrgeChoice}
			v.Tasks = append(v.Tasks, task(t))
		}
	}
	for i := range logDays {
		v.Days = append(v.Days, v.On.AddDays(i).Short())
	}
	if err := ch.missed(ctx, &v); err != nil {
		return v, err
	}
	v.Clips, err = ch.records.Clips(ctx, enrolment)
	return v, err
}

// task is a task of the sheet with what was chosen for it and how often it was done of late.
func (v *practiceView) task(t practice.Task, stance curriculum.View, chosen []string, done []store.Practised) practiceTask {
	x := practiceTask{Task: t, Key: t.TechniqueID + string(t.Role)}
	if t.Free {
		x.Slots, x.Named = t.Slots(), practice.ByName(t.Line.Kind)
		x.Example = practice.Example(v.Climb.Book, v.Climb.Next.ID, v.Climb.Track.ID)
		x.Offers = practice.Offered(v.Climb.Book, t.Line.Kind, v.Climb.Next.ID, v.Climb.Track.ID)
		x.Chosen = practice.Noted(v.Climb.Book, t.Line.Kind, v.Climb.Next.ID, v.Climb.Track.ID, chosen)
		for k := range x.Chosen {
			x.Chosen[k].Moves = curriculum.Told(x.Chosen[k].Moves, stance.For())
		}
	}
	for _, d := range done {
		if d.TechniqueID == t.TechniqueID && d.Role == t.Role {
			x.Times, x.Today = d.Times, d.TodayID != ""
		}
	}
	return x
}

// missed is what was worked on while they were away, with its clips.
func (ch *chapter) missed(ctx context.Context, v *practiceView) error {
	missed, err := ch.records.MissedBy(ctx, []string{v.Climb.StudentID}, v.On.AddDays(-parts.MissedBack), v.On.AddDays(1))
	if err != nil {
		return err
	}
	for _, m := range missed {
		asked := slices.ContainsFunc(v.Climb.Items, func(it progress.Item) bool { return it.TechniqueID == m.TechniqueID })
		if t := v.Climb.Book.Technique(m.TechniqueID); t != nil && asked {
			v.Away = append(v.Away, awayTask{m, t.Name, practice.Clips(v.Climb.Book, t, v.Climb.Next.ID)})
		}
	}
	return nil
}

func (ch *chapter) practiceShow(w http.ResponseWriter, r *http.Request) {
	ch.practicePage(w, r, http.StatusOK, frame.Form{}, "")
}

func (ch *chapter) practicePage(w http.ResponseWriter, r *http.Request, status int, f frame.Form, made string) {
	enrolment := r.PathValue("enrolment")
	v, err := ch.practiceOf(r, enrolment)
	if err == nil {
		v.Links, err = ch.records.Links(r.Context(), v.Climb.StudentID)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Form, v.Made, v.Home = f, made, "/practice/"+enrolment
	if f.Values == nil {
		v.Form.Values = frame.Values("days", "180")
	}
	ch.Show(w, r, status, v.Climb.ProgramID, frame.Page{Screen: "practice", Title: "Practice sheet for " + v.Climb.Name, Nav: "students", Here: v.Climb.Rung.ID, Arrived: made != "", Body: v})
}

// practiceLink makes a link for the family. It is told on the page that follows, once.
func (ch *chapter) practiceLink(w http.ResponseWriter, r *http.Request) {
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	c, err := ch.records.ClimbingOf(r.Context(), r.PathValue("enrolment"), ch.records.Today())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var p check.Problems
	days := p.Whole("days", v.Get("days"), 1, 366, 180)
	token := ""
	if len(p) == 0 {
		token, _, err = ch.records.MakeLink(r.Context(), by, c.StudentID, v.Get("who"), days)
	} else {
		err = p
	}
	switch {
	case errors.As(err, &p):
		ch.practicePage(w, r, http.StatusUnprocessableEntity, frame.Form{Values: v, Problems: p}, "")
	case err != nil:
		ch.Fail(w, r, err)
	default:
		ch.practicePage(w, r, http.StatusOK, frame.Form{}, frame.Link(r, "/family/"+token))
	}
}

func (ch *chapter) practiceRevoke(w http.ResponseWriter, r *http.Request) {
	back := "/students"
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if e := v.Get("enrolment"); e != "" {
			back = "/practice/" + url.PathEscape(e)
		}
		return ch.records.RevokeLink(r.Context(), by, r.PathValue("link"))
	}, func(store.Done) string { return back }, nil)
}

// practiceAnswer answers a clip.
func (ch *chapter) practiceAnswer(w http.ResponseWriter, r *http.Request) {
	enrolment := r.PathValue("enrolment")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.AnswerClip(r.Context(), by, v.Get("clip"), v.Get("answer"))
	}, frame.To("/practice/"+enrolment), func(status int, f frame.Form) {
		f.Of = "clip-" + f.Get("clip")
		ch.practicePage(w, r, status, f, "")
	})
}

// practiceTick ticks at the desk what was practised.
func (ch *chapter) practiceTick(w http.ResponseWriter, r *http.Request) {
	enrolment := r.PathValue("enrolment")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.Tick(r.Context(), by, enrolment, v.Get("technique"), curriculum.Role(v.Get("role")))
	}, frame.To("/practice/"+enrolment), nil)
}

// practiceClip keeps the address of a clip that came in another way.
func (ch *chapter) practiceClip(w http.ResponseWriter, r *http.Request) {
	enrolment := r.PathValue("enrolment")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.SendClip(r.Context(), by, enrolment, v.Get("technique"), curriculum.Role(v.Get("role")), v.Get("address"))
	}, frame.To("/practice/"+enrolment), func(status int, f frame.Form) {
		f.Of = "send-" + f.Get("technique") + f.Get("role")
		ch.practicePage(w, r, status, f, "")
	})
}

// familyLink finds the student a link opens. Whatever is wrong with it is answered alike, so
// that nobody learns from guessing.
func (ch *chapter) familyLink(w http.ResponseWriter, r *http.Request) (l store.FamilyLink, climbs []store.Standing, ok bool) {
	l, err := ch.records.LinkOf(r.Context(), r.PathValue("token"))
	if err == nil {
		climbs, err = ch.records.Standings(r.Context(), l.StudentID)
	}
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrEnded) {
		ch.Message(w, r, http.StatusNotFound, "This link opens nothing", "It may have ended, or been mistyped. Ask the school for a new one.")
		return l, nil, false
	}
	if err != nil {
		ch.Fail(w, r, err)
		return l, nil, false
	}
	return l, climbs, true
}

// familyClimb is the climb a family's request is about: the one it names, or the first.
func familyClimb(climbs []store.Standing, wanted string) (store.Standing, bool) {
	for _, c := range climbs {
		if c.EndedOn.IsZero() && (wanted == "" || c.EnrolmentID == wanted) {
			return c, true
		}
	}
	return store.Standing{}, false
}

// familyPractice is the climb that a family's request is about, what is left to practise on it, and the student; where there is none, it has
// answered.
func (ch *chapter) familyPractice(w http.ResponseWriter, r *http.Request) (st store.Standing, v practiceView, s progress.Student, ok bool) {
	_, climbs, ok := ch.familyLink(w, r)
	if !ok {
		return st, v, s, false
	}
	st, found := familyClimb(climbs, r.FormValue("climb"))
	if !found {
		ch.Fail(w, r, store.ErrNotFound)
		return st, v, s, false
	}
	v, err := ch.practiceOf(r, st.EnrolmentID)
	if err == nil {
		s, err = ch.records.Student(r.Context(), st.StudentID)
	}
	if err != nil {
		ch.Fail(w, r, err)
	}
	return st, v, s, err == nil
}

func (ch *chapter) familyShow(w http.ResponseWriter, r *http.Request) {
	ch.familyPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) familyPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	l, climbs, ok := ch.familyLink(w, r)
	if !ok {
		return
	}
	st, found := familyClimb(climbs, r.FormValue("climb"))
	if !found {
		ch.Message(w, r, http.StatusNotFound, "There is nothing to practise for just now", "No climb is under way. Ask the school.")
		return
	}
	v, err := ch.practiceOf(r, st.EnrolmentID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Family, v.Form, v.Home, v.Until = true, f, "/family/"+r.PathValue("token"), l.ExpiresOn
	c, err := ch.climbOf(r, st)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Picture, v.Verdict, v.Foreseen = c.Picture, c.Judged.Verdict, c.Foreseen
	for _, t := range c.Attempts {
		switch {
		case t.Outcome == "": // not announced: nobody learns it from a screen
		case t.Outcome == scoring.OutcomeRetest:
			v.Results = append(v.Results, result{t.On, "for " + t.ToWords + ": to be shown again from " + t.RetestFrom.Long(), t.CandidateID})
		default:
			v.Results = append(v.Results, result{t.On, "promoted to " + t.ToWords, t.CandidateID})
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "family", Title: v.First + "’s climb", Bare: true, Body: v})
}

// familyResult is one announced result of the link's student in plain words.
func (ch *chapter) familyResult(w http.ResponseWriter, r *http.Request) {
	_, climbs, ok := ch.familyLink(w, r)
	if !ok {
		return
	}
	x, err := ch.records.Result(r.Context(), r.PathValue("candidate"), false)
	if err == nil && !slices.ContainsFunc(climbs, func(s store.Standing) bool { return s.EnrolmentID == x.EnrolmentID }) {
		err = store.ErrNotFound // somebody else's
	}
	var v parts.ResultView
	if err == nil {
		v, err = ch.ResultOf(r, x)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Home = "/family/" + r.PathValue("token")
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "result", Title: "Result of " + x.Name, Bare: true, Body: v})
}

// family runs what a family may write, which is ticks and clips, under the name of the link.
func (ch *chapter) family(w http.ResponseWriter, r *http.Request, write func(v url.Values, by store.By, enrolment string) (store.Done, error)) {
	l, climbs, ok := ch.familyLink(w, r)
	if !ok {
		return
	}
	home := "/family/" + r.PathValue("token")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		by.Actor = "family"
		if l.Who != "" {
			by.Actor = l.Who + " (family)"
		}
		st, found := familyClimb(climbs, v.Get("climb"))
		if !found {
			return store.Done{}, store.ErrNotFound
		}
		return write(v, by, st.EnrolmentID)
	}, frame.To(home), func(status int, f frame.Form) {
		switch f.Of = "send-" + f.Get("technique") + f.Get("role"); {
		case f.Values.Has("lines"):
			f.Of = "choose-" + f.Get("technique")
		case f.Values.Has("example"):
			f.Of = "example"
		}
		ch.familyPage(w, r, status, f)
	})
}

func (ch *chapter) familyTick(w http.ResponseWriter, r *http.Request) {
	ch.family(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.Tick(r.Context(), by, enrolment, v.Get("technique"), curriculum.Role(v.Get("role")))
	})
}

func (ch *chapter) familyClip(w http.ResponseWriter, r *http.Request) {
	ch.family(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.SendClip(r.Context(), by, enrolment, v.Get("technique"), curriculum.Role(v.Get("role")), v.Get("address"))
	})
}

// familyExample is what the family saw of character at home; the committee reads it beside the marks.
func (ch *chapter) familyExample(w http.ResponseWriter, r *http.Request) {
	ch.family(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.GiveExample(r.Context(), by, enrolment, v.Get("example"))
	})
}

// choose keeps what a student would show on a free-choice line, held against the school's rules.
func (ch *chapter) choose(r *http.Request, v url.Values, by store.By, enrolment string) (store.Done, error) {
	c, err := ch.records.ReadyOf(r.Context(), enrolment)
	if err != nil {
		return store.Done{}, err
	}
	technique := v.Get("technique")
	k := slices.IndexFunc(c.Items, func(it progress.Item) bool { return it.Free && it.TechniqueID == technique })
	if k < 0 {
		return store.Done{}, &store.Refused{Reason: "This is no longer a free choice on the way to the next rung."}
	}
	var p check.Problems
	lines := p.Lines("lines", v.Get("lines"))
	chosen, more := practice.Choose(c.Book, c.Items[k].Line, c.Next.ID, c.Track.ID, lines)
	if err := append(p, more...).Err(); err != nil {
		return store.Done{}, err
	}
	kept := []string{}
	for _, x := range chosen {
		kept = append(kept, x.Line)
	}
	return ch.records.Choose(r.Context(), by, enrolment, technique, kept)
}

func (ch *chapter) practiceChoose(w http.ResponseWriter, r *http.Request) {
	enrolment := r.PathValue("enrolment")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) { return ch.choose(r, v, by, enrolment) }, frame.To("/practice/"+enrolment), func(status int, f frame.Form) {
		f.Of = "choose-" + f.Get("technique")
		ch.practicePage(w, r, status, f, "")
	})
}

func (ch *chapter) familyChoose(w http.ResponseWriter, r *http.Request) {
	ch.family(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.choose(r, v, by, enrolment)
	})
}

// ownReps is how often a combination of one's own is called on each side at home.
const ownReps = 5

// familyCaller runs the caller at home, over what is left to practise.
func (ch *chapter) familyCaller(w http.ResponseWriter, r *http.Request) {
	st, v, s, ok := ch.familyPractice(w, r)
	if !ok {
		return
	}
	var calls []practice.Call
	for _, t := range v.Tasks {
		for _, c := range t.Chosen {
			if len(c.Moves) > 0 {
				calls = append(calls, practice.CombinationCall(v.Climb.Book, c.Line, ownReps))
			}
		}
		if len(t.Chosen) == 0 {
			calls = append(calls, practice.CallOf(v.Climb.Book, t.Line, 0))
		}
	}
	ch.ShowCaller(w, r, parts.CallerView{Title: v.First + "’s practice", Back: "/family/" + r.PathValue("token"),
		Floor:  "/family/" + r.PathValue("token") + "/floor/*?climb=" + st.EnrolmentID,
		Stance: string(s.Stance), Stances: frame.Options(curriculum.Views, curriculum.View.Words)}, v.Climb.Book, calls)
}

// withRequest is a view with the request id of its page, for partials with forms.
type withRequest struct {
	Request string
	V       practiceView
}
