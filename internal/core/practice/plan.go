package practice

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// Topic is something a class could work on, with whom it would serve.
type Topic struct {
	ID       string // of the technique: both roles of it are one topic
	Name     string
	Roles    RolesAsked
	Section  string
	Place    int // of the section in the school's order
	Kind     curriculum.Kind
	Minutes  int
	Cautions []string
	Serves   []Served
	Taught   civil.Date // last worked on in a class of the program; zero: not lately
	Themed   bool       // it belongs to the theme of the week
	For      bool       // it is what the class is for
	Needs    Needs      // what it cannot be done without, as it is asked
	Drill    string     // the way in that suits those whom it serves; "" none is on record
	Cues     []string   // what to say

	drills map[How]string // the way in, by what there is
}

// ReasonKind is why somebody needs to work on something.
type ReasonKind string

// The kinds of reasons; the words behind name the field of a Reason they use.
const (
	NotSigned  ReasonKind = "not signed" // off yet
	MustPass   ReasonKind = "must pass"
	NotRight   ReasonKind = "not right" // tried, not right yet
	NotSeen    ReasonKind = "not seen"  // for so many Weeks
	WasAway    ReasonKind = "was away"  // On the day it was worked on
	OfTheTheme ReasonKind = "theme"     // of the week
	OfTheClass ReasonKind = "class"     // that is for it
)

// Reason is why somebody needs to work on something.
type Reason struct {
	Kind  ReasonKind
	Weeks int
	On    civil.Date
}

// RolesAsked are the roles in which something is asked of those who come, where it is more than one.
type RolesAsked string

// Roles worked on together; one alone is "".
const (
	BothRoles     RolesAsked = "both"    // attacker and defender
	StrikeAndHold RolesAsked = "holding" // and striking
)

// Served is one whom a topic serves.
type Served struct {
	Student string // id
	Name    string
	Rung    string // climbed to
	Worth   int    // how much it helps, times the chance that the student comes, in permille
	Chance  int    // that the student comes, in permille; 0: certain
	Why     []Reason
	Missed  bool // was away when it was last worked on
}

// Tonight is what a plan is made for.
type Tonight struct {
	Minutes int
	On      civil.Date
	How     How
	Pinned  map[string]bool // topics that must be in it
	Dropped map[string]bool // and those that must not
	Unheard bool            // the class was never held
}

// Block is a part of a class.
type Block struct {
	Topic
	Begin  int // minutes after the beginning
	Pinned bool
	WarmUp bool
	Free   bool // minutes that no need fills
	Bow    bool // the end of the class
	Worth  int  // what it adds to the plan
	As     As   // how it is done where not as it is asked

	Meanwhile []Group // what those do whom it does not serve, under a senior
}

// Group is some of a class with something of their own to work on.
type Group struct {
	Topic string
	Roles RolesAsked
	Names []string
}

// Plan is what a class works on.
type Plan struct {
	Blocks []Block
	Worth  int
	Served int     // students whom at least one block serves
	Beside int     // and others who have something of their own to work on meanwhile
	Rest   []Topic // what rests, because it was just taught
	Next   []Topic // what would come next if there were more minutes, best first
	Over   int     // minutes by which what is pinned does not fit
	Theme  int     // minutes that follow the theme of the week
	Cannot []Topic // what those who come need and cannot be done so
	Unsure []Topic // what serves only people who may not come
}

// OfThemeUnsure is what belongs to the theme and serves only people who may not come.
func (p Plan) OfThemeUnsure() []Topic { return themed(p.Unsure) }

// OfThemeCannot is what belongs to the theme and cannot be done so.
func (p Plan) OfThemeCannot() []Topic { return themed(p.Cannot) }

func themed(topics []Topic) (out []Topic) {
	for _, x := range topics {
		if x.Themed {
			out = append(out, x)
		}
	}
	return out
}

// How a class is built, and what a topic is worth. A topic of the theme counts half as much
// again, what the class is for three times, and one of each is always there. What was worked on in the last days rests, but for those who
// were away. Each further topic of one section is worth a fifth less than the one before, because a
// class wants variety; of what is only talked of, half less: who comes wants to move.
const (
	warmUpShare = 8 // the warm-up is an eighth of a class, at least 5 minutes
	warmUpLeast = 5
	closing     = 3 // minutes to bow out
	leastFree   = 5 // minutes left over that are worth naming
	restDays    = 5
	surely      = 950 // permille: how likely somebody whom a block serves has to come
	themePart   = 150 // percent
	classPart   = 300 // percent
	varietyPart = 80  // percent
	talkPart    = 50  // percent
)

