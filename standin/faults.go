package standin

import (
	"math"
	"slices"

	"melodromos/core/fault"
)

// Fault is a mistake that somebody makes on purpose, of a size: seconds of lateness, a share of the strikes that it
// happens at, a share by which hits scatter more widely, or how often. The names are those of the trade's table.
type Fault struct {
	Code fault.Code `json:"code"`
	Size float64    `json:"size" minimum:"0" maximum:"10"`
}

// Sized is a fault of so many times the size that is just named, on a bag whose strikes follow one another in usual
// seconds by the bag (0 by the beat). Whoever loses it does so that often.
func Sized(code fault.Code, times, usual float64) Fault {
	if code == fault.Lost {
		return Fault{code, times}
	}
	return Fault{code, times * fault.Floor(code, usual)}
}

// Mark is a mark that a coach who watches would make, and its time (s).
type Mark struct {
	At   float64
	Kind fault.Code
}

// size of a fault; 0 where they do not make it.
func (p Person) size(code fault.Code) float64 {
	for _, f := range p.Faults {
		if f.Code == code {
			return f.Size
		}
	}
	return 0
}

// happens says whether a fault that comes now and then comes now.
func (s *stage) happens(code fault.Code) bool {
	size := s.size(code)
	return size > 0 && s.r.Float64() < size
}

// What somebody does at a strike that they get wrong. All assumed: the world need not be what the judge makes of it.
const (
	spoils      = 0.7  // of the strikes after a wild or a bent one fail
	missesTired = 0.3  // of the strikes, for a scatter twice as wide
	rushFails   = 0.6  // of those after a rushed one
	softest     = 0.30 // softer at the most, out of reach or too close
	softPerLate = 10.0 // softer, as a share, for each second too early or too late
)

// wrongly returns the delay (s) of a strike that its thrower's mistakes cause; quicker is the share by which
// the bag is quicker than at the slowest.
func (s *stage) wrongly(k Planned, quicker float64) float64 {
	if len(s.Faults) == 0 {
		return 0
	}
	e := s.size(fault.Waiting) + s.size(fault.Reaching) - s.size(fault.Chasing) - s.size(fault.Crowded) +
		s.size(fault.LoopsGrow)*math.Max(0, quicker)
	if k.Hand == s.weak() {
		e += s.size(fault.WeakHand)
	}
	if k.Change {
		e += s.size(fault.ChangeGap)
	}
	if k.Defended {
		e += s.size(fault.LateAfterDefence)
	}
	return e
}

// weak is the hand that is weaker.
func (s *stage) weak() string { return "rear" }

// clumsy returns the factor by which a strike's scatter is widened.
func (s *stage) clumsy(k Planned, at float64) float64 {
	wide := 1.0
	if k.Hand == s.weak() {
		wide += 10 * s.size(fault.WeakHand)
	}
	if at > s.start+(s.end-s.start)*2/3 {
		wide += s.size(fault.Fading)
	}
	return wide
}

// tires is the chance that a strike of the last third is missed for want of breath.
func (s *stage) tires(at float64) float64 {
	if at > s.start+(s.end-s.start)*2/3 {
		return missesTired * s.size(fault.Fading)
	}
	return 0
}

// strength returns the factor of a strike's force that a mistake causes.
func (s *stage) strength() float64 {
	off := s.size(fault.Crowded) + s.size(fault.Reaching)
	share := 1 - math.Min(softest, softPerLate*off)
	if s.happens(fault.TooHard) {
		s.wild = spoils
		share *= 1.35 + 0.4*s.r.Float64()
	}
	return share
}

// bends marks a hit that sends the bag off its line, some time after it.
func (s *stage) bends(at float64) {
	if s.happens(fault.OffLine) {
		s.wild = spoils
		s.out.Marks = append(s.out.Marks, Mark{at + 0.45 + 0.3*s.r.Float64(), fault.OffLine})
	}
}

// gone says whether somebody loses it at a strike, in the middle of what they do, and until when.
func (s *stage) gone(k Planned) (float64, bool) {
	n, at := int(math.Round(s.size(fault.Lost))), math.Max(k.At, s.last)
	if n == 0 || k.Still {
		return 0, false
	}
	if s.away == nil {
		for i := range n { // spread over the round
			part := (s.end - s.start) / float64(n)
			s.away = append(s.away, s.start+part*(float64(i)+0.2+0.5*s.r.Float64()))
		}
	}
	i := slices.IndexFunc(s.away, func(t float64) bool { return t > 0 && at >= t })
	if i < 0 {
		return 0, false
	}
	s.away[i] = 0
	return at + math.Max(3+2*s.r.Float64(), (4+2*s.r.Float64())*s.apart), true
}
