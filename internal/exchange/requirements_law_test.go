package exchange

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/golden"
)

// TestLawRequirementsFilesKeepEverything: what is written is read as it was, whatever a binder
// line can say.
func TestLawRequirementsFilesKeepEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		quantity := func(name string) curriculum.Quantity {
			q, err := curriculum.ParseQuantity(rapid.SampledFrom([]string{"5 a side", "8 each leg", "4 each way", "10", "10 alternating", "60 s", "2 x 60 s, 30 s rest", "18 in 60 s", "3 holds of 20 s", "4 each hand without touching down"}).Draw(t, name))
			require.NoError(t, err)
			return q
		}
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Reed", ProgramDetails: curriculum.ProgramDetails{Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs"}}, Groups: []curriculum.SampleGroup{{ID: "g", Name: "Pool", Draw: 1}}}},
			Sections: []curriculum.Section{{ID: "s", Name: "Locks", Kind: "lock"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White, first"}, {ID: "y", Name: "Yellow"}},
			Techniques: []curriculum.Technique{{ID: "l", Name: "Reed lock", Kind: "lock", TechniqueDetails: curriculum.TechniqueDetails{Entries: []curriculum.Entry{{Name: "Counter-grip"}, {Name: "Own start"}}}}}}
		other := quantity("track amount")
		r := curriculum.Requirement{ID: "r", RungID: "w", SectionID: "s", TechniqueID: "l", Role: "performer", Weight: 2, Quantity: quantity("amount"), Note: "=as on the mat (slowly)"}
		r.RequirementDetails = curriculum.RequirementDetails{Slow: flip("slow"), NonStop: flip("non-stop"), Phases: flip("phases"), ShowAgain: flip("again"), Sprint: 15, Voice: curriculum.ShoutTurns, Entries: []string{"Own start"},
			Carry: curriculum.Carry{Kind: curriculum.Until, Rung: "y"}, Tracks: []curriculum.TrackChange{{TrackID: "cubs", Quantity: &other, LeaveOut: flip("out")}}}
		c.Requirements = []curriculum.Requirement{r}
		b := curriculum.Open(c)
		var file bytes.Buffer
		require.NoError(t, WriteRequirements(&file, b))
		rows, err := readRequirements(file.Bytes(), b)
		require.NoError(t, err)
		require.Len(t, rows, 1)
		require.Empty(t, rows[0].Problems, file.String())
		require.Equal(t, "as it is", rows[0].Change, file.String())
		got := rows[0].Line.Requirement
		got.ID = r.ID
		require.Equal(t, r, got, file.String())
	})
}

// TestRequirementsCellByCell: what each cell may hold, and what stands where one is empty.
func TestRequirementsCellByCell(t *testing.T) {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Reed"}, Sections: []curriculum.Section{{ID: "s", Name: "Kicks", Kind: "kick"}, {ID: "o", Name: "Locks", Kind: "lock"}, {ID: "x", Name: "Bits"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White"}},
		Techniques: []curriculum.Technique{{ID: "k", Name: "Front kick", Kind: "kick"}}}
	b := curriculum.Open(c)
	read := func(header, row string) RequirementRow {
		rows, err := readRequirements([]byte("rung,technique,"+header+"\nWhite,"+row+"\n"), b)
		require.NoError(t, err)
		return rows[0]
	}
	plain := read("note", "Front kick,").Line
	assert.Equal(t, []any{1, curriculum.Role("performer"), curriculum.Setting(""), "s", false, false, "k", "5 a side"}, []any{plain.Weight, plain.Role, plain.Setting, plain.SectionID, plain.MustPass, plain.Bonus, plain.TechniqueID, plain.Quantity.String()})
	for setting, want := range map[string]curriculum.Setting{"air": "", "AIR": "", "": "", "pads": "pads", "Bag": "bag"} {
		x := read("setting", "Front kick,"+setting)
		assert.Empty(t, x.Problems)
		assert.Equal(t, want, x.Line.Setting, setting)
	}
	for cell, want := range map[string]any{"yes": true, "TRUE": true, "1": true, "no": false, "false": false, "0": false, "": false, "maybe": `"maybe" is neither yes nor no`} {
		x := read("must_pass", "Front kick,"+cell)
		if problem, wrong := want.(string); wrong {
			assert.Equal(t, problem, x.Problems.Of("must_pass"))
			continue
		}
		assert.Equal(t, want, x.Line.MustPass, cell)
	}
	for weight, wrong := range map[string]bool{"1": false, "100": false, "0": true, "101": true} {
		assert.Equal(t, wrong, read("weight", "Front kick,"+weight).Problems.Of("weight") != "", weight)
	}
	none := read("section", ",Kicks")
	assert.Contains(t, none.Problems.Of("technique"), "is empty; write a name", "a row without a name is no row of a nameless technique")
	assert.Len(t, none.Problems, 1)
	elsewhere := read("section", "New kick,Elbows")
	assert.Equal(t, check.Problems{{Field: "section", Text: `"Elbows" is no section of this program; there are Kicks, Locks, Bits`}}, elsewhere.Problems, "said once")
	told := read("section", "New kick,")
	assert.Equal(t, []any{true, curriculum.Kind("kick"), "s"}, []any{told.Line.New, told.Line.Kind, told.Line.SectionID}, "its words say where it belongs")
	unsaid := read("section", "New thing,")
	assert.Contains(t, unsaid.Problems.Of("technique"), "is new, so its section is not known")
	made := read("section,kind", "New hold,Locks,Kick").Line
	assert.Equal(t, []any{true, curriculum.Kind("kick"), "o"}, []any{made.New, made.Kind, made.SectionID})
	bits := read("section,kind", "Long stick,Bits,strike")
	assert.Empty(t, bits.Problems, "the kind's own column says it")
	assert.Equal(t, curriculum.Kind("strike"), bits.Line.Kind)
	assert.Contains(t, read("section,kind", "Long stick,Bits,").Problems.Of("technique"), "does not say of which kind")
	assert.Contains(t, read("kind", "Front kick,lock").Problems.Of("kind"), "is on record as kick")
	assert.Contains(t, read("kind", "Front kick,shoe").Problems.Of("kind"), "must be one of")
	var file bytes.Buffer
	require.NoError(t, WriteRequirements(&file, b))
	assert.Equal(t, "\uFEFF"+strings.Join(RequirementColumns, ",")+"\r\n", file.String())
}

