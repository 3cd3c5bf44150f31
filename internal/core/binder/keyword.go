package binder

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
	"velvetladder/internal/core/scoring"
)

// The keywords of a line: must, until a rung, on pads, not for a track.

// ReadPart reads one part of a line that is no amount, such as "must" or "until Blue belt",
// and returns what is wrong with it; "" nothing.
// It is long: a case for each thing a part of a line may say, in the order in which they are tried.
func (b *Reader) ReadPart(l *PageLine, word string) string {
	key := check.Key(word)
	first, rest, _ := strings.Cut(key, " ")
	_, said, _ := strings.Cut(word, " ") // the rest as it was typed
	if what, name, found := strings.Cut(key, " for "); found {
		return b.readTrack(l, what, name)
	}
	switch {
	case slices.Contains([]string{"must", "must pass", "must-pass", "mandatory", "compulsory", "obligatory", "required", "essential"}, key):
		l.MustPass = true
	case key == "bonus" || key == "optional" || key == "extra" || key == "desirable":
		l.Bonus = true
	case boardsPart.MatchString(key):
		l.Setting = curriculum.Boards
		if n := boardsPart.FindStringSubmatch(key)[1]; n != "1" && n != "one" && n != "a" || len(strings.Fields(key)) > 2 {
			l.note(word)
		}
	case b.trackOnly(l, key):
	case holdsOn.MatchString(key):
		l.Supported = true
		l.note(word)
	case key == "always":
		l.Carry = curriculum.Carry{Kind: curriculum.Always}
	case key == "again" || key == "show again":
		l.ShowAgain = true
	case key == "free choice":
		l.Free = true
	case key == "slowly" || key == "slow":
		l.Slow = true
	case key == "non-stop" || key == "non stop" || key == "nonstop":
		l.NonStop = true
	case key == "supported" || key == "with help" && slices.Contains(append(curriculum.Basic, "balance", "stance", "fitness"), b.kindOf(l)) || key == "with support" || key == "support allowed":
		l.Supported = true
	case key == "by phases":
		l.Phases = true
	case first == "term" && rest != "":
		l.Term = check.Tidy(said)
	case eitherLimb.MatchString(key):
		l.note(word)
	case key == "hold" && slices.Contains([]Kind{"stance", "balance", "fitness", "kick"}, b.sparringKind(l)): // Cat stance - hold
		l.note(word)
	case curriculum.KindNamed(word) != "" && !b.answersBy(l, curriculum.KindNamed(word)):
		if l.Said == "" { // it was said with kind before it
			l.Said = curriculum.KindNamed(word)
		}
	case key == "not a number":
		l.Plain = true
	case sidesOnly[key] != "":
		if l.Sides = sidesOnly[key]; l.oneSide() { // also said where it is called and marked
			l.note(key)
		}
	case first == "sprint":
		return readSprint(l, rest)
	case sprintLast.MatchString(key):
		return readSprint(l, sprintLast.FindStringSubmatch(key)[1])
	case first == "entry" && rest != "" && unicode.IsLetter([]rune(rest)[0]):
		l.Entries = append(l.Entries, check.Tidy(said))
	case voiceOf(key) != "":
		l.Voice = voiceOf(key)
	case key == "covers settings":
		l.Covers = true
	case first == "as" && slices.Contains(curriculum.Roles, curriculum.Role(rest)):
		l.Role = curriculum.Role(rest)
	case b.levelSaid(l, key) != "":
		level := b.levelSaid(l, key)
		if l.LeastLevel != "" && l.LeastLevel != level {
			l.doubt(fmt.Sprintf("there are two heights, %s and %s; the last one is taken", l.LeastLevel, level))
		}
		l.LeastLevel = level
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		l.LeastLevel = notation.Level(rest)
	case b.marksInWords(l, key):
	case first == "marks":
		return readMarks(l, rest)
	case first == "weight" || first == "stage":
		n, err := strconv.Atoi(rest)
		if err != nil || n < 1 || n > 100 {
			return fmt.Sprintf("after %s stands a whole number from 1 to 100", first)
		}
		if first == "weight" {
			l.Weight = n
		} else {
			l.StageCap = n
		}
	case first == "until":
		for _, r := range b.Rungs {
			if check.Key(r.Name) == rest || check.Key(r.Short()) == rest {
				l.Carry = curriculum.Carry{Kind: curriculum.Until, Rung: r.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no rung of this ladder", said)
	case first == "from":
		for _, g := range b.Program.Groups {
			if check.Key(g.Name) == rest {
				l.Carry = curriculum.Carry{Kind: curriculum.Sample, Group: g.ID}
				return ""
			}
		}
		return fmt.Sprintf("%q is no sample group of this program", said)
	default:
		if s := settingSaid(key); s != "" {
			l.note(padOf.FindString(key))
			l.Setting = s
			return ""
		}
		if curriculum.SetsAndReps.MatchString(key) && b.sets(l, key) {
			return ""
		}
		if curriculum.SetsAndReps.MatchString(key) {
			_, err := curriculum.ParseQuantity(word)
			return err.Error()
		}
		return fmt.Sprintf("%q is not understood; after the name stand an amount such as 5 a side, must, bonus, weight 2, as attacker, on pads, always, until a rung …", word)
	}
	return ""
}

// answersBy reports whether a kind behind an attack under self-defence is how it is answered, "Rear choke -
// throw", and not what the line is.
func (b *Reader) answersBy(l *PageLine, k Kind) bool {
	return b.sparringKind(l) == "self_defence" && slices.Contains([]Kind{"throw", "lock", "strike", "kick", "block"}, k) && (attackInWords.MatchString(l.Name) || firstOfSteps.MatchString(l.Text))
}

var settingPart = pattern.Of(`^(?:on|onto|to|against|with|using|in) (?:a |an |the |focus |kick |kicking |heavy |thai |target |hand |big |small |large |soft |thigh |belly |body |punch |strike )*(pads?` +
	`|paddles?|targets?|shields?|mitts?|bags?|partner|pairs|air|boards?)$`)

// padOf is a pad by the part of the body that it stands for.
var padOf = pattern.Of(`(?:thigh|belly|body) (?:pads?|shields?)`)

// struckOn are the things that a kick or a punch goes to.
var struckOn = pattern.Of(`^(?:pad|shield|mitt|bag|board)`)

// thingAlone are pads or a bag and nothing more.
var thingAlone = pattern.Of(`^(?:(?:focus|kick|thai|heavy|target) )?(?:pads?|paddles?|shields?|mitts?|bag|heavy bag)$`)

// eitherLimb leaves it to the candidate which leg or hand is shown.
var eitherLimb = pattern.Of(`^(?:with |on |off )?either (?:leg|hand|foot|arm)$`)

// heightWord is behind a height: high section.
var heightWord = pattern.Of(` (?:sections?|level|height)$`)

// levelSaid is the height that a part of a line says, in words of the program too; in a set, a form or a defence those are of its moves.
func (b *Reader) levelSaid(l *PageLine, key string) notation.Level {
	if b.kindOf(l) == "self_defence" { // at which the attack comes: tackle at waist height
		return ""
	}
	word := heightWord.ReplaceAllString(key, "")
	if level := (curriculum.Meaning{Means: word}).Level(); level != "" || slices.Contains([]Kind{"partner_set", "self_defence", "form", "sparring"}, b.kindOf(l)) || curriculum.KindInWords(l.Name) == "partner_set" {
		return level
	}
	if m, whole := b.MeaningOf(word); m != nil && whole && l.LeastLevel == "" {
		return m.Level()
	}
	return ""
}

// settingSaid is the setting that words mean: on the pad, on focus mitts, with partner, in pairs.
func settingSaid(key string) curriculum.Setting {
	key = strings.TrimSuffix(key, " only")
	if s := thingAlone.FindString(key); s != "" { // (pads)
		key = "on " + key
	}
	m := settingPart.FindStringSubmatch(key)
	if m == nil || strings.HasPrefix(key, "to ") && !struckOn.MatchString(m[1]) {
		return ""
	}
	switch strings.TrimSuffix(m[1], "s") {
	case "pad", "paddle", "target", "shield", "mitt":
		return "pads"
	case "bag":
		return "bag"
	case "partner", "pair":
		return "partner"
	case "board":
		return curriculum.Boards
	}
	return curriculum.Settings[0]
}

// firstOfSteps is a word for a kind behind a dash that others follow: Waterfall - block, step in.
var firstOfSteps = pattern.Of(`(?i)\s[-–—]\s*(?:throw|lock|strike|kick|block|parry|hold), ?\pL`)

var boardsPart = pattern.Of(`^(?:(a|\d{1,2}|one|two|three|four|five) (?:(?:rebreakable|re-breakable|plastic|pine|wooden|wood|thin|demo) )?|(?:rebreakable` +
	`|re-breakable|plastic|pine|wooden|wood|thin|demo|children's|junior) )boards?$`)

// sidesOnly are the words that say on which side alone a technique is trained.
var sidesOnly = map[string]curriculum.SidePolicy{"lead only": curriculum.LeadSide, "rear only": curriculum.RearSide, "left only": curriculum.LeftOnly, "right only": curriculum.RightOnly,
	"left side only": curriculum.LeftOnly, "right side only": curriculum.RightOnly, "left leg only": curriculum.LeftOnly, "right leg only": curriculum.RightOnly, "left hand only": curriculum.LeftOnly, "right hand only": curriculum.RightOnly, "no sides": curriculum.NoSide, "both sides": curriculum.BothSides}

// sprintLast is the closing sprint, said last: last 20 secs sprint.
var sprintLast = pattern.Of(`^(?:the )?last (\d+ ?\pL*) (?:(?:a )?sprint(?:ing)?|flat out|all out|(?:at )?full (?:power|speed)|as fast as (?:you can|possible))$`)

// readSprint reads when the closing sprint is called: "sprint 15 s", "sprint last 15 s".
func readSprint(l *PageLine, rest string) string {
	q, err := curriculum.ParseQuantity(strings.TrimPrefix(strings.TrimPrefix(rest, "the "), "last "))
	if err != nil || q.Measure != curriculum.Timed && q.Measure != curriculum.RepsInAll {
		return "after sprint stand the seconds before the end, for example sprint 15 s"
	}
	l.Sprint = max(q.Seconds, q.Reps)
	return ""
}

// voiceOf is the voice that words mean; "" none.
func voiceOf(words string) curriculum.Voice {
	for _, v := range curriculum.Voices {
		if words == v.Words() {
			return v
		}
	}
	return ""
}

// readMarks reads a fitness table: "marks 18=2 26=3", the least count and its mark.
func readMarks(l *PageLine, rest string) string {
	l.Table = nil
	if rest == "" {
		return "after marks stand counts with their marks, for example marks 18=2 26=3"
	}
	for _, row := range strings.Fields(rest) {
		count, mark, found := strings.Cut(row, "=")
		n, err := strconv.Atoi(count)
		m, wrong := scoring.ParseDecimal(mark)
		if !found || err != nil || wrong != nil {
			return fmt.Sprintf("%q is not understood; after marks stand counts with their marks, for example marks 18=2 26=3", row)
		}
		l.Table = append(l.Table, curriculum.TableMark{Count: n, Mark: m})
	}
	return ""
}

// readTrack reads what one track changes: "not for Cubs", "bonus for Cubs", "3 a side for
// Cubs", "level low for Cubs", "stage 1 for Cubs".
func (b *Reader) readTrack(l *PageLine, what, name string) string {
	track := slices.IndexFunc(b.Program.Tracks, func(t curriculum.Track) bool { return check.Key(t.Name) == name })
	if track < 0 {
		return fmt.Sprintf("%q is no track of this program", name)
	}
	id := b.Program.Tracks[track].ID
	at := slices.IndexFunc(l.Tracks, func(c curriculum.TrackChange) bool { return c.TrackID == id })
	if at < 0 {
		at = len(l.Tracks)
		l.Tracks = append(l.Tracks, curriculum.TrackChange{TrackID: id})
	}
	c := &l.Tracks[at]
	first, rest, _ := strings.Cut(what, " ")
	n, err := strconv.Atoi(rest)
	switch {
	case what == "not":
		c.LeaveOut = true
	case what == "bonus":
		c.Bonus = true
	case first == "stage" && err == nil && n > 0 && n <= curriculum.MaxStages:
		c.StageCap = n
	case first == "level" && (rest == "low" || rest == "mid" || rest == "high"):
		c.Level = notation.Level(rest)
	default:
		q, err := curriculum.ParseQuantity(what)
		if err != nil {
			return fmt.Sprintf("%q is not understood; before “for %s” stands not, bonus, an amount, level low or stage 1", what, b.Program.Tracks[track].Name)
		}
		c.Quantity = &q
	}
	return ""
}
