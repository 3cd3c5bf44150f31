// Package parts is what several chapters show: the policy form, a result, the preparation strip, the caller.
package parts

import (
	"context"
	"embed"
	"html/template"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

// Parts are pieces of screens that read the records.
type Parts struct {
	*frame.Frame
	records Records
}

// Records is what the parts ask of the store.
type Records interface {
	Book(ctx context.Context, program string) (*curriculum.Book, error)
	Choices(ctx context.Context, enrolments ...string) (map[string]map[string][]string, error)
	Now() time.Time
	School(ctx context.Context) (string, error)
	Students(ctx context.Context, program, text string, limit, offset int) (rows []store.ListedStudent, total int, err error)
	Settings(ctx context.Context) (office.Settings, error)
	Timetable(ctx context.Context) (timetable.Table, error)
	Today() civil.Date
}

// New are the parts over a frame and its records.
func New(fr *frame.Frame, records Records) *Parts { return &Parts{fr, records} }

//go:embed *.html *.js
var files embed.FS

// Chapter is what the parts bring into the house: pieces of templates that several chapters know, and the screens they share.
func Chapter() frame.Chapter {
	return frame.Chapter{Files: files, Mat: []string{"caller"}, Functions: template.FuncMap{
		"arriving": func(at string, p *Progress) ArrivingView { return ArrivingView{at, p} },
	}}
}
