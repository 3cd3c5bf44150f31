package binder

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// PageLine is one line of a binder page: a requirement as people write it.
type PageLine struct {
	Number    int              // of the line on the page, from 1
	Text      string           // as typed
	Section   string           // name of the section it stands in
	Name      string           // of the technique
	Kind      Kind             // of a technique that is new
	Said      Kind             // the kind that the line says; "" none
	New       bool             // the program has no technique of this name
	Moves     string           // of a new technique
	Series    string           // that a new technique's name gives a number in; "" none
	Place     int              // that number
	Asked     bool             // no other technique has a number in that series yet: it may be only a name
	Plain     bool             // it is only a name
	Term      string           // in the program's second language; "" not said
	Doubts    []notation.Doubt // what of it could be meant otherwise
	Sides     curriculum.SidePolicy
	Aside     string                     // why it is no requirement and set aside; "" it is one
	Attacks   string                     // of a new technique: the attacker's part
	Attack    []curriculum.AttackElement // what it answers, of a technique that had not said it
	Modifiers []curriculum.Modifier      // of a new technique, by the words of its name
	Base      string                     // id of the technique it is a variant of; "" none
	Levels    []notation.Level           // of a new technique, by the words of its name
	Legend    []Numbered                 // call numbers that the line gives; it is set aside then
	Draw      *curriculum.SampleGroup    // the sample group that the line makes, or draws otherwise from; it is set aside then
	From      string                     // the sample group, made on this page, of which the line is one
	Sparring  *curriculum.SparringRule   // what it says of contact and limbs
	AsAt      string                     // id of the rung below whose amount it has, where it says none; "" it says one, or has the usual one
	Stands    *curriculum.Requirement    // what its rung asks of the same already, which it repeats or changes; nil nothing
	curriculum.Requirement
	Makes     []Numbered // techniques that its moves name and nobody knows yet; they get no call number
	nameEnd   int        // characters up to the end of the name, where that is no sign; 0 not said
	perhaps   string     // a remark that may be meant as the amount, where nothing else is
	mayBeTerm string     // what stands in brackets, where nobody has said what does
	kindless  bool       // nothing says of which kind it is
	noMoves   bool       // what stands behind its colon is no move, and may be a list
	headless  bool       // it stands below no heading, and nothing else says of which kind it is
	Waits     bool       // its kind stays open until its heading is answered, which is a line with a problem
	Unheard   string     // the section that a heading would name which is none of the program; "" it is no such heading
	under     headed     // its heading
	usual     bool       // no amount is said
	sided     bool       // one side is said
	before    int        // characters before the moves
	Column    int        // of what is wrong, from 1 in characters
	Problem   string     // "" nothing
}

// MaxPage is the most lines a page may have, and MaxLine how many characters a line.
const (
	MaxPage = 400
	MaxLine = 600
)

// ParsePage reads a binder page: a heading line for each section, and under it a line for
// each requirement.
//
//	Kicks
//	Front kick, 10 a side, must
//	Round kick, on pads
//	Combinations
//	Combination 7, 4 a side: slide back lead low block, rear palm strike high / lead side kick
//
// After the technique's name stand, with commas between: an amount (else the usual one of
// its kind), must, bonus, weight 2, as attacker, as defender, as holder, on pads, on the
// bag, with a partner, on boards, covers settings, always, until RUNG, from GROUP, slowly,
// non-stop, supported, by phases, sprint 15 s, entry NAME, shout on the last move, term WORDS, lead only, not a number, again, free choice, level mid, stage 2, marks 18=2 26=3, not for Cubs,
// bonus for Cubs, 3 a side for Cubs, stage 1 for Cubs, and a remark in parentheses.
// After a colon stand the moves of a technique that is new.
func (b *Reader) ParsePage(text string) []PageLine { return b.readPage(text).out }

// readPage reads a page through.
func (b *Reader) readPage(text string) *pageReader {
	r := b.pageReader(text)
	for _, x := range r.page {
		if !r.full {
			r.read(x)
		}
	}
	if r.bareHead(nil); r.full {
		return r
	}
	bracketAmounts(r.out)
	askOnce(r.out)
	b.askNumbers(r.out)
	ofSeries(r.out)
	waitFor(r.out)
	b.pageMoves(r.out, r.fresh)
	b.attacksOn(r.out)
	for i := range r.out {
		b.takesNote(&r.out[i])
	}
	twins(r.out)
	b.attacksOn(r.out) // by names of their own
	r.attacksListed()
	b.askAttack(r.out)
	askChoice(r.out)
	b.askLost(r.out)
	r.askHeads()
	for i := range r.out {
		if l := &r.out[i]; l.TechniqueID != "" { // it has them
			l.Moves, l.Attacks = "", ""
		}
	}
	return r
}

