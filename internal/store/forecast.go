package store

import (
	"context"
	"fmt"
	"runtime"
	"slices"
	"sync"

	"velvetladder/internal/core/check"
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
	first, counts := c.weeks.from, c.weeks.counts
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

// Replays reads every climb on record for a replay of forecasts: the ways from rung to rung with the
// rules of today's draft, their classes, sign-offs, stripes, waivers and waits. Climbs whose rungs ask
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
	back, err := s.lookBack(ctx)
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
		c := progress.Climb{Program: x.program + " " + track.ID, Since: x.on, Until: back.last}
		if !x.ended.IsZero() {
			c.Until = x.ended
		}
		if i+1 < len(entries) && entries[i+1].enrolment == x.enrolment {
			c.Until = entries[i+1].on
		}
		rules := b.RulesOf(next.ID, track.ID)
		back.rules(&c, x.enrolment, next.ID, rules, x.born)
		for _, k := range back.came[x.student] {
			if (len(k.programs) == 0 || slices.Contains(k.programs, x.program)) && k.On.Before(c.Until.AddDays(1)) {
				c.Visits, c.Came = append(c.Visits, k.Visit), append(c.Came, k.On)
			}
		}
		if slices.ContainsFunc(c.Rules, func(r curriculum.Rule) bool {
			return r.Kind != curriculum.ClassesSince && r.Kind != curriculum.ClassShare
		}) {
			way := Climbing{book: b, Next: next, Track: track, byHand: x.track, born: x.born, entered: back.entered[x.enrolment]}
			replaySignOffs(j, way, back.shown[x.enrolment], back.stripes[x.enrolment+next.ID], &c)
		}
		if len(c.Rules) == 0 || len(c.Came) == 0 || !c.Since.Before(c.Until) {
			continue
		}
		if _, there := calendars[c.Program]; !there {
			calendars[c.Program] = back.calendar(x.program, track.ID, s.Today())
		}
		climbs = append(climbs, c)
	}
	return climbs, calendars, nil
}

// lookedBack is what all climbs are replayed from.
type lookedBack struct {
	came    map[string][]cameTo // by student
	first   civil.Date          // the first class anybody came to
	kept    []heldClass
	shown   map[string][]progress.Showing // by climb
	entered map[string]enteredOn
	stripes map[string]map[string]civil.Date // climb and rung → section → awarded
	waived  map[string][]progress.WaivedOn   // climb and rung
	waits   map[string][]progress.Wait       // by climb
	table   timetable.Table
	last    civil.Date // on which anything was written down of classes or sign-offs; today where nothing was
}

type cameTo struct {
	progress.Visit
	programs []string
}

// lookBack is long: a query for each thing that is looked back on.
func (s *Store) lookBack(ctx context.Context) (x lookedBack, err error) {
	type class struct {
		student string
		cameTo
	}
	classes, err := list(ctx, s.r, func(k *class) []any {
		return []any{&k.student, asJSON{&k.programs}, asDate{&k.On}, &k.Kind, &k.Mode}
	}, `SELECT a.student_id, r.programs, a.on_date, r.kind, a.mode FROM attendance a JOIN register r ON r.id = a.register_id WHERE a.student_id IS NOT NULL ORDER BY a.on_date`)
	if err != nil {
		return x, err
	}
	x.came = map[string][]cameTo{}
	for _, k := range classes {
		k.Kind = check.Key(k.Kind)
		x.came[k.student] = append(x.came[k.student], k.cameTo)
	}
	if len(classes) > 0 {
		x.first = classes[0].On
	}
	if x.kept, err = list(ctx, s.r, bindHeld, selectHeld, ""); err != nil {
		return x, err
	}
	if x.shown, err = s.shownToAll(ctx); err != nil {
		return x, err
	}
	if x.entered, err = s.allEntered(ctx); err != nil {
		return x, err
	}
	type award struct {
		of, section string
		on          civil.Date
	}
	awards, err := list(ctx, s.r, func(k *award) []any { return []any{&k.of, &k.section, asDate{&k.on}} }, `SELECT enrolment_id || rung_id, section_id, on_date FROM stripe`)
	if err != nil {
		return x, err
	}
	x.stripes = map[string]map[string]civil.Date{}
	for _, k := range awards {
		if x.stripes[k.of] == nil {
			x.stripes[k.of] = map[string]civil.Date{}
		}
		x.stripes[k.of][k.section] = k.on
	}
	type waiver struct {
		of string
		progress.WaivedOn
	}
	waivers, err := list(ctx, s.r, func(k *waiver) []any { return []any{&k.of, &k.Rule, asDate{&k.On}} },
		`SELECT enrolment_id || rung_id, rule, date(at) FROM eligibility_event v WHERE kind = 'waiver' AND NOT EXISTS (SELECT 1 FROM eligibility_event n WHERE n.supersedes = v.id)`)
	if err != nil {
		return x, err
	}
	x.waived = map[string][]progress.WaivedOn{}
	for _, k := range waivers {
		x.waived[k.of] = append(x.waived[k.of], k.WaivedOn)
	}
	type wait struct {
		of string
		progress.Wait
	}
	waits, err := list(ctx, s.r, func(k *wait) []any { return []any{&k.of, asDate{&k.Told}, asDate{&k.From}} },
		`SELECT c.enrolment_id, date(a.at), d.retest_from FROM announcement a JOIN decision d ON d.candidate_id = a.candidate_id AND d.retest_from IS NOT NULL JOIN candidate c ON c.id = a.candidate_id ORDER BY a.at`)
	if err != nil {
		return x, err
	}
	x.waits = map[string][]progress.Wait{}
	for _, k := range waits {
		x.waits[k.of] = append(x.waits[k.of], k.Wait)
	}
	x.last = x.until(s.Today())
	x.table, err = s.Timetable(ctx)
	return x, err
}

