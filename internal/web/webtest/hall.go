package webtest

import (
	"fmt"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/store"
)

// Hall is a furnished school where people sign in, with two more gradings under way: one in two
// rings, and a foreign one.
type Hall struct {
	*House
	Browser             func() *Visitor
	Owns, Teaches       *Visitor
	Day, Foreign        string
	Own, Other, Chief   string // examiners: of ring A, of ring B, ring A's chief
	Ring, OtherRing     string
	Candidate, Stranger string // in ring A, at the foreign grading
	GroupA, ItemA       string
}

// NewHall furnishes the school and signs its people in.
func NewHall(t *testing.T) *Hall {
	h, browser := ClosedHouse(t)
	x := &Hall{House: h, Browser: browser, Owns: browser(), Teaches: browser()}
	x.Owns.Do("POST", "/welcome", url.Values{"name": {"Rosa"}, "sign_in": {"rosa"}, "password": {Secret}}.Encode())
	x.Owns.Do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {Secret}}.Encode())
	require.Equal(t, http.StatusSeeOther, x.Teaches.SignIn("marek", Secret).Code)
	begin := func(name string, rings int) string {
		g := gradingday.Grading{ProgramID: h.Program, Name: name, On: h.Store.Today(), Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: 1, RungIDs: []string{h.Yellow}}
		for r := range rings {
			g.Rings = append(g.Rings, gradingday.Ring{})
			for k := range 3 {
				g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprintf("%s %c%d", name, 'A'+r, k), Chief: k == 0, Ring: r})
			}
		}
		d, err := h.Store.SaveGrading(Ctx, Me, g)
		require.NoError(t, err)
		may, err := h.Store.Eligible(Ctx, d.ID)
		require.NoError(t, err)
		for _, e := range may {
			_, err = h.Store.AddCandidates(Ctx, Me, d.ID, []store.Entrant{{EnrolmentID: e.EnrolmentID}})
			require.NoError(t, err)
		}
		_, err = h.Store.Begin(Ctx, Me, d.ID)
		require.NoError(t, err)
		return d.ID
	}
	x.Day, x.Foreign = begin("Day", 2), begin("Foreign", 1)
	g, err := h.Store.Grading(Ctx, x.Day)
	require.NoError(t, err)
	x.Ring, x.OtherRing = g.Rings[0].ID, g.Rings[1].ID
	x.Chief, x.Own, x.Other = g.Panel(0)[0].ID, g.Panel(0)[1].ID, g.Panel(1)[0].ID
	all, err := h.Store.Candidates(Ctx, x.Day)
	require.NoError(t, err)
	for _, c := range all {
		if c.RingID == x.Ring {
			x.Candidate, x.GroupA = c.ID, c.GroupID
		}
	}
	table, err := h.Store.ScoringTable(Ctx, x.Own, x.GroupA)
	require.NoError(t, err)
	x.ItemA = table.Items[0].ID
	foreign, err := h.Store.Candidates(Ctx, x.Foreign)
	require.NoError(t, err)
	x.Stranger = foreign[0].ID
	return x
}

// Join is a device that came in as an examiner.
func (x *Hall) Join(examiner string) *Visitor {
	c, err := x.Store.MakeCode(Ctx, Me, examiner)
	require.NoError(x.T, err)
	v := x.Browser()
	v.T = x.House.T.(*testing.T)
	page := v.Do("GET", "/join/"+c.Spelt(), "")
	require.Equal(x.T, http.StatusOK, page.Code)
	require.Contains(x.T, page.Body.String(), "Join as")
	w := v.Do("POST", "/join", "code="+c.Spelt())
	require.Equal(x.T, "/join", w.Header().Get("Location"), w.Body.String())
	return v
}

// Body is one mark as a tablet sends it.
func (x *Hall) Body(id, examiner, candidate, item, value string) string {
	return fmt.Sprintf(`{"entries":[{"id":%q,"candidate":%q,"examiner":%q,"item":%q,"kind":"mark","value":%s,"note":"","supersedes":""}]}`, id, candidate, examiner, item, value)
}

// Mark gives marks, all of which are taken.
func Mark(t testing.TB, s *store.Store, marks []gradingday.Mark) {
	refused, err := s.TakeMarks(Ctx, Me, marks)
	require.NoError(t, err)
	require.Empty(t, refused)
}
