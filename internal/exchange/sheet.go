package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/unicode/norm"

	"velvetladder/internal/core/check"
)

// Sheet is a table as it stands in somebody's spreadsheet.
type Sheet struct {
	Rows  []SheetRow
	Notes []string // what was taken for granted in reading it, for whoever looks
	excel bool     // days and hours are numbers
	since int      // of such a number: 1904 on some old computers, else 1900
}

// SheetRow is a row with its number as the spreadsheet counts, from 1.
type SheetRow struct {
	Row   int
	Cells []string
}

const (
	unpackedMost = 256 << 20 // bytes of an unpacked workbook: 40,000 students take about 30 MB
	widest       = 200       // columns
)

// OpenSheet reads a table out of a workbook (XLSX), or out of text with commas, semicolons or tabs between the cells, as
// spreadsheets save and copy it. Empty rows are passed over. whole is wrapped by every error; most is the most rows.
func OpenSheet(data []byte, whole error, most int) (*Sheet, error) {
	s := &Sheet{}
	var err error
	switch {
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		err = s.workbook(data, most)
	case bytes.HasPrefix(data, []byte("\xD0\xCF\x11\xE0")):
		err = errors.New("it is a workbook of the old kind (.xls), or has a password; save it as .xlsx without one, or as CSV")
	default:
		err = s.text(data, most)
	}
	if err == nil && len(s.Rows) == 0 {
		err = errors.New("it is empty; the first row names the columns")
	}
	if err != nil {
		return nil, fmt.Errorf("%w: %w", whole, err)
	}
	return s, nil
}

// add takes a row; one without a word is passed over.
func (s *Sheet) add(row int, cells []string, most int) error {
	for len(cells) > 0 && strings.TrimSpace(cells[len(cells)-1]) == "" {
		cells = cells[:len(cells)-1]
	}
	if len(cells) == 0 {
		return nil
	}
	if len(cells) > widest {
		return fmt.Errorf("row %d has %d columns; up to %d are read", row, len(cells), widest)
	}
	if len(s.Rows) > most { // the heads are a row too
		return fmt.Errorf("it has more than %d rows; split it", most)
	}
	for i := range cells {
		cells[i] = norm.NFC.String(cells[i]) // an é is one letter, however a file puts it together
	}
	s.Rows = append(s.Rows, SheetRow{row, cells})
	return nil
}

func (s *Sheet) workbook(data []byte, most int) error {
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: unpackedMost, UnzipXMLSizeLimit: unpackedMost, RawCellValue: true})
	if err != nil {
		return fmt.Errorf("it cannot be opened as a workbook; save it again as .xlsx, or as CSV")
	}
	defer f.Close()
	s.excel, s.since = true, 1900
	if p, err := f.GetWorkbookProps(); err == nil && p.Date1904 != nil && *p.Date1904 {
		s.since = 1904
	}
	names := f.GetSheetList()
	for i, name := range names {
		rows, err := f.Rows(name)
		if err != nil {
			continue // a sheet of charts has none
		}
		for n := 1; rows.Next(); n++ {
			cells, err := rows.Columns(excelize.Options{RawCellValue: true})
			if err != nil {
				return fmt.Errorf("row %d of the sheet %q cannot be read", n, name)
			}
			if err := s.add(n, cells, most); err != nil {
				return err
			}
		}
		if rows.Close(); len(s.Rows) > 0 {
			if len(names) > 1 {
				s.Notes = append(s.Notes, fmt.Sprintf("The sheet “%s” was read, %s of the workbook's %d; the others were not.", name, ordinal(i), len(names)))
			}
			return nil
		}
	}
	return nil
}

func ordinal(i int) string {
	if i == 0 {
		return "the first"
	}
	return fmt.Sprintf("number %d", i+1)
}

