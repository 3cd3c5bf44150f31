// Package onrecord puts the demo school on record by the calls people use.
package onrecord

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"slices"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/demo"
	"velvetladder/internal/store"
)

// Demo is who writes the demo's records.
const Demo = "demo"

// builder puts the demo school on record with the calls people use, under a clock that
// goes through the school's two years.
type builder struct {
	*store.Store
	at    time.Time
	rungs map[string]string // name → id, of the program being built
	tied  map[string]bool   // enrolments whose grading is still under way
	today civil.Date
	week  []timetable.Class // on record
}

var by = store.By{Actor: Demo}

// Build makes the demo school as it stands on a day. The same day makes the same school: its draws
// and marks hang on ids, and these follow from the day.
func Build(ctx context.Context, path string, today civil.Date) error {
	b := &builder{at: noon(today.AddMonths(-30)), today: today}
	var err error
	if b.Store, err = store.Open(ctx, path, func() time.Time { b.at = b.at.Add(time.Millisecond); return b.at }); err != nil {
		return err
	}
	defer b.Close()
	defer store.SameIDs(sha256.Sum256([]byte(today.String())))()
	school := demo.At(today)
	set := office.Usual
	set.MailFrom, set.Retention = "office@marrowby-mill.example", 6
	set.Hall = gradingday.Hall{WidthCM: 450, DepthCM: 900} // a mill floor is long and narrow
	if _, err := b.SaveSettings(ctx, by, school.Name, set, nil); err != nil {
		return err
	}
	if err := b.timetable(ctx, school); err != nil {
		return fmt.Errorf("building the demo's week: %w", err)
	}
	for _, p := range school.Programs {
		if err := b.program(ctx, p); err != nil {
			return fmt.Errorf("building the demo's %s: %w", p.Program.Name, err)
		}
	}
	if err := b.prepare(ctx, school); err != nil {
		return err
	}
	if err := b.thisWeek(ctx, school); err != nil {
		return err
	}
	return b.tape(ctx, school)
}

// tape measures the stances of those who were measured on the mat.
func (b *builder) tape(ctx context.Context, school demo.School) error {
	for _, p := range school.Programs {
		people, _, err := b.Students(ctx, p.Program.ID, "", 1000, 0)
		if err != nil {
			return err
		}
		book := curriculum.Open(p.Curriculum)
		for _, s := range people {
			at := slices.IndexFunc(p.Students, func(x demo.Student) bool { return x.Name == s.Name && x.Taped != nil })
			if at < 0 {
				continue
			}
			x := p.Students[at].Taped
			t := book.Named(x.Stance)
			d, _, _ := book.StanceOf(t)
			if _, err := b.RecordTaped(ctx, by, store.Taped{StudentID: s.ID, TechniqueID: t.ID, Held: d.Hold(x.Taped, s.Body()), Fault: x.Fault}); err != nil {
				return err
			}
		}
	}
	return nil
}

