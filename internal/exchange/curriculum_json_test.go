package exchange

import (
	"bytes"
	"encoding/json"
	"os"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
)

const schemaFile = "../../docs/curriculum.schema.json"

// choices are the types of which only some values are allowed.
var choices = map[reflect.Type]any{
	reflect.TypeFor[curriculum.Kind](): curriculum.Kinds, reflect.TypeFor[curriculum.RuleKind](): curriculum.RuleKinds, reflect.TypeFor[curriculum.RungKind](): curriculum.RungKinds, reflect.TypeFor[curriculum.Weave](): curriculum.Weaves, reflect.TypeFor[curriculum.MarkPlace](): curriculum.MarkPlaces,
	reflect.TypeFor[curriculum.Contact](): curriculum.Contacts, reflect.TypeFor[curriculum.Role](): curriculum.Roles, reflect.TypeFor[curriculum.Measure](): curriculum.Measures, reflect.TypeFor[curriculum.Setting](): curriculum.Settings,
	reflect.TypeFor[curriculum.CarryKind](): []curriculum.CarryKind{curriculum.Once, curriculum.Until, curriculum.Always, curriculum.Sample}, reflect.TypeFor[curriculum.Modifier](): curriculum.Modifiers,
	reflect.TypeFor[curriculum.SidePolicy](): curriculum.SidePolicies, reflect.TypeFor[curriculum.Zone](): curriculum.Zones, reflect.TypeFor[curriculum.Position](): curriculum.Positions,
	reflect.TypeFor[curriculum.Then](): []curriculum.Then{curriculum.Continue, curriculum.GoTo, curriculum.BreakOff}, reflect.TypeFor[curriculum.Does](): []curriculum.Does{curriculum.Appends, curriculum.Alters, curriculum.ReplacesTail, curriculum.Attaches},
	reflect.TypeFor[curriculum.Shown](): []curriculum.Shown{curriculum.Hidden, curriculum.OpenToTry, curriculum.Taught}, reflect.TypeFor[curriculum.Nature](): curriculum.Natures, reflect.TypeFor[curriculum.Motion](): curriculum.Motions,
	reflect.TypeFor[curriculum.Origin](): curriculum.Origins, reflect.TypeFor[notation.Level](): []notation.Level{notation.Low, notation.Mid, notation.High}, reflect.TypeFor[notation.Side](): curriculum.AttackSides,
	reflect.TypeFor[floor.Unit](): floor.Units, reflect.TypeFor[floor.Spot](): floor.WidthSpots, reflect.TypeFor[floor.Sweep](): floor.Sweeps,
	reflect.TypeFor[curriculum.SideMeaning](): curriculum.SideMeanings, reflect.TypeFor[curriculum.Voice](): curriculum.Voices, reflect.TypeFor[notation.Feet](): []notation.Feet{notation.OneLeads, notation.SideBySide},
	reflect.TypeFor[curriculum.Marking](): []curriculum.Marking{curriculum.MovementScale, curriculum.CategoryPoints, curriculum.SignOff},
}

// schemaOf is the JSON Schema of a type as it is written.
func schemaOf(t reflect.Type) map[string]any {
	switch {
	case t == reflect.TypeFor[scoring.Decimal]():
		return map[string]any{"type": "number"}
	case choices[t] != nil:
		return map[string]any{"enum": choices[t]}
	}
	switch t.Kind() {
	case reflect.Pointer:
		return map[string]any{"anyOf": []any{schemaOf(t.Elem()), map[string]any{"type": "null"}}}
	case reflect.String:
		return map[string]any{"type": "string"}
	case reflect.Bool:
		return map[string]any{"type": "boolean"}
	case reflect.Int:
		return map[string]any{"type": "integer"}
	case reflect.Slice:
		return map[string]any{"type": "array", "items": schemaOf(t.Elem())}
	case reflect.Struct:
		if t == reflect.TypeFor[curriculum.Entry]() { // a bare name is read as well
			type plain curriculum.Entry
			return map[string]any{"anyOf": []any{schemaOf(reflect.TypeFor[plain]()), map[string]any{"type": "string"}}}
		}
		properties, required := map[string]any{}, []string{}
		fields(t, properties, &required)
		out := map[string]any{"type": "object", "properties": properties, "additionalProperties": false}
		if len(required) > 0 {
			out["required"] = required
		}
		return out
	}
	panic(t.String())
}

func fields(t reflect.Type, properties map[string]any, required *[]string) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			fields(f.Type, properties, required)
			continue
		}
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "-" {
			continue
		}
		properties[name] = schemaOf(f.Type)
		if options == "" && (name == "id" || name == "name" || name == "format" || name == "version") {
			*required = append(*required, name)
		}
	}
}

