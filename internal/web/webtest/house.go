// Package webtest is a school and a browserless client for the tests of screens.
package webtest

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"log/slog"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
)

// Ctx and Me are what the tests ask the store with.
var (
	Ctx = context.Background()
	Me  = store.By{Actor: "tester"}
)

// Clock is the hour of every test: a Tuesday at noon.
func Clock() time.Time { return time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC) }

// Nasty is what a stranger may type; no page may run it.
const Nasty = `<script>alert("x")</script>`

// House is the application over a small school with a grading under way.
type House struct {
	http.Handler
	T                                            testing.TB
	Store                                        *store.Store
	Program, White, Yellow, Section, Technique   string
	Requirement, Student, Grading, Candidate     string
	Examiner, Group, Item, Enrolment, Candidate2 string
	Path                                         string // of the database file
}

// NewHouse is the application over a school with nothing in it.
func NewHouse(t testing.TB) *House { return HouseOf(t, &Empty) }

// HouseOf is the application over a copy of a school.
func HouseOf(t testing.TB, x *furnished) *House {
	path := x.copy(t)
	s, err := store.Open(Ctx, path, Clock)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	h, err := web.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}})
	require.NoError(t, err)
	return &House{Handler: h, T: t, Store: s, Path: path}
}

// furnished is a database that is made once and copied for each test.
type furnished struct {
	once sync.Once
	file []byte
	fill func(testing.TB, *store.Store)
}

func (x *furnished) copy(t testing.TB) string {
	x.once.Do(func() {
		path := filepath.Join(t.TempDir(), "template.db")
		s, err := store.Open(Ctx, path, Clock)
		require.NoError(t, err)
		x.fill(t, s)
		require.NoError(t, s.Close()) // so that all of it stands in the one file
		x.file, err = os.ReadFile(path)
		require.NoError(t, err)
	})
	path := filepath.Join(t.TempDir(), "school.db")
	require.NoError(t, os.WriteFile(path, x.file, 0o600))
	return path
}

// Empty is a school with nothing in it.
var Empty = furnished{fill: func(testing.TB, *store.Store) {}}

// Later is the same school under a clock that is some days ahead, or behind.
func (h *House) Later(days int) *store.Store { return h.At(Clock().AddDate(0, 0, days)) }

// At is the same school at another time.
func (h *House) At(at time.Time) *store.Store { return h.Moving(func() time.Time { return at }) }

// Moving is the same school by another clock.
func (h *House) Moving(clock func() time.Time) *store.Store {
	s, err := store.Open(Ctx, h.Path, clock)
	require.NoError(h.T, err)
	h.T.Cleanup(func() { s.Close() })
	return s
}

// Furnish puts two rungs, a technique, two students and a grading under way into the school.
func (h *House) Furnish() *House {
	id := func(d store.Done, err error) string {
		require.NoError(h.T, err)
		return d.ID
	}
	s := h.Store
	h.Program = id(s.SaveProgram(Ctx, Me, curriculum.Program{Name: "Kenpo"}))
	cloth := curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}
	h.White = id(s.SaveRung(Ctx, Me, curriculum.Rung{ProgramID: h.Program, Kind: curriculum.Belt, Name: "White belt", Cloth: cloth}))
	h.Yellow = id(s.SaveRung(Ctx, Me, curriculum.Rung{ProgramID: h.Program, Position: 9, Kind: curriculum.Belt, Name: "Yellow " + Nasty, Cloth: cloth}))
	sections, err := s.Sections(Ctx, h.Program)
	require.NoError(h.T, err)
	h.Section = sections[3].ID
	h.Technique = id(s.SaveTechnique(Ctx, Me, curriculum.Technique{ProgramID: h.Program, Name: "Kick " + Nasty, Kind: "kick", Checkpoints: []string{Nasty}, Cautions: []string{Nasty}, Note: Nasty}))
	h.Requirement = id(s.SaveRequirement(Ctx, Me,
		curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, TechniqueID: h.Technique, Role: "performer",
			Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 5}, Weight: 1, Note: Nasty}, "", ""))
	for _, name := range []string{"Ada " + Nasty, "Ben Sluice"} {
		h.Student = id(s.SaveStudent(Ctx, Me, progress.Student{Name: name, Guardian: Nasty, Limits: Nasty, Stance: progress.Orthodox, BirthDate: civil.MustParse("2014-02-28")}))
		id(s.Enrol(Ctx, Me, h.Student, h.White, civil.MustParse("2026-01-02")))
	}
	h.Grading = id(s.SaveGrading(Ctx, Me, gradingday.Grading{ProgramID: h.Program, Name: Nasty, Place: Nasty,
		On: s.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3,
		RungIDs: []string{h.Yellow}, Examiners: []gradingday.Examiner{{Name: "Vane " + Nasty, Chief: true}}}))
	eligible, err := s.Eligible(Ctx, h.Grading)
	require.NoError(h.T, err)
	for _, e := range eligible {
		id(s.AddCandidates(Ctx, Me, h.Grading, []store.Entrant{{EnrolmentID: e.EnrolmentID}}))
	}
	id(s.Begin(Ctx, Me, h.Grading))
	all, err := s.Candidates(Ctx, h.Grading)
	require.NoError(h.T, err)
	h.Candidate, h.Candidate2, h.Group, h.Enrolment = all[0].ID, all[1].ID, all[0].GroupID, all[0].EnrolmentID
	g, err := s.Grading(Ctx, h.Grading)
	require.NoError(h.T, err)
	h.Examiner = g.Examiners[0].ID
	table, err := s.ScoringTable(Ctx, h.Examiner, h.Group)
	require.NoError(h.T, err)
	h.Item = table.Items[0].ID
	return h
}

