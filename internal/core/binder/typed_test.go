package binder

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// island is a program with a second language, its usual sections, and a few techniques.
func island(change func(*curriculum.Curriculum)) *Reader {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Island", SecondLanguage: "Islandic"}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}}}
	for i, s := range curriculum.DefaultSections {
		c.Sections = append(c.Sections, curriculum.Section{ID: fmt.Sprint("s", i), Name: s, Kind: curriculum.UsualKind(s)})
	}
	c.Techniques = []curriculum.Technique{{ID: "mae", Name: "Mae dori", Kind: "kick"}, {ID: "jab", Name: "Jab", Kind: "strike"}, {ID: "cross", Name: "Cross", Kind: "strike"}, {ID: "front", Name: "Front kick", Kind: "kick"}}
	meanings, err := curriculum.ParseMeanings([]string{"osu = high", "chu=middle", "tobu = jumping", "dori = kick", "ukka = block", "stan = stance", "nage= throw", "mawa = spinning"})
	if err != nil {
		panic(err)
	}
	c.Program.Meanings = meanings
	if change != nil {
		change(&c)
	}
	return Open(c)
}

// read is a page as it was understood, a line each.
func read(b *Reader, page string) (out []string) {
	for _, l := range b.ParsePage(page) {
		switch {
		case l.Problem != "":
			out = append(out, "! "+l.Problem)
		case l.Aside != "":
			out = append(out, "~ "+l.Aside)
		default:
			said := understood(b, l)
			if l.Term != "" {
				said += " = " + l.Term
			}
			if l.From != "" {
				said += " of " + l.From
			}
			for _, x := range l.Levels {
				said += " at " + string(x)
			}
			if l.Sparring != nil {
				said += fmt.Sprintf(" {%s|%s}", l.Sparring.Contact, l.Sparring.Limbs)
			}
			for _, d := range l.Doubts {
				said += " ? " + d.Reason
			}
			out = append(out, said)
		}
	}
	return out
}

// TestWordsOfAnotherLanguage: level, modifier and kind follow from the program's words.
func TestWordsOfAnotherLanguage(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Kicks\nTobu mae dori, 5":           "kick: Tobu mae dori, 5 [jumping, on Mae dori]",
		"Kicks\nMae dori osu, 5":            "kick: Mae dori, 5, level high",
		"Kicks\nosu mae dori, 5":            "kick: Mae dori, 5, level high",
		"Kicks\nMae dori chu, 5":            "kick: Mae dori, 5, level mid",
		"Kicks\nFront kick high, 5":         "kick: Front kick, 5, level high",
		"Kicks\nFront kick mid level, 5":    "kick: Front kick, 5, level mid",
		"Kicks\nMawa yoko dori, 5":          "kick: Mawa yoko dori, 5 [spinning]",
		"Blocks\nOsu ukka, 5":               "block: Osu ukka, 5 at high",
		"Basics\nShort ukka, 5":             "block: Short ukka, 5",
		"Basics\nYoko-dori, 5":              "kick: Yoko-dori, 5",
		"Basics\nYokodori, 5":               "kick: Yokodori, 5",
		"Basics\nLong stan, 20 s":           "stance: Long stan, 20 s",
		"Basics\nKoshi nage, 3 a side":      "throw: Koshi nage, 3 a side",
		"Basics\nKoshi, 3 a side":           "! nothing says of which kind Koshi is; write it at the end of the line, for example [kind kick]",
		"Kicks\nMawa ukka, 5":               "kick: Mawa ukka, 5 [spinning] ? Mawa ukka stands under Kicks and is called a block or parry; write “block or parry” on the line, or a heading above it",
		"Kicks\nTobu mae dori osu, 5":       "kick: Tobu mae dori osu, 5 [jumping, on Mae dori] at high",
		"Kicks\nMae dori osu, 5, level low": "kick: Mae dori, 5, level low (osu)",
	} {
		got := read(b, typed)
		require.Len(t, got, 1, typed)
		assert.Equal(t, want, got[0], typed)
	}
	c, err := b.AddPage("y", b.ParsePage("Kicks\nTobu mae dori osu, 5"), counter())
	require.NoError(t, err)
	x := Open(c).Named("Tobu mae dori osu")
	require.NotNil(t, x)
	assert.Equal(t, []any{[]curriculum.Modifier{"jumping"}, []string{"mae"}, "high"}, []any{x.Modifiers, x.BuildsOn, string(x.Levels[0])})
	due := Open(c).AllCautions(x)
	require.NotEmpty(t, due)
	assert.Equal(t, "jump", due[0].Kind, "the caution follows from the word")
	for line, want := range map[string]string{
		"jodan": "line 1: \"jodan\"; write a word", "two words = high": "line 1: \"two words = high\"; write a word", "jodan = nice": "line 1: \"nice\" says nothing of a name", "a = high\nA = low": "line 2: \"a\" stands twice", " = high": "write a word",
	} {
		_, err := curriculum.ParseMeanings(strings.Split(line, "\n"))
		assert.ErrorContains(t, err, want)
	}
	m, err := curriculum.ParseMeanings([]string{" Osu=HIGH ", "hiya' = flying", "uchi = strike"})
	require.NoError(t, err)
	assert.Equal(t, "[osu = high hiya' = flying uchi = strike]", fmt.Sprint(m))
	assert.Equal(t, curriculum.Modifier("jumping"), m[1].Modifier())
}

