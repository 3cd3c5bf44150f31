package curriculum

import (
	"slices"
	"strings"
	"sync"

	"velvetladder/internal/core/notation"
)

// told is a technique up to a stage, read once: what every place that tells it starts from.
type told struct {
	steps    []TaughtStep
	seqs     []notation.Sequence // of the steps; empty where a step cannot be read
	read     []bool
	doubts   []stepDoubt
	attack   *notation.Sequence // the attacker's part, where it is written in moves
	recorded notation.Side      // the side of an attack that is not, for an orthodox attacker
	limbs    bool               // the attack is the same for every attacker
	defends  bool
	fixed    bool // never mirrored for a person

	mu    sync.Mutex
	pairs map[Role][2][]StripMove // the cells of a role and of the partner, made once
}

type stepDoubt struct {
	step   int // from 0
	doubt  notation.Doubt
	reason error // it cannot be read at all
}

type toldKey struct {
	technique string
	stage     int
	entry     string
	rung      int
}

// told reads a technique's steps up to a stage, those of an entry before them. Steps of a
// technique it goes on with follow in their place, up to what is taught at a rung, or whole
// where rung is −1.
func (b *Book) told(t *Technique, stage int, entry string, rung int) *told {
	key := toldKey{t.ID, stage, entry, rung}
	b.mu.Lock()
	got := b.tellings[key]
	b.mu.Unlock()
	if got == nil {
		got = b.tell(t, stage, entry, rung)
		b.mu.Lock()
		b.tellings[key] = got
		b.mu.Unlock()
	}
	return got
}

func (b *Book) tell(t *Technique, stage int, entry string, rung int) *told {
	out := &told{defends: t.Defends(), fixed: t.Kind == "form" || t.Sides == LeftOnly || t.Sides == RightOnly}
	if e := t.Entry(entry); e != nil {
		for k, s := range e.Steps {
			out.steps = append(out.steps, TaughtStep{Step: s, Entry: e.Name, Number: k + 1})
		}
		out.defends = out.defends && !e.Initiated
	}
	out.steps = append(out.steps, b.attached(t, stage, rung, nil)...)
	if len(out.steps) == 0 {
		out.steps = b.noted(t)
	}
	lines := make([]string, len(out.steps))
	for i, s := range out.steps {
		lines[i] = s.Moves
	}
	out.seqs, out.read = make([]notation.Sequence, len(lines)), make([]bool, len(lines))
	if b.Catalogue != nil {
		reads, errs := b.Catalogue.ReadSteps(lines)
		for i := range lines {
			if lines[i] == "" {
				continue
			}
			if errs[i] != nil {
				out.doubts = append(out.doubts, stepDoubt{step: i, reason: errs[i]})
				continue
			}
			out.seqs[i], out.read[i] = reads[i].Sequence, true
			for _, d := range reads[i].Doubts {
				out.doubts = append(out.doubts, stepDoubt{step: i, doubt: d})
			}
		}
	}
	if seq, err := b.Read(t.AttackMoves); err == nil && t.AttackMoves != "" {
		out.attack, out.limbs = &seq, seq.SaysLimbs()
	} else if len(t.Attack) > 0 {
		out.recorded = t.Attack[len(t.Attack)-1].Side
		out.limbs = !slices.ContainsFunc(t.Attack, func(a AttackElement) bool { return a.Side == notation.Lead || a.Side == notation.Rear })
	}
	return out
}

// attached are a technique's steps with those of the techniques it goes on with.
func (b *Book) attached(t *Technique, stage, rung int, before []string) (out []TaughtStep) {
	for _, s := range t.StepsAt(stage) {
		out = append(out, s)
		next := b.Technique(s.Attached)
		if next == nil || next.ID == t.ID || slices.Contains(before, next.ID) {
			continue
		}
		upTo := len(next.Stages)
		if rung >= 0 {
			upTo = b.StageAt(next, rung)
		}
		for _, x := range b.attached(next, upTo, rung, append(before, t.ID)) {
			if x.Stage, x.Of = s.Stage, next.ID; x.Moves != "" {
				out = append(out, x)
			}
		}
	}
	return out
}

// noted is the remark of a technique without steps, where it is written in moves: what a card
// says in one line.
func (b *Book) noted(t *Technique) []TaughtStep {
	if t.Note == "" {
		return nil
	}
	seq, err := b.Read(t.Note)
	if err != nil || seq.Moves() == 0 {
		return nil
	}
	words := false
	seq.All(func(_, _ int, m *notation.Move) { words = words || m.Sentence != "" })
	if words {
		return nil
	}
	return []TaughtStep{{Step: Step{Moves: t.Note}}}
}

