package exchange

import (
	"bytes"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/office"
	"velvetladder/internal/golden"
)

var (
	element = regexp.MustCompile(`<(text|line|rect|circle|g|path)([^>]*)>([^<]*)`)
	put     = regexp.MustCompile(`([\w:-]+)="([^"]*)"`)
)

// drawnOf is what stands on a page, an element a line.
func drawnOf(svg string) (out []string) {
	for _, m := range element.FindAllStringSubmatch(svg, -1) {
		var said []string
		for _, a := range put.FindAllStringSubmatch(m[2], -1) {
			if a[1] != "lengthAdjust" && a[1] != "xml:space" {
				said = append(said, a[1]+" "+a[2])
			}
		}
		out = append(out, strings.TrimSpace(m[1]+" "+strings.Join(said, " ")+" | "+m[3]))
	}
	return out
}

// TestPapersAsTheyWereLookedAt: each paper is drawn as it was when somebody looked at it last.
// After a change that is meant: go test ./internal/exchange -run LookedAt -update, and look.
func TestPapersAsTheyWereLookedAt(t *testing.T) {
	golden.Alone(t)
	c, s, r, l := somePapers()
	r[2].Rows[3].What, c[2].Lines = strings.Repeat("Group of everybody ", 9), append(c[2].Lines, strings.Repeat("and another ", 120))
	var out []string
	for _, x := range []struct {
		name  string
		pages []string
	}{
		{"certificate", PreviewCertificates(c, office.A4, 100)}, {"scoresheet", PreviewScoresheets(s[:1], office.A4, 100)}, {"long scoresheet", PreviewScoresheets(s[2:], office.Letter, 1)}, {"a row longer than a page", PreviewScoresheets([]Scoresheet{longRow()}, office.A4, 100)},
		{"run sheet", PreviewRunSheets(r[2:], office.A4, 100)}, {"letter", PreviewLetters(l[2:], office.A4, 100)},
	} {
		for i, svg := range x.pages {
			out = append(out, fmt.Sprintf("== %s, page %d: %s", x.name, i+1, svg[:strings.Index(svg, ">")]))
			out = append(out, drawnOf(svg)...)
		}
	}
	golden.Hold(t, "testdata/papers.txt", out, nil)
}

// stands is where a text stands, in millimetres.
type stands struct {
	left, right, y, size float64
	text                 string
}

// TestNothingFallsOffThePaper: every text of every page stands on it, and on no other text.
func TestNothingFallsOffThePaper(t *testing.T) {
	golden.Alone(t)
	c, s, r, l := somePapers()
	for _, paper := range office.Papers {
		for name, pages := range map[string][]string{"certificate": PreviewCertificates(c, paper, 100), "scoresheet": PreviewScoresheets(s, paper, 100), "run sheet": PreviewRunSheets(r, paper, 100), "letter": PreviewLetters(l, paper, 100)} {
			for i, svg := range pages {
				var wide, tall float64
				_, err := fmt.Sscanf(svg[strings.Index(svg, "viewBox"):], `viewBox="0 0 %f %f"`, &wide, &tall)
				require.NoError(t, err)
				var texts []stands
				for _, m := range element.FindAllStringSubmatch(svg, -1) {
					at := map[string]float64{}
					for _, a := range put.FindAllStringSubmatch(m[2], -1) {
						at[a[1]], _ = strconv.ParseFloat(a[2], 64)
					}
					if m[1] != "text" || m[3] == "only a preview" {
						continue
					}
					x := stands{at["x"], at["x"] + at["textLength"], at["y"], at["font-size"], m[3]}
					assert.True(t, x.left >= 4 && x.right <= wide-4 && x.y > 4 && x.y < tall-4, "%s, page %d of %s: %v", name, i+1, paper, x)
					for _, o := range texts {
						over := x.left < o.right-0.1 && o.left < x.right-0.1 && math.Abs(x.y-o.y) < 0.6*min(x.size, o.size)
						assert.False(t, over, "%s, page %d of %s: %v stands on %v", name, i+1, paper, x, o)
					}
					texts = append(texts, x)
				}
			}
		}
	}
}

// TestTheFileHoldsWhatThePreviewShows: the same papers with another date differ in nothing but
// the date, and one page more in the preview is one page more in the file.
func TestTheFileHoldsWhatThePreviewShows(t *testing.T) {
	golden.Alone(t)
	_, s, r, l := somePapers()
	pages := regexp.MustCompile(`/Type /Page\b[^s]`)
	count := func(write func(*bytes.Buffer) error) int {
		var out bytes.Buffer
		require.NoError(t, write(&out))
		return len(pages.FindAll(out.Bytes(), -1))
	}
	assert.Equal(t, len(PreviewScoresheets(s, office.A4, 100)), count(func(w *bytes.Buffer) error { return WriteScoresheets(w, s, office.A4, noon) }))
	assert.Equal(t, len(PreviewRunSheets(r, office.A4, 100)), count(func(w *bytes.Buffer) error { return WriteRunSheets(w, r, office.A4, noon) }))
	assert.Equal(t, len(PreviewLetters(l, office.A4, 100)), count(func(w *bytes.Buffer) error { return WriteLetters(w, l, office.A4, noon) }))
	x, y, z := rgb("#0a141e")
	assert.Equal(t, []int{10, 20, 30}, []int{x, y, z})
	x, y, z = rgb("#nothex")
	assert.Equal(t, []int{0, 0, 0}, []int{x, y, z}, "a colour nobody can read is black")
}

// TestTheTitleOfAFile: what a reader shows as the name of the document.
func TestTheTitleOfAFile(t *testing.T) {
	_, s, _, _ := somePapers()
	var out bytes.Buffer
	require.NoError(t, WriteScoresheets(&out, s[:1], office.A4, noon))
	title := ""
	for _, r := range "Scoresheets" {
		title += "\x00" + string(r)
	}
	assert.Contains(t, out.String(), title, "as UTF-16")
	assert.Contains(t, out.String(), "/Lang (en-GB)")
}
