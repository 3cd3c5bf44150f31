package web

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
)

// hall is a furnished school where people sign in, with two more gradings under way: one in two
// rings, and a foreign one.
type hall struct {
	*house
	browser             func() *visitor
	owns, teaches       *visitor
	day, foreign        string
	own, other, chief   string // examiners: of ring A, of ring B, ring A's chief
	ring, otherRing     string
	candidate, stranger string // in ring A, at the foreign grading
	groupA, itemA       string
}

func newHall(t *testing.T) *hall {
	h, browser := closedHouse(t)
	x := &hall{house: h, browser: browser, owns: browser(), teaches: browser()}
	x.owns.do("POST", "/welcome", url.Values{"name": {"Rosa"}, "sign_in": {"rosa"}, "password": {secret}}.Encode())
	x.owns.do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {secret}}.Encode())
	require.Equal(t, http.StatusSeeOther, x.teaches.signIn("marek", secret).Code)
	begin := func(name string, rings int) string {
		g := gradingday.Grading{ProgramID: h.program, Name: name, On: h.s.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 1, RungIDs: []string{h.yellow}}
		for r := range rings {
			g.Rings = append(g.Rings, gradingday.Ring{})
			for k := range 3 {
				g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprintf("%s %c%d", name, 'A'+r, k), Chief: k == 0, Ring: r})
			}
		}
		d, err := h.s.SaveGrading(bg, me, g)
		require.NoError(t, err)
		may, err := h.s.Eligible(bg, d.ID)
		require.NoError(t, err)
		for _, e := range may {
			_, err = h.s.AddCandidates(bg, me, d.ID, []store.Entrant{{EnrolmentID: e.EnrolmentID}})
			require.NoError(t, err)
		}
		_, err = h.s.Begin(bg, me, d.ID)
		require.NoError(t, err)
		return d.ID
	}
	x.day, x.foreign = begin("Day", 2), begin("Foreign", 1)
	g, err := h.s.Grading(bg, x.day)
	require.NoError(t, err)
	x.ring, x.otherRing = g.Rings[0].ID, g.Rings[1].ID
	x.chief, x.own, x.other = g.Panel(0)[0].ID, g.Panel(0)[1].ID, g.Panel(1)[0].ID
	all, err := h.s.Candidates(bg, x.day)
	require.NoError(t, err)
	for _, c := range all {
		if c.RingID == x.ring {
			x.candidate, x.groupA = c.ID, c.GroupID
		}
	}
	table, err := h.s.ScoringTable(bg, x.own, x.groupA)
	require.NoError(t, err)
	x.itemA = table.Items[0].ID
	foreign, err := h.s.Candidates(bg, x.foreign)
	require.NoError(t, err)
	x.stranger = foreign[0].ID
	return x
}

// join is a device that came in as an examiner.
func (x *hall) join(examiner string) *visitor {
	c, err := x.s.MakeCode(bg, me, examiner)
	require.NoError(x.t, err)
	v := x.browser()
	v.t = x.house.t.(*testing.T)
	page := v.do("GET", "/join/"+c.Spelt(), "")
	require.Equal(x.t, http.StatusOK, page.Code)
	require.Contains(x.t, page.Body.String(), "Join as")
	w := v.do("POST", "/join", "code="+c.Spelt())
	require.Equal(x.t, "/join", w.Header().Get("Location"), w.Body.String())
	return v
}

