package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/timetable"
)

// TestQuietWeeks: classes on the timetable to which nobody came are a holiday that nobody
// entered, or registers that stopped; both are said, and no student is blamed for them.
func TestQuietWeeks(t *testing.T) {
	steady := func(weeks int, quiet ...int) (p Pace) {
		for at := weeks - 1; at >= 0; at-- {
			w := Week{Came: 2, Held: 3, Open: 5}
			for _, q := range quiet {
				if q == at {
					w.Came = 0
				}
			}
			p = append(p, w)
		}
		return p
	}
	four := func(p Pace) []Pace { return []Pace{p, p, p, p} }
	q := quiet(four(steady(20, 0, 1, 8)))
	assert.Equal(t, []int{2, 1}, []int{q.Stopped(), q.Holidays()})
	assert.True(t, q[0] && q[1] && q[8] && !q[2])
	assert.Equal(t, Quiet{}, quiet([]Pace{steady(20, 3), steady(20, 3), steady(20, 3)}), "of three nothing is told")
	one := append(four(steady(20, 3)), steady(20))
	assert.Equal(t, Quiet{}, quiet(one), "somebody came")
	assert.Equal(t, Quiet{}, quiet(four(Pace{{Held: 0}, {Held: 0}})), "a holiday that was entered")
	p := steady(20, 0, 1, 8)
	assert.Equal(t, []int{0, 0, 3, 0}, []int{p.without(q)[19].Held, p.without(q)[18].Held, p.without(q)[17].Held, p.without(q)[11].Held})
	assert.Equal(t, 3, p[19].Held, "a copy")
	assert.InDelta(t, 21.0/22, q.open(p), 1e-9, "weeks up to now that were quiet tell nothing of those ahead")
	assert.InDelta(t, 1, Quiet{}.open(p), 1e-9)

	said := func(quiet ...int) string {
		prior := UsualPace(four(steady(20, quiet...)), 3)
		return SayDrives(Need{Classes: []ClassNeed{{Lack: 4}}}.Foresee(steady(20, quiet...), prior, timetable.Ahead{}, 3, day("2026-11-24")).Drives)
	}
	assert.Contains(t, said(0, 1, 2), "no register of the last 3 weeks shows anybody")
	assert.Contains(t, said(0, 1), "no register of the last 2 weeks shows anybody")
	assert.NotContains(t, said(0, 1, 2), "away for")
	assert.Contains(t, said(6, 7), "in 2 weeks of the last months nobody came though classes stand on the timetable")
	for _, calm := range []string{said(), said(0), said(7)} {
		assert.NotContains(t, calm, "timetable")
	}
}

// TestBatches: sign-offs entered at the month's end are given to the weeks in which they were shown.
func TestBatches(t *testing.T) {
	p := Pace{{Came: 1, Held: 2, Open: 9, Signed: 1}, {Came: 2, Held: 2, Open: 8}, {Came: 0, Held: 2, Open: 8}, {Came: 1, Held: 2, Open: 8, Signed: 6}, {Came: 1, Held: 2, Open: 2}}
	got := p.spread()
	var signed, open []int
	for _, w := range got {
		signed, open = append(signed, w.Signed), append(open, w.Open)
	}
	assert.Equal(t, []int{1, 4, 0, 2, 0}, signed, "as the student came")
	assert.Equal(t, []int{9, 8, 4, 4, 2}, open)
	assert.Equal(t, 6, p[3].Signed, "a copy")
	away := Pace{{Came: 0, Held: 2, Open: 5}, {Came: 0, Held: 2, Open: 5, Signed: 3}}
	assert.Equal(t, away, away.spread(), "nobody came: it stays where it was entered")
	long := make(Pace, 12)
	for i := range long {
		long[i] = Week{Came: 1, Held: 1, Open: 12}
	}
	long[11].Signed = 6
	n := 0
	for _, w := range long.spread() {
		if w.Signed > 0 {
			n++
		}
	}
	assert.Equal(t, 6, n, "no further back than six weeks")

	school := func(every, each int) (all []Pace) {
		for range 5 {
			var p Pace
			for i := range 24 {
				w := Week{Came: 1, Held: 2, Open: 9}
				if (i+1)%every == 0 {
					w.Signed = each
				}
				p = append(p, w)
			}
			all = append(all, p)
		}
		return all
	}
	assert.True(t, batched(school(4, 3)))
	assert.False(t, batched(school(1, 1)))
	assert.False(t, batched(school(2, 1)), "every other week is no batch")
	assert.False(t, batched(school(8, 1)), "fifteen in all tell nothing")
	assert.True(t, UsualPace(school(4, 3), 2).Batched)
	// So many students who are all signed off in the first weeks of so many.
	weeks := func(students, of, with, each int) (all []Pace) {
		for range students {
			p := make(Pace, of)
			for i := range p {
				p[i] = Week{Came: 1, Held: 2, Open: 9}
				if i < with {
					p[i].Signed = each
				}
			}
			all = append(all, p)
		}
		return all
	}
	// Of twenty weeks nine are 45 in 100, ten are not; twenty in all tell something, nineteen do not.
	for batch, is := range map[bool][][]Pace{true: {weeks(4, 20, 9, 1), weeks(4, 20, 5, 1), weeks(3, 20, 6, 2)}, false: {weeks(4, 20, 10, 1), append(weeks(3, 20, 6, 1), weeks(1, 20, 1, 1)...),
		weeks(1, 20, 9, 3), weeks(2, 20, 6, 2), weeks(4, 22, 10, 1), {}}} { // weeks of one or two may fall so by chance
		for i, all := range is {
			assert.Equal(t, batch, batched(all), "%v %d", batch, i)
		}
	}
	old := append(make(Pace, 0), weeks(1, PaceWeeks+9, 9, 30)[0]...)
	assert.False(t, batched([]Pace{old, old, old, old}), "what is older than the pace looks back")
}
