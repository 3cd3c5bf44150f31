package demo

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// books are the three curricula of the demo, opened once.
func books() (out []*curriculum.Book) {
	for _, p := range At(civil.MustParse("2026-11-24")).Programs {
		out = append(out, curriculum.Open(p.Curriculum))
	}
	return out
}

// asking draws what a sheet is made for.
func asking(t *rapid.T, b *curriculum.Book) curriculum.Asking {
	a := curriculum.Asking{RungID: rapid.SampledFrom(b.Rungs).Draw(t, "rung").ID, Seed: rapid.Uint64Range(0, 1<<31).Draw(t, "seed"), Group: rapid.IntRange(1, 4).Draw(t, "group"), Candidate: rapid.StringN(0, 8, -1).Draw(t, "candidate")}
	if n := len(b.Program.Tracks); n > 0 {
		if i := rapid.IntRange(0, n).Draw(t, "track"); i < n {
			a.TrackID = b.Program.Tracks[i].ID
		}
	}
	return a
}

// TestLawsOfEverySheet: for any rung, track, seed and group of the demo.
func TestLawsOfEverySheet(t *testing.T) {
	golden.Alone(t)
	all := books()
	rapid.Check(t, func(t *rapid.T) {
		b := rapid.SampledFrom(all).Draw(t, "program")
		a := asking(t, b)
		sheet := b.Compile(a)
		require.Equal(t, sheet, b.Compile(a), "the same asking gives the same sheet")
		at := b.Place(a.RungID)
		seconds := 0
		shown, again := map[string]bool{}, map[string]bool{}
		for _, r := range b.Requirements {
			again[r.ID] = r.ShowAgain
		}
		sections := []int{}
		for _, l := range sheet.Lines {
			x := b.Technique(l.TechniqueID)
			require.LessOrEqual(t, l.Stage, b.StageAt(x, at), "no stage above the rung: %s", l.Call)
			key := fmt.Sprint(l.TechniqueID, l.Role, l.Setting, l.Quantity.Measure, l.Free, l.Manner, l.Entry)
			require.False(t, shown[key] && !again[l.RequirementID], "no line twice: %s", l.Call)
			shown[key] = shown[key] || !again[l.RequirementID] // what is to be shown again stands apart
			require.NotEmpty(t, l.Why, "every line says why it is there")
			require.Positive(t, l.Seconds)
			seconds += l.Seconds
			sections = append(sections, slices.IndexFunc(b.Sections, func(s curriculum.Section) bool { return s.Name == l.Section }))
			for _, r := range b.Requirements {
				if r.ID == l.RequirementID && len(l.Covers) == 0 {
					require.False(t, slices.ContainsFunc(r.Tracks, func(c curriculum.TrackChange) bool { return c.TrackID == a.TrackID && c.LeaveOut }), "nothing the track leaves out: %s", l.Call)
				}
			}
		}
		require.Equal(t, seconds, sheet.Seconds)
		require.True(t, slices.IsSorted(sections), "by section")
		for _, g := range b.Program.Groups {
			drawn := 0
			for _, l := range sheet.Lines {
				for _, why := range l.Why {
					if why.Kind == curriculum.WhyDrawn && why.Group == g.Name {
						drawn++
					}
				}
			}
			require.LessOrEqual(t, drawn, g.Draw)
		}

		more := a
		more.Group++
		require.GreaterOrEqual(t, b.Compile(more).Seconds, sheet.Seconds, "a larger group takes no less time")
		whole := a
		whole.Undrawn = true
		undrawn := b.Compile(whole)
		require.GreaterOrEqual(t, len(undrawn.Lines), len(sheet.Lines))
		for _, l := range sheet.Lines {
			require.True(t, slices.ContainsFunc(undrawn.Lines, func(u curriculum.Line) bool { return u.Key() == l.Key() }), "what is drawn stands in the whole: %s", l.Call)
		}
		for _, l := range undrawn.LeftOut {
			require.NotEqual(t, curriculum.LeftUndrawn, l.Kind)
		}
		require.Empty(t, curriculum.Differences(sheet, sheet), "a sheet does not differ from itself")
		other := b.Compile(asking(t, b))
		there, back := curriculum.Differences(sheet, other), curriculum.Differences(other, sheet)
		count := func(list []curriculum.Difference, what string) (n int) {
			for _, d := range list {
				if d.What == what {
					n++
				}
			}
			return n
		}
		require.Equal(t, count(there, "added"), count(back, "dropped"), "what one adds the other drops")
		require.Equal(t, count(there, "changed"), count(back, "changed"))
	})
}

