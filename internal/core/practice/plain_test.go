package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"

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

func TestHowToMend(t *testing.T) {
	it := progress.Item{Line: curriculum.Line{Faults: []curriculum.Fault{{Seen: "foot stays", Correction: "turn the heel first"}, {Seen: "looks down", Correction: "eyes up"}}}, Fault: "looks down"}
	assert.Equal(t, "eyes up", mend(it))
	it.Done = true
	assert.Empty(t, mend(it))
	it.Done, it.Fault = false, ""
	assert.Empty(t, mend(it))
	it.Fault = "something else"
	assert.Empty(t, mend(it))
}
