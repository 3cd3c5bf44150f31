package curriculum

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// Freshness says how a line stands to what lower rungs asked.
type Freshness string

// What a line is.
const (
	New     Freshness = "new"
	Grown   Freshness = "grown" // a later stage or a larger demand than at the last rung that asked it
	Carried Freshness = "carried"
)

// Line is one line of a test sheet: what is called, and what examiners look for.
type Line struct {
	RequirementID string         `json:"requirement"`
	TechniqueID   string         `json:"technique"`
	Section       string         `json:"section"`
	Call          string         `json:"call"` // what is called out
	Term          string         `json:"term,omitempty"`
	Detail        string         `json:"detail,omitempty"`  // the moves, the attack, or a remark
	Entry         string         `json:"entry,omitempty"`   // the way in that is asked; "" none by name
	Moves         []StripMove    `json:"moves,omitempty"`   // the steps of the role, sentences too
	Partner       []StripMove    `json:"partner,omitempty"` // the steps of the other one of a pair
	Kind          Kind           `json:"kind"`
	Role          Role           `json:"role"`
	Setting       Setting        `json:"setting,omitempty"`
	Quantity      Quantity       `json:"quantity"`
	MustPass      bool           `json:"must_pass,omitzero"`
	Bonus         bool           `json:"bonus,omitzero"`
	Free          bool           `json:"free_choice,omitzero"`
	Weight        int            `json:"weight"`
	Level         notation.Level `json:"level,omitempty"` // the least level that counts
	Stage         int            `json:"stage,omitzero"`  // the stage asked, from 1; 0: the technique has none
	Stages        int            `json:"stages,omitzero"`
	Checkpoints   []string       `json:"checkpoints,omitempty"`
	Faults        []Fault        `json:"faults,omitempty"`
	Cautions      []string       `json:"cautions,omitempty"`
	Answers       []string       `json:"answers,omitempty"` // accepted ones
	Versions      []string       `json:"versions,omitempty"`
	Table         []TableMark    `json:"table,omitempty"`
	Surface       string         `json:"surface,omitempty"` // that strikes in this setting
	Targets       []string       `json:"targets,omitempty"`
	Success       []string       `json:"success_signs,omitempty"`
	Common        []string       `json:"common,omitempty"` // counts for every line of its section, series or form
	Voice         Voice          `json:"voice,omitempty"`
	Note          string         `json:"note,omitempty"`   // the remark of the requirement
	Manner        string         `json:"manner,omitempty"` // non-stop, slowly, support allowed …
	Sprint        int            `json:"sprint,omitzero"`  // seconds before the end at which a closing sprint is called
	Slow          bool           `json:"slow,omitzero"`
	NonStop       bool           `json:"non_stop,omitzero"`
	Supported     bool           `json:"supported,omitzero"`
	Phases        bool           `json:"by_phases,omitzero"`
	Looks         int            `json:"looks,omitzero"`       // an examiner needs of each; 0 on lines frozen before it was kept
	AtOnce        int            `json:"at_once,omitzero"`     // who can work at once; 0: all
	Seconds       int            `json:"seconds"`              // for a group of the size the sheet was compiled for
	RepsCalled    int            `json:"reps_called,omitzero"` // in the measure asked, for a group of that size
	Freshness     Freshness      `json:"freshness,omitempty"`
	Why           []string       `json:"why,omitempty"`     // why the line is here and asks what it asks
	Covers        []string       `json:"covers,omitempty"`  // what it shows besides
	Adapted       string         `json:"adapted,omitempty"` // what was changed for this candidate; "" nothing
	Pool          string         `json:"pool,omitempty"`    // the sample group it is still to be drawn from; "" it is asked outright, or was drawn
}

// Key tells the lines of sheets for one group apart: the same line on two candidates'
// sheets has the same key.
func (l Line) Key() string {
	if l.Entry != "" {
		return l.RequirementID + " " + l.TechniqueID + " " + check.Key(l.Entry)
	}
	return l.RequirementID + " " + l.TechniqueID
}

