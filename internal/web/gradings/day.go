package gradings

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type dayView struct {
	store.DayPlan
	Nav      preparation
	Form     frame.Form
	Orders   []frame.Option
	Picture  template.HTML
	Breaches []gradingday.Breach
	Hard     int
	Bound    gradingday.Bound
	Greedy   gradingday.DayPlan
	Limit    string
	Rows     []dayRow
	WhatIfs  []whatIf
	Asked    *whatIf
	Wait     string
	General  string
}

// dayRow is a group in the list under the picture.
type dayRow struct {
	gradingday.DayGroup
	RingName string
	RingID   string
	Slots    []gradingday.Slot
	People   []store.Preparing
	Partners []string
	Pinned   bool
	Wrong    []string
	Rings    []gradingday.Ring // where it could go
}

// whatIf is the day under one change.
type whatIf struct {
	Key, Words string
	Finish     int
	Bound      int
	Said       []string // what goes with it
	Picture    template.HTML
}

func (ch *chapter) dayShow(w http.ResponseWriter, r *http.Request) {
	ch.dayPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) dayPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	d, err := ch.records.DayPlan(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := dayView{DayPlan: d, Nav: preparation{Grading: d.Grading, Here: "day", Owner: frame.PersonOf(r).Role == store.Owner}, Form: f, General: f.General,
		Orders: frame.Options(gradingday.Orders, gradingday.Order.Words)}
	if v.Form.Values == nil {
		v.Form.Values = dayValues(d.Day.DayRules)
	}
	if d.Made {
		v.Breaches = gradingday.CheckDay(d.Day, d.Plan)
		v.Greedy, v.Bound = gradingday.Beside(d.Day, d.Plan.Panels)
		v.Limit = words.Limit(gradingday.LimitOf(d.Day, d.Plan, v.Bound))
		tested := 0
		for _, g := range d.Day.Groups {
			if g.Then > 0 {
				tested += len(g.Students)
			}
		}
		if tested > 0 {
			v.Wait = fmt.Sprintf("%d min", (d.Plan.Waiting+tested/2)/tested)
		}
	} else {
		for _, b := range gradingday.CheckDay(d.Day, gradingday.DayPlan{Panels: d.Plan.Panels}) {
			if b.Group == "" {
				v.Breaches = append(v.Breaches, b)
			}
		}
		plain, _ := gradingday.Beside(d.Day, d.Plan.Panels)
		for _, u := range plain.Unplaced { // said before anything is planned
			if len(u.Why) > 0 {
				v.Breaches = append(v.Breaches, gradingday.Barred(d.Day.Groups[u.Group], u.Why))
			}
		}
	}
	for _, b := range v.Breaches {
		if b.Hard {
			v.Hard++
		}
	}
	v.Rows = dayRows(d, v.Breaches)
	v.Picture = dayPicture(d.Day, d.Plan, d.Pinned, v.Breaches, d.People, v.Bound.Finish)
	if d.Made && !d.Grading.Begun() {
		v.WhatIfs = whatIfs(d)
		if key := r.URL.Query().Get("if"); key != "" {
			if v.Asked, err = ch.whatIf(r, d, v.WhatIfs, key); err != nil {
				ch.Fail(w, r, err)
				return
			}
		}
	}
	ch.Show(w, r, status, d.Grading.ProgramID, frame.Page{Screen: "day", Title: "Day plan, " + d.Grading.Title(), Nav: "gradings", Body: v})
}

func dayRows(d store.DayPlan, breaches []gradingday.Breach) (out []dayRow) {
	partners := newPartnering(d)
	for i, g := range d.Day.Groups {
		row := dayRow{DayGroup: g, People: d.Of(g.ID), Pinned: d.Pinned[g.ID]}
		ring := -1
		for _, s := range d.Plan.Slots {
			if s.Group == i {
				row.Slots, ring = append(row.Slots, s), s.Ring
			}
		}
		for k, x := range d.Day.Rings {
			if k == ring {
				row.RingName, row.RingID = x.Name, x.ID
			} else {
				row.Rings = append(row.Rings, x)
			}
		}
		for _, b := range breaches {
			if b.Group == g.ID {
				row.Wrong = append(row.Wrong, words.Breach(b))
			}
		}
		row.Partners = partners.of(g.ID)
		out = append(out, row)
	}
	slices.SortStableFunc(out, func(a, b dayRow) int {
		if len(a.Slots) == 0 || len(b.Slots) == 0 {
			return len(b.Slots) - len(a.Slots)
		}
		if a.Slots[0].From != b.Slots[0].From {
			return a.Slots[0].From - b.Slots[0].From
		}
		return strings.Compare(a.RingName, b.RingName)
	})
	return out
}

