package review

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"maps"
	"math/big"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

type reviewView struct {
	Grading    store.Grading
	Rows       []reviewRow
	Rule       string
	Axis       string // what the plumb line measures
	Decided    int    // decided and not announced
	Announced  int
	Waiting    []reviewRow // decided, to be announced
	Decider    string
	Form       frame.Form // of the candidate named by its field "candidate"
	Outcomes   []frame.Option
	Retest     string // the usual earliest day
	Scopes     []frame.Option
	Margin     int // steps within which a result is close
	Margins    []int
	Clear      int    // undecided whose proposal needs no thought
	Undecided  int    // with a proposal one can agree with
	AnnounceAt string // as typed into the field
	AnnounceOn string // in words
	Now        string
}

type reviewRow struct {
	store.Reviewed
	Plumb    template.HTML
	Proposal string // in words
	Brief    []string
	Why      []string // every reason of the panel
	Change   string
	Marks    []reviewMarks
	Unseen   bool
	SoFar    bool // examiners have not all signed: their marks are not shown to anybody yet
	Thoughts []string
	Came     string
	Bouts    []string
	Again    []string // what a retest of the usual scope asks
	Grade    string
	Carried  int
	Ring     string         // where there are several
	Examples []string       // what the family told of character, and merits
	Second   string         // the rung above the one promoted to, of a referral that waits
	Tests    []frame.Option // gradings at which it can be tested
	Alike    string         // the outcome as if all examiners marked alike, where it is another; "" it is the same
}

// reviewMarks is one item's row in the table of all marks.
type reviewMarks struct {
	Item  scoring.Item
	Marks []reviewMark
}

type reviewMark struct {
	Text  string
	Fails bool
}

// decisionForm is the form of one candidate's decision.
type decisionForm struct {
	V         reviewView
	candidate string
	typed     bool   // what was typed is this candidate's
	form      string // tells apart the ids of two forms about one candidate
}

// ID is a field's id on the page.
func (d decisionForm) ID(field string) string { return field + d.form + "-" + d.candidate }

// Get is what was typed, or what is usual.
func (d decisionForm) Get(name, usual string) string {
	if d.typed {
		return d.V.Form.Get(name)
	}
	return usual
}

// Has reports whether a choice was made.
func (d decisionForm) Has(name, value string) bool { return d.typed && d.V.Form.Has(name, value) }

// Problem is what is wrong with a field.
func (d decisionForm) Problem(name string) string {
	if !d.typed {
		return ""
	}
	return d.V.Form.Problem(name)
}