// PageFor reads a page of a rung as ParsePage does; what says no amount, and is asked by a rung below in the same role and setting, is asked
// as much as there. heads are the lines, from 1, that are headings; every other line that is not blank is read, set aside, or goes on with the
// technique above it.
func (b *Reader) PageFor(rung, text string) (out []PageLine, heads []int) {
	if none := b.otherColumns(rung, text); none != nil {
		return []PageLine{*none}, nil
	}
	r := b.readPage(b.columnFor(rung, text))
	out = r.out
	for i := range out {
		l := &out[i]
		if !l.usual || l.TechniqueID == "" || l.under.amount != nil || l.Problem != "" || l.Aside != "" {
			continue
		}
		if r := b.askedBelow(rung, l.Requirement); r != nil && r.Quantity != l.Quantity {
			l.Quantity, l.AsAt = r.Quantity, r.RungID
		}
	}
	b.findStanding(rung, out)
	return out, r.heads
}

// askedBelow is the requirement of the nearest rung below that asks the same in the same role and setting; nil where none does.
func (b *Reader) askedBelow(rung string, asked curriculum.Requirement) *curriculum.Requirement {
	for at := b.Place(rung) - 1; at >= 0; at-- {
		for _, r := range b.Asked(b.Rungs[at].ID) {
			if r.TechniqueID == asked.TechniqueID && r.Role == asked.Role && r.Setting == asked.Setting && r.Free == asked.Free {
				return &r
			}
		}
	}
	return nil
}

// ofSeries asks nothing about the number behind a name where others of the page have other numbers of the same.
func ofSeries(lines []PageLine) {
	places := map[string]map[int]bool{}
	for _, l := range lines {
		if l.Series != "" && l.Problem == "" {
			if places[l.Series] == nil {
				places[l.Series] = map[int]bool{}
			}
			places[l.Series][l.Place] = true
		}
	}
	for i := range lines {
		if l := &lines[i]; len(places[l.Series]) > 1 {
			l.Asked = false
		}
	}
}

// waitFor lets the kind of lines below a heading that is asked about stay open, and of those that follow one that is asked for its heading.
func waitFor(lines []PageLine) {
	asked := false
	for i := range lines {
		l := &lines[i]
		first := l.headless && !asked
		if asked = asked || l.headless; l.Problem != "" && !first && (l.headless || l.kindless && l.under.unknown) {
			l.Column, l.Problem, l.Waits = 0, "", true
			if p := l.Requirement.Check(); len(p) > 0 { // which its kind had kept from being said
				l.Waits = false
				l.fail(1, p[0].Field+" "+p[0].Text)
			}
		}
	}
}

// askNumbers asks once a page what the numbers of its combinations stand for, where nothing says it.
func (b *Reader) askNumbers(lines []PageLine) {
	if i := slices.IndexFunc(lines, func(l PageLine) bool {
		return l.New && l.Kind == "combination" && l.Moves == "" && l.Problem == "" && b.byNumbers(l.Name)
	}); i >= 0 && len(lines[i].Doubts) == 0 {
		lines[i].doubt(fmt.Sprintf("nothing says which punches the numbers of %s are; a line above them does, for example 1 = jab, 2 = cross", lines[i].Name))
	}
}

// askOnce asks once a page whether brackets hold terms, and where the questions of a group are.
func askOnce(lines []PageLine) {
	if i := slices.IndexFunc(lines, func(l PageLine) bool { return l.mayBeTerm != "" && l.Problem == "" }); i >= 0 {
		lines[i].doubt(fmt.Sprintf("“%s” is read as a remark; whether brackets hold the term is said once, on the program’s page", lines[i].mayBeTerm))
	}
	for i := range lines {
		if g := lines[i].Draw; g != nil && g.ID == "" && !slices.ContainsFunc(lines, func(l PageLine) bool { return l.From == g.Name }) {
			lines[i].fail(1, fmt.Sprintf("no question of %s stands below; write them there, a line each, or add the group on the program’s page and “from %s” to its questions", g.Name, g.Name))
			lines[i].Aside = ""
		}
	}
}

