package curriculum_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// TestBothOfAPair: each of the two reads their own steps and the other's, in every reading.
func TestBothOfAPair(t *testing.T) {
	b := school(func(c *Curriculum) {
		for i := range c.Requirements {
			if r := &c.Requirements[i]; r.Role == "defender" {
				more := *r
				more.ID, more.Role = r.ID+"-a", "attacker"
				c.Requirements = append(c.Requirements, more)
			}
		}
	})
	told := func(technique string, role Role) string {
		for _, l := range b.Compile(Asking{RungID: "yellow"}).Lines {
			if l.TechniqueID == technique && l.Role == role {
				var out []string
				for _, r := range []Reading{"", ForOther, ForOrthodox, ForSouthpaw, ForOrthodoxOther, ForSouthpawOther} {
					out = append(out, strings.Join(whats(Told(l.Moves, r)), ", ")+" against "+strings.Join(whats(Told(l.Partner, r)), ", "))
				}
				return strings.Join(out, "\n")
			}
		}
		return "none"
	}
	// The attack names its limb: it is the same for every attacker, and only its other side is mirrored.
	assert.Equal(t, strings.Join([]string{
		"left step back, right inward block against right cross", "right step back, left inward block against left cross", "left step back, right inward block against right cross",
		"left step back, right inward block against right cross", "right step back, left inward block against left cross", "right step back, left inward block against left cross"}, "\n"), told("gate", "defender"))
	assert.Equal(t, strings.Join([]string{
		"right cross against left step back, right inward block", "left cross against right step back, left inward block", "right cross against left step back, right inward block",
		"right cross against left step back, right inward block", "left cross against right step back, left inward block", "left cross against right step back, left inward block"}, "\n"), told("gate", "attacker"))
	// The attack is told by lead and rear: the attacker's stance says which arm, the defender's changes nothing.
	assert.Equal(t, strings.Join([]string{
		"same-side slip, left step back, right inward block, lead jab against lead jab, rear cross",
		"same-side slip, right step back, left inward block, lead jab against lead jab, rear cross",
		"right slip, left step back, right inward block, right jab against left jab, right cross",
		"right slip, left step back, right inward block, right jab against left jab, right cross",
		"left slip, right step back, left inward block, left jab against right jab, left cross",
		"left slip, right step back, left inward block, left jab against right jab, left cross"}, "\n"), told("wheel", "defender"))
	assert.Equal(t, strings.Join([]string{
		"lead jab, rear cross against same-side slip, left step back, right inward block, lead jab",
		"lead jab, rear cross against same-side slip, right step back, left inward block, lead jab",
		"left jab, right cross against right slip, left step back, right inward block, right jab",
		"right jab, left cross against left slip, right step back, left inward block, left jab",
		"right jab, left cross against left slip, right step back, left inward block, left jab",
		"left jab, right cross against right slip, left step back, right inward block, right jab"}, "\n"), told("wheel", "attacker"))
	// The attack is recorded, not written in moves.
	assert.Equal(t, strings.Join([]string{
		"same-name inward block, rear jab against left push", "same-name inward block, rear jab against right push", "left inward block, right jab against left push",
		"left inward block, left jab against left push", "right inward block, right jab against right push", "right inward block, left jab against right push"}, "\n"), told("push", "defender"))
	assert.Equal(t, "left step back, right inward block", b.Spoken(Line{TechniqueID: "gate", Role: "defender", Stage: 1}, -1, AsWritten))
	assert.Equal(t, "right cross", b.Spoken(Line{TechniqueID: "gate", Role: "attacker", Stage: 1}, -1, Southpaw), "limbs that are named are the same for all")
	assert.Empty(t, b.Spoken(Line{TechniqueID: "gone"}, -1, AsWritten))
	assert.Equal(t, "lead jab / goes on with Mill drill 12 / left jab, right cross to left ear (left side) / x2 step through lead jab / lead hold left.", b.Spoken(Line{TechniqueID: "on", Stage: 2}, -1, AsWritten))
	assert.Equal(t, "left jab / do / whatever", b.Spoken(Line{TechniqueID: "broken", Stage: 1}, -1, Orthodox), "what cannot be read is said as it stands")
	assert.Contains(t, b.Spoken(Line{TechniqueID: "drill", Stage: 1}, -1, Southpaw), "right jab, left cross to right ear (left side) / step through left jab, step through right jab")
	shown := b.Show(b.Technique("gate"), 1, "", AsWritten, AsWritten)
	assert.Equal(t, []string{"right cross"}, whats(shown.Attack))
	assert.Equal(t, []string{"left cross", "right jab"}, []string{b.Show(withAttack(b.Technique("gate"), "rear cross"), 1, "", Orthodox, Southpaw).Attack[0].What, b.Show(withAttack(b.Technique("gate"), "lead jab"), 1, "", Orthodox, Southpaw).Attack[0].What})
	assert.Equal(t, "lead jab", b.Show(withAttack(b.Technique("gate"), "lead jab"), 1, "", Orthodox, AsWritten).Attack[0].What)
}

