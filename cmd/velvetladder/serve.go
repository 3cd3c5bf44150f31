package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/mail"
	"velvetladder/internal/onrecord"
	"velvetladder/internal/store"
	"velvetladder/internal/web"
	"velvetladder/internal/web/frame"
)

type serveCommand struct {
	DB   string `help:"The school's database file; made if it is not there." default:"velvetladder.db" placeholder:"FILE"`
	Addr string `help:"Where to listen." default:"127.0.0.1:8484" placeholder:"HOST:PORT"`
	Cert string `name:"tls-cert" help:"The TLS certificate, in PEM, for other devices to connect safely." placeholder:"FILE"`
	Key  string `name:"tls-key" help:"Its private key, in PEM." placeholder:"FILE"`

	Proxy []string `help:"An address or network of a proxy whose word is taken on who asks, by TLS or not, and for which host; the proxy sets X-Forwarded-For, -Proto and -Host." placeholder:"ADDRESS"`
	Host  []string `help:"A name or address under which the school is reached; requests for others are refused. None: any." placeholder:"NAME"`

	New bool `help:"Begin an empty school although files of another lie beside."`

	Backups string `help:"Where a backup is kept every day; a folder \"backups\" beside the database when not given, none with \"off\"." placeholder:"DIRECTORY"`

	MailHost     string        `help:"The mail server letters go through when somebody sends them; none: nothing is ever sent." placeholder:"HOST"`
	MailPort     int           `help:"Its port." default:"587"`
	MailUser     string        `help:"Who signs in there; empty: nobody." placeholder:"NAME"`
	MailPassword string        `help:"The password, best given in the environment." env:"VELVETLADDER_MAIL_PASSWORD" placeholder:"PASSWORD"`
	MailSecurity mail.Security `help:"starttls, tls, or plain (for a server on the same machine)." default:"starttls" enum:"starttls,tls,plain"`
}

// Run serves until it is told to stop.
func (c serveCommand) Run(s streams) error {
	if (c.Cert == "") != (c.Key == "") {
		return errors.New("--tls-cert and --tls-key belong together; give both or none")
	}
	if _, _, err := net.SplitHostPort(c.Addr); err != nil {
		return loopback(c.Addr)
	}
	if c.Cert == "" && loopback(c.Addr) != nil {
		fmt.Fprintf(s.err, "WARNING: %s can be reached from the network without encryption. Passwords and children's names can be read on the way. Give --tls-cert and --tls-key, or listen on 127.0.0.1.\n", c.Addr)
	}
	proxies, err := frame.Proxies(c.Proxy)
	if err != nil {
		return fmt.Errorf("--proxy: %w; an address such as 127.0.0.1 or a network such as 10.0.0.0/8 is expected", err)
	}
	var hosts []string
	for _, h := range c.Host {
		if h = strings.ToLower(h); h == "" || strings.ContainsAny(h, "/: ") && net.ParseIP(h) == nil {
			return fmt.Errorf("--host %q is not a name alone, such as ladder.example; leave scheme and port out", h)
		}
		hosts = append(hosts, h)
	}
	x := serving{proxies: proxies, hosts: hosts, db: c.DB, addr: c.Addr, what: "the school", cert: c.Cert, key: c.Key, backups: c.Backups}
	switch c.Backups {
	case "":
		x.backups = filepath.Join(filepath.Dir(c.DB), "backups")
	case "off":
		x.backups = ""
	}
	if !c.New {
		if err := notLost(s, x.db, x.backups); err != nil {
			return err
		}
	}
	if c.MailHost != "" {
		x.mail = mail.SMTP{Host: c.MailHost, Port: c.MailPort, User: c.MailUser, Password: c.MailPassword, Security: c.MailSecurity}
	}
	return serve(s, x)
}

