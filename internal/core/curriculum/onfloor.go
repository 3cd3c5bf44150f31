package curriculum

import (
	"cmp"
	"slices"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// StanceOf is how a stance technique stands: as the school defines it, else as its name usually means. own reports whether
// the school defines it, known whether anybody does.
func (b *Book) StanceOf(t *Technique) (d floor.Definition, own, known bool) {
	if t.Stance != nil {
		return *t.Stance, true, true
	}
	for _, name := range append([]string{t.Name}, t.Aliases...) {
		if d, level, there := floor.UsualFor(name); there && level == (t.FeetStand() == notation.SideBySide) {
			return d, false, true
		}
	}
	return floor.Definition{}, false, false
}

// Stances are the stances that sequences name, for a body: by the school's definitions, else the usual ones. A stance that
// nobody defines stands as the ready stance where its feet are level, else as the fighting stance.
func (b *Book) Stances(of body.Parts) func(name string) (floor.Stance, bool) {
	made := map[string]floor.Stance{}
	return func(name string) (floor.Stance, bool) {
		s, there := made[name]
		if !there {
			s = b.stance(name, of)
			made[name] = s
		}
		return s, true
	}
}

func (b *Book) stance(name string, of body.Parts) floor.Stance {
	var t *Technique
	plain := strings.TrimSuffix(check.Key(name), " stance")
	for _, as := range []string{name, plain, plain + " stance"} {
		if t = b.Named(as); t != nil && t.Kind == "stance" {
			break
		}
	}
	if t != nil && t.Kind == "stance" {
		level := t.FeetStand() == notation.SideBySide
		if d, _, known := b.StanceOf(t); known {
			return d.For(of, t.Name, level)
		}
		usual := floor.Fighting
		if level {
			usual = "ready"
		}
		return floor.Usual[usual].For(of, t.Name, level)
	}
	d, level, known := floor.UsualFor(name)
	if !known {
		d = floor.Usual[floor.Fighting]
	}
	return d.For(of, name, level)
}

// Travels reports whether a technique has moves that can be followed on the floor.
func (b *Book) Travels(t *Technique) bool {
	return b.told(t, len(t.Stages), "", -1).moves()
}

// moves reports whether any step is written in moves: words move nobody on the floor.
func (x *told) moves() (any bool) {
	for i, seq := range x.seqs {
		if x.read[i] {
			seq.All(func(_, _ int, m *notation.Move) { any = any || m.Sentence == "" })
		}
	}
	return any
}

// Floored is a technique on the floor, as one student does it.
type Floored struct {
	Path  floor.Path
	Cells []int // of each frame: its cell among those of Strip; −1 before the first
	Strip []StripMove
}

// OnFloor follows a technique up to a stage on the floor, for a view and a body; nil where it has no moves that can be
// followed. A step in words moves nobody.
func (b *Book) OnFloor(t *Technique, stage int, v, attacker View, of body.Parts) *Floored {
	x := b.told(t, stage, "", -1)
	return b.onFloor(x, person{southpaw: v == Southpaw, attacker: attacker == Southpaw, named: v != AsWritten}, floor.Ground{Body: of, Stances: b.Stances(of), Form: t.Kind == "form"})
}

// LineOnFloor follows a line of moves by itself; nil where it cannot be read, or moves nobody. It is read anew each time.
func (b *Book) LineOnFloor(line string, v View, of body.Parts) *Floored {
	if b.Catalogue == nil {
		return nil
	}
	read, err := b.Catalogue.Read(line)
	if err != nil {
		return nil
	}
	x := &told{steps: []TaughtStep{{Step: Step{Moves: line}}}, seqs: []notation.Sequence{read.Sequence}, read: []bool{true}}
	return b.onFloor(x, person{southpaw: v == Southpaw, named: v != AsWritten}, floor.Ground{Body: of, Stances: b.Stances(of)})
}

func (b *Book) onFloor(x *told, p person, g floor.Ground) *Floored {
	if b.Catalogue == nil || !x.moves() {
		return nil
	}
	w := b.walk(x, p)
	whole := notation.Join(w.seqs...)
	out := &Floored{Path: floor.Walk(b.Catalogue.Floor(whole, w.southpaw, w.mirror), whole.From, w.southpaw, g)}
	out.Strip = b.flat(x, p)
	out.Cells = out.cells(x, w)
	return out
}

// cells finds the cell of each frame: steps that cannot be read have a cell of their own and no frame.
func (f *Floored) cells(x *told, w walked) []int {
	cellAt := map[[2]int]int{} // count and beat → cell
	cell, count := 0, 0
	for i, seq := range w.seqs {
		if !x.read[i] {
			cell++
		}
		for n, c := range seq.Counts {
			for k := range c {
				cellAt[[2]int{count + n, k}] = cell
				cell++
			}
		}
		count += len(seq.Counts)
	}
	out := make([]int, len(f.Path.Frames))
	for i, frame := range f.Path.Frames {
		out[i] = -1
		if at, there := cellAt[[2]int{frame.Count, frame.Beat}]; there {
			out[i] = at
		}
	}
	return out
}

// insideWords are words in a strike's name that say it is one of the inside.
var insideWords = []string{"elbow", "knee", "headbutt", "shoulder strike"}

// Act is what a technique does across the distance between two.
func (t *Technique) Act() floor.Act {
	said := " " + check.Key(strings.Join(append([]string{t.Name}, t.Aliases...), " ")) + " "
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(said, " "+w+" ") })
	}
	switch t.Kind {
	case "strike", "kick":
		switch {
		case has(insideWords...):
			return floor.Elbow
		case t.Kind == "strike":
			return floor.Punch
		case has("front kick", "push kick", "snap kick") && !has("side front kick"):
			return floor.FrontKick
		}
		return floor.Kick
	case "block":
		return floor.Block
	case "lock", "throw":
		return floor.Hold
	}
	return ""
}

