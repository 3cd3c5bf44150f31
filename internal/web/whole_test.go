package web_test

import (
	"fmt"
	"maps"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/demo"
	"velvetladder/internal/golden"
	"velvetladder/internal/web"
	"velvetladder/internal/web/webtest"
)

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
	h, _ := webtest.Mill(t)
	want := everything(h)
	b := h.Book()
	form := web.TechniqueValues(&want, b)
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

// TestARequirementThatSaysEverything goes through its form and is read out on rung and sheet.
func TestARequirementThatSaysEverything(t *testing.T) {
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
		Table: []curriculum.TableMark{{Count: 5, Mark: scoring.Whole(2)}, {Count: 7, Mark: scoring.Whole(3)}}, Carry: curriculum.Carry{Kind: curriculum.Until, Rung: b.RungNamed("Blue belt").ID}, ShowAgain: true, AtOnce: 2, Looks: 3,
		Tracks: []curriculum.TrackChange{{TrackID: b.Program.Tracks[0].ID, Bonus: true, Quantity: &two, Level: "low"}, {TrackID: b.Program.Tracks[1].ID, LeaveOut: true}},
	}
	form := web.RequirementValues(want, kick, b)
	form.Set("whole", "1")
	_, page := h.Send("/requirements/"+old.ID, webtest.Flat(form)...)
	for _, r := range h.Book().Asked(orange.ID) {
		if r.ID == old.ID {
			r.Position, want.Position = 0, 0
			webtest.Same(t, want, r, "nothing is lost on the way")
		}
	}
	for _, said := range []string{"Round kick, on pads", "at least mid", "equally right: with a step; on the spot", "mark from 5: 2, from 7: 3", "non-stop, slowly, support allowed, sprint called for the last 10 s", "must pass weight 3"} {
		webtest.Says(t, page, said)
	}
	cubs, juniors := b.Program.Tracks[0].ID, b.Program.Tracks[1].ID
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+cubs), "Cubs do 2 a side instead of 7 a side.")
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+cubs), "For Cubs low is enough.")
	webtest.Says(t, h.Page("/ladder/"+orange.ID+"?track="+juniors), "juniors leave it out.")
	webtest.Says(t, h.Page("/ladder/"+b.RungNamed("Blue belt").ID), "Carried from Orange belt, until Blue belt.")
	form = webtest.Fields(h.Page("/requirements/" + old.ID))
	assert.Equal(t, kick.Checkpoints[:1], form["checkpoints"])
	h.Send("/requirements/"+old.ID, webtest.Flat(form)...)
	for field, x := range map[string][2]string{"table": {"many = 2", "write the least count and its mark"}, "sprint": {"601", "from 0 to 600"}, "track_0_amount": {"lots", "not an amount"}, "carry_rung": {"gone", "is no rung of this ladder"}, "looks": {"x", "is not a whole number"}, "role": {"judge", "is not a choice"}} {
		v := webtest.Fields(h.Page("/requirements/" + old.ID))
		v.Set(field, x[0])
		w := h.Do("POST", "/requirements/"+old.ID, v.Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), x[1], field)
	}
}

// TestEveryFindingLeadsSomewhere: the spot of each finding of a ladder full of holes is a page.
func TestEveryFindingLeadsSomewhere(t *testing.T) {
	h, _ := webtest.Mill(t)
	_, err := h.Store.ChangeCurriculum(webtest.Ctx, webtest.Me, h.Program, func(b *curriculum.Book) (curriculum.Curriculum, string, error) {
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
		return c, "Made holes", nil
	})
	require.NoError(t, err)
	kinds := map[curriculum.FindingKind]bool{}
	for _, f := range h.Book().Check() {
		kinds[f.Kind] = true
		where := web.Spot(f)
		require.True(t, strings.HasPrefix(where, "/"))
		assert.Equal(t, http.StatusOK, h.Do("GET", where, "").Code, "%s leads to %s", f.Key(), where)
		assert.NotEmpty(t, f.Mend)
	}
	assert.GreaterOrEqual(t, len(kinds), 8, "%v", kinds)
	webtest.Says(t, h.Page("/check"), "holes in the ladder")
	webtest.Says(t, h.Page("/versions"), "Nothing is published yet")
}

