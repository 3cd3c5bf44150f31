package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// Grading is a grading on record.
type Grading struct {
	gradingday.Grading
	Program    string
	BegunAt    time.Time // zero: still being prepared
	Candidates int
	Announced  int
	Seed       uint64            // what is drawn at it
	AnnounceAt time.Time         // when what is decided becomes known by itself; zero: when somebody announces it
	ClosedAt   time.Time         // examiners' devices are out since then; zero: they may be in
	Rungs      []curriculum.Rung // filled by Grading, not by Gradings
	names      []string          // of the rungs, lowest first
}

// RungWords names the rungs tested: all of a few, the first and the last of many.
func (g Grading) RungWords() string {
	if n := len(g.names); n > 4 {
		return fmt.Sprintf("%s to %s, %d rungs", g.names[0], g.names[n-1], n)
	}
	return strings.Join(g.names, ", ")
}

// Title is the grading's own name, or the program's.
func (g Grading) Title() string {
	if g.Name != "" {
		return g.Name
	}
	return g.Program + " grading"
}

// Begun reports whether sheets are frozen and tables open.
func (g Grading) Begun() bool { return !g.BegunAt.IsZero() }

const selectGrading = `SELECT g.id, g.program_id, p.name, g.name, g.place, g.on_date, g.marking, g.policy, g.group_size, g.retest_days, g.retest_months, g.seed, g.begun_at, g.results, g.retest_scope, g.carry_days, g.announce_at, g.closed_at,
	(SELECT count(*) FROM candidate c WHERE c.grading_id = g.id AND c.withdrawn_at IS NULL),
	(SELECT count(*) FROM candidate c JOIN announcement a ON a.candidate_id = c.id WHERE c.grading_id = g.id),
	(SELECT json_group_array(name) FROM (SELECT r.name FROM grading_rung x JOIN rung r ON r.id = x.rung_id WHERE x.grading_id = g.id ORDER BY r.position))
	FROM grading g JOIN program p ON p.id = g.program_id WHERE g.deleted_at IS NULL `

func bindGrading(g *Grading) []any {
	return []any{&g.ID, &g.ProgramID, &g.Program, &g.Name, &g.Place, asDate{&g.On}, &g.Marking, asJSON{&g.Policy}, &g.GroupSize, &g.RetestDays, &g.RetestMonths, &g.Seed, asTime{&g.BegunAt}, &g.Results, &g.RetestScope, &g.CarryDays, asTime{&g.AnnounceAt}, asTime{&g.ClosedAt}, &g.Candidates, &g.Announced, asJSON{&g.names}}
}

// Gradings are all gradings of a program ("" for all), the newest first.
func (s *Store) Gradings(ctx context.Context, program string) ([]Grading, error) {
	return list(ctx, s.r, bindGrading, selectGrading+`AND (?1 = '' OR g.program_id = ?1) ORDER BY g.on_date DESC, g.id`, program)
}

// GradingsFor are the gradings still to come, or under way, at which a rung is tested; the next first.
func (s *Store) GradingsFor(ctx context.Context, rung string) ([]Grading, error) {
	return list(ctx, s.r, bindGrading, selectGrading+`AND g.closed_at IS NULL AND g.on_date >= ? AND g.id IN (SELECT grading_id FROM grading_rung WHERE rung_id = ?) ORDER BY g.on_date, g.id`, s.Today().String(), rung)
}

// NextGrading is the first grading of a program on or after today that is not all announced.
func (s *Store) NextGrading(ctx context.Context, program string) (Grading, bool, error) {
	all, err := list(ctx, s.r, bindGrading, selectGrading+`AND g.program_id = ? AND g.on_date >= ? ORDER BY g.on_date LIMIT 1`, program, s.Today().String())
	if err != nil || len(all) == 0 {
		return Grading{}, false, err
	}
	return all[0], true, nil
}

// Grading is one grading with its rungs and examiners.
func (s *Store) Grading(ctx context.Context, id string) (Grading, error) {
	return grading(ctx, s.r, id)
}

