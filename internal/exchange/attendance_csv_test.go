package exchange

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/timetable"
	"velvetladder/internal/golden"
)

// readAttendance reads a table by its heads alone.
func readAttendance(in []byte) ([]AttendanceRow, error) {
	r, err := OpenAttendance(in)
	if err != nil {
		return nil, err
	}
	return ReadAttendance(r)
}

func TestReadAttendance(t *testing.T) {
	in := "Name;Date;Class;State;Mode;Start;make_up\nAda Rill;2026-11-24;Evening;;;;\nBen;2026-11-24;Evening;LATE;live;18:30;Yes\n;24 Novembre;;asleep;telepathy;at six;perhaps\nCleo;2026-11-24;Evening;;;;;extra\n"
	rows, err := readAttendance([]byte(in))
	require.NoError(t, err)
	require.Len(t, rows, 4)
	assert.Equal(t, AttendanceRow{Row: 2, Name: "Ada Rill", On: today, Class: "Evening", Start: -1, State: "present", Mode: timetable.Hall}, rows[0])
	assert.Equal(t, AttendanceRow{Row: 3, Name: "Ben", On: today, Class: "Evening", Start: 1110, State: "late", Mode: timetable.Live, MakeUp: true}, rows[1])
	for field, told := range map[string]string{"name": "is empty", "date": "YYYY-MM-DD", "class": "is empty", "state": "present, late", "mode": "hall, live, recorded", "start": "write it as 18:30", "make_up": "is not yes or no"} {
		assert.Contains(t, rows[2].Problems.Of(field), told, field)
	}
	assert.Contains(t, rows[3].Problems.Of("row"), "has 8 cells")
	for in, said := range map[string]string{"": "it is empty", "name,class\nA,B": "no column is the day", "date,class\n2026-11-24,Evening\n": "no column is the name"} {
		_, err := readAttendance([]byte(in))
		assert.ErrorIs(t, err, ErrAttendance)
		assert.ErrorContains(t, err, said)
	}
}

// TestManyRows reads 50,000 rows of which a tenth is wrong: each of those is told, and no other.
func TestManyRows(t *testing.T) {
	golden.Alone(t)
	var in strings.Builder
	in.WriteString("name,date,class\n")
	for i := range 50_000 {
		day := today.AddDays(-i % 1000).String()
		if i%10 == 7 {
			day = "the day before yesterday"
		}
		fmt.Fprintf(&in, "Student %d,%s,Evening\n", i%70, day)
	}
	rows, err := readAttendance([]byte(in.String()))
	require.NoError(t, err)
	require.Len(t, rows, 50_000)
	wrong := 0
	for i, r := range rows {
		require.Equal(t, i+2, r.Row)
		if len(r.Problems) > 0 {
			wrong++
			require.Equal(t, 7, i%10)
		}
	}
	assert.Equal(t, 5000, wrong)
}

// TestAttendanceRoundTrip: what is written is read again as it was.
func TestAttendanceRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		name := rapid.StringMatching(`[=+@A-Za-z'][ A-Za-zéß,;"-]{0,20}[A-Za-z]`)
		var rows []AttendanceRow
		for i := range rapid.IntRange(0, 12).Draw(t, "rows") {
			r := AttendanceRow{Row: i + 2, Name: strings.Join(strings.Fields(name.Draw(t, "name")), " "), On: today.AddDays(-rapid.IntRange(0, 900).Draw(t, "day")), Class: strings.Join(strings.Fields(name.Draw(t, "class")), " "), Start: rapid.IntRange(0, 1439).Draw(t, "start"),
				State: rapid.SampledFrom([]string{"present", "late"}).Draw(t, "state"), Mode: rapid.SampledFrom(timetable.Modes).Draw(t, "mode"), MakeUp: rapid.Bool().Draw(t, "up")}
			if rapid.Bool().Draw(t, "born") {
				r.Born = today.AddDays(-5000)
			}
			rows = append(rows, r)
		}
		var out bytes.Buffer
		require.NoError(t, WriteAttendance(&out, rows))
		got, err := readAttendance(out.Bytes())
		require.NoError(t, err)
		require.Equal(t, len(rows), len(got))
		for i := range rows {
			require.Equal(t, rows[i], got[i])
		}
	})
}

// FuzzReadAttendance: rows are read or refused by themselves, never more than there are lines, and each says what is wrong with it.
func FuzzReadAttendance(f *testing.F) {
	for _, seed := range []string{"name,class,date\nAda,Evening,2026-11-24\n", "name;class;date;state\n\"Ada\";Evening;24.11.2026;late\n", "name\n\n", "\xff\xfen\x00a\x00", "name,class,date,start\nAda,Evening,2026-02-30,25:00\n"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, in []byte) {
		rows, err := readAttendance(in)
		if err != nil {
			require.ErrorIs(t, err, ErrAttendance)
			return
		}
		for _, r := range rows {
			if r.Name == "" || r.Class == "" || r.On.IsZero() {
				require.NotEmpty(t, r.Problems)
			}
		}
	})
}
