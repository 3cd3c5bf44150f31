package curriculum

import (
	"cmp"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

// manyView is the screen that changes many techniques at once.
type manyView struct {
	Rows    []manyRow
	Guesses []manyRow // whose kind was guessed when they were typed
	Attacks []manyRow // that say only in words what they answer
	Kinds   []frame.Option
	Form    frame.Form
	Text    string
	Total   int
}

type manyRow struct {
	*curriculum.Technique
	Proposed curriculum.Kind
	Answers  string
	Ticked   bool
}

// manyShown is how many techniques are listed at once.
const manyShown = 300

func (ch *chapter) manyShow(w http.ResponseWriter, r *http.Request) {
	ch.manyPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) manyPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := manyView{Form: f, Text: r.URL.Query().Get("text"), Kinds: append([]frame.Option{{Value: "", Label: "as it is"}}, frame.Options(curriculum.Kinds, curriculum.Kind.Words)...)}
	ticked := func(id string) bool { return slices.Contains(f.Values["technique"], id) }
	guessed := map[string]bool{}
	for _, g := range b.Guesses() {
		v.Guesses = append(v.Guesses, manyRow{Technique: g.Technique, Proposed: g.Kind, Ticked: ticked(g.ID)})
		guessed[g.ID] = true
	}
	for _, a := range binder.For(b).AttacksNamed() {
		v.Attacks = append(v.Attacks, manyRow{Technique: a.Technique, Answers: curriculum.AttackWords(a.Said), Ticked: ticked(a.ID)})
	}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		if guessed[t.ID] || v.Text != "" && !strings.Contains(check.Key(t.Name+" "+t.Kind.Words()), check.Key(v.Text)) {
			continue
		}
		if v.Total++; len(v.Rows) < manyShown {
			v.Rows = append(v.Rows, manyRow{Technique: t, Ticked: ticked(t.ID)})
		}
	}
	slices.SortStableFunc(v.Rows, func(x, y manyRow) int { return check.Natural(x.Name, y.Name) })
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "many", Title: "Change several techniques", Nav: "techniques", Body: v})
}

// manySave changes kind, series or cautions of the chosen techniques, one deed that is undone in
// one step.
func (ch *chapter) manySave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		kind, series, caution := curriculum.Kind(v.Get("kind")), check.Tidy(v.Get("series")), check.Tidy(v.Get("caution"))
		var p check.Problems
		if kind != "" {
			check.OneOf(&p, "kind", kind, curriculum.Kinds)
		}
		p.Line("series", series, check.NameLength)
		p.Line("caution", caution, check.LineLength)
		chosen := v["technique"]
		if len(chosen) == 0 {
			p.Add("technique", "none is ticked; tick the techniques to change")
		}
		proposed := v.Get("proposed") // "kind", "attack"; "" what the form says
		if kind == "" && series == "" && caution == "" && proposed == "" {
			p.Add("kind", "nothing is to be changed; choose a kind, or write a series or a caution")
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.ChangeCurriculum(r.Context(), by, v.Get("program"), func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
			c := b.Curriculum
			c.Techniques = slices.Clone(c.Techniques)
			kinds, attacks := proposals(b)
			n := 0
			for i := range c.Techniques {
				t := &c.Techniques[i]
				if !slices.Contains(chosen, t.ID) {
					continue
				}
				n++
				if proposed == "kind" {
					t.Kind = cmp.Or(kinds[t.ID], t.Kind)
				} else if proposed == "attack" && len(t.Attack) == 0 {
					t.Attack = attacks[t.ID]
				} else if kind != "" {
					t.Kind = kind
				}
				if series != "" {
					t.Series = series
				}
				if caution != "" && !slices.Contains(t.Cautions, caution) {
					t.Cautions = append(slices.Clone(t.Cautions), caution)
				}
				for _, x := range t.Check() {
					p.Add(map[string]string{"cautions": "caution", "series": "series", "number": "series"}[x.Field], "%s: %s", t.Name, x.Text)
				}
				if len(p) > 0 {
					return c, office.Deed{}, p
				}
			}
			return c, office.TechniquesChanged.Many(n), nil
		})
	}, frame.To("/techniques/many"), func(status int, f frame.Form) { ch.manyPage(w, r, status, f) })
}

// proposals are the kinds and the attacks that words propose, by the techniques' ids.
func proposals(b *curriculum.Book) (kinds map[string]curriculum.Kind, attacks map[string][]curriculum.AttackElement) {
	kinds, attacks = map[string]curriculum.Kind{}, map[string][]curriculum.AttackElement{}
	for _, g := range b.Guesses() {
		kinds[g.ID] = g.Kind
	}
	for _, a := range binder.For(b).AttacksNamed() {
		attacks[a.ID] = a.Said
	}
	return kinds, attacks
}
