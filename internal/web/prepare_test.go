package web_test

import (
	"context"
	"errors"
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

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/exchange"
	"velvetladder/internal/mail"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

func TestTheDayIsPlannedOnThePage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	v := h.Visitor()
	page := v.Do("GET", "/day/"+id, "").Body.String()
	assert.Contains(t, page, "Plan the day")
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	page = v.Do("GET", "/day/"+id, "").Body.String()
	for _, said := range []string{"no plan can end before", "is full until", "What if", "The rank of Examiner 0 is not on record"} {
		assert.Contains(t, page, said)
	}
	assert.NotContains(t, page, "<script>alert", "escaped, in the picture too")
	group := regexp.MustCompile(`id="g-([0-9a-f]{20})"`).FindStringSubmatch(page)[1]
	for _, do := range []string{"later", "earlier", "pin", "unpin"} {
		w := v.Do("POST", "/day/"+id+"/move", url.Values{"group": {group}, "do": {do}}.Encode())
		require.Equal(t, http.StatusSeeOther, w.Code, do)
		assert.True(t, strings.Contains(w.Header().Get("Location"), "?group="+group), "back to the group")
	}
	ring := regexp.MustCompile(`name="do" value="([0-9a-f]{20})"`).FindStringSubmatch(page)[1]
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id+"/move", url.Values{"group": {group}, "do": {ring}, "at": {"600"}}.Encode()).Code)
	for _, what := range regexp.MustCompile(`href="\?if=([^#"]+)`).FindAllStringSubmatch(page, -1) {
		page := v.Do("GET", "/day/"+id+"?if="+what[1], "").Body.String()
		assert.Contains(t, page, "Nothing is changed.", what[1])
	}
	assert.Equal(t, http.StatusNotFound, v.Do("GET", "/day/"+id+"?if=rain", "").Code)
	// Whom nobody may examine is said, and why, ring by ring.
	for _, name := range []string{"Examiner 0", "Examiner 4"} {
		_, err := h.Store.SaveOfficer(webtest.Ctx, webtest.Me, store.Officer{Name: name, Holds: map[string]string{h.Program: h.White}})
		require.NoError(t, err)
	}
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	page = v.Do("GET", "/day/"+id, "").Body.String()
	assert.Contains(t, page, "The day cannot run like this")
	assert.Contains(t, page, "is not tested: nobody may examine it: Ring A: Examiner 0 holds White belt")
	assert.Contains(t, page, "Ring B: Examiner 4 holds White belt")
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id+"/groups", "").Code)
	assert.Contains(t, v.Do("GET", "/day/"+id, "").Body.String(), "Plan the day")
}

