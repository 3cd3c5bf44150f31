package words

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// TestASideHasAName: by the foot in front, the limb, the way gone, or just the side.
func TestASideHasAName(t *testing.T) {
	for want, l := range map[string]curriculum.Line{
		"left foot forward": {Role: "performer", Kind: "combination"},
		"left side":         {Role: "performer", Kind: "kick", Quantity: curriculum.Quantity{Side: curriculum.ByLimb}},
		"to the left":       {Role: "performer", Kind: "combination", Quantity: curriculum.Quantity{Side: curriculum.ByDirection}},
	} {
		assert.Equal(t, []string{want, ""}, []string{SideName(l, "left"), SideName(l, "")})
	}
	assert.Equal(t, []string{"right side", "right side"}, []string{SideName(curriculum.Line{Role: "performer", Kind: "form"}, "right"), SideName(curriculum.Line{Role: "defender", Kind: "self-defence"}, "right")})
}

func TestWhyALineIsHere(t *testing.T) {
	for said, w := range map[string]curriculum.Why{
		"Green asks for it.":                            {Kind: curriculum.WhyAsked, Rung: "Green"},
		"Carried from White, until Orange.":             {Kind: curriculum.WhyUntil, Rung: "White", To: "Orange"},
		"Carried from White, always.":                   {Kind: curriculum.WhyAlways, Rung: "White"},
		"From White, a member of “Pool”.":               {Kind: curriculum.WhyMember, Rung: "White", Group: "Pool"},
		"From White, a member of a group that is gone.": {Kind: curriculum.WhyMember, Rung: "White"},
		"A bonus for Cubs.":                             {Kind: curriculum.WhyBonus, Track: "Cubs"},
		"Cubs do 3 a side instead of 5 a side.":         {Kind: curriculum.WhyAmount, Track: "Cubs", Now: "3 a side", Was: "5 a side"},
		"For Cubs low is enough.":                       {Kind: curriculum.WhyLevel, Track: "Cubs", Now: "low"},
		"Cubs go up to stage 2.":                        {Kind: curriculum.WhyPart, Track: "Cubs", Now: "stage 2"},
		"One of 4 in “Pool”, of which 2 are drawn.":     {Kind: curriculum.WhyPool, N: 2, Of: 4, Group: "Pool"},
		"One of 4 in “Pool”, of which 1 is drawn.":      {Kind: curriculum.WhyPool, N: 1, Of: 4, Group: "Pool"},
		"Drawn: 2 of 4 in “Pool”, seed 7.":              {Kind: curriculum.WhyDrawn, N: 2, Of: 4, Group: "Pool", Seed: 7},
		"Drawn at the earlier attempt, of 4 in “Pool”.": {Kind: curriculum.WhyKept, Of: 4, Group: "Pool"},
		"As it was written.":                            {Kind: curriculum.WhyWritten, Text: "As it was written."},
	} {
		assert.Equal(t, said, OnSheet(w))
	}
	for said, l := range map[string]curriculum.LeftOut{
		"Cubs leave it out.":                   {Kind: curriculum.LeftByTrack, Track: "Cubs"},
		"Excused: cast":                        {Kind: curriculum.LeftExcused, Reason: "cast"},
		"Not drawn: 2 of 4 in “Pool”, seed 7.": {Kind: curriculum.LeftUndrawn, Draw: curriculum.Why{Kind: curriculum.WhyDrawn, N: 2, Of: 4, Group: "Pool", Seed: 7}},
		"Not for Cubs: it suits Adults.":       {Kind: curriculum.LeftBarred, Reason: "Not for Cubs: it suits Adults."},
	} {
		assert.Equal(t, said, LeftOut(l))
	}
	slow := curriculum.Pace{Slow: true}
	all := curriculum.Line{Freshness: curriculum.Grown, Why: []curriculum.Why{{Kind: curriculum.WhyAsked, Rung: "Green"}}, Before: curriculum.Before{Rung: "White", Growth: []curriculum.Growth{
		{Kind: curriculum.GrownPart, Now: "extension", Was: "stage 2"}, {Kind: curriculum.GrownPart, Now: "stage 1"}, {Kind: curriculum.GrownAmount, Now: "60 s", Was: "5 a side"}, {Kind: curriculum.GrownPace, NowPace: curriculum.Pace{NonStop: true}, WasPace: slow},
		{Kind: curriculum.GrownHeight, Now: "high", Was: "low"}, {Kind: curriculum.GrownHeight, Now: "mid"}, {Kind: curriculum.GrownAlone}, {Kind: curriculum.GrownChecks, N: 2, M: 1, All: true}, {Kind: curriculum.GrownChecks, N: 1, M: 3}}}}
	assert.Equal(t, []string{"Grown: extension, after stage 2; stage 1, after nothing of it; 60 s, after 5 a side; at full speed, non-stop, after slowly, counted; at least high, after low; at least mid, after any height; " +
		"without support, after support allowed; all 2 checkpoints count, after 1; 1 checkpoint counts, after 3 at White.", "Green asks for it."}, Whys(all))
	for said, l := range map[string]curriculum.Line{
		"As at White.": {Freshness: curriculum.Carried, Before: curriculum.Before{Rung: "White"}}, "New at Green.": {Freshness: curriculum.New, Before: curriculum.Before{Rung: "Green"}},
		"What newcomers are taught; nobody is tested for it.": {Freshness: curriculum.New, Before: curriculum.Before{Rung: "White", First: true}},
	} {
		assert.Equal(t, []string{said}, Whys(l))
	}
}

