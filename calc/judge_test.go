package calc

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"testing"

	"melodromos/core/input"
)

// moment is a hit or a planned strike as somebody writes them down.
type moment struct {
	At     float64 `json:"at"`
	Window float64 `json:"window,omitempty"`
	Launch float64 `json:"launch,omitempty"`
}

// round is a question about a round of 112 strikes a minute on the speed bag.
type round struct {
	launch float64
	apart  float64
	plan   []moment
}

func newRound(t *testing.T, n int) round {
	t.Helper()
	told := ask[tempoOut](t, "tempo", `{"rig":`+bag+`,"rebounds":3,"tempo":112}`)
	r := round{launch: *told.Launch, apart: 60.0 / 112}
	for i := range n {
		r.plan = append(r.plan, moment{At: float64(i) * r.apart, Window: *told.Window})
	}
	return r
}

func (r round) judged(t *testing.T, hits []moment, options string) judgeOut {
	t.Helper()
	plan, _ := json.Marshal(r.plan)
	struck, _ := json.Marshal(hits)
	return ask[judgeOut](t, "judge",
		fmt.Sprintf(`{"clock":"bag","cycle":{"rig":%s,"rebounds":3,"launch":%g},"strikes":%s,"hits":%s%s}`, bag,
			r.launch, plan, struck, options))
}

func evenHits(n int, apart float64) []moment {
	hits := make([]moment, n)
	for i := range hits {
		hits[i].At = 0.1 + float64(i)*apart
	}
	return hits
}

// Perfectly even hits are clean at every tempo that this bag has, and the tempo and the force it takes are told; at
// those it has not nothing is clean.
func TestJudgeOnTheBagsClock(t *testing.T) {
	const n = 200
	r := newRound(t, n)
	for _, tempo := range []float64{108, 113, 118} {
		out := r.judged(t, evenHits(n, 60/tempo), "")
		if out.Clean != n || out.Extra != 0 || out.Missed != 0 || out.Tempo == nil ||
			math.Abs(*out.Tempo-tempo) > 0.05 {
			t.Errorf("even at %g: %+v", tempo, out)
			continue
		}
		takes := ask[tempoOut](t, "tempo", fmt.Sprintf(`{"rig":%s,"rebounds":3,"tempo":%g}`, bag, tempo))
		if out.Launch == nil || math.Abs(*out.Launch / *takes.Launch - 1) > 0.01 {
			t.Errorf("even at %g: %v m/s, this tempo takes %.3f", tempo, out.Launch, *takes.Launch)
		}
	}
	for _, tempo := range []float64{40, 600} {
		if out := r.judged(t, evenHits(n, 60/tempo), ""); out.Clean > n/50 {
			t.Errorf("%g a minute, which this bag has not: %d clean", tempo, out.Clean)
		}
	}
}

// Late by 60 ms where the force is known is late; where it is not, it is a softer strike.
func TestJudgeLateWithForce(t *testing.T) {
	const n = 120
	r := newRound(t, n)
	hits := evenHits(n, r.apart+0.060)
	soft := r.judged(t, hits, "")
	for i := range hits {
		hits[i].Launch = r.launch
	}
	known := r.judged(t, hits, "")
	if known.Late != n-1 || known.Clean > 1 || known.Bias == nil || math.Abs(*known.Bias-0.060) > 0.002 ||
		known.Met == nil {
		t.Errorf("force known: %+v", known)
	}
	if soft.Late > 0 || soft.Bias != nil || soft.Drift != nil {
		t.Errorf("force not known: %+v", soft)
	}
}

// A come-back that is let through comes again two rebounds later, and costs one strike.
func TestJudgeLetThrough(t *testing.T) {
	const n = 60
	r := newRound(t, n)
	again := ask[struct{ Returns []returnOut }](t, "returns",
		fmt.Sprintf(`{"rig":%s,"launch":%g,"rebounds":5}`, bag, r.launch))
	hits := evenHits(n-1, r.apart)
	for i := range hits[30:] {
		hits[30+i].At += again.Returns[0].At - r.apart
	}
	out := r.judged(t, hits, "")
	if out.Clean != n-1 || out.Missed != 1 || out.Extra != 0 || out.LetGo == nil || *out.LetGo != 1 {
		t.Errorf("%+v", out)
	}
}

// The number of strikes is a result: with the bell told, those beyond the plan count and those after the bell are not
// missed.
func TestJudgeUpToTheBell(t *testing.T) {
	r := newRound(t, 112)
	quick, slow := r.judged(t, evenHits(118, 60/118.0), `,"end":60`), r.judged(t, evenHits(108, 60/108.0), `,"end":60`)
	if quick.Clean != 118 || quick.Extra != 0 || quick.Missed != 0 {
		t.Errorf("quicker: %+v", quick)
	}
	if slow.Clean != 108 || slow.Missed != 0 {
		t.Errorf("slower: %+v", slow)
	}
}

func TestJudgeCycleIsRefused(t *testing.T) {
	const strikes = `"strikes":[{"at":0,"window":0.06},{"at":0.5,"window":0.06}],"hits":[{"at":0}]`
	slip := `{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5}`
	for _, c := range []struct{ doc, field string }{
		{`{"clock":"bag",` + strikes + `}`, "cycle"},
		{`{"clock":"drum",` + strikes + `}`, "clock"},
		{`{"clock":"bag","cycle":{"rig":` + slip + `,"launch":1},` + strikes + `}`, "cycle.rig.kind"},
		{`{"clock":"bag","cycle":{"rig":` + bag + `,"rebounds":3},` + strikes + `}`, "cycle.launch"},
		{`{"clock":"bag","cycle":{"rig":` + bag + `,"rebounds":3,"launch":0.5},` + strikes + `}`, "cycle.launch"},
		{`{"clock":"bag","cycle":{"rig":` + bag + `,"rebounds":21,"launch":2.8},` + strikes + `}`, "cycle.rebounds"},
		{`{"clock":"bag","cycle":{"rig":` + bag + `,"rebounds":3,"launch":2.8},"end":1e9,` + strikes + `}`, "end"},
		{`{"clock":"bag","cycle":{"rig":` + bag + `,"rebounds":3,"launch":2.8},"forceSpread":2,` + strikes + `}`,
			"forceSpread"},
		{`{"clock":"bag","cycle":{"rig":` + bag +
			`,"rebounds":3,"launch":2.8},"strikes":[{"at":0,"window":0.06,"waits":8}],"hits":[]}`, "strikes[0].waits"},
		{`{"cycle":{"rig":` + bag + `,"rebounds":3,"launch":2.8},` + strikes + `}`, "cycle"},
	} {
		_, err := Do(context.Background(), "judge", []byte(c.doc))
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field {
			t.Errorf("%s: %v, want a refusal of %s", c.doc, err, c.field)
		}
	}
}
