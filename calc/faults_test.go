package calc

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
)

// struck is a hit or a strike with its hand.
type struck struct {
	At     float64 `json:"at"`
	Window float64 `json:"window,omitempty"`
	Hand   string  `json:"hand,omitempty"`
	Launch float64 `json:"launch,omitempty"`
	Rest   bool    `json:"rest,omitempty"`
}

// named are the codes of the faults of an answer.
func namedIn(t *testing.T, question string) []string {
	t.Helper()
	var codes []string
	for _, f := range ask[judgeOut](t, "judge", question).Faults {
		if f.Evidence == "" || f.Remedy == "" {
			t.Errorf("%+v", f)
		}
		codes = append(codes, string(f.Code))
	}
	return codes
}

// By the beat with the latency known, the calculator names what strikes, hits and hands show; with an offset taken off
// no lateness on the whole.
func TestFaultsByTheBeat(t *testing.T) {
	const n = 240
	r := rand.New(rand.NewPCG(1, 2))
	plan := make([]struck, n)
	for i := range plan {
		plan[i] = struck{At: float64(i) / 2, Window: 0.06, Hand: []string{"lead", "rear"}[i/6%2]}
	}
	ask := func(options string, late func(i int) float64, gone ...int) []string {
		var hits []struck
		for i, s := range plan {
			if !slices.Contains(gone, i) {
				hits = append(hits, struck{At: s.At + late(i) + 0.008*r.NormFloat64(), Hand: s.Hand})
			}
		}
		a, _ := json.Marshal(plan)
		b, _ := json.Marshal(hits)
		return namedIn(t, fmt.Sprintf(`{"strikes":%s,"hits":%s%s}`, a, b, options))
	}
	known := `,"removeOffset":false`
	for name, c := range map[string]struct {
		got  []string
		want string
	}{
		"nothing":       {ask(known, func(int) float64 { return 0 }), ""},
		"late":          {ask(known, func(int) float64 { return 0.03 }), "waiting"},
		"early":         {ask(known, func(int) float64 { return -0.03 }), "chasing"},
		"delay unknown": {ask("", func(int) float64 { return 0.03 }), ""},
		"the rear hand": {ask(known, func(i int) float64 { return 0.035 * float64(i/6%2) }), "weakHand"},
		"at the changes": {ask(known,
			func(i int) float64 { return map[bool]float64{true: 0.045}[i%6 == 0 && i > 0] }), "changeGap"},
		"at the end": {ask(known,
			func(i int) float64 { return map[bool]float64{true: 0.03 * r.NormFloat64()}[i > 165] }), "fading"},
		"a gap": {ask(known, func(int) float64 { return 0 }, 60, 61, 62, 63, 64, 65, 66, 67, 68, 69, 70, 71, 72, 73),
			"lost"},
	} {
		if first := slices.Concat(c.got, []string{""})[0]; first != c.want {
			t.Errorf("%s: %v, want %q", name, c.got, c.want)
		}
	}
}

// A plan that bursts, and hits that do not: one pace.
func TestOnePace(t *testing.T) {
	var plan, hits []struck
	for burst := range 10 {
		for k := range 12 {
			plan = append(plan, struck{At: 18*float64(burst) + 0.4*float64(k), Window: 0.1})
		}
	}
	for i := range plan {
		hits = append(hits, struck{At: 180 * float64(i) / float64(len(plan))})
	}
	a, _ := json.Marshal(plan)
	b, _ := json.Marshal(hits)
	if got := namedIn(t, fmt.Sprintf(`{"strikes":%s,"hits":%s,"removeOffset":false}`, a, b)); len(got) != 1 ||
		got[0] != "onePace" {
		t.Errorf("%v", got)
	}
	for i := range plan {
		hits[i].At = plan[i].At
	}
	b, _ = json.Marshal(hits)
	if got := namedIn(t, fmt.Sprintf(`{"strikes":%s,"hits":%s,"removeOffset":false}`, a, b)); len(got) > 0 {
		t.Errorf("%v", got)
	}
}

// By the bag with its force known: waiting, chasing, too hard; on a pole that is left to settle, rushing.
func TestFaultsByTheBag(t *testing.T) {
	const n = 200
	r := newRound(t, n)
	noise := rand.New(rand.NewPCG(5, 6))
	asked := func(late float64, hard bool) []string {
		hits := evenHits(n, r.apart)
		at := 0.1
		for i := range hits {
			hits[i].At, hits[i].Launch = at, r.launch*(1+0.02*noise.NormFloat64())
			back := ask[struct{ Returns []returnOut }](t, "returns",
				fmt.Sprintf(`{"rig":%s,"launch":%g,"rebounds":3}`, bag, hits[i].Launch))
			at += back.Returns[0].At + late + 0.006*noise.NormFloat64()
			if hard && i%8 == 3 {
				hits[i].Launch *= 1.5
				back = ask[struct{ Returns []returnOut }](t, "returns",
					fmt.Sprintf(`{"rig":%s,"launch":%g,"rebounds":5}`, bag, hits[i].Launch))
				at = hits[i].At + back.Returns[0].At // the next come-back is let through
			}
		}
		plan, _ := json.Marshal(r.plan)
		b, _ := json.Marshal(hits)
		return namedIn(
			t,
			fmt.Sprintf(`{"clock":"bag","cycle":{"rig":%s,"rebounds":3,"launch":%g},"strikes":%s,"hits":%s}`,
				bag, r.launch, plan, b),
		)
	}
	for name, c := range map[string]struct {
		got  []string
		want string
	}{"nothing": {asked(0, false), ""}, "late": {asked(0.035, false), "waiting"}, "early": {asked(-0.035, false),
		"chasing"},
		"too hard": {asked(0, true), "tooHard"}} {
		if first := slices.Concat(c.got, []string{""})[0]; first != c.want {
			t.Errorf("%s: %v, want %q", name, c.got, c.want)
		}
	}
	const pole = `{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":50,"damping":0.06}`
	var plan, hits []struck
	for i := range 40 {
		plan = append(plan, struck{At: 6 * float64(i), Window: 0.2, Rest: true})
		at := 6 * float64(i)
		if i%4 == 2 {
			at -= 1.8
		}
		hits = append(hits, struck{At: at, Launch: 3})
	}
	a, _ := json.Marshal(plan)
	b, _ := json.Marshal(hits)
	if got := namedIn(t, fmt.Sprintf(`{"clock":"bag","cycle":{"rig":%s,"launch":3},"strikes":%s,"hits":%s}`, pole, a, b)); !slices.Contains(
		got,
		"rushing",
	) {
		t.Errorf("%v", got)
	}
}
