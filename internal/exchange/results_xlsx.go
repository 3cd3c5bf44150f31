package exchange

import (
	"fmt"
	"io"
	"strings"

	"github.com/xuri/excelize/v2"

	"velvetladder/internal/core/scoring"
)

// ResultRow is one candidate of a results book, whose panel has signed.
type ResultRow struct {
	Number                int
	Name, From, To, Group string
	Test                  scoring.Test
	Result                scoring.Result
	Outcome               string // in words, as proposed
	Decision              string // "" not decided
}

// Names of the sheets of a results book.
const (
	sheetResults = "Results"
	sheetSheets  = "Sheets"
	sheetMarks   = "Marks"
	sheetRules   = "Rules"
)

// WriteResults writes a workbook that adds up by itself: Marks holds what was given, one row a mark; Sheets adds
// up each examiner's sheet with formulas; Results shows each candidate with the panel's mean, and with the figures of this
// program beside them and whether the two agree. Texts are text, whatever they begin with. Section minima, ties and the
// smallest change are left to this program, and Rules says so.
func WriteResults(w io.Writer, title string, p scoring.Policy, rows []ResultRow) error {
	f := excelize.NewFile()
	defer f.Close()
	b := &book{f: f}
	head := b.style(&excelize.Style{Font: &excelize.Font{Bold: true, Color: "FFFFFF"}, Fill: excelize.Fill{Type: "pattern", Pattern: 1, Color: []string{"3A1A33"}}})
	b.must(f.SetSheetName("Sheet1", sheetResults))
	for _, name := range []string{sheetSheets, sheetMarks, sheetRules} {
		_, err := f.NewSheet(name)
		b.must(err)
	}

	// Rules: cells that the formulas read.
	b.row(sheetRules, 1, "Rule", "Value", "What it does")
	b.row(sheetRules, 2, "Highest mark", dec(p.Scale.Highest), "of one item")
	b.row(sheetRules, 3, "Highest failing mark", orNothing(p.Scale.Failing), "empty: no mark fails by itself")
	b.row(sheetRules, 4, "Threshold", orNothing(p.Rules.Threshold), "in points of the full sheet; exactly at it is met; empty: none")
	b.row(sheetRules, 5, "Failing items allowed", orCount(p.Rules.AllowedFailing), "empty: they count in the sum only")
	b.row(sheetRules, 6, "Must-pass items count as such", !p.Rules.IgnoreMustPass, "")
	b.row(sheetRules, 7, "The panel decides by", string(p.Panel), "the outcome stands in Results as this program proposed it")
	b.row(sheetRules, 8, "Section minima", len(p.Rules.SectionMinima), "how many; they are looked at by this program, not by the formulas")

	b.row(sheetMarks, 1, "Key", "Candidate", "Examiner", "Item", "Section", "Weight", "Bonus", "Must pass", "Mark", "Points", "Possible", "Full", "Fails", "Fails a must")
	b.row(sheetSheets, 1, "Key", "Candidate", "Examiner", "Deductions", "Possible", "Points", "Full", "Failing", "Failing musts", "Threshold met", "Points here", "Possible here", "Agrees")
	b.row(sheetResults, 1, "No", "Candidate", "From", "To", "Group", "Sheets", "Points, mean", "Possible, mean", "Share, mean", "Proposed", "Decided", "Agrees")
	m, s := 1, 1
	for i, r := range rows {
		first := s + 1
		for k, sheet := range r.Test.Sheets {
			key := fmt.Sprintf("%d.%d", i+1, k+1)
			s++
			for n, it := range r.Test.Items {
				m++
				var mark any
				if sheet.Marks[n].Seen {
					mark = dec(sheet.Marks[n].Value)
				}
				b.row(sheetMarks, m, key, r.Name, sheet.Examiner, it.Name(), it.Section, it.Weight, tick(it.Bonus), tick(it.MustPass), mark)
				b.formula(sheetMarks, "J", m, `IF(ISNUMBER(I#),F#*I#,0)`)
				b.formula(sheetMarks, "K", m, `IF(AND(ISNUMBER(I#),G#=0),F#*Rules!$B$2,0)`)
				b.formula(sheetMarks, "L", m, `IF(G#=1,0,F#*Rules!$B$2)`)
				b.formula(sheetMarks, "M", m, `IF(AND(ISNUMBER(I#),G#=0,ISNUMBER(Rules!$B$3)),IF(I#<=Rules!$B$3,1,0),0)`)
				b.formula(sheetMarks, "N", m, `M#*H#`)
			}
			t := r.Result.Tallies[k]
			b.row(sheetSheets, s, key, r.Name, sheet.Examiner, dec(sheet.Deductions))
			b.formula(sheetSheets, "E", s, `SUMIFS(Marks!K:K,Marks!A:A,A#)`)
			b.formula(sheetSheets, "F", s, `MAX(0,MIN(E#,SUMIFS(Marks!J:J,Marks!A:A,A#)-D#))`)
			b.formula(sheetSheets, "G", s, `SUMIFS(Marks!L:L,Marks!A:A,A#)`)
			b.formula(sheetSheets, "H", s, `SUMIFS(Marks!M:M,Marks!A:A,A#)`)
			b.formula(sheetSheets, "I", s, `SUMIFS(Marks!N:N,Marks!A:A,A#)`)
			b.formula(sheetSheets, "J", s, `IF(NOT(ISNUMBER(Rules!$B$4)),"no threshold",IF(E#=0,"nothing seen",IF(F#*G#>=Rules!$B$4*E#,"met","missed")))`)
			b.set(sheetSheets, "K", s, dec(t.Points))
			b.set(sheetSheets, "L", s, dec(t.Possible))
			b.formula(sheetSheets, "M", s, `IF(AND(F#=K#,E#=L#),"yes","no")`)
		}
		row := i + 2
		b.row(sheetResults, row, r.Number, r.Name, r.From, r.To, r.Group)
		if s >= first {
			b.formula(sheetResults, "F", row, fmt.Sprintf(`COUNT(Sheets!F%d:F%d)`, first, s))
			b.formula(sheetResults, "G", row, fmt.Sprintf(`AVERAGE(Sheets!F%d:F%d)`, first, s))
			b.formula(sheetResults, "H", row, fmt.Sprintf(`AVERAGE(Sheets!E%d:E%d)`, first, s))
			b.formula(sheetResults, "I", row, `IF(H#=0,0,G#/H#)`)
			b.formula(sheetResults, "L", row, fmt.Sprintf(`IF(COUNTIF(Sheets!M%d:M%d,"yes")=%d,"yes","no")`, first, s, s-first+1))
		}
		b.set(sheetResults, "J", row, r.Outcome)
		b.set(sheetResults, "K", row, r.Decision)
	}
	percent := b.style(&excelize.Style{NumFmt: 10})
	if len(rows) > 0 && b.err == nil {
		b.must(f.SetCellStyle(sheetResults, "I2", fmt.Sprintf("I%d", len(rows)+1), percent))
	}
	for sheet, last := range map[string]string{sheetResults: "L", sheetSheets: "M", sheetMarks: "N", sheetRules: "C"} {
		b.must(f.SetCellStyle(sheet, "A1", last+"1", head))
		b.must(f.SetPanes(sheet, &excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}))
	}
	for sheet, columns := range map[string][]string{sheetResults: {"B", "C", "D"}, sheetSheets: {"B", "C"}, sheetMarks: {"B", "C", "D"}, sheetRules: {"A", "C"}} {
		for _, c := range columns {
			b.must(f.SetColWidth(sheet, c, c, 26))
		}
	}
	b.must(f.SetDocProps(&excelize.DocProperties{Title: title, Creator: "Velvet Ladder"}))
	if b.err != nil {
		return b.err
	}
	return f.Write(w)
}

