package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
)

// Preparing is a candidate with what is looked at before the day.
type Preparing struct {
	Candidate
	Born                        civil.Date
	HeightCM, WeightKG, WaistCM int
	BeltSize, Guardian, Contact string
	Kit                         *[]string // nil: nobody looked
	Papers                      []progress.Paper
	Since                       civil.Date       // standing on From since
	Track                       curriculum.Track // on the day

	chosen, version string
}

// Months is the age on a day in full months; 0 unknown.
func (p Preparing) Months(on civil.Date) int {
	if p.Born.IsZero() || on.Before(p.Born) {
		return 0
	}
	n := 12 * p.Born.Age(on)
	for birthday := p.Born.AddMonths(n + 1); !on.Before(birthday); birthday = p.Born.AddMonths(n + 1) {
		n++
	}
	return n
}

// Fighter is the candidate as pairs are matched, in the ring where they are tested.
func (p Preparing) Fighter(g Grading) gradingday.Fighter {
	ring, _ := g.PanelOf(p.RingID)
	return gradingday.Fighter{ID: p.ID, Name: p.Name, Months: p.Months(g.On), HeightCM: p.HeightCM, WeightKG: p.WeightKG, Rung: p.From.Position, Ring: ring}
}

// Preparing are the candidates of a grading, in their order.
func (s *Store) Preparing(ctx context.Context, gradingID string) (Grading, []Preparing, error) {
	return s.preparing(ctx, s.r, gradingID)
}

func (s *Store) preparing(ctx context.Context, q querier, gradingID string) (g Grading, out []Preparing, err error) {
	if g, err = grading(ctx, q, gradingID); err != nil {
		return g, nil, err
	}
	all, err := candidates(ctx, q, gradingID, "")
	if err != nil {
		return g, nil, err
	}
	more, err := list(ctx, q, func(p *Preparing) []any {
		return []any{&p.ID, asDate{&p.Born}, &p.HeightCM, &p.WeightKG, &p.WaistCM, &p.BeltSize, &p.Guardian, &p.Contact, asJSON{&p.Kit}, asJSON{&p.Papers}, asDate{&p.Since}, &p.chosen, asText{&p.version}}
	}, `SELECT c.id, s.birth_date, s.height_cm, s.weight_kg, s.waist_cm, s.belt_size, s.guardian, s.contact, s.kit, s.papers, e.since, e.track_id, e.version_id
		FROM candidate c JOIN enrolment e ON e.id = c.enrolment_id JOIN student s ON s.id = e.student_id WHERE c.grading_id = ? AND c.withdrawn_at IS NULL`, gradingID)
	if err != nil {
		return g, nil, err
	}
	b, err := s.draftBook(ctx, q, g.ProgramID)
	if err != nil {
		return g, nil, err
	}
	byID := map[string]Preparing{}
	for _, p := range more {
		byID[p.ID] = p
	}
	for _, c := range all {
		p := byID[c.ID]
		p.Candidate, p.Track = c, trackOn(b, p.chosen, p.Born, g.On)
		out = append(out, p)
	}
	return g, out, nil
}

// draftBook is the curriculum as it is being edited, inside or outside a transaction.
func (s *Store) draftBook(ctx context.Context, q querier, program string) (*curriculum.Book, error) {
	if t, inside := q.(*txn); inside {
		return t.book(ctx, program)
	}
	return s.Book(ctx, program)
}

// timing compiles each sheet once for each size of group.
type timing struct {
	s     *Store
	q     querier
	g     Grading
	draft *curriculum.Book
	made  map[string]curriculum.TestSheet
}

func (s *Store) timing(ctx context.Context, q querier, g Grading) (*timing, error) {
	b, err := s.draftBook(ctx, q, g.ProgramID)
	return &timing{s, q, g, b, map[string]curriculum.TestSheet{}}, err
}

// sheet is what a candidate's rung, track and version ask of a group of so many.
func (x *timing) sheet(ctx context.Context, p Preparing, size int) (curriculum.TestSheet, error) {
	key := fmt.Sprint(p.To.ID, " ", p.Track.ID, " ", p.version, " ", size)
	if t, there := x.made[key]; there {
		return t, nil
	}
	b, err := x.book(ctx, p)
	if err != nil {
		return curriculum.TestSheet{}, err
	}
	x.made[key] = b.Compile(curriculum.Asking{RungID: p.To.ID, TrackID: p.Track.ID, Seed: x.g.Seed, Group: size})
	return x.made[key], nil
}

