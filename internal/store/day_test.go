package store

import (
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
)

// twoRings gives a grading two rings of three examiners.
func twoRings(g *gradingday.Grading) {
	g.Rings = []gradingday.Ring{{}, {Name: "Wheel room"}}
	g.Examiners = nil
	for i, name := range []string{"Cora Vane", "Ed Weir", "Fay Rush", "Gil Marsh", "Hal Beck", "Ina Ford"} {
		g.Examiners = append(g.Examiners, gradingday.Examiner{Name: name, Chief: i%3 == 0, Ring: i / 3})
	}
}

// rings is a grading under way in two rings of three examiners, one candidate a group.
func (x *school) ringed(change func(*gradingday.Grading)) (id string, tables map[string][]Table) {
	g := x.plan()
	g.GroupSize = 1
	twoRings(&g)
	if change != nil {
		change(&g)
	}
	d, err := x.SaveGrading(bg, me, g)
	require.NoError(x.t, err)
	eligible, err := x.Eligible(bg, d.ID)
	require.NoError(x.t, err)
	for _, e := range eligible {
		_, err = x.AddCandidates(bg, me, d.ID, []Entrant{{EnrolmentID: e.EnrolmentID}})
		require.NoError(x.t, err)
	}
	_, err = x.Begin(bg, me, d.ID)
	require.NoError(x.t, err)
	return d.ID, x.tables(d.ID)
}

// tables are the tables of a grading by the student's name.
func (x *school) tables(id string) map[string][]Table {
	out := map[string][]Table{}
	full, err := x.Grading(bg, id)
	require.NoError(x.t, err)
	all, err := x.Candidates(bg, id)
	require.NoError(x.t, err)
	for _, c := range all {
		_, panel := full.PanelOf(c.RingID)
		for _, e := range panel {
			t, err := x.ScoringTable(bg, e.ID, c.GroupID)
			require.NoError(x.t, err)
			out[c.Name] = append(out[c.Name], t)
		}
	}
	return out
}

func TestRings(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	require.Len(t, tables, 3)
	seen := map[string]int{}
	for _, ts := range tables {
		require.Len(t, ts, 3)
		seen[ts[0].RingID]++
	}
	assert.Len(t, seen, 2, "the groups are shared over the rings")
	ada, ben := tables["Ada Rill"], tables["Ben Sluice"]
	require.NotEqual(t, ada[0].RingID, ben[0].RingID)
	m := ada[0].mark(0, 0, 3)
	m.ExaminerID = ben[0].Examiner.ID
	refused(t, x.RecordMarks(bg, me, []gradingday.Mark{m}), "does not mark this candidate")

	// A group goes to another ring until it is marked.
	_, err := x.MoveGroup(bg, me, ada[0].GroupID, ben[0].RingID)
	require.NoError(t, err)
	ada = x.tables(id)["Ada Rill"]
	assert.Equal(t, ben[0].RingID, ada[0].RingID)
	_, err = x.WithdrawCandidate(bg, me, x.tables(id)["Cleo Weir"][0].Candidates[0].ID, "went home", true)
	require.NoError(t, err)
	assert.Equal(t, ben[0].RingID, x.tables(id)["Ada Rill"][0].RingID, "it stays where it was put")
	x.markAll(ada[0], 3)
	_, err = x.MoveGroup(bg, me, ada[0].GroupID, tables["Ada Rill"][0].RingID)
	refused(t, err, "it stays there")

	// Each candidate is decided by the panel of their own ring.
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	for _, r := range rows {
		assert.Len(t, r.Test.Sheets, 3)
		assert.Len(t, r.Result.Tallies, 3)
	}
}

