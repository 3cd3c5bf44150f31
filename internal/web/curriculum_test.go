package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/demo"
	"velvetladder/internal/golden"
	"velvetladder/internal/web"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/webtest"
)

// TestFormsLoseNothing: every technique, requirement, rung and program of the demo, shown in
// its form and saved as it stands, is the same afterwards.
func TestFormsLoseNothing(t *testing.T) {
	golden.Alone(t)
	h, programs := webtest.Mill(t)
	for _, p := range programs {
		h.Program = p.Program.ID
		b := h.Book()
		for i := range b.Techniques {
			x := b.Techniques[i]
			got, problems := web.ReadTechnique(web.TechniqueValues(&x, b), b)
			require.Empty(t, problems, x.Name)
			got.ID = x.ID
			webtest.Same(t, x, got, x.Name)
		}
		for _, q := range b.Requirements {
			v := web.RequirementValues(q, *b.Technique(q.TechniqueID), b)
			v.Set("whole", "1")
			got, problems := web.ReadRequirement(v, curriculum.Requirement{ID: q.ID, RungID: q.RungID, TechniqueID: q.TechniqueID}, b)
			require.Empty(t, problems)
			webtest.Same(t, q, got, b.Technique(q.TechniqueID).Name)
		}
		d := curriculum.ProgramDetails{Marking: b.Program.Marking, Policy: b.Program.Policy}
		require.Empty(t, web.ReadDetails(parts.DetailValues(b.Program.ProgramDetails), &d))
		webtest.Same(t, b.Program.ProgramDetails, d, p.Program.Name)
		for _, g := range b.Rungs {
			form := webtest.Fields(h.Page("/rungs/" + g.ID))
			_, page := h.Send("/rungs/"+g.ID, webtest.Flat(form)...)
			assert.Contains(t, webtest.Text(page), "Changed "+g.Name)
			webtest.Same(t, g, *h.Book().Rung(g.ID), g.Name)
		}
	}
}

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
	webtest.Says(t, young, "cubs leave it out.")
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

// TestATechniqueGrows: both roles, the staircase, what each part adds, branches, four
// pairings of stances.
func TestATechniqueGrows(t *testing.T) {
	h, _ := webtest.Mill(t)
	wheel := h.Book().Named("Mill Wheel")
	page := h.Page("/techniques/" + wheel.ID)
	for _, said := range []string{"The attack", "The defence", "answers the punch", "How it grows", "added here", "Extension", "ends differently", "light touch at most", "holds: right check"} {
		webtest.Says(t, page, said)
	}
	assert.Contains(t, page, `class="stairs"`)
	seen := map[string]bool{}
	for _, pair := range []string{"stance=orthodox&attacker=orthodox", "stance=orthodox&attacker=southpaw", "stance=southpaw&attacker=orthodox", "stance=southpaw&attacker=southpaw"} {
		whole := h.Page("/techniques/" + wheel.ID + "?" + pair)
		_, moves, _ := strings.Cut(whole, "<h2>The attack</h2>")
		seen[webtest.Text(moves)] = true
	}
	assert.Len(t, seen, 4, "every pairing is shown differently")
	h.Send("/techniques/"+wheel.ID+"/edit", webtest.Flat(webtest.Fields(h.Page("/techniques/"+wheel.ID+"/edit")))...)
	webtest.Same(t, *wheel, *h.Book().Named("Mill Wheel"), "saved as it stands, nothing changes")

	form := webtest.Fields(h.Page("/techniques/" + wheel.ID + "/edit"))
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
		w := h.Do("POST", "/techniques/"+wheel.ID+"/edit", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), x[1], field)
		assert.Contains(t, w.Body.String(), x[0], "the input is kept")
	}
	webtest.Same(t, wheel, h.Book().Named("Mill Wheel"), "nothing was half-written")
	circle := webtest.Fields(h.Page("/techniques/" + h.Book().Named("Front kick").ID + "/edit"))
	jump := ""
	for _, x := range h.Book().Techniques {
		if len(x.BuildsOn) > 0 && x.BuildsOn[0] == h.Book().Named("Front kick").ID {
			jump = x.Name
		}
	}
	require.NotEmpty(t, jump)
	circle.Set("builds_on", jump)
	w := h.Do("POST", "/techniques/"+h.Book().Named("Front kick").ID+"/edit", circle.Encode())
	webtest.Says(t, w.Body.String(), "goes round in a circle")
}

