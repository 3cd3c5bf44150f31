package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/demo"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
)

// mill is the application with the demo's curricula, without people.
func mill(t *testing.T) (*house, []demo.Program) {
	h := houseOf(t, &milled)
	school := demo.At(h.s.Today())
	h.program = school.Programs[0].Program.ID
	return h, school.Programs
}

var milled = furnished{fill: func(t testing.TB, s *store.Store) {
	for _, p := range demo.At(s.Today()).Programs {
		_, err := s.SaveCurriculum(bg, me, p.Curriculum)
		require.NoError(t, err)
	}
}}

func (h *house) book() *curriculum.Book {
	b, err := h.s.Book(bg, h.program)
	require.NoError(h.t, err)
	return b
}

// same compares as JSON: nothing and an empty list are one.
func same(t *testing.T, want, got any, what string) {
	t.Helper()
	x, err := json.Marshal(want)
	require.NoError(t, err)
	y, err := json.Marshal(got)
	require.NoError(t, err)
	assert.JSONEq(t, string(x), string(y), what)
}

// TestFormsLoseNothing: every technique, requirement, rung and program of the demo, shown in
// its form and saved as it stands, is the same afterwards.
func TestFormsLoseNothing(t *testing.T) {
	golden.Alone(t)
	h, programs := mill(t)
	for _, p := range programs {
		h.program = p.Program.ID
		b := h.book()
		for i := range b.Techniques {
			x := b.Techniques[i]
			got, problems := readTechnique(techniqueValues(&x, b), b)
			require.Empty(t, problems, x.Name)
			got.ID = x.ID
			same(t, x, got, x.Name)
		}
		for _, q := range b.Requirements {
			v := requirementValues(q, *b.Technique(q.TechniqueID), b)
			v.Set("whole", "1")
			got, problems := readRequirement(v, curriculum.Requirement{ID: q.ID, RungID: q.RungID, TechniqueID: q.TechniqueID}, b)
			require.Empty(t, problems)
			same(t, q, got, b.Technique(q.TechniqueID).Name)
		}
		d := curriculum.ProgramDetails{Marking: b.Program.Marking, Policy: b.Program.Policy}
		require.Empty(t, readDetails(detailValues(b.Program.ProgramDetails), &d))
		same(t, b.Program.ProgramDetails, d, p.Program.Name)
		for _, g := range b.Rungs {
			form := fields(h.page("/rungs/" + g.ID))
			_, page := h.send("/rungs/"+g.ID, flat(form)...)
			assert.Contains(t, text(page), "Changed "+g.Name)
			same(t, g, *h.book().Rung(g.ID), g.Name)
		}
	}
}

// says expects a page's main part to say something, and shows only that part where it does not.
func says(t *testing.T, page, said string, what ...any) {
	t.Helper()
	_, body, found := strings.Cut(page, "</header>")
	if !found {
		body = page
	}
	body, _, _ = strings.Cut(body, "<dialog")
	body = text(body)
	assert.True(t, strings.Contains(body, said), "%v: %q is not said by: %s", what, said, body[:min(len(body), 1500)])
}

var (
	inputs  = regexp.MustCompile(`<input[^>]*>`)
	areas   = regexp.MustCompile(`(?s)<textarea[^>]* name="([^"]+)"[^>]*>(.*?)</textarea>`)
	selects = regexp.MustCompile(`(?s)<select[^>]* name="([^"]+)"[^>]*>(.*?)</select>`)
	chosenO = regexp.MustCompile(`<option value="([^"]*)" selected`)
	attr    = func(name string) *regexp.Regexp { return regexp.MustCompile(` ` + name + `="([^"]*)"`) }
)

// fields are what a browser would send of a page's largest form.
func fields(page string) url.Values {
	v := url.Values{}
	_, page, _ = strings.Cut(page, `class="sheet-form"`)
	page, _, _ = strings.Cut(page, "</form>")
	plain := strings.NewReplacer("&#34;", `"`, "&#39;", "'", "&amp;", "&", "&lt;", "<", "&gt;", ">", "&#43;", "+").Replace
	for _, in := range inputs.FindAllString(page, -1) {
		name := attr("name").FindStringSubmatch(in)
		value := attr("value").FindStringSubmatch(in)
		if name == nil || name[1] == "request" || strings.Contains(in, `type="checkbox"`) && !strings.Contains(in, " checked") {
			continue
		}
		if value == nil {
			value = []string{"", ""}
		}
		v.Add(name[1], plain(value[1]))
	}
	for _, a := range areas.FindAllStringSubmatch(page, -1) {
		v.Add(a[1], plain(a[2]))
	}
	for _, s := range selects.FindAllStringSubmatch(page, -1) {
		if o := chosenO.FindStringSubmatch(s[2]); o != nil {
			v.Add(s[1], plain(o[1]))
		}
	}
	return v
}

