package exchange

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/golden"
)

// workbook makes one out of rows: days stand in it as days, numbers as numbers.
func workbook(t require.TestingT, rows ...[]any) []byte {
	f := excelize.NewFile()
	for i, cells := range rows {
		require.NoError(t, f.SetSheetRow("Sheet1", fmt.Sprintf("A%d", i+1), &cells))
	}
	var out bytes.Buffer
	require.NoError(t, f.Write(&out))
	return out.Bytes()
}

// TestStrangersColumns: heads as schools write them, what they mean, and what is left out.
func TestStrangersColumns(t *testing.T) {
	for heads, means := range map[string]string{
		"Student Name,DOB,Parent,E-mail,Mobile,Belt,Last graded,T-shirt": "name birth_date guardian contact contact rung since -",
		"First name,Surname,Date of birth (dd/mm/yyyy),Current Rank":     "first_name last_name birth_date rung",
		"MEMBER;Date Joined;Programme;Medical notes":                     "name joined_on program limits",
		"Name\tBirthdate\tName":                                          "name birth_date -",
		"Nmae,Brithday,Phone number":                                     "- birth_date contact", // a short one amiss could be anything
		"name,birth_date,height_cm,stance":                               "name birth_date height_cm stance",
	} {
		r, err := OpenStudents([]byte(heads + "\nA,B\n"))
		require.NoError(t, err)
		got := strings.Split(strings.Join(r.Columns, " "), " ")
		for i := range got {
			if got[i] == "" {
				got[i] = "-"
			}
		}
		assert.Equal(t, means, strings.Join(got, " "), heads)
		assert.False(t, r.Headless)
	}
	r, err := OpenStudents([]byte("Ida Brandt\nMilo Brandt\n"))
	require.NoError(t, err)
	assert.True(t, r.Headless, "a list of names has no heads")
	rows, err := ReadStudents(r, today)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, "Ida Brandt", rows[0].Student.Name)
	assert.Equal(t, 1, rows[0].Row)
	assert.Equal(t, "column A", r.Head(0))

	r, err = OpenStudents([]byte("Who,When\nIda,2015-03-01\n"))
	require.NoError(t, err)
	assert.True(t, r.Headless)
	r = r.As(StudentHeads, []string{"name", "birth_date"}, false, "")
	rows, err = ReadStudents(r, today)
	require.NoError(t, err)
	require.Len(t, rows, 1, "matched by hand, and the first row is heads after all")
	assert.Equal(t, civil.MustParse("2015-03-01"), rows[0].Student.BirthDate)
	assert.Equal(t, []string{"2015-03-01"}, r.Samples(1, 3))
	_, err = ReadStudents(r.As(StudentHeads, []string{"name", "name"}, false, ""), today)
	assert.ErrorContains(t, err, "two columns are said to be “Name”")
	_, err = ReadStudents(r.As(StudentHeads, []string{"", "shoe"}, false, ""), today)
	assert.ErrorContains(t, err, "no column is the name")
	assert.Equal(t, []string{"Who", "When"}, r.As(StudentHeads, nil, false, "").LeftOut())
}

