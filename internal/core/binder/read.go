package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// pageReader goes through a page; each line changes what the next ones mean.
type pageReader struct {
	*Reader
	page     []pageText
	out      []PageLine
	long     map[int]bool     // lines that are too long to be read
	full     bool             // more lines than a page has
	fresh    []notation.Entry // techniques that are new on the page
	kinds    kindsChosen
	calls    map[int]string
	mostly   func() bool // most lines say an amount
	shouting bool        // most lines are in capitals
	mine     int         // how many headings say whose what stands below is: My kicks

	under, outer headed   // the heading that holds; the one around a sentence with its own
	head         PageLine // the line of the heading that holds
	inline       bool     // what stands below it stood behind it on its line
	around       headed   // the heading that held before such a one
	parent       pageText // the line of something asked that has a list right below it
	listOf       string   // its name, for the lines of that list; "" there is none
	headDeep     bool     // what stands below it is indented by more
	headIndent   int      // how far it is indented itself
	since        int      // how many lines were read before it
	title        string   // of the heading, without what stands around it
	own          bool     // such a sentence was the line before
	numberOf     ofNumber // the number before the last heading
	capitals     bool     // headings are written so
	apart        bool     // headings have a blank line above them
	numbers      int      // numbered headings; −1 where other lines are numbered too

	table   *columns                // of a spreadsheet
	inCell  []string                // what its cell of items lists
	looks   []curriculum.MarkLook   // what the marks look like in its row
	asks    map[string]bool         // its sections that are asked about
	above   []string                // the cells of the row before
	begun   bool                    // something stands above
	after   int                     // the line that a sentence may go on with; −1 none
	drawn   *curriculum.SampleGroup // whose questions stand below
	pointed bool                    // at what stands below, question mark or not
	closed  bool                    // who wrote the page has taken leave
	heads   []int                   // the lines that are headings, from 1
	joined  []int                   // and those that go on with what stands above
}

// misspelt are words of a few letters that many write so, without being asked.
var misspelt = strings.NewReplacer("sheild", "shield", "Sheild", "Shield", " eech", " each", " and rite", " and right")

func (b *Reader) pageReader(text string) *pageReader {
	written, long := strings.Split(strings.Map(plainSpace, strings.ReplaceAll(text, "\r\n", "\n")), "\n"), map[int]bool{}
	for i := range written {
		written[i] = strings.TrimRight(misspelt.Replace(written[i]), " ")
		line := written[i]
		if utf8.RuneCountInString(line) > MaxLine {
			written[i], long[i] = string([]rune(line)[:MaxLine]), true
		}
	}
	written = withDots(withBullets(written))
	kinds := takeKinds(written)
	asTyped := written
	written = b.amountsBelow(heightsBelow(b.cellsDown(written)))
	page, head := b.plainly(written)
	var joined []int
	for i, line := range written {
		if line == "" && strings.TrimSpace(asTyped[i]) != "" {
			joined = append(joined, i+1)
		}
	}
	var table *columns
	if c, is := headRow(head); is {
		table = &c
	}
	calls := b.callNumbers()
	for _, line := range written { // a legend may stand below what it explains
		if entries, is := b.legend(line, false); is {
			for _, x := range entries {
				if calls[x.Number] == "" {
					calls[x.Number] = x.Name
				}
			}
		}
	}
	return &pageReader{kinds: kinds, long: long, joined: joined, Reader: b, page: page, table: table, calls: calls, asks: map[string]bool{}, after: -1, shouting: inCapitalsMostly(written), mostly: sync.OnceValue(func() bool { return b.mostlyAmounts(written) })}
}

// add keeps a line as it is read.
func (r *pageReader) add(l PageLine) { r.out = append(r.out, l) }

// read reads a line, or what stands behind a heading on its line.
func (r *pageReader) read(x pageText) {
	if x.own && !r.own {
		r.outer = r.under
	} else if r.own && !x.own {
		r.under = r.outer
	}
	r.own = x.own
	typed := strings.TrimRight(x.line, " \t")
	if strings.TrimSpace(typed) == "" {
		return
	}
	l := PageLine{Number: x.number + 1, Text: x.typed}
	if r.long[x.number] {
		if n := len(r.out); n == 0 || r.out[n-1].Number != l.Number {
			l.fail(MaxLine, fmt.Sprintf("a line has up to %d characters; write it as several", MaxLine))
			r.add(l)
		}
		return
	}
	text, is := r.row(&l, x.line)
	if first := !r.begun; is && !r.aside(&l, x, typed, text, first) {
		r.line(l, x, typed, text)
	}
	r.begun = true
}

