package store

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"sync"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// Climbing is a standing with whether the student may be tested for the rung above.
type Climbing struct {
	Standing
	Joined   civil.Date
	Next     *curriculum.Rung // nil at the top
	Track    curriculum.Track // on the day asked for
	Verdict  progress.Verdict
	Evidence progress.Evidence
	Given    []Given    // waivers, words and examples for the climb to Next that stand
	LastOn   civil.Date // the last class attended; zero: none

	book    *curriculum.Book        // it climbs by
	adapted []curriculum.Adaptation // that hold on the day
	rules   []curriculum.Rule
	born    civil.Date
	byHand  string // the track set by hand
	weeks   string
	signed  string
	seen    string // what was shown before this climb
	entered string // on which rung by hand, and when
}

// Given is a waiver, an instructor's word or an example from the family on record.
type Given struct {
	ID          string
	EnrolmentID string
	RungID      string
	Kind        string // waiver, word, character
	Rule        curriculum.RuleKind
	Reason      string
	Actor       string
}

// selectClimbing puts the columns of a row into one text, parted by climbSep: reading one
// column a row instead of twenty takes a third of the time.
const selectClimbing = `SELECT concat_ws(char(31), e.id, s.id, s.name, e.program_id, e.since, ifnull(e.ended_on, ''), e.rung_id, ifnull(s.birth_date, ''), ifnull(s.joined_on, ''), e.track_id, ifnull(e.version_id, ''), ifnull(s.kit, ''), s.papers,
	ifnull(m.attended, ''), ifnull(m.weeks, ''), ifnull(m.signed, ''), ifnull(m.stripes, ''), ifnull(m.last_on, ''), ifnull(m.seen, ''), ifnull(m.presumed, ''))
	FROM enrolment e JOIN student s ON s.id = e.student_id AND s.deleted_at IS NULL JOIN rung r ON r.id = e.rung_id LEFT JOIN climb_summary m ON m.enrolment_id = e.id WHERE `

const climbSep, climbFields = "\x1f", 20

// climbRow is a row as read.
type climbRow struct {
	Climbing
	rung, version, kit, papers, attended, stripes string
}

// Scan implements sql.Scanner.
func (x *climbRow) Scan(src any) (err error) {
	text, _ := src.(string)
	var f [climbFields]string
	for i := range f {
		f[i], text, _ = strings.Cut(text, climbSep)
	}
	day := func(text string) (d civil.Date) {
		if text != "" && err == nil {
			d, err = civil.Parse(text)
		}
		return d
	}
	x.EnrolmentID, x.StudentID, x.Name, x.ProgramID, x.Since, x.EndedOn, x.rung = f[0], f[1], f[2], f[3], day(f[4]), day(f[5]), f[6]
	x.born, x.Joined, x.byHand, x.version, x.kit, x.papers = day(f[7]), day(f[8]), f[9], f[10], f[11], f[12]
	x.attended, x.weeks, x.signed, x.stripes, x.LastOn = f[13], f[14], f[15], f[16], day(f[17])
	x.seen, x.entered = f[18], f[19]
	return err
}

// judging is what one call reads once for all the climbs it judges.
type judging struct {
	s      *Store
	q      querier
	draft  func(program string) (*curriculum.Book, error)
	on     civil.Date
	today  civil.Date
	table  *timetable.Table
	books  map[string]*curriculum.Book
	sheets map[sheetKey]*progress.Asked
	known  map[presumedKey][]bool
	rules  map[sheetKey][]curriculum.Rule
	ahead  map[[2]string]timetable.Ahead
	first  map[string]civil.Date // the first register of a program
	held   []heldClass
}

type sheetKey struct {
	book        *curriculum.Book
	rung, track string
}

type heldClass struct {
	on civil.Date
	timetable.Class
}

