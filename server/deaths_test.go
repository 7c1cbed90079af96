package server

import (
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"melodromos/core/drill"
)

// While the database drops all connections again and again, devices are told 503 and nothing else, with when to come
// back; all that they send again is kept, once.
func TestDevicesOutliveTheDatabase(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Hazel")
	_, _, d := u.furnished(10)
	const devices, batches, each = 3, 40, 5
	keys := make([]string, devices)
	ids := make([]string, devices)
	for i := range keys {
		var run Run
		u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: drill.Sensor}, &run)
		u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
		keys[i], ids[i] = run.IntakeKey, run.ID
	}
	var over atomic.Bool
	deaths := make(chan int)
	go func() {
		n := 0
		defer func() { deaths <- n }()
		for ; !over.Load(); time.Sleep(20 * time.Millisecond) {
			db, err := pgx.Connect(ctx, s.database)
			if err != nil {
				t.Logf("after %d deaths: %v", n, err) // it has other tests to serve, too
				continue
			}
			if _, err = db.Exec(ctx, `SELECT pg_terminate_backend(pid) FROM pg_stat_activity
				WHERE datname = current_database() AND pid <> pg_backend_pid()`); err == nil {
				n++
			}
			_ = db.Close(ctx)
		}
	}()
	var put503 atomic.Int64
	var sending sync.WaitGroup
	for i, key := range keys {
		sending.Go(func() {
			device := s.stranger(t)
			for b := range batches {
				var hits []HitIn
				for k := range each {
					hits = append(hits, HitIn{Seq: b*each + k, At: at(int64(1_000_000 + 100_000*(b*each+k)))})
				}
				for tries := 0; ; tries++ {
					status, header, out := device.do("POST", "/api/intake/"+key, Batch{Device: "pad", Hits: hits})
					if status == 200 {
						break
					}
					if status != 503 || header.Get("Retry-After") == "" || tries == 500 {
						t.Errorf("device %d: %d %v %s", i, status, header, out)
						return
					}
					put503.Add(1)
				}
			}
		})
	}
	asking := make(chan struct{})
	go func() { // a coach meanwhile
		defer close(asking)
		for n := 0; !over.Load(); n++ {
			paths := []string{"today", "class", "predictions", "runs", "export/gym", "hours"}
			path := "/api/" + paths[n%len(paths)]
			if status, header, out := u.do("GET", path, nil); status != 200 && (status != 503 ||
				header.Get("Retry-After") == "") {
				t.Errorf("%s: %d %v %.200s", path, status, header, out)
			}
		}
	}()
	sending.Wait()
	over.Store(true)
	<-asking
	if n := <-deaths; n < 3 || put503.Load() == 0 {
		t.Errorf("%d deaths, 503 %d times: nothing was tried", n, put503.Load())
	}
	for _, id := range ids {
		rows, err := u.gym.Hits(id)
		for tries := 0; err != nil && tries < 10; tries++ { // the pool still holds what has died
			rows, err = u.gym.Hits(id)
		}
		if err != nil || len(rows) != batches*each {
			t.Errorf("%d hits of %d, %v", len(rows), batches*each, err)
		}
	}
}
