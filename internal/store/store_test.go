package store

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

var (
	bg    = context.Background()
	me    = By{Actor: "tester"}
	today = civil.MustParse("2026-11-24")
)

func clock() time.Time { return time.Date(2026, 11, 24, 12, 0, 0, 0, time.UTC) }

func open(t testing.TB, path string) *Store {
	s, err := Open(bg, path, clock)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	return s
}

// school is a small school: three rungs, the second asking for three lines, students on the first.
type school struct {
	*Store
	t       testing.TB
	path    string // of the database file
	program string
	rungs   []string
	section curriculum.Section
	lines   []string
	people  []string
}

// template is the small school, made once and copied for each test.
var template struct {
	once sync.Once
	file []byte
	of   school
}

func newSchool(t testing.TB) *school {
	template.once.Do(func() {
		path := filepath.Join(t.TempDir(), "template.db")
		s, err := Open(bg, path, clock)
		require.NoError(t, err)
		template.of = *fill(t, s)
		require.NoError(t, s.Close()) // so that all of it stands in the one file
		template.file, err = os.ReadFile(path)
		require.NoError(t, err)
	})
	x := template.of
	x.path = filepath.Join(t.TempDir(), "school.db")
	require.NoError(t, os.WriteFile(x.path, template.file, 0o600))
	x.Store, x.t = open(t, x.path), t
	x.rungs, x.lines, x.people = slices.Clone(x.rungs), slices.Clone(x.lines), slices.Clone(x.people)
	return &x
}

func fill(t testing.TB, s *Store) *school {
	x := &school{Store: s, t: t}
	must := func(d Done, err error) string {
		require.NoError(t, err)
		return d.ID
	}
	x.program = must(s.SaveProgram(bg, me, curriculum.Program{Name: "Kenpo"}))
	for i, name := range []string{"White belt", "Yellow belt", "Green belt"} {
		x.rungs = append(x.rungs, must(s.SaveRung(bg, me, curriculum.Rung{ProgramID: x.program, Position: i, Kind: curriculum.Belt, Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})))
	}
	sections, err := s.Sections(bg, x.program)
	require.NoError(t, err)
	x.section = sections[2]
	for i, name := range []string{"Front kick", "Low block", "Bent Reed"} {
		x.lines = append(x.lines, must(s.SaveRequirement(bg, me, x.asks(x.rungs[1], i == 0), name, "strike")))
	}
	must(s.SaveRequirement(bg, me, x.asks(x.rungs[2], false), "Front kick", "kick"))
	for _, name := range []string{"Ada Rill", "Ben Sluice", "Cleo Weir"} {
		x.people = append(x.people, must(s.SaveStudent(bg, me, progress.Student{Name: name, Stance: progress.Orthodox})))
		must(s.Enrol(bg, me, x.people[len(x.people)-1], x.rungs[0], today.AddDays(-200)))
	}
	return x
}

// saidOf is a deed as the trail tells it, and saying looks for some.
func saidOf(d Deed) string {
	if d.Happened != nil {
		return words.Happened(*d.Happened)
	}
	return words.Deed(d.Told)
}

func saying(text string) func(Deed) bool {
	return func(d Deed) bool { return strings.Contains(strings.ToLower(saidOf(d)), text) }
}

// RecordMarks takes marks and gives the first that was refused.
func (s *Store) RecordMarks(ctx context.Context, by By, marks []gradingday.Mark) error {
	refused, err := s.TakeMarks(ctx, by, marks)
	if err == nil && len(refused) > 0 {
		err = refused[0].Why
	}
	return err
}

func (x *school) asks(rung string, mustPass bool) curriculum.Requirement {
	return curriculum.Requirement{RungID: rung, SectionID: x.section.ID, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, MustPass: mustPass, Weight: 1}
}

func (x *school) plan() gradingday.Grading {
	return gradingday.Grading{ProgramID: x.program, On: today, Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 3, RetestDays: 28,
		RungIDs: []string{x.rungs[1]}, Examiners: []gradingday.Examiner{{Name: "Cora Vane", Chief: true}}}
}