// climbings reads climbs and judges each on a day by the rules of the version it climbs by.
// where speaks of e, the enrolment, s, the student, and r, the rung. Without judge only where
// a climb stands is looked up.
func (s *Store) climbings(ctx context.Context, q querier, draft func(program string) (*curriculum.Book, error), judge bool, on civil.Date, where string, args ...any) ([]Climbing, error) {
	rows, err := list(ctx, q, func(x *climbRow) []any { return []any{x} }, selectClimbing+where, args...)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	j := &judging{s: s, q: q, draft: draft, on: on, today: s.Today(), books: map[string]*curriculum.Book{}, sheets: map[sheetKey]*progress.Asked{}, rules: map[sheetKey][]curriculum.Rule{}, ahead: map[[2]string]timetable.Ahead{}, first: map[string]civil.Date{}}
	adapted, err := adaptedOn(ctx, q, on, where, args...)
	if err != nil {
		return nil, err
	}
	for i := range rows {
		rows[i].adapted = adapted[[2]string{rows[i].StudentID, rows[i].ProgramID}]
	}
	out := make([]Climbing, 0, len(rows))
	if !judge {
		for i := range rows {
			if stands, err := j.place(ctx, &rows[i]); err != nil {
				return nil, err
			} else if stands {
				out = append(out, rows[i].Climbing)
			}
		}
		return out, nil
	}
	given, err := list(ctx, q, func(g *Given) []any {
		return []any{&g.ID, &g.EnrolmentID, &g.RungID, &g.Kind, &g.Rule, &g.Reason, &g.Actor}
	}, `SELECT v.id, v.enrolment_id, v.rung_id, v.kind, v.rule, v.reason, v.actor FROM eligibility_event v JOIN enrolment e ON e.id = v.enrolment_id JOIN student s ON s.id = e.student_id JOIN rung r ON r.id = e.rung_id
		WHERE v.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id) AND `+where, args...)
	if err != nil {
		return nil, err
	}
	givenTo := map[string][]Given{}
	for _, g := range given {
		givenTo[g.EnrolmentID] = append(givenTo[g.EnrolmentID], g)
	}
	type wait struct {
		enrolment string
		from      civil.Date
	}
	waits, err := list(ctx, q, func(w *wait) []any { return []any{&w.enrolment, asDate{&w.from}} }, `SELECT c.enrolment_id, max(d.retest_from)
		FROM announcement a JOIN decision d ON d.candidate_id = a.candidate_id AND d.retest_from IS NOT NULL JOIN candidate c ON c.id = a.candidate_id
		JOIN enrolment e ON e.id = c.enrolment_id AND c.from_rung_id = e.rung_id JOIN student s ON s.id = e.student_id JOIN rung r ON r.id = e.rung_id WHERE `+where+` GROUP BY c.enrolment_id`, args...)
	if err != nil {
		return nil, err
	}
	retest := map[string]civil.Date{}
	for _, w := range waits {
		retest[w.enrolment] = w.from
	}
	for i := range rows {
		x := &rows[i]
		if stands, err := j.place(ctx, x); err != nil {
			return nil, err
		} else if !stands {
			continue
		}
		if x.Next != nil {
			e := progress.Evidence{Since: x.Since, Born: x.born, Today: j.today}
			if from := retest[x.EnrolmentID]; !from.Before(x.Since) { // else of an earlier climb
				e.RetestFrom = from
			}
			for _, g := range givenTo[x.EnrolmentID] {
				if g.RungID != x.Next.ID {
					continue
				}
				x.Given = append(x.Given, g)
				switch g.Kind {
				case "word":
					e.Word = g.Reason
				case "character":
					e.Character = g.Reason
				default:
					if e.Waived == nil {
						e.Waived = map[curriculum.RuleKind]string{}
					}
					e.Waived[g.Rule] = g.Reason
				}
			}
			rules := j.rulesOf(x.Climbing)
			if err := j.gather(ctx, &e, x.Climbing, rules, x.attended, x.stripes); err != nil {
				return nil, err
			}
			if x.kit != "" {
				if err := (asJSON{&e.Owned}).Scan(x.kit); err != nil {
					return nil, err
				}
				e.KitKnown = true
			}
			if x.papers != "[]" {
				if err := (asJSON{&e.Papers}).Scan(x.papers); err != nil {
					return nil, err
				}
			}
			x.Evidence, x.rules = e, rules
		}
		out = append(out, x.Climbing)
	}
	judgeAll(out, on)
	return out, nil
}

// judgeAll holds climbs against the rules that hold for them.
func judgeAll(all []Climbing, on civil.Date) {
	inParts(len(all), func(i int) {
		if c := &all[i]; c.Next != nil {
			c.Verdict = progress.Judge(c.rules, c.Evidence, on)
		}
	})
}

