package catalogue

import (
	"melodromos/core/level"
	"melodromos/core/rig"
)

var hanging = []Entry{
	line(rig.Hanging, "jab", FirstTouches, 1, "The jab alone", "1", "As it comes, half power; step with it as it goes.", tagged(OneSide), trains(level.ByMiss)),
	line(rig.Hanging, "two", FirstTouches, 1, "One-two", "1-2", "Wraps and gloves; half power, home at once.", tagged(Segment), trains(level.ByTiming)),
	line(rig.Hanging, "double", Rhythm, 2, "Jab, jab, two", "1-1-2", "Follow it out, give way as it comes.", trains(level.ByHands)),
	line(rig.Hanging, "comes", Rhythm, 3, "As it comes", "1-2", "On its way in, again and again.", returning, trains(level.ByTiming)),
	line(rig.Hanging, "three", Building, 2, "One-two-three", "1-2-3", "The hook turns on the lead foot.", tagged(Segment)),
	line(rig.Hanging, "upDown", Building, 2, "Up and down", "1b-2", "Bend the knees for the body.", tagged(Segment)),
	line(rig.Hanging, "body", Building, 3, "Low and high", "1b-2-3", "Knees for the body.", tagged(Segment)),
	line(rig.Hanging, "accent", Building, 3, "Three-two-three", "3-2-3!", "The last one counts.", tagged(Segment)),
	line(rig.Hanging, "uppercuts", Building, 3, "Uppercuts inside", "5-6-3", "Close, elbows in.", tagged(Segment)),
	line(rig.Hanging, "bodyHead", Building, 3, "Body and head", "1-2-3b-3 - step back", "The doubled hook is meant: low, then high."),
	line(rig.Hanging, "roll", Defending, 3, "Roll and answer", "1-2 - roll lead - 3-2 - step back", "Every combination ends with a move.", trains(level.ByMemory)),
	line(rig.Hanging, "slip", Defending, 3, "Slip and answer", "1 - slip lead - 3-2 - step back", "Stop a wild bag with a jab, never by grabbing it."),
	line(rig.Hanging, "stop", Defending, 3, "Stop it, then strike", "2 - stop 1 - 2", "A jab in time; the next one meets it at rest. Never grab it.", returning, tagged(Segment)),
	line(rig.Hanging, "longGuard", Defending, 3, "A firm long guard", "2 - long guard - 2", "The arm long, the shoulder high; never grab it.", returning, tagged(Segment)),
	line(rig.Hanging, "jam", Defending, 4, "Jam it and work inside", "2 - jam - 5", "Forearms against it, elbows in.", returning, tagged(Segment)),
	line(rig.Hanging, "pushKick", Defending, 4, "Stop it with a push kick", "2 - stop push kick lead - 2", "The foot in time, then stand before you punch.", returning, tagged(Segment)),
	line(rig.Hanging, "surprise", Defending, 4, "Surprised", "1-2-3 - step back", "Roll when it is called.", surprised, trains(level.ByCue)),
	line(rig.Hanging, "step", Angles, 3, "In and out", "step in - 1-2-3 - step back", "Feet first, then hands.", trains(level.ByMemory)),
	line(rig.Hanging, "pivot", Angles, 4, "Pivot and go on", "1-2-3 - pivot lead - 2-3", "Off the line, and set before the 2."),
	line(rig.Hanging, "stepKick", Angles, 4, "Step aside and kick", "2 - stop step lead - round kick rear", "Let it come past, and kick it where it is.", returning, tagged(Segment)),
	line(rig.Hanging, "long", Themes, 4, "Thirteen moves", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", "A, B, then A and B; the whole last."),
	line(rig.Hanging, "low", Themes, 5, "Both hands low", "1b-2b - slip rear - 2-3b - roll lead - 3-2!", "Low hands mean an open chin: home at once."),
	line(rig.Hanging, "tens", Conditioning, 3, "Ten one-twos", "1-2-1-2", "Straight, in tens; form before pace.", finishing),
	line(rig.Hanging, "switch", Conditioning, 4, "Switch and go", "1-2 - switch - 1-2 - switch", "Both stances, ten times.", finishing),
}
