package calc

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"melodromos/core/input"
	"melodromos/core/rig"
)

const bag = `{"kind":"speed","bagLength":0.23,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02,"restitution":0.8,"boardHeight":1.95}`

func ask[T any](t *testing.T, op, doc string) T {
	t.Helper()
	out, err := Do(context.Background(), op, []byte(doc))
	if err != nil {
		t.Fatalf("%s %s: %v", op, doc, err)
	}
	var v T
	if err := json.Unmarshal(out, &v); err != nil {
		t.Fatal(err)
	}
	return v
}

// The check values of a separate Runge–Kutta integration, to four decimals.
func TestReturns(t *testing.T) {
	out := ask[struct {
		Returns []returnOut
		Boards  []float64
	}](t, "returns", `{"rig":`+bag+`,"launch":2.8365}`)
	for i, want := range []float64{0.0440, 0.2069, 0.4004} {
		if math.Abs(out.Boards[i]-want) > 5e-5 {
			t.Errorf("board %d: %g", i+1, out.Boards[i])
		}
	}
	if len(out.Returns) != 1 || math.Abs(out.Returns[0].At-0.4763) > 5e-5 {
		t.Errorf("%+v", out)
	}
}

// Every rig answers, with the check values of a separate Runge–Kutta integration to four decimals.
func TestReturnsOfEveryKind(t *testing.T) {
	const cords = `"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}`
	for _, c := range []struct {
		doc string
		at  []float64
	}{
		{`{"rig":{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,` + cords +
			`,"damping":0},"launch":4,"count":2}`, []float64{0.2327, 0.6981}},
		{`{"rig":{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,` + cords + `},"launch":4,"count":2}`,
			[]float64{0.2346, 0.7129}},
		{
			`{"rig":{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":50,"damping":0.06},"launch":3,"count":2}`, []float64{0.6198, 1.8625}},
		{
			`{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"pull":0.6,"count":3}`, []float64{0.5274, 1.5789, 2.6297}},
		{
			`{"rig":{"kind":"hanging","shape":"cylinder","mass":40,"length":1.2,"diameter":0.35,"chain":0.5},"launch":1e-4,"count":2}`, []float64{2.2126 / 2, 2.2126 * 1.5}},
	} {
		out := ask[struct{ Returns []returnOut }](t, "returns", c.doc)
		if len(out.Returns) != len(c.at) {
			t.Fatalf("%s: %d returns", c.doc, len(out.Returns))
		}
		for i, want := range c.at {
			if math.Abs(out.Returns[i].At-want) > 1e-4 {
				t.Errorf("%s: return %d at %g, want %g", c.doc, i+1, out.Returns[i].At, want)
			}
		}
		if (out.Returns[0].Window == nil) != strings.Contains(c.doc, "slip") {
			t.Errorf("%s: window %v", c.doc, out.Returns[0].Window)
		}
	}
	slip := `{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},`
	a := ask[tempoOut](t, "tempo", slip+`"pull":0.4}`)
	if !a.Feasible || *a.Pull != 0.4 || a.Launch != nil || a.FistSpeed != nil || a.Window != nil {
		t.Errorf("%+v", a)
	}
	if back := ask[tempoOut](t, "tempo", fmt.Sprintf(slip+`"tempo":%v}`, a.Tempo)); math.Abs(*back.Pull-0.4) > 1e-6 {
		t.Errorf("%+v", back)
	}
}

// tempoOut is the answer of the tempo operation.
type tempoOut struct {
	Feasible                        bool
	Tempo, Slowest, Fastest         float64
	Launch, Pull, Window, FistSpeed *float64
	Change                          []rig.Change
}

func TestTempo(t *testing.T) {
	a := ask[tempoOut](t, "tempo", `{"rig":`+bag+`,"rebounds":3,"tempo":120}`)
	if !a.Feasible || a.Launch == nil || len(a.Change) != 0 {
		t.Fatalf("%+v", a)
	}
	back := ask[tempoOut](t, "tempo", fmt.Sprintf(`{"rig":%s,"launch":%v}`, bag, *a.Launch))
	if math.Abs(back.Tempo-120) > 1e-6 || *back.FistSpeed != *a.FistSpeed {
		t.Errorf("%+v", back)
	}
	for _, q := range []string{`"tempo":600`, `"tempo":20,"rebounds":1`} {
		far := ask[tempoOut](t, "tempo", `{"rig":`+bag+`,`+q+`}`)
		if far.Feasible || far.Launch != nil || far.Window != nil || far.FistSpeed != nil || len(far.Change) == 0 ||
			far.Slowest >= far.Fastest {
			t.Errorf("%s: %+v", q, far)
		}
	}
}