// row is a line as it is read, a row of a spreadsheet by its columns; the head of them is set aside, and is no line to read.
func (r *pageReader) row(l *PageLine, line string) (text string, is bool) {
	typed := strings.TrimRight(line, " \t")
	if r.looks = nil; !strings.Contains(line, "\t") {
		return typed, true
	}
	if c, is := headRow(line); is && (r.table == nil || c.whole) {
		r.sectionsFirst(&c, line)
		r.table, r.above = &c, nil
		if h, heads := r.headingOf(check.Tidy(strings.Split(line, "\t")[c.item])); heads && c.section < 0 { // Kicks, over what is asked of them
			r.under = h
		}
		l.Aside = "the head of the columns"
		r.add(*l)
		return "", false
	}
	if r.table == nil {
		first, rest, _ := strings.Cut(line, "\t")
		if first = strings.TrimSpace(first); first != "" && (curriculum.Bare(first) || curriculum.IsAmount(first)) && strings.ContainsFunc(rest, unicode.IsLetter) && strings.Contains(rest, "\t") && !r.rowsAreNumbered() { // 10 | Front kick | each leg
			c := noColumns()
			c.amount, c.item, c.side, c.notes = 0, 1, 2, 3
			r.table = &c
			_, text, r.above = r.table.row(line, r.above)
			return text, true
		}
		if h, is := r.headingOf(strings.TrimSpace(first)); !(is && !h.mixed && h.setting == "") || strings.TrimSpace(first) == "" {
			return typed, true
		}
		c := r.headless() // a sheet without a head, each row with its section
		r.table = &c
	}
	var head string
	r.inCell = nil
	r.looks, _ = r.table.looks(strings.Split(line, "\t"))
	if cells := strings.Split(line, "\t"); r.table.item < len(cells) {
		r.inCell = outsideBrackets(strings.TrimSpace(cells[r.table.item]), ",")
	}
	if head, text, r.above = r.table.row(line, r.above); head != "" {
		if r.under, is = r.heading(head); !is {
			r.under, is = r.heading(head + "s") // a column says Kick of one
		}
		if kind := r.KindInName(head); !is && (wordForMany.MatchString(head) && slices.Contains(curriculum.Basic, kind) || kind == "partner_set") { // Knees
			r.under, is = r.sectionOf(kind)
		}
		if aside := r.setAside(head+" "+text, false) != ""; !is || r.under.unknown {
			r.under = headed{unknown: true, mixed: true}
			if key := check.Key(head); !aside && !r.asks[key] { // once
				r.asks[key] = true
				asked := *l
				r.noSection(&asked, 1+utf8.RuneCountInString(l.Text[:max(strings.Index(l.Text, head), 0)]), strings.TrimSpace(head))
				r.add(asked)
			}
		}
	}
	return text, true
}

var (
	// perWhat is a cell of what an amount is of.
	perWhat = pattern.Of(`(?i)^(?:each|per|a|ea\.?|every) (?:side|leg|arm|hand|foot)$|^(?:secs?|seconds?|mins?|minutes?|reps?|times|sides?|rounds?)$`)
	// mustCell is a cell of whether something has to be passed.
	mustCell = pattern.Of(`(?i)^(?:must|yes|y|x|required|compulsory|✓|✔)$`)
)

