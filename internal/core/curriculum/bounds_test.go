package curriculum

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
)

// long is one letter longer than a line of so many may be.
func long(n int) string { return strings.Repeat("a", n+1) }

// holds expects of each value whether its check finds fault with a field.
func holds[T fmt.Stringer](t *testing.T, field string, sound, wrong []T, of func(T) check.Problems) {
	for _, x := range sound {
		assert.Empty(t, of(x).Of(field), "%s %v", field, x)
	}
	for _, x := range wrong {
		assert.NotEmpty(t, of(x).Of(field), "%s %v", field, x)
	}
}

type number int

func (n number) String() string { return fmt.Sprint(int(n)) }

type pair struct{ a, b int }

func (p pair) String() string { return fmt.Sprint(p.a, " ", p.b) }

type word string

func (w word) String() string { return string(w) }

// TestBoundsOfAProgram: each bound holds exactly where it is said.
func TestBoundsOfAProgram(t *testing.T) {
	with := func(d ProgramDetails) check.Problems { return Program{Name: "P", ProgramDetails: d}.Check() }
	holds(t, "tracks", []pair{{0, 0}, {120, 0}, {120, 120}, {0, 120}, {7, 7}, {1, 0}, {0, 1}}, []pair{{-1, 0}, {121, 0}, {121, 121}, {0, 121}, {0, -1}, {7, 6}}, func(p pair) check.Problems {
		return with(ProgramDetails{Tracks: []Track{{Name: "A", From: p.a, To: p.b}}})
	})
	holds(t, "groups", []number{1, 50}, []number{0, 51}, func(n number) check.Problems {
		return with(ProgramDetails{Groups: []SampleGroup{{Name: "A", Draw: int(n)}}})
	})
	holds(t, "tracks", []word{"B"}, []word{"A", "a", ""}, func(w word) check.Problems {
		return with(ProgramDetails{Tracks: []Track{{Name: "A"}, {Name: string(w)}}, Groups: []SampleGroup{{Name: "A", Draw: 1}}})
	})
	holds(t, "groups", []word{"B"}, []word{"A", "a", ""}, func(w word) check.Problems {
		return with(ProgramDetails{Tracks: []Track{{Name: "B"}}, Groups: []SampleGroup{{Name: "A", Draw: 1}, {Name: string(w), Draw: 1}}})
	})
	holds(t, "commands", []word{"Begin"}, []word{""}, func(w word) check.Problems { return with(ProgramDetails{Commands: []Command{{Word: string(w)}}}) })
	holds(t, "commands", []word{"", "all begin"}, []word{word(long(check.LineLength))}, func(w word) check.Problems {
		return with(ProgramDetails{Commands: []Command{{Word: "Begin", Meaning: string(w)}}})
	})
	holds(t, "side_means", []word{"", "stance", "limb", "direction"}, []word{"hand"}, func(w word) check.Problems { return with(ProgramDetails{SideMeans: SideMeaning(w)}) })
	holds(t, "voice", []word{"", word(Voices[0])}, []word{"loud"}, func(w word) check.Problems { return with(ProgramDetails{Voice: Voice(w)}) })
	holds(t, "name", []word{"A"}, []word{"", word(long(check.NameLength))}, func(w word) check.Problems { return Program{Name: string(w)}.Check() })
	holds(t, "second_language", []word{"", "A"}, []word{word(long(check.NameLength))}, func(w word) check.Problems { return Program{Name: "A", SecondLanguage: string(w)}.Check() })
	assert.Empty(t, with(ProgramDetails{Marking: "unknown"}), "without a policy the marking is not said")
	policy := scoring.MovementScale()
	assert.NotEmpty(t, with(ProgramDetails{Marking: "unknown", Policy: &policy}).Of("marking"))
	assert.Empty(t, with(ProgramDetails{Marking: SignOff, Policy: &policy}))
	assert.NotEmpty(t, with(ProgramDetails{Marking: SignOff, Policy: &scoring.Policy{}}).Of("policy"))
}

// TestAgesOfTracks: both ends belong to the track.
func TestAgesOfTracks(t *testing.T) {
	p := ProgramDetails{Tracks: []Track{{Name: "Cubs", From: 4, To: 6}, {Name: "Juniors", From: 7, To: 12}, {Name: "Also juniors", From: 10, To: 11}}}
	for age, want := range map[int]string{3: "", 4: "Cubs", 6: "Cubs", 7: "Juniors", 10: "Juniors", 12: "Juniors", 13: ""} {
		track, found := p.TrackOf(age)
		assert.Equal(t, []any{want, want != ""}, []any{track.Name, found}, age)
	}
	assert.Equal(t, []bool{true, false, true}, []bool{Track{}.Holds(0), Track{From: 13}.Holds(12), Track{From: 13}.Holds(99)})
	assert.Equal(t, []string{"any age", "13 and over", "up to 6", "7 to 12"}, []string{Track{}.Ages(), Track{From: 13}.Ages(), Track{To: 6}.Ages(), p.Tracks[1].Ages()})
}

// TestBoundsOfARung: cloth, marks, words.
func TestBoundsOfARung(t *testing.T) {
	rung := func(change func(*Rung)) check.Problems {
		r := Rung{Name: "White", Kind: Belt, Cloth: Cloth{Weave: Plain, Colour: "#ffffff", Marks: &BeltMarks{Colour: "#000000", Count: 1, Place: Tip}}}
		change(&r)
		return r.Check()
	}
	assert.Empty(t, rung(func(*Rung) {}))
	holds(t, "mark_count", []number{1, MaxMarks}, []number{0, -1, MaxMarks + 1}, func(n number) check.Problems { return rung(func(r *Rung) { r.Cloth.Marks.Count = int(n) }) })
	holds(t, "colour", []word{"#00ff9a"}, []word{"", "#00ff9", "#00ff9ab", "00ff9ab", "#00FF9A", "#00ff9g"}, func(w word) check.Problems { return rung(func(r *Rung) { r.Cloth.Colour = string(w) }) })
	holds(t, "second", []word{"#00ff9a"}, []word{""}, func(w word) check.Problems {
		return rung(func(r *Rung) { r.Cloth.Weave, r.Cloth.Second = Halves, string(w) })
	})
	holds(t, "weave", []word{"plain"}, []word{"", "spots"}, func(w word) check.Problems {
		return rung(func(r *Rung) { r.Cloth.Weave, r.Cloth.Second = Weave(w), "#ffffff" })
	})
	holds(t, "stripes", []word{"#00ff9a"}, []word{"red"}, func(w word) check.Problems {
		return rung(func(r *Rung) { r.Stripes = []SectionStripe{{Colour: string(w)}} })
	})
	for field, put := range map[string]func(*Rung, string){
		"limbs": func(r *Rung, s string) { r.Sparring.Limbs = s }, "targets": func(r *Rung, s string) { r.Sparring.Targets = s }, "scoring": func(r *Rung, s string) { r.Sparring.Scoring = s },
		"common": func(r *Rung, s string) { r.Common = []Common{{Of: "Kicks", Says: []string{s}}} }, "rung_note": func(r *Rung, s string) { r.Note = s },
	} {
		holds(t, field, []word{word(long(check.LineLength - 1))}, []word{word(long(check.LineLength))}, func(w word) check.Problems {
			return rung(func(r *Rung) { r.Sparring = &SparringRule{Contact: "none"}; put(r, string(w)) })
		})
	}
	holds(t, "common", []word{"Kicks"}, []word{""}, func(w word) check.Problems { return rung(func(r *Rung) { r.Common = []Common{{Of: string(w)}} }) })
	holds(t, "contact", []word{"none", "light"}, []word{"", "full"}, func(w word) check.Problems {
		return rung(func(r *Rung) { r.Sparring = &SparringRule{Contact: Contact(w)} })
	})
	holds(t, "voice", []word{"", word(Voices[0])}, []word{"loud"}, func(w word) check.Problems { return rung(func(r *Rung) { r.Voice = Voice(w) }) })
}

