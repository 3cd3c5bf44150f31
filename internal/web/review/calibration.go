package review

import (
	"cmp"
	"encoding/json"
	"html/template"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type calibrationsView struct {
	All      []store.Calibration
	Form     frame.Form
	Rungs    []frame.Option
	Markings []frame.Option
}

// calibrationsShow lists the calibrations of a program, and begins one.
func (ch *chapter) calibrationsShow(w http.ResponseWriter, r *http.Request) {
	ch.calibrationsPage(w, r, http.StatusOK, frame.Form{Values: frame.Values("marking", string(gradingday.MovementScale))})
}

func (ch *chapter) calibrationsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := calibrationsView{Form: f}
	var err error
	if v.All, err = ch.records.Calibrations(r.Context(), b.Program.ID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Rungs = append(v.Rungs, frame.Option{Label: "none: the lines are written below"})
	for _, g := range slices.Backward(b.Rungs) {
		v.Rungs = append(v.Rungs, frame.Option{Value: g.ID, Label: g.Name})
	}
	v.Markings = []frame.Option{{Value: string(gradingday.MovementScale), Label: "0 to 4, a movement"}, {Value: string(gradingday.CategoryPoints), Label: "0 to 10 in half points"}}
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "calibrations", Title: "Calibrations", Nav: "insights", Body: v})
}

func (ch *chapter) calibrationsSave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		b, err := ch.records.Book(r.Context(), v.Get("program"))
		if err != nil {
			return store.Done{}, err
		}
		c := agreement.Calibration{ProgramID: b.Program.ID, Name: v.Get("name"), What: v.Get("what"), Scale: scoring.MovementScale().Scale,
			Lines: strings.Split(v.Get("lines"), "\n"), Performances: strings.Split(v.Get("performances"), "\n")}
		if v.Get("marking") == string(gradingday.CategoryPoints) {
			c.Scale = scoring.CategoryPoints(0).Scale
		}
		if strings.TrimSpace(v.Get("lines")) == "" {
			c.Lines = linesOfRung(b, v.Get("rung"), v.Get("marking"))
		}
		return ch.records.BeginCalibration(r.Context(), by, c)
	}, func(d store.Done) string { return "/calibrations/" + d.ID }, func(status int, f frame.Form) { ch.calibrationsPage(w, r, status, f) })
}

// linesOfRung is what the sheet of a rung marks, as many as a calibration takes.
func linesOfRung(b *curriculum.Book, rung, marking string) (out []string) {
	if b.Rung(rung) == nil {
		return nil
	}
	for _, it := range gradingday.Items(b.Compile(curriculum.Asking{RungID: rung, Undrawn: true}), gradingday.Marking(cmp.Or(marking, string(gradingday.MovementScale)))) {
		if !slices.ContainsFunc(out, func(x string) bool { return check.Key(x) == check.Key(it.Item.Label) }) {
			out = append(out, it.Item.Label)
		}
	}
	return out[:min(len(out), agreement.MaxLines)]
}

type calibrationView struct {
	store.Calibration
	Address  string // whoever opens it may mark
	Code     template.HTML
	Names    []string // of examiners, to choose from
	Who      []calibrationWho
	Result   calibrationResult
	Own      bool   // the owner's view
	Sheet    string // JSON, for the script
	Lead     string
	Sure     string
	Compared bool
}

type calibrationWho struct {
	Name     string
	Given    int
	Of       int
	Finished bool
}

// calibrationResult is who marked what, a row a line and performance.
type calibrationResult struct {
	Who  []string
	Rows []calibrationRow
}

type calibrationRow struct {
	Performance, Line string
	First             bool // of its performance
	Marks             []string
	Apart             bool // two lie more than a step apart
	Alike             bool
}

func (ch *chapter) calibrationResultOf(c agreement.Calibration, entries []agreement.Entry, who []string) (out calibrationResult) {
	out.Who = who
	at := map[[2]int]map[string]agreement.Entry{}
	for _, e := range entries {
		place := [2]int{e.Performance, e.Line}
		if at[place] == nil {
			at[place] = map[string]agreement.Entry{}
		}
		at[place][e.Who] = e
	}
	for k, performance := range c.Performances {
		for i, line := range c.Lines {
			row := calibrationRow{Performance: performance, Line: line, First: i == 0}
			low, high, seen := c.Scale.Highest, c.Scale.Lowest, 0
			for _, name := range who {
				e, there := at[[2]int{k, i}][name]
				switch {
				case !there || e.Kind == gradingday.MarkOpen:
					row.Marks = append(row.Marks, "")
				case e.Kind == gradingday.MarkNotSeen:
					row.Marks = append(row.Marks, "–")
				default:
					row.Marks = append(row.Marks, e.Value.String())
					low, high, seen = min(low, e.Value), max(high, e.Value), seen+1
				}
			}
			row.Apart, row.Alike = seen > 1 && high-low > c.Scale.Step, seen > 1 && high == low
			out.Rows = append(out.Rows, row)
		}
	}
	return out
}

