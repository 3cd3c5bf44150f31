package curriculum_test

import (
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/golden"
	chapter "velvetladder/internal/web/curriculum"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/webtest"
)

// TestFormsLoseNothing: every technique, requirement, rung and program of the demo, shown in
// its form and saved as it stands, is the same afterwards.
func TestFormsLoseNothing(t *testing.T) {
	golden.Alone(t)
	h, programs := webtest.Mill(t)
	for _, p := range programs {
		h.Program = p.Program.ID
		b := h.Book()
		for i := range b.Techniques {
			x := b.Techniques[i]
			got, problems := chapter.ReadTechnique(chapter.TechniqueValues(&x, b), b)
			require.Empty(t, problems, x.Name)
			got.ID = x.ID
			if x.Stance != nil { // has a form of its own
				d, problems := chapter.ReadStance(chapter.StanceValues(*x.Stance), x.FeetStand() == notation.SideBySide)
				require.Empty(t, problems, x.Name)
				got.Stance = &d
			}
			webtest.Same(t, x, got, x.Name)
		}
		for _, q := range b.Requirements {
			v := chapter.RequirementValues(q, *b.Technique(q.TechniqueID), b)
			v.Set("whole", "1")
			got, problems := chapter.ReadRequirement(v, curriculum.Requirement{ID: q.ID, RungID: q.RungID, TechniqueID: q.TechniqueID}, b)
			require.Empty(t, problems)
			webtest.Same(t, q, got, b.Technique(q.TechniqueID).Name)
		}
		d := curriculum.ProgramDetails{Marking: b.Program.Marking, Policy: b.Program.Policy}
		require.Empty(t, chapter.ReadDetails(parts.DetailValues(b.Program.ProgramDetails), &d))
		webtest.Same(t, b.Program.ProgramDetails, d, p.Program.Name)
		for _, g := range b.Rungs {
			form := webtest.Fields(h.Page("/rungs/" + g.ID))
			_, page := h.Send("/rungs/"+g.ID, webtest.Flat(form)...)
			assert.Contains(t, webtest.Text(page), "Changed "+g.Name)
			webtest.Same(t, g, *h.Book().Rung(g.ID), g.Name)
		}
	}
}

// TestATechniqueGrows: both roles, the staircase, what each part adds, branches, four
// pairings of stances.
func TestATechniqueGrows(t *testing.T) {
	h, _ := webtest.Mill(t)
	wheel := h.Book().Named("Mill Wheel")
	page := h.Page("/techniques/" + wheel.ID)
	for _, said := range []string{"The attack", "The defence", "answers the punch", "How it grows", "added here", "Extension", "ends differently", "light touch at most", "holds: right check"} {
		webtest.Says(t, page, said)
	}
	assert.Contains(t, page, `class="stairs"`)
	seen := map[string]bool{}
	for _, pair := range []string{"stance=orthodox&attacker=orthodox", "stance=orthodox&attacker=southpaw", "stance=southpaw&attacker=orthodox", "stance=southpaw&attacker=southpaw"} {
		whole := h.Page("/techniques/" + wheel.ID + "?" + pair)
		_, moves, _ := strings.Cut(whole, "<h2>The attack</h2>")
		seen[webtest.Text(moves)] = true
	}
	assert.Len(t, seen, 4, "every pairing is shown differently")
	h.Send("/techniques/"+wheel.ID+"/edit", webtest.Flat(webtest.Fields(h.Page("/techniques/"+wheel.ID+"/edit")))...)
	webtest.Same(t, *wheel, *h.Book().Named("Mill Wheel"), "saved as it stands, nothing changes")

	form := webtest.Fields(h.Page("/techniques/" + wheel.ID + "/edit"))
	for field, x := range map[string][2]string{
		"stage_1_steps": {"left plam strike high", "step 1, column 6: &#34;plam strike&#34; is not in the catalogue; near it are"}, "builds_on": {"Mill Weel", "is no technique of this program; near it are"},
		"branches": {"too far", "write what is seen and how it goes on"}, "clips": {"One | a.mp4 | sideways", "is not understood"}, "terms": {"Korean", "write the language and the term"},
		"attack": {"a nasty look", "is no attack, side, level, motion or origin"}, "stage_2_rung": {"", "a later part arrives on one"}, "call": {"4444", "must be from 0 to 999"},
	} {
		v := url.Values{}
		for k, list := range form {
			v[k] = list
		}
		v.Set(field, x[0])
		w := h.Do("POST", "/techniques/"+wheel.ID+"/edit", v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), x[1], field)
		assert.Contains(t, w.Body.String(), x[0], "the input is kept")
	}
	webtest.Same(t, wheel, h.Book().Named("Mill Wheel"), "nothing was half-written")
	circle := webtest.Fields(h.Page("/techniques/" + h.Book().Named("Front kick").ID + "/edit"))
	jump := ""
	for _, x := range h.Book().Techniques {
		if len(x.BuildsOn) > 0 && x.BuildsOn[0] == h.Book().Named("Front kick").ID {
			jump = x.Name
		}
	}
	require.NotEmpty(t, jump)
	circle.Set("builds_on", jump)
	w := h.Do("POST", "/techniques/"+h.Book().Named("Front kick").ID+"/edit", circle.Encode())
	webtest.Says(t, w.Body.String(), "goes round in a circle")
}