func TestMovesAreReadAsOneTypes(t *testing.T) {
	h, _ := webtest.Mill(t)
	ask := func(body ...string) string {
		w := h.Do("POST", "/notation", webtest.Values(append(body, "program", h.Program)...).Encode())
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
	names := h.Do("GET", "/notation/names?program="+h.Program, "").Body.String()
	assert.Contains(t, names, `"Front kick"`)
	assert.Contains(t, names, `"cross step"`)
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/notation/names?program=none", "").Code)
}

func TestABinderPage(t *testing.T) {
	h, _ := webtest.Mill(t)
	green := h.Book().RungNamed("Green belt").ID
	before := len(h.Book().Asked(green))
	page := "Kicks\nFront kick, 12 a side, must\nMillpond kick, on pads\n\nCombinations\nCombination 77: lead jab, rear cross / rear front kick mid"
	read := h.Do("POST", "/binder/"+green+"/read", webtest.Values("page", page+"\nJab, weight lots").Encode()).Body.String()
	assert.Contains(t, read, `"call":"Millpond kick","amount":"5 a side","traits":"on pads","new":"kick"`)
	assert.Contains(t, read, `"column":6,"problem":"after weight stands`)
	w := h.Do("POST", "/binder/"+green, webtest.Values("page", page+"\nJab, weight lots").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), `line 7, column 6: after weight stands`)
	assert.Contains(t, w.Body.String(), "Millpond kick, on pads", "the page is kept")
	assert.Len(t, h.Book().Asked(green), before, "all or nothing")
	_, rung := h.Send("/binder/"+green, "page", page)
	webtest.Says(t, rung, "Added 3 requirements to Green belt")
	assert.Len(t, h.Book().Asked(green), before+3)
	require.NotNil(t, h.Book().Named("Combination 77"))
	h.Undo(rung)
	assert.Len(t, h.Book().Asked(green), before)
	assert.Nil(t, h.Book().Named("Millpond kick"), "what was made on the way goes too")
	w = h.Do("POST", "/binder/"+green, "page=+")
	webtest.Says(t, w.Body.String(), "is empty; write a heading such as Kicks")
}

func TestTheCheckIsSilencedWithAReason(t *testing.T) {
	h, _ := webtest.Mill(t)
	page := h.Page("/check")
	webtest.Says(t, page, "2 holes in the ladder")
	key := regexp.MustCompile(`name="finding" value="(attack_unanswered[^"]+)"`).FindStringSubmatch(page)[1]
	w := h.Do("POST", "/check/silence", webtest.Values("program", h.Program, "finding", key, "reason", " ").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "say why this is as it should be")
	_, page = h.Send("/check/silence", "program", h.Program, "finding", key, "reason", "chokes are for the black belts' seminar")
	webtest.Says(t, page, "1 hole in the ladder")
	webtest.Says(t, page, "As it should be: chokes are for the black belts&#39; seminar")
	webtest.Says(t, h.Undo(page), "2 holes")
	h.Send("/check/silence", "program", h.Program, "finding", key, "reason", "so")
	_, page = h.Send("/check/silence", "program", h.Program, "finding", key, "take", "1")
	webtest.Says(t, page, "2 holes in the ladder")
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/check/silence", webtest.Values("program", h.Program, "finding", "nothing", "reason", "x").Encode()).Code)
	coverage := h.Page("/coverage")
	webtest.Says(t, coverage, "1 attack without an answer")
	assert.Contains(t, coverage, "/techniques/"+h.Book().Named("Mill Wheel").ID)
	assert.Contains(t, h.Page("/load"), "36 min")
}