// TestBoundsOfARequirement and of what tracks change about it.
func TestBoundsOfARequirement(t *testing.T) {
	line := func(change func(*Requirement)) check.Problems {
		r := Requirement{Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 1}}
		change(&r)
		return r.Check()
	}
	assert.Empty(t, line(func(*Requirement) {}))
	holds(t, "weight", []number{1, 100}, []number{0, 101}, func(n number) check.Problems { return line(func(r *Requirement) { r.Weight = int(n) }) })
	for field, x := range map[string]struct {
		most int
		put  func(*Requirement, int)
	}{
		"stage_cap": {maxStages, func(r *Requirement, n int) { r.StageCap = n }}, "at_once": {50, func(r *Requirement, n int) { r.AtOnce = n }}, "looks": {9, func(r *Requirement, n int) { r.Looks = n }},
		"sprint": {600, func(r *Requirement, n int) { r.Sprint = n }}, "tracks": {maxStages, func(r *Requirement, n int) { r.Tracks = []TrackChange{{TrackID: "a", StageCap: n}} }},
	} {
		holds(t, field, []number{0, number(x.most)}, []number{-1, number(x.most + 1)}, func(n number) check.Problems { return line(func(r *Requirement) { x.put(r, int(n)) }) })
	}
	holds(t, "table", []pair{{0, 1}, {1, 9}}, []pair{{-1, 1}, {1, 1}, {2, 1}}, func(p pair) check.Problems {
		return line(func(r *Requirement) { r.Table = []TableMark{{Count: p.a}, {Count: p.b}} })
	})
	holds(t, "tracks", []word{"b"}, []word{"a"}, func(w word) check.Problems {
		return line(func(r *Requirement) { r.Tracks = []TrackChange{{TrackID: "a"}, {TrackID: string(w)}} })
	})
	holds(t, "reps", []number{1}, []number{0}, func(n number) check.Problems {
		return line(func(r *Requirement) {
			r.Tracks = []TrackChange{{TrackID: "a", Quantity: &Quantity{Measure: RepsInAll, Reps: int(n)}}}
		})
	})
	for _, c := range []struct {
		Carry
		bad bool
	}{{Carry{}, false}, {Carry{Kind: Once}, false}, {Carry{Kind: Always}, false}, {Carry{Kind: Until, Rung: "x"}, false}, {Carry{Kind: Sample, Group: "x"}, false}, {Carry{Kind: "never"}, true},
		{Carry{Kind: Until}, true}, {Carry{Kind: Sample}, true}, {Carry{Kind: Always, Rung: "x"}, true}, {Carry{Kind: Once, Group: "x"}, true}, {Carry{Kind: Until, Rung: "x", Group: "x"}, true}} {
		assert.Equal(t, c.bad, len(line(func(r *Requirement) { r.Carry = c.Carry })) > 0, c.Carry)
	}
	for _, both := range []pair{{0, 0}, {0, 1}, {1, 0}, {1, 1}} {
		assert.Equal(t, both.a+both.b == 2, len(line(func(r *Requirement) { r.MustPass, r.Bonus = both.a == 1, both.b == 1 })) > 0, both)
	}
	holds(t, "least_level", []word{"", "low", "mid", "high"}, []word{"top"}, func(w word) check.Problems { return line(func(r *Requirement) { r.LeastLevel = notation.Level(w) }) })
	holds(t, "setting", []word{"", "pads"}, []word{"water"}, func(w word) check.Problems { return line(func(r *Requirement) { r.Setting = Setting(w) }) })
	holds(t, "voice", []word{"", word(Voices[0])}, []word{"loud"}, func(w word) check.Problems { return line(func(r *Requirement) { r.Voice = Voice(w) }) })
	holds(t, "note", []word{""}, []word{word(long(check.LineLength))}, func(w word) check.Problems { return line(func(r *Requirement) { r.Note = string(w) }) })
	assert.Equal(t, []string{"2 × 60 s, 30 s rest", "2 × 60 s", "1 × 60 s"}, []string{Quantity{Measure: RoundsTimed, Rounds: 2, Seconds: 60, Rest: 30}.String(), Quantity{Measure: RoundsTimed, Rounds: 2, Seconds: 60}.String(), Quantity{Measure: RoundsTimed, Rounds: 1, Seconds: 60, Rest: 30}.String()})
	assert.Equal(t, []string{"2 × 60 s, 1 s rest"}, []string{Quantity{Measure: RoundsTimed, Rounds: 2, Seconds: 60, Rest: 1}.String()})
	for text, want := range map[string]Quantity{"2 min in": {}, "6 within 2 min": {Measure: CountWithin, Reps: 6, Seconds: 120}, "3 alternating": {Measure: Alternating, Reps: 3}, "2 holds of 1 min": {Measure: Holds, Reps: 2, Seconds: 60}} {
		got, err := ParseQuantity(text)
		assert.Equal(t, []any{want, want == Quantity{}}, []any{got, err != nil}, text)
	}
}

