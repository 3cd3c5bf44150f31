package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
)

// source is where a curriculum is read from: its file, or a school's database.
type source struct {
	File    string `arg:"" optional:"" help:"A curriculum's JSON file, or - for standard input. docs/formats.md describes it."`
	DB      string `help:"Read a school's database instead." placeholder:"FILE"`
	Program string `help:"The program meant, where there are several." placeholder:"NAME"`
}

func (c source) open(s streams) (*curriculum.Book, error) {
	if (c.File == "") == (c.DB == "") {
		return nil, errors.New("say a curriculum's file, or --db and a school's database")
	}
	if c.DB != "" {
		return fromDatabase(context.Background(), c.DB, c.Program)
	}
	read, err := readCurriculum(s, c.File)
	return curriculum.Open(read), err
}

func readCurriculum(s streams, file string) (curriculum.Curriculum, error) {
	var in io.Reader = s.in
	if file != "-" {
		f, err := os.Open(file)
		if err != nil {
			return curriculum.Curriculum{}, err
		}
		defer f.Close()
		in = f
	}
	return exchange.ReadCurriculum(in)
}

// records opens a database that must be there.
func records(ctx context.Context, path string) (*store.Store, error) {
	if _, err := os.Stat(path); err != nil {
		return nil, err
	}
	return store.Open(ctx, path, time.Now)
}

// fromDatabase is a program's draft; name may be empty where there is one program only.
func fromDatabase(ctx context.Context, path, name string) (*curriculum.Book, error) {
	db, err := records(ctx, path)
	if err != nil {
		return nil, err
	}
	defer db.Close()
	programs, err := db.Programs(ctx)
	if err != nil {
		return nil, err
	}
	var names []string
	for _, p := range programs {
		if check.Key(p.Name) == check.Key(name) || name == "" && len(programs) == 1 {
			return db.Book(ctx, p.ID)
		}
		names = append(names, p.Name)
	}
	return nil, fmt.Errorf("say --program with one of: %s", strings.Join(names, ", "))
}

type compileCommand struct {
	source
	Rung  string `required:"" help:"The rung, by its name." placeholder:"NAME"`
	Track string `help:"The track, by its name." placeholder:"NAME"`
	Seed  uint64 `help:"The grading's seed, for what is drawn by lot." default:"0"`
	Group int    `help:"Candidates that one examiner watches at once." default:"1"`
}

// Run prints the test sheet of a rung.
func (c compileCommand) Run(s streams) error {
	b, err := c.open(s)
	if err != nil {
		return err
	}
	rung := b.RungNamed(c.Rung)
	if rung == nil {
		var names []string
		for _, r := range b.Rungs {
			names = append(names, r.Name)
		}
		return fmt.Errorf("%q is no rung of this ladder; there are %s", c.Rung, strings.Join(names, ", "))
	}
	a := curriculum.Asking{RungID: rung.ID, Seed: c.Seed, Group: c.Group}
	for _, t := range b.Program.Tracks {
		if check.Key(t.Name) == check.Key(c.Track) {
			a.TrackID = t.ID
		}
	}
	if c.Track != "" && a.TrackID == "" {
		return fmt.Errorf("%q is no track of this program", c.Track)
	}
	if c.Group < 1 || c.Group > 50 {
		return fmt.Errorf("a group of %d; write 1 to 50", c.Group)
	}
	return exchange.WriteSheet(s.out, b, a, b.Compile(a))
}

type checkCommand struct {
	source
}

// errHoles is the outcome of a ladder check that found something.
var errHoles = errors.New("the ladder check found holes")

// Run prints the ladder check's findings; open ones make it fail.
func (c checkCommand) Run(s streams) error {
	b, err := c.open(s)
	if err != nil {
		return err
	}
	found, open := b.Check(), 0
	for _, f := range found {
		if f.Silenced == "" {
			open++
		}
	}
	if err := exchange.WriteFindings(s.out, found); err != nil {
		return err
	}
	if open > 0 {
		return fmt.Errorf("%w: %d", errHoles, open)
	}
	return nil
}

type importCommand struct {
	File string `arg:"" help:"A curriculum's JSON file, or - for standard input."`
	DB   string `required:"" help:"The school's database; a new one is made where there is none." placeholder:"FILE"`
	Look bool   `help:"Only say what would change."`
}

// Run puts a curriculum on record, all of it or nothing, and says what changed.
func (c importCommand) Run(s streams) error {
	ctx := context.Background()
	read, err := readCurriculum(s, c.File)
	if err != nil {
		return err
	}
	if _, err := os.Stat(c.DB); err != nil && c.Look {
		return err
	}
	db, err := store.Open(ctx, c.DB, time.Now)
	if err != nil {
		return err
	}
	defer db.Close()
	older := curriculum.Open(curriculum.Curriculum{})
	if b, err := db.Book(ctx, read.Program.ID); err == nil {
		older = b
	} else if !errors.Is(err, store.ErrNotFound) {
		return err
	}
	rungs, techniques := curriculum.Compare(older, curriculum.Open(read), "")
	if !c.Look {
		if _, err := db.SaveCurriculum(ctx, store.By{Actor: "import"}, read); err != nil {
			return err
		}
	}
	for _, r := range rungs {
		fmt.Fprintf(s.out, "%s: %s, %d differences\n", r.Rung.Name, r.What, len(r.Changes))
	}
	fmt.Fprintf(s.out, "%s: %d rungs and %d techniques differ\n", read.Program.Name, len(rungs), len(techniques))
	return nil
}

type exportCommand struct {
	DB      string `required:"" help:"The school's database." placeholder:"FILE"`
	Program string `help:"The program meant, where there are several." placeholder:"NAME"`
}

// Run prints a curriculum as the file that import reads.
func (c exportCommand) Run(s streams) error {
	b, err := fromDatabase(context.Background(), c.DB, c.Program)
	if err != nil {
		return err
	}
	return exchange.WriteCurriculum(s.out, b.Curriculum)
}
