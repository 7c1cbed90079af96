package rig

import "math"

// Ranges of all counts from a few swings, for the bags whose returns follow one another in one.

func (b DoubleEndBag) ranges(s Striker, n int) ([]Tempo, error) { return b.swing().ranges(s, n) }

func (b ReflexBag) ranges(s Striker, n int) ([]Tempo, error) { return b.swing().ranges(s, n) }

func (b SlipBag) ranges(s Striker, n int) ([]Tempo, error) {
	far := b.Drop() * math.Sin(swingLimit)
	near := math.Min(math.Max(s.Swing, 1e-3*b.Drop()), far)
	wide, err := b.Returns(far, Meeting{}, n+1)
	if err != nil {
		return nil, err
	}
	small, err := b.Returns(near, Meeting{}, n+1)
	if err != nil {
		return nil, err
	}
	table := make([]Tempo, n)
	for i := range table {
		table[i] = Tempo{
			Rebounds: i + 1, Slowest: 60 / (wide[i+1].At - wide[0].At), SlowestLaunch: far,
			Fastest: 60 / (small[i+1].At - small[0].At), FastestLaunch: near,
		}
	}
	return table, nil
}

// ranges gives the tempos of the counts 1 to n between the softest and the hardest strike. A count that these hands
// do not reach is left empty.
func (o oscillator) ranges(s Striker, n int) ([]Tempo, error) {
	most := o.most()
	soft, err := o.struckAt(s.Softest, most, n)
	if err != nil {
		return nil, err
	}
	hard, err := o.struckAt(s.Hardest, most, n)
	if err != nil {
		return nil, err
	}
	table := make([]Tempo, n)
	for i := range table {
		t := Tempo{Rebounds: i + 1, Slowest: 60 / soft[i].at, SlowestLaunch: soft[i].launch, Fastest: 60 / hard[i].at,
			FastestLaunch: hard[i].launch}
		quickest := 60 / s.Interval
		if soft[i].fist > s.Hardest*(1+1e-3) || t.Slowest > quickest {
			continue
		}
		t.Fastest = math.Min(t.Fastest, quickest)
		table[i] = t
	}
	return table, nil
}

// blowAt is a blow of a fist and when the bag is back from it.
type blowAt struct{ launch, fist, at float64 }

// struckAt finds, for the counts 1 to n, the launch that a fist of that speed gives where it meets the bag at that
// count each time. The fist is nearly in proportion to the launch: what one swing tells of all counts is set right in
// proportion, once.
func (o oscillator) struckAt(fist, most float64, n int) ([]blowAt, error) {
	launch, _, err := o.driven(fist, most, Meeting{Rebounds: 1})
	if err != nil {
		return nil, err
	}
	first, err := o.returns(launch, n)
	if err != nil {
		return nil, err
	}
	list := make([]blowAt, n)
	for i := range list {
		given := impact(launch, first[i].Speed, o.fist, o.felt)
		to := math.Min(launch*fist/math.Max(given, 1e-9), most)
		if fist <= 0 {
			to = launch
		}
		back := first[i]
		if math.Abs(to/launch-1) > 1e-3 {
			again, err := o.returns(to, i+1)
			if err != nil {
				return nil, err
			}
			back = again[i]
		}
		list[i] = blowAt{to, impact(to, back.Speed, o.fist, o.felt), back.At}
	}
	return list, nil
}
