package curriculum_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
)

func TestALadderWithoutHoles(t *testing.T) {
	b := ladder(t, sound, soundly)
	assert.Empty(t, b.Check())
	assert.Empty(t, b.Validate())
}

// TestEveryKindOfFinding makes one hole at a time.
func TestEveryKindOfFinding(t *testing.T) {
	golden.Alone(t)
	req := func(c *Curriculum, id string) *Requirement {
		for i := range c.Requirements {
			if c.Requirements[i].TechniqueID == id {
				return &c.Requirements[i]
			}
		}
		panic(id)
	}
	threshold := func(points int) func(*Curriculum) {
		return func(c *Curriculum) { x := scoring.Whole(points); c.Program.Policy.Rules.Threshold = &x }
	}
	covered := map[FindingKind]bool{}
	for _, x := range []struct {
		kind   FindingKind
		place  string
		reason string
		change func(*Curriculum)
	}{
		{AsksNothing, "Green", "nobody asks", func(c *Curriculum) {
			c.Rungs = append(c.Rungs, Rung{ID: "green", Kind: Belt, Name: "Green", Cloth: c.Rungs[0].Cloth})
		}},
		{AsksNothing, "Orange, Cubs", "track leaves all", func(c *Curriculum) {
			for i := range c.Requirements {
				if c.Requirements[i].RungID == "orange" {
					c.Requirements[i].Tracks = []TrackChange{{TrackID: "cubs", LeaveOut: true}}
				}
			}
		}},
		{BeforeBase, "Yellow, Hop knee", "base higher Knee Orange 1", func(c *Curriculum) { req(c, "knee").RungID = "orange" }},
		{BeforeBase, "Yellow, Hop knee", "base nowhere Hop", func(c *Curriculum) {
			c.Techniques = append(c.Techniques, Technique{ID: "hop", Name: "Hop", Kind: "footwork"})
			technique(c, "hop-knee").BuildsOn = []string{"hop"}
		}},
		{StageOrder, "Wheel, stage 3", "Orange Yellow", func(c *Curriculum) {
			w := technique(c, "wheel")
			w.Stages = append(w.Stages, Stage{RungID: "yellow", Does: Appends, Steps: []Step{{Moves: "lead jab"}}})
		}},
		{StageGone, "Wheel, stage 2", "part off ladder", func(c *Curriculum) { technique(c, "wheel").Stages[1].RungID = "gone" }},
		{StageGone, "Wheel, stage 2", "next gone", func(c *Curriculum) {
			technique(c, "wheel").Stages[1] = Stage{RungID: "orange", Does: Attaches, Attached: "gone"}
		}},
		{StageGone, "Wheel", "branch gone bends", func(c *Curriculum) { technique(c, "wheel").Branches[1].TechniqueID = "gone" }},
		{StageGone, "White, Jab", "carry gone", func(c *Curriculum) { req(c, "jab").Carry = Carry{Kind: Sample, Group: "gone"} }},
		{BeforeStage, "Yellow, Wheel", "Orange", func(c *Curriculum) { technique(c, "wheel").Stages[0].RungID = "orange" }},
		{NumberTwice, "Combination, 1", "Combination 1 Combination 2 Orange", func(c *Curriculum) { technique(c, "combination-2").Number = 1 }},
		{NumberMissing, "Combination", "2 3", func(c *Curriculum) { technique(c, "combination-2").Number = 3 }},
		{NumberMissing, "Combination", "6 7", func(c *Curriculum) { technique(c, "combination-1").Number, technique(c, "combination-2").Number = 5, 7 }},
		{OneSided, "Jab", "side trained left", func(c *Curriculum) { technique(c, "jab").Sides = LeftOnly }},
		{OneSided, "Weir", "side in form Jab left 3", func(c *Curriculum) { technique(c, "weir").Stages[0].Steps[0].Moves = "left jab, left jab" }},
		{CautionMissing, "Lock", "joint {kind lock }", func(c *Curriculum) { technique(c, "lock").Cautions = []string{"slowly"} }},
		{CautionMissing, "Wheel", "weapon {attack weapon club}", func(c *Curriculum) { technique(c, "wheel").Cautions = nil }},
		{CautionMissing, "Hop knee", "jump {modifier jumping Hop knee}", func(c *Curriculum) { technique(c, "hop-knee").Cautions = nil }},
		{CautionMissing, "Bout", "sparring {kind sparring }", func(c *Curriculum) { technique(c, "bout").Cautions = nil }},
		{RiskyYoung, "Yellow, Lock", "risk asked Cubs joint", func(c *Curriculum) { c.Program.Tracks[0].AllowsRisk = false }},
		{RiskyYoung, "White, Jab", "barred asked Cubs Not for Cubs: it suits Adults and older.", func(c *Curriculum) { technique(c, "jab").YoungestTrack = "adults" }},
		{NoKit, "Yellow, Bout", "", func(c *Curriculum) { c.Rungs[1].Kit = nil }},
		{NoRule, "Yellow, Bout", "", func(c *Curriculum) { c.Rungs[1].Sparring = nil }},
		{MarkOutOfReach, "Yellow, Cubs", "needs 50 of 24", threshold(50)},
		{MarkCannotFail, "Yellow, Cubs", "needs 0 of 0", threshold(0)},
		{MinimumEmpty, "Yellow, Cubs", "forms", func(c *Curriculum) { c.Program.Policy.Rules.SectionMinima[0].Section = "forms" }},
		{LoadJump, "Orange, Cubs", "lines jump Yellow 14 6", func(c *Curriculum) {
			for i := range 9 {
				r := *req(c, "knee")
				r.ID, r.RungID, r.ShowAgain, r.Quantity.Reps = fmt.Sprint("more", i), "orange", true, 1
				c.Requirements = append(c.Requirements, r)
			}
		}},
		{LoadJump, "Orange, Cubs", "minutes jump Yellow 6", func(c *Curriculum) {
			c.Requirements[len(c.Requirements)-1].Quantity = Quantity{Measure: Timed, Seconds: 3600}
		}},
		{CallTwice, "1", "Combination 1 Combination 2", func(c *Curriculum) { technique(c, "combination-2").Call = 1 }},
		{AttackUnanswered, "right club", "[Wheel]", func(c *Curriculum) { req(c, "wheel").Role = "attacker" }},
		{Unreadable, "Combination 2, stage 1, step 1", `"hop jab" is not in the catalogue`, func(c *Curriculum) { technique(c, "combination-2").Stages[0].Steps[0].Moves = "rear hop jab" }},
		{InDoubt, "Combination 2, stage 1, step 1", `"Rear jab" is read as words of a sentence; if it is the move rear Jab, write it so, with a comma before and after it and no full stop 1`, func(c *Curriculum) { technique(c, "combination-2").Stages[0].Steps[0].Moves = "Rear jab." }},
		{InDoubt, "Wheel, attacker", `"crane" is no stance of this program; near it are`, func(c *Curriculum) { technique(c, "wheel").AttackMoves = "right jab in crane" }},
		{RelationOpen, "Wheel, stage 1, step 1", "answers torn the jab", func(c *Curriculum) {
			technique(c, "wheel").AttackMoves = "right jab, left jab"
			technique(c, "wheel").Stages[0].Steps[0] = Step{Moves: "same-side jab", Answers: "the jab"}
		}},
		{RelationOpen, "Wheel, stage 1, step 1", "answers nothing", func(c *Curriculum) {
			technique(c, "wheel").Attack = []AttackElement{{Kind: "push", Origin: "front"}}
			technique(c, "wheel").Stages[0].Steps[0] = Step{Moves: "same-side jab"}
		}},
		{ReadOtherwise, "Combination 1, stage 1, step 2", "lead Jab turn cw 180 was [left] now [right]", func(c *Curriculum) {
			c.Program.ReadAnew = true
			technique(c, "combination-1").Stages[0].Steps = []Step{{Moves: "lead jab"}, {Moves: "lead jab turn cw 180"}}
		}},
		{SaysSide, "Combination 1, stage 1, step 1", "", func(c *Curriculum) { technique(c, "combination-1").Stages[0].Steps[0].Moves = "Left hand high." }},
		{SaysSide, "Lock, Counter-grip, step 1", "", func(c *Curriculum) {
			technique(c, "lock").Entries = []Entry{{Name: "Counter-grip", Steps: []Step{{Moves: "Take the left wrist."}}}}
		}},
		{StanceCannot, "Jab", "heel", func(c *Curriculum) {
			d := floor.Usual["front"]
			d.Length = 300
			technique(c, "jab").Kind, technique(c, "jab").Stance = "stance", &d
		}},
		{EndsElsewhere, "Weir", "ends 0 1166", func(c *Curriculum) {
			technique(c, "weir").Returns = true
			technique(c, "weir").Stages[0].Steps[0].Moves = "step through left jab, step through right jab"
		}},
		{ArmOpposite, "Wheel", "outside inside", func(c *Curriculum) {
			w := technique(c, "wheel")
			w.Kind, w.AttackMoves, w.Position = "self_defence", "slide right jab", "inside"
			w.Stages[0].Steps[0] = Step{Moves: "side step to the left + side step to the left"}
			w.Stages[0].Steps = w.Stages[0].Steps[:1]
		}},
		{Unreadable, "Wheel, attacker", `"swing" is not in the catalogue`, func(c *Curriculum) { technique(c, "wheel").AttackMoves = "right swing" }},
	} {
		found := ladder(t, sound, soundly, x.change).Check()
		at := slices.IndexFunc(found, func(f Finding) bool { return f.Kind == x.kind && placeOf(f) == x.place })
		if !assert.GreaterOrEqual(t, at, 0, "%s at %s: %v", x.kind, x.place, found) {
			continue
		}
		f := found[at]
		assert.Contains(t, restsOn(f), x.reason)
		assert.Empty(t, f.Silenced)
		covered[x.kind] = true
		quiet := ladder(t, sound, soundly, x.change, func(c *Curriculum) { c.Program.Silenced = []Silence{{f.Key(), "our way"}} }).Check()
		assert.Equal(t, "our way", quiet[at].Silenced, f.Key())
		keys := map[string]bool{}
		for _, f := range found {
			assert.False(t, keys[f.Key()], "two findings of one key: %s", f.Key())
			keys[f.Key()] = true
		}
	}
	for _, k := range FindingKinds {
		assert.True(t, covered[k], k)
	}
}

