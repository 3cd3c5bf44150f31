package people

import (
	"bytes"
	"cmp"
	"context"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
)

// How many rows of each sort the page of a file lists; all that are wrong can be saved as a file.
const (
	goodShown   = 15
	wrongShown  = 100
	doubleShown = 100
)

// What is done about a row whose student may be on record already.
const (
	leaveOut = "leave"
	addToo   = "add"
	fillIn   = "fill" // complete the record with what it does not say
)

// incoming is a file of students with what was chosen about it.
type incoming struct {
	file    string
	reading exchange.Reading
	program string         // key of the program of rows that name none
	since   civil.Date     // on their rung, of rows that do not say it; zero: today
	all     string         // what is done about doubles that were not chosen singly
	choices map[int]string // row → what is done about it
}

// double is a row whose student may be on record, or in an earlier row.
type double struct {
	exchange.StudentRow
	Known  []progress.Known
	Choice string
	Own    bool // chosen singly
	Fill   bool // somebody on record can be completed
}

type importView struct {
	General  string
	Columns  []string
	Sheet    *parts.SheetView
	Programs []frame.Option
	Program  string
	Undated  int // rows that do not say since when their student stands on the rung
	Since    civil.Date
	Today    civil.Date

	Good    int
	Rows    []exchange.StudentRow // the first of them
	Wrong   int
	Bad     []exchange.StudentRow
	Doubles int
	Double  []double
	LeftOut int // doubles that are not read in
	Filled  int // records that are completed
	All     string
	Chooses []frame.Option

	Arrives *parts.Progress
	At      string
}

// ChoicesOf are what can be done about a double; nothing can be filled in where it is an earlier row of the file.
func (v importView) ChoicesOf(fill bool) (out []frame.Option) {
	for _, o := range v.Chooses {
		if fill || o.Value != fillIn {
			out = append(out, o)
		}
	}
	return out
}

func (ch *chapter) importShow(w http.ResponseWriter, r *http.Request) {
	ch.importPage(w, r, http.StatusOK, importView{})
}

func (ch *chapter) importPage(w http.ResponseWriter, r *http.Request, status int, v importView) {
	v.Columns = exchange.StudentColumns
	ch.Show(w, r, status, "", frame.Page{Screen: "import", Title: "Students from a spreadsheet", Nav: "students", Body: v})
}

const importAt = "/students/import"

// importSend takes a file, and leads to the page on which it is looked at.
func (ch *chapter) importSend(w http.ResponseWriter, r *http.Request) {
	ch.shelf.Send(ch.Parts, w, r, importAt, func(name string, data []byte, _ url.Values) (incoming, error) {
		reading, err := exchange.OpenStudents(data)
		if err != nil {
			return incoming{}, err
		}
		of, err := ch.Program(r)
		return incoming{file: name, reading: reading, program: check.Key(of.Name), all: leaveOut}, err
	}, func(err error) { ch.importPage(w, r, http.StatusUnprocessableEntity, importView{General: err.Error()}) })
}

func (ch *chapter) importLook(w http.ResponseWriter, r *http.Request) {
	if x := ch.shelf.Asked(ch.Parts, w, r, importAt); x != nil {
		ch.importLooked(w, r, http.StatusOK, x, "")
	}
}