func grading(ctx context.Context, q querier, id string) (Grading, error) {
	g, err := one(ctx, q, bindGrading, selectGrading+`AND g.id = ?`, id)
	if err != nil {
		return g, err
	}
	if g.Rungs, err = list(ctx, q, bindRung, `SELECT `+rungColumns+` FROM grading_rung x JOIN rung r ON r.id = x.rung_id WHERE x.grading_id = ? ORDER BY r.position`, id); err != nil {
		return g, err
	}
	for _, r := range g.Rungs {
		g.RungIDs = append(g.RungIDs, r.ID)
	}
	if g.Rings, err = list(ctx, q, func(r *gradingday.Ring) []any { return []any{&r.ID, &r.Name} }, `SELECT id, name FROM panel WHERE grading_id = ? ORDER BY position`, id); err != nil {
		return g, err
	}
	g.Examiners, err = list(ctx, q, func(e *gradingday.Examiner) []any {
		return []any{&e.ID, &e.Name, &e.Letter, &e.Chief, &e.Ring, &e.Absent}
	},
		`SELECT e.id, e.name, e.letter, e.chief, p.position, e.absent_at IS NOT NULL FROM examiner e JOIN panel p ON p.id = e.panel_id WHERE p.grading_id = ? ORDER BY p.position, e.position`, id)
	return g, err
}

// SaveGrading adds a grading when its ID is empty, else changes one that has not begun.
func (s *Store) SaveGrading(ctx context.Context, by By, g gradingday.Grading) (Done, error) {
	g.Name, g.Place = check.Tidy(g.Name), check.Tidy(g.Place)
	for i := range g.Examiners {
		g.Examiners[i].Name = check.Tidy(g.Examiners[i].Name)
	}
	g.Fill()
	if err := g.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		deed := office.Deed{Kind: office.GradingChanged, On: g.On, Record: g.ID}
		if g.ID == "" {
			g.ID, deed.Kind = NewID(), office.GradingPlanned
			if err := t.exec(ctx, `INSERT INTO grading (id, program_id, name, place, on_date, marking, policy, group_size, retest_days, retest_months, seed, results, retest_scope, carry_days) SELECT ?, id, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ? FROM program WHERE id = ? AND deleted_at IS NULL`,
				g.ID, g.Name, g.Place, g.On.String(), g.Marking, toJSON(g.Policy), g.GroupSize, g.RetestDays, g.RetestMonths, seedOf(g.ID), g.Results, g.RetestScope, g.CarryDays, g.ProgramID); err != nil {
				return "", office.Deed{}, err
			}
		} else {
			old, err := grading(ctx, t, g.ID)
			if err != nil {
				return "", office.Deed{}, err
			}
			if err := t.overtaken(ctx, "grading", g.ID); err != nil {
				return "", office.Deed{}, err
			}
			if old.Begun() {
				return "", office.Deed{}, refuse("This grading has begun; its rungs, panel and policy stand as they were when the tables opened.")
			}
			if err := t.exec(ctx, `UPDATE grading SET name = ?, place = ?, on_date = ?, marking = ?, policy = ?, group_size = ?, retest_days = ?, retest_months = ?, results = ?, retest_scope = ?, carry_days = ? WHERE id = ?`,
				g.Name, g.Place, g.On.String(), g.Marking, toJSON(g.Policy), g.GroupSize, g.RetestDays, g.RetestMonths, g.Results, g.RetestScope, g.CarryDays, g.ID); err != nil {
				return "", office.Deed{}, err
			}
			if stay, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM candidate WHERE grading_id = ? AND withdrawn_at IS NULL AND to_rung_id NOT IN (SELECT value FROM json_each(?))`, g.ID, toJSON(g.RungIDs)); err != nil || stay > 0 {
				return "", office.Deed{}, orErr(err, check.Problems{{Field: "rungs", Text: "candidates are entered for a rung that is no longer chosen; take them out first or choose it again"}})
			}
			for _, q := range []string{`DELETE FROM grading_rung WHERE grading_id = ?`, `DELETE FROM examiner WHERE panel_id IN (SELECT id FROM panel WHERE grading_id = ?)`} {
				if _, err := t.ExecContext(ctx, q, g.ID); err != nil {
					return "", office.Deed{}, err
				}
			}
		}
		n, err := t.ExecContext(ctx, `INSERT INTO grading_rung (grading_id, rung_id) SELECT ?, r.id FROM rung r WHERE r.program_id = ? AND r.deleted_at IS NULL AND r.id IN (SELECT value FROM json_each(?))`, g.ID, g.ProgramID, toJSON(g.RungIDs))
		if err != nil {
			return "", office.Deed{}, err
		}
		if rows, err := n.RowsAffected(); err != nil || rows != int64(len(g.RungIDs)) {
			return "", office.Deed{}, orErr(err, check.Problems{{Field: "rungs", Text: "one of the rungs is not on this program's ladder any more; choose again"}})
		}
		if err := t.saveRings(ctx, g); err != nil {
			return "", office.Deed{}, err
		}
		return g.ID, deed, t.regroup(ctx, g.ID)
	})
}

// saveRings writes the rings of a grading that has not begun, with their panels.
func (t *txn) saveRings(ctx context.Context, g gradingday.Grading) error {
	have, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM panel WHERE grading_id = ? ORDER BY position`, g.ID)
	if err != nil {
		return err
	}
	for i, r := range g.Rings {
		if i < len(have) {
			r.ID = have[i]
			err = t.exec(ctx, `UPDATE panel SET name = ? WHERE id = ?`, r.Name, r.ID)
		} else {
			r.ID = NewID()
			err = t.exec(ctx, `INSERT INTO panel (id, grading_id, name, position) VALUES (?, ?, ?, ?)`, r.ID, g.ID, r.Name, i)
		}
		if err != nil {
			return err
		}
		for k, e := range g.Panel(i) {
			if err := t.exec(ctx, `INSERT INTO examiner (id, panel_id, name, letter, chief, position) VALUES (?, ?, ?, ?, ?, ?)`, NewID(), r.ID, e.Name, e.Letter, e.Chief, k); err != nil {
				return err
			}
		}
	}
	for _, gone := range have[min(len(g.Rings), len(have)):] { // its groups go to the first ring, and are shared out anew
		for _, q := range []string{`UPDATE candidate_group SET pinned = 0, panel_id = (SELECT p.id FROM panel p JOIN panel x ON x.grading_id = p.grading_id WHERE x.id = ?1 ORDER BY p.position LIMIT 1) WHERE panel_id = ?1`, `DELETE FROM panel WHERE id = ?1`} {
			if _, err := t.ExecContext(ctx, q, gone); err != nil {
				return err
			}
		}
	}
	return nil
}

