package progress

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
)

// readyBook is a ladder of two rungs: a technique in parts, one that builds on another, a role
// of each kind, a bonus, and one line carried from below.
func readyBook() (*curriculum.Book, *Asked) {
	side := curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}
	once := curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}
	ask := func(id, rung, section, technique string, role curriculum.Role, q curriculum.Quantity) curriculum.Requirement {
		return curriculum.Requirement{ID: id, RungID: rung, SectionID: section, TechniqueID: technique, Role: role, Quantity: q, Weight: 1}
	}
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Kenpo"},
		Sections: []curriculum.Section{{ID: "k", Name: "Kicks"}, {ID: "d", Name: "Self-defence"}},
		Rungs: []curriculum.Rung{{ID: "n", Name: "No belt"}, {ID: "w", Name: "White belt"}, {ID: "y", Name: "Yellow belt", RungDetails: curriculum.RungDetails{
			Stripes: []curriculum.SectionStripe{{SectionID: "k", Colour: "#b8322c"}, {SectionID: "d", Colour: "#27548f"}}}}},
		Techniques: []curriculum.Technique{
			{ID: "front", Name: "Front kick", Kind: "kick"},
			{ID: "jump", Name: "Jumping front kick", Kind: "kick", TechniqueDetails: curriculum.TechniqueDetails{BuildsOn: []string{"front2"}}},
			{ID: "front2", Name: "Skipping kick", Kind: "kick"},
			{ID: "wheel", Name: "Mill Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"step back"})}, {RungID: "y", Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"step"})}}}},
			{ID: "extra", Name: "Extra", Kind: "kick"},
		},
		Requirements: []curriculum.Requirement{
			ask("1", "w", "k", "front", "performer", side),
			ask("2", "y", "k", "jump", "performer", side),
			ask("3", "y", "k", "front2", "performer", side),
			ask("4", "y", "d", "wheel", "defender", once),
			ask("5", "y", "d", "wheel", "attacker", once),
			ask("6", "y", "k", "extra", "performer", once),
		}}
	c.Requirements[0].Carry.Kind = curriculum.Always
	c.Requirements[2].MustPass = true
	c.Requirements[5].Bonus = true
	b := curriculum.Open(c)
	return b, AskedBy(b, "y", b.Compile(curriculum.Asking{RungID: "y", Undrawn: true}), nil)
}

