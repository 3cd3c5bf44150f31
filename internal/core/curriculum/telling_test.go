package curriculum_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

func whats(cells []StripMove) (out []string) {
	for _, c := range cells {
		out = append(out, c.What)
	}
	return out
}

// TestTold tells techniques of a stranger's school to everybody who may do them.
func TestTold(t *testing.T) {
	b := school()
	sheet := b.Compile(Asking{RungID: "yellow"})
	line := func(id string) Line {
		return sheet.Lines[slices.IndexFunc(sheet.Lines, func(l Line) bool { return l.TechniqueID == id })]
	}
	for _, x := range []struct {
		technique string
		to        Reading
		want      []string
	}{
		{"drill", "", []string{"left jab", "right cross", "double step through lead jab", "lead hold left."}},
		{"drill", ForOrthodox, []string{"left jab", "right cross", "step through right jab, step through left jab", "lead hold left."}},
		{"drill", ForSouthpaw, []string{"right jab", "left cross", "step through left jab, step through right jab", "lead hold left."}},
		{"drill", ForOther, []string{"right jab", "left cross", "double step through lead jab", "lead hold left."}},
		{"lock", ForOrthodox, []string{"Take the wrist.", "left sleeve hold", "Turn it out, slowly.", "left sleeve hold", "Press behind the shoulder.!", "right free", "Let go."}},
		{"wheel", "", []string{"same-side slip", "left step back", "right inward block", "lead jab"}},
		{"wheel", ForOrthodox, []string{"right slip", "left step back", "right inward block", "right jab"}},
		{"wheel", ForSouthpaw, []string{"right slip", "left step back", "right inward block", "right jab"}},    // the attacking arm is followed, never the defender's stance
		{"wheel", ForOrthodoxOther, []string{"left slip", "right step back", "left inward block", "left jab"}}, // a southpaw attacker
		{"gate", ForSouthpaw, []string{"left step back", "right inward block"}},
		{"gate", ForOrthodoxOther, []string{"right step back", "left inward block"}},
		{"push", ForOrthodox, []string{"left inward block", "right jab"}},
		{"push", ForSouthpaw, []string{"left inward block", "left jab"}},
		{"push", ForSouthpawOther, []string{"right inward block", "left jab"}},
		{"form", ForSouthpaw, []string{"left step", "right cross", "right inward block", "left jab"}}, // never mirrored for a person
		{"form", ForSouthpawOther, []string{"right step", "left cross", "left inward block", "right jab"}},
		{"odd", ForSouthpaw, []string{"left jab", "left cross"}},
		{"on", ForOrthodox, []string{"left jab", "goes on with Mill drill 12", "left jab", "right cross", "step through right jab, step through left jab", "lead hold left."}},
		{"card", ForSouthpaw, []string{"left jab", "right cross"}},
		{"broken", "", []string{"lead jab", "do / whatever"}}, // what cannot be read is not lost
	} {
		assert.Equal(t, x.want, whats(Told(line(x.technique).Moves, x.to)), "%s, %s", x.technique, x.to)
	}
	drill := Told(line("drill").Moves, ForSouthpaw)
	assert.Equal(t, []bool{false, true, false, true}, []bool{drill[0].AsWritten, drill[1].AsWritten, drill[2].AsWritten, drill[3].AsWritten}, "a note and a sentence cannot be mirrored")
	assert.Equal(t, "to right ear · (left side)", drill[1].How)
	assert.False(t, Told(line("drill").Moves, ForOrthodox)[3].AsWritten)
	assert.Equal(t, []int{1, 1, 2, 3}, []int{drill[0].Step, drill[1].Step, drill[2].Step, drill[3].Step})
	assert.Equal(t, []int{1, 1, 2, 3}, []int{drill[0].Count, drill[1].Count, drill[2].Count, drill[3].Count})
	wheel := line("wheel")
	assert.Equal(t, []string{"the jab", "the cross", "", "the head drops"}, []string{wheel.Moves[0].Answers, wheel.Moves[1].Answers, wheel.Moves[2].Answers, wheel.Moves[3].Answers})
	assert.Equal(t, "left foot moves, right leads", Told(wheel.Moves, ForOrthodox)[1].Feet, "the strip shows which foot stepped back")
	assert.Equal(t, []string{"right jab", "left cross"}, whats(Told(wheel.Partner, ForOrthodoxOther)))
	assert.Equal(t, []string{"left jab", "right cross"}, whats(Told(wheel.Partner, ForSouthpaw)))
	assert.Equal(t, []string{"right straight punch"}, []string{strings.Replace(whats(Told(line("push").Partner, ForOther))[0], "push", "straight punch", 1)})
	assert.True(t, Differs(line("gate").Moves, ForOrthodox, ForOrthodoxOther))
	assert.False(t, Differs(line("gate").Moves, ForOrthodox, ForSouthpaw))
	assert.Equal(t, []Reading{ForOther, ForSouthpaw, ForOrthodox, ForSouthpawOther}, []Reading{OtherSide(drill, ""), OtherSide(drill, ForOrthodox), OtherSide(drill, ForSouthpaw), OtherSide(wheel.Moves, ForSouthpaw)})
	assert.Equal(t, []string{"left jab, right cross (to left ear · (left side))", "step through right jab, step through left jab", "lead hold left."}, Written(line("drill").Moves, ForOrthodox))
	assert.Equal(t, []Reading{ForSouthpaw, ForOrthodox}, Pairings(line("drill").Moves, Southpaw, AsWritten, Orthodox, Southpaw))
	assert.Equal(t, "left jab, right cross to left ear (left side) / step through right jab, step through left jab / lead hold left.", b.Spoken(line("drill"), 1, Orthodox))
	assert.Contains(t, b.Spoken(line("on"), 1, AsWritten), "lead jab / goes on with Mill drill 12 / left jab, right cross")

	assert.Equal(t, append(says("eyes up", "no pause"), Throughout{Voice: ShoutLast}), line("drill").Common)
	assert.Equal(t, append(says("eyes up"), Throughout{Voice: ShoutLast}), line("jab").Common)
	assert.Equal(t, []string{"elbow in"}, line("hop").Checkpoints, "a variant shows those of its base")
	assert.Equal(t, "drops", line("hop").Faults[0].Seen)
	assert.Equal(t, "two knuckles", line("hop").Surface)
	assert.Equal(t, []string{"rises"}, line("lock").Success)
	_, f := b.Catalogue.Walk(notation.Join(Sequences(b, "lock")...), false)
	assert.Equal(t, []int{7, 3, 4, 7}, []int{f.Beats, f.Moves, f.Sentences, f.HalfSeconds/2 - 0}, "seven steps, three moves and four sentences")
}

