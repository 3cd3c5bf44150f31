package progress

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
)

// Known is a student on record who may be the one about to be added, and why.
type Known struct {
	Student
	Like Likeness
}

// MayBeKnown are those of the students on record who may be the one about to be added, in their order. Twins and namesakes are among them:
// it is asked, never decided.
func MayBeKnown(added Student, all []Student) (out []Known) {
	a := asWritten(added)
	for _, x := range all {
		if why := a.mayBe(asWritten(x)); why != "" {
			out = append(out, Known{x, why})
		}
	}
	return out
}

// written is a student with the words of the name, read once.
type written struct {
	Student
	key    string
	length int       // of the key, in letters
	words  []string  // sorted
	count  [32]int16 // how often letters stand in the key, by their last five bits
}

func asWritten(x Student) written {
	w := written{Student: x, key: check.Key(x.Name)}
	w.length = utf8.RuneCountInString(w.key)
	w.words = strings.FieldsFunc(w.key, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(",;.", r) }) // Race, Ada
	slices.Sort(w.words)
	for _, r := range w.key {
		w.count[r%32]++
	}
	return w
}

// Likeness is why two records may be of one person.
type Likeness string

// The kinds of likeness; none is "".
const (
	Same          Likeness = "same"            // the name
	SameBorn      Likeness = "same born"       // the name and the birth date
	SameBornApart Likeness = "same born apart" // the name; born another day
	Nearly        Likeness = "nearly"          // the same name
	NearlyBorn    Likeness = "nearly born"     // the same name, and the birth date
)

// mayBe says why two records may be of one person, "" where nothing says so: the same words as a name; or, born the same day or with a birth
// date unknown, names that differ by a slip (one letter, two from ten letters on) or of which one is the other with words left out.
func (a written) mayBe(b written) Likeness {
	known := !a.BirthDate.IsZero() && !b.BirthDate.IsZero()
	born := known && a.BirthDate == b.BirthDate
	if len(a.words) == 0 || len(b.words) == 0 {
		return ""
	}
	if slices.Equal(a.words, b.words) {
		switch {
		case born:
			return SameBorn
		case known:
			return SameBornApart
		}
		return Same
	}
	if known && !born || !a.slip(b) && !within(a.words, b.words) && !within(b.words, a.words) {
		return ""
	}
	if born {
		return NearlyBorn
	}
	return Nearly
}

func (a written) slip(b written) bool {
	short, long := min(a.length, b.length), max(a.length, b.length)
	most := 1
	if short >= 10 {
		most = 2
	}
	if short < 4 || long-short > most {
		return false
	}
	apart := 0 // a letter put in or left out changes one count, a letter replaced two
	for i := range a.count {
		if d := int(a.count[i] - b.count[i]); d < 0 {
			apart -= d
		} else {
			apart += d
		}
	}
	return apart <= 2*most && check.Distance(a.key, b.key) <= most
}

// within says that a name of two words or more stands whole in another.
func within(few, more []string) bool {
	return len(few) > 1 && !slices.ContainsFunc(few, func(word string) bool { return !slices.Contains(more, word) })
}

// wholeMost is how many students of unknown birth date are held letter by letter against each name of a file; of more, those that share a word
// with it. 2,000 take a millisecond a name.
const wholeMost = 2000

// OnRecord finds who may be known for many at once, as MayBeKnown does for one.
type OnRecord struct {
	all    []written
	names  map[string][]int     // words of a name, sorted → who
	born   map[civil.Date][]int // → who; the zero date: not known
	worded map[string][]int     // a word of a name → who

	everybody []int
}

// NewOnRecord is all that are on record.
func NewOnRecord(all []Student) *OnRecord {
	o := &OnRecord{names: map[string][]int{}, born: map[civil.Date][]int{}, worded: map[string][]int{}}
	for _, x := range all {
		o.Add(x)
	}
	return o
}

// Add adds one who is on record from now on.
func (o *OnRecord) Add(x Student) {
	w, i := asWritten(x), len(o.all)
	o.all, o.everybody = append(o.all, w), append(o.everybody, i)
	o.names[strings.Join(w.words, " ")] = append(o.names[strings.Join(w.words, " ")], i)
	o.born[x.BirthDate] = append(o.born[x.BirthDate], i)
	for _, word := range slices.Compact(slices.Clone(w.words)) {
		o.worded[word] = append(o.worded[word], i)
	}
}

// MayBe are those on record who may be the one about to be added, in their order.
func (o *OnRecord) MayBe(added Student) (out []Known) {
	a := asWritten(added)
	if len(a.words) == 0 {
		return nil
	}
	var who []int
	try := func(more []int) { who = append(who, more...) }
	try(o.names[strings.Join(a.words, " ")])
	open := o.born[civil.Date{}] // of whom only the name can tell
	if added.BirthDate.IsZero() {
		open = o.everybody
	} else {
		try(o.born[added.BirthDate])
	}
	if len(open) <= wholeMost {
		try(open)
	} else {
		for _, word := range a.words {
			try(o.worded[word])
		}
	}
	slices.Sort(who)
	for _, i := range slices.Compact(who) {
		if why := a.mayBe(o.all[i]); why != "" {
			out = append(out, Known{o.all[i].Student, why})
		}
	}
	return out
}

// Completed is a record with what another says of the same person where it says nothing itself; changed reports whether that is anything.
func (s Student) Completed(x Student) (out Student, changed bool) {
	out = s
	for _, f := range []struct{ into, from *string }{
		{&out.Guardian, &x.Guardian}, {&out.Contact, &x.Contact}, {&out.BeltSize, &x.BeltSize}, {&out.UniformSize, &x.UniformSize}, {&out.Limits, &x.Limits},
	} {
		if *f.into == "" {
			*f.into = *f.from
		}
	}
	for _, f := range []struct{ into, from *int }{
		{&out.HeightCM, &x.HeightCM}, {&out.WeightKG, &x.WeightKG}, {&out.WaistCM, &x.WaistCM},
		{&out.ShoulderMM, &x.ShoulderMM}, {&out.LegMM, &x.LegMM}, {&out.FootMM, &x.FootMM},
	} {
		if *f.into == 0 {
			*f.into = *f.from
		}
	}
	for _, f := range []struct{ into, from *civil.Date }{{&out.BirthDate, &x.BirthDate}, {&out.JoinedOn, &x.JoinedOn}} {
		if f.into.IsZero() {
			*f.into = *f.from
		}
	}
	if out.Stance == "" {
		out.Stance = x.Stance
	}
	return out, out != s
}
