// Package table writes the log and its hits as comma-separated values (RFC 4180) and reads them back: the first line
// names the columns, a line ends with CR LF, numbers carry full precision with a point, times are UTC (RFC 3339).
package table

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"melodromos/core/input"
)

// column is one of a table of T: how it is written, and how it is read from a cell that is not empty.
type column[T any] struct {
	name  string
	write func(*T) string
	read  func(*T, string) error
	must  bool // it has to be there, and filled
}

// Number is a number that may be missing.
type Number = *float64

func texted[T any](name string, at func(*T) *string, most int) column[T] {
	write := func(v *T) string { return quoted(*at(v)) }
	return column[T]{name: name, write: write, read: func(v *T, cell string) error {
		cell = unquoted(cell)
		if n := len([]rune(cell)); n > most {
			return fmt.Errorf("expected at most %d characters, not %d", most, n)
		}
		*at(v) = cell
		return nil
	}}
}

// formula says whether a text, behind any apostrophes, begins as what a spreadsheet would work out (OWASP, CSV
// injection).
func formula(text string) bool {
	text = strings.TrimLeft(text, "'")
	return text != "" && strings.ContainsRune("=+-@\t", rune(text[0]))
}

// quoted puts an apostrophe before a text that a spreadsheet would take for a formula; unquoted takes it off.
func quoted(text string) string {
	text = strings.ReplaceAll(text, "\r", "") // as the writer does, which ends lines with it
	if formula(text) {
		return "'" + text
	}
	return text
}

func unquoted(cell string) string {
	if strings.HasPrefix(cell, "'") && formula(cell) {
		return cell[1:]
	}
	return cell
}

func worded[T any](name string, at func(*T) *string, words ...string) column[T] {
	c := texted(name, at, 60)
	c.read = func(v *T, cell string) error {
		if !slices.Contains(words, cell) {
			return fmt.Errorf("expected one of %s, not %q", strings.Join(words, ", "), cell)
		}
		*at(v) = cell
		return nil
	}
	return c
}

func counted[T any](name string, at func(*T) *int) column[T] {
	return column[T]{name: name, write: func(v *T) string { return strconv.Itoa(*at(v)) },
		read: func(v *T, cell string) (err error) {
			*at(v), err = whole(cell)
			return err
		}}
}

func maybe[T any](name string, at func(*T) **int) column[T] {
	return column[T]{name: name, write: func(v *T) string {
		if *at(v) == nil {
			return ""
		}
		return strconv.Itoa(**at(v))
	}, read: func(v *T, cell string) error {
		n, err := whole(cell)
		*at(v) = &n
		return err
	}}
}

const most = 1_000_000_000

func whole(cell string) (int, error) {
	n, err := strconv.Atoi(cell)
	if err != nil || n < 0 || n > most {
		return 0, fmt.Errorf("expected a whole number from 0, not %q", cell)
	}
	return n, nil
}

func figure[T any](name string, at func(*T) *Number, least, most float64) column[T] {
	return column[T]{name: name, write: func(v *T) string {
		if *at(v) == nil {
			return ""
		}
		return strconv.FormatFloat(**at(v), 'g', -1, 64)
	}, read: func(v *T, cell string) error {
		n, err := strconv.ParseFloat(cell, 64)
		if err != nil || math.IsNaN(n) || n < least || n > most {
			return fmt.Errorf("expected a number from %g to %g, not %q", least, most, cell)
		}
		*at(v) = &n
		return nil
	}}
}

func flagged[T any](name string, at func(*T) *bool) column[T] {
	return column[T]{name: name, write: func(v *T) string {
		if *at(v) {
			return "yes"
		}
		return "no"
	}, read: func(v *T, cell string) error {
		if cell != "yes" && cell != "no" {
			return fmt.Errorf("expected yes or no, not %q", cell)
		}
		*at(v) = cell == "yes"
		return nil
	}}
}

const moment = "2006-01-02T15:04:05.999999Z"

