package curriculum_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// TestFeetAreTold: which foot moves and who leads, where that is told apart.
func TestFeetAreTold(t *testing.T) {
	b := school()
	for line, want := range map[string][2]string{ // as written, and with the left foot forward
		"left step back": {"left foot moves, right leads", "left foot moves, right leads"}, "step back": {"", ""}, "lead step": {"", "left foot moves"}, "rear step": {"the other foot leads", "right foot moves, right leads"},
		"step through": {"the other foot leads", "right foot moves, right leads"}, "x2 step through": {"", ""}, "switch": {"the other foot leads", "right leads"}, "turn cw 180": {"the other foot leads", "right foot moves, right leads"},
		"turn cw 90": {"", ""}, "slide": {"", ""}, "right slide": {"right foot moves", "right foot moves"}, "jab in right front stance": {"right leads", "right leads"}, "turn cw 90 in right front stance": {"right foot moves, right leads", "right foot moves, right leads"},
		"left jab": {"", ""}, "step through lead jab": {"the other foot leads", "right foot moves, right leads"}, "from ready: step": {"", "left foot moves, left leads"}, "from ready: right step back": {"right foot moves, left leads", "right foot moves, left leads"}, "left horse": {"", ""},
	} {
		seq, err := b.Read(line)
		if line == "left horse" {
			assert.Error(t, err)
			continue
		}
		require.NoError(t, err, line)
		cells := b.StripOf(seq)
		assert.Equal(t, want[0], cells[0].Feet, line)
		assert.Equal(t, want[1], b.Strip(line, Orthodox)[0].Feet, line)
	}
	joined := b.Strip("left step back + right jab", AsWritten)
	assert.Equal(t, []string{"left step back", "+ right jab"}, []string{joined[0].What, joined[0].How})
	started := b.Strip("from ready: left step, jab", AsWritten)
	assert.Equal(t, []string{"from ready stance", ""}, []string{started[0].How, started[1].How})
	assert.Equal(t, "5 times step through jab, right and left in turn", b.Strip("x5 step through lead jab", Orthodox)[0].What)
	assert.Equal(t, []string{"in right front stance", "double jab!", "high · (slow) · breathe"}, []string{b.Strip("in right front stance", AsWritten)[0].What, b.Strip("double jab high!~ (slow)", AsWritten)[0].What, b.Strip("double jab high!~ (slow)", AsWritten)[0].How})
}

// TestFrozenReps: a line of a sheet that was begun before keeps the reps it was begun with.
func TestFrozenReps(t *testing.T) {
	old := Line{Kind: "kick", Quantity: Quantity{Measure: RepsPerSide, Reps: 2}, RepsCalled: 6}
	assert.Equal(t, []int{6, 6}, []int{old.Called(1), old.Called(4)})
	now := old
	now.Looks = 1
	assert.Equal(t, []int{2, 4}, []int{now.Called(1), now.Called(4)})
	now.Looks, now.AtOnce = 2, 2
	assert.Equal(t, []int{2, 4, 4, 4}, []int{now.Called(1), now.Called(2), now.Called(3), now.Called(4)}, "those who work at once")
	now.Free = true
	assert.Equal(t, 2, now.Called(4))
	assert.Equal(t, []string{"6 a side", "", "2 a side"}, []string{old.CalledAmount(1), Line{Quantity: Quantity{Measure: Timed, Seconds: 9}, Looks: 2}.CalledAmount(3), now.CalledAmount(4)})
	assert.Equal(t, []int{6, 0}, []int{old.CalledMore(1), now.CalledMore(4)})
	assert.Equal(t, []int{1, 2, 1, 1}, []int{old.Sides(nil), old.Sides(&Technique{}), old.Sides(&Technique{TechniqueDetails: TechniqueDetails{Sides: LeadSide}}), Line{Quantity: Quantity{Measure: RepsInAll}}.Sides(&Technique{})})
}

// says are statements of a school.
func says(all ...string) (out []Throughout) {
	for _, s := range all {
		out = append(out, Throughout{Says: s})
	}
	return out
}

// kinds are the kinds of some reasons.
func kinds(all []Why) (out []WhyKind) {
	for _, w := range all {
		out = append(out, w.Kind)
	}
	return out
}

