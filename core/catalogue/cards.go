package catalogue

import (
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/words"
)

// TechniqueCard is a short card for a stance, a strike, a move or a technique: what it is, and three things to watch.
// Common practice throughout.
type TechniqueCard struct {
	Key   string    `json:"key" doc:"the word of the notation, or the technique"`
	Title string    `json:"title"`
	What  string    `json:"what"`
	Watch [3]string `json:"watch"`
}

// Cards lists them: stances, punches, other strikes, defences, feet, speed-bag techniques.
func Cards() []TechniqueCard { return cards }

var cards = []TechniqueCard{
	{"stance", "Boxing stance", "The dominant side behind, feet a little apart sideways, hands home.",
		[3]string{"Never one foot straight behind the other.", "Weight on the balls of both feet.",
			"Chin down, elbows in."}},
	{"square", "Square stance", "Both feet level under the speed bag, hips to the board.",
		[3]string{"A forearm from the bag.", "Elbows up, shoulders loose.", "Eyes on the bag, ears on the board."}},
	{"1", "Jab", "The lead hand straight out and straight back.",
		[3]string{"The shoulder covers the chin.", "Back on the line it went out.", "The rear hand stays home."}},
	{"2", "Cross", "The rear hand straight, out of the turn of foot and hip.",
		[3]string{"The rear heel turns out.", "Full extension, no leaning.", "The lead hand stays home."}},
	{"3", "Lead hook", "The lead hand round, elbow level with the fist.",
		[3]string{"Turn on the lead foot.", "The elbow stays bent.", "Stop it in front of you."}},
	{"4", "Rear hook", "The rear hand round, out of the hip.",
		[3]string{"Hip first, then the hand.", "The lead hand is up.", "Short, not swung."}},
	{"5", "Lead uppercut", "The lead hand up from below, close.",
		[3]string{"Bend the knees, not the back.", "The palm turns to you.", "Straight home afterwards."}},
	{"6", "Rear uppercut", "The rear hand up from below, out of the legs.",
		[3]string{"Close to the bag.", "The hip drives it.", "The chin stays down."}},
	{"body", "To the body", "The same punch a level lower.",
		[3]string{"Knees go down, the back stays straight.", "The other hand stays at the head.",
			"Up again with the next move."}},
	{"overhand", "Overhand", "The rear hand over the top in an arc.",
		[3]string{"Step off the line a little.", "The head goes with it, off the middle.",
			"Home at once: the side is open."}},
	{"double", "Both fists", "One blow of both hands, the second a little higher.",
		[3]string{"Heard as one.", "Soft shoulders.", "Both hands home together."}},
	{"push kick", "Push kick", "The foot pushes straight from the hip, where kicks are trained.",
		[3]string{"The knee comes up first.", "Push, do not stamp.", "Stand again before you punch."}},
	{"round kick", "Round kick", "The shin round, where kicks are trained.",
		[3]string{"The standing foot turns.", "The hands stay up.", "Back into the stance."}},
	{"low kick", "Low kick", "The shin round and low, where kicks are trained.",
		[3]string{"Only on a bag that is made for it.", "The hip turns over.", "Back into the stance."}},
	{"knee", "Knee", "The knee up from the hip, where knees are trained.",
		[3]string{"Toes down.", "Hips forward.", "Hands home."}},
	{"elbow", "Elbow", "The elbow short and close, where elbows are trained.",
		[3]string{"The hand stays at the chest.", "Turn the hip.", "Never on a ball on a pole."}},
	{"slip", "Slip", "The head off the line, sideways, by a little.",
		[3]string{"Out of the punch before it.", "Just enough, eyes up.", "The hand on that side is loaded."}},
	{"duck", "Duck", "Straight down under it and up again.",
		[3]string{"Legs, not the back.", "Eyes stay up.", "The hand that threw last throws again."}},
	{"roll", "Roll", "Down and across under it, up on the other foot.",
		[3]string{"A flat half circle.", "Hands at the temples.", "It ends on the foot that loads the hand."}},
	{"weave", "Weave", "From side to side under what swings across.",
		[3]string{"Knees work, the trunk stays upright.", "Small circles.", "Hands home throughout."}},
	{"pull", "Pull", "Back out of reach: brake and stay side-on, or square up with the turn. Both are right.",
		[3]string{"Weight back, feet stay.", "Chin down.", "Come straight back with a punch."}},
	{"step", "Step", "A short step, the foot on that side first.",
		[3]string{"Never cross the feet.", "Feet first, then hands.", "The stance is as wide afterwards."}},
	{"pivot", "Pivot", "Round on the ball of one foot, off the line.",
		[3]string{"The other foot follows at once.", "Set before you punch.",
			"The bag crosses your line now: later, shorter."}},
	{"switch", "Switch", "The feet change places, and with them lead and rear.",
		[3]string{"On the balls, low.", "A hand has time in it.", "Lead is the other hand now."}},
	{"block", "Block", "The glove or the arm takes it.", [3]string{"Tight to the head.", "No reaching.", "Eyes open."}},
	{"parry", "Parry", "A small push past the chin.",
		[3]string{"A hand's breadth, no more.", "Late rather than early.", "Home at once."}},
	{"cover", "Cover", "Both arms tight, chin down.",
		[3]string{"Elbows together.", "Look through.", "Out of it with a move."}},
	{"long guard", "Long guard", "The lead arm long, the shoulder high.",
		[3]string{"The chin behind the shoulder.", "The rear hand home.", "The arm measures, it does not push."}},
	{"jam", "Jam", "Both forearms against a heavy bag that comes, and in with it.",
		[3]string{"Meet it early, elbows in.", "Chin down, close.", "Work inside at once; never grab it."}},
	{"stop", "Stopping the bag", "A heavy bag that swings is met in time and hangs still.",
		[3]string{"As it comes, not as it goes.", "Firm, with the feet under you.",
			"Never by grabbing it: that is unreal and a hidden rest."}},
	{"guard", "As somebody's guard",
		"A slip bag that hangs still is a guard: round it, through beside it, or stopped short.",
		[3]string{"As close as can be without touching.", "Hands back fast.", "Think what could come back."}},
	{"feint", "Feint", "The beginning of a punch that does not come.",
		[3]string{"Shoulder and eyes, not the hand alone.", "Small.", "Ready for the answer."}},
	{"wait", "Let one go", "The bag comes and is let by.",
		[3]string{"Hands home.", "Eyes on it.", "Meet the next one."}},
	{string(drill.OneHand), "Basic rhythm, one hand", "One hand, one count, by ear.",
		[3]string{"Hear three boards.", "Meet it before it hangs straight.", "Small circles at any pace."}},
	{string(drill.Alternating), "Basic rhythm, hand after hand", "Lead, rear, lead, rear at the same count.",
		[3]string{"Both circles the same.", "No gap at the change.", "Let the bag come."}},
	{string(drill.FistRoll), "Fist roll", "Fists over one another, meeting every rebound.",
		[3]string{"Near the board, above its widest.", "Soft.", "Fists that touch are a harmless miss."}},
	{string(drill.Linking), "Linking", "One hand out through the bag and back.",
		[3]string{"Front, then behind.", "Even counts between.", "Just below its widest."}},
	{string(drill.DoublePunch), "Double punch", "Both fists as one blow.",
		[3]string{"The second meets the first rebound.", "A little higher.", "Heard as one."}},
	{string(drill.Trap), "Trap", "The hand rides the bag into the board and holds it.",
		[3]string{"Follow it up, do not push.", "Hold, then let it fall.", "Go on from the fall."}},
}

