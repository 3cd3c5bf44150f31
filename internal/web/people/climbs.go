package people

import (
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// adapted is an adaptation on record, in words.
type adapted struct {
	curriculum.Adaptation
	Words string
	Holds bool
}

// climbsBy fills in by which track and version a student climbs, the grade held, and what is
// adapted.
func (ch *chapter) climbsBy(r *http.Request, c *studentClimb) (err error) {
	ctx := r.Context()
	if c.ClimbsBy, err = ch.records.ClimbsBy(ctx, c.EnrolmentID, ch.records.Today()); err != nil {
		return err
	}
	b, err := ch.records.Book(ctx, c.ProgramID)
	if err != nil {
		return err
	}
	c.Techniques = b.Techniques
	c.Tracks = []frame.Option{{Value: "", Label: "by age"}}
	for _, t := range b.Program.Tracks {
		c.Tracks = append(c.Tracks, frame.Option{Value: t.ID, Label: t.Name + " (" + t.Ages() + ")"})
	}
	c.Kinds = append([]frame.Option{{Value: "", Label: "one technique, named below"}}, frame.Options(curriculum.Kinds, func(k curriculum.Kind) string { return "every " + k.Words() })...)
	c.Modifiers = append([]frame.Option{{Value: "", Label: "no, only what is named"}}, frame.Options(curriculum.Modifiers, func(m curriculum.Modifier) string { return "everything " + string(m) })...)
	if n := len(c.History); n > 0 {
		c.Grade = c.History[n-1].Grade
	}
	if c.Judged, err = ch.records.ClimbingOf(ctx, c.EnrolmentID, ch.records.Today()); err != nil {
		return err
	}
	if c.Given, err = ch.records.GivenEver(ctx, c.EnrolmentID); err != nil {
		return err
	}
	all, err := ch.records.Adaptations(ctx, c.StudentID, c.ProgramID)
	for _, x := range all {
		c.Adapted = append(c.Adapted, adapted{x, words.Adaptation(b, x), x.HoldsOn(ch.records.Today())})
	}
	return err
}

// saveClimb writes something about the enrolment an address names and goes back to its
// student; what is wrong is said there, in the form it was typed in.
func (ch *chapter) saveClimb(w http.ResponseWriter, r *http.Request, write func(v url.Values, by store.By, enrolment string) (store.Done, error)) {
	enrolment, student := r.PathValue("enrolment"), r.FormValue("student")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) { return write(v, by, enrolment) }, frame.To("/students/"+url.PathEscape(student)), func(status int, f frame.Form) {
		f.Of = path.Base(r.URL.Path) + "-" + enrolment
		ch.studentOf(w, r, student, status, f)
	})
}

func (ch *chapter) enrolmentsTrack(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.SetTrack(r.Context(), by, enrolment, v.Get("track"))
	})
}

func (ch *chapter) enrolmentsMerit(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var p check.Problems
		on := p.Date("on", v.Get("on"))
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.AwardMerit(r.Context(), by, enrolment, on, v.Get("reason"))
	})
}

func (ch *chapter) enrolmentsCorrect(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var p check.Problems
		on := p.Date("on", v.Get("on"))
		if v.Get("rung") == "" {
			p.Add("rung", "is not chosen; choose the rung the student really stands on")
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.CorrectRank(r.Context(), by, enrolment, v.Get("rung"), on, v.Get("reason"))
	})
}

func (ch *chapter) enrolmentsEnd(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(_ url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.EndEnrolment(r.Context(), by, enrolment)
	})
}

