package curriculum

import (
	"cmp"
	"slices"
	"sync"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
)

// Curriculum is all that one program teaches and asks for, as one value. Its JSON form is the
// open format.
type Curriculum struct {
	Program      Program       `json:"program"`
	Sections     []Section     `json:"sections"`
	Rungs        []Rung        `json:"rungs"` // lowest first
	Techniques   []Technique   `json:"techniques"`
	Requirements []Requirement `json:"requirements"` // by rung, then in the school's order
}

// Book is a curriculum opened for reading: everything found by id, names resolved, lines of
// moves read once. It is safe for concurrent use.
type Book struct {
	Curriculum
	Catalogue *notation.Catalogue // nil where two techniques share a name
	Collision error               // why there is no catalogue

	rungs       map[string]int
	sections    map[string]int
	techniques  map[string]int
	names       map[string]int // of techniques and their aliases, by key
	tracks      map[string]int
	groups      map[string]int
	byRung      [][]int                 // rung → requirements
	carrying    []int                   // requirements that are asked above their rung
	byTechnique map[string][]int        // technique → requirements, lowest rung first
	likened     map[string][]*Technique // technique → those that say how they are told apart from it

	mu       sync.Mutex
	read     map[string]reading       // line of moves → as it was read
	ways     map[string][]floor.Point // the way of whoever walks a technique, walked once
	tellings map[toldKey]*told        // techniques as they are told, read once

	due      map[toldKey][]Caution // that follow from a technique, looked for once
	remarked map[string][]Caution  // and from a remark
	likeOnce sync.Once
	like     []string

	beforeMu sync.Mutex
	earlier  map[string]map[testedKey][]tested // track → what its sheets ask, reckoned once

	checked sync.Once // what the ladder check found, looked for once
	found   []Finding
}

type reading struct {
	notation.Reading
	err error
}

// Open indexes a curriculum. Positions follow the order of the lists.
func Open(c Curriculum) *Book {
	b := &Book{Curriculum: c, rungs: map[string]int{}, sections: map[string]int{}, techniques: map[string]int{}, names: map[string]int{}, tracks: map[string]int{}, groups: map[string]int{},
		byTechnique: map[string][]int{}, likened: map[string][]*Technique{}, read: map[string]reading{}, tellings: map[toldKey]*told{}, ways: map[string][]floor.Point{}, byRung: make([][]int, len(c.Rungs)),
		earlier: map[string]map[testedKey][]tested{}, due: map[toldKey][]Caution{}, remarked: map[string][]Caution{}}
	for i := range c.Rungs {
		c.Rungs[i].Position = i
		c.Rungs[i].ProgramID = c.Program.ID
		b.rungs[c.Rungs[i].ID] = i
	}
	for i := range c.Sections {
		c.Sections[i].Position = i
		c.Sections[i].ProgramID = c.Program.ID
		b.sections[c.Sections[i].ID] = i
	}
	for i, t := range c.Program.Tracks {
		b.tracks[t.ID] = i
	}
	for i, g := range c.Program.Groups {
		b.groups[g.ID] = i
	}
	for i := range c.Techniques {
		t := &c.Techniques[i]
		t.ProgramID = c.Program.ID
		b.techniques[t.ID] = i
		for _, a := range t.Apart {
			b.likened[a.TechniqueID] = append(b.likened[a.TechniqueID], t)
		}
		for _, name := range append([]string{t.Name}, t.Aliases...) {
			key := check.Key(name)
			if _, taken := b.names[key]; !taken {
				b.names[key] = i
			}
		}
	}
	b.Catalogue, b.Collision = notation.NewCatalogue(b.Entries())
	byPlace := func(x, y Requirement) int { return cmp.Compare(b.rungs[x.RungID], b.rungs[y.RungID]) }
	if !slices.IsSortedFunc(c.Requirements, byPlace) {
		c.Requirements = slices.Clone(c.Requirements)
		slices.SortStableFunc(c.Requirements, byPlace)
		b.Curriculum.Requirements = c.Requirements
	}
	for i, r := range c.Requirements {
		at, there := b.rungs[r.RungID]
		if !there {
			continue
		}
		b.byRung[at] = append(b.byRung[at], i)
		if r.Carry.Kind != "" && r.Carry.Kind != Once {
			b.carrying = append(b.carrying, i)
		}
		b.byTechnique[r.TechniqueID] = append(b.byTechnique[r.TechniqueID], i)
	}
	return b
}

