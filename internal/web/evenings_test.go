package web

import (
	"io"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/timetable"
	"velvetladder/internal/store"
)

// twentyEvenings plans the last evenings of the demo school from what was known before each, and holds
// the plans against who came then: the warm-up is first, the minutes fit, nothing stands twice, and but
// for three blocks in a hundred each serves somebody who was there. Planned again by the register every
// block does.
func twentyEvenings(t *testing.T, s *store.Store) {
	a := &app{store: s, log: slog.New(slog.NewTextHandler(io.Discard, nil))}
	r, err := http.NewRequest("GET", "/", nil)
	require.NoError(t, err)
	held, err := s.Registers(bg, s.Today().AddDays(-60), s.Today().AddDays(-1))
	require.NoError(t, err)
	evenings, blocks, nobody, roles, drills, groups := 0, 0, 0, 0, 0, 0
	for _, x := range held {
		if evenings == 20 {
			break
		}
		came, err := s.Likely(bg, x.Class.ID, x.On)
		require.NoError(t, err)
		if !came.Kept {
			continue
		}
		before, err := s.Expected(bg, x.Class.ID, x.On)
		require.NoError(t, err)
		who, err := a.whoComes(r, x.Class, x.On, before)
		require.NoError(t, err)
		topics := practice.Topics(who.present, who.taught, x.On)
		p := practice.MakePlan(topics, practice.Tonight{Minutes: x.Minutes, On: x.On})
		evenings++
		require.True(t, p.Blocks[0].WarmUp, "%s, %s", x.Name, x.On)
		after, err := a.whoComes(r, x.Class, x.On, came)
		require.NoError(t, err)
		for _, b := range practice.MakePlan(practice.Topics(after.present, after.taught, x.On), practice.Tonight{Minutes: x.Minutes, On: x.On}).Blocks {
			require.Equal(t, b.ID != "", len(b.Serves) > 0, "%s, %s: %s", x.Name, x.On, b.Name)
			for _, v := range b.Serves {
				require.Equal(t, 1000, came.Chances[v.Student])
			}
		}
		total := 0
		for i, b := range p.Blocks {
			require.InDelta(t, total, b.Begin, 0, "%s, %s: %s begins when what was before ends", x.Name, x.On, b.Name)
			total += b.Minutes
			if b.ID == "" {
				require.True(t, b.WarmUp || b.Free || i == len(p.Blocks)-1)
				continue
			}
			blocks++
			if slices.ContainsFunc(p.Blocks[:i], func(o practice.Block) bool { return o.ID == b.ID }) {
				t.Errorf("%s, %s: %s stands twice", x.Name, x.On, b.Name)
			}
			if !slices.ContainsFunc(b.Serves, func(s practice.Served) bool { return came.Chances[s.Student] > 0 }) {
				nobody++
				t.Logf("%s, %s: %s serves nobody who came", x.Name, x.On, b.Name)
			}
			if len(b.Name) > 12 && b.Name[len(b.Name)-12:] == ", both roles" {
				roles++
			}
			if b.Drill != "" {
				drills++
			}
			groups += len(b.Meanwhile)
		}
		require.InDelta(t, x.Minutes, total, 1, "%s, %s", x.Name, x.On)
	}
	require.Equal(t, 20, evenings)
	t.Logf("%d evenings, %d blocks, %d of them serve nobody who came, %d are both roles of a technique, %d have a drill; %d groups meanwhile", evenings, blocks, nobody, roles, drills, groups)
	require.LessOrEqual(t, 100*nobody, 3*blocks)
	require.Positive(t, roles)
	require.Positive(t, drills)
}

// TestTheThemeOfTheWeek is kept for every class of the week, followed, changed and undone.
func TestTheThemeOfTheWeek(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	path := "/plan/" + class + "/2026-11-24"
	says(t, h.page(path), "The week of Mon 23 Nov 2026, for every class of this program.")
	sections, err := h.s.Sections(bg, h.program)
	require.NoError(t, err)
	address, page := h.send(path+"/theme", "sections", sections[3].ID, "words", "low stances")
	assert.True(t, strings.HasPrefix(address, path))
	says(t, page, "Theme of the week : "+sections[3].Name+", low stances. 6 of 50 min follow it.")
	assert.Contains(t, page, `value="`+sections[3].ID+`" checked`)
	_, page = h.send(path+"/theme", "words", "river stones")
	says(t, page, "Theme of the week : river stones.")
	says(t, page, "Nothing that those who come are taught belongs to it, or fits")
	long := strings.Repeat("x", 1000)
	w := h.do("POST", path+"/theme", values("words", long).Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), long, "what was typed is kept")
	says(t, h.page(path), "river stones")
	_, page = h.send(path + "/theme")
	assert.NotContains(t, text(page), "Theme of the week : ")

	says(t, h.page(path+"?how=live"), "live online")
	says(t, h.page(path+"?how=live"), "two metres of clear floor")
	assert.Equal(t, http.StatusUnprocessableEntity, h.do("GET", path+"?how=flying", "").Code)
	online := h.evening("Online evening")
	says(t, h.page("/plan/"+online+"/2026-11-24"), "live online")
}

// TestWhatWasMissedComesFirst: in a make-up class, and for who is there to make up.
func TestWhatWasMissedComesFirst(t *testing.T) {
	h := newHouse(t).furnish()
	class := h.evening("Evening")
	came := func(class, student string, daysAgo int) {
		refused, err := h.s.RecordAttendance(bg, me, []store.Attendance{{ID: store.NewID(), ClassID: class, On: h.s.Today().AddDays(-daysAgo), StudentID: student, State: store.Present, Mode: timetable.Hall}})
		require.NoError(t, err)
		require.Empty(t, refused)
	}
	d, err := h.s.SaveStudent(bg, me, progress.Student{Name: "Cara Mill"})
	require.NoError(t, err)
	came(class, h.student, 21)
	came(class, d.ID, 7)
	_, err = h.s.Teach(bg, me, class, h.s.Today().AddDays(-7), h.technique)
	require.NoError(t, err)
	says(t, h.page("/plan/"+class+"/2026-11-24"), "Ben Sluice: not signed off yet; away on 17 Nov when it was worked on")
	makeUp := h.evening("Catch-up")
	page := h.page("/plan/" + makeUp + "/2026-11-24")
	says(t, page, "It is there to make up: what those who come missed is first.")
	says(t, page, "away on 17 Nov when it was worked on")
}
