package standin

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Bag is the bag that a person stands before: one of its own, which answers the strikes as they really were.
type Bag struct{ table *rig.ComeBacks }

// own is the error of a simulated bag's least-known measure, as a share (standard deviation). Assumed.
const own = 0.01

// Before is the bag that somebody stands before for a plan that has been laid out on the bag's clock: the one that
// hangs there, a little off its measures, by a seed.
func Before(r rig.Rig, p drill.Plan, t drill.Timeline, seed uint64) (Bag, error) {
	t.Bag = nil
	err := drill.Hang(&t, p, drill.Floor{Bag: off(r, seed)})
	return Bag{t.Bag}, err
}

// off is a rig that is a little off its measures.
func off(r rig.Rig, seed uint64) rig.Rig {
	known := r.LeastKnown()
	value := known.Value * (1 + own*rand.New(rand.NewPCG(seed, 0x626167)).NormFloat64())
	if known.Most > 0 {
		value = math.Min(value, known.Most)
	}
	if r.Kind() == rig.Slip { // nobody strikes it: it swings as it is let go
		return r
	}
	return known.With(value)
}

// Planned is a strike that is expected.
type Planned struct {
	At     float64 `json:"at"`     // s
	Window float64 `json:"window"` // s
	Hand   string  `json:"hand"`   // lead or rear, or both
	Age    float64 `json:"age"`    // s: the cue that it is timed from comes so long before it
	Rep    int     `json:"rep"`    // repetition of a combination
	Still  bool    `json:"still"`  // on a bag at rest: the strikes of its repetition that follow go by it

	Count  int     `json:"count,omitempty"`  // rebounds from the strike before, where the bag keeps the time
	Launch float64 `json:"launch,omitempty"` // m/s at which it drives the bag off
	Share  float64 `json:"share,omitempty"`  // of the bag's own window that counts; 0 for all
	Ahead  float64 `json:"ahead,omitempty"`  // s by which it stands before the bag is back
	Settle float64 `json:"settle,omitempty"` // s since the strike before, that the bag needs to come to rest
	Fresh  bool    `json:"fresh,omitempty"`  // timed by something newer than the strike before
	Late   float64 `json:"late,omitempty"`   // s by which the moves before it do not fit
	Cue    float64 `json:"cue,omitempty"`    // s: it answers a cue of that moment
	Choice float64 `json:"choice,omitempty"` // s that the choice between cues takes
	Moves  float64 `json:"moves,omitempty"`  // to hold in mind, less what is called
	Place  int     `json:"place,omitempty"`  // of the move among them, from 0

	Defended bool `json:"defended,omitempty"` // a defence stands between it and the strike before
	Change   bool `json:"change,omitempty"`   // another hand begins its set
}

// Hit is one simulated hit.
type Hit struct {
	At     float64 // s
	Hand   string
	Launch float64 // m/s at which it drove the bag off
}

// Played is a round as it really was.
type Played struct {
	Hits []Hit
	Due  int // strikes that came due
	Met  int // of them met by the right hand while the bag was in reach

	Marks []Mark // what a coach who watches would press
}

// stage is a round while it is played.
type stage struct {
	Person
	bag    *rig.ComeBacks
	r      *rand.Rand
	start  float64
	end    float64
	wander float64 // standard normal
	out    Played

	struck float64 // s, when the bag was last struck
	launch float64 // m/s, so hard; 0 where it hangs still
	ahead  float64 // s before it came back
	let    int     // come-backs since that nobody met
	before string  // hand that struck last
	last   float64 // s, when
	y      float64 // s, of an inner beat: its error without the hand's own
	cue    float64 // s, of the last cue that was answered
	react  float64 // s, how late that was; NaN where it was overlooked
	wild   float64 // chance that the next strike fails, since the bag goes wild
	away   []float64
	waits  bool    // for the next repetition
	apart  float64 // s from strike to strike, mostly
}