// placeOf is where a finding is, for short.
func placeOf(f Finding) string {
	w := f.Where
	var out []string
	for _, x := range []any{w.Rung, w.Technique, w.Track, w.Part, w.Series, w.Number, w.Call, w.Attack} {
		if x != "" && x != 0 {
			out = append(out, fmt.Sprint(x))
		}
	}
	if w.Step > 0 {
		out = append(out, fmt.Sprint("step ", w.Step))
	}
	if w.Attacker {
		out = append(out, "attacker")
	}
	return strings.Join(out, ", ")
}

// restsOn is what a finding rests on, for short.
func restsOn(f Finding) string {
	x := f.Facts
	var out []string
	for _, y := range []any{string(f.Case), x.Name, x.Other, x.Rung, x.Text, x.N, x.M} {
		if y != "" && y != 0 {
			out = append(out, fmt.Sprint(y))
		}
	}
	if len(x.Names) > 0 {
		out = append(out, fmt.Sprint(x.Names))
	}
	if f.Kind == MarkOutOfReach || f.Kind == MarkCannotFail {
		out = append(out, fmt.Sprintf("needs %s of %s", x.Needed, x.Offered))
	}
	if x.Ground.Kind != "" {
		out = append(out, fmt.Sprint(x.Ground))
	}
	if x.Err != nil {
		out = append(out, x.Err.Error())
	}
	if f.Kind == ReadOtherwise {
		out = append(out, fmt.Sprintf("was %v now %v", x.Was.Limbs, x.Is.Limbs))
	}
	if f.Kind == EndsElsewhere {
		out = append(out, fmt.Sprintf("ends %.0f %.0f", x.Ends.X, x.Ends.Y))
	}
	if x.Trouble.Kind != "" {
		out = append(out, fmt.Sprint(x.Trouble.Kind))
	}
	return strings.Join(out, " ")
}

