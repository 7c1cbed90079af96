package server

import (
	"math"
	"slices"
	"strings"
	"testing"

	"melodromos/core/bench"
	"melodromos/core/compose"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/words"
)

var (
	cord  = rig.Cord{Span: 1, Relaxed: 0.8, Stiffness: 110}
	kinds = map[string]rig.Rig{
		"speed":     quayBag,
		"doubleEnd": rig.DoubleEndBag{BallDiameter: 0.18, BallMass: 0.45, Upper: cord, Lower: cord, Damping: 0.04},
		"reflex": rig.ReflexBag{BallDiameter: 0.22, BallMass: 0.9, PoleLength: 1.1, PoleMass: 0.8, Spring: 50,
			Damping: 0.06},
		"slip": rig.SlipBag{AnchorHeight: 2.6, CentreHeight: 1.55, BagDiameter: 0.2, BagMass: 0.5},
		"hanging": rig.HangingBag{Shape: "cylinder", Mass: 40, Length: 1.2, Diameter: 0.35, Chain: 0.5,
			AnchorHeight: 2.7},
	}
)

// Every kind is stored, read again to the letter, asked about, copied and put away; a rig keeps its kind.
func TestEveryKindOfRig(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Hazel")
	height := 1.62
	var person Trainee
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Runa", Stance: "southpaw", Band: "beginner", AgeBand: "adult",
		Height: &height}, &person)
	place := rig.Place{RatedLoad: 60, Beyond: 2, Anchor: rig.OnFrame, BaseMass: 50, BaseWidth: 0.6}
	for kind, r := range kinds {
		var made, again Rig
		u.want(200, "POST", "/api/rigs", Rig{Name: kind, Doc: RigDoc{Rig: r}, Place: PlaceDoc{Place: place}}, &made)
		u.want(200, "GET", "/api/rigs/"+made.ID, nil, &again)
		if again.Doc.Rig != r || again.Place.RatedLoad != 60 || again.Place.Anchor != rig.OnFrame ||
			again.Sentence == "" {
			t.Errorf("%s came back as %+v", kind, again)
		}
		rebounds := 1
		if kind == "speed" {
			rebounds = 3
		}
		var a bench.Sheet
		out := u.want(200, "POST", "/api/bench", BenchQuestion{Rig: RigDoc{Rig: r}, Place: made.Place,
			Rebounds: rebounds, TraineeID: person.ID}, &a)
		if !strings.Contains(words.Joined(a.Said), "Runa") || len(a.Tempos) != 5 ||
			len(a.Cycle.Trace) < 20 || a.Body == nil || len(a.Side.Handles) < 3 {
			t.Errorf("%s: %s", kind, out)
		}
		var card SettingCard
		u.want(200, "GET", "/api/rigs/"+made.ID+"/card/"+person.ID, nil, &card)
		if card.Hung.SetUp.Move != 0 || len(card.Set) == 0 || card.Strike == "" {
			t.Errorf("%s: a card that does not hang it right: %+v", kind, card.Hung.SetUp)
		}
		changed := made
		changed.Doc = RigDoc{Rig: kinds[map[bool]string{true: "slip", false: "speed"}[kind == "speed"]]}
		if status, _, out := u.do("PUT", "/api/rigs/"+made.ID, changed); status != 422 ||
			!strings.Contains(string(out), "body.doc.kind") {
			t.Errorf("%s became another kind: %d %s", kind, status, out)
		}
		u.want(204, "DELETE", "/api/rigs/"+made.ID, nil, nil)
		var hanging, away []Rig
		u.want(200, "GET", "/api/rigs", nil, &hanging)
		u.want(200, "GET", "/api/rigs?archived=true", nil, &away)
		if len(hanging) != 0 || !slices.ContainsFunc(away, func(r Rig) bool { return r.ID == made.ID && r.Archived }) {
			t.Errorf("%s put away: %d hang, %d do not", kind, len(hanging), len(away))
		}
		u.want(204, "POST", "/api/rigs/"+made.ID+"/restore", nil, nil)
		u.want(200, "GET", "/api/rigs", nil, &hanging)
		if len(hanging) != 1 {
			t.Errorf("%s hung again: %d hang", kind, len(hanging))
		}
		u.want(204, "DELETE", "/api/rigs/"+made.ID, nil, nil)
	}
}

