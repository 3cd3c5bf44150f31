package people

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type eligibleView struct {
	On     civil.Date
	Form   frame.Form
	Rungs  []frame.Option // to be tested for
	Groups []eligibleGroup
	Any    bool
	Anew   []store.AnewAnswer // whose answer is another one since an upgrade, until the owner has looked
	IsAnew bool

	Foreseen map[string]string // enrolment → when a student not yet eligible is likely to be
}

// eligibleShown is how many students of one answer a page lists.
const eligibleShown = 150

// eligibleGroup are those with one answer.
type eligibleGroup struct {
	State progress.State
	Title string
	Total int
	Rows  []store.Climbing // the first of them
}

// eligibleShow lists who may be tested on a day: those who may, those of whom something is
// not known, and the nearly eligible with what is missing, the earliest first.
func (ch *chapter) eligibleShow(w http.ResponseWriter, r *http.Request) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var problems check.Problems
	v := eligibleView{On: problems.Date("on", r.URL.Query().Get("on"))}
	status := http.StatusOK
	if len(problems) > 0 {
		status = http.StatusUnprocessableEntity
	}
	if v.On.IsZero() {
		v.On = ch.records.Today()
	}
	rung := r.URL.Query().Get("rung")
	v.Form = frame.Form{Values: frame.Values("on", v.On.String(), "rung", rung), Problems: problems}
	if len(problems) > 0 {
		v.Form.Values.Set("on", r.URL.Query().Get("on"))
	}
	all, err := ch.records.WhoMayTest(r.Context(), p.ID, v.On)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Any = len(all) > 0
	if v.Any && frame.PersonOf(r).Role == store.Owner {
		b, err := ch.records.Book(r.Context(), p.ID)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.IsAnew = b.Program.SignedOffAnew
	}
	if v.IsAnew {
		if v.Anew, err = ch.records.AnsweredAnew(r.Context(), p.ID); err != nil {
			ch.Fail(w, r, err)
			return
		}
	}
	v.Rungs = []frame.Option{{Value: "", Label: "any rung"}}
	for _, c := range all {
		if x := (frame.Option{Value: c.Next.ID, Label: c.Next.Name}); !slices.Contains(v.Rungs, x) {
			v.Rungs = append(v.Rungs, x)
		}
	}
	if rung != "" {
		all = slices.DeleteFunc(all, func(c store.Climbing) bool { return c.Next.ID != rung })
	}
	v.Groups = eligibleGroups(all)
	if err := ch.foresee(r, &v); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, p.ID, frame.Page{Screen: "eligible", Title: "Who may be tested", Nav: "students", Body: v})
}

// eligibleGroups are those who may be tested, those of whom it is not known, and the others, the next first.
func eligibleGroups(all []store.Climbing) (out []eligibleGroup) {
	for _, g := range []eligibleGroup{{State: progress.Met, Title: "May be tested"}, {State: progress.Unknown, Title: "Not known"}, {State: progress.NotMet, Title: "Not yet"}} {
		for _, c := range all {
			if c.Verdict.State == g.State {
				g.Rows = append(g.Rows, c)
			}
		}
		if g.State == progress.NotMet {
			slices.SortStableFunc(g.Rows, func(x, y store.Climbing) int { return y.Verdict.Earliest.DaysTo(x.Verdict.Earliest) })
		}
		if g.Total = len(g.Rows); g.Total > 0 {
			g.Rows = g.Rows[:min(g.Total, eligibleShown)]
			out = append(out, g)
		}
	}
	return out
}

// foresee says of the listed students who may not be tested yet when they are likely to be,
// and how likely that is on the day asked about.
func (ch *chapter) foresee(r *http.Request, v *eligibleView) error {
	var ids []string
	for _, g := range v.Groups {
		if g.State == progress.NotMet {
			for _, c := range g.Rows {
				ids = append(ids, c.EnrolmentID)
			}
		}
	}
	if len(ids) == 0 {
		return nil
	}
	all, err := ch.records.ForeseeOf(r.Context(), ids)
	v.Foreseen = map[string]string{}
	for id, f := range all {
		if f.Never != nil || f.Likely.IsZero() || f.Drives.Nothing() {
			continue
		}
		words := "likely " + f.Likely.Long()
		if f.Early != f.Late && !f.Late.IsZero() {
			words += ", early " + f.Early.Short() + ", late " + f.Late.Short()
		}
		if ch.records.Today().Before(v.On) {
			words += fmt.Sprintf("; chance on %s %d percent", v.On.Short(), f.Chance(v.On))
		}
		v.Foreseen[id] = words
	}
	return err
}

// eligibleSeen notes that the owner has seen whose answer is another one since an upgrade.
func (ch *chapter) eligibleSeen(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.ChangeProgram(r.Context(), by, v.Get("program"), office.Deed{Kind: office.AnswersLookedThrough}, func(d *curriculum.ProgramDetails) error {
			d.SignedOffAnew = false
			return nil
		})
	}, frame.To("/eligible"), func(int, frame.Form) { ch.eligibleShow(w, r) })
}
