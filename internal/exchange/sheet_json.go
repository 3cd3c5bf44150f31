package exchange

import (
	"io"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/words"
)

type sheetOut struct {
	Program string              `json:"program"`
	Rung    string              `json:"rung"`
	Track   string              `json:"track,omitempty"`
	Seed    uint64              `json:"seed"`
	Group   int                 `json:"group"`
	Seconds int                 `json:"seconds"`
	Minutes int                 `json:"minutes"`
	Lines   []lineOut           `json:"lines"`
	LeftOut []map[string]string `json:"left_out"`
}

// WriteSheet writes a compiled test sheet as JSON.
func WriteSheet(w io.Writer, b *curriculum.Book, a curriculum.Asking, sheet curriculum.TestSheet) error {
	out := sheetOut{Program: b.Program.Name, Rung: b.Rung(a.RungID).Name, Seed: a.Seed, Group: sheet.Group, Seconds: sheet.Seconds, Minutes: sheet.Minutes(), Lines: []lineOut{}, LeftOut: []map[string]string{}}
	if t := b.Track(a.TrackID); t != nil {
		out.Track = t.Name
	}
	for _, l := range sheet.Lines {
		out.Lines = append(out.Lines, lineOf(l))
	}
	for _, l := range sheet.LeftOut {
		out.LeftOut = append(out.LeftOut, map[string]string{"call": l.Call, "why": words.LeftOut(l)})
	}
	return writeJSON(w, out)
}

// lineOut is a line with what it says in words, in place of its kinds.
type lineOut struct {
	curriculum.Line
	Detail  string   `json:"detail,omitempty"`
	Against []string `json:"against,omitempty"` // stands in the detail
	Apart   []string `json:"told_apart,omitempty"`
	Common  []string `json:"common,omitempty"`
	Manner  string   `json:"manner,omitempty"`
	Before  string   `json:"before,omitempty"` // stands in the reasons
	Why     []string `json:"why,omitempty"`
	Adapted string   `json:"adapted,omitempty"`
}

func lineOf(l curriculum.Line) lineOut {
	return lineOut{Line: l, Detail: words.Detail(l), Apart: words.ToldApart(l.Apart), Common: words.Throughout(l.Common), Manner: words.Manner(l), Why: words.Whys(l), Adapted: words.Adapted(l.Adapted)}
}

type findingOut struct {
	Kind      curriculum.FindingKind `json:"kind"`
	Place     string                 `json:"place"`
	Reason    string                 `json:"reason"`
	Mend      string                 `json:"mend"`
	Rung      string                 `json:"rung,omitempty"`
	Technique string                 `json:"technique,omitempty"`
	Line      string                 `json:"requirement,omitempty"`
	Silenced  string                 `json:"silenced,omitempty"`
}

// WriteFindings writes the ladder check's findings as JSON.
func WriteFindings(w io.Writer, found []curriculum.Finding) error {
	out := []findingOut{}
	for _, f := range found {
		reason, mend := words.Finding(f)
		out = append(out, findingOut{f.Kind, words.Where(f.Where), reason, mend, f.RungID, f.TechniqueID, f.Requirement, f.Silenced})
	}
	return writeJSON(w, out)
}

// writeJSON writes a value as text that is the same every time.
func writeJSON(w io.Writer, v any) error {
	text, err := json.Marshal(v, jsontext.WithIndent("  "), json.Deterministic(true))
	if err != nil {
		return err
	}
	_, err = w.Write(append(text, '\n'))
	return err
}
