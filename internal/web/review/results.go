package review

import (
	"bytes"
	"net/http"

	"velvetladder/internal/core/timetable"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// resultsXLSX is a grading's marks as a workbook that adds up by itself. Whoever's panel has not signed is left out.
func (ch *chapter) resultsXLSX(w http.ResponseWriter, r *http.Request) {
	g, rows, err := ch.records.Review(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var out []exchange.ResultRow
	for _, x := range rows {
		if !x.HasResult() {
			continue
		}
		row := exchange.ResultRow{Number: x.Number, Name: x.Name, From: x.FromWords, To: x.ToWords, Group: x.Group, Test: x.Test, Result: x.Result, Outcome: words.Outcome(x.Result.Outcome)}
		if x.Decision != nil {
			row.Decision = words.Outcome(x.Decision.Outcome)
		}
		out = append(out, row)
	}
	if len(out) == 0 {
		ch.Fail(w, r, &store.Refused{Reason: "No panel has signed yet; there are no results to write. Marks are shown to nobody before."})
		return
	}
	var file bytes.Buffer
	if err := exchange.WriteResults(&file, g.Title()+" "+g.On.String(), g.Policy, out); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", g.Title()+" results "+g.On.String()+".xlsx", file.Bytes())
}

// gradingFile is a grading as one JSON file.
func (ch *chapter) gradingFile(w http.ResponseWriter, r *http.Request) {
	ctx, id := r.Context(), r.PathValue("grading")
	d, err := ch.records.DayPlan(ctx, id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	g := d.Grading
	school, err := ch.records.School(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	f := exchange.GradingFile{School: school, ID: g.ID, Title: g.Title(), Program: g.Program, On: g.On, Place: g.Place, Marking: g.Marking}
	for _, x := range g.Rungs {
		f.Rungs = append(f.Rungs, x.Name)
	}
	for i, ring := range g.Rings {
		out := exchange.GradingRing{Name: ring.Name}
		for _, e := range g.Panel(i) {
			out.Panel = append(out.Panel, exchange.GradingSeat{Name: e.Name, Chief: e.Chief})
		}
		for _, s := range d.Plan.Slots {
			if s.Ring == i {
				out.Plan = append(out.Plan, exchange.GradingPlaced{Group: d.Day.Groups[s.Group].Name, Part: s.Part, From: timetable.Clock(s.From), To: timetable.Clock(s.To)})
			}
		}
		f.Rings = append(f.Rings, out)
	}
	seen := map[string]store.Reviewed{}
	if g.Begun() {
		_, rows, err := ch.records.Review(ctx, id)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		for _, x := range rows {
			seen[x.ID] = x
		}
	}
	for _, c := range d.People {
		out := exchange.GradingCandidate{ID: c.ID, Name: c.Name, Number: c.Number, Group: c.Group,
			Ring: g.Rings[max(parts.RingOf(g, c.RingID), 0)].Name, From: c.FromWords, To: c.ToWords, Reason: c.Reason}
		if x, there := seen[c.ID]; there {
			onFile(&out, g, x)
		}
		f.Candidates = append(f.Candidates, out)
	}
	var file bytes.Buffer
	if err := exchange.WriteGrading(&file, f); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/json", g.Title()+" "+g.On.String()+".json", file.Bytes())
}

// onFile puts a candidate's tally, faults and decision into the file; nothing of a sealed one.
func onFile(out *exchange.GradingCandidate, g store.Grading, x store.Reviewed) {
	out.Sealed = x.Sealed()
	if !out.Sealed && len(x.Test.Sheets) > 0 {
		out.SetTally(g.Policy, x.Test)
		out.Outcome = x.Result.Outcome
		for _, ft := range x.Faults {
			out.Faults = append(out.Faults, exchange.GradingFault{Examiner: examinerName(g, ft.ExaminerID), Kind: string(ft.Kind), Points: ft.Points, Text: words.Fault(ft)})
		}
	}
	if x.Decision != nil {
		out.Decision = &exchange.GradingDecision{Outcome: x.Decision.Outcome, By: x.Decision.DecidedBy, Reason: x.Decision.Reason, RetestFrom: x.Decision.RetestFrom}
	}
	out.Announced = x.Announced
}

func examinerName(g store.Grading, id string) string {
	for _, e := range g.Examiners {
		if e.ID == id {
			return e.Name
		}
	}
	return id
}