// book is the curriculum a candidate climbs by, or the draft where the rung is younger.
func (x *timing) book(ctx context.Context, p Preparing) (*curriculum.Book, error) {
	if p.version == "" {
		return x.draft, nil
	}
	v, err := x.s.versionBook(ctx, x.q, p.version)
	if err != nil || v.Rung(p.To.ID) != nil {
		return v, err
	}
	return x.draft, nil
}

func (p Preparing) class() string {
	if p.Track.Name == "" {
		return p.ToWords
	}
	return p.ToWords + ", " + p.Track.Name
}

// group is a plan's view of some candidates who stand together.
func (x *timing) group(ctx context.Context, id, name string, members []Preparing) (gradingday.DayGroup, error) {
	out := gradingday.DayGroup{ID: id, Name: name, For: members[0].class(), Ring: gradingday.Spare}
	for _, p := range members {
		t, err := x.sheet(ctx, p, len(members))
		if err != nil {
			return out, err
		}
		first, then := gradingday.Minutes(t.Lines)
		if first+then > out.Minutes() {
			out.First, out.Then = first, then
		}
		out.Rung = max(out.Rung, p.To.Position)
		if m := p.Months(x.g.On); m > 0 && (out.Months == 0 || m < out.Months) {
			out.Months = m
		}
		out.Students = append(out.Students, p.StudentID)
	}
	return out, nil
}

// Today's plan as it is kept.
type keptPlan struct {
	Rules gradingday.DayRules `json:"rules"`
	Rings []keptRing          `json:"rings"`
}

type keptRing struct {
	ID     string      `json:"ring"`
	Groups []keptGroup `json:"groups"` // in the order of their first parts
}

type keptGroup struct {
	ID     string            `json:"group"`
	Pinned bool              `json:"pinned,omitempty"`
	Slots  []gradingday.Slot `json:"slots"`
}

// DayPlan is a grading's day.
type DayPlan struct {
	Grading   Grading
	Day       gradingday.Day
	People    []Preparing
	Made      bool // there is a plan
	Plan      gradingday.DayPlan
	Pinned    map[string]bool // groups
	Spare     []gradingday.DayExaminer
	Elsewhere []string // examiners who sit at another grading that day, in words
}

// Of are the candidates of a group.
func (d DayPlan) Of(group string) (out []Preparing) {
	for _, p := range d.People {
		if p.GroupID == group {
			out = append(out, p)
		}
	}
	return out
}

// DayPlan reads the plan of a grading's day, with what it rests on.
func (s *Store) DayPlan(ctx context.Context, gradingID string) (DayPlan, error) {
	return s.dayPlan(ctx, s.r, gradingID)
}

// dayPlan is long: what the plan needs is read piece by piece.
func (s *Store) dayPlan(ctx context.Context, q querier, gradingID string) (d DayPlan, err error) {
	if d.Grading, d.People, err = s.preparing(ctx, q, gradingID); err != nil {
		return d, err
	}
	kept, err := one(ctx, q, func(k **keptPlan) []any { return []any{asJSON{k}} }, `SELECT plan FROM grading WHERE id = ?`, gradingID)
	if err != nil {
		return d, err
	}
	d.Day = gradingday.Day{DayRules: gradingday.UsualDay, Rings: d.Grading.Rings}
	if kept != nil {
		d.Day.DayRules = kept.Rules
	}
	if err := s.seatDay(ctx, q, &d); err != nil {
		return d, err
	}
	x, err := s.timing(ctx, q, d.Grading)
	if err != nil {
		return d, err
	}
	for i := 0; i < len(d.People); {
		end := i
		for end < len(d.People) && d.People[end].GroupID == d.People[i].GroupID {
			end++
		}
		g, err := x.group(ctx, d.People[i].GroupID, d.People[i].Group, d.People[i:end])
		if err != nil {
			return d, err
		}
		d.Day.Groups = append(d.Day.Groups, g)
		i = end
	}
	d.Plan = gradingday.DayPlan{Panels: gradingday.Named(d.Day)}
	d.Pinned = map[string]bool{}
	if kept == nil {
		return d, nil
	}
	d.Made = true
	for _, kr := range kept.Rings {
		ring := slices.IndexFunc(d.Day.Rings, func(r gradingday.Ring) bool { return r.ID == kr.ID })
		for _, kg := range kr.Groups {
			at := slices.IndexFunc(d.Day.Groups, func(g gradingday.DayGroup) bool { return g.ID == kg.ID })
			if ring < 0 || at < 0 {
				continue
			}
			for _, slot := range kg.Slots {
				slot.Group, slot.Ring = at, ring
				d.Plan.Slots = append(d.Plan.Slots, slot)
				d.Plan.Finish = max(d.Plan.Finish, slot.To)
				if kg.Pinned && slot.Part == 1 {
					d.Pinned[kg.ID] = true
					d.Day.Groups[at].Ring, d.Day.Groups[at].At = ring, slot.From
				}
			}
			if n := len(kg.Slots); n == 2 {
				d.Plan.Waiting += max(0, kg.Slots[1].From-kg.Slots[0].To-d.Day.Rest) * len(d.Day.Groups[at].Students)
			}
		}
	}
	slices.SortStableFunc(d.Plan.Slots, func(a, b gradingday.Slot) int {
		return cmp.Or(cmp.Compare(a.Ring, b.Ring), cmp.Compare(a.From, b.From))
	})
	var lost []int
	for i := range d.Day.Groups {
		if !slices.ContainsFunc(d.Plan.Slots, func(x gradingday.Slot) bool { return x.Group == i }) {
			lost = append(lost, i)
		}
	}
	d.Plan.Unplaced = gradingday.WhyUnplaced(d.Day, d.Plan.Panels, lost)
	return d, nil
}