func counter() func() string {
	n := 0
	return func() string { n++; return fmt.Sprint("n", n) }
}

// TestBrackets: what stands in brackets is asked about once a page, or is what the program says.
func TestBrackets(t *testing.T) {
	const page = "Kicks\nSide kick (yoko dori), 5\nHook kick (ura dori), 5\nPush kick (slowly), 5\nAxe kick (over the chair), 5\nWall kick (two of them), 5\nRoof kick (both legs), 5"
	got := read(island(nil), page)
	assert.Equal(t, []string{"kick: Side kick, 5 (yoko dori) ? “yoko dori” is read as a remark; whether brackets hold the term is said once, on the program’s page", "kick: Hook kick, 5 (ura dori)", "kick: Push kick, 5, slowly", "kick: Axe kick, 5 (over the chair)"}, got[:4])
	got = read(island(func(c *curriculum.Curriculum) { c.Program.Brackets = curriculum.BracketTerms }), page)
	assert.Equal(t, []string{"kick: Side kick, 5 = yoko dori", "kick: Hook kick, 5 = ura dori", "kick: Push kick, 5, slowly", "kick: Axe kick, 5 (over the chair)", "kick: Wall kick, 5 (two of them)"}, got[:5])
	got = read(island(func(c *curriculum.Curriculum) { c.Program.Brackets = curriculum.BracketRemarks }), page)
	assert.Equal(t, "kick: Side kick, 5 (yoko dori)", got[0])
	got = read(island(func(c *curriculum.Curriculum) { c.Program.SecondLanguage = "" }), page)
	assert.Equal(t, "kick: Side kick, 5 (yoko dori)", got[0])
}