// notLost refuses to begin an empty school where the files say that there was one, and tells of a file that was left
// unfinished beside one that is there.
func notLost(s streams, path, backups string) error {
	found, err := store.Traces(path, backups)
	if err != nil || len(found) == 0 {
		if _, part := os.Stat(path + ".part"); part == nil {
			fmt.Fprintf(s.err, "%s.part was left unfinished by a restore or an import; the school is whole without it, and it can be deleted.\n", path)
		}
		return err
	}
	return fmt.Errorf("there is no school at %s, but one was kept there or beside it:\n  %s\nNothing was made. Put one back with: velvetladder restore FILE --db %s (of several, the newest that is whole; it is looked through first). "+
		"Where an empty school is meant, move these files elsewhere or say --new", path, strings.Join(found, "\n  "), path)
}

type demoCommand struct {
	DB   string `help:"Where to keep the demo school; a fresh temporary file when not given." placeholder:"FILE"`
	Addr string `help:"Where to listen; a free port of this machine when not given." default:"127.0.0.1:0" placeholder:"HOST:PORT"`
	On   string `help:"Build the school as it stands on a day and serve it from nine in the morning of that day; today when not given." placeholder:"YYYY-MM-DD"`
}

// Run fills a fresh database with the demo school and serves it.
func (c demoCommand) Run(s streams) error {
	path := c.DB
	if path == "" {
		dir, err := os.MkdirTemp("", "velvetladder-demo-")
		if err != nil {
			return err
		}
		defer os.RemoveAll(dir)
		path = filepath.Join(dir, "demo.db")
	}
	if err := loopback(c.Addr); err != nil {
		return err
	}
	now := time.Now
	if c.On != "" {
		day, err := civil.Parse(c.On)
		if err != nil {
			return fmt.Errorf("--on: %w", err)
		}
		now = from(day, time.Now())
	}
	fill := func(ctx context.Context, path string) error { return fillDemo(ctx, path, civil.On(now())) }
	return serve(s, serving{db: path, addr: c.Addr, what: "the demo school", now: now, fill: fill, everybody: &store.Person{Name: "Rosalind Castellane", Role: store.Owner}})
}

// from is a clock that shows nine in the morning of a day, in this machine's zone, at an instant, and
// goes on from there.
func from(day civil.Date, begun time.Time) func() time.Time {
	nine := day.At(9*60, time.Local)
	return func() time.Time { return nine.Add(time.Since(begun)) }
}

// loopback refuses addresses that others could reach: nobody signs in to the demo.
func loopback(addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return fmt.Errorf("the address %q is not HOST:PORT, for example 127.0.0.1:8484", addr)
	}
	if host == "localhost" {
		return nil
	}
	if ip := net.ParseIP(host); ip == nil || !ip.IsLoopback() {
		return fmt.Errorf("the address %q can be reached from outside this machine; where nobody signs in only a loopback address such as 127.0.0.1:8484 is served", addr)
	}
	return nil
}

// shutdownWait is how long requests under way may take to finish.
const shutdownWait = 10 * time.Second

// serving is what to serve, and how.
type serving struct {
	db, addr, what string
	cert, key      string                              // "": without TLS
	now            func() time.Time                    // the clock; nil: this machine's
	fill           func(context.Context, string) error // makes the database; nil: nothing
	everybody      *store.Person                       // whoever calls is this person; nil: people sign in
	backups        string                              // a directory; "": none are kept
	mail           mail.Sender                         // nil: nothing is sent
	proxies        []netip.Prefix                      // whose word is taken
	hosts          []string                            // the school's names; none: any
	spare          int                                 // how many ports behind the address are tried where others have it
	ready          func(address, code string)          // is told where it is served, and the owner's code; nil: it is printed
}

