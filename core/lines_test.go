package core

import (
	"go/scanner"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
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
		if err != nil {
			return err
		}
		longest := textsByLine(source)
		for i, line := range strings.Split(string(source), "\n") {
			wide := utf8.RuneCountInString(line) + (tabWidth-1)*strings.Count(line, "\t")
			if wide > columns && longest[i+1] < unbroken {
				t.Errorf("%s:%d: %d columns", path, i+1, wide)
			}
		}
		return nil
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