// importLooked shows what a file would do.
func (ch *chapter) importLooked(w http.ResponseWriter, r *http.Request, status int, x *parts.Incoming[incoming], general string) {
	in := x.Look()
	v := importView{General: general, All: in.all, Program: in.program, At: importAt + "/" + x.ID}
	v.Chooses = []frame.Option{{Value: leaveOut, Label: "leave the row out"}, {Value: fillIn, Label: "fill in what the record does not say"}, {Value: addToo, Label: "add another student"}}
	p, running, err := x.Progress()
	if running {
		if p.To != "" {
			http.Redirect(w, r, p.To, http.StatusSeeOther)
			return
		}
		v.Arrives = &p
		ch.importPage(w, r, status, v)
		return
	}
	if err != nil && general == "" {
		_, _, v.General = frame.Explain(err)
	}
	v.Sheet = parts.ViewSheet(in.file, in.reading)
	programs, err := ch.records.Programs(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, p := range programs {
		v.Programs = append(v.Programs, frame.Option{Value: check.Key(p.Name), Label: p.Name})
	}
	sorted, err := ch.sortImport(r.Context(), in)
	if err != nil {
		if sorted == nil {
			ch.Fail(w, r, err)
			return
		}
		v.General, status = err.Error(), http.StatusUnprocessableEntity
	}
	v.Good, v.Wrong, v.Doubles, v.LeftOut, v.Filled = len(sorted.add), len(sorted.bad), len(sorted.doubles), sorted.left, sorted.filled
	v.Undated, v.Today = sorted.undated, ch.records.Today()
	if v.Since = in.since; v.Since.IsZero() {
		v.Since = v.Today
	}
	v.Rows, v.Bad, v.Double = sorted.good[:min(len(sorted.good), goodShown)], sorted.bad[:min(len(sorted.bad), wrongShown)], sorted.doubles[:min(len(sorted.doubles), doubleShown)]
	if v.Wrong > 0 && status == http.StatusOK {
		status = http.StatusUnprocessableEntity
	}
	ch.importPage(w, r, status, v)
}

// importSave notes what was chosen about a file, and on the second step puts its good rows on record.
func (ch *chapter) importSave(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, importAt)
	if x == nil {
		return
	}
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	in := chosen(x.Look(), v, ch.records.Today())
	x.Choose(in)
	here := importAt + "/" + x.ID
	if v.Get("add") == "" {
		http.Redirect(w, r, here, http.StatusSeeOther)
		return
	}
	sorted, err := ch.sortImport(r.Context(), in)
	if err != nil || len(sorted.add) == 0 {
		ch.importLooked(w, r, http.StatusUnprocessableEntity, x, "Nothing was added: no row can be.")
		return
	}
	ctx := context.WithoutCancel(r.Context()) // it goes on when the page is left
	to, err := x.Begin(len(sorted.add), here, func(step func(int)) (string, error) {
		done, err := ch.records.ImportStudents(ctx, by, sorted.add, step)
		return "/students?of=everybody&done=" + done.Audit, err
	})
	if err != nil {
		status, _, text := frame.Explain(err)
		ch.importLooked(w, r, status, x, "Nothing was added. "+text)
		return
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
}

// chosen is a file with what a form says about it; what the form does not ask stays.
func chosen(in incoming, v url.Values, today civil.Date) incoming {
	if v.Has("column_0") {
		means, headless, days := parts.ReadColumns(v, len(in.reading.Columns))
		in.reading = in.reading.As(exchange.StudentHeads, means, headless, exchange.DayOrder(days))
	}
	if v.Has("program") {
		in.program = v.Get("program")
	}
	if day, err := civil.Parse(v.Get("since")); err == nil && !today.Before(day) {
		in.since = day
	}
	if all := v.Get("all"); all == leaveOut || all == addToo || all == fillIn {
		in.all = all
	}
	choices := map[int]string{}
	for row, choice := range in.choices {
		choices[row] = choice
	}
	for field := range v {
		number, is := strings.CutPrefix(field, "row_")
		row, err := strconv.Atoi(number)
		if !is || err != nil {
			continue
		}
		if choice := v.Get(field); choice == leaveOut || choice == addToo || choice == fillIn {
			choices[row] = choice
		} else {
			delete(choices, row)
		}
	}
	in.choices = choices
	return in
}

// importArriving says how far a file is.
func (ch *chapter) importArriving(w http.ResponseWriter, r *http.Request) {
	ch.shelf.Arriving(ch.Parts, w, r, importAt)
}

// importRefused is a file of the rows that are not read in, with what is wrong with each.
func (ch *chapter) importRefused(w http.ResponseWriter, r *http.Request) {
	x := ch.shelf.Asked(ch.Parts, w, r, importAt)
	if x == nil {
		return
	}
	in := x.Look()
	sorted, err := ch.sortImport(r.Context(), in)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	why := map[int]string{}
	for _, row := range sorted.bad {
		why[row.Row] = row.Problems.Error()
	}
	var out bytes.Buffer
	if err := exchange.WriteRefused(&out, in.reading, why); err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "text/csv; charset=utf-8", "students not read in.csv", out.Bytes())
}

// sortedImport are the rows of a file: good ones, those with something to correct, and possible doubles.
type sortedImport struct {
	add          []store.NewStudent
	good, bad    []exchange.StudentRow
	doubles      []double
	left, filled int
	undated      int // good ones that do not say since when their student stands on the rung
}

