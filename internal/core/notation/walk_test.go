package notation

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// walked is what a walk tells, in one line: limbs, who leads, facing.
func walked(steps []Step, f Facts) string {
	var limbs []string
	for _, s := range steps {
		if s.Move.Sentence != "" {
			limbs = append(limbs, ".")
			continue
		}
		var each []string
		for _, l := range s.Limbs {
			if l == "" {
				l = "-"
			}
			each = append(each, string(l))
		}
		limbs = append(limbs, strings.Join(each, "+"))
	}
	leads := map[bool]string{true: "left leads", false: "right leads"}[f.LeftLeads]
	if f.Nobody {
		leads = "nobody leads"
	}
	return fmt.Sprintf("%s; %s, %d", strings.Join(limbs, " "), leads, f.Facing)
}

func TestWalk(t *testing.T) {
	c := catalogue(t)
	for _, x := range []struct{ line, orthodox, southpaw string }{
		{"lead cross, rear cross", "left right; left leads, 0", "right left; right leads, 0"},
		{"x2 step through, lead cross", "-+- left; left leads, 0", "-+- right; right leads, 0"},
		{"double switch, rear cross", "-+- right; left leads, 0", "-+- left; right leads, 0"},
		{"x2 turn cw 90", "-+-; right leads, 180", "-+-; left leads, 180"},
		{"turn cw 180", "-; right leads, 180", "-; left leads, 180"},
		{"turn cw 90, lead cross, turn cw 90, lead cross", "- left - right; right leads, 180", "- right - left; left leads, 180"},
		{"turn cw 90, turn ccw 90, lead cross", "- - left; left leads, 0", "- - right; right leads, 0"},
		{"turn cw 91 lead cross", "right; right leads, 91", "left; left leads, 91"},
		{"turn cw 270, lead cross", "- right; right leads, 270", "- left; left leads, 270"},
		{"turn cw 180, turn cw 90, lead cross", "- - right; right leads, 270", "- - left; left leads, 270"},
		{"turn ccw 271, lead cross", "- left; left leads, 89", "- right; right leads, 89"},
		{"turn cw 80, turn ccw 170, lead cross", "- - left; left leads, 270", "- - right; right leads, 270"}, // at 90 on the near way
		{"turn cw 80, turn ccw 171, lead cross", "- - right; right leads, 269", "- - left; left leads, 269"},
		{"turn cw 100, turn ccw 10, lead cross", "- - right; right leads, 90", "- - left; left leads, 90"},
		{"turn ccw 720 lead cross", "left; left leads, 0", "right; right leads, 0"},
		{"spin cw 360 lead cross", "left; left leads, 0", "right; right leads, 0"},
		{"turn cw 60, slide, turn cw 60, lead cross", "- - - right; right leads, 120", "- - - left; left leads, 120"}, // a slide moves both alike: the sum goes on
		{"turn cw 60, in front stance, turn cw 60, lead cross", "- - - left; left leads, 120", "- - - right; right leads, 120"},
		{"turn cw 60, step in crane, turn cw 60, lead cross", "- - - right; right leads, 120", "- - - left; left leads, 120"}, // nobody knows that stance
		{"turn cw 100, step through, turn cw 80 lead cross", "- - left; left leads, 180", "- - right; right leads, 180"},
		{"step through double lead cross", "right; right leads, 0", "left; left leads, 0"},
		{"x2 step through lead cross", "right+left; left leads, 0", "left+right; right leads, 0"},
		{"lead cross turn cw 180, lead cross", "right right; right leads, 180", "left left; left leads, 180"}, // a turn happens first wherever it stands
		{"from right front stance: right step turn cw 180", "-; right leads, 180", "-; right leads, 180"},
		{"from right front stance: lead cross", "right; right leads, 0", "right; right leads, 0"},
		{"left step back, right inward block", "- right; right leads, 0", "- right; right leads, 0"},
		{"rear step, lead cross", "- right; right leads, 0", "- left; left leads, 0"},
		{"lead step back, lead cross", "- right; right leads, 0", "- left; left leads, 0"},
		{"lead step turn cw 180", "-; left leads, 180", "-; right leads, 180"}, // the foot is named before the turn
		{"both step, same-side step, step, step back, lead cross", "- - - - left; left leads, 0", "- - - - right; right leads, 0"},
		{"right slide, right jump, right skip, lead cross", "- - - left; left leads, 0", "- - - right; right leads, 0"},
		{"from ready: step, lead cross", "- left; left leads, 0", "- right; right leads, 0"},
		{"from ready: step back, lead cross", "- left; left leads, 0", "- right; right leads, 0"},
		{"from ready: right step back, lead cross", "- left; left leads, 0", "- left; left leads, 0"},
		{"from ready: step through lead cross", "left; left leads, 0", "right; right leads, 0"},
		{"from ready: slide, switch, turn cw 180, jump, left cross", "- - - - left; nobody leads, 180", "- - - - left; nobody leads, 180"},
		{"from ready: in front stance, lead cross", "- left; left leads, 0", "- right; right leads, 0"},
		{"from ready: in horse, right cross", "- right; nobody leads, 0", "- right; nobody leads, 0"},
		{"from ready: turn cw 120, step, turn cw 60, lead cross", "- - - left; left leads, 180", "- - - right; right leads, 180"},
		{"step through in horse, lead cross", "- right; right leads, 0", "- left; left leads, 0"}, // the last lead stays
		{"right front stance, lead cross", "right right; right leads, 0", "right right; right leads, 0"},
		{"cross in right front stance, rear cross", "- left; right leads, 0", "- left; right leads, 0"},
		{"turn cw 180 right low block in right front stance, step through left lunge punch", "right left; left leads, 180", "right left; left leads, 180"},
		{"step back in right front stance, lead cross", "- right; right leads, 0", "- right; right leads, 0"},
		{"31, lead cross", "- right; right leads, 90", "- left; left leads, 90"}, // its own moves move the feet
		{"Ferry slide, lead cross", "- left; left leads, 0", "- right; right leads, 0"},
		{"Ring one, lead cross", "- left; left leads, 0", "- right; right leads, 0"}, // techniques that call each other end
		{"Grip the wrist. lead cross", ". left; left leads, 0", ". right; right leads, 0"},
		{"left cross, right cross, both cross", "left right both; left leads, 0", "left right both; right leads, 0"},
	} {
		seq, err := c.Parse(x.line)
		require.NoError(t, err, x.line)
		assert.Equal(t, x.orthodox, walked(c.Walk(seq, false)), x.line)
		assert.Equal(t, x.southpaw, walked(c.Walk(seq, true)), x.line)
	}
}