func TestReadiness(t *testing.T) {
	b, asked := readyBook()
	on := day("2026-11-24")
	shown := func(technique string, role curriculum.Role, side string, stage int) Showing {
		return Showing{TechniqueID: technique, Role: role, Side: side, Stage: stage, On: on}
	}
	at := func(r Readiness, technique string, role curriculum.Role) Item {
		return r.Items[slices.IndexFunc(r.Items, func(i Item) bool { return i.TechniqueID == technique && i.Role == role })]
	}
	none := asked.Ready(nil, nil)
	require.Len(t, none.Items, 6)
	assert.Equal(t, []SectionDone{{ID: "k", Name: "Kicks", Of: 3, Open: []string{"Front kick", "Jumping front kick", "Skipping kick"}}, {ID: "d", Name: "Self-defence", Of: 2, Open: []string{"Mill Wheel, defender", "Mill Wheel, attacker"}}}, none.Sections, "what is carried too, a bonus not")
	assert.Equal(t, []PartDone{{"performer", 0, 3}, {"attacker", 0, 1}, {"defender", 0, 1}}, none.Roles)
	assert.Equal(t, []PartDone{{"left", 0, 3}, {"right", 0, 3}}, none.Sides)
	single := b.Curriculum
	single.Requirements = single.Requirements[1:2]
	lone := curriculum.Open(single)
	assert.Equal(t, []PartDone{{"left", 0, 1}, {"right", 0, 1}}, AskedBy(lone, "y", lone.Compile(curriculum.Asking{RungID: "y", Undrawn: true}), nil).Ready(nil, nil).Sides)

	r := asked.Ready([]Showing{
		{TechniqueID: "front", Role: "performer", On: day("2026-05-01")},
		shown("front2", "performer", "left", 0),
		shown("wheel", "defender", "", 1), // a part of it
		shown("wheel", "attacker", "", 2),
		{TechniqueID: "jump", Role: "performer", On: on, NotYet: true, Fault: "lands on the heel"},
	}, nil)
	half := at(r, "front2", "performer")
	assert.True(t, half.Left && !half.Right && !half.Done)
	part := at(r, "wheel", "defender")
	assert.Equal(t, []any{1, 2, false}, []any{part.Reached, part.Stage, part.Done}, "part 1 of the 2 asked")
	assert.True(t, at(r, "wheel", "attacker").Done)
	assert.Equal(t, "lands on the heel", at(r, "jump", "performer").Fault)
	assert.Equal(t, day("2026-05-01"), at(r, "front", "performer").Seen)
	assert.Equal(t, []PartDone{{"left", 2, 3}, {"right", 1, 3}}, r.Sides)

	next := r.NextThings(b, nil, on, 9)
	var order []string
	var why []Urge
	for _, n := range next {
		order, why = append(order, n.TechniqueID+" "+string(n.Role)), append(why, n.Urge)
	}
	assert.Equal(t, []string{"front2 performer", "front performer", "wheel defender", "jump performer"}, order, "the base before what builds on it")
	assert.Equal(t, Urge{Kind: UrgeMustPass}, why[0])
	assert.Equal(t, Urge{Kind: UrgeUnseen, Days: 207}, why[1])
	assert.Len(t, r.NextThings(b, nil, on, 2), 2)

	done, days := asked.Done([]Showing{shown("front", "performer", "", 0), shown("front2", "performer", "left", 0), shown("front2", "performer", "right", 0), shown("jump", "performer", "", 0), shown("jump", "performer", "", 0), shown("extra", "performer", "", 0)}, nil)
	assert.Equal(t, []civil.Date{on, on, on}, days, "a line is done once, with its last side")
	early := day("2026-05-01")
	ways := asked.Ways([]Showing{shown("front", "performer", "", 0), {TechniqueID: "jump", Role: "performer", On: early}, shown("extra", "performer", "", 0)}, []bool{true})
	assert.Equal(t, []SectionWay{{ID: "k", Of: 3, Known: 1, Done: []civil.Date{early}}, {ID: "d", Of: 2}}, ways, "what is presumed has no day, a bonus does not count")
	stripes := Stripes(b.Rung("y"), b, done, map[string]civil.Date{"d": on})
	assert.Equal(t, []bool{true, false}, []bool{stripes[0].Due, stripes[1].Due})
	assert.Equal(t, on, stripes[1].Awarded)
	assert.Equal(t, "Kicks", stripes[0].Section)
	last := asked.Ready([]Showing{shown("jump", "performer", "", 0), shown("front", "performer", "", 0)}, nil)
	assert.Equal(t, Urge{Kind: UrgeStripe}, func() Urge {
		b.Requirements[2].MustPass = false
		for i := range last.Items {
			last.Items[i].MustPass = false
		}
		return last.NextThings(b, stripes, on, 1)[0].Urge
	}())
}

// TestLawsOfReadiness: the quick count is the full one, what is shown is never taken back by
// showing more, and each side, role and section adds up to the same.
func TestLawsOfReadiness(t *testing.T) {
	_, asked := readyBook()
	rapid.Check(t, func(t *rapid.T) {
		var now []Showing
		for range rapid.IntRange(0, 12).Draw(t, "entries") {
			it := rapid.SampledFrom(asked.Items).Draw(t, "item")
			now = append(now, Showing{TechniqueID: it.TechniqueID, Role: it.Role, Stage: rapid.IntRange(0, 2).Draw(t, "stage"), Side: rapid.SampledFrom([]string{"", "left", "right"}).Draw(t, "side"),
				On: anyDay(t, "on"), NotYet: rapid.IntRange(0, 4).Draw(t, "kind") == 0})
		}
		r := asked.Ready(now, nil)
		sections, _ := asked.Done(now, nil)
		require.Equal(t, sections, r.Sections)
		sum := func(r Readiness) (sections, roles int) {
			for _, s := range r.Sections {
				sections += s.Done
				require.Equal(t, s.Of-s.Done, len(s.Open))
			}
			for _, x := range r.Roles {
				roles += x.Done
			}
			return sections, roles
		}
		before, roles := sum(r)
		require.Equal(t, before, roles)
		it := rapid.SampledFrom(asked.Items).Draw(t, "more")
		after, _ := sum(asked.Ready(append(now, Showing{TechniqueID: it.TechniqueID, Role: it.Role, Stage: 2, On: anyDay(t, "then")}), nil))
		require.GreaterOrEqual(t, after, before)
		for _, x := range r.Items {
			require.False(t, x.Done && x.TwoSided && !(x.Left && x.Right))
			require.False(t, x.Done && x.Reached < x.Stage)
		}
	})
}

