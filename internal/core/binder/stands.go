package binder

import (
	"cmp"
	"reflect"
	"slices"

	"velvetladder/internal/core/curriculum"
)

// A page for a rung that asks something already: what a line asks once more is the requirement that stands there.

// findStanding gives each line the requirement of its rung that asks the same technique in the same role and setting: first those that ask the
// very same, then those that ask otherwise, of which the line is the change. What is to be shown again stays a line of its own, as does what a remark sets apart from what stands.
func (b *Reader) findStanding(rung string, lines []PageLine) {
	taken, asked := map[string]bool{}, b.Asked(rung)
	for pass, same := range []func(l *PageLine, r curriculum.Requirement) bool{
		func(l *PageLine, r curriculum.Requirement) bool { return !l.changes(r) && l.Note == r.Note },
		func(l *PageLine, r curriculum.Requirement) bool { return !l.changes(r) },
		func(l *PageLine, r curriculum.Requirement) bool { return l.Quantity.Measure == r.Quantity.Measure },
		func(*PageLine, curriculum.Requirement) bool { return true },
	} {
		for i := range lines {
			l := &lines[i]
			if l.New || l.TechniqueID == "" || l.Problem != "" || l.Aside != "" || l.Stands != nil || pass > 0 && l.ShowAgain {
				continue
			}
			for _, r := range asked {
				if !taken[r.ID] && l.asksWhat(r) && same(l, r) {
					taken[r.ID], l.Stands, l.SectionID = true, &r, r.SectionID
					if x := b.Section(r.SectionID); x != nil {
						l.Section = x.Name
					}
					if l.usual && l.under.amount == nil {
						l.Quantity, l.AsAt = r.Quantity, ""
					}
					break
				}
			}
		}
	}
	for i := range lines { // Front kick (back leg), beside Front kick (front leg)
		l := &lines[i]
		besides := func(r curriculum.Requirement) bool {
			return l.asksWhat(r) || l.Note != r.Note && l.withNote(r.Note).asksWhat(r)
		}
		if l.Stands == nil && l.TechniqueID != "" && !l.New && l.Note != "" && slices.ContainsFunc(asked, besides) {
			l.ShowAgain = true
		}
	}
}

// withNote is a line with another remark.
func (l PageLine) withNote(note string) *PageLine {
	l.Note = note
	return &l
}

// asksWhat reports whether a line asks what a requirement asks, be it more or less of it.
func (l *PageLine) asksWhat(r curriculum.Requirement) bool {
	asked := l.Requirement
	if l.From != "" {
		asked.Carry.Kind = curriculum.Sample
	}
	return askAlike(asked, r)
}

// askAlike reports whether two requirements of a rung ask the same of the same technique, be it more or less of it.
func askAlike(r, o curriculum.Requirement) bool {
	return r.TechniqueID == o.TechniqueID && r.Role == o.Role && r.Setting == o.Setting && r.Free == o.Free && r.Slow == o.Slow && r.NonStop == o.NonStop && r.ShowAgain == o.ShowAgain &&
		slices.Equal(r.Entries, o.Entries) && (r.Carry.Kind == curriculum.Sample) == (o.Carry.Kind == curriculum.Sample) &&
		(r.Note == o.Note || r.Note == "" || o.Note == "") && (r.LeastLevel == o.LeastLevel || r.LeastLevel == "" || o.LeastLevel == "")
}

// AskedAlready is the requirement by which a rung asks the same already, in the same unit, so that one more would be no line of its own; nil
// where there is none.
func (b *Reader) AskedAlready(x curriculum.Requirement) *curriculum.Requirement {
	for _, r := range b.Asked(x.RungID) {
		if r.ID != x.ID && !x.ShowAgain && askAlike(x, r) && x.Quantity.Measure == r.Quantity.Measure {
			return &r
		}
	}
	return nil
}

// changes reports whether a line says anything of a requirement that it does not ask yet.
func (l *PageLine) changes(r curriculum.Requirement) bool {
	if l.usual && l.under.amount == nil {
		l := *l
		l.usual, l.Quantity = false, r.Quantity
		return l.changes(r)
	}
	return !reflect.DeepEqual(l.over(r), r)
}

// over is a requirement with what a line says; what the line does not speak of stays as it stands.
func (l *PageLine) over(r curriculum.Requirement) curriculum.Requirement {
	r.Quantity, r.Note = l.Quantity, cmp.Or(l.Note, r.Note)
	if l.MustPass || l.Bonus {
		r.MustPass, r.Bonus = l.MustPass, l.Bonus
	}
	if l.Weight > 1 {
		r.Weight = l.Weight
	}
	r.Covers, r.Supported, r.Phases = r.Covers || l.Covers, r.Supported || l.Supported, r.Phases || l.Phases
	r.Sprint, r.LeastLevel = cmp.Or(l.Sprint, r.Sprint), cmp.Or(l.LeastLevel, r.LeastLevel)
	r.StageCap, r.Voice = cmp.Or(l.StageCap, r.StageCap), cmp.Or(l.Voice, r.Voice)
	if l.Carry.Kind != "" && l.Carry.Kind != curriculum.Sample {
		r.Carry = l.Carry
	}
	if len(l.Table) > 0 {
		r.Table = l.Table
	}
	if len(l.MarkLooks) > 0 {
		r.MarkLooks = l.MarkLooks
	}
	if len(l.Tracks) > 0 {
		r.Tracks = l.Tracks
	}
	return r
}

// Changes reports whether the line changes what its rung asks already; false also where nothing of it stands there.
func (l *PageLine) Changes() bool { return l.Stands != nil && l.changes(*l.Stands) }

// Becomes is the requirement as it stands once the line is added.
func (l *PageLine) Becomes() curriculum.Requirement {
	if l.Stands == nil {
		return l.Requirement
	}
	return l.over(*l.Stands)
}
