package office_test

import (
	"bytes"
	"net/http"
	"net/url"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/webtest"
)

// TestWhatWasErased: from the student's page to the list of erasures; while a grading is under way it says that the file still holds
// it, and afterwards the file does not.
func TestWhatWasErased(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	webtest.Says(t, h.Page("/erasures"), "Nobody yet.")
	d, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Quillon Ashdown", Stance: progress.Orthodox})
	require.NoError(t, err)
	webtest.Says(t, h.Page("/students/"+d.ID+"/record"), "Then the file is written anew")
	address, page := h.Send("/students/"+d.ID+"/record/erase", "confirm", "Quillon Ashdown")
	assert.Contains(t, address, "/erasures?done=")
	webtest.Says(t, page, "still in the file")
	webtest.Says(t, page, "pages of the file do until it is written anew")
	w := h.Do("POST", "/erasures", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "A grading is under way")
	_, err = h.Store.CloseGrading(webtest.Ctx, webtest.Me, h.Grading, true)
	require.NoError(t, err)
	_, page = h.Send("/erasures")
	webtest.Says(t, page, "◆ written anew")
	assert.NotContains(t, page, "Still in the file")
	for _, file := range []string{h.Path, h.Path + "-wal"} {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.False(t, bytes.Contains(data, []byte("Quillon")), file)
	}
	assert.Equal(t, http.StatusOK, h.Do("GET", "/erasures?full=1", "").Code, "what was done meanwhile is no trouble any more")
	// Sent twice, it is done once.
	d, err = h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Una Weir", Stance: progress.Orthodox})
	require.NoError(t, err)
	form := url.Values{"confirm": {"una weir"}, "request": {"abcdef0123"}}.Encode()
	for range 2 {
		assert.Equal(t, http.StatusSeeOther, h.Do("POST", "/students/"+d.ID+"/record/erase", form).Code)
	}
	all, err := h.Store.Erasures(webtest.Ctx)
	require.NoError(t, err)
	assert.Len(t, all, 2)
}
