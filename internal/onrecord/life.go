package onrecord

import (
	"context"
	"fmt"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/demo"
	"velvetladder/internal/store"
)

// timetable puts the week and its holidays on record.
func (b *builder) timetable(ctx context.Context, school demo.School) error {
	programs, tracks := map[string]string{}, map[string]string{}
	for _, p := range school.Programs {
		programs[p.Program.Name] = p.Program.ID
		for _, t := range p.Program.Tracks {
			tracks[p.Program.Name+t.Name] = t.ID
		}
	}
	for _, c := range demo.Week(b.today.AddMonths(-30)) {
		if c.Program != "" {
			c.Programs = []string{programs[c.Program]}
		}
		for _, t := range c.Tracks {
			c.Class.Tracks = append(c.Class.Tracks, tracks[c.Program+t])
		}
		d, err := b.SaveClass(ctx, by, c.Class)
		if err != nil {
			return err
		}
		c.Class.ID = d.ID
		b.week = append(b.week, c.Class)
	}
	for _, c := range demo.Holidays(b.today) {
		if _, err := b.AddClosure(ctx, by, c); err != nil {
			return err
		}
	}
	return nil
}

// chapter is how many days of classes are written at one go.
const chapter = 28

// live lets a program's students come to class and show things, from a day until before
// another. Nothing is written about today: tonight's registers are still to be kept.
func (b *builder) live(ctx context.Context, p demo.Program, from, to civil.Date) error {
	if b.today.Before(to) {
		to = b.today
	}
	for from.Before(to) {
		end := from.AddDays(chapter)
		if to.Before(end) {
			end = to
		}
		b.at = noon(end.AddDays(-1))
		if err := b.classes(ctx, p, from, end); err != nil {
			return err
		}
		from = end
	}
	return nil
}

func (b *builder) classes(ctx context.Context, p demo.Program, from, to civil.Date) error {
	table, err := b.Timetable(ctx)
	if err != nil {
		return err
	}
	people, _, err := b.Students(ctx, p.Program.ID, "", 1000, 0)
	if err != nil {
		return err
	}
	named := map[string]demo.Student{}
	for _, s := range p.Students {
		named[s.Name] = s
	}
	var came []gradingday.Attendance
	type visit struct {
		slot timetable.Slot
		who  demo.Student
	}
	visits := map[string][]visit{} // enrolment → classes
	for d := from; d.Before(to); d = d.AddDays(1) {
		for _, slot := range table.On(d) {
			if slot.Off || !slot.For(p.Program.ID, "") {
				continue
			}
			for _, s := range people {
				who := named[s.Name]
				track := ""
				if t, found := p.Program.TrackOf(s.BirthDate.Age(d)); found {
					track = t.ID
				}
				if who.Name == "" || !slot.For(p.Program.ID, track) {
					continue
				}
				comes, late, mode := who.Comes(slot.Class, d, b.today)
				if !comes {
					continue
				}
				a := gradingday.Attendance{ID: store.NewID(), ClassID: slot.Class.ID, On: d, StudentID: s.ID, State: gradingday.Present, Mode: mode}
				if late {
					a.State = gradingday.Late
				}
				came = append(came, a)
				visits[s.EnrolmentID] = append(visits[s.EnrolmentID], visit{slot, who})
			}
		}
	}
	if err := b.none(b.RecordAttendance(ctx, by, came)); err != nil {
		return err
	}
	students := map[string]bool{}
	for _, s := range people {
		if len(visits[s.EnrolmentID]) > 0 {
			students[s.ID] = true
		}
	}
	ready, err := b.ReadyOfStudents(ctx, students, []string{p.Program.ID})
	if err != nil {
		return err
	}
	var shown []store.SignOff
	for _, c := range ready {
		done, one := map[string]bool{}, map[string]string{} // what was shown, and of what one side was
		for _, v := range visits[c.EnrolmentID] {
			left := 2 // things one student is seen with in one class
			for _, it := range c.Items {
				key := it.Key()
				if !it.Counts || it.Done || done[key] || left == 0 {
					continue
				}
				right, tried := v.who.Shows(it.Call, v.slot.On)
				if !tried {
					continue
				}
				left--
				side := ""
				if it.TwoSided && right {
					side = v.who.Side(it.Call, v.slot.On, one[key])
				}
				x := store.SignOff{Side: side, ID: store.NewID(), EnrolmentID: c.EnrolmentID, TechniqueID: it.TechniqueID, Role: it.Role, Stage: it.Stage, Kind: "shown", ClassID: v.slot.Class.ID, On: v.slot.On, Line: key}
				if !right {
					x.Kind = "not_yet"
					if len(it.Faults) > 0 {
						x.Fault = it.Faults[0].Seen
					}
				} else if v.who.Seen(it.Call) {
					x.Clip, x.ClassID = true, ""
				}
				shown = append(shown, x)
				switch {
				case !right:
				case it.TwoSided && one[key] == "" && v.who.OneSideOnly(it.Call, v.slot.On):
					one[key] = side
				case it.TwoSided && one[key] == "":
					y := x
					y.ID, y.Side = store.NewID(), map[string]string{"left": "right", "right": "left"}[side]
					shown = append(shown, y)
					fallthrough
				default:
					done[key] = true
				}
			}
		}
	}
	if err := b.none(b.RecordSignOffs(ctx, by, shown)); err != nil {
		return err
	}
	if err := b.worked(ctx, shown, to); err != nil {
		return err
	}
	due, err := b.DueStripes(ctx, p.Program.ID)
	if err != nil {
		return err
	}
	var stripes []store.Stripe
	for _, d := range due {
		stripes = append(stripes, store.Stripe{EnrolmentID: d.EnrolmentID, SectionID: d.SectionID})
	}
	// Of the last days some are still to be awarded.
	if len(stripes) == 0 || to.DaysTo(b.today) < 3 {
		return nil
	}
	_, err = b.AwardStripes(ctx, by, to.AddDays(-1), stripes, "")
	return err
}

