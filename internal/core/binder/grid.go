package binder

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// A table of all belts at once: what is asked stands in the first column, and how much of it at each belt in a column of its own.

// gradeHead heads the column of a belt that may not be on the ladder.
var gradeHead = pattern.Of(`(?i)^(?:(?:white|yellow|orange|green|blue|purple|brown|red|black|gold|grey|gray|silver|pink)(?: ?[/-] ?\pL+)?(?: (?:belt|stripe|tip|tag|sash))?|(?:level|grade|stage) \d{1,2}|\d{1,2}(?:st|nd|rd|th)?\.? (?:kyu|kup|gup|dan|grade))$`)

// columnFor is a page whose columns are belts, as it is for one rung: its column alone is the amount, rows where that is empty ask nothing there.
// Any other page stays as it is.
func (b *Reader) columnFor(rung, text string) string {
	lines := strings.Split(text, "\n")
	head := slices.IndexFunc(lines, func(line string) bool { return strings.TrimSpace(line) != "" })
	if head < 0 {
		return text
	}
	at, _ := b.gradeColumn(rung, cellsOf(lines[head]))
	if at < 0 {
		return text
	}
	out := strings.Split(text, "\n")
	for i := head; i < len(lines); i++ {
		line, kinds := lines[i], ""
		if m := kindAtEnd.FindStringIndex(line); m != nil { // chosen beside the row
			line, kinds = line[:m[0]], line[m[0]:]
		}
		cells := cellsOf(line)
		switch {
		case i == head:
			out[i] = "Technique\tAmount"
		case len(cells) == 1: // a heading between
		case at >= len(cells) || strings.Trim(cells[at], " -–—") == "":
			out[i] = ""
		case tick(cells[at]):
			out[i] = cells[0] + kinds
		case !curriculum.IsAmount(cells[at]) && b.headsRow(cells[0]): // Kicks | Front | Front, round
			out[i] = cells[0] + ": " + cells[at] + kinds
			if kind := curriculum.UsualKind(cells[0]); kinds == "" && headNouns[kind] == "" && kind != "" && !strings.ContainsAny(cells[at], ",;") && !strings.ContainsFunc(cells[at], unicode.IsDigit) { // Form | First Step | Second Step, which heads nothing below it
				out[i] = cells[at] + " [kind " + string(kind) + "]"
			}
		default:
			out[i] = cells[0] + "\t" + cells[at] + kinds
		}
	}
	return strings.Join(out, "\n")
}

// headsRow reports whether the first cell of a row is a section, whose other cells name what is asked in it.
func (b *Reader) headsRow(cell string) bool {
	h, is := b.heading(cell)
	return is && !h.unknown
}

// otherColumns is what is wrong with such a table that has no column for a rung, at its head: read by itself it would ask the amounts of all belts.
// nil where a page is no such table, or has one.
func (b *Reader) otherColumns(rung, text string) *PageLine {
	for i, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		cells := cellsOf(line)
		if at, grades := b.gradeColumn(rung, cells); at >= 0 || !grades {
			return nil
		}
		l := PageLine{Number: i + 1, Text: strings.TrimRight(line, " \r")}
		l.fail(1, fmt.Sprintf("none of these columns is called %s, for which the page is read; they are %s. Write %s at the head of its column", b.Rung(rung).Name, strings.Join(cells[1:], ", "), b.Rung(rung).Name))
		return &l
	}
	return nil
}

// gradeColumn is the place of a rung's column in the head of such a table, −1 where it has none, and whether it is such a head.
func (b *Reader) gradeColumn(rung string, cells []string) (at int, grades bool) {
	g, at := b.Rung(rung), -1
	if g == nil || len(cells) < 3 {
		return -1, false
	}
	for i, cell := range cells[1:] {
		own := check.Key(cell) == check.Key(g.Name) || check.Key(cell) == check.Key(g.Short())
		if !own && b.RungNamed(cell) == nil && !gradeHead.MatchString(strings.TrimSpace(cell)) {
			return -1, false
		}
		if own && at < 0 {
			at = i + 1
		}
	}
	return at, true
}

// cellsOf are the cells of a row with tabs, pipes or semicolons between; the line alone where it is none.
func cellsOf(line string) []string {
	line = strings.Trim(strings.TrimRight(line, " \t\r"), " ") // a tab before it parts off an empty cell
	for _, sign := range []string{"\t", "|", ";"} {
		if strings.Contains(line, sign) {
			cells := strings.Split(strings.Trim(line, "|"), sign)
			for i := range cells {
				cells[i] = strings.TrimSpace(cells[i])
			}
			return cells
		}
	}
	return []string{line}
}