func TestCategoryPointsReach(t *testing.T) {
	b := ladder(t, sound, soundly, func(c *Curriculum) {
		p := scoring.CategoryPoints(scoring.Whole(49))
		c.Program.Marking, c.Program.Policy = CategoryPoints, &p
	})
	found := b.Check()
	require.NotEmpty(t, found)
	assert.Equal(t, Facts{Needed: scoring.Whole(49), Offered: scoring.Whole(40)}, found[0].Facts, "four categories of ten")
}

func TestCoverage(t *testing.T) {
	b := ladder(t, sound, soundly, func(c *Curriculum) {
		c.Techniques = append(c.Techniques, Technique{ID: "reed", Name: "Reed", Kind: "self_defence", TechniqueDetails: TechniqueDetails{Attack: []AttackElement{{Kind: "push", Origin: "front"}, {Kind: "hug", Origin: "rear"}, {Kind: "push", Origin: "front"}}}})
	})
	var got []string
	for _, r := range b.Coverage() {
		got = append(got, fmt.Sprint(r.Words(), " ", r.Answered(), " ", len(r.Answers)))
	}
	assert.Equal(t, []string{"push 1 2", "hug, from the rear -1 1", "right club 1 1"}, got)
	assert.Equal(t, Answer{"wheel", 1, "outside", "middle"}, b.Coverage()[0].Answers[0])
	assert.Equal(t, -1, b.Coverage()[0].Answers[1].Rung, "what no rung asks for comes last")
	lines := func(elements ...AttackElement) (out []string) {
		for _, r := range Open(Curriculum{Rungs: []Rung{{ID: "w", Name: "White"}}, Techniques: []Technique{{ID: "reed", Name: "Reed", TechniqueDetails: TechniqueDetails{Attack: elements}}}, Requirements: []Requirement{{ID: "r", RungID: "w", TechniqueID: "reed", Role: "defender"}}}).Coverage() {
			out = append(out, fmt.Sprint(r.Words(), " ", r.Answered(), " ", r.Asked(), " of ", len(r.Answers)))
		}
		return out
	}
	assert.Equal(t, []string{"push 0 1 of 1"}, lines(AttackElement{Kind: "push"}), "asked on the first rung")
	assert.Equal(t, []string{"push 0 2 of 2"}, lines(AttackElement{Kind: "push"}, AttackElement{Kind: "push", Origin: Origins[0]}), "an attack of no said origin comes from the front")
	assert.Equal(t, []string{"push 0 1 of 1", "push, from the rear 0 1 of 1"}, lines(AttackElement{Kind: "push", Origin: "rear"}, AttackElement{Kind: "push"}))
}