func orErr(err, otherwise error) error {
	if err != nil {
		return err
	}
	return otherwise
}

// DeleteGrading takes out a grading that has not begun.
func (s *Store) DeleteGrading(ctx context.Context, by By, id string) (Done, error) {
	return s.takeOut(ctx, by, "grading", id)
}

func gradingFree(ctx context.Context, t *txn, id string) error {
	return t.free(ctx, "grading", id, reference{`SELECT count(*) FROM grading WHERE id = ? AND begun_at IS NOT NULL`, "it has begun, and its marks stay on record", ""})
}

// Candidate is someone entered for a grading.
type Candidate struct {
	ID, GradingID, GroupID, Group string
	RingID                        string
	EnrolmentID, StudentID, Name  string
	Number                        int
	Stance                        progress.Stance // "" not known
	From, To                      curriculum.Rung
	FromWords, ToWords            string
	SheetID, Reason               string
}

const selectCandidate = `SELECT c.id, c.grading_id, c.group_id, o.name, o.panel_id, c.enrolment_id, s.id, s.name, s.stance, c.number, c.from_words, c.to_words, c.sheet_id, c.reason,
	f.id, f.program_id, f.position, f.kind, f.name, f.cloth, r.id, r.program_id, r.position, r.kind, r.name, r.cloth
	FROM candidate c JOIN candidate_group o ON o.id = c.group_id JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id
	JOIN rung f ON f.id = c.from_rung_id JOIN rung r ON r.id = c.to_rung_id WHERE c.withdrawn_at IS NULL `

