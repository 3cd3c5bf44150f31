package frame

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"sync"
	"time"
)

// Hub tells open pages what has changed. It lives in this one process; what it tells of is on
// the disk already, and a page that missed something reads all of it again.
type Hub struct {
	mu      sync.Mutex
	streams map[string]map[chan []byte]bool // topic → who listens
	present map[string]int                  // examiner → devices that listen
	open    int
}

const (
	mostStreams = 400              // open at once; more devices than any hall holds
	behind      = 64               // messages a slow device may be behind before it is told to read all again
	heartbeat   = 20 * time.Second // so that devices and proxies see that the line holds
	writeWithin = 10 * time.Second // a device that takes longer has gone
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

func (h *Hub) Attending() map[string]int {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := map[string]int{}
	for e, n := range h.present {
		out[e] = n
	}
	return out
}

// Topics.
func GradingTopic(id string) string { return "grading " + id }

func RingTopic(id string) string { return "ring " + id }

func TableTopic(examiner, group string) string { return "table " + examiner + " " + group }

type stoppingKey struct{}

// stopping is closed when the server is told to stop, so that streams end and do not hold it up.
func stopping(ctx context.Context) <-chan struct{} {
	ch, _ := ctx.Value(stoppingKey{}).(chan struct{})
	return ch
}

// Stream keeps a page told. first is sent at once; each message of the topics is sent as make
// turns it out, nil sends nothing. Between two sends there are at least pause.
func (fr *Frame) Stream(w http.ResponseWriter, r *http.Request, topics []string, first func() (any, error), turn func([]byte) (any, error), pause time.Duration) {
	all := make(chan []byte, behind)
	quit := make(chan struct{})
	defer close(quit)
	for _, t := range topics {
		ch, leave, ok := fr.Hub.listen(t)
		if !ok {
			http.Error(w, "Too many pages are open; close some and load this one again.", http.StatusServiceUnavailable)
			return
		}
		defer leave()
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
	begin, err := first()
	if err != nil {
		fr.FailJSON(w, r, err)
		return
	}
	line := http.NewResponseController(w)
	_ = line.SetReadDeadline(time.Time{}) // the server's bound is for requests, and this one stays open
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("X-Accel-Buffering", "no")
	w.WriteHeader(http.StatusOK)
	send := func(v any) bool {
		text, err := json.Marshal(v)
		if err != nil {
			fr.Log.Error("a stream could not be written", "error", err)
			return false
		}
		_ = line.SetWriteDeadline(time.Now().Add(writeWithin))
		if _, err := fmt.Fprintf(w, "data: %s\n\n", text); err != nil {
			return false
		}
		return line.Flush() == nil
	}
	if !send(begin) {
		return
	}
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for {
		select {
		case <-r.Context().Done():
			return
		case <-stopping(r.Context()):
			return
		case <-beat.C:
			if !fr.stillMay(r) {
				send(map[string]bool{"ended": true})
				return
			}
			_ = line.SetWriteDeadline(time.Now().Add(writeWithin))
			if _, err := fmt.Fprint(w, ": here\n\n"); err != nil || line.Flush() != nil {
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

// nowShow is the server's clock, for devices whose own differ.
func (fr *Frame) nowShow(w http.ResponseWriter, r *http.Request) {
	SendJSON(w, http.StatusOK, map[string]int64{"now": fr.records.Now().UnixMilli()})
}