func TestLoads(t *testing.T) {
	loads := ladder(t, sound, soundly).Loads()
	require.Len(t, loads, 6)
	assert.Equal(t, Load{RungID: "yellow", TrackID: "cubs", Lines: 6, New: 6, Seconds: loads[1].Seconds}, loads[1], "the first rung is no test")
	assert.Len(t, ladder(t, sound, soundly, func(c *Curriculum) { c.Program.Tracks = nil }).Loads(), 3)
}

// differing is what differs, for short: what, now < before.
func differing(all []Differing, amount string) string {
	out := []string{}
	for _, c := range all {
		out = append(out, fmt.Sprintf("%s %s < %s", c.Of, c.Now, c.Was))
	}
	return strings.Join(out, "; ") + amount
}

func TestDifferences(t *testing.T) {
	b := ladder(t, sound, soundly)
	sheet := func(b *Book, rung string) TestSheet { return b.Compile(Asking{RungID: rung}) }
	var got []string
	for _, d := range Differences(sheet(b, "yellow"), sheet(b, "orange")) {
		got = append(got, d.What+" "+d.Call+" "+differing(d.Changes, d.Amount))
	}
	assert.Equal(t, []string{"changed Jab amount 12 a side < 10 a side", "changed Knee amount 8 a side < 5 a side", "added Combination 1 4 a side", "added Combination 2 4 a side", "added Weir once",
		"dropped Hop knee 5 a side", "dropped Wheel, defender, stage 1 2 a side", "dropped Lock 3 a side", "dropped Bout 2 × 60 s"}, got)
	now := ladder(t, sound, soundly, func(c *Curriculum) {
		c.Rungs[0], c.Rungs[1] = c.Rungs[1], c.Rungs[0]
		c.Rungs[0].Name = "Gold"
		c.Rungs[0].Panel = 5
		for i := range c.Requirements {
			if r := &c.Requirements[i]; r.RungID == "orange" && r.TechniqueID == "weir" {
				r.MarkLooks = []MarkLook{{scoring.Whole(2), "one slide"}, {scoring.Whole(3), "two"}}
			}
		}
		c.Rungs = append(c.Rungs, Rung{ID: "green", Name: "Green"})
		technique(c, "jab").Checkpoints = []string{"hip"}
		technique(c, "jab").Difficulty = 2
		technique(c, "knee").Difficulty = 3
		c.Techniques = append(c.Techniques, Technique{ID: "x", Name: "X"})
	})
	rungs, techniques := Compare(b, now, "")
	var names []string
	for _, r := range rungs {
		names = append(names, r.Rung.Name+" "+r.What+" "+differing(r.Itself, ""))
	}
	assert.Equal(t, []string{"Gold changed name Gold < Yellow; panel 5 < ; place  < White", "White changed place Gold < ", "Orange changed place White < Yellow", "Green added "}, names)
	assert.Contains(t, rungs[2].Changes[len(rungs[2].Changes)-1].Changes, Differing{ChangedMarks, "2 one slide; 3 two", ""})
	assert.Equal(t, []string{"jab checkpoints", "knee details", "x "}, []string{techniques[0].ID + " " + string(techniques[0].Changes[0].Of), techniques[1].ID + " " + string(techniques[1].Changes[0].Of), techniques[2].ID + " "})
	rungs, techniques = Compare(now, b, "")
	assert.Equal(t, "dropped", rungs[len(rungs)-1].What)
	assert.Equal(t, "dropped", techniques[len(techniques)-1].What)
	rungs, techniques = Compare(b, b, "cubs")
	assert.Empty(t, rungs)
	assert.Empty(t, techniques)
}