// headless are the columns of a sheet without a head, each row with its section first and what is asked behind it: that of amounts is the first
// with more of them than of other cells, so are those of sides or units and of what must be passed; the others are remarks.
func (r *pageReader) headless() columns {
	c := noColumns()
	c.section, c.item = 0, 1
	filled, like := map[int]int{}, map[int][3]int{}
	widest := 0
	for _, x := range r.page {
		cells := strings.Split(x.line, "\t")
		if len(cells) < 2 {
			continue
		}
		widest = max(widest, len(cells))
		for i := 2; i < len(cells); i++ {
			cell := strings.TrimSpace(cells[i])
			if saidIn(cell) == "" {
				continue
			}
			filled[i]++
			n := like[i]
			for k, is := range []bool{curriculum.IsAmount(cell) || curriculum.Bare(cell), perWhat.MatchString(cell), mustCell.MatchString(cell)} {
				if is {
					n[k]++
				}
			}
			like[i] = n
		}
	}
	for i := 2; i < widest; i++ {
		at := []*int{&c.amount, &c.per, &c.must}
		k := slices.IndexFunc([]int{0, 1, 2}, func(k int) bool { return *at[k] < 0 && filled[i] > 0 && 2*like[i][k] > filled[i] })
		if k < 0 && filled[i] > 0 && c.notes < 0 {
			c.notes = i
		} else if k >= 0 && !(k == 1 && c.amount < 0) {
			*at[k] = i
		} else if filled[i] > 0 {
			c.others = append(c.others, i)
		}
	}
	return c
}

// rowsAreNumbered reports whether the first cells of the rows are 1, 2, 3 …
func (r *pageReader) rowsAreNumbered() bool {
	n := 0
	for _, x := range r.page {
		first, _, found := strings.Cut(x.line, "\t")
		if first = strings.TrimSpace(first); !found || first == "" || !curriculum.Bare(first) {
			continue
		}
		if n++; first != strconv.Itoa(n) {
			return false
		}
	}
	return n > 1
}

// sectionsFirst takes the first column for that of the sections, where its head says nothing that is known and most of its cells are headings.
func (r *pageReader) sectionsFirst(c *columns, head string) {
	headless := strings.HasPrefix(head, "\t") // no word stands above it
	if c.section >= 0 || !headless && (len(c.others) == 0 || c.others[0] != 0) {
		return
	}
	rows, heads := 0, 0
	for _, x := range r.page {
		first, _, found := strings.Cut(x.line, "\t")
		if first = strings.TrimSpace(first); !found || first == "" || x.line == head {
			continue
		}
		rows++
		if h, is := r.heading(first); is && !h.unknown && h.setting == "" {
			heads++
		}
	}
	if rows > 1 && 2*heads > rows {
		if c.section = 0; !headless {
			c.others = c.others[1:]
		}
	}
}

// aside keeps a line that asks nothing of itself: a title, a legend, a draw, or one in a section that the program has not.
func (r *pageReader) aside(l *PageLine, x pageText, typed, text string, first bool) bool {
	why := r.setAside(strings.ReplaceAll(typed, "\t", " "), first)
	if x.legend != "" {
		why = x.legend
	}
	if r.closed && why == "" && len(strings.Fields(text)) <= 4 && r.amountIn(text) == "" && r.KindInName(text) == "" && r.Named(text) == nil {
		why = "a greeting"
	}
	r.closed = r.closed || !first && takesLeave.MatchString(strings.TrimSpace(text))
	switch {
	case why != "":
		if m := titleSays.FindStringSubmatch(text); first && m != nil {
			if h, is := r.headingOf(strings.TrimSpace(m[1])); is && !h.mixed {
				r.under = h // Green belt – self-defence
			}
		}
		l.Aside, l.Problem, l.Column = why, "", 0
	case first && r.titleOf(text):
		l.Aside = "the title of the page"
	case first && !x.over && r.more(x) && l.Problem == "" && r.alone(text):
		l.Aside = "the title of the page"
	case l.Problem != "":
	case text == typed && r.legendOf(l, text):
	case text == typed && r.drawOf(l, text):
	default:
		return false
	}
	r.add(*l)
	return true
}

// titleOf reports whether a line at the top is a title that says of which section the page is, which holds from there: Yellow Belt Self Defense.
func (r *pageReader) titleOf(text string) bool {
	text = atLevelOf.ReplaceAllString(text, "")
	section := check.Tidy(ofATitle.ReplaceAllString(text, " "))
	if !(titleLine.MatchString(text) || titleEnd.MatchString(text)) || strings.ContainsAny(text, partSigns) || r.amountIn(text) != "" || r.Named(strings.TrimSpace(text)) != nil || section == check.Tidy(text) {
		return false
	}
	h, is := r.headingOf(section)
	if is {
		r.under = h
	}
	return is
}

// atLevelOf is behind a title of which level it is.
var atLevelOf = pattern.Of(`(?i),? (?:level|grade|stage|part|book) \d{1,2}$`)