// Play plays the planned strikes up to end (s). On a bag, each is met when that bag comes back from the strike before,
// at the force it really had; with none, the strikes go by the beat of the plan. The same seed gives the same round.
func (p Person) Play(strikes []Planned, bag Bag, end float64, seed uint64) Played {
	s := &stage{Person: p, bag: bag.table, r: rand.New(rand.NewPCG(seed, 0x6d656c6f)), end: end, last: math.Inf(-1)}
	if len(strikes) == 0 {
		return s.out
	}
	s.start = strikes[0].At
	s.apart = apart(strikes)
	rep, before, shift, found := -1, -1, 0.0, 0.0
	last := math.Min(end, strikes[len(strikes)-1].At)
	if even := s.size(fault.OnePace); even > 0 && s.bag == nil {
		strikes = slices.Clone(strikes)
		for i := range strikes {
			steady := s.start + (last-s.start)*float64(i)/float64(len(strikes)-1)
			strikes[i].At += math.Min(1, even) * (steady - strikes[i].At)
			strikes[i].Still = false
		}
	}
	if math.IsInf(end, 1) {
		s.end = last
	}
	for _, k := range strikes {
		if until, away := s.gone(k); away {
			s.launch, s.let, found = 0, 0, math.Max(found, until)
		}
		// it is taken up again with the beat, with the bag, or with the next repetition
		reps := strikes[len(strikes)-1].Rep > 0
		if s.away != nil && (s.bag == nil || reps) && (k.At < found || reps && k.Rep == before && s.waits) {
			before = k.Rep
			s.waits = true
			s.out.Due++
			continue
		}
		s.waits, before = false, k.Rep
		if k.Rep != rep || k.Still {
			rep, shift = k.Rep, 0
		}
		at := math.Max(k.At+shift, found)
		var more bool
		if s.bag != nil {
			more = s.follow(k, at, &found)
		} else {
			more = s.keepTime(k, at, &shift)
		}
		if !more {
			break
		}
	}
	slices.SortStableFunc(s.out.Hits, func(a, b Hit) int { return cmp.Compare(a.At, b.At) })
	return s.out
}

// Hits plays the strikes by the beat alone and gives the hits.
func (p Person) Hits(strikes []Planned, seed uint64) []Hit {
	return p.Play(strikes, Bag{}, math.Inf(1), seed).Hits
}

// tired returns the factor by which spread and misses have grown.
func (s *stage) tired(at float64) float64 { return 1 + s.Fade*math.Max(0, at-s.start)/round }

// noise is a standard normal error of which a part wanders slowly.
func (s *stage) noise() float64 {
	s.wander = 0.9*s.wander + math.Sqrt(1-0.81)*s.r.NormFloat64()
	return s.Wander*s.wander + math.Sqrt(1-s.Wander*s.Wander)*s.r.NormFloat64()
}