func TestAttacksAsPeopleWriteThem(t *testing.T) {
	for in, want := range map[string]AttackElement{
		"right straight punch, high, step-through": {"straight punch", "right", "high", "step-through", "front"},
		"Front Kick mid":             {Kind: "front kick", Level: "mid", Origin: "front"},
		"two-hand lapel grab static": {Kind: "two-hand lapel grab", Motion: "static", Origin: "front"},
		"rear choke":                 {Kind: "rear choke", Origin: "rear"},
		"hug rear, unknown":          {Kind: "hug", Origin: "rear"},
		"rear round kick side":       {Kind: "round kick", Side: "rear", Origin: "side"},
		"ground mounted":             {Kind: "ground mounted", Origin: "ground"},
	} {
		got, err := ParseAttack([]string{in})
		require.NoError(t, err, in)
		assert.Equal(t, want, got[0], in)
		back, err := ParseAttack([]string{got[0].String()})
		require.NoError(t, err)
		assert.Equal(t, got, back)
	}
	for in, said := range map[string]string{"right high": "names no attack", "bite": "attacks are straight punch", "push hook": "both push and hook"} {
		_, err := ParseAttack([]string{"push", in})
		assert.ErrorContains(t, err, "line 2: ", in)
		assert.ErrorContains(t, err, said, in)
	}
}