// TestBoundsOfATechnique taken by itself.
func TestBoundsOfATechnique(t *testing.T) {
	card := func(change func(*Technique)) check.Problems {
		x := Technique{Name: "Jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Series: "Drill"}}
		change(&x)
		return x.Check()
	}
	assert.Empty(t, card(func(*Technique) {}))
	for field, x := range map[string]struct {
		most int
		put  func(*Technique, int)
	}{"number": {999, func(x *Technique, n int) { x.Number = n }}, "call": {999, func(x *Technique, n int) { x.Call = n }}, "difficulty": {5, func(x *Technique, n int) { x.Difficulty = n }}} {
		holds(t, field, []number{0, 1, number(x.most)}, []number{-1, number(x.most + 1)}, func(n number) check.Problems { return card(func(c *Technique) { x.put(c, int(n)) }) })
	}
	holds(t, "series", []number{0}, []number{1}, func(n number) check.Problems { return card(func(c *Technique) { c.Series, c.Number = "", int(n) }) })
	holds(t, "aliases", []word{"Poke"}, []word{"jab"}, func(w word) check.Problems { return card(func(c *Technique) { c.Aliases = []string{string(w)} }) })
	holds(t, "aliases", []word{"Prod"}, []word{"POKE"}, func(w word) check.Problems {
		return card(func(c *Technique) { c.Aliases = []string{"Poke", string(w)} })
	})
	holds(t, "stages", []number{maxStages}, []number{maxStages + 1}, func(n number) check.Problems { return card(func(c *Technique) { c.Stages = make([]Stage, n) }) })
	holds(t, "entries", []number{maxEntries}, []number{maxEntries + 1}, func(n number) check.Problems {
		return card(func(c *Technique) {
			for i := range int(n) {
				c.Entries = append(c.Entries, Entry{Name: fmt.Sprint("Way ", i)})
			}
		})
	})
	for field, put := range map[string]func(*Technique, string){
		"leaves_open": func(x *Technique, s string) { x.LeavesOpen = s }, "covered_by": func(x *Technique, s string) { x.CoveredBy = s }, "set_up_by": func(x *Technique, s string) { x.SetUpBy = s }, "followed_by": func(x *Technique, s string) { x.FollowedBy = s },
		"note": func(x *Technique, s string) { x.Note = s }, "entries": func(x *Technique, s string) { x.Entries = []Entry{{Name: "Way", Success: []string{s}}} },
		"stage_0": func(x *Technique, s string) {
			x.Stages = []Stage{{Does: Appends, Steps: []Step{{Moves: "a.", Answers: s}}}}
		},
	} {
		holds(t, field, []word{word(long(check.LineLength - 1))}, []word{word(long(check.LineLength))}, func(w word) check.Problems { return card(func(c *Technique) { put(c, string(w)) }) })
	}
	for field, x := range map[string]struct {
		sound string
		put   func(*Technique, string)
	}{
		"range": {string(Zones[0]), func(x *Technique, s string) { x.Range = Zone(s) }}, "position": {string(Positions[0]), func(x *Technique, s string) { x.Position = Position(s) }}, "sides": {string(SidePolicies[0]), func(x *Technique, s string) { x.Sides = SidePolicy(s) }},
		"side_means": {"limb", func(x *Technique, s string) { x.SideMeans = SideMeaning(s) }}, "feet": {string(notation.OneLeads), func(x *Technique, s string) { x.Feet = notation.Feet(s) }},
	} {
		holds(t, field, []word{"", word(x.sound)}, []word{"odd"}, func(w word) check.Problems { return card(func(c *Technique) { x.put(c, string(w)) }) })
	}
	holds(t, "branches", []word{"gone"}, []word{""}, func(w word) check.Problems {
		return card(func(c *Technique) { c.Branches = []Branch{{When: "far", Then: GoTo, TechniqueID: string(w)}} })
	})
	holds(t, "branches", []word{""}, []word{"gone"}, func(w word) check.Problems {
		return card(func(c *Technique) { c.Branches = []Branch{{When: "far", Then: Continue, TechniqueID: string(w)}} })
	})
	holds(t, "clips", []word{"shelf 3"}, []word{""}, func(w word) check.Problems {
		return card(func(c *Technique) { c.Clips = []Clip{{Title: "Slow", Address: string(w)}} })
	})
	first, later := Stage{Does: Appends, Steps: []Step{{Moves: "a."}}}, func(s Stage) check.Problems {
		return card(func(c *Technique) { c.Stages = []Stage{{Does: Appends, Steps: []Step{{Moves: "a."}}}, s} })
	}
	for _, does := range []Does{Alters, ReplacesTail} {
		holds(t, "stage_1", []number{1, 2}, []number{0, -1}, func(n number) check.Problems {
			return later(Stage{Does: does, From: int(n), RungID: "x", Steps: first.Steps})
		})
	}
	assert.Empty(t, later(Stage{Does: Attaches, Attached: "x", RungID: "x"}))
	for _, s := range []Stage{{Does: Attaches, RungID: "x"}, {Does: Appends, RungID: "x"}, {Does: Appends, Steps: first.Steps}, {Does: "grows", RungID: "x", Steps: first.Steps}, {Does: Appends, RungID: "x", Steps: first.Steps, Shown: "odd"}} {
		assert.NotEmpty(t, later(s).Of("stage_1"), s)
	}
	assert.NotEmpty(t, card(func(c *Technique) { c.Stages = []Stage{{Does: Alters, From: 1, Steps: first.Steps}} }).Of("stage_0"))
	assert.Contains(t, card(func(c *Technique) {
		c.Attack = []AttackElement{{Kind: "push", Origin: "front"}, {Kind: "", Origin: "front"}}
	}).Of("attack"), "line 2: ")
	for _, a := range []AttackElement{{Kind: "push"}, {Kind: "push", Origin: "above"}, {Kind: "push", Origin: "front", Side: "odd"}, {Kind: "push", Origin: "front", Level: "top"}, {Kind: "push", Origin: "front", Motion: "rolling"}} {
		assert.NotEmpty(t, card(func(c *Technique) { c.Attack = []AttackElement{a} }).Of("attack"), a)
	}
	of := map[Nature]string{}
	for _, k := range AttackKinds {
		of[(&ProgramDetails{}).NatureOf(k)] += string(k) + ", "
	}
	assert.Equal(t, map[Nature]string{
		"strike": "straight punch, lunge punch, hook, uppercut, back fist, hammer fist, elbow, knee, slap, push, ", "kick": "front kick, round kick, side kick, push kick, low kick, axe kick, hook kick, back kick, ",
		"grab": "wrist grab, two-hand wrist grab, shoulder grab, two-hand shoulder grab, lapel grab, two-hand lapel grab, hug, hair grab, ", "choke": "front choke, rear choke, headlock, ", "tackle": "tackle, ",
		"weapon": "club, stick, knife overhead, knife thrust, knife slash, ", "ground": "ground mounted, ground face down, ",
	}, of)
}

// TestRulesInWords: one and many, kinds of class, papers.
func TestRulesInWords(t *testing.T) {
	for want, r := range map[string]Rule{
		"1 month since the last promotion": {Kind: MonthsSince, Amount: 1}, "6 months since the last promotion": {Kind: MonthsSince, Amount: 6}, "1 class attended since": {Kind: ClassesSince, Amount: 1},
		"2 sparring classes attended since": {Kind: ClassesSince, Amount: 2, Of: "sparring"}, "1 sparring class attended since": {Kind: ClassesSince, Amount: 1, Of: "sparring"}, "1 percent of the classes held since": {Kind: ClassShare, Amount: 1},
		"1 year of age": {Kind: LeastAge, Amount: 1}, "1 requirement signed off in each section": {Kind: EachSignedOff, Amount: 1}, "the kit for the rung": {Kind: KitOwned, Amount: 1}, "an instructor’s word": {Kind: Word},
	} {
		assert.Equal(t, want, r.Words())
	}
	var papers, counted []RuleKind
	for _, k := range RuleKinds {
		if k.Paper() {
			papers = append(papers, k)
		}
		if k.Counted() {
			counted = append(counted, k)
		}
	}
	assert.Equal(t, []RuleKind{Membership, Insurance, Disclaimer}, papers)
	assert.Equal(t, []RuleKind{MonthsSince, DaysSince, ClassesSince, ClassShare, LeastAge, EachSignedOff}, counted)
	rules := func(r ...Rule) check.Problems {
		var p check.Problems
		checkRules(&p, r)
		return p
	}
	assert.Empty(t, rules(Rule{Kind: ClassesSince, Amount: 1, Of: "sparring", Modes: string(timetable.Recorded)}, Rule{Kind: ClassesSince, Amount: 1}, Rule{Kind: ClassesSince, Amount: 1, TrackID: "cubs"}))
	for _, wrong := range [][]Rule{{{Kind: ClassShare, Amount: 1, Of: "sparring"}}, {{Kind: "luck"}}, {{Kind: ClassesSince, Amount: 1, Modes: "asleep"}}, {{Kind: KitOwned, Amount: 1}, {Kind: KitOwned, Amount: 1}}, {{Kind: ClassesSince, Amount: 1, Of: "A"}, {Kind: ClassesSince, Amount: 2, Of: "a"}}, {{Kind: ClassesSince, Amount: 1, Of: long(check.NameLength)}}} {
		assert.NotEmpty(t, rules(wrong...), wrong)
	}
	assert.Equal(t, []bool{true, false, true, false}, []bool{Rule{}.Counts(timetable.Live), Rule{}.Counts(timetable.Recorded), Rule{Modes: "recorded"}.Counts(timetable.Recorded), Rule{Modes: "recorded"}.Counts(timetable.Hall)})
}

// TestWhatHoldsUpTheLadder: kit, sparring, stages and grades from rung to rung.
func TestWhatHoldsUpTheLadder(t *testing.T) {
	b := Open(Curriculum{Program: Program{ProgramDetails: ProgramDetails{PermanentFrom: "c"}}, Rungs: []Rung{
		{ID: "a", RungDetails: RungDetails{Kit: []string{"belt"}}}, {ID: "b", RungDetails: RungDetails{Kit: []string{"gloves", "belt"}, Sparring: &SparringRule{Limbs: "hands"}}}, {ID: "c"}, {ID: "d", RungDetails: RungDetails{Kit: []string{"helmet"}, Sparring: &SparringRule{Limbs: "all"}}}}})
	assert.Equal(t, [][]string{{"belt"}, {"belt", "gloves"}, {"belt", "gloves"}, {"belt", "gloves", "helmet"}, nil}, [][]string{b.KitOf("a"), b.KitOf("b"), b.KitOf("c"), b.KitOf("d"), b.KitOf("x")})
	assert.Nil(t, b.SparringOf("a"))
	assert.Nil(t, b.SparringOf("x"))
	assert.Equal(t, []string{"hands", "hands", "all"}, []string{b.SparringOf("b").Limbs, b.SparringOf("c").Limbs, b.SparringOf("d").Limbs})
	assert.Equal(t, []bool{true, true, false, false, false}, []bool{b.Provisional("a"), b.Provisional("b"), b.Provisional("c"), b.Provisional("d"), b.Provisional("x")})
	b.Program.PermanentFrom = ""
	assert.False(t, b.Provisional("a"))
	x := &Technique{TechniqueDetails: TechniqueDetails{Stages: []Stage{{RungID: "b"}, {RungID: "b"}, {RungID: "d"}, {RungID: "gone"}}}}
	assert.Equal(t, []int{0, 2, 2, 3}, []int{b.StageAt(x, 0), b.StageAt(x, 1), b.StageAt(x, 2), b.StageAt(x, 3)})
	assert.Equal(t, []string{"b", "d", ""}, []string{b.Above("a").ID, b.Above("c").ID, func() string {
		if b.Above("d") != nil || b.Above("x") != nil {
			return "above the top"
		}
		return ""
	}()})
	assert.Equal(t, []int{0, 1, 1, 2, 2}, []int{TestSheet{}.Minutes(), TestSheet{Seconds: 1}.Minutes(), TestSheet{Seconds: 60}.Minutes(), TestSheet{Seconds: 61}.Minutes(), TestSheet{Seconds: 120}.Minutes()})
	assert.Equal(t, Otherwise{Amount: "once"}, Line{Quantity: Quantity{Measure: RepsInAll, Reps: 1}, Stage: 1}.Unlike(Line{Stage: 2, Level: notation.Low}), "no parts, no height")
	assert.Equal(t, Otherwise{Part: 1, Of: 1}, Line{Stage: 1, Stages: 1}.Unlike(Line{Stage: 2, Stages: 2}))
	assert.Equal(t, Otherwise{NoBonus: true}, Line{}.Unlike(Line{Bonus: true}))
}

// TestSheetsAreDisordered: a curriculum whose lines come in no order is asked in the ladder's.
func TestSheetsAreDisordered(t *testing.T) {
	b := ladder(t, simple)
	c := b.Curriculum
	c.Requirements = slices.Clone(c.Requirements)
	slices.Reverse(c.Requirements)
	kept := slices.Clone(c.Requirements)
	c.Requirements = append(c.Requirements, Requirement{ID: "lost", RungID: "gone", TechniqueID: "jab"})
	turned := Open(c)
	assert.Equal(t, kept, c.Requirements[:len(kept)], "what is given stays as it is")
	assert.ElementsMatch(t, said(b.Compile(Asking{RungID: "orange"})), said(turned.Compile(Asking{RungID: "orange"})))
	assert.Equal(t, []string{"white", "orange"}, []string{turned.UsedBy("jab")[0].RungID, turned.UsedBy("jab")[1].RungID})
	assert.Len(t, turned.UsedBy("jab"), 2, "a line of no rung is asked nowhere")
}

// loads makes a ladder of rungs that ask for so many lines of so many seconds.
func loads(rungs ...[2]int) *Book {
	c := Curriculum{Program: Program{ID: "p", Name: "P"}, Sections: []Section{{ID: "s", Name: "All", Kind: "strike"}}}
	for i, x := range rungs {
		id := fmt.Sprint("r", i)
		c.Rungs = append(c.Rungs, Rung{ID: id, Name: id})
		for n := range x[0] {
			name := fmt.Sprint("t", i, "-", n)
			c.Techniques = append(c.Techniques, Technique{ID: name, Name: name, Kind: "fitness", Cautions: []string{"fitness: rest"}})
			c.Requirements = append(c.Requirements, Requirement{ID: "q" + name, RungID: id, SectionID: "s", TechniqueID: name, Weight: 1, Role: "performer", Quantity: Quantity{Measure: Timed, Seconds: x[1]}})
		}
	}
	return Open(c)
}

// TestJumpsInLoad: more than twice a neighbour's lines or minutes, and not of small rungs.
func TestJumpsInLoad(t *testing.T) {
	jumps := func(b *Book) (out []string) {
		for _, f := range b.Check() {
			if f.Kind == LoadJump {
				out = append(out, placeOf(f)+": "+restsOn(f))
			}
		}
		return out
	}
	const lead = 12 // seconds a line takes beside its work
	for _, x := range []struct {
		rungs [][2]int
		want  []string
	}{
		{[][2]int{{9, 1}, {3, 1}, {6, 1}}, nil}, // twice is not more than twice; the lowest is not looked at
		{[][2]int{{0, 0}, {3, 1}, {7, 1}}, []string{"r2: lines jump r1 7 3"}},
		{[][2]int{{0, 0}, {7, 1}, {3, 1}}, []string{"r1: lines jump r2 7 3"}},
		{[][2]int{{0, 0}, {2, 1}, {5, 1}}, nil}, // too few to mean much
		{[][2]int{{0, 0}, {2, 1}, {6, 1}}, []string{"r2: lines jump r1 6 2"}},
		{[][2]int{{0, 0}, {0, 1}, {6, 1}}, nil}, // nothing asked is a finding of its own
		{[][2]int{{0, 0}, {6, 1}, {0, 1}, {2, 1}, {6, 1}}, []string{"r4: lines jump r3 6 2"}},
		{[][2]int{{0, 0}, {1, 300 - lead}, {1, 600 - lead}}, nil},
		{[][2]int{{0, 0}, {1, 299 - lead}, {1, 599 - lead}}, nil},
		{[][2]int{{0, 0}, {1, 299 - lead}, {1, 600 - lead}}, []string{"r2: minutes jump r1 10 5"}},
		{[][2]int{{0, 0}, {1, 600 - lead}, {1, 299 - lead}}, []string{"r1: minutes jump r2 10 5"}},
		{[][2]int{{0, 0}, {2, 400}, {1, 300 - lead}}, []string{"r1: minutes jump r2 14 5"}},
	} {
		assert.Equal(t, x.want, jumps(loads(x.rungs...)), x.rungs)
	}
}

// TestPassMarksAtTheirEnds: a mark that all points just reach can be reached, and one above the
// lowest marks can be missed.
func TestPassMarksAtTheirEnds(t *testing.T) {
	kinds := func(points scoring.Decimal, weight int) (out []FindingKind) {
		b := loads([2]int{1, 9}, [2]int{2, 9})
		policy := scoring.MovementScale()
		policy.Rules.Threshold, policy.Rules.SectionMinima = &points, nil
		policy.Scale.Lowest, policy.Scale.Highest = scoring.Whole(1), scoring.Whole(4)
		c := b.Curriculum
		c.Program.Marking, c.Program.Policy = MovementScale, &policy
		c.Requirements[1].Weight, c.Requirements[2].Bonus = weight, true
		for _, f := range Open(c).Check() {
			if f.Kind == MarkOutOfReach || f.Kind == MarkCannotFail {
				out = append(out, f.Kind)
			}
		}
		return out
	}
	assert.Empty(t, kinds(scoring.Whole(4), 1))
	assert.Equal(t, []FindingKind{MarkOutOfReach}, kinds(scoring.Whole(4)+1, 1))
	assert.Equal(t, []FindingKind{MarkCannotFail}, kinds(scoring.Whole(1), 1))
	assert.Empty(t, kinds(scoring.Whole(1)+1, 1))
	assert.Empty(t, kinds(scoring.Whole(12), 3))
	assert.Equal(t, []FindingKind{MarkCannotFail}, kinds(scoring.Whole(3), 3))
}

// TestFindingsOnce: a hole is one finding however often the steps around it are read, and two
// holes are two.
func TestFindingsOnce(t *testing.T) {
	of := func(change func(*Technique, *Curriculum)) (out []string) {
		b := school(func(c *Curriculum) {
			x := Technique{ID: "odder", Name: "Odder", Kind: "self_defence", TechniqueDetails: TechniqueDetails{AttackMoves: "right jab, left jab"}}
			change(&x, c)
			c.Techniques = append(c.Techniques, x)
		})
		for _, f := range b.Check() {
			if f.TechniqueID == "odder" {
				out = append(out, string(f.Kind)+" "+placeOf(f))
			}
		}
		return out
	}
	steps := func(lines ...string) []Stage {
		out := []Stage{{Does: Appends, Steps: ParseSteps(lines)}}
		for range 2 {
			out = append(out, Stage{Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"cross"})})
		}
		return out
	}
	assert.Equal(t, []string{"unreadable Odder, stage 1, step 1", "unreadable Odder, stage 1, step 3"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("jap", "jab", "crox") }))
	assert.Equal(t, []string{"in_doubt Odder, stage 1, step 1", "in_doubt Odder, stage 1, step 2"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("Rear jab.", "Rear cross.") }))
	assert.Equal(t, []string{"relation_open Odder, stage 1, step 1"}, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("same-side jab; the jab", "rear cross") }))
	assert.Equal(t, []string{"says_side Odder, stage 1, step 1", "says_side Odder, stage 1, step 2"}, of(func(x *Technique, _ *Curriculum) {
		x.AttackMoves, x.Stages = "", steps("Left hand high.", "Right hand low.")
	}))
	assert.Empty(t, of(func(x *Technique, _ *Curriculum) { x.Stages = steps("Left hand high.") }), "the attack names its limbs, and so the answer is never mirrored")
	assert.Len(t, of(func(x *Technique, _ *Curriculum) { x.AttackMoves, x.Stages = "rear jab", steps("Left hand high.") }), 1, "it is mirrored for a southpaw attacker")
	for _, fixed := range []func(*Technique){func(x *Technique) { x.Kind = "form" }, func(x *Technique) { x.Sides = LeftOnly }, func(x *Technique) { x.Sides = RightOnly }} {
		assert.Empty(t, of(func(x *Technique, _ *Curriculum) {
			x.AttackMoves, x.Stages = "", steps("Left hand high.")
			fixed(x)
		}), "what is never mirrored may say left and right")
	}
	assert.Equal(t, []string{"read_otherwise Odder, stage 1, step 2"}, of(func(x *Technique, c *Curriculum) {
		c.Program.ReadAnew = true
		x.AttackMoves, x.Stages = "", steps("lead jab", "lead jab turn cw 180")
	}))
	for n, want := range map[int][]string{1: nil, 2: {"one_sided Odder"}} {
		for _, side := range []string{"left", "right"} {
			line := strings.TrimSuffix(strings.Repeat(side+" jab, ", n), ", ")
			form := func(moves string) []string {
				return of(func(x *Technique, _ *Curriculum) {
					x.Kind, x.AttackMoves, x.Stages = "form", "", []Stage{{Does: Appends, Steps: ParseSteps([]string{moves})}}
				})
			}
			assert.Equal(t, want, form(line), line)
			assert.Empty(t, form(line+", "+map[string]string{"left": "right", "right": "left"}[side]+" jab"), line)
		}
	}
	assert.Equal(t, []string{"stage_gone Odder, stage 2", "stage_gone Odder, stage 3", "stage_gone Odder"}, of(func(x *Technique, _ *Curriculum) {
		x.Stages = []Stage{{Does: Appends, Steps: ParseSteps([]string{"jab"})}, {Does: Appends, Steps: ParseSteps([]string{"jab"})}, {Does: Attaches, RungID: "yellow", Attached: "gone"}, {Does: Attaches, RungID: "yellow", Attached: "jab"}}
		x.Branches = []Branch{{When: "far", Then: BreakOff}, {When: "near", Then: GoTo, TechniqueID: "gone"}}
	}))
	assert.Equal(t, []string{"stage_order Odder, stage 3"}, of(func(x *Technique, c *Curriculum) {
		c.Rungs = append(c.Rungs, Rung{ID: "orange", Name: "Orange"})
		x.Stages = []Stage{{Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "orange", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"jab"})}, {Does: Appends, RungID: "orange", Steps: ParseSteps([]string{"jab"})}}
	}), "together on one rung is in order")
}

