package main

import (
	"bytes"
	"context"
	"encoding/json"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"velvetladder/internal/golden"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/demo"
	"velvetladder/internal/exchange"
	"velvetladder/internal/onrecord"
	"velvetladder/internal/store"
)

// call runs the program with arguments and standard input.
func call(in string, args ...string) (code int, out, err string) {
	var o, e bytes.Buffer
	code = run(args, streams{strings.NewReader(in), &o, &e})
	return code, o.String(), e.String()
}

const document = `{"scale":{"highest":4,"step":1},"panel":{"examiners":["A"]},"items":[{"id":"bow"}],"sheets":[{"examiner":"A","marks":{"bow":3}}]}`

func TestTally(t *testing.T) {
	code, out, errs := call(document, "tally", "-")
	assert.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, `"outcome": "promote"`)
	file := filepath.Join(t.TempDir(), "marks.json")
	require.NoError(t, os.WriteFile(file, []byte(document), 0o600))
	_, same, _ := call("", "tally", file)
	assert.Equal(t, out, same)

	for _, in := range []string{`{`, `{"unknown":1}`, strings.Replace(document, `"bow":3`, `"bow":9`, 1)} {
		code, out, errs := call(in, "tally", "-")
		assert.Equal(t, exitRefused, code)
		assert.Empty(t, out, "nothing on standard output")
		assert.Contains(t, errs, "$")
	}
	code, out, errs = call("", "tally", filepath.Join(t.TempDir(), "none.json"))
	assert.Equal(t, exitTrouble, code)
	assert.Empty(t, out)
	assert.Contains(t, errs, "none.json")
}

func TestNotation(t *testing.T) {
	golden.Alone(t)
	code, out, errs := call("", "notation", "--names", "low block, palm strike,side kick", "slide back lead Low-Block, rear palm strike high / step through lead side kick!")
	require.Equal(t, exitOK, code, errs)
	for _, said := range []string{`"line": "slide back lead low block, rear palm strike high / step through lead side kick!"`, `"moves": 3`, `"counts": 2`, `"limb": "left"`, `"limb": "right"`, `"seconds": "4"`} {
		assert.Contains(t, out, said)
	}
	_, southpaw, _ := call("left side kick\n", "notation", "--names", "side kick", "--southpaw", "-")
	assert.Contains(t, southpaw, `"mirror": "right side kick"`)
	assert.Contains(t, southpaw, `"lead": 0`)
	code, out, errs = call("", "notation", "--names", "side kick", "rear side kick, rear sied kick")
	assert.Equal(t, exitRefused, code)
	assert.Empty(t, out)
	assert.Contains(t, errs, "\n                     ^\n", "the mark stands under the character")
	assert.Contains(t, errs, `column 22: "sied kick" is not in the catalogue; near it are side kick`)
	code, _, errs = call("", "notation", "side kick")
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "--names")
	code, out, errs = call("", "notation", "--names", "jab, cross", "jab; cross; jab")
	assert.Equal(t, []any{exitTrouble, ""}, []any{code, out})
	assert.Contains(t, errs, `what a step of a defence answers ("cross; jab"), and no attack is said`)
	path := filepath.Join(t.TempDir(), "mill.db")
	for _, program := range []int{0, 1} {
		code, _, errs = call(curriculumFile(t, program), "import", "--db", path, "-")
		require.Equal(t, exitOK, code, errs)
	}
	code, out, errs = call("", "notation", "--db", path, "--program", "kenpo", "slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs, lead hammer fist!")
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, `"technique": "Palm strike"`)
	_, _, errs = call("", "notation", "--db", path, "jab")
	assert.Contains(t, errs, "say --program with one of: Kenpo, Karate")
	code, _, _ = call("", "notation", "--db", filepath.Join(t.TempDir(), "none.db"), "jab")
	assert.Equal(t, exitTrouble, code)
}

// curriculumFile is the file of one of the demo's programs.
func curriculumFile(t *testing.T, program int) string {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteCurriculum(&out, demo.At(civil.MustParse("2026-11-24")).Programs[program].Curriculum))
	return out.String()
}

