package office_test

import (
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/web/webtest"
)

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
