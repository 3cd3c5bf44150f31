package binder

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
)

// TestBoundsOfPages: each small rule of the pages at its bounds, what is read on this side and on that.
func TestBoundsOfPages(t *testing.T) {
	b := island(nil)
	lines := func(in string) []string { return strings.Split(in, "|") }
	joined := func(out []string) string { return strings.Join(out, "|") }
	for rule, x := range map[string]struct {
		read  func(in string) string
		cases map[string]string
	}{
		"long dashes":      {inHyphens, map[string]string{"Jab–cross": "Jab–cross", "Jab–cross–hook": "Jab-cross-hook", "Jab – cross – hook": "Jab – cross – hook", "1–2–3": "1–2–3"}},
		"numbers in words": {inFigures, map[string]string{"Twenty straight punches": "20 straight punches", "- ten front kicks": "- 10 front kicks", "Then five elbows": "Then five elbows", "Five Swords": "Five Swords", "ten times each": "ten times each", "four kicks": "four kicks", "jab, ten crosses and six kicks": "jab, 10 crosses and 6 kicks", "ten things": "ten things"}},
		"counts behind":    {func(in string) string { return joined(b.amountsBehind(lines(in))) }, map[string]string{"jab 20|hook 5": "jab, 20|hook, 5", "jab 20|hook 4": "jab 20|hook 4", "jab 20|hook": "jab 20|hook", "front 10|side 5 (each leg)": "10 front, each leg|5 side, each leg", "front 10|side 4 (each leg)": "10 front, each leg|4 side, each leg", "front 10|side 5 (low)": "front 10|side 5 (low)"}},
		"of all": {func(in string) string { each, all := b.ofAll(lines(in)); return joined(each) + ">" + all }, map[string]string{
			"jab|cross, x":           "jab|cross, x>",
			"jab|cross|10 each side": "jab|cross>, 10 each side", "jab|cross|10 of each": "jab|cross>, 10", "jab|cross|10 of each|R & L": "jab|cross>, 10, R & L", "jab|cross – 10 each leg": "jab|cross>, 10 each leg", "jab 5|cross|10 each side": "jab 5|cross|10 each side>", "jab 5 times|cross|10 each side": "jab 5 times|cross|10 each side>",
			"jab|10 each side": "jab|10 each side>", "jab": "jab>", "jab|cross|10": "jab|cross|10>", "jab|cross (30 s each)": "jab|cross>, 30 s", "jab|cross (low)": "jab|cross (low)>", "jab|low kick 10 each leg": "jab|low kick>, 10 each leg", "jab|cross – slow": "jab|cross – slow>"}},
		"in series":        {func(in string) string { return joined(b.inSeries(in, "form")) }, map[string]string{"Tide 7, 8, 9": "Tide 7|Tide 8|Tide 9", "Tide 7 & 8": "Tide 7|Tide 8", "Tide 7, 9": "", "Tide 7": "", "Tides 1, 2": "Tide 1|Tide 2", "1. Tide 1-4, Wave 1-2": "1. Tide 1-4|1. Wave 1-2", "Tide 1-4, Wave": "", "Front kick 1, 2": ""}},
		"all but the last": {func(in string) string { return fmt.Sprint(sameButLast(lines(in))) }, map[string]string{"Tide One|Tide Two": "true", "Tide One|Wave Two": "false", "One|Two": "false", "Tide One": "false", "A B C D|A B C E": "true", "A B C D E|A B C D F": "false"}},
		"plain numbers":    {func(in string) string { return joined(plainNumbers(lines(in))) }, map[string]string{"1 a|2 b|3 c": "  a|  b|  c", "1 a|2 b": "1 a|2 b", "2 a|3 b|4 c": "2 a|3 b|4 c", "x|1 a|2 b|3 c|1 d|2 e": "x|  a|  b|  c|1 d|2 e", "1 a|2 b|3 c|5 d": "  a|  b|  c|5 d", "1. a|2. b|3. c": "1. a|2. b|3. c"}},
		"a cell of sides": {func(in string) string {
			amount, side, _ := strings.Cut(in, "|")
			both, remark := sideCell(amount, side)
			return both + "|" + remark
		}, map[string]string{"10|each": "10 each side|", "10|L/R": "10, L/R|", "10|both": "10 both side|", "10|right": "10| (right)", "10|-": "10|", "10|n/a": "10|", "30 s|each": "30 s each side|", "|each": "| (each)"}},
		"a cell with its kind": {unlabelled, map[string]string{"Pattern: Three Rivers": "Three Rivers, form", "Board: hammer fist": "hammer fist, on boards", "Ground: get up": "get up (Ground)", "Front kick": "Front kick", "Rest: now": "Rest: now"}},
		"an amount first":      {func(in string) string { return strings.Join(leadingAmount(in), " ") }, map[string]string{"10 on pads": "", "10 each leg on pads": "10 each leg", "10": "10", "on pads": "", "with 10 times": "", "5 times low": "5 times"}},
		"short list":           {func(in string) string { return fmt.Sprint(listOfShort(in)) }, map[string]string{"wrist, lapel, hair": "true", "wrist, lapel": "false", "step left, block, punch": "false", "from the wrist, lapel, hair": "false"}},
		"of how many": {func(in string) string {
			g, _ := b.draws(in)
			if g == nil {
				return ""
			}
			return fmt.Sprint(g.Name, " ", g.Draw)
		}, map[string]string{"3 questions from lore": "Lore 3", "1 question from lore": "Lore 1", "50 questions from lore": "Lore 50", "51 questions from lore": "", "0 questions from lore": "", "two items from the list": "Questions 2"}},
		"numbers in a line":  {func(in string) string { return joined(numberedInLine(in)) }, map[string]string{"1. wrist 2. lapel": "wrist|lapel", "1) wrist, same side; 2) lapel": "wrist, same side|lapel", "1. wrist": "wrist", "2. wrist 3. lapel": "", "1. wrist 3. lapel": "", "x 1. wrist 2. lapel": ""}},
		"each of a list":     {func(in string) string { return joined(b.inOneStance(in)) }, map[string]string{"Horse stance: low block, jab": "low block (Horse stance)|jab (Horse stance)", "Moving forward: low block, 8 steps": "low block (Moving forward), 8 steps", "Horse stance: low, jab": "", "Horse: low block": "", "- In cat stance - low block, jab x5": "low block (cat stance), x5|jab (cat stance), x5"}},
		"exercises":          {func(in string) string { return joined(b.exercisesIn(in, "fitness")) }, map[string]string{"15 push-ups, squats 20, plank 1 min": "Push-ups x 15|Squats x 20|Plank, 1 min", "15 push-ups": "", "15 push-ups, squats": "", "15 push-ups, 30 s rest": "", "Finish - 15 push-ups and 20 squats": "Push-ups x 15|Squats x 20", "Push ups - boys 20, girls 15": "", "15 push-ups, 10 front kicks": ""}},
		"a range of a cell":  {func(in string) string { return fmt.Sprint(rangeCell.FindStringSubmatch(in)) }, map[string]string{"1-4": "[1-4 1 4]", "#1-#4": "[#1-#4 1 4]", "nos 2 to 3": "[nos 2 to 3 2 3]", "10": "[]", "1-": "[]"}},
		"rounds and rest":    {roundsAndRest, map[string]string{"1) 3 rounds of 2 min, 30 sec rest": "1) 3 x 2 min, 30 sec rest", "3 rounds of 2 min, 30 sec rest": "3 x 2 min, 30 sec rest"}},
		"per":                {func(in string) string { amount, per, _ := strings.Cut(in, "|"); return perCell(amount, per) }, map[string]string{"10|side": "10 per side", "1|min": "1 min", "4|lengths": "4 (per lengths)", "10|": "10", "|side": ""}},
		"a cell of settings": {settingCell, map[string]string{"air": "", "target": "on the target", "partner": "with partner", "hall": "hall", "": ""}},
		"a rule of the rung": {func(in string) string { return fmt.Sprint(isRule(in)) }, map[string]string{"Minimum 24 lessons since last grading, min age 8.": "true", "min age 8": "true", "50 classes": "false", "Time: 6 months, 50 classes": "true", "Front kick, min age 8": "false", "Attend at least two sparring classes": "true", "own gloves": "false", "must have own gloves": "true", "": "false"}},
		"how needed":         {howNeeded, map[string]string{"Must: three kicks.": "three kicks, must", "- Could: own combo": "- own combo, bonus", "Should: slip": "slip", "Must: attend 40 classes": "Must: attend 40 classes", "Must pass": "Must pass"}},
		"a heading's remark": {headNote, map[string]string{"Kicks (from guard)": "from guard", "Kicks (5x forward, in line)": "forward, in line", "Kicks (10 each leg)": "", "Kicks (red stripe)": "", "Kicks (on pads)": "", "Kicks (both sides)": "", "Kicks (chagi)": "", "Kicks (all on the right)": "all on the right", "Kicks (five each)": "", "Kicks (from guard unless said)": "from guard"}},
		"boxes":              {func(in string) string { return joined(boxesIn(in)) }, map[string]string{"Red stripe ☐ jab ☐ cross": "jab|cross", "☐ jab ☐ cross": "jab|cross", "☐ jab": "", "My ☐ jab ☐ cross": ""}},
		"both roles":         {func(in string) string { return joined(b.bothRoles([]string{in}, "partner_set")) }, map[string]string{"Five-step, both roles": "Five-step, as attacker|Five-step, as defender", "Five-step (both roles), slowly": "Five-step, as attacker, slowly|Five-step, as defender, slowly", "Five-step": "Five-step"}},
		"cells with keys": {func(in string) string {
			out, head := keyedRows(lines(strings.ReplaceAll(in, ";", "\t")))
			return strings.ReplaceAll(head+"|"+joined(out), "\t", ";")
		}, map[string]string{"What: Jab;How often: 10|What: Hook;How often: 5": "What;How often|Jab;10|Hook;5", "What: Jab;How often: 10|Hook;5": "|What: Jab;How often: 10|Hook;5", "What: Jab;How often: 10|What: Hook;Where: bag": "|What: Jab;How often: 10|What: Hook;Where: bag", "Up: Jab;Down: 10": "|Up: Jab;Down: 10"}},
		"pipes":           {func(in string) string { return joined(withoutPipes(strings.Split(in, "\n"))) }, map[string]string{"Jab | 10": "Jab | 10", "Jab | 10\nHook | 5": "Jab\t10|Hook\t5", "| Jab | 10 |\n| Hook | 5 |": "| Jab | 10 ||| Hook | 5 |"}},
		"codes":           {func(in string) string { return joined(withoutCodes(lines(in))) }, map[string]string{"K1 Front kick|K2 Side kick|B1 Low block": "   Front kick|   Side kick|   Low block", "K1 Front kick|K2 Side kick": "K1 Front kick|K2 Side kick", "K1 Front kick|K2 Side kick|K3 Axe kick": "K1 Front kick|K2 Side kick|K3 Axe kick", "K1 Front kick|K3 Side kick|B1 Low block": "K1 Front kick|K3 Side kick|B1 Low block"}},
		"sections behind": {func(in string) string { return joined(b.sectionsBehind(lines(in))) }, map[string]string{"Front kick [KICKS]": "KICKS: Front kick", "Front kick [LOUD]": "Front kick [LOUD]", "Kicks 30%": "Kicks", "Push-ups 30%": "Push-ups 30%", "Which kicks? Front and side.": "Kicks: Front, side.", "Which belt? Yours.": "Which belt? Yours."}},
		"grabs":           {func(in string) string { return joined(grabsOf(in)) }, map[string]string{"Wrist grabs: straight, cross": "Straight wrist grab|Cross wrist grab", "Clothing grab: lapel, sleeve": "Lapel grab|Sleeve grab", "Wrist grab: straight": "", "Wrist grab: step left, pull": "", "Wrist grab: from the very far left, cross": ""}},
		"of a cell": {func(in string) string {
			r := &pageReader{Reader: b, inCell: strings.Split(in, ",")}
			return joined(r.ofACell(in+", 3 a side", "throw"))
		}, map[string]string{"leg sweep, hip throw": "Leg sweep, 3 a side|Hip throw, 3 a side", "leg sweep": "", "leg sweep, low kick": "", "leg sweep, 5 throws": ""}},
		"a small number":   {inFigures, map[string]string{"Three clean front kicks": "3 clean front kicks", "Two different kicks": "Two different kicks", "Three kicks": "Three kicks", "jab, two low elbows": "jab, 2 low elbows"}},
		"a range behind":   {b.rangeBehind, map[string]string{"Grab art 1 - 5": "Grab art 1-5", "2) Grab art: nos. 1 to 12": "2) Grab art 1-12", "Wrist grabs: 1–4": "Wrist grab 1-4", "Grab art 1 - 1": "Grab art 1 - 1", "Grab art 2 - 5": "Grab art 2 - 5", "Kicks: 1-4": "Kicks: 1-4", "Kicks 1 - 4": "Kicks 1-4", "Korean counting 1 - 10": "Korean counting 1 - 10", "Grab art 1 - 5 pts": "Grab art 1 - 5 pts"}},
		"last of a list":   {func(in string) string { return joined(b.lastTwo(lines(in), true, "kick")) }, map[string]string{"front|side and axe": "front|side|axe", "front|side and round kick": "front|side|round kick", "front|side and fast round kick": "front|side and fast round kick", "front|side and low block": "front|side and low block", "front|kneel and round kick": "front|kneel and round kick", "side and axe": "side and axe"}},
		"what stripes say": {func(in string) string { l := lines(in); return fmt.Sprint(len(b.stripesSay(l)), " ", joined(l)) }, map[string]string{"Red stripe = kicks|Red stripe|Low kick": "1 Red stripe = kicks|kicks|Low kick", "Red stripe = kicks|Low kick": "0 Red stripe = kicks|Low kick", "Red stripe = boldness|Red stripe": "0 Red stripe = boldness|Red stripe"}},
		"a word of many": {func(in string) string {
			head, kind, _ := strings.Cut(in, "|")
			return ownNoun(head, Kind(kind))
		}, map[string]string{"Elbows|strike": "elbow", "Punches|strike": "punch", "punch|strike": "punch", "punch|kick": "", "Strikes|strike": "", "Parries|block": "parry", "Elbows|kick": "", "Hand elbows|strike": "", "Elbow|strike": "", "Chagi|kick": "chagi"}},
	} {
		for in, want := range x.cases {
			assert.Equal(t, want, x.read(in), "%s: %s", rule, in)
		}
	}
}

