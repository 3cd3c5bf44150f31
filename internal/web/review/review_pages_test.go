package review_test

import (
	"net/http"
	"testing"

	"velvetladder/internal/core/curriculum"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// signed marks everybody of the day with one, two and three in the first ring, three in the other, and signs every sheet.
func signed(t *testing.T, x *webtest.Hall) []store.Candidate {
	g, err := x.Store.Grading(webtest.Ctx, x.Day)
	require.NoError(t, err)
	all, err := x.Store.Candidates(webtest.Ctx, x.Day)
	require.NoError(t, err)
	for _, c := range all {
		_, panel := g.PanelOf(c.RingID)
		for k, e := range panel {
			table, err := x.Store.ScoringTable(webtest.Ctx, e.ID, c.GroupID)
			require.NoError(t, err)
			m := gradingday.Mark{ID: store.NewID(), CandidateID: c.ID, ExaminerID: e.ID, ItemID: table.Items[0].ID, Kind: gradingday.MarkGiven, Value: scoring.Whole(1 + k), Count: 30, Note: "steady"}
			if c.RingID != x.Ring {
				m.Value = scoring.Whole(3)
			}
			webtest.Mark(t, x.Store, []gradingday.Mark{m})
			_, err = x.Store.Sign(webtest.Ctx, webtest.Me, e.ID, c.GroupID, false)
			require.NoError(t, err)
		}
	}
	return all
}

// TestAReferralIsTestedFirst: the committee grants the second rung, lets one stand, or has it tested at a grading
// that is still to come.
func TestAReferralIsTestedFirst(t *testing.T) {
	x := webtest.NewHall(t)
	all := signed(t, x)
	green, err := x.Store.SaveRung(webtest.Ctx, webtest.Me, curriculum.Rung{ProgramID: x.Program, Position: 20, Kind: curriculum.Belt, Name: "Green <i>belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#1a7a3c"}})
	require.NoError(t, err)
	c := all[1]
	x.Send("/review/"+x.Day+"/decide", "candidate", c.ID, "outcome", "refer_for_double_promotion", "decided_by", "Rosa", "reason", "the best we saw")
	_, page := x.Send("/review/"+x.Day+"/announce", "candidate", c.ID)
	assert.Contains(t, webtest.Text(page), "No grading to come tests Green &lt;i&gt;belt; plan one")
	next, err := x.Store.SaveGrading(webtest.Ctx, webtest.Me, gradingday.Grading{ProgramID: x.Program, Name: "Spring", On: x.Store.Today().AddDays(20), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(),
		GroupSize: 3, RungIDs: []string{green.ID}, Examiners: []gradingday.Examiner{{Name: "Vane", Chief: true}}})
	require.NoError(t, err)
	page = x.Page("/review/" + x.Day)
	assert.Contains(t, page, `<option value="`+next.ID+`">Spring, `)
	form := []string{"candidate", c.ID, "decided_by", "Rosa", "settled", "tested", "tested_at", next.ID}
	w := x.Do("POST", "/review/"+x.Day+"/referral", webtest.Values(append(form, "reason", "")...).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why")
	_, page = x.Send("/review/"+x.Day+"/referral", append(form, "reason", "let us see it")...)
	assert.Contains(t, webtest.Text(page), "Test of the second rung set by Rosa: let us see it")
	assert.Contains(t, webtest.Text(x.Page("/result/"+c.ID)), "the test for the rung above is set")
	assert.Contains(t, webtest.Text(x.Page("/gradings/"+next.ID)), "let us see it")
	assert.Contains(t, webtest.Text(x.Page("/trail?text=after+a+referral")), "for the test of Green &lt;i&gt;belt, after a referral: Spring")
}

// TestReviewAndLaboratory walks the committee's screens.
func TestReviewAndLaboratory(t *testing.T) {
	x := webtest.NewHall(t)
	assert.Contains(t, webtest.Text(x.Page("/review/"+x.Day)), "Sealed until all have signed")
	assert.NotContains(t, x.Page("/review/"+x.Day), `class="plumb"`)
	all := signed(t, x)
	page := webtest.Text(x.Page("/review/" + x.Day))
	assert.Contains(t, page, "Agree with the ticked 2", "nobody of them needs thought")
	lab := webtest.Text(x.Page("/lab/" + x.Day + "?panel=majority&tie=chief&allowed_failing=0&honours=3"))
	assert.Contains(t, lab, "Nobody of 2 would change")
	lab = webtest.Text(x.Page("/lab/" + x.Day + "?panel=mean&tie=chief&threshold=3&allowed_failing=2&honours=3"))
	assert.Contains(t, lab, "1 of 2 would change, 1 away from one")
	assert.Contains(t, lab, "the threshold is 3")
	w := x.Do("GET", "/lab/"+x.Day+"?panel=loudest", "")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	_, page = x.Send("/review/"+x.Day+"/agree", "agree", all[0].ID, "agree", all[1].ID, "decided_by", "Rosa")
	assert.Contains(t, webtest.Text(page), "Announce 2 decided")
	_, page = x.Send("/review/"+x.Day+"/hold", "candidate", all[1].ID, "held", "1")
	assert.Contains(t, webtest.Text(page), "held")
	w = x.Do("POST", "/review/"+x.Day+"/announce-at", "announce_at=tomorrow")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is no day and time")
	_, page = x.Send("/review/"+x.Day+"/announce-at", "announce_at", "2026-11-30T18:00")
	assert.Contains(t, webtest.Text(page), "Known on Mon 30 Nov 2026 at 18:00")
	_, page = x.Send("/review/"+x.Day+"/announce-at", "announce_at", "")
	assert.Contains(t, webtest.Text(page), "At a set time")
	early := webtest.Text(x.Page("/result/" + all[0].ID))
	assert.Contains(t, early, "Not announced yet")
	_, page = x.Send("/review/"+x.Day+"/announce", "candidate", all[0].ID)
	assert.Contains(t, webtest.Text(page), "Correct this result")
	letter := webtest.Text(x.Page("/result/" + all[0].ID))
	for _, words := range []string{"Promoted to", "What", "steady", "Decided by Rosa"} {
		assert.Contains(t, letter, words)
	}
	assert.NotContains(t, letter, "points", "a letter holds no figure")
	w = x.Do("POST", "/review/"+x.Day+"/correct", webtest.Values("candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "", "correcting", "1").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "say why the result is corrected")
	_, page = x.Send("/review/"+x.Day+"/correct", "candidate", all[0].ID, "outcome", "retest", "decided_by", "Rosa", "reason", "two were swapped", "scope", "items")
	assert.Contains(t, webtest.Text(page), "corrected by Rosa: two were swapped")
	trail := webtest.Text(x.Page("/trail?grading=" + x.Day))
	for _, words := range []string{"(30 counted)", "corrected to retest by Rosa: two were swapped", "result announced"} {
		assert.Contains(t, trail, words)
	}
	assert.Contains(t, webtest.Text(x.Page("/trail?text=agreed")), "Agreed with 2 proposals of Day")
	assert.Contains(t, webtest.Text(x.Page("/trail?text=nothing+like+it")), "Nothing fits")

	// The family reads the same in plain words, and nobody else's.
	token, _, err := x.Store.MakeLink(webtest.Ctx, webtest.Me, all[0].StudentID, "Greta", 30)
	require.NoError(t, err)
	home := x.Page("/family/" + token)
	assert.Contains(t, home, "/family/"+token+"/result/"+all[0].ID)
	assert.Contains(t, webtest.Text(x.Page("/family/"+token+"/result/"+all[0].ID)), "When to try again")
	for _, id := range []string{all[1].ID, x.Stranger, "none"} {
		assert.Equal(t, http.StatusNotFound, x.Do("GET", "/family/"+token+"/result/"+id, "").Code)
	}
	assert.Equal(t, http.StatusConflict, x.Do("POST", "/paper/"+x.Own+"/"+x.GroupA+"/checked", "request=paper-x&typed=0").Code)
	x.Send("/paper/"+x.Own+"/"+x.GroupA+"/checked", "request", "paper-y", "typed", "1", "differed", "1")
	assert.Contains(t, webtest.Text(x.Page("/trail?text=second+time")), "1 mark typed, 1 differed")
}

func TestWhatNobodySaw(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	_, err := h.Store.Sign(webtest.Ctx, webtest.Me, h.Examiner, h.Group, true)
	require.NoError(t, err)
	page := h.Page("/review/" + h.Grading)
	assert.Contains(t, page, `class="dot incomplete"`)
	assert.Contains(t, webtest.Text(page), "seen by nobody, to be called again")
	assert.Contains(t, webtest.Text(page), "Call it again")
}