func TestValidateSaysWhere(t *testing.T) {
	golden.Alone(t)
	for _, x := range []struct {
		path, said string
		change     func(*Curriculum)
	}{
		{"$.techniques[1].id", "stands twice; it is the id of $.rungs[0] too", func(c *Curriculum) { c.Techniques[1].ID = "white" }},
		{"$.sections[0].id", "is empty", func(c *Curriculum) { c.Sections[0].ID = "" }},
		{"$.rungs[2].id", "is not an id", func(c *Curriculum) { c.Rungs[2].ID = "a b" }},
		{"$.techniques[2].builds_on", "goes round in a circle: Knee builds on Hop knee, and back to Knee", func(c *Curriculum) { technique(c, "knee").BuildsOn = []string{"hop-knee"} }},
		{"$.techniques[3].stages[1].rung", `"gone" is no rung of this ladder`, func(c *Curriculum) { technique(c, "wheel").Stages[1].RungID = "gone" }},
		{"$.techniques[3].stages[1].from", "is 5, but the stages before have only 1 steps", func(c *Curriculum) { s := &technique(c, "wheel").Stages[1]; s.Does, s.From = ReplacesTail, 5 }},
		{"$.techniques[3].stages[0].steps[0].moves", `column 6: "jap" is not in the catalogue; near it are Jab`, func(c *Curriculum) { technique(c, "wheel").Stages[0].Steps[0].Moves = "lead jap" }},
		{"$.techniques[1].name", "is what Jab is called already", func(c *Curriculum) { c.Techniques[1].Name = "JAB" }},
		{"$.rungs[1].name", "is the name of $.rungs[0] too", func(c *Curriculum) { c.Rungs[1].Name = "white" }},
		{"$.requirements[0].technique", `"gone" is no technique`, func(c *Curriculum) { c.Requirements[0].TechniqueID = "gone" }},
		{"$.requirements[0].tracks[0].track", `"gone" is no track`, func(c *Curriculum) { c.Requirements[0].Tracks = []TrackChange{{TrackID: "gone"}} }},
		{"$.requirements[6].carry.rung", "a line is carried upwards", func(c *Curriculum) { c.Requirements[6].Carry = Carry{Kind: Until, Rung: "white"} }},
		{"$.program.permanent_from", "is no rung", func(c *Curriculum) { c.Program.PermanentFrom = "gone" }},
	} {
		b := ladder(t, sound, soundly, x.change)
		found := b.Curriculum.Validate()
		assert.True(t, slices.ContainsFunc(found, func(i Invalid) bool { return i.Path == x.path && strings.Contains(i.Text, x.said) }), "%s %s: %v", x.path, x.said, found)
	}
}

