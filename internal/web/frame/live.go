package frame

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"sync"
	"sync/atomic"
	"time"
)

// Hub tells open pages what has changed. It lives in this one process; what it tells of is on
// the disk already, and a page that missed something reads all of it again.
type Hub struct {
	mu      sync.Mutex
	streams map[string]map[chan []byte]bool // topic → who listens
	present map[string]int                  // examiner → devices that listen
	held    map[string]int                  // device, person → streams
	open    int
	access  atomic.Int64 // grows with every sign-out and every seat that ends
}

const (
	mostStreams  = 400              // open at once; more devices than any hall holds
	mostOfDevice = 12               // of them, so that one device silences nobody
	mostOfPerson = 60               // on all their devices
	lookAgain    = time.Second / 2  // how soon somebody who is let in no longer hears nothing more
	behind       = 64               // messages a slow device may be behind before it is told to read all again
	heartbeat    = 20 * time.Second // so that devices and proxies see that the line holds
	writeWithin  = 10 * time.Second // a device that takes longer has gone
)

// resync tells a page that it missed something.
var resync = []byte(`{"resync":true}`)

func (h *Hub) listen(topic string) (chan []byte, func(), bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.open >= mostStreams {
		return nil, nil, false
	}
	if h.streams == nil {
		h.streams = map[string]map[chan []byte]bool{}
	}
	if h.streams[topic] == nil {
		h.streams[topic] = map[chan []byte]bool{}
	}
	ch := make(chan []byte, behind)
	h.streams[topic][ch] = true
	h.open++
	return ch, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.streams[topic], ch)
		if len(h.streams[topic]) == 0 {
			delete(h.streams, topic)
		}
		h.open--
	}, true
}

// hold counts a stream for its holders, unless one of them has as many as they may.
func (h *Hub) hold(holders map[string]int) (release func(), ok bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for who, most := range holders {
		if h.held[who] >= most {
			return nil, false
		}
	}
	if h.held == nil {
		h.held = map[string]int{}
	}
	for who := range holders {
		h.held[who]++
	}
	return func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		for who := range holders {
			if h.held[who]--; h.held[who] <= 0 {
				delete(h.held, who)
			}
		}
	}, true
}

// LookAgain has every open stream look whether its device is still let in.
func (h *Hub) LookAgain() { h.access.Add(1) }

// Tell sends a message to all who listen to a topic. Whoever is too far behind is told to read
// all again in its place.
func (h *Hub) Tell(topic string, message any) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.streams[topic]) == 0 {
		return
	}
	text, err := json.Marshal(message)
	if err != nil {
		panic(err) // our own types always marshal
	}
	for ch := range h.streams[topic] {
		if len(ch) < behind-1 {
			ch <- text
		} else if len(ch) == behind-1 {
			ch <- resync
		}
	}
}

// TableTopic is what is told of one examiner's sheet of a group.
func TableTopic(examiner, group string) string { return "table " + examiner + " " + group }

// Attend counts a device of an examiner in, until the answer is called.
func (h *Hub) Attend(examiner string, by int) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.present == nil {
		h.present = map[string]int{}
	}
	if h.present[examiner] += by; h.present[examiner] <= 0 {
		delete(h.present, examiner)
	}
}

// Attending are the devices that listen, by examiner.
func (h *Hub) Attending() map[string]int {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := map[string]int{}
	for e, n := range h.present {
		out[e] = n
	}
	return out
}

// GradingTopic is what is told of a whole grading.
func GradingTopic(id string) string { return "grading " + id }

type stoppingKey struct{}

// stopping is closed when the server is told to stop, so that streams end and do not hold it up.
func stopping(ctx context.Context) <-chan struct{} {
	ch, _ := ctx.Value(stoppingKey{}).(chan struct{})
	return ch
}

// listenAll listens to several topics in one channel until leave is called.
func (h *Hub) listenAll(topics []string) (all chan []byte, leave func(), ok bool) {
	all, quit := make(chan []byte, behind), make(chan struct{})
	var each []func()
	leave = func() {
		close(quit)
		for _, f := range each {
			f()
		}
	}
	for _, t := range topics {
		ch, one, ok := h.listen(t)
		if !ok {
			leave()
			return nil, nil, false
		}
		each = append(each, one)
		go func() {
			for {
				select {
				case m := <-ch:
					select {
					case all <- m:
					case <-quit:
						return
					}
				case <-quit:
					return
				}
			}
		}()
	}
	return all, leave, true
}

