// Package web is the school's screens. This file is their table of contents; each chapter is a folder, with
// its routes in chapter.go.
package web

import (
	"log/slog"
	"net/http"

	"velvetladder/internal/store"
	"velvetladder/internal/web/classes"
	"velvetladder/internal/web/curriculum"
	"velvetladder/internal/web/door"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/gradings"
	"velvetladder/internal/web/office"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/people"
	"velvetladder/internal/web/review"
	"velvetladder/internal/web/table"
)

// chapters are those of the job, and the frame they stand in.
func chapters(fr *frame.Frame, s *store.Store) []frame.Chapter {
	shared := parts.New(fr, s)
	return []frame.Chapter{
		fr.Chapter(),                  // undo, what ships with the application
		door.Chapter(shared, s),       // welcome, sign-in, accounts, devices that join
		curriculum.Chapter(shared, s), // ladder, techniques, the typed page, check, versions
		people.Chapter(shared, s),     // students, climbs, who may be tested, practice, family
		classes.Chapter(shared, s),    // week, register, sign-offs, plan, insights
		gradings.Chapter(shared, s),   // candidates, day plan, examiners, papers
		table.Chapter(shared, s),      // scoring, ring, bouts, head table
		review.Chapter(shared, s),     // decisions, results, laboratory, trail
		office.Chapter(shared, s),     // today, find, settings, backups, outbox
	}
}

// New returns the whole application over a store, for those whom access lets in. It fails when a template does not parse
// or a route has no role.
func New(s *store.Store, log *slog.Logger, access frame.Access) (http.Handler, error) {
	fr := frame.New(s, log, access)
	return fr.Handler(parts.Chapter(), chapters(fr, s)...)
}
