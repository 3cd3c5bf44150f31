package curriculum

import (
	"iter"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"velvetladder/internal/core/pattern"
)

// An amount is read as signs, a letter each, and numbers beside them; which measure it is its shape tells. So what is said may
// stand in any of the orders that people use: 10 each leg, each leg 10x, 10 reps/side, R 10 L 10.

// amountTokens are the tokens of an amount: figures, words, and signs one by one.
var amountTokens = pattern.Of(`\d+|\pL+|½|[^\s]`)

// amountText is what was read so far.
type amountText struct {
	shape  strings.Builder
	n      []int       // the numbers, and the seconds of times, in order
	side   SideMeaning // of a side phrase
	inWord bool        // its only number is a word
}

func (a *amountText) add(sign byte, n ...int) {
	a.shape.WriteByte(sign)
	a.n = append(a.n, n...)
}

// amountSigns are words with their sign: u reps, x times, r a round, v rounds, z a rest, h a hold, w within, e each, a alternating, k sets,
// L R left and right, F B forward and back, c and p what joins, o and f what only joins words, i in all.
var amountSigns = func() map[string]byte {
	out := map[string]byte{}
	for sign, words := range map[byte]string{
		'u': "times time rep reps repetition repetitions repeat repeats", 'x': "x ×", 'r': "round rnd bout fight", 'v': "rounds rnds rds bouts fights", 'z': "rest rests break breaks", 'h': "hold holds held holding", 'w': "in within",
		'e': "each ea apiece", 'a': "alternating alternate", 'k': "set sets", 'L': "l left li", 'R': "r right ri re", 'F': "forward forwards fwd fwds", 'B': "back backward backwards bwd bwds bkwd", 'c': ", & and", 'p': "/ +", 'o': "of with at @ between", 'f': "for",
	} {
		for word := range strings.FieldsSeq(words) {
			out[word] = sign
		}
	}
	return out
}()

// timeUnits are the units of a time, in seconds.
var timeUnits = map[string]int{"s": 1, "sec": 1, "secs": 1, "second": 1, "seconds": 1, "″": 1, "”": 1, `"`: 1, "m": 60, "min": 60, "mins": 60, "minute": 60, "minutes": 60, "′": 60, "’": 60, "'": 60}

// AmountWords are the words of which amounts are made, in no order.
func AmountWords() iter.Seq[string] {
	return func(yield func(string) bool) {
		for _, words := range []iter.Seq[string]{maps.Keys(amountSigns), maps.Keys(timeUnits), maps.Keys(FigureWords)} {
			for word := range words {
				if !yield(word) {
					return
				}
			}
		}
	}
}

var (
	// amountPhrases are said with several words; what stands for each is read in its place.
	amountPhrases = strings.NewReplacer("without touching down", "withouttouch",
		" good ones", "", "in under a minute", "within 60 s", "in under", "within", "in less than", "within", "in a minute", "within 60 s", "in one minute", "within 60 s", "per minute", "within 60 s",
		"a minute and a half", "90 s", "one and a half minutes", "90 s", "two and a half minutes", "150 s", "half a minute", "30 s", "1/2 min", "½ min", "in all", "inall", "in total", "inall", " total", " inall", "seconds long", "seconds", "secs long", "secs", "minutes long", "minutes", "minute long", "minute", "per/", "per ", "altogether", "inall",
		"per round", "each", "each round", "each", "a round", "each", "p/", "per ", " e/s", " each side", " e/l", " each leg", " e/a", " each arm", "w/", "with ")
	// ThereAndBack is a way that is gone there and back, up and down the hall.
	ThereAndBack = pattern.Of(`(?i)\b(?:each )?(?:up ?(?:and|&|/) ?down|forwards? and backwards?|forwards? and back|there and back|forwards? ?[/&] ?back(?:wards?)?)(?: (?:in |along )?(?:the )?(?:hall|dojo|dojang|floor|room|mat|gym))?\b`)
	bothHand     = pattern.Of(`\b(?:on |with )?(?:re ?/ ?li|li ?/ ?re|rechts ?/ ?links|links ?/ ?rechts|l(?:eft)? ?(?:/|&|\+|and) ?r(?:ight)?|r(?:ight)? ?(?:/|&|\+|and) ?l(?:eft)?)\b`)
)

// amountOf reads the tokens of a text; false where one of them can be none of an amount.
func amountOf(said string) (a *amountText, is bool) {
	said = bothHand.ReplaceAllString(ThereAndBack.ReplaceAllString(amountPhrases.Replace(said), " each way"), " each side")
	t := amountTokens.FindAllString(said, -1)
	a = &amountText{}
	for i := 0; i < len(t); {
		if t[i] == "." && i > 0 && unicode.IsLetter([]rune(t[i-1])[0]) { // secs.
			i++
			continue
		}
		n := a.take(t[i:])
		if n == 0 {
			return a, false
		}
		i += n
	}
	return a, true
}

