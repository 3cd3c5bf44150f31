package store

import (
	"context"
	"hash/fnv"
	"reflect"
	"strconv"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// seedOf is a grading's seed for what is drawn: from its random id, below 2^31 so that it
// can be read out and typed.
func seedOf(id string) int64 {
	h := fnv.New32a()
	h.Write([]byte(id))
	return int64(h.Sum32() >> 1)
}

// climbsBy is what a test sheet needs to know of an enrolment.
type climbsBy struct {
	student, track, version string
	born                    civil.Date
}

// ClimbsBy says by which track and version an enrolment climbs.
type ClimbsBy struct {
	Track       curriculum.Track // its ID is "" where the program has none, or none holds the age
	ByHand      bool
	VersionID   string // "" the draft
	Version     int
	Adaptations []curriculum.Adaptation // that hold on the day asked for
}

// climbingBy are the enrolments of a program with the track each is on at a grading.
func (t *txn) climbingBy(ctx context.Context, g Grading) (map[string]climbsBy, error) {
	b, err := t.book(ctx, g.ProgramID)
	if err != nil {
		return nil, err
	}
	type row struct {
		climbsBy
		id string
	}
	rows, err := list(ctx, t, func(x *row) []any {
		return []any{&x.id, &x.student, &x.track, asText{&x.version}, asDate{&x.born}}
	}, `SELECT e.id, s.id, e.track_id, e.version_id, s.birth_date FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.grading_id = ? AND c.withdrawn_at IS NULL`, g.ID)
	out := map[string]climbsBy{}
	for _, x := range rows {
		x.track = trackOn(b, x.track, x.born, g.On).ID
		out[x.id] = x.climbsBy
	}
	return out, err
}

// trackOn is the track chosen by hand, or the one that holds the age on a day. Without a
// birth date it is the last track: nobody is asked less for want of a date.
func trackOn(b *curriculum.Book, chosen string, born, day civil.Date) curriculum.Track {
	if t := b.Track(chosen); t != nil {
		return *t
	}
	if born.IsZero() {
		if n := len(b.Program.Tracks); n > 0 {
			return b.Program.Tracks[n-1]
		}
		return curriculum.Track{}
	}
	track, _ := b.Program.TrackOf(born.Age(day))
	return track
}

// ClimbsBy says how one enrolment climbs on a day.
func (s *Store) ClimbsBy(ctx context.Context, enrolment string, day civil.Date) (ClimbsBy, error) {
	type row struct {
		climbsBy
		program string
		number  *int
	}
	x, err := one(ctx, s.r, func(x *row) []any {
		return []any{&x.student, &x.track, asText{&x.version}, asDate{&x.born}, &x.program, &x.number}
	}, `SELECT s.id, e.track_id, e.version_id, s.birth_date, e.program_id, v.number FROM enrolment e JOIN student s ON s.id = e.student_id LEFT JOIN version v ON v.id = e.version_id WHERE e.id = ?`, enrolment)
	if err != nil {
		return ClimbsBy{}, err
	}
	b, err := s.Book(ctx, x.program)
	if err != nil {
		return ClimbsBy{}, err
	}
	out := ClimbsBy{Track: trackOn(b, x.track, x.born, day), ByHand: b.Track(x.track) != nil, VersionID: x.version}
	if x.number != nil {
		out.Version = *x.number
	}
	all, err := adaptations(ctx, s.r, x.student, x.program)
	for _, a := range all {
		if a.HoldsOn(day) {
			out.Adaptations = append(out.Adaptations, a)
		}
	}
	return out, err
}

// freeze gives every candidate without a sheet the grading's own copy of the test sheet of
// their rung, track and version. Those who are asked the same share one; adaptations and
// drawn questions make a sheet for one candidate alone.
// It is long: each candidate’s sheet is shared or made their own by what was made for those before.
func (t *txn) freeze(ctx context.Context, g Grading) error {
	type want struct{ candidate, rung, enrolment string }
	wants, err := list(ctx, t, func(w *want) []any { return []any{&w.candidate, &w.rung, &w.enrolment} },
		`SELECT id, to_rung_id, enrolment_id FROM candidate WHERE grading_id = ? AND sheet_id IS NULL AND withdrawn_at IS NULL ORDER BY number`, g.ID)
	if err != nil || len(wants) == 0 {
		return err
	}
	who, err := t.climbingBy(ctx, g)
	if err != nil {
		return err
	}
	draft, err := t.book(ctx, g.ProgramID)
	if err != nil {
		return err
	}
	type shared struct{ rung, track, version string }
	made := map[shared]string{}
	have, err := list(ctx, t, func(x *[4]string) []any { return []any{&x[0], &x[1], asText{&x[2]}, asText{&x[3]}} },
		`SELECT id, rung_id, track, curriculum_version FROM test_sheet WHERE grading_id = ? AND candidate_id IS NULL`, g.ID)
	if err != nil {
		return err
	}
	for _, x := range have {
		made[shared{x[1], x[2], x[3]}] = x[0]
	}
	for _, w := range wants {
		c := who[w.enrolment]
		b := draft
		if c.version != "" {
			if b, err = t.s.versionBook(ctx, t, c.version); err != nil {
				return err
			}
			if b.Rung(w.rung) == nil { // the rung is younger than the version
				b, c.version = draft, ""
			}
		}
		adapted, err := adaptations(ctx, t, c.student, g.ProgramID)
		if err != nil {
			return err
		}
		asking := curriculum.Asking{RungID: w.rung, TrackID: c.track, Seed: g.Seed, Group: g.GroupSize}
		common := b.Compile(asking)
		asking.Candidate = w.candidate
		for _, a := range adapted {
			if a.HoldsOn(g.On) {
				asking.Adaptations = append(asking.Adaptations, a)
			}
		}
		stands, kept, on, err := t.carriedFor(ctx, g, w.enrolment, w.rung)
		if err != nil {
			return err
		}
		asking.Kept = kept
		own := b.Compile(asking)
		key := shared{w.rung, c.track, c.version}
		sheet := made[key]
		if !reflect.DeepEqual(own.Lines, common.Lines) || len(stands) > 0 {
			if sheet, err = t.freezeSheet(ctx, g, b, own, key.rung, key.track, key.version, w.candidate, stands, on); err != nil {
				return err
			}
		} else if sheet == "" {
			if sheet, err = t.freezeSheet(ctx, g, b, common, key.rung, key.track, key.version, "", nil, on); err != nil {
				return err
			}
			made[key] = sheet
		}
		if err := t.exec(ctx, `UPDATE candidate SET sheet_id = ? WHERE id = ?`, sheet, w.candidate); err != nil {
			return err
		}
	}
	return nil
}

func (t *txn) freezeSheet(ctx context.Context, g Grading, b *curriculum.Book, sheet curriculum.TestSheet, rungID, track, version, candidate string, stands map[string]scoring.Decimal, on civil.Date) (string, error) {
	r := b.Rung(rungID)
	items := gradingday.Items(sheet, g.Marking)
	if err := gradingday.CheckSheet(items, g.Policy, r.Name); err != nil {
		return "", refuse("The tables cannot open: %s.", err)
	}
	id := NewID()
	if err := t.exec(ctx, `INSERT INTO test_sheet (id, grading_id, rung_id, rung_words, track, seed, curriculum_version, candidate_id, seconds, at) VALUES (?, ?, ?, ?, ?, ?, nullif(?, ''), nullif(?, ''), ?, ?)`,
		id, g.ID, r.ID, r.Name, track, int64(g.Seed), version, candidate, sheet.Seconds, t.at); err != nil {
		return "", err
	}
	carried := gradingday.Carried(g.Marking, items, sheet.Lines, stands)
	for i, m := range items {
		item := NewID()
		var mark, since any
		if carried[i] != nil {
			mark, since = int64(*carried[i]), on.String()
		}
		if err := t.exec(ctx, `INSERT INTO test_item (id, sheet_id, position, label, section, weight, bonus, must_pass, carried, carried_on) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			item, id, i, m.Item.Label, m.Item.Section, m.Item.Weight, m.Item.Bonus, m.Item.MustPass, mark, since); err != nil {
			return "", err
		}
		for _, n := range m.Lines {
			if err := t.exec(ctx, `INSERT INTO test_line (id, sheet_id, item_id, position, line) VALUES (?, ?, ?, ?, ?)`, NewID(), id, item, n, toJSON(sheet.Lines[n])); err != nil {
				return "", err
			}
		}
	}
	return id, nil
}

// sheets reads the frozen items, with their lines, of all sheets of a grading, by sheet.
func sheets(ctx context.Context, q querier, gradingID string) (map[string][]gradingday.Item, error) {
	type row struct {
		gradingday.Item
		line   curriculum.Line
		lineID string
	}
	rows, err := list(ctx, q, func(r *row) []any {
		return []any{&r.ID, &r.SheetID, &r.Position, &r.Label, &r.Section, &r.Weight, &r.Bonus, &r.MustPass, &r.Carried, asDate{&r.CarriedOn}, &r.lineID, asJSON{&r.line}}
	}, `SELECT i.id, i.sheet_id, i.position, i.label, i.section, i.weight, i.bonus, i.must_pass, i.carried, i.carried_on, l.id, l.line
		FROM test_sheet s JOIN test_item i ON i.sheet_id = s.id JOIN test_line l ON l.sheet_id = s.id AND l.item_id = i.id
		WHERE s.grading_id = ? ORDER BY i.sheet_id, i.position, l.position`, gradingID)
	if err != nil {
		return nil, err
	}
	out := map[string][]gradingday.Item{}
	for _, r := range rows {
		items := out[r.SheetID]
		if n := len(items); n == 0 || items[n-1].ID != r.ID {
			items = append(items, r.Item)
		}
		last := &items[len(items)-1]
		last.Lines, last.LineIDs = append(last.Lines, r.line), append(last.LineIDs, r.lineID)
		out[r.SheetID] = items
	}
	return out, nil
}

// SheetUse says which frozen sheet a candidate is marked on.
type SheetUse struct {
	CandidateID, TrackID string
	Version              int  // of the curriculum; 0: the draft, because nothing was published
	Own                  bool // the sheet is this candidate's alone: adapted, or with questions drawn
	Seconds              int
	Stands               int // items that stand from an earlier attempt
}

// SheetUses are the frozen sheets of a grading by candidate; nothing before the tables open.
func (s *Store) SheetUses(ctx context.Context, gradingID string) (map[string]SheetUse, error) {
	rows, err := list(ctx, s.r, func(u *SheetUse) []any {
		return []any{&u.CandidateID, &u.TrackID, &u.Version, &u.Own, &u.Seconds, &u.Stands}
	}, `SELECT c.id, s.track, coalesce(v.number, 0), s.candidate_id IS NOT NULL, s.seconds, (SELECT count(*) FROM test_item i WHERE i.sheet_id = s.id AND i.carried IS NOT NULL) FROM candidate c JOIN test_sheet s ON s.id = c.sheet_id LEFT JOIN version v ON v.id = s.curriculum_version WHERE c.grading_id = ?`, gradingID)
	out := map[string]SheetUse{}
	for _, u := range rows {
		out[u.CandidateID] = u
	}
	return out, err
}

// Calls are the running orders of a grading's groups: as frozen once the tables are open, and
// as the curriculum asks now before that.
func (s *Store) Calls(ctx context.Context, gradingID string) (map[string][]gradingday.GroupItem, error) {
	calls, _, err := s.CallsAndSheets(ctx, gradingID)
	return calls, err
}

// CallsAndSheets are Calls, with every item of each candidate's own sheet, those that stand from an earlier attempt too.
func (s *Store) CallsAndSheets(ctx context.Context, gradingID string) (calls map[string][]gradingday.GroupItem, own map[string][]gradingday.Item, err error) {
	g, people, err := s.Preparing(ctx, gradingID)
	if err != nil {
		return nil, nil, err
	}
	var bySheet map[string][]gradingday.Item
	if g.Begun() {
		bySheet, err = sheets(ctx, s.r, gradingID)
	} else {
		bySheet, err = s.unfrozen(ctx, g, people)
	}
	if err != nil {
		return nil, nil, err
	}
	calls, own = map[string][]gradingday.GroupItem{}, map[string][]gradingday.Item{}
	for i := 0; i < len(people); {
		var group []Candidate
		of := people[i].GroupID
		for ; i < len(people) && people[i].GroupID == of; i++ {
			c := people[i].Candidate
			if !g.Begun() {
				c.SheetID = c.ID
			}
			group = append(group, c)
			own[c.ID] = bySheet[c.SheetID]
		}
		calls[of] = gradingday.Merge(g.Marking, onSheets(group), bySheet)
	}
	return calls, own, nil
}

// onSheets are candidates with their sheets.
func onSheets(all []Candidate) (out []gradingday.OnSheet) {
	for _, c := range all {
		out = append(out, gradingday.OnSheet{Candidate: c.ID, Sheet: c.SheetID})
	}
	return out
}

// unfrozen are the items each candidate would be asked today, by candidate. What stands from an earlier
// attempt is settled when the tables open.
func (s *Store) unfrozen(ctx context.Context, g Grading, people []Preparing) (map[string][]gradingday.Item, error) {
	ids, size := []string{}, map[string]int{}
	for _, p := range people {
		ids = append(ids, p.EnrolmentID)
		size[p.GroupID]++
	}
	adapted, err := adaptedOn(ctx, s.r, g.On, `e.id IN (SELECT value FROM json_each(?))`, toJSON(ids))
	if err != nil {
		return nil, err
	}
	x, err := s.timing(ctx, s.r, g)
	if err != nil {
		return nil, err
	}
	out := map[string][]gradingday.Item{}
	for _, p := range people {
		b, err := x.book(ctx, p)
		if err != nil {
			return nil, err
		}
		sheet := b.Compile(curriculum.Asking{RungID: p.To.ID, TrackID: p.Track.ID, Seed: g.Seed, Group: size[p.GroupID], Candidate: p.ID, Adaptations: adapted[[2]string{p.StudentID, g.ProgramID}]})
		for k, m := range gradingday.Items(sheet, g.Marking) {
			it := gradingday.Item{Item: m.Item, Position: k}
			it.ID = p.ID + " " + strconv.Itoa(k)
			for _, n := range m.Lines {
				it.Lines = append(it.Lines, sheet.Lines[n])
			}
			out[p.ID] = append(out[p.ID], it)
		}
	}
	return out, nil
}
