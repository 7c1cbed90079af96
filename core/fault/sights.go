package fault

import (
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// What only an eye sees. To add one, give it a code here and an entry below.
const (
	StrikingDown    Code = "strikingDown"
	PullingStraight Code = "pullingStraight"
	IdleHand        Code = "idleHand"
	FarStop         Code = "farStop"
	Telegraph       Code = "telegraph"
	ChinUp          Code = "chinUp"
	HandDropped     Code = "handDropped"
	FeetPlanted     Code = "feetPlanted"
	Between         Code = "betweenTargets"
	Grabbing        Code = "grabbing"
)

// when returns a place among the buttons where something is so, else 0.
func when(is bool, place int) int {
	if is {
		return place
	}
	return 0
}

func (l look) onSpeed() bool { return l.technique == "" && l.kind == rig.Speed }
func (l look) onOther() bool { return l.technique == "" && l.kind != rig.Speed }

// sights are the faults that only an eye sees.
var sights = []entry{
	{code: StrikingDown, name: "striking downward", button: "Downward",
		remedy: "Strike forward through the bag, the fist level.",
		likely: func(l look) int {
			return when(l.technique != "" && l.technique != drill.Linking || l.onSpeed(), 1)
		}},
	{code: PullingStraight, name: "pulling the fist straight back", button: "Straight back",
		remedy: "Bring the fist round in a circle.",
		likely: func(l look) int { return when(l.technique != "", 2) }},
	{code: IdleHand, name: "the idle hand drops", button: "Idle hand",
		remedy: "The hand that does not strike stays at the cheek.",
		likely: func(l look) int { return when(l.technique != "" || l.onSpeed(), 3) + when(l.onOther(), 1) }},
	{code: FarStop, name: "stopping at the far end of a link", button: "Far stop",
		remedy: "Out through the bag and back in one movement.",
		likely: func(l look) int { return when(l.technique == drill.Linking, 1) }},
	{code: Telegraph, name: "announcing the punch", button: "Wind-up",
		remedy: "From where the hand is, without drawing it back first.",
		likely: func(l look) int { return when(l.onOther(), 6) }},
	{code: ChinUp, name: "chin up or body squared", button: "Chin up",
		remedy: "Chin down, side on, hands home.",
		likely: func(l look) int { return when(l.onSpeed(), 4) + when(l.onOther(), 5) }},
	{code: HandDropped, name: "the hand drops before an uppercut", button: "Hand drops",
		remedy: "Bend the legs for it: the hand rises from the guard.",
		likely: func(l look) int { return when(l.uppercut && l.onSpeed(), 2) + when(l.uppercut && l.onOther(), 4) }},
	{code: FeetPlanted, name: "feet planted", button: "Feet",
		remedy: "Step with every combination.",
		likely: func(l look) int { return when(l.onOther(), 7) },
		combination: func(r lineRemedies) []RemedyDrill {
			feet := r.flowing()
			feet.Text = r.Text + " - step back"
			return []RemedyDrill{{"Step out of it each time", feet}, {"The same, in an easy flow", r.flowing()}}
		}},
	{code: Between, name: "aiming between head and body", button: "Between",
		remedy: "Head at the upper tape, body at the lower: nothing between.",
		likely: func(l look) int { return when(l.kind == rig.Hanging && l.body, 3) },
		combination: func(r lineRemedies) []RemedyDrill {
			return []RemedyDrill{{"Body, then head", r.line("1b-2")}, {"The same, in an easy flow", r.flowing()}}
		}},
	{code: Grabbing, name: "grabbing the bag", button: "Grabs",
		remedy: "Stop it with a jab in time, a long guard or a step aside.",
		likely: func(l look) int { return when(l.technique == "" && l.kind == rig.Hanging, 2) },
		combination: func(r lineRemedies) []RemedyDrill {
			stop := r.line("2 - stop 1 - 2")
			stop.Landing = drill.OnReturns
			return []RemedyDrill{{"Stop it with a jab", stop}, {"The same, in an easy flow", r.flowing()}}
		}},
}
