package exchange

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"velvetladder/internal/core/binder"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// RequirementColumns are the columns of the requirements' CSV file, in the order they are
// written. Only technique must be there; they may stand in any order. id says which
// requirement a row stands for; without it the one of the same rung, technique, role and
// setting is meant.
var RequirementColumns = []string{"id", "rung", "section", "technique", "kind", "amount", "role", "setting", "weight", "must_pass", "bonus", "carry", "more", "note"}

// MaxRequirementRows is the most rows one file may have.
const MaxRequirementRows = 10_000

// ErrRequirementsCSV is wrapped by errors about the file as a whole.
var ErrRequirementsCSV = errors.New("this is not a requirements' file")

// RequirementRow is one row of a requirements' file.
type RequirementRow struct {
	Row      int
	Rung     string
	Line     binder.MergeLine
	Change   string         // "added", "changed", "as it is"
	Problems check.Problems // each names its column, the value and what would be right
}

// RequirementHeads are what the columns of a requirements' file can mean.
var RequirementHeads = []Column{
	{Key: "technique", Says: "Technique", Also: []string{"requirement", "item", "name", "skill", "what", "exercise"}},
	{Key: "id", Says: "Its id in the program"},
	{Key: "rung", Says: "Rung", Also: []string{"belt", "rank", "grade", "for", "level"}},
	{Key: "section", Says: "Section", Also: []string{"category", "part", "heading", "group", "area", "topic", "subject", "discipline"}},
	{Key: "kind", Says: "Kind", Also: []string{"type"}},
	{Key: "amount", Says: "How much", Also: []string{"quantity", "qty", "reps", "repetitions", "number", "count", "how many", "how often", "times", "time", "duration", "how long"}},
	{Key: "role", Says: "Role", Also: []string{"as"}},
	{Key: "setting", Says: "Setting", Also: []string{"on", "where", "with", "equipment"}},
	{Key: "weight", Says: "Weight", Also: []string{"points"}},
	{Key: "must_pass", Says: "Must pass", Also: []string{"must", "mandatory", "compulsory", "required", "essential"}},
	{Key: "bonus", Says: "Bonus", Also: []string{"optional", "extra"}},
	{Key: "carry", Says: "Asked again", Also: []string{"repeat", "carried", "carry over"}},
	{Key: "more", Says: "And besides", Also: []string{"also", "conditions"}},
	{Key: "note", Says: "Remark", Also: []string{"notes", "comment", "comments", "remarks", "description"}, Many: "; "},
}

// OpenRequirements reads a table of requirements, and says what its columns seem to mean.
func OpenRequirements(data []byte) (Reading, error) {
	s, err := OpenSheet(data, ErrRequirementsCSV, MaxRequirementRows)
	if err != nil {
		return Reading{}, err
	}
	return s.Match(RequirementHeads), nil
}

// ReadRequirements reads the rows of a table, whose columns are known, against a curriculum. Problems of a row stand with the
// row; an error is about the table as a whole.
func ReadRequirements(from Reading, b *curriculum.Book) ([]RequirementRow, error) {
	switch twice := from.Twice(); {
	case twice != "":
		return nil, fmt.Errorf("%w: two columns are said to be “%s”; choose one", ErrRequirementsCSV, twice)
	case !from.Has("technique"):
		return nil, fmt.Errorf("%w: no column is the technique; say which one is", ErrRequirementsCSV)
	}
	taken := map[string]bool{}
	var out []RequirementRow
	for _, r := range from.lines() {
		for _, x := range readRequirement(r, b) {
			x.match(r, b, taken)
			out = append(out, x)
		}
	}
	return out, nil
}

// readRequirement reads a row; one that names several, Elbows 1-3, stands for each of them.
func readRequirement(r line, b *curriculum.Book) []RequirementRow {
	out := RequirementRow{Row: r.Row, Rung: check.Tidy(r.cell("rung"))}
	p, l := &out.Problems, &out.Line.PageLine
	l.Number, l.Name = r.Row, check.Tidy(r.cell("technique"))
	p.Name("technique", l.Name)
	if rung := b.RungNamed(out.Rung); rung != nil {
		l.RungID = rung.ID
	} else {
		var names []string
		for _, g := range b.Rungs {
			names = append(names, g.Name)
		}
		p.Add("rung", "%q is no rung of this ladder; there are %s", out.Rung, strings.Join(names, ", "))
	}
	section := check.Tidy(r.cell("section"))
	if l.Section = binder.For(b).SectionCalled(section); section != "" && l.Section == "" {
		var names []string
		for _, s := range b.Sections {
			names = append(names, s.Name)
		}
		p.Add("section", "%q is no section of this program; there are %s", section, strings.Join(names, ", "))
	}
	l.Role, l.Weight = curriculum.Roles[0], p.Whole("weight", r.cell("weight"), 1, 100, 1)
	kind := curriculum.KindNamed(strings.ReplaceAll(r.cell("kind"), "_", " "))
	if said := check.Tidy(r.cell("kind")); said != "" && kind == "" {
		check.OneOf(p, "kind", curriculum.Kind(said), curriculum.Kinds)
	}
	if t := b.Named(l.Name); t != nil && kind != "" && kind != t.Kind {
		p.Add("kind", "%q, but %s is on record as %s; change that on its page", string(kind), l.Name, t.Kind)
	} else if t == nil {
		l.Said = kind
	}
	if l.Name == "" || p.Of("section") != "" {
		return []RequirementRow{out.withCells(r, b, "")}
	}
	var rows []RequirementRow
	for _, read := range binder.For(b).ReadCell(*l) {
		x := RequirementRow{Row: out.Row, Rung: out.Rung, Problems: slices.Clone(out.Problems)}
		x.Line.PageLine = read
		x.Line.Number, x.Line.RungID, x.Line.Weight = l.Number, l.RungID, l.Weight
		if read.Problem != "" {
			x.Problems.Add("technique", "%s", read.Problem)
		} else if len(read.Doubts) > 0 && kind == "" {
			x.Problems.Add("technique", "%s; or say its kind in a column of its own", read.Doubts[0].Reason)
		}
		rows = append(rows, x.withCells(r, b, read.Quantity.Measure))
	}
	return rows
}