// seatDay gives the day its examiners: those the grading names, with what is on record of them,
// and as spare whoever else examines here.
func (s *Store) seatDay(ctx context.Context, q querier, d *DayPlan) error {
	known, err := officers(ctx, q)
	if err != nil {
		return err
	}
	b, err := s.draftBook(ctx, q, d.Grading.ProgramID)
	if err != nil {
		return err
	}
	dress := func(e gradingday.DayExaminer) gradingday.DayExaminer {
		e.Rank = gradingday.RankUnknown
		for _, o := range known {
			if check.Key(o.Name) != check.Key(e.Name) {
				continue
			}
			e.Family = o.Family
			if r := b.Rung(o.Holds[d.Grading.ProgramID]); r != nil {
				e.Rank, e.RankName = r.Position, r.Name
			}
		}
		return e
	}
	sizes := map[int]int{}
	for _, e := range d.Grading.Examiners {
		d.Day.Examiners = append(d.Day.Examiners, dress(gradingday.DayExaminer{ID: e.ID, Name: e.Name, Chief: e.Chief, Ring: e.Ring}))
		sizes[e.Ring]++
	}
	for _, o := range known {
		if !slices.ContainsFunc(d.Grading.Examiners, func(e gradingday.Examiner) bool { return check.Key(e.Name) == check.Key(o.Name) }) {
			d.Spare = append(d.Spare, dress(gradingday.DayExaminer{ID: o.ID, Name: o.Name, Ring: gradingday.Spare}))
		}
	}
	if n := len(d.Day.Rings); n > 0 && len(d.Day.Examiners)%n == 0 {
		d.Day.PanelSize = len(d.Day.Examiners) / n
	}
	d.Elsewhere, err = list(ctx, q, func(w *string) []any { return []any{w} }, `SELECT DISTINCT e.name || ' also examines at ' || coalesce(nullif(g.name, ''), pr.name || ' grading') || ' on this day.' FROM examiner e JOIN panel p ON p.id = e.panel_id JOIN grading g ON g.id = p.grading_id JOIN program pr ON pr.id = g.program_id
		WHERE g.on_date = ?1 AND g.id <> ?2 AND g.deleted_at IS NULL AND lower(e.name) IN (SELECT lower(x.name) FROM examiner x JOIN panel y ON y.id = x.panel_id WHERE y.grading_id = ?2) ORDER BY 1`, d.Grading.On.String(), d.Grading.ID)
	return err
}