func bindCandidate(c *Candidate) []any {
	out := []any{&c.ID, &c.GradingID, &c.GroupID, &c.Group, &c.RingID, &c.EnrolmentID, &c.StudentID, &c.Name, &c.Stance, &c.Number, &c.FromWords, &c.ToWords, asText{&c.SheetID}, &c.Reason}
	return append(append(out, bindRung(&c.From)...), bindRung(&c.To)...)
}

// Candidates are those entered for a grading, in their order.
func (s *Store) Candidates(ctx context.Context, grading string) ([]Candidate, error) {
	return candidates(ctx, s.r, grading, "")
}

// candidates are all of a grading, or only one of them.
func candidates(ctx context.Context, q querier, grading, only string) ([]Candidate, error) {
	if only != "" {
		return list(ctx, q, bindCandidate, selectCandidate+`AND c.grading_id = ? AND c.id = ?`, grading, only)
	}
	return list(ctx, q, bindCandidate, selectCandidate+`AND c.grading_id = ? ORDER BY o.position, o.id, c.number`, grading)
}

// Entrant is an enrolment to be entered for a grading. To is the rung to be tested; "" is
// the one above where the student stands. Anyone not on the rung below To, and anyone who may not be tested yet,
// needs a Reason.
type Entrant struct{ EnrolmentID, To, Reason string }

