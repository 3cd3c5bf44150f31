package curriculum_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/webtest"
)

// TestAStanceToScale: for whom it is drawn, which definition stands beside it, and what follows of the legs.
func TestAStanceToScale(t *testing.T) {
	h, _ := webtest.Mill(t)
	stance := h.Book().Named("Fighting stance")
	at := "/techniques/" + stance.ID + "/stance"
	page := h.Page(at)
	for _, said := range []string{"Fighting stance", "For 165 cm", "from above", "from the side", "from the front", "Width, between the heels", "43 cm", "53 cm", "Rear knee bends", "30°", "Front foot can be lifted after the weight has moved", "a shoulder wide", "1 shoulder wide between the heels"} {
		webtest.Says(t, page, said)
	}
	assert.Equal(t, 3, strings.Count(page, `<svg class="stance`))
	webtest.Says(t, h.Page(at+"?who=142"), "For 142 cm")
	webtest.Says(t, h.Page(at+"?who=142&beside=usual"), "where the weight stands")
	assert.Contains(t, h.Page(at+"?who=142&beside=usual"), `class="print other"`)
	_, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Ada Rill", HeightCM: 130, Stance: "southpaw", BirthDate: h.Store.Today().AddMonths(-100)})
	require.NoError(t, err)
	own := h.Page(at + "?who=ada")
	webtest.Says(t, own, "For Ada Rill, 130 cm")
	webtest.Says(t, own, "Under 14 the proportions are not those of grown people")
	assert.Contains(t, own, `is-primary" href="`+at+`?lead=right&amp;who=Ada&#43;Rill"`, "in their own stance")
	for who, said := range map[string]string{"12": "12 cm is no height", "300": "300 cm is no height", "Nobody": "no student is called", "<b>": "no student is called", "1e9": "no student is called"} {
		webtest.Says(t, h.Page(at+"?who="+url.QueryEscape(who)), said)
	}
	_, err = h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Ada Reed"})
	require.NoError(t, err)
	webtest.Says(t, h.Page(at+"?who=ada"), "may be Ada Reed or Ada Rill")
	jab := h.Book().Named("Jab")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/techniques/"+jab.ID+"/stance", "").Code, "a strike is no stance")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/techniques/none/stance", "").Code)
	tape := h.Page("/techniques/" + stance.ID + "/tape?who=142")
	for _, said := range []string{"Tape marks", "For 142 cm", "Right heel 0.0 cm 0.0 cm 45° to the right", "Left heel 36.8 cm to the left 46.0 cm 10° to the left", "Up to 6 cm either way is fine"} {
		webtest.Says(t, tape, said)
	}
}