func TestVersionsAndWhoClimbsByThem(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/versions"), "Nothing is published yet")
	_, page := h.Send("/versions/publish", "program", h.Program, "note", "the first")
	webtest.Says(t, page, "Version 1 is the draft")
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/versions/publish", webtest.Values("program", h.Program).Encode()).Code, "nothing has changed")
	_, _ = h.Send("/requirements/"+h.Requirement, webtest.Flat(with(web.RequirementValues(h.Book().Asked(h.Yellow)[0], *h.Book().Technique(h.Technique), h.Book()), "amount", "9"))...)
	webtest.Says(t, h.Page("/versions"), "The draft has changed")
	webtest.Says(t, h.Page("/difference"), "how much: 9 times, was 5 times")
	_, page = h.Send("/versions/publish", "program", h.Program, "note", "nine")
	assert.Regexp(t, `2 Tue 24 Nov 2026 owner nine 0 .* 1 Tue 24 Nov 2026 owner the first 2`, webtest.Text(page))
	versions, _, err := h.Store.Versions(webtest.Ctx, h.Program)
	require.NoError(t, err)
	_, page = h.Send("/versions/move", "from", versions[1].ID, "to", versions[0].ID)
	webtest.Says(t, page, "Moved 2 students to version 2")
	webtest.Says(t, h.Page("/students/"+h.Student), "version 2")
	h.Undo(page)
	webtest.Says(t, h.Page("/students/"+h.Student), "version 1")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/difference?from=none", "").Code)
	w := h.Do("POST", "/versions/move", webtest.Values("from", versions[1].ID).Encode())
	webtest.Says(t, w.Body.String(), "choose the version they go on by")
}

func with(v url.Values, field, value string) url.Values {
	v.Set(field, value)
	v.Set("whole", "1")
	return v
}

