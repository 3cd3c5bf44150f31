package floor

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/notation"
)

var catalogue = func() *notation.Catalogue {
	c, err := notation.NewCatalogue([]notation.Entry{
		{ID: "jab", Name: "jab", Kind: "strike"}, {ID: "cross", Name: "cross", Kind: "strike"}, {ID: "block", Name: "low block", Kind: "block or parry"},
		{ID: "front", Name: "front stance", Stands: notation.OneLeads}, {ID: "ready", Name: "ready stance", Stands: notation.SideBySide},
		{ID: "ox", Name: "ox step", Kind: "footwork", Own: []string{"step through, slide"}},
	})
	if err != nil {
		panic(err)
	}
	return c
}()

// ground is a floor for somebody so tall, with the usual stances.
func ground(b body.Parts) Ground {
	return Ground{Body: b, Stances: func(name string) (Stance, bool) {
		d, level, known := UsualFor(name)
		return d.For(b, name, level), known
	}}
}

func walk(t require.TestingT, line string, cm float64, southpaw bool, more ...func(*Ground)) Path {
	seq, err := catalogue.Parse(line)
	require.NoError(t, err, line)
	g := ground(tall(cm))
	for _, f := range more {
		f(&g)
	}
	if southpaw {
		seq = seq.Mirror()
	}
	return Walk(catalogue.Floor(seq, southpaw, southpaw), seq.From, southpaw, g)
}

func form(g *Ground) { g.Form = true }

// middle is the midpoint of the two foot middles.
func (x Stand) middle(b body.Parts) Point {
	return x.Feet[Left].At(AtMiddle, b).Plus(x.Feet[Right].At(AtMiddle, b)).Times(.5)
}

// front is the foot in front along the line of the stance, from coordinates alone.
func (x Stand) front() Side {
	if x.Feet[Left].Heel.Minus(x.Feet[Right].Heel).Turned(-x.Line).Y > 0 {
		return Left
	}
	return Right
}

// iform is the I-form: with the other foot on 3, 5, 11, 13 and 19 it is stepped the usual way.
func iform(usual bool) string {
	turns := map[int]string{1: "left step turn ccw 90", 3: "left step turn ccw 180", 5: "right step turn ccw 90", 9: "left step turn cw 90", 11: "left step turn ccw 180", 13: "right step turn ccw 90", 17: "left step turn cw 90", 19: "left step turn ccw 180"}
	if usual {
		for _, n := range []int{3, 5, 11, 13, 19} {
			turns[n] = strings.NewReplacer("left step", "right step", "right step", "left step").Replace(turns[n])
		}
	}
	var counts []string
	for n := 1; n <= 20; n++ {
		move := turns[n]
		if move == "" {
			move = "step through"
		}
		if n == 1 {
			move = strings.Replace(move, "turn ccw 90", "in front stance turn ccw 90", 1)
		}
		counts = append(counts, move)
	}
	return "from ready stance: " + strings.Join(counts, " / ") + " / left step in ready stance turn ccw 90"
}

// TestIForm: it ends where it began at any height, and stepped the usual way 1,004 mm behind.
func TestIForm(t *testing.T) {
	for _, cm := range []float64{100, 120, 170, 195} {
		p := walk(t, iform(false), cm, false, form)
		last := p.Frames[len(p.Frames)-1].Stand
		assert.InDelta(t, 0, last.middle(tall(cm)).Length(), 1e-6, "%v cm", cm)
		assert.InDelta(t, 0, last.Facing, 1e-9)
	}
	for cm, behind := range map[float64]float64{170: 1004, 120: 709} {
		p := walk(t, iform(true), cm, false, form)
		last := p.Frames[len(p.Frames)-1].Stand
		assert.InDelta(t, -behind, last.middle(tall(cm)).Y, .5, "%v cm", cm)
	}
}

