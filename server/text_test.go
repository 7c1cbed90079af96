package server

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
)

// A refusal sends back little, however much was sent; nothing is made of what is larger than anything that is meant.
func TestRefusalsAreShort(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Elder")
	unknown := func(n int, long string) string {
		fields := make([]string, n)
		for i := range fields {
			fields[i] = fmt.Sprintf(`"k%d":0`, i)
		}
		return `{"name":"` + long + `",` + strings.Join(fields, ",") + "}"
	}
	key := strings.Repeat("k", 500_000)
	for what, c := range map[string]struct {
		body   string
		status int
		says   string
	}{
		"many unknown fields":        {unknown(1000, strings.Repeat("x", 900_000)), 400, "at most 500 fields"},
		"nothing but unknown fields": {unknown(12_000, "x"), 400, "at most 500 fields"},
		"as many as there may be": {unknown(499, strings.Repeat("x", 900_000)), 422,
			"unexpected property"},
		"a long name over a list": {`{"` + key + `":[` + strings.Repeat("0,", 200_000) + "0]}", 400,
			"at most 200 characters"},
		"a long name":       {`{"` + key + `" : 0}`, 400, "at most 200 characters"},
		"a list for a text": {`{"name":[` + strings.Repeat("{},", 20_000) + "{}]}", 422, ""},
		"many values":       {`{"name":[` + strings.Repeat("0,", 300_000) + "0]}", 400, "at most 50000 values"},
		"a deep one":        {strings.Repeat("[", 10_000), 400, "within one another"},
		"a long text":       {`"` + strings.Repeat("x", 900_000) + `"`, 422, ""},
		"broken":            {strings.Repeat("x", 900_000), 400, ""},
	} {
		status, _, out := u.do("POST", "/api/trainees", c.body)
		var problem struct {
			Detail string
			Errors []struct {
				Location, Message string
				Value             any
			}
		}
		if err := json.Unmarshal(out, &problem); status != c.status || err != nil ||
			!strings.Contains(string(out), c.says) {
			t.Errorf("%s: %d %.300s %v, want %d that says %q", what, status, out, err, c.status, c.says)
		}
		if len(problem.Errors) > 20 || len(out) > 20_000 {
			t.Errorf("%s: %d refusals in %d bytes", what, len(problem.Errors), len(out))
		}
		for _, e := range problem.Errors {
			if len(fmt.Sprint(e.Value)) > 100 || len(e.Location) > 500 || len(e.Message) > 500 {
				t.Errorf("%s: %+v", what, e)
			}
		}
	}
	// what is meant passes
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Oke", Stance: "southpaw", Band: "beginner", AgeBand: "adult",
		Notes: strings.Repeat(`",:{[`, 300)}, nil)
}

// What BenchmarkMeasured measures is what every JSON body costs before it is read.
func BenchmarkMeasured(b *testing.B) {
	body := []byte(`{"hits":[` + strings.Repeat(`{"seq":1,"at":9000000},`, 16_000) + "{}]}")
	b.SetBytes(int64(len(body)))
	for b.Loop() {
		if err := measured(body); err != nil {
			b.Fatal(err)
		}
	}
}
