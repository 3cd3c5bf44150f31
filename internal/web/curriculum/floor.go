package curriculum

import (
	"fmt"
	"html/template"
	"net/http"
	"net/url"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// floorView is a technique on the floor, by itself.
type floorView struct {
	Technique *curriculum.Technique
	Chosen    chosen
	Floor     *parts.FloorView
	Drawn     drawnFor
	Back      string
}

// drawnFor are the two that something is drawn for, as they were chosen.
type drawnFor struct {
	Who, Other parts.Someone
	Pair       bool
	Hidden     []fact // what else the address says
	Path       string
}

// Query is what the address says of all of it.
func (d drawnFor) Query() string {
	q := url.Values{}
	for _, x := range append(d.Hidden, fact{"who", d.Who.Typed}, fact{"attacker_is", d.Other.Typed}) {
		if x.Value != "" {
			q.Set(x.Name, x.Value)
		}
	}
	if len(q) == 0 {
		return ""
	}
	return "?" + q.Encode()
}

// onFloor is a technique with all its parts, for the two.
func (d drawnFor) onFloor(t *curriculum.Technique, c chosen, hall gradingday.Hall) parts.OnFloor {
	return parts.OnFloor{Technique: t, Stage: len(t.Stages), View: c.View, Attacker: c.Attacker, Who: d.Who, Other: d.Other, Hall: hall}
}

// drawn finds whom the address chooses. The stance of a student who is chosen is theirs, where the address names none.
func (ch *chapter) drawn(r *http.Request, t *curriculum.Technique, c *chosen) (d drawnFor, err error) {
	q := r.URL.Query()
	d = drawnFor{Pair: t.Defends(), Path: r.URL.Path}
	if d.Who, err = ch.Someone(r.Context(), q.Get("who")); err != nil {
		return d, err
	}
	if d.Other, err = ch.Someone(r.Context(), q.Get("attacker_is")); err != nil {
		return d, err
	}
	if q.Get("stance") == "" {
		c.View = curriculum.View(d.Who.Student.Stance)
	}
	if q.Get("attacker") == "" {
		c.Attacker = curriculum.View(d.Other.Student.Stance)
	}
	for _, name := range []string{"stance", "attacker", "track"} {
		if is := q.Get(name); is != "" {
			d.Hidden = append(d.Hidden, fact{name, is})
		}
	}
	return d, nil
}

// floorShow plays a technique full screen, for the hall.
func (ch *chapter) floorShow(w http.ResponseWriter, r *http.Request) {
	if v, ok := ch.floorView(w, r); ok {
		ch.Show(w, r, http.StatusOK, v.Technique.ProgramID, frame.Page{Screen: "floor", Title: v.Technique.Name + " on the floor", Nav: "techniques", Body: v, Bare: true})
	}
}

// printsShow shows a technique in still pictures, step by step, for print.
func (ch *chapter) printsShow(w http.ResponseWriter, r *http.Request) {
	v, ok := ch.floorView(w, r)
	if !ok {
		return
	}
	b, err := ch.records.Book(r.Context(), v.Technique.ProgramID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.still(b)
	ch.Show(w, r, http.StatusOK, v.Technique.ProgramID, frame.Page{Screen: "prints", Title: v.Technique.Name + " step by step", Nav: "techniques", Body: v})
}

// floorView puts the technique of an address on the floor.
func (ch *chapter) floorView(w http.ResponseWriter, r *http.Request) (v floorView, ok bool) {
	t, b, ok := ch.techniqueBook(w, r)
	if !ok {
		return v, false
	}
	v = floorView{Technique: t, Chosen: choice(r, b), Back: "/techniques/" + t.ID}
	var err error
	var hall gradingday.Hall
	if v.Drawn, err = ch.drawn(r, t, &v.Chosen); err == nil {
		hall, err = ch.Hall(r.Context())
	}
	if v.Floor = parts.FloorOf(b, v.Drawn.onFloor(t, v.Chosen, hall)); v.Floor == nil && err == nil {
		err = store.ErrNotFound
	}
	if err != nil {
		ch.Fail(w, r, err)
		return v, false
	}
	return v, true
}

// still draws every step by itself.
func (v *floorView) still(b *curriculum.Book) {
	t, who, other := v.Technique, v.Drawn.Who.Body, v.Drawn.Other.Body
	scene := chart.Scene{Width: 260, Height: 230, Around: 420, Close: true, Lines: v.Floor.Pair}
	if v.Floor.Pair {
		m := b.Meet(t, len(t.Stages), v.Chosen.View, v.Chosen.Attacker, who, other)
		scene.Actors = chart.Pair(&m.Met, &m.Pair)
	} else {
		scene.Actors = []chart.Actor{chart.Alone(&b.OnFloor(t, len(t.Stages), v.Chosen.View, v.Chosen.Attacker, who).Path, parts.Doing(b))}
	}
	for i := range v.Floor.Steps {
		s := &v.Floor.Steps[i]
		scene.ID, scene.Label = fmt.Sprint("s", i, "-"), fmt.Sprintf("%d: %s", i, s.What)
		s.Still = template.HTML(scene.Above(i))
	}
}
