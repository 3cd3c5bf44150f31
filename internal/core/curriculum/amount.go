package curriculum

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
)

// sideWords are the words for each meaning of a side that people write behind an amount.
var sideWords = map[string]SideMeaning{
	"side": "", "stance": ByStance, "limb": ByLimb, "leg": ByLimb, "hand": ByLimb, "arm": ByLimb, "foot": ByLimb, "feet": ByLimb,
	"way": ByDirection, "direction": ByDirection,
}

// ErrQuantity is wrapped by every error of ParseQuantity.
var ErrQuantity = errors.New("not an amount")

const (
	count   = `(\d{1,4})`
	clock   = ` ?(s|secs?|seconds?|m|mins?|minutes?)`
	each    = `(?:a|ea|per|each|every|in each|on each|with each|for each) ?`
	sideOf  = `(sides?|stances?|limbs?|legs?|hands?|arms?|foot|feet|ways?|directions?)`
	without = ` without touching down`
	resting = `(?:(?:,| ?/)? ?` + count + clock + ` rest)?$`
)

var (
	eachSide      = regexp.MustCompile(`^` + count + ` ?(?:r|right) ?[/+&,]? ?` + count + ` ?(?:l|left)$|^` + count + ` ?[/+] ?` + count + `$`)
	bothPattern   = regexp.MustCompile(`^` + count + ` ?(?:x|times|reps)? ?(?:l ?/ ?r|r ?/ ?l|left and right|right and left)$`)
	halfPattern   = regexp.MustCompile(`(\d*)½ ?m(?:ins?|inutes?)?\b`)
	alternating   = regexp.MustCompile(`^` + count + ` alternating$`)
	noTouchDown   = regexp.MustCompile(`^` + count + ` ?` + each + sideOf + without + `$`)
	countWithin   = regexp.MustCompile(`^` + count + ` (?:in|within) ` + count + clock + `$`)
	holdsPattern  = regexp.MustCompile(`^` + count + ` holds? of ` + count + clock + `$`)
	sidesPattern  = regexp.MustCompile(`^(?:x|×)? ?` + count + ` ?(?:x |× ?|times |reps )?(?:` + each + `|(?:on |with |in )?both |/ ?)` + sideOf + `$`)
	eachPattern   = regexp.MustCompile(`^(?:x|×)? ?` + count + ` ?(?:x |× ?|times |reps )?(?:each|ea)$`)
	repsPattern   = regexp.MustCompile(`^(?:` + count + ` ?(?:x|×|times?|reps?)?|(?:x|×) ?` + count + `(?: times| reps)?)$`)
	timedPattern  = regexp.MustCompile(`^(?:hold |hold for |held |for )?` + count + clock + `(?: hold| held)?$`)
	timedSide     = regexp.MustCompile(`^(?:hold |hold for |held |for )?` + count + clock + `(?: hold| held)? ?(?:` + each + `|(?:on |with |in )?both )` + sideOf + `$`)
	roundsPattern = regexp.MustCompile(`^(\d{1,3}) ?(?:x|×|rounds? of|rounds? [x×]|rounds?) ?` + count + clock + resting)
	ofRounds      = regexp.MustCompile(`^(\d{1,3}) ?(?:x |× ?)?` + count + clock + `[ -]rounds?` + resting)
	primes        = regexp.MustCompile(`\d[′'’″”"]`) // 2′ and 30″
	farMetres     = regexp.MustCompile(`(?:^|\D)(?:[6-9]|\d{2,}) ?m\b`)
	setsPattern   = regexp.MustCompile(`^` + count + ` ?(?:x|×|sets of|sets) ?` + count + `$`)
	// 5 times up and down
	backAndForth = regexp.MustCompile(`\b(\d{1,3}) ?(?:x |× ?|times |reps )?,? ?(?:each )?(?:up and down|forwards? and backwards?|forwards? and back|there and back|forwards? ?/ ?backwards?)`)
	// clockPattern is a time as minutes and seconds: 1:30, 1:30 min.
	clockPattern = regexp.MustCompile(`(\d{1,2}):([0-5]\d)(?: ?m(?:ins?|inutes?)?)?\b`)
)