// TestLegends: a legend gives call numbers, and numbers with dashes are moves from then on.
func TestLegends(t *testing.T) {
	b := island(nil)
	lines := b.ParsePage("Numbers:\n1. Jab\n2 - cross\n3) Lead hook\nCombinations\n1-2-3, 4 a side, must\n1-2 x 10\n2-2-9\n1-2-1")
	var said []string
	for _, l := range lines {
		said = append(said, strings.TrimSpace(l.Aside+l.Problem+" "+l.Name+" "+l.Moves))
	}
	assert.Equal(t, []string{"call numbers: 1 calls Jab", "call numbers: 2 calls Cross", "call numbers: 3 calls Lead hook", "1-2-3 1, 2, 3", "1-2 1, 2"}, said[:5])
	assert.Equal(t, []any{Kind("combination"), curriculum.RepsPerSide, 4, true}, []any{lines[3].Kind, lines[3].Quantity.Measure, lines[3].Quantity.Reps, lines[3].MustPass})
	assert.Equal(t, curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 10}, lines[4].Quantity)
	assert.NotEmpty(t, lines[5].Problem+fmt.Sprint(lines[5].Doubts), "9 calls nothing")
	c, err := b.AddPage("y", append(lines[:5:5], lines[6]), counter())
	require.NoError(t, err)
	now := Open(c)
	assert.Equal(t, []int{1, 2, 3}, []int{now.Named("Jab").Call, now.Named("Cross").Call, now.Named("Lead hook").Call})
	assert.Equal(t, Kind("strike"), now.Named("Lead hook").Kind)
	seq, err := now.Read(now.Named("1-2-3").Stages[0].Steps[0].Moves)
	require.NoError(t, err)
	assert.Equal(t, 3, seq.Moves())
	assert.Len(t, now.Asked("y"), 3)
	assert.Equal(t, []string{"~ call numbers: 4 calls Jab, 5 calls Cross"}, read(b, "4 = jab, 5 = cross"))
	for typed, want := range map[string]string{
		"1 = jab\n1 = cross":                "! 1 calls Jab already",
		"7 = wobble":                        "! nothing says of which kind Wobble is; write a name that tells it, for example Wobble punch, or add the technique first",
		"0 = jab":                           "! a call number is from 1 to 999",
		"1 = jab\nCombinations\n1-1, twice": "combination: 1-1, 2: 1, 1",
	} {
		got := read(b, typed)
		assert.Equal(t, want, got[len(got)-1], typed)
	}
	called := island(func(c *curriculum.Curriculum) { c.Techniques[1].Call = 4 })
	assert.Equal(t, []string{"! Jab is called by 4 already; change it on its page"}, read(called, "1 = jab"))
	assert.Equal(t, []string{"combination: 4-4, 4 a side: 4, 4"}, read(called, "Combinations\n4-4"))
	assert.Equal(t, []string{"fitness: Push-ups, 10 (5-10)"}, onlyFirst(read(b, "Fitness\nPush-ups, 10, (5-10)")))
}

func onlyFirst(lines []string) []string {
	for i := range lines {
		lines[i], _, _ = strings.Cut(lines[i], " ? ")
	}
	return lines
}

// TestSeveralInOne: a range of a series is a line each; other ranges are asked about.
func TestSeveralInOne(t *testing.T) {
	b := island(func(c *curriculum.Curriculum) {
		c.Techniques = append(c.Techniques, curriculum.Technique{ID: "d3", Name: "Drill 3", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{Series: "Drill", Number: 3}})
	})
	for typed, want := range map[string][]string{
		"Forms\nSet 2–4, must":              {"form: Set 2, 1, must", "form: Set 3, 1, must", "form: Set 4, 1, must"},
		"Combinations\nCombo 1 to 3":        {"combination: Combo 1, 4 a side", "combination: Combo 2, 4 a side", "combination: Combo 3, 4 a side"},
		"Combinations\nCombo 1 & 2, 3 each": {"combination: Combo 1, 3 a side", "combination: Combo 2, 3 a side"},
		"Forms\nPattern 2-1":                nil, "Forms\nPattern 2 & 4": nil, "Forms\nPattern 1-90": nil,
		"Kicks\nDrill 3-4, 10":                    {"kick: Drill 3, 10", "kick: Drill 4, 10"},
		"Fitness\nStar jumps 3-4":                 nil,
		"Strikes\nElbows 2-3":                     {"strike: Elbow 2, 5 a side", "strike: Elbow 3, 5 a side"},
		"Blocks\nOutside defences 1 to 2, 3 each": {"block: Outside defence 1, 3 a side", "block: Outside defence 2, 3 a side"},
		"Strikes\nElbows 2-3, 60 s":               nil,
		"Kicks\nDrill 2-4":                        {"kick: Drill 2, 5 a side", "kick: Drill 3, 5 a side", "kick: Drill 4, 5 a side"},
	} {
		got := read(b, typed)
		if want == nil {
			require.Len(t, got, 1, typed)
			assert.True(t, strings.Contains(got[0], " ? ") || strings.HasPrefix(got[0], "! "), "%s is asked about: %s", typed, got[0])
			continue
		}
		assert.Equal(t, want, got, typed)
	}
	c, err := b.AddPage("y", b.ParsePage("Forms\nSet 2–4"), counter())
	require.NoError(t, err)
	assert.Equal(t, []any{"Set", 3}, []any{Open(c).Named("Set 3").Series, Open(c).Named("Set 3").Number})
	assert.Len(t, c.Requirements, 3)
	assert.Equal(t, 2, numberOf(t, c.Requirements[0], c))
}