func TestManyDevicesShareTheDisk(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	var all sync.WaitGroup
	sent := 0
	for _, ts := range tables {
		for _, table := range ts {
			sent += len(table.Items) * 2
			all.Go(func() {
				for i := range table.Items {
					m := table.mark(0, i, 1)
					better := table.mark(0, i, 3)
					better.Supersedes = m.ID
					for range 2 { // as a device does that never heard the answer
						refused, err := x.TakeMarks(bg, me, []gradingday.Mark{m})
						assert.NoError(t, err)
						assert.Empty(t, refused)
					}
					refused, err := x.TakeMarks(bg, By{Actor: table.Examiner.Name}, []gradingday.Mark{better, m})
					assert.NoError(t, err)
					assert.Empty(t, refused)
				}
			})
		}
	}
	all.Wait()
	var n, doubled int
	require.NoError(t, x.r.QueryRow(`SELECT count(*), count(*) - count(DISTINCT id) FROM mark_event`).Scan(&n, &doubled))
	assert.Equal(t, sent, n)
	assert.Zero(t, doubled)
	require.NoError(t, x.r.QueryRow(`SELECT count(*) FROM mark_event m JOIN examiner e ON e.id = m.examiner_id WHERE m.supersedes IS NOT NULL AND m.actor = e.name`).Scan(&n))
	assert.Equal(t, sent/2, n, "each mark stands under the name of who sent it")

	// The good ones of a batch are kept, each bad one is refused by itself.
	table := tables["Ada Rill"][0]
	blind, other := table.mark(0, 0, 2), table.mark(0, 1, 2)
	other.ItemID = "forged"
	off := table.mark(0, 2, 9)
	off.Supersedes = x.tables(id)["Ada Rill"][0].Marks[2].ID
	why, err := x.TakeMarks(bg, me, []gradingday.Mark{blind, other, off})
	require.NoError(t, err)
	require.Len(t, why, 3)
	var stale *Stale
	assert.ErrorAs(t, why[0].Why, &stale)
	refused(t, why[1].Why, "is not on Ada Rill's sheet")
	problem(t, why[2].Why, "value", "the scale is 0 to 4")
}

func TestHead(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	stage := func(name string) gradingday.GroupState {
		h, err := x.Head(bg, id)
		require.NoError(t, err)
		for _, g := range h.Groups {
			if g.GroupID == tables[name][0].GroupID {
				return g
			}
		}
		t.Fatal("no such group")
		return gradingday.GroupState{}
	}
	assert.Equal(t, gradingday.Waiting, stage("Ada Rill").Stage)
	for _, table := range tables["Ada Rill"] {
		for i := range table.Items {
			m := table.mark(0, i, 3)
			if i == 1 {
				m.Kind = gradingday.MarkNotSeen
			}
			require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
			if i == 0 {
				h, err := x.Head(bg, id)
				require.NoError(t, err)
				assert.Equal(t, gradingday.UnderWay, stage("Ada Rill").Stage)
				for _, s := range h.Tables {
					if s.ExaminerID == table.Examiner.ID && s.GroupID == table.GroupID {
						assert.Equal(t, 1, s.AtLine)
						assert.Equal(t, "Front kick", s.At)
					}
				}
			}
		}
	}
	g := stage("Ada Rill")
	assert.Equal(t, gradingday.CallAgain, g.Stage)
	require.Len(t, g.Unseen, 1)
	assert.Equal(t, []any{2, "Low block", "Ada Rill"}, []any{g.Unseen[0].Line, g.Unseen[0].Item, g.Unseen[0].Name})
	assert.Empty(t, g.Half, "what nobody saw is not said twice")
	// One examiner sees it after all.
	again := x.tables(id)["Ada Rill"][2]
	m := again.mark(0, 1, 2)
	for _, old := range again.Marks {
		if old.ItemID == m.ItemID {
			m.Supersedes = old.ID
		}
	}
	require.NoError(t, x.RecordMarks(bg, me, []gradingday.Mark{m}))
	assert.Equal(t, gradingday.ToSign, stage("Ada Rill").Stage)
	half := stage("Ada Rill").Half
	require.Len(t, half, 2, "two of three did not see it")
	assert.Equal(t, gradingday.HalfSeen{Examiner: tables["Ada Rill"][0].Examiner.Name, Item: "Low block", Line: 2, NotSeen: 1, Of: 1}, half[0])
	for _, table := range tables["Ada Rill"] {
		_, err := x.Sign(bg, me, table.Examiner.ID, table.GroupID, false)
		require.NoError(t, err)
	}
	assert.Equal(t, gradingday.Ready, stage("Ada Rill").Stage)
	assert.Equal(t, gradingday.Waiting, stage("Ben Sluice").Stage)
}

