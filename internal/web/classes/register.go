package classes

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type registerView struct {
	Class    timetable.Class
	Made     int64 // when the page was made, in ms
	On       civil.Date
	Off      string // why the class is not held; "" it is
	Skipped  string // where the clock goes forward over its beginning
	Path     string
	People   []onRegister
	Unknown  []frame.Option // those on it whose stance is not known yet
	Others   []frame.Option // who is not on the list, to be added
	Visitors []gradingday.Attendance
	Kept     bool
	Came     int
	Modes    []frame.Option
	Form     frame.Form
}

type onRegister struct {
	store.OnRegister
	State string // present, late, or ""
	Mode  timetable.Mode
	Quiet string // how long away, where that is long
}

// quietDays is after how many days without a class the register says so.
const quietDays = 21

// slotOf is the class an address names on its day. A class that is not on the timetable of
// the day is found where a register was kept.
func (ch *chapter) slotOf(r *http.Request) (c timetable.Class, on civil.Date, off string, err error) {
	var p check.Problems
	on = p.Date("on", r.PathValue("on"))
	if len(p) > 0 {
		return c, on, "", p
	}
	id := r.PathValue("class")
	t, err := ch.records.Timetable(r.Context())
	if err != nil {
		return c, on, "", err
	}
	for _, s := range t.On(on) {
		if s.Class.ID == id {
			return s.Class, on, s.Closed, nil
		}
	}
	kept, err := ch.records.Registers(r.Context(), on, on)
	if err != nil {
		return c, on, "", err
	}
	for _, k := range kept {
		if k.Class.ID == id {
			return k.Class, on, "", nil
		}
	}
	if c, err = ch.records.Class(r.Context(), id); err != nil {
		return c, on, "", err
	}
	return c, on, "it is not held on a " + timetable.WeekdayNames[on.Weekday()-1], nil
}

// heldSlot is slotOf for what needs the class to be held; the answer is given where it is not.
func (ch *chapter) heldSlot(w http.ResponseWriter, r *http.Request) (c timetable.Class, on civil.Date, ok bool) {
	c, on, off, err := ch.slotOf(r)
	if err == nil && off != "" {
		err = &store.Refused{Reason: c.Name + " is not held on " + on.Long() + ": " + off + "."}
	}
	if err != nil {
		ch.Fail(w, r, err)
	}
	return c, on, err == nil
}

func (ch *chapter) registerShow(w http.ResponseWriter, r *http.Request) {
	ch.registerPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) registerPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	c, on, off, err := ch.slotOf(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := registerView{Made: ch.records.Now().UnixMilli(), Class: c, On: on, Off: off, Form: f,
		Path: "/register/" + c.ID + "/" + on.String(), Modes: frame.Options(timetable.Modes, timetable.Mode.Words)}
	if ch.records.Today().Before(on) && off == "" {
		v.Off = "it lies in the future"
	}
	if begin, _, skipped := c.Instants(on, ch.records.Zone()); skipped {
		v.Skipped = fmt.Sprintf("The clock goes forward in that hour: %s begins at %s.", c.Name, begin.Format("15:04"))
	}
	people, visitors, kept, err := ch.records.RegisterOf(r.Context(), c, on)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Visitors, v.Kept = visitors, kept != ""
	listed := map[string]bool{}
	for _, p := range people {
		listed[p.StudentID] = true
		x := onRegister{OnRegister: p, Mode: timetable.Hall}
		if p.Entry != nil {
			x.Mode = p.Entry.Mode
			if p.Entry.State != gradingday.Absent {
				x.State = string(p.Entry.State)
				v.Came++
			}
		}
		if days := p.Last.DaysTo(on); !p.Last.IsZero() && days >= quietDays {
			x.Quiet = words.Count(days/7, "week") + " away"
		}
		v.People = append(v.People, x)
	}
	v.Came += len(visitors)
	all, _, err := ch.records.Students(r.Context(), "", "", 1<<20, 0)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, s := range all {
		if listed[s.ID] && s.Stance == "" {
			v.Unknown = append(v.Unknown, frame.Option{Value: s.ID, Label: s.Name})
		}
		if !listed[s.ID] && s.EnrolmentID != "" && !on.Before(s.JoinedOn) {
			listed[s.ID] = true
			v.Others = append(v.Others, frame.Option{Value: s.ID, Label: s.Name})
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "register", Title: c.Name + ", " + on.Long(), Nav: "classes", Bare: true, Body: v})
}

