package curriculum

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/floor"
)

// ChangeOf is in what two lines, rungs or techniques differ.
type ChangeOf string

// In what lines, rungs and techniques differ. Of techniques only the names are told, of the rest that it changed.
const (
	ChangedName    ChangeOf = "name"
	ChangedAmount  ChangeOf = "amount"
	ChangedPart    ChangeOf = "part"
	ChangedWeight  ChangeOf = "weight"
	ChangedMust    ChangeOf = "must pass" // yes or ""
	ChangedBonus   ChangeOf = "bonus"     // yes or ""
	ChangedLevel   ChangeOf = "level"
	ChangedManner  ChangeOf = "manner" // told from the lines
	ChangedSection ChangeOf = "section"
	ChangedLooked  ChangeOf = "looked for"
	ChangedMarks   ChangeOf = "marks" // what they look like
	ChangedMoves   ChangeOf = "moves"
	ChangedRemark  ChangeOf = "remark"
	ChangedPanel   ChangeOf = "panel" // examiners at least; "" none
	ChangedPlace   ChangeOf = "place" // above which rung; "" none

	ChangedKind     ChangeOf = "kind"
	ChangedTerms    ChangeOf = "terms"
	ChangedChecks   ChangeOf = "checkpoints"
	ChangedFaults   ChangeOf = "faults"
	ChangedCautions ChangeOf = "cautions"
	ChangedMeasures ChangeOf = "measures"
	ChangedAttack   ChangeOf = "attack"
	ChangedStages   ChangeOf = "stages"
	ChangedBranches ChangeOf = "branches"
	ChangedApart    ChangeOf = "apart"    // what looks like it
	ChangedLearning ChangeOf = "learning" // drills and cue words
	ChangedBases    ChangeOf = "bases"    // what it builds on
	ChangedNumbers  ChangeOf = "numbers"
	ChangedDetails  ChangeOf = "details" // anything else
)

// Differing is one thing in which two lines, rungs or techniques differ.
type Differing struct {
	Of       ChangeOf
	Now, Was string // "" none; both "" where it is only told that it changed
}

// Difference is one difference between two test sheets or curricula.
type Difference struct {
	What    string // "added", "dropped", "changed"
	Call    string
	ID      string // technique
	Amount  string // of a line that was added or dropped
	Changes []Differing
	Line    *Line // of the newer sheet; nil of a dropped one
	Older   *Line // of the older sheet, where it changed
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
			out = append(out, Difference{What: "added", Call: l.Call, ID: l.TechniqueID, Amount: l.Quantity.String(), Line: l})
			continue
		}
		old := was[k][0]
		was[k] = was[k][1:]
		if changes := lineChanges(old, l); len(changes) > 0 {
			out = append(out, Difference{What: "changed", Call: l.Call, ID: l.TechniqueID, Changes: changes, Line: l, Older: old})
		}
	}
	for i := range older.Lines {
		l := &older.Lines[i]
		if slices.Contains(was[key(l)], l) {
			out = append(out, Difference{What: "dropped", Call: l.Call, ID: l.TechniqueID, Amount: l.Quantity.String()})
		}
	}
	return out
}

// manner is how a line is done, to be compared.
type manner struct {
	nonStop, slow, phases, supported, free bool
	sprint                                 int
	voice                                  Voice // of its own
}

func (l *Line) manner() manner {
	m := manner{l.NonStop, l.Slow, l.Phases, l.Supported, l.Free, l.Sprint, ""}
	if l.OwnVoice {
		m.voice = l.Voice
	}
	return m
}

