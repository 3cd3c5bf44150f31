// Package review is what follows a grading: the review, decisions, results, the laboratory, the audit trail.
package review

import (
	"context"
	"embed"
	"time"

	"velvetladder/internal/core/agreement"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
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
		Functions: ch.functions(),
		Mat:       []string{"calibration"},
		Routes: []frame.Route{
			frame.Get("/gradings/{grading}/results.xlsx", frame.Owner, ch.resultsXLSX).Taking("results"),
			frame.Get("/gradings/{grading}/grading.json", frame.Owner, ch.gradingFile).Taking("a grading"),

			frame.Get("/review/{grading}", frame.Owner, ch.reviewShow),
			frame.Post("/review/{grading}/decide", frame.Owner, ch.reviewDecide),
			frame.Post("/review/{grading}/agree", frame.Owner, ch.reviewAgree),
			frame.Post("/review/{grading}/hold", frame.Owner, ch.reviewHold),
			frame.Post("/review/{grading}/undo", frame.Owner, ch.reviewUndo),
			frame.Post("/review/{grading}/fault", frame.Owner, ch.reviewFault),
			frame.Post("/review/{grading}/announce", frame.Owner, ch.reviewAnnounce),
			frame.Post("/review/{grading}/announce-at", frame.Owner, ch.reviewAnnounceAt),
			frame.Post("/review/{grading}/correct", frame.Owner, ch.reviewCorrect),
			frame.Post("/review/{grading}/referral", frame.Owner, ch.reviewReferral),
			frame.Get("/result/{candidate}", frame.Owner, ch.resultShow),
			frame.Get("/agreement", frame.Owner, ch.agreementShow),
			frame.Get("/agreement/{grading}", frame.Owner, ch.agreementShow),
			frame.Get("/calibrations", frame.Owner, ch.calibrationsShow),
			frame.Post("/calibrations", frame.Owner, ch.calibrationsSave),
			frame.Get("/calibrations/{calibration}", frame.Owner, ch.calibrationShow),
			frame.Post("/calibrations/{calibration}/close", frame.Owner, ch.calibrationClose),
			frame.Post("/calibrations/{calibration}/delete", frame.Owner, ch.calibrationDelete),
			frame.Get("/calibration/{link}", frame.Family, ch.markShow),
			frame.Get("/calibration/{link}/state", frame.Family, ch.markState),
			frame.Post("/calibration/{link}/marks", frame.Family, ch.markSave),
			frame.Get("/lab/{grading}", frame.Owner, ch.labShow),
			frame.Get("/trail", frame.Owner, ch.trailShow),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	AlikeChanges(ctx context.Context, program string, scale scoring.Scale) (store.AlikeCount, error)
	Agree(ctx context.Context, by store.By, candidates []string, decidedBy string) (store.Done, error)
	Announce(ctx context.Context, by store.By, gradingID string, ids []string) (store.Done, error)
	AnnounceAt(ctx context.Context, by store.By, gradingID string, at time.Time) (store.Done, error)
	AttendanceAt(ctx context.Context, gradingID string) (map[string]store.Came, error)
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	BeginCalibration(ctx context.Context, by store.By, c agreement.Calibration) (store.Done, error)
	Calibration(ctx context.Context, id string) (store.Calibration, error)
	CalibrationEntries(ctx context.Context, id string) ([]agreement.Entry, error)
	Calibrations(ctx context.Context, program string) ([]store.Calibration, error)
	ChiefOf(ctx context.Context, candidate string) (string, error)
	CloseCalibration(ctx context.Context, by store.By, id string, closed bool) (store.Done, error)
	CorrectResult(ctx context.Context, by store.By, d store.Decision) (store.Done, error)
	DeleteCalibration(ctx context.Context, by store.By, id string) (store.Done, error)
	DayPlan(ctx context.Context, gradingID string) (store.DayPlan, error)
	Decide(ctx context.Context, by store.By, d store.Decision) (store.Done, error)
	Deeds(ctx context.Context, q store.TrailQuery) (out []store.Deed, older string, err error)
	ExamplesAt(ctx context.Context, gradingID string) (map[string][]string, error)
	Grading(ctx context.Context, id string) (store.Grading, error)
	Gradings(ctx context.Context, program string) ([]store.Grading, error)
	GradingsFor(ctx context.Context, rung string) ([]store.Grading, error)
	Hold(ctx context.Context, by store.By, candidate string, held bool) (store.Done, error)
	Laboratory(ctx context.Context, gradingID string, other scoring.Policy) (store.Grading, []store.Relabelled, error)
	Now() time.Time
	MarkedBeside(ctx context.Context, program string, since civil.Date) ([]store.Beside, error)
	RecordCalibration(ctx context.Context, by store.By, e agreement.Entry) error
	RecordFault(ctx context.Context, by store.By, f gradingday.Fault) error
	Result(ctx context.Context, candidate string, early bool) (store.Told, error)
	Review(ctx context.Context, gradingID string) (store.Grading, []store.Reviewed, error)
	School(ctx context.Context) (string, error)
	Severities(ctx context.Context, program string, scale scoring.Scale) ([]agreement.Severity, error)
	SettleReferral(ctx context.Context, by store.By, x store.Referral) (store.Done, error)
	UndoDecision(ctx context.Context, by store.By, candidate string) (store.Done, error)
	Today() civil.Date
	Zone() *time.Location
}