// TestCurriculumCommands: what is imported is exported to the letter, broken files leave
// nothing behind, and check and compile read file and database alike.
func TestCurriculumCommands(t *testing.T) {
	golden.Alone(t)
	file := curriculumFile(t, 0)
	db := filepath.Join(t.TempDir(), "school.db")
	code, out, errs := call(strings.Replace(file, `"sections"`, `"chapters"`, 1), "import", "--db", db, "-")
	assert.Equal(t, exitRefused, code)
	assert.Empty(t, out)
	assert.Contains(t, errs, "$.chapters: is not a field of this format")
	assert.NoFileExists(t, db)
	code, _, errs = call(file, "import", "--db", db, "--look", "-")
	assert.Equal(t, exitTrouble, code, "there is nothing to look at yet: %s", errs)
	code, out, errs = call(file, "import", "--db", db, "-")
	require.Equal(t, exitOK, code, errs)
	assert.Contains(t, out, "Kenpo: 11 rungs and 92 techniques differ")
	code, out, _ = call("", "export", "--db", db)
	assert.Equal(t, exitOK, code)
	assert.Equal(t, file, out)
	code, out, _ = call(strings.Replace(file, `"reps": 10`, `"reps": 11`, 1), "import", "--db", db, "--look", "-")
	assert.Equal(t, exitOK, code)
	assert.Contains(t, out, "differences")
	_, again, _ := call("", "export", "--db", db)
	assert.Equal(t, file, again, "a look changes nothing")

	code, found, errs := call(file, "check", "-")
	assert.Equal(t, exitHoles, code)
	assert.Contains(t, found, `"kind": "attack_unanswered"`)
	assert.Contains(t, errs, "found holes: 2")
	code, _, _ = call(curriculumFile(t, 1), "check", "-")
	assert.Equal(t, exitOK, code)
	_, sheet, _ := call(file, "compile", "-", "--rung", "orange BELT", "--track", "cubs", "--group", "3")
	_, same, _ := call("", "compile", "--db", db, "--rung", "Orange belt", "--track", "Cubs", "--group", "3")
	assert.Equal(t, sheet, same)
	assert.Contains(t, sheet, `"freshness": "grown"`)
	assert.Contains(t, sheet, `"minutes": 28`)
	for said, args := range map[string][]string{
		`"Mauve belt" is no rung of this ladder; there are White belt, Yellow stripe`: {"compile", "--db", db, "--rung", "Mauve belt"}, `"Elders" is no track`: {"compile", "--db", db, "--rung", "Blue belt", "--track", "Elders"},
		"write 1 to 50": {"compile", "--db", db, "--rung", "Blue belt", "--group", "0"}, "say a curriculum's file, or --db": {"check"}, "none.json": {"check", "none.json"}, "none.db": {"export", "--db", "none.db"},
	} {
		code, out, errs := call("", args...)
		assert.Equal(t, exitTrouble, code, args)
		assert.Empty(t, out)
		assert.Contains(t, errs, said)
	}
}