// TestTurns: 90° and 270° with the left foot, 180° on the spot, worked by hand from a left front stance at 170 cm. The other foot
// pivots on its ball, .7 of 258.4 mm before its heel; the left heel goes 440.3 mm across and 660.5 along.
func TestTurns(t *testing.T) {
	b := tall(170)
	start := usual("front").Take(b, Left)
	ball := func(f Foot) Point { return f.At(.7, b) }
	heel := func(ball Point, heading float64) Point {
		return Point{ball.X - .7*258.4*math.Sin(heading*math.Pi/180), ball.Y - .7*258.4*math.Cos(heading*math.Pi/180)}
	}
	near := func(want, got Point, what string) {
		t.Helper()
		assert.InDelta(t, 0, want.Minus(got).Length(), .1, "%s: %v is not %v", what, got, want)
	}
	end := func(line string) Frame {
		p := walk(t, "from left front stance: "+line, 170, false)
		return p.Frames[len(p.Frames)-1]
	}
	// To the left: the right foot then points 20° out of −90°.
	x := end("left step turn ccw 90")
	right := heel(ball(start.Feet[Right]), -70)
	near(right, x.Stand.Feet[Right].Heel, "right")
	near(right.Plus(Point{-660.45, -440.3}), x.Stand.Feet[Left].Heel, "left")
	assert.InDelta(t, 270, x.Stand.Facing, 1e-9)
	assert.Equal(t, [2]bool{true, true}, x.Moved)
	assert.Equal(t, -90, x.Turned)
	// Round the long way it is the same place, facing left.
	y := end("left step turn cw 270")
	near(x.Stand.Feet[Left].Heel, y.Stand.Feet[Left].Heel, "the long way")
	// On the spot: the left foot stays, pointing 20° out of 180° on the rear; the right foot crosses, and leads.
	z := end("turn cw 180")
	left := heel(ball(start.Feet[Left]), 160)
	near(left, z.Stand.Feet[Left].Heel, "it pivots")
	near(left.Plus(Point{-440.3, -660.45}), z.Stand.Feet[Right].Heel, "it crosses")
	assert.Equal(t, Right, z.Stand.Lead)
	// A quarter on the spot leaves both where they are, on their balls.
	q := end("turn cw 90")
	assert.False(t, q.Placed)
	for side, f := range q.Stand.Feet {
		near(ball(start.Feet[side]), ball(f), "on its ball")
	}
	near(z.Stand.Feet[Right].Heel, end("turn cw 90, turn cw 90").Stand.Feet[Right].Heel, "two quarters are one half")
	assert.True(t, end("turn cw 90, turn ccw 90").Placed)
	assert.True(t, end("turn cw 90, turn cw 270").Placed)
	// In a level stance the outer foot goes round the other.
	level := walk(t, "from ready stance: turn cw 90", 170, false).Frames[1].Stand
	assert.InDelta(t, 0, level.Feet[Left].Heel.Minus(level.Feet[Right].Heel).Minus(Point{0, 440.3}).Length(), .1)
	near(ball(usual("ready").Take(b, Left).Feet[Right]), ball(level.Feet[Right]), "the inner one pivots")
	level = walk(t, "from ready stance: turn ccw 90", 170, false).Frames[1].Stand
	near(ball(usual("ready").Take(b, Left).Feet[Left]), ball(level.Feet[Left]), "the inner one pivots")
}

// TestTravels: how far the middle of the feet gets, in shoulders of 440.3 mm and feet of 258.4, from a left fighting stance, 1.25 long.
func TestTravels(t *testing.T) {
	const s, foot = 440.3, 258.4
	for line, want := range map[string]Point{
		"step": {0, s / 2}, "step back": {0, -s / 2}, "left step": {0, s / 2}, "right step back": {0, -s / 2}, "slide": {0, s / 2}, "slide back": {0, -s / 2},
		"shuffle": {0, s / 4}, "shuffle back": {0, -s / 4}, "skip": {0, 1.25*s - foot}, "cross step": {0, 1.25*s + foot/2},
		"side step": {-s / 2, 0}, "side step to the right": {s / 2, 0}, "right side step": {s / 2, 0}, "jump": {}, "drop": {}, "spin": {},
		"circle to the right": {s * 0, 0}, "slide angle out 90": {-s / 2, 0}, "slide back angle out 90": {s / 2, 0}, "right slide angle out 90": {s / 2, 0}, "step in fighting stance": {0, s / 2},
		"x3 slide": {0, 1.5 * s}, "slide, slide back": {}, "slide turn cw 360": {0, s / 2},
	} {
		p := walk(t, line, 170, false)
		got := p.Frames[len(p.Frames)-1].Stand.middle(tall(170))
		if strings.HasPrefix(line, "circle") { // 30° about a point 1.5 m ahead of the pelvis
			want = Point{1500 * math.Sin(math.Pi/6), 1500 * (1 - math.Cos(math.Pi/6))}
		}
		assert.InDelta(t, 0, got.Minus(want).Length(), .1, "%s: %v is not %v", line, got, want)
	}
	assert.Len(t, walk(t, "x3 slide", 170, false).Frames, 4, "a frame for each time")
	assert.Len(t, walk(t, "slide + lead jab, rear cross", 170, false).Frames, 3, "what happens at one time is one frame")
	round := walk(t, "x12 circle to the left", 170, false)
	assert.InDelta(t, 0, round.Ends().Length(), 1e-6, "twelve times thirty degrees about one point is all the way round")
	assert.InDelta(t, 3000, round.Extent().Front-round.Extent().Back, 900)
	apart := walk(t, "circle to the left, slide, circle to the left", 170, false)
	assert.Greater(t, apart.Ends().X, -1600.0)
	assert.Less(t, apart.Frames[3].Stand.Mass.X, apart.Frames[2].Stand.Mass.X-700, "after a slide it is another point, straight ahead")
	both := walk(t, "slide + lead jab", 170, false).Frames[1]
	assert.Equal(t, [2]bool{true, true}, both.Moved, "what moved stays moved")
	assert.Equal(t, []Does{{Doing{Act: Punch}, notation.Left, ""}}, both.Does(doing("")), "a slide does nothing to anybody")
	about := Point{0, 900}
	p := walk(t, "circle to the left", 170, false, func(g *Ground) { g.Partner = &about })
	assert.InDelta(t, p.Frames[0].Stand.Mass.Minus(about).Length(), p.Frames[1].Stand.Mass.Minus(about).Length(), 1e-6, "as far from the partner as before")
	assert.Negative(t, p.Frames[1].Stand.Mass.X)
	low := walk(t, "drop, lead jab, slide", 170, false)
	assert.InDelta(t, 170, low.Frames[0].Stand.Hip-low.Frames[1].Stand.Hip, 1e-6)
	assert.InDelta(t, 170, low.Frames[0].Stand.Hip-low.Frames[2].Stand.Hip, 1e-6, "until the next step")
	assert.InDelta(t, low.Frames[0].Stand.Hip, low.Frames[3].Stand.Hip, 1e-6)
}

