package web_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

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

// TestADeviceOfAnExaminer sees its own sheets, leaves, and is somebody else's afterwards.
func TestADeviceOfAnExaminer(t *testing.T) {
	x := webtest.NewHall(t)
	v := x.Join(x.Own)
	page := v.Do("GET", "/join", "").Body.String()
	assert.Contains(t, page, "/scoring/"+x.Own+"/"+x.GroupA)
	assert.NotContains(t, page, x.Other)
	assert.Equal(t, "/join", v.Do("GET", "/", "").Header().Get("Location"))
	shell := v.Do("GET", "/scoring/"+x.Own+"/"+x.GroupA, "")
	assert.Equal(t, http.StatusOK, shell.Code)
	assert.NotContains(t, shell.Body.String(), "/gradings/", "there is no way from here to what is not theirs")
	assert.Equal(t, http.StatusOK, v.Do("GET", "/paper/"+x.Own+"/"+x.GroupA, "").Code)
	assert.Equal(t, http.StatusOK, v.Do("GET", "/ring/"+x.Ring, "").Code)
	w := v.Do("POST", "/ring/"+x.Ring+"/clock", `{"deed":"set","clock":{"seconds":60,"rounds":1}}`)
	assert.Equal(t, http.StatusOK, w.Code, w.Body)
	w = v.Do("POST", "/ring/"+x.Ring+"/clock", `{"deed":"set","clock":{"seconds":0,"rounds":1}}`)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "it must be from 1 to 3600")
	assert.Equal(t, "/join?out=1", v.Do("POST", "/leave", "").Header().Get("Location"))
	assert.Equal(t, http.StatusSeeOther, v.Do("GET", "/scoring/"+x.Own+"/"+x.GroupA, "").Code)
	require.Equal(t, http.StatusSeeOther, v.SignIn("rosa", webtest.Secret).Code)
	head := v.Do("GET", "/head/"+x.Day, "").Body.String()
	assert.Contains(t, head, "sent home")
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/gradings/"+x.Day+"/close", "request=close-day").Code)
	assert.Contains(t, v.Do("GET", "/head/"+x.Day, "").Body.String(), "All devices were sent home")
	w = v.Do("POST", "/gradings/"+x.Day+"/codes", "x=1")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "is over")
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/gradings/"+x.Day+"/close", "request=open-day&open=1").Code)
	w = v.Do("POST", "/gradings/"+x.Day+"/codes", "examiner="+x.Own)
	assert.Equal(t, http.StatusOK, w.Code)
	assert.Equal(t, 1, strings.Count(w.Body.String(), `class="qr"`))
	assert.Regexp(t, `/join/[B-Z2-9]{5}-[B-Z2-9]{5}`, w.Body.String())
}

// told reads messages of a stream until one fits.
func told(t *testing.T, lines *bufio.Scanner, fits func(map[string]any) bool) map[string]any {
	for lines.Scan() {
		text, is := strings.CutPrefix(lines.Text(), "data: ")
		if !is {
			continue
		}
		var m map[string]any
		require.NoError(t, json.Unmarshal([]byte(text), &m))
		if fits(m) {
			return m
		}
	}
	t.Fatalf("the stream ended: %v", lines.Err())
	return nil
}

