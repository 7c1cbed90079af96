package compose

import (
	"fmt"
	"math"
	"strconv"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

var techniqueTexts = map[drill.Technique]string{
	drill.OneHand: "One hand", drill.Alternating: "Hand after hand", drill.FistRoll: "Fist roll",
	drill.Linking:     "Linking",
	drill.DoublePunch: "Double punch", drill.Trap: "Trap",
}

// techniqueKnobs are those of a technique of the speed bag, at the tempos within reach.
func techniqueKnobs(d drill.SpeedBagDrill, bag rig.SpeedBag, within rig.Tempo) []Knob {
	double := d.Technique == drill.DoublePunch
	var k knobs
	var techniques []KnobOption
	// another one brings its own count, angle and sets along, and the nearest tempo that the bag then allows
	for _, t := range drill.Techniques() {
		if n, err := d.With(t, bag); err == nil {
			techniques = append(techniques, KnobOption{string(t), techniqueTexts[t], Patch{
				"technique": t, "rebounds": n.Rebounds, "strikeAngle": n.StrikeAngle, "perHand": n.PerHand,
				"scheme": orNone(n.Scheme, "steady"), "tempo": n.Tempo,
			}})
		}
	}
	k.choice("technique", "Technique", "Met "+d.Where()+".", string(d.Technique), techniques...)
	if !double || d.PerHand > 0 {
		label := "First hand"
		if double {
			label = "Goes first"
		}
		k.choice("firstHand", label, "", string(d.FirstHand), to("firstHand", drill.Lead, "Lead"),
			to("firstHand", drill.Rear, "Rear"))
	}
	if sets := d.Sets(); len(sets) > 0 {
		label, note := "Change hands after",
			"Five a side to begin with; fewer as skill grows, the rhythm kept through the change."
		switch d.Technique {
		case drill.DoublePunch:
			label, note = "Hands swap after", "Back and forth: the other fist goes first."
		case drill.Trap:
			note = "The last strike of each set is the trap."
		case drill.Linking:
			note = "Out through the bag and back are two."
		}
		options := numbers("perHand", sets)
		for i, n := range sets {
			if n == 0 { // and so nothing changes through the round
				options[i].Text, options[i].With["scheme"] = "Never", "steady"
			}
		}
		k.choice("perHand", label, note, strconv.Itoa(d.PerHand), options...)
		if d.PerHand > 0 && !double {
			k.scheme(d)
		}
	}
	if counts := d.Counts(); len(counts) > 1 {
		note := "Odd from the front. Three is everyday."
		switch d.Technique {
		case drill.Linking:
			note = "Even from face to face."
		case drill.DoublePunch:
			note = "Counted after the second fist."
		}
		k.choice("rebounds", "Rebounds to the next strike", note, strconv.Itoa(d.Rebounds),
			numbers("rebounds", counts)...)
	}
	k.figure("tempo", "Tempo", "", rig.AsTempo, d.Tempo, math.Max(10, math.Ceil(within.Slowest)),
		math.Min(600, math.Floor(within.Fastest)), 1, nil)
	note := "Each strike is due when the bag comes back from the one before."
	if d.Clock == drill.ByBeat {
		note = "Each strike is due at its planned moment; force makes the bag follow."
	}
	k.choice("clock", "Who sets the time", note, orNone(d.Clock, string(drill.ByBag)),
		to("clock", drill.ByBag, "The bag"), to("clock", drill.ByBeat, "The beat"))
	k.choice("earOnly", "The bag is", "", yesNo(d.EarOnly), flag("earOnly", "Seen and heard", "Heard only")...)
	if d.Work > 0 {
		k.figure("work", "Round length", "", rig.AsSeconds, d.Work, drill.WorkLimits.Min, drill.WorkLimits.Max, 5,
			nil)
	} else {
		k.figure("strikes", "Strikes", "", rig.AsCount, float64(d.Strikes), 1, 400, 1, nil)
		k[len(k)-1].Typed = float64(drill.MaxStrikes)
	}
	k.choice("ends", "Ends by", "", ends(d.Work), KnobOption{"time", "The bell", Patch{"work": newWork, "strikes": 0}},
		KnobOption{"count", "A number of strikes", Patch{"work": 0, "strikes": newStrikes}})
	return k
}

func (k *knobs) scheme(d drill.SpeedBagDrill) {
	note := ""
	switch d.Scheme {
	case drill.Falling:
		note = "Each number twice a side, then fewer, down to two."
	case drill.Rising:
		more := 1
		if d.Technique == drill.Linking {
			more = 2
		}
		note = fmt.Sprintf("%d on one side, then %d on the other: the target rises.", d.PerHand, d.PerHand+more)
	}
	k.choice("scheme", "Through the round", note, orNone(d.Scheme, "steady"), to("scheme", "steady", "The same"),
		to("scheme", drill.Falling, "Then fewer"), to("scheme", drill.Rising, "One more each time"))
}

// numbers are options that set a field to whole numbers.
func numbers(field string, list []int) []KnobOption {
	options := make([]KnobOption, len(list))
	for i, n := range list {
		text := strconv.Itoa(n)
		options[i] = KnobOption{text, text, Patch{field: n}}
	}
	return options
}
