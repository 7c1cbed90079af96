package progress

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/rig"
	"melodromos/core/words"
)

// Trend is the change of the share of strikes that met the bag, on a bag or in a drill.
type Trend struct {
	Of     string   `json:"of" enum:"bag,drill"`
	Key    string   `json:"key"`
	Name   string   `json:"name"`
	Kind   rig.Kind `json:"kind"`
	Points []Point  `json:"points" doc:"the oldest first"`
	Line   []Point  `json:"line" doc:"fitted, from the first day to the last, with how sure it is; empty under four rounds"`
	Slope  float64  `json:"slope" doc:"of the share, a week; 0 under four rounds"`
	Spread float64  `json:"spread" doc:"standard error of that"`
	Firm   bool     `json:"firm" doc:"the change is beyond two standard errors"`
	Said   string   `json:"said"`
}

// Point is a share at a time, with what it may be off by, two standard errors either way.
type Point struct {
	At    time.Time `json:"at"`
	Share float64   `json:"share"`
	Low   float64   `json:"low"`
	High  float64   `json:"high"`
	Run   string    `json:"run,omitempty"`
}

// fewestPoints make a trend. Assumed.
const fewestPoints = 4

// shortest is the least time over which a trend is told. Assumed.
const shortest = 3 * 24 * time.Hour

const week = 7 * 24 * time.Hour

// trends are those of each bag and each drill that was judged on.
func (l Log) trends() []Trend {
	all := map[string]*Trend{}
	var order []*Trend
	add := func(of, key, name string, r LogRound) {
		t := all[of+key]
		if t == nil {
			t = &Trend{Of: of, Key: key, Name: name, Kind: r.Kind, Line: []Point{}}
			all[of+key] = t
			order = append(order, t)
		}
		t.Points = append(t.Points, pointOf(r))
	}
	for _, r := range l.Rounds {
		if !r.Judged || r.Planned == 0 {
			continue
		}
		add("bag", r.Bag, r.BagName, r)
		if r.Drill != "" {
			add("drill", r.Drill, r.DrillName, r)
		}
	}
	list := []Trend{}
	for _, t := range order {
		t.fit()
		list = append(list, *t)
	}
	slices.SortStableFunc(list, func(a, b Trend) int {
		return cmp.Or(cmp.Compare(a.Of, b.Of), cmp.Compare(len(b.Points), len(a.Points)))
	})
	return list
}

// pointOf is the share of a round with what chance, and the estimate, may have it off by.
func pointOf(r LogRound) Point {
	n := float64(r.Planned)
	p := (r.Share*n + 1) / (n + 2)
	give := math.Hypot(2*math.Sqrt(p*(1-p)/n), r.Give)
	return Point{r.At, r.Share, math.Max(0, r.Share-give), math.Min(1, r.Share+give), r.ID}
}

// fit lays a straight line through the points by weighted least squares. Its standard errors are as large as the points
// lie off it, where that is more than their own.
func (t *Trend) fit() {
	n := len(t.Points)
	if n < fewestPoints || t.Points[n-1].At.Sub(t.Points[0].At) < shortest {
		t.Said = fmt.Sprintf("%s so far: too few, or too close together, to tell a change.", words.Count(n, "round"))
		return
	}
	x, y, w := make([]float64, n), make([]float64, n), make([]float64, n)
	for i, p := range t.Points {
		x[i] = p.At.Sub(t.Points[0].At).Hours() / week.Hours()
		y[i] = p.Share
		half := math.Max(0.02, (p.High-p.Low)/4)
		w[i] = 1 / (half * half)
	}
	a, b := stat.LinearRegression(x, y, w, false)
	mean, sum, squares, rest := stat.Mean(x, w), 0.0, 0.0, 0.0
	for i := range x {
		sum += w[i]
		squares += w[i] * (x[i] - mean) * (x[i] - mean)
		rest += w[i] * (y[i] - a - b*x[i]) * (y[i] - a - b*x[i])
	}
	wide := math.Sqrt(math.Max(1, rest/float64(n-2)))
	t.Slope, t.Spread = b, wide/math.Sqrt(squares)
	for k := range 5 {
		at := x[n-1] * float64(k) / 4
		se := 2 * wide * math.Sqrt(1/sum+(at-mean)*(at-mean)/squares)
		v := a + b*at
		t.Line = append(t.Line, Point{At: t.Points[0].At.Add(time.Duration(at * float64(week))), Share: held(v),
			Low: held(v - se), High: held(v + se)})
	}
	t.Firm = math.Abs(t.Slope) > 2*t.Spread
	give := math.Max(1, 200*t.Spread)
	switch {
	case !t.Firm:
		t.Said = fmt.Sprintf("No clear trend yet (%s).", words.Count(n, "round"))
	case t.Slope > 0:
		t.Said = fmt.Sprintf("Up %.0f points a week, give or take %.0f, over %s.", 100*t.Slope, give,
			words.Count(n, "round"))
	default:
		t.Said = fmt.Sprintf("Down %.0f points a week, give or take %.0f, over %s.", -100*t.Slope, give,
			words.Count(n, "round"))
	}
}

func held(share float64) float64 { return math.Max(0, math.Min(1, share)) }