// TestAFrozenLine: a line of a sheet that was begun before its reasons were kept by kind says what it said then.
func TestAFrozenLine(t *testing.T) {
	var l curriculum.Line
	require.NoError(t, json.Unmarshal([]byte(`{"freshness":"grown","why":["Grown: 5 a side, after 3 a side at White.","Yellow asks for it."],"adapted":"instead of Palm: hip","common":["eyes up","shout on the last move"],"told_apart":["not Snap: the feet are planted"],"manner":"slowly","detail":"against push"}`), &l))
	assert.Equal(t, []string{"Grown: 5 a side, after 3 a side at White.", "Yellow asks for it."}, Whys(l))
	assert.Equal(t, "instead of Palm: hip", Adapted(l.Adapted))
	assert.Equal(t, []string{"eyes up", "shout on the last move"}, Throughout(l.Common))
	assert.Equal(t, []string{"not Snap: the feet are planted"}, ToldApart(l.Apart))
	assert.Equal(t, []string{"slowly", "against push"}, []string{Manner(l), Detail(l)})

	now := curriculum.Line{Why: []curriculum.Why{{Kind: curriculum.WhyDrawn, N: 2, Of: 4, Group: "Pool", Seed: 1<<63 + 1}}, Adapted: &curriculum.Adapted{Instead: "Palm", Reason: "hip"}, Before: curriculum.Before{Rung: "White", Growth: []curriculum.Growth{{Kind: curriculum.GrownAlone}}},
		Common: []curriculum.Throughout{{Says: "eyes up"}, {Voice: curriculum.ShoutLast}, {Part: "the sweep", Steps: "Sweep / Step"}}, Apart: []curriculum.ToldApart{{From: "Snap", Differs: "the feet", There: true}}, Against: []curriculum.AttackElement{{Kind: "push", Side: "left"}}}
	text, err := json.Marshal(now)
	require.NoError(t, err)
	var again curriculum.Line
	require.NoError(t, json.Unmarshal(text, &again))
	assert.Equal(t, now, again, "what is kept by kind comes back")
	assert.Error(t, json.Unmarshal([]byte(`{"why":["\ud8"]}`), &again))
	assert.Error(t, json.Unmarshal([]byte(`{"why":[7]}`), &again))
}