// AddCandidates enters students for a grading; all or none.
func (s *Store) AddCandidates(ctx context.Context, by By, gradingID string, entrants []Entrant) (Done, error) {
	if len(entrants) == 0 {
		return Done{}, check.Problems{{Field: "candidates", Text: "nobody is chosen; tick at least one student"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, err := grading(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		return gradingID, office.CandidatesEntered.Many(len(entrants)), t.enter(ctx, g, entrants)
	})
}

// enter puts students on the list of a grading, and into its groups.
// It is long: the refusals stand in the order in which they are told.
func (t *txn) enter(ctx context.Context, g Grading, entrants []Entrant) error {
	ladder, err := list(ctx, t, bindRung, `SELECT `+rungColumns+` FROM rung r WHERE r.program_id = ? AND r.deleted_at IS NULL ORDER BY r.position`, g.ProgramID)
	if err != nil {
		return err
	}
	entered, err := candidates(ctx, t, g.ID, "")
	if err != nil {
		return err
	}
	group := ""
	for i, e := range entrants {
		st, err := one(ctx, t, bindStanding, selectStanding+`WHERE e.id = ? AND e.ended_on IS NULL`, e.EnrolmentID)
		if err != nil {
			return err
		}
		if st.ProgramID != g.ProgramID {
			return refuse("%s climbs %s, and this is a grading in %s.", st.Name, st.Program, g.Program)
		}
		if slices.ContainsFunc(entered, func(c Candidate) bool { return c.EnrolmentID == e.EnrolmentID }) {
			return refuse("%s is entered for this grading already.", st.Name)
		}
		at := slices.IndexFunc(ladder, func(r curriculum.Rung) bool { return r.ID == st.Rung.ID })
		to := slices.IndexFunc(ladder, func(r curriculum.Rung) bool { return r.ID == e.To })
		if e.To == "" && at+1 < len(ladder) {
			to = at + 1
		}
		if to < 0 || !slices.Contains(g.RungIDs, ladder[to].ID) {
			return refuse("%s stands on %s; the rung above is not tested at this grading.", st.Name, st.Rung.Name)
		}
		if reason := check.Tidy(e.Reason); to != at+1 && reason == "" {
			return check.Problems{{Field: "reason", Text: fmt.Sprintf("%s stands on %s, which is not the rung below %s; say why the test is allowed", st.Name, st.Rung.Name, ladder[to].Name)}}
		}
		if to == at+1 {
			if err := t.mayTest(ctx, g, st.EnrolmentID, check.Tidy(e.Reason)); err != nil {
				return err
			}
		}
		if group == "" {
			group = NewID()
			if err := t.exec(ctx, `INSERT INTO candidate_group (id, grading_id, panel_id, name, position) SELECT ?1, ?2, p.id, 'late', (SELECT count(*) FROM candidate_group WHERE grading_id = ?2) FROM panel p WHERE p.grading_id = ?2 ORDER BY p.position LIMIT 1`, group, g.ID); err != nil {
				return err
			}
		}
		if err := t.exec(ctx, `INSERT INTO candidate (id, grading_id, group_id, enrolment_id, number, from_rung_id, from_words, to_rung_id, to_words, reason) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			NewID(), g.ID, group, st.EnrolmentID, len(entered)+i+1, st.Rung.ID, st.Rung.Name, ladder[to].ID, ladder[to].Name, check.Tidy(e.Reason)); err != nil {
			return err
		}
	}
	if g.Begun() {
		if err := t.freeze(ctx, g); err != nil {
			return err
		}
	}
	return t.regroup(ctx, g.ID)
}

// WithdrawCandidate takes a candidate out of a grading, with the reason; marks given already stay on record. Where there
// are marks, sure must be set: the sheet is closed to its examiners.
func (s *Store) WithdrawCandidate(ctx context.Context, by By, id, reason string, sure bool) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	p.Line("reason", reason, check.LineLength)
	if err := p.Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		c, err := one(ctx, t, bindCandidate, selectCandidate+`AND c.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		if told, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM announcement WHERE candidate_id = ?`, id); err != nil || told > 0 {
			return "", office.Deed{}, orErr(err, refuse("%s's result has been announced; it stays on record.", c.Name))
		}
		marks, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM mark WHERE candidate_id = ? AND kind <> 'open'`, id)
		switch {
		case err != nil:
			return "", office.Deed{}, err
		case marks > 0 && reason == "":
			return "", office.Deed{}, check.Problems{{Field: "reason", Text: fmt.Sprintf("is empty; %s has %s already: say why the test is left, it stays on record", c.Name, check.Count(marks, "mark"))}}
		case marks > 0 && !sure:
			return "", office.Deed{}, refuse("%s has %s already. They stay on record, and the sheet is closed to its examiners; say that it is meant.", c.Name, check.Count(marks, "mark"))
		}
		if err := t.exec(ctx, `UPDATE candidate SET withdrawn_at = ? WHERE id = ?`, t.at, id); err != nil {
			return "", office.Deed{}, err
		}
		event, err := t.leaves(ctx, id, "left", reason)
		if err != nil {
			return "", office.Deed{}, err
		}
		return c.GradingID, office.Deed{Kind: office.CandidateWithdrawn, Who: c.StudentID, Entry: event}, t.regroup(ctx, c.GradingID)
	})
}

func (t *txn) leaves(ctx context.Context, candidate, kind, reason string) (id string, err error) {
	id = NewID()
	return id, t.exec(ctx, `INSERT INTO withdrawal_event (id, candidate_id, kind, reason, actor, at) VALUES (?, ?, ?, ?, ?, ?)`, id, candidate, kind, reason, t.by.Actor, t.at)
}

// BringBack takes back that a candidate left: they stand on the same sheet again, with the same marks.
func (s *Store) BringBack(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		type row struct{ grading, enrolment, student, name, left string }
		c, err := one(ctx, t, func(x *row) []any {
			return []any{&x.grading, &x.enrolment, &x.student, &x.name, asText{&x.left}}
		}, `SELECT c.grading_id, c.enrolment_id, s.id, s.name, c.withdrawn_at FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		again, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM candidate WHERE grading_id = ? AND enrolment_id = ? AND withdrawn_at IS NULL`, c.grading, c.enrolment)
		switch {
		case err != nil:
			return "", office.Deed{}, err
		case c.left == "" || again > 0:
			return "", office.Deed{}, refuse("%s is entered for this grading.", c.name)
		}
		if err := t.exec(ctx, `UPDATE candidate SET withdrawn_at = NULL WHERE id = ?`, id); err != nil {
			return "", office.Deed{}, err
		}
		event, err := t.leaves(ctx, id, "back", "")
		if err != nil {
			return "", office.Deed{}, err
		}
		g, err := grading(ctx, t, c.grading)
		if err == nil && g.Begun() {
			err = t.freeze(ctx, g)
		}
		if err != nil {
			return "", office.Deed{}, err
		}
		return c.grading, office.Deed{Kind: office.CandidateBack, Who: c.student, Entry: event}, t.regroup(ctx, c.grading)
	})
}

