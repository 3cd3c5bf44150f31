package door

import (
	"encoding/json"
	"errors"
	"net/http"
	"net/url"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type joinView struct {
	Form     frame.Form
	Code     string
	Examiner gradingday.Examiner
	Ring     string
	Grading  store.Grading
	Seat     store.Seat
	Ended    bool
	Keep     string        // JSON: what the device keeps for when it has no network
	Waits    frame.Waiting // a form that is sent once the device is in
	Tables   []joinTable
}

type joinTable struct {
	Group, Name string
	Sheet       store.Sheet
}

// joinShow asks for a code, or for a word before one is used up: a link that is only looked at
// lets nobody in.
func (ch *chapter) joinShow(w http.ResponseWriter, r *http.Request) {
	ch.joinPage(w, r, http.StatusOK, joinView{Code: r.PathValue("code")})
}

func (ch *chapter) joinPage(w http.ResponseWriter, r *http.Request, status int, v joinView) {
	title := "Join a grading"
	s, seated := frame.SeatOf(r)
	x := frame.SittingOf(r)
	v.Ended = x.Ended
	switch {
	case seated && v.Code == "":
		v.Seat, title = s, s.Examiner
		g, err := ch.records.Grading(r.Context(), s.GradingID)
		if err == nil {
			v.Grading = g
			v.Tables, err = ch.tablesOf(r, s)
		}
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		keep, err := json.Marshal(keptOf(s, v.Tables))
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		v.Keep = string(keep)
		if frame.WantsJSON(r) {
			tables := []map[string]string{}
			for _, t := range v.Tables {
				tables = append(tables, map[string]string{"group": t.Group, "name": t.Name})
			}
			frame.SendJSON(w, http.StatusOK, map[string]any{"examiner": s.ExaminerID, "name": s.Examiner, "tables": tables})
			return
		}
	case v.Code != "" && v.Form.General == "":
		e, g, err := ch.records.Invited(r.Context(), v.Code)
		var no *store.Refused
		switch {
		case errors.Is(err, store.ErrCode):
			status, v.Form.General, v.Code = http.StatusNotFound, codeWords, ""
		case errors.As(err, &no):
			status, v.Form.General, v.Code = http.StatusConflict, no.Reason, ""
		case err != nil:
			ch.Fail(w, r, err)
			return
		default:
			v.Examiner, v.Grading, v.Ring = e, g, g.Rings[e.Ring].Name
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "join", Title: title, Bare: true, Body: v})
}

// keptOf are the pages an examiner's device may need when it has no network.
func keptOf(s store.Seat, tables []joinTable) []string {
	out := []string{"/kept", "/ring/" + s.RingID, "/bouts/" + s.RingID}
	for _, t := range tables {
		at := s.ExaminerID + "/" + t.Group
		out = append(out, "/scoring/"+at, "/scoring/"+at+"/state", "/paper/"+at)
	}
	return out
}

const codeWords = "This code lets nobody in: it is mistyped, was used already, or is too old. Ask at the head table for a new one."

// tablesOf are the groups an examiner marks, in their order.
func (ch *chapter) tablesOf(r *http.Request, s store.Seat) (out []joinTable, err error) {
	sheets, err := ch.records.Progress(r.Context(), s.GradingID)
	if err != nil {
		return nil, err
	}
	all, err := ch.records.Candidates(r.Context(), s.GradingID)
	names := map[string]string{}
	for _, c := range all {
		if names[c.GroupID] == "" {
			names[c.GroupID] = c.Group + ", " + c.ToWords
		}
	}
	for _, x := range sheets {
		if x.ExaminerID == s.ExaminerID {
			out = append(out, joinTable{x.GroupID, names[x.GroupID], x})
		}
	}
	return out, err
}

// joinSave uses a code up and begins the device's session under a new token.
func (ch *chapter) joinSave(w http.ResponseWriter, r *http.Request) {
	v, _, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	seat, err := ch.records.Join(r.Context(), v.Get("code"), deviceWords(r.UserAgent()))
	var no *store.Refused
	switch {
	case errors.Is(err, store.ErrCode):
		ch.joinPage(w, r, http.StatusUnauthorized, joinView{Form: frame.Form{Values: v, General: codeWords}, Waits: frame.WaitingIn(v)})
		return
	case errors.As(err, &no):
		ch.joinPage(w, r, http.StatusConflict, joinView{Form: frame.Form{Values: v, General: no.Reason}, Waits: frame.WaitingIn(v)})
		return
	case err == nil:
		err = ch.Sessions.RenewToken(r.Context())
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	// Whoever was signed in here is not any more: the device is the examiner's.
	ch.Sessions.Remove(r.Context(), "sign_in")
	ch.Sessions.Put(r.Context(), "seat", seat.ID)
	ch.Hub.Tell(frame.GradingTopic(seat.GradingID), nil)
	if waits := frame.WaitingIn(v); waits.To != "" {
		ch.Resume(w, r, waits)
		return
	}
	http.Redirect(w, r, "/join", http.StatusSeeOther)
}

// joinLeave takes the device out by its own wish.
func (ch *chapter) joinLeave(w http.ResponseWriter, r *http.Request) {
	if s, seated := frame.SeatOf(r); seated {
		if _, err := ch.records.EndSeat(r.Context(), store.By{Actor: s.Examiner}, s.ID); err != nil {
			ch.Fail(w, r, err)
			return
		}
		ch.Hub.Tell(frame.GradingTopic(s.GradingID), nil)
		ch.Hub.LookAgain()
	}
	ch.Sessions.Remove(r.Context(), "seat")
	w.Header().Set("Clear-Site-Data", `"cache"`)
	http.Redirect(w, r, "/join?out=1", http.StatusSeeOther)
}

// deviceWords is a browser in a few words, so that the head table can tell devices apart.
func deviceWords(agent string) string {
	kind := "a device"
	for _, x := range [][2]string{{"iPad", "an iPad"}, {"iPhone", "an iPhone"}, {"Android", "an Android device"},
		{"Windows", "a Windows computer"}, {"Macintosh", "a Mac"}, {"CrOS", "a Chromebook"}, {"Linux", "a Linux computer"}, {"rehearsal", "a rehearsal"}} {
		if strings.Contains(agent, x[0]) {
			kind = x[1]
			break
		}
	}
	return kind
}

func (ch *chapter) seatsEnd(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		done, err := ch.records.EndSeat(r.Context(), by, r.PathValue("seat"))
		if err == nil {
			ch.Hub.Tell(frame.GradingTopic(done.ID), nil)
			ch.Hub.LookAgain()
		}
		return done, err
	}, func(d store.Done) string { return "/head/" + d.ID }, nil)
}

func (ch *chapter) gradingsClose(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("grading")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		defer ch.Hub.LookAgain()
		return ch.records.CloseGrading(r.Context(), by, id, v.Get("open") == "")
	}, frame.To("/head/"+id), nil)
}