// partnering finds partners for partner lines; it is made once for a day.
type partnering struct {
	day       store.DayPlan
	everybody []gradingday.Fighter
	groupOf   map[string]string            // candidate → group
	slots     map[string][]gradingday.Slot // by group
}

func newPartnering(d store.DayPlan) partnering {
	x := partnering{day: d, groupOf: map[string]string{}, slots: map[string][]gradingday.Slot{}}
	for _, p := range d.People {
		x.everybody, x.groupOf[p.ID] = append(x.everybody, p.Fighter(d.Grading)), p.GroupID
	}
	for _, s := range d.Plan.Slots {
		id := d.Day.Groups[s.Group].ID
		x.slots[id] = append(x.slots[id], s)
	}
	return x
}

// of says who works with whom on a group's partner lines, and who helps whoever is left over or finds nobody of their size: a
// candidate of a higher rank who is neither tested nor warming up then.
func (x partnering) of(group string) (out []string) {
	var all []gradingday.Fighter
	for _, f := range x.everybody {
		if x.groupOf[f.ID] == group {
			all = append(all, f)
		}
	}
	helping := map[string]bool{}
	busy := func(id string) bool {
		if helping[id] || x.groupOf[id] == group {
			return true
		}
		for _, mine := range x.slots[group] {
			for _, s := range x.slots[x.groupOf[id]] {
				if s.From-x.day.Day.Warmup < mine.To && mine.From < s.To {
					return true
				}
			}
		}
		return false
	}
	for _, p := range gradingday.Partners(all, gradingday.UsualPairs) {
		if p.B != gradingday.Senior {
			out = append(out, all[p.A].Name+" with "+all[p.B].Name)
			continue
		}
		senior := "a senior, to be found"
		if i := gradingday.SeniorFor(all[p.A], x.everybody, busy); i >= 0 {
			senior = x.everybody[i].Name + ", a senior"
			helping[x.everybody[i].ID] = true
		}
		out = append(out, all[p.A].Name+" with "+senior)
	}
	return out
}

func dayPicture(day gradingday.Day, plan gradingday.DayPlan, pinned map[string]bool, breaches []gradingday.Breach, people []store.Preparing, bound int) template.HTML {
	pic := chart.Day{DayRules: day.DayRules, Finish: plan.Finish, Bound: bound}
	for i, r := range day.Rings {
		b := chart.DayBand{Name: r.Name, Closed: i >= len(plan.Panels) || len(plan.Panels[i]) == 0}
		if b.Closed {
			b.Panel = "closed: nobody"
		} else {
			var names []string
			for _, e := range plan.Panels[i] {
				words := strings.Fields(day.Examiners[e].Name)
				names = append(names, words[len(words)-1])
			}
			b.Panel = strings.Join(names, ", ")
		}
		pic.Bands = append(pic.Bands, b)
	}
	wrong := map[string]bool{}
	for _, b := range breaches {
		wrong[b.Group] = wrong[b.Group] || b.Group != ""
	}
	for _, s := range plan.Slots {
		g := day.Groups[s.Group]
		k := chart.DayBlock{Group: g.ID, Name: g.Name, For: g.For, Ring: s.Ring, From: s.From, To: s.To, Second: s.Part == 2, Pinned: pinned[g.ID], Wrong: wrong[g.ID]}
		for _, p := range people {
			if p.StudentID == g.Students[0] {
				k.Cloth = p.To.Cloth
			}
		}
		k.Label = fmt.Sprintf("%s, %s, %s: %s from %s to %s", g.Name, g.For, words.Count(len(g.Students), "candidate"), day.Rings[s.Ring].Name, timetable.Clock(s.From), timetable.Clock(s.To))
		pic.Blocks = append(pic.Blocks, k)
	}
	return template.HTML(pic.SVG())
}

func dayValues(r gradingday.DayRules) url.Values {
	v := frame.Values("open", timetable.Clock(r.Open), "close", timetable.Clock(r.Close),
		"warmup", strconv.Itoa(r.Warmup), "rest", strconv.Itoa(r.Rest), "change", strconv.Itoa(r.Change),
		"order", string(r.Order))
	if r.PauseTo > 0 {
		v.Set("pause_from", timetable.Clock(r.PauseFrom))
		v.Set("pause_to", timetable.Clock(r.PauseTo))
	}
	return v // sharing the examiners out is asked for each time: it moves people
}

// readTime reads a time of day as minutes after midnight.
func readTime(p *check.Problems, field, text string, other int) int {
	if strings.TrimSpace(text) == "" {
		return other
	}
	m, err := timetable.ParseClock(text)
	if err != nil {
		p.Add(field, "%s", err)
		return other
	}
	return m
}

