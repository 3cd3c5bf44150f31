package store

import (
	"cmp"
	"context"
	"slices"

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
	Whys    []string                   // of each wish: how its size and chance were found
	Stock   map[gradingday.BeltKey]int // of the rungs tested
	Ladder  map[string]int             // rung → place
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
	type tried struct {
		rung    string
		outcome scoring.Outcome
		n       int
	}
	past, err := list(ctx, s.r, func(t *tried) []any { return []any{&t.rung, &t.outcome, &t.n} },
		`SELECT c.to_rung_id, d.outcome, count(*)
		FROM grading g JOIN candidate c ON c.grading_id = g.id JOIN announcement a ON a.candidate_id = c.id CROSS JOIN decision d ON d.candidate_id = c.id
		WHERE g.program_id = ? GROUP BY c.to_rung_id, d.outcome`, g.ProgramID)
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
	for _, p := range people {
		out.Ladder[p.To.ID] = p.To.Position
		if p.To.Kind != "belt" {
			continue
		}
		passed, tested := 0, 0
		for _, x := range past {
			if x.rung != p.To.ID {
				continue
			}
			if tested += x.n; x.outcome.Promotes() {
				passed += x.n
			}
		}
		w := gradingday.BeltWish{RungID: p.To.ID, Rung: p.ToWords, Cloth: p.To.Cloth, Name: p.Name, Chance: gradingday.Chance(passed, tested)}
		why := ""
		w.Size, why = gradingday.SizeOf(set.Sizes, p.BeltSize, p.WaistCM, p.HeightCM)
		out.Wishes, out.Whys = append(out.Wishes, w), append(out.Whys, cmp.Or(why, "no size, waist or height on record"))
	}
	return out, nil
}
