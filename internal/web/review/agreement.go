package review

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"slices"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type agreementView struct {
	Grading  *store.Grading // of one grading alone; nil: of the program's last years
	Gradings int
	Since    civil.Date
	Scale    string
	Left     int // gradings marked on another scale
	Lead     string
	Sure     string
	Picture  template.HTML
	Rows     []besideRow
	Panels   []besidePanel
	Alpha    string // "" where it cannot be computed
	By       string // items, sections, candidates
	Parts    []besidePart
	More     int
	Seldom   int // lines shown too seldom to say
	Over     []besideDay
	Names    []string
	Alike    string
	Try      string // the laboratory of a grading
	TryName  string
}

type besideRow struct {
	agreement.Severity
	Words, Range string
}

type besidePanel struct {
	agreement.Correlation
	Single, Average, Steady string
}

type besidePart struct {
	agreement.Part
	Percent int
	Words   string
}

// besideDay is one grading's figures, an examiner a column.
type besideDay struct {
	ID, Title string
	On        civil.Date
	Words     []string
}

// agreementShow is how the examiners of a program mark beside each other, over the last years or at one grading.
func (ch *chapter) agreementShow(w http.ResponseWriter, r *http.Request) {
	v := agreementView{By: cmp.Or(r.URL.Query().Get("by"), "items")}
	program := ""
	if id := r.PathValue("grading"); id != "" {
		g, err := ch.records.Grading(r.Context(), id)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Grading, v.Since, program = &g, g.On, g.ProgramID
	} else {
		b, ok := ch.Book(w, r)
		if !ok {
			return
		}
		v.Since, program = ch.records.Today().AddMonths(-12*store.SeverityYears), b.Program.ID
	}
	all, err := ch.records.MarkedBeside(r.Context(), program, v.Since)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Grading != nil {
		all = slices.DeleteFunc(slices.Clone(all), func(b store.Beside) bool { return b.GradingID != v.Grading.ID })
	}
	if err := ch.compare(r, &v, all, program); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, http.StatusOK, program, frame.Page{Screen: "agreement", Title: "Examiners beside each other", Nav: "insights", Body: v})
}

// compare fills the view from what was marked, on the scale of the last grading.
func (ch *chapter) compare(r *http.Request, v *agreementView, all []store.Beside, program string) error {
	var scale scoring.Scale
	if len(all) > 0 {
		last := all[len(all)-1]
		scale = last.Scale
		v.Try, v.TryName = last.GradingID, last.Title
	}
	v.Scale = words.AStep(scale)
	var units []agreement.Unit
	names := map[string]string{} // candidate → name
	var days []store.Beside
	for _, b := range all {
		if !store.SameScale(b.Scale, scale) {
			v.Left++
			continue
		}
		days = append(days, b)
		units = append(units, b.Units...)
		for id, name := range b.Candidates {
			names[id] = name
		}
	}
	v.Gradings = len(days)
	severities := agreement.Severities(units)
	v.Lead, v.Sure = words.Beside(severities, scale)
	slices.SortStableFunc(severities, func(a, b agreement.Severity) int {
		return cmp.Or(cmp.Compare(fewLast(a), fewLast(b)), cmp.Compare(a.Mean, b.Mean))
	})
	var picture []chart.BesideRow
	for _, s := range severities {
		v.Rows = append(v.Rows, besideRow{s, words.Severity(s), words.SeverityRange(s)})
		picture = append(picture, chart.BesideRow{Name: s.Examiner, Under: words.Count(s.Marks, "mark") + " beside others", Words: words.Severity(s),
			Mean: s.Mean, Low: s.Low, High: s.High, Enough: s.Enough, Sure: s.Sure()})
	}
	if len(picture) > 0 {
		v.Picture = template.HTML(chart.Beside(v.Lead, picture))
	}
	for _, who := range agreement.Panels(units) {
		if c, ok := agreement.Correlate(units, who); ok {
			v.Panels = append(v.Panels, besidePanel{c, figure(c.Single), figure(c.Average), words.Steady(c)})
			break
		}
	}
	if alpha, ok := agreement.Alpha(units); ok && len(v.Panels) > 0 {
		v.Alpha = figure(alpha)
	}
	v.parts(units, names, scale)
	v.overTime(days)
	if len(days) == 0 {
		return nil
	}
	count, err := ch.alikeOf(r, v, program, scale)
	v.Alike = words.AlikeChanges(count.Results, count.Up, count.Down)
	return err
}

