package curriculum

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

type combinationsView struct {
	Rung     *curriculum.Rung
	Rungs    []frame.Option
	Pieces   []practice.Piece
	Chosen   map[string]bool
	Form     frame.Form
	Lengths  []frame.Option
	Ways     string
	Useful   int
	Exact    bool
	Rows     []combinationRow
	Drawn    *combinationRow
	Again    string // the address that draws another
	Filtered bool
	Floor    *parts.FloorView // of the one that was drawn
}

type combinationRow struct {
	Line  string
	Times int
}

// combinationsShown is how many combinations are listed.
const combinationsShown = 200

// combinationsShow counts the combinations of chosen moves, lists those the school would use,
// and draws one of the least practised. It is long: a step for each thing that is counted.
func (ch *chapter) combinationsShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	q := r.URL.Query()
	v := combinationsView{Rung: b.Rung(q.Get("rung")), Chosen: map[string]bool{}}
	if v.Rung == nil {
		if len(b.Rungs) == 0 {
			http.Redirect(w, r, "/ladder?why=no-rungs", http.StatusSeeOther)
			return
		}
		v.Rung = &b.Rungs[min(2, len(b.Rungs)-1)]
	}
	for _, g := range b.Rungs {
		v.Rungs = append(v.Rungs, frame.Option{Value: g.ID, Label: "up to " + g.Name})
	}
	for _, n := range []string{"2", "3", "4", "5"} {
		v.Lengths = append(v.Lengths, frame.Option{Value: n, Label: n + " moves"})
	}
	usualRules(q)
	q.Set("rung", v.Rung.ID)
	v.Form.Values = q
	p := &v.Form.Problems
	k, directions := p.Whole("k", q.Get("k"), 1, 5, 3), p.Whole("directions", q.Get("directions"), 1, 8, 1)
	v.Pieces = practice.PiecesOf(b, v.Rung.ID)
	var chosen []practice.Piece
	for i, x := range v.Pieces {
		if len(q["piece"]) == 0 && i < 8 || slices.Contains(q["piece"], x.Text) {
			v.Chosen[x.Text] = true
			chosen = append(chosen, x)
		}
	}
	rules := practice.Rules{LeadFirst: q.Get("lead_first") != "", Recover: q.Get("recover") != "",
		NoTwice: q.Get("no_twice") != "", CanLeave: q.Get("can_leave") != "", NoRepeats: q.Get("no_repeats") != "", Directions: directions, Each: q.Get("each") != ""}
	v.Filtered = rules.LeadFirst || rules.Recover || rules.NoTwice || rules.CanLeave
	_, v.Ways = practice.Ways(len(chosen), k, !rules.NoRepeats, directions, rules.Each)
	list, n, exact := practice.Useful(chosen, k, rules, 5000)
	v.Useful, v.Exact = n, exact
	done, err := ch.records.Drilled(r.Context(), b.Program.ID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, c := range list[:min(len(list), combinationsShown)] {
		v.Rows = append(v.Rows, combinationRow{practice.Line(c), done[practice.Line(c)]})
	}
	seed, _ := strconv.ParseUint(q.Get("draw"), 10, 64)
	if at := practice.Draw(list, done, seed); q.Get("draw") != "" && at >= 0 {
		v.Drawn = &combinationRow{practice.Line(list[at]), done[practice.Line(list[at])]}
	}
	v.Again = drawAgain(q, seed)
	if err := ch.drawnOnFloor(r, b, &v); err != nil {
		ch.Fail(w, r, err)
		return
	}
	status := http.StatusOK
	if len(*p) > 0 {
		status = http.StatusUnprocessableEntity
	}
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "combinations", Title: "Combinations", Nav: "techniques", Body: v})
}

// drawnOnFloor plays the combination that was drawn.
func (ch *chapter) drawnOnFloor(r *http.Request, b *curriculum.Book, v *combinationsView) error {
	if v.Drawn == nil {
		return nil
	}
	hall, err := ch.Hall(r.Context())
	if err != nil {
		return err
	}
	who, err := ch.Someone(r.Context(), "")
	v.Floor = parts.FloorOf(b, parts.OnFloor{Line: v.Drawn.Line, Who: who, Hall: hall})
	return err
}

// usualRules switches on, at the first look, the rules that most schools do.
func usualRules(q url.Values) {
	if q.Get("k") == "" {
		for _, name := range []string{"lead_first", "recover", "no_twice"} {
			q.Set(name, "1")
		}
		q.Set("k", "3")
		q.Set("directions", "1")
	}
}

// drawAgain is the address that draws another one.
func drawAgain(q url.Values, seed uint64) string {
	next := url.Values{}
	for name, x := range q {
		next[name] = x
	}
	next.Set("draw", strconv.FormatUint(seed+1, 10))
	return "/combinations?" + next.Encode()
}

// combinationsDrill notes that a combination is called, and calls it.
func (ch *chapter) combinationsDrill(w http.ResponseWriter, r *http.Request) {
	rung, line := "", ""
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		rung, line = v.Get("rung"), v.Get("line")
		g, err := ch.records.Rung(r.Context(), rung)
		if err != nil {
			return store.Done{}, err
		}
		return ch.records.Drill(r.Context(), by, g.ProgramID, line)
	}, func(store.Done) string { return "/caller/" + url.PathEscape(rung) + "?line=" + url.QueryEscape(line) }, nil)
}