// TestWhatIsNoQuestion: a heading nobody knows, and an exercise, under Knowledge are asked about.
func TestWhatIsNoQuestion(t *testing.T) {
	b := island(func(c *curriculum.Curriculum) {
		c.Sections = slices.DeleteFunc(c.Sections, func(s curriculum.Section) bool { return s.Kind == "stance" })
	})
	for typed, asked := range map[string]bool{
		"Knowledge\nBalance": true, "Knowledge\nHeron stand, 20 s each leg": true, "Knowledge\nHeron stand, 5 a side": true, "Knowledge\nBreathing, 60 s": true,
		"Knowledge\nThe rules of the river": false, "Knowledge\nName three weirs, once": false, "Knowledge\nWhat is balance?": false, "Character\nHelping hand": false, "Knowledge\nColours, 3": false,
	} {
		got := read(b, typed)
		require.Len(t, got, 1, typed)
		assert.Equal(t, asked, strings.Contains(got[0], " ? "), "%s: %s", typed, got[0])
	}
}

// TestAmountsOtherwise: right and left one by one, primes, distances, settings and heights as people say
// them, and what is asked rather than guessed.
func TestAmountsOtherwise(t *testing.T) {
	b := island(nil)
	for typed, want := range map[string]string{
		"Kicks\nFront kick 3x right, 3x left":         "kick: Front kick, 3 a side",
		"Kicks\nFront kick R x 20, L x 20":            "kick: Front kick, 20 a side",
		"Kicks\nFront kick 3x right, 2x left":         "?",
		"Kicks\nFront kick 5 right 5 right":           "?",
		"Sparring\n3 × 2′, 30″ rest":                  "sparring: Sparring, 3 x 120 s, 30 s rest {|}",
		"Sparring\n3 x 2 min, hands only, 1 min rest": "sparring: Sparring, 3 x 120 s, 60 s rest (hands only) {|hands only}",
		"Fitness\nShuttle run 5 x 10m":                "?",
		"Fitness\nSit-ups, 30 in a minute":            "fitness: Sit-ups, 30 in 60 s",
		"Fitness\n25 push-ups":                        "fitness: Push-ups, 25",
		"Strikes\n25 jab":                             "?",
		"Kicks\nFront kick on the pad, 1 min":         "kick: Front kick, 60 s, on pads",
		"Kicks\nFront kick, mid, 10":                  "kick: Front kick, 10, level mid",
		"Kicks\nFront kicks, 10":                      "kick: Front kick, 10",
		"Kicks\nFront kick, double, 10":               "?",
		"Strikes\nJab – Cross, 10":                    "combination: Jab – Cross, 10: Jab, Cross",
		"Strikes\nJab, 10 each side on focus mitts":   "strike: Jab, 10 a side, on pads",
		"Strikes\nJab w/ step, 10":                    "?",
		"Strikes\nJab, both arms, 10 ea":              "strike: Jab, 10 each limb",
		"Strikes\nJab, both arms":                     "strike: Jab, 5 a side (both arms)",
		"Strikes\nElbow (4 angles)":                   "?",
		"Strikes\nHook, 10 (as attacker too)":         "?",
		"Knowledge\nThe rules (3)":                    "?",
		"Kicking with a partner\nFront kick, 10":      "kick: Front kick, 10, with a partner",
		"Stance and footwork\nTriangle steps, 20":     "footwork: Triangle steps, 20",
		"Basics\nYoko (kick), 5":                      "kick: Yoko, 5",
		"Strikes\nJab, 20 s (each hand)":              "?",
		"KICKS\nFront kick, 5\nSELF DEF\nBear hug, 2": "self_defence: Bear hug, 2 against hug",
		"KICKS\nFront kick, 5\nJUGGLING\nOld oak, 2":  ": Old oak, 2", // its kind stays open
	} {
		got := read(b, typed)
		last := got[len(got)-1]
		if want == "?" {
			assert.True(t, strings.Contains(last, " ? ") || strings.HasPrefix(last, "! "), "%s is asked about: %s", typed, last)
			continue
		}
		assert.Equal(t, strings.TrimSuffix(want, " {|}"), last, typed)
	}
}

