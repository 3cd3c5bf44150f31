package curriculum

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
)

// CautionKinds are the kinds of caution.
var CautionKinds = []string{"joint", "choke", "throw", "weapon", "jump", "surface", "sparring", "target", "fitness"}

// CautionKind is the kind a caution names before a colon, and the rest of it.
func CautionKind(caution string) (kind, rest string) { return labelled(caution, CautionKinds) }

// usualCautions are the words of each kind of caution, shown whether or not the school has
// written its own.
var usualCautions = map[string]string{
	"joint":    "Slow, growing pressure, never jerk. Agree a tap and a word first; release at once.",
	"choke":    "Slow, growing pressure; tap and word agreed first, release at once. Not on young tracks unless the owner allows.",
	"throw":    "Breakfalls first, mats, matched partners, supervised.",
	"weapon":   "Training weapons only. Leave if you can; never close in while the blade travels; enter only once the weapon arm is stopped.",
	"jump":     "Legs strengthened first, clear landing, low before high.",
	"surface":  "The right surface; small foot bones break. Never hit a shin with the fist.",
	"sparring": "The rung's rule, kit checked, stop word. Any sign of concussion ends sparring for the day.",
	"target":   "Eyes, throat, groin, knee, spine: shown, not struck.",
	"fitness":  "Stop on pain or dizziness; warm up; adapt for injury.",
}

// GroundKind is what a caution follows from.
type GroundKind string

// What a caution follows from; the words behind name the fields of a Ground they use.
const (
	ByKind     GroundKind = "kind"     // Of: of the technique
	ByLock     GroundKind = "lock"     // Text: the name of one
	ByThrow    GroundKind = "throw"    // Text: the name of one
	ByModifier GroundKind = "modifier" // Of, of the technique Text
	ByName     GroundKind = "name"     // Text: a word in it
	ByStep     GroundKind = "step"     // Text: words in a sentence of one
	ByRemark   GroundKind = "remark"   // Text: words in it
	ByAttack   GroundKind = "attack"   // Text; Of: its nature
	ByTarget   GroundKind = "target"   // Text
	ByMove     GroundKind = "move"     // Text
	ByMoveTo   GroundKind = "move to"  // Text: a target
)

// Ground is what a caution follows from; the zero value nothing, the school wrote it for itself.
type Ground struct {
	Kind     GroundKind
	Of, Text string
}

// Caution is one that is shown with a technique. Aside is the reason for which the school has put it aside.
type Caution struct {
	Kind, Text string
	Ground     Ground
	Aside      string
}

// putAside are the kinds of caution that a technique's own lines put aside, with the reason.
func (t *Technique) putAside() (out map[string]string) {
	for _, c := range t.Cautions {
		if kind, reason, is := asideOf(c); is {
			if out == nil {
				out = map[string]string{}
			}
			out[kind] = reason
		}
	}
	return out
}

// asideOf reads "no jump: done low, on the spot".
func asideOf(line string) (kind, reason string, is bool) {
	rest, is := strings.CutPrefix(strings.ToLower(check.Tidy(line)), "no ")
	if !is {
		return "", "", false
	}
	before, _, _ := strings.Cut(rest, ":")
	kind = strings.TrimSpace(before)
	if !slices.Contains(CautionKinds, kind) {
		return "", "", false
	}
	_, reason, _ = strings.Cut(line, ":")
	return kind, check.Tidy(reason), true
}

func (t *Technique) checkCautions(p *check.Problems) {
	for kind, reason := range t.putAside() {
		if reason == "" {
			p.Add("cautions", "“no %s” says no reason; write “no %s: why it is not needed”, it stays on record", kind, kind)
		}
	}
}

// Cautions are what a technique is taught, practised, called and marked with, up to a stage and
// by one entry, with the remarks it is asked with: the school's own lines, and for each kind that
// follows from the technique or a remark and that the school has not written about, the usual
// words. Those put aside come last.
func (b *Book) Cautions(t *Technique, stage int, entry string, remarks ...string) (out []Caution) {
	own := map[string]bool{}
	for _, c := range t.Cautions {
		if _, _, aside := asideOf(c); aside {
			continue
		}
		kind, text := CautionKind(c)
		own[kind] = true
		out = append(out, Caution{Kind: kind, Text: cmp.Or(text, usualCautions[kind])})
	}
	aside := t.putAside()
	var later []Caution
	due := b.cautionsDue(t, stage, entry)
	for _, remark := range remarks {
		for _, d := range b.ofRemark(t.Kind, remark) {
			if !slices.ContainsFunc(due, func(c Caution) bool { return c.Kind == d.Kind }) {
				due = append(slices.Clip(due), d)
			}
		}
	}
	for _, d := range due {
		d.Text, d.Aside = usualCautions[d.Kind], aside[d.Kind] // d is a copy
		switch {
		case own[d.Kind]:
		case d.Aside != "":
			later = append(later, d)
		default:
			out = append(out, d)
		}
	}
	return append(out, later...)
}

