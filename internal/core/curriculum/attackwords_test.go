package curriculum

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAttacksInWords: what people write is read as the line that ParseAttack would read, or not at all.
func TestAttacksInWords(t *testing.T) {
	b := Open(Curriculum{Program: Program{ProgramDetails: ProgramDetails{Attacks: []OwnAttack{{"sleeve grab", "grab"}}, NoAttacks: []AttackKind{"slap"}}}})
	for said, want := range map[string]string{
		"front choke": "front choke", "Choke from behind": "rear choke", "strangle from the front": "front choke", "cross wrist grab": "wrist grab ~",
		"double lapel grab from the front": "two-hand lapel grab", "bear hug from behind arms free": "hug, rear ~", "rear bear hug": "hug, rear",
		"right step-through punch to the face": "right lunge punch, high", "stepping right punch": "right straight punch, step-through", "rear punch": "rear straight punch",
		"rear shoulder grab": "shoulder grab, rear", "overhead club": "club, high", "push, then punch": "push | straight punch", "jab + cross": "lead straight punch | rear straight punch",
		"Escape from headlock": "headlock", "side headlock": "headlock, side", "a knife thrust to the stomach": "knife thrust, mid", "Front kick defense": "front kick", "two-hand push": "both push",
		"both wrists held from behind": "two-hand wrist grab, rear", "left sleeve grab": "left sleeve grab", "rear kick": "back kick", "standing headlock": "headlock ~", "choke, from behind": "", "choke two hands from front": "front choke ~", "strangle from the rear": "rear choke", "choke": "", "two-hand choke front": "front choke ~", "choke rear": "rear choke", "vs R hook": "right hook", "choke from the side": "",
		"": "", "cross": "", "knife": "", "slap": "", "the elbow lock": "", "left right hook": "", "push and punch": "push | straight punch", "lapel grab with a right punch": "lapel grab | right straight punch", "push and pull": "", "arm lock": "", "hammer lock": "arm lock", "half nelson": "full nelson ~", "groin kick": "front kick, low", "knife defence, overhead": "knife overhead", "gun to the back": "gun ~", "wrist lock": "", "hug, choke": "", "from behind": "", "front rear choke": "",
	} {
		attack, more := b.attackIn(said)
		var lines []string
		if want != "" {
			lines = strings.Split(strings.TrimSuffix(want, " ~"), " | ")
		}
		meant, err := ParseAttack(lines)
		require.NoError(t, err)
		assert.Equal(t, meant, attack, said)
		assert.Equal(t, strings.HasSuffix(want, "~"), more, said)
	}
	for phrase, x := range attackPhrases() {
		assert.LessOrEqual(t, len(strings.Fields(phrase)), longestAttack, phrase)
		if x.Kind != "" {
			got, _ := b.attackIn("defence against the " + phrase)
			assert.Equal(t, slices.Contains([]AttackKind{"slap", "choke"}, x.Kind), got == nil, phrase)
		}
	}
}

