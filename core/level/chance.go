package level

import (
	"cmp"
	"math"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// chance holds the probabilities of how one strike goes for somebody.
type chance struct {
	of        Task
	met       float64 // that it meets the bag
	counted   float64 // that it is counted clean
	spread    float64 // s, of the timing
	short     float64 // s by which the interval is shorter than these hands take
	missed    float64 // chance that it is missed outright
	forgotten float64 // share of the repetitions in which it is
}

// What a judged round adds to the errors of a person on the bag's clock, where only times come in. The force of a
// strike is tracked by the median of sixteen intervals round it, which adds π/2 over their number to the variance; a
// hit further than a window and a half from the bag is off it, and the next cannot be clean.
const (
	trackedBy = 1 + math.Pi/2/16
	offBy     = 1.5
)

// A tempo that is this share beyond what the bag has, and three standard errors of so many intervals, is none that it
// can have: then nothing counts as clean.
const beyond, together = 0.03, 48.0

// reckoner works out chances strike by strike, in their order: on an inner beat what went before counts.
type reckoner struct {
	a         trainee.Ability
	bag       rig.Rig
	kind      rig.Kind
	told      Told
	byBag     bool
	start     float64 // s, the opening bell
	cannot    bool    // these hands are slower than the bag can come back
	steady    float64 // s, of lateness that is not scored, since nothing tells it from a softer strike
	back      map[[2]float64][]answer
	chains    map[chainKey][3]link
	most      float64 // how tired somebody is at the end of the round
	places    []int   // of each move of the combination among those that are held
	span      float64
	forgets   float64 // share of the repetitions in which a move past the first two thirds of the span is forgotten
	bits      float64 // s that the choice between unforeseen cues takes
	beat      float64 // s², variance of the inner beat's error, the hand's own left out
	off       float64 // chance that the strike before was off the bag
	technique *drill.SpeedBagDrill
}

func newReckoner(p drill.Plan, t drill.Timeline, on drill.Floor, told Told, strikes []Task) *reckoner {
	r := &reckoner{a: on.Ability, bag: on.Bag, kind: on.Bag.Kind(), told: told, byBag: t.Clock == drill.ByBag,
		start: t.Start.Seconds(), back: map[[2]float64][]answer{}, chains: map[chainKey][3]link{},
		most: on.Ability.Tired((t.End - t.Start).Seconds())}
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		r.technique = &d
	case drill.CombinationDrill:
		r.hold(d)
	}
	switch {
	case r.byBag && !told.Force:
		r.steady = r.usual(strikes)
	case !r.byBag && !told.Latency:
		r.a.Bias = 0
	}
	return r
}

// usual is the lateness (s) that most strikes that go by the bag have: as far as the bag can come back so late, it
// looks like a softer strike.
func (r *reckoner) usual(strikes []Task) float64 {
	var list []Task
	for _, s := range strikes {
		if s.Chained {
			list = append(list, s)
		}
	}
	if len(list) == 0 {
		return 0
	}
	late := func(s Task) float64 { return r.a.Bias + r.short(s) }
	slices.SortFunc(list, func(a, b Task) int { return cmp.Compare(late(a), late(b)) })
	s := list[len(list)/2]
	limits, err := r.bag.Limits(rig.Meeting{Rebounds: s.Count})
	if err != nil {
		return 0
	}
	gap, _ := r.returns(s, s.Driven)
	usual := late(s)
	allowed := beyond*60/limits.Slowest + 3*r.a.Spread(s.Age)/math.Sqrt(together)
	r.cannot = gap+usual > 60/limits.Slowest+allowed
	if gap == 0 {
		return 0
	}
	return math.Max(60/limits.Fastest-gap, math.Min(60/limits.Slowest-gap, usual))
}

// hold works out what of a combination is forgotten. A repetition that is called stretches the span by half, a partly
// called one by a quarter; each judged round of the drill adds 5 %, at most as much again. All assumed.
func (r *reckoner) hold(c drill.CombinationDrill) {
	if c.Cues != nil {
		_, choices := c.Cues.Need(0)
		r.bits = trainee.PerBit * math.Log2(float64(choices))
	}
	line, err := combo.Parse(c.Text)
	if err != nil || r.a.Span <= 0 {
		return
	}
	places, _, held := combo.Fold(line.Moves(c.Stance))
	r.places = places
	stretch := map[drill.Guidance]float64{drill.Called: 1.5, drill.Partly: 1.25, drill.Fading: 1.25}[c.Guidance]
	r.span = r.a.Span * math.Max(1, stretch) * math.Min(2, 1+0.05*float64(r.told.Rounds))
	r.forgets = 1 / (1 + math.Exp(6.99-4.80*float64(held)/r.span))
}

// short (s) is the time by which an interval is shorter than these hands take.
func (r *reckoner) short(s Task) float64 {
	if s.Before == "" {
		return 0
	}
	return math.Max(0, r.a.Interval(s.Before, s.Hand)-s.ask())
}

