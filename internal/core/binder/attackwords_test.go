package binder

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// TestAttacksInWords: what people write is read as the line that ParseAttack would read, or not at all.
func TestAttacksInWords(t *testing.T) {
	b := Open(curriculum.Curriculum{Program: curriculum.Program{ProgramDetails: curriculum.ProgramDetails{Attacks: []curriculum.OwnAttack{{Name: "sleeve grab", Nature: "grab"}}, NoAttacks: []curriculum.AttackKind{"slap"}}}})
	for said, want := range map[string]string{
		"front choke": "front choke", "Choke from behind": "rear choke", "strangle from the front": "front choke", "cross wrist grab": "wrist grab ~",
		"double lapel grab from the front": "two-hand lapel grab", "bear hug from behind arms free": "hug, rear ~", "rear bear hug": "hug, rear",
		"right step-through punch to the face": "right lunge punch, high", "stepping right punch": "right straight punch, step-through", "rear punch": "rear straight punch",
		"rear shoulder grab": "shoulder grab, rear", "overhead club": "club, high", "push, then punch": "push | straight punch", "jab + cross": "lead straight punch | rear straight punch",
		"Escape from headlock": "headlock", "side headlock": "headlock, side", "a knife thrust to the stomach": "knife thrust, mid", "Front kick defense": "front kick", "two-hand push": "both push",
		"both wrists held from behind": "two-hand wrist grab, rear", "left sleeve grab": "left sleeve grab", "rear kick": "back kick", "standing headlock": "headlock ~", "choke, from behind": "rear choke", "choke two hands from front": "front choke ~", "strangle from the rear": "rear choke", "choke": "", "two-hand choke front": "front choke ~", "choke rear": "rear choke", "vs R hook": "right hook", "choke from the side": "side choke", "side choke": "side choke",
		"": "", "cross": "", "knife": "", "slap": "", "the elbow lock": "", "left right hook": "left hook | right hook", "push and punch": "push | straight punch", "lapel grab with a right punch": "lapel grab | right straight punch", "push and pull": "", "arm lock": "", "hammer lock": "arm lock", "half nelson": "full nelson ~", "groin kick": "front kick, low", "knife defence, overhead": "knife overhead", "gun to the back": "gun ~", "wrist lock": "", "hug, choke": "", "from behind": "", "front rear choke": "",
	} {
		attack, more := b.attackIn(said)
		var lines []string
		if want != "" {
			lines = strings.Split(strings.TrimSuffix(want, " ~"), " | ")
		}
		meant, err := curriculum.ParseAttack(lines)
		require.NoError(t, err)
		assert.Equal(t, meant, attack, said)
		assert.Equal(t, strings.HasSuffix(want, "~"), more, said)
	}
	for phrase, x := range attackPhrases() {
		assert.LessOrEqual(t, len(strings.Fields(phrase)), longestAttack, phrase)
		if x.Kind != "" {
			got, _ := b.attackIn("defence against the " + phrase)
			assert.Equal(t, slices.Contains([]curriculum.AttackKind{"slap", "choke"}, x.Kind), got == nil, phrase)
		}
	}
}