// enrolmentsAdapt records that a student is excused from something, or does something else.
func (ch *chapter) enrolmentsAdapt(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		student := v.Get("student")
		standings, err := ch.records.Standings(r.Context(), student)
		if err != nil {
			return store.Done{}, err
		}
		at := slices.IndexFunc(standings, func(s store.Standing) bool { return s.EnrolmentID == enrolment })
		if at < 0 {
			return store.Done{}, store.ErrNotFound
		}
		b, err := ch.records.Book(r.Context(), standings[at].ProgramID)
		if err != nil {
			return store.Done{}, err
		}
		var p check.Problems
		x := curriculum.Adaptation{Kind: curriculum.Kind(v.Get("kind")),
			Modifier: curriculum.Modifier(v.Get("modifier")), Does: curriculum.AdaptationKind(v.Get("does")),
			Reason: check.Tidy(v.Get("reason")), From: p.Date("from", v.Get("from")), To: p.Date("to", v.Get("to"))}
		named := func(field string) string {
			name := check.Tidy(v.Get(field))
			if name == "" {
				return ""
			}
			t := b.Named(name)
			if t == nil {
				p.Add(field, "%q is no technique of this program%s", name, parts.Near(b, name))
				return ""
			}
			return t.ID
		}
		x.TechniqueID, x.ReplacementID = named("what"), named("replacement")
		if x.TechniqueID != "" { // the technique alone is meant
			x.Kind, x.Modifier = "", ""
		}
		if amount := check.Tidy(v.Get("amount")); amount != "" {
			q, err := curriculum.ParseQuantity(amount)
			if err != nil {
				p.Add("amount", "%s", err)
			}
			x.Quantity = &q
		}
		if len(p) == 0 {
			p = b.CheckAdaptation(x)
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.AddAdaptation(r.Context(), by, student, b.Program.ID, x)
	})
}

func (ch *chapter) adaptationsEnd(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(_ url.Values, by store.By, _ string) (store.Done, error) {
		return ch.records.EndAdaptation(r.Context(), by, r.PathValue("adaptation"))
	})
}

// enrolmentsWaive lets a student off one rule, with a reason.
func (ch *chapter) enrolmentsWaive(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.Waive(r.Context(), by, enrolment, curriculum.RuleKind(v.Get("rule")), v.Get("reason"))
	})
}

// enrolmentsWord records that an instructor says a student is ready.
func (ch *chapter) enrolmentsWord(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.GiveWord(r.Context(), by, enrolment, v.Get("who"))
	})
}

func (ch *chapter) givenWithdraw(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(_ url.Values, by store.By, _ string) (store.Done, error) {
		return ch.records.WithdrawGiven(r.Context(), by, r.PathValue("given"))
	})
}

// enrolmentsExample records what the family gave as an example of the character task.
func (ch *chapter) enrolmentsExample(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		return ch.records.GiveExample(r.Context(), by, enrolment, v.Get("example"))
	})
}

// studentsEvidence records kit and papers: kit is a list of lines when somebody looked,
// PAPER is the day until which it is valid, or "for ever".
func (ch *chapter) studentsEvidence(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("student")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		var p check.Problems
		var kit *[]string
		if v.Get("looked") != "" {
			lines := p.Lines("kit", v.Get("kit"))
			for _, k := range v["owned"] {
				if k = check.Tidy(k); !slices.Contains(lines, k) {
					lines = append(lines, k)
				}
			}
			if lines == nil {
				lines = []string{}
			}
			kit = &lines
		}
		papers := []progress.Paper{}
		for _, k := range curriculum.RuleKinds {
			if !k.Paper() {
				continue
			}
			until := p.Date(string(k), v.Get(string(k)))
			if v.Get(string(k)+"_ever") != "" {
				papers = append(papers, progress.Paper{Kind: k})
			} else if !until.IsZero() {
				papers = append(papers, progress.Paper{Kind: k, Until: until})
			}
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		return ch.records.SaveEvidence(r.Context(), by, id, kit, papers)
	}, frame.To("/students/"+id), func(status int, f frame.Form) {
		f.Of = "evidence"
		ch.studentOf(w, r, id, status, f)
	})
}

