package catalogue

import (
	"melodromos/core/level"
	"melodromos/core/rig"
)

var doubleEnd = []Entry{
	line(rig.DoubleEnd, "jab", FirstTouches, 1, "The jab alone", "1", "Learn the distance and how it comes back; half power.", tagged(OneSide), trains(level.ByMiss)),
	line(rig.DoubleEnd, "later", FirstTouches, 1, "Jab, let one go, jab", "1 - wait - 1", "Wait as long as needed.", tagged(OneSide), trains(level.ByTiming)),
	line(rig.DoubleEnd, "rear", FirstTouches, 1, "The rear hand alone", "2", "Straight, or it swings across.", tagged(OneSide)),
	line(rig.DoubleEnd, "doubled", Rhythm, 2, "Doubled jab on every second return", "1:2 1:2 1", "Meet every second one; the eyes stay on the ball.", tagged(OneSide)),
	line(rig.DoubleEnd, "second", Rhythm, 2, "One, two, on every second return", "1-2", "The bag owns the clock.", second, trains(level.ByTiming)),
	line(rig.DoubleEnd, "two", Rhythm, 3, "One-two on the return", "1-2", "The 2 meets the first return.", tagged(Segment), trains(level.ByHands)),
	line(rig.DoubleEnd, "flow", Rhythm, 3, "One-two, keep it up", "1-2 - wait - 1-2", "Close and loose, for the whole round.", flowing, trains(level.ByMiss)),
	line(rig.DoubleEnd, "three", Building, 3, "One-two-three", "1-2-3", "The hook meets it for a shorter time.", tagged(Segment)),
	line(rig.DoubleEnd, "accent", Building, 3, "Two-three-two", "2-3-2!", "The accent ends it.", tagged(Segment)),
	line(rig.DoubleEnd, "jabSlip", Defending, 2, "Jab and slip", "1 - slip rear", "Slip just enough, out of the punch."),
	line(rig.DoubleEnd, "slip", Defending, 2, "One-two and slip", "1-2 - slip lead", "Out of the punch before it.", trains(level.ByMemory)),
	line(rig.DoubleEnd, "slipHook", Defending, 3, "One-two, slip, hook", "1-2 - slip lead - 3", "The slip loads the hand on its side.", tagged(Segment)),
	line(rig.DoubleEnd, "answer", Defending, 3, "Slip and answer", "1-2 - slip lead - 3-2", "The slip loads the hand on its side.", tagged(Segment), trains(level.ByMemory)),
	line(rig.DoubleEnd, "duckTwo", Defending, 3, "One-two, duck, two", "1-2 - duck - 2", "After a duck the hand that threw last throws again.", tagged(Segment)),
	line(rig.DoubleEnd, "duck", Defending, 3, "Duck and answer", "1-2 - duck - 2-3", "The hand that threw last throws again.", tagged(Segment)),
	line(rig.DoubleEnd, "roll", Defending, 4, "Roll and answer", "1-2 - roll lead - 3-2", "The roll ends on the lead foot.", tagged(Segment)),
	line(rig.DoubleEnd, "surprise", Defending, 4, "Surprised", "1-2 - slip lead - 3", "Roll when it is called, and go on.", surprised, trains(level.ByCue)),
	line(rig.DoubleEnd, "pivot", Angles, 4, "Off the line", "1-2 - pivot lead - wait - 2-3", "Off the line it crosses in front of you."),
	line(rig.DoubleEnd, "long", Themes, 4, "The long one", "1-2-3 | duck - 3-2! | slip lead - 3-2 | step back - 1-2!", "Parts before the whole."),
	line(rig.DoubleEnd, "thirteen", Themes, 4, "Thirteen moves in four parts", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", "Parts before the whole; each part ends on its accent."),
	line(rig.DoubleEnd, "pull", Themes, 5, "Pull, change direction", "1-2 - pull 1-2 | slip lead - 3-2!", "The pull is meant: it breaks the flow on purpose."),
	line(rig.DoubleEnd, "tens", Conditioning, 3, "Ten one-twos", "1-2 - wait - 1-2", "Twenty punches in sets of two; form before pace.", finishing),
}
