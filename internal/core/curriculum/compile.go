package curriculum

import (
	"velvetladder/internal/core/notation"
)

// Asking says what a test sheet is made for.
type Asking struct {
	RungID, TrackID string       // no track: nothing is changed
	Adaptations     []Adaptation // of one candidate, oldest first
	Seed            uint64       // of the grading: what is drawn
	Candidate       string       // draws knowledge questions anew for each
	Kept            []string     // requirements drawn at an earlier attempt, which come first now; unknown ones are passed over
	Group           int          // candidates one examiner watches at once, 1 where less
	Undrawn         bool         // list sample groups whole instead of drawing from them
}

// asked is a requirement on its way to becoming a line.
type asked struct {
	r         *Requirement
	t         *Technique
	rung      int // that states it
	section   int // place of
	q         Quantity
	must      bool
	bonus     bool
	weight    int
	level     notation.Level
	cap       int
	stage     int
	supported bool
	checks    []string
	entry     string
	group     string // sample group it is still to be drawn from
	why       []Why
	covers    []string
	adapted   *Adapted
	pool      string // name of the group, where it is listed undrawn
}

// Compile makes a test sheet. The rules, in this order:
//
//  1. this rung's requirements, and those of lower rungs whose carry still holds;
//  2. the track, then the adaptations;
//  3. the highest stage introduced at or below the rung, within the ceilings; how a line stands
//     to what lower rungs asked is said of the line as it stands after rule 4;
//  4. shown once is enough: of lines that can be shown in one go one stays, at the earliest
//     place, with the highest demand and weight;
//  5. sample groups are drawn from what is left, with the seed;
//  6. order by section, then rung, then the school's order.
func (b *Book) Compile(a Asking) TestSheet { return b.compile(a, true) }

// compile is Compile; without words it leaves out moves and reasons, for those who only count.
func (b *Book) compile(a Asking, words bool) TestSheet {
	g := max(a.Group, 1)
	sheet := TestSheet{Group: g}
	at, there := b.rungs[a.RungID]
	if !there {
		return sheet
	}
	lines := b.draw(b.folded(a, at, words, &sheet), a, &sheet)
	sheet.Lines = make([]Line, 0, len(lines))
	for i := range lines {
		l := b.line(&lines[i], at, a.TrackID, g, words)
		sheet.Seconds += l.Seconds
		sheet.Lines = append(sheet.Lines, l)
	}
	if words {
		callApart(sheet.Lines)
	}
	return sheet
}

// folded is rules 1 to 4.
func (b *Book) folded(a Asking, at int, words bool, sheet *TestSheet) []asked {
	lines := b.adapt(b.gather(at, words), a, sheet)
	for i := range lines {
		b.setStage(&lines[i], at)
	}
	return fold(bySection(lines, len(b.Sections)))
}

// gather is rule 1.
func (b *Book) gather(at int, words bool) (out []asked) {
	out = make([]asked, 0, len(b.carrying)+len(b.byRung[at]))
	add := func(i int, why Why) {
		r := &b.Requirements[i]
		t := b.Technique(r.TechniqueID)
		section, known := b.sections[r.SectionID]
		if t == nil || !known {
			return
		}
		x := asked{r: r, t: t, rung: b.rungs[r.RungID], section: section, q: r.Quantity, must: r.MustPass, bonus: r.Bonus, weight: max(r.Weight, defaultWeight), level: r.LeastLevel,
			cap: r.StageCap, supported: r.Supported, checks: r.Checks, why: []Why{why}}
		if g := b.Group(r.Carry.Group); r.Carry.Kind == Sample && g != nil && !(g.Outright && x.rung == at) {
			x.group = g.ID
		}
		x.q = b.settle(x.q, t)
		if r.Role == "attacker" && len(t.AttackerLooks) > 0 { // all of them are looked for
			x.checks = nil
		}
		if len(r.Entries) == 0 {
			out = append(out, x)
			return
		}
		for _, name := range r.Entries {
			y := x
			if e := t.Entry(name); e != nil {
				y.entry = e.Name
			}
			out = append(out, y)
		}
	}
	for _, i := range b.carrying {
		r := &b.Requirements[i]
		from := b.rungs[r.RungID]
		if from >= at || at > b.lastAsked(r) {
			continue
		}
		if !words {
			add(i, Why{})
			continue
		}
		switch r.Carry.Kind {
		case Until:
			add(i, Why{Kind: WhyUntil, Rung: b.Rungs[from].Name, To: b.Rungs[b.rungs[r.Carry.Rung]].Name})
		case Always:
			add(i, Why{Kind: WhyAlways, Rung: b.Rungs[from].Name})
		case Sample:
			add(i, Why{Kind: WhyMember, Rung: b.Rungs[from].Name, Group: b.groupName(r.Carry.Group)})
		}
	}
	for _, i := range b.byRung[at] {
		add(i, Why{Kind: WhyAsked, Rung: b.Rungs[at].Name})
	}
	return out
}

