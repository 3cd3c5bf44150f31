package gradingday

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/timetable"
)

// Breach is a rule that a plan breaks, or something it could not look at.
type Breach struct {
	Hard  bool   // the day cannot run like this
	Group string // id; "" it is about a ring, a panel, or the day
	Ring  string // id
	Text  string
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

func (c *dayCheck) say(hard bool, group, ring int, format string, args ...any) {
	b := Breach{Hard: hard, Text: fmt.Sprintf(format, args...)}
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
		c.say(true, -1, -1, "There is no ring. A grading needs at least one, with a panel.")
	}
	place := map[string]int{}
	for r, panel := range c.p.Panels {
		name := c.d.Rings[r].Name
		if n := len(panel); n != 0 && n != 1 && n != 3 && n != 5 {
			c.say(true, -1, r, "%s has %d examiners; a panel has 1, 3 or 5.", name, n)
		} else if n == 0 {
			c.say(c.used(r), -1, r, "%s has nobody to examine, so it stays closed. Name 1, 3 or 5 examiners for it.", name)
		}
		named := 0
		for _, e := range c.d.Examiners {
			if e.Ring == r {
				named++
			}
		}
		if !c.d.Share && named > len(panel) {
			c.say(false, -1, r, "%s has %s left; a panel has 1, 3 or 5, so it examines with %d.", name, check.Count(named, "examiner"), len(panel))
		}
		for _, i := range panel {
			e := c.d.Examiners[i]
			if other, twice := place[e.ID]; twice {
				c.say(true, -1, r, "%s sits in %s and in %s at once.", e.Name, c.d.Rings[other].Name, name)
			}
			place[e.ID] = r
			if e.Rank == RankUnknown {
				c.say(false, -1, r, "The rank of %s is not on record, so it was not looked at.", e.Name)
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
			why := "it has no place in the plan"
			for _, u := range c.p.Unplaced {
				if u.Group == i && len(u.Why) > 0 {
					why = "nobody may examine it: " + strings.Join(u.Why, "; ")
				}
			}
			c.say(true, i, -1, "%s (%s) is not tested: %s.", g.Name, g.For, why)
			continue
		}
		want := 0
		if g.Then > 0 {
			want = 1
		}
		if len(first) > 1 || len(second) != want {
			c.say(true, i, -1, "%s stands %d times in the plan; it is tested in %s.", g.Name, len(first)+len(second), check.Count(1+want, "part"))
			continue
		}
		a := first[0]
		if a.To-a.From < g.First {
			c.say(true, i, a.Ring, "%s has %d min, and its sheet takes %d.", g.Name, a.To-a.From, g.First)
		}
		if a.From < c.d.Open+c.d.Warmup {
			c.say(true, i, a.Ring, "%s begins at %s; with %d min of warm-up it can begin at %s.", g.Name, timetable.Clock(a.From), c.d.Warmup, timetable.Clock(c.d.Open+c.d.Warmup))
		}
		if g.Ring != Spare && (a.Ring != g.Ring || g.At > 0 && a.From != g.At) {
			c.say(true, i, a.Ring, "%s is pinned and stands elsewhere.", g.Name)
		}
		if want == 1 {
			b := second[0]
			if b.Ring != a.Ring {
				c.say(true, i, b.Ring, "%s is examined in two rings.", g.Name)
			}
			if b.To-b.From < g.Then {
				c.say(true, i, b.Ring, "%s has %d min after its rest, and its sheet takes %d.", g.Name, b.To-b.From, g.Then)
			}
			if b.From < a.To+c.d.Rest {
				c.say(true, i, b.Ring, "%s rests %d min between fitness and sparring; %d are set.", g.Name, b.From-a.To, c.d.Rest)
			}
		}
		if a.Ring < len(c.p.Panels) {
			for _, e := range c.p.Panels[a.Ring] {
				if ok, why := c.d.Examiners[e].May(g); !ok {
					c.say(true, i, a.Ring, "%s in %s: %s.", g.Name, c.d.Rings[a.Ring].Name, why)
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
				c.say(true, s.Group, r, "%s is tested in the pause.", g.Name)
			}
			if k == 0 {
				continue
			}
			before := mine[k-1]
			gap := c.d.Change
			if before.Group == s.Group {
				gap = 0
			}
			if s.From < before.To {
				c.say(true, s.Group, r, "%s begins at %s, while %s is tested until %s.", g.Name, timetable.Clock(s.From), c.d.Groups[before.Group].Name, timetable.Clock(before.To))
			} else if s.From < before.To+gap {
				c.say(false, s.Group, r, "%s follows %s after %d min; %d are set for the change.", g.Name, c.d.Groups[before.Group].Name, s.From-before.To, gap)
			}
		}
		c.order(r, mine)
	}
	if late > c.d.Close {
		c.say(true, -1, -1, "The day ends at %s and the hall closes at %s: %s too long. A ring or an examiner more, larger groups, fewer candidates or a longer day would help.", timetable.Clock(late), timetable.Clock(c.d.Close), hours(late-c.d.Close))
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
			c.say(false, s.Group, r, "%s comes after %s in %s, and the order is %s.", c.d.Groups[s.Group].Name, c.d.Groups[last].Name, c.d.Rings[r].Name, c.d.Order.Words())
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
					c.say(true, s.Group, s.Ring, "A candidate of %s is tested in %s at the same time.", c.d.Groups[s.Group].Name, c.d.Groups[x.group].Name)
				}
			}
			stays[who] = append(stays[who], stay{s.Group, s.From, s.To})
		}
	}
}

func hours(minutes int) string {
	switch h, m := minutes/60, minutes%60; {
	case h == 0:
		return fmt.Sprintf("%d min", m)
	case m == 0:
		return fmt.Sprintf("%d h", h)
	default:
		return fmt.Sprintf("%d h %d min", h, m)
	}
}
