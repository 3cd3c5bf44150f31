package store

import (
	"context"
	"errors"
	"slices"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// RingCall is what a ring's caller calls now.
type RingCall struct {
	GroupID string `json:"group"`
	Line    int    `json:"line"` // place in the group's running order, from 0
	Set     int    `json:"set"`  // side or round, from 0
	Version int    `json:"version"`
}

// RingState is what a ring's devices agree on.
type RingState struct {
	Call  RingCall
	Clock gradingday.Clock
}

// Ring is a ring with its panel and its groups.
type Ring struct {
	gradingday.Ring
	Index   int
	Grading Grading
	Panel   []gradingday.Examiner
	Groups  []RingGroup
	State   RingState
}

// RingGroup is a group in the ring's order.
type RingGroup struct {
	ID, Name   string
	Candidates []Candidate
}

// Ring reads a ring.
func (s *Store) Ring(ctx context.Context, id string) (Ring, error) {
	var out Ring
	of, err := one(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT grading_id FROM panel WHERE id = ?`, id)
	if err != nil {
		return out, err
	}
	if out.Grading, err = s.Grading(ctx, of); err != nil {
		return out, err
	}
	out.Index, out.Panel = out.Grading.PanelOf(id)
	out.Ring = out.Grading.Rings[out.Index]
	all, err := s.Candidates(ctx, of)
	if err != nil {
		return out, err
	}
	for _, c := range all {
		if c.RingID != id {
			continue
		}
		if n := len(out.Groups); n == 0 || out.Groups[n-1].ID != c.GroupID {
			out.Groups = append(out.Groups, RingGroup{ID: c.GroupID, Name: c.Group})
		}
		last := &out.Groups[len(out.Groups)-1]
		last.Candidates = append(last.Candidates, c)
	}
	out.State, err = ringState(ctx, s.r, id)
	return out, err
}

// ChiefOf is the chief examiner of a candidate's ring; "" where it has none.
func (s *Store) ChiefOf(ctx context.Context, candidate string) (string, error) {
	id, err := one(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT e.id FROM candidate c JOIN candidate_group o ON o.id = c.group_id JOIN examiner e ON e.panel_id = o.panel_id AND e.chief = 1 WHERE c.id = ?`, candidate)
	return id, ignoreMissing(err)
}

// PanelOfGroup are the ids of the examiners who mark a group.
func (s *Store) PanelOfGroup(ctx context.Context, group string) ([]string, error) {
	return list(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT e.id FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id WHERE o.id = ?`, group)
}

// GroupGrading is the grading a group belongs to.
func (s *Store) GroupGrading(ctx context.Context, group string) (string, error) {
	return one(ctx, s.r, func(id *string) []any { return []any{id} }, `SELECT grading_id FROM candidate_group WHERE id = ?`, group)
}

func ringState(ctx context.Context, q querier, ring string) (RingState, error) {
	x, err := one(ctx, q, func(x *RingState) []any { return []any{asJSON{&x.Call}, asJSON{&x.Clock}} }, `SELECT called, clock FROM ring_state WHERE panel_id = ?`, ring)
	return x, ignoreMissing(err)
}

// ClockDeed is something done to a ring's clock.
type ClockDeed string

// The deeds.
const (
	ClockSet   ClockDeed = "set"
	ClockStart ClockDeed = "start"
	ClockPause ClockDeed = "pause"
	ClockReset ClockDeed = "reset"
	ClockClear ClockDeed = "clear"
)

// RunClock does something to a ring's clock at the server's time. as is the clock to be set.
func (s *Store) RunClock(ctx context.Context, by By, ring string, deed ClockDeed, as gradingday.Clock) (RingState, error) {
	if deed == ClockSet {
		if err := as.Check().Err(); err != nil {
			return RingState{}, err
		}
	}
	return s.changeRing(ctx, by, ring, func(x *RingState) error {
		now := s.now().UnixMilli()
		switch deed {
		case ClockSet:
			x.Clock = gradingday.Clock{Label: as.Label, Seconds: as.Seconds, Rounds: as.Rounds, Rest: as.Rest, Cue: as.Cue, Version: x.Clock.Version + 1}
		case ClockStart:
			x.Clock = x.Clock.Start(now)
		case ClockPause:
			x.Clock = x.Clock.Pause(now)
		case ClockReset:
			x.Clock = x.Clock.Reset()
		case ClockClear:
			x.Clock = gradingday.Clock{Version: x.Clock.Version + 1}
		default:
			return refuse("A clock can be set, started, paused, reset or cleared.")
		}
		return nil
	})
}

// Call says what a ring calls now.
func (s *Store) Call(ctx context.Context, by By, ring string, call RingCall) (RingState, error) {
	in, err := s.Ring(ctx, ring)
	if err != nil {
		return RingState{}, err
	}
	if !slices.ContainsFunc(in.Groups, func(g RingGroup) bool { return g.ID == call.GroupID }) || call.Line < 0 || call.Line > 1000 || call.Set < 0 || call.Set > 100 {
		return RingState{}, refuse("This group is not in %s, or the line is none of its sheet.", in.Name)
	}
	return s.changeRing(ctx, by, ring, func(x *RingState) error {
		call.Version = x.Call.Version + 1
		x.Call = call
		return nil
	})
}

func (s *Store) changeRing(ctx context.Context, by By, ring string, change func(*RingState) error) (out RingState, err error) {
	_, err = s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		begun, err := one(ctx, t, func(b *bool) []any { return []any{b} }, `SELECT g.begun_at IS NOT NULL FROM panel p JOIN grading g ON g.id = p.grading_id WHERE p.id = ? AND g.deleted_at IS NULL`, ring)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !begun {
			return "", office.Deed{}, refuse("The tables are not open yet; open them first.")
		}
		if out, err = ringState(ctx, t, ring); err != nil {
			return "", office.Deed{}, err
		}
		if err := change(&out); err != nil {
			return "", office.Deed{}, err
		}
		return ring, office.Deed{}, t.exec(ctx, `INSERT INTO ring_state (panel_id, called, clock) VALUES (?1, ?2, ?3) ON CONFLICT (panel_id) DO UPDATE SET called = ?2, clock = ?3`, ring, toJSON(out.Call), toJSON(out.Clock))
	})
	return out, err
}

// RunningOrder is what is called for a group, merged over its candidates' sheets.
func (s *Store) RunningOrder(ctx context.Context, g Grading, group []Candidate) ([]gradingday.GroupItem, error) {
	all, err := sheets(ctx, s.r, g.ID)
	return gradingday.Merge(g.Marking, onSheets(group), all), err
}

// HeadState is how far a whole grading is, without any mark.
type HeadState struct {
	Groups []gradingday.GroupState
	Tables []gradingday.TableState
	Faults []WaitingFault // that would end a test, to be confirmed
	Rings  map[string]RingState
	Called []CalledLine // where the callers are
}

// WaitingFault is a fault with whom it is about.
type WaitingFault struct {
	gradingday.Fault
	Name, Examiner, GroupID string
}

// Head sums up a grading for the head table: counts and places, never marks.
// It is long: a query for each thing the head table shows.
func (s *Store) Head(ctx context.Context, gradingID string) (HeadState, error) {
	out := HeadState{Rings: map[string]RingState{}}
	tx, err := s.r.BeginTx(ctx, nil)
	if err != nil {
		return out, err
	}
	defer tx.Rollback()
	if out.Tables, err = list(ctx, tx, func(x *gradingday.TableState) []any {
		return []any{&x.ExaminerID, &x.GroupID, &x.Of, &x.Signed, &x.Absent}
	},
		`WITH asked AS (SELECT c.group_id, count(*) AS n FROM candidate c JOIN test_item i ON i.sheet_id = c.sheet_id AND i.carried IS NULL WHERE c.grading_id = ?1 AND c.withdrawn_at IS NULL GROUP BY c.group_id)
		SELECT e.id, o.id, a.n, EXISTS (SELECT 1 FROM signature x WHERE x.examiner_id = e.id AND x.group_id = o.id), e.absent_at IS NOT NULL
		FROM candidate_group o JOIN examiner e ON e.panel_id = o.panel_id JOIN asked a ON a.group_id = o.id WHERE o.grading_id = ?1 ORDER BY o.position, e.position`, gradingID); err != nil {
		return out, err
	}
	if err := givenSoFar(ctx, tx, gradingID, out.Tables); err != nil {
		return out, err
	}
	orders, err := s.orders(ctx, tx, gradingID)
	if err != nil {
		return out, err
	}
	if err := lastMarked(ctx, tx, gradingID, out.Tables, orders); err != nil {
		return out, err
	}
	again, half, err := calledAgain(ctx, tx, gradingID, orders)
	if err != nil {
		return out, err
	}
	byGroup := map[string][]gradingday.TableState{}
	var order []string
	for _, t := range out.Tables {
		if len(byGroup[t.GroupID]) == 0 {
			order = append(order, t.GroupID)
		}
		byGroup[t.GroupID] = append(byGroup[t.GroupID], t)
	}
	for _, g := range order {
		state := gradingday.StateOf(g, byGroup[g], again[g])
		state.Half = half[g]
		out.Groups = append(out.Groups, state)
	}
	if out.Faults, err = list(ctx, tx, func(f *WaitingFault) []any {
		return append(bindFault(&f.Fault), &f.Name, &f.Examiner, &f.GroupID)
	}, `SELECT f.id, f.candidate_id, f.examiner_id, f.kind, f.points, f.conduct, f.bout_id, f.text, f.supersedes, s.name, e.name, c.group_id FROM fault f JOIN candidate c ON c.id = f.candidate_id JOIN examiner e ON e.id = f.examiner_id
		JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id WHERE c.grading_id = ? AND f.kind = 'ending' ORDER BY f.at`, gradingID); err != nil {
		return out, err
	}
	type state struct {
		ring string
		RingState
	}
	rings, err := list(ctx, tx, func(x *state) []any { return []any{&x.ring, asJSON{&x.Call}, asJSON{&x.Clock}} }, `SELECT p.id, r.called, r.clock FROM panel p JOIN ring_state r ON r.panel_id = p.id WHERE p.grading_id = ?`, gradingID)
	for _, r := range rings {
		out.Rings[r.ring] = r.RingState
	}
	for _, x := range out.Rings {
		if lines := orders[x.Call.GroupID].lines; x.Call.Line < len(lines) {
			out.Called = append(out.Called, CalledLine{x.Call.GroupID, lines[x.Call.Line]})
		}
	}
	return out, err
}

// CalledLine is where a group's caller is: the number of a line in the running order.
type CalledLine struct{ GroupID, Number string }

// order is how a group's lines are numbered. The sheets of a grading that has begun are frozen, so it holds as long
// as the same candidates stand in the group with the same sheets.
type order struct {
	of      string         // who stands in the group with which sheet
	numbers map[string]int // item → number
	lines   []string       // numbers in the order they are called, prompts by themselves
	shown   map[int]int    // number → candidates who are asked it
}

// asked is how many candidates of the group are asked a line.
func (x order) asked(number int) int { return x.shown[number] }

// orders are the running orders of a grading's groups, kept from one reading of the head table to the next.
func (s *Store) orders(ctx context.Context, q querier, gradingID string) (map[string]order, error) {
	type row struct{ group, candidate, sheet string }
	rows, err := list(ctx, q, func(x *row) []any { return []any{&x.group, &x.candidate, asText{&x.sheet}} },
		`SELECT group_id, id, sheet_id FROM candidate WHERE grading_id = ? AND withdrawn_at IS NULL AND group_id IS NOT NULL ORDER BY group_id, number`, gradingID)
	if err != nil {
		return nil, err
	}
	groups := map[string][]gradingday.OnSheet{}
	of := map[string]string{}
	for _, x := range rows {
		groups[x.group] = append(groups[x.group], gradingday.OnSheet{Candidate: x.candidate, Sheet: x.sheet})
		of[x.group] += x.candidate + " " + x.sheet + "\n"
	}
	out := map[string]order{}
	var all map[string][]gradingday.Item
	var marking gradingday.Marking
	for group, who := range groups {
		if kept, there := s.ordered.Load(group); there && kept.(order).of == of[group] {
			out[group] = kept.(order)
			continue
		}
		if all == nil {
			if all, err = sheets(ctx, q, gradingID); err != nil {
				return nil, err
			}
			if marking, err = one(ctx, q, func(m *gradingday.Marking) []any { return []any{m} }, `SELECT marking FROM grading WHERE id = ?`, gradingID); err != nil {
				return nil, err
			}
		}
		x := order{of: of[group], numbers: map[string]int{}, shown: map[int]int{}}
		for _, it := range gradingday.Merge(marking, who, all) {
			for _, id := range it.IDs {
				x.numbers[id] = it.Number
			}
			x.shown[it.Number] = len(it.IDs)
			for k := range it.Lines {
				x.lines = append(x.lines, it.LineNumber(k))
			}
		}
		s.ordered.Store(group, x)
		out[group] = x
	}
	return out, nil
}

// calledAgain is what has to be called again at a grading, by group: what nobody saw, and what an examiner asks for
// again; and what one examiner did not see of most of a group.
func calledAgain(ctx context.Context, q querier, gradingID string, orders map[string]order) (again map[string][]gradingday.Unseen, half map[string][]gradingday.HalfSeen, err error) {
	type entry struct {
		gradingday.Unseen
		group, item, examiner string
		notSeen, ended        bool
		panel                 int
	}
	rows, err := list(ctx, q, func(x *entry) []any {
		return []any{&x.Candidate, &x.Name, &x.Item, &x.item, &x.group, &x.examiner, &x.notSeen, &x.Why, &x.panel, &x.ended}
	}, `SELECT c.id, s.name, i.label, i.id, c.group_id, e.name, m.kind = 'not_seen', m.again, (SELECT count(*) FROM examiner x WHERE x.panel_id = o.panel_id AND x.absent_at IS NULL),
			EXISTS (SELECT 1 FROM fault f WHERE f.candidate_id = c.id AND f.kind = 'ending_confirmed')
				OR EXISTS (SELECT 1 FROM mark y JOIN examiner z ON z.id = y.examiner_id AND z.absent_at IS NOT NULL WHERE y.candidate_id = c.id AND y.item_id = i.id AND y.kind = 'mark')
		FROM candidate c JOIN candidate_group o ON o.id = c.group_id JOIN enrolment n ON n.id = c.enrolment_id JOIN student s ON s.id = n.student_id
		JOIN mark m ON m.candidate_id = c.id AND (m.kind = 'not_seen' OR m.again <> '') JOIN test_item i ON i.id = m.item_id JOIN examiner e ON e.id = m.examiner_id AND e.absent_at IS NULL
		WHERE c.grading_id = ? AND c.withdrawn_at IS NULL AND i.bonus = 0 ORDER BY c.number, i.position, e.position`, gradingID)
	if err != nil {
		return nil, nil, err
	}
	again, half = map[string][]gradingday.Unseen{}, map[string][]gradingday.HalfSeen{}
	type place struct{ candidate, item string }
	type seen struct {
		group, examiner string
		line            int
	}
	unseen, few := map[place]int{}, map[seen]gradingday.HalfSeen{}
	var inOrder []seen
	for _, x := range rows {
		if x.Line = orders[x.group].numbers[x.item]; x.Why != "" && !x.ended {
			ask := x.Unseen
			ask.By = x.examiner
			again[x.group] = append(again[x.group], ask)
		}
		if !x.notSeen {
			continue
		}
		at := place{x.Candidate, x.item}
		if unseen[at]++; gradingday.NobodySaw(unseen[at], x.panel, x.ended) {
			u := x.Unseen
			u.Why = ""
			again[x.group] = append(again[x.group], u)
		}
		of := seen{x.group, x.examiner, x.Line}
		h, there := few[of]
		if !there {
			inOrder = append(inOrder, of)
		}
		few[of] = gradingday.HalfSeen{Examiner: x.examiner, Item: x.Item, Line: x.Line, NotSeen: h.NotSeen + 1, Of: orders[x.group].asked(x.Line)}
	}
	for _, of := range inOrder {
		called := slices.ContainsFunc(again[of.group], func(u gradingday.Unseen) bool { return u.Line == of.line && u.By == "" })
		if h := few[of]; gradingday.MostlyUnseen(h.NotSeen, h.Of) && !called {
			half[of.group] = append(half[of.group], h)
		}
	}
	return again, half, nil
}

// givenSoFar counts the entries of each table. At
// each place one entry stands, so it counts the first of each, from an index alone, less the few
// places that were opened again.
func givenSoFar(ctx context.Context, q querier, gradingID string, tables []gradingday.TableState) error {
	at := map[[2]string]*gradingday.TableState{}
	for i := range tables {
		at[[2]string{tables[i].GroupID, tables[i].ExaminerID}] = &tables[i]
	}
	type place struct {
		group, examiner string
		n               int
	}
	for sign, query := range map[int]string{
		1:  `SELECT c.group_id, m.examiner_id, count(*) FROM candidate c CROSS JOIN mark_event m INDEXED BY mark_event_first ON m.candidate_id = c.id AND m.supersedes IS NULL WHERE c.grading_id = ? AND c.withdrawn_at IS NULL GROUP BY c.id, m.examiner_id`,
		-1: `SELECT c.group_id, m.examiner_id, count(*) FROM candidate c CROSS JOIN mark m ON m.candidate_id = c.id AND m.kind = 'open' WHERE c.grading_id = ? AND c.withdrawn_at IS NULL GROUP BY c.id, m.examiner_id`,
	} {
		all, err := list(ctx, q, func(p *place) []any { return []any{&p.group, &p.examiner, &p.n} }, query, gradingID)
		if err != nil {
			return err
		}
		for _, p := range all {
			if t := at[[2]string{p.group, p.examiner}]; t != nil {
				t.Given += sign * p.n
			}
		}
	}
	return nil
}

// lastMarked finds the line each examiner marked last.
func lastMarked(ctx context.Context, q querier, gradingID string, tables []gradingday.TableState, orders map[string]order) error {
	type last struct{ group, examiner, label, item string }
	newest, err := list(ctx, q, func(l *last) []any { return []any{&l.group, &l.examiner, &l.label, &l.item} },
		`SELECT c.group_id, e.id, i.label, i.id FROM panel p CROSS JOIN examiner e ON e.panel_id = p.id CROSS JOIN mark_event m ON m.rowid = (SELECT x.rowid FROM mark_event x WHERE x.examiner_id = e.id ORDER BY x.at DESC, x.rowid DESC LIMIT 1)
		JOIN candidate c ON c.id = m.candidate_id JOIN test_item i ON i.id = m.item_id WHERE p.grading_id = ?`, gradingID)
	for _, l := range newest {
		for i := range tables {
			if t := &tables[i]; t.GroupID == l.group && t.ExaminerID == l.examiner {
				t.At, t.AtLine = l.label, orders[l.group].numbers[l.item]
			}
		}
	}
	return err
}

func bouts(ctx context.Context, q querier, where string, args ...any) ([]gradingday.Bout, error) {
	out, err := list(ctx, q, func(b *gradingday.Bout) []any {
		return []any{&b.ID, &b.RingID, &b.A, asText{&b.B}, &b.AName, &b.BName, &b.Rounds, &b.Seconds, asJSON{&b.Rule}}
	}, `SELECT b.id, b.panel_id, b.a, b.b, sa.name, coalesce(sb.name, b.partner), b.rounds, b.seconds, b.rule FROM bout b
		JOIN candidate ca ON ca.id = b.a JOIN enrolment ea ON ea.id = ca.enrolment_id JOIN student sa ON sa.id = ea.student_id
		LEFT JOIN candidate cb ON cb.id = b.b LEFT JOIN enrolment eb ON eb.id = cb.enrolment_id LEFT JOIN student sb ON sb.id = eb.student_id WHERE (`+where+`) ORDER BY b.at`, args...)
	if err != nil || len(out) == 0 {
		return nil, err
	}
	at := map[string]int{}
	var ids []string
	for i, b := range out {
		at[b.ID], ids = i, append(ids, b.ID)
	}
	events, err := list(ctx, q, bindBoutEvent, `SELECT `+boutEventColumns+` FROM bout_event e WHERE e.bout_id IN (SELECT value FROM json_each(?)) AND kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM bout_event n WHERE n.supersedes = e.id) ORDER BY e.at`, toJSON(ids))
	if err != nil {
		return nil, err
	}
	for _, e := range events {
		out[at[e.BoutID]].Events = append(out[at[e.BoutID]].Events, e)
	}
	faults, err := list(ctx, q, bindFault, `SELECT `+faultColumns+` FROM fault WHERE bout_id IN (SELECT value FROM json_each(?)) ORDER BY at`, toJSON(ids))
	for _, f := range faults {
		out[at[f.BoutID]].Faults = append(out[at[f.BoutID]].Faults, f)
	}
	return out, err
}

func bindBoutEvent(e *gradingday.BoutEvent) []any {
	return []any{&e.ID, &e.BoutID, &e.Kind, &e.Side, &e.Round, &e.Points, &e.Text, asText{&e.Supersedes}}
}

const boutEventColumns = `id, bout_id, kind, side, round, points, text, supersedes`

// Bouts are the bouts of a ring, in the order they were begun.
func (s *Store) Bouts(ctx context.Context, ring string) ([]gradingday.Bout, error) {
	return bouts(ctx, s.r, `b.panel_id = ?`, ring)
}

// barred says why somebody may not spar any more today; "" they may.
func (t *txn) barred(ctx context.Context, candidate string) (string, error) {
	n, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT count(*) FROM fault f WHERE f.candidate_id = ? AND f.conduct = 'head'`, candidate)
	if err != nil || n == 0 {
		return "", err
	}
	name, err := one(ctx, t, func(n *string) []any { return []any{n} }, `SELECT s.name FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.id = ?`, candidate)
	return name + " had head contact or a sign of concussion and does not spar any more today. Have them looked at, and tell who takes them home.", err
}

