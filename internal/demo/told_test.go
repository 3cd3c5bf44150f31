package demo

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/golden"
)

// This check is written apart from the language of moves: it reads the demo's lines as text,
// with a few words of its own, follows the feet of one person through them, and says which limb
// each cell must name. It knows only what the demo's lines use.

// plainMove is one move of a line, as text.
type plainMove struct {
	text    string // the words as they are written
	count   int
	words   bool // a sentence
	side    string
	through bool // step through or switch
	steps   int  // a named foot that steps: +1 forward, −1 back
	turn    int
	puts    string // the foot that a stance puts in front
	joined  bool   // at the same time as the one before
}

var (
	turnWords  = regexp.MustCompile(`\b(turn|spin) (cw|ccw) (\d+)`)
	stanceSide = regexp.MustCompile(`\bin (left|right) `)
	sideWord   = regexp.MustCompile(`\b(lead|rear|left|right|both|same-side|same-name)\b`)
	pureTravel = regexp.MustCompile(`^(?:(left|right|lead|rear) )?(step back|step)$`)
)

// plainMoves splits the steps of a technique into moves. names are the stances a line may end
// a move in by standing in them.
func plainMoves(b *curriculum.Book, steps []string) (out [][]plainMove) {
	count := 0
	for _, step := range steps {
		if _, rest, from := strings.Cut(step, "stance: "); from && strings.HasPrefix(step, "from ") {
			step = rest
		}
		var moves []plainMove
		for _, part := range strings.Split(step, " / ") {
			count++
			for _, piece := range pieces(part) {
				for i, text := range strings.Split(piece, " + ") {
					m := plainMove{text: text, count: count, words: strings.HasSuffix(strings.TrimRight(text, "!~"), "."), joined: i > 0}
					if !m.words {
						m.read(b)
					}
					moves = append(moves, m)
				}
			}
		}
		out = append(out, moves)
	}
	return out
}

// pieces are the moves between commas; a sentence keeps its own.
func pieces(part string) (out []string) {
	for _, p := range strings.Split(part, ", ") {
		if n := len(out); n > 0 && startsSentence(out[n-1]) && !strings.HasSuffix(out[n-1], ".") {
			out[n-1] += ", " + p
			continue
		}
		out = append(out, p)
	}
	return out
}

// startsSentence: the demo's sentences begin with a capital letter, its moves do not.
func startsSentence(s string) bool { return s[:1] != strings.ToLower(s[:1]) }

func (m *plainMove) read(b *curriculum.Book) {
	text := strings.TrimRight(m.text, "!~")
	for _, t := range turnWords.FindAllStringSubmatch(text, -1) {
		n, _ := strconv.Atoi(t[3])
		if t[2] == "ccw" {
			n = -n
		}
		m.turn += n
	}
	m.through = strings.Contains(text, "step through") || strings.Contains(text, "switch")
	if s := stanceSide.FindStringSubmatch(text); s != nil {
		m.puts = s[1]
	}
	before := text
	for _, word := range []string{" to ", " in ", " turn "} {
		before, _, _ = strings.Cut(before, word)
	}
	for _, t := range b.Techniques { // a name that begins as a side does is no side
		if sideWord.MatchString(strings.ToLower(t.Name)) {
			before = strings.Replace(before, strings.ToLower(t.Name), "it", 1)
		}
	}
	if s := sideWord.FindStringSubmatch(before); s != nil {
		m.side = s[1]
		if rest := strings.TrimSpace(strings.Replace(before, s[1], "", 1)); m.puts == "" {
			if t := b.Named(rest); t != nil && t.Kind == "stance" && t.FeetStand() != "level" {
				m.puts = m.side
			}
		}
	}
	if p := pureTravel.FindStringSubmatch(strings.TrimSpace(turnWords.ReplaceAllString(text, ""))); p != nil && p[1] != "" {
		m.steps = 1
		if p[2] == "step back" {
			m.steps = -1
		}
	}
}

// plainFeet follows who leads.
type plainFeet struct {
	leads, placed string
	sum           int
}

func otherFoot(f string) string { return map[string]string{"left": "right", "right": "left"}[f] }