// place finds the rung a climb stands on, the one above, its track and the curriculum it climbs
// by. stands is false where the rung is gone.
func (j *judging) place(ctx context.Context, x *climbRow) (stands bool, err error) {
	draft, err := j.book(ctx, x.ProgramID)
	if err != nil {
		return false, err
	}
	here := draft.Rung(x.rung)
	if here == nil {
		return false, nil
	}
	x.Standing.Rung, x.Program = *here, draft.Program.Name
	x.Track = trackOn(draft, x.byHand, x.born, j.on)
	if x.Next = draft.Above(here.ID); x.Next == nil {
		return true, nil
	}
	if x.book = draft; x.version != "" {
		v, err := j.s.versionBook(ctx, j.q, x.version)
		if err != nil {
			return false, err
		}
		if v.Rung(x.Next.ID) != nil { // else the rung is younger than the version
			x.book = v
		}
	}
	return true, nil
}

func (j *judging) book(ctx context.Context, program string) (b *curriculum.Book, err error) {
	if b = j.books[program]; b == nil {
		b, err = j.draft(program)
		j.books[program] = b
	}
	return b, err
}

func (j *judging) rulesOf(c Climbing) []curriculum.Rule {
	key := sheetKey{c.book, c.Next.ID, c.Track.ID}
	r, there := j.rules[key]
	if !there {
		r = c.book.RulesOf(key.rung, key.track)
		j.rules[key] = r
	}
	return r
}

// gather fills in the evidence that the rules ask for, and no more.
func (j *judging) gather(ctx context.Context, e *progress.Evidence, c Climbing, rules []curriculum.Rule, attended, stripes string) (err error) {
	for _, r := range rules {
		switch r.Kind {
		case curriculum.ClassesSince, curriculum.ClassShare:
			if e.Attended != nil {
				continue
			}
			e.Attended = readAttended(attended)
			if e.Registered, err = j.registered(ctx, c.ProgramID); err != nil {
				return err
			}
			if e.Ahead, err = j.aheadOf(ctx, c.ProgramID, c.Track.ID); err != nil {
				return err
			}
			if r.Kind == curriculum.ClassShare || slices.ContainsFunc(rules, func(x curriculum.Rule) bool { return x.Kind == curriculum.ClassShare }) {
				if e.Held, err = j.heldSince(ctx, c); err != nil {
					return err
				}
			}
		case curriculum.AllSignedOff, curriculum.EachSignedOff, curriculum.AllStripes:
			if e.Sections == nil {
				e.Sections, e.Done = j.done(c)
				e.Stripes = progress.Stripes(c.book.Rung(c.Next.ID), c.book, e.Sections, readStripes(stripes, c.Next.ID))
			}
		case curriculum.KitOwned:
			e.Kit = c.book.KitOf(c.Next.ID)
		}
	}
	return nil
}

// sheet is what a rung asks on a track, worked out once.
func (j *judging) sheet(key sheetKey) *progress.Asked {
	asked := j.sheets[key]
	if asked == nil {
		asked = j.askedBy(key, nil)
		if j.sheets == nil {
			j.sheets = map[sheetKey]*progress.Asked{}
		}
		j.sheets[key] = asked
	}
	return asked
}

func (j *judging) askedBy(key sheetKey, adapted []curriculum.Adaptation) *progress.Asked {
	sheet := key.book.Compile(curriculum.Asking{RungID: key.rung, TrackID: key.track, Adaptations: adapted, Undrawn: true})
	return progress.AskedBy(key.book, key.rung, sheet, func(rung string) *progress.Asked {
		if key.book.Rung(rung) == nil {
			return nil
		}
		return j.sheet(sheetKey{key.book, rung, key.track})
	})
}

// asked is what a climb asks for, less what the student is excused from.
func (j *judging) asked(c Climbing) *progress.Asked {
	key := sheetKey{c.book, c.Next.ID, c.Track.ID}
	if len(c.adapted) > 0 {
		return j.askedBy(key, c.adapted)
	}
	return j.sheet(key)
}

// presumedKey names what is presumed of those who entered a program on a rung.
type presumedKey struct {
	next         sheetKey
	rung, before string // the rung entered, and the track on that day
}

