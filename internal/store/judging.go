package store

import (
	"context"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// judging is what one call reads once for all the climbs it judges.
type judging struct {
	s      *Store
	q      querier
	draft  func(program string) (*curriculum.Book, error)
	on     civil.Date
	today  civil.Date
	since  civil.Date // the earliest promotion among the climbs that are judged
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
func (j *judging) place(ctx context.Context, x *climbingRow) (stands bool, err error) {
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
func (j *judging) gather(ctx context.Context, e *progress.Evidence, x *climbingRow, rules []curriculum.Rule) (err error) {
	c := &x.Climbing
	for _, r := range rules {
		switch r.Kind {
		case curriculum.ClassesSince, curriculum.ClassShare:
			if e.Attended != nil {
				continue
			}
			e.Attended = x.attended
			if e.Registered, err = j.registered(ctx, c.ProgramID); err != nil {
				return err
			}
			if e.Ahead, err = j.aheadOf(ctx, c.ProgramID, c.Track.ID); err != nil {
				return err
			}
			if slices.ContainsFunc(rules, func(x curriculum.Rule) bool {
				return x.Kind == curriculum.ClassShare || x.Kind == curriculum.ClassesSince && x.Of != ""
			}) {
				if e.Held, err = j.heldSince(ctx, *c); err != nil {
					return err
				}
			}
		case curriculum.AllSignedOff, curriculum.EachSignedOff, curriculum.AllStripes:
			if e.Sections == nil {
				if e.Sections, e.Done, err = j.done(*c); err != nil {
					return err
				}
				e.Stripes = progress.Stripes(c.book.Rung(c.Next.ID), c.book, e.Sections, x.stripesOf(c.Next.ID))
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
	rung, on := c.entered.rung, c.entered.on
	place := c.book.Place(rung)
	if rung == "" || place < 1 {
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
func (j *judging) done(c Climbing) ([]progress.SectionDone, []civil.Date, error) {
	asked := j.asked(c)
	shown, err := showings(slices.Concat(c.seen, c.signed), asked)
	if err != nil {
		return nil, nil, err
	}
	sections, days := asked.Done(shown, j.presumed(c, asked))
	return sections, days, nil
}

// stripesOf are the days on which the stripes of a rung were awarded, by section.
func (x *climbingRow) stripesOf(rung string) map[string]civil.Date {
	out := map[string]civil.Date{}
	for _, s := range x.stripes {
		if s.rung == rung {
			out[s.section] = s.on
		}
	}
	return out
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

const selectHeld = `SELECT on_date, kind, programs, tracks FROM register WHERE on_date >= ? ORDER BY on_date`

func bindHeld(x *heldClass) []any {
	return []any{asDate{&x.on}, &x.Kind, asJSON{&x.Programs}, asJSON{&x.Tracks}}
}

// heldSince counts the registers kept for a program and track since a promotion.
func (j *judging) heldSince(ctx context.Context, c Climbing) (progress.Attended, error) {
	if j.held == nil {
		held, err := list(ctx, j.q, bindHeld, selectHeld, j.since.String())
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
