// Package curriculum is what each rung asks: the ladder, programs, techniques, the typed page, the check, versions.
package curriculum

import (
	"context"
	"embed"

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
			frame.Get("/ladder", frame.Instructor, ch.ladderHome),
			frame.Get("/ladder/{rung}", frame.Instructor, ch.ladderShow),

			frame.Get("/programs/new", frame.Owner, ch.programsNew),
			frame.Post("/programs/new", frame.Owner, ch.programsSave),
			frame.Get("/programs/{program}", frame.Owner, ch.programsShow),
			frame.Post("/programs/{program}", frame.Owner, ch.programsSave),
			frame.Post("/programs/{program}/details", frame.Owner, ch.programsDetails),
			frame.Post("/programs/{program}/delete", frame.Owner, ch.programsDelete),
			frame.Post("/programs/{program}/sections", frame.Owner, ch.sectionsSave),
			frame.Post("/sections/{section}/move", frame.Owner, ch.sectionsMove),
			frame.Post("/sections/{section}/delete", frame.Owner, ch.sectionsDelete),

			frame.Get("/rungs/new", frame.Owner, ch.rungsNew),
			frame.Post("/rungs/new", frame.Owner, ch.rungsSave),
			frame.Get("/rungs/cloth", frame.Owner, ch.rungsCloth),
			frame.Get("/rungs/{rung}", frame.Owner, ch.rungsShow),
			frame.Post("/rungs/{rung}", frame.Owner, ch.rungsSave),
			frame.Post("/rungs/{rung}/copy", frame.Owner, ch.rungsCopy),
			frame.Post("/rungs/{rung}/move", frame.Owner, ch.rungsMove),
			frame.Post("/rungs/{rung}/delete", frame.Owner, ch.rungsDelete),

			frame.Post("/requirements/new", frame.Owner, ch.requirementsAdd),
			frame.Get("/requirements/{requirement}", frame.Owner, ch.requirementsShow),
			frame.Post("/requirements/{requirement}", frame.Owner, ch.requirementsSave),
			frame.Post("/requirements/{requirement}/move", frame.Owner, ch.requirementsMove),
			frame.Post("/requirements/{requirement}/delete", frame.Owner, ch.requirementsDelete),
			frame.Get("/sheet/{rung}", frame.Instructor, ch.sheetShow),
			frame.Get("/binder/{rung}", frame.Owner, ch.binderShow),
			frame.Post("/binder/{rung}", frame.Owner, ch.binderSave),
			frame.Post("/binder/{rung}/read", frame.Owner, ch.binderRead),
			frame.Post("/binder/{rung}/section", frame.Owner, ch.binderSection),
			frame.Get("/difference/{rung}", frame.Instructor, ch.differenceRung),

			frame.Get("/check", frame.Owner, ch.checkShow),
			frame.Post("/check/silence", frame.Owner, ch.checkSilence),
			frame.Get("/coverage", frame.Instructor, ch.coverageShow),
			frame.Get("/load", frame.Owner, ch.loadShow),
			frame.Get("/versions", frame.Owner, ch.versionsShow),
			frame.Post("/versions/publish", frame.Owner, ch.versionsPublish),
			frame.Post("/versions/move", frame.Owner, ch.versionsMove),
			frame.Get("/difference", frame.Owner, ch.differenceVersions),
			frame.Get("/glossary", frame.Instructor, ch.glossaryShow),
			frame.Get("/poster", frame.Instructor, ch.posterShow),
			frame.Get("/poster.pdf", frame.Instructor, ch.posterFile),
			frame.Get("/booklet", frame.Instructor, ch.bookletShow),
			frame.Get("/booklet/{rung}", frame.Instructor, ch.bookletShow),
			frame.Get("/files", frame.Owner, ch.filesShow),
			frame.Get("/files/curriculum.json", frame.Owner, ch.filesCurriculum),
			frame.Get("/files/requirements.csv", frame.Owner, ch.filesRequirements),
			frame.Post("/files/curriculum", frame.Owner, ch.filesReadCurriculum),
			frame.Post("/files/requirements", frame.Owner, ch.filesSendRequirements),
			frame.Get("/files/requirements", frame.Owner, ch.filesShow),
			frame.Get("/files/requirements/{file}", frame.Owner, ch.filesLookRequirements),
			frame.Post("/files/requirements/{file}", frame.Owner, ch.filesReadRequirements),
			frame.Get("/files/requirements/{file}/refused.csv", frame.Owner, ch.filesRefused),
			frame.Post("/notation", frame.Instructor, ch.notationRead),
			frame.Get("/notation/names", frame.Instructor, ch.notationNames),

			frame.Get("/techniques", frame.Instructor, ch.techniquesList),
			frame.Get("/techniques/many", frame.Owner, ch.manyShow),
			frame.Post("/techniques/many", frame.Owner, ch.manySave),
			frame.Get("/numbers", frame.Owner, ch.numbersShow),
			frame.Post("/numbers", frame.Owner, ch.numbersSave),
			frame.Post("/techniques/{technique}/unnumber", frame.Owner, ch.techniquesUnnumber),
			frame.Post("/check/read", frame.Owner, ch.checkRead),
			frame.Get("/techniques/new", frame.Owner, ch.techniquesNew),
			frame.Post("/techniques/new", frame.Owner, ch.techniquesSave),
			frame.Get("/techniques/{technique}", frame.Instructor, ch.techniquesShow),
			frame.Get("/techniques/{technique}/edit", frame.Owner, ch.techniquesEdit),
			frame.Post("/techniques/{technique}/edit", frame.Owner, ch.techniquesSave),
			frame.Get("/techniques/{technique}/stance", frame.Instructor, ch.stanceShow),
			frame.Post("/techniques/{technique}/stance", frame.Owner, ch.stanceSave),
			frame.Get("/techniques/{technique}/draw", frame.Owner, ch.stanceDraw),
			frame.Get("/techniques/{technique}/tape", frame.Instructor, ch.stanceTape),
			frame.Get("/techniques/{technique}/floor", frame.Instructor, ch.floorShow),
			frame.Get("/techniques/{technique}/prints", frame.Instructor, ch.printsShow),
			frame.Post("/techniques/{technique}/taped", frame.Instructor, ch.stanceTaped),
			frame.Post("/techniques/{technique}/taped/{taped}/withdraw", frame.Instructor, ch.stanceTapedBack),
			frame.Post("/techniques/{technique}/delete", frame.Owner, ch.techniquesDelete),

			frame.Get("/combinations", frame.Instructor, ch.combinationsShow),
			frame.Post("/combinations/drill", frame.Instructor, ch.combinationsDrill),
		},
	}
}

