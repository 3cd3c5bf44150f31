// Package door is how people come in: the first start, signing in, accounts, examiners’ devices.
package door

import (
	"context"
	"embed"
	"net/http"
	"time"

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
	account func(w http.ResponseWriter, r *http.Request, account string) bool // counts a try for an account: too many?
}

// keptTries are the questions a minute from one address after what a device keeps.
const keptTries = 240

// codeTries are the tries of join codes a minute from one address: a hall may come through one.
const codeTries = 60

// accountTries are the tries an hour for one account, from all addresses that its person never came from together.
const accountTries = 30

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records, account: shared.ByAccount(accountTries)}
	slow, joining := ch.SlowDown(), ch.ByAddress(codeTries)
	return frame.Chapter{
		Files: files,
		Mat:   []string{"join", "kept"},
		Routes: []frame.Route{
			frame.Get("/welcome", frame.Anyone, ch.welcomeShow),
			frame.Post("/welcome", frame.Anyone, ch.welcomeSave).Limited(slow),
			frame.Get("/sign-in", frame.Anyone, ch.signInShow),
			frame.Post("/sign-in", frame.Anyone, ch.signInSave).Limited(slow),
			frame.Post("/sign-in/code", frame.Anyone, ch.codeSave).Limited(slow),
			frame.Post("/prove", frame.Instructor, ch.proveSave).Limited(ch.ByPerson(frame.TriesAName)),
			frame.Post("/sign-out", frame.Anyone, ch.signOut),
			frame.Get("/account", frame.Instructor, ch.accountShow),
			frame.Post("/account", frame.Instructor, ch.accountSave).Limited(ch.ByPerson(frame.TriesAName)),
			frame.Get("/account/second", frame.Instructor, ch.factorShow).Proved(),
			frame.Post("/account/second", frame.Instructor, ch.factorSave).Proved().Limited(ch.ByPerson(frame.TriesAName)),
			frame.Post("/signed-in/{signin}/end", frame.Instructor, ch.signInsEnd),
			frame.Get("/people", frame.Owner, ch.peopleShow).Proved(),
			frame.Post("/people", frame.Owner, ch.peopleSave).Proved(),
			frame.Post("/people/{person}", frame.Owner, ch.peopleSave).Proved(),
			frame.Post("/people/{person}/delete", frame.Owner, ch.peopleDelete).Proved(),

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
	BeginSignIn(ctx context.Context, p store.Person, address string, device string) (store.SignIn, error)
	ChangePassword(ctx context.Context, by store.By, x store.Person, old string, password string, here string) (store.Done, error)
	CloseGrading(ctx context.Context, by store.By, gradingID string, closed bool) (store.Done, error)
	DeletePerson(ctx context.Context, by store.By, id string) (store.Done, error)
	ComesFrom(ctx context.Context, name string, address string) (bool, error)
	DropFactor(ctx context.Context, by store.By, person string) (store.Done, error)
	EndSignIn(ctx context.Context, by store.By, id string, of string) (store.Done, error)
	Factor(ctx context.Context, person string) (store.Factor, error)
	NewRecoveryCodes(ctx context.Context, by store.By, person string) ([]string, error)
	NoteRefused(ctx context.Context, name string, address string) error
	Now() time.Time
	Prove(ctx context.Context, x store.SignIn, password string, code string) error
	School(ctx context.Context) (string, error)
	SetFactor(ctx context.Context, by store.By, person string, secret string, code string) ([]string, error)
	SignIns(ctx context.Context, person string) ([]store.SignIn, error)
	TakeCode(ctx context.Context, p store.Person, code string) error
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