// Regrouped is the day with groups of another size, as it would be formed anew. Nothing is written.
func (s *Store) Regrouped(ctx context.Context, d DayPlan, size int) (gradingday.Day, error) {
	x, err := s.timing(ctx, s.r, d.Grading)
	if err != nil {
		return d.Day, err
	}
	out := d.Day
	out.Groups = nil
	var order []string
	byClass := map[string][]Preparing{}
	for _, p := range d.People {
		key := p.class() + " " + p.version
		if len(byClass[key]) == 0 {
			order = append(order, key)
		}
		byClass[key] = append(byClass[key], p)
	}
	for _, key := range order {
		all := byClass[key]
		for _, n := range gradingday.Split(len(all), size) {
			g, err := x.group(ctx, fmt.Sprint("new ", len(out.Groups)), fmt.Sprint("Group ", len(out.Groups)+1), all[:n])
			if err != nil {
				return out, err
			}
			out.Groups, all = append(out.Groups, g), all[n:]
		}
	}
	return out, nil
}

// MakeDayPlan plans a grading's day and keeps the plan: groups go to its rings and stand in its
// order from then on. Pinned groups keep ring and time. Where the rules share out the examiners, those
// are moved too.
func (s *Store) MakeDayPlan(ctx context.Context, by By, gradingID string, rules gradingday.DayRules) (Done, error) {
	if err := rules.Check().Err(); err != nil {
		return Done{}, err
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		d, err := s.dayPlan(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if err := plannable(d); err != nil {
			return "", office.Deed{}, err
		}
		d.Day.DayRules = rules
		if rules.Share {
			if n := d.Day.PanelSize; n != 1 && n != 3 && n != 5 {
				return "", office.Deed{}, check.Problems{{Field: "share", Text: fmt.Sprintf("%s cannot be shared over %s in panels of 1, 3 or 5; change the names or the rings", check.Count(len(d.Day.Examiners), "examiner"), check.Count(len(d.Day.Rings), "ring"))}}
			}
		}
		if err := t.touchDay(ctx, d); err != nil {
			return "", office.Deed{}, err
		}
		plan, _, _ := gradingday.PlanDay(d.Day, d.Grading.Seed)
		if rules.Share {
			if err := t.share(ctx, d, plan.Panels); err != nil {
				return "", office.Deed{}, err
			}
		}
		d.Plan = plan
		return gradingID, office.DayPlanned.Named(d.Grading.Title()), t.keepPlan(ctx, d)
	})
}

func plannable(d DayPlan) error {
	switch {
	case d.Grading.Begun():
		return refuse("This grading has begun; its plan stands. Groups that nobody has marked yet can still be moved.")
	case len(d.People) == 0:
		return refuse("Nobody is entered yet; add candidates first.")
	}
	return nil
}

// touchDay remembers everything a plan changes, so that it can be undone.
func (t *txn) touchDay(ctx context.Context, d DayPlan) error {
	if err := t.touch(ctx, "grading", d.Grading.ID); err != nil {
		return err
	}
	for _, g := range d.Day.Groups {
		if err := t.touch(ctx, "candidate_group", g.ID); err != nil {
			return err
		}
	}
	if d.Day.Share {
		for _, e := range d.Day.Examiners {
			if err := t.touch(ctx, "examiner", e.ID); err != nil {
				return err
			}
		}
	}
	return nil
}

// share seats the examiners as a plan has them. A ring without a chief gets the first of its
// panel, where the grading has chiefs at all.
func (t *txn) share(ctx context.Context, d DayPlan, panels [][]int) error {
	chiefs := slices.ContainsFunc(d.Day.Examiners, func(e gradingday.DayExaminer) bool { return e.Chief })
	for r, panel := range panels {
		var seats []gradingday.Examiner
		for _, i := range panel {
			e := d.Day.Examiners[i]
			first := e.Chief && !slices.ContainsFunc(seats, func(x gradingday.Examiner) bool { return x.Chief })
			seats = append(seats, gradingday.Examiner{ID: e.ID, Name: e.Name, Chief: first})
		}
		if chiefs && len(seats) > 0 && !slices.ContainsFunc(seats, func(x gradingday.Examiner) bool { return x.Chief }) {
			seats[0].Chief = true
		}
		gradingday.Letters(seats, 0)
		for k, e := range seats {
			if err := t.exec(ctx, `UPDATE examiner SET panel_id = ?, position = ?, letter = ?, chief = ? WHERE id = ?`, d.Day.Rings[r].ID, k, e.Letter, e.Chief, e.ID); err != nil {
				return err
			}
		}
	}
	return nil
}

