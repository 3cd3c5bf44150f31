package binder_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
	"velvetladder/internal/laddertest"
)

func TestPages(t *testing.T) {
	b := binder.For(laddertest.Ladder(t, laddertest.Sound, laddertest.Soundly))
	lines := b.ParsePage("Kicks:\nKnee, 2 x 60 s, 30 s rest, must, weight 2, until orange, on pads (low first)\n\nNew kick, as holder, from pool, level mid, slowly, non-stop, supported, again, covers settings, bonus\nstrikes\nJab, 3 alternating, always, stage 2, marks 18=2 26=2.5, free choice, not for adults, 2 alternating for cubs, stage 1 for Cubs, level low for Cubs, bonus for cubs\nCombinations\nNew one, 4: lead new kick (a/b), rear jab / knee")
	require.Len(t, lines, 4)
	for _, l := range lines {
		require.Empty(t, l.Problem, l.Text)
	}
	c, err := b.AddPage("yellow", lines, func() func() string { n := 0; return func() string { n++; return fmt.Sprint("p", n) } }())
	require.NoError(t, err)
	assert.Empty(t, c.Validate())
	next := binder.Open(c)
	page := next.PageOf("yellow")
	for _, want := range []string{"Knee, 2 × 60 s, 30 s rest, must, weight 2, on pads, until Orange (low first)", "New kick, 5 a side, bonus, as holder, from Pool, covers settings, slowly, non-stop, supported, again, level mid", "Jab, 3 alternating, always, free choice, stage 2, marks 18=2 26=2.5, not for Adults, bonus for Cubs, stage 1 for Cubs, level low for Cubs, 2 alternating for Cubs"} {
		assert.Contains(t, page, want)
	}
	// A printed page is read as it was.
	again := next.ParsePage(page)
	asked := next.Asked("yellow")
	place := func(r curriculum.Requirement) int {
		return slices.IndexFunc(next.Sections, func(s curriculum.Section) bool { return s.ID == r.SectionID })
	}
	slices.SortStableFunc(asked, func(x, y curriculum.Requirement) int { return place(x) - place(y) })
	require.Len(t, again, len(asked))
	for i, l := range again {
		require.Empty(t, l.Problem)
		l.Requirement.ID, l.RungID = asked[i].ID, "yellow"
		asked[i].Position = 0
		assert.Equal(t, asked[i], l.Requirement)
	}
	for in, said := range map[string]string{
		"Dusty, 5 a side": `1:1 “Dusty” is new, so its section is not known`,
		"Jab, marks 18":   `1:6 "18" is not understood; after marks stand counts`, "Jab, marks 9=2 3=1": "1:1 table row 2: counts must rise",
		"Jab, weight x":                  "1:6 after weight stands a whole number",
		"Jab (open":                      "1:5 this remark is not closed",
		"Jab, must, bonus":               "1:1 bonus a bonus line cannot fail",
		", 5":                            "1:1 a technique's name",
		"Combination 1: lead jab":        "1:1 Combination 1 is known, with moves of its own",
		"Combinations\nX: rear jab, häm": `2:14 "häm" is not in the catalogue`,
		"Kicks\nX: jab\nX: rear jab":     "3:1 the moves of X stand in line 2",
	} {
		found := b.ParsePage(in)
		l := found[len(found)-1]
		assert.True(t, strings.HasPrefix(fmt.Sprintf("%d:%d %s", l.Number, l.Column, l.Problem), said), "%s: %d:%d %s", in, l.Number, l.Column, l.Problem)
	}
	for in, asks := range map[string]bool{"Jab, lots": false, "Jab, 5, until Mauve": true, "Jab, from Nowhere": true, "Jab, until": true, "Jab, from": true, "Jab, weight": true, "Jab, as": true, "Jab, marks": true, "Jab, not for Elders": true, "Jab, much for Cubs": true, "Jab, for balance": false, "Jab, 7 cm high": false, "Jab, 7 inside": true, "Jab, each partner": true} {
		l := b.ParsePage(in)[0]
		said := strings.TrimPrefix(strings.TrimPrefix(in, "Jab, "), "5, ")
		assert.Equal(t, []any{"", "Jab", said, asks}, []any{l.Problem, l.Name, l.Note, len(l.Doubts) > 0}, in)
	}
	assert.Len(t, b.ParsePage(strings.Repeat("Jab\n", binder.MaxPage+50)), binder.MaxPage+1)
	_, err = b.AddPage("yellow", b.ParsePage("Jab, weight x"), nil)
	assert.ErrorIs(t, err, binder.ErrPage)
}