// follow plays a strike on the bag. It says whether the round goes on.
func (s *stage) follow(k Planned, called float64, found *float64) bool {
	loose := k.Still || k.Cue > 0 || s.launch == 0
	due, window := called, k.Window
	if loose {
		if k.Settle > 0 {
			due = math.Max(due, s.last+k.Settle+0.15) // until it is seen to hang still
		}
		if k.Cue > 0 {
			due = k.At
		}
	} else {
		place := s.bag.Place(k.Count) + s.let*s.bag.Step
		if k.Defended && place >= s.bag.Step && s.happens(fault.NoDefence) {
			place -= s.bag.Step // the move is left out
		}
		if place >= len(s.bag.Counts) { // it has swung out of reach
			s.lose(s.struck+s.bag.At(len(s.bag.Counts)-1, s.launch), found)
			return s.follow(k, math.Max(called, *found), found)
		}
		due = s.struck + s.ahead + s.bag.At(place, s.launch) - k.Ahead
		window = s.bag.Window(place, s.launch) * share(k)
	}
	if due > s.end {
		return false
	}
	s.out.Due++
	tired := s.tired(due)
	e := s.Bias + s.spread(k.Age)*tired*s.clumsy(k, due)*s.noise() + k.Late
	if k.Cue > 0 {
		e = s.Bias + s.answer(k)
	} else if !math.IsInf(s.last, -1) {
		e += s.short(s.before, k.Hand, due-k.Late-s.last)
	}
	rushed := k.Still && k.Settle > 0 && !math.IsInf(s.last, -1) && s.happens(fault.Rushing)
	switch {
	case rushed:
		due = s.last + k.Settle*(0.5+0.35*s.r.Float64())
		s.wild = rushFails
	case !loose:
		e += s.wrongly(k, s.slowest(k)/(due-s.struck)-1)
		if s.happens(fault.Outbound) {
			e = window * (0.6 + 0.4*s.r.Float64())
		}
	}
	failed := s.wild > 0 && !rushed && s.r.Float64() < s.wild ||
		s.size(fault.Fading) > 0 && s.r.Float64() < s.tires(due)
	if !rushed {
		s.wild = 0
	}
	at, struck := math.Max(0, due+e), s.throws(k, tired) && !failed
	if !struck {
		if loose && k.Cue == 0 {
			s.launch = 0 // it still hangs there
		} else if s.let++; s.r.Float64() < s.Lose {
			s.lose(due, found)
		}
		return true
	}
	hand := s.hand(k, tired)
	s.touch(at, hand, k.Hand, tired)
	if window > 0 && (math.Abs(e) <= window/2 || loose && k.Cue == 0) && hand == k.Hand {
		s.out.Met++
	}
	off := 1.0
	if !loose && math.Abs(e) > window {
		off = 0.7 + 0.3*s.r.Float64() // hardly caught
	}
	s.struck, s.ahead, s.let, s.before, s.last = at, k.Ahead, 0, k.Hand, at
	s.launch = s.bag.Held(k.Launch * off * s.force(at) * s.strength())
	if s.size(fault.Outbound) > 0 && e > window/2 {
		s.launch = s.bag.Held(1.2 * s.launch)
	}
	s.bends(at)
	s.out.Hits[len(s.out.Hits)-1].Launch = s.launch
	if k.Hand == "both" {
		s.out.Hits[len(s.out.Hits)-2].Launch = s.launch
	}
	return true
}

// slowest returns the bag's longest time (s) to a strike: after the softest that drives it.
func (s *stage) slowest(k Planned) float64 {
	return s.bag.At(s.bag.Place(k.Count), s.bag.Held(k.Launch*(1-math.Abs(s.trend())/2)))
}

// trend is the share by which the force grows over three minutes: loops grow where the pace does.
func (s *stage) trend() float64 {
	if s.Trend == 0 && s.size(fault.LoopsGrow) > 0 {
		return 0.3
	}
	return s.Trend
}

// force returns the force of a strike as a share of the plan's.
func (s *stage) force(at float64) float64 {
	return (1 + s.Harder) * (1 + s.trend()*((at-s.start)/round-0.5)) * math.Exp(s.Force*s.r.NormFloat64())
}

// lose the bag: it is caught and hung still, and begun anew. The time that takes is assumed.
func (s *stage) lose(at float64, found *float64) {
	s.launch, s.let = 0, 0
	*found = at + 1 + s.r.Float64()
}