// begun is a grading with everybody entered and the tables open.
func (x *school) begun() (id string, t Table) {
	d, err := x.SaveGrading(bg, me, x.plan())
	require.NoError(x.t, err)
	var entrants []Entrant
	eligible, err := x.Eligible(bg, d.ID)
	require.NoError(x.t, err)
	for _, e := range eligible {
		entrants = append(entrants, Entrant{EnrolmentID: e.EnrolmentID})
	}
	_, err = x.AddCandidates(bg, me, d.ID, entrants)
	require.NoError(x.t, err)
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(x.t, err)
	return d.ID, x.table(d.ID)
}

func (x *school) table(grading string) Table {
	g, err := x.Grading(bg, grading)
	require.NoError(x.t, err)
	all, err := x.Candidates(bg, grading)
	require.NoError(x.t, err)
	table, err := x.ScoringTable(bg, g.Examiners[0].ID, all[0].GroupID)
	require.NoError(x.t, err)
	return table
}

func (t Table) mark(candidate, item, value int) gradingday.Mark {
	return gradingday.Mark{ID: NewID(), CandidateID: t.Candidates[candidate].ID, ExaminerID: t.Examiner.ID, ItemID: t.Items[item].ID, Kind: gradingday.MarkGiven, Value: scoring.Whole(value)}
}

// markAll gives everybody the value on every item and signs.
func (x *school) markAll(t Table, values ...int) {
	var marks []gradingday.Mark
	for c := range t.Candidates {
		for i := range t.Items {
			marks = append(marks, t.mark(c, i, values[c%len(values)]))
		}
	}
	require.NoError(x.t, x.RecordMarks(bg, me, marks))
	_, err := x.Sign(bg, me, t.Examiner.ID, t.GroupID, false)
	require.NoError(x.t, err)
}

func refused(t testing.TB, err error, words string) {
	t.Helper()
	var r *Refused
	if assert.ErrorAs(t, err, &r) {
		assert.Contains(t, r.Reason, words)
	}
}

func problem(t testing.TB, err error, field, words string) {
	t.Helper()
	var p check.Problems
	if assert.ErrorAs(t, err, &p) {
		assert.Contains(t, p.Of(field), words)
	}
}

func TestEveryCommitWaitsForTheDisk(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "a b%c?d.db"))
	for pragma, want := range map[string]string{"synchronous": "2", "journal_mode": "wal", "foreign_keys": "1"} {
		var got string
		require.NoError(t, s.w.QueryRow("PRAGMA "+pragma).Scan(&got))
		assert.Equal(t, want, got, pragma)
	}
	_, err := s.r.Exec(`UPDATE school SET name = 'x'`)
	assert.Error(t, err, "the reading handle must not write")
}

func TestForeignFilesAreRefusedUntouched(t *testing.T) {
	dir := t.TempDir()
	text := filepath.Join(dir, "notes.txt")
	require.NoError(t, os.WriteFile(text, []byte("not a database at all, just notes"), 0o600))
	_, err := Open(bg, text, clock)
	require.ErrorContains(t, err, "not a database")
	kept, _ := os.ReadFile(text)
	assert.Equal(t, "not a database at all, just notes", string(kept))

	other := filepath.Join(dir, "other.db")
	db, err := sql.Open("sqlite3", "file:"+other)
	require.NoError(t, err)
	_, err = db.Exec(`CREATE TABLE recipes (name TEXT)`)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = Open(bg, other, clock)
	require.ErrorContains(t, err, "belongs to another program")
	_, err = Open(bg, dir, clock)
	require.Error(t, err)
	_, err = Open(bg, filepath.Join(dir, "no", "such", "folder", "x.db"), clock)
	require.Error(t, err)
}

func TestANewerSchemaIsRefused(t *testing.T) {
	path := filepath.Join(t.TempDir(), "school.db")
	s, err := Open(bg, path, clock)
	require.NoError(t, err)
	_, err = s.w.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	_, err = Open(bg, path, clock)
	require.ErrorContains(t, err, "newer version")
}

