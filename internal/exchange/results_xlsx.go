package exchange

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
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

// Names of the sheets of a results book, in their order.
const (
	sheetResults = "Results"
	sheetSheets  = "Sheets"
	sheetItems   = "Items"
	sheetMarks   = "Marks"
	sheetRules   = "Rules"
)

var resultSheets = []string{sheetResults, sheetSheets, sheetItems, sheetMarks, sheetRules}

// Cells of Rules that the formulas read.
const (
	ruleHighest = "Rules!$B$2"
	ruleFailing = "Rules!$B$3"
	ruleT       = "Rules!$B$4" // the threshold
	ruleAllowed = "Rules!$B$5"
	ruleMust    = "Rules!$B$6"
	rulePanel   = "Rules!$B$7"
	ruleSeen    = "Rules!$B$8"
	ruleQuorum  = "Rules!$B$9"
	ruleTie     = "Rules!$B$10"
	ruleHonours = "Rules!$B$11"
	ruleDouble  = "Rules!$B$12"
	firstMinima = 13 // the row of the first section minimum
)

// WriteResults writes a workbook that adds up by itself, from the marks to the outcome: Marks holds what was given, a row a
// mark; Sheets adds up each examiner's sheet and says whether it is complete and what it comes to; Items says what a panel
// saw and found failing; Results counts the votes or takes the panel's figure, and comes to the outcome, with this program's
// beside it and whether the two agree. Rules holds what all of them read: change it, and the book follows. Every formula
// has its value stored, so that previews show it. Texts are text, whatever they begin with. Earliest retests and the
// smallest change are left to this program.
func WriteResults(w io.Writer, title string, p scoring.Policy, rows []ResultRow) error {
	b := newBook(p)
	b.rules()
	b.heads()
	for i, r := range rows {
		b.candidate(i, r)
	}
	if err := b.reckon(); err != nil {
		return err
	}
	return b.write(w, title)
}

// bookCell is a value, a formula, or both once it is reckoned.
type bookCell struct {
	value   any
	formula string
	percent bool
}

type book struct {
	policy scoring.Policy
	cells  map[string][][]bookCell
}

func newBook(p scoring.Policy) *book { return &book{policy: p, cells: map[string][][]bookCell{}} }

// add puts a row behind those of a sheet. A text that begins with = is text; a formula is a bookFormula, in which # is the
// row.
func (b *book) add(sheet string, values ...any) (row int) {
	row = len(b.cells[sheet]) + 1
	var out []bookCell
	for _, v := range values {
		c := bookCell{value: v}
		switch f := v.(type) {
		case bookFormula:
			c = bookCell{formula: strings.ReplaceAll(string(f), "#", strconv.Itoa(row))}
		case bookPercent:
			c = bookCell{formula: strings.ReplaceAll(string(f), "#", strconv.Itoa(row)), percent: true}
		}
		out = append(out, c)
	}
	b.cells[sheet] = append(b.cells[sheet], out)
	return row
}

type (
	bookFormula string
	bookPercent string // a formula whose value is shown as a percentage
)

// rules are the cells that the formulas read.
func (b *book) rules() {
	p := b.policy
	seen := scoring.Whole(3) / 4
	if p.Rules.MinimumSeen != nil {
		seen = *p.Rules.MinimumSeen
	}
	b.add(sheetRules, "Rule", "Value", "What it does")
	b.add(sheetRules, "Highest mark", dec(p.Scale.Highest), "of one item")
	b.add(sheetRules, "Highest failing mark", orNothing(p.Scale.Failing), "empty: no mark fails by itself")
	b.add(sheetRules, "Threshold", orNothing(p.Rules.Threshold), "in points of the full sheet; exactly at it is met; empty: none")
	b.add(sheetRules, "Failing items allowed", orCount(p.Rules.AllowedFailing), "empty: they count in the sum only")
	b.add(sheetRules, "Must-pass items count as such", tick(!p.Rules.IgnoreMustPass), "1: yes, 0: no")
	b.add(sheetRules, "The panel decides by", string(cmp.Or(p.Panel, scoring.Majority)), "majority, mean, median or trimmed_mean")
	b.add(sheetRules, "Share of items to be seen", dec(seen), "below it a sheet is incomplete and has no vote")
	b.add(sheetRules, "Complete sheets needed", p.Quorum, "0: more than half of the panel")
	b.add(sheetRules, "A tie goes to", string(cmp.Or(p.Tie, scoring.TieChief)), "chief, retest or committee")
	b.add(sheetRules, "Honours from", orNothing(p.Scale.Honours), "every counted item seen and at it; empty: none")
	b.add(sheetRules, "Double promotion", tick(p.Scale.Double), "1: every counted item at the highest mark is referred")
	for _, m := range p.Rules.SectionMinima {
		b.add(sheetRules, "Minimum of "+m.Section, dec(m.Ratio), "of the points possible in the section, by its counted items seen")
	}
}

