package standin

import (
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
)

// Strikes lists the strikes of a plan that has been laid out, as a sensor is told of them.
func Strikes(t drill.Timeline, p drill.Plan, kind rig.Kind) []Planned {
	list := []Planned{}
	for _, s := range level.Strikes(t, p.Way(kind), p.ByEar(), level.Common) {
		if s.Slip {
			continue
		}
		list = append(list, Planned{At: s.At, Window: s.Window, Hand: string(s.Hand), Age: s.Age, Rep: s.Rep, Still: s.Still})
	}
	return list
}