// take reads what the tokens begin with, and returns how many it took; 0 none.
func (a *amountText) take(t []string) int {
	if n := a.takeSide(t); n > 0 {
		return n
	}
	if len(t) > 1 && t[0] == "½" && timeUnits[t[1]] == 60 {
		a.add('t', 30)
		return 2
	}
	if value, n, word := numberAt(t); n > 0 {
		if seconds, more := timeAt(t[n:], value); more > 0 {
			a.add('t', seconds)
			return n + more
		}
		a.inWord = word
		a.add('n', value)
		return n
	}
	switch t[0] {
	case "once", "twice", "thrice":
		a.add('n', slices.Index([]string{"", "once", "twice", "thrice"}, t[0]))
		a.add('u')
		return 1
	case "a", "one":
		if len(t) > 1 && timeUnits[t[1]] == 60 && len(t[1]) > 1 { // a minute
			a.add('t', 60)
			return 2
		}
	case "withouttouch":
		a.add('d')
		return 1
	case "inall":
		a.add('i')
		return 1
	case "-":
		if len(t) > 1 && (amountSigns[t[1]] == 'r' || amountSigns[t[1]] == 'v') { // 2-minute-rounds
			return 1
		}
		return 0
	}
	if sign := amountSigns[t[0]]; sign != 0 {
		a.add(sign)
		return 1
	}
	return 0
}

// takeSide reads a phrase of each side: a side, on each leg, /arm, both hands.
func (a *amountText) takeSide(t []string) int {
	i := 0
	for i < len(t) && slices.Contains([]string{"on", "with", "in", "for", "to", "of", "the", "/"}, t[i]) {
		i++
	}
	told := i > 0 && t[i-1] == "/"
	for i < len(t) && slices.Contains([]string{"a", "ea", ".", "per", "each", "every", "both", "of", "the"}, t[i]) {
		told = told || t[i] != "of" && t[i] != "the" && t[i] != "."
		i++
	}
	if i == len(t) || !told {
		return 0
	}
	meaning, is := sideWords[t[i]]
	if !is {
		meaning, is = sideWords[strings.TrimSuffix(t[i], "s")]
	}
	if !is {
		return 0
	}
	a.side = meaning
	a.add('s')
	return i + 1
}

// numberAt reads a number in figures or words: 10, twenty-five, 1½ (which only a time may be); word says that it was words.
func numberAt(t []string) (value, n int, word bool) {
	if v, err := strconv.Atoi(t[0]); err == nil && len(t[0]) <= 4 {
		return v, 1, false
	}
	v, err := strconv.Atoi(FigureWords[t[0]])
	if err != nil {
		return 0, 0, false
	}
	if v >= 20 {
		rest := t[1:]
		if len(rest) > 1 && rest[0] == "-" {
			rest = rest[1:]
		}
		if len(rest) > 0 {
			if ones, err := strconv.Atoi(FigureWords[rest[0]]); err == nil && ones < 10 {
				return v + ones, len(t) - len(rest) + 1, true
			}
		}
	}
	return v, 1, true
}

// timeAt reads the unit behind a number, and returns the seconds and how many tokens it took; 0 where it is no time.
func timeAt(t []string, value int) (seconds, n int) {
	half := 0
	at := 0
	if at < len(t) && t[at] == "½" {
		half, at = 1, at+1
	} else if at+1 < len(t) && (t[at] == "." || t[at] == ",") && t[at+1] == "5" { // 1.5 min
		half, at = 1, at+2
	}
	if at < len(t) && t[at] == "-" {
		at++
	}
	if at >= len(t) || timeUnits[t[at]] == 0 || half == 1 && timeUnits[t[at]] == 1 {
		if half == 0 && len(t) > 1 && t[0] == ":" && len(t[1]) == 2 && t[1] < "60" { // 1:30
			rest, _ := strconv.Atoi(t[1])
			n = 2
			if len(t) > 2 && timeUnits[t[2]] == 60 {
				n = 3
			}
			return 60*value + rest, n
		}
		return 0, 0
	}
	unit := timeUnits[t[at]]
	seconds, at = value*unit+30*half, at+1
	if unit == 60 && half == 0 && at < len(t) { // 1 min 30, 1 min 30 s; but not 1 min 30 s rest
		more, err := strconv.Atoi(t[at])
		next, after := "", ""
		if at+1 < len(t) {
			next = t[at+1]
		}
		if at+2 < len(t) {
			after = t[at+2]
		}
		if err == nil && more > 0 && more < 60 && amountSigns[after] != 'z' {
			if timeUnits[next] == 1 {
				return seconds + more, at + 2
			} else if next == "" || amountSigns[next] != 'u' && amountSigns[next] != 'x' && next != "-" {
				return seconds + more, at + 1
			}
		}
	}
	return seconds, at
}