// ParseQuantity reads an amount as people write it: "5 a side", "10", "once", "60 s",
// "2 min", "1:30", "2 x 90 s", "3 x 60 s, 30 s rest". It reads what Quantity.String prints.
func ParseQuantity(text string) (Quantity, error) {
	if !mayBeAmount(text) {
		return Quantity{}, notAnAmount(text)
	}
	said := clockPattern.ReplaceAllStringFunc(figures(repsSaid.ReplaceAllString(strings.ToLower(check.Tidy(text)), "reps")), func(s string) string {
		m := clockPattern.FindStringSubmatch(s)
		return fmt.Sprintf("%d s", 60*figure(m[1])+figure(m[2]))
	})
	said = primes.ReplaceAllStringFunc(said, func(s string) string {
		if strings.ContainsAny(s, "′'’") {
			return s[:1] + " min"
		}
		return s[:1] + " s"
	})
	said = halfMinutes.ReplaceAllString(said, "${1}½ min")
	said = backAndForth.ReplaceAllString(said, "$1 each way")
	said = strings.NewReplacer(" in a minute", " in 60 s", " in one minute", " in 60 s", " per minute", " in 60 s", "half a minute", "30 s", " p/", " per ").Replace(said)
	said = aMinute.ReplaceAllString(said, "${1}60 s")
	said = roundsSaid.ReplaceAllString(said, "$1 x $2 $3")
	said = halfPattern.ReplaceAllStringFunc(said, func(s string) string {
		return fmt.Sprintf("%d s", 60*figure(halfPattern.FindStringSubmatch(s)[1])+30)
	})
	q, ok := readQuantity(said)
	if !ok {
		if m := setsPattern.FindStringSubmatch(said); m != nil {
			return q, fmt.Errorf("%w: %q; write the reps in all, %d, and the sets as a remark: (%s)", ErrQuantity, text, figure(m[1])*figure(m[2]), check.Tidy(text))
		}
		return q, notAnAmount(text)
	}
	var p check.Problems
	q.Check(&p)
	if len(p) > 0 {
		return q, fmt.Errorf("%w: %s %s", ErrQuantity, p[0].Field, p[0].Text)
	}
	return q, nil
}

var (
	figureWords = map[string]string{"one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7", "eight": "8", "nine": "9", "ten": "10", "twelve": "12", "fifteen": "15", "twenty": "20", "thirty": "30", "forty": "40", "fifty": "50", "sixty": "60", "ninety": "90"}
	inFigures   = regexp.MustCompile(`\b(one|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty|thirty|forty|fifty|sixty|ninety)([ -])`)
	figureUnits = regexp.MustCompile(`^(\d|times|reps|each|ea|a side|per|on|with|for|in|both|x|minutes?|mins?|seconds?|secs?|rounds?|boards?|holds?|alternating|one|two|three|four|five)\b`)
)

// repsSaid are other words for reps.
var repsSaid = regexp.MustCompile(`\b(?:repetitions?|repeats|rep)\b`)

// aMinute is a time without a figure.
var aMinute = regexp.MustCompile(`^((?:hold |held |for )*)a minute\b`)

// roundsSaid are rounds as they are said: one 2-minute round.
var roundsSaid = regexp.MustCompile(`^(\d{1,2}) (\d{1,3})[ -]?(min|minute|sec|second)s? rounds?$`)

func notAnAmount(text string) error {
	return fmt.Errorf("%w: %q; write for example 5 a side, 10, once, 60 s, or 2 x 90 s, 30 s rest", ErrQuantity, text)
}

