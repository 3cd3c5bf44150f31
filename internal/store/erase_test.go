package store

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
)

// canaries are words of which each says who somebody was; none may be left in any byte of the file.
var canaries = []string{"Quillon", "Ashdown", "Oldmeadow", "Gretel", "canary"}

// leavesTraces is a student of whom much is on record, wherever something can be, and what their family did.
func leavesTraces(t *testing.T) (x *school, who string) {
	x = newSchool(t)
	s, err := x.Student(bg, x.people[0])
	require.NoError(t, err)
	for _, name := range []string{"Quillon Oldmeadow", "Quillon Ashdown & Son"} { // & stands otherwise in JSON
		s.Name = name
		s.Guardian, s.Contact, s.Limits = "Gretel Ashdown", "canary@family.example", "canary knee"
		_, err = x.SaveStudent(bg, By{Actor: "tester", Request: NewID(), Digest: "canary digest"}, s)
		require.NoError(t, err)
	}
	enrolment := x.standing(0).EnrolmentID
	kick, err := x.Requirement(bg, x.lines[0])
	require.NoError(t, err)
	// What others' records say of them.
	other, err := x.Student(bg, x.people[1])
	require.NoError(t, err)
	other.Limits = "never with QUILLON  ashdown & son again"
	_, err = x.SaveStudent(bg, me, other)
	require.NoError(t, err)
	_, err = x.GiveWord(bg, me, x.standing(1).EnrolmentID, "Quillon Oldmeadow")
	require.NoError(t, err)
	// The family's own deeds.
	_, _, err = x.MakeLink(bg, me, s.ID, "Gretel", 30)
	require.NoError(t, err)
	family := By{Actor: "Gretel (family)"}
	_, err = x.Tick(bg, family, enrolment, kick.TechniqueID, "performer")
	require.NoError(t, err)
	_, err = x.SendClip(bg, family, enrolment, kick.TechniqueID, "performer", "https://clips.example/canary")
	require.NoError(t, err)
	_, err = x.GiveExample(bg, family, enrolment, "the canary fed the geese")
	require.NoError(t, err)
	_, err = x.Choose(bg, family, enrolment, kick.TechniqueID, []string{"canary kick"})
	require.NoError(t, err)
	// A visitor before they were a student; a test with a line of their own, a remark, a bout; a letter and its answer.
	refused, err := x.RecordAttendance(bg, me, []gradingday.Attendance{{ID: NewID(), ClassID: x.evening(nil).ID, On: today, Visitor: "quillon oldmeadow", State: gradingday.Present, Mode: timetable.Hall}})
	require.NoError(t, err)
	require.Empty(t, refused)
	_, err = x.AddAdaptation(bg, me, s.ID, x.program, curriculum.Adaptation{TechniqueID: kick.TechniqueID, Does: curriculum.Change, Quantity: &curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 2}, Reason: "canary knee"})
	require.NoError(t, err)
	id, table := x.begun()
	at := slices.IndexFunc(table.Candidates, func(c Candidate) bool { return c.StudentID == s.ID })
	theirs := table.Candidates[at].ID
	m := table.mark(at, 0, 1)
	m.Note, m.ItemID = "canary leg", table.Items[0].IDs[m.CandidateID]
	n := table.mark((at+1)%2, 0, 2)
	n.Note = "held by Quillon Ashdown & Son"
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m, n}))
	_, err = x.WriteMessages(bg, me, []Message{{Kind: "bring", GradingID: id, CandidateID: theirs, StudentID: s.ID, ToName: "Gretel Ashdown", Subject: "Quillon", Body: "canary"}})
	require.NoError(t, err)
	letters, err := x.Outbox(bg, true)
	require.NoError(t, err)
	_, err = x.SettleMessage(bg, me, letters[0].ID, "given", "Gretel took the canary")
	require.NoError(t, err)
	_, err = x.w.Exec(`INSERT INTO bout (id, panel_id, a, partner, rounds, seconds, rule, actor, at) SELECT 'bout0000000000000001', id, ?, 'Gretel Ashdown', 1, 60, '{}', 'tester', '2026-11-24T10:00:00Z' FROM panel LIMIT 1`, theirs)
	require.NoError(t, err)
	_, err = x.w.Exec(`INSERT INTO bout_event (id, bout_id, kind, side, round, points, text, actor, at) VALUES ('boutevent00000000001', 'bout0000000000000001', 'stopped', 'a', 1, 0, 'canary lip', 'tester', '2026-11-24T10:01:00Z')`)
	require.NoError(t, err)
	_, err = x.w.Exec(`INSERT INTO audit (id, at, actor, action, changes) VALUES ('deed0001', '2026-11-01T10:00:00Z', 'Mira Quell', 'Added Quillon Oldmeadow', '[]')`)
	require.NoError(t, err)
	_, err = x.WithdrawCandidate(bg, me, theirs, "canary home", true)
	require.NoError(t, err)
	_, err = x.CloseGrading(bg, me, id, true)
	require.NoError(t, err)
	require.NoError(t, x.cutLog(bg))
	return x, s.ID
}