func (b *book) heads() {
	b.add(sheetMarks, "Key", "Candidate", "Examiner", "Item", "Section", "Weight", "Bonus", "Must pass", "Mark", "Points", "Possible", "Full", "Fails", "Fails a must", "Seen", "Counted", "Below honours", "Below the top", "Minimum")
	b.add(sheetItems, "Candidate", "Item", "Bonus", "Must pass", "Seen by", "Seen by complete", "Failing", "Fails", "Fails a must", "Seen by nobody")
	sheets := []any{"Key", "Candidate", "Examiner", "Deductions", "Possible", "Points", "Full", "Failing", "Failing musts", "Items", "Seen", "Complete", "Threshold", "Verdict", "Ratio", "Points here", "Possible here", "Verdict here", "Agrees"}
	results := []any{"No", "Candidate", "From", "To", "Group", "Ended", "Sheets", "Complete", "Passes", "Points, mean", "Possible, mean", "Share", "Seen by nobody", "Failing", "Failing musts", "Comes to", "Proposed", "Decided", "Agrees"}
	for _, m := range b.policy.Rules.SectionMinima {
		sheets = append(sheets, m.Section+", points", m.Section+", possible", m.Section+", ratio")
		results = append(results, m.Section+", share")
	}
	b.add(sheetSheets, sheets...)
	b.add(sheetResults, results...)
}

// span is a range of one column of a sheet.
func span(sheet, column string, from, to int) string {
	return fmt.Sprintf("%s!%s%d:%[2]s%[4]d", sheet, column, from, to)
}

// columnOf is the letters of a column, from 1.
func columnOf(n int) string {
	name, _ := excelize.ColumnNumberToName(n) // columns count from 1
	return name
}

// firstMinimumColumn is where the columns of section minima begin, in Sheets and in Results.
const firstMinimumColumn = 20

// candidate adds one candidate to every sheet.
func (b *book) candidate(i int, r ResultRow) {
	items, panel := len(r.Test.Items), len(r.Test.Sheets)
	firstSheet, firstMark := len(b.cells[sheetSheets])+1, len(b.cells[sheetMarks])+1
	chief := 0
	for k, sheet := range r.Test.Sheets {
		from := len(b.cells[sheetMarks]) + 1
		b.marks(fmt.Sprintf("%d.%d", i+1, k+1), r, sheet)
		row := b.sheet(fmt.Sprintf("%d.%d", i+1, k+1), r, k, from, from+items-1)
		if sheet.Examiner == r.Test.Chief && r.Test.Chief != "" {
			chief = row
		}
	}
	firstItem := len(b.cells[sheetItems]) + 1
	for n, it := range r.Test.Items {
		var seen, ofComplete, failing []string
		for k := range panel {
			mark := firstMark + k*items + n
			whole := fmt.Sprintf(`IF(Sheets!L%d="complete",1,0)`, firstSheet+k)
			seen = append(seen, fmt.Sprintf("Marks!O%d", mark))
			ofComplete = append(ofComplete, fmt.Sprintf("%s*Marks!O%d", whole, mark))
			failing = append(failing, fmt.Sprintf("%s*Marks!M%d", whole, mark))
		}
		b.add(sheetItems, r.Name, it.Name(), tick(it.Bonus), tick(it.MustPass), bookFormula(strings.Join(seen, "+")), bookFormula(strings.Join(ofComplete, "+")), bookFormula(strings.Join(failing, "+")),
			bookFormula(`IF(2*G#>F#,1,0)`), bookFormula(`H#*D#`), bookFormula(`IF(AND(C#=0,E#=0),1,0)`))
	}
	b.result(r, firstSheet, firstSheet+panel-1, firstItem, firstItem+items-1, chief)
}

