// Package gradings is everything before the day: gradings and their candidates, the day plan, examiners, papers, belts.
package gradings

import (
	"context"
	"embed"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
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

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	return frame.Chapter{
		Files:     files,
		Functions: functions(),
		Routes: []frame.Route{
			frame.Get("/gradings", frame.Instructor, ch.gradingsList),
			frame.Get("/gradings/new", frame.Owner, ch.gradingsNew),
			frame.Post("/gradings/new", frame.Owner, ch.gradingsSave),
			frame.Get("/gradings/{grading}", frame.Instructor, ch.gradingsShow),
			frame.Get("/gradings/{grading}/edit", frame.Owner, ch.gradingsEdit),
			frame.Post("/gradings/{grading}/edit", frame.Owner, ch.gradingsSave),
			frame.Post("/gradings/{grading}/delete", frame.Owner, ch.gradingsDelete),
			frame.Post("/gradings/{grading}/candidates", frame.Owner, ch.candidatesAdd),
			frame.Post("/candidates/{candidate}/withdraw", frame.Owner, ch.candidatesWithdraw),
			frame.Post("/candidates/{candidate}/back", frame.Owner, ch.candidatesBack),
			frame.Post("/gradings/{grading}/begin", frame.Owner, ch.gradingsBegin),

			frame.Get("/briefing/{grading}", frame.Instructor, ch.briefingShow),
			frame.Post("/briefing/{grading}/send", frame.Owner, ch.briefingSend),
			frame.Get("/day/{grading}", frame.Instructor, ch.dayShow),
			frame.Post("/day/{grading}", frame.Owner, ch.dayMake),
			frame.Post("/day/{grading}/move", frame.Owner, ch.dayMove),
			frame.Post("/day/{grading}/groups", frame.Owner, ch.dayGroups),
			frame.Get("/officers", frame.Owner, ch.officersShow),
			frame.Post("/officers", frame.Owner, ch.officersSave),
			frame.Post("/officers/{officer}", frame.Owner, ch.officersSave),
			frame.Post("/officers/{officer}/delete", frame.Owner, ch.officersDelete),
			frame.Get("/checklist/{grading}", frame.Instructor, ch.checklistShow),
			frame.Post("/checklist/{grading}/write", frame.Owner, ch.checklistWrite),
			frame.Get("/pairs/{grading}", frame.Instructor, ch.pairsShow),
			frame.Post("/pairs/{grading}", frame.Owner, ch.pairsMake),
			frame.Get("/lineup/{grading}", frame.Instructor, ch.lineupShow),
			frame.Get("/belts/{grading}", frame.Owner, ch.beltsShow),
			frame.Get("/belts/{grading}/order.csv", frame.Owner, ch.beltsOrder),
			frame.Post("/belts/{grading}/stock", frame.Owner, ch.beltsStock),
			frame.Get("/papers/{grading}", frame.Instructor, ch.papersShow),
			frame.Get("/papers/{grading}/{kind}", frame.Instructor, ch.papersFile).Taking("papers"),
			frame.Post("/papers/{grading}/letters", frame.Owner, ch.papersLetters),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	AlsoEntered(ctx context.Context, g store.Grading) ([]string, error)
	BringBack(ctx context.Context, by store.By, id string) (store.Done, error)
	TooFew(ctx context.Context, g store.Grading, candidates []store.Candidate) ([]gradingday.TooFew, error)
	AddCandidates(ctx context.Context, by store.By, gradingID string, entrants []store.Entrant) (store.Done, error)
	Begin(ctx context.Context, by store.By, gradingID string) (store.Done, error)
	Belts(ctx context.Context, gradingID string) (out store.Belts, err error)
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	Calls(ctx context.Context, gradingID string) (map[string][]gradingday.GroupItem, error)
	CallsAndSheets(ctx context.Context, gradingID string) (map[string][]gradingday.GroupItem, map[string][]gradingday.Item, error)
	Candidates(ctx context.Context, grading string) ([]store.Candidate, error)
	Checklist(ctx context.Context, gradingID string) (store.Grading, []store.Checked, error)
	CountStock(ctx context.Context, by store.By, rungID string, size string, pieces int, set bool, reason string) (store.Done, error)
	DayPlan(ctx context.Context, gradingID string) (store.DayPlan, error)
	DeleteGrading(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteOfficer(ctx context.Context, by store.By, id string) (store.Done, error)
	Eligible(ctx context.Context, grading string) ([]store.Climbing, error)
	FormGroups(ctx context.Context, by store.By, gradingID string) (store.Done, error)
	Grading(ctx context.Context, id string) (store.Grading, error)
	Gradings(ctx context.Context, program string) ([]store.Grading, error)
	Ladder(ctx context.Context, program string) ([]store.LadderRung, error)
	MakeDayPlan(ctx context.Context, by store.By, gradingID string, rules gradingday.DayRules) (store.Done, error)
	MakePairs(ctx context.Context, by store.By, gradingID string, rules gradingday.PairRules) (store.Done, error)
	MoveInPlan(ctx context.Context, by store.By, gradingID string, m store.PlanMove) (store.Done, error)
	Now() time.Time
	Officers(ctx context.Context) ([]store.Officer, error)
	Preparing(ctx context.Context, gradingID string) (store.Grading, []store.Preparing, error)
	Programs(ctx context.Context) ([]curriculum.Program, error)
	Progress(ctx context.Context, gradingID string) ([]store.Sheet, error)
	Regrouped(ctx context.Context, d store.DayPlan, size int) (gradingday.Day, error)
	Review(ctx context.Context, gradingID string) (store.Grading, []store.Reviewed, error)
	SaveGrading(ctx context.Context, by store.By, g gradingday.Grading) (store.Done, error)
	SaveOfficer(ctx context.Context, by store.By, o store.Officer) (store.Done, error)
	School(ctx context.Context) (string, error)
	Settings(ctx context.Context) (office.Settings, error)
	SheetUses(ctx context.Context, gradingID string) (map[string]store.SheetUse, error)
	Sparring(ctx context.Context, gradingID string) (store.Sparring, error)
	Stock(ctx context.Context, program string) ([]store.InStock, error)
	Students(ctx context.Context, program string, text string, limit int, offset int) (rows []store.ListedStudent, total int, err error)
	Today() civil.Date
	UnknownExaminers(ctx context.Context) ([]string, error)
	WhoLeft(ctx context.Context, gradingID string, enrolment string) ([]store.Left, error)
	WithdrawCandidate(ctx context.Context, by store.By, id string, reason string, sure bool) (store.Done, error)
	WriteMessages(ctx context.Context, by store.By, all []store.Message) (store.Done, error)
}