func TestTracksAndWordsOfAProgram(t *testing.T) {
	h, _ := webtest.Mill(t)
	form := parts.DetailValues(h.Book().Program.ProgramDetails)
	path := "/programs/" + h.Program + "/details"
	w := h.Do("POST", path, with(form, "track_0_name", "").Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "Cubs cannot be taken out")
	form = parts.DetailValues(h.Book().Program.ProgramDetails)
	form.Set("track_3_name", "Seniors")
	form.Set("track_3_from", "60")
	form.Set("commands", "Mill = begin\nStill = stop")
	_, page := h.Send(path, webtest.Flat(form)...)
	assert.Contains(t, page, `value="Seniors"`)
	require.Len(t, h.Book().Program.Tracks, 4)
	assert.NotEmpty(t, h.Book().Program.Tracks[3].ID)
	webtest.Says(t, h.Page("/glossary"), "Mill begin")
	h.Undo(page)
	assert.Len(t, h.Book().Program.Tracks, 3)
	for field, x := range map[string][2]string{"track_1_from": {"x", "is not a whole number"}, "track_1_to": {"2", "the lower one first"}, "commands": {"hajime", "write the word and its meaning"}, "group_0_draw": {"0", "from 1 to 50"}, "threshold": {"many", "write points such as"}} {
		w := h.Do("POST", path, with(parts.DetailValues(h.Book().Program.ProgramDetails), field, x[0]).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		webtest.Says(t, w.Body.String(), x[1])
	}
}

func TestAStudentsAdaptationTrackAndMerit(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	h.Enrolment = standings[0].EnrolmentID
	form := []string{"student", h.Student, "program", h.Program, "does", "excuse", "what", "Kick " + webtest.Nasty, "reason", "hip", "from", "2026-11-01"}
	_, page := h.Send("/enrolments/"+h.Enrolment+"/adapt", form...)
	webtest.Says(t, page, "excused from Kick")
	mine := h.Page("/sheet/" + h.Yellow + "?student=" + h.Student)
	webtest.Says(t, mine, "for Ben Sluice")
	webtest.Says(t, mine, "the draft · 1 adaptation")
	webtest.Says(t, mine, "Excused: hip")
	assert.Equal(t, http.StatusNotFound, h.Do("GET", "/sheet/"+h.Yellow+"?student=nobody", "").Code)
	end := regexp.MustCompile(`/adaptations/[0-9a-f]+/end`).FindString(page)
	_, page = h.Send(end, "student", h.Student)
	assert.NotContains(t, page, end)
	assert.Contains(t, h.Undo(page), end)
	for field, x := range map[string][2]string{"what": {"Nothing known", "is no technique of this program"}, "reason": {"", "say why, it stands on the sheet"}, "to": {"2026-10-01", "lies before the first day"}, "amount": {"lots", "not an amount"}} {
		v := webtest.Values(form...)
		v.Set(field, x[0])
		w := h.Do("POST", "/enrolments/"+h.Enrolment+"/adapt", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		webtest.Says(t, w.Body.String(), x[1], field)
	}
	h.Send("/programs/"+h.Program+"/details", "track_0_name", "Cubs", "track_0_to", "6", "track_1_name", "Adults", "track_1_from", "7")
	b := h.Book()
	_, page = h.Send("/enrolments/"+h.Enrolment+"/track", "student", h.Student, "track", b.Program.Tracks[0].ID)
	webtest.Says(t, page, "Set the track of")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", "/enrolments/"+h.Enrolment+"/track", "track=none&student="+h.Student).Code)
	w := h.Do("POST", "/enrolments/"+h.Enrolment+"/merit", "reason=x&student="+h.Student)
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "is not provisional")
}

// TestCurriculaAsFiles: what is saved can be read in here and elsewhere, is the same again,
// and nothing of a broken file is kept.
func TestCurriculaAsFiles(t *testing.T) {
	h, _ := webtest.Mill(t)
	saved := h.Do("GET", "/files/curriculum.json?program="+h.Program, "")
	assert.Contains(t, saved.Header().Get("Content-Disposition"), "Kenpo%20curriculum.json")
	file := saved.Body.String()
	other := webtest.NewHouse(t)
	w := other.Upload("/files/curriculum", file)
	assert.Equal(t, http.StatusOK, w.Code)
	webtest.Says(t, w.Body.String(), "It is a program that is not here yet. Its ladder check has 2 open findings.")
	programs, err := other.Store.Programs(webtest.Ctx)
	require.NoError(t, err)
	assert.Empty(t, programs, "a look stores nothing")
	_, page := other.Send("/files/curriculum", "text", file, "keep", "1")
	webtest.Says(t, page, "Added the program Kenpo")
	assert.Equal(t, file, other.Do("GET", "/files/curriculum.json", "").Body.String(), "the same to the letter")

	changed := strings.Replace(file, `"reps": 10`, `"reps": 11`, 1)
	webtest.Says(t, h.Upload("/files/curriculum", changed).Body.String(), "how much: 11 a side, was 10 a side")
	_, page = h.Send("/files/curriculum", "text", changed, "keep", "1")
	webtest.Says(t, page, "Read in the curriculum of Kenpo")
	h.Undo(page)
	assert.Equal(t, file, h.Do("GET", "/files/curriculum.json?program="+h.Program, "").Body.String())

	kick := h.Book().Named("Front kick")
	for said, broken := range map[string]string{
		"unexpected EOF":                                 file[:len(file)/2],
		"is not a field of this format":                  strings.Replace(file, `"sections"`, `"chapters"`, 1),
		"is no rung of this ladder":                      strings.Replace(file, `"rung": "`+h.Book().RungNamed("Black belt").ID, `"rung": "gone`, 1),
		"stands twice":                                   strings.Replace(file, h.Book().Named("Jab").ID, kick.ID, 1),
		"a curriculum&#39;s file says":                   `{"format":"other","version":1}`,
		"&#34;gone&#34; is no technique of this program": strings.Replace(file, `"builds_on": [`, `"builds_on": ["gone",`, 1),
		"is not a choice; it must be one of":             strings.Replace(file, `"kind": "belt"`, `"kind": "dance"`, 1),
		"is no kind of technique":                        strings.Replace(file, `"kind": "kick"`, `"kind": "dance"`, 1),
		"is not in the catalogue":                        strings.Replace(file, `"moves": "drop step`, `"moves": "drop stumble`, 1),
	} {
		w := h.Upload("/files/curriculum", broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, said)
		webtest.Says(t, w.Body.String(), said)
		assert.Contains(t, w.Body.String(), "$", "a place is named")
	}
	assert.Equal(t, file, h.Do("GET", "/files/curriculum.json?program="+h.Program, "").Body.String(), "nothing was half-imported")
}

func TestRequirementsAsATable(t *testing.T) {
	h, _ := webtest.Mill(t)
	csv := h.Do("GET", "/files/requirements.csv?program="+h.Program, "").Body.String()
	n := len(h.Book().Requirements)
	path := "/files/requirements?program=" + h.Program
	w := h.Upload(path, csv)
	webtest.Says(t, w.Body.String(), fmt.Sprintf("0 lines added, 0 changed, %d as they are", n))
	edited := "\xEF\xBB\xBFrung;technique;amount\r\nGreen belt;Jab;33 a side\r\nGreen belt;Front kick;lots\r\nMauve belt;Jab;5\r\n"
	w = h.Upload(path, edited)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	for _, said := range []string{"1 line added", "2 rows with something to correct", "3 Green belt · Front kick amount : not an amount", "is no rung of this ladder; there are"} {
		webtest.Says(t, w.Body.String(), said)
	}
	assert.Len(t, h.Book().Requirements, n)
	_, page := h.Send(path, "text", edited, "keep", "1")
	webtest.Says(t, page, "Read in 1 requirement of Kenpo")
	assert.Len(t, h.Book().Requirements, n+1)
	h.Undo(page)
	assert.Len(t, h.Book().Requirements, n)
	w = h.Upload(path, "technique,rung,amount\nJab,Green belt,7\n", "only", "1")
	webtest.Says(t, w.Body.String(), "Taken out, because the file leaves them out")
	w = h.Do("POST", path, webtest.Values("text", edited, "keep", "1", "only", "1").Encode())
	webtest.Says(t, w.Body.String(), "can only be taken out when every row can be read")
	for _, broken := range []string{"", "Gr\xfcn,1\n", "a,b\n1,2\n", "technique,technique\n", "\x00\x01"} {
		w := h.Upload(path, broken)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "%q", broken)
		webtest.Says(t, w.Body.String(), "this is not a requirements")
	}
}

