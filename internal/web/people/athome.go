package people

import (
	"context"
	"html/template"
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// athomeView is something to practise on the floor, for a family.
type athomeView struct {
	Title, Back string
	Floor       *parts.FloorView
	Stance      template.HTML // from above, where it is a stance
	Side        template.HTML
	Note        string // what the drawing guesses at
	Cautions    []string
}

// draws reports whether there is something to draw of a technique.
func draws(b *curriculum.Book, technique string) bool {
	t := b.Technique(technique)
	switch {
	case t == nil:
		return false
	case t.Kind == "stance":
		_, _, known := b.StanceOf(t)
		return known
	}
	return b.Travels(t)
}

// At is the address at which a family sees something to practise on the floor; for the school's own people that of the
// technique, drawn for the student.
func (v practiceView) At(technique string) string {
	if !draws(v.Climb.Book, technique) {
		return ""
	}
	if v.Family {
		return v.Home + "/floor/" + technique + "?climb=" + v.Climb.EnrolmentID
	}
	page := "/floor"
	if v.Climb.Book.Technique(technique).Kind == "stance" {
		page = "/stance"
	}
	return "/techniques/" + technique + page + "?who=" + url.QueryEscape(v.Climb.Name)
}

// familyFloor shows something that is on the practice sheet on the floor, in the body and the stance of the student.
func (ch *chapter) familyFloor(w http.ResponseWriter, r *http.Request) {
	_, sheet, s, ok := ch.familyPractice(w, r)
	if !ok {
		return
	}
	at := slices.IndexFunc(sheet.Tasks, func(t practiceTask) bool { return t.TechniqueID == r.PathValue("technique") })
	if at < 0 {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	hall, err := ch.Hall(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	who, line, b := ch.Drawn(s), sheet.Tasks[at].Line, sheet.Climb.Book
	t := b.Technique(line.TechniqueID)
	v := athomeView{Title: sheet.Tasks[at].Call, Back: "/family/" + r.PathValue("token"), Note: who.Note, Cautions: words.Cautions(sheet.Tasks[at].Task)}
	if t.Kind == "stance" {
		v.stance(b, t, who, s.Stance == "southpaw")
	} else {
		partner := who // somebody of the same size, where nobody is known
		partner.Words = "a partner"
		v.Floor = parts.FloorOf(b, parts.OnFloor{Technique: t, Stage: line.Stage, View: curriculum.View(s.Stance), Who: who, Other: partner, Hall: hall})
	}
	if v.Floor == nil && v.Stance == "" {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "athome", Title: v.Title, Bare: true, Body: v})
}

// stance draws a stance from above and from the side.
func (v *athomeView) stance(b *curriculum.Book, t *curriculum.Technique, who parts.Someone, southpaw bool) {
	d, _, known := b.StanceOf(t)
	if !known {
		return
	}
	lead := floor.Left
	if southpaw {
		lead = floor.Right
	}
	c := parts.Scaled(t, d, d.For(who.Body, t.Name, t.FeetStand() == notation.SideBySide).Take(who.Body, lead), who.Body)
	v.Stance, v.Side = template.HTML(c.Above()), template.HTML(c.Side())
}

// onTheMat is what was measured of a student: parts of the body, and stances on the mat; and the stances that can be drawn for them.
func (ch *chapter) onTheMat(ctx context.Context, v *studentView) error {
	for _, x := range []struct {
		name string
		mm   int
	}{{"shoulders", v.Student.ShoulderMM}, {"leg", v.Student.LegMM}, {"foot", v.Student.FootMM}} {
		if x.mm > 0 {
			v.Parts = append(v.Parts, x.name+" "+inCM(x.mm)+" cm")
		}
	}
	all, err := ch.records.TapedOf(ctx, v.Student.ID, "")
	if err != nil {
		return err
	}
	for _, x := range all {
		s := tapedStance{Taped: x, Fine: true}
		for _, h := range x.Held {
			s.Words, s.Fine = append(s.Words, words.Held(h)), s.Fine && h.Fine()
		}
		v.Taped = append(v.Taped, s)
	}
	for _, c := range v.Climbs {
		if c.Book == nil {
			continue
		}
		for i := range c.Book.Techniques {
			if t := &c.Book.Techniques[i]; t.Kind == "stance" && draws(c.Book, t.ID) {
				v.ToScale = append(v.ToScale, frame.Option{Value: "/techniques/" + t.ID + "/stance?who=" + url.QueryEscape(v.Student.Name), Label: t.Name})
			}
		}
	}
	return nil
}
