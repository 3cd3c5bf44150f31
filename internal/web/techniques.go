package web

import (
	"net/http"
	"net/url"
	"strings"

	"github.com/go-chi/chi/v5"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
)

type techniquesView struct {
	Kind, Text string
	Kinds      []option
	Rows       []store.ListedTechnique
	Any        bool
}

func (a *app) techniquesList(w http.ResponseWriter, r *http.Request) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v := techniquesView{Kind: r.URL.Query().Get("kind"), Text: r.URL.Query().Get("text"), Kinds: options(curriculum.Kinds, curriculum.Kind.Words)}
	if v.Rows, err = a.store.Techniques(r.Context(), p.ID, curriculum.Kind(v.Kind), v.Text); err != nil {
		a.fail(w, r, err)
		return
	}
	v.Any = len(v.Rows) > 0 || v.Kind != "" || v.Text != ""
	a.show(w, r, http.StatusOK, p.ID, page{Screen: "techniques", Title: "Techniques", Nav: "techniques", Body: v})
}

type techniqueView struct {
	Technique curriculum.Technique // its ID is "" for a new one
	Form      form
	Kinds     []option
	Contexts  []string
	Uses      []store.Use
	Moves     []curriculum.StripMove // the remark, where it is written in notation
	Language  string
}

func (a *app) techniquesNew(w http.ResponseWriter, r *http.Request) {
	p, err := a.program(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if p.ID == "" {
		a.message(w, r, http.StatusConflict, "There is no program yet", "Techniques belong to a program. Add the first program, then come back.")
		return
	}
	a.techniqueForm(w, r, http.StatusOK, curriculum.Technique{ProgramID: p.ID}, form{Values: values("program", p.ID, "kind", "strike")})
}

func (a *app) techniquesShow(w http.ResponseWriter, r *http.Request) {
	a.techniqueOf(w, r, http.StatusOK, form{})
}

func (a *app) techniqueOf(w http.ResponseWriter, r *http.Request, status int, f form) {
	t, err := a.store.Technique(r.Context(), chi.URLParam(r, "technique"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if f.Values == nil {
		var faults []string
		for _, x := range t.Faults {
			faults = append(faults, x.String())
		}
		f.Values = values("program", t.ProgramID, "name", t.Name, "kind", string(t.Kind), "term", t.Term, "note", t.Note, "aliases", strings.Join(t.Aliases, ", "),
			"checkpoints", strings.Join(t.Checkpoints, "\n"), "faults", strings.Join(faults, "\n"), "cautions", strings.Join(t.Cautions, "\n"))
		for _, s := range t.Surfaces {
			f.Values.Set("surface_"+s.Context, s.Part)
		}
	}
	a.techniqueForm(w, r, status, t, f)
}

func (a *app) techniqueForm(w http.ResponseWriter, r *http.Request, status int, t curriculum.Technique, f form) {
	v := techniqueView{Technique: t, Form: f, Kinds: options(curriculum.Kinds, curriculum.Kind.Words), Contexts: curriculum.SurfaceContexts}
	title := "A new technique"
	if t.ID != "" {
		title = t.Name
		var err error
		if v.Uses, err = a.store.UsedBy(r.Context(), t.ID); err != nil {
			a.fail(w, r, err)
			return
		}
	}
	if book, err := a.store.Book(r.Context(), t.ProgramID); err == nil {
		v.Moves = book.Strip(t.Note, curriculum.AsWritten)
	}
	program, err := a.store.Program(r.Context(), f.Get("program"))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if v.Language = program.SecondLanguage; v.Language == "" {
		v.Language = "another language"
	}
	a.show(w, r, status, program.ID, page{Screen: "technique", Title: title, Nav: "techniques", Body: v})
}

// readTechnique reads a technique's form; lists have a line each, aliases commas between.
func readTechnique(v url.Values) (curriculum.Technique, check.Problems) {
	var p check.Problems
	t := curriculum.Technique{ProgramID: v.Get("program"), Name: v.Get("name"), Kind: curriculum.Kind(v.Get("kind")), Term: v.Get("term"), Note: v.Get("note")}
	for alias := range strings.SplitSeq(v.Get("aliases"), ",") {
		if alias = check.Tidy(alias); alias != "" {
			t.Aliases = append(t.Aliases, alias)
		}
	}
	t.Checkpoints = p.Lines("checkpoints", v.Get("checkpoints"))
	t.Faults = curriculum.ParseFaults(p.Lines("faults", v.Get("faults")))
	t.Cautions = p.Lines("cautions", v.Get("cautions"))
	for _, context := range curriculum.SurfaceContexts {
		if part := check.Tidy(v.Get("surface_" + context)); part != "" {
			p.Line("surface_"+context, part, check.NameLength)
			t.Surfaces = append(t.Surfaces, curriculum.Surface{Context: context, Part: part})
		}
	}
	return t, p
}

func (a *app) techniquesSave(w http.ResponseWriter, r *http.Request) {
	id := chi.URLParam(r, "technique")
	a.save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		t, p := readTechnique(v)
		if len(p) > 0 {
			return store.Done{}, append(p, t.Check()...)
		}
		t.ID = id
		return a.store.SaveTechnique(r.Context(), by, t)
	}, func(d store.Done) string { return "/techniques/" + d.ID }, func(status int, f form) {
		if id != "" {
			a.techniqueOf(w, r, status, f)
			return
		}
		a.techniqueForm(w, r, status, curriculum.Technique{ProgramID: f.Get("program")}, f)
	})
}

func (a *app) techniquesDelete(w http.ResponseWriter, r *http.Request) {
	a.save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return a.store.DeleteTechnique(r.Context(), by, chi.URLParam(r, "technique"))
	}, to("/techniques"), func(status int, f form) { a.techniqueOf(w, r, status, form{General: f.General}) })
}
