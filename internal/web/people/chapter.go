// Package people is students and their climbs, who may be tested, practice and the family’s pages.
package people

import (
	"context"
	"embed"
	"io"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
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

// Chapter are its screens, over the records. A table is as long as it is.
func Chapter(shared *parts.Parts, records Records) frame.Chapter {
	ch := &chapter{Parts: shared, records: records}
	return frame.Chapter{
		Files:     files,
		Functions: functions(),
		Routes: []frame.Route{
			frame.Post("/eligible/seen", frame.Owner, ch.eligibleSeen),
			frame.Post("/students/{student}/stance", frame.Instructor, ch.studentsStance),

			frame.Get("/students", frame.Instructor, ch.studentsList),
			frame.Get("/eligible", frame.Instructor, ch.eligibleShow),
			frame.Get("/students/new", frame.Owner, ch.studentsNew),
			frame.Post("/students/new", frame.Owner, ch.studentsSave),
			frame.Get("/students/import", frame.Owner, ch.importShow),
			frame.Post("/students/import", frame.Owner, ch.importSend),
			frame.Get("/students/import/{file}", frame.Owner, ch.importLook),
			frame.Post("/students/import/{file}", frame.Owner, ch.importSave),
			frame.Get("/students/import/{file}/progress", frame.Owner, ch.importArriving),
			frame.Get("/students/import/{file}/refused.csv", frame.Owner, ch.importRefused),
			frame.Get("/students/export.csv", frame.Owner, ch.studentsExport).Proved().Taking("students"),
			frame.Get("/students/{student}", frame.Instructor, ch.studentsShow),
			frame.Get("/students/{student}/edit", frame.Owner, ch.studentsEdit),
			frame.Post("/students/{student}/edit", frame.Owner, ch.studentsSave),
			frame.Post("/students/{student}/delete", frame.Owner, ch.studentsDelete),
			frame.Post("/students/{student}/enrol", frame.Owner, ch.studentsEnrol),
			frame.Post("/enrolments/{enrolment}/correct", frame.Owner, ch.enrolmentsCorrect),
			frame.Post("/enrolments/{enrolment}/end", frame.Owner, ch.enrolmentsEnd),
			frame.Post("/enrolments/{enrolment}/track", frame.Owner, ch.enrolmentsTrack),
			frame.Post("/enrolments/{enrolment}/merit", frame.Owner, ch.enrolmentsMerit),
			frame.Post("/enrolments/{enrolment}/adapt", frame.Owner, ch.enrolmentsAdapt),
			frame.Post("/adaptations/{adaptation}/end", frame.Owner, ch.adaptationsEnd),
			frame.Post("/enrolments/{enrolment}/waive", frame.Owner, ch.enrolmentsWaive),
			frame.Post("/enrolments/{enrolment}/word", frame.Instructor, ch.enrolmentsWord),
			frame.Post("/given/{given}/withdraw", frame.Owner, ch.givenWithdraw),

			frame.Post("/enrolments/{enrolment}/example", frame.Instructor, ch.enrolmentsExample),
			frame.Post("/enrolments/{enrolment}/signoff", frame.Instructor, ch.enrolmentsSignOff),
			frame.Post("/enrolments/{enrolment}/stripes", frame.Instructor, ch.enrolmentsStripes),
			frame.Post("/students/{student}/evidence", frame.Instructor, ch.studentsEvidence),

			frame.Post("/stripes/{stripe}/withdraw", frame.Instructor, ch.stripesWithdraw),

			frame.Get("/practice/{enrolment}", frame.Instructor, ch.practiceShow),
			frame.Post("/practice/{enrolment}/link", frame.Owner, ch.practiceLink).Proved(),
			frame.Post("/practice/{enrolment}/answer", frame.Instructor, ch.practiceAnswer),
			frame.Post("/practice/{enrolment}/tick", frame.Instructor, ch.practiceTick),
			frame.Post("/practice/{enrolment}/clip", frame.Instructor, ch.practiceClip),
			frame.Post("/practice/{enrolment}/choice", frame.Instructor, ch.practiceChoose),
			frame.Post("/family-links/{link}/revoke", frame.Owner, ch.practiceRevoke),
			frame.Get("/family/{token}", frame.Family, ch.familyShow),
			frame.Get("/family/{token}/caller", frame.Family, ch.familyCaller),
			frame.Get("/family/{token}/floor/{technique}", frame.Family, ch.familyFloor),
			frame.Get("/family/{token}/result/{candidate}", frame.Family, ch.familyResult),
			frame.Post("/family/{token}/tick", frame.Family, ch.familyTick),
			frame.Post("/family/{token}/clip", frame.Family, ch.familyClip),
			frame.Post("/family/{token}/example", frame.Family, ch.familyExample),
			frame.Post("/family/{token}/choice", frame.Family, ch.familyChoose),
			frame.Get("/caller/{rung}", frame.Instructor, ch.callerShow),

			frame.Get("/students/{student}/record", frame.Owner, ch.recordShow),
			frame.Get("/students/{student}/record.json", frame.Owner, ch.recordExport).Proved().Taking("all that is on record of a student"),
			frame.Post("/students/{student}/record/erase", frame.Owner, ch.recordErase).Proved(),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	Adaptations(ctx context.Context, student string, program string) ([]curriculum.Adaptation, error)
	AddAdaptation(ctx context.Context, by store.By, student string, program string, a curriculum.Adaptation) (store.Done, error)
	AddStudents(ctx context.Context, by store.By, all []store.NewStudent) (store.Done, error)
	ImportStudents(ctx context.Context, by store.By, all []store.NewStudent, step func(done int)) (store.Done, error)
	AnswerClip(ctx context.Context, by store.By, clip string, answer string) (store.Done, error)
	AnsweredAnew(ctx context.Context, program string) (out []store.AnewAnswer, err error)
	Attempts(ctx context.Context, enrolment string) ([]store.Attempt, error)
	WhoLeft(ctx context.Context, gradingID string, enrolment string) ([]store.Left, error)
	AttendedSince(ctx context.Context, student string, from civil.Date, limit int) ([]store.AttendedClass, error)
	AwardMerit(ctx context.Context, by store.By, enrolment string, on civil.Date, reason string) (store.Done, error)
	AwardStripes(ctx context.Context, by store.By, on civil.Date, stripes []store.Stripe, reason string) (store.Done, error)
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	ChangeProgram(ctx context.Context, by store.By, program string, deed office.Deed, change func(*curriculum.ProgramDetails) error) (store.Done, error)
	Choices(ctx context.Context, enrolments ...string) (map[string]map[string][]string, error)
	Choose(ctx context.Context, by store.By, enrolment string, technique string, lines []string) (store.Done, error)
	ClimbsBy(ctx context.Context, enrolment string, day civil.Date) (store.ClimbsBy, error)
	ClimbingOf(ctx context.Context, enrolment string, on civil.Date) (store.Climbing, error)
	Clips(ctx context.Context, enrolment string) ([]store.Clip, error)
	CorrectRank(ctx context.Context, by store.By, enrolment string, rungID string, on civil.Date, reason string) (store.Done, error)
	DaysAttended(ctx context.Context, student string, program string, from civil.Date) ([]civil.Date, error)
	DeleteStudent(ctx context.Context, by store.By, id string) (store.Done, error)
	EndAdaptation(ctx context.Context, by store.By, id string) (store.Done, error)
	EndEnrolment(ctx context.Context, by store.By, enrolment string) (store.Done, error)
	Enrol(ctx context.Context, by store.By, student string, rungID string, since civil.Date) (store.Done, error)
	Rebuild(ctx context.Context) error
	ErasePerson(ctx context.Context, by store.By, student string, confirm string) (store.Done, error)
	EvidenceOf(ctx context.Context, student string) (kit *[]string, papers []progress.Paper, err error)
	ExportPerson(ctx context.Context, student string, w io.Writer) error
	Foresee(ctx context.Context, climbs []store.Climbing) (map[string]progress.Forecast, error)
	ForeseeOf(ctx context.Context, enrolments []string) (map[string]progress.Forecast, error)
	GiveExample(ctx context.Context, by store.By, enrolment string, example string) (store.Done, error)
	GiveWord(ctx context.Context, by store.By, enrolment string, who string) (store.Done, error)
	GivenEver(ctx context.Context, enrolment string) ([]store.PastGiven, error)
	History(ctx context.Context, enrolment string) ([]progress.Entry, error)
	Ladder(ctx context.Context, program string) ([]store.LadderRung, error)
	LinkOf(ctx context.Context, token string) (store.FamilyLink, error)
	Links(ctx context.Context, student string) ([]store.FamilyLink, error)
	MakeLink(ctx context.Context, by store.By, student string, who string, days int) (token string, done store.Done, err error)
	MissedBy(ctx context.Context, students []string, from civil.Date, before civil.Date) ([]store.Missed, error)
	PlannedFor(ctx context.Context, rung string, enrolment string) ([]store.Planned, error)
	PractisedOf(ctx context.Context, enrolment string, from civil.Date) ([]store.Practised, error)
	Programs(ctx context.Context) ([]curriculum.Program, error)
	ReadyOf(ctx context.Context, enrolment string) (store.ReadyClimb, error)
	RecordSignOffs(ctx context.Context, by store.By, entries []store.SignOff) (refused []store.RefusedEntry, err error)
	Result(ctx context.Context, candidate string, early bool) (store.Told, error)
	RevokeLink(ctx context.Context, by store.By, id string) (store.Done, error)
	SaveEvidence(ctx context.Context, by store.By, student string, kit *[]string, papers []progress.Paper) (store.Done, error)
	SaveStudent(ctx context.Context, by store.By, x progress.Student) (store.Done, error)
	SendClip(ctx context.Context, by store.By, enrolment string, technique string, role curriculum.Role, address string) (store.Done, error)
	SetTrack(ctx context.Context, by store.By, enrolment string, track string) (store.Done, error)
	Standings(ctx context.Context, student string) ([]store.Standing, error)
	StripesEver(ctx context.Context, enrolment string) ([]store.PastStripe, error)
	TapedOf(ctx context.Context, student, technique string) ([]store.Taped, error)
	Student(ctx context.Context, id string) (progress.Student, error)
	Students(ctx context.Context, program string, text string, limit int, offset int) (rows []store.ListedStudent, total int, err error)
	Tick(ctx context.Context, by store.By, enrolment string, technique string, role curriculum.Role) (store.Done, error)
	Today() civil.Date
	Waive(ctx context.Context, by store.By, enrolment string, rule curriculum.RuleKind, reason string) (store.Done, error)
	WhoMayTest(ctx context.Context, program string, on civil.Date) ([]store.Climbing, error)
	WithdrawGiven(ctx context.Context, by store.By, id string) (store.Done, error)
	WithdrawStripe(ctx context.Context, by store.By, id string) (store.Done, error)
}
