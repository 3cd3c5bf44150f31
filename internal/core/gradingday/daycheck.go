package gradingday

import "slices"

// BreachKind is which rule of a day plan is broken; the words behind it name the fields of a Breach it uses.
type BreachKind string

// The rules of a day plan.
const (
	NoRings      BreachKind = "no rings"
	PanelSize    BreachKind = "panel size"     // Name ring, N examiners
	RingEmpty    BreachKind = "ring empty"     // Name ring
	SeatsLeft    BreachKind = "seats left"     // Name ring, N examiners named, M of them examining
	TwoSeats     BreachKind = "two seats"      // Name examiner, Beside and Where rings
	RankUnseen   BreachKind = "rank unseen"    // Name examiner
	NotTested    BreachKind = "not tested"     // Name group, For, Bars; none: the plan left it out
	PlacedOften  BreachKind = "placed often"   // Name group, N times, M parts
	TooShort     BreachKind = "too short"      // Name group, N minutes, M its sheet takes
	BeforeReady  BreachKind = "before ready"   // Name group, N when, M minutes of warm-up, K earliest
	OffItsPin    BreachKind = "off its pin"    // Name group
	TwoRings     BreachKind = "two rings"      // Name group
	ShortAfter   BreachKind = "short after"    // Name group, N minutes after its rest, M its sheet takes
	RestTooShort BreachKind = "rest too short" // Name group, N minutes, M set
	MayNot       BreachKind = "may not"        // Name group, Where ring, Bars
	InThePause   BreachKind = "in the pause"   // Name group
	Overlap      BreachKind = "overlap"        // Name group, N from, Beside group, M until
	ChangeShort  BreachKind = "change short"   // Name group, Beside group, N minutes, M set
	PastClosing  BreachKind = "past closing"   // N the day's end, M the hall's
	OutOfOrder   BreachKind = "out of order"   // Name group, Beside group, Where ring, Order
	TwoPlaces    BreachKind = "in two places"  // Name and Beside groups
	NobodyMay    BreachKind = "nobody may"     // Name group, For, Bars: said before anything is planned
)

// Breach is a rule that a plan breaks, or something it could not look at. Times are minutes of the day.
type Breach struct {
	Hard  bool   // the day cannot run like this
	Group string // id; "" it is about a ring, a panel, or the day
	Ring  string // id
	Kind  BreachKind

	Name, Beside, Where string
	For                 string // what the group is tested for
	N, M, K             int
	Order               Order
	Bars                []Bar
}

// Barred says of a group, before anything is planned, that nobody may examine it.
func Barred(g DayGroup, bars []Bar) Breach {
	return Breach{Hard: true, Group: g.ID, Kind: NobodyMay, Name: g.Name, For: g.For, Bars: bars}
}

// CheckDay looks at a plan as someone would with the sheets in hand, knowing nothing of how it
// was made. The hard breaches come first.
func CheckDay(d Day, p DayPlan) (out []Breach) {
	c := dayCheck{d: d, p: p}
	c.panels()
	c.groups()
	c.rings()
	c.seats()
	slices.SortStableFunc(c.out, func(a, b Breach) int {
		switch {
		case a.Hard == b.Hard:
			return 0
		case a.Hard:
			return -1
		}
		return 1
	})
	return c.out
}

type dayCheck struct {
	d   Day
	p   DayPlan
	out []Breach
}

func (c *dayCheck) say(hard bool, group, ring int, b Breach) {
	b.Hard = hard
	if group >= 0 {
		b.Group = c.d.Groups[group].ID
	}
	if ring >= 0 {
		b.Ring = c.d.Rings[ring].ID
	}
	c.out = append(c.out, b)
}

// panels: one examiner in one place, 1, 3 or 5 to a ring.
func (c *dayCheck) panels() {
	if len(c.d.Rings) == 0 {
		c.say(true, -1, -1, Breach{Kind: NoRings})
	}
	place := map[string]int{}
	for r, panel := range c.p.Panels {
		name := c.d.Rings[r].Name
		if n := len(panel); n != 0 && n != 1 && n != 3 && n != 5 {
			c.say(true, -1, r, Breach{Kind: PanelSize, Name: name, N: n})
		} else if n == 0 {
			c.say(c.used(r), -1, r, Breach{Kind: RingEmpty, Name: name})
		}
		named := 0
		for _, e := range c.d.Examiners {
			if e.Ring == r {
				named++
			}
		}
		if !c.d.Share && named > len(panel) {
			c.say(false, -1, r, Breach{Kind: SeatsLeft, Name: name, N: named, M: len(panel)})
		}
		for _, i := range panel {
			e := c.d.Examiners[i]
			if other, twice := place[e.ID]; twice {
				c.say(true, -1, r, Breach{Kind: TwoSeats, Name: e.Name, Beside: c.d.Rings[other].Name, Where: name})
			}
			place[e.ID] = r
			if e.Rank == RankUnknown {
				c.say(false, -1, r, Breach{Kind: RankUnseen, Name: e.Name})
			}
		}
	}
}

func (c *dayCheck) used(ring int) bool {
	return slices.ContainsFunc(c.p.Slots, func(s Slot) bool { return s.Ring == ring })
}

