package exchange

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"velvetladder/internal/core/check"
)

var (
	threeNumbers = regexp.MustCompile(`^(\d{1,2})\s*[/.\- ]\s*(\d{1,2})\s*[/.\- ]\s*(\d{4}|\d{2})$`)
	withHour     = regexp.MustCompile(`^(.+?)[T ]\d{1,2}:\d{2}(?::\d{2}(?:\.\d+)?)?(?:Z|[+-]\d{2}:?\d{2})?$`)
	ends         = regexp.MustCompile(`\b(\d{1,2})(?:st|nd|rd|th)\b`)
	numberOnly   = regexp.MustCompile(`^\d{1,6}(?:\.\d+)?$`)
	withSeconds  = regexp.MustCompile(`^(\d{1,2}:\d{2}):\d{2}$`)
)

// months are the ways of writing a day with the month in words.
var months = []string{"2 January 2006", "2 Jan 2006", "January 2 2006", "Jan 2 2006", "2 January 06", "2 Jan 06", "2006 January 2", "2006 Jan 2"}

// day is a day as YYYY-MM-DD, however the sheet writes it; what is no day stays as it is, and is refused with what would
// be right. Of a year with two figures, 00 to 36 are of this century and 37 to 99 of the last.
func (r Reading) day(cell string) string {
	text := check.Tidy(cell)
	if m := withHour.FindStringSubmatch(text); m != nil {
		text = strings.TrimSpace(m[1])
	}
	if _, err := time.Parse(time.DateOnly, text); err == nil || text == "" {
		return text
	}
	if r.excel && numberOnly.MatchString(text) {
		n, err := strconv.ParseFloat(text, 64)
		if days := int(n); err == nil && days >= 1 && days < 110_000 {
			return r.serial(days)
		}
	}
	if m := threeNumbers.FindStringSubmatch(text); m != nil {
		a, _ := strconv.Atoi(m[1])
		b, _ := strconv.Atoi(m[2])
		y, _ := strconv.Atoi(m[3])
		if r.Days == MonthFirst {
			a, b = b, a
		}
		return valid(cell, fullYear(y), b, a)
	}
	words := strings.NewReplacer(",", " ", "-", " ", ".", " ", "/", " ").Replace(ends.ReplaceAllString(text, "$1"))
	words = strings.Join(strings.Fields(words), " ")
	for _, as := range months {
		if t, err := time.Parse(as, words); err == nil {
			year := t.Year()
			if strings.HasSuffix(as, " 06") {
				year = fullYear(year % 100)
			}
			return valid(cell, year, int(t.Month()), t.Day())
		}
	}
	return cell
}

// century is the year from which two figures are read: 37 and above are of the last century.
const century = 37

func fullYear(y int) int {
	switch {
	case y >= 100:
		return y
	case y < century:
		return 2000 + y
	}
	return 1900 + y
}

// valid is the day where the calendar has it, else what was written.
func valid(cell string, year, month, day int) string {
	t := time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC)
	if t.Year() != year || int(t.Month()) != month || t.Day() != day {
		return cell
	}
	return t.Format(time.DateOnly)
}

// serial is a workbook's number of a day: 1 is 1 January 1900, and 60 a 29 February that there never was.
func (r Reading) serial(n int) string {
	from := time.Date(1899, 12, 31, 0, 0, 0, 0, time.UTC)
	switch {
	case r.since == 1904:
		from = time.Date(1904, 1, 1, 0, 0, 0, 0, time.UTC)
	case n > 59:
		n--
	}
	return from.AddDate(0, 0, n).Format(time.DateOnly)
}

// clock is an hour as 18:30: a workbook keeps it as a part of the day.
func (r Reading) clock(cell string) string {
	text := check.Tidy(cell)
	if m := withSeconds.FindStringSubmatch(text); m != nil {
		return m[1]
	}
	if r.excel && strings.HasPrefix(text, "0.") {
		if part, err := strconv.ParseFloat(text, 64); err == nil {
			minutes := int(part*24*60 + .5)
			return fmt.Sprintf("%02d:%02d", minutes/60%24, minutes%60)
		}
	}
	return cell
}

// order finds out whether the day or the month stands first: a number above 12 says it. Where none does, the day is taken to,
// and that is doubtful where it makes a difference.
func (r *Reading) order() {
	day, month, open := false, false, false
	for i, key := range r.Columns {
		if !r.column(key).Day {
			continue
		}
		for _, row := range r.data() {
			if i >= len(row.Cells) {
				continue
			}
			m := threeNumbers.FindStringSubmatch(check.Tidy(row.Cells[i]))
			if m == nil {
				continue
			}
			a, _ := strconv.Atoi(m[1])
			b, _ := strconv.Atoi(m[2])
			day, month = day || a > 12, month || b > 12
			open = open || a != b
		}
	}
	r.Days = DayFirst
	if month && !day {
		r.Days = MonthFirst
	}
	r.Doubtful = open && day == month
}
