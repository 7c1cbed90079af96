package session

import (
	"fmt"
	"slices"

	"melodromos/core/caution"
	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Totals are the amounts of work of a session, without people's own drills, which are not known.
type Totals struct {
	Seconds   int `json:"seconds"`
	OnBag     int `json:"onBag" doc:"s on the bag"`
	Resting   int `json:"resting" doc:"s of rests between rounds"`
	Strikes   int `json:"strikes"`
	LeadHand  int `json:"leadHand"`
	RearHand  int `json:"rearHand"`
	SlipsLead int `json:"slipsLead"`
	SlipsRear int `json:"slipsRear"`
	Defences  int `json:"defences"`
	Easy      int `json:"easy" doc:"s at up to 45 % effort"`
	Moderate  int `json:"moderate" doc:"s at up to 65 %"`
	Hard      int `json:"hard" doc:"s over that"`
	Open      int `json:"open" doc:"s of own drills, whose strikes are not counted here"`
}

// Efforts up to which a block counts as easy, and as moderate. Assumed.
const (
	easyUpTo     = 0.45
	moderateUpTo = 0.65
)

// Trainer is whoever a session is looked at for: somebody of an age, with these cautions, on bags of each kind.
type Trainer struct {
	Age      trainee.AgeBand
	Cautions []caution.Type
	Ability  trainee.Ability
	Bag      func(rig.Kind) drill.Floor
}

// Anybody is a beginner without cautions, on the bag that each kind begins with.
func Anybody() Trainer {
	a := trainee.Start(trainee.Beginner)
	return Trainer{Age: trainee.Adult, Ability: a, Bag: func(kind rig.Kind) drill.Floor {
		m := kind.Model()
		return drill.Floor{Bag: m.Everyday.Rig, Place: m.Place.Place, Ability: a, Seed: 1, Undrawn: true}
	}}
}

// counter adds up blocks; the same block is laid out once.
type counter struct {
	who   Trainer
	bag   rig.Kind
	known map[Block]count
}

// count is the amount of work of one block, or why it cannot be done.
type count struct {
	strikes, lead, rear, slipsLead, slipsRear, defences int

	effort  float64
	seconds float64 // until its last repetition is done
	refused error
}

func (c *counter) block(b Block) count {
	if found, ok := c.known[b]; ok {
		return found
	}
	n := c.lay(b)
	c.known[b] = n
	return n
}

func (c *counter) lay(b Block) count {
	if b.Activity != "" {
		return count{effort: b.Activity.Doing().Effort}
	}
	kind := c.bag
	if b.Drill != "" {
		kind = b.For()
	} else if kind == "" {
		kind = rig.Hanging // a combination for whichever bag: counted as the hands pace it
	}
	p, err := b.Plan(kind)
	if err != nil || p == nil {
		return count{refused: err, effort: ownEffort}
	}
	on := c.who.Bag(kind)
	if p, err = p.For(on); err != nil {
		return count{refused: err}
	}
	t, err := p.Lay(on)
	if err != nil {
		return count{refused: err}
	}
	n := count{effort: Effort(p), seconds: (t.End - t.Start).Seconds()}
	reps := 0
	for _, e := range t.Events {
		if e.Kind != drill.Strike {
			continue
		}
		n.strikes++
		reps = max(reps, e.Rep+1)
		if e.Hand != drill.Rear {
			n.lead++
		}
		if e.Hand != drill.Lead {
			n.rear++
		}
	}
	if d, ok := p.(drill.CombinationDrill); ok {
		line, err := combo.Parse(d.Text)
		if err == nil {
			each := combo.Balanced(line.Moves(combo.Orthodox))
			n.slipsLead, n.slipsRear, n.defences = reps*each.SlipsLead, reps*each.SlipsRear, reps*each.Defences
		}
	}
	return n
}

// ownEffort is the effort of a drill that is not known here: half power, at which everything is learned.
const ownEffort = 0.5

// Effort is the share of what somebody can do that a drill asks for, by its pace mode where it says nothing.
func Effort(p drill.Plan) float64 {
	switch d := p.(type) {
	case drill.CombinationDrill:
		return d.EffortShare()
	case drill.SpeedBagDrill:
		if d.Effort > 0 {
			return d.Effort
		}
	}
	return ownEffort
}

// Totals adds a session up for somebody.
func (s Session) Totals(who Trainer) Totals {
	c := counter{who, s.Bag, map[Block]count{}}
	t := Totals{Seconds: s.Seconds()}
	for i, r := range s.Rounds {
		if i+1 < len(s.Rounds) {
			t.Resting += r.Rest
		}
		for _, b := range r.Blocks {
			n := c.block(b)
			if b.OnBag() {
				t.OnBag += b.Seconds
			}
			if b.Role == Own {
				t.Open += b.Seconds
			}
			switch {
			case n.effort <= easyUpTo:
				t.Easy += b.Seconds
			case n.effort <= moderateUpTo:
				t.Moderate += b.Seconds
			default:
				t.Hard += b.Seconds
			}
			t.Strikes += n.strikes
			t.LeadHand += n.lead
			t.RearHand += n.rear
			t.SlipsLead += n.slipsLead
			t.SlipsRear += n.slipsRear
			t.Defences += n.defences
		}
	}
	return t
}

// Remark is something that a coach should know of a session before it is run.
type Remark struct {
	Round int    `json:"round" doc:"from 0; -1 for the whole session"`
	Block int    `json:"block" doc:"from 0; -1 for the whole round"`
	Text  string `json:"text"`
	Bars  bool   `json:"bars" doc:"it cannot be kept or run like that"`
	Set   *Fix   `json:"set" doc:"what would mend it; null where nothing does in one step"`
}

// Fix is a change of one figure of a round.
type Fix struct {
	Field string `json:"field" enum:"seconds,rest"`
	To    int    `json:"to"`
	Say   string `json:"say" doc:"on the button"`
}

// What a session should keep to (common practice, but where a line says so).
const (
	restFull   = 60  // after a round of three minutes
	youngRound = 120 // rounds of the young, and of conditioning
	manyRounds = 8
	youngMost  = 6 // rounds on the bag for the young. Assumed
)

// Remarks says what stands against a session for somebody.
func (s Session) Remarks(who Trainer) []Remark {
	c := counter{who, s.Bag, map[Block]count{}}
	list := []Remark{}
	work, bare := 0, 0
	for i, r := range s.Rounds {
		if r.Kind == Work {
			work++
			if r.Emphasis == "" && !r.OwnDrills() {
				bare++
			}
		}
		list = append(list, r.remarks(i, i+1 < len(s.Rounds) && s.Rounds[i+1].effortful(), who)...)
		for j, b := range r.Blocks {
			if text, bars := c.against(b); text != "" {
				list = append(list, Remark{Round: i, Block: j, Text: text, Bars: bars})
			}
		}
	}
	say := func(format string, args ...any) {
		list = append(list, Remark{Round: -1, Block: -1, Text: fmt.Sprintf(format, args...)})
	}
	if !slices.ContainsFunc(s.Rounds, func(r Round) bool { return r.Kind == WarmUp }) && work > 0 {
		say("There is no warm-up: about three minutes off the bag come first, or one soft round on it.")
	}
	if bare > 0 {
		say("%s without an emphasis: people left alone hit at random.", rounds(bare))
	}
	switch {
	case who.Age.Minor() && work > youngMost:
		say("%d rounds are a lot for the young: six at most. Keep an adult close.", work)
	case work > manyRounds && !s.mixed():
		say("%d rounds on the bag are many: four to eight are usual.", work)
	}
	return list
}

// mixed says whether people change between bag and floor in it, so that nobody does every round on a bag.
func (s Session) mixed() bool { return slices.ContainsFunc(s.Rounds, Round.OwnDrills) }

func rounds(n int) string {
	if n == 1 {
		return "One round is"
	}
	return fmt.Sprintf("%d rounds are", n)
}

// remarks of a round on its own: whether it adds up, whether it is too long, whether the rest after it is enough.
func (r Round) remarks(i int, goesOn bool, who Trainer) []Remark {
	var list []Remark
	if taken := r.Taken(); taken != r.Seconds {
		list = append(list, Remark{i, -1, "The blocks do not fill the round: " + misfit(taken, r.Seconds) + ".", true,
			&Fix{"seconds", taken, "Make the round " + clock(taken)}})
	}
	if !r.effortful() {
		return list
	}
	young := who.Age.Minor()
	if young && r.Seconds > youngRound {
		list = append(list, Remark{i, -1, fmt.Sprintf("%s is long for the young: rounds of two minutes.",
			clock(r.Seconds)), false, &Fix{"seconds", youngRound, "Make it 2:00"}})
	}
	if usual := UsualRest(r.Seconds); goesOn && r.Rest < usual {
		list = append(list, Remark{i, -1, fmt.Sprintf("A rest of %d s is shorter than usual: %d s after a round of %s.",
			r.Rest, usual, clock(r.Seconds)), false, &Fix{"rest", usual, fmt.Sprintf("Rest %d s", usual)}})
	}
	return list
}

// effortful says whether a round takes a rest before another one.
func (r Round) effortful() bool { return r.Kind == Work || r.Kind == Finisher }

// UsualRest (s) after a round: a minute after three, half a minute after one of half a minute to two, to whole five
// seconds. Only the first is common practice, the scale below it is assumed.
func UsualRest(seconds int) int {
	return min(restFull, max(15, (seconds/3+4)/5*5))
}

// against says what stands against a block, and whether it bars it.
func (c *counter) against(b Block) (string, bool) {
	if b.Activity != "" {
		if b.Activity.Spares(c.who.Cautions) {
			return b.Title() + " is held back for a caution.", false
		}
		return "", false
	}
	if c.bag != "" && b.Drill != "" && b.For() != c.bag {
		return fmt.Sprintf("%s is a drill for the %s.", b.Title(), b.For().Model().Name), true
	}
	n := c.block(b)
	if n.refused != nil {
		return refusedText(n.refused), true
	}
	kind := c.bag
	if b.Drill != "" {
		kind = b.For()
	}
	if kind == "" {
		kind = rig.Hanging
	}
	if p, err := b.Plan(kind); err == nil && p != nil && len(c.who.Cautions) > 0 {
		if held := caution.Spare(c.who.Cautions, p, c.who.Bag(kind)).Held; held != "" {
			return "Held back: " + held + ".", false
		}
	}
	if b.Times > 0 && n.seconds > float64(b.Seconds) {
		return fmt.Sprintf("%d reps take about %s, and %s are set aside.", b.Times, clock(int(n.seconds+0.5)),
			clock(b.Seconds)), false
	}
	if c.who.Age.Minor() && n.effort > moderateUpTo {
		return "Hard work is not for the young: half power.", false
	}
	return "", false
}
