package session

import (
	"cmp"
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// Laid returns the timeline of a course for somebody on bags of one kind, calls and bells included: the strikes of each
// block, its board sounds, passes and defences, as far as the block lasts. Blocks of one's own drill, off the bag, or
// that this bag does not allow have cues alone.
func (c Course) Laid(v Calls, who Trainer, kind rig.Kind) []drill.Event {
	list := c.Cues(v)
	for _, s := range c.Stretches {
		b := c.planned(s)
		if s.Rest() || s.Round < 0 || !b.OnBag() || b.Role == Own {
			continue
		}
		on := kind
		if of := b.For(); of != "" {
			on = of
		}
		b.Seconds = int(min(max(s.length()/second, drill.Micros(drill.WorkLimits.Min)),
			drill.Micros(drill.WorkLimits.Max)))
		plan, err := b.Plan(on)
		if err != nil || plan == nil {
			continue
		}
		line, err := plan.Lay(who.Bag(on))
		if err != nil {
			continue
		}
		for _, e := range line.Events {
			at := e.At - line.Start + s.From
			switch e.Kind {
			case drill.Strike, drill.Rebound, drill.Pass, drill.Doing, drill.Cued:
				if at >= s.From && at < s.Until {
					e.At = at
					list = append(list, e)
				}
			}
		}
	}
	slices.SortStableFunc(list, func(a, b drill.Event) int { return cmp.Compare(a.At, b.At) })
	return list
}
