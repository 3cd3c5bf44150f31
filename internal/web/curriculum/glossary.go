package curriculum

import (
	"net/http"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/frame"
)

type glossaryView struct {
	Languages []string
	Groups    []glossaryGroup
	Commands  []curriculum.Command
	Counting  []string
	Opening   []string
	Closing   []string
	Terms     int
}

type glossaryGroup struct {
	Kind curriculum.Kind
	Rows []glossaryRow
}

type glossaryRow struct {
	ID, Name string
	Term     string
	Script   string
	Others   []string // by further language, "" for none
	Aliases  string
}

// glossaryShow is every term of the program beside its English, by kind, with commands and
// counting words.
func (ch *chapter) glossaryShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	p := b.Program
	v := glossaryView{Commands: p.Commands, Counting: p.Counting, Opening: p.Opening, Closing: p.Closing}
	place := map[string]int{}
	for _, t := range b.Techniques {
		for _, x := range t.Terms {
			if _, there := place[x.Language]; !there {
				place[x.Language] = len(v.Languages)
				v.Languages = append(v.Languages, x.Language)
			}
		}
	}
	for _, k := range curriculum.Kinds {
		g := glossaryGroup{Kind: k}
		for _, t := range b.Techniques {
			if t.Kind != k || t.Term == "" && t.Script == "" && len(t.Terms) == 0 && len(t.Aliases) == 0 {
				continue
			}
			row := glossaryRow{ID: t.ID, Name: t.Name, Term: t.Term, Script: t.Script, Others: make([]string, len(v.Languages)), Aliases: strings.Join(t.Aliases, ", ")}
			for _, x := range t.Terms {
				row.Others[place[x.Language]] = strings.TrimSpace(x.Text + " " + x.Script)
			}
			g.Rows = append(g.Rows, row)
			v.Terms++
		}
		if len(g.Rows) > 0 {
			v.Groups = append(v.Groups, g)
		}
	}
	ch.Show(w, r, http.StatusOK, p.ID, frame.Page{Screen: "glossary", Title: "Glossary", Nav: "ladder", Body: v})
}
