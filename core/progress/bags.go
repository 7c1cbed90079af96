package progress

import (
	"fmt"
	"math"
	"time"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/rig"
	"melodromos/core/words"
)

// BagFit is the value of a bag's least-known measure as one round told it.
type BagFit struct {
	At    time.Time
	Value float64
	Who   string
}

// A bag tires where it comes back later by this share over the time, in at least so many rounds over so many weeks, by
// so many standard errors. All assumed.
const (
	tiresBy     = 0.02
	tiresRounds = 6
	tiresWeeks  = 1.5
	tiresFirm   = 3.0
)

// lookAt says, for each kind of bag, what to look at when it comes back later and later.
var lookAt = map[rig.Kind]string{
	rig.Speed:     "Look at the bag's air, its swivel and the board.",
	rig.DoubleEnd: "A cord is dying: look at both, end to end, and do not use it until you have.",
	rig.Reflex:    "The spring is giving: look at it and its base.",
	rig.Hanging:   "Look at the chain and its swivel: it hangs lower than it did.",
}

// Tiring says that a bag comes back later from week to week, by its rounds, the oldest first; "" where it does not, or
// where that cannot be told. The time is that of a middling strike with the measure that each round told.
func Tiring(name string, r rig.Rig, fits []BagFit) string {
	if len(fits) < tiresRounds || r.Kind() == rig.Slip {
		return ""
	}
	known := r.LeastKnown()
	var x, y []float64
	people := map[string]bool{}
	for _, f := range fits {
		a, err := known.With(f.Value).AtFist(middling, rig.Everyday(r.Kind()))
		if err != nil || !a.Feasible || a.Tempo <= 0 {
			continue
		}
		x = append(x, f.At.Sub(fits[0].At).Hours()/week.Hours())
		y = append(y, 60/a.Tempo)
		people[f.Who] = true
	}
	n := len(x)
	if n < tiresRounds || x[n-1] < tiresWeeks {
		return ""
	}
	a, b := stat.LinearRegression(x, y, nil, false)
	mean := stat.Mean(x, nil)
	rest, wide := 0.0, 0.0
	for i := range x {
		rest += (y[i] - a - b*x[i]) * (y[i] - a - b*x[i])
		wide += (x[i] - mean) * (x[i] - mean)
	}
	se := math.Sqrt(math.Max(rest/float64(n-2), 1e-9*a*a) / wide)
	grown := b * x[n-1] / a
	if b < tiresFirm*se || grown < tiresBy {
		return ""
	}
	said := fmt.Sprintf("The %s comes back later each week: %.0f ms a week (give or take %.0f), %.0f %% in all, by %s.", name,
		1000*b, math.Max(1, 2000*se), 100*grown, words.Count(n, "round"))
	if len(people) == 1 {
		said += " All by one person, whose own lateness looks the same."
	}
	return said + " " + lookAt[r.Kind()]
}

// middling (m/s) is the fist of the strike that bags are compared by. Assumed: half of what an intermediate has.
const middling = 3.5
