package document

import (
	"bufio"
	"encoding/json"
	"errors"
	"io"
	"strconv"
	"strings"

	"melodromos/core/input"
)

// located adds to a refusal the line on which its field stands, or what it should have stood in; the line on which a
// document breaks off where it is none.
func located(in io.ReadSeeker, err error) error {
	var refused *input.Error
	if !errors.As(err, &refused) {
		return err
	}
	at, err := offsetOf(in, refused.Field)
	if err == nil && refused.Field == "" {
		at, err = brokenAt(in)
	}
	line := 0
	if err == nil {
		line, err = lineAt(in, at)
	}
	if err != nil {
		return err
	}
	with := *refused
	with.Line = line
	return &with
}

func again(in io.ReadSeeker) (*json.Decoder, error) {
	_, err := in.Seek(0, io.SeekStart)
	return json.NewDecoder(in), err
}

// offsetOf returns the position (bytes) of the value at a path such as gym.bags[2].name, or of the comma or colon
// before it; of the last part of the path that is there, where it is not.
func offsetOf(in io.ReadSeeker, path string) (int64, error) {
	var steps []string
	for _, part := range strings.Split(path, ".") {
		name, rest, listed := strings.Cut(part, "[")
		if name != "" {
			steps = append(steps, name)
		}
		for listed {
			var index string
			index, rest, _ = strings.Cut(rest, "]")
			steps = append(steps, index)
			_, rest, listed = strings.Cut(rest, "[")
		}
	}
	for {
		d, err := again(in)
		if err != nil {
			return 0, err
		}
		at := find(d, steps)
		if at > 0 || len(steps) < 2 {
			return at, nil
		}
		steps = steps[1:] // a bare document lacks what its field was read under
	}
}

func find(d *json.Decoder, steps []string) int64 {
	at := int64(0)
	for _, step := range steps {
		opening, err := d.Token()
		if err != nil {
			return at
		}
		there := false
		switch opening {
		case json.Delim('{'):
			there = enter(d, step)
		case json.Delim('['):
			n, err := strconv.Atoi(step)
			there = err == nil
			for ; n > 0 && there; n-- {
				there = d.More() && skip(d) == nil
			}
			there = there && d.More()
		}
		if !there {
			return at
		}
		at = d.InputOffset()
	}
	return at
}

// enter goes to the value of a field of the object that was opened.
func enter(d *json.Decoder, field string) bool {
	for d.More() {
		key, err := d.Token()
		if err != nil {
			return false
		}
		if key == field {
			return true
		}
		if skip(d) != nil {
			return false
		}
	}
	return false
}

// skip goes past a value, whatever it holds, and keeps nothing of it.
func skip(d *json.Decoder) error {
	for depth := 0; ; {
		token, err := d.Token()
		if err != nil {
			return err
		}
		switch token {
		case json.Delim('{'), json.Delim('['):
			depth++
		case json.Delim('}'), json.Delim(']'):
			depth--
		}
		if depth <= 0 {
			return nil
		}
	}
}

// brokenAt returns the position (bytes) of the first syntax error in a document; 0 where there is none.
func brokenAt(in io.ReadSeeker) (int64, error) {
	d, err := again(in)
	if err != nil || skip(d) == nil {
		return 0, err
	}
	return d.InputOffset(), nil
}

// lineAt is the line, from 1, of what comes next from an offset on.
func lineAt(in io.ReadSeeker, at int64) (int, error) {
	if _, err := in.Seek(0, io.SeekStart); err != nil {
		return 0, err
	}
	r := bufio.NewReader(in)
	line := 1
	for n := int64(0); ; n++ {
		c, err := r.ReadByte()
		if errors.Is(err, io.EOF) || err == nil && n >= at && !strings.ContainsRune(" \t\r\n,:", rune(c)) {
			return line, nil
		}
		if err != nil {
			return 0, err
		}
		if c == '\n' {
			line++
		}
	}
}
