package store

import (
	"context"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// Checked is a candidate with their checklist.
type Checked struct {
	Preparing
	Items    []gradingday.CheckItem
	Spars    bool
	Cautions []string
	Written  *Message // the newest message about this day; nil: none
}

// Lacks counts what is not there, and what is not known.
func (c Checked) Lacks() (missing, unknown int) {
	for _, i := range c.Items {
		switch i.State {
		case progress.NotMet:
			missing++
		case progress.Unknown:
			unknown++
		}
	}
	return missing, unknown
}

// Checklist is what each candidate of a grading must bring and what is missing.
func (s *Store) Checklist(ctx context.Context, gradingID string) (Grading, []Checked, error) {
	g, people, err := s.Preparing(ctx, gradingID)
	if err != nil {
		return g, nil, err
	}
	b, err := s.Book(ctx, g.ProgramID)
	if err != nil {
		return g, nil, err
	}
	ids := []string{}
	for _, p := range people {
		ids = append(ids, p.EnrolmentID)
	}
	climbs, err := s.read(ctx, g.On, `e.id IN (SELECT value FROM json_each(?))`, toJSON(ids))
	if err != nil {
		return g, nil, err
	}
	verdicts := map[string]progress.Verdict{}
	for _, c := range climbs {
		if c.Next != nil {
			verdicts[c.EnrolmentID+c.Next.ID] = c.Verdict
		}
	}
	written, err := s.messages(ctx, `m.kind = 'bring' AND m.grading_id = ?`, gradingID)
	if err != nil {
		return g, nil, err
	}
	x, err := s.timing(ctx, s.r, g)
	if err != nil {
		return g, nil, err
	}
	var out []Checked
	for _, p := range people {
		sheet, err := x.sheet(ctx, p, 1)
		if err != nil {
			return g, nil, err
		}
		c := Checked{Preparing: p}
		for _, l := range sheet.Lines {
			c.Spars = c.Spars || l.Kind == "sparring"
			for _, w := range l.Cautions {
				if (l.Kind == "sparring" || l.Kind == "fitness") && !slices.Contains(c.Cautions, w) {
					c.Cautions = append(c.Cautions, w)
				}
			}
		}
		c.Items = gradingday.Checklist(gradingday.Bringing{Kit: b.KitOf(p.To.ID), Owned: p.Kit, Verdict: verdicts[p.EnrolmentID+p.To.ID], Spars: c.Spars, HeightCM: p.HeightCM, WeightKG: p.WeightKG, Contact: p.Contact})
		for i := range written { // the newest come first
			if written[i].CandidateID == p.ID && !written[i].Withdrawn() {
				c.Written = &written[i]
				break
			}
		}
		out = append(out, c)
	}
	return g, out, nil
}

// KeptPairs is a list of sparring bouts as it was made.
type KeptPairs struct {
	Rules gradingday.PairRules `json:"rules"`
	Bouts []KeptBout           `json:"bouts"`
}

// KeptBout is a bout of the list. B is "" with a senior.
type KeptBout struct {
	A      string `json:"a"` // candidates
	B      string `json:"b,omitempty"`
	RingID string `json:"ring"`
	Turn   int    `json:"turn"` // from 0
}

// Sparring is what a grading's list of bouts is made from.
type Sparring struct {
	Grading  Grading
	Fighters []gradingday.Fighter // whose sheets ask for sparring
	Kept     *KeptPairs           // nil: none was made
}

// Sparring reads a grading's list of bouts.
func (s *Store) Sparring(ctx context.Context, gradingID string) (Sparring, error) {
	return s.sparring(ctx, s.r, gradingID)
}

func (s *Store) sparring(ctx context.Context, q querier, gradingID string) (out Sparring, err error) {
	g, people, err := s.preparing(ctx, q, gradingID)
	if err != nil {
		return out, err
	}
	out.Grading = g
	x, err := s.timing(ctx, q, g)
	if err != nil {
		return out, err
	}
	for _, p := range people {
		sheet, err := x.sheet(ctx, p, 1)
		if err != nil {
			return out, err
		}
		for _, l := range sheet.Lines {
			if l.Kind == "sparring" {
				out.Fighters = append(out.Fighters, p.Fighter(g))
				break
			}
		}
	}
	out.Kept, err = one(ctx, q, func(k **KeptPairs) []any { return []any{asJSON{k}} }, `SELECT pairs FROM grading WHERE id = ?`, gradingID)
	return out, err
}

// MakePairs matches everybody who spars and keeps the list.
func (s *Store) MakePairs(ctx context.Context, by By, gradingID string, rules gradingday.PairRules) (Done, error) {
	if err := rules.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		x, err := s.sparring(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(x.Fighters) == 0 {
			return "", office.Deed{}, refuse("Nobody’s test sheet asks for sparring.")
		}
		if err := t.touch(ctx, "grading", gradingID); err != nil {
			return "", office.Deed{}, err
		}
		pairs := gradingday.Pairs(x.Fighters, rules, x.Grading.Seed)
		kept := KeptPairs{Rules: rules, Bouts: []KeptBout{}}
		for _, p := range gradingday.BoutList(x.Fighters, pairs, rules, len(x.Grading.Rings)) {
			b := KeptBout{A: x.Fighters[p.A].ID, RingID: x.Grading.Rings[p.Ring].ID, Turn: p.Turn}
			if p.B != gradingday.Senior {
				b.B = x.Fighters[p.B].ID
			}
			kept.Bouts = append(kept.Bouts, b)
		}
		return gradingID, office.PairsMade.Many(len(x.Fighters)), t.exec(ctx, `UPDATE grading SET pairs = ? WHERE id = ?`, toJSON(kept), gradingID)
	})
}

