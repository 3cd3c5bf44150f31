package curriculum

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

// PageLine is one line of a binder page: a requirement as people write it.
type PageLine struct {
	Number  int              // of the line on the page, from 1
	Text    string           // as typed
	Section string           // name of the section it stands in
	Name    string           // of the technique
	Kind    Kind             // of a technique that is new
	New     bool             // the program has no technique of this name
	Moves   string           // of a new technique
	Series  string           // that a new technique's name gives a number in; "" none
	Place   int              // that number
	Asked   bool             // no other technique has a number in that series yet: it may be only a name
	Plain   bool             // it is only a name
	Term    string           // in the program's second language; "" not said
	Doubts  []notation.Doubt // what of its moves could be meant otherwise
	Sides   SidePolicy
	Requirement
	Column  int    // of what is wrong, from 1 in characters
	Problem string // "" nothing
}

// MaxPage is the most lines a page may have.
const MaxPage = 400

// DefaultAmount is how much is usually asked of a kind.
func DefaultAmount(k Kind) Quantity {
	text := map[Kind]string{
		"lock": "3 a side", "throw": "3 a side", "breakfall": "5", "form": "once", "combination": "4 a side", "self_defence": "2 a side", "partner_set": "3 a side",
		"sparring": "2 x 60 s, 30 s rest", "fitness": "60 s", "balance": "5 a side without touching down", "knowledge": "once", "courtesy": "once", "board_break": "once", "character": "once",
	}[k]
	if text == "" {
		text = "5 a side"
	}
	q, err := ParseQuantity(text)
	if err != nil {
		panic(err) // written above
	}
	return q
}

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
func (b *Book) ParsePage(text string) (out []PageLine) {
	section := ""
	var fresh []notation.Entry
	for i, line := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		typed := strings.TrimRight(line, " \t")
		if strings.TrimSpace(typed) == "" {
			continue
		}
		if name, heading := b.heading(typed); heading {
			section = name
			continue
		}
		l := PageLine{Number: i + 1, Text: typed, Section: section}
		if len(out) == MaxPage {
			l.fail(1, fmt.Sprintf("a page has up to %d lines; enter the rest as another", MaxPage))
			return append(out, l)
		}
		b.pageLine(&l)
		if l.New && l.Problem == "" {
			if at := slices.IndexFunc(out, func(x PageLine) bool { return x.New && check.Key(x.Name) == check.Key(l.Name) }); at >= 0 {
				l.Kind = out[at].Kind // met above: the same new technique once more
				if l.Moves != "" {
					l.fail(1, fmt.Sprintf("the moves of %s stand in line %d; write them once", l.Name, out[at].Number))
				}
			} else {
				fresh = append(fresh, notation.Entry{ID: "line " + strconv.Itoa(i), Name: l.Name})
			}
		}
		out = append(out, l)
	}
	b.pageMoves(out, fresh)
	return out
}

// ErrPage is wrapped by the errors of AddPage.
var ErrPage = errors.New("page")

// AddPage is the curriculum with the lines of a page added to a rung, and the techniques
// that are new. id makes ids. A line with a problem is an error that names its place.
func (b *Book) AddPage(rung string, lines []PageLine, id func() string) (Curriculum, error) {
	c := b.Curriculum
	c.Techniques, c.Requirements = slices.Clone(c.Techniques), slices.Clone(c.Requirements)
	made := map[string]string{}
	for _, l := range lines {
		if l.Problem != "" {
			return c, fmt.Errorf("%w: line %d, column %d: %s", ErrPage, l.Number, l.Column, l.Problem)
		}
		key := check.Key(l.Name)
		if known, there := made[key]; l.New && there {
			l.TechniqueID = known
		} else if l.New {
			t := Technique{ID: id(), Name: l.Name, Kind: l.Kind, Term: l.Term}
			t.Sides = l.Sides
			if l.Plain {
				if series, _, numbered := NumberedName(l.Name); numbered && !slices.Contains(c.Program.NoSeries, series) {
					c.Program.NoSeries = append(slices.Clone(c.Program.NoSeries), series)
				}
			} else {
				t.Series, t.Number = l.Series, l.Place
			}
			if l.Moves != "" {
				t.Stages = []Stage{{Does: Appends, Steps: Steps(l.Moves)}}
			}
			made[key], l.TechniqueID = t.ID, t.ID
			c.Techniques = append(c.Techniques, t)
		} else if i := slices.IndexFunc(c.Techniques, func(t Technique) bool { return t.ID == l.TechniqueID }); i >= 0 {
			// What a line says of a technique that had not said it yet.
			c.Techniques[i].Term = cmp.Or(c.Techniques[i].Term, l.Term)
			c.Techniques[i].Sides = cmp.Or(c.Techniques[i].Sides, l.Sides)
		}
		l.Requirement.ID, l.Requirement.RungID = id(), rung
		c.Requirements = append(c.Requirements, l.Requirement)
	}
	// Each rung's requirements stay together.
	slices.SortStableFunc(c.Requirements, func(x, y Requirement) int { return b.Place(x.RungID) - b.Place(y.RungID) })
	return c, nil
}