// TestSteps: which foot moves, into which stance.
func TestSteps(t *testing.T) {
	for line, want := range map[string]struct {
		moved  [2]bool
		lead   Side
		stance string
	}{
		"from left front stance: step through":                     {[2]bool{false, true}, Right, "front stance"},
		"from left front stance: right step":                       {[2]bool{false, true}, Right, "front stance"},
		"from left front stance: left step back":                   {[2]bool{true, false}, Right, "front stance"},
		"from left front stance: step in right back stance":        {[2]bool{false, true}, Right, "back stance"},
		"from left front stance: step back in right back stance":   {[2]bool{true, false}, Right, "back stance"},
		"from left front stance: step through in back stance":      {[2]bool{false, true}, Right, "back stance"},
		"from left back stance: in front stance":                   {[2]bool{false, true}, Left, "front stance"}, // the front foot bears more
		"from left front stance: in back stance":                   {[2]bool{true, false}, Left, "back stance"},
		"from left front stance: in ready stance":                  {[2]bool{true, false}, Left, "ready stance"},
		"from left front stance: step in left back stance":         {[2]bool{true, true}, Left, "back stance"},
		"from ready stance: step":                                  {[2]bool{true, false}, Left, "fighting stance"},
		"from ready stance: step back":                             {[2]bool{false, true}, Left, "fighting stance"},
		"from ready stance: step through":                          {[2]bool{true, false}, Left, "fighting stance"},
		"from ready stance: right step":                            {[2]bool{false, true}, Right, "fighting stance"},
		"from ready stance: in right front stance":                 {[2]bool{false, true}, Right, "front stance"},
		"from ready stance: step in right front stance":            {[2]bool{false, true}, Right, "front stance"},
		"from left front stance: ox step":                          {[2]bool{true, true}, Right, "front stance"},
		"from left front stance: turn cw 90 in right front stance": {[2]bool{true, true}, Right, "front stance"},
	} {
		p := walk(t, line, 170, false)
		f := p.Frames[1]
		for side, foot := range f.Stand.Feet { // where a foot only pivots its ball stays
			moved := foot.At(AtBall, tall(170)).Minus(p.Frames[0].Stand.Feet[side].At(AtBall, tall(170))).Length() > 1
			if !strings.Contains(line, "turn") {
				assert.Equal(t, want.moved[side], moved, "%s: foot %d", line, side)
			}
		}
		assert.Equal(t, want.lead, f.Stand.Lead, line)
		assert.Equal(t, want.stance, strings.TrimSpace(f.Stand.Stance.Name), line)
		assert.True(t, f.Placed, line)
	}
	// The feet exchange their lengths, each on its line.
	p := walk(t, "from left front stance: switch", 170, false)
	for side := range p.Frames[0].Stand.Feet {
		a, z := p.Frames[0].Stand.Feet[side].Heel, p.Frames[1].Stand.Feet[side].Heel
		assert.InDelta(t, a.X, z.X, 1e-6)
		assert.InDelta(t, 660.45, math.Abs(a.Y-z.Y), .1)
	}
	// At an angle the line of the stance turns with the foot that moves, the facing stays.
	p = walk(t, "from left front stance: left step back angle out 45", 170, false)
	assert.InDelta(t, 45, p.Frames[1].Stand.Line, 1e-9)
	assert.InDelta(t, 0, p.Frames[1].Stand.Facing, 1e-9)
	assert.Equal(t, Right, p.Frames[1].Stand.front())
	// A form goes into the stance it names first.
	p = walk(t, "from ready stance: step / step through in back stance", 170, false, form)
	assert.Equal(t, "back stance", p.Frames[1].Stand.Stance.Name)
}

