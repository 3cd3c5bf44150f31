package curriculum_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/webtest"
)

// Bounds: the first and the last value that each page takes or offers, and the ones beside them.

// TestSizesOfASheet: a sheet is for one to four at once, and for the usual number where nobody says.
func TestSizesOfASheet(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for group, status := range map[string]int{"": 200, "1": 200, "4": 200, "0": 400, "5": 400, "x": 400} {
		assert.Equal(t, status, h.Do("GET", "/sheet/"+h.Yellow+"?group="+group, "").Code, "group %q", group)
	}
	var sizes []string
	for _, m := range regexp.MustCompile(`[?&;]group=(\d)`).FindAllStringSubmatch(h.Page("/sheet/"+h.Yellow), -1) {
		sizes = append(sizes, m[1])
	}
	assert.Equal(t, []string{"1", "2", "3", "4"}, sizes)
}

// TestStagesOfferedToARequirement: each stage of the technique, the last one too, and no other.
func TestStagesOfferedToARequirement(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	tech, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Long Weir", Kind: "form", TechniqueDetails: curriculum.TechniqueDetails{
		Stages: []curriculum.Stage{{Name: "Bank", Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"Bow."})}, {Name: "Bridge", RungID: h.Yellow, Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"Turn."})}}}})
	require.NoError(t, err)
	r, err := h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, TechniqueID: tech.ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}}, "", "")
	require.NoError(t, err)
	page := h.Page("/requirements/" + r.ID)
	field := page[strings.Index(page, `name="stage_cap"`):]
	field = field[:strings.Index(field, "</select>")]
	assert.Equal(t, 3, strings.Count(field, "<option"), field)
	assert.Regexp(t, `value="1"[^>]*>up to Bank<`, field)
	assert.Regexp(t, `value="2"[^>]*>up to Bridge<`, field)
}

// TestRungsOfACoverage: what the lowest rung asks says so; what none asks says that.
func TestRungsOfACoverage(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for name, rung := range map[string]string{"Low Tide": h.White, "No Tide": ""} {
		tech, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: name, Kind: "strike", TechniqueDetails: curriculum.TechniqueDetails{Targets: []string{"ribs"}}})
		require.NoError(t, err)
		if rung != "" {
			_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: rung, SectionID: h.Section, TechniqueID: tech.ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}}, "", "")
			require.NoError(t, err)
		}
	}
	text := webtest.Text(h.Page("/coverage"))
	assert.Regexp(t, `Low Tide White`, text)
	assert.Regexp(t, `No Tide no rung`, text)
}

// TestPagesToBeginWith: those of other rungs that ask for something, and of no other.
func TestPagesToBeginWith(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	offered := func(rung string) (out []string) {
		page := h.Page("/binder/" + rung)
		_, field, there := strings.Cut(page, `name="from"`)
		if !there {
			return nil
		}
		field, _, _ = strings.Cut(field, "</select>")
		for _, m := range regexp.MustCompile(`value="([^"]+)"`).FindAllStringSubmatch(field, -1) {
			out = append(out, m[1])
		}
		return out
	}
	assert.Equal(t, []string{h.Yellow}, offered(h.White))
	assert.Empty(t, offered(h.Yellow), "itself is none, and White asks for nothing")
}

// TestTheStanceOfWhomOneDraws: that of the student, where the address names none; of both people of a defence.
func TestTheStanceOfWhomOneDraws(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	_, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Cleo Ford", Stance: progress.Southpaw, BirthDate: civil.MustParse("2000-01-01")})
	require.NoError(t, err)
	h.Send("/techniques/new", "program", h.Program, "name", "Jab", "kind", "strike")
	tech, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Long Ford", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{AttackMoves: "lead jab",
		Stages: []curriculum.Stage{{Does: curriculum.Appends, Steps: curriculum.ParseSteps([]string{"lead jab"})}}}})
	require.NoError(t, err)
	drawn := func(q string) string { return webtest.Text(h.Page("/techniques/" + tech.ID + q)) }
	who, attacker := "?who=Cleo+Ford", "?attacker_is=Cleo+Ford"
	assert.NotEqual(t, drawn(who+"&stance=orthodox"), drawn(who), "who is drawn stands as they do")
	assert.Contains(t, drawn(who), "right jab")
	assert.NotContains(t, drawn(who+"&stance=orthodox"), "right jab")
	assert.Contains(t, drawn(attacker), "right jab", "so does the attacker")
	assert.NotContains(t, drawn(attacker+"&attacker=orthodox"), "right jab")
}

// TestRulesOfCombinationsAreSaid: with any rule switched on what is useful is counted; without one it is not.
func TestRulesOfCombinationsAreSaid(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	h.Send("/techniques/new", "program", h.Program, "name", "Jab", "kind", "strike")
	_, err := h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, TechniqueID: h.Book().Named("Jab").ID, Role: "performer", Weight: 1, Quantity: curriculum.Quantity{Measure: curriculum.RepsInAll, Reps: 1}}, "", "")
	require.NoError(t, err)
	for _, rule := range []string{"lead_first", "recover", "no_twice", "can_leave"} {
		webtest.Says(t, h.Page("/combinations?rung="+h.Yellow+"&k=2&"+rule+"=1"), "Useful by the rules switched on")
	}
	w := h.Do("GET", "/combinations?rung="+h.Yellow+"&k=2", "")
	require.Equal(t, http.StatusOK, w.Code)
	assert.NotContains(t, w.Body.String(), "Useful by the rules switched on")
}
