package gradingday

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPanels(t *testing.T) {
	g := Grading{Rings: []Ring{{"a", "Ring A"}, {"b", "Ring B"}}, Examiners: []Examiner{
		{Name: "Cora Vane", Chief: true}, {Name: "Ed Weir"}, {Name: "Fay Rush"}, {Name: "Gil Marsh", Ring: 1},
	}}
	assert.Equal(t, []Ring{{"b", "Ring B"}}, g.Chiefless(map[string]bool{"a": true, "b": true}))
	assert.Empty(t, g.Chiefless(map[string]bool{"a": true}), "where nobody is tested none is needed")
	assert.Equal(t, []RingSize{{"Ring A", 3}, {"Ring B", 1}}, g.Uneven())
	g.Examiners[0].Absent = true
	assert.Len(t, g.Chiefless(map[string]bool{"a": true}), 1, "a chief who is not there confirms nothing")
	assert.Equal(t, 2, g.Uneven()[0].N)
	g.Examiners = append(g.Examiners, Examiner{Name: "Hal Beck", Ring: 1})
	assert.Empty(t, g.Uneven())
	g.Fill()
	assert.False(t, g.Examiners[3].Chief, "of two the program chooses none")
	alone := Grading{Examiners: []Examiner{{Name: "Cora Vane"}}}
	alone.Fill()
	assert.True(t, alone.Examiners[0].Chief, "who sits alone is the chief")
}

func TestMayOpen(t *testing.T) {
	panel := []Examiner{{Name: "Cora Vane"}, {Name: "Ed Weir"}, {Name: "Fay Rush", Absent: true}}
	for _, x := range []struct {
		name           string
		of             int
		who            string
		signed, closed bool
		want           bool
	}{
		{"a colleague's", 1, "Cora Vane", false, false, false},
		{"a colleague's, written otherwise", 1, " cora  VANE ", false, false, false},
		{"one's own", 0, "Cora Vane", false, false, true},
		{"an absent colleague's", 2, "Cora Vane", false, false, true},
		{"after all have signed", 1, "Cora Vane", true, false, true},
		{"after the day is closed", 1, "Cora Vane", false, true, true},
		{"of a panel one is not on", 1, "Rosa", false, false, true},
		{"who has no name", 1, "", false, false, true},
	} {
		assert.Equal(t, x.want, MayOpen(panel, panel[x.of], x.who, x.signed, x.closed), x.name)
	}
}