// Records is what the chapter asks of the store.
type Records interface {
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	ChangeCurriculum(ctx context.Context, by store.By, program string, change func(*curriculum.Book) (c curriculum.Curriculum, deed office.Deed, err error)) (store.Done, error)
	ChangeProgram(ctx context.Context, by store.By, program string, deed office.Deed, change func(*curriculum.ProgramDetails) error) (store.Done, error)
	ClimbsBy(ctx context.Context, enrolment string, day civil.Date) (store.ClimbsBy, error)
	DeleteProgram(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteRequirement(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteRung(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteSection(ctx context.Context, by store.By, id string) (store.Done, error)
	DeleteTechnique(ctx context.Context, by store.By, id string) (store.Done, error)
	Drill(ctx context.Context, by store.By, program string, line string) (store.Done, error)
	Drilled(ctx context.Context, program string) (map[string]int, error)
	Ladder(ctx context.Context, program string) ([]store.LadderRung, error)
	MoveRequirement(ctx context.Context, by store.By, id string, places int) (store.Done, error)
	MoveRung(ctx context.Context, by store.By, id string, places int) (store.Done, error)
	MoveSection(ctx context.Context, by store.By, id string, places int) (store.Done, error)
	MoveToVersion(ctx context.Context, by store.By, version string, from string, enrolments []string) (store.Done, error)
	NameSchool(ctx context.Context, by store.By, name string) (store.Done, error)
	NextGrading(ctx context.Context, program string) (store.Grading, bool, error)
	OnRung(ctx context.Context, rung string, limit int) ([]store.Climbing, error)
	Programs(ctx context.Context) ([]curriculum.Program, error)
	Publish(ctx context.Context, by store.By, program string, note string, everyone bool) (store.Done, error)
	Requirement(ctx context.Context, id string) (store.ListedRequirement, error)
	Requirements(ctx context.Context, rung string) ([]store.ListedRequirement, error)
	RecordTaped(ctx context.Context, by store.By, x store.Taped) (store.Done, error)
	Rung(ctx context.Context, id string) (curriculum.Rung, error)
	SaveCurriculum(ctx context.Context, by store.By, c curriculum.Curriculum) (store.Done, error)
	SavePage(ctx context.Context, by store.By, rungID string, text string) (store.Done, error)
	SaveProgram(ctx context.Context, by store.By, p curriculum.Program) (store.Done, error)
	SaveRequirement(ctx context.Context, by store.By, r curriculum.Requirement, name string, kind curriculum.Kind) (store.Done, error)
	SaveRung(ctx context.Context, by store.By, r curriculum.Rung) (store.Done, error)
	SaveSection(ctx context.Context, by store.By, x curriculum.Section) (store.Done, error)
	SaveTechnique(ctx context.Context, by store.By, x curriculum.Technique) (store.Done, error)
	School(ctx context.Context) (string, error)
	Sections(ctx context.Context, program string) ([]curriculum.Section, error)
	Standings(ctx context.Context, student string) ([]store.Standing, error)
	Student(ctx context.Context, id string) (progress.Student, error)
	TapedOf(ctx context.Context, student, technique string) ([]store.Taped, error)
	Technique(ctx context.Context, id string) (curriculum.Technique, error)
	Techniques(ctx context.Context, program string, kind curriculum.Kind, text string) ([]store.ListedTechnique, error)
	Today() civil.Date
	UsedBy(ctx context.Context, technique string) ([]store.Use, error)
	VersionBook(ctx context.Context, id string) (*curriculum.Book, error)
	WithdrawTaped(ctx context.Context, by store.By, id string) (store.Done, error)
	Versions(ctx context.Context, program string) (all []store.Version, changed bool, err error)
}
