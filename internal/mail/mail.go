// Package mail turns messages of the outbox into mail: as a file for any mail program, or
// through a server the school has named.
package mail

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/wneessen/go-mail"
)

// Letter is one message. ID makes its Message-ID, so that a letter sent twice is known as one.
type Letter struct {
	ID             string
	FromName, From string // From "": the letter cannot be made
	ToName, To     string
	Subject, Body  string
	At             time.Time
}

// Sender takes letters out of the house.
type Sender interface {
	Send(ctx context.Context, l Letter) error
	// Where says through what, for people: "mail.school.example:587".
	Where() string
}

// ErrAddress is wrapped where an address cannot be written to.
var ErrAddress = errors.New("not a mail address")

func compose(l Letter) (*mail.Msg, error) {
	m := mail.NewMsg(mail.WithEncoding(mail.EncodingQP))
	if err := m.FromFormat(l.FromName, l.From); err != nil {
		return nil, fmt.Errorf("%w: the school's own, %q", ErrAddress, l.From)
	}
	if err := m.AddToFormat(l.ToName, l.To); err != nil {
		return nil, fmt.Errorf("%w: %q", ErrAddress, l.To)
	}
	m.Subject(l.Subject)
	m.SetDateWithValue(l.At)
	m.SetMessageIDWithValue(l.ID + "@velvetladder.invalid")
	m.SetBodyString(mail.TypeTextPlain, l.Body)
	return m, nil
}

// EML is the letter as a file that mail programs open.
func EML(l Letter) ([]byte, error) {
	m, err := compose(l)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	_, err = m.WriteTo(&out)
	return out.Bytes(), err
}

// Security says how the way to the server is kept.
type Security string

// The ways. Plain is for a server on the same machine.
const (
	StartTLS Security = "starttls" // begins plain and must turn to TLS
	TLS      Security = "tls"      // from the first byte
	Plain    Security = "plain"
)

// SMTP sends through a server. User "" signs in as nobody.
type SMTP struct {
	Host           string
	Port           int
	User, Password string
	Security       Security // "" is StartTLS
}

// timeout bounds one letter on its way.
const timeout = 20 * time.Second

// Where is host and port.
func (s SMTP) Where() string { return fmt.Sprintf("%s:%d", s.Host, s.Port) }

// Send hands one letter to the server, and fails unless the server takes it.
func (s SMTP) Send(ctx context.Context, l Letter) error {
	m, err := compose(l)
	if err != nil {
		return err
	}
	options := []mail.Option{mail.WithPort(s.Port), mail.WithTimeout(timeout)}
	switch s.Security {
	case TLS:
		options = append(options, mail.WithSSL())
	case Plain:
		options = append(options, mail.WithTLSPolicy(mail.NoTLS))
	default:
		options = append(options, mail.WithTLSPolicy(mail.TLSMandatory))
	}
	if s.User != "" {
		options = append(options, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(s.User), mail.WithPassword(s.Password))
	}
	c, err := mail.NewClient(s.Host, options...)
	if err != nil {
		return err
	}
	return c.DialAndSendWithContext(ctx, m)
}
