package parts

import (
	"encoding/json"
	"net/http"
	"slices"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// CallerView is the caller: everything it calls stands in the page, so that it goes on without
// network.
type CallerView struct {
	Title    string
	Back     string
	Floor    string // the address of a technique on the floor, with * for its id
	Calls    string // JSON
	Counting string // JSON: the counting words
	Program  string // JSON: its commands, and how it opens and closes
	Stance   string
	Stances  []frame.Option // to choose from
	Sections []string
	Parts    []string // named parts of what is called
	Whole    bool     // a class is called, so that it can open and close as the school does
	N        int
}

// callerProgram is what a program's caller says around the calls.
type callerProgram struct {
	Commands commandsWire `json:"commands"`
	Opening  []string     `json:"opening"`
	Closing  []string     `json:"closing"`
}

// ShowCaller shows the caller of a rung, full screen.
func (ps *Parts) ShowCaller(w http.ResponseWriter, r *http.Request, v CallerView, b *curriculum.Book, calls []practice.Call) {
	said := []CallWire{}
	for _, c := range calls {
		said = append(said, CallOnWire(b.Program, c))
	}
	text, err := json.Marshal(said)
	if err != nil {
		ps.Fail(w, r, err)
		return
	}
	counting, err := json.Marshal(b.Program.Counting)
	if err != nil {
		ps.Fail(w, r, err)
		return
	}
	program, err := json.Marshal(callerProgram{commandsWire(words.Commands(b.Program)), append([]string{}, b.Program.Opening...), append([]string{}, b.Program.Closing...)})
	if err != nil {
		ps.Fail(w, r, err)
		return
	}
	for _, c := range calls {
		if !slices.Contains(v.Sections, c.Section) {
			v.Sections = append(v.Sections, c.Section)
		}
		for _, p := range c.Parts {
			if !slices.Contains(v.Parts, p.Name) {
				v.Parts = append(v.Parts, p.Name)
			}
		}
	}
	v.Whole = v.Whole && len(b.Program.Opening)+len(b.Program.Closing) > 0
	v.Calls, v.Counting, v.Program, v.N = string(text), string(counting), string(program), len(calls)
	ps.Show(w, r, http.StatusOK, "", frame.Page{Screen: "caller", Title: "Caller: " + v.Title, Bare: true, Body: v})
}