// decoded is text in UTF-8. What older programs save is read as such, and noted.
func (s *Sheet) decoded(data []byte) ([]byte, error) {
	switch {
	case bytes.HasPrefix(data, []byte("\xFF\xFE")) || bytes.HasPrefix(data, []byte("\xFE\xFF")):
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(data)
		return out, err
	case utf8.Valid(data):
		return bytes.TrimPrefix(data, []byte("\xEF\xBB\xBF")), nil
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return nil, errors.New("it holds bytes that no text has; save it as .xlsx or as CSV")
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	s.Notes = append(s.Notes, "The letters of this file are of an older kind (Windows-1252). Look whether names with accents came out right; if not, save it as “CSV UTF-8”.")
	return out, err
}

func (s *Sheet) text(data []byte, most int) error {
	data, err := s.decoded(data)
	if err != nil {
		return err
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return errors.New("it holds bytes that no text has; save it as .xlsx or as CSV")
	}
	first, _, _ := bytes.Cut(bytes.TrimLeft(data, "\r\n "), []byte("\n"))
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord = -1
	for _, comma := range []rune{';', '\t'} {
		if bytes.Count(first, []byte(string(comma))) > bytes.Count(first, []byte(string(r.Comma))) {
			r.Comma = comma
		}
	}
	if r.Comma == '\t' { // cells as they are copied: a quotation mark is a letter
		r.LazyQuotes = true
	}
	folded := 0 // lines that are inside a cell
	for {
		record, err := r.Read()
		if err == io.EOF {
			return nil
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			return fmt.Errorf("line %d, column %d: %w", broken.Line, broken.Column, broken.Err)
		}
		if err != nil {
			return err
		}
		// The reader passes empty lines over; a spreadsheet counts them, and a cell of two lines as one.
		line, _ := r.FieldPos(0)
		row := line - folded
		folded += strings.Count(strings.Join(record, ""), "\n")
		for i := range record {
			record[i] = plainCell(record[i])
		}
		if err := s.add(row, record, most); err != nil {
			return err
		}
	}
}

// newCSV begins a CSV file with the sign by which spreadsheet programs know that its letters are UTF-8: without it an é
// comes out as two others.
func newCSV(w io.Writer) *csv.Writer {
	io.WriteString(w, "\uFEFF") // what cannot be written is told with the rows
	return csv.NewWriter(w)
}

// Column is what a column of a file can mean.
type Column struct {
	Key   string   // as our own files call it
	Says  string   // as a person calls it
	Also  []string // other heads that mean it, in small letters
	Day   bool     // its cells are days
	Clock bool     // its cells are hours
	Many  string   // several columns may mean it: what stands between their cells
}

// DayOrder says how days such as 03/04/2016 are read.
type DayOrder string

// The orders. Days as 2016-04-03, as 3 April 2016 and as a workbook's numbers are read in either.
const (
	DayFirst   DayOrder = "day"   // 3 April
	MonthFirst DayOrder = "month" // 4 March
)

// Reading is a sheet with what its columns mean.
type Reading struct {
	*Sheet
	Columns  []string // of each column of the sheet: a key, or "" where it is left out
	Headless bool     // the first row is one like the others
	Days     DayOrder
	Doubtful bool // whether the day or the month stands first cannot be seen from the file
	of       []Column
}

// Match says what the columns of a sheet seem to mean, by their heads. Where no head means anything, the first row is none of
// heads; a single column is the first that there is then.
func (s *Sheet) Match(of []Column) Reading {
	s.beginAtHeads(of)
	r := Reading{Sheet: s, of: of, Columns: make([]string, s.width())}
	taken := map[string]bool{}
	for _, near := range []bool{false, true} {
		for i, head := range s.Rows[0].Cells {
			if r.Columns[i] != "" {
				continue
			}
			for _, c := range of {
				if (!taken[c.Key] || c.Many != "") && c.means(head, near) {
					r.Columns[i], taken[c.Key] = c.Key, true
					break
				}
			}
		}
	}
	if len(taken) == 0 {
		r.Headless = true
		if len(r.Columns) == 1 {
			r.Columns[0] = of[0].Key
		}
	}
	r.order()
	return r
}

// headsWithin is how many rows down the heads are looked for: a title, the school's name and a date may stand above them.
const headsWithin = 10

// beginAtHeads passes over what stands above the heads: rows of which none, or fewer, of the cells mean anything.
func (s *Sheet) beginAtHeads(of []Column) {
	meant := func(row SheetRow) (n int) {
		for _, cell := range row.Cells {
			if slices.ContainsFunc(of, func(c Column) bool { return c.means(cell, false) }) {
				n++
			}
		}
		return n
	}
	at, best := 0, max(meant(s.Rows[0]), 1)
	for i, row := range s.Rows[:min(len(s.Rows), headsWithin)] {
		if n := meant(row); n > best {
			at, best = i, n
		}
	}
	if at > 0 {
		s.Notes = append(s.Notes, fmt.Sprintf("The heads were found in row %d; what stands above them was passed over.", s.Rows[at].Row))
		s.Rows = s.Rows[at:]
	}
}

// As is a sheet read as somebody chose: columns, whether it has heads, and the order of days ("" as it seems).
func (s *Sheet) As(of []Column, columns []string, headless bool, days DayOrder) Reading {
	r := Reading{Sheet: s, of: of, Columns: make([]string, s.width()), Headless: headless, Days: days}
	for i := range min(len(columns), len(r.Columns)) {
		if slices.ContainsFunc(of, func(c Column) bool { return c.Key == columns[i] }) {
			r.Columns[i] = columns[i]
		}
	}
	if days != DayFirst && days != MonthFirst {
		r.order()
	}
	return r
}

// width is how many columns the widest row has.
func (s *Sheet) width() (n int) {
	for _, r := range s.Rows {
		n = max(n, len(r.Cells))
	}
	return n
}

// headKey is a head without case, signs and what stands in brackets.
func headKey(head string) string {
	if before, _, cut := strings.Cut(head, "("); cut && strings.TrimSpace(before) != "" {
		head = before
	}
	return check.Key(strings.Map(func(r rune) rune {
		if strings.ContainsRune("_-./:*#?’'", r) {
			return ' '
		}
		return r
	}, head))
}

// means reports whether a head is one of the column's; with near, one letter may be amiss in five or more.
func (c Column) means(head string, near bool) bool {
	key := headKey(head)
	if key == "" {
		return false
	}
	for _, name := range append([]string{headKey(c.Key), headKey(c.Says)}, c.Also...) {
		if key == name || near && len(name) >= 5 && check.Distance(key, name) == 1 {
			return true
		}
	}
	return false
}

// Head is what stands over a column: its head, or the letter a spreadsheet gives it.
func (r Reading) Head(i int) string {
	if !r.Headless && i < len(r.Rows[0].Cells) && check.Tidy(r.Rows[0].Cells[i]) != "" {
		return check.Tidy(r.Rows[0].Cells[i])
	}
	name, err := excelize.ColumnNumberToName(i + 1)
	if err != nil {
		return fmt.Sprint(i + 1)
	}
	return "column " + name
}

// Samples are the first few cells of a column that say something.
func (r Reading) Samples(i, n int) (out []string) {
	for _, row := range r.data() {
		if len(out) == n {
			break
		}
		if i < len(row.Cells) && check.Tidy(row.Cells[i]) != "" {
			out = append(out, check.Tidy(r.cellAs(i, row.Cells[i])))
		}
	}
	return out
}

// LeftOut are the heads of columns that mean nothing here.
func (r Reading) LeftOut() (out []string) {
	for i, key := range r.Columns {
		if key == "" {
			out = append(out, r.Head(i))
		}
	}
	return out
}

// Meanings are what each column means, and all that a column of this kind of table can mean: keys and what people call them.
func (r Reading) Meanings() (means, keys, says []string) {
	for _, c := range r.of {
		keys, says = append(keys, c.Key), append(says, c.Says)
	}
	return r.Columns, keys, says
}

// Order is how days are read; dated is whether there are any, and doubtful whether the table itself does not show the order.
func (r Reading) Order() (days string, dated, doubtful bool) {
	for _, key := range r.Columns {
		dated = dated || r.column(key).Day
	}
	return string(r.Days), dated, r.Doubtful
}

// Noted is what was taken for granted, and whether the first row is one like the others.
func (r Reading) Noted() (notes []string, headless bool) { return r.Notes, r.Headless }

// Says is what people call what a problem is about: a column's meaning, or the row as a whole.
func (r Reading) Says(key string) string {
	if c := r.column(key); c.Says != "" {
		return c.Says
	}
	return strings.ReplaceAll(key, "_", " ")
}

// Has reports whether a column means this.
func (r Reading) Has(key string) bool { return slices.Contains(r.Columns, key) }

// Twice is a meaning that two columns have though only one may; "" there is none.
func (r Reading) Twice() string {
	for _, c := range r.of {
		n := 0
		for _, key := range r.Columns {
			if key == c.Key {
				n++
			}
		}
		if n > 1 && c.Many == "" {
			return c.Says
		}
	}
	return ""
}

// data are the rows below the heads.
func (r Reading) data() []SheetRow {
	if r.Headless {
		return r.Rows
	}
	return r.Rows[1:]
}

func (r Reading) column(key string) (c Column) {
	if i := slices.IndexFunc(r.of, func(c Column) bool { return c.Key == key }); i >= 0 {
		c = r.of[i]
	}
	return c
}

// cellAs is a cell as its column says it: days as 2016-04-30, hours as 18:30.
func (r Reading) cellAs(i int, cell string) string {
	c := r.column(r.Columns[i])
	switch {
	case c.Day:
		return r.day(cell)
	case c.Clock:
		return r.clock(cell)
	}
	return cell
}

// line is a row of a reading.
type line struct {
	Reading
	SheetRow
}

// lines are the rows of a reading, ready to be asked by key.
func (r Reading) lines() (out []line) {
	for _, row := range r.data() {
		out = append(out, line{r, row})
	}
	return out
}

// cell is what a row says of a key: of several columns, what each says, joined.
func (l line) cell(key string) string {
	out := ""
	for i, k := range l.Columns {
		if k != key || i >= len(l.Cells) {
			continue
		}
		said := l.cellAs(i, l.Cells[i])
		if out != "" && strings.TrimSpace(said) != "" {
			out += l.column(key).Many
		}
		out += said
	}
	return out
}

// checkWidth notes a row with cells behind the last head.
func (l line) checkWidth(p *check.Problems) {
	if heads := len(l.Rows[0].Cells); !l.Headless && len(l.Cells) > heads {
		p.Add("row", "has %d cells, and row %d names %d columns", len(l.Cells), l.Rows[0].Row, heads)
	}
}

// WriteRefused writes the rows of a table that were not read, as they stand, each with why; why is by the number of the row.
func WriteRefused(w io.Writer, r Reading, why map[int]string) error {
	out := newCSV(w)
	heads := make([]string, len(r.Columns))
	for i := range heads {
		heads[i] = safeCell(r.Head(i))
	}
	if err := out.Write(append(heads, "what is wrong")); err != nil {
		return err
	}
	for _, row := range r.data() {
		said, is := why[row.Row]
		if !is {
			continue
		}
		cells := make([]string, len(heads), len(heads)+1)
		for i := range min(len(row.Cells), len(cells)) {
			cells[i] = safeCell(row.Cells[i])
		}
		if err := out.Write(append(cells, said)); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}