func FuzzParsePage(f *testing.F) {
	golden.Alone(f)
	b := binder.For(laddertest.Ladder(f, laddertest.Sound, laddertest.Soundly))
	f.Add("Kicks\nKnee, 2 x 60 s, 30 s rest, must (x): lead jab")
	f.Add("Combinations\nX, 4 a side: lead jab / rear")
	for i, in := range binder.TypedPages(f) {
		if golden.Sample(i, 8) { // every page takes half a minute on a slow machine
			f.Add(in)
		}
	}
	f.Fuzz(func(t *testing.T, in string) {
		waits, wrong := false, false
		for _, l := range b.ParsePage(in) {
			waits, wrong = waits || l.Waits, wrong || l.Problem != ""
			switch {
			case l.Problem != "":
				require.Positive(t, l.Column)
			case l.Aside == "":
				require.Empty(t, l.Requirement.Check())
				require.NotEqual(t, l.Waits, l.SectionID != "", "its section is known, or waits")
			}
		}
		require.True(t, !waits || wrong, "what waits waits for what is asked")
	})
}

// TestSectionsCarryTheirKind: what is new stands where its section says, whatever it is called;
// a word on the line says otherwise, and what nobody says is asked.
func TestSectionsCarryTheirKind(t *testing.T) {
	for section, want := range map[string]curriculum.Kind{
		"Courtesy": "courtesy", "Stances": "stance", "Strikes": "strike", "Kicks": "kick", "Blocks": "block", "Evasions": "evasion", "Combinations": "combination", "Forms": "form", "Self-defence": "self_defence", "Sparring": "sparring", "Fitness": "fitness", "Knowledge": "knowledge", "Character": "character",
		"SELF DEFENSE": "self_defence", "self-defense techniques": "self_defence", "Punches": "strike", "hand techniques": "strike", "Kata": "form", "Board breaking": "board_break", "Throws": "throw", "Theory": "knowledge", "Conditioning": "fitness",
		"Basics": "", "Fundamentals": "", "Of the old school": "", "": "",
	} {
		assert.Equal(t, want, curriculum.UsualKind(section), section)
	}
	for word, want := range map[string]curriculum.Kind{"lock": "lock", "Hold": "lock", "lock or hold": "lock", "self-defence": "self_defence", "self defence": "self_defence", "Self-defence technique": "self_defence", "board break": "board_break", "takedown": "throw", "parry": "block", "sparring round": "sparring", "kicks": "", "must": "", "": ""} {
		assert.Equal(t, want, curriculum.KindNamed(word), word)
	}
	b := binder.Open(curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "P"}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}}, Techniques: []curriculum.Technique{{ID: "r", Name: "Reed fall", Kind: "breakfall"}, {ID: "k", Name: "Front kick", Kind: "kick"}},
		Sections: []curriculum.Section{{ID: "s", Name: "Round about", Kind: "sparring"}, {ID: "d", Name: "Set yourself free", Kind: "self_defence"}, {ID: "x", Name: "Bits and pieces"}}})
	read := func(page string) binder.PageLine { lines := b.ParsePage(page); return lines[len(lines)-1] }
	for page, want := range map[string][]any{
		"Round about\nLight rounds":                          {curriculum.Kind("sparring"), "s", "2 × 60 s, 30 s rest", ""},
		"Set yourself free\nReed grip":                       {curriculum.Kind("self_defence"), "d", "2 a side", ""},
		"Set yourself free\nReed grip, lock":                 {curriculum.Kind("lock"), "d", "3 a side", ""},
		"Set yourself free\nReed grip, 4 a side, choke hold": {curriculum.Kind("self_defence"), "d", "4 a side", ""},
		"Bits and pieces\nLong stick, strike":                {curriculum.Kind("strike"), "x", "5 a side", ""},
		"Bits and pieces\nLong stick":                        {curriculum.Kind(""), "x", "", "the section Bits and pieces does not say of which kind Long stick is; write it at the end of the line, for example [kind kick]"},
		"Reed fall":                                          {curriculum.Kind("breakfall"), "d", "5 times", ""},
		"Front kick":                                         {curriculum.Kind("kick"), "", "", "this program has no section for it"},
		"Bits and pieces\nFront kick, kick":                  {curriculum.Kind("kick"), "x", "5 a side", ""},
		"Bits and pieces\nFront kick, strike":                {curriculum.Kind("kick"), "x", "", "Front kick is known as a kick; change it on its page"},
	} {
		l := read(page)
		if want[3] == "" {
			assert.Equal(t, want, []any{l.Kind, l.SectionID, l.Quantity.String(), l.Problem}, page)
		} else {
			assert.Contains(t, l.Problem, want[3], page)
		}
	}
	for heading, want := range map[string]string{"Sparring": "Round about", "SPARRING:": "Round about", "Self Defense": "Set yourself free", "Self-defence techniques": "Set yourself free"} {
		lines := b.ParsePage(heading + "\nNew one, 4")
		assert.Len(t, lines, 1, heading)
		assert.Equal(t, want, lines[0].Section, heading)
	}
	punches := binder.Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "s", Name: "Hands", Kind: "strike"}}, Techniques: []curriculum.Technique{{ID: "p", Name: "Palms", Kind: "strike"}}})
	assert.Len(t, punches.ParsePage("Punches\nPunch\nPalms"), 2, "one punch is a technique, several are a heading, a known name is itself")
	twice := b.ParsePage("Bits and pieces\nLong stick, lock\nlong STICK\nShort stick\nShort stick, lock")
	assert.Equal(t, []curriculum.Kind{"lock", "lock"}, []curriculum.Kind{twice[0].Kind, twice[1].Kind}, "said once for the page")
	assert.Equal(t, []string{"3 a side", "3 a side", ""}, []string{twice[0].Quantity.String(), twice[1].Quantity.String(), twice[1].Problem})
	assert.NotEmpty(t, twice[2].Problem, "what comes first says it")
	assert.Empty(t, twice[3].Problem)
	n := 0
	made, err := b.AddPage("w", b.ParsePage("Round about\nLight rounds\nBits and pieces\nLong stick, strike, must"), func() string { n++; return fmt.Sprint("new", n) })
	assert.NoError(t, err)
	kinds := map[string]curriculum.Kind{}
	for _, x := range made.Techniques {
		kinds[x.Name] = x.Kind
	}
	assert.Equal(t, []curriculum.Kind{"sparring", "strike"}, []curriculum.Kind{kinds["Light rounds"], kinds["Long stick"]})
	broken := b.Curriculum
	broken.Sections = []curriculum.Section{{ID: "s", Name: "Shoes", Kind: "shoe"}}
	assert.Contains(t, broken.Validate()[0].Error(), `$.sections[0].kind: "shoe" is no kind of technique`)
}