// groups: each is tested once, wholly, in one ring, by those who may, with its warm-up and rest.
// It is long: a breach for each rule of a group.
func (c *dayCheck) groups() {
	for i, g := range c.d.Groups {
		var first, second []Slot
		for _, s := range c.p.Slots {
			if s.Group != i {
				continue
			}
			if s.Part == 1 {
				first = append(first, s)
			} else {
				second = append(second, s)
			}
		}
		if len(first) == 0 {
			b := Breach{Kind: NotTested, Name: g.Name, For: g.For}
			for _, u := range c.p.Unplaced {
				if u.Group == i {
					b.Bars = u.Why
				}
			}
			c.say(true, i, -1, b)
			continue
		}
		want := 0
		if g.Then > 0 {
			want = 1
		}
		if len(first) > 1 || len(second) != want {
			c.say(true, i, -1, Breach{Kind: PlacedOften, Name: g.Name, N: len(first) + len(second), M: 1 + want})
			continue
		}
		a := first[0]
		if a.To-a.From < g.First {
			c.say(true, i, a.Ring, Breach{Kind: TooShort, Name: g.Name, N: a.To - a.From, M: g.First})
		}
		if a.From < c.d.Open+c.d.Warmup {
			c.say(true, i, a.Ring, Breach{Kind: BeforeReady, Name: g.Name, N: a.From, M: c.d.Warmup, K: c.d.Open + c.d.Warmup})
		}
		if g.Ring != Spare && (a.Ring != g.Ring || g.At > 0 && a.From != g.At) {
			c.say(true, i, a.Ring, Breach{Kind: OffItsPin, Name: g.Name})
		}
		if want == 1 {
			b := second[0]
			if b.Ring != a.Ring {
				c.say(true, i, b.Ring, Breach{Kind: TwoRings, Name: g.Name})
			}
			if b.To-b.From < g.Then {
				c.say(true, i, b.Ring, Breach{Kind: ShortAfter, Name: g.Name, N: b.To - b.From, M: g.Then})
			}
			if b.From < a.To+c.d.Rest {
				c.say(true, i, b.Ring, Breach{Kind: RestTooShort, Name: g.Name, N: b.From - a.To, M: c.d.Rest})
			}
		}
		if a.Ring < len(c.p.Panels) {
			for _, e := range c.p.Panels[a.Ring] {
				if bar := c.d.Examiners[e].Bar(g); bar.Kind != "" {
					c.say(true, i, a.Ring, Breach{Kind: MayNot, Name: g.Name, Where: c.d.Rings[a.Ring].Name, Bars: []Bar{bar}})
				}
			}
		}
	}
}

// rings: one group at a time, with the change between; in order; within hall hours.
func (c *dayCheck) rings() {
	late := 0
	for r := range c.d.Rings {
		var mine []Slot
		for _, s := range c.p.Slots {
			if s.Ring == r {
				mine = append(mine, s)
			}
		}
		slices.SortStableFunc(mine, func(a, b Slot) int { return a.From - b.From })
		for k, s := range mine {
			g := c.d.Groups[s.Group]
			late = max(late, s.To)
			if c.d.PauseTo > 0 && s.From < c.d.PauseTo && s.To > c.d.PauseFrom {
				c.say(true, s.Group, r, Breach{Kind: InThePause, Name: g.Name})
			}
			if k == 0 {
				continue
			}
			before := mine[k-1]
			gap := c.d.Change
			if before.Group == s.Group {
				gap = 0
			}
			beside := c.d.Groups[before.Group].Name
			if s.From < before.To {
				c.say(true, s.Group, r, Breach{Kind: Overlap, Name: g.Name, N: s.From, Beside: beside, M: before.To})
			} else if s.From < before.To+gap {
				c.say(false, s.Group, r, Breach{Kind: ChangeShort, Name: g.Name, Beside: beside, N: s.From - before.To, M: gap})
			}
		}
		c.order(r, mine)
	}
	if late > c.d.Close {
		c.say(true, -1, -1, Breach{Kind: PastClosing, N: late, M: c.d.Close})
	}
}

func (c *dayCheck) order(r int, mine []Slot) {
	if c.d.Order == AnyOrder {
		return
	}
	last := -1
	for _, s := range mine {
		if s.Part != 1 || c.d.Groups[s.Group].At > 0 {
			continue
		}
		if last >= 0 && c.after(c.d.Groups[last], c.d.Groups[s.Group]) {
			c.say(false, s.Group, r, Breach{Kind: OutOfOrder, Name: c.d.Groups[s.Group].Name, Beside: c.d.Groups[last].Name, Where: c.d.Rings[r].Name, Order: c.d.Order})
		}
		last = s.Group
	}
}

// after reports whether the order wants b before a.
func (c *dayCheck) after(a, b DayGroup) bool {
	switch c.d.Order {
	case YoungestFirst:
		return b.Months != 0 && (a.Months == 0 || b.Months < a.Months)
	case RankUp:
		return b.Rung < a.Rung
	case RankDown:
		return b.Rung > a.Rung
	}
	return false
}

// seats: nobody is tested in two places at once.
func (c *dayCheck) seats() {
	type stay struct {
		group, from, to int
	}
	stays := map[string][]stay{}
	for _, s := range c.p.Slots {
		for _, who := range c.d.Groups[s.Group].Students {
			for _, x := range stays[who] {
				if x.group != s.Group && s.From < x.to && x.from < s.To {
					c.say(true, s.Group, s.Ring, Breach{Kind: TwoPlaces, Name: c.d.Groups[s.Group].Name, Beside: c.d.Groups[x.group].Name})
				}
			}
			stays[who] = append(stays[who], stay{s.Group, s.From, s.To})
		}
	}
}
