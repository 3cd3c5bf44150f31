// Package table is the grading itself: scoring, paper, the ring, bouts, the head table, codes.
package table

import (
	"context"
	"embed"
	"sync"
	"time"

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
	groups  sync.Map // group → grading
}

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	return frame.Chapter{
		Files: files,
		Mat:   []string{"scoring", "paper", "ring", "bouts"},
		Routes: []frame.Route{
			frame.Post("/groups/{group}/ring", frame.Owner, ch.groupsMove),

			frame.Get("/head/{grading}", frame.Instructor, ch.headShow),
			frame.Get("/head/{grading}/live", frame.Instructor, ch.headLive),
			frame.Post("/examiners/{examiner}/chief", frame.Owner, ch.headChief),
			frame.Post("/examiners/{examiner}/absent", frame.Owner, ch.headAbsent),
			frame.Post("/gradings/{grading}/codes", frame.Owner, ch.codesMake),

			frame.Get("/scoring/{examiner}/{group}", frame.Examiner, ch.scoringShow),
			frame.Get("/scoring/{examiner}/{group}/state", frame.Examiner, ch.scoringState),
			frame.Get("/scoring/{examiner}/{group}/live", frame.Examiner, ch.scoringLive),
			frame.Post("/scoring/{examiner}/{group}/marks", frame.Examiner, ch.scoringMarks),
			frame.Post("/scoring/{examiner}/{group}/faults", frame.Examiner, ch.scoringFaults),
			frame.Post("/scoring/{examiner}/{group}/sign", frame.Examiner, ch.scoringSign),
			frame.Post("/scoring/{examiner}/{group}/reopen", frame.Examiner, ch.scoringReopen),
			frame.Get("/paper/{examiner}/{group}", frame.Examiner, ch.paperShow),
			frame.Post("/paper/{examiner}/{group}/checked", frame.Examiner, ch.paperChecked),

			frame.Get("/ring/{ring}", frame.Ringside, ch.ringShow),
			frame.Get("/ring/{ring}/live", frame.Ringside, ch.ringLive),
			frame.Get("/ring/{ring}/again", frame.Ringside, ch.ringAgain),
			frame.Post("/ring/{ring}/call", frame.Ringside, ch.ringCall),
			frame.Post("/ring/{ring}/clock", frame.Ringside, ch.ringClock),
			frame.Get("/bouts/{ring}", frame.Ringside, ch.boutsShow),
			frame.Post("/bouts/{ring}", frame.Ringside, ch.boutsBegin),
			frame.Post("/bouts/{ring}/events", frame.Ringside, ch.boutsEvents),
			frame.Post("/bouts/{ring}/faults", frame.Ringside, ch.boutsFaults),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	ChooseChief(ctx context.Context, by store.By, examiner string) (store.Done, error)
	MarkAbsent(ctx context.Context, by store.By, examiner string, absent bool) (store.Done, error)
	TooFew(ctx context.Context, g store.Grading, candidates []store.Candidate) ([]gradingday.TooFew, error)
	BeginBout(ctx context.Context, by store.By, b gradingday.Bout) (store.Done, error)
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	Bouts(ctx context.Context, ring string) ([]gradingday.Bout, error)
	Call(ctx context.Context, by store.By, ring string, call store.RingCall) (store.RingState, error)
	Candidates(ctx context.Context, grading string) ([]store.Candidate, error)
	Grading(ctx context.Context, id string) (store.Grading, error)
	GroupGrading(ctx context.Context, group string) (string, error)
	Head(ctx context.Context, gradingID string) (store.HeadState, error)
	MakeCode(ctx context.Context, by store.By, examiner string) (store.JoinCode, error)
	MoveGroup(ctx context.Context, by store.By, group string, ring string) (store.Done, error)
	NoteDeed(ctx context.Context, by store.By, deed office.Deed) (store.Done, error)
	Now() time.Time
	PanelOfGroup(ctx context.Context, group string) ([]string, error)
	RecordBout(ctx context.Context, by store.By, ring string, e gradingday.BoutEvent) error
	RecordFault(ctx context.Context, by store.By, f gradingday.Fault) error
	Reopen(ctx context.Context, by store.By, examiner string, group string, reason string) (store.Done, error)
	Ring(ctx context.Context, id string) (store.Ring, error)
	RunClock(ctx context.Context, by store.By, ring string, deed store.ClockDeed, as gradingday.Clock) (store.RingState, error)
	RunningOrder(ctx context.Context, g store.Grading, group []store.Candidate) ([]gradingday.GroupItem, error)
	ScoringTable(ctx context.Context, examiner string, group string) (store.Table, error)
	Seats(ctx context.Context, gradingID string) ([]store.Seat, error)
	Sign(ctx context.Context, by store.By, examiner string, group string, fill bool) (store.Done, error)
	Sparring(ctx context.Context, gradingID string) (store.Sparring, error)
	TakeMarks(ctx context.Context, by store.By, marks []gradingday.Mark) (refused []store.RefusedEntry, err error)
	Zone() *time.Location
}