// mayBeAmount tells quickly what is no amount: it has neither a figure nor a number in words.
func mayBeAmount(text string) bool {
	if strings.ContainsAny(text, "0123456789½") {
		return true
	}
	for word := range strings.FieldsFuncSeq(strings.ToLower(text), func(r rune) bool { return r == ' ' || r == '-' }) {
		if word == "once" || word == "twice" || word == "minute" || figureWords[word] != "" {
			return true
		}
	}
	return false
}

// figures writes the numbers of an amount that are said in words as figures: five times, three
// two-minute rounds.
func figures(said string) string {
	for range 3 {
		at := inFigures.FindAllStringSubmatchIndex(said, -1)
		for _, m := range slices.Backward(at) {
			if figureUnits.MatchString(said[m[1]:]) {
				said = said[:m[2]] + figureWords[said[m[2]:m[3]]] + " " + said[m[1]:]
			}
		}
	}
	return said
}

// figure is a number that a pattern found: four digits at most.
func figure(s string) int {
	n, _ := strconv.Atoi(s)
	return n
}

// readQuantity is long: a case for each way to write an amount.
func readQuantity(said string) (Quantity, bool) {
	if farMetres.MatchString(said) {
		return Quantity{}, false // a distance, as likely as not
	}
	seconds := func(n, unit string) int {
		if strings.HasPrefix(unit, "m") {
			return 60 * figure(n)
		}
		return figure(n)
	}
	side := func(word string) SideMeaning { return sideWords[strings.TrimSuffix(word, "s")] }
	found := func(p *regexp.Regexp) []string { return p.FindStringSubmatch(said) }
	switch said {
	case "once":
		return Quantity{Measure: RepsInAll, Reps: 1}, true
	case "twice":
		return Quantity{Measure: RepsInAll, Reps: 2}, true
	case "once each", "once a side", "once each side":
		return Quantity{Measure: RepsPerSide, Reps: 1}, true
	case "twice each", "twice a side", "twice each side":
		return Quantity{Measure: RepsPerSide, Reps: 2}, true
	}
	if m := found(eachSide); m != nil && m[1]+m[3] == m[2]+m[4] {
		return Quantity{Measure: RepsPerSide, Reps: figure(m[1] + m[3])}, true
	}
	if m := found(bothPattern); m != nil {
		return Quantity{Measure: RepsPerSide, Reps: figure(m[1])}, true
	}
	if m := found(alternating); m != nil {
		return Quantity{Measure: Alternating, Reps: figure(m[1])}, true
	}
	if m := found(noTouchDown); m != nil {
		return Quantity{Measure: NoTouchDown, Reps: figure(m[1]), Side: side(m[2])}, true
	}
	if m := found(countWithin); m != nil {
		return Quantity{Measure: CountWithin, Reps: figure(m[1]), Seconds: seconds(m[2], m[3])}, true
	}
	if m := found(holdsPattern); m != nil {
		return Quantity{Measure: Holds, Reps: figure(m[1]), Seconds: seconds(m[2], m[3])}, true
	}
	if m := found(sidesPattern); m != nil {
		return Quantity{Measure: RepsPerSide, Reps: figure(m[1]), Side: side(m[2])}, true
	}
	if m := found(eachPattern); m != nil {
		return Quantity{Measure: RepsPerSide, Reps: figure(m[1])}, true
	}
	if m := found(repsPattern); m != nil {
		return Quantity{Measure: RepsInAll, Reps: figure(m[1] + m[2])}, true
	}
	if m := found(timedPattern); m != nil {
		return Quantity{Measure: Timed, Seconds: seconds(m[1], m[2])}, true
	}
	if m := found(timedSide); m != nil {
		return Quantity{Measure: TimedSide, Seconds: seconds(m[1], m[2]), Side: side(m[3])}, true
	}
	m := found(roundsPattern)
	if m == nil {
		m = found(ofRounds)
	}
	if m != nil {
		q := Quantity{Measure: RoundsTimed, Rounds: figure(m[1]), Seconds: seconds(m[2], m[3])}
		if m[4] != "" {
			q.Rest = seconds(m[4], m[5])
		}
		return q, true
	}
	return Quantity{}, false
}