// Do asks for a page, or posts a form or JSON.
func (h *House) Do(method, path, body string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	if strings.HasPrefix(body, "{") {
		r.Header.Set("Content-Type", "application/json")
	} else if method == "POST" {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	return w
}

// Send posts a form, expects to be led on, and returns the address and the page there.
func (h *House) Send(path string, pairs ...string) (address, page string) {
	h.T.Helper()
	w := h.Do("POST", path, Values(pairs...).Encode())
	require.Equal(h.T, http.StatusSeeOther, w.Code, "%s %v: %s", path, pairs, Text(w.Body.String()))
	address, _, _ = strings.Cut(w.Header().Get("Location"), "#")
	return address, h.Page(address)
}

// Page is a page that must be there.
func (h *House) Page(address string) string {
	h.T.Helper()
	w := h.Do("GET", address, "")
	require.Equal(h.T, http.StatusOK, w.Code, address)
	return w.Body.String()
}

// Upload posts a file as a browser does.
func (h *House) Upload(path, file string, pairs ...string) *httptest.ResponseRecorder {
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	for i := 0; i+1 < len(pairs); i += 2 {
		w.WriteField(pairs[i], pairs[i+1])
	}
	part, err := w.CreateFormFile("file", "file")
	require.NoError(h.T, err)
	fmt.Fprint(part, file)
	w.Close()
	r := httptest.NewRequest("POST", path, &body)
	r.Header.Set("Content-Type", w.FormDataContentType())
	out := httptest.NewRecorder()
	h.ServeHTTP(out, r)
	return out
}

// Table sends a table as a file, and looks at what it would do: here is its page, "" where the file is none.
func (h *House) Table(path, file string, pairs ...string) (here string, w *httptest.ResponseRecorder) {
	h.T.Helper()
	w = h.Upload(path, file, pairs...)
	if w.Code != http.StatusSeeOther {
		return "", w
	}
	here = w.Header().Get("Location")
	return here, h.Do("GET", here, "")
}

// Undo presses the undo button of a page.
func (h *House) Undo(page string) string {
	h.T.Helper()
	entry := regexp.MustCompile(`name="entry" value="([0-9a-f]+)"`).FindStringSubmatch(page)
	back := regexp.MustCompile(`name="back" value="([^"]+)"`).FindStringSubmatch(page)
	require.NotNil(h.T, entry, "the page offers no undo")
	_, page = h.Send("/undo", "entry", entry[1], "back", back[1])
	return page
}

// Book is the curriculum of the program.
func (h *House) Book() *curriculum.Book {
	b, err := h.Store.Book(Ctx, h.Program)
	require.NoError(h.T, err)
	return b
}

// Evening puts a class on the timetable of every Tuesday: the test's clock stands on one.
func (h *House) Evening(name string) string {
	h.T.Helper()
	d, err := h.Store.SaveClass(Ctx, Me, timetable.Class{Name: name, Kind: "General", Weekday: 2, Start: 18 * 60, Minutes: 60, From: h.Store.Today().AddDays(-400), Programs: []string{h.Program}})
	require.NoError(h.T, err)
	return d.ID
}

// Rules sets the rules of the yellow rung by its form.
func (h *House) Rules(pairs ...string) string {
	h.T.Helper()
	v := Fields(h.Page("/rungs/" + h.Yellow))
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Set(pairs[i], pairs[i+1])
	}
	_, page := h.Send("/rungs/"+h.Yellow, Flat(v)...)
	return page
}

// Climber puts one more student on the white belt and returns the page and the enrolment.
func (h *House) Climber(name, born, since string) (address, enrolment string) {
	d, err := h.Store.SaveStudent(Ctx, Me, progress.Student{Name: name, Stance: progress.Orthodox, BirthDate: dateOf(born)})
	require.NoError(h.T, err)
	e, err := h.Store.Enrol(Ctx, Me, d.ID, h.White, dateOf(since))
	require.NoError(h.T, err)
	return "/students/" + d.ID, e.ID
}

func dateOf(s string) (d civil.Date) {
	if s != "" {
		d = civil.MustParse(s)
	}
	return d
}

// Coming is a grading to come, in two rings, with both students entered.
func (h *House) Coming() string {
	g := gradingday.Grading{ProgramID: h.Program, Name: "Winter", On: h.Store.Today().AddDays(9),
		Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 1, RungIDs: []string{h.Yellow}, Rings: []gradingday.Ring{{}, {}}}
	for k := range 6 {
		g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprint("Examiner ", k), Ring: k / 3})
	}
	d, err := h.Store.SaveGrading(Ctx, Me, g)
	require.NoError(h.T, err)
	may, err := h.Store.Eligible(Ctx, d.ID)
	require.NoError(h.T, err)
	for _, e := range may {
		_, err = h.Store.AddCandidates(Ctx, Me, d.ID, []store.Entrant{{EnrolmentID: e.EnrolmentID, Reason: "for the test"}})
		require.NoError(h.T, err)
	}
	return d.ID
}

var tags = regexp.MustCompile(`(?s)<script.*?</script>|<[^>]*>`)

// Text is what a page says, without its markup.
func Text(page string) string {
	return strings.Join(strings.Fields(tags.ReplaceAllString(page, " ")), " ")
}

// Last is the last part of an address without its query.
func Last(address string) string {
	path, _, _ := strings.Cut(address, "?")
	return path[strings.LastIndex(path, "/")+1:]
}
