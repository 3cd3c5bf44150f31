package gradings

import (
	"bytes"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// paperKinds are the papers of a grading, in the order people need them.
var paperKinds = []papersKind{
	{"scoresheets", "Scoresheets", "One for each examiner and group, with boxes for a pen"},
	{"runsheets", "Run sheets", "One for each ring, from the day plan"},
	{"certificates", "Certificates", "For those whose promotion is announced"},
	{"letters", "Result letters", "For those whose result is announced"},
}

// previewPages is how many pages a preview shows.
const previewPages = 3

type papersView struct {
	Grading store.Grading
	Nav     preparation
	Kinds   []papersKind
	Kind    papersKind
	Pages   []template.HTML
	Count   int // of what is printed
	What    string
	Missing string // why there is nothing
	Results bool   // whether there is a workbook: some panel has signed
	Form    frame.Form
}

type papersKind struct{ Key, Name, About string }

func (ch *chapter) papersShow(w http.ResponseWriter, r *http.Request) {
	ch.papersPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) papersPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	p, err := ch.gatherPapers(r, r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := papersView{Grading: p.day.Grading, Nav: preparation{Grading: p.day.Grading, Here: "papers", Owner: frame.PersonOf(r).Role == store.Owner}, Form: f}
	want := r.URL.Query().Get("show")
	for i, k := range paperKinds {
		if k.Key == "letters" && !v.Nav.Owner {
			continue
		}
		v.Kinds = append(v.Kinds, k)
		if k.Key == want || i == 0 {
			v.Kind = k
		}
	}
	var pages []string
	if err := ch.paper(r, p, v.Kind.Key, func(count int, what, missing string, preview func(int) []string, _ func(io.Writer) error) {
		v.Count, v.What, v.Missing = count, what, missing
		if count > 0 {
			pages = preview(previewPages)
		}
	}); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Nav.Owner && v.Grading.Begun() {
		_, rows, err := ch.records.Review(r.Context(), v.Grading.ID)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Results = slices.ContainsFunc(rows, store.Reviewed.HasResult)
	}
	for _, s := range pages {
		v.Pages = append(v.Pages, template.HTML(s))
	}
	ch.Show(w, r, status, v.Grading.ProgramID, frame.Page{Screen: "papers", Title: "Papers, " + v.Grading.Title(), Nav: "gradings", Body: v})
}

// papersFile is one kind of paper as a PDF; candidate narrows it to one person.
func (ch *chapter) papersFile(w http.ResponseWriter, r *http.Request) {
	p, err := ch.gatherPapers(r, r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	kind := strings.TrimSuffix(r.PathValue("kind"), ".pdf")
	if kind == "letters" && frame.PersonOf(r).Role != store.Owner {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	p.only = r.URL.Query().Get("candidate")
	var out bytes.Buffer
	var trouble error
	err = ch.paper(r, p, kind, func(count int, what, missing string, _ func(int) []string, write func(io.Writer) error) {
		if count == 0 {
			trouble = &store.Refused{Reason: missing}
			return
		}
		trouble = write(&out)
	})
	if err == nil {
		err = trouble
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "application/pdf", p.day.Grading.Title()+" "+kind+" "+p.day.Grading.On.String()+".pdf", out.Bytes())
}

// printing is what papers of a grading are made from.
type printing struct {
	day    store.DayPlan
	set    office.Settings
	school string
	book   *curriculum.Book
	only   string // one candidate; "" everybody
}

func (ch *chapter) gatherPapers(r *http.Request, id string) (p printing, err error) {
	ctx := r.Context()
	if p.day, err = ch.records.DayPlan(ctx, id); err != nil {
		return p, err
	}
	if p.set, err = ch.records.Settings(ctx); err != nil {
		return p, err
	}
	if p.school, err = ch.records.School(ctx); err != nil {
		return p, err
	}
	p.book, err = ch.records.Book(ctx, p.day.Grading.ProgramID)
	return p, err
}

// paper makes one kind of paper and hands over how much of it there is, why there is none, and the two ways to
// have it.
func (ch *chapter) paper(r *http.Request, p printing, kind string, have func(count int, what, missing string, preview func(int) []string, write func(io.Writer) error)) error {
	at := ch.records.Now()
	switch kind {
	case "scoresheets":
		all, err := ch.scoresheets(r, p)
		if err != nil {
			return err
		}
		have(len(all), "scoresheet", "Nobody is entered yet, nobody examines, or the rungs ask for nothing yet; there is nothing to print.",
			func(n int) []string { return exchange.PreviewScoresheets(all, p.set.Paper, n) }, func(w io.Writer) error { return exchange.WriteScoresheets(w, all, p.set.Paper, at) })
	case "runsheets":
		all, err := ch.runSheets(r, p)
		if err != nil {
			return err
		}
		have(len(all), "run sheet", "There is no day plan yet; make one first.",
			func(n int) []string { return exchange.PreviewRunSheets(all, p.set.Paper, n) }, func(w io.Writer) error { return exchange.WriteRunSheets(w, all, p.set.Paper, at) })
	case "certificates":
		all, err := ch.certificates(r, p)
		if err != nil {
			return err
		}
		have(len(all), "certificate", "No promotion is announced yet. How one will look stands under settings.",
			func(n int) []string { return exchange.PreviewCertificates(all, p.set.Paper, n) }, func(w io.Writer) error { return exchange.WriteCertificates(w, all, p.set.Paper, at) })
	case "letters":
		all, _, err := ch.letters(r, p)
		if err != nil {
			return err
		}
		have(len(all), "letter", "No result is announced yet.",
			func(n int) []string { return exchange.PreviewLetters(all, p.set.Paper, n) }, func(w io.Writer) error { return exchange.WriteLetters(w, all, p.set.Paper, at) })
	default:
		return store.ErrNotFound
	}
	return nil
}

// told are the announced results, one review of the grading for all.
func (ch *chapter) told(r *http.Request, p printing) (out []store.Told, err error) {
	if !p.day.Grading.Begun() {
		return nil, nil
	}
	g, rows, err := ch.records.Review(r.Context(), p.day.Grading.ID)
	if err != nil {
		return nil, err
	}
	for _, x := range rows {
		if x.Announced && x.Decision != nil && (p.only == "" || p.only == x.ID) {
			out = append(out, store.Told{Grading: g, Reviewed: x})
		}
	}
	return out, nil
}

func (ch *chapter) certificates(r *http.Request, p printing) (out []exchange.Certificate, err error) {
	all, err := ch.told(r, p)
	if err != nil {
		return nil, err
	}
	for _, x := range all {
		if x.Decision.Outcome.Promotes() {
			v, err := ch.ResultOf(r, x)
			if err != nil {
				return nil, err
			}
			out = append(out, exchange.NewCertificate(p.school, p.set, p.book,
				exchange.Promoted{Name: x.Name, Rung: v.RungID(), Rank: v.Rank(), Grade: v.Grade, Honours: v.Honours(), First: firstOf(v), On: p.day.Grading.On,
					Place: p.day.Grading.Place, Panel: p.day.Grading.Panel(parts.RingOf(p.day.Grading, x.RingID))}))
		}
	}
	return out, nil
}

// firstOf is the first rung of a double promotion, which stands beside the higher one; "" none.
func firstOf(v parts.ResultView) string {
	if v.Second == "" {
		return ""
	}
	return v.ToWords
}

// mendRows are things to mend as a letter has them.
func mendRows(all []gradingday.Mend) (out []string) {
	for _, m := range all {
		words := m.What
		if m.Word != "" {
			words += " (" + m.Word + ")"
		}
		if len(m.How) > 0 {
			words += ": " + strings.Join(m.How, "; ")
		}
		out = append(out, words)
	}
	return out
}

func (ch *chapter) letters(r *http.Request, p printing) (out []exchange.ResultLetter, of []store.Told, err error) {
	all, err := ch.told(r, p)
	if err != nil {
		return nil, nil, err
	}
	for _, x := range all {
		v, err := ch.ResultOf(r, x)
		if err != nil {
			return nil, nil, err
		}
		g := p.day.Grading
		l := exchange.ResultLetter{School: p.school, Colour: p.set.SealColour, Grading: g.Title(), On: g.On.Full(),
			Place: g.Place, Name: x.Name, Lead: leadOf(v), Sign: exchange.Sign{Name: p.set.HeadName, Title: p.set.Head},
			Closing: "Ask your instructor about anything here; what it does not say, they will show you in class."}
		if l.Sign.Name == "" { // whoever decided signs
			l.Sign = exchange.Sign{Name: x.Decision.DecidedBy}
		}
		if len(v.Letter.Strong) > 0 {
			l.Parts = append(l.Parts, exchange.LetterPart{Title: "What was strong", Rows: v.Letter.Strong})
		}
		for _, part := range []struct {
			title string
			list  []gradingday.Mend
		}{{"What to mend first", v.Letter.Mend}, {"What to work on next", v.Letter.Next}} {
			if len(part.list) > 0 {
				l.Parts = append(l.Parts, exchange.LetterPart{Title: part.title, Rows: mendRows(part.list)})
			}
		}
		if x.Decision.Outcome == scoring.OutcomeRetest {
			when := "From " + x.Decision.RetestFrom.Full() + " on. "
			if len(v.Again) > 0 {
				when += "Asked again: " + strings.Join(v.Again, ", ") + ". The rest stands as it was shown."
			} else {
				when += "The whole test is asked again."
			}
			l.Parts = append(l.Parts, exchange.LetterPart{Title: "When to try again", Rows: []string{when}})
		}
		out, of = append(out, l), append(of, x)
	}
	return out, of, nil
}

// leadOf says a result in a sentence.
func leadOf(v parts.ResultView) string {
	out := ""
	switch v.Decision.Outcome {
	case scoring.OutcomeRetest:
		return "This time it was not yet " + v.ToWords + ": a part is to be shown again."
	case scoring.OutcomeHonours:
		out = "Promoted to " + v.ToWords + ", with honours."
	case scoring.OutcomeDouble:
		out = "Promoted to " + v.ToWords + ", and referred for double promotion: the school still decides about the second rung."
		if v.Referral != nil {
			out = "Promoted to " + v.ToWords + ", with the highest marks."
			if v.Referral.TestedAt != "" {
				out = strings.TrimSuffix(out, ".") + "; the test for the rung above is set."
			}
			if v.Referral.Granted {
				out = "Promoted to " + v.ToWords + ", and one rung more: a double promotion."
			}
		}
	default:
		out = "Promoted to " + v.ToWords + "."
	}
	if v.Grade == "provisional" {
		out += " The grade is provisional: it becomes permanent with a merit stripe."
	}
	return out
}

// papersLetters writes the announced results to families, into the outbox.
func (ch *chapter) papersLetters(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		p, err := ch.gatherPapers(r, id)
		if err != nil {
			return store.Done{}, err
		}
		all, of, err := ch.letters(r, p)
		if err != nil {
			return store.Done{}, err
		}
		if len(all) == 0 {
			return store.Done{}, &store.Refused{Reason: "No result is announced yet; there is nothing to write."}
		}
		var out []store.Message
		for i, l := range all {
			m := store.Message{Kind: "result", GradingID: id, CandidateID: of[i].ID, StudentID: of[i].StudentID,
				ToName: of[i].Name, Subject: fmt.Sprintf("%s: the result of the %s on %s", of[i].Name, p.set.GradingWord, p.day.Grading.On.Long()), Body: letterText(l)}
			for _, c := range p.day.People {
				if c.ID == of[i].ID {
					if c.Guardian != "" {
						m.ToName = c.Guardian
					}
					m.Address = mailAddress(c.Contact)
				}
			}
			out = append(out, m)
		}
		return ch.records.WriteMessages(r.Context(), by, out)
	}, frame.To("/outbox"), func(status int, f frame.Form) { ch.papersPage(w, r, status, f) })
}

// letterText is a letter as plain text.
func letterText(l exchange.ResultLetter) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s, %s\n\n%s\n\n%s\n", l.Grading, l.On, l.Name, l.Lead)
	for _, p := range l.Parts {
		fmt.Fprintf(&b, "\n%s\n", p.Title)
		for _, r := range p.Rows {
			b.WriteString("- " + r + "\n")
		}
	}
	fmt.Fprintf(&b, "\n%s\n\n%s, %s\n%s\n", l.Closing, l.Sign.Name, l.Sign.Title, l.School)
	return b.String()
}