// MergeLine is a requirement of a file: in place of the one with its ID, or new.
type MergeLine struct {
	PageLine
	Was string // id of the requirement it stands for; "" a new one
}

// Merge is the curriculum with the lines of a file. Lines that stand for a requirement
// change it and keep what a file cannot say; new ones go behind those of their rung. With
// only, what the named rungs ask and the file leaves out is taken out.
func (b *Book) Merge(lines []MergeLine, only bool, id func() string) (Curriculum, error) {
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
		c.Requirements = slices.DeleteFunc(slices.Clone(c.Requirements), func(r Requirement) bool { return named[r.RungID] && !kept[r.ID] })
	}
	return c, nil
}

// again looks up the technique of a line that was new once more: a line before may have
// made it.
func (b *Book) again(l PageLine) PageLine {
	if t := b.Named(l.Name); l.New && t != nil {
		l.New, l.TechniqueID = false, t.ID
	}
	return l
}

// heading is the section a line names by itself, with or without a colon behind it.
func (b *Book) heading(line string) (string, bool) {
	key := check.Key(strings.TrimRight(strings.TrimSpace(line), ":"))
	for _, s := range b.Sections {
		if check.Key(s.Name) == key {
			return s.Name, true
		}
	}
	return "", false
}

func (l *PageLine) fail(column int, problem string) {
	if l.Problem == "" {
		l.Column, l.Problem = column, problem
	}
}

// pageMoves reads the moves on a page against the program's techniques and the page's own.
func (b *Book) pageMoves(lines []PageLine, fresh []notation.Entry) {
	if !slices.ContainsFunc(lines, func(l PageLine) bool { return l.Moves != "" }) {
		return
	}
	catalogue, err := notation.NewCatalogue(append(b.Entries(), fresh...))
	for i := range lines {
		l := &lines[i]
		if l.Moves == "" || l.Problem != "" {
			continue
		}
		if err != nil {
			l.fail(1, err.Error())
			continue
		}
		before, _, _ := strings.Cut(l.Text, l.Moves)
		r, err := catalogue.Read(l.Moves)
		for _, d := range r.Doubts {
			l.Doubts = append(l.Doubts, notation.Doubt{Column: utf8.RuneCountInString(before) + d.Column, Reason: d.Reason})
		}
		if err != nil {
			var at *notation.Error
			if errors.As(err, &at) {
				l.fail(utf8.RuneCountInString(before)+at.Column, at.Problem)
			} else {
				l.fail(1, err.Error())
			}
		}
	}
}

