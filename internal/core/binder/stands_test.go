package binder

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// TestAPageTypedTwice: what stands on a rung is not asked a second time by the same page, on pages of every habit.
func TestAPageTypedTwice(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	pages, asked, more := 0, 0, 0
	corpus(t, func(name string, b *Reader, page []string) {
		if pages++; !golden.Sample(pages, 10) || len(b.Rungs) == 0 {
			return
		}
		rung, text, id := b.Rungs[len(b.Rungs)-1].ID, strings.Join(page, "\n"), counter()
		read := func(b *Reader) (out []PageLine) {
			lines, _ := b.PageFor(rung, text)
			for _, l := range lines {
				if l.Problem == "" && !l.Waits && l.Draw == nil && l.Legend == nil && l.From == "" {
					out = append(out, l)
				}
			}
			return out
		}
		c, err := b.AddPage(rung, read(b), id)
		require.NoError(t, err, name)
		once := Open(c)
		c, err = once.AddPage(rung, read(once), id)
		require.NoError(t, err, name)
		stood, stands := once.Asked(rung), Open(c).Asked(rung)
		asked += len(stood)
		for i, r := range stands {
			if i >= len(stood) || !reflect.DeepEqual(r, stood[i]) {
				t.Logf("%s: typed twice: %s, %s %s", name, Open(c).Technique(r.TechniqueID).Name, r.Quantity, r.Note)
				more++
			}
		}
	})
	assert.Greater(t, asked, 300)
	few := 0
	if !golden.Long() { // one page in ten may hold a few more than its share
		few = 5
	}
	assert.LessOrEqual(t, 100*(more-few), asked, "known by then, a name may be read otherwise: 1 in 100 at most")
}

// TestInPlaceOfWhatStands: a line changes what its rung asks of the same, keeps what it does not speak of, and stands apart by another remark,
// setting, pace or “again”.
func TestInPlaceOfWhatStands(t *testing.T) {
	for said, want := range map[string][]string{
		"Front kick, 5 a side":                    {"Front kick, 5 a side, must, slowly (knee first)"}, // at another pace
		"Front kick, 5 a side, slowly":            {"Front kick, 5 a side, must, slowly (knee first)"},
		"Front kick, slowly":                      {"Front kick, 5 a side, must, slowly (knee first)"},
		"Front kick, 8 a side, slowly":            {"Front kick, 8 a side, must, slowly (knee first)"},
		"Front kick, 12, slowly, bonus":           {"Front kick, 12 times, bonus, slowly (knee first)"},
		"Front kick, 8 a side, slowly, again":     {"Front kick, 5 a side, must, slowly (knee first)", "Front kick, 8 a side, slowly, again"},
		"Front kick, 8 a side, slowly, on pads":   {"Front kick, 5 a side, must, slowly (knee first)", "Front kick, 8 a side, on pads, slowly"},
		"Front kick, 8 a side, slowly (no hop)":   {"Front kick, 5 a side, must, slowly (knee first)", "Front kick, 8 a side, slowly, again (no hop)"},
		"Front kick, 5 a side, slowly, as holder": {"Front kick, 5 a side, must, slowly (knee first)", "Front kick, 5 a side, as holder, slowly"},
	} {
		b, id := island(nil), counter()
		c, err := b.AddPage("w", b.ParsePage("Kicks\nFront kick, 5 a side, must, slowly (knee first)"), id)
		require.NoError(t, err)
		b = Open(c)
		lines, _ := b.PageFor("w", "Kicks\n"+said)
		require.Len(t, lines, 1, said)
		changes := lines[0].Changes()
		c, err = b.AddPage("w", lines, id)
		require.NoError(t, err)
		_, page, _ := strings.Cut(strings.TrimSpace(Open(c).PageOf("w")), "\n")
		got := strings.Split(page, "\n")
		if said == "Front kick, 5 a side" {
			want = append(want, "Front kick, 5 a side")
		}
		assert.Equal(t, want, got, said)
		assert.Equal(t, len(want) == 1 && want[0] != "Front kick, 5 a side, must, slowly (knee first)", changes, said)
	}
}