// TestHeads: what counts for all lines of a section stands at its head, the rest beside the line.
func TestHeads(t *testing.T) {
	s := TestSheet{Lines: []Line{{Section: "A", Common: says("x", "y")}, {Section: "B", Common: says("z")}, {Section: "A", Common: says("y", "w")}, {Section: "C"}}}
	assert.Equal(t, says("y"), s.Common("A"))
	assert.Equal(t, says("z"), s.Common("B"))
	assert.Empty(t, s.Common("C"))
	assert.Empty(t, s.Common("none"))
	assert.Equal(t, says("w"), s.Lines[2].Besides(s.Common("A")))
	assert.Equal(t, says("x", "y"), s.Lines[0].Common, "the sheet is as it was")
	b := school(func(c *Curriculum) {
		c.Rungs = append([]Rung{{ID: "first", Name: "First"}}, c.Rungs...)
		c.Rungs[1].Common = []Common{{Of: "Jab", Says: []string{"low"}}}
		c.Requirements[0].RungID, c.Requirements[0].Carry = "white", Carry{Kind: Always}
		i := slices.IndexFunc(c.Requirements, func(r Requirement) bool { return r.TechniqueID == "cross" })
		c.Requirements[i].Note = "lead jab, rear cross"
		j := slices.IndexFunc(c.Requirements, func(r Requirement) bool { return r.TechniqueID == "drill" })
		c.Requirements[j].Note = "lead cross"
		k := slices.IndexFunc(c.Requirements, func(r Requirement) bool { return r.TechniqueID == "block" })
		c.Requirements[k].Note = "With the arm."
	})
	for _, l := range b.Compile(Asking{RungID: "yellow"}).Lines {
		switch l.TechniqueID {
		case "jab":
			assert.Equal(t, append(says("eyes up", "low"), Throughout{Voice: ShoutLast}), l.Common, "of the rung that asked first too")
		case "cross":
			assert.Equal(t, []string{"lead jab", "rear cross"}, whats(l.Moves), "a remark that is moves")
		case "drill":
			assert.Equal(t, "left jab", l.Moves[0].What, "a technique's own steps stay")
		case "block":
			assert.Empty(t, l.Moves, "a remark in words is a remark")
			assert.Equal(t, "With the arm.", l.Note)
		case "card":
			assert.Empty(t, l.Detail, "its remark is the moves")
		case "horse":
			assert.Equal(t, says("eyes up"), l.Common, "nobody shouts in a stance")
		}
	}
}

// TestAmountsHaveBounds at each end.
func TestAmountsHaveBounds(t *testing.T) {
	bad := func(q Quantity) bool {
		var p check.Problems
		q.Check(&p)
		return len(p) > 0
	}
	for _, m := range []Measure{RepsPerSide, RepsInAll, Alternating, NoTouchDown} {
		assert.Equal(t, []bool{true, false, false, true}, []bool{bad(Quantity{Measure: m}), bad(Quantity{Measure: m, Reps: 1}), bad(Quantity{Measure: m, Reps: MostReps}), bad(Quantity{Measure: m, Reps: MostReps + 1})}, m)
	}
	rounds := func(n, seconds, rest int) bool {
		return bad(Quantity{Measure: RoundsTimed, Rounds: n, Seconds: seconds, Rest: rest})
	}
	assert.Equal(t, []bool{false, false, true, true, true, true, true, true, false}, []bool{rounds(1, 1, 0), rounds(20, 3600, 600), rounds(0, 1, 0), rounds(21, 1, 0), rounds(1, 0, 0), rounds(1, 3601, 0), rounds(1, 1, -1), rounds(1, 1, 601), rounds(1, 1, 1)})
	for _, m := range []Measure{CountWithin, Holds} {
		assert.Equal(t, []bool{false, true, true, true, true}, []bool{bad(Quantity{Measure: m, Reps: 1, Seconds: 1}), bad(Quantity{Measure: m, Seconds: 1}), bad(Quantity{Measure: m, Reps: MostReps + 1, Seconds: 1}), bad(Quantity{Measure: m, Reps: 1}), bad(Quantity{Measure: m, Reps: 1, Seconds: 3601})}, m)
	}
	assert.Equal(t, []bool{true, false, false, true, true}, []bool{bad(Quantity{Measure: Timed}), bad(Quantity{Measure: Timed, Seconds: 1}), bad(Quantity{Measure: Timed, Seconds: 3600}), bad(Quantity{Measure: Timed, Seconds: 3601}), bad(Quantity{Measure: RepsPerSide, Reps: 1, Side: "middle"})})
	for _, k := range RuleKinds {
		for amount, bad := range map[int]int{Most[k]: 0, Most[k] + 1: 1, -1: 1} {
			var p check.Problems
			CheckRules(&p, []Rule{{Kind: k, Amount: amount}})
			assert.Len(t, p, bad, "%s %d", k, amount)
		}
	}
}