// TestAStrangersTable: a table with heads, sections and amounts as others write them is read as a page of it would be: what a cell names, its
// amount in words, a remark that says on what; what may be several is asked about.
func TestAStrangersTable(t *testing.T) {
	c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Reed"}, Sections: []curriculum.Section{{ID: "s", Name: "Strikes", Kind: "strike"}, {ID: "k", Name: "Kicks", Kind: "kick"}, {ID: "d", Name: "Self-defence", Kind: "self_defence"}, {ID: "m", Name: "Combinations", Kind: "combination"}},
		Rungs: []curriculum.Rung{{ID: "w", Name: "White"}}, Techniques: []curriculum.Technique{{ID: "f", Name: "Front kick", Kind: "kick"}}}
	b := curriculum.Open(c)
	table := "Belt,Category,Technique,Qty,Type,Remarks\n" + strings.Join([]string{
		"White,Kicks,Front kick,twenty each leg,,pads", "White,KICKING,Jumping front kick x 10,,,", "White,Self Defense,Falling Reed (left lapel grab),3 e/s,,slow then fast",
		"White,Strikes,Elbows 1-2,5,,", "White,Strikes,\"Jab, cross\",10,,", "White,Strikes,\"Jab, cross\",10,combination,on mitts", "White,Combinations,\"jab, cross, front kick\",,,", "White,Mud,Bog,5,,", "White,Kicks,Reed kick,a few,,"}, "\n") + "\n"
	rows, err := readRequirements([]byte(table), b)
	require.NoError(t, err)
	var got []string
	for _, x := range rows {
		l := x.Line
		line := fmt.Sprint(x.Row, " ", l.Section, " ", l.Kind, " ", l.Name, ", ", l.Quantity, " ", l.Setting, " ", curriculum.AttackWords(l.Attack), " ", l.Modifiers, " (", l.Note, ")", l.Moves)
		if len(x.Problems) > 0 {
			line = fmt.Sprint(x.Row, " ", x.Problems[0].Field, ": ", x.Problems[0].Text)
		}
		got = append(got, line)
	}
	assert.Equal(t, []string{
		"2 Kicks kick Front kick, 20 each limb pads  [] ()",
		"3 Kicks kick Jumping front kick, 10 times   [jumping] ()",
		"4 Self-defence self_defence Falling Reed, 3 a side  left lapel grab [] (slow then fast)",
		"5 Strikes strike Elbow 1, 5 times   [] ()", "5 Strikes strike Elbow 2, 5 times   [] ()",
		"6 technique: “cross” is read as a remark; where it is another technique, write a line for each, or a combination’s name and its moves after a colon; or say its kind in a column of its own",
		"7 Strikes combination Jab, cross, 10 times pads  [] ()Jab, cross",
		"8 Combinations combination jab, cross, front kick, 4 a side   [] ()jab, cross, front kick",
		`9 section: "Mud" is no section of this program; there are Strikes, Kicks, Self-defence, Combinations`,
		`10 amount: not an amount: "a few"; write for example 5 a side, 10, once, 60 s, or 2 x 90 s, 30 s rest`,
	}, got)
}

// TestTheLargestCurriculum: as much as is read, and one byte more.
func TestTheLargestCurriculum(t *testing.T) {
	golden.Alone(t)
	for n, says := range map[int]string{maxCurriculum: "$", maxCurriculum + 1: "is larger than 64 MiB"} {
		_, err := ReadCurriculum(io.LimitReader(blanks{}, int64(n)))
		require.ErrorContains(t, err, says)
		require.Equal(t, n > maxCurriculum, strings.Contains(err.Error(), "is larger"), err)
	}
}

// blanks is spaces without end.
type blanks struct{}

func (blanks) Read(p []byte) (int, error) { return copy(p, bytes.Repeat([]byte(" "), len(p))), nil }
