package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestAColumnForEachMark: what each mark looks like stands on the line, and how much the best of them is told with; columns without two marks of
// their own are remarks.
func TestAColumnForEachMark(t *testing.T) {
	read := func(page string) string {
		var out []string
		for _, l := range island(nil).ParsePage(page) {
			if l.Aside != "" {
				continue
			}
			said := fmt.Sprintf("%s, %s (%s)", l.Name, l.Quantity, l.Note)
			for _, look := range l.MarkLooks {
				said += fmt.Sprintf(" %s: %s;", look.Mark, look.Looks)
			}
			out = append(out, said)
		}
		return strings.Join(out, "|")
	}
	for page, want := range map[string]string{
		"Skill\tBeginning (1)\tNearly (2)\tGot it (3)\nLow kick\tno knee\tknee up, no snap\tsnap and back, 10 each leg": "Low kick, 10 each limb () 1: no knee; 2: knee up, no snap; 3: snap and back, 10 each leg;",
		"Skill\t3 points\t1 point\nLow kick\tcrisp\tloose":                                                              "Low kick, 5 a side () 1: loose; 3: crisp;",
		"Skill\tHow much\t1\t2\nLow kick\t6\tloose\tcrisp, 8 each leg":                                                  "Low kick, 6 times () 1: loose; 2: crisp, 8 each leg;",
		"Skill\t1 = loose\t2 = crisp\nLow kick\t-\talways\n\nHigh kick, 4":                                              "Low kick, 5 a side () 2: always;|High kick, 4 times ()",
		"Skill\tHow much\tHall (1)\tGarden\nLow kick\t6\tloose\tcrisp":                                                  "Low kick, 6 times (loose, crisp)",
		"Skill\tHow much\tMonth (1)\tWeek (1)\nLow kick\t6\tloose\tcrisp":                                               "Low kick, 6 times (loose, crisp)",
		"Skill\tHow much\tBeginning (1)\tNearly (2)\nAttitude\t\tmoody\tcheerful":                                       "Attitude, once () 1: moody; 2: cheerful;",
	} {
		assert.Equal(t, want, read(page), page)
	}
}