// large is a curriculum of rungs × techniques with all that makes work.
func large(rungs, techniques int) Curriculum {
	c := Curriculum{Program: Program{ID: "p", Name: "Large", ProgramDetails: ProgramDetails{Tracks: []Track{{ID: "cubs", Name: "Cubs", To: 6}, {ID: "juniors", Name: "Juniors", From: 7, To: 12}, {ID: "adults", Name: "Adults", From: 13}}, Groups: []SampleGroup{{ID: "pool", Name: "Pool", Draw: 3}}}}}
	for i, s := range DefaultSections {
		c.Sections = append(c.Sections, Section{ID: fmt.Sprint("s", i), Name: s, Kind: UsualKind(s)})
	}
	for i := range rungs {
		c.Rungs = append(c.Rungs, Rung{ID: fmt.Sprint("r", i), Kind: Belt, Name: fmt.Sprint("Rung ", i), Cloth: Cloth{Weave: Plain, Colour: "#ffffff"}})
	}
	for i := range techniques {
		x := Technique{ID: fmt.Sprint("t", i), Name: fmt.Sprintf("Technique %d", i), Kind: Kinds[i%len(Kinds)], Checkpoints: []string{"a", "b", "c"}, Cautions: []string{"mats"}}
		if i%4 == 3 {
			line := fmt.Sprintf("lead technique %d, step through rear technique %d high / slide back lead technique %d low", i-1, i-2, i-3)
			x.Stages = []Stage{{Does: Appends, Steps: Steps(line)}, {RungID: fmt.Sprint("r", i*rungs/techniques), Does: Appends, Steps: Steps(line)}}
			x.Attack = []AttackElement{{Kind: AttackKinds[i%len(AttackKinds)], Side: notation.Right, Origin: "front"}}
		}
		if i > 0 {
			x.BuildsOn = []string{fmt.Sprint("t", i-1)}
		}
		c.Techniques = append(c.Techniques, x)
		r := Requirement{ID: fmt.Sprint("q", i), RungID: fmt.Sprint("r", i*rungs/techniques), SectionID: fmt.Sprint("s", i%len(DefaultSections)), TechniqueID: x.ID, Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsPerSide, Reps: 5}}
		switch i % 10 {
		case 0:
			r.Carry = Carry{Kind: Until, Rung: fmt.Sprint("r", min(i*rungs/techniques+2, rungs-1))}
		case 1:
			r.Carry = Carry{Kind: Sample, Group: "pool"}
		}
		c.Requirements = append(c.Requirements, r)
	}
	return c
}

var sizes = []struct {
	name              string
	rungs, techniques int
}{{"30 rungs 600 techniques", 30, 600}, {"30 rungs 6000 techniques", 30, 6000}}

func BenchmarkCompile(b *testing.B) {
	for _, s := range sizes {
		b.Run(s.name, func(b *testing.B) {
			book := Open(large(s.rungs, s.techniques))
			for b.Loop() {
				book.Compile(Asking{RungID: "r29", TrackID: "juniors", Seed: 7, Group: 3})
			}
		})
	}
}

// BenchmarkCheck opens the curriculum anew each time, so that every line of moves is read.
func BenchmarkCheck(b *testing.B) {
	for _, s := range sizes {
		b.Run(s.name, func(b *testing.B) {
			c := large(s.rungs, s.techniques)
			for b.Loop() {
				Open(c).Check()
			}
		})
	}
}

func TestSteps(t *testing.T) {
	x := Technique{TechniqueDetails: TechniqueDetails{Stages: []Stage{
		{Does: Appends, Steps: ParseSteps([]string{"a.; the punch", "b."})}, {Does: Appends, Steps: ParseSteps([]string{"c."})}, {Does: Alters, From: 2, Steps: ParseSteps([]string{"B."})},
		{Does: ReplacesTail, From: 3, Steps: ParseSteps([]string{"d.", "e."})}, {Does: Attaches, Attached: "other", Name: "extension"}}}}
	at := func(n int) string {
		var out []string
		for _, s := range x.StepsAt(n) {
			out = append(out, fmt.Sprint(s.Moves, s.Stage, s.Attached))
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, []string{"", "a.1 b.1", "a.1 b.1 c.2", "a.1 B.3 c.2", "a.1 B.3 d.4 e.4", "a.1 B.3 d.4 e.4 5other"}, []string{at(0), at(1), at(2), at(3), at(4), at(9)})
	assert.Equal(t, "a.; the punch", x.Stages[0].Steps[0].String())
	assert.Equal(t, []string{"stage 1", "extension", "stage 9"}, []string{x.StageName(1), x.StageName(5), x.StageName(9)})
	assert.Equal(t, []Step{{Moves: "a (b/c)"}, {Moves: "d"}}, Steps("a (b/c) / d /"))
}
