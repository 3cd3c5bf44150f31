package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestListsOnALine: what stands on a line, behind a label or below a heading, is each thing with its amount, in every way to write these, as told
// apart here by splitting at commas alone; or it is asked about.
func TestListsOnALine(t *testing.T) {
	golden.Alone(t)
	labels := map[string]struct {
		noun  string
		short []string
	}{
		"Kicks": {"kick", []string{"front", "side", "round"}}, "KICKS": {"kick", []string{"axe", "hook", "crescent"}}, "Blocks": {"block", []string{"low", "high", "inside"}},
		"Stances": {"stance", []string{"horse", "cat", "back"}}, "Throws": {"throw", []string{"hip", "shoulder"}},
		"Strikes": {"", []string{"jab", "palm heel", "ridge hand"}}, "Fitness": {"", []string{"squats", "burpees", "press-ups"}},
	}
	ofEach := []string{"", " x10", " x 10", " 10 each", ", 10 each", " (10)", " x 10 each side", " 10 times", " 10x", " 20 secs"}
	ofAll := []string{", x10", ", 10 each", " - 10 each", " (10 each)", ", 20 secs each", ", 10 of each"}
	said := func(amount string) string {
		for _, x := range []struct{ in, out string }{{"20 secs", "20 s"}, {"each side", "10 a side"}, {"10", "10"}} {
			if strings.Contains(amount, x.in) {
				return x.out
			}
		}
		return ""
	}
	lines, asked, between := 0, 0, ""
	check := func(line string, names, amounts []string, noun string) {
		lines++
		line = strings.Replace(line, ": ", between, 1)
		var got, want []string
		for _, l := range island(nil).ParsePage(line) {
			if l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits {
				asked++
				return
			}
			amount := ""
			switch q := l.Quantity; {
			case l.usual:
			case q.Measure == curriculum.Timed || q.Measure == curriculum.TimedSide:
				amount = fmt.Sprint(q.Seconds, " s")
			case q.Measure == curriculum.RepsPerSide:
				amount = fmt.Sprint(q.Reps, " a side")
			default:
				amount = fmt.Sprint(q.Reps)
			}
			got = append(got, strings.ToLower(l.Name)+" "+amount)
		}
		for i, name := range names {
			if noun != "" && !strings.HasSuffix(name, noun) {
				name += " " + noun
			}
			want = append(want, name+" "+said(amounts[i]))
		}
		loose := func(all []string) string { // each may be in all or a side
			return strings.NewReplacer(" a side", "").Replace(strings.Join(all, ", "))
		}
		assert.Equal(t, loose(want), loose(got), line)
	}
	for _, between = range []string{": ", "\n"} {
		for label, x := range labels {
			for n := 2; n <= len(x.short); n++ {
				for _, long := range []bool{false, true} {
					names := append([]string{}, x.short[:n]...)
					if long && x.noun == "" {
						continue
					}
					for i := range names {
						if long {
							names[i] += " " + x.noun
						}
					}
					for _, sep := range []string{", ", "; "} {
						for _, amount := range ofEach {
							var parts, amounts []string
							for _, name := range names {
								parts, amounts = append(parts, name+amount), append(amounts, amount)
							}
							if sep == ", " && strings.HasPrefix(amount, ",") {
								continue
							}
							check(label+": "+strings.Join(parts, sep), names, amounts, x.noun)
						}
					}
					for _, amount := range ofAll {
						amounts := make([]string, n)
						for i := range amounts {
							amounts[i] = amount
						}
						check(label+": "+strings.Join(names, ", ")+amount, names, amounts, x.noun)
					}
					mixed := make([]string, n)
					mixed[0] = " x10"
					check(label+": "+names[0]+" x10, "+strings.Join(names[1:], ", "), names, mixed, x.noun)
				}
			}
		}
	}
	assert.Greater(t, lines, 1000)
	assert.LessOrEqual(t, 20*asked, lines, "asked about")
}
