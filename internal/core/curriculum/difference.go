package curriculum

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/floor"
)

// Difference is one difference between two test sheets or curricula.
type Difference struct {
	What  string // "added", "dropped", "changed"
	Call  string
	ID    string   // technique
	Words []string // what is different, each in a line
	Line  *Line    // of the newer sheet; nil of a dropped one
}

// Differences says what a newer sheet asks beyond an older one, in the newer one's order;
// what was dropped comes last. Lines match by technique, role, setting and unit.
func Differences(older, newer TestSheet) (out []Difference) {
	key := func(l *Line) string {
		return strings.Join([]string{l.TechniqueID, string(l.Role), string(l.Setting), string(l.Quantity.Measure)}, " ")
	}
	was := map[string][]*Line{}
	for i := range older.Lines {
		was[key(&older.Lines[i])] = append(was[key(&older.Lines[i])], &older.Lines[i])
	}
	for i := range newer.Lines {
		l := &newer.Lines[i]
		k := key(l)
		if len(was[k]) == 0 {
			out = append(out, Difference{"added", l.Call, l.TechniqueID, []string{l.Quantity.String()}, l})
			continue
		}
		old := was[k][0]
		was[k] = was[k][1:]
		if words := lineChanges(old, l); len(words) > 0 {
			out = append(out, Difference{"changed", l.Call, l.TechniqueID, words, l})
		}
	}
	for i := range older.Lines {
		l := &older.Lines[i]
		if slices.Contains(was[key(l)], l) {
			out = append(out, Difference{"dropped", l.Call, l.TechniqueID, []string{l.Quantity.String()}, nil})
		}
	}
	return out
}

