package store

import (
	"context"
	"time"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/office"
)

// Message is a message in the outbox. Its text stays as it was written.
type Message struct {
	ID, Kind                  string // kind: bring, result
	GradingID, CandidateID    string
	StudentID, Student        string
	ToName, Address           string // Address "": none is on record
	Subject, Body             string
	Actor                     string
	At                        time.Time
	State, StateText, StateBy string // sent, failed, given, withdrawn; "" it waits
	StateAt                   time.Time
}

// Withdrawn reports whether the message will not go.
func (m Message) Withdrawn() bool { return m.State == "withdrawn" }

// Waits reports whether it may still go.
func (m Message) Waits() bool { return m.State == "" || m.State == "failed" }

// messages are the newest first.
func (s *Store) messages(ctx context.Context, where string, args ...any) ([]Message, error) {
	return list(ctx, s.r, func(m *Message) []any {
		return []any{&m.ID, &m.Kind, asText{&m.GradingID}, asText{&m.CandidateID}, &m.StudentID, &m.Student, &m.ToName, &m.Address, &m.Subject, &m.Body, &m.Actor, asTime{&m.At}, asText{&m.State}, asText{&m.StateText}, asText{&m.StateBy}, asTime{&m.StateAt}}
	}, `SELECT m.id, m.kind, m.grading_id, m.candidate_id, m.student_id, s.name, m.to_name, m.address, m.subject, m.body, m.actor, m.at, e.kind, e.text, e.actor, e.at
		FROM message m JOIN student s ON s.id = m.student_id LEFT JOIN message_event e ON e.rowid = (SELECT max(x.rowid) FROM message_event x WHERE x.message_id = m.id)
		WHERE `+where+` ORDER BY m.at DESC, m.rowid DESC`, args...)
}

// OutboxLimit is how many messages a page of the outbox shows.
const OutboxLimit = 300

// Outbox are the newest messages; waiting only those that may still go.
func (s *Store) Outbox(ctx context.Context, waiting bool) ([]Message, error) {
	return s.messages(ctx, `m.rowid > (SELECT coalesce(max(rowid), 0) FROM message) - ? AND (? = 0 OR coalesce(e.kind, 'failed') = 'failed')`, OutboxLimit, waiting)
}

// Message is one of them.
func (s *Store) Message(ctx context.Context, id string) (Message, error) {
	all, err := s.messages(ctx, `m.id = ?`, id)
	if err == nil && len(all) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Message{}, err
	}
	return all[0], nil
}

// WriteMessages puts messages into the outbox; all or none. Nothing leaves by that.
func (s *Store) WriteMessages(ctx context.Context, by By, all []Message) (Done, error) {
	if len(all) == 0 {
		return Done{}, check.Problems{{Field: "candidates", Text: "nobody is chosen; tick at least one candidate"}}
	}
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		for _, m := range all {
			if err := t.exec(ctx, `INSERT INTO message (id, kind, grading_id, candidate_id, student_id, to_name, address, subject, body, actor, at) VALUES (?, ?, nullif(?, ''), nullif(?, ''), ?, ?, ?, ?, ?, ?, ?)`,
				NewID(), m.Kind, m.GradingID, m.CandidateID, m.StudentID, check.Tidy(m.ToName), check.Tidy(m.Address), check.Tidy(m.Subject), m.Body, t.by.Actor, t.at); err != nil {
				return "", office.Deed{}, err
			}
		}
		return all[0].GradingID, office.MessagesWritten.Many(len(all)), nil
	})
}

// SettleMessage notes what became of a message: sent, failed, given by hand, or withdrawn. One that is
// gone, or withdrawn, is settled.
func (s *Store) SettleMessage(ctx context.Context, by By, id, kind, text string) (Done, error) {
	return s.write(ctx, by, func(t *txn) (string, office.Deed, error) {
		state, err := one(ctx, t, func(k *string) []any { return []any{asText{k}} }, `SELECT (SELECT kind FROM message_event WHERE message_id = m.id ORDER BY rowid DESC LIMIT 1) FROM message m WHERE m.id = ?`, id)
		if err != nil {
			return "", office.Deed{}, err
		}
		if state != "" && state != "failed" {
			return "", office.Deed{}, refuse("This message has been %s already.", state)
		}
		deed := map[string]office.DeedKind{"sent": office.MessageSent, "failed": office.MessageFailed, "given": office.MessageGiven, "withdrawn": office.MessageWithdrawn}
		return id, office.Deed{Kind: deed[kind]}, t.exec(ctx, `INSERT INTO message_event (id, message_id, kind, text, actor, at) VALUES (?, ?, ?, ?, ?, ?)`, NewID(), id, kind, text, t.by.Actor, t.at)
	})
}
