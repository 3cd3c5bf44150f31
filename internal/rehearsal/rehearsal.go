// Package rehearsal marks a grading over HTTP as real tablets would: one device an examiner,
// each with its own strictness and pace, its lapses of the network and its drop-outs. It is for
// trying a day out beforehand and for seeing what a machine bears. It speaks to this machine
// only, and is bounded in time and in requests.
package rehearsal

import (
	"bytes"
	"cmp"
	"context"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"
)

// Options say what to mark, and how. Chances are in thousandths.
type Options struct {
	URL         string // of the running program; a loopback address
	Grading     string // id; its tables are open
	SignIn      string // of the owner; "" where nobody signs in
	Password    string
	Seed        uint64
	Pause       time.Duration // of a tablet between two marks, on average; 0: none
	Loss        int           // that an answer never comes back, 0 to 500
	Away        int           // that a tablet loses the network for some marks, 0 to 500
	Correct     int           // that a mark is corrected at once, 0 to 500
	NotSeen     int           // that an examiner did not see it, 0 to 500
	Sign        bool          // sign each sheet when it is full
	MostTime    time.Duration // 0: ten minutes
	MostRequest int64         // 0: 200,000
	Stop        func() bool   // asked before each mark; nil: never stops early
	// Acknowledged is told of every entry whose storing was acknowledged; nil: nobody is.
	Acknowledged func(id string)
}

// Report is what a rehearsal did and saw.
type Report struct {
	Tablets     int           `json:"tablets"`
	Groups      int           `json:"groups"`
	Marks       int64         `json:"marks"` // entries acknowledged, corrections included
	Requests    int64         `json:"requests"`
	LostAnswers int64         `json:"lost_answers"` // cut off on purpose and asked again
	Refused     int64         `json:"refused"`
	Missing     int           `json:"missing"` // acknowledged, and not standing at the end
	Strange     int           `json:"strange"` // standing at the end, and never given
	Signed      int64         `json:"signed"`
	Seconds     float64       `json:"seconds"`
	PerSecond   float64       `json:"marks_per_second"`
	P50, P99    time.Duration `json:"-"`
	P50Millis   float64       `json:"p50_ms"` // of a mark's round trip
	P99Millis   float64       `json:"p99_ms"`
	trips       []time.Duration
}

// ErrBound says that a bound of time or requests ended a rehearsal before it was done.
var ErrBound = errors.New("the rehearsal reached its bound")

// loopback refuses any address that is not this machine's own.
func loopback(address string) error {
	u, err := url.Parse(address)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" {
		return fmt.Errorf("%q is no address of a running program, such as http://127.0.0.1:8484", address)
	}
	host := u.Hostname()
	if ip := net.ParseIP(host); host == "localhost" || ip != nil && ip.IsLoopback() {
		return nil
	}
	return fmt.Errorf("%s is not this machine: a rehearsal sends to a loopback address only", host)
}

// run is a rehearsal under way.
type run struct {
	o        Options
	requests atomic.Int64
	marks    atomic.Int64
	lost     atomic.Int64
	refused  atomic.Int64
	signed   atomic.Int64
	mu       sync.Mutex
	trips    []time.Duration
	groups   map[string]bool
	missing  int
	strange  int
}

// tablet is one examiner's device.
type tablet struct {
	*run
	client   *http.Client
	chance   *rand.Rand
	strict   float64 // how far below the others this examiner marks, in steps
	examiner string
	tables   []string // groups
	waiting  []entry  // kept without network
}

type entry struct {
	ID         string  `json:"id"`
	Candidate  string  `json:"candidate"`
	Examiner   string  `json:"examiner"`
	Item       string  `json:"item"`
	Kind       string  `json:"kind"`
	Value      float64 `json:"value"`
	Note       string  `json:"note"`
	Supersedes string  `json:"supersedes"`
}

type table struct {
	Signed bool `json:"signed"`
	Scale  struct {
		Marks   []struct{ Value int }
		Halves  bool
		Highest int
	} `json:"scale"`
	Candidates []struct{ ID string } `json:"candidates"`
	Items      []struct {
		IDs map[string]string `json:"ids"`
	} `json:"items"`
	Marks []entry `json:"marks"`
}

