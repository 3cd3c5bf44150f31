package curriculum

import (
	"bytes"
	"errors"
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
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

// filesReadRequirements shows row by row what a CSV file would change, and on the second
// step puts the good rows on record in one transaction.
func (ch *chapter) filesReadRequirements(w http.ResponseWriter, r *http.Request) {
	form, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := filesView{What: "requirements", Only: form.Get("only") != ""}
	if v.Text, err = frame.Sent(r, form); err != nil {
		ch.Fail(w, r, err)
		return
	}
	rows, err := exchange.ReadRequirements([]byte(v.Text), b)
	if err != nil {
		v.General = err.Error()
		ch.filesPage(w, r, http.StatusUnprocessableEntity, v)
		return
	}
	v.sort(b, rows)
	if form.Get("keep") == "" || len(v.Bad) > 0 && v.Only || len(v.Rows) == 0 {
		status := http.StatusOK
		if len(v.Bad) > 0 {
			status = http.StatusUnprocessableEntity
		}
		if form.Get("keep") != "" && len(v.Bad) > 0 {
			v.General = "What the file leaves out can only be taken out when every row can be read. Correct the rows below first."
		}
		ch.filesPage(w, r, status, v)
		return
	}
	done, err := ch.records.ChangeCurriculum(r.Context(), by, b.Program.ID, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		rows, err := exchange.ReadRequirements([]byte(v.Text), b) // once more, against what stands now
		if err != nil {
			return b.Curriculum, office.Deed{}, check.Problems{{Field: "file", Text: err.Error()}}
		}
		var again filesView
		again.sort(b, rows)
		var lines []curriculum.MergeLine
		for _, x := range again.Rows {
			lines = append(lines, x.Line)
		}
		c, err := b.Merge(lines, v.Only, store.NewID)
		return c, office.Deed{Kind: office.RequirementsRead, N: len(lines), What: b.Program.Name}, err
	})
	if err != nil {
		status, _, text := frame.Explain(err)
		if status >= http.StatusInternalServerError {
			ch.Fail(w, r, err)
			return
		}
		v.General = text
		ch.filesPage(w, r, status, v)
		return
	}
	http.Redirect(w, r, "/files?done="+done.Audit, http.StatusSeeOther)
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