func TestFacts(t *testing.T) {
	c := catalogue(t)
	facts := func(line string) Facts {
		seq, err := c.Parse(line)
		require.NoError(t, err)
		_, f := c.Walk(seq, false)
		return f
	}
	assert.Equal(t, Facts{Moves: 5, Counts: 2, Beats: 3, Left: 2, Right: 3, Lead: 4, Rear: 1, Low: 2, Mid: 1, High: 1, Turns: 1, Facing: 90, HalfSeconds: 4 + 2 + 3, Held: []string{"check"}},
		facts("lead double cross low, rear cross high / turn cw 90 step through lead cross mid + right check keep"))
	assert.Equal(t, Facts{Moves: 3, Counts: 1, Beats: 2, Left: 1, Lead: 1, LeftLeads: true, HalfSeconds: 6 + 2}, facts("x2 step through, lead cross"))
	assert.Equal(t, Facts{Moves: 6, Counts: 1, Beats: 3, LeftLeads: true, Turns: 2, HalfSeconds: 6 + 3 + 6}, facts("x2 turn cw 180, left step, x3 cross"), "a pure step counts for no limb")
	assert.Equal(t, Facts{Moves: 3, Counts: 1, Beats: 7, Sentences: 4, Left: 1, Right: 2, Lead: 1, Rear: 2, LeftLeads: true, HalfSeconds: 14},
		facts("Grip the wrist. left check, Press behind the shoulder.! rear rolling elbow, Turn it. Wait. rear cross"), "an arm lock of three moves and four sentences: seven steps, seven seconds")
	assert.Equal(t, Facts{Moves: 2, Counts: 1, Beats: 2, Left: 1, Right: 1, Nobody: true, LeftLeads: true, HalfSeconds: 4}, facts("from ready: left cross, right cross"), "neither lead nor rear")
	f := facts("rear check keep, rear free, rear free")
	assert.Empty(t, f.Held)
	assert.Equal(t, []string{"rear free frees what is not kept"}, f.Problems)
	assert.Equal(t, 2, facts("left check keep, right check keep, x2 left free").Moves-2)
	assert.Equal(t, []string{"check", "cross"}, facts("left check keep, right cross keep").Held)
}

