// Package door is how people come in: the first start, signing in, accounts, examiners’ devices.
package door

import (
	"context"
	"embed"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

//go:embed *.html *.js
var files embed.FS

type chapter struct {
	*parts.Parts
	records Records
}

// keptTries are the questions a minute from one address after what a device keeps.
const keptTries = 240

// codeTries are the tries of join codes a minute from one address: a hall may come through one.
const codeTries = 60

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	slow, joining := ch.SlowDown(), ch.ByAddress(codeTries)
	return frame.Chapter{
		Files: files,
		Mat:   []string{"join", "kept"},
		Routes: []frame.Route{
			frame.Get("/welcome", frame.Anyone, ch.welcomeShow),
			frame.Post("/welcome", frame.Anyone, ch.welcomeSave).Limited(slow),
			frame.Get("/sign-in", frame.Anyone, ch.signInShow),
			frame.Post("/sign-in", frame.Anyone, ch.signInSave).Limited(slow),
			frame.Post("/sign-out", frame.Anyone, ch.signOut),
			frame.Get("/account", frame.Instructor, ch.accountShow),
			frame.Post("/account", frame.Instructor, ch.accountSave).Limited(ch.ByPerson(frame.TriesAName)),
			frame.Get("/people", frame.Owner, ch.peopleShow),
			frame.Post("/people", frame.Owner, ch.peopleSave),
			frame.Post("/people/{person}", frame.Owner, ch.peopleSave),
			frame.Post("/people/{person}/delete", frame.Owner, ch.peopleDelete),

			frame.Post("/gradings/{grading}/close", frame.Owner, ch.gradingsClose),
			frame.Post("/seats/{seat}/end", frame.Owner, ch.seatsEnd),
			frame.Get("/join", frame.Anyone, ch.joinShow),
			frame.Get("/join/{code}", frame.Anyone, ch.joinShow).Limited(joining),
			frame.Post("/join", frame.Anyone, ch.joinSave).Limited(joining),
			frame.Post("/leave", frame.Anyone, ch.joinLeave),
			frame.Get("/kept", frame.Anyone, ch.keptShow),
			frame.Post("/kept/stored", frame.Anyone, ch.keptStored).Limited(ch.ByAddress(keptTries)),
			frame.Post("/kept/handed", frame.Owner, ch.keptHanded),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	Candidates(ctx context.Context, grading string) ([]store.Candidate, error)
	ChangePassword(ctx context.Context, by store.By, x store.Person, old string, password string) (store.Done, error)
	CloseGrading(ctx context.Context, by store.By, gradingID string, closed bool) (store.Done, error)
	DeletePerson(ctx context.Context, by store.By, id string) (store.Done, error)
	DropExpired(ctx context.Context) error
	EntriesStored(ctx context.Context, ids []string) ([]string, error)
	EndSeat(ctx context.Context, by store.By, id string) (store.Done, error)
	Grading(ctx context.Context, id string) (store.Grading, error)
	Invited(ctx context.Context, code string) (gradingday.Examiner, store.Grading, error)
	Join(ctx context.Context, code string, device string) (store.Seat, error)
	NameSchool(ctx context.Context, by store.By, name string) (store.Done, error)
	NoteDeed(ctx context.Context, by store.By, deed office.Deed) (store.Done, error)
	People(ctx context.Context) ([]store.Person, error)
	Person(ctx context.Context, id string) (store.Person, error)
	Progress(ctx context.Context, gradingID string) ([]store.Sheet, error)
	SavePerson(ctx context.Context, by store.By, x store.Person, password string, first bool) (store.Done, error)
	SignIn(ctx context.Context, name string, password string) (store.Person, error)
}