func serve(s streams, x serving) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	log := slog.New(slog.NewTextHandler(s.err, nil))
	// Take the port before touching the file: a second start must not disturb the first.
	l, err := listenNear(x.addr, x.spare)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("%s is in use, perhaps by Velvet Ladder itself; stop that program or choose another with --addr", x.addr)
	}
	if err != nil {
		return err
	}
	defer l.Close()
	if x.fill != nil {
		if err := x.fill(ctx, x.db); err != nil {
			return err
		}
	}
	if x.now == nil {
		x.now = time.Now
	}
	records, err := store.Open(ctx, x.db, x.now)
	if err != nil {
		return err
	}
	defer records.Close()
	if err := records.Rebuild(ctx); err != nil { // an erasing that was left unfinished
		log.Warn("the file still holds what was erased; it is tried again", "error", err)
	}
	code, err := ownersCode(ctx, records, x.everybody)
	if err != nil {
		return err
	}
	handler, err := web.New(records, log, frame.Access{Everybody: x.everybody, Code: code, Proxies: x.proxies, Hosts: x.hosts, Backups: x.backups, Mail: x.mail})
	if err != nil {
		return err
	}
	server := frame.NewServer(handler, log)
	failed := make(chan error, 1)
	go func() {
		if x.cert != "" {
			failed <- server.ServeTLS(l, x.cert, x.key)
			return
		}
		failed <- server.Serve(l)
	}()
	go announceDue(ctx, records, log)
	go rebuildErased(ctx, records, log)
	if x.backups != "" {
		go keepBackups(ctx, records, x.backups, log)
	}
	if at := x.address(l.Addr()); x.ready != nil {
		x.ready(at, code)
	} else if code == "" {
		fmt.Fprintf(s.out, "Velvet Ladder serves %s at %s (stop with Ctrl+C)\n", x.what, at)
	} else {
		fmt.Fprintf(s.out, "Velvet Ladder serves %s at %swelcome?code=%s (stop with Ctrl+C). Nobody owns it yet: whoever opens this very address may.\n", x.what, at, code)
	}
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	log.Info("stopping")
	end, cancel := context.WithTimeout(context.Background(), shutdownWait)
	defer cancel()
	if err := server.Shutdown(end); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// address is where the school is found: at the first name it has, else where it listens.
func (x serving) address(l net.Addr) string {
	scheme, host := "http", l.String()
	if x.cert != "" {
		scheme = "https"
	}
	if len(x.hosts) > 0 {
		_, port, _ := net.SplitHostPort(l.String())
		host = net.JoinHostPort(x.hosts[0], port)
		if len(x.proxies) > 0 { // it takes the requests at its own port
			scheme, host = "https", x.hosts[0]
		}
	}
	return scheme + "://" + host + "/"
}

// ownersCode is what the first owner of a school has to know, made anew at each start: whoever can read what the program
// says is at the machine. "" where there is an owner, or nobody signs in.
func ownersCode(ctx context.Context, records *store.Store, everybody *store.Person) (string, error) {
	if everybody != nil {
		return "", nil
	}
	all, err := records.People(ctx)
	if err != nil || len(all) > 0 {
		return "", err
	}
	return store.NewID(), nil
}

// dueEvery is how often results with a set time are looked for: soon enough after the minute
// that was chosen.
const dueEvery = 10 * time.Second

// announceDue makes results known when their time has come, until it is told to stop.
func announceDue(ctx context.Context, records *store.Store, log *slog.Logger) {
	every := time.NewTicker(dueEvery)
	defer every.Stop()
	for {
		if n, err := records.AnnounceDue(ctx); err != nil && ctx.Err() == nil {
			log.Error("results could not be announced at their time", "error", err)
		} else if n > 0 {
			log.Info("results were announced at their time", "gradings", n)
		}
		select {
		case <-ctx.Done():
			return
		case <-every.C:
		}
	}
}

// rebuildEvery is how often it is tried to write the file anew after somebody was erased.
const rebuildEvery = time.Minute

// rebuildErased writes the file anew when somebody was erased and nobody marks, until it is told to stop.
func rebuildErased(ctx context.Context, records *store.Store, log *slog.Logger) {
	every := time.NewTicker(rebuildEvery)
	defer every.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-every.C:
		}
		if err := records.Rebuild(ctx); err != nil && !errors.Is(err, store.ErrTableOpen) && ctx.Err() == nil {
			log.Error("the file could not be written anew after erasing; it is tried again", "error", err, "in", rebuildEvery)
		}
	}
}

// fillDemo builds the demo school as it stands on a day unless the file holds one already: a demo kept
// with --db stays as it is.
func fillDemo(ctx context.Context, path string, today civil.Date) error {
	if info, err := os.Stat(path); err == nil && info.Size() > 0 {
		return nil
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return onrecord.Build(ctx, path, today)
}
