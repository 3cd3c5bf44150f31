package binder

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// answersTold are what the page says may be written where it asks, how somebody writes that, and what the line is then.
var answersTold = []struct {
	said    *regexp.Regexp
	written func(line string, m []string) string
	is      func(l PageLine, m []string) bool
}{
	{regexp.MustCompile(`write it at the end of the line, for example \[kind (kick)\]`), atEnd(" [kind kick]"), func(l PageLine, _ []string) bool { return l.Kind == "kick" }},
	{regexp.MustCompile(`^numbered$`), atEnd(", not a number"), func(l PageLine, _ []string) bool { return !l.Asked }},
	{regexp.MustCompile(`the attack in brackets behind a name, for example \(rear choke\)`), atEnd(" (rear choke)"), func(l PageLine, _ []string) bool { return curriculum.AttackWords(l.Attack) == "rear choke" }},
	{regexp.MustCompile(`^“\((\d+)\)” is read as a remark; where it is the amount, write it without brackets`), func(line string, m []string) string {
		return strings.Replace(line, "("+m[1]+")", ", "+m[1]+" times", 1)
	},
		func(l PageLine, m []string) bool { return l.Quantity.String() == m[1]+" times" }},
	{regexp.MustCompile(`write “knowledge question” on the line`), atEnd(", knowledge question"), func(l PageLine, _ []string) bool { return l.Kind == "knowledge" }},
	{regexp.MustCompile(`write the name of what is chosen from and “free choice”`), atEnd(", free choice"), func(l PageLine, _ []string) bool { return l.Free }},
	{regexp.MustCompile(`in all; write (\d+) a side behind the name for each side`), func(line string, m []string) string {
		return regexp.MustCompile(`\b`+m[1]+`\b`).ReplaceAllString(line, "") + ", " + m[1] + " a side"
	}, func(l PageLine, m []string) bool { return l.Quantity.String() == m[1]+" a side" }},
}

func atEnd(words string) func(string, []string) string {
	return func(line string, _ []string) string { return strings.TrimRight(line, " \t") + words }
}

// TestAnsweredAsTold: who writes what the page says may be written is understood, on pages of every habit; one in ten lines may say several
// things at once and be asked about again.
func TestAnsweredAsTold(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	n, missed := 0, []string(nil)
	eachRead(t, 5, func(at string, b *Reader, page []string, lines []PageLine, i int) {
		l := lines[i]
		if i > 0 && lines[i-1].Number == l.Number || i+1 < len(lines) && lines[i+1].Number == l.Number {
			return
		}
		reasons := []string{l.Problem}
		for _, d := range l.Doubts {
			reasons = append(reasons, d.Reason)
		}
		if l.Asked {
			reasons = append(reasons, "numbered")
		}
		for _, x := range answersTold {
			k := slices.IndexFunc(reasons, x.said.MatchString)
			if k < 0 {
				continue
			}
			m := x.said.FindStringSubmatch(reasons[k])
			answered := slices.Clone(page)
			answered[l.Number-1] = x.written(answered[l.Number-1], m)
			n++
			if !slices.ContainsFunc(asRead(b, answered), func(y PageLine) bool { return y.Number == l.Number && x.is(y, m) }) {
				missed = append(missed, at+" "+answered[l.Number-1])
			}
		}
	})
	assert.Greater(t, n, 50)
	assert.LessOrEqual(t, 10*len(missed), n, strings.Join(missed, "\n"))
}
