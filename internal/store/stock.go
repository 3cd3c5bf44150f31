package store

import (
	"context"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// InStock is how many belts of a rung and size there are. Below 0, more were handed out than
// were ever counted.
type InStock struct {
	RungID, Rung, Size string
	Cloth              curriculum.Cloth
	Pieces             int
}

// Stock are the belts of a program that were ever counted, by ladder and size.
func (s *Store) Stock(ctx context.Context, program string) ([]InStock, error) {
	return list(ctx, s.r, func(x *InStock) []any { return []any{&x.RungID, &x.Rung, asJSON{&x.Cloth}, &x.Size, &x.Pieces} },
		`SELECT r.id, r.name, r.cloth, e.size, sum(e.pieces) FROM stock_event e JOIN rung r ON r.id = e.rung_id WHERE r.program_id = ? GROUP BY r.id, e.size ORDER BY r.position, e.size`, program)
}

// CountStock enters that so many belts came (above 0), went (below 0), or, with set, that there
// are so many now.
func (s *Store) CountStock(ctx context.Context, by By, rungID, size string, pieces int, set bool, reason string) (Done, error) {
	size, reason = check.Tidy(size), check.Tidy(reason)
	var p check.Problems
	if size == "" {
		p.Add("size", "is empty; write the size as the table of sizes has it")
	}
	p.Line("size", size, 20)
	p.Line("reason", reason, check.LineLength)
	if pieces < -10000 || pieces > 10000 || set && pieces < 0 || !set && pieces == 0 {
		p.Add("pieces", "is %d; write how many there are, or how many came or (below 0) went", pieces)
	}
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	if reason == "" {
		reason = "counted"
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		r, err := rung(ctx, t, rungID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if set {
			have, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT coalesce(sum(pieces), 0) FROM stock_event WHERE rung_id = ? AND size = ?`, rungID, size)
			if err != nil {
				return "", office.Deed{}, err
			}
			if pieces -= have; pieces == 0 {
				return rungID, office.Deed{Kind: office.StockStood, What: r.Name, In: size}, nil
			}
		}
		return rungID, office.Deed{Kind: office.StockCounted, What: r.Name, In: size}, t.exec(ctx, `INSERT INTO stock_event (id, rung_id, size, pieces, reason, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?)`, NewID(), rungID, size, pieces, reason, t.by.Actor, t.at)
	})
}

// handOut takes the belt of a promotion from stock, where belts of that rung and size are counted. With back
// it puts it there again.
func (t *txn) handOut(ctx context.Context, candidate, rungID, student string, back bool) error {
	type measures struct {
		noted         string
		waist, height int
	}
	m, err := one(ctx, t, func(m *measures) []any { return []any{&m.noted, &m.waist, &m.height} }, `SELECT belt_size, waist_cm, height_cm FROM student WHERE id = ?`, student)
	if err != nil {
		return err
	}
	set, err := settings(ctx, t)
	if err != nil {
		return err
	}
	size, _ := gradingday.SizeOf(set.Sizes, m.noted, m.waist, m.height)
	pieces, reason := -1, "handed out with a promotion"
	if back {
		pieces, reason = 1, "a promotion was corrected"
	}
	_, err = t.ExecContext(ctx, `INSERT INTO stock_event (id, rung_id, size, pieces, reason, candidate_id, actor, at)
		SELECT ?1, ?2, coalesce((SELECT size FROM stock_event WHERE candidate_id = ?5 AND rung_id = ?2 LIMIT 1), ?3), ?4, ?6, ?5, ?7, ?8
		WHERE EXISTS (SELECT 1 FROM stock_event WHERE rung_id = ?2 AND size = ?3) AND (SELECT coalesce(sum(pieces), 0) FROM stock_event WHERE candidate_id = ?5 AND rung_id = ?2) = ?9`,
		NewID(), rungID, size, pieces, candidate, reason, t.by.Actor, t.at, min(0, -pieces))
	return err
}