// Standard is what counts for a line at its rung, beside the checkpoints, a phrase each: the
// least height, versions that are equally right, and from which count on which mark is given.
func (l Line) Standard() (out []string) {
	if l.Level != "" {
		out = append(out, "at least "+string(l.Level))
	}
	if len(l.Versions) > 0 {
		out = append(out, "equally right: "+strings.Join(l.Versions, "; "))
	}
	if len(l.Table) > 0 {
		var rows []string
		for _, m := range l.Table {
			rows = append(rows, fmt.Sprintf("from %d: %s", m.Count, m.Mark))
		}
		out = append(out, "mark "+strings.Join(rows, ", "))
	}
	return out
}

// Unlike says how one candidate's line differs from the one that is called for the group:
// another amount, part or height for their track, or an adaptation. "" it does not.
func (l Line) Unlike(called Line) string {
	var out []string
	if l.Quantity != called.Quantity {
		out = append(out, l.Quantity.String())
	}
	if l.Stage != called.Stage && l.Stages > 0 {
		out = append(out, fmt.Sprintf("part %d of %d", l.Stage, l.Stages))
	}
	if l.Level != called.Level && l.Level != "" {
		out = append(out, "at least "+string(l.Level))
	}
	if l.Bonus != called.Bonus {
		out = append(out, map[bool]string{true: "a bonus", false: "no bonus"}[l.Bonus])
	}
	if l.Adapted != "" {
		out = append(out, "adapted: "+l.Adapted)
	}
	return strings.Join(out, " · ")
}

// LeftOut is a line that is not on a sheet, and why.
type LeftOut struct{ Call, Why string }

// TestSheet is what one rung asks, in the order it is called.
type TestSheet struct {
	Lines   []Line
	LeftOut []LeftOut
	Group   int // candidates that one examiner watches at once
	Seconds int
}

// Minutes is the sheet's length, rounded up.
func (s TestSheet) Minutes() int { return (s.Seconds + 59) / 60 }

// Common is what counts for every line of a section, to be said once at its head.
func (s TestSheet) Common(section string) []string {
	var out []string
	first := true
	for _, l := range s.Lines {
		if l.Section != section {
			continue
		}
		if first {
			out, first = slices.Clone(l.Common), false
			continue
		}
		out = slices.DeleteFunc(out, func(x string) bool { return !slices.Contains(l.Common, x) })
	}
	return out
}

// Besides is what counts for a line because of its series or its form, beside what is said at
// the head of its section.
func (l Line) Besides(head []string) (out []string) {
	for _, x := range l.Common {
		if !slices.Contains(head, x) {
			out = append(out, x)
		}
	}
	return out
}

// Asking says what a test sheet is made for.
type Asking struct {
	RungID, TrackID string       // no track: nothing is changed
	Adaptations     []Adaptation // of one candidate
	Seed            uint64       // of the grading: what is drawn
	Candidate       string       // draws knowledge questions anew for each
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
	why       []string
	covers    []string
	adapted   string
	pool      string // name of the group, where it is listed undrawn
}

// Compile makes a test sheet. The rules, in this order:
//
//  1. this rung's requirements, and those of lower rungs whose carry still holds;
//  2. the track, then the adaptations;
//  3. the highest stage introduced at or below the rung, within the ceilings, and how the
//     line stands to what lower rungs asked;
//  4. shown once is enough: per technique, role and setting one line, at the earliest place,
//     with the highest demand and weight;
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
	lines := b.gather(at, words)
	lines = b.adapt(lines, a, &sheet)
	for i := range lines {
		b.setStage(&lines[i], at)
	}
	lines = fold(bySection(lines, len(b.Sections)))
	lines = b.draw(lines, a, at, &sheet)
	sheet.Lines = make([]Line, 0, len(lines))
	for i := range lines {
		l := b.line(&lines[i], at, a.TrackID, g, words)
		sheet.Seconds += l.Seconds
		sheet.Lines = append(sheet.Lines, l)
	}
	return sheet
}

