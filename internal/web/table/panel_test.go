package table_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestAnOwnerOnThePanel keeps their eyes on their own sheet until all have signed, or a colleague is absent; an owner who
// is not on the panel may open every sheet.
func TestAnOwnerOnThePanel(t *testing.T) {
	x := webtest.NewHall(t)
	g, err := x.Store.Grading(webtest.Ctx, x.Day)
	require.NoError(t, err)
	name := g.Panel(0)[0].Name
	require.Equal(t, http.StatusSeeOther, x.Owns.Do("POST", "/people", webtest.Values("name", name, "sign_in", "panel", "role", "owner", "password", webtest.Secret).Encode()).Code)
	sits := x.Browser()
	require.Equal(t, http.StatusSeeOther, sits.SignIn("panel", webtest.Secret).Code)
	colleague, own := "/scoring/"+x.Own+"/"+x.GroupA, "/scoring/"+x.Chief+"/"+x.GroupA
	paper := "/paper/" + x.Own + "/" + x.GroupA
	for _, c := range []struct {
		method, path, body string
		status             int
	}{
		{"GET", colleague, "", 403}, {"GET", colleague + "/state", "", 409}, {"GET", paper, "", 403}, {"POST", colleague + "/sign", "fill=1", 403}, {"POST", paper + "/checked", "typed=1", 409},
		{"GET", own, "", 200}, {"GET", own + "/state", "", 200},
	} {
		w := sits.Do(c.method, c.path, c.body)
		assert.Equal(t, c.status, w.Code, "%s %s: %s", c.method, c.path, w.Body)
		if c.status != 200 {
			assert.Contains(t, w.Body.String(), "nobody sees a colleague", c.path)
		}
	}
	assert.Equal(t, http.StatusOK, x.Owns.Do("GET", colleague, "").Code, "who is not on the panel may")
	w := sits.Do("POST", "/examiners/"+x.Own+"/absent", "request=absent-1")
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	assert.Equal(t, http.StatusOK, sits.Do("GET", colleague, "").Code, "an absent colleague's paper is typed in")
	head := webtest.Text(sits.Do("GET", "/head/"+x.Day, "").Body.String())
	assert.Contains(t, head, "Is there again")
	assert.Contains(t, head, "The panels are of different sizes: Ring A 2, Ring B 3")
	require.Equal(t, http.StatusSeeOther, sits.Do("POST", "/examiners/"+x.Own+"/absent", "request=absent-2&back=1").Code)
	assert.Equal(t, http.StatusForbidden, sits.Do("GET", colleague, "").Code)
	for _, e := range g.Panel(0) {
		webtest.Mark(t, x.Store, []gradingday.Mark{{ID: store.NewID(), CandidateID: x.Candidate, ExaminerID: e.ID, ItemID: x.ItemA, Kind: gradingday.MarkNotSeen}})
		_, err := x.Store.Sign(webtest.Ctx, webtest.Me, e.ID, x.GroupA, true)
		require.NoError(t, err)
	}
	assert.Equal(t, http.StatusOK, sits.Do("GET", colleague, "").Code, "after all have signed")

	// Where the chief goes, the head table asks for another.
	require.Equal(t, http.StatusSeeOther, x.Owns.Do("POST", "/examiners/"+x.Chief+"/absent", "request=absent-3").Code)
	head = webtest.Text(x.Owns.Do("GET", "/head/"+x.Day, "").Body.String())
	assert.Contains(t, head, "has no chief examiner")
	require.Equal(t, http.StatusSeeOther, x.Owns.Do("POST", "/examiners/"+x.Own+"/chief", "request=chief-1").Code)
	assert.NotContains(t, webtest.Text(x.Owns.Do("GET", "/head/"+x.Day, "").Body.String()), "has no chief examiner")
	assert.Equal(t, http.StatusForbidden, x.Teaches.Do("POST", "/examiners/"+x.Own+"/chief", "x=1").Code)
	assert.Equal(t, http.StatusForbidden, x.Teaches.Do("POST", "/examiners/"+x.Own+"/absent", "x=1").Code)
}

// TestWhoLeaves is asked why where marks stand, and comes back to the same sheet.
func TestWhoLeaves(t *testing.T) {
	x := webtest.NewHall(t)
	webtest.Mark(t, x.Store, []gradingday.Mark{{ID: store.NewID(), CandidateID: x.Candidate, ExaminerID: x.Own, ItemID: x.ItemA, Kind: gradingday.MarkNotSeen}})
	w := x.Owns.Do("POST", "/candidates/"+x.Candidate+"/withdraw", "grading="+x.Day+"&sure=1")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "say why the test is left")
	w = x.Owns.Do("POST", "/candidates/"+x.Candidate+"/withdraw", "grading="+x.Day+"&reason=hurt+a+toe")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, w.Body.String(), `value="hurt a toe"`, "what was typed is kept")
	w = x.Owns.Do("POST", "/candidates/"+x.Candidate+"/withdraw", "grading="+x.Day+"&reason=hurt+a+toe&sure=1")
	require.Equal(t, http.StatusSeeOther, w.Code)
	page := webtest.Text(x.Owns.Do("GET", "/gradings/"+x.Day, "").Body.String())
	assert.Contains(t, page, ": hurt a toe")
	assert.Contains(t, page, "1 mark on record")
	left, err := x.Store.WhoLeft(webtest.Ctx, x.Day, "")
	require.NoError(t, err)
	assert.Contains(t, webtest.Text(x.Owns.Do("GET", "/students/"+left[0].StudentID, "").Body.String()), "hurt a toe")
	assert.Equal(t, http.StatusForbidden, x.Teaches.Do("POST", "/candidates/"+x.Candidate+"/back", "x=1").Code)
	require.Equal(t, http.StatusSeeOther, x.Owns.Do("POST", "/candidates/"+x.Candidate+"/back", "x=1").Code)
	assert.NotContains(t, webtest.Text(x.Owns.Do("GET", "/gradings/"+x.Day, "").Body.String()), "hurt a toe")
}
