package main

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"time"

	_ "github.com/ncruces/go-sqlite3/driver"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/rehearsal"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
)

type simulateCommand struct {
	URL      string        `help:"A running program on this machine whose grading is marked. Without it a made-up school is built, served and marked." placeholder:"http://127.0.0.1:PORT"`
	Grading  string        `help:"Id of the grading to mark, as in its address; its tables are open." placeholder:"ID"`
	SignIn   string        `help:"The owner's name at the door, where people sign in." placeholder:"NAME"`
	Password string        `name:"password-file" help:"A file with the owner's password." placeholder:"FILE"`
	Seed     uint64        `help:"Strictness, skill and mishaps follow from it." default:"1"`
	Rings    int           `help:"Of the made-up school: 1 to 8." default:"2"`
	Panel    int           `name:"examiners" help:"A ring: 1, 3 or 5." default:"3"`
	People   int           `name:"candidates" help:"1 to 1000." default:"24"`
	Lines    int           `help:"A candidate: 1 to 200." default:"20"`
	Pause    time.Duration `help:"Of a tablet between two marks, on average." default:"0s"`
	Loss     int           `help:"Thousandths of requests whose answer is lost." default:"20"`
	Away     int           `help:"Thousandths of marks at which a tablet loses the network for a while." default:"20"`
	Time     time.Duration `name:"most-time" help:"The rehearsal ends after it, done or not." default:"10m"`
	Requests int64         `name:"most-requests" help:"And after so many requests." default:"200000"`
	Beside   bool          `help:"Afterwards measure a bare handler that does one durable insert, with as many clients."`
}

