package exchange

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
)

var today = civil.MustParse("2026-11-24")

// readStudents reads a table by its heads alone.
func readStudents(in []byte) ([]StudentRow, error) {
	r, err := OpenStudents(in)
	if err != nil {
		return nil, err
	}
	return ReadStudents(r, today)
}

func TestReadStudents(t *testing.T) {
	in := "\xEF\xBB\xBFName;Birth date;height_cm;stance\r\nAda Rill;2015-03-01;140;\r\n;2015-03-01;;\r\nBen;31.2.2015;tall;sideways\r\nCleo;2031-01-01;30;southpaw;extra\r\n"
	rows, err := readStudents([]byte(in))
	require.NoError(t, err)
	require.Len(t, rows, 4)
	assert.Empty(t, rows[0].Problems)
	assert.Equal(t, progress.Student{Name: "Ada Rill", BirthDate: civil.MustParse("2015-03-01"), HeightCM: 140}, rows[0].Student, "a stance left empty is not known")
	assert.Equal(t, 3, rows[1].Row)
	assert.Contains(t, rows[1].Problems.Of("name"), "is empty")
	assert.Contains(t, rows[2].Problems.Of("birth_date"), `"31.2.2015"; write it as YYYY-MM-DD`)
	assert.Contains(t, rows[2].Problems.Of("height_cm"), `"tall" is not a whole number`)
	assert.Contains(t, rows[2].Problems.Of("stance"), "must be one of orthodox, southpaw")
	assert.Contains(t, rows[3].Problems.Of("birth_date"), "lies in the future")
	assert.Contains(t, rows[3].Problems.Of("row"), "has 5 cells")
}

// TestStudentsFigures: the least and the most of each figure are read, one beyond is not.
func TestStudentsFigures(t *testing.T) {
	for column, x := range map[string]struct {
		least, most int
		of          func(progress.Student) int
	}{
		"height_cm": {40, 260, func(s progress.Student) int { return s.HeightCM }}, "weight_kg": {8, 250, func(s progress.Student) int { return s.WeightKG }}, "waist_cm": {30, 200, func(s progress.Student) int { return s.WaistCM }},
	} {
		for n, bad := range map[int]bool{x.least - 1: true, x.least: false, x.most: false, x.most + 1: true} {
			rows, err := readStudents(fmt.Appendf(nil, "name,%s\nAda,%d\nBo,\n", column, n))
			require.NoError(t, err)
			assert.Equal(t, bad, rows[0].Problems.Of(column) != "", "%s %d", column, n)
			assert.Equal(t, []int{n, 0}, []int{x.of(rows[0].Student), x.of(rows[1].Student)}, column)
			assert.Empty(t, rows[1].Problems)
		}
	}
	rows, err := readStudents([]byte("name,program,rung,since\nAda,Kenpo,,2026-11-25\nBo,Kenpo,Blue,2026-11-24\nCy,,Blue,\n"))
	require.NoError(t, err)
	assert.Equal(t, "is empty; name the rung of Kenpo the student stands on", rows[0].Problems.Of("rung"))
	assert.Contains(t, rows[0].Problems.Of("since"), "lies in the future")
	assert.Empty(t, rows[1].Problems)
	assert.Empty(t, rows[2].Problems)
	assert.Equal(t, []int{2, 3, 4}, []int{rows[0].Row, rows[1].Row, rows[2].Row})
}

func TestFilesThatAreNone(t *testing.T) {
	for in, said := range map[string]string{
		"": "it is empty", " \n": "it is empty", "name\nA\x00b\n": "bytes that no text has", "birth_date\n2015-01-01\n": "no column is the name", "\xD0\xCF\x11\xE0x": "old kind (.xls)", "PK\x03\x04 no workbook": "cannot be opened as a workbook",
		"name\n\"A\nB": "line 3, column 2", "name\n" + strings.Repeat("A\n", MaxStudents+1): "more than 50000 rows", "name" + strings.Repeat(",x", 201): "up to 200",
	} {
		_, err := readStudents([]byte(in))
		assert.ErrorIs(t, err, ErrCSV)
		assert.ErrorContains(t, err, said)
	}
}

func TestLawStudentsComeBackAsTheyWere(t *testing.T) {
	text := rapid.StringMatching(`[=+\-@'A-Za-zäñ日",; ]{0,12}`)
	rapid.Check(t, func(t *rapid.T) {
		row := StudentRow{Row: 2, Program: strings.TrimSpace(text.Draw(t, "program")), Since: civil.MustParse("2026-01-31")}
		row.Student = progress.Student{Name: "N" + text.Draw(t, "name"), Guardian: text.Draw(t, "guardian"), Limits: text.Draw(t, "limits"), Contact: text.Draw(t, "contact"),
			Stance: rapid.SampledFrom(progress.Stances).Draw(t, "stance"), HeightCM: rapid.IntRange(40, 260).Draw(t, "height"), BirthDate: civil.MustParse("2015-02-28")}
		for _, f := range []*string{&row.Student.Name, &row.Student.Guardian, &row.Student.Limits, &row.Student.Contact, &row.Program} {
			*f = strings.Join(strings.Fields(*f), " ")
		}
		row.Rung = "White belt"
		var out bytes.Buffer
		require.NoError(t, WriteStudents(&out, []StudentRow{row}))
		for _, line := range strings.Split(out.String(), "\n")[1:] {
			assert.False(t, strings.HasPrefix(line, "="), "no cell may start a formula")
		}
		back, err := readStudents(out.Bytes())
		require.NoError(t, err)
		assert.Equal(t, []StudentRow{row}, back)
	})
}

func FuzzReadStudents(f *testing.F) {
	f.Add([]byte("name,birth_date\nAda,2015-03-01\n"))
	f.Fuzz(func(t *testing.T, in []byte) {
		rows, err := readStudents(in)
		if err != nil {
			require.ErrorIs(t, err, ErrCSV)
		}
		for _, r := range rows {
			for _, p := range r.Problems {
				assert.NotEmpty(t, p.Text)
			}
		}
	})
}