// Left is somebody who left a grading.
type Left struct {
	CandidateID, EnrolmentID, StudentID, Name string
	GradingID, Grading, ToWords               string
	On                                        civil.Date
	Reason, Actor                             string
	At                                        time.Time
	Marks                                     int
}

// WhoLeft are those who left a grading, or, with an enrolment, the gradings it left; the latest first. Whoever came back
// or was entered again is none of them.
func (s *Store) WhoLeft(ctx context.Context, gradingID, enrolment string) ([]Left, error) {
	where, of := `c.grading_id = ?`, gradingID
	if enrolment != "" {
		where, of = `c.enrolment_id = ?`, enrolment
	}
	return list(ctx, s.r, func(x *Left) []any {
		return []any{&x.CandidateID, &x.EnrolmentID, &x.StudentID, &x.Name, &x.GradingID, &x.Grading, &x.ToWords, asDate{&x.On}, &x.Reason, &x.Actor, asTime{&x.At}, &x.Marks}
	}, `SELECT c.id, c.enrolment_id, s.id, s.name, g.id, coalesce(nullif(g.name, ''), p.name || ' grading'), c.to_words, g.on_date, coalesce(w.reason, ''), coalesce(w.actor, ''), c.withdrawn_at,
			(SELECT count(*) FROM mark m WHERE m.candidate_id = c.id AND m.kind <> 'open')
		FROM candidate c JOIN grading g ON g.id = c.grading_id JOIN program p ON p.id = g.program_id JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id
			LEFT JOIN withdrawal_event w ON w.rowid = (SELECT max(x.rowid) FROM withdrawal_event x WHERE x.candidate_id = c.id)
		WHERE `+where+` AND c.withdrawn_at IS NOT NULL AND g.deleted_at IS NULL
			AND NOT EXISTS (SELECT 1 FROM candidate n WHERE n.grading_id = c.grading_id AND n.enrolment_id = c.enrolment_id AND (n.withdrawn_at IS NULL OR n.rowid > c.rowid))
		ORDER BY c.withdrawn_at DESC`, of)
}