// Run rehearses a grading.
func Run(ctx context.Context, o Options) (Report, error) {
	if err := loopback(o.URL); err != nil {
		return Report{}, err
	}
	for _, c := range []int{o.Loss, o.Away, o.Correct, o.NotSeen} {
		if c < 0 || c > 500 {
			return Report{}, fmt.Errorf("a chance is %d thousandths; it must be from 0 to 500", c)
		}
	}
	o.URL = strings.TrimSuffix(o.URL, "/")
	o.MostTime, o.MostRequest = cmp.Or(o.MostTime, 10*time.Minute), cmp.Or(o.MostRequest, 200_000)
	ctx, cancel := context.WithTimeoutCause(ctx, o.MostTime, ErrBound)
	defer cancel()
	x := &run{o: o, groups: map[string]bool{}}
	codes, err := x.codes(ctx)
	if err != nil {
		return Report{}, err
	}
	var tablets []*tablet
	for i, c := range codes {
		t, err := x.join(ctx, c, i)
		if err != nil {
			return Report{}, fmt.Errorf("joining as %s: %w", c.Name, err)
		}
		tablets = append(tablets, t)
	}
	began := time.Now()
	errs := make(chan error, len(tablets))
	for _, t := range tablets {
		go func() { errs <- t.work(ctx) }()
	}
	for range tablets {
		if e := <-errs; e != nil && err == nil {
			err = e
			cancel()
		}
	}
	out := Report{Tablets: len(tablets), Groups: len(x.groups), Marks: x.marks.Load(), Requests: x.requests.Load(), LostAnswers: x.lost.Load(), Refused: x.refused.Load(), Missing: x.missing, Strange: x.strange, Signed: x.signed.Load(), trips: x.trips}
	out.Seconds = time.Since(began).Seconds()
	out.PerSecond = float64(out.Marks) / out.Seconds
	out.P50, out.P99 = Percentile(x.trips, 50), Percentile(x.trips, 99)
	out.P50Millis, out.P99Millis = out.P50.Seconds()*1000, out.P99.Seconds()*1000
	return out, err
}

// Percentile is the p-th percentile of durations by nearest rank; 0 of none.
func Percentile(all []time.Duration, p int) time.Duration {
	if len(all) == 0 {
		return 0
	}
	sorted := slices.Clone(all)
	slices.Sort(sorted)
	return sorted[min((len(sorted)*p+99)/100, len(sorted))-1]
}

type code struct{ Examiner, Name, Code string }

func newClient() *http.Client {
	jar, _ := cookiejar.New(nil) // without options it cannot fail
	return &http.Client{Jar: jar, Timeout: 30 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 2}}
}

// call sends one request and reads a JSON answer into v where v is not nil.
func (x *run) call(ctx context.Context, c *http.Client, method, path, kind string, body []byte, v any) (int, error) {
	if x.requests.Add(1) > x.o.MostRequest {
		return 0, ErrBound
	}
	r, err := http.NewRequestWithContext(ctx, method, x.o.URL+path, bytes.NewReader(body))
	if err != nil {
		return 0, err
	}
	r.Header.Set("User-Agent", "rehearsal")
	r.Header.Set("Accept", "application/json")
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	res, err := c.Do(r)
	if err != nil {
		return 0, err
	}
	defer res.Body.Close()
	text, err := io.ReadAll(io.LimitReader(res.Body, 16<<20))
	if err != nil {
		return 0, err
	}
	if v != nil && res.StatusCode < 500 {
		if e := json.Unmarshal(text, v); e != nil && res.StatusCode < 300 {
			return res.StatusCode, fmt.Errorf("%s answered no JSON: %w", path, e)
		}
	}
	return res.StatusCode, nil
}

const formKind, jsonKind = "application/x-www-form-urlencoded", "application/json"

// codes signs in as the owner and asks for a code for every examiner.
func (x *run) codes(ctx context.Context) ([]code, error) {
	owner := newClient()
	if x.o.SignIn != "" {
		form := url.Values{"sign_in": {x.o.SignIn}, "password": {x.o.Password}}
		owner.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
		if status, err := x.call(ctx, owner, "POST", "/sign-in", formKind, []byte(form.Encode()), nil); err != nil || status != http.StatusSeeOther {
			return nil, errors.Join(err, fmt.Errorf("the owner could not sign in (status %d)", status))
		}
	}
	var out struct {
		Codes   []code
		Problem string
	}
	status, err := x.call(ctx, owner, "POST", "/gradings/"+url.PathEscape(x.o.Grading)+"/codes", formKind, nil, &out)
	if err != nil {
		return nil, err
	}
	if status != http.StatusOK {
		return nil, fmt.Errorf("no codes for the grading %s (status %d): %s", x.o.Grading, status, cmp.Or(out.Problem, "is its id right, and are its tables open?"))
	}
	return out.Codes, nil
}

