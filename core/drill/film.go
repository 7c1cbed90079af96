package drill

import (
	"melodromos/core/combo"
	"melodromos/core/rig"
)

// Film is the bag's motion through one repetition of a combination, to be drawn at the start of each.
type Film struct {
	Trace  []rig.TracePoint `json:"trace"` // s from the start of a repetition
	Marks  []rig.Mark       `json:"marks"` // contacts with the board, or turns
	Passes []rig.Pass       `json:"passes"`
	Length float64          `json:"length"` // s drawn
	Reach  float64          `json:"reach"`  // m of a swing of 1
	Starts []float64        `json:"starts"` // s on the timeline's clock
}

// after is how long (s) the bag is drawn once everything is home. Assumed: then it is steadied.
const after = 0.8

// atRest (m/s) is what a bag that was stopped still moves with. Assumed.
const atRest = 0.02

// film draws a repetition.
func film(c Combination, rep Repetition, on Floor, starts []float64) *Film {
	bag := on.Bag
	f := &Film{Length: rep.Length + min(after, c.Pause), Starts: starts, Marks: []rig.Mark{}, Passes: []rig.Pass{}}
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
		f.Trace, f.Reach = []rig.TracePoint{{}, {At: f.Length}}, 1
		return f
	}
	f.Trace, f.Reach = bag.Trail(blows, c.Pull, f.Length)
	if slip, ok := bag.(rig.SlipBag); ok && len(rep.Passes) > 0 {
		if passes, err := slip.Passes(c.Pull, len(rep.Passes), rig.Use{Place: on.Place}); err == nil {
			for _, p := range passes {
				if p.At <= f.Length {
					f.Passes = append(f.Passes, p)
				}
			}
		}
	}
	for _, at := range rep.Boards {
		f.Marks = append(f.Marks, rig.Mark{At: at, Swing: sign(swingAt(f.Trace, at))})
	}
	if bag.Kind() != rig.Speed {
		for i := 1; i+1 < len(f.Trace); i++ { // where it turns
			a, b, c := f.Trace[i-1].Swing, f.Trace[i].Swing, f.Trace[i+1].Swing
			if (b-a)*(c-b) < 0 && abs(b) > 0.1 && f.Trace[i].At > f.Trace[i-1].At && f.Trace[i+1].At > f.Trace[i].At {
				f.Marks = append(f.Marks, rig.Mark{At: f.Trace[i].At, Swing: b})
			}
		}
	}
	return f
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