// TestSeriesAtTheirRungs: a number may come again at another rung; without a rung it may not.
func TestSeriesAtTheirRungs(t *testing.T) {
	of := func(rungs ...string) (out []string) {
		c := Curriculum{Program: Program{ID: "p", Name: "P"}, Sections: []Section{{ID: "s", Name: "All", Kind: "strike"}}, Rungs: []Rung{{ID: "a", Name: "A"}, {ID: "b", Name: "B"}}}
		for i, r := range rungs {
			id := fmt.Sprint("t", i)
			c.Techniques = append(c.Techniques, Technique{ID: id, Name: id, Kind: "strike", TechniqueDetails: TechniqueDetails{Series: []string{"Drill", "drill"}[i%2], Number: 4}})
			if r != "" {
				c.Requirements = append(c.Requirements, Requirement{ID: "q" + id, RungID: r, SectionID: "s", TechniqueID: id, Role: "performer", Weight: 1, Quantity: Quantity{Measure: RepsInAll, Reps: 1}})
			}
		}
		for _, f := range Open(c).Check() {
			if f.Kind == NumberTwice || f.Kind == NumberMissing {
				out = append(out, restsOn(f))
			}
		}
		return out
	}
	assert.Empty(t, of("a", "b"))
	assert.Empty(t, of("a", ""))
	assert.Equal(t, []string{"t0 t1 A"}, of("a", "a"))
	assert.Equal(t, []string{"t0 t1"}, of("", ""))
	assert.Equal(t, []string{"t0 t1 A", "t0 t2 A"}, of("a", "a", "a"))
}