func (x *run) join(ctx context.Context, c code, nth int) (*tablet, error) {
	t := &tablet{run: x, client: newClient(), chance: rand.New(rand.NewPCG(x.o.Seed, uint64(nth))), examiner: c.Examiner}
	t.strict = t.chance.NormFloat64() * 0.35
	status, err := x.call(ctx, t.client, "POST", "/join", formKind, []byte(url.Values{"code": {c.Code}}.Encode()), nil)
	if err != nil || status >= 400 {
		return nil, errors.Join(err, fmt.Errorf("status %d", status))
	}
	var mine struct {
		Examiner string
		Tables   []struct{ Group string }
	}
	if status, err := x.call(ctx, t.client, "GET", "/join", "", nil, &mine); err != nil || status != http.StatusOK || mine.Examiner != c.Examiner {
		return nil, errors.Join(err, fmt.Errorf("seated as %q, status %d", mine.Examiner, status))
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	for _, g := range mine.Tables {
		t.tables = append(t.tables, g.Group)
		x.groups[g.Group] = true
	}
	return t, nil
}

func (t *tablet) thousandths(n int) bool { return n > 0 && t.chance.IntN(1000) < n }

func (t *tablet) newID() string {
	b := make([]byte, 10)
	for i := range b {
		b[i] = byte(t.chance.IntN(256))
	}
	return hex.EncodeToString(b)
}

func (t *tablet) stopped() bool { return t.o.Stop != nil && t.o.Stop() }

// work marks every group of the ring in turn.
func (t *tablet) work(ctx context.Context) error {
	for _, group := range t.tables {
		if err := t.group(ctx, group); err != nil || t.stopped() {
			return err
		}
	}
	return nil
}

// group marks one group, line by line over its candidates, and signs.
func (t *tablet) group(ctx context.Context, group string) error {
	path := "/scoring/" + t.examiner + "/" + group
	var s table
	if status, err := t.call(ctx, t.client, "GET", path+"/state", "", nil, &s); err != nil || status != http.StatusOK {
		return orStatus(err, path, status)
	}
	if s.Signed {
		return nil
	}
	stands := map[string]string{} // place → id
	for _, m := range s.Marks {
		stands[m.Candidate+" "+m.Item] = m.ID
	}
	given := map[string]string{}
	for _, it := range s.Items {
		for _, c := range s.Candidates {
			item := it.IDs[c.ID]
			if item == "" {
				continue
			}
			place := c.ID + " " + item
			for n := 0; n == 0 || n == 1 && t.thousandths(t.o.Correct); n++ {
				if t.stopped() {
					return nil
				}
				e := t.mark(s, c.ID, item, stands[place])
				stands[place], given[place] = e.ID, e.ID
				t.waiting = append(t.waiting, e)
			}
			// Out of the network for some marks: they wait on the device and go together.
			if len(t.waiting) < 12 && t.thousandths(t.o.Away) || len(t.waiting) > 1 && len(t.waiting) < 8 {
				continue
			}
			if err := t.send(ctx, path); err != nil {
				return err
			}
			if err := t.rest(ctx); err != nil {
				return err
			}
		}
	}
	if err := t.send(ctx, path); err != nil || t.stopped() {
		return err
	}
	return t.check(ctx, path, given)
}

// mark is what this examiner gives: the candidate's skill at the line, less their own strictness.
func (t *tablet) mark(s table, candidate, item, supersedes string) entry {
	e := entry{ID: t.newID(), Candidate: candidate, Examiner: t.examiner, Item: item, Kind: "mark", Supersedes: supersedes}
	if t.thousandths(t.o.NotSeen) {
		e.Kind = "not_seen"
		return e
	}
	low, high := s.Scale.Marks[0].Value, s.Scale.Highest
	skill := rand.New(rand.NewPCG(t.o.Seed, hash(candidate)))
	span := float64(high - low)
	v := float64(low) + span*(0.55+0.14*skill.NormFloat64()) - t.strict + 0.10*span*t.chance.NormFloat64()
	if s.Scale.Halves {
		v = float64(int(2*v+0.5)) / 2
	} else {
		v = float64(int(v + 0.5))
	}
	e.Value = min(max(v, float64(low)), float64(high))
	return e
}

func hash(s string) (h uint64) {
	h = 14695981039346656037
	for i := range len(s) {
		h = (h ^ uint64(s[i])) * 1099511628211
	}
	return h
}

func (t *tablet) rest(ctx context.Context) error {
	if t.o.Pause == 0 {
		return ctx.Err()
	}
	select {
	case <-time.After(time.Duration(t.chance.ExpFloat64() * float64(t.o.Pause))):
	case <-ctx.Done():
		return context.Cause(ctx)
	}
	return nil
}

// patience is how often a tablet asks again before it gives up on the server.
const patience = 8

// send delivers what waits, again and again until it is acknowledged. Now and then the line is
// cut while the answer is on its way, so that the same entries go a second time.
func (t *tablet) send(ctx context.Context, path string) error {
	for tries := 0; len(t.waiting) > 0; tries++ {
		if err := ctx.Err(); err != nil {
			return context.Cause(ctx)
		}
		if t.stopped() {
			return nil
		}
		body, err := json.Marshal(map[string][]entry{"entries": t.waiting})
		if err != nil {
			return err
		}
		if t.thousandths(t.o.Loss) {
			cut, cancel := context.WithTimeout(ctx, time.Duration(t.chance.IntN(4))*time.Millisecond)
			_, _ = t.call(cut, t.client, "POST", path+"/marks", jsonKind, body, nil) // whatever came back is lost
			cancel()
			t.lost.Add(1)
			continue
		}
		var answer struct {
			Stored  []string
			Refused []struct{ ID, Problem string }
			Problem string
		}
		began := time.Now()
		status, err := t.call(ctx, t.client, "POST", path+"/marks", jsonKind, body, &answer)
		took := time.Since(began)
		if err != nil || status >= 500 || status == http.StatusUnauthorized {
			if errors.Is(err, ErrBound) || tries >= patience {
				return orStatus(err, path, status)
			}
			select {
			case <-time.After(time.Duration(50<<tries) * time.Millisecond):
			case <-ctx.Done():
				return context.Cause(ctx)
			}
			continue
		}
		t.mu.Lock()
		t.trips = append(t.trips, took)
		t.mu.Unlock()
		t.marks.Add(int64(len(answer.Stored)))
		if t.o.Acknowledged != nil {
			for _, id := range answer.Stored {
				t.o.Acknowledged(id)
			}
		}
		if n := len(answer.Refused); n > 0 || len(answer.Stored) != len(t.waiting) {
			t.refused.Add(int64(n))
			return fmt.Errorf("%s: %d of %d entries were refused: %v %s", path, n, len(t.waiting), answer.Refused, answer.Problem)
		}
		t.waiting = nil
	}
	return nil
}

// check reads the sheet back, counts what is missing or strange, and signs.
func (t *tablet) check(ctx context.Context, path string, given map[string]string) error {
	var s table
	if status, err := t.call(ctx, t.client, "GET", path+"/state", "", nil, &s); err != nil || status != http.StatusOK {
		return orStatus(err, path, status)
	}
	stands, strange := map[string]string{}, 0
	for _, m := range s.Marks {
		place := m.Candidate + " " + m.Item
		if stands[place] != "" || given[place] == "" {
			strange++
		}
		stands[place] = m.ID
	}
	missing := 0
	for place, id := range given {
		if stands[place] != id {
			missing++
		}
	}
	t.mu.Lock()
	t.missing, t.strange = t.missing+missing, t.strange+strange
	t.mu.Unlock()
	if !t.o.Sign {
		return nil
	}
	t.client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	form := url.Values{"request": {"sign" + t.newID()}, "fill": {"1"}}
	status, err := t.call(ctx, t.client, "POST", path+"/sign", formKind, []byte(form.Encode()), nil)
	if err != nil || status != http.StatusSeeOther {
		return orStatus(err, path+"/sign", status)
	}
	t.signed.Add(1)
	return nil
}

func orStatus(err error, path string, status int) error {
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	return fmt.Errorf("%s answered %d", path, status)
}