func TestWhatCountsForALine(t *testing.T) {
	assert.Equal(t, []string{"eyes up", "shout on the last move", "either ending is right, with or without the sweep: Sweep / Step"}, Throughout([]curriculum.Throughout{{Says: "eyes up"}, {Voice: curriculum.ShoutLast}, {Part: "the sweep", Steps: "Sweep / Step"}}))
	assert.Equal(t, []string{"not Snap: planted", "not Long jab, in which one sees: it slides"}, ToldApart([]curriculum.ToldApart{{From: "Snap", Differs: "planted"}, {From: "Long jab", Differs: "it slides", There: true}}))
	assert.Equal(t, []string{"", "gently", "gently", ""}, []string{DetailBesideNote(curriculum.Line{Detail: "gently", Note: "Gently"}), DetailBesideNote(curriculum.Line{Detail: "gently", Note: "on the spot"}), DetailBesideNote(curriculum.Line{Detail: "gently"}), DetailBesideNote(curriculum.Line{})})
	assert.Equal(t, []string{"gently", "against left push, then hook", ""}, []string{Detail(curriculum.Line{Detail: "gently", Against: []curriculum.AttackElement{{Kind: "push"}}}), Detail(curriculum.Line{Against: []curriculum.AttackElement{{Kind: "push", Side: "left"}, {Kind: "hook"}}}), Detail(curriculum.Line{})})
	assert.Equal(t, "non-stop, slowly, by phases, support allowed, of the candidate's own choice, sprint called for the last 1 s, in silence", Manner(curriculum.Line{NonStop: true, Slow: true, Phases: true, Supported: true, Free: true, Sprint: 1, Voice: curriculum.NoVoice, OwnVoice: true}))
	assert.Empty(t, Manner(curriculum.Line{Voice: curriculum.NoVoice}), "the voice of its rung is said at its head")
	assert.Empty(t, Standard(curriculum.Line{}))
	assert.Equal(t, []string{"at least mid", "equally right: with a step; on the spot", "mark from 18: 2, from 26: 2.5", "2 is one slide"}, Standard(curriculum.Line{Level: "mid", Versions: []string{"with a step", "on the spot"},
		Table: []curriculum.TableMark{{Count: 18, Mark: scoring.Whole(2)}, {Count: 26, Mark: scoring.Whole(5) / 2}}, MarkLooks: []curriculum.MarkLook{{Mark: scoring.Whole(2), Looks: "one slide"}}}))
	two := curriculum.Line{Kind: "kick", Looks: 2, Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}}
	assert.Equal(t, []string{"2 a side asked, 6 called", ""}, []string{Called(two, 3), Called(two, 1)})
}

func TestOneOfAGroup(t *testing.T) {
	hip := &curriculum.Adapted{Now: "2 a side", Was: "5 a side", Reason: "hip"}
	for said, o := range map[string]curriculum.Otherwise{"": {}, "not asked": {NotAsked: true}, "3 a side": {Amount: "3 a side"}, "part 1 of 3": {Part: 1, Of: 3}, "at least low": {Level: "low"}, "a bonus": {Bonus: true}, "no bonus": {NoBonus: true},
		"adapted: 2 a side instead of 5 a side: hip": {Adapted: hip}, "once · part 2 of 3": {Amount: "once", Part: 2, Of: 3}} {
		assert.Equal(t, said, Otherwise(o))
	}
	assert.Equal(t, "not asked; Jab: a bonus", OwnLines([]gradingday.OwnLine{{Otherwise: curriculum.Otherwise{NotAsked: true}}, {Call: "Jab", Otherwise: curriculum.Otherwise{Bonus: true}}}))
	assert.Equal(t, []string{"", "instead of Palm: hip", "instead of Palm"}, []string{Adapted(nil), Adapted(&curriculum.Adapted{Instead: "Palm", Reason: "hip"}), Adapted(&curriculum.Adapted{Instead: "Palm"})}, "a reason may have been erased")
}