// TestYoungTracks: who is asked for what suits older students, or is risky for the young.
func TestYoungTracks(t *testing.T) {
	of := func(change func(*Technique, *Curriculum)) (out []string) {
		b := loads([2]int{0, 0}, [2]int{1, 9})
		c := b.Curriculum
		c.Program.Tracks = []Track{{ID: "cubs", Name: "Cubs", Young: true}, {ID: "juniors", Name: "Juniors", Young: true}, {ID: "adults", Name: "Adults"}}
		change(&c.Techniques[0], &c)
		for _, f := range Open(c).Check() {
			if f.Kind == RiskyYoung {
				out = append(out, f.Subject)
			}
		}
		return out
	}
	assert.Empty(t, of(func(*Technique, *Curriculum) {}))
	for youngest, want := range map[string][]string{"": nil, "cubs": nil, "juniors": {"cubs"}, "adults": {"cubs", "juniors"}} {
		assert.Equal(t, want, of(func(x *Technique, _ *Curriculum) { x.YoungestTrack = youngest }), youngest)
	}
	assert.Equal(t, []string{"cubs", "juniors"}, of(func(x *Technique, _ *Curriculum) { x.Cautions = []string{"choke: slowly"} }))
	assert.Equal(t, []string{"cubs", "juniors"}, of(func(x *Technique, _ *Curriculum) { x.Kind = "lock" }))
	assert.Empty(t, of(func(x *Technique, _ *Curriculum) { x.Kind = "throw" }))
	assert.Equal(t, []string{"juniors"}, of(func(x *Technique, c *Curriculum) { x.Kind, c.Program.Tracks[0].AllowsRisk = "lock", true }))
	assert.Equal(t, []string{"juniors"}, of(func(x *Technique, c *Curriculum) {
		x.Kind, c.Requirements[0].Tracks = "lock", []TrackChange{{TrackID: "cubs", LeaveOut: true}}
	}))
}