// TestPagesSayWhere: each problem of a line stands at its column.
func TestPagesSayWhere(t *testing.T) {
	b := binder.For(laddertest.School(func(c *curriculum.Curriculum) {
		laddertest.Technique(c, "jab").Term, laddertest.Technique(c, "jab").Sides = "rondel", curriculum.LeadSide
	}))
	for line, want := range map[string]binder.PageLine{
		"Jab, 5, term rondal": {Column: 1, Problem: "Jab is known by the term rondel; change it on its page"}, "Jab, 5, rear only": {Column: 1, Problem: "Jab is known as trained on lead side; change it on its page"},
		"Jab, 5, sprint soon": {Column: 9, Problem: "after sprint stand the seconds before the end, for example sprint 15 s"}, "Jab, sprint 3 a side": {Column: 6, Problem: "after sprint stand the seconds before the end, for example sprint 15 s"},
		"(left) Jab, 5": {Column: 1, Problem: "a technique's name of up"}, "Jab, (left 5": {Column: 6, Problem: "this remark is not closed"},
		"New drill: lead jab, rear crosss nothing": {Column: 34, Problem: `"nothing" does not belong after a name`},
	} {
		lines := b.ParsePage("All\n" + line)
		require.Len(t, lines, 1, line)
		assert.Equal(t, want.Column, lines[0].Column, "%s: %s", line, lines[0].Problem)
		assert.Contains(t, lines[0].Problem, want.Problem[:min(len(want.Problem), 24)], line)
	}
	lines := b.ParsePage("All\nNew drill, 4: lead jab, Step back.\nJab, 5, sprint last 15 s, by phases, in silence, entry None\nJab, 20 s, sprint 10")
	require.Empty(t, lines[0].Problem)
	require.Len(t, lines[0].Doubts, 1)
	assert.Equal(t, 25, lines[0].Doubts[0].Column, "what could be meant otherwise is asked where it stands")
	assert.Equal(t, []any{15, true, curriculum.NoVoice, []string{"None"}}, []any{lines[1].Sprint, lines[1].Phases, lines[1].Voice, lines[1].Entries})
	assert.Equal(t, 10, lines[2].Sprint)
	noSection := b.ParsePage("Unheard of, 5")
	assert.True(t, noSection[0].New)
	assert.Contains(t, noSection[0].Problem, "is new, so its section is not known")
	assert.Equal(t, []string{"a", "2 x 60 s, 30 s rest for Cubs", " b"}, binder.SplitParts("a,2 x 60 s, 30 s rest for Cubs, b"))
}

