package demo

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// TestEverySequenceOnTheFloor: in all sequences of the demo, from either stance, the foot in front from coordinates alone is the one that the
// notation says leads wherever the feet are placed, and both face the same way.
func TestEverySequenceOnTheFloor(t *testing.T) {
	golden.Alone(t)
	sequences, compared := 0, 0
	for _, p := range At(civil.MustParse("2026-11-24")).Programs {
		b := curriculum.Open(p.Curriculum)
		for i := range b.Techniques {
			x := &b.Techniques[i]
			var lines []string
			for _, s := range x.StepsAt(len(x.Stages)) {
				lines = append(lines, s.Moves)
			}
			for _, line := range append(lines, x.AttackMoves, x.Note) {
				seq, err := b.Read(line)
				if line == "" || err != nil {
					continue
				}
				sequences++
				for _, southpaw := range []bool{false, true} {
					compared += walksAsItIsTold(t, b, seq, southpaw, x.Name+": "+line)
				}
			}
		}
	}
	assert.Greater(t, sequences, 150)
	assert.Greater(t, compared, 500)
}

// walksAsItIsTold follows a sequence on the floor and in the notation, and counts the places compared.
func walksAsItIsTold(t *testing.T, b *curriculum.Book, seq notation.Sequence, southpaw bool, line string) (compared int) {
	of := body.PartsOf(body.Measured{HeightCM: 150})
	if southpaw {
		seq = seq.Mirror()
	}
	steps := b.Catalogue.Floor(seq, southpaw, southpaw)
	path := floor.Walk(steps, seq.From, southpaw, floor.Ground{Body: of, Stances: b.Stances(of)})
	for _, f := range path.Frames[1:] {
		var last *notation.Step
		for k := range steps {
			if steps[k].Count == f.Count && steps[k].Beat == f.Beat {
				last = &steps[k]
			}
		}
		if len(last.Footing) > f.Time+1 { // the notation tells where a repeated step ends
			continue
		}
		assert.Equal(t, last.Facing, int(math.Round(f.Stand.Facing))%360, line)
		if !last.Placed || f.Stand.Stance.Level {
			continue
		}
		compared++
		x := f.Stand
		ahead := x.Feet[floor.Left].Heel.Minus(x.Feet[floor.Right].Heel).Turned(-x.Line).Y
		assert.Equal(t, last.LeftLeads, ahead > 0, line)
	}
	return compared
}

// TestStancesDiffer: every program measures its stances, one of them differs between two, the forms that say so return, and defences come out
// inside and outside.
func TestStancesDiffer(t *testing.T) {
	golden.Alone(t)
	of := body.PartsOf(body.Measured{HeightCM: 170})
	returning, sides := map[string]int{}, map[floor.Reached]int{}
	for _, p := range At(civil.MustParse("2026-11-24")).Programs {
		b := curriculum.Open(p.Curriculum)
		for i := range b.Techniques {
			x := &b.Techniques[i]
			if x.Kind == "stance" {
				assert.NotNil(t, x.Stance, "%s, %s", p.Program.Name, x.Name)
			}
			if x.Returns {
				f := b.OnFloor(x, len(x.Stages), curriculum.AsWritten, curriculum.AsWritten, of)
				assert.Less(t, f.Path.Ends().Length(), 1.0, x.Name)
				assert.Contains(t, []float64{0, 360}, math.Round(f.Path.Frames[len(f.Path.Frames)-1].Stand.Facing), x.Name)
				assert.GreaterOrEqual(t, len(f.Path.Turns()), 1, x.Name)
				returning[p.Program.Name]++
			}
			if m := b.Meet(x, len(x.Stages), curriculum.Orthodox, curriculum.Orthodox, of, of); m != nil {
				assert.False(t, m.Opposite, x.Name)
				sides[m.Side]++
			}
		}
	}
	assert.Equal(t, map[string]int{"Kenpo": 1, "Karate": 2, "Taekwondo": 2}, returning)
	assert.GreaterOrEqual(t, sides[floor.Inside], 2)
	assert.GreaterOrEqual(t, sides[floor.Outside], 2)
	named := func(program int) *floor.Definition {
		b := curriculum.Open(At(civil.MustParse("2026-11-24")).Programs[program].Curriculum)
		return b.Named("Horse stance").Stance
	}
	assert.NotEqual(t, named(0), named(1), "by one name, and another knee")
}
