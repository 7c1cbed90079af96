package core

import (
	"go/ast"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// What docs/architecture.md names is there: every function, every folder and file; and in the three journeys each
// function is called by the one that it is said to be called by, which stands above it: no hop is left out.
func TestArchitectureIsAsTold(t *testing.T) {
	page, err := os.ReadFile("../docs/architecture.md")
	if err != nil {
		t.Fatal(err)
	}
	declared := map[string]ast.Node{}
	eachFile(t, "..", func(file string, f *ast.File) {
		folder := path.Base(filepath.ToSlash(filepath.Dir(file)))
		for _, d := range f.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				declared[folder+"."+receiver(d)+d.Name.Name] = d
			case *ast.GenDecl:
				for _, spec := range d.Specs {
					switch s := spec.(type) {
					case *ast.TypeSpec:
						declared[folder+"."+s.Name.Name] = s
					case *ast.ValueSpec:
						declared[folder+"."+s.Names[0].Name] = s
					}
				}
			}
		}
	})
	dotted := regexp.MustCompile("`([a-z]+(?:\\.[A-Za-z]+)+)`")
	for _, m := range dotted.FindAllStringSubmatch(string(page), -1) {
		if declared[m[1]] == nil {
			t.Errorf("there is no %s", m[1])
		}
	}
	for _, m := range regexp.MustCompile("`([a-z]+/[A-Za-z0-9_./]*)`").FindAllStringSubmatch(string(page), -1) {
		if _, err := os.Stat("../" + m[1]); err != nil {
			t.Errorf("there is no %s", m[1])
		}
	}
	journeys := 0
	above := map[string]bool{}
	for _, line := range strings.Split(string(page), "\n") {
		if strings.HasPrefix(line, "## How a ") {
			journeys, above = journeys+1, map[string]bool{}
		}
		cells := strings.Split(line, "|")
		if len(cells) < 5 || !strings.Contains(cells[1], "`") {
			continue
		}
		called, by := strings.Trim(cells[1], " `"), strings.Trim(cells[2], " `")
		switch {
		case by != "" && !above[by]:
			t.Errorf("how %s is reached is not told", by)
		case by != "" && !mentions(declared[by], called[strings.LastIndex(called, ".")+1:]):
			t.Errorf("%s does not call %s", by, called)
		}
		above[called] = true
	}
	if journeys != 3 {
		t.Errorf("%d journeys", journeys)
	}
}

// receiver is "Type." of a method, "" of a function.
func receiver(d *ast.FuncDecl) string {
	if d.Recv == nil {
		return ""
	}
	of := d.Recv.List[0].Type
	if star, ok := of.(*ast.StarExpr); ok {
		of = star.X
	}
	if generic, ok := of.(*ast.IndexExpr); ok {
		of = generic.X
	}
	return of.(*ast.Ident).Name + "."
}

// mentions says whether a declaration uses a name.
func mentions(n ast.Node, name string) bool {
	found := false
	if n != nil {
		ast.Inspect(n, func(n ast.Node) bool {
			if id, ok := n.(*ast.Ident); ok && id.Name == name {
				found = true
			}
			return !found
		})
	}
	return found
}