// TestBoundsOfLines: what a line on a page of its own section becomes, on both sides of a rule.
func TestBoundsOfLines(t *testing.T) {
	for page, want := range map[string]string{
		"Kicks|Switch kick, 10 (5 each leg)": "kick: Switch kick, 5 each limb [switching]", "Kicks|Switch kick, 10 (6 each leg)": "? kick: Switch kick, 10 (6 each leg) [switching]", "Kicks|Low kick on the shield, 8, each leg": "kick: Low kick, 8 each limb, on pads",
		"Kicks|Front kick w/ kiai x10": "kick: Front kick, 10 (with kiai)", "Kicks|Hook kick holding the wall x5": "kick: Hook kick, 5, supported (holding the wall)", "Courtesy|Tie the belt without help": "courtesy: Tie the belt without help, 1", "Forms|Tide without help": "form: Tide, 1 (without help)",
		"Self-defence|Headlock from the side (Escaping Ram)": "self_defence: Escaping Ram, 2 a side against headlock, side", "Self-defence|Headlock from the side (escaping ram)": "self_defence: Headlock from the side, 2 a side against headlock, side (escaping ram)", "Self-defence|Headlock from the side (Ram)": "self_defence: Headlock from the side, 2 a side against headlock, side (Ram)",
		"Sparring|2 rounds pads, 2 min each": "sparring: Sparring, 2 x 120 s, on pads", "Sparring|Free": "sparring: Free sparring, 2 x 60 s, 30 s rest", "Sparring: continuous, 2 x 90 s": "sparring: Sparring, 2 x 90 s (continuous)",
		"Kicks (each leg 8x)|low kick": "kick: low kick, 8 each limb", "Strikes (each 10x on pads)|palm": "strike: palm, 10, on pads", "Kicks (10 of each)|low kick": "kick: low kick, 10",
		"Kicks|5 high kicks": "kick: High kick, 5", "Kicks|5 high kick": "? kick: High kick, 5", "Kicks|5 basic kicks": "? kick: Basic kick, 5",
		"Board break: side kick":                       "kick: Side kick, 1, on boards",
		"Combinations|Jab - cross|- jab, hook":         "combination: Jab - cross, 4 a side: Jab, cross|combination: jab, hook, 4 a side: jab, hook",
		"Blocks|Rising block, 5 back|Low block, same":  "block: Rising block, 5 (back)|block: Low block, 5 (back)",
		"Kicks: front, side, round x10; back, hook x6": "kick: Front kick, 10|kick: Side kick, 10|kick: Round kick, 10|kick: Back kick, 6|kick: Hook kick, 6",
		"Blocks|up block, in block":                    "block: Up block, 5 a side|block: In block, 5 a side", "Strikes|double jab, cross, 10": "combination: double jab, cross, 10: double jab, cross",
		"Knowledge|What is a jab? Who is your partner?": "knowledge: What is a jab?, 1|knowledge: Who is your partner?, 1", "Strikes|1-2-low kick, 10|1-2, 10": "? combination: 1-2-low kick, 10|combination: 1-2, 10",
		"Blocks|Low block, punch, 5 a side": "combination: Low block, punch, 5 a side: Low block, punch", "Blocks|Low block, partner kicks, 1 min": "block: Low block, 60 s (partner kicks)",
		"Strikes|Shadow boxing, 2 min": "fitness: Shadow boxing, 120 s", "Terminology: uke = block, geri = kick": "knowledge: uke = block, 1|knowledge: geri = kick, 1",
		"Self-defence|Turning Mill - front push: step back, strike.": "self_defence: Turning Mill, 2 a side against push",
		"Fitness|Frog jumps across the mat":                          "? fitness: Frog jumps across the mat, 60 s", "Fitness|Frog jumps across the mat, 10": "fitness: Frog jumps across the mat, 10", "Kicks|Kata Two, 5": "? kick: Kata Two, 5",
		"Strikes|jab; cross; low kick": "strike: Jab, 5 a side|strike: Cross, 5 a side|kick: Low kick, 5 a side", "Strikes|jab; knee": "strike: Jab, 5 a side|strike: Knee, 5 a side",
		"Self-defence|Locked Door (full nelson), Open Door (push)": "self_defence: Locked Door, 2 a side against full nelson, rear|self_defence: Open Door, 2 a side against push", "Self-defence|Wrist release A, B, 3 a side": "self_defence: Wrist release A, 3 a side against wrist grab|self_defence: Wrist release B, 3 a side against wrist grab",
		"Kicks|10 front, 8 side - each leg": "kick: Front kick, 10 each limb|kick: Side kick, 8 each limb", "Kicks|Front": "kick: Front kick, 5 a side", "Kicks|Mill": "kick: Mill, 5 a side", "Kicks (from guard)|low kick, 5": "kick: low kick, 5 (from guard)", "Kicks - red stripe|low kick, 5": "kick: low kick, 5",
		"Kicks|low kick (10)|high kick (5)|hook kick (3)": "? kick: low kick, 10|kick: high kick, 5|kick: hook kick, 3", "Kicks|low kick (10)|high kick (5)": "? kick: low kick, 5 a side (10)|? kick: high kick, 5 a side (5)", "Self-defence|Throat Release: choke from behind|Tuck the chin and turn in.": "self_defence: Throat Release, 2 a side against rear choke, rear",
		"Kicks|Long round kick low, 5": "kick: Long round kick, 5, level low", "Kicks|Round kick, 5, middle height": "kick: Round kick, 5, level mid", "Sparring|4 opponents, 1 minute each": "sparring: Sparring, 4 x 60 s (4 opponents)", "Strikes|1 min rest": "? : , 0 x 0 s, as ", "Forms|Tide One & Tide Two": "form: Tide One, 1|form: Tide Two, 1",
		"Fitness|Plank till the music stops": "? fitness: Plank till the music stops, 60 s", "Fitness|Plank till the music stops, 40 s": "fitness: Plank till the music stops, 40 s", "Kicks|Half moon kick, either leg, 6": "kick: Half moon kick, 6 (either leg)",
		"Uchi komi x 30":              "throw: Uchi komi, 30",
		"Strikes|Push then palm heel": "? strike: Push then palm heel, 5 a side", "Strikes|Push then palm heel [kind strike]": "strike: Push then palm heel, 5 a side",
		"Evasions|Slip vs jab|Check vs low kick|Duck (hook)": "evasion: Slip vs jab, 5 a side against lead straight punch|evasion: Check vs low kick, 5 a side against low kick|evasion: Duck, 5 a side (hook)",
		"Check vs low kick":                                                            "block: Check vs low kick, 5 a side against low kick",
		"Blocks|Parry vs jab and cross":                                                "block: Parry vs jab and cross, 5 a side against lead straight punch against rear straight punch",
		"Throws|Hip throw vs lapel grab":                                               "throw: Hip throw vs lapel grab, 3 a side against lapel grab",
		"Blocks|Double parry against jab, cross":                                       "? combination: Double parry against jab, cross, 4 a side: Double parry against jab, cross",
		"Blocks|Twin parry (against jab, cross)":                                       "block: Twin parry, 5 a side (against jab, cross)",
		"Throws|Low sweep (against jab, cross)":                                        "throw: Low sweep, 3 a side against lead straight punch against rear straight punch",
		"Kicks|Front kick against the bag":                                             "kick: Front kick, 5 a side, on the bag",
		"Self Defence|Wrist: same side, cross side":                                    "? self_defence: Wrist, 2 a side against wrist grab (same side, cross side)",
		"Self Defence|Wrist: same side":                                                "self_defence: Wrist, 2 a side against wrist grab (same side)",
		"Self Defence|Strangle from front, rear":                                       "? self_defence: Strangle from front, 2 a side against front choke (rear)",
		"Stances|Horse stance for one full minute":                                     "stance: Horse stance, 60 s",
		"Kicks - low kick, high kick & hook kick, 10 each leg":                         "kick: Low kick, 10 each limb|kick: High kick, 10 each limb|kick: Hook kick, 10 each limb",
		"Blocks: high / mid / low, 5 each":                                             "block: High block, 5|block: Mid block, 5|block: Low block, 5",
		"Kicks: front, side 10 each":                                                   "kick: Front kick, 10|kick: Side kick, 10",
		"Kihon: oi-zuki, gyaku-zuki - 5 each up the hall":                              "strike: Oi-zuki, 5 (up the hall)|strike: Gyaku-zuki, 5 (up the hall)",
		"Bo form: Long Heron":                                                          "form: Long Heron, 1 (Bo form)",
		"Kicks|teep, teep, switch kick, 15 per side":                                   "combination: teep, teep, switch kick, 15 a side: teep, teep, switch kick",
		"Strikes|jab, cross, hook combination on pads, 2 mins":                         "combination: jab, cross, hook, 120 s, on pads: jab, cross, hook",
		"Sambo matsogi 1-2 both sides, ibo matsogi 1-2":                                "partner_set: Sambo matsogi 1, 3 a side (both sides)|partner_set: Sambo matsogi 2, 3 a side (both sides)|partner_set: Ibo matsogi 1, 3 a side|partner_set: Ibo matsogi 2, 3 a side",
		"One-steps - numbers 1, 2 and 3|and to break a thin board with a hammer fist.": "partner_set: One-step 1, 3 a side|partner_set: One-step 2, 3 a side|partner_set: One-step 3, 3 a side|board_break: break a thin board with a hammer fist, 1",
		"Kicks|Jump kick over the pad":                                                 "kick: Jump kick over the pad, 5 a side [jumping]",
		"Explain|why we bow":                                                           "knowledge: why we bow, 1",
		"Part A|low kick, 5|Part B|Reed Form":                                          "kick: low kick, 5|form: Reed Form, 1",
		"Grip & stances|Overhead twirl 5 R 5 L":                                        "? stance: Overhead twirl, 5 a side",
		"Kicks: front, side, 10 each leg, with control":                                "kick: Front kick, 10 each limb (with control)|kick: Side kick, 10 each limb (with control)",
		"Kicks: front, side x 10 each with snap":                                       "kick: Front kick, 10 (with snap)|kick: Side kick, 10 (with snap)",
		"Forms|Then each does Storm Form.":                                             "form: Storm Form, 1",
		"Every candidate performs 10 jabs":                                             "strike: Jab, 10",
		"Sparring - not at this grade|Kicks|low kick, 5":                               "~ it asks nothing|kick: low kick, 5",
		"Kicks|Sweep kick, 5 and 5":                                                    "kick: Sweep kick, 5 a side",
		"Sparring|1-step: 5 own":                                                       "partner_set: 1-step, 5, free choice",
		"Sparring|3 step sparring 1-2":                                                 "partner_set: 3-step sparring 1, 3 a side|partner_set: 3-step sparring 2, 3 a side",
		"Push hands 2 x 2 mins":                                                        "partner_set: Push hands, 2 x 120 s",
		"Being safe|Say NO loudly and run to a grown up":                               "self_defence: Say NO loudly and run to a grown up, 2 a side",
		"Self-defence|Any five defences of your choice":                                "self_defence: Defence of your choice, 5, free choice",
		"Forms|Own choice of any two forms":                                            "form: Own choice of form, 2, free choice",
		"Combinations|3 combinations of your own":                                      "combination: Combination of your own, 3, free choice",
		"Forms|Form (own choice)":                                                      "form: Own choice form, 1, free choice",
		"Kata: own choice out of two":                                                  "form: Own choice kata, 1, free choice (out of two)",
		"Sparring|One-step: 5 of your own":                                             "partner_set: One-step of your own, 5, free choice",
		"Forms|Candidate's choice: 2 forms":                                            "form: Candidate's choice form, 2, free choice",
		"Forms|Make up a kata":                                                         "form: Own kata, 1, free choice",
		"Combinations|Combination of 4 moves, own choice":                              "combination: Own choice combination, 1, free choice (of 4 moves)",
		"Combinations|Own combos, 2":                                                   "combination: Own combo, 2, free choice",
		"Self-defence|Two defences of your choice against a grab":                      "self_defence: Defence of your choice, 2, free choice (against a grab)",
		"Forms|Two forms of the candidate's choice, one chosen by the panel":           "? form: Two forms of the candidate's choice, 1 (one chosen by the panel)",
		"Kicks|Kicks of your choice x 10":                                              "? kick: Kicks of your choice, 10",
		"Throws|Free throw: one you like":                                              "? throw: Free throw, 3 a side: one you like",
		"Kihon|Stepping punch, 10 up and down":                                         "strike: Stepping punch, 10 each way [stepping]",
		"Strikes|Front punch up and down the hall":                                     "strike: Front punch, 5 a side (up and down the hall)",
		"Kihon|Shuffle jab|Shuffle back":                                               "strike: Shuffle jab, 5 a side|footwork: Shuffle back, 5 a side",
		"R1 boxing only (2 min): reed jab, hooks":                                      "? strike: Reed jab, 5 a side (R1 boxing only – 2 min)|? strike: Hooks, 5 a side (R1 boxing only – 2 min)",
		"a. jab, 5|b. cross, 5|i. Power test: side kick through one board|j. The meaning of the form": "strike: Jab, 5|strike: cross, 5|kick: Side kick, 1, on boards|knowledge: The meaning of the form, 1",
		"l. punch, 5|r. punch, 5": "strike: l. punch, 5|strike: r. punch, 5",
		"Station 1 (stances and blocks)|Long stance|Station 2 (ground)|Side fall, 5|Station 3: Kicks|reed": "stance: Long stance, 5 a side|breakfall: Side fall, 5|kick: reed, 5 a side",
		"Station 1 (kicks)|reed, 5|Station 2 (pads)|cross, 5":                                              "kick: reed, 5|strike: cross, 5, on pads",
		"Moving forward, 4 low blocks":                                                                     "block: Low block, 4 (Moving forward)",
		"Kicks|Knee kick, holding the pad high 15 each":                                                    "kick: Knee kick, 15 a side (holding the pad high)",
		"how to roll over one shoulder":                                                                    "breakfall: roll over one shoulder, 5",
		"how to bow":                                                                                       "knowledge: how to bow, 1",
		"two ways to get free from a front choke":                                                          "self_defence: get free from a front choke, 2 a side against front choke (two ways)",
		"Low block / jab combination x6":                                                                   "combination: Low block / jab combination, 6: Low block, jab",
		"punsh x 10|frunt blok x6|blok high|hop on 1 foot, 5":                                              "strike: punsh, 10|block: frunt blok, 6|block: blok high, 5 a side|fitness: hop on 1 foot, 5",
		"Hop to the cone":                                                                                  "? : Hop to the cone, 5 a side",
		"Hop side kick, 5":                                                                                 "kick: Hop side kick, 5",
		"Character|be kind at home - note from mum":                                                        "character: be kind at home, 1 (note from mum)",
		"Self-defence|Still Gate [front kick, R]":                                                          "self_defence: Still Gate, 2 a side against right front kick",
		"Forms|Reed Form|In addition you perform any form already learnt.":                                 "form: Reed Form, 1|? : , 0 x 0 s, as ",
		"Padwork 3x3min":                                                                                   "combination: Padwork, 3 x 180 s",
		"Kicks|> reed, 5|> low kick, 5|> hook kick, 5":                                                     "kick: reed, 5|kick: low kick, 5|kick: hook kick, 5", "Kicks|reed, 5|low kick, 5|> mind the knee": "kick: reed, 5|kick: low kick, 5|~ a remark on the page",
		"Stance|> Left lead|> Right lead|> Low lead":       "stance: Left lead, 5 a side|stance: Right lead, 5 a side|stance: Low lead, 5 a side",
		"Falls|- Side fall, 2|On the ground|- Arm bar, 2":  "breakfall: Side fall, 2|lock: Arm bar, 2",
		"Card 1 [strike]: jab; cross; elbow. 4x each, R+L": "strike: Jab, 4 a side|strike: cross, 4 a side|strike: elbow, 4 a side|~ how much of each of what stands above",
		"Card 2 (block): up, down - repeat left":           "block: Up block, 5 a side|block: Down block, 5 a side (repeat left)",
		"bonus: forward roll":                              "breakfall: forward roll, 5, bonus", "Fitness is 20 press ups / 20 squats": "fitness: Press ups, 20|fitness: Squats, 20",
		"A few questions - who taught us?, why do we bow?": "knowledge: who taught us?, 1|knowledge: why do we bow?, 1",
		"Sparring|3-step 5 only":                           "partner_set: 3-step 5, 3 a side", "20 press-ups, 20 squats – no rest": "fitness: Press-ups, 20|fitness: Squats, 20 (no rest)",
		"stand on one leg ... 10 seconds each": "balance: stand on one leg, 10 s a side", "stand on one leg for ten breaths": "? balance: stand on one leg for ten breaths, 5 a side without touching down",
		"Jump over the stick, 5|jump off the step": "fitness: Jump over the stick, 5|? fitness: jump off the step, 60 s", "Form: First Steps": "form: First Steps, 1", "Form: first steps": "? : , 0 x 0 s, as ",
		"Badge 3 : the Heron|reed kick, 5": "~ the title of the page|kick: reed kick, 5", "Hi all, here is Saturday:|low kick, 5": "~ it leads in what follows|kick: low kick, 5",
		"O  I can count to 10|O  Front kick 5 + 5|o Low block, 3": "knowledge: Count to 10, 1|kick: Front kick, 5 a side|block: Low block, 3", "O  Front kick, 5|Low block, 3": "kick: O Front kick, 5|block: Low block, 3",
		"You should be able to throw a low kick, at least eight times in a row.": "kick: Low kick, 8 (at least in a row)", "Finish with thirty press-ups.": "fitness: Press-ups, 30",
		"You'll do two rounds of light sparring, ninety seconds each, with somebody taller": "sparring: Light sparring, 2 x 90 s (with somebody taller)",
		"Be ready to defend a shoulder grab and a push.":                                    "self_defence: defend a shoulder grab, 2 a side against shoulder grab|self_defence: defend a push, 2 a side against push",
		"I will also ask you why we bow":                                                    "knowledge: Why we bow, 1", "Blocks|Blocks against the same five": "? : , 0 x 0 s, as ", "Disarm from overhead strike": "self_defence: Disarm from overhead strike, 2 a side",
		"Strikes: jab, left temple, right temple, left knee – 5 of each": "strike: Jab, 5|strike: Left temple, 5|? strike: Right temple, 5 (left knee)", "uke: age gedan 10x": "block: Age uke, 10|block: Gedan uke, 10",
		"Falls|Getting up, from both sides": "breakfall: Getting up, 5 (from both sides)", "Fitness test 30 pressups 50 squats": "fitness: Pressups, 30|fitness: Squats, 50", "Set: Willow Staff One": "form: Willow Staff One, 1",
		"Character|Be good at school (teacher signs here: ____)": "character: Be good at school, 1",
		"Heel hook|Heel hook kick, 5|Guillotine|Key lock, 2":     "lock: Heel hook, 3 a side|kick: Heel hook kick, 5|self_defence: Guillotine, 2 a side|lock: Key lock, 2",
		"Combinations|Combo 1 = jab, cross":                      "? combination: Combo 1, 4 a side: jab, cross", "Combinations|Combo 1 – jab, cross": "? combination: Combo 1, 4 a side: jab, cross",
	} {
		assert.Equal(t, want, understoodIn(shore(), strings.ReplaceAll(page, "|", "\n")), page)
	}
}

