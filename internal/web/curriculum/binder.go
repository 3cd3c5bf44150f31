package curriculum

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type binderView struct {
	Rung     *curriculum.Rung
	Form     frame.Form
	Lines    []binderLine // as read, of a page that was refused
	Sections []curriculum.Section
	Standing int // requirements the rung has already
	Kinds    []frame.Option
	Pages    []frame.Option // rungs with a page that can be taken over
	Added    string         // the section that was just added
	Unsaved  bool           // the page was sent, and is not on record
}

// KindWords are the kinds of technique as a line says them, by what they are on record, for the script.
func (v binderView) KindWords() (string, error) {
	words := map[string]string{}
	for _, k := range curriculum.Kinds {
		words[string(k)] = k.Words()
	}
	text, err := json.Marshal(words)
	return string(text), err
}

// Record is what the page is made from.
func (v binderView) Record() string { return store.PageOf(v.Rung.ID) }

// SectionNames are the headings a page may have, as a list for the script.
func (v binderView) SectionNames() (string, error) {
	names := make([]string, len(v.Sections))
	for i, s := range v.Sections {
		names[i] = s.Name
	}
	text, err := json.Marshal(names)
	return string(text), err
}

// binderLine is a line of a binder page as it was read.
type binderLine struct {
	Number  int         `json:"number"`
	Text    string      `json:"text"`
	Section string      `json:"section,omitempty"`
	Call    string      `json:"call,omitempty"`
	Amount  string      `json:"amount,omitempty"`
	Traits  string      `json:"traits,omitempty"`
	Note    string      `json:"note,omitempty"`    // the remark
	Stands  bool        `json:"stands,omitempty"`  // its rung asks it already
	Instead string      `json:"instead,omitempty"` // how much it asks of it now, where the line changes that
	Answers string      `json:"answers,omitempty"` // the attack that it answers
	Steps   string      `json:"steps,omitempty"`   // of something new, the attacker's before a dash
	Variant string      `json:"variant,omitempty"` // jumping, of Front kick
	Makes   string      `json:"makes,omitempty"`   // techniques that its moves name and nobody knew
	Waits   bool        `json:"waits,omitempty"`   // its kind stays open until its heading is answered
	Rule    string      `json:"rule,omitempty"`    // what it says for the rung's sparring rule
	Aside   string      `json:"aside,omitempty"`   // why it is no requirement
	Head    bool        `json:"head,omitempty"`    // it is a heading
	Heads   string      `json:"heads,omitempty"`   // the section that a heading would name which is none of the program
	Noted   string      `json:"noted,omitempty"`   // what it says of the program, where it is no requirement
	New     string      `json:"new,omitempty"`     // kind of a technique that is made with it
	Kind    string      `json:"kind,omitempty"`    // the same, as it is on record
	Chosen  string      `json:"chosen,omitempty"`  // the line as it stands when that kind is another, which goes where {kind} stands
	Place   string      `json:"place,omitempty"`   // the number it gets in a series
	Doubts  []liveDoubt `json:"doubts,omitempty"`  // what of its moves could be meant otherwise
	Asked   bool        `json:"asked,omitempty"`   // whether that is meant
	Column  int         `json:"column,omitempty"`
	Problem string      `json:"problem,omitempty"`
}

func readBinder(b *binder.Reader, rung, text string) []binderLine {
	out := []binderLine{}
	lines, heads := b.PageFor(rung, text)
	typed := strings.Split(text, "\n")
	for i, l := range lines {
		x := binderLine{Number: l.Number, Text: shownText(l, typed), Section: l.Section, Call: l.Name, Column: l.Column, Problem: l.Problem, Aside: l.Aside, Heads: l.Unheard}
		if len(l.Legend) > 0 || l.Draw != nil {
			x.Noted = l.Aside
		}
		if l.Problem == "" && l.Aside == "" {
			x.asksFor(b, l)
			if l.New {
				x.makes(lines, i, typed)
			}
		}
		if l.AsksKind() {
			x.makes(lines, i, typed)
		}
		for _, d := range l.Doubts {
			x.Doubts = append(x.Doubts, liveDoubt(d))
		}
		out = append(out, x)
	}
	for _, n := range heads {
		out = append(out, binderLine{Number: n, Text: strings.TrimSpace(typed[n-1]), Head: true})
	}
	slices.SortStableFunc(out, func(x, y binderLine) int { return cmp.Or(cmp.Compare(x.Number, y.Number), headFirst(x, y)) })
	if left := besides(b, rung, lines); left != "" {
		out = append(out, binderLine{Number: len(typed) + 1, Aside: "besides", Noted: left})
	}
	return out
}