// presumed are the items a student is presumed to know who entered the ladder above its first
// rung: what the rungs from the second up to there test, on the track of the day of entry.
func (j *judging) presumed(c Climbing, asked *progress.Asked) []bool {
	rung, day, found := strings.Cut(c.entered, "\t")
	on, err := civil.Parse(day)
	place := c.book.Place(rung)
	if !found || err != nil || place < 1 {
		return nil
	}
	key := presumedKey{sheetKey{c.book, c.Next.ID, c.Track.ID}, rung, trackOn(c.book, c.byHand, c.born, on).ID}
	out, there := j.known[key]
	if !there || len(c.adapted) > 0 {
		var sheets []*progress.Asked
		for _, r := range c.book.Rungs[1 : place+1] {
			sheets = append(sheets, j.sheet(sheetKey{c.book, r.ID, key.before}))
		}
		if out = asked.Presumed(sheets); len(c.adapted) == 0 {
			if j.known == nil {
				j.known = map[presumedKey][]bool{}
			}
			j.known[key] = out
		}
	}
	return out
}

// done is how far a climb is by section, from its summary, and on which days what counts was
// done; the sections are never nil.
func (j *judging) done(c Climbing) ([]progress.SectionDone, []civil.Date) {
	asked := j.asked(c)
	return asked.Done(append(readShowings(c.seen, asked), readShowings(c.signed, asked)...), j.presumed(c, asked))
}

// adaptedOn reads the adaptations that hold on a day, by student and program.
func adaptedOn(ctx context.Context, q querier, on civil.Date, where string, args ...any) (map[[2]string][]curriculum.Adaptation, error) {
	type row struct {
		of [2]string
		curriculum.Adaptation
	}
	rows, err := list(ctx, q, func(x *row) []any {
		return []any{&x.of[0], &x.of[1], asJSON{&x.Adaptation}, &x.ID, asDate{&x.From}, asDate{&x.To}}
	}, `SELECT a.student_id, a.program_id, a.what, a.id, a.from_date, a.to_date FROM adaptation a JOIN enrolment e ON e.student_id = a.student_id AND e.program_id = a.program_id
		JOIN student s ON s.id = e.student_id JOIN rung r ON r.id = e.rung_id WHERE a.deleted_at IS NULL AND (`+where+`) ORDER BY a.rowid`, args...)
	out := map[[2]string][]curriculum.Adaptation{}
	seen := map[string]bool{} // a student may have climbed a program twice
	for _, x := range rows {
		if x.HoldsOn(on) && !seen[x.ID] {
			seen[x.ID] = true
			out[x.of] = append(out[x.of], x.Adaptation)
		}
	}
	return out, err
}

