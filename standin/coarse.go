package standin

import (
	"math"
	"math/rand/v2"
)

// Coarse describes the errors of a poor sensor. The zero value has none.
type Coarse struct {
	Jitter  float64 // s, standard deviation of its times
	Dropout float64 // share of the hits that it does not feel
	Grid    float64 // s between the ticks of its clock
	Deaf    bool    // to force: it tells times alone
}

// Feel gives the hits as they come out of the sensor.
func (c Coarse) Feel(hits []Hit, seed uint64) []Hit {
	r := rand.New(rand.NewPCG(seed, 0x636f61727365))
	list := make([]Hit, 0, len(hits))
	for _, h := range hits {
		jitter, lost := c.Jitter*r.NormFloat64(), r.Float64() < c.Dropout
		if lost {
			continue
		}
		h.At = math.Max(0, h.At+jitter)
		if c.Grid > 0 {
			h.At = math.Round(h.At/c.Grid) * c.Grid
		}
		if c.Deaf {
			h.Launch = 0
		}
		list = append(list, h)
	}
	return list
}
