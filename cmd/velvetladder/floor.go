package main

import (
	"context"
	"errors"
	"fmt"
	"io"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/body"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/exchange"
)

type floorCommand struct {
	Name     string `arg:"" help:"The technique: a form, a combination, a defence, or a stance."`
	File     string `help:"A curriculum's JSON file, or - for standard input." placeholder:"FILE" xor:"from"`
	DB       string `help:"Read a school's database instead." placeholder:"FILE" xor:"from"`
	Program  string `help:"The program meant, where there are several." placeholder:"NAME"`
	Height   int    `help:"How tall whoever does it is, in centimetres." default:"165" placeholder:"CM"`
	Attacker int    `help:"How tall the attacker of a defence is; as tall as the other when not given." placeholder:"CM"`
	Southpaw bool   `help:"Begin with the right foot forward."`
	Format   string `help:"What to print." enum:"svg,json" default:"json"`
}

// Run prints where the feet are after every step.
func (c floorCommand) Run(s streams) error {
	const least, most = 40, 260
	if c.Attacker == 0 {
		c.Attacker = c.Height
	}
	for _, cm := range []int{c.Height, c.Attacker} {
		if cm < least || cm > most {
			return fmt.Errorf("%d cm is no height; give one from %d to %d", cm, least, most)
		}
	}
	b, err := c.book(s)
	if err != nil {
		return err
	}
	t := b.Named(c.Name)
	if t == nil {
		near := ""
		if b.Catalogue != nil {
			for i, name := range b.Catalogue.Nearest(c.Name) {
				near += []string{"; near it are ", ", ", ", "}[i] + name
			}
		}
		return fmt.Errorf("%q is no technique of %s%s", c.Name, b.Program.Name, near)
	}
	view := curriculum.Orthodox
	if c.Southpaw {
		view = curriculum.Southpaw
	}
	own, other := body.PartsOf(body.Measured{HeightCM: float64(c.Height)}), body.PartsOf(body.Measured{HeightCM: float64(c.Attacker)})
	if t.Kind == "stance" {
		return c.stance(s.out, b, t, own)
	}
	together := b.Meet(t, len(t.Stages), view, curriculum.Orthodox, own, other)
	f := b.OnFloor(t, len(t.Stages), view, curriculum.Orthodox, own)
	if f == nil {
		return fmt.Errorf("%s has no moves that can be followed on a floor; write its steps in moves", t.Name)
	}
	if together != nil {
		f = together.Defence
	}
	if c.Format == "json" {
		return exchange.WriteFloor(s.out, b.Program.Name, t, f, together)
	}
	scene := chart.Scene{ID: "p", Label: fmt.Sprintf("%s on the floor, for %d cm", t.Name, c.Height), Lines: together != nil}
	doing := func(id string) floor.Doing {
		if x := b.Technique(id); x != nil {
			return floor.Doing{Act: x.Act(), Sweep: x.SweepOf()}
		}
		return floor.Doing{}
	}
	if scene.Actors = []chart.Actor{chart.Alone(&f.Path, doing)}; together != nil {
		scene.Actors = chart.Pair(&together.Met, &together.Pair)
	}
	for i := range f.Path.Frames {
		count := ""
		if fr := &f.Path.Frames[i]; i > 0 && (fr.Moved[0] || fr.Moved[1]) {
			count = fmt.Sprint(f.Strip[f.Cells[i]].Count)
		}
		scene.Counts = append(scene.Counts, count)
	}
	_, err = fmt.Fprintln(s.out, chart.Standalone(scene.Above(len(f.Path.Frames)-1)))
	return err
}

func (c floorCommand) book(s streams) (*curriculum.Book, error) {
	switch {
	case c.DB != "":
		return fromDatabase(context.Background(), c.DB, c.Program)
	case c.File != "":
		read, err := readCurriculum(s, c.File)
		return curriculum.Open(read), err
	}
	return nil, errors.New("say where the technique is: --file and a curriculum's file, or --db and a school's database")
}

// stance prints a stance for a body.
func (c floorCommand) stance(w io.Writer, b *curriculum.Book, t *curriculum.Technique, own body.Parts) error {
	d, _, known := b.StanceOf(t)
	if !known {
		return fmt.Errorf("%s has no measures yet; give it some on its page", t.Name)
	}
	lead := floor.Left
	if c.Southpaw {
		lead = floor.Right
	}
	stand := d.For(own, t.Name, t.FeetStand() == notation.SideBySide).Take(own, lead)
	if c.Format == "svg" {
		_, err := fmt.Fprintln(w, chart.Standalone(chart.Stance{Label: t.Name, Definition: d, Stand: stand, Body: own}.Above()))
		return err
	}
	f := &curriculum.Floored{Path: floor.Path{Body: own, Frames: []floor.Frame{{Count: -1, Beat: -1, Stand: stand, Placed: true}}}}
	return exchange.WriteFloor(w, b.Program.Name, t, f, nil)
}