// alikeOf counts what would be otherwise if all had marked alike: at one grading, or over all of them.
func (ch *chapter) alikeOf(r *http.Request, v *agreementView, program string, scale scoring.Scale) (out store.AlikeCount, err error) {
	if v.Grading == nil {
		return ch.records.AlikeChanges(r.Context(), program, scale)
	}
	shift, err := ch.shiftOf(r, *v.Grading)
	if err != nil {
		return out, err
	}
	g, rows, err := ch.records.Laboratory(r.Context(), v.Grading.ID, v.Grading.Policy)
	for _, x := range rows {
		alike, failed := g.Policy.Decide(x.Test.Alike(shift))
		if failed != nil {
			return out, failed
		}
		out.Add(x.Result.Outcome, alike.Outcome)
	}
	return out, err
}

// shiftOf is what each examiner's marks of a grading are moved by where all are to count as if they had marked alike.
func (ch *chapter) shiftOf(r *http.Request, g store.Grading) (map[string]scoring.Decimal, error) {
	severities, err := ch.records.Severities(r.Context(), g.ProgramID, g.Policy.Scale)
	return store.AlikeShift(severities, g.Policy.Scale), err
}

func fewLast(s agreement.Severity) int {
	if s.Enough {
		return 0
	}
	return 1
}

func figure(x float64) string { return fmt.Sprintf("%.2f", x) }

// partsShown is how many things examiners part on are listed.
const partsShown = 8

// besideWays name what units are looked at by.
var besideWays = []frame.Option{{Value: "items", Label: "Lines"}, {Value: "sections", Label: "Sections"}, {Value: "candidates", Label: "Candidates"}}

// Ways are what one may look at.
func (v agreementView) Ways() []frame.Option { return besideWays }

func (v *agreementView) parts(units []agreement.Unit, names map[string]string, scale scoring.Scale) {
	of := func(u agreement.Unit) string { return u.Item }
	switch v.By {
	case "sections":
		of = func(u agreement.Unit) string { return u.Section }
	case "candidates":
		of = func(u agreement.Unit) string { return u.Candidate }
	default:
		v.By = "items"
	}
	examiners := make([]gradingday.Examiner, 0, len(v.Rows))
	for _, r := range v.Rows {
		examiners = append(examiners, gradingday.Examiner{Name: r.Examiner})
	}
	gradingday.Letters(examiners, 0)
	letters := map[string]string{}
	for _, e := range examiners {
		letters[e.Name] = e.Letter
	}
	all := agreement.Parts(units, of)
	// What was shown once or twice says more of chance; it is left out where there is better.
	often := slices.DeleteFunc(slices.Clone(all), func(p agreement.Part) bool { return p.Units < agreement.FewCandidates })
	if len(often) > 0 {
		v.Seldom = len(all) - len(often)
		all = often
	}
	v.More = max(len(all)-partsShown, 0)
	for _, p := range all[:min(len(all), partsShown)] {
		x := besidePart{Part: p, Percent: int(100*p.Agreement + 0.5), Words: words.Apart(p, letters, scale)}
		if v.By == "candidates" {
			x.Name = names[p.Name]
		}
		v.Parts = append(v.Parts, x)
	}
}

// overTime is how each examiner marked, grading by grading, the latest first.
func (v *agreementView) overTime(days []store.Beside) {
	v.Names = store.Examiners(days)
	for _, d := range slices.Backward(days) {
		row := besideDay{ID: d.GradingID, Title: d.Title, On: d.On}
		by := map[string]agreement.Severity{}
		for _, s := range agreement.Severities(d.Units) {
			by[s.Examiner] = s
		}
		for _, name := range v.Names {
			s, was := by[name]
			said := ""
			if was {
				said = words.Severity(s)
			}
			row.Words = append(row.Words, said)
		}
		v.Over = append(v.Over, row)
	}
}
