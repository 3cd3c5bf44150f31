package binder

import (
	"cmp"
	"encoding/csv"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// Rows of a spreadsheet, and what is written as one.

var (
	sidesHead = pattern.Of(`^(\s*.*?)(?:\t| {2,})\s*(?i:l|left)(?:\t| {2,})\s*(?i:r|right)\s*$`)
	sidesRow  = pattern.Of(`^(\s*\S.*?)(?:\t| {2,})\s*(\d{1,3})(?:\t| {2,})\s*(\d{1,3})\s*$`)
	wideGaps  = pattern.Of(`\b {2,}\b`)
	wideGap   = pattern.Of(`(\S) {2,}(\d)`)
)

// mostTitles is how many lines above the head of a table may say what it is.
const mostTitles = 5

// semicolons makes the semicolons or commas of a table tabs, where its first line is the head of columns: Section;Technique;How many.
func semicolons(written []string) []string {
	at := slices.IndexFunc(written, func(line string) bool { return strings.TrimSpace(line) != "" })
	if at < 0 || strings.Contains(written[at], "\t") {
		return written
	}
	for i := at; i < min(len(written), at+mostTitles); i++ { // the head may stand below a title
		if head, is := headRow(strings.ReplaceAll(written[i], ";", "\t")); is && head.whole && strings.Count(written[i], ";") > 1 {
			at = i
			break
		}
	}
	if from := slices.IndexFunc(written, func(line string) bool {
		head, is := headRow(wideGaps.ReplaceAllString(strings.TrimSpace(line), "\t"))
		return is && head.whole && wideGaps.MatchString(strings.TrimSpace(line))
	}); from >= 0 { // columns with blanks between
		out := slices.Clone(written)
		for i, line := range out[from:] {
			out[from+i] = wideGaps.ReplaceAllString(line, "\t")
		}
		return out
	}
	for _, sign := range []string{";", ","} {
		if _, is := headRow(strings.ReplaceAll(written[at], sign, "\t")); !is && !quotedCells(written, sign) {
			continue
		}
		out := make([]string, len(written))
		for i, line := range written {
			cells := csv.NewReader(strings.NewReader(line))
			cells.Comma, cells.LazyQuotes = rune(sign[0]), true
			row, err := cells.Read()
			if err != nil {
				row = []string{line}
			}
			out[i] = strings.Join(row, "\t")
		}
		return out
	}
	return written
}

// quotedCells reports whether most lines are cells in quotation marks, with a sign between.
func quotedCells(written []string, sign string) bool {
	rows, all := 0, 0
	for _, line := range written {
		if strings.TrimSpace(line) == "" {
			continue
		}
		if all++; strings.HasPrefix(line, `"`) && strings.Contains(line, `"`+sign+`"`) {
			rows++
		}
	}
	return rows >= leastNumbers && 2*rows > all
}

// leftAndRight reads a table with a column for each side, "Kicks  L  R" with rows such as "Front kick  10  10" below: as many a side.
// Elsewhere a wide gap before a figure parts cells, as a tab does.
func leftAndRight(written []string) []string {
	out, sides := slices.Clone(written), false
	for i, line := range out {
		if m := sidesHead.FindStringSubmatch(line); m != nil {
			sides, out[i] = true, m[1]
			continue
		}
		if m := sidesRow.FindStringSubmatch(line); m != nil && sides && m[2] == m[3] {
			out[i] = m[1] + ", " + m[2] + " a side"
			continue
		}
		out[i] = wideGap.ReplaceAllStringFunc(line, func(gap string) string {
			first, size := utf8.DecodeRuneInString(gap)
			return string(first) + "\t" + strings.Repeat(" ", len(gap)-size-2) + gap[len(gap)-1:]
		})
	}
	return out
}

var (
	// sectionBehind is the section of a line, in brackets behind it.
	sectionBehind = pattern.Of(`^(.*\S)\s*\[(\pL[\pL &-]*)\]\s*$`)
	// percentHead is a heading and how much of the marks it gives.
	percentHead = pattern.Of(`^(\s*\pL[\pL &-]*?)\s+\(?\d{1,3} ?%\)?\s*$`)
	// askedHead asks for what stands behind it: Which kicks? Front, side.
	askedHead = pattern.Of(`(?i)^(\s*)(?:which|what|how much|how many) (\pL+(?:-\pL+)?)\? +(\pL.*|\d.*)$`)
)

// sectionsBehind writes as a heading with its list what people write otherwise: with the section behind it in brackets, as a question, or
// with how much of the marks it gives; cells without anything at the end of a heading fall away.
func (b *Reader) sectionsBehind(lines []string) []string {
	out := slices.Clone(lines)
	heads := func(s string) bool {
		h, is := b.heading(strings.TrimSpace(s))
		return is && !h.unknown
	}
	for i, line := range lines {
		if short := strings.TrimRight(line, "\t "); short != line && !strings.Contains(short, "\t") && heads(short) { // Kicks, and empty cells
			line = short
		}
		if m := sectionBehind.FindStringSubmatch(line); m != nil && heads(m[2]) {
			line = m[2] + ": " + m[1]
		}
		if m := percentHead.FindStringSubmatch(line); m != nil && heads(m[1]) {
			line = m[1]
		}
		if m := askedHead.FindStringSubmatch(line); m != nil && heads(m[2]) {
			line = m[1] + capitalised(m[2]) + ": " + andLast.ReplaceAllString(m[3], ", ")
		}
		out[i] = line
	}
	return out
}

// withoutPipes puts tabs for the signs that part cells, where at least two lines have them.
func withoutPipes(lines []string) []string {
	piped, outer := 0, 0
	for _, line := range lines {
		if strings.Count(line, "|") > 1 || strings.Contains(line, " | ") {
			piped++
			if pipeRow.MatchString(line) {
				outer++
			}
		}
	}
	out := slices.Clone(lines)
	for i, line := range lines {
		if piped > 1 && (!pipeRow.MatchString(line) || 2*outer < piped) { // a row may begin and end with an empty cell
			out[i] = strings.TrimRight(pipeSign.ReplaceAllString(strings.TrimPrefix(line, " "), "\t"), "\t")
		}
	}
	return out
}

// sectionedTable puts its section before every row of a table whose columns have their heads beside the name of each section: Kicks, L, R, notes.
func (b *Reader) sectionedTable(lines []string) []string {
	out, section, heads := slices.Clone(lines), "", ""
	for i, line := range lines {
		first, rest, cells := strings.Cut(line, "\t")
		h, is := b.heading(strings.TrimSpace(first))
		switch is = is && !h.unknown; {
		case is && cells && headsOnly(rest):
			section, heads = strings.TrimSpace(first), rest
			out[i] = "Section\tTechnique\t" + rest
		case heads == "" || strings.TrimSpace(line) == "":
		case is && strings.TrimSpace(rest) == "":
			section = strings.TrimSpace(first)
			out[i] = section
		case cells:
			out[i] = section + "\t" + line
		}
	}
	return out
}

// columnOf is what a column of this head holds, as a spreadsheet has it; "" none that it has.
func columnOf(cell string) string {
	key := strings.TrimRight(check.Key(cell), "?:.")
	return cmp.Or(cellHeads[key], cellHeads[strings.TrimSuffix(key, "s")])
}

// headsOnly reports whether cells are the heads of columns, two or more: L, R, notes.
func headsOnly(cells string) bool {
	n := 0
	for cell := range strings.SplitSeq(cells, "\t") {
		if what := columnOf(cell); what == "item" || what == "section" || what == "" && !sheetCell.MatchString(strings.TrimRight(check.Key(cell), "?:.")) {
			return false
		}
		n++
	}
	return n > 1
}

// eachSideHead heads the amounts of each side.
var eachSideHead = pattern.Of(`(?i)^(?:each|per|every|a) (?:side|leg|arm|hand)$`)

// leftRight is how many on the left and on the right, behind a name.
func leftRight(left, right string, kind Kind) string {
	if left != "" && right == "" && (!curriculum.Bare(left) || !curriculum.DefaultAmount(kind).PerSide()) { // a form, in the first of the two
		return ", " + left
	}
	switch {
	case left != "" && left == right && !curriculum.Bare(left): // 2 boards
		return ", " + left + " ((each side))"
	case left != "" && left == right: // as many on each side
		return ", " + left + " a side"
	case left != "" || right != "":
		return " (left " + left + ", right " + right + ")"
	}
	return ""
}

// sidesOf is what such an amount is of: a form has no sides.
func sidesOf(kind Kind) string {
	if kind == "" || curriculum.DefaultAmount(kind).PerSide() {
		return " a side"
	}
	return ""
}

// keyedCell is a cell that says itself what it holds: Where: on the bag.
var keyedCell = pattern.Of(`^\s*(\pL[\pL ]{1,20}): *(\S.*)$`)

// keyedRows are rows whose every cell says what it holds, without that, and the head of their columns; "" where not every row of cells has the
// same ones.
func keyedRows(lines []string) (out []string, head string) {
	out = slices.Clone(lines)
	for i, line := range lines {
		cells := strings.Split(line, "\t")
		if len(cells) < 2 {
			continue
		}
		var keys []string
		for k, cell := range cells {
			m := keyedCell.FindStringSubmatch(cell)
			if m == nil {
				return lines, ""
			}
			keys, cells[k] = append(keys, m[1]), m[2]
		}
		if said := strings.Join(keys, "\t"); head == "" {
			head = said
		} else if said != head {
			return lines, ""
		}
		out[i] = strings.Join(cells, "\t")
	}
	if _, is := headRow(head); !is {
		return lines, ""
	}
	return out, head
}

// pipeSign parts the cells of a table.
var pipeSign = pattern.Of(`[ \t]*\|[ \t]*`)

// oneCell is a row of two cells, a heading and what stands under it, as a heading and its list.
func oneCell(b *Reader, line string) string {
	head, rest, found := strings.Cut(line, "\t")
	if !found || strings.Contains(rest, "\t") || strings.TrimSpace(rest) == "" {
		return line
	}
	if _, is := headRow(line); is {
		return line
	}
	if h, is := b.headingOf(strings.TrimSpace(head)); is && !h.mixed && h.setting == "" && strings.TrimSpace(head) != "" {
		return head + ": " + strings.TrimSpace(rest)
	}
	return line
}

// columns are the columns of a spreadsheet, by what their heads say.
type columns struct {
	section, item, amount, must, bonus, notes, setting int

	left, right, side, weight, term, per, height int

	others []int          // columns that it does not know, whose cells are remarks
	graded []int          // columns of marks, whose cells are places for them, or say how many: Max, Pass
	called map[int]string // their heads, by the column
	marks  map[int]string // columns of what a mark looks like, and which
	whole  bool           // every cell of their head says what its column holds
}

var cellHeads = map[string]string{
	"section": "section", "sec": "section", "sect": "section", "w": "weight", "wt": "weight", "category": "section", "area": "section", "heading": "section", "type": "section", "group": "section", "topic": "section", "subject": "section", "component": "section", "module": "section", "part": "section", "discipline": "section", "station": "section", "kind": "section",
	"material": "item", "content": "item", "curriculum": "item", "movement": "item", "move": "item", "element": "item", "task": "item", "drill": "item", "syllabus": "item", "test item": "item",
	"qty": "amount", "time/rep": "amount", "time or rep": "amount", "volume": "amount", "reps or time": "amount", "how": "amount", "duration": "amount", "length": "amount", "how often": "amount", "attempt": "amount", "trie": "amount", "minimum": "amount", "how long": "amount", "target": "amount", "reps/time": "amount", "rep/time": "amount",
	"per": "per", "unit": "per", "measure": "per", "korean": "term", "japanese": "term", "chinese": "term", "term": "term", "korean term": "term", "japanese term": "term", "korean name": "term", "japanese name": "term",
	"weight": "weight", "weighting": "weight", "side": "side", "side(s)": "side", "l/r": "side", "r/l": "side", "left/right": "side", "left": "left", "l": "left", "left side": "left", "right": "right", "r": "right", "right side": "right",
	"must know": "must", "mandatory?": "must", "instruction": "notes", "standard": "notes", "criteria": "notes", "info": "notes", "point to watch": "notes", "coaching point": "notes", "what we look for": "notes", "look for": "notes",
	"item": "item", "technique": "item", "name": "item", "requirement": "item", "exercise": "item", "what": "item", "skill": "item", "description": "item",
	"amount": "amount", "rep": "amount", "quantity": "amount", "how many": "amount", "count": "amount", "time": "amount", "number": "amount", "how much": "amount",
	"must": "must", "must pass": "must", "required": "must", "essential": "must", "compulsory": "must", "mandatory": "must",
	"optional": "bonus", "bonus": "bonus", "extra": "bonus",
	"note": "notes", "remark": "notes", "comment": "notes", "detail": "notes", "setting": "setting", "where": "setting", "with": "setting", "equipment": "setting",
}

// sheetCell heads a column that is only of the sheet: numbers of its lines, places to tick, the belt it is for.
var sheetCell = pattern.Of(`^(?:no\.?|nr\.?|#|number|ok|okay|pass|passed|fail|pass/fail|result|done|date|dates?|mark|marks|score|points?|max|signed?|initials?|check|tick|retest|rank|rung|belt|grade|level|stripe|examiner|instructor|student|comment by.*|seen|✓|✔)$`)

// gradedCell heads a column of marks.
var gradedCell = pattern.Of(`^(?:max|pass|points?|marks?|score)$`)

// markRange is from which mark to which, in the head of a column: Score 1-5.
var markRange = pattern.Of(` \(?\d{1,2} ?[-–] ?\d{1,3}\)?$`)

// noColumns are columns of which none is known yet.
func noColumns() columns {
	return columns{section: -1, item: -1, amount: -1, must: -1, bonus: -1, notes: -1, setting: -1, left: -1, right: -1, side: -1, weight: -1, term: -1, per: -1, height: -1}
}

// headRow reads a header row: at least an item and one more column are named.
func headRow(line string) (c columns, is bool) {
	c = noColumns()
	c.whole = true
	at := map[string]*int{"section": &c.section, "item": &c.item, "amount": &c.amount, "must": &c.must, "bonus": &c.bonus, "notes": &c.notes, "setting": &c.setting, "left": &c.left, "right": &c.right, "side": &c.side, "weight": &c.weight, "term": &c.term, "per": &c.per}
	n := 0
	for i, cell := range strings.Split(line, "\t") {
		key := strings.TrimRight(check.Key(headBracket.ReplaceAllString(cell, "")), "?:.")
		key = markRange.ReplaceAllString(key, "")
		what, known := cellHeads[key]
		if !known {
			what, known = cellHeads[strings.TrimSuffix(key, "s")]
		}
		if before, _, two := strings.Cut(key, " / "); !known && two { // Technique / form
			what, known = cellHeads[before]
		}
		if slices.Contains([]string{"level", "height", "target level", "target height"}, key) {
			c.height = i
		}
		known = known || sheetCell.MatchString(key) || c.height == i
		c.whole = c.whole && (known || key == "")
		if p := at[what]; p != nil && *p < 0 {
			*p = i
			n++
		} else if gradedCell.MatchString(key) {
			c.graded = append(c.graded, i)
			if c.called == nil {
				c.called = map[int]string{}
			}
			c.called[i] = check.Tidy(cell)
		} else if key != "" && !sheetCell.MatchString(key) && c.height != i {
			if c.others = append(c.others, i); c.called == nil {
				c.called = map[int]string{}
			}
			c.called[i] = check.Tidy(cell)
		}
	}
	if c.item < 0 && n > 0 && c.amount >= 0 && len(c.others) > 0 && !strings.ContainsFunc(line, unicode.IsDigit) { // Kihon | Stance | Reps
		c.item, c.others, n = c.others[0], c.others[1:], n+1
	}
	c.markColumns()
	return c, (n > 1 || c.marks != nil) && c.item >= 0
}

// kindLabel is in a cell a label before what is asked.
var kindLabel = pattern.Of(`^(\pL[\pL-]*(?: defen[cs]e)?): +(\pL[^:]*)$`)

// unlabelled is what a cell asks without the kind it says first, which stands behind it: Pattern: Three Rivers.
func unlabelled(cell string) string {
	m := kindLabel.FindStringSubmatch(cell)
	if m == nil {
		return cell
	}
	if strings.EqualFold(m[1], "board") {
		if slices.Contains([]Kind{"strike", "kick"}, curriculum.KindInWords(m[2])) {
			return m[2] + ", on boards"
		}
		return m[2] + ", board break, on boards"
	}
	if kind := cmp.Or(curriculum.UsualKind(m[1]), curriculum.KindNamed(strings.ToLower(m[1]))); kind != "" {
		return m[2] + ", " + kind.Words()
	}
	if slices.Contains(mixed, curriculum.SectionKey(m[1])) { // Ground: get up with base
		return m[2] + " (" + m[1] + ")"
	}
	return cell
}

// leadingAmount are the words of an amount that a cell begins with.
func leadingAmount(cell string) []string {
	words := strings.Fields(cell)
	if i, j := amountAt(words); i == 0 && j > 0 {
		return words[:j]
	}
	if len(words) == 1 && curriculum.Bare(cell) {
		return words
	}
	return nil
}

// sideCell is an amount with what its column of sides says; what that does not go with is a remark.
func sideCell(amount, side string) (both, remark string) {
	switch {
	case curriculum.IsAmount(amount + " " + side + " side"): // each
		return amount + " " + side + " side", ""
	case curriculum.IsAmount(amount + ", " + side + " side"): // both
		return amount + ", " + side + " side", ""
	case curriculum.IsAmount(amount + ", " + side): // L/R
		return amount + ", " + side, ""
	case curriculum.IsAmount(amount + " " + side): // each leg, alternating
		return amount + " " + side, ""
	case strings.ContainsFunc(side, unicode.IsLetter) && !asksNothing.MatchString(side):
		return amount, " (" + side + ")"
	}
	return amount, ""
}

// alternatingCell is an amount in a cell of notes: 10, alternating.
var alternatingCell = pattern.Of(`(?i)^(\d{1,3}),? alternat(?:ing|e|ely)\b`)

// perCell is an amount with what its column says it is per, or in which unit: 10 side, 1 min.
func perCell(amount, per string) string {
	if per == "" || amount == "" {
		return amount
	}
	for _, said := range []string{amount + " per " + per, amount + " " + per} {
		if curriculum.IsAmount(said) {
			return said
		}
	}
	return amount + " (per " + per + ")"
}

// settingCell is a setting as a part of a line: target is on the target; in the air is what is usual.
func settingCell(s string) string {
	switch key := check.Key(s); {
	case key == "air" || key == "solo" || key == "alone":
		return ""
	case settingSaid("with "+key) == "partner":
		return "with " + s
	case s != "" && settingSaid("on the "+key) != "":
		return "on the " + s
	}
	return s
}

// rangeCell are the numbers of a series, in the cell of an amount.
var rangeCell = pattern.Of(`^(?:nos?\.? ?)?#?(\d{1,2}) ?(?:-|–|to) ?#?(\d{1,2})$`)

// tick reports whether a cell is ticked.
func tick(s string) bool {
	return slices.Contains([]string{"y", "yes", "x", "✓", "✔", "must", "true", "1", "●", "*"}, strings.ToLower(s))
}

// termIn is what a cell of terms adds to its line.
func termIn(s string) string {
	switch {
	case s == "":
		return ""
	case strings.ContainsAny(s, ",;()") || asksNothing.MatchString(s):
		return " (" + strings.NewReplacer("(", "[", ")", "]").Replace(s) + ")"
	}
	return ", term " + s
}

// saidIn is what a cell says; a dash alone is nothing.
func saidIn(cell string) string {
	if slices.Contains([]string{"-", "–", "—", "/"}, cell) {
		return ""
	}
	return cell
}

// row is one row of a spreadsheet as a heading and a line, ditto marks and empty sections taken
// from the row above.
func (c columns) row(line string, above []string) (section, text string, own []string) {
	own = strings.Split(line, "\t")
	cell := func(i int) string {
		if i < 0 || i >= len(own) {
			return ""
		}
		own[i] = strings.TrimSpace(own[i])
		if slices.Contains([]string{`"`, "''", "〃", "″", "do.", "ditto", "”", "“"}, strings.ToLower(own[i])) || i == c.section && own[i] == "" {
			if own[i] = ""; i < len(above) {
				own[i] = above[i]
			}
		}
		return saidIn(own[i])
	}
	section = cell(c.section)
	text, moves := unlabelled(cell(c.item)), ""
	if name, row, found := strings.Cut(text, ": "); found && strings.Contains(row, ",") && amountless(row) { // 1: jab, cross, and its amount in the next cell
		text, moves = name, ": "+row
	}
	kind := cmp.Or(curriculum.KindNamed(check.Key(section)), curriculum.UsualKind(section), curriculum.KindInWords(text))
	text += leftRight(cell(c.left), cell(c.right), kind)
	per, must := cell(c.per), tick(cell(c.must))
	if tick(per) {
		per, must = "", true
	} else if cell(c.amount) == "" && per != "" && !perWhat.MatchString(per) {
		text += " (" + strings.NewReplacer("(", "[", ")", "]").Replace(per) + ")"
	}
	amount, remark := sideCell(perCell(cell(c.amount), per), cell(c.side))
	if c.eachSide(cell) && curriculum.Bare(amount) && amount != "" {
		amount += " a side"
	}
	notes := cell(c.notes)
	text, amount, notes = inNumbers(text, amount, notes, kind)
	if roundsCell.MatchString(amount) && curriculum.IsAmount(notes) && !curriculum.Bare(notes) { // 2 rounds | 90 sec
		amount, notes = amount+", "+notes, ""
	}
	text += remark
	for _, s := range []string{amount, settingCell(cell(c.setting))} {
		if s != "" {
			text += ", " + s
		}
	}
	if at := cell(c.height); heightCell.MatchString(at) { // any other level is a rank
		text += ", level " + heightsSaid[strings.ToLower(at)]
	}
	text += counting(cell(c.weight), must, tick(cell(c.bonus)))
	text += termIn(cell(c.term))
	if _, amount := c.looks(own); amount != "" {
		text += ", " + amount
	}
	text += c.otherCells(cell, cmp.Or(kind, curriculum.KindInWords(text)))
	s := c.howOften(notes)
	if s != "" && c.amount < 0 && (curriculum.IsAmount(strings.Join(leadingAmount(s), " ")) || curriculum.IsAmount(s) && !curriculum.Bare(s)) { // a standard may say how much: 10 on pads
		text += ", " + s
	} else if s != "" {
		text += " (" + strings.NewReplacer("(", "[", ")", "]").Replace(s) + ")"
	}
	return section, text + moves, own
}

// inNumbers puts the numbers of a series behind its name, where the cell of its amount or its remark says them: Three-step sparring, 1-4.
func inNumbers(name, amount, notes string, kind Kind) (text, left, remark string) {
	kind = cmp.Or(curriculum.KindInWords(name), kind)
	if m := rangeCell.FindStringSubmatch(amount); m != nil && slices.Contains(numberedKinds, kind) {
		return name + " " + m[1] + "-" + m[2], "", notes
	}
	if m := rangeCell.FindStringSubmatch(notes); m != nil && amount == "" && slices.Contains(numberedKinds, kind) {
		return name + " " + m[1] + "-" + m[2], "", ""
	}
	return name, amount, notes
}

// howOften is a cell of remarks with how often as it is read: 10, alternating; 20 in a row, where no other column says how many.
func (c columns) howOften(notes string) string {
	s := alternatingCell.ReplaceAllString(notes, "$1 alternating")
	if c.amount < 0 {
		s = countThenHow.ReplaceAllString(s, "$1 times, $2")
	}
	return s
}

// heightsSaid are the words for a height in a cell, each with the one of a line.
var heightsSaid = map[string]string{"low": "low", "gedan": "low", "middle": "mid", "mid": "mid", "chudan": "mid", "high": "high", "jodan": "high"}

// heightCell is a height and nothing more.
var heightCell = pattern.Of(`(?i)^(?:low|gedan|middle|mid|chudan|high|jodan)$`)

// roundsCell is how many rounds, without how long they are.
var roundsCell = pattern.Of(`(?i)^\d{1,2} rounds?$`)

// otherCells is what the cells say whose columns nobody knows, of something of a kind: remarks. One that answers the head of its column, yes below
// Pads?, says what the head does.
func (c columns) otherCells(cell func(int) string, kind Kind) (text string) {
	inside := strings.NewReplacer("(", "[", ")", "]")
	for _, i := range c.others {
		called := strings.TrimRight(c.called[i], "? ")
		switch s := cell(i); {
		case s == "", ofEverybody.MatchString(s):
		case c.amount < 0 && curriculum.IsAmount(s) && !curriculum.Bare(s): // Level 1: 10 each side
			text += ", " + s
		case c.amount < 0 && curriculum.Bare(s) && eachSideHead.MatchString(called):
			text += ", " + s + sidesOf(kind)
		case curriculum.Bare(s) && called != "": // Pass mark 6
			text += " ((" + inside.Replace(strings.ToLower(called)+" "+s) + "))"
		case tick(s) && eachSideHead.MatchString(called): // said with the amount
		case tick(s) && settingSaid("on "+check.Key(called)) != "":
			text += ", on " + check.Key(called)
		case tick(s) && strings.HasSuffix(c.called[i], "?"):
			text += " ((" + inside.Replace(strings.ToLower(called)) + "))"
		case tick(s), strings.HasSuffix(c.called[i], "?") && saysNo.MatchString(s):
		case strings.ContainsFunc(s, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }):
			text += " (" + inside.Replace(s) + ")"
		}
	}
	for _, i := range c.graded {
		if s := cell(i); s != "" && curriculum.Bare(s) { // Max 10
			text += " ((" + strings.ToLower(c.called[i]) + " " + s + "))"
		}
	}
	return text
}

