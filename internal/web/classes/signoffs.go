package classes

import (
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type signoffsView struct {
	Class   timetable.Class
	Made    int64 // when the page was made, in ms
	On      civil.Date
	Path    string
	Program string // of the class, where it is for one
	Here    int
	Items   []signItem
	Due     []store.DueStripe // of those who are here
	Taught  []string
}

// signItem is something that those who are here still have to show, with who it is.
type signItem struct {
	Key         string
	TechniqueID string
	Role        curriculum.Role
	Call        string
	Against     string // what it answers; "" nothing
	Section     string
	Program     string
	Rungs       string
	Cautions    []string
	Faults      []curriculum.Fault
	Look        []string
	Apart       []string // from what looks like it
	Taught      bool
	Must        bool
	Stance      bool // it can be measured on the mat
	People      []signPerson
	need        int
}

// signPerson is one who has to show it.
type signPerson struct {
	store.Standing
	Line                string // of this one's test sheet, by its key
	Amount              string // asked of this one, and how it is asked
	TwoSided            bool
	Left, Right         bool
	LeftName, RightName string // how its sides are called
	Done                bool
	Stage               int // asked
	Stages              int
	Reached             int // shown so far
	NotYet              string
	LastID              string // the sign-off given in this class, to be taken back
}

func (ch *chapter) signoffsShow(w http.ResponseWriter, r *http.Request) {
	ctx := r.Context()
	c, on, ok := ch.heldSlot(w, r)
	if !ok {
		return
	}
	people, _, _, err := ch.records.RegisterOf(ctx, c, on)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := signoffsView{Made: ch.records.Now().UnixMilli(), Class: c, On: on, Path: "/signoffs/" + c.ID + "/" + on.String()}
	if len(c.Programs) == 1 {
		v.Program = c.Programs[0]
	}
	here := present(people)
	v.Here = len(here)
	given, err := ch.records.SignOffsIn(ctx, c.ID, on)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	taught, err := ch.records.TaughtIn(ctx, c.ID, on)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	was := map[string]bool{}
	for _, t := range taught {
		was[t.TechniqueID] = true
		v.Taught = append(v.Taught, t.Name)
	}
	climbs, err := ch.records.ReadyOfStudents(ctx, here, c.Programs)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Items = signItems(climbs, given, was)
	programs := map[string]bool{}
	for _, climb := range climbs {
		programs[climb.ProgramID] = true
	}
	for p := range programs {
		due, err := ch.records.DueStripes(ctx, p)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		for _, d := range due {
			if here[d.StudentID] {
				v.Due = append(v.Due, d)
			}
		}
	}
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "signoffs", Title: "Shown in " + c.Name, Nav: "classes", Bare: true, Body: v})
}

// present are those of a register who came.
func present(people []store.OnRegister) map[string]bool {
	here := map[string]bool{}
	for _, p := range people {
		if p.Entry != nil && p.Entry.State != gradingday.Absent {
			here[p.StudentID] = true
		}
	}
	return here
}

// signItems are what those here have to show, each thing once with all who have it to show: what the class
// worked on first, then what most of them need; of what as many need each rung's things as they stand on its sheet.
func signItems(climbs []store.ReadyClimb, given []store.SignedOff, taught map[string]bool) (items []signItem) {
	at := map[string]int{}
	for _, climb := range climbs {
		for _, it := range climb.Items {
			in := slices.IndexFunc(given, func(g store.SignedOff) bool {
				return g.EnrolmentID == climb.EnrolmentID && parts.Of(g, it)
			})
			if !it.Counts || it.Done && in < 0 {
				continue
			}
			key := fmt.Sprint(climb.ProgramID, it.TechniqueID, it.Role, it.Setting, it.Entry, it.Quantity.Measure, it.Quantity.Side, it.Slow, it.NonStop)
			i, there := at[key]
			if !there {
				i = len(items)
				at[key] = i
				items = append(items, signItem{Key: fmt.Sprint("i", i, it.TechniqueID, it.Role),
					TechniqueID: it.TechniqueID, Role: it.Role, Call: it.Call, Against: curriculum.AttackWords(it.Against), Section: it.Section,
					Program: climb.Program, Faults: it.Faults, Look: it.Checkpoints, Apart: words.ToldApart(it.Apart), Taught: taught[it.TechniqueID], Stance: it.Kind == "stance"})
			}
			items[i].add(climb, it, given)
		}
	}
	slices.SortStableFunc(items, func(x, y signItem) int {
		taught := func(i signItem) int {
			if i.Taught {
				return 1
			}
			return 0
		}
		return cmp.Or(cmp.Compare(taught(y), taught(x)), cmp.Compare(y.need, x.need))
	})
	return items
}

