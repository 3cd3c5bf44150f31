package classes

import (
	"bytes"
	"errors"
	"net/http"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

// attendanceShown is how many rows of each sort the page of an import lists.
const attendanceShown = 200

type attendanceView struct {
	Text    string
	General string
	Seen    bool
	Added   bool
	Good    int
	Bad     []exchange.AttendanceRow // the first of them
	Wrong   int
	Columns []string
}

func (ch *chapter) attendanceImport(w http.ResponseWriter, r *http.Request) {
	ch.attendancePage(w, r, http.StatusOK, attendanceView{})
}

func (ch *chapter) attendancePage(w http.ResponseWriter, r *http.Request, status int, v attendanceView) {
	v.Columns = exchange.AttendanceColumns
	ch.Show(w, r, status, "", frame.Page{Screen: "attendance", Title: "Attendance from a file", Nav: "classes", Body: v})
}

// attendanceRead shows what a file would enter, and on the second step enters the good rows.
// What is on record already is entered once.
func (ch *chapter) attendanceRead(w http.ResponseWriter, r *http.Request) {
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	view := attendanceView{Seen: true}
	if view.Text, err = frame.Sent(r, v); err != nil {
		ch.Fail(w, r, err)
		return
	}
	rows, err := exchange.ReadAttendance([]byte(view.Text))
	if err != nil {
		view.General, view.Seen = err.Error(), false
		ch.attendancePage(w, r, http.StatusUnprocessableEntity, view)
		return
	}
	entries, from, err := ch.attendanceEntries(r, rows)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	refused, err := ch.records.ImportAttendance(r.Context(), by, entries, v.Get("add") == "")
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, x := range refused {
		rows[from[x.At]].Problems.Add("row", "%s", refusedRow(x.Why))
	}
	for _, x := range rows {
		if len(x.Problems) == 0 {
			view.Good++
			continue
		}
		if view.Wrong++; len(view.Bad) < attendanceShown {
			view.Bad = append(view.Bad, x)
		}
	}
	view.Added = v.Get("add") != ""
	status := http.StatusOK
	if view.Wrong > 0 && !view.Added {
		status = http.StatusUnprocessableEntity
	}
	ch.attendancePage(w, r, status, view)
}

// refusedRow says why a row cannot be entered, in words for whoever looks at a file.
func refusedRow(why error) string {
	var p check.Problems
	var old *store.Outdated
	switch {
	case errors.As(why, &old):
		return "this student is on record for that class already, as " + string(old.Current.State)
	case errors.As(why, &p):
		return p[0].Text
	}
	_, _, text := frame.Explain(why)
	return text
}

// attendanceEntries finds students and classes by name. from says for each entry which row it
// comes from.
func (ch *chapter) attendanceEntries(r *http.Request, rows []exchange.AttendanceRow) (entries []gradingday.Attendance, from []int, err error) {
	all, _, err := ch.records.Students(r.Context(), "", "", 1<<30, 0)
	if err != nil {
		return nil, nil, err
	}
	type who struct {
		name string
		born civil.Date
	}
	people := map[who][]string{}
	seen := map[string]bool{}
	for _, s := range all {
		if seen[s.ID] {
			continue
		}
		seen[s.ID] = true
		key := check.Key(s.Name)
		people[who{key, civil.Date{}}] = append(people[who{key, civil.Date{}}], s.ID)
		if !s.BirthDate.IsZero() {
			people[who{key, s.BirthDate}] = append(people[who{key, s.BirthDate}], s.ID)
		}
	}
	t, err := ch.records.Timetable(r.Context())
	if err != nil {
		return nil, nil, err
	}
	for i := range rows {
		x := &rows[i]
		if len(x.Problems) > 0 {
			continue
		}
		found := people[who{check.Key(x.Name), x.Born}]
		switch {
		case len(found) == 0 && x.Born.IsZero():
			x.Problems.Add("name", "%q is not on record", x.Name)
		case len(found) == 0:
			x.Problems.Add("name", "nobody called %q was born on %s", x.Name, x.Born.Long())
		case len(found) > 1:
			x.Problems.Add("birth_date", "%d students are called %q; write the birth date too", len(found), x.Name)
		}
		class := classNamed(t, x)
		if len(x.Problems) > 0 {
			continue
		}
		entries = append(entries, gradingday.Attendance{ID: store.NewID(), ClassID: class[0], On: x.On, StudentID: found[0],
			State: gradingday.AttendanceState(x.State), Mode: x.Mode, MakeUp: x.MakeUp})
		from = append(from, i)
	}
	return entries, from, nil
}

// classNamed is the class that a row names; what is wrong with it is added to its problems.
func classNamed(t timetable.Table, x *exchange.AttendanceRow) (class []string) {
	known := false
	for _, c := range t.Classes {
		if check.Key(c.Name) != check.Key(x.Class) {
			continue
		}
		known = true
		if c.HeldOn(x.On) && (x.Start < 0 || x.Start == c.Start) {
			class = append(class, c.ID)
		}
	}
	switch {
	case !known:
		x.Problems.Add("class", "%q is not on the timetable", x.Class)
	case len(class) == 0:
		x.Problems.Add("date", "%s is not held on %s", x.Class, x.On.Long())
	case len(class) > 1:
		x.Problems.Add("start", "%d classes are called %q on %s; write when this one starts", len(class), x.Class, x.On.Long())
	}
	return class
}

func (ch *chapter) attendanceExport(w http.ResponseWriter, r *http.Request) {
	rows, err := ch.records.AllAttendance(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	lines := make([]exchange.AttendanceRow, 0, len(rows))
	for _, x := range rows {
		lines = append(lines, exchange.AttendanceRow{Name: x.Name, Born: x.Born, On: x.On, Class: x.Class, Start: x.Start, State: string(x.State), Mode: x.Mode, MakeUp: x.MakeUp})
	}
	var out bytes.Buffer
	if err := exchange.WriteAttendance(&out, lines); err != nil {
		ch.Fail(w, r, err)
		return
	}
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="attendance-`+ch.records.Today().String()+`.csv"`)
	w.Write(out.Bytes())
}
