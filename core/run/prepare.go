package run

import (
	"encoding/json"
	"fmt"
	"slices"

	"melodromos/core/answer"
	"melodromos/core/bench"
	"melodromos/core/caution"
	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/level"
	"melodromos/core/rig"
)

// Prepared is a drill that is laid out to be run, with how the bag answers its strikes.
type Prepared struct {
	Plan     drill.Plan // with force, tempo and pull
	Timeline drill.Timeline
	Plays    drill.Playing
	// share of the strikes that is to meet the bag, by the models alone; nil where nothing is predicted
	Predicted *float64
}

// Barred says that nothing is started for somebody while a caution stands.
type Barred struct{ Why string }

func (b Barred) Error() string { return "the round does not start: " + b.Why }

// Starts refuses, as Barred, a round of somebody with these cautions.
func Starts(cautions []caution.Type) error {
	if why := caution.Bars(cautions); why != "" {
		return Barred{why}
	}
	return nil
}

// For lays out a drill that was given to somebody with these cautions: it does not start where one bars everything, and
// is softer or shorter where one wants it; then as Prepare.
func For(cautions []caution.Type, given drill.Plan, on drill.Floor, by drill.Recorder,
	plays drill.Playing) (Prepared, error) {
	if err := Starts(cautions); err != nil {
		return Prepared{}, err
	}
	return Prepare(caution.Spare(cautions, given, on).Plan, on, by, plays)
}

// Prepare lays out a drill for a round. It plays the usual way where none is named; a way that there is not is refused,
// naming plays.
func Prepare(p drill.Plan, on drill.Floor, by drill.Recorder, plays drill.Playing) (Prepared, error) {
	p, err := p.For(on)
	if err != nil {
		return Prepared{}, err
	}
	t, err := p.Lay(on)
	if err != nil {
		return Prepared{}, err
	}
	t.Ready(on.GetReady)
	if err := drill.Hang(&t, p, on); err != nil {
		return Prepared{}, err
	}
	ways := t.Playings(by)
	if plays == "" {
		plays = ways[0]
	}
	if !slices.Contains(ways, plays) {
		return Prepared{}, input.Refuse("plays", "expected the beat: there is nothing to follow in this round")
	}
	// Whether a sensor tells force is seen once it does.
	told := level.Told{Force: drill.OnScreen(by, plays) || by == drill.Simulated, Latency: by == drill.Simulated}
	return Prepared{p, t, plays, answer.Known(level.For(p, t, on, told).Clean)}, nil
}

// Opened is a round as it was run: the bag, the drill and the timeline that it keeps.
type Opened struct {
	Bag      rig.Rig
	Plan     drill.Plan
	Timeline drill.Timeline
	By       drill.Recorder
	Plays    drill.Playing
	Eased    level.OneThing // what was easier than the rung has it
}

// FormFree says whether form is suspended: the drill was made easier by standing closer, softly (common practice).
func (o Opened) FormFree() bool { return o.Eased == level.Closer }

// Open reads the documents that a round keeps.
func Open(bag, plan, timeline []byte, by drill.Recorder, plays drill.Playing) (Opened, error) {
	o := Opened{By: by, Plays: plays}
	var err error
	if o.Bag, err = rig.Read(input.Parse(bag)); err != nil {
		return o, fmt.Errorf("stored rig: %w", err)
	}
	if o.Plan, err = drill.ReadPlan(input.Parse(plan)); err != nil {
		return o, fmt.Errorf("stored drill: %w", err)
	}
	if err = json.Unmarshal(timeline, &o.Timeline); err != nil {
		return o, fmt.Errorf("stored timeline: %w", err)
	}
	if err := o.Timeline.Check(); err != nil {
		return o, fmt.Errorf("stored timeline: %w", err)
	}
	if _, speed := o.Plan.(drill.SpeedBagDrill); !speed && o.Timeline.Film == nil {
		return o, fmt.Errorf("stored timeline: %w", input.Refuse("film", "missing: a combination has one"))
	}
	o.Timeline.Complete()
	if o.Timeline.Bag != nil {
		if err = o.Timeline.Bag.Ready(); err != nil {
			return o, fmt.Errorf("stored table of the bag: %w", err)
		}
	}
	return o, nil
}

// Cycle is the bag's motion as it is drawn.
func (o Opened) Cycle() (bench.Cycle, error) {
	d, ok := o.Plan.(drill.SpeedBagDrill)
	speed, is := o.Bag.(rig.SpeedBag)
	if !ok || !is {
		if o.Timeline.Film == nil {
			return bench.Cycle{}, fmt.Errorf("a combination without its film")
		}
		return bench.FilmCycle(*o.Timeline.Film, o.Bag.Kind()), nil
	}
	return bench.TechniqueCycle(d, speed, o.Timeline.Launch, 60/d.Tempo)
}

// Tempo is the one that is named with the round, in strikes a minute; of a combination that inside it; 0 where there is
// none.
func (o Opened) Tempo() float64 {
	if d, ok := o.Plan.(drill.SpeedBagDrill); ok {
		return d.Tempo
	}
	strikes := judge.Planned(o.Timeline, -1)
	if n := len(strikes); n > 1 && strikes[n-1].At > strikes[0].At {
		return 60 * float64(n-1) / (strikes[n-1].At - strikes[0].At)
	}
	return 0
}

// meeting returns how the drill meets a speed bag.
func (o Opened) meeting() rig.Meeting {
	if d, ok := o.Plan.(drill.SpeedBagDrill); ok {
		return d.Meeting()
	}
	return rig.Everyday(o.Bag.Kind())
}