// TestPlacesOfWhatIsWrong: the paths of a curriculum's faults.
func TestPlacesOfWhatIsWrong(t *testing.T) {
	golden.Alone(t)
	for _, x := range []struct {
		path   string
		change func(*Curriculum)
	}{
		{"$.techniques[1].aliases[1]", func(c *Curriculum) { c.Techniques[1].Aliases = []string{"free", "jab"} }},
		{"$.techniques[0].youngest_track", func(c *Curriculum) { c.Techniques[0].YoungestTrack = "gone" }},
		{"$.techniques[0].clips[1].from", func(c *Curriculum) {
			c.Techniques[0].Clips = []Clip{{Title: "a", Address: "b"}, {Title: "a", Address: "b", From: "gone"}}
		}},
		{"$.techniques[0].builds_on[1]", func(c *Curriculum) { c.Techniques[0].BuildsOn = []string{"knee", "gone"} }},
		{"$.techniques[0].builds_on[0]", func(c *Curriculum) { c.Techniques[0].BuildsOn = []string{"jab"} }},
		{"$.techniques[3].branches[1].technique", func(c *Curriculum) { c.technique("wheel").Branches[1].TechniqueID = "gone" }},
		{"$.techniques[3].attack_moves", func(c *Curriculum) { c.technique("wheel").AttackMoves = "right swing" }},
		{"$.techniques[3].stages[1].attached", func(c *Curriculum) {
			c.technique("wheel").Stages[1] = Stage{RungID: "orange", Does: Attaches, Attached: "gone"}
		}},
		{"$.techniques[4].entries[1].steps[1].moves", func(c *Curriculum) {
			c.technique("lock").Entries = []Entry{{Name: "One"}, {Name: "Two", Steps: []Step{{Moves: "lead jab"}, {Moves: "lead jap"}}}}
		}},
		{"$.program.tracks[1].id", func(c *Curriculum) { c.Program.Tracks[1].ID = "cubs" }},
		{"$.program.sample_groups[0].id", func(c *Curriculum) { c.Program.Groups[0].ID = "" }},
		{"$.requirements[0].id", func(c *Curriculum) { c.Requirements[0].ID = strings.Repeat("a", 65) }},
		{"$.requirements[1].rung", func(c *Curriculum) { c.Requirements[len(c.Requirements)-1].RungID = "gone" }},
		{"$.requirements[0].section", func(c *Curriculum) { c.Requirements[0].SectionID = "gone" }},
		{"$.requirements[0].carry.group", func(c *Curriculum) { c.Requirements[0].Carry = Carry{Kind: Sample, Group: "gone"} }},
		{"$.requirements[0].carry.rung", func(c *Curriculum) { c.Requirements[0].Carry = Carry{Kind: Until, Rung: "gone"} }},
		{"$.requirements[0].weight", func(c *Curriculum) { c.Requirements[0].Weight = 0 }},
		{"$.rungs[1].kind", func(c *Curriculum) { c.Rungs[1].Kind = "odd" }},
		{"$.rungs[1].section_stripes[0].section", func(c *Curriculum) { c.Rungs[1].Stripes = []SectionStripe{{SectionID: "gone", Colour: "#ffffff"}} }},
		{"$.rungs[1].rules[1].track", func(c *Curriculum) {
			c.Rungs[1].Rules = []Rule{{Kind: KitOwned, Amount: 1, TrackID: "cubs"}, {Kind: KitOwned, Amount: 1, TrackID: "gone"}}
		}},
		{"$.sections[2].name", func(c *Curriculum) { c.Sections[2].Name = "" }},
	} {
		found := ladder(t, sound, soundly, x.change).Validate()
		want := x.path
		if strings.HasSuffix(want, "].rung") && strings.HasPrefix(want, "$.requirements") {
			want = "].rung" // lines stand in the order of their rungs
		}
		assert.True(t, slices.ContainsFunc(found, func(i Invalid) bool { return strings.HasSuffix(i.Path, want) }), "%s: %v", x.path, found)
		assert.Len(t, found, 1, "%s: %v", x.path, found)
	}
	assert.Empty(t, ladder(t, sound, soundly, func(c *Curriculum) {
		c.Requirements[0].ID = strings.Repeat("a", 64)
		c.Techniques[0].Aliases = []string{"Poke"}
		c.Requirements[0].Carry = Carry{Kind: Until, Rung: "white"}
	}).Validate(), "a line may end where it stands")
	b := ladder(t, sound, soundly)
	circle := *b.Technique("knee")
	circle.BuildsOn = []string{"hop-knee"}
	assert.Contains(t, b.CheckTechnique(circle).Of("builds_on"), "circle")
	circle.BuildsOn = []string{"jab", "gone"}
	assert.Equal(t, `"gone" is no technique of this program`, b.CheckTechnique(circle).Of("builds_on"))
	wrong := *b.Technique("wheel")
	wrong.Stages = slices.Clone(wrong.Stages)
	wrong.Stages[1].Steps = []Step{{Moves: "lead jab"}, {Moves: "lead jap"}}
	assert.Contains(t, b.CheckTechnique(wrong).Of("stage_1"), "step 2, column 6")
	wrong.Stages[1] = Stage{Does: ReplacesTail, RungID: "orange", From: 9, Steps: []Step{{Moves: "lead jab"}}}
	assert.Equal(t, "is 9, but the stages before have only 1 steps", b.CheckTechnique(wrong).Of("stage_1"))
	r := b.Requirements[0]
	r.Carry, r.Tracks = Carry{Kind: Sample, Group: "gone"}, []TrackChange{{TrackID: "cubs"}, {TrackID: "gone"}}
	assert.Equal(t, []string{`"gone" is no sample group of this program`, `"gone" is no track of this program`}, []string{b.CheckCarry(r).Of("carry"), b.CheckCarry(r).Of("tracks")})
}

