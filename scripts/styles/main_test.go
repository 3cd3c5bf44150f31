package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// TestThePartIsThatOfThePages: what is shipped is what the pages of today use; after a class of Bulma's is used for the first time: go run ./scripts/styles.
func TestThePartIsThatOfThePages(t *testing.T) {
	golden.Alone(t)
	want, err := used(filepath.Join("..", ".."))
	require.NoError(t, err)
	got, err := os.ReadFile(filepath.Join("..", "..", part))
	require.NoError(t, err)
	assert.True(t, want == string(got), "go run ./scripts/styles, from the top folder")
	for _, rule := range []string{".button{", "@media print", ".table", ".input"} {
		assert.Contains(t, want, rule)
	}
	assert.Less(t, len(want), 60_000)
}

func TestOfASmallSheet(t *testing.T) {
	sheet := parse(`@charset "UTF-8";/*! who; made {it} */:root{--a:var(--b);--b:1px;--c:2px;--own:3px}.box,.card .box{margin:var(--a);background:url("x;y")}.box:not(.is-odd){animation:turn 1s}
@media (width>9px){.card{color:red}.box{color:blue}}@media print{.card{color:red}}@keyframes turn{0%{top:0}to{top:1px}}@keyframes fade{to{top:0}}`)
	sheet = sheet.keep(func(s string) bool { return !strings.Contains(s, ".card") })
	sheet.dropVariables("a{gap:var(--own)}")
	assert.Equal(t, `:root{--a:var(--b);--b:1px;--own:3px}
.box{margin:var(--a);background:url("x;y")}
.box:not(.is-odd){animation:turn 1s}
@media (width>9px){
.box{color:blue}
}
@keyframes turn{
0%{top:0}
to{top:1px}
}
`, sheet.String())
}
