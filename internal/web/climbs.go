package web

import (
	"net/http"
	"net/url"
	"path"
	"slices"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
)

// adapted is an adaptation on record, in words.
type adapted struct {
	curriculum.Adaptation
	Words string
	Holds bool
}

// climber fills in by which track and version a student climbs, the grade held, and what is
// adapted.
func (a *app) climber(r *http.Request, c *studentClimb) (err error) {
	ctx := r.Context()
	if c.Climber, err = a.store.Climber(ctx, c.EnrolmentID, a.store.Today()); err != nil {
		return err
	}
	b, err := a.store.Book(ctx, c.ProgramID)
	if err != nil {
		return err
	}
	c.Techniques = b.Techniques
	c.Tracks = []option{{"", "by age"}}
	for _, t := range b.Program.Tracks {
		c.Tracks = append(c.Tracks, option{t.ID, t.Name + " (" + t.Ages() + ")"})
	}
	c.Kinds = append([]option{{"", "one technique, named below"}}, options(curriculum.Kinds, func(k curriculum.Kind) string { return "every " + k.Words() })...)
	c.Modifiers = append([]option{{"", "no, only what is named"}}, options(curriculum.Modifiers, func(m curriculum.Modifier) string { return "everything " + string(m) })...)
	if n := len(c.History); n > 0 {
		c.Grade = c.History[n-1].Grade
	}
	if c.Judged, err = a.store.ClimbingOf(ctx, c.EnrolmentID, a.store.Today()); err != nil {
		return err
	}
	if c.Given, err = a.store.GivenEver(ctx, c.EnrolmentID); err != nil {
		return err
	}
	all, err := a.store.Adaptations(ctx, c.StudentID, c.ProgramID)
	for _, x := range all {
		c.Adapted = append(c.Adapted, adapted{x, b.AdaptationWords(x), x.HoldsOn(a.store.Today())})
	}
	return err
}

// saveClimb writes something about the enrolment an address names and goes back to its
// student; what is wrong is said there, in the form it was typed in.
func (a *app) saveClimb(w http.ResponseWriter, r *http.Request, write func(v url.Values, by store.By, enrolment string) (store.Done, error)) {
	enrolment, student := chi.URLParam(r, "enrolment"), r.FormValue("student")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) { return write(v, by, enrolment) }, to("/students/"+url.PathEscape(student)), func(status int, f form) {
		f.Of = path.Base(r.URL.Path) + "-" + enrolment
		a.studentOf(w, r, student, status, f)
	})
}

func (a *app) enrolmentsTrack(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return a.store.SetTrack(r.Context(), by, enrolment, v.Get("track"))
	})
}

func (a *app) enrolmentsMerit(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var p check.Problems
		on := p.Date("on", v.Get("on"))
		if len(p) > 0 {
			return store.Done{}, p
		}
		return a.store.AwardMerit(r.Context(), by, enrolment, on, v.Get("reason"))
	})
}

func (a *app) enrolmentsCorrect(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var p check.Problems
		on := p.Date("on", v.Get("on"))
		if v.Get("rung") == "" {
			p.Add("rung", "is not chosen; choose the rung the student really stands on")
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return a.store.CorrectRank(r.Context(), by, enrolment, v.Get("rung"), on, v.Get("reason"))
	})
}

func (a *app) enrolmentsEnd(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(_ url.Values, by store.By, enrolment string) (store.Done, error) {
		return a.store.EndEnrolment(r.Context(), by, enrolment)
	})
}

// enrolmentsAdapt records that a student is excused from something, or does something else.
func (a *app) enrolmentsAdapt(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		student := v.Get("student")
		standings, err := a.store.Standings(r.Context(), student)
		if err != nil {
			return store.Done{}, err
		}
		at := slices.IndexFunc(standings, func(s store.Standing) bool { return s.EnrolmentID == enrolment })
		if at < 0 {
			return store.Done{}, store.ErrNotFound
		}
		b, err := a.store.Book(r.Context(), standings[at].ProgramID)
		if err != nil {
			return store.Done{}, err
		}
		var p check.Problems
		x := curriculum.Adaptation{Kind: curriculum.Kind(v.Get("kind")), Modifier: curriculum.Modifier(v.Get("modifier")), Does: curriculum.AdaptationKind(v.Get("does")), Reason: check.Tidy(v.Get("reason")), From: p.Date("from", v.Get("from")), To: p.Date("to", v.Get("to"))}
		named := func(field string) string {
			name := check.Tidy(v.Get(field))
			if name == "" {
				return ""
			}
			t := b.Named(name)
			if t == nil {
				p.Add(field, "%q is no technique of this program%s", name, near(b, name))
				return ""
			}
			return t.ID
		}
		x.TechniqueID, x.ReplacementID = named("what"), named("replacement")
		if x.TechniqueID != "" { // the technique alone is meant
			x.Kind, x.Modifier = "", ""
		}
		if amount := check.Tidy(v.Get("amount")); amount != "" {
			q, err := curriculum.ParseQuantity(amount)
			if err != nil {
				p.Add("amount", "%s", err)
			}
			x.Quantity = &q
		}
		if len(p) == 0 {
			p = b.CheckAdaptation(x)
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return a.store.AddAdaptation(r.Context(), by, student, b.Program.ID, x)
	})
}

func (a *app) adaptationsEnd(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(_ url.Values, by store.By, _ string) (store.Done, error) {
		return a.store.EndAdaptation(r.Context(), by, chi.URLParam(r, "adaptation"))
	})
}

// enrolmentsWaive lets a student off one rule, with a reason.
func (a *app) enrolmentsWaive(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return a.store.Waive(r.Context(), by, enrolment, curriculum.RuleKind(v.Get("rule")), v.Get("reason"))
	})
}

// enrolmentsWord records that an instructor says a student is ready.
func (a *app) enrolmentsWord(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return a.store.GiveWord(r.Context(), by, enrolment, v.Get("who"))
	})
}

func (a *app) givenWithdraw(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(_ url.Values, by store.By, _ string) (store.Done, error) {
		return a.store.WithdrawGiven(r.Context(), by, chi.URLParam(r, "given"))
	})
}

// enrolmentsExample records what the family gave as an example of the character task.
func (a *app) enrolmentsExample(w http.ResponseWriter, r *http.Request) {
	a.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return a.store.GiveExample(r.Context(), by, enrolment, v.Get("example"))
	})
}

// studentsEvidence records kit and papers: kit is a list of lines when somebody looked,
// PAPER is the day until which it is valid, or "for ever".
func (a *app) studentsEvidence(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "student")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		var kit *[]string
		if v.Get("looked") != "" {
			lines := p.Lines("kit", v.Get("kit"))
			for _, k := range v["owned"] {
				if k = check.Tidy(k); !slices.Contains(lines, k) {
					lines = append(lines, k)
				}
			}
			if lines == nil {
				lines = []string{}
			}
			kit = &lines
		}
		papers := []progress.Paper{}
		for _, k := range curriculum.RuleKinds {
			if !k.Paper() {
				continue
			}
			until := p.Date(string(k), v.Get(string(k)))
			if v.Get(string(k)+"_ever") != "" {
				papers = append(papers, progress.Paper{Kind: k})
			} else if !until.IsZero() {
				papers = append(papers, progress.Paper{Kind: k, Until: until})
			}
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return a.store.SaveEvidence(r.Context(), by, id, kit, papers)
	}, to("/students/"+id), func(status int, f form) {
		f.Of = "evidence"
		a.studentOf(w, r, id, status, f)
	})
}
