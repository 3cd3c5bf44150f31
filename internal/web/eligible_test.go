package web

import (
	"net/http"
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/store"
)

// rules sets the rules of the yellow rung by its form.
func (h *house) rules(pairs ...string) string {
	h.t.Helper()
	v := fields(h.page("/rungs/" + h.yellow))
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Set(pairs[i], pairs[i+1])
	}
	_, page := h.send("/rungs/"+h.yellow, flat(v)...)
	return page
}

// climber puts one more student on the white belt and returns the page and the enrolment.
func (h *house) climber(name, born, since string) (address, enrolment string) {
	d, err := h.s.SaveStudent(bg, me, progress.Student{Name: name, Stance: progress.Orthodox, BirthDate: dateOf(born)})
	require.NoError(h.t, err)
	e, err := h.s.Enrol(bg, me, d.ID, h.white, dateOf(since))
	require.NoError(h.t, err)
	return "/students/" + d.ID, e.ID
}

func dateOf(s string) (d civil.Date) {
	if s != "" {
		d = civil.MustParse(s)
	}
	return d
}

// TestWhoMayBeTested: rules set on a rung are answered for each student with figure and
// day, on the rung, on their page, and for any day.
func TestWhoMayBeTested(t *testing.T) {
	h := newHouse(t).furnish()
	page := h.rules("rule_months_since", "6", "rule_least_age", "8", "rule_word", "1")
	says(t, page, "6 months since the last promotion")
	says(t, page, "8 years of age")
	says(t, page, "an instructor’s word")
	late, _ := h.climber("Late Comer", "2015-01-01", "2026-09-30")
	unborn, _ := h.climber("No Date", "", "2026-01-01")
	small, _ := h.climber("Very Small", "2019-02-11", "2026-01-01")
	says(t, h.page(late), "◇ not met 6 months since the last promotion missing: 126 days more · first on Tue 30 Mar 2027 1 month")
	says(t, h.page(late), "from Tue 30 Mar 2027, if an instructor who says so is given")
	says(t, h.page(unborn), "? not known 8 years of age missing: the birth date")
	says(t, h.page(small), "8 years of age missing: 79 days more · first on Thu 11 Feb 2027 7 years")
	ladder := h.page("/ladder/" + h.yellow)
	says(t, ladder, "Very Small ◇ from Thu 11 Feb 2027")
	says(t, ladder, "No Date ? not known: the birth date is missing")

	today := h.page("/eligible")
	says(t, today, "Who may be tested on Tue 24 Nov 2026")
	says(t, today, "Not yet 2 students")
	assert.Regexp(t, "(?s)Very Small.*Late Comer", text(today), "the nearly eligible come first")
	h.rules("rule_word", "")
	says(t, h.page("/eligible?on=2027-04-01"), "May be tested 4 students")
	says(t, h.page("/eligible?on=2027-02-11"), "Not yet 1 student")
	says(t, h.page("/eligible?rung="+h.white), "Nobody climbs to that rung just now")
	says(t, h.page("/eligible?rung="+h.yellow), "Very Small")
	w := h.do("GET", "/eligible?on=1.4.2027", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	says(t, w.Body.String(), "write it as YYYY-MM-DD")
	assert.Contains(t, w.Body.String(), `value="1.4.2027"`)
	assert.Equal(t, http.StatusOK, newHouse(t).do("GET", "/eligible", "").Code)
	for field, x := range map[string][2]string{"rule_months_since": {"x", "is not a whole number"}, "rule_days_since": {"9999", "must be from 0 to 3650"}, "rule_least_age": {"300", "write a number up to 100"}, "rule_least_age_elsewhere": {"3", "names a track that is not"}} {
		v := fields(h.page("/rungs/" + h.yellow))
		v.Set(field, x[0])
		w := h.do("POST", "/rungs/"+h.yellow, v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		says(t, w.Body.String(), x[1], field)
	}
}

// TestWaiversAndWords: a waiver and a word count at once, stand on record for ever, and can
// be withdrawn.
func TestWaiversAndWords(t *testing.T) {
	h := newHouse(t).furnish()
	h.rules("rule_months_since", "24", "rule_word", "1")
	page, enrolment := h.climber("Wren Lock", "2015-01-01", "2026-01-01")
	id := last(page)
	says(t, h.page(page), "◇ from Sat 1 Jan 2028")
	waive := "/enrolments/" + enrolment + "/waive"
	w := h.do("POST", waive, values("student", id, "rule", "months_since", "reason", " ").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	says(t, w.Body.String(), "it is shown for ever")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("POST", waive, values("student", id, "rule", "height", "reason", "tall").Encode()).Code)
	_, after := h.send(waive, "student", id, "rule", "months_since", "reason", "held the rank elsewhere")
	says(t, after, "months since the last promotion waived:")
	says(t, after, "held the rank elsewhere")
	says(t, after, "not known: an instructor who says so is missing")
	assert.Equal(t, http.StatusConflict, h.do("POST", waive, values("student", id, "rule", "months_since", "reason", "again").Encode()).Code)
	w = h.do("POST", "/enrolments/"+enrolment+"/word", values("student", id, "who", "").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	_, after = h.send("/enrolments/"+enrolment+"/word", "student", id, "who", "R. Castellane")
	says(t, after, "◆ may test")
	says(t, after, "R. Castellane said: ready")
	given := regexp.MustCompile(`/given/[0-9a-f]+/withdraw`).FindAllString(after, -1)
	require.Len(t, given, 2)
	_, after = h.send(given[0], "student", id)
	says(t, after, "· withdrawn")
	says(t, after, "◇ from Sat 1 Jan 2028")
	assert.Equal(t, http.StatusNotFound, h.do("POST", given[0], "student="+id).Code, "it is withdrawn already")
	ever, err := h.s.GivenEver(bg, enrolment)
	require.NoError(t, err)
	assert.Equal(t, []bool{true, false}, []bool{ever[0].Withdrawn, ever[1].Withdrawn}, "nothing is overwritten")
}

// TestTheNearlyEligibleNeedAReason: they are listed at a grading with what is missing, and
// entered only with a reason.
func TestTheNearlyEligibleNeedAReason(t *testing.T) {
	h := newHouse(t).furnish()
	h.rules("rule_days_since", "60")
	_, soon := h.climber("Soon Ready", "2015-01-01", "2026-11-01")
	_, ready := h.climber("Long Ready", "2015-01-01", "2026-01-01")
	address, page := h.send("/gradings/new", "program", h.program, "on", "2026-12-12", "marking", "movement_scale", "group_size", "3", "retest_days", "30", "rungs", h.yellow, "examiner", "Rosa Castell")
	says(t, page, "Not yet: 1 student")
	says(t, page, "◇ from Thu 31 Dec 2026")
	enter := "/gradings/" + last(address) + "/candidates"
	w := h.do("POST", enter, values("candidates", ready, "candidates", soon).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	says(t, w.Body.String(), "Soon Ready may be tested from Thu 31 Dec 2026; say why the test is allowed on Sat 12 Dec 2026")
	all, err := h.s.Candidates(bg, last(address))
	require.NoError(t, err)
	assert.Empty(t, all, "all or none")
	_, page = h.send(enter, "candidates", ready, "candidates", soon, "reason", "moves away in January")
	says(t, page, "moves away in January")
}

// TestRulesFollowTheVersion: who climbs by a version is held against its rules, and tracks
// may have their own.
func TestRulesFollowTheVersion(t *testing.T) {
	h := newHouse(t).furnish()
	h.send("/programs/"+h.program+"/details", "track_0_name", "Cubs", "track_0_to", "8", "track_1_name", "Adults", "track_1_from", "9")
	cubs := h.book().Program.Tracks[0].ID
	h.rules("rule_months_since", "24", "rule_months_since_"+cubs, "0")
	_, small := h.climber("Small One", "2020-01-01", "2026-09-01")
	_, tall := h.climber("Tall One", "2010-01-01", "2026-09-01")
	state := func(enrolment string) progress.State {
		c, err := h.s.ClimbingOf(bg, enrolment, h.s.Today())
		require.NoError(t, err)
		return c.Verdict.State
	}
	assert.Equal(t, []progress.State{progress.Met, progress.NotMet}, []progress.State{state(small), state(tall)}, "0 lets a track off")
	h.send("/versions/publish", "program", h.program, "note", "first")
	h.rules("rule_months_since", "1")
	assert.Equal(t, progress.NotMet, state(tall), "the version they climb by still asks for two years")
	h.send("/versions/publish", "program", h.program, "note", "second", "everyone", "1")
	assert.Equal(t, progress.Met, state(tall))
	_, err := h.s.ClimbingOf(bg, "nobody", h.s.Today())
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.Equal(t, []curriculum.Rule{{Kind: curriculum.MonthsSince, Amount: 1}}, h.book().RulesOf(h.yellow, ""))
	v := url.Values{"track_0_name": {""}, "track_0_id": {cubs}}
	assert.NotEqual(t, http.StatusSeeOther, h.do("POST", "/programs/"+h.program+"/details", v.Encode()).Code, "a track that a rule names stays")
}