// regroup shares the candidates who have no marks yet over groups: those tested for one
// rung stand together, at most the grading's group size. Groups in which marking has begun
// or that are signed stay as they are.
// It is long: groups are formed, placed and numbered in one go, of which each step needs what the one before
// wrote.
func (t *txn) regroup(ctx context.Context, gradingID string) error {
	g, err := grading(ctx, t, gradingID)
	if err != nil {
		return err
	}
	type seat struct {
		id, to    string
		pos       int
		enrolment string
		key       string // who stands in a group shares rung, track and version
	}
	const fixed = `(SELECT id FROM candidate_group WHERE grading_id = ?1 AND pinned = 1 UNION SELECT c.group_id FROM candidate c JOIN mark_event m ON m.candidate_id = c.id WHERE c.grading_id = ?1 UNION SELECT s.group_id FROM signature_event s JOIN candidate_group o ON o.id = s.group_id WHERE o.grading_id = ?1)`
	seats, err := list(ctx, t, func(x *seat) []any { return []any{&x.id, &x.to, &x.pos, &x.enrolment} },
		`SELECT c.id, c.to_rung_id, r.position, c.enrolment_id FROM candidate c JOIN rung r ON r.id = c.to_rung_id JOIN candidate_group o ON o.id = c.group_id WHERE c.grading_id = ?1 AND c.withdrawn_at IS NULL AND c.group_id NOT IN `+fixed+` ORDER BY r.position DESC, o.position, c.number`, gradingID)
	if err != nil {
		return err
	}
	names, err := list(ctx, t, func(n *string) []any { return []any{n} }, `SELECT name FROM candidate_group WHERE grading_id = ?1 AND id IN `+fixed, gradingID)
	if err != nil {
		return err
	}
	kept, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT coalesce(max(position) + 1, 0) FROM candidate_group WHERE grading_id = ?1 AND id IN `+fixed, gradingID)
	if err != nil {
		return err
	}
	free := 0
	name := func() string { // the next that no group has
		for free++; slices.Contains(names, fmt.Sprintf("Group %d", free)); free++ {
		}
		return fmt.Sprintf("Group %d", free)
	}
	made := []string{}
	who, err := t.climbingBy(ctx, g)
	if err != nil {
		return err
	}
	for i := range seats {
		w := who[seats[i].enrolment]
		seats[i].key = seats[i].to + " " + w.track + " " + w.version
	}
	// Higher rungs first; within a rung the tracks in their order of first appearance.
	first := map[string]int{}
	for i, x := range seats {
		if _, there := first[x.key]; !there {
			first[x.key] = i
		}
	}
	slices.SortStableFunc(seats, func(x, y seat) int { return cmp.Or(cmp.Compare(y.pos, x.pos), cmp.Compare(first[x.key], first[y.key])) })
	// The ring with the least to see takes the next group.
	type load struct {
		id string
		n  int
	}
	rings, err := list(ctx, t, func(x *load) []any { return []any{&x.id, &x.n} },
		`SELECT p.id, (SELECT count(*) FROM candidate c JOIN candidate_group o ON o.id = c.group_id WHERE o.panel_id = p.id AND c.withdrawn_at IS NULL AND o.id IN `+fixed+`) FROM panel p WHERE p.grading_id = ?1 ORDER BY p.position`, gradingID)
	if err != nil || len(rings) == 0 {
		return err
	}
	for len(seats) > 0 {
		same := slices.IndexFunc(seats, func(x seat) bool { return x.key != seats[0].key })
		if same < 0 {
			same = len(seats)
		}
		rest := seats[:same]
		for _, size := range gradingday.Split(same, g.GroupSize) {
			id := NewID()
			least := slices.MinFunc(rings, func(x, y load) int { return cmp.Compare(x.n, y.n) })
			for i := range rings {
				if rings[i].id == least.id {
					rings[i].n += size
				}
			}
			if err := t.exec(ctx, `INSERT INTO candidate_group (id, grading_id, panel_id, name, position) VALUES (?, ?, ?, ?, ?)`,
				id, gradingID, least.id, name(), kept+len(made)); err != nil {
				return err
			}
			for i, x := range rest[:size] {
				if err := t.exec(ctx, `UPDATE candidate SET group_id = ?, number = ? WHERE id = ?`, id, i+1, x.id); err != nil {
					return err
				}
			}
			made, rest = append(made, id), rest[size:]
		}
		seats = seats[same:]
	}
	// Groups that stand empty now hold nothing anyone did.
	if _, err = t.ExecContext(ctx, `DELETE FROM candidate_group WHERE grading_id = ?1 AND id NOT IN `+fixed+` AND id NOT IN (SELECT group_id FROM candidate WHERE grading_id = ?1)`, gradingID); err != nil {
		return err
	}
	return t.followPlan(ctx, gradingID)
}

// MoveGroup puts a group in another ring, where it stays. A group in which marking has begun
// stays where it is: its marks are by the examiners of its ring.
func (s *Store) MoveGroup(ctx context.Context, by By, group, ring string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		type place struct {
			name, grading string
			marked        int
		}
		g, err := one(ctx, t, func(p *place) []any { return []any{&p.name, &p.grading, &p.marked} },
			`SELECT o.name, o.grading_id, (SELECT count(*) FROM candidate c JOIN mark_event m ON m.candidate_id = c.id WHERE c.group_id = o.id) + (SELECT count(*) FROM signature_event x WHERE x.group_id = o.id) FROM candidate_group o WHERE o.id = ?`, group)
		if err != nil {
			return "", office.Deed{}, err
		}
		if g.marked > 0 {
			return "", office.Deed{}, refuse("%s has marks by the examiners of its ring; it stays there.", g.name)
		}
		to, err := one(ctx, t, func(n *string) []any { return []any{n} }, `SELECT name FROM panel WHERE id = ? AND grading_id = ?`, ring, g.grading)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := t.exec(ctx, `UPDATE candidate_group SET panel_id = ?, pinned = 1 WHERE id = ?`, ring, group); err != nil {
			return "", office.Deed{}, err
		}
		return g.grading, office.Deed{Kind: office.GroupToRing, What: g.name, In: to}, t.followPlan(ctx, g.grading)
	})
}

// Begin freezes the test sheets and opens the tables.
func (s *Store) Begin(ctx context.Context, by By, gradingID string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, err := grading(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		switch {
		case g.Begun():
			return "", office.Deed{}, refuse("This grading has begun already.")
		case g.Candidates == 0:
			return "", office.Deed{}, refuse("Nobody is entered yet; add candidates first.")
		case s.Today().Before(g.On):
			return "", office.Deed{}, refuse("This grading is on %s. Tables open on the day; to begin sooner, change the date.", g.On.Long())
		}
		if err := t.chiefsThere(ctx, g); err != nil {
			return "", office.Deed{}, err
		}
		if err := t.exec(ctx, `UPDATE grading SET begun_at = ? WHERE id = ?`, t.at, gradingID); err != nil {
			return "", office.Deed{}, err
		}
		return gradingID, office.GradingBegun.Named(g.Title()), t.freeze(ctx, g)
	})
}

// Attempt is one grading an enrolment took part in.
type Attempt struct {
	CandidateID        string
	GradingID, Grading string
	On                 civil.Date
	ToWords            string
	Outcome            scoring.Outcome // "" until announced
	RetestFrom         civil.Date
	Reason             string
}

// Attempts are the gradings of a student in a program, the newest first. Outcomes show only
// once announced.
func (s *Store) Attempts(ctx context.Context, enrolment string) ([]Attempt, error) {
	return list(ctx, s.r, func(a *Attempt) []any {
		return []any{&a.CandidateID, &a.GradingID, &a.Grading, asDate{&a.On}, &a.ToWords, asOutcome{&a.Outcome}, asDate{&a.RetestFrom}, asText{&a.Reason}}
	}, `SELECT c.id, g.id, coalesce(nullif(g.name, ''), p.name || ' grading'), g.on_date, c.to_words, d.outcome, d.retest_from, d.reason
		FROM candidate c JOIN grading g ON g.id = c.grading_id JOIN program p ON p.id = g.program_id
		LEFT JOIN announcement a ON a.candidate_id = c.id LEFT JOIN decision d ON d.candidate_id = a.candidate_id
		WHERE c.enrolment_id = ? AND c.withdrawn_at IS NULL AND g.deleted_at IS NULL ORDER BY g.on_date DESC`, enrolment)
}

// asOutcome scans an outcome; NULL is "".
type asOutcome struct{ o *scoring.Outcome }

// Scan implements sql.Scanner.
func (a asOutcome) Scan(src any) error {
	text, _ := src.(string)
	*a.o = scoring.Outcome(text)
	return nil
}

// Planned is a grading to come that tests a rung.
type Planned struct {
	ID, Title string
	On        civil.Date
	Entered   bool // the enrolment asked about is a candidate
}

// PlannedFor are the gradings from today on that test a rung, the next one first.
func (s *Store) PlannedFor(ctx context.Context, rung, enrolment string) ([]Planned, error) {
	return list(ctx, s.r, func(p *Planned) []any { return []any{&p.ID, &p.Title, asDate{&p.On}, &p.Entered} },
		`SELECT g.id, coalesce(nullif(g.name, ''), p.name || ' grading'), g.on_date, EXISTS (SELECT 1 FROM candidate c WHERE c.grading_id = g.id AND c.enrolment_id = ?3 AND c.withdrawn_at IS NULL)
		FROM grading g JOIN program p ON p.id = g.program_id JOIN grading_rung x ON x.grading_id = g.id AND x.rung_id = ?1 WHERE g.deleted_at IS NULL AND g.on_date >= ?2 ORDER BY g.on_date, g.id`, rung, s.Today().String(), enrolment)
}
