package curriculum

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"unicode/utf8"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/web/frame"
)

// readLine is a line of moves as the field that shows it live needs it.
type readLine struct {
	Text    string                 `json:"text"`
	Strip   []curriculum.StripMove `json:"strip,omitempty"`
	Column  int                    `json:"column,omitempty"` // of what is wrong, from 1 in characters
	Problem string                 `json:"problem,omitempty"`
	Doubts  []liveDoubt            `json:"doubts,omitempty"` // what could be meant otherwise
}

type liveDoubt struct {
	Column int    `json:"column"`
	Reason string `json:"reason"`
}

// liveLines and liveLength (bytes of a line) bound what one live field may ask for.
const liveLines, liveLength = 60, 100_000

// notationRead reads lines of moves for the field that shows them as one types. It writes
// nothing; saving reads them again.
func (ch *chapter) notationRead(w http.ResponseWriter, r *http.Request) {
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	b, err := ch.records.Book(r.Context(), v.Get("program"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	out := []readLine{}
	for line := range strings.Lines(v.Get("text")) {
		line = strings.TrimRight(line, "\r\n")
		if len(out) == liveLines {
			break
		}
		out = append(out, liveLine(b, line, v.Get("steps") != ""))
	}
	frame.SendJSON(w, http.StatusOK, out)
}

func liveLine(b *curriculum.Book, text string, steps bool) readLine {
	out := readLine{Text: text}
	line := text
	if steps {
		line, _, _ = strings.Cut(text, ";")
	}
	switch {
	case len(line) > liveLength:
		out.Text, out.Column, out.Problem = line[:80], 1, fmt.Sprintf("the line has %d characters; no line of moves is that long", utf8.RuneCountInString(line))
	case strings.TrimSpace(line) == "":
	default:
		// Not Book.Read, which keeps every line it has read.
		if b.Catalogue == nil {
			out.Column, out.Problem = 1, b.Collision.Error()
			return out
		}
		read, err := b.Catalogue.Read(line)
		var at *notation.Error
		if errors.As(err, &at) {
			out.Column, out.Problem = at.Column, at.Problem
			return out
		}
		out.Strip = b.StripOf(read.Sequence)
		for _, d := range read.Doubts {
			out.Doubts = append(out.Doubts, liveDoubt(d))
		}
	}
	return out
}

// notationNames are the names a field completes, and the words of the language.
func (ch *chapter) notationNames(w http.ResponseWriter, r *http.Request) {
	b, err := ch.records.Book(r.Context(), r.URL.Query().Get("program"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	out := struct {
		Names []string `json:"names"`
		Words []string `json:"words"`
	}{[]string{}, notation.Words}
	if b.Catalogue != nil {
		out.Names = append(out.Names, b.Catalogue.Names()...)
	}
	slices.SortFunc(out.Names, check.Natural)
	frame.SendJSON(w, http.StatusOK, out)
}