func TestBadInputBeforeTheDay(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	v := h.Visitor()
	_, err := h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1}, "Free rounds", "sparring")
	require.NoError(t, err)
	settings := webtest.Fields(h.Page("/settings"))
	for name, c := range map[string]struct {
		path, body, says string
	}{
		"hours the wrong way round": {"/day/" + id, webtest.Changed(webtest.DayForm, "close", "8:00"), "the hall closes after it opens, at 09:00"},
		"no time of day":            {"/day/" + id, webtest.Changed(webtest.DayForm, "open", "noon"), "is not a time of day"},
		"warm-up without end":       {"/day/" + id, webtest.Changed(webtest.DayForm, "warmup", "900"), "must be from 0 to 120"},
		"half a pause":              {"/day/" + id, webtest.Changed(webtest.DayForm, "pause_from", "12:00"), "within hall hours"},
		"an order of its own":       {"/day/" + id, webtest.Changed(webtest.DayForm, "order", "loudest"), "is not a choice"},
		"bouts without number":      {"/pairs/" + id, "bouts=many", "is not a whole number"},
		"too many bouts":            {"/pairs/" + id, "bouts=7", "must be from 1 to 5"},
		"nobody to write to":        {"/checklist/" + id + "/write", "", "nobody is chosen"},
		"stock without number":      {"/belts/" + id + "/stock", "rung=" + h.Yellow + "&size=1", "write how many there are"},
		"stock below nothing":       {"/belts/" + id + "/stock", "rung=" + h.Yellow + "&size=1&pieces=-3", "is -3"},
		"an examiner without name":  {"/officers", "name=", "is empty"},
		"emoji on a certificate":    {"/settings", webtest.Changed(settings, "wording", "{name} is {rank} 🥋"), "“🥋” (character 18) cannot be printed"},
		"emoji in the title":        {"/settings", webtest.Changed(settings, "title", "Well done 🎉"), "cannot be printed"},
		"nobody named":              {"/settings", webtest.Changed(settings, "wording", "Well done"), "does not say who is promoted to what"},
		"a word nobody fills":       {"/settings", webtest.Changed(settings, "wording", "{name} {rank} {colour}"), "{colour} is no word that is filled in"},
		"half a brace":              {"/settings", webtest.Changed(settings, "wording", "{name} {rank} {date"), "{date is no word"},
		"sizes upside down":         {"/settings", webtest.Changed(settings, "sizes", "2, 150, 70\n1, 135, 64"), "row 2 is not larger"},
		"sizes in words":            {"/settings", webtest.Changed(settings, "sizes", "small, short, thin"), "is no whole number of centimetres"},
		"sizes in two":              {"/settings", webtest.Changed(settings, "sizes", "1, 150"), "line 1 has 2 parts"},
		"a seal of five":            {"/settings", webtest.Changed(settings, "seal", "MMMAX"), "up to 4 fit"},
		"an address without @":      {"/settings", webtest.Changed(settings, "mail_from", "the office"), "is no mail address"},
		"records for ever and more": {"/settings", webtest.Changed(settings, "retention", "99"), "must be from 0 to 30"},
		"a hall of a hand's width":  {"/settings", webtest.Changed(settings, "width_cm", "20"), "must be from 200 to 10000"},
		"a paper of its own":        {"/settings", webtest.Changed(settings, "paper", "A0"), "is not a choice"},
		"a name for erasing":        {"/students/" + h.Student + "/record/erase", "confirm=Somebody", "is not the name of the student"},
	} {
		w := v.Do("POST", c.path, c.body)
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
		assert.Contains(t, unescaped(w.Body.String()), c.says, name)
	}
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("GET", "/lineup/"+id+"?width_cm=3&depth_cm=900", "").Code)
	assert.Contains(t, v.Do("GET", "/lineup/"+id+"?width_cm=900&depth_cm=200", "").Body.String(), "deep")
}

func unescaped(s string) string {
	return strings.NewReplacer("&#34;", `"`, "&#39;", "'", "&lt;", "<", "&amp;", "&").Replace(s)
}

// TestPreparationPages: each page of a grading answers, empty and full, for owner and instructor.
func TestPreparationPages(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	bare, err := h.Store.SaveGrading(webtest.Ctx, webtest.Me, gradingday.Grading{ProgramID: h.Program, Name: "Bare", On: h.Store.Today().AddDays(20), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.Yellow}, Examiners: []gradingday.Examiner{{Name: "A"}}})
	require.NoError(t, err)
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	for _, kind := range []string{"scoresheets", "runsheets", "certificates", "letters"} {
		for _, g := range []string{id, bare.ID, h.Grading} {
			w := h.Visitor().Do("GET", "/papers/"+g+"?show="+kind, "")
			require.Equal(t, http.StatusOK, w.Code)
			if strings.Contains(w.Body.String(), "as PDF") {
				w = h.Visitor().Do("GET", "/papers/"+g+"/"+kind+".pdf", "")
				require.Equal(t, http.StatusOK, w.Code)
				assert.True(t, strings.HasPrefix(w.Body.String(), "%PDF-"), "%s of %s", kind, g)
			} else {
				assert.Equal(t, http.StatusConflict, h.Visitor().Do("GET", "/papers/"+g+"/"+kind+".pdf", "").Code)
			}
		}
	}
	assert.Equal(t, http.StatusNotFound, h.Visitor().Do("GET", "/papers/"+id+"/posters.pdf", "").Code)
	assert.Equal(t, http.StatusNotFound, marek.Do("GET", "/papers/"+id+"/letters.pdf", "").Code)
	for _, page := range []string{"/day/", "/checklist/", "/pairs/", "/lineup/", "/papers/"} {
		for _, g := range []string{id, bare.ID, h.Grading} {
			w := h.Visitor().Do("GET", page+g, "")
			assert.Equal(t, http.StatusOK, w.Code, page)
			assert.NotContains(t, w.Body.String(), "<script>alert", page)
			assert.Equal(t, http.StatusOK, marek.Do("GET", page+g, "").Code, page)
		}
		assert.Equal(t, http.StatusNotFound, h.Visitor().Do("GET", page+"none", "").Code)
	}
	for _, page := range []string{"/belts/" + id, "/officers", "/outbox", "/settings", "/backups", "/students/" + h.Student + "/record"} {
		assert.Equal(t, http.StatusOK, h.Visitor().Do("GET", page, "").Code, page)
		assert.NotEqual(t, http.StatusOK, marek.Do("GET", page, "").Code, "%s is the owner's", page)
	}
}

