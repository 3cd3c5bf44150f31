package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"velvetladder/internal/store"
	"velvetladder/internal/web"
)

type serveCommand struct {
	DB   string `help:"The school's database file; made if it is not there." default:"velvetladder.db" placeholder:"FILE"`
	Addr string `help:"Where to listen. Until sign-in exists it must be on this machine." default:"127.0.0.1:8484" placeholder:"HOST:PORT"`
}

// Run serves until it is told to stop.
func (c serveCommand) Run(s streams) error { return serve(s, c.DB, c.Addr, "the school", nil) }

type demoCommand struct {
	DB   string `help:"Where to keep the demo school; a fresh temporary file when not given." placeholder:"FILE"`
	Addr string `help:"Where to listen; a free port of this machine when not given." default:"127.0.0.1:0" placeholder:"HOST:PORT"`
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
	return serve(s, path, c.Addr, "the demo school", fillDemo)
}

// loopback refuses addresses that others could reach, since nobody signs in yet.
func loopback(addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return fmt.Errorf("the address %q is not HOST:PORT, for example 127.0.0.1:8484", addr)
	}
	if host == "localhost" {
		return nil
	}
	if ip := net.ParseIP(host); ip == nil || !ip.IsLoopback() {
		return fmt.Errorf("the address %q can be reached from outside this machine; until sign-in exists only a loopback address such as 127.0.0.1:8484 is served", addr)
	}
	return nil
}

// shutdownWait is how long requests under way may take to finish.
const shutdownWait = 10 * time.Second

func serve(s streams, path, addr, what string, fill func(context.Context, string) error) error {
	if err := loopback(addr); err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	log := slog.New(slog.NewTextHandler(s.err, nil))
	// Take the port before touching the file: a second start must not disturb the first.
	l, err := net.Listen("tcp", addr)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("%s is in use, perhaps by Velvet Ladder itself; stop that program or choose another with --addr", addr)
	}
	if err != nil {
		return err
	}
	defer l.Close()
	if fill != nil {
		if err := fill(ctx, path); err != nil {
			return err
		}
	}
	records, err := store.Open(ctx, path, time.Now)
	if err != nil {
		return err
	}
	defer records.Close()
	handler, err := web.New(records, log)
	if err != nil {
		return err
	}
	server := web.NewServer(handler, log)
	fmt.Fprintf(s.out, "Velvet Ladder serves %s at http://%s/ (stop with Ctrl+C)\n", what, l.Addr())
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(l) }()
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