// TestTheSchemaFollowsTheTypes keeps docs/curriculum.schema.json as the types are.
func TestTheSchemaFollowsTheTypes(t *testing.T) {
	schema := schemaOf(reflect.TypeFor[curriculumFile]())
	schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	schema["title"] = "Velvet Ladder curriculum, version 1"
	schema["properties"].(map[string]any)["format"] = map[string]any{"const": CurriculumFormat}
	schema["properties"].(map[string]any)["version"] = map[string]any{"const": CurriculumVersion}
	text, err := json.MarshalIndent(schema, "", "  ")
	require.NoError(t, err)
	if *golden.Update {
		require.NoError(t, os.WriteFile(schemaFile, append(text, '\n'), 0o644))
	}
	kept, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	assert.Equal(t, string(kept), string(text)+"\n", "run go test ./internal/exchange -update")
}

// fits holds a file against the schema.
func fits(t *testing.T, file string) error {
	t.Helper()
	kept, err := os.ReadFile(schemaFile)
	require.NoError(t, err)
	document, err := jsonschema.UnmarshalJSON(bytes.NewReader(kept))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("schema.json", document))
	schema, err := c.Compile("schema.json")
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(file))
	require.NoError(t, err)
	return schema.Validate(value)
}

// mill is a small curriculum that uses most of the format.
func mill() curriculum.Curriculum {
	q := curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}
	policy := scoring.MovementScale()
	return curriculum.Curriculum{
		Program: curriculum.Program{ID: "kenpo", Name: "Kenpo", SecondLanguage: "Frisian", ProgramDetails: curriculum.ProgramDetails{
			Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs", To: 6, Young: true}}, Groups: []curriculum.SampleGroup{{ID: "pool", Name: "Pool", Draw: 2}}, Counting: []string{"ien", "twa"},
			Commands: []curriculum.Command{{Word: "klear", Meaning: "ready"}}, PermanentFrom: "yellow", Marking: curriculum.MovementScale, Policy: &policy, Silenced: []curriculum.Silence{{Finding: "x/y", Reason: "ours"}}}},
		Sections: []curriculum.Section{{ID: "kicks", Name: "Kicks", Kind: "kick"}, {ID: "self", Name: "Self-defence", Kind: "self_defence"}},
		Rungs: []curriculum.Rung{{ID: "white", Kind: curriculum.Belt, Name: "White belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}},
			{ID: "yellow", Kind: curriculum.StageStripe, Name: "Yellow, = belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#efc231", Marks: &curriculum.BeltMarks{Colour: "#000000", Count: 1, Place: curriculum.Tip}},
				RungDetails: curriculum.RungDetails{Kit: []string{"gloves"}, Sparring: &curriculum.SparringRule{Limbs: "hands", Contact: "none"}, Stripes: []curriculum.SectionStripe{{SectionID: "kicks", Colour: "#b8322c"}}}}},
		Techniques: []curriculum.Technique{
			{ID: "front", Name: "Front kick", Kind: "kick", Term: "skop", Aliases: []string{"Ram kick"}, Checkpoints: []string{"chamber: knee first"}, Faults: []curriculum.Fault{{Seen: "leans", Critical: true}}, TechniqueDetails: curriculum.TechniqueDetails{Call: 3}},
			{ID: "wheel", Name: "Mill Wheel", Kind: "self_defence", TechniqueDetails: curriculum.TechniqueDetails{BuildsOn: []string{"front"}, Attack: []curriculum.AttackElement{{Kind: "push", Origin: "front"}}, Position: "outside",
				Stages:   []curriculum.Stage{{Does: curriculum.Appends, Steps: []curriculum.Step{{Moves: "lead 3 low", Answers: "the push"}}}, {RungID: "yellow", Does: curriculum.ReplacesTail, From: 1, Steps: []curriculum.Step{{Moves: "Step away."}}, Shown: curriculum.Hidden}},
				Branches: []curriculum.Branch{{When: "too far", Then: curriculum.BreakOff}}}}},
		Requirements: []curriculum.Requirement{
			{ID: "a", RungID: "white", SectionID: "kicks", TechniqueID: "front", Role: "performer", Quantity: q, Weight: 1, RequirementDetails: curriculum.RequirementDetails{Carry: curriculum.Carry{Kind: curriculum.Until, Rung: "yellow"}, Tracks: []curriculum.TrackChange{{TrackID: "cubs", Quantity: &q}}}},
			{ID: "b", RungID: "yellow", SectionID: "self", TechniqueID: "wheel", Role: "defender", Quantity: q, Weight: 2, MustPass: true, Note: "=1+1", RequirementDetails: curriculum.RequirementDetails{Carry: curriculum.Carry{Kind: curriculum.Sample, Group: "pool"}, Slow: true}}},
	}
}

