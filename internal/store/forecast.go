package store

import (
	"context"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
)

// paces remembers the usual pace of each program, which changes slowly: it is read anew on
// another day and after every 256 entries of attendance.
type paces struct {
	mu   sync.Mutex
	kept map[string]usualPace
}

type usualPace struct {
	key   string
	prior progress.Prior
}

// foreseeing is what one call reads once for all the climbs it forecasts.
type foreseeing struct {
	table     timetable.Table
	today     civil.Date
	calendars map[[2]string]weekly
	priors    map[string]progress.Prior
}

// weekly is the timetable of a program and track in the weeks a pace is read from.
type weekly struct {
	held  [progress.PaceWeeks]int // classes held, the oldest week first, the last one before this
	usual int
}

func (s *Store) foreseeing(ctx context.Context) (*foreseeing, error) {
	table, err := s.Timetable(ctx)
	return &foreseeing{table: table, today: s.Today(), calendars: map[[2]string]weekly{}, priors: map[string]progress.Prior{}}, err
}

func (f *foreseeing) oldest() civil.Date { return f.today.Monday().AddDays(-7 * progress.PaceWeeks) }

func (f *foreseeing) calendar(program, track string) weekly {
	key := [2]string{program, track}
	w, there := f.calendars[key]
	if !there {
		oldest := f.oldest()
		c := progress.CalendarOf(f.table, program, track, oldest, f.today)
		w.usual = c.Usual
		for i := range w.held {
			w.held[i] = c.Held[oldest.AddDays(7*i)]
		}
		f.calendars[key] = w
	}
	return w
}

// paceOf reads a pace from a summary: whole weeks before this one, from the first on record.
func (f *foreseeing) paceOf(c *Climbing, cal weekly) progress.Pace {
	first, counts := weekCounts(c.weeks)
	if counts == "" {
		return nil
	}
	oldest := f.oldest()
	skip := max(oldest.DaysTo(first)/7, 0) // weeks before the first class
	if skip >= progress.PaceWeeks {
		return nil
	}
	shift := first.DaysTo(oldest) / 7
	p := make(progress.Pace, progress.PaceWeeks-skip)
	for i := range p {
		p[i].Held = cal.held[skip+i]
		if at := skip + i + shift; at >= 0 && at < len(counts) {
			p[i].Came = int(counts[at] - '0')
		}
	}
	if c.Next == nil || c.Evidence.Sections == nil {
		return p
	}
	open := 0
	for i := range c.Evidence.Sections {
		open += c.Evidence.Sections[i].Of
	}
	begins := oldest.AddDays(7 * skip)
	for _, on := range c.Evidence.Done {
		if on.Before(c.Since) { // brought along
			open--
			continue
		}
		if at := begins.DaysTo(on); at >= 0 && at/7 < len(p) {
			p[at/7].Signed++
		} else if at < 0 {
			open--
		}
	}
	open -= presumedIn(c.Evidence)
	for i := max(begins.DaysTo(c.Since.Monday())/7, 0); i < len(p); i++ {
		p[i].Open = max(open, 0)
		open -= p[i].Signed
	}
	return p
}

// presumedIn is how many lines count as done that no day is on record for.
func presumedIn(e progress.Evidence) int {
	n := -len(e.Done)
	for i := range e.Sections {
		n += e.Sections[i].Done
	}
	return n
}

// usual is the usual pace of a program, over everybody who climbs in it.
func (s *Store) usual(ctx context.Context, f *foreseeing, program string) (progress.Prior, error) {
	if p, there := f.priors[program]; there {
		return p, nil
	}
	rows, err := one(ctx, s.r, func(n *int) []any { return []any{n} }, `SELECT coalesce(max(rowid), 0) >> 8 FROM attendance_event`)
	if err != nil {
		return progress.Prior{}, err
	}
	key := fmt.Sprint(f.today, rows)
	s.paces.mu.Lock()
	kept := s.paces.kept[program]
	s.paces.mu.Unlock()
	if kept.key != key {
		all, err := s.everyone(ctx, program)
		if err != nil {
			return progress.Prior{}, err
		}
		usual := 1
		var paces []progress.Pace
		for i := range all {
			cal := f.calendar(program, all[i].Track.ID)
			usual = max(usual, cal.usual)
			paces = append(paces, f.paceOf(&all[i], cal))
		}
		kept = usualPace{key, progress.UsualPace(paces, usual)}
		s.paces.mu.Lock()
		if s.paces.kept == nil {
			s.paces.kept = map[string]usualPace{}
		}
		s.paces.kept[program] = kept
		s.paces.mu.Unlock()
	}
	f.priors[program] = kept.prior
	return kept.prior, nil
}

