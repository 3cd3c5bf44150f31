package table

import (
	"encoding/json"
	"net/http"
	"slices"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// ringView is the caller's view of a ring: everything it calls stands in the page, so that it
// goes on without network.
type ringView struct {
	Ring   store.Ring
	Groups string // JSON
	State  string // JSON
	Seated bool
	Owner  bool
}

// ringTold is what a ring's devices are told.
type ringTold struct {
	Call  store.RingCall `json:"call"`
	Clock clockTold      `json:"clock"`
	Now   int64          `json:"now,omitzero"` // the server's clock, in ms
}

// clockTold is a clock with the parts of its way, which devices look up.
type clockTold struct {
	gradingday.Clock
	Spans []gradingday.ClockSpan `json:"spans"`
}

func ringToldOf(x store.RingState, now int64) ringTold {
	return ringTold{x.Call, clockTold{x.Clock, x.Clock.Spans()}, now}
}

func (ch *chapter) ringTold(r *http.Request, ring string) (map[string]ringTold, error) {
	x, err := ch.records.Ring(r.Context(), ring)
	return map[string]ringTold{"ring": ringToldOf(x.State, ch.records.Now().UnixMilli())}, err
}

// ringCalls is a group as its caller calls it.
type ringCalls struct {
	ID         string     `json:"id"`
	Name       string     `json:"name"`
	Candidates []string   `json:"candidates"`
	Lines      []ringLine `json:"lines"`
}

type ringLine struct {
	parts.CallWire
	Number string   `json:"number"`
	Item   string   `json:"item"` // the category it belongs to, where categories are marked
	Looks  string   `json:"looks,omitempty"`
	Own    []string `json:"own,omitempty"` // who does it otherwise, and how
	Last   bool     `json:"last,omitzero"` // the mark is given after it
}

// ringShow is the caller's view.
func (ch *chapter) ringShow(w http.ResponseWriter, r *http.Request) {
	x, err := ch.records.Ring(r.Context(), r.PathValue("ring"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if ch.notOpen(w, r, x.Grading) {
		return
	}
	b, err := ch.records.Book(r.Context(), x.Grading.ProgramID)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	groups := []ringCalls{}
	for _, g := range x.Groups {
		items, err := ch.records.RunningOrder(r.Context(), x.Grading, g.Candidates)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		groups = append(groups, ringCallsOf(b, g, items))
	}
	text, err := json.Marshal(groups)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	state, err := json.Marshal(ringToldOf(x.State, ch.records.Now().UnixMilli()))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	_, seated := frame.SeatOf(r)
	ch.Show(w, r, http.StatusOK, x.Grading.ProgramID,
		frame.Page{Screen: "ring", Title: x.Name + ", caller", Bare: true, Body: ringView{x, string(text), string(state), seated, frame.PersonOf(r).Role == store.Owner}})
}

func ringCallsOf(b *curriculum.Book, g store.RingGroup, items []gradingday.GroupItem) ringCalls {
	out := ringCalls{ID: g.ID, Name: g.Name, Candidates: []string{}, Lines: []ringLine{}}
	names := map[string]string{}
	for _, c := range g.Candidates {
		out.Candidates = append(out.Candidates, c.Name)
		names[c.ID] = c.Name
	}
	for _, it := range items {
		var own []string
		for _, c := range g.Candidates {
			if it.Stands[c.ID] {
				own = append(own, c.Name+" passed it before; it stands")
			} else if it.IDs[c.ID] == "" {
				own = append(own, c.Name+" does not show it")
			} else if words := words.OwnLines(it.Own[c.ID]); words != "" {
				own = append(own, c.Name+": "+words)
			}
		}
		for i, l := range it.Lines {
			x := ringLine{CallWire: parts.CallOnWire(b.Program, practice.CallOf(b, l, l.Called(len(g.Candidates)))), Number: it.LineNumber(i), Own: own, Last: i+1 == len(it.Lines)}
			if len(it.Lines) > 1 {
				x.Item = it.Label
			}
			if said := words.Called(l, len(g.Candidates)); said != "" {
				x.Looks = said + ", so that each of " + words.Count(len(g.Candidates), "candidate") + " is looked at"
			}
			out.Lines = append(out.Lines, x)
		}
	}
	return out
}

func (ch *chapter) ringLive(w http.ResponseWriter, r *http.Request) {
	ring := r.PathValue("ring")
	if _, err := ch.records.Ring(r.Context(), ring); err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	ch.Stream(w, r, []string{ringTopic(ring)}, func() (any, error) { return ch.ringTold(r, ring) }, func(m []byte) (any, error) { return json.RawMessage(m), nil }, 0)
}

// ringAgain is what nobody of the ring's panel saw, to be called again before the group leaves.
func (ch *chapter) ringAgain(w http.ResponseWriter, r *http.Request) {
	x, err := ch.records.Ring(r.Context(), r.PathValue("ring"))
	var s store.HeadState
	if err == nil {
		s, err = ch.records.Head(r.Context(), x.Grading.ID)
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	out := map[string][]string{} // group → what
	for _, g := range s.Groups {
		if slices.ContainsFunc(x.Groups, func(y store.RingGroup) bool { return y.ID == g.GroupID }) {
			for _, u := range g.Unseen {
				out[g.GroupID] = append(out[g.GroupID], words.Unseen(u))
			}
		}
	}
	frame.SendJSON(w, http.StatusOK, map[string]any{"again": out})
}

// ringChanged answers the device that changed a ring, and tells the others.
func (ch *chapter) ringChanged(w http.ResponseWriter, r *http.Request, ring string, s store.RingState, err error) {
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	told := map[string]ringTold{"ring": ringToldOf(s, ch.records.Now().UnixMilli())}
	ch.Hub.Tell(ringTopic(ring), told)
	if x, err := ch.records.Ring(r.Context(), ring); err == nil {
		ch.Hub.Tell(frame.GradingTopic(x.Grading.ID), nil)
	}
	frame.SendJSON(w, http.StatusOK, told)
}

func (ch *chapter) ringCall(w http.ResponseWriter, r *http.Request) {
	ring := r.PathValue("ring")
	var in store.RingCall
	err := frame.ReadJSON(r, &in)
	var s store.RingState
	if err == nil {
		s, err = ch.records.Call(r.Context(), store.By{Actor: frame.ActorOf(r)}, ring, in)
	}
	ch.ringChanged(w, r, ring, s, err)
}

func (ch *chapter) ringClock(w http.ResponseWriter, r *http.Request) {
	ring := r.PathValue("ring")
	var in struct {
		Deed  store.ClockDeed  `json:"deed"`
		Clock gradingday.Clock `json:"clock"`
	}
	err := frame.ReadJSON(r, &in)
	var s store.RingState
	if err == nil {
		s, err = ch.records.RunClock(r.Context(), store.By{Actor: frame.ActorOf(r)}, ring, in.Deed, in.Clock)
	}
	ch.ringChanged(w, r, ring, s, err)
}

// ringTopic is what is told of a ring.
func ringTopic(id string) string { return "ring " + id }