// TestWhichFootMoves is what a strip says of the feet.
func TestWhichFootMoves(t *testing.T) {
	c := catalogue(t)
	for line, want := range map[string]string{
		"left step back": "left", "step": "both", "step back": "both", "slide": "both", "switch": "both", "step through": "right", "x2 step through": "right left", "lead step": "left",
		"rear step back": "right", "jump": "", "turn cw 90": "", "turn cw 180": "right", "right slide": "right", "turn cw 90 in right front stance": "right", "step back in right front stance": "left",
		"step in right front stance": "right", "cross in right front stance": "", "step through in right front stance": "right", "from ready: step back": "right", "from ready: step": "left",
		"cross turn cw 90 in right front stance": "right", "drop": "",
	} {
		seq, err := c.Parse(line)
		require.NoError(t, err, line)
		steps, _ := c.Walk(seq, false)
		var feet []string
		for _, f := range steps[0].Feet {
			feet = append(feet, string(f))
		}
		assert.Equal(t, want, strings.Join(feet, " "), line)
	}
}

// TestSteps reads the steps of one technique, which go on from each other.
func TestSteps(t *testing.T) {
	c := catalogue(t)
	read, errs := c.ReadSteps([]string{"from ready: Bow.", "step", "lead cross", "nonsense", "rear cross"})
	require.EqualError(t, errs[3], `column 1: "nonsense" is not in the catalogue; near it are Ring one; a step in plain words ends with a full stop and has no / or + in it`)
	for i := range read {
		assert.Equal(t, i == 3, errs[i] != nil, "%d", i)
	}
	assert.Equal(t, "ready stance", read[0].From.Name)
	_, errs = c.ReadSteps([]string{"from ready: slide", "both cross / rear cross", "lead cross"})
	assert.EqualError(t, errs[1], "column 14: nobody leads in ready stance; name the limb left or right, or step into a stance first")
	_, errs = c.ReadSteps([]string{"cross", "from ready: cross"})
	assert.EqualError(t, errs[1], "column 1: a sequence says where it starts once, at the start of its first step")
}

func TestDoubts(t *testing.T) {
	c := catalogue(t)
	for line, want := range map[string][]int{
		"Step back.":                       {1},
		"lead jba, rear cross.":            {1, 11},
		"rear cross, then press.":          nil, // the first piece is a move, the second words
		"Grip the wrist, rear cross.":      {17},
		"left hand on the shoulder.":       nil,
		"Press, and pull. rear cross":      nil,
		"cross in crane":                   {10},
		"cross in front":                   nil,
		"Push. Step back. Rest .":          {7},
		"cross in crane, rear nonsense a.": {10},
		"step left":                        {6},
		"left step":                        nil,
		"slide to the left":                {14},
		"cross to the left":                nil,
		"step to the knee":                 nil,
		"side step to the right":           nil,
		"cross (x3)":                       {7},
		"x2 cross (x3)":                    nil,
		"cross (3 x)":                      {7},
		"cross (x)":                        nil,
		"side step left, slide back rear":  {11, 28},
		"step through left cross":          nil,
		"cross (right)":                    {7},
		"cross (Left hand open)":           {7},
		"right cross (left hand guards)":   nil,
		"cross (lefty)":                    nil,
		"step (left)":                      nil,
	} {
		r, err := c.Read(line)
		require.NoError(t, err, line)
		var at []int
		for _, d := range r.Doubts {
			at = append(at, d.Column)
		}
		assert.Equal(t, want, at, "%s: %v", line, r.Doubts)
	}
	for line, reason := range map[string]string{
		"Step back .":                  `"Step back" is read as words of a sentence; if it is the move step back, write it so`,
		"Slowly, lead double jba, go.": `"lead double jba" is read as words of a sentence; if it is the move lead double jab, write it so`,
		"step through left":            `"left" says which foot moves; if it is the way, write side step to the left`,
		"jump to the right":            `“to the right” is read as what the move goes for; if it is the way, write side step to the right`,
		"cross (twice), cross (X4)":    `(X4) is a remark; if the move is repeated, write x4 cross`,
		"cross (Right hand)":           `(Right hand) is a remark; if it is the limb, write right cross`,
		"left hand, step crosss.":      `"step crosss" is read as words of a sentence; if it is the move step cross, write it so`,
	} {
		r, err := c.Read(line)
		require.NoError(t, err)
		require.Len(t, r.Doubts, 1, line)
		assert.Contains(t, r.Doubts[0].Reason, reason)
	}
	r, _ := c.Read("lead jba. cross in cran")
	assert.Equal(t, []Doubt{
		{1, `"lead jba" is read as words of a sentence; if it is the move lead jab, write it so, with a comma before and after it and no full stop`},
		{20, `"cran" is no stance of this program; near it are cat stance, back stance, front stance`},
	}, r.Doubts)
}

