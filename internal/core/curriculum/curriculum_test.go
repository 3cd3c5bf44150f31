package curriculum_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	. "velvetladder/internal/core/curriculum"
)

func TestAmountsAsPeopleWriteThem(t *testing.T) {
	for in, want := range map[string]Quantity{
		"5 a side": {Measure: RepsPerSide, Reps: 5}, "10 per side": {Measure: RepsPerSide, Reps: 10}, "4/side": {Measure: RepsPerSide, Reps: 4}, "3 x each side": {Measure: RepsPerSide, Reps: 3},
		"10": {Measure: RepsInAll, Reps: 10}, "10x": {Measure: RepsInAll, Reps: 10}, " Once ": {Measure: RepsInAll, Reps: 1}, "twice": {Measure: RepsInAll, Reps: 2}, "5 times": {Measure: RepsInAll, Reps: 5},
		"60 s": {Measure: Timed, Seconds: 60}, "60s": {Measure: Timed, Seconds: 60}, "2 min": {Measure: Timed, Seconds: 120},
		"2 x 90 s": {Measure: RoundsTimed, Rounds: 2, Seconds: 90}, "3 × 2 min, 30 s rest": {Measure: RoundsTimed, Rounds: 3, Seconds: 120, Rest: 30},
		"20 repetitions each side": {Measure: RepsPerSide, Reps: 20}, "1 rep": {Measure: RepsInAll, Reps: 1}, "10 p/side": {Measure: RepsPerSide, Reps: 10}, "a minute": {Measure: Timed, Seconds: 60}, "hold for a minute": {Measure: Timed, Seconds: 60}, "half a minute": {Measure: Timed, Seconds: 30}, "2½ min": {Measure: Timed, Seconds: 150}, "½ minute": {Measure: Timed, Seconds: 30}, "1:30": {Measure: Timed, Seconds: 90}, "2:05 min": {Measure: Timed, Seconds: 125},
		"10 alternating": {Measure: Alternating, Reps: 10}, "20 in 1 min": {Measure: CountWithin, Reps: 20, Seconds: 60}, "3 holds of 10 s": {Measure: Holds, Reps: 3, Seconds: 10}, "4 a side without touching down": {Measure: NoTouchDown, Reps: 4},
	} {
		got, err := ParseQuantity(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, got, in)
	}
	for in, said := range map[string]string{"": "write for example", "some": "write for example", "5 a": "write", "0": "must be from 1 to 1000", "1001": "must be from 1 to 1000", "5000 s": "must be from 1 to 3600", "99 x 10 s": "must be from 1 to 20", "-5": "write", "1.5": "write"} {
		_, err := ParseQuantity(in)
		assert.ErrorIs(t, err, ErrQuantity, in)
		assert.ErrorContains(t, err, said, in)
	}
}

func TestLawAmountsAreReadAsPrinted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Quantity{Measure: rapid.SampledFrom(Measures).Draw(t, "measure")}
		switch q.Measure {
		case CountWithin, Holds:
			q.Reps, q.Seconds = rapid.IntRange(1, 200).Draw(t, "reps"), rapid.IntRange(1, 3600).Draw(t, "seconds")
		case RepsPerSide, RepsInAll, Alternating, NoTouchDown:
			q.Reps = rapid.IntRange(1, 200).Draw(t, "reps")
		case RoundsTimed:
			q.Rounds = rapid.IntRange(2, 20).Draw(t, "rounds")
			q.Rest = rapid.IntRange(0, 600).Draw(t, "rest")
			fallthrough
		case Timed, TimedSide:
			q.Seconds = rapid.IntRange(1, 3600).Draw(t, "seconds")
		}
		if q.PerSide() {
			q.Side = rapid.SampledFrom([]SideMeaning{"", ByStance, ByLimb, ByDirection}).Draw(t, "side")
		}
		got, err := ParseQuantity(q.String())
		require.NoError(t, err)
		assert.Equal(t, q, got)
	})
}

// plain is a strip without its readings and steps.
func plain(cells []StripMove) []StripMove {
	out := slices.Clone(cells)
	for i := range out {
		out[i].Readings, out[i].Step, out[i].Paired = nil, 0, false
	}
	return out
}

