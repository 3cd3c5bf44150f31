package classes

import (
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type planView struct {
	Class   timetable.Class
	On      civil.Date
	Plan    practice.Plan
	Form    frame.Form
	How     practice.How
	Hows    []frame.Option
	Theme   frame.Form // of the week, to be changed
	Themes  []themeView
	Offered []frame.Option // sections of the programs
	Week    civil.Date
	Room    int // minutes between warm-up and bow
	Coming  []likely
	MakeUp  bool // the class makes up for what was missed
	Turnout store.Turnout
	query   url.Values
	path    string
}

// themeView is the theme of one program's week, in words.
type themeView struct{ Program, Words string }

type likely struct {
	Name   string
	Rung   string
	Chance int // percent
}

// comesAtAll is from which chance on, in permille, a student is planned for.
const comesAtAll = 200

// With is the plan's address with a topic pinned, dropped, or neither.
func (v planView) With(what, id string) string {
	q := url.Values{}
	for name, x := range v.query {
		for _, y := range x {
			if y != id || name != "pin" && name != "drop" {
				q.Add(name, y)
			}
		}
	}
	if what != "" {
		q.Add(what, id)
	}
	return v.path + "?" + q.Encode()
}

// Pins are what is pinned and what is dropped, for the form that plans again.
func (v planView) Pins() [2][]string { return [2][]string{v.query["pin"], v.query["drop"]} }

// Dropped are the topics taken out by hand.
func (v planView) Dropped() []string { return v.query["drop"] }

// planShow proposes what a class works on.
func (ch *chapter) planShow(w http.ResponseWriter, r *http.Request) {
	ch.planPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) planPage(w http.ResponseWriter, r *http.Request, status int, theme frame.Form) {
	ctx := r.Context()
	c, on, ok := ch.heldSlot(w, r)
	if !ok {
		return
	}
	q := r.URL.Query()
	v := planView{Class: c, On: on, Theme: theme, query: q, path: "/plan/" + c.ID + "/" + on.String(), Form: frame.Form{Values: url.Values{}}, Hows: frame.Options(practice.Hows, words.How)}
	p := &v.Form.Problems
	tonight := practice.Tonight{Minutes: p.Whole("minutes", q.Get("minutes"), 10, 300, c.Minutes), On: on, How: practice.How(q.Get("how")), Pinned: map[string]bool{}, Dropped: map[string]bool{}}
	for _, id := range q["pin"] {
		tonight.Pinned[id] = true
	}
	for _, id := range q["drop"] {
		tonight.Dropped[id] = true
	}
	var err error
	if v.Turnout, err = ch.records.Likely(ctx, c.ID, on); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if tonight.Unheard = !v.Turnout.Heard; tonight.How == "" {
		tonight.How = practice.InHall
		if v.Turnout.Online || c.Online() {
			tonight.How = practice.Live
		}
	}
	if check.OneOf(p, "how", tonight.How, practice.Hows); !slices.Contains(practice.Hows, tonight.How) {
		tonight.How = practice.InHall
	}
	who, err := ch.whoComes(r, c, on, v.Turnout)
	if err == nil {
		err = ch.themes(r, &v, who.themes, c.Programs)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Plan = practice.MakePlan(practice.Topics(who.present, who.taught, on), tonight)
	v.Coming, v.Week, v.MakeUp, v.How, v.Room = who.likely, who.week, c.MakesUp(), tonight.How, tonight.Room()
	v.Form.Values = frame.Values("minutes", strconv.Itoa(tonight.Minutes), "how", string(tonight.How))
	if len(*p) > 0 {
		v.Form.Values.Set("minutes", q.Get("minutes"))
		status = http.StatusUnprocessableEntity
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "plan", Title: "Plan for " + c.Name, Nav: "classes", Body: v})
}

// coming is who comes to a class, with what is known of them.
type coming struct {
	present []practice.Present
	likely  []likely
	taught  map[string]civil.Date
	themes  map[string]store.WeekTheme
	week    civil.Date // its first day
}

// whoComes gathers what a plan is made from.
func (ch *chapter) whoComes(r *http.Request, c timetable.Class, on civil.Date, t store.Turnout) (x coming, err error) {
	ctx := r.Context()
	some := map[string]bool{}
	for id, n := range t.Chances {
		if n >= comesAtAll {
			some[id] = true
		}
	}
	climbs, err := ch.records.ReadyOfStudents(ctx, some, c.Programs)
	if err != nil {
		return x, err
	}
	missed, err := ch.records.MissedBy(ctx, slices.Sorted(maps.Keys(some)), on.AddDays(-parts.MissedBack), on)
	if err != nil {
		return x, err
	}
	away := map[string]map[string]civil.Date{}
	for _, m := range missed {
		if away[m.StudentID] == nil {
			away[m.StudentID] = map[string]civil.Date{}
		}
		away[m.StudentID][m.TechniqueID] = m.On
	}
	near, err := ch.records.RungsTested(ctx, on, on.AddDays(parts.NearDays))
	if err != nil {
		return x, err
	}
	if x.week, err = ch.Week(r, on); err != nil {
		return x, err
	}
	if x.themes, err = ch.records.Themes(ctx, x.week); err != nil {
		return x, err
	}
	if x.taught, err = ch.records.LastTaught(ctx, on.AddDays(-parts.TaughtBack), on); err != nil {
		return x, err
	}
	for _, y := range climbs {
		x.likely = append(x.likely, likely{y.Name, y.Rung.Short(), t.Chances[y.StudentID] / 10})
		x.present = append(x.present, practice.Present{Student: y.StudentID, Name: y.Name, Rung: y.Next.Short(), Track: y.Track.ID, Chance: t.Chances[y.StudentID], Book: y.Book, Items: y.Items,
			Near: near[y.Next.ID], MakeUp: c.MakesUp() || t.MakeUp[y.StudentID], Missed: away[y.StudentID], Theme: x.themes[y.ProgramID].Theme, For: c.Name + ", " + c.Kind})
	}
	return x, nil
}

// themes says what the week is about for the programs of a class, and offers what it could be.
func (ch *chapter) themes(r *http.Request, v *planView, themes map[string]store.WeekTheme, of []string) error {
	programs, err := ch.records.Programs(r.Context())
	if err != nil {
		return err
	}
	chosen := url.Values{}
	for _, p := range programs {
		if len(of) > 0 && !slices.Contains(of, p.ID) {
			continue
		}
		sections, err := ch.records.Sections(r.Context(), p.ID)
		if err != nil {
			return err
		}
		h := themes[p.ID]
		var names []string
		for _, s := range sections {
			name := s.Name
			if len(of) != 1 && len(programs) > 1 {
				name += " (" + p.Name + ")"
			}
			v.Offered = append(v.Offered, frame.Option{Value: s.ID, Label: name})
			if slices.Contains(h.Sections, s.ID) {
				names = append(names, s.Name)
				chosen.Add("sections", s.ID)
			}
		}
		if h.Words != "" {
			names = append(names, h.Words)
			if said := chosen.Get("words"); said == "" {
				chosen.Set("words", h.Words)
			} else if said != h.Words { // the form says all of them, so that saving it loses none
				chosen.Set("words", said+", "+h.Words)
			}
		}
		if len(names) > 0 {
			v.Themes = append(v.Themes, themeView{p.Name, strings.Join(names, ", ")})
		}
	}
	if v.Theme.Values == nil {
		v.Theme.Values = chosen
	}
	return nil
}

// planTheme keeps the theme of the week for the programs of a class.
func (ch *chapter) planTheme(w http.ResponseWriter, r *http.Request) {
	c, on, ok := ch.heldSlot(w, r)
	if !ok {
		return
	}
	back := "/plan/" + c.ID + "/" + on.String()
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		first, err := ch.Week(r, on)
		if err != nil {
			return store.Done{}, err
		}
		of := c.Programs
		if len(of) == 0 {
			programs, err := ch.records.Programs(r.Context())
			if err != nil {
				return store.Done{}, err
			}
			for _, p := range programs {
				of = append(of, p.ID)
			}
		}
		themes := map[string]practice.Theme{}
		for _, id := range of {
			themes[id] = practice.Theme{Sections: v["sections"], Words: v.Get("words")}
		}
		return ch.records.SaveThemes(r.Context(), by, first, themes)
	}, frame.To(back), func(status int, f frame.Form) { ch.planPage(w, r, status, f) })
}