// TestWhatALineAnswers: the attack stands in the name, in brackets, behind a dash or a colon; a punch behind a comma may be the answer,
// of two that are named none is taken, and what an attack cannot hold stays a remark.
func TestWhatALineAnswers(t *testing.T) {
	golden.Alone(t)
	b := island(nil)
	for typed, want := range map[string]string{
		"Falling Bell (front choke)": "front choke ()", "Falling Bell - left lapel grab": "left lapel grab ()", "Falling Bell vs. a push": "push ()", "Falling Bell vs. a double shove": "two-hand push ()", "Falling Bell against a rear bear hug": "hug, from the rear ()",
		"Falling Bell (hook)": "hook ()", "Falling Bell, hook": " (hook)", "Falling Bell (rear bear hug, arms pinned)": "hug, from the rear (rear bear hug, arms pinned)", "Falling Bell (front choke, gently)": "front choke (gently)",
		"Hair pull (from behind)": "hair grab, from the rear ()", "Wrist grab release, both hands": "two-hand wrist grab ()", "Hook": " ()", "Hook defence": "hook ()", "Falling Bell (push, headlock)": " (push, headlock)",
		"Gold 2: front choke": "front choke ()", "Gold 1: cross wrist grab": "wrist grab (cross wrist grab)",
		"Falling Bell\nA: right lunge punch": "right lunge punch ()",
		// words beside it
		"Release from opposite wrist grab": "wrist grab ()", "Kimono choke from behind": "rear choke ()", "Bully push - step back": "push (step back)", "Against the hook at the bar": "hook ()", "Escape from arm hold on the stairs": "arm grab ()",
		"Drunken hook": " ()", "Arm drag to rear choke": " ()", "Headlock game": " ()", "Rear choke or sudden headlock": " ()", "Sweeping headlock kick": " ()", "Falling Bell (sudden headlock)": "headlock (sudden headlock)", "Falling Bell, sudden headlock": " (sudden headlock)",
		"Headlock safely held": " ()", "Headlock on a chair": "headlock ()", "Escape from a double grab": " ()", "Surprise grab of the bag": " ()",
		// a label that says which, and what is done about it
		"Left jab: slip outside, palm heel": "left straight punch ()", "Jab: slip outside, palm heel": "lead straight punch ()", "Right front kick: step back, palm heel": "right front kick ()",
		"Hand grab from the left": "wrist grab, from the side ()", "Headlock from the right side": "right headlock ()",
	} {
		lines := b.ParsePage("Self-defence\n" + typed)
		l := lines[len(lines)-1]
		assert.Equal(t, want, curriculum.AttackWords(l.Attack)+" ("+l.Note+")", "%s: %s", typed, l.Problem)
	}
	c, err := b.AddPage("y", b.ParsePage("Self-defence\nOpen Hand (push)\nLong Hand\nKicks\nLow Hand (push), kick"), counter())
	require.NoError(t, err)
	b = Open(c)
	assert.Equal(t, "push", curriculum.AttackWords(b.Named("Open Hand").Attack))
	assert.Empty(t, b.Named("Low Hand").Attack, "a kick answers nothing")
	lines := b.ParsePage("Self-defence\nLong Hand (hair pull)\nOpen Hand (tackle)")
	c, err = b.AddPage("y", lines, counter())
	require.NoError(t, err)
	b = Open(c)
	assert.Equal(t, []string{"hair grab", "push"}, []string{curriculum.AttackWords(b.Named("Long Hand").Attack), curriculum.AttackWords(b.Named("Open Hand").Attack)}, "what a technique had not said yet")
	assert.Equal(t, "tackle", lines[1].Note, "another attack stays a remark")
	two := b.ParsePage("Self-defence\nBreak away (hug)\nBreak away (headlock)")
	assert.Equal(t, []string{"hug", "", "headlock"}, []string{curriculum.AttackWords(two[0].Attack), curriculum.AttackWords(two[1].Attack), two[1].Note})
}

