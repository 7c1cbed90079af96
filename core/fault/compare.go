package fault

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"melodromos/core/judge"
)

// wider compares how widely errors scatter: the ratio of their standard deviations less those of the others, the
// standard error of its logarithm, and whether it is beyond chance and the floor. The variance of the logarithm of a
// standard deviation is (κ − 1)/(4n), with the kurtosis κ of the errors, 3 of normal ones (textbook).
func wider(mine, others []float64) (ratio, se float64, ok bool) {
	if len(mine) < 2*fewest || len(others) < 2*fewest {
		return 1, 0, false
	}
	most := outlier * (stat.StdDev(mine, nil) + stat.StdDev(others, nil))
	if m, o := middling(mine), middling(others); m > 0 && o > 0 {
		most = outlier * math.Max(m, o)
	}
	mine, others = within(mine, most), within(others, most)
	s, t := stat.StdDev(mine, nil), stat.StdDev(others, nil)
	if s == 0 || t == 0 {
		return 1, 0, false
	}
	part := func(list []float64) float64 {
		kurtosis := math.Max(3, stat.ExKurtosis(list, nil)+3)
		return (kurtosis - 1) / (4 * float64(len(list)))
	}
	ratio, se = s/t, math.Sqrt(part(mine)+part(others))
	return ratio, se, ratio > 1+Floor(Fading, 0) && s-t > spreadLeast && math.Log(ratio) > firm*se
}

// spreadLeast (s) is by how much wider errors have to scatter for anybody to notice. Assumed.
const spreadLeast = 0.004

// outlier is the number of usual scatters at which errors are cut off (winsorised).
const outlier = 3.5

// middling is a scatter that single errors do not move: the median distance from the median, times 1.4826, as of normal
// ones (textbook).
func middling(list []float64) float64 {
	middle, _ := quantiles(list, 0.5, 0.5)
	off := make([]float64, len(list))
	for i, v := range list {
		off[i] = math.Abs(v - middle)
	}
	m, _ := quantiles(off, 0.5, 0.5)
	return 1.4826 * m
}

// within holds errors within so much of their median.
func within(list []float64, most float64) []float64 {
	middle, _ := quantiles(list, 0.5, 0.5)
	out := make([]float64, len(list))
	for i, v := range list {
		out[i] = middle + math.Max(-most, math.Min(most, v-middle))
	}
	return out
}

// oftener compares two shares, of n and of m cases: their difference, its standard error, and whether it is beyond
// chance and the floor.
func oftener(mine, n, others, m float64) (d, se float64, ok bool) {
	if n < 2*fewest || m < 2*fewest {
		return 0, 0, false
	}
	d, se = mine-others, math.Sqrt(binomial(mine, n)+binomial(others, m))
	return d, se, d > missFloor && d > firm*se
}

// binomial is the variance of a share of n cases, with one case added on either side, so that none is certain.
func binomial(p, n float64) float64 {
	p = (p*n + 1) / (n + 2)
	return p * (1 - p) / n
}

// missed is the share of strikes of a kind that were missed, and how many there are. More than two in a row count as
// two, since whoever was lost misses what follows as well; those that went by in a gap are left out.
func (a *analysis) missed(is func(row) bool) (share, n float64) {
	row := 0
	for _, w := range a.rows {
		missed := w.verdict == judge.Missed && math.IsNaN(w.late) && !w.off
		if row++; !missed {
			row = 0
		}
		if !w.gone && is(w) && row <= 2 {
			if n++; missed {
				share++
			}
		}
	}
	if n > 0 {
		share /= n
	}
	return share, n
}

// tightened is the share of the strikes that would be clean were the errors of some so many times narrower about their
// mean.
func (a *analysis) tightened(is func(row) bool, ratio float64) float64 {
	sum, n := 0.0, 0.0
	for _, w := range a.rows {
		if w.timed() && is(w) {
			sum, n = sum+w.held(), n+1
		}
	}
	mean := sum / math.Max(1, n)
	return a.gained(func(i int) float64 {
		if w := a.rows[i]; w.timed() && is(w) {
			return (w.late - mean) * (1 - 1/ratio)
		}
		return 0
	})
}

// quantiles of a list.
func quantiles(list []float64, low, high float64) (float64, float64) {
	list = slices.Clone(list)
	slices.Sort(list)
	return stat.Quantile(low, stat.Empirical, list, nil), stat.Quantile(high, stat.Empirical, list, nil)
}
