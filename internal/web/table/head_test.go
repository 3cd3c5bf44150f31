package table_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
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
