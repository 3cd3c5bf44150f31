package curriculum

import (
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// numbersView is the screen that gives many techniques their series and numbers at once.
type numbersView struct {
	Rows   []numberRow
	Holes  []finding // numbers that stand twice, or are missing
	Form   frame.Form
	Text   string
	Others int // techniques that neither have a number nor a name that speaks of one
}

// numberRow is a technique with the number it has, or that its name speaks of.
type numberRow struct {
	*curriculum.Technique
	Series   string
	Number   string
	Proposed bool
}

func (ch *chapter) numbersShow(w http.ResponseWriter, r *http.Request) {
	ch.numbersPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) numbersPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := numbersView{Form: f, Text: r.URL.Query().Get("text")}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		row := numberRow{Technique: t, Series: t.Series, Number: parts.Positive(t.Number)}
		if series, number, _, numbered := b.Numbers(t.Name); numbered && t.Series == "" {
			row.Series, row.Number, row.Proposed = series, parts.Positive(number), true
		}
		if v.Text != "" && !strings.Contains(check.Key(t.Name), check.Key(v.Text)) || v.Text == "" && row.Series == "" && t.Kind != "combination" {
			v.Others++
			continue
		}
		if f.Values != nil {
			row.Series, row.Number = f.Get("series_"+t.ID), f.Get("number_"+t.ID)
		}
		v.Rows = append(v.Rows, row)
	}
	slices.SortStableFunc(v.Rows, func(x, y numberRow) int { return check.Natural(x.Name, y.Name) })
	for _, x := range b.Check() {
		if x.Kind == curriculum.NumberTwice || x.Kind == curriculum.NumberMissing {
			v.Holes = append(v.Holes, findingOf(x))
		}
	}
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "numbers", Title: "Series and numbers", Nav: "techniques", Body: v})
}

// numbersSave writes series and numbers of all rows, one deed that is undone in one step.
func (ch *chapter) numbersSave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.ChangeCurriculum(r.Context(), by, v.Get("program"), func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
			c := b.Curriculum
			c.Techniques = slices.Clone(c.Techniques)
			var p check.Problems
			n := 0
			for i := range c.Techniques {
				t := &c.Techniques[i]
				if !v.Has("series_" + t.ID) {
					continue
				}
				series := check.Tidy(v.Get("series_" + t.ID))
				number := p.Whole("number_"+t.ID, v.Get("number_"+t.ID), 0, 999, 0)
				switch {
				case series == "" && number > 0:
					p.Add("series_"+t.ID, "is empty; a number needs the series it counts in")
				case series != t.Series || number != t.Number:
					t.Series, t.Number = series, number
					n++
				}
			}
			if len(p) > 0 {
				return c, office.Deed{}, p
			}
			return c, office.TechniquesNumbered.Many(n), nil
		})
	}, frame.To("/numbers"), func(status int, f frame.Form) { ch.numbersPage(w, r, status, f) })
}

// techniquesUnnumber says that a name with a number is only a name, for the whole series.
func (ch *chapter) techniquesUnnumber(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		x, err := ch.records.Technique(r.Context(), r.PathValue("technique"))
		if err != nil {
			return store.Done{}, err
		}
		if x.Series == "" {
			return store.Done{}, &store.Refused{Reason: x.Name + " is no number of a series."}
		}
		return ch.records.ChangeCurriculum(r.Context(), by, x.ProgramID, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
			c, n := b.Unnumbered(x.Series)
			return c, office.Deed{Kind: office.NumbersDropped, N: n, What: x.Series}, nil
		})
	}, frame.To("/techniques/"+r.PathValue("technique")), nil)
}
