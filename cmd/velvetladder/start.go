package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"time"
)

// startCommand is what happens where no command is said, on a double click: the school of this computer, in its usual place, in
// the browser.
type startCommand struct {
	Folder    string `help:"Where the school is kept; the usual place of this system when not given." placeholder:"FOLDER"`
	NoBrowser bool   `help:"Say the address, and open no browser."`
}

const (
	usualPort  = 8484
	sparePorts = 100             // tried behind the usual one
	answersIn  = 2 * time.Second // a school that runs answers
	beginsIn   = 20 * time.Second
)

// show opens an address in the browser of this computer; tests put their own in its place.
var show = func(address string) error {
	switch runtime.GOOS {
	case "windows":
		return exec.Command("rundll32", "url.dll,FileProtocolHandler", address).Start()
	case "darwin":
		return exec.Command("open", address).Start()
	}
	return exec.Command("xdg-open", address).Start()
}

// Run serves the school of this computer, or opens it where it is served already.
func (c startCommand) Run(s streams) error {
	folder := c.Folder
	if folder == "" {
		place, err := os.UserConfigDir()
		if err != nil {
			return fmt.Errorf("this system says no place for what programs keep (%w); say one with: velvetladder start --folder FOLDER", err)
		}
		folder = filepath.Join(place, "VelvetLadder")
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	lock := filepath.Join(folder, "running")
	running, taken, err := takePlace(lock)
	if err != nil {
		return err
	}
	if running != "" {
		fmt.Fprintf(s.out, "Your school is open already, at %s\n", running)
		return c.show(s, running)
	}
	defer taken()
	path := filepath.Join(folder, "school.db")
	backups := filepath.Join(folder, "backups")
	if err := notLost(s, path, backups); err != nil {
		return err
	}
	return serve(s, serving{db: path, addr: net.JoinHostPort("127.0.0.1", strconv.Itoa(usualPort)), spare: sparePorts, what: "the school", backups: backups,
		ready: func(address, code string) {
			if err := os.WriteFile(lock, []byte(address), 0o600); err != nil {
				fmt.Fprintf(s.err, "A second start will not find this one: %v\n", err)
			}
			open := address
			if code != "" {
				open += "welcome?code=" + code
			}
			fmt.Fprintf(s.out, "Velvet Ladder\n\nYour school is kept in %s, with a backup of every day beside it.\nIt is open at %s on this computer.\n", folder, open)
			if code != "" {
				fmt.Fprintln(s.out, "Nobody owns it yet: whoever opens this very address may.")
			}
			fmt.Fprintln(s.out, "\nLeave this window open while you work. To stop, close it or press Ctrl+C; nothing that was shown as stored is lost.")
			if err := c.show(s, open); err != nil {
				fmt.Fprintln(s.err, err)
			}
		}})
}

// show opens an address, and says it where no browser opens.
func (c startCommand) show(s streams, address string) error {
	if c.NoBrowser {
		return nil
	}
	if err := show(address); err != nil {
		fmt.Fprintf(s.err, "No browser could be opened (%v); open the address yourself.\n", err)
	}
	return nil
}

// takePlace makes this the one that serves a folder. Where another does, running is its address; else taken gives the place
// back. A place that somebody left without giving it back is taken over once nobody answers there.
func takePlace(lock string) (running string, taken func(), err error) {
	until := time.Now().Add(beginsIn)
	for {
		f, err := os.OpenFile(lock, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
		if err == nil {
			f.Close()
			return "", func() { os.Remove(lock) }, nil
		}
		if !errors.Is(err, fs.ErrExist) {
			return "", nil, err
		}
		text, err := os.ReadFile(lock)
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return "", nil, err
		}
		address := strings.TrimSpace(string(text))
		if address != "" && answers(address) {
			return address, nil, nil
		}
		// An empty one is about to begin, or was killed while it did.
		if info, err := os.Stat(lock); err == nil && (address != "" || time.Since(info.ModTime()) > beginsIn || time.Now().After(until)) {
			if err := os.Remove(lock); err != nil && !errors.Is(err, fs.ErrNotExist) {
				return "", nil, err
			}
			continue
		}
		time.Sleep(100 * time.Millisecond)
	}
}

// answers reports whether a school is served at an address.
func answers(address string) bool {
	client := http.Client{Timeout: answersIn}
	res, err := client.Get(address + "now")
	if err != nil {
		return false
	}
	defer res.Body.Close()
	var now struct {
		Now int64 `json:"now"`
	}
	return json.NewDecoder(res.Body).Decode(&now) == nil && now.Now > 0
}

// listenNear takes the port of an address, or one of so many behind it where others have it.
func listenNear(address string, spare int) (net.Listener, error) {
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return nil, err
	}
	first, err := strconv.Atoi(port)
	if err != nil {
		return net.Listen("tcp", address)
	}
	for n := first; ; n++ {
		l, err := net.Listen("tcp", net.JoinHostPort(host, strconv.Itoa(n)))
		if err == nil || n == first+spare { // systems say in words of their own that a port is taken
			return l, err
		}
	}
}