func TestTechniques(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, page := h.Send("/techniques/new", "program", h.Program, "name", "Mill Wheel", "kind", "lock", "term", "suisha", "aliases", "Wheel, Water wheel", "note", "answers a punch",
		"checkpoints", "one\r\ntwo\r\n\r\n", "faults", "too early -> wait\nstands in front", "cautions", "slowly", "surface_basics", "palm")
	id := webtest.Last(address)
	assert.Contains(t, page, "never jerk")
	edit := h.Page("/techniques/" + id + "/edit")
	for _, said := range []string{"one\ntwo", "too early → wait\nstands in front", `value="Wheel, Water wheel"`, `value="palm"`} {
		assert.Contains(t, edit, said)
	}
	for query, found := range map[string]bool{"text=wheel": true, "text=SUISHA": true, "text=water": true, "kind=lock": true, "kind=kick": false, "text=river": false, "text=%27%3B--": false} {
		assert.Equal(t, found, strings.Contains(h.Page("/techniques?"+query), "/techniques/"+id), query)
	}
	refused := h.Do("POST", "/techniques/"+id+"/edit", webtest.Values("program", h.Program, "name", "", "kind", "dance", "checkpoints", strings.Repeat("x\n", 50), "note", "keep me").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	for _, said := range []string{"is empty", "is not a choice", "has 50 lines; up to 40 fit", "keep me"} {
		assert.Contains(t, refused.Body.String(), said)
	}
	_, page = h.Send("/techniques/"+id+"/edit", "program", h.Program, "name", "Mill Race", "kind", "lock")
	assert.Contains(t, webtest.Text(page), "Mill Race")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Mill Wheel")
	w := h.Do("POST", "/techniques/"+h.Technique+"/delete", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "1 requirement asks for it")
	_, page = h.Send("/techniques/" + id + "/delete")
	assert.NotContains(t, page, "/techniques/"+id)
	assert.Contains(t, h.Undo(page), "/techniques/"+id)
}

// everything is a technique that says all a technique can say.
func everything(h *webtest.House) curriculum.Technique {
	b := h.Book()
	green := b.RungNamed("Green belt").ID
	return curriculum.Technique{
		Name: "Whole Wheel", Kind: "self_defence", Term: "marui", Aliases: []string{"The whole", "Round one"}, Note: "Against two punches",
		Checkpoints: []string{"chamber: elbow in", "extend: palm up", "no phase"}, Faults: []curriculum.Fault{{Seen: "leans", Leads: "falls", Correction: "stand", Critical: true}, {Seen: "late"}},
		Cautions: []string{"joint: slowly", "throw: mats first"}, Surfaces: []curriculum.Surface{{Context: "basics", Part: "palm"}, {Context: "self-defence", Part: "heel of the hand"}},
		TechniqueDetails: curriculum.TechniqueDetails{
			Script: "丸い", Terms: []curriculum.Term{{Language: "Korean", Text: "dungeun", Script: "둥근"}, {Language: "Welsh", Text: "crwn"}}, Series: "Wheels", Number: 3, Call: 77, Family: "wheels",
			Modifiers: []curriculum.Modifier{"stepping", "rear-leg"}, BuildsOn: []string{b.Named("Jab").ID, b.Named("Cross").ID}, Levels: []notation.Level{"mid", "high"}, Range: "inside", Targets: []string{"ribs", "chin"}, Angle: "upwards", Difficulty: 4,
			AdvisedIn: []string{"self-defence"}, SkillOnly: []string{"sparring"}, LeavesOpen: "the left ribs", CoveredBy: "the elbow", SetUpBy: "a step", FollowedBy: "leaving",
			Entries: []curriculum.Entry{{Name: "direct grip"}, {Name: "counter-grip", Initiated: true, Success: []string{"the elbow lifts"}, Steps: []curriculum.Step{{Moves: "right palm strike", Answers: "the punch"}, {Moves: "Turn the thumb down."}}}}, SideMeans: "stance", Parts: []curriculum.Part{{Name: "The way in", From: 1, To: 2}}, Success: []string{"rises on the toes"}, Sides: "lead", YoungestTrack: b.Program.Tracks[1].ID, Answers: []string{"none"},
			Attack: []curriculum.AttackElement{{Kind: "straight punch", Side: "right", Level: "high", Motion: "step-through", Origin: "front"}, {Kind: "hook", Side: "left", Origin: "front"}}, AttackMoves: "step through right jab high, left cross", AttackerLooks: []string{"reaches"}, Position: "outside",
			Stages: []curriculum.Stage{
				{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "slide back left inward parry", Answers: "the punch"}, {Moves: "Look at the elbow."}}},
				{RungID: green, Name: "the turn", Does: curriculum.Alters, From: 2, Shown: curriculum.OpenToTry, Note: "calmly", Steps: []curriculum.Step{{Moves: "right jab mid"}}},
				{RungID: b.RungNamed("Black belt").ID, Name: "extension", Does: curriculum.Attaches, Shown: curriculum.Hidden, Attached: b.Named("Mill Wheel").ID},
			},
			Apart: []curriculum.Apart{{TechniqueID: b.Named("Two Oars").ID, Differs: "one hand only"}}, Cues: []string{"turn like a wheel", "shut the gate"},
			Drills:   []curriculum.Drill{{Name: "Slow wheel", How: "at the wall, ten times"}, {Name: "With a partner", From: b.Program.Tracks[1].ID}},
			Branches: []curriculum.Branch{{When: "too far", Then: curriculum.BreakOff}, {When: "bends the arm", Then: curriculum.GoTo, TechniqueID: b.Named("Two Oars").ID}, {When: "stays", Then: curriculum.Continue}},
			Clips:    []curriculum.Clip{{Title: "Slow", Address: "shelf 3", Stage: 2, Side: "left", From: green}, {Title: "Fast", Address: "https://clips.example/fast"}},
		},
	}
}

