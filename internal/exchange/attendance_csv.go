package exchange

import (
	"errors"
	"fmt"
	"io"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/timetable"
)

// AttendanceColumns are the columns of the attendance CSV file, in the order they are written.
// name, date and class must be there; they may stand in any order.
var AttendanceColumns = []string{"name", "birth_date", "date", "class", "start", "state", "mode", "make_up"}

// MaxAttendance is the most rows one file may have.
const MaxAttendance = 100_000

// AttendanceRow is one row of an attendance file: a student who came to a class. birth_date
// tells students of one name apart, start classes of one name. state is present or late,
// mode hall, live or recorded; both may be empty.
type AttendanceRow struct {
	Row      int
	Name     string
	Born     civil.Date
	On       civil.Date
	Class    string
	Start    int // minutes after midnight; -1: not given
	State    string
	Mode     timetable.Mode
	MakeUp   bool
	Problems check.Problems
}

// ErrAttendance is wrapped by errors about the file as a whole.
var ErrAttendance = errors.New("this is not an attendance file")

// AttendanceHeads are what the columns of an attendance file can mean.
var AttendanceHeads = []Column{
	StudentHeads[0], StudentHeads[1], StudentHeads[2], StudentHeads[3],
	{Key: "date", Says: "Day", Also: []string{"attended on", "class date", "attendance date", "when", "attended"}, Day: true},
	{Key: "class", Says: "Class", Also: []string{"class name", "session", "lesson", "course"}},
	{Key: "start", Says: "Begins at", Also: []string{"time", "start time", "class time", "at"}, Clock: true},
	{Key: "state", Says: "Present or late", Also: []string{"status", "attendance", "presence"}},
	{Key: "mode", Says: "Hall, live or recorded", Also: []string{"online", "taking part"}},
	{Key: "make_up", Says: "Makes up for a class", Also: []string{"makeup", "catch up"}},
}

// OpenAttendance reads a table of attendance, and says what its columns seem to mean.
func OpenAttendance(data []byte) (Reading, error) {
	s, err := OpenSheet(data, ErrAttendance, MaxAttendance)
	if err != nil {
		return Reading{}, err
	}
	return s.Match(AttendanceHeads), nil
}

// ReadAttendance reads the rows of a table whose columns are known, as ReadStudents does.
func ReadAttendance(from Reading) ([]AttendanceRow, error) {
	switch twice := from.Twice(); {
	case twice != "":
		return nil, fmt.Errorf("%w: two columns are said to be “%s”; choose one", ErrAttendance, twice)
	case !from.Has("name") && !from.Has("first_name") && !from.Has("last_name"):
		return nil, fmt.Errorf("%w: no column is the name; say which one is", ErrAttendance)
	case !from.Has("date"):
		return nil, fmt.Errorf("%w: no column is the day; say which one is", ErrAttendance)
	}
	rows := from.lines()
	out := make([]AttendanceRow, 0, len(rows))
	for _, r := range rows {
		x := AttendanceRow{Row: r.Row, Start: -1}
		p := &x.Problems
		x.Name, x.Class = check.Tidy(r.cell("name")+" "+r.cell("first_name")+" "+r.cell("last_name")), check.Tidy(r.cell("class"))
		x.Born, x.On = p.Date("birth_date", r.cell("birth_date")), p.Date("date", r.cell("date"))
		if x.Name == "" {
			p.Add("name", "is empty; name the student who came")
		}
		if x.Class == "" {
			p.Add("class", "is empty; name the class as on the timetable")
		}
		if x.On.IsZero() {
			p.Add("date", "is empty; write the day as YYYY-MM-DD")
		}
		if start := r.cell("start"); start != "" {
			var err error
			if x.Start, err = timetable.ParseClock(start); err != nil {
				p.Add("start", "%s", err)
			}
		}
		if x.State = check.Key(r.cell("state")); x.State == "" {
			x.State = "present"
		}
		check.OneOf(p, "state", x.State, []string{"present", "late"})
		if x.Mode = timetable.Mode(check.Key(r.cell("mode"))); x.Mode == "" {
			x.Mode = timetable.Hall
		}
		check.OneOf(p, "mode", x.Mode, timetable.Modes)
		switch check.Key(r.cell("make_up")) {
		case "", "no", "0", "false":
		case "yes", "1", "true":
			x.MakeUp = true
		default:
			p.Add("make_up", "%q is not yes or no", r.cell("make_up"))
		}
		r.checkWidth(p)
		out = append(out, x)
	}
	return out, nil
}

// WriteAttendance writes the file that ReadAttendance reads.
func WriteAttendance(w io.Writer, rows []AttendanceRow) error {
	out := newCSV(w)
	if err := out.Write(AttendanceColumns); err != nil {
		return err
	}
	for _, r := range rows {
		up := ""
		if r.MakeUp {
			up = "yes"
		}
		if err := out.Write([]string{safeCell(r.Name), r.Born.String(), r.On.String(), safeCell(r.Class), timetable.Clock(r.Start), r.State, string(r.Mode), up}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}
