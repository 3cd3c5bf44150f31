package table_test

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

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

// TestWhatADayRefuses is the table of those who may not mark, and of what may not be marked.
func TestWhatADayRefuses(t *testing.T) {
	x := webtest.NewHall(t)
	sits := x.Join(x.Own)
	foreign, err := x.Store.Grading(webtest.Ctx, x.Foreign)
	require.NoError(t, err)
	strange := x.Join(foreign.Examiners[0].ID)
	marks := "/scoring/" + x.Own + "/" + x.GroupA + "/marks"
	good := x.Body("mark-of-own", x.Own, x.Candidate, x.ItemA, "3")
	require.Equal(t, http.StatusOK, sits.Do("POST", marks, good).Code)
	require.Equal(t, http.StatusOK, sits.Do("POST", marks, good).Code, "the same again is the same answer")

	used, err := x.Store.MakeCode(webtest.Ctx, webtest.Me, x.Other)
	require.NoError(t, err)
	require.Equal(t, http.StatusSeeOther, x.Browser().Do("POST", "/join", "code="+used.Code).Code)

	// A sheet of the other ring that is signed.
	all, err := x.Store.Candidates(webtest.Ctx, x.Day)
	require.NoError(t, err)
	var b store.Candidate
	for _, c := range all {
		if c.RingID == x.OtherRing {
			b = c
		}
	}
	signs := x.Join(x.Other)
	signed := "/scoring/" + x.Other + "/" + b.GroupID
	require.Equal(t, http.StatusSeeOther, signs.Do("POST", signed+"/sign", "request=sign-b&fill=1").Code)
	table, err := x.Store.ScoringTable(webtest.Ctx, x.Other, b.GroupID)
	require.NoError(t, err)
	home := x.Join(x.Chief)
	seats, err := x.Store.Seats(webtest.Ctx, x.Day)
	require.NoError(t, err)
	for _, s := range seats {
		if s.ExaminerID == x.Chief {
			_, err := x.Store.EndSeat(webtest.Ctx, webtest.Me, s.ID)
			require.NoError(t, err)
		}
	}
	anybody := x.Browser()
	for _, c := range []struct {
		name               string
		who                *webtest.Visitor
		method, path, body string
		status             int
		holds              string
	}{
		{"signed out, the page", anybody, "GET", "/scoring/" + x.Own + "/" + x.GroupA, "", 303, ""},
		{"signed out, a mark", anybody, "POST", marks, good, 401, "not signed in"},
		{"signed out, the head table", anybody, "GET", "/head/" + x.Day, "", 303, ""},
		{"who teaches, the page", x.Teaches, "GET", "/scoring/" + x.Own + "/" + x.GroupA, "", 403, "Only the owner"},
		{"who teaches, a mark", x.Teaches, "POST", marks, good, 403, "Only the owner"},
		{"who teaches, codes", x.Teaches, "POST", "/gradings/" + x.Day + "/codes", "x=1", 403, ""},
		{"who teaches, the review", x.Teaches, "GET", "/review/" + x.Day, "", 403, ""},
		{"another grading's examiner, the page", strange, "GET", "/scoring/" + x.Own + "/" + x.GroupA, "", 403, "one examiner"},
		{"another grading's examiner, the state", strange, "GET", "/scoring/" + x.Own + "/" + x.GroupA + "/state", "", 403, ""},
		{"another grading's examiner, a mark", strange, "POST", marks, good, 403, "one examiner"},
		{"another grading's examiner, in their own name", strange, "POST", "/scoring/" + foreign.Examiners[0].ID + "/" + x.GroupA + "/marks", x.Body("mark-strange", foreign.Examiners[0].ID, x.Candidate, x.ItemA, "3"), 409, "does not mark this candidate"},
		{"a neighbour's sheet", sits, "GET", "/scoring/" + x.Chief + "/" + x.GroupA + "/state", "", 403, ""},
		{"a neighbour's stream", sits, "GET", "/scoring/" + x.Chief + "/" + x.GroupA + "/live", "", 403, ""},
		{"a neighbour's marks under one's own address", sits, "POST", marks, x.Body("mark-other", x.Chief, x.Candidate, x.ItemA, "3"), 409, "another examiner"},
		{"an examiner, the head table", sits, "GET", "/head/" + x.Day, "", 403, ""},
		{"an examiner, the review", sits, "GET", "/review/" + x.Day, "", 403, ""},
		{"an examiner, the trail", sits, "GET", "/trail?grading=" + x.Day, "", 403, ""},
		{"an examiner, the students", sits, "GET", "/students", "", 403, ""},
		{"an examiner, the grading", sits, "GET", "/gradings/" + x.Day, "", 403, ""},
		{"an examiner, another ring's clock", sits, "POST", "/ring/" + x.OtherRing + "/clock", `{"deed":"start","clock":{}}`, 403, ""},
		{"an examiner, another ring's bouts", sits, "GET", "/bouts/" + x.OtherRing, "", 403, ""},
		{"a used code", x.Browser(), "POST", "/join", "code=" + used.Code, 401, "was used already"},
		{"a used code, looked at", x.Browser(), "GET", "/join/" + used.Spelt(), "", 404, "was used already"},
		{"a code that is none", x.Browser(), "POST", "/join", "code=BBBBB-BBBBB", 401, "lets nobody in"},
		{"other content under the same id", sits, "POST", marks, strings.Replace(good, `"value":3`, `"value":4`, 1), 409, "sent before with other content"},
		{"a forged candidate", sits, "POST", marks, x.Body("mark-forged", x.Own, "forged", x.ItemA, "3"), 409, "does not mark this candidate"},
		{"a candidate of another grading", sits, "POST", marks, x.Body("mark-stranger", x.Own, x.Stranger, x.ItemA, "3"), 409, "does not mark this candidate"},
		{"a second first mark", sits, "POST", marks, x.Body("mark-blind", x.Own, x.Candidate, x.ItemA, "4"), 409, "what stands now is 3"},
		{"a mark on a signed sheet", signs, "POST", signed + "/marks", x.Body("mark-late", x.Other, b.ID, table.Items[0].ID, "3"), 409, "is signed"},
		{"signing it again", signs, "POST", signed + "/sign", "request=sign-b-again&fill=1", 409, "signed already"},
		{"a device sent home, a mark", home, "POST", "/scoring/" + x.Chief + "/" + x.GroupA + "/marks", x.Body("mark-home", x.Chief, x.Candidate, x.ItemA, "3"), 401, "sent home"},
		{"a device sent home, the page", home, "GET", "/scoring/" + x.Chief + "/" + x.GroupA, "", 303, ""},
		{"an end by who is not the chief", sits, "POST", "/scoring/" + x.Own + "/" + x.GroupA + "/faults", fmt.Sprintf(`{"entries":[{"id":"fault-end","candidate":%q,"examiner":%q,"kind":"ending_confirmed","points":0,"text":"x","supersedes":"y"}]}`, x.Candidate, x.Own), 409, "by the chief examiner"},
		{"too many entries", sits, "POST", marks, `{"entries":[` + strings.TrimSuffix(strings.Repeat("{},", frame.MaxEntries+1), ",") + `]}`, 422, "must be 1 to 500"},
	} {
		w := c.who.Do(c.method, c.path, c.body)
		assert.Equal(t, c.status, w.Code, "%s: %s", c.name, w.Body)
		assert.Contains(t, w.Body.String(), c.holds, c.name)
	}
	_, rows, err := x.Store.Review(webtest.Ctx, x.Day)
	require.NoError(t, err)
	n := 0
	for _, r := range rows {
		for _, s := range r.Test.Sheets {
			for _, m := range s.Marks {
				if m.Seen {
					n++
					assert.Equal(t, scoring.Whole(3), m.Value)
				}
			}
		}
	}
	assert.Equal(t, 1, n, "of all that only the first mark stands")
}