func TestEventsRefuseUpdateAndDelete(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	require.NoError(t, x.RecordFault(bg, me, gradingday.Fault{ID: NewID(), CandidateID: table.Candidates[0].ID, ExaminerID: table.Examiner.ID, Kind: gradingday.FaultNote, Text: "late"}))
	bout, err := x.BeginBout(bg, me, gradingday.Bout{RingID: table.RingID, A: table.Candidates[0].ID, BName: "Nell", Rounds: 1, Seconds: 60})
	require.NoError(t, err)
	require.NoError(t, x.RecordBout(bg, me, table.RingID, gradingday.BoutEvent{ID: NewID(), BoutID: bout.ID, Kind: "point", Side: "a", Round: 1, Points: 1}))
	x.markAll(table, 3)
	_, err = x.Decide(bg, me, Decision{CandidateID: table.Candidates[0].ID, Outcome: scoring.OutcomeHonours, DecidedBy: "Cora Vane"})
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, []string{table.Candidates[0].ID})
	require.NoError(t, err)
	for _, name := range []string{"rank_entry", "mark_event", "fault_event", "signature_event", "decision_event", "announcement", "audit", "test_sheet", "test_item", "test_line", "bout", "bout_event"} {
		var n int
		require.NoError(t, x.r.QueryRow("SELECT count(*) FROM "+name).Scan(&n))
		require.Positive(t, n, name)
		for _, q := range []string{"DELETE FROM " + name, "UPDATE " + name + " SET rowid = rowid"} {
			_, err := x.w.Exec(q)
			assert.ErrorContains(t, err, "append-only", q)
		}
	}
}

func TestTheSameRequestIsAnsweredOnce(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "school.db"))
	by := By{Actor: "tester", Request: "request-1", Digest: "a"}
	first, err := s.SaveProgram(bg, by, curriculum.Program{Name: "Kenpo"})
	require.NoError(t, err)
	again, err := s.SaveProgram(bg, by, curriculum.Program{Name: "Kenpo"})
	require.NoError(t, err)
	assert.Equal(t, first, again)
	by.Digest = "b"
	_, err = s.SaveProgram(bg, by, curriculum.Program{Name: "Karate"})
	assert.ErrorIs(t, err, ErrConflict)
	all, err := s.Programs(bg)
	require.NoError(t, err)
	assert.Len(t, all, 1)
}

