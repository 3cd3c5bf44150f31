package practice

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// ferry is a small book: a kick with drills, its variant, and a defence.
func ferry() *curriculum.Book {
	return curriculum.Open(curriculum.Curriculum{
		Program:  curriculum.Program{ID: "p", ProgramDetails: curriculum.ProgramDetails{Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 6, Young: true}, {ID: "adults", Name: "Adults", From: 13}}}},
		Sections: []curriculum.Section{{ID: "d", Name: "Defences"}, {ID: "k", Name: "Kicks"}},
		Techniques: []curriculum.Technique{
			{ID: "reed", Name: "Reed kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Family: "Front kicks", Targets: []string{"ribs"}, Cues: []string{"knee first"},
				Drills: []curriculum.Drill{{Name: "Wall"}, {Name: "Cone", How: "over a cone"}, {Name: "Rope", From: "adults"}}}},
			{ID: "leap", Name: "Leaping reed kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Modifiers: []curriculum.Modifier{"jumping"}, BuildsOn: []string{"reed"}}},
			{ID: "oars", Name: "Two Oars", Kind: "self_defence"},
		},
	})
}

func item(technique string, kind curriculum.Kind, change func(*progress.Item)) progress.Item {
	section := map[string]string{"kick": "k", "self_defence": "d"}[string(kind)]
	it := progress.Item{Line: curriculum.Line{TechniqueID: technique, Call: technique, Kind: kind, Role: "performer", Section: map[string]string{"k": "Kicks", "d": "Defences"}[section]}, SectionID: section, Counts: true}
	if change != nil {
		change(&it)
	}
	return it
}