// pageLine reads one line that is no heading.
func (b *Book) pageLine(l *PageLine) {
	head, moves, _ := strings.Cut(l.Text, ":")
	l.Moves = strings.TrimSpace(moves)
	if open := strings.IndexByte(head, '('); open >= 0 {
		rest := strings.TrimSpace(head[open:])
		if !strings.HasSuffix(rest, ")") {
			l.fail(utf8.RuneCountInString(head[:open])+1, "this remark is not closed; write ) after it, at the end of the line or before the colon")
			return
		}
		l.Note = check.Tidy(rest[1 : len(rest)-1])
		head = strings.TrimRight(strings.TrimSpace(head[:open]), ",")
	}
	parts := strings.Split(head, ",")
	for n := len(parts); n > 1; n-- { // a known name may hold a comma
		if name := strings.Join(parts[:n], ","); b.Named(check.Tidy(name)) != nil {
			parts = append([]string{name}, parts[n:]...)
			break
		}
	}
	l.Name = check.Tidy(parts[0])
	if utf8.RuneCountInString(l.Name) > check.NameLength || l.Name == "" {
		l.fail(1, fmt.Sprintf("a technique's name of up to %d characters comes first", check.NameLength))
		return
	}
	l.Role, l.Weight = Roles[0], 1
	column := utf8.RuneCountInString(parts[0]) + 2
	amount := false
	for i := 1; i < len(parts); i++ {
		part := parts[i]
		word := check.Tidy(part)
		lead := utf8.RuneCountInString(part) - utf8.RuneCountInString(strings.TrimLeft(part, " \t"))
		// "2 x 60 s, 30 s rest" is one amount with a comma in it, also what a track does instead.
		if i+1 < len(parts) && restPattern.MatchString(check.Key(parts[i+1])) {
			whole := word + ", " + check.Tidy(parts[i+1])
			q, err := ParseQuantity(whole)
			if err == nil {
				l.Quantity, amount = q, true
			}
			if err == nil || b.ReadPart(l, whole) == "" {
				column += utf8.RuneCountInString(part) + 1 + utf8.RuneCountInString(parts[i+1]) + 1
				i++
				continue
			}
		}
		if word != "" {
			if q, err := ParseQuantity(word); err == nil {
				l.Quantity, amount = q, true
			} else if problem := b.ReadPart(l, word); problem != "" {
				// The name of a rung or a group may hold a comma.
				if i+1 < len(parts) && b.ReadPart(l, word+", "+check.Tidy(parts[i+1])) == "" {
					column += utf8.RuneCountInString(part) + 1 + utf8.RuneCountInString(parts[i+1]) + 1
					i++
					continue
				}
				l.fail(column+lead, problem)
				return
			}
		}
		column += utf8.RuneCountInString(part) + 1
	}
	b.Settle(l)
	if !amount {
		l.Quantity = DefaultAmount(l.Kind)
	}
	if p := l.Requirement.Check(); len(p) > 0 {
		l.fail(1, p[0].Field+" "+p[0].Text)
	}
}

// restPattern is the second half of rounds with a rest, of everybody or for a track.
var restPattern = regexp.MustCompile(`^\d+ ?\w* rest( for .+)?$`)

// SplitParts splits the parts of a line at their commas, but for that before a rest.
func SplitParts(text string) (out []string) {
	for _, part := range strings.Split(text, ",") {
		if n := len(out); n > 0 && restPattern.MatchString(check.Key(part)) {
			out[n-1] += "," + part
			continue
		}
		out = append(out, part)
	}
	return out
}

// Settle finds the technique a line names and the section it goes to; what is wrong is the
// line's problem.
func (b *Book) Settle(l *PageLine) {
	t := b.Named(l.Name)
	switch {
	case t != nil:
		l.TechniqueID, l.Kind, l.Name = t.ID, t.Kind, t.Name
		if l.Term != "" && t.Term != "" && check.Key(l.Term) != check.Key(t.Term) {
			l.fail(1, fmt.Sprintf("%s is known by the term %s; change it on its page", t.Name, t.Term))
		}
		if l.Sides != "" && t.Sides != "" && l.Sides != t.Sides {
			l.fail(1, fmt.Sprintf("%s is known as trained on %s; change it on its page", t.Name, t.Sides.Words()))
		}
		if l.Moves != "" && l.Moves != lineOf(t.StepsAt(len(t.Stages))) {
			l.fail(1, fmt.Sprintf("%s is known, with moves of its own; change them on its page", t.Name))
		}
		l.Moves = ""
	case l.Section == "":
		l.New = true
		l.fail(1, fmt.Sprintf("%q is new, so its section is not known; write a heading such as Kicks above it", l.Name))
	default:
		l.New, l.Kind = true, KindOfSection(l.Section)
		if series, number, known, numbered := b.Numbers(l.Name); numbered && !l.Plain {
			l.Series, l.Place, l.Asked = series, number, !known
		}
	}
	name := l.Section
	if name == "" {
		name = SectionOfKind(l.Kind)
	}
	for _, s := range b.Sections {
		if check.Key(s.Name) == check.Key(name) {
			l.SectionID, l.Section = s.ID, s.Name
		}
	}
	if l.SectionID == "" {
		l.fail(1, "this program has no section for it; write a heading with one of its sections above it")
	}
}