// line is an open stream to one page.
type line struct {
	w   http.ResponseWriter
	ctl *http.ResponseController
}

// errGone says that the page is not there any more.
var errGone = errors.New("the page has gone")

func newLine(w http.ResponseWriter) line {
	ctl := http.NewResponseController(w)
	_ = ctl.SetReadDeadline(time.Time{}) // the server's bound is for requests, and this one stays open
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("X-Accel-Buffering", "no")
	w.WriteHeader(http.StatusOK)
	return line{w, ctl}
}

// send sends a message as JSON.
func (l line) send(v any) error {
	text, err := json.Marshal(v)
	if err != nil {
		return err
	}
	return l.write("data: " + string(text) + "\n\n")
}

func (l line) write(text string) error {
	_ = l.ctl.SetWriteDeadline(time.Now().Add(writeWithin))
	if _, err := fmt.Fprint(l.w, text); err != nil || l.ctl.Flush() != nil {
		return errGone
	}
	return nil
}

// Stream keeps a page told. first is sent at once; each message of the topics is sent as make
// turns it out, nil sends nothing. Between two sends there are at least pause.
// It is one loop over all that may happen while the page is open, so it is longer than a screen.
func (fr *Frame) Stream(w http.ResponseWriter, r *http.Request, topics []string, first func() (any, error), turn func([]byte) (any, error), pause time.Duration) {
	access := fr.accessNow() // before the page hears anything: what changes from then on is looked at
	release, ok := fr.Hub.hold(fr.holders(r))
	if !ok {
		http.Error(w, "Too many pages are open on this device or by this person; close some and load this one again.", http.StatusTooManyRequests)
		return
	}
	defer release()
	all, leave, ok := fr.Hub.listenAll(topics)
	if !ok {
		http.Error(w, "Too many pages are open; close some and load this one again.", http.StatusServiceUnavailable)
		return
	}
	defer leave()
	begin, err := first()
	if err != nil {
		fr.FailJSON(w, r, err)
		return
	}
	line := newLine(w)
	send := func(v any) bool {
		err := line.send(v)
		if err != nil && !errors.Is(err, errGone) {
			fr.Log.Error("a stream could not be written", "error", err)
		}
		return err == nil
	}
	if !send(begin) {
		return
	}
	beat, look := time.NewTicker(heartbeat), time.NewTicker(lookAgain)
	defer beat.Stop()
	defer look.Stop()
	over := func() bool {
		may, err := fr.stillMay(r)
		if err != nil { // trouble with the file sends nobody home
			fr.Log.Error("who listens could not be looked at", "error", err)
		} else if !may {
			send(map[string]bool{"ended": true})
		}
		return !may
	}
	for {
		select {
		case <-r.Context().Done():
			return
		case <-stopping(r.Context()):
			return
		case <-look.C:
			if now := fr.accessNow(); now == access {
				continue
			} else if access = now; over() {
				return
			}
		case <-beat.C: // another program may have changed who is let in
			if over() || line.write(": here\n\n") != nil {
				return
			}
		case m := <-all:
			v, err := turn(m)
			if err != nil {
				fr.Log.Error("a stream could not be read", "error", err)
				return
			}
			if v != nil && !send(v) {
				return
			}
			if pause > 0 {
				select {
				case <-time.After(pause):
				case <-r.Context().Done():
					return
				}
				for len(all) > 0 { // all that came meanwhile is in the next reading
					<-all
					if len(all) == 0 {
						if v, err := turn(nil); err == nil && v != nil && !send(v) {
							return
						}
					}
				}
			}
		}
	}
}

// accessNow changes with every deed and with every sign-out: only then somebody may be let in no longer.
func (fr *Frame) accessNow() int64 { return fr.records.Seen() + fr.Hub.access.Load() }

// nowShow is the server's clock, for devices whose own differ.
func (fr *Frame) nowShow(w http.ResponseWriter, r *http.Request) {
	SendJSON(w, http.StatusOK, map[string]int64{"now": fr.records.Now().UnixMilli()})
}
