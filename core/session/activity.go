package session

import (
	"slices"

	"melodromos/core/caution"
)

// Activity is something that is done off the bag.
type Activity string

// What is done off the bag (common practice).
const (
	Skipping   Activity = "skipping"
	Bouncing   Activity = "bouncing"
	Trunk      Activity = "trunk"
	EasyBox    Activity = "easyShadow"
	ShadowBox  Activity = "shadow"
	Gloves     Activity = "gloves"
	Planks     Activity = "planks"
	Squats     Activity = "squats"
	Crunches   Activity = "crunches"
	Footwork   Activity = "footwork"
	Stretching Activity = "stretch"
	Talk       Activity = "talk"
	Breathe    Activity = "breathe"
)

// Doing says what an activity is.
type Doing struct {
	Key    Activity `json:"key"`
	Name   string   `json:"name"`
	How    string   `json:"how"`
	Call   string   `json:"call" doc:"as it is called"`
	Effort float64  `json:"effort" doc:"share of what can be done at the most"`

	spares  []caution.Type // who leaves it out
	station bool           // somebody without a bag can do it for a whole round
}

// doings: efforts are assumed.
var doings = []Doing{
	{Skipping, "Skipping", "Rope or none; land on the balls of the feet.", "skipping", 0.5, nil, true},
	{Bouncing, "Bouncing", "Light on both feet, shoulders loose.", "bouncing", 0.3, nil, false},
	{Trunk, "Trunk turns", "From the hips, hands home.", "trunk turns", 0.3, nil, false},
	{EasyBox, "Light shadow boxing", "Half the pace, all the shape.", "shadow boxing, light", 0.35, nil, false},
	{ShadowBox, "Shadow boxing", "Throw it, move, think what comes back.", "shadow boxing", 0.5,
		[]caution.Type{caution.Shoulder}, true},
	{Gloves, "Wraps, gloves and water", "Wraps first, gloves on, a mouthful of water.", "gloves and water", 0.1, nil,
		false},
	{Planks, "Planks", "Thirty seconds down, thirty up.", "planks", 0.6,
		[]caution.Type{caution.Wrist, caution.Shoulder}, true},
	{Squats, "Squats", "Heels down, back straight, tens.", "squats", 0.6, nil, true},
	{Crunches, "Crunches", "Slow, tens, chin down.", "crunches", 0.6, nil, true},
	{Footwork, "Footwork", "In and out, side to side, never crossing.", "footwork", 0.4, nil, true},
	{Stretching, "Stretching", "Shoulders, hips and calves; slowly.", "stretching", 0.1, nil, false},
	{Talk, "Talk it over", "What held, what comes next.", "talk it over", 0.05, nil, false},
	{Breathe, "Breathe", "Walk, shake the arms out, breathe low.", "breathe", 0.1, nil, false},
}

// Values lists them.
func (Activity) Values() []Activity {
	list := make([]Activity, len(doings))
	for i, d := range doings {
		list[i] = d.Key
	}
	return list
}

// Doings lists what can be done off the bag.
func Doings() []Doing { return slices.Clone(doings) }

// Doing returns the description of an activity, the zero Doing where there is none.
func (a Activity) Doing() Doing {
	i := slices.IndexFunc(doings, func(d Doing) bool { return d.Key == a })
	if i < 0 {
		return Doing{}
	}
	return doings[i]
}

// Spares says whether somebody with these cautions leaves an activity out.
func (a Activity) Spares(list []caution.Type) bool {
	return slices.ContainsFunc(list, func(k caution.Type) bool { return slices.Contains(a.Doing().spares, k) })
}

// Stations are the activities for whoever has no bag in a round, for somebody with these cautions, in the order in
// which they follow one another: an easy one after a hard one.
func Stations(list []caution.Type) []Activity {
	var out []Activity
	for _, a := range []Activity{Skipping, Planks, ShadowBox, Squats, Footwork, Crunches} {
		if !a.Spares(list) {
			out = append(out, a)
		}
	}
	return out
}
