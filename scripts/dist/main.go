// Command dist builds the archives that a school downloads: the program for each system, with its licence and a page that says how to
// start. Of one commit the bytes are always the same.
package main

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"
)

// system is what an archive is for.
type system struct{ os, arch, name string }

var systems = []system{
	{"linux", "amd64", "Linux"}, {"linux", "arm64", "Linux"}, {"darwin", "amd64", "macOS"}, {"darwin", "arm64", "macOS"}, {"windows", "amd64", "Windows"}, {"windows", "arm64", "Windows"},
}

// entry is a file of an archive.
type entry struct {
	name  string
	mode  int64
	bytes []byte
}

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "dist:", err)
		os.Exit(1)
	}
}

// run builds the archives, and their sums, into a folder, for the systems named as os/arch, or all.
func run(args []string) error {
	if len(args) == 0 {
		return fmt.Errorf("say the folder for the archives, and perhaps systems such as linux/amd64")
	}
	into, wanted := args[0], args[1:]
	for _, w := range wanted {
		if !slices.ContainsFunc(systems, func(s system) bool { return s.os+"/"+s.arch == w }) {
			return fmt.Errorf("%s is no system that is built for", w)
		}
	}
	if err := os.MkdirAll(into, 0o755); err != nil {
		return err
	}
	at, err := committed()
	if err != nil {
		return err
	}
	version := at.Format("2006.01.02")
	var sums strings.Builder
	for _, s := range systems {
		if len(wanted) > 0 && !slices.Contains(wanted, s.os+"/"+s.arch) {
			continue
		}
		built, err := s.build()
		if err != nil {
			return fmt.Errorf("%s/%s: %w", s.os, s.arch, err)
		}
		name, packed, err := s.pack(built, version, at)
		if err != nil {
			return err
		}
		if err := os.WriteFile(filepath.Join(into, name), packed, 0o644); err != nil {
			return err
		}
		fmt.Fprintf(&sums, "%x  %s\n", sha256.Sum256(packed), name)
		fmt.Printf("%s  %.1f MB\n", name, float64(len(packed))/1e6)
	}
	return os.WriteFile(filepath.Join(into, "SHA256SUMS"), []byte(sums.String()), 0o644)
}

// committed is the instant of the commit that is built.
func committed() (time.Time, error) {
	out, err := exec.Command("git", "log", "-1", "--format=%ct").Output()
	if err != nil {
		return time.Time{}, fmt.Errorf("the commit's time: %w", err)
	}
	seconds, err := strconv.ParseInt(strings.TrimSpace(string(out)), 10, 64)
	return time.Unix(seconds, 0).UTC(), err
}

// pack puts the built program and what belongs to it into an archive, dated as the commit.
func (s system) pack(built []byte, version string, at time.Time) (name string, packed []byte, err error) {
	folder := fmt.Sprintf("velvetladder-%s-%s-%s", version, s.name, s.arch)
	program := "velvetladder"
	if s.os == "windows" {
		program = "Velvet Ladder.exe"
	}
	files := []entry{{program, 0o755, built}}
	for _, x := range []struct{ from, to string }{
		{"LICENSE", "LICENCE.txt"}, {"docs/dist/start-here.txt", "Start here.txt"}, {"docs/dist/velvetladder.service", "velvetladder.service"}, {"docs/dist/Containerfile", "Containerfile"},
	} {
		if s.os != "linux" && filepath.Ext(x.to) != ".txt" { // a unit and a container are Linux's
			continue
		}
		text, err := os.ReadFile(x.from)
		if err != nil {
			return "", nil, err
		}
		if s.os == "windows" {
			text = bytes.ReplaceAll(text, []byte("\n"), []byte("\r\n"))
		}
		files = append(files, entry{x.to, 0o644, text})
	}
	if s.os == "linux" {
		packed, err = tarred(folder, files, at)
		return folder + ".tar.gz", packed, err
	}
	packed, err = zipped(folder, files, at)
	return folder + ".zip", packed, err
}

// build builds the program: nothing of this machine stands in it.
func (s system) build() ([]byte, error) {
	dir, err := os.MkdirTemp("", "velvetladder-dist-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	path := filepath.Join(dir, "velvetladder")
	build := exec.Command("go", "build", "-trimpath", "-buildvcs=true", "-ldflags=-s -w -buildid=", "-o", path, "./cmd/velvetladder")
	build.Env = append(os.Environ(), "GOOS="+s.os, "GOARCH="+s.arch, "CGO_ENABLED=0")
	build.Stderr = os.Stderr
	if err := build.Run(); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
}

func tarred(folder string, files []entry, at time.Time) ([]byte, error) {
	var out bytes.Buffer
	zip := gzip.NewWriter(&out)
	tape := tar.NewWriter(zip)
	for _, f := range files {
		if err := tape.WriteHeader(&tar.Header{Name: folder + "/" + f.name, Mode: f.mode, Size: int64(len(f.bytes)), ModTime: at, Format: tar.FormatPAX}); err != nil {
			return nil, err
		}
		if _, err := tape.Write(f.bytes); err != nil {
			return nil, err
		}
	}
	if err := tape.Close(); err != nil {
		return nil, err
	}
	err := zip.Close()
	return out.Bytes(), err
}

func zipped(folder string, files []entry, at time.Time) ([]byte, error) {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range files {
		head := &zip.FileHeader{Name: folder + "/" + f.name, Method: zip.Deflate, Modified: at}
		head.SetMode(os.FileMode(f.mode))
		to, err := w.CreateHeader(head)
		if err != nil {
			return nil, err
		}
		if _, err := io.Copy(to, bytes.NewReader(f.bytes)); err != nil {
			return nil, err
		}
	}
	err := w.Close()
	return out.Bytes(), err
}
