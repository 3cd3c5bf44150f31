package curriculum_test

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/web/webtest"
)

func with(v url.Values, field, value string) url.Values {
	v.Set(field, value)
	v.Set("whole", "1")
	return v
}

func TestTracksAndWordsOfAProgram(t *testing.T) {
	h, _ := webtest.Mill(t)
	form := parts.DetailValues(h.Book().Program.ProgramDetails)
	path := "/programs/" + h.Program + "/details"
	w := h.Do("POST", path, with(form, "track_0_name", "").Encode())
	assert.Equal(t, http.StatusConflict, w.Code)
	webtest.Says(t, w.Body.String(), "Cubs cannot be taken out")
	form = parts.DetailValues(h.Book().Program.ProgramDetails)
	form.Set("track_3_name", "Seniors")
	form.Set("track_3_from", "60")
	form.Set("commands", "Mill = begin\nStill = stop")
	_, page := h.Send(path, webtest.Flat(form)...)
	assert.Contains(t, page, `value="Seniors"`)
	require.Len(t, h.Book().Program.Tracks, 4)
	assert.NotEmpty(t, h.Book().Program.Tracks[3].ID)
	webtest.Says(t, h.Page("/glossary"), "Mill begin")
	h.Undo(page)
	assert.Len(t, h.Book().Program.Tracks, 3)
	for field, x := range map[string][2]string{"track_1_from": {"x", "is not a whole number"}, "track_1_to": {"2", "the lower one first"}, "commands": {"hajime", "write the word and its meaning"}, "group_0_draw": {"0", "from 1 to 50"}, "threshold": {"many", "write points such as"}} {
		w := h.Do("POST", path, with(parts.DetailValues(h.Book().Program.ProgramDetails), field, x[0]).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		webtest.Says(t, w.Body.String(), x[1])
	}
}

func TestProgramsAndSections(t *testing.T) {
	h := webtest.NewHouse(t)
	w := h.Do("GET", "/", "")
	assert.Equal(t, "/programs/new", w.Header().Get("Location"), "an empty database asks for the first program")
	address, page := h.Send("/programs/new", "school", "Test Mill", "name", "Kenpo", "second_language", "")
	id := regexp.MustCompile(`program=([0-9a-f]{20})`).FindStringSubmatch(address)[1]
	assert.Contains(t, webtest.Text(page), "Test Mill · Kenpo")
	assert.Contains(t, webtest.Text(page), "Add the first rung")
	assert.Equal(t, "/ladder", h.Do("GET", "/", "").Header().Get("Location"))

	_, page = h.Send("/programs/"+id, "school", "Old Mill", "name", "Kenpo for all", "second_language", "Japanese")
	assert.Contains(t, webtest.Text(page), "Old Mill · Kenpo for all")
	_, page = h.Send("/programs/"+id+"/sections", "name", "Weapons of foam")
	assert.Contains(t, page, `value="Weapons of foam"`)
	sections, err := h.Store.Sections(webtest.Ctx, id)
	require.NoError(t, err)
	added := sections[len(sections)-1]
	_, _ = h.Send("/programs/"+id+"/sections", "section", added.ID, "name", "Foam")
	_, _ = h.Send("/sections/"+added.ID+"/move", "places", "-99", "program", id)
	sections, err = h.Store.Sections(webtest.Ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "Foam", sections[0].Name)
	refused := h.Do("POST", "/programs/"+id+"/sections", webtest.Values("section", added.ID, "name", "courtesy").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	assert.Contains(t, refused.Body.String(), "already the name of another section")
	assert.Contains(t, refused.Body.String(), `value="courtesy"`)
	_, page = h.Send("/sections/"+added.ID+"/delete", "program", id)
	assert.NotContains(t, page, `value="Foam"`)
	assert.Contains(t, h.Undo(page), `value="Foam"`)

	_, page = h.Send("/programs/" + id + "/delete")
	assert.Contains(t, webtest.Text(page), "No program yet")
	assert.Contains(t, webtest.Text(h.Undo(page)), "Kenpo for all")
}

// TestWhatASideMeansOnTheForms: of the program, a technique and a line, and what holds for a section.
func TestWhatASideMeansOnTheForms(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	address, _ := h.Send("/techniques/new", "program", h.Program, "name", "Hook", "kind", "strike", "side_means", "limb")
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Hook", "amount", "5 a side", "role", "performer", "weight", "1")
	h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Slip", "amount", "5 each way", "role", "performer", "weight", "1")
	sheet := func() string { return webtest.Text(h.Page("/sheet/" + h.Yellow + "?group=3")) }
	assert.Contains(t, sheet(), "5 each hand 6 each hand")
	assert.Contains(t, sheet(), "5 each way 6 each way")
	form := webtest.Fields(h.Page("/techniques/" + webtest.Last(address) + "/edit"))
	assert.Equal(t, "limb", form.Get("side_means"))
	form.Set("side_means", "")
	h.Send("/techniques/"+webtest.Last(address)+"/edit", webtest.Flat(form)...)
	assert.Contains(t, sheet(), "5 a side 6 a side")
	details := webtest.Fields(h.Page("/programs/" + h.Program))
	details.Set("side_means", "limb")
	details.Set("voice", "last_move")
	h.Send("/programs/"+h.Program+"/details", webtest.Flat(details)...)
	assert.Contains(t, sheet(), "5 each hand 6 each hand")
	assert.Contains(t, sheet(), "shout on the last move")
	rung := webtest.Fields(h.Page("/rungs/" + h.Yellow))
	rung.Set("common", "Kicks: eyes up; breathe out")
	rung.Set("voice", "silent")
	h.Send("/rungs/"+h.Yellow, webtest.Flat(rung)...)
	webtest.Says(t, h.Page("/sheet/"+h.Yellow), "Kicks eyes up; breathe out; in silence")
	webtest.Says(t, h.Page("/booklet/"+h.Yellow), "Throughout: eyes up; breathe out; in silence")
	rung.Set("common", "Kicks eyes up")
	w := h.Do("POST", "/rungs/"+h.Yellow, rung.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, webtest.Text(w.Body.String()), "line 1: write a section, a series or a form, a colon")
	// A lock with ways in: the line asks for one by name, with steps of its own.
	h.Send("/techniques/new", "program", h.Program, "name", "Reed lock", "kind", "lock", "stage_0_steps", "Press down.", "entries", "Counter-grip\n- Lay the hand over it.\nworks when: the elbow lifts\nOwn start (own start)")
	_, page := h.Send("/requirements/new", "rung", h.Yellow, "section", h.Section, "technique", "Reed lock", "amount", "3", "role", "performer", "weight", "1")
	id := regexp.MustCompile(`/requirements/([0-9a-f]+)"[^>]*data-row><bdi>Reed lock`).FindStringSubmatch(page)
	require.NotNil(t, id)
	asked := webtest.Fields(h.Page("/requirements/" + id[1]))
	asked.Set("entries", "Counter-grip")
	asked.Set("sprint", "15")
	asked.Set("by_phases", "1")
	_, page = h.Send("/requirements/"+id[1], webtest.Flat(asked)...)
	webtest.Says(t, page, "Reed lock, Counter-grip", "Lay the hand over it. / Press down.")
	webtest.Says(t, h.Page("/sheet/"+h.Yellow), "Lay the hand over it. Press down.", "It works when: the elbow lifts", "by phases")
	for field, wrong := range map[string]string{"entries": "- a step", "parts": "All"} {
		w := h.Do("POST", "/techniques/new", webtest.Values("program", h.Program, "name", "Wrong", "kind", "lock", field, wrong).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, field)
		assert.Contains(t, w.Body.String(), "line 1:", field)
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
	twice := add("technique", "Light rounds")
	assert.Equal(t, http.StatusUnprocessableEntity, twice.Code)
	assert.Contains(t, webtest.Text(twice.Body.String()), "already, 5 times; open that line to change it, or tick “show again” for one more")
	require.Equal(t, 303, add("technique", "Light rounds", "show_again", "1").Code, "what is known finds its section by kind, whatever that is called")
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

// TestAProgramBeginsWithALadder: a general one, or another program's, each under ids of its own.
func TestAProgramBeginsWithALadder(t *testing.T) {
	golden.Alone(t)
	h := webtest.NewHouse(t)
	webtest.Says(t, h.Page("/programs/new"), "What does your school teach?")
	webtest.Says(t, h.Page("/programs/new?why=no-program"), "There is no program yet")
	assert.Equal(t, "/programs/new?why=no-program", h.Do("GET", "/rungs/new", "").Header().Get("Location"), "a redirect says why")
	books := func() (out []*curriculum.Book) {
		all, err := h.Store.Programs(webtest.Ctx)
		require.NoError(t, err)
		for _, p := range all {
			b, err := h.Store.Book(webtest.Ctx, p.ID)
			require.NoError(t, err)
			out = append(out, b)
		}
		return out
	}
	_, page := h.Send("/programs/new", "school", "Quarry Lane", "name", "", "begin", "starter:karate")
	webtest.Says(t, page, "Added the program Karate")
	karate := books()[0]
	assert.Equal(t, "Karate", karate.Program.Name, "as the ladder is called")
	assert.Len(t, karate.Rungs, 8)
	assert.NotEmpty(t, karate.Requirements)
	h.Undo(page)
	assert.Empty(t, books(), "undone as a whole")

	h.Send("/programs/new", "school", "Quarry Lane", "name", "Karate", "begin", "starter:karate")
	h.Send("/programs/new", "school", "Quarry Lane", "name", "Karate for elders", "begin", "program:"+books()[0].Program.ID)
	h.Send("/programs/new", "school", "Quarry Lane", "name", "Little ones", "begin", "starter:children")
	all := books()
	require.Len(t, all, 3)
	assert.Len(t, all[1].Rungs, 8)
	assert.Len(t, all[1].Requirements, len(all[0].Requirements))
	assert.NotEqual(t, all[0].Rungs[0].ID, all[1].Rungs[0].ID)
	h.Send("/rungs/"+all[1].Rungs[2].ID, webtest.Flat(changed(webtest.Fields(h.Page("/rungs/"+all[1].Rungs[2].ID)), "name", "Amber belt"))...)
	assert.Equal(t, "Orange belt", books()[0].Rungs[2].Name, "a copy is changed alone")

	for name, x := range map[string][4]string{
		"the same name":  {"Karate", "starter:karate", "already the name of another program", "Karate"},
		"no name":        {"", "", "is empty", ""},
		"a copy unnamed": {"", "program:" + all[0].Program.ID, "is empty", ""},
		"no ladder":      {"Judges", "starter:sailing", "is not among the choices any more", "Judges"},
		"no program":     {"Judges", "program:gone", "is not among the choices any more", "Judges"},
	} {
		w := h.Do("POST", "/programs/new", webtest.Values("school", "Quarry Lane", "name", x[0], "begin", x[1]).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, name)
		webtest.Says(t, w.Body.String(), x[2], name)
		assert.Contains(t, w.Body.String(), `name="name" type="text" value="`+x[3]+`"`, "what was typed stays: %s", name)
	}
	assert.Len(t, books(), 3)
}

func changed(v url.Values, field, value string) url.Values {
	v.Set(field, value)
	return v
}

// TestARungAndItsPageAreCopied: with its requirements or without; a page is taken over into the field.
func TestARungAndItsPageAreCopied(t *testing.T) {
	h, _ := webtest.Mill(t)
	b := h.Book()
	green := b.RungNamed("Green belt")
	_, page := h.Send("/rungs/"+green.ID+"/copy", "name", "Moss belt", "page", "1")
	webtest.Says(t, page, "Added Moss belt, a copy of Green belt")
	now := h.Book()
	moss := now.RungNamed("Moss belt")
	require.NotNil(t, moss)
	assert.Equal(t, now.Place(green.ID)+1, moss.Position)
	assert.Len(t, now.Asked(moss.ID), len(b.Asked(green.ID)))
	h.Undo(page)
	assert.Nil(t, h.Book().RungNamed("Moss belt"))
	w := h.Do("POST", "/rungs/"+green.ID+"/copy", webtest.Values("name", "green  BELT").Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	webtest.Says(t, w.Body.String(), "is a rung of this ladder already")
	assert.Contains(t, w.Body.String(), `value="green  BELT"`)

	blue := b.RungNamed("Blue belt").ID
	taken := h.Page("/binder/" + blue + "?from=" + green.ID)
	first := b.Technique(b.Asked(green.ID)[0].TechniqueID).Name
	assert.Contains(t, webtest.FieldsOf(taken, `id="binder"`).Get("page"), first, "the page stands in the field")
	assert.Empty(t, webtest.FieldsOf(h.Page("/binder/"+blue+"?from=nowhere"), `id="binder"`).Get("page"))
}

// TestASectionIsAddedWhereOneTypes: and what was typed stays.
func TestASectionIsAddedWhereOneTypes(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	for _, path := range []string{"/binder/" + h.Yellow + "/section", "/binder/" + h.Yellow} { // the button, and Enter in its field
		name := map[bool]string{true: "Boxing drills", false: "Ground work"}[path == "/binder/"+h.Yellow]
		w := h.Do("POST", path, webtest.Values("page", "Kicks\nHalf a line", "section_name", name, "section_kind", "strike").Encode())
		assert.Equal(t, http.StatusOK, w.Code)
		webtest.Says(t, w.Body.String(), name+" is a section now")
		assert.Equal(t, "Kicks\nHalf a line", webtest.FieldsOf(w.Body.String(), `id="binder"`).Get("page"))
		w = h.Do("POST", path, webtest.Values("page", "Kicks", "section_name", name).Encode())
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
		webtest.Says(t, w.Body.String(), "already the name of another section")
		assert.Equal(t, "Kicks", webtest.FieldsOf(w.Body.String(), `id="binder"`).Get("page"))
	}
	address, page := h.Send("/programs/"+h.Program+"/sections", "name", "Staff work", "back", "/ladder/"+h.Yellow)
	assert.Contains(t, address, "/ladder/"+h.Yellow)
	assert.Contains(t, page, "Staff work</option>")
	w := h.Do("POST", "/programs/"+h.Program+"/sections", webtest.Values("name", "Rope work", "back", "//elsewhere.example/x").Encode())
	assert.Regexp(t, `^/\?done=`, w.Header().Get("Location"), "never to another site")
	b := h.Book()
	assert.Equal(t, curriculum.Kind("strike"), b.Sections[len(b.Sections)-3].Kind)
}