func (ch *chapter) reviewShow(w http.ResponseWriter, r *http.Request) {
	ch.reviewOf(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) reviewOf(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	g, rows, err := ch.records.Review(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if !g.Begun() {
		ch.Message(w, r, http.StatusConflict, "There is nothing to review yet", "The tables of "+g.Title()+" have not been opened.")
		return
	}
	v := newReviewView(r, g, f)
	came, err := ch.records.AttendanceAt(r.Context(), g.ID)
	examples, failed := ch.records.ExamplesAt(r.Context(), g.ID)
	if err == nil {
		err = failed
	}
	var b *curriculum.Book
	if err == nil {
		b, err = ch.records.Book(r.Context(), g.ProgramID)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if !g.AnnounceAt.IsZero() {
		at := g.AnnounceAt.In(ch.records.Zone())
		v.AnnounceAt, v.AnnounceOn = at.Format("2006-01-02T15:04"), civil.On(at).Long()+" at "+at.Format("15:04")
	}
	shift, err := ch.shiftOf(r, g)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, x := range rows {
		row := ch.reviewRow(g, x, v.Margin)
		row.Alike = alikeWords(g, x, shift)
		row.Came = cameWords(came[x.ID], g.On)
		row.Examples = examples[x.EnrolmentID]
		if b.Provisional(x.To.ID) {
			row.Grade = "provisional; honours make it permanent"
		}
		if err := ch.second(r, b, &row); err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.add(row)
	}
	// Those that need thought first, the most of it first; what is announced or still marked last.
	slices.SortStableFunc(v.Rows, func(a, b reviewRow) int {
		return cmp.Or(cmp.Compare(a.rank(), b.rank()), cmp.Compare(len(b.Thoughts), len(a.Thoughts)))
	})
	v.Axis = axis(g)
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "review", Title: "Committee review", Nav: "gradings", Body: v})
}

// second says of a referral that waits which rung is the second, and where it can be tested.
func (ch *chapter) second(r *http.Request, b *curriculum.Book, row *reviewRow) error {
	up := b.Above(row.To.ID)
	if up == nil || !row.Announced || row.Referral != nil || row.Decision.Outcome != scoring.OutcomeDouble {
		return nil
	}
	row.Second = up.Name
	coming, err := ch.records.GradingsFor(r.Context(), up.ID)
	for _, g := range coming {
		row.Tests = append(row.Tests, frame.Option{Value: g.ID, Label: g.Title() + ", " + g.On.Long()})
	}
	return err
}

// add puts a row into the view, and counts it.
func (v *reviewView) add(row reviewRow) {
	if ring, _ := v.Grading.PanelOf(row.RingID); len(v.Grading.Rings) > 1 {
		row.Ring = v.Grading.Rings[ring].Name
	}
	if !row.SoFar && row.Decision == nil && (row.Result.Outcome.Promotes() || row.Result.Outcome == scoring.OutcomeRetest) {
		v.Undecided++
		if len(row.Thoughts) == 0 {
			v.Clear++
		}
	}
	v.Rows = append(v.Rows, row)
	if row.Announced {
		v.Announced++
	} else if row.Decision != nil {
		v.Decided++
		v.Waiting = append(v.Waiting, row)
	}
}

// alikeWords is the outcome as if all examiners marked alike, where it is another; "" it is the same, or sealed.
func alikeWords(g store.Grading, x store.Reviewed, shift map[string]scoring.Decimal) string {
	if len(shift) == 0 || x.Sealed() {
		return ""
	}
	alike, err := g.Policy.Decide(x.Test.Alike(shift))
	if err != nil || alike.Outcome == x.Result.Outcome {
		return ""
	}
	return words.Outcome(alike.Outcome)
}

// newReviewView is the view before its rows: who decides, and what there is to choose from.
func newReviewView(r *http.Request, g store.Grading, f frame.Form) reviewView {
	v := reviewView{Grading: g, Rule: parts.RuleWords(g), Form: f, Decider: "Head instructor", Margin: gradingday.ThoughtMargin, Margins: []int{0, 1, 2, 3, 5, 8}, Retest: g.RetestFrom().String()}
	if n, err := strconv.Atoi(r.URL.Query().Get("margin")); err == nil && slices.Contains(v.Margins, n) {
		v.Margin = n
	}
	if p := frame.PersonOf(r); p.Name != "" { // a decision is signed by whoever takes it
		v.Decider = p.Name
	}
	for _, o := range []scoring.Outcome{scoring.OutcomePromote, scoring.OutcomeHonours, scoring.OutcomeDouble, scoring.OutcomeRetest} {
		v.Outcomes = append(v.Outcomes, frame.Option{Value: string(o), Label: words.Outcome(o)})
	}
	v.Scopes = frame.Options(scoring.Scopes, func(s scoring.Scope) string {
		return map[scoring.Scope]string{scoring.ScopeWhole: "the whole test"}[s] + words.Scope(s)
	})
	return v
}

// rank is where a row stands: to be decided with thought, plainly, decided, still marked, announced.
func (r reviewRow) rank() int {
	switch {
	case r.Announced:
		return 4
	case r.SoFar:
		return 3
	case r.Decision != nil:
		return 2
	case len(r.Thoughts) == 0:
		return 1
	}
	return 0
}

// cameWords is attendance beside the marks: how often, since when, at what rate, and when last.
func cameWords(c store.Came, on civil.Date) string {
	if c.Times == 0 {
		return "no class on record since " + c.Since.Long()
	}
	days := max(c.Since.DaysTo(on), 7)
	tenths := c.Times * 70 / days
	return fmt.Sprintf("%s since %s, %d.%d a week; last %s", words.Count(c.Times, "class"), c.Since.Long(), tenths/10, tenths%10, c.Last.Long())
}

func axis(g store.Grading) string {
	if g.Policy.Rules.Threshold != nil {
		return "Examiners against the threshold"
	}
	if g.Policy.Rules.AllowedFailing != nil {
		return "Failing lines, against those allowed"
	}
	return "Examiners’ points"
}

func (ch *chapter) reviewRow(g store.Grading, x store.Reviewed, margin int) reviewRow {
	row := reviewRow{Reviewed: x, Proposal: words.Outcome(x.Result.Outcome), SoFar: x.Sealed(), Unseen: len(x.Result.Unseen) > 0}
	if row.SoFar {
		// Marks are shown to nobody before all have signed, not to the committee either.
		row.Brief = []string{"not signed yet: " + strings.Join(x.Open, ", ")}
		return row
	}
	for _, t := range gradingday.Thoughts(x.Test, x.Result, x.Faults, margin) {
		row.Thoughts = append(row.Thoughts, words.Thought(t))
	}
	for _, b := range x.Bouts {
		row.Bouts = append(row.Bouts, words.Bout(b))
	}
	for _, it := range x.Items {
		if it.Carried != nil {
			row.Carried++
		}
	}
	if x.Result.Outcome == scoring.OutcomeRetest && g.RetestScope != scoring.ScopeWhole {
		for _, k := range g.Policy.Again(x.Test, g.RetestScope).Items {
			row.Again = append(row.Again, x.Test.Items[k].Name())
		}
	}
	row.Plumb = template.HTML(plumb(g, x).SVG())
	for _, reason := range x.Result.Reasons {
		// What each examiner's sheet says stands with the sheet.
		if reason.Examiner == "" || reason.Rule == scoring.RuleTie || reason.Rule == scoring.RuleEndingFault {
			row.Why = append(row.Why, words.Reason(reason))
		}
	}
	row.Brief = brief(x)
	if x.Result.Change != nil {
		row.Change = words.Change(*x.Result.Change, x.Test)
	}
	for k, it := range x.Test.Items {
		m := reviewMarks{Item: it}
		for _, s := range x.Test.Sheets {
			cell := reviewMark{Text: "–"}
			if mark := s.Marks[k]; mark.Seen {
				cell = reviewMark{mark.Value.String(), g.Policy.Fails(it, mark)}
			}
			m.Marks = append(m.Marks, cell)
		}
		row.Marks = append(row.Marks, m)
	}
	return row
}

// brief says in a few words what the outcome rests on; all reasons stand under the marks.
func brief(x store.Reviewed) (out []string) {
	pass, complete := x.Result.Votes()
	if x.Result.Outcome == scoring.OutcomeIncomplete {
		for _, r := range x.Result.Reasons {
			out = append(out, words.Reason(r))
		}
		return out
	}
	out = append(out, fmt.Sprintf("%d of %d pass", pass, complete))
	if x.Test.EndingFault {
		return append(out, "a fault ended the test")
	}
	closest, missed := "", map[string]int{}
	var least *big.Rat
	for _, t := range x.Result.Tallies {
		for _, r := range t.Reasons {
			if margin, ok := new(big.Rat).SetString(r.Margin); ok && r.Rule == scoring.RuleThreshold {
				far := new(big.Rat).Abs(margin)
				if least == nil || far.Cmp(least) < 0 {
					least, closest = far, "closest: "+t.Examiner+", "+words.Distance(r.Margin)
				}
			}
			switch {
			case r.Holds:
			case r.Rule == scoring.RuleMustPass:
				for _, id := range r.Items {
					missed["must pass: "+nameOf(x, id)]++
				}
			case r.Rule == scoring.RuleFailing:
				missed["too many failing lines"]++
			case r.Rule == scoring.RuleSection:
				missed["below the minimum in "+r.Section]++
			}
		}
	}
	if closest != "" {
		out = append(out, closest)
	}
	for _, what := range slices.Sorted(maps.Keys(missed)) {
		out = append(out, fmt.Sprintf("%s (%d of %d)", what, missed[what], complete))
	}
	if c := x.Result.Change; c != nil && c.Impossible == nil {
		to, least := "a retest", ""
		if c.Towards == scoring.OutcomePromote {
			to = "a promotion"
		}
		if !c.Exact {
			least = "at least "
		}
		out = append(out, fmt.Sprintf("%s%s from %s", least, words.Count(c.Steps, "step"), to))
	}
	return out
}

func nameOf(x store.Reviewed, item string) string {
	for _, it := range x.Test.Items {
		if it.ID == item {
			return it.Name()
		}
	}
	return item
}

// plumb lays the examiners' figures beside what was asked: points beside the threshold, or
// failing lines beside the number allowed, fewer to the right.
func plumb(g store.Grading, x store.Reviewed) chart.Plumb {
	p := chart.Plumb{From: big.NewRat(0, 1), To: big.NewRat(1, 1)}
	rules := g.Policy.Rules
	const billion = 1_000_000_000
	rat := func(d scoring.Decimal) *big.Rat { return big.NewRat(int64(d), billion) }
	var said []string
	byFailing := rules.Threshold == nil && rules.AllowedFailing != nil
	if byFailing {
		p.Threshold = big.NewRat(int64(-*rules.AllowedFailing), 1)
		p.From, p.To = big.NewRat(int64(-*rules.AllowedFailing-3), 1), big.NewRat(0, 1)
	}
	for i, t := range x.Result.Tallies {
		full := rat(t.Full)
		at, dot := new(big.Rat), ""
		if byFailing {
			at = big.NewRat(int64(-len(t.Failing)), 1)
			dot = fmt.Sprintf("%s: %s, %d allowed", t.Examiner, words.Count(len(t.Failing), "failing line"), *rules.AllowedFailing)
		} else {
			if t.Possible > 0 {
				at.Mul(full, big.NewRat(int64(t.Points), int64(t.Possible)))
			}
			dot = fmt.Sprintf("%s: %s of %s points", t.Examiner, t.Points, t.Possible)
			p.To = full
		}
		state := chart.DotFail
		if !t.Complete() {
			state = chart.DotIncomplete
			dot += ", incomplete"
		} else if t.Verdict.Passes() {
			state = chart.DotPass
		}
		p.Dots = append(p.Dots, chart.PlumbDot{Letter: x.Panel[i].Letter, Words: dot, At: at, State: state})
		said = append(said, dot)
	}
	if t := rules.Threshold; t != nil {
		p.Threshold = rat(*t)
		said = append(said, "threshold "+t.String())
	}
	// Zoom in on where the figures are, so that half a point can be told apart.
	if !byFailing {
		low := p.To
		for _, d := range append(p.Dots, chart.PlumbDot{At: p.Threshold}) {
			if d.At != nil && d.At.Cmp(low) < 0 && d.State != chart.DotIncomplete {
				low = d.At
			}
		}
		span := new(big.Rat).Sub(p.To, low)
		p.From = new(big.Rat).Sub(low, span.Mul(span, big.NewRat(1, 4)))
	} else {
		for _, d := range p.Dots {
			if d.At.Cmp(p.From) < 0 {
				p.From = d.At
			}
		}
	}
	p.Label = strings.Join(said, "; ")
	return p
}

func (ch *chapter) reviewDecide(w http.ResponseWriter, r *http.Request) {
	ch.reviewDecision(w, r, ch.records.Decide)
}

func readDecision(v url.Values, p *check.Problems) store.Decision {
	return store.Decision{CandidateID: v.Get("candidate"), Outcome: scoring.Outcome(v.Get("outcome")),
		Reason: v.Get("reason"), DecidedBy: v.Get("decided_by"), RetestFrom: p.Date("retest_from", v.Get("retest_from")), Scope: scoring.Scope(v.Get("scope"))}
}

// reviewDecision reads a decision and writes it, as a new one or as a correction.
func (ch *chapter) reviewDecision(w http.ResponseWriter, r *http.Request, write func(context.Context, store.By, store.Decision) (store.Done, error)) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		d := readDecision(v, &p)
		if len(p) > 0 {
			return store.Done{}, p
		}
		return write(r.Context(), by, d)
	})
}

