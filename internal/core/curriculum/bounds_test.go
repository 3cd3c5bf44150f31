package curriculum_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/check"
	. "velvetladder/internal/core/curriculum"
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
		"stage_cap": {MaxStages, func(r *Requirement, n int) { r.StageCap = n }}, "at_once": {50, func(r *Requirement, n int) { r.AtOnce = n }}, "looks": {9, func(r *Requirement, n int) { r.Looks = n }},
		"sprint": {600, func(r *Requirement, n int) { r.Sprint = n }}, "tracks": {MaxStages, func(r *Requirement, n int) { r.Tracks = []TrackChange{{TrackID: "a", StageCap: n}} }},
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
	holds(t, "stages", []number{MaxStages}, []number{MaxStages + 1}, func(n number) check.Problems { return card(func(c *Technique) { c.Stages = make([]Stage, n) }) })
	holds(t, "entries", []number{MaxEntries}, []number{MaxEntries + 1}, func(n number) check.Problems {
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
		"strike": "straight punch, lunge punch, hook, uppercut, back fist, hammer fist, elbow, knee, head butt, chop, slap, push, ", "kick": "front kick, round kick, side kick, push kick, low kick, axe kick, hook kick, back kick, ",
		"grab": "wrist grab, two-hand wrist grab, shoulder grab, two-hand shoulder grab, lapel grab, two-hand lapel grab, sleeve grab, arm grab, belt grab, hug, leg grab, hair grab, ", "choke": "front choke, rear choke, side choke, full nelson, headlock, ", "lock": "arm lock, ", "tackle": "tackle, ",
		"weapon": "club, stick, knife overhead, knife thrust, knife slash, gun, ", "ground": "ground mounted, ground face down, ",
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
		CheckRules(&p, r)
		return p
	}
	assert.Empty(t, rules(Rule{Kind: ClassesSince, Amount: 1, Of: "sparring", Modes: string(timetable.Recorded)}, Rule{Kind: ClassesSince, Amount: 1}, Rule{Kind: ClassesSince, Amount: 1, TrackID: "cubs"}))
	for _, wrong := range [][]Rule{{{Kind: ClassShare, Amount: 1, Of: "sparring"}}, {{Kind: "luck"}}, {{Kind: ClassesSince, Amount: 1, Modes: "asleep"}}, {{Kind: KitOwned, Amount: 1}, {Kind: KitOwned, Amount: 1}}, {{Kind: ClassesSince, Amount: 1, Of: "A"}, {Kind: ClassesSince, Amount: 2, Of: "a"}}, {{Kind: ClassesSince, Amount: 1, Of: long(check.NameLength)}}} {
		assert.NotEmpty(t, rules(wrong...), wrong)
	}
	assert.Equal(t, []bool{true, false, true, false}, []bool{Rule{}.Counts(timetable.Live), Rule{}.Counts(timetable.Recorded), Rule{Modes: "recorded"}.Counts(timetable.Recorded), Rule{Modes: "recorded"}.Counts(timetable.Hall)})
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
		{"$.techniques[3].branches[1].technique", func(c *Curriculum) { technique(c, "wheel").Branches[1].TechniqueID = "gone" }},
		{"$.techniques[3].attack_moves", func(c *Curriculum) { technique(c, "wheel").AttackMoves = "right swing" }},
		{"$.techniques[3].stages[1].attached", func(c *Curriculum) {
			technique(c, "wheel").Stages[1] = Stage{RungID: "orange", Does: Attaches, Attached: "gone"}
		}},
		{"$.techniques[4].entries[1].steps[1].moves", func(c *Curriculum) {
			technique(c, "lock").Entries = []Entry{{Name: "One"}, {Name: "Two", Steps: []Step{{Moves: "lead jab"}, {Moves: "lead jap"}}}}
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

// TestLooksOfMarks: each mark once, the lowest first, and each says what it looks like.
func TestLooksOfMarks(t *testing.T) {
	looks := func(rows ...MarkLook) int {
		var p check.Problems
		CheckLooks(&p, rows)
		return len(p)
	}
	one, two := MarkLook{scoring.Whole(1), "a step"}, MarkLook{scoring.Whole(2), "a slide"}
	assert.Equal(t, []int{0, 0, 0, 1, 1, 1}, []int{looks(), looks(one), looks(one, two), looks(two, one), looks(one, one), looks(MarkLook{scoring.Whole(3), ""})})
}

// TestWhatOneCurriculumHolds: each sort of record has a bound of its own.
func TestWhatOneCurriculumHolds(t *testing.T) {
	holds := func(rungs, techniques, requirements int) bool {
		c := Curriculum{Rungs: make([]Rung, rungs), Techniques: make([]Technique, techniques), Requirements: make([]Requirement, requirements)}
		found := c.Validate()
		return len(found) == 1 && strings.HasPrefix(found[0].Text, "holds ")
	}
	assert.Equal(t, []bool{true, true, true, false}, []bool{holds(201, 0, 0), holds(0, 20_001, 0), holds(0, 0, 50_001), holds(200, 1, 1)})
}
