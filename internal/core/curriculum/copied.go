package curriculum

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"

	"velvetladder/internal/core/check"
)

// Copied is the curriculum as another program of this name, with new ids throughout and nothing shared with
// this one. What was said about findings of the check and about readings of old moves stays behind: it is about this one.
func (c Curriculum) Copied(name string, id func() string) (Curriculum, error) {
	text, err := json.Marshal(c)
	if err != nil {
		return Curriculum{}, fmt.Errorf("copying %s: %w", c.Program.Name, err)
	}
	var out Curriculum
	if err := json.Unmarshal(text, &out); err != nil {
		return Curriculum{}, fmt.Errorf("copying %s: %w", c.Program.Name, err)
	}
	now := map[string]string{"": ""}
	as := func(old *string) {
		if _, there := now[*old]; !there {
			now[*old] = id()
		}
		*old = now[*old]
	}
	p := &out.Program
	p.Name, p.Silenced, p.ReadAnew, p.SignedOffAnew = check.Tidy(name), nil, false, false
	as(&p.ID)
	as(&p.PermanentFrom)
	for i := range p.Tracks {
		as(&p.Tracks[i].ID)
	}
	for i := range p.Groups {
		as(&p.Groups[i].ID)
	}
	for i := range out.Sections {
		as(&out.Sections[i].ID)
	}
	for i := range out.Rungs {
		r := &out.Rungs[i]
		as(&r.ID)
		for j := range r.Stripes {
			as(&r.Stripes[j].SectionID)
		}
		for j := range r.Rules {
			as(&r.Rules[j].TrackID)
		}
	}
	for i := range out.Techniques {
		out.Techniques[i].renamed(as)
	}
	for i := range out.Requirements {
		out.Requirements[i].renamed(as)
	}
	return out, nil
}

// renamed gives a technique and all it points at other ids.
func (t *Technique) renamed(as func(*string)) {
	as(&t.ID)
	as(&t.YoungestTrack)
	for i := range t.BuildsOn {
		as(&t.BuildsOn[i])
	}
	for i := range t.Stages {
		as(&t.Stages[i].RungID)
		as(&t.Stages[i].Attached)
	}
	for i := range t.Branches {
		as(&t.Branches[i].TechniqueID)
	}
	for i := range t.Clips {
		as(&t.Clips[i].From)
	}
	for i := range t.Apart {
		as(&t.Apart[i].TechniqueID)
	}
	for i := range t.Drills {
		as(&t.Drills[i].From)
	}
}

// renamed gives a requirement and all it points at other ids.
func (r *Requirement) renamed(as func(*string)) {
	for _, old := range []*string{&r.ID, &r.RungID, &r.SectionID, &r.TechniqueID, &r.Carry.Rung, &r.Carry.Group} {
		as(old)
	}
	for i := range r.Tracks {
		as(&r.Tracks[i].TrackID)
	}
}

// CopyRung is the curriculum with one rung more, just above the one it is copied from: its cloth, rules, kit and
// stripes under another name, and its page where that is wanted. Stages of techniques stay where they are.
// added is the id of the new rung.
func (b *Book) CopyRung(rung, name string, page bool, id func() string) (c Curriculum, added string, err error) {
	old := b.Rung(rung)
	if old == nil {
		return c, "", check.Problems{{Field: "rung", Text: "is not on this ladder any more; load the page again"}}
	}
	now := *old
	now.ID, now.Name = id(), check.Tidy(name)
	before, _ := ClothCalled(old.Name)
	if c, told := ClothCalled(now.Name); told && !reflect.DeepEqual(c, before) { // Orange belt, copied from Yellow belt
		now.Cloth = c
	}
	p := now.Check()
	if same := b.RungNamed(now.Name); same != nil {
		p.Add("name", "%q is a rung of this ladder already", same.Name)
	}
	if len(p) > 0 {
		return c, "", p
	}
	c = b.Curriculum
	c.Rungs = slices.Insert(slices.Clone(c.Rungs), b.Place(rung)+1, now)
	c.Requirements = slices.Clone(c.Requirements)
	if page {
		for _, r := range b.Requirements {
			if r.RungID == rung {
				r.ID, r.RungID = id(), now.ID
				if r.Carry.Kind == Until && b.Place(r.Carry.Rung) <= b.Place(rung) {
					r.Carry = Carry{} // it would end before it begins
				}
				c.Requirements = append(c.Requirements, r)
			}
		}
	}
	return c, now.ID, nil
}
