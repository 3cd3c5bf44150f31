package web

import (
	"embed"
	"html/template"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

//go:embed *.html *.js
var files embed.FS

// app is what all handlers share.
type app struct {
	*parts.Parts
	store *store.Store
}

// chapter is what is not yet a chapter of its own.
func (a *app) chapter() frame.Chapter {
	functions := template.FuncMap{}
	for _, more := range []template.FuncMap{curriculumFunctions()} {
		for name, f := range more {
			functions[name] = f
		}
	}
	return frame.Chapter{Routes: a.routes(), Files: files, Functions: functions}
}
