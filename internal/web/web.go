package web

import (
	"log/slog"
	"net/http"

	"velvetladder/internal/store"
	"velvetladder/internal/web/classes"
	"velvetladder/internal/web/door"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/gradings"
	"velvetladder/internal/web/office"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/people"
	"velvetladder/internal/web/review"
	"velvetladder/internal/web/table"
)

func (a *app) routes() []frame.Route {
	return []frame.Route{

		frame.Get("/ladder", frame.Instructor, a.ladderHome),
		frame.Get("/ladder/{rung}", frame.Instructor, a.ladderShow),

		frame.Get("/programs/new", frame.Owner, a.programsNew),
		frame.Post("/programs/new", frame.Owner, a.programsSave),
		frame.Get("/programs/{program}", frame.Owner, a.programsShow),
		frame.Post("/programs/{program}", frame.Owner, a.programsSave),
		frame.Post("/programs/{program}/details", frame.Owner, a.programsDetails),
		frame.Post("/programs/{program}/delete", frame.Owner, a.programsDelete),
		frame.Post("/programs/{program}/sections", frame.Owner, a.sectionsSave),
		frame.Post("/sections/{section}/move", frame.Owner, a.sectionsMove),
		frame.Post("/sections/{section}/delete", frame.Owner, a.sectionsDelete),

		frame.Get("/rungs/new", frame.Owner, a.rungsNew),
		frame.Post("/rungs/new", frame.Owner, a.rungsSave),
		frame.Get("/rungs/{rung}", frame.Owner, a.rungsShow),
		frame.Post("/rungs/{rung}", frame.Owner, a.rungsSave),
		frame.Post("/rungs/{rung}/move", frame.Owner, a.rungsMove),
		frame.Post("/rungs/{rung}/delete", frame.Owner, a.rungsDelete),

		frame.Post("/requirements/new", frame.Owner, a.requirementsAdd),
		frame.Get("/requirements/{requirement}", frame.Owner, a.requirementsShow),
		frame.Post("/requirements/{requirement}", frame.Owner, a.requirementsSave),
		frame.Post("/requirements/{requirement}/move", frame.Owner, a.requirementsMove),
		frame.Post("/requirements/{requirement}/delete", frame.Owner, a.requirementsDelete),
		frame.Get("/sheet/{rung}", frame.Instructor, a.sheetShow),
		frame.Get("/binder/{rung}", frame.Owner, a.binderShow),
		frame.Post("/binder/{rung}", frame.Owner, a.binderSave),
		frame.Post("/binder/{rung}/read", frame.Owner, a.binderRead),
		frame.Get("/difference/{rung}", frame.Instructor, a.differenceRung),

		frame.Get("/check", frame.Owner, a.checkShow),
		frame.Post("/check/silence", frame.Owner, a.checkSilence),
		frame.Get("/coverage", frame.Instructor, a.coverageShow),
		frame.Get("/load", frame.Owner, a.loadShow),
		frame.Get("/versions", frame.Owner, a.versionsShow),
		frame.Post("/versions/publish", frame.Owner, a.versionsPublish),
		frame.Post("/versions/move", frame.Owner, a.versionsMove),
		frame.Get("/difference", frame.Owner, a.differenceVersions),
		frame.Get("/glossary", frame.Instructor, a.glossaryShow),
		frame.Get("/booklet", frame.Instructor, a.bookletShow),
		frame.Get("/booklet/{rung}", frame.Instructor, a.bookletShow),
		frame.Get("/files", frame.Owner, a.filesShow),
		frame.Get("/files/curriculum.json", frame.Owner, a.filesCurriculum),
		frame.Get("/files/requirements.csv", frame.Owner, a.filesRequirements),
		frame.Post("/files/curriculum", frame.Owner, a.filesReadCurriculum),
		frame.Post("/files/requirements", frame.Owner, a.filesReadRequirements),
		frame.Post("/notation", frame.Instructor, a.notationRead),
		frame.Get("/notation/names", frame.Instructor, a.notationNames),

		frame.Get("/techniques", frame.Instructor, a.techniquesList),
		frame.Get("/techniques/many", frame.Owner, a.manyShow),
		frame.Post("/techniques/many", frame.Owner, a.manySave),
		frame.Get("/numbers", frame.Owner, a.numbersShow),
		frame.Post("/numbers", frame.Owner, a.numbersSave),
		frame.Post("/techniques/{technique}/unnumber", frame.Owner, a.techniquesUnnumber),
		frame.Post("/check/read", frame.Owner, a.checkRead),
		frame.Get("/techniques/new", frame.Owner, a.techniquesNew),
		frame.Post("/techniques/new", frame.Owner, a.techniquesSave),
		frame.Get("/techniques/{technique}", frame.Instructor, a.techniquesShow),
		frame.Get("/techniques/{technique}/edit", frame.Owner, a.techniquesEdit),
		frame.Post("/techniques/{technique}/edit", frame.Owner, a.techniquesSave),
		frame.Post("/techniques/{technique}/delete", frame.Owner, a.techniquesDelete),

		frame.Get("/combinations", frame.Instructor, a.combinationsShow),
		frame.Post("/combinations/drill", frame.Instructor, a.combinationsDrill),
	}
}

// New returns the whole application over a store, for those whom access lets in. It fails when a template does not parse
// or a route has no role.
func New(s *store.Store, log *slog.Logger, access frame.Access) (http.Handler, error) {
	fr := frame.New(s, log, access)
	return fr.Handler(parts.Chapter(), chapters(fr, s)...)
}

// chapters are those of the job, and the frame they stand in.
func chapters(fr *frame.Frame, s *store.Store) []frame.Chapter {
	a := &app{Parts: parts.New(fr, s), store: s}
	shared := parts.New(fr, s)
	return []frame.Chapter{
		fr.Chapter(),
		office.Chapter(shared, s),
		door.Chapter(shared, s),
		review.Chapter(shared, s),
		gradings.Chapter(shared, s),
		table.Chapter(shared, s),
		people.Chapter(shared, s),
		classes.Chapter(shared, s),
		a.chapter(),
	}
}