// AllCautions are those of a technique with all its stages and entries, and with the remarks of
// every rung that asks for it.
func (b *Book) AllCautions(t *Technique) []Caution {
	var remarks []string
	for _, i := range b.byTechnique[t.ID] {
		if note := b.Requirements[i].Note; note != "" {
			remarks = append(remarks, note)
		}
	}
	return b.Cautions(t, Whole, "", remarks...)
}

// cautionsOf are the cautions that a line is shown with: their words, and of which kinds the line is risky as it is asked.
func (b *Book) cautionsOf(t *Technique, stage int, entry, remark string, setting Setting) (out, kinds []string) {
	hits := t.Kind == "kick" && setting != "" && setting != Settings[0] || setting == "boards"
	surface := hits && t.putAside()["surface"] == ""
	for _, c := range b.Cautions(t, stage, entry, remark) {
		if c.Aside != "" {
			continue
		}
		out = append(out, c.Text)
		if c.Kind != "" && !b.later(t, stage, entry, c) {
			kinds = append(kinds, c.Kind)
		}
		surface = surface && c.Kind != "surface"
	}
	if surface { // a kick that hits something, whatever breaks a board
		out, kinds = append(out, usualCautions["surface"]), append(kinds, "surface")
	}
	return out, kinds
}

// later reports whether a line that the school wrote follows from a stage or an entry that is not asked yet: it is shown all the same.
func (b *Book) later(t *Technique, stage int, entry string, c Caution) bool {
	same := func(d Caution) bool { return d.Kind == c.Kind }
	return c.Ground == Ground{} && !slices.ContainsFunc(b.cautionsDue(t, stage, entry), same) && slices.ContainsFunc(b.cautionsDue(t, Whole, ""), same)
}

// Whole is a technique with all its stages and entries.
const Whole = -1

// cautionsDue are the cautions that follow from a technique, up to a stage and by one entry, or
// from the whole of it: from its kind, its attack, its modifiers and the words of its name, and
// from the moves and sentences of both roles. Questions, courtesies and tasks call for none.
func (b *Book) cautionsDue(t *Technique, stage int, entry string) []Caution {
	key := toldKey{technique: t.ID, stage: stage, entry: entry}
	b.mu.Lock()
	out, there := b.due[key]
	b.mu.Unlock()
	if !there {
		out = b.lookForCautions(t, stage, entry)
		b.mu.Lock()
		b.due[key] = out
		b.mu.Unlock()
	}
	return out
}

func (b *Book) lookForCautions(t *Technique, stage int, entry string) (out []Caution) {
	add := adder(&out)
	switch t.Kind {
	case "knowledge", "courtesy", "character":
		return nil
	case "fitness":
		add("fitness", Ground{Kind: ByKind, Of: "fitness"})
		return out
	case "sparring":
		add("sparring", Ground{Kind: ByKind, Of: "sparring"})
	case "board_break":
		add("surface", Ground{Kind: ByKind, Of: "board_break"})
	}
	if t.Kind == "lock" {
		add("joint", Ground{Kind: ByKind, Of: "lock"})
	}
	b.bySort(t, add)
	for _, c := range b.ofRemark(t.Kind, t.Note) {
		add(c.Kind, c.Ground)
	}
	for _, a := range t.Attack {
		if nature := b.Program.NatureOf(a.Kind); ofNature[nature] != "" {
			add(ofNature[nature], Ground{ByAttack, string(nature), string(a.Kind)})
		}
	}
	for _, target := range t.Targets {
		if word := sensitive(strings.Fields(target)); word != "" {
			add("target", Ground{Kind: ByTarget, Text: target})
		}
	}
	entries := []string{entry}
	if stage == Whole {
		stage, entries = len(t.Stages), []string{""}
		for _, e := range t.Entries {
			entries = append(entries, e.Name)
		}
	}
	for _, e := range entries {
		x := b.told(t, stage, e, -1)
		for _, s := range x.steps {
			if next := b.Technique(cmp.Or(s.Of, s.Attached)); next != nil {
				b.bySort(next, add)
			}
		}
		for i, seq := range x.seqs {
			if x.read[i] {
				b.byMoves(t.Kind, seq, add)
			}
		}
		if x.attack != nil {
			b.byMoves(t.Kind, *x.attack, add)
		}
	}
	return out
}