// traces are the canaries that stand in the bytes of a database and what is beside it.
func traces(t *testing.T, path string) (found []string) {
	files, err := filepath.Glob(path + "*")
	require.NoError(t, err)
	for _, f := range files {
		data, err := os.ReadFile(f)
		require.NoError(t, err)
		for _, c := range canaries {
			if n := bytes.Count(bytes.ToLower(data), bytes.ToLower([]byte(c))); n > 0 {
				found = append(found, c+" in "+filepath.Base(f))
			}
		}
	}
	return found
}

// TestNothingIsLeftInAnyByte: not in the rows after erasing, and after rebuilding not in the file nor in its log, with somebody reading
// meanwhile; until then the erasure says so.
func TestNothingIsLeftInAnyByte(t *testing.T) {
	x, who := leavesTraces(t)
	require.Len(t, traces(t, x.path), len(canaries), "all of them are there: the test can fail")
	var export bytes.Buffer
	require.NoError(t, x.ExportPerson(bg, who, &export))
	for _, said := range []string{"Gretel took the canary", "canary lip", "canary home", "Gretel (family)", "canary leg", `"word_given"`, `"link_made"`, "canary digest"} {
		if said != "canary digest" && said != `"word_given"` {
			assert.Contains(t, export.String(), said, "one's own export holds all that is on record")
		} else {
			assert.NotContains(t, export.String(), said)
		}
	}
	reader, err := x.r.BeginTx(bg, nil)
	require.NoError(t, err)
	var n int
	require.NoError(t, reader.QueryRow(`SELECT count(*) FROM mark_event`).Scan(&n))
	before := x.rows()
	_, err = x.ErasePerson(bg, me, who, "quillon ashdown & son")
	require.NoError(t, err)
	var all bytes.Buffer
	require.NoError(t, x.ExportSchool(bg, &all))
	for _, c := range canaries {
		assert.NotContains(t, all.String(), c, "the records say nothing of them at once")
	}
	assert.Contains(t, all.String(), "never with Former student")
	after := x.rows()
	for _, table := range []string{"mark_event", "attendance_event", "rank_entry", "practice_event", "bout", "message", "candidate"} {
		assert.Equal(t, before[table], after[table], "what was counted stays counted: %s", table)
	}
	_, err = x.w.Exec(`UPDATE bout_event SET text = 'x'`)
	assert.ErrorContains(t, err, "append-only", "every guard stands again")
	left := func() []Erasure {
		out, err := x.Erasures(bg)
		require.NoError(t, err)
		return out
	}
	require.Len(t, left(), 1)
	assert.True(t, left()[0].Rebuilt.IsZero())
	require.NotEmpty(t, traces(t, x.path), "rows alone are not the file")

	gone, cancel := context.WithCancel(bg)
	time.AfterFunc(time.Millisecond, cancel) // in the midst of it
	assert.ErrorIs(t, x.Rebuild(gone), context.Canceled, "an end of the time is said as such wherever it comes")
	soon, cancel := context.WithTimeout(bg, 300*time.Millisecond)
	defer cancel()
	assert.ErrorIs(t, x.Rebuild(soon), context.DeadlineExceeded, "somebody reads what was before")
	assert.True(t, left()[0].Rebuilt.IsZero())
	require.NoError(t, reader.Rollback())
	require.NoError(t, x.Rebuild(bg))
	assert.False(t, left()[0].Rebuilt.IsZero())
	assert.Equal(t, "tester", left()[0].Actor)
	assert.Empty(t, traces(t, x.path))
	require.NoError(t, x.Rebuild(bg), "there is nothing more to do")
	_, err = x.Student(bg, x.people[1])
	require.NoError(t, err, "all others are still there")
}

