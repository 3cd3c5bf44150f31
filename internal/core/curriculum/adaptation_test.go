package curriculum_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	. "velvetladder/internal/core/curriculum"
)

func TestWhatIsWrongWithAnAdaptation(t *testing.T) {
	b := ladder(t, sound, soundly)
	jab := b.Named("Jab").ID
	day := civil.MustParse("2026-11-24")
	zero := Quantity{Measure: RepsInAll}
	good := Adaptation{TechniqueID: jab, Does: Excuse, Reason: "hip"}
	assert.Empty(t, b.CheckAdaptation(good))
	for field, change := range map[string]func(*Adaptation){
		"what":        func(a *Adaptation) { a.TechniqueID = "" },
		"does":        func(a *Adaptation) { a.Does = "forget" },
		"kind":        func(a *Adaptation) { a.TechniqueID, a.Kind = "", "dance" },
		"replacement": func(a *Adaptation) { a.Does = Replace },
		"amount":      func(a *Adaptation) { a.Does = Change },
		"reps":        func(a *Adaptation) { a.Does, a.Quantity = Change, &zero },
		"reason":      func(a *Adaptation) { a.Reason = "" },
		"to":          func(a *Adaptation) { a.From, a.To = day, day.AddDays(-1) },
	} {
		a := good
		change(&a)
		p := b.CheckAdaptation(a)
		assert.NotEmpty(t, p.Of(field), "%s: %v", field, p)
	}
	unknown := good
	unknown.TechniqueID = "gone"
	assert.Equal(t, "is no technique of this program", b.CheckAdaptation(unknown).Of("what"))
}

// TestDaysOfAnAdaptation: both ends are included, and an open end has none.
func TestDaysOfAnAdaptation(t *testing.T) {
	from, to := civil.MustParse("2026-11-01"), civil.MustParse("2026-11-30")
	for _, x := range []struct {
		from, to civil.Date
		on       string
		holds    bool
	}{
		{from, to, "2026-10-31", false}, {from, to, "2026-11-01", true}, {from, to, "2026-11-30", true}, {from, to, "2026-12-01", false},
		{civil.Date{}, to, "1999-01-01", true}, {from, civil.Date{}, "2199-01-01", true}, {civil.Date{}, civil.Date{}, "2026-11-24", true},
	} {
		assert.Equal(t, x.holds, Adaptation{From: x.from, To: x.to}.HoldsOn(civil.MustParse(x.on)), "%v", x)
	}
}

func TestWhatIsWrongWithAStage(t *testing.T) {
	for _, x := range []struct {
		name   string
		stages []Stage
		said   string
	}{
		{"a first part that changes", []Stage{{Does: Alters, From: 1, Steps: Steps("x")}}, "there is nothing before it to change"},
		{"no such deed", []Stage{{Does: "mend", Steps: Steps("x")}}, "is not a choice"},
		{"no such showing", []Stage{{Does: Appends, Steps: Steps("x"), Shown: "sometimes"}}, "is not a choice"},
		{"attaching nothing", []Stage{{Does: Appends, Steps: Steps("x")}, {Does: Attaches, RungID: "r"}}, "names no technique to go on with"},
		{"altering from nowhere", []Stage{{Does: Appends, Steps: Steps("x")}, {Does: Alters, RungID: "r", Steps: Steps("y")}}, "from which step on is not said"},
		{"nothing in it", []Stage{{Does: Appends}}, "has no steps"},
		{"a later part without a rung", []Stage{{Does: Appends, Steps: Steps("x")}, {Does: Appends, Steps: Steps("y")}}, "a later part arrives on one"},
		{"a hidden character", []Stage{{Does: Appends, Steps: []Step{{Moves: "x\u202ey"}}}}, "invisible control character"},
	} {
		p := Technique{Name: "Wheel", Kind: "lock", TechniqueDetails: TechniqueDetails{Stages: x.stages}}.Check()
		assert.Contains(t, p.Error(), x.said, x.name)
	}
}

func TestRulesOfARung(t *testing.T) {
	b := ladder(t, sound, soundly, func(c *Curriculum) {
		c.Rungs[1].Rules = []Rule{{Kind: MonthsSince, Amount: 6}, {Kind: MonthsSince, TrackID: "cubs"}, {Kind: LeastAge, Amount: 7, TrackID: "adults"}, {Kind: Word}}
	})
	rung := b.Rungs[1].ID
	assert.Equal(t, []Rule{{Kind: MonthsSince, Amount: 6}, {Kind: Word}}, b.RulesOf(rung, ""))
	assert.Equal(t, []Rule{{Kind: Word}}, b.RulesOf(rung, "cubs"), "0 lets a track off")
	assert.Equal(t, []Rule{{Kind: MonthsSince, Amount: 6}, {Kind: LeastAge, Amount: 7, TrackID: "adults"}, {Kind: Word}}, b.RulesOf(rung, "adults"))
	assert.Empty(t, b.RulesOf("gone", ""))
	assert.Equal(t, &b.Rungs[1], b.Above(b.Rungs[0].ID))
	assert.Nil(t, b.Above(b.Rungs[len(b.Rungs)-1].ID))
	assert.Nil(t, b.Above("gone"))
	for said, rules := range map[string][]Rule{
		"is not a choice":             {{Kind: "height", Amount: 1}},
		"write a number up to 240":    {{Kind: MonthsSince, Amount: 241}},
		"write a number up to 3650":   {{Kind: DaysSince, Amount: -1}},
		"stands twice":                {{Kind: MonthsSince, Amount: 1}, {Kind: MonthsSince, Amount: 2}},
		"is no track of this program": {{Kind: MonthsSince, Amount: 1, TrackID: "elders"}},
	} {
		c := b.Curriculum
		c.Rungs = append([]Rung{}, c.Rungs...)
		c.Rungs[1].Rules = rules
		found := c.Validate()
		if assert.NotEmpty(t, found, said) {
			assert.Contains(t, found[0].Error(), said)
			assert.Contains(t, found[0].Path, "$.rungs[1].rules")
		}
	}
}

func TestWordsOfChoices(t *testing.T) {
	var usual []Section
	for _, s := range DefaultSections {
		usual = append(usual, Section{ID: s, Name: s, Kind: UsualKind(s)})
	}
	for _, k := range Kinds {
		assert.NotEmpty(t, k.Words())
		assert.NotNil(t, SectionFor(usual, k), k)
		q := DefaultAmount(k)
		assert.Empty(t, Requirement{Role: "performer", Weight: 1, Quantity: q}.Check(), k)
	}
	for _, k := range RuleKinds {
		assert.NotEmpty(t, k.Words())
	}
	for _, d := range []Does{Appends, Alters, ReplacesTail, Attaches} {
		assert.NotEmpty(t, d.Words())
	}
	for _, s := range []Shown{Hidden, OpenToTry, Taught} {
		assert.NotEmpty(t, s.Words())
	}
	for _, x := range []Then{Continue, GoTo, BreakOff} {
		assert.NotEmpty(t, x.Words())
	}
	for words, track := range map[string]Track{"any age": {}, "7 and over": {From: 7}, "up to 6": {To: 6}, "7 to 12": {From: 7, To: 12}} {
		assert.Equal(t, words, track.Ages())
	}
}
