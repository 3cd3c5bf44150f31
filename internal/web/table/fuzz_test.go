package table_test

import (
	"strings"
	"testing"

	"velvetladder/internal/web/webtest"
)

// FuzzTablets sends whatever a tablet may send, to the screens that take it: each answers, in words, and none falls over.
func FuzzTablets(f *testing.F) {
	h := webtest.NewHouse(f).Furnish()
	g, err := h.Store.Grading(webtest.Ctx, h.Grading)
	if err != nil {
		f.Fatal(err)
	}
	ring := g.Rings[0].ID
	for _, seed := range []string{
		`{"entries":[{"id":"0123456789abcdef0123","candidate":"` + h.Candidate + `","examiner":"` + h.Examiner + `","item":"` + h.Item + `","kind":"mark","value":3,"note":"","supersedes":""}]}`,
		`{"entries":[{"id":"0123456789abcdef0124","candidate":"` + h.Candidate + `","examiner":"` + h.Examiner + `","item":"` + h.Item + `","kind":"count","count":9,"ticked":["x"],"faults":[0]}]}`,
		`{"entries":[{"id":"0123456789abcdef0125","candidate":"` + h.Candidate + `","kind":"conduct","text":"x","points":1,"at":"2026-11-24T12:00:00Z"}]}`,
		`{"hand":"seat x","entries":[]}`, `{"entries":[null]}`, `[]`, `{"deed":"start","clock":{"left":90}}`, `{"call":{"group":"` + h.Group + `","item":0}}`, `{"entries":[{"id":1e99}]}`,
	} {
		f.Add(seed)
	}
	paths := []string{"/scoring/" + h.Examiner + "/" + h.Group + "/marks", "/scoring/" + h.Examiner + "/" + h.Group + "/faults", "/ring/" + ring + "/clock", "/ring/" + ring + "/call", "/bouts/" + ring + "/events", "/kept/stored"}
	f.Fuzz(func(t *testing.T, in string) {
		if !strings.HasPrefix(in, "{") {
			in = "{" + in
		}
		for _, p := range paths {
			if w := h.Do("POST", p, in); w.Code >= 500 {
				t.Fatalf("%s %s: %d %s", p, in, w.Code, w.Body)
			}
		}
	})
}