// TestAWordAloneOnAPageOfAmounts is a heading nobody knows; on a page of names it is a name.
func TestAWordAloneOnAPageOfAmounts(t *testing.T) {
	b := island(nil)
	amounts := "Blocks\nRoof block, 5\nWall block, 5\nGate block x 10\nDoor block 3 each side\n"
	got := read(b, amounts+"Stand like\nHeron, 20 s")
	assert.True(t, strings.HasPrefix(got[4], "! this is no section"), got[4])
	assert.True(t, strings.HasPrefix(got[5], ": Heron, 20 s"), "its kind stays open: %s", got[5])
	got = read(b, "Blocks\nRoof block\nWall block\nGate block\nDoor block\nShelter\nHeron")
	assert.Equal(t, "block: Shelter, 5 a side", got[4])
}

// Number is a helper of the test: the number of what a requirement names.
func numberOf(t *testing.T, r curriculum.Requirement, c curriculum.Curriculum) int {
	x := Open(c).Technique(r.TechniqueID)
	require.NotNil(t, x)
	return x.Number
}

// TestQuestionsFromAList: a sample group of which so many are drawn.
func TestQuestionsFromAList(t *testing.T) {
	b := island(func(c *curriculum.Curriculum) {
		c.Program.Groups = []curriculum.SampleGroup{{ID: "g", Name: "Old words", Draw: 1}}
	})
	const page = "Knowledge\n3 questions from the list of mill words\nWhat is a weir?\nWhat is a race?\nStrikes\nJab, 5"
	assert.Equal(t, []string{"~ 3 of the sample group Mill words are drawn", "knowledge: What is a weir?, 1 of Mill words", "knowledge: What is a race?, 1 of Mill words", "strike: Jab, 5"}, read(b, page))
	c, err := b.AddPage("y", b.ParsePage(page), counter())
	require.NoError(t, err)
	require.Len(t, c.Program.Groups, 2)
	assert.Equal(t, []any{"Mill words", 3}, []any{c.Program.Groups[1].Name, c.Program.Groups[1].Draw})
	assert.Equal(t, curriculum.Carry{Kind: curriculum.Sample, Group: c.Program.Groups[1].ID}, c.Requirements[0].Carry)
	assert.Equal(t, curriculum.Carry{}, c.Requirements[2].Carry)
	assert.Len(t, b.Program.Groups, 1, "the book stays as it is")
	c, err = b.AddPage("y", b.ParsePage("Knowledge\nTwo questions from old words\nWhat is a weir?"), counter())
	require.NoError(t, err)
	assert.Equal(t, 2, c.Program.Groups[0].Draw)
	assert.Equal(t, curriculum.Carry{}, c.Requirements[0].Carry, "the group is known; what is of it says so")
	for _, head := range []string{"2 questions from the list below", "Two questions drawn from these:", "2 questions of the following questions"} {
		assert.Equal(t, []string{"~ 2 of the sample group Questions are drawn", "knowledge: what a weir is, 1 of Questions", "knowledge: why we bow?, 1 of Questions", "strike: Jab, 5"},
			read(b, "Knowledge\n"+head+"\nwhat a weir is\nwhy we bow?\nStrikes\nJab, 5"), head)
	}
	assert.Equal(t, []string{"~ 2 of the sample group Mill words are drawn", "knowledge: what a weir is, 1", "knowledge: why we bow?, 1 of Mill words"},
		read(b, "Knowledge\n2 questions from mill words\nwhat a weir is\nwhy we bow?"), "a line without a question mark is of a named group only where it says so")
	assert.Equal(t, "! no question of Names stands below; write them there, a line each, or add the group on the program’s page and “from Names” to its questions", read(b, "Knowledge\n3 questions from names")[0])
}

