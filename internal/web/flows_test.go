package web_test

import (
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

func TestProgramsAndSections(t *testing.T) {
	h := webtest.NewHouse(t)
	w := h.Do("GET", "/", "")
	assert.Equal(t, "/programs/new", w.Header().Get("Location"), "an empty database asks for the first program")
	address, page := h.Send("/programs/new", "school", "Test Mill", "name", "Kenpo", "second_language", "")
	id := regexp.MustCompile(`program=([0-9a-f]{20})`).FindStringSubmatch(address)[1]
	assert.Contains(t, webtest.Text(page), "Test Mill · Kenpo")
	assert.Contains(t, webtest.Text(page), "Add the first rung")
	assert.Equal(t, "/ladder", h.Do("GET", "/", "").Header().Get("Location"))

	_, page = h.Send("/programs/"+id, "school", "Old Mill", "name", "Kenpo for all", "second_language", "Japanese")
	assert.Contains(t, webtest.Text(page), "Old Mill · Kenpo for all")
	_, page = h.Send("/programs/"+id+"/sections", "name", "Weapons of foam")
	assert.Contains(t, page, `value="Weapons of foam"`)
	sections, err := h.Store.Sections(webtest.Ctx, id)
	require.NoError(t, err)
	added := sections[len(sections)-1]
	_, _ = h.Send("/programs/"+id+"/sections", "section", added.ID, "name", "Foam")
	_, _ = h.Send("/sections/"+added.ID+"/move", "places", "-99", "program", id)
	sections, err = h.Store.Sections(webtest.Ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "Foam", sections[0].Name)
	refused := h.Do("POST", "/programs/"+id+"/sections", webtest.Values("section", added.ID, "name", "courtesy").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	assert.Contains(t, refused.Body.String(), "already the name of another section")
	assert.Contains(t, refused.Body.String(), `value="courtesy"`)
	_, page = h.Send("/sections/"+added.ID+"/delete", "program", id)
	assert.NotContains(t, page, `value="Foam"`)
	assert.Contains(t, h.Undo(page), `value="Foam"`)

	_, page = h.Send("/programs/" + id + "/delete")
	assert.Contains(t, webtest.Text(page), "No program yet")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Kenpo for all")
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
	white, black := rung("White belt", "top"), rung("Black belt", "top")
	stripe := rung("Red stripe", "1", "kind", "rank_stripe", "weave", "halves", "second", "#ff0000", "mark_count", "2", "mark_colour", "#00ff00", "mark_place", "tip")
	assert.Equal(t, "Black belt, Red stripe, White belt", rail(), "highest on top")
	form := h.Page("/rungs/" + stripe)
	assert.Contains(t, form, `value="#00ff00"`)
	_, page := h.Send("/rungs/"+white+"/move", "places", "2")
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

func TestRequirementsAndTheSheet(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	add := func(technique, amount string, more ...string) string {
		_, page := h.Send("/requirements/new", append([]string{"rung", h.Yellow, "section", h.Section, "technique", technique, "amount", amount, "role", "performer", "weight", "1"}, more...)...)
		return page
	}
	page := add("Bent Reed", "2 a side", "must_pass", "1", "note", "slowly")
	assert.Regexp(t, "Bent Reed slowly must pass ● new.* 2 a side", webtest.Text(page))
	assert.Contains(t, page, `<details id="add" class="card-plain" open>`, "the next line can be typed at once")
	add("Two Oars", "3 x 60 s, 30 s rest", "bonus", "1", "weight", "3")
	rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
	require.NoError(t, err)
	require.Len(t, rows, 3)
	oars := rows[2]
	assert.Contains(t, h.Page("/requirements/"+oars.ID), `value="3 × 60 s, 30 s rest"`)
	_, page = h.Send("/requirements/"+oars.ID, "section", h.Section, "technique", "Two Oars", "amount", "once", "role", "attacker", "weight", "2", "note", "")
	assert.Regexp(t, "Two Oars, attacker weight 2 ● new.* once", webtest.Text(page))
	refused := h.Do("POST", "/requirements/"+oars.ID, webtest.Values("section", h.Section, "technique", "", "amount", "0", "role", "attacker", "weight", "x").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "must be from 1 to 200", "is not a whole number"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, _ = h.Send("/requirements/"+oars.ID+"/move", "places", "-2", "rung", h.Yellow)
	sheet := webtest.Text(h.Page("/sheet/" + h.Yellow + "?group=4"))
	assert.Contains(t, sheet, "3 lines ·")
	assert.Contains(t, sheet, "1 Two Oars, attacker")
	assert.Contains(t, sheet, "for 4 candidates")
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/sheet/"+h.Yellow+"?group=9", "").Code)
	_, page = h.Send("/requirements/"+oars.ID+"/delete", "rung", h.Yellow)
	assert.NotContains(t, webtest.Text(page), "Two Oars, attacker")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Two Oars, attacker")
	used := webtest.Text(h.Page("/techniques/" + oars.TechniqueID))
	assert.Contains(t, used, "Used by Yellow")
	assert.Contains(t, used, "once · attacker")
}

func TestTechniques(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, page := h.Send("/techniques/new", "program", h.Program, "name", "Mill Wheel", "kind", "lock", "term", "suisha", "aliases", "Wheel, Water wheel", "note", "answers a punch",
		"checkpoints", "one\r\ntwo\r\n\r\n", "faults", "too early -> wait\nstands in front", "cautions", "slowly", "surface_basics", "palm")
	id := webtest.Last(address)
	assert.Contains(t, page, "never jerk")
	edit := h.Page("/techniques/" + id + "/edit")
	for _, said := range []string{"one\ntwo", "too early → wait\nstands in front", `value="Wheel, Water wheel"`, `value="palm"`} {
		assert.Contains(t, edit, said)
	}
	for query, found := range map[string]bool{"text=wheel": true, "text=SUISHA": true, "text=water": true, "kind=lock": true, "kind=kick": false, "text=river": false, "text=%27%3B--": false} {
		assert.Equal(t, found, strings.Contains(h.Page("/techniques?"+query), "/techniques/"+id), query)
	}
	refused := h.Do("POST", "/techniques/"+id+"/edit", webtest.Values("program", h.Program, "name", "", "kind", "dance", "checkpoints", strings.Repeat("x\n", 50), "note", "keep me").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "is not a choice", "has 50 lines; up to 40 fit", "keep me"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, page = h.Send("/techniques/"+id+"/edit", "program", h.Program, "name", "Mill Race", "kind", "lock")
	assert.Contains(t, webtest.Text(page), "Mill Race")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Mill Wheel")
	w := h.Do("POST", "/techniques/"+h.Technique+"/delete", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "1 requirement asks for it")
	_, page = h.Send("/techniques/" + id + "/delete")
	assert.NotContains(t, page, "/techniques/"+id)
	assert.Contains(t, h.Undo(page), "/techniques/"+id)
}

func TestStudents(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, _ := h.Send("/students/new", "name", "Eve Race", "stance", "southpaw", "birth_date", "2016-02-29", "guardian", "Imke Race", "height_cm", "131", "rung", h.White, "since", "2026-05-05")
	assert.Contains(t, address, "text=Eve+Race")
	id := regexp.MustCompile(`/students/([0-9a-f]{20})"`).FindStringSubmatch(h.Page(address))[1]
	page := webtest.Text(h.Page("/students/" + id))
	for _, said := range []string{"10 years · southpaw stance", "Kenpo: White belt since Tue 5 May 2026", "131 cm", "Imke Race", "started here"} {
		assert.Contains(t, page, said)
	}
	_, edited := h.Send("/students/"+id+"/edit", "name", "Eve Race-Lock", "stance", "southpaw", "limits", "left knee")
	assert.Contains(t, webtest.Text(edited), "left knee")
	assert.NotContains(t, webtest.Text(h.Undo(edited)), "left knee")

	standings, err := h.Store.Standings(webtest.Ctx, id)
	require.NoError(t, err)
	correct := "/enrolments/" + standings[0].EnrolmentID + "/correct"
	w := h.Do("POST", correct, webtest.Values("student", id, "rung", h.Yellow, "on", "2026-06-01", "reason", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the rank is corrected")
	assert.Contains(t, w.Body.String(), `value="2026-06-01"`)
	_, page = h.Send(correct, "student", id, "rung", h.Yellow, "on", "2026-06-01", "reason", "came with a higher rank")
	assert.Contains(t, webtest.Text(page), "correction: came with a higher rank")
	_, page = h.Send("/enrolments/"+standings[0].EnrolmentID+"/end", "student", id)
	assert.Contains(t, webtest.Text(page), "ended Tue 24 Nov 2026")
	w = h.Do("POST", "/students/"+id+"/enrol", webtest.Values("since", "2031-01-01", "rung", h.White, "program", h.Program).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "lies in the future")
	_, page = h.Send("/students/"+id+"/enrol", "rung", h.White, "since", "")
	assert.Contains(t, webtest.Text(page), "correction: came back")
	_, page = h.Send("/students/" + id + "/delete")
	assert.NotContains(t, page, id)
	assert.Contains(t, h.Undo(page), id)
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/students?from=x", "").Code)
	assert.Contains(t, webtest.Text(h.Page("/find?q=eve")), "Eve Race student")
}

// TestFormsOfTwoClimbs: a student who climbs two ladders has each form twice; a mistake is
// told in the one it was made in, and every label points to its own field.
func TestFormsOfTwoClimbs(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/programs/new", "name", "Staff")
	programs, err := h.Store.Programs(webtest.Ctx)
	require.NoError(t, err)
	second := programs[slices.IndexFunc(programs, func(p curriculum.Program) bool { return p.Name == "Staff" })].ID
	h.Send("/rungs/new", "program", second, "name", "Plain staff", "kind", "belt", "weave", "plain", "colour", "#ffffff", "mark_count", "0", "position", "0")
	h.Send("/rungs/new", "program", second, "name", "Banded staff", "kind", "belt", "weave", "plain", "colour", "#ffff00", "mark_count", "0", "position", "1")
	staff, err := h.Store.Book(webtest.Ctx, second)
	require.NoError(t, err)
	require.Len(t, staff.Rungs, 2)
	h.Send("/students/"+h.Student+"/enrol", "program", second, "rung", staff.Rungs[0].ID)
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	require.Len(t, standings, 2)
	assert.NotContains(t, h.Page("/students/"+h.Student), `role="alert"`)
	ids := regexp.MustCompile(` id="([^"]*)"`)
	for _, s := range standings {
		for path, typed := range map[string][]string{"correct": {"reason", "so"}, "adapt": {"what", "so", "does", "excuse"}, "word": {"who", ""}, "merit": {"on", "so"}} {
			w := h.Do("POST", "/enrolments/"+s.EnrolmentID+"/"+path, webtest.Values(append(typed, "student", h.Student)...).Encode())
			assert.Equal(t, http.StatusUnprocessableEntity, w.Code, path)
			assert.Contains(t, w.Body.String(), `role="alert">Not saved. `, path)
			seen := map[string]bool{}
			for _, id := range ids.FindAllStringSubmatch(w.Body.String(), -1) {
				assert.False(t, seen[id[1]], "%s: two things are called %s", path, id[1])
				seen[id[1]] = true
			}
			for _, other := range standings {
				_, form, found := strings.Cut(w.Body.String(), `action="/enrolments/`+other.EnrolmentID+"/"+path+`"`)
				form, _, _ = strings.Cut(form, "</form>")
				// A word and a merit stripe are not asked for here: what is wrong is said at the head alone.
				if asked := path == "correct" || path == "adapt"; assert.Equal(t, asked, found, path) && asked {
					assert.Equal(t, other.EnrolmentID == s.EnrolmentID, strings.Contains(form, "<strong>"), "%s is told in its own form", path)
				}
			}
		}
	}
}

func TestAGradingByForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	form := []string{"program", h.Program, "name", "Spring", "place", "Upper floor", "on", "2026-11-24", "marking", "category_points", "threshold", "7.5", "group_size", "2", "retest_days", "30", "rungs", h.Yellow,
		"examiner", "Rosa Castell", "examiner", "Dora Duval", "examiner", "Max Moor", "chief", "2"}
	address, page := h.Send("/gradings/new", form...)
	id := webtest.Last(address)
	assert.Contains(t, webtest.Text(page), "category points, a mark for each section · threshold 7.5 points · majority of 3 · Rosa Castell , Dora Duval (chief), Max Moor")
	edit := h.Page("/gradings/" + id + "/edit")
	assert.Contains(t, edit, `value="7.5"`)
	assert.Contains(t, edit, `value="Max Moor"`)
	eligible, err := h.Store.Eligible(webtest.Ctx, id)
	require.NoError(t, err)
	require.Len(t, eligible, 2)
	_, page = h.Send("/gradings/"+id+"/candidates", "candidates", eligible[0].EnrolmentID, "candidates", eligible[1].EnrolmentID)
	assert.Contains(t, webtest.Text(page), "Group 1")
	w := h.Do("POST", "/gradings/"+id+"/candidates", "")
	assert.Contains(t, w.Body.String(), "nobody is chosen")
	_, page = h.Send("/gradings/"+id+"/edit", append([]string{"threshold", "8"}, form...)...)
	assert.Contains(t, webtest.Text(page), "threshold 8 points")
	w = h.Do("GET", "/review/"+id, "")
	assert.Contains(t, webtest.Text(w.Body.String()), "There is nothing to review yet")
	_, page = h.Send("/gradings/" + id + "/begin")
	assert.Contains(t, webtest.Text(page), "Rosa Castell · 0 of 2 marks")
	w = h.Do("POST", "/gradings/"+id+"/begin", "")
	assert.Equal(t, http.StatusConflict, w.Code)

	g, err := h.Store.Grading(webtest.Ctx, id)
	require.NoError(t, err)
	all, err := h.Store.Candidates(webtest.Ctx, id)
	require.NoError(t, err)
	for i, e := range g.Examiners {
		table, err := h.Store.ScoringTable(webtest.Ctx, e.ID, all[0].GroupID)
		require.NoError(t, err)
		for n, c := range all {
			value := []string{"8.5", "7.5"}[n]
			if i == 2 {
				value = "10"
			}
			w := h.Do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/marks", fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"steady","supersedes":""}]}`, store.NewID(), c.ID, e.ID, table.Items[0].ID, value))
			require.Equal(t, http.StatusOK, w.Code, w.Body)
		}
		if i == 1 {
			fault := fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"kind":"ending","points":0,"text":"struck after stop","supersedes":""}]}`, store.NewID(), all[0].ID, e.ID)
			require.Equal(t, http.StatusOK, h.Do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/faults", fault).Code)
		}
		_, page := h.Send("/scoring/"+e.ID+"/"+all[0].GroupID+"/sign", "request", "sign"+e.ID)
		assert.Contains(t, webtest.Text(page), "Signed ✓")
	}
	review := webtest.Text(h.Page("/review/" + id))
	for _, said := range []string{"threshold 8 points", "◆ promote", "◇ retest", "3 of 3 pass", "1 of 3 pass", "closest: Rosa Castell, 0.5 clear", "the panel is split", "struck after stop", "The chief confirms: ends the test", "steady", "Smallest change"} {
		assert.Contains(t, review, said)
	}
	_, rows, err := h.Store.Review(webtest.Ctx, id)
	require.NoError(t, err)
	f := rows[0].Faults[0]
	_, page = h.Send("/review/"+id+"/fault", "candidate", f.CandidateID, "examiner", f.ExaminerID, "fault", f.ID, "text", f.Text, "kind", "ending_confirmed")
	assert.Contains(t, webtest.Text(page), "a fault ended the test")
	_, page = h.Send("/review/"+id+"/decide", "candidate", rows[0].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, webtest.Text(page), "Dora Duval · from Thu 24 Dec 2026")
	w = h.Do("POST", "/review/"+id+"/decide", webtest.Values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is empty; write a name", "a decision is somebody's")
	w = h.Do("POST", "/review/"+id+"/decide", webtest.Values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "Dora Duval").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "differs from what the marks propose")
	_, page = h.Send("/review/"+id+"/decide", "candidate", rows[1].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, webtest.Text(page), "Announce 2 decided")
	_, page = h.Send("/review/"+id+"/undo", "candidate", rows[1].ID)
	assert.Contains(t, webtest.Text(page), "Announce 1 decided")
	_, page = h.Send("/review/"+id+"/announce", "candidate", rows[0].ID)
	assert.Contains(t, webtest.Text(page), "announced · from Thu 24 Dec 2026")
}

func TestEmptyScreensOfferTheFirstStep(t *testing.T) {
	h := webtest.NewHouse(t)
	for path, said := range map[string]string{"/ladder": "Add the first program", "/students": "Add a student", "/techniques": "No technique is on record", "/gradings": "First the ladder needs two rungs", "/find": "Type part of a name", "/find?q=zz": "has this in its name"} {
		assert.Contains(t, webtest.Text(h.Page(path)), said, path)
	}
	assert.Contains(t, webtest.Text(h.Do("GET", "/no/such", "").Body.String()), "This is not on record")
	assert.Equal(t, http.StatusMethodNotAllowed, h.Do("POST", "/ladder", "").Code)
}

func TestWhatNobodySaw(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	_, err := h.Store.Sign(webtest.Ctx, webtest.Me, h.Examiner, h.Group, true)
	require.NoError(t, err)
	page := h.Page("/review/" + h.Grading)
	assert.Contains(t, page, `class="dot incomplete"`)
	assert.Contains(t, webtest.Text(page), "seen by nobody, to be called again")
	assert.Contains(t, webtest.Text(page), "Call it again")
}

func TestBoundsOnRequests(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	w := h.Do("POST", "/students/new", "name="+url.QueryEscape(strings.Repeat("x", frame.MaxBody)))
	assert.Equal(t, http.StatusRequestEntityTooLarge, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "Up to 8 MiB")
	w = h.Do("POST", "/scoring/"+h.Examiner+"/"+h.Group+"/marks", `{"entries":[{"note":"`+strings.Repeat("x", frame.MaxBody)+`"}]}`)
	assert.Equal(t, http.StatusRequestEntityTooLarge, w.Code)
	s := frame.NewServer(h, slog.New(slog.DiscardHandler))
	assert.Positive(t, s.ReadHeaderTimeout)
	assert.Positive(t, s.ReadTimeout)
	assert.Zero(t, s.WriteTimeout, "streams will come")
}

func TestMovesAreShownAndFrozen(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for _, name := range []string{"Low block", "Side kick"} {
		h.Send("/techniques/new", "program", h.Program, "name", name, "kind", "block")
	}
	address, page := h.Send("/techniques/new", "program", h.Program, "name", "Combination 1", "kind", "combination", "note", "slide back lead low block / rear side kick high!")
	assert.Contains(t, page, `<li class=""><b>lead low block</b><span>slide back</span></li><li class="even"><b>rear side kick!</b><span>high</span></li>`)
	plain := h.Page("/techniques/" + h.Technique)
	assert.NotContains(t, plain, `aria-label="Moves"`, "a remark in plain words stays one")
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Combination 1", "amount", "2 a side", "role", "performer", "weight", "1")
	grading, _ := h.Send("/gradings/new", "program", h.Program, "on", "2026-11-24", "marking", "movement_scale", "group_size", "2", "retest_days", "30", "rungs", h.Yellow, "examiner", "Rosa Castell")
	eligible, err := h.Store.Eligible(webtest.Ctx, webtest.Last(grading))
	require.NoError(t, err)
	h.Send("/gradings/"+webtest.Last(grading)+"/candidates", "candidates", eligible[0].EnrolmentID)
	_, page = h.Send("/gradings/" + webtest.Last(grading) + "/begin")
	table := regexp.MustCompile(`/scoring/[0-9a-f]{20}/[0-9a-f]{20}`).FindString(page)
	state := func() string { return h.Do("GET", table+"/state", "").Body.String() }
	moves := `"moves":[{"what":"lead low block","how":"slide back","count":1,"step":1,"readings":{"orthodox":{"what":"left low block","how":"slide back"},"southpaw":{"what":"right low block","how":"slide back"}}},{"what":"rear side kick!","how":"high","count":2,"step":1,"readings":{"orthodox":{"what":"right side kick!","how":"high"},"southpaw":{"what":"left side kick!","how":"high"}}}]`
	assert.Contains(t, state(), moves)
	h.Send("/techniques/"+webtest.Last(address)+"/edit", "program", h.Program, "name", "Combination 1", "kind", "combination", "note", "rear side kick")
	assert.Contains(t, state(), moves, "the sheet keeps the moves it was begun with")
}
