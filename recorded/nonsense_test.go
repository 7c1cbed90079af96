package recorded

import (
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"melodromos/core/combo"
)

// No code compares, parses or converts a sentence: with every text of core turned into nonsense, the calculator and the
// demo gym give the same numbers and codes, and what was stored under the old texts is read as before.
//
// What is left as it is: the notation, whose words are read, and the names of drills, by which the recorded questions
// find them.
func TestLongNonsense(t *testing.T) {
	folder := t.TempDir()
	replace := map[string]string{}
	texts := 0
	err := filepath.WalkDir("../core", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") ||
			strings.Contains(path, "core/combo/") || strings.Contains(path, "core/catalogue/") ||
			strings.HasSuffix(path, "core/drill/technique.go") {
			return err
		}
		text, n, err := nonsense(path)
		if err != nil || n == 0 {
			return err
		}
		texts += n
		whole, err := filepath.Abs(path)
		if err != nil {
			return err
		}
		replace[whole] = filepath.Join(folder, fmt.Sprintf("%d.go", len(replace)))
		return os.WriteFile(replace[whole], text, 0o600)
	})
	if err != nil || texts < 500 {
		t.Fatalf("%d texts: %v", texts, err)
	}
	overlay, err := json.Marshal(map[string]any{"Replace": replace})
	if err != nil {
		t.Fatal(err)
	}
	list := filepath.Join(folder, "overlay.json")
	if err := os.WriteFile(list, overlay, 0o600); err != nil {
		t.Fatal(err)
	}
	for _, where := range []string{"../calc", "../server"} {
		out, err := exec.CommandContext(t.Context(), "go", "test", "-count=1", "-vet=off", "-ldflags=-s -w",
			"-gcflags=melodromos/...=-N -l", "-overlay", list, "-run", "Recorded", where).CombinedOutput()
		if err != nil {
			t.Errorf("%s: %v\n%.6000s", where, err, out)
		}
	}
	t.Logf("%d texts of %d files", texts, len(replace))
}

// nonsense reads a file with its texts turned into nonsense, and tells how many those were.
func nonsense(path string) (text []byte, n int, err error) {
	text, err = os.ReadFile(path)
	if err != nil {
		return nil, 0, err
	}
	files := token.NewFileSet()
	file, err := parser.ParseFile(files, path, text, parser.SkipObjectResolution)
	if err != nil {
		return nil, 0, err
	}
	tags := map[*ast.BasicLit]bool{}
	var literals []*ast.BasicLit
	ast.Inspect(file, func(node ast.Node) bool {
		switch node := node.(type) {
		case *ast.FuncDecl:
			return node.Name.Name != "Name"
		case *ast.Field:
			tags[node.Tag] = true
		case *ast.BasicLit:
			literals = append(literals, node)
		}
		return true
	})
	for i := len(literals) - 1; i >= 0; i-- { // from the end, so that places stay
		l := literals[i]
		said, err := strconv.Unquote(l.Value)
		if l.Kind != token.STRING || tags[l] || err != nil || !sentence(said) {
			continue
		}
		from := files.Position(l.Pos()).Offset
		text = append(text[:from:from], append([]byte(strconv.Quote(turned(said))), text[from+len(l.Value):]...)...)
		n++
	}
	return text, n, nil
}

var words = regexp.MustCompile(`[a-z]{2,},? [a-z(%]|^ ?[a-z]+ [a-z]+`)

// sentence tells whether a literal is told to somebody: more than one word, and no line of the notation.
func sentence(text string) bool {
	if !words.MatchString(text) {
		return false
	}
	_, err := combo.Parse(strings.TrimSpace(text))
	return err != nil
}

var verb = regexp.MustCompile(`%[-+# 0]*[0-9.]*[a-zA-Z%]`)

// turned moves every letter on by 13, but for those of the verbs of fmt.
func turned(text string) string {
	var out strings.Builder
	letters := func(part string) {
		for _, r := range part {
			switch {
			case r >= 'a' && r <= 'z':
				r = 'a' + (r-'a'+13)%26
			case r >= 'A' && r <= 'Z':
				r = 'A' + (r-'A'+13)%26
			}
			out.WriteRune(r)
		}
	}
	at := 0
	for _, v := range verb.FindAllStringIndex(text, -1) {
		letters(text[at:v[0]])
		out.WriteString(text[v[0]:v[1]])
		at = v[1]
	}
	letters(text[at:])
	return out.String()
}