// Belts is what a grading's belts are ordered from.
type Belts struct {
	Grading Grading
	Wishes  []gradingday.BeltWish
	Sized   []gradingday.SizeBy        // of each wish: how its size was found
	Stock   map[gradingday.BeltKey]int // of the rungs tested
	Ladder  map[string]int             // rung → place
	Kit     []gradingday.BeltWish      // what those who climb lack for the rung above; RungID and Rung are the thing
	KitFrom civil.Date                 // the first class after the grading; zero: none is timetabled
}

// above is the rung above one, or that one where it is the highest.
func above(b *curriculum.Book, rung string) string {
	if up := b.Above(rung); up != nil {
		return up.ID
	}
	return rung
}

// kitOwned is the kit on record of a grading's candidates, by student.
func (s *Store) kitOwned(ctx context.Context, gradingID string) (map[string][]string, error) {
	type row struct {
		student string
		kit     []string
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.student, asJSON{&x.kit}} },
		`SELECT s.id, s.kit FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.grading_id = ? AND c.withdrawn_at IS NULL AND s.kit IS NOT NULL`, gradingID)
	out := map[string][]string{}
	for _, x := range rows {
		out[x.student] = x.kit
	}
	return out, err
}

// firstClassAfter is the first day on which a class of a grading's program is held after it; zero where none is timetabled
// within half a year.
func (s *Store) firstClassAfter(ctx context.Context, g Grading) (civil.Date, error) {
	t, err := readTimetable(ctx, s.r)
	if err != nil {
		return civil.Date{}, err
	}
	for day := range 183 {
		on := g.On.AddDays(day + 1)
		for _, c := range t.On(on) {
			if c.For(g.ProgramID, "") {
				return on, nil
			}
		}
	}
	return civil.Date{}, nil
}

// chances are how likely a pass is, for each rung of a program, from what was announced so far.
func (s *Store) chances(ctx context.Context, program string) (func(rung string) int, error) {
	type tried struct {
		rung    string
		outcome scoring.Outcome
		n       int
	}
	past, err := list(ctx, s.r, func(t *tried) []any { return []any{&t.rung, &t.outcome, &t.n} },
		`SELECT c.to_rung_id, d.outcome, count(*)
		FROM grading g JOIN candidate c ON c.grading_id = g.id JOIN announcement a ON a.candidate_id = c.id CROSS JOIN decision d ON d.candidate_id = c.id
		WHERE g.program_id = ? GROUP BY c.to_rung_id, d.outcome`, program)
	passed, tested := map[string]int{}, map[string]int{}
	for _, x := range past {
		if tested[x.rung] += x.n; x.outcome.Promotes() {
			passed[x.rung] += x.n
		}
	}
	return func(rung string) int { return gradingday.Chance(passed[rung], tested[rung]) }, err
}

// Belts reads who needs which belt if they pass, and what is in stock. Only rungs with a belt of their own
// count: a stripe is sewn on.
func (s *Store) Belts(ctx context.Context, gradingID string) (out Belts, err error) {
	g, people, err := s.Preparing(ctx, gradingID)
	if err != nil {
		return out, err
	}
	set, err := s.Settings(ctx)
	if err != nil {
		return out, err
	}
	out.Grading, out.Stock, out.Ladder = g, map[gradingday.BeltKey]int{}, map[string]int{}
	chance, err := s.chances(ctx, g.ProgramID)
	if err != nil {
		return out, err
	}
	stock, err := s.Stock(ctx, g.ProgramID)
	if err != nil {
		return out, err
	}
	for _, x := range stock {
		out.Stock[gradingday.BeltKey{RungID: x.RungID, Size: x.Size}] = x.Pieces
	}
	book, err := s.Book(ctx, g.ProgramID)
	if err != nil {
		return out, err
	}
	owned, err := s.kitOwned(ctx, gradingID)
	if err != nil {
		return out, err
	}
	if out.KitFrom, err = s.firstClassAfter(ctx, g); err != nil {
		return out, err
	}
	for _, p := range people {
		out.Ladder[p.To.ID] = p.To.Position
		size, by := gradingday.SizeOf(set.Sizes, p.BeltSize, p.WaistCM, p.HeightCM)
		// Whoever climbs trains for the rung above from then on, and needs its kit in class.
		for _, k := range gradingday.Lacking(book.KitOf(above(book, p.To.ID)), owned[p.StudentID]) {
			out.Kit = append(out.Kit, gradingday.BeltWish{RungID: k, Rung: k, Size: size, Name: p.Name, Chance: chance(p.To.ID)})
		}
		if p.To.Kind != "belt" {
			continue
		}
		w := gradingday.BeltWish{Size: size, RungID: p.To.ID, Rung: p.ToWords, Cloth: p.To.Cloth, Name: p.Name, Chance: chance(p.To.ID)}
		out.Wishes, out.Sized = append(out.Wishes, w), append(out.Sized, by)
	}
	return out, nil
}
