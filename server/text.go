package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
)

// The most that a JSON body holds. What the interface sends stays far below: five hundred hits are three thousand
// values.
const (
	mostValues = 50_000
	mostFields = 500 // of one object
	mostDepth  = 50
	mostKey    = 200 // bytes
)

// What an answer says of a body that was refused: so many refusals, and so long a text (bytes).
const (
	mostRefusals = 20
	mostSaid     = 100
	mostTold     = 500
)

// readText reads JSON and refuses what no text may hold: PostgreSQL keeps every character but the one numbered 0. A
// body of more values, or deeper or with longer names than any that is meant, is refused before it is read.
func readText(data []byte, into any) error {
	whole, first := into.(*any) // as it is first read, to be checked
	if first {
		if err := measured(data); err != nil {
			return err
		}
	}
	if err := json.Unmarshal(data, into); err != nil {
		return err
	}
	if first {
		if where, found := zero(*whole); found {
			return fmt.Errorf("body%s: a text may not hold the character numbered 0", where)
		}
	}
	return nil
}

// measured refuses a JSON text by its size alone, in one pass. Whether it is JSON is for the reader to say.
func measured(data []byte) error {
	values, depth := 1, 0
	var fields [mostDepth + 1]int // of the objects that are open
	for i := 0; i < len(data); i++ {
		switch data[i] {
		case '"':
			from := i + 1
			for i++; i < len(data) && data[i] != '"'; i++ {
				if data[i] == '\\' {
					i++
				}
			}
			if i-from > mostKey && names(data[min(i+1, len(data)):]) {
				return fmt.Errorf("expected names of at most %d characters", mostKey)
			}
		case ':':
			if fields[max(depth, 0)]++; fields[max(depth, 0)] > mostFields {
				return fmt.Errorf("expected at most %d fields in an object", mostFields)
			}
		case '{', '[':
			values++
			if depth++; depth > mostDepth {
				return fmt.Errorf("expected at most %d objects or lists within one another", mostDepth)
			}
			fields[max(depth, 0)] = 0
		case '}', ']':
			depth--
		case ',':
			values++
		}
		if values > mostValues {
			return fmt.Errorf("expected at most %d values", mostValues)
		}
	}
	return nil
}

// names says whether the text that has just ended was the name of a field, by what comes after it.
func names(rest []byte) bool {
	for _, c := range rest {
		switch c {
		case ' ', '\t', '\r', '\n':
		default:
			return c == ':'
		}
	}
	return false
}

// zero finds the character numbered 0 in a text or a name, and says where.
func zero(v any) (where string, found bool) {
	switch v := v.(type) {
	case string:
		return "", strings.ContainsRune(v, 0)
	case []any:
		for i, item := range v {
			if where, found := zero(item); found {
				return fmt.Sprintf("[%d]%s", i, where), true
			}
		}
	case map[string]any:
		for key, item := range v {
			if strings.ContainsRune(key, 0) {
				return "", true
			}
			if where, found := zero(item); found {
				return "." + key + where, true
			}
		}
	}
	return "", false
}

// said are refusals as they are answered: not more than anybody reads, and nothing of length is sent back.
func said(errs []error) []*huma.ErrorDetail {
	var list []*huma.ErrorDetail
	for _, err := range errs {
		if err == nil {
			continue
		}
		if len(list) == mostRefusals {
			break
		}
		detail := huma.ErrorDetail{Message: err.Error()}
		if d, ok := err.(huma.ErrorDetailer); ok {
			detail = *d.ErrorDetail()
		}
		detail.Message, detail.Location = cut(detail.Message, mostTold), cut(detail.Location, mostTold)
		switch v := detail.Value.(type) {
		case bool, float64, place, NotRead:
		case string:
			detail.Value = cut(v, mostSaid)
		default:
			detail.Value = nil
		}
		list = append(list, &detail)
	}
	return list
}

// cut is the beginning of a text.
func cut(text string, most int) string {
	if len(text) <= most {
		return text
	}
	return strings.ToValidUTF8(text[:most-len("…")], "") + "…"
}

// writeText writes an answer as JSON once all of it is there: what cannot be written, or is too long, is a problem, and
// not the half of an answer.
func writeText(w io.Writer, v any) error {
	var out bytes.Buffer
	text := json.NewEncoder(&out)
	text.SetEscapeHTML(false)
	err := text.Encode(v)
	if err == nil && out.Len() > mostAnswer {
		err = fmt.Errorf("an answer of %d bytes", out.Len())
	}
	if err != nil {
		slog.Error("answer", "error", err)
		if answer, ok := w.(http.ResponseWriter); ok {
			problem(answer, http.StatusInternalServerError, wentWrong)
			return nil
		}
		return err
	}
	_, err = out.WriteTo(w)
	return err
}