// ofNature are the kinds of caution that follow from the nature of an attack.
var ofNature = map[Nature]string{"weapon": "weapon", "choke": "choke", "lock": "joint", "tackle": "throw"}

// adder adds a kind of caution once, with what it follows from.
func adder(out *[]Caution) func(kind string, ground Ground) {
	return func(kind string, ground Ground) {
		if !slices.ContainsFunc(*out, func(c Caution) bool { return c.Kind == kind }) {
			*out = append(*out, Caution{Kind: kind, Ground: ground})
		}
	}
}

// bySort adds what follows from what a technique is and is called: also where it is a step of
// another.
func (b *Book) bySort(t *Technique, add func(kind string, ground Ground)) {
	switch t.Kind {
	case "lock": // a check or a grip by itself bends nothing
		if onJoint.MatchString(strings.ToLower(t.Name)) {
			add("joint", Ground{Kind: ByLock, Text: t.Name})
		}
	case "throw":
		add("throw", Ground{Kind: ByThrow, Text: t.Name})
	}
	for _, m := range t.Modifiers {
		if m == "jumping" || m == "spinning" {
			add("jump", Ground{ByModifier, string(m), t.Name})
		}
	}
	for _, name := range append([]string{t.Name}, t.Aliases...) {
		for _, f := range b.wordsInName(t.Kind, name) {
			if f.kind == "weapon" && f.word == "blade" && len(t.Attack) > 0 && !slices.ContainsFunc(t.Attack, func(a AttackElement) bool { return b.Program.NatureOf(a.Kind) == "weapon" }) {
				continue // Hiding the Blade, against a left hook
			}
			add(f.kind, Ground{Kind: ByName, Text: f.word})
		}
	}
}

// byMoves adds what follows from the moves and sentences of something of a kind.
func (b *Book) byMoves(kind Kind, seq notation.Sequence, add func(kind string, ground Ground)) {
	seq.All(func(_, _ int, m *notation.Move) {
		if m.Sentence != "" {
			for _, f := range b.wordsInSentence(kind, m.Sentence) {
				add(f.kind, Ground{Kind: ByStep, Text: f.word})
			}
			return
		}
		for _, travel := range m.Travel {
			if travel.Kind == "jump" || travel.Kind == "spin" {
				add("jump", Ground{Kind: ByMove, Text: travel.Kind})
			}
		}
		if t := b.Technique(m.Technique); t != nil {
			b.bySort(t, add)
		}
		down := m.Technique == "" && slices.ContainsFunc(m.Travel, func(t notation.Travel) bool { return t.Kind == "drop" })
		if word := sensitive(m.Target); word != "" && !down {
			add("target", Ground{Kind: ByMoveTo, Text: strings.Join(m.Target, " ")})
		}
	})
}

// NotFor refuses a technique to the members of a track.
type NotFor struct {
	Track string
	Suits string // the track from which on it suits; "" it has a choke or a neck hold, and the owner has not allowed it
}

func (n *NotFor) Error() string {
	if n.Suits != "" {
		return fmt.Sprintf("Not for %s: it suits %s and older.", n.Track, n.Suits)
	}
	return fmt.Sprintf("Not for %s: chokes and neck holds are not for a young track without the owner’s leave.", n.Track)
}

// MayNot says why the members of a track may not do a technique, asked with a remark or none; nil
// they may. What suits only older ones, and chokes and neck holds on a young track without the
// owner's leave, the defence against one too, are on no sheet, call or page of theirs.
func (b *Book) MayNot(t *Technique, remark string, track *Track) *NotFor {
	if track == nil {
		return nil
	}
	if suits, limited := b.tracks[t.YoungestTrack]; limited && b.tracks[track.ID] < suits {
		return &NotFor{Track: track.Name, Suits: b.Program.Tracks[suits].Name}
	}
	if track.Young && !track.AllowsRisk {
		for _, c := range b.Cautions(t, Whole, "", remark) {
			if c.Kind == "choke" && c.Aside == "" {
				return &NotFor{Track: track.Name}
			}
		}
	}
	return nil
}
