package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestPlainNamesUnderSelfDefence: falls, throws and locks by their plain names are what they are wherever they stand; with an attack beside
// them they are answers, and a name in capitals stays a defence.
func TestPlainNamesUnderSelfDefence(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	plain := map[Kind]string{
		"breakfall": "side fall|Back fall|Forward roll|Falling backwards|Fall to the side|Shoulder roll|Front breakfall",
		"throw":     "Hip throw|shoulder throw|Outer reap|Leg sweep|One-arm shoulder throw",
		"lock":      "Wrist lock|Elbow lock|Standing arm lock|Bent arm lock",
	}
	for kind, names := range plain {
		all := strings.Split(names, "|")
		for i, name := range all {
			for _, way := range []string{"%s", "%s, 4", "- %s x4", "%s (L and R)", "3. %s, both sides", "%s slowly"} {
				read := b.ParsePage("Self-defence\n" + fmt.Sprintf(way, name))
				assert.Equal(t, []any{1, kind, "Self-defence"}, []any{len(read), read[0].Kind, read[0].Section}, way, name)
			}
			for _, way := range []string{"%s, %s", "%s and %s", "%s / %s", "%s & %s, 4 each", "%s, %s (L and R)"} {
				other := all[(i+1)%len(all)]
				read := b.ParsePage("Self-defence\n" + fmt.Sprintf(way, name, other))
				if assert.Len(t, read, 2, way, name) {
					assert.Equal(t, []any{capitalised(name), capitalised(other), kind, kind}, []any{read[0].Name, read[1].Name, read[0].Kind, read[1].Kind}, way)
					assert.Equal(t, read[0].Quantity, read[1].Quantity, way)
					assert.Equal(t, strings.Contains(way, "4"), read[0].Quantity == curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 4}, way)
				}
			}
		}
	}
	for _, line := range []string{"Hip throw (bear hug from behind)", "Wrist lock against lapel grab", "Turning Lock", "Falling Throw of the Heron"} {
		assert.Equal(t, Kind("self_defence"), b.ParsePage("Self-defence\n" + line)[0].Kind, line)
	}
}

// TestSaidAsItIsNotRead: amounts and remarks in ways of their own, as they are understood.
func TestSaidAsItIsNotRead(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	for line, want := range map[string]string{
		"Kicks|Round kick, R+L, 10 each":                              "Round kick, 10 a side",
		"Kicks|Hook kick (L/R), 5 each":                               "Hook kick, 5 a side",
		"Kicks|Push kick 10 per leg, hold 2 sec":                      "Push kick, 10 each limb (hold 2 sec)",
		"Kicks|Hook kick x5 (hold 3 seconds)":                         "Hook kick, 5 (hold 3 seconds)",
		"Kicks|Side kick - 5 per leg, slow motion, hold for 2 secs":   "Side kick, 5 each limb (hold for 2 secs, slow motion)",
		"Strikes|Palm heel 10 in a row":                               "Palm heel, 10 (in a row)",
		"Strikes|Jab, 5 clean":                                        "Jab, 5 (clean)",
		"Strikes|Ridge hand x8 with power":                            "Ridge hand, 8 (with power)",
		"Sparring|Technical sparring 50% 2 x 2 min":                   "Technical sparring, 2 x 120 s (50%)",
		"Sparring|Light sparring at 30 % power, 3 x 1 min":            "Light sparring, 3 x 60 s (30 % power)",
		"Forms|Form for the grade: Autumn Gate":                       "Autumn Gate, 1",
		"Forms|Kata for this belt - Autumn Gate":                      "Autumn Gate, 1",
		"Stances|Step & slide in all 4 directions":                    "Step & slide, 5 a side (in all 4 directions)",
		"Stances|Pivot off lead foot, 90 degrees, both ways":          "Pivot off lead foot, 5 a side (90 degrees, both ways)",
		"Self-defence|Attacker grabs collar and strikes with other":   "Attacker grabs collar and strikes with other, 2 a side against lapel grab against straight punch",
		"Self-defence|Arm around the neck from the side":              "Arm around the neck from the side, 2 a side against headlock, side",
		"Self-defence|Wrist release no. 4":                            "Wrist release no. 4, 2 a side against wrist grab",
		"Sets|Kicking set, first half":                                "Kicking set, 1 (first half)",
		"Blocks|Inward block, outward block - from horse, 10 each":    "Inward block, 10 (from horse)",
		"Stances|Cat stance, crane stance (L+R)":                      "Cat stance, 5 a side (L+R)",
		"Stances|Cat stance, crane stance and back stance, both ways": "Cat stance, 5 a side (both ways)",
	} {
		section, typed, _ := strings.Cut(line, "|")
		l := b.ParsePage(section + "\n" + typed)[0]
		_, got, _ := strings.Cut(understood(b, l), ": ")
		assert.Equal(t, want, got, line)
		assert.Empty(t, l.Doubts, line)
	}
	for _, line := range []string{"Kicks|Check low kicks", "Kicks|Duck under a hook", "Strikes|Slip & roll under hooks", "Kicks|Catch a round kick", "Forms|Little Mountain steps 1-8"} {
		section, typed, _ := strings.Cut(line, "|")
		assert.NotEmpty(t, b.ParsePage(section + "\n" + typed)[0].Doubts, line)
	}
	assert.Equal(t, "Forms", b.ParsePage("Sets\nBlocking set 1")[0].Section)
}

