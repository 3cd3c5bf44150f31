package curriculum_test

import (
	"encoding/json"
	"fmt"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/demo"
	"velvetladder/internal/golden"
)

// TestACopyStandsAlone: the ids of the demo are words of their own, so that a copy must be what comes out when each is
// replaced in the text, wherever it stands.
func TestACopyStandsAlone(t *testing.T) {
	golden.Alone(t)
	ids := regexp.MustCompile(`"d[0-9a-f]{16}"`)
	for _, p := range demo.At(civil.MustParse("2026-11-24")).Programs {
		before, err := json.Marshal(p.Curriculum)
		require.NoError(t, err)
		n := 0
		now := func() string { n++; return fmt.Sprintf("new%d", n) }
		out, err := p.Curriculum.Copied(" Another  name ", now)
		require.NoError(t, err)
		assert.Equal(t, "Another name", out.Program.Name)
		assert.Empty(t, out.Validate())
		after, err := json.Marshal(p.Curriculum)
		require.NoError(t, err)
		assert.Equal(t, string(before), string(after), "what is copied stays as it is")

		was := p.Curriculum
		was.Program.Name, was.Program.Silenced = "Another name", nil
		text, err := json.Marshal(was)
		require.NoError(t, err)
		copied, err := json.Marshal(out)
		require.NoError(t, err)
		assert.NotRegexp(t, ids, string(copied), "nothing points at the old one")
		places := regexp.MustCompile(`"(d[0-9a-f]{16}|new\d+)"`)
		old, fresh := places.FindAllString(string(text), -1), places.FindAllString(string(copied), -1)
		require.Len(t, fresh, len(old))
		as := map[string]string{}
		for i := range old {
			if as[old[i]] == "" {
				as[old[i]] = fresh[i]
			}
		}
		assert.Equal(t, places.ReplaceAllStringFunc(string(text), func(x string) string { return as[x] }), string(copied))
	}
}

func TestARungIsCopied(t *testing.T) {
	golden.Alone(t)
	p := demo.At(civil.MustParse("2026-11-24")).Programs[0]
	b := curriculum.Open(p.Curriculum)
	from := b.Rungs[3]
	n := 0
	id := func() string { n++; return fmt.Sprintf("new%d", n) }
	c, added, err := b.CopyRung(from.ID, "Teal belt", true, id)
	require.NoError(t, err)
	assert.Empty(t, c.Validate())
	now := curriculum.Open(c)
	assert.Equal(t, 4, now.Place(added), "just above")
	assert.Equal(t, "Teal belt", now.Rung(added).Name)
	assert.Equal(t, from.Cloth, now.Rung(added).Cloth)
	assert.Equal(t, len(b.Asked(from.ID)), len(now.Asked(added)))
	for i, r := range now.Asked(added) {
		was := b.Asked(from.ID)[i]
		assert.NotEqual(t, was.ID, r.ID)
		assert.Equal(t, was.TechniqueID, r.TechniqueID, "in the same order")
		assert.Equal(t, was.Quantity, r.Quantity)
	}
	c, added, err = b.CopyRung(from.ID, "Teal belt", false, id)
	require.NoError(t, err)
	assert.Empty(t, curriculum.Open(c).Asked(added))
	assert.Len(t, b.Rungs, len(p.Rungs), "what is copied stays as it is")

	for name, want := range map[string]curriculum.Cloth{"Teal belt": from.Cloth, "Pink belt": {Weave: curriculum.Plain, Colour: "#dd8fa6"}} {
		c, added, err := b.CopyRung(from.ID, name, false, id)
		require.NoError(t, err)
		assert.Equal(t, want, curriculum.Open(c).Rung(added).Cloth, "the cloth of the name, where it tells another")
	}

	_, _, err = b.CopyRung(from.ID, b.Rungs[1].Name, true, id)
	assert.ErrorContains(t, err, "already")
	_, _, err = b.CopyRung(from.ID, "", true, id)
	assert.ErrorContains(t, err, "name")
	_, _, err = b.CopyRung("gone", "Teal belt", true, id)
	assert.ErrorContains(t, err, "not on this ladder")

	for until, kept := range map[string]bool{b.Rungs[4].ID: true, from.ID: false, b.Rungs[2].ID: false} {
		one := b.Curriculum
		one.Requirements = append([]curriculum.Requirement{}, one.Requirements...)
		for i := range one.Requirements {
			if one.Requirements[i].RungID == from.ID {
				one.Requirements[i].Carry = curriculum.Carry{Kind: curriculum.Until, Rung: until}
			}
		}
		c, added, err = curriculum.Open(one).CopyRung(from.ID, "Teal belt", true, id)
		require.NoError(t, err)
		require.NotEmpty(t, curriculum.Open(c).Asked(added))
		for _, r := range curriculum.Open(c).Asked(added) {
			assert.Equal(t, kept, r.Carry.Rung == until, "what is asked until a rung above is so in the copy; what would end before it begins is asked once")
			assert.Equal(t, kept, r.Carry.Kind == curriculum.Until)
		}
	}
}
