package catalogue

import (
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
)

var slip = []Entry{
	line(rig.Slip, "guard", FirstTouches, 1, "As somebody's guard", "1",
		"It hangs still: as close as can be without touching, hands back fast.", atRest(drill.StopShort),
		trains(level.ByMiss)),
	line(rig.Slip, "round", FirstTouches, 1, "Round the guard", "3-4",
		"It hangs still, as somebody's guard: round it, as close as can be without touching.", atRest(drill.RoundIt),
		tagged(Segment)),
	line(rig.Slip, "through", FirstTouches, 1, "Through the guard", "1-2",
		"Past it to where the head would be; hands back fast.", atRest(drill.ThroughIt), tagged(Segment)),
	line(rig.Slip, "short", FirstTouches, 1, "Stop short", "1-2", "Full extension, and not a touch.",
		atRest(drill.StopShort), tagged(Segment)),
	line(rig.Slip, "lead", FirstTouches, 1, "Slip to the lead side", "slip lead - wait",
		"Just enough; the eyes stay on it.", tagged(OneSide), trains(level.ByTiming)),
	line(rig.Slip, "rear", FirstTouches, 1, "Slip to the rear side", "slip rear - wait",
		"Weight onto the rear foot, chin down.", tagged(OneSide)),
	line(rig.Slip, "sides", Rhythm, 2, "Side and side", "slip lead - slip rear", "Every pass, small and even.", flowing,
		trains(level.ByTiming)),
	line(rig.Slip, "under", Rhythm, 2, "Duck under it", "duck - wait", "Legs, not the back."),
	line(rig.Slip, "duck", Rhythm, 3, "Slip and duck", "slip lead - duck - slip rear",
		"Legs, not the back; three passes, then again.", trains(level.ByMemory)),
	line(rig.Slip, "touch", Building, 2, "Slip and touch", "slip lead - 3", "Light: the bag is no target for power.",
		tagged(Segment), trains(level.ByHands)),
	line(rig.Slip, "touchRear", Building, 2, "Slip rear and the rear hand", "slip rear - 2",
		"For those who have the timing.", tagged(Segment)),
	line(rig.Slip, "both", Building, 3, "Answer on both sides", "slip lead - 3 - slip rear - 2",
		"The hand on the side slipped to."),
	line(rig.Slip, "two", Building, 3, "Slip and two", "slip lead - 3-2 - wait",
		"Back in the middle before the next pass.", tagged(Segment)),
	line(rig.Slip, "guardSlip", Building, 3, "At the guard, slip and answer", "1-2 - slip lead - 3",
		"Without touching; think what could come back.", atRest(drill.StopShort), tagged(Segment)),
	line(rig.Slip, "three", Defending, 4, "Every second pass, three punches",
		"slip lead - 3-2 - wait - slip rear - 2-3", "Let one pass go by off its line."),
	line(rig.Slip, "hooks", Themes, 4, "Jab, slip, hook, duck, hook", "1 - slip lead - 3 - duck - 3",
		"A slip grows best out of the punch before it."),
	line(rig.Slip, "long", Themes, 4, "High and low, both sides", "1 - slip lead - 3 - duck - 3 - slip rear - 2",
		"Small moves, light hands."),
	line(rig.Slip, "longer", Themes, 5, "Both sides, high and low",
		"1 - slip lead - 3-2 - duck - 2 - slip rear - 2-3 - duck - 3", "Back to the middle after each; light hands."),
	line(rig.Slip, "tens", Conditioning, 3, "Ten times side and side", "slip lead - slip rear - duck",
		"Stop when it touches you twice.", finishing),
}