// TestMeasuresOfAStance: typed in an empty school, drawn as one types, saved, refused with the input kept, and taken back.
func TestMeasuresOfAStance(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	d, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Heron stance", Kind: "stance"})
	require.NoError(t, err)
	at := "/techniques/" + d.ID + "/stance"
	webtest.Says(t, h.Page("/techniques/"+d.ID), "Give it measures, and see it to scale")
	form := webtest.Fields(h.Page(at))
	set := func(pairs ...string) []string {
		v := url.Values{}
		for name, is := range form {
			v[name] = is
		}
		for i := 0; i < len(pairs); i += 2 {
			v.Set(pairs[i], pairs[i+1])
		}
		return webtest.Flat(v)
	}
	address, page := h.Send(at, set("width", "½", "length", "1,25", "length_lead", "toe", "length_rear", "heel", "out_rear", "60", "on_lead", "40", "bend_lead", "", "bend_rear", "25", "hips", "30", "look", "back straight")...)
	assert.True(t, strings.HasPrefix(address, at), address)
	webtest.Says(t, page, "0.5 shoulders wide between the heels, 1.25 shoulders long front toe to rear heel, feet 10° and 60° out, weight 40 : 60, knees bent as it comes out and 25°, hips turned 30°, back straight")
	want := floor.Definition{Width: 50, Length: 125, LengthLead: floor.Toe, OutLead: 10, OutRear: 60, OnLead: 40, BendLead: floor.Computed, BendRear: 25, Hips: 30, Look: "back straight"}
	assert.Equal(t, want, *h.Book().Technique(d.ID).Stance)
	// The technique's own form keeps them, whatever else is changed.
	edit := webtest.Fields(h.Page("/techniques/" + d.ID + "/edit"))
	edit.Set("note", "one leg drawn up")
	h.Send("/techniques/"+d.ID+"/edit", webtest.Flat(edit)...)
	assert.Equal(t, want, *h.Book().Technique(d.ID).Stance)
	for field, typed := range map[string]string{"width": "wide", "length": "5.01", "out_lead": "121", "on_lead": "101", "bend_rear": "151", "hips": "-1", "within_width": "0", "within_angle": "x", "width_unit": "ell", "length_lead": "inner edge"} {
		form = webtest.Fields(h.Page(at))
		w := h.Do("POST", at, webtest.Values(set(field, typed)...).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		if field != "width_unit" && field != "length_lead" {
			assert.Contains(t, w.Body.String(), `value="`+typed+`"`, "what was typed is kept: %s", field)
			assert.Contains(t, w.Body.String(), `aria-invalid="true"`, field)
		}
	}
	form = webtest.Fields(h.Page(at))
	both := h.Do("POST", at, webtest.Values(set("bend_rear", "", "bend_lead", "")...).Encode())
	webtest.Says(t, both.Body.String(), "is left to follow from the front knee")
	assert.Equal(t, want, *h.Book().Technique(d.ID).Stance, "nothing half-written")
	// As one types: pictures, what cannot be, what is wrong; nothing is written.
	draw := func(pairs ...string) (out struct {
		Above, Text string
		Answers     []string
		Problems    map[string]string
	}) {
		w := h.Do("GET", "/techniques/"+d.ID+"/draw?"+webtest.Values(set(pairs...)...).Encode(), "")
		require.Equal(t, http.StatusOK, w.Code)
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
		return out
	}
	assert.Contains(t, draw().Above, "<svg")
	assert.Contains(t, strings.Join(draw("length", "4").Answers, " "), "leg cannot reach")
	assert.Contains(t, draw("width", "wide").Problems["width"], "is not a number")
	assert.Equal(t, want, *h.Book().Technique(d.ID).Stance)
	// Undone, and back to none.
	form = webtest.Fields(h.Page(at))
	_, page = h.Send(at, set("drop", "1")...)
	assert.Nil(t, h.Book().Technique(d.ID).Stance)
	h.Undo(page)
	assert.Equal(t, want, *h.Book().Technique(d.ID).Stance)
}

// TestMeasuredOnTheMat: held against the definition without anybody, kept for a student, taken back; and what is refused.
func TestMeasuredOnTheMat(t *testing.T) {
	h, _ := webtest.Mill(t)
	stance := h.Book().Named("Fighting stance")
	at := "/techniques/" + stance.ID + "/stance"
	page := h.Page(at + "?who=142&taped_width=29&taped_length=46.0&taped_rear=50")
	webtest.Says(t, page, "7.8 cm too narrow, 0.21 of a shoulder; up to 5.5 cm is fine")
	webtest.Says(t, page, "Length as it should be")
	webtest.Says(t, page, "Rear foot fine: 5° further out than 45°")
	webtest.Says(t, page, "Choose a student to keep it on record")
	for typed, said := range map[string]string{"29 cm": "is not a number", "29.55": "millimetres are exact enough", "-3": "it must be from 0"} {
		webtest.Says(t, h.Page(at+"?taped_width="+url.QueryEscape(typed)), said)
	}
	d, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Ada Rill", HeightCM: 142})
	require.NoError(t, err)
	send := func(pairs ...string) (string, string) {
		return h.Send("/techniques/"+stance.ID+"/taped", append([]string{"request", fmt.Sprint(pairs), "student", d.ID}, pairs...)...)
	}
	_, page = send("taped_width", "29", "fault", "guard drops")
	webtest.Says(t, page, "On record")
	webtest.Says(t, page, "7.8 cm too narrow")
	webtest.Says(t, page, "fault: guard drops")
	webtest.Says(t, page, "Measured Fighting stance of Ada Rill on the mat")
	all, err := h.Store.TapedOf(webtest.Ctx, d.ID, "")
	require.NoError(t, err)
	require.Len(t, all, 1)
	w := h.Do("POST", "/techniques/"+stance.ID+"/taped", webtest.Values("request", "x", "student", d.ID).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "nothing was measured")
	w = h.Do("POST", "/techniques/"+stance.ID+"/taped", webtest.Values("request", "y", "student", "nobody", "taped_width", "29").Encode())
	assert.Equal(t, http.StatusNotFound, w.Code)
	_, page = h.Send("/techniques/" + stance.ID + "/taped/" + all[0].ID + "/withdraw")
	webtest.Says(t, page, "Took back what was measured")
	all, err = h.Store.TapedOf(webtest.Ctx, d.ID, "")
	require.NoError(t, err)
	assert.Empty(t, all)
	assert.Equal(t, http.StatusNotFound, h.Do("POST", "/techniques/"+stance.ID+"/taped/none/withdraw", "request=z").Code)
}

// TestOnTheFloor: a form, a defence and a combination with their player, full screen and in still pictures; what travels nowhere has none.
func TestOnTheFloor(t *testing.T) {
	h, programs := webtest.Mill(t)
	wheel := h.Book().Named("Mill Wheel")
	page := h.Page("/techniques/" + wheel.ID + "?who=142&attacker_is=158")
	for _, said := range []string{"They begin", "1.41 m apart", "Leaves the line by", "outside the attacking limb, by the blocking hand", "outside, and so it is", "The attacker’s right cross reaches", "the attacker, coming down the line", "jaw"} {
		webtest.Says(t, page, said)
	}
	assert.Contains(t, page, `data-frames="[{`)
	prints := h.Page("/techniques/" + wheel.ID + "/prints?who=142")
	steps := h.Book().Show(wheel, len(wheel.Stages), "", "", "").Facts.Beats
	assert.Equal(t, steps+1, strings.Count(prints, "<figure>"), "a picture for each step, and the start")
	webtest.Says(t, prints, "light touch at most")
	webtest.Says(t, h.Page("/techniques/"+wheel.ID+"/floor?who=142"), "Mill Wheel for 142 cm, attacked by 165 cm")
	h.Program = programs[1].Program.ID
	form := h.Book().Named("First Millstone")
	page = h.Page("/techniques/" + form.ID)
	for _, said := range []string{"Room for one", "In a hall of", "at once", "Ends, from its start 0 cm", "1 of 180°, 4 of 90°", "Lunge punch 1 left · 1 right", "facing to the left, left foot in front"} {
		webtest.Says(t, page, said)
	}
	assert.Less(t, len(page), 90_000, "a page stays small")
	word := h.Book().Named("Standing and kneeling bow")
	assert.NotContains(t, h.Page("/techniques/"+word.ID), "data-frames")
	for _, what := range []string{"/floor", "/prints"} {
		assert.Equal(t, http.StatusNotFound, h.Do("GET", "/techniques/"+word.ID+what, "").Code)
	}
	webtest.Says(t, h.Page("/techniques/"+form.ID+"?who=nobody"), "no student is called")
}

// TestThePoster: every rung with what it asks for the first time, on screen and as a file; an empty ladder says what belongs there.
func TestThePoster(t *testing.T) {
	h, _ := webtest.Mill(t)
	page := h.Page("/poster")
	for _, said := range []string{"Black belt", "Yellow stripe", "Ready stance", "Jab"} {
		webtest.Says(t, page, said)
	}
	w := h.Do("GET", "/poster.pdf", "")
	require.Equal(t, http.StatusOK, w.Code)
	assert.True(t, strings.HasPrefix(w.Body.String(), "%PDF-"))
	assert.Contains(t, w.Body.String(), "/MediaBox [0 0 841.89 1190.55]", "A3")
	empty := webtest.NewHouse(t)
	_, err := empty.Store.SaveProgram(webtest.Ctx, webtest.Me, curriculum.Program{Name: "New"})
	require.NoError(t, err)
	webtest.Says(t, empty.Page("/poster"), "This ladder has no rungs yet")
}

// longForm is a form of 60 counts in a school of its own: the address of its page.
func longForm(t testing.TB) (*webtest.House, string) {
	h := webtest.NewHouse(t).Furnish()
	for _, x := range []curriculum.Technique{{Name: "Front stance", Kind: "stance"}, {Name: "Low block", Kind: "block"}, {Name: "Lunge punch", Kind: "strike"}} {
		x.ProgramID = h.Program
		_, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, x)
		require.NoError(t, err)
	}
	counts := []string{"from ready stance: left step turn ccw 90 in front stance + left low block"}
	for len(counts) < 60 {
		counts = append(counts, "step through lead lunge punch mid", "left step turn ccw 180 + left low block", "right step turn cw 90 + right low block")
	}
	d, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Long Reach", Kind: "form",
		TechniqueDetails: curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: strings.Join(counts[:60], " / ")}}}}}})
	require.NoError(t, err)
	return h, "/techniques/" + d.ID
}

