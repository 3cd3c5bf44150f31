package gradings

import (
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type briefingView struct {
	Grading store.Grading
	Nav     preparation
	Parts   []words.BriefPart
	For     []string // what is tested for, a page each
	Of      string   // whose page it is; "" everybody's
	Form    frame.Form
	To      int // families who have a candidate
	School  string
}

// briefing is what candidates are told before they begin.
func (ch *chapter) briefing(r *http.Request, id string) (store.DayPlan, gradingday.Briefing, error) {
	d, err := ch.records.DayPlan(r.Context(), id)
	if err != nil {
		return d, gradingday.Briefing{}, err
	}
	calls, err := ch.records.Calls(r.Context(), id)
	if err != nil {
		return d, gradingday.Briefing{}, err
	}
	var groups []gradingday.BriefGroup
	for _, g := range d.Day.Groups {
		people := d.Of(g.ID)
		if len(people) > 0 {
			groups = append(groups, gradingday.BriefGroup{For: g.For, Candidates: len(people), Items: calls[g.ID]})
		}
	}
	return d, gradingday.Brief(d.Grading.Grading, groups), nil
}

func (ch *chapter) briefingShow(w http.ResponseWriter, r *http.Request) {
	ch.briefingPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) briefingPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	d, b, err := ch.briefing(r, r.PathValue("grading"))
	school := ""
	if err == nil {
		school, err = ch.records.School(r.Context())
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	g := d.Grading
	v := briefingView{Grading: g, Nav: preparation{Grading: g, Here: "briefing", Owner: frame.PersonOf(r).Role == store.Owner}, Form: f, To: len(d.People), School: school}
	for _, s := range b.Sheets {
		v.For = append(v.For, s.For)
	}
	if of := r.URL.Query().Get("for"); slices.Contains(v.For, of) {
		v.Of = of
	} else if of == "" && len(v.For) > 0 {
		v.Of = v.For[0]
	}
	v.Parts = words.Briefing(b.About(v.Of))
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "briefing", Title: "Briefing, " + g.Title(), Nav: "gradings", Body: v})
}

// briefText is a briefing as a letter has it.
func briefText(b gradingday.Briefing) string {
	var out strings.Builder
	for _, p := range words.Briefing(b) {
		out.WriteString(p.Title + "\n")
		for _, row := range p.Rows {
			out.WriteString("- " + row + "\n")
		}
		out.WriteString("\n")
	}
	return strings.TrimSpace(out.String())
}

// briefingSend writes the briefing to the families, into the outbox.
func (ch *chapter) briefingSend(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		d, b, err := ch.briefing(r, id)
		if err != nil {
			return store.Done{}, err
		}
		_, all, err := ch.records.Checklist(r.Context(), id)
		if err != nil {
			return store.Done{}, err
		}
		tested := map[string]string{} // group → what is tested for
		for _, g := range d.Day.Groups {
			tested[g.ID] = g.For
		}
		var out []store.Message
		for _, c := range all {
			name := c.Guardian
			if name == "" {
				name = c.Name
			}
			out = append(out, store.Message{Kind: "bring", GradingID: id, CandidateID: c.ID, StudentID: c.StudentID, ToName: name,
				Address: mailAddress(c.Contact), Subject: d.Grading.Title() + ", " + d.Grading.On.Long() + ": how it goes", Body: briefText(b.About(tested[c.GroupID]))})
		}
		return ch.records.WriteMessages(r.Context(), by, out)
	}, frame.To("/outbox"), func(status int, f frame.Form) { ch.briefingPage(w, r, status, f) })
}
