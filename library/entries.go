package library

import (
	"melodromos/core/drill"
	"melodromos/core/rig"
)

var speedBag = []Entry{
	technique(FirstTouches, 1, "One hand, as long as it takes", "Strike once, hear three boards, meet it before it hangs straight.", drill.Drill{Technique: drill.OneHand, Rebounds: 3, Tempo: 58, Work: 30}, OneSide),
	technique(FirstTouches, 1, "The other hand alone", "The weaker side first, and once more than the other.", drill.Drill{Technique: drill.OneHand, FirstHand: drill.Lead, Rebounds: 3, Tempo: 58, Work: 30}, OneSide),
	technique(FirstTouches, 2, "Five rebounds, to hear them", "Softer; count aloud and wait.", drill.Drill{Technique: drill.OneHand, Rebounds: 5, Tempo: 44, Work: 30}, OneSide),
	technique(Rhythm, 2, "Five a side", "The rhythm stays through the change of hands.", drill.Drill{Technique: drill.OneHand, PerHand: 5, Rebounds: 3, Tempo: 70}),
	technique(Rhythm, 2, "Four a side", "Small circles; the hand is up before the third board.", drill.Drill{Technique: drill.OneHand, PerHand: 4, Rebounds: 3, Tempo: 80}),
	technique(Rhythm, 3, "Three a side", "Quicker through the change than through the set.", drill.Drill{Technique: drill.OneHand, PerHand: 3, Rebounds: 3, Tempo: 92}),
	technique(Rhythm, 3, "Two a side", "Two and change, never a gap.", drill.Drill{Technique: drill.OneHand, PerHand: 2, Rebounds: 3, Tempo: 96}, FlowDrill),
	technique(Building, 3, "Hand after hand", "Both circles the same size.", drill.Drill{Technique: drill.Alternating, Rebounds: 3, Tempo: 92, Work: 90}, FlowDrill),
	technique(Rhythm, 3, "Five a side, then fewer", "Twice a side at each number, down to two; nothing changes but the hands.", drill.Drill{Technique: drill.OneHand, PerHand: 5, Scheme: drill.Falling, Rebounds: 3, Tempo: 84}),
	technique(Rhythm, 4, "Three, then one more each time", "Beat the last number before you change.", drill.Drill{Technique: drill.OneHand, PerHand: 3, Scheme: drill.Rising, Rebounds: 3, Tempo: 108}),
	technique(Rhythm, 4, "By ear alone", "Eyes shut or turned away: the boards tell all there is to know.", drill.Drill{Technique: drill.OneHand, PerHand: 5, Rebounds: 3, Tempo: 84, EarOnly: true}),
	technique(Building, 3, "Fist roll", "Fists over one another, soft, near the board.", drill.Drill{Technique: drill.FistRoll, Rebounds: 1, StrikeAngle: 30, Tempo: 210, Work: 30}, Segment),
	technique(Building, 4, "Linking, four a side", "Out through the bag and back at even counts.", drill.Drill{Technique: drill.Linking, PerHand: 4, Rebounds: 2, Tempo: 100}, Segment),
	technique(Building, 5, "Linking, two a side", "Through it and back, and change.", drill.Drill{Technique: drill.Linking, PerHand: 2, Rebounds: 2, Tempo: 150, Work: 45}, Segment),
	technique(Building, 5, "One rebound, hand after hand", "Every board is a strike: small, soft and close.", drill.Drill{Technique: drill.Alternating, Rebounds: 1, Tempo: 280, Work: 30}, Segment),
	technique(Building, 4, "Double punch", "Heard as one; the second fist a little higher.", drill.Drill{Technique: drill.DoublePunch, Rebounds: 3, Tempo: 110}, Segment),
	technique(Themes, 4, "Trap and change", "Ride it into the board, hold it, let it fall, go on.", drill.Drill{Technique: drill.Trap, PerHand: 4, Rebounds: 3, Tempo: 105}),
	technique(Conditioning, 5, "Fast hands, three a side", "Pace only while the rhythm holds.", drill.Drill{Technique: drill.OneHand, PerHand: 3, Rebounds: 3, Tempo: 165, Work: 30}, Finisher),
	technique(Conditioning, 5, "Sprint, two a side", "Fifteen quick seconds, as soft as the boards allow.", drill.Drill{Technique: drill.OneHand, PerHand: 2, Rebounds: 3, Tempo: 200, Work: 15}, Finisher),
	technique(Conditioning, 5, "Two minutes, hand after hand", "Shoulders: keep the elbows up and the circles small.", drill.Drill{Technique: drill.Alternating, Rebounds: 3, Tempo: 140, Work: 120}, Finisher),
}