// Foresee forecasts for each of some climbs when all rules will be met, seen today. Climbs
// must be judged for today; those without a rung above have no forecast.
func (s *Store) Foresee(ctx context.Context, climbs []Climbing) (map[string]progress.Forecast, error) {
	f, err := s.foreseeing(ctx)
	if err != nil {
		return nil, err
	}
	ahead := map[[2]string]timetable.Ahead{}
	type job struct {
		c     *Climbing
		prior progress.Prior
		cal   weekly
		ahead timetable.Ahead
	}
	var jobs []job
	for i := range climbs {
		c := &climbs[i]
		if c.Next == nil {
			continue
		}
		x := job{c: c, cal: f.calendar(c.ProgramID, c.Track.ID), ahead: c.Evidence.Ahead}
		if x.prior, err = s.usual(ctx, f, c.ProgramID); err != nil {
			return nil, err
		}
		if x.ahead == nil {
			key := [2]string{c.ProgramID, c.Track.ID}
			if ahead[key] == nil {
				ahead[key] = f.table.Ahead(f.today.AddDays(1), c.ProgramID, c.Track.ID)
			}
			x.ahead = ahead[key]
		}
		jobs = append(jobs, x)
	}
	made := make([]progress.Forecast, len(jobs))
	inParts(len(jobs), func(i int) {
		x := &jobs[i]
		made[i] = progress.NeedOf(x.c.Verdict, x.c.Evidence).Foresee(f.paceOf(x.c, x.cal), x.prior, x.ahead, x.cal.usual, f.today)
	})
	out := make(map[string]progress.Forecast, len(jobs))
	for i, x := range jobs {
		out[x.c.EnrolmentID] = made[i]
	}
	return out, nil
}

// inParts does n things, shared among the processors where there are many.
func inParts(n int, do func(i int)) {
	const few = 100
	parts := min(runtime.GOMAXPROCS(0), n/few+1)
	var wait sync.WaitGroup
	for part := range parts {
		wait.Go(func() {
			for i := n * part / parts; i < n*(part+1)/parts; i++ {
				do(i)
			}
		})
	}
	wait.Wait()
}

// ForeseeOf forecasts for some enrolments, judged today.
func (s *Store) ForeseeOf(ctx context.Context, enrolments []string) (map[string]progress.Forecast, error) {
	climbs, err := s.read(ctx, s.Today(), `e.id IN (SELECT value FROM json_each(?))`, toJSON(enrolments))
	if err != nil {
		return nil, err
	}
	return s.Foresee(ctx, climbs)
}