// TestWhatStandsAboveTheHeads: a title and a date are no students, and rows keep their numbers; one cell that means something by chance is no head.
func TestWhatStandsAboveTheHeads(t *testing.T) {
	r, err := OpenStudents([]byte("Quarry Lane,members\nBelt,\n\nSurname,First name,DOB\nBrandt,Ida,2015-03-01\n"))
	require.NoError(t, err)
	rows, err := ReadStudents(r, today)
	require.NoError(t, err)
	require.Len(t, rows, 1)
	assert.Equal(t, "Ida Brandt", rows[0].Student.Name)
	assert.Equal(t, 5, rows[0].Row)
	assert.Contains(t, r.Notes, "The heads were found in row 4; what stands above them was passed over.")
	r, err = OpenStudents([]byte("Ida Brandt,Yellow\nBelt,Rank\nRuth Level,Green\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"rung", ""}, r.Columns, "two cells of one meaning are heads too")
	r, err = OpenStudents([]byte("Name,Hobby\nMobile,Parent\n"))
	require.NoError(t, err)
	assert.Len(t, r.Rows, 1)
	r, err = OpenStudents([]byte("Name,Hobby\nParent,chess\n"))
	require.NoError(t, err)
	assert.Len(t, r.Rows, 2, "no more than the first row has")
}

// TestTheSumBelowAList is no student; somebody whose name begins so is.
func TestTheSumBelowAList(t *testing.T) {
	rows, err := readStudents([]byte("name,rung,contact\nIda,White,1\nTotal: 3,,\nTOTAL,3,\nGrand total 3,,\nSumner Holt,,\nCount Basil,,\nTotal Ruth,White,12 34\n"))
	require.NoError(t, err)
	var sums []string
	for _, r := range rows {
		if r.Problems.Of("name") != "" {
			sums = append(sums, r.Student.Name)
		}
	}
	assert.Equal(t, []string{"Total: 3", "TOTAL", "Grand total 3"}, sums)
}

// TestRowsAreCountedAsASpreadsheetDoes: empty ones too, and a cell of several lines as one.
func TestRowsAreCountedAsASpreadsheetDoes(t *testing.T) {
	rows, err := readStudents([]byte("\n\nname,limits\nA,\"x\ny\nz\"\n\nB,\nC,\"v\nw\"\nD,\n"))
	require.NoError(t, err)
	var at []int
	for _, r := range rows {
		at = append(at, r.Row)
	}
	assert.Equal(t, []int{4, 6, 7, 8}, at)
}

// TestCellsOfSeveralColumns: a name in two parts, two ways to reach somebody.
func TestCellsOfSeveralColumns(t *testing.T) {
	rows, err := readStudents([]byte("First name,Last name,Email,Phone,Parent,Mother\nIda,Brandt,ida@quarry.example,,Jo,Kim\n,Okafor,,12 34,,\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"Ida Brandt", "ida@quarry.example", "Jo, Kim"}, []string{rows[0].Student.Name, rows[0].Student.Contact, rows[0].Student.Guardian})
	assert.Equal(t, []string{"Okafor", "12 34", ""}, []string{rows[1].Student.Name, rows[1].Student.Contact, rows[1].Student.Guardian})
	att, err := readAttendance([]byte("Surname,Forename,Session,Class date,Time\nBrandt,Ida,Evening,3 March 2026,18:30:00\n"))
	require.NoError(t, err)
	assert.Equal(t, "Ida Brandt", att[0].Name)
	assert.Equal(t, 1110, att[0].Start)
	assert.Empty(t, att[0].Problems)
}

// TestDaysAsTheyAreWritten: in words, with the day or the month first as the column shows, as a workbook's numbers.
func TestDaysAsTheyAreWritten(t *testing.T) {
	for cell, want := range map[string]string{
		"2015-03-01": "2015-03-01", "2015-03-01 00:00:00": "2015-03-01", "2015-03-01T10:00:00Z": "2015-03-01", "1 March 2015": "2015-03-01", "1st Mar 2015": "2015-03-01", "March 1, 2015": "2015-03-01", "01-Mar-15": "2015-03-01",
		"3/4/2015": "2015-04-03", "03.04.2015": "2015-04-03", "3-4-15": "2015-04-03", "3 4 2015": "2015-04-03", "1/2/36": "2036-02-01", "1/2/37": "1937-02-01",
		"31/2/2015": "31/2/2015", "42064": "42064", "spring": "spring", "": "", "29 February 2015": "29 February 2015", "0/1/2015": "0/1/2015",
	} {
		assert.Equal(t, want, Reading{Sheet: &Sheet{}, Days: DayFirst}.day(cell), cell)
	}
	assert.Equal(t, "2015-03-04", Reading{Sheet: &Sheet{}, Days: MonthFirst}.day("3/4/2015"))
	for column, x := range map[string]struct {
		days     DayOrder
		doubtful bool
	}{"3/4/2015 13/4/2015": {DayFirst, false}, "3/4/2015 4/13/2015": {MonthFirst, false}, "3/4/2015 5/6/2015": {DayFirst, true}, "3/3/2015": {DayFirst, false}, "2015-03-04": {DayFirst, false}, "13/1/2015 1/13/2015": {DayFirst, true}} {
		r, err := OpenStudents([]byte("name,born\nA," + strings.ReplaceAll(column, " ", "\nB,") + "\n"))
		require.NoError(t, err)
		assert.Equal(t, x.days, r.Days, column)
		assert.Equal(t, x.doubtful, r.Doubtful, column)
		assert.Equal(t, MonthFirst, r.As(StudentHeads, r.Columns, false, MonthFirst).Days, "as chosen by hand")
	}
}

// TestAWorkbook: its days, hours and numbers, the sheet that is read, the old way of counting days.
func TestAWorkbook(t *testing.T) {
	born := time.Date(2015, 3, 1, 0, 0, 0, 0, time.UTC)
	in := workbook(t, []any{"Name", "Date of birth", "Height", "Belt", "Joined"}, []any{"Zoë Brandt", born, 140, "White belt", "1/9/2024"}, []any{}, []any{"Milo", nil, 151.5})
	rows, err := readStudents(in)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, "Zoë Brandt", rows[0].Student.Name)
	assert.Equal(t, civil.MustParse("2015-03-01"), rows[0].Student.BirthDate)
	assert.Equal(t, civil.MustParse("2024-09-01"), rows[0].Student.JoinedOn)
	assert.Equal(t, 140, rows[0].Student.HeightCM)
	assert.Equal(t, 4, rows[1].Row, "rows count as the spreadsheet counts them")
	assert.Contains(t, rows[1].Problems.Of("height_cm"), "151.5")

	att, err := readAttendance(workbook(t, []any{"Name", "Class", "Date", "Time"}, []any{"Ida", "Evening", born, 0.7708333333333334}, []any{"Ida", "Noon", born, 0.5}))
	require.NoError(t, err)
	assert.Equal(t, []int{1110, 720}, []int{att[0].Start, att[1].Start})

	f := excelize.NewFile()
	_, err = f.NewSheet("Members")
	require.NoError(t, err)
	require.NoError(t, f.SetSheetRow("Members", "A3", &[]any{"Name", "Born"}))
	require.NoError(t, f.SetSheetRow("Members", "A4", &[]any{"Ida", 42064 - 1462}))
	since := true
	require.NoError(t, f.SetWorkbookProps(&excelize.WorkbookPropsOptions{Date1904: &since}))
	var out bytes.Buffer
	require.NoError(t, f.Write(&out))
	r, err := OpenStudents(out.Bytes())
	require.NoError(t, err)
	assert.Contains(t, r.Notes, "The sheet “Members” was read, number 2 of the workbook's 2; the others were not.")
	rows, err = ReadStudents(r, today)
	require.NoError(t, err)
	assert.Equal(t, civil.MustParse("2015-03-01"), rows[0].Student.BirthDate)
	assert.Equal(t, 4, rows[0].Row)
	assert.Equal(t, []string{"1900-01-01", "1900-02-28", "1900-03-01"}, []string{r.As(nil, nil, false, "").with(1900).serial(1), r.with(1900).serial(59), r.with(1900).serial(61)})
}

func (r Reading) with(since int) Reading {
	s := *r.Sheet
	s.since = since
	r.Sheet = &s
	return r
}

// TestLettersOfOldPrograms: an accent comes out whichever way it was saved, and in what we save.
func TestLettersOfOldPrograms(t *testing.T) {
	for kind, in := range map[string]string{
		"utf-8": "name\nZoë\n", "with its sign": "\uFEFFname\nZoë\n", "put together": "name\nZoe\u0308\n", "windows": "name\nZo\xEB\n",
		"utf-16": "\xFF\xFEn\x00a\x00m\x00e\x00\n\x00Z\x00o\x00\xEB\x00", "big end first": "\xFE\xFF\x00n\x00a\x00m\x00e\x00\n\x00Z\x00o\x00\xEB",
	} {
		r, err := OpenStudents([]byte(in))
		require.NoError(t, err, kind)
		rows, err := ReadStudents(r, today)
		require.NoError(t, err, kind)
		assert.Equal(t, "Zoë", rows[0].Student.Name, kind)
		assert.Equal(t, kind == "windows", len(r.Notes) > 0, kind)
	}
	var out bytes.Buffer
	require.NoError(t, WriteStudents(&out, nil))
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("\xEF\xBB\xBFname,")), "so that spreadsheet programs know the letters")
}

// TestLawAWorkbookSaysWhatItsTextSays: the same cells as a workbook and as text are read alike.
func TestLawAWorkbookSaysWhatItsTextSays(t *testing.T) {
	golden.Alone(t)
	rapid.Check(t, func(t *rapid.T) {
		cell := rapid.StringMatching(`[A-Za-zäñ日][A-Za-zäñ日 ]{0,8}`)
		var text strings.Builder
		text.WriteString("name\tguardian\n")
		rows := [][]any{{"name", "guardian"}}
		for range rapid.IntRange(1, 6).Draw(t, "rows") {
			a, b := strings.TrimSpace(cell.Draw(t, "a")), strings.TrimSpace(cell.Draw(t, "b"))
			fmt.Fprintf(&text, "%s\t%s\n", a, b)
			rows = append(rows, []any{a, b})
		}
		x, err := readStudents([]byte(text.String()))
		require.NoError(t, err)
		y, err := readStudents(workbook(t, rows...))
		require.NoError(t, err)
		require.Equal(t, x, y)
	})
}

func FuzzOpenSheet(f *testing.F) {
	f.Add([]byte("name,born\nIda,3/4/2015\n"))
	f.Add([]byte("\xFF\xFEn\x00a\x00m\x00e\x00"))
	f.Add([]byte("PK\x03\x04"))
	f.Fuzz(func(t *testing.T, in []byte) {
		r, err := OpenStudents(in)
		if err != nil {
			require.ErrorIs(t, err, ErrCSV)
			return
		}
		last := 0
		for _, row := range r.Rows {
			require.Greater(t, row.Row, last, "rows rise")
			last = row.Row
		}
		for i := range r.Columns {
			r.Head(i)
			r.Samples(i, 3)
		}
	})
}