// thisWeek sets the theme of this week, and what some would show where the choice is theirs.
func (b *builder) thisWeek(ctx context.Context, school demo.School) error {
	b.at = noon(b.today.AddDays(-1))
	settings, err := b.Settings(ctx)
	if err != nil {
		return err
	}
	for _, p := range school.Programs {
		theme := practice.Theme{Words: demo.Themes[p.Program.Name].Words}
		for _, s := range p.Sections {
			if slices.Contains(demo.Themes[p.Program.Name].Sections, s.Name) {
				theme.Sections = append(theme.Sections, s.ID)
			}
		}
		if _, err := b.SaveThemes(ctx, by, settings.WeekOf(b.today), map[string]practice.Theme{p.Program.ID: theme}); err != nil {
			return err
		}
		all, err := b.WhoMayTest(ctx, p.Program.ID, b.today)
		if err != nil {
			return err
		}
		book := curriculum.Open(p.Curriculum)
		for _, c := range all {
			own, chosen := demo.Own[c.Name]
			if !chosen || c.Next == nil {
				continue
			}
			for _, l := range book.Compile(curriculum.Asking{RungID: c.Next.ID, TrackID: c.Track.ID}).Lines {
				if !l.Free {
					continue
				}
				lines, wrong := practice.Choose(book, l, c.Next.ID, c.Track.ID, own)
				if len(wrong) > 0 {
					return fmt.Errorf("%s: %w", c.Name, wrong)
				}
				kept := make([]string, len(lines))
				for i, x := range lines {
					kept[i] = x.Line
				}
				if _, err := b.Choose(ctx, by, c.EnrolmentID, l.TechniqueID, kept); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// prepare puts the examiners on record, and plans the days of the gradings to come.
func (b *builder) prepare(ctx context.Context, school demo.School) error {
	b.at = noon(b.today.AddDays(-1))
	people, _, err := b.Students(ctx, "", "", 1000, 0)
	if err != nil {
		return err
	}
	for _, o := range demo.Officers {
		x := store.Officer{Name: o.Name, Holds: map[string]string{}}
		for _, p := range school.Programs {
			for _, r := range p.Rungs {
				if r.Name == o.Holds[p.Program.Name] {
					x.Holds[p.Program.ID] = r.ID
				}
			}
		}
		for _, s := range people {
			if s.Name == o.Family {
				x.Family = []string{s.ID}
			}
		}
		if _, err := b.SaveOfficer(ctx, by, x); err != nil {
			return err
		}
	}
	all, err := b.Gradings(ctx, "")
	if err != nil {
		return err
	}
	for _, g := range all {
		if g.Begun() || g.Candidates == 0 {
			continue
		}
		rules := gradingday.UsualDay
		rules.Open, rules.Close, rules.PauseFrom, rules.PauseTo = 10*60, 16*60, 12*60+30, 13*60
		if _, err := b.MakeDayPlan(ctx, by, g.ID, rules); err != nil {
			return fmt.Errorf("planning %s: %w", g.Title(), err)
		}
		pairs := gradingday.UsualPairs
		pairs.SameRing = false
		var no *store.Refused
		if _, err := b.MakePairs(ctx, by, g.ID, pairs); err != nil && !errors.As(err, &no) {
			return err
		}
		full, err := b.Grading(ctx, g.ID)
		if err != nil {
			return err
		}
		for i, r := range full.Rungs {
			if r.Kind != curriculum.Belt {
				continue
			}
			if _, err := b.CountStock(ctx, by, r.ID, []string{"2", "3", "4"}[i%3], 1+i%2, true, "counted in the cupboard"); err != nil {
				return err
			}
		}
	}
	return nil
}

func noon(d civil.Date) time.Time {
	t, _ := time.Parse("2006-01-02", d.String()) // a civil date always parses
	return t.Add(12 * time.Hour)
}

func (b *builder) program(ctx context.Context, p demo.Program) error {
	b.at = noon(demoStart(p))
	id := p.Program.ID
	if _, err := b.SaveCurriculum(ctx, by, p.Curriculum); err != nil {
		return err
	}
	if _, err := b.Publish(ctx, by, id, p.Story, false); err != nil {
		return err
	}
	b.rungs, b.tied = map[string]string{}, map[string]bool{}
	for _, r := range p.Rungs {
		b.rungs[r.Name] = r.ID
	}
	for _, s := range p.Students {
		b.at = noon(s.Since)
		if _, err := b.AddStudents(ctx, by, []store.NewStudent{{Student: s.Student, Starts: []store.Start{{RungID: b.rungs[s.Start], Since: s.Since}}}}); err != nil {
			return fmt.Errorf("%s: %w", s.Name, err)
		}
	}
	if err := b.adapt(ctx, id); err != nil {
		return err
	}
	lived := demoStart(p)
	for _, g := range p.Gradings {
		if err := b.live(ctx, p, lived, g.On); err != nil {
			return fmt.Errorf("the classes before %s: %w", g.On, err)
		}
		lived = civil.Max(lived, g.On)
		if err := b.grading(ctx, id, p, g); err != nil {
			return fmt.Errorf("the grading on %s: %w", g.On, err)
		}
	}
	if err := b.live(ctx, p, lived, b.today); err != nil {
		return err
	}
	return b.papers(ctx, p)
}

// adapt records, for whoever has a knee to mind, that jumping is not asked.
func (b *builder) adapt(ctx context.Context, program string) error {
	all, _, err := b.Students(ctx, program, "", 1000, 0)
	if err != nil {
		return err
	}
	for _, s := range all {
		if s.Limits == "" {
			continue
		}
		a := curriculum.Adaptation{Modifier: "jumping", Does: curriculum.Excuse, Reason: "left knee: no jumping, as the doctor said"}
		if _, err := b.AddAdaptation(ctx, by, s.ID, program, a); err != nil {
			return err
		}
	}
	return nil
}

func (b *builder) grading(ctx context.Context, program string, p demo.Program, g demo.Grading) error {
	// A grading of days to come was planned some days ago, and nothing is written after today.
	b.at = noon(g.On)
	if g.Stage == demo.Prepared {
		b.at = noon(g.On.AddDays(-24))
	}
	g.ProgramID = program
	for _, r := range g.Rungs {
		g.RungIDs = append(g.RungIDs, b.rungs[r])
	}
	done, err := b.SaveGrading(ctx, by, g.Grading)
	if err != nil {
		return err
	}
	eligible, err := b.Eligible(ctx, done.ID)
	if err != nil {
		return err
	}
	entrants := b.entrants(eligible, g)
	if len(entrants) == 0 { // a day on which nobody is ready: the grading is called off
		_, err := b.DeleteGrading(ctx, by, done.ID)
		return err
	}
	if _, err := b.AddCandidates(ctx, by, done.ID, entrants); err != nil {
		return err
	}
	if g.Stage == demo.Prepared {
		return nil
	}
	if _, err := b.Begin(ctx, by, done.ID); err != nil {
		return err
	}
	if err := b.mark(ctx, done.ID, p, g); err != nil {
		return err
	}
	if g.Stage == demo.HalfDone {
		return nil
	}
	if g.Stage == demo.Signed {
		if err := b.spar(ctx, done.ID); err != nil {
			return err
		}
	}
	return b.decide(ctx, done.ID, g)
}

// entrants are those who want to be tested and may; where nobody wants to, some of those who may.
func (b *builder) entrants(eligible []store.Climbing, g demo.Grading) (out []store.Entrant) {
	for _, urged := range []bool{false, true} {
		for _, s := range eligible {
			// A stripe evening is open to all who have stood on their rung for a while.
			wants := demo.WantsToTest(s.Name, s.Rung.Position, s.Since, g.On) || g.Stage == demo.HalfDone && s.Since.DaysTo(g.On) >= 30 || urged && len(out) < 3
			if !b.tied[s.EnrolmentID] && wants && s.Verdict.State != progress.NotMet && (g.Most == 0 || len(out) < g.Most) {
				out = append(out, store.Entrant{EnrolmentID: s.EnrolmentID})
				b.tied[s.EnrolmentID] = g.Stage == demo.HalfDone || g.Stage == demo.Signed
			}
		}
		if len(out) > 0 {
			break
		}
	}
	return out
}

// mark lets every examiner mark and sign; of a grading half done only about half of the lines.
func (b *builder) mark(ctx context.Context, id string, p demo.Program, g demo.Grading) error {
	_, rows, err := b.Review(ctx, id)
	if err != nil {
		return err
	}
	full, err := b.Grading(ctx, id)
	if err != nil {
		return err
	}
	groups, called, size, ring := []string{}, map[string]string{}, map[string]int{}, map[string]int{}
	for i, r := range rows {
		if i == 0 || rows[i-1].GroupID != r.GroupID {
			groups = append(groups, r.GroupID)
		}
		called[r.GroupID] = r.Group
		size[r.GroupID]++
		ring[r.GroupID], _ = full.PanelOf(r.RingID)
	}
	// Of a grading half done the largest group has begun.
	begun := slices.MaxFunc(groups, func(x, y string) int { return size[x] - size[y] })
	for n, examiner := range full.Examiners {
		for _, group := range groups {
			if ring[group] != examiner.Ring {
				continue
			}
			var marks []gradingday.Mark
			for _, r := range rows {
				if r.GroupID != group {
					continue
				}
				for k, it := range r.Items {
					if it.Carried != nil {
						continue // it stands from the attempt before
					}
					if g.Stage == demo.HalfDone && (group != begun || k > 3+len(r.Items)/2-n) {
						continue
					}
					marks = append(marks, markOf(p, g, r, it.ID, it.Label, it.Bonus, examiner))
				}
			}
			if len(marks) == 0 {
				continue
			}
			if refused, err := b.TakeMarks(ctx, by, marks); err != nil || len(refused) > 0 {
				return fmt.Errorf("marking: %v, refused %v", err, refused)
			}
			// The school marks on paper, and types each sheet twice.
			twice := office.Deed{Kind: office.PaperReadTwice, Who: examiner.ID, What: called[group], N: len(marks)}
			if _, err := b.NoteDeed(ctx, by, twice); err != nil {
				return err
			}
			if g.Stage == demo.HalfDone {
				continue
			}
			if _, err := b.Sign(ctx, by, examiner.ID, group, false); err != nil {
				return err
			}
		}
	}
	return nil
}

func markOf(p demo.Program, g demo.Grading, r store.Reviewed, item, label string, bonus bool, examiner gradingday.Examiner) gradingday.Mark {
	m := gradingday.Mark{ID: store.NewID(), CandidateID: r.ID, ExaminerID: examiner.ID, ItemID: item, Kind: gradingday.MarkNotSeen}
	if v, seen := p.Mark(r.Name, examiner.Name, label, bonus, g.On, g.Policy.Scale); seen {
		m.Kind, m.Value = gradingday.MarkGiven, v
	}
	return m
}

// spar puts a bout of the first two candidates of a ring on record, with a light fault.
func (b *builder) spar(ctx context.Context, id string) error {
	g, err := b.Grading(ctx, id)
	if err != nil {
		return err
	}
	all, err := b.Candidates(ctx, id)
	if err != nil || len(all) < 2 || all[0].RingID != all[1].RingID {
		return err
	}
	bout, err := b.BeginBout(ctx, by, gradingday.Bout{RingID: all[0].RingID, A: all[0].ID, B: all[1].ID, Rounds: 2, Seconds: 60})
	if err != nil {
		return err
	}
	for i, e := range []gradingday.BoutEvent{{Kind: "point", Side: "a", Round: 1, Points: 1}, {Kind: "point", Side: "b", Round: 1, Points: 2}, {Kind: "point", Side: "a", Round: 2, Points: 2}, {Kind: "ended", Round: 2}} {
		e.ID, e.BoutID = fmt.Sprintf("%s-%d", bout.ID, i), bout.ID
		if err := b.RecordBout(ctx, by, all[0].RingID, e); err != nil {
			return err
		}
	}
	if _, err := b.Reopen(ctx, by, g.Examiners[0].ID, all[1].GroupID, "a fault was still to be noted"); err != nil {
		return err
	}
	if err := b.RecordFault(ctx, by, gradingday.Fault{ID: store.NewID(), CandidateID: all[1].ID, ExaminerID: g.Examiners[0].ID, Kind: gradingday.FaultNote, Conduct: gradingday.LossOfControl, BoutID: bout.ID, Text: "swung wide after the stop word"}); err != nil {
		return err
	}
	_, err = b.Sign(ctx, by, g.Examiners[0].ID, all[1].GroupID, false)
	return err
}

// decide follows the proposals; of a grading only signed, the last ones stay open.
func (b *builder) decide(ctx context.Context, id string, g demo.Grading) error {
	_, rows, err := b.Review(ctx, id)
	if err != nil {
		return err
	}
	b.at = noon(g.On.AddDays(2))
	var all []string
	for i, r := range rows {
		if g.Stage == demo.Signed && i >= len(rows)/2 {
			break
		}
		d := store.Decision{CandidateID: r.ID, Outcome: r.Result.Outcome, DecidedBy: "Rosalind Castellane"}
		if !d.Outcome.Promotes() && d.Outcome != scoring.OutcomeRetest {
			d.Outcome, d.Reason = scoring.OutcomeRetest, "could not be seen again that day"
		}
		if _, err := b.Decide(ctx, by, d); err != nil {
			return err
		}
		all = append(all, r.ID)
	}
	if g.Stage == demo.Signed || len(all) == 0 {
		return nil
	}
	_, err = b.Announce(ctx, by, id, all)
	return err
}

// demoStart is the day the program's records begin: before the first student.
func demoStart(p demo.Program) civil.Date {
	first := p.Students[0].Since
	for _, s := range p.Students {
		if s.Since.Before(first) {
			first = s.Since
		}
	}
	return first.AddDays(-7)
}