// fewBesides is how many things are named that a rung asks besides a page; the others are counted.
const fewBesides = 8

// besides says what a rung asks that a page does not name, where it names some of what stands there; "" nothing.
func besides(b *binder.Reader, rung string, lines []binder.PageLine) string {
	named := map[string]bool{}
	stands := false
	for _, l := range lines {
		named[l.TechniqueID] = true
		stands = stands || l.Stands != nil
	}
	var left []string
	for _, r := range b.Asked(rung) {
		if t := b.Technique(r.TechniqueID); t != nil && !named[t.ID] && !slices.Contains(left, t.Name) {
			left = append(left, t.Name)
		}
	}
	if !stands || len(left) == 0 {
		return ""
	}
	more := ""
	if n := len(left) - fewBesides; n > 0 {
		left, more = left[:fewBesides], fmt.Sprintf(" and %d more", n)
	}
	return fmt.Sprintf("%s asks besides: %s%s. It stays; what is not wanted is taken out on the ladder.", b.Rung(rung).Name, strings.Join(left, ", "), more)
}

// asksFor says what a line asks, as it is read.
func (x *binderLine) asksFor(b *binder.Reader, l binder.PageLine) {
	for _, m := range l.Makes {
		x.Makes = strings.TrimPrefix(x.Makes+", "+m.Name, ", ")
	}
	x.Waits = l.Waits
	x.Amount, x.Traits, x.Note = words.Asked(curriculum.Line{Kind: l.Kind, Call: l.Name, Quantity: l.Quantity}), strings.Join(b.PartsOf(l.Becomes()), ", "), l.Becomes().Note
	for _, look := range l.MarkLooks {
		x.Traits = strings.TrimPrefix(fmt.Sprintf("%s, %s: %s", x.Traits, look.Mark, look.Looks), ", ")
	}
	if at := b.Rung(l.AsAt); at != nil {
		x.Traits = strings.TrimSuffix("as at "+at.Name+", "+x.Traits, ", ")
	}
	if x.Stands = l.Stands != nil; l.Changes() {
		x.Instead = strings.Join(append([]string{words.Asked(curriculum.Line{Kind: l.Kind, Call: l.Name, Quantity: l.Stands.Quantity})}, b.PartsOf(*l.Stands)...), ", ")
	}
	if l.From != "" {
		x.Traits = strings.TrimPrefix(x.Traits+", from "+l.From, ", ")
	}
	if l.Term != "" && l.New {
		x.Traits = strings.TrimPrefix(x.Traits+", term "+l.Term, ", ")
	}
	if l.Sparring != nil {
		x.Rule = l.Sparring.Words()
	}
	x.Answers = curriculum.AttackWords(l.Attack)
	if x.Steps = l.Moves; l.Attacks != "" {
		x.Steps = "attacker: " + l.Attacks + " – defender: " + l.Moves
	}
	for _, h := range l.Levels {
		x.Variant = strings.TrimPrefix(x.Variant+", "+string(h), ", ")
	}
	for _, m := range l.Modifiers {
		x.Variant = strings.TrimPrefix(x.Variant+", "+string(m), ", ")
	}
	if t := b.Technique(l.Base); t != nil {
		x.Variant += ", a variant of " + t.Name
	}
}

// shownText is a line as it is shown: as typed where it is set aside, in a table of all belts too, else as it is read.
func shownText(l binder.PageLine, typed []string) string {
	if l.Aside != "" && l.Number <= len(typed) {
		return strings.TrimSpace(typed[l.Number-1])
	}
	return l.Text
}

// makes says of which kind the line makes something new, and how the page stands when that is another.
func (x *binderLine) makes(lines []binder.PageLine, at int, typed []string) {
	l := lines[at]
	if x.New, x.Kind = l.Kind.Words(), string(l.Kind); !isNamed(lines[:at], l.Name) {
		alone := !slices.ContainsFunc(lines, func(o binder.PageLine) bool { return o.Number == l.Number && o.New && o.Name != l.Name })
		x.Chosen = binder.WithKind(strings.TrimRight(typed[l.Number-1], "\r"), l.Name, "{kind}", alone)
	}
	if l.Series != "" {
		x.Place, x.Asked = fmt.Sprintf("number %d of the series %s", l.Place, l.Series), l.Asked
	}
}

