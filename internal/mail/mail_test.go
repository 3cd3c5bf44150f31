package mail

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"mime"
	"mime/quotedprintable"
	"net"
	netmail "net/mail"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var letter = Letter{ID: "abc", FromName: "Marrowby Mühle", From: "office@school.example", ToName: "Łucja Una Rill", To: "una@family.example", Subject: "Ada: the grading on Sat 12 Dec 2026 – bring Schützer 風車", Body: "Dear Łucja,\n\n.a line that begins with a dot\n" + strings.Repeat("long ", 60) + "\n", At: time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)}

// read takes a letter apart with the standard library.
func read(t *testing.T, r io.Reader) {
	m, err := netmail.ReadMessage(r)
	require.NoError(t, err)
	subject, err := new(mime.WordDecoder).DecodeHeader(m.Header.Get("Subject"))
	require.NoError(t, err)
	assert.Equal(t, letter.Subject, subject)
	to, err := m.Header.AddressList("To")
	require.NoError(t, err)
	assert.Equal(t, []*netmail.Address{{Name: letter.ToName, Address: letter.To}}, to)
	assert.Contains(t, m.Header.Get("Message-Id"), "abc@")
	body, err := io.ReadAll(quotedprintable.NewReader(m.Body))
	require.NoError(t, err)
	assert.Equal(t, strings.TrimSpace(letter.Body), strings.TrimSpace(strings.ReplaceAll(string(body), "\r\n", "\n")))
}

func TestLettersAsFiles(t *testing.T) {
	text, err := EML(letter)
	require.NoError(t, err)
	for line := range strings.Lines(string(text)) {
		assert.LessOrEqual(t, len(line), 80)
	}
	read(t, bytes.NewReader(text))
	for _, l := range []Letter{{From: "office@school.example", To: ""}, {From: "", To: "a@b.example"}, {From: "office@school.example", To: "no address"}, {From: "office@school.example", To: "a@b.example\r\nBcc: all@x.example"}} {
		_, err := EML(l)
		assert.ErrorIs(t, err, ErrAddress, l.To)
	}
	// A subject cannot smuggle in a header.
	l := letter
	l.Subject = "x\r\nBcc: everybody@x.example"
	text, err = EML(l)
	if err == nil {
		m, err := netmail.ReadMessage(bytes.NewReader(text))
		require.NoError(t, err)
		assert.Empty(t, m.Header.Get("Bcc"))
	}
}

// standIn is a mail server for one letter.
func standIn(t *testing.T, refuse string) (host string, port int, got *bytes.Buffer, done *sync.WaitGroup) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	got, done = &bytes.Buffer{}, &sync.WaitGroup{}
	done.Go(func() {
		c, err := l.Accept()
		if err != nil {
			return
		}
		defer c.Close()
		c.SetDeadline(time.Now().Add(3 * time.Second)) // whoever leaves without a word is not waited for
		in := bufio.NewReader(c)
		say := func(s string) { fmt.Fprintf(c, "%s\r\n", s) }
		say("220 stand-in")
		for {
			line, err := in.ReadString('\n')
			if err != nil {
				return
			}
			switch verb := strings.ToUpper(strings.Fields(line + " x")[0]); verb {
			case "EHLO":
				say("250-stand-in")
				say("250 8BITMIME")
			case "RCPT":
				if refuse != "" {
					say(refuse)
					continue
				}
				say("250 ok")
			case "DATA":
				say("354 go on")
				for {
					line, err := in.ReadString('\n')
					if err != nil {
						return
					}
					if line == ".\r\n" {
						break
					}
					got.WriteString(strings.TrimPrefix(line, "."))
				}
				say("250 taken")
			case "QUIT":
				say("221 bye")
				return
			default:
				say("250 ok")
			}
		}
	})
	return "127.0.0.1", l.Addr().(*net.TCPAddr).Port, got, done
}

func TestLettersThroughAServer(t *testing.T) {
	host, port, got, done := standIn(t, "")
	s := SMTP{Host: host, Port: port, Security: Plain}
	assert.Equal(t, fmt.Sprintf("127.0.0.1:%d", port), s.Where())
	require.NoError(t, s.Send(t.Context(), letter))
	done.Wait()
	read(t, got)

	host, port, got, done = standIn(t, "550 no such family")
	err := SMTP{Host: host, Port: port, Security: Plain}.Send(t.Context(), letter)
	assert.ErrorContains(t, err, "no such family")
	done.Wait()
	assert.Zero(t, got.Len())

	host, port, got, done = standIn(t, "")
	assert.Error(t, SMTP{Host: host, Port: port}.Send(t.Context(), letter), "without TLS nothing goes, unless it is said")
	done.Wait()
	assert.Zero(t, got.Len())
	assert.Error(t, SMTP{Host: "127.0.0.1", Port: 1, Security: Plain}.Send(t.Context(), letter))
}