func flat(v url.Values) (pairs []string) {
	for name, values := range v {
		for _, x := range values {
			pairs = append(pairs, name, x)
		}
	}
	return pairs
}

// TestARungForATrackAndAStance: new, grown and carried lines with their reasons, what a track
// leaves out, and the moves named for a stance.
func TestARungForATrackAndAStance(t *testing.T) {
	h, _ := mill(t)
	b := h.book()
	orange := b.RungNamed("Orange belt").ID
	page := text(h.page("/ladder/" + orange))
	for _, said := range []string{"◐ grown", "● new", "○ carried", "Grown: stage 3, after stage 2 at Orange stripe.", "As at Orange stripe.", "part 3 of 4", "Draw again", "gloves, shin guards, gum shield", "contact touch"} {
		assert.Contains(t, page, said)
	}
	cubs := b.Program.Tracks[0].ID
	address := "/ladder/" + orange + "?track=" + cubs
	young := h.page(address)
	assert.Contains(t, text(young), "Asked here, but no line of its own", "what Cubs leave out is told")
	says(t, young, "cubs leave it out.")
	assert.NotEqual(t, page, text(young))
	says(t, h.page("/ladder/"+b.RungNamed("Green belt").ID), "Not drawn: ")
	left, right := text(h.page(address+"&stance=orthodox")), text(h.page(address+"&stance=southpaw"))
	assert.NotEqual(t, left, right)
	assert.Contains(t, h.page(address+"&stance=southpaw"), `stance=southpaw&amp;track=`+cubs+`" aria-current="true"`)
	seven := b.Named("Combination 7")
	says(t, h.page("/techniques/"+seven.ID+"?stance=orthodox"), "left low block")
	says(t, h.page("/techniques/"+seven.ID+"?stance=southpaw"), "right low block")
	assert.Equal(t, http.StatusOK, h.do("GET", "/ladder/"+orange+"?track=none&stance=both&draw=-3", "").Code, "what an address says wrongly is not said")

	sheet := text(h.page("/sheet/" + orange + "?track=" + cubs))
	assert.Contains(t, sheet, "Cubs ·")
	beyond := text(h.page("/difference/" + orange + "?track=" + cubs))
	assert.Contains(t, beyond, "What Orange belt asks beyond Orange stripe")
	assert.Contains(t, beyond, "must pass: yes, was no")
	says(t, h.page("/difference/"+orange+"?beyond="+b.RungNamed("White belt").ID), "beyond White belt")
	says(t, h.page("/difference/"+b.Rungs[0].ID), "is the lowest rung")
}

