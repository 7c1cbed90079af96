package fault

import (
	"fmt"
	"math"

	"melodromos/core/drill"
	"melodromos/core/judge"
)

// Untold is something that a round cannot show, with what would show it.
type Untold struct {
	What  string `json:"what"`  // "whether you were early or late on the whole"
	Needs string `json:"needs"` // "a bag sensor"
}

// Open lists what this round's source cannot show. Nothing is said where nothing was judged.
func Open(r Case) []Untold {
	a, ok := analyse(r)
	if !ok {
		return nil
	}
	var list []Untold
	switch {
	case a.told:
	case a.By == drill.ByBag:
		list = append(list, Untold{"whether the hits were early or late overall",
			"a bag sensor that tells force: to times alone a softer hit looks the same as a late one"})
	case math.Abs(a.Offset) > Floor(Waiting, 0):
		late := map[bool]string{true: "late", false: "early"}[a.Offset > 0]
		list = append(list, Untold{
			fmt.Sprintf("whether a steady %.0f ms %s is the hand or a slow device", 1000*math.Abs(a.Offset), late),
			"the delay of this device, measured once"})
	}
	if !a.forced {
		list = append(list, Untold{
			"whether it was too hard, too close or out of reach", "a bag sensor that tells force"})
	}
	if len(r.Marks) == 0 {
		list = append(list, Untold{"what only an eye sees",
			"your marks: one press while the round runs"})
	}
	return list
}

// sureBy is the number of standard errors by which a round's share has to differ from the predicted one to mean
// anything. Assumed.
const sureBy = 2.0

// Compare says what it means that a share of the strikes met the bag where another was predicted; "" where nothing was.
// give returns the margin of error of the share (two standard errors).
func Compare(r judge.Judgement, predicted float64, found []Fault) string {
	share := r.Share()
	n := float64(len(r.Planned))
	if math.IsNaN(predicted) || math.IsNaN(share) || n < 2*fewest {
		return ""
	}
	give := sureBy * math.Sqrt(binomial(predicted, n)+predictedSpread*predictedSpread)
	if f := r.Followed; f != nil {
		give = math.Hypot(give, f.Give)
	}
	said := fmt.Sprintf("Expected %.0f %%, got %.0f %%", 100*predicted, 100*share)
	switch off := share - predicted; {
	case math.Abs(off) <= give:
		return said + ": about as expected."
	case off > 0:
		return said + ": better than expected. We’ll aim higher."
	case len(found) > 0 && !found[0].Code.BySight() && found[0].Cost > -off/2:
		return said + fmt.Sprintf(". Most of the difference is this: %s.", found[0].Name())
	case len(found) > 0:
		return said + ": worse than expected, and no single fault explains it."
	}
	return said + ". Tired? Sore? Different bag?"
}

// predictedSpread is the standard deviation of a prediction's own error, as a share of the strikes. Assumed: what the
// table of predictions shows.
const predictedSpread = 0.03