func TestNamesAreUniqueWhereTheyMustBe(t *testing.T) {
	x := newSchool(t)
	_, err := x.SaveRung(bg, me, curriculum.Rung{ProgramID: x.program, Kind: curriculum.Belt, Name: "  white   BELT ", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffffff"}})
	problem(t, err, "name", "already the name of another rung")
	_, err = x.SaveTechnique(bg, me, curriculum.Technique{ProgramID: x.program, Name: "front kick", Kind: "kick"})
	problem(t, err, "name", "already the name of another technique")
	_, err = x.SaveSection(bg, me, curriculum.Section{ProgramID: x.program, Name: x.section.Name})
	problem(t, err, "name", "already the name of another section")
	for name, words := range map[string]string{"": "is empty", strings.Repeat("x", 10_000): "has 10000 characters", "bell\x07": "U+0007", "turn\u202Eabout": "U+202E"} {
		_, err := x.SaveProgram(bg, me, curriculum.Program{Name: name})
		problem(t, err, "name", words)
	}
	for _, name := range []string{"كاراتيه", "Zo\u0308e\u0301", "唐手", "O'Neil <b>&\""} {
		d, err := x.SaveProgram(bg, me, curriculum.Program{Name: name})
		require.NoError(t, err)
		p, err := x.Program(bg, d.ID)
		require.NoError(t, err)
		assert.Equal(t, name, p.Name)
	}
}

func TestDeletingWhatIsReferredToIsRefused(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	_, err := x.DeleteRung(bg, me, x.rungs[0])
	refused(t, err, "3 students stand on it")
	_, err = x.DeleteRung(bg, me, x.rungs[1])
	refused(t, err, "1 grading tests for it")
	_, err = x.DeleteProgram(bg, me, x.program)
	refused(t, err, "students climb it")
	_, err = x.DeleteSection(bg, me, x.section.ID)
	refused(t, err, "requirements stand in it")
	kick, err := x.Requirement(bg, x.lines[0])
	require.NoError(t, err)
	_, err = x.DeleteTechnique(bg, me, kick.TechniqueID)
	refused(t, err, "requirements ask for it")
	_, err = x.DeleteStudent(bg, me, table.Candidates[0].StudentID)
	refused(t, err, "grading holds their marks")
	_, err = x.DeleteGrading(bg, me, id)
	refused(t, err, "it has begun")
	_, err = x.DeleteRung(bg, me, "no such id")
	assert.ErrorIs(t, err, ErrNotFound)
}

func TestUndo(t *testing.T) {
	x := newSchool(t)
	names := func() (out []string) {
		all, err := x.Ladder(bg, x.program)
		require.NoError(t, err)
		for _, r := range all {
			out = append(out, r.Name)
		}
		return out
	}
	before := names()
	moved, err := x.MoveRung(bg, me, x.rungs[2], -2)
	require.NoError(t, err)
	assert.Equal(t, []string{"Green belt", "White belt", "Yellow belt"}, names())
	_, err = x.Undo(bg, me, moved.Audit)
	require.NoError(t, err)
	assert.Equal(t, before, names())

	gone, err := x.DeleteRung(bg, me, x.rungs[2])
	require.NoError(t, err)
	back, err := x.Undo(bg, me, gone.Audit)
	require.NoError(t, err)
	assert.Equal(t, before, names())
	_, err = x.Undo(bg, me, back.Audit) // undoing the undoing deletes again
	require.NoError(t, err)
	assert.Len(t, names(), 2)

	made, err := x.SaveTechnique(bg, me, curriculum.Technique{ProgramID: x.program, Name: "Two Oars", Kind: "self_defence"})
	require.NoError(t, err)
	changed, err := x.SaveTechnique(bg, me, curriculum.Technique{ID: made.ID, Name: "Three Oars", Kind: "self_defence"})
	require.NoError(t, err)
	_, err = x.Undo(bg, me, made.Audit)
	refused(t, err, "changed again since")
	_, err = x.Undo(bg, me, changed.Audit)
	require.NoError(t, err)
	got, err := x.Technique(bg, made.ID)
	require.NoError(t, err)
	assert.Equal(t, "Two Oars", got.Name)
	_, err = x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), "two oars", "strike")
	require.NoError(t, err)
	_, err = x.Undo(bg, me, made.Audit)
	refused(t, err, "cannot be deleted: 1 requirement asks for it")

	enrolled, err := x.EndEnrolment(bg, me, x.standing(0).EnrolmentID)
	require.NoError(t, err)
	_, err = x.Undo(bg, me, enrolled.Audit)
	refused(t, err, "stays on record")
}

func (x *school) standing(person int) Standing {
	all, err := x.Standings(bg, x.people[person])
	require.NoError(x.t, err)
	return all[0]
}

func TestRequirementsFindOrMakeTheirTechnique(t *testing.T) {
	x := newSchool(t)
	_, err := x.SaveTechnique(bg, me, curriculum.Technique{ProgramID: x.program, Name: "Hammer fist", Kind: "strike", Aliases: []string{"Bottom fist"}})
	require.NoError(t, err)
	_, err = x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), "bottom  FIST", "strike")
	require.NoError(t, err)
	rows, err := x.Requirements(bg, x.rungs[1])
	require.NoError(t, err)
	assert.Equal(t, "Hammer fist", rows[3].Technique.Name)
	_, err = x.MoveRequirement(bg, me, rows[3].ID, -9)
	require.NoError(t, err)
	rows, err = x.Requirements(bg, x.rungs[1])
	require.NoError(t, err)
	assert.Equal(t, "Hammer fist", rows[0].Technique.Name)
	bad := x.asks(x.rungs[1], false)
	bad.SectionID = "another program's"
	_, err = x.SaveRequirement(bg, me, bad, "Front kick", "kick")
	problem(t, err, "section", "not one of this program's sections")
	bad.SectionID = ""
	kicked, err := x.SaveRequirement(bg, me, bad, "Hammer fist", "")
	require.NoError(t, err)
	found, err := x.Requirement(bg, kicked.ID)
	require.NoError(t, err)
	assert.Equal(t, "Strikes", found.Section, "a known technique goes where its kind stands")
	_, err = x.SaveRequirement(bg, me, bad, "Something new", "")
	problem(t, err, "section", "choose one")
	_, err = x.SaveRequirement(bg, me, x.asks("no rung", false), "Front kick", "kick")
	assert.ErrorIs(t, err, ErrNotFound)
}