// bySection orders lines, which come from the lowest rung up, by section.
func bySection(lines []asked, sections int) []asked {
	counts := make([]int, sections+1)
	for i := range lines {
		counts[lines[i].section+1]++
	}
	for i := range sections {
		counts[i+1] += counts[i]
	}
	out := make([]asked, len(lines))
	for i := range lines {
		out[counts[lines[i].section]] = lines[i]
		counts[lines[i].section]++
	}
	return out
}

// groupName is the name of a sample group; "" it is gone.
func (b *Book) groupName(id string) string {
	if g := b.Group(id); g != nil {
		return g.Name
	}
	return ""
}

// lastAsked is the highest rung at which a requirement is still asked.
func (b *Book) lastAsked(r *Requirement) int {
	switch r.Carry.Kind {
	case Always, Sample:
		return len(b.Rungs)
	case Until:
		if to, there := b.rungs[r.Carry.Rung]; there {
			return to
		}
	}
	return b.rungs[r.RungID]
}

// adapt is rule 2.
func (b *Book) adapt(lines []asked, a Asking, sheet *TestSheet) (out []asked) {
	track := b.Track(a.TrackID)
	out = lines[:0] // what is read is always ahead of what is written
	for _, x := range lines {
		if track != nil && !x.forTrack(b, track) {
			sheet.LeftOut = append(sheet.LeftOut, LeftOut{Call: x.t.Name, Kind: LeftByTrack, Track: track.Name})
			continue
		}
		ad, fits := fitting(a.Adaptations, x.t)
		switch {
		case !fits:
		case ad.Does == Excuse:
			sheet.LeftOut = append(sheet.LeftOut, LeftOut{Call: x.t.Name, Kind: LeftExcused, Reason: ad.Reason})
			continue
		case ad.Does == Replace && b.Technique(ad.ReplacementID) != nil:
			old := x.t.Name
			x.t = b.Technique(ad.ReplacementID)
			x.checks, x.entry = nil, ""
			x.adapted = &Adapted{Instead: old, Reason: ad.Reason}
			if ad.Quantity != nil {
				x.q = *ad.Quantity
			}
			x.q = b.settle(x.q, x.t)
		case ad.Does == Change && ad.Quantity != nil:
			q := b.settle(*ad.Quantity, x.t)
			x.adapted = &Adapted{Now: q.String(), Was: x.q.String(), Reason: ad.Reason}
			x.q = q
		}
		if no := b.MayNot(x.t, x.r.Note, track); no != nil {
			sheet.LeftOut = append(sheet.LeftOut, LeftOut{Call: x.t.Name, Kind: LeftBarred, Reason: no.Error()})
			continue
		}
		out = append(out, x)
	}
	return out
}

// forTrack applies what a track changes; false where the track leaves the line out.
func (x *asked) forTrack(b *Book, track *Track) bool {
	for _, c := range x.r.Tracks {
		if c.TrackID != track.ID {
			continue
		}
		if c.LeaveOut {
			return false
		}
		if c.Bonus {
			x.bonus, x.must = true, false
			x.why = append(x.why, Why{Kind: WhyBonus, Track: track.Name})
		}
		if c.Quantity != nil {
			q := b.settle(*c.Quantity, x.t)
			x.why = append(x.why, Why{Kind: WhyAmount, Track: track.Name, Now: q.String(), Was: x.q.String()})
			x.q = q
		}
		if c.Level != "" {
			x.level = c.Level
			x.why = append(x.why, Why{Kind: WhyLevel, Track: track.Name, Now: string(c.Level)})
		}
		if c.StageCap > 0 && (x.cap == 0 || c.StageCap < x.cap) {
			x.cap = c.StageCap
			x.why = append(x.why, Why{Kind: WhyPart, Track: track.Name, Now: x.t.StageName(c.StageCap)})
		}
	}
	return true
}

// setStage is rule 3.
func (b *Book) setStage(x *asked, at int) {
	x.stage = b.StageAt(x.t, at)
	if x.cap > 0 {
		x.stage = min(x.stage, x.cap)
	}
}