// sweepWords are words in a block's name that say which way it goes.
var sweepWords = []struct {
	word  string
	sweep floor.Sweep
}{
	{"inward", floor.Inward}, {"inside", floor.Inward}, {"outward", floor.Outward}, {"outside", floor.Outward}, {"rising", floor.Upward}, {"upward", floor.Upward}, {"high", floor.Upward}, {"head", floor.Upward},
	{"downward", floor.Down}, {"low", floor.Down}, {"down", floor.Down},
}

// SweepOf is the way a block goes: as said, or as its name says.
func (t *Technique) SweepOf() floor.Sweep {
	if t.Sweep != "" || t.Kind != "block" {
		return t.Sweep
	}
	words := strings.Fields(check.Key(strings.Join(append([]string{t.Name}, t.Aliases...), " ")))
	for _, x := range sweepWords {
		if slices.Contains(words, x.word) {
			return x.sweep
		}
	}
	return ""
}

// Together is a defence and its attack on one floor.
type Together struct {
	floor.Met
	Pair    floor.Pair
	Defence *Floored
	Attack  []StripMove
	Stated  Position
	// Opposite: the side of the arm that is stated is not the one that comes out. It says nothing for another pairing than
	// the one the side was stated for.
	Opposite bool
}

// Meet puts a defence and its attack on one floor, for the stances and bodies of both; nil where the defence cannot be
// followed.
func (b *Book) Meet(t *Technique, stage int, v, attacker View, own, other body.Parts) *Together {
	if !t.Defends() {
		return nil
	}
	x := b.told(t, stage, "", -1)
	p := person{southpaw: v == Southpaw, attacker: attacker == Southpaw, named: true}
	g := floor.Ground{Body: own, Stances: b.Stances(own)}
	defence := b.onFloor(x, p, g)
	if defence == nil {
		return nil
	}
	out := &Together{Stated: t.Position, Attack: b.attack(t, x, person{southpaw: p.attacker, named: true})}
	fighting, _ := g.Stances(floor.Fighting + " stance")
	out.Pair = floor.Pair{Attack: b.attackPath(x, p, other), Defence: defence.Path, Start: float64(t.StartApart) * 10, Range: string(t.Range), Limb: b.recorded(x, p),
		Zones: floor.Zones(own, fighting), Doing: func(id string) floor.Doing {
			if x := b.Technique(id); x != nil {
				return floor.Doing{Act: x.Act(), Sweep: x.SweepOf()}
			}
			return floor.Doing{}
		}}
	// Whoever goes round the other goes round where the attack has brought them.
	attack := out.Pair.Attack.Frames
	ahead := out.Pair.Apart() - attack[len(attack)-1].Stand.Mass.Y + attack[0].Stand.Mass.Y
	at := defence.Path.Frames[0].Stand.Mass.Plus(floor.Point{Y: ahead})
	g.Partner = &at
	defence = b.onFloor(x, p, g)
	out.Defence, out.Pair.Defence = defence, defence.Path
	out.Pair.With = b.alongside(x, p, defence, len(attack))
	out.Pair.Steps = make([]int, len(defence.Cells))
	for i, cell := range defence.Cells {
		if cell >= 0 {
			out.Pair.Steps[i] = defence.Strip[cell].Step
		}
	}
	out.Met = out.Pair.Meet()
	stated := floor.Reached(out.Stated)
	out.Opposite = stated != "" && out.Side != "" && stated != out.Side && slices.Equal(b.related(x, person{named: true}), b.related(x, p))
	return out
}

