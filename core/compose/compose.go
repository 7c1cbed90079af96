// Package compose answers what a coach asks while writing a drill: what it is on this bag, how hard, and how it suits
// this person.
package compose

import (
	"errors"

	"melodromos/core/answer"
	"melodromos/core/bench"
	"melodromos/core/catalogue"
	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/level"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// Question asks about a plan on a floor: on a bag at its place, for somebody.
type Question struct {
	Plan  drill.Plan
	On    drill.Floor
	Units words.Units

	Glance   bool           // level, fit and neighbours are left out: for a picture that follows every key
	Learned  level.Learned  // by how much this person's rounds on this kind of bag went otherwise than predicted
	Rounds   int            // judged rounds of this drill so far
	Cautions []caution.Type // that stand for this person
	Beside   *Other         // somebody else, to see how the fit differs; nil for nobody
}

// Other is somebody the fit is compared with.
type Other struct {
	Name    string
	Ability trainee.Ability
}

// Answer is all that the composer and the editor show of a plan. Where it cannot be run, Problem says why.
type Answer struct {
	KeptBy   drill.Clock               `json:"keptBy" doc:"which clock it goes by; empty where it cannot be run"`
	Plays    map[string][]string       `json:"plays" doc:"for each way to record hits, how a round can run, the usual one first"`
	Name     string                    `json:"name"`
	Plan     drill.Doc                 `json:"plan" doc:"the plan with force, tempo and pull, where it leaves them open"`
	Strikes  int                       `json:"strikes"`
	Seconds  float64                   `json:"seconds" doc:"from bell to bell"`
	CountIn  float64                   `json:"countIn" doc:"s"`
	Pattern  []Beat                    `json:"pattern" doc:"strikes of one pattern"`
	Knobs    []Knob                    `json:"knobs" doc:"what can be set of it here"`
	Tempos   []rig.Tempo               `json:"tempos"`
	Change   []rig.Change              `json:"change"`
	Slowest  float64                   `json:"slowest"`
	Fastest  float64                   `json:"fastest"`
	Shown    float64                   `json:"shown" doc:"tempo of the cycle that is drawn"`
	Window   *float64                  `json:"window"`
	Fist     *float64                  `json:"fist"`
	Effort   string                    `json:"effort"`
	Cycle    bench.Cycle               `json:"cycle"`
	Cards    []catalogue.TechniqueCard `json:"cards" doc:"of what it asks for"`
	Watch    []string                  `json:"watch" doc:"the three things to watch"`
	Composed *SwingLine                `json:"composed,omitempty" doc:"of a combination"`
	Problem  string                    `json:"problem,omitempty" doc:"why it cannot be run, where it cannot"`
	Field    string                    `json:"field,omitempty" doc:"the field the problem lies in"`
	Sentence string                    `json:"sentence" doc:"the same in plain words"`
	Said     []Piece                   `json:"said" doc:"the drill as a sentence whose parts can be taken hold of"`
	Before   []string                  `json:"before" doc:"cautions before a round of it"`
	Spared   []string                  `json:"spared" doc:"what is made softer or shorter of it for this person, and why"`
	Held     string                    `json:"held" doc:"why a caution holds it back from this person; empty where none does"`

	Suits *Suits `json:"suits,omitempty" doc:"how hard it is and how it suits this person; left out at a glance, and where it cannot be run"`
}

// Beat is one strike of a pattern.
type Beat struct {
	Hand combo.Hand `json:"hand"`
	Face rig.Face   `json:"face"`
	Pin  bool       `json:"pin"`
}

// Ask answers a question. Refusals name the field of the plan.
func Ask(q Question) (Answer, error) {
	kind := q.On.Bag.Kind()
	spared := caution.Spare(q.Cautions, q.Plan, q.On)
	filled, err := q.Plan.For(q.On)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{
		Plays: map[string][]string{}, Name: q.Plan.Name(), Plan: drill.Doc{Plan: filled}, Pattern: []Beat{},
		Knobs: []Knob{}, Said: []Piece{}, Tempos: []rig.Tempo{}, Change: []rig.Change{},
		Before: caution.BeforeRound(kind),
		Cards:  answer.List(catalogue.CardsFor(q.Plan)), Cycle: bench.CycleOf(rig.Picture{}, kind),
		Spared: answer.List(spared.Changes), Held: spared.Held, Watch: answer.List(catalogue.Recap(q.Plan)),
	}
	var t drill.Timeline
	switch d := filled.(type) {
	case drill.CombinationDrill:
		if d.Cues != nil {
			a.Before = append(a.Before, caution.Cues)
		}
		t, err = a.line(d, q)
	case drill.SpeedBagDrill:
		t, err = a.technique(d, q)
	}
	a.Sentence = words.Joined(a.Said)
	if err != nil || a.Problem != "" || q.Glance {
		return a, err
	}
	a.Suits, err = suits(q, t)
	return a, err
}

// technique fills in the answer for a technique.
func (a *Answer) technique(d drill.SpeedBagDrill, q Question) (drill.Timeline, error) {
	bag, ok := q.On.Bag.(rig.SpeedBag)
	if !ok {
		return drill.Timeline{}, input.Refuse("technique",
			"expected a speed bag for a technique: on this bag a combination is programmed")
	}
	ability := q.On.Ability
	reach, err := drill.Reach(d, bag, ability)
	if err != nil {
		return drill.Timeline{}, err
	}
	a.Change, a.Slowest, a.Fastest = answer.List(reach.Change), reach.Limits.Slowest, reach.Limits.Fastest
	if reach.Feasible {
		a.Window, a.Fist, a.Effort = answer.Known(reach.Window), answer.Known(reach.FistSpeed),
			ability.Effort(reach.FistSpeed)
	}
	a.Tempos = answer.List(ability.Striker(d.Hands()).Ranges(bag, d.Meeting().Angle))
	a.Knobs = techniqueKnobs(d, bag, reach.Limits)
	tempo := min(max(reach.Tempo, reach.Limits.Slowest), reach.Limits.Fastest)
	if a.Cycle, err = bench.TechniqueCycle(d, bag, reach.Nearest(), 60/tempo); err != nil {
		return drill.Timeline{}, err
	}
	a.Shown = 60 / a.Cycle.Return
	t, err := d.Lay(q.On)
	var refusal *input.Error
	if errors.As(err, &refusal) {
		a.Problem, a.Field, err = refusal.In(q.Units).Reason, refusal.Field, nil
	} else if err == nil {
		a.count(t, d.Positions())
	}
	a.Said = sayTechnique(d, a, reach)
	return t, err
}

// count fills in what a timeline comes to, and the strikes of one pattern.
func (a *Answer) count(t drill.Timeline, positions int) {
	a.Seconds, a.CountIn, a.KeptBy = (t.End - t.Start).Seconds(), t.Start.Seconds(), t.Clock
	for _, by := range []drill.Recorder{drill.Taps, drill.Sensor, drill.Simulated, drill.Nothing} {
		for _, way := range t.Playings(by) {
			a.Plays[string(by)] = append(a.Plays[string(by)], string(way))
		}
	}
	for _, e := range t.Events {
		if e.Kind == drill.Strike {
			if a.Strikes < positions {
				a.Pattern = append(a.Pattern, Beat{e.Hand, e.Face, e.Pin})
			}
			a.Strikes++
		}
	}
}