// TopicMinutes is how long a class works on a kind of thing.
func TopicMinutes(k curriculum.Kind) int {
	switch k {
	case "form", "sparring", "partner_set":
		return 10
	case "self_defence", "throw", "lock":
		return 8
	case "kick", "combination", "breakfall", "fitness":
		return 6
	case "knowledge", "courtesy", "character":
		return 3
	}
	return 5
}

// worthOf is what a topic is worth by itself tonight.
func (t Tonight) worthOf(x *Topic) int {
	n := 0
	for _, s := range x.Serves {
		n += s.Worth
	}
	if x.Themed {
		n = n * themePart / 100
	}
	if x.For {
		n = n * classPart / 100
	}
	if part, _ := t.How.of(x); part < 100 {
		n = n * part / 100
	}
	return n
}

// rests reports whether a topic was just taught, and leaves those who were away then: for them it
// does not rest. What the class is for never does.
func (t Tonight) rests(x *Topic) bool {
	if x.Taught.IsZero() || x.Taught.DaysTo(t.On) > restDays || t.Pinned[x.ID] || x.For {
		return false
	}
	var away []Served
	for _, s := range x.Serves {
		if s.Missed {
			away = append(away, s)
		}
	}
	if len(away) == 0 {
		return true
	}
	x.Serves = away
	return false
}

// none is the chance, in millionths, that nobody comes whom a topic serves, as if each came by chance
// of their own.
func (x *Topic) none() int {
	none := 1_000_000
	for _, s := range x.Serves {
		if s.Chance == 0 {
			return 0
		}
		none = none * (1000 - s.Chance) / 1000
	}
	return none
}

// surest parts topics into those that all but surely serve somebody, which may be planned, and the
// others. Where the first do not fill the minutes, the surest of the others are among them. Of a class that was never held nobody is surer than
// another, and its plan is chosen from everything.
func (t Tonight) surest(topics []Topic) (pool, unsure []Topic) {
	slices.SortStableFunc(topics, func(x, y Topic) int { return cmp.Compare(x.none(), y.none()) })
	minutes := 0
	for _, x := range topics {
		if t.How != "" && x.drills != nil {
			x.Drill = x.drills[t.How]
		}
		if x.none() <= (1000-surely)*1000 || t.Pinned[x.ID] || minutes < t.Room() || t.Unheard {
			pool = append(pool, x)
			minutes += x.Minutes
		} else {
			unsure = append(unsure, x)
		}
	}
	return pool, unsure
}

// Room is how many minutes there are between warm-up and bow.
func (t Tonight) Room() int { return max(t.Minutes-t.warmUp()-closing, 0) }

func (t Tonight) warmUp() int { return min(max(t.Minutes/warmUpShare, warmUpLeast), t.Minutes) }

// value is what a choice of topics is worth together.
func (t Tonight) value(topics []Topic, chosen []int, alone []int) int {
	bySection := map[string][]int{}
	var talk []int
	for _, i := range chosen {
		if topics[i].moves() {
			bySection[topics[i].Section] = append(bySection[topics[i].Section], alone[i])
		} else {
			talk = append(talk, alone[i])
		}
	}
	total := together(talk, talkPart)
	for _, worths := range bySection {
		total += together(worths, varietyPart)
	}
	return total
}

// together is what some topics are worth of which each further one counts a part of the one before, in percent, the worthiest first.
func together(worths []int, each int) (total int) {
	slices.SortFunc(worths, func(x, y int) int { return y - x })
	part := 10_000
	for _, w := range worths {
		total += w * part / 10_000
		part = part * each / 100
	}
	return total
}