// TestLawsOfAdaptations: whoever is excused is not asked, whoever does something else is
// marked as adapted, and nobody else's sheet changes.
func TestLawsOfAdaptations(t *testing.T) {
	golden.Alone(t)
	all := books()
	rapid.Check(t, func(t *rapid.T) {
		b := rapid.SampledFrom(all).Draw(t, "program")
		a := asking(t, b)
		plain := b.Compile(a)
		if len(plain.Lines) == 0 {
			return
		}
		x := rapid.SampledFrom(plain.Lines).Draw(t, "line")
		q := curriculum.Quantity{Measure: x.Quantity.Measure, Reps: 1, Seconds: x.Quantity.Seconds, Rounds: x.Quantity.Rounds, Rest: x.Quantity.Rest}
		does := rapid.SampledFrom([]curriculum.AdaptationKind{curriculum.Excuse, curriculum.Change}).Draw(t, "does")
		a.Adaptations = []curriculum.Adaptation{{TechniqueID: x.TechniqueID, Does: does, Quantity: &q, Reason: "hip"}}
		sheet := b.Compile(a)
		for _, l := range sheet.Lines {
			if l.TechniqueID != x.TechniqueID {
				require.Empty(t, l.Adapted)
				continue
			}
			require.Equal(t, curriculum.Change, does, "%s is excused", l.Call)
			require.Equal(t, "hip", l.Adapted.Reason)
			q.Side = l.Quantity.Side // what a side means stays
			require.Equal(t, q, l.Quantity)
			require.NotNil(t, l.Unlike(x).Adapted)
		}
		if does == curriculum.Excuse {
			require.True(t, slices.ContainsFunc(sheet.LeftOut, func(l curriculum.LeftOut) bool { return l.Kind == curriculum.LeftExcused && l.Reason == "hip" }))
		}
	})
}

// TestPagesOfTheDemo: what every rung asks, printed as a binder page, is read as it was.
func TestPagesOfTheDemo(t *testing.T) {
	golden.Alone(t)
	for _, b := range books() {
		for _, g := range b.Rungs {
			lines := binder.For(b).ParsePage(binder.For(b).PageOf(g.ID))
			asked := b.Asked(g.ID)
			require.Len(t, lines, len(asked), g.Name)
			for _, l := range lines {
				require.Empty(t, l.Problem, l.Text)
				at := slices.IndexFunc(asked, func(r curriculum.Requirement) bool {
					return r.TechniqueID == l.TechniqueID && r.Role == l.Role && r.Quantity == l.Quantity && r.Setting == l.Setting
				})
				require.GreaterOrEqual(t, at, 0, l.Text)
				want := asked[at]
				want.ID, want.RungID, want.Position = "", "", 0
				got := l.Requirement
				assert.Equal(t, fmt.Sprintf("%+v", want.Carry), fmt.Sprintf("%+v", got.Carry), l.Text)
				assert.Equal(t, want.Table, got.Table, l.Text)
				assert.Equal(t, len(want.Tracks), len(got.Tracks), l.Text)
				assert.Equal(t, want.MustPass, got.MustPass)
				assert.Equal(t, want.Weight, got.Weight)
			}
		}
	}
}

