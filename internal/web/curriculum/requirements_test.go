package curriculum_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
	chapter "velvetladder/internal/web/curriculum"
	"velvetladder/internal/web/webtest"
)

// TestALineMovesPastAnother: lines that another line shows do not count as places.
func TestALineMovesPastAnother(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/binder/"+h.Yellow, "page", "Kicks\nFirst kick, always\nFirst kick, 2 a side\nSecond kick\nThird kick")
	order := func() (names []string) {
		rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
		require.NoError(t, err)
		for _, r := range rows {
			if !strings.HasPrefix(r.Technique.Name, "Kick") {
				names = append(names, r.Technique.Name+" "+r.Quantity.String())
			}
		}
		return names
	}
	rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
	require.NoError(t, err)
	id := map[string]string{}
	for _, r := range rows {
		id[r.Technique.Name+" "+r.Quantity.String()] = r.ID
	}
	_, page := h.Send("/requirements/"+id["Third kick 5 a side"]+"/move", "rung", h.Yellow, "past", id["First kick 5 a side"])
	assert.Equal(t, []string{"Third kick 5 a side", "First kick 5 a side", "First kick 2 a side", "Second kick 5 a side"}, order())
	h.Undo(page)
	h.Send("/requirements/"+id["First kick 5 a side"]+"/move", "rung", h.Yellow, "past", id["Second kick 5 a side"])
	assert.Equal(t, []string{"First kick 2 a side", "Second kick 5 a side", "First kick 5 a side", "Third kick 5 a side"}, order())
	assert.Equal(t, http.StatusConflict, h.Do("POST", "/requirements/"+id["Third kick 5 a side"]+"/move", "past=elsewhere").Code)
	assert.Equal(t, http.StatusNotFound, h.Do("POST", "/requirements/none/move", "past=elsewhere").Code)
}

func TestRequirementsAndTheSheet(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	add := func(technique, amount string, more ...string) string {
		_, page := h.Send("/requirements/new", append([]string{"rung", h.Yellow, "section", h.Section, "technique", technique, "amount", amount, "role", "performer", "weight", "1"}, more...)...)
		return page
	}
	page := add("Bent Reed", "2 a side", "must_pass", "1", "note", "slowly")
	assert.Regexp(t, "Bent Reed slowly must pass ● new.* 2 a side", webtest.Text(page))
	assert.Contains(t, page, `<details id="add" class="card-plain" open>`, "the next line can be typed at once")
	add("Two Oars", "3 x 60 s, 30 s rest", "bonus", "1", "weight", "3")
	rows, err := h.Store.Requirements(webtest.Ctx, h.Yellow)
	require.NoError(t, err)
	require.Len(t, rows, 3)
	oars := rows[2]
	assert.Contains(t, h.Page("/requirements/"+oars.ID), `value="3 × 60 s, 30 s rest"`)
	_, page = h.Send("/requirements/"+oars.ID, "section", h.Section, "technique", "Two Oars", "amount", "once", "role", "attacker", "weight", "2", "note", "")
	assert.Regexp(t, "Two Oars, attacker weight 2 ● new.* once", webtest.Text(page))
	refused := h.Do("POST", "/requirements/"+oars.ID, webtest.Values("section", h.Section, "technique", "", "amount", "0", "role", "attacker", "weight", "x").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "must be from 1 to 1000", "is not a whole number"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, _ = h.Send("/requirements/"+oars.ID+"/move", "places", "-2", "rung", h.Yellow)
	sheet := webtest.Text(h.Page("/sheet/" + h.Yellow + "?group=4"))
	assert.Contains(t, sheet, "3 lines ·")
	assert.Contains(t, sheet, "1 Two Oars, attacker")
	assert.Contains(t, sheet, "for 4 candidates")
	assert.Equal(t, http.StatusBadRequest, h.Do("GET", "/sheet/"+h.Yellow+"?group=9", "").Code)
	_, page = h.Send("/requirements/"+oars.ID+"/delete", "rung", h.Yellow)
	assert.NotContains(t, webtest.Text(page), "Two Oars, attacker")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Two Oars, attacker")
	used := webtest.Text(h.Page("/techniques/" + oars.TechniqueID))
	assert.Contains(t, used, "Used by Yellow")
	assert.Contains(t, used, "once · attacker")
}

// TestALadderThatWasRefused: beside a refused line the links of stance and track lead to the rung.
func TestALadderThatWasRefused(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	w := h.Do("POST", "/requirements/new", webtest.Values("rung", h.Yellow, "technique", "Hook", "amount", "lots", "role", "performer", "weight", "1").Encode())
	require.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), `href="/ladder/`+h.Yellow+`?`)
	assert.NotContains(t, w.Body.String(), `href="/requirements/new?`)
}