// book remembers the first thing that went wrong.
type book struct {
	f   *excelize.File
	err error
}

func (b *book) must(err error) {
	if b.err == nil {
		b.err = err
	}
}

func (b *book) style(s *excelize.Style) int {
	id, err := b.f.NewStyle(s)
	b.must(err)
	return id
}

func (b *book) row(sheet string, row int, cells ...any) {
	for i, c := range cells {
		name, err := excelize.ColumnNumberToName(i + 1)
		b.must(err)
		b.set(sheet, name, row, c)
	}
}

// set puts a value into a cell; a text stays a text, also one that looks like a formula.
func (b *book) set(sheet, column string, row int, v any) {
	if b.err != nil || v == nil || v == "" {
		return
	}
	cell := fmt.Sprintf("%s%d", column, row)
	if text, is := v.(string); is {
		b.must(b.f.SetCellStr(sheet, cell, text))
		return
	}
	b.must(b.f.SetCellValue(sheet, cell, v))
}

// formula puts a formula into a cell; # in it is the row.
func (b *book) formula(sheet, column string, row int, formula string) {
	if b.err == nil {
		b.must(b.f.SetCellFormula(sheet, fmt.Sprintf("%s%d", column, row), strings.ReplaceAll(formula, "#", fmt.Sprint(row))))
	}
}

// dec is a mark as a number of a spreadsheet: marks have at most one decimal that counts, which it holds exactly.
func dec(d scoring.Decimal) float64 { return float64(d) / float64(scoring.Whole(1)) }

func orNothing(d *scoring.Decimal) any {
	if d == nil {
		return nil
	}
	return dec(*d)
}

func orCount(n *int) any {
	if n == nil {
		return nil
	}
	return *n
}

func tick(on bool) int {
	if on {
		return 1
	}
	return 0
}