func TestSeats(t *testing.T) {
	x := newSchool(t)
	d, err := x.SaveGrading(bg, me, x.plan())
	require.NoError(t, err)
	g, err := x.Grading(bg, d.ID)
	require.NoError(t, err)
	_, err = x.MakeCode(bg, me, g.Examiners[0].ID)
	refused(t, err, "not open yet")
	_, err = x.DeleteGrading(bg, me, d.ID)
	require.NoError(t, err)
	id, table := x.begun()
	examiner := table.Examiner.ID
	first, err := x.MakeCode(bg, me, examiner)
	require.NoError(t, err)
	second, err := x.MakeCode(bg, me, examiner)
	require.NoError(t, err)
	_, err = x.Join(bg, first.Code, "a tablet")
	assert.ErrorIs(t, err, ErrCode, "a newer code makes the older one void")
	var kept int
	require.NoError(t, x.r.QueryRow(`SELECT count(*) FROM join_code WHERE instr(digest, ?) > 0`, second.Code).Scan(&kept))
	assert.Zero(t, kept, "the code itself is kept nowhere")
	_, in, err := x.Invited(bg, strings.ToLower(second.Spelt()))
	require.NoError(t, err, "typed in small letters with the hyphen")
	assert.Equal(t, id, in.ID)
	seat, err := x.Join(bg, second.Spelt(), strings.Repeat("long ", 200))
	require.NoError(t, err)
	assert.Equal(t, examiner, seat.ExaminerID)
	for _, code := range []string{second.Code, "", "BBBBBBBBBB", "'; DROP TABLE seat; --"} {
		_, err = x.Join(bg, code, "")
		assert.ErrorIs(t, err, ErrCode, code)
	}
	held, err := x.Seated(bg, seat.ID)
	require.NoError(t, err)
	assert.True(t, held.Chief)
	_, err = x.EndSeat(bg, me, seat.ID)
	require.NoError(t, err)
	_, err = x.Seated(bg, seat.ID)
	assert.ErrorIs(t, err, ErrNotFound, "sent home is out at once")
	_, err = x.EndSeat(bg, me, seat.ID)
	refused(t, err, "out already")

	join := func() string {
		c, err := x.MakeCode(bg, me, examiner)
		require.NoError(t, err)
		s, err := x.Join(bg, c.Code, "a tablet")
		require.NoError(t, err)
		return s.ID
	}
	third := join()
	_, err = x.CloseGrading(bg, me, id, true)
	require.NoError(t, err)
	_, err = x.Seated(bg, third)
	assert.ErrorIs(t, err, ErrNotFound)
	_, err = x.MakeCode(bg, me, examiner)
	refused(t, err, "is over")
	_, err = x.CloseGrading(bg, me, id, false)
	require.NoError(t, err)
	_, err = x.Seated(bg, third)
	assert.ErrorIs(t, err, ErrNotFound, "who was sent home needs a new code")
	fourth := join()

	// A seat ends with its grading: two days on, or when all is announced.
	late, err := Open(bg, x.path, func() time.Time { return clock().Add(49 * time.Hour) })
	require.NoError(t, err)
	defer late.Close()
	_, err = late.Seated(bg, fourth)
	assert.ErrorIs(t, err, ErrNotFound)
	x.markAll(table, 3)
	var ids []string
	for _, c := range table.Candidates {
		ids = append(ids, c.ID)
	}
	_, err = x.Agree(bg, me, ids, "Cora Vane")
	require.NoError(t, err)
	_, err = x.Announce(bg, me, id, ids)
	require.NoError(t, err)
	_, err = x.Seated(bg, fourth)
	assert.ErrorIs(t, err, ErrNotFound)
	all, err := x.Seats(bg, id)
	require.NoError(t, err)
	assert.Len(t, all, 3)
}