// sender is a mail server that may be away.
type sender struct {
	sent []mail.Letter
	away bool
}

func (s *sender) Send(_ context.Context, l mail.Letter) error {
	if s.away {
		return errors.New("no route to host")
	}
	s.sent = append(s.sent, l)
	return nil
}

func (s *sender) Where() string { return "mail.school.example:587" }

func TestTheOutboxSendsOnlyWhenToldTo(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	st, err := h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	st.Contact, st.Guardian = "0161 555 0101, una@family.example", "Una Sluice"
	_, err = h.Store.SaveStudent(webtest.Ctx, webtest.Me, st)
	require.NoError(t, err)
	v := h.Visitor()
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	all, err := h.Store.Candidates(webtest.Ctx, id)
	require.NoError(t, err)
	who := url.Values{}
	for _, c := range all {
		who.Add("candidates", c.ID)
	}
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/checklist/"+id+"/write", who.Encode()).Code)
	rows, err := h.Store.Outbox(webtest.Ctx, true)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	var una, other store.Message
	for _, m := range rows {
		if m.Address != "" {
			una = m
		} else {
			other = m
		}
	}
	assert.Equal(t, "una@family.example", una.Address)
	for _, said := range []string{"Dear Una Sluice", "Come at: 09:00", "The test begins at 09:15 in Ring", "does not test"} {
		assert.Contains(t, una.Body, said)
	}
	assert.Contains(t, v.Do("GET", "/outbox", "").Body.String(), "Nothing is sent from here")
	assert.Equal(t, http.StatusConflict, v.Do("POST", "/outbox/send", "messages="+una.ID).Code, "no server is named")
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/outbox/"+una.ID+"/message.eml", "").Code, "the school has no address yet")
	set, err := h.Store.Settings(webtest.Ctx)
	require.NoError(t, err)
	set.MailFrom = "office@school.example"
	_, err = h.Store.SaveSettings(webtest.Ctx, webtest.Me, "Marrowby Mühle", set, nil)
	require.NoError(t, err)
	w := v.Do("GET", "/outbox/"+una.ID+"/message.eml", "")
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Body.String(), "To: \"Una Sluice\" <una@family.example>")
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/outbox/"+other.ID+"/message.eml", "").Code, "no address on record")

	post := &sender{away: true}
	with, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}, Mail: post})
	require.NoError(t, err)
	v = &webtest.Visitor{T: t, H: with}
	assert.Empty(t, post.sent, "nothing goes by itself")
	w = v.Do("POST", "/outbox/send", "messages="+una.ID)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "no route to host")
	post.away = false
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/outbox/send", "messages="+una.ID).Code)
	require.Len(t, post.sent, 1)
	assert.Equal(t, "office@school.example", post.sent[0].From)
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("POST", "/outbox/send", "messages="+una.ID).Code, "once")
	assert.Len(t, post.sent, 1)
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/outbox/"+other.ID, "do=given").Code)
	assert.Equal(t, http.StatusConflict, v.Do("POST", "/outbox/"+other.ID, "do=withdrawn").Code)
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("POST", "/outbox/"+other.ID, "do=burnt").Code)
}

