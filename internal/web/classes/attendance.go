package classes

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"net/url"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// attendanceShown is how many wrong rows the page of a file lists; all of them can be saved as a file.
const attendanceShown = 200

type attendanceView struct {
	General string
	Columns []string
	Sheet   *parts.SheetView
	Good    int
	Bad     []exchange.AttendanceRow // the first of them
	Wrong   int
	Arrives *parts.Progress
	At      string
}

// incoming is a file of attendance with what its columns mean.
type incoming struct {
	file    string
	reading exchange.Reading
}

func (ch *chapter) attendanceImport(w http.ResponseWriter, r *http.Request) {
	ch.attendancePage(w, r, http.StatusOK, attendanceView{})
}

func (ch *chapter) attendancePage(w http.ResponseWriter, r *http.Request, status int, v attendanceView) {
	v.Columns = exchange.AttendanceColumns
	ch.Show(w, r, status, "", frame.Page{Screen: "attendance", Title: "Attendance from a spreadsheet", Nav: "classes", Body: v})
}

const attendanceAt = "/attendance/import"

// attendanceSend takes a file, and leads to the page on which it is looked at.
func (ch *chapter) attendanceSend(w http.ResponseWriter, r *http.Request) {
	ch.shelf.Send(ch.Parts, w, r, attendanceAt, func(name string, data []byte, _ url.Values) (incoming, error) {
		reading, err := exchange.OpenAttendance(data)
		return incoming{name, reading}, err
	}, func(err error) {
		ch.attendancePage(w, r, http.StatusUnprocessableEntity, attendanceView{General: err.Error()})
	})
}

func (ch *chapter) attendanceLook(w http.ResponseWriter, r *http.Request) {
	if x := ch.shelf.Asked(ch.Parts, w, r, attendanceAt); x != nil {
		ch.attendanceLooked(w, r, http.StatusOK, x, "")
	}
}

// attendanceLooked shows what a file would enter.
func (ch *chapter) attendanceLooked(w http.ResponseWriter, r *http.Request, status int, x *parts.Incoming[incoming], general string) {
	in := x.Look()
	v := attendanceView{General: general, At: attendanceAt + "/" + x.ID}
	p, running, err := x.Progress()
	if running {
		if p.To != "" {
			http.Redirect(w, r, p.To, http.StatusSeeOther)
			return
		}
		v.Arrives = &p
		ch.attendancePage(w, r, status, v)
		return
	}
	if err != nil && general == "" {
		_, _, v.General = frame.Explain(err)
	}
	v.Sheet = parts.ViewSheet(in.file, in.reading)
	rows, entries, err := ch.attendanceRows(r, in)
	var whole *wholeFile
	if errors.As(err, &whole) {
		v.General, status = err.Error(), http.StatusUnprocessableEntity
	} else if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Good = len(entries)
	for _, x := range rows {
		if len(x.Problems) == 0 {
			continue
		}
		if v.Wrong++; len(v.Bad) < attendanceShown {
			v.Bad = append(v.Bad, x)
		}
	}
	if v.Wrong > 0 && status == http.StatusOK {
		status = http.StatusUnprocessableEntity
	}
	ch.attendancePage(w, r, status, v)
}

// wholeFile is an error about a file as a whole.
type wholeFile struct{ error }

// attendanceRows are the rows of a file, each with what is wrong with it, and the entries of those with which nothing is.
func (ch *chapter) attendanceRows(r *http.Request, in incoming) (rows []exchange.AttendanceRow, entries []gradingday.Attendance, err error) {
	if rows, err = exchange.ReadAttendance(in.reading); err != nil {
		return nil, nil, &wholeFile{err}
	}
	all, from, err := ch.attendanceEntries(r, rows)
	if err != nil {
		return nil, nil, err
	}
	refused, err := ch.records.LookAttendance(r.Context(), store.By{Actor: frame.ActorOf(r)}, all)
	if err != nil {
		return nil, nil, err
	}
	for _, x := range refused {
		rows[from[x.At]].Problems.Add("row", "%s", refusedRow(x.Why))
	}
	for i, x := range all {
		if len(rows[from[i]].Problems) == 0 {
			entries = append(entries, x)
		}
	}
	return rows, entries, nil
}

// attendanceRead notes what the columns of a file mean, and on the second step enters the good rows. What is on record already is
// entered once.
func (ch *chapter) attendanceRead(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, attendanceAt)
	if x == nil {
		return
	}
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	in := x.Look()
	if v.Has("column_0") {
		means, headless, days := parts.ReadColumns(v, len(in.reading.Columns))
		in.reading = in.reading.As(exchange.AttendanceHeads, means, headless, exchange.DayOrder(days))
		x.Choose(in)
	}
	here := attendanceAt + "/" + x.ID
	if v.Get("add") == "" {
		http.Redirect(w, r, here, http.StatusSeeOther)
		return
	}
	_, entries, err := ch.attendanceRows(r, in)
	if err != nil || len(entries) == 0 {
		ch.attendanceLooked(w, r, http.StatusUnprocessableEntity, x, "Nothing was entered: no row can be.")
		return
	}
	ctx := context.WithoutCancel(r.Context()) // it goes on when the page is left
	to, err := x.Begin(len(entries), here, func(step func(int)) (string, error) {
		done, _, err := ch.records.ImportAttendance(ctx, by, entries, step)
		return "/classes?done=" + done.Audit, err
	})
	if err != nil {
		status, _, text := frame.Explain(err)
		ch.attendanceLooked(w, r, status, x, "Nothing was entered. "+text)
		return
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
}

// attendanceArriving says how far a file is.
func (ch *chapter) attendanceArriving(w http.ResponseWriter, r *http.Request) {
	ch.shelf.Arriving(ch.Parts, w, r, attendanceAt)
}

// attendanceRefused is a file of the rows that are not entered, with what is wrong with each.
func (ch *chapter) attendanceRefused(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, attendanceAt)
	if x == nil {
		return
	}
	rows, _, err := ch.attendanceRows(r, x.Look())
	why := map[int]string{}
	for _, row := range rows {
		if len(row.Problems) > 0 {
			why[row.Row] = row.Problems.Error()
		}
	}
	var out bytes.Buffer
	if err == nil {
		err = exchange.WriteRefused(&out, x.Look().reading, why)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/csv; charset=utf-8", "attendance not entered.csv", out.Bytes())
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