// TestARequirementThatSaysEverything goes through its form and is read out on rung and sheet.
func TestARequirementThatSaysEverything(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	b := h.Book()
	orange := b.RungNamed("Orange belt")
	var old curriculum.Requirement
	for _, r := range b.Asked(orange.ID) {
		if b.Technique(r.TechniqueID).Name == "Round kick" {
			old = r
		}
	}
	require.NotEmpty(t, old.ID)
	kick := *b.Technique(old.TechniqueID)
	two := curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}
	want := old
	want.Quantity, want.MustPass, want.Weight, want.Note = curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 7}, true, 3, "as on the mat"
	want.RequirementDetails = curriculum.RequirementDetails{
		Setting: "pads", Covers: true, NonStop: true, Slow: true, Supported: true, Sprint: 10, Checks: kick.Checkpoints[:1], LeastLevel: "mid", Versions: []string{"with a step", "on the spot"},
		Table: []curriculum.TableMark{{Count: 5, Mark: scoring.Whole(2)}, {Count: 7, Mark: scoring.Whole(3)}}, MarkLooks: []curriculum.MarkLook{{Mark: scoring.Whole(2), Looks: "one slide"}, {Mark: scoring.Whole(5) / 2, Looks: "two: level"}}, Carry: curriculum.Carry{Kind: curriculum.Until, Rung: b.RungNamed("Blue belt").ID}, ShowAgain: true, AtOnce: 2, Looks: 3,
		Tracks: []curriculum.TrackChange{{TrackID: b.Program.Tracks[0].ID, Bonus: true, Quantity: &two, Level: "low"}, {TrackID: b.Program.Tracks[1].ID, LeaveOut: true}},
	}
	form := chapter.RequirementValues(want, kick, b)
	form.Set("whole", "1")
	_, page := h.Send("/requirements/"+old.ID, webtest.Flat(form)...)
	for _, r := range h.Book().Asked(orange.ID) {
		if r.ID == old.ID {
			r.Position, want.Position = 0, 0
			webtest.Same(t, want, r, "nothing is lost on the way")
		}
	}
	for _, said := range []string{"Round kick, on pads", "at least mid", "equally right: with a step; on the spot", "mark from 5: 2, from 7: 3", "2 is one slide", "2.5 is two: level", "non-stop, slowly, support allowed, sprint called for the last 10 s", "must pass weight 3"} {
		webtest.Says(t, page, said)
	}
	cubs, juniors := b.Program.Tracks[0].ID, b.Program.Tracks[1].ID
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+cubs), "Cubs do 2 a side instead of 7 a side.")
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+cubs), "For Cubs low is enough.")
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+juniors), "Juniors leave it out.")
	webtest.Says(t, h.Page("/ladder/"+b.RungNamed("Blue belt").ID), "Carried from Orange belt, until Blue belt.")
	form = webtest.Fields(h.Page("/requirements/" + old.ID))
	assert.Equal(t, kick.Checkpoints[:1], form["checkpoints"])
	h.Send("/requirements/"+old.ID, webtest.Flat(form)...)
	for field, x := range map[string][2]string{"table": {"many = 2", "write the least count and its mark"}, "mark_looks": {"2 one slide", "write a mark, a colon"}, "sprint": {"601", "from 0 to 600"}, "track_0_amount": {"lots", "not an amount"}, "carry_rung": {"gone", "is no rung of this ladder"}, "looks": {"x", "is not a whole number"}, "role": {"judge", "is not a choice"}} {
		v := webtest.Fields(h.Page("/requirements/" + old.ID))
		v.Set(field, x[0])
		w := h.Do("POST", "/requirements/"+old.ID, v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), x[1], field)
	}
}