// TestWhatIsWorthWorkingOn: each reason by itself, which of two is told, and what comes first.
func TestWhatIsWorthWorkingOn(t *testing.T) {
	today := day("2026-11-24")
	b, _ := readyBook()
	item := func(change func(*Item)) Item {
		it := Item{Line: curriculum.Line{TechniqueID: "extra", Weight: 1, Role: "performer", Section: "Kicks", Freshness: curriculum.New}, SectionID: "k", Counts: true}
		change(&it)
		return it
	}
	known := func(it *Item, seen civil.Date) { it.Freshness, it.Done, it.Seen = curriculum.Carried, true, seen }
	next := func(stripes []StripeState, items ...Item) (out []Urge) {
		r := Readiness{Items: items, Sections: []SectionDone{{ID: "k", Name: "Kicks", Done: 3, Of: 4}, {ID: "d", Name: "Self-defence", Done: 1, Of: 3}}}
		for _, n := range r.NextThings(b, stripes, today, 9) {
			out = append(out, n.Urge)
		}
		return out
	}
	missing := []StripeState{{SectionID: "k"}, {SectionID: "d"}}
	for want, change := range map[Urge]func(*Item){
		{Kind: UrgeNew}:                   func(*Item) {},
		{Kind: UrgeInPart}:                func(it *Item) { it.Freshness, it.Seen = curriculum.Grown, today },
		{Kind: UrgeMore}:                  func(it *Item) { it.Freshness = curriculum.Grown },
		{Kind: UrgeAgain}:                 func(it *Item) { it.Freshness = curriculum.Carried },
		{Kind: UrgeMustPass}:              func(it *Item) { it.MustPass, it.TwoSided, it.Left = true, true, true },
		{Kind: UrgeHalf, Misses: "right"}: func(it *Item) { it.TwoSided, it.Left, it.NotYet = true, true, today },
		{Kind: UrgeHalf, Misses: "left"}:  func(it *Item) { it.TwoSided, it.Right = true, true },
		{Kind: UrgeNotYet, On: today.AddDays(-1)}: func(it *Item) {
			it.NotYet, it.Freshness, it.Seen = today.AddDays(-1), curriculum.Grown, today.AddDays(-9)
		},
		{Kind: UrgeNotYet, On: today, Fault: "guard drops"}: func(it *Item) { it.NotYet, it.Fault = today, "guard drops" },
		{Kind: UrgeUnseen, Days: 90}:                        func(it *Item) { known(it, today.AddDays(-90)) },
	} {
		require.Equal(t, []Urge{want}, next(nil, item(change)))
	}
	for name, change := range map[string]func(*Item){
		"done": func(it *Item) { it.Done = true }, "carried, seen lately": func(it *Item) { known(it, today.AddDays(-89)) }, "carried, presumed": func(it *Item) { known(it, civil.Date{}) }, "new, seen long ago": func(it *Item) { it.Done, it.Seen = true, today.AddDays(-200) }, "a bonus": func(it *Item) { it.Counts, it.Bonus, it.Seen = false, true, today.AddDays(-200) },
	} {
		require.Empty(t, next(nil, item(change)), name)
	}
	assert.Equal(t, []Urge{{Kind: UrgeStripe}}, next(missing, item(func(*Item) {})))
	assert.Equal(t, []Urge{{Kind: UrgeNew}}, next([]StripeState{{SectionID: "k", Awarded: today}}, item(func(*Item) {})), "it is on the belt already")
	assert.Equal(t, []Urge{{Kind: UrgeNew}}, next(missing, item(func(it *Item) { it.SectionID = "d" })), "two are missing")
	assert.Equal(t, []Urge{{Kind: UrgeBase, Name: "Jumping front kick"}, {Kind: UrgeNew}}, next(nil, item(func(it *Item) { it.TechniqueID = "jump" }), item(func(it *Item) { it.TechniqueID = "front2" })), "the base first")

	// Each pair in the order of their worth, whichever stands first on the sheet.
	ranked := []struct {
		name   string
		change func(*Item)
	}{
		{"heavy", func(it *Item) { it.Weight = 50 }}, {"must", func(it *Item) { it.MustPass = true }}, {"half", func(it *Item) { it.TwoSided, it.Left = true, true }}, {"tried", func(it *Item) { it.NotYet = today }},
		{"long not seen", func(it *Item) { known(it, today.AddDays(-300)) }}, {"not seen", func(it *Item) { known(it, today.AddDays(-90)) }}, {"grown", func(it *Item) { it.Freshness, it.Seen = curriculum.Grown, today }}, {"weight 2", func(it *Item) { it.Weight = 2 }}, {"new", func(*Item) {}},
	}
	for i, x := range ranked {
		for _, y := range ranked[i+1:] {
			r := Readiness{Items: []Item{item(func(it *Item) { y.change(it); it.Call = y.name }), item(func(it *Item) { x.change(it); it.Call = x.name })}}
			assert.Equal(t, x.name, r.NextThings(b, nil, today, 1)[0].Call, "before %s", y.name)
		}
	}
	r := Readiness{Items: []Item{item(func(it *Item) { known(it, today.AddDays(-3000)) }), item(func(it *Item) { it.NotYet = today })}}
	assert.Equal(t, Urge{Kind: UrgeNotYet, On: today}, r.NextThings(b, nil, today, 1)[0].Urge, "however long ago")
	assert.Empty(t, r.NextThings(b, nil, today, 0))
}