// TestMarksAndContactInWords: labels of the scale, and the rung's sparring rule.
func TestMarksAndContactInWords(t *testing.T) {
	b := island(nil)
	assert.Equal(t, []string{"fitness: Push-ups, 20 in 60 s, marks 20=2 30=3"}, read(b, "Fitness\nPush-ups, 20 in 60 s (30=strong, 20=sound)"))
	assert.Contains(t, read(b, "Fitness\nPush-ups, 20 in 60 s, 20=splendid")[0], " ? ")
	own := island(func(c *curriculum.Curriculum) {
		policy := scoring.MovementScale()
		policy.Scale.Labels = []scoring.Label{{Mark: scoring.Whole(1), Word: "Good"}, {Mark: scoring.Whole(2), Word: "very good"}}
		c.Program.Policy = &policy
	})
	assert.Equal(t, []string{"fitness: Push-ups, 20 in 60 s, marks 20=1 30=2"}, read(own, "Fitness\nPush-ups, 20 in 60 s, 20 = good, 30=Very good"))

	for typed, want := range map[string]string{
		"Sparring\n2 x 60 s, light contact":                       "sparring: Sparring, 2 x 60 s (light contact) {light|}",
		"Sparring\nFree rounds, 2 x 60 s, no contact":             "sparring: Free rounds, 2 x 60 s (no contact) {none|}",
		"Sparring\nFree rounds (touch contact, hands only), 60 s": "sparring: Free rounds, 60 s (touch contact, hands only) {touch|hands only}",
		"Sparring\nNon-contact bout, 60 s":                        "sparring: Non-contact bout, 60 s {none|}",
		"Kicks\nFront kick, 5 (light contact)":                    "kick: Front kick, 5 (light contact)",
	} {
		got := read(b, typed)
		require.Len(t, got, 1)
		assert.Equal(t, want, got[0], typed)
	}
	assert.Contains(t, read(b, "Sparring\n60 s, semi contact")[0], "knows none, touch and light contact")
	c, err := b.AddPage("y", b.ParsePage("Sparring\n2 x 60 s, light contact\nBoxing round, 60 s (hands only)"), counter())
	require.NoError(t, err)
	assert.Equal(t, &curriculum.SparringRule{Contact: "light", Limbs: "hands only"}, c.Rungs[1].Sparring)
	assert.Nil(t, b.Rungs[1].Sparring, "the book stays as it is")
	has := island(func(c *curriculum.Curriculum) {
		c.Rungs[0].Sparring = &curriculum.SparringRule{Contact: "none", Targets: "the guard"}
	})
	c, err = has.AddPage("y", has.ParsePage("Sparring\n60 s, touch contact"), counter())
	require.NoError(t, err)
	assert.Equal(t, &curriculum.SparringRule{Contact: "touch", Targets: "the guard"}, c.Rungs[1].Sparring, "on top of what holds there")
	c, err = has.AddPage("w", has.ParsePage("Sparring\n60 s, touch contact"), counter())
	require.NoError(t, err)
	assert.Equal(t, curriculum.Contact("none"), c.Rungs[0].Sparring.Contact, "a rule of the rung's own stays")
}
