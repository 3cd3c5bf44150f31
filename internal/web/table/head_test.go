package table_test

import (
	"bufio"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

// TestADeviceOfAnExaminer sees its own sheets, leaves, and is somebody else's afterwards.
func TestADeviceOfAnExaminer(t *testing.T) {
	x := webtest.NewHall(t)
	v := x.Join(x.Own)
	page := v.Do("GET", "/join", "").Body.String()
	assert.Contains(t, page, "/scoring/"+x.Own+"/"+x.GroupA)
	assert.NotContains(t, page, x.Other)
	assert.Equal(t, "/join?why=in-place", v.Do("GET", "/", "").Header().Get("Location"))
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
	defer server.CloseClientConnections()
	listen := func(v *webtest.Visitor, path string) *bufio.Scanner {
		res := v.Listen(server, path)
		require.Equal(t, http.StatusOK, res.StatusCode)
		require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
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

// TestStreamsEndWithTheAccess: within a second of being sent home, signed out, or taken off the list of those who sign in, a
// device hears nothing more; others go on.
func TestStreamsEndWithTheAccess(t *testing.T) {
	x := webtest.NewHall(t)
	seat, owns, teaches, again := x.Join(x.Own), x.Owns, x.Teaches, x.Browser()
	require.Equal(t, http.StatusSeeOther, again.SignIn("marek", webtest.Secret).Code)
	server := httptest.NewServer(owns.H)
	defer server.Close()
	defer server.CloseClientConnections()
	open := func(v *webtest.Visitor, path string) *http.Response { return v.Listen(server, path) }
	listen := func(v *webtest.Visitor, path string) chan string {
		res := open(v, path)
		require.Equal(t, http.StatusOK, res.StatusCode)
		ended := make(chan string, 1)
		go func() {
			lines, last := bufio.NewScanner(res.Body), ""
			for lines.Scan() {
				if lines.Text() != "" {
					last = lines.Text()
				}
			}
			ended <- last
		}()
		return ended
	}
	ends := func(ended chan string, what string) {
		t.Helper()
		select {
		case last := <-ended:
			assert.Equal(t, `data: {"ended":true}`, last, what)
		case <-time.After(time.Second + 2*time.Second): // a busy machine is given time; what is meant is a second
			t.Fatal(what + " goes on")
		}
	}
	ring := "/ring/" + x.Ring + "/live"
	head, table, one, two := listen(owns, "/head/"+x.Day+"/live"), listen(seat, "/scoring/"+x.Own+"/"+x.GroupA+"/live"), listen(teaches, ring), listen(again, ring)
	page := owns.Do("GET", "/head/"+x.Day, "").Body.String()
	id := regexp.MustCompile(`/seats/([0-9a-f]+)/end`).FindStringSubmatch(page)
	require.NotNil(t, id)
	require.Equal(t, http.StatusSeeOther, owns.Do("POST", "/seats/"+id[1]+"/end", "").Code)
	ends(table, "a device that was sent home")
	teaches.Do("POST", "/sign-out", "")
	ends(one, "a device that signed out")
	select {
	case <-two:
		t.Fatal("his other device is signed in")
	case <-head:
		t.Fatal("the head table is let in")
	case <-time.After(time.Second):
	}
	people, err := x.Store.People(webtest.Ctx)
	require.NoError(t, err)
	for _, p := range people {
		if p.SignIn == "marek" {
			require.Equal(t, http.StatusSeeOther, owns.Do("POST", "/people/"+p.ID+"/delete", "").Code)
		}
	}
	ends(two, "somebody who is taken off the list")

	// One device cannot take the lines of all.
	codes := map[int]int{}
	for range 20 {
		codes[open(owns, "/ring/"+x.Ring+"/live").StatusCode]++
	}
	assert.Equal(t, map[int]int{http.StatusOK: 11, http.StatusTooManyRequests: 9}, codes, "twelve with the head table's")
	assert.Equal(t, http.StatusOK, open(x.Join(x.Other), "/ring/"+x.OtherRing+"/live").StatusCode, "others are heard")
}
