package judge

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"
)

// Part holds the figures of one part of a long combination.
type Part struct {
	Name    string
	Planned int
	Clean   int
	Bias    float64 // s, mean error; NaN where nothing was timed
	Spread  float64 // s; NaN under two
	Launch  float64 // m/s on the mean; NaN where the force was not told
}

// part gathers the strikes of a kind; those that meet a bag at rest are timed by nobody.
func (r Judgement) part(name string, is func(Strike) bool) Part {
	p := Part{Name: name, Bias: math.NaN(), Spread: math.NaN(), Launch: math.NaN()}
	for i, s := range r.Planned {
		if is(s) && r.Strikes[i] != "" && r.Strikes[i] != Harmless {
			if p.Planned++; r.Strikes[i] == Clean {
				p.Clean++
			}
		}
	}
	var errors, launches []float64
	for _, m := range r.Matches {
		if m.Strike >= len(r.Planned) || !is(r.Planned[m.Strike]) {
			continue
		}
		if r.Planned[m.Strike].Timed() {
			errors = append(errors, m.Error)
		}
		if l := r.Hits[m.Hit].Launch; l > 0 {
			launches = append(launches, l)
		}
	}
	if len(errors) > 0 {
		p.Bias = stat.Mean(errors, nil)
	}
	if len(errors) > 1 {
		p.Spread = stat.StdDev(errors, nil)
	}
	if len(launches) > 0 {
		p.Launch = stat.Mean(launches, nil)
	}
	return p
}

// Thirds are the first, the middle and the last third of a round by its time.
func (r Judgement) Thirds() []Part {
	third := (r.To - r.From) / 3
	var list []Part
	for k, name := range []string{"first third", "middle third", "last third"} {
		from, to := r.From+float64(k)*third, r.From+float64(k+1)*third
		list = append(list, r.part(name, func(s Strike) bool {
			return s.At >= from && (s.At < to || k == 2) || k == 0 && s.At < from
		}))
	}
	return list
}

// AfterDefence are the strikes after a defence, and all others; nothing where a round has only one of the two.
func (r Judgement) AfterDefence() []Part {
	after := r.part("after a defence", func(s Strike) bool { return s.Defended })
	others := r.part("elsewhere", func(s Strike) bool { return !s.Defended })
	if after.Planned == 0 || others.Planned == 0 {
		return nil
	}
	return []Part{after, others}
}

// ByPart are the parts of a long combination, in order; nothing where it has only one.
func (r Judgement) ByPart() []Part {
	most := 0
	for _, s := range r.Planned {
		most = max(most, s.Part)
	}
	if most == 0 {
		return nil
	}
	var list []Part
	for k := range most + 1 {
		if p := r.part(fmt.Sprintf("part %d", k+1), func(s Strike) bool { return s.Part == k }); p.Planned > 0 {
			list = append(list, p)
		}
	}
	return list
}