// TestShowAPair shows a defence on its page in all four pairings.
func TestShowAPair(t *testing.T) {
	b := school()
	w := b.Technique("wheel")
	for _, x := range []struct {
		defender, attacker View
		first, last        string
		unchecked          bool
	}{
		{Orthodox, Orthodox, "right slip", "right jab", false}, {Southpaw, Orthodox, "right slip", "right jab", false}, {Orthodox, Southpaw, "left slip", "left jab", false}, {Southpaw, Southpaw, "left slip", "left jab", false},
	} {
		s := b.Show(w, 1, "", x.defender, x.attacker)
		assert.Equal(t, []string{x.first, x.last}, []string{s.Steps[0].Strip[0].What, s.Steps[2].Strip[0].What}, "%v", x)
		assert.Equal(t, x.unchecked, s.Unchecked, "%v", x)
	}
	push := *b.Technique("push")
	push.Position = "inside"
	b = b.With(push)
	p := b.Technique("push")
	assert.False(t, b.Show(p, 1, "", Orthodox, Orthodox).Unchecked)
	assert.True(t, b.Show(p, 1, "", Southpaw, Orthodox).Unchecked, "the rear hand is another hand now, and so inside may be outside")
	assert.False(t, b.Show(p, 1, "", AsWritten, AsWritten).Unchecked)
	own := b.Show(b.Technique("lock"), 1, "Counter-grip", Southpaw, AsWritten)
	assert.Equal(t, []string{"Lay the hand over it.", "left sleeve hold", "Take the wrist."}, []string{own.Steps[0].Strip[0].What, own.Steps[1].Strip[0].What, own.Steps[2].Strip[0].What})
	assert.Equal(t, []string{"Counter-grip", "Counter-grip", ""}, []string{own.Steps[0].Entry, own.Steps[1].Entry, own.Steps[2].Entry})
}