// TestATechniqueThatSaysEverything goes through its form and shows all of it.
func TestATechniqueThatSaysEverything(t *testing.T) {
	golden.Alone(t)
	h, _ := webtest.Mill(t)
	want := everything(h)
	b := h.Book()
	form := chapter.TechniqueValues(&want, b)
	form.Set("program", h.Program)
	address, page := h.Send("/techniques/new", webtest.Flat(form)...)
	id := webtest.Last(address)
	got := *h.Book().Technique(id)
	want.ID, want.ProgramID = id, h.Program
	webtest.Same(t, want, got, "nothing is lost on the way")
	for _, said := range []string{
		"Whole Wheel marui 丸い", "Wheels 3", "right straight punch, high, step-through, front, then left hook, front", "answers the punch", "Look at the elbow.", "It ends outside the attacker’s arm", "How it grows", "the turn", "alters steps",
		"open to try below its rung", "calmly", "goes on with Mill Wheel", "hidden below its rung", "Mill Wheel", "too far → break off", "bends the arm → go to Two Oars", "stays → continue", "chamber", "elbow in", "Critical: leans leads to: falls → stand", "Ways in", "counter-grip",
		"It works when rises on the toes", "slowly", "mats first", "Also called The whole, Round one", "Korean dungeun 둥근", "Welsh crwn", "Family wheels", "Variant stepping, rear-leg", "Called by number 77", "Levels mid, high", "Range inside", "Targets ribs, chin", "Angle upwards",
		"Difficulty 4 of 5", "Trained on lead side", "Youngest track Juniors", "Advised in self-defence", "For skill only in sparring", "Leaves open the left ribs", "Covered by the elbow", "Set up by a step", "Followed by leaving", "Strikes, basics palm", "Builds on Jab Cross", "Slow shelf 3 · the turn · left · from Green belt on", "No rung asks for it yet",
	} {
		webtest.Says(t, page, said)
	}
	assert.Contains(t, page, `href="https://clips.example/fast" rel="noreferrer"`)
	webtest.Says(t, h.Page("/techniques/"+h.Book().Named("Jab").ID), "Built on it")
	_, page = h.Send("/techniques/"+id+"/edit", webtest.Flat(webtest.Fields(h.Page("/techniques/"+id+"/edit")))...)
	webtest.Same(t, want, *h.Book().Technique(id), "nor when it is saved again as the browser shows it")
	webtest.Says(t, page, "Changed Whole Wheel")
	webtest.Says(t, h.Page("/glossary"), "Whole Wheel marui 丸い dungeun 둥근 crwn The whole, Round one")
	// Called by its number, in a line of its own.
	h.Send("/techniques/new", "program", h.Program, "name", "By number", "kind", "combination", "stage_0_steps", "lead 77 mid, rear jab")
	webtest.Says(t, h.Page("/techniques?text=by+number"), "By number")
	w := h.Do("POST", "/techniques/"+h.Book().Named("Mill Wheel").ID+"/delete", "")
	assert.Equal(t, http.StatusConflict, w.Code)
	_, page = h.Send("/techniques/" + id + "/delete")
	assert.NotContains(t, page, id+`" data-row`)
}

