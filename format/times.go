// Package format reads and writes open formats.
package format

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
)

// Time is one hit of a table.
type Time struct {
	At     float64 // s
	Hand   string  // "lead", "rear" or ""
	Launch float64 // m/s at which it drove the bag off; 0 where it was not told
}

// MostTimes limits the times in a table to those that a round holds.
const MostTimes = 20_000

// latest (s) a hit may be: four hours, as a run's clock goes.
const latest = 14_400

// fastest (m/s) that a bag may be driven off.
const fastest = 30

// columnNames lists the names that a column may have in the first line.
var columnNames = map[string][]string{
	"at":     {"at", "time", "t", "s", "seconds", "time (s)", "time_s", "ms", "time (ms)", "time_ms"},
	"hand":   {"hand", "side"},
	"launch": {"launch", "speed", "launch (m/s)", "launch_ms", "m/s"},
}

// ReadTimes reads hits from comma-separated values (RFC 4180): a column of times in seconds and, where a first line
// names them, of hands (lead or rear) and launches (m/s). A first column headed with ms is in milliseconds. Semicolons
// or tabs separate as well, and then a comma may stand in a number. Refused, naming the line, is what is none of these;
// nothing is taken of a table with a line that is refused. The hits come by time.
func ReadTimes(text string) ([]Time, error) {
	text = strings.TrimPrefix(text, "\ufeff")
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord, r.TrimLeadingSpace, r.Comment = -1, true, '#'
	line, _, _ := strings.Cut(strings.TrimLeft(text, "\r\n"), "\n")
	for _, separator := range []rune{';', '\t'} {
		if strings.ContainsRune(line, separator) {
			r.Comma = separator
		}
	}
	place := map[string]int{"at": 0, "hand": -1, "launch": -1}
	scale, first := 1.0, true
	var list []Time
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("line %d cannot be read: expected values with a separator between them", lineOf(err))
		}
		at, _ := r.FieldPos(0)
		if first {
			first = false
			if named := headed(row); named != nil {
				place = named
				if place["at"] < 0 {
					return nil, fmt.Errorf("line %d names no column of times: expected one called time", at)
				}
				if strings.Contains(strings.ToLower(row[place["at"]]), "ms") {
					scale = 1e-3
				}
				continue
			}
		}
		hit, err := timeOf(row, place, scale, r.Comma != ',')
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", at, err)
		}
		if list = append(list, hit); len(list) > MostTimes {
			return nil, fmt.Errorf("line %d: expected at most %d hits", at, MostTimes)
		}
	}
	if len(list) == 0 {
		return nil, errors.New("expected a line for each hit, with its time in seconds; there is none")
	}
	slices.SortStableFunc(list, func(a, b Time) int {
		switch {
		case a.At < b.At:
			return -1
		case a.At > b.At:
			return 1
		}
		return 0
	})
	return list, nil
}

func lineOf(err error) int {
	var at *csv.ParseError
	if errors.As(err, &at) {
		return at.Line
	}
	return 1
}

// headed gives the places of the columns that a first line names, −1 for those that it does not; nil where it names
// none, since it holds values.
func headed(row []string) map[string]int {
	place := map[string]int{"at": -1, "hand": -1, "launch": -1}
	found := false
	for i, name := range row {
		for column, names := range columnNames {
			if slices.Contains(names, strings.ToLower(strings.TrimSpace(name))) && place[column] < 0 {
				place[column], found = i, true
			}
		}
	}
	if !found {
		return nil
	}
	return place
}

func timeOf(row []string, place map[string]int, scale float64, comma bool) (Time, error) {
	value := func(column string) string {
		if i := place[column]; i >= 0 && i < len(row) {
			return strings.TrimSpace(row[i])
		}
		return ""
	}
	var t Time
	at, err := number(value("at"), comma)
	if err != nil || at*scale < 0 || at*scale > latest {
		return t, fmt.Errorf("expected a time from 0 to %d s, not %q", latest, value("at"))
	}
	t.At = at * scale
	switch hand := strings.ToLower(value("hand")); hand {
	case "", "lead", "rear":
		t.Hand = hand
	default:
		return t, fmt.Errorf("expected lead, rear or nothing for the hand, not %q", value("hand"))
	}
	if text := value("launch"); text != "" {
		if t.Launch, err = number(text, comma); err != nil || !(t.Launch > 0) || t.Launch > fastest {
			return t, fmt.Errorf("expected a launch above 0 and up to %d m/s, not %q", fastest, text)
		}
	}
	return t, nil
}

// number reads a finite one.
func number(text string, comma bool) (float64, error) {
	if comma {
		text = strings.Replace(text, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(text, 64)
	if err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
		return 0, strconv.ErrRange
	}
	return v, err
}