// more reports whether something stands below a line.
func (r *pageReader) more(x pageText) bool {
	return slices.ContainsFunc(r.page, func(y pageText) bool { return y.number > x.number && strings.TrimSpace(y.line) != "" })
}

// alone reports whether a line at the top, with a blank one below it, is only a title: it is no heading, names nothing and says no amount.
func (r *pageReader) alone(text string) bool {
	h, is := r.heading(text)
	return !(is && !h.unknown) && r.KindInName(text) == "" && r.amountIn(text) == "" && r.Named(text) == nil && !strings.ContainsAny(text, ",;\t")
}

// titleSays is the section that a title names: Purple belt – self-defence syllabus.
var titleSays = pattern.Of(`(?i)[-–—:]\s+(\pL[\pL -]*?)(?: (?:syllabus|requirements|curriculum|sheet|test|list))?$`)

// legendOf reads a line that gives call numbers.
func (r *pageReader) legendOf(l *PageLine, text string) bool {
	entries, is := r.legend(text, r.under.legend)
	if is {
		r.legendLine(l, entries, r.calls)
	}
	return is
}

// drawOf reads a line that draws some of a sample group, which may stand below.
func (r *pageReader) drawOf(l *PageLine, text string) bool {
	g, below := r.draws(text)
	if g == nil {
		return false
	}
	l.Draw, l.Aside = g, fmt.Sprintf("%d of the sample group %s are drawn", g.Draw, g.Name)
	if r.drawn, r.pointed = nil, below; g.ID == "" || below {
		r.drawn = g
	}
	return true
}

// line reads a heading, a sentence that goes on with the line before, or what is asked.
func (r *pageReader) line(l PageLine, x pageText, typed, text string) {
	text = r.asListed(sideFirst.ReplaceAllStringFunc(rightLeft.ReplaceAllStringFunc(thereAndBack.ReplaceAllStringFunc(text, eachWay), aSide), aSide))
	if r.numberOf.ended(x) {
		r.under = headed{mixed: true}
	}
	if now := cmp.Or(r.under.kind, r.kindIn(r.under.section)); r.inline && now != "" && x.number != r.numberOf.head.number && r.Named(text) == nil && !strings.Contains(typed, "\t") {
		told := r.KindInName(text)
		free := slices.Contains([]Kind{"form", "self_defence", "combination", "partner_set", "character", "courtesy"}, now) // names that tell no kind
		if told != now && (told != "" || !free) {
			if r.under = (headed{mixed: true}); told == "" && cmp.Or(r.around.kind, r.kindIn(r.around.section)) == now { // Sparring, and under it Sparring: 2 rounds and Ring rules
				r.under, r.inline = r.around, false
			} // Stances: walking, L – and below it a line of another kind
		}
	}
	if r.inline && x.number != r.numberOf.head.number && r.under.setting != "" && r.under.mixed && ofSomeList(x.typed) {
		r.under, r.inline = r.around, false // - partner: the tag game, and below it the next line of the list
	}
	if r.inline && x.number != r.numberOf.head.number && r.labelled(text[listed(text):]) != nil || r.headDeep && x.indent <= r.headIndent && x.number != r.head.Number-1 {
		r.under, r.headDeep = headed{mixed: true}, false // what belongs to the heading is indented
	}
	if r.forWhom(&l, x, text) {
		return
	}
	text = r.numbered(headTail(r.Reader, x, text))
	text = r.freelyChosen(text, r.title)
	h, is := r.headingAt(x, text)
	if kind := curriculum.UsualKind(text); (!is || h.unknown) && kind != "" && strings.Contains(x.line, "\t") && check.Tidy(typed) == check.Tidy(text) { // alone in its row
		h, is = r.sectionOf(kind)
	}
	if is && (!strings.Contains(typed, "\t") || !h.unknown && check.Tidy(typed) == check.Tidy(text)) && !(x.piece && (h.unknown || r.KindInName(text) != "")) {
		r.into(l, x, h, text)
		return
	}
	if r.inline && x.number != r.numberOf.head.number {
		r.under.note = "" // Warm-up (not marked): running, and below it the next thing
	}
	r.pointsBelow(x, text)
	if r.amountForAll(&l, text) {
		return
	}
	if len(r.out) == MaxPage {
		l.fail(1, fmt.Sprintf("a page has up to %d lines; enter the rest as another", MaxPage))
		r.full = true
		r.add(l)
		return
	}
	if last := r.after; last >= 0 && !ofOneList(x.typed, r.out[last].Text) {
		if r.stepsBelow(x, text, &r.out[last]) {
			r.out[last].more(text, "defender")
			r.joined = append(r.joined, l.Number)
			return
		}
		if more, as, is := r.continues(text, &r.out[last]); is {
			r.out[last].more(more, as)
			r.joined = append(r.joined, l.Number)
			return
		}
	}
	r.asked(l, text)
}