func TestStrip(t *testing.T) {
	b := Open(Curriculum{Techniques: []Technique{{ID: "low", Name: "Low block"}, {ID: "palm", Name: "Palm strike"}, {ID: "side", Name: "Side kick"}, {ID: "check", Name: "check"}}})
	const line = "slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs!, double palm strike turn cw 90 (eyes first) + rear check keep, step back, rear free"
	held := []string{"rear check"}
	assert.Equal(t, []StripMove{
		{What: "lead low block", How: "slide back", Count: 1}, {What: "rear palm strike", How: "high", Count: 1}, {What: "lead side kick!", How: "cross step · mid · to ribs", Count: 2},
		{What: "double palm strike", How: "turn cw 90 · (eyes first) + rear check, keep", Count: 2, Held: held}, {What: "step back", Count: 2, Held: held}, {What: "free rear check", Count: 2},
	}, plain(b.Strip(line, AsWritten)))
	assert.Equal(t, "right low block", b.Strip(line, Southpaw)[0].What)
	assert.Equal(t, "left low block", b.Strip(line, Orthodox)[0].What)
	assert.Empty(t, b.Strip("Answers a right front kick", AsWritten), "plain words are no moves")
}

func TestChecks(t *testing.T) {
	r := Rung{Name: "Orange belt", Kind: "ladder", Cloth: Cloth{Weave: Halves, Colour: "#ffffff", Second: "white", Marks: &BeltMarks{Colour: "#000", Count: 11, Place: "sleeve"}}}
	p := r.Check()
	for _, field := range []string{"kind", "second", "mark_colour", "mark_count", "mark_place"} {
		assert.NotEmpty(t, p.Of(field), field)
	}
	assert.Empty(t, p.Of("colour")+p.Of("name"))
	assert.Equal(t, []string{"Orange", "Orange", "Orange stripe", "Orange", " stripe", "Blue belt, red stripe"}, []string{Rung{Name: "Orange belt"}.Pictured(), Rung{Name: "Orange stripe"}.Pictured(), Rung{Name: "Orange stripe"}.Short(), Rung{Name: "Orange belt"}.Short(), Rung{Name: " stripe"}.Pictured(), Rung{Name: "Blue belt, red stripe"}.Pictured()})
	assert.Equal(t, []string{"belt", " belt"}, []string{Rung{Name: "belt"}.Short(), Rung{Name: " belt"}.Short()})
	technique := Technique{Name: "Jab", Kind: "dance", Aliases: []string{"lead", "JAB"}}
	assert.NotEmpty(t, technique.Check().Of("kind"))
	assert.Contains(t, technique.Check().Of("aliases"), "stands twice")
	q := Requirement{Role: "judge", Quantity: Quantity{Measure: "miles"}, Weight: 101, MustPass: true, Bonus: true}.Check()
	for _, field := range []string{"role", "measure", "weight", "bonus"} {
		assert.NotEmpty(t, q.Of(field), field)
	}
	assert.Equal(t, []Fault{{Seen: "leaning back", Correction: "weight forward"}, {Seen: "no chamber"}, {Seen: "chin up", Leads: "a choke", Correction: "chin down", Critical: true}}, ParseFaults([]string{"leaning back -> weight forward", "no chamber", "! chin up → a choke → chin down"}))
	assert.Equal(t, "leaning back → weight forward", Fault{Seen: "leaning back", Correction: "weight forward"}.String())
}