// TestWrittenForLimbs: what names left or right anywhere is the same for everybody who attacks.
func TestWrittenForLimbs(t *testing.T) {
	c := catalogue(t)
	for line, want := range map[string]bool{
		"lead cross, rear check": false, "step through rear cross to left ear": false, "cross in front": false, "Grip the left wrist.": false, "from ready: step": false,
		"left cross": true, "lead cross, right check": true, "cross in left front": true, "cross in right front": true, "from left front stance: lead cross": true, "from right front stance: lead cross": true, "right step": true,
	} {
		seq, err := c.Parse(line)
		require.NoError(t, err, line)
		assert.Equal(t, want, seq.SaysLimbs(), line)
	}
}

func TestMirror(t *testing.T) {
	c := catalogue(t)
	for in, want := range map[string]string{
		"left cross to right ear turn cw 90, Lead jab":             "right cross to left ear turn ccw 90, Lead jab",
		"turn ccw 180 rear cross angle out 45":                     "turn cw 180 rear cross angle out 45",
		"both cross keep":                                          "both cross keep",
		"from left front stance: right step in right front stance": "from right front stance: left step in left front stance",
		"side step to the left, circle to the right":               "side step to the right, circle to the left",
		"left left gate (left hand up), left hand down.":           "right left gate (left hand up), left hand down.",
		"same-side slip, turn, step in horse":                      "same-side slip, turn, step in Millstone stance",
	} {
		seq, err := c.Parse(in)
		require.NoError(t, err)
		assert.Equal(t, want, c.Print(seq.Mirror()))
		assert.Equal(t, strings.Replace(in, "in horse", "in Millstone stance", 1), c.Print(seq), "the original is untouched")
	}
	seq, err := c.Parse("left left gate, cross (left hand up), left hand down., lefty cross., left cross to left ear")
	require.NoError(t, err)
	var says []bool
	seq.All(func(_, _ int, m *Move) { says = append(says, m.SaysSides()) })
	assert.Equal(t, []bool{true, true, true, false, false}, says)
}

// TestRelations resolves what a step of a defence answers, for an attacker of either stance.
func TestRelations(t *testing.T) {
	c := catalogue(t)
	type answer struct {
		said, orthodox, southpaw string
		match                    Match
	}
	for attack, answers := range map[string][]answer{
		"lead jab, rear cross": { // written lead jab, it is the technique of that name
			{"the cross", "right", "left", ByName},
		},
		"lead cross, rear palm strike": {
			{"the cross", "left", "right", ByName}, {"straight", "left", "right", ByName}, {"his Heel-Strike", "right", "left", ByName}, {"the strike", "right", "left", Torn}, // both are
			{"", "right", "left", LastLimb}, {"the", "right", "left", LastLimb}, {"the the cross", "left", "right", ByName}, {"the first the strike", "left", "right", ByName}, {"the thumb opens", "right", "left", LastLimb}, {"the lead strike", "left", "right", ByName}, {"the rear strike", "right", "left", ByName},
			{"first", "left", "right", ByName}, {"the second", "right", "left", ByName}, {"third", "right", "left", LastLimb}, {"the last", "right", "left", ByName}, {"lead", "left", "right", ByName},
		},
		"right lunge punch, left side kick": {
			{"the punch", "right", "right", ByName}, {"the kick", "left", "left", ByName}, {"right", "right", "right", ByName}, {"left", "left", "left", ByName}, {"", "left", "left", LastLimb},
		},
		"left step, right lunge punch, left lunge punch": { // written with left and right it is the same for everybody who attacks
			{"first", "right", "right", ByName}, {"the lead punch", "left", "left", ByName}, {"the rear punch", "right", "right", ByName}, {"the last punch", "left", "left", ByName},
		},
		"x2 step through lead lunge punch": {
			{"the punch", "left", "right", Torn}, {"the first punch", "right", "left", ByName}, {"the second punch", "left", "right", ByName}, {"the last punch", "left", "right", ByName},
		},
		"double left palm parry, left cross": {{"the parry", "left", "left", ByName}, {"the second parry", "left", "left", ByName}, {"the third parry", "left", "left", LastLimb}, {"the block", "left", "left", ByName}},
		"both check":                         {{"the check", "right", "right", Recorded}},
		"step, cross":                        {{"the cross", "right", "right", Recorded}},
	} {
		seq, err := c.Parse(attack)
		require.NoError(t, err)
		for _, x := range answers {
			for i, want := range []string{x.orthodox, x.southpaw} {
				limb, match := Against(c.Attack(seq, i == 1), x.said, Right)
				assert.Equal(t, want, string(limb), "%s; %s, southpaw %d", attack, x.said, i)
				assert.Equal(t, x.match, match, "%s; %s", attack, x.said)
			}
		}
	}
	limb, match := Against(nil, "the push", "")
	assert.Equal(t, []string{"", "unresolved"}, []string{string(limb), string(match)})
	seq, err := c.Parse("same-side slip, same-name palm parry, rear cross")
	require.NoError(t, err)
	assert.True(t, seq.Related())
	assert.Equal(t, "right slip, left palm parry, rear cross", c.Print(seq.Answering(Left)))
	assert.Equal(t, "left slip, right palm parry, rear cross", c.Print(seq.Answering(Right)))
	assert.Equal(t, c.Print(seq), c.Print(seq.Answering("")))
	assert.Equal(t, c.Print(seq), c.Print(seq.Mirror()), "relations stay in the mirror")
	assert.False(t, seq.Answering(Left).Related())
	assert.Contains(t, c.Names(), "heel strike")
}

