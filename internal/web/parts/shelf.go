package parts

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"sync"
	"time"

	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

const (
	shelfFor  = 2 * time.Hour          // a file that was looked at waits for its sender
	shelfMost = 12                     // files that wait; the oldest goes
	shelfWait = 800 * time.Millisecond // what is read in so quickly needs no page of its own
)

// Shelf keeps tables that were sent and are looked at before anything of them is on record: in memory alone, each for its sender.
type Shelf[T any] struct {
	mu  sync.Mutex
	all []*Incoming[T]
}

// Incoming is a table on the shelf, with what its sender has chosen about it.
type Incoming[T any] struct {
	ID     string
	person string
	at     time.Time

	mu    sync.Mutex
	what  T
	begun bool
	done  int
	of    int
	to    string // where it is seen once it is in
	err   error
	ended chan struct{}
}

// Put lays a table on the shelf.
func (s *Shelf[T]) Put(person string, what T, now time.Time) *Incoming[T] {
	s.mu.Lock()
	defer s.mu.Unlock()
	x := &Incoming[T]{ID: store.NewID(), person: person, at: now, what: what, ended: make(chan struct{})}
	kept := []*Incoming[T]{}
	for _, old := range s.all {
		if now.Sub(old.at) < shelfFor {
			kept = append(kept, old)
		}
	}
	s.all = append(kept, x)
	if len(s.all) > shelfMost {
		s.all = s.all[1:]
	}
	return x
}

// Of is the table of an id, for whoever sent it; nil where it is not here any more.
func (s *Shelf[T]) Of(person, id string, now time.Time) *Incoming[T] {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, x := range s.all {
		if x.ID == id && x.person == person && now.Sub(x.at) < shelfFor {
			return x
		}
	}
	return nil
}

// Look is the table as its sender has chosen so far.
func (x *Incoming[T]) Look() T {
	x.mu.Lock()
	defer x.mu.Unlock()
	return x.what
}

// Choose changes what was chosen.
func (x *Incoming[T]) Choose(what T) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.what = what
}

// Progress is how far a table is on its way to the records.
type Progress struct {
	Done int    `json:"done"`
	Of   int    `json:"of"`
	To   string `json:"to,omitempty"` // where to go, once it has ended
}

// Progress is how far it is; running is false where nobody has begun.
func (x *Incoming[T]) Progress() (p Progress, running bool, err error) {
	x.mu.Lock()
	defer x.mu.Unlock()
	return Progress{x.done, x.of, x.to}, x.begun, x.err
}

// Begin puts a table on record, in the background, once: run is handed a step to be told how many rows are in, and says where to go.
// It waits for a moment; to is where to go then: a short table is in by that time, a long one shows how far it is at here. What
// went wrong can be mended, and begun again.
func (x *Incoming[T]) Begin(of int, here string, run func(step func(done int)) (to string, err error)) (to string, err error) {
	x.mu.Lock()
	if !x.begun {
		x.begun, x.done, x.of, x.err, x.ended = true, 0, of, nil, make(chan struct{})
		go func(ended chan struct{}) {
			to, err := kept(run, func(done int) {
				x.mu.Lock()
				x.done = done
				x.mu.Unlock()
			})
			x.mu.Lock()
			if x.to, x.err = to, err; err != nil {
				x.begun = false
			}
			x.mu.Unlock()
			close(ended)
		}(x.ended)
	}
	ended := x.ended
	x.mu.Unlock()
	select {
	case <-ended:
		p, _, err := x.Progress()
		return p.To, err
	case <-time.After(shelfWait):
		return here, nil
	}
}

// kept runs what puts a table on record; should it give up, that is an error, and the program goes on.
func kept(run func(func(int)) (string, error), step func(int)) (to string, err error) {
	defer func() {
		if v := recover(); v != nil {
			err = fmt.Errorf("reading in gave up: %v", v)
		}
	}()
	return run(step)
}

// Send takes a file out of a form, and leads to the page on which it is looked at, below at. What cannot be opened is wrong.
func (s *Shelf[T]) Send(p *Parts, w http.ResponseWriter, r *http.Request, at string, open func(name string, data []byte, form url.Values) (T, error), wrong func(error)) {
	form, _, err := frame.Posted(r)
	name, data := "", []byte(nil)
	if err == nil {
		name, data, err = frame.SentFile(r, form)
	}
	if err != nil {
		p.Fail(w, r, err)
		return
	}
	what, err := open(name, data, form)
	if err != nil {
		wrong(err)
		return
	}
	http.Redirect(w, r, at+"/"+s.Put(frame.PersonOf(r).ID, what, p.records.Now()).ID, http.StatusSeeOther)
}

// Asked is the table an address below at names; one that is gone leads back to where files are chosen.
func (s *Shelf[T]) Asked(p *Parts, w http.ResponseWriter, r *http.Request, at string) *Incoming[T] {
	x := s.Of(frame.PersonOf(r).ID, r.PathValue("file"), p.records.Now())
	if x == nil {
		http.Redirect(w, r, at+"?why=file-gone", http.StatusSeeOther)
	}
	return x
}

// Arriving answers a script that asks how far a table is.
func (s *Shelf[T]) Arriving(p *Parts, w http.ResponseWriter, r *http.Request, at string) {
	x := s.Of(frame.PersonOf(r).ID, r.PathValue("file"), p.records.Now())
	if x == nil {
		frame.SendJSON(w, http.StatusOK, Progress{To: at + "?why=file-gone"})
		return
	}
	now, running, _ := x.Progress()
	if !running { // it was refused: its page says why
		now.To = at + "/" + x.ID
	}
	frame.SendJSON(w, http.StatusOK, now)
}

// ArrivingView is a table on its way, and where its page is.
type ArrivingView struct {
	At       string
	Progress *Progress
}

// Sheet is a table with what its columns seem to mean.
type Sheet interface {
	Head(column int) string
	Samples(column, most int) []string
	LeftOut() []string
	Meanings() (means, keys, says []string)
	Order() (days string, dated, doubtful bool)
	Noted() (notes []string, headless bool)
	Says(key string) string
}

// SheetView is a table's columns, to be matched by hand.
type SheetView struct {
	File     string
	Columns  []SheetColumn
	Options  []frame.Option
	Notes    []string
	Headless bool
	Days     string
	Doubtful bool     // which of day and month stands first
	Dated    bool     // some column is a day
	Without  []string // heads of columns that are left out
	Sheet             // what it is of
}

// SheetColumn is one of them.
type SheetColumn struct {
	Number  int
	Head    string
	Samples []string
	Means   string
}

// samplesShown is how many cells of a column are shown beside what it means.
const samplesShown = 3

// ViewSheet shows the columns of a file.
func ViewSheet(file string, s Sheet) *SheetView {
	v := SheetView{File: file, Sheet: s}
	means, keys, says := s.Meanings()
	for i := range keys {
		v.Options = append(v.Options, frame.Option{Value: keys[i], Label: says[i]})
	}
	v.Days, v.Dated, v.Doubtful = s.Order()
	v.Notes, v.Headless = s.Noted()
	for i, m := range means {
		v.Columns = append(v.Columns, SheetColumn{i, s.Head(i), s.Samples(i, samplesShown), m})
	}
	v.Without = s.LeftOut()
	return &v
}

// ReadColumns is what was chosen for so many columns.
func ReadColumns(v url.Values, n int) (means []string, headless bool, days string) {
	for i := range n {
		means = append(means, v.Get("column_"+strconv.Itoa(i)))
	}
	return means, v.Get("headless") != "", v.Get("days")
}