// isNamed reports whether something new has a name already on a page.
func isNamed(lines []binder.PageLine, name string) bool {
	return slices.ContainsFunc(lines, func(l binder.PageLine) bool { return l.New && check.Key(l.Name) == check.Key(name) })
}

// headFirst puts a heading before what stands behind it on its line.
func headFirst(x, y binderLine) int {
	switch {
	case x.Head == y.Head:
		return 0
	case x.Head:
		return -1
	}
	return 1
}

func (ch *chapter) binderShow(w http.ResponseWriter, r *http.Request) {
	f := frame.Form{}
	if from := r.URL.Query().Get("from"); from != "" { // begins as another rung's page stands
		_, b, ok := ch.RungBook(w, r)
		if !ok {
			return
		}
		if b.Rung(from) != nil {
			f.Values = frame.Values("page", binder.For(b).PageOf(from))
		}
	}
	ch.binderPage(w, r, http.StatusOK, f)
}

func (ch *chapter) binderPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	v := binderView{Rung: g, Form: f, Sections: b.Sections, Standing: len(b.Asked(g.ID)), Kinds: kindOptions("as its name says")}
	for _, x := range b.Rungs {
		if x.ID != g.ID && len(b.Asked(x.ID)) > 0 {
			v.Pages = append(v.Pages, frame.Option{Value: x.ID, Label: x.Name})
		}
	}
	v.Added, v.Form.Of = f.Of, ""
	if v.Unsaved = r.Method == http.MethodPost; f.Values != nil {
		v.Lines = readBinder(binder.For(b), g.ID, f.Get("page"))
	}
	ch.Show(w, r, status, g.ProgramID, frame.Page{Screen: "binder", Title: "A page for " + g.Name, Nav: "ladder", Here: g.ID, Body: v})
}

// binderRead says how each line of a page is read; it writes nothing.
func (ch *chapter) binderRead(w http.ResponseWriter, r *http.Request) {
	g, b, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.SendJSON(w, http.StatusOK, readBinder(binder.For(b), g.ID, v.Get("page")))
}

// binderSave adds the lines of a page, all or none. Enter in the field of a new section's name means the section.
func (ch *chapter) binderSave(w http.ResponseWriter, r *http.Request) {
	if check.Tidy(r.FormValue("section_name")) != "" {
		ch.binderSection(w, r)
		return
	}
	g, _, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if len(v.Get("page")) > 200_000 {
			return store.Done{}, check.Problems{{Field: "page", Text: "is too long; enter it in parts"}}
		}
		return ch.records.SavePage(r.Context(), by, g.ID, v.Get("page"))
	}, frame.To("/ladder/"+g.ID+"#requirements"), func(status int, f frame.Form) { ch.binderPage(w, r, status, f) })
}

// binderSection adds a section to the program while a page is typed, and shows the page again as it was.
func (ch *chapter) binderSection(w http.ResponseWriter, r *http.Request) {
	g, _, ok := ch.RungBook(w, r)
	if !ok {
		return
	}
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	x := curriculum.Section{ProgramID: g.ProgramID, Name: check.Tidy(v.Get("section_name")), Kind: curriculum.Kind(v.Get("section_kind"))}
	if x.Kind == "" {
		x.Kind = curriculum.UsualKind(x.Name)
	}
	by.Seen, by.Record = 0, "" // it is no change of the page
	_, err = ch.records.SaveSection(r.Context(), by, x)
	status, _, text := frame.Explain(err)
	var p check.Problems
	switch {
	case err == nil:
		v.Set("section_name", "")
		ch.binderPage(w, r, http.StatusOK, frame.Form{Values: v, Of: x.Name})
	case errors.As(err, &p):
		ch.binderPage(w, r, status, frame.Form{Values: v, Problems: check.Problems{{Field: "section_name", Text: p[0].Text}}})
	case status >= http.StatusInternalServerError:
		ch.Fail(w, r, err)
	default:
		ch.binderPage(w, r, status, frame.Form{Values: v, General: text})
	}
}
