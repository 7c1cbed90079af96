package standin

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"reflect"
	"sync"
	"testing"

	"gonum.org/v1/gonum/stat"
)

func row(n int) []Planned {
	list := make([]Planned, n)
	for i := range list {
		list[i] = Planned{At: 1 + 0.5*float64(i), Window: 0.06, Hand: "lead", Age: 0.32}
	}
	return list
}

// The stand-in hits as it was told to: bias, spread and misses are found again in its hits.
func TestPersonIsAsTold(t *testing.T) {
	p := Person{Bias: 0.012, Motor: 0.012, Timing: 0.05, Miss: 0.1} // 0.05 of 0.32 s and 12 ms are 20 ms together
	strikes := row(20000)
	hits := p.Hits(strikes, 5)
	var errors []float64
	for _, h := range hits {
		nearest := math.Round((h.At - 1) / 0.5)
		errors = append(errors, h.At-1-0.5*nearest)
	}
	if m := stat.Mean(errors, nil); math.Abs(m-0.012) > 0.001 {
		t.Errorf("bias %g", m)
	}
	if s := stat.StdDev(errors, nil); math.Abs(s-0.020) > 0.001 {
		t.Errorf("spread %g", s)
	}
	if share := 1 - float64(len(hits))/20000; math.Abs(share-0.1) > 0.01 {
		t.Errorf("misses %g", share)
	}
}

func TestFading(t *testing.T) {
	p := Person{Motor: 0.02, Miss: 0.1, Fade: 1.0 / 28} // twice as many misses after the 5000 s of the row
	half := func(hits []Hit, from, to float64) int {
		n := 0
		for _, h := range hits {
			if h.At >= from && h.At < to {
				n++
			}
		}
		return n
	}
	hits := p.Hits(row(10000), 1)
	first, last := half(hits, 0, 2501), half(hits, 2501, 1e9)
	if first-last < 150 { // misses grow from 10 to 20 %: about 250 fewer hits in the second half
		t.Errorf("%d hits in the first half, %d in the second", first, last)
	}
}

func TestSeeded(t *testing.T) {
	p := Like("beginner")
	if !reflect.DeepEqual(p.Hits(row(50), 3), p.Hits(row(50), 3)) {
		t.Error("the same seed hit another way")
	}
	if reflect.DeepEqual(p.Hits(row(50), 3), p.Hits(row(50), 4)) {
		t.Error("another seed hit the same way")
	}
}

// A sensor on a server whose answers get lost now and then: every hit arrives, and none under two numbers.
func TestSensorLosesNothing(t *testing.T) {
	strikes := row(40)
	person := Like("intermediate")
	want := person.Hits(strikes, 9)
	var mu sync.Mutex
	got := map[int]int64{}
	var calls, clock int
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		mu.Lock()
		defer mu.Unlock()
		clock += 1_500_000
		out := answer{State: "running", ClockUS: int64(clock), Strikes: strikes}
		if r.Method == http.MethodPost {
			calls++
			var in struct {
				Device string     `json:"device"`
				Hits   []batchHit `json:"hits"`
			}
			if err := json.NewDecoder(r.Body).Decode(&in); err != nil {
				t.Error(err)
			}
			for _, h := range in.Hits {
				if before, ok := got[h.Seq]; ok && before != h.At {
					t.Errorf("hit %d was sent as two", h.Seq)
				}
				got[h.Seq] = h.At
			}
			if calls%3 == 1 { // taken, but the answer is lost
				w.WriteHeader(http.StatusBadGateway)
			}
			if clock > 40_000_000 {
				out.State = "done"
			}
		}
		_ = json.NewEncoder(w).Encode(out)
	}))
	defer server.Close()
	if err := (Sensor{URL: server.URL, Key: "key", Person: person, Seed: 9}).Play(context.Background()); err != nil {
		t.Fatal(err)
	}
	if len(got) != len(want) {
		t.Errorf("%d hits arrived, want %d", len(got), len(want))
	}
	for i, h := range want {
		if got[i] != micros(h.At) {
			t.Errorf("hit %d arrived at %d, want %d", i, got[i], micros(h.At))
		}
	}
}

func TestSensorIsRefused(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		w.WriteHeader(http.StatusNotFound)
		_, _ = w.Write([]byte(`{"detail":"no such run"}`))
	}))
	defer server.Close()
	if err := (Sensor{URL: server.URL, Key: "no"}).Play(context.Background()); err == nil {
		t.Error("a run that is not there was played")
	}
}

func ExamplePerson_Hits() {
	exact := Person{} // who makes no errors, and goes by the beat
	for _, h := range exact.Hits([]Planned{{At: 1, Hand: "lead"}, {At: 1.5, Hand: "rear"}}, 1) {
		fmt.Println(h.At, h.Hand)
	}
	// Output:
	// 1 lead
	// 1.5 rear
}
