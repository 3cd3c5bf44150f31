package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// TestAttacksAtHome: what somebody does, in words a parent understands.
func TestAttacksAtHome(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ProgramDetails: curriculum.ProgramDetails{Attacks: []curriculum.OwnAttack{{Name: "scarf pull", Nature: "grab"}, {Name: "heel kick", Nature: "kick"}}}}})
	for want, a := range map[string]curriculum.AttackElement{
		"holds one of your wrists":                                                      {Kind: "wrist grab", Origin: "front"},
		"holds one of your wrists with the left hand":                                   {Kind: "wrist grab", Side: "left", Origin: "front"},
		"holds your wrist with both hands, standing still":                              {Kind: "two-hand wrist grab", Side: "both", Motion: "static", Origin: "front"},
		"strikes: straight punch with the right hand, at head height, stepping forward": {Kind: "straight punch", Side: "right", Level: "high", Motion: "step-through", Origin: "front"},
		"strikes: uppercut with the back hand, at chest height, from the side":          {Kind: "uppercut", Side: "rear", Level: "mid", Origin: "side"},
		"gives a round kick with the front leg, low, with one long step":                {Kind: "round kick", Side: "lead", Level: "low", Motion: "lunge", Origin: "front"},
		"puts both arms around you, from behind":                                        {Kind: "hug", Origin: "rear"},
		"puts an arm or both hands to your neck, from behind":                           {Kind: "rear choke", Origin: "rear"},
		"sits on you as you lie on your back":                                           {Kind: "ground mounted", Origin: "ground"},
		"pushes you, on the ground":                                                     {Kind: "push", Origin: "ground"},
		"thrusts a training knife with the right hand":                                  {Kind: "knife thrust", Side: "right", Origin: "front"},
		"gives this: scarf pull with the left hand":                                     {Kind: "scarf pull", Side: "left", Origin: "front"},
		"gives a heel kick with the right leg":                                          {Kind: "heel kick", Side: "right", Origin: "front"},
	} {
		assert.Equal(t, want, attackAtHome(b, a))
	}
	for _, k := range curriculum.AttackKinds {
		words := attackAtHome(b, curriculum.AttackElement{Kind: k, Origin: "front"})
		assert.NotContains(t, words, "%", k)
		assert.NotContains(t, words, "gives this", k)
	}
}

// TestWhatIsMissing: one sentence says what is missing until the next test, and when it can be.
func TestWhatIsMissing(t *testing.T) {
	on := civil.MustParse("2026-11-24")
	rule := func(k curriculum.RuleKind, n int) curriculum.Rule { return curriculum.Rule{Kind: k, Amount: n} }
	of := func(e progress.Evidence, rules ...curriculum.Rule) string {
		return Missing("Ivy", "Yellow belt", progress.Judge(rules, e, on))
	}
	assert.Equal(t, "Nothing is missing: Ivy may be tested for Yellow belt.", of(progress.Evidence{}))
	sections := []progress.SectionDone{{Name: "Kicks", Of: 3, Done: 1, Open: []string{"a", "b"}}}
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: 2 things are still to be shown.", of(progress.Evidence{Sections: sections}, rule(curriculum.AllSignedOff, 1)))
	sections[0].Done, sections[0].Open = 2, []string{"b"}
	e := progress.Evidence{Sections: sections, Since: on.AddDays(-10), Registered: on.AddDays(-90), Attended: progress.Attended{}, Born: civil.MustParse("2010-12-01"), Kit: []string{"Gloves", "Guard"}, Owned: []string{"Guard"}, KitKnown: true}
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: some time with this belt, until Thu 14 Jan 2027, 3 more classes, the birthday on Tue 1 Dec 2026, one thing is still to be shown, kit to bring: Gloves, an example for the character task, from the family and the instructor’s word that it is time.",
		of(e, rule(curriculum.MonthsSince, 2), rule(curriculum.ClassesSince, 3), rule(curriculum.LeastAge, 16), rule(curriculum.AllSignedOff, 1), rule(curriculum.KitOwned, 1), rule(curriculum.CharacterTask, 1), rule(curriculum.Word, 1)))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: one more sparring class.", of(e, curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 1, Of: "Sparring"}))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the wait after the last test, until Thu 26 Nov 2026. The earliest day is Thu 26 Nov 2026.", of(progress.Evidence{RetestFrom: on.AddDays(2)}))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the birthday on Tue 1 Dec 2026. The earliest day is Tue 1 Dec 2026.", of(e, rule(curriculum.LeastAge, 16)))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the school needs the date of birth and membership valid on the day, at the desk.", of(progress.Evidence{}, rule(curriculum.LeastAge, 6), rule(curriculum.Membership, 1)))
}

// TestHowToMend: the fault that was seen in this student comes with its correction.
func TestHowToMend(t *testing.T) {
	it := progress.Item{Line: curriculum.Line{Faults: []curriculum.Fault{{Seen: "foot stays", Correction: "turn the heel first"}, {Seen: "looks down", Correction: "eyes up"}}}, Fault: "looks down"}
	assert.Equal(t, "eyes up", mend(it))
	it.Done = true
	assert.Empty(t, mend(it))
	it.Done, it.Fault = false, ""
	assert.Empty(t, mend(it))
	it.Fault = "something else"
	assert.Empty(t, mend(it))
	assert.Equal(t, []string{"", "a", "a and b", "a, b and c"}, []string{join(nil), join([]string{"a"}), join([]string{"a", "b"}), join([]string{"a", "b", "c"})})
}
