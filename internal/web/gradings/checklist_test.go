package gradings_test

import (
	"log/slog"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

func TestBadInputBeforeTheDay(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	v := h.Visitor()
	_, err := h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1}, "Free rounds", "sparring")
	require.NoError(t, err)
	settings := webtest.Fields(h.Page("/settings"))
	for name, c := range map[string]struct {
		path, body, says string
	}{
		"hours the wrong way round": {"/day/" + id, webtest.Changed(webtest.DayForm, "close", "8:00"), "the hall closes after it opens, at 09:00"},
		"no time of day":            {"/day/" + id, webtest.Changed(webtest.DayForm, "open", "noon"), "is not a time of day"},
		"warm-up without end":       {"/day/" + id, webtest.Changed(webtest.DayForm, "warmup", "900"), "must be from 0 to 120"},
		"half a pause":              {"/day/" + id, webtest.Changed(webtest.DayForm, "pause_from", "12:00"), "within hall hours"},
		"an order of its own":       {"/day/" + id, webtest.Changed(webtest.DayForm, "order", "loudest"), "is not a choice"},
		"bouts without number":      {"/pairs/" + id, "bouts=many", "is not a whole number"},
		"too many bouts":            {"/pairs/" + id, "bouts=7", "must be from 1 to 5"},
		"nobody to write to":        {"/checklist/" + id + "/write", "", "nobody is chosen"},
		"stock without number":      {"/belts/" + id + "/stock", "rung=" + h.Yellow + "&size=1", "write how many there are"},
		"stock below nothing":       {"/belts/" + id + "/stock", "rung=" + h.Yellow + "&size=1&pieces=-3", "is -3"},
		"an examiner without name":  {"/officers", "name=", "is empty"},
		"emoji on a certificate":    {"/settings", webtest.Changed(settings, "wording", "{name} is {rank} 🥋"), "“🥋” (character 18) cannot be printed"},
		"emoji in the title":        {"/settings", webtest.Changed(settings, "title", "Well done 🎉"), "cannot be printed"},
		"nobody named":              {"/settings", webtest.Changed(settings, "wording", "Well done"), "does not say who is promoted to what"},
		"a word nobody fills":       {"/settings", webtest.Changed(settings, "wording", "{name} {rank} {colour}"), "{colour} is no word that is filled in"},
		"half a brace":              {"/settings", webtest.Changed(settings, "wording", "{name} {rank} {date"), "{date is no word"},
		"sizes upside down":         {"/settings", webtest.Changed(settings, "sizes", "2, 150, 70\n1, 135, 64"), "row 2 is not larger"},
		"sizes in words":            {"/settings", webtest.Changed(settings, "sizes", "small, short, thin"), "is no whole number of centimetres"},
		"sizes in two":              {"/settings", webtest.Changed(settings, "sizes", "1, 150"), "line 1 has 2 parts"},
		"a seal of five":            {"/settings", webtest.Changed(settings, "seal", "MMMAX"), "up to 4 fit"},
		"an address without @":      {"/settings", webtest.Changed(settings, "mail_from", "the office"), "is no mail address"},
		"records for ever and more": {"/settings", webtest.Changed(settings, "retention", "99"), "must be from 0 to 30"},
		"a hall of a hand's width":  {"/settings", webtest.Changed(settings, "width_cm", "20"), "must be from 200 to 10000"},
		"a paper of its own":        {"/settings", webtest.Changed(settings, "paper", "A0"), "is not a choice"},
		"a name for erasing":        {"/students/" + h.Student + "/record/erase", "confirm=Somebody", "is not the name of the student"},
	} {
		w := v.Do("POST", c.path, c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
		assert.Contains(t, unescaped(w.Body.String()), c.says, name)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("GET", "/lineup/"+id+"?width_cm=3&depth_cm=900", "").Code)
	assert.Contains(t, v.Do("GET", "/lineup/"+id+"?width_cm=900&depth_cm=200", "").Body.String(), "deep")
}

func unescaped(s string) string {
	return strings.NewReplacer("&#34;", `"`, "&#39;", "'", "&lt;", "<", "&amp;", "&").Replace(s)
}

// TestPreparationPages: each page of a grading answers, empty and full, for owner and instructor.
func TestPreparationPages(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	bare, err := h.Store.SaveGrading(webtest.Ctx, webtest.Me, gradingday.Grading{ProgramID: h.Program, Name: "Bare", On: h.Store.Today().AddDays(20), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.Yellow}, Examiners: []gradingday.Examiner{{Name: "A"}}})
	require.NoError(t, err)
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	for _, kind := range []string{"scoresheets", "runsheets", "certificates", "letters"} {
		for _, g := range []string{id, bare.ID, h.Grading} {
			w := h.Visitor().Do("GET", "/papers/"+g+"?show="+kind, "")
			require.Equal(t, http.StatusOK, w.Code)
			if strings.Contains(w.Body.String(), "as PDF") {
				w = h.Visitor().Do("GET", "/papers/"+g+"/"+kind+".pdf", "")
				require.Equal(t, http.StatusOK, w.Code)
				assert.True(t, strings.HasPrefix(w.Body.String(), "%PDF-"), "%s of %s", kind, g)
			} else {
				assert.Equal(t, http.StatusConflict, h.Visitor().Do("GET", "/papers/"+g+"/"+kind+".pdf", "").Code)
			}
		}
	}
	assert.Equal(t, http.StatusNotFound, h.Visitor().Do("GET", "/papers/"+id+"/posters.pdf", "").Code)
	assert.Equal(t, http.StatusNotFound, marek.Do("GET", "/papers/"+id+"/letters.pdf", "").Code)
	for _, page := range []string{"/day/", "/checklist/", "/pairs/", "/lineup/", "/papers/"} {
		for _, g := range []string{id, bare.ID, h.Grading} {
			w := h.Visitor().Do("GET", page+g, "")
			assert.Equal(t, http.StatusOK, w.Code, page)
			assert.NotContains(t, w.Body.String(), "<script>alert", page)
			assert.Equal(t, http.StatusOK, marek.Do("GET", page+g, "").Code, page)
		}
		assert.Equal(t, http.StatusNotFound, h.Visitor().Do("GET", page+"none", "").Code)
	}
	for _, page := range []string{"/belts/" + id, "/officers", "/outbox", "/settings", "/backups", "/students/" + h.Student + "/record"} {
		assert.Equal(t, http.StatusOK, h.Visitor().Do("GET", page, "").Code, page)
		assert.NotEqual(t, http.StatusOK, marek.Do("GET", page, "").Code, "%s is the owner's", page)
	}
}
