package drill

import (
	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Film is the bag's motion from the beginning of one repetition of a combination to that of the next.
type Film struct {
	Trace  []rig.TracePoint `json:"trace"` // s from the start of a repetition
	Turn   float64          `json:"turn"`  // s until the next one begins
	Marks  []rig.Rebound    `json:"marks"` // contacts with the board, or turns
	Passes []rig.Pass       `json:"passes"`
	Length float64          `json:"length"` // s drawn where the rest is left out
	Reach  float64          `json:"reach"`  // m of a swing of 1
	Starts []float64        `json:"starts"` // s on the timeline's clock
}

// after (s) is the time for which the bag is drawn once hands and feet are home, where the pause is left out. Assumed.
const after = 0.8

// liningUp (s) is the time before a repetition at which the bag is stopped by hand, or drawn back. Assumed.
const liningUp = 0.8

// atRest (m/s) is what a bag that was stopped still moves with. Assumed.
const atRest = 0.02

// film draws a repetition.
func film(c CombinationDrill, rep Repetition, on Floor, starts []float64) *Film {
	bag := on.Bag
	turn := c.Every(rep)
	f := &Film{Turn: turn, Length: rep.Length + max(0, min(after, turn-rep.Length)), Starts: starts,
		Marks: []rig.Rebound{}, Passes: []rig.Pass{}}
	if on.Undrawn {
		return f
	}
	var blows []rig.Blow
	rests := c.Rhythm == NoReturn
	for _, m := range rep.Moves {
		stops := Stops(m.Placed.Move, bag.Kind())
		if m.Kind() == combo.Strike {
			if n := len(blows); n > 0 {
				blows[n-1].Count = m.Return
			}
			blow := rig.Blow{At: m.Back, Launch: m.Launch, Fist: m.Fist, Still: rests}
			if stops {
				blow.Fist = 0
			}
			blows, rests = append(blows, blow), c.Rhythm == NoReturn
		} else if stops {
			blows = append(blows, rig.Blow{At: m.At, Launch: atRest})
		}
		rests = rests || stops
	}
	if c.still(bag.Kind()) {
		f.Trace, f.Reach = []rig.TracePoint{{}, {At: f.Turn}}, 1
		return f
	}
	f.Trace, f.Reach = bag.Trail(blows, c.Pull, f.Turn)
	if slip, ok := bag.(rig.SlipBag); ok && len(rep.Passes) > 0 {
		if passes, err := slip.Passes(c.Pull, len(rep.Passes), rig.Use{Place: on.Place}); err == nil {
			for _, p := range passes {
				if p.At <= rep.Length {
					f.Passes = append(f.Passes, p)
				}
			}
		}
	}
	lined := min(liningUp, c.Pause)
	f.steady(lined)
	for _, at := range rep.Boards {
		f.Marks = append(f.Marks, rig.Rebound{At: at, Swing: sign(swingAt(f.Trace, at))})
	}
	if bag.Kind() != rig.Speed {
		for i := 1; i+1 < len(f.Trace) && f.Trace[i].At < f.Turn-lined; i++ { // where it turns
			a, b, c := f.Trace[i-1].Swing, f.Trace[i].Swing, f.Trace[i+1].Swing
			if (b-a)*(c-b) < 0 && abs(b) > 0.1 && f.Trace[i].At > f.Trace[i-1].At && f.Trace[i+1].At > f.Trace[i].At {
				f.Marks = append(f.Marks, rig.Rebound{At: f.Trace[i].At, Swing: b})
			}
		}
	}
	return f
}

// steady brings the bag, within so long (s), to where the next repetition finds it.
func (f *Film) steady(within float64) {
	if len(f.Trace) == 0 || within <= 0 {
		return
	}
	first := f.Trace[0].Swing
	for i := range f.Trace {
		p := &f.Trace[i]
		if k := 1 - (f.Turn-p.At)/within; k > 0 {
			k = min(1, k)
			p.Swing += (first - p.Swing) * k * k * (3 - 2*k)
		}
	}
	f.Trace = append(f.Trace, rig.TracePoint{At: f.Turn, Swing: first})
}

func swingAt(points []rig.TracePoint, at float64) float64 {
	for i := 1; i < len(points); i++ {
		if points[i].At >= at {
			a, b := points[i-1], points[i]
			if b.At == a.At {
				return b.Swing
			}
			return a.Swing + (b.Swing-a.Swing)*(at-a.At)/(b.At-a.At)
		}
	}
	return 0
}

func sign(v float64) float64 {
	if v < 0 {
		return -1
	}
	return 1
}

func abs(v float64) float64 { return max(v, -v) }
