package web_test

import (
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestEveryScreenHasItsFiles: each template is a screen that a handler of its folder shows, and each script
// belongs to one and does something of its own.
func TestEveryScreenHasItsFiles(t *testing.T) {
	screens := 0
	folders, err := filepath.Glob("*/*.html")
	require.NoError(t, err)
	code := map[string]string{}
	for _, path := range folders {
		folder, name := filepath.Dir(path), strings.TrimSuffix(filepath.Base(path), ".html")
		if name == "partials" || name == "layout" {
			continue
		}
		screens++
		files, err := filepath.Glob(folder + "/*.go")
		require.NoError(t, err)
		for _, f := range files {
			if code[folder] == "" || !strings.Contains(code[folder], "// "+f) {
				text, err := os.ReadFile(f)
				require.NoError(t, err)
				code[folder] += "// " + f + "\n" + string(text)
			}
		}
		if name != "result" { // the parts hold it, for the review and for the family
			assert.Contains(t, code[folder], fmt.Sprintf("Screen: %q", name), "no handler of %s shows this screen", folder)
		}
	}
	assert.Greater(t, screens, 60)
	scripts, err := filepath.Glob("*/*.js")
	require.NoError(t, err)
	require.NotEmpty(t, scripts)
	for _, s := range scripts {
		own, err := os.ReadFile(s)
		require.NoError(t, err)
		assert.NotEqual(t, `import "./lib/shell.js";`, strings.TrimSpace(string(own)), "%s does nothing of its own", s)
		assert.FileExists(t, strings.TrimSuffix(s, ".js")+".html")
	}
}

func TestTemplatesHoldNoInlineScriptOrStyle(t *testing.T) {
	files, err := filepath.Glob("*/*.html")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	bad := regexp.MustCompile(`(?i)\sstyle\s*=|<style|\son[a-z]+\s*=|javascript:|<script(?:[^>]*)>[^<]|https?://`)
	for _, f := range files {
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		assert.Empty(t, bad.FindString(string(text)), f)
	}
}

func TestRoutesDeclareARole(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range web.Routes() {
		assert.NotEmpty(t, r.May, r.Path)
		assert.False(t, seen[r.Method+r.Path], r.Path)
		seen[r.Method+r.Path] = true
	}
}

func TestSecurityHeadersAndCrossSiteRequests(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	w := h.Do("GET", "/ladder", "")
	csp := w.Header().Get("Content-Security-Policy")
	assert.Contains(t, csp, "script-src 'self'")
	assert.Contains(t, csp, "worker-src 'self'")
	assert.NotContains(t, csp, "unsafe")
	assert.Equal(t, "no-store", w.Header().Get("Cache-Control"))
	r := httptest.NewRequest("POST", "/students/new", strings.NewReader("name=Mallory"))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	out := httptest.NewRecorder()
	h.ServeHTTP(out, r)
	assert.Equal(t, http.StatusForbidden, out.Code)
	worker := h.Do("GET", "/sw.js", "")
	assert.Contains(t, worker.Header().Get("Content-Type"), "javascript")
	lists := regexp.MustCompile(`^const \[screens, shipped\] = (.*);\n`).FindStringSubmatch(worker.Body.String())
	require.NotNil(t, lists)
	var kept [2][]string
	require.NoError(t, json.Unmarshal([]byte(lists[1]), &kept))
	assert.ElementsMatch(t, []string{"register", "signoffs", "checkin", "caller", "scoring", "paper", "ring", "bouts", "join", "kept", "calibration"}, kept[0])
	assert.Greater(t, len(kept[1]), 20)
	for _, file := range kept[1] {
		assert.Equal(t, http.StatusOK, h.Do("GET", file, "").Code, file)
	}
	for _, needed := range []string{"/js/scoring.js", "/js/lib/queue.js", "/css/app.css"} {
		assert.Contains(t, lists[1], needed)
	}
	assert.NotContains(t, lists[1], "/js/review.js")
	assert.Equal(t, http.StatusOK, h.Do("HEAD", "/ladder", "").Code)
	asset := regexp.MustCompile(`/static/[0-9a-f]+/css/app.css`).FindString(w.Body.String())
	assert.Contains(t, h.Do("GET", asset, "").Header().Get("Cache-Control"), "immutable")
	for _, path := range []string{"/static/x/../web.go", "/static/x/..%2fweb.go", "/static/", "/static/x/css", "/static/x/none.css"} {
		assert.Equal(t, http.StatusNotFound, h.Do("GET", path, "").Code, path)
	}
}

func TestForeignTextIsEscapedEverywhere(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Store.NameSchool(webtest.Ctx, webtest.Me, webtest.Nasty)
	for _, path := range []string{"/ladder/" + h.Yellow, "/sheet/" + h.Yellow, "/rungs/" + h.Yellow, "/programs/" + h.Program, "/requirements/" + h.Requirement, "/techniques", "/techniques/" + h.Technique, "/techniques/" + h.Technique + "/edit",
		"/binder/" + h.Yellow, "/difference/" + h.Yellow, "/difference", "/load", "/booklet", "/booklet/" + h.Yellow,
		"/students?of=everybody", "/students/" + h.Student, "/students/" + h.Student + "/edit", "/gradings", "/gradings/" + h.Grading, "/scoring/" + h.Examiner + "/" + h.Group, "/review/" + h.Grading, "/find?q=" + url.QueryEscape("<script>")} {
		w := h.Do("GET", path, "")
		assert.Equal(t, http.StatusOK, w.Code, path)
		assert.NotContains(t, w.Body.String(), "<script>", path)
		assert.Contains(t, w.Body.String(), "&lt;script&gt;", path)
	}
}

func TestNothingAnswersWithAnErrorOfOurs(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	empty := webtest.NewHouse(t)
	filled := regexp.MustCompile(`\{[a-z]+\}`)
	for _, rt := range web.Routes() {
		if strings.Contains(rt.Path, "*") {
			continue
		}
		for _, id := range []string{"nope", "%00", "'%20OR%201=1--", strings.Repeat("x", 3000)} {
			path := filled.ReplaceAllString(rt.Path, id)
			for _, x := range []*webtest.House{h, empty} {
				if x == empty && id != "nope" { // one strange address is enough where nothing is on record
					continue
				}
				for _, body := range []string{"", "name=x&rung=zz&amount=%FF&on=zz&weight=9999999999999999999&places=x&candidate=a&candidate=b", `{"entries":[{}]}`, `{"marks":`} {
					if rt.Method == "GET" && body != "" {
						continue
					}
					w := x.Do(rt.Method, path, body)
					assert.Less(t, w.Code, 500, "%s %s %q: %s", rt.Method, path, body, w.Body)
					assert.NotEmpty(t, w.Body.String()+w.Header().Get("Location"), "%s %s", rt.Method, path)
				}
			}
		}
	}
}

func TestBadInputIsToldAndKept(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	own, err := h.Store.Standings(webtest.Ctx, h.Student)
	require.NoError(t, err)
	mark := func(value, kind, item string) string {
		return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":%q,"value":%s,"note":"","supersedes":""}]}`, store.NewID(), h.Candidate, h.Examiner, item, kind, value)
	}
	marks := "/scoring/" + h.Examiner + "/" + h.Group + "/marks"
	long := strings.Repeat("n", 10_000)
	for _, c := range []struct {
		name, path, body string
		status           int
		holds            []string
	}{
		{"an empty name", "/students/new", "name=+&stance=orthodox&guardian=Keep+Me", 422, []string{"is empty", "Keep Me"}},
		{"a name of 10,000 characters", "/students/new", "name=" + long + "&stance=orthodox", 422, []string{"has 10000 characters", long}},
		{"a birth date in the future", "/students/new", "name=Eve&stance=orthodox&birth_date=2031-01-01", 422, []string{"lies in the future", `value="2031-01-01"`}},
		{"a birth date that is none", "/students/new", "name=Eve&stance=orthodox&birth_date=31.2.2015", 422, []string{"write it as YYYY-MM-DD", "31.2.2015"}},
		{"a height that is none", "/students/new", "name=Eve&stance=orthodox&height_cm=tall", 422, []string{"is not a whole number", `value="tall"`}},
		{"two rungs of one name", "/rungs/new", "program=" + h.Program + "&name=WHITE++belt&kind=belt&weave=plain&colour=%23ffffff&position=top&mark_count=0", 422, []string{"already the name of another rung", "WHITE  belt"}},
		{"a colour that is none", "/rungs/new", "program=" + h.Program + "&name=New&kind=belt&weave=plain&colour=red&position=top&mark_count=0", 422, []string{"is not a colour"}},
		{"eleven marks on a belt", "/rungs/new", "program=" + h.Program + "&name=New&kind=belt&weave=plain&colour=%23ffffff&mark_count=11", 422, []string{"must be from 0 to 10"}},
		{"an amount that is none", "/requirements/new", "rung=" + h.Yellow + "&section=" + h.Section + "&technique=Palm&amount=lots&role=performer&weight=1", 422, []string{"write for example 5 a side", `value="lots"`, `value="Palm"`}},
		{"must pass and bonus", "/requirements/new", "rung=" + h.Yellow + "&section=" + h.Section + "&technique=Palm&amount=5&role=performer&weight=1&bonus=1&must_pass=1", 422, []string{"a bonus line cannot fail anybody"}},
		{"a grading without rungs or panel", "/gradings/new", "program=" + h.Program + "&on=2026-12-12&marking=movement_scale&group_size=3&retest_days=28", 422, []string{"choose at least one rung", "1, 3 or 5"}},
		{"a panel of two", "/gradings/new", "program=" + h.Program + "&on=2026-12-12&marking=movement_scale&group_size=3&retest_days=28&rungs=" + h.Yellow + "&examiner=A+Vane&examiner=B+Weir", 422, []string{"2 are named", "A Vane"}},
		{"points without a threshold", "/gradings/new", "program=" + h.Program + "&on=2026-12-12&marking=category_points&group_size=3&retest_days=28&rungs=" + h.Yellow + "&examiner=A", 422, []string{"held against a sum"}},
		{"a mark off the scale", marks, mark("7", "mark", h.Item), 422, []string{"the scale is 0 to 4"}},
		{"half a mark where there are none", marks, mark("2.5", "mark", h.Item), 422, []string{"is not a mark here"}},
		{"a mark that is no number", marks, mark(`"x"`, "mark", h.Item), 422, []string{"cannot be read"}},
		{"a mark with fifty digits", marks, mark("1e400", "mark", h.Item), 422, []string{"cannot be read"}},
		{"a mark on a foreign item", marks, mark("2", "mark", "forged"), 409, []string{"not on Ada"}},
		{"a mark of a kind that is none", marks, mark("2", "guess", h.Item), 422, []string{"is not a choice"}},
		{"no mark at all", marks, `{"entries":[]}`, 422, []string{"must be 1 to 500"}},
		{"a field that is none", marks, `{"entries":[],"more":1}`, 422, []string{"cannot be read"}},
		{"a form instead of JSON", marks, "marks=1", 422, []string{"application/json"}},
		{"a table of another examiner", "/scoring/other/" + h.Group + "/marks", mark("2", "mark", h.Item), 409, []string{"another examiner"}},
		{"signing with marks missing", "/scoring/" + h.Examiner + "/" + h.Group + "/sign", "request=r", 409, []string{"2 marks still to be given"}},
		{"deleting a rung with students", "/rungs/" + h.White + "/delete", "", 409, []string{"2 students stand on it"}},
		{"a rank corrected to nothing", "/enrolments/" + own[0].EnrolmentID + "/correct", "student=" + h.Student + "&on=2026-01-01&reason=so", 422, []string{"is not chosen", `value="so"`}},
		{"deciding before the sheets are signed", "/review/" + h.Grading + "/decide", "candidate=" + h.Candidate + "&outcome=promote&decided_by=C", 409, []string{"has not signed"}},
		{"announcing nothing", "/review/" + h.Grading + "/announce", "", 409, []string{"Nothing is decided"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			w := h.Do("POST", c.path, c.body)
			assert.Equal(t, c.status, w.Code)
			for _, text := range c.holds {
				assert.Contains(t, w.Body.String(), text)
			}
		})
	}
	rows, total, err := h.Store.Students(webtest.Ctx, "", "", 100, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, total, "nothing was half-written: %v", rows)
}

func TestAFormPostedTwice(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	first := h.Do("POST", "/students/new", "request=abcdefgh&name=Eve&stance=orthodox")
	again := h.Do("POST", "/students/new", "request=abcdefgh&name=Eve&stance=orthodox")
	assert.Equal(t, http.StatusSeeOther, first.Code)
	assert.Equal(t, first.Header().Get("Location"), again.Header().Get("Location"))
	other := h.Do("POST", "/students/new", "request=abcdefgh&name=Mallory&stance=orthodox")
	assert.Equal(t, http.StatusConflict, other.Code)
	_, total, err := h.Store.Students(webtest.Ctx, "", "", 100, 0)
	require.NoError(t, err)
	assert.Equal(t, 3, total)
	// The page that follows offers to undo, and undoing takes the student out again.
	page := h.Do("GET", first.Header().Get("Location"), "").Body.String()
	entry := regexp.MustCompile(`name="entry" value="([0-9a-f]+)"`).FindStringSubmatch(page)
	require.NotNil(t, entry)
	w := h.Do("POST", "/undo", "entry="+entry[1]+"&back=//evil.example/")
	assert.True(t, strings.HasPrefix(w.Header().Get("Location"), "/?done="), "only addresses of this site: %s", w.Header().Get("Location"))
	_, total, err = h.Store.Students(webtest.Ctx, "", "", 100, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, total)
}

// BenchmarkPages5000Students asks for the pages of a large school whose students come to class and
// climb under several rules.
func BenchmarkPages5000Students(b *testing.B) {
	h := webtest.NewHouse(b).Furnish()
	var all []store.NewStudent
	for i := range 5000 {
		all = append(all, store.NewStudent{Student: progress.Student{Name: fmt.Sprintf("Student %04d", i), Stance: progress.Orthodox, BirthDate: civil.MustParse("2014-05-06")}, Starts: []store.Start{{RungID: h.White, Since: civil.MustParse("2026-01-01")}}})
	}
	_, err := h.Store.AddStudents(webtest.Ctx, webtest.Me, all)
	require.NoError(b, err)
	h.Rules("rule_months_since", "3", "rule_classes", "12", "rule_signed_off", "1", "rule_least_age", "7", "rule_membership", "1")
	class := h.Evening("Evening")
	people, _, err := h.Store.Students(webtest.Ctx, h.Program, "", 10_000, 0)
	require.NoError(b, err)
	var came []gradingday.Attendance
	for week := range 20 {
		for i, s := range people {
			if (i+week)%4 == 0 {
				came = append(came, gradingday.Attendance{ID: store.NewID(), ClassID: class, On: h.Store.Today().AddDays(-7 * week), StudentID: s.ID, State: gradingday.Present, Mode: timetable.Hall})
			}
		}
	}
	refused, err := h.Store.RecordAttendance(webtest.Ctx, webtest.Me, came)
	require.NoError(b, err)
	require.Empty(b, refused)
	for name, path := range map[string]string{"insights": "/insights", "student": "/students/" + h.Student, "classes": "/classes", "plan": "/plan/" + class + "/2026-11-24", "ladder": "/ladder/" + h.Yellow, "scoring": "/scoring/" + h.Examiner + "/" + h.Group, "scoring state": "/scoring/" + h.Examiner + "/" + h.Group + "/state", "students": "/students", "who may be tested": "/eligible", "review": "/review/" + h.Grading, "static (the bare handler)": "/static/x/icons/ladder.svg"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if w := h.Do("GET", path, ""); w.Code != http.StatusOK {
					b.Fatal(w.Code)
				}
			}
		})
	}
}

func TestEmptyScreensOfferTheFirstStep(t *testing.T) {
	h := webtest.NewHouse(t)
	for path, said := range map[string]string{"/ladder": "Add the first program", "/students": "Add a student", "/techniques": "No technique is on record", "/gradings": "First the ladder needs two rungs", "/find": "Type part of a name", "/find?q=zz": "has this in its name"} {
		assert.Contains(t, webtest.Text(h.Page(path)), said, path)
	}
	assert.Contains(t, webtest.Text(h.Do("GET", "/no/such", "").Body.String()), "This is not on record")
	assert.Equal(t, http.StatusMethodNotAllowed, h.Do("POST", "/ladder", "").Code)
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

func TestAFullDiskIsSaid(t *testing.T) {
	for _, err := range []error{store.ErrNoRoom, fmt.Errorf("write: %w", store.ErrNoRoom)} {
		status, title, text := frame.Explain(err)
		assert.Equal(t, http.StatusInsufficientStorage, status)
		assert.Equal(t, "The disk is full", title)
		assert.Contains(t, text, "nothing that was stored before is lost")
	}
	status, _, _ := frame.Explain(os.ErrPermission)
	assert.Equal(t, http.StatusServiceUnavailable, status)
}