// scaleWords are the marks of a grading with their words.
func scaleWords(s scoring.Scale) (out []string) {
	for m := s.Lowest; m <= s.Highest; m += s.Step {
		if words := s.Word(m); words != "" {
			out = append(out, m.String()+" "+words)
		}
	}
	if len(out) == 0 {
		out = []string{s.Lowest.String() + " to " + s.Highest.String() + " in steps of " + s.Step.String()}
	}
	return out
}

func (ch *chapter) scoresheets(r *http.Request, p printing) (out []exchange.Scoresheet, err error) {
	g := p.day.Grading
	calls, own, err := ch.records.CallsAndSheets(r.Context(), g.ID)
	if err != nil {
		return nil, err
	}
	b, err := ch.records.Book(r.Context(), g.ProgramID)
	if err != nil {
		return nil, err
	}
	for i, group := range p.day.Day.Groups {
		if len(calls[group.ID]) == 0 { // its rung asks for nothing yet; the tables do not open either
			continue
		}
		people := p.day.Of(group.ID)
		var candidates []store.Candidate
		for _, c := range people {
			candidates = append(candidates, c.Candidate)
		}
		ticks, err := ch.Ticks(r.Context(), b, candidates, calls[group.ID])
		if err != nil {
			return nil, err
		}
		ring := parts.RingOf(g, people[0].RingID)
		s := exchange.Scoresheet{School: p.school, Grading: g.Title(), On: g.On.Long(),
			Ring: g.Rings[max(ring, 0)].Name, Group: group.Name, For: group.For, ExaminerTitle: p.set.Examiner, Scale: scaleWords(g.Policy.Scale), When: whenOf(p.day.Plan, i)}
		var figures []scoring.ByHand
		for _, c := range people {
			figures = append(figures, byHand(g.Policy, own[c.ID]))
			s.Candidates, s.Numbers, s.Cloths = append(s.Candidates, withStance(c.Candidate)), append(s.Numbers, c.Number), append(s.Cloths, c.From.Cloth)
		}
		for _, sum := range words.Sums(g.Policy, figures) {
			s.Sums = append(s.Sums, exchange.PaperSum(sum))
		}
		s.After = words.AfterSums(g.Policy, g.RetestFrom())
		for _, it := range calls[group.ID] {
			for _, l := range it.Lines {
				for _, c := range l.Cautions {
					if !slices.Contains(s.Cautions, c) {
						s.Cautions = append(s.Cautions, c)
					}
				}
			}
			s.Items = append(s.Items, paperItem(it, calls[group.ID], people, ticks[it.ID], g.Marking))
		}
		for _, e := range g.Panel(max(ring, 0)) {
			s.Examiner = e.Name
			out = append(out, s)
		}
	}
	return out, nil
}