// readiness fills in how far a climb is, what comes next and what is foreseen, and draws it.
func (ch *chapter) readiness(r *http.Request, c *studentClimb, picture *chart.Climb, at map[string]int) (err error) {
	ctx := r.Context()
	today := ch.records.Today()
	if c.Lately, err = ch.records.AttendedSince(ctx, c.StudentID, today.AddMonths(-3), 12); err != nil {
		return err
	}
	if c.PastStripes, err = ch.records.StripesEver(ctx, c.EnrolmentID); err != nil {
		return err
	}
	b, err := ch.records.Book(ctx, c.ProgramID)
	if err != nil {
		return err
	}
	c.drawStripes(b, picture, at)
	if !c.EndedOn.IsZero() || c.Judged.Next == nil {
		return nil
	}
	if c.ReadyClimb, err = ch.records.ReadyOf(ctx, c.EnrolmentID); err != nil {
		return err
	}
	next := c.ReadyClimb.Next
	if c.Planned, err = ch.records.PlannedFor(ctx, next.ID, c.EnrolmentID); err != nil {
		return err
	}
	foreseen, err := ch.records.Foresee(ctx, []store.Climbing{c.ReadyClimb.Climbing})
	if err != nil {
		return err
	}
	f := foreseen[c.EnrolmentID]
	for _, p := range c.Planned {
		c.Chances = append(c.Chances, fmt.Sprintf("chance of being ready %d percent", f.Chance(p.On)))
	}
	if len(c.Planned) > 0 { // the question is about that day
		if c.Judged, err = ch.records.ClimbingOf(ctx, c.EnrolmentID, c.Planned[0].On); err != nil {
			return err
		}
	}
	if now := c.ReadyClimb.Verdict.State; now == progress.NotMet {
		c.Foreseen = words.Forecast(f)
		if position, there := at[next.ID]; there {
			picture.Fan = &chart.ClimbFan{Position: position, Early: f.Early, Likely: f.Likely, Late: f.Late}
		}
	}
	c.AsksCharacter = slices.ContainsFunc(c.Judged.Verdict.Answers, func(x progress.Answer) bool {
		return x.Kind == curriculum.CharacterTask && x.State != progress.Met
	})
	c.showSignOffs()
	c.NextThings = c.Readiness.NextThings(c.Book, c.Stripes, today, nextThings)
	c.Parts = partsOf(c.ReadyClimb, today)
	return nil
}

// drawStripes puts the section stripes that were awarded into the picture of a climb.
func (c *studentClimb) drawStripes(b *curriculum.Book, picture *chart.Climb, at map[string]int) {
	for _, s := range c.PastStripes {
		if to, there := at[s.RungID]; there && !s.Withdrawn && to > 0 {
			colour := "#6c5f69"
			for _, x := range b.Rung(s.RungID).Stripes {
				if x.SectionID == s.SectionID {
					colour = x.Colour
				}
			}
			picture.Stripes = append(picture.Stripes, chart.ClimbStripe{On: s.On, Position: to - 1, Colour: colour, Words: s.Section + " stripe, " + s.On.Long()})
		}
	}
}

// showSignOffs lists what was signed off, the last first.
func (c *studentClimb) showSignOffs() {
	for _, x := range slices.Backward(c.SignOff) {
		e := shownEntry{SignedOff: x}
		if t := c.Book.Technique(x.TechniqueID); t != nil {
			e.Call = t.Name
		}
		if at := slices.IndexFunc(c.Readiness.Items, func(it progress.Item) bool { return parts.Of(x, it) }); at >= 0 {
			e.SideName = words.SideName(c.Readiness.Items[at].Line, x.Side)
		} else if x.Side != "" {
			e.SideName = x.Side + " side"
		}
		if x.Role != "performer" {
			e.Call += ", " + string(x.Role)
		}
		c.Shown = append(c.Shown, e)
	}
}

// nextThings is how many things to work on are named: more would be a list again.
const nextThings = 3

// partsOf is what a rung asks by section, with what is worth saying of each.
func partsOf(c store.ReadyClimb, today civil.Date) (out []askedPart) {
	for _, it := range c.Items {
		if it.Bonus {
			continue
		}
		if n := len(out); n == 0 || out[n-1].Name != it.Section {
			out = append(out, askedPart{Name: it.Section})
		}
		p := &out[len(out)-1]
		x := askedItem{Item: it, Key: fmt.Sprintf("s%d", len(out)*100+len(p.Items))}
		for _, s := range c.SignOff {
			if parts.Of(s, it) && s.Kind == "shown" {
				x.LastID = s.ID
			}
		}
		x.Said = standing(it, today)
		if it.Counts {
			if p.Of++; it.Done {
				p.Done++
			}
		}
		p.Items = append(p.Items, x)
	}
	for i := range out {
		out[i].note(today)
	}
	return out
}

// standing says in a few words how something asked stands.
func standing(it progress.Item, today civil.Date) string {
	switch {
	case it.Done && it.Presumed:
		return "presumed on entry"
	case it.Done && it.Clip:
		return "shown on a clip, " + it.Seen.Long()
	case it.Done:
		return "shown " + it.Seen.Long()
	case it.TwoSided && it.Left:
		return words.SideName(it.Line, "right") + " is missing"
	case it.TwoSided && it.Right:
		return words.SideName(it.Line, "left") + " is missing"
	case it.Reached > 0:
		return fmt.Sprintf("part %d shown, part %d is asked", it.Reached, it.Stage)
	case !it.NotYet.IsZero() && it.Fault != "":
		return "not yet, " + it.NotYet.Long() + ": " + it.Fault
	case !it.NotYet.IsZero():
		return "not yet, " + it.NotYet.Long()
	case !it.Seen.IsZero():
		return fmt.Sprintf("last seen %s ago, not at what is asked now", words.Count(it.Seen.DaysTo(today), "day"))
	case it.Counts:
		return "never seen"
	}
	return ""
}