// withAttack is a technique against another attack, under an id that was never told.
func withAttack(t *Technique, moves string) *Technique {
	out := *t
	out.ID, out.AttackMoves = t.ID+moves, moves
	return &out
}

// TestOneLimb: a side is a limb only where all of a technique is done with one.
func TestOneLimb(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.Program.SideMeans = ByLimb
		for id, moves := range map[string]string{"one": "lead jab, lead cross", "both": "lead jab, rear cross", "stood": "step back, lead jab in horse stance", "words": "Wait.", "double": "left jab, right jab"} {
			c.Techniques = append(c.Techniques, Technique{ID: id, Name: id + " limb", Kind: "combination", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{moves})}}}})
		}
		c.Techniques = append(c.Techniques, Technique{ID: "kick", Name: "Kick", Kind: "kick"}, Technique{ID: "crane", Name: "Crane", Kind: "balance"}, Technique{ID: "late", Name: "Late", Kind: "combination", TechniqueDetails: TechniqueDetails{
			Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"lead jab"})}, {Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"rear jab"})}}}})
	})
	got := map[string]SideMeaning{}
	for _, id := range []string{"one", "both", "stood", "words", "double", "kick", "crane", "late", "jab", "horse", "form", "slip"} {
		got[id] = b.SideMeans(Quantity{Measure: RepsPerSide, Reps: 1}, b.Technique(id))
	}
	assert.Equal(t, map[string]SideMeaning{"one": ByLimb, "both": ByStance, "stood": ByLimb, "words": ByStance, "double": ByStance, "kick": ByLimb, "crane": ByLimb, "late": ByStance, "jab": ByLimb, "horse": ByStance, "form": ByStance, "slip": ByStance}, got)
	assert.Equal(t, ByDirection, b.SideMeans(Quantity{Measure: RepsPerSide, Reps: 1, Side: ByDirection}, b.Technique("both")))
	assert.Empty(t, Settled(b, Quantity{Measure: RepsInAll, Reps: 1, Side: ByLimb}, b.Technique("jab")).Side, "in all there are no sides")
	assert.Equal(t, []SideMeaning{ByLimb, ""}, []SideMeaning{Settled(b, Quantity{Measure: NoTouchDown, Reps: 1}, b.Technique("kick")).Side, Settled(b, Quantity{Measure: RepsPerSide, Reps: 1}, b.Technique("both")).Side})
	hold := Line{Quantity: Quantity{Measure: Holds, Reps: 2, Seconds: 9}}
	assert.Equal(t, []Set{{Turn: HoldFor, N: 1, Of: 2, Seconds: 9}, {Turn: HoldFor, N: 2, Of: 2, Seconds: 9}}, hold.Sets(nil, 0))
	rounds := Line{Quantity: Quantity{Measure: RoundsTimed, Rounds: 2, Seconds: 60, Rest: 30}}
	assert.Equal(t, []Set{{Turn: Round, N: 1, Of: 2, Seconds: 60, Rest: 30}, {Turn: Round, N: 2, Of: 2, Seconds: 60}}, rounds.Sets(nil, 0))
}