// TestPagesReadAsSchoolsWriteThem: short pages whole, as they are understood.
func TestPagesReadAsSchoolsWriteThem(t *testing.T) {
	golden.Alone(t)
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	for page, want := range map[string]string{
		"Technique;Kind;Each side;Must\nJab;strike;10;\nRiver form;form;1;x\nRules of the mat;knowledge;;\nShadow sparring;fitness;;": "strike: Jab, 10 a side" +
			"|form: River form, 1, must|knowledge: Rules of the mat, 1|fitness: Shadow sparring, 60 s",
		"Blocks\nUp down in out\nHigh low": "block: Up block, 5 a side|block: Down block, 5 a side|block: In block, 5 a side" +
			"|block: Out block, 5 a side|block: High block, 5 a side|block: Low block, 5 a side",
		"Kicks\nFront kick 10, side kick 12, back kick 5":                                   "kick: Front kick, 10|kick: side kick, 12|kick: back kick, 5",
		"Warm up & movement\nRope 2 x 3 min\nShuffle 1 min":                                 "fitness: Rope, 2 x 180 s|footwork: Shuffle, 60 s",
		"Fitness\n10 push ups 20 sit ups 30 squats":                                         "fitness: Push ups, 10|fitness: Sit ups, 20|fitness: Squats, 30",
		"Striking Arts\nInverted fist\nNamed techniques\nTwo Doves - hair grab from behind": "strike: Inverted fist, 5 a side|self_defence: Two Doves, 2 a side against hair grab, rear",
		"Sets and forms\nShort 1":                                                           "form: Short 1, 1",
		"Safety\nMy address and phone number\nNever go with strangers\nWrist release": "knowledge: My address and phone number, 1|knowledge: Never go with strangers, 1" +
			"|self_defence: Wrist release, 2 a side against wrist grab",
		"Self-defence\nWrist grab, lapel grab, hair grab": "self_defence: Wrist grab, 2 a side against wrist grab" +
			"|self_defence: Lapel grab, 2 a side against lapel grab|self_defence: Hair grab, 2 a side against hair grab",
		"Self-defence\nKatate dori, ryote dori: one release each": "self_defence: Katate dori, 2 a side against wrist grab (one release each)" +
			"|self_defence: Ryote dori, 2 a side against two-hand wrist grab (one release each)",
		"Time\n3 months at blue\nHas trained at least forty hours since the last grading\nKicks\nSide kick, push your partner back 3 m": "kick: Side kick, 5 a side (push your partner back 3 m)",
	} {
		assert.Equal(t, want, asUnderstood(t, b, page), page)
	}
	for _, page := range []string{"Kicks\nMawashi geri jodan or chudan", "Strikes\nLeft right left right body shot", "Self-defence\nSnapping Twig (left hand on the chest)"} {
		assert.NotEmpty(t, b.ParsePage(page)[0].Doubts, page)
	}
}

