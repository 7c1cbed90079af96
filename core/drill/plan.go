package drill

import (
	"encoding/json"
	"fmt"
	"math"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
)

// Plan is a drill of either kind: a technique on the speed bag, or a combination on any bag.
type Plan interface {
	json.Marshaler
	// Check refuses what contradicts itself, whatever the bag.
	Check() error
	// Name says in words what it is, for lists.
	Name() string
	// Figures are the few that tell it apart at a glance.
	Figures() []Labelled
	// ReachTime is the time (s) that a strike is on its way to a bag.
	ReachTime(bag rig.Kind) float64
	// KeptBy says whose clock it goes by on a kind of bag.
	KeptBy(bag rig.Kind) Clock
	// ByEar says whether the bag is not seen.
	ByEar() bool
	// For fills in what is left open, for whoever stands before a bag.
	For(on Floor) (Plan, error)
	// Lay compiles it; what is left open is filled in as For does.
	Lay(on Floor) (Timeline, error)
}

// Floor holds what a plan is laid out for: a bag at its place, a person, and a seed for random choices.
type Floor struct {
	Bag     rig.Rig
	Place   rig.Place
	Ability trainee.Ability
	Seed    uint64
	// s from the timeline's zero to the bell, of a round that is run; a longer count-in stays
	GetReady float64

	Theirs  bool // the ability is a person's own: no harder than they strike
	NoKicks bool // this gym trains no kicks, knees and elbows
	// nobody is shown how the bag moves: the drill is only laid out to be graded, which takes half the time
	Undrawn bool

	// Stop is asked in long loops, such as a context's Err; an error ends them, and what they have come to by then is
	// not to be used. Nil never ends them.
	Stop func() error
}

// Labelled is a figure with its label.
type Labelled struct {
	Label string `json:"label"`
	Value string `json:"value"`
}

// ReadPlan reads the document of a drill of either kind. A document that is refused gives no plan.
func ReadPlan(o *input.Object) (Plan, error) {
	if o.Has("text") {
		return planOr(ReadCombination(o))
	}
	return planOr(Read(o))
}

// planOr is a plan, or nil beside an error: an empty drill in an interface would not be nil.
func planOr[P Plan](p P, err error) (Plan, error) {
	if err != nil {
		return nil, err
	}
	return p, nil
}

// ReachTime of a technique.
func (d SpeedBagDrill) ReachTime(bag rig.Kind) float64 { return trainee.StrikeMovement(bag) }

// ByEar says whether the bag is not seen.
func (d SpeedBagDrill) ByEar() bool { return d.EarOnly }

// Lay compiles a technique; the bag has to be a speed bag.
func (d SpeedBagDrill) Lay(on Floor) (Timeline, error) {
	speed, ok := on.Bag.(rig.SpeedBag)
	if !ok {
		return Timeline{}, input.Refuse("technique", "expected a speed bag: on this bag a combination is programmed")
	}
	if d.Tempo == 0 {
		var err error
		if d, err = d.solved(speed, on); err != nil {
			return Timeline{}, err
		}
	}
	if a, err := Solve(d, speed); err == nil && a.Feasible && a.FistSpeed > on.Hardest() {
		return Timeline{}, input.Refuse("tempo",
			"expected a tempo within reach: %g a minute take a fist of %s, and %s is all that this person, or this bag, gives", d.Tempo, words.Speed(a.FistSpeed).To(1),
			words.Speed(on.Hardest()).To(1))
	}
	return Compile(d, speed)
}

// Figures are the tempo, the count and the length, as they stand beside its name in a list.
func (d SpeedBagDrill) Figures() []Labelled {
	var list []Labelled
	if d.Tempo > 0 {
		list = append(list, Labelled{"a minute", fmt.Sprintf("%.0f", d.Tempo)})
	}
	list = append(list, Labelled{"rebounds", fmt.Sprint(d.Rebounds)})
	if d.Work > 0 {
		return append(list, Labelled{"round", lasting(d.Work)})
	}
	return append(list, Labelled{"strikes", fmt.Sprint(d.Strikes)})
}

// ReachTime is longer from far out and shorter from close: by the range, or else by the pace mode.
func (c CombinationDrill) ReachTime(bag rig.Kind) float64 {
	way := paces[c.Pace].way
	switch c.Range {
	case Close:
		way = closer
	case Far:
		way = farther
	}
	return trainee.StrikeMovement(bag) + way
}

// ByEar says whether the bag is not seen.
func (c CombinationDrill) ByEar() bool { return c.EarOnly }

// Lay compiles a combination.
func (c CombinationDrill) Lay(on Floor) (Timeline, error) {
	t, _, err := CompileCombination(c, on)
	return t, err
}

// Name of a combination is its line, as it is printed, and how a guard is worked.
func (c CombinationDrill) Name() string {
	text := c.Text
	if line, err := combo.Parse(c.Text); err == nil {
		text = line.String()
	}
	return text + map[Guard]string{RoundIt: ", round the guard", ThroughIt: ", through the guard",
		StopShort: ", stopped short"}[c.Guard]
}

// Figures of a combination: moves and strikes, both, and how long.
func (c CombinationDrill) Figures() []Labelled {
	line, err := combo.Parse(c.Text)
	if err != nil {
		return []Labelled{}
	}
	b := combo.Balanced(line.Moves(combo.Orthodox))
	list := []Labelled{{"moves", fmt.Sprint(b.Moves)}, {"strikes", fmt.Sprint(b.Strikes)}}
	if c.Work > 0 {
		return append(list, Labelled{"round", lasting(c.Work)})
	}
	return append(list, Labelled{"times", fmt.Sprint(c.Repetitions)})
}

func lasting(seconds float64) string {
	if seconds >= 120 && math.Mod(seconds, 60) == 0 {
		return words.Trimmed(seconds/60) + " min"
	}
	return words.Trimmed(seconds) + " s"
}

// FirstOn is the drill that a new trainee is given on a bag: the basic rhythm on a speed bag; on the others the jab
// alone, half power, to learn how it comes back (common practice), and on a slip bag a slip with a light lead hook
// after it; a bottle is only slipped.
func FirstOn(bag rig.Rig, at rig.Place) (Plan, error) {
	if speed, ok := bag.(rig.SpeedBag); ok {
		return First(speed)
	}
	return FirstLine(bag.Kind(), at), nil
}

// FirstLine is the line that a combination for a kind of bag is begun with: the jab alone, and on a speed bag a
// one-two.
func FirstLine(kind rig.Kind, at rig.Place) CombinationDrill {
	c := CombinationDrill{Text: "1", Stance: combo.Orthodox, Landing: OnReturns, Pace: Combining, Pause: 2, Work: 60,
		Guidance: Fading}
	switch {
	case kind == rig.Speed:
		c.Text = "1-2"
	case kind == rig.Slip && at.Made == rig.Bottle:
		c.Text = "slip lead - slip rear"
	case kind == rig.Slip:
		c.Text = "slip lead - 3"
	case kind == rig.Hanging:
		c.Landing = Freely
	}
	return c
}
