package format

import (
	"encoding/csv"
	"fmt"
	"math"
	"strings"
	"testing"
)

func TestReadTimes(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want []Time
	}{
		"times alone": {"0.5\n1.04\r\n1.57\n", []Time{{At: 0.5}, {At: 1.04}, {At: 1.57}}},
		"named columns": {"hand,time,launch\nlead,0.5,2.8\nrear,1.04,\n", []Time{{0.5, "lead", 2.8}, {1.04,
			"rear", 0}}},
		"milliseconds":      {"time (ms)\n500\n1040", []Time{{At: 0.5}, {At: 1.04}}},
		"semicolons":        {"time;hand\n0,5;Lead\n1,04;rear", []Time{{0.5, "lead", 0}, {1.04, "rear", 0}}},
		"tabs":              {"time\thand\n0.5\tlead", []Time{{0.5, "lead", 0}}},
		"quoted":            {"\"time\",\"hand\"\n\"0.5\",\"lead\"", []Time{{0.5, "lead", 0}}},
		"out of order":      {"1.04\n0.5", []Time{{At: 0.5}, {At: 1.04}}},
		"a mark before all": {"\ufefftime\n0.5", []Time{{At: 0.5}}},
		"other columns":     {"device,time\npad,0.5", []Time{{At: 0.5}}},
	} {
		got, err := ReadTimes(c.text)
		if err != nil || fmt.Sprint(got) != fmt.Sprint(c.want) {
			t.Errorf("%s: %v, %v; want %v", name, got, err, c.want)
		}
	}
}

// A table that is refused names the line.
func TestTimesRefused(t *testing.T) {
	for text, want := range map[string]string{
		"":                           "there is none",
		"time\n":                     "there is none",
		"0.5\nsoon":                  `line 2: expected a time from 0 to 14400 s, not "soon"`,
		"0.5\n-1":                    `line 2: expected a time`,
		"0.5\nNaN":                   `line 2: expected a time`,
		"1e9":                        `line 1: expected a time`,
		"time,hand\n1,left":          `line 2: expected lead, rear or nothing for the hand, not "left"`,
		"time,launch\n1,2\n2,0":      `line 3: expected a launch`,
		"hand\nlead":                 "line 1 names no column of times",
		"0.5\n\"1":                   "line 2 cannot be read",
		strings.Repeat("1\n", 20001): "line 20001: expected at most 20000 hits",
	} {
		if _, err := ReadTimes(text); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%.20q: %v, want %q", text, err, want)
		}
	}
}

// What is read of a table is what is in it: times in order, within their limits, no more than there are lines.
func FuzzReadTimes(f *testing.F) {
	f.Add("time,hand,launch\n0.5,lead,2.8\n")
	f.Add("0.5\n1")
	f.Add("time;hand\n0,5;rear")
	f.Fuzz(func(t *testing.T, text string) {
		list, err := ReadTimes(text)
		if err != nil {
			return
		}
		rows, _ := csv.NewReader(strings.NewReader(text)).ReadAll()
		if len(rows) > 0 && len(list) > len(rows) && !strings.ContainsAny(text, ";\t#") {
			t.Errorf("%d hits of %d lines", len(list), len(rows))
		}
		last := 0.0
		for _, h := range list {
			if h.At < last || h.At > latest || math.IsNaN(h.At) || h.Launch < 0 || h.Launch > fastest {
				t.Errorf("%+v after %g", h, last)
			}
			last = h.At
		}
	})
}

func ExampleReadTimes() {
	hits, err := ReadTimes("time,hand\n0.50,lead\n1.04,rear\n")
	fmt.Println(hits, err)
	// Output: [{0.5 lead 0} {1.04 rear 0}] <nil>
}