// BeginBout puts a bout on record. Both candidates stand in the ring; the sparring rule is that
// of the rung the first is tested for, as it stands now.
func (s *Store) BeginBout(ctx context.Context, by By, b gradingday.Bout) (Done, error) {
	if err := refusedBy(b.Check()); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		type stands struct{ id, ring, rung, program, student string }
		var who []stands
		for _, id := range []string{b.A, b.B} {
			if id == "" {
				continue
			}
			x, err := one(ctx, t, func(x *stands) []any { return []any{&x.id, &x.ring, &x.rung, &x.program, &x.student} }, `SELECT c.id, o.panel_id, c.to_rung_id, g.program_id, e.student_id FROM candidate c JOIN candidate_group o ON o.id = c.group_id JOIN grading g ON g.id = c.grading_id AND g.begun_at IS NOT NULL
				JOIN enrolment e ON e.id = c.enrolment_id WHERE c.id = ? AND c.withdrawn_at IS NULL`, id)
			if errors.Is(err, ErrNotFound) || err == nil && x.ring != b.RingID {
				return "", office.Deed{}, refuse("Both who spar have to be candidates of this ring, at a grading that has begun.")
			}
			if err != nil {
				return "", office.Deed{}, err
			}
			if why, err := t.barred(ctx, id); err != nil || why != "" {
				return "", office.Deed{}, orErr(err, refuse("%s", why))
			}
			who = append(who, x)
		}
		if len(who) == 0 || b.A == "" || b.A == b.B {
			return "", office.Deed{}, refuse("Choose two different people, or one and a partner who helps out.")
		}
		if b.B == "" && b.BName == "" {
			return "", office.Deed{}, refuse("Name the partner who helps out.")
		}
		book, err := t.book(ctx, who[0].program)
		if err != nil {
			return "", office.Deed{}, err
		}
		rule := book.SparringOf(who[0].rung)
		if rule == nil { // until a rule is stated, contact is none: children test too
			rule = &curriculum.SparringRule{Contact: "none"}
		}
		id, partner := NewID(), ""
		if b.B == "" {
			partner = b.BName
		}
		deed := office.Deed{Kind: office.BoutBegun, Who: who[0].student, Entry: id}
		if len(who) > 1 {
			deed.Other = who[1].student
		}
		return id, deed, t.exec(ctx, `INSERT INTO bout (id, panel_id, a, b, partner, rounds, seconds, rule, actor, at) VALUES (?, ?, ?, nullif(?, ''), ?, ?, ?, ?, ?, ?)`,
			id, b.RingID, b.A, b.B, partner, b.Rounds, b.Seconds, toJSON(*rule), t.by.Actor, t.at)
	})
}

