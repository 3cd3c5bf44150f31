package curriculum

import (
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/pattern"
)

var numberedName = pattern.Of(`^(\p{L}.*?)[ .#-]*?(?i: no\.?| nr\.?| number)? ?#?(\d{1,3})\.?$`)

// NumberedName reads a name such as "Mill drill 12" as a number of a series: "Mill drill", 12.
// numbered is false where it is no such name.
func NumberedName(name string) (series string, number int, numbered bool) {
	m := numberedName.FindStringSubmatch(check.Tidy(name))
	if m == nil || !strings.Contains(name, " ") && !strings.Contains(name, "#") {
		return "", 0, false
	}
	number, err := strconv.Atoi(m[2])
	series = strings.TrimRight(check.Tidy(m[1]), " -.#")
	return series, number, err == nil && number > 0 && series != ""
}

// Numbers reports whether a name that looks like a number of a series is one in this program:
// the owner has not said otherwise. known is true where the series has other numbers already.
func (b *Book) Numbers(name string) (series string, number int, known, numbered bool) {
	series, number, numbered = NumberedName(name)
	if !numbered || slices.ContainsFunc(b.Program.NoSeries, func(s string) bool { return check.Key(s) == check.Key(series) }) {
		return "", 0, false, false
	}
	for i := range b.Techniques {
		if s := b.Techniques[i].Series; check.Key(s) == check.Key(series) {
			return s, number, true, true
		}
	}
	return series, number, false, true
}

// Number gives a technique its place in the series its name speaks of, where it has none.
func (b *Book) Number(t *Technique) {
	if t.Series != "" || t.Number != 0 {
		return
	}
	if series, number, _, numbered := b.Numbers(t.Name); numbered {
		t.Series, t.Number = series, number
	}
}

// Unnumbered takes a series back to plain names, and remembers that names like it are no
// numbers of a series.
func (b *Book) Unnumbered(series string) (c Curriculum, n int) {
	c = b.Curriculum
	c.Techniques = slices.Clone(c.Techniques)
	for i := range c.Techniques {
		if t := &c.Techniques[i]; check.Key(t.Series) == check.Key(series) {
			t.Series, t.Number = "", 0
			n++
		}
	}
	c.Program.NoSeries = append(slices.Clone(c.Program.NoSeries), series)
	return c, n
}