// worked notes, of the last weeks, what each class worked on: what most were seen with.
func (b *builder) worked(ctx context.Context, shown []store.SignOff, to civil.Date) error {
	if to.DaysTo(b.today) > 30 {
		return nil
	}
	type class struct {
		id string
		on civil.Date
	}
	seen := map[class]map[string]int{}
	var order []class
	for _, x := range shown {
		if k := (class{x.ClassID, x.On}); x.ClassID != "" {
			if seen[k] == nil {
				seen[k], order = map[string]int{}, append(order, k)
			}
			seen[k][x.TechniqueID]++
		}
	}
	for _, k := range order {
		best, n := "", seen[k]
		for technique, times := range n {
			if times > n[best] || times == n[best] && technique < best {
				best = technique
			}
		}
		if _, err := b.Teach(ctx, by, k.id, k.on, best); err != nil {
			return err
		}
	}
	return nil
}

// none expects that no entry was refused.
func (b *builder) none(refused []store.RefusedEntry, err error) error {
	if err == nil && len(refused) > 0 {
		err = fmt.Errorf("entry %d of the demo was refused: %w", refused[0].At, refused[0].Why)
	}
	return err
}

// papers records kit, memberships and words.
func (b *builder) papers(ctx context.Context, p demo.Program) error {
	b.at = noon(b.today.AddDays(-1))
	people, _, err := b.Students(ctx, p.Program.ID, "", 1000, 0)
	if err != nil {
		return err
	}
	book, err := b.Book(ctx, p.Program.ID)
	if err != nil {
		return err
	}
	for _, s := range people {
		at := slices.IndexFunc(p.Students, func(x demo.Student) bool { return x.Name == s.Name })
		next := book.Above(s.Rung.ID)
		if at < 0 || next == nil {
			continue
		}
		looked, owned, member := p.Students[at].Papers(book.KitOf(next.ID), b.today)
		papers := []progress.Paper{}
		if !member.IsZero() {
			papers = append(papers, progress.Paper{Kind: curriculum.Membership, Until: member})
		}
		var kit *[]string
		if looked {
			kit = &owned
			if owned == nil {
				kit = &[]string{}
			}
		}
		if _, err := b.SaveEvidence(ctx, by, s.ID, kit, papers); err != nil {
			return err
		}
	}
	return nil
}