// aLine draws a line of moves that travel, turn and take stances.
func aLine(t *rapid.T) string {
	move := rapid.SampledFrom([]string{"step through", "left step", "right step", "left step back", "right step back", "step", "step back", "slide", "slide back", "shuffle", "skip", "cross step", "side step", "circle to the left",
		"switch", "turn cw 90", "turn ccw 90", "turn cw 180", "spin ccw 180", "turn cw 45", "turn ccw 135", "left step turn cw 90", "right step turn ccw 180", "left step turn ccw 270", "step through turn cw 90", "step through turn ccw 180",
		"step in right front stance", "step back in left back stance", "step through in cat stance", "in walking stance", "in fighting stance", "turn cw 90 in left front stance", "ox step", "left step angle out 45", "right step back angle out 30",
		"lead jab", "slide rear cross", "double lead jab", "x2 step through lead jab", "drop", "jump turn cw 180", "in horse stance"})
	from := rapid.SampledFrom([]string{"", "from left front stance: ", "from right back stance: ", "from ready stance: "}).Draw(t, "from")
	return from + strings.Join(rapid.SliceOfN(move, 1, 12).Draw(t, "moves"), " / ")
}

// TestLawsOfPaths: the foot in front, from coordinates alone, is the notation's lead wherever the feet are placed, and the facing is its
// facing; the other side is the mirror image; a body twice as tall walks twice as far.
func TestLawsOfPaths(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		line := aLine(t)
		seq, err := catalogue.Parse(line)
		if err != nil {
			t.Skip(err)
		}
		p, other, twice := walk(t, line, 90, false), walk(t, line, 90, true), walk(t, line, 180, false)
		compared := 0
		at := 0
		for _, s := range catalogue.Floor(seq, false, false) {
			at += len(s.Footing)
			f := p.Frames[at]
			if s.Facing != int(math.Round(f.Stand.Facing))%360 {
				t.Fatalf("%s: %v faces %d, on the floor %v", line, s.Move, s.Facing, f.Stand.Facing)
			}
			if s.Placed && !f.Placed {
				t.Fatalf("%s: the feet are not placed after %v", line, s.Move)
			}
			if !s.Placed || f.Stand.Stance.Level {
				continue
			}
			compared++
			if s.LeftLeads != (f.Stand.front() == Left) || s.LeftLeads != (f.Stand.Lead == Left) {
				t.Fatalf("%s: left leads %v after %v; in front is %d, and %d leads", line, s.LeftLeads, s.Move, f.Stand.front(), f.Stand.Lead)
			}
		}
		for i, f := range p.Frames {
			for side, foot := range f.Stand.Feet {
				m, d := other.Frames[i].Stand.Feet[1-side], twice.Frames[i].Stand.Feet[side]
				if m.Heel.Minus(Point{-foot.Heel.X, foot.Heel.Y}).Length() > 1e-6 || math.Abs(math.Mod(m.Heading+foot.Heading+1080, 360)) > 1e-6 && math.Abs(math.Mod(m.Heading+foot.Heading+1080, 360)-360) > 1e-6 {
					t.Fatalf("%s: frame %d: %v is not the mirror of %v", line, i, m, foot)
				}
				if d.Heel.Minus(foot.Heel.Times(2)).Length() > 1e-6 && !strings.Contains(line, "circle") { // whose partner stands 1.5 m ahead of everybody
					t.Fatalf("%s: frame %d: %v is not twice %v", line, i, d, foot)
				}
			}
		}
	})
}

// TestThereAndBack: so many steps one way and as many back end where they began.
func TestThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 9).Draw(t, "n")
		way := rapid.SampledFrom([][2]string{{"step through", "lead step back"}, {"slide", "slide back"}, {"shuffle", "shuffle back"}, {"step", "step back"}, {"side step to the left", "side step to the right"}}).Draw(t, "way")
		stance := rapid.SampledFrom([]string{"", "from left front stance: ", "from right back stance: ", "from left cat stance: "}).Draw(t, "stance")
		moves := append(slices.Repeat([]string{way[0]}, n), slices.Repeat([]string{way[1]}, n)...)
		p := walk(t, stance+strings.Join(moves, ", "), rapid.Float64Range(90, 200).Draw(t, "height"), rapid.Bool().Draw(t, "southpaw"))
		first, last := p.Frames[0].Stand, p.Frames[len(p.Frames)-1].Stand
		for side := range first.Feet {
			if first.Feet[side].Heel.Minus(last.Feet[side].Heel).Length() > 1e-6 {
				t.Fatalf("%v %d times each: %v is not %v", way, n, last.Feet[side], first.Feet[side])
			}
		}
	})
}