// Bad measures are refused by field and nothing is stored.
func TestBadMeasures(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Ivy")
	for doc, field := range map[string]string{
		`{"kind":"speed","bagLength":0,"bagDiameter":0.15,"bagMass":0.25,"swivelDrop":0.02}`:                                                                                          "bagLength",
		`{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":-1}`:                                                                                       "bagMass",
		`{"kind":"slip","anchorHeight":1.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5}`:                                                                                      "bagDiameter",
		`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.75,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`:         "upper.relaxed",
		`{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,"upper":{"span":0.75,"relaxed":0.577,"stiffness":1000000000},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150}}`: "upper.stiffness",
		`{"kind":"reflex","ballDiameter":0.22,"ballMass":0.9,"poleLength":1.1,"poleMass":0.8,"spring":10}`:                                                                            "spring",
		`{"kind":"hanging","shape":"cylinder","mass":40,"length":1.2,"diameter":0.35,"chain":2,"anchorHeight":2.7}`:                                                                   "anchorHeight",
		`{"kind":"hanging","shape":"cylinder","mass":"NaN","length":1.2,"diameter":0.35,"chain":2}`:                                                                                   "mass",
		`{"kind":"windmill"}`: "kind",
		`{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5,"ballMass":1}`: "ballMass",
	} {
		status, _, out := u.do("POST", "/api/rigs", `{"id":"","name":"Bad","version":0,"doc":`+doc+`}`)
		if status != 422 || !strings.Contains(string(out), field) {
			t.Errorf("%s: %d %s, want a refusal of %s", doc, status, out, field)
		}
		status, _, out = u.do("POST", "/api/bench", `{"rig":`+doc+`,"rebounds":1}`)
		if status != 422 || !strings.Contains(string(out), field) {
			t.Errorf("bench %s: %d %s, want a refusal of %s", doc, status, out, field)
		}
	}
	if status, _, out := u.do("POST", "/api/rigs",
		`{"id":"","name":"Bad","version":0,"doc":{"kind":"slip","anchorHeight":2.6,"centreHeight":1.55,"bagDiameter":0.2,"bagMass":0.5},"place":{"ratedLoad":-5}}`); status != 422 || !strings.Contains(string(out), "body.place.ratedLoad") {
		t.Errorf("a negative load: %d %s", status, out)
	}
	var list []Rig
	u.want(200, "GET", "/api/rigs", nil, &list)
	if len(list) != 0 {
		t.Errorf("%d rigs were stored", len(list))
	}
}

// A calibration changes the rig and its history in one; a later change of a measure puts it out of date; undoing it
// gives the value before, and an earlier calibration holds again.
func TestCalibrations(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Juniper")
	var bag Rig
	u.want(200, "POST", "/api/rigs", Rig{Name: "Plumb", Doc: RigDoc{Rig: kinds["slip"]}}, &bag)
	at := "/api/rigs/" + bag.ID + "/calibrations"
	history := func() (list []Calibration) { u.want(200, "GET", at, nil, &list); return list }
	anchor := func(r Rig) float64 { return r.Doc.Rig.(rig.SlipBag).AnchorHeight }

	measured := bench.Measured{Method: "count", Count: 6, Seconds: 5.9}
	var fit bench.CalibrationFit
	u.want(200, "POST", "/api/calibrate", CalibrationQuestion{Rig: bag.Doc, Measured: measured}, &fit)
	if fit.Parameter != "anchorHeight" || fit.Was != 2.6 || fit.Value == 2.6 || fit.Spread == nil || !fit.Assumed ||
		len(history()) != 0 {
		t.Errorf("%+v", fit)
	}
	var first, second, third Rig
	u.want(200, "POST", at, NewCalibration{bag.Version, measured}, &first)
	if math.Abs(anchor(first)-fit.Value) > 1e-12 || first.Version != bag.Version+1 {
		t.Errorf("%+v", first)
	}
	u.want(409, "POST", at, NewCalibration{bag.Version, measured}, nil) // over an old version
	taps := []float64{0, 0.55, 1.62, 2.69, 3.77, 4.83}
	u.want(200, "POST", at, NewCalibration{first.Version, bench.Measured{Method: "taps", Strikes: [][]float64{taps}}},
		&second)
	list := history()
	if len(list) != 2 || list[0].Method != "taps" || list[0].Residual == nil || list[0].Stale || list[1].Was != 2.6 {
		t.Fatalf("%+v", list)
	}
	undo := "/api/rigs/" + bag.ID + "/undo-calibration"
	u.want(200, "POST", undo, map[string]string{"id": list[0].ID}, &third)
	if anchor(third) != anchor(first) {
		t.Errorf("undone it stands at %g, want %g", anchor(third), anchor(first))
	}
	u.want(409, "POST", undo, map[string]string{"id": list[0].ID}, nil) // undone already
	if list = history(); !list[0].Undone || list[1].Undone || list[1].Stale {
		t.Errorf("%+v", list)
	}
	heavier := third.Doc.Rig.(rig.SlipBag)
	heavier.BagMass = 0.7
	third.Doc = RigDoc{Rig: heavier}
	u.want(200, "PUT", "/api/rigs/"+bag.ID, third, &third)
	if list = history(); !list[1].Stale {
		t.Errorf("the rig was changed and its calibration still counts: %+v", list[1])
	}
	third.Name = "Plumb bob" // a name is no measure
	u.want(200, "PUT", "/api/rigs/"+bag.ID, third, &third)
	for field, m := range map[string]bench.Measured{
		"body.measured.taps": {Method: "taps"}, "body.measured.seconds": {Method: "count", Count: 6, Seconds: 0.01},
		"body.measured.count": {Method: "period", Seconds: 3},
	} {
		if status, _, out := u.do("POST", at, NewCalibration{third.Version, m}); status != 422 ||
			!strings.Contains(string(out), field) {
			t.Errorf("%+v: %d %s", m, status, out)
		}
	}
}