// ReadPart reads one part of a line that is no amount, such as "must" or "until Blue belt",
// and returns what is wrong with it; "" nothing.
func (b *Book) ReadPart(l *PageLine, word string) string {
	key := check.Key(word)
	first, rest, _ := strings.Cut(key, " ")
	_, said, _ := strings.Cut(word, " ") // the rest as it was typed
	if what, name, found := strings.Cut(key, " for "); found {
		return b.readTrack(l, what, name)
	}
	switch {
	case key == "must" || key == "must pass":
		l.MustPass = true
	case key == "bonus":
		l.Bonus = true
	case key == "always":
		l.Carry = Carry{Kind: Always}
	case key == "again" || key == "show again":
		l.ShowAgain = true
	case key == "free choice":
		l.Free = true
	case key == "slowly" || key == "slow":
		l.Slow = true
	case key == "non-stop":
		l.NonStop = true
	case key == "supported" || key == "support allowed":
		l.Supported = true
	case key == "by phases":
		l.Phases = true
	case first == "term" && rest != "":
		l.Term = check.Tidy(said)
	case key == "not a number":
		l.Plain = true
	case sidesOnly[key] != "":
		l.Sides = sidesOnly[key]
	case first == "sprint":
		return readSprint(l, rest)
	case first == "entry" && rest != "":
		l.Entries = append(l.Entries, check.Tidy(said))
	case voiceOf(key) != "":
		l.Voice = voiceOf(key)
	case key == "covers settings":
		l.Covers = true
	case first == "as" && slices.Contains(Roles, Role(rest)):
		l.Role = Role(rest)
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		l.LeastLevel = notation.Level(rest)
	case first == "marks":
		return readMarks(l, rest)
	case first == "weight" || first == "stage":
		n, err := strconv.Atoi(rest)
		if err != nil || n < 1 || n > 100 {
			return fmt.Sprintf("after %s stands a whole number from 1 to 100", first)
		}
		if first == "weight" {
			l.Weight = n
		} else {
			l.StageCap = n
		}
	case first == "until":
		for _, r := range b.Rungs {
			if check.Key(r.Name) == rest || check.Key(r.Short()) == rest {
				l.Carry = Carry{Kind: Until, Rung: r.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no rung of this ladder", said)
	case first == "from":
		for _, g := range b.Program.Groups {
			if check.Key(g.Name) == rest {
				l.Carry = Carry{Kind: Sample, Group: g.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no sample group of this program", said)
	default:
		for s, words := range settingWords {
			if key == words {
				l.Setting = s
				return ""
			}
		}
		return fmt.Sprintf("%q is not understood; after the name stand an amount such as 5 a side, must, bonus, weight 2, as attacker, on pads, always, until a rung …", word)
	}
	return ""
}

// sidesOnly are the words that say on which side alone a technique is trained.
var sidesOnly = map[string]SidePolicy{"lead only": LeadSide, "rear only": RearSide, "left only": LeftOnly, "right only": RightOnly, "no sides": NoSide, "both sides": BothSides}

// readSprint reads when the closing sprint is called: "sprint 15 s", "sprint last 15 s".
func readSprint(l *PageLine, rest string) string {
	q, err := ParseQuantity(strings.TrimPrefix(strings.TrimPrefix(rest, "the "), "last "))
	if err != nil || q.Measure != Timed && q.Measure != RepsInAll {
		return "after sprint stand the seconds before the end, for example sprint 15 s"
	}
	l.Sprint = max(q.Seconds, q.Reps)
	return ""
}

// voiceOf is the voice that words mean; "" none.
func voiceOf(words string) Voice {
	for _, v := range Voices {
		if words == v.Words() {
			return v
		}
	}
	return ""
}

// readMarks reads a fitness table: "marks 18=2 26=3", the least count and its mark.
func readMarks(l *PageLine, rest string) string {
	l.Table = nil
	if rest == "" {
		return "after marks stand counts with their marks, for example marks 18=2 26=3"
	}
	for _, row := range strings.Fields(rest) {
		count, mark, found := strings.Cut(row, "=")
		n, err := strconv.Atoi(count)
		m, wrong := scoring.ParseDecimal(mark)
		if !found || err != nil || wrong != nil {
			return fmt.Sprintf("%q is not understood; after marks stand counts with their marks, for example marks 18=2 26=3", row)
		}
		l.Table = append(l.Table, TableMark{n, m})
	}
	return ""
}

// readTrack reads what one track changes: "not for Cubs", "bonus for Cubs", "3 a side for
// Cubs", "level low for Cubs", "stage 1 for Cubs".
func (b *Book) readTrack(l *PageLine, what, name string) string {
	track := slices.IndexFunc(b.Program.Tracks, func(t Track) bool { return check.Key(t.Name) == name })
	if track < 0 {
		return fmt.Sprintf("%q is no track of this program", name)
	}
	id := b.Program.Tracks[track].ID
	at := slices.IndexFunc(l.Tracks, func(c TrackChange) bool { return c.TrackID == id })
	if at < 0 {
		at = len(l.Tracks)
		l.Tracks = append(l.Tracks, TrackChange{TrackID: id})
	}
	c := &l.Tracks[at]
	first, rest, _ := strings.Cut(what, " ")
	n, err := strconv.Atoi(rest)
	switch {
	case what == "not":
		c.LeaveOut = true
	case what == "bonus":
		c.Bonus = true
	case first == "stage" && err == nil && n > 0 && n <= maxStages:
		c.StageCap = n
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		c.Level = notation.Level(rest)
	default:
		q, err := ParseQuantity(what)
		if err != nil {
			return fmt.Sprintf("%q is not understood; before “for %s” stands not, bonus, an amount, level low or stage 1", what, b.Program.Tracks[track].Name)
		}
		c.Quantity = &q
	}
	return ""
}

// PageOf is what a rung asks as a page that ParsePage reads.
func (b *Book) PageOf(rung string) string {
	var out []string
	section := ""
	asked := b.Asked(rung)
	slices.SortStableFunc(asked, func(x, y Requirement) int { return b.sections[x.SectionID] - b.sections[y.SectionID] })
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
			line += " (" + strings.NewReplacer("(", "[", ")", "]", ":", " -").Replace(r.Note) + ")"
		}
		out = append(out, line)
	}
	return strings.Join(out, "\n")
}

// PartsOf are the words of a requirement between its amount and its remark.
func (b *Book) PartsOf(r Requirement) (out []string) {
	if r.MustPass {
		out = append(out, "must")
	}
	if r.Bonus {
		out = append(out, "bonus")
	}
	if r.Weight > 1 {
		out = append(out, fmt.Sprintf("weight %d", r.Weight))
	}
	if r.Role != Roles[0] {
		out = append(out, "as "+string(r.Role))
	}
	if r.Setting != "" {
		out = append(out, r.Setting.Words())
	}
	switch r.Carry.Kind {
	case Always:
		out = append(out, "always")
	case Until:
		out = append(out, "until "+b.nameOf(r.Carry.Rung))
	case Sample:
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

// Steps splits a line of moves into steps, one for each count.
func Steps(line string) (out []Step) {
	depth, from := 0, 0
	cut := func(to int) {
		if part := check.Tidy(line[from:to]); part != "" {
			out = append(out, Step{Moves: part})
		}
		from = to + 1
	}
	for i, r := range line {
		switch {
		case r == '(':
			depth++
		case r == ')':
			depth--
		case r == '/' && depth == 0: // a stroke within a note is part of the note
			cut(i)
		}
	}
	cut(len(line))
	return out
}