func TestGlossaryAndBooklet(t *testing.T) {
	h, programs := webtest.Mill(t)
	karate := "?program=" + programs[1].Program.ID
	page := webtest.Text(h.Page("/glossary" + karate))
	for _, said := range []string{"Snap front kick mae geri 前蹴り", "hajime begin", "stepping punch"} {
		assert.Contains(t, page, said)
	}
	whole := h.Page("/booklet?program=" + h.Program)
	assert.Equal(t, len(h.Book().Rungs), strings.Count(whole, `class="rung-part"`))
	webtest.Says(t, whole, "drawn at each grading")
	webtest.Says(t, whole, "⚠")
	one := webtest.Text(h.Page("/booklet/" + h.Book().RungNamed("Orange belt").ID + "?track=" + h.Book().Program.Tracks[0].ID))
	assert.Contains(t, one, "Kenpo · Cubs")
}

// TestTheTableSaysHowALineIsDone: manner, what counts, accepted answers, and what one
// candidate does differently.
func TestTheTableSaysHowALineIsDone(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/binder/"+h.Yellow, "page", "Kicks\nPond kick, 4 a side, slowly, level mid\nFitness\nSit-ups, 60 s, marks 18=2 26=3\nKnowledge\nThree rules, once")
	rules := h.Book().Named("Three rules")
	h.Send("/techniques/"+rules.ID+"/edit", "program", h.Program, "name", "Three rules", "kind", "knowledge", "answers", "Listen, look, let go")
	standings, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	h.Send("/enrolments/"+standings[0].EnrolmentID+"/adapt", "student", h.Student, "does", "change", "what", "Pond kick", "amount", "2 a side", "reason", "hip")
	grading, _ := h.Send("/gradings/new", "program", h.Program, "on", "2026-11-24", "marking", "movement_scale", "group_size", "3", "retest_days", "30", "rungs", h.Yellow, "examiner", "Rosa Castell")
	eligible, err := h.Store.Eligible(webtest.Ctx, webtest.Last(grading))
	require.NoError(t, err)
	var all []string
	for _, e := range eligible {
		all = append(all, "candidates", e.EnrolmentID)
	}
	h.Send("/gradings/"+webtest.Last(grading)+"/candidates", all...)
	_, page := h.Send("/gradings/" + webtest.Last(grading) + "/begin")
	webtest.Says(t, page, "the draft, a sheet of their own")
	table := regexp.MustCompile(`/scoring/[0-9a-f]{20}/[0-9a-f]{20}`).FindString(page)
	state := h.Do("GET", table+"/state", "").Body.String()
	for _, said := range []string{`"manner":"slowly"`, `"standard":["at least mid"]`, `"standard":["mark from 18: 2, from 26: 3"]`, `"answers":["Listen, look, let go"]`, `adapted: 2 a side instead of 4 a side: hip`} {
		assert.Contains(t, state, said)
	}
	sheet := h.Page("/sheet/" + h.Yellow)
	webtest.Says(t, sheet, "at least mid")
	webtest.Says(t, sheet, "mark from 18: 2, from 26: 3")
	webtest.Says(t, sheet, "asks for it.")
}

