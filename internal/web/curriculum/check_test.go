package curriculum_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/golden"
	chapter "velvetladder/internal/web/curriculum"
	"velvetladder/internal/web/webtest"
)

func TestTheCheckIsSilencedWithAReason(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	page := h.Page("/check")
	webtest.Says(t, page, "2 holes in the ladder")
	key := regexp.MustCompile(`name="finding" value="(attack_unanswered[^"]+)"`).FindStringSubmatch(page)[1]
	w := h.Do("POST", "/check/silence", webtest.Values("program", h.Program, "finding", key, "reason", " ").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "say why this is as it should be")
	_, page = h.Send("/check/silence", "program", h.Program, "finding", key, "reason", "chokes are for the black belts' seminar")
	webtest.Says(t, page, "1 hole in the ladder")
	webtest.Says(t, page, "As it should be: chokes are for the black belts&#39; seminar")
	webtest.Says(t, h.Undo(page), "2 holes")
	h.Send("/check/silence", "program", h.Program, "finding", key, "reason", "so")
	_, page = h.Send("/check/silence", "program", h.Program, "finding", key, "take", "1")
	webtest.Says(t, page, "2 holes in the ladder")
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/check/silence", webtest.Values("program", h.Program, "finding", "nothing", "reason", "x").Encode()).Code)
	coverage := h.Page("/coverage")
	webtest.Says(t, coverage, "1 attack without an answer")
	assert.Contains(t, coverage, "/techniques/"+h.Book().Named("Mill Wheel").ID)
	assert.Contains(t, h.Page("/load"), "36 min")
}

// TestReadDifferently: after an upgrade the owner is shown once which lines have another meaning.
func TestReadDifferently(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/techniques/new", "program", h.Program, "name", "Jab", "kind", "strike")
	h.Send("/techniques/new", "program", h.Program, "name", "Turning drill", "kind", "combination", "stage_0_steps", "lead jab turn cw 180")
	assert.NotContains(t, webtest.Text(h.Page("/check")), "Read differently since the upgrade 1 finding")
	_, err := h.Store.ChangeProgram(webtest.Ctx, webtest.Me, h.Program, office.WordsChanged.Named("the program"), func(d *curriculum.ProgramDetails) error { d.ReadAnew = true; return nil })
	require.NoError(t, err)
	webtest.Says(t, h.Page("/ladder"), "1 line of moves is read differently since the upgrade")
	page := h.Page("/check")
	webtest.Says(t, page, "Read differently since the upgrade", "it was the left, the right foot leading, facing 180°; now it is the right", "I have looked at all of them")
	_, page = h.Send("/check/read", "program", h.Program)
	assert.NotContains(t, webtest.Text(page), "it was the left")
	assert.NotContains(t, webtest.Text(h.Page("/ladder")), "read differently since")
	h.Undo(page)
	webtest.Says(t, h.Page("/check"), "it was the left")
}

// TestEveryFindingLeadsSomewhere: the spot of each finding of a ladder full of holes is a page.
func TestEveryFindingLeadsSomewhere(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	_, err := h.Store.ChangeCurriculum(webtest.Ctx, webtest.Me, h.Program, func(b *curriculum.Book) (curriculum.Curriculum, office.Deed, error) {
		c := b.Curriculum
		c.Rungs = append([]curriculum.Rung{}, c.Rungs...)
		for i := range c.Rungs {
			c.Rungs[i].Kit, c.Rungs[i].Sparring = nil, nil
		}
		c.Techniques = append([]curriculum.Technique{}, c.Techniques...)
		for i := range c.Techniques {
			x := &c.Techniques[i]
			x.Cautions = nil
			if x.Kind == "kick" {
				x.Call = 500
				x.Sides = "left"
			}
		}
		var kept []curriculum.Requirement
		for _, r := range c.Requirements {
			if r.RungID != c.Rungs[4].ID {
				kept = append(kept, r)
			}
		}
		c.Requirements = kept
		return c, office.Changed.Named("the ladder"), nil
	})
	require.NoError(t, err)
	kinds := map[curriculum.FindingKind]bool{}
	for _, f := range h.Book().Check() {
		kinds[f.Kind] = true
		where := chapter.Spot(f)
		require.True(t, strings.HasPrefix(where, "/"))
		assert.Equal(t, http.StatusOK, h.Do("GET", where, "").Code, "%s leads to %s", f.Key(), where)
	}
	assert.GreaterOrEqual(t, len(kinds), 8, "%v", kinds)
	webtest.Says(t, h.Page("/check"), "holes in the ladder")
	webtest.Says(t, h.Page("/versions"), "Nothing is published yet")
}