// byHand are the figures that close a candidate's sheet.
func byHand(p scoring.Policy, sheet []gradingday.Item) scoring.ByHand {
	var items []scoring.Item
	var stands []*scoring.Decimal
	for _, it := range sheet {
		items, stands = append(items, it.Item), append(stands, it.Carried)
	}
	return p.ByHand(items, stands)
}

// paperItem is an item's row on paper: what is asked, under which heading, and of whom.
func paperItem(it gradingday.GroupItem, all []gradingday.GroupItem, people []store.Preparing, ticks map[string][]parts.Tick, marking gradingday.Marking) exchange.PaperItem {
	row := exchange.PaperItem{Label: it.Label, Section: it.Section, MustPass: it.MustPass, Bonus: it.Bonus, Weight: it.Weight}
	if marking == gradingday.CategoryPoints {
		row.Section = ""
		for _, l := range it.Lines {
			row.Prompts = append(row.Prompts, promptWords(l))
			row.Prompts = append(row.Prompts, lookFor(l, people)...)
			row.Prompts = append(row.Prompts, words.Throughout(l.Common)...)
		}
	} else if len(it.Lines) > 0 {
		row.Detail = strings.Join(lineFacts(it.Lines[0]), " · ")
		row.Under = lookFor(it.Lines[0], people)
		head := curriculum.TestSheet{Lines: parts.LinesOf(all)}.Common(it.Section)
		row.Head = strings.Join(words.Throughout(head), "; ")
		row.Under = append(row.Under, words.Throughout(it.Lines[0].Besides(head))...)
	}
	for _, c := range people {
		_, asked := it.IDs[c.ID]
		row.Stands = append(row.Stands, it.Stands[c.ID])
		row.NotFor = append(row.NotFor, !asked && !it.Stands[c.ID])
		row.Own = append(row.Own, words.OwnLines(it.Own[c.ID]))
		var list []string
		for _, x := range ticks[c.ID] {
			list = append(list, x.Text)
		}
		row.Ticks = append(row.Ticks, list)
	}
	return row
}