func TestFilesOfAGrading(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	v := h.Visitor()
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/gradings/"+h.Grading+"/results.xlsx", "").Code, "no panel has signed")
	w := v.Do("GET", "/gradings/"+h.Grading+"/grading.json", "")
	require.Equal(t, http.StatusOK, w.Code)
	g, err := exchange.ReadGrading(strings.NewReader(w.Body.String()))
	require.NoError(t, err)
	assert.True(t, g.Candidates[0].Sealed)
	assert.Nil(t, g.Candidates[0].Tally, "marks of an unsigned sheet stay sealed")

	table, err := h.Store.ScoringTable(webtest.Ctx, h.Examiner, h.Group)
	require.NoError(t, err)
	var marks []store.Mark
	for _, c := range table.Candidates {
		for _, it := range table.Items {
			if !markedBefore(table, c.ID, it.IDs[c.ID]) {
				marks = append(marks, store.Mark{ID: store.NewID(), CandidateID: c.ID, ExaminerID: h.Examiner, ItemID: it.IDs[c.ID], Kind: store.MarkGiven, Value: scoring.Whole(3)})
			}
		}
	}
	require.NoError(t, h.Store.RecordMarks(webtest.Ctx, webtest.Me, marks))
	_, err = h.Store.Sign(webtest.Ctx, webtest.Me, h.Examiner, h.Group, false)
	require.NoError(t, err)
	w = v.Do("GET", "/gradings/"+h.Grading+"/results.xlsx", "")
	require.Equal(t, http.StatusOK, w.Code)
	f, err := excelize.OpenReader(w.Body)
	require.NoError(t, err)
	got, err := f.CalcCellValue("Sheets", "M2")
	require.NoError(t, err)
	assert.Equal(t, "yes", got)
	g, err = exchange.ReadGrading(v.Do("GET", "/gradings/"+h.Grading+"/grading.json", "").Body)
	require.NoError(t, err)
	for _, c := range g.Candidates {
		_, same, err := c.Recompute()
		require.NoError(t, err)
		assert.True(t, same, c.Name)
	}

	h.Coming()
	w = v.Do("GET", "/files/calendar.ics", "")
	cal, err := ics.ParseCalendar(w.Body)
	require.NoError(t, err)
	assert.NotEmpty(t, cal.Events())
	w = v.Do("GET", "/files/school.jsonl", "")
	path := filepath.Join(t.TempDir(), "moved.db")
	require.NoError(t, store.ImportSchool(webtest.Ctx, path, w.Body, webtest.Clock))
}

func markedBefore(t store.Table, candidate, item string) bool {
	for _, m := range t.Marks {
		if m.CandidateID == candidate && m.ItemID == item {
			return true
		}
	}
	return false
}

func TestBackupsOnThePage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	dir := filepath.Join(t.TempDir(), "backups")
	with := func(dir string) *webtest.Visitor {
		s, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}, Backups: dir})
		require.NoError(t, err)
		return &webtest.Visitor{T: t, H: s}
	}
	v := with(dir)
	assert.Contains(t, v.Do("GET", "/backups", "").Body.String(), "None is there yet")
	w := v.Do("POST", "/backups", "")
	require.Equal(t, http.StatusSeeOther, w.Code)
	made := strings.TrimPrefix(w.Header().Get("Location"), "/backups?made=")
	assert.Contains(t, v.Do("GET", "/backups?made="+made, "").Body.String(), "was made, opened and looked through")
	assert.True(t, strings.HasPrefix(v.Do("GET", "/backups/"+made, "").Body.String(), "SQLite format 3"))
	for _, name := range []string{"school.db", "..%2fschool.db", "velvetladder-20260101-000000.db"} {
		assert.Equal(t, http.StatusNotFound, v.Do("GET", "/backups/"+name, "").Code)
	}
	assert.Contains(t, h.Visitor().Do("GET", "/backups", "").Body.String(), "No backups are kept here")
	assert.Equal(t, http.StatusConflict, h.Visitor().Do("POST", "/backups", "").Code)
	blocked := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(blocked, nil, 0o600))
	w = with(filepath.Join(blocked, "backups")).Do("POST", "/backups", "")
	assert.Equal(t, http.StatusInsufficientStorage, w.Code)
	assert.Contains(t, wrongWords(w.Body.String()), "nothing was left of it")
	w = with("/proc").Do("POST", "/backups", "")
	assert.Contains(t, wrongWords(w.Body.String()), "Nothing can be written at /proc")
}