// registered is the first day on which a register for a program was kept.
func (j *judging) registered(ctx context.Context, program string) (civil.Date, error) {
	if d, there := j.first[program]; there {
		return d, nil
	}
	d, err := one(ctx, j.q, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT min(on_date) FROM register WHERE programs = '[]' OR instr(programs, '"' || ? || '"')`, program)
	j.first[program] = d
	return d, err
}

// aheadOf are the classes to come for a program and track: from today on, or from tomorrow
// where today's register is kept.
func (j *judging) aheadOf(ctx context.Context, program, track string) (timetable.Ahead, error) {
	if j.table == nil {
		t, err := readTimetable(ctx, j.q)
		if err != nil {
			return nil, err
		}
		kept, err := list(ctx, j.q, func(id *string) []any { return []any{id} }, `SELECT class_id FROM register WHERE on_date = ?`, j.today.String())
		if err != nil {
			return nil, err
		}
		for _, class := range kept {
			t.Closures = append(t.Closures, timetable.Closure{ClassID: class, From: j.today, To: j.today})
		}
		j.table = &t
	}
	key := [2]string{program, track}
	a, there := j.ahead[key]
	if !there {
		a = j.table.Ahead(j.today, program, track)
		j.ahead[key] = a
	}
	return a, nil
}

// heldSince counts the registers kept for a program and track since a promotion.
func (j *judging) heldSince(ctx context.Context, c Climbing) (progress.Attended, error) {
	if j.held == nil {
		held, err := list(ctx, j.q, func(x *heldClass) []any {
			return []any{asDate{&x.on}, &x.Kind, asJSON{&x.Programs}, asJSON{&x.Tracks}}
		}, `SELECT on_date, kind, programs, tracks FROM register ORDER BY on_date`)
		if err != nil {
			return nil, err
		}
		j.held = append(held, heldClass{})[:len(held)]
	}
	out := progress.Attended{}
	for _, x := range j.held {
		if !x.on.Before(c.Since) && x.For(c.ProgramID, c.Track.ID) {
			out[progress.Attendance{Kind: check.Key(x.Kind), Mode: timetable.Hall}]++
		}
	}
	return out, nil
}

func (s *Store) read(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return s.climbings(ctx, s.r, func(program string) (*curriculum.Book, error) { return s.Book(ctx, program) }, true, on, where, args...)
}

// stand reads where climbs stand, without judging them.
func (s *Store) stand(ctx context.Context, where string, args ...any) ([]Climbing, error) {
	return s.climbings(ctx, s.r, func(program string) (*curriculum.Book, error) { return s.Book(ctx, program) }, false, s.Today(), where, args...)
}

// byRung sorts climbs by rung from the lowest up, then by name.
func byRung(all []Climbing) []Climbing {
	slices.SortStableFunc(all, func(x, y Climbing) int {
		return cmp.Or(cmp.Compare(x.Rung.Position, y.Rung.Position), cmp.Compare(strings.ToLower(x.Name), strings.ToLower(y.Name)))
	})
	return all
}

// OnRung lists who stands on a rung, longest first, at most limit of them, judged today.
func (s *Store) OnRung(ctx context.Context, rung string, limit int) ([]Climbing, error) {
	all, err := s.read(ctx, s.Today(), `e.id IN (SELECT id FROM enrolment WHERE rung_id = ? AND ended_on IS NULL ORDER BY since LIMIT ?)`, rung, limit)
	slices.SortStableFunc(all, func(x, y Climbing) int {
		return cmp.Or(y.Since.DaysTo(x.Since), cmp.Compare(strings.ToLower(x.Name), strings.ToLower(y.Name)))
	})
	return all, err
}

// ClimbingOf is one enrolment, judged on a day.
func (s *Store) ClimbingOf(ctx context.Context, enrolment string, on civil.Date) (Climbing, error) {
	all, err := s.read(ctx, on, `e.id = ?`, enrolment)
	if err == nil && len(all) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Climbing{}, err
	}
	return all[0], nil
}

// WhoMayTest are all who climb in a program and have a rung above them, judged on a day, by
// rung from the lowest up.
func (s *Store) WhoMayTest(ctx context.Context, program string, on civil.Date) ([]Climbing, error) {
	all, err := s.everyone(ctx, program)
	if err != nil {
		return nil, err
	}
	all = slices.DeleteFunc(slices.Clone(all), func(c Climbing) bool { return c.Next == nil })
	if on == s.Today() {
		return all, nil
	}
	// Of whoever is of another track on that day, other rules may hold: they are read anew.
	var other []any
	b, err := s.Book(ctx, program)
	if err != nil {
		return nil, err
	}
	for _, c := range all {
		if trackOn(b, c.byHand, c.born, on).ID != c.Track.ID {
			other = append(other, c.EnrolmentID)
		}
	}
	judgeAll(all, on)
	if len(other) == 0 {
		return all, nil
	}
	anew, err := s.read(ctx, on, `e.id IN (SELECT value FROM json_each(?))`, toJSON(other))
	for _, c := range anew {
		all[slices.IndexFunc(all, func(x Climbing) bool { return x.EnrolmentID == c.EnrolmentID })] = c
	}
	return all, err
}

// known remembers everybody's climb in a program, judged today. What only concerns some
// climbs (a class attended, a sign-off) lets those be read anew, everything else all of them.
type known struct {
	mu       sync.Mutex
	wrote    int // counts commits
	programs map[string]*knownProgram
}

type knownProgram struct {
	today civil.Date
	all   []Climbing
	stale map[string]bool // enrolments to be read anew
}

// someStale is how many climbs are read anew one by one; more are read with all the others.
const someStale = 200

// forget is called after a commit: of some climbs, or of all where narrow is false.
func (k *known) forget(narrow bool, climbs map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.wrote++
	if !narrow {
		k.programs = nil
		return
	}
	for _, p := range k.programs {
		for id := range climbs {
			p.stale[id] = true
		}
	}
}

// everyone are the climbs in a program judged today, by rung. The caller must not change them.
func (s *Store) everyone(ctx context.Context, program string) ([]Climbing, error) {
	today := s.Today()
	s.known.mu.Lock()
	wrote := s.known.wrote
	p := s.known.programs[program]
	var all []Climbing
	var stale []string
	if p != nil && p.today == today && len(p.stale) <= someStale {
		all, stale = p.all, slices.Sorted(maps.Keys(p.stale))
	}
	s.known.mu.Unlock()
	if all != nil && len(stale) == 0 {
		return all, nil
	}
	if all == nil {
		fresh, err := s.read(ctx, today, `e.program_id = ? AND e.ended_on IS NULL`, program)
		if err != nil {
			return nil, err
		}
		all = byRung(fresh)
	} else {
		fresh, err := s.read(ctx, today, `e.program_id = ? AND e.id IN (SELECT value FROM json_each(?))`, program, toJSON(stale))
		if err != nil {
			return nil, err
		}
		all = slices.Clone(all)
		for _, c := range fresh {
			if at := slices.IndexFunc(all, func(x Climbing) bool { return x.EnrolmentID == c.EnrolmentID }); at >= 0 {
				all[at] = c
			}
		}
	}
	s.known.mu.Lock()
	defer s.known.mu.Unlock()
	if s.known.wrote == wrote { // else something changed while we read
		if s.known.programs == nil {
			s.known.programs = map[string]*knownProgram{}
		}
		s.known.programs[program] = &knownProgram{today, all, map[string]bool{}}
	}
	return all, nil
}

// Eligible are the students on the rungs below the ones a grading tests who are not entered,
// judged on its day.
func (s *Store) Eligible(ctx context.Context, grading string) ([]Climbing, error) {
	on, err := one(ctx, s.r, func(d *civil.Date) []any { return []any{asDate{d}} }, `SELECT on_date FROM grading WHERE id = ?`, grading)
	if err != nil {
		return nil, err
	}
	all, err := s.read(ctx, on, `e.ended_on IS NULL AND EXISTS (
		SELECT 1 FROM grading_rung x JOIN rung up ON up.id = x.rung_id WHERE x.grading_id = ?1 AND up.program_id = r.program_id
		AND r.position = (SELECT max(b.position) FROM rung b WHERE b.program_id = up.program_id AND b.deleted_at IS NULL AND b.position < up.position))
		AND NOT EXISTS (SELECT 1 FROM candidate c WHERE c.grading_id = ?1 AND c.enrolment_id = e.id AND c.withdrawn_at IS NULL)`, grading)
	return byRung(all), err
}

// climbings are the climbs as the transaction sees them.
func (t *txn) climbings(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return t.s.climbings(ctx, t, func(program string) (*curriculum.Book, error) { return t.book(ctx, program) }, true, on, where, args...)
}

// stand reads where climbs stand as the transaction sees them, without judging them.
func (t *txn) stand(ctx context.Context, on civil.Date, where string, args ...any) ([]Climbing, error) {
	return t.s.climbings(ctx, t, func(program string) (*curriculum.Book, error) { return t.book(ctx, program) }, false, on, where, args...)
}

// mayTest refuses an entrant who may not be tested on the day, unless a reason is given.
func (t *txn) mayTest(ctx context.Context, g Grading, enrolment, reason string) error {
	if reason != "" {
		return nil
	}
	all, err := t.climbings(ctx, g.On, `e.id = ?`, enrolment)
	if err != nil || len(all) == 0 || all[0].Verdict.State != progress.NotMet {
		return err
	}
	return check.Problems{{Field: "reason", Text: all[0].Name + " may be tested " + all[0].Verdict.Words() + "; say why the test is allowed on " + g.On.Long()}}
}

// Waive lets a student off one rule of the rung they climb to, with a reason that stays on
// record.
func (s *Store) Waive(ctx context.Context, by By, enrolment string, rule curriculum.RuleKind, reason string) (Done, error) {
	reason = check.Tidy(reason)
	var p check.Problems
	kind, _, _ := strings.Cut(string(rule), ":")
	if check.OneOf(&p, "rule", curriculum.RuleKind(kind), append(slices.Clone(curriculum.RuleKinds), curriculum.RetestWait)); reason == "" {
		p.Add("reason", "is empty; say why the rule does not hold for this student, it is shown for ever")
	}
	if p.Line("reason", reason, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "waiver", rule, reason)
}

// GiveExample records what the family gave as an example of the character task.
func (s *Store) GiveExample(ctx context.Context, by By, enrolment, example string) (Done, error) {
	example = check.Tidy(example)
	var p check.Problems
	if example == "" {
		p.Add("example", "is empty; write what the family saw, in a line")
	}
	if p.Line("example", example, check.LineLength); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "character", curriculum.CharacterTask, example)
}

// GiveWord records that an instructor says a student is ready for the rung above.
func (s *Store) GiveWord(ctx context.Context, by By, enrolment, who string) (Done, error) {
	who = check.Tidy(who)
	var p check.Problems
	if p.Name("who", who); len(p) > 0 {
		return Done{}, p
	}
	return s.give(ctx, by, enrolment, "word", curriculum.Word, who)
}

func (s *Store) give(ctx context.Context, by By, enrolment, kind string, rule curriculum.RuleKind, reason string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		all, err := t.climbings(ctx, s.Today(), `e.id = ? AND e.ended_on IS NULL`, enrolment)
		if err != nil {
			return "", "", err
		}
		if len(all) == 0 {
			return "", "", ErrNotFound
		}
		c := all[0]
		if c.Next == nil {
			return "", "", refuse("%s stands on the highest rung; there is nothing above to be tested for.", c.Name)
		}
		if slices.ContainsFunc(c.Given, func(g Given) bool { return g.Kind == kind && g.Rule == rule }) {
			return "", "", refuse("That is on record already for %s.", c.Name)
		}
		id := NewID()
		action := "Waived a rule for " + c.Name
		switch kind {
		case "word":
			action = reason + " said that " + c.Name + " is ready"
		case "character":
			action = "Noted an example of the character task for " + c.Name
		}
		return id, action, t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, reason, actor, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`, id, enrolment, c.Next.ID, kind, rule, reason, t.by.Actor, t.at)
	})
}

