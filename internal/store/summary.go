package store

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// A summary says in one row what many entries say, so that thousands of students are judged
// from one read of as many rows. Its columns are lines of fields, the fields parted by tabs:
//
//	attended  kind, mode, count                          of classes since the last promotion
//	weeks     Monday, then a character a week            "0" and up: classes attended
//	signed    rung, technique, role, stage, side, day, demand    what was shown on the way to rungs ahead
//	seen      the same of what was shown before; the rung is "" at gradings
//	stripes   rung, section, day
//	presumed  rung, day                              of the entry by hand that stands

// stale notes that a student's climbs have to be summed up again at the end of the
// transaction; "" is nobody.
func (t *txn) stale(ctx context.Context, student string) error {
	if student == "" || t.staleStudents[student] {
		return nil
	}
	if t.staleStudents == nil {
		t.staleStudents = map[string]bool{}
	}
	t.staleStudents[student] = true
	ids, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT id FROM enrolment WHERE student_id = ?`, student)
	for _, id := range ids {
		t.staleClimb(id)
	}
	return err
}

func (t *txn) staleClimb(enrolment string) {
	if t.staleClimbs == nil {
		t.staleClimbs = map[string]bool{}
	}
	t.staleClimbs[enrolment] = true
}

// summaryDays is how far back weeks are summed up: somewhat more than a pace looks back.
const summaryDays = 7 * (progress.PaceWeeks + 10)

func (t *txn) sumUp(ctx context.Context) error {
	for _, c := range t.before {
		if c.Table != "rung" {
			continue
		}
		// Another order of the rungs changes which of them are still ahead.
		ids, err := list(ctx, t, func(id *string) []any { return []any{id} }, `SELECT x.enrolment_id FROM signoff_event x JOIN rung r ON r.id = x.rung_id WHERE r.program_id = (SELECT program_id FROM rung WHERE id = ?1)
			UNION SELECT x.enrolment_id FROM stripe_event x JOIN rung r ON r.id = x.rung_id WHERE r.program_id = (SELECT program_id FROM rung WHERE id = ?1)`, c.ID)
		if err != nil {
			return err
		}
		for _, id := range ids {
			t.staleClimb(id)
		}
	}
	for id := range t.staleClimbs {
		s, err := t.summary(ctx, id)
		if err != nil {
			return fmt.Errorf("summing up a climb: %w", err)
		}
		if _, err := t.ExecContext(ctx, `INSERT OR REPLACE INTO climb_summary (enrolment_id, attended, weeks, signed, stripes, last_on, seen, presumed) VALUES (?, ?, ?, ?, ?, nullif(?, ''), ?, ?)`, id, s.attended, s.weeks, s.signed, s.stripes, s.last, s.seen, s.presumed); err != nil {
			return err
		}
	}
	return nil
}

type summary struct{ attended, weeks, signed, seen, stripes, presumed, last string }

// summary counts anew from the entries.
func (t *txn) summary(ctx context.Context, enrolment string) (s summary, err error) {
	type climb struct {
		student, program string
		since            civil.Date
	}
	c, err := one(ctx, t, func(c *climb) []any { return []any{&c.student, &c.program, asDate{&c.since}} }, `SELECT student_id, program_id, since FROM enrolment WHERE id = ?`, enrolment)
	if err != nil {
		return s, err
	}
	weeksFrom := t.s.Today().AddDays(-summaryDays).Monday()
	from := weeksFrom
	if c.since.Before(from) {
		from = c.since
	}
	type class struct{ on, kind, mode string }
	classes, err := list(ctx, t, func(x *class) []any { return []any{&x.on, &x.kind, &x.mode} },
		`SELECT a.on_date, r.kind, a.mode FROM attendance a JOIN register r ON r.id = a.register_id
		WHERE a.student_id = ? AND a.on_date >= ? AND (r.programs = '[]' OR instr(r.programs, '"' || ?3 || '"')) ORDER BY a.on_date`, c.student, from.String(), c.program)
	if err != nil {
		return s, err
	}
	since, first := c.since.String(), weeksFrom.String()
	count, weeks := map[[2]string]int{}, []byte{}
	for _, x := range classes {
		if x.on >= since {
			count[[2]string{check.Key(x.kind), x.mode}]++
		}
		s.last = x.on
		if x.on < first {
			continue
		}
		on, err := civil.Parse(x.on)
		if err != nil {
			return s, err
		}
		if len(weeks) == 0 {
			weeksFrom = on.Monday()
		}
		at := weeksFrom.DaysTo(on) / 7
		for len(weeks) <= at {
			weeks = append(weeks, '0')
		}
		weeks[at] = min(weeks[at]+1, '~')
	}
	lines := []string{}
	for k, n := range count {
		lines = append(lines, k[0]+"\t"+k[1]+"\t"+strconv.Itoa(n))
	}
	slices.Sort(lines)
	s.attended = strings.Join(lines, "\n")
	if len(weeks) > 0 {
		s.weeks = weeksFrom.String() + "\t" + string(weeks)
	}
	join := func(query string, fields int) (string, error) {
		rows, err := list(ctx, t, func(x *[7]string) []any {
			into := make([]any, fields)
			for i := range into {
				into[i] = &x[i]
			}
			return into
		}, query, enrolment)
		lines := make([]string, len(rows))
		for i, x := range rows {
			lines[i] = strings.Join(x[:fields], "\t")
		}
		return strings.Join(lines, "\n"), err
	}
	const above = ` JOIN enrolment e ON e.id = x.enrolment_id JOIN rung here ON here.id = e.rung_id JOIN rung g ON g.id = x.rung_id AND g.position > here.position WHERE x.enrolment_id = ?`
	for _, column := range []struct {
		into   *string
		query  string
		fields int
	}{
		{&s.signed, `SELECT x.rung_id, x.technique_id, x.role, CAST(x.stage AS TEXT), x.side, x.on_date, coalesce(x.demand, '') FROM signoff x` + above + ` AND x.kind = 'shown' ORDER BY x.on_date, x.at`, 7},
		{&s.seen, `SELECT rung_id, technique_id, role, CAST(stage AS TEXT), side, max(on_date), demand FROM shown_before WHERE enrolment_id = ? GROUP BY 1, 2, 3, 4, 5, 7 ORDER BY 6`, 7},
		{&s.stripes, `SELECT x.rung_id, x.section_id, x.on_date FROM stripe x` + above + ` ORDER BY x.on_date, x.at`, 3},
		{&s.presumed, `SELECT rung_id, on_date FROM entered WHERE enrolment_id = ?`, 2},
	} {
		if *column.into, err = join(column.query, column.fields); err != nil {
			return s, err
		}
	}
	return s, nil
}

// readAttended reads the first column.
func readAttended(text string) progress.Attended {
	out := progress.Attended{}
	for line := range strings.SplitSeq(text, "\n") {
		kind, rest, _ := strings.Cut(line, "\t")
		mode, n, found := strings.Cut(rest, "\t")
		if found {
			out[progress.Attendance{Kind: kind, Mode: timetable.Mode(mode)}], _ = strconv.Atoi(n)
		}
	}
	return out
}

// weekCounts reads the second: classes attended by Monday, the first of them on from.
func weekCounts(text string) (from civil.Date, weeks string) {
	monday, weeks, found := strings.Cut(text, "\t")
	if !found {
		return from, ""
	}
	from, err := civil.Parse(monday)
	if err != nil {
		return from, ""
	}
	return from, weeks
}

// readShowings reads what was shown of what is asked, in the order it stands in.
func readShowings(text string, asked *progress.Asked) (out []progress.Showing) {
	for more := text != ""; more; {
		var line string
		var f [7]string
		line, text, more = strings.Cut(text, "\n")
		for i := range f {
			f[i], line, _ = strings.Cut(line, "\t")
		}
		if !asked.Has(f[1], f[2]) {
			continue
		}
		x := progress.Showing{Rung: f[0], TechniqueID: f[1], Role: curriculum.Role(f[2]), Side: f[4]}
		x.Stage, _ = strconv.Atoi(f[3])
		x.On, _ = civil.Parse(f[5])
		if f[6] != "" {
			x.Demand = &curriculum.Demand{}
			if json.Unmarshal([]byte(f[6]), x.Demand) != nil {
				continue // the column is checked to be JSON
			}
		}
		out = append(out, x)
	}
	return out
}

// readStripes reads the day on which each section's stripe of a rung was awarded.
func readStripes(text, rung string) map[string]civil.Date {
	if text == "" {
		return nil
	}
	out := map[string]civil.Date{}
	for line := range strings.SplitSeq(text, "\n") {
		f := strings.SplitN(line, "\t", 3)
		if len(f) == 3 && f[0] == rung {
			out[f[1]], _ = civil.Parse(f[2])
		}
	}
	return out
}
