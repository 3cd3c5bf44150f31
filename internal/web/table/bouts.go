package table

import (
	"encoding/json"
	"html/template"
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type boutsView struct {
	Ring     store.Ring
	Bouts    []boutRow
	Who      []frame.Option
	Form     frame.Form
	Examiner string // on whose sheet faults go: the device's, or the chief's
	Rule     string
	State    string // JSON
	Faults   []frame.Option
	Kinds    []frame.Option
	Listed   []listedBout // of the list made before the day, those of this ring still to come
}

// listedBout is a bout of the list that has not begun.
type listedBout struct{ A, B, AName, BName string }

type boutRow struct {
	gradingday.Bout
	PointsA, PointsB int
	Ended            bool
	End              string
	RuleWords        string
	Touch            bool // contact is allowed
	EndID            string
	BeltA, BeltB     template.HTML
	RoundList        []int
	Sides            []frame.Option
	EventsJSON       string
	FaultWords       []string
}

func (ch *chapter) boutsShow(w http.ResponseWriter, r *http.Request) {
	ch.boutsPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) boutsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	x, err := ch.records.Ring(r.Context(), r.PathValue("ring"))
	var all []gradingday.Bout
	if err == nil {
		all, err = ch.records.Bouts(r.Context(), x.ID)
	}
	var b *curriculum.Book
	if err == nil {
		b, err = ch.records.Book(r.Context(), x.Grading.ProgramID)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if f.Values == nil {
		f.Values = frame.Values("rounds", "2", "seconds", "60")
	}
	state, err := json.Marshal(ringToldOf(x.State, ch.records.Now().UnixMilli()))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := boutsView{Ring: x, Form: f, Faults: frame.Options(gradingday.Conducts, words.Conduct), State: string(state),
		Kinds: []frame.Option{{Value: "note", Label: "only a note"}, {Value: "deduction", Label: "takes points off"}, {Value: "ending", Label: "ends the test, once the chief confirms it"}}}
	belts := map[string]template.HTML{}
	for _, g := range x.Groups {
		for _, c := range g.Candidates {
			v.Who = append(v.Who, frame.Option{Value: c.ID, Label: c.Name + ", " + c.FromWords})
			belts[c.ID] = template.HTML(chart.Belt(c.From.Cloth, 52, 11))
			if v.Rule == "" {
				v.Rule = sparringWords(b.SparringOf(c.To.ID))
			}
		}
	}
	if v.Listed, err = ch.listedBouts(r, x, all); err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, e := range x.Panel {
		if s, seated := frame.SeatOf(r); seated && s.ExaminerID == e.ID || !seated && (v.Examiner == "" || e.Chief) {
			v.Examiner = e.ID
		}
	}
	for i := len(all) - 1; i >= 0; i-- {
		row, err := rowOf(all[i], belts)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Bouts = append(v.Bouts, row)
	}
	ch.Show(w, r, status, x.Grading.ProgramID, frame.Page{Screen: "bouts", Title: x.Name + ", bouts", Bare: true, Body: v})
}

// rowOf is a bout as its row shows it, with the candidates' belts.
func rowOf(x gradingday.Bout, belts map[string]template.HTML) (boutRow, error) {
	row := boutRow{Bout: x, RuleWords: sparringWords(&x.Rule), BeltA: belts[x.A], BeltB: belts[x.B], Touch: x.Rule.Contact != "none"}
	row.PointsA, row.PointsB = row.Points()
	row.Ended, row.End = row.Bout.End() != nil, words.BoutEnd(x)
	for n := range row.Rounds {
		row.RoundList = append(row.RoundList, n+1)
	}
	row.Sides = []frame.Option{{Value: "a", Label: row.AName}, {Value: "b", Label: row.BName}}
	events, err := json.Marshal(frame.Each(row.Events, func(e gradingday.BoutEvent) frame.BoutEvent { return frame.BoutEvent(e) }))
	if err != nil {
		return row, err
	}
	row.EventsJSON = string(events)
	for _, e := range row.Events {
		if e.Kind == "ended" || e.Kind == "stopped" {
			row.EndID = e.ID
		}
	}
	for _, f := range row.Faults {
		who := row.AName
		if f.CandidateID == row.B {
			who = row.BName
		}
		row.FaultWords = append(row.FaultWords, who+": "+words.Fault(f))
	}
	return row, nil
}

// listedMost is how many bouts to come are shown: the next few, so that both can get ready.
const listedMost = 4

// listedBouts are the next bouts of a ring's list, of people who stand in this ring.
func (ch *chapter) listedBouts(r *http.Request, x store.Ring, begun []gradingday.Bout) (out []listedBout, err error) {
	spar, err := ch.records.Sparring(r.Context(), x.Grading.ID)
	if err != nil || spar.Kept == nil {
		return nil, err
	}
	names := map[string]string{}
	for _, g := range x.Groups {
		for _, c := range g.Candidates {
			names[c.ID] = c.Name
		}
	}
	for _, k := range spar.Kept.Bouts {
		fought := slices.ContainsFunc(begun, func(b gradingday.Bout) bool {
			return b.A == k.A && b.B == k.B || k.B != "" && b.A == k.B && b.B == k.A
		})
		if k.RingID != x.ID || fought || names[k.A] == "" || k.B != "" && names[k.B] == "" || len(out) == listedMost {
			continue
		}
		l := listedBout{A: k.A, B: k.B, AName: names[k.A], BName: "a senior"}
		if k.B != "" {
			l.BName = names[k.B]
		}
		out = append(out, l)
	}
	return out, nil
}

func (ch *chapter) boutsBegin(w http.ResponseWriter, r *http.Request) {
	ring := r.PathValue("ring")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		b := gradingday.Bout{RingID: ring, A: v.Get("a"), B: v.Get("b"), BName: check.Tidy(v.Get("partner")),
			Rounds: p.Whole("rounds", v.Get("rounds"), 1, 20, 2), Seconds: p.Whole("seconds", v.Get("seconds"), 1, 3600, 60)}
		p.Line("partner", b.BName, check.NameLength)
		if len(p) > 0 {
			return store.Done{}, p
		}
		done, err := ch.records.BeginBout(r.Context(), by, b)
		if err == nil {
			s, err := ch.records.RunClock(r.Context(), by, ring, store.ClockSet,
				gradingday.Clock{Label: "Bout", Seconds: b.Seconds, Rounds: b.Rounds, Rest: p.Whole("rest", v.Get("rest"), 0, 600, 30), Cue: min(10, b.Seconds/2)})
			if err == nil {
				ch.Hub.Tell(ringTopic(ring), map[string]ringTold{"ring": ringToldOf(s, ch.records.Now().UnixMilli())})
			}
		}
		return done, err
	}, frame.To("/bouts/"+ring), func(status int, f frame.Form) { ch.boutsPage(w, r, status, f) })
}

func (ch *chapter) boutsEvents(w http.ResponseWriter, r *http.Request) {
	frame.TakeEach(ch.Frame, w, r, func(e frame.BoutEvent) string { return e.ID }, func(sent frame.BoutEvent) error {
		e := gradingday.BoutEvent(sent)
		e.Text = check.Tidy(e.Text)
		return ch.records.RecordBout(r.Context(), store.By{Actor: frame.ActorOf(r)}, r.PathValue("ring"), e)
	}, func() {})
}

// boutsFaults stores faults seen in bouts of the ring.
func (ch *chapter) boutsFaults(w http.ResponseWriter, r *http.Request) {
	x, err := ch.records.Ring(r.Context(), r.PathValue("ring"))
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	s, seated := frame.SeatOf(r)
	ch.takeFaults(w, r, func(f gradingday.Fault) error {
		if f.Settles() || seated && f.ExaminerID != s.ExaminerID {
			return &store.Refused{Reason: "This fault belongs to another examiner's table."}
		}
		return nil
	}, func() {
		for _, g := range x.Groups {
			ch.tellFaults(r, g.ID)
		}
	})
}