func readDayRules(v url.Values) (gradingday.DayRules, check.Problems) {
	var p check.Problems
	usual := gradingday.UsualDay
	r := gradingday.DayRules{Open: readTime(&p, "open", v.Get("open"), usual.Open), Close: readTime(&p, "close", v.Get("close"), usual.Close),
		Warmup: p.Whole("warmup", v.Get("warmup"), 0, 120, 0), Rest: p.Whole("rest", v.Get("rest"), 0, 120, 0), Change: p.Whole("change", v.Get("change"), 0, 120, 0),
		PauseFrom: readTime(&p, "pause_from", v.Get("pause_from"), 0), PauseTo: readTime(&p, "pause_to", v.Get("pause_to"), 0), Order: gradingday.Order(v.Get("order")), Share: v.Get("share") != ""}
	if r.Close == 0 { // midnight ends the day
		r.Close = 24 * 60
	}
	return r, p
}

func (ch *chapter) dayMake(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		rules, p := readDayRules(v)
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.MakeDayPlan(r.Context(), by, id, rules)
	}, frame.To("/day/"+id), func(status int, f frame.Form) { ch.dayPage(w, r, status, f) })
}

func (ch *chapter) dayGroups(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) { return ch.records.FormGroups(r.Context(), by, id) },
		frame.To("/day/"+id), func(status int, f frame.Form) { ch.dayPage(w, r, status, frame.Form{General: f.General}) })
}

// dayMove moves or pins a group: do is earlier, later, pin, unpin or a ring's id; at is the time of day a pointer let
// it go.
func (ch *chapter) dayMove(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	group := ""
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		group = v.Get("group")
		m := store.PlanMove{Group: group}
		yes, no := true, false
		switch do := v.Get("do"); do {
		case "earlier":
			m.By = -1
		case "later":
			m.By = 1
		case "pin":
			m.Pin = &yes
		case "unpin":
			m.Pin = &no
		default:
			m.Ring = do
			var p check.Problems
			if m.At = p.Whole("at", v.Get("at"), 0, 1440, 0); len(p) > 0 {
				return store.Done{}, p
			}
		}
		return ch.records.MoveInPlan(r.Context(), by, id, m)
	}, func(store.Done) string { return "/day/" + id + "?group=" + group }, func(status int, f frame.Form) { ch.dayPage(w, r, status, frame.Form{General: f.General}) })
}

// whatIfs are the questions a day can be asked.
func whatIfs(d store.DayPlan) (out []whatIf) {
	if len(d.Day.Rings) < gradingday.MaxRings {
		out = append(out, whatIf{Key: "ring", Words: "One ring more"})
	}
	for size := 1; size <= gradingday.MaxGroup; size++ {
		if size != d.Grading.GroupSize {
			out = append(out, whatIf{Key: "groups-" + strconv.Itoa(size), Words: "Groups of " + []string{"one", "two", "three", "four"}[size-1]})
		}
	}
	out = append(out, whatIf{Key: "slow", Words: "Everything 20 % slower"})
	for _, e := range d.Day.Examiners {
		out = append(out, whatIf{Key: "without-" + e.ID, Words: e.Name + " is ill"})
	}
	return out
}

// whatIf plans the day under one change, beside the plan. Nothing is written.
func (ch *chapter) whatIf(r *http.Request, d store.DayPlan, all []whatIf, key string) (*whatIf, error) {
	at := slices.IndexFunc(all, func(x whatIf) bool { return x.Key == key })
	if at < 0 {
		return nil, store.ErrNotFound
	}
	x := all[at]
	day := d.Day
	day.Groups = slices.Clone(day.Groups)
	kind, of, _ := strings.Cut(key, "-")
	var swaps []gradingday.Swap
	switch kind {
	case "ring":
		day, swaps = gradingday.OneRingMore(day, d.Spare)
	case "groups":
		size, _ := strconv.Atoi(of)
		var err error
		if day, err = ch.records.Regrouped(r.Context(), d, size); err != nil {
			return nil, err
		}
		x.Said = []string{words.Count(len(d.Day.Groups),
			"group") + " become " + strconv.Itoa(len(day.Groups)) + ". Pins are not kept. To use it, change the group size of the grading, and form the groups anew."}
	case "slow":
		day = gradingday.Slower(day, 20)
	case "without":
		day, swaps = gradingday.Without(day, d.Spare, of)
	}
	for _, s := range swaps {
		x.Said = append(x.Said, words.Swap(s))
	}
	plan, _, bound := gradingday.PlanDay(day, d.Grading.Seed)
	x.Finish, x.Bound = plan.Finish, bound.Finish
	for _, b := range gradingday.CheckDay(day, plan) {
		if b.Hard {
			x.Said = append(x.Said, words.Breach(b))
		}
	}
	x.Picture = dayPicture(day, plan, nil, nil, d.People, bound.Finish)
	return &x, nil
}