// TestLinesOfAFile: they change what they stand for, go behind their rung, or take the rest out.
func TestLinesOfAFile(t *testing.T) {
	b := binder.For(laddertest.Ladder(t, laddertest.Simple, func(c *curriculum.Curriculum) { c.Requirements[0].Checks, c.Requirements[0].Looks = []string{"hip"}, 3 }))
	parse := func(rung, text, was string) binder.MergeLine {
		l := b.ParsePage("Strikes\n" + text)[0]
		require.Empty(t, l.Problem)
		l.RungID = rung
		return binder.MergeLine{l, was}
	}
	was := func(i int) string { return b.Requirements[i].ID }
	n := 0
	id := func() string { n++; return fmt.Sprint("made", n) }
	merged := func(only bool, lines ...binder.MergeLine) (out []string) {
		c, err := b.Merge(lines, only, id)
		require.NoError(t, err)
		book := binder.Open(c)
		for _, r := range c.Requirements {
			out = append(out, fmt.Sprint(r.RungID, " ", book.Technique(r.TechniqueID).Name, " ", r.Quantity))
		}
		return out
	}
	whole := []string{"white Jab 5 a side", "white Cross 5 a side", "white Elbow 5 a side", "yellow Palm 5 a side", "orange Jab 8 a side", "green Knee 5 a side"}
	assert.Equal(t, whole, merged(true))
	changed := append([]string{"white Jab 9 a side"}, whole[1:]...)
	assert.Equal(t, changed, merged(false, parse("white", "Jab, 9 a side", was(0))))
	assert.Equal(t, append([]string{"white Jab 9 a side"}, whole[3:]...), merged(true, parse("white", "Jab, 9 a side", was(0))), "what the rung asks beside it is out, other rungs stay")
	assert.Equal(t, append([]string{"white Jab 9 a side", "white Hook 3 a side", "white Hook once"}, whole[3:]...), merged(true, parse("white", "Jab, 9 a side", was(0)), parse("white", "Hook, 3 a side", ""), parse("white", "Hook, once", "")), "a technique that is new is made once")
	assert.Equal(t, append(append([]string{}, whole[:3]...), append([]string{"white Hook 3 a side"}, whole[3:]...)...), merged(false, parse("white", "Hook, 3 a side", "")))
	c, err := b.Merge([]binder.MergeLine{parse("white", "Jab, 9 a side", was(0)), parse("yellow", "Hook, once", ""), parse("yellow", "Hook, twice", "")}, false, id)
	require.NoError(t, err)
	assert.Equal(t, []any{was(0), []string{"hip"}, 3}, []any{c.Requirements[0].ID, c.Requirements[0].Checks, c.Requirements[0].Looks}, "what a file cannot say stays")
	assert.Len(t, c.Techniques, len(b.Techniques)+1)
	bad := parse("white", "Jab, 9 a side", "")
	bad.Problem = "odd"
	_, err = b.Merge([]binder.MergeLine{bad}, false, id)
	assert.ErrorIs(t, err, binder.ErrPage)
	assert.Equal(t, []string{"a", " 2 x 60 s, 30 s rest for Cubs", " b"}, binder.SplitParts("a, 2 x 60 s, 30 s rest for Cubs, b"))
	assert.Equal(t, []string{"30 s rest"}, binder.SplitParts("30 s rest"))
	assert.Empty(t, b.Variants("jab"))
	assert.Equal(t, "orange", b.RungNamed("ORANGE").ID)
	assert.Nil(t, b.RungNamed("mauve"))
	for text, right := range map[string]bool{"weight 1": true, "weight 100": true, "weight 0": false, "weight 101": false, "stage 1": true, "stage 20": true, "stage 0": false, "stage 1 for Cubs": true, "stage 20 for Cubs": true, "stage 0 for Cubs": false, "stage 21 for Cubs": false} {
		assert.Equal(t, right, b.ParsePage("Jab, " + text)[0].Problem == "", text)
	}
	late := b.ParsePage("Jab, 2 x 60 s, 30 s rest, must, weight x")[0]
	assert.Equal(t, 33, late.Column, "behind an amount with a comma in it")
	r := b.Requirements[0]
	r.Quantity, r.Sprint, r.StageCap, r.Tracks = curriculum.Quantity{Measure: curriculum.Timed, Seconds: 60}, 1, 1, []curriculum.TrackChange{{TrackID: "gone", Bonus: true}, {TrackID: "cubs", StageCap: 1}}
	assert.Equal(t, []string{"always", "sprint 1 s", "stage 1", "stage 1 for Cubs"}, b.PartsOf(r))
	pages := laddertest.Ladder(t, "White\n\tStrikes\n\tJab\n\tElbow\n\tKicks\n\tKnee", func(c *curriculum.Curriculum) { c.Requirements[1].TechniqueID = "gone" })
	assert.Equal(t, "Strikes\nJab, 5 a side\n\nKicks\nKnee, 5 a side", binder.For(pages).PageOf("white"))
}

