package check

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestProblemsSayWhatIsWrongAndWhatIsRight(t *testing.T) {
	var p Problems
	assert.NoError(t, p.Err())
	p.Name("name", "")
	p.Name("name", "said once a field")
	p.Name("long", strings.Repeat("ä", 81))
	p.Line("bell", "a\x07b", 80)
	p.Line("turned", "ab\u2067c", 80)
	assert.Equal(t, 7, p.Whole("many", "seven", 1, 9, 7))
	assert.Equal(t, 12, p.Whole("more", " 12 ", 1, 9, 7))
	assert.Equal(t, 7, p.Whole("empty", "", 1, 9, 7))
	p.Date("on", "31/12/2026")
	OneOf(&p, "stance", "sideways", []string{"orthodox", "southpaw"})
	assert.Equal(t, "is empty; write a name of up to 80 characters", p.Of("name"))
	assert.Equal(t, "has 81 characters; up to 80 fit", p.Of("long"))
	assert.Contains(t, p.Of("bell"), "(U+0007) as character 2")
	assert.Contains(t, p.Of("turned"), "(U+2067) as character 3")
	assert.Equal(t, `"seven" is not a whole number; write one from 1 to 9`, p.Of("many"))
	assert.Equal(t, "is 12; it must be from 1 to 9", p.Of("more"))
	assert.Contains(t, p.Of("on"), "write it as YYYY-MM-DD")
	assert.Equal(t, `"sideways" is not a choice; it must be one of orthodox, southpaw`, p.Of("stance"))
	assert.Empty(t, p.Of("empty"))
	assert.ErrorContains(t, p.Err(), "name: is empty")
}

func TestTextIsTidied(t *testing.T) {
	assert.Equal(t, "Ada Rill", Tidy("  Ada\t\n Rill "))
	assert.Equal(t, "a\uFFFDb", Tidy("a\xffb"))
	assert.Equal(t, Key("WHITE  belt"), Key("white belt"))
	var p Problems
	assert.Equal(t, []string{"one", "two"}, p.Lines("f", "one\r\n\n  two \n"))
	assert.Equal(t, "a\nb", p.Text("f", "a\r\nb\n\n"))
	assert.Empty(t, p)
	p.Lines("many", strings.Repeat("x\n", 41))
	p.Text("long", strings.Repeat("x", 4001))
	p.Text("odd", "fine\nbad\x00")
	assert.Equal(t, "has 41 lines; up to 40 fit", p.Of("many"))
	assert.Equal(t, "has 4001 characters; up to 4000 fit", p.Of("long"))
	assert.Contains(t, p.Of("odd"), "line 2 holds an invisible control character")
	for _, name := range []string{"كاراتيه", "Zo\u0308e\u0301", "唐手", "О’Нил"} {
		var q Problems
		q.Name("name", name)
		assert.Empty(t, q, name)
	}
}

func TestNatural(t *testing.T) {
	names := []string{"Drill 10", "drill 2", "Drill", "drill 2 b", "Arm 07", "arm 7", "Drill 02", "Ärm", "drill x"}
	slices.SortStableFunc(names, Natural)
	assert.Equal(t, []string{"Arm 07", "arm 7", "Drill", "drill 2", "Drill 02", "drill 2 b", "Drill 10", "drill x", "Ärm"}, names)
}