// lookFor is all of a line that an examiner has to look at: the steps, each stance's where they
// are told otherwise, the partner's, and what makes it right or wrong.
func lookFor(l curriculum.Line, people []store.Preparing) (out []string) {
	var stances []curriculum.View
	for _, c := range people {
		stances = append(stances, curriculum.View(c.Stance))
	}
	if words := words.Called(l, len(people)); words != "" {
		out = append(out, words)
	}
	steps := curriculum.Written(l.Moves, "")
	for i, s := range steps {
		if len(steps) > 1 {
			s = fmt.Sprintf("%d. %s", i+1, s)
		}
		out = append(out, s)
	}
	for _, to := range curriculum.Pairings(l.Moves, stances...) {
		out = append(out, curriculum.View(to).Words()+": "+strings.Join(curriculum.Written(l.Moves, to), " / "))
	}
	if partner := curriculum.Written(l.Partner, ""); len(partner) > 0 {
		out = append(out, "Partner: "+strings.Join(partner, " / "))
	}
	for _, x := range []struct {
		name string
		list []string
	}{
		{"Look for: ", l.Checkpoints}, {"Critical: ", criticals(l.Faults)}, {"It works when: ", l.Success}, {"Told apart: ", words.ToldApart(l.Apart)}, {"To: ", l.Targets}, {"", words.Standard(l)},
	} {
		if len(x.list) > 0 {
			out = append(out, x.name+strings.Join(x.list, "; "))
		}
	}
	if l.Surface != "" {
		out = append(out, "With the "+l.Surface)
	}
	var looks []string
	for _, x := range l.MarkLooks {
		looks = append(looks, x.Mark.String()+": "+x.Looks)
	}
	if len(looks) > 0 {
		out = append(out, "Marks here: "+strings.Join(looks, "; "))
	}
	return out
}