// keepPlan writes a plan, and lets the groups stand in its rings and order.
func (t *txn) keepPlan(ctx context.Context, d DayPlan) error {
	kept := keptPlan{Rules: d.Day.DayRules}
	firsts := slices.DeleteFunc(slices.Clone(d.Plan.Slots), func(x gradingday.Slot) bool { return x.Part != 1 })
	slices.SortStableFunc(firsts, func(a, b gradingday.Slot) int {
		return cmp.Or(cmp.Compare(a.From, b.From), cmp.Compare(a.Ring, b.Ring))
	})
	for i, r := range d.Day.Rings {
		ring := keptRing{ID: r.ID, Groups: []keptGroup{}}
		for _, f := range firsts {
			if f.Ring != i {
				continue
			}
			g := keptGroup{ID: d.Day.Groups[f.Group].ID, Pinned: d.Pinned[d.Day.Groups[f.Group].ID]}
			for _, x := range d.Plan.Slots {
				if x.Group == f.Group {
					g.Slots = append(g.Slots, x)
				}
			}
			ring.Groups = append(ring.Groups, g)
		}
		kept.Rings = append(kept.Rings, ring)
	}
	for place, f := range firsts {
		if err := t.exec(ctx, `UPDATE candidate_group SET panel_id = ?, position = ?, pinned = 1 WHERE id = ?`, d.Day.Rings[f.Ring].ID, place, d.Day.Groups[f.Group].ID); err != nil {
			return err
		}
	}
	return t.exec(ctx, `UPDATE grading SET plan = ? WHERE id = ?`, toJSON(kept), d.Grading.ID)
}

// PlanMove changes one group's place in a plan.
type PlanMove struct {
	Group string
	Ring  string // "": stays
	By    int    // places later in its ring, below 0 earlier
	At    int    // with Ring: it goes before those that begin later, a time of day; 0: than it does
	Pin   *bool  // pins it to its ring and time, or lets it go
}

