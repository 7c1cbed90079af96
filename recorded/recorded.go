// Package recorded holds answers of the product against those it gave before: numbers and codes have to be the same,
// and sentences may be told in other words.
package recorded

import (
	"bytes"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"melodromos/core/combo"
)

var record = flag.Bool("record", false, "record the answers anew in place of comparing them")

// Answer is the answer to a question; a refusal names its field.
type Answer struct {
	Question string          `json:"question"`
	Refused  string          `json:"refused,omitempty"`
	Answer   json.RawMessage `json:"answer,omitempty"`
}

// Compare holds answers against those kept in testdata/<name>.jsonl, or keeps them there when the test is run with
// -record. At most ten differences are told.
func Compare(t *testing.T, name string, now []Answer) {
	t.Helper()
	path := filepath.Join("testdata", name+".jsonl")
	for i := range now {
		now[i].Answer = plain(t, now[i].Answer)
	}
	if *record {
		if err := write(path, now); err != nil {
			t.Fatal(err)
		}
		return
	}
	before, err := read(path)
	if err != nil {
		t.Fatal(err)
	}
	if len(before) != len(now) {
		t.Fatalf("%d answers, %d are recorded", len(now), len(before))
	}
	told := 0
	for i, b := range before {
		n := now[i]
		if told == 10 {
			return
		}
		if b.Question != n.Question || b.Refused != n.Refused || !bytes.Equal(rounded(b.Answer), rounded(n.Answer)) {
			told++
			t.Errorf("%s\n%s", b.Question, difference(b, n))
		}
	}
}

// long are figures that are written with more than 11 digits.
var long = regexp.MustCompile(`-?\d+\.\d{9,}(e[-+]?\d+)?`)

// rounded is an answer with 11 digits of each figure: what is known of somebody fades with time, and a test's clock
// goes on by a microsecond whenever it is read.
func rounded(answer json.RawMessage) []byte {
	return long.ReplaceAllFunc(answer, func(figure []byte) []byte {
		v, err := strconv.ParseFloat(string(figure), 64)
		if err != nil {
			return figure
		}
		return strconv.AppendFloat(nil, v, 'g', 11, 64)
	})
}

func difference(before, now Answer) string {
	if before.Question != now.Question {
		return "is now asked as " + now.Question
	}
	a, b := before.Refused+string(rounded(before.Answer)), now.Refused+string(rounded(now.Answer))
	at := 0
	for at < len(a) && at < len(b) && a[at] == b[at] {
		at++
	}
	near := func(s string) string { return s[max(0, at-200):min(len(s), at+80)] }
	return fmt.Sprintf("was …%s…\nis  …%s…", near(a), near(b))
}

func write(path string, answers []Answer) error {
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	for _, a := range answers {
		if err := e.Encode(a); err != nil {
			return err
		}
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return err
	}
	return os.WriteFile(path, out.Bytes(), 0o644)
}

func read(path string) ([]Answer, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	var answers []Answer
	for d := json.NewDecoder(f); ; {
		var a Answer
		if err := d.Decode(&a); errors.Is(err, io.EOF) {
			return answers, nil
		} else if err != nil {
			return nil, err
		}
		answers = append(answers, a)
	}
}

// plain is an answer without what may differ: what is told in words, ids, which are numbered as they come, and the
// parts of a second of a moment.
func plain(t *testing.T, answer json.RawMessage) json.RawMessage {
	t.Helper()
	if answer == nil {
		return nil
	}
	d := json.NewDecoder(bytes.NewReader(answer))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		t.Fatalf("%v: %.200s", err, answer)
	}
	order(v)
	m := masker{ids: map[string]string{}}
	text, err := json.Marshal(m.mask(v))
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// order puts rows that have ids, and are in the order of those where nothing else tells them apart, into one that is
// always the same; it returns a text by which v itself may be put in order.
func order(v any) string {
	switch v := v.(type) {
	case map[string]any:
		var all strings.Builder
		for _, k := range slices.Sorted(maps.Keys(v)) {
			if !prose[k] { // what is told in words may be told in others
				all.WriteString(k + "=" + order(v[k]) + ";")
			}
		}
		return all.String()
	case []any:
		texts := make([]string, len(v))
		rows := len(v) > 0
		for i := range v {
			row, _ := v[i].(map[string]any)
			rows = rows && (row["id"] != nil || row["key"] != nil || row["choice"] != nil)
			texts[i] = order(v[i])
		}
		if rows {
			at := make([]int, len(v))
			for i := range at {
				at[i] = i
			}
			slices.SortStableFunc(at, func(a, b int) int { return strings.Compare(texts[a], texts[b]) })
			before := slices.Clone(v)
			for i, from := range at {
				v[i] = before[from]
			}
			slices.Sort(texts)
		}
		return strings.Join(texts, ",")
	case string:
		return moment.ReplaceAllString(id.ReplaceAllString(masker{ids: map[string]string{}}.text(v), ""), "$1")
	}
	return fmt.Sprint(v)
}

type masker struct{ ids map[string]string }

var (
	id     = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}`)
	moment = regexp.MustCompile(`^(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d)\.\d+`)
)

func (m masker) mask(v any) any {
	switch v := v.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(v)) { // in order, so that ids are numbered alike
			if _, told := v[k].(string); told && prose[k] {
				v[k] = "…"
			} else {
				v[k] = m.mask(v[k])
			}
		}
	case []any:
		for i := range v {
			v[i] = m.mask(v[i])
		}
	case string:
		return m.text(v)
	}
	return v
}

// prose are the fields that hold words, however few.
var prose = map[string]bool{"reason": true, "evidence": true, "remedy": true, "detail": true, "headline": true,
	"why": true, "said": true, "title": true, "written": true, "short": true}

func (m masker) text(s string) string {
	s = id.ReplaceAllStringFunc(s, func(id string) string {
		if m.ids[id] == "" {
			m.ids[id] = "id " + strconv.Itoa(len(m.ids)+1)
		}
		return m.ids[id]
	})
	s = moment.ReplaceAllString(s, "$1")
	if strings.HasPrefix(s, "id ") || !strings.Contains(s, " ") {
		return s
	}
	if _, err := combo.Parse(s); err == nil {
		return s
	}
	return "…"
}