// Run rehearses a grading and prints what it saw as JSON. It fails where a mark was lost, doubled
// or refused.
func (c simulateCommand) Run(s streams) error {
	if (c.URL == "") != (c.Grading == "") {
		return errors.New("--url and --grading belong together; give both to mark a grading, or none for a made-up school")
	}
	if c.Rings < 1 || c.Rings > gradingday.MaxRings || c.Panel != 1 && c.Panel != 3 && c.Panel != 5 || c.People < 1 || c.People > 1000 || c.Lines < 1 || c.Lines > 200 {
		return errors.New("a made-up school has 1 to 8 rings, 1, 3 or 5 examiners a ring, 1 to 1000 candidates and 1 to 200 lines")
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	o := rehearsal.Options{URL: c.URL, Grading: c.Grading, SignIn: c.SignIn, Seed: c.Seed, Pause: c.Pause, Loss: c.Loss, Away: c.Away, Correct: 30, NotSeen: 15, Sign: true, MostTime: c.Time, MostRequest: c.Requests}
	if c.Password != "" {
		text, err := os.ReadFile(c.Password)
		if err != nil {
			return err
		}
		o.Password = strings.TrimRight(string(text), "\r\n")
	}
	out := struct {
		rehearsal.Report
		Stored int         `json:"stored,omitempty"` // entries in the file of the made-up school
		Peak   uint64      `json:"memory_mib,omitempty"`
		Bare   *bareReport `json:"bare_handler,omitempty"`
	}{}
	if c.URL == "" {
		dir, err := os.MkdirTemp("", "velvetladder-rehearsal-")
		if err != nil {
			return err
		}
		defer os.RemoveAll(dir)
		path := filepath.Join(dir, "school.db")
		records, id, err := c.build(ctx, path)
		if err != nil {
			return fmt.Errorf("building the made-up school: %w", err)
		}
		defer records.Close()
		handler, err := web.New(records, slog.New(slog.NewTextHandler(s.err, &slog.HandlerOptions{Level: slog.LevelWarn})), frame.Access{Everybody: &store.Person{Name: "Head table", Role: store.Owner}})
		if err != nil {
			return err
		}
		at, end, err := listen(handler)
		if err != nil {
			return err
		}
		defer end()
		o.URL, o.Grading = at, id
		if out.Report, err = rehearsal.Run(ctx, o); err != nil {
			return err
		}
		out.Peak = peakMiB()
		if out.Stored, err = countMarks(path); err != nil {
			return err
		}
		if int64(out.Stored) < out.Marks {
			return fmt.Errorf("%d marks were acknowledged and %d are in the file", out.Marks, out.Stored)
		}
	} else {
		var err error
		if out.Report, err = rehearsal.Run(ctx, o); err != nil {
			return err
		}
	}
	if c.Beside {
		bare, err := bareHandler(ctx, max(out.Tablets, 1), 4000)
		if err != nil {
			return err
		}
		out.Bare = &bare
	}
	text, err := json.MarshalIndent(out, "", "  ")
	if err != nil {
		return err
	}
	fmt.Fprintln(s.out, string(text))
	if out.Missing+out.Strange > 0 || out.Refused > 0 {
		return fmt.Errorf("%d marks are missing, %d are strange, %d were refused", out.Missing, out.Strange, out.Refused)
	}
	return nil
}

// build makes a school with one grading that has begun.
func (c simulateCommand) build(ctx context.Context, path string) (*store.Store, string, error) {
	s, err := store.Open(ctx, path, time.Now)
	if err != nil {
		return nil, "", err
	}
	by := store.By{Actor: "rehearsal"}
	fail := func(err error) (*store.Store, string, error) { return nil, "", errors.Join(err, s.Close()) }
	program, err := s.SaveProgram(ctx, by, curriculum.Program{Name: "Rehearsal"})
	if err != nil {
		return fail(err)
	}
	var rungs []string
	for i, name := range []string{"First belt", "Second belt"} {
		d, err := s.SaveRung(ctx, by, curriculum.Rung{ProgramID: program.ID, Position: i, Kind: curriculum.Belt, Name: name, Cloth: curriculum.Cloth{Weave: curriculum.Plain, Colour: []string{"#ffffff", "#e0b030"}[i]}})
		if err != nil {
			return fail(err)
		}
		rungs = append(rungs, d.ID)
	}
	sections, err := s.Sections(ctx, program.ID)
	if err != nil {
		return fail(err)
	}
	for i := range c.Lines {
		t, err := s.SaveTechnique(ctx, by, curriculum.Technique{ProgramID: program.ID, Name: fmt.Sprintf("Drill %d", i+1), Kind: "strike"})
		if err == nil {
			_, err = s.SaveRequirement(ctx, by, curriculum.Requirement{RungID: rungs[1], SectionID: sections[i*4/c.Lines].ID, TechniqueID: t.ID, Role: "performer", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 5}, Weight: 1}, "", "")
		}
		if err != nil {
			return fail(err)
		}
	}
	today := s.Today()
	var people []store.NewStudent
	for i := range c.People {
		people = append(people, store.NewStudent{Student: progress.Student{Name: fmt.Sprintf("Candidate %03d", i+1), Stance: progress.Orthodox}, Starts: []store.Start{{RungID: rungs[0], Since: today.AddDays(-200)}}})
	}
	if _, err := s.AddStudents(ctx, by, people); err != nil {
		return fail(err)
	}
	g := gradingday.Grading{ProgramID: program.ID, Name: "Rehearsal", On: today, Marking: gradingday.MovementScale, Policy: scoring.MovementScale(), GroupSize: gradingday.MaxGroup, RungIDs: rungs[1:]}
	for ring := range c.Rings {
		g.Rings = append(g.Rings, gradingday.Ring{})
		for k := range c.Panel {
			g.Examiners = append(g.Examiners, gradingday.Examiner{Name: fmt.Sprintf("Examiner %c%d", 'A'+ring, k+1), Chief: k == 0, Ring: ring})
		}
	}
	d, err := s.SaveGrading(ctx, by, g)
	if err != nil {
		return fail(err)
	}
	may, err := s.Eligible(ctx, d.ID)
	if err != nil {
		return fail(err)
	}
	var entrants []store.Entrant
	for _, m := range may {
		entrants = append(entrants, store.Entrant{EnrolmentID: m.EnrolmentID})
	}
	if _, err := s.AddCandidates(ctx, by, d.ID, entrants); err != nil {
		return fail(err)
	}
	if _, err := s.Begin(ctx, by, d.ID); err != nil {
		return fail(err)
	}
	return s, d.ID, nil
}