// TestBreaksStandWithWhatBreaks: where breaks have no section of their own, an elbow stands under the strikes and a kick under the kicks, known or new.
func TestBreaksStandWithWhatBreaks(t *testing.T) {
	for line, want := range map[string]string{"Breaks|Hammer fist, 1 board": "Strikes", "Breaks|Side kick, 1 board": "Kicks", "Breaking: low kick": "Kicks", "Breaking: jab": "Strikes", "Elbow, 1 board": "Strikes"} {
		lines := shore().ParsePage(strings.ReplaceAll(line, "|", "\n"))
		last := lines[len(lines)-1]
		assert.Equal(t, []any{want, curriculum.Boards, ""}, []any{last.Section, last.Setting, last.Problem}, line)
	}
}

// TestOneSideOnly: what is trained on one side alone is asked on that side, however it is written.
func TestOneSideOnly(t *testing.T) {
	for behind, want := range map[string]curriculum.SidePolicy{", left side only": curriculum.LeftOnly, " (right side only)": curriculum.RightOnly, " - left leg only": curriculum.LeftOnly, ", right hand only": curriculum.RightOnly, ", right only": curriculum.RightOnly, ", left side": ""} {
		l := shore().ParsePage("Self-defence\nLeaning Tower (bear hug)" + behind)[0]
		assert.Equal(t, []any{want, true}, []any{l.Sides, l.Problem == ""}, behind)
		amount := "2 a side"
		if want != "" {
			amount = "2 times"
			assert.Contains(t, l.Note, strings.ToLower(string(want)), "it is said where it is called")
		}
		assert.Equal(t, amount, l.Quantity.String(), "there is no other side")
	}
}

