package progress

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
)

func TestMayBeKnown(t *testing.T) {
	one, other := civil.MustParse("2015-03-01"), civil.MustParse("2015-03-02")
	for _, c := range []struct {
		a    string
		born civil.Date
		b    string
		was  civil.Date
		why  Likeness
	}{
		{"Ada Race", one, "ada  race", one, SameBorn},
		{"Ada Race", one, "Race Ada", one, SameBorn},
		{"Race, Ada", one, "Ada Race", one, SameBorn},
		{"Ada M. Race", one, "Race, Ada", one, NearlyBorn},
		{"Ada Race", one, "Ada Race", other, SameBornApart},
		{"Ada Race", one, "Ada Race", civil.Date{}, Same},
		{"Ada Race", civil.Date{}, "Ada Race", civil.Date{}, Same},
		{"Ada Race", one, "Ada Rcae", one, NearlyBorn},
		{"Ada Race", one, "Ida Race", one, NearlyBorn}, // or twins: it is asked
		{"Ada Race", one, "Ida Race", other, ""},
		{"Ada Race", one, "Ida Rice", one, ""}, // two letters of eight
		{"Adele Racely", one, "Adela Racelli", one, ""},
		{"Adele Racely", one, "Adela Raceli", one, NearlyBorn},
		{"Adele Race", one, "Adela Rase", one, NearlyBorn}, // ten letters and the space between
		{"Adel Race", one, "Adal Rase", one, ""},           // nine
		{"Ada Race", civil.Date{}, "Ada Rase", one, Nearly},
		{"Ada Maria Race", one, "Ada Race", one, NearlyBorn},
		{"Ada Race", one, "Race Ada Maria", civil.Date{}, Nearly},
		{"Ada", one, "Ada Race", one, ""}, // a first name alone says too little
		{"Ada", one, "Eda", one, ""},
		{"Bo", one, "Bo", one, SameBorn},
		{"Zoë Vance", one, "Zoe Vance", one, NearlyBorn},
		{"Adel", one, "Adela", one, NearlyBorn}, // four letters
		{"Ade", one, "Adel", one, ""},           // three
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
			assert.Equal(t, []any{c.why, c.why, "x"}, []any{got[0].Like, back[0].Like, got[0].ID})
		}
	}
}

// TestLawManyAreFoundAsOneIs: the quick way finds whom the plain one finds, in the same order.
func TestLawManyAreFoundAsOneIs(t *testing.T) {
	words := []string{"ada", "ida", "adele", "adela", "race", "rice", "racely", "raceli", "bo", "maria", "zoë", "zoe", "race,", "m.", ""}
	days := []civil.Date{{}, civil.MustParse("2015-03-01"), civil.MustParse("2015-03-02")}
	rapid.Check(t, func(t *rapid.T) {
		who := func(label string) Student {
			name := ""
			for range rapid.IntRange(1, 3).Draw(t, label+" words") {
				name += " " + rapid.SampledFrom(words).Draw(t, label)
			}
			return Student{Name: name, BirthDate: rapid.SampledFrom(days).Draw(t, label+" born")}
		}
		var all []Student
		o := NewOnRecord(nil)
		for range rapid.IntRange(0, 12).Draw(t, "many") {
			x := who("of record")
			x.ID = strconv.Itoa(len(all))
			if x.BirthDate.IsZero() && strings.TrimSpace(x.Name) == "" {
				continue
			}
			all = append(all, x)
			o.Add(x)
		}
		a := who("added")
		require.Equal(t, MayBeKnown(a, all), o.MayBe(a))
	})
}

// TestAmongVeryMany: of thousands whose birth date nobody knows, those that share a word are still held against each other.
func TestAmongVeryMany(t *testing.T) {
	var all []Student
	for i := range wholeMost + 1 {
		all = append(all, Student{ID: strconv.Itoa(i), Name: fmt.Sprintf("Student%d Family%d", i, i%50)})
	}
	o := NewOnRecord(append(all, Student{ID: "x", Name: "Adele Racely"}))
	assert.Len(t, o.MayBe(Student{Name: "Adela Racely"}), 1, "a word is the same")
	assert.Empty(t, o.MayBe(Student{Name: "Adela Raceli"}), "of so many, two words with a slip each are not looked for")
	assert.Len(t, o.MayBe(Student{Name: "Family1 Student1"}), 1)
}

func TestARecordIsCompleted(t *testing.T) {
	day := civil.MustParse("2015-03-01")
	full := Student{ID: "f", Name: "Other", BirthDate: day, Guardian: "g", Contact: "c", Stance: Southpaw, HeightCM: 1, WeightKG: 2, WaistCM: 3, ShoulderMM: 4, LegMM: 5, FootMM: 6, BeltSize: "b", UniformSize: "u", Limits: "l", JoinedOn: day, Number: 9}
	want := full
	want.ID, want.Name, want.Number = "x", "Ada", 101
	got, changed := Student{ID: "x", Name: "Ada", Number: 101}.Completed(full)
	assert.True(t, changed)
	assert.Equal(t, want, got, "all but who it is")
	got, changed = want.Completed(Student{Guardian: "another", HeightCM: 170, BirthDate: day.AddDays(1), Stance: Orthodox})
	assert.False(t, changed, "what stands is not touched")
	assert.Equal(t, want, got)
}

// BenchmarkMayBeKnown: a file of 40,000 held against itself.
func BenchmarkMayBeKnown(b *testing.B) {
	var all []Student
	for i := range 40_000 {
		all = append(all, Student{Name: fmt.Sprintf("First%d Family%d", i%900, i%1300), BirthDate: civil.MustParse("2015-03-01").AddDays(-i % 6000)})
	}
	for b.Loop() {
		o := NewOnRecord(nil)
		for _, x := range all {
			o.MayBe(x)
			o.Add(x)
		}
	}
}
