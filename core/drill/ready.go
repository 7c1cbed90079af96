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
	for _, list := range [][]Event{t.Events, t.Beyond} {
		for i := range list {
			e := &list[i]
			e.At += later
			if e.Until > 0 {
				e.Until += later
			}
		}
	}
	if t.Film != nil {
		starts := make([]float64, len(t.Film.Starts))
		for i, s := range t.Film.Starts {
			starts[i] = s + later.Seconds()
		}
		film := *t.Film
		film.Starts = starts
		t.Film = &film
	}
	t.Start += later
	t.End += later
	t.Events = append(t.Events, Event{At: 0, Kind: Call, Text: "get ready"})
	for n := int(math.Ceil(within)); micros(float64(n)) > counts; n-- {
		t.Events = append(t.Events, Event{At: max(0, t.Start-micros(float64(n))), Kind: Ready, N: n})
	}
	sortEvents(t.Events)
}