// TestSentencesAndChildrensPages: what is told of an attack is answered, what children's pages head is no line, and what one greets with is
// no block.
func TestSentencesAndChildrensPages(t *testing.T) {
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	for page, want := range map[string]string{
		"Defences\nWhen the attacker grabs your wrist, circle over and lock the wrist.\nIf held round the body from behind, drop your weight." +
			"\nAttack with a stick from above: step in, block\nAgainst a two-handed push, step back, front kick.": "self_defence: When the attacker grabs your wrist, 2 a side against" +
			" wrist grab (circle over and lock the wrist.)|self_defence: If held round the body from behind, 2 a side against hug, rear (drop your weight.)|self_defence: Attack with a" +
			" stick from above, 2 a side against stick, high|self_defence: Against a two-handed push, 2 a side against both push (step back, front kick.)",
		"My kicks\nside kick\nMy blocks\nhi block\nlo block\nMy words\nmy teachers name\nMy falling" +
			"\nside fall left side fall right": "kick: side kick, 5 a side" +
			"|block: hi block, 5 a side|block: lo block, 5 a side|knowledge: my teachers name, 1|breakfall: side fall, 5 a side (left and right)",
		"Kumite\nSanbon kumite: jodan and chudan, right and left\nKihon ippon: 2 x jodan, 1 x mae geri" +
			"\nOne-step 1 - 2 left and right": "partner_set: Sanbon kumite, 3 a side (jodan and chudan, right and left)|partner_set: Kihon ippon, 3 a side (2 x jodan, 1 x mae" +
			" geri)|partner_set: One-step 1, 3 a side (left and right)|partner_set: One-step 2, 3 a side (left and right)",
		"Strikes\nOi zuki chudan, 5 forward\nhook punch both arms\nFitness\n30 push-ups, 20 squats in 3 minutes\nStances" +
			"\nFront stance walk 10 steps": "strike: Oi zuki chudan, 5 (forward)" +
			"|strike: hook punch, 5 a side (both arms)|fitness: Push-ups, 30|fitness: Squats, 20 (in 3 minutes)|stance: Front stance walk, 10 (steps)",
		"Blocks\nLong guard vs. jab\nForms\nForm One, all moves, with count" +
			"\nBaby Bear form with music": "block: Long guard vs. jab, 5 a side against lead straight punch|form: Form One, 1 (all moves, with count)|form: Baby Bear form with music, 1",
	} {
		assert.Equal(t, want, asUnderstood(t, b, page), page)
	}
	for _, page := range []string{"Kicks\nKnees\nSkip knee", "Knowledge\nWhat do you do when someone grabs your wrist?"} {
		l := b.ParsePage(page)[0]
		assert.True(t, len(l.Doubts) > 0 || l.Kind == "knowledge", page)
	}
}

// asUnderstood are the lines of a page as they are understood, parted by strokes; none of them is asked about.
func asUnderstood(t *testing.T, b *Reader, page string) string {
	t.Helper()
	var got []string
	for _, l := range b.ParsePage(page) {
		if l.Aside == "" {
			got = append(got, strings.TrimPrefix(understood(b, l), l.Section+": "))
			assert.Empty(t, l.Doubts, l.Text)
		}
	}
	return strings.Join(got, "|")
}

