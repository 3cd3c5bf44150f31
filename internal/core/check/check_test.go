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

// TestBounds: the most that fits, one more, and the characters at the ends of what is refused.
func TestBounds(t *testing.T) {
	one := func(look func(*Problems)) string {
		var p Problems
		look(&p)
		return p.Of("f")
	}
	line := func(s string) string { return one(func(p *Problems) { p.Line("f", s, 5) }) }
	assert.Equal(t, []string{"", "", "has 6 characters; up to 5 fit"}, []string{line(""), line("ääääa"), line("ääääää")})
	for r, bad := range map[rune]bool{0x2029: false, 0x202A: true, 0x202E: true, 0x202F: false, 0x2065: false, 0x2066: true, 0x2069: true, 0x206A: false, 0x1F: true, 0x20: false, 0x7F: true, 0x9F: true, 0xA0: false} {
		assert.Equal(t, bad, line("a"+string(r)) != "", "U+%04X", r)
	}
	lines := func(n int) string { return one(func(p *Problems) { p.Lines("f", strings.Repeat("x\n", n)) }) }
	assert.Equal(t, []string{"", "has 41 lines; up to 40 fit"}, []string{lines(40), lines(41)})
	assert.Equal(t, "has 301 characters; up to 300 fit", one(func(p *Problems) { p.Lines("f", "a\n"+strings.Repeat("x", 301)) }))
	text := func(s string) string { return one(func(p *Problems) { p.Text("f", s) }) }
	assert.Equal(t, []string{"", "", "has 4001 characters; up to 4000 fit"}, []string{text(strings.Repeat("é", 4000)), text("a\tb"), text(strings.Repeat("é", 4001))})
	assert.Equal(t, "line 3 holds an invisible control character (U+0007) as character 2; take it out", text("a\nb\nc\x07"))
	whole := func(s string) string { return one(func(p *Problems) { p.Whole("f", s, 2, 9, 0) }) }
	assert.Equal(t, []string{"is 1; it must be from 2 to 9", "", "", "is 10; it must be from 2 to 9"}, []string{whole("1"), whole("2"), whole("9"), whole("10")})
	long := strings.Repeat("9", 41)
	assert.Contains(t, whole(long[:40]+"x"), `"`+long[:40]+`…" is not`, "a long wrong entry is shown in part")
	assert.Contains(t, whole(long[:39]+"x"), `"`+long[:39]+`x" is not`)
	date := func(s string) string { return one(func(p *Problems) { p.Date("f", s) }) }
	assert.Contains(t, date("31 "+long+long), "31 "+long[:37]+"…")
	assert.Equal(t, 1, strings.Count(date("2026-02-30"), "2026-02-30"))
	var p Problems
	assert.True(t, p.Date("f", " ").IsZero())
	assert.Equal(t, "2026-02-28", p.Date("f", " 2026-02-28 ").String())
	assert.Empty(t, p)
	assert.Equal(t, "name: is empty; write a name of up to 80 characters; x: no", append(Problems{{"name", "is empty; write a name of up to 80 characters"}}, Problem{"x", "no"}).Error())
	assert.Equal(t, 1, len(strings.Split(one(func(p *Problems) { p.Name("f", ""); p.Name("f", strings.Repeat("x", 81)) }), "has 81")), "only the first is said")
}

// TestNaturalByParts: against names cut into words and numbers by hand.
func TestNaturalByParts(t *testing.T) {
	for _, x := range []struct {
		a, b  string
		order int
	}{
		{"", "", 0}, {"", "a", -1}, {"a", "", 1}, {"a", "A ", 0}, {"a1", "a1", 0}, {"a1", "a01", 0}, {"a2", "a10", -1}, {"a10", "a2", 1}, {"a9b", "a9a", 1}, {"a19", "a21", -1}, {"a1", "ab", -1}, {"1", "a", -1}, {"b", "1", 1},
		{"a0", "a00", 0}, {"a0", "a1", -1}, {"a12 b2", "a12 b10", -1}, {"a1", "a", 1}, {"a/", "a0", -1}, {"a:", "a9", 1},
	} {
		assert.Equal(t, x.order, Natural(x.a, x.b), "%q %q", x.a, x.b)
		assert.Equal(t, -x.order, Natural(x.b, x.a), "%q %q", x.b, x.a)
	}
}