// TestNumbers: a name with a number is a number of a series, unless it is said not to be.
func TestNumbers(t *testing.T) {
	for name, want := range map[string]string{"Mill drill 12": "Mill drill 12", "Mill drill #3": "Mill drill 3", "Mill drill no. 4": "Mill drill 4", "Combination No 7": "Combination 7", "Drill - 2": "Drill 2", "Set 007": "Set 7", "Drill": "", "12": "", "Drill 0": "", "Drill 1000": "", "Drill2": "", "45 degrees": "", "Angle 45 left": ""} {
		series, number, numbered := curriculum.NumberedName(name)
		got := ""
		if numbered {
			got = fmt.Sprintf("%s %d", series, number)
		}
		assert.Equal(t, want, got, name)
	}
	b := binder.For(laddertest.School())
	lines := b.ParsePage("All\nMill drill 14, 4\nSluice 2, 4\nSluice 3, 4, not a number\nJab, 5, term rondel, lead only\nCross, 5, lead only")
	require.Len(t, lines, 5)
	assert.Equal(t, []any{"Mill drill", 14, false}, []any{lines[0].Series, lines[0].Place, lines[0].Asked}, "the series has numbers already")
	assert.Equal(t, []any{"Sluice", 2, true}, []any{lines[1].Series, lines[1].Place, lines[1].Asked}, "asked about")
	assert.Equal(t, []any{"", 0, true}, []any{lines[2].Series, lines[2].Place, lines[2].Plain})
	n := 0
	c, err := b.AddPage("yellow", lines, func() string { n++; return fmt.Sprint("id", n) })
	require.NoError(t, err)
	next := binder.Open(c)
	assert.Equal(t, []any{"Mill drill", 14}, []any{next.Named("Mill drill 14").Series, next.Named("Mill drill 14").Number})
	assert.Zero(t, next.Named("Sluice 3").Number)
	assert.Equal(t, []string{"Sluice"}, next.Program.NoSeries, "remembered for the program")
	assert.Equal(t, []any{"rondel", curriculum.LeadSide}, []any{next.Named("Jab").Term, next.Named("Jab").Sides})
	assert.Empty(t, b.Named("Jab").Term, "the book is as it was")
	assert.Empty(t, next.ParsePage("All\nSluice 9, 4")[0].Series)
	assert.Contains(t, next.ParsePage("All\nJab, 5, term rondal")[0].Problem, "Jab is known by the term rondel")
	assert.Contains(t, next.ParsePage("All\nJab, 5, rear only")[0].Problem, "trained on lead side")
	plain, count := next.Unnumbered("mill drill")
	assert.Equal(t, 2, count)
	assert.Zero(t, curriculum.Open(plain).Named("Mill drill 14").Number)
	fresh := curriculum.Technique{Name: "Mill drill 15"}
	curriculum.Open(plain).Number(&fresh)
	assert.Empty(t, fresh.Series)
	next.Number(&fresh)
	assert.Equal(t, 15, fresh.Number)
}