func TestRingStateSurvivesARestart(t *testing.T) {
	x := newSchool(t)
	_, table := x.begun()
	_, err := x.RunClock(bg, me, table.RingID, ClockSet, gradingday.Clock{Seconds: 0, Rounds: 1})
	problem(t, err, "seconds", "from 1 to 3600")
	_, err = x.RunClock(bg, me, table.RingID, "wind up", gradingday.Clock{})
	refused(t, err, "can be set")
	_, err = x.RunClock(bg, me, table.RingID, ClockSet, gradingday.Clock{Seconds: 60, Rounds: 2, Rest: 30, Cue: 10})
	require.NoError(t, err)
	s, err := x.RunClock(bg, me, table.RingID, ClockStart, gradingday.Clock{})
	require.NoError(t, err)
	assert.Equal(t, clock().UnixMilli(), s.Clock.StartedAt)
	_, err = x.Call(bg, me, table.RingID, RingCall{GroupID: "other"})
	refused(t, err, "not in Ring A")
	_, err = x.Call(bg, me, table.RingID, RingCall{GroupID: table.GroupID, Line: 2, Set: 1})
	require.NoError(t, err)
	again := open(t, x.path)
	defer again.Close()
	r, err := again.Ring(bg, table.RingID)
	require.NoError(t, err)
	assert.Equal(t, RingCall{GroupID: table.GroupID, Line: 2, Set: 1, Version: 1}, r.State.Call)
	assert.Equal(t, gradingday.ClockWork, r.State.Clock.At(clock().Add(5*time.Second).UnixMilli()).Phase)
}

func TestBouts(t *testing.T) {
	x := newSchool(t)
	id, table := x.begun()
	a, b, ring := table.Candidates[0].ID, table.Candidates[1].ID, table.RingID
	for words, bout := range map[string]gradingday.Bout{"two different people": {RingID: ring, A: a, B: a, Rounds: 1, Seconds: 60}, "candidates of this ring": {RingID: "other", A: a, B: b, Rounds: 1, Seconds: 60}, "Name the partner": {RingID: ring, A: a, Rounds: 1, Seconds: 60}, "1 to 20 rounds": {RingID: ring, A: a, B: b, Rounds: 99, Seconds: 60}} {
		_, err := x.BeginBout(bg, me, bout)
		refused(t, err, words)
	}
	d, err := x.BeginBout(bg, me, gradingday.Bout{RingID: ring, A: a, B: b, Rounds: 2, Seconds: 60})
	require.NoError(t, err)
	point := func(side string, n int) gradingday.BoutEvent {
		return gradingday.BoutEvent{ID: NewID(), BoutID: d.ID, Kind: "point", Side: side, Round: 1, Points: n}
	}
	one, two := point("a", 1), point("b", 2)
	for _, e := range []gradingday.BoutEvent{one, two, one, point("a", 2)} {
		require.NoError(t, x.RecordBout(bg, me, ring, e), "the same again is one point")
	}
	forged := one
	forged.Points = 5
	assert.ErrorIs(t, x.RecordBout(bg, me, ring, forged), ErrConflict)
	refused(t, x.RecordBout(bg, me, ring, gradingday.BoutEvent{ID: NewID(), BoutID: d.ID, Kind: "point", Side: "c", Round: 1, Points: 1}), "no event of a bout")
	late := point("a", 1)
	late.Round = 3
	refused(t, x.RecordBout(bg, me, ring, late), "has 2 rounds")
	require.NoError(t, x.RecordBout(bg, me, ring, gradingday.BoutEvent{ID: NewID(), BoutID: d.ID, Kind: "withdrawn", Round: 1, Supersedes: two.ID}))
	all, err := x.Bouts(bg, ring)
	require.NoError(t, err)
	pa, pb := all[0].Points()
	assert.Equal(t, []int{3, 0}, []int{pa, pb})

	// Head contact ends the bout and that person's sparring for the day.
	require.NoError(t, x.RecordFault(bg, me, gradingday.Fault{ID: NewID(), CandidateID: b, ExaminerID: table.Examiner.ID, Kind: gradingday.FaultNote, Conduct: gradingday.Head, BoutID: d.ID}))
	all, err = x.Bouts(bg, ring)
	require.NoError(t, err)
	require.NotNil(t, all[0].End())
	assert.Equal(t, gradingday.BoutStopped, all[0].End().Kind)
	refused(t, x.RecordBout(bg, me, ring, point("a", 1)), "has ended")
	_, err = x.BeginBout(bg, me, gradingday.Bout{RingID: ring, A: a, B: b, Rounds: 1, Seconds: 60})
	refused(t, err, "does not spar any more today")
	_, err = x.BeginBout(bg, me, gradingday.Bout{RingID: ring, A: a, BName: "Nell", Rounds: 1, Seconds: 60})
	require.NoError(t, err, "the other may go on")
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	assert.Len(t, rows[0].Bouts, 2)
	assert.Len(t, rows[1].Faults, 1)
	deeds, _, err := x.Deeds(bg, TrailQuery{Grading: id, Limit: 100})
	require.NoError(t, err)
	said := ""
	for _, d := range deeds {
		said += saidOf(d) + "\n"
	}
	for _, words := range []string{"bout of Ada Rill and Ben Sluice: 2 × 60 s", "Ben Sluice: 2 in round 1", "taken back in the bout", "stopped: head contact", "Ben Sluice, conduct noted: head contact or a sign of concussion"} {
		assert.Contains(t, said, words)
	}
}