// amountShape is a shape with what it means; v are its numbers. Reads that fail say false.
type amountShape struct {
	shape *pattern.Pattern
	read  func(v []int, side SideMeaning) (Quantity, bool)
}

// amountShapes are long: all the ways in which an amount is put, by what it asks.
var amountShapes = func() (out []amountShape) {
	num, rest := `(?:xnu?|n[xu]*)`, `(?:[cpo]*tzo?[rv]?|[cpo]*zo?t)?$`
	add := func(shape string, read func(v []int, side SideMeaning) (Quantity, bool)) {
		out = append(out, amountShape{pattern.Of(strings.ReplaceAll(strings.ReplaceAll(shape, "N", num), "Z", rest)), read})
	}
	same := func(side SideMeaning) func(v []int, _ SideMeaning) (Quantity, bool) {
		return func(v []int, _ SideMeaning) (Quantity, bool) {
			return Quantity{Measure: RepsPerSide, Reps: v[0], Side: side}, v[0] == v[1]
		}
	}
	rounds := func(rounds, seconds, rest int) func(v []int, _ SideMeaning) (Quantity, bool) { // which of the numbers they are; -1 one round
		return func(v []int, _ SideMeaning) (Quantity, bool) {
			q := Quantity{Measure: RoundsTimed, Rounds: 1, Seconds: v[seconds]}
			if rounds >= 0 {
				q.Rounds = v[rounds]
			}
			if rest < len(v) {
				q.Rest = v[rest]
			}
			return q, true
		}
	}
	add(`^N(?:i)?$`, func(v []int, _ SideMeaning) (Quantity, bool) { return Quantity{Measure: RepsInAll, Reps: v[0]}, true })
	add(`^(?:Nc?s|sc?Ne?|Ne)$`, func(v []int, side SideMeaning) (Quantity, bool) {
		return Quantity{Measure: RepsPerSide, Reps: v[0], Side: side}, true
	})
	add(`^(?:NL[cp]?NR|NR[cp]?NL|LN[cp]?RN|RN[cp]?LN|npn)$`, same(""))
	add(`^NF[cp]?NB$`, same(ByDirection))
	add(`^(?:Na|aN)$`, func(v []int, _ SideMeaning) (Quantity, bool) { return Quantity{Measure: Alternating, Reps: v[0]}, true })
	add(`^Nsd$`, func(v []int, side SideMeaning) (Quantity, bool) {
		return Quantity{Measure: NoTouchDown, Reps: v[0], Side: side}, true
	})
	add(`^Nwt$`, func(v []int, _ SideMeaning) (Quantity, bool) {
		return Quantity{Measure: CountWithin, Reps: v[0], Seconds: v[1]}, true
	})
	add(`^(?:nh[of]?t|nx[of]?th|nxh[of]?t)$`, func(v []int, _ SideMeaning) (Quantity, bool) {
		return Quantity{Measure: Holds, Reps: v[0], Seconds: v[1]}, true
	})
	add(`^f?h?f?th?$`, func(v []int, _ SideMeaning) (Quantity, bool) { return Quantity{Measure: Timed, Seconds: v[0]}, true })
	add(`^(?:f?h?f?th?c?s|sc?h?f?t)$`, func(v []int, side SideMeaning) (Quantity, bool) {
		return Quantity{Measure: TimedSide, Seconds: v[0], Side: side}, true
	})
	add(`^n(?:x|u|[rv][ocfx]*)te?Z`, rounds(0, 1, 2))
	add(`^nx?t[rv]Z`, rounds(0, 1, 2))
	add(`^n(?:x|[rv][ocfx]*)tpt$`, rounds(0, 1, 2))
	add(`^trZ`, rounds(-1, 0, 1))
	add(`^(?:txn[rv]?|t[rv]xn)$`, rounds(1, 0, 2))
	return out
}()

// readQuantity reads an amount in lower case.
func readQuantity(said string) (Quantity, bool) {
	if farMetres.MatchString(said) {
		return Quantity{}, false // a distance, as likely as not
	}
	a, is := amountOf(said)
	shape := a.shape.String()
	if !is || shape == "n" && a.inWord {
		return Quantity{}, false
	}
	for _, x := range amountShapes {
		if x.shape.MatchString(shape) {
			return x.read(a.n, a.side)
		}
	}
	return Quantity{}, false
}
