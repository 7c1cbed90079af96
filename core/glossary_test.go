package core

import (
	"go/ast"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// Every type that docs/glossary.md names is there, and no two exported types of core have one name but for those that
// the page gives a reason for.
func TestGlossary(t *testing.T) {
	page, err := os.ReadFile("../docs/glossary.md")
	if err != nil {
		t.Fatal(err)
	}
	where := map[string][]string{} // packages by type
	eachFile(t, ".", func(path string, file *ast.File) {
		for _, d := range file.Decls {
			g, ok := d.(*ast.GenDecl)
			if !ok || strings.HasSuffix(path, "_test.go") {
				continue
			}
			for _, spec := range g.Specs {
				if s, ok := spec.(*ast.TypeSpec); ok && s.Name.IsExported() {
					where[s.Name.Name] = append(where[s.Name.Name], filepath.Base(filepath.Dir(path)))
				}
			}
		}
	})
	table, reasons, _ := strings.Cut(string(page), "## One name in two packages")
	named := regexp.MustCompile("`([a-z]+)\\.([A-Z][A-Za-z]*)`")
	for _, m := range named.FindAllStringSubmatch(table, -1) {
		if !slices.Contains(where[m[2]], m[1]) {
			t.Errorf("there is no type %s.%s", m[1], m[2])
		}
	}
	for name, packages := range where {
		for _, p := range packages {
			if len(packages) > 1 && !strings.Contains(reasons, "`"+p+"."+name+"`") {
				t.Errorf("%s is a type of %v, and the glossary does not say why", name, packages)
			}
		}
	}
}