// stopBout ends a bout that has not ended: somebody in it is hurt.
func (t *txn) stopBout(ctx context.Context, bout string) error {
	all, err := bouts(ctx, t, `b.id = ?`, bout)
	if err != nil || len(all) == 0 {
		return orErr(err, ErrNotFound)
	}
	if all[0].End() != nil {
		return nil
	}
	return t.exec(ctx, `INSERT INTO bout_event (id, bout_id, kind, text, actor, at) VALUES (?, ?, 'stopped', '', ?, ?)`, NewID(), bout, t.by.Actor, t.at)
}

// RecordBout writes an event of a bout, under the same rules for ids as TakeMarks.
func (s *Store) RecordBout(ctx context.Context, by By, ring string, e gradingday.BoutEvent) error {
	if err := refusedBy(e.Check()); err != nil {
		return err
	}
	_, err := s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		same, err := list(ctx, t, bindBoutEvent, `SELECT `+boutEventColumns+` FROM bout_event WHERE id = ?`, e.ID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(same) > 0 {
			if same[0] != e {
				return "", office.Deed{}, ErrConflict
			}
			return e.ID, office.Deed{}, nil
		}
		all, err := bouts(ctx, t, `b.id = ? AND b.panel_id = ?`, e.BoutID, ring)
		if err != nil {
			return "", office.Deed{}, err
		}
		if len(all) == 0 {
			return "", office.Deed{}, ErrNotFound
		}
		if err := refusedBy(all[0].Takes(e)); err != nil {
			return "", office.Deed{}, err
		}
		return e.ID, office.Deed{}, t.exec(ctx, `INSERT INTO bout_event (id, bout_id, kind, side, round, points, text, supersedes, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, nullif(?, ''), ?, ?)`,
			e.ID, e.BoutID, e.Kind, e.Side, e.Round, e.Points, e.Text, e.Supersedes, t.by.Actor, t.at)
	})
	return err
}

// refusedBy is a refusal of the core as one of the records.
func refusedBy(err error) error {
	if no, is := err.(gradingday.BoutError); is {
		return &Refused{Reason: string(no)}
	}
	return err
}