// Defends reports whether a technique answers an attack, so that two stances matter.
func (t *Technique) Defends() bool { return len(t.Attack) > 0 || t.AttackMoves != "" }

// person is for whom steps are told.
type person struct {
	southpaw bool // the one who does them
	attacker bool // the attacker is a southpaw, or the attack comes in its mirror
	other    bool // the other side of what is not mirrored by a stance
	named    bool // limbs are named; else sides stay as they are written
}

// walked are the steps of a telling for a person, with the limbs of each.
type walked struct {
	steps    [][]notation.Step // of each step of the technique
	facts    notation.Facts
	matches  []notation.Match
	seqs     []notation.Sequence // as they were walked
	mirror   bool
	southpaw bool // from which stance
	from     notation.Stance
}

// walk does the steps for a person. What is written with left and right is written for an
// orthodox student, a defence for an orthodox attacker: it is mirrored for a southpaw, a
// defence for a southpaw attacker and never for its defender; forms, techniques of one side by
// tradition and defences against an attack that names limbs stay as they are.
func (b *Book) walk(x *told, p person) (out walked) {
	out.southpaw = p.southpaw
	switch {
	case !p.named:
		out.southpaw, out.mirror = false, p.other
	case x.fixed:
		out.mirror, out.southpaw = p.other, p.other
	case x.defends:
		out.mirror = p.attacker && (!x.limbs || p.other)
	default:
		out.mirror = p.southpaw
	}
	out.seqs = slices.Clone(x.seqs)
	out.matches = make([]notation.Match, len(out.seqs))
	switch {
	case x.defends && p.named:
		answers := make([]string, len(x.steps))
		for i, s := range x.steps {
			answers[i] = s.Answers
		}
		out.seqs, out.matches = notation.Defence(x.seqs, answers, b.performed(x, p), b.recorded(x, p), out.mirror)
	case out.mirror:
		for i := range out.seqs {
			out.seqs[i] = out.seqs[i].Mirror()
		}
	}
	counts := make([]int, len(out.seqs))
	for i, s := range out.seqs {
		counts[i] = len(s.Counts)
	}
	if b.Catalogue == nil {
		return out
	}
	whole := notation.Join(out.seqs...)
	out.from = whole.From
	walk := b.Catalogue.Walk
	if out.mirror {
		walk = b.Catalogue.WalkMirrored
	}
	var steps []notation.Step
	steps, out.facts = walk(whole, out.southpaw)
	before := 0
	for _, n := range counts {
		var own []notation.Step
		for len(steps) > 0 && steps[0].Count < before+n {
			s := steps[0]
			s.Count -= before
			own, steps = append(own, s), steps[1:]
		}
		out.steps = append(out.steps, own)
		before += n
	}
	return out
}

// performed are the moves of the attack for the attacker of a person.
func (b *Book) performed(x *told, p person) []notation.Performed {
	if x.attack == nil || b.Catalogue == nil {
		return nil
	}
	if x.limbs && p.other {
		return b.Catalogue.Attack(x.attack.Mirror(), true)
	}
	return b.Catalogue.Attack(*x.attack, p.attacker)
}

// recorded is the limb of an attack that is recorded without moves.
func (b *Book) recorded(x *told, p person) notation.Side {
	side := x.recorded
	switch side {
	case notation.Lead:
		side = notation.Left
	case notation.Rear:
		side = notation.Right
	}
	if p.attacker && (!x.limbs || p.other) {
		side = side.Other()
	}
	return side
}

// readingsOf is a strip as it is written, with what is told otherwise to somebody.
func readingsOf(written []StripMove, to []Reading, told func(Reading) []StripMove) []StripMove {
	for _, r := range to {
		for i, c := range told(r) {
			o := &written[i]
			o.Paired = len(to) > 3
			if c.What == o.What && c.How == o.How && c.Feet == o.Feet && c.AsWritten == o.AsWritten && slices.Equal(c.Held, o.Held) {
				continue
			}
			if o.Readings == nil {
				o.Readings = map[Reading]Spoken{}
			}
			o.Readings[r] = Spoken{c.What, c.How, c.Feet, c.AsWritten, c.Held}
		}
	}
	return written
}

// strip is all steps of a telling as cells.
func (b *Book) strip(x *told) []StripMove {
	return readingsOf(b.flat(x, person{}), x.readings(), func(r Reading) []StripMove { return b.flat(x, r.person()) })
}