func written(t *testing.T, c curriculum.Curriculum) string {
	var out bytes.Buffer
	require.NoError(t, WriteCurriculum(&out, c))
	return out.String()
}

func TestCurriculumThereAndBack(t *testing.T) {
	first := written(t, mill())
	require.NoError(t, fits(t, first))
	c, err := ReadCurriculum(strings.NewReader(first))
	require.NoError(t, err)
	assert.Equal(t, first, written(t, c), "byte by byte")
}

func TestBadCurriculumFiles(t *testing.T) {
	good := written(t, mill())
	for name, x := range map[string]struct{ from, to, path, said string }{
		"truncated":       {good[len(good)-40:], "", "$", "(line"},
		"unknown field":   {`"name": "Front kick",`, `"name": "Front kick", "colour": 1,`, "$.techniques[0].colour", "is not a field of this format"},
		"wrong kind":      {`"name": "Kenpo"`, `"name": 5`, "$.program.name", "number where another kind of value belongs"},
		"name twice":      {`"name": "Kenpo"`, `"name": "Kenpo", "name": "x"`, "$.program.name", "this name stands twice"},
		"other format":    {CurriculumFormat, "something", "$.format", "says"},
		"later version":   {`"version": 1`, `"version": 2`, "$.version", "reads version 1"},
		"circle":          {`"call": 3`, `"call": 3, "builds_on": ["wheel"]`, "builds_on", "goes round in a circle: Front kick builds on Mill Wheel, and back to Front kick"},
		"rung is missing": {`"rung": "yellow",` + "\n          \"does\"", `"rung": "mauve",` + "\n          \"does\"", "$.techniques[1].stages[1].rung", `"mauve" is no rung of this ladder`},
		"id twice":        {`"id": "wheel"`, `"id": "front"`, "$.techniques[1].id", "stands twice"},
		"unknown move":    {"lead 3 low", "lead 4 low", "$.techniques[1].stages[0].steps[0].moves", "no technique has the call number 4; there are 3"},
		"no fitting kind": {`"name": "Front kick",` + "\n      \"kind\": \"kick\"", `"name": "Front kick", "kind": "dance"`, "$.techniques[0].kind", "is not a choice"},
		"a shoe section":  {`"kind": "kick"`, `"kind": "shoe"`, "$.sections[0].kind", "is no kind of technique"},
	} {
		require.Contains(t, good, x.from, name)
		_, err := ReadCurriculum(strings.NewReader(strings.Replace(good, x.from, x.to, 1)))
		var refused *CurriculumError
		require.ErrorAs(t, err, &refused, name)
		assert.Contains(t, err.Error(), x.path, name)
		assert.Contains(t, err.Error(), x.said, name)
	}
	assert.Error(t, fits(t, strings.Replace(good, `"kind": "kick"`, `"kind": "dance"`, 1)), "the schema refuses too")
	assert.Error(t, fits(t, strings.Replace(good, `"weight": 2`, `"weight": 2, "colour": 1`, 1)))
}

// readRequirements reads a table by its heads alone.
func readRequirements(in []byte, b *curriculum.Book) ([]RequirementRow, error) {
	r, err := OpenRequirements(in)
	if err != nil {
		return nil, err
	}
	return ReadRequirements(r, b)
}

