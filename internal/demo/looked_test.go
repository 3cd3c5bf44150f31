package demo

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
)

// TestTheSchoolAsItWasLookedAt: the demo school of one day, in full, is what it was when
// somebody looked at it last. After a change that is meant: go test ./internal/demo -run
// LookedAt -update, and look at the demo.
func TestTheSchoolAsItWasLookedAt(t *testing.T) {
	golden.Alone(t)
	today := civil.MustParse("2026-11-24")
	var out []string
	say := func(what string, values ...any) {
		for _, v := range values {
			text, err := json.Marshal(v)
			require.NoError(t, err)
			what += " " + string(text)
		}
		out = append(out, what)
	}
	for _, p := range At(today).Programs {
		b := curriculum.Open(p.Curriculum)
		say("program", p.Program, p.Story)
		for _, x := range p.Techniques {
			say("technique", x)
		}
		for _, r := range p.Rungs {
			say("rung", r)
			out = append(out, binder.For(b).PageOf(r.ID))
		}
		kit := []string{"gloves", "shin guards", "mouthguard", "belt"}
		for _, s := range p.Students {
			looked, owned, member := s.Papers(kit, today)
			say("student", s.Student, s.Start, s.Since, s.skill, looked, owned, member)
			var classes, lates, live, right, tried, lefts, halves, clips, wants, unseen int
			var marks scoring.Decimal
			for _, c := range Week(today.AddMonths(-30)) {
				for d := today.AddDays(-300); !today.Before(d); d = d.AddDays(1) {
					if comes, late, mode := s.Comes(c.Class, d, today); comes && d.Weekday() == c.Weekday {
						classes, lates, live = classes+1, lates+number(late), live+number(mode != "hall")
					}
				}
			}
			for i, x := range p.Techniques[:40] {
				d := today.AddDays(-7 * i)
				is, did := s.Shows(x.Name, d)
				right, tried, clips, halves = right+number(is), tried+number(did), clips+number(s.Seen(x.Name)), halves+number(s.OneSideOnly(x.Name, d))
				lefts += number(s.Side(x.Name, d, "") == "left") + 100*number(s.Side(x.Name, d, "left") == "right" && s.Side(x.Name, d, "right") == "left")
				wants += number(WantsToTest(s.Name, i%9, d, today))
				for _, o := range Officers {
					m, seen := p.Mark(s.Name, o.Name, x.Name, i%5 == 0, d, p.Gradings[0].Policy.Scale)
					marks, unseen = marks+m, unseen+number(!seen)
				}
			}
			say("  came, late, live; right, tried, left first, one side, on clips; may test; marks, not seen", classes, lates, live, right, tried, lefts, halves, clips, wants, marks, unseen)
		}
		for _, g := range p.Gradings {
			say("grading", g.Grading, g.Stage, g.Rungs, g.Most)
		}
	}
	for _, c := range Week(today) {
		say("class", c)
	}
	for _, c := range Holidays(today) {
		say("closed", c)
	}
	say("officers", Officers)
	golden.Hold(t, "testdata/school.txt", strings.Split(strings.Join(out, "\n"), "\n"), nil)
}

func number(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