// move moves the feet and says which limb the move names; "" none.
func (f *plainFeet) move(m plainMove) string {
	was := f.leads
	for range max(m.turn, -m.turn) {
		f.sum += map[bool]int{true: 1, false: -1}[m.turn > 0]
		switch a := ((f.sum % 360) + 360) % 360; {
		case a < 90 || a > 270:
			f.leads = f.placed
		case a > 90 && a < 270:
			f.leads = otherFoot(f.placed)
		}
	}
	put := func(foot string) { f.leads, f.placed, f.sum = foot, foot, 0 }
	if m.turn != 0 && ((f.sum%360)+360)%360 == 180 {
		put(f.leads)
	}
	limb := func(side, leads string) string {
		switch side {
		case "lead":
			return leads
		case "rear":
			return otherFoot(leads)
		}
		return side
	}
	switch {
	case m.steps > 0:
		put(limb(m.side, was))
		return limb(m.side, was)
	case m.steps < 0:
		put(otherFoot(limb(m.side, was)))
		return limb(m.side, was)
	case m.through:
		put(otherFoot(f.leads))
	}
	if m.puts != "" {
		put(limb(m.puts, f.leads))
	}
	return limb(m.side, f.leads)
}

func mirrored(text string) string {
	return strings.NewReplacer("left", "right", "right", "left", " cw", " ccw", " ccw", " cw").Replace(text)
}

// stepsOf are the steps a line asks for, with those of the technique it goes on with.
func stepsOf(b *curriculum.Book, l curriculum.Line, at int) (steps, answers []string) {
	t := b.Technique(l.TechniqueID)
	for _, e := range t.Entries {
		if l.Entry == e.Name {
			for _, s := range e.Steps {
				steps, answers = append(steps, s.Moves), append(answers, s.Answers)
			}
		}
	}
	for _, s := range t.StepsAt(l.Stage) {
		if s.Attached == "" {
			steps, answers = append(steps, s.Moves), append(answers, s.Answers)
			continue
		}
		next := b.Technique(s.Attached)
		steps, answers = append(steps, "Goes on with "+next.Name+"."), append(answers, "")
		for _, x := range next.StepsAt(b.StageAt(next, at)) {
			steps, answers = append(steps, x.Moves), append(answers, x.Answers)
		}
	}
	return steps, answers
}

// TestEveryCallOfTheDemo walks every line of every rung's sheet, for both stances and all
// pairings with an attacker, set after set of the caller: no wrong limb, no lost step, no
// changed count.
func TestEveryCallOfTheDemo(t *testing.T) {
	golden.Alone(t)
	lines, limbs, sentences := 0, 0, 0
	for _, b := range books() {
		for at := range b.Rungs {
			sheet := b.Compile(curriculum.Asking{RungID: b.Rungs[at].ID, Undrawn: true, Group: 3})
			asked := progress.AskedBy(b, "", sheet, nil)
			for i, l := range sheet.Lines {
				steps, _ := stepsOf(b, l, at)
				if len(steps) == 0 {
					continue
				}
				lines++
				call := practice.CallOf(b, l, l.Called(3))
				require.Equal(t, call.Moves, l.Moves)
				total := 0
				for _, s := range call.Sets {
					total += s.Reps
				}
				sides := map[bool]int{true: 2, false: 1}[asked.Items[i].TwoSided]
				assert.Equal(t, l.Called(3)*sides, total, "%s: nothing is doubled or halved", l.Call)
				for n, set := range call.Sets {
					for _, v := range curriculum.Views[1:] {
						southpaw, second := v == curriculum.Southpaw, n == 1 && l.Quantity.Side == ""
						own, partner := curriculum.Told(l.Moves, set.Readings[v]), curriculum.Told(l.Partner, set.Readings[v])
						if l.Role != "attacker" {
							x, s := tellsRight(t, b, l, steps, own, southpaw, second)
							limbs, sentences = limbs+x, sentences+s
							continue
						}
						// An attack by lead and rear comes with other arms from the other stance.
						exchanged := second
						if !namesLimbs(b.Technique(l.TechniqueID)) {
							exchanged = southpaw != second
						}
						x, s := tellsRight(t, b, l, steps, partner, false, exchanged)
						limbs, sentences = limbs+x+attacksRight(t, b, l, own, exchanged), sentences+s
					}
				}
			}
		}
	}
	assert.Greater(t, lines, 150)
	assert.Greater(t, limbs, 2000)
	assert.Greater(t, sentences, 20)
	t.Logf("%d lines, %d limbs, %d sentences", lines, limbs, sentences)
}

