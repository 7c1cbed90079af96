package drill

import (
	"math"

	"melodromos/core/input"
)

// GetReady limits how long (s) it is from the last press to the bell. Common practice: a glove has to be put on.
var GetReady = input.Limits{Min: 3, Max: 30, Unit: "s"}

// Ready gives so long (s) from the timeline's zero to the bell: all of it comes later by what the count-in leaves, and
// until then it is told by the second. A count-in that lasts longer stays as it is.
func (t *Timeline) Ready(within float64) {
	later := micros(within) - t.Start
	if later <= 0 {
		return
	}
	counts := t.Start // the count-in lasts that long
	t.move(later)
	t.Events = append(t.Events, Event{At: 0, Kind: Call, Text: "get ready"})
	for n := int(math.Ceil(within)); micros(float64(n)) > counts; n-- {
		t.Events = append(t.Events, Event{At: max(0, t.Start-micros(float64(n))), Kind: Ready, N: n})
	}
	sortEvents(t.Events)
}

// Begin puts the bell at a moment of the timeline's clock, and everything else with it; what would come before its zero
// comes at it.
func (t *Timeline) Begin(at Micros) {
	if by := at - t.Start; by != 0 {
		t.move(by)
	}
}

// move puts everything later, or sooner where by is negative.
func (t *Timeline) move(by Micros) {
	for _, list := range [][]Event{t.Events, t.Beyond} {
		for i := range list {
			e := &list[i]
			e.At = max(0, e.At+by)
			if e.Until > 0 {
				e.Until += by
			}
		}
	}
	if t.Film != nil {
		starts := make([]float64, len(t.Film.Starts))
		for i, s := range t.Film.Starts {
			starts[i] = s + by.Seconds()
		}
		film := *t.Film
		film.Starts = starts
		t.Film = &film
	}
	t.Start += by
	t.End += by
}
