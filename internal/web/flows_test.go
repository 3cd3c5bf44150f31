package web

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
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// send posts a form, expects to be led on, and returns the address and the page there.
func (h *house) send(path string, pairs ...string) (address, page string) {
	h.t.Helper()
	w := h.do("POST", path, values(pairs...).Encode())
	require.Equal(h.t, http.StatusSeeOther, w.Code, "%s %v: %s", path, pairs, text(w.Body.String()))
	address, _, _ = strings.Cut(w.Header().Get("Location"), "#")
	return address, h.page(address)
}

func (h *house) page(address string) string {
	h.t.Helper()
	w := h.do("GET", address, "")
	require.Equal(h.t, http.StatusOK, w.Code, address)
	return w.Body.String()
}

var tags = regexp.MustCompile(`(?s)<script.*?</script>|<[^>]*>`)

// text is what a page says, without its markup.
func text(page string) string {
	return strings.Join(strings.Fields(tags.ReplaceAllString(page, " ")), " ")
}

// undo presses the undo button of a page.
func (h *house) undo(page string) string {
	h.t.Helper()
	entry := regexp.MustCompile(`name="entry" value="([0-9a-f]+)"`).FindStringSubmatch(page)
	back := regexp.MustCompile(`name="back" value="([^"]+)"`).FindStringSubmatch(page)
	require.NotNil(h.t, entry, "the page offers no undo")
	_, page = h.send("/undo", "entry", entry[1], "back", back[1])
	return page
}

func last(address string) string {
	path, _, _ := strings.Cut(address, "?")
	return path[strings.LastIndex(path, "/")+1:]
}