// pair is what the two of a pair do, as cells: the part of a role, and the partner's. The
// readings of both are those of the one whose part it is: an other side is the attack in its
// mirror, or by an attacker of the other stance.
func (b *Book) pair(t *Technique, x *told, role Role) (own, partner []StripMove) {
	x.mu.Lock()
	defer x.mu.Unlock()
	made, there := x.pairs[role]
	if !there {
		made[0], made[1] = b.makePair(t, x, role)
		if x.pairs == nil {
			x.pairs = map[Role][2][]StripMove{}
		}
		x.pairs[role] = made
	}
	return made[0], made[1]
}

func (b *Book) makePair(t *Technique, x *told, role Role) (own, partner []StripMove) {
	if !x.defends {
		return b.strip(x), nil
	}
	attack := func(r Reading) []StripMove {
		return b.attack(t, x, person{southpaw: r.other(), attacker: r.other(), other: r.other(), named: r != ForOther})
	}
	all := x.readings()
	if role != "attacker" {
		return b.strip(x), readingsOf(b.attack(t, x, person{}), all, attack)
	}
	// The other side of an attack that names its limbs is its mirror, of any other what the same
	// attacker does from the other stance.
	exchanged := func(r Reading) bool { return r.person().southpaw != r.other() }
	byAttacker := func(r Reading) []StripMove {
		return b.attack(t, x, person{southpaw: exchanged(r), attacker: r.other(), other: r.other(), named: r != ForOther})
	}
	answer := func(r Reading) []StripMove {
		p := person{attacker: exchanged(r), other: r.other(), named: r != ForOther}
		if x.limbs {
			p.attacker = r.other()
		}
		return b.flat(x, p)
	}
	return readingsOf(b.attack(t, x, person{}), all, byAttacker), readingsOf(b.flat(x, person{}), all, answer)
}

// flat is all steps of a telling as cells for one person, their counts numbered through.
func (b *Book) flat(x *told, p person) (out []StripMove) {
	before := 0
	for _, s := range b.shown(x, p) {
		for _, c := range s.Strip {
			c.Count += before
			out = append(out, c)
		}
		before = out[len(out)-1].Count
	}
	return out
}

// shown are the steps of a telling with their cells. A step that cannot be read, and one that
// goes on with another technique, is said in its own words: nothing is dropped.
func (b *Book) shown(x *told, p person) (out []ShownStep) {
	w := b.walk(x, p)
	strips := strips(w, p.named)
	for i, s := range x.steps {
		step := ShownStep{TaughtStep: s, Match: w.matches[i]}
		switch {
		case x.read[i]:
			step.Strip = strips[i]
		case s.Moves != "":
			step.Strip = []StripMove{{What: s.Moves, Count: 1, Sentence: true}}
		default:
			step.Strip = []StripMove{{What: "goes on with " + b.nameOfTechnique(s.Attached), Count: 1, Sentence: true}}
		}
		for k := range step.Strip {
			step.Strip[k].Step = i + 1
		}
		step.Strip[0].Answers = s.Answers
		out = append(out, step)
	}
	return out
}

// strips are the cells of each step. What is held goes on from step to step, so that all are
// made together.
func strips(w walked, named bool) [][]StripMove {
	var all []notation.Step
	before, starts := 0, make([]int, len(w.steps))
	for i, own := range w.steps {
		starts[i] = before
		for _, s := range own {
			s.Count += before
			all = append(all, s)
		}
		before += len(w.seqs[i].Counts)
	}
	out := make([][]StripMove, len(w.steps))
	at := 0
	for _, c := range cells(all, w.from, w.southpaw, named, w.mirror) {
		for at+1 < len(starts) && c.Count > starts[at+1] {
			at++
		}
		c.Count -= starts[at]
		out[at] = append(out[at], c)
	}
	return out
}

// Strip reads a line of moves for a view; nothing where it is not written in notation.
func (b *Book) Strip(line string, v View) []StripMove {
	seq, err := b.Read(line)
	if err != nil {
		return nil
	}
	x := &told{steps: []TaughtStep{{Step: Step{Moves: line}}}, seqs: []notation.Sequence{seq}, read: []bool{true}}
	if v == AsWritten {
		return b.strip(x)
	}
	return b.flat(x, v.For().person())
}

// StripOf is a line that was read as cells, as it is written.
func (b *Book) StripOf(seq notation.Sequence) []StripMove {
	x := &told{steps: []TaughtStep{{}}, seqs: []notation.Sequence{seq}, read: []bool{true}}
	return b.flat(x, person{})
}

