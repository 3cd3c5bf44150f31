package arch

import (
	"go/ast"
	"go/token"
	"go/types"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/go/packages"
)

// TestRecordsAreWhatIsAsked: the whole store is named in web.go and in cmd alone; every other package of the
// web asks it through a Records of its own, and of every method in it something is asked.
func TestRecordsAreWhatIsAsked(t *testing.T) {
	loaded, err := packages.Load(&packages.Config{Mode: packages.NeedName | packages.NeedFiles | packages.NeedImports | packages.NeedSyntax | packages.NeedTypes | packages.NeedTypesInfo}, module+"internal/web/...", module+"internal/exchange", module+"internal/chart", module+"internal/mail")
	require.NoError(t, err)
	chapters := 0
	users := map[string]map[string]bool{} // exported name of the parts → packages that use it
	for _, p := range loaded {
		require.Empty(t, p.Errors, p.PkgPath)
		room := strings.TrimPrefix(p.PkgPath, module)
		asked := map[types.Object]bool{}
		for _, file := range p.Syntax {
			name := filepath.Base(p.Fset.Position(file.Pos()).Filename)
			ast.Inspect(file, func(n ast.Node) bool {
				id, is := n.(*ast.Ident)
				if !is {
					return true
				}
				of := p.TypesInfo.Uses[id]
				asked[of] = true
				if of != nil && of.Pkg() != nil && of.Parent() == of.Pkg().Scope() && of.Pkg().Path() == module+"internal/web/parts" {
					key := of.Pkg().Name() + "." + of.Name()
					if users[key] == nil {
						users[key] = map[string]bool{}
					}
					users[key][room] = true
				}
				if what, is := of.(*types.TypeName); is && what.Name() == "Store" && what.Pkg().Path() == module+"internal/store" {
					assert.True(t, room == "internal/web" && name == "web.go" || room == "internal/web/webtest", "%s names the whole store", p.Fset.Position(id.Pos()))
				}
				return true
			})
		}
		records := p.Types.Scope().Lookup("Records")
		if records == nil {
			continue
		}
		chapters++
		methods := records.Type().Underlying().(*types.Interface)
		for i := range methods.NumMethods() {
			assert.True(t, asked[methods.Method(i)], "%s: nothing asks for %s of its Records", room, methods.Method(i).Name())
		}
	}
	assert.Equal(t, 10, chapters, "eight chapters, the frame and the parts")
	for _, p := range loaded {
		if p.Name != "parts" {
			continue
		}
		for _, name := range p.Types.Scope().Names() {
			if _, is := p.Types.Scope().Lookup(name).(*types.Func); is && token.IsExported(name) && name != "New" && name != "Chapter" {
				assert.Greater(t, len(users["parts."+name]), 1, "%s is of one chapter alone", name)
			}
		}
	}
}