// TestAsMuchAsBelow: what says no amount is asked as on the nearest rung below that asks it in the same role and setting; what says one, or
// stands under a heading with one, keeps its own.
func TestAsMuchAsBelow(t *testing.T) {
	b := island(nil)
	c, err := b.AddPage("w", b.ParsePage("Kicks\nLow swing kick, 7 a side\nHigh swing kick, 6 a side\nHigh swing kick, 8 a side, on pads"), counter())
	require.NoError(t, err)
	b = Open(c)
	first := func(lines []PageLine, _ []int) PageLine { return lines[0] }
	for said, want := range map[string]string{"Low swing kick": "7 a side w", "Low swing kick, 3 a side": "3 a side ", "Low swing kick, on pads": "5 a side ", "High swing kick, on pads": "8 a side w", "Low swing kick, as holder": "5 a side ", "New swing kick": "5 a side "} {
		l := first(b.PageFor("y", "Kicks\n"+said))
		require.Empty(t, l.Problem, said)
		assert.Equal(t, want, l.Quantity.String()+" "+l.AsAt, said)
	}
	assert.Equal(t, "9 a side", first(b.PageFor("y", "Kicks (9 a side)\nLow swing kick")).Quantity.String())
	own := first(b.PageFor("w", "Kicks\nLow swing kick"))
	assert.Equal(t, []any{"7 a side", "", false}, []any{own.Quantity.String(), own.AsAt, own.Changes()}, "it stands here as it is")
}