// ErrPage is wrapped by the errors of AddPage.
var ErrPage = errors.New("page")

// AddPage is the curriculum with the lines of a page added to a rung, and the techniques
// that are new; a line that stands there already is changed as it says. id makes ids. A line
// with a problem is an error that names its place.
func (b *Reader) AddPage(rung string, lines []PageLine, id func() string) (curriculum.Curriculum, error) {
	c := b.Curriculum
	c.Techniques, c.Requirements = slices.Clone(c.Techniques), slices.Clone(c.Requirements)
	made := map[string]string{}
	c.Rungs = slices.Clone(c.Rungs)
	if rule := b.propose(rung, lines); rule != nil {
		c.Rungs[b.Place(rung)].Sparring = rule
	}
	groups := b.pageGroups(&c, lines, id)
	for _, l := range lines {
		if l.Aside != "" {
			for _, x := range l.Legend {
				b.callBy(&c, x, made, id)
			}
			continue
		}
		if l.From != "" {
			l.Carry = curriculum.Carry{Kind: curriculum.Sample, Group: groups[check.Key(l.From)]}
		}
		for _, x := range l.Makes {
			b.callBy(&c, x, made, id)
		}
		if l.Waits {
			l.fail(1, fmt.Sprintf("nothing says of which kind %s is", l.Name))
		}
		if l.Problem != "" {
			return c, fmt.Errorf("%w: line %d, column %d: %s", ErrPage, l.Number, l.Column, l.Problem)
		}
		key := check.Key(l.Name)
		if known, there := made[key]; l.New && there {
			l.TechniqueID = known
		} else if l.New {
			t := l.technique(id())
			if series, _, numbered := curriculum.NumberedName(l.Name); l.Plain && numbered && !slices.Contains(c.Program.NoSeries, series) {
				c.Program.NoSeries = append(slices.Clone(c.Program.NoSeries), series)
			}
			made[key], l.TechniqueID = t.ID, t.ID
			c.Techniques = append(c.Techniques, t)
		} else if i := slices.IndexFunc(c.Techniques, func(t curriculum.Technique) bool { return t.ID == l.TechniqueID }); i >= 0 {
			// What a line says of a technique that had not said it yet.
			c.Techniques[i].Term = cmp.Or(c.Techniques[i].Term, l.Term)
			c.Techniques[i].Sides = cmp.Or(c.Techniques[i].Sides, l.Sides)
			if len(c.Techniques[i].Attack) == 0 {
				c.Techniques[i].Attack = l.Attack
			}
		}
		if l.Stands != nil {
			at := slices.IndexFunc(c.Requirements, func(r curriculum.Requirement) bool { return r.ID == l.Stands.ID })
			c.Requirements[at] = l.over(c.Requirements[at])
			continue
		}
		l.Requirement.ID, l.Requirement.RungID = id(), rung
		c.Requirements = append(c.Requirements, l.Requirement)
	}
	// Each rung's requirements stay together.
	slices.SortStableFunc(c.Requirements, func(x, y curriculum.Requirement) int { return b.Place(x.RungID) - b.Place(y.RungID) })
	return c, nil
}

// technique is what a line makes that is new.
func (l *PageLine) technique(id string) curriculum.Technique {
	t := curriculum.Technique{ID: id, Name: l.Name, Kind: l.Kind, Term: l.Term}
	t.Sides, t.Modifiers, t.AttackMoves, t.Levels, t.Attack = l.Sides, l.Modifiers, l.Attacks, l.Levels, l.Attack
	if l.Base != "" {
		t.BuildsOn = []string{l.Base}
	}
	if !l.Plain {
		t.Series, t.Number = l.Series, l.Place
	}
	if l.Moves != "" {
		t.Stages = []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.Steps(l.Moves)}}
	}
	return t
}

// pageGroups adds the sample groups that lines make, and draws as many from others as they say; by the
// key of their names.
func (b *Reader) pageGroups(c *curriculum.Curriculum, lines []PageLine, id func() string) map[string]string {
	out := map[string]string{}
	c.Program.Groups = slices.Clone(c.Program.Groups)
	for _, l := range lines {
		if l.Draw == nil {
			continue
		}
		key := check.Key(l.Draw.Name)
		if at := slices.IndexFunc(c.Program.Groups, func(g curriculum.SampleGroup) bool { return check.Key(g.Name) == key }); at >= 0 {
			c.Program.Groups[at].Draw = l.Draw.Draw
			out[key] = c.Program.Groups[at].ID
			continue
		}
		g := *l.Draw
		g.ID = id()
		c.Program.Groups = append(c.Program.Groups, g)
		out[key] = g.ID
	}
	return out
}