// note says of a section what most of it lacks.
func (p *askedPart) note(today civil.Date) {
	var last civil.Date
	attacker, side, never := 0, 0, 0
	for _, it := range p.Items {
		last = civil.Max(last, it.Seen)
		switch {
		case !it.Counts || it.Done:
		case it.Role == "attacker":
			attacker++
		case it.Left != it.Right:
			side++
		case it.Seen.IsZero():
			never++
		}
	}
	if attacker > 0 {
		p.Notes = append(p.Notes, fmt.Sprintf("attacker’s part of %d missing", attacker))
	}
	if side > 0 {
		p.Notes = append(p.Notes, fmt.Sprintf("one side of %d missing", side))
	}
	if never > 0 {
		p.Notes = append(p.Notes, fmt.Sprintf("%d never seen", never))
	}
	if p.Done == p.Of && !last.IsZero() {
		p.Notes = append(p.Notes, "last seen "+words.Count(last.DaysTo(today), "day")+" ago")
	}
}

// evidence fills in what kit and papers are on record, and what kit the climbs ask for.
func (ch *chapter) evidence(r *http.Request, v *studentView) error {
	kit, papers, err := ch.records.EvidenceOf(r.Context(), v.Student.ID)
	if err != nil {
		return err
	}
	if v.Papers = papers; kit != nil {
		v.KitKnown, v.Kit = true, *kit
	}
	for _, c := range v.Climbs {
		if c.Book == nil {
			continue
		}
		for _, k := range c.Book.KitOf(c.ReadyClimb.Next.ID) {
			if !slices.Contains(v.KitAsked, k) {
				v.KitAsked = append(v.KitAsked, k)
			}
		}
	}
	for _, k := range v.Kit {
		if !slices.ContainsFunc(v.KitAsked, func(x string) bool { return check.Key(x) == check.Key(k) }) {
			v.KitMore = append(v.KitMore, k)
		}
	}
	for _, k := range curriculum.RuleKinds {
		if k.Paper() {
			v.PaperKinds = append(v.PaperKinds, frame.Option{Value: string(k), Label: strings.ToUpper(string(k[:1])) + string(k[1:])})
		}
	}
	return nil
}

// enrolmentsSignOff signs something off from the student's page: seen on a clip, or outside of
// a class.
func (ch *chapter) enrolmentsSignOff(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var p check.Problems
		x := store.SignOff{ID: store.NewID(), EnrolmentID: enrolment, TechniqueID: v.Get("technique"),
			Role: curriculum.Role(v.Get("role")), Stage: p.Whole("stage", v.Get("stage"), 0, 99, 0),
			Side: v.Get("side"), Kind: cmp.Or(v.Get("kind"), "shown"), Fault: v.Get("fault"),
			Clip: v.Get("clip") != "", On: p.Date("on", v.Get("on")), Supersedes: v.Get("supersedes"), Line: v.Get("line")}
		if x.On.IsZero() {
			x.On = ch.records.Today()
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		refused, err := ch.records.RecordSignOffs(r.Context(), by, []store.SignOff{x})
		if err == nil && len(refused) > 0 {
			err = refused[0].Why
		}
		return store.Done{}, err
	})
}

// enrolmentsStripes awards section stripes of one climb.
func (ch *chapter) enrolmentsStripes(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(v url.Values, by store.By, enrolment string) (store.Done, error) {
		var all []store.Stripe
		for _, section := range v["stripes"] {
			all = append(all, store.Stripe{EnrolmentID: enrolment, SectionID: section})
		}
		return ch.records.AwardStripes(r.Context(), by, ch.records.Today(), all, v.Get("reason"))
	})
}

func (ch *chapter) stripesWithdraw(w http.ResponseWriter, r *http.Request) {
	ch.saveClimb(w, r, func(_ url.Values, by store.By, _ string) (store.Done, error) {
		return ch.records.WithdrawStripe(r.Context(), by, r.PathValue("stripe"))
	})
}
