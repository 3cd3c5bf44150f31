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

	"velvetladder/internal/core/check"
)

// tableRow is one row of a CSV file. row counts as a spreadsheet does: the header is row 1.
type tableRow struct {
	row    int
	record []string
	at     map[string]int // column → place
}

func (r tableRow) cell(column string) string {
	i, there := r.at[column]
	if !there || i >= len(r.record) {
		return ""
	}
	return plainCell(r.record[i])
}

func (r tableRow) checkWidth(p *check.Problems) {
	if len(r.record) > len(r.at) {
		p.Add("row", "has %d cells, and row 1 names %d columns", len(r.record), len(r.at))
	}
}

// readTable reads a CSV file with commas, semicolons or tabs, with or without a byte order
// mark. whole is wrapped by every error.
func readTable(data []byte, whole error, columns []string, must string, most int) ([]tableRow, error) {
	data = bytes.TrimPrefix(data, []byte("\xEF\xBB\xBF"))
	if len(bytes.TrimSpace(data)) == 0 {
		return nil, fmt.Errorf("%w: it is empty; the first row names the columns, for example %s", whole, strings.Join(columns[:2], ","))
	}
	if !utf8.Valid(data) {
		return nil, fmt.Errorf("%w: its letters are not in UTF-8; save it again as “CSV UTF-8”", whole)
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return nil, fmt.Errorf("%w: it holds bytes that no text has; save it as CSV", whole)
	}
	first, _, _ := bytes.Cut(data, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(data))
	r.FieldsPerRecord = -1
	for _, comma := range []rune{';', '\t'} {
		if bytes.Count(first, []byte(string(comma))) > bytes.Count(first, []byte(string(r.Comma))) {
			r.Comma = comma
		}
	}
	header, err := r.Read()
	if err != nil {
		return nil, fmt.Errorf("%w: %w", whole, err)
	}
	at := map[string]int{}
	for i, name := range header {
		key := strings.ReplaceAll(check.Key(name), " ", "_")
		if !slices.Contains(columns, key) {
			return nil, fmt.Errorf("%w: row 1, column %d is called %q; the columns are %s", whole, i+1, name, strings.Join(columns, ", "))
		}
		if _, twice := at[key]; twice {
			return nil, fmt.Errorf("%w: row 1 names the column %q twice", whole, key)
		}
		at[key] = i
	}
	if _, there := at[must]; !there {
		return nil, fmt.Errorf("%w: row 1 has no column “%s”", whole, must)
	}
	var out []tableRow
	for row := 2; ; row++ {
		record, err := r.Read()
		if err == io.EOF {
			return out, nil
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			return nil, fmt.Errorf("%w: line %d, column %d: %w", whole, broken.Line, broken.Column, broken.Err)
		}
		if err != nil {
			return nil, err
		}
		if len(out) == most {
			return nil, fmt.Errorf("%w: it has more than %d rows; split it", whole, most)
		}
		out = append(out, tableRow{row, record, at})
	}
}
