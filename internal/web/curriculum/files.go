package curriculum

import (
	"bytes"
	"errors"
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

type filesView struct {
	Columns []string
	What    string // "curriculum", "requirements", or "" where nothing was read
	Text    string
	General string

	// Of a curriculum.
	Read       *curriculum.Curriculum
	Found      []curriculum.Invalid
	Known      bool // it stands for a program on record
	Rungs      []curriculum.RungChanges
	Techniques []curriculum.Difference
	Holes      int // findings of the ladder check

	// Of requirements.
	Sheet *parts.SheetView
	At    string
	Only  bool
	Rows  []exchange.RequirementRow
	Bad   []exchange.RequirementRow
	Added int
	Other int // changed
	Same  int
	Gone  []string // requirements that would be taken out
}

func (ch *chapter) filesShow(w http.ResponseWriter, r *http.Request) {
	ch.filesPage(w, r, http.StatusOK, filesView{})
}

func (ch *chapter) filesPage(w http.ResponseWriter, r *http.Request, status int, v filesView) {
	v.Columns = exchange.RequirementColumns
	ch.Show(w, r, status, "", frame.Page{Screen: "files", Title: "Files", Nav: "ladder", Body: v})
}

func (ch *chapter) filesCurriculum(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	var out bytes.Buffer
	if err := exchange.WriteCurriculum(&out, b.Curriculum); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/json", b.Program.Name+" curriculum.json", out.Bytes())
}

func (ch *chapter) filesRequirements(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	var out bytes.Buffer
	if err := exchange.WriteRequirements(&out, b); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/csv; charset=utf-8", b.Program.Name+" requirements.csv", out.Bytes())
}

// filesReadCurriculum shows what a curriculum's file would change, and on the second step
// puts it on record, all of it or nothing.
func (ch *chapter) filesReadCurriculum(w http.ResponseWriter, r *http.Request) {
	form, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := filesView{What: "curriculum"}
	if v.Text, err = frame.Sent(r, form); err != nil {
		ch.Fail(w, r, err)
		return
	}
	c, err := exchange.ReadCurriculum(strings.NewReader(v.Text))
	var wrong *exchange.CurriculumError
	if errors.As(err, &wrong) {
		v.Found = wrong.Found
		ch.filesPage(w, r, http.StatusUnprocessableEntity, v)
		return
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if form.Get("keep") != "" {
		done, err := ch.records.SaveCurriculum(r.Context(), by, c)
		if err != nil {
			status, title, text := frame.Explain(err)
			if status >= http.StatusInternalServerError {
				ch.Fail(w, r, err)
				return
			}
			v.General = title + ": " + text
			ch.filesPage(w, r, status, v)
			return
		}
		http.Redirect(w, r, "/ladder?program="+url.QueryEscape(c.Program.ID)+"&done="+done.Audit, http.StatusSeeOther)
		return
	}
	v.Read = &c
	now := curriculum.Open(c)
	older := curriculum.Open(curriculum.Curriculum{})
	if b, err := ch.records.Book(r.Context(), c.Program.ID); err == nil {
		older, v.Known = b, true
	} else if !errors.Is(err, store.ErrNotFound) {
		ch.Fail(w, r, err)
		return
	}
	v.Rungs, v.Techniques = curriculum.Compare(older, now, "")
	for _, f := range now.Check() {
		if f.Silenced == "" {
			v.Holes++
		}
	}
	ch.filesPage(w, r, http.StatusOK, v)
}

// incoming is a table of requirements with what was chosen about it.
type incoming struct {
	file    string
	reading exchange.Reading
	program string
	only    bool // what its rungs ask and it leaves out is taken out
}

// filesSendRequirements takes a table, and leads to the page on which it is looked at.
func (ch *chapter) filesSendRequirements(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	only := false
	ch.shelf.Send(ch.Parts, w, r, requirementsAt, func(name string, data []byte, form url.Values) (incoming, error) {
		only = form.Get("only") != ""
		reading, err := exchange.OpenRequirements(data)
		return incoming{name, reading, b.Program.ID, only}, err
	}, func(err error) {
		ch.filesPage(w, r, http.StatusUnprocessableEntity, filesView{What: "requirements", Only: only, General: err.Error()})
	})
}

const requirementsAt = "/files/requirements"

func (ch *chapter) filesLookRequirements(w http.ResponseWriter, r *http.Request) {
	if x := ch.shelf.Asked(ch.Parts, w, r, requirementsAt); x != nil {
		ch.filesLooked(w, r, http.StatusOK, x, "")
	}
}

// filesLooked shows row by row what a table would change.
func (ch *chapter) filesLooked(w http.ResponseWriter, r *http.Request, status int, x *parts.Incoming[incoming], general string) {
	in := x.Look()
	b, err := ch.records.Book(r.Context(), in.program)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := filesView{What: "requirements", Only: in.only, General: general, At: requirementsAt + "/" + x.ID}
	v.Sheet = parts.ViewSheet(in.file, in.reading)
	rows, err := exchange.ReadRequirements(in.reading, b)
	if err != nil {
		v.General, status = err.Error(), http.StatusUnprocessableEntity
	}
	v.sort(b, rows)
	if len(v.Bad) > 0 && status == http.StatusOK {
		status = http.StatusUnprocessableEntity
	}
	v.Columns = exchange.RequirementColumns
	ch.Show(w, r, status, in.program, frame.Page{Screen: "files", Title: "Files", Nav: "ladder", Body: v})
}

// filesReadRequirements notes what the columns of a table mean, and on the second step puts the good rows on record in one
// transaction.
func (ch *chapter) filesReadRequirements(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, requirementsAt)
	if x == nil {
		return
	}
	form, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	in := x.Look()
	if form.Has("column_0") {
		means, headless, days := parts.ReadColumns(form, len(in.reading.Columns))
		in.reading, in.only = in.reading.As(exchange.RequirementHeads, means, headless, exchange.DayOrder(days)), form.Get("only") != ""
		x.Choose(in)
	}
	if form.Get("keep") == "" {
		http.Redirect(w, r, "/files/requirements/"+x.ID, http.StatusSeeOther)
		return
	}
	done, err := ch.records.ChangeCurriculum(r.Context(), by, in.program, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		rows, err := exchange.ReadRequirements(in.reading, b) // once more, against what stands now
		if err != nil {
			return b.Curriculum, office.Deed{}, check.Problems{{Field: "file", Text: err.Error()}}
		}
		v := filesView{Only: in.only}
		v.sort(b, rows)
		switch {
		case in.only && len(v.Bad) > 0:
			return b.Curriculum, office.Deed{}, &store.Refused{Reason: "What the file leaves out can only be taken out when every row can be read. Correct the rows below first."}
		case len(v.Rows) == 0:
			return b.Curriculum, office.Deed{}, &store.Refused{Reason: "Nothing was read in: no row can be."}
		}
		var lines []binder.MergeLine
		for _, x := range v.Rows {
			lines = append(lines, x.Line)
		}
		c, err := binder.For(b).Merge(lines, in.only, store.NewID)
		return c, office.Deed{Kind: office.RequirementsRead, N: len(lines), What: b.Program.Name}, err
	})
	if err != nil {
		status, _, text := frame.Explain(err)
		if status >= http.StatusInternalServerError {
			ch.Fail(w, r, err)
			return
		}
		ch.filesLooked(w, r, status, x, text)
		return
	}
	http.Redirect(w, r, "/files?done="+done.Audit, http.StatusSeeOther)
}