// A combination is saved, previewed, run and judged on every kind of bag; the run keeps the bag's motion and where its
// repetitions begin.
func TestCombinationOnEveryKind(t *testing.T) {
	s := newSite(t)
	u := s.coach(t, "Nettle")
	var person Trainee
	u.want(200, "POST", "/api/trainees", Trainee{Name: "Runa", Stance: "southpaw", Band: "intermediate",
		AgeBand: "adult"}, &person)
	for kind, r := range kinds {
		var bag Rig
		u.want(200, "POST", "/api/rigs", Rig{Name: kind, Doc: RigDoc{Rig: r}}, &bag)
		var first DrillDoc
		u.want(200, "GET", "/api/first-drill/"+bag.ID, nil, &first)
		c := drill.CombinationDrill{Text: "1-2 | slip lead - 3", Stance: "southpaw", Landing: drill.OnReturns,
			Pace: drill.Combining, Pause: 1, Work: 20, Guidance: drill.Called}
		var p compose.Answer
		out := u.want(200, "POST", "/api/compose",
			DrillQuestion{RigID: bag.ID, TraineeID: person.ID, Doc: DrillDoc{Plan: c}}, &p)
		if p.Composed == nil || len(p.Composed.Moves) != 4 || p.Composed.Moves[0].Side != "right" ||
			len(p.Composed.Film.Trace) < 10 || len(p.Composed.Events) < 4 || p.Strikes != 3*p.Composed.Times {
			t.Errorf("%s: %.300s", kind, out)
		}
		var d, again Assignment
		u.want(200, "POST", "/api/assignments", Assignment{RigID: bag.ID, TraineeID: person.ID, Doc: DrillDoc{Plan: c}},
			&d)
		u.want(200, "GET", "/api/assignments/"+d.ID, nil, &again)
		if d.Name != "1-2 | slip lead - 3" || again.Doc.Plan.(drill.CombinationDrill).Text != c.Text ||
			len(again.Figures) != 3 {
			t.Errorf("%s: %+v", kind, again)
		}
		var run Run
		u.want(200, "POST", "/api/runs", NewRun{AssignmentID: d.ID, Source: "keys"}, &run)
		u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"start", 0}, nil)
		var hits []HitIn
		for _, e := range run.Timeline.Events {
			if at := int64(e.At); e.Kind == drill.Strike {
				hits = append(hits, HitIn{Seq: len(hits), At: &at, Hand: e.Hand})
			}
		}
		u.want(200, "POST", "/api/runs/"+run.ID+"/hits", Batch{Device: "x", Hits: hits}, nil)
		u.want(200, "POST", "/api/runs/"+run.ID+"/clock", Step{"finish", int64(run.Timeline.End)}, nil)
		var v Review
		u.want(200, "GET", "/api/runs/"+run.ID+"/review", nil, &v)
		if v.Summary.Clean != len(hits) || len(hits) == 0 || len(v.Run.Cycle.Starts) != p.Composed.Times ||
			v.Inbound != nil {
			t.Errorf("%s: %d of %d clean, %d repetitions drawn", kind, v.Summary.Clean, len(hits),
				len(v.Run.Cycle.Starts))
		}
		bad := c
		bad.Text = "1-sipl"
		if status, _, out := u.do("POST", "/api/assignments",
			Assignment{RigID: bag.ID, TraineeID: person.ID, Doc: DrillDoc{Plan: bad}}); status != 422 ||
			!strings.Contains(string(out), `"column":3`) || strings.Contains(string(out), `detail":"text`) {
			t.Errorf("%s: %d %s", kind, status, out)
		}
	}
}
