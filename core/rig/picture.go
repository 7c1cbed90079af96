package rig

import (
	"math"

	"melodromos/core/motion"
)

// TracePoint is a point of the bag's motion: At seconds after the strike, Swing from −1 (nearest to the trainee) to 1
// (furthest away).
type TracePoint struct {
	At    float64 `json:"at"`
	Swing float64 `json:"swing"`
}

// Rebound is a moment at which the bag rebounds: from a board, or by turning.
type Rebound struct {
	At    float64 `json:"at"` // s after the strike
	Swing float64 `json:"swing"`
}

// Pass is a slip bag going through the line of the trainee's head.
type Pass struct {
	At     float64 `json:"at"`     // s after it was let go
	Speed  float64 `json:"speed"`  // m/s
	Opens  float64 `json:"opens"`  // s after it was let go: from here on a slip may be begun
	Window float64 `json:"window"` // s; 0 or less cannot be slipped
	Inward bool    `json:"inward"` // it comes toward the trainee
}

// Picture is one cycle of a bag's motion, to be drawn: from a strike to the return that the next one meets, or, for a
// slip bag, from letting go over its first passes.
type Picture struct {
	Trace    []TracePoint
	Through  []TracePoint // past the return, when nobody strikes; At counts from the return
	Marks    []Rebound
	Passes   []Pass  // a slip bag's; nil for the others
	Return   float64 // s
	Opens    float64 // s before the return (negative) at which the window opens
	Closes   float64 // s after the return at which it closes
	Strike   float64 // swing at which the bag is struck
	Speed    float64 // m/s as it comes back
	Mirrored bool    // the next strike meets it from the other side
	Reach    float64 // m of a swing of 1, along the way of the bag
	Contact  float64 // rad of a swing of 1, of a speed bag: where it meets its board; 0 for the others
}

const perSwing = 48 // points drawn for half a period

// picture draws the strike at launch m/s and the way back that a meeting counts.
func (o oscillator) picture(launch float64, m Meeting) (Picture, error) {
	if err := counted(m); err != nil {
		return Picture{}, err
	}
	r, err := o.back(launch, m)
	if err != nil {
		return Picture{}, err
	}
	past := r.Window / 2
	p := Picture{Return: r.At, Opens: -past, Closes: past, Speed: r.Speed}
	samples := o.swing.Sample(0, launch/o.arm, r.At+past, perSwing*(2*m.Rebounds-1))
	furthest := 0.0
	for _, s := range samples {
		furthest = math.Max(furthest, math.Abs(s.X))
	}
	err = o.swing.Follow(0, launch/o.arm, r.At, nil, func(t motion.Passage) bool {
		furthest = math.Max(furthest, math.Abs(t.X))
		p.Marks = append(p.Marks, Rebound{t.At, t.X})
		return len(p.Marks) < 2*m.Rebounds-1
	})
	if err != nil {
		return Picture{}, err
	}
	for i := range p.Marks {
		p.Marks[i].Swing /= furthest
	}
	for _, s := range samples {
		if s.At < r.At {
			p.Trace = append(p.Trace, TracePoint{s.At, s.X / furthest})
		} else {
			p.Through = append(p.Through, TracePoint{s.At - r.At, s.X / furthest})
		}
	}
	p.Trace = append(p.Trace, TracePoint{r.At, 0})
	p.Through = append([]TracePoint{{0, 0}}, p.Through...)
	p.Reach = furthest * o.arm
	return p, nil
}

// atFist finds the launch, from a hair above 0 to most (m/s), that a fist of the given speed (m/s) gives; over tells by
// how much the fist of a launch is quicker. A fist beyond either end is held to it.
func atFist(most float64, over func(launch float64) float64) float64 {
	low := 1e-3 * most
	if launch, err := motion.Root(over, low, most, 1e-6); err == nil {
		return launch
	}
	if over(low) >= 0 {
		return low
	}
	return most
}
