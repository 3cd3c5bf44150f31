package binder

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A page whose cells stand one below the other, as a table comes out of a web page, and one that lists in columns.

// cellsDown puts what stands one below the other into rows: below the heads of columns, one a line, each record of as many lines; without them
// amounts that stand below what they are of.
func (b *Reader) cellsDown(written []string) []string {
	written = fixedColumns(written)
	if out := recordsDown(written); out != nil {
		return out
	}
	return b.withoutLabels(b.tracksAcross(b.amountsDown(written)))
}

// wideSpace is between the columns of a table that is set with spaces.
var wideSpace = pattern.Of(` {2,}`)

// wideCell is what stands between them.
var wideCell = pattern.Of(`\S+(?: \S+)*`)

// fixedColumns reads a table whose columns are set with spaces below their heads: what stands in a line is of the column whose head begins nearest.
// A line in which two things would be of one column stays.
func fixedColumns(written []string) []string {
	for i, line := range written {
		heads := wideSpace.Split(strings.TrimSpace(line), -1)
		if len(heads) < 3 || strings.Contains(line, "\t") {
			continue
		}
		if c, is := headRow(strings.Join(heads, "\t")); !is || !c.whole {
			continue
		}
		starts := cellsAt(line)
		out := slices.Clone(written)
		for k := i; k < len(written); k++ {
			if row, is := inColumns(written[k], starts); is {
				out[k] = row
			}
		}
		return out
	}
	return written
}

// cellsAt is where the cells of a line begin, in characters.
func cellsAt(line string) (starts []int) {
	for _, at := range wideCell.FindAllStringIndex(line, -1) {
		starts = append(starts, utf8.RuneCountInString(line[:at[0]]))
	}
	return starts
}

// inColumns is a line with tabs between its cells, each in the column that begins nearest; false where two are in one, and where there is only one.
func inColumns(line string, starts []int) (row string, is bool) {
	cells := make([]string, len(starts))
	found := wideCell.FindAllStringIndex(line, -1)
	for _, at := range found {
		begins := utf8.RuneCountInString(line[:at[0]])
		nearest := 0
		for k, start := range starts {
			if max(start-begins, begins-start) < max(starts[nearest]-begins, begins-starts[nearest]) {
				nearest = k
			}
		}
		if cells[nearest] != "" {
			return "", false
		}
		cells[nearest] = line[at[0]:at[1]]
	}
	return strings.Join(cells, "\t"), len(found) > 1
}

// recordsDown reads Technique, Reps, Notes, one below the other, and then three lines for each technique, of which one may be blank. nil where
// the page is no such.
func recordsDown(written []string) []string {
	for i := range written {
		n := headsDown(written[i:])
		if n == 0 {
			continue
		}
		c, _ := headRow(strings.Join(written[i:i+n], "\t"))
		out := slices.Clone(written)
		join := func(at int) {
			out[at] = strings.Join(written[at:min(at+n, len(written))], "\t")
			for k := at + 1; k < min(at+n, len(written)); k++ {
				out[k] = ""
			}
		}
		join(i)
		told, records := 0, 0
		for at := i + n; at < len(written); at += n {
			for at < len(written) && strings.TrimSpace(written[at]) == "" {
				at++ // between records
			}
			if at == len(written) {
				break
			}
			records++
			if k := at + max(c.amount, 0); k < len(written) && amountCell(written[k]) {
				told++
			}
			join(at)
		}
		if records > 1 && 2*told >= records && c.amount >= 0 {
			return out
		}
	}
	return nil
}

// headsDown is how many lines from the first on are heads of columns, one each; 0 where they are none.
func headsDown(lines []string) int {
	n := 0
	for n < len(lines) && isColumnHead(lines[n]) {
		n++
	}
	if _, is := headRow(strings.Join(lines[:n], "\t")); n < 2 || !is {
		return 0
	}
	return n
}