// MakePlan chooses what serves most needs in the minutes there are: what is pinned first; then
// greedily by worth a minute, and from there by exchanging, adding and leaving out topics as
// long as the plan gains. The blocks stand in the school's order of sections, the warm-up first.
// It is long: a class is planned from its beginning to its end.
func MakePlan(topics []Topic, t Tonight) (p Plan) {
	var pool []Topic
	for _, x := range topics {
		switch {
		case t.Dropped[x.ID]:
		case t.rests(&x):
			p.Rest = append(p.Rest, x)
		case t.How.cannot(&x):
			p.Cannot = append(p.Cannot, x)
		default:
			pool = append(pool, x)
		}
	}
	pool, p.Unsure = t.surest(pool)
	slices.SortFunc(pool, func(x, y Topic) int { return cmp.Compare(x.ID, y.ID) }) // the same topics, the same plan
	alone := make([]int, len(pool))
	for i := range pool {
		alone[i] = t.worthOf(&pool[i])
	}
	chosen := t.improve(pool, alone, t.greedy(pool, alone))
	used := 0
	for _, i := range chosen {
		used += pool[i].Minutes
	}
	p.Over = max(used-t.Room(), 0)
	p.Worth = t.value(pool, chosen, alone)
	p.Blocks = []Block{{Topic: Topic{Minutes: t.warmUp()}, WarmUp: true}}
	slices.SortStableFunc(chosen, func(x, y int) int {
		return cmp.Or(cmp.Compare(pool[x].Place, pool[y].Place), cmp.Compare(pool[x].Name, pool[y].Name))
	})
	at := t.warmUp()
	served := map[string]bool{}
	if left := t.Minutes - closing - at - used; left > 0 && left < leastFree {
		spread(pool, chosen, alone, left)
	}
	for k, i := range chosen {
		without := slices.Delete(slices.Clone(chosen), k, k+1)
		_, as := t.How.of(&pool[i])
		p.Blocks = append(p.Blocks, Block{Topic: pool[i], Begin: at, Pinned: t.Pinned[pool[i].ID], Worth: p.Worth - t.value(pool, without, alone), As: as})
		if pool[i].Themed {
			p.Theme += pool[i].Minutes
		}
		at += pool[i].Minutes
		for _, s := range pool[i].Serves {
			served[s.Student] = true
		}
	}
	p.Served = len(served)
	if t.How != Live && t.How != Recorded { // at home everybody does what is shown
		p.groups(append(slices.Clip(pool), p.Unsure...), chosen, served) // who comes after all has something to do
	}
	if free := t.Minutes - closing - at; free >= leastFree {
		p.Blocks = append(p.Blocks, Block{Topic: Topic{Minutes: free}, Begin: at, Free: true})
	}
	p.Blocks = append(p.Blocks, Block{Topic: Topic{Minutes: closing}, Begin: max(t.Minutes-closing, at), Bow: true})
	for i, x := range pool {
		if !slices.Contains(chosen, i) && alone[i] > 0 {
			p.Next = append(p.Next, x)
		}
	}
	slices.SortStableFunc(p.Next, func(x, y Topic) int { return cmp.Compare(t.worthOf(&y), t.worthOf(&x)) })
	return p
}

// spread gives minutes that are too few for anything else to the blocks, one each, the worthiest
// first, again and again.
func spread(pool []Topic, chosen, alone []int, left int) {
	order := slices.Clone(chosen)
	slices.SortStableFunc(order, func(x, y int) int { return cmp.Compare(alone[y], alone[x]) })
	for k := 0; k < left && len(order) > 0; k++ {
		pool[order[k%len(order)]].Minutes++
	}
}

// moves reports whether a topic is done with the body, and not only talked of.
func (x Topic) moves() bool {
	return x.Kind != "knowledge" && x.Kind != "courtesy" && x.Kind != "character"
}

// Drilled reports whether the others drill what they know of a block's section meanwhile.
func (b Block) Drilled() bool { return b.moves() }

// alone reports whether a group may work on something under a senior, without the instructor's eye.
func (x Topic) alone() bool {
	switch x.Kind {
	case "lock", "throw", "sparring", "breakfall", "board_break", "self_defence", "partner_set":
		return false
	}
	return len(x.Cautions) == 0
}

// mostGroups work beside a block: each wants a senior, and the instructor's ear.
const mostGroups = 3

// groups gives those whom a block does not serve something to work on together: what they need
// and no block brings, that is safe without the instructor's eye. The topics are those that
// help most of them; what somebody has just worked on so counts half for him with every time. Who is not served otherwise
// is counted.
func (p *Plan) groups(pool []Topic, chosen []int, served map[string]bool) {
	type time struct {
		student string
		topic   int
	}
	times := map[time]int{}
	for k := range p.Blocks {
		b := &p.Blocks[k]
		if b.WarmUp {
			continue
		}
		busy := map[string]bool{}
		for _, s := range b.Serves {
			busy[s.Student] = true
		}
		for len(b.Meanwhile) < mostGroups {
			best, most := -1, 0
			for i := range pool {
				if !pool[i].alone() || slices.Contains(chosen, i) {
					continue
				}
				worth := 0
				for _, s := range pool[i].Serves {
					if !busy[s.Student] {
						worth += s.Worth >> times[time{s.Student, i}]
					}
				}
				if worth > most {
					best, most = i, worth
				}
			}
			if best < 0 {
				break
			}
			g := Group{Topic: pool[best].Name, Roles: pool[best].Roles}
			for _, s := range pool[best].Serves {
				if !busy[s.Student] {
					busy[s.Student] = true
					times[time{s.Student, best}]++
					g.Names = append(g.Names, s.Name)
					if !served[s.Student] {
						served[s.Student] = true
						p.Beside++
					}
				}
			}
			b.Meanwhile = append(b.Meanwhile, g)
		}
	}
}

