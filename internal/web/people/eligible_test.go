package people_test

import (
	"log/slog"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// TestWhoMayBeTested: rules set on a rung are answered for each student with figure and
// day, on the rung, on their page, and for any day.
func TestWhoMayBeTested(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	page := h.Rules("rule_months_since", "6", "rule_least_age", "8", "rule_word", "1")
	webtest.Says(t, page, "6 months since the last promotion")
	webtest.Says(t, page, "8 years of age")
	webtest.Says(t, page, "an instructor’s word")
	late, _ := h.Climber("Late Comer", "2015-01-01", "2026-09-30")
	unborn, _ := h.Climber("No Date", "", "2026-01-01")
	small, _ := h.Climber("Very Small", "2019-02-11", "2026-01-01")
	webtest.Says(t, h.Page(late), "◇ not met 6 months since the last promotion missing: 126 days more · first on Tue 30 Mar 2027 1 month")
	webtest.Says(t, h.Page(late), "from Tue 30 Mar 2027, if an instructor says so")
	webtest.Says(t, h.Page(unborn), "? not known 8 years of age missing: the birth date")
	webtest.Says(t, h.Page(small), "8 years of age missing: 79 days more · first on Thu 11 Feb 2027 7 years")
	ladder := h.Page("/ladder/" + h.Yellow)
	webtest.Says(t, ladder, "Very Small ◇ from Thu 11 Feb 2027")
	webtest.Says(t, ladder, "No Date ? not known: the birth date is missing")

	today := h.Page("/eligible")
	webtest.Says(t, today, "Who may be tested on Tue 24 Nov 2026")
	webtest.Says(t, today, "Not yet 2 students")
	assert.Regexp(t, "(?s)Very Small.*Late Comer", webtest.Text(today), "the nearly eligible come first")
	h.Rules("rule_word", "")
	webtest.Says(t, h.Page("/eligible?on=2027-04-01"), "May be tested 4 students")
	webtest.Says(t, h.Page("/eligible?on=2027-02-11"), "Not yet 1 student")
	webtest.Says(t, h.Page("/eligible?rung="+h.White), "Nobody climbs to that rung just now")
	webtest.Says(t, h.Page("/eligible?rung="+h.Yellow), "Very Small")
	w := h.Do("GET", "/eligible?on=1.4.2027", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "write it as YYYY-MM-DD")
	assert.Contains(t, w.Body.String(), `value="1.4.2027"`)
	assert.Equal(t, http.StatusOK, webtest.NewHouse(t).Do("GET", "/eligible", "").Code)
	for field, x := range map[string][2]string{"rule_months_since": {"x", "is not a whole number"}, "rule_days_since": {"9999", "must be from 0 to 3650"}, "rule_least_age": {"300", "write a number up to 100"}, "rule_least_age_elsewhere": {"3", "names a track that is not"}} {
		v := webtest.Fields(h.Page("/rungs/" + h.Yellow))
		v.Set(field, x[0])
		w := h.Do("POST", "/rungs/"+h.Yellow, v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		webtest.Says(t, w.Body.String(), x[1], field)
	}
}

// TestTheNearlyEligibleNeedAReason: they are listed at a grading with what is missing, and
// entered only with a reason.
func TestTheNearlyEligibleNeedAReason(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Rules("rule_days_since", "60")
	_, soon := h.Climber("Soon Ready", "2015-01-01", "2026-11-01")
	_, ready := h.Climber("Long Ready", "2015-01-01", "2026-01-01")
	address, page := h.Send("/gradings/new", "program", h.Program, "on", "2026-12-12", "marking", "movement_scale", "group_size", "3", "retest_days", "30", "rungs", h.Yellow, "examiner", "Rosa Castell")
	webtest.Says(t, page, "Not yet: 1 student")
	webtest.Says(t, page, "◇ from Thu 31 Dec 2026")
	enter := "/gradings/" + webtest.Last(address) + "/candidates"
	w := h.Do("POST", enter, webtest.Values("candidates", ready, "candidates", soon).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "Soon Ready may be tested from Thu 31 Dec 2026; say why the test is allowed on Sat 12 Dec 2026")
	all, err := h.Store.Candidates(webtest.Ctx, webtest.Last(address))
	require.NoError(t, err)
	assert.Empty(t, all, "all or none")
	_, page = h.Send(enter, "candidates", ready, "candidates", soon, "reason", "moves away in January")
	webtest.Says(t, page, "moves away in January")
}

// TestRulesFollowTheVersion: who climbs by a version is held against its rules, and tracks
// may have their own.
func TestRulesFollowTheVersion(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/programs/"+h.Program+"/details", "track_0_name", "Cubs", "track_0_to", "8", "track_1_name", "Adults", "track_1_from", "9")
	cubs := h.Book().Program.Tracks[0].ID
	h.Rules("rule_months_since", "24", "rule_months_since_"+cubs, "0")
	_, small := h.Climber("Small One", "2020-01-01", "2026-09-01")
	_, tall := h.Climber("Tall One", "2010-01-01", "2026-09-01")
	state := func(enrolment string) progress.State {
		c, err := h.Store.ClimbingOf(webtest.Ctx, enrolment, h.Store.Today())
		require.NoError(t, err)
		return c.Verdict.State
	}
	assert.Equal(t, []progress.State{progress.Met, progress.NotMet}, []progress.State{state(small), state(tall)}, "0 lets a track off")
	h.Send("/versions/publish", "program", h.Program, "note", "first")
	h.Rules("rule_months_since", "1")
	assert.Equal(t, progress.NotMet, state(tall), "the version they climb by still asks for two years")
	h.Send("/versions/publish", "program", h.Program, "note", "second", "everyone", "1")
	assert.Equal(t, progress.Met, state(tall))
	_, err := h.Store.ClimbingOf(webtest.Ctx, "nobody", h.Store.Today())
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.Equal(t, []curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 1}}, h.Book().RulesOf(h.Yellow, ""))
	v := url.Values{"track_0_name": {""}, "track_0_id": {cubs}}
	assert.NotEqual(t, http.StatusSeeOther, h.Do("POST", "/programs/"+h.Program+"/details", v.Encode()).Code, "a track that a rule names stays")
}