// TestTopics: what each needs, why, and how much; both roles as one; the way in by how far they are.
func TestTopics(t *testing.T) {
	b := ferry()
	attacker := func(it *progress.Item) { it.Role, it.Cautions = "attacker", []string{"slowly"} }
	defender := func(it *progress.Item) { it.Role, it.MustPass = "defender", true }
	ann := Present{Student: "ann", Name: "Ann", Rung: "Green", Track: "adults", Chance: 1000, Book: b, Near: true, Items: []progress.Item{item("reed", "kick", nil), item("oars", "self_defence", attacker), item("oars", "self_defence", defender)}}
	ben := Present{Student: "ben", Name: "Ben", Rung: "Green", Track: "cubs", Chance: 500, Book: b, Items: []progress.Item{
		item("reed", "kick", func(it *progress.Item) { it.NotYet = tuesday.AddDays(-9) }),
		item("leap", "kick", func(it *progress.Item) {
			it.Done, it.Freshness, it.Seen = true, curriculum.Carried, tuesday.AddDays(-progress.StaleDays)
		}),
		item("gone", "kick", nil)}}
	topics := Topics([]Present{ann, ben}, map[string]civil.Date{"oars": tuesday.AddDays(-3)}, tuesday)
	require.Len(t, topics, 3)
	reed, oars, leap := topics[0], topics[1], topics[2]
	assert.Equal(t, []Served{{"ann", "Ann", "Green", (needOpen + needNear) * 1000, 1000, []Reason{{Kind: NotSigned}}, false}, {"ben", "Ben", "Green", (needOpen + needNotYet) * 500, 500, []Reason{{Kind: NotRight}}, false}}, reed.Serves)
	assert.Equal(t, "Wall", reed.Drill, "one begins and one tries: the lower of the two, on the track of the youngest")
	assert.Equal(t, []string{"knee first"}, reed.Cues)
	assert.Equal(t, []any{1, 6, "reed"}, []any{reed.Place, reed.Minutes, reed.Name}, "the call, where only one is asked")
	assert.Equal(t, BothRoles, oars.Roles)
	hold := func(it *progress.Item) { it.Role = "holder" }
	held := func(items ...progress.Item) RolesAsked {
		return Topics([]Present{{Student: "ann", Name: "Ann", Chance: 1000, Book: b, Items: items}}, nil, tuesday)[0].Roles
	}
	assert.Equal(t, []RolesAsked{StrikeAndHold, held(item("reed", "kick", nil))}, []RolesAsked{held(item("reed", "kick", nil), item("reed", "kick", hold)), held(item("reed", "kick", hold))}, "holding alone is one thing")
	assert.Equal(t, 12, oars.Minutes)
	assert.Equal(t, []string{"slowly"}, oars.Cautions)
	assert.Equal(t, []Served{{"ann", "Ann", "Green", (2*needOpen + needMustPass + 2*needNear) * 1000, 1000, []Reason{{Kind: NotSigned}, {Kind: MustPass}}, false}}, oars.Serves)
	assert.Equal(t, tuesday.AddDays(-3), oars.Taught)
	assert.Equal(t, []any{[]Served{{"ben", "Ben", "Green", needStale * 500, 500, []Reason{{Kind: NotSeen, Weeks: 12}}, false}}, "Cone: over a cone", []string{"knee first"}}, []any{leap.Serves, leap.Drill, leap.Cues}, "done: the last of those that suit the track, of its base")

	// Only tries, and only who knows.
	ann.Items[0].Left = true
	topics = Topics([]Present{ann}, nil, tuesday)
	assert.Equal(t, "Cone: over a cone", topics[0].Drill)
	ann.Theme = Theme{Words: "ribs"}
	ann.Items[0].Done = true
	topics = Topics([]Present{ann}, nil, tuesday)
	assert.Equal(t, []any{"Rope", true, []Served{{"ann", "Ann", "Green", needTheme * 1000, 1000, []Reason{{Kind: OfTheTheme}}, false}}}, []any{topics[0].Drill, topics[0].Themed, topics[0].Serves})

	ann.Theme, ann.For = Theme{}, "Friday kicks, General"
	topics = Topics([]Present{ann}, nil, tuesday)
	assert.Equal(t, []any{false, true, []Reason{{Kind: OfTheClass}}}, []any{topics[0].Themed, topics[0].For, topics[0].Serves[0].Why}, "what is known is done where the class is for it")
	ann.For = ""

	// Missed: little by itself, first where it is made up for.
	ben.Items = ben.Items[:2]
	ben.Missed = map[string]civil.Date{"reed": tuesday.AddDays(-7), "leap": tuesday.AddDays(-7)}
	topics = Topics([]Present{ben}, nil, tuesday)
	assert.Equal(t, Served{"ben", "Ben", "Green", (needOpen + needNotYet + needMissed) * 500, 500, []Reason{{Kind: NotRight}, {Kind: WasAway, On: civil.MustParse("2026-11-17")}}, true}, topics[0].Serves[0])
	ben.Items[1].Seen = tuesday
	ben.MakeUp = true
	topics = Topics([]Present{ben}, nil, tuesday)
	assert.Equal(t, Served{"ben", "Ben", "Green", needMakeUp * 500, 500, []Reason{{Kind: WasAway, On: civil.MustParse("2026-11-17")}}, true}, topics[1].Serves[0])
	ben.MakeUp = false
	assert.Equal(t, needStale*500, Topics([]Present{ben}, nil, tuesday)[1].Serves[0].Worth)
}

// TestThemes: sections, and words found in what a technique is.
func TestThemes(t *testing.T) {
	b := ferry()
	for words, want := range map[string]string{
		"": "", "kicks": "reed leap", "Kick": "reed leap", "jumping": "leap", "ribs and throws": "reed", "front kick": "reed", "defence": "oars", "two oars, ribs": "reed oars",
		"oar": "oars", "ree": "", "low stances": "", "self-defence technique": "oars", "kick reed": "", "front kicks/oars": "reed oars", "& , ;": "", "kicking": "reed leap", "jump kicks": "", "jumps": "leap", "leap": "leap",
	} {
		got := ""
		for i := range b.Techniques {
			x := &b.Techniques[i]
			section := b.Sections[0]
			if x.Kind == "kick" {
				section = b.Sections[1]
			}
			if (Theme{Words: words}).Has(x, section.ID, section.Name, "") {
				got += " " + x.ID
			}
		}
		if got != "" {
			got = got[1:]
		}
		assert.Equal(t, want, got, words)
	}
	assert.True(t, Theme{Sections: []string{"d"}}.Has(&b.Techniques[2], "d", "Defences", ""))
	assert.False(t, Theme{Sections: []string{"d"}}.Has(&b.Techniques[0], "k", "Kicks", ""))
}