// until is the last day on which anything was written down of classes or sign-offs; today where nothing was. After it
// nobody knows who came: a climb is followed no further.
func (x *lookedBack) until(today civil.Date) (last civil.Date) {
	if len(x.kept) > 0 {
		last = x.kept[len(x.kept)-1].on
	}
	for _, all := range x.shown {
		for _, k := range all {
			last = civil.Max(last, k.On)
		}
	}
	if last.IsZero() || today.Before(last) {
		return today
	}
	return last
}

// rules fills in what a climb was held to: those of date and age as a day, those that take classes or
// sign-offs as they are; what can be given at any time is left out, as the forecasts take it as given.
func (x *lookedBack) rules(c *progress.Climb, enrolment, rung string, rules []curriculum.Rule, born civil.Date) {
	e := progress.Evidence{Since: c.Since, Born: born, Today: c.Since}
	c.Waived = x.waived[enrolment+rung]
	for _, w := range c.Waived { // a waived date is no date, whenever it was waived
		if e.Waived == nil {
			e.Waived = map[curriculum.RuleKind]string{}
		}
		e.Waived[w.Rule] = "waived"
	}
	c.From = progress.DatesOf(rules, e)
	for _, r := range rules {
		switch r.Kind {
		case curriculum.ClassesSince, curriculum.ClassShare, curriculum.AllSignedOff, curriculum.EachSignedOff, curriculum.AllStripes:
			c.Rules = append(c.Rules, r)
		}
	}
	for _, w := range x.waits[enrolment] {
		if !w.From.Before(c.Since) && w.Told.Before(c.Until) {
			c.Waits = append(c.Waits, w)
		}
	}
}

// calendar is the timetable of a program and track, with the registers kept.
func (x *lookedBack) calendar(program, track string, today civil.Date) progress.Calendar {
	cal := progress.CalendarOf(x.table, program, track, x.first.Monday(), today)
	for _, k := range x.kept {
		if len(k.Programs) == 0 || slices.Contains(k.Programs, program) {
			if cal.Registered.IsZero() {
				cal.Registered = k.on
			}
		}
		if k.For(program, track) {
			cal.Kept = append(cal.Kept, progress.Visit{On: k.on, Attendance: progress.Attendance{Kind: check.Key(k.Kind), Mode: timetable.Hall}})
		}
	}
	return cal
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

// allEntered is the rung on which each climb was entered by hand, and when.
func (s *Store) allEntered(ctx context.Context) (map[string]enteredOn, error) {
	type row struct {
		enrolment string
		enteredOn
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.enrolment, &x.rung, asDate{&x.on}} }, `SELECT enrolment_id, rung_id, on_date FROM entered`)
	out := map[string]enteredOn{}
	for _, x := range rows {
		out[x.enrolment] = x.enteredOn
	}
	return out, err
}

// replaySignOffs fills in on which days what a climb asked was done, in all and by section.
func replaySignOffs(j *judging, way Climbing, all []progress.Showing, awarded map[string]civil.Date, c *progress.Climb) {
	asked := j.asked(way)
	counts := func(it *progress.Item) bool { return it.Counts }
	until, _ := slices.BinarySearchFunc(all, c.Until.AddDays(1), func(x progress.Showing, d civil.Date) int { return d.DaysTo(x.On) })
	presumed := j.presumed(way, asked)
	c.Signed, c.SignOff = asked.DoneSince(all[:until], presumed, c.Since, counts)
	c.Sections = asked.Ways(all[:until], presumed)
	for i := range c.Sections {
		w := &c.Sections[i]
		w.Striped = slices.ContainsFunc(way.Next.Stripes, func(s curriculum.SectionStripe) bool { return s.SectionID == w.ID })
		w.Awarded = awarded[w.ID]
	}
}
