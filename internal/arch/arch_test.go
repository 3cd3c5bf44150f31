// Package arch keeps the import rules between the rooms of the house.
package arch

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

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
	{"internal/core/agreement", []string{"internal/core/", "gonum.org/v1/gonum/stat/distuv"}}, // Student’s t
	{"internal/core/", []string{"internal/core/"}},
	{"internal/words", []string{"internal/core/"}},
	{"internal/chart", []string{"internal/core/", "internal/words", "github.com/skip2/go-qrcode"}},
	{"internal/exchange", []string{"internal/core/", "internal/words", "github.com/go-json-experiment/json", "github.com/go-pdf/fpdf", "github.com/xuri/excelize/v2", "github.com/arran4/golang-ical", "golang.org/x/image/font/sfnt", "golang.org/x/text/"}},
	{"internal/starter", []string{"internal/core/"}},
	{"internal/demo", []string{"internal/core/", "internal/starter"}},
	{"internal/onrecord", []string{"internal/core/", "internal/demo", "internal/store"}},
	{"internal/store", []string{"internal/core/", "github.com/ncruces/go-sqlite3", "github.com/pressly/goose/v3", "github.com/alexedwards/", "github.com/pquerna/otp", "filippo.io/age", "golang.org/x/text/unicode/norm"}},
	{"internal/web/webtest", []string{"internal/core/", "internal/demo", "internal/store", "internal/web", "github.com/stretchr/testify/"}},
	{"internal/web/frame", []string{"internal/words", "internal/core/", "internal/chart", "internal/store", "internal/mail", "github.com/go-chi/", "github.com/alexedwards/scs/v2", "golang.org/x/text/unicode/norm"}},
	{"internal/web/parts", []string{"internal/words", "internal/web/frame", "internal/core/", "internal/chart", "internal/store"}},
	{"internal/web/", []string{"internal/words", "internal/web/frame", "internal/web/parts", "internal/core/", "internal/chart", "internal/exchange", "internal/mail", "internal/starter", "internal/store"}}, // a chapter: never another
	{"internal/web", []string{"internal/web/", "internal/store"}},
	{"internal/rehearsal", nil},
	{"internal/mail", []string{"github.com/wneessen/go-mail"}},
	{"internal/demotest", []string{"internal/core/", "internal/onrecord", "github.com/stretchr/testify/"}},
	{"internal/laddertest", []string{"internal/core/", "github.com/stretchr/testify/"}},
	{"internal/golden", []string{"github.com/stretchr/testify/"}},
	{"internal/e2e", []string{"internal/"}},
	{"internal/arch", nil},
	{"cmd/", []string{"internal/", "github.com/", "golang.org/x/term"}},
	{"scripts/dist", nil},
	{"scripts/styles", []string{"github.com/stretchr/testify/", "internal/golden"}},
}

// closed are the standard packages through which the core could reach the world outside.
var closed = []string{"os", "net", "net/http", "database/sql", "html", "html/template", "text/template", "log", "log/slog", "os/exec", "syscall", "crypto/rand", "math/rand", "io/fs", "embed"}

type pkg struct {
	ImportPath string
	Imports    []string
}

func rooms(t *testing.T) (out []pkg) {
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
	all := rooms(t)
	require.NotEmpty(t, all)
	for _, p := range all {
		room := strings.TrimPrefix(p.ImportPath, module)
		at := slices.IndexFunc(rules, func(r struct {
			room string
			may  []string
		}) bool {
			return strings.HasPrefix(room+"/", r.room+"/") || strings.HasSuffix(r.room, "/") && strings.HasPrefix(room, r.room)
		})
		if !assert.GreaterOrEqual(t, at, 0, "%s is a room without an import rule", room) {
			continue
		}
		for _, imported := range p.Imports {
			first, _, _ := strings.Cut(imported, "/")
			assert.NotEqual(t, module+"internal/web/webtest", imported, "only tests ask %s", room)
			ours, foreign := strings.HasPrefix(imported, module), strings.Contains(first, ".")
			if ours || foreign {
				name := strings.TrimPrefix(imported, module)
				ok := slices.ContainsFunc(rules[at].may, func(may string) bool { return strings.HasPrefix(name, may) })
				assert.True(t, ok || name == room, "%s may not import %s", room, imported)
			} else if strings.HasPrefix(rules[at].room, "internal/core/") {
				assert.NotContains(t, closed, imported, "the core stays without I/O, clock and chance: %s", room)
			}
		}
	}
}

// TestTheCoreAsksNoClockAndNoDice: of package time the core may use days and zones, not what knows or
// waits for the hour; of chance only what begins with a seed it was given.
func TestTheCoreAsksNoClockAndNoDice(t *testing.T) {
	clocks := []string{"Now", "Since", "Until", "Sleep", "After", "AfterFunc", "Tick", "NewTicker", "NewTimer", "Local"}
	seeded := []string{"New", "NewPCG", "Rand", "Source"}
	files, err := filepath.Glob("../core/*/*.go")
	require.NoError(t, err)
	days, chance := 0, 0
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		set := token.NewFileSet()
		tree, err := parser.ParseFile(set, file, nil, 0)
		require.NoError(t, err)
		for _, x := range taken(tree, "time") {
			days++
			assert.NotContains(t, clocks, x.Sel.Name, "%s: the core is told the time", set.Position(x.Pos()))
		}
		for _, x := range taken(tree, "math/rand/v2") {
			chance++
			assert.Contains(t, seeded, x.Sel.Name, "%s: the core is given its seed", set.Position(x.Pos()))
		}
	}
	assert.NotZero(t, days)
	assert.NotZero(t, chance)
}