// callBy gives a technique its call number, where it has one, and makes it where nobody knows it.
func (b *Reader) callBy(c *curriculum.Curriculum, x Numbered, made map[string]string, id func() string) {
	key := check.Key(x.Name)
	known := made[key]
	if t := b.Named(x.Name); t != nil {
		known = t.ID
	}
	if known == "" {
		t := curriculum.Technique{ID: id(), Name: x.Name, Kind: x.Kind}
		made[key], known = t.ID, t.ID
		c.Techniques = append(c.Techniques, t)
	}
	if x.Number == 0 {
		return
	}
	for i := range c.Techniques {
		if c.Techniques[i].ID == known {
			c.Techniques[i].Call = x.Number
		}
	}
}

// MergeLine is a requirement of a file: in place of the one with its ID, or new.
type MergeLine struct {
	PageLine
	Was string // id of the requirement it stands for; "" a new one
}

// Merge is the curriculum with the lines of a file. Lines that stand for a requirement
// change it and keep what a file cannot say; new ones go behind those of their rung. With
// only, what the named rungs ask and the file leaves out is taken out.
func (b *Reader) Merge(lines []MergeLine, only bool, id func() string) (curriculum.Curriculum, error) {
	c := b.Curriculum
	place := map[string]int{}
	for i, r := range c.Requirements {
		place[r.ID] = i
	}
	c.Requirements = slices.Clone(c.Requirements)
	kept, named := map[string]bool{}, map[string]bool{}
	next := b
	for _, l := range lines {
		named[l.RungID] = true
		if i, there := place[l.Was]; there && !l.New {
			kept[l.Was] = true
			r := &c.Requirements[i]
			old := r.RequirementDetails
			*r = l.Requirement
			r.ID, r.Checks, r.Versions, r.AtOnce, r.Looks = l.Was, old.Checks, old.Versions, old.AtOnce, old.Looks
			continue
		}
		next = Open(c)
		before := len(c.Requirements)
		more, err := next.AddPage(l.RungID, []PageLine{next.again(l.PageLine)}, id)
		if err != nil {
			return c, err
		}
		c = more
		if len(c.Requirements) > before {
			for i, r := range c.Requirements { // places moved, and one is new
				if _, known := place[r.ID]; !known {
					kept[r.ID] = true
				}
				place[r.ID] = i
			}
		}
	}
	if only {
		c.Requirements = slices.DeleteFunc(slices.Clone(c.Requirements), func(r curriculum.Requirement) bool { return named[r.RungID] && !kept[r.ID] })
	}
	return c, nil
}

// again looks up the technique of a line that was new once more: a line before may have
// made it.
func (b *Reader) again(l PageLine) PageLine {
	if t := b.Named(l.Name); l.New && t != nil {
		l.New, l.TechniqueID = false, t.ID
	}
	return l
}

// noSection asks about a heading that is no section of the program, and says how one would be called.
func (b *Reader) noSection(l *PageLine, column int, head string) {
	if head != "" && len(strings.Fields(head)) < mostWords && l.Problem == "" {
		l.Unheard = lowered(head, "")
	}
	l.fail(column, fmt.Sprintf("this is no section of the program; its sections are %s", strings.Join(b.sectionNames(), ", ")))
}

// headingKind is the kind that a line means by itself: of several such, or one that is no
// technique. "Punch" under Strikes is a technique, "Punches" and "Punching" are not.
func headingKind(key string) Kind {
	if curriculum.SectionKey(key) == key && slices.Contains(single, key) {
		return ""
	}
	return curriculum.UsualKind(key)
}

// single are the words of usualKinds that name one technique as well.
var single = []string{"grab", "choke", "headlock", "strangle", "pin", "stance", "strike", "punch", "hand technique", "kick", "leg technique", "foot technique", "block", "parry", "evasion", "combination", "combo", "lock", "hold", "joint lock", "throw", "takedown", "fall", "break fall", "breakfall", "roll", "partner set", "set", "partner drill", "pair drill", "break", "round", "question", "balance", "board break",
	"cover", "sweep", "push", "grab release", "restraint", "submission", "fight", "fist", "sequence", "posture", "breakaway", "break away"}