// TestWhatWasSeen: the last day counts, a later right takes back a fault, a clip is told.
func TestWhatWasSeen(t *testing.T) {
	_, asked := readyBook()
	of := func(all ...Showing) Item {
		r := asked.Ready(all, nil)
		return r.Items[slices.IndexFunc(r.Items, func(i Item) bool { return i.TechniqueID == "front2" })]
	}
	see := func(on, side string) Showing {
		return Showing{TechniqueID: "front2", Role: "performer", On: day(on), Side: side}
	}
	fault := see("2026-03-02", "left")
	fault.NotYet, fault.Fault = true, "slow"
	clip := see("2026-03-03", "right")
	clip.Clip = true
	earlier := func(on string) Showing { // of less than is asked now
		x := see(on, "")
		x.Rung, x.Demand = "w", &curriculum.Demand{Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 4}}
		return x
	}
	old := fault
	old.Rung = "w"
	it := of(earlier("2026-01-05"), earlier("2026-01-02"), see("2026-03-01", "left"), fault)
	assert.Equal(t, []any{day("2026-03-01"), day("2026-03-02"), "slow", true, false, false}, []any{it.Seen, it.NotYet, it.Fault, it.Left, it.Right, it.Done})
	it = of(see("2026-03-01", "left"), old)
	assert.True(t, it.NotYet.IsZero(), "a fault of an earlier climb is history")
	it = of(see("2026-03-01", "left"), fault, clip)
	assert.Equal(t, []any{day("2026-03-03"), civil.Date{}, "", true, true, true, true}, []any{it.Seen, it.NotYet, it.Fault, it.Left, it.Right, it.Done, it.Clip})
	it = of(earlier("2026-01-05"), earlier("2026-01-02"), clip, see("2026-03-04", "right"))
	assert.Equal(t, []any{false, true, false, false}, []any{it.Left, it.Right, it.Done, it.Clip})
	assert.Equal(t, day("2026-01-05"), of(earlier("2026-01-05"), earlier("2026-01-02")).Seen)
	once := asked.Ready([]Showing{{TechniqueID: "wheel", Role: "attacker", Stage: 2, Side: "left", On: day("2026-03-01")}}, nil)
	assert.Equal(t, PartDone{"attacker", 1, 1}, once.Roles[1], "where sides are not asked, one is enough")
	plain := Readiness{}
	assert.Nil(t, plain.Sides)
	no := &Asked{at: map[askedKey][]int{}}
	assert.Nil(t, no.Ready(nil, nil).Sides, "nothing is asked a side")
	many := &Asked{at: map[askedKey][]int{{"x", "performer"}: {}}}
	for i := range 65 {
		many.Items, many.place = append(many.Items, Item{Counts: true}), append(many.place, 0)
		many.at[askedKey{"x", "performer"}] = append(many.at[askedKey{"x", "performer"}], i)
	}
	many.sections = []SectionDone{{ID: "k", Of: 65}}
	all, _ := many.Done([]Showing{{TechniqueID: "x", Role: "performer"}}, nil)
	assert.Equal(t, 65, all[0].Done, "more lines than the quick count keeps at hand")
}