// marks are one examiner's marks of a candidate, a row each.
func (b *book) marks(key string, r ResultRow, sheet scoring.Sheet) {
	for n, it := range r.Test.Items {
		var mark, minimum any
		if of := slices.IndexFunc(b.policy.Rules.SectionMinima, func(m scoring.SectionMinimum) bool { return m.Section == it.Section }); of >= 0 {
			minimum = of + 1 // by number: a section's name may look like a condition
		}
		if sheet.Marks[n].Seen {
			mark = dec(sheet.Marks[n].Value)
		}
		b.add(sheetMarks, key, r.Name, sheet.Examiner, it.Name(), it.Section, it.Weight, tick(it.Bonus), tick(it.MustPass), mark,
			bookFormula(`IF(ISNUMBER(I#),F#*I#,0)`),
			bookFormula(`IF(AND(ISNUMBER(I#),G#=0),F#*`+ruleHighest+`,0)`),
			bookFormula(`IF(G#=1,0,F#*`+ruleHighest+`)`),
			bookFormula(`IF(AND(ISNUMBER(I#),G#=0,ISNUMBER(`+ruleFailing+`)),IF(I#<=`+ruleFailing+`,1,0),0)`),
			bookFormula(`M#*H#`),
			bookFormula(`IF(AND(ISNUMBER(I#),G#=0),1,0)`),
			bookFormula(`IF(G#=1,0,1)`),
			bookFormula(`IF(G#=1,0,IF(AND(ISNUMBER(I#),ISNUMBER(`+ruleHonours+`)),IF(I#>=`+ruleHonours+`,0,1),1))`),
			bookFormula(`IF(G#=1,0,IF(AND(ISNUMBER(I#),`+ruleDouble+`=1),IF(I#>=`+ruleHighest+`,0,1),1))`), minimum)
	}
}

// sheet adds up one examiner's sheet, whose marks stand in rows from to to.
func (b *book) sheet(key string, r ResultRow, k, from, to int) (row int) {
	t := r.Result.Tallies[k]
	marks := func(column string) string { return span(sheetMarks, column, from, to) }
	incomplete := []string{`E#=0`, `ROUND(K#-` + ruleSeen + `*J#,9)<0`}
	passes := []string{`M#<>"missed"`, `OR(NOT(ISNUMBER(` + ruleAllowed + `)),H#<=` + ruleAllowed + `)`, `OR(` + ruleMust + `=0,I#=0)`}
	var minima []any
	for n := range b.policy.Rules.SectionMinima {
		points, possible := columnOf(firstMinimumColumn+3*n), columnOf(firstMinimumColumn+3*n+1)
		rule := firstMinima + n
		incomplete = append(incomplete, possible+`#=0`)
		passes = append(passes, fmt.Sprintf(`ROUND(%s#-Rules!$B$%d*%s#,9)>=0`, points, rule, possible))
		minima = append(minima, bookFormula(fmt.Sprintf(`SUMIFS(%s,%s,%d,%s,1)`, marks("J"), marks("S"), n+1, marks("O"))),
			bookFormula(fmt.Sprintf(`SUMIFS(%s,%s,%d,%s,1)`, marks("K"), marks("S"), n+1, marks("O"))),
			bookFormula(fmt.Sprintf(`IF(L#="complete",%s#/%s#,"")`, points, possible)))
	}
	return b.add(sheetSheets, append([]any{key, r.Name, r.Test.Sheets[k].Examiner, dec(r.Test.Sheets[k].Deductions),
		bookFormula(`SUM(` + marks("K") + `)`),
		bookFormula(`MAX(0,MIN(E#,SUM(` + marks("J") + `)-D#))`),
		bookFormula(`SUM(` + marks("L") + `)`),
		bookFormula(`SUM(` + marks("M") + `)`),
		bookFormula(`SUM(` + marks("N") + `)`),
		bookFormula(`SUM(` + marks("P") + `)`),
		bookFormula(`SUM(` + marks("O") + `)`),
		bookFormula(`IF(OR(` + strings.Join(incomplete, ",") + `),"incomplete","complete")`),
		bookFormula(`IF(L#="incomplete","incomplete",IF(NOT(ISNUMBER(` + ruleT + `)),"no threshold",IF(ROUND(F#*G#-` + ruleT + `*E#,9)>=0,"met","missed")))`),
		bookFormula(`IF(L#="incomplete","incomplete",IF(AND(` + strings.Join(passes, ",") + `),IF(SUM(` + marks("R") + `)=0,"double",IF(SUM(` + marks("Q") + `)=0,"pass_with_honours","pass")),"fail"))`),
		bookFormula(`IF(L#="complete",F#/E#,"")`),
		dec(t.Points), dec(t.Possible), string(t.Verdict),
		bookFormula(`IF(AND(ROUND(F#-P#,9)=0,ROUND(E#-Q#,9)=0,N#=R#),"yes","no")`)}, minima...)...)
}