// isColumnHead reports whether a line is the head of one column and nothing else.
func isColumnHead(line string) bool {
	key := strings.TrimRight(check.Key(line), "?:")
	_, known := cellHeads[key]
	if !known {
		_, known = cellHeads[strings.TrimSuffix(key, "s")]
	}
	return known || sheetCell.MatchString(key)
}

// amountCell reports whether a cell says how much, in figures alone too.
func amountCell(text string) bool {
	text = strings.TrimSpace(text)
	return text != "" && (curriculum.IsAmount(text) || curriculum.Bare(text))
}

// amountsDown puts amounts that stand alone below what they are of behind it, where most of the page is so: Front kick, and below it 10 each leg.
func (b *Reader) amountsDown(written []string) []string {
	alone := func(i int) bool {
		return i >= 0 && i < len(written) && curriculum.IsAmount(strings.TrimSpace(written[i])) && !curriculum.Bare(strings.TrimSpace(written[i]))
	}
	of := func(i int) bool {
		if i < 0 || strings.TrimSpace(written[i]) == "" || alone(i) || strings.ContainsAny(written[i], "\t:") || b.amountIn(written[i]) != "" {
			return false
		}
		h, is := b.heading(strings.TrimSpace(written[i]))
		return !is || h.unknown
	}
	pairs, lines := 0, 0
	for i := range written {
		if strings.TrimSpace(written[i]) == "" || alone(i) {
			continue
		}
		if lines++; alone(i+1) && of(i) {
			pairs++
		}
	}
	if pairs < 2 || 2*pairs < lines {
		return written
	}
	out := slices.Clone(written)
	for i := range written {
		if alone(i+1) && of(i) {
			out[i], out[i+1] = strings.TrimRight(written[i], " ")+", "+strings.TrimSpace(written[i+1]), ""
		}
	}
	return out
}

// colonOrTab is behind what is asked, before its amounts.
var colonOrTab = pattern.Of(`^([^:\t|]*\pL[^:\t|]*?)\s*[:\t|]\s*(\S.*)$`)

// tracksAcross reads columns that are headed by tracks of the program, an amount for each: Push-ups: 5 | 10 | 20, below Cubs | Juniors | Adults. The
// last column is what is asked, the others are what their tracks change. Other lines stay.
func (b *Reader) tracksAcross(lines []string) []string {
	var tracks []string
	out := slices.Clone(lines)
	for i, line := range lines {
		if head := b.tracksIn(line); head != nil {
			tracks, out[i] = head, line[:0]
			continue
		}
		m := colonOrTab.FindStringSubmatch(line)
		if tracks == nil || m == nil {
			continue
		}
		cells := barOrTab.Split(strings.TrimSpace(m[2]), -1)
		last := len(cells) - 1
		if len(cells) != len(tracks) || !amountCell(cells[last]) {
			continue
		}
		read := m[1] + ", " + cells[last]
		for k, cell := range cells[:last] {
			switch {
			case notAsked.MatchString(cell):
				read += ", not for " + tracks[k]
			case strings.EqualFold(cell, cells[last]):
			case amountCell(cell):
				read += ", " + cell + " for " + tracks[k]
			default:
				read = ""
			}
			if read == "" {
				break
			}
		}
		if read != "" {
			out[i] = read
		}
	}
	return out
}

var (
	barOrTab = pattern.Of(`\s*(?:\||\t)\s*`)
	notAsked = pattern.Of(`(?i)^(?:-|–|—|x|no|none|n/?a|not asked|nothing|)$`)
)