// registerSave is the register without JavaScript: one tap, one page.
func (ch *chapter) registerSave(w http.ResponseWriter, r *http.Request) {
	path := strings.TrimSuffix(r.URL.Path, "/")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		c, on, _, err := ch.slotOf(r)
		if err != nil {
			return store.Done{}, err
		}
		if v.Get("keep") != "" {
			return ch.records.KeepRegister(r.Context(), by, c.ID, on)
		}
		people, _, _, err := ch.records.RegisterOf(r.Context(), c, on)
		if err != nil {
			return store.Done{}, err
		}
		e := gradingday.Attendance{ID: store.NewID(), ClassID: c.ID, On: on, State: gradingday.Present, Mode: timetable.Mode(v.Get("mode")), StudentID: v.Get("tap")}
		if e.Mode == "" {
			e.Mode = timetable.Hall
		}
		if e.StudentID == "" {
			e.StudentID = v.Get("other")
			e.MakeUp = e.StudentID != ""
		}
		if e.StudentID == "" {
			e.Visitor = v.Get("visitor")
		}
		for _, p := range people {
			if p.StudentID == e.StudentID && p.Entry != nil {
				e.Supersedes = p.Entry.ID
				if p.Entry.State != gradingday.Absent {
					e.State = gradingday.Absent
				}
			}
		}
		refused, err := ch.records.RecordAttendance(r.Context(), by, []gradingday.Attendance{e})
		if err == nil && len(refused) > 0 {
			err = refused[0].Why
		}
		var old *store.Outdated
		if errors.As(err, &old) {
			err = &store.Refused{Reason: old.Error()}
		}
		return store.Done{}, err
	}, func(store.Done) string { return path }, func(status int, f frame.Form) {
		if f.General == "" {
			f.General = f.Problems.Error()
		}
		ch.registerPage(w, r, status, f)
	})
}

func (ch *chapter) registerEntries(w http.ResponseWriter, r *http.Request) {
	frame.TakeEntries(ch.Frame, w, r, func(e frame.Attendance, class, on string) (string, bool) {
		return e.ID, e.ClassID == class && e.On.String() == on
	},
		func(by store.By, all []frame.Attendance) ([]store.RefusedEntry, error) {
			return ch.records.RecordAttendance(r.Context(), by, frame.Each(all, func(a frame.Attendance) gradingday.Attendance { return gradingday.Attendance(a) }))
		})
}

type checkinView struct {
	Slots []classSlot
	On    civil.Date
	Path  string
	Class timetable.Class
}

// checkinShow is the wall screen: a number typed, or scanned by a reader that types, enters
// whoever it belongs to in the class that is on.
func (ch *chapter) checkinShow(w http.ResponseWriter, r *http.Request) {
	c, on, ok := ch.heldSlot(w, r)
	if !ok {
		return
	}
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "checkin", Title: "Check in: " + c.Name, Nav: "classes",
		Bare: true, Body: checkinView{On: on, Class: c, Path: "/checkin/" + c.ID + "/" + on.String()}})
}

// checkinEntry is a number typed or scanned at the wall.
type checkinEntry struct {
	ID     string `json:"id"`
	Number string `json:"number"`
}

// checkinNumber enters the students with some numbers, and answers with no more than first names.
func (ch *chapter) checkinNumber(w http.ResponseWriter, r *http.Request) {
	entries, err := frame.ReadEntries[checkinEntry](r)
	var c timetable.Class
	var on civil.Date
	if err == nil {
		c, on, _, err = ch.slotOf(r)
	}
	out := struct {
		frame.Taken
		Names map[string]string `json:"names"` // entry → first name
	}{Taken: frame.TakenOf(ch.records.Now(), nil, nil), Names: map[string]string{}}
	for _, e := range entries {
		if err != nil {
			break
		}
		var name string
		if name, err = ch.checkIn(r, c, on, e); err == nil {
			out.Stored, out.Names[e.ID] = append(out.Stored, e.ID), name
			continue
		}
		if status, _, _ := frame.Explain(err); status < http.StatusInternalServerError {
			out.Refused = append(out.Refused, frame.RefusedEntry{ID: e.ID, Problem: refusedRow(err)})
			err = nil
		}
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	frame.SendJSON(w, http.StatusOK, out)
}

// checkIn enters the student with a number. One who is late, or online, is here all the same.
func (ch *chapter) checkIn(r *http.Request, c timetable.Class, on civil.Date, e checkinEntry) (first string, err error) {
	n, bad := strconv.Atoi(strings.TrimSpace(e.Number))
	s, err := ch.records.StudentNumbered(r.Context(), n)
	if bad != nil || errors.Is(err, store.ErrNotFound) {
		return "", check.Problems{{Field: "number", Text: "nobody has the number " + clipped(e.Number) + "; try again, or ask at the desk"}}
	}
	if err != nil {
		return "", err
	}
	refused, err := ch.records.RecordAttendance(r.Context(), store.By{Actor: "check-in"},
		[]gradingday.Attendance{{ID: e.ID, ClassID: c.ID, On: on, StudentID: s.ID, State: gradingday.Present, Mode: timetable.Hall}})
	if err != nil {
		return "", err
	}
	var old *store.Outdated
	if len(refused) > 0 && !errors.As(refused[0].Why, &old) {
		return "", refused[0].Why
	}
	first, _, _ = strings.Cut(s.Name, " ")
	return first, nil
}

func clipped(s string) string {
	if r := []rune(check.Tidy(s)); len(r) > 12 {
		return string(r[:12]) + "…"
	}
	return check.Tidy(s)
}