// TestAttacksNamed: what says its attack only in words is proposed, by name, remark or the attacker's part.
func TestAttacksNamed(t *testing.T) {
	c := island(nil).Curriculum
	for name, x := range map[string]curriculum.Technique{"Headlock escape": {Kind: "self_defence"}, "Pull": {Kind: "self_defence"}, "Given": {Kind: "partner_set", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "right lunge punch."}},
		"Choke defence": {Kind: "knowledge"}, "Push escape": {Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Attack: []curriculum.AttackElement{{Kind: "push"}}}}} {
		x.ID, x.Name = name, name
		c.Techniques = append(c.Techniques, x)
	}
	c.Requirements = append(c.Requirements, curriculum.Requirement{ID: "pulled", RungID: "y", TechniqueID: "Pull", Note: "hair pull from behind"})
	got := map[string]string{}
	for _, a := range Open(c).AttacksNamed() {
		got[a.Name] = curriculum.AttackWords(a.Said)
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

// saidAttacks are attacks as people say them, by their kind; a tilde stands for a comma.
const saidAttacks = `
wrist grab: wrist grab, same side wrist grab, cross wrist grab, single wrist grab, opposite wrist grab, straight wrist grab, wrist grab from behind
wrist grab: double wrist grab, two hand wrist grab, both wrists held, two hands on one wrist
lapel grab: lapel grab, collar grab, shirt grab, one hand lapel grab, cross lapel grab, collar grab from behind
lapel grab: double lapel grab
shoulder grab: shoulder grab, shoulder grab from behind
shoulder grab: double shoulder grab
sleeve grab: sleeve grab
arm grab: elbow grab, arm grab
belt grab: belt grab
leg grab: ankle grab, leg grab
hair grab: hair grab, hair pull, hair grab from behind
front choke: front choke, choke from the front, two hand choke from the front, two hand throat grab, throat grab, choke against the wall
rear choke: rear choke, choke from behind, rear naked choke, forearm choke from behind, rear strangle, arm choke from the rear
headlock: headlock, side headlock, front headlock, rear headlock, standing headlock, guillotine, guillotine choke
hug: bear hug, front bear hug, rear bear hug, bear hug from behind, bear hug ~ arms pinned, rear bear hug ~ arms free, bear hug over the arms, bear hug under the arms, waist grab from behind, waist hold
full nelson: full nelson, half nelson
arm lock: hammerlock
push: push, two hand push, one hand push, shove, chest push, push from behind, double push
slap: slap
tackle: tackle, double leg tackle, double leg takedown, single leg takedown, rugby tackle
straight punch: right punch, left punch, straight punch, jab, right cross, face punch, punch to the stomach, punch to the face, body punch, sucker punch
hook: hook punch, right hook, haymaker, roundhouse punch, swinging punch, overhand right, wild swing
uppercut: uppercut
back fist: backfist
lunge punch: right step through punch, lunge punch
elbow: elbow strike
knee: knee strike
head butt: headbutt
chop: knife hand strike
front kick: front kick, right front kick, kick to the groin
round kick: roundhouse kick
side kick: side kick
low kick: low kick
push kick: push kick, thrust kick
back kick: back kick, spinning back kick
axe kick: axe kick
hook kick: hook kick
club: overhead club, club swing, baseball bat, bottle attack, chair attack
stick: stick attack, stick swing, overhead stick
knife thrust: knife thrust, knife stab, knife to the throat, knife from behind, straight stab
knife slash: knife slash
knife overhead: overhead knife, overhead stab
gun: gun to the head, gun, gun from behind, handgun, pistol
ground mounted: mount, mounted attacker, attacker in mount, side control
ground face down: face down on the ground
`

// TestAttacksAsTheyAreSaid: each of them is what a technique answers, however the line is put; as the name alone a hold, and no strike.
func TestAttacksAsTheyAreSaid(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	c := curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "y", Name: "Yellow belt"}}, Sections: []curriculum.Section{{ID: "d", Name: "Self-defence", Kind: "self_defence"}, {ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "s", Name: "Strikes", Kind: "strike"}, {ID: "b", Name: "Blocks", Kind: "block"}}}
	b := Open(c)
	ways := []string{"Against %s", "Defence against %s", "Defence against a %s", "Escape from %s", "Release from %s", "Defend a %s", "Broken Reed (%s)", "%s defence", "%s escape", "Vs. %s", "Counter to %s", "Getting out of a %s", "Answer to %s"}
	lines := 0
	for row := range strings.Lines(strings.TrimSpace(saidAttacks)) {
		kind, all, _ := strings.Cut(strings.TrimSpace(row), ": ")
		for said := range strings.SplitSeq(all, ", ") {
			said = strings.ReplaceAll(said, " ~ ", ", ")
			each := ways
			if said != "spinning back kick" { // of which a word says more than an attack holds
				each = append(slices.Clone(ways), "Broken Reed: %s", "4. Broken Reed: %s", "%s: step off, block, palm heel to chin", "%s 2: turn out, step in")
			}
			for _, way := range each {
				line := fmt.Sprintf(way, said)
				if lines++; !golden.Sample(lines, 3) {
					continue
				}
				read := b.ParsePage("Self-defence\n" + line)
				l := read[len(read)-1]
				require.Len(t, l.Attack, 1, line)
				require.Equal(t, kind, strings.TrimPrefix(string(l.Attack[0].Kind), "two-hand "), line)
				require.Empty(t, l.Problem, line)
				for _, from := range []string{"rear", "behind"} { // of a hold; a rear elbow is a strike with that arm
					if strings.Contains(said, from) && b.isHeld(l.Attack) {
						require.Equal(t, curriculum.Origin("rear"), l.Attack[0].Origin, line)
					}
				}
				require.Equal(t, strings.Contains(said+" ", "right "), l.Attack[0].Side == "right", line)
			}
		}
	}
	assert.Greater(t, lines, 2000)
}