// Entries are the techniques as notation knows them.
func (b *Book) Entries() []notation.Entry {
	out := make([]notation.Entry, len(b.Techniques))
	for i := range b.Techniques {
		t := &b.Techniques[i]
		e := notation.Entry{ID: t.ID, Name: t.Name, Aliases: t.Aliases, Call: t.Call, Kind: t.Kind.Words()}
		switch t.Kind {
		case "stance":
			e.Stands = t.FeetStand()
		case "footwork", "combination":
			for _, s := range t.StepsAt(len(t.Stages)) {
				e.Own = append(e.Own, s.Moves)
			}
			if len(e.Own) == 0 && t.Note != "" {
				e.Own = []string{t.Note}
			}
		}
		out[i] = e
	}
	return out
}

// Rung is the rung with an id, nil where there is none.
func (b *Book) Rung(id string) *Rung { return at(b.Rungs, b.rungs, id) }

// Technique is the technique with an id, nil where there is none.
func (b *Book) Technique(id string) *Technique { return at(b.Techniques, b.techniques, id) }

// Section is the section with an id, nil where there is none.
func (b *Book) Section(id string) *Section { return at(b.Sections, b.sections, id) }

// Track is the track with an id, nil where there is none.
func (b *Book) Track(id string) *Track { return at(b.Program.Tracks, b.tracks, id) }

// Group is the sample group with an id, nil where there is none.
func (b *Book) Group(id string) *SampleGroup { return at(b.Program.Groups, b.groups, id) }

func at[T any](list []T, places map[string]int, id string) *T {
	if i, there := places[id]; there {
		return &list[i]
	}
	return nil
}

// Named is the technique of a name or alias, nil where there is none.
func (b *Book) Named(name string) *Technique { return at(b.Techniques, b.names, check.Key(name)) }

// RungNamed is the rung of a name, nil where there is none.
func (b *Book) RungNamed(name string) *Rung {
	for i := range b.Rungs {
		if check.Key(b.Rungs[i].Name) == check.Key(name) {
			return &b.Rungs[i]
		}
	}
	return nil
}

// Asked are a rung's own requirements in the school's order.
func (b *Book) Asked(rung string) (out []Requirement) {
	if at, there := b.rungs[rung]; there {
		for _, i := range b.byRung[at] {
			out = append(out, b.Requirements[i])
		}
	}
	return out
}

// UsedBy are the requirements that name a technique, lowest rung first.
func (b *Book) UsedBy(technique string) (out []Requirement) {
	for _, i := range b.byTechnique[technique] {
		out = append(out, b.Requirements[i])
	}
	return out
}

// Variants are the techniques that build on one, in the program's order.
func (b *Book) Variants(technique string) (out []*Technique) {
	for i := range b.Techniques {
		if slices.Contains(b.Techniques[i].BuildsOn, technique) {
			out = append(out, &b.Techniques[i])
		}
	}
	return out
}

// Read reads a line of moves against the program's techniques. Lines are read once.
func (b *Book) Read(line string) (notation.Sequence, error) {
	r, err := b.reading(line)
	return r.Sequence, err
}

func (b *Book) reading(line string) (notation.Reading, error) {
	if b.Catalogue == nil {
		return notation.Reading{}, b.Collision
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	got, there := b.read[line]
	if !there {
		got.Reading, got.err = b.Catalogue.Read(line)
		b.read[line] = got
	}
	return got.Reading, got.err
}

// StageAt is the highest stage of a technique introduced at or below a rung, from 1; 0 where
// its first stage is above. A technique without stages is at stage 0; an optional tail is no stage
// that is asked.
func (b *Book) StageAt(t *Technique, rung int) (stage int) {
	for i, s := range t.Stages[:t.obligatory()] {
		at, there := b.rungs[s.RungID]
		if s.RungID == "" || there && at <= rung {
			stage = max(stage, i+1)
		}
	}
	return stage
}

// Provisional reports whether a grade on a rung is provisional until honours make it permanent.
func (b *Book) Provisional(rung string) bool {
	from, set := b.rungs[b.Program.PermanentFrom]
	at, there := b.rungs[rung]
	return set && there && at < from
}

// SparringOf is the sparring rule that holds at a rung: its own, or that of the nearest rung
// below that has one; nil where there is none.
func (b *Book) SparringOf(rung string) *SparringRule {
	at, there := b.rungs[rung]
	if !there {
		return nil
	}
	for i := at; i >= 0; i-- {
		if b.Rungs[i].Sparring != nil {
			return b.Rungs[i].Sparring
		}
	}
	return nil
}

// KitOf is all kit owed at a rung: its own and that of the rungs below, in that order.
func (b *Book) KitOf(rung string) (out []string) {
	at, there := b.rungs[rung]
	if !there {
		return nil
	}
	for _, r := range b.Rungs[:at+1] {
		for _, k := range r.Kit {
			if !slices.Contains(out, k) {
				out = append(out, k)
			}
		}
	}
	return out
}
