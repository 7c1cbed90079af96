package main

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"melodromos/store/storetest"
)

const bag = `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":0.8}`

// heavy are questions that take the calculator long: a round as full as one may be, and as many hits as may be judged
// at once, on the bag's clock, at random moments.
func heavy() map[string]string {
	var strikes, hits []string
	for i := range 20_000 {
		strikes = append(strikes, fmt.Sprintf(`{"at":%.3f,"window":0.06,"rebounds":%d}`, 0.5*float64(i), 1+2*(i%8)))
		hits = append(hits, fmt.Sprintf(`{"at":%.3f}`, float64(i*7919%20_000)/4000))
	}
	return map[string]string{
		"compile": fmt.Sprintf(
			`{"drill":{"rig":%s,"text":"(1-2-3-4-5-6-1b-2b)x50","landing":"returns","pace":"combination","pause":0,"repetitions":8,"guidance":"fading"}}`, bag),
		"judge": fmt.Sprintf(
			`{"clock":"bag","cycle":{"rig":%s,"rebounds":3,"launch":2.8365},"strikes":[%s],"hits":[%s]}`, bag,
			strings.Join(strikes, ","), strings.Join(hits, ",")),
	}
}

// A coach at the bench while eight strangers ask the calculator without a pause, all from one address or each from
// another. The figures are the 95th percentile of the bench's answer.
func BenchmarkBenchUnderFlood(b *testing.B) {
	questions := heavy()
	for _, c := range []struct {
		name    string
		sources int
		op      string
	}{{"quiet", 0, ""}, {"compile from one", 1, "compile"}, {"compile from eight", 8, "compile"},
		{"judge from one", 1, "judge"}, {"judge from eight", 8, "judge"}} {
		b.Run(c.name, func(b *testing.B) {
			s := serveProgram(b, storetest.URL(b), "TRUSTED_PROXIES=127.0.0.1")
			flood, stop := context.WithCancel(b.Context())
			var all sync.WaitGroup
			var asked, answered, slowest atomic.Int64
			for i := range 8 * min(1, c.sources) {
				all.Go(func() {
					for flood.Err() == nil {
						req, _ := http.NewRequestWithContext(flood, "POST", s.url+"/api/calc/"+c.op,
							strings.NewReader(questions[c.op]))
						req.Header.Set("X-Forwarded-For", fmt.Sprintf("203.0.113.%d", i%c.sources))
						began := time.Now()
						res, err := http.DefaultClient.Do(req)
						if err != nil {
							continue
						}
						asked.Add(1)
						if res.StatusCode < 400 {
							answered.Add(1)
						}
						slowest.Store(max(slowest.Load(), time.Since(began).Milliseconds()))
						_ = res.Body.Close()
					}
				})
			}
			var took []time.Duration
			tempo := 100.0
			for b.Loop() {
				tempo = 100 + float64(len(took)%60)
				began := time.Now()
				s.ask(b, "POST", "/api/bench", map[string]any{"rig": json.RawMessage(bag), "rebounds": 3,
					"strikeAngle": 25, "tempo": tempo}, nil)
				took = append(took, time.Since(began))
				time.Sleep(5 * time.Millisecond) // somebody who drags a slider
			}
			stop()
			all.Wait()
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
			b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "p50-ms")
			b.ReportMetric(float64(asked.Load()), "asked")
			b.ReportMetric(float64(answered.Load()), "answered")
			b.ReportMetric(0, "ns/op")
		})
	}
}
