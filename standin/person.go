// Package standin holds a simulated strike sensor: it hits like a person of given ability and sends its hits the way a
// real device would.
package standin

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"melodromos/core/trainee"
)

// Planned is a strike that is expected.
type Planned struct {
	At     float64 `json:"at"`     // s
	Window float64 `json:"window"` // s
	Hand   string  `json:"hand"`   // lead or rear
	Age    float64 `json:"age"`    // s: the cue that it is timed from comes so long before it
	Rep    int     `json:"rep"`    // repetition of a combination
	Still  bool    `json:"still"`  // on a bag at rest: the strikes of its repetition that follow go by it
}

// Hit is one simulated hit.
type Hit struct {
	At   float64 // s
	Hand string
}

// Person is how somebody hits.
type Person struct {
	Bias      float64 // s, late positive
	Motor     float64 // s, standard deviation of the hand
	Timing    float64 // standard deviation of the timing, as a share of the age of the cue
	Alternate float64 // s: strikes that come sooner after the other hand's are late by what is short
	SameHand  float64 // s, after the same hand's
	Miss      float64 // share of strikes that are not hit at all
	WrongHand float64 // share of hits with the other hand
	Extra     float64 // share of strikes after which the bag is touched once more
	Fade      float64 // after three minutes, spread and misses have grown by this share
	Wander    float64 // share of the spread that is a slow wandering
}

// misses of an ability are mostly strikes that are not hit at all, and some with the other hand. Assumed.
const wrongShare = 0.2

// extraShare and wanderShare are assumed: they only have to look like people.
const extraShare, wanderShare = 0.3, 0.3

// Of returns somebody of that ability.
func Of(a trainee.Ability) Person {
	return Person{
		Bias: a.Bias, Motor: a.Motor, Timing: a.Timing, Alternate: a.Alternate, SameHand: a.SameHand,
		Miss: a.Miss * (1 - wrongShare), WrongHand: a.Miss * wrongShare, Extra: a.Miss * extraShare, Fade: a.Fade, Wander: wanderShare,
	}
}

// Like returns a person as the bands go. An unknown band is taken as intermediate.
func Like(band string) Person {
	if !slices.Contains(trainee.Bands, trainee.Band(band)) {
		band = string(trainee.Intermediate)
	}
	return Of(trainee.Start(trainee.Band(band)))
}

// spread of a strike (s, standard deviation).
func (p Person) spread(s Planned) float64 { return math.Hypot(p.Motor, p.Timing*s.Age) }

// short is by how much (s) a strike comes sooner than these hands can.
func (p Person) short(before, s Planned) float64 {
	least := p.Alternate
	if before.Hand == s.Hand && s.Hand != "both" {
		least = p.SameHand
	}
	return math.Max(0, least-(s.At-before.At))
}

// round is a contest round (s), after which somebody has faded.
const round = 180

// Hits plays the planned strikes. The same seed gives the same hits. They come in the order of time.
func (p Person) Hits(strikes []Planned, seed uint64) []Hit {
	r := rand.New(rand.NewPCG(seed, 0x6d656c6f))
	var hits []Hit
	wander := 0.0         // standard normal
	shift, rep := 0.0, -1 // of a bag that was set going early or late
	for i, s := range strikes {
		tired := 1 + p.Fade*(s.At-strikes[0].At)/round
		wander = 0.9*wander + math.Sqrt(1-0.81)*r.NormFloat64()
		steady := math.Sqrt(1 - p.Wander*p.Wander)
		at := s.At + p.Bias + p.spread(s)*tired*(p.Wander*wander+steady*r.NormFloat64())
		if i > 0 {
			at += p.short(strikes[i-1], s)
		}
		if s.Rep == rep && !s.Still {
			at += shift
		}
		missed, twice, other := r.Float64() < p.Miss*tired, r.Float64() < p.Extra, r.Float64() < p.WrongHand*tired/(1-p.Miss*tired)
		if s.Still {
			if shift, rep = at-s.At, s.Rep; missed {
				shift = 0
			}
		}
		if missed {
			continue
		}
		hand := s.Hand
		if other && hand != "" && hand != "both" {
			hand = map[string]string{"lead": "rear", "rear": "lead"}[hand]
		}
		if hand == "both" { // the second fist meets the first rebound, some hundredths of a second later
			hits = append(hits, Hit{math.Max(0, at), "lead"}, Hit{math.Max(0, at) + 0.055 + 0.5*p.Motor*r.NormFloat64(), "rear"})
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