func (b *Reader) sectionNames() (out []string) {
	for _, s := range b.Sections {
		out = append(out, s.Name)
	}
	return out
}

func (l *PageLine) fail(column int, problem string) {
	if l.Problem == "" {
		l.Column, l.Problem = column, problem
	}
}

// PageOf is what a rung asks as a page that ParsePage reads.
func (b *Reader) PageOf(rung string) string {
	var out []string
	section := ""
	asked := b.Asked(rung)
	place := func(r curriculum.Requirement) int {
		return slices.IndexFunc(b.Sections, func(s curriculum.Section) bool { return s.ID == r.SectionID })
	}
	slices.SortStableFunc(asked, func(x, y curriculum.Requirement) int { return place(x) - place(y) })
	for _, r := range asked {
		t, s := b.Technique(r.TechniqueID), b.Section(r.SectionID)
		if t == nil || s == nil {
			continue
		}
		if s.Name != section {
			section = s.Name
			if len(out) > 0 {
				out = append(out, "")
			}
			out = append(out, section)
		}
		parts := append([]string{t.Name, r.Quantity.String()}, b.PartsOf(r)...)
		line := strings.Join(parts, ", ")
		if r.Note != "" {
			note := strings.NewReplacer("(", "[", ")", "]", ":", " -").Replace(r.Note)
			if b.readsOtherwise(note) {
				note = "(" + note + ")"
			}
			line += " (" + note + ")"
		}
		out = append(out, line)
	}
	return strings.Join(out, "\n")
}

// PartsOf are the words of a requirement between its amount and its remark.
// It is long: one pass over a line, character by character.
func (b *Reader) PartsOf(r curriculum.Requirement) (out []string) {
	if r.MustPass {
		out = append(out, "must")
	}
	if r.Bonus {
		out = append(out, "bonus")
	}
	if r.Weight > 1 {
		out = append(out, fmt.Sprintf("weight %d", r.Weight))
	}
	if r.Role != curriculum.Roles[0] {
		out = append(out, "as "+string(r.Role))
	}
	if r.Setting != "" {
		out = append(out, r.Setting.Words())
	}
	switch r.Carry.Kind {
	case curriculum.Always:
		out = append(out, "always")
	case curriculum.Until:
		out = append(out, "until "+b.RungName(r.Carry.Rung))
	case curriculum.Sample:
		if g := b.Group(r.Carry.Group); g != nil {
			out = append(out, "from "+g.Name)
		}
	}
	for _, x := range []struct {
		on   bool
		word string
	}{{r.Covers, "covers settings"}, {r.Slow, "slowly"}, {r.NonStop, "non-stop"}, {r.Supported, "supported"}, {r.Phases, "by phases"}, {r.ShowAgain, "again"}, {r.Free, "free choice"}} {
		if x.on {
			out = append(out, x.word)
		}
	}
	if r.LeastLevel != "" {
		out = append(out, "level "+string(r.LeastLevel))
	}
	if r.Sprint > 0 {
		out = append(out, fmt.Sprintf("sprint %d s", r.Sprint))
	}
	for _, e := range r.Entries {
		out = append(out, "entry "+e)
	}
	if r.Voice != "" {
		out = append(out, r.Voice.Words())
	}
	if r.StageCap > 0 {
		out = append(out, fmt.Sprintf("stage %d", r.StageCap))
	}
	if len(r.Table) > 0 {
		rows := "marks"
		for _, m := range r.Table {
			rows += fmt.Sprintf(" %d=%s", m.Count, m.Mark)
		}
		out = append(out, rows)
	}
	for _, c := range r.Tracks {
		t := b.Track(c.TrackID)
		if t == nil {
			continue
		}
		for _, x := range []struct {
			on   bool
			word string
		}{{c.LeaveOut, "not"}, {c.Bonus, "bonus"}, {c.StageCap > 0, fmt.Sprintf("stage %d", c.StageCap)}, {c.Level != "", "level " + string(c.Level)}} {
			if x.on {
				out = append(out, x.word+" for "+t.Name)
			}
		}
		if c.Quantity != nil {
			out = append(out, c.Quantity.String()+" for "+t.Name)
		}
	}
	return out
}
