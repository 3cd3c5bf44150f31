package curriculum_test

import (
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/binder"
	. "velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
)

// TestKindsByWords: the words of a name tell its kind, the last one first, what it is done from or against not at all.
func TestKindsByWords(t *testing.T) {
	for kind, names := range map[Kind]string{
		"strike":  "Back fist|looping roundhouse punch|Crescent elbow|Reverse punch in horse stance|Horse stance punch|Jab|Liver shot|Inward raking knuckle|Stepping punch|Elbow strikes|Spear hand thrust",
		"kick":    "Front kick|Sidekick|Crescent|Sweep kick|Thrusting sweep kick|kik|Teep|Skipping side kick|Round kick on the pads|Kick from horse stance",
		"block":   "Rising block|Parry|leg check vs low kick|check a low kick|High guard|Sweeping block|blok|Block while stepping back",
		"stance":  "Horse stance|stand like a tree|stand in a strong fighting stance|Horse stance with both fists up|Left neutral bow",
		"evasion": "Slip|Bob and weave|Step back|slip vs jab", "footwork": "Shuffle|Pivot|Circle left", "combination": "Jab-cross-hook|Kick combo|Pad rounds",
		"lock": "Wrist lock|Arm bar|Scarf hold|Hammerlock", "throw": "Hip throw|Sweep|Double leg|Uchi komi", "breakfall": "Side fall|Break falls|Get up safely",
		"self_defence": "Wrist grab|Bear hug|Escape from a hold|when somebody grabs you|attack with a stick|wrist turn from a punch|Full mount escape|Knife threat|break free",
		"partner_set":  "Ippon kumite|Kihon kumite|Two-person set|One-step|sticky hands", "sparring": "Free sparring|Light fighting|Bout", "board_break": "Board break|Breaking",
		"form": "Short form|River pattern|Blocking set", "fitness": "Push-ups|Heel-to-seat runs|Plank|jump over the bag|Skipping rope|High knees|hop on one foot",
		"balance": "Stand on one leg|Balancing", "knowledge": "Explain the moves|What is a kick?|Dojo rules|count by heart", "courtesy": "Bow|Tidy uniform bow|listening well", "character": "Help a younger student|Tidy my room|Be kind",
		"": "Reed|Falling Gate|Open the door|Blue",
	} {
		for name := range strings.SplitSeq(names, "|") {
			assert.Equal(t, kind, KindInWords(name), name)
		}
	}
}

// corpusLines are the lines of the pages of other schools as they were typed, and the names in them as they are understood, each once.
func corpusLines(t *testing.T) (typed, names []string) {
	files, err := filepath.Glob("../binder/testdata/typed/*.txt")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	seen := map[string]bool{}
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for line := range strings.Lines(string(text)) {
			said, meant, found := strings.Cut(strings.TrimSpace(line), " ⇒ ")
			if !found {
				continue
			}
			typed = append(typed, said)
			_, name, named := strings.Cut(meant, ": ")
			name, _, _ = strings.Cut(name, ", ")
			if named && !seen[name] && !strings.HasPrefix(meant, "+") {
				seen[name] = true
				names = append(names, name)
			}
		}
	}
	return typed, names
}

// TestKindsOfNamesOfOtherSchools holds what the words of names tell that other schools gave.
func TestKindsOfNamesOfOtherSchools(t *testing.T) {
	golden.Alone(t)
	_, names := corpusLines(t)
	slices.Sort(names)
	var out []string
	for i, name := range names {
		if i%2 == 0 {
			out = append(out, fmt.Sprintf("%s: %s", name, KindInWords(name)))
		}
	}
	assert.Greater(t, len(out), 2000)
	golden.Hold(t, "testdata/kinds.txt", out, nil)
}

