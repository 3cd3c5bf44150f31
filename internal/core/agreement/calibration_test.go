package agreement

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

func sheet() Calibration {
	return Calibration{ID: "one", ProgramID: "kenpo", Name: "Orange sheet", Scale: scoring.MovementScale().Scale, Lines: []string{"Jab", "Front kick"}, Performances: []string{"First clip", "Second clip"}}
}

func numbered(n int) (out []string) {
	for i := range n {
		out = append(out, fmt.Sprint("line ", i))
	}
	return out
}

func TestACalibrationIsChecked(t *testing.T) {
	c := Calibration{Name: "  Orange   sheet ", What: " a clip ", Lines: []string{" Jab ", "", "  "}}
	c.Tidy()
	assert.Equal(t, Calibration{Name: "Orange sheet", What: "a clip", Lines: []string{"Jab"}, Performances: []string{"What is shown"}}, c)
	named := Calibration{Performances: []string{"", "Ada"}}
	named.Tidy()
	assert.Equal(t, []string{"Ada"}, named.Performances)
	assert.Empty(t, sheet().Check())
	for _, x := range []struct {
		name, field, says string
		change            func(*Calibration)
	}{
		{"no name", "name", "is empty", func(c *Calibration) { c.Name = "" }},
		{"no lines", "lines", "at least one line", func(c *Calibration) { c.Lines = nil }},
		{"too many lines", "lines", "has 61; up to 60", func(c *Calibration) { c.Lines = numbered(61) }},
		{"too many performances", "performances", "has 13; up to 12", func(c *Calibration) { c.Performances = numbered(13) }},
		{"a line twice", "lines", `"jab" twice`, func(c *Calibration) { c.Lines = []string{"Jab", "jab"} }},
		{"a long line", "lines", "", func(c *Calibration) { c.Lines = []string{strings.Repeat("x", 500)} }},
		{"a long remark", "what", "", func(c *Calibration) { c.What = strings.Repeat("x", 5000) }},
	} {
		c := sheet()
		x.change(&c)
		p := c.Check()
		require.Len(t, p, 1, x.name)
		assert.Equal(t, x.field, p[0].Field, x.name)
		assert.Contains(t, p[0].Text, x.says, x.name)
	}
	full := sheet()
	full.Lines, full.Performances = numbered(MaxLines), numbered(MaxPerformances)
	assert.Empty(t, full.Check(), "as many as there may be")
}

func TestEntriesOfACalibration(t *testing.T) {
	good := Entry{ID: "entry-one", Who: "Cora Vane", Performance: 1, Line: 1, Kind: gradingday.MarkGiven, Value: scoring.Whole(4)}
	require.NoError(t, sheet().CheckEntry(good))
	for name, change := range map[string]func(*Entry){
		"a short id":               func(e *Entry) { e.ID = "x" },
		"nobody":                   func(e *Entry) { e.Who = " " },
		"a long name":              func(e *Entry) { e.Who = strings.Repeat("x", 500) },
		"no kind":                  func(e *Entry) { e.Kind = "" },
		"a mark above the highest": func(e *Entry) { e.Value = scoring.Whole(5) },
		"half a mark":              func(e *Entry) { e.Value = scoring.Whole(1) / 2 },
		"a line before the first":  func(e *Entry) { e.Line = -1 },
		"a line behind the last":   func(e *Entry) { e.Line = 2 },
		"no such performance":      func(e *Entry) { e.Performance = 2 },
		"a negative performance":   func(e *Entry) { e.Performance = -1 },
	} {
		bad := good
		change(&bad)
		assert.Error(t, sheet().CheckEntry(bad), name)
	}
	unseen := good
	unseen.Kind, unseen.Value, unseen.Performance, unseen.Line = gradingday.MarkNotSeen, 77, 0, 0
	assert.NoError(t, sheet().CheckEntry(unseen), "what is not seen has no value")
}

func TestWhoHasFinished(t *testing.T) {
	c := sheet()
	var all []Entry
	give := func(who string, kind gradingday.MarkKind, performance, line, value int) {
		all = append(all, Entry{Who: who, Kind: kind, Performance: performance, Line: line, Value: scoring.Whole(value)})
	}
	for k := range 4 {
		give("Ed Weir", gradingday.MarkGiven, k/2, k%2, k)
		give("Cora Vane", gradingday.MarkNotSeen, k/2, k%2, 0)
		if k < 3 {
			give("Fay Rush", gradingday.MarkGiven, k/2, k%2, 4)
		}
	}
	give("Fay Rush", gradingday.MarkOpen, 1, 1, 0)
	assert.Equal(t, []string{"Cora Vane", "Ed Weir"}, c.Finished(all), "what was taken back is not given")
	units := c.Units(all, []string{"Ed Weir", "Cora Vane"})
	require.Len(t, units, 4)
	assert.Equal(t, Unit{Candidate: "Second clip", Item: "Jab", Marks: map[string]float64{"Ed Weir": 2}}, units[2], "not seen is no mark")
	both := c.Units(all, []string{"Ed Weir", "Fay Rush"})
	assert.Equal(t, map[string]float64{"Ed Weir": 1, "Fay Rush": 4}, both[1].Marks)
	assert.Equal(t, map[string]float64{"Ed Weir": 3}, both[3].Marks)
	assert.Empty(t, c.Units(all, nil))
	c.Scale = scoring.Scale{Lowest: scoring.Whole(1), Highest: scoring.Whole(9), Step: scoring.Whole(1) / 2}
	assert.Equal(t, 6.0, c.Units([]Entry{{Who: "x", Kind: gradingday.MarkGiven, Value: scoring.Whole(4)}}, []string{"x"})[0].Marks["x"], "in steps above the lowest")
}
