// Package arch keeps the import rules between the rooms of the house.
package arch

import (
	"encoding/json"
	"io"
	"os/exec"
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
