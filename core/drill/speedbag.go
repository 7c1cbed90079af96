// Package drill turns a rig, a technique and a tempo into a timeline: what sounds, what is struck and what is called,
// on one clock.
package drill

import (
	"encoding/json"
	"math"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// Hand is the lead or the rear hand; which of them is left depends on the trainee's stance.
type Hand = combo.Hand

// The two hands, and both at once.
const (
	Lead = combo.Lead
	Rear = combo.Rear
	Both = combo.Both
)

// speedBagKind and combinationKind tell the documents of the two kinds of drill apart.
const speedBagKind, combinationKind = "speedBag", "combination"

// Version is written into every drill document, so that an old one can be read by a later release.
const Version = 1

// SpeedBagDrill is a technique on the speed bag, for one round. What depends on the person or the bag may be left open:
// a Tempo of 0 is that of Effort's share of somebody's greatest fist speed, as far as their hands go (For).
type SpeedBagDrill struct {
	Technique   Technique `json:"technique"`
	FirstHand   Hand      `json:"firstHand"`
	PerHand     int       `json:"perHand"` // strikes before the hands change; 0 never
	Scheme      Scheme    `json:"scheme,omitempty"`
	Rebounds    int       `json:"rebounds"`    // between strikes
	StrikeAngle float64   `json:"strikeAngle"` // degrees
	// share of the greatest fist speed; 0 is half, at which everything is learned (common practice)
	Effort  float64 `json:"effort,omitempty"`
	Tempo   float64 `json:"tempo,omitempty"` // strikes a minute; 0 is left open
	Work    float64 `json:"work"`            // s from bell to bell; 0 where strikes are counted
	Strikes int     `json:"strikes"`         // strikes to do; 0 where time is counted
	Calls   bool    `json:"calls"`           // hands are called before they change
	EarOnly bool    `json:"earOnly,omitempty"`
	Clock   Clock   `json:"clock,omitempty"` // the bag's where nothing is said
}

// Limits of a drill. A contest round is 3 min (amateur rules, from memory); blocks of 30 s are in use (common
// practice).
var (
	WorkLimits     = input.Limits{Min: 10, Max: 600, Unit: "s"}
	TempoLimits    = input.Limits{Min: 10, Max: 600, Unit: "strikes a minute"}
	MaxStrikes     = 2000
	MaxPerHand     = 50
	MaxRebounds    = 5
	defaultPerHand = 5
)

// First is the drill that a new trainee is given on a speed bag: the basic rhythm with one hand, five a side (common
// practice), for a minute, at the tempo of a fist of 2.5 m/s: half power of a first-timer's 5 m/s (assumed).
func First(bag rig.SpeedBag) (SpeedBagDrill, error) {
	d := SpeedBagDrill{
		Technique: OneHand, FirstHand: Rear, PerHand: defaultPerHand, Rebounds: 3,
		StrikeAngle: math.Round(rig.DefaultStrikeAngle * 180 / math.Pi), Work: 60, Calls: true,
	}
	a, err := bag.TempoAtFist(2.5, d.Meeting())
	if err != nil {
		return SpeedBagDrill{}, err
	}
	d.Tempo = math.Round(math.Max(a.Tempo, math.Ceil(a.Limits.Slowest)))
	return d, nil
}

// Meeting says how the next strike of this drill meets the bag.
func (d SpeedBagDrill) Meeting() rig.Meeting {
	m := rig.Meeting{Rebounds: d.Rebounds, Angle: d.StrikeAngle * math.Pi / 180, Face: rig.Front}
	if d.Technique == Linking {
		m.Face = rig.Behind
	}
	return m
}

// Read reads the document of a speed-bag drill and checks it whole. Its tempo may be left out.
func Read(o *input.Object) (SpeedBagDrill, error) {
	o.WholeOr("version", Version, Version, Version)
	o.ChoiceOr("kind", speedBagKind, speedBagKind)
	d := SpeedBagDrill{
		Technique:   Technique(o.Choice("technique", techniqueNames()...)),
		FirstHand:   Hand(o.Choice("firstHand", string(Lead), string(Rear))),
		PerHand:     o.WholeOr("perHand", 0, MaxPerHand, 0),
		Scheme:      Scheme(unlessUsual(o, "scheme", "steady", string(Falling), string(Rising))),
		Rebounds:    o.Whole("rebounds", 1, MaxRebounds),
		StrikeAngle: o.NumberOr("strikeAngle", rig.StrikeAngleLimits, 25),
		Effort:      o.NumberOr("effort", input.Limits{Max: 1}, 0),
		Tempo:       o.NumberOr("tempo", input.Limits{Max: TempoLimits.Max, Unit: TempoLimits.Unit}, 0),
		Work:        o.NumberOr("work", input.Limits{Min: 0, Max: WorkLimits.Max, Unit: "s"}, 0),
		Strikes:     o.WholeOr("strikes", 0, MaxStrikes, 0),
		Calls:       o.FlagOr("calls", true),
		EarOnly:     o.FlagOr("earOnly", false),
		Clock:       Clock(unlessUsual(o, "clock", string(ByBag), string(ByBeat))),
	}
	if err := o.Done(); err != nil {
		return SpeedBagDrill{}, err
	}
	if err := d.Check(); err != nil {
		return SpeedBagDrill{}, o.Under(err)
	}
	return d, nil
}

// Decode reads a drill document from JSON.
func Decode(doc []byte) (SpeedBagDrill, error) { return Read(input.Parse(doc)) }

// MarshalJSON writes the document that Decode reads.
func (d SpeedBagDrill) MarshalJSON() ([]byte, error) {
	type fields SpeedBagDrill
	return json.Marshal(struct {
		Version int    `json:"version"`
		Kind    string `json:"kind"`
		fields
	}{Version, speedBagKind, fields(d)})
}

// Check refuses a drill that contradicts itself, by field, whatever the bag. A count that breaks parity is refused
// here, naming the strike that cannot be met.
func (d SpeedBagDrill) Check() error {
	switch {
	case d.style().words == "":
		return input.Refuse("technique", "expected one of %s", strings.Join(techniqueNames(), ", "))
	case d.FirstHand != Lead && d.FirstHand != Rear:
		return input.Refuse("firstHand", "expected lead or rear")
	case d.PerHand < 0 || d.PerHand > MaxPerHand:
		return input.Refuse("perHand", "expected a whole number from 0 to %d, not %d", MaxPerHand, d.PerHand)
	case !d.style().sets && d.PerHand != 0 && d.Technique != DoublePunch:
		return input.Refuse("perHand", "expected 0 here: the hands change at every strike, or work together")
	case d.Technique == Trap && d.PerHand < 2:
		return input.Refuse("perHand", "expected 2 or more: the last strike of each set is the trap")
	case d.Clock != "" && d.Clock != ByBag && d.Clock != ByBeat:
		return input.Refuse("clock", "expected bag or beat")
	case d.Scheme != Steady && d.Scheme != Falling && d.Scheme != Rising:
		return input.Refuse("scheme", "expected falling, rising or none")
	case d.Scheme != Steady && (d.PerHand == 0 || !d.style().sets):
		return input.Refuse("scheme", "expected a set to begin with: strikes before the hands change")
	case d.Technique == Linking && d.PerHand%2 != 0:
		return input.Refuse("perHand", "expected an even number: linking goes out through the bag and back")
	case d.Rebounds < 1 || d.Rebounds > MaxRebounds:
		return input.Refuse("rebounds", "expected a whole number from 1 to %d, not %d", MaxRebounds, d.Rebounds)
	case d.Technique == Linking && d.Rebounds%2 != 0:
		return input.Refuse("rebounds",
			"strike 2 (%s, from behind) cannot be met: after %d rebounds the bag comes to the front; to a hand behind it the count is 2 or 4", d.hand(1), d.Rebounds)
	case d.Technique != Linking && d.Rebounds%2 == 0:
		return input.Refuse("rebounds",
			"strike 2 (%s, from the front) cannot be met: after %d rebounds the bag comes to a hand behind it; from the front the count is 1, 3 or 5", d.hand(1), d.Rebounds)
	case d.Technique == FistRoll && d.Rebounds != 1:
		return input.Refuse("rebounds", "expected 1 with a fist roll, not %d: the fists meet every rebound", d.Rebounds)
	case d.Work == 0 && d.Strikes == 0:
		return input.Refuse("work", "expected a time of %g to %g s, or a number of strikes", WorkLimits.Min,
			WorkLimits.Max)
	case d.Work != 0 && d.Strikes != 0:
		return input.Refuse("strikes", "expected either a time or a number of strikes, not both")
	case d.Strikes < 0 || d.Strikes > MaxStrikes:
		return input.Refuse("strikes", "expected a whole number from 1 to %d, not %d", MaxStrikes, d.Strikes)
	}
	if d.Work != 0 {
		if err := WorkLimits.Check("work", d.Work); err != nil {
			return err
		}
	}
	if err := rig.StrikeAngleLimits.Check("strikeAngle", d.StrikeAngle); err != nil {
		return err
	}
	if d.Effort < 0 || d.Effort > 1 {
		return input.Refuse("effort", "expected a share from 0 to 1, not %g", d.Effort)
	}
	if d.Tempo == 0 {
		return nil
	}
	if err := TempoLimits.Check("tempo", d.Tempo); err != nil {
		return err
	}
	return tooLong("strikes", "strike", d.Strikes, 60/d.Tempo, 0)
}

// hand returns the hand of the strike with this index from 0.
func (d SpeedBagDrill) hand(i int) Hand {
	if d.Technique == DoublePunch {
		return Both
	}
	if turn, _, _ := d.set(i); turn%2 == 0 {
		return d.FirstHand
	}
	return d.FirstHand.Other()
}

// first is the fist that goes first in a double punch: after so many a hand, where they are counted, the hands exchange
// places (common practice: back and forth).
func (d SpeedBagDrill) first(i int) Hand {
	if d.PerHand > 0 && i/d.PerHand%2 == 1 {
		return d.FirstHand.Other()
	}
	return d.FirstHand
}

// face returns the face that the strike with this index from 0 meets: linking goes out from the front and back from
// behind.
func (d SpeedBagDrill) face(i int) rig.Face {
	if d.Technique == Linking && i%2 == 1 {
		return rig.Behind
	}
	return rig.Front
}

// pins says whether the strike with this index from 0 is a trap: the last of each set.
func (d SpeedBagDrill) pins(i int) bool {
	_, place, size := d.set(i)
	return d.Technique == Trap && place == size-1
}

// Positions is the length of the pattern: how many strikes until it begins anew.
func (d SpeedBagDrill) Positions() int {
	switch {
	case d.Technique == DoublePunch:
		return 1
	case !d.style().sets:
		return 2
	case d.PerHand == 0 && d.Technique == Linking:
		return 2
	case d.PerHand == 0:
		return 1
	case d.Scheme != Steady:
		return d.schemed()
	}
	return 2 * d.PerHand
}

// position is the place of a strike in the pattern; where the sets grow or shrink, its place in its set.
func (d SpeedBagDrill) position(i int) int {
	if d.Scheme != Steady {
		_, place, _ := d.set(i)
		return place
	}
	return i % d.Positions()
}

// Name says in words what the drill is, for lists: "Basic rhythm, five a side".
func (d SpeedBagDrill) Name() string {
	if d.EarOnly {
		d.EarOnly = false
		return d.Name() + ", by ear"
	}
	name := words.Upper(d.style().words)
	switch {
	case d.Technique == Alternating:
		return name + ", hand after hand"
	case d.Technique == DoublePunch && d.PerHand > 0:
		return name + ", back and forth"
	case !d.style().sets:
		return name
	case d.PerHand == 0:
		return name + ", " + string(d.FirstHand) + " hand"
	}
	return name + ", " + words.Number(d.PerHand) + " a side" +
		map[Scheme]string{Falling: ", then fewer", Rising: ", then one more each time"}[d.Scheme]
}