// TestMovesOfTheDemo: every line of moves is printed and read as it was, mirrored twice it is
// itself, and for a stance no lead or rear is left.
func TestMovesOfTheDemo(t *testing.T) {
	golden.Alone(t)
	n := 0
	for _, b := range books() {
		for _, x := range b.Techniques {
			lines := []string{x.AttackMoves}
			for _, s := range x.StepsAt(len(x.Stages)) {
				lines = append(lines, s.Moves)
			}
			for _, line := range lines {
				seq, err := b.Read(line)
				if line == "" || err != nil {
					continue
				}
				n++
				back, err := b.Catalogue.Parse(b.Catalogue.Print(seq))
				require.NoError(t, err, line)
				assert.Equal(t, seq, back, line)
				assert.Equal(t, seq, seq.Mirror().Mirror(), line)
				for _, southpaw := range []bool{false, true} {
					steps, f := b.Catalogue.Walk(seq.Answering(notation.Right), southpaw)
					for _, s := range steps {
						for _, limb := range s.Limbs {
							assert.Contains(t, []notation.Side{notation.Left, notation.Right, notation.Both, ""}, limb, line)
						}
					}
					// A southpaw does the mirror image, move by move.
					mirrored, g := b.Catalogue.WalkMirrored(seq.Answering(notation.Right).Mirror(), !southpaw)
					require.Len(t, mirrored, len(steps))
					assert.Equal(t, f.Left, g.Right, line)
					assert.Equal(t, f.Lead, g.Lead, line)
				}
			}
		}
	}
	assert.Greater(t, n, 100)
}

// TestARenameKeepsTheMoves: whatever technique gets another name, the lines that name it
// follow, and the curriculum still holds together.
func TestARenameKeepsTheMoves(t *testing.T) {
	golden.Alone(t)
	all := books()
	rapid.Check(t, func(t *rapid.T) {
		b := rapid.SampledFrom(all).Draw(t, "program")
		x := rapid.SampledFrom(b.Techniques).Draw(t, "technique")
		x.Name, x.Aliases = "Quite another "+x.Name, nil
		c := b.With(x)
		for _, y := range b.Renamed(x) {
			c = c.With(y)
		}
		for _, found := range c.Curriculum.Validate() {
			require.NotContains(t, found.Path, "moves", found.Text)
		}
		for i := range c.Techniques {
			was, now := b.Technique(c.Techniques[i].ID), &c.Techniques[i]
			before, after := b.Show(was, len(was.Stages), "", curriculum.Orthodox, curriculum.AsWritten), c.Show(now, len(now.Stages), "", curriculum.Orthodox, curriculum.AsWritten)
			require.Equal(t, before.Facts, after.Facts, was.Name)
		}
	})
}

// TestSilenceIsPerFinding: each finding silenced leaves the others open.
func TestSilenceIsPerFinding(t *testing.T) {
	golden.Alone(t)
	for _, p := range At(civil.MustParse("2026-11-24")).Programs {
		found := curriculum.Open(p.Curriculum).Check()
		for i, f := range found {
			c := p.Curriculum
			c.Program.Silenced = []curriculum.Silence{{Finding: f.Key(), Reason: "so it is"}}
			for k, g := range curriculum.Open(c).Check() {
				assert.Equal(t, k == i, g.Silenced == "so it is", g.Key())
			}
		}
	}
}

// TestAttacksAndAnswers: every answer that is counted is asked for, and every attack of a
// technique stands in the matrix.
func TestAttacksAndAnswers(t *testing.T) {
	golden.Alone(t)
	for _, b := range books() {
		rows := b.Coverage()
		listed := map[string]int{}
		for _, r := range rows {
			assert.LessOrEqual(t, r.Asked(), len(r.Answers))
			assert.Equal(t, r.Asked() > 0, r.Answered() >= 0)
			for _, a := range r.Answers {
				listed[a.TechniqueID]++
				if a.Rung >= 0 {
					assert.True(t, slices.ContainsFunc(b.UsedBy(a.TechniqueID), func(q curriculum.Requirement) bool { return b.Place(q.RungID) == a.Rung }))
				}
			}
		}
		for _, x := range b.Techniques {
			assert.LessOrEqual(t, min(len(x.Attack), 1), listed[x.ID], x.Name)
			for _, v := range b.Variants(x.ID) {
				assert.Contains(t, v.BuildsOn, x.ID)
			}
		}
	}
}