// gather is rule 1.
func (b *Book) gather(at int, words bool) (out []asked) {
	out = make([]asked, 0, len(b.carrying)+len(b.byRung[at]))
	add := func(i int, why string) {
		r := &b.Requirements[i]
		t := b.Technique(r.TechniqueID)
		section, known := b.sections[r.SectionID]
		if t == nil || !known {
			return
		}
		x := asked{r: r, t: t, rung: b.rungs[r.RungID], section: section, q: r.Quantity, must: r.MustPass, bonus: r.Bonus, weight: max(r.Weight, defaultWeight), level: r.LeastLevel,
			cap: r.StageCap, supported: r.Supported, checks: r.Checks, why: []string{why}}
		if g := b.Group(r.Carry.Group); r.Carry.Kind == Sample && g != nil && !(g.Outright && x.rung == at) {
			x.group = g.ID
		}
		x.q = b.settle(x.q, t)
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
			add(i, "")
			continue
		}
		switch r.Carry.Kind {
		case Until:
			add(i, fmt.Sprintf("Carried from %s, until %s.", b.Rungs[from].Name, b.Rungs[b.rungs[r.Carry.Rung]].Name))
		case Always:
			add(i, fmt.Sprintf("Carried from %s, always.", b.Rungs[from].Name))
		case Sample:
			add(i, fmt.Sprintf("From %s, a member of %s.", b.Rungs[from].Name, b.groupName(r.Carry.Group)))
		}
	}
	for _, i := range b.byRung[at] {
		add(i, b.Rungs[at].Name+" asks for it.")
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

func (b *Book) groupName(id string) string {
	if g := b.Group(id); g != nil {
		return "“" + g.Name + "”"
	}
	return "a group that is gone"
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
			sheet.LeftOut = append(sheet.LeftOut, LeftOut{x.t.Name, fmt.Sprintf("%s leave it out.", track.Name)})
			continue
		}
		excused := false
		for _, ad := range a.Adaptations {
			if !ad.fits(x.t) {
				continue
			}
			switch {
			case ad.Does == Excuse:
				excused = true
				sheet.LeftOut = append(sheet.LeftOut, LeftOut{x.t.Name, "Excused: " + ad.Reason})
			case ad.Does == Replace && b.Technique(ad.ReplacementID) != nil:
				old := x.t.Name
				x.t = b.Technique(ad.ReplacementID)
				x.checks, x.entry = nil, ""
				x.adapted = fmt.Sprintf("instead of %s: %s", old, ad.Reason)
				if ad.Quantity != nil {
					x.q = *ad.Quantity
				}
				x.q = b.settle(x.q, x.t)
			case ad.Does == Change && ad.Quantity != nil:
				q := b.settle(*ad.Quantity, x.t)
				x.adapted = fmt.Sprintf("%s instead of %s: %s", q, x.q, ad.Reason)
				x.q = q
			}
			break
		}
		if !excused {
			out = append(out, x)
		}
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
			x.why = append(x.why, "A bonus for "+track.Name+".")
		}
		if c.Quantity != nil {
			q := b.settle(*c.Quantity, x.t)
			x.why = append(x.why, fmt.Sprintf("%s do %s instead of %s.", track.Name, q, x.q))
			x.q = q
		}
		if c.Level != "" {
			x.level = c.Level
			x.why = append(x.why, fmt.Sprintf("For %s %s is enough.", track.Name, c.Level))
		}
		if c.StageCap > 0 && (x.cap == 0 || c.StageCap < x.cap) {
			x.cap = c.StageCap
			x.why = append(x.why, fmt.Sprintf("%s go up to %s.", track.Name, x.t.StageName(c.StageCap)))
		}
	}
	return true
}

// setStage is the first half of rule 3.
func (b *Book) setStage(x *asked, at int) {
	x.stage = b.StageAt(x.t, at)
	if x.cap > 0 {
		x.stage = min(x.stage, x.cap)
	}
}

// same reports whether showing one of two lines may show the other.
func (x *asked) same(y *asked) bool {
	if x.t != y.t || x.r.Role != y.r.Role || x.r.ShowAgain || y.r.ShowAgain || x.r.Free != y.r.Free || x.r.NonStop != y.r.NonStop || x.r.Slow != y.r.Slow {
		return false
	}
	if x.q.Measure != y.q.Measure || x.q.Side != y.q.Side || x.entry != y.entry {
		return false
	}
	return x.setting() == y.setting() || x.r.Covers || y.r.Covers
}

func (x *asked) setting() Setting { return cmp.Or(x.r.Setting, Settings[0]) }