// TestFloorCommand: where the feet are, of a form, a stance and a defence, as JSON and as a picture; from either stance; and what is refused.
func TestFloorCommand(t *testing.T) {
	golden.Alone(t)
	file := curriculumFile(t, 1)
	read := func(args ...string) (out struct {
		Program  string
		HeightMM int `json:"height_mm"`
		Frames   []struct {
			Stance, Lead string
			Left, Right  struct{ Heel [2]int }
			Partner      *struct{ Distance int }
		}
		Ends    *[2]int
		Returns *bool
		Pair    *struct {
			Start int
			Side  string
		}
	}) {
		t.Helper()
		code, text, errs := call(file, append([]string{"floor", "--file", "-"}, args...)...)
		require.Equal(t, exitOK, code, errs)
		require.NoError(t, json.Unmarshal([]byte(text), &out))
		return out
	}
	f := read("First Millstone", "--height", "142")
	assert.Equal(t, 1420, f.HeightMM)
	assert.Equal(t, [2]int{0, 0}, *f.Ends)
	assert.True(t, *f.Returns)
	assert.Len(t, f.Frames, 10)
	same := read("first millstone", "--height", "142", "--southpaw")
	assert.Equal(t, f.Frames, same.Frames, "a form is never mirrored")
	left, right := read("River set 1"), read("River set 1", "--southpaw")
	last := len(left.Frames) - 1
	assert.InDelta(t, left.Frames[last].Left.Heel[0], -right.Frames[last].Right.Heel[0], 1)
	assert.Equal(t, "right", right.Frames[0].Lead)
	stance := read("Riding stance", "--height", "170")
	assert.Len(t, stance.Frames, 1)
	assert.Equal(t, "nobody", stance.Frames[0].Lead)
	assert.Nil(t, stance.Ends)
	two := read("Two Currents", "--height", "142", "--attacker", "170")
	require.NotNil(t, two.Pair)
	assert.Equal(t, two.Pair.Start, two.Frames[0].Partner.Distance)
	for _, name := range []string{"First Millstone", "Riding stance", "Two Currents"} {
		code, svg, errs := call(file, "floor", name, "--file", "-", "--format", "svg")
		assert.Equal(t, exitOK, code, errs)
		assert.True(t, strings.HasPrefix(svg, `<svg xmlns="http://www.w3.org/2000/svg"`), name)
	}
	for said, args := range map[string][]string{
		"near it are First Millstone": {"floor", "First Millston", "--file", "-"}, "12 cm is no height": {"floor", "First Millstone", "--file", "-", "--height", "12"}, "say where the technique is": {"floor", "First Millstone"},
		"has no moves that can be followed": {"floor", "Lunge punch", "--file", "-"}, "must be one of": {"floor", "First Millstone", "--file", "-", "--format", "png"},
	} {
		code, out, errs := call(file, args...)
		assert.NotEqual(t, exitOK, code, args)
		assert.Empty(t, out)
		assert.Contains(t, errs, said)
	}
}

func TestCommandLine(t *testing.T) {
	code, out, _ := call("", "--help")
	assert.Equal(t, exitOK, code)
	for _, c := range []string{"serve", "demo", "backtest", "tally", "notation", "check", "compile", "import", "export"} {
		assert.Contains(t, out, c)
	}
	code, _, errs := call("", "dance")
	assert.Equal(t, exitRefused, code)
	assert.Contains(t, errs, "dance")
}

func TestServeRefuses(t *testing.T) {
	dir := t.TempDir()
	text := filepath.Join(dir, "notes.txt")
	require.NoError(t, os.WriteFile(text, []byte("just some notes, and no database"), 0o600))
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	db := filepath.Join(dir, "new.db")
	for said, args := range map[string][]string{
		"reached from outside":   {"demo", "--db", db, "--addr", "0.0.0.0:8484"},
		"where nobody signs in":  {"demo", "--db", db, "--addr", ":8484"},
		"belong together":        {"serve", "--db", db, "--tls-cert", text},
		"is not HOST:PORT":       {"serve", "--db", db, "--addr", "8484"},
		"is in use":              {"serve", "--db", db, "--addr", taken.Addr().String()},
		"is not a database":      {"serve", "--db", text, "--addr", "127.0.0.1:0"},
		"reached from outside ":  {"demo", "--addr", "192.168.1.2:80"},
		"such as 10.0.0.0/8":     {"serve", "--db", db, "--proxy", "our-proxy"},
		"leave scheme and port":  {"serve", "--db", db, "--host", "https://ladder.example"},
		"leave scheme and port ": {"serve", "--db", db, "--host", "ladder.example:443"},
	} {
		code, out, errs := call("", args...)
		assert.Equal(t, exitTrouble, code, args)
		assert.Empty(t, out)
		assert.Contains(t, errs, strings.TrimSpace(said))
	}
	assert.NoFileExists(t, db, "a refused start leaves no file behind")
	for _, addr := range []string{"127.0.0.1:80", "[::1]:80", "localhost:80", "127.9.9.9:0"} {
		assert.NoError(t, loopback(addr))
	}
}

