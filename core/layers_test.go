// Package core holds the job itself. Its only test watches over what it may import.
package core

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// order is the way data take; a package may import only what stands before it.
var order = []string{"input", "words", "motion", "rig", "combo", "trainee", "bench", "drill", "level", "session", "judge", "ladder", "listen"}

func TestImports(t *testing.T) {
	checked := 0
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		own := slices.Index(order, filepath.Dir(path))
		if own < 0 && filepath.Dir(path) != "." {
			t.Errorf("%s: its package has no place in the order", path)
		}
		for _, spec := range file.Imports {
			name, _ := strconv.Unquote(spec.Path.Value)
			inner, core := strings.CutPrefix(name, "melodromos/core/")
			first := strings.Split(name, "/")[0]
			switch {
			case core && slices.Index(order, inner) >= own:
				t.Errorf("%s imports %s, which stands no earlier", path, name)
			case !core && (first == "melodromos" || strings.Contains(first, ".") && first != "gonum.org"):
				t.Errorf("%s imports %s: core has the standard library and gonum only", path, name)
			case first == "net" || first == "database":
				t.Errorf("%s imports %s", path, name)
			}
			checked++
		}
		return nil
	})
	if err != nil || checked < 30 {
		t.Errorf("%d imports were looked at, %v", checked, err)
	}
}
