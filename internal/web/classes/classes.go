package classes

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// closuresAhead is how many of the closures to come the timetable lists.
const closuresAhead = 6

// classesBack is how many days of kept registers the timetable lists.
const classesBack = 15

type classesView struct {
	On        civil.Date
	Today     civil.Date
	Before    civil.Date
	After     civil.Date
	Slots     []classSlot // of the day looked at
	Days      []classDay  // the week, Monday first
	Closures  []closed
	Registers []store.Register
	Due       int // stripes that are due in the program
	Form      frame.Form
	Classes   []frame.Option
	Any       bool
}

type classSlot struct {
	timetable.Slot
	Who  string
	Came int // by the register
	Kept bool
}

type classDay struct {
	Name    string
	Classes []classSlot
}

type closed struct {
	timetable.Closure
	Class string
}

func (ch *chapter) classesShow(w http.ResponseWriter, r *http.Request) {
	ch.classesPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) classesPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	ctx := r.Context()
	var p check.Problems
	v := classesView{Today: ch.records.Today(), Form: f, On: p.Date("on", r.URL.Query().Get("on"))}
	if len(p) > 0 {
		ch.Message(w, r, http.StatusBadRequest, "The address is wrong", p.Error())
		return
	}
	if v.On.IsZero() {
		v.On = v.Today
	}
	v.Before, v.After = v.On.AddDays(-1), v.On.AddDays(1)
	t, err := ch.records.Timetable(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	words, err := ch.whoseClasses(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	day, err := ch.records.Registers(ctx, v.On, v.On)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	kept := map[string]store.Register{}
	for _, x := range day {
		kept[x.Class.ID] = x
	}
	for _, s := range t.On(v.On) {
		x, there := kept[s.Class.ID]
		v.Slots = append(v.Slots, classSlot{s, words(s.Class), x.Came, there})
	}
	first, err := ch.Week(r, v.On)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.week(t, first, words)
	v.lists(t)
	if v.Registers, err = ch.records.Registers(ctx, v.Today.AddDays(-classesBack), v.Today); err != nil {
		ch.Fail(w, r, err)
		return
	}
	prog, err := ch.Program(r)
	if err == nil && prog.ID != "" {
		var due []store.DueStripe
		due, err = ch.records.DueStripes(ctx, prog.ID)
		v.Due = len(due)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "classes", Title: "Classes", Nav: "classes", Body: v})
}

// week are the classes of seven days.
func (v *classesView) week(t timetable.Table, first civil.Date, words func(timetable.Class) string) {
	for i := range 7 {
		day := first.AddDays(i)
		d := classDay{Name: timetable.WeekdayNames[day.Weekday()-1]}
		for _, s := range t.On(day) {
			d.Classes = append(d.Classes, classSlot{Slot: s, Who: words(s.Class)})
		}
		v.Days = append(v.Days, d)
	}
}

// lists are the classes to choose from, and the closures to come.
func (v *classesView) lists(t timetable.Table) {
	names := map[string]string{}
	v.Classes = []frame.Option{{Value: "", Label: "every class"}}
	for _, c := range t.Classes {
		names[c.ID] = c.Name
		v.Classes = append(v.Classes, frame.Option{Value: c.ID, Label: timetable.WeekdayNames[c.Weekday-1] + " " + timetable.Clock(c.Start) + ", " + c.Name})
	}
	v.Any = len(t.Classes) > 0
	for _, c := range slices.Backward(t.Closures) { // the next one first
		if !c.To.Before(v.Today) && len(v.Closures) < closuresAhead {
			v.Closures = append(v.Closures, closed{c, names[c.ClassID]})
		}
	}
}

// whoseClasses says for whom a class is: its programs and tracks by name.
func (ch *chapter) whoseClasses(r *http.Request) (func(timetable.Class) string, error) {
	programs, err := ch.records.Programs(r.Context())
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for _, p := range programs {
		names[p.ID] = p.Name
		for _, t := range p.Tracks {
			names[t.ID] = t.Name
		}
	}
	return func(c timetable.Class) string {
		words := ""
		for _, id := range append(append([]string{}, c.Programs...), c.Tracks...) {
			if names[id] == "" {
				continue
			}
			if words != "" {
				words += ", "
			}
			words += names[id]
		}
		if words == "" {
			return "everybody"
		}
		return words
	}, nil
}

type classView struct {
	Class    timetable.Class
	Form     frame.Form
	Weekdays []frame.Option
	Kinds    []string // used so far
	Programs []frame.Option
	Tracks   []frame.Option
	Skipped  string // a warning about the clock
}