func TestABegunSheetNeverChanges(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	_, err := x.DeleteRequirement(bg, me, x.lines[0])
	require.NoError(t, err)
	_, err = x.SaveRequirement(bg, me, x.asks(x.rungs[1], false), "Mill Wheel", "self_defence")
	require.NoError(t, err)
	_, err = x.SaveRung(bg, me, curriculum.Rung{ID: x.rungs[1], Kind: curriculum.Belt, Name: "Amber belt", Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: "#ffbb00"}})
	require.NoError(t, err)
	after := x.table(id)
	assert.Equal(t, table.Items, after.Items)
	assert.Equal(t, "Yellow belt", after.Candidates[0].ToWords)
	changed := x.plan()
	changed.ID = id
	_, err = x.SaveGrading(bg, me, changed)
	refused(t, err, "has begun")
}

func TestMarks(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	first := table.mark(0, 0, 2)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{first}))
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{first}), "the same again is the same answer")
	other := first
	other.Value = scoring.Whole(4)
	assert.ErrorIs(t, x.RecordMarks(bg, me, []gradingday.Mark{other}), ErrConflict)
	blind := table.mark(0, 0, 4)
	var stale *Stale
	require.ErrorAs(t, x.RecordMarks(bg, me, []gradingday.Mark{blind}), &stale, "a second device must not overwrite silently")
	assert.Equal(t, first, stale.Current)
	better := table.mark(0, 0, 3)
	better.Supersedes = first.ID
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{better}))
	var kept int
	require.NoError(t, x.r.QueryRow(`SELECT count(*) FROM mark_event`).Scan(&kept))
	assert.Equal(t, 2, kept, "the earlier value is kept")

	for words, spoil := range map[string]func(*gradingday.Mark){
		"the scale is 0 to 4":          func(m *gradingday.Mark) { m.Value = scoring.Whole(5) },
		"2.5 is not a mark":            func(m *gradingday.Mark) { m.Value = scoring.Whole(5) / 2 },
		"-1 is not a mark":             func(m *gradingday.Mark) { m.Value = scoring.Whole(-1) },
		"not on Ada Rill's sheet":      func(m *gradingday.Mark) { m.ItemID = "forged" },
		"does not mark this candidate": func(m *gradingday.Mark) { m.CandidateID = "forged" },
		"not on record":                func(m *gradingday.Mark) { m.Supersedes = first.ID; m.ItemID = table.Items[1].ID },
		"8 to 64":                      func(m *gradingday.Mark) { m.ID = "short" },
		"is not a choice":              func(m *gradingday.Mark) { m.Kind = "guess" },
		"control character":            func(m *gradingday.Mark) { m.Note = "a\u202eb" },
	} {
		m := table.mark(0, 1, 2)
		spoil(&m)
		assert.ErrorContains(t, x.RecordMarks(bg, me, []gradingday.Mark{m}), words)
	}
	assert.Len(t, x.table(table.Grading.ID).Marks, 1, "what is refused leaves nothing behind")

	_, err := x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
	refused(t, err, "8 marks still to be given, the first for Ada Rill: Low block")
	_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, true)
	require.NoError(t, err)
	refused(t, x.RecordMarks(bg, me, []gradingday.Mark{table.mark(0, 1, 2)}), "signed")
	_, err = x.Sign(bg, me, table.Examiner.ID, table.GroupID, true)
	refused(t, err, "signed already")
	_, err = x.Reopen(bg, me, table.Examiner.ID, table.GroupID, " ")
	problem(t, err, "reason", "stays on record")
	_, err = x.Reopen(bg, me, table.Examiner.ID, table.GroupID, "wrong line")
	require.NoError(t, err)
	again := x.table(table.Grading.ID)
	assert.Empty(t, again.SignatureID)
	assert.Len(t, again.Marks, 9)
}

