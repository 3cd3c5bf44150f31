package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
)

// TestBoundsOfLists: where a list behind a heading, a table of pipes and the list to tick begin and end.
func TestBoundsOfLists(t *testing.T) {
	b := shore()
	long := "Step in and turn the hip"
	assert.Len(t, strings.Fields(long), mostListed+2)
	assert.Equal(t, []string{long, "Turn out."}, b.inlineList("Self-defence", long+". Turn out.", "self_defence"))
	assert.Len(t, b.inlineList("Self-defence", long+" well. Turn out.", "self_defence"), 1)
	assert.Equal(t, []string{"low block", "high block"}, b.inlineList("Blocks", "1. low block 2. high block", "block"))
	for in, want := range map[string]string{
		"| Jab | 10 |\nHook | 5": "| Jab | 10 ||Hook\t5", "| Jab | 10 |\nHook | 5\nCross | 5": "\tJab\t10|Hook\t5|Cross\t5", "Jab | 10\nHook": "Jab | 10|Hook",
	} {
		assert.Equal(t, want, strings.ReplaceAll(strings.Join(withoutPipes(strings.Split(in, "\n")), "|"), "\t\t", "\t"), in)
	}
	free := func(q curriculum.Quantity) []string {
		return curriculum.Line{Free: true, Kind: "combination", Quantity: q}.TickList(nil, nil)
	}
	assert.Equal(t, []string{"combination 1"}, free(curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}))
	assert.Len(t, free(curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 3}), 3)
	assert.Empty(t, free(curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 60}))
	calls := b.ParsePage("1 = jab\n2 = cross\nCombinations\n1-2-1, 4 a side")
	last := calls[len(calls)-1]
	assert.Equal(t, []any{"combination", 0, "", false}, []any{string(last.Kind), last.Place, last.Series, last.Asked}, last.Problem)
	assert.NotEmpty(t, last.Moves)
}