// add puts one who has it to show to an item.
func (x *signItem) add(climb store.ReadyClimb, it progress.Item, given []store.SignedOff) {
	for _, c := range it.Cautions { // another rung may ask it with another remark
		if !slices.Contains(x.Cautions, c) {
			x.Cautions = append(slices.Clip(x.Cautions), c)
		}
	}
	p := signPerson{Standing: climb.Standing, Line: it.Key(), Amount: words.AskedHow(it.Line), TwoSided: it.TwoSided,
		Left: it.Left, Right: it.Right, LeftName: words.SideName(it.Line, "left"), RightName: words.SideName(it.Line, "right"), Done: it.Done, Stage: it.Stage, Stages: it.Stages, Reached: it.Reached}
	if !it.NotYet.IsZero() {
		p.NotYet = "not yet"
		if it.Fault != "" {
			p.NotYet += ": " + it.Fault
		}
	}
	for _, g := range given {
		if g.EnrolmentID == climb.EnrolmentID && parts.Of(g, it) {
			p.LastID = g.ID
		}
	}
	x.Must = x.Must || it.MustPass
	if !slices.Contains(strings.Split(x.Rungs, ", "), climb.Next.Short()) {
		x.Rungs = strings.TrimPrefix(x.Rungs+", "+climb.Next.Short(), ", ")
	}
	x.People = append(x.People, p)
	if !it.Done {
		x.need++
	}
}

func (ch *chapter) signoffsEntries(w http.ResponseWriter, r *http.Request) {
	frame.TakeEntries(ch.Frame, w, r, func(e frame.SignOff, class, on string) (string, bool) {
		return e.ID, e.ClassID == class && e.On.String() == on
	},
		func(by store.By, all []frame.SignOff) ([]store.RefusedEntry, error) {
			return ch.records.RecordSignOffs(r.Context(), by, frame.Each(all, func(x frame.SignOff) store.SignOff { return store.SignOff(x) }))
		})
}

// signoffsTaught notes that a class worked on something, or takes it back.
func (ch *chapter) signoffsTaught(w http.ResponseWriter, r *http.Request) {
	class, on := r.PathValue("class"), r.PathValue("on")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		day := p.Date("on", on)
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.Teach(r.Context(), by, class, day, v.Get("technique"))
	}, func(store.Done) string { return "/signoffs/" + class + "/" + on }, nil)
}

type stripesView struct {
	On   civil.Date
	Due  []store.DueStripe
	Form frame.Form
}

func (ch *chapter) stripesShow(w http.ResponseWriter, r *http.Request) {
	ch.stripesPage(w, r, http.StatusOK, frame.Form{})
}

// stripesPage lists the section stripes that are due in a program, to be awarded at one go.
func (ch *chapter) stripesPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	p, err := ch.Program(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := stripesView{On: ch.records.Today(), Form: f}
	if v.Due, err = ch.records.DueStripes(r.Context(), p.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, p.ID, frame.Page{Screen: "stripes", Title: "Section stripes that are due", Nav: "classes", Body: v})
}

// stripesAward awards stripes: each named as enrolment and section.
func (ch *chapter) stripesAward(w http.ResponseWriter, r *http.Request) {
	back := "/stripes"
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if at := frame.Back(v.Get("back")); strings.HasPrefix(at, "/signoffs/") {
			back = at
		}
		var all []store.Stripe
		for _, x := range v["stripes"] {
			enrolment, section, _ := strings.Cut(x, " ")
			all = append(all, store.Stripe{EnrolmentID: enrolment, SectionID: section})
		}
		return ch.records.AwardStripes(r.Context(), by, ch.records.Today(), all, v.Get("reason"))
	}, func(store.Done) string { return back }, func(status int, f frame.Form) { ch.stripesPage(w, r, status, f) })
}
