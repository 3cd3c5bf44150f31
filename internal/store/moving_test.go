package store

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/golden"
)

func now() time.Time { return time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC) }

// rows counts the rows of every table.
func (x *school) rows() map[string]int {
	out := map[string]int{}
	names, err := list(bg, x.r, func(n *string) []any { return []any{n} }, `SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
	require.NoError(x.t, err)
	for _, n := range names {
		var c int
		require.NoError(x.t, x.r.QueryRow(`SELECT count(*) FROM "`+n+`"`).Scan(&c))
		out[n] = c
	}
	return out
}

func TestBackupAndRestore(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 3)
	before := x.rows()
	dir := t.TempDir()
	backup := filepath.Join(dir, "backup.db")
	require.NoError(t, x.Backup(bg, backup))
	assert.ErrorContains(t, x.Backup(bg, backup), "is there already")
	c, err := CheckFile(bg, backup)
	require.NoError(t, err)
	assert.Equal(t, before["mark_event"], c.Marks)
	assert.Equal(t, 3, c.Students)
	require.NoError(t, BackupFile(bg, x.path, filepath.Join(dir, "by path.db")))
	assert.Error(t, BackupFile(bg, filepath.Join(dir, "none.db"), filepath.Join(dir, "x.db")))

	// After the backup the school goes on; restoring brings back what was, and keeps what it replaces.
	_, err = x.Reopen(bg, me, table.Examiner.ID, table.GroupID, "one more look")
	require.NoError(t, err)
	_, _, err = Restore(bg, backup, x.path, now())
	assert.ErrorContains(t, err, "is in use", "while somebody serves it nothing is replaced")
	require.NoError(t, x.Close())
	kept, _, err := Restore(bg, backup, x.path, now())
	require.NoError(t, err)
	require.FileExists(t, kept)
	back := &school{Store: open(t, x.path), t: t}
	assert.Equal(t, before, back.rows())
	_, rows, err := back.Review(bg, id)
	require.NoError(t, err)
	assert.False(t, rows[0].Sealed())
	replaced := &school{Store: open(t, kept), t: t}
	assert.Equal(t, before["signature_event"]+1, replaced.rows()["signature_event"])
}

func TestDamagedBackupsReplaceNothing(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	x.markAll(table, 3)
	dir := t.TempDir()
	good := filepath.Join(dir, "good.db")
	require.NoError(t, x.Backup(bg, good))
	require.NoError(t, x.Close())
	whole, err := os.ReadFile(good)
	require.NoError(t, err)
	was, err := os.ReadFile(x.path)
	require.NoError(t, err)
	bitten := bytes.Clone(whole)
	for i := len(bitten) / 3; i < len(bitten)/3+9000; i++ {
		bitten[i] ^= 0xA5
	}
	foreign := filepath.Join(dir, "foreign.db")
	other := open(t, filepath.Join(dir, "other.db"))
	_, err = other.w.Exec(`DROP TABLE school`)
	require.NoError(t, err)
	require.NoError(t, other.Close())
	wrong, err := os.ReadFile(filepath.Join(dir, "other.db"))
	require.NoError(t, err)
	for name, data := range map[string][]byte{"empty": {}, "text": []byte("this is no database at all, whatever it is called"), "half": whole[:len(whole)/2], "bitten": bitten, "another program's": wrong} {
		require.NoError(t, os.WriteFile(foreign, data, 0o600))
		_, _, err := Restore(bg, foreign, x.path, now())
		assert.ErrorIs(t, err, ErrUnsound, name)
		still, err := os.ReadFile(x.path)
		require.NoError(t, err)
		assert.True(t, bytes.Equal(was, still), "%s: nothing was replaced", name)
	}
	_, _, err = Restore(bg, filepath.Join(dir, "none.db"), x.path, now())
	assert.ErrorIs(t, err, os.ErrNotExist)
	left, err := filepath.Glob(filepath.Join(filepath.Dir(x.path), "*.part*"))
	require.NoError(t, err)
	assert.Empty(t, left)
}

func TestBackupsWhereNothingCanBeWritten(t *testing.T) {
	x := newSchool(t)
	err := x.Backup(bg, "/proc/backup.db")
	require.Error(t, err)
	assert.True(t, ReadOnly(err), err)
	_, err = x.KeepBackup(bg, me, filepath.Join(x.path, "below a file"))
	assert.Error(t, err)

	small := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=100k", "tmpfs", small).CombinedOutput(); err != nil {
		t.Skipf("a small disk cannot be made here: %s", out)
	}
	defer exec.Command("umount", small).Run()
	err = x.Backup(bg, filepath.Join(small, "backup.db"))
	require.ErrorIs(t, err, ErrNoRoom)
	assert.True(t, Full(err))
	left, err := os.ReadDir(small)
	require.NoError(t, err)
	assert.Empty(t, left, "nothing is left of it")
	assert.Len(t, x.people, 3)
}

// A full disk: what was acknowledged is there, what could not be stored is said, and it goes on once there is room.
func TestAFullDiskLosesNothing(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	first := table.mark(0, 0, 3)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{first}))
	var pages int
	require.NoError(t, x.w.QueryRow(`PRAGMA page_count`).Scan(&pages))
	_, err := x.w.Exec(fmt.Sprintf(`PRAGMA max_page_count = %d`, pages))
	require.NoError(t, err)
	stored := map[string]bool{}
	var full error
	for k := range 400 {
		s, err := x.SaveStudent(bg, me, student(fmt.Sprintf("Student %d %s", k, strings.Repeat("x", 60))))
		if err != nil {
			full = err
			break
		}
		stored[s.ID] = true
	}
	require.Error(t, full)
	assert.True(t, Full(full), full)
	refusedMarks, err := x.TakeMarks(bg, me, []gradingday.Mark{table.mark(1, 0, 3), table.mark(1, 1, 2), table.mark(2, 0, 2), table.mark(2, 1, 2), table.mark(2, 2, 2)})
	if err != nil {
		assert.True(t, Full(err), err)
	}
	assert.Empty(t, refusedMarks, "a full disk refuses no mark: the device keeps it and asks again")
	_, err = x.w.Exec(`PRAGMA max_page_count = 1000000`)
	require.NoError(t, err)
	for s := range stored {
		_, err := x.Student(bg, s)
		assert.NoError(t, err)
	}
	var value int
	require.NoError(t, x.r.QueryRow(`SELECT value / 1000000000 FROM mark WHERE id = ?`, first.ID).Scan(&value))
	assert.Equal(t, 3, value)
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{table.mark(0, 1, 2)}))
	require.NoError(t, x.sound(bg))
}

func TestWhichBackupsAreKept(t *testing.T) {
	var all []Kept
	start := time.Date(2024, 1, 1, 3, 0, 0, 0, time.UTC)
	for day := range 1000 { // one a day, oldest first
		at := start.AddDate(0, 0, day)
		all = append([]Kept{{Name: at.Format(keptTime), At: at}}, all...)
		gone := map[string]bool{}
		for _, k := range Surplus(all, at) {
			gone[k.Name] = true
		}
		next := all[:0:0]
		for _, k := range all {
			if !gone[k.Name] {
				next = append(next, k)
			}
		}
		all = next
	}
	days, months := 0, map[string]bool{}
	newest := all[0].At
	for _, k := range all {
		if newest.Sub(k.At) < 7*24*time.Hour {
			days++
		}
		months[k.At.Format("2006-01")] = true
	}
	assert.Equal(t, 7, days)
	assert.Len(t, months, KeptMonths)
	assert.LessOrEqual(t, len(all), KeptDays+KeptWeeks+KeptMonths)
	assert.Equal(t, time.Date(2026, 9, 26, 3, 0, 0, 0, time.UTC), newest)
}

func TestAutomaticBackups(t *testing.T) {
	x := newSchool(t)
	dir := filepath.Join(t.TempDir(), "backups")
	assert.True(t, x.BackupDue(dir))
	k, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	assert.False(t, x.BackupDue(dir))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "holiday.jpg"), []byte("x"), 0o600))
	all, err := Backups(dir, x.Zone())
	require.NoError(t, err)
	require.Equal(t, []Kept{k}, all, "other files are no backups")
	_, err = CheckFile(bg, filepath.Join(dir, k.Name))
	assert.NoError(t, err)
}

// TestBackupsGoOnWhateverTheClockDid: a day that is far ahead, once, neither keeps today's backup from being made nor takes its
// place; what was made then stays beside it, no more than the rule allows.
func TestBackupsGoOnWhateverTheClockDid(t *testing.T) {
	x := newSchool(t)
	dir := filepath.Join(t.TempDir(), "backups")
	require.NoError(t, os.MkdirAll(dir, 0o700))
	for day := range 400 { // for more than a year the machine believed that it was 2030
		at := time.Date(2030, 1, 1, 3, 0, 0, 0, x.Zone()).AddDate(0, 0, day)
		require.NoError(t, os.WriteFile(filepath.Join(dir, keptPrefix+at.Format(keptTime)+keptEnd), nil, 0o600))
	}
	require.True(t, x.BackupDue(dir), "none is of today")
	k, err := x.KeepBackup(bg, me, dir)
	require.NoError(t, err)
	assert.False(t, x.BackupDue(dir))
	assert.FileExists(t, filepath.Join(dir, k.Name), "the one just made is not crowded out")
	all, err := Backups(dir, x.Zone())
	require.NoError(t, err)
	assert.Equal(t, k, all[len(all)-1])
	assert.LessOrEqual(t, len(all), 1+KeptDays+KeptWeeks+KeptMonths)
	assert.Equal(t, "2031-02-04", all[0].At.Format("2006-01-02"), "the newest of those stays")
	file := filepath.Join(t.TempDir(), "a file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	assert.True(t, x.BackupDue(file), "what cannot be read is tried, so that it is told")
	_, err = x.KeepBackup(bg, me, file)
	assert.Error(t, err)
}

func TestASchoolMovesHouse(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	x.markAll(table, 2)
	_, err := x.SavePerson(bg, me, Person{Name: "Rosa", SignIn: "rosa", Role: Owner}, "four words of nonsense", true)
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, x.ExportSchool(bg, &file))
	assert.False(t, strings.Contains(file.String(), "argon2id"), "no password leaves")
	path := filepath.Join(t.TempDir(), "moved.db")
	require.NoError(t, ImportSchool(bg, path, bytes.NewReader(file.Bytes()), now))
	moved := &school{Store: open(t, path), t: t}
	was, is := x.rows(), moved.rows()
	for _, p := range private {
		delete(was, p)
		delete(is, p)
	}
	assert.Equal(t, was, is)
	var again bytes.Buffer
	require.NoError(t, moved.ExportSchool(bg, &again))
	_, a, _ := strings.Cut(file.String(), "\n")
	_, b, _ := strings.Cut(again.String(), "\n")
	assert.True(t, a == b, "out, in and out again is the same, but for the instant in the head")
	_, rows, err := moved.Review(bg, id)
	require.NoError(t, err)
	_, old, err := x.Review(bg, id)
	require.NoError(t, err)
	assert.Equal(t, old, rows)
	_, err = moved.w.Exec(`UPDATE mark_event SET note = 'x'`)
	assert.ErrorContains(t, err, "append-only")
	assert.ErrorContains(t, ImportSchool(bg, path, bytes.NewReader(file.Bytes()), now), "is there already")
}

func TestBadSchoolFilesLeaveNothing(t *testing.T) {
	golden.Alone(t)
	x := newSchool(t)
	var file bytes.Buffer
	require.NoError(t, x.ExportSchool(bg, &file))
	lines := strings.SplitAfter(file.String(), "\n")
	at := 0
	for i, l := range lines {
		if strings.HasPrefix(l, `{"table":"student"`) {
			at = i
		}
	}
	with := func(i int, line string) string {
		out := append([]string{}, lines...)
		out[i] = line + "\n"
		return strings.Join(out, "")
	}
	for name, c := range map[string]struct {
		text string
		line int
		says string
	}{
		"empty":           {"", 1, "empty"},
		"something else":  {"name,birth\nAda,2016", 1, "not a school's file"},
		"another version": {with(0, strings.Replace(strings.TrimSpace(lines[0]), `"version":1`, `"version":9`, 1)), 1, "of version 9"},
		"another schema":  {with(0, strings.Replace(strings.TrimSpace(lines[0]), `"schema":`, `"schema":9`, 1)), 1, "schema 9"},
		"no such table":   {with(at, `{"table":"sqlite_schema","columns":["name"]}`), at + 1, "no table"},
		"no such column":  {with(at, `{"table":"student","columns":["id","shoe"]}`), at + 1, `no column "shoe"`},
		"a row too short": {with(at+1, `["x"]`), at + 2, "1 values for"},
		"no row":          {with(at+1, `hello`), at + 2, "no row"},
		"a list in a row": {with(at+1, strings.Replace(strings.TrimSpace(lines[at+1]), `"Ada Rill"`, `["Ada"]`, 1)), at + 2, "neither text nor number"},
		"a rule broken":   {with(at+1, strings.Replace(strings.TrimSpace(lines[at+1]), `"orthodox"`, `"sideways"`, 1)), at + 2, "is refused"},
		"rows too early":  {lines[0] + lines[at+1], 2, "before the line that names its table"},
	} {
		path := filepath.Join(t.TempDir(), "moved.db")
		err := ImportSchool(bg, path, strings.NewReader(c.text), now)
		var bad *FileError
		require.ErrorAs(t, err, &bad, name)
		assert.Equal(t, c.line, bad.Line, name)
		assert.Contains(t, bad.Problem, c.says, name)
		left, err := os.ReadDir(filepath.Dir(path))
		require.NoError(t, err)
		assert.Empty(t, left, "%s leaves nothing", name)
	}
	// A row that speaks of another that is not there.
	path := filepath.Join(t.TempDir(), "moved.db")
	text := strings.Join(append(append([]string{}, lines[:at+1]...), lines[at+2:]...), "")
	assert.ErrorContains(t, ImportSchool(bg, path, strings.NewReader(text), now), "does not hold together")
	assert.NoFileExists(t, path)
}

func TestAPersonIsErased(t *testing.T) {
	x := newSchool(t)
	s, err := x.Student(bg, x.people[0])
	require.NoError(t, err)
	s.Guardian, s.Contact, s.Limits, s.BirthDate = "Una Rill", "una@family.example", "left knee", today.AddMonths(-120)
	_, err = x.SaveStudent(bg, me, s)
	require.NoError(t, err)
	kick, err := x.Requirement(bg, x.lines[0])
	require.NoError(t, err)
	_, err = x.AddAdaptation(bg, me, s.ID, x.program, curriculum.Adaptation{TechniqueID: kick.TechniqueID, Does: curriculum.Change, Quantity: &curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}, Reason: "the left knee, says Una Rill"})
	require.NoError(t, err)
	id, table := x.begun()
	m := table.mark(0, 0, 1)
	m.Note, m.ItemID = "Ada stood on the wrong leg", table.Items[0].IDs[m.CandidateID]
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	_, err = x.WriteMessages(bg, me, []Message{{Kind: "bring", GradingID: id, CandidateID: table.Candidates[0].ID, StudentID: s.ID, ToName: "Una Rill", Subject: "Ada Rill", Body: "Dear Una Rill"}})
	require.NoError(t, err)

	var file bytes.Buffer
	require.NoError(t, x.ExportPerson(bg, s.ID, &file))
	var record PersonRecord
	require.NoError(t, json.Unmarshal(file.Bytes(), &record))
	assert.Equal(t, "Ada Rill", record.Student)
	for _, table := range []string{"student", "enrolment", "rank_entry", "adaptation", "candidate", "mark_event", "message", "test_line"} {
		assert.NotEmpty(t, record.Tables[table], table)
	}

	_, err = x.ErasePerson(bg, me, s.ID, "Ada")
	problem(t, err, "confirm", "is not the name")
	_, err = x.ErasePerson(bg, me, s.ID, "ada rill")
	refused(t, err, "withdraw them or announce it first")
	_, err = x.WithdrawCandidate(bg, me, table.Candidates[0].ID, "went home", true)
	require.NoError(t, err)
	before := x.rows()
	_, err = x.ErasePerson(bg, me, s.ID, "ada rill")
	require.NoError(t, err)
	after := x.rows()
	after["audit"]--
	after["erasure"]--
	assert.Equal(t, before, after, "what was counted stays counted")
	// Nothing in the whole file says who it was.
	var all bytes.Buffer
	require.NoError(t, x.ExportSchool(bg, &all))
	for _, word := range []string{"Ada ", "Rill", "Una", "left knee", "family.example", "wrong leg"} {
		assert.False(t, strings.Contains(all.String(), word), "%q is still there", word)
	}
	_, err = x.Student(bg, s.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.w.Exec(`UPDATE mark_event SET note = 'x'`)
	assert.ErrorContains(t, err, "append-only", "the guards stand again")
	_, err = x.w.Exec(`UPDATE audit SET action = 'x'`)
	assert.ErrorContains(t, err, "append-only")
	_, err = x.ErasePerson(bg, me, s.ID, "x")
	assert.True(t, errors.Is(err, ErrNotFound))
}

func student(name string) progress.Student {
	return progress.Student{Name: name, Stance: progress.Orthodox}
}

// TestLawOfKeptBackups: whenever backups were made, the newest stays, so does one of every kept day, week and month, and never more
// than the rule allows; taking away what is surplus twice takes away nothing more.
func TestLawOfKeptBackups(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var all []Kept
		at := now()
		for i := range rapid.IntRange(0, 120).Draw(t, "backups") {
			at = at.Add(-time.Duration(rapid.IntRange(1, 24*40).Draw(t, "hours")) * time.Hour)
			all = append(all, Kept{Name: fmt.Sprint(i), At: at})
		}
		gone := map[string]bool{}
		for _, k := range Surplus(all, now()) {
			gone[k.Name] = true
		}
		var left []Kept
		days, keptDays := map[string]bool{}, map[string]bool{}
		for _, k := range all {
			day := k.At.Format("2006-01-02")
			if len(days) < KeptDays {
				days[day] = true
			}
			if !gone[k.Name] {
				left = append(left, k)
				keptDays[day] = true
			}
		}
		require.LessOrEqual(t, len(left), KeptDays+KeptWeeks+KeptMonths)
		for d := range days {
			require.True(t, keptDays[d], "the newest days with one keep one: %s", d)
		}
		if len(all) > 0 {
			require.False(t, gone[all[0].Name], "the newest stays")
		}
		require.Empty(t, Surplus(left, now()))
	})
}

// FuzzSchoolRows: no line of a school's file makes reading fall over, and what is read has as many values as there are columns.
func FuzzSchoolRows(f *testing.F) {
	for _, seed := range []string{`["a",1,null]`, `[]`, `[{"base64":"aGk="}]`, `[1e400]`, `[true]`, `{"a":1}`, `["\ud800"]`, `[9223372036854775808]`, "[\"\x00\"]", `[[1]]`, `["a"`} {
		f.Add(seed, 3)
	}
	f.Fuzz(func(t *testing.T, line string, columns int) {
		values, err := readRow([]byte(line), columns)
		if err == nil && len(values) != columns {
			t.Fatalf("%d values for %d columns", len(values), columns)
		}
		for _, v := range values {
			switch v.(type) {
			case nil, string, int64, float64, []byte:
			default:
				if err == nil {
					t.Fatalf("%T reaches the records", v)
				}
			}
		}
	})
}

// TestAnOldSchoolsFileIsRead moves a school out of a program as it was long ago, and one from before kinds of
// deeds were kept, and into this one.
func TestAnOldSchoolsFileIsRead(t *testing.T) {
	golden.Alone(t)
	old := filepath.Join(t.TempDir(), "first.db")
	text, err := os.ReadFile("testdata/first_climb.db")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(old, text, 0o600))
	before, err := openAt(bg, filepath.Join(t.TempDir(), "before.db"), now, 14, "")
	require.NoError(t, err)
	_, err = before.w.Exec(`INSERT INTO audit (id, at, actor, action, changes) VALUES ('deed0001', '2026-11-01T10:00:00Z', 'Mira Quell', 'Added Ada Rill', '[]')`)
	require.NoError(t, err)
	first, err := openAt(bg, old, now, 1, "")
	require.NoError(t, err)
	for schema, s := range map[int]*Store{1: first, 14: before} {
		var file strings.Builder
		require.NoError(t, s.ExportSchool(bg, &file))
		require.Contains(t, file.String(), fmt.Sprintf(`"schema":%d`, schema))
		count := func(s *Store) (n int) {
			require.NoError(t, s.r.QueryRow(`SELECT (SELECT count(*) FROM student) + (SELECT count(*) FROM mark_event) + (SELECT count(*) FROM audit)`).Scan(&n))
			return n
		}
		rows := count(s)
		require.NoError(t, s.Close())
		path := filepath.Join(t.TempDir(), "moved.db")
		require.NoError(t, ImportSchool(bg, path, strings.NewReader(file.String()), now))
		moved := open(t, path)
		assert.Equal(t, rows, count(moved))
		if schema != 14 {
			continue
		}
		deeds, _, err := moved.Deeds(bg, TrailQuery{Match: saying("ada rill"), Limit: 5})
		require.NoError(t, err)
		require.Len(t, deeds, 1)
		assert.Equal(t, "Mira Quell: Added Ada Rill", deeds[0].Actor+": "+saidOf(deeds[0]))
	}
}

// FuzzSchool: a school's file is read whole or not at all, and what is read is sound.
func FuzzSchool(f *testing.F) {
	x := newSchool(f)
	var whole strings.Builder
	if err := x.ExportSchool(bg, &whole); err != nil {
		f.Fatal(err)
	}
	f.Add(whole.String())
	f.Add(strings.ReplaceAll(whole.String(), `"student"`, `"person"`))
	f.Add(whole.String()[:len(whole.String())/2])
	f.Add(`{"format":"velvetladder/school","version":1,"schema":1}` + "\n" + `{"table":"school","columns":["id"]}` + "\n[1]\n")
	f.Fuzz(func(t *testing.T, in string) {
		path := filepath.Join(t.TempDir(), "school.db")
		if err := ImportSchool(bg, path, strings.NewReader(in), now); err != nil {
			left, _ := filepath.Glob(path + "*")
			if len(left) > 0 {
				t.Fatalf("%v left %v", err, left)
			}
			return
		}
		if _, err := CheckFile(bg, path); err != nil {
			t.Fatal(err)
		}
	})
}