// TestWhatATrackMayNotDo: the note on a sheet is the owner's alone.
func TestWhatATrackMayNotDo(t *testing.T) {
	h, _ := webtest.Mill(t)
	b := h.Book()
	cubs, rung := b.Program.Tracks[0], b.RungNamed("Orange belt")
	x := *b.Named("Mill Wheel")
	x.YoungestTrack = b.Program.Tracks[2].ID
	_, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, x)
	require.NoError(t, err)
	as, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "Marek", Role: store.Instructor}})
	require.NoError(t, err)
	marek := &webtest.Visitor{T: t, H: as}
	for _, page := range []string{"/sheet/" + rung.ID + "?track=" + cubs.ID, "/ladder/" + rung.ID + "?track=" + cubs.ID} {
		assert.Contains(t, strings.ToLower(webtest.Text(h.Page(page))), "not for cubs: it suits", page)
		assert.NotContains(t, strings.ToLower(webtest.Text(marek.Do("GET", page, "").Body.String())), "not for cubs", page)
	}
	assert.NotContains(t, marek.Do("GET", "/sheet/"+rung.ID+"?track="+cubs.ID, "").Body.String(), "Mill Wheel")
}

// TestAnsweredAnew: after an upgrade the owner is shown once whose answer about what is signed off
// is another one.
func TestAnsweredAnew(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	assert.NotContains(t, webtest.Text(h.Page("/eligible")), "reckoned anew")
	_, err := h.Store.ChangeProgram(webtest.Ctx, webtest.Me, h.Program, office.WordsChanged.Named("the program"), func(d *curriculum.ProgramDetails) error { d.SignedOffAnew = true; return nil })
	require.NoError(t, err)
	webtest.Says(t, h.Page("/eligible"), "“All signed off” is reckoned anew since the upgrade.", "Nobody’s answer is another one.")
	_, page := h.Send("/eligible/seen", "program", h.Program)
	assert.NotContains(t, webtest.Text(page), "reckoned anew since")
	h.Undo(page)
	webtest.Says(t, h.Page("/eligible"), "reckoned anew since")
}