// TestAttacksToldAsDeeds: what somebody does is the attack it is, whoever does it and however the line begins; where an attack is spoken of
// and none made out, it is asked.
func TestAttacksToldAsDeeds(t *testing.T) {
	golden.Alone(t)
	b := Open(curriculum.Curriculum{Rungs: []curriculum.Rung{{ID: "y", Name: "Yellow belt"}}, Sections: []curriculum.Section{{ID: "d", Name: "Self-defence", Kind: "self_defence"}}})
	who := []string{"Somebody", "The attacker", "Partner", "A drunk", "A bigger kid", "Someone", "Bully", "Get away when somebody", "What if he"}
	for deed, want := range map[string]string{
		"grabs your wrist": "wrist grab", "grabs both of your wrists": "two-hand wrist grab", "grabs your lapel with both hands": "two-hand lapel grab", "holds your arm": "arm grab", "grabs you by the hair": "hair grab", "pulls your hair": "hair grab",
		"chokes you from behind": "rear choke", "chokes you from the front with both hands": "two-hand front choke", "pushes you with both hands": "two-hand push", "pushes you in the chest": "push", "slaps you": "slap", "hugs you from behind": "hug, from the rear",
		"bear hugs you": "hug", "tackles you": "tackle", "throws a right hook": "right hook", "throws a wild right hook": "right hook", "takes hold of your sleeve": "sleeve grab", "seizes your collar from behind": "lapel grab, from the rear", "kicks you in the groin": "front kick",
		"spits and pushes": "push", "grabs sleeve and punches": "sleeve grab, then straight punch", "shouts at you and grabs your shoulder": "shoulder grab", "pushes": "push", "swings a bat": "club", "has you in a headlock": "headlock",
	} {
		for _, w := range who {
			line := w + " " + deed
			if w == "A bigger kid" || w == "What if he" {
				line = strings.Replace(line, "bigger", "big", 1)
			}
			read := b.ParsePage("Self-defence\n" + line)
			l := read[len(read)-1]
			assert.Equal(t, want, curriculum.AttackWords(l.Attack), line)
			l = b.ParsePage("Self-defence\nBroken Reed (" + line + ")")[0]
			assert.Equal(t, want, curriculum.AttackWords(l.Attack), "in brackets: %s", line)
		}
	}
	for typed, asked := range map[string]bool{
		"Iron Bar (left-hand choke)": true, "Escape from chokes (front, side, rear)": true, "Release from same side and opposite wrist grabs": true, "Thunder Step - right kick, right punch": true,
		"Two attackers": false, "Guillotine": false, "Broken Reed": false, "Wrist grab": false, "Any grab": false, "Headlock game": false, "Falling Bell (fast)": false,
	} {
		read := b.ParsePage("Self-defence\n" + typed)
		assert.Equal(t, asked, slices.ContainsFunc(read[len(read)-1].Doubts, func(d notation.Doubt) bool {
			return strings.Contains(d.Reason, "speaks of an attack") || strings.Contains(d.Reason, "which kick is answered")
		}), typed)
	}
}
