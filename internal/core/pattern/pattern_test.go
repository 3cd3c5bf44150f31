package pattern

import (
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// expressions are of every sort that a sieve has to understand, or to know that it does not.
var expressions = []string{
	`jab`, `(?i)jab`, `(?i)kiss`, `(?i)\bk\b`, `(?i)s$`, `[ks]tep`, `(?i)[ks]tep`, `é`, `(?i)é`, `(?i)caféà`, `…{2,}|\.{3,}`, `[–—-] ?left`,
	`^(?:left|right) (?:jab|cross)e?s?$`, `\b(?:a|b)?\b`, `x*`, `x*jab|left`, `(?:jab)+`, `(?:jab){2,3}`, `(?:jab){0,3}`, `[^a-z]`, `\d+ ?x`, `[0-9]½`,
	`(?i)(left|right)[ -](\pL+)`, `$^`, `[^\x00-\x{10FFFF}]`, `.`, `(?s).`, ``, `\?$|how|who|when`, `(j)(a)(b)`, `K`, `ſ`, `(?i)ſ`, `\t| {2,}`, `\x{80}`, `(?i)Σ`,
}

// pieces are what texts are put together of.
var pieces = []string{"j", "a", "b", "jab", "Jab", "JAB", "cross", "left", "Right", "k", "K", "s", "S", "step", "ſ", "\u212A", "\u2126", "é", "É", "à", "…", ".", "–", "-",
	" ", "  ", "\t", "1", "9", "½", "x", "?", "how", "who", "ki", "ss", "\xff", "\xc5", "\x80", "σ", "ς", "Σ", "\n", "ö"}

// Whatever is asked of a pattern, the answer is that of package regexp.
func TestAsRegexp(t *testing.T) {
	draw := rand.New(rand.NewPCG(1, 2))
	found, held := 0, 0
	for _, expr := range expressions {
		p, re := Of(expr), regexp.MustCompile(expr)
		assert.Equal(t, expr, p.String())
		for range 250 {
			var text strings.Builder
			for range draw.IntN(6) {
				text.WriteString(pieces[draw.IntN(len(pieces))])
			}
			s := text.String()
			same := func(want, got any) { t.Helper(); assert.Equal(t, want, got, "%q in %q", expr, s) }
			same(re.MatchString(s), p.MatchString(s))
			same(re.FindString(s), p.FindString(s))
			same(re.FindStringIndex(s), p.FindStringIndex(s))
			same(re.FindStringSubmatch(s), p.FindStringSubmatch(s))
			same(re.FindStringSubmatchIndex(s), p.FindStringSubmatchIndex(s))
			same(re.ReplaceAllString(s, "<$1>"), p.ReplaceAllString(s, "<$1>"))
			same(re.ReplaceAllStringFunc(s, strings.ToUpper), p.ReplaceAllStringFunc(s, strings.ToUpper))
			n := draw.IntN(4) - 1
			same(re.FindAllString(s, n), p.FindAllString(s, n))
			same(re.FindAllStringIndex(s, n), p.FindAllStringIndex(s, n))
			same(re.FindAllStringSubmatch(s, n), p.FindAllStringSubmatch(s, n))
			same(re.FindAllStringSubmatchIndex(s, n), p.FindAllStringSubmatchIndex(s, n))
			same(re.Split(s, n), p.Split(s, n))
			if re.MatchString(s) {
				found++
			} else if p.in(s) == nil {
				held++
			}
		}
	}
	assert.Greater(t, found, 1200, "something is found")
	assert.Greater(t, held, 3500, "most of what is not found is held back by the sieve")
}

func TestWhatIsHeldBack(t *testing.T) {
	for _, x := range []struct{ expr, through, back string }{
		{`(?i)\bjabs?\b`, "a bag, a jab", "a bag, a jar"},
		{`(?:left|right) (?:jab|cross)`, "right cross", "right punch"}, // of each group one
		{`\b(?:one|two) boards?\b|\bbreaking$`, "two boards", "two bores"},
		{`how|kn(?:ow|ew)`, "show", "won"},
		{`\d½`, "2½", "25"},
		{`[–—] ?left`, "– left", "- left"},
		{`(?i)[xy]\d`, "X 3", "x y"},
		{`(?:jab){2,}`, "jab", "lab"},
		{`(?i)step`, "ſtop", "stop"}, // a letter that may be an s lets all through
		{`(?i)step`, "STEP", "stűp ✓"},
		{`[ab]c?`, "cab", "cc"},
		{`q`, "Q", "p"},
		{`a{0}b|cd`, "cod b", "cod"},
	} {
		p := Of(x.expr)
		assert.NotNil(t, p.in(x.through), "%q, %q", x.expr, x.through)
		assert.Nil(t, p.in(x.back), "%q, %q", x.expr, x.back)
	}
	for _, expr := range []string{`x*`, `\b\w+\b`, `[a-z]jab?`, `jab|\pL+`, `[^jab]`} { // the third is known by its letters j and a
		assert.NotNil(t, Of(expr).in("ja"), expr)
	}
	assert.Panics(t, func() { Of(`(`).MatchString("") })
}

func BenchmarkNotThere(b *testing.B) {
	const expr = `(?i)\b(?:two|2)[- ](?:person|man|woman) sets?\b|\b(?:paired|partner) sets?\b|\bpre-?arranged\b`
	const line = "Front kick off the rear leg, ten on each side, knee up first"
	b.Run("pattern", func(b *testing.B) {
		for p := Of(expr); b.Loop(); {
			p.MatchString(line)
		}
	})
	b.Run("regexp", func(b *testing.B) {
		for re := regexp.MustCompile(expr); b.Loop(); {
			re.MatchString(line)
		}
	})
}