// calibrationShow is the owner's view: the address to mark at, who has finished, and what they gave.
func (ch *chapter) calibrationShow(w http.ResponseWriter, r *http.Request) {
	c, entries, ok := ch.calibration(w, r, r.PathValue("calibration"))
	if !ok {
		return
	}
	v := calibrationView{Calibration: c, Own: true}
	v.Address = frame.Link(r, "/calibration/"+c.ID)
	picture, err := chart.QR(v.Address, "The address to mark at")
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Code = template.HTML(picture)
	finished := c.Finished(entries)
	given := map[string]int{}
	for _, e := range entries {
		if e.Kind != gradingday.MarkOpen {
			given[e.Who]++
		}
	}
	for _, name := range slices.Sorted(maps.Keys(given)) {
		v.Who = append(v.Who, calibrationWho{name, given[name], len(c.Lines) * len(c.Performances), slices.Contains(finished, name)})
	}
	// Marks are shown when all who began have finished, or when it is closed.
	if shown := finished; len(shown) == len(v.Who) || !c.ClosedAt.IsZero() {
		if !c.ClosedAt.IsZero() {
			shown = slices.Sorted(maps.Keys(given))
		}
		if v.Compared = len(shown) > 0; v.Compared {
			v.Result = ch.calibrationResultOf(c.Calibration, entries, shown)
			v.Lead, v.Sure = words.Beside(agreement.Severities(c.Units(entries, shown)), c.Scale)
		}
	}
	ch.Show(w, r, http.StatusOK, c.ProgramID, frame.Page{Screen: "calibration", Title: c.Name, Nav: "insights", Body: v})
}

// calibration is one with its entries; ok is false after an answer that says what is wrong.
func (ch *chapter) calibration(w http.ResponseWriter, r *http.Request, id string) (c store.Calibration, entries []agreement.Entry, ok bool) {
	c, err := ch.records.Calibration(r.Context(), id)
	if err == nil {
		entries, err = ch.records.CalibrationEntries(r.Context(), id)
	}
	if err != nil {
		ch.Fail(w, r, err)
	}
	return c, entries, err == nil
}

// calibrationSheet is what the script of the marking screen needs, to go on without network.
type calibrationSheet struct {
	ID           string        `json:"id"`
	Lines        []string      `json:"lines"`
	Performances []string      `json:"performances"`
	Marks        []scoringMark `json:"marks"`
	Halves       bool          `json:"halves"`
	Highest      int           `json:"highest"`
}

type scoringMark struct {
	Value int    `json:"value"`
	Word  string `json:"word"`
}

// markShow is the sheet that examiners mark, under the link; who marks is said on it.
func (ch *chapter) markShow(w http.ResponseWriter, r *http.Request) {
	c, _, ok := ch.calibration(w, r, r.PathValue("link"))
	if !ok {
		return
	}
	sheet := calibrationSheet{ID: c.ID, Lines: c.Lines, Performances: c.Performances, Halves: c.Scale.Step == scoring.Whole(1)/2, Highest: int(c.Scale.Highest / scoring.Whole(1))}
	for m := c.Scale.Lowest; m <= c.Scale.Highest; m += scoring.Whole(1) {
		sheet.Marks = append(sheet.Marks, scoringMark{int(m / scoring.Whole(1)), c.Scale.Word(m)})
	}
	text, err := json.Marshal(sheet)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, http.StatusOK, c.ProgramID, frame.Page{Screen: "calibration", Title: c.Name, Bare: true, Body: calibrationView{Calibration: c, Sheet: string(text)}})
}

// wireEntry is an entry of a calibration as a device sends it.
type wireEntry struct {
	ID          string              `json:"id"`
	Who         string              `json:"who"`
	Performance int                 `json:"performance"`
	Line        int                 `json:"line"`
	Kind        gradingday.MarkKind `json:"kind"`
	Value       scoring.Decimal     `json:"value"`
	Supersedes  string              `json:"supersedes"`
}

// markState is what stands under a name, and, once that is finished, what others who have finished gave.
func (ch *chapter) markState(w http.ResponseWriter, r *http.Request) {
	c, err := ch.records.Calibration(r.Context(), r.PathValue("link"))
	var entries []agreement.Entry
	if err == nil {
		entries, err = ch.records.CalibrationEntries(r.Context(), c.ID)
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	who := check.Tidy(r.URL.Query().Get("who"))
	finished := c.Finished(entries)
	out := struct {
		At     int64              `json:"at"`
		Closed bool               `json:"closed"`
		Own    []wireEntry        `json:"own"`
		Beside *calibrationResult `json:"beside"` // nil: not finished
	}{At: ch.records.Now().UnixMilli(), Closed: !c.ClosedAt.IsZero(), Own: []wireEntry{}}
	for _, e := range entries {
		if check.Key(e.Who) == check.Key(who) {
			out.Own = append(out.Own, wireEntry{e.ID, e.Who, e.Performance, e.Line, e.Kind, e.Value, e.Supersedes})
		}
	}
	if slices.ContainsFunc(finished, func(x string) bool { return check.Key(x) == check.Key(who) }) {
		result := ch.calibrationResultOf(c.Calibration, entries, finished)
		out.Beside = &result
	}
	frame.SendJSON(w, http.StatusOK, out)
}

// markSave stores entries one by one. Answered only once they are on the disk.
func (ch *chapter) markSave(w http.ResponseWriter, r *http.Request) {
	link := r.PathValue("link")
	if _, err := ch.records.Calibration(r.Context(), link); err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	frame.TakeEach(ch.Frame, w, r, func(e wireEntry) string { return e.ID }, func(e wireEntry) error {
		return ch.records.RecordCalibration(r.Context(), store.By{Actor: e.Who}, agreement.Entry{ID: e.ID, Calibration: link, Who: e.Who,
			Performance: e.Performance, Line: e.Line, Kind: e.Kind, Value: e.Value, Supersedes: e.Supersedes})
	}, func() {})
}

func (ch *chapter) calibrationClose(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("calibration")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.CloseCalibration(r.Context(), by, id, v.Get("open") == "")
	}, frame.To("/calibrations/"+id), nil)
}

func (ch *chapter) calibrationDelete(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.DeleteCalibration(r.Context(), by, r.PathValue("calibration"))
	}, frame.To("/calibrations"), nil)
}