// listen serves a handler on a free port of this machine.
func listen(h http.Handler) (address string, end func(), err error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", nil, err
	}
	server := frame.NewServer(h, slog.New(slog.DiscardHandler))
	go server.Serve(l)
	return "http://" + l.Addr().String(), func() { server.Close() }, nil
}

func countMarks(path string) (n int, err error) {
	db, err := sql.Open("sqlite3", "file:"+path+"?_pragma=query_only(on)")
	if err != nil {
		return 0, err
	}
	defer db.Close()
	return n, db.QueryRow(`SELECT count(*) FROM mark_event`).Scan(&n)
}

// peakMiB is the most memory this process has had from the system, in MiB, the school's server
// and all tablets together; what the runtime holds now where the system does not say.
func peakMiB() uint64 {
	if text, err := os.ReadFile("/proc/self/status"); err == nil {
		for _, line := range strings.Split(string(text), "\n") {
			var kib uint64
			if n, _ := fmt.Sscanf(line, "VmHWM: %d kB", &kib); n == 1 {
				return kib / 1024
			}
		}
	}
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	return m.Sys >> 20
}

// bareReport is what a handler that does nothing but one durable insert reaches.
type bareReport struct {
	Requests  int     `json:"requests"`
	PerSecond float64 `json:"per_second"`
	P50Millis float64 `json:"p50_ms"`
	P99Millis float64 `json:"p99_ms"`
}

// bareHandler measures, with as many clients as there were tablets, a handler that reads a small
// body and inserts it as one row in one transaction that waits for the disk.
func bareHandler(ctx context.Context, clients, requests int) (out bareReport, err error) {
	dir, err := os.MkdirTemp("", "velvetladder-bare-")
	if err != nil {
		return out, err
	}
	defer os.RemoveAll(dir)
	db, err := sql.Open("sqlite3", "file:"+filepath.Join(dir, "bare.db")+"?_pragma=busy_timeout(5000)&_pragma=journal_mode(wal)&_pragma=synchronous(full)&_txlock=immediate")
	if err != nil {
		return out, err
	}
	defer db.Close()
	db.SetMaxOpenConns(1)
	if _, err := db.ExecContext(ctx, `CREATE TABLE row (id INTEGER PRIMARY KEY, text TEXT NOT NULL) STRICT`); err != nil {
		return out, err
	}
	at, end, err := listen(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		text, err := io.ReadAll(r.Body)
		if err == nil {
			_, err = db.ExecContext(r.Context(), `INSERT INTO row (text) VALUES (?)`, string(text))
		}
		if err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
		}
	}))
	if err != nil {
		return out, err
	}
	defer end()
	body := bytes.Repeat([]byte("x"), 220) // about the size of one mark
	var mu sync.Mutex
	var trips []time.Duration
	var group sync.WaitGroup
	began := time.Now()
	for range clients {
		group.Go(func() {
			client := &http.Client{Timeout: 30 * time.Second, Transport: &http.Transport{}}
			for range requests / clients {
				sent := time.Now()
				res, e := client.Post(at, "application/json", bytes.NewReader(body))
				if e == nil {
					_, e = io.Copy(io.Discard, res.Body)
					res.Body.Close()
				}
				mu.Lock()
				err, trips = errors.Join(err, e), append(trips, time.Since(sent))
				mu.Unlock()
				if e != nil {
					return
				}
			}
		})
	}
	group.Wait()
	out = bareReport{Requests: len(trips), PerSecond: float64(len(trips)) / time.Since(began).Seconds(), P50Millis: rehearsal.Percentile(trips, 50).Seconds() * 1000, P99Millis: rehearsal.Percentile(trips, 99).Seconds() * 1000}
	return out, err
}