// attack is the attacker's part as cells, in words where it is not written in moves.
func (b *Book) attack(t *Technique, x *told, p person) []StripMove {
	if x.attack != nil {
		a := &told{steps: []TaughtStep{{Step: Step{Moves: t.AttackMoves}}}, seqs: []notation.Sequence{*x.attack}, read: []bool{true}, defends: x.limbs, limbs: x.limbs}
		return b.flat(a, p)
	}
	text := t.AttackMoves
	if text == "" {
		elements := slices.Clone(t.Attack)
		for i := range elements {
			if p.other {
				elements[i].Side = elements[i].Side.Other()
			}
		}
		text = AttackWords(elements)
	}
	if text == "" {
		return nil
	}
	return []StripMove{{What: text, Count: 1, Step: 1, Sentence: true}}
}

// ShownStep is a step of a technique as it is shown to one student.
type ShownStep struct {
	TaughtStep
	Strip []StripMove    // never empty
	Match notation.Match // how its relation to the attack was resolved; "" it has none
}

// Showing is a technique as one student does it, or as the two of a pair do.
type Showing struct {
	Attack    []StripMove // the attacker's part
	Steps     []ShownStep
	Facts     notation.Facts // in the stance of the view
	Position  Position       // where the defence ends; "" not stated
	Unchecked bool           // the position is stated for another pairing of limbs
}

// Show tells the steps up to a stage for a view, and the attacker's part for the attacker's.
// Lead and rear are followed through all steps; relations to the attack refer to the move that
// their step names.
func (b *Book) Show(t *Technique, stage int, entry string, v, attacker View) (out Showing) {
	x := b.told(t, stage, entry, -1)
	p := person{southpaw: v == Southpaw, attacker: attacker == Southpaw, named: v != AsWritten}
	if x.defends {
		out.Attack = b.attack(t, x, person{southpaw: attacker == Southpaw, named: attacker != AsWritten})
	}
	out.Steps = b.shown(x, p)
	p.named = true
	out.Facts = b.walk(x, p).facts
	out.Position = t.Position
	written := b.related(x, person{named: true})
	out.Unchecked = t.Position != "" && v != AsWritten && !slices.Equal(written, b.related(x, p))
	return out
}

// related tells of each step whether the limb that answers first has the name of the limb that
// attacks; what a stated position was judged from.
func (b *Book) related(x *told, p person) (out []bool) {
	w := b.walk(x, p)
	for i, own := range w.steps {
		at := slices.IndexFunc(own, func(s notation.Step) bool {
			return s.Move.Technique != "" && (s.Limb() == notation.Left || s.Limb() == notation.Right)
		})
		if at < 0 {
			continue
		}
		attacks, _ := notation.Against(b.performed(x, p), x.steps[i].Answers, b.recorded(x, p))
		out = append(out, own[at].Limb() == attacks)
	}
	return out
}

// Spoken is a line's moves written out, for a view and as taught at a rung; "" where it has
// none. A step that answers something says so in brackets.
func (b *Book) Spoken(l Line, rung int, v View) string {
	t := b.Technique(l.TechniqueID)
	if t == nil {
		return ""
	}
	x := b.told(t, l.Stage, l.Entry, rung)
	if l.Role == "attacker" && x.attack != nil {
		x = &told{steps: []TaughtStep{{Step: Step{Moves: t.AttackMoves}}}, seqs: []notation.Sequence{*x.attack}, read: []bool{true}, defends: x.limbs, limbs: x.limbs}
	}
	w := b.walk(x, v.For().person())
	var out []string
	for i, s := range x.steps {
		text := s.Moves
		switch {
		case x.read[i] && v != AsWritten:
			text = spoken(w.seqs[i], w.steps[i])
		case text == "" && s.Attached != "":
			text = "goes on with " + b.nameOfTechnique(s.Attached)
		}
		if s.Answers != "" {
			text += " [" + s.Answers + "]"
		}
		out = append(out, text)
	}
	return strings.Join(out, " / ")
}

func (b *Book) nameOfTechnique(id string) string {
	if t := b.Technique(id); t != nil {
		return t.Name
	}
	return "another technique"
}

// spoken is a sequence written out with a person's limbs.
func spoken(seq notation.Sequence, steps []notation.Step) string {
	out := seq.Clone()
	n := 0
	for c := range out.Counts {
		for k := range out.Counts[c] {
			beat := &out.Counts[c][k]
			for i := range *beat {
				m := &(*beat)[i]
				s := steps[n]
				n++
				m.Name, m.Number = strings.ToLower(m.Name), 0
				switch {
				case m.Sentence != "":
				case m.Whole && m.Technique != "" && differ(s.Limbs):
					m.Name = strings.TrimSuffix(eachTime(*m, m.Name, s.Limbs), "!")
					m.Travel, m.Side, m.Times, m.Whole = nil, "", 0, false
				default:
					s.Move.Side = m.Side
					m.Side = personal(s)
				}
			}
		}
	}
	return out.String()
}