// TestThemesInOtherWords: a theme is found by any form of a word, by what its section is usually called, by the attack and by the setting.
func TestThemesInOtherWords(t *testing.T) {
	of := func(name string, kind curriculum.Kind, attack curriculum.AttackKind) *curriculum.Technique {
		x := &curriculum.Technique{Name: name, Kind: kind}
		if attack != "" {
			x.Attack = []curriculum.AttackElement{{Kind: attack}}
		}
		return x
	}
	for _, x := range []struct {
		words   string
		of      *curriculum.Technique
		setting curriculum.Setting
		want    bool
	}{
		{"throwing", of("Great reap", "throw", ""), "", true}, {"throwing", of("Great reap", "lock", ""), "", false},
		{"punches", of("Front punch", "strike", ""), "", true}, {"punching", of("Jab", "strike", ""), "", true}, {"striking", of("Hammer strike", "block", ""), "", true},
		{"kumite", of("Rounds", "sparring", ""), "", true}, {"katas", of("Long Heron", "form", ""), "", true}, {"sparring", of("Spar with the eldest", "fitness", ""), "", true},
		{"chokes", of("Bowing Reed", "self_defence", "rear choke"), "", true}, {"chokes", of("Bowing Reed", "self_defence", "push"), "", false},
		{"pads", of("Jab", "strike", ""), "pads", true}, {"pads", of("Jab", "strike", ""), "bag", false},
		{"strings", of("Two string", "form", ""), "", true}, {"crosses", of("Cross", "strike", ""), "", true}, {"knees", of("Lifted knee", "balance", ""), "", true},
	} {
		assert.Equal(t, x.want, Theme{Words: x.words}.Has(x.of, "", "", x.setting), "%s: %s", x.words, x.of.Name)
	}
	assert.Equal(t, []string{"string", "roll", "pass", "spar", "box", "swing"}, stems("strings rolling passing sparring boxes swinging"))
}

// TestAThemeThatStandsAside: what belongs to the theme, and is not on the plan for want of people or of a hall, is named.
func TestAThemeThatStandsAside(t *testing.T) {
	p := Plan{Unsure: []Topic{{ID: "a", Themed: true}, {ID: "b"}}, Cannot: []Topic{{ID: "c"}, {ID: "d", Themed: true}, {ID: "e", Themed: true}}}
	ids := func(topics []Topic) (out []string) {
		for _, x := range topics {
			out = append(out, x.ID)
		}
		return out
	}
	assert.Equal(t, [][]string{{"a"}, {"d", "e"}, nil}, [][]string{ids(p.OfThemeUnsure()), ids(p.OfThemeCannot()), ids(Plan{}.OfThemeUnsure())})
}

// TestRoundsTakeTheirTime: in a class that is for sparring it takes twice its minutes; nothing else does.
func TestRoundsTakeTheirTime(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "s", Name: "Bouts"}}, Techniques: []curriculum.Technique{{ID: "a", Name: "Rounds", Kind: "sparring"}, {ID: "b", Name: "Three steps", Kind: "partner_set"}, {ID: "c", Name: "Open gate", Kind: "form"}}})
	p := Present{Student: "ann", Chance: 1000, Book: b}
	for _, x := range b.Techniques {
		p.Items = append(p.Items, progress.Item{Line: curriculum.Line{TechniqueID: x.ID, Kind: x.Kind, Section: "Bouts", Role: "performer"}, Counts: true})
	}
	for class, want := range map[string][]int{"Bouts, General": {20, 20, 10}, "Evening, General": {10, 10, 10}} {
		p.For = class
		var got []int
		for _, x := range Topics([]Present{p}, nil, tuesday) {
			got = append(got, x.Minutes)
		}
		assert.Equal(t, want, got, class)
	}
}

// TestWhatAClassIsFor: a class may be for one section or one kind of technique, by its name or its kind.
func TestWhatAClassIsFor(t *testing.T) {
	sparring, form := &curriculum.Technique{Name: "Rounds", Kind: "sparring"}, &curriculum.Technique{Name: "Open gate", Kind: "form"}
	for _, x := range []struct {
		class   string
		of      *curriculum.Technique
		section string
		want    bool
	}{
		{"Kenpo sparring, Sparring", sparring, "Bouts", true}, {"Friday, Bouts", sparring, "Bouts", true}, {"Sparring, ", form, "Forms", false}, {"Forms in the loft, General", form, "Patterns", true}, {"Pattern night, General", form, "Patterns", true},
		{"Open mat, General", form, "Forms", false}, {"Cubs and juniors, General", form, "Forms", false}, {"Self-defence, ", &curriculum.Technique{Kind: "self_defence"}, "Answers", true}, {"", sparring, "Sparring", false},
	} {
		assert.Equal(t, x.want, isFor(x.class, x.of, x.section), "%v", x)
	}
}