func timed[T any](name string, at func(*T) *time.Time) column[T] {
	return column[T]{name: name, must: true, write: func(v *T) string { return at(v).UTC().Format(moment) },
		read: func(v *T, cell string) error {
			t, err := time.Parse(time.RFC3339Nano, cell)
			if err != nil || t.Year() < 1970 || t.Year() > 2200 {
				return fmt.Errorf("expected a time such as 2026-03-02T18:30:00Z, not %q", cell)
			}
			*at(v) = t.UTC().Truncate(time.Microsecond)
			return nil
		}}
}

func (c column[T]) needed() column[T] {
	c.must = true
	return c
}

// Writer writes rows one after the other.
type Writer[T any] struct {
	w       *csv.Writer
	columns []column[T]
	cells   []string
}

func newWriter[T any](out io.Writer, columns []column[T]) (*Writer[T], error) {
	w := &Writer[T]{csv.NewWriter(out), columns, make([]string, len(columns))}
	w.w.UseCRLF = true
	for i, c := range columns {
		w.cells[i] = c.name
	}
	return w, w.w.Write(w.cells)
}

// Row writes one.
func (w *Writer[T]) Row(v T) error {
	for i, c := range w.columns {
		w.cells[i] = c.write(&v)
	}
	return w.w.Write(w.cells)
}

// Done writes what is still held back.
func (w *Writer[T]) Done() error {
	w.w.Flush()
	return w.w.Error()
}

// Line says on which line of a table something is wrong.
type Line struct {
	N   int
	Err error
}

// Error names the line.
func (l *Line) Error() string { return fmt.Sprintf("line %d: %v", l.N, l.Err) }

// Unwrap returns the fault of the line.
func (l *Line) Unwrap() error { return l.Err }

// read reads a table, and hands each row over with its line.
func read[T any](in io.Reader, columns []column[T], row func(line int, v T) error) error {
	bounded := &input.Metered{In: in, Left: mostRow}
	r := csv.NewReader(bounded)
	r.ReuseRecord = true
	head, err := r.Read()
	if errors.Is(err, io.EOF) {
		return &Line{1, errors.New("expected a first line that names the columns")}
	}
	if errors.Is(err, input.ErrLong) {
		return &Line{1, errLongRow}
	}
	if err != nil {
		return broken(err)
	}
	at, err := placed(head, columns)
	if err != nil {
		return &Line{1, err}
	}
	last := 1
	for {
		bounded.Left = mostRow
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if errors.Is(err, input.ErrLong) {
			return &Line{last + 1, errLongRow}
		}
		if err != nil {
			return broken(err)
		}
		line, _ := r.FieldPos(0)
		last = line
		var v T
		for i, c := range at {
			if cells[i] == "" {
				if c.must {
					return &Line{line, fmt.Errorf("%s: missing", c.name)}
				}
				continue
			}
			if err := c.read(&v, strings.Clone(cells[i])); err != nil {
				return &Line{line, fmt.Errorf("%s: %w", c.name, err)}
			}
		}
		if err := row(line, v); err != nil {
			if at := new(Line); errors.As(err, &at) { // of a row before, that waited
				return at
			}
			return &Line{line, err}
		}
	}
}

// mostRow limits (bytes) a row: a few times the longest texts in all its cells.
const mostRow = 256 << 10

var errLongRow = fmt.Errorf("expected at most %d kB in a row", mostRow>>10)

// placed finds the column of each place of the first line.
func placed[T any](head []string, columns []column[T]) ([]column[T], error) {
	at := make([]column[T], len(head))
	seen := map[string]bool{}
	for i, name := range head {
		name = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(name, "\ufeff")))
		k := slices.IndexFunc(columns, func(c column[T]) bool { return c.name == name })
		if k < 0 {
			return nil, fmt.Errorf("there is no column %q", name)
		}
		if seen[name] {
			return nil, fmt.Errorf("the column %s stands twice", name)
		}
		at[i], seen[name] = columns[k], true
	}
	for _, c := range columns {
		if c.must && !seen[c.name] {
			return nil, fmt.Errorf("expected a column called %s", c.name)
		}
	}
	return at, nil
}

func broken(err error) error {
	var at *csv.ParseError
	if !errors.As(err, &at) {
		return err
	}
	return &Line{at.Line, fmt.Errorf("cannot be read: %w", at.Err)}
}
