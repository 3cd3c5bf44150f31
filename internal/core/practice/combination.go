package practice

import (
	"fmt"
	"math/big"
	"slices"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// Ways counts the combinations of k moves out of n techniques in order, with or without
// repeats, times the directions of travel, which hold for all moves or change at each:
//
//	without repeats n!/(n−k)!, with them n^k; × directions, or × directions^k
//
// words is the calculation as one would write it down.
func Ways(n, k int, repeats bool, directions int, each bool) (total *big.Int, words string) {
	total = big.NewInt(1)
	var factors []string
	for i := range k {
		f := n
		if !repeats {
			f = max(n-i, 0)
		}
		total.Mul(total, big.NewInt(int64(f)))
		factors = append(factors, fmt.Sprint(f))
	}
	words = strings.Join(factors, " × ")
	if directions > 1 {
		d := big.NewInt(int64(directions))
		if each {
			d.Exp(d, big.NewInt(int64(k)), nil)
			words += fmt.Sprintf(" × %d directions to the power of %d", directions, k)
		} else {
			words += fmt.Sprintf(" × %d directions", directions)
		}
		total.Mul(total, d)
	}
	return total, words + " = " + total.String()
}

// Piece is one move that combinations are made of.
type Piece struct {
	Text string // in notation: "lead jab"
	Hand bool   // done with a hand or arm; else with a leg
	Lead bool   // with the lead side
	Kick bool
}

// Rules are what a school wants of a useful combination; each can be switched on.
type Rules struct {
	LeadFirst  bool // the distance is opened or closed with the lead hand or foot: nothing with the rear side first
	Recover    bool // after a kick the hands recover: the next move is a hand's, or there is none
	NoTwice    bool // no limb twice running, unless doubled
	CanLeave   bool // the end leaves one able to go: it is no kick with the rear leg
	NoRepeats  bool // no move twice
	Directions int  // of travel, 1 and up
	Each       bool // the direction may change at each move
}

// limb tells the four limbs apart.
func (p Piece) limb() int {
	n := 0
	if p.Hand {
		n += 2
	}
	if p.Lead {
		n++
	}
	return n
}

// allows reports whether a move may follow a beginning, as last of k or not.
func (r Rules) allows(before []Piece, next Piece, last bool) bool {
	if len(before) == 0 {
		if r.LeadFirst && !next.Lead {
			return false
		}
	} else {
		prev := before[len(before)-1]
		if r.Recover && prev.Kick && !next.Hand || r.NoTwice && prev.limb() == next.limb() && !strings.Contains(next.Text, "double") {
			return false
		}
	}
	if r.NoRepeats && slices.ContainsFunc(before, func(p Piece) bool { return p.Text == next.Text }) {
		return false
	}
	return !(last && r.CanLeave && next.Kick && !next.Lead)
}

// MostTried bounds how many beginnings are walked through when combinations are listed.
const MostTried = 400_000

// Useful lists the combinations of k pieces that the rules leave, in order, at most most of
// them, and counts all, each in every direction of travel. exact is false where there are too
// many to walk through.
func Useful(pieces []Piece, k int, r Rules, most int) (list [][]Piece, n int, exact bool) {
	tried := 0
	exact = true
	var walk func(before []Piece)
	walk = func(before []Piece) {
		for _, p := range pieces {
			if tried++; tried > MostTried {
				exact = false
				return
			}
			if !r.allows(before, p, len(before)+1 == k) {
				continue
			}
			next := append(before[:len(before):len(before)], p)
			if len(next) < k {
				walk(next)
				continue
			}
			if n++; len(list) < most {
				list = append(list, next)
			}
		}
	}
	if k > 0 {
		walk(nil)
	}
	if r.Directions > 1 {
		times := 1
		for i := range k {
			if i == 0 || r.Each {
				times *= r.Directions
			}
		}
		n *= times
	}
	return list, n, exact
}

// Line is a combination as one writes it down.
func Line(pieces []Piece) string {
	words := make([]string, len(pieces))
	for i, p := range pieces {
		words[i] = p.Text
	}
	return strings.Join(words, ", ")
}

// Draw takes one at random among the least practised; done is how often each line was. -1
// where there is none.
func Draw(list [][]Piece, done map[string]int, seed uint64) int {
	least, pool := 0, []int(nil)
	for i, c := range list {
		n := done[Line(c)]
		if pool == nil || n < least {
			least, pool = n, pool[:0]
		}
		if n == least {
			pool = append(pool, i)
		}
	}
	if len(pool) == 0 {
		return -1
	}
	// One step of splitmix64: a seed near another gives another draw.
	z := seed + 0x9e3779b97f4a7c15
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return pool[int((z^z>>31)%uint64(len(pool)))]
}

// PiecesOf are the strikes and kicks asked up to a rung, each with the lead and the rear
// side where its side policy knows both, in the order of the ladder.
func PiecesOf(b *curriculum.Book, rung string) (out []Piece) {
	seen := map[string]bool{}
	for _, g := range b.Rungs[:b.Place(rung)+1] {
		for _, q := range b.Asked(g.ID) {
			t := b.Technique(q.TechniqueID)
			if t == nil || t.Kind != "strike" && t.Kind != "kick" || seen[t.ID] {
				continue
			}
			seen[t.ID] = true
			p := Piece{Hand: t.Kind == "strike" && curriculum.LimbOf(t.Kind, t.Name) != curriculum.Leg, Kick: t.Kind == "kick"}
			for _, lead := range []bool{true, false} {
				if lead && (t.Sides == curriculum.RearSide || slices.Contains(t.Modifiers, "rear-leg")) || !lead && (t.Sides == curriculum.LeadSide || slices.Contains(t.Modifiers, "lead-leg")) {
					continue
				}
				p.Lead, p.Text = lead, strings.ToLower(t.Name)
				side := notation.Rear
				if lead {
					side = notation.Lead
				}
				if !strings.HasPrefix(p.Text, string(side)+" ") {
					p.Text = string(side) + " " + p.Text
				}
				out = append(out, p)
			}
		}
	}
	return out
}
