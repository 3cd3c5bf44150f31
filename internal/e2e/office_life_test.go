package e2e

import (
	"bufio"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// postOffice is a mail server on this machine that takes everything.
type postOffice struct {
	mu      sync.Mutex
	letters []string
	port    int
}

func openPostOffice(t *testing.T) *postOffice {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	p := &postOffice{port: l.Addr().(*net.TCPAddr).Port}
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go p.serve(c)
		}
	}()
	return p
}

func (p *postOffice) serve(c net.Conn) {
	defer c.Close()
	c.SetDeadline(time.Now().Add(20 * time.Second))
	in := bufio.NewReader(c)
	fmt.Fprint(c, "220 here\r\n")
	letter, writing := strings.Builder{}, false
	for {
		line, err := in.ReadString('\n')
		switch {
		case err != nil:
			return
		case writing && line == ".\r\n":
			writing = false
			p.mu.Lock()
			p.letters = append(p.letters, letter.String())
			p.mu.Unlock()
			letter.Reset()
			fmt.Fprint(c, "250 taken\r\n")
		case writing:
			letter.WriteString(line)
		case strings.HasPrefix(line, "DATA"):
			writing = true
			fmt.Fprint(c, "354 go on\r\n")
		case strings.HasPrefix(line, "QUIT"):
			fmt.Fprint(c, "221 bye\r\n")
			return
		default:
			fmt.Fprint(c, "250 ok\r\n")
		}
	}
}

func (p *postOffice) got() []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return append([]string{}, p.letters...)
}

// TestTheOffice is the owner's quiet hour, from an empty database with sign-in: settings with a mistake and undone, an examiner,
// a student who is written to, seen and erased, a backup, and nothing lost by a power cut.
func TestTheOffice(t *testing.T) {
	t.Parallel()
	post := openPostOffice(t)
	dir := t.TempDir()
	db := filepath.Join(dir, "school.db")
	s := start(t, "serve", "--db", db, "--addr", "127.0.0.1:0", "--mail-host", "127.0.0.1", "--mail-port", fmt.Sprint(post.port), "--mail-security", "plain")
	x := open(t, s, 1024, 768)
	x.visit("/welcome?code=" + x.code)
	for name, v := range map[string]string{"name": "Rosa Castell", "sign_in": "rosa", "password": "four odd grain sacks", "school": "Mill"} {
		x.fill(name, v)
	}
	x.submit("main .is-primary")

	// Settings: a mistake keeps what was typed; what is right changes the picture, and can be undone.
	x.visit("/settings")
	x.fill("wording", "{name} is now {rank} 🥋")
	x.fill("seal", "水車")
	x.submit("main .is-primary")
	assert.Contains(t, x.text(), "“🥋” (character 22) cannot be printed")
	assert.Equal(t, "水車", eval[string](x, `document.getElementById("f-seal").value`), "what was typed is kept")
	x.accessible("settings with a mistake")
	x.fill("wording", "{name} is now {rank}")
	x.fill("mail_from", "office@mill.example")
	x.submit("main .is-primary")
	assert.Contains(t, eval[string](x, `document.querySelector("svg.paper").textContent`), "水車")
	x.visit("/settings")
	assert.Equal(t, "office@mill.example", eval[string](x, `document.getElementById("f-mail_from").value`))

	x.visit("/officers")
	x.fill("name", "Dorothea Duvall")
	x.submit("aside .is-primary")
	assert.Contains(t, x.text(), "no rank on record: not looked at")
	x.submit(".done button")
	assert.NotContains(t, eval[string](x, `document.querySelector("main").innerText`), "Dorothea")

	// A program, a student, a grading; the family is written to, and the letter leaves when somebody says so.
	x.visit("/programs/new")
	x.fill("name", "Kenpo")
	x.submit("main .is-primary")
	for _, rung := range []string{"White belt", "Orange belt"} {
		x.visit("/rungs/new")
		x.fill("name", rung)
		x.submit("main .is-primary")
	}
	x.visit("/students/new")
	for name, v := range map[string]string{"name": "Ada Rillington", "birth_date": "2016-04-30", "guardian": "Una Rillington", "contact": "una@family.example", "height_cm": "132", "weight_kg": "30"} {
		x.fill(name, v)
	}
	eval[bool](x, `(() => { const r = document.querySelector('[name="rung"]'); if (r) r.selectedIndex = [...r.options].findIndex(o => o.textContent.includes("White")); return true })()`)
	x.submit("main .is-primary")
	x.visit("/students?of=everybody")
	student := eval[string](x, `new URL([...document.querySelectorAll("main table a")].find(a => a.textContent.includes("Ada Rillington")).href).pathname`)
	x.visit(student)
	if eval[bool](x, `document.querySelector('form[action$="/enrol"]') !== null`) {
		eval[bool](x, `(() => { const f = document.querySelector('form[action$="/enrol"]'), r = f.querySelector('[name="rung"]'); f.closest("details")?.setAttribute("open", ""); r.selectedIndex = [...r.options].findIndex(o => o.textContent.includes("White")); return true })()`)
		x.submit(`form[action$="/enrol"] .button`)
	}
	x.visit("/gradings/new")
	eval[bool](x, `document.querySelector('[name="rungs"]').checked = true`)
	x.fill("examiner", "Dorothea Duvall")
	x.submit("main .is-primary")
	grading := eval[string](x, `location.pathname.split("/")[2]`)
	eval[bool](x, `document.querySelector('[name="candidates"]').checked = true`)
	x.submit(`form[action$="/candidates"] .is-primary`)
	x.visit("/checklist/" + grading)
	x.submit(`form[action$="/write"] .is-primary`)
	assert.Empty(t, post.got(), "nothing leaves by itself")
	x.submit(`form[action="/outbox/send"] .is-primary`)
	assert.Contains(t, x.text(), "sent")
	require.Len(t, post.got(), 1)
	assert.Contains(t, post.got()[0], "To: \"Una Rillington\" <una@family.example>")

	// A backup at once; the power goes; everything is there.
	x.visit("/backups")
	x.submit("main .is-primary")
	assert.Contains(t, x.text(), "was made, opened and looked through")
	s.kill()
	s.restart()
	x.visit("/outbox")
	assert.Contains(t, x.text(), "◆ sent")
	kept, err := os.ReadDir(filepath.Join(dir, "backups"))
	require.NoError(t, err)
	assert.Len(t, kept, 1)

	// Who asks to be forgotten is, once the name is written and no result is open.
	x.visit(student + "/record")
	x.accessible("record")
	x.fill("confirm", "Somebody else")
	x.submit(`form[action$="/erase"] .button`)
	assert.Contains(t, x.text(), "is not the name of the student")
	x.visit("/gradings/" + grading)
	eval[bool](x, `document.querySelector("details.leaves").open = true`)
	x.submit(`form[action$="/withdraw"] .button`)
	x.visit(student + "/record")
	x.fill("confirm", "Ada Rillington")
	x.submit(`form[action$="/erase"] .button`)
	x.visit("/students")
	assert.NotContains(t, x.text(), "Rillington")
	s.stop()
	out, err := runProgram("move-out", "--db", db)
	require.NoError(t, err)
	for _, word := range []string{"Rillington", "una@family.example"} {
		assert.False(t, strings.Contains(out, word), "%s is gone from the records", word)
	}
}
