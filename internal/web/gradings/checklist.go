package gradings

import (
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type checklistView struct {
	Grading store.Grading
	Nav     preparation
	Rows    []checklistRow
	Ready   int
	Unsent  int
	Form    frame.Form
	Planned bool
}

type checklistRow struct {
	store.Checked
	Kit, Papers, Other []gradingday.CheckItem
	Missing, Unknown   int
}

func (ch *chapter) checklistShow(w http.ResponseWriter, r *http.Request) {
	ch.checklistPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) checklistPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	g, all, err := ch.records.Checklist(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := checklistView{Grading: g, Nav: preparation{Grading: g, Here: "checklist", Owner: frame.PersonOf(r).Role == store.Owner}, Form: f}
	for _, c := range all {
		row := checklistRow{Checked: c}
		row.Missing, row.Unknown = c.Lacks()
		for _, i := range c.Items {
			switch i.Kind {
			case "kit":
				row.Kit = append(row.Kit, i)
			case "paper":
				row.Papers = append(row.Papers, i)
			default:
				row.Other = append(row.Other, i)
			}
		}
		if row.Missing+row.Unknown == 0 {
			v.Ready++
		}
		if c.Written == nil {
			v.Unsent++
		}
		v.Rows = append(v.Rows, row)
	}
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "checklist", Title: "Checklist, " + g.Title(), Nav: "gradings", Body: v})
}

// checklistWrite writes to the families of the chosen candidates, into the outbox.
func (ch *chapter) checklistWrite(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		ctx := r.Context()
		d, err := ch.records.DayPlan(ctx, id)
		if err != nil {
			return store.Done{}, err
		}
		_, all, err := ch.records.Checklist(ctx, id)
		if err != nil {
			return store.Done{}, err
		}
		set, err := ch.records.Settings(ctx)
		if err != nil {
			return store.Done{}, err
		}
		school, err := ch.records.School(ctx)
		if err != nil {
			return store.Done{}, err
		}
		var out []store.Message
		for _, c := range all {
			if !slices.Contains(v["candidates"], c.ID) {
				continue
			}
			x := words.Invitation{School: school, Word: set.GradingWord, Name: c.Name, To: c.ToWords,
				Guardian: c.Guardian, On: d.Grading.On, Place: d.Grading.Place, Items: c.Items, Cautions: c.Cautions, From: set.Head}
			for _, s := range d.Plan.Slots {
				if d.Day.Groups[s.Group].ID != c.GroupID {
					continue
				}
				if s.Part == 1 {
					x.Begin, x.Come, x.Ring = s.From, max(d.Day.Open, s.From-d.Day.Warmup-10), d.Day.Rings[s.Ring].Name
				}
				x.Ends = max(x.Ends, s.To)
			}
			n := words.Invite(x)
			name := c.Guardian
			if name == "" {
				name = c.Name
			}
			out = append(out, store.Message{Kind: "bring", GradingID: id, CandidateID: c.ID, StudentID: c.StudentID, ToName: name, Address: mailAddress(c.Contact), Subject: n.Subject, Body: n.Body})
		}
		return ch.records.WriteMessages(ctx, by, out)
	}, frame.To("/outbox"), func(status int, f frame.Form) { ch.checklistPage(w, r, status, f) })
}

// checkMark is the sign of a state.
func checkMark(s progress.State) string {
	return map[progress.State]string{progress.Met: "◆", progress.NotMet: "◇", progress.Unknown: "?"}[s]
}

// mailAddress is the first mail address in what is noted as contact; "" there is none.
func mailAddress(contact string) string {
	for _, word := range strings.FieldsFunc(contact, func(r rune) bool { return r == ' ' || r == ',' || r == ';' || r == '<' || r == '>' }) {
		before, after, found := strings.Cut(word, "@")
		if found && before != "" && strings.Contains(after, ".") && !strings.Contains(after, "@") {
			return word
		}
	}
	return ""
}