// WithdrawGiven takes back a waiver or a word: a new entry, the old one stays on record.
func (s *Store) WithdrawGiven(ctx context.Context, by By, id string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, string, error) {
		return id, "Withdrew a waiver or a word", t.exec(ctx, `INSERT INTO eligibility_event (id, enrolment_id, rung_id, kind, rule, supersedes, actor, at)
			SELECT ?2, enrolment_id, rung_id, 'withdrawn', rule, id, ?3, ?4 FROM eligibility_event v WHERE v.id = ?1 AND v.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)`, id, NewID(), t.by.Actor, t.at)
	})
}

// PastGiven is a waiver or a word with when it was given, for ever on record.
type PastGiven struct {
	Given
	Rung      string
	At        time.Time
	Withdrawn bool
}

// GivenEver are all waivers and words of an enrolment, also withdrawn ones, oldest first.
func (s *Store) GivenEver(ctx context.Context, enrolment string) ([]PastGiven, error) {
	return list(ctx, s.r, func(g *PastGiven) []any {
		return []any{&g.ID, &g.RungID, &g.Kind, &g.Rule, &g.Reason, &g.Actor, &g.Rung, asTime{&g.At}, &g.Withdrawn}
	}, `SELECT v.id, v.rung_id, v.kind, v.rule, v.reason, v.actor, r.name, v.at, EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)
		FROM eligibility_event v JOIN rung r ON r.id = v.rung_id WHERE v.enrolment_id = ? AND v.kind <> 'withdrawn' ORDER BY v.at`, enrolment)
}