// TestNamesGoAlong: where a technique is called otherwise, lines that name it are written anew,
// and only those.
func TestNamesGoAlong(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.Techniques = append(c.Techniques,
			Technique{ID: "user", Name: "User", Kind: "self_defence", Note: "lead cross", TechniqueDetails: TechniqueDetails{AttackMoves: "right jab", Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"lead jab in horse stance", "Wait."})}}, Entries: []Entry{{Name: "Way", Steps: ParseSteps([]string{"rear jab"})}}}},
			Technique{ID: "starter", Name: "Starter", Kind: "combination", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"from horse stance: left cross"})}}}})
	})
	lines := func(id, name string, aliases ...string) map[string]string {
		x := *b.Technique(id)
		x.Name, x.Aliases = name, aliases
		out := map[string]string{}
		for _, y := range b.Renamed(x) {
			if y.ID != "user" && y.ID != "starter" {
				continue
			}
			for _, s := range y.StepsAt(9) {
				out[y.ID] += s.Moves + "; "
			}
			for _, e := range y.Entries {
				out[y.ID] += e.Steps[0].Moves + "; "
			}
			out[y.ID] += y.AttackMoves + "; " + y.Note
		}
		return out
	}
	assert.Equal(t, map[string]string{"user": "lead Poke in Millstone stance; Wait.; rear Poke; right Poke; lead cross"}, lines("jab", "Poke"))
	assert.Equal(t, map[string]string{"user": "lead jab in horse stance; Wait.; rear jab; right jab; lead Thrust"}, map[string]string{"user": lines("cross", "Thrust")["user"]})
	assert.Empty(t, lines("jab", "Poke", "jab"), "the old name is an alias now")
	horse := b.Named("Horse stance")
	require.NotNil(t, horse)
	moved := lines(horse.ID, "Bench stance")
	assert.Contains(t, moved["user"], "Bench stance")
	assert.Contains(t, moved["starter"], "from Bench stance")
	x := *b.Technique("jab")
	assert.Empty(t, b.Renamed(x))
	x.ID = "new"
	assert.Empty(t, b.Renamed(x))
}

