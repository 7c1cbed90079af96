package catalogue

import (
	"melodromos/core/drill"
	"melodromos/core/level"
	"melodromos/core/rig"
)

var speedBag = []Entry{
	line(rig.Speed, "once", FirstTouches, 1, "Strike once, meet it once", "2-2", "Soft. Hear three boards, meet it before it hangs straight, catch it, begin anew.", softly(0.2), tagged(OneSide), trains(level.ByMiss)),
	technique("rear", FirstTouches, 1, "One hand, one count", "Let it come; the hand keeps its circle.", drill.SpeedBagDrill{Technique: drill.OneHand}, tagged(OneSide), trains(level.ByTiming)),
	technique("lead", FirstTouches, 1, "The other hand", "One more repetition on the weaker side.", drill.SpeedBagDrill{Technique: drill.OneHand, FirstHand: drill.Lead}, tagged(OneSide), trains(level.ByMiss)),
	technique("fiveRebounds", FirstTouches, 2, "Five rebounds, to hear them", "Softer; count aloud and wait.", drill.SpeedBagDrill{Technique: drill.OneHand, Rebounds: 5, Work: 30, Effort: 0.25}, tagged(OneSide)),
	technique("five", Rhythm, 2, "Five a side", "The rhythm stays through the change.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 5}),
	technique("four", Rhythm, 2, "Four a side", "Small circles; the hand is up before the third board.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 4}),
	technique("three", Rhythm, 3, "Three a side", "No gap at the change.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 3}, trains(level.ByMemory)),
	technique("two", Rhythm, 3, "Two a side", "Two and change, never a gap.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 2}, tagged(FlowDrill), trains(level.ByHands)),
	technique("falling", Rhythm, 3, "Five a side, then fewer", "Twice a side at each number, down to two; nothing changes but the hands.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 5, Scheme: drill.Falling, Effort: 0.55}),
	technique("rising", Rhythm, 4, "Three, then one more each time", "Beat the last number before you change.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 3, Scheme: drill.Rising, Effort: 0.6}),
	technique("ear", Rhythm, 4, "By ear alone", "Eyes shut or turned away: the boards tell all there is to know.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 3, EarOnly: true}, trains(level.ByTiming)),
	technique("alternating", Building, 3, "Hand after hand", "Both circles the same size.", drill.SpeedBagDrill{Technique: drill.Alternating}, tagged(FlowDrill), trains(level.ByHands)),
	technique("roll", Building, 3, "Fist roll", "Fists over one another, soft, near the board.", drill.SpeedBagDrill{Technique: drill.FistRoll, Rebounds: 1, StrikeAngle: 30, Effort: 0.3}, tagged(Segment), trains(level.ByHands)),
	line(rig.Speed, "catch", Building, 3, "Double punch and catch", "double", "Both fists land as one; catch the bag as it comes back. Five in a row.", tagged(Segment)),
	technique("double", Building, 4, "Double punch", "Heard as one; the second fist a little higher.", drill.SpeedBagDrill{Technique: drill.DoublePunch}, tagged(Segment)),
	technique("linking", Building, 4, "Linking, four a side", "Out through the bag and back at even counts.", drill.SpeedBagDrill{Technique: drill.Linking, Rebounds: 2, PerHand: 4, Effort: 0.55}, tagged(Segment), trains(level.ByMemory)),
	technique("linkingTwo", Building, 5, "Linking, two a side", "Through it and back, and change.", drill.SpeedBagDrill{Technique: drill.Linking, PerHand: 2, Rebounds: 2, Work: 45, Effort: 0.7}, tagged(Segment)),
	technique("oneRebound", Building, 5, "One rebound, hand after hand", "Every board is a strike: small, soft and close.", drill.SpeedBagDrill{Technique: drill.Alternating, Rebounds: 1, Work: 30, Effort: 0.6}, tagged(Segment)),
	technique("exchange", Building, 5, "Double punch, back and forth", "The hands exchange places every time.", drill.SpeedBagDrill{Technique: drill.DoublePunch, PerHand: 1}, tagged(Segment)),
	technique("trap", Themes, 4, "Trap and change", "Ride it into the board, hold it, let it fall, go on.", drill.SpeedBagDrill{Technique: drill.Trap, PerHand: 4, Effort: 0.55}),
	technique("quick", Conditioning, 5, "Two a side, quick", "Pace only while the rhythm holds.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 2, Effort: 0.75}, paced, tagged(FlowDrill)),
	technique("fast", Conditioning, 5, "Fast hands, three a side", "Half a minute, and loose between.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 3, Work: 30, Effort: 0.75}, paced, tagged(Finisher)),
	technique("sprint", Conditioning, 5, "Sprint, two a side", "Fifteen quick seconds, small and close.", drill.SpeedBagDrill{Technique: drill.OneHand, PerHand: 2, Work: 15, Effort: 0.9}, paced, tagged(Finisher)),
	technique("shoulders", Conditioning, 5, "Two minutes, hand after hand", "Shoulders: keep the elbows up and the circles small.", drill.SpeedBagDrill{Technique: drill.Alternating, Work: 120, Effort: 0.6}, tagged(Finisher)),
}
