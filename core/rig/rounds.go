package rig

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/motion"
	"melodromos/core/words"
)

// RoundFit is an estimate of a rig's least-known parameter from one round: from strikes whose force was known and the
// time the bag took to the next. A person's own lateness is in it: it takes several people to tell the two apart.
type RoundFit struct {
	Parameter string  `json:"parameter"` // field of the rig's document
	Value     float64 `json:"value"`     // in the field's unit
	Spread    float64 `json:"spread"`    // standard error
	Steps     int     `json:"steps"`     // strikes that went in
	Who       string  `json:"-"`         // struck it
}

// When rounds tell something of a bag. All assumed.
const (
	leastSteps  = 20      // strikes under which a round tells nothing of the bag
	mostSteps   = 24      // strikes of a round that are worked out, evenly picked
	fitBetween  = 1.6     // times the value as it stands, either way, between which a value is looked for
	leastAgree  = 6       // rounds that have to agree
	mostAgree   = 12      // newest rounds that are asked
	agreeBy     = 3.0     // standard errors by which they have to differ from the value as it stands
	agreeShare  = 0.012   // and by this share of it
	agreeOnSide = 5.0 / 6 // share of the rounds that have to lie on one side of it
)

// FitRound works out the value of the least-known parameter of a rig with which the bag would have taken the times it
// took, in the middle (median). The meeting gives a speed bag's strike angle. False where the steps do not tell.
func FitRound(r Rig, steps []Step, m Meeting) (RoundFit, bool) {
	if len(steps) < leastSteps {
		return RoundFit{}, false
	}
	picked := make([]Step, 0, mostSteps)
	for k := range mostSteps {
		picked = append(picked, steps[k*len(steps)/mostSteps])
	}
	f := r.LeastKnown()
	rests := func(value float64) []float64 {
		bag := f.With(value)
		var list []float64
		for _, s := range picked {
			n, met := s.Rebounds, Meeting{Rebounds: s.Rebounds, Angle: m.Angle}
			if bag.Kind() == Speed {
				n = 1
			}
			if back, err := bag.Returns(s.Launch, met, n); err == nil {
				list = append(list, s.Took-back[n-1].At)
			}
		}
		slices.Sort(list)
		return list
	}
	middle := func(value float64) float64 {
		list := rests(value)
		if len(list) < mostSteps/2 {
			return math.NaN()
		}
		return (list[(len(list)-1)/2] + list[len(list)/2]) / 2
	}
	top := f.Value * fitBetween
	if f.Most > 0 {
		top = math.Min(top, f.Most)
	}
	value, err := motion.Root(middle, f.Value/fitBetween, top, 1e-5*f.Value)
	if err != nil {
		return RoundFit{}, false
	}
	left := rests(value)
	scatter := (stat.Quantile(0.84, stat.Empirical, left, nil) - stat.Quantile(0.16, stat.Empirical, left, nil)) / 2
	step := 0.01 * value
	steep := math.Abs(middle(value-step)-middle(value)) / step
	spread := scatter * math.Sqrt(math.Pi/2/float64(len(left))) / steep
	if !(steep > 0) || math.IsNaN(spread) {
		return RoundFit{}, false
	}
	return RoundFit{Parameter: f.Field, Value: value, Spread: spread, Steps: len(steps)}, true
}

// Agreement is a value of a rig's least-known parameter on which several rounds agree, against the one that stands.
type Agreement struct {
	Parameter  string
	Was, Value float64
	Spread     float64 // standard error of Value
	Rounds     int
	People     int

	told func(value, was float64) string
}

// Agree asks the newest rounds on a rig, the newest last, whether it steadily comes back sooner or later than its
// model.
func Agree(r Rig, rounds []RoundFit) (Agreement, bool) {
	f := r.LeastKnown()
	a := Agreement{Parameter: f.Field, Was: f.Value, told: f.Told}
	rounds = slices.DeleteFunc(slices.Clone(rounds), func(x RoundFit) bool { return x.Parameter != f.Field })
	if len(rounds) > mostAgree {
		rounds = rounds[len(rounds)-mostAgree:]
	}
	if len(rounds) < leastAgree {
		return a, false
	}
	var values, weights []float64
	people := map[string]bool{}
	above := 0.0
	for _, x := range rounds {
		values, weights = append(values, x.Value), append(weights, 1/(x.Spread*x.Spread+1e-6*f.Value*f.Value))
		people[x.Who] = true
		if x.Value > f.Value {
			above++
		}
	}
	mean, sd := stat.MeanStdDev(values, nil)
	a.Value = stat.Mean(values, weights)
	a.Spread = math.Max(sd, 1e-6*math.Abs(mean)) / math.Sqrt(float64(len(values)))
	a.Rounds, a.People = len(rounds), len(people)
	side := math.Max(above, float64(len(rounds))-above) / float64(len(rounds))
	off := math.Abs(a.Value - f.Value)
	return a, off > agreeBy*a.Spread && off > agreeShare*f.Value && side >= agreeOnSide
}

// Words say what the rounds agree on: "It keeps 78 % of its speed at the board, not 80: six rounds agree."
func (a Agreement) Words() string {
	said := a.told(a.Value, a.Was)
	said += ": " + words.Number(a.Rounds) + " rounds agree"
	if a.People == 1 {
		return said + ", all by one person, whose own lateness looks the same."
	}
	return said + "."
}