// TestAlikeInEveryRespect: amounts of another measure, side or pace are not alike.
func TestAlikeInEveryRespect(t *testing.T) {
	base := Line{Quantity: Quantity{Measure: RepsPerSide, Reps: 5}}
	shown := base.Demand()
	assert.True(t, shown.alike(&base))
	for what, change := range map[string]func(*Line){
		"measure": func(l *Line) { l.Quantity.Measure = RepsInAll }, "side": func(l *Line) { l.Quantity.Side = "left" }, "pace": func(l *Line) { l.Slow = true }, "non-stop": func(l *Line) { l.NonStop = true },
	} {
		other := base
		change(&other)
		assert.False(t, shown.alike(&other), what)
	}
}

// TestNamesThatJoin several: by a sign always, by "and" where each part says what it is.
func TestNamesThatJoin(t *testing.T) {
	b := Open(Curriculum{Techniques: []Technique{{ID: "j", Name: "Jab", Kind: "strike"}}})
	for name, want := range map[string]bool{
		"Jab": false, "Jab & hook": true, "Reed + Crane": true, "Reed/Crane": true, "Reed /": false, "Jab and low kick": true, "Reed and Crane": false, "Jab and Crane": false, "Reed and low kick": false,
	} {
		assert.Equal(t, want, b.joined(name), name)
	}
}

// TestWhatWasDrawnIsDrawnAgain: at a retest the questions asked before come first, whatever the seed; where some are gone
// the rest is drawn.
func TestWhatWasDrawnIsDrawnAgain(t *testing.T) {
	page := "White\n\tKnowledge"
	for n := range 12 {
		page += fmt.Sprintf("\n\tAsked %c, once, from Pool", 'A'+n)
	}
	b := ladder(t, page)
	ids := func(s TestSheet) (out []string) {
		for _, l := range s.Lines {
			out = append(out, l.RequirementID)
		}
		slices.Sort(out)
		return out
	}
	first := ids(b.Compile(Asking{RungID: "white", Seed: 7, Candidate: "a"}))
	changed := 0
	for seed := range uint64(20) {
		fresh := ids(b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b"}))
		if !slices.Equal(fresh, first) {
			changed++
		}
		again := b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b", Kept: append([]string{"gone"}, first...)})
		require.Equal(t, first, ids(again))
		assert.Contains(t, kinds(again.Lines[0].Why), WhyKept)
		one := ids(b.Compile(Asking{RungID: "white", Seed: seed, Candidate: "b", Kept: first[:1]}))
		require.Len(t, one, 2)
		require.Contains(t, one, first[0])
	}
	assert.Greater(t, changed, 10, "else this shows nothing")
}

// TestDrawsForOneCandidate: questions are drawn for each candidate, what is done together for all.
func TestDrawsForOneCandidate(t *testing.T) {
	drawn := func(section, candidate string) string {
		page := "White\n\t" + section
		for n := range 12 {
			page += fmt.Sprintf("\n\tAsked %c, once, from Pool", 'A'+n)
		}
		var out []string
		for _, l := range ladder(t, page).Compile(Asking{RungID: "white", Seed: 7, Candidate: candidate}).Lines {
			out = append(out, l.Call)
		}
		require.Len(t, out, 2)
		return strings.Join(out, ", ")
	}
	differ := func(section string) bool {
		first := drawn(section, "a")
		return slices.ContainsFunc([]string{"b", "c", "d", "e"}, func(c string) bool { return drawn(section, c) != first })
	}
	assert.True(t, differ("Knowledge"))
	assert.False(t, differ("Forms"), "what is shown together is drawn once")
}

// TestCuesOfVariants: a technique's own cue words come first, a variant without any has those of its base.
func TestCuesOfVariants(t *testing.T) {
	b := school(func(c *Curriculum) {
		c.technique("jab").Cues = []string{"snap"}
		c.Techniques = append(c.Techniques, Technique{ID: "high jab", Name: "High jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"jumping"}, BuildsOn: []string{"jab"}}},
			Technique{ID: "low jab", Name: "Low jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Modifiers: []Modifier{"stepping"}, BuildsOn: []string{"jab"}, Cues: []string{"sink"}}})
	})
	assert.Equal(t, [][]string{{"snap"}, {"snap"}, {"sink"}}, [][]string{b.Cues(b.Technique("jab")), b.Cues(b.Technique("high jab")), b.Cues(b.Technique("low jab"))})
}

// TestCardsInMoves: a remark in moves is what a card says; words are none.
func TestCardsInMoves(t *testing.T) {
	for note, want := range map[string]int{"": 0, "lead jab, rear cross": 1, "with care.": 0, "nobody knows": 0, "lead jab, with care.": 0} {
		b := school(func(c *Curriculum) { c.technique("jab").Note = note })
		assert.Len(t, b.noted(b.Technique("jab")), want, note)
	}
}
