// Package core holds the job itself. Its only test watches over what it may import.
package core

import (
	"go/ast"
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
var order = []string{"answer", "words", "input", "erasing", "motion", "rig", "combo", "trainee", "drill", "level",
	"caution", "catalogue", "bench", "compose", "judge", "fault", "run", "ladder", "session", "rotation",
	"roster",
	"class", "progress", "timetable"}

func TestImports(t *testing.T) {
	eachFile(t, ".", func(path string, file *ast.File) {
		own := slices.Index(order, filepath.ToSlash(filepath.Dir(path)))
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
		}
	})
}

// rooms says, for each folder beside core, what else of the product it may import and which packages of others. Only
// the store knows a database, only the server HTTP; what joins the two knows neither.
var rooms = map[string]struct{ own, others []string }{
	"account": {[]string{"core"}, []string{"github.com/alexedwards/argon2id", "golang.org/x/sync"}},
	"backup":  {[]string{"store"}, []string{"github.com/jackc/pgx"}},
	"calc":    {[]string{"core"}, nil},
	"cmd/melodromos": {[]string{"account", "backup", "browser", "calc", "core", "demo", "format/calendar",
		"format/document",
		"format/midi", "format/sound", "format/table", "format/wav", "ledger", "server",
		"server/schema", "standin", "store", "ui"},
		[]string{"github.com/caarlos0/env", "github.com/spf13/cobra", "golang.org/x/term"}},
	"demo":            {[]string{"account", "core", "ledger", "standin", "store"}, nil},
	"format":          {nil, nil},
	"format/document": {[]string{"core"}, nil},
	"format/midi":     {[]string{"core"}, []string{"gitlab.com/gomidi/midi"}},
	"format/table":    {[]string{"core"}, nil},
	"format/calendar": {[]string{"core"}, []string{"github.com/arran4/golang-ical"}},
	"format/sound":    {[]string{"core"}, nil},
	"format/wav":      {[]string{"core", "format/sound"}, []string{"github.com/hajimehoshi/go-mp3"}},
	"format/others":   {nil, nil},
	"recorded":        {[]string{"core"}, nil},
	"scripts/budgets": {[]string{"demo"}, nil},
	"browser":         {nil, []string{"github.com/chromedp", "golang.org/x/sys"}},
	"e2e/shots":       {[]string{"browser", "demo"}, []string{"github.com/chromedp"}},
	"ledger": {[]string{"core", "format", "format/calendar", "format/document", "format/midi",
		"format/table", "store"}, nil},
	"server": {[]string{"account", "calc", "core", "format", "format/calendar", "format/document", "format/midi",
		"format/sound", "format/table", "format/wav", "ledger", "server/door", "server/schema", "server/watch",
		"standin", "store"}, []string{"github.com/alexedwards/scs", "github.com/coder/websocket",
		"github.com/danielgtaylor/huma", "github.com/gin-contrib/gzip", "github.com/gin-gonic/gin",
		"golang.org/x/sync"}},
	"server/door":     {nil, []string{"golang.org/x/sync", "golang.org/x/time"}},
	"server/schema":   {[]string{"core", "format/document"}, []string{"github.com/danielgtaylor/huma"}},
	"server/watch":    {nil, nil},
	"standin":         {[]string{"core"}, nil},
	"standin/career":  {[]string{"core", "standin"}, nil},
	"store":           {[]string{"core"}, []string{"github.com/jackc/pgx", "github.com/pressly/goose", "gorm.io"}},
	"store/storetest": {[]string{"store"}, []string{"github.com/jackc/pgx"}},
	"ui":              {nil, nil},
	"ui/labels":       {[]string{"core", "format/sound"}, nil},
}

func TestRooms(t *testing.T) {
	seen := map[string]bool{}
	eachFile(t, "..", func(path string, file *ast.File) {
		room := filepath.ToSlash(filepath.Dir(path))[len("../"):]
		if room == "core" || strings.HasPrefix(room, "core/") || strings.HasSuffix(path, "_test.go") {
			return
		}
		seen[room] = true
		may, known := rooms[room]
		if !known {
			t.Errorf("%s: its folder has no place among the rooms", path)
		}
		for _, spec := range file.Imports {
			name, _ := strconv.Unquote(spec.Path.Value)
			under := func(of string) bool { return name == of || strings.HasPrefix(name, of+"/") }
			inner, own := strings.CutPrefix(name, "melodromos/")
			switch {
			case own && !slices.Contains(may.own, inner) &&
				!(strings.HasPrefix(inner, "core/") && slices.Contains(may.own, "core")):
				t.Errorf("%s imports %s", path, name)
			case !own && strings.Contains(strings.Split(name, "/")[0], ".") && !slices.ContainsFunc(may.others, under):
				t.Errorf("%s imports %s", path, name)
			}
		}
	})
	for room := range rooms {
		if !seen[room] {
			t.Errorf("there is no %s", room)
		}
	}
}

// eachFile reads the Go files under a folder.
func eachFile(t *testing.T, root string, see func(path string, file *ast.File)) {
	t.Helper()
	n := 0
	err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		if err == nil && d.IsDir() && (d.Name() == "node_modules" || len(d.Name()) > 2 && d.Name()[0] == '.') {
			return fs.SkipDir
		}
		if err != nil || !strings.HasSuffix(path, ".go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		if err == nil {
			see(path, file)
			n++
		}
		return err
	})
	if err != nil || n < 100 {
		t.Fatalf("%d files: %v", n, err)
	}
}

// A deed is one call: what the server does in a gym's rows with more than one question or command stands in ledger, in
// one transaction. So no function of the server asks the rows of a gym twice, and none opens a transaction.
func TestDeedsStandInLedger(t *testing.T) {
	eachFile(t, "..", func(path string, file *ast.File) {
		if filepath.Dir(path) != "../server" || strings.HasSuffix(path, "_test.go") {
			return
		}
		var look func(name string, body *ast.BlockStmt)
		look = func(name string, body *ast.BlockStmt) {
			var asked []string
			ast.Inspect(body, func(n ast.Node) bool {
				if inner, ok := n.(*ast.FuncLit); ok {
					look(name, inner.Body)
					return false
				}
				call, ok := n.(*ast.CallExpr)
				if !ok {
					return true
				}
				if method, ok := call.Fun.(*ast.SelectorExpr); ok && ofGym(method.X) && method.Sel.Name != "Now" {
					asked = append(asked, method.Sel.Name)
				}
				return true
			})
			if len(asked) > 1 || slices.Contains(asked, "Together") {
				t.Errorf("%s: %s asks the rows of a gym for %s", path, name, strings.Join(asked, ", "))
			}
		}
		for _, d := range file.Decls {
			if f, ok := d.(*ast.FuncDecl); ok && f.Body != nil {
				look(f.Name.Name, f.Body)
			}
		}
	})
}

// ofGym tells whether an expression is a variable or a field by the name of a gym's rows.
func ofGym(x ast.Expr) bool {
	switch x := x.(type) {
	case *ast.Ident:
		return strings.EqualFold(x.Name, "gym")
	case *ast.SelectorExpr:
		return strings.EqualFold(x.Sel.Name, "gym")
	}
	return false
}
