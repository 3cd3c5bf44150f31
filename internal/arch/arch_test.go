// Package arch keeps the import rules between the rooms of the house.
package arch

import (
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "velvetladder/"

// rules name, per room, the rooms and foreign modules it may import, by prefix. A room that
// is not named here may not exist.
var rules = []struct {
	room string
	may  []string
}{
	{"internal/core/", []string{"internal/core/"}},
	{"internal/chart", []string{"internal/core/", "github.com/skip2/go-qrcode"}},
	{"internal/exchange", []string{"internal/core/", "github.com/go-json-experiment/json", "github.com/go-pdf/fpdf", "github.com/xuri/excelize/v2", "github.com/arran4/golang-ical", "golang.org/x/image/font/sfnt", "golang.org/x/text/unicode/norm"}},
	{"internal/demo", []string{"internal/core/"}},
	{"internal/onrecord", []string{"internal/core/", "internal/demo", "internal/store"}},
	{"internal/store", []string{"internal/core/", "github.com/ncruces/go-sqlite3", "github.com/pressly/goose/v3", "github.com/alexedwards/"}},
	{"internal/web", []string{"internal/core/", "internal/chart", "internal/exchange", "internal/store", "internal/mail", "github.com/go-chi/", "github.com/alexedwards/scs/v2"}},
	{"internal/rehearsal", nil},
	{"internal/mail", []string{"github.com/wneessen/go-mail"}},
	{"internal/golden", []string{"github.com/stretchr/testify/"}},
	{"internal/e2e", []string{"internal/"}},
	{"internal/arch", nil},
	{"cmd/", []string{"internal/", "github.com/"}},
}

// closed are the standard packages through which the core could reach the world outside.
var closed = []string{"os", "net", "net/http", "database/sql", "html", "html/template", "text/template", "log", "log/slog", "os/exec", "syscall", "crypto/rand", "math/rand", "io/fs", "embed"}

type pkg struct {
	ImportPath string
	Imports    []string
}

func packages(t *testing.T) (out []pkg) {
	cmd := exec.Command("go", "list", "-json=ImportPath,Imports", module+"...")
	text, err := cmd.Output()
	require.NoError(t, err)
	dec := json.NewDecoder(strings.NewReader(string(text)))
	for {
		var p pkg
		if err := dec.Decode(&p); err == io.EOF {
			return out
		} else {
			require.NoError(t, err)
		}
		out = append(out, p)
	}
}

func TestRoomsImportOnlyWhatTheyMay(t *testing.T) {
	all := packages(t)
	require.NotEmpty(t, all)
	for _, p := range all {
		path := strings.TrimPrefix(p.ImportPath, module)
		at := slices.IndexFunc(rules, func(r struct {
			room string
			may  []string
		}) bool {
			return strings.HasPrefix(path+"/", r.room+"/") || strings.HasSuffix(r.room, "/") && strings.HasPrefix(path, r.room)
		})
		if !assert.GreaterOrEqual(t, at, 0, "%s is a room without an import rule", path) {
			continue
		}
		for _, imported := range p.Imports {
			first, _, _ := strings.Cut(imported, "/")
			ours, foreign := strings.HasPrefix(imported, module), strings.Contains(first, ".")
			if ours || foreign {
				name := strings.TrimPrefix(imported, module)
				ok := slices.ContainsFunc(rules[at].may, func(may string) bool { return strings.HasPrefix(name, may) })
				assert.True(t, ok || name == path, "%s may not import %s", path, imported)
			} else if rules[at].room == "internal/core/" {
				assert.NotContains(t, closed, imported, "the core stays without I/O, clock and chance: %s", path)
			}
		}
	}
}

// TestWhatRunsAlone: every test that is left out where races are watched for is run by the line of the
// Makefile that runs them without.
func TestWhatRunsAlone(t *testing.T) {
	make, err := os.ReadFile("../../Makefile")
	require.NoError(t, err)
	names := regexp.MustCompile(`(?m)^ALONE := (.*)$`).FindSubmatch(make)
	line := regexp.MustCompile(`(?m)^\tgo test .*-run '\$\(ALONE\)' (.*)$`).FindSubmatch(make)
	require.NotNil(t, names)
	require.NotNil(t, line)
	runs := regexp.MustCompile(string(names[1]))
	files, err := filepath.Glob("../*/*_test.go")
	require.NoError(t, err)
	core, err := filepath.Glob("../core/*/*_test.go")
	require.NoError(t, err)
	found := 0
	for _, file := range append(files, core...) {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for _, m := range regexp.MustCompile(`func (Test\w+)\(t \*testing\.T\) \{\n\tgolden\.Alone\(t\)`).FindAllSubmatch(text, -1) {
			found++
			assert.True(t, runs.Match(m[1]), "%s is run by nothing", m[1])
			assert.Contains(t, strings.Fields(string(line[1])), "./internal/"+strings.TrimPrefix(filepath.ToSlash(filepath.Dir(file)), "../"), "%s", m[1])
		}
	}
	assert.Equal(t, found, strings.Count(string(names[1]), "|")+1+3, "LookedAt names four")
}