func TestDecideAndAnnounce(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	ada, ben := table.Candidates[0], table.Candidates[1]
	_, err := x.Decide(bg, me, Decision{CandidateID: ada.ID, Outcome: scoring.OutcomePromote, DecidedBy: "Cora Vane"})
	refused(t, err, "Cora Vane has not signed")
	x.markAll(table, 2, 1, 4)
	_, err = x.Announce(bg, me, id, []string{ada.ID})
	refused(t, err, "has no decision yet")
	_, err = x.Decide(bg, me, Decision{CandidateID: ben.ID, Outcome: scoring.OutcomePromote, DecidedBy: "Cora Vane"})
	problem(t, err, "reason", "differs from what the marks propose")
	for _, d := range []Decision{{CandidateID: ada.ID, Outcome: scoring.OutcomePromote}, {CandidateID: ben.ID, Outcome: scoring.OutcomeRetest}} {
		d.DecidedBy = "Cora Vane"
		_, err = x.Decide(bg, me, d)
		require.NoError(t, err)
	}
	_, err = x.UndoDecision(bg, me, ada.ID)
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, []string{ada.ID, ben.ID})
	refused(t, err, "Ada Rill has no decision yet; nothing was announced")
	_, err = x.Decide(bg, me, Decision{CandidateID: ada.ID, Outcome: scoring.OutcomePromote, DecidedBy: "Cora Vane"})
	require.NoError(t, err)

	attempts, err := x.Attempts(bg, ben.EnrolmentID)
	require.NoError(t, err)
	assert.Empty(t, attempts[0].Outcome, "nothing is known before it is announced")
	assert.Equal(t, x.rungs[0], x.standing(0).Rung.ID)
	_, err = x.Announce(bg, me, id, []string{ada.ID, ben.ID})
	require.NoError(t, err)
	assert.Equal(t, x.rungs[1], x.standing(0).Rung.ID)
	assert.Equal(t, x.rungs[0], x.standing(1).Rung.ID)
	attempts, err = x.Attempts(bg, ben.EnrolmentID)
	require.NoError(t, err)
	assert.Equal(t, scoring.OutcomeRetest, attempts[0].Outcome)
	assert.Equal(t, today.AddDays(28), attempts[0].RetestFrom)
	soon := x.plan()
	soon.On = today.AddDays(14)
	next, err := x.SaveGrading(bg, me, soon)
	require.NoError(t, err)
	again, err := x.Eligible(bg, next.ID)
	require.NoError(t, err)
	require.Len(t, again, 2)
	assert.Equal(t, today.AddDays(28), again[0].Verdict.Earliest)
	assert.Equal(t, []progress.State{progress.NotMet, progress.Met}, []progress.State{again[0].Verdict.State, again[1].Verdict.State}, "Ben is told to wait, Cleo was never failed")
	_, err = x.AddCandidates(bg, me, next.ID, []Entrant{{EnrolmentID: again[0].EnrolmentID}})
	problem(t, err, "reason", "say why the test is allowed")
	_, err = x.AddCandidates(bg, me, next.ID, []Entrant{{EnrolmentID: again[0].EnrolmentID, Reason: "shown in class"}})
	require.NoError(t, err)
	history, err := x.History(bg, ada.EnrolmentID)
	require.NoError(t, err)
	require.Len(t, history, 2)
	assert.Equal(t, "Yellow belt", history[1].Words)
	_, err = x.Announce(bg, me, id, []string{ada.ID})
	refused(t, err, "Nothing is decided")
	_, err = x.Decide(bg, me, Decision{CandidateID: ada.ID, Outcome: scoring.OutcomeRetest, Reason: "late thought", DecidedBy: "Cora Vane"})
	refused(t, err, "has been announced")
	_, err = x.Reopen(bg, me, table.Examiner.ID, table.GroupID, "late thought")
	refused(t, err, "announced")
	_, err = x.WithdrawCandidate(bg, me, ada.ID, "went home", true)
	refused(t, err, "announced")
	x.followsHistory()
}