// reviewCorrect mends a result that was announced.
func (ch *chapter) reviewCorrect(w http.ResponseWriter, r *http.Request) {
	ch.reviewDecision(w, r, ch.records.CorrectResult)
}

// reviewAgree agrees with the proposals of those ticked.
func (ch *chapter) reviewAgree(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.Agree(r.Context(), by, v["agree"], v.Get("decided_by"))
	})
}

func (ch *chapter) reviewHold(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.Hold(r.Context(), by, v.Get("candidate"), v.Get("held") != "")
	})
}

func (ch *chapter) reviewReferral(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.SettleReferral(r.Context(), by, referralOf(v))
	})
}

// referralOf is what the form says a referral came to.
func referralOf(v url.Values) store.Referral {
	x := store.Referral{CandidateID: v.Get("candidate"), Granted: v.Get("settled") == "granted", Reason: v.Get("reason"), DecidedBy: v.Get("decided_by")}
	if v.Get("settled") == "tested" {
		x.TestedAt = v.Get("tested_at")
	}
	return x
}

// reviewAnnounceAt sets when decided results become known by themselves.
func (ch *chapter) reviewAnnounceAt(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var at time.Time
		if text := check.Tidy(v.Get("announce_at")); text != "" {
			var err error
			if at, err = time.ParseInLocation("2006-01-02T15:04", text, ch.records.Zone()); err != nil {
				return store.Done{}, check.Problems{{Field: "announce_at", Text: "is no day and time; write it as 2026-12-14T18:00"}}
			}
		}
		return ch.records.AnnounceAt(r.Context(), by, id, at)
	})
}

