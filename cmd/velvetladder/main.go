// Command velvetladder runs the school's ladder, gradings and records.
package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"runtime/debug"
	"time"

	"github.com/alecthomas/kong"

	_ "time/tzdata" // so that the school's zone is known on every machine

	"velvetladder/internal/core/notation"
	"velvetladder/internal/exchange"
)

// streams are what a command may read and write, so that tests can hand in their own.
type streams struct {
	in       io.Reader
	out, err io.Writer
}

type commands struct {
	Version kong.VersionFlag `help:"Say which one this is, and end."`

	Backup   backupCommand   `cmd:"" help:"Write a backup of a school, also while it is served."`
	Restore  restoreCommand  `cmd:"" help:"Put a backup in a school's place and keep what it replaces."`
	MoveOut  moveOutCommand  `cmd:"" help:"Print a whole school as JSON lines, without passwords."`
	MoveIn   moveInCommand   `cmd:"" help:"Make a database from a school's JSON lines."`
	Grading  gradingCommand  `cmd:"" help:"Add up a grading's JSON file again and compare."`
	Check    checkCommand    `cmd:"" help:"Look for holes in a curriculum and print them as JSON."`
	Compile  compileCommand  `cmd:"" help:"Print the test sheet of a rung as JSON."`
	Export   exportCommand   `cmd:"" help:"Print a program's curriculum as one JSON file."`
	Import   importCommand   `cmd:"" help:"Put a curriculum's JSON file into a school's database."`
	Owner    ownerCommand    `cmd:"" help:"Say who signs in to a school, or give somebody a new password."`
	Simulate simulateCommand `cmd:"" help:"Mark a grading as real tablets would, for a rehearsal or a load test."`
	Serve    serveCommand    `cmd:"" help:"Serve a school from its database file."`
	Start    startCommand    `cmd:"" default:"withargs" help:"Open the school of this computer in the browser; what happens where no command is said."`
	Backtest backtestCommand `cmd:"" help:"Replay a school's records and report how its forecasts would have held."`
	Demo     demoCommand     `cmd:"" help:"Serve the made-up demo school from a fresh database."`
	Notation notationCommand `cmd:"" help:"Read a line of moves and print it parsed, as JSON."`
	Floor    floorCommand    `cmd:"" help:"Print where the feet are after every step of a technique, as JSON or as a picture."`
	Tally    tallyCommand    `cmd:"" help:"Add up one candidate's marks from a JSON file and print the outcome as JSON."`
}

// Exit statuses. A refused document is 2, so that scripts can tell it from a failing machine.
const (
	exitOK      = 0
	exitTrouble = 1
	exitRefused = 2
	exitHoles   = 3 // the ladder check found something
)

func main() { os.Exit(run(os.Args[1:], streams{os.Stdin, os.Stdout, os.Stderr})) }

// version says of which commit the program was built, and when that was made.
func version() string {
	built, _ := debug.ReadBuildInfo()
	return "Velvet Ladder " + versionOf(built)
}

func versionOf(built *debug.BuildInfo) string {
	if built == nil {
		return "of an unknown commit"
	}
	said := map[string]string{}
	for _, s := range built.Settings {
		said[s.Key] = s.Value
	}
	at, err := time.Parse(time.RFC3339, said["vcs.time"])
	if err != nil || len(said["vcs.revision"]) < 10 {
		return "of an unknown commit"
	}
	out := at.Format("2006.01.02") + " (" + said["vcs.revision"][:10]
	if said["vcs.modified"] == "true" {
		out += ", with changes"
	}
	return out + ")"
}

func run(args []string, s streams) int {
	var c commands
	exit := -1
	parser, err := kong.New(&c, kong.Name("velvetladder"), kong.Description("Belts, gradings and every student's way to promotion."),
		kong.Vars{"version": version()},
		kong.Writers(s.out, s.err), kong.Exit(func(code int) { exit = code }), kong.UsageOnError())
	if err != nil {
		fmt.Fprintln(s.err, "velvetladder:", err)
		return exitTrouble
	}
	ctx, err := parser.Parse(args)
	if exit >= 0 { // help was asked for and printed
		return exit
	}
	if err != nil {
		fmt.Fprintln(s.err, "velvetladder:", err)
		return exitRefused
	}
	if err := ctx.Run(s); err != nil {
		fmt.Fprintln(s.err, "velvetladder:", err)
		var refused *exchange.TallyError
		var unread *notation.Error
		var wrong *exchange.CurriculumError
		if errors.As(err, &refused) || errors.As(err, &unread) || errors.As(err, &wrong) {
			return exitRefused
		}
		if errors.Is(err, errHoles) {
			return exitHoles
		}
		return exitTrouble
	}
	return exitOK
}