// TestAmountsOfOtherSchools holds how amounts are read as other schools write them.
func TestAmountsOfOtherSchools(t *testing.T) {
	golden.Alone(t)
	typed, _ := corpusLines(t)
	parts := regexp.MustCompile(`[,;:()⇥|]|\s[-–—]\s`)
	read := map[string]string{}
	for _, line := range typed {
		for _, part := range parts.Split(line, -1) {
			words := strings.Fields(part)
			for n := 1; n <= len(words) && n <= 8; n++ { // what stands at the end of a part
				said := strings.Join(words[len(words)-n:], " ")
				if q, err := ParseQuantity(said); err == nil && MayBeAmount(said) {
					read[said] = q.String()
				}
			}
		}
	}
	var out []string
	for _, said := range slices.Sorted(maps.Keys(read)) {
		out = append(out, said+" = "+read[said])
	}
	assert.Greater(t, len(out), 600)
	golden.Hold(t, "testdata/amounts.txt", out, nil)
}

// TestWhatMayBeAnAmount: a figure, or a number in words that stands by itself.
func TestWhatMayBeAnAmount(t *testing.T) {
	for text, may := range map[string]bool{"5 a side": true, "½": true, "once": true, "Twice": true, "thrice daily": true, "one-minute": true, "a minute": true, "ten each": true, "oncely": false, "weightless": false, "often": false, "": false} {
		assert.Equal(t, may, MayBeAmount(text), text)
	}
	for text, seconds := range map[string]int{"1 min 30": 90, "1 min 30 s": 90, "1 min 59 s": 119, "2 min": 120, "1½ min": 90, "1:30": 90} {
		q, err := ParseQuantity(text)
		require.NoError(t, err, text)
		assert.Equal(t, seconds, q.Seconds, text)
	}
	for _, text := range []string{"1 min 60", "1 min 75 s"} {
		q, err := ParseQuantity(text)
		assert.True(t, err != nil || q.Seconds == 60, text)
	}
	rest, err := ParseQuantity("3 x 1 min 30 s rest")
	require.NoError(t, err)
	assert.Equal(t, []int{3, 60, 30}, []int{rest.Rounds, rest.Seconds, rest.Rest}, "the rest is no part of the round")
}

// TestMeaningsOfWords: a word means what the program says, or what it usually means; at the end of a longer word only what is a kind.
func TestMeaningsOfWords(t *testing.T) {
	meanings, err := ParseMeanings([]string{"osu = high", "dori = kick", "tobu = flying", "uke = stance"})
	require.NoError(t, err)
	b := Open(Curriculum{Program: Program{ID: "p", Name: "P", ProgramDetails: ProgramDetails{Meanings: meanings}}})
	for word, want := range map[string]string{"Dori": "kick whole", "maedori": "kick end", "osu": "high whole", "maeosu": "", "uke": "stance whole", "geri": "kick whole", "maegeri": "kick end", "ushirogeri": "kick end", "rebuke": "stance end",
		"zuki": "strike whole", "kizamizuki": "strike end", "jodan": "high whole", "ate": "strike whole", "plate": "", "kata": "form whole", "gedan": "low whole", "reed": ""} {
		m, whole := b.MeaningOf(word)
		got := ""
		if m != nil {
			got = m.Means + map[bool]string{true: " whole", false: " end"}[whole]
		}
		assert.Equal(t, want, got, word)
	}
	plain := Open(Curriculum{})
	for word, means := range map[string]bool{"rebuke": false, "ageuke": false, "kakeuke": true, "suke": false, "plate": false, "empi": true} {
		m, _ := plain.MeaningOf(word)
		assert.Equal(t, means, m != nil, word)
	}
	for name, kind := range map[string]Kind{"Mae dori": "kick", "maedori": "kick", "Gyaku zuki": "strike", "Gyaku zuki from zenkutsu dachi": "strike", "Gyaku zuki kiba dachi": "strike", "Kiba dachi": "stance", "Reed kick": "kick", "Soto ude": "", "Ushiro geri while stepping": "kick"} {
		assert.Equal(t, kind, b.KindInName(name), name)
	}
	rest, levels, modifiers := b.Glossed("tobu mae dori osu")
	assert.Equal(t, []any{"mae dori", []notation.Level{"high"}, []Modifier{"jumping"}}, []any{rest, levels, modifiers})
	assert.Equal(t, []any{Kind("kick"), Modifier(""), notation.Level("")}, []any{meanings[1].Kind(), meanings[1].Modifier(), meanings[1].Level()})
	assert.Equal(t, []any{Modifier("jumping"), notation.Level("mid")}, []any{meanings[2].Modifier(), Meaning{Means: "middle"}.Level()})
}