// TestDoneAtTheDemand: done is what this student has been seen to do at the demand asked now, in
// every respect, whichever way it came on record.
func TestDoneAtTheDemand(t *testing.T) {
	side := func(n int) curriculum.Quantity { return curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: n} }
	line := func(id string, q curriculum.Quantity, change func(*curriculum.Line)) curriculum.Line {
		l := curriculum.Line{RequirementID: id, TechniqueID: "jab", Role: "performer", Section: "Strikes", Call: id, Quantity: q, Checkpoints: []string{"a", "b"}}
		if change != nil {
			change(&l)
		}
		return l
	}
	b := curriculum.Open(curriculum.Curriculum{Sections: []curriculum.Section{{ID: "s", Name: "Strikes"}}, Techniques: []curriculum.Technique{{ID: "jab", Name: "Jab", Kind: "strike"}}})
	asked := func(sheets func(string) *Asked, lines ...curriculum.Line) *Asked {
		return AskedBy(b, "next", curriculum.TestSheet{Lines: lines}, sheets)
	}
	full := curriculum.Demand{Quantity: side(5), Level: "mid", Stage: 2, Setting: "pads"}
	want := line("x", side(5), func(l *curriculum.Line) { l.Level, l.Stage, l.Setting = "mid", 2, "pads" })
	for name, x := range map[string]struct {
		change func(*curriculum.Demand)
		met    bool
	}{
		"as asked":            {func(*curriculum.Demand) {}, true},
		"more":                {func(d *curriculum.Demand) { d.Quantity.Reps, d.Level, d.Stage = 9, "high", 3 }, true},
		"fewer":               {func(d *curriculum.Demand) { d.Quantity.Reps = 4 }, false},
		"another unit":        {func(d *curriculum.Demand) { d.Quantity = curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 50} }, false},
		"another side":        {func(d *curriculum.Demand) { d.Quantity.Side = curriculum.ByLimb }, false},
		"lower":               {func(d *curriculum.Demand) { d.Level = "low" }, false},
		"an earlier stage":    {func(d *curriculum.Demand) { d.Stage = 1 }, false},
		"slowly":              {func(d *curriculum.Demand) { d.Slow = true }, false},
		"non-stop":            {func(d *curriculum.Demand) { d.NonStop = true }, false},
		"with support":        {func(d *curriculum.Demand) { d.Supported = true }, false},
		"in the air":          {func(d *curriculum.Demand) { d.Setting = "" }, false},
		"in the air, covers":  {func(d *curriculum.Demand) { d.Setting, d.Covers = "", true }, true},
		"one checkpoint":      {func(d *curriculum.Demand) { d.Checkpoints = []string{"a"} }, false},
		"all the checkpoints": {func(d *curriculum.Demand) { d.Checkpoints = []string{"c", "b", "a"} }, true},
		"by one entry":        {func(d *curriculum.Demand) { d.Entry = "direct" }, false},
	} {
		d := full
		x.change(&d)
		done, _ := asked(nil, want).Done([]Showing{{TechniqueID: "jab", Role: "performer", Demand: &d, On: day("2026-01-01")}}, nil)
		assert.Equal(t, x.met, done[0].Done == 1, name)
	}
	board := line("b", side(1), func(l *curriculum.Line) { l.Setting = "boards" })
	done, _ := asked(nil, board).Done([]Showing{{TechniqueID: "jab", Role: "performer", Demand: &curriculum.Demand{Quantity: side(9), Setting: "pads", Covers: true}}}, nil)
	assert.Zero(t, done[0].Done, "boards are broken on boards alone")

	// A sign-off from before demands were kept counts for every line of that rung's sheet, at the
	// stage written on it; the sheets up to the rung of entry are presumed.
	below := asked(nil, line("air", side(5), nil), line("pads", side(3), func(l *curriculum.Line) { l.Setting, l.Stage = "pads", 2 }))
	sheets := func(rung string) *Asked { return map[string]*Asked{"below": below}[rung] }
	now := asked(sheets, line("air", side(5), nil), line("pads", side(3), func(l *curriculum.Line) { l.Setting, l.Stage = "pads", 2 }), line("more", side(6), nil), line("bonus", side(1), func(l *curriculum.Line) { l.Bonus = true }))
	old := func(rung string, stage int) []string {
		d, _ := now.Done([]Showing{{TechniqueID: "jab", Role: "performer", Rung: rung, Stage: stage, On: day("2026-01-01")}}, nil)
		return d[0].Open
	}
	assert.Equal(t, []string{"pads", "more"}, old("below", 0))
	assert.Equal(t, []string{"more"}, old("below", 2))
	assert.Equal(t, []string{"air", "pads", "more"}, old("gone", 2))
	assert.Equal(t, []string{"pads"}, old("next", 1), "on this rung's own sheet")
	climbed := func(all ...Showing) [2]int {
		done, of := now.OfThisClimb(all)
		return [2]int{done, of}
	}
	assert.Equal(t, [2]int{0, 3}, climbed(), "nothing yet of the three that count")
	onTheWay := Showing{TechniqueID: "jab", Role: "performer", Rung: "next", Stage: 1}
	assert.Equal(t, [2]int{2, 3}, climbed(onTheWay), "a sign-off counts where its stage is as far")
	elsewhere, notYet := onTheWay, onTheWay
	elsewhere.Rung, notYet.NotYet = "below", true
	assert.Equal(t, [2]int{0, 3}, climbed(elsewhere, notYet), "of another rung, or not yet")
	onTheWay.Stage = 2
	assert.Equal(t, [2]int{3, 3}, climbed(onTheWay))
	assert.Equal(t, []bool{true, true, false, true}, now.Presumed([]*Asked{below}))
	r := now.Ready(nil, now.Presumed([]*Asked{below}))
	assert.Equal(t, []any{true, true, 2, false}, []any{r.Items[1].Done, r.Items[1].Presumed, r.Items[1].Reached, r.Items[2].Done})
	r = now.Ready([]Showing{{TechniqueID: "jab", Role: "performer", Rung: "next", Stage: 2, On: day("2026-01-01")}}, now.Presumed([]*Asked{below}))
	assert.False(t, r.Items[1].Presumed, "seen is more than presumed")

	// What was done before a climb began is brought along.
	n, days := now.DoneSince([]Showing{{TechniqueID: "jab", Role: "performer", Rung: "below", On: day("2026-01-01")}, {TechniqueID: "jab", Role: "performer", Rung: "next", Stage: 2, Side: "left", On: day("2026-02-02")},
		{TechniqueID: "jab", Role: "performer", Rung: "next", Stage: 2, Side: "right", On: day("2026-03-03"), NotYet: true}, {TechniqueID: "jab", Role: "performer", Rung: "next", Stage: 2, Side: "right", On: day("2026-03-04")}}, nil, day("2026-02-01"), func(it *Item) bool { return it.Counts })
	assert.Equal(t, 2, n)
	assert.Equal(t, []civil.Date{day("2026-03-04"), day("2026-03-04")}, days)
}

// TestAnsweredAnew: an answer is another one where what this climb asked and what stands open in all disagree.
func TestAnsweredAnew(t *testing.T) {
	open, done := []SectionDone{{Open: []string{"a"}}, {Open: []string{"b"}}}, []SectionDone{{}}
	for _, x := range []struct {
		done, of int
		sections []SectionDone
		want     Anew
		is       bool
	}{
		{3, 3, open, Anew{Done: 3, Of: 3, Open: []string{"a", "b"}}, true},
		{2, 3, open, Anew{Done: 2, Of: 3, Open: []string{"a", "b"}}, false},
		{3, 3, done, Anew{Met: true, Done: 3, Of: 3}, false},
		{2, 3, done, Anew{Met: true, Done: 2, Of: 3}, true},
	} {
		got, is := AnsweredAnew(x.done, x.of, x.sections)
		assert.Equal(t, x.want, got)
		assert.Equal(t, x.is, is, "%+v", x)
	}
}