// CardOf finds a card by its key.
func CardOf(key string) (TechniqueCard, bool) {
	for _, c := range cards {
		if c.Key == key {
			return c, true
		}
	}
	return TechniqueCard{}, false
}

// CardsFor lists the cards of what a drill asks for, in the order in which it comes.
func CardsFor(p drill.Plan) []TechniqueCard {
	var keys []string
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		keys = []string{string(d.Technique), "square"}
	case drill.CombinationDrill:
		line, err := combo.Parse(d.Text)
		if err != nil {
			return nil
		}
		if d.Guard != drill.Touched {
			keys = append(keys, "guard")
		}
		for _, m := range line.Moves(combo.Orthodox) {
			if m.Stop {
				keys = append(keys, "stop")
			}
			keys = append(keys, string(m.Word))
			if m.Body {
				keys = append(keys, "body")
			}
		}
	}
	var list []TechniqueCard
	seen := map[string]bool{}
	for _, key := range keys {
		if c, ok := CardOf(key); ok && !seen[key] {
			list, seen[key] = append(list, c), true
		}
	}
	return list
}

// Recap is the three lines to take home from a drill: the three things of its only card, or the first of each of its
// first cards.
func Recap(p drill.Plan) []string {
	list := CardsFor(p)
	if len(list) == 0 {
		return nil
	}
	var lines []string
	for round := 0; round < 3 && len(lines) < 3; round++ {
		for _, c := range list[:min(3, len(list))] {
			if len(lines) < 3 {
				lines = append(lines, c.Title+": "+words.Lower(c.Watch[round]))
			}
		}
	}
	return lines
}