// TestSpokenForAPair: a technique's line as called, for either stance, and by the pair.
func TestSpokenForAPair(t *testing.T) {
	c := Curriculum{Program: Program{ID: "p", Name: "P"}, Techniques: []Technique{{ID: "j", Name: "Jab", Kind: "strike"}, {ID: "b", Name: "Low Block", Kind: "block"}, {ID: "w", Name: "Wheel", Kind: "self_defence", TechniqueDetails: TechniqueDetails{
		AttackMoves: "step through rear jab high", Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "same-side low block"}, {Moves: "Wait for it."}}}, {Does: Appends, Steps: []Step{{Moves: "step through lead jab! / rear jab"}}}}}}}}
	b := Open(c)
	w := b.Technique("w")
	assert.Equal(t, "same-side low block / Wait for it. / step through lead jab! / rear jab", b.Spoken(Line{TechniqueID: "w", Role: "defender", Stage: 2}, -1, AsWritten))
	assert.Equal(t, "right low block / Wait for it. / step through right jab! / left jab", b.Spoken(Line{TechniqueID: "w", Role: "defender", Stage: 2}, -1, Orthodox), "the attack comes with the left after its step")
	assert.Equal(t, "step through rear jab high", b.Spoken(Line{TechniqueID: "w", Role: "attacker", Stage: 2}, -1, AsWritten))
	assert.Equal(t, "step through left jab high", b.Spoken(Line{TechniqueID: "w", Role: "attacker", Stage: 2}, -1, Orthodox))
	assert.Equal(t, "step through right jab high", b.Spoken(Line{TechniqueID: "w", Role: "attacker", Stage: 2}, -1, Southpaw))
	for _, x := range []struct {
		defender, attacker View
		first, last        string
	}{{Orthodox, Orthodox, "right low block", "left jab"}, {Orthodox, Southpaw, "left low block", "left jab"}, {Southpaw, Orthodox, "right low block", "right jab"}, {Southpaw, Southpaw, "left low block", "right jab"}} {
		s := b.Show(w, 2, "", x.defender, x.attacker)
		assert.Equal(t, x.first, s.Steps[0].Strip[0].What, "%v", x)
		assert.Equal(t, "Wait for it.", s.Steps[1].Strip[0].What, "a sentence is a step too")
		assert.Equal(t, x.last, s.Steps[2].Strip[1].What, "stance is followed through the steps: %v", x)
		assert.Equal(t, []int{1, 1, 2}, []int{s.Steps[0].Stage, s.Steps[1].Stage, s.Steps[2].Stage})
		assert.Equal(t, 3, s.Facts.Moves)
	}
	grip := &Technique{TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: []Step{{Moves: "right low block keep"}, {Moves: "left jab"}, {Moves: "right free, slide back"}}}}}}
	held := b.Show(grip, 1, "", AsWritten, AsWritten)
	assert.Equal(t, []string{"right low block"}, held.Steps[1].Strip[0].Held, "a grip goes on from step to step")
	assert.Equal(t, "free right low block", held.Steps[2].Strip[0].What)
	assert.Empty(t, held.Steps[2].Strip[1].Held)
	assert.Equal(t, "same-side low block", b.Show(w, 1, "", AsWritten, AsWritten).Steps[0].Strip[0].What)
}

// TestSecondsASide: each side with seconds is so many seconds on each, counted, called and compared so.
func TestSecondsASide(t *testing.T) {
	for typed, want := range map[string]Quantity{
		"20 s a side": {Measure: TimedSide, Seconds: 20}, "20 secs each side": {Measure: TimedSide, Seconds: 20}, "hold 1 min each leg": {Measure: TimedSide, Seconds: 60, Side: ByLimb}, "1:30 each way": {Measure: TimedSide, Seconds: 90, Side: ByDirection},
		"30 s on both sides": {Measure: TimedSide, Seconds: 30}, "20 s hold each stance": {Measure: TimedSide, Seconds: 20, Side: ByStance}, "30 s hold": {Measure: Timed, Seconds: 30}, "3 rounds x 2 min": {Measure: RoundsTimed, Rounds: 3, Seconds: 120},
	} {
		got, err := ParseQuantity(typed)
		require.NoError(t, err, typed)
		assert.Equal(t, want, got, typed)
	}
	kick := &Technique{Kind: "kick"}
	l := Line{Kind: "kick", Looks: 2, Quantity: Quantity{Measure: TimedSide, Seconds: 20}}
	assert.Equal(t, []Set{{Turn: OwnStance, Seconds: 20}, {Turn: OtherStance, Seconds: 20}}, l.Sets(kick, 0))
	assert.Equal(t, []Set{{Seconds: 20}}, l.Sets(&Technique{Kind: "kick", TechniqueDetails: TechniqueDetails{Sides: LeadSide}}, 0))
	assert.Equal(t, []any{0, "", CallOverhead + 40}, []any{l.Called(4), l.CalledAmount(4), Duration(l, kick, 3)})
	larger, comparable := Quantity{Measure: TimedSide, Seconds: 21}.Larger(l.Quantity)
	assert.Equal(t, []bool{true, true}, []bool{larger, comparable})
	_, comparable = Quantity{Measure: Timed, Seconds: 21}.Larger(l.Quantity)
	assert.False(t, comparable, "another unit")
	_, err := ParseQuantity("0 s a side")
	assert.ErrorContains(t, err, "seconds is 0")
}
