package main

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"compress/gzip"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPack: an archive holds the program, to be run, with its licence and how to start; packed again the bytes are the same.
func TestPack(t *testing.T) {
	t.Chdir("../..")
	at := time.Date(2026, 3, 1, 9, 0, 0, 0, time.UTC)
	for _, s := range systems {
		name, packed, err := s.pack([]byte("the program"), "2026.03.01", at)
		require.NoError(t, err)
		_, again, err := s.pack([]byte("the program"), "2026.03.01", at)
		require.NoError(t, err)
		assert.Equal(t, packed, again, name)
		texts, modes := unpacked(t, name, packed)
		for path, mode := range modes {
			assert.Equal(t, strings.HasSuffix(path, "elvetladder") || strings.HasSuffix(path, ".exe"), mode == 0o755, path)
		}
		folder := strings.TrimSuffix(strings.TrimSuffix(name, ".zip"), ".tar.gz") + "/"
		assert.Equal(t, "velvetladder-2026.03.01-"+s.name+"-"+s.arch+"/", folder)
		program := map[string]string{"windows": "Velvet Ladder.exe"}[s.os]
		if program == "" {
			program = "velvetladder"
		}
		assert.Equal(t, "the program", texts[folder+program])
		assert.Contains(t, texts[folder+"LICENCE.txt"], "WITHOUT WARRANTY")
		start := texts[folder+"Start here.txt"]
		assert.Contains(t, start, "never replaces a qualified instructor")
		assert.Equal(t, s.os == "windows", strings.Contains(start, "\r\n"))
		assert.Equal(t, s.os == "linux", texts[folder+"velvetladder.service"] != "")
	}
	assert.EqualError(t, run([]string{t.TempDir(), "plan9/amd64"}), "plan9/amd64 is no system that is built for")
	assert.ErrorContains(t, run(nil), "say the folder")
}

func unpacked(t *testing.T, name string, packed []byte) (texts map[string]string, modes map[string]int64) {
	texts, modes = map[string]string{}, map[string]int64{}
	if strings.HasSuffix(name, ".zip") {
		z, err := zip.NewReader(bytes.NewReader(packed), int64(len(packed)))
		require.NoError(t, err)
		for _, f := range z.File {
			from, err := f.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(from)
			require.NoError(t, err)
			texts[f.Name], modes[f.Name] = string(text), int64(f.Mode().Perm())
		}
		return texts, modes
	}
	z, err := gzip.NewReader(bytes.NewReader(packed))
	require.NoError(t, err)
	for tape := tar.NewReader(z); ; {
		head, err := tape.Next()
		if err == io.EOF {
			return texts, modes
		}
		require.NoError(t, err)
		text, err := io.ReadAll(tape)
		require.NoError(t, err)
		texts[head.Name], modes[head.Name] = string(text), head.Mode
	}
}
