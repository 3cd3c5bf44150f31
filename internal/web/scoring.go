package web

import (
	"encoding/json"
	"errors"
	"html/template"
	"mime"
	"net/http"
	"net/url"
	"strings"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

type scoringView struct {
	Table store.Table
	Form  form
}

// scoringShow is the shell of the scoring table; the script fills it from the state.
func (a *app) scoringShow(w http.ResponseWriter, r *http.Request) {
	a.scoringShell(w, r, http.StatusOK, form{})
}

func (a *app) scoringShell(w http.ResponseWriter, r *http.Request, status int, f form) {
	t, err := a.store.ScoringTable(r.Context(), chi.URLParam(r, "examiner"), chi.URLParam(r, "group"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if !t.Grading.Begun() {
		a.message(w, r, http.StatusConflict, "The tables are not open yet", "Open them from the grading's page: "+t.Grading.Title()+", "+t.Grading.On.Long()+".")
		return
	}
	a.show(w, r, status, t.Grading.ProgramID, page{Screen: "scoring", Title: t.Group + ", " + t.Examiner.Name, Bare: true, Body: scoringView{t, f}})
}

// State of a scoring table as its script reads it.
type scoringTable struct {
	Grading    string             `json:"grading"`
	Examiner   string             `json:"examiner"`
	Group      string             `json:"group"`
	Rung       string             `json:"rung"`
	Signed     bool               `json:"signed"`
	Scale      scoringScale       `json:"scale"`
	Candidates []scoringCandidate `json:"candidates"`
	Items      []scoringItem      `json:"items"`
	Marks      []store.Mark       `json:"marks"`
	Faults     []store.Fault      `json:"faults"`
}

type scoringScale struct {
	Marks   []scoringMark `json:"marks"`
	Halves  bool          `json:"halves"` // half points between the marks
	Highest int           `json:"highest"`
}

type scoringMark struct {
	Value int    `json:"value"`
	Word  string `json:"word"`
	Fails bool   `json:"fails"`
}

type scoringCandidate struct {
	ID     string        `json:"id"`
	Number int           `json:"number"`
	Name   string        `json:"name"`
	Rank   string        `json:"rank"`
	Belt   template.HTML `json:"belt"`
}

type scoringItem struct {
	ID       string            `json:"id"`
	IDs      map[string]string `json:"ids"` // candidate → item; who is missing does not show it
	Own      map[string]string `json:"own"` // candidate → how the line differs for them
	Label    string            `json:"label"`
	Section  string            `json:"section"`
	MustPass bool              `json:"mustPass"`
	Bonus    bool              `json:"bonus"`
	Weight   int               `json:"weight"`
	Lines    []scoringLine     `json:"lines"`
}

type scoringLine struct {
	Call     string                 `json:"call"`
	Term     string                 `json:"term"`
	Detail   string                 `json:"detail"`
	Moves    []curriculum.StripMove `json:"moves"`
	Amount   string                 `json:"amount"`
	Called   int                    `json:"called"` // reps to call a side, where more than asked
	Seconds  int                    `json:"seconds"`
	Look     []string               `json:"look"`
	Faults   []curriculum.Fault     `json:"faults"`
	Cautions []string               `json:"cautions"`
	Manner   string                 `json:"manner"`
	Standard []string               `json:"standard"`
	Answers  []string               `json:"answers"`
}

func (a *app) scoringState(w http.ResponseWriter, r *http.Request) {
	t, err := a.store.ScoringTable(r.Context(), chi.URLParam(r, "examiner"), chi.URLParam(r, "group"))
	if err != nil {
		a.failJSON(w, r, err)
		return
	}
	out := scoringTable{
		Grading: t.Grading.Title(), Examiner: t.Examiner.Name, Group: t.Group, Signed: t.SignatureID != "", Scale: scaleOf(t.Grading.Policy.Scale),
		Candidates: []scoringCandidate{}, Items: []scoringItem{}, Marks: append([]store.Mark{}, t.Marks...), Faults: append([]store.Fault{}, t.Faults...),
	}
	for _, c := range t.Candidates {
		out.Rung = c.ToWords
		out.Candidates = append(out.Candidates, scoringCandidate{c.ID, c.Number, c.Name, c.FromWords, template.HTML(chart.Belt(c.From.Cloth, 64, 14))})
	}
	for _, it := range t.Items {
		item := scoringItem{ID: it.ID, IDs: it.IDs, Own: it.Own, Label: it.Label, Section: it.Section, MustPass: it.MustPass, Bonus: it.Bonus, Weight: it.Weight}
		for _, l := range it.Lines {
			line := scoringLine{Call: l.Call, Term: l.Term, Detail: l.Detail, Moves: l.Moves, Amount: l.Quantity.String(), Seconds: l.Seconds, Look: l.Checkpoints, Faults: l.Faults, Cautions: l.Cautions, Manner: l.Manner, Standard: l.Standard(), Answers: l.Answers}
			if l.RepsCalled > l.Quantity.Reps {
				line.Called = l.RepsCalled
			}
			item.Lines = append(item.Lines, line)
		}
		out.Items = append(out.Items, item)
	}
	sendJSON(w, http.StatusOK, out)
}

// scaleOf is a scale as buttons: whole marks, with halves between where the step is a half.
func scaleOf(s scoring.Scale) scoringScale {
	out := scoringScale{Halves: s.Step == scoring.Whole(1)/2, Highest: int(s.Highest / scoring.Whole(1))}
	for v := int(s.Lowest / scoring.Whole(1)); v <= out.Highest; v++ {
		m := scoring.Whole(v)
		out.Marks = append(out.Marks, scoringMark{v, s.Word(m), s.Failing != nil && m <= *s.Failing})
	}
	return out
}

// problem is an error as the scoring table's script reads it.
type problem struct {
	Problem string      `json:"problem"`
	Current *store.Mark `json:"current,omitempty"` // what stands where someone else was first
}

func (a *app) failJSON(w http.ResponseWriter, r *http.Request, err error) {
	status, title, text := explain(err)
	if status == http.StatusInternalServerError {
		a.log.Error("a request failed", "error", err, "path", r.URL.Path)
	}
	out := problem{Problem: title + ": " + text}
	var stale *store.Stale
	if errors.As(err, &stale) {
		out.Current = &stale.Current
	}
	sendJSON(w, status, out)
}

func sendJSON(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	json.NewEncoder(w).Encode(v)
}

// readJSON reads a request's body strictly.
func readJSON(r *http.Request, v any) error {
	if kind, _, _ := mime.ParseMediaType(r.Header.Get("Content-Type")); kind != "application/json" {
		return check.Problems{{Field: "request", Text: "must be application/json"}}
	}
	dec := json.NewDecoder(r.Body)
	dec.DisallowUnknownFields()
	if err := dec.Decode(v); err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			return err
		}
		return check.Problems{{Field: "request", Text: "cannot be read: " + err.Error()}}
	}
	return nil
}

// maxMarks is how many marks one request may carry: a whole sheet of a large group.
const maxMarks = 4000

// scoringMarks stores marks. Answered only once they are on the disk.
func (a *app) scoringMarks(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Marks []store.Mark `json:"marks"`
	}
	err := readJSON(r, &in)
	if err == nil && (len(in.Marks) == 0 || len(in.Marks) > maxMarks) {
		err = check.Problems{{Field: "marks", Text: "must be 1 to 4000"}}
	}
	for _, m := range in.Marks {
		if err == nil && m.ExaminerID != chi.URLParam(r, "examiner") {
			err = &store.Refused{Reason: "These marks belong to another examiner's table."}
		}
	}
	if err == nil {
		err = a.store.RecordMarks(r.Context(), store.By{Actor: actorOf(r)}, in.Marks)
	}
	if err != nil {
		a.failJSON(w, r, err)
		return
	}
	stored := []string{}
	for _, m := range in.Marks {
		stored = append(stored, m.ID)
	}
	sendJSON(w, http.StatusOK, map[string][]string{"stored": stored})
}

