package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
)

func TestMayBeKnown(t *testing.T) {
	one, other := civil.MustParse("2015-03-01"), civil.MustParse("2015-03-02")
	for _, c := range []struct {
		a    string
		born civil.Date
		b    string
		was  civil.Date
		why  string
	}{
		{"Ada Race", one, "ada  race", one, "the same name, born the same day"},
		{"Ada Race", one, "Race Ada", one, "the same name, born the same day"},
		{"Ada Race", one, "Ada Race", other, "the same name, born another day"},
		{"Ada Race", one, "Ada Race", civil.Date{}, "the same name"},
		{"Ada Race", civil.Date{}, "Ada Race", civil.Date{}, "the same name"},
		{"Ada Race", one, "Ada Rcae", one, "nearly the same name, born the same day"},
		{"Ada Race", one, "Ida Race", one, "nearly the same name, born the same day"}, // or twins: it is asked
		{"Ada Race", one, "Ida Race", other, ""},
		{"Ada Race", one, "Ida Rice", one, ""}, // two letters of eight
		{"Adele Racely", one, "Adela Racelli", one, ""},
		{"Adele Racely", one, "Adela Raceli", one, "nearly the same name, born the same day"},
		{"Ada Race", civil.Date{}, "Ada Rase", one, "nearly the same name"},
		{"Ada Maria Race", one, "Ada Race", one, "nearly the same name, born the same day"},
		{"Ada Race", one, "Race Ada Maria", civil.Date{}, "nearly the same name"},
		{"Ada", one, "Ada Race", one, ""}, // a first name alone says too little
		{"Ada", one, "Eda", one, ""},
		{"Bo", one, "Bo", one, "the same name, born the same day"},
		{"Zoë Vance", one, "Zoe Vance", one, "nearly the same name, born the same day"},
		{"", one, "", one, ""},
	} {
		got := MayBeKnown(Student{Name: c.a, BirthDate: c.born}, []Student{{ID: "x", Name: c.b, BirthDate: c.was}})
		back := MayBeKnown(Student{Name: c.b, BirthDate: c.was}, []Student{{ID: "y", Name: c.a, BirthDate: c.born}})
		if c.why == "" {
			assert.Empty(t, got, c)
			assert.Empty(t, back, c)
			continue
		}
		if assert.Len(t, got, 1, c) && assert.Len(t, back, 1, c) {
			assert.Equal(t, []string{c.why, c.why, "x"}, []string{got[0].Why, back[0].Why, got[0].ID})
		}
	}
}