func TestRequirementsThereAndBack(t *testing.T) {
	b := curriculum.Open(mill())
	var out bytes.Buffer
	require.NoError(t, WriteRequirements(&out, b))
	assert.Contains(t, out.String(), `b,"Yellow, = belt",Self-defence,Mill Wheel,self_defence,5 a side,defender,,2,yes,,from Pool,slowly,'=1+1`)
	read := func(text string) []RequirementRow {
		rows, err := readRequirements([]byte(text), b)
		require.NoError(t, err, text)
		return rows
	}
	rows := read(out.String())
	require.Len(t, rows, 2)
	for i, r := range rows {
		assert.Empty(t, r.Problems)
		assert.Equal(t, "as it is", r.Change)
		assert.Equal(t, b.Requirements[i].ID, r.Line.Was)
	}
	merged, err := binder.For(b).Merge([]binder.MergeLine{rows[0].Line, rows[1].Line}, true, nil)
	require.NoError(t, err)
	assert.Equal(t, written(t, b.Curriculum), written(t, merged), "what a table cannot say is kept")

	rows = read("\xEF\xBB\xBFrung;technique;section;amount;must pass\r\nWhite belt;front kick;;10 a side;yes\r\nwhite belt;Dusty kick;Kicks;;\r\nWhite belt;dusty kick;Kicks;9 a side;\r\nMauve belt;Dusty;;lots;maybe\r\nWhite belt;Reed;;;;extra\r\n")
	var got []string
	for _, r := range rows {
		got = append(got, r.Change+" "+r.Problems.Error())
	}
	assert.Equal(t, "changed ", got[0])
	assert.Equal(t, "added ", got[1])
	for _, said := range []string{`rung: "Mauve belt" is no rung of this ladder; there are White belt, Yellow, = belt`, `technique: “Dusty” is new, so its section`, `amount: not an amount: "lots"`, `must_pass: "maybe" is neither yes nor no`} {
		assert.Contains(t, got[3], said)
	}
	assert.Contains(t, got[4], "row: has 6 cells")
	n := 0
	merged, err = binder.For(b).Merge([]binder.MergeLine{rows[0].Line, rows[1].Line, rows[2].Line}, true, func() string { n++; return strings.Repeat("n", n) })
	require.NoError(t, err)
	assert.Empty(t, merged.Validate())
	assert.Len(t, merged.Techniques, 3, "one new technique, however often it is named")
	assert.Len(t, merged.Requirements, 4)
	assert.Equal(t, 10, merged.Requirements[0].Quantity.Reps)

	for text, said := range map[string]string{"": "it is empty", "rung,amount\nA,5\n": "no column is the technique", "technique\n\"a": "line 2"} {
		_, err := readRequirements([]byte(text), b)
		assert.ErrorIs(t, err, ErrRequirementsCSV)
		assert.ErrorContains(t, err, said)
	}
	twice := read("id,rung,technique\na,White belt,Front kick\na,White belt,Front kick\nzz,White belt,Front kick\n")
	assert.Contains(t, twice[1].Problems.Of("id"), "stands in two rows")
	assert.Contains(t, twice[2].Problems.Of("id"), "is no requirement on record")
}

func FuzzReadRequirements(f *testing.F) {
	b := curriculum.Open(mill())
	f.Add("rung;technique;amount\nWhite belt;Front kick;5")
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := readRequirements([]byte(text), b)
		if err != nil {
			require.ErrorIs(t, err, ErrRequirementsCSV)
		}
		for _, r := range rows {
			if len(r.Problems) == 0 {
				require.Empty(t, r.Line.Requirement.Check())
			}
		}
	})
}

// TestTheWrittenCurriculum reads the example of docs/formats.md, and writes it as it is read.
func TestTheWrittenCurriculum(t *testing.T) {
	text, err := os.ReadFile("../../docs/formats.md")
	require.NoError(t, err)
	example := regexp.MustCompile("(?s)```json\n(\\{\n  \"format\".*?)```").FindStringSubmatch(string(text))
	require.NotNil(t, example)
	c, err := ReadCurriculum(strings.NewReader(example[1]))
	require.NoError(t, err)
	b := curriculum.Open(c)
	cubs := b.Compile(curriculum.Asking{RungID: "yellow", TrackID: "cubs", Group: 1})
	require.Len(t, cubs.Lines, 2)
	assert.Equal(t, 1, cubs.Lines[1].Stage)
	var once, again bytes.Buffer
	require.NoError(t, WriteCurriculum(&once, c))
	back, err := ReadCurriculum(bytes.NewReader(once.Bytes()))
	require.NoError(t, err)
	require.NoError(t, WriteCurriculum(&again, back))
	assert.Equal(t, once.String(), again.String())
}

// FuzzReadCurriculum: whatever is read is sound, is written as it was read, and can be used.
func FuzzReadCurriculum(f *testing.F) {
	var out bytes.Buffer
	if err := WriteCurriculum(&out, mill()); err != nil {
		f.Fatal(err)
	}
	f.Add(out.Bytes())
	f.Add([]byte(`{"format":"velvetladder curriculum","version":1,"program":{"id":"p","name":"P"},"sections":[],"rungs":[],"techniques":[],"requirements":[]}`))
	f.Fuzz(func(t *testing.T, in []byte) {
		c, err := ReadCurriculum(bytes.NewReader(in))
		if err != nil {
			var refused *CurriculumError
			require.ErrorAs(t, err, &refused)
			require.NotEmpty(t, refused.Found[0].Path)
			return
		}
		require.Empty(t, c.Validate())
		var once, again bytes.Buffer
		require.NoError(t, WriteCurriculum(&once, c))
		back, err := ReadCurriculum(bytes.NewReader(once.Bytes()))
		require.NoError(t, err)
		require.NoError(t, WriteCurriculum(&again, back))
		require.Equal(t, once.String(), again.String())
		b := curriculum.Open(back)
		b.Check()
		b.Coverage()
		for _, g := range b.Rungs {
			b.Compile(curriculum.Asking{RungID: g.ID, Group: 3, Undrawn: true})
			binder.For(b).ParsePage(binder.For(b).PageOf(g.ID))
		}
	})
}