// TestAStanceRenamed: lines that end in a stance, or start from it, follow its new name.
func TestAStanceRenamed(t *testing.T) {
	b := school(func(c *Curriculum) {
		technique(c, "drill").Stages[0].Steps = ParseSteps([]string{"from horse: step, lead jab in millstone", "rear cross in front"})
		technique(c, "lock").Entries[0].Steps = ParseSteps([]string{"lead sleeve hold in horse"})
	})
	x := *b.Technique("horse")
	x.Name, x.Aliases = "Quern stance", nil
	changed := map[string]Technique{}
	for _, y := range b.Renamed(x) {
		changed[y.ID] = y
	}
	require.Contains(t, changed, "drill")
	assert.Equal(t, []string{"from Quern stance: step, lead Jab in Quern stance", "rear cross in front"}, []string{changed["drill"].Stages[0].Steps[0].Moves, changed["drill"].Stages[0].Steps[1].Moves})
	assert.Equal(t, "lead Sleeve hold in Quern stance", changed["lock"].Entries[0].Steps[0].Moves)
	assert.NotContains(t, changed, "wheel")
	assert.Equal(t, notation.SideBySide, b.Technique("horse").FeetStand(), "its alias says how the feet stand")
	x.Feet = notation.OneLeads
	assert.Equal(t, notation.OneLeads, x.FeetStand())
}

// TestVariants show what their base has, through any number of bases, and a circle ends.
func TestVariants(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.Techniques = append(c.Techniques, Technique{ID: "twice", Name: "Twice hopping jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"hop"}}},
			Technique{ID: "round", Name: "Round", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"dnuor"}}}, Technique{ID: "dnuor", Name: "Dnuor", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"round"}}},
			Technique{ID: "lost", Name: "Lost", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"gone"}}}, Technique{ID: "plain", Name: "Plain", Kind: "strike", TechniqueDetails: TechniqueDetails{BuildsOn: []string{"jab"}}})
	})
	assert.Equal(t, []string{"elbow in"}, b.Checkpoints(b.Technique("twice")))
	c := b.Curriculum
	c.Techniques = append(slices.Clone(c.Techniques), Technique{ID: "mid", Name: "Mid", Kind: "strike", Checkpoints: []string{"low"}, TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"jab"}}},
		Technique{ID: "top", Name: "Top", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"double"}, BuildsOn: []string{"mid"}}})
	between := Open(c)
	assert.Equal(t, []string{"low"}, between.Checkpoints(between.Technique("top")), "the nearest that has any, one is enough")
	for _, id := range []string{"round", "lost", "plain"} {
		assert.Empty(t, b.Checkpoints(b.Technique(id)), id)
	}
	assert.Equal(t, []string{"two knuckles", "palm", "palm", ""}, []string{SurfaceFor(b, b.Technique("twice"), "performer"), SurfaceFor(b, b.Technique("jab"), "defender"), SurfaceFor(b, b.Technique("jab"), "attacker"), SurfaceFor(b, &Technique{Kind: "sparring", Surfaces: []Surface{{"basics", "fist"}}}, "performer")})
}

// TestAKickOnBoardsIsCalledAsAsked: what breaks a board is no rep to look at twice, whatever its kind: each candidate breaks as often as is asked, one
// after the other.
func TestAKickOnBoardsIsCalledAsAsked(t *testing.T) {
	kick := &Technique{ID: "side", Name: "Side kick", Kind: "kick"}
	l := Line{Kind: "kick", Setting: Boards, Looks: 2, Quantity: Quantity{Measure: RepsInAll, Reps: 1}}
	assert.Equal(t, []any{1, 1, 0}, []any{l.Called(1), l.Called(4), l.CalledMore(4)})
	assert.Equal(t, CallOverhead+4*SecondsPerRep("board_break"), Duration(l, kick, 4))
	l.Setting = "pads"
	assert.Equal(t, []any{2, 8}, []any{l.Called(1), l.Called(4)})
	assert.Equal(t, CallOverhead+8*SecondsPerRep("kick"), Duration(l, kick, 4))
}