// TestEntries: a requirement asks for ways in by name, a line each, with steps and signs of
// success of their own; old ways in are names without steps.
func TestEntries(t *testing.T) {
	b := school(func(c *Curriculum) {
		i := slices.IndexFunc(c.Requirements, func(r Requirement) bool { return r.TechniqueID == "lock" })
		c.Requirements[i].Entries = []string{"counter-grip", "Own start"}
	})
	var lines []Line
	for _, l := range b.Compile(Asking{RungID: "yellow"}).Lines {
		if l.TechniqueID == "lock" {
			lines = append(lines, l)
		}
	}
	require.Len(t, lines, 2)
	assert.Equal(t, []string{"Reed lock, Counter-grip", "Reed lock, Own start"}, []string{lines[0].Call, lines[1].Call})
	assert.NotEqual(t, lines[0].Key(), lines[1].Key())
	assert.Equal(t, []string{"the elbow lifts"}, lines[0].Success)
	assert.Equal(t, []string{"rises"}, lines[1].Success)
	assert.Len(t, lines[0].Moves, 9)
	assert.Len(t, lines[1].Moves, 7)
	var old Technique
	require.NoError(t, json.Unmarshal([]byte(`{"name":"Old","entries":["direct grip",{"name":"counter-grip","initiated":true}]}`), &old))
	assert.Equal(t, []Entry{{Name: "direct grip"}, {Name: "counter-grip", Initiated: true}}, old.Entries)
	assert.Error(t, json.Unmarshal([]byte(`{"entries":[{"nmae":"x"}]}`), &old))
	lock := b.Technique("lock")
	var text []string
	for _, e := range lock.Entries {
		text = append(text, strings.Split(e.String(), "\n")...)
	}
	again, err := ParseEntries(text)
	require.NoError(t, err)
	assert.Equal(t, lock.Entries, again)
	_, err = ParseEntries([]string{"- a step"})
	assert.ErrorContains(t, err, "line 1: the name of the way in comes first")
	assert.Contains(t, Technique{Name: "x", Kind: "lock", TechniqueDetails: TechniqueDetails{Entries: []Entry{{Name: "a"}, {Name: "A"}, {}}}}.Check().Of("entries"), "stands twice")
	wrong := *lock
	wrong.Entries = []Entry{{Name: "Grip", Steps: []Step{{Moves: "rear sleve hodl"}}}}
	assert.Contains(t, b.CheckTechnique(wrong).Of("entries"), `Grip, step 1, column 6: "sleve hodl" is not in the catalogue`)
}

func TestPartsAndCommon(t *testing.T) {
	parts, err := ParseParts([]string{"The weir: 3 to 6", "The fall: 7", "Way in: 1-2"})
	require.NoError(t, err)
	assert.Equal(t, []Part{{"The weir", 3, 6}, {"The fall", 7, 7}, {"Way in", 1, 2}}, parts)
	assert.Equal(t, "The weir: 3 to 6", parts[0].String())
	for _, wrong := range []string{"The weir", "The weir: a to b", ": 1 to 2", "The weir: 1 till 2", "The weir: 1 to b"} {
		_, err := ParseParts([]string{wrong})
		assert.ErrorContains(t, err, "line 1: write a name", wrong)
	}
	x := Technique{Name: "x", Kind: "form", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: make([]Step, 3)}}, Parts: []Part{{"a", 1, 3}}}}
	assert.Empty(t, x.Check().Of("parts"))
	for _, p := range []Part{{"b", 0, 1}, {"b", 2, 1}, {"b", 3, 4}, {"A", 1, 1}} {
		y := x
		y.Parts = append(slices.Clone(x.Parts), p)
		assert.NotEmpty(t, y.Check().Of("parts"), p)
	}
	common, err := ParseCommon([]string{"Forms: eyes first; breathe out ;", ""})
	require.NoError(t, err)
	assert.Equal(t, []Common{{"Forms", []string{"eyes first", "breathe out"}}}, common)
	assert.Equal(t, "Forms: eyes first; breathe out", common[0].String())
	_, err = ParseCommon([]string{"Forms"})
	assert.ErrorContains(t, err, "line 1: write a section")
	for _, v := range Voices {
		assert.NotEmpty(t, v.Words())
		assert.NotContains(t, v.Words(), ",", "a binder line parts at commas")
	}
}