// greedy takes what is pinned, then again and again what adds most a minute and still fits.
func (t Tonight) greedy(pool []Topic, alone []int) (chosen []int) {
	room := t.Room()
	for i := range pool {
		if t.Pinned[pool[i].ID] {
			chosen = append(chosen, i)
			room -= pool[i].Minutes
		}
	}
	for _, wanted := range always {
		if i := best(pool, alone, room, wanted); i >= 0 && !slices.ContainsFunc(chosen, func(k int) bool { return wanted(&pool[k]) }) {
			chosen = append(chosen, i)
			room -= pool[i].Minutes
		}
	}
	for {
		best, gain, minutes := -1, 0, 1
		now := t.value(pool, chosen, alone)
		for i := range pool {
			if pool[i].Minutes > room || slices.Contains(chosen, i) {
				continue
			}
			g := t.value(pool, append(chosen[:len(chosen):len(chosen)], i), alone) - now
			if g > 0 && g*minutes > gain*pool[i].Minutes {
				best, gain, minutes = i, g, pool[i].Minutes
			}
		}
		if best < 0 {
			return chosen
		}
		chosen = append(chosen, best)
		room -= pool[best].Minutes
	}
}

// always are the sorts of topics of which one is always there, where any fits: what the class is for, then the theme.
var always = []func(*Topic) bool{func(x *Topic) bool { return x.For }, func(x *Topic) bool { return x.Themed }}

// best is the topic of a sort that is worth most a minute and fits; -1 where there is none.
func best(pool []Topic, alone []int, room int, wanted func(*Topic) bool) int {
	best := -1
	for i := range pool {
		if wanted(&pool[i]) && alone[i] > 0 && pool[i].Minutes <= room && (best < 0 || alone[i]*pool[best].Minutes > alone[best]*pool[i].Minutes) {
			best = i
		}
	}
	return best
}

// improve exchanges one chosen topic for one or two others, as long as that gains.
func (t Tonight) improve(pool []Topic, alone, chosen []int) []int {
	minutes := func(list []int) (n int) {
		for _, i := range list {
			n += pool[i].Minutes
		}
		return n
	}
	now := t.value(pool, chosen, alone)
	// What the class is for and the theme are not exchanged away.
	lost := func(list []int) bool {
		return slices.ContainsFunc(always, func(wanted func(*Topic) bool) bool {
			is := func(i int) bool { return wanted(&pool[i]) }
			return slices.ContainsFunc(chosen, is) && !slices.ContainsFunc(list, is)
		})
	}
	for {
		best, gain := []int(nil), 0
		try := func(list []int) {
			if minutes(list) > t.Room() || lost(list) {
				return
			}
			if g := t.value(pool, list, alone) - now; g > gain {
				best, gain = slices.Clone(list), g
			}
		}
		for out := -1; out < len(chosen); out++ {
			if out >= 0 && t.Pinned[pool[chosen[out]].ID] {
				continue
			}
			base := slices.Clone(chosen)
			if out >= 0 {
				base = slices.Delete(base, out, out+1)
			}
			for i := range pool {
				if slices.Contains(base, i) || out >= 0 && chosen[out] == i {
					continue
				}
				one := append(base[:len(base):len(base)], i)
				if minutes(one) > t.Room() {
					continue
				}
				try(one)
				for j := i + 1; j < len(pool); j++ {
					if !slices.Contains(one, j) && !(out >= 0 && chosen[out] == j) {
						try(append(one[:len(one):len(one)], j))
					}
				}
			}
		}
		if best == nil {
			return chosen
		}
		chosen, now = best, now+gain
	}
}

// Share is how many of those whom a block serves climb to a rung.
type Share struct {
	N    int
	Rung string
}

// Shares are those whom a block serves, by the rung they climb to.
func (b Block) Shares() (out []Share) {
	by := map[string]int{}
	for _, s := range b.Serves {
		by[s.Rung]++
	}
	for _, s := range b.Serves {
		if n := by[s.Rung]; n > 0 {
			out = append(out, Share{n, s.Rung})
			by[s.Rung] = 0
		}
	}
	return out
}
