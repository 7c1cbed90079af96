package drill

import "melodromos/core/rig"

// Clock says who owns the time of a drill.
type Clock string

// The bag's clock is the usual one wherever a strike follows a strike on the bag's returns: each strike is due when the
// bag comes back from the one before it, at the force that one really had. On the beat's clock each strike is due at
// its planned moment, and force is the means to make the bag follow: the school of the steady circle, goal tempos, and
// strikes that no bag times.
const (
	ByBag  Clock = "bag"
	ByBeat Clock = "beat"
)

// Values lists them; "" is none.
func (Clock) Values() []Clock { return []Clock{"", ByBag, ByBeat} }

// KeptBy says whose clock a technique goes by: the bag's, unless the beat's was chosen.
func (d SpeedBagDrill) KeptBy(rig.Kind) Clock {
	if d.Clock == ByBeat {
		return ByBeat
	}
	return ByBag
}

// KeptBy says whose clock a combination goes by: the bag's where its strikes land on the returns of a bag that is
// struck, unless the beat's was chosen.
func (c CombinationDrill) KeptBy(k rig.Kind) Clock {
	if c.Clock == ByBeat || c.Landing == Freely || k == rig.Slip {
		return ByBeat
	}
	return ByBag
}

// Hang gives a timeline on the bag's clock the table of how its bag answers strikes of any force, which a run and its
// judgement go by. On the beat's clock it leaves the timeline as it is.
func Hang(t *Timeline, p Plan, on Floor) error {
	if t.Clock != ByBag {
		return nil
	}
	m, most := rig.Meeting{Rebounds: everydayCount(on.Bag)}, everydayCount(on.Bag)
	d, technique := p.(SpeedBagDrill)
	if technique {
		m, most = d.Meeting(), d.Rebounds
	}
	for _, e := range t.Events {
		most = max(most, e.Count)
	}
	var err error
	if speed, ok := on.Bag.(rig.SpeedBag); ok && technique && d.Technique == DoublePunch {
		t.Bag, err = speed.DoubleComeBacks(m)
	} else {
		t.Bag, err = rig.NewComeBacks(on.Bag, m, most)
	}
	return err
}

// spare is the share of extra strikes that are laid out in case the bag comes back sooner than planned. Assumed; they
// go on as the pattern does.
const spare = 0.3

// beyond lays out the strikes that come after the closing bell.
func (d SpeedBagDrill) beyond(strikes int, start, cycle float64, back rig.Return, fallen float64) []Event {
	var list []Event
	for i := strikes; i < strikes+int(spare*float64(strikes))+1; i++ {
		for _, e := range d.strike(i, i+MaxPerHand, start, cycle, back, fallen) {
			if e.Kind == Strike {
				list = append(list, e)
			}
		}
	}
	return list
}