// wrongWords are what a page says is wrong.
func wrongWords(page string) string {
	return strings.Join(regexp.MustCompile(`(?s)class="wrong"[^>]*>(.*?)<`).FindAllString(page, -1), "\n")
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

func TestTheWeekBeginsAsTheSchoolSays(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	first := func() string {
		return regexp.MustCompile(`(Monday|Sunday)`).FindString(h.Visitor().Do("GET", "/classes", "").Body.String())
	}
	h.Evening("Evening")
	assert.Equal(t, "Monday", first())
	require.Equal(t, http.StatusSeeOther, h.Visitor().Do("POST", "/settings", webtest.Changed(webtest.Fields(h.Page("/settings")), "week", "sunday")).Code)
	assert.Equal(t, "Sunday", first())
}

// BenchmarkBeforeTheDay measures the pages of a grading with 200 candidates, 5 rings and 15 examiners.
func BenchmarkBeforeTheDay(b *testing.B) {
	h := webtest.HouseOf(b, &webtest.Empty).Furnish()
	var all []store.NewStudent
	for i := range 200 {
		all = append(all, store.NewStudent{Student: progress.Student{Name: fmt.Sprintf("Student %03d", i), Stance: progress.Orthodox, HeightCM: 110 + i%70, WeightKG: 20 + i%50, BirthDate: clockDay(-3000 - 20*i)}, Starts: []store.Start{{RungID: h.White, Since: clockDay(-300)}}})
	}
	_, err := h.Store.AddStudents(webtest.Ctx, webtest.Me, all)
	require.NoError(b, err)
	for _, kind := range []curriculum.Kind{"fitness", "sparring"} {
		_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.Timed, Seconds: 120}, Weight: 1}, "Item of "+string(kind), kind)
		require.NoError(b, err)
	}
	g := gradingday.Grading{ProgramID: h.Program, Name: "Large", On: h.Store.Today().AddDays(9), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RungIDs: []string{h.Yellow}}
	for k := range 15 {
		g.Rings = append(g.Rings, gradingday.Ring{})[:min(k+1, 5)]
		g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprint("Examiner ", k), Ring: k / 3})
	}
	d, err := h.Store.SaveGrading(webtest.Ctx, webtest.Me, g)
	require.NoError(b, err)
	may, err := h.Store.Eligible(webtest.Ctx, d.ID)
	require.NoError(b, err)
	var entrants []store.Entrant
	for _, e := range may {
		entrants = append(entrants, store.Entrant{EnrolmentID: e.EnrolmentID})
	}
	_, err = h.Store.AddCandidates(webtest.Ctx, webtest.Me, d.ID, entrants)
	require.NoError(b, err)
	rules := gradingday.UsualDay
	rules.Close = 1440
	_, err = h.Store.MakeDayPlan(webtest.Ctx, webtest.Me, d.ID, rules)
	require.NoError(b, err)
	_, err = h.Store.MakePairs(webtest.Ctx, webtest.Me, d.ID, gradingday.UsualPairs)
	require.NoError(b, err)
	for _, page := range []string{"/day/", "/checklist/", "/pairs/", "/lineup/", "/belts/", "/papers/"} {
		b.Run(strings.Trim(page, "/"), func(b *testing.B) {
			for b.Loop() {
				r := httptest.NewRequest("GET", page+d.ID, nil)
				w := httptest.NewRecorder()
				h.ServeHTTP(w, r)
				require.Equal(b, http.StatusOK, w.Code)
			}
		})
	}
	b.Run("plan", func(b *testing.B) {
		for b.Loop() {
			_, err := h.Store.MakeDayPlan(webtest.Ctx, webtest.Me, d.ID, rules)
			require.NoError(b, err)
		}
	})
	b.Run("move", func(b *testing.B) {
		plan, err := h.Store.DayPlan(webtest.Ctx, d.ID)
		require.NoError(b, err)
		for b.Loop() {
			_, err := h.Store.MoveInPlan(webtest.Ctx, webtest.Me, d.ID, store.PlanMove{Group: plan.Day.Groups[3].ID, By: 1})
			require.NoError(b, err)
		}
	})
}

func clockDay(days int) civil.Date { return civil.On(webtest.Clock()).AddDays(days) }

// TestTheListOfBoutsIsAtTheRing: what was paired before the day is begun from the ring with one press, once.
func TestTheListOfBoutsIsAtTheRing(t *testing.T) {
	x := webtest.NewHall(t)
	_, err := x.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: x.Yellow, SectionID: x.Section, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}, Weight: 1}, "Free rounds", "sparring")
	require.NoError(t, err)
	_, err = x.Store.MakePairs(webtest.Ctx, webtest.Me, x.Day, gradingday.UsualPairs)
	require.NoError(t, err)
	page := x.Owns.Do("GET", "/bouts/"+x.Ring, "").Body.String()
	require.Contains(t, page, "Next on the list")
	assert.Contains(t, page, "a senior")
	w := x.Owns.Do("POST", "/bouts/"+x.Ring, url.Values{"a": {x.Candidate}, "b": {""}, "partner": {"a senior"}, "rounds": {"2"}, "seconds": {"60"}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, wrongWords(w.Body.String()))
	assert.NotContains(t, x.Owns.Do("GET", "/bouts/"+x.Ring, "").Body.String(), "Next on the list")
}
