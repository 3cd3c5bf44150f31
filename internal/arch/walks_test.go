package arch

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWalksNameWhatExists: every function that the walks name is where they say.
func TestWalksNameWhatExists(t *testing.T) {
	text, err := os.ReadFile("../../docs/walks.md")
	require.NoError(t, err)
	there := map[string]bool{}
	require.NoError(t, filepath.WalkDir("..", func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasSuffix(path, "_test.go") {
			return err
		}
		switch filepath.Ext(path) {
		case ".go":
			tree, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			require.NoError(t, err)
			for _, d := range tree.Decls {
				f, is := d.(*ast.FuncDecl)
				if !is {
					continue
				}
				name := tree.Name.Name + "."
				if f.Recv != nil {
					of := f.Recv.List[0].Type
					if p, is := of.(*ast.StarExpr); is {
						of = p.X
					}
					if id, is := of.(*ast.Ident); is {
						name += id.Name + "."
					}
				}
				there[name+f.Name.Name] = true
			}
		case ".js":
			script, err := os.ReadFile(path)
			require.NoError(t, err)
			there[filepath.Base(path)] = true
			for _, m := range regexp.MustCompile(`(?m)^(?:export )?(?:async )?(?:function|class) (\w+)`).FindAllSubmatch(script, -1) {
				there[filepath.Base(path)+"#"+string(m[1])] = true
			}
		}
		return nil
	}))
	names := regexp.MustCompile("`([\\w#.]+)`").FindAllSubmatch(text, -1)
	assert.Greater(t, len(names), 30)
	for _, m := range names {
		assert.True(t, there[string(m[1])], "docs/walks.md: there is no %s", m[1])
	}
}
