package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/exchange"
)

type notationCommand struct {
	Line     string `arg:"" help:"The line of moves, or - to read it from standard input."`
	DB       string `help:"Take the techniques of a school's database." placeholder:"FILE" xor:"names"`
	Program  string `help:"The program whose techniques are meant, where there are several." placeholder:"NAME"`
	Names    string `help:"Take these technique names instead, with commas between." placeholder:"NAMES" xor:"names"`
	Southpaw bool   `help:"Do the moves with the right foot forward."`
	Attack   string `help:"The attack that the line answers, where it is a step of a defence; what it answers stands after a semicolon." placeholder:"LINE"`
	Attacker bool   `name:"southpaw-attacker" help:"The attacker stands with the right foot forward."`
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
	told := exchange.Telling{Southpaw: c.Southpaw, Attacker: c.Attacker}
	if c.Attack != "" {
		attack, err := readLine(s, catalogue, c.Attack)
		if err != nil {
			return err
		}
		told.Attack = &attack.Sequence
	}
	moves, answers, _ := strings.Cut(line, ";")
	if told.Answers = check.Tidy(answers); told.Answers != "" && told.Attack == nil {
		return fmt.Errorf("after ; stands what a step of a defence answers (%q), and no attack is said; give it with --attack", told.Answers)
	}
	read, err := readLine(s, catalogue, moves)
	if err != nil {
		return err
	}
	return exchange.WriteNotation(s.out, catalogue, read, told)
}

// readLine reads a line and points at what cannot be read.
func readLine(s streams, catalogue *notation.Catalogue, line string) (notation.Reading, error) {
	read, err := catalogue.Read(line)
	var at *notation.Error
	if errors.As(err, &at) {
		fmt.Fprintf(s.err, "%s\n%s^\n", line, strings.Repeat(" ", at.Column-1))
	}
	return read, err
}

func (c notationCommand) entries(ctx context.Context) (out []notation.Entry, err error) {
	if c.DB == "" {
		for i, name := range strings.Split(c.Names, ",") {
			if name = check.Tidy(name); name != "" {
				e := notation.Entry{ID: fmt.Sprint(i), Name: name}
				if strings.HasSuffix(strings.ToLower(name), " stance") {
					e.Stands = notation.UsualFeet(name)
				}
				out = append(out, e)
			}
		}
		if len(out) == 0 {
			return nil, errors.New("no techniques are given; say --db FILE or --names jab,cross")
		}
		return out, nil
	}
	b, err := fromDatabase(ctx, c.DB, c.Program)
	if err != nil {
		return nil, err
	}
	return b.Entries(), nil
}
