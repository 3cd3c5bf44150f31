// Package pattern is regular expressions for texts of which nearly none match. A typed page asks each of its
// lines for hundreds of ways of writing: what a match cannot be without, a letter here and a pair of letters there,
// is looked for first, and the expression is asked only where it all stands. An expression is read at its first use.
package pattern

import (
	"cmp"
	"regexp"
	"regexp/syntax"
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"
)

// Pattern is a regular expression as package regexp has it, safe for use by several goroutines.
type Pattern struct {
	text string
	read func() made
}

// made is what was found out of an expression when it was read.
type made struct {
	re *regexp.Regexp
	// needs are what every match has: of each clause one piece.
	needs [][]piece
}

// piece is a run of letters: the places in a sieve that it leaves marked.
type piece []uint16

// Of is a pattern of an expression in the syntax of package regexp. It panics at its first use if the expression is none.
func Of(expr string) *Pattern {
	return &Pattern{expr, sync.OnceValue(func() made {
		tree, err := syntax.Parse(expr, syntax.Perl)
		if err != nil {
			panic(err)
		}
		return made{regexp.MustCompile(expr), needsOf(tree.Simplify())}
	})}
}

// String is the expression.
func (p *Pattern) String() string { return p.text }

// ask is what an expression answers of a text, if the text has all that a match needs.
func ask[T any](p *Pattern, s string, answer func(*regexp.Regexp) T) (none T) {
	if re := p.in(s); re != nil {
		return answer(re)
	}
	return none
}

// MatchString reports whether the pattern is found in a text.
func (p *Pattern) MatchString(s string) bool {
	return ask(p, s, func(re *regexp.Regexp) bool { return re.MatchString(s) })
}

// FindString is the leftmost match; "" none.
func (p *Pattern) FindString(s string) string {
	return ask(p, s, func(re *regexp.Regexp) string { return re.FindString(s) })
}

// FindStringIndex is where the leftmost match begins and ends, in bytes; nil: none.
func (p *Pattern) FindStringIndex(s string) []int {
	return ask(p, s, func(re *regexp.Regexp) []int { return re.FindStringIndex(s) })
}

// FindStringSubmatch is the leftmost match and its groups; nil: none.
func (p *Pattern) FindStringSubmatch(s string) []string {
	return ask(p, s, func(re *regexp.Regexp) []string { return re.FindStringSubmatch(s) })
}

// FindStringSubmatchIndex is where the leftmost match and its groups begin and end, in bytes; nil: none.
func (p *Pattern) FindStringSubmatchIndex(s string) []int {
	return ask(p, s, func(re *regexp.Regexp) []int { return re.FindStringSubmatchIndex(s) })
}

// FindAllString are the first n matches; n < 0: all.
func (p *Pattern) FindAllString(s string, n int) []string {
	return ask(p, s, func(re *regexp.Regexp) []string { return re.FindAllString(s, n) })
}

// FindAllStringIndex is where the first n matches begin and end, in bytes; n < 0: all.
func (p *Pattern) FindAllStringIndex(s string, n int) [][]int {
	return ask(p, s, func(re *regexp.Regexp) [][]int { return re.FindAllStringIndex(s, n) })
}

// FindAllStringSubmatch are the first n matches and their groups; n < 0: all.
func (p *Pattern) FindAllStringSubmatch(s string, n int) [][]string {
	return ask(p, s, func(re *regexp.Regexp) [][]string { return re.FindAllStringSubmatch(s, n) })
}

// FindAllStringSubmatchIndex is where the first n matches and their groups begin and end, in bytes; n < 0: all.
func (p *Pattern) FindAllStringSubmatchIndex(s string, n int) [][]int {
	return ask(p, s, func(re *regexp.Regexp) [][]int { return re.FindAllStringSubmatchIndex(s, n) })
}

// ReplaceAllString puts a replacement, in which $1 is the first group, for every match.
func (p *Pattern) ReplaceAllString(s, repl string) string {
	if re := p.in(s); re != nil {
		return re.ReplaceAllString(s, repl)
	}
	return s
}

// ReplaceAllStringFunc puts what a function makes of it for every match.
func (p *Pattern) ReplaceAllStringFunc(s string, repl func(string) string) string {
	if re := p.in(s); re != nil {
		return re.ReplaceAllStringFunc(s, repl)
	}
	return s
}

// Split cuts a text at the first n-1 matches, as regexp.Regexp.Split does.
func (p *Pattern) Split(s string, n int) []string {
	if re := p.in(s); re != nil || n == 0 || s == "" {
		return p.read().re.Split(s, n)
	}
	return []string{s}
}