// AnewAnswer is a student of whom “all signed off” is answered otherwise since it is reckoned
// from everything that was seen.
type AnewAnswer struct {
	Climbing
	Met bool
	Why string
}

// AnsweredAnew lists whose answer about what is signed off is another one since the upgrade, and
// why.
func (s *Store) AnsweredAnew(ctx context.Context, program string) (out []AnewAnswer, err error) {
	all, err := s.everyone(ctx, program)
	if err != nil {
		return nil, err
	}
	j := &judging{}
	for _, c := range all {
		if c.Next == nil || c.Evidence.Sections == nil {
			continue
		}
		asked := j.asked(c)
		done, of := asked.OfThisClimb(readShowings(c.signed, asked))
		var open []string
		for _, x := range c.Evidence.Sections {
			open = append(open, x.Open...)
		}
		switch was, is := done == of, len(open) == 0; {
		case was && !is:
			why := "Everything new was signed off. What lower rungs asked counts too now, at what is asked here, and was never seen: " + strings.Join(open[:min(4, len(open))], "; ")
			if more := len(open) - 4; more > 0 {
				why += fmt.Sprintf(" and %d more", more)
			}
			out = append(out, AnewAnswer{c, false, why + "."})
		case is && !was:
			out = append(out, AnewAnswer{c, true, fmt.Sprintf("%d of %d were signed off on this climb; the others were seen before, at gradings or on entry, at what is asked now.", done, of)})
		}
	}
	return out, nil
}
