package curriculum_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/webtest"
)

// TestARungForATrackAndAStance: new, grown and carried lines with their reasons, what a track
// leaves out, and the moves named for a stance.
func TestARungForATrackAndAStance(t *testing.T) {
	h, _ := webtest.Mill(t)
	b := h.Book()
	orange := b.RungNamed("Orange belt").ID
	page := webtest.Text(h.Page("/ladder/" + orange))
	for _, said := range []string{"◐ grown", "● new", "○ carried", "Grown: stage 3, after stage 2 at Orange stripe.", "As at Orange stripe.", "part 3 of 4", "Draw again", "gloves, shin guards, gum shield", "contact touch"} {
		assert.Contains(t, page, said)
	}
	cubs := b.Program.Tracks[0].ID
	address := "/ladder/" + orange + "?track=" + cubs
	young := h.Page(address)
	assert.Contains(t, webtest.Text(young), "Asked here, but no line of its own", "what Cubs leave out is told")
	webtest.Says(t, young, "Cubs leave it out.")
	assert.NotEqual(t, page, webtest.Text(young))
	webtest.Says(t, h.Page("/ladder/"+b.RungNamed("Green belt").ID), "Not drawn: ")
	left, right := webtest.Text(h.Page(address+"&stance=orthodox")), webtest.Text(h.Page(address+"&stance=southpaw"))
	assert.NotEqual(t, left, right)
	assert.Contains(t, h.Page(address+"&stance=southpaw"), `stance=southpaw&amp;track=`+cubs+`" aria-current="true"`)
	seven := b.Named("Combination 7")
	webtest.Says(t, h.Page("/techniques/"+seven.ID+"?stance=orthodox"), "left low block")
	webtest.Says(t, h.Page("/techniques/"+seven.ID+"?stance=southpaw"), "right low block")
	assert.Equal(t, http.StatusOK, h.Do("GET", "/ladder/"+orange+"?track=none&stance=both&draw=-3", "").Code, "what an address says wrongly is not said")

	sheet := webtest.Text(h.Page("/sheet/" + orange + "?track=" + cubs))
	assert.Contains(t, sheet, "Cubs ·")
	beyond := webtest.Text(h.Page("/difference/" + orange + "?track=" + cubs))
	assert.Contains(t, beyond, "What Orange belt asks beyond Orange stripe")
	assert.Contains(t, beyond, "must pass: yes, was no")
	webtest.Says(t, h.Page("/difference/"+orange+"?beyond="+b.RungNamed("White belt").ID), "beyond White belt")
	webtest.Says(t, h.Page("/difference/"+b.Rungs[0].ID), "is the lowest rung")
}

func TestRungs(t *testing.T) {
	h := webtest.NewHouse(t)
	address, _ := h.Send("/programs/new", "name", "Kenpo")
	program := regexp.MustCompile(`program=([0-9a-f]{20})`).FindStringSubmatch(address)[1]
	assert.Contains(t, h.Page("/rungs/new"), "at the top")
	rung := func(name, position string, more ...string) string {
		address, page := h.Send("/rungs/new", append(more, "program", program, "name", name, "kind", "belt", "weave", "plain", "colour", "#ffffff", "mark_count", "0", "position", position)...)
		assert.Contains(t, webtest.Text(page), name)
		return webtest.Last(address)
	}
	rail := func() string {
		var out []string
		for _, m := range regexp.MustCompile(`title="([^"]+): \d+ students?"`).FindAllStringSubmatch(h.Page("/ladder"), -1) {
			out = append(out, m[1])
		}
		return strings.Join(out, ", ")
	}
	asked := h.Page("/rungs/cloth?name=Green+belt%2C+two+black+tips")
	assert.JSONEq(t, `{"colour": "#2e7d4f", "weave": "plain", "mark_count": "2", "mark_colour": "#1b1a1c"}`, asked)
	assert.JSONEq(t, `{"colour": "#b8322c", "weave": "halves", "second": "#1b1a1c", "mark_count": "0"}`, h.Page("/rungs/cloth?name=red%2Fblack"))
	untouched := []string{"program", program, "kind", "belt", "weave", "plain", "colour", curriculum.WhiteCloth.Colour, "mark_count", "0", "position", "top"}
	green, page := h.Send("/rungs/new", append(untouched, "name", "Green belt")...)
	assert.Contains(t, h.Page("/rungs/"+webtest.Last(green)), `value="#2e7d4f"`, "a cloth that nobody chose is that of the name")
	h.Undo(page)
	white, black := rung("White belt", "top"), rung("Black belt", "top")
	stripe := rung("Red stripe", "1", "kind", "rank_stripe", "weave", "halves", "second", "#ff0000", "mark_count", "2", "mark_colour", "#00ff00", "mark_place", "tip")
	assert.Equal(t, "Black belt, Red stripe, White belt", rail(), "highest on top")
	form := h.Page("/rungs/" + stripe)
	assert.Contains(t, form, `value="#00ff00"`)
	_, page = h.Send("/rungs/"+white+"/move", "places", "2")
	assert.Equal(t, "White belt, Black belt, Red stripe", rail())
	h.Undo(page)
	assert.Equal(t, "Black belt, Red stripe, White belt", rail())
	_, page = h.Send("/rungs/"+black, "name", "Night belt", "kind", "belt", "weave", "core_line", "colour", "#000000", "second", "#ff0000", "mark_count", "0")
	assert.Contains(t, webtest.Text(page), "Night belt")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Black belt")
	_, page = h.Send("/rungs/" + stripe + "/delete")
	assert.Equal(t, "Black belt, White belt", rail())
	h.Undo(page)
	assert.Equal(t, "Black belt, Red stripe, White belt", rail())
}
