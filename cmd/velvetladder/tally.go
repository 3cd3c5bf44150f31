package main

import (
	"io"
	"os"

	"velvetladder/internal/exchange"
)

// open is a file, or standard input for "-".
func (s streams) open(file string) (io.ReadCloser, error) {
	if file == "-" {
		return io.NopCloser(s.in), nil
	}
	return os.Open(file)
}

type tallyCommand struct {
	File string `arg:"" help:"The JSON file, or - for standard input. docs/formats.md describes it."`
}

// Run prints nothing unless the whole document is sound.
func (c tallyCommand) Run(s streams) error {
	in, err := s.open(c.File)
	if err != nil {
		return err
	}
	defer in.Close()
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