func lineChanges(old, now *Line) (out []Differing) {
	differ := func(of ChangeOf, a, b any) {
		if x, y := fmt.Sprint(a), fmt.Sprint(b); x != y {
			out = append(out, Differing{of, y, x})
		}
	}
	yes := map[bool]string{true: "yes"}
	differ(ChangedAmount, old.Quantity, now.Quantity)
	if now.Stages > 0 || old.Stages > 0 {
		differ(ChangedPart, old.Stage, now.Stage)
	}
	differ(ChangedWeight, old.Weight, now.Weight)
	differ(ChangedMust, yes[old.MustPass], yes[now.MustPass])
	differ(ChangedBonus, yes[old.Bonus], yes[now.Bonus])
	differ(ChangedLevel, old.Level, now.Level)
	if old.manner() != now.manner() {
		out = append(out, Differing{Of: ChangedManner})
	}
	differ(ChangedSection, old.Section, now.Section)
	differ(ChangedLooked, strings.Join(old.Checkpoints, "; "), strings.Join(now.Checkpoints, "; "))
	looks := func(l *Line) string {
		var out []string
		for _, m := range l.MarkLooks {
			out = append(out, m.Mark.String()+" "+m.Looks)
		}
		return strings.Join(out, "; ")
	}
	differ(ChangedMarks, looks(old), looks(now))
	cells := func(l *Line) string {
		var out []string
		for _, m := range l.Moves {
			out = append(out, strings.TrimSpace(m.What+" "+m.How))
		}
		return strings.Join(out, ", ")
	}
	if old.Stage == now.Stage {
		differ(ChangedMoves, cells(old), cells(now))
		differ(ChangedRemark, old.remark(), now.remark())
	}
	return out
}

// remark is the remark of a line, else the attack it is against.
func (l *Line) remark() string {
	if l.Detail == "" {
		return AttackWords(l.Against)
	}
	return l.Detail
}

// some is a number in figures; "" it is none.
func some(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

// RungChanges are the differences of one rung between two versions of a curriculum.
type RungChanges struct {
	Rung    Rung        // of the newer version, or of the older where it is gone
	What    string      // "added", "dropped", "changed"
	Itself  []Differing // what is different of the rung itself
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
		var itself []Differing
		if old.Name != r.Name {
			itself = append(itself, Differing{ChangedName, r.Name, old.Name})
		}
		if old.Panel != r.Panel {
			itself = append(itself, Differing{ChangedPanel, some(r.Panel), some(old.Panel)})
		}
		if below, was := newer.below(i), older.below(old.Position); below != was {
			itself = append(itself, Differing{ChangedPlace, newer.RungName(below), older.RungName(was)})
		}
		changes := Differences(sheet(older, r.ID), sheet(newer, r.ID))
		if len(itself)+len(changes) > 0 {
			rungs = append(rungs, RungChanges{r, "changed", itself, changes})
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
		} else if changes := techniqueChanges(old, t); len(changes) > 0 {
			techniques = append(techniques, Difference{What: "changed", Call: t.Name, ID: t.ID, Changes: changes})
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

// RungName is the name of the rung with an id, "" where there is none.
func (b *Book) RungName(rung string) string {
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

func techniqueChanges(old, now *Technique) (out []Differing) {
	differ := func(of ChangeOf, a, b any) {
		if x, y := fmt.Sprint(a), fmt.Sprint(b); x != y {
			out = append(out, Differing{Of: of})
		}
	}
	if old.Name != now.Name {
		out = append(out, Differing{ChangedName, now.Name, old.Name})
	}
	differ(ChangedKind, old.Kind, now.Kind)
	differ(ChangedTerms, []any{old.Term, old.Script, old.Terms, old.Aliases}, []any{now.Term, now.Script, now.Terms, now.Aliases})
	differ(ChangedRemark, old.Note, now.Note)
	differ(ChangedChecks, []any{old.Checkpoints, old.AttackerLooks}, []any{now.Checkpoints, now.AttackerLooks})
	differ(ChangedFaults, old.Faults, now.Faults)
	differ(ChangedCautions, old.Cautions, now.Cautions)
	differ(ChangedMeasures, old.measures(), now.measures())
	differ(ChangedAttack, []any{old.Attack, old.AttackMoves}, []any{now.Attack, now.AttackMoves})
	differ(ChangedStages, old.Stages, now.Stages)
	differ(ChangedBranches, old.Branches, now.Branches)
	differ(ChangedApart, old.Apart, now.Apart)
	differ(ChangedLearning, []any{old.Drills, old.Cues}, []any{now.Drills, now.Cues})
	differ(ChangedBases, old.BuildsOn, now.BuildsOn)
	differ(ChangedNumbers, []any{old.Series, old.Number, old.Call}, []any{now.Series, now.Number, now.Call})
	if len(out) == 0 {
		a, b := *old, *now
		a.ProgramID, b.ProgramID, a.Stance, b.Stance = "", "", nil, nil
		differ(ChangedDetails, a, b)
	}
	return out
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

// LoadGroup is the size of group that the load curve quotes minutes for.
const LoadGroup = 3

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
			sheet := b.compile(Asking{RungID: r.ID, TrackID: track, Group: LoadGroup}, false)
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