// answer is the time (s) by which the bag comes back later than planned from a strike of another force, its window
// there as a share of the planned one, and how likely that force is.
type answer struct{ later, window, chance float64 }

// forces stand for a normal spread of the launch's logarithm: the middles of nine parts that are equally likely, scaled
// to its variance.
var forces = func() []float64 {
	const parts = 9
	list, squares := make([]float64, parts), 0.0
	for k := range list {
		list[k] = math.Sqrt2 * math.Erfinv(2*(float64(k)+0.5)/parts-1)
		squares += list[k] * list[k] / parts
	}
	for k := range list {
		list[k] /= math.Sqrt(squares)
	}
	return list
}()

// answers returns the ways in which the bag may come back from the strike before, one where the strike does not depend
// on it.
func (r *reckoner) answers(s Task) []answer {
	if !s.Chained {
		return []answer{{0, 1, 1}}
	}
	key := [2]float64{s.Driven, float64(s.Count)}
	if list, ok := r.back[key]; ok {
		return list
	}
	list := make([]answer, len(forces))
	planned, window := r.returns(s, s.Driven)
	at := func(z float64) (float64, float64) { return r.returns(s, s.Driven*math.Exp(r.a.Force*z)) }
	if r.kind != rig.Speed { // where no board is missed it goes smoothly with the force: read between three
		at = between(at, planned, window)
	}
	for i, z := range forces {
		list[i] = answer{0, 1, 1 / float64(len(forces))}
		if back, w := at(z); back > 0 && planned > 0 {
			list[i].later, list[i].window = back-planned, w/window
		}
	}
	r.back[key] = list
	return list
}

// between reads a return and its window as a parabola through those at −e, 0 and e; 0 where one of them is not.
func between(at func(float64) (float64, float64), back, window float64) func(float64) (float64, float64) {
	const e = 1.5
	soft, wide := at(-e)
	hard, narrow := at(e)
	return func(z float64) (float64, float64) {
		if soft == 0 || hard == 0 {
			return 0, 0
		}
		x := z / e
		read := func(a, b, c float64) float64 { return b + x*(c-a)/2 + x*x*(a+c-2*b)/2 }
		return read(soft, back, hard), read(wide, window, narrow)
	}
}

// slip is the chance that a move against the pass of a slip bag is in time. One that cannot be done is certain to fail.
func (r *reckoner) slip(s Task) float64 {
	if s.Window <= 0 {
		return 0
	}
	tired := r.a.Tired(s.At - r.start)
	return (1 - math.Min(1, r.a.Miss*tired)) * within(s.Window, r.a.Spread(s.Age)*tired, 0)
}

// chance returns the probability that a strike is clean.
func (r *reckoner) chance(s Task) chance {
	c := chance{of: s}
	if s.Slip {
		c.met = r.slip(s)
		c.counted, c.spread = c.met, r.a.Spread(s.Age)
		return c
	}
	tired := r.a.Tired(s.At - r.start)
	c.missed = math.Min(1, r.a.Miss*tired)
	there := 1 - c.missed
	if s.Move >= 0 && s.Move < len(r.places) && float64(r.places[s.Move]) >= 2*r.span/3 {
		c.forgotten = r.forgets
		there *= 1 - c.forgotten
	}
	c.short = r.short(s)
	mean := r.a.Bias + c.short
	c.spread = r.spread(s, tired)
	switch {
	case s.Window <= 0:
		r.off = 0
		return c // it cannot be done
	case s.Cue > 0:
		there *= 1 - r.a.Overlooks
		late := r.a.Slow + r.bits
		c.spread = (r.a.Sound + r.a.Slow + r.bits) / 4
		c.met = there * within(s.Window, c.spread, r.a.Bias+late)
		c.counted, r.off = c.met, 0
	case r.byBag && !s.Chained: // it meets a bag at rest
		c.met, c.counted, r.off = there, there, 0
	case r.byBag:
		r.chained(s, there, tired, &c)
	default:
		c.met = there * within(s.Window, c.spread, mean)
		c.counted = c.met
	}
	return c
}

// chained works out a strike that goes by the one before it. Strikes that ask the same differ by how tired somebody is
// by then, and smoothly: they are worked out at three points of the round and read between them.
func (r *reckoner) chained(s Task, there, tired float64, c *chance) {
	key := chainKey{s.Window, s.Age, s.Gap, s.Late, s.Driven, s.Count, s.Before, s.Hand, c.forgotten}
	points, ok := r.chains[key]
	if !ok {
		for k := range points {
			t := 1 + (r.most-1)*float64(k)/2
			points[k] = r.inChain(s, (1-math.Min(1, r.a.Miss*t))*(1-c.forgotten), r.a.Spread(s.Age)*t)
		}
		r.chains[key] = points
	}
	x := 0.0
	if r.most > 1 {
		x = 2 * (tired - 1) / (r.most - 1) // 0, 1 and 2 at the points
	}
	read := func(f func(link) float64) float64 {
		a, b, c := f(points[0]), f(points[1]), f(points[2])
		return a*(x-1)*(x-2)/2 - b*x*(x-2) + c*x*(x-1)/2
	}
	c.met, c.counted = there*read(func(l link) float64 { return l.met }),
		there*read(func(l link) float64 { return l.counted })*(1-r.off)
	if r.cannot {
		c.counted = 0
	}
	r.off = there * read(func(l link) float64 { return l.away })
	if r.told.Force {
		c.met = c.counted
	}
}