// attackPath is the attacker's part on the floor, as if alone. What is written with left and right is the same for every
// attacker.
func (b *Book) attackPath(x *told, p person, of body.Parts) floor.Path {
	g := floor.Ground{Body: of, Stances: b.Stances(of)}
	if x.attack == nil {
		return floor.Walk(nil, notation.Stance{}, p.attacker, g)
	}
	seq, mirrored := *x.attack, p.attacker && !x.limbs
	if mirrored {
		seq = seq.Mirror()
	}
	return floor.Walk(b.Catalogue.Floor(seq, p.attacker, mirrored), seq.From, p.attacker, g)
}

// alongside says with which frame of the attack each frame of the defence happens. A step that names a move of the attack
// meets it; others meet the next one, as long as no later step names it. What is left over has come by the last step.
func (b *Book) alongside(x *told, p person, defence *Floored, frames int) []int {
	moves := b.performed(x, p)
	last := frames - 1
	named := make([]int, len(x.steps)) // by step: the frame of the attack it names; 0 none
	for i, s := range x.steps {
		if at := notation.Named(moves, s.Answers); at > 0 && s.Answers != "" {
			named[i] = min(at, last)
		}
	}
	with := make([]int, len(defence.Path.Frames))
	at, step := 0, -1
	for i := range with[1:] {
		cell := defence.Cells[i+1]
		if s := defence.Strip[cell].Step - 1; s != step {
			step = s
			later := slices.ContainsFunc(named[min(step+1, len(named)):], func(n int) bool { return n > 0 && n <= at+1 })
			switch {
			case named[step] > 0:
				at = max(at, named[step])
			case at < last && !later:
				at++
			}
		}
		with[i+1] = at
	}
	if n := len(with) - 1; n > 0 && !slices.ContainsFunc(named, func(n int) bool { return n > 0 }) {
		with[n] = cmp.Or(max(with[n], last), last)
	}
	return with
}

// Marked is a stance for the usual body, of which a small mark is drawn.
type Marked struct {
	Body  body.Parts
	Stand floor.Stand
}

// MarkStance is a stance for the usual body; nil where nobody defines it.
func (b *Book) MarkStance(t *Technique) *Marked {
	d, _, known := b.StanceOf(t)
	if !known {
		return nil
	}
	of := body.PartsOf(body.Measured{})
	return &Marked{of, d.For(of, t.Name, t.FeetStand() == notation.SideBySide).Take(of, floor.Left)}
}

// MarkWay is the way of the body of whoever walks a technique, for the usual body; nil where it goes nowhere.
func (b *Book) MarkWay(t *Technique) (way []floor.Point) {
	b.mu.Lock()
	way, known := b.ways[t.ID]
	b.mu.Unlock()
	if known {
		return way
	}
	if f := b.OnFloor(t, len(t.Stages), AsWritten, AsWritten, body.PartsOf(body.Measured{})); f != nil {
		for _, x := range f.Path.Frames {
			if n := len(way); n == 0 || way[n-1].Minus(x.Stand.Mass).Length() > 1 {
				way = append(way, x.Stand.Mass)
			}
		}
	}
	if len(way) < 2 {
		way = nil
	}
	b.mu.Lock()
	b.ways[t.ID] = way
	b.mu.Unlock()
	return way
}

// FirstAct is the first technique among the moves of another that strikes, kicks or blocks; nil where none does.
func (b *Book) FirstAct(t *Technique) (first *Technique) {
	x := b.told(t, len(t.Stages), "", -1)
	for _, seq := range x.seqs {
		seq.All(func(_, _ int, m *notation.Move) {
			if y := b.Technique(m.Technique); first == nil && y != nil && y.Act() != "" && y.Act() != floor.Hold {
				first = y
			}
		})
	}
	return first
}

// Targets are the places on a body that a technique goes to: stated, and in its moves; with whether each is shown and not struck.
func (b *Book) Targets(t *Technique) (names []string, care []bool) {
	for _, name := range b.targetsOf(t) {
		names, care = append(names, name), append(care, sensitive(strings.Fields(name)) != "")
	}
	return names, care
}
