package standin

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"net/http"
	"strings"
	"time"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/rig"
)

// Sensor is a device that is joined to one run by its key and sends what it feels.
type Sensor struct {
	URL    string // of the server, such as http://127.0.0.1:8090
	Key    string // of the run
	Person Person
	Coarse Coarse // what becomes of its hits on the way
	Seed   uint64
	Client *http.Client // nil takes one with a time limit
}

const (
	beat       = 100 * time.Millisecond // between two batches
	patience   = 10 * time.Minute       // waiting for a run to start, or in a pause
	maxFailure = 40                     // failed batches in a row before giving up
)

type batchHit struct {
	Seq  int    `json:"seq"`
	At   int64  `json:"at"` // µs
	Hand string `json:"hand,omitempty"`
	// Launch is the speed (m/s) at which the bag was driven off, where the sensor tells.
	Launch float64 `json:"launch,omitempty"`
}

// batchMark is a mark that a coach who watches would make.
type batchMark struct {
	Seq  int    `json:"seq"`
	At   int64  `json:"at"` // µs
	Kind string `json:"kind"`
}

type answer struct {
	State   string    `json:"state"`
	ClockUS int64     `json:"clockUs"`
	EndUS   int64     `json:"endUs"`
	Clock   string    `json:"clock"`
	Strikes []Planned `json:"strikes"`
	Detail  string    `json:"detail"`

	Rig   json.RawMessage `json:"rig"`
	Drill json.RawMessage `json:"drill"`
}

// played is the round as the person before the bag plays it, whatever the screen does meanwhile.
func (s Sensor) played(to answer) ([]Hit, []Mark, error) {
	end := float64(to.EndUS) / 1e6
	if to.EndUS == 0 {
		end = math.Inf(1)
	}
	var own Bag
	if drill.Clock(to.Clock) == drill.ByBag {
		bag, err := rig.Read(input.Parse(to.Rig))
		if err != nil {
			return nil, nil, fmt.Errorf("the rig of the run: %w", err)
		}
		plan, err := drill.ReadPlan(input.Parse(to.Drill))
		if err != nil {
			return nil, nil, fmt.Errorf("the drill of the run: %w", err)
		}
		t := drill.Timeline{Clock: drill.ByBag}
		for _, k := range to.Strikes {
			t.Events = append(t.Events, drill.Event{Count: k.Count})
		}
		if own, err = Before(bag, plan, t, s.Seed); err != nil {
			return nil, nil, fmt.Errorf("a bag like that of the run: %w", err)
		}
	}
	round := s.Person.Play(to.Strikes, own, end, s.Seed)
	return s.Coarse.Feel(round.Hits, s.Seed), round.Marks, nil
}

// Play joins the run, waits for its clock, and sends each hit when it falls, in small batches. A batch that fails is
// sent again with the next one; its hits keep their numbers. It returns when the run is over, or with an error when the
// server refuses or cannot be reached for a while.
func (s Sensor) Play(ctx context.Context) error {
	joined, err := s.call(ctx, http.MethodGet, nil)
	if err != nil {
		return fmt.Errorf("join the run: %w", err)
	}
	hits, marks, err := s.played(joined)
	if err != nil {
		return err
	}
	sent, told, failed := 0, 0, 0
	waitUntil := time.Now().Add(patience)
	now := joined
	for now.State != "done" && now.State != "stopped" {
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(beat):
		}
		due := sent
		for due < len(hits) && now.State == "running" && micros(hits[due].At) <= now.ClockUS {
			due++
		}
		batch := make([]batchHit, 0, due-sent)
		for i := sent; i < due; i++ {
			batch = append(batch, batchHit{i, micros(hits[i].At), hits[i].Hand, hits[i].Launch})
		}
		seen, watched := []batchMark{}, told
		for watched < len(marks) && now.State == "running" && micros(marks[watched].At) <= now.ClockUS {
			seen = append(seen, batchMark{watched, micros(marks[watched].At), string(marks[watched].Kind)})
			watched++
		}
		next, err := s.call(ctx, http.MethodPost, map[string]any{"device": "stand-in", "hits": batch, "marks": seen})
		if err != nil {
			if failed++; failed >= maxFailure {
				return fmt.Errorf("send hits: %w", err)
			}
			continue
		}
		failed, sent, told, now = 0, due, watched, next
		if now.State == "running" {
			waitUntil = time.Now().Add(patience)
		} else if time.Now().After(waitUntil) {
			return fmt.Errorf("the run did not go on within %s", patience)
		}
	}
	return nil
}

func micros(seconds float64) int64 { return int64(math.Round(seconds * 1e6)) }

func (s Sensor) call(ctx context.Context, method string, body any) (answer, error) {
	var out answer
	var in io.Reader
	if body != nil {
		text, err := json.Marshal(body)
		if err != nil {
			return out, err
		}
		in = bytes.NewReader(text)
	}
	req, err := http.NewRequestWithContext(ctx, method, strings.TrimSuffix(s.URL, "/")+"/api/intake/"+s.Key, in)
	if err != nil {
		return out, err
	}
	req.Header.Set("Content-Type", "application/json")
	client := s.Client
	if client == nil {
		client = &http.Client{Timeout: 5 * time.Second}
	}
	res, err := client.Do(req)
	if err != nil {
		return out, err
	}
	defer func() { _ = res.Body.Close() }()
	if err := json.NewDecoder(io.LimitReader(res.Body, 8<<20)).Decode(&out); err != nil {
		return out, fmt.Errorf("the answer (%s) is not JSON: %w", res.Status, err)
	}
	if res.StatusCode != http.StatusOK {
		return out, fmt.Errorf("%s: %s", res.Status, out.Detail)
	}
	return out, nil
}