// fold is rule 4. Lines come in the order of the sheet.
func fold(lines []asked) (out []asked) {
	byTechnique := make(map[string][]int, len(lines)) // technique → places in out
	out = make([]asked, 0, len(lines))
next:
	for _, y := range lines {
		for _, i := range byTechnique[y.t.ID] {
			x := &out[i]
			if !x.same(&y) {
				continue
			}
			x.merge(&y)
			continue next
		}
		byTechnique[y.t.ID] = append(byTechnique[y.t.ID], len(out))
		out = append(out, y)
	}
	return out
}

// merge folds a later line into x, which keeps its place.
func (x *asked) merge(y *asked) {
	x.covers = append(append(x.covers, describe(y)), y.covers...)
	if larger, _ := y.q.Larger(x.q); larger {
		x.q = y.q
	}
	if y.setting() != x.setting() && y.r.Covers { // what covers the other is what is shown
		kept := *x.r
		kept.Setting, kept.Covers = y.r.Setting, true
		x.r = &kept
	}
	x.weight = max(x.weight, y.weight)
	x.stage = max(x.stage, y.stage)
	x.bonus = x.bonus && y.bonus
	x.must = (x.must || y.must) && !x.bonus
	x.supported = x.supported && y.supported
	if len(x.checks) == 0 || len(y.checks) == 0 { // none named: all count
		x.checks = nil
	} else {
		for _, c := range y.checks {
			if !slices.Contains(x.checks, c) {
				x.checks = append(slices.Clone(x.checks), c)
			}
		}
	}
	if levels[y.level] > levels[x.level] {
		x.level = y.level
	}
	if y.group == "" { // asked outright by one of the two
		x.group = ""
	}
	if x.adapted == "" {
		x.adapted = y.adapted
	}
	for _, w := range y.why {
		if !slices.Contains(x.why, w) {
			x.why = append(slices.Clone(x.why), w)
		}
	}
}

var levels = map[notation.Level]int{notation.Low: 1, notation.Mid: 2, notation.High: 3}

func describe(x *asked) string {
	out := x.t.Name + ", " + x.q.String()
	if s := x.setting(); s != Settings[0] {
		out += ", " + settingWords[s]
	}
	return out
}

var settingWords = map[Setting]string{"air": "in the air", "pads": "on pads", "bag": "on the bag", "partner": "with a partner", "boards": "on boards"}

// Words is the setting as people say it.
func (s Setting) Words() string { return settingWords[cmp.Or(s, Settings[0])] }

// draw is rule 5. What is drawn depends on the seed, the group and the line alone, so that
// the order of the curriculum does not matter; knowledge depends on the candidate too.
func (b *Book) draw(lines []asked, a Asking, at int, sheet *TestSheet) (out []asked) {
	pools := map[string][]int{}
	for i, x := range lines {
		if x.group != "" {
			pools[x.group] = append(pools[x.group], i)
		}
	}
	if len(pools) == 0 {
		return lines
	}
	if a.Undrawn {
		for group, pool := range pools {
			for _, i := range pool {
				k := min(b.Group(group).Draw, len(pool))
				lines[i].pool = b.Group(group).Name
				lines[i].why = append(slices.Clone(lines[i].why), fmt.Sprintf("One of %d in %s, of which %d are drawn.", len(pool), b.groupName(group), k))
			}
		}
		return lines
	}
	drawn := map[int]bool{}
	for group, pool := range pools {
		tickets := map[int]uint64{}
		for _, i := range pool {
			candidate := ""
			if lines[i].t.Kind == "knowledge" {
				candidate = a.Candidate
			}
			tickets[i] = draws(a.Seed, group, candidate, lines[i].r.ID)
		}
		order := slices.Clone(pool)
		slices.SortFunc(order, func(x, y int) int {
			return cmp.Or(cmp.Compare(tickets[x], tickets[y]), cmp.Compare(lines[x].r.ID, lines[y].r.ID))
		})
		k := b.Group(group).Draw
		for n, i := range order {
			why := fmt.Sprintf("drawn: %d of %d in %s, seed %d.", min(k, len(pool)), len(pool), b.groupName(group), a.Seed)
			if n < k {
				drawn[i] = true
				lines[i].why = append(slices.Clone(lines[i].why), strings.ToUpper(why[:1])+why[1:])
			} else {
				sheet.LeftOut = append(sheet.LeftOut, LeftOut{lines[i].t.Name, "Not " + why})
			}
		}
	}
	slices.SortFunc(sheet.LeftOut, func(x, y LeftOut) int { return cmp.Or(cmp.Compare(x.Call, y.Call), cmp.Compare(x.Why, y.Why)) })
	out = lines[:0] // what is read is always ahead of what is written
	for i := range lines {
		if lines[i].group == "" || drawn[i] {
			out = append(out, lines[i])
		}
	}
	return out
}