func TestProgramsAndSections(t *testing.T) {
	h := newHouse(t)
	w := h.do("GET", "/", "")
	assert.Equal(t, "/programs/new", w.Header().Get("Location"), "an empty database asks for the first program")
	address, page := h.send("/programs/new", "school", "Test Mill", "name", "Kenpo", "second_language", "")
	id := regexp.MustCompile(`program=([0-9a-f]{20})`).FindStringSubmatch(address)[1]
	assert.Contains(t, text(page), "Test Mill · Kenpo")
	assert.Contains(t, text(page), "Add the first rung")
	assert.Equal(t, "/ladder", h.do("GET", "/", "").Header().Get("Location"))

	_, page = h.send("/programs/"+id, "school", "Old Mill", "name", "Kenpo for all", "second_language", "Japanese")
	assert.Contains(t, text(page), "Old Mill · Kenpo for all")
	_, page = h.send("/programs/"+id+"/sections", "name", "Weapons of foam")
	assert.Contains(t, page, `value="Weapons of foam"`)
	sections, err := h.s.Sections(bg, id)
	require.NoError(t, err)
	added := sections[len(sections)-1]
	_, _ = h.send("/programs/"+id+"/sections", "section", added.ID, "name", "Foam")
	_, _ = h.send("/sections/"+added.ID+"/move", "places", "-99", "program", id)
	sections, err = h.s.Sections(bg, id)
	require.NoError(t, err)
	assert.Equal(t, "Foam", sections[0].Name)
	refused := h.do("POST", "/programs/"+id+"/sections", values("section", added.ID, "name", "courtesy").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	assert.Contains(t, refused.Body.String(), "already the name of another section")
	assert.Contains(t, refused.Body.String(), `value="courtesy"`)
	_, page = h.send("/sections/"+added.ID+"/delete", "program", id)
	assert.NotContains(t, page, `value="Foam"`)
	assert.Contains(t, h.undo(page), `value="Foam"`)

	_, page = h.send("/programs/" + id + "/delete")
	assert.Contains(t, text(page), "No program yet")
	assert.Contains(t, text(h.undo(page)), "Kenpo for all")
}

func TestRungs(t *testing.T) {
	h := newHouse(t)
	address, _ := h.send("/programs/new", "name", "Kenpo")
	program := regexp.MustCompile(`program=([0-9a-f]{20})`).FindStringSubmatch(address)[1]
	assert.Contains(t, h.page("/rungs/new"), "at the top")
	rung := func(name, position string, more ...string) string {
		address, page := h.send("/rungs/new", append(more, "program", program, "name", name, "kind", "belt", "weave", "plain", "colour", "#ffffff", "mark_count", "0", "position", position)...)
		assert.Contains(t, text(page), name)
		return last(address)
	}
	rail := func() string {
		var out []string
		for _, m := range regexp.MustCompile(`title="([^"]+): \d+ students?"`).FindAllStringSubmatch(h.page("/ladder"), -1) {
			out = append(out, m[1])
		}
		return strings.Join(out, ", ")
	}
	white, black := rung("White belt", "top"), rung("Black belt", "top")
	stripe := rung("Red stripe", "1", "kind", "rank_stripe", "weave", "halves", "second", "#ff0000", "mark_count", "2", "mark_colour", "#00ff00", "mark_place", "tip")
	assert.Equal(t, "Black belt, Red stripe, White belt", rail(), "highest on top")
	form := h.page("/rungs/" + stripe)
	assert.Contains(t, form, `value="#00ff00"`)
	_, page := h.send("/rungs/"+white+"/move", "places", "2")
	assert.Equal(t, "White belt, Black belt, Red stripe", rail())
	h.undo(page)
	assert.Equal(t, "Black belt, Red stripe, White belt", rail())
	_, page = h.send("/rungs/"+black, "name", "Night belt", "kind", "belt", "weave", "core_line", "colour", "#000000", "second", "#ff0000", "mark_count", "0")
	assert.Contains(t, text(page), "Night belt")
	assert.Contains(t, text(h.undo(page)), "Black belt")
	_, page = h.send("/rungs/" + stripe + "/delete")
	assert.Equal(t, "Black belt, White belt", rail())
	h.undo(page)
	assert.Equal(t, "Black belt, Red stripe, White belt", rail())
}

func TestRequirementsAndTheSheet(t *testing.T) {
	h := newHouse(t).furnish()
	add := func(technique, amount string, more ...string) string {
		_, page := h.send("/requirements/new", append([]string{"rung", h.yellow, "section", h.section, "technique", technique, "amount", amount, "role", "performer", "weight", "1"}, more...)...)
		return page
	}
	page := add("Bent Reed", "2 a side", "must_pass", "1", "note", "slowly")
	assert.Regexp(t, "Bent Reed slowly must pass ● new.* 2 a side", text(page))
	assert.Contains(t, page, `<details id="add" class="card-plain" open>`, "the next line can be typed at once")
	add("Two Oars", "3 x 60 s, 30 s rest", "bonus", "1", "weight", "3")
	rows, err := h.s.Requirements(bg, h.yellow)
	require.NoError(t, err)
	require.Len(t, rows, 3)
	oars := rows[2]
	assert.Contains(t, h.page("/requirements/"+oars.ID), `value="3 × 60 s, 30 s rest"`)
	_, page = h.send("/requirements/"+oars.ID, "section", h.section, "technique", "Two Oars", "amount", "once", "role", "attacker", "weight", "2", "note", "")
	assert.Regexp(t, "Two Oars, attacker weight 2 ● new.* once", text(page))
	refused := h.do("POST", "/requirements/"+oars.ID, values("section", h.section, "technique", "", "amount", "0", "role", "attacker", "weight", "x").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "must be from 1 to 200", "is not a whole number"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, _ = h.send("/requirements/"+oars.ID+"/move", "places", "-2", "rung", h.yellow)
	sheet := text(h.page("/sheet/" + h.yellow + "?group=4"))
	assert.Contains(t, sheet, "3 lines ·")
	assert.Contains(t, sheet, "1 Two Oars, attacker")
	assert.Contains(t, sheet, "for 4 candidates")
	assert.Equal(t, http.StatusBadRequest, h.do("GET", "/sheet/"+h.yellow+"?group=9", "").Code)
	_, page = h.send("/requirements/"+oars.ID+"/delete", "rung", h.yellow)
	assert.NotContains(t, text(page), "Two Oars, attacker")
	assert.Contains(t, text(h.undo(page)), "Two Oars, attacker")
	used := text(h.page("/techniques/" + oars.TechniqueID))
	assert.Contains(t, used, "Used by Yellow")
	assert.Contains(t, used, "once · attacker")
}

func TestTechniques(t *testing.T) {
	h := newHouse(t).furnish()
	address, page := h.send("/techniques/new", "program", h.program, "name", "Mill Wheel", "kind", "lock", "term", "suisha", "aliases", "Wheel, Water wheel", "note", "answers a punch",
		"checkpoints", "one\r\ntwo\r\n\r\n", "faults", "too early -> wait\nstands in front", "cautions", "slowly", "surface_basics", "palm")
	id := last(address)
	assert.Contains(t, page, "never jerk")
	edit := h.page("/techniques/" + id + "/edit")
	for _, said := range []string{"one\ntwo", "too early → wait\nstands in front", `value="Wheel, Water wheel"`, `value="palm"`} {
		assert.Contains(t, edit, said)
	}
	for query, found := range map[string]bool{"text=wheel": true, "text=SUISHA": true, "text=water": true, "kind=lock": true, "kind=kick": false, "text=river": false, "text=%27%3B--": false} {
		assert.Equal(t, found, strings.Contains(h.page("/techniques?"+query), "/techniques/"+id), query)
	}
	refused := h.do("POST", "/techniques/"+id+"/edit", values("program", h.program, "name", "", "kind", "dance", "checkpoints", strings.Repeat("x\n", 50), "note", "keep me").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "is not a choice", "has 50 lines; up to 40 fit", "keep me"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, page = h.send("/techniques/"+id+"/edit", "program", h.program, "name", "Mill Race", "kind", "lock")
	assert.Contains(t, text(page), "Mill Race")
	assert.Contains(t, text(h.undo(page)), "Mill Wheel")
	w := h.do("POST", "/techniques/"+h.technique+"/delete", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, text(w.Body.String()), "1 requirement asks for it")
	_, page = h.send("/techniques/" + id + "/delete")
	assert.NotContains(t, page, "/techniques/"+id)
	assert.Contains(t, h.undo(page), "/techniques/"+id)
}

func TestStudents(t *testing.T) {
	h := newHouse(t).furnish()
	address, _ := h.send("/students/new", "name", "Eve Race", "stance", "southpaw", "birth_date", "2016-02-29", "guardian", "Imke Race", "height_cm", "131", "rung", h.white, "since", "2026-05-05")
	assert.Contains(t, address, "text=Eve+Race")
	id := regexp.MustCompile(`/students/([0-9a-f]{20})"`).FindStringSubmatch(h.page(address))[1]
	page := text(h.page("/students/" + id))
	for _, said := range []string{"10 years · southpaw stance", "Kenpo: White belt since Tue 5 May 2026", "131 cm", "Imke Race", "started here"} {
		assert.Contains(t, page, said)
	}
	_, edited := h.send("/students/"+id+"/edit", "name", "Eve Race-Lock", "stance", "southpaw", "limits", "left knee")
	assert.Contains(t, text(edited), "left knee")
	assert.NotContains(t, text(h.undo(edited)), "left knee")

	standings, err := h.s.Standings(bg, id)
	require.NoError(t, err)
	correct := "/enrolments/" + standings[0].EnrolmentID + "/correct"
	w := h.do("POST", correct, values("student", id, "rung", h.yellow, "on", "2026-06-01", "reason", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the rank is corrected")
	assert.Contains(t, w.Body.String(), `value="2026-06-01"`)
	_, page = h.send(correct, "student", id, "rung", h.yellow, "on", "2026-06-01", "reason", "came with a higher rank")
	assert.Contains(t, text(page), "correction: came with a higher rank")
	_, page = h.send("/enrolments/"+standings[0].EnrolmentID+"/end", "student", id)
	assert.Contains(t, text(page), "ended Tue 24 Nov 2026")
	w = h.do("POST", "/students/"+id+"/enrol", values("since", "2031-01-01", "rung", h.white, "program", h.program).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "lies in the future")
	_, page = h.send("/students/"+id+"/enrol", "rung", h.white, "since", "")
	assert.Contains(t, text(page), "correction: came back")
	_, page = h.send("/students/" + id + "/delete")
	assert.NotContains(t, page, id)
	assert.Contains(t, h.undo(page), id)
	assert.Equal(t, http.StatusBadRequest, h.do("GET", "/students?from=x", "").Code)
	assert.Contains(t, text(h.page("/find?q=eve")), "Eve Race student")
}

// TestFormsOfTwoClimbs: a student who climbs two ladders has each form twice; a mistake is
// told in the one it was made in, and every label points to its own field.
func TestFormsOfTwoClimbs(t *testing.T) {
	h := newHouse(t).furnish()
	h.send("/programs/new", "name", "Staff")
	programs, err := h.s.Programs(bg)
	require.NoError(t, err)
	second := programs[slices.IndexFunc(programs, func(p curriculum.Program) bool { return p.Name == "Staff" })].ID
	h.send("/rungs/new", "program", second, "name", "Plain staff", "kind", "belt", "weave", "plain", "colour", "#ffffff", "mark_count", "0", "position", "0")
	h.send("/rungs/new", "program", second, "name", "Banded staff", "kind", "belt", "weave", "plain", "colour", "#ffff00", "mark_count", "0", "position", "1")
	staff, err := h.s.Book(bg, second)
	require.NoError(t, err)
	require.Len(t, staff.Rungs, 2)
	h.send("/students/"+h.student+"/enrol", "program", second, "rung", staff.Rungs[0].ID)
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	require.Len(t, standings, 2)
	assert.NotContains(t, h.page("/students/"+h.student), `role="alert"`)
	ids := regexp.MustCompile(` id="([^"]*)"`)
	for _, s := range standings {
		for path, typed := range map[string][]string{"correct": {"reason", "so"}, "adapt": {"what", "so", "does", "excuse"}, "word": {"who", ""}, "merit": {"on", "so"}} {
			w := h.do("POST", "/enrolments/"+s.EnrolmentID+"/"+path, values(append(typed, "student", h.student)...).Encode())
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
	h := newHouse(t).furnish()
	form := []string{"program", h.program, "name", "Spring", "place", "Upper floor", "on", "2026-11-24", "marking", "category_points", "threshold", "7.5", "group_size", "2", "retest_days", "30", "rungs", h.yellow,
		"examiner", "Rosa Castell", "examiner", "Dora Duval", "examiner", "Max Moor", "chief", "2"}
	address, page := h.send("/gradings/new", form...)
	id := last(address)
	assert.Contains(t, text(page), "category points, a mark for each section · threshold 7.5 points · majority of 3 · Rosa Castell , Dora Duval (chief), Max Moor")
	edit := h.page("/gradings/" + id + "/edit")
	assert.Contains(t, edit, `value="7.5"`)
	assert.Contains(t, edit, `value="Max Moor"`)
	eligible, err := h.s.Eligible(bg, id)
	require.NoError(t, err)
	require.Len(t, eligible, 2)
	_, page = h.send("/gradings/"+id+"/candidates", "candidates", eligible[0].EnrolmentID, "candidates", eligible[1].EnrolmentID)
	assert.Contains(t, text(page), "Group 1")
	w := h.do("POST", "/gradings/"+id+"/candidates", "")
	assert.Contains(t, w.Body.String(), "nobody is chosen")
	_, page = h.send("/gradings/"+id+"/edit", append([]string{"threshold", "8"}, form...)...)
	assert.Contains(t, text(page), "threshold 8 points")
	w = h.do("GET", "/review/"+id, "")
	assert.Contains(t, text(w.Body.String()), "There is nothing to review yet")
	_, page = h.send("/gradings/" + id + "/begin")
	assert.Contains(t, text(page), "Rosa Castell · 0 of 2 marks")
	w = h.do("POST", "/gradings/"+id+"/begin", "")
	assert.Equal(t, http.StatusConflict, w.Code)

	g, err := h.s.Grading(bg, id)
	require.NoError(t, err)
	all, err := h.s.Candidates(bg, id)
	require.NoError(t, err)
	for i, e := range g.Examiners {
		table, err := h.s.ScoringTable(bg, e.ID, all[0].GroupID)
		require.NoError(t, err)
		for n, c := range all {
			value := []string{"8.5", "7.5"}[n]
			if i == 2 {
				value = "10"
			}
			w := h.do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/marks", fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"steady","supersedes":""}]}`, store.NewID(), c.ID, e.ID, table.Items[0].ID, value))
			require.Equal(t, http.StatusOK, w.Code, w.Body)
		}
		if i == 1 {
			fault := fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"kind":"ending","points":0,"text":"struck after stop","supersedes":""}]}`, store.NewID(), all[0].ID, e.ID)
			require.Equal(t, http.StatusOK, h.do("POST", "/scoring/"+e.ID+"/"+all[0].GroupID+"/faults", fault).Code)
		}
		_, page := h.send("/scoring/"+e.ID+"/"+all[0].GroupID+"/sign", "request", "sign"+e.ID)
		assert.Contains(t, text(page), "Signed ✓")
	}
	review := text(h.page("/review/" + id))
	for _, said := range []string{"threshold 8 points", "◆ promote", "◇ retest", "3 of 3 pass", "1 of 3 pass", "closest: Rosa Castell, 0.5 clear", "the panel is split", "struck after stop", "The chief confirms: ends the test", "steady", "Smallest change"} {
		assert.Contains(t, review, said)
	}
	_, rows, err := h.s.Review(bg, id)
	require.NoError(t, err)
	f := rows[0].Faults[0]
	_, page = h.send("/review/"+id+"/fault", "candidate", f.CandidateID, "examiner", f.ExaminerID, "fault", f.ID, "text", f.Text, "kind", "ending_confirmed")
	assert.Contains(t, text(page), "a fault ended the test")
	_, page = h.send("/review/"+id+"/decide", "candidate", rows[0].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, text(page), "Dora Duval · from Thu 24 Dec 2026")
	w = h.do("POST", "/review/"+id+"/decide", values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is empty; write a name", "a decision is somebody's")
	w = h.do("POST", "/review/"+id+"/decide", values("candidate", rows[1].ID, "outcome", "promote", "decided_by", "Dora Duval").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "differs from what the marks propose")
	_, page = h.send("/review/"+id+"/decide", "candidate", rows[1].ID, "outcome", "retest", "decided_by", "Dora Duval")
	assert.Contains(t, text(page), "Announce 2 decided")
	_, page = h.send("/review/"+id+"/undo", "candidate", rows[1].ID)
	assert.Contains(t, text(page), "Announce 1 decided")
	_, page = h.send("/review/"+id+"/announce", "candidate", rows[0].ID)
	assert.Contains(t, text(page), "announced · from Thu 24 Dec 2026")
}

func TestEmptyScreensOfferTheFirstStep(t *testing.T) {
	h := newHouse(t)
	for path, said := range map[string]string{"/ladder": "Add the first program", "/students": "Add a student", "/techniques": "No technique is on record", "/gradings": "First the ladder needs two rungs", "/find": "Type part of a name", "/find?q=zz": "has this in its name"} {
		assert.Contains(t, text(h.page(path)), said, path)
	}
	assert.Contains(t, text(h.do("GET", "/no/such", "").Body.String()), "This is not on record")
	assert.Equal(t, http.StatusMethodNotAllowed, h.do("POST", "/ladder", "").Code)
}

func TestPlumbAndWords(t *testing.T) {
	h := newHouse(t).furnish()
	_, err := h.s.Sign(bg, me, h.examiner, h.group, true)
	require.NoError(t, err)
	page := h.page("/review/" + h.grading)
	assert.Contains(t, page, `class="dot incomplete"`)
	assert.Contains(t, text(page), "seen by nobody, to be called again")
	assert.Contains(t, text(page), "Call it again")
	for o, words := range outcomeWords {
		assert.NotEmpty(t, words, o)
	}
	assert.Equal(t, []string{"1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "112th"}, []string{ordinal(1), ordinal(2), ordinal(3), ordinal(4), ordinal(11), ordinal(12), ordinal(13), ordinal(21), ordinal(112)})
	points := scaleOf(scoring.CategoryPoints(0).Scale)
	assert.True(t, points.Halves)
	assert.Len(t, points.Marks, 11)
	movement := scaleOf(scoring.MovementScale().Scale)
	assert.False(t, movement.Halves)
	assert.Equal(t, scoringMark{1, "not right yet", true}, movement.Marks[1])
}

func TestBoundsOnRequests(t *testing.T) {
	h := newHouse(t).furnish()
	w := h.do("POST", "/students/new", "name="+url.QueryEscape(strings.Repeat("x", maxBody)))
	assert.Equal(t, http.StatusRequestEntityTooLarge, w.Code)
	assert.Contains(t, text(w.Body.String()), "Up to 8 MiB")
	w = h.do("POST", "/scoring/"+h.examiner+"/"+h.group+"/marks", `{"entries":[{"note":"`+strings.Repeat("x", maxBody)+`"}]}`)
	assert.Equal(t, http.StatusRequestEntityTooLarge, w.Code)
	s := NewServer(h, slog.New(slog.DiscardHandler))
	assert.Positive(t, s.ReadHeaderTimeout)
	assert.Positive(t, s.ReadTimeout)
	assert.Zero(t, s.WriteTimeout, "streams will come")
}

func TestMovesAreShownAndFrozen(t *testing.T) {
	h := newHouse(t).furnish()
	for _, name := range []string{"Low block", "Side kick"} {
		h.send("/techniques/new", "program", h.program, "name", name, "kind", "block")
	}
	address, page := h.send("/techniques/new", "program", h.program, "name", "Combination 1", "kind", "combination", "note", "slide back lead low block / rear side kick high!")
	assert.Contains(t, page, `<li class=""><b>lead low block</b><span>slide back</span></li><li class="even"><b>rear side kick!</b><span>high</span></li>`)
	plain := h.page("/techniques/" + h.technique)
	assert.NotContains(t, plain, `aria-label="Moves"`, "a remark in plain words stays one")
	h.send("/requirements/new", "rung", h.yellow, "section", h.section, "technique", "Combination 1", "amount", "2 a side", "role", "performer", "weight", "1")
	grading, _ := h.send("/gradings/new", "program", h.program, "on", "2026-11-24", "marking", "movement_scale", "group_size", "2", "retest_days", "30", "rungs", h.yellow, "examiner", "Rosa Castell")
	eligible, err := h.s.Eligible(bg, last(grading))
	require.NoError(t, err)
	h.send("/gradings/"+last(grading)+"/candidates", "candidates", eligible[0].EnrolmentID)
	_, page = h.send("/gradings/" + last(grading) + "/begin")
	table := regexp.MustCompile(`/scoring/[0-9a-f]{20}/[0-9a-f]{20}`).FindString(page)
	state := func() string { return h.do("GET", table+"/state", "").Body.String() }
	moves := `"moves":[{"what":"lead low block","how":"slide back","count":1,"step":1,"readings":{"orthodox":{"what":"left low block","how":"slide back"},"southpaw":{"what":"right low block","how":"slide back"}}},{"what":"rear side kick!","how":"high","count":2,"step":1,"readings":{"orthodox":{"what":"right side kick!","how":"high"},"southpaw":{"what":"left side kick!","how":"high"}}}]`
	assert.Contains(t, state(), moves)
	h.send("/techniques/"+last(address)+"/edit", "program", h.program, "name", "Combination 1", "kind", "combination", "note", "rear side kick")
	assert.Contains(t, state(), moves, "the sheet keeps the moves it was begun with")
}
