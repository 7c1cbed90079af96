package judge

import "math"

// An offset of a whole strike shows as wrong hands: where so many of the pairs, and so large a share of them, come from
// the other hand, the offset is looked for one interval on either side.
const (
	manyWrong  = 6
	wrongShare = 0.5
	asGood     = 0.8 // of what the first offset saved, that the other has to save
)

// byHands is an offset that was found, or, where hands tell that it is off by a whole strike, the one that it is meant
// to be.
func (m *matcher) byHands(offset float64, strikes []Strike, hits []Hit) float64 {
	wrongs, told := m.wrongs(offset, strikes, hits)
	if wrongs < manyWrong || float64(wrongs) < wrongShare*float64(told) {
		return offset
	}
	best, saved := offset, asGood*m.saving(offset)
	for _, side := range []float64{-1, 1} {
		o := offset + side*m.medianInterval()
		o = m.suits(m.pairs(o), math.Abs(o)+m.narrowest())
		if n, _ := m.wrongs(o, strikes, hits); 2*n < wrongs && m.saving(o) >= saved {
			best, saved = o, m.saving(o)
		}
	}
	return best
}

// wrongs counts the pairs at an offset whose hands differ, and those whose hands are told.
func (m *matcher) wrongs(offset float64, strikes []Strike, hits []Hit) (wrongs, told int) {
	for _, p := range m.pairs(offset) {
		s, h := strikes[m.strikes[p[0]].index], hits[m.hits[p[1]].index]
		if s.Hand == "" || h.Hand == "" {
			continue
		}
		told++
		if wrong(s.Hand, h.Hand) {
			wrongs++
		}
	}
	return wrongs, told
}