// MoveInPlan moves or pins a group. Times of all that follows are found anew; what that breaks is
// said by the checker, and the move stands. A group in which marking has begun stays where it is.
// It is long: a case for each move.
func (s *Store) MoveInPlan(ctx context.Context, by By, gradingID string, m PlanMove) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		d, err := s.dayPlan(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if !d.Made {
			return "", office.Deed{}, refuse("There is no plan yet; make one first.")
		}
		at := slices.IndexFunc(d.Day.Groups, func(g gradingday.DayGroup) bool { return g.ID == m.Group })
		if at < 0 {
			return "", office.Deed{}, ErrNotFound
		}
		marked, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT EXISTS (SELECT 1 FROM candidate c JOIN mark_event m ON m.candidate_id = c.id WHERE c.group_id = ?1) OR EXISTS (SELECT 1 FROM signature_event WHERE group_id = ?1)`, m.Group)
		if err != nil {
			return "", office.Deed{}, err
		}
		name := d.Day.Groups[at].Name
		if marked > 0 {
			return "", office.Deed{}, refuse("%s has marks by the examiners of its ring; it stays there.", name)
		}
		if err := t.touchDay(ctx, d); err != nil {
			return "", office.Deed{}, err
		}
		rings := d.sequences()
		from, place := -1, -1
		for r := range rings {
			if k := slices.Index(rings[r], at); k >= 0 {
				from, place = r, k
			}
		}
		if m.Pin != nil {
			if from < 0 {
				return "", office.Deed{}, refuse("%s has no place in the plan that it could be pinned to.", name)
			}
			d.Pinned[m.Group] = *m.Pin
			if *m.Pin {
				return gradingID, office.GroupPinned.Named(name), t.keepPlan(ctx, d)
			}
			d.Day.Groups[at].Ring, d.Day.Groups[at].At = gradingday.Spare, 0
			return gradingID, office.GroupLetGo.Named(name), t.keepPlan(ctx, d)
		}
		to := from
		if m.Ring != "" {
			if to = slices.IndexFunc(d.Day.Rings, func(r gradingday.Ring) bool { return r.ID == m.Ring }); to < 0 {
				return "", office.Deed{}, ErrNotFound
			}
		}
		if to < 0 {
			return "", office.Deed{}, refuse("%s has no place in the plan yet; say which ring it goes to.", name)
		}
		next := place + m.By
		if from >= 0 {
			rings[from] = slices.Delete(rings[from], place, place+1)
		}
		if to != from || m.At > 0 { // about where it began before, or where it was put
			when := cmp.Or(m.At, d.begins(at))
			next = 0
			for next < len(rings[to]) && d.begins(rings[to][next]) < when {
				next++
			}
		}
		next = min(max(next, 0), len(rings[to]))
		rings[to] = slices.Insert(rings[to], next, at)
		d.Pinned[m.Group] = false
		d.Day.Groups[at].Ring, d.Day.Groups[at].At = gradingday.Spare, 0
		d.Plan = gradingday.Retime(d.Day, d.Plan.Panels, rings)
		return gradingID, office.Deed{Kind: office.GroupMoved, What: name, In: d.Day.Rings[to].Name}, t.keepPlan(ctx, d)
	})
}

// sequences are the groups of each ring in the order of their first parts.
func (d DayPlan) sequences() [][]int {
	out := make([][]int, len(d.Day.Rings))
	for _, x := range d.Plan.Slots {
		if x.Part == 1 {
			out[x.Ring] = append(out[x.Ring], x.Group)
		}
	}
	return out
}

func (d DayPlan) begins(group int) int {
	for _, x := range d.Plan.Slots {
		if x.Group == group && x.Part == 1 {
			return x.From
		}
	}
	return 0
}

// followPlan puts a plan right after groups were formed, moved or dissolved: what is still there
// keeps its place, what is new or stands in another ring now goes to the end of its ring.
func (t *txn) followPlan(ctx context.Context, gradingID string) error {
	planned, err := one(ctx, t, func(n *int) []any { return []any{n} }, `SELECT plan IS NOT NULL FROM grading WHERE id = ?`, gradingID)
	if err != nil || planned == 0 {
		return err
	}
	d, err := t.s.dayPlan(ctx, t, gradingID)
	if err != nil || !d.Made {
		return err
	}
	rings := make([][]int, len(d.Day.Rings))
	for r, seq := range d.sequences() {
		for _, g := range seq {
			if d.ringOf(d.Day.Groups[g].ID) == r {
				rings[r] = append(rings[r], g)
			}
		}
	}
	for i, g := range d.Day.Groups {
		r := d.ringOf(g.ID)
		if r >= 0 && !slices.Contains(rings[r], i) {
			rings[r] = append(rings[r], i)
			d.Day.Groups[i].Ring, d.Day.Groups[i].At, d.Pinned[g.ID] = gradingday.Spare, 0, false
		}
	}
	d.Plan = gradingday.Retime(d.Day, d.Plan.Panels, rings)
	return t.keepPlan(ctx, d)
}

func (d DayPlan) ringOf(group string) int {
	for _, p := range d.People {
		if p.GroupID == group {
			r, _ := d.Grading.PanelOf(p.RingID)
			return r
		}
	}
	return -1
}

// FormGroups drops the plan and forms the groups anew, as if everybody had just been entered. Groups in which
// marking has begun stay.
func (s *Store) FormGroups(ctx context.Context, by By, gradingID string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		g, err := grading(ctx, t, gradingID)
		if err != nil {
			return "", office.Deed{}, err
		}
		if g.Begun() {
			return "", office.Deed{}, refuse("This grading has begun; its groups stand.")
		}
		if err := t.exec(ctx, `UPDATE grading SET plan = NULL WHERE id = ?`, gradingID); err != nil {
			return "", office.Deed{}, err
		}
		if _, err := t.ExecContext(ctx, `UPDATE candidate_group SET pinned = 0 WHERE grading_id = ?`, gradingID); err != nil {
			return "", office.Deed{}, err
		}
		return gradingID, office.GroupsFormed.Named(g.Title()), t.regroup(ctx, gradingID)
	})
}

// Hours are when the hall opens for a grading and when its last group ends, in minutes after midnight.
type Hours struct{ From, To int }

// PlannedHours are those of the gradings from today on whose day is planned, by grading.
func (s *Store) PlannedHours(ctx context.Context) (map[string]Hours, error) {
	type row struct {
		id   string
		plan keptPlan
	}
	rows, err := list(ctx, s.r, func(x *row) []any { return []any{&x.id, asJSON{&x.plan}} }, `SELECT id, plan FROM grading WHERE plan IS NOT NULL AND deleted_at IS NULL AND on_date >= ?`, s.Today().String())
	out := map[string]Hours{}
	for _, x := range rows {
		h := Hours{From: x.plan.Rules.Open}
		for _, r := range x.plan.Rings {
			for _, g := range r.Groups {
				for _, slot := range g.Slots {
					h.To = max(h.To, slot.To)
				}
			}
		}
		if h.To > 0 {
			out[x.id] = h
		}
	}
	return out, err
}
