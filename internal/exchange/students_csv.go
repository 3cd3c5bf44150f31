package exchange

import (
	"encoding/csv"
	"errors"
	"io"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/progress"
)

// StudentColumns are the columns of the students' CSV file, in the order they are written.
// Only name must be there; they may stand in any order.
var StudentColumns = []string{"name", "birth_date", "guardian", "contact", "stance", "height_cm", "weight_kg", "waist_cm", "shoulder_cm", "leg_cm", "foot_cm", "belt_size", "uniform_size", "limits", "joined_on", "program", "rung", "since"}

// MaxStudents is the most rows one file may have.
const MaxStudents = 5000

// StudentRow is one row of a students' file. Row counts as a spreadsheet does: the header is row 1.
type StudentRow struct {
	Row           int
	Student       progress.Student
	Program, Rung string
	Since         civil.Date
	Problems      check.Problems // each names its column, the value and what would be right
}

// ErrCSV is wrapped by errors about the file as a whole.
var ErrCSV = errors.New("this is not a students' file")

// ReadStudents reads a CSV file with commas, semicolons or tabs, with or without a byte
// order mark. Problems of a row stand with the row; an error is about the file as a whole.
func ReadStudents(data []byte, today civil.Date) ([]StudentRow, error) {
	rows, err := readTable(data, ErrCSV, StudentColumns, "name", MaxStudents)
	if err != nil {
		return nil, err
	}
	var out []StudentRow
	for _, r := range rows {
		out = append(out, readStudent(r, today))
	}
	return out, nil
}

func readStudent(r tableRow, today civil.Date) StudentRow {
	out := StudentRow{Row: r.row}
	p := &out.Problems
	cell := r.cell
	date := func(column string) civil.Date { return p.Date(column, cell(column)) }
	out.Student = progress.Student{
		Name: check.Tidy(cell("name")), BirthDate: date("birth_date"), Guardian: check.Tidy(cell("guardian")), Contact: check.Tidy(cell("contact")),
		Stance: progress.Stance(check.Key(cell("stance"))), HeightCM: p.Whole("height_cm", cell("height_cm"), 40, 260, 0),
		WeightKG: p.Whole("weight_kg", cell("weight_kg"), 8, 250, 0), WaistCM: p.Whole("waist_cm", cell("waist_cm"), 30, 200, 0),
		ShoulderMM: p.Tenths("shoulder_cm", cell("shoulder_cm")), LegMM: p.Tenths("leg_cm", cell("leg_cm")), FootMM: p.Tenths("foot_cm", cell("foot_cm")),
		BeltSize: check.Tidy(cell("belt_size")), UniformSize: check.Tidy(cell("uniform_size")), JoinedOn: date("joined_on"),
	}
	out.Student.Limits = p.Text("limits", cell("limits"))
	out.Program, out.Rung, out.Since = check.Tidy(cell("program")), check.Tidy(cell("rung")), date("since")
	r.checkWidth(p)
	if out.Rung == "" && out.Program != "" {
		p.Add("rung", "is empty; name the rung of %s the student stands on", out.Program)
	}
	if !out.Since.IsZero() && today.Before(out.Since) {
		p.Add("since", "%s lies in the future; write today or an earlier day", out.Since)
	}
	for _, x := range out.Student.Check(today) {
		p.Add(x.Field, "%s", x.Text)
	}
	return out
}

// WriteStudents writes the file that ReadStudents reads. A cell that a spreadsheet would
// take for a formula begins with an apostrophe, which reading takes away again.
func WriteStudents(w io.Writer, rows []StudentRow) error {
	out := csv.NewWriter(w)
	if err := out.Write(StudentColumns); err != nil {
		return err
	}
	for _, r := range rows {
		s := r.Student
		record := []string{s.Name, s.BirthDate.String(), s.Guardian, s.Contact, string(s.Stance), measured(s.HeightCM), measured(s.WeightKG), measured(s.WaistCM), tenths(s.ShoulderMM), tenths(s.LegMM), tenths(s.FootMM), s.BeltSize, s.UniformSize, s.Limits, s.JoinedOn.String(), r.Program, r.Rung, r.Since.String()}
		for i, c := range record {
			record[i] = safeCell(c)
		}
		if err := out.Write(record); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// tenths is a measure in millimetres as centimetres, or nothing where none was taken.
func tenths(mm int) string {
	if mm == 0 {
		return ""
	}
	return check.Hundredths(mm * 10)
}

// measured is a measure, or nothing where none was taken.
func measured(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

const formulaStarts = "=+-@\t\r'"

func safeCell(s string) string {
	if s != "" && strings.ContainsRune(formulaStarts, rune(s[0])) {
		return "'" + s
	}
	return s
}

func plainCell(s string) string {
	if len(s) > 1 && s[0] == '\'' && strings.ContainsRune(formulaStarts, rune(s[1])) {
		return s[1:]
	}
	return s
}