// tellsRight holds the cells of one telling against the text of the steps.
func tellsRight(t *testing.T, b *curriculum.Book, l curriculum.Line, steps []string, cells []curriculum.StripMove, southpaw, second bool) (limbs, sentences int) {
	x := b.Technique(l.TechniqueID)
	fixed := x.Kind == "form" || x.Sides == curriculum.LeftOnly || x.Sides == curriculum.RightOnly
	attack := x.AttackMoves
	written := namesLimbs(x)
	feet, mirror := southpaw, southpaw != second
	switch {
	case len(x.Attack) > 0 || attack != "":
		mirror = second && (written || attack != "")
	case fixed:
		feet, mirror = second, second
	default:
		feet = southpaw != second
	}
	attacks := attacker(x, second)
	leads := map[bool]string{false: "left", true: "right"}[feet]
	f := plainFeet{leads: leads, placed: leads}
	cell := -1
	for n, moves := range plainMoves(b, steps) {
		found := false
		for _, m := range moves {
			if mirror && !m.words {
				m.text = mirrored(m.text)
				m = plainMove{text: m.text, count: m.count, joined: m.joined}
				m.read(b)
			}
			if !m.joined {
				cell++
			}
			if !assert.Less(t, cell, len(cells), "%s: step %d is lost", l.Call, n+1) {
				return
			}
			c := cells[cell]
			found = found || c.Step == n+1
			said := c.What + " " + c.How
			if m.words {
				sentences++
				assert.Equal(t, strings.ToLower(strings.TrimRight(m.text, "!.")), strings.ToLower(strings.TrimRight(c.What, "!.")), l.Call)
				continue
			}
			limb := f.move(m)
			switch limb {
			case "same-side":
				limb = otherFoot(attacks)
			case "same-name":
				limb = attacks
			}
			if limb != "" {
				limbs++
				assert.Regexp(t, `\b`+limb+`\b`, said, "%s: “%s”, southpaw %v, second %v", l.Call, m.text, southpaw, second)
				assert.NotRegexp(t, `^(lead|rear|same-side|same-name) `, c.What, l.Call)
			}
			assert.Equal(t, m.count, c.Count, "%s: %s", l.Call, m.text)
		}
		assert.True(t, found, "%s: step %d is told as a step", l.Call, n+1)
	}
	assert.Equal(t, len(cells), cell+1, "%s: as many cells as there are beats: %v", l.Call, fmt.Sprint(cells))
	return limbs, sentences
}

// namesLimbs reports whether an attack is the same for every attacker.
func namesLimbs(x *curriculum.Technique) bool {
	if x.AttackMoves == "" && len(x.Attack) > 0 {
		return !slices.ContainsFunc(x.Attack, func(a curriculum.AttackElement) bool { return a.Side == "lead" || a.Side == "rear" })
	}
	return strings.Contains(x.AttackMoves, "left") || strings.Contains(x.AttackMoves, "right")
}

// attacksRight holds the cells of an attacker's own part against the text of the attack; from
// the other stance its lead is the right, and in its mirror left is right.
func attacksRight(t *testing.T, b *curriculum.Book, l curriculum.Line, cells []curriculum.StripMove, exchanged bool) (limbs int) {
	attack := b.Technique(l.TechniqueID).AttackMoves
	if attack == "" {
		require.NotEmpty(t, cells, "%s: the attack is said in words", l.Call)
		return 0
	}
	leads := map[bool]string{false: "left", true: "right"}[exchanged]
	f := plainFeet{leads: leads, placed: leads}
	cell := -1
	for _, m := range plainMoves(b, []string{attack})[0] {
		if exchanged {
			m = plainMove{text: mirrored(m.text), count: m.count, joined: m.joined}
			m.read(b)
		}
		if !m.joined {
			cell++
		}
		if limb := f.move(m); limb != "" && assert.Less(t, cell, len(cells), "%s: a move is lost", l.Call) {
			limbs++
			assert.Regexp(t, `\b`+limb+`\b`, cells[cell].What+" "+cells[cell].How, "%s, attacker, exchanged %v", l.Call, exchanged)
		}
	}
	return limbs
}

// attacker is the limb of the last attacking move, for an attacker of the left foot forward, or
// in the other side of the defence.
func attacker(x *curriculum.Technique, second bool) string {
	limb := ""
	if x.AttackMoves == "" {
		for _, a := range x.Attack {
			limb = string(a.Side)
		}
	}
	f := plainFeet{leads: "left", placed: "left"}
	for _, moves := range plainMoves(&curriculum.Book{}, []string{x.AttackMoves}) {
		for _, m := range moves {
			if l := f.move(m); x.AttackMoves != "" && (l == "left" || l == "right") {
				limb = l
			}
		}
	}
	if second {
		limb = otherFoot(limb)
	}
	return limb
}