// TestCellsThatAnswerTheirHead: yes and no below a question, and a tick at the end of a row with an empty cell before it, are read; no tick is
// lost with the place to mark.
func TestCellsThatAnswerTheirHead(t *testing.T) {
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	var got []string
	for _, l := range b.ParsePage("Section,Technique,Reps,Each side?,Pads?,Partner needed?,Must pass,Comment\nHands,Jab,20,no,yes,no,,fast\nFeet,Side kick,8,yes,yes,,yes," +
		"\nDefence,Wrist grab escape,3,yes,,yes,yes,\nForms,Form 3,1,,,,yes,\nKnowledge,Club rules,,,,,yes,") {
		if l.Aside == "" {
			got = append(got, strings.TrimPrefix(understood(b, l), l.Section+": "))
			assert.Empty(t, l.Doubts, l.Text)
		}
	}
	assert.Equal(t, []string{"strike: Jab, 20, on pads (fast)", "kick: Side kick, 8 a side, must, on pads", "self_defence: Wrist grab escape, 3 a side, must against wrist grab" +
		" (partner needed)", "form: Form 3, 1, must", "knowledge: Club rules, 1, must"}, got)
	for row, must := range map[string]bool{"Kicks\tSide kick\t8\t\tyes": true, "Kicks\tSide kick\t8\tyes\t": true, "Kicks\tSide kick\t8\t\t\tyes": true, "Kicks\tSide kick\t8\t\tno": false} {
		l := b.ParsePage("Section\tTechnique\tReps\tNotes\tMust pass\n" + strings.Replace(strings.Replace(row, "8\tyes\t", "8\t\tyes", 1), "\t\t\tyes", "\t\tyes", 1))
		assert.Equal(t, must, l[len(l)-1].MustPass, row)
	}
	for _, line := range []string{"Kicks\nSide kick   Pass / Fail", "Kicks\nSide kick\tpass / fail", "Kicks\nSide kick    yes  no", "Kicks\nSide kick   done"} {
		assert.Equal(t, "Side kick", b.ParsePage(line)[0].Name, line)
	}
	for _, line := range []string{"Broken Oar - two hands choke, pushing", "Snapping Twig (left hand on the chest)", "Someone pulls your scarf from behind"} {
		assert.NotEmpty(t, b.ParsePage("Self-defence\n" + line)[0].Doubts, line)
	}
	for line, attack := range map[string]string{"Still Water - knife held at the stomach": "knife thrust", "Leaning Post - hand shake" +
		" grip": "wrist grab", "Rolling Drum - attacker throws a right hook": "right hook", "Lapel grab (left) / punch" +
		" (right)": "left lapel grab, then right straight punch", "2. Wrist grab (right) and hook (left)": "right wrist grab, then left hook"} {
		assert.Equal(t, attack, curriculum.AttackWords(b.ParsePage("Self-defence\n" + line)[0].Attack), line)
	}
}

