package drill

// Playing says what a running round plays: the beat of the plan; the bag as it answers the hits; or the plan for a
// while, and then the hits.
type Playing string

// How a round runs. Starting somebody and then following them is the everyday way to learn.
const (
	PlayBeat        Playing = "beat"
	FollowHits      Playing = "follow"
	StartThenFollow Playing = "startThenFollow"
)

// Values lists them.
func (Playing) Values() []Playing { return []Playing{PlayBeat, FollowHits, StartThenFollow} }

// Recorder says where the hits of a round come from.
type Recorder string

// The recorders: taps on the screen or the keys, a sensor on the bag, a simulated one, a table of times that is brought
// in afterwards, or nothing.
const (
	Taps      Recorder = "keys"
	Sensor    Recorder = "device"
	Simulated Recorder = "standin"
	Table     Recorder = "file"
	Nothing   Recorder = "none"
)

// Values lists them.
func (Recorder) Values() []Recorder { return []Recorder{Taps, Sensor, Simulated, Table, Nothing} }

// So many strikes, or repetitions of a combination, are played before a round follows. Assumed.
const startedStrikes, startedReps = 8, 2

// Playings are the ways in which a round can run, the usual one first: with nothing recorded, and on the beat's clock,
// there is nothing to follow. Taps are started off; a sensor is on a bag that keeps its own time.
func (t Timeline) Playings(by Recorder) []Playing {
	switch {
	case t.Clock != ByBag || by == Nothing:
		return []Playing{PlayBeat}
	case by == Taps:
		return []Playing{StartThenFollow, FollowHits, PlayBeat}
	}
	return []Playing{FollowHits, StartThenFollow, PlayBeat}
}

// OnScreen says whether the bag of a round is on the screen alone: taps that it follows strike no other.
func OnScreen(by Recorder, p Playing) bool { return by == Taps && p != PlayBeat }

// Follows is the moment from which a round follows the hits: from the first strike, once a few were played, or never
// (past its end).
func (t Timeline) Follows(p Playing) Micros {
	switch p {
	case FollowHits:
		return 0
	case StartThenFollow:
		n := 0
		for _, e := range t.Events {
			if e.Kind != Strike {
				continue
			}
			if t.Film != nil && e.Rep >= startedReps || t.Film == nil && n >= startedStrikes {
				return e.At
			}
			n++
		}
	}
	return t.End + 1
}
