package people_test

import (
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// TestOnTheFloorAtHome: a family sees what is on the practice sheet in the student's body and stance, with its cautions, and nothing else;
// the school's own people are led to the technique.
func TestOnTheFloorAtHome(t *testing.T) {
	golden.Alone(t)
	h, programs := webtest.Mill(t)
	_, err := h.Store.AddStudents(webtest.Ctx, webtest.Me, []store.NewStudent{{Student: programs[0].Students[1].Student, Starts: []store.Start{{RungID: h.Book().RungNamed("Yellow stripe").ID, Since: h.Store.Today()}}}})
	require.NoError(t, err)
	rows, _, err := h.Store.Students(webtest.Ctx, programs[0].Program.ID, programs[0].Students[1].Name, 1, 0)
	require.NoError(t, err)
	sheet := "/practice/" + rows[0].EnrolmentID
	b := h.Book()
	fighting, wheel := b.Named("Fighting stance"), b.Named("Mill Wheel")
	page := h.Page(sheet)
	assert.Contains(t, page, `href="/techniques/`+fighting.ID+`/stance?who=`)
	assert.Contains(t, page, `href="/techniques/`+wheel.ID+`/floor?who=`)
	link := regexp.MustCompile(`/family/[0-9a-f]{40}`).FindString(h.Do("POST", sheet+"/link", "who=Greta&days=30").Body.String())
	home := h.Page(link)
	climb := "?climb=" + rows[0].EnrolmentID
	assert.Contains(t, home, `href="`+link+`/floor/`+wheel.ID+climb+`"`)
	assert.NotContains(t, home, "/techniques/")
	stance := h.Page(link + "/floor/" + fighting.ID + climb)
	webtest.Says(t, stance, "Fighting stance")
	webtest.Says(t, stance, "from the side")
	webtest.Says(t, stance, "What the instructor says comes first")
	defence := h.Page(link + "/floor/" + wheel.ID + climb)
	webtest.Says(t, defence, "the attacker, coming down the line")
	webtest.Says(t, defence, "light touch at most")
	assert.NotContains(t, defence, "/techniques/")
	for _, address := range []string{"/floor/" + b.Named("Long Race").ID + climb, "/floor/none", "/floor/" + b.Named("Rope").ID + climb} {
		assert.Equal(t, http.StatusNotFound, h.Do("GET", link+address, "").Code, address)
	}
}
