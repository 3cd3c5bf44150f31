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
	"velvetladder/internal/core/notation"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
)

type notationCommand struct {
	Line     string `arg:"" help:"The line of moves, or - to read it from standard input."`
	DB       string `help:"Take the techniques of a school's database." placeholder:"FILE" xor:"names"`
	Program  string `help:"The program whose techniques are meant, where there are several." placeholder:"NAME"`
	Names    string `help:"Take these technique names instead, with commas between." placeholder:"NAMES" xor:"names"`
	Southpaw bool   `help:"Do the moves with the right foot forward."`
}

// maxLine bounds a line read from standard input.
const maxLine = 1 << 20

// Run prints the parsed line; what cannot be read is told with its place.
func (c notationCommand) Run(s streams) error {
	line := c.Line
	if line == "-" {
		text, err := io.ReadAll(io.LimitReader(s.in, maxLine))
		if err != nil {
			return err
		}
		line = strings.TrimRight(string(text), "\r\n")
	}
	entries, err := c.entries(context.Background())
	if err != nil {
		return err
	}
	catalogue, err := notation.NewCatalogue(entries)
	if err != nil {
		return err
	}
	sequence, err := catalogue.Parse(line)
	var at *notation.Error
	if errors.As(err, &at) {
		fmt.Fprintf(s.err, "%s\n%s^\n", line, strings.Repeat(" ", at.Column-1))
	}
	if err != nil {
		return err
	}
	return exchange.WriteNotation(s.out, catalogue, sequence, c.Southpaw)
}

func (c notationCommand) entries(ctx context.Context) (out []notation.Entry, err error) {
	if c.DB == "" {
		for i, name := range strings.Split(c.Names, ",") {
			if name = check.Tidy(name); name != "" {
				out = append(out, notation.Entry{ID: fmt.Sprint(i), Name: name})
			}
		}
		if len(out) == 0 {
			return nil, errors.New("no techniques are given; say --db FILE or --names jab,cross")
		}
		return out, nil
	}
	if _, err := os.Stat(c.DB); err != nil {
		return nil, err
	}
	records, err := store.Open(ctx, c.DB, time.Now)
	if err != nil {
		return nil, err
	}
	defer records.Close()
	programs, err := records.Programs(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range programs {
		if check.Key(p.Name) != check.Key(c.Program) && !(c.Program == "" && len(programs) == 1) {
			continue
		}
		techniques, err := records.Techniques(ctx, p.ID, "", "")
		if err != nil {
			return nil, err
		}
		for _, t := range techniques {
			out = append(out, notation.Entry{ID: t.ID, Name: t.Name, Aliases: t.Aliases, Call: t.Call})
		}
		return out, nil
	}
	var names []string
	for _, p := range programs {
		names = append(names, p.Name)
	}
	return nil, fmt.Errorf("say --program with one of: %s", strings.Join(names, ", "))
}