// pointsBelow notes what is asked that has a list right below it, which may be points to watch, and ends that list.
func (r *pageReader) pointsBelow(x pageText, text string) {
	if r.parent.typed != "" && (x.indent > r.parent.indent || ofSomeList(x.typed) && !ofSomeList(r.parent.typed)) {
		r.listOf = strings.TrimSpace(r.parent.line)
		return
	}
	r.parent, r.listOf = pageText{}, ""
	if now := cmp.Or(r.under.kind, r.kindIn(r.under.section)); (x.leads || x.deeper) && slices.Contains(amounted, now) && !strings.Contains(x.line, "\t") {
		r.parent = x
	}
}

var (
	manyWord    = pattern.Of(`(?i)^(?:combinations|combos|kicks|punches|strikes|blocks|stances|forms|patterns|throws|locks|falls)$`)
	lastNumber  = pattern.Of(` \d{1,3}(?:\s*\([^()]*\))?$`)
	lastWord    = pattern.Of(`\pL+\W*$`)
	numbersOnly = pattern.Of(`(?i)^(?:(?:nos?\.?|numbers?|#) ?#?(\d{1,3})|(\d{1,3}))(?: ?(?:-|–|—|to|through|thru) ?(?:nos?\.? ?|#)?(\d{1,3}))?\s*(,.*|\(.*)?$`)
)

// byCalls are moves by numbers.
var byCalls = pattern.Of(`^\W*(?:\d ?[-–] ?){2,}\d\b`)

// numbered is a line that gives numbers alone, with the name that its heading gives them: No. 1 to 3, under Combinations.
func (r *pageReader) numbered(text string) string {
	m := numbersOnly.FindStringSubmatch(strings.TrimSpace(text[listed(text):]))
	kind := cmp.Or(r.under.kind, r.kindIn(r.under.section))
	if m == nil || m[1] == "" && (m[3] == "" || curriculum.Figure(m[2]) >= curriculum.Figure(m[3]) || len(r.calls) > 0 && kind == "combination") || r.title == "" || !slices.Contains(numberedKinds, kind) {
		return text
	}
	if kind == "combination" && slices.ContainsFunc(r.page, func(x pageText) bool { return byCalls.MatchString(x.line) }) { // 1-2, and below it 1-2-3
		return text
	}
	name := lowered(strings.TrimSuffix(strings.TrimSuffix(r.title, "s"), "S"), kind) + " " + m[1] + m[2]
	if m[3] != "" {
		name += "-" + m[3]
	}
	return name + m[4]
}