func TestJoin(t *testing.T) {
	c := catalogue(t)
	a, err := c.Parse("from ready: step / cross")
	require.NoError(t, err)
	b, err := c.Parse("from left front stance: cross")
	require.NoError(t, err)
	assert.Equal(t, "from ready stance: step / cross / cross", c.Print(Join(a, b)))
	assert.Equal(t, Sequence{}, Join())
	assert.Equal(t, 3, Join(a, b).Moves())
}

func TestChangedMeaning(t *testing.T) {
	c := catalogue(t)
	for line, want := range map[string]int{
		"lead cross, step through rear cross, turn cw 180 lead cross, switch": -1,
		"turn cw 90, rear cross": -1, "turn cw 90, turn cw 90": 1, "lead cross turn cw 180": 0, "x2 step through": 0, "step through double lead cross": -1, "x2 step through lead cross": 0,
		"cross, right step": 1, "left step, left cross": -1, "cross in right front stance": 0, "cross in front stance": -1, "31": 0, "Grip. lead cross": -1, "double switch": 0, "turn cw 270": 0,
	} {
		seq, err := c.Parse(line)
		require.NoError(t, err, line)
		at, was, is := c.ChangedMeaning(seq)
		assert.Equal(t, want, at, line)
		if at >= 0 {
			assert.NotEqual(t, fmt.Sprint(was.Limb(), was.LeftLeads, was.Facing), fmt.Sprint(is.Limbs, is.LeftLeads, is.Facing), line)
		}
	}
	seq, _ := c.Parse("lead cross turn cw 180")
	_, was, is := c.ChangedMeaning(seq)
	assert.Equal(t, []Side{Left, Right}, []Side{was.Limb(), is.Limb()})
}

// floor is a second, simple computation of who leads: two feet as points on the floor. The one
// further along the facing leads; where neither is, who led just before still does.
type floor struct {
	x, y   [2]float64 // of left and right
	facing float64    // degrees clockwise
	lead   int
	level  bool
}

func (f *floor) ahead(facing float64) float64 { // how far the left foot is ahead of the right one
	a := facing * math.Pi / 180
	return (f.x[0]-f.x[1])*math.Sin(a) + (f.y[0]-f.y[1])*math.Cos(a)
}

func (f *floor) look() {
	if d := f.ahead(f.facing); d > 1e-6 {
		f.lead = 0
	} else if d < -1e-6 {
		f.lead = 1
	}
}

// put sets a foot down a stride before or behind the other.
func (f *floor) put(foot int, stride float64) {
	a := f.facing * math.Pi / 180
	f.x[foot], f.y[foot] = f.x[1-foot]+stride*math.Sin(a), f.y[1-foot]+stride*math.Cos(a)
	f.level = false
	f.look()
}

func (f *floor) turn(by int) {
	for range max(by, -by) { // a degree at a time: every angle on the way is passed
		if by > 0 {
			f.facing++
		} else {
			f.facing--
		}
		if !f.level {
			f.look()
		}
	}
}