// TestATechniqueGrows: both roles, the staircase, what each part adds, branches, four
// pairings of stances.
func TestATechniqueGrows(t *testing.T) {
	h, _ := mill(t)
	wheel := h.book().Named("Mill Wheel")
	page := h.page("/techniques/" + wheel.ID)
	for _, said := range []string{"The attack", "The defence", "answers the punch", "How it grows", "added here", "Extension", "ends differently", "light touch at most", "holds: right check"} {
		says(t, page, said)
	}
	assert.Contains(t, page, `class="stairs"`)
	seen := map[string]bool{}
	for _, pair := range []string{"stance=orthodox&attacker=orthodox", "stance=orthodox&attacker=southpaw", "stance=southpaw&attacker=orthodox", "stance=southpaw&attacker=southpaw"} {
		whole := h.page("/techniques/" + wheel.ID + "?" + pair)
		_, moves, _ := strings.Cut(whole, "<h2>The attack</h2>")
		seen[text(moves)] = true
	}
	assert.Len(t, seen, 4, "every pairing is shown differently")
	h.send("/techniques/"+wheel.ID+"/edit", flat(fields(h.page("/techniques/"+wheel.ID+"/edit")))...)
	same(t, *wheel, *h.book().Named("Mill Wheel"), "saved as it stands, nothing changes")

	form := fields(h.page("/techniques/" + wheel.ID + "/edit"))
	for field, x := range map[string][2]string{
		"stage_1_steps": {"left plam strike high", "step 1, column 6: &#34;plam strike&#34; is not in the catalogue; near it are"}, "builds_on": {"Mill Weel", "is no technique of this program; near it are"},
		"branches": {"too far", "write what is seen and how it goes on"}, "clips": {"One | a.mp4 | sideways", "is not understood"}, "terms": {"Korean", "write the language and the term"},
		"attack": {"a nasty look", "is no attack, side, level, motion or origin"}, "stage_2_rung": {"", "a later part arrives on one"}, "call": {"4444", "must be from 0 to 999"},
	} {
		v := url.Values{}
		for k, list := range form {
			v[k] = list
		}
		v.Set(field, x[0])
		w := h.do("POST", "/techniques/"+wheel.ID+"/edit", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), x[1], field)
		assert.Contains(t, w.Body.String(), x[0], "the input is kept")
	}
	same(t, wheel, h.book().Named("Mill Wheel"), "nothing was half-written")
	circle := fields(h.page("/techniques/" + h.book().Named("Front kick").ID + "/edit"))
	jump := ""
	for _, x := range h.book().Techniques {
		if len(x.BuildsOn) > 0 && x.BuildsOn[0] == h.book().Named("Front kick").ID {
			jump = x.Name
		}
	}
	require.NotEmpty(t, jump)
	circle.Set("builds_on", jump)
	w := h.do("POST", "/techniques/"+h.book().Named("Front kick").ID+"/edit", circle.Encode())
	says(t, w.Body.String(), "goes round in a circle")
}

func TestMovesAreReadAsOneTypes(t *testing.T) {
	h, _ := mill(t)
	ask := func(body ...string) string {
		w := h.do("POST", "/notation", values(append(body, "program", h.program)...).Encode())
		require.Equal(t, http.StatusOK, w.Code)
		return w.Body.String()
	}
	assert.Contains(t, ask("text", "lead jab, rear corss"), `"column":16,"problem":"\"corss\" is not in the catalogue; near it are Cross`)
	assert.Contains(t, ask("text", "lead jab +"), `"column":11,"problem":"a move is missing before the end"`)
	assert.Contains(t, ask("text", "lead jab; the punch\nIn plain words.\n", "steps", "1"), `{"what":"In plain words.","count":1,"step":1,"sentence":true}`)
	assert.Contains(t, ask("text", "lead jba, rear cross."), `"doubts":[{"column":1,"reason":"\"lead jba\" is read as words of a sentence; if it is the move lead Jab`)
	assert.Contains(t, ask("text", "from ready: lead jab"), `"column":13,"problem":"nobody leads in Ready stance`)
	assert.Contains(t, ask("text", "lead jab high"), `"strip":[{"what":"lead jab","how":"high","count":1,"step":1}]`)
	assert.Contains(t, ask("text", "999"), "no technique has the call number 999")
	assert.Contains(t, ask("text", strings.TrimSuffix(strings.Repeat("lead jab, ", 5000), ", ")), "this is step 1001; a line has at most 1000")
	assert.Less(t, len(ask("text", strings.Repeat("x\n", 5000))), 20_000, "what a field may ask is bounded")
	assert.Contains(t, ask("text", strings.Repeat("jab ", 50_000)), "no line of moves is that long")
	names := h.do("GET", "/notation/names?program="+h.program, "").Body.String()
	assert.Contains(t, names, `"Front kick"`)
	assert.Contains(t, names, `"cross step"`)
	assert.Equal(t, http.StatusNotFound, h.do("GET", "/notation/names?program=none", "").Code)
}

