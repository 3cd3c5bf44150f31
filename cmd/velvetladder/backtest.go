package main

import (
	"context"
	"fmt"
	"os"
	"time"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/words"
)

type backtestCommand struct {
	DB string `help:"The school's database file." default:"velvetladder.db" placeholder:"FILE"`
}

// Run makes, for every fourth week of the past, the forecasts that the records of that day
// allowed, and prints how they held against what came.
func (c backtestCommand) Run(s streams) error {
	if _, err := os.Stat(c.DB); err != nil { // opening would make an empty school
		return err
	}
	ctx := context.Background()
	records, err := store.Open(ctx, c.DB, time.Now)
	if err != nil {
		return err
	}
	defer records.Close()
	climbs, calendars, err := records.Replays(ctx)
	if err != nil {
		return err
	}
	if len(climbs) == 0 {
		fmt.Fprintln(s.out, "Nothing can be replayed yet: forecasts need registers, and rungs that ask for classes or sign-offs.")
		return nil
	}
	fmt.Fprintf(s.out, "%d ways from rung to rung on record.\n%s", len(climbs), words.BackTest(progress.Replay(climbs, calendars)))
	return nil
}
