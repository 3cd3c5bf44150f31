package gradingday

import (
	"slices"
	"strconv"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Item is a marked item of a frozen sheet with the lines it gathers.
type Item struct {
	scoring.Item
	SheetID   string
	Position  int
	Carried   *scoring.Decimal // the mark at which it stands from an earlier attempt; nil: it is marked
	CarriedOn civil.Date
	Lines     []curriculum.Line
	LineIDs   []string // of the lines, where the sheet is on record
}

// adapted reports whether a line of the item was changed for its candidate.
func (i Item) adapted() bool {
	return slices.ContainsFunc(i.Lines, func(l curriculum.Line) bool { return l.Adapted != nil })
}

// Carried are the marks at which items of a sheet stand from an earlier attempt, nil for
// those that are asked. Something is always left to be shown: where everything stood, nothing does.
func Carried(m Marking, items []Marked, lines []curriculum.Line, stands map[string]scoring.Decimal) []*scoring.Decimal {
	out, n := make([]*scoring.Decimal, len(items)), 0
	for i, it := range items {
		x := Item{Item: it.Item}
		for _, k := range it.Lines {
			x.Lines = append(x.Lines, lines[k])
		}
		if mark, there := stands[x.Key(m)]; there {
			out[i] = &mark
			n++
		}
	}
	if n == len(items) {
		return make([]*scoring.Decimal, len(items))
	}
	return out
}

// Key tells which items of two candidates' sheets are called together.
func (i Item) Key(m Marking) string {
	if m == CategoryPoints || len(i.Lines) == 0 {
		return i.Label
	}
	return i.Lines[0].Key()
}

// GroupItem is one thing called for a group: the item, and the id it has on each candidate's
// sheet. A candidate without an id does not show it.
type GroupItem struct {
	Item
	IDs map[string]string    // candidate → item
	Own map[string][]OwnLine // candidate → how it differs for them; who is missing does as called

	Stands map[string]bool // candidates who passed it at an earlier attempt
	Number int             // its place in the running order, from 1: at every table, on paper, with the caller
}

// LineNumber is the number under which a line of the item is called, from 0 up: that of the item, or of the prompt
// within it where several are called for one mark.
func (c GroupItem) LineNumber(k int) string {
	if len(c.Lines) < 2 {
		return strconv.Itoa(c.Number)
	}
	return strconv.Itoa(c.Number) + "." + strconv.Itoa(k+1)
}

// OwnLine is how a candidate's line differs from the one that is called.
type OwnLine struct {
	Call string // "" the item has no other
	curriculum.Otherwise
}

// unlike is how a candidate's item differs from the one that is called.
func (c GroupItem) unlike(own Item) (out []OwnLine) {
	mine := map[string]curriculum.Line{}
	for _, l := range own.Lines {
		mine[l.Key()] = l
	}
	for _, l := range c.Lines {
		own := OwnLine{Otherwise: curriculum.Otherwise{NotAsked: true}}
		if x, asked := mine[l.Key()]; asked {
			own.Otherwise = x.Unlike(l)
		}
		if own == (OwnLine{}) {
			continue
		}
		if len(c.Lines) > 1 {
			own.Call = l.Call
		}
		out = append(out, own)
	}
	return out
}

// OnSheet is a candidate with the sheet they are marked on.
type OnSheet struct{ Candidate, Sheet string }

// Merge makes one running order of the sheets of a group. What only some are asked stands
// behind what it follows on their sheet.
func Merge(m Marking, group []OnSheet, bySheet map[string][]Item) (out []GroupItem) {
	places := map[string]int{}             // key → place in out
	items := map[string]Item{}             // every candidate's, by their own id
	stands := map[string]map[string]bool{} // key → candidates for whom it stands
	for _, c := range group {
		last := -1
		for _, it := range bySheet[c.Sheet] {
			key := it.Key(m)
			if it.Carried != nil { // it stands; they are not asked again
				if stands[key] == nil {
					stands[key] = map[string]bool{}
				}
				stands[key][c.Candidate] = true
				continue
			}
			at, there := places[key]
			if !there {
				at = last + 1
				out = append(out, GroupItem{})
				copy(out[at+1:], out[at:])
				out[at] = GroupItem{Item: it, IDs: map[string]string{}, Own: map[string][]OwnLine{}}
				for k, p := range places {
					if p >= at {
						places[k] = p + 1
					}
				}
				places[key] = at
			} else if out[at].adapted() && !it.adapted() {
				out[at].Item = it // an adaptation is one candidate's; the line is called as the others do it
			} else if m == CategoryPoints {
				out[at].Lines = mergeLines(out[at].Lines, it.Lines)
			}
			out[at].IDs[c.Candidate] = it.ID
			items[c.Candidate+it.ID] = it
			last = at
		}
	}
	for key, who := range stands {
		if at, called := places[key]; called {
			out[at].Stands = who
		}
	}
	for i := range out {
		out[i].Number = i + 1
		for candidate, id := range out[i].IDs {
			if own := out[i].unlike(items[candidate+id]); len(own) > 0 {
				out[i].Own[candidate] = own
			}
		}
	}
	return out
}

// mergeLines adds the prompts that are not there yet.
func mergeLines(lines, more []curriculum.Line) []curriculum.Line {
	have := map[string]bool{}
	for _, l := range lines {
		have[l.Key()] = true
	}
	for _, l := range more {
		if !have[l.Key()] {
			lines = append(lines, l)
		}
	}
	return lines
}