// TestALineMovesPastAnother: lines that another line shows do not count as places.
func TestALineMovesPastAnother(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/binder/"+h.Yellow, "page", "Kicks\nFirst kick, always\nFirst kick, 2 a side\nSecond kick\nThird kick")
	order := func() (names []string) {
		rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
		require.NoError(t, err)
		for _, r := range rows {
			if !strings.HasPrefix(r.Technique.Name, "Kick") {
				names = append(names, r.Technique.Name+" "+r.Quantity.String())
			}
		}
		return names
	}
	rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
	require.NoError(t, err)
	id := map[string]string{}
	for _, r := range rows {
		id[r.Technique.Name+" "+r.Quantity.String()] = r.ID
	}
	_, page := h.Send("/requirements/"+id["Third kick 5 a side"]+"/move", "rung", h.Yellow, "past", id["First kick 5 a side"])
	assert.Equal(t, []string{"Third kick 5 a side", "First kick 5 a side", "First kick 2 a side", "Second kick 5 a side"}, order())
	h.Undo(page)
	h.Send("/requirements/"+id["First kick 5 a side"]+"/move", "rung", h.Yellow, "past", id["Second kick 5 a side"])
	assert.Equal(t, []string{"First kick 2 a side", "Second kick 5 a side", "First kick 5 a side", "Third kick 5 a side"}, order())
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/requirements/"+id["Third kick 5 a side"]+"/move", "past=elsewhere").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("POST", "/requirements/none/move", "past=elsewhere").Code)
}

// BenchmarkCurriculumPages are the pages of the demo's largest program, beside a static file.
func BenchmarkCurriculumPages(b *testing.B) {
	h := webtest.HouseOf(b, &webtest.Milled)
	kenpo := demo.At(h.Store.Today()).Programs[0]
	book := curriculum.Open(kenpo.Curriculum)
	q := "?program=" + kenpo.Program.ID
	for name, path := range map[string]string{"rung": "/ladder/" + book.RungNamed("Orange belt").ID, "technique": "/techniques/" + book.Named("Mill Wheel").ID, "check": "/check" + q, "coverage": "/coverage" + q, "load": "/load" + q,
		"booklet of the ladder": "/booklet" + q, "glossary": "/glossary" + q, "static (the bare handler)": "/static/x/icons/ladder.svg"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if w := h.Do("GET", path, ""); w.Code != http.StatusOK {
					b.Fatal(w.Code)
				}
			}
		})
	}
}

// TestAPageInAnotherLanguage: words, brackets and a legend are kept for the program, and a page is read by
// them.
func TestAPageInAnotherLanguage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	details := "/programs/" + h.Program + "/details"
	w := h.Do("POST", details, webtest.Values("words", "osu = high\nnice", "brackets", "terms").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "line 2")
	assert.Contains(t, w.Body.String(), "osu = high\nnice</textarea>")
	assert.Equal(t, http.StatusUnprocessableEntity, h.Do("POST", details, webtest.Values("brackets", "braces").Encode()).Code)
	p, err := h.Store.Program(webtest.Ctx, h.Program)
	require.NoError(t, err)
	p.SecondLanguage = "Islandic"
	_, err = h.Store.SaveProgram(webtest.Ctx, webtest.Me, p)
	require.NoError(t, err)
	_, page := h.Send(details, "words", "osu = high\ndori = kick\ntobu = jumping", "brackets", "terms")
	assert.Contains(t, page, "osu = high\ndori = kick\ntobu = jumping</textarea>")
	read := h.Do("POST", "/binder/"+h.Yellow+"/read", webtest.Values("page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nCombinations\n1-1\nStretch 2-3, 20 s").Encode()).Body.String()
	for _, said := range []string{`"variant":"jumping"`, `term bird`, `"rule":"contact light"`, `"noted":"call numbers: 1 calls Low punch"`, `"call":"1-1"`} {
		assert.Contains(t, read, said)
	}
	h.Send("/binder/"+h.Yellow, "page", "Basics\nTobu yoko dori (bird), 5\nSparring\n60 s, light contact\n1 = low punch\nKnowledge\n1 question from river lore\nWhat flows?")
	b := h.Book()
	assert.Equal(t, []any{"bird", curriculum.Kind("kick"), 1}, []any{b.Named("Tobu yoko dori").Term, b.Named("Tobu yoko dori").Kind, b.Named("Low punch").Call})
	assert.Equal(t, curriculum.Contact("light"), b.Rung(h.Yellow).Sparring.Contact)
	require.Len(t, b.Program.Groups, 1)
	assert.Equal(t, "River lore", b.Program.Groups[0].Name)
	address, _ := h.Send("/binder/"+h.Yellow, "page", "2 = cross punch")
	assert.Contains(t, address, "/ladder/", "a legend alone is something")
	assert.Equal(t, 2, h.Book().Named("Cross punch").Call)
}