// TestStreams: the head table hears of a mark without its value, the examiner's second device
// hears the mark, and the ring's devices hear the clock.
func TestStreams(t *testing.T) {
	x := webtest.NewHall(t)
	own, owns := x.Join(x.Own), x.Owns
	server := httptest.NewServer(owns.H)
	defer server.Close()
	ctx, cancel := context.WithTimeout(webtest.Ctx, time.Minute)
	defer cancel()
	listen := func(v *webtest.Visitor, path string) *bufio.Scanner {
		r, err := http.NewRequestWithContext(ctx, "GET", server.URL+path, nil)
		require.NoError(t, err)
		r.Header.Set("Cookie", v.Cookie)
		r.Header.Set("Accept", "text/event-stream")
		res, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, res.StatusCode)
		require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
		t.Cleanup(func() { res.Body.Close() })
		return bufio.NewScanner(res.Body)
	}
	head, table, ring := listen(owns, "/head/"+x.Day+"/live"), listen(own, "/scoring/"+x.Own+"/"+x.GroupA+"/live"), listen(owns, "/ring/"+x.Ring+"/live")
	told(t, head, func(m map[string]any) bool { return m["attend"].(map[string]any)[x.Own] == 1.0 })
	told(t, table, func(m map[string]any) bool { return m["ring"] != nil })
	require.Equal(t, http.StatusOK, own.Do("POST", "/scoring/"+x.Own+"/"+x.GroupA+"/marks", x.Body("mark-stream", x.Own, x.Candidate, x.ItemA, "4")).Code)
	m := told(t, table, func(m map[string]any) bool { return m["marks"] != nil })
	assert.Equal(t, 4.0, m["marks"].([]any)[0].(map[string]any)["value"])
	m = told(t, head, func(m map[string]any) bool { return m["marks"] == 1.0 })
	text, err := json.Marshal(m)
	require.NoError(t, err)
	assert.NotContains(t, string(text), `"value"`, "the head table is told no mark")
	require.Equal(t, http.StatusOK, own.Do("POST", "/ring/"+x.Ring+"/clock", `{"deed":"set","clock":{"seconds":90,"rounds":2,"rest":30,"cue":10}}`).Code)
	m = told(t, ring, func(m map[string]any) bool {
		return m["ring"].(map[string]any)["clock"].(map[string]any)["seconds"] == 90.0
	})
	assert.NotZero(t, m["ring"].(map[string]any)["now"])
	told(t, table, func(m map[string]any) bool { return m["ring"] != nil })
}

// TestPanelRulesByForms plans a grading with every panel rule, and reads it back.
func TestPanelRulesByForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	base := func(more ...string) string {
		v := webtest.Values("program", h.Program, "on", "2026-12-12", "marking", "movement_scale", "group_size", "3", "retest_days", "28", "rungs", h.Yellow, "allowed_failing", "2", "panel", "majority", "tie", "chief",
			"examiner", "Cora Vane", "examiner", "Ed Weir", "examiner", "Fay Rush", "chief", "2")
		for i := 0; i < len(more); i += 2 {
			v.Del(more[i])
		}
		for i := 0; i < len(more); i += 2 {
			v.Add(more[i], more[i+1])
		}
		return v.Encode()
	}
	for _, c := range []struct {
		name, body string
		want       func(store.Grading) bool
		words      string
	}{
		{"mean with a threshold", base("panel", "mean", "threshold", "2.5", "quorum", "2"), func(g store.Grading) bool { return g.Policy.Panel == scoring.Mean && g.Policy.Quorum == 2 }, "mean of 3, 2 needed"},
		{"median", base("panel", "median"), func(g store.Grading) bool { return g.Policy.Panel == scoring.Median }, "median of 3"},
		{"trimmed mean", base("panel", "trimmed_mean", "tie", "committee"), func(g store.Grading) bool { return g.Policy.Tie == scoring.TieCommittee }, "trimmed mean of 3"},
		{"a section's minimum", base("minima", "Kicks 62.5%\n\n", "minimum_seen", "60"), func(g store.Grading) bool {
			return g.Policy.Rules.SectionMinima[0] == scoring.SectionMinimum{Section: "Kicks", Ratio: scoring.Whole(5) / 8} && *g.Policy.Rules.MinimumSeen == scoring.Whole(3)/5
		}, "Kicks at least 62.5 %"},
		{"honours, double, no must-pass", base("honours", "4", "double", "1", "ignore_must_pass", "1"), func(g store.Grading) bool {
			return *g.Policy.Scale.Honours == scoring.Whole(4) && g.Policy.Scale.Double && g.Policy.Rules.IgnoreMustPass
		}, "must-pass lines count like others"},
		{"two rings", base("ring_name", "Mill floor", "examiner_1", "Gil Marsh", "chief_1", "1"), func(g store.Grading) bool {
			return len(g.Rings) == 2 && g.Rings[0].Name == "Mill floor" && g.Panel(1)[0].Chief && g.Panel(0)[1].Chief
		}, "in each of 2 rings"},
		{"results and retests", base("results", "at_once", "retest_scope", "sections", "carry_days", "90"), func(g store.Grading) bool {
			return g.Results == gradingday.AtOnce && g.RetestScope == scoring.ScopeSections && g.CarryDays == 90
		}, "majority of 3"},
	} {
		w := h.Do("POST", "/gradings/new", c.body)
		require.Equal(t, http.StatusSeeOther, w.Code, "%s: %s", c.name, w.Body)
		id := regexp.MustCompile(`[0-9a-f]{20}`).FindString(w.Header().Get("Location"))
		g, err := h.Store.Grading(webtest.Ctx, id)
		require.NoError(t, err)
		assert.True(t, c.want(g), "%s: %+v", c.name, g.Policy)
		assert.Contains(t, webtest.Text(h.Page("/gradings/"+id)), c.words, c.name)
		// The form to change it offers every field.
		edit := h.Page("/gradings/" + id + "/edit")
		again := url.Values{}
		for _, m := range regexp.MustCompile(`(?s)<(?:input|textarea|select)[^>]*name="([a-z_0-9]+)"[^>]*>`).FindAllStringSubmatch(edit, -1) {
			again[m[1]] = nil
		}
		for _, name := range []string{"panel", "tie", "quorum", "minima", "honours", "double", "ring_name", "examiner_1", "results", "retest_scope", "carry_days"} {
			assert.Contains(t, again, name, c.name)
		}
	}
	for _, c := range []struct{ name, body, holds string }{
		{"a rule that is none", base("panel", "loudest"), "is not a choice"},
		{"a quorum nobody reaches", base("quorum", "5"), "no result could ever come"},
		{"a minimum without percent", base("minima", "Kicks"), "write for example Kicks 60"},
		{"a minimum of 120", base("minima", "Kicks 120"), "is no percent from 0 to 100"},
		{"honours off the scale", base("honours", "9"), "it must be a mark of the scale"},
		{"seen of 300 percent", base("minimum_seen", "300"), "write percent from 0 to 100"},
		{"one examiner in two rings", base("examiner_1", "cora vane"), "one place at a time"},
		{"two in the second ring", base("examiner_1", "A B", "examiner_1", "C D"), "2 are named"},
	} {
		w := h.Do("POST", "/gradings/new", c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, c.name)
		assert.Contains(t, webtest.Text(w.Body.String()), c.holds, c.name)
		assert.Contains(t, w.Body.String(), "Cora Vane", "what was typed is kept")
	}
}