func (f *floor) do(m *Move) {
	foot := map[Side]int{Left: 0, Right: 1, Lead: f.lead, Rear: 1 - f.lead}
	named, isNamed := foot[m.Side]
	isNamed = isNamed && m.Technique == ""
	f.turn(m.turned())
	for _, t := range m.Travel {
		switch {
		case t.Kind == "step" && isNamed:
			f.put(named, 1)
		case t.Kind == "step back" && isNamed:
			f.put(named, -1)
		case f.level && (t.Kind == "step" || t.Kind == "step through"):
			f.put(0, 1)
		case f.level && t.Kind == "step back":
			f.put(1, -1)
		case t.Kind == "step through":
			f.put(1-f.lead, 1)
		case t.Kind == "switch" && !f.level:
			f.put(f.lead, -1)
		}
	}
	f.stand(m.In.Feet, m.In.Side)
	side := m.Side
	switch side {
	case Lead:
		side = []Side{Left, Right}[f.lead]
	case Rear:
		side = []Side{Right, Left}[f.lead]
	}
	f.stand(m.Stands, side)
}

// stand takes a stance, with a foot in front where one is named.
func (f *floor) stand(stance Feet, side Side) {
	switch {
	case side == Left && stance == OneLeads:
		f.put(0, 1)
	case side == Right && stance == OneLeads:
		f.put(1, 1)
	case stance == OneLeads && f.level:
		f.put(0, 1)
	case stance != "" && !f.level:
		f.put(f.lead, 1)
	}
}

func TestLaws(t *testing.T) {
	c := catalogue(t)
	read := 0
	rapid.Check(t, func(t *rapid.T) {
		seq, err := c.Parse(line(t))
		if err != nil {
			var at *Error
			require.ErrorAs(t, err, &at)
			return
		}
		read++
		printed := c.Print(seq)
		back, err := c.Parse(printed)
		require.NoError(t, err, printed)
		require.Equal(t, seq, back, printed)
		require.Equal(t, printed, c.Print(back))
		require.Equal(t, seq, seq.Mirror().Mirror())
		steps, orthodox := c.Walk(seq, false)
		_, southpaw := c.Walk(seq, true)
		require.Equal(t, orthodox.Moves, southpaw.Moves)
		require.Equal(t, orthodox.Facing, southpaw.Facing)
		// The mirror done southpaw is the original done orthodox, seen in a mirror.
		_, mirrored := c.WalkFor(seq, true)
		require.Equal(t, []int{orthodox.Left, orthodox.Right, orthodox.Lead, orthodox.Rear}, []int{mirrored.Right, mirrored.Left, mirrored.Lead, mirrored.Rear})
		require.Equal(t, (360-orthodox.Facing)%360, mirrored.Facing)
		if !orthodox.Nobody {
			require.NotEqual(t, orthodox.LeftLeads, mirrored.LeftLeads, printed)
		}
		// Walking and counting agree, and every repeat has its limb.
		moves, sentences := 0, 0
		f := floor{y: [2]float64{1, 0}, level: seq.From.Feet == SideBySide}
		if seq.From.Side == Right {
			f.put(1, 1)
			f.facing = 0
		}
		for _, s := range steps {
			require.Len(t, s.Limbs, s.Move.wholes())
			switch {
			case s.Move.Sentence != "":
				sentences++
			default:
				moves += max(s.Move.Times, 1)
			}
			if s.Move.Number == 31 { // its own moves
				for range s.Move.wholes() {
					f.do(&Move{Travel: s.Move.Travel, Turn: s.Move.Turn, In: s.Move.In, Technique: "31"})
					f.do(&Move{Travel: []Travel{{Kind: "step through"}}})
					f.do(&Move{Travel: []Travel{{Kind: "turn", Turn: Turn{Degrees: 90}}}})
				}
			} else {
				for range s.Move.wholes() {
					f.do(&s.Move)
				}
			}
			require.Equal(t, f.level, s.Nobody, printed)
			require.Equal(t, ((int(math.Round(f.facing))%360)+360)%360, s.Facing, printed)
			if !f.level {
				require.Equal(t, f.lead == 0, s.LeftLeads, "%s: after %s", printed, s.Move)
			}
		}
		require.Equal(t, moves, orthodox.Moves, printed)
		require.Equal(t, sentences, orthodox.Sentences)
	})
	require.Greater(t, read, 15, "many drawn lines must be readable")
}