// withCells takes in the cells beside the technique; measure is how its own cell says the amount, "" it does not.
func (x RequirementRow) withCells(r line, b *curriculum.Book, measure curriculum.Measure) RequirementRow {
	p, l := &x.Problems, &x.Line.PageLine
	if amount := check.Tidy(r.cell("amount")); amount != "" {
		q, err := curriculum.ParseQuantity(amount)
		if err != nil {
			p.Add("amount", "%s", err)
		}
		l.Quantity = q
	} else if measure == "" {
		l.Quantity = curriculum.DefaultAmount(l.Kind)
	}
	if role := check.Key(r.cell("role")); role != "" {
		l.Role = curriculum.Role(role)
		check.OneOf(p, "role", l.Role, curriculum.Roles)
	}
	if setting := check.Key(r.cell("setting")); setting != "" && setting != string(curriculum.Settings[0]) {
		l.Setting = curriculum.Setting(setting)
		check.OneOf(p, "setting", l.Setting, curriculum.Settings)
	}
	l.MustPass, l.Bonus = yes(p, "must_pass", r.cell("must_pass")), yes(p, "bonus", r.cell("bonus"))
	parts := map[string][]string{"carry": {r.cell("carry")}, "more": binder.SplitParts(r.cell("more"))} // a rung's name may hold a comma
	for _, column := range []string{"carry", "more"} {
		for _, part := range parts[column] {
			if part = check.Tidy(part); part == "" || column == "carry" && check.Key(part) == "once" {
				continue
			}
			if problem := binder.For(b).ReadPart(l, part); problem != "" {
				p.Add(column, "%s", problem)
			}
		}
	}
	if note := check.Tidy(r.cell("note")); note != "" {
		if said := *l; check.Tidy(r.cell("id")) == "" && binder.For(b).ReadPart(&said, note) == "" { // on pads
			*l = said
		} else {
			l.Note = strings.TrimPrefix(l.Note+", "+note, ", ")
		}
	}
	for _, x := range l.Requirement.Check() {
		p.Add(x.Field, "%s", x.Text)
	}
	r.checkWidth(p)
	return x
}

// match finds the requirement a row stands for, each at most once, and says what changes.
func (x *RequirementRow) match(r line, b *curriculum.Book, taken map[string]bool) {
	x.Change = "added"
	id := check.Tidy(r.cell("id"))
	at := slices.IndexFunc(b.Requirements, func(y curriculum.Requirement) bool {
		if id != "" {
			return y.ID == id
		}
		l := x.Line
		return !taken[y.ID] && y.RungID == l.RungID && y.TechniqueID == l.TechniqueID && y.Role == l.Role && y.Setting == l.Setting
	})
	if at < 0 {
		if id != "" {
			x.Problems.Add("id", "%q is no requirement on record; leave it empty to add a line", id)
		}
		return
	}
	y := b.Requirements[at]
	if taken[y.ID] {
		x.Problems.Add("id", "%q stands in two rows", y.ID)
		return
	}
	taken[y.ID] = true
	x.Line.Was, x.Change = y.ID, "changed"
	if x.Line.New {
		x.Problems.Add("technique", "%q is new, and this row stands for a line of another technique; leave its id empty", x.Line.Name)
		return
	}
	if slices.Equal(rowOf(b, y), rowOf(b, x.Line.Requirement, y.ID)) {
		x.Change = "as it is"
	}
}

func yes(p *check.Problems, column, value string) bool {
	switch check.Key(value) {
	case "", "no", "false", "0":
		return false
	case "yes", "true", "1":
		return true
	}
	p.Add(column, "%q is neither yes nor no", check.Tidy(value))
	return false
}

// WriteRequirements writes all requirements of a curriculum, up the ladder.
func WriteRequirements(w io.Writer, b *curriculum.Book) error {
	out := newCSV(w)
	out.UseCRLF = true
	if err := out.Write(RequirementColumns); err != nil {
		return err
	}
	for _, r := range b.Requirements {
		if err := out.Write(rowOf(b, r)); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// rowOf is a requirement as cells; as is the id to write instead of its own.
func rowOf(b *curriculum.Book, r curriculum.Requirement, as ...string) []string {
	if len(as) > 0 {
		r.ID = as[0]
	}
	t, s, g := b.Technique(r.TechniqueID), b.Section(r.SectionID), b.Rung(r.RungID)
	if t == nil || s == nil || g == nil {
		return []string{r.ID}
	}
	word := func(on bool) string {
		if on {
			return "yes"
		}
		return ""
	}
	carry, setting := "", string(r.Setting)
	var more []string
	plain := r
	plain.MustPass, plain.Bonus, plain.Weight, plain.Role, plain.Setting = false, false, 1, curriculum.Roles[0], ""
	for _, part := range binder.For(b).PartsOf(plain) {
		if part == "always" || strings.HasPrefix(part, "until ") || strings.HasPrefix(part, "from ") {
			carry = part
		} else {
			more = append(more, part)
		}
	}
	return []string{r.ID, safeCell(g.Name), safeCell(s.Name), safeCell(t.Name), string(t.Kind), r.Quantity.String(), string(r.Role), setting, strconv.Itoa(r.Weight), word(r.MustPass), word(r.Bonus), safeCell(carry), strings.Join(more, ", "), safeCell(r.Note)}
}