// figureOf is the panel's figure of ratios that stand in a range, n of them complete.
func figureOf(ratios, n string) string {
	return fmt.Sprintf(`IF(%s=0,0,IF(%s="median",MEDIAN(%s),IF(AND(%[2]s="trimmed_mean",%[1]s>=5),(SUM(%[3]s)-MAX(%[3]s)-MIN(%[3]s))/(%[1]s-2),AVERAGE(%[3]s))))`, n, rulePanel, ratios)
}

// result is a candidate's row of Results: from the votes, or the panel's figure, to the outcome.
func (b *book) result(r ResultRow, from, to, firstItem, lastItem, chief int) {
	sheets := func(column string) string { return span(sheetSheets, column, from, to) }
	items := func(column string) string { return span(sheetItems, column, firstItem, lastItem) }
	verdicts := func(words ...string) string {
		var out []string
		for _, w := range words {
			out = append(out, fmt.Sprintf(`COUNTIF(%s,"%s")`, sheets("N"), w))
		}
		return strings.Join(out, "+")
	}
	promoted := fmt.Sprintf(`IF(2*%s>H#,"refer for double promotion",IF(2*(%s)>H#,"promote with honours","promote"))`, verdicts("double"), verdicts("pass_with_honours", "double"))
	tie := `"committee decides"`
	if chief > 0 {
		tie = fmt.Sprintf(`IF(Sheets!L%d="incomplete","committee decides",IF(Sheets!N%[1]d="fail","retest",%s))`, chief, promoted)
	}
	majority := fmt.Sprintf(`IF(2*I#>H#,%s,IF(2*I#<H#,"retest",IF(%s="retest","retest",IF(%s="committee","committee decides",%s))))`, promoted, ruleTie, ruleTie, tie)
	holds := []string{fmt.Sprintf(`OR(NOT(ISNUMBER(%s)),ROUND(L#*Sheets!G%d-%[1]s,9)>=0)`, ruleT, from),
		`OR(NOT(ISNUMBER(` + ruleAllowed + `)),N#<=` + ruleAllowed + `)`, `OR(` + ruleMust + `=0,O#=0)`}
	var minima []any
	for n := range b.policy.Rules.SectionMinima {
		holds = append(holds, fmt.Sprintf(`ROUND(%s#-Rules!$B$%d,9)>=0`, columnOf(firstMinimumColumn+n), firstMinima+n))
		minima = append(minima, bookPercent(figureOf(sheets(columnOf(firstMinimumColumn+3*n+2)), "H#")))
	}
	byFigure := fmt.Sprintf(`IF(AND(%s),%s,"retest")`, strings.Join(holds, ","), promoted)
	outcome := fmt.Sprintf(`IF(F#=1,"retest",IF(OR(M#>0,H#<IF(%s>0,%[1]s,INT(G#/2)+1)),"incomplete",IF(%s="majority",%s,%s)))`, ruleQuorum, rulePanel, majority, byFigure)
	b.add(sheetResults, append([]any{r.Number, r.Name, r.From, r.To, r.Group, tick(r.Test.EndingFault),
		bookFormula(`COUNT(` + sheets("F") + `)`),
		bookFormula(`COUNTIF(` + sheets("L") + `,"complete")`),
		bookFormula(verdicts("pass", "pass_with_honours", "double")),
		bookFormula(`AVERAGE(` + sheets("F") + `)`),
		bookFormula(`AVERAGE(` + sheets("E") + `)`),
		bookPercent(figureOf(sheets("O"), "H#")),
		bookFormula(`SUM(` + items("J") + `)`),
		bookFormula(`SUM(` + items("H") + `)`),
		bookFormula(`SUM(` + items("I") + `)`),
		bookFormula(outcome), r.Outcome, r.Decision,
		bookFormula(fmt.Sprintf(`IF(AND(P#=Q#,COUNTIF(%s,"yes")=G#),"yes","no")`, sheets("S")))}, minima...)...)
}