// taken is what a file takes out of a standard package, under whatever name it has it.
func taken(tree *ast.File, from string) (out []*ast.SelectorExpr) {
	name := ""
	for _, x := range tree.Imports {
		if x.Path.Value != `"`+from+`"` {
			continue
		}
		if name = path.Base(strings.TrimSuffix(from, "/v2")); x.Name != nil {
			name = x.Name.Name
		}
	}
	ast.Inspect(tree, func(n ast.Node) bool {
		if x, ok := n.(*ast.SelectorExpr); ok {
			if of, ok := x.X.(*ast.Ident); ok && name != "" && of.Name == name {
				out = append(out, x)
			}
		}
		return true
	})
	return out
}

// TestWhatRunsAlone: every test that is left out where races are watched for is run without, by the script
// that the Makefile asks.
func TestWhatRunsAlone(t *testing.T) {
	makefile, err := os.ReadFile("../../Makefile")
	require.NoError(t, err)
	require.Contains(t, string(makefile), "alone=$$(sh scripts/alone.sh) && shared=$$(mktemp -d) && trap \"rm -rf $$shared\" EXIT && VELVETLADDER_SHARED=$$shared $(PLAIN) go test -vet=off -timeout 8m $$alone\n")
	out, err := exec.Command("sh", "../../scripts/alone.sh").Output()
	require.NoError(t, err)
	said := strings.Fields(string(out))
	require.Equal(t, "-run", said[0])
	names := strings.Split(strings.Trim(said[1], "^()$"), "|")
	found := 0
	require.NoError(t, filepath.WalkDir("../..", func(file string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(file, "_test.go") {
			return err
		}
		tree, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
		for _, d := range tree.Decls {
			f, ok := d.(*ast.FuncDecl)
			if !ok || !strings.HasPrefix(f.Name.Name, "Test") || len(f.Body.List) == 0 || types.ExprString(called(f.Body.List[0])) != "golden.Alone" {
				continue
			}
			found++
			assert.Contains(t, names, f.Name.Name)
			assert.Contains(t, said[2:], "./"+strings.TrimPrefix(filepath.ToSlash(filepath.Dir(file)), "../../"), f.Name.Name)
		}
		return err
	}))
	assert.Len(t, names, found)
}

// called is the function that a statement calls; a name of nothing where it calls none.
func called(s ast.Stmt) ast.Expr {
	if x, ok := s.(*ast.ExprStmt); ok {
		if c, ok := x.X.(*ast.CallExpr); ok {
			return c.Fun
		}
	}
	return ast.NewIdent("_")
}

// longestLine bounds the lines of the web, in columns; about 120 is meant. Only a text for people may make
// one longer.
const longestLine = 200

var longText = regexp.MustCompile(`"[^"]{80,}"`)

// TestFunctionsOfTheWebFitAScreen: one over sixty lines gives its reason in its comment, and no line is too
// long.
func TestLinesOfTheWebAreBounded(t *testing.T) {
	files, err := filepath.Glob("../web/*/*.go")
	require.NoError(t, err)
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") || strings.Contains(file, "webtest") {
			continue
		}
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		for i, line := range strings.Split(strings.ReplaceAll(string(text), "\t", "    "), "\n") {
			assert.True(t, utf8.RuneCountInString(line) <= longestLine || longText.MatchString(line), "%s:%d is longer than a line may be", file, i+1)
		}
	}
}

// TestFunctionsFitAScreen: a function of the core, the words, the records or the web has at most 60 lines, or its
// comment says why it is long.
func TestFunctionsFitAScreen(t *testing.T) {
	functions := 0
	for _, room := range []string{"../core/*/*.go", "../words/*.go", "../store/*.go", "../web/*/*.go"} {
		files, err := filepath.Glob(room)
		require.NoError(t, err)
		for _, file := range files {
			if strings.HasSuffix(file, "_test.go") || strings.Contains(file, "webtest") {
				continue
			}
			set := token.NewFileSet()
			tree, err := parser.ParseFile(set, file, nil, parser.ParseComments)
			require.NoError(t, err)
			for _, d := range tree.Decls {
				f, is := d.(*ast.FuncDecl)
				if !is {
					continue
				}
				functions++
				if lines := set.Position(f.End()).Line - set.Position(f.Pos()).Line + 1; lines > 60 {
					assert.Contains(t, f.Doc.Text(), "long", "%s: %s has %d lines", file, f.Name.Name, lines)
				}
			}
		}
	}
	assert.Greater(t, functions, 2000)
}