// A bag may come back quicker than any hand strikes, and a launch be more than any hand gives (from memory: ten strikes
// a second, fists under 15 m/s): then it is not feasible, the bag's own limits stand, and what is advised is.
func TestNoHandIsThatQuick(t *testing.T) {
	for _, q := range []string{`"tempo":640,"rebounds":1`, `"launch":12,"rebounds":1`, `"launch":28,"rebounds":3`} {
		far := ask[tempoOut](t, "tempo", `{"rig":`+bag+`,`+q+`}`)
		if far.Feasible || far.Launch != nil || far.Window != nil || far.FistSpeed != nil || far.Fastest < 640 &&
			strings.Contains(q, "640") {
			t.Errorf("%s: %+v", q, far)
		}
		if len(far.Change) == 0 {
			t.Errorf("%s: no advice", q)
		}
		for _, c := range far.Change {
			again := `"tempo":640,"rebounds":1`
			switch c.What {
			case "tempo":
				again = fmt.Sprintf(`"tempo":%v,"rebounds":1`, c.To)
			case "launch":
				again = fmt.Sprintf(`"launch":%v,%s`, c.To, q[strings.Index(q, `"rebounds`):])
			default:
				continue
			}
			if then := ask[tempoOut](t, "tempo", `{"rig":`+bag+`,`+again+`}`); !then.Feasible {
				t.Errorf("%s, then %s: %+v", q, again, then)
			}
		}
	}
}

func TestRefusals(t *testing.T) {
	for _, c := range []struct{ op, doc, field string }{
		{"returns", `{"rig":` + bag + `,"launch":2.8,"rebounds":2,"face":"front"}`, "face"},
		{"returns", `{"rig":` + bag + `}`, "launch"},
		{"returns", `{"rig":` + bag + `,"launch":0.5}`, "launch"},
		{"returns", `{"rig":` + bag + `,"launch":3,"strikeAngle":80}`, "strikeAngle"},
		{"returns", `{"launch":3}`, "rig"},
		{"returns", `{"rig":{"kind":"speed"},"launch":3}`, "rig.bagLength"},
		{"returns", `{"rig":` + bag + `,"launch":3,"luanch":3}`, "luanch"},
		{"returns", `{"rig":` + bag + `,"launch":3,"count":2}`, "count"},
		{"returns",
			`{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"launch":1}`,
			"pull"},
		{"tempo", `{"rig":` + bag + `}`, "tempo"},
		{"tempo", `{"rig":` + bag + `,"tempo":100,"launch":3}`, "tempo"},
		{"judge", `{"strikes":[{"at":0,"window":0}],"hits":[]}`, "strikes[0].window"},
		{"judge", `{"strikes":[],"hits":[{"at":0,"hand":"left"}]}`, "hits[0].hand"},
		{"judge", `{"strikes":[]}`, "hits"},
	} {
		_, err := Do(context.Background(), c.op, []byte(c.doc))
		var refused *input.Error
		if !errors.As(err, &refused) || refused.Field != c.field {
			t.Errorf("%s %s: %v, want a refusal of %s", c.op, c.doc, err, c.field)
		}
	}
	if _, err := Do(context.Background(), "dance", nil); err == nil {
		t.Error("an unknown operation was done")
	}
}

func judgeDoc(options string) string {
	type at struct {
		At     float64 `json:"at"`
		Window float64 `json:"window,omitempty"`
	}
	var strikes, hits []at
	for i := range 100 {
		strikes = append(strikes, at{0.5 * float64(i), 0.060})
		if i != 10 {
			hits = append(hits, at{At: 0.5*float64(i) + 0.040})
		}
	}
	s, _ := json.Marshal(strikes)
	h, _ := json.Marshal(hits)
	return fmt.Sprintf(`{"strikes":%s,"hits":%s%s}`, s, h, options)
}

func TestJudge(t *testing.T) {
	out := ask[judgeOut](t, "judge", judgeDoc(""))
	if out.Clean != 99 || out.Missed != 1 || math.Abs(out.Offset-0.040) > 1e-9 || len(out.Matches) != 99 ||
		out.Faults == nil {
		t.Errorf("%+v", out)
	}
	kept := ask[judgeOut](t, "judge", judgeDoc(`,"removeOffset":false`))
	if kept.Late != 99 || kept.Offset != 0 || math.Abs(*kept.Bias-0.040) > 1e-9 {
		t.Errorf("%+v", kept)
	}
	none := ask[judgeOut](t, "judge", `{"strikes":[{"at":1,"window":0.1}],"hits":[]}`)
	if none.Bias != nil || none.Spread != nil || none.Drift != nil || none.Missed != 1 {
		t.Errorf("%+v", none)
	}
}