// draws is a ticket: a well-mixed number from a seed and words (FNV-1a, then the finisher of
// splitmix64).
func draws(seed uint64, words ...string) uint64 {
	h := uint64(14695981039346656037) ^ seed
	for _, w := range words {
		for i := range len(w) {
			h = (h ^ uint64(w[i])) * 1099511628211
		}
		h = (h ^ 0xff) * 1099511628211
	}
	h = (h ^ h>>30) * 0xbf58476d1ce4e5b9
	h = (h ^ h>>27) * 0x94d049bb133111eb
	return h ^ h>>31
}

// freshness is the second half of rule 3: how a line stands to the last lower rung that
// asked for its technique in its role, on the same track.
func (b *Book) freshness(x *asked, at int, trackID string, words bool) (Freshness, string) {
	track := b.Track(trackID)
	why := func(format string, args ...any) string {
		if !words {
			return ""
		}
		return fmt.Sprintf(format, args...)
	}
	last := -1
	for _, i := range b.byTechnique[x.t.ID] {
		r := &b.Requirements[i]
		if from := b.rungs[r.RungID]; from < at && r.Role == x.r.Role && r.Free == x.r.Free && !leftOutBy(r, track) {
			last = max(last, min(at-1, b.lastAsked(r)))
		}
	}
	if last < 0 {
		return New, why("New at %s.", b.Rungs[at].Name)
	}
	before := asked{t: x.t, r: x.r}
	var demands []Quantity
	wide := false
	for _, i := range b.byTechnique[x.t.ID] {
		r := &b.Requirements[i]
		if from := b.rungs[r.RungID]; from > last || r.Role != x.r.Role || r.Free != x.r.Free || b.lastAsked(r) < last || leftOutBy(r, track) {
			continue
		}
		y := asked{r: r, t: x.t, q: b.settle(r.Quantity, x.t), cap: r.StageCap}
		if track != nil {
			y.forTrack(b, track)
		}
		b.setStage(&y, last)
		before.stage = max(before.stage, y.stage)
		demands = append(demands, y.q)
		wide = wide || len(r.Checks) == 0
		before.checks = append(before.checks, r.Checks...)
	}
	if x.stage > before.stage {
		return Grown, why("Grown: %s, after %s at %s.", x.t.StageName(x.stage), x.t.StageName(before.stage), b.Rungs[last].Name)
	}
	most := Quantity{}
	for _, q := range demands {
		if larger, comparable := q.Larger(most); comparable && larger || most.Measure == "" && q.Measure == x.q.Measure && q.Side == x.q.Side {
			most = q
		}
	}
	if larger, comparable := x.q.Larger(most); comparable && larger {
		return Grown, why("Grown: %s, after %s at %s.", x.q, most, b.Rungs[last].Name)
	}
	if !wide && len(x.checks) == 0 && len(x.t.Checkpoints) > len(before.checks) {
		return Grown, why("Grown: all %d checkpoints count, after %d at %s.", len(x.t.Checkpoints), len(before.checks), b.Rungs[last].Name)
	}
	return Carried, why("As at %s.", b.Rungs[last].Name)
}

func leftOutBy(r *Requirement, track *Track) bool {
	return track != nil && slices.ContainsFunc(r.Tracks, func(c TrackChange) bool { return c.TrackID == track.ID && c.LeaveOut })
}

