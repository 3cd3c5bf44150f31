package web_test

import (
	"crypto/sha256"
	"database/sql"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"testing"

	_ "github.com/ncruces/go-sqlite3/driver"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// recordsSum is what stands in all tables but those of sessions, which keep no records.
func recordsSum(t *testing.T, db *sql.DB) string {
	sum := sha256.New()
	tables, err := db.Query(`SELECT name FROM sqlite_schema WHERE type = 'table' AND name <> 'sessions' ORDER BY name`)
	require.NoError(t, err)
	defer tables.Close()
	var names []string
	for tables.Next() {
		var n string
		require.NoError(t, tables.Scan(&n))
		names = append(names, n)
	}
	for _, n := range names {
		rows, err := db.Query(`SELECT * FROM "` + n + `"`)
		require.NoError(t, err)
		columns, err := rows.Columns()
		require.NoError(t, err)
		for rows.Next() {
			values, into := make([]any, len(columns)), make([]any, len(columns))
			for i := range values {
				into[i] = &values[i]
			}
			require.NoError(t, rows.Scan(into...))
			fmt.Fprintln(sum, n, values)
		}
		require.NoError(t, rows.Err())
		rows.Close()
	}
	return fmt.Sprintf("%x", sum.Sum(nil))
}

// TestRolesByRoute asks for every route that there is as everybody who may not use it, with the ids of what is really on record, by forms,
// by JSON and as a browser does: each is refused, and not a byte of the records is another afterwards.
func TestRolesByRoute(t *testing.T) {
	golden.Alone(t)
	x := webtest.NewHall(t)
	seat, sentHome, nobody := x.Join(x.Own), x.Join(x.Chief), x.Browser()
	g, err := x.Store.Head(webtest.Ctx, x.Day)
	require.NoError(t, err)
	require.NotEmpty(t, g.Groups)
	seats, err := x.Store.Seats(webtest.Ctx, x.Day)
	require.NoError(t, err)
	at := slices.IndexFunc(seats, func(s store.Seat) bool { return s.ExaminerID == x.Chief })
	require.GreaterOrEqual(t, at, 0)
	_, err = x.Store.EndSeat(webtest.Ctx, webtest.Me, seats[at].ID)
	require.NoError(t, err)
	other, err := x.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Una Weir", Contact: "una@weir.example", Limits: "a canary knee", Stance: progress.Orthodox})
	require.NoError(t, err)
	class := x.Evening("Evening")
	token, link, err := x.Store.MakeLink(webtest.Ctx, webtest.Me, x.Student, "Greta", 30)
	require.NoError(t, err)
	people, err := x.Store.People(webtest.Ctx)
	require.NoError(t, err)
	ids := map[string]string{
		"{student}": other.ID, "{enrolment}": x.Enrolment, "{rung}": x.Yellow, "{technique}": x.Technique, "{requirement}": x.Requirement, "{section}": x.Section, "{program}": x.Program,
		"{grading}": x.Day, "{candidate}": x.Candidate, "{group}": x.GroupA, "{examiner}": x.Other, "{ring}": x.OtherRing, "{class}": class, "{on}": x.Store.Today().String(),
		"{person}": people[0].ID, "{seat}": seats[0].ID, "{link}": link.ID, "{token}": token, "{kind}": "scoresheets.pdf",
	}
	filled := regexp.MustCompile(`\{[a-z]+\}`)
	fill := func(path string, own bool) string {
		return filled.ReplaceAllStringFunc(path, func(name string) string {
			switch {
			case own && name == "{examiner}":
				return x.Own
			case own && name == "{ring}":
				return x.Ring
			case ids[name] != "":
				return ids[name]
			}
			return "0123456789abcdef0123"
		})
	}
	db, err := sql.Open("sqlite3", "file:"+(&url.URL{Path: x.Path}).EscapedPath()+"?mode=ro")
	require.NoError(t, err)
	defer db.Close()
	before := recordsSum(t, db)
	asked := 0
	for _, rt := range web.Routes() {
		inPlace := regexp.MustCompile(`\{examiner\}|\{ring\}`).MatchString(rt.Path)
		for who, v := range map[string]*webtest.Visitor{"nobody": nobody, "an instructor": x.Teaches, "an examiner": seat, "an examiner who was sent home": sentHome} {
			own := who == "an examiner who was sent home" // and was at their own place
			switch {
			case rt.May == frame.Anyone && (who != "nobody" || rt.Method == http.MethodGet), rt.May == frame.Family:
				continue
			case who == "an instructor" && rt.May != frame.Owner && rt.May != frame.Examiner:
				continue
			case who == "an examiner" && (rt.May == frame.Examiner || rt.May == frame.Ringside) && !inPlace:
				continue
			}
			path := fill(rt.Path, own)
			answers := []*httptest.ResponseRecorder{v.Do(rt.Method, path, "")}
			if rt.Method == http.MethodPost {
				answers = append(answers, v.Do(rt.Method, path, "{}"), v.Form(path, url.Values{"name": {"Mallory"}, "confirm": {"Una Weir"}, "request": {"0123456789"}}))
			}
			for _, w := range answers {
				asked++
				if rt.May == frame.Anyone {
					continue // may be used; it is what it leaves behind that is looked at
				}
				refused := w.Code == http.StatusUnauthorized || w.Code == http.StatusForbidden || w.Code == http.StatusTooManyRequests ||
					w.Code == http.StatusSeeOther && regexp.MustCompile(`^/(sign-in\?back|join\?why=)`).MatchString(w.Header().Get("Location"))
				assert.True(t, refused, "%s: %s %s is answered %d %s", who, rt.Method, path, w.Code, w.Header().Get("Location"))
				assert.NotRegexp(t, "canary knee|weir.example", w.Body.String(), "%s: %s %s", who, rt.Method, path)
			}
		}
		after := recordsSum(t, db)
		require.Equal(t, before, after, "%s %s left something behind", rt.Method, rt.Path)
	}
	assert.Greater(t, asked, 1000)
	t.Log(asked, "requests")
	// The sum can tell: one thing that is allowed changes it.
	x.Owns.Do("POST", "/settings", "name=Marrowby")
	assert.NotEqual(t, before, recordsSum(t, db))
}