// A question that would take hours is refused, not answered.
func TestJudgeIsBounded(t *testing.T) {
	type at struct {
		At     float64 `json:"at"`
		Window float64 `json:"window,omitempty"`
	}
	strikes, hits := make([]at, 20000), make([]at, 20000)
	for i := range strikes {
		strikes[i], hits[i] = at{0.001 * float64(i), 10}, at{At: 0.001 * float64(i)}
	}
	s, _ := json.Marshal(strikes)
	h, _ := json.Marshal(hits)
	_, err := Do(context.Background(), "judge", fmt.Appendf(nil, `{"strikes":%s,"hits":%s}`, s, h))
	var refused *input.Error
	if !errors.As(err, &refused) || refused.Field != "strikes" {
		t.Errorf("%v, want a refusal of strikes", err)
	}
}

func FuzzDo(f *testing.F) {
	f.Add("tempo", []byte(`{"rig":`+bag+`,"tempo":120}`))
	f.Add("judge", []byte(`{"strikes":[{"at":0,"window":0.1}],"hits":[{"at":1e3}]}`))
	f.Fuzz(func(t *testing.T, op string, doc []byte) {
		if out, err := Do(context.Background(), op, doc); err == nil && !json.Valid(out) {
			t.Errorf("%s %s: %s", op, doc, out)
		}
	})
}

func ExampleDo() {
	out, err := Do(context.Background(), "combo", []byte(`{"text":"jab"}`))
	fmt.Println(strings.ReplaceAll(string(out), `,"`, ",\n\""), err)
	// Output:
	// {"moves":[{"text":"1",
	// "kind":"strike",
	// "hand":"lead",
	// "side":"left",
	// "target":"head"}],
	// "canonical":"1",
	// "mirror":"2",
	// "counterpart":"2",
	// "count":1,
	// "strikes":1,
	// "flow":[],
	// "notes":[]} <nil>
}

// The line of the trade: 13 moves, 10 strikes, and the same for the other side in both ways.
// Left and right are read by the stance, and what was left open is told.
func TestComboOpen(t *testing.T) {
	out := ask[struct {
		Canonical string
		Moves     []struct{ Hand, Side *string }
		Notes     []struct {
			Column          int
			Said, Read, Why string
		}
	}](t, "combo", `{"text":"jab, left hook then uppercut","stance":"southpaw"}`)
	if out.Canonical != "1-4-5" || *out.Moves[1].Hand != "rear" || *out.Moves[1].Side != "left" || len(out.Notes) != 1 {
		t.Fatalf("%+v", out)
	}
	if n := out.Notes[0]; n.Column != 21 || n.Said != "uppercut" || n.Read != "lead uppercut" ||
		n.Why != "the hand that alternates" {
		t.Errorf("%+v", n)
	}
}

func TestCombo(t *testing.T) {
	out := ask[struct {
		Moves                          []moveOut
		Canonical, Mirror, Counterpart string
		Count, Strikes                 int
		Flow                           []flowOut
	}](t, "combo", `{"text":"pull 1-2, slip rear 2 3b | duck 3 2!","stance":"southpaw"}`)
	if out.Canonical != "pull 1-2 - slip rear - 2-3b | duck - 3-2!" || out.Count != 9 || out.Strikes != 6 ||
		len(out.Flow) != 1 || out.Flow[0].Code != "outsideSlip" || out.Flow[0].Deliberate {
		t.Errorf("%+v", out)
	}
	if out.Counterpart != "pull 2-3 - slip lead - 3-4b | duck - 2-3!" ||
		out.Mirror != "pull 2-1 - slip lead - 1-4b | duck - 4-1!" {
		t.Errorf("%+v", out)
	}
	jab, slip, body := out.Moves[1], out.Moves[3], out.Moves[5]
	if *jab.Hand != "lead" || *jab.Side != "right" || *jab.Target != "head" || slip.Hand != nil || slip.Target != nil ||
		*slip.Side != "left" || *body.Target != "body" {
		t.Errorf("%+v %+v %+v", jab, slip, body)
	}
	for doc, says := range map[string]string{`{"text":"1-sipl"}`: `text: column 3: "sipl"`, `{}`: "text",
		`{"text":"1","stance":"square"}`: "stance", `{"text":7}`: "text"} {
		if _, err := Do(context.Background(), "combo", []byte(doc)); err == nil ||
			!strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", doc, err)
		}
	}
}