func lineChanges(old, now *Line) (words []string) {
	differ := func(what string, a, b any) {
		if x, y := fmt.Sprint(a), fmt.Sprint(b); x != y {
			words = append(words, fmt.Sprintf("%s: %s, was %s", what, orNone(y), orNone(x)))
		}
	}
	yes := func(on bool, word string) string {
		if on {
			return word
		}
		return "no"
	}
	differ("how much", old.Quantity, now.Quantity)
	if now.Stages > 0 || old.Stages > 0 {
		differ("stage", old.Stage, now.Stage)
	}
	differ("weight", old.Weight, now.Weight)
	differ("must pass", yes(old.MustPass, "yes"), yes(now.MustPass, "yes"))
	differ("bonus", yes(old.Bonus, "yes"), yes(now.Bonus, "yes"))
	differ("least level", old.Level, now.Level)
	differ("manner", old.Manner, now.Manner)
	differ("section", old.Section, now.Section)
	if a, b := strings.Join(old.Checkpoints, "; "), strings.Join(now.Checkpoints, "; "); a != b {
		differ("looked for", a, b)
	}
	looks := func(l *Line) string {
		var out []string
		for _, m := range l.MarkLooks {
			out = append(out, m.Mark.String()+" "+m.Looks)
		}
		return strings.Join(out, "; ")
	}
	differ("what a mark looks like", looks(old), looks(now))
	cells := func(l *Line) string {
		var out []string
		for _, m := range l.Moves {
			out = append(out, strings.TrimSpace(m.What+" "+m.How))
		}
		return strings.Join(out, ", ")
	}
	if old.Stage == now.Stage {
		differ("moves", cells(old), cells(now))
		differ("remark", old.Detail, now.Detail)
	}
	return words
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

// orNoCount is a number in figures, or that there is none.
func orNoCount(n int) string {
	if n == 0 {
		return "none"
	}
	return strconv.Itoa(n)
}

// RungChanges are the differences of one rung between two versions of a curriculum.
type RungChanges struct {
	Rung    Rung   // of the newer version, or of the older where it is gone
	What    string // "added", "dropped", "changed"
	Words   []string
	Changes []Difference
}

// Compare says how a newer version of a curriculum differs from an older one: rung by rung
// what is asked on a track, then techniques that differ by themselves.
func Compare(older, newer *Book, track string) (rungs []RungChanges, techniques []Difference) {
	sheet := func(b *Book, id string) TestSheet {
		return b.Compile(Asking{RungID: id, TrackID: track, Group: 1, Undrawn: true})
	}
	for i, r := range newer.Rungs {
		old := older.Rung(r.ID)
		if old == nil {
			rungs = append(rungs, RungChanges{Rung: r, What: "added", Changes: Differences(TestSheet{}, sheet(newer, r.ID))})
			continue
		}
		var words []string
		if old.Name != r.Name {
			words = append(words, "name: "+r.Name+", was "+old.Name)
		}
		if old.Panel != r.Panel {
			words = append(words, fmt.Sprintf("examiners at least: %s, was %s", orNoCount(r.Panel), orNoCount(old.Panel)))
		}
		if below, was := newer.below(i), older.below(old.Position); below != was {
			words = append(words, fmt.Sprintf("place: above %s, was above %s", orNone(newer.nameOf(below)), orNone(older.nameOf(was))))
		}
		changes := Differences(sheet(older, r.ID), sheet(newer, r.ID))
		if len(words)+len(changes) > 0 {
			rungs = append(rungs, RungChanges{r, "changed", words, changes})
		}
	}
	for _, r := range older.Rungs {
		if newer.Rung(r.ID) == nil {
			rungs = append(rungs, RungChanges{Rung: r, What: "dropped"})
		}
	}
	for i := range newer.Techniques {
		t := &newer.Techniques[i]
		old := older.Technique(t.ID)
		if old == nil {
			techniques = append(techniques, Difference{What: "added", Call: t.Name, ID: t.ID})
		} else if words := techniqueChanges(old, t); len(words) > 0 {
			techniques = append(techniques, Difference{What: "changed", Call: t.Name, ID: t.ID, Words: words})
		}
	}
	for i := range older.Techniques {
		if t := &older.Techniques[i]; newer.Technique(t.ID) == nil {
			techniques = append(techniques, Difference{What: "dropped", Call: t.Name, ID: t.ID})
		}
	}
	return rungs, techniques
}

func (b *Book) below(i int) string {
	if i == 0 {
		return ""
	}
	return b.Rungs[i-1].ID
}

func (b *Book) nameOf(rung string) string {
	if r := b.Rung(rung); r != nil {
		return r.Name
	}
	return ""
}

// measures are those of a stance; none are the empty ones.
func (t *Technique) measures() floor.Definition {
	if t.Stance == nil {
		return floor.Definition{}
	}
	return *t.Stance
}

func techniqueChanges(old, now *Technique) (words []string) {
	differ := func(what string, a, b any) {
		if x, y := fmt.Sprint(a), fmt.Sprint(b); x != y {
			words = append(words, what)
		}
	}
	differ("name: "+now.Name+", was "+old.Name, old.Name, now.Name)
	differ("kind", old.Kind, now.Kind)
	differ("terms", []any{old.Term, old.Script, old.Terms, old.Aliases}, []any{now.Term, now.Script, now.Terms, now.Aliases})
	differ("remark", old.Note, now.Note)
	differ("checkpoints", []any{old.Checkpoints, old.AttackerLooks}, []any{now.Checkpoints, now.AttackerLooks})
	differ("faults", old.Faults, now.Faults)
	differ("cautions", old.Cautions, now.Cautions)
	differ("measures", old.measures(), now.measures())
	differ("attack", []any{old.Attack, old.AttackMoves}, []any{now.Attack, now.AttackMoves})
	differ("stages", old.Stages, now.Stages)
	differ("branches", old.Branches, now.Branches)
	differ("what looks like it", old.Apart, now.Apart)
	differ("drills and cue words", []any{old.Drills, old.Cues}, []any{now.Drills, now.Cues})
	differ("builds on", old.BuildsOn, now.BuildsOn)
	differ("numbers", []any{old.Series, old.Number, old.Call}, []any{now.Series, now.Number, now.Call})
	if len(words) == 0 {
		a, b := *old, *now
		a.ProgramID, b.ProgramID, a.Stance, b.Stance = "", "", nil, nil
		differ("details", a, b)
	}
	return words
}

// Load is how much one rung asks of one track.
type Load struct {
	RungID  string
	TrackID string // "" where the program has no tracks
	Lines   int
	New     int
	Grown   int
	Seconds int // for a group of three
}

// loadGroup is the size of group that the load curve quotes minutes for.
const loadGroup = 3

// Loads are the load curve: for each track, rung by rung.
func (b *Book) Loads() (out []Load) {
	tracks := []string{}
	for _, t := range b.Program.Tracks {
		tracks = append(tracks, t.ID)
	}
	if len(tracks) == 0 {
		tracks = []string{""}
	}
	for _, track := range tracks {
		for _, r := range b.Rungs {
			sheet := b.compile(Asking{RungID: r.ID, TrackID: track, Group: loadGroup}, false)
			l := Load{RungID: r.ID, TrackID: track, Lines: len(sheet.Lines), Seconds: sheet.Seconds}
			for _, x := range sheet.Lines {
				switch x.Freshness {
				case New:
					l.New++
				case Grown:
					l.Grown++
				}
			}
			out = append(out, l)
		}
	}
	return out
}
