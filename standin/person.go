// Package standin holds a simulated strike sensor: it hits like a person of given ability and sends its hits the way a
// real device would.
package standin

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// Planned is a strike that is expected.
type Planned struct {
	At     float64 `json:"at"`     // s
	Window float64 `json:"window"` // s
	Hand   string  `json:"hand"`   // lead or rear
}

// Hit is one simulated hit.
type Hit struct {
	At   float64 // s
	Hand string
}

// Person is how somebody hits.
type Person struct {
	Bias      float64 // s, late positive
	Spread    float64 // s, standard deviation
	Miss      float64 // share of strikes that are not hit at all
	Extra     float64 // share of strikes after which the bag is touched once more
	WrongHand float64 // share of hits with the other hand
	Fading    float64 // by the last strike, spread and misses have grown by this share
	Wander    float64 // s, standard deviation of a slow wandering of the bias
}

// Like returns a person as the bands go. All figures are assumed: they only have to look like people. An unknown band is
// taken as intermediate.
func Like(band string) Person {
	switch band {
	case "first-timer":
		return Person{Bias: 0.016, Spread: 0.026, Miss: 0.12, Extra: 0.04, WrongHand: 0.03, Fading: 0.5, Wander: 0.010}
	case "beginner":
		return Person{Bias: 0.009, Spread: 0.020, Miss: 0.05, Extra: 0.02, WrongHand: 0.015, Fading: 0.4, Wander: 0.006}
	case "advanced":
		return Person{Bias: 0.003, Spread: 0.0135, Miss: 0.012, Extra: 0.005, WrongHand: 0.003, Fading: 0.2, Wander: 0.003}
	case "expert":
		return Person{Bias: 0.001, Spread: 0.012, Miss: 0.005, Extra: 0.002, WrongHand: 0.001, Fading: 0.1, Wander: 0.002}
	}
	return Person{Bias: 0.005, Spread: 0.0165, Miss: 0.025, Extra: 0.01, WrongHand: 0.008, Fading: 0.3, Wander: 0.004}
}

// Hits plays the planned strikes. The same seed gives the same hits. They come in the order of time.
func (p Person) Hits(strikes []Planned, seed uint64) []Hit {
	r := rand.New(rand.NewPCG(seed, 0x6d656c6f))
	var hits []Hit
	wander := 0.0
	for i, s := range strikes {
		tired := 1.0
		if len(strikes) > 1 {
			tired += p.Fading * float64(i) / float64(len(strikes)-1)
		}
		wander = 0.9*wander + math.Sqrt(1-0.81)*p.Wander*r.NormFloat64()
		at := s.At + p.Bias + wander + p.Spread*tired*r.NormFloat64()
		missed, twice, other := r.Float64() < p.Miss*tired, r.Float64() < p.Extra, r.Float64() < p.WrongHand
		if missed {
			continue
		}
		hand := s.Hand
		if other && hand != "" && hand != "both" {
			hand = map[string]string{"lead": "rear", "rear": "lead"}[hand]
		}
		if hand == "both" { // the second fist meets the first rebound, some hundredths of a second later
			hits = append(hits, Hit{math.Max(0, at), "lead"}, Hit{math.Max(0, at) + 0.055 + 0.5*p.Spread*r.NormFloat64(), "rear"})
			continue
		}
		hits = append(hits, Hit{math.Max(0, at), hand})
		if twice {
			hits = append(hits, Hit{math.Max(0, at) + 0.09 + 0.06*r.Float64(), hand})
		}
	}
	slices.SortStableFunc(hits, func(a, b Hit) int { return cmp.Compare(a.At, b.At) })
	return hits
}
