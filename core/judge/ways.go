package judge

import "math"

// ways are the come-backs (s on the round's clock) that may follow a hit, for the strike that comes next.
type ways struct {
	key     wayKey
	due     []float64
	window  []float64
	place   int // in the table, of the one that the plan meets
	planned int // which of these it is
}

// wayKey is the key of the returns after a hit; the zero key stands for none worked out.
type wayKey struct {
	count                int
	launch, ahead, share float64
}

// waysOf gives the come-backs after a hit that met the bag, for the strike that follows; nil where that does not go by
// it.
func (f *follower) waysOf(from node) *ways {
	next := from.strike + 1
	if next >= len(f.strikes) || f.loose(next) || from.kind == off {
		return nil
	}
	w := &f.ways[from.hit]
	s, before, bag := &f.strikes[next], &f.strikes[from.strike], f.c.Bag
	key := wayKey{s.Count, before.Launch, before.Ahead - s.Ahead, s.share()}
	if w.key == key {
		return w
	}
	place := bag.Place(s.Count)
	if place < 0 {
		return nil
	}
	w.key, w.place, w.planned = key, place, place/bag.Step
	w.due, w.window = w.due[:0], w.window[:0]
	start := f.hits[from.hit].at + key.ahead
	launch, share := f.launch(from.hit), 1.0
	if launch == 0 {
		launch = before.Launch
		if !f.c.Screen {
			launch, share = f.tracked(place, before.Launch, f.ratio[from.hit])
		}
	}
	for p := place % bag.Step; p < min(len(bag.Counts), place+2*bag.Step+1); p += bag.Step {
		w.due = append(w.due, start+share*bag.At(p, launch))
		w.window = append(w.window, key.share*bag.Window(p, launch))
	}
	return w
}

// launch is the force of a hit where it is known; 0 where it is not.
func (f *follower) launch(hit int) float64 {
	if l := f.hits[hit].Launch; l > 0 {
		return f.c.Bag.Held(l)
	}
	return 0
}

// modelError is the error of a bag's model as a share of its times (standard deviation). Assumed: calibration finds it
// within 5 % of the least-known parameter, which is about half as much in the times.
const modelError = 0.03

// tracked gives the launch that a bag comes back from after so great a share of the planned time, as far as the times
// tell it, and what the table has to be multiplied by to give that time all the same.
func (f *follower) tracked(place int, planned, ratio float64) (launch, share float64) {
	bag := f.c.Bag
	soonest, latest := bag.Bounds(place)
	want := math.Min(math.Max(bag.At(place, planned)*ratio, soonest*(1-modelError)), latest*(1+modelError))
	launch = planned
	if f.trust > 0 {
		off := math.Log(bag.Launch(place, want) / planned)
		launch = bag.Held(planned * math.Exp(f.trust*math.Max(-2*usualForce, math.Min(2*usualForce, off))))
	}
	return launch, want / bag.At(place, launch)
}

func (s *chained) share() float64 {
	if s.Share == 0 {
		return 1
	}
	return s.Share
}
