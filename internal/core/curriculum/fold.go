package curriculum

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// likeness is what lines have in common that may be shown in one go.
type likeness struct {
	technique, entry string
	role             Role
	measure          Measure
	side             SideMeaning
	slow, nonStop    bool
	bonus, free      bool
	alone            int // from 1: a line that is shown again whatever else is shown
}

func (x *asked) likeness(place int) likeness {
	k := likeness{technique: x.t.ID, entry: check.Key(x.entry), role: x.r.Role, measure: x.q.Measure, side: x.q.Side, slow: x.r.Slow, nonStop: x.r.NonStop, bonus: x.bonus, free: x.r.Free}
	if x.r.ShowAgain {
		k.alone = place + 1
	}
	return k
}

func (x *asked) setting() Setting { return x.r.Setting.orAir() }

func (s Setting) orAir() Setting { return cmp.Or(s, Settings[0]) }

// Boards are broken on boards alone: no other setting stands for them.
const Boards Setting = "boards"

// fold is rule 4. Lines come in the order of the sheet. Those alike are one line in each
// setting, or one in all where one of them covers other settings: in that setting, of several
// the highest rung's.
func fold(lines []asked) (out []asked) {
	alike := make(map[likeness][]int, len(lines)) // → places in lines
	order := make([]likeness, 0, len(lines))
	for i := range lines {
		k := lines[i].likeness(i)
		if _, there := alike[k]; !there {
			order = append(order, k)
		}
		alike[k] = append(alike[k], i)
	}
	if len(order) == len(lines) {
		return lines
	}
	at := make([]int, 0, len(lines)) // place of each line of out
	for _, k := range order {
		for _, together := range shownAsOne(lines, alike[k]) {
			at = append(at, together[0])
			lines[together[0]] = merged(lines, together)
		}
	}
	slices.Sort(at)
	out = lines[:0] // what is read is always ahead of what is written
	for _, i := range at {
		out = append(out, lines[i])
	}
	return out
}

// shownAsOne parts lines that are alike by the settings that stand for each other.
func shownAsOne(lines []asked, alike []int) (out [][]int) {
	cover := covering(lines, alike)
	bySetting := map[Setting]int{}
	for _, i := range alike {
		s := lines[i].setting()
		if cover != "" && (s != Boards || cover == Boards) {
			s = cover
		}
		n, there := bySetting[s]
		if !there {
			n = len(out)
			bySetting[s] = n
			out = append(out, nil)
		}
		out[n] = append(out[n], i)
	}
	return out
}

// covering is the setting in which lines that are alike are shown, where one covers others: the
// boards, else that of the highest rung, else the earliest.
func covering(lines []asked, alike []int) (cover Setting) {
	highest := -1
	for _, i := range alike {
		x := &lines[i]
		if !x.r.Covers {
			continue
		}
		if x.setting() == Boards {
			return Boards
		}
		if x.rung > highest {
			cover, highest = x.setting(), x.rung
		}
	}
	return cover
}

// merged is the one line that stays of several, which are given in the order of the sheet. The
// largest amount stays, of equals the earliest, and with it what belongs to it.
func merged(lines []asked, together []int) asked {
	x := lines[together[0]]
	if len(together) == 1 {
		return x
	}
	r := *x.r
	amount := x.r
	r.Covers, r.Looks = false, 0
	x.why = slices.Clone(x.why)
	cover := covering(lines, together)
	for n, i := range together {
		y := &lines[i]
		if y.r.Covers && y.setting() == cover {
			r.Setting, r.Covers = cover, true
		}
		r.Looks = max(r.Looks, cmp.Or(y.r.Looks, looksEach))
		if y.r.AtOnce > 0 && (r.AtOnce == 0 || y.r.AtOnce < r.AtOnce) {
			r.AtOnce = y.r.AtOnce
		}
		if n == 0 {
			continue
		}
		x.covers = append(x.covers, describe(y))
		if larger, _ := y.q.Larger(x.q); larger {
			x.q, amount = y.q, y.r
		}
		x.join(y)
	}
	r.Note, r.Versions, r.Table, r.MarkLooks, r.Sprint, r.Voice, r.Phases = amount.Note, amount.Versions, amount.Table, amount.MarkLooks, amount.Sprint, amount.Voice, amount.Phases
	x.r = &r
	return x
}

// join takes over into x what a later line asks besides its amount.
func (x *asked) join(y *asked) {
	x.weight, x.stage = max(x.weight, y.weight), max(x.stage, y.stage)
	x.must = x.must || y.must
	x.supported = x.supported && y.supported
	if len(x.checks) == 0 || len(y.checks) == 0 { // none named: all count
		x.checks = nil
	} else {
		x.checks = slices.Clone(x.checks)
		for _, c := range y.checks {
			if !slices.Contains(x.checks, c) {
				x.checks = append(x.checks, c)
			}
		}
	}
	if height(y.level) > height(x.level) {
		x.level = y.level
	}
	if y.group == "" { // asked outright by one of the two
		x.group = ""
	}
	if x.adapted == nil {
		x.adapted = y.adapted
	}
	for _, w := range y.why {
		if !slices.Contains(x.why, w) {
			x.why = append(x.why, w)
		}
	}
}

// height orders levels; none named is low.
func height(l notation.Level) int {
	return map[notation.Level]int{notation.Mid: 1, notation.High: 2}[l]
}

func describe(x *asked) string {
	out := x.t.Name + ", " + x.q.String()
	if s := x.setting(); s != Settings[0] {
		out += ", " + SettingWords[s]
	}
	return out
}