// reckon works out every formula, sheet by sheet in the order in which they rest on each other, so that its value can be
// stored beside it.
func (b *book) reckon() error {
	f := excelize.NewFile()
	defer f.Close()
	for _, sheet := range resultSheets {
		if _, err := f.NewSheet(sheet); err != nil {
			return err
		}
	}
	alike := map[string][]bookCell{} // rows of marks, by what their formulas read: many marks are alike
	for _, sheet := range []string{sheetRules, sheetMarks, sheetSheets, sheetItems, sheetResults} {
		for y, row := range b.cells[sheet] {
			if sheet == sheetMarks && y > 0 {
				key := fmt.Sprint(row[5].value, row[6].value, row[7].value, row[8].value)
				if done, is := alike[key]; is {
					if err := standsAs(f, sheet, y+1, row, done); err != nil {
						return err
					}
					continue
				}
				alike[key] = row
			}
			if err := reckonRow(f, sheet, y+1, row); err != nil {
				return err
			}
		}
	}
	return nil
}

// reckonRow puts a row into the scratch book and works its formulas out, which may rest on each other; they then stand as
// their values, so that what rests on the row needs not work them out again.
func reckonRow(f *excelize.File, sheet string, y int, row []bookCell) error {
	at := func(x int) string { return columnOf(x+1) + strconv.Itoa(y) }
	for x, c := range row {
		if c.formula == "" {
			if err := putCell(f, sheet, at(x), c.value); err != nil {
				return err
			}
		} else if err := f.SetCellFormula(sheet, at(x), c.formula); err != nil {
			return err
		}
	}
	for x := range row {
		if row[x].formula == "" {
			continue
		}
		text, err := f.CalcCellValue(sheet, at(x), excelize.Options{RawCellValue: true})
		if err != nil {
			return fmt.Errorf("%s!%s: %w", sheet, at(x), err)
		}
		row[x].value = text
		if n, err := strconv.ParseFloat(text, 64); err == nil {
			row[x].value = n
		}
	}
	for x, c := range row {
		if c.formula == "" {
			continue
		}
		if err := errors.Join(f.SetCellFormula(sheet, at(x), ""), putCell(f, sheet, at(x), c.value)); err != nil {
			return err
		}
	}
	return nil
}

// standsAs gives a row the values of one whose formulas read the same.
func standsAs(f *excelize.File, sheet string, y int, row, done []bookCell) error {
	for x := range row {
		if row[x].formula != "" {
			row[x].value = done[x].value
		}
		if err := putCell(f, sheet, columnOf(x+1)+strconv.Itoa(y), row[x].value); err != nil {
			return err
		}
	}
	return nil
}

func putCell(f *excelize.File, sheet, at string, value any) error {
	if text, is := value.(string); is {
		return f.SetCellStr(sheet, at, text)
	}
	return f.SetCellValue(sheet, at, value)
}

// write sends the book with formulas and their values.
func (b *book) write(w io.Writer, title string) error {
	f := excelize.NewFile()
	defer f.Close()
	head, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true, Color: "FFFFFF"}, Fill: excelize.Fill{Type: "pattern", Pattern: 1, Color: []string{"3A1A33"}}})
	if err != nil {
		return err
	}
	percent, err := f.NewStyle(&excelize.Style{NumFmt: 10})
	if err != nil {
		return err
	}
	if err := f.SetSheetName("Sheet1", sheetResults); err != nil {
		return err
	}
	wide := map[string][2]int{sheetResults: {2, 4}, sheetSheets: {2, 3}, sheetItems: {1, 2}, sheetMarks: {2, 4}, sheetRules: {1, 1}}
	for _, sheet := range resultSheets {
		if _, err := f.NewSheet(sheet); err != nil {
			return err
		}
		if err := b.writeSheet(f, sheet, wide[sheet], head, percent); err != nil {
			return err
		}
	}
	if err := f.SetDocProps(&excelize.DocProperties{Title: title, Creator: "Velvet Ladder"}); err != nil {
		return err
	}
	return f.Write(w)
}

func (b *book) writeSheet(f *excelize.File, sheet string, wide [2]int, head, percent int) error {
	out, err := f.NewStreamWriter(sheet)
	if err != nil {
		return err
	}
	if err := out.SetColWidth(wide[0], wide[1], 26); err != nil {
		return err
	}
	if err := out.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	for y, row := range b.cells[sheet] {
		line := make([]any, len(row))
		for x, c := range row {
			cell := excelize.Cell{Value: c.value, Formula: c.formula}
			switch {
			case y == 0:
				cell.StyleID = head
			case c.percent:
				cell.StyleID = percent
			}
			if c.value == nil && c.formula == "" || c.value == "" && c.formula == "" {
				continue
			}
			line[x] = cell
		}
		if err := out.SetRow("A"+strconv.Itoa(y+1), line); err != nil {
			return err
		}
	}
	return out.Flush()
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
