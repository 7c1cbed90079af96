package ledger_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"melodromos/core/input"
	"melodromos/demo"
	"melodromos/format/document"
	"melodromos/format/others"
	"melodromos/ledger"
	"melodromos/store"
	"melodromos/store/storetest"
)

// demoGym is a gym with everything in it, and dates of two sorts.
func demoGym(t *testing.T, s *store.Store) (*store.Gym, store.GymRow) {
	t.Helper()
	if err := demo.Load(t.Context(), s, time.Now()); err != nil {
		t.Fatal(err)
	}
	row, err := s.DemoGym(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	gym := s.Gym(t.Context(), row.ID)
	sessions, err := gym.SessionPlans(store.InUse)
	if err != nil || len(sessions) == 0 {
		t.Fatal("no session", err)
	}
	until := time.Date(2026, 12, 15, 0, 0, 0, 0, time.UTC)
	for _, d := range []store.Date{
		{Name: "Evening", Day: until.AddDate(0, 0, -70), At: "18:30", Minutes: 60, Weekly: true, Until: &until,
			Skipped: store.Doc(`["2026-11-03"]`), SessionPlanID: &sessions[0].ID},
		{Name: "Open day", Day: until, At: "10:00", Minutes: 180, Skipped: store.Doc("[]"),
			Note: "Bring, \"please\", wraps"},
	} {
		if err := gym.AddDate(&d); err != nil {
			t.Fatal(err)
		}
	}
	return gym, row
}

// written is a gym's document as a file has it, without the moment of writing.
func written(t *testing.T, gym *store.Gym) []byte {
	t.Helper()
	row, err := gym.Row()
	if err != nil {
		t.Fatal(err)
	}
	doc, _, err := ledger.GymDocument(gym, row)
	if err != nil {
		t.Fatal(err)
	}
	return asText(t, document.File{Holds: document.OfGym, Gym: &doc})
}

// asText is a document as it is written.
func asText(t *testing.T, f document.File) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := document.Write(&out, f); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func read(t *testing.T, data []byte) document.File {
	t.Helper()
	f, err := document.Read(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	return f
}

func fresh(t *testing.T, s *store.Store) *store.Gym {
	t.Helper()
	row := store.GymRow{Name: "Fresh", Units: "imperial", Zone: "UTC"}
	if err := s.AddGym(t.Context(), &row); err != nil {
		t.Fatal(err)
	}
	return s.Gym(t.Context(), row.ID)
}

func tally(list []ledger.Brought) map[ledger.Does]int {
	n := map[ledger.Does]int{}
	for _, c := range list {
		n[c.Does]++
	}
	return n
}

// A whole gym goes out, into a fresh one, and out again: the same bytes. Tried first, nothing of it is there. Brought
// in twice, nothing changes.
func TestWholeGym(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	first := written(t, gym)
	published, err := os.ReadFile(filepath.Join("..", "docs", "schema", "melodromos.schema.json"))
	if err != nil {
		t.Fatal(err)
	}
	question, err := json.Marshal(map[string]any{"schema": json.RawMessage(published),
		"documents": []json.RawMessage{first}})
	if err != nil {
		t.Fatal(err)
	}
	var wrong [][]string
	if others.Ask(t, "schema.mjs", question, &wrong); len(wrong[0]) > 0 {
		t.Errorf("another library finds the document wrong: %v", wrong[0][:min(5, len(wrong[0]))])
	}
	other := fresh(t, s)
	empty := written(t, other)
	told, err := ledger.Bring(other, read(t, first), ledger.Bringing{Dry: true}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if n := tally(told); n[ledger.Added] < 40 || n[ledger.Changed] != 1 || n[ledger.Differs] != 0 {
		t.Errorf("tried: %v", n)
	}
	if now := written(t, other); !bytes.Equal(now, empty) {
		t.Error("trying it has changed something")
	}
	done, err := ledger.Bring(other, read(t, first), ledger.Bringing{}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if len(done) != len(told) {
		t.Errorf("%d changes were told, and %d made", len(told), len(done))
	}
	second := written(t, other)
	if !bytes.Equal(first, second) {
		a, b := strings.Split(string(first), "\n"), strings.Split(string(second), "\n")
		for i := range a {
			if i >= len(b) || a[i] != b[i] {
				t.Fatalf("line %d: %s\n%s", i+1, a[i], b[min(i, len(b)-1)])
			}
		}
	}
	again, err := ledger.Bring(other, read(t, first), ledger.Bringing{Over: true}, nil)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range again {
		if c.Does != ledger.Same {
			t.Errorf("the second time %s %s: %s %s", c.What, c.Name, c.Does, c.Detail)
		}
	}
	if now := written(t, other); !bytes.Equal(now, second) {
		t.Error("bringing it in again has changed something")
	}
}

// What is there under the same name stays, unless the file is to be taken; and what is known of a person here never
// goes.
func TestDiffers(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	before := written(t, gym)
	f := read(t, before)
	f.Gym.Bags[0].Place.Place.Behind += 0.5
	f.Gym.People[0].Goals = "Forty in a row"
	f.Gym.People[0].Evidence = nil
	f.Gym.Dates[0].Minutes = 75
	f.Gym.Settings.GetReady = 21
	told, err := ledger.Bring(gym, f, ledger.Bringing{}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if n := tally(told); n[ledger.Differs] != 4 || n[ledger.Added]+n[ledger.Changed] != 0 {
		t.Errorf("%v", n)
	}
	if !bytes.Equal(written(t, gym), before) {
		t.Error("something has changed")
	}
	told, err = ledger.Bring(gym, f, ledger.Bringing{Over: true}, nil)
	if err != nil {
		t.Fatal(err)
	}
	if n := tally(told); n[ledger.Changed] != 4 || n[ledger.Added] != 0 {
		t.Errorf("taken over: %v", n)
	}
	now := read(t, written(t, gym))
	was := read(t, before)
	if len(now.Gym.People[0].Evidence) != len(was.Gym.People[0].Evidence) ||
		now.Gym.People[0].Goals != "Forty in a row" {
		t.Error("what was known of somebody has gone, or their goal has not come")
	}
	for _, c := range told {
		if c.Does == ledger.Changed && c.Detail == "" {
			t.Errorf("%s %s changed, and nothing says in what", c.What, c.Name)
		}
	}
}

// A single bag, drill or session goes into another gym.
func TestSingle(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	whole := read(t, written(t, gym))
	other := fresh(t, s)
	for _, f := range []document.File{
		{Holds: document.OfBag, Bag: &whole.Gym.Bags[1]},
		{Holds: document.OfDrill, Drill: &whole.Gym.Drills[1]},
		{Holds: document.OfSession, Session: &whole.Gym.Sessions[0].Session},
	} {
		data := asText(t, f)
		for _, want := range []ledger.Does{ledger.Added, ledger.Same} {
			told, err := ledger.Bring(other, read(t, data), ledger.Bringing{}, nil)
			if err != nil || len(told) != 1 || told[0].Does != want || told[0].ID == "" {
				t.Errorf("%s: %+v %v", f.Holds, told, err)
			}
		}
	}
}

// tables are the log and the hits of a gym as files have them.
func tables(t *testing.T, gym *store.Gym) (log, hits []byte) {
	t.Helper()
	var a, b bytes.Buffer
	if err := ledger.WriteLog(&a, gym, ""); err != nil {
		t.Fatal(err)
	}
	if err := ledger.WriteHits(&b, gym, ""); err != nil {
		t.Fatal(err)
	}
	return a.Bytes(), b.Bytes()
}

// The log and all its hits go out, into a fresh gym, and out again: the same bytes, and the gym's document as well.
func TestWholeLog(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	log, hits := tables(t, gym)
	before := written(t, gym)
	if n := bytes.Count(log, []byte("\r\n")); n < 25 {
		t.Fatalf("only %d lines in the log", n)
	}
	other := fresh(t, s)
	if _, err := ledger.BringLog(other, bytes.NewReader(log), false); err == nil ||
		!strings.Contains(err.Error(), "line 2: person: nobody here is called") {
		t.Errorf("without people: %v", err)
	}
	if _, err := ledger.Bring(other, read(t, before), ledger.Bringing{}, nil); err != nil {
		t.Fatal(err)
	}
	if _, err := ledger.BringHits(other, bytes.NewReader(hits), false); err == nil ||
		!strings.Contains(err.Error(), "bring the log in first") {
		t.Errorf("hits without rounds: %v", err)
	}
	for _, dry := range []bool{true, false} {
		told, err := ledger.BringLog(other, bytes.NewReader(log), dry)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, c := range told {
			if c.Does != ledger.Added {
				t.Errorf("%+v", c)
			}
			n += c.Count
		}
		if n != bytes.Count(log, []byte("\r\n"))-1 {
			t.Errorf("%d rounds told", n)
		}
		if now, _ := tables(t, other); dry && bytes.Count(now, []byte("\n")) != 1 {
			t.Error("trying it has changed something")
		}
	}
	if _, err := ledger.BringHits(other, bytes.NewReader(hits), false); err != nil {
		t.Fatal(err)
	}
	log2, hits2 := tables(t, other)
	if !bytes.Equal(log, log2) {
		a, b := strings.Split(string(log), "\n"), strings.Split(string(log2), "\n")
		for i := range a {
			if i >= len(b) || a[i] != b[i] {
				t.Fatalf("line %d of the log:\n%s\n%s", i+1, a[i], b[min(i, len(b)-1)])
			}
		}
	}
	if !bytes.Equal(hits, hits2) {
		t.Error("the hits are others")
	}
	if !bytes.Equal(written(t, other), before) {
		t.Error("the gym's document has become another")
	}
	turned := toAndFro(string(hits))
	third := fresh(t, s)
	if _, err := ledger.Bring(third, read(t, written(t, gym)), ledger.Bringing{}, nil); err != nil {
		t.Fatal(err)
	}
	for _, bring := range []func() ([]ledger.Brought, error){
		func() ([]ledger.Brought, error) { return ledger.BringLog(third, bytes.NewReader(log), false) },
		func() ([]ledger.Brought, error) { return ledger.BringHits(third, strings.NewReader(turned), false) },
	} {
		if _, err := bring(); err != nil {
			t.Fatal(err)
		}
	}
	if _, hits3 := tables(t, third); !bytes.Equal(hits, hits3) {
		t.Error("in another order the hits are others")
	}
	for _, again := range []func() ([]ledger.Brought, error){
		func() ([]ledger.Brought, error) { return ledger.BringHits(third, strings.NewReader(turned), false) },
		func() ([]ledger.Brought, error) { return ledger.BringLog(other, bytes.NewReader(log), false) },
		func() ([]ledger.Brought, error) { return ledger.BringHits(other, bytes.NewReader(hits), false) },
		func() ([]ledger.Brought, error) { return ledger.BringLog(gym, bytes.NewReader(log), false) },
		func() ([]ledger.Brought, error) { return ledger.BringHits(gym, bytes.NewReader(hits), false) },
	} {
		told, err := again()
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range told {
			if c.Does != ledger.Same {
				t.Errorf("the second time: %+v", c)
			}
		}
	}
}

// toAndFro is a table whose lines go to and fro between its beginning and its middle.
func toAndFro(table string) string {
	lines := strings.SplitAfter(table, "\r\n")
	head, rows := lines[0], lines[1:len(lines)-1]
	var out strings.Builder
	out.WriteString(head)
	half := (len(rows) + 1) / 2
	for i := range half {
		out.WriteString(rows[i])
		if half+i < len(rows) {
			out.WriteString(rows[half+i])
		}
	}
	return out.String()
}

// Many dates and much that is given come in as they are, the same once more changes nothing, and what stands twice in
// a document and differs is refused by its place.
func TestManyAtOnce(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	doc := read(t, written(t, gym))
	day := doc.Gym.Dates[0]
	for i := range 1200 {
		d := day
		d.Name = fmt.Sprintf("Class %04d", i)
		doc.Gym.Dates = append(doc.Gym.Dates, d)
	}
	other := fresh(t, s)
	for _, want := range []ledger.Does{ledger.Added, ledger.Same} {
		told, err := ledger.Bring(other, doc, ledger.Bringing{}, nil)
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, c := range told {
			if (c.What == "date" || c.What == "given") && c.Does == want && c.ID != "" {
				n++
			}
		}
		if all := len(doc.Gym.Dates) + len(doc.Gym.Given); n != all {
			t.Errorf("%d of %d are %s", n, all, want)
		}
	}
	rows, err := other.Dates(store.InUse)
	if err != nil || len(rows) != len(doc.Gym.Dates) {
		t.Errorf("%d dates of %d, %v", len(rows), len(doc.Gym.Dates), err)
	}
	twice := doc.Gym.Given[0]
	twice.Eased = "something else"
	doc.Gym.Given = append(doc.Gym.Given, twice)
	var refused *input.Error
	if _, err := ledger.Bring(fresh(t, s), doc, ledger.Bringing{}, nil); !errors.As(err, &refused) ||
		refused.Field != fmt.Sprintf("gym.given[%d]", len(doc.Gym.Given)-1) {
		t.Errorf("twice: %v", err)
	}
}

// Of many changes some are told one by one, the others by what they are, and none is lost in the sum.
func TestChangesInShort(t *testing.T) {
	var r ledger.Result
	for i := range 70 {
		r.Changes = append(r.Changes, ledger.Brought{What: []string{"date", "given"}[i%2], Name: fmt.Sprint(i),
			Does: []ledger.Does{ledger.Added, ledger.Same}[i/60], Count: 1 + i%3})
	}
	list := r.InShort(20)
	if len(list) != 20+2+10 || list[19].Name != "19" || list[20] != (ledger.Brought{What: "date", Name: "others",
		Does: ledger.Added, Count: list[20].Count}) {
		t.Errorf("%+v", list)
	}
	if short := (ledger.Result{Changes: list}); short.Counts() != r.Counts() {
		t.Errorf("%+v of %+v", short.Counts(), r.Counts())
	}
}

// A table with one wrong line changes nothing, and the line is named.
func TestWrongLine(t *testing.T) {
	s := storetest.Open(t)
	gym, _ := demoGym(t, s)
	log, _ := tables(t, gym)
	lines := strings.Split(strings.TrimSuffix(string(log), "\r\n"), "\r\n")
	for _, c := range []struct{ was, is, says string }{
		{lines[3], strings.Replace(lines[3], "Z,", "X,", 1), "line 4: started: expected a time"},
		{lines[5], lines[4], "line 6: this round stands on line 5 already"},
		{lines[6], lines[6] + ",more", "line 7: cannot be read"},
		{"clean", "cleaned", `line 1: there is no column "cleaned"`},
		{lines[2], strings.Replace(lines[2], ",yes,", ",maybe,", 1), "line 3:"},
	} {
		text := strings.Replace(string(log), c.was, c.is, 1)
		other := fresh(t, s)
		if _, err := ledger.Bring(other, read(t, written(t, gym)), ledger.Bringing{}, nil); err != nil {
			t.Fatal(err)
		}
		_, err := ledger.BringLog(other, strings.NewReader(text), false)
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%v; %q expected", err, c.says)
		}
		if now, _ := tables(t, other); bytes.Count(now, []byte("\n")) != 1 {
			t.Errorf("%s: something was kept", c.says)
		}
	}
}
