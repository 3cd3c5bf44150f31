package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
)

// TestAttacksOfASchool: the usual ones are ready, a school adds its own with their nature, from
// which cautions follow, and leaves out what it does not teach against; the others that nothing
// answers are gaps, also where nobody wrote them down.
func TestAttacksOfASchool(t *testing.T) {
	own, left, err := ParseAttackLines([]string{"Elbow drop = strike", "scarf pull=CHOKE", "not knife slash", "not club"})
	require.NoError(t, err)
	assert.Equal(t, []OwnAttack{{"elbow drop", "strike"}, {"scarf pull", "choke"}}, own)
	assert.Equal(t, []AttackKind{"knife slash", "club"}, left)
	d := ProgramDetails{Attacks: own, NoAttacks: left}
	assert.Equal(t, []string{"elbow drop = strike", "scarf pull = choke", "not knife slash", "not club"}, d.AttackLines())
	for line, why := range map[string]string{"elbow drop": "write the attack and its nature", "elbow drop = magic": "one of strike, kick, grab", "= kick": "write the attack", "hook = grab": "", "hook = strike": "", "not biting": "none of the usual attacks", "x = kick": ""} {
		_, _, err := ParseAttackLines([]string{line})
		if why == "" {
			assert.NoError(t, err)
			continue
		}
		assert.ErrorContains(t, err, why, line)
	}
	_, _, err = ParseAttackLines([]string{"x = kick", "x = grab"})
	assert.ErrorContains(t, err, "line 2: x is there already")

	other, _, err := ParseAttackLines([]string{"full nelson = grab", "headlock = choke", "slap = strike"})
	require.NoError(t, err)
	assert.Equal(t, []OwnAttack{{"full nelson", "grab"}}, other, "a usual one, of another nature")
	n := ProgramDetails{Attacks: other}
	assert.Equal(t, []any{Nature("grab"), Nature("choke"), len(AttackKinds)}, []any{n.NatureOf("full nelson"), (&ProgramDetails{}).NatureOf("full nelson"), len(n.Taught())})
	assert.Empty(t, n.Own())
	assert.Equal(t, []string{"full nelson = grab"}, n.AttackLines())

	_, err = ParseAttack([]string{"left scarf pull, rear"})
	assert.ErrorContains(t, err, "the school adds its own on the program’s page")
	attack, err := ParseAttack([]string{"left scarf pull, rear", "right uppercut, low", "axe kick"}, d.Own()...)
	require.NoError(t, err)
	assert.Equal(t, []AttackElement{{Kind: "scarf pull", Side: "left", Origin: "rear"}, {Kind: "uppercut", Side: "right", Level: "low", Origin: "front"}, {Kind: "axe kick", Origin: "front"}}, attack)

	c := Curriculum{Program: Program{ID: "p", Name: "P", ProgramDetails: d}, Techniques: []Technique{{ID: "x", Name: "Reed", Kind: "self_defence", TechniqueDetails: TechniqueDetails{Attack: attack}}}}
	b := Open(c)
	var kinds []string
	for _, x := range b.AllCautions(b.Technique("x")) {
		kinds = append(kinds, x.Kind)
	}
	assert.Equal(t, []string{"choke"}, kinds, "by the nature the school gave it")
	assert.Equal(t, "scarf pull", string(b.Coverage()[len(b.Coverage())-1].Kind), "own ones come last")
	gaps := b.Gaps()
	assert.Contains(t, gaps, AttackKind("tackle"))
	assert.Contains(t, gaps, AttackKind("elbow drop"))
	for _, not := range []AttackKind{"knife slash", "club", "uppercut", "axe kick", "scarf pull"} {
		assert.NotContains(t, gaps, not)
	}
	assert.Len(t, gaps, len(AttackKinds)-2+2-3)
	assert.Empty(t, c.Validate())
	c.Program.Attacks = nil
	require.Len(t, c.Validate(), 1)
	assert.Contains(t, c.Validate()[0].Text, "the program has not added it")
}

// TestByRange: what there is inside, in the middle and outside, on which targets, from which rung.
func TestByRange(t *testing.T) {
	b := ladder(t, "White\n\tStrikes\n\tJab, 5\n\tElbow, 5\nYellow\n\tStrikes\n\tPalm, 5\n\tCombinations\n\tMill, 4: lead jab to the left jaw, rear palm to jaw", func(c *Curriculum) {
		technique(c, "jab").Range, technique(c, "jab").Targets = "outside", []string{"Jaw"}
		technique(c, "elbow").Range = "inside"
		technique(c, "palm").Range, technique(c, "palm").Targets = "outside", []string{"right jaw", "ribs"}
		c.Techniques = append(c.Techniques, Technique{ID: "loose", Name: "Loose", Kind: "strike", TechniqueDetails: TechniqueDetails{Range: "inside", Targets: []string{"ribs"}}}, Technique{ID: "none", Name: "None", Kind: "strike"})
	})
	rows := b.ByRange()
	require.Len(t, rows, 3)
	ids := func(r RangeRow, z Zone) (out []string) {
		for _, a := range r.In[z] {
			out = append(out, a.TechniqueID)
		}
		return out
	}
	assert.Equal(t, []string{"jaw", "ribs", ""}, []string{rows[0].Target, rows[1].Target, rows[2].Target})
	assert.Equal(t, [][]string{{"jab", "palm"}, {"mill"}, nil}, [][]string{ids(rows[0], "outside"), ids(rows[0], ""), ids(rows[0], "inside")}, "a side is no other target; moves count")
	assert.Equal(t, [][]string{{"palm"}, {"loose"}}, [][]string{ids(rows[1], "outside"), ids(rows[1], "inside")})
	assert.Equal(t, []string{"elbow"}, ids(rows[2], "inside"))
	assert.Equal(t, []int{0, 1, -1}, []int{rows[0].In["outside"][0].Rung, rows[0].In["outside"][1].Rung, rows[1].In["inside"][0].Rung})
}