func TestABinderPage(t *testing.T) {
	h, _ := mill(t)
	green := h.book().RungNamed("Green belt").ID
	before := len(h.book().Asked(green))
	page := "Kicks\nFront kick, 12 a side, must\nMillpond kick, on pads\n\nCombinations\nCombination 77: lead jab, rear cross / rear front kick mid"
	read := h.do("POST", "/binder/"+green+"/read", values("page", page+"\nJab, weight lots").Encode()).Body.String()
	assert.Contains(t, read, `"call":"Millpond kick","amount":"5 a side","traits":"on pads","new":"kick"`)
	assert.Contains(t, read, `"column":6,"problem":"after weight stands`)
	w := h.do("POST", "/binder/"+green, values("page", page+"\nJab, weight lots").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	says(t, w.Body.String(), `line 7, column 6: after weight stands`)
	assert.Contains(t, w.Body.String(), "Millpond kick, on pads", "the page is kept")
	assert.Len(t, h.book().Asked(green), before, "all or nothing")
	_, rung := h.send("/binder/"+green, "page", page)
	says(t, rung, "Added 3 requirements to Green belt")
	assert.Len(t, h.book().Asked(green), before+3)
	require.NotNil(t, h.book().Named("Combination 77"))
	h.undo(rung)
	assert.Len(t, h.book().Asked(green), before)
	assert.Nil(t, h.book().Named("Millpond kick"), "what was made on the way goes too")
	w = h.do("POST", "/binder/"+green, "page=+")
	says(t, w.Body.String(), "is empty; write a heading such as Kicks")
}

func TestTheCheckIsSilencedWithAReason(t *testing.T) {
	h, _ := mill(t)
	page := h.page("/check")
	says(t, page, "2 holes in the ladder")
	key := regexp.MustCompile(`name="finding" value="(attack_unanswered[^"]+)"`).FindStringSubmatch(page)[1]
	w := h.do("POST", "/check/silence", values("program", h.program, "finding", key, "reason", " ").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	says(t, w.Body.String(), "say why this is as it should be")
	_, page = h.send("/check/silence", "program", h.program, "finding", key, "reason", "chokes are for the black belts' seminar")
	says(t, page, "1 hole in the ladder")
	says(t, page, "As it should be: chokes are for the black belts&#39; seminar")
	says(t, h.undo(page), "2 holes")
	h.send("/check/silence", "program", h.program, "finding", key, "reason", "so")
	_, page = h.send("/check/silence", "program", h.program, "finding", key, "take", "1")
	says(t, page, "2 holes in the ladder")
	assert.Equal(t, http.StatusConflict, h.do("POST", "/check/silence", values("program", h.program, "finding", "nothing", "reason", "x").Encode()).Code)
	coverage := h.page("/coverage")
	says(t, coverage, "1 attack without an answer")
	assert.Contains(t, coverage, "/techniques/"+h.book().Named("Mill Wheel").ID)
	assert.Contains(t, h.page("/load"), "36 min")
}

func TestVersionsAndWhoClimbsByThem(t *testing.T) {
	h := newHouse(t).furnish()
	says(t, h.page("/versions"), "Nothing is published yet")
	_, page := h.send("/versions/publish", "program", h.program, "note", "the first")
	says(t, page, "Version 1 is the draft")
	assert.Equal(t, http.StatusConflict, h.do("POST", "/versions/publish", values("program", h.program).Encode()).Code, "nothing has changed")
	_, _ = h.send("/requirements/"+h.requirement, flat(with(requirementValues(h.book().Asked(h.yellow)[0], *h.book().Technique(h.technique), h.book()), "amount", "9"))...)
	says(t, h.page("/versions"), "The draft has changed")
	says(t, h.page("/difference"), "how much: 9 times, was 5 times")
	_, page = h.send("/versions/publish", "program", h.program, "note", "nine")
	assert.Regexp(t, `2 Tue 24 Nov 2026 owner nine 0 .* 1 Tue 24 Nov 2026 owner the first 2`, text(page))
	versions, _, err := h.s.Versions(bg, h.program)
	require.NoError(t, err)
	_, page = h.send("/versions/move", "from", versions[1].ID, "to", versions[0].ID)
	says(t, page, "Moved 2 students to version 2")
	says(t, h.page("/students/"+h.student), "version 2")
	h.undo(page)
	says(t, h.page("/students/"+h.student), "version 1")
	assert.Equal(t, http.StatusNotFound, h.do("GET", "/difference?from=none", "").Code)
	w := h.do("POST", "/versions/move", values("from", versions[1].ID).Encode())
	says(t, w.Body.String(), "choose the version they go on by")
}

func with(v url.Values, field, value string) url.Values {
	v.Set(field, value)
	v.Set("whole", "1")
	return v
}

func TestTracksAndWordsOfAProgram(t *testing.T) {
	h, _ := mill(t)
	form := detailValues(h.book().Program.ProgramDetails)
	path := "/programs/" + h.program + "/details"
	w := h.do("POST", path, with(form, "track_0_name", "").Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	says(t, w.Body.String(), "Cubs cannot be taken out")
	form = detailValues(h.book().Program.ProgramDetails)
	form.Set("track_3_name", "Seniors")
	form.Set("track_3_from", "60")
	form.Set("commands", "Mill = begin\nStill = stop")
	_, page := h.send(path, flat(form)...)
	assert.Contains(t, page, `value="Seniors"`)
	require.Len(t, h.book().Program.Tracks, 4)
	assert.NotEmpty(t, h.book().Program.Tracks[3].ID)
	says(t, h.page("/glossary"), "Mill begin")
	h.undo(page)
	assert.Len(t, h.book().Program.Tracks, 3)
	for field, x := range map[string][2]string{"track_1_from": {"x", "is not a whole number"}, "track_1_to": {"2", "the lower one first"}, "commands": {"hajime", "write the word and its meaning"}, "group_0_draw": {"0", "from 1 to 50"}, "threshold": {"many", "write points such as"}} {
		w := h.do("POST", path, with(detailValues(h.book().Program.ProgramDetails), field, x[0]).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		says(t, w.Body.String(), x[1])
	}
}

func TestAStudentsAdaptationTrackAndMerit(t *testing.T) {
	h := newHouse(t).furnish()
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	h.enrolment = standings[0].EnrolmentID
	form := []string{"student", h.student, "program", h.program, "does", "excuse", "what", "Kick " + nasty, "reason", "hip", "from", "2026-11-01"}
	_, page := h.send("/enrolments/"+h.enrolment+"/adapt", form...)
	says(t, page, "excused from Kick")
	mine := h.page("/sheet/" + h.yellow + "?student=" + h.student)
	says(t, mine, "for Ben Sluice")
	says(t, mine, "the draft · 1 adaptation")
	says(t, mine, "Excused: hip")
	assert.Equal(t, http.StatusNotFound, h.do("GET", "/sheet/"+h.yellow+"?student=nobody", "").Code)
	end := regexp.MustCompile(`/adaptations/[0-9a-f]+/end`).FindString(page)
	_, page = h.send(end, "student", h.student)
	assert.NotContains(t, page, end)
	assert.Contains(t, h.undo(page), end)
	for field, x := range map[string][2]string{"what": {"Nothing known", "is no technique of this program"}, "reason": {"", "say why, it stands on the sheet"}, "to": {"2026-10-01", "lies before the first day"}, "amount": {"lots", "not an amount"}} {
		v := values(form...)
		v.Set(field, x[0])
		w := h.do("POST", "/enrolments/"+h.enrolment+"/adapt", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		says(t, w.Body.String(), x[1], field)
	}
	h.send("/programs/"+h.program+"/details", "track_0_name", "Cubs", "track_0_to", "6", "track_1_name", "Adults", "track_1_from", "7")
	b := h.book()
	_, page = h.send("/enrolments/"+h.enrolment+"/track", "student", h.student, "track", b.Program.Tracks[0].ID)
	says(t, page, "Set the track of")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("POST", "/enrolments/"+h.enrolment+"/track", "track=none&student="+h.student).Code)
	w := h.do("POST", "/enrolments/"+h.enrolment+"/merit", "reason=x&student="+h.student)
	assert.Equal(t, http.StatusConflict, w.Code)
	says(t, w.Body.String(), "is not provisional")
}

// upload posts a file as a browser does.
func (h *house) upload(path, file string, pairs ...string) *httptest.ResponseRecorder {
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	for i := 0; i+1 < len(pairs); i += 2 {
		w.WriteField(pairs[i], pairs[i+1])
	}
	part, err := w.CreateFormFile("file", "file")
	require.NoError(h.t, err)
	fmt.Fprint(part, file)
	w.Close()
	r := httptest.NewRequest("POST", path, &body)
	r.Header.Set("Content-Type", w.FormDataContentType())
	out := httptest.NewRecorder()
	h.ServeHTTP(out, r)
	return out
}

// TestCurriculaAsFiles: what is saved can be read in here and elsewhere, is the same again,
// and nothing of a broken file is kept.
func TestCurriculaAsFiles(t *testing.T) {
	h, _ := mill(t)
	saved := h.do("GET", "/files/curriculum.json?program="+h.program, "")
	assert.Contains(t, saved.Header().Get("Content-Disposition"), "Kenpo%20curriculum.json")
	file := saved.Body.String()
	other := newHouse(t)
	w := other.upload("/files/curriculum", file)
	assert.Equal(t, http.StatusOK, w.Code)
	says(t, w.Body.String(), "It is a program that is not here yet. Its ladder check has 2 open findings.")
	programs, err := other.s.Programs(bg)
	require.NoError(t, err)
	assert.Empty(t, programs, "a look stores nothing")
	_, page := other.send("/files/curriculum", "text", file, "keep", "1")
	says(t, page, "Added the program Kenpo")
	assert.Equal(t, file, other.do("GET", "/files/curriculum.json", "").Body.String(), "the same to the letter")

	changed := strings.Replace(file, `"reps": 10`, `"reps": 11`, 1)
	says(t, h.upload("/files/curriculum", changed).Body.String(), "how much: 11 a side, was 10 a side")
	_, page = h.send("/files/curriculum", "text", changed, "keep", "1")
	says(t, page, "Read in the curriculum of Kenpo")
	h.undo(page)
	assert.Equal(t, file, h.do("GET", "/files/curriculum.json?program="+h.program, "").Body.String())

	kick := h.book().Named("Front kick")
	for said, broken := range map[string]string{
		"unexpected EOF":                                 file[:len(file)/2],
		"is not a field of this format":                  strings.Replace(file, `"sections"`, `"chapters"`, 1),
		"is no rung of this ladder":                      strings.Replace(file, `"rung": "`+h.book().RungNamed("Black belt").ID, `"rung": "gone`, 1),
		"stands twice":                                   strings.Replace(file, h.book().Named("Jab").ID, kick.ID, 1),
		"a curriculum&#39;s file says":                   `{"format":"other","version":1}`,
		"&#34;gone&#34; is no technique of this program": strings.Replace(file, `"builds_on": [`, `"builds_on": ["gone",`, 1),
		"is not a choice; it must be one of":             strings.Replace(file, `"kind": "belt"`, `"kind": "dance"`, 1),
		"is no kind of technique":                        strings.Replace(file, `"kind": "kick"`, `"kind": "dance"`, 1),
		"is not in the catalogue":                        strings.Replace(file, `"moves": "drop step`, `"moves": "drop stumble`, 1),
	} {
		w := h.upload("/files/curriculum", broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, said)
		says(t, w.Body.String(), said)
		assert.Contains(t, w.Body.String(), "$", "a place is named")
	}
	assert.Equal(t, file, h.do("GET", "/files/curriculum.json?program="+h.program, "").Body.String(), "nothing was half-imported")
}

func TestRequirementsAsATable(t *testing.T) {
	h, _ := mill(t)
	csv := h.do("GET", "/files/requirements.csv?program="+h.program, "").Body.String()
	n := len(h.book().Requirements)
	path := "/files/requirements?program=" + h.program
	w := h.upload(path, csv)
	says(t, w.Body.String(), fmt.Sprintf("0 lines added, 0 changed, %d as they are", n))
	edited := "\xEF\xBB\xBFrung;technique;amount\r\nGreen belt;Jab;33 a side\r\nGreen belt;Front kick;lots\r\nMauve belt;Jab;5\r\n"
	w = h.upload(path, edited)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	for _, said := range []string{"1 line added", "2 rows with something to correct", "3 Green belt · Front kick amount : not an amount", "is no rung of this ladder; there are"} {
		says(t, w.Body.String(), said)
	}
	assert.Len(t, h.book().Requirements, n)
	_, page := h.send(path, "text", edited, "keep", "1")
	says(t, page, "Read in 1 requirement of Kenpo")
	assert.Len(t, h.book().Requirements, n+1)
	h.undo(page)
	assert.Len(t, h.book().Requirements, n)
	w = h.upload(path, "technique,rung,amount\nJab,Green belt,7\n", "only", "1")
	says(t, w.Body.String(), "Taken out, because the file leaves them out")
	w = h.do("POST", path, values("text", edited, "keep", "1", "only", "1").Encode())
	says(t, w.Body.String(), "can only be taken out when every row can be read")
	for _, broken := range []string{"", "Gr\xfcn,1\n", "a,b\n1,2\n", "technique,technique\n", "\x00\x01"} {
		w := h.upload(path, broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%q", broken)
		says(t, w.Body.String(), "this is not a requirements")
	}
}

func TestGlossaryAndBooklet(t *testing.T) {
	h, programs := mill(t)
	karate := "?program=" + programs[1].Program.ID
	page := text(h.page("/glossary" + karate))
	for _, said := range []string{"Snap front kick mae geri 前蹴り", "hajime begin", "stepping punch"} {
		assert.Contains(t, page, said)
	}
	whole := h.page("/booklet?program=" + h.program)
	assert.Equal(t, len(h.book().Rungs), strings.Count(whole, `class="rung-part"`))
	says(t, whole, "drawn at each grading")
	says(t, whole, "⚠")
	one := text(h.page("/booklet/" + h.book().RungNamed("Orange belt").ID + "?track=" + h.book().Program.Tracks[0].ID))
	assert.Contains(t, one, "Kenpo · Cubs")
}

// TestTheTableSaysHowALineIsDone: manner, what counts, accepted answers, and what one
// candidate does differently.
func TestTheTableSaysHowALineIsDone(t *testing.T) {
	h := newHouse(t).furnish()
	h.send("/binder/"+h.yellow, "page", "Kicks\nPond kick, 4 a side, slowly, level mid\nFitness\nSit-ups, 60 s, marks 18=2 26=3\nKnowledge\nThree rules, once")
	rules := h.book().Named("Three rules")
	h.send("/techniques/"+rules.ID+"/edit", "program", h.program, "name", "Three rules", "kind", "knowledge", "answers", "Listen, look, let go")
	standings, err := h.s.Standings(bg, h.student)
	require.NoError(t, err)
	h.send("/enrolments/"+standings[0].EnrolmentID+"/adapt", "student", h.student, "does", "change", "what", "Pond kick", "amount", "2 a side", "reason", "hip")
	grading, _ := h.send("/gradings/new", "program", h.program, "on", "2026-11-24", "marking", "movement_scale", "group_size", "3", "retest_days", "30", "rungs", h.yellow, "examiner", "Rosa Castell")
	eligible, err := h.s.Eligible(bg, last(grading))
	require.NoError(t, err)
	var all []string
	for _, e := range eligible {
		all = append(all, "candidates", e.EnrolmentID)
	}
	h.send("/gradings/"+last(grading)+"/candidates", all...)
	_, page := h.send("/gradings/" + last(grading) + "/begin")
	says(t, page, "the draft, a sheet of their own")
	table := regexp.MustCompile(`/scoring/[0-9a-f]{20}/[0-9a-f]{20}`).FindString(page)
	state := h.do("GET", table+"/state", "").Body.String()
	for _, said := range []string{`"manner":"slowly"`, `"standard":["at least mid"]`, `"standard":["mark from 18: 2, from 26: 3"]`, `"answers":["Listen, look, let go"]`, `adapted: 2 a side instead of 4 a side: hip`} {
		assert.Contains(t, state, said)
	}
	sheet := h.page("/sheet/" + h.yellow)
	says(t, sheet, "at least mid")
	says(t, sheet, "mark from 18: 2, from 26: 3")
	says(t, sheet, "asks for it.")
}

// TestALineMovesPastAnother: lines that another line shows do not count as places.
func TestALineMovesPastAnother(t *testing.T) {
	h := newHouse(t).furnish()
	h.send("/binder/"+h.yellow, "page", "Kicks\nFirst kick, always\nFirst kick, 2 a side\nSecond kick\nThird kick")
	order := func() (names []string) {
		rows, err := h.s.Requirements(bg, h.yellow)
		require.NoError(t, err)
		for _, r := range rows {
			if !strings.HasPrefix(r.Technique.Name, "Kick") {
				names = append(names, r.Technique.Name+" "+r.Quantity.String())
			}
		}
		return names
	}
	rows, err := h.s.Requirements(bg, h.yellow)
	require.NoError(t, err)
	id := map[string]string{}
	for _, r := range rows {
		id[r.Technique.Name+" "+r.Quantity.String()] = r.ID
	}
	_, page := h.send("/requirements/"+id["Third kick 5 a side"]+"/move", "rung", h.yellow, "past", id["First kick 5 a side"])
	assert.Equal(t, []string{"Third kick 5 a side", "First kick 5 a side", "First kick 2 a side", "Second kick 5 a side"}, order())
	h.undo(page)
	h.send("/requirements/"+id["First kick 5 a side"]+"/move", "rung", h.yellow, "past", id["Second kick 5 a side"])
	assert.Equal(t, []string{"First kick 2 a side", "Second kick 5 a side", "First kick 5 a side", "Third kick 5 a side"}, order())
	assert.Equal(t, http.StatusConflict, h.do("POST", "/requirements/"+id["Third kick 5 a side"]+"/move", "past=elsewhere").Code)
	assert.Equal(t, http.StatusNotFound, h.do("POST", "/requirements/none/move", "past=elsewhere").Code)
}

// BenchmarkCurriculumPages are the pages of the demo's largest program, beside a static file.
func BenchmarkCurriculumPages(b *testing.B) {
	h := houseOf(b, &milled)
	kenpo := demo.At(h.s.Today()).Programs[0]
	book := curriculum.Open(kenpo.Curriculum)
	q := "?program=" + kenpo.Program.ID
	for name, path := range map[string]string{"rung": "/ladder/" + book.RungNamed("Orange belt").ID, "technique": "/techniques/" + book.Named("Mill Wheel").ID, "check": "/check" + q, "coverage": "/coverage" + q, "load": "/load" + q,
		"booklet of the ladder": "/booklet" + q, "glossary": "/glossary" + q, "static (the bare handler)": "/static/x/icons/ladder.svg"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if w := h.do("GET", path, ""); w.Code != http.StatusOK {
					b.Fatal(w.Code)
				}
			}
		})
	}
}

// TestAPageInAnotherLanguage: words, brackets and a legend are kept for the program, and a page is read by
// them.
func TestAPageInAnotherLanguage(t *testing.T) {
	h := newHouse(t).furnish()
	details := "/programs/" + h.program + "/details"
	w := h.do("POST", details, values("words", "osu = high\nnice", "brackets", "terms").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "line 2")
	assert.Contains(t, w.Body.String(), "osu = high\nnice</textarea>")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("POST", details, values("brackets", "braces").Encode()).Code)
	p, err := h.s.Program(bg, h.program)
	require.NoError(t, err)
	p.SecondLanguage = "Islandic"
	_, err = h.s.SaveProgram(bg, me, p)
	require.NoError(t, err)
	_, page := h.send(details, "words", "osu = high\ndori = kick\ntobu = jumping", "brackets", "terms")
	assert.Contains(t, page, "osu = high\ndori = kick\ntobu = jumping</textarea>")
	read := h.do("POST", "/binder/"+h.yellow+"/read", values("page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nCombinations\n1-1\nStretch 2-3, 20 s").Encode()).Body.String()
	for _, said := range []string{`"variant":"jumping"`, `term bird`, `"rule":"contact light"`, `"noted":"call numbers: 1 calls Low punch"`, `"call":"1-1"`} {
		assert.Contains(t, read, said)
	}
	h.send("/binder/"+h.yellow, "page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nKnowledge\n1 question from river lore\nWhat flows?")
	b := h.book()
	assert.Equal(t, []any{"bird", curriculum.Kind("kick"), 1}, []any{b.Named("Tobu yoko dori").Term, b.Named("Tobu yoko dori").Kind, b.Named("Low punch").Call})
	assert.Equal(t, curriculum.Contact("light"), b.Rung(h.yellow).Sparring.Contact)
	require.Len(t, b.Program.Groups, 1)
	assert.Equal(t, "River lore", b.Program.Groups[0].Name)
	address, _ := h.send("/binder/"+h.yellow, "page", "2 = cross punch")
	assert.Contains(t, address, "/ladder/", "a legend alone is something")
	assert.Equal(t, 2, h.book().Named("Cross punch").Call)
}