// TestAStudentsFiguresAtTheirEnds: the least and the most that a student's form takes, and one
// beyond; what is beyond is told, and kept in its field.
func TestAStudentsFiguresAtTheirEnds(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for field, x := range map[string][2]int{"height_cm": {40, 260}, "weight_kg": {8, 250}, "waist_cm": {30, 200}} {
		for n, code := range map[int]int{x[0] - 1: 422, x[0]: 303, x[1]: 303, x[1] + 1: 422} {
			w := h.Do("POST", "/students/new", webtest.Values("name", fmt.Sprint("Ada ", field, n), field, fmt.Sprint(n)).Encode())
			assert.Equal(t, code, w.Code, "%s %d", field, n)
			if code == 422 {
				assert.Contains(t, w.Body.String(), fmt.Sprintf(`value="%d"`, n))
				assert.Contains(t, webtest.Text(w.Body.String()), fmt.Sprintf("must be from %d to %d", x[0], x[1]))
			}
		}
	}
}

// TestABoutAsAsked: rounds, seconds and the rest between them reach the ring's clock.
func TestABoutAsAsked(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	g, err := h.Store.Grading(webtest.Ctx, h.Grading)
	require.NoError(t, err)
	ring := g.Rings[0].ID
	for seconds, cue := range map[string]int{"60": 10, "12": 6} {
		w := h.Do("POST", "/bouts/"+ring, webtest.Values("a", h.Candidate, "b", h.Candidate2, "rounds", "2", "seconds", seconds).Encode())
		require.Equal(t, 303, w.Code, w.Body.String())
		state, err := h.Store.Ring(webtest.Ctx, ring)
		require.NoError(t, err)
		c := state.State.Clock
		assert.Equal(t, []any{"Bout", seconds, 2, 30, cue}, []any{c.Label, fmt.Sprint(c.Seconds), c.Rounds, c.Rest, c.Cue})
	}
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

// TestSectionsAndWhatIsNewInThem: a section keeps its kind through renaming, a new one has the kind
// of its name, a choice beside the name goes before it, and what nobody says is asked.
func TestSectionsAndWhatIsNewInThem(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	sections := func() map[string]curriculum.Section {
		out := map[string]curriculum.Section{}
		for _, x := range h.Book().Sections {
			out[x.Name] = x
		}
		return out
	}
	at := "/programs/" + h.Program + "/sections"
	spar := sections()["Sparring"]
	assert.Equal(t, curriculum.Kind("sparring"), spar.Kind)
	_, page := h.Send(at, "section", spar.ID, "name", "Round about", "kind", string(spar.Kind))
	assert.Contains(t, webtest.Text(page), "Round about")
	h.Send(at, "name", "Katas")
	h.Send(at, "name", "Punches", "kind", "combination")
	h.Send(at, "name", "Bits and pieces")
	got := sections()
	assert.Equal(t, []curriculum.Kind{"sparring", "form", "combination", ""}, []curriculum.Kind{got["Round about"].Kind, got["Katas"].Kind, got["Punches"].Kind, got["Bits and pieces"].Kind})
	w := h.Do("POST", at, webtest.Values("name", "Shoes", "kind", "shoe").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)

	add := func(pairs ...string) *httptest.ResponseRecorder {
		return h.Do("POST", "/requirements/new", webtest.Values(append([]string{"rung", h.Yellow, "amount", "5", "role", "performer", "weight", "1"}, pairs...)...).Encode())
	}
	kind := func(name string) curriculum.Kind { return h.Book().Named(name).Kind }
	require.Equal(t, 303, add("technique", "Light rounds", "section", got["Round about"].ID).Code)
	require.Equal(t, 303, add("technique", "Reed grip", "section", got["Self-defence"].ID).Code)
	require.Equal(t, 303, add("technique", "Reed lock", "section", got["Self-defence"].ID, "kind", "lock").Code)
	assert.Equal(t, []curriculum.Kind{"sparring", "self_defence", "lock"}, []curriculum.Kind{kind("Light rounds"), kind("Reed grip"), kind("Reed lock")})
	asked := add("technique", "Long stick", "section", got["Bits and pieces"].ID)
	assert.Equal(t, http.StatusUnprocessableEntity, asked.Code)
	assert.Contains(t, webtest.Text(asked.Body.String()), "does not say of which kind it is; choose one")
	assert.Nil(t, h.Book().Named("Long stick"), "nothing was made")
	require.Equal(t, 303, add("technique", "Long stick", "section", got["Bits and pieces"].ID, "kind", "strike").Code)
	assert.Equal(t, curriculum.Kind("strike"), kind("Long stick"))
	require.Equal(t, 303, add("technique", "Light rounds", "setting", "pads").Code, "what is known finds its section by kind, whatever that is called")
	for _, r := range h.Book().Requirements {
		if r.TechniqueID == h.Book().Named("Light rounds").ID {
			assert.Equal(t, got["Round about"].ID, r.SectionID)
		}
	}
	read := h.Do("POST", "/binder/"+h.Yellow+"/read", webtest.Values("page", "Round about\nLong rounds\nBits and pieces\nShort stick\nShort stick, throw").Encode()).Body.String()
	assert.Contains(t, read, `"new":"sparring round","kind":"sparring"`)
	assert.Contains(t, read, "does not say of which kind Short stick is")
	assert.Contains(t, read, `"new":"throw or takedown","kind":"throw"`)
}

// TestWhoIsImported: each row of a file of students, with what is said of it; nobody comes in twice,
// and a second row of one student is a second program.
func TestWhoIsImported(t *testing.T) {
	h, programs := webtest.Mill(t)
	kenpo, karate := programs[0], programs[1]
	_, err := h.Store.SaveStudent(webtest.Ctx, webtest.Me, progress.Student{Name: "Known Already", BirthDate: civil.MustParse("2014-02-28")})
	require.NoError(t, err)
	first := func(p demo.Program) string { return p.Rungs[0].Name }
	rows := []struct{ line, says string }{
		{"New One,2015-01-02,,,", ""},
		{"Two Programs,2015-01-03,Kenpo," + first(kenpo) + ",2026-01-05", ""},
		{"two programs,2015-01-03,KARATE," + first(karate) + ",", ""},
		{"Two Programs,2015-01-03,Kenpo," + first(kenpo) + ",", "stands in an earlier row with the same birth date and program"},
		{"New One,2015-01-02,,,", "stands in an earlier row"},
		{"New One,2015-01-03,,,", ""},
		{"known ALREADY,2014-02-28,,,", "is on record already with the same birth date"},
		{"Known Already,2014-03-01,,,", ""},
		{"Lost One,,," + first(kenpo) + ",", "is empty; name the program whose rung"},
		{"Lost Two,,Judoka," + first(kenpo) + ",", "is not a program of this school"},
		{"Lost Three,,Karate,Mauve belt,", "is not on the ladder of Karate"},
	}
	file := "name,birth_date,program,rung,since\n"
	for _, r := range rows {
		file += r.line + "\n"
	}
	look := webtest.Text(h.Do("POST", "/students/import", webtest.Values("text", file).Encode()).Body.String())
	good := ""
	for i, r := range rows {
		if r.says == "" {
			good += r.line + "\n"
			continue
		}
		assert.Contains(t, look, r.says, r.line)
		alone := h.Do("POST", "/students/import", webtest.Values("text", "name,birth_date,program,rung,since\n"+good+r.line+"\n").Encode())
		assert.Equal(t, 422, alone.Code, "%d: %s", i, r.line)
		assert.Equal(t, 1, strings.Count(webtest.Text(alone.Body.String()), r.says))
	}
	all := func() int {
		n, _, err := h.Store.Students(webtest.Ctx, "", "", 99, 0)
		require.NoError(t, err)
		return len(n)
	}
	before := all()
	w := h.Do("POST", "/students/import", webtest.Values("text", "name,birth_date,program,rung,since\n"+good, "add", "1").Encode())
	require.Equal(t, 303, w.Code, webtest.Text(w.Body.String()))
	assert.Equal(t, before+5, all(), "of four people one is in two programs")
	people, _, err := h.Store.Students(webtest.Ctx, "", "Two Programs", 9, 0)
	require.NoError(t, err)
	require.Len(t, people, 2)
	assert.Equal(t, people[0].ID, people[1].ID, "two rows of one student are one student")
	standings, err := h.Store.Standings(webtest.Ctx, people[0].ID)
	require.NoError(t, err)
	require.Len(t, standings, 2)
	since := map[string]string{}
	for _, s := range standings {
		since[s.Rung.Name+s.Rung.ProgramID] = s.Since.String()
	}
	assert.Equal(t, map[string]string{first(kenpo) + kenpo.Program.ID: "2026-01-05", first(karate) + karate.Program.ID: "2026-11-24"}, since, "without a day it is today")
	lone := webtest.NewHouse(t).Furnish()
	assert.Equal(t, 200, lone.Do("POST", "/students/import", webtest.Values("text", "name,rung\nAda One,White belt\n").Encode()).Code, "where there is one program only, it is meant")
}
