package exchange

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/notation"
)

func TestWriteNotation(t *testing.T) {
	c, err := notation.NewCatalogue([]notation.Entry{{ID: "low", Name: "low block"}, {ID: "side", Name: "side kick", Call: 7}, {ID: "check", Name: "check"}})
	require.NoError(t, err)
	seq, err := c.Read("slide back lead low block low turn cw 180 (slowly) + rear check keep / step through left 7 to left ribs in cat stance angle out 45!~, rear free, rear free")
	require.NoError(t, err)
	write := func(southpaw bool) map[string]any {
		var out bytes.Buffer
		require.NoError(t, WriteNotation(&out, c, seq, Telling{Southpaw: southpaw}))
		var got map[string]any
		require.NoError(t, json.Unmarshal(out.Bytes(), &got))
		return got
	}
	got := write(false)
	holds(t, "$", map[string]any{
		"line":   "slide back lead low block low turn cw 180 (slowly) + rear check keep / step through left 7 to left ribs in cat stance angle out 45!~, rear free, rear free",
		"mirror": "slide back lead low block low turn ccw 180 (slowly) + rear check keep / step through right 7 to right ribs in cat stance angle out 45!~, rear free, rear free",
		"stance": "orthodox",
		"moves": []any{
			map[string]any{"count": 1., "beat": 1., "technique": "low block", "side": "lead", "limb": "right", "level": "low", "turn": "cw 180", "times": 1., "lead_after": "right", "facing_after": 180., "notes": []any{"slowly"}, "travel": []any{map[string]any{"kind": "slide back"}}},
			map[string]any{"technique": "check", "limb": "left", "keep": true},
			map[string]any{"count": 2., "call": 7., "technique": "side kick", "limb": "left", "target": []any{"left", "ribs"}, "stance": "cat stance", "angle_out": 45., "shout": true, "breath": true, "lead_after": "left"},
			map[string]any{"free": true, "limb": "right"},
		},
		"totals":   map[string]any{"moves": 5., "counts": 2., "turns": 1., "facing": 180., "seconds": "5"},
		"held":     []any{"check"},
		"problems": []any{"rear free frees what is not kept"},
	}, got)
	assert.Equal(t, "southpaw", write(true)["stance"])
	assert.NotEqual(t, got["moves"], write(true)["moves"])
}

// TestTurnsInNotation: a turn says its angle only where it has one.
func TestTurnsInNotation(t *testing.T) {
	c, err := notation.NewCatalogue([]notation.Entry{{ID: "low", Name: "low block"}})
	require.NoError(t, err)
	seq, err := c.Read("spin lead low block, turn cw 1, low block turn ccw 1, lead low block")
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, WriteNotation(&out, c, seq, Telling{}))
	var got struct {
		Moves []map[string]any `json:"moves"`
	}
	require.NoError(t, json.Unmarshal(out.Bytes(), &got))
	assert.Equal(t, []any{map[string]any{"kind": "spin"}}, got.Moves[0]["travel"])
	assert.Equal(t, []any{map[string]any{"kind": "turn", "turn": "cw 1"}}, got.Moves[1]["travel"])
	assert.Equal(t, "ccw 1", got.Moves[2]["turn"])
	assert.NotContains(t, got.Moves[3], "turn")
}