// followsHistory proves the rung kept with each enrolment equal to the newest rank entry.
func (x *school) followsHistory() {
	var wrong int
	require.NoError(x.t, x.r.QueryRow(`SELECT count(*) FROM enrolment e WHERE rung_id <> (SELECT rung_id FROM rank_entry r WHERE r.enrolment_id = e.id AND NOT EXISTS (SELECT 1 FROM rank_entry n WHERE n.supersedes = r.id))`).Scan(&wrong))
	assert.Zero(x.t, wrong)
}

func TestAnnouncementIsOneTransaction(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 3)
	var ids []string
	for _, c := range table.Candidates {
		_, err := x.Decide(bg, me, Decision{CandidateID: c.ID, Outcome: scoring.OutcomeHonours, DecidedBy: "Cora Vane"})
		require.NoError(t, err)
		ids = append(ids, c.ID)
	}
	_, err := x.CorrectRank(bg, me, table.Candidates[2].EnrolmentID, x.rungs[2], today, "came from another school")
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, ids)
	refused(t, err, "stands on Green belt now; nothing was announced")
	assert.Equal(t, x.rungs[0], x.standing(0).Rung.ID, "those before in the list are not promoted either")
	_, err = x.CorrectRank(bg, me, table.Candidates[2].EnrolmentID, x.rungs[0], today, "a mistake")
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, ids)
	require.NoError(t, err)
	for i := range x.people {
		assert.Equal(t, x.rungs[1], x.standing(i).Rung.ID)
	}
	x.followsHistory()
}

func TestAFaultThatEndsTheTest(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	f := gradingday.Fault{ID: NewID(), CandidateID: table.Candidates[0].ID, ExaminerID: table.Examiner.ID, Kind: gradingday.FaultEnding, Conduct: gradingday.UnsafeAct, Text: "struck after the stop word"}
	require.NoError(t, x.RecordFault(bg, me, f))
	require.NoError(t, x.RecordFault(bg, me, f), "the same again is the same answer")
	x.markAll(table, 3)
	outcome := func() scoring.Outcome {
		_, rows, err := x.Review(bg, id)
		require.NoError(t, err)
		return rows[0].Result.Outcome
	}
	assert.Equal(t, scoring.OutcomeHonours, outcome(), "until the chief confirms it, it ends nothing")
	confirm := gradingday.Fault{ID: NewID(), CandidateID: f.CandidateID, ExaminerID: f.ExaminerID, Kind: gradingday.FaultConfirmed, Text: f.Text, Supersedes: f.ID}
	require.NoError(t, x.RecordFault(bg, me, confirm))
	require.NoError(t, x.RecordFault(bg, me, confirm), "sent again by a device that was not answered")
	assert.Equal(t, scoring.OutcomeRetest, outcome())
	require.NoError(t, x.RecordFault(bg, me, gradingday.Fault{ID: NewID(), CandidateID: f.CandidateID, ExaminerID: f.ExaminerID, Kind: gradingday.FaultWithdrawn, Text: "mistaken", Supersedes: confirm.ID}))
	assert.Equal(t, scoring.OutcomeHonours, outcome())
	refused(t, x.RecordFault(bg, me, gradingday.Fault{ID: NewID(), CandidateID: f.CandidateID, ExaminerID: f.ExaminerID, Kind: gradingday.FaultNote, Text: "late"}), "signed")
}

func TestCandidatesFromElsewhereNeedAReason(t *testing.T) {
	x := newSchool(t)
	d, err := x.SaveGrading(bg, me, x.plan())
	require.NoError(t, err)
	_, err = x.CorrectRank(bg, me, x.standing(1).EnrolmentID, x.rungs[2], today, "came from another school")
	require.NoError(t, err)
	entrant := Entrant{EnrolmentID: x.standing(1).EnrolmentID, To: x.rungs[1]}
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{entrant})
	problem(t, err, "reason", "not the rung below")
	entrant.Reason = "asked to begin again"
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{entrant, {EnrolmentID: x.standing(0).EnrolmentID}})
	require.NoError(t, err)
	_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}})
	refused(t, err, "entered for this grading already")
	_, err = x.AddCandidates(bg, me, d.ID, nil)
	problem(t, err, "candidates", "nobody is chosen")
	later := x.plan()
	later.On = today.AddDays(1)
	soon, err := x.SaveGrading(bg, me, later)
	require.NoError(t, err)
	_, err = x.Begin(bg, me, soon.ID)
	refused(t, err, "Nobody is entered")
	_, err = x.AddCandidates(bg, me, soon.ID, []Entrant{{EnrolmentID: x.standing(0).EnrolmentID}})
	require.NoError(t, err)
	_, err = x.Begin(bg, me, soon.ID)
	refused(t, err, "Tables open on the day")
}