// TestLawPagesKeepEverything: what a rung asks, printed as a page and read again, is what it asked.
func TestLawPagesKeepEverything(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		quantity := func(name string) curriculum.Quantity {
			text := rapid.SampledFrom([]string{"5 a side", "8 each limb", "4 each way", "3 each stance", "10", "once", "10 alternating", "60 s", "2 x 60 s, 30 s rest", "3 x 90 s", "18 in 60 s", "3 holds of 20 s", "4 each limb without touching down"}).Draw(t, name)
			q, err := curriculum.ParseQuantity(text)
			require.NoError(t, err)
			return q
		}
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		b := binder.For(laddertest.School(func(c *curriculum.Curriculum) {
			c.Program.Tracks = []curriculum.Track{{ID: "cubs", Name: "Cubs"}, {ID: "all", Name: "Grown, all"}}
			c.Program.Groups = []curriculum.SampleGroup{{ID: "g", Name: "Pool, small", Draw: 1}}
			for i := range c.Requirements {
				r := &c.Requirements[i]
				r.Quantity, r.MustPass, r.Weight = quantity("amount"), flip("must"), rapid.IntRange(1, 3).Draw(t, "weight")
				r.Role = rapid.SampledFrom(curriculum.Roles).Draw(t, "role")
				d := &r.RequirementDetails
				d.Slow, d.NonStop, d.Supported, d.Phases, d.ShowAgain, d.Covers, d.Free = flip("slow"), flip("non-stop"), flip("supported"), flip("phases"), flip("again"), flip("covers"), flip("free")
				d.Setting = rapid.SampledFrom([]curriculum.Setting{"", "pads", "partner"}).Draw(t, "setting")
				d.Sprint = rapid.SampledFrom([]int{0, 15}).Draw(t, "sprint")
				d.Voice = rapid.SampledFrom(append([]curriculum.Voice{""}, curriculum.Voices...)).Draw(t, "voice")
				d.Carry = rapid.SampledFrom([]curriculum.Carry{{}, {Kind: curriculum.Always}, {Kind: curriculum.Until, Rung: "yellow"}, {Kind: curriculum.Sample, Group: "g"}}).Draw(t, "carry")
				if r.TechniqueID == "lock" && flip("entries") {
					d.Entries = []string{"Counter-grip", "Own start"}
				}
				if flip("track") {
					q := quantity("track amount")
					d.Tracks = []curriculum.TrackChange{{TrackID: "cubs", Quantity: &q, Bonus: flip("bonus"), StageCap: 1}}
				}
			}
		}))
		page := b.PageOf("yellow")
		lines := b.ParsePage(page)
		want := b.Asked("yellow")
		require.Len(t, lines, len(want), page)
		for i, l := range lines {
			require.Empty(t, l.Problem, l.Text)
			got := l.Requirement
			got.ID, got.RungID, got.Position = want[i].ID, want[i].RungID, want[i].Position
			require.Equal(t, want[i], got, l.Text)
		}
	})
}

// TestLinesOfAnyWords: whatever words and signs follow one another, under any heading, a page is read, and each line of it says what is wrong or can
// be stored.
func TestLinesOfAnyWords(t *testing.T) {
	golden.Alone(t)
	t.Parallel()
	words := strings.Fields("Kicks Strikes Self-defence Sparring Forms Combinations Gold kick elbow jab stance block form throw break board boards pad a) b) 1) 2. - = | " +
		"/ + & , ; : ( ) [ ] . ... \" 10 x5 5x each side leg and or with the from behind front against choke wrist grab of all 2 x 60 s min do defend " +
		"until Cubs only not for mae geri zuki jodan -> → R L L/R Step One Shodan")
	b := binder.For(laddertest.Ladder(t, laddertest.Sound, laddertest.Soundly))
	empty := binder.Open(curriculum.Curriculum{Sections: b.Sections, Rungs: b.Rungs, Program: b.Program})
	for _, sign := range []string{",", ";", ":", "- ,", "1) ;", "Elbow: ,", "Kicks: ;,", "Self-defence: ;",
		"(", "/", "a) b)", "Kicks: a) b)", "Gold - :", "=", "\t", "|", "x", "defend ,", "5 forward, , back"} {
		b.ParsePage(sign)
		empty.ParsePage(sign)
	}
	random := rand.New(rand.NewPCG(7, 11))
	for n := range 6000 {
		if !golden.Sample(n, 9) {
			continue
		}
		var page strings.Builder
		for range 1 + random.IntN(3) {
			for range 1 + random.IntN(7) {
				page.WriteString(words[random.IntN(len(words))])
				page.WriteString([]string{" ", " ", " ", "", ", ", "\t", "    "}[random.IntN(7)])
			}
			page.WriteString("\n")
		}
		for _, book := range []*binder.Reader{b, empty} {
			for _, l := range book.ParsePage(page.String()) {
				if l.Problem == "" && l.Aside == "" {
					require.Empty(t, l.Requirement.Check(), "%q", page.String())
				}
			}
		}
	}
}