// withStance is a name for the paper, with the foot in front where it is the right one.
func withStance(c store.Candidate) string {
	if c.Stance == progress.Southpaw {
		return c.Name + " (right foot forward)"
	}
	return c.Name
}

// criticals are the faults that would get somebody hurt.
func criticals(all []curriculum.Fault) (out []string) {
	for _, f := range all {
		if f.Critical {
			out = append(out, f.Seen)
		}
	}
	return out
}

func promptWords(l curriculum.Line) string {
	return strings.Join(append([]string{l.Call}, lineFacts(l)...), " · ")
}

// lineFacts are how much is asked of a line, and its term.
func lineFacts(l curriculum.Line) (out []string) {
	for _, x := range []string{l.Term, words.Asked(l), words.Manner(l), words.Detail(l)} {
		if x != "" {
			out = append(out, x)
		}
	}
	return out
}

// whenOf is a group's time in the plan; "" it has none.
func whenOf(plan gradingday.DayPlan, group int) string {
	var out []string
	for _, s := range plan.Slots {
		if s.Group == group {
			out = append(out, timetable.Clock(s.From)+"–"+timetable.Clock(s.To))
		}
	}
	return strings.Join(out, " and ")
}

func (ch *chapter) runSheets(r *http.Request, p printing) (out []exchange.RunSheet, err error) {
	d := p.day
	if !d.Made {
		return nil, nil
	}
	spar, err := ch.records.Sparring(r.Context(), d.Grading.ID)
	if err != nil {
		return nil, err
	}
	v := pairsView{Sparring: spar}
	if spar.Kept != nil {
		v.read(spar.Kept.Rules)
	}
	partners := newPartnering(d)
	for i, ring := range d.Day.Rings {
		s := exchange.RunSheet{School: p.school, Grading: d.Grading.Title(), On: d.Grading.On.Long(), Place: d.Grading.Place, Ring: ring.Name,
			Cautions: []string{"Whoever is unwell stops. An adaptation on record is marked as adapted, not as worse.",
				"Sparring: kit checked, a stop word agreed; head contact beyond the rule or any sign of concussion ends that person’s sparring for the day."}}
		for _, e := range d.Plan.Panels[i] {
			name := d.Day.Examiners[e].Name
			if d.Day.Examiners[e].Chief {
				name += " (chief)"
			}
			s.Panel = append(s.Panel, name)
		}
		s.Rows = append(s.Rows, exchange.RunRow{When: timetable.Clock(d.Day.Open), What: "The hall opens; each group warms up before it begins"})
		rested := false
		for _, x := range d.Plan.Slots {
			if x.Ring != i {
				continue
			}
			if d.Day.PauseTo > 0 && !rested && x.From >= d.Day.PauseTo {
				rested = true
				s.Rows = append(s.Rows, exchange.RunRow{When: timetable.Clock(d.Day.PauseFrom) + "–" + timetable.Clock(d.Day.PauseTo), What: "Pause"})
			}
			g := d.Day.Groups[x.Group]
			people := d.Of(g.ID)
			row := exchange.RunRow{When: timetable.Clock(x.From) + "–" + timetable.Clock(x.To), What: g.Name + ": " + g.For, Cloth: &people[0].To.Cloth}
			for _, c := range people {
				row.People = append(row.People, fmt.Sprintf("%d %s", c.Number, c.Name))
			}
			if x.Part == 2 {
				row.What += ", after the rest"
			} else {
				row.Notes = append(row.Notes, "Warm-up from "+timetable.Clock(x.From-d.Day.Warmup)+". Partner lines: "+strings.Join(partners.of(g.ID), "; ")+".")
			}
			s.Rows = append(s.Rows, row)
		}
		s.Bouts = v.boutsIn(ring.Name)
		out = append(out, s)
	}
	return out, nil
}

// boutsIn are the bouts of a ring, a line each.
func (v *pairsView) boutsIn(ring string) (out []string) {
	for _, pr := range v.Rings {
		if pr.Name != ring {
			continue
		}
		for _, b := range pr.Bouts {
			other := "a senior"
			if b.B != nil {
				other = b.B.Name
			}
			out = append(out, fmt.Sprintf("%d   %s – %s", b.Number, b.A.Name, other))
		}
	}
	return out
}
