package table

import (
	"encoding/json"
	"html/template"
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type scoringView struct {
	Table  store.Table
	Form   frame.Form
	Seated bool // an examiner's own device
}

// scoringShow is the shell of the scoring table; the script fills it from the state.
func (ch *chapter) scoringShow(w http.ResponseWriter, r *http.Request) {
	ch.scoringShell(w, r, http.StatusOK, frame.Form{})
}

// notOpen says that the tables of a grading are not open, and reports whether they are not.
func (ch *chapter) notOpen(w http.ResponseWriter, r *http.Request, g store.Grading) bool {
	if !g.Begun() {
		ch.Message(w, r, http.StatusConflict, "The tables are not open yet", "Open them from the grading's page: "+g.Title()+", "+g.On.Long()+".")
	}
	return !g.Begun()
}

// openTable is the table an address names, once it is open; ok is false after an answer that
// says what is wrong.
func (ch *chapter) openTable(w http.ResponseWriter, r *http.Request) (t store.Table, ok bool) {
	t, err := ch.records.ScoringTable(r.Context(), r.PathValue("examiner"), r.PathValue("group"))
	if err != nil {
		ch.Fail(w, r, err)
		return t, false
	}
	if ch.notOpen(w, r, t.Grading) {
		return t, false
	}
	if err := colleague(r, t); err != nil {
		ch.Message(w, r, http.StatusForbidden, "Not before all have signed", err.Error())
		return t, false
	}
	return t, true
}

// colleague refuses the sheet of a colleague on the same panel to whoever is signed in under an examiner's name, until
// all have signed, the day is closed, or the colleague is absent.
func colleague(r *http.Request, t store.Table) error {
	if _, seated := frame.SeatOf(r); seated {
		return nil // their own sheet alone is in reach
	}
	_, panel := t.Grading.PanelOf(t.RingID)
	if gradingday.MayOpen(panel, t.Examiner, frame.PersonOf(r).Name, t.AllSigned, !t.Grading.ClosedAt.IsZero()) {
		return nil
	}
	name := t.Examiner.Name
	return &store.Refused{Reason: "You sit on this panel with " + name + ". Until all of it have signed nobody sees a colleague's sheet. " +
		"If " + name + " is not there, note it at the head table."}
}

// ownTable is openTable for a script.
func (ch *chapter) ownTable(r *http.Request) (store.Table, error) {
	t, err := ch.records.ScoringTable(r.Context(), r.PathValue("examiner"), r.PathValue("group"))
	if err == nil {
		err = colleague(r, t)
	}
	return t, err
}

func (ch *chapter) scoringShell(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	t, ok := ch.openTable(w, r)
	if !ok {
		return
	}
	_, seated := frame.SeatOf(r)
	ch.Show(w, r, status, t.Grading.ProgramID, frame.Page{Screen: "scoring", Title: t.Group + ", " + t.Examiner.Name, Bare: true, Body: scoringView{t, f, seated}})
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
	Marks      []frame.Mark       `json:"marks"`
	Words      scoringWords       `json:"words"`
	Faults     []frame.Fault      `json:"faults"`
	Waiting    []frame.Fault      `json:"waiting"` // for the chief: faults that would end a test
	Chief      bool               `json:"chief"`
	Ring       string             `json:"ring"`
	Sparring   string             `json:"sparring"` // the rung's rule in words
	At         int64              `json:"at"`       // when this was read, in ms
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
	Stance string        `json:"stance"` // which foot is in front, in words
	Belt   template.HTML `json:"belt"`
}

type scoringItem struct {
	ID       string                  `json:"id"`
	IDs      map[string]string       `json:"ids"`             // candidate → item; who is missing does not show it
	Own      map[string]string       `json:"own"`             // candidate → how the line differs for them
	Stands   map[string]bool         `json:"stands"`          // candidates who passed it before
	Ticks    map[string][]parts.Tick `json:"ticks,omitempty"` // candidate → what of a free choice is ticked when seen
	Number   int                     `json:"number"`
	Label    string                  `json:"label"`
	Section  string                  `json:"section"`
	MustPass bool                    `json:"mustPass"`
	Bonus    bool                    `json:"bonus"`
	Weight   int                     `json:"weight"`
	Lines    []scoringLine           `json:"lines"`
}

type scoringLine struct {
	Call     string                 `json:"call"`
	Term     string                 `json:"term"`
	Detail   string                 `json:"detail"`
	Moves    []curriculum.StripMove `json:"moves"`
	Partner  []curriculum.StripMove `json:"partner"`
	Common   []string               `json:"common"`  // counts for the whole section, series or form
	Surface  string                 `json:"surface"` // that strikes in this setting
	Targets  []string               `json:"targets"`
	Success  []string               `json:"success"`
	Note     string                 `json:"note"`
	Amount   string                 `json:"amount"`
	Called   string                 `json:"called"` // what is asked and what is called, where more is called
	Seconds  int                    `json:"seconds"`
	Look     []string               `json:"look"`
	Faults   []curriculum.Fault     `json:"faults"`
	Cautions []string               `json:"cautions"`
	Manner   string                 `json:"manner"`
	Standard []string               `json:"standard"`
	Answers  []string               `json:"answers"`
	Apart    []string               `json:"apart"` // what looks like it
	Steps    []scoringStep          `json:"steps"` // of what is counted, from 0 up; none where nothing is
	Kind     curriculum.Kind        `json:"kind"`
	Marks    []curriculum.MarkLook  `json:"marks,omitempty"` // what a mark looks like on this line
}

// scoringStep is what holds from a count on, until the next step.
type scoringStep struct {
	From  int              `json:"from"`
	Mark  *scoring.Decimal `json:"mark"` // that the table gives; nil: none that can be given here
	Below bool             `json:"below"`
	Next  int              `json:"next"`  // the count of the row above; 0 none
	More  string           `json:"more"`  // with {n}: how many more for its mark
	Take  string           `json:"take"`  // with {n}: what taking the mark is called
	Aim   string           `json:"aim"`   // before the clock runs
	Going string           `json:"going"` // while it runs
	Beats []int64          `json:"beats"` // ms after which each of the aim falls due
}

func stepsOf(l curriculum.Line, scale scoring.Scale) []scoringStep {
	q := l.Quantity
	if q.Measure != curriculum.CountWithin && len(l.Table) == 0 {
		return nil
	}
	return frame.Each(gradingday.Steps(l.Table, q.Reps, q.Seconds), func(s gradingday.Step) scoringStep {
		out := scoringStep{From: s.From, Below: len(l.Table) > 0 && s.Mark == nil, Beats: s.Beats, Aim: words.Aim(s, q.Seconds, false), Going: words.Aim(s, q.Seconds, true)}
		if s.Mark != nil && scale.Holds(*s.Mark) {
			out.Mark, out.Take = s.Mark, words.TakeMark(*s.Mark)
		}
		if s.Next != nil {
			out.Next, out.More = s.Next.Count, words.MoreFor(s.Next.Mark)
		}
		return out
	})
}

type conductWord struct {
	Value gradingday.Conduct `json:"value"`
	Label string             `json:"label"`
}

// scoringWords are the sentences the table puts together by itself, without network.
type scoringWords struct {
	Tally    map[string]string `json:"tally"`
	Left     [3]string         `json:"left"`
	Early    [2]string         `json:"early"`
	Waits    [2]string         `json:"waits"`
	Conducts []conductWord     `json:"conducts"` // what a fault may be about
	NotSeen  string            `json:"notSeen"`
	Agains   []againWord       `json:"agains"` // why a line may be asked for again
}

type againWord struct {
	Value gradingday.Again `json:"value"`
	Label string           `json:"label"`
}

func againWords() []againWord {
	return frame.Each(gradingday.Agains, func(a gradingday.Again) againWord { return againWord{a, words.Again(a)} })
}

func conductWords() []conductWord {
	return frame.Each(append([]gradingday.Conduct{""}, gradingday.Conducts...), func(c gradingday.Conduct) conductWord {
		return conductWord{c, words.ConductShort(c)}
	})
}

// ownWords are, for each candidate, how a line differs for them.
func ownWords(own map[string][]gradingday.OwnLine) map[string]string {
	out := map[string]string{}
	for candidate, lines := range own {
		out[candidate] = words.OwnLines(lines)
	}
	return out
}

func (ch *chapter) scoringState(w http.ResponseWriter, r *http.Request) {
	t, err := ch.ownTable(r)
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	out := scoringTable{
		Grading: t.Grading.Title(), Examiner: t.Examiner.Name, Group: t.Group, Signed: t.SignatureID != "", Scale: scaleOf(t.Grading.Policy.Scale),
		Waiting: frame.Faults(t.Waiting), Chief: t.Examiner.Chief, Ring: t.RingID, At: t.At.UnixMilli(),
		Candidates: []scoringCandidate{}, Items: []scoringItem{}, Marks: frame.Marks(t.Marks), Faults: frame.Faults(t.Faults),
	}
	out.Words = scoringWords{words.Tally(), words.Left(), words.Early(), words.Waits(), conductWords(), words.Mark(gradingday.Mark{Kind: gradingday.MarkNotSeen}), againWords()}
	for _, c := range t.Candidates {
		out.Rung = c.ToWords
		out.Candidates = append(out.Candidates, scoringCandidate{c.ID, c.Number, c.Name, c.FromWords, stanceWords(c.Stance), template.HTML(chart.Belt(c.From.Cloth, 64, 14))})
	}
	for _, it := range t.Items {
		item := scoringItem{ID: it.ID, IDs: it.IDs, Own: ownWords(it.Own), Stands: it.Stands, Number: it.Number,
			Label: it.Label, Section: it.Section, MustPass: it.MustPass, Bonus: it.Bonus, Weight: it.Weight}
		for _, l := range it.Lines {
			line := scoringLine{Call: l.Call, Term: l.Term, Detail: words.Detail(l), Moves: l.Moves, Partner: l.Partner,
				Common: words.Throughout(l.Common), Surface: l.Surface, Targets: l.Targets, Success: l.Success, Note: l.Remark(),
				Called: words.Called(l, len(t.Candidates)), Amount: words.Asked(l), Seconds: l.Seconds,
				Look: l.Checkpoints, Faults: l.Faults, Cautions: l.Cautions, Manner: words.Manner(l), Standard: words.Standard(l), Answers: l.Answers, Apart: words.ToldApart(l.Apart),
				Steps: stepsOf(l, t.Grading.Policy.Scale), Kind: l.Kind, Marks: l.MarkLooks}
			item.Lines = append(item.Lines, line)
		}
		out.Items = append(out.Items, item)
	}
	if len(t.Candidates) > 0 {
		b, err := ch.records.Book(r.Context(), t.Grading.ProgramID)
		if err != nil {
			ch.FailJSON(w, r, err)
			return
		}
		ticks, err := ch.Ticks(r.Context(), b, t.Candidates, t.Items)
		if err != nil {
			ch.FailJSON(w, r, err)
			return
		}
		for i, it := range t.Items {
			out.Items[i].Ticks = ticks[it.ID]
		}
		out.Sparring = sparringWords(b.SparringOf(t.Candidates[0].To.ID))
	}
	frame.SendJSON(w, http.StatusOK, out)
}

// stanceWords say which foot somebody has in front.
func stanceWords(s progress.Stance) string {
	if s == "" {
		return "stance not known"
	}
	return curriculum.View(s).Words()
}

// sparringWords is a sparring rule in one line.
func sparringWords(s *curriculum.SparringRule) string {
	if s == nil {
		return "contact none, until the school states a rule"
	}
	return s.Words()
}

// scaleOf is a scale as buttons: whole marks, with halves between where the step is a half.
func scaleOf(s scoring.Scale) scoringScale {
	out := scoringScale{Halves: s.Step == scoring.Whole(1)/2, Highest: int(s.Highest / scoring.Whole(1))}
	for v := int(s.Lowest / scoring.Whole(1)); v <= out.Highest; v++ {
		m := scoring.Whole(v)
		out.Marks = append(out.Marks, scoringMark{v, s.Word(m), s.Fails(m)})
	}
	return out
}

// tableTold is what a stream says of a table that changed on another device.
type tableTold struct {
	Marks  []frame.Mark `json:"marks,omitempty"`
	Faults bool         `json:"faults,omitempty"` // read them again
	Signed *bool        `json:"signed,omitempty"`
	Again  bool         `json:"again,omitempty"` // read all of it again: who stands on the sheet has changed
}

// tableBegins is what a table's stream begins with.
type tableBegins struct {
	tableTold
	Ring ringTold `json:"ring"`
}

// scoringMarks stores marks. Answered only once they are on the disk.
func (ch *chapter) scoringMarks(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	entries, err := frame.ReadEntries[frame.Mark](r)
	var ids []string
	for _, m := range entries {
		if ids = append(ids, m.ID); err == nil && m.ExaminerID != examiner {
			err = &store.Refused{Reason: "These marks belong to another examiner's table."}
		}
	}
	var refused []store.RefusedEntry
	if err == nil {
		actor := frame.ActorOf(r)
		if r.URL.Query().Get("paper") != "" {
			actor += ", from paper"
		}
		refused, err = ch.records.TakeMarks(r.Context(), store.By{Actor: actor}, frame.Each(entries, func(m frame.Mark) gradingday.Mark { return gradingday.Mark(m) }))
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	if ch.Answered(w, r, ids, refused) > 0 {
		not := map[int]bool{}
		for _, x := range refused {
			not[x.At] = true
		}
		told := tableTold{}
		for i, m := range entries {
			if !not[i] {
				told.Marks = append(told.Marks, m)
			}
		}
		ch.Hub.Tell(frame.TableTopic(examiner, group), told)
		ch.Hub.Tell(frame.GradingTopic(ch.gradingOfGroup(r, group)), nil)
	}
}

// gradingOfGroup is the grading a group belongs to, kept because it never changes.
func (ch *chapter) gradingOfGroup(r *http.Request, group string) string {
	if id, known := ch.groups.Load(group); known {
		return id.(string)
	}
	id, err := ch.records.GroupGrading(r.Context(), group)
	if err != nil {
		return ""
	}
	ch.groups.Store(group, id)
	return id
}

// scoringFaults stores faults, their withdrawal, and by the chief examiner their confirmation.
func (ch *chapter) scoringFaults(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	ch.takeFaults(w, r, func(f gradingday.Fault) error {
		if f.ExaminerID != examiner {
			return &store.Refused{Reason: "This fault belongs to another examiner's table."}
		}
		return nil
	}, func() { ch.tellFaults(r, group) })
}

// tellFaults has every table of a group read its faults again: the chief's waits for them.
func (ch *chapter) tellFaults(r *http.Request, group string) {
	panel, err := ch.records.PanelOfGroup(r.Context(), group)
	if err != nil {
		ch.Log.Error("a panel could not be told of a fault", "error", err)
	}
	for _, examiner := range panel {
		ch.Hub.Tell(frame.TableTopic(examiner, group), tableTold{Faults: true})
	}
	ch.Hub.Tell(frame.GradingTopic(ch.gradingOfGroup(r, group)), nil)
}

// takeFaults stores faults one by one; may says which are not the sender's to write.
func (ch *chapter) takeFaults(w http.ResponseWriter, r *http.Request, may func(gradingday.Fault) error, told func()) {
	frame.TakeEach(ch.Frame, w, r, func(f frame.Fault) string { return f.ID }, func(sent frame.Fault) error {
		f := gradingday.Fault(sent)
		if err := may(f); err != nil {
			return err
		}
		return ch.records.RecordFault(r.Context(), store.By{Actor: frame.ActorOf(r)}, f)
	}, told)
}

// scoringLive tells a scoring table what other devices did to it, and what its ring calls.
func (ch *chapter) scoringLive(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	t, err := ch.ownTable(r)
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	ch.Hub.Attend(examiner, 1)
	ch.Hub.Tell(frame.GradingTopic(t.Grading.ID), nil)
	defer func() {
		ch.Hub.Attend(examiner, -1)
		ch.Hub.Tell(frame.GradingTopic(t.Grading.ID), nil)
	}()
	ch.Stream(w, r, []string{frame.TableTopic(examiner, group), ringTopic(t.RingID)}, func() (any, error) {
		// How the sheet stands once changes are heard: nothing falls between page and stream.
		told, err := ch.ringTold(r, t.RingID)
		if err != nil {
			return nil, err
		}
		now, err := ch.records.ScoringTable(r.Context(), examiner, group)
		signed := now.SignatureID != ""
		return tableBegins{tableTold{Marks: frame.Marks(now.Marks), Signed: &signed}, told["ring"]}, err
	},
		func(m []byte) (any, error) { return json.RawMessage(m), nil }, 0)
}

func (ch *chapter) scoringSign(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if _, err := ch.ownTable(r); err != nil {
			return store.Done{}, err
		}
		done, err := ch.records.Sign(r.Context(), by, examiner, group, v.Get("fill") != "")
		if err == nil {
			ch.tellSigned(r, examiner, group, true)
		}
		return done, err
	}, frame.To("/scoring/"+examiner+"/"+group), func(status int, f frame.Form) { ch.scoringShell(w, r, status, f) })
}

func (ch *chapter) scoringReopen(w http.ResponseWriter, r *http.Request) {
	examiner, group := r.PathValue("examiner"), r.PathValue("group")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.Reopen(r.Context(), by, examiner, group, v.Get("reason"))
		if err == nil {
			ch.tellSigned(r, examiner, group, false)
		}
		return done, err
	}, frame.To("/scoring/"+examiner+"/"+group), func(status int, f frame.Form) {
		f.General = strings.TrimPrefix(f.Problems.Error()+" "+f.General, " ")
		ch.scoringShell(w, r, status, f)
	})
}

func (ch *chapter) tellSigned(r *http.Request, examiner, group string, signed bool) {
	ch.Hub.Tell(frame.TableTopic(examiner, group), tableTold{Signed: &signed})
	ch.Hub.Tell(frame.GradingTopic(ch.gradingOfGroup(r, group)), nil)
}