// TestFolding: what one line keeps of two, and what makes a demand a larger one.
func TestFolding(t *testing.T) {
	folded := func(change func(a, b *Requirement)) Line {
		b := ladder(t, "White\n\tStrikes\n\tJab, 5 a side\n\tJab, 3 a side\nYellow\n\tStrikes\n\tJab, 4 a side", func(c *Curriculum) {
			technique(c, "jab").Checkpoints = []string{"a", "b", "c"}
			change(&c.Requirements[0], &c.Requirements[1])
		})
		lines := b.Compile(Asking{RungID: "white", Adaptations: []Adaptation{{TechniqueID: "knee", Does: Excuse}}}).Lines
		require.Len(t, lines, 1)
		return lines[0]
	}
	assert.Equal(t, []string{"a", "b"}, folded(func(a, b *Requirement) { a.Checks, b.Checks = []string{"a"}, []string{"b", "a"} }).Checkpoints)
	assert.Equal(t, []string{"a", "b", "c"}, folded(func(a, b *Requirement) { a.Checks = []string{"a"} }).Checkpoints, "none named: all count")
	for _, x := range [][2]notation.Level{{"low", "high"}, {"high", "low"}, {"", "high"}, {"high", ""}} {
		assert.Equal(t, notation.High, folded(func(a, b *Requirement) { a.LeastLevel, b.LeastLevel = x[0], x[1] }).Level)
	}
	assert.Equal(t, []bool{true, false, false}, []bool{folded(func(a, b *Requirement) { a.Supported, b.Supported = true, true }).Supported, folded(func(a, b *Requirement) { a.Supported = true }).Supported, folded(func(a, b *Requirement) { b.Supported = true }).Supported})
	cover := folded(func(a, b *Requirement) { b.Setting, b.Covers = "pads", true })
	assert.Equal(t, Setting("pads"), cover.Setting)
	assert.Equal(t, []string{"Jab, 3 a side, on pads"}, cover.Covers)
	assert.Equal(t, 1, folded(func(a, b *Requirement) { a.Sprint = 1 }).Sprint)
	assert.Equal(t, []Why{{Kind: WhyAsked, Rung: "White"}}, folded(func(a, b *Requirement) {}).Why, "one reason is said once")
	yellow := func(change func(c *Curriculum)) Line {
		return ladder(t, "No belt\nWhite\n\tStrikes\n\tJab, 5 a side\n\tJab, 3 a side\nYellow\n\tStrikes\n\tJab, 4 a side", change).Compile(Asking{RungID: "yellow"}).Lines[0]
	}
	assert.Equal(t, Carried, yellow(func(*Curriculum) {}).Freshness)
	assert.Equal(t, Grown, yellow(func(c *Curriculum) { c.Requirements[2].Quantity.Reps = 6 }).Freshness)
	assert.Equal(t, Grown, yellow(func(c *Curriculum) { c.Requirements[2].Quantity = Quantity{Measure: Timed, Seconds: 900} }).Freshness, "another unit")
	assert.Equal(t, Grown, yellow(func(c *Curriculum) { c.Requirements[2].Quantity.Side, c.Requirements[2].Quantity.Reps = ByLimb, 9 }).Freshness)
	checks := func(first, second, now []string) Freshness {
		return yellow(func(c *Curriculum) {
			technique(c, "jab").Checkpoints = []string{"a", "b", "c"}
			c.Requirements[0].Checks, c.Requirements[1].Checks, c.Requirements[2].Checks = first, second, now
		}).Freshness
	}
	assert.Equal(t, []Freshness{Grown, Carried, Carried, Grown}, []Freshness{checks([]string{"a"}, []string{"b"}, nil), checks([]string{"a"}, nil, nil), checks(nil, []string{"a"}, nil), checks([]string{"a"}, []string{"b"}, []string{"c"})})
	assert.Equal(t, []bool{true, false}, []bool{func() bool {
		l, _ := (Quantity{Measure: CountWithin, Reps: 21, Seconds: 60}).Larger(Quantity{Measure: CountWithin, Reps: 40, Seconds: 120})
		return l
	}(), func() bool { _, c := (Quantity{Measure: Timed}).Larger(Quantity{Measure: Holds}); return c }()})
	old, now := Line{Section: "A", Stage: 1, Stages: 2, MustPass: true, Checkpoints: []string{"a"}, Detail: "x", Moves: []StripMove{{What: "jab"}}}, Line{Section: "A", Stage: 1, Stages: 2, Bonus: true, Checkpoints: []string{"b"}, Moves: []StripMove{{What: "cross", How: "low"}}}
	assert.Equal(t, []Differing{{ChangedMust, "", "yes"}, {ChangedBonus, "yes", ""}, {ChangedLooked, "b", "a"}, {ChangedMoves, "cross low", "jab"}, {ChangedRemark, "", "x"}}, LineChanges(&old, &now))
	now = old
	now.Stage = 2
	assert.Equal(t, []Differing{{ChangedPart, "2", "1"}}, LineChanges(&old, &now))
	day := Adaptation{TechniqueID: "jab", Does: Excuse, Reason: "x"}
	b := ladder(t, simple)
	assert.Empty(t, b.CheckAdaptation(day))
	for _, line := range []string{"leaning → upright", "chin up → a choke → chin down", "! no guard", "falls → hurt →"} {
		assert.Equal(t, line, ParseFaults([]string{line})[0].String())
	}
}
