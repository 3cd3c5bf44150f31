package office_test

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/mail"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/webtest"
)

// sender is a mail server that may be away.
type sender struct {
	sent []mail.Letter
	away bool
}

func (s *sender) Send(_ context.Context, l mail.Letter) error {
	if s.away {
		return errors.New("no route to host")
	}
	s.sent = append(s.sent, l)
	return nil
}

func (s *sender) Where() string { return "mail.school.example:587" }

func TestTheOutboxSendsOnlyWhenToldTo(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	st, err := h.Store.Student(webtest.Ctx, h.Student)
	require.NoError(t, err)
	st.Contact, st.Guardian = "0161 555 0101, una@family.example", "Una Sluice"
	_, err = h.Store.SaveStudent(webtest.Ctx, webtest.Me, st)
	require.NoError(t, err)
	v := h.Visitor()
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/day/"+id, webtest.DayForm.Encode()).Code)
	all, err := h.Store.Candidates(webtest.Ctx, id)
	require.NoError(t, err)
	who := url.Values{}
	for _, c := range all {
		who.Add("candidates", c.ID)
	}
	require.Equal(t, http.StatusSeeOther, v.Do("POST", "/checklist/"+id+"/write", who.Encode()).Code)
	rows, err := h.Store.Outbox(webtest.Ctx, true)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	var una, other store.Message
	for _, m := range rows {
		if m.Address != "" {
			una = m
		} else {
			other = m
		}
	}
	assert.Equal(t, "una@family.example", una.Address)
	for _, said := range []string{"Dear Una Sluice", "Come at: 09:00", "The test begins at 09:15 in Ring", "does not test"} {
		assert.Contains(t, una.Body, said)
	}
	assert.Contains(t, v.Do("GET", "/outbox", "").Body.String(), "Nothing is sent from here")
	assert.Equal(t, http.StatusConflict, v.Do("POST", "/outbox/send", "messages="+una.ID).Code, "no server is named")
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/outbox/"+una.ID+"/message.eml", "").Code, "the school has no address yet")
	set, err := h.Store.Settings(webtest.Ctx)
	require.NoError(t, err)
	set.MailFrom = "office@school.example"
	_, err = h.Store.SaveSettings(webtest.Ctx, webtest.Me, "Marrowby Mühle", set, nil)
	require.NoError(t, err)
	w := v.Do("GET", "/outbox/"+una.ID+"/message.eml", "")
	require.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Body.String(), "To: \"Una Sluice\" <una@family.example>")
	assert.Equal(t, http.StatusConflict, v.Do("GET", "/outbox/"+other.ID+"/message.eml", "").Code, "no address on record")

	post := &sender{away: true}
	with, err := web.New(h.Store, slog.New(slog.DiscardHandler), frame.Access{Everybody: &store.Person{Name: "owner", Role: store.Owner}, Mail: post})
	require.NoError(t, err)
	v = &webtest.Visitor{T: t, H: with}
	assert.Empty(t, post.sent, "nothing goes by itself")
	w = v.Do("POST", "/outbox/send", "messages="+una.ID)
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "no route to host")
	post.away = false
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/outbox/send", "messages="+una.ID).Code)
	require.Len(t, post.sent, 1)
	assert.Equal(t, "office@school.example", post.sent[0].From)
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("POST", "/outbox/send", "messages="+una.ID).Code, "once")
	assert.Len(t, post.sent, 1)
	assert.Equal(t, http.StatusSeeOther, v.Do("POST", "/outbox/"+other.ID, "do=given").Code)
	assert.Equal(t, http.StatusConflict, v.Do("POST", "/outbox/"+other.ID, "do=withdrawn").Code)
	assert.Equal(t, http.StatusUnprocessableEntity, v.Do("POST", "/outbox/"+other.ID, "do=burnt").Code)
}
