// Package classes is the week, registers, sign-offs, stripes, the class plan, insights.
package classes

import (
	"context"
	"embed"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

//go:embed *.html *.js
var files embed.FS

type chapter struct {
	*parts.Parts
	records Records
	shelf   parts.Shelf[incoming]
}

// Chapter are its screens, over the records.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	return frame.Chapter{
		Files:     files,
		Functions: functions(),
		Mat:       []string{"register", "checkin", "signoffs"},
		Routes: []frame.Route{
			frame.Get("/classes", frame.Instructor, ch.classesShow),
			frame.Get("/classes/new", frame.Owner, ch.classesNew),
			frame.Post("/classes/new", frame.Owner, ch.classesSave),
			frame.Get("/classes/{class}/edit", frame.Owner, ch.classesEdit),
			frame.Post("/classes/{class}/edit", frame.Owner, ch.classesSave),
			frame.Post("/classes/{class}/delete", frame.Owner, ch.classesDelete),
			frame.Post("/closures/new", frame.Owner, ch.closuresSave),
			frame.Post("/closures/{closure}/delete", frame.Owner, ch.closuresDelete),
			frame.Get("/attendance/import", frame.Owner, ch.attendanceImport),
			frame.Post("/attendance/import", frame.Owner, ch.attendanceSend),
			frame.Get("/attendance/import/{file}", frame.Owner, ch.attendanceLook),
			frame.Post("/attendance/import/{file}", frame.Owner, ch.attendanceRead),
			frame.Get("/attendance/import/{file}/progress", frame.Owner, ch.attendanceArriving),
			frame.Get("/attendance/import/{file}/refused.csv", frame.Owner, ch.attendanceRefused),
			frame.Get("/attendance/export.csv", frame.Owner, ch.attendanceExport).Proved().Taking("attendance"),
			frame.Get("/register/{class}/{on}", frame.Instructor, ch.registerShow),
			frame.Post("/register/{class}/{on}", frame.Instructor, ch.registerSave),
			frame.Post("/register/{class}/{on}/entries", frame.Instructor, ch.registerEntries),
			frame.Get("/checkin/{class}/{on}", frame.Instructor, ch.checkinShow),
			frame.Post("/checkin/{class}/{on}", frame.Instructor, ch.checkinNumber),
			frame.Get("/signoffs/{class}/{on}", frame.Instructor, ch.signoffsShow),
			frame.Post("/signoffs/{class}/{on}/entries", frame.Instructor, ch.signoffsEntries),
			frame.Post("/signoffs/{class}/{on}/taught", frame.Instructor, ch.signoffsTaught),
			frame.Get("/stripes", frame.Instructor, ch.stripesShow),
			frame.Post("/stripes", frame.Instructor, ch.stripesAward),

			frame.Get("/insights", frame.Owner, ch.insightsShow),
			frame.Get("/insights/forecasts", frame.Owner, ch.forecastsShow),
			frame.Get("/plan/{class}/{on}", frame.Instructor, ch.planShow),
			frame.Post("/plan/{class}/{on}/theme", frame.Instructor, ch.planTheme),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	AddClosure(ctx context.Context, by store.By, c timetable.Closure) (store.Done, error)
	AllAttendance(ctx context.Context) ([]store.NamedAttendance, error)
	AwardStripes(ctx context.Context, by store.By, on civil.Date, stripes []store.Stripe, reason string) (store.Done, error)
	Class(ctx context.Context, id string) (timetable.Class, error)
	DeleteClass(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteClosure(ctx context.Context, by store.By, id string) (store.Done, error)
	DueStripes(ctx context.Context, program string) (out []store.DueStripe, err error)
	GoneQuiet(ctx context.Context, program string) (out []store.Quiet, err error)
	ImportAttendance(ctx context.Context, by store.By, entries []gradingday.Attendance, step func(done int)) (done store.Done, refused []store.RefusedEntry, err error)
	LookAttendance(ctx context.Context, by store.By, entries []gradingday.Attendance) (refused []store.RefusedEntry, err error)
	KeepRegister(ctx context.Context, by store.By, class string, on civil.Date) (store.Done, error)
	LastTaught(ctx context.Context, from civil.Date, before civil.Date) (map[string]civil.Date, error)
	Likely(ctx context.Context, class string, on civil.Date) (store.Turnout, error)
	MissedBy(ctx context.Context, students []string, from civil.Date, before civil.Date) ([]store.Missed, error)
	Now() time.Time
	PassRates(ctx context.Context, program string) (out []store.Tested, err error)
	Programs(ctx context.Context) ([]curriculum.Program, error)
	ReadyOfStudents(ctx context.Context, students map[string]bool, programs []string) (out []store.ReadyClimb, err error)
	RecordAttendance(ctx context.Context, by store.By, entries []gradingday.Attendance) (refused []store.RefusedEntry, err error)
	RecordSignOffs(ctx context.Context, by store.By, entries []store.SignOff) (refused []store.RefusedEntry, err error)
	RegisterOf(ctx context.Context, class timetable.Class, on civil.Date) (people []store.OnRegister, visitors []gradingday.Attendance, kept string, err error)
	Registers(ctx context.Context, from civil.Date, to civil.Date) ([]store.Register, error)
	Replays(ctx context.Context) ([]progress.Climb, map[string]progress.Calendar, error)
	RungsTested(ctx context.Context, from civil.Date, to civil.Date) (map[string]bool, error)
	SaveClass(ctx context.Context, by store.By, c timetable.Class) (store.Done, error)
	SaveThemes(ctx context.Context, by store.By, first civil.Date, themes map[string]practice.Theme) (store.Done, error)
	Sections(ctx context.Context, program string) ([]curriculum.Section, error)
	SignOffsIn(ctx context.Context, class string, on civil.Date) ([]store.SignedOff, error)
	StudentNumbered(ctx context.Context, number int) (progress.Student, error)
	Students(ctx context.Context, program string, text string, limit int, offset int) (rows []store.ListedStudent, total int, err error)
	TaughtIn(ctx context.Context, class string, on civil.Date) ([]store.Taught, error)
	Teach(ctx context.Context, by store.By, class string, on civil.Date, technique string) (store.Done, error)
	Themes(ctx context.Context, first civil.Date) (map[string]store.WeekTheme, error)
	Timetable(ctx context.Context) (timetable.Table, error)
	Today() civil.Date
	Ways(ctx context.Context, program string) (ways []progress.Way, stays []progress.Stay, err error)
	WeakItems(ctx context.Context, program string) (out []store.Weak, err error)
	Zone() *time.Location
}