var doubleEnd = []Entry{
	line(rig.DoubleEnd, FirstTouches, 1, "The jab alone", "1", "Learn the distance and how it comes back; half power.", OneSide),
	line(rig.DoubleEnd, FirstTouches, 1, "Jab, let one go, jab", "1 - wait - 1", "Wait as long as needed.", OneSide),
	line(rig.DoubleEnd, FirstTouches, 1, "The rear hand alone", "2", "Straight, or it swings across.", OneSide),
	line(rig.DoubleEnd, Rhythm, 2, "Doubled jab on every second return", "1:2 1:2 1", "Meet every second one; the eyes stay on the ball.", OneSide),
	line(rig.DoubleEnd, Rhythm, 2, "One, then the two a return later", "1:2 2", "The bag owns the clock."),
	line(rig.DoubleEnd, Rhythm, 3, "One-two on the return", "1-2", "The 2 meets the first return.", Segment),
	line(rig.DoubleEnd, Rhythm, 3, "One-two, keep it up", "1-2 - wait - 1-2", "Close and loose, for the whole round.", FlowDrill),
	line(rig.DoubleEnd, Building, 3, "One-two-three", "1-2-3", "The hook meets it for a shorter time.", Segment),
	line(rig.DoubleEnd, Building, 3, "Two-three-two", "2-3-2!", "The accent ends it.", Segment),
	line(rig.DoubleEnd, Defending, 2, "Jab and slip", "1 - slip rear", "Slip just enough, out of the punch."),
	line(rig.DoubleEnd, Defending, 3, "One-two, slip, hook", "1-2 - slip lead - 3", "The slip loads the hand on its side.", Segment),
	line(rig.DoubleEnd, Defending, 3, "One-two, duck, two", "1-2 - duck - 2", "After a duck the hand that threw last throws again.", Segment),
	line(rig.DoubleEnd, Defending, 4, "Roll and answer", "1-2 - roll lead - 3-2", "The roll ends on the lead foot.", Segment),
	line(rig.DoubleEnd, Angles, 4, "Pivot off the line", "1-2 - pivot lead - wait - 2", "Off the line it crosses in front of you."),
	line(rig.DoubleEnd, Themes, 4, "Thirteen moves in four parts", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", "Parts before the whole; each part ends on its accent."),
	line(rig.DoubleEnd, Themes, 5, "Pull, change direction", "1-2 - pull 1-2 | slip lead - 3-2!", "The pull is meant: it breaks the flow on purpose."),
	line(rig.DoubleEnd, Conditioning, 3, "Ten one-twos", "1-2 - wait - 1-2", "Twenty punches in sets of two; form before pace.", Finisher),
}

var reflex = []Entry{
	line(rig.Reflex, FirstTouches, 1, "Strike and let it settle", "1", "Every one moves differently: learn it slowly, half power.", OneSide),
	line(rig.Reflex, FirstTouches, 1, "Rear hand, let it settle", "2", "Flush, or it comes back past you.", OneSide),
	line(rig.Reflex, Rhythm, 2, "Jab on every second return", "1:2 1:2 1", "The usual error here is too early.", OneSide),
	line(rig.Reflex, Rhythm, 2, "One, wait, two", "1 - wait - 2", "Let it come to you."),
	line(rig.Reflex, Rhythm, 3, "One-two on the return", "1-2", "Power brings it back into the face.", Segment),
	line(rig.Reflex, Building, 3, "One-two twice", "1-2 - wait - 1-2", "Half-minute blocks.", FlowDrill),
	line(rig.Reflex, Building, 3, "One-two-three", "1-2-3", "Over the ball, not through it.", Segment),
	line(rig.Reflex, Defending, 2, "Jab and slip what comes back", "1 - slip rear", "Straighten the jab first: errors carry over."),
	line(rig.Reflex, Defending, 3, "One-two, slip, three", "1-2 - slip lead - 3", "Out of the punch before it.", Segment),
	line(rig.Reflex, Defending, 4, "One-two, roll, two", "1-2 - roll rear - 2", "It ends on the rear foot.", Segment),
	line(rig.Reflex, Angles, 4, "Step off and hook", "1-2 - step lead - 3", "The bag crosses your line now."),
	line(rig.Reflex, Themes, 5, "Long one", "1-2 | slip lead - 3-2 | duck - 2-3!", "Three parts, each alone first."),
	line(rig.Reflex, Themes, 5, "Long one, in four parts", "1-2-3 | slip lead - 3-2-3 | duck - 3-2 | step back - 1-2!", "The wait is part of it: let it settle where it runs wild."),
	line(rig.Reflex, Conditioning, 3, "Ten one-twos on the pole", "1-2", "Guard up between; never the hand to steady it.", Finisher),
}

var slip = []Entry{
	line(rig.Slip, FirstTouches, 1, "Slip to the lead side", "slip lead - wait", "Just enough; the eyes stay on it.", OneSide),
	line(rig.Slip, FirstTouches, 1, "Slip to the rear side", "slip rear - wait", "Weight onto the rear foot, chin down.", OneSide),
	line(rig.Slip, Rhythm, 2, "Side and side", "slip lead - slip rear", "Every pass, even and small.", FlowDrill),
	line(rig.Slip, Rhythm, 2, "Duck under it", "duck - wait", "Legs, not the back."),
	line(rig.Slip, Rhythm, 3, "Slip and duck", "slip lead - duck - slip rear", "Three passes, then again."),
	line(rig.Slip, Building, 2, "Slip and touch", "slip lead - 3", "Light: the bag is no target for power.", Segment),
	line(rig.Slip, Building, 2, "Slip rear and the rear hand", "slip rear - 2", "For those who have the timing.", Segment),
	line(rig.Slip, Building, 3, "Answer on both sides", "slip lead - 3 - slip rear - 2", "The hand on the side slipped to."),
	line(rig.Slip, Building, 3, "Slip and two", "slip lead - 3-2", "Back in the middle before the next pass.", Segment),
	line(rig.Slip, Defending, 4, "Every second pass, three punches", "slip lead - 3-2 - wait - slip rear - 2-3", "Let one pass go by off its line."),
	line(rig.Slip, Themes, 4, "Jab, slip, hook, duck, hook", "1 - slip lead - 3 - duck - 3", "A slip grows best out of the punch before it."),
	line(rig.Slip, Themes, 5, "Both sides, high and low", "1 - slip lead - 3-2 - duck - 2 - slip rear - 2-3 - duck - 3", "Back to the middle after each; light hands."),
	line(rig.Slip, Conditioning, 3, "Ten times side and side", "slip lead - slip rear - duck", "Stop when it touches you twice.", Finisher),
}

var hanging = []Entry{
	line(rig.Hanging, FirstTouches, 1, "The jab alone", "1", "As it comes; step with it as it goes.", OneSide),
	line(rig.Hanging, FirstTouches, 1, "One-two, soft", "1-2", "Wraps and gloves; half power.", Segment),
	line(rig.Hanging, Rhythm, 2, "Jab, jab, two", "1-1-2", "Follow it out, give way as it comes.", FlowDrill),
	line(rig.Hanging, Building, 2, "One-two-three", "1-2-3", "The hook turns on the lead foot.", Segment),
	line(rig.Hanging, Building, 2, "Up and down", "1b-2", "Bend the knees for the body.", Segment),
	line(rig.Hanging, Building, 3, "Three-two-three", "3-2-3!", "The last one counts.", Segment),
	line(rig.Hanging, Building, 3, "Uppercuts inside", "5-6-3", "Close, elbows in.", Segment),
	line(rig.Hanging, Building, 3, "Body and head", "1-2-3b-3 - step back", "The doubled hook is meant: low, then high."),
	line(rig.Hanging, Defending, 3, "One-two, roll, three-two", "1-2 - roll lead - 3-2", "Every combination ends with a move.", Segment),
	line(rig.Hanging, Defending, 3, "Slip and answer", "1 - slip lead - 3-2 - step back", "Stop a wild bag with a jab, never by grabbing it."),
	line(rig.Hanging, Angles, 3, "In and out", "step in - 1-2-3 - step back", "Feet first, then hands."),
	line(rig.Hanging, Angles, 4, "Pivot and go on", "1-2-3 - pivot lead - 2-3", "Off the line, and set before the 2."),
	line(rig.Hanging, Themes, 4, "Thirteen moves", "1-1-2 | duck - 2-3-2! | slip lead - 3-2 | step back - 1-2!", "A, B, then A and B; the whole last."),
	line(rig.Hanging, Themes, 5, "Both hands low", "1b-2b - slip rear - 2-3b - roll lead - 3-2!", "Low hands mean an open chin: home at once."),
	line(rig.Hanging, Conditioning, 3, "Ten one-twos", "1-2-1-2", "Straight, in tens; form before pace.", Finisher),
	line(rig.Hanging, Conditioning, 4, "Switch and go", "1-2 - switch - 1-2 - switch", "Both stances, ten times.", Finisher),
}