func (a *app) scoringFault(w http.ResponseWriter, r *http.Request) {
	var f store.Fault
	err := readJSON(r, &f)
	if err == nil && (f.ExaminerID != chi.URLParam(r, "examiner") || f.Kind == store.FaultConfirmed) {
		err = &store.Refused{Reason: "This fault belongs to another examiner's table; an ending fault is confirmed at the review."}
	}
	if err == nil {
		err = a.store.RecordFault(r.Context(), store.By{Actor: actorOf(r)}, f)
	}
	if err != nil {
		a.failJSON(w, r, err)
		return
	}
	sendJSON(w, http.StatusOK, map[string]string{"stored": f.ID})
}

func (a *app) scoringSign(w http.ResponseWriter, r *http.Request) {
	examiner, group := chi.URLParam(r, "examiner"), chi.URLParam(r, "group")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.Sign(r.Context(), by, examiner, group, v.Get("fill") != "")
	}, to("/scoring/"+examiner+"/"+group), func(status int, f form) { a.scoringShell(w, r, status, f) })
}

func (a *app) scoringReopen(w http.ResponseWriter, r *http.Request) {
	examiner, group := chi.URLParam(r, "examiner"), chi.URLParam(r, "group")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return a.store.Reopen(r.Context(), by, examiner, group, v.Get("reason"))
	}, to("/scoring/"+examiner+"/"+group), func(status int, f form) {
		f.General = strings.TrimPrefix(f.Problems.Error()+" "+f.General, " ")
		a.scoringShell(w, r, status, f)
	})
}
