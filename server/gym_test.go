package server

import (
	"net/http"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"melodromos/core/bench"
	"melodromos/core/ladder"
	"melodromos/core/rig"
)

// Units and borders are the gym's own, and the bench speaks by them.
func TestGymSettings(t *testing.T) {
	s := newSite(t)
	u, other := s.coach(t, "Larch"), s.coach(t, "Maple")
	ask := func(u user) (a bench.Sheet) {
		u.want(200, "POST", "/api/bench", BenchQuestion{Rig: RigDoc{Rig: kinds["doubleEnd"]}, Rebounds: 1}, &a)
		return a
	}
	before := ask(u)
	asked := GymSettings{1, "Larch", "Asia/Tokyo", "imperial", rig.Borders{Slack: 0.2, Head: 0.1, Tight: 0.05}, true,
		"names", "inside", ladder.DefaultGate, 20}
	u.want(200, "PUT", "/api/gym", asked, nil)
	after := ask(u)
	if before.Cords.Feel != rig.Combinations || after.Cords.Feel == before.Cords.Feel ||
		after.Cords.Borders.Slack != 0.2 {
		t.Errorf("%+v, then %+v", before.Cords, after.Cords)
	}
	if elsewhere := ask(other); elsewhere.Cords.Feel != before.Cords.Feel {
		t.Error("another gym's borders moved")
	}
	var g GymSettings
	u.want(200, "GET", "/api/gym", nil, &g)
	if asked.Version = 2; g != asked {
		t.Errorf("%+v, want %+v", g, asked)
	}
	for field, wrong := range map[string]func(g *GymSettings){
		"borders.slack": func(g *GymSettings) { g.Borders.Head = 0.3 },
		"getReady":      func(g *GymSettings) { g.GetReady = 2 },
		"name":          func(g *GymSettings) { g.Name = " \u00a0" },
		"zone":          func(g *GymSettings) { g.Zone = "Nowhere/Much" },
		"version":       func(g *GymSettings) { g.Version = 0 },
	} {
		bad := g
		wrong(&bad)
		if status, _, out := u.do("PUT", "/api/gym", bad); status != 422 ||
			!strings.Contains(string(out), `"body.`+field+`"`) {
			t.Errorf("%s: %d %s", field, status, out)
		}
	}
	var after2 GymSettings
	if u.want(200, "GET", "/api/gym", nil, &after2); after2 != g {
		t.Errorf("a refused change left %+v", after2)
	}
}

// Twenty coaches drag at once, ten calls a second each, for a second a round: p95 of the bench call, in ms.
func BenchmarkTwentyCoaches(b *testing.B) {
	s := newSite(b)
	const coaches, perSecond = 20, 10
	users := make([]user, coaches)
	people := make([]Trainee, coaches)
	height := 1.62
	for i := range users {
		users[i] = s.coach(b, "Gym "+string(rune('A'+i)))
		users[i].want(200, "POST", "/api/trainees",
			Trainee{Name: "Runa", Stance: "southpaw", Band: "beginner", AgeBand: "adult", Height: &height}, &people[i])
	}
	var mu sync.Mutex
	var took []float64
	drag := func(i int) {
		tick := time.NewTicker(time.Second / perSecond)
		defer tick.Stop()
		names := []string{"speed", "doubleEnd", "reflex", "slip", "hanging"}
		for n := range perSecond {
			kind := names[(i+n/2)%len(names)]
			rebounds := map[bool]int{true: 3, false: 1}[kind == "speed"]
			began := time.Now()
			status, _, out := users[i].do(http.MethodPost, "/api/bench",
				BenchQuestion{Rig: RigDoc{Rig: kinds[kind]}, Rebounds: rebounds, TraineeID: people[i].ID})
			ms := 1000 * time.Since(began).Seconds()
			if status != 200 {
				b.Errorf("%d %s", status, out)
			}
			mu.Lock()
			took = append(took, ms)
			mu.Unlock()
			<-tick.C
		}
	}
	for b.Loop() {
		var all sync.WaitGroup
		for i := range coaches {
			all.Go(func() {
				time.Sleep(time.Duration(i) * time.Second / perSecond / coaches) // nobody's hands move in step
				drag(i)
			})
		}
		all.Wait()
	}
	slices.Sort(took)
	b.ReportMetric(took[len(took)*95/100], "p95-ms")
	b.ReportMetric(took[len(took)/2], "median-ms")
	b.ReportMetric(float64(len(took)), "calls")
}
