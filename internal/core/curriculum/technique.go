package curriculum

import (
	"slices"
	"strings"
	"sync"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// Kind says what sort of thing a technique is.
type Kind string

// Kinds are the kinds of technique, in the order screens offer them.
var Kinds = []Kind{
	"strike", "kick", "block", "evasion", "stance", "footwork", "lock", "throw", "breakfall", "form", "combination",
	"self_defence", "partner_set", "sparring", "fitness", "balance", "knowledge", "courtesy", "board_break", "character",
}

var kindWords = map[Kind]string{
	"block": "block or parry", "lock": "lock or hold", "throw": "throw or takedown", "self_defence": "self-defence technique",
	"partner_set": "partner set", "sparring": "sparring round", "fitness": "fitness item", "balance": "balance drill",
	"knowledge": "knowledge question", "courtesy": "courtesy item", "board_break": "board break", "character": "character task",
}

// Words is the kind as people say it.
func (k Kind) Words() string {
	if w := kindWords[k]; w != "" {
		return w
	}
	return string(k)
}

// Home is the kind of the section in which a kind usually stands.
func (k Kind) Home() Kind {
	switch k {
	case "lock", "throw", "breakfall":
		return "self_defence"
	case "footwork", "balance":
		return "stance"
	case "partner_set":
		return "sparring"
	case "board_break":
		return "kick"
	}
	return k
}

// UsualKinds are the kinds that sections of some names have, by sectionKey.
var UsualKinds = map[string]Kind{
	"courtesy": "courtesy", "etiquette": "courtesy", "stance": "stance", "stance work": "stance", "kicking technique": "kick", "footwork": "footwork", "foot maneuver": "footwork", "foot manoeuvre": "footwork", "defensive maneuver": "self_defence", "balance": "balance",
	"strike": "strike", "punch": "strike", "punching": "strike", "striking": "strike", "hand technique": "strike", "kicking": "kick", "kick": "kick", "leg technique": "kick", "foot technique": "kick",
	"block": "block", "parry": "block", "blocks and parrie": "block", "evasion": "evasion", "combination": "combination", "combo": "combination",
	"form": "form", "pattern": "form", "kata": "form", "poomsae": "form", "hyung": "form", "tul": "form",
	"self defence": "self_defence", "self defence technique": "self_defence", "lock": "lock", "hold": "lock", "joint lock": "lock", "locks and hold": "lock", "self defence and lock": "self_defence", "throws and takedown": "throw", "throw": "throw", "takedown": "throw",
	"breakfall": "breakfall", "break fall": "breakfall", "fall": "breakfall", "falling": "breakfall", "roll": "breakfall", "falls and roll": "breakfall", "named technique": "self_defence", "named defence": "self_defence", "sets and form": "form", "forms and set": "form", "sets & form": "form", "forms & set": "form", "partner set": "partner_set", "set": "partner_set", "partner drill": "partner_set", "pair drill": "partner_set", "sparring": "sparring", "free sparring": "sparring",
	"fitness": "fitness", "conditioning": "fitness", "strength": "fitness", "knowledge": "knowledge", "theory": "knowledge", "question": "knowledge", "terminology": "knowledge",
	"kumite": "sparring", "taiso": "fitness", "gakka": "knowledge", "kyorugi": "sparring", "matsogi": "sparring", "gyeorugi": "sparring", "ukemi": "breakfall",
	"goshin jutsu": "self_defence", "hosinsul": "self_defence", "ho sin sul": "self_defence", "scenario": "self_defence", "pt": "fitness", "p.t": "fitness", "power test": "board_break",
	"kansetsu": "lock", "katame": "lock", "nage": "throw", "freestyle": "sparring", "free style": "sparring", "p.t.": "fitness", "grab": "self_defence", "choke": "self_defence",
	"headlock": "self_defence", "strangle": "self_defence", "bunkai": "self_defence", "kyokpa": "board_break", "destruction": "board_break", "oral": "knowledge", "korean": "knowledge",
	"japanese": "knowledge", "language": "knowledge", "term": "knowledge", "written": "knowledge", "spoken": "knowledge", "push": "self_defence", "pushe": "self_defence",
	"grab release": "self_defence", "essay": "knowledge", "fit": "fitness", "escape": "self_defence", "parrie": "block", "renzoku waza": "combination", "renraku waza": "combination",
	"release": "self_defence", "randori": "sparring", "goshin": "self_defence", "goshin waza": "self_defence", "tameshiwari": "board_break", "one step": "partner_set",
	"two step": "partner_set", "three step": "partner_set", "one step sparring": "partner_set", "two step sparring": "partner_set", "three step sparring": "partner_set", "pin": "lock",
	"verbal": "knowledge", "spar": "sparring", "atemi": "strike", "boxing": "strike", "movement": "footwork",
	"sogi": "stance", "makki": "block", "chirugi": "strike", "jirugi": "strike", "taerigi": "strike", "chigi": "strike", "tachi": "stance", "bal": "kick",
	"chagi": "kick", "geri": "kick", "makgi": "block", "uke": "block", "jireugi": "strike", "zuki": "strike", "tsuki": "strike", "seogi": "stance", "dachi": "stance", "leg": "kick", "rounds": "sparring", "self def": "self_defence", "sd": "self_defence", "sd technique": "self_defence", "defences against": "self_defence", "defence against": "self_defence", "defending against": "self_defence", "warm up": "fitness", "warming up": "fitness", "self defence drill": "self_defence", "attitude": "character", "spirit": "character", "spirit and attitude": "character", "spirit & attitude": "character", "behaviour": "character", "behavior": "character", "conduct": "character", "effort": "character", "discipline": "character",
	"flexibility": "fitness", "stamina": "fitness", "endurance": "fitness", "exercise": "fitness", "physical": "fitness", "body": "fitness", "mind": "knowledge", "know": "knowledge", "word": "knowledge", "mental": "knowledge", "hand strike": "strike", "set sparring": "partner_set", "step sparring": "partner_set", "set work": "partner_set", "getting fit": "fitness", "keeping fit": "fitness", "staying safe": "self_defence", "being safe": "self_defence", "keeping safe": "self_defence", "at home": "character", "home": "character", "listening": "courtesy", "talk": "knowledge", "self protection": "self_defence", "self-protection": "self_defence", "vocabulary": "knowledge", "history": "knowledge", "must know": "knowledge", "need to know": "knowledge", "breakfalling": "breakfall",
	"good person": "character", "kind": "character", "being good": "character", "being kind": "character", "kindness": "character", "being a good person": "character",
	"rolling": "breakfall", "tumbling": "breakfall", "getting up": "breakfall", "getting up safely": "breakfall",
	"life skill": "character", "home job": "character", "character development": "character", "character building": "character", "value": "character", "responsibility": "character",
	"class behaviour": "character", "class behavior": "character", "practice at home": "character", "practise at home": "character", "school": "character",
	"dojang manner": "courtesy", "dojo manner": "courtesy", "reigi": "courtesy", "reishiki": "courtesy", "opening and closing": "courtesy",
	"general knowledge": "knowledge", "mat chat": "knowledge", "law": "knowledge", "q&a": "knowledge", "q & a": "knowledge", "things to know": "knowledge", "philosophy": "knowledge",
	"anatomy": "knowledge", "freestyle technique": "combination", "freestyle combination": "combination",
	"cardio": "fitness", "physical conditioning": "fitness", "workout": "fitness",
	"ring work": "sparring", "ringcraft": "sparring", "fight": "sparring", "light contact": "sparring", "point fighting": "sparring", "point sparring": "sparring",
	"sequence": "combination", "linked technique": "combination", "linked move": "combination",
	"street defence": "self_defence", "real life": "self_defence", "real life defence": "self_defence", "situation": "self_defence", "reality": "self_defence",
	"getting loose": "self_defence", "breakaway": "self_defence", "break away": "self_defence", "weapon defence": "self_defence", "weapons defence": "self_defence",
	"bully defence": "self_defence",
	"restraint":     "lock", "submission": "lock", "sweep": "throw", "cover": "block", "head movement": "evasion", "dodging": "evasion", "posture": "stance",
	"fist": "strike", "moving about": "footwork", "good student": "character",
	"character": "character", "board break": "board_break", "board breaking": "board_break", "break": "board_break", "fighting": "sparring", "free fighting": "sparring", "play fighting": "sparring", "play fight": "sparring", "footing": "stance", "getting free": "self_defence", "getting away": "self_defence", "breaking free": "self_defence", "hold breaking": "self_defence", "teaching": "character", "leadership": "character", "assisting": "character", "helping": "character", "breaking": "board_break", "bowing": "courtesy", "manner": "courtesy", "blocking": "block",
}

// SectionKey is a section's name without case, hyphens, spelling variants and the plural.
func SectionKey(name string) string {
	key := strings.ReplaceAll(strings.ReplaceAll(check.Key(name), "-", " "), "defense", "defence")
	for _, end := range []string{"ches", "shes"} { // punches
		if strings.HasSuffix(key, end) {
			return strings.TrimSuffix(key, "es")
		}
	}
	return strings.TrimSuffix(key, "s")
}

// UsualKind is the kind that a section of this name usually has; "" where the name says none.
func UsualKind(section string) Kind {
	key := SectionKey(section)
	if k, known := UsualKinds[key]; known {
		return k
	}
	return UsualKinds[key+"s"] // fitness, stances
}

// KindNamed is the kind that a word on a line means: lock, self-defence, sparring round; "" none.
func KindNamed(word string) Kind {
	key := check.Key(word)
	if k := kindsNamed()[key]; k != "" || key == "" {
		return k
	}
	return kindsNamed()[strings.ReplaceAll(key, "-", " ")]
}

// kindsNamed are the kinds by the words that mean them.
var kindsNamed = sync.OnceValue(func() map[string]Kind {
	out := map[string]Kind{}
	for _, k := range slices.Backward(Kinds) { // of two that a word means the first counts
		for _, word := range append(strings.Split(kindWords[k], " or "), k.Words(), string(k), strings.ReplaceAll(string(k), "_", " ")) {
			out[word] = k
		}
	}
	delete(out, "")
	return out
})

// Fault is what is seen when a technique goes wrong.
type Fault struct {
	Seen       string `json:"seen"`
	Leads      string `json:"leads_to,omitempty"` // what it leads to
	Correction string `json:"correction,omitempty"`
	Critical   bool   `json:"critical,omitzero"` // would get one hurt
}

// Surface is the part that strikes in one context; the wrong one injures.
type Surface struct {
	Context string `json:"context"` // basics, sparring, self-defence
	Part    string `json:"part"`
}

// SurfaceContexts are the contexts a striking surface is stated for.
var SurfaceContexts = []string{"basics", "sparring", "self-defence"}

// Term is what a technique is called in another language, romanised, with the native script
// where the school writes it.
type Term struct {
	Language string `json:"language"`
	Text     string `json:"text"`
	Script   string `json:"script,omitempty"`
}

// Modifier makes a variant of a base technique.
type Modifier string

// Modifiers are the choices.
var Modifiers = []Modifier{"jumping", "spinning", "stepping", "sliding", "skipping", "switching", "double", "lead-leg", "rear-leg"}

// SidePolicy says on which sides a technique is trained.
type SidePolicy string

// The side policies; "" is both.
const (
	BothSides SidePolicy = "both"
	LeadSide  SidePolicy = "lead"
	RearSide  SidePolicy = "rear"
	LeftOnly  SidePolicy = "left"  // by tradition
	RightOnly SidePolicy = "right" // by tradition
	NoSide    SidePolicy = "none"
)

// SidePolicies are the choices.
var SidePolicies = []SidePolicy{BothSides, LeadSide, RearSide, LeftOnly, RightOnly, NoSide}

// Words is the policy as people say it.
func (s SidePolicy) Words() string {
	return map[SidePolicy]string{"": "both sides", BothSides: "both sides", LeadSide: "lead side", RearSide: "rear side", LeftOnly: "left only, by tradition", RightOnly: "right only, by tradition", NoSide: "no sides"}[s]
}

// Sides is how many sides a rep "a side" is done on.
func (s SidePolicy) Sides() int {
	if s == BothSides || s == "" {
		return 2
	}
	return 1
}

// Zone is a range; "" is not said.
type Zone string

// Zones are the choices, far to near.
var Zones = []Zone{"outside", "middle", "inside"}

// Position is where a defence ends: inside or outside the attacker's arm.
type Position string

// Positions are the choices; "" is not said.
var Positions = []Position{"inside", "outside"}

// Branch is what to do when something is observed.
type Branch struct {
	When        string `json:"when"`
	Then        Then   `json:"then"`
	TechniqueID string `json:"technique,omitempty"` // of go to
}

// Then says how a branch goes on.
type Then string

// The ways a branch goes on.
const (
	Continue Then = "continue"
	GoTo     Then = "go_to"
	BreakOff Then = "break_off"
)

// Words is how a branch goes on, as people say it.
func (t Then) Words() string {
	return map[Then]string{Continue: "continue", GoTo: "go to", BreakOff: "break off"}[t]
}

// Clip is a demonstration of the school's own.
type Clip struct {
	Title   string `json:"title"`
	Address string `json:"address"`        // where the school keeps it
	Stage   int    `json:"stage,omitzero"` // 0: of all
	Side    string `json:"side,omitempty"` // left, right; "" both
	From    string `json:"from,omitempty"` // rung from which on it is visible; "" from the lowest
}

// Technique is anything a requirement can name.
type Technique struct {
	ID          string    `json:"id"`
	ProgramID   string    `json:"-"`
	Name        string    `json:"name"`
	Kind        Kind      `json:"kind"`
	Term        string    `json:"term,omitempty"` // in the program's second language, romanised
	Aliases     []string  `json:"aliases,omitempty"`
	Checkpoints []string  `json:"checkpoints,omitempty"` // ordered, observable; a phase may stand before a colon
	Faults      []Fault   `json:"faults,omitempty"`
	Cautions    []string  `json:"cautions,omitempty"` // a kind of caution may stand before a colon; "no KIND: reason" puts a derived one aside
	Surfaces    []Surface `json:"surfaces,omitempty"`
	Note        string    `json:"note,omitempty"` // as people would write it on a card
	TechniqueDetails
}

// TechniqueDetails is what a technique may say beyond its card.
type TechniqueDetails struct {
	Script        string            `json:"script,omitempty"` // the term in its native script
	Terms         []Term            `json:"terms,omitempty"`  // in further languages
	Series        string            `json:"series,omitempty"`
	Number        int               `json:"number,omitzero"` // in its series, from 1; 0: none
	Call          int               `json:"call,omitzero"`   // the program's call number, from 1; 0: none
	Family        string            `json:"family,omitempty"`
	Modifiers     []Modifier        `json:"modifiers,omitempty"`
	BuildsOn      []string          `json:"builds_on,omitempty"` // technique ids
	Levels        []notation.Level  `json:"levels,omitempty"`
	Range         Zone              `json:"range,omitempty"`
	Targets       []string          `json:"targets,omitempty"`
	Angle         string            `json:"angle,omitempty"`      // of the strike, in words
	Difficulty    int               `json:"difficulty,omitzero"`  // 1 to 5; 0: not said
	AdvisedIn     []string          `json:"advised_in,omitempty"` // contexts in which the school advises it
	SkillOnly     []string          `json:"skill_only,omitempty"` // contexts in which it is trained only for skill
	LeavesOpen    string            `json:"leaves_open,omitempty"`
	CoveredBy     string            `json:"covered_by,omitempty"`
	SetUpBy       string            `json:"set_up_by,omitempty"`
	FollowedBy    string            `json:"followed_by,omitempty"`
	Entries       []Entry           `json:"entries,omitempty"` // ways into it, each with steps of its own
	Success       []string          `json:"success_signs,omitempty"`
	Sides         SidePolicy        `json:"sides,omitempty"`
	SideMeans     SideMeaning       `json:"side_means,omitempty"`     // what a side of an amount is; "": as the program says
	Feet          notation.Feet     `json:"feet,omitempty"`           // of a stance; "": as its name usually means
	YoungestTrack string            `json:"youngest_track,omitempty"` // track id; "": any
	Answers       []string          `json:"answers,omitempty"`        // accepted answers of a knowledge question, the script of an introduction
	Attack        []AttackElement   `json:"attack,omitempty"`         // the sequence of attacks it answers
	AttackMoves   string            `json:"attack_moves,omitempty"`   // the attacker's part in notation
	AttackerLooks []string          `json:"attacker_checkpoints,omitempty"`
	Position      Position          `json:"position,omitempty"`
	Stance        *floor.Definition `json:"stance,omitempty"`     // of a stance: how it is measured; nil: as its name usually means
	Sweep         floor.Sweep       `json:"sweep,omitempty"`      // of a block: the way it goes; "": as its name says
	Returns       bool              `json:"returns,omitzero"`     // of a form: it ends where it began
	StartApart    int               `json:"start_apart,omitzero"` // of a defence: how far apart the two begin, centimetres from hip to hip; 0: where the attack just lands
	Stages        []Stage           `json:"stages,omitempty"`
	Branches      []Branch          `json:"branches,omitempty"`
	Parts         []Part            `json:"parts,omitempty"` // that can be taught, called and signed off alone
	Clips         []Clip            `json:"clips,omitempty"`
	Apart         []Apart           `json:"told_apart,omitempty"` // what looks like it
	Drills        []Drill           `json:"drills,omitempty"`     // ways in for learners, the easiest first
	Cues          []string          `json:"cue_words,omitempty"`  // in a child's language
}

// FeetStand is how the feet of a stance stand: as said, or as its name usually means.
func (t *Technique) FeetStand() notation.Feet {
	if t.Feet != "" {
		return t.Feet
	}
	for _, name := range append([]string{t.Name}, t.Aliases...) {
		if notation.UsualFeet(name) == notation.SideBySide {
			return notation.SideBySide
		}
	}
	return notation.OneLeads
}

// mostApart bounds how far apart two begin, in centimetres.
const mostApart = 500

// checkFloor notes what is wrong with how a technique stands on the floor.
func (t *Technique) checkFloor(p *check.Problems) {
	switch {
	case t.Stance == nil:
	case t.Kind != "stance":
		p.Add("stance", "belongs to a stance; this is a %s", t.Kind.Words())
	default:
		t.Stance.Check(p)
		if t.FeetStand() == notation.SideBySide && t.Stance.Length != 0 {
			p.Add("length", "is %s; the feet of this stance are side by side, so it has none", check.Hundredths(t.Stance.Length))
		}
	}
	if t.Sweep != "" {
		check.OneOf(p, "sweep", t.Sweep, floor.Sweeps)
	}
	if t.StartApart < 0 || t.StartApart > mostApart {
		p.Add("start_apart", "is %d; it is from 0 to %d cm", t.StartApart, mostApart)
	}
}

// Check notes what is wrong with a technique taken by itself.
// It is long: a rule for each field.
func (t Technique) Check() check.Problems {
	var p check.Problems
	p.Name("name", t.Name)
	p.Line("term", t.Term, check.NameLength)
	p.Line("note", t.Note, check.LineLength)
	for _, x := range []struct{ field, text string }{{"script", t.Script}, {"series", t.Series}, {"family", t.Family}, {"angle", t.Angle}} {
		p.Line(x.field, x.text, check.NameLength)
	}
	for _, x := range []struct{ field, text string }{{"leaves_open", t.LeavesOpen}, {"covered_by", t.CoveredBy}, {"set_up_by", t.SetUpBy}, {"followed_by", t.FollowedBy}} {
		p.Line(x.field, x.text, check.LineLength)
	}
	check.OneOf(&p, "kind", t.Kind, Kinds)
	seen := map[string]bool{check.Key(t.Name): true}
	for _, a := range t.Aliases {
		p.Line("aliases", a, check.NameLength)
		if seen[check.Key(a)] {
			p.Add("aliases", "%q stands twice; an alias is another name", a)
		}
		seen[check.Key(a)] = true
	}
	if t.Number < 0 || t.Number > 999 {
		p.Add("number", "is %d; a number in a series is from 1 to 999", t.Number)
	}
	if t.Number > 0 && t.Series == "" {
		p.Add("series", "is empty; a number needs the series it counts in")
	}
	if t.Call < 0 || t.Call > 999 {
		p.Add("call", "is %d; a call number is from 1 to 999", t.Call)
	}
	if t.Difficulty < 0 || t.Difficulty > 5 {
		p.Add("difficulty", "is %d; it is from 1 to 5", t.Difficulty)
	}
	for _, m := range t.Modifiers {
		check.OneOf(&p, "modifiers", m, Modifiers)
	}
	for _, l := range t.Levels {
		check.OneOf(&p, "levels", l, []notation.Level{notation.Low, notation.Mid, notation.High})
	}
	if t.Range != "" {
		check.OneOf(&p, "range", t.Range, Zones)
	}
	if t.Position != "" {
		check.OneOf(&p, "position", t.Position, Positions)
	}
	if t.Sides != "" {
		check.OneOf(&p, "sides", t.Sides, SidePolicies)
	}
	if t.SideMeans != "" {
		check.OneOf(&p, "side_means", t.SideMeans, SideMeanings)
	}
	if t.Feet != "" {
		check.OneOf(&p, "feet", t.Feet, []notation.Feet{notation.OneLeads, notation.SideBySide})
	}
	t.checkFloor(&p)
	t.checkCautions(&p)
	t.checkEntries(&p)
	t.checkParts(&p)
	t.checkLearning(&p)
	for i, a := range t.Attack {
		a.check(&p, i)
	}
	for i, s := range t.Stages {
		s.check(&p, i)
	}
	for _, b := range t.Branches {
		p.Line("branches", b.When, check.LineLength)
		check.OneOf(&p, "branches", b.Then, []Then{Continue, GoTo, BreakOff})
		if (b.Then == GoTo) != (b.TechniqueID != "") {
			p.Add("branches", "%q: say which technique to go to", b.When)
		}
	}
	for _, c := range t.Clips {
		p.Name("clips", c.Title)
		p.Line("clips", c.Address, check.LineLength)
		if c.Address == "" {
			p.Add("clips", "%q has no address; write where the school keeps it", c.Title)
		}
	}
	if len(t.Stages) > MaxStages {
		p.Add("stages", "there are %d; up to %d fit", len(t.Stages), MaxStages)
	}
	return p
}

// MaxStages bounds the parts of one technique.
const MaxStages = 20

// ParseFaults reads one fault a line: what is seen, what it leads to, the correction, with
// arrows or "->" between. One arrow is the correction. An exclamation mark before it makes
// it critical.
func ParseFaults(lines []string) (out []Fault) {
	for _, line := range lines {
		var f Fault
		line, f.Critical = strings.CutPrefix(check.Tidy(line), "!")
		parts := strings.SplitN(strings.ReplaceAll(line, "->", "→"), "→", 3)
		f.Seen = check.Tidy(parts[0])
		f.Correction = check.Tidy(parts[len(parts)-1])
		switch len(parts) {
		case 1:
			f.Correction = ""
		case 3:
			f.Leads = check.Tidy(parts[1])
		}
		out = append(out, f)
	}
	return out
}

// String is the line ParseFaults reads.
func (f Fault) String() string {
	out := f.Seen
	if f.Leads != "" {
		out += " → " + f.Leads + " →"
		if f.Correction != "" {
			out += " " + f.Correction
		}
	} else if f.Correction != "" {
		out += " → " + f.Correction
	}
	if f.Critical {
		out = "! " + out
	}
	return out
}

// Phases are the parts of a technique a checkpoint may belong to.
var Phases = []string{"chamber", "pivot", "extend", "recoil", "set down"}

// Phase is the phase a checkpoint names before a colon, and the rest of it.
func Phase(checkpoint string) (phase, rest string) { return labelled(checkpoint, Phases) }

func labelled(line string, labels []string) (label, rest string) {
	before, after, found := strings.Cut(line, ":")
	if found && slices.Contains(labels, strings.ToLower(strings.TrimSpace(before))) {
		return strings.ToLower(strings.TrimSpace(before)), strings.TrimSpace(after)
	}
	return "", line
}

// SectionFor is the section in which a technique of a kind stands where nothing else is said:
// one of its kind, else of the kind's home; nil where there is none.
func SectionFor(sections []Section, k Kind) *Section {
	for _, kind := range []Kind{k, k.Home()} {
		for i := range sections {
			if sections[i].Kind == kind && k != "" {
				return &sections[i]
			}
		}
	}
	return nil
}
