package catalogue

import (
	"melodromos/core/level"
	"melodromos/core/rig"
)

var reflex = []Entry{
	line(rig.Reflex, "jab", FirstTouches, 1, "One jab, let it settle", "1",
		"Every one moves differently: learn it slowly, half power.", settled, tagged(OneSide)),
	line(rig.Reflex, "rear", FirstTouches, 1, "Rear hand, let it settle", "2", "Flush, or it comes back past you.",
		settled, tagged(OneSide)),
	line(rig.Reflex, "settle", FirstTouches, 1, "Strike and let it settle", "1-2",
		"Every one moves differently: half power.", settled, trains(level.ByMiss)),
	line(rig.Reflex, "doubled", Rhythm, 2, "Jab on every second return", "1:2 1:2 1",
		"The usual error here is too early.", tagged(OneSide)),
	line(rig.Reflex, "second", Rhythm, 2, "Every second return", "1-2",
		"Let it come to you; the usual error is too early.", second, trains(level.ByTiming)),
	line(rig.Reflex, "wait", Rhythm, 2, "One, wait, two", "1 - wait - 2", "Let it come to you."),
	line(rig.Reflex, "two", Rhythm, 3, "One-two on the return", "1-2",
		"Flush, or it comes past you; power brings it back into the face.", tagged(Segment), trains(level.ByHands)),
	line(rig.Reflex, "flow", Building, 3, "One-two twice", "1-2 - wait - 1-2", "For the whole round.", flowing,
		trains(level.ByMiss)),
	line(rig.Reflex, "three", Building, 3, "One-two-three", "1-2-3", "Over the ball, not through it.", tagged(Segment)),
	line(rig.Reflex, "jabSlip", Defending, 2, "Jab and slip what comes back", "1 - slip rear",
		"Straighten the jab first: errors carry over."),
	line(rig.Reflex, "slip", Defending, 2, "Jab, slip, jab", "1 - slip lead - 1", "Straighten the jab first.",
		trains(level.ByMemory)),
	line(rig.Reflex, "slipHook", Defending, 3, "One-two, slip, three", "1-2 - slip lead - 3",
		"Out of the punch before it.", tagged(Segment)),
	line(rig.Reflex, "answer", Defending, 3, "Slip and answer", "1-2 - slip lead - 3-2",
		"The hand on the side slipped to.", trains(level.ByMemory)),
	line(rig.Reflex, "rollTwo", Defending, 4, "One-two, roll, two", "1-2 - roll rear - 2", "It ends on the rear foot.",
		tagged(Segment)),
	line(rig.Reflex, "roll", Defending, 4, "Roll and answer", "1-2 - roll lead - 3-2",
		"It ends on the foot that loads the hand.", formerly("1-2 - roll rear - 2-3")),
	line(rig.Reflex, "surprise", Defending, 4, "Surprised", "1-2 - slip lead - 3", "Roll when it is called.", surprised,
		trains(level.ByCue)),
	line(rig.Reflex, "stepHook", Angles, 4, "Step off and hook", "1-2 - step lead - 3",
		"The bag crosses your line now."),
	line(rig.Reflex, "long", Themes, 5, "The long one", "1-2 | slip lead - 3-2 | duck - 2-3!",
		"Three parts, each alone first.", formerly("1-2-3 | slip lead - 3-2 | duck - 2-3!")),
	line(rig.Reflex, "four", Themes, 5, "Long one, in four parts",
		"1-2-3 | slip lead - 3-2-3 | duck - 3-2 | step back - 1-2!",
		"The wait is part of it: let it settle where it runs wild."),
	line(rig.Reflex, "tens", Conditioning, 3, "Ten one-twos on the pole", "1-2",
		"Guard up between; never the hand to steady it.", finishing),
}