// line is rule 6 for one line.
func (b *Book) line(x *asked, at int, trackID string, g int, words bool) Line {
	t, r := x.t, x.r
	fresh, why := b.freshness(x, at, trackID, words)
	l := Line{
		RequirementID: r.ID, TechniqueID: t.ID, Section: b.Sections[x.section].Name, Call: t.Name, Term: t.Term, Detail: t.Note, Entry: x.entry,
		Kind: t.Kind, Role: r.Role, Setting: r.Setting, Quantity: x.q, MustPass: x.must, Bonus: x.bonus, Free: r.Free, Weight: x.weight, Level: x.level,
		Checkpoints: b.Checkpoints(t), Faults: b.Faults(t), Answers: t.Answers, Versions: r.Versions, Table: r.Table,
		Stage: x.stage, Stages: len(t.Stages), Freshness: fresh, Covers: x.covers, Adapted: x.adapted, Pool: x.pool,
		Looks: cmp.Or(r.Looks, looksEach), AtOnce: r.AtOnce, Sprint: r.Sprint, Slow: r.Slow, NonStop: r.NonStop, Supported: x.supported, Phases: r.Phases,
	}
	if len(x.checks) > 0 {
		l.Checkpoints = x.checks
	}
	if x.entry != "" {
		l.Call += ", " + x.entry
	}
	switch r.Role {
	case "attacker":
		l.Call += ", attacker"
		if len(t.AttackerLooks) > 0 {
			l.Checkpoints = t.AttackerLooks
		}
	case "defender", "holder":
		l.Call += ", " + string(r.Role)
	}
	if r.Setting != "" && r.Setting != Settings[0] {
		l.Call += ", " + r.Setting.Words()
	}
	if x.stage > 0 && x.stage < len(t.Stages) {
		l.Call += ", " + t.StageName(x.stage)
	}
	l.RepsCalled, l.Seconds = l.Called(g), l.duration(t, g)
	if words {
		b.say(&l, x, at, why)
	}
	return l
}

// say puts into a line what only those need who read it: the steps of both roles, what to look
// at, and why it is here.
func (b *Book) say(l *Line, x *asked, at int, why string) {
	t, r := x.t, x.r
	l.Cautions, l.Why = t.AllCautions(), append([]string{why}, x.why...)
	l.Note = r.Note
	if r.Note != "" {
		l.Detail = r.Note
	} else if l.Detail == "" && len(t.Attack) > 0 {
		l.Detail = "against " + attackWords(t.Attack)
	}
	l.Moves, l.Partner = b.pair(t, b.told(t, x.stage, x.entry, at), r.Role)
	if len(l.Moves) > 0 && len(t.Stages) == 0 && l.Detail == t.Note {
		l.Detail = "" // the remark is the moves
	}
	if len(l.Moves) == 0 && r.Note != "" {
		l.Moves = b.notedStrip(r.Note)
	}
	l.Surface, l.Targets = b.surfaceFor(t, r.Role), t.Targets
	l.Success = t.Success
	if e := t.Entry(x.entry); e != nil && len(e.Success) > 0 {
		l.Success = e.Success
	}
	l.Common = b.holding(t, l.Section, at)
	if x.rung != at {
		l.Common = b.holding(t, l.Section, at, x.rung)
	}
	if l.Voice = cmp.Or(r.Voice, b.Rungs[at].Voice, b.Program.Voice); l.Voice != "" && r.Voice == "" && voiced[t.Kind] {
		l.Common = append(l.Common, l.Voice.Words())
	}
	l.Manner = manner(x)
}

// notedStrip is a remark that is written in moves, as cells; nothing where it is a remark.
func (b *Book) notedStrip(note string) []StripMove {
	if b.noted(&Technique{Note: note}) == nil {
		return nil
	}
	return b.Strip(note, AsWritten)
}

func attackWords(attack []AttackElement) string {
	var out []string
	for _, a := range attack {
		out = append(out, strings.TrimSpace(string(a.Side)+" "+string(a.Kind)))
	}
	return strings.Join(out, ", then ")
}

func manner(x *asked) string {
	var out []string
	for _, m := range []struct {
		on   bool
		said string
	}{{x.r.NonStop, "non-stop"}, {x.r.Slow, "slowly"}, {x.r.Phases, "by phases"}, {x.supported, "support allowed"}, {x.r.Free, "of the candidate's own choice"}} {
		if m.on {
			out = append(out, m.said)
		}
	}
	if x.r.Sprint > 0 {
		out = append(out, fmt.Sprintf("sprint called for the last %d s", x.r.Sprint))
	}
	if x.r.Voice != "" {
		out = append(out, x.r.Voice.Words())
	}
	return strings.Join(out, ", ")
}