// Replays reads every climb on record for a replay of forecasts: the ways from rung to rung
// with the rules of today's draft, their classes and their sign-offs. Climbs whose rungs ask
// for neither classes nor sign-offs have nothing to forecast and are left out.
func (s *Store) Replays(ctx context.Context) ([]progress.Climb, map[string]progress.Calendar, error) {
	type entry struct {
		enrolment, student, program, rung string
		born, on, ended                   civil.Date
		track                             string
	}
	entries, err := list(ctx, s.r, func(x *entry) []any {
		return []any{&x.enrolment, &x.student, &x.program, &x.rung, asDate{&x.born}, asDate{&x.on}, asDate{&x.ended}, &x.track}
	}, `SELECT e.id, e.student_id, e.program_id, k.rung_id, s.birth_date, k.on_date, e.ended_on, e.track_id FROM rank_entry k JOIN enrolment e ON e.id = k.enrolment_id JOIN student s ON s.id = e.student_id
		WHERE k.kind <> 'correction' ORDER BY e.id, k.at`)
	if err != nil {
		return nil, nil, err
	}
	type class struct {
		student, programs string
		on                civil.Date
	}
	classes, err := list(ctx, s.r, func(x *class) []any { return []any{&x.student, &x.programs, asDate{&x.on}} },
		`SELECT a.student_id, r.programs, a.on_date FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id IS NOT NULL ORDER BY a.on_date`)
	if err != nil {
		return nil, nil, err
	}
	came := map[string][]class{}
	for _, x := range classes {
		came[x.student] = append(came[x.student], x)
	}
	shown, err := s.shownToAll(ctx)
	if err != nil {
		return nil, nil, err
	}
	entered, err := s.enteredOn(ctx)
	if err != nil {
		return nil, nil, err
	}
	table, err := s.Timetable(ctx)
	if err != nil {
		return nil, nil, err
	}
	j := &judging{}
	var climbs []progress.Climb
	calendars := map[string]progress.Calendar{}
	for i, x := range entries {
		b, err := s.Book(ctx, x.program)
		if err != nil {
			return nil, nil, err
		}
		next := b.Above(x.rung)
		if next == nil {
			continue
		}
		track := trackOn(b, x.track, x.born, x.on)
		rules := b.RulesOf(next.ID, track.ID)
		c := progress.Climb{Program: x.program + " " + track.ID, Since: x.on, Until: s.Today(), From: progress.DatesOf(rules, progress.Evidence{Since: x.on, Born: x.born, Today: x.on})}
		if !x.ended.IsZero() {
			c.Until = x.ended
		}
		if i+1 < len(entries) && entries[i+1].enrolment == x.enrolment {
			c.Until = entries[i+1].on
		}
		for _, r := range rules {
			if r.Kind == curriculum.ClassesSince && r.Of == "" {
				c.Classes = max(c.Classes, r.Amount)
			}
		}
		for _, k := range came[x.student] {
			if (k.programs == "[]" || slices.Contains(idsOf(k.programs), x.program)) && k.on.Before(c.Until.AddDays(1)) {
				c.Came = append(c.Came, k.on)
			}
		}
		if slices.ContainsFunc(rules, func(r curriculum.Rule) bool {
			return r.Kind == curriculum.AllSignedOff || r.Kind == curriculum.AllStripes
		}) {
			way := Climbing{book: b, Next: next, Track: track, byHand: x.track, born: x.born, entered: entered[x.enrolment]}
			replaySignOffs(j, way, rules, shown[x.enrolment], &c)
		}
		if c.Classes == 0 && c.Signed == 0 || len(c.Came) == 0 || !c.Since.Before(c.Until) {
			continue
		}
		if _, there := calendars[c.Program]; !there {
			calendars[c.Program] = progress.CalendarOf(table, x.program, track.ID, classes[0].on.Monday(), s.Today())
		}
		climbs = append(climbs, c)
	}
	return climbs, calendars, nil
}

// shownToAll is what every student has shown, by climb, oldest first.
func (s *Store) shownToAll(ctx context.Context) (map[string][]progress.Showing, error) {
	type row struct {
		enrolment string
		progress.Showing
	}
	rows, err := list(ctx, s.r, func(x *row) []any {
		return []any{&x.enrolment, &x.Rung, &x.TechniqueID, &x.Role, &x.Stage, &x.Side, asDate{&x.On}, asJSON{&x.Demand}}
	}, `SELECT enrolment_id, rung_id, technique_id, role, stage, side, on_date, demand FROM signoff WHERE kind = 'shown'
		UNION ALL SELECT enrolment_id, '', technique_id, role, 0, '', on_date, demand FROM graded_line ORDER BY on_date`)
	out := map[string][]progress.Showing{}
	for _, x := range rows {
		out[x.enrolment] = append(out[x.enrolment], x.Showing)
	}
	return out, err
}

// enteredOn is the rung on which each climb was entered by hand, and when.
func (s *Store) enteredOn(ctx context.Context) (map[string]string, error) {
	rows, err := list(ctx, s.r, func(x *[2]string) []any { return []any{&x[0], &x[1]} }, `SELECT enrolment_id, concat_ws(char(9), rung_id, on_date) FROM entered`)
	out := map[string]string{}
	for _, x := range rows {
		out[x[0]] = x[1]
	}
	return out, err
}

// replaySignOffs fills in on which days what a climb asked was done, of that which was not done
// before it began.
func replaySignOffs(j *judging, way Climbing, rules []curriculum.Rule, all []progress.Showing, c *progress.Climb) {
	asked := j.asked(way)
	stripes := !slices.ContainsFunc(rules, func(r curriculum.Rule) bool { return r.Kind == curriculum.AllSignedOff })
	counts := func(it *progress.Item) bool {
		return it.Counts && (!stripes || slices.ContainsFunc(way.Next.Stripes, func(s curriculum.SectionStripe) bool { return s.SectionID == it.SectionID }))
	}
	until, _ := slices.BinarySearchFunc(all, c.Until.AddDays(1), func(x progress.Showing, d civil.Date) int { return d.DaysTo(x.On) })
	c.Signed, c.SignOff = asked.DoneSince(all[:until], j.presumed(way, asked), c.Since, counts)
}

// idsOf reads a JSON list of ids.
func idsOf(text string) (out []string) {
	if err := (asJSON{&out}).Scan(text); err != nil {
		return nil
	}
	return out
}
