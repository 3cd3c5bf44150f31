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
	if beside := b.besideGrades(cellsOf(lines[head])); len(beside) > 1 {
		return gradesBeside(lines, head, at, beside)
	}
	out, flags := strings.Split(text, "\n"), onlyFlags(lines[head+1:], at)
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
		case tick(cells[at]) && (flags || cells[at] != "1"):
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

// besideGrades are the columns of such a head that are no belt’s: its first, Section, Item, Notes.
func (b *Reader) besideGrades(cells []string) (out []int) {
	for i, cell := range cells {
		if i == 0 && !b.isGrade(cell) || i > 0 && known(cell) {
			out = append(out, i)
		}
	}
	return out
}

// known reports whether a cell heads a column that a spreadsheet has anyway.
func known(cell string) bool {
	return slices.Contains([]string{"section", "item", "notes", "setting", "side", "must", "term"}, columnOf(cell))
}

// gradesBeside is such a page with several columns beside those of the belts: these as they are, and the amount of the one rung; rows where that is
// empty ask nothing there.
func gradesBeside(lines []string, head, at int, beside []int) string {
	out, section, flags := slices.Clone(lines), "", onlyFlags(lines[head+1:], at)
	for i := head; i < len(lines); i++ {
		line, kinds := lines[i], ""
		if m := kindAtEnd.FindStringIndex(line); m != nil {
			line, kinds = line[:m[0]], line[m[0]:]
		}
		cells := cellsOf(line)
		if len(cells) == 1 {
			continue
		}
		if sign := strings.TrimSpace(line); strings.HasPrefix(sign, "|") && !strings.HasPrefix(strings.TrimSpace(lines[head]), "|") { // an empty cell, where rows have no frame
			cells = append([]string{""}, cells...)
		}
		var row []string
		for _, k := range beside {
			row = append(row, append(cells, make([]string, k+1)...)[k])
		}
		if row[0] == "" { // as in the row above, which may ask nothing here
			row[0] = section
		}
		section = row[0]
		switch {
		case i == head:
			out[i] = strings.Join(append(row, "Amount"), "\t")
		case at >= len(cells) || strings.Trim(cells[at], " -–—") == "":
			out[i] = ""
		case tick(cells[at]) && (flags || cells[at] != "1"):
			out[i] = strings.Join(row, "\t") + kinds
		default:
			out[i] = strings.Join(append(row, cells[at]), "\t") + kinds
		}
	}
	return strings.Join(out, "\n")
}

// onlyFlags reports whether a column says no more than whether a thing is asked, so that 1 is a tick and no amount.
func onlyFlags(lines []string, at int) bool {
	return !slices.ContainsFunc(lines, func(line string) bool {
		cells := cellsOf(line)
		return at < len(cells) && strings.Trim(cells[at], " -–—") != "" && cells[at] != "0" && !tick(cells[at])
	})
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
		l.fail(1, fmt.Sprintf("none of these columns is called %s, for which the page is read; they are %s. Write %s at the head of its column", b.Rung(rung).Name, strings.Join(slices.DeleteFunc(slices.Clone(cells[1:]), known), ", "), b.Rung(rung).Name))
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
	belts := 0
	for i, cell := range cells {
		own := check.Key(cell) == check.Key(g.Name) || check.Key(cell) == check.Key(g.Short())
		if grade := own || b.isGrade(cell); i > 0 && !grade && !known(cell) {
			return -1, false
		} else if i > 0 && grade {
			belts++
		}
		if i > 0 && own && at < 0 {
			at = i
		}
	}
	if belts < 2 {
		return -1, false
	}
	return at, true
}

// isGrade reports whether a cell heads the column of a belt, on the ladder or not.
func (b *Reader) isGrade(cell string) bool {
	return b.RungNamed(cell) != nil || gradeHead.MatchString(strings.TrimSpace(cell))
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