func (ch *chapter) classesNew(w http.ResponseWriter, r *http.Request) {
	f := frame.Form{Values: frame.Values("weekday", strconv.Itoa(ch.records.Today().Weekday()), "start", "18:00", "minutes", "60", "kind", "General", "from", ch.records.Today().String())}
	if p, err := ch.Program(r); err == nil && p.ID != "" {
		f.Values.Set("programs", p.ID)
	}
	ch.classForm(w, r, http.StatusOK, timetable.Class{}, f)
}

func (ch *chapter) classesEdit(w http.ResponseWriter, r *http.Request) {
	ch.classEdit(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) classEdit(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	c, err := ch.records.Class(r.Context(), r.PathValue("class"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	stands := frame.Values("name", c.Name, "kind", c.Kind, "weekday", strconv.Itoa(c.Weekday),
		"start", timetable.Clock(c.Start), "minutes", strconv.Itoa(c.Minutes), "from", c.From.String(),
		"to", c.To.String(), "place", c.Place)
	stands["programs"], stands["tracks"] = c.Programs, c.Tracks
	ch.classForm(w, r, status, c, f.Filled(stands))
}

func (ch *chapter) classForm(w http.ResponseWriter, r *http.Request, status int, c timetable.Class, f frame.Form) {
	v := classView{Class: c, Form: f}
	for i, name := range timetable.WeekdayNames {
		v.Weekdays = append(v.Weekdays, frame.Option{Value: strconv.Itoa(i + 1), Label: name})
	}
	programs, err := ch.records.Programs(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, p := range programs {
		v.Programs = append(v.Programs, frame.Option{Value: p.ID, Label: p.Name})
		for _, t := range p.Tracks {
			v.Tracks = append(v.Tracks, frame.Option{Value: t.ID, Label: p.Name + ": " + t.Name})
		}
	}
	if v.Kinds, err = ch.ClassKinds(r); err != nil {
		ch.Fail(w, r, err)
		return
	}
	title := c.Name
	if c.ID == "" {
		title = "A new class"
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "class", Title: title, Nav: "classes", Body: v})
}

func (ch *chapter) classesSave(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("class")
	var held timetable.Class
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		c := timetable.Class{ID: id, Name: v.Get("name"), Kind: v.Get("kind"), Weekday: p.Whole("weekday", v.Get("weekday"), 1, 7, 0), Minutes: p.Whole("minutes", v.Get("minutes"), 5, 720, 0),
			From: p.Date("from", v.Get("from")), To: p.Date("to", v.Get("to")), Programs: v["programs"], Tracks: v["tracks"], Place: v.Get("place")}
		var err error
		if c.Start, err = timetable.ParseClock(v.Get("start")); err != nil {
			p.Add("start", "%s", err)
		}
		if len(p) > 0 {
			for _, x := range c.Check() {
				p.Add(x.Field, "%s", x.Text)
			}
			return store.Done{}, p
		}
		held = c
		return ch.records.SaveClass(r.Context(), by, c)
	}, func(store.Done) string { return "/classes?on=" + held.NextOn(ch.records.Today()).String() }, func(status int, f frame.Form) {
		if id != "" {
			ch.classEdit(w, r, status, f)
			return
		}
		ch.classForm(w, r, status, timetable.Class{}, f)
	})
}

func (ch *chapter) classesDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteClass(r.Context(), by, r.PathValue("class"))
	}, frame.To("/classes"), func(status int, f frame.Form) { ch.classEdit(w, r, status, frame.Form{General: f.General}) })
}

func (ch *chapter) closuresSave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		c := timetable.Closure{ClassID: v.Get("class"), From: p.Date("from", v.Get("from")), To: p.Date("to", v.Get("to")), Reason: v.Get("reason")}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.AddClosure(r.Context(), by, c)
	}, frame.To("/classes"), func(status int, f frame.Form) { ch.classesPage(w, r, status, f) })
}

func (ch *chapter) closuresDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteClosure(r.Context(), by, r.PathValue("closure"))
	}, frame.To("/classes"), nil)
}

// functions are those of the classes’ templates.
func functions() template.FuncMap {
	return template.FuncMap{
		"tenths":       func(n int) string { return fmt.Sprintf("%d.%d", n/10, n%10) },
		"cohortMonths": func() []int { return []int{6, 12, 24} },
		"halfYear":     words.HalfYear,
		"how":          words.How,
		"heldSo":       words.HeldSo,
		"blockname":    words.Block,
		"topic":        words.Topic,
		"doneAs":       words.DoneAs,
		"shares":       words.Shares,
		"needed":       words.Needed,
		"cohortAt": func(c progress.Cohort, months int) string {
			for _, p := range c.Points {
				if p.Months == months {
					return fmt.Sprintf("%d.%d", p.Climbed/100, p.Climbed%100/10)
				}
			}
			return ""
		},
		"pad": func() []string { return []string{"1", "2", "3", "4", "5", "6", "7", "8", "9", "back", "0", "enter"} },
	}
}
