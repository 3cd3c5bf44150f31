package exchange

import (
	"errors"
	"fmt"
	"io"
	"regexp"
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
const MaxStudents = 50_000

// StudentHeads are what the columns of a students' file can mean: those of ours, and a name in two parts.
var StudentHeads = []Column{
	{Key: "name", Says: "Name", Also: []string{"student", "student name", "full name", "member", "member name", "names", "pupil", "whole name"}},
	{Key: "first_name", Says: "First name", Also: []string{"given name", "forename", "first", "christian name"}, Many: " "},
	{Key: "last_name", Says: "Last name", Also: []string{"surname", "family name", "last"}, Many: " "},
	{Key: "birth_date", Says: "Birth date", Also: []string{"born", "birthday", "date of birth", "dob", "d o b", "birthdate", "born on"}, Day: true},
	{Key: "guardian", Says: "Guardian", Also: []string{"parent", "parents", "parent name", "parent guardian", "mother", "father", "carer", "next of kin"}, Many: ", "},
	{Key: "contact", Says: "How to reach them", Also: []string{
		"phone", "telephone", "tel", "mobile", "mobile phone", "cell", "cell phone", "e mail", "email", "mail", "email address",
		"contact number", "phone number", "home phone", "contact details",
	}, Many: ", "},
	{Key: "stance", Says: "Stance", Also: []string{"lead foot", "front foot"}},
	{Key: "height_cm", Says: "Height in cm", Also: []string{"height"}},
	{Key: "weight_kg", Says: "Weight in kg", Also: []string{"weight"}},
	{Key: "waist_cm", Says: "Waist in cm", Also: []string{"waist"}},
	{Key: "shoulder_cm", Says: "Shoulders in cm", Also: []string{"shoulder", "shoulders"}},
	{Key: "leg_cm", Says: "Leg in cm", Also: []string{"leg"}},
	{Key: "foot_cm", Says: "Foot in cm", Also: []string{"foot"}},
	{Key: "belt_size", Says: "Belt size"},
	{Key: "uniform_size", Says: "Uniform size", Also: []string{"suit size", "gi size", "dobok size", "size"}},
	{Key: "limits", Says: "Limits to know of", Also: []string{"medical", "medical notes", "medical conditions", "injuries", "health"}, Many: "\n"},
	{Key: "joined_on", Says: "Joined on", Also: []string{"joined", "join date", "date joined", "start date", "started", "member since", "joining date"}, Day: true},
	{Key: "program", Says: "Program", Also: []string{"style", "art", "programme", "discipline"}},
	{Key: "rung", Says: "Stands on", Also: []string{"belt", "rank", "grade", "current belt", "current rank", "current grade", "belt colour", "belt color", "level"}},
	{Key: "since", Says: "Since", Also: []string{
		"last grading", "last graded", "graded on", "grading date", "last grading date", "date of last grading",
		"last promotion", "promoted on", "belt date", "rank date", "belt since",
	}, Day: true},
}

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

// OpenStudents reads a table of students, and says what its columns seem to mean.
func OpenStudents(data []byte) (Reading, error) {
	s, err := OpenSheet(data, ErrCSV, MaxStudents)
	if err != nil {
		return Reading{}, err
	}
	return s.Match(StudentHeads), nil
}

// ReadStudents reads the rows of a table whose columns are known. Problems of a row stand with the row; an error is about the
// table as a whole.
func ReadStudents(r Reading, today civil.Date) ([]StudentRow, error) {
	switch twice := r.Twice(); {
	case twice != "":
		return nil, fmt.Errorf("%w: two columns are said to be “%s”; choose one", ErrCSV, twice)
	case !r.Has("name") && !r.Has("first_name") && !r.Has("last_name"):
		return nil, fmt.Errorf("%w: no column is the name; say which one is", ErrCSV)
	}
	var out []StudentRow
	for _, l := range r.lines() {
		out = append(out, readStudent(l, today))
	}
	return out, nil
}

// sumOf begins the row below a list in which a spreadsheet counts it.
var sumOf = regexp.MustCompile(`(?i)^(?:(?:grand |sub)?totals?|sum|count|average)\b(?: ?[:=\d]|$)`)

func readStudent(r line, today civil.Date) StudentRow {
	out := StudentRow{Row: r.Row}
	p := &out.Problems
	cell := r.cell
	date := func(column string) civil.Date { return p.Date(column, cell(column)) }
	out.Student = progress.Student{
		Name: check.Tidy(cell("name") + " " + cell("first_name") + " " + cell("last_name")), BirthDate: date("birth_date"), Guardian: check.Tidy(cell("guardian")), Contact: check.Tidy(cell("contact")),
		Stance: progress.Stance(check.Key(cell("stance"))), HeightCM: p.Whole("height_cm", cell("height_cm"), 40, 260, 0),
		WeightKG: p.Whole("weight_kg", cell("weight_kg"), 8, 250, 0), WaistCM: p.Whole("waist_cm", cell("waist_cm"), 30, 200, 0),
		ShoulderMM: p.Tenths("shoulder_cm", cell("shoulder_cm")), LegMM: p.Tenths("leg_cm", cell("leg_cm")), FootMM: p.Tenths("foot_cm", cell("foot_cm")),
		BeltSize: check.Tidy(cell("belt_size")), UniformSize: check.Tidy(cell("uniform_size")), JoinedOn: date("joined_on"),
	}
	out.Student.Limits = p.Text("limits", cell("limits"))
	out.Program, out.Rung, out.Since = check.Tidy(cell("program")), check.Tidy(cell("rung")), date("since")
	r.checkWidth(p)
	if sumOf.MatchString(out.Student.Name) && len(r.Cells) < 3 {
		p.Add("name", "%q looks like a sum below the list, not like a name; where it is one, add the student by hand", out.Student.Name)
	}
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
	out := newCSV(w)
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