// TestHowAClassIsHeld: what can be done live, recorded or without partners, how, and at what worth.
func TestHowAClassIsHeld(t *testing.T) {
	for _, x := range []struct {
		kind                   curriculum.Kind
		role                   curriculum.Role
		setting                curriculum.Setting
		live, unpaired         int
		liveSaid, unpairedSaid As
	}{
		{"kick", "performer", "air", 100, 100, "", ""},
		{"form", "performer", "", 100, 100, "", ""},
		{"kick", "performer", "pads", 50, 50, InAir, InAir},
		{"kick", "performer", "bag", 50, 100, WithoutBag, ""},
		{"kick", "performer", "partner", 50, 50, StepsAlone, StepsAlone},
		{"kick", "holder", "pads", 0, 0, "", ""},
		{"self_defence", "defender", "", 50, 50, StepsAlone, StepsAlone},
		{"self_defence", "attacker", "", 50, 50, StepsAlone, StepsAlone},
		{"lock", "performer", "", 0, 0, "", ""}, {"throw", "performer", "", 0, 0, "", ""}, {"sparring", "performer", "", 0, 0, "", ""}, {"partner_set", "performer", "", 0, 0, "", ""},
		{"board_break", "performer", "boards", 0, 0, "", ""}, {"kick", "performer", "boards", 0, 0, "", ""},
		{"breakfall", "performer", "", 0, 100, "", ""},
		{"knowledge", "performer", "", 100, 100, "", ""},
	} {
		topic := Topic{Kind: x.kind, Needs: needsOf(x.kind, x.role, x.setting)}
		for how, want := range map[How]int{InHall: 100, "": 100, Live: x.live, Recorded: x.live, Unpaired: x.unpaired} {
			part, said := how.of(&topic)
			assert.Equal(t, want, part, "%s as %s on %s, %s", x.kind, x.role, x.setting, how)
			assert.Equal(t, map[How]As{Live: x.liveSaid, Recorded: x.liveSaid, Unpaired: x.unpairedSaid}[how], said)
			assert.Equal(t, part == 0, how.cannot(&topic))
		}
	}
	both := Topic{Kind: "kick", Needs: needsOf("kick", "performer", "air").and(needsOf("kick", "holder", "pads"))}
	part, said := Live.of(&both)
	assert.Equal(t, []any{imagined, InAir}, []any{part, said}, "one of the two can be done")
	two := Topic{Kind: "self_defence", Needs: needsOf("kick", "performer", "air").and(needsOf("kick", "performer", "partner"))}
	_, said = Live.of(&two)
	assert.Equal(t, AlonePart, said)

	// The way in is one for which there is what it takes.
	b := ferry()
	reed := b.Technique("reed")
	reed.Drills = []curriculum.Drill{{Name: "Shield", With: "pads"}, {Name: "Rope", With: "partner"}, {Name: "Post", With: "bag"}, {Name: "Wall"}}
	ways := Topics([]Present{{Student: "ann", Name: "Ann", Chance: 1000, Book: b, Items: []progress.Item{item("reed", "kick", nil)}}}, nil, tuesday)
	for how, want := range map[How]string{"": "Shield, on pads", InHall: "Shield, on pads", Unpaired: "Post, on the bag", Live: "Wall", Recorded: "Wall"} {
		p := MakePlan(ways, Tonight{Minutes: 30, On: tuesday, How: how})
		assert.Equal(t, want, p.Blocks[1].Drill, how)
	}
	reed.Drills = reed.Drills[:1]
	home := MakePlan(Topics([]Present{{Student: "ann", Name: "Ann", Chance: 1000, Book: b, Items: []progress.Item{item("reed", "kick", nil)}}}, nil, tuesday), Tonight{Minutes: 30, On: tuesday, How: Live})
	assert.Empty(t, home.Blocks[1].Drill, "none that can be done there")

	serves := []Served{{Student: "a", Name: "Ann", Worth: 1000}, {Student: "b", Name: "Ben", Worth: 1000}}
	topics := []Topic{{ID: "lock", Name: "Lock", Minutes: 8, Serves: serves, Kind: "lock", Needs: needsOf("lock", "performer", "")}, {ID: "oars", Name: "Oars", Minutes: 8, Serves: serves, Kind: "self_defence", Needs: needsOf("self_defence", "defender", "")},
		{ID: "reed", Name: "Reed", Minutes: 8, Serves: serves[:1], Kind: "kick", Needs: needsOf("kick", "performer", "air")}}
	p := MakePlan(topics, Tonight{Minutes: 30, On: tuesday, How: Live})
	require.Len(t, p.Cannot, 1)
	assert.Equal(t, "Lock", p.Cannot[0].Name)
	assert.Equal(t, 1000+1000*8/10, p.Worth, "half of two, and one whole, of one section")
	for _, block := range p.Blocks {
		assert.Empty(t, block.Meanwhile, "nobody leads a group at home")
		assert.Equal(t, block.ID == "oars", block.As != "", block.Name)
	}
	assert.Equal(t, []curriculum.Far{0, 0, 1, 1, 2}, []curriculum.Far{median(nil), median([]curriculum.Far{1, 0}), median([]curriculum.Far{2, 1, 0}), median([]curriculum.Far{2, 1}), median([]curriculum.Far{2})})
}

