package core

import (
	"go/scanner"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"
)

const (
	columns  = 120
	tabWidth = 4
	unbroken = 48 // a text this long is not taken apart to make a line fit
)

// No line is wider than 120 columns, unless a text stands on it that is better left whole.
func TestLinesFit(t *testing.T) {
	eachSource(t, func(path string, source []byte) {
		longest := textsByLine(source)
		for i, line := range strings.Split(string(source), "\n") {
			wide := utf8.RuneCountInString(line) + (tabWidth-1)*strings.Count(line, "\t")
			if wide > columns && longest[i+1] < unbroken {
				t.Errorf("%s:%d: %d columns", path, i+1, wide)
			}
		}
	})
}

var riddle = regexp.MustCompile(`^\s*// \w+ (is|are) (by )?(how|what|where|whether|when|which|why)\b`)

// A comment says what a thing returns, holds or limits, and does not define it by a question: no "x is how …".
func TestCommentsAreNoRiddles(t *testing.T) {
	eachSource(t, func(path string, source []byte) {
		for i, line := range strings.Split(string(source), "\n") {
			if riddle.MatchString(line) {
				t.Errorf("%s:%d: %s", path, i+1, strings.TrimSpace(line))
			}
		}
	})
}

// eachSource reads every Go file of the tree.
func eachSource(t *testing.T, do func(path string, source []byte)) {
	t.Helper()
	err := filepath.WalkDir("..", func(path string, entry fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case entry.IsDir() && (entry.Name() == "node_modules" || len(entry.Name()) > 2 && entry.Name()[0] == '.'):
			return filepath.SkipDir
		case !strings.HasSuffix(path, ".go"):
			return nil
		}
		source, err := os.ReadFile(path)
		if err == nil {
			do(path, source)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// textsByLine gives the length of the longest literal text that stands on each line; lines are counted from 1.
func textsByLine(source []byte) map[int]int {
	files := token.NewFileSet()
	file := files.AddFile("", files.Base(), len(source))
	var s scanner.Scanner
	s.Init(file, source, nil, 0)
	longest := map[int]int{}
	for {
		at, what, text := s.Scan()
		switch what {
		case token.EOF:
			return longest
		case token.STRING:
			first := file.Line(at)
			for n, line := range strings.Split(text, "\n") {
				longest[first+n] = max(longest[first+n], len(line))
			}
		}
	}
}