// TestALongFormStaysSmall: the page of a form of 60 counts, with all its frames, is under 90 KB.
func TestALongFormStaysSmall(t *testing.T) {
	h, address := longForm(t)
	page := h.Page(address)
	assert.Less(t, len(page), 90_000)
	assert.Equal(t, 61, strings.Count(page, "data-step "), "a step for each count, and the start")
}

// TestAnEndlessForm: of a form of more steps than a page plays the first are drawn, and that is said; its facts are those of all of it.
func TestAnEndlessForm(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	var steps []curriculum.Step
	for range 6 {
		steps = append(steps, curriculum.Step{Moves: strings.TrimSuffix(strings.Repeat("slide, ", 100), ", ")})
	}
	d, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Endless", Kind: "form", TechniqueDetails: curriculum.TechniqueDetails{Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: steps}}}})
	require.NoError(t, err)
	page := h.Page("/techniques/" + d.ID)
	webtest.Says(t, page, "It has 600 steps; the first 249 are drawn.")
	webtest.Says(t, page, "128.21 m ahead", "half a shoulder, six hundred times, at 165 cm")
	assert.Equal(t, 250, strings.Count(page, "data-step "))
}

// BenchmarkATechniqueOnTheFloor answers the page of a form of 60 counts, and says how large it is.
func BenchmarkATechniqueOnTheFloor(b *testing.B) {
	h, address := longForm(b)
	size := 0
	b.ReportAllocs()
	for b.Loop() {
		w := h.Do("GET", address, "")
		require.Equal(b, http.StatusOK, w.Code)
		size = w.Body.Len()
	}
	b.ReportMetric(float64(size), "bytes/page")
}