// TestReviewAndLaboratory walks the committee's screens.
func TestReviewAndLaboratory(t *testing.T) {
	x := webtest.NewHall(t)
	assert.Contains(t, webtest.Text(x.Page("/review/"+x.Day)), "Sealed until all have signed")
	assert.NotContains(t, x.Page("/review/"+x.Day), `class="plumb"`)
	g, err := x.Store.Grading(webtest.Ctx, x.Day)
	require.NoError(t, err)
	all, err := x.Store.Candidates(webtest.Ctx, x.Day)
	require.NoError(t, err)
	for _, c := range all {
		_, panel := g.PanelOf(c.RingID)
		for k, e := range panel {
			table, err := x.Store.ScoringTable(webtest.Ctx, e.ID, c.GroupID)
			require.NoError(t, err)
			m := store.Mark{ID: store.NewID(), CandidateID: c.ID, ExaminerID: e.ID, ItemID: table.Items[0].ID, Kind: store.MarkGiven, Value: scoring.Whole(1 + k), Count: 30, Note: "steady"}
			if c.RingID != x.Ring {
				m.Value = scoring.Whole(3)
			}
			require.NoError(t, x.Store.RecordMarks(webtest.Ctx, webtest.Me, []store.Mark{m}))
			_, err = x.Store.Sign(webtest.Ctx, webtest.Me, e.ID, c.GroupID, false)
			require.NoError(t, err)
		}
	}
	page := webtest.Text(x.Page("/review/" + x.Day))
	assert.Contains(t, page, "Agree with the ticked 2", "nobody of them needs thought")
	lab := webtest.Text(x.Page("/lab/" + x.Day + "?panel=majority&tie=chief&allowed_failing=0&honours=3"))
	assert.Contains(t, lab, "Nobody of 2 would change")
	lab = webtest.Text(x.Page("/lab/" + x.Day + "?panel=mean&tie=chief&threshold=3&allowed_failing=2&honours=3"))
	assert.Contains(t, lab, "1 of 2 would change, 1 away from one")
	assert.Contains(t, lab, "the threshold is 3")
	w := x.Do("GET", "/lab/"+x.Day+"?panel=loudest", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	_, page = x.Send("/review/"+x.Day+"/agree", "agree", all[0].ID, "agree", all[1].ID, "decided_by", "Rosa")
	assert.Contains(t, webtest.Text(page), "Announce 2 decided")
	_, page = x.Send("/review/"+x.Day+"/hold", "candidate", all[1].ID, "held", "1")
	assert.Contains(t, webtest.Text(page), "held")
	w = x.Do("POST", "/review/"+x.Day+"/announce-at", "announce_at=tomorrow")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is no day and time")
	_, page = x.Send("/review/"+x.Day+"/announce-at", "announce_at", "2026-11-30T18:00")
	assert.Contains(t, webtest.Text(page), "Known on Mon 30 Nov 2026 at 18:00")
	_, page = x.Send("/review/"+x.Day+"/announce-at", "announce_at", "")
	assert.Contains(t, webtest.Text(page), "At a set time")
	early := webtest.Text(x.Page("/result/" + all[0].ID))
	assert.Contains(t, early, "Not announced yet")
	_, page = x.Send("/review/"+x.Day+"/announce", "candidate", all[0].ID)
	assert.Contains(t, webtest.Text(page), "Correct this result")
	letter := webtest.Text(x.Page("/result/" + all[0].ID))
	for _, words := range []string{"Promoted to", "What", "steady", "Decided by Rosa"} {
		assert.Contains(t, letter, words)
	}
	assert.NotContains(t, letter, "points", "a letter holds no figure")
	w = x.Do("POST", "/review/"+x.Day+"/correct", webtest.Values("candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "", "correcting", "1").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the result is corrected")
	_, page = x.Send("/review/"+x.Day+"/correct", "candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "two were swapped", "scope", "items")
	assert.Contains(t, webtest.Text(page), "corrected by Rosa: two were swapped")
	trail := webtest.Text(x.Page("/trail?grading=" + x.Day))
	for _, words := range []string{"(30 counted)", "corrected to retest by Rosa: two were swapped", "result announced"} {
		assert.Contains(t, trail, words)
	}
	assert.Contains(t, webtest.Text(x.Page("/trail?text=agreed")), "Agreed with 2 proposals of Day")
	assert.Contains(t, webtest.Text(x.Page("/trail?text=nothing+like+it")), "Nothing fits")

	// The family reads the same in plain words, and nobody else's.
	token, _, err := x.Store.MakeLink(webtest.Ctx, webtest.Me, all[0].StudentID, "Greta", 30)
	require.NoError(t, err)
	home := x.Page("/family/" + token)
	assert.Contains(t, home, "/family/"+token+"/result/"+all[0].ID)
	assert.Contains(t, webtest.Text(x.Page("/family/"+token+"/result/"+all[0].ID)), "When to try again")
	for _, id := range []string{all[1].ID, x.Stranger, "none"} {
		assert.Equal(t, http.StatusNotFound, x.Do("GET", "/family/"+token+"/result/"+id, "").Code)
	}
	assert.Equal(t, http.StatusConflict, x.Do("POST", "/paper/"+x.Own+"/"+x.GroupA+"/checked", "request=paper-x&typed=0").Code)
	x.Send("/paper/"+x.Own+"/"+x.GroupA+"/checked", "request", "paper-y", "typed", "1", "differed", "1")
	assert.Contains(t, webtest.Text(x.Page("/trail?text=second+time")), "1 mark typed, 1 differed")
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
		require.NoError(t, x.Store.RecordMarks(webtest.Ctx, webtest.Me, []store.Mark{{ID: store.NewID(), CandidateID: x.Candidate, ExaminerID: e.ID, ItemID: x.ItemA, Kind: store.MarkNotSeen}}))
	}
	again := sits.Do("GET", "/ring/"+x.Ring+"/again", "")
	assert.Equal(t, http.StatusOK, again.Code)
	assert.Contains(t, again.Body.String(), "line 1, Kick")
	assert.Contains(t, webtest.Text(x.Page("/head/"+x.Day)), "↻ seen by nobody: line 1, Kick")
}
