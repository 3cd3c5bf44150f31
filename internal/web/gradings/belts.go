package gradings

import (
	"bytes"
	"cmp"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type beltsView struct {
	store.Belts
	Nav     preparation
	Form    frame.Form
	Orders  []gradingday.BeltOrder
	Total   int
	Certain int
	Unsized []string
	Rungs   []frame.Option
	Sizes   []string
	InStock []store.InStock
	Stripes []string // tested rungs that are no belt
	Kit     []gradingday.BeltOrder
}

func (ch *chapter) beltsShow(w http.ResponseWriter, r *http.Request) {
	ch.beltsPage(w, r, http.StatusOK, frame.Form{})
}

// orders are a grading's belts to order, with the settings they rest on.
func (ch *chapter) orders(r *http.Request, id string) (store.Belts, []gradingday.BeltOrder, office.Settings, error) {
	b, err := ch.records.Belts(r.Context(), id)
	if err != nil {
		return b, nil, office.Settings{}, err
	}
	set, err := ch.records.Settings(r.Context())
	if err != nil {
		return b, nil, set, err
	}
	out := gradingday.Belts(b.Wishes, b.Stock, set.Certain*10)
	gradingday.SortBelts(out, b.Ladder, set.Sizes)
	return b, out, set, nil
}

func (ch *chapter) beltsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, orders, set, err := ch.orders(r, r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := beltsView{Belts: b, Nav: preparation{Grading: b.Grading, Here: "belts", Owner: true}, Form: f, Orders: orders, Certain: set.Certain}
	if v.InStock, err = ch.records.Stock(r.Context(), b.Grading.ProgramID); err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.Kit = gradingday.Belts(b.Kit, nil, set.Certain*10)
	slices.SortStableFunc(v.Kit, func(x, y gradingday.BeltOrder) int {
		return cmp.Or(strings.Compare(x.Rung, y.Rung), strings.Compare(x.Size, y.Size))
	})
	for _, o := range orders {
		v.Total += o.Order
		if o.Size == "" {
			v.Unsized = append(v.Unsized, o.Names...)
		}
	}
	for _, s := range set.Sizes {
		v.Sizes = append(v.Sizes, s.Size)
	}
	for _, x := range b.Grading.Rungs {
		if x.Kind == "belt" {
			v.Rungs = append(v.Rungs, frame.Option{Value: x.ID, Label: x.Name})
		} else {
			v.Stripes = append(v.Stripes, x.Name)
		}
	}
	ch.Show(w, r, status, b.Grading.ProgramID, frame.Page{Screen: "belts", Title: "Belts, " + b.Grading.Title(), Nav: "gradings", Body: v})
}

// beltsOrder is the purchase list as a file.
func (ch *chapter) beltsOrder(w http.ResponseWriter, r *http.Request) {
	b, orders, _, err := ch.orders(r, r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	var out bytes.Buffer
	if err := exchange.WriteBelts(&out, orders); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/csv; charset=utf-8", "Belts for "+b.Grading.Title()+" "+b.Grading.On.String()+".csv", out.Bytes())
}

func (ch *chapter) beltsStock(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		if strings.TrimSpace(v.Get("pieces")) == "" {
			p.Add("pieces", "is empty; write how many there are")
		}
		n := p.Whole("pieces", v.Get("pieces"), -10000, 10000, 0)
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.CountStock(r.Context(), by, v.Get("rung"), v.Get("size"), n, v.Get("how") != "add", v.Get("reason"))
	}, frame.To("/belts/"+id), func(status int, f frame.Form) { ch.beltsPage(w, r, status, f) })
}