// TestMarksOfCounts: each count has its mark, and what is neither says so.
func TestMarksOfCounts(t *testing.T) {
	for said, want := range map[string]string{"18=2 26=3": "", "": "after marks stand counts", "18": `"18" is not understood`, "18=": `"18=" is not understood`, "x=2": `"x=2" is not understood`, "18=x": `"18=x" is not understood`, "18=2 26": `"26" is not understood`} {
		var l PageLine
		got := readMarks(&l, said)
		assert.Equal(t, want == "", got == "", said)
		assert.Contains(t, got, want, said)
		if want == "" {
			assert.Len(t, l.Table, 2)
		}
	}
}

// TestHoursKeepTheirColumns: the times of a day's plan become blanks of the same width, from three lines on.
func TestHoursKeepTheirColumns(t *testing.T) {
	day := []string{"9.00 Front kick", "9.15 - 9.30 Round kick", "10:00am Jab"}
	out := withoutHours(day)
	for i, line := range out {
		assert.Equal(t, len(day[i]), len(line), line)
		assert.Equal(t, day[i][strings.LastIndexAny(day[i], "0123456789m")+2:], strings.TrimLeft(line, " "), line)
	}
	assert.Equal(t, day[:2], withoutHours(day[:2]))
}

// TestNamesThatEndAlike: three names with one word at their end are of one sort, if each has another before it.
func TestNamesThatEndAlike(t *testing.T) {
	for names, want := range map[string]bool{"inward elbow|outward elbow|rear elbow": true, "inward elbow|outward elbow": false, "inward elbow|elbow|rear elbow": false, "inward elbow|outward elbow|rear fist": false, "high inward elbow|outward elbow|rear elbow": true} {
		assert.Equal(t, want, sameHead(strings.Split(names, "|")), names)
	}
}

// TestAmountsBehindMoves: an amount behind moves or in brackets after them is taken off; a bare number and moves alone stay.
func TestAmountsBehindMoves(t *testing.T) {
	for moves, want := range map[string]string{"front kick, round kick x 4": "front kick, round kick|4 times", "jab, cross x 2": "jab, cross x 2|", "front kick, round kick - 20 secs": "front kick, round kick|20 s",
		"jab, cross, 5 a side": "jab, cross|5 a side", "jab, cross (10 each leg)": "jab, cross|10 each limb", "jab, cross, 5": "jab, cross, 5|", "jab, cross": "jab, cross|", ", 5 a side": ", 5 a side|", "jab (5)": "jab (5)|"} {
		l := PageLine{Moves: moves}
		said := ""
		if l.amountBehind() {
			said = l.Quantity.String()
		}
		assert.Equal(t, want, l.Moves+"|"+said, moves)
	}
}