// chainKey is the key of a strike that depends on the one before it, for probabilities worked out before.
type chainKey struct {
	window, age, gap, late, driven float64
	count                          int
	before, hand                   drill.Hand
	forgotten                      float64
}

// link holds the probabilities that a strike which is thrown meets the bag, is counted clean, and misses the bag
// altogether.
type link struct{ met, counted, away float64 }

// inChain works out a strike that is thrown with the chance there, with a spread (s). Where only times come in, the
// scatter of the force shows as one of timing.
func (r *reckoner) inChain(s Task, there, spread float64) link {
	lack := 0.0
	if s.Before != "" {
		lack = r.a.Interval(s.Before, s.Hand) - s.ask()
	}
	var l link
	add := func(b answer, short, likely float64) {
		mean, window, shown := r.a.Bias+short-r.steady, s.Window*b.window, spread
		l.met += likely * within(window, shown, mean)
		if !r.told.Force {
			shown *= math.Sqrt(trackedBy)
			mean, window = mean+b.later, s.Window
		}
		l.counted += likely * within(window, shown, mean)
		l.away += likely * (1 - within(2*offBy*window, shown, mean))
	}
	for _, b := range r.answers(s) {
		if short := math.Max(0, lack-b.later); short > 0 { // after one that was missed hands have time
			add(b, short, b.chance*there)
			add(b, 0, b.chance*(1-there))
		} else {
			add(b, 0, b.chance)
		}
	}
	return l
}

// spread of a strike (s). On the bag's clock it comes from the freshest cue: what went before has moved the bag too. On
// the beat's it accumulates and is corrected by a share each time: e′ = (1 − α)e + clock + motor′ − motor (the linear
// phase correction of Vorberg & Schulze 2002, from memory), so that the part that is not the hand's own has the
// variance v′ = (1 − α)²v + clock² + α² motor².
func (r *reckoner) spread(s Task, tired float64) float64 {
	if r.byBag {
		return r.a.Spread(s.Age) * tired
	}
	motor := r.a.Motor * tired
	if s.Still || s.Fresh {
		r.beat = motor * motor
		return r.a.Spread(s.Age) * tired
	}
	clock, keep := r.a.Timing*s.Gap*tired, 1-trainee.Correction
	r.beat = keep*keep*r.beat + clock*clock + trainee.Correction*trainee.Correction*motor*motor
	return math.Sqrt(r.beat + motor*motor)
}

// returns gives the time (s) at which the bag is back from a launch (m/s), which a speed bag holds to those that reach
// its board, and its window (s); 0 where it does not.
func (r *reckoner) returns(s Task, launch float64) (at, window float64) {
	m, n := rig.Meeting{Rebounds: s.Count}, s.Count
	speed, ok := r.bag.(rig.SpeedBag)
	if ok {
		n = 1
		if r.technique != nil {
			m = r.technique.Meeting()
			m.Rebounds = s.Count
		}
		if r.technique != nil && r.technique.Technique == drill.DoublePunch {
			d, err := speed.DoublePunch(launch, m)
			if err != nil {
				return 0, 0
			}
			return d.Return.At, d.Return.Window
		}
	}
	if ok {
		limits, err := r.bag.Limits(m)
		if err != nil {
			return 0, 0
		}
		launch = math.Max(launch, rig.SoftestTold(limits))
	}
	list, err := r.bag.Returns(launch, m, n)
	if err != nil {
		return 0, 0
	}
	return list[len(list)-1].At, list[len(list)-1].Window
}

// answered is the share of the unforeseen cues whose answer begins in time; NaN where there are none.
func answered(p drill.Plan, a trainee.Ability) float64 {
	c, ok := p.(drill.CombinationDrill)
	if !ok || c.Cues == nil {
		return math.NaN()
	}
	need, _ := c.Cues.Need(a.Sound + a.Slow)
	reaction := need - c.Cues.Off()
	return (1 - a.Overlooks) * phi((c.Cues.LeadTime()-need)/(reaction/4))
}

// reckon gives the chances of all strikes for somebody.
func reckon(p drill.Plan, t drill.Timeline, on drill.Floor, a trainee.Ability) []chance {
	on.Ability = a
	strikes := Strikes(t, p.ReachTime(on.Bag.Kind()), SensesFor(p, a))
	r := newReckoner(p, t, on, Told{Force: true}, strikes)
	list := make([]chance, len(strikes))
	for i, s := range strikes {
		if list[i] = r.chance(s); on.Stopped() != nil {
			break
		}
	}
	return list
}
