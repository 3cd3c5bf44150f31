package binder

import (
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// The kind of something new, said so that it can be nothing else: at the end of a line, whatever the line is, [kind throw] for all that
// is new on it, [Reaping leg: kind throw] for one of several.

// kindsChosen are the kinds that lines say at their end, by the number of the line and the key of a name; "" all on the line.
type kindsChosen map[int]map[string]Kind

// of is the kind that a line says of a name.
func (k kindsChosen) of(line int, name string) Kind { return k[line][check.Key(name)] }

// kindAtEnd is one kind at the end of a line.
var kindAtEnd = pattern.Of(`(?i)\s*\[(?:([^\[\]]+): )?kind ([^\[\]]+)\]\s*$`)

// takeKinds takes what lines say of kinds at their end off them.
func takeKinds(lines []string) kindsChosen {
	out := kindsChosen{}
	for i, line := range lines {
		for {
			m := kindAtEnd.FindStringSubmatchIndex(line)
			if m == nil {
				break
			}
			kind := curriculum.KindNamed(line[m[4]:m[5]])
			if kind == "" {
				break
			}
			name := ""
			if m[2] >= 0 {
				name = line[m[2]:m[3]]
			}
			if out[i+1] == nil {
				out[i+1] = map[string]Kind{}
			}
			if key := check.Key(name); out[i+1][key] == "" { // the last one counts
				out[i+1][key] = kind
			}
			line = line[:m[0]]
		}
		lines[i] = line
	}
	return out
}

// AsksKind reports whether a line may be put right by saying of which kind what is new on it is: nothing says it yet, or what stands behind a
// colon is no move of it, and may be a list of that kind.
func (l *PageLine) AsksKind() bool { return l.kindless || l.headless || l.Waits || l.noMoves }

// WithKind is a line of a page that says in these words of which kind something new on it is; alone that nothing else is new on it.
func WithKind(line, name, words string, alone bool) string {
	var others []string
	for {
		m := kindAtEnd.FindStringSubmatchIndex(line)
		if m == nil || curriculum.KindNamed(line[m[4]:m[5]]) == "" {
			break
		}
		if m[2] >= 0 && check.Key(line[m[2]:m[3]]) != check.Key(name) {
			others = append(others, line[m[0]:m[1]])
		}
		line = line[:m[0]]
	}
	slices.Reverse(others)
	said := " [kind " + words + "]"
	if !alone {
		said = " [" + name + ": kind " + words + "]"
	}
	return strings.TrimRight(line, " ") + strings.Join(others, "") + said
}
