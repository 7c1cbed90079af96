package core

import (
	"go/ast"
	"go/token"
	"go/types"
	"path/filepath"
	"testing"
)

// No name of the product hides one that Go has built in.
func TestNoBuiltInIsHidden(t *testing.T) {
	eachFile(t, "..", func(path string, file *ast.File) {
		tell := func(id *ast.Ident) {
			if types.Universe.Lookup(id.Name) != nil && id.Name != "_" {
				t.Errorf("%s: a variable is called %s", filepath.ToSlash(path), id.Name)
			}
		}
		ast.Inspect(file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.FuncType:
				for _, list := range []*ast.FieldList{n.Params, n.Results} {
					if list == nil {
						continue
					}
					for _, f := range list.List {
						for _, id := range f.Names {
							tell(id)
						}
					}
				}
			case *ast.AssignStmt:
				for _, left := range n.Lhs {
					if id, ok := left.(*ast.Ident); ok && n.Tok == token.DEFINE {
						tell(id)
					}
				}
			case *ast.RangeStmt:
				for _, left := range []ast.Expr{n.Key, n.Value} {
					if id, ok := left.(*ast.Ident); ok && n.Tok == token.DEFINE {
						tell(id)
					}
				}
			case *ast.ValueSpec:
				for _, id := range n.Names {
					tell(id)
				}
			}
			return true
		})
	})
}