func (x *hall) body(id, examiner, candidate, item, value string) string {
	return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"","supersedes":""}]}`, id, candidate, examiner, item, value)
}

// TestWhatADayRefuses is the table of those who may not mark, and of what may not be marked.
func TestWhatADayRefuses(t *testing.T) {
	x := newHall(t)
	sits := x.join(x.own)
	foreign, err := x.s.Grading(bg, x.foreign)
	require.NoError(t, err)
	strange := x.join(foreign.Examiners[0].ID)
	marks := "/scoring/" + x.own + "/" + x.groupA + "/marks"
	good := x.body("mark-of-own", x.own, x.candidate, x.itemA, "3")
	require.Equal(t, http.StatusOK, sits.do("POST", marks, good).Code)
	require.Equal(t, http.StatusOK, sits.do("POST", marks, good).Code, "the same again is the same answer")

	used, err := x.s.MakeCode(bg, me, x.other)
	require.NoError(t, err)
	require.Equal(t, http.StatusSeeOther, x.browser().do("POST", "/join", "code="+used.Code).Code)

	// A sheet of the other ring that is signed.
	all, err := x.s.Candidates(bg, x.day)
	require.NoError(t, err)
	var b store.Candidate
	for _, c := range all {
		if c.RingID == x.otherRing {
			b = c
		}
	}
	signs := x.join(x.other)
	signed := "/scoring/" + x.other + "/" + b.GroupID
	require.Equal(t, http.StatusSeeOther, signs.do("POST", signed+"/sign", "request=sign-b&fill=1").Code)
	table, err := x.s.ScoringTable(bg, x.other, b.GroupID)
	require.NoError(t, err)
	home := x.join(x.chief)
	seats, err := x.s.Seats(bg, x.day)
	require.NoError(t, err)
	for _, s := range seats {
		if s.ExaminerID == x.chief {
			_, err := x.s.EndSeat(bg, me, s.ID)
			require.NoError(t, err)
		}
	}
	anybody := x.browser()
	for _, c := range []struct {
		name               string
		who                *visitor
		method, path, body string
		status             int
		holds              string
	}{
		{"signed out, the page", anybody, "GET", "/scoring/" + x.own + "/" + x.groupA, "", 303, ""},
		{"signed out, a mark", anybody, "POST", marks, good, 401, "not signed in"},
		{"signed out, the head table", anybody, "GET", "/head/" + x.day, "", 303, ""},
		{"who teaches, the page", x.teaches, "GET", "/scoring/" + x.own + "/" + x.groupA, "", 403, "Only the owner"},
		{"who teaches, a mark", x.teaches, "POST", marks, good, 403, "Only the owner"},
		{"who teaches, codes", x.teaches, "POST", "/gradings/" + x.day + "/codes", "x=1", 403, ""},
		{"who teaches, the review", x.teaches, "GET", "/review/" + x.day, "", 403, ""},
		{"another grading's examiner, the page", strange, "GET", "/scoring/" + x.own + "/" + x.groupA, "", 403, "one examiner"},
		{"another grading's examiner, the state", strange, "GET", "/scoring/" + x.own + "/" + x.groupA + "/state", "", 403, ""},
		{"another grading's examiner, a mark", strange, "POST", marks, good, 403, "one examiner"},
		{"another grading's examiner, in their own name", strange, "POST", "/scoring/" + foreign.Examiners[0].ID + "/" + x.groupA + "/marks", x.body("mark-strange", foreign.Examiners[0].ID, x.candidate, x.itemA, "3"), 409, "does not mark this candidate"},
		{"a neighbour's sheet", sits, "GET", "/scoring/" + x.chief + "/" + x.groupA + "/state", "", 403, ""},
		{"a neighbour's stream", sits, "GET", "/scoring/" + x.chief + "/" + x.groupA + "/live", "", 403, ""},
		{"a neighbour's marks under one's own address", sits, "POST", marks, x.body("mark-other", x.chief, x.candidate, x.itemA, "3"), 409, "another examiner"},
		{"an examiner, the head table", sits, "GET", "/head/" + x.day, "", 403, ""},
		{"an examiner, the review", sits, "GET", "/review/" + x.day, "", 403, ""},
		{"an examiner, the trail", sits, "GET", "/trail?grading=" + x.day, "", 403, ""},
		{"an examiner, the students", sits, "GET", "/students", "", 403, ""},
		{"an examiner, the grading", sits, "GET", "/gradings/" + x.day, "", 403, ""},
		{"an examiner, another ring's clock", sits, "POST", "/ring/" + x.otherRing + "/clock", `{"deed":"start","clock":{}}`, 403, ""},
		{"an examiner, another ring's bouts", sits, "GET", "/bouts/" + x.otherRing, "", 403, ""},
		{"a used code", x.browser(), "POST", "/join", "code=" + used.Code, 401, "was used already"},
		{"a used code, looked at", x.browser(), "GET", "/join/" + used.Spelt(), "", 404, "was used already"},
		{"a code that is none", x.browser(), "POST", "/join", "code=BBBBB-BBBBB", 401, "lets nobody in"},
		{"other content under the same id", sits, "POST", marks, strings.Replace(good, `"value":3`, `"value":4`, 1), 409, "sent before with other content"},
		{"a forged candidate", sits, "POST", marks, x.body("mark-forged", x.own, "forged", x.itemA, "3"), 409, "does not mark this candidate"},
		{"a candidate of another grading", sits, "POST", marks, x.body("mark-stranger", x.own, x.stranger, x.itemA, "3"), 409, "does not mark this candidate"},
		{"a second first mark", sits, "POST", marks, x.body("mark-blind", x.own, x.candidate, x.itemA, "4"), 409, "what stands now is 3"},
		{"a mark on a signed sheet", signs, "POST", signed + "/marks", x.body("mark-late", x.other, b.ID, table.Items[0].ID, "3"), 409, "is signed"},
		{"signing it again", signs, "POST", signed + "/sign", "request=sign-b-again&fill=1", 409, "signed already"},
		{"a device sent home, a mark", home, "POST", "/scoring/" + x.chief + "/" + x.groupA + "/marks", x.body("mark-home", x.chief, x.candidate, x.itemA, "3"), 401, "sent home"},
		{"a device sent home, the page", home, "GET", "/scoring/" + x.chief + "/" + x.groupA, "", 303, ""},
		{"an end by who is not the chief", sits, "POST", "/scoring/" + x.own + "/" + x.groupA + "/faults", fmt.Sprintf(`{"entries":[{"id":"fault-end","candidate":%q,"examiner":%q,"kind":"ending_confirmed","points":0,"text":"x","supersedes":"y"}]}`, x.candidate, x.own), 409, "by the chief examiner"},
		{"too many entries", sits, "POST", marks, `{"entries":[` + strings.TrimSuffix(strings.Repeat("{},", maxEntries+1), ",") + `]}`, 422, "must be 1 to 500"},
	} {
		w := c.who.do(c.method, c.path, c.body)
		assert.Equal(t, c.status, w.Code, "%s: %s", c.name, w.Body)
		assert.Contains(t, w.Body.String(), c.holds, c.name)
	}
	_, rows, err := x.s.Review(bg, x.day)
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
	x := newHall(t)
	v := x.join(x.own)
	page := v.do("GET", "/join", "").Body.String()
	assert.Contains(t, page, "/scoring/"+x.own+"/"+x.groupA)
	assert.NotContains(t, page, x.other)
	assert.Equal(t, "/join", v.do("GET", "/", "").Header().Get("Location"))
	shell := v.do("GET", "/scoring/"+x.own+"/"+x.groupA, "")
	assert.Equal(t, http.StatusOK, shell.Code)
	assert.NotContains(t, shell.Body.String(), "/gradings/", "there is no way from here to what is not theirs")
	assert.Equal(t, http.StatusOK, v.do("GET", "/paper/"+x.own+"/"+x.groupA, "").Code)
	assert.Equal(t, http.StatusOK, v.do("GET", "/ring/"+x.ring, "").Code)
	w := v.do("POST", "/ring/"+x.ring+"/clock", `{"deed":"set","clock":{"seconds":60,"rounds":1}}`)
	assert.Equal(t, http.StatusOK, w.Code, w.Body)
	w = v.do("POST", "/ring/"+x.ring+"/clock", `{"deed":"set","clock":{"seconds":0,"rounds":1}}`)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "it must be from 1 to 3600")
	assert.Equal(t, "/join?out=1", v.do("POST", "/leave", "").Header().Get("Location"))
	assert.Equal(t, http.StatusSeeOther, v.do("GET", "/scoring/"+x.own+"/"+x.groupA, "").Code)
	require.Equal(t, http.StatusSeeOther, v.signIn("rosa", secret).Code)
	head := v.do("GET", "/head/"+x.day, "").Body.String()
	assert.Contains(t, head, "sent home")
	assert.Equal(t, http.StatusSeeOther, v.do("POST", "/gradings/"+x.day+"/close", "request=close-day").Code)
	assert.Contains(t, v.do("GET", "/head/"+x.day, "").Body.String(), "All devices were sent home")
	w = v.do("POST", "/gradings/"+x.day+"/codes", "x=1")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), "is over")
	assert.Equal(t, http.StatusSeeOther, v.do("POST", "/gradings/"+x.day+"/close", "request=open-day&open=1").Code)
	w = v.do("POST", "/gradings/"+x.day+"/codes", "examiner="+x.own)
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
	x := newHall(t)
	own, owns := x.join(x.own), x.owns
	server := httptest.NewServer(owns.h)
	defer server.Close()
	ctx, cancel := context.WithTimeout(bg, time.Minute)
	defer cancel()
	listen := func(v *visitor, path string) *bufio.Scanner {
		r, err := http.NewRequestWithContext(ctx, "GET", server.URL+path, nil)
		require.NoError(t, err)
		r.Header.Set("Cookie", v.cookie)
		r.Header.Set("Accept", "text/event-stream")
		res, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, res.StatusCode)
		require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
		t.Cleanup(func() { res.Body.Close() })
		return bufio.NewScanner(res.Body)
	}
	head, table, ring := listen(owns, "/head/"+x.day+"/live"), listen(own, "/scoring/"+x.own+"/"+x.groupA+"/live"), listen(owns, "/ring/"+x.ring+"/live")
	told(t, head, func(m map[string]any) bool { return m["attend"].(map[string]any)[x.own] == 1.0 })
	told(t, table, func(m map[string]any) bool { return m["ring"] != nil })
	require.Equal(t, http.StatusOK, own.do("POST", "/scoring/"+x.own+"/"+x.groupA+"/marks", x.body("mark-stream", x.own, x.candidate, x.itemA, "4")).Code)
	m := told(t, table, func(m map[string]any) bool { return m["marks"] != nil })
	assert.Equal(t, 4.0, m["marks"].([]any)[0].(map[string]any)["value"])
	m = told(t, head, func(m map[string]any) bool { return m["marks"] == 1.0 })
	text, err := json.Marshal(m)
	require.NoError(t, err)
	assert.NotContains(t, string(text), `"value"`, "the head table is told no mark")
	require.Equal(t, http.StatusOK, own.do("POST", "/ring/"+x.ring+"/clock", `{"deed":"set","clock":{"seconds":90,"rounds":2,"rest":30,"cue":10}}`).Code)
	m = told(t, ring, func(m map[string]any) bool {
		return m["ring"].(map[string]any)["clock"].(map[string]any)["seconds"] == 90.0
	})
	assert.NotZero(t, m["ring"].(map[string]any)["now"])
	told(t, table, func(m map[string]any) bool { return m["ring"] != nil })

	// A device that is far behind is told to read all again, and nothing waits for it.
	h := &hub{}
	ch, leave, ok := h.listen("a")
	require.True(t, ok)
	for i := range 3 * behind {
		h.tell("a", i)
	}
	last := ""
	for len(ch) > 0 {
		last = string(<-ch)
	}
	assert.Equal(t, string(resync), last)
	leave()
	for range mostStreams {
		_, _, ok = h.listen("b")
		require.True(t, ok)
	}
	_, _, ok = h.listen("b")
	assert.False(t, ok, "streams are bounded")
}

// TestPanelRulesByForms plans a grading with every panel rule, and reads it back.
func TestPanelRulesByForms(t *testing.T) {
	h := newHouse(t).furnish()
	base := func(more ...string) string {
		v := values("program", h.program, "on", "2026-12-12", "marking", "movement_scale", "group_size", "3", "retest_days", "28", "rungs", h.yellow, "allowed_failing", "2", "panel", "majority", "tie", "chief",
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
		w := h.do("POST", "/gradings/new", c.body)
		require.Equal(t, http.StatusSeeOther, w.Code, "%s: %s", c.name, w.Body)
		id := regexp.MustCompile(`[0-9a-f]{20}`).FindString(w.Header().Get("Location"))
		g, err := h.s.Grading(bg, id)
		require.NoError(t, err)
		assert.True(t, c.want(g), "%s: %+v", c.name, g.Policy)
		assert.Contains(t, text(h.page("/gradings/"+id)), c.words, c.name)
		// The form to change it offers every field.
		edit := h.page("/gradings/" + id + "/edit")
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
		w := h.do("POST", "/gradings/new", c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, c.name)
		assert.Contains(t, text(w.Body.String()), c.holds, c.name)
		assert.Contains(t, w.Body.String(), "Cora Vane", "what was typed is kept")
	}
}

// TestReviewAndLaboratory walks the committee's screens.
func TestReviewAndLaboratory(t *testing.T) {
	x := newHall(t)
	assert.Contains(t, text(x.page("/review/"+x.day)), "Sealed until all have signed")
	assert.NotContains(t, x.page("/review/"+x.day), `class="plumb"`)
	g, err := x.s.Grading(bg, x.day)
	require.NoError(t, err)
	all, err := x.s.Candidates(bg, x.day)
	require.NoError(t, err)
	for _, c := range all {
		_, panel := g.PanelOf(c.RingID)
		for k, e := range panel {
			table, err := x.s.ScoringTable(bg, e.ID, c.GroupID)
			require.NoError(t, err)
			m := store.Mark{ID: store.NewID(), CandidateID: c.ID, ExaminerID: e.ID, ItemID: table.Items[0].ID, Kind: store.MarkGiven, Value: scoring.Whole(1 + k), Count: 30, Note: "steady"}
			if c.RingID != x.ring {
				m.Value = scoring.Whole(3)
			}
			require.NoError(t, x.s.RecordMarks(bg, me, []store.Mark{m}))
			_, err = x.s.Sign(bg, me, e.ID, c.GroupID, false)
			require.NoError(t, err)
		}
	}
	page := text(x.page("/review/" + x.day))
	assert.Contains(t, page, "Agree with the ticked 2", "nobody of them needs thought")
	lab := text(x.page("/lab/" + x.day + "?panel=majority&tie=chief&allowed_failing=0&honours=3"))
	assert.Contains(t, lab, "Nobody of 2 would change")
	lab = text(x.page("/lab/" + x.day + "?panel=mean&tie=chief&threshold=3&allowed_failing=2&honours=3"))
	assert.Contains(t, lab, "1 of 2 would change, 1 away from one")
	assert.Contains(t, lab, "the threshold is 3")
	w := x.do("GET", "/lab/"+x.day+"?panel=loudest", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	_, page = x.send("/review/"+x.day+"/agree", "agree", all[0].ID, "agree", all[1].ID, "decided_by", "Rosa")
	assert.Contains(t, text(page), "Announce 2 decided")
	_, page = x.send("/review/"+x.day+"/hold", "candidate", all[1].ID, "held", "1")
	assert.Contains(t, text(page), "held")
	w = x.do("POST", "/review/"+x.day+"/announce-at", "announce_at=tomorrow")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is no day and time")
	_, page = x.send("/review/"+x.day+"/announce-at", "announce_at", "2026-11-30T18:00")
	assert.Contains(t, text(page), "Known on Mon 30 Nov 2026 at 18:00")
	_, page = x.send("/review/"+x.day+"/announce-at", "announce_at", "")
	assert.Contains(t, text(page), "At a set time")
	early := text(x.page("/result/" + all[0].ID))
	assert.Contains(t, early, "Not announced yet")
	_, page = x.send("/review/"+x.day+"/announce", "candidate", all[0].ID)
	assert.Contains(t, text(page), "Correct this result")
	letter := text(x.page("/result/" + all[0].ID))
	for _, words := range []string{"Promoted to", "What", "steady", "Decided by Rosa"} {
		assert.Contains(t, letter, words)
	}
	assert.NotContains(t, letter, "points", "a letter holds no figure")
	w = x.do("POST", "/review/"+x.day+"/correct", values("candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "", "correcting", "1").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the result is corrected")
	_, page = x.send("/review/"+x.day+"/correct", "candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "two were swapped", "scope", "items")
	assert.Contains(t, text(page), "corrected by Rosa: two were swapped")
	trail := text(x.page("/trail?grading=" + x.day))
	for _, words := range []string{"(30 counted)", "corrected to retest by Rosa: two were swapped", "result announced"} {
		assert.Contains(t, trail, words)
	}
	assert.Contains(t, text(x.page("/trail?text=agreed")), "Agreed with 2 proposals of Day")
	assert.Contains(t, text(x.page("/trail?text=nothing+like+it")), "Nothing fits")

	// The family reads the same in plain words, and nobody else's.
	token, _, err := x.s.MakeLink(bg, me, all[0].StudentID, "Greta", 30)
	require.NoError(t, err)
	home := x.page("/family/" + token)
	assert.Contains(t, home, "/family/"+token+"/result/"+all[0].ID)
	assert.Contains(t, text(x.page("/family/"+token+"/result/"+all[0].ID)), "When to try again")
	for _, id := range []string{all[1].ID, x.stranger, "none"} {
		assert.Equal(t, http.StatusNotFound, x.do("GET", "/family/"+token+"/result/"+id, "").Code)
	}
	assert.Equal(t, http.StatusConflict, x.do("POST", "/paper/"+x.own+"/"+x.groupA+"/checked", "request=paper-x&typed=0").Code)
	x.send("/paper/"+x.own+"/"+x.groupA+"/checked", "request", "paper-y", "typed", "1", "differed", "1")
	assert.Contains(t, text(x.page("/trail?text=second+time")), "1 mark typed, 1 differed")
}

// TestBadInputOnTheDay is told in words, and nothing of it is written.
func TestBadInputOnTheDay(t *testing.T) {
	x := newHall(t)
	sits := x.join(x.own)
	fault := func(more string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"supersedes":"",%s}]}`, store.NewID(), x.candidate, x.own, more)
	}
	faults, clock, call := "/scoring/"+x.own+"/"+x.groupA+"/faults", "/ring/"+x.ring+"/clock", "/ring/"+x.ring+"/call"
	bout := func(more ...string) string { return values(more...).Encode() }
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
		{"a line before the first", call, fmt.Sprintf(`{"group":%q,"line":-1,"set":0,"version":0}`, x.groupA), 409, "none of its sheet"},
		{"a bout with oneself", "/bouts/" + x.ring, bout("a", x.candidate, "b", x.candidate, "rounds", "1", "seconds", "60"), 409, "two different people"},
		{"a bout of nobody", "/bouts/" + x.ring, bout("rounds", "1", "seconds", "60"), 409, "two different people"},
		{"a bout of a stranger", "/bouts/" + x.ring, bout("a", x.stranger, "partner", "Nell", "rounds", "1", "seconds", "60"), 409, "candidates of this ring"},
		{"a bout of lots of rounds", "/bouts/" + x.ring, bout("a", x.candidate, "partner", "Nell", "rounds", "lots", "seconds", "60"), 422, "is not a whole number"},
		{"a point in no bout", "/bouts/" + x.ring + "/events", `{"entries":[{"id":"event-one","bout":"none","kind":"point","side":"a","round":1,"points":1,"text":"","supersedes":""}]}`, 404, "not on record"},
		{"a point for nobody", "/bouts/" + x.ring + "/events", `{"entries":[{"id":"event-two","bout":"none","kind":"point","side":"x","round":1,"points":1,"text":"","supersedes":""}]}`, 409, "no event of a bout"},
		{"a count below nothing", "/scoring/" + x.own + "/" + x.groupA + "/marks", strings.Replace(x.body("mark-count", x.own, x.candidate, x.itemA, "3"), `"note"`, `"count":-1,"note"`, 1), 422, "from 0 to 100000"},
	} {
		w := sits.do("POST", c.path, c.body)
		assert.Equal(t, c.status, w.Code, "%s: %s", c.name, w.Body)
		assert.Contains(t, text(w.Body.String()), c.holds, c.name)
	}
	h, err := x.s.Head(bg, x.day)
	require.NoError(t, err)
	assert.Empty(t, h.Faults)
	for _, s := range h.Tables {
		assert.Zero(t, s.Given)
	}
	all, err := x.s.Bouts(bg, x.ring)
	require.NoError(t, err)
	assert.Empty(t, all)
	// A bout that can be held keeps its clock; the ring's page says what nobody saw.
	require.Equal(t, http.StatusSeeOther, sits.do("POST", "/bouts/"+x.ring, bout("a", x.candidate, "partner", "Nell Ford", "rounds", "2", "seconds", "45", "rest", "15")).Code)
	page := sits.do("GET", "/bouts/"+x.ring, "").Body.String()
	assert.Contains(t, text(page), "Nell Ford")
	assert.Contains(t, text(page), "2 × 45 s")
	r, err := x.s.Ring(bg, x.ring)
	require.NoError(t, err)
	assert.Equal(t, []int{45, 2, 15}, []int{r.State.Clock.Seconds, r.State.Clock.Rounds, r.State.Clock.Rest})
	g, err := x.s.Grading(bg, x.day)
	require.NoError(t, err)
	for _, e := range g.Panel(0) {
		require.NoError(t, x.s.RecordMarks(bg, me, []store.Mark{{ID: store.NewID(), CandidateID: x.candidate, ExaminerID: e.ID, ItemID: x.itemA, Kind: store.MarkNotSeen}}))
	}
	again := sits.do("GET", "/ring/"+x.ring+"/again", "")
	assert.Equal(t, http.StatusOK, again.Code)
	assert.Contains(t, again.Body.String(), "line 1, Kick")
	assert.Contains(t, text(x.page("/head/"+x.day)), "↻ seen by nobody: line 1, Kick")
}
