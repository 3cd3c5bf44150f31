package main

import (
	"runtime/debug"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestVersion(t *testing.T) {
	set := func(pairs ...string) *debug.BuildInfo {
		b := &debug.BuildInfo{}
		for i := 0; i < len(pairs); i += 2 {
			b.Settings = append(b.Settings, debug.BuildSetting{Key: pairs[i], Value: pairs[i+1]})
		}
		return b
	}
	assert.Equal(t, "2026.03.01 (0123456789)", versionOf(set("vcs.time", "2026-03-01T09:00:00Z", "vcs.revision", "0123456789abcdef")))
	assert.Equal(t, "2026.03.01 (0123456789, with changes)", versionOf(set("vcs.time", "2026-03-01T09:00:00Z", "vcs.revision", "0123456789abcdef", "vcs.modified", "true")))
	assert.Equal(t, "of an unknown commit", versionOf(set("vcs.revision", "0123456789abcdef")))
	assert.Equal(t, "of an unknown commit", versionOf(nil))
	code, out, _ := call("", "--version")
	assert.Equal(t, exitOK, code)
	assert.Contains(t, out, "Velvet Ladder ")
}