// keepTime plays a strike by an inner beat that is corrected by a share of the last error, and takes the first strike
// of a repetition for its beginning.
func (s *stage) keepTime(k Planned, at float64, shift *float64) bool {
	if at > s.end {
		return false
	}
	s.out.Due++
	tired := s.tired(k.At)
	var e float64
	m := s.Motor * tired * s.r.NormFloat64()
	switch {
	case k.Still || k.Fresh || math.IsInf(s.last, -1) || s.Correct == 0:
		e = s.spread(k.Age) * tired * s.clumsy(k, at) * s.noise()
		s.y = -m
	default:
		s.y = (1-s.Correct)*s.y + s.Timing*(at-s.last)*tired*s.clumsy(k, at)*s.noise() - s.Correct*m
		e = s.y + m
	}
	e += s.Bias + k.Late
	if k.Cue > 0 {
		e = s.Bias + s.answer(k)
	} else if !math.IsInf(s.last, -1) {
		e += s.short(s.before, k.Hand, at-k.Late-s.last)
	}
	if k.Cue == 0 {
		e += s.wrongly(k, 0)
	}
	if k.Defended && s.happens(fault.NoDefence) {
		e -= 0.35
	}
	s.before, s.last = k.Hand, at
	failed := s.wild > 0 && s.r.Float64() < s.wild || s.size(fault.Fading) > 0 && s.r.Float64() < s.tires(at)
	s.wild = 0
	hit, struck := math.Max(0, at+e), s.throws(k, tired) && !failed
	if k.Still && struck {
		*shift = e
	}
	if !struck {
		return true
	}
	hand := s.hand(k, tired)
	s.touch(hit, hand, k.Hand, tired)
	s.bends(hit)
	if math.Abs(e) <= k.Window/2 && hand == k.Hand {
		s.out.Met++
	}
	return true
}

// answer returns the delay (s) with which a cue is answered: all strikes of one answer together. NaN where it
// is overlooked.
func (s *stage) answer(k Planned) float64 {
	if k.Cue != s.cue {
		reaction := s.Reaction + k.Choice
		s.cue, s.react = k.Cue, reaction-trainee.SoundReaction+reaction/4*s.r.NormFloat64()
		if s.r.Float64() < s.Overlooks {
			s.react = math.NaN()
		}
	}
	return s.react
}

// throws says whether a strike is thrown at all: it may be missed, forgotten, or the answer to a cue that was
// overlooked.
func (s *stage) throws(k Planned, tired float64) bool {
	missed, forgotten := s.r.Float64() < s.Miss*tired, s.r.Float64() < s.forgets(k)
	return !missed && !forgotten && !(k.Cue > 0 && math.IsNaN(s.react))
}

// forgets is the chance that a move is forgotten: past the first two thirds of the span, by how full it is.
func (s *stage) forgets(k Planned) float64 {
	if s.Span == 0 || float64(k.Place) < 2*s.Span/3 {
		return 0
	}
	return 1 / (1 + math.Exp(6.99-4.80*k.Moves/s.Span))
}

// hand that strikes: now and then the other one.
func (s *stage) hand(k Planned, tired float64) string {
	if s.r.Float64() < s.WrongHand*tired/(1-math.Min(0.9, s.Miss*tired)) && (k.Hand == "lead" || k.Hand == "rear") {
		return map[string]string{"lead": "rear", "rear": "lead"}[k.Hand]
	}
	return k.Hand
}

// touch adds the hit: two for a double punch, whose second fist meets the first rebound some hundredths of a second
// later, and now and then one more touch of the bag.
func (s *stage) touch(at float64, hand, planned string, tired float64) {
	twice := s.r.Float64() < s.Extra*tired
	switch {
	case planned == "both":
		apart := 0.055 + 0.5*s.Motor*s.r.NormFloat64()
		if s.happens(fault.HeardAsTwo) {
			apart = 0.1 + 0.06*s.r.Float64()
		}
		s.out.Hits = append(s.out.Hits, Hit{At: at, Hand: "lead"}, Hit{At: at + apart, Hand: "rear"})
	case twice:
		s.out.Hits = append(s.out.Hits, Hit{At: at + 0.09 + 0.06*s.r.Float64(), Hand: hand}, Hit{At: at, Hand: hand})
	default:
		s.out.Hits = append(s.out.Hits, Hit{At: at, Hand: hand})
	}
}

func share(k Planned) float64 {
	if k.Share == 0 {
		return 1
	}
	return k.Share
}

// apart is the median time (s) from a strike to the next.
func apart(strikes []Planned) float64 {
	gaps := []float64{0}
	for i := 1; i < len(strikes); i++ {
		gaps = append(gaps, strikes[i].At-strikes[i-1].At)
	}
	slices.Sort(gaps)
	return gaps[len(gaps)/2]
}
