package binder

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
	"velvetladder/internal/core/scoring"
)

// A table with a column for each mark says what the mark looks like: Skill | Beginning (1) | Nearly (2) | Got it (3).

// markHead is the head of such a column: Beginning (1), 2 points, 3 = strong.
var markHead = pattern.Of(`(?i)\(([0-9])\)$|^([0-9]) ?(?:points?|pts?|marks?)?$|^([0-9]) ?[-–=:.] ?\pL`)

// markColumns takes the columns of marks out of those that nobody knows, where there are at least two and each has a mark of its own.
func (c *columns) markColumns() {
	marks := map[int]string{}
	for _, i := range c.others {
		if m := markHead.FindStringSubmatch(c.called[i]); m != nil {
			marks[i] = m[1] + m[2] + m[3]
		}
	}
	told := map[string]bool{}
	for _, mark := range marks {
		told[mark] = true
	}
	if len(marks) < 2 || len(told) < len(marks) {
		return
	}
	c.marks = marks
	c.others = slices.DeleteFunc(c.others, func(i int) bool { return marks[i] != "" })
}

// looks are what the marks look like in a row, by rising mark, and the amount that the best of them is told with where the table has no column
// for it: snap and back, 10 each leg.
func (c columns) looks(cells []string) (out []curriculum.MarkLook, amount string) {
	for i, mark := range c.marks {
		if i >= len(cells) || saidIn(strings.TrimSpace(cells[i])) == "" {
			continue
		}
		m, err := scoring.ParseDecimal(mark)
		if err != nil {
			panic(err) // a digit
		}
		out = append(out, curriculum.MarkLook{Mark: m, Looks: check.Tidy(cells[i])})
	}
	slices.SortFunc(out, func(a, b curriculum.MarkLook) int { return cmp.Compare(a.Mark, b.Mark) })
	if n := len(out); n > 0 && c.amount < 0 {
		if at := strings.LastIndex(out[n-1].Looks, ", "); at >= 0 {
			if said := strings.TrimSpace(out[n-1].Looks[at+1:]); curriculum.IsAmount(said) && !curriculum.Bare(said) {
				amount = said
			}
		}
	}
	return out, amount
}
