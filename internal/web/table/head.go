package table

import (
	"net/http"
	"net/url"
	"time"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

// headPause is between two readings of the head table: often enough to follow, seldom enough
// that two hundred marks a second cost no more than two.
const headPause = time.Second

type headView struct {
	Grading store.Grading
	Rings   []headRing
	Seats   []store.Seat // devices that are in
	Over    bool
	State   headTold
	Remarks []string
}

type headRing struct {
	gradingday.Ring
	Chiefless bool // somebody is tested there, and nobody there is chief
	Panel     []gradingday.Examiner
	Groups    []headGroup
}

type headGroup struct {
	ID, Name, To string
	Candidates   []store.Candidate
}

// headTold is the head table as its script reads it: counts and places, never a mark.
type headTold struct {
	Groups   map[string]headGroupTold `json:"groups"`
	Tables   map[string]headTableTold `json:"tables"` // "examiner group"
	Faults   []headFault              `json:"faults"`
	Rings    map[string]ringTold      `json:"rings"`
	Attend   map[string]int           `json:"attend"` // examiner → devices on the line
	Marks    int                      `json:"marks"`
	Of       int                      `json:"of"`
	Now      int64                    `json:"now"`
	Finished bool                     `json:"finished"` // every group may leave
}

type headGroupTold struct {
	Stage gradingday.Stage `json:"stage"`
	Words string           `json:"words"`
	Given int              `json:"given"`
	Of    int              `json:"of"`
	Again []string         `json:"again"`
	Half  []string         `json:"half"`   // what one examiner saw of few
	Call  string           `json:"called"` // the number of the line the caller is at; "" is with another group
}

type headTableTold struct {
	Given  int    `json:"given"`
	Of     int    `json:"of"`
	Line   int    `json:"line"`
	Called string `json:"called"`
	Signed bool   `json:"signed"`
	Absent bool   `json:"absent"`
}

type headFault struct {
	Name     string `json:"name"`
	Examiner string `json:"examiner"`
	Text     string `json:"text"`
}

func (ch *chapter) headTold(r *http.Request, id string) (headTold, error) {
	s, err := ch.records.Head(r.Context(), id)
	out := headTold{Groups: map[string]headGroupTold{}, Tables: map[string]headTableTold{}, Faults: []headFault{},
		Rings: map[string]ringTold{}, Attend: ch.Hub.Attending(), Now: ch.records.Now().UnixMilli()}
	out.Finished = len(s.Groups) > 0
	for _, g := range s.Groups {
		x := headGroupTold{Stage: g.Stage, Words: words.Stage(g.Stage), Given: g.Given, Of: g.Of, Again: frame.Each(g.Unseen, words.Unseen), Half: frame.Each(g.Half, words.HalfSeen)}
		for _, c := range s.Called {
			if c.GroupID == g.GroupID {
				x.Call = c.Number
			}
		}
		out.Groups[g.GroupID] = x
		out.Marks, out.Of = out.Marks+g.Given, out.Of+g.Of
		out.Finished = out.Finished && g.Stage == gradingday.Ready
	}
	for _, t := range s.Tables {
		out.Tables[t.ExaminerID+" "+t.GroupID] = headTableTold{t.Given, t.Of, t.AtLine, t.At, t.Signed, t.Absent}
	}
	for _, f := range s.Faults {
		out.Faults = append(out.Faults, headFault{f.Name, f.Examiner, words.Fault(f.Fault)})
	}
	for ring, x := range s.Rings {
		out.Rings[ring] = ringToldOf(x, 0)
	}
	return out, err
}

// headShow is the head table: how far every sheet is, who is in, what has to be called again.
func (ch *chapter) headShow(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	g, err := ch.records.Grading(r.Context(), id)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if ch.notOpen(w, r, g) {
		return
	}
	v := headView{Grading: g, Over: g.Over(ch.records.Now().In(ch.records.Zone()))}
	all, err := ch.records.Candidates(r.Context(), id)
	if err == nil {
		v.Seats, err = ch.records.Seats(r.Context(), id)
	}
	if err == nil {
		v.State, err = ch.headTold(r, id)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for i, x := range g.Rings {
		ring := headRing{Ring: x, Panel: g.Panel(i)}
		for _, c := range all {
			if c.RingID != x.ID {
				continue
			}
			if n := len(ring.Groups); n == 0 || ring.Groups[n-1].ID != c.GroupID {
				ring.Groups = append(ring.Groups, headGroup{ID: c.GroupID, Name: c.Group, To: c.ToWords})
			}
			last := &ring.Groups[len(ring.Groups)-1]
			last.Candidates = append(last.Candidates, c)
		}
		ring.Chiefless = len(ring.Groups) > 0 && !gradingday.HasChief(ring.Panel)
		v.Rings = append(v.Rings, ring)
	}
	few, err := ch.records.TooFew(r.Context(), g, all)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if said := words.Uneven(g.Uneven()); said != "" {
		v.Remarks = append(v.Remarks, said)
	}
	for _, x := range few {
		v.Remarks = append(v.Remarks, words.TooFew(x))
	}
	ch.Show(w, r, http.StatusOK, g.ProgramID, frame.Page{Screen: "head", Title: "Head table", Nav: "gradings", Body: v})
}

func (ch *chapter) headLive(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	if _, err := ch.records.Grading(r.Context(), id); err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	read := func() (any, error) { return ch.headTold(r, id) }
	ch.Stream(w, r, []string{frame.GradingTopic(id)}, read, func([]byte) (any, error) { return read() }, headPause)
}

// headChief makes an examiner the chief of their ring.
func (ch *chapter) headChief(w http.ResponseWriter, r *http.Request) {
	ch.examinerChanged(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.ChooseChief(r.Context(), by, r.PathValue("examiner"))
	})
}

// headAbsent notes that an examiner is not there, or is again.
func (ch *chapter) headAbsent(w http.ResponseWriter, r *http.Request) {
	ch.examinerChanged(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.MarkAbsent(r.Context(), by, r.PathValue("examiner"), v.Get("back") == "")
	})
}

func (ch *chapter) examinerChanged(w http.ResponseWriter, r *http.Request, write func(url.Values, store.By) (store.Done, error)) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		done, err := write(v, by)
		if err == nil {
			ch.Hub.Tell(frame.GradingTopic(done.ID), nil)
		}
		return done, err
	}, func(d store.Done) string { return "/head/" + d.ID }, nil)
}

func (ch *chapter) groupsMove(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.MoveGroup(r.Context(), by, r.PathValue("group"), v.Get("ring"))
	}, func(d store.Done) string { return "/gradings/" + d.ID }, nil)
}