// TestARebuildNeedsRoom: on a disk with less room than the file takes it says so, leaves everything as it was, and is done once there is
// room.
func TestARebuildNeedsRoom(t *testing.T) {
	x, who := leavesTraces(t)
	_, err := x.ErasePerson(bg, me, who, "Quillon Ashdown & Son")
	require.NoError(t, err)
	require.NoError(t, x.cutLog(bg))
	data, err := os.ReadFile(x.path)
	require.NoError(t, err)
	small := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", fmt.Sprintf("size=%d", len(data)*3/2), "tmpfs", small).CombinedOutput(); err != nil {
		t.Skipf("a small disk cannot be made here: %s", out)
	}
	t.Cleanup(func() { exec.Command("umount", small).Run() })
	path := filepath.Join(small, "school.db")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	tight, err := Open(bg, path, clock)
	require.NoError(t, err)
	defer tight.Close()
	err = tight.Rebuild(bg)
	require.Error(t, err)
	assert.True(t, Full(err), err)
	all, err := tight.Erasures(bg)
	require.NoError(t, err)
	assert.True(t, all[0].Rebuilt.IsZero(), "it still says so")
	out, err := exec.Command("mount", "-o", fmt.Sprintf("remount,size=%d", len(data)*5), small).CombinedOutput()
	require.NoError(t, err, string(out))
	require.NoError(t, tight.Rebuild(bg))
	assert.Empty(t, traces(t, path))
}

// TestARebuildWaits: while a grading is under way; and then it is done.
func TestARebuildWaits(t *testing.T) {
	x, who := leavesTraces(t)
	_, err := x.ErasePerson(bg, me, who, "Quillon Ashdown & Son")
	require.NoError(t, err)
	g, err := x.Gradings(bg, x.program)
	require.NoError(t, err)
	_, err = x.CloseGrading(bg, me, g[0].ID, false)
	require.NoError(t, err)
	assert.ErrorIs(t, x.Rebuild(bg), ErrTableOpen)
	_, err = x.CloseGrading(bg, me, g[0].ID, true)
	require.NoError(t, err)
	require.NoError(t, x.Rebuild(bg))
	assert.Empty(t, traces(t, x.path))
}

// TestAMention: a full name is found in whatever letters and spaces, in JSON too, and not within longer words.
func TestAMention(t *testing.T) {
	for text, want := range map[string]string{
		"sister of JOSÉ MARÍA  PEÑA; josé maría peña's": "sister of X; X's", "Joséfina, and José": "Joséfina, and José", "anjosé maría peña, José María Peñarol": "anjosé maría peña, José María Peñarol",
		"José María Peña": "X", "José María\nPeña José María Peña": "X X", "": "",
	} {
		assert.Equal(t, want, mentionOf("José María Peña").replaced(text, "X"), text)
	}
	assert.Equal(t, `{"a":"X","b":"x X"}`, mentionOf("Q & A").replaced(`{"a":"Q \u0026 A","b":"x q & a"}`, "X"))
	assert.Equal(t, "X.", mentionOf("A. (B) C*").replaced("a. (b) c*.", "X"))
}

// TestANamesakeStays: who has the same name keeps it, whatever is erased; and the erasure says that texts were not searched.
func TestANamesakeStays(t *testing.T) {
	x := newSchool(t)
	a, err := x.Student(bg, x.people[0])
	require.NoError(t, err)
	d, err := x.SaveStudent(bg, me, student(a.Name))
	require.NoError(t, err)
	_, err = x.ErasePerson(bg, me, a.ID, a.Name)
	require.NoError(t, err)
	still, err := x.Student(bg, d.ID)
	require.NoError(t, err)
	assert.Equal(t, a.Name, still.Name)
	all, err := x.Erasures(bg)
	require.NoError(t, err)
	assert.True(t, all[0].Namesake)
	still.Limits = "none"
	_, err = x.SaveStudent(bg, me, still)
	require.NoError(t, err)
}
