package main

import (
	"io"
	"os"

	"velvetladder/internal/exchange"
)

type tallyCommand struct {
	File string `arg:"" help:"The JSON file, or - for standard input. docs/formats.md describes it."`
}

// Run prints nothing unless the whole document is sound.
func (c tallyCommand) Run(s streams) error {
	var in io.Reader = s.in
	if c.File != "-" {
		f, err := os.Open(c.File)
		if err != nil {
			return err
		}
		defer f.Close()
		in = f
	}
	policy, test, err := exchange.ReadTally(in)
	if err != nil {
		return err
	}
	result, err := policy.Decide(test)
	if err != nil {
		return err
	}
	return exchange.WriteTally(s.out, test, result)
}