func TestOnlyTheChiefEndsATest(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	ada := tables["Ada Rill"]
	f := gradingday.Fault{ID: NewID(), CandidateID: ada[1].Candidates[0].ID, ExaminerID: ada[1].Examiner.ID, Kind: gradingday.FaultEnding, Conduct: gradingday.ExcessContact, Text: "struck after stop"}
	require.NoError(t, x.RecordFault(bg, me, f))
	chief, err := x.ScoringTable(bg, ada[0].Examiner.ID, ada[0].GroupID)
	require.NoError(t, err)
	require.Len(t, chief.Waiting, 1, "the chief is asked")
	assert.Empty(t, x.tables(id)["Ada Rill"][1].Waiting, "and nobody else")
	end := gradingday.Fault{ID: NewID(), CandidateID: f.CandidateID, ExaminerID: ada[1].Examiner.ID, Kind: gradingday.FaultConfirmed, Text: f.Text, Supersedes: f.ID}
	refused(t, x.RecordFault(bg, me, end), "by the chief examiner")
	end.ExaminerID = ada[0].Examiner.ID
	require.NoError(t, x.RecordFault(bg, me, end))
	_, rows, err := x.Review(bg, id)
	require.NoError(t, err)
	for _, r := range rows {
		assert.Equal(t, r.Name == "Ada Rill", r.Test.EndingFault)
	}
	h, err := x.Head(bg, id)
	require.NoError(t, err)
	assert.Empty(t, h.Faults)
}

// marksOf lets every examiner of a candidate give the values line by line and sign.
func (x *school) marksOf(ts []Table, values ...int) {
	for _, t := range ts {
		var marks []gradingday.Mark
		for i := range t.Items {
			marks = append(marks, t.mark(0, i, values[i%len(values)]))
		}
		require.NoError(x.t, x.RecordMarks(bg, me, marks))
		_, err := x.Sign(bg, By{Actor: t.Examiner.Name}, t.Examiner.ID, t.GroupID, false)
		require.NoError(x.t, err)
	}
}

func TestTheTrailKeepsASecretUntilAllHaveSigned(t *testing.T) {
	x := newSchool(t)
	id, tables := x.ringed(nil)
	x.marksOf(tables["Ada Rill"][:1], 4)
	read := func(q TrailQuery) (out []string) {
		q.Grading, q.Limit = id, 7
		for {
			deeds, older, err := x.Deeds(bg, q)
			require.NoError(t, err)
			for _, d := range deeds {
				out = append(out, fmt.Sprint(d.Actor, ": ", saidOf(d)))
			}
			if older == "" {
				return out
			}
			q.Before = older
		}
	}
	all := read(TrailQuery{})
	said := strings.Join(all, "\n")
	assert.Contains(t, said, "Ada Rill, Front kick: marked, sealed until all have signed (Cora Vane’s sheet)")
	assert.NotContains(t, said, ": 4 (")
	x.marksOf(tables["Ada Rill"][1:], 3)
	all = read(TrailQuery{})
	said = strings.Join(all, "\n")
	assert.Contains(t, said, "Ada Rill, Front kick: 4 (Cora Vane’s sheet)")
	assert.Len(t, all, 9+3, "each deed once over all pages")
	assert.Len(t, read(TrailQuery{Match: saying("weir’s")}), 3)
	whole, _, err := x.Deeds(bg, TrailQuery{Limit: 500})
	require.NoError(t, err)
	assert.Equal(t, "Fay Rush signed a sheet", saidOf(whole[0]))
}
