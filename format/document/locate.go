package document

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"melodromos/core/input"
)

// located adds to a refusal the line on which its field stands, or what it should have stood in.
func located(data []byte, err error) error {
	var refused *input.Error
	if !errors.As(err, &refused) {
		return err
	}
	at := offsetOf(data, refused.Field)
	var broken *json.SyntaxError
	if e := json.Unmarshal(data, new(any)); errors.As(e, &broken) {
		at = int(broken.Offset)
	}
	with := *refused
	with.Reason = fmt.Sprintf("line %d: %s", 1+bytes.Count(data[:min(at, len(data))], []byte("\n")), refused.Reason)
	return &with
}

// offsetOf is where the value of a path such as gym.bags[2].name begins in a document; of the last part of the path
// that is there, where it is not.
func offsetOf(data []byte, path string) int {
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
	at := find(data, steps)
	for len(steps) > 1 && at == 0 { // a bare document lacks what its field was read under
		steps = steps[1:]
		at = find(data, steps)
	}
	return at
}

func find(data []byte, steps []string) int {
	d := json.NewDecoder(bytes.NewReader(data))
	at := 0
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
				there = d.More() && d.Decode(new(json.RawMessage)) == nil
			}
			there = there && d.More()
		}
		if !there {
			return at
		}
		at = int(d.InputOffset())
		for at < len(data) && strings.ContainsRune(" \t\r\n,:", rune(data[at])) {
			at++
		}
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
		if d.Decode(new(json.RawMessage)) != nil {
			return false
		}
	}
	return false
}
