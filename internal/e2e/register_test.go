package e2e

import (
	"context"
	"io"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/store"
)

// wire stands between browser and server and can be cut.
type wire struct {
	l     net.Listener
	to    string
	mu    sync.Mutex
	cut   bool
	conns []net.Conn
}

func newWire(t *testing.T, to string) *wire {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	w := &wire{l: l, to: strings.TrimPrefix(to, "http://")}
	t.Cleanup(func() { l.Close(); w.set(true) })
	go w.run()
	return w
}

func (w *wire) url() string { return "http://" + w.l.Addr().String() }

func (w *wire) run() {
	for {
		in, err := w.l.Accept()
		if err != nil {
			return
		}
		w.mu.Lock()
		cut := w.cut
		w.mu.Unlock()
		out, err := net.Dial("tcp", w.to)
		if cut || err != nil {
			in.Close()
			if err == nil {
				out.Close()
			}
			continue
		}
		w.mu.Lock()
		w.conns = append(w.conns, in, out)
		w.mu.Unlock()
		for _, way := range [][2]net.Conn{{in, out}, {out, in}} {
			go func() {
				io.Copy(way[0], way[1])
				way[0].Close()
				way[1].Close()
			}()
		}
	}
}

// set cuts the wire, with all that is under way, or mends it.
func (w *wire) set(cut bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.cut = cut
	if cut {
		for _, c := range w.conns {
			c.Close()
		}
		w.conns = nil
	}
}

const (
	tapRow  = `(n => { const r = document.querySelectorAll('.here-list li[data-student]')[n]; r.querySelector('.tap').click(); return r.dataset.student })`
	stored  = `document.querySelector('[data-kept]').textContent === '◉ all stored'`
	waiting = `/kept here/.test(document.querySelector('[data-kept]').textContent)`
)

// TestRegisterWithoutNetwork keeps a register while the network is cut for half the class and
// the server is killed once; the page is loaded again without network in between. Every tap is
// on record exactly once.
func TestRegisterWithoutNetwork(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	w := newWire(t, s.url)
	x := open(t, &server{t: t, url: w.url()}, 390, 844)
	class, on := todaysClass(x)
	path := "/register/" + class + "/" + on
	x.visit(path)
	x.until(`navigator.serviceWorker.controller !== null || navigator.serviceWorker.ready.then(() => false) === 0`)
	x.visit(path) // once under the service worker, so that the page is kept
	x.accessible("register")
	x.until(stored)
	var came []string
	tap := func(n int) { came = append(came, eval[string](x, tapRow+"("+string(rune('0'+n))+")")) }
	for n := range 3 {
		tap(n)
	}
	x.until(stored)
	assert.Empty(t, eval[string](x, `document.querySelector('[data-said]').textContent`))
	w.set(true)
	for n := 3; n < 6; n++ {
		tap(n)
	}
	eval[bool](x, `document.querySelectorAll('.here-list li[data-student]')[0].querySelector('[data-late]').click() || true`)
	eval[bool](x, `(document.querySelector('#f-visitor').value = 'Vera Trial', document.querySelector('[data-add-visitor]').click(), true)`)
	x.until(waiting)
	assert.Contains(t, x.text(), "5 kept here: no connection")
	x.visit(path) // without network: the kept page, and what waits laid over it
	x.until(waiting)
	assert.Equal(t, 7, eval[int](x, `document.querySelectorAll('.tap[aria-pressed="true"]').length`))
	assert.Equal(t, "7", eval[string](x, `document.querySelector('[data-count]').textContent`))
	tap(6)
	tap(3) // and out again
	s.kill()
	w.set(false)
	x.until(waiting)
	s.restart()
	x.until(stored)
	assert.Empty(t, eval[string](x, `document.querySelector('[data-said]').textContent`))
	tap(7)
	x.until(stored)
	x.visit(path)
	assert.Equal(t, 7, eval[int](x, `document.querySelectorAll('.here-list li[data-student] .tap[aria-pressed="true"]').length`))

	// A second device sees the same, and enters somebody the first has entered too.
	y := open(t, s, 1024, 768)
	y.visit(path)
	assert.Equal(t, 8, eval[int](y, `document.querySelectorAll('.tap[aria-pressed="true"]').length`))
	tap(8)
	x.until(stored)
	eval[string](y, tapRow+"(8)")
	y.until(stored)
	s.stop()

	records, err := store.Open(context.Background(), s.db(), time.Now)
	require.NoError(t, err)
	defer records.Close()
	c, err := records.Class(context.Background(), class)
	require.NoError(t, err)
	people, visitors, _, err := records.RegisterOf(context.Background(), c, civil.MustParse(on))
	require.NoError(t, err)
	states := map[string]gradingday.AttendanceState{}
	for _, p := range people {
		if p.Entry != nil {
			states[p.StudentID] = p.Entry.State
		}
	}
	require.Len(t, visitors, 1)
	assert.Equal(t, "Vera Trial", visitors[0].Visitor)
	assert.Len(t, states, 9, "each once")
	for i, id := range came[:6] {
		want := gradingday.Present
		switch i {
		case 0:
			want = gradingday.Late
		case 3:
			want = gradingday.Absent
		}
		assert.Equal(t, want, states[id], "%d", i)
	}
}

// todaysClass is the class of today's timetable with the most students.
func todaysClass(x *tab) (class, on string) {
	x.visit("/classes")
	path := eval[string](x, `[...document.querySelectorAll('.tonight a[href^="/register/"]')].pop().getAttribute('href')`)
	parts := strings.Split(path, "/")
	return parts[2], parts[3]
}

// TestNothingPutInEarlyIsForgotten: entries that come while the device's own database is still being opened, at whatever
// moment, are sent like any others.
func TestNothingPutInEarlyIsForgotten(t *testing.T) {
	t.Parallel()
	s := startDemo(t)
	x := open(t, s, 1024, 768)
	class, on := todaysClass(x)
	x.visit("/checkin/" + class + "/" + on)
	eval[bool](x, `(async () => {
		const { Queue } = await import(document.querySelector("script[type=module]").src.replace("checkin.js", "lib/queue.js"));
		window.answered = [];
		const later = (n) => n === 0 ? Promise.resolve() : n < 6 ? Promise.resolve().then(() => later(n - 1)) : new Promise((done) => setTimeout(done, n - 6));
		for (let round = 0; round < 24; round++) {
			const q = new Queue(location.pathname + "?" + round, { changed() {}, refused(e) { window.answered.push(e.id); }, stored(e) { window.answered.push(e.id); } });
			const opened = q.open(Date.now());
			later(round).then(() => q.put({ id: ("0000000000000000000" + round).slice(-20), number: "9999" }));
			await opened;
		}
		return true;
	})()`)
	x.until(`new Set(window.answered).size === 24`)
	x.visit("/checkin/" + class + "/" + on)
	x.until(`document.querySelector("[data-kept]").textContent === "◉ all stored"`)
}
