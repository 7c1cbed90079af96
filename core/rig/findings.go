package rig

import (
	"math"

	"melodromos/core/motion"
)

// Weight says how much a finding matters.
type Weight string

// From what must be mended to what is as it should be.
const (
	Wrong Weight = "wrong"
	Mind  Weight = "mind" // it works, with this in mind
	Right Weight = "right"
)

// Values lists them.
func (Weight) Values() []Weight { return []Weight{Wrong, Mind, Right} }

// Finding is one thing that was looked at on a rig: the figure that shows it, its limit, where the limit comes from,
// and what to do. The words speak of no lengths, so that they hold in any unit.
type Finding struct {
	Code   string // for programs: tooHigh, tooSlack, overload …
	Weight Weight
	Title  string  // "Hangs too high"
	What   string  // what Figure and Limit measure
	Figure float64 // NaN where there is nothing to measure
	Limit  float64 // NaN where there is none
	Unit   string  // m, s, N, m/s, Nm, degrees, share or ""
	Source string  // of the limit
	Remedy string  // what to do; "" where it is right
	Change []Setting
}

// Sources of limits.
const (
	commonPractice = "common practice"
	assumedLimit   = "our guess; change it"
	entered        = "what you entered"
)

// hung tells whether the bag hangs at the right height for this person.
func (s SetUp) hung() []Finding {
	if s.Needs != "" {
		return nil
	}
	f := Finding{Code: "height", Weight: Right, Title: "Hangs at the right height", What: s.Point + " above the floor",
		Figure: s.Now, Unit: "m", Source: s.Standing + ": " + s.Between, Limit: s.High}
	switch {
	case s.Move > 0:
		f.Code, f.Weight, f.Title, f.Limit, f.Remedy, f.Change = "tooLow", Wrong, "Hangs too low", s.Low,
			"Hang it higher", s.Settings
	case s.Move < 0:
		f.Code, f.Weight, f.Title, f.Remedy, f.Change = "tooHigh", Wrong, "Hangs too high", "Hang it lower", s.Settings
	}
	return []Finding{f}
}

var shortOf = map[string][2]string{
	"swing":    {"The bag can meet the wall behind it", "Hang it further from that wall, or strike softer"},
	"punches":  {"No room at the side for hooks", "Straight punches only here, or move the bag"},
	"stepBack": {"No room to step back", "Move the bag or keep the space behind clear"},
	"circling": {"A wall rules out circling", "Work it from the front; program no steps round it"},
}

// clear tells whether the walls that were measured leave room.
func (s SetUp) clear() []Finding {
	var list []Finding
	measured := false
	for _, r := range s.Room {
		measured = measured || r.Have > 0
		if !r.Short() {
			continue
		}
		weight := Wrong
		if r.For == "circling" {
			weight = Mind
		}
		code := "noClearance"
		if r.For == "circling" {
			code = "noCircling"
		}
		list = append(list, Finding{code, weight, shortOf[r.For][0], "room " + r.Where + " the bag", r.Have, r.Need,
			"m",
			"the modelled swing and the reach of this body, with assumed margins", shortOf[r.For][1], nil})
	}
	if measured && len(list) == 0 {
		list = append(list, Finding{Code: "clearance", Weight: Right, Title: "Room enough", What: "room measured",
			Figure: math.NaN(), Limit: math.NaN(), Source: "the modelled swing and the reach of this body"})
	}
	return list
}

// carried compares the greatest load with the rated one.
func carried(loads []Load, p Place) Finding {
	most := loads[0]
	for _, l := range loads[1:] {
		if l.Peak > most.Peak {
			most = l
		}
	}
	f := Finding{Code: "load", Weight: Right, Title: "The mount carries it",
		What: "greatest load on the " + partName(most.Part), Figure: most.Peak, Limit: p.RatedLoad * motion.Gravity,
		Unit: "N", Source: entered + " as the rated load"}
	switch {
	case p.RatedLoad == 0:
		f.Code, f.Weight, f.Title, f.Limit, f.Source = "loadUnknown", Mind, "The rated load of the mount is not known",
			math.NaN(), "nobody has entered it yet"
		f.Remedy = "Read it off the weakest part, hook, shackle or swivel, and enter it"
	case f.Figure > f.Limit:
		f.Code, f.Weight, f.Title = "overload", Wrong, "The load is above what the mount is rated for"
		f.Remedy = "Nobody works on it until a qualified person re-mounts it"
	}
	return f
}

func partName(part string) string {
	switch part {
	case "upper", "lower":
		return part + " anchor"
	}
	return part
}

// anchored finds an anchor of a sort that does not hold such a bag.
func anchored(p Place, mass float64) []Finding {
	name := map[Anchorage]string{StickOn: "A stick-on hook", LightFitting: "A light fitting", OnPipe: "A pipe",
		OnDoor: "A door"}[p.Anchor]
	if name == "" {
		return nil
	}
	return []Finding{{"noAnchor", Wrong, name + " is no anchor", "weight hung on it", mass * motion.Gravity, math.NaN(),
		"N", commonPractice,
		"Have it anchored into structure by somebody qualified; nothing but a feather-light ball hangs here until then",
		nil}}
}

// capped tells whether the strike stays below what the maker allows.
func capped(u Use) []Finding {
	if u.Place.PowerCap == 0 || math.IsNaN(u.Fist) {
		return nil
	}
	f := Finding{"powerCap", Right, "Below the cap on power", "fist speed", u.Fist, u.Place.PowerCap, "m/s",
		entered + " from the maker's instructions", "", nil}
	if u.Fist > u.Place.PowerCap {
		f.Code, f.Weight, f.Title, f.Remedy = "overPower", Wrong, "Harder than this bag may be struck",
			"Strike softer here; take power to the hanging bag"
	}
	return []Finding{f}
}

// flush tells how far off its line a hit that is not flush sends a ball: the smaller the ball, the more.
func flush(diameter float64) Finding {
	return Finding{"flush", Right, "Straight while it is hit flush",
		"angle off its line after a hit a third of the way from its centre to its edge",
		degrees(OffLine(diameter, diameter/6)), math.NaN(), "degrees",
		"the geometry of fist and ball, a fist of 4.5 cm radius assumed", "", nil}
}

// Findings is all that there is to say about a rig in use: its height, what its kind looks for, and the room.
func Findings(r Rig, u Use, s SetUp) []Finding {
	return append(append(s.hung(), r.Inspect(u)...), s.clear()...)
}

// Worst returns the findings that are wrong, then those to mind.
func Worst(list []Finding) (wrong, mind []Finding) {
	for _, f := range list {
		switch f.Weight {
		case Wrong:
			wrong = append(wrong, f)
		case Mind:
			mind = append(mind, f)
		}
	}
	return wrong, mind
}