// in is the expression, if a text has all that a match needs; else nil.
func (p *Pattern) in(s string) *regexp.Regexp {
	m := p.read()
	if len(m.needs) == 0 {
		return m.re
	}
	var have sieve
	have.fill(s)
	if have.has(piece{odd}) {
		return m.re
	}
	for _, clause := range m.needs {
		if !slices.ContainsFunc(clause, have.has) {
			return nil
		}
	}
	return m.re
}

// A sieve is what bytes and pairs of bytes a text has. Capitals and small letters of ASCII are one; in pairs all figures
// are one, and of what else there is there are but a few kinds: it lets through too much, never too little.
type sieve [21]uint64

// The places of a sieve: pairs, then single bytes, then whether there is a letter that is written otherwise but
// counts as an ASCII one where capitals do not matter, the long s or the Kelvin sign: then nothing is held back.
const (
	singles = 1024
	odd     = singles + 256
)

// kin are the bytes as pairs know them, singly the bytes as they stand alone.
var kin, singly = func() (of, alone [256]uint16) {
	for c := range of {
		of[c], alone[c] = 28+uint16(c)%4, singles+uint16(c)
		switch {
		case c >= 'a' && c <= 'z':
			of[c] = uint16(c-'a') + 1
		case c >= 'A' && c <= 'Z':
			of[c], alone[c] = uint16(c-'A')+1, singles+uint16(c-'A'+'a')
		case c >= '0' && c <= '9':
			of[c] = 27
		case c == ' ':
			of[c] = 0
		}
	}
	return of, alone
}()

func (m *sieve) mark(at uint16) { m[at/64] |= 1 << (at % 64) }

func (m *sieve) fill(s string) {
	if s == "" {
		return
	}
	m.mark(singly[s[0]])
	for i := 1; i < len(s); i++ {
		before, now := s[i-1], s[i]
		m.mark(singly[now])
		m.mark(kin[before]<<5 | kin[now])
		if before == 0xC5 && now == 0xBF || before == 0xE2 && now == 0x84 { // ſ, and K with others
			m.mark(odd)
		}
	}
}

func (m *sieve) has(p piece) bool {
	for _, at := range p {
		if m[at/64]&(1<<(at%64)) == 0 {
			return false
		}
	}
	return true
}

// needsOf are the clauses of which every match of an expression has one piece each; none: nothing is known.
func needsOf(re *syntax.Regexp) [][]piece {
	switch re.Op {
	case syntax.OpLiteral:
		var all [][]piece
		either := func(r rune) bool {
			return r >= utf8.RuneSelf && re.Flags&syntax.FoldCase != 0 && unicode.SimpleFold(r) != r
		}
		for _, run := range strings.FieldsFunc(string(re.Rune), either) {
			all = append(all, []piece{pieceOf(run)})
		}
		return all
	case syntax.OpCharClass:
		var clause []piece
		for i := 0; i < len(re.Rune); i += 2 {
			if int(re.Rune[i+1]-re.Rune[i])+len(clause) > 30 {
				return nil
			}
			for r := re.Rune[i]; r <= re.Rune[i+1]; r++ {
				clause = append(clause, pieceOf(string(r)))
			}
		}
		if clause == nil {
			return nil
		}
		return [][]piece{clause}
	case syntax.OpCapture, syntax.OpPlus:
		return needsOf(re.Sub[0])
	case syntax.OpConcat:
		var all [][]piece
		for _, sub := range re.Sub {
			all = append(all, needsOf(sub)...)
		}
		return all
	case syntax.OpAlternate:
		var clause []piece
		for _, sub := range re.Sub {
			all := needsOf(sub)
			if len(all) == 0 {
				return nil
			}
			clause = append(clause, slices.MaxFunc(all, rarer)...)
		}
		return [][]piece{clause}
	}
	return nil
}

// rarer orders clauses by how much they hold back: by their shortest piece, a byte alone being the least, then by
// how few they have.
func rarer(a, b []piece) int {
	shortest := func(clause []piece) int {
		least := len(clause[0])
		for _, p := range clause {
			if p[0] >= singles {
				return 0
			}
			least = min(least, len(p))
		}
		return least
	}
	return cmp.Or(shortest(a)-shortest(b), len(b)-len(a))
}

// pieceOf is what a run of letters leaves in a sieve.
func pieceOf(run string) piece {
	if len(run) == 1 {
		return piece{singly[run[0]]}
	}
	p := make(piece, 0, len(run)-1)
	for i := range len(run) - 1 {
		p = append(p, kin[run[i]]<<5|kin[run[i+1]])
	}
	return p
}