// TestWhatALineAnswers: the attack stands in the name, in brackets, behind a dash or a colon; a punch behind a comma may be the answer,
// of two that are named none is taken, and what an attack cannot hold stays a remark.
func TestWhatALineAnswers(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Falling Bell (front choke)": "front choke ()", "Falling Bell - left lapel grab": "left lapel grab ()", "Falling Bell vs. a push": "push ()", "Falling Bell vs. a double shove": "two-hand push ()", "Falling Bell against a rear bear hug": "hug, from the rear ()",
		"Falling Bell (hook)": "hook ()", "Falling Bell, hook": " (hook)", "Falling Bell (rear bear hug, arms pinned)": "hug, from the rear (rear bear hug, arms pinned)", "Falling Bell (front choke, gently)": "front choke (gently)",
		"Hair pull (from behind)": "hair grab, from the rear ()", "Wrist grab release, both hands": "two-hand wrist grab ()", "Hook": " ()", "Hook defence": "hook ()", "Falling Bell (push, headlock)": " (push, headlock)",
		"Gold 2: front choke": "front choke ()", "Gold 1: cross wrist grab": "wrist grab (cross wrist grab)",
		"Falling Bell\nA: right lunge punch": "right lunge punch ()",
		// words beside it
		"Release from opposite wrist grab": "wrist grab ()", "Kimono choke from behind": "rear choke ()", "Bully push - step back": "push (step back)", "Against the drunken hook at the bar": "hook ()", "Escape from arm hold on the stairs": "arm grab ()",
		"Drunken hook": " ()", "Arm drag to rear choke": " ()", "Headlock game": " ()", "Rear choke or sudden headlock": " ()", "Sweeping headlock kick": " ()", "Falling Bell (sudden headlock)": "headlock (sudden headlock)", "Falling Bell, sudden headlock": " (sudden headlock)",
		"Headlock safely held": " ()", "Headlock on a chair": "headlock ()", "Escape from a double grab": " ()", "Surprise grab of the bag": " ()",
		// a label that says which, and what is done about it
		"Left jab: slip outside, palm heel": "left straight punch ()", "Jab: slip outside, palm heel": " ()", "Right front kick: step back, palm heel": "right front kick ()",
		"Hand grab from the left": "wrist grab, from the side ()", "Headlock from the right side": "right headlock ()",
	} {
		lines := b.ParsePage("Self-defence\n" + typed)
		l := lines[len(lines)-1]
		assert.Equal(t, want, AttackWords(l.Attack)+" ("+l.Note+")", "%s: %s", typed, l.Problem)
	}
	c, err := b.AddPage("y", b.ParsePage("Self-defence\nOpen Hand (push)\nLong Hand\nKicks\nLow Hand (push), kick"), counter())
	require.NoError(t, err)
	b = Open(c)
	assert.Equal(t, "push", AttackWords(b.Named("Open Hand").Attack))
	assert.Empty(t, b.Named("Low Hand").Attack, "a kick answers nothing")
	lines := b.ParsePage("Self-defence\nLong Hand (hair pull)\nOpen Hand (tackle)")
	c, err = b.AddPage("y", lines, counter())
	require.NoError(t, err)
	b = Open(c)
	assert.Equal(t, []string{"hair grab", "push"}, []string{AttackWords(b.Named("Long Hand").Attack), AttackWords(b.Named("Open Hand").Attack)}, "what a technique had not said yet")
	assert.Equal(t, "tackle", lines[1].Note, "another attack stays a remark")
	two := b.ParsePage("Self-defence\nBreak away (hug)\nBreak away (headlock)")
	assert.Equal(t, []string{"hug", "", "headlock"}, []string{AttackWords(two[0].Attack), AttackWords(two[1].Attack), two[1].Note})
}

// TestAttacksNamed: what says its attack only in words is proposed, by name, remark or the attacker's part.
func TestAttacksNamed(t *testing.T) {
	c := island(nil).Curriculum
	for name, x := range map[string]Technique{"Headlock escape": {Kind: "self_defence"}, "Pull": {Kind: "self_defence"}, "Given": {Kind: "partner_set", TechniqueDetails: TechniqueDetails{AttackMoves: "right lunge punch."}},
		"Choke defence": {Kind: "knowledge"}, "Push escape": {Kind: "self_defence", TechniqueDetails: TechniqueDetails{Attack: []AttackElement{{Kind: "push"}}}}} {
		x.ID, x.Name = name, name
		c.Techniques = append(c.Techniques, x)
	}
	c.Requirements = append(c.Requirements, Requirement{ID: "pulled", RungID: "y", TechniqueID: "Pull", Note: "hair pull from behind"})
	got := map[string]string{}
	for _, a := range Open(c).AttacksNamed() {
		got[a.Name] = AttackWords(a.Said)
	}
	assert.Equal(t, map[string]string{"Headlock escape": "headlock", "Pull": "hair grab, from the rear", "Given": "right lunge punch"}, got)
}

// TestAttacksInTheForm: what is written exactly stays, what people say is read, and what an attack cannot hold is told with its line.
func TestAttacksInTheForm(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"right straight punch, high, step-through, front": "right straight punch, high, step-through, front", "right punch": "right straight punch, front", "overhead club": "club, high, front", "bear hug from behind": "hug, rear",
		"left hook, right hook": "left hook, front|right hook, front", "push|right roundhouse punch": "push, front|right hook, front", "rear choke, rear": "rear choke, rear", "": "",
	} {
		got, err := b.ReadAttack(strings.FieldsFunc(typed, func(r rune) bool { return r == '|' }))
		require.NoError(t, err, typed)
		var said []string
		for _, a := range got {
			said = append(said, a.String())
		}
		assert.Equal(t, want, strings.Join(said, "|"), typed)
	}
	for typed, why := range map[string]string{
		"push|bear hug, arms pinned": "line 2: “bear hug, arms pinned” says more than an attack holds; write hug, front here, and the rest in the remark", "push|waving": "line 2: \"waving\" is no attack", "push|high": "line 2: \"high\" names no attack", "push hook": "line 1: both push and hook",
	} {
		got, err := b.ReadAttack(strings.Split(typed, "|"))
		assert.ErrorContains(t, err, why, typed)
		assert.Nil(t, got)
	}
}