// TestNumbersAtTheirEnds: every number of the large forms takes its least and its most, and tells
// what would be right one beyond. The forms are sent as a browser would, with one field changed.
func TestNumbersAtTheirEnds(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t).Furnish()
	spar, err := h.Store.SaveTechnique(webtest.Ctx, webtest.Me, curriculum.Technique{ProgramID: h.Program, Name: "Free rounds", Kind: "sparring"})
	require.NoError(t, err)
	_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, curriculum.Requirement{RungID: h.Yellow, SectionID: h.Section, TechniqueID: spar.ID, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 60}, Weight: 1}, "", "")
	require.NoError(t, err)
	coming := h.Coming()
	type ends map[string][2]int
	for page, all := range map[string]ends{
		"/settings":                            {"width_cm": {200, 10000}, "depth_cm": {200, 10000}, "retention": {0, 30}},
		"/requirements/" + h.Requirement:       {"weight": {1, 100}, "at_once": {0, 50}, "looks": {0, 9}, "sprint": {0, 600}, "stage_cap": {0, 20}},
		"/techniques/" + h.Technique + "/edit": {"call": {0, 999}, "number": {0, 999}, "difficulty": {0, 5}},
		"/rungs/" + h.Yellow:                   {"mark_count": {0, 10}},
		"/gradings/" + coming + "/edit":        {"group_size": {1, gradingday.MaxGroup}, "retest_days": {0, 730}, "carry_days": {1, 730}, "quorum": {0, gradingday.MaxPanel}},
		"/classes/new":                         {"minutes": {5, 720}, "weekday": {1, 7}},
		"/day/" + coming:                       {"warmup": {0, 120}, "rest": {0, 120}, "change": {0, 120}},
		"/pairs/" + coming:                     {"height_cm": {0, 200}, "weight_kg": {0, 200}, "months": {0, 1200}, "rungs": {0, 100}, "bouts": {1, 5}, "rest_bouts": {0, 10}},
	} {
		form := webtest.Fields(h.Page(page))
		if len(form) == 0 { // pairs and days have theirs in the margin
			form = url.Values{}
			maps.Copy(form, webtest.DayForm)
		}
		for field, x := range all {
			require.NotEmpty(t, form, page)
			for n, right := range map[int]bool{x[0] - 1: false, x[0]: true, x[1]: true, x[1] + 1: false} {
				w := h.Do("POST", page, webtest.Changed(form, field, fmt.Sprint(n)))
				says := fmt.Sprintf("must be from %d to %d", x[0], x[1])
				assert.Less(t, w.Code, 500)
				assert.Equal(t, !right, strings.Contains(webtest.Text(w.Body.String()), says), "%s: %s %d: %d %s", page, field, n, w.Code, webtest.Text(w.Body.String()))
			}
		}
	}
}