// A drill document with its rig compiles to events in whole microseconds, the same for the same seed.
func TestCompile(t *testing.T) {
	const cords = `"upper":{"span":0.75,"relaxed":0.66,"stiffness":90},"lower":{"span":0.75,"relaxed":0.66,"stiffness":90}`
	type events struct {
		Events []struct {
			At   int64
			Kind string
		}
	}
	for _, doc := range []string{
		`{"drill":{"rig":{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,` + cords +
			`},"band":"beginner","text":"1-2","work":30},"seed":4}`,
		`{"drill":{"rig":` + bag +
			`,"technique":"linking","firstHand":"rear","perHand":4,"rebounds":2,"tempo":120,"work":30}}`,
		`{"drill":{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"place":{"plane":"across"},"text":"roll lead - 3","repetitions":3}}`,
	} {
		out := ask[events](t, "compile", doc)
		kinds := map[string]int{}
		for i, e := range out.Events {
			kinds[e.Kind]++
			if i > 0 && e.At < out.Events[i-1].At {
				t.Fatalf("%s: event %d runs back", doc, i)
			}
		}
		if kinds["bell"] != 2 || kinds["strike"] < 3 {
			t.Errorf("%s: %v", doc, kinds)
		}
		a, _ := Do(context.Background(), "compile", []byte(doc))
		b, _ := Do(context.Background(), "compile", []byte(doc))
		if string(a) != string(b) {
			t.Errorf("%s: other bytes", doc)
		}
	}
	for doc, field := range map[string]string{
		`{"drill":{"text":"1"}}`: "drill.rig",
		`{"drill":{"rig":` + bag +
			`,"text":"1-x","work":30}}`: "drill.text",
		`{"drill":{"rig":` + bag +
			`,"text":"1","work":30,"sail":1}}`: "drill.sail",
		`{"drill":{"rig":` + bag +
			`,"technique":"oneHand","firstHand":"rear","rebounds":2,"tempo":90,"work":30}}`: "drill.rebounds",
		`{"drill":{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"technique":"oneHand"}}`: "drill.rig.kind",
	} {
		var refused *input.Error
		if _, err := Do(context.Background(), "compile", []byte(doc)); !errors.As(err, &refused) ||
			refused.Field != field {
			t.Errorf("%s: %v", doc, err)
		}
	}
}

// A drill is graded by what it asks, and fits somebody by what they can do; both are refused by field.
func TestGrade(t *testing.T) {
	const bag = `"rig":{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`
	type grade struct{ Level, Timing, Hands, Pattern, Reading, Clean, Run, Longest float64 }
	with := func(text, ability string) grade {
		return ask[grade](t, "grade", fmt.Sprintf(`{"drill":{%s,"text":%q,"fist":3,"work":30,"guidance":"called"}%s}`,
			bag, text, ability))
	}
	bare := with("1-2", "")
	if bare.Level < bare.Timing || bare.Level > 10 || bare.Clean != 0 || bare.Reading != 1 {
		t.Errorf("%+v", bare)
	}
	// 1 + 9(1 − e^(−1/8)): two moves to hold in mind.
	if math.Abs(bare.Pattern-(1+9*(1-math.Exp(-1.0/8)))) > 1e-9 {
		t.Errorf("pattern %g", bare.Pattern)
	}
	beginner, expert := with("1-2", `,"ability":{"band":"beginner"}`),
		with("1-2", `,"ability":{"band":"beginner","timing":0.03,"miss":0,"alternate":0.15,"sameHand":0.3}`)
	if !(expert.Clean > beginner.Clean) || beginner.Level != bare.Level || expert.Run <= beginner.Run ||
		expert.Longest <= beginner.Longest {
		t.Errorf("%+v\n%+v", beginner, expert)
	}
	for field, doc := range map[string]string{
		"ability.timing": `{"drill":{` + bag + `,"text":"1-2","work":30},"ability":{"timing":3}}`,
		"ability.band":   `{"drill":{` + bag + `,"text":"1-2","work":30},"ability":{"band":"champion"}}`,
		"drill.text":     `{"drill":{` + bag + `,"text":"1-kros","work":30}}`,
		"extra":          `{"drill":{` + bag + `,"text":"1-2","work":30},"extra":1}`,
	} {
		var refused *input.Error
		if _, err := Do(context.Background(), "grade", []byte(doc)); !errors.As(err, &refused) ||
			refused.Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// A question that nobody waits for any more ends, whatever it asks.
func TestQuestionsStop(t *testing.T) {
	gone, leave := context.WithCancel(context.Background())
	leave()
	drill := `{"rig":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"text":"duck - 2","landing":"returns","pace":"flow","work":60,"guidance":"alone"}`
	for op, doc := range map[string]string{
		"compile": `{"drill":` + drill + `}`, "grade": `{"drill":` + drill + `,"ability":{}}`,
		"judge": `{"clock":"bag","cycle":{"rig":` + bag +
			`,"rebounds":3,"launch":2.8},"strikes":[{"at":0,"window":0.06},{"at":0.5,"window":0.06}],"hits":[{"at":0.01},{"at":0.5}]}`,
	} {
		if out, err := Do(gone, op, []byte(doc)); !errors.Is(err, context.Canceled) {
			t.Errorf("%s: %s %v, want that the asker has gone", op, out, err)
		}
		if _, err := Do(context.Background(), op, []byte(doc)); err != nil {
			t.Errorf("%s: %v", op, err)
		}
	}
}