// TestTicksOfAFreeLine: what was chosen ahead, and a place for each that was not.
func TestTicksOfAFreeLine(t *testing.T) {
	l := Line{Free: true, Kind: "kick", Quantity: Quantity{Measure: RepsInAll, Reps: 3}}
	assert.Len(t, l.TickList(nil, nil), 3)
	assert.Equal(t, []string{"a", "b", "c"}, l.TickList([]string{"a", "b", "c"}, nil), "all are chosen")
	assert.Equal(t, []string{"a", "b", "c", "d"}, l.TickList([]string{"a", "b", "c", "d"}, nil))
	two := l.TickList([]string{"a"}, nil)
	require.Len(t, two, 3)
	assert.Contains(t, two[1], "2")
	l.Free = false
	assert.Empty(t, l.TickList([]string{"a"}, nil))
}

// TestTargetsAreFoundWithoutTheirSide: of a card, and of a technique's own moves.
func TestTargetsAreFoundWithoutTheirSide(t *testing.T) {
	b := Open(Curriculum{Techniques: []Technique{
		{ID: "jab", Name: "Jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Targets: []string{"the left ear", "Nose"}}},
		{ID: "drill", Name: "Drill", Kind: "combination", TechniqueDetails: TechniqueDetails{Stages: []Stage{{Does: Appends, Steps: ParseSteps([]string{"lead jab to chin"})}, {Does: Appends, Steps: ParseSteps([]string{"lead jab to right knee"})}}}},
	}})
	for target, finds := range map[string][]string{"ear": {"Jab"}, "nose": {"Jab"}, "left": nil, "the": nil, "chin": {"Drill"}, "knee": {"Drill"}, "shin": nil} {
		var found []string
		for i := range b.Techniques {
			if b.Fits(&b.Techniques[i], Wanted{Target: target}) {
				found = append(found, b.Techniques[i].Name)
			}
		}
		assert.Equal(t, finds, found, target)
	}
}

// TestALineSaysWhatItIsAgainst where no remark says more.
func TestALineSaysWhatItIsAgainst(t *testing.T) {
	for page, against := range map[string]string{"Self-defence\nReed (left hook)": "left hook", "Self-defence\nReed (left hook), 2": "left hook", "Self-defence\nReed": ""} {
		c := Curriculum{Program: Program{ID: "p", Name: "P"}, Rungs: []Rung{{ID: "w", Name: "White"}}, Sections: []Section{{ID: "s", Name: "Self-defence", Kind: "self_defence"}}}
		r := binder.Open(c)
		n := 0
		c, err := r.AddPage("w", r.ParsePage(page), func() string { n++; return fmt.Sprint("id", n) })
		require.NoError(t, err)
		l := Open(c).Compile(Asking{RungID: "w"}).Lines[0]
		assert.Equal(t, against, AttackWords(l.Against), page)
	}
}

// TestMeaningsSayWhatIsWrong with the number of the line.
func TestMeaningsSayWhatIsWrong(t *testing.T) {
	for lines, want := range map[string]string{
		"osu = high|osu = low": `line 2: "osu" stands twice`, "osu = high|dori": `line 2: "dori"; write a word`, "= high": "line 1:", "os2 = high": "line 1:", "osu = nicely": `line 1: "nicely" says nothing of a name`,
	} {
		_, err := ParseMeanings(strings.Split(lines, "|"))
		assert.ErrorContains(t, err, want)
	}
	read, err := ParseMeanings([]string{"Osu = HIGH", "hiya' = kick"})
	require.NoError(t, err)
	assert.Equal(t, "osu = high, hiya' = kick", read[0].String()+", "+read[1].String())
}
