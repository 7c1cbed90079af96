package demo

import (
	"context"
	"testing"
	"time"

	"melodromos/store"
	"melodromos/store/storetest"
)

// The demo gym is made once, whole, with two weeks of judged rounds that look like people.
func TestLoad(t *testing.T) {
	ctx, s := context.Background(), storetest.Open(t)
	now := time.Date(2026, 3, 20, 9, 0, 0, 0, time.UTC)
	for range 2 {
		if err := Load(ctx, s, now); err != nil {
			t.Fatal(err)
		}
	}
	row, err := s.DemoGym(ctx)
	if err != nil {
		t.Fatal(err)
	}
	g := s.Gym(ctx, row.ID)
	trainees, _ := g.Trainees(store.InUse)
	rigs, _ := g.Rigs(store.InUse)
	if len(trainees) != len(people) || len(rigs) != len(bags) {
		t.Errorf("%d people and %d bags after loading twice", len(trainees), len(rigs))
	}
	want := 0
	for _, d := range givens {
		want += len(d.days)
	}
	runs, err := g.Runs(store.RunFilter{})
	if err != nil || len(runs) != want {
		t.Fatalf("%d runs, want %d: %v", len(runs), want, err)
	}
	share, perfect := map[string]float64{}, 0
	for _, r := range runs {
		sum := r.Outcome
		if sum == nil {
			t.Fatalf("a round of %s is not judged", r.Trainee)
		}
		share[r.Trainee] += sum.Share
		if sum.Share == 1 {
			perfect++ // a dozen one-twos may all land
		}
		if sum.Share < 0.2 || perfect > 2 {
			t.Errorf("%s: %g clean does not look like a person", r.DrillName, sum.Share)
		}
		if r.CreatedAt.After(now) || now.Sub(r.CreatedAt) > 15*24*time.Hour {
			t.Errorf("a run of %s is outside the two weeks", r.CreatedAt)
		}
	}
}