// TestNoEmptySchoolWhereOneWas: where the files say that a school was kept, none is begun unless that is said; a file left
// unfinished beside a school is told of.
func TestNoEmptySchoolWhereOneWas(t *testing.T) {
	golden.Alone(t)
	for _, lies := range []string{"school.db-wal", "school.db.part", "school.db.replaced-20261126-120000", "school.db.schema-16-20261126-120000", "backups/velvetladder-20261126-120000.db"} {
		dir := t.TempDir()
		db := filepath.Join(dir, "school.db")
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "backups"), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(dir, lies), []byte("x"), 0o600))
		for range 2 { // the second time with an empty file
			code, out, errs := call("", "serve", "--db", db, "--addr", "127.0.0.1:0")
			assert.Equal(t, []any{exitTrouble, ""}, []any{code, out}, lies)
			assert.Contains(t, errs, filepath.Base(lies))
			assert.Contains(t, errs, "velvetladder restore FILE --db "+db)
			info, err := os.Stat(db)
			assert.True(t, err != nil || info.Size() == 0, "nothing was made")
			require.NoError(t, os.WriteFile(db, nil, 0o600))
		}
		if lies != "school.db-wal" {
			served(t, func(string) {}, "serve", "--db", db, "--addr", "127.0.0.1:0", "--new")
			_, errs := served(t, func(string) {}, "serve", "--db", db, "--addr", "127.0.0.1:0")
			assert.Equal(t, lies == "school.db.part", strings.Contains(errs, "was left unfinished"), lies)
		}
	}
}

// TestDemoOnOtherDays builds the demo on days that are awkward: the ends of months, a 29 February.
// The school it promises is looked at in the browser tests, which build it for today.
func TestDemoOnOtherDays(t *testing.T) {
	if os.Getenv("VELVETLADDER_LONG") == "" {
		t.Skip("builds schools for minutes; make test-long")
	}
	for _, day := range []string{"2026-11-24", "2028-02-29", "2027-03-31", "2027-08-10", "2027-01-01", "2026-12-06"} {
		db := filepath.Join(t.TempDir(), "demo.db")
		require.NoError(t, onrecord.Build(context.Background(), db, civil.MustParse(day)), day)
		code, out, errs := call("", "backtest", "--db", db)
		require.Equal(t, exitOK, code, errs)
		t.Log(day, out)
	}
}

// TestBacktest tells what is missing where there is nothing to replay.
func TestBacktest(t *testing.T) {
	code, _, errs := call("", "backtest", "--db", filepath.Join(t.TempDir(), "none.db"))
	assert.Equal(t, exitTrouble, code)
	assert.Contains(t, errs, "none.db")
	empty := filepath.Join(t.TempDir(), "empty.db")
	s, err := store.Open(context.Background(), empty, time.Now)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, out, _ := call("", "backtest", "--db", empty)
	assert.Contains(t, out, "Nothing can be replayed yet")
}

// TestSimulate rehearses a small made-up school, and refuses what it may not do.
func TestSimulate(t *testing.T) {
	golden.Alone(t)
	code, out, errs := call("", "simulate", "--rings", "2", "--examiners", "3", "--candidates", "5", "--lines", "4", "--beside")
	require.Equal(t, exitOK, code, errs)
	for _, said := range []string{`"tablets": 6`, `"missing": 0`, `"strange": 0`, `"refused": 0`, `"signed": `, `"p99_ms"`, `"bare_handler"`} {
		assert.Contains(t, out, said)
	}
	for _, args := range [][]string{
		{"--rings", "9"}, {"--examiners", "2"}, {"--candidates", "0"}, {"--lines", "201"}, {"--url", "http://127.0.0.1:1"},
		{"--url", "http://192.168.0.7:8484", "--grading", "x"}, {"--url", "http://127.0.0.1:1", "--grading", "x"}, {"--loss", "900"},
	} {
		code, out, errs := call("", append([]string{"simulate"}, args...)...)
		assert.NotEqual(t, exitOK, code, args)
		assert.Empty(t, out, args)
		assert.NotEmpty(t, errs, args)
	}
}
