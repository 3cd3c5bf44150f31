package gradings

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type pairsView struct {
	store.Sparring
	Nav   preparation
	Form  frame.Form
	Rings []pairsRing
	Alone int // bouts with a senior
	Stale bool
	Gone  int

	Proven bool // the pairs are the most alike there are
}

type pairsRing struct {
	Name  string
	Bouts []pairRow
}

type pairRow struct {
	Number int
	A, B   *gradingday.Fighter // B nil: a senior
	Apart  string              // how far
	Why    string              // of a senior
	Gap    int                 // empty turns before it
	Rests  bool
}

func (ch *chapter) pairsShow(w http.ResponseWriter, r *http.Request) {
	ch.pairsPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) pairsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	x, err := ch.records.Sparring(r.Context(), r.PathValue("grading"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := pairsView{Sparring: x, Nav: preparation{Grading: x.Grading, Here: "pairs", Owner: frame.PersonOf(r).Role == store.Owner}, Form: f}
	rules := gradingday.UsualPairs
	if x.Kept != nil {
		rules = x.Kept.Rules
	}
	if f.Values == nil {
		v.Form.Values = frame.Values("bouts", strconv.Itoa(rules.Bouts), "months", strconv.Itoa(rules.Months),
			"height_cm", strconv.Itoa(rules.HeightCM), "weight_kg", strconv.Itoa(rules.WeightKG),
			"rungs", strconv.Itoa(rules.Rungs), "rest_bouts", strconv.Itoa(rules.RestBouts))
		if rules.SameRing {
			v.Form.Values.Set("same_ring", "1")
		}
	}
	if x.Kept != nil {
		v.read(rules)
		v.Proven = !v.Stale && v.Gone == 0 && gradingday.Proven(len(v.Fighters), rules)
	}
	ch.Show(w, r, status, x.Grading.ProgramID, frame.Page{Screen: "pairs", Title: "Sparring pairs, " + x.Grading.Title(), Nav: "gradings", Body: v})
}

// read puts the kept bouts into rings, with who they are.
func (v *pairsView) read(rules gradingday.PairRules) {
	find := func(id string) int {
		return slices.IndexFunc(v.Fighters, func(f gradingday.Fighter) bool { return f.ID == id })
	}
	seen := map[string]bool{}
	for _, ring := range v.Grading.Rings {
		out := pairsRing{Name: ring.Name}
		last := -1
		for _, b := range v.Kept.Bouts {
			if b.RingID != ring.ID {
				continue
			}
			ia, ib := find(b.A), find(b.B)
			seen[b.A], seen[b.B] = true, true
			if ia < 0 || b.B != "" && ib < 0 {
				v.Gone++
				continue
			}
			row := pairRow{Number: len(out.Bouts) + 1, A: &v.Fighters[ia], Gap: b.Turn - last - 1}
			last = b.Turn
			if b.B == "" {
				row.Why = words.Alone(gradingday.WhySenior(v.Fighters, rules, ia))
				v.Alone++
			} else {
				row.B = &v.Fighters[ib]
				row.Apart = words.Gaps(gradingday.Apart(*row.A, *row.B))
			}
			out.Bouts = append(out.Bouts, row)
		}
		if len(out.Bouts) > 0 {
			v.Rings = append(v.Rings, out)
		}
	}
	for _, f := range v.Fighters {
		v.Stale = v.Stale || !seen[f.ID]
	}
	v.Stale = v.Stale || v.Gone > 0
}

func (ch *chapter) pairsMake(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		rules, err := readPairRules(v)
		if err != nil {
			return store.Done{}, err
		}
		return ch.records.MakePairs(r.Context(), by, id, rules)
	}, frame.To("/pairs/"+id), func(status int, f frame.Form) { ch.pairsPage(w, r, status, f) })
}

func readPairRules(v url.Values) (gradingday.PairRules, error) {
	var p check.Problems
	u := gradingday.UsualPairs
	r := gradingday.PairRules{Bouts: p.Whole("bouts", v.Get("bouts"), 1, 5, u.Bouts),
		Months: p.Whole("months", v.Get("months"), 0, 1200, u.Months), HeightCM: p.Whole("height_cm", v.Get("height_cm"), 0, 200, u.HeightCM),
		WeightKG: p.Whole("weight_kg", v.Get("weight_kg"), 0, 200, u.WeightKG),
		Rungs:    p.Whole("rungs", v.Get("rungs"), 0, 100, u.Rungs), RestBouts: p.Whole("rest_bouts", v.Get("rest_bouts"), 0, 10, u.RestBouts), SameRing: v.Get("same_ring") != ""}
	return r, p.Err()
}