// TestBadInputOnTheDay is told in words, and nothing of it is written.
func TestBadInputOnTheDay(t *testing.T) {
	x := webtest.NewHall(t)
	sits := x.Join(x.Own)
	fault := func(more string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"supersedes":"",%s}]}`, store.NewID(), x.Candidate, x.Own, more)
	}
	faults, clock, call := "/scoring/"+x.Own+"/"+x.GroupA+"/faults", "/ring/"+x.Ring+"/clock", "/ring/"+x.Ring+"/call"
	bout := func(more ...string) string { return webtest.Values(more...).Encode() }
	for _, c := range []struct {
		name, path, body string
		status           int
		holds            string
	}{
		{"a fault of no kind", faults, fault(`"kind":"slap","points":0,"text":"x"`), 422, "is not a choice"},
		{"a conduct that is none", faults, fault(`"kind":"note","points":0,"conduct":"rude","text":"x"`), 422, "is not a choice"},
		{"a fault without words", faults, fault(`"kind":"note","points":0,"text":" "`), 422, "say what was seen"},
		{"a deduction of nothing", faults, fault(`"kind":"deduction","points":0,"text":"x"`), 422, "more than 0"},
		{"a deduction of a million", faults, fault(`"kind":"deduction","points":1000000,"text":"x"`), 422, "at most 1000"},
		{"a withdrawal of nothing", faults, fault(`"kind":"withdrawn","points":0,"text":"x"`), 409, "is not on record"},
		{"no fault at all", faults, `{"entries":[]}`, 422, "must be 1 to 500"},
		{"a clock of an hour and more", clock, `{"deed":"set","clock":{"seconds":3601,"rounds":1}}`, 422, "it must be from 1 to 3600"},
		{"a clock of no rounds", clock, `{"deed":"set","clock":{"seconds":60,"rounds":0}}`, 422, "it must be from 1 to 20"},
		{"a deed that is none", clock, `{"deed":"smash","clock":{}}`, 409, "can be set, started"},
		{"a clock in words", clock, `{"deed":"set","clock":{"seconds":"sixty"}}`, 422, "cannot be read"},
		{"a group of another ring", call, `{"group":"other","line":0,"set":0,"version":0}`, 409, "not in Ring A"},
		{"a line before the first", call, fmt.Sprintf(`{"group":%q,"line":-1,"set":0,"version":0}`, x.GroupA), 409, "none of its sheet"},
		{"a bout with oneself", "/bouts/" + x.Ring, bout("a", x.Candidate, "b", x.Candidate, "rounds", "1", "seconds", "60"), 409, "two different people"},
		{"a bout of nobody", "/bouts/" + x.Ring, bout("rounds", "1", "seconds", "60"), 409, "two different people"},
		{"a bout of a stranger", "/bouts/" + x.Ring, bout("a", x.Stranger, "partner", "Nell", "rounds", "1", "seconds", "60"), 409, "candidates of this ring"},
		{"a bout of lots of rounds", "/bouts/" + x.Ring, bout("a", x.Candidate, "partner", "Nell", "rounds", "lots", "seconds", "60"), 422, "is not a whole number"},
		{"a point in no bout", "/bouts/" + x.Ring + "/events", `{"entries":[{"id":"event-one","bout":"none","kind":"point","side":"a","round":1,"points":1,"text":"","supersedes":""}]}`, 404, "not on record"},
		{"a point for nobody", "/bouts/" + x.Ring + "/events", `{"entries":[{"id":"event-two","bout":"none","kind":"point","side":"x","round":1,"points":1,"text":"","supersedes":""}]}`, 409, "no event of a bout"},
		{"a count below nothing", "/scoring/" + x.Own + "/" + x.GroupA + "/marks", strings.Replace(x.Body("mark-count", x.Own, x.Candidate, x.ItemA, "3"), `"note"`, `"count":-1,"note"`, 1), 422, "from 0 to 100000"},
	} {
		w := sits.Do("POST", c.path, c.body)
		assert.Equal(t, c.status, w.Code, "%s: %s", c.name, w.Body)
		assert.Contains(t, webtest.Text(w.Body.String()), c.holds, c.name)
	}
	h, err := x.Store.Head(webtest.Ctx, x.Day)
	require.NoError(t, err)
	assert.Empty(t, h.Faults)
	for _, s := range h.Tables {
		assert.Zero(t, s.Given)
	}
	all, err := x.Store.Bouts(webtest.Ctx, x.Ring)
	require.NoError(t, err)
	assert.Empty(t, all)
	// A bout that can be held keeps its clock; the ring's page says what nobody saw.
	require.Equal(t, http.StatusSeeOther, sits.Do("POST", "/bouts/"+x.Ring, bout("a", x.Candidate, "partner", "Nell Ford", "rounds", "2", "seconds", "45", "rest", "15")).Code)
	page := sits.Do("GET", "/bouts/"+x.Ring, "").Body.String()
	assert.Contains(t, webtest.Text(page), "Nell Ford")
	assert.Contains(t, webtest.Text(page), "2 × 45 s")
	r, err := x.Store.Ring(webtest.Ctx, x.Ring)
	require.NoError(t, err)
	assert.Equal(t, []int{45, 2, 15}, []int{r.State.Clock.Seconds, r.State.Clock.Rounds, r.State.Clock.Rest})
	g, err := x.Store.Grading(webtest.Ctx, x.Day)
	require.NoError(t, err)
	for _, e := range g.Panel(0) {
		webtest.Mark(t, x.Store, []gradingday.Mark{{ID: store.NewID(), CandidateID: x.Candidate, ExaminerID: e.ID, ItemID: x.ItemA, Kind: gradingday.MarkNotSeen}})
	}
	again := sits.Do("GET", "/ring/"+x.Ring+"/again", "")
	assert.Equal(t, http.StatusOK, again.Code)
	assert.Contains(t, again.Body.String(), "line 1, Kick")
	assert.Contains(t, webtest.Text(x.Page("/head/"+x.Day)), "↻ seen by nobody: line 1, Kick")
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

func TestAMarkSentAgain(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	path := "/scoring/" + h.Examiner + "/" + h.Group + "/marks"
	body := func(id, value, supersedes string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"","supersedes":%q}]}`, id, h.Candidate, h.Examiner, h.Item, value, supersedes)
	}
	assert.Contains(t, h.Do("POST", path, body("mark-one", "2", "")).Body.String(), `"stored":["mark-one"]`)
	assert.Equal(t, http.StatusOK, h.Do("POST", path, body("mark-one", "2", "")).Code)
	assert.Equal(t, http.StatusConflict, h.Do("POST", path, body("mark-one", "3", "")).Code)
	blind := h.Do("POST", path, body("mark-two", "3", ""))
	assert.Equal(t, http.StatusConflict, blind.Code)
	assert.Contains(t, blind.Body.String(), `"current":{"id":"mark-one"`)
	assert.Equal(t, http.StatusOK, h.Do("POST", path, body("mark-two", "3", "mark-one")).Code)
	state := h.Do("GET", "/scoring/"+h.Examiner+"/"+h.Group+"/state", "").Body.String()
	assert.Contains(t, state, `"id":"mark-two"`)
	assert.NotContains(t, state, `"id":"mark-one"`)
}
