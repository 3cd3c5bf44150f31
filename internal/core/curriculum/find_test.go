package curriculum_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	. "velvetladder/internal/core/curriculum"
)

// TestFinding narrows by range, target, surface, what is answered and caution, alone and together.
func TestFinding(t *testing.T) {
	b := Open(Curriculum{Techniques: []Technique{
		{ID: "jab", Name: "Jab", Kind: "strike", Surfaces: []Surface{{"basics", "Two knuckles"}}, TechniqueDetails: TechniqueDetails{Range: "outside", Targets: []string{"left jaw"}}},
		{ID: "elbow", Name: "Elbow", Kind: "strike", TechniqueDetails: TechniqueDetails{Range: "inside", Targets: []string{"throat"}}},
		{ID: "reed", Name: "Reed", Kind: "self_defence", TechniqueDetails: TechniqueDetails{Range: "inside", Attack: []AttackElement{{Kind: "push"}, {Kind: "rear choke"}}, Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"lead jab to jaw"})}}}},
		{ID: "hop", Name: "Hopping jab", Kind: "strike", Cautions: []string{"no jump: both feet stay down"}, TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"jumping"}, BuildsOn: []string{"jab"}}},
	}})
	of := func(w Wanted) string {
		var out []string
		for i := range b.Techniques {
			if b.Fits(&b.Techniques[i], w) {
				out = append(out, b.Techniques[i].ID)
			}
		}
		return strings.Join(out, " ")
	}
	assert.Equal(t, "jab elbow reed hop", of(Wanted{}))
	assert.False(t, Wanted{}.Any())
	assert.True(t, Wanted{Surface: "x"}.Any())
	assert.Equal(t, "elbow reed", of(Wanted{Range: "inside"}))
	assert.Equal(t, "jab reed", of(Wanted{Target: "JAW"}), "targets of moves count")
	assert.Equal(t, "jab hop", of(Wanted{Surface: "knuckle"}), "a variant strikes as its base")
	assert.Equal(t, "reed", of(Wanted{Answers: "rear choke"}))
	assert.Equal(t, "elbow", of(Wanted{Caution: "target"}))
	assert.Equal(t, "reed", of(Wanted{Caution: "choke"}))
	assert.Empty(t, of(Wanted{Caution: "jump"}), "what is put aside is not shown")
	assert.Equal(t, "reed", of(Wanted{Range: "inside", Target: "jaw"}))
	assert.Empty(t, of(Wanted{Range: "outside", Answers: "push"}))
}

// TestOldGuesses lists only what was guessed and never looked at since.
func TestOldGuesses(t *testing.T) {
	c := Curriculum{Sections: []Section{{ID: "d", Name: "Self-defence", Kind: "self_defence"}, {ID: "s", Name: "Round about", Kind: "sparring"}, {ID: "k", Name: "Legs", Kind: "kick"}, {ID: "n", Name: "Nothing said"}, {ID: "c", Name: "Combos", Kind: "combination"}}, Rungs: []Rung{{ID: "w", Name: "White"}}}
	add := func(name string, kind Kind, section string, change func(*Technique)) {
		x := Technique{ID: name, Name: name, Kind: kind}
		if change != nil {
			change(&x)
		}
		c.Techniques = append(c.Techniques, x)
		if section != "" {
			c.Requirements = append(c.Requirements, Requirement{ID: "r" + name, RungID: "w", SectionID: section, TechniqueID: name})
		}
	}
	add("Reed", "lock", "d", nil)
	add("Wrist lock", "lock", "d", nil)
	add("Gate", "lock", "d", func(x *Technique) { x.Stages = []Stage{{Does: Appends}} })
	add("Oar", "lock", "d", func(x *Technique) { x.Attack = []AttackElement{{Kind: "push"}} })
	add("Mill", "lock", "d", func(x *Technique) { x.Modifiers = []Modifier{"double"} })
	add("Rounds", "partner_set", "s", nil)
	add("Sweep", "strike", "k", nil)
	add("Knee strike", "strike", "k", nil)
	add("Loose", "strike", "n", nil)
	add("Nowhere", "lock", "", nil)
	add("Jab", "strike", "c", nil)
	add("Throw", "throw", "d", nil)
	var got []string
	for _, g := range Open(c).Guesses() {
		got = append(got, fmt.Sprint(g.Name, " ", g.Kind))
	}
	assert.Equal(t, []string{"Reed self_defence", "Rounds sparring", "Sweep kick"}, got)
}