// sortImport tells good rows from bad ones: rungs must be on a ladder, nobody stands in two rows, and who may be on record
// already is pointed at. An error beside a result is about the file as a whole.
func (ch *chapter) sortImport(ctx context.Context, in incoming) (*sortedImport, error) {
	programs, err := ch.records.Programs(ctx)
	if err != nil {
		return nil, err
	}
	ladders, err := ch.ladders(ctx, programs)
	if err != nil {
		return nil, err
	}
	listed, _, err := ch.records.Students(ctx, "", "", 1<<30, 0)
	if err != nil {
		return nil, err
	}
	on, seen := progress.NewOnRecord(nil), map[string]bool{}
	for _, s := range listed {
		if !seen[s.ID] {
			seen[s.ID] = true
			on.Add(progress.Student{ID: s.ID, Name: s.Name, BirthDate: s.BirthDate})
		}
	}
	out := &sortedImport{}
	rows, err := exchange.ReadStudents(in.reading, ch.records.Today())
	if err != nil {
		return out, err
	}
	placed := map[string]int{}
	for _, row := range rows {
		out.place(in, ladders, on, placed, row, ch.records.Today())
	}
	return out, nil
}

// place sorts one row.
func (out *sortedImport) place(in incoming, ladders *importLadders, on *progress.OnRecord, placed map[string]int, row exchange.StudentRow, today civil.Date) {
	if row.Program == "" {
		row.Program = ladders.named[in.program]
	}
	start, program := ladders.start(&row, cmp.Or(in.since, today))
	who := check.Key(row.Student.Name) + " " + row.Student.BirthDate.String()
	// A second row of one student is a second program, or a mistake.
	at, again := placed[who]
	if again && (start.RungID == "" || placed[who+" "+program] > 0) {
		row.Problems.Add("name", "%s stands in an earlier row with the same birth date and program", row.Student.Name)
	}
	if len(row.Problems) > 0 {
		out.bad = append(out.bad, row)
		return
	}
	added := store.NewStudent{Student: row.Student}
	if !again {
		known := on.MayBe(row.Student)
		on.Add(progress.Student{Name: row.Student.Name, BirthDate: row.Student.BirthDate})
		if len(known) > 0 {
			d := double{StudentRow: row, Known: known, Choice: in.all, Fill: known[0].ID != ""}
			if choice, own := in.choices[row.Row]; own {
				d.Choice, d.Own = choice, true
			}
			if d.Choice == fillIn && !d.Fill {
				d.Choice = leaveOut // of another row of the file there is no record yet
			}
			out.doubles = append(out.doubles, d)
			switch d.Choice {
			case leaveOut:
				out.left++
				placed[who] = -1
				return
			case fillIn:
				out.filled++
				added.Into = known[0].ID
			}
		}
		at = len(out.add)
		placed[who] = at
		out.add = append(out.add, added)
	} else if at < 0 { // of somebody who is left out
		out.left++
		return
	}
	out.good = append(out.good, row)
	if start.RungID != "" {
		if row.Since.IsZero() {
			out.undated++
		}
		placed[who+" "+program] = row.Row
		out.add[at].Starts = append(out.add[at].Starts, start)
	}
}

// importLadders are the rungs that rows of a file may name, by key.
type importLadders struct {
	rungs map[string]map[string]string // program → rung → id
	named map[string]string            // program → its name
	only  string                       // the program where there is one alone
}

func (ch *chapter) ladders(ctx context.Context, programs []curriculum.Program) (*importLadders, error) {
	x := &importLadders{rungs: map[string]map[string]string{}, named: map[string]string{}}
	for _, p := range programs {
		all, err := ch.records.Ladder(ctx, p.ID)
		if err != nil {
			return nil, err
		}
		x.only = check.Key(p.Name)
		x.rungs[x.only], x.named[x.only] = map[string]string{}, p.Name
		for _, g := range all { // “Yellow” is Yellow belt where nothing else is
			if _, taken := x.rungs[x.only][check.Key(g.Short())]; !taken {
				x.rungs[x.only][check.Key(g.Short())] = g.ID
			}
		}
		for _, g := range all {
			x.rungs[x.only][check.Key(g.Name)] = g.ID
		}
	}
	return x, nil
}

// start is where a row begins: on which rung of which program, and since when; what is wrong with it is
// added to its problems.
func (x *importLadders) start(row *exchange.StudentRow, today civil.Date) (start store.Start, program string) {
	start = store.Start{Since: row.Since}
	if start.Since.IsZero() {
		start.Since = today
	}
	if row.Rung != "" {
		if program = check.Key(row.Program); program == "" && len(x.named) == 1 {
			program = x.only
		}
		ladder, there := x.rungs[program]
		start.RungID = ladder[check.Key(row.Rung)]
		switch {
		case program == "":
			row.Problems.Add("program", "is empty; name the program whose rung %q this is", row.Rung)
		case !there:
			row.Problems.Add("program", "%q is not a program of this school", row.Program)
		case start.RungID == "":
			row.Problems.Add("rung", "%q is not on the ladder of %s", row.Rung, x.named[program])
		}
	}
	return start, program
}