// tracksIn are the tracks that a line names as heads of columns, as the program calls them; nil where it is none such.
func (b *Reader) tracksIn(line string) (out []string) {
	for _, cell := range barOrTab.Split(strings.Trim(line, " |\t"), -1) {
		name := strings.TrimSpace(headBracket.ReplaceAllString(cell, ""))
		at := slices.IndexFunc(b.Program.Tracks, func(t curriculum.Track) bool { return check.Key(t.Name) == check.Key(name) })
		switch {
		case at >= 0:
			out = append(out, b.Program.Tracks[at].Name)
		case len(out) == 0 && isColumnHead(name):
		default:
			return nil
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// cellGap is between things that stand beside each other.
var cellGap = pattern.Of(`\t+| {3,}`)

// beside are the things that a line lists in columns, Front kick    Side kick    Round kick, each of the same kind; nil where it lists none.
func (b *Reader) beside(line string) (out []string) {
	for _, cell := range cellGap.Split(strings.TrimSpace(line), -1) {
		cell = strings.TrimSpace(cell[listed(cell):])
		if cell == "" || strings.ContainsFunc(cell, func(r rune) bool { return !unicode.IsLetter(r) && r != ' ' && r != '-' }) || len(strings.Fields(cell)) > 3 {
			return nil
		}
		if h, is := b.headingOf(cell); is && !h.unknown {
			return nil
		}
		out = append(out, cell)
	}
	if len(out) < 2 || len(b.kindsOf(out)) != 1 || !b.allTell(out) {
		return nil
	}
	return out
}

// heightsBelow puts a list of heights and attacks below a partner set behind it: Kihon ippon kumite, and below it jodan, chudan, mae geri.
func heightsBelow(written []string) []string {
	out := slices.Clone(written)
	for i, line := range out {
		name := strings.TrimSpace(line[listed(line):])
		if curriculum.KindInWords(name) != "partner_set" || strings.ContainsAny(name, ":\t") {
			continue
		}
		var said []string
		for _, below := range out[i+1:] {
			item := strings.TrimSpace(below[listed(below):])
			under := ofSomeList(below) && !ofSomeList(line) || len(below)-len(strings.TrimLeft(below, " ")) > len(line)-len(strings.TrimLeft(line, " "))
			if !under || !heightOrSide.MatchString(item) && !foreignAttack.MatchString(strings.ReplaceAll(item, "-", " ")) && !heightIn.MatchString(item) {
				break
			}
			said = append(said, item)
		}
		if len(said) < 2 {
			continue
		}
		out[i] = strings.TrimRight(line, " ,;") + " (" + strings.Join(said, ", ") + ")"
		for k := range said {
			out[i+1+k] = ""
		}
	}
	return out
}

// amountsBelow puts a time or rounds that stand alone below a name behind it: Plank, and below it 60 s. Below a heading they are read by themselves.
func (b *Reader) amountsBelow(written []string) []string {
	out := slices.Clone(written)
	alone := func(line string) bool {
		first, _ := cutAny(strings.TrimSpace(line[listed(line):]), ",(;")
		q, err := curriculum.ParseQuantity(check.Tidy(first))
		return err == nil && !curriculum.Bare(first) && (q.Measure == curriculum.Timed || q.Measure == curriculum.RoundsTimed)
	}
	for i := 0; i+1 < len(out); i++ {
		name := strings.TrimSpace(out[i][listed(out[i]):])
		if !nameOnly.MatchString(name) || strings.Contains(name, " - ") || len(strings.Fields(name)) > mostListed || !alone(out[i+1]) || i > 0 && alone(out[i-1]) || i+2 < len(out) && alone(out[i+2]) {
			continue
		}
		if h, is := b.heading(name); is && !h.unknown || saysRounds.MatchString(out[i+1]) && !slices.Contains([]Kind{"sparring", "fitness", "combination"}, curriculum.KindInWords(name)) { // Move in and out, and below it 3 x 1 min rounds
			continue
		}
		out[i] = strings.TrimRight(out[i], " ") + ", " + strings.TrimSpace(out[i+1][listed(out[i+1]):])
		out[i+1] = ""
	}
	return out
}

// saysRounds are rounds that say so.
var saysRounds = pattern.Of(`(?i)\brounds?\b`)

// nameOnly is words alone.
var nameOnly = pattern.Of(`^\pL[\pL' -]*$`)
