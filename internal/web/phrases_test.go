package web_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/words"
)

var (
	literal  = regexp.MustCompile("\"((?:[^\"\\\\\n]|\\\\.)*)\"|`((?:[^`\\\\]|\\\\.)*)`")
	remark   = regexp.MustCompile(`(?m)(^|\s)//.*$|/\*[\s\S]*?\*/`)
	sentence = regexp.MustCompile(`[A-Za-z’']{2,},? [a-z’']{2,}`)
	notSaid  = regexp.MustCompile(`(^|[\s(])[.#][a-z]|[a-z][.#][a-z]|[\[\]{}=<>/]|:[a-z]|^velvetladder|^(is-|button|table|card|tag|entry|wide|remark|tally|soft|caller) ?[a-z -]*$|^[a-z]+(, [a-z]+)+$`) // selectors, classes, keys
)

// scriptsOf are the scripts of the screens and of the library, by their path.
func scriptsOf(t *testing.T) map[string]string {
	out := map[string]string{}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err == nil && strings.HasSuffix(path, ".js") && !strings.Contains(path, "vendor") {
			text, err := os.ReadFile(path)
			out[path] = remark.ReplaceAllString(string(text), "$1")
			return err
		}
		return err
	}))
	return out
}

// TestScriptsHaveTheirSentencesFromThePage: each sentence a script says stands in words, for its screen, and each that stands there is said;
// none is written in a script.
func TestScriptsHaveTheirSentencesFromThePage(t *testing.T) {
	all, used := words.Scripts(), map[string]map[string]bool{}
	for path, text := range scriptsOf(t) {
		if strings.HasSuffix(path, "phrase.js") {
			continue
		}
		screen := strings.TrimSuffix(filepath.Base(path), ".js")
		if strings.Contains(path, "/lib/") {
			screen = "lib"
		}
		for _, call := range callsOf(text) {
			names := literal.FindAllStringSubmatch(call, -1)
			require.NotEmpty(t, names, "%s: %s", path, call)
			for _, m := range names {
				name := m[1] + m[2]
				at := screen
				if _, own := all[screen][name]; !own {
					at = "lib"
				}
				if cut, _, composed := strings.Cut(name, "${"); composed { // a name put together: kind ${x}
					for other := range all[at] {
						if strings.HasPrefix(other, cut) {
							mark(used, at, other)
						}
					}
					for other := range all[screen] {
						if strings.HasPrefix(other, cut) {
							mark(used, screen, other)
						}
					}
					continue
				}
				_, there := all[at][name]
				assert.True(t, there, "%s says %q, which is in no words of its page", path, name)
				mark(used, at, name)
			}
		}
		for _, m := range literal.FindAllStringSubmatch(text, -1) {
			said := regexp.MustCompile(`\$\{[^}]*\}`).ReplaceAllString(m[1]+m[2], "")
			if sentence.MatchString(said) && !notSaid.MatchString(said) {
				t.Errorf("%s: %q is written in a script", path, said)
			}
		}
	}
	for screen, list := range all {
		for name := range list {
			assert.True(t, used[screen][name], "%s: nobody says %q", screen, name)
		}
	}
	assert.True(t, slices.Contains([]string{"all stored"}, words.Script("register")["stored"]), "what every screen says")
	assert.Empty(t, words.Script("lib")["noted"], "what another screen says")
}

func mark(used map[string]map[string]bool, screen, name string) {
	if used[screen] == nil {
		used[screen] = map[string]bool{}
	}
	used[screen][name] = true
}

// callsOf are the first arguments with which phrase is called.
func callsOf(text string) (out []string) {
	for _, rest := range strings.Split(text, "phrase(")[1:] {
		depth := 0
		end := strings.IndexFunc(rest, func(r rune) bool {
			switch r {
			case '(', '{', '[':
				depth++
			case ')', '}', ']':
				depth--
			}
			return depth < 0 || depth == 0 && r == ','
		})
		out = append(out, rest[:end])
	}
	return out
}