func TestGroupsAreSharedEvenly(t *testing.T) {
	x := newSchool(t)
	for i := range 5 {
		d, err := x.SaveStudent(bg, me, progress.Student{Name: fmt.Sprint("Student ", i), Stance: progress.Orthodox})
		require.NoError(t, err)
		_, err = x.Enrol(bg, me, d.ID, x.rungs[0], today)
		require.NoError(t, err)
	}
	id, _ := x.begun()
	all, err := x.Candidates(bg, id)
	require.NoError(t, err)
	sizes := map[string]int{}
	for _, c := range all {
		sizes[c.Group]++
	}
	assert.Equal(t, map[string]int{"Group 1": 3, "Group 2": 3, "Group 3": 2}, sizes)
	_, err = x.WithdrawCandidate(bg, me, all[0].ID, "went home", true)
	require.NoError(t, err)
	all, err = x.Candidates(bg, id)
	require.NoError(t, err)
	assert.Len(t, all, 7)
}

// TestOldDatabasesOpen opens a database of the first landed schema, kept in testdata.
func TestOldDatabasesOpen(t *testing.T) {
	const fixture = "testdata/first_climb.db"
	data, err := os.ReadFile(fixture)
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), "old.db")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	s := open(t, path)
	programs, err := s.Programs(bg)
	require.NoError(t, err)
	require.Len(t, programs, 1)
	ladder, err := s.Ladder(bg, programs[0].ID)
	require.NoError(t, err)
	var stand []int
	for _, r := range ladder {
		stand = append(stand, r.Students)
	}
	assert.Equal(t, []int{2, 1, 0}, stand)
	b, err := s.Book(bg, programs[0].ID)
	require.NoError(t, err)
	assert.True(t, b.Program.ReadAnew, "what its moves mean now is still to be looked at")
	assert.True(t, b.Program.SignedOffAnew, "and whose answer is another one")
	var passed int
	require.NoError(t, s.r.QueryRow(`SELECT count(*) FROM graded_line`).Scan(&passed))
	assert.Equal(t, 3, passed, "what was passed at gradings before")
	type kept struct{ id, signed, seen, presumed string }
	sums, err := list(bg, s.r, func(x *kept) []any { return []any{&x.id, &x.signed, &x.seen, &x.presumed} }, `SELECT enrolment_id, signed, seen, presumed FROM climb_summary`)
	require.NoError(t, err)
	require.Len(t, sums, 3)
	for _, x := range sums {
		tx, err := s.w.BeginTx(bg, nil)
		require.NoError(t, err)
		fresh, err := (&txn{Tx: tx, s: s}).summary(bg, x.id)
		require.NoError(t, err)
		require.NoError(t, tx.Rollback())
		assert.Equal(t, fresh, summary{attended: fresh.attended, weeks: fresh.weeks, stripes: fresh.stripes, last: fresh.last, signed: x.signed, seen: x.seen, presumed: x.presumed})
		assert.NotEmpty(t, x.presumed)
	}
	students, _, err := s.Students(bg, "", "", 10, 0)
	require.NoError(t, err)
	for _, x := range students {
		assert.Contains(t, progress.Stances, x.Stance, "stances are kept")
	}
	gradings, err := s.Gradings(bg, "")
	require.NoError(t, err)
	_, rows, err := s.Review(bg, gradings[0].ID)
	require.NoError(t, err)
	assert.Equal(t, scoring.OutcomeHonours, rows[0].Result.Outcome)
	assert.True(t, rows[0].Announced)
	assert.Equal(t, scoring.OutcomeRetest, rows[1].Result.Outcome)
}