// filesRefused is a file of the rows that are not read in, with what is wrong with each.
func (ch *chapter) filesRefused(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, requirementsAt)
	if x == nil {
		return
	}
	in := x.Look()
	b, err := ch.records.Book(r.Context(), in.program)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	rows, err := exchange.ReadRequirements(in.reading, b)
	why := map[int]string{}
	for _, row := range rows {
		if len(row.Problems) > 0 {
			why[row.Row] = row.Problems.Error()
		}
	}
	var out bytes.Buffer
	if err == nil {
		err = exchange.WriteRefused(&out, in.reading, why)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/csv; charset=utf-8", "requirements not read in.csv", out.Bytes())
}

// sort tells good rows from bad ones and says what would be taken out.
func (v *filesView) sort(b *curriculum.Book, rows []exchange.RequirementRow) {
	stays, rungs := map[string]bool{}, map[string]bool{}
	for _, x := range rows {
		rungs[x.Line.RungID] = true
		stays[x.Line.Was] = true
		if len(x.Problems) > 0 {
			v.Bad = append(v.Bad, x)
			continue
		}
		v.Rows = append(v.Rows, x)
		switch x.Change {
		case "added":
			v.Added++
		case "changed":
			v.Other++
		default:
			v.Same++
		}
	}
	if !v.Only {
		return
	}
	for _, q := range b.Requirements {
		if rungs[q.RungID] && !stays[q.ID] {
			if t, g := b.Technique(q.TechniqueID), b.Rung(q.RungID); t != nil && g != nil {
				v.Gone = append(v.Gone, g.Name+": "+t.Name+", "+q.Quantity.String())
			}
		}
	}
}
