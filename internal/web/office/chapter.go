// Package office is the school’s own desk: today, find, settings, backups, moving, the calendar, the outbox.
package office

import (
	"context"
	"embed"
	"io"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

//go:embed *.html
var files embed.FS

type chapter struct {
	*parts.Parts
	records Records
}

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	return frame.Chapter{
		Files: files,
		Routes: []frame.Route{
			frame.Get("/", frame.Instructor, ch.home),
			frame.Get("/find", frame.Instructor, ch.findShow),
			frame.Get("/first-hour", frame.Owner, ch.firstHourShow),
			frame.Post("/first-hour/skip", frame.Owner, ch.firstHourSkip),

			frame.Get("/files/calendar.ics", frame.Instructor, ch.calendarFile),
			frame.Get("/files/school.jsonl", frame.Owner, ch.schoolFile).Proved().Taking("the whole school"),
			frame.Get("/backups", frame.Owner, ch.backupsShow),
			frame.Post("/backups", frame.Owner, ch.backupsMake),
			frame.Post("/backups/seal", frame.Owner, ch.backupsSeal).Proved(),
			frame.Post("/backups/rehearse", frame.Owner, ch.backupsRehearse).Limited(ch.ByPerson(frame.TriesAName)),
			frame.Get("/backups/{name}", frame.Owner, ch.backupsFile).Proved().Taking("a backup"),
			frame.Get("/erasures", frame.Owner, ch.erasuresShow),
			frame.Post("/erasures", frame.Owner, ch.erasuresRebuild),
			frame.Get("/settings", frame.Owner, ch.settingsShow),
			frame.Post("/settings", frame.Owner, ch.settingsSave),
			frame.Get("/outbox", frame.Owner, ch.outboxShow),
			frame.Get("/outbox/{message}", frame.Owner, ch.outboxMessage),
			frame.Get("/outbox/{message}/message.eml", frame.Owner, ch.outboxEML).Taking("a letter"),
			frame.Post("/outbox/{message}", frame.Owner, ch.outboxSettle),
			frame.Post("/outbox/send", frame.Owner, ch.outboxSend),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	DueForErasing(ctx context.Context) ([]store.LongGone, error)
	Erasures(ctx context.Context) ([]store.Erasure, error)
	Rebuild(ctx context.Context) error
	ExportSchool(ctx context.Context, w io.Writer) error
	Find(ctx context.Context, text string, limit int) ([]store.Found, error)
	Gradings(ctx context.Context, program string) ([]store.Grading, error)
	BackupKey(ctx context.Context) (store.BackupKey, error)
	KeepBackup(ctx context.Context, by store.By, dir string) (store.Kept, error)
	LastLooked(ctx context.Context) (made, rehearsed store.LookedThrough, err error)
	Rehearse(ctx context.Context, by store.By, dir string, name string, passphrase string) (store.Contents, error)
	SealBackups(ctx context.Context, by store.By, passphrase string) (store.Done, error)
	UnsealBackups(ctx context.Context, by store.By) (store.Done, error)
	Message(ctx context.Context, id string) (store.Message, error)
	Now() time.Time
	Outbox(ctx context.Context, waiting bool) ([]store.Message, error)
	PlannedHours(ctx context.Context) (map[string]store.Hours, error)
	SaveSettings(ctx context.Context, by store.By, name string, x office.Settings, printable func(rune) bool) (store.Done, error)
	School(ctx context.Context) (string, error)
	Settings(ctx context.Context) (office.Settings, error)
	SkipFirstStep(ctx context.Context, by store.By, step office.FirstStep, words string) (store.Done, error)
	SettleMessage(ctx context.Context, by store.By, id string, kind string, text string) (store.Done, error)
	Timetable(ctx context.Context) (timetable.Table, error)
	Today() civil.Date
	Zone() *time.Location
}
