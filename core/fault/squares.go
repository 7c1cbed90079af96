package fault

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat"

	"melodromos/core/drill"
)

// modelSpread is the error of the model's times for a bag, as a share (standard deviation): what it makes
// of the lateness is found beside everything else, and is nobody's. Assumed, as modelError.
const modelSpread = 0.010

// fit finds by least squares what is steady in the lateness of strikes, and how much each cause makes of it, beside
// a bag whose times are a little off; nil where they cannot be told apart. The steady part comes first.
// Errors that go on from strike to strike are taken for what they are: a first-order autoregression (Cochrane & Orcutt
// 1949, with the first of each row kept after Prais & Winsten 1954). sum is what is left, in squares.
func (a *analysis) fit(at []int, causes []cause) ([]cause, float64) {
	one := make([]float64, len(a.rows))
	for i := range one {
		one[i] = 1
	}
	list := append([]cause{{x: one}}, causes...)
	columns := make([][]float64, 0, len(list)+1)
	for _, c := range list {
		columns = append(columns, c.x)
	}
	rows := len(at)
	if a.By == drill.ByBag {
		rows++
		gaps := make([]float64, len(a.rows))
		for i, w := range a.rows {
			gaps[i] = w.gap
		}
		columns = append(columns, gaps)
	}
	x, y := mat.NewDense(rows, len(columns), nil), mat.NewVecDense(rows, nil)
	late := make([]float64, len(at))
	for k, i := range at {
		late[k] = a.rows[i].held()
		own, share := a.carried(at, k)
		for j, c := range columns {
			if x.Set(k, j, own*c[i]); share > 0 {
				x.Set(k, j, own*c[i]-share*c[at[k-1]])
			}
		}
		if y.SetVec(k, own*late[k]); share > 0 {
			y.SetVec(k, own*late[k]-share*late[k-1])
		}
	}
	if a.By == drill.ByBag { // what is known of the bag counts like one more strike
		x.Set(rows-1, len(columns)-1, stat.StdDev(late, nil)/modelSpread)
	}
	var normal, inverse mat.SymDense
	normal.SymOuterK(1, x.T())
	var chol mat.Cholesky
	if !chol.Factorize(&normal) || chol.Cond() > 1e7 || chol.InverseTo(&inverse) != nil {
		return nil, math.Inf(1)
	}
	var right, coef, left mat.VecDense
	right.MulVec(x.T(), y)
	if chol.SolveVecTo(&coef, &right) != nil {
		return nil, math.Inf(1)
	}
	left.MulVec(x, &coef)
	left.SubVec(y, &left)
	sum := mat.Dot(&left, &left)
	wide := math.Sqrt(sum / math.Max(1, float64(rows-len(columns))))
	for j := range list {
		list[j].coef, list[j].se = coef.AtVec(j), wide*math.Sqrt(inverse.At(j, j))
	}
	return list, sum
}

// carried tells how much of a strike's own lateness counts, and which share of the one before it is taken off.
func (a *analysis) carried(at []int, k int) (own, share float64) {
	if k == 0 || at[k] != at[k-1]+1 {
		return math.Sqrt(1 - a.goesOn*a.goesOn), 0
	}
	return 1, a.goesOn
}

// goingOn is the share of a lateness that goes on to the next strike: the lag-1 autocorrelation about each hand's mean,
// from 0 to 0.9.
func (a *analysis) goingOn(at []int) float64 {
	sum, n := map[drill.Hand]float64{}, map[drill.Hand]float64{}
	for _, i := range at {
		sum[a.rows[i].Hand], n[a.rows[i].Hand] = sum[a.rows[i].Hand]+a.rows[i].held(), n[a.rows[i].Hand]+1
	}
	off := func(i int) float64 { return a.rows[i].held() - sum[a.rows[i].Hand]/n[a.rows[i].Hand] }
	squares, products := 0.0, 0.0
	for k, i := range at {
		squares += off(i) * off(i)
		if k > 0 && at[k-1] == i-1 {
			products += off(i) * off(i-1)
		}
	}
	if squares == 0 {
		return 0
	}
	return math.Max(0, math.Min(0.9, products/squares))
}