// TestWhatFollowsAndWhatIsStopped: one move followed by another is a combination, what is done about two attacks is not; a stripe's section at the top
// of a page is a heading; a number of rounds with whom is asked about, and one that belongs to a form is its name.
func TestWhatFollowsAndWhatIsStopped(t *testing.T) {
	b := usualSections(curriculum.Technique{ID: "k", Name: "Swallow kick", Kind: "kick"})
	for page, want := range map[string]string{
		"Kihon\nOuter block followed by a reverse punch x 5":                         "combination: Outer block then reverse punch, 5: Outer block, reverse punch",
		"Defence\nRising block and counter punch":                                    "combination: Rising block and counter punch, 4 a side: Rising block, counter punch",
		"Self-defence\nBroken Oar: attacker throws a right hook; step in, elbow":     "self_defence: Broken Oar, 2 a side against right hook",
		"Self-defence\nGate - Opponent grabs your wrist":                             "self_defence: Gate, 2 a side against wrist grab",
		"Self-defence\nWrist lock vs lapel grab (Tap out)":                           "self_defence: Wrist lock vs lapel grab, 2 a side against lapel grab (Tap out)",
		"Forms\nLong Form 2 on both sides":                                           "form: Long Form 2, 1",
		"Locks: wrist, bent arm, wrist turn-out":                                     "lock: Wrist lock, 3 a side|lock: Bent arm lock, 3 a side|lock: Wrist turn-out, 3 a side",
		"Locks\nElbow\nShoulder lock, 4 a side":                                      "lock: Elbow lock, 3 a side|lock: Shoulder lock, 4 a side",
		"Bag work (3 min rounds)\nRound kick\nSide kick, 10":                         "kick: Round kick, 1 x 180 s, on the bag|kick: Side kick, 10, on the bag",
		"Pads (2 min rounds)\nR1 - side kick\nR2 - hook kick":                        "kick: Side kick, 1 x 120 s, on pads|kick: Hook kick, 1 x 120 s, on pads",
		"Forms\nLong Form 2, 3 a side":                                               "form: Long Form 2, 3 a side",
		"Self-defence\nBunkai for first 3 moves":                                     "self_defence: Bunkai for first 3 moves, 2 a side",
		"Tip 1 (white) - Kicks\nSide kick, 5 each leg":                               "kick: Side kick, 5 each limb",
		"Board breaking\nBoard break - elbow":                                        "board_break: Board break, 1 (elbow)",
		"Knowledge\nTerms: uke, geri":                                                "knowledge: uke, 1|knowledge: geri, 1",
		"Knowledge\nRules of sparring\nCompetition rules":                            "knowledge: Rules of sparring, 1|knowledge: Competition rules, 1",
		"Sparring\nSparring with 16oz gloves, 2 x 2 min\nSparring, 2 x 2 min, 16 oz": "sparring: Sparring with 16oz gloves, 2 x 120 s|sparring: Sparring, 2 x 120 s (16 oz)",
	} {
		assert.Equal(t, want, asUnderstood(t, b, page), page)
	}
	for _, page := range []string{"Defence\nParry jab & cross", "Defence\nBlock the jab and a hook", "Defence\nSlip jab and low kick", "Hands\npunch punch punch",
		"Sparring\nSpar 2 rounds with a partner",
		"Sparring\nRules of sparring", "Board breaking\nBoard break - elbow, side kick",
		"Kicks\nFront kick (or side kick) x10", "Kicks\nSide kick, or a hook kick, 5", "Breaking: 1 board, hand or foot", "Breaking\nhand technique or kick, 1 board"} {
		l := b.ParsePage(page)[0]
		assert.NotEmpty(t, l.Doubts, page)
		assert.True(t, l.Kind != "combination" || strings.HasPrefix(l.Name, "punch punch"), page)
	}
	titled := b.ParsePage("Tip 1 (white tip)\nKicks\nSide kick")
	assert.Equal(t, "the title of the page", titled[0].Aside)
}

// TestASectionThatATechniqueIsCalledToo: a page of one rung made a technique Sparring, and on the next rung's page that word is a heading, where it
// stands over something; over the next heading, at the end, in its own section and on a page without headings it is what is asked.
func TestASectionThatATechniqueIsCalledToo(t *testing.T) {
	b := usualSections(curriculum.Technique{ID: "s", Name: "Sparring", Kind: "sparring"})
	for page, want := range map[string][]string{
		"Kicks\nSide kick\nSparring\nLight sparring, 2 x 2 min": {"Kicks: Side kick", "Sparring: Light sparring"},
		"Kicks\nSide kick\nSparring\nForms\nLong Form":          {"Kicks: Side kick", "Kicks: Sparring", "Forms: Long Form"},
		"Kicks\nSide kick\nSparring":                            {"Kicks: Side kick", "Kicks: Sparring"},
		"Kicks\nSide kick\nSparring, 3 x 2 min\nHook kick":      {"Kicks: Side kick", "Kicks: Sparring", "Kicks: Hook kick"},
		"Sparring\nSide kick":                                   {"Sparring: Sparring", "Kicks: Side kick"},
	} {
		var got []string
		for _, l := range b.ParsePage(page) {
			if l.Aside == "" {
				got = append(got, l.Section+": "+l.Name)
			}
		}
		assert.Equal(t, want, got, page)
	}
}