// TestNobodyIsSurer: where nobody is likelier to come than another, as in a class without history, everything is chosen from, and what does not fit
// is what would come next.
func TestNobodyIsSurer(t *testing.T) {
	var topics []Topic
	for i, section := range []string{"Stances", "Stances", "Stances", "Kicks", "Kicks", "Forms", "Sparring", "Fitness"} {
		x := Topic{ID: fmt.Sprint("t", i), Name: fmt.Sprint("Topic ", i), Section: section, Place: i, Minutes: 10}
		for _, s := range []string{"a", "b"} {
			x.Serves = append(x.Serves, Served{Student: s, Name: s, Worth: 500, Chance: 400})
		}
		topics = append(topics, x)
	}
	topics[0].Serves = topics[0].Serves[:1] // nor is it who is more
	p := MakePlan(topics, Tonight{Minutes: 60, On: tuesday, Unheard: true})
	sections := map[string]bool{}
	for _, b := range p.Blocks {
		if b.ID != "" {
			assert.False(t, sections[b.Section], "%s twice, and others not at all", b.Section)
			sections[b.Section] = true
		}
	}
	assert.Len(t, sections, 5)
	assert.Empty(t, p.Unsure)
	assert.Len(t, p.Next, 3)
}

// TestOnlyIfTheyCome: what serves nobody who all but surely comes is left aside, unless it is pinned or
// nothing else is there.
func TestOnlyIfTheyCome(t *testing.T) {
	who := func(chances ...int) (out []Served) {
		for i, c := range chances {
			out = append(out, Served{Student: string(rune('a' + i)), Worth: 1000, Chance: c})
		}
		return out
	}
	for _, x := range []struct {
		chances []int
		none    int
	}{{nil, 1e6}, {[]int{0}, 0}, {[]int{1000}, 0}, {[]int{949}, 51_000}, {[]int{500, 500, 500, 500}, 62_500}, {[]int{800, 750}, 50_000}, {[]int{500, 0}, 0}} {
		assert.Equal(t, x.none, (&Topic{Serves: who(x.chances...)}).none(), x.chances)
	}
	topics := []Topic{{ID: "a", Minutes: 5, Serves: who(600)}, {ID: "b", Minutes: 20, Serves: who(950)}, {ID: "c", Minutes: 20, Serves: who(949)}, {ID: "d", Minutes: 20, Serves: who(950)}}
	ids := func(all []Topic) (out string) {
		for _, x := range all {
			out += x.ID
		}
		return out
	}
	for _, x := range []struct {
		minutes, pin int
		pool, unsure string
	}{{40, 0, "bd", "ca"}, {50, 0, "bdc", "a"}, {75, 0, "bdca", ""}, {40, 1, "bda", "c"}} {
		n := Tonight{Minutes: x.minutes, On: tuesday, Pinned: map[string]bool{"a": x.pin > 0}}
		pool, unsure := n.surest(slices.Clone(topics))
		assert.Equal(t, []string{x.pool, x.unsure}, []string{ids(pool), ids(unsure)}, x)
		assert.Equal(t, x.unsure, ids(MakePlan(topics, n).Unsure))
	}
}
