package office

import (
	"errors"
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/mail"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type outboxView struct {
	Rows    []store.Message
	Waiting bool // only those that wait
	Waits   int
	Sender  string // where mail goes; "" nothing is sent from here
	Form    frame.Form
	From    string
	One     *store.Message
	Most    int
}

func (ch *chapter) outboxShow(w http.ResponseWriter, r *http.Request) {
	ch.outboxPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) outboxView(r *http.Request, f frame.Form) (v outboxView, err error) {
	set, err := ch.records.Settings(r.Context())
	v = outboxView{Form: f, From: set.MailFrom, Most: store.OutboxLimit}
	if ch.Access.Mail != nil {
		v.Sender = ch.Access.Mail.Where()
	}
	return v, err
}

func (ch *chapter) outboxPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	v, err := ch.outboxView(r, f)
	if err == nil {
		v.Waiting = r.URL.Query().Get("show") == "waiting"
		v.Rows, err = ch.records.Outbox(r.Context(), v.Waiting)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	for _, m := range v.Rows {
		if m.Waits() {
			v.Waits++
		}
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "outbox", Title: "Outbox", Body: v})
}

func (ch *chapter) outboxMessage(w http.ResponseWriter, r *http.Request) {
	ch.outboxOne(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) outboxOne(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	m, err := ch.records.Message(r.Context(), r.PathValue("message"))
	var v outboxView
	if err == nil {
		v, err = ch.outboxView(r, f)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v.One = &m
	ch.Show(w, r, status, "", frame.Page{Screen: "outbox", Title: m.Subject, Body: v})
}

// letter is a message as mail. It refuses what cannot be written to, in words.
func (ch *chapter) letter(r *http.Request, m store.Message) (mail.Letter, error) {
	set, err := ch.records.Settings(r.Context())
	if err != nil {
		return mail.Letter{}, err
	}
	name, err := ch.records.School(r.Context())
	if err != nil {
		return mail.Letter{}, err
	}
	if set.MailFrom == "" {
		return mail.Letter{}, &store.Refused{Reason: "The school has no mail address yet. Write it under settings; letters come from it."}
	}
	if m.Address == "" {
		return mail.Letter{}, &store.Refused{Reason: "No mail address is on record of " + m.ToName + ". Write it on the student’s page and write the message again, or give it by hand."}
	}
	return mail.Letter{ID: m.ID, FromName: name, From: set.MailFrom, ToName: m.ToName, To: m.Address, Subject: m.Subject, Body: m.Body, At: m.At.In(ch.records.Zone())}, nil
}

func (ch *chapter) outboxEML(w http.ResponseWriter, r *http.Request) {
	m, err := ch.records.Message(r.Context(), r.PathValue("message"))
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	l, err := ch.letter(r, m)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	text, err := mail.EML(l)
	if errors.Is(err, mail.ErrAddress) {
		err = &store.Refused{Reason: "The message cannot be made: " + err.Error() + "."}
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	frame.Attachment(w, "message/rfc822", m.Subject+".eml", text)
}

// outboxSettle notes that a message was given by hand, or will not go.
func (ch *chapter) outboxSettle(w http.ResponseWriter, r *http.Request) {
	id := r.PathValue("message")
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		kind := v.Get("do")
		if kind != "given" && kind != "withdrawn" {
			return store.Done{}, check.Problems{{Field: "do", Text: "must be given or withdrawn"}}
		}
		return ch.records.SettleMessage(r.Context(), by, id, kind, "")
	}, frame.To("/outbox/"+id), func(status int, f frame.Form) { ch.outboxOne(w, r, status, f) })
}

// outboxSend sends the chosen messages that wait. Each is noted as soon as the server has taken or
// refused it, so that a stop in between loses no more than the note of one.
func (ch *chapter) outboxSend(w http.ResponseWriter, r *http.Request) {
	v, by, err := frame.Posted(r)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if ch.Access.Mail == nil {
		ch.Fail(w, r, &store.Refused{Reason: "Nothing is sent from here: no mail server was named when the program was started. Take the messages as files, or give them by hand."})
		return
	}
	all, err := ch.records.Outbox(r.Context(), true)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	f := frame.Form{Values: v}
	sent := 0
	last := store.Done{}
	for _, m := range all {
		if !slices.Contains(v["messages"], m.ID) {
			continue
		}
		l, err := ch.letter(r, m)
		if err == nil {
			err = ch.Access.Mail.Send(r.Context(), l)
		}
		kind, text := "sent", "through "+ch.Access.Mail.Where()
		if err != nil {
			kind, text = "failed", err.Error()
			f.Problems = append(f.Problems, check.Problem{Field: m.ID, Text: m.ToName + ": " + text})
		} else {
			sent++
		}
		done, err := ch.records.SettleMessage(r.Context(), store.By{Actor: by.Actor}, m.ID, kind, text)
		if err != nil {
			ch.Fail(w, r, err)
			return
		}
		last = done
	}
	if len(f.Problems) == 0 && sent > 0 {
		http.Redirect(w, r, "/outbox?done="+last.Audit, http.StatusSeeOther)
		return
	}
	f.General = "Nobody was ticked that still waits."
	if len(f.Problems) > 0 {
		f.General = words.Count(sent, "message") + " sent, " + words.Count(len(f.Problems), "message") + " could not be sent and still waits."
	}
	ch.outboxPage(w, r, http.StatusUnprocessableEntity, f)
}