func (ch *chapter) reviewUndo(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.UndoDecision(r.Context(), by, v.Get("candidate"))
	})
}

func (ch *chapter) reviewFault(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		f := gradingday.Fault{ID: store.NewID(), CandidateID: v.Get("candidate"), ExaminerID: v.Get("examiner"),
			Kind: gradingday.FaultKind(v.Get("kind")), Text: v.Get("text"), Supersedes: v.Get("fault")}
		if f.Kind == gradingday.FaultConfirmed { // said by the chief examiner, and noted here for them
			chief, err := ch.records.ChiefOf(r.Context(), f.CandidateID)
			if err != nil {
				return store.Done{}, err
			}
			if chief != "" {
				f.ExaminerID = chief
			}
		}
		return store.Done{}, ch.records.RecordFault(r.Context(), by, f)
	})
}

func (ch *chapter) reviewAnnounce(w http.ResponseWriter, r *http.Request) {
	ch.reviewWrite(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.Announce(r.Context(), by, r.PathValue("grading"), v["candidate"])
	})
}

// reviewWrite runs a form of the review and comes back to the candidate it is about.
func (ch *chapter) reviewWrite(w http.ResponseWriter, r *http.Request, write func(url.Values, store.By) (store.Done, error)) {
	address := "/review/" + r.PathValue("grading")
	if c := r.FormValue("candidate"); c != "" {
		address += "#c-" + c
	}
	ch.Save(w, r, write, frame.To(address), func(status int, f frame.Form) { ch.reviewOf(w, r, status, f) })
}

// functions are those of the templates after a grading.
func (ch *chapter) functions() template.FuncMap {
	return template.FuncMap{
		"decisionForm": func(v reviewView, candidate string, typed bool, form string) decisionForm {
			return decisionForm{v, candidate, typed, form}
		},
		"clock": func(t time.Time) string {
			t = t.In(ch.records.Zone())
			return civil.On(t).Long() + ", " + t.Format("15:04:05")
		},
	}
}