// ofEverybody says that a line is for all.
var ofEverybody = pattern.Of(`(?i)^(?:all|everyone|everybody|all (?:ages|students|tracks|groups))$`)

// countThenHow is how often and how, in a cell.
var countThenHow = pattern.Of(`(?i)^(\d{1,3}) (in a row|fast|slow|slowly|hard|non-?stop)$`)

// saysNo answers the head of a column.
var saysNo = pattern.Of(`(?i)^(?:no|n|none|n/a|false|0)$`)

// eachSide reports whether a cell says that its amount is of each side, yes below Each side?.
func (c columns) eachSide(cell func(int) string) bool {
	return slices.ContainsFunc(c.others, func(i int) bool {
		return tick(cell(i)) && eachSideHead.MatchString(strings.TrimRight(c.called[i], "? "))
	})
}

// counting is what the cells of a row say of how it counts.
func counting(weight string, must, bonus bool) (text string) {
	if curriculum.Bare(weight) && weight != "" {
		text = ", weight " + weight
	} else if weight != "" {
		text = " (weight " + weight + ")"
	}
	if must {
		text += ", must"
	}
	if bonus {
		text += ", bonus"
	}
	return text
}

// amountless reports whether no piece of a row of moves is an amount.
func amountless(row string) bool {
	return !slices.ContainsFunc(strings.Split(row, ","), func(piece string) bool { return curriculum.IsAmount(strings.TrimSpace(piece)) })
}
