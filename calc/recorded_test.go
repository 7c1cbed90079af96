package calc

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/recorded"
)

// The calculator answers as it did: with the same numbers and codes, to the last digit.
func TestRecordedAnswers(t *testing.T) {
	var all []recorded.Answer
	for _, q := range questions(t) {
		a := recorded.Answer{Question: q.op + " " + q.doc}
		out, err := Do(t.Context(), q.op, []byte(q.doc))
		var refused *input.Error
		switch {
		case err == nil:
			a.Answer = out
		case errors.As(err, &refused):
			a.Refused = refused.Field
		default:
			t.Fatalf("%s: %v", a.Question, err)
		}
		all = append(all, a)
	}
	if len(all) < 300 {
		t.Fatalf("only %d questions", len(all))
	}
	recorded.Compare(t, "answers", all)
}

type question struct{ op, doc string }

// questions are some of every operation, on every kind of bag.
func questions(t *testing.T) (all []question) {
	t.Helper()
	rng := rand.New(rand.NewPCG(28, 1))
	add := func(op, format string, args ...any) {
		all = append(all, question{op, fmt.Sprintf(format, args...)})
	}
	for _, m := range rig.Models() {
		for i := range 20 {
			doc := everyday(t, m)
			if i >= 10 {
				doc = atEnds(t, rng, m)
			}
			struck := fmt.Sprintf(`"launch":%g`, []float64{1.2, 2, 3, 4.5}[i%4])
			if m.Kind == rig.Slip {
				struck = fmt.Sprintf(`"pull":%g`, []float64{0.2, 0.5, 0.8, 1}[i%4])
			}
			come := "count"
			if m.Kind == rig.Speed {
				come = "rebounds"
			}
			add("returns", `{"rig":%s,%s,"%s":%d}`, doc, struck, come, 1+i%5)
			if i%2 == 0 {
				struck = fmt.Sprintf(`"tempo":%d`, 20+i*9)
			}
			add("tempo", `{"rig":%s,%s,"rebounds":%d}`, doc, struck, 1+i%3)
		}
		if m.Kind == rig.Speed {
			continue
		}
		for i, text := range []string{"1-2", "1-2 - slip rear - 2", "1-1-2 | duck - 2-3-2!",
			"1b-2b-3 - step back - 2"} {
			landing := []string{"returns", "free"}[i%2]
			drill := fmt.Sprintf(`{"rig":%s,"text":%q,"landing":%q,"work":20}`, everyday(t, m), text, landing)
			add("compile", `{"drill":%s,"seed":%d}`, drill, i)
			add("grade", `{"drill":%s}`, drill)
			add("grade", `{"drill":%s,"ability":{"band":"%s"}}`, drill, []string{"beginner", "advanced"}[i%2])
		}
	}
	for i, technique := range []string{"alternating", "oneHand", "doublePunch", "linking"} {
		drill := fmt.Sprintf(`{"rig":%s,"technique":%q,"firstHand":"lead","perHand":0,"rebounds":3,"tempo":%d,"work":15}`,
			bag, technique, 100+12*i)
		add("compile", `{"drill":%s,"seed":%d}`, drill, i)
		add("grade", `{"drill":%s,"ability":{"band":"intermediate","timing":0.05}}`, drill)
	}
	for _, text := range []string{
		"1", "1-2", "jab, cross, lead hook", "(1-2)x3", "1-2 | duck - 2", "double jab - cross", "slip lead 3",
		"1b-2!", "teep - 2", "bob and weave", "left right", "100 jabs", "1-2-3-2-roll rear-2", "feint jab - 2",
		"wait - 1", "1-2-4-3", "slipp", "", "switch - round kick rear", "pull - 2", "hook - uppercut", "1+2+3",
		"then 2", "step back - 1-2!", "pivot lead 3 | cover - 6b",
	} {
		for _, stance := range []string{"orthodox", "southpaw"} {
			add("combo", `{"text":%q,"stance":%q}`, text, stance)
		}
	}
	for i := range 40 {
		add("judge", "%s", played(t, rng, i))
	}
	return all
}

func everyday(t *testing.T, m rig.Model) string {
	t.Helper()
	text, err := json.Marshal(m.Everyday)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// played is a round of thirty strikes with hits that come late, early, with the other hand, or not at all; on the
// beat's clock or on one of three bags'.
func played(t *testing.T, rng *rand.Rand, i int) string {
	t.Helper()
	var strikes, hits []string
	step, scatter := 0.4+0.05*float64(i%6), 0.01+0.01*float64(i%5)
	cycle := []string{"", `{"rig":` + bag + `,"rebounds":3,"launch":2.8365}`,
		`{"rig":` + reflex + `,"launch":3}`, `{"rig":` + hanging + `,"launch":1.5}`}[i%4]
	if cycle != "" {
		step = ask[struct{ Returns []returnOut }](t, "returns", cycle).Returns[0].At
	}
	at := 1.0
	for k := range 30 {
		hand := []string{"lead", "rear"}[k%2]
		due := 1 + step*float64(k)
		strikes = append(strikes, fmt.Sprintf(`{"at":%.4f,"window":0.05,"hand":%q}`, due, hand))
		launch := ""
		if cycle != "" && i%8 >= 4 {
			launch = fmt.Sprintf(`,"launch":%.3f`, 2+rng.Float64())
		}
		if at += step * (1 + 0.01*rng.NormFloat64()); rng.IntN(15) > 0 {
			hits = append(hits, fmt.Sprintf(`{"at":%.4f,"hand":%q%s}`, at-step+scatter*rng.NormFloat64(),
				[]string{hand, "lead"}[min(1, rng.IntN(20)/19)], launch))
		}
	}
	more := fmt.Sprintf(`,"removeOffset":%t`, i%3 > 0)
	if cycle != "" {
		more += fmt.Sprintf(`,"clock":"bag","cycle":%s,"end":%.3f`, cycle, 1+step*30)
	}
	return fmt.Sprintf(`{"strikes":[%s],"hits":[%s]%s}`, strings.Join(strikes, ","), strings.Join(hits, ","), more)
}

const (
	reflex  = `{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":50,"damping":0.06}`
	hanging = `{"kind":"hanging","shape":"cylinder","mass":40,"length":1.2,"diameter":0.35,"chain":0.5}`
)