// asked reads what a line asks: one thing, or several.
func (r *pageReader) asked(l PageLine, text string) {
	l.Section, l.under, l.Setting = r.under.section, r.under, r.under.setting
	if s := curriculum.SectionFor(r.Sections, "kick"); r.under.kind == "footwork" && s != nil && r.KindInName(text) == "kick" { // Foot work: kicks, in some schools
		l.Section, l.under.section, l.under.kind = s.Name, s.Name, "kick"
	}
	if !inAList.MatchString(l.Text) {
		r.under.attack, l.under.attack = nil, nil // the list has ended
	}
	l.Said = r.kinds.of(l.Number, "")
	if l.Said == "" && cmp.Or(r.under.kind, r.kindIn(r.under.section)) == "self_defence" {
		text = r.defenceAgainst(text)
	}
	text = r.rowCalled(&l, text)
	moves := ""
	if name, numbers, is := byNumber(text, r.calls); is {
		text, moves = name, numbers
		l.Said = cmp.Or(l.Said, "combination")
	}
	each, row, ask := r.apartIn(&l, text, moves == "")
	if moves = cmp.Or(moves, row); ask != "" {
		l.fail(1, ask)
		r.add(l)
		return
	}
	asTyped := l.Text
	for _, one := range r.bothRoles(each, cmp.Or(r.under.kind, r.kindIn(r.under.section))) {
		l := l
		l.Text, l.under.unread = one, r.under.unread
		r.pageLine(&l)
		if l.Text = asTyped; l.usual && slices.Contains(amounted, l.Kind) {
			r.under.unread = "" // asked, once
		}
		if l.MarkLooks = r.looks; r.table != nil && l.Problem != "" {
			l.Column = inCells(one, asTyped, l.Column)
		}
		if moves != "" && l.Moves == "" {
			l.Moves, l.Series, l.Place, l.Asked = moves, "", 0, false
		}
		if r.drawn != nil && l.Kind == "knowledge" && l.Carry.Kind == "" && (r.pointed || strings.HasSuffix(l.Name, "?")) {
			l.From = r.drawn.Name
		}
		if r.shouting && l.New {
			l.Name = lowered(l.Name, l.Kind)
		}
		if r.listOf != "" && l.Problem == "" {
			l.doubt(fmt.Sprintf("it stands below %s; where it says how that is done, write it in brackets behind it", r.listOf))
		}
		for _, l := range r.several(l) {
			r.ofKind(&l)
			r.met(&l)
			r.add(l)
			r.after = len(r.out) - 1
		}
	}
}

// ofKind lets what a line names be of the kind that it says at its end.
func (r *pageReader) ofKind(l *PageLine) {
	kind := r.kinds.of(l.Number, l.Name)
	if kind == "" || kind == l.Kind || !l.New || l.Problem != "" && !l.kindless && !l.headless {
		return
	}
	l.Said, l.Section, l.SectionID = kind, l.under.section, ""
	l.Column, l.Problem, l.kindless, l.headless = 0, "", false, false
	if r.Settle(l); l.usual {
		l.Quantity = curriculum.DefaultAmount(kind)
	}
}

// inCells is where in a row of a spreadsheet what stands at a column of the line it is read as was typed.
func inCells(read, typed string, column int) int {
	runes := []rune(read)
	if column < 2 || column > len(runes) {
		return column
	}
	piece := string(runes[column-1:])
	if end := strings.IndexAny(piece, ",("); end > 0 {
		piece = piece[:end]
	}
	if at := strings.Index(typed, strings.TrimSpace(piece)); at >= 0 {
		return utf8.RuneCountInString(typed[:at]) + 1
	}
	return 1
}

// met takes a new technique that stands above already as the same once more; one that is new here is asked about.
func (r *pageReader) met(l *PageLine) {
	if !l.New || l.Problem != "" && !l.kindless {
		return
	}
	at := slices.IndexFunc(r.out, func(x PageLine) bool { return x.New && x.Problem == "" && check.Key(x.Name) == check.Key(l.Name) })
	if at < 0 {
		r.ask(l)
		if !slices.ContainsFunc(r.fresh, func(x notation.Entry) bool { return check.Key(x.Name) == check.Key(l.Name) }) {
			r.fresh = append(r.fresh, notation.Entry{ID: "line " + strconv.Itoa(l.Number-1), Name: l.Name})
		}
		return
	}
	if l.kindless {
		l.Column, l.Problem = 0, ""
	}
	asked := l.Kind
	l.Kind = r.out[at].Kind
	l.onBoards(asked)
	if l.usual {
		l.Quantity = l.usualAmount()
	}
	if x := &r.out[at]; l.Moves != "" && x.Moves != "" && l.Note != "" && l.Note != x.Note && l.namesWhich() && (x.Note == "" || x.namesWhich()) { // Wrist grab (straight): …, and Wrist grab (cross): …
		for _, one := range []*PageLine{x, l} {
			if one.Note != "" {
				one.Name, one.Note = one.Name+", "+one.Note, ""
			}
		}
		r.ask(l)
		r.fresh = append(r.fresh, notation.Entry{ID: "line " + strconv.Itoa(l.Number-1), Name: l.Name})
		return
	}
	if l.Moves != "" && l.Moves != r.out[at].Moves {
		l.fail(1, fmt.Sprintf("the moves of %s stand in line %d; write them once", l.Name, r.out[at].Number))
	}
}
