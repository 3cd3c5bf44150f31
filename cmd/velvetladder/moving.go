package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"strings"
	"time"

	"golang.org/x/term"

	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
)

type backupCommand struct {
	To string `arg:"" help:"The file to write; it must not be there yet." type:"path"`
	DB string `help:"The school's database file. It may be served meanwhile." default:"velvetladder.db" type:"path"`
}

// Run writes a backup and says what is in it.
func (c backupCommand) Run(s streams) error {
	ctx := context.Background()
	if err := store.BackupFile(ctx, c.DB, c.To); err != nil {
		return err
	}
	found, err := store.CheckFile(ctx, c.To)
	if err != nil {
		return err
	}
	fmt.Fprintf(s.out, "%s holds %s: %s. It was opened and looked through.\n", c.To, orUnnamed(found.School), contents(found))
	return nil
}

func orUnnamed(name string) string {
	if name == "" {
		return "a school without a name"
	}
	return name
}

func contents(c store.Contents) string {
	words := fmt.Sprintf("%d students, %d marks", c.Students, c.Marks)
	if !c.Last.IsZero() {
		words += ", the last deed on " + c.Last.Format("2 Jan 2006 at 15:04 MST")
	}
	return words
}

type restoreCommand struct {
	From string `arg:"" help:"The backup." type:"path"`
	DB   string `help:"The database file it takes the place of. It must not be served meanwhile." default:"velvetladder.db" type:"path"`
	Key  string `help:"Where the key of an encrypted backup lies, under its passphrase; beside the backup when not given." type:"path"`

	Passphrase string `help:"The passphrase, best given in the environment; asked for when not given." env:"VELVETLADDER_PASSPHRASE"`
}

// Run looks through a backup, puts it in place, and keeps what it replaces.
func (c restoreCommand) Run(s streams) error {
	from := c.From
	if store.Sealed(from) {
		if c.Passphrase == "" {
			var err error
			if c.Passphrase, err = s.secret("The passphrase of the backups: "); err != nil || c.Passphrase == "" {
				return fmt.Errorf("nothing was replaced: no passphrase was given")
			}
		}
		from = c.DB + ".part-opened"
		defer os.Remove(from)
		if err := store.Unseal(c.From, c.Key, c.Passphrase, from); err != nil {
			return fmt.Errorf("nothing was replaced: %w", err)
		}
	}
	kept, found, err := store.Restore(context.Background(), from, c.DB, time.Now())
	if err != nil {
		return fmt.Errorf("nothing was replaced: %w", err)
	}
	fmt.Fprintf(s.out, "%s holds %s now: %s.\n", c.DB, orUnnamed(found.School), contents(found))
	if kept != "" {
		fmt.Fprintf(s.out, "What it replaced is kept as %s\n", kept)
	}
	return nil
}

// secret asks for what nobody should read along: a terminal does not show it.
func (s streams) secret(ask string) (string, error) {
	fmt.Fprint(s.err, ask)
	if f, is := s.in.(*os.File); is && term.IsTerminal(int(f.Fd())) {
		text, err := term.ReadPassword(int(f.Fd()))
		fmt.Fprintln(s.err)
		return string(text), err
	}
	text, err := bufio.NewReader(s.in).ReadString('\n')
	if text = strings.TrimRight(text, "\r\n"); text != "" {
		err = nil
	}
	return text, err
}

type moveOutCommand struct {
	DB string `help:"The school's database file." default:"velvetladder.db" type:"path"`
}

// Run prints the whole school.
func (c moveOutCommand) Run(s streams) error {
	if _, err := os.Stat(c.DB); err != nil {
		return err
	}
	records, err := store.Open(context.Background(), c.DB, time.Now)
	if err != nil {
		return err
	}
	defer records.Close()
	return records.ExportSchool(context.Background(), s.out)
}

type moveInCommand struct {
	File string `arg:"" help:"The school's file, or - for standard input."`
	DB   string `help:"The database file to make; it must not be there yet." default:"velvetladder.db" type:"path"`
}

// Run makes a database from a school's file.
func (c moveInCommand) Run(s streams) error {
	in, err := s.open(c.File)
	if err != nil {
		return err
	}
	defer in.Close()
	if err := store.ImportSchool(context.Background(), c.DB, in, time.Now); err != nil {
		return err
	}
	found, err := store.CheckFile(context.Background(), c.DB)
	if err != nil {
		return err
	}
	fmt.Fprintf(s.out, "%s holds %s: %s. Nobody has a password; the first page asks for one.\n", c.DB, orUnnamed(found.School), contents(found))
	return nil
}

type gradingCommand struct {
	File string `arg:"" help:"A grading's JSON file, or - for standard input. docs/formats.md describes it."`
}

// Run adds every candidate up again and says whether the outcomes in the file follow from its marks.
func (c gradingCommand) Run(s streams) error {
	in, err := s.open(c.File)
	if err != nil {
		return err
	}
	defer in.Close()
	g, err := exchange.ReadGrading(in)
	if err != nil {
		return err
	}
	differ := 0
	for i, x := range g.Candidates {
		outcome, same, err := x.Recompute()
		if err != nil {
			return fmt.Errorf("candidates[%d], %s: %w", i, x.Name, err)
		}
		switch {
		case x.Tally == nil:
			fmt.Fprintf(s.out, "%s: no marks in the file\n", x.Name)
		case same:
			fmt.Fprintf(s.out, "%s: %s, as the file says\n", x.Name, outcome)
		default:
			differ++
			fmt.Fprintf(s.out, "%s: the marks come to %s, the file says %s\n", x.Name, outcome, x.Outcome)
		}
	}
	if differ > 0 {
		return &exchange.TallyError{Path: "$.candidates", Problem: fmt.Sprintf("%d outcomes do not follow from their marks", differ)}
	}
	return nil
}

// backupEvery is how often the program looks whether today's backup is made: soon after midnight is soon enough.
const backupEvery = 20 * time.Minute

// firstBackup leaves the start to the pages. Tests do not wait so long.
var firstBackup = 30 * time.Second

// keepBackups makes a backup a day until it is told to stop.
func keepBackups(ctx context.Context, records *store.Store, dir string, log *slog.Logger) {
	wait := firstBackup
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		wait = backupEvery
		if !records.BackupDue(dir) {
			continue
		}
		k, err := records.KeepBackup(ctx, store.By{}, dir)
		switch {
		case errors.Is(ctx.Err(), context.Canceled):
			return
		case err != nil:
			log.Error("today's backup could not be made; it is tried again", "error", err, "in", backupEvery)
		default:
			log.Info("made a backup", "file", k.Name, "bytes", k.Size)
		}
	}
}
