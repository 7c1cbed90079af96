package calc

import (
	"context"
	"math"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/rig"
)

// Limits of what is judged at once: several times what the longest round holds, and windows up to a slow pendulum's
// (assumed).
const maxJudged = 20_000

// maxWork bounds the pairs that are weighed, so that one question takes seconds at the most.
const maxWork = 2_000_000

// mostCount is the greatest rebound count of a round that is judged on the bag's clock, waits and all.
const mostCount = 15

var (
	timeLimits   = input.Limits{Min: -86400, Max: 86400, Unit: "s"}
	windowLimits = input.Limits{Min: 0, Max: 10, Open: true, Unit: "s"}
	shareLimits  = input.Limits{Min: 0, Max: 1}
)

type judgeOut struct {
	Clean      int        `json:"clean"`
	Late       int        `json:"late"`
	Early      int        `json:"early"`
	Missed     int        `json:"missed"`
	Extra      int        `json:"extra"`
	WrongHand  int        `json:"wrongHand"`
	Offset     float64    `json:"offset"`
	Bias       *float64   `json:"bias"`
	Spread     *float64   `json:"spread"`
	LongestRun int        `json:"longestRun"`
	Drift      *float64   `json:"drift"`
	Matches    [][2]int   `json:"matches"`
	Faults     []faultOut `json:"faults"`
	Tempo      *float64   `json:"tempo"`
	Launch     *float64   `json:"launch"`
	Trend      *float64   `json:"trend"`
	LetGo      *int       `json:"letGo"`
	Met        *float64   `json:"met"`
}

// faultOut is a fault that the round shows, the most costly first.
type faultOut struct {
	Code     fault.Code `json:"code"`
	Evidence string     `json:"evidence"`
	Remedy   string     `json:"remedy"`
}

// cycle is the interval and the count between strikes that name none of their own.
type cycle struct {
	bag     rig.Rig
	meeting rig.Meeting
	launch  float64
}

func judged(ctx context.Context, o *input.Object) (any, error) {
	byBag := o.ChoiceOr("clock", string(drill.ByBeat), string(drill.ByBeat), string(drill.ByBag)) == string(drill.ByBag)
	var c cycle
	if byBag {
		var err error
		if c, err = readCycle(o.Object("cycle")); err != nil {
			return nil, err
		}
	}
	var strikes []judge.Strike
	most := c.meeting.Rebounds
	for _, row := range o.List("strikes", maxJudged) {
		s := judge.Strike{At: row.Number("at", timeLimits), Window: row.Number("window", windowLimits), Hand: hand(row)}
		if byBag {
			c.follow(row, &s)
			most = max(most, s.Count)
		}
		strikes = append(strikes, s)
		o.Keep(row.Done())
	}
	var hits []judge.Hit
	for _, row := range o.List("hits", maxJudged) {
		h := judge.Hit{At: row.Number("at", timeLimits), Hand: hand(row)}
		if byBag {
			h.Launch = row.NumberOr("launch", rig.LaunchLimits, 0)
		}
		hits = append(hits, h)
		o.Keep(row.Done())
	}
	remove := o.FlagOr("removeOffset", true)
	options := judge.Options{KeepOffset: !remove, Stop: ctx.Err}
	if byBag {
		return c.judged(o, strikes, hits, most, options)
	}
	if err := o.Done(); err != nil {
		return nil, err
	}
	if judge.PairsInReach(strikes, hits, maxWork) == maxWork {
		return nil, input.Refuse("strikes",
			"expected windows that do not overlap so much: too many hits could belong to each strike")
	}
	r := judge.Judge(strikes, hits, options)
	return judgement(r, named(judge.RoundOf(r, strikes, hits, first(strikes), last(strikes, hits), !remove), "")), nil
}

// named are the faults of a round.
func named(r judge.Judgement, kind rig.Kind) []faultOut {
	list := []faultOut{}
	for _, f := range fault.Find(fault.Case{Judgement: r, Kind: kind}) {
		list = append(list, faultOut{f.Code, f.Evidence, f.Remedy})
	}
	return list
}

// first returns the time (s) of the round's first strike.
func first(strikes []judge.Strike) float64 {
	at := math.Inf(1)
	for _, s := range strikes {
		at = math.Min(at, s.At)
	}
	return at
}

func last(strikes []judge.Strike, hits []judge.Hit) float64 {
	at := math.Inf(-1)
	for _, s := range strikes {
		at = math.Max(at, s.At)
	}
	for _, h := range hits {
		at = math.Max(at, h.At)
	}
	return at
}

func readCycle(o *input.Object) (cycle, error) {
	var c cycle
	var err error
	if c.bag, c.meeting, err = bagAndMeeting(o); err != nil {
		return c, err
	}
	if c.bag.Kind() == rig.Slip {
		return c, o.Under(input.Refuse("rig.kind", "expected a bag that is struck: a slip bag keeps a time of its own"))
	}
	c.launch = o.Number("launch", rig.LaunchLimits)
	if c.bag.Kind() != rig.Speed {
		c.meeting.Rebounds = o.WholeOr("rebounds", 1, mostCount, 1)
	}
	if err := o.Done(); err != nil {
		return c, err
	}
	if c.meeting.Rebounds > mostCount {
		return c, o.Under(input.Refuse("rebounds", "expected at most %d rebounds from strike to strike", mostCount))
	}
	_, err = c.bag.Returns(c.launch, c.meeting, 1)
	return c, o.Under(err)
}

// follow reads how a strike follows the one before it.
func (c cycle) follow(row *input.Object, s *judge.Strike) {
	s.Count = row.WholeOr("rebounds", 1, mostCount, c.meeting.Rebounds)
	s.Launch = row.NumberOr("launch", rig.LaunchLimits, c.launch)
	s.Still = row.FlagOr("rest", false)
	step := 1
	if c.bag.Kind() == rig.Speed {
		step = 2 // there and back again
	}
	if s.Count += step * row.WholeOr("waits", 0, mostCount, 0); s.Count > mostCount {
		row.Fail("waits", "expected fewer: at most %d rebounds from strike to strike", mostCount)
	}
}

func (c cycle) judged(o *input.Object, strikes []judge.Strike, hits []judge.Hit, most int,
	options judge.Options) (any, error) {
	chain := judge.Chain{
		End:         o.NumberOr("end", timeLimits, math.Inf(1)),
		ForceSpread: o.NumberOr("forceSpread", shareLimits, judge.DefaultForceSpread),
	}
	if err := o.Done(); err != nil {
		return nil, err
	}
	var err error
	if chain.Bag, err = rig.NewComeBacks(c.bag, c.meeting, most); err != nil {
		return nil, err
	}
	if len(strikes) > 0 && !math.IsInf(chain.End, 1) {
		strikes = c.goOn(strikes, len(hits), chain.Bag)
	}
	r := judge.JudgeBag(strikes, hits, chain, options)
	end := chain.End
	if math.IsInf(end, 1) {
		end = last(strikes, hits)
	}
	round := judge.RoundOf(r, strikes, hits, first(strikes), end, options.KeepOffset)
	c.settle(round.Planned)
	return judgement(r, named(round, c.bag.Kind())), nil
}

// settle tells how long the bag takes to hang still before strikes that meet it at rest, where it is a ball that does.
func (c cycle) settle(strikes []judge.Strike) {
	ball, ok := c.bag.(interface {
		Settle(float64) (float64, error)
	})
	for i := 1; ok && i < len(strikes); i++ {
		if !strikes[i].Still || strikes[i-1].Launch == 0 {
			continue
		}
		if least, err := ball.Settle(strikes[i-1].Launch); err == nil && !math.IsInf(least, 1) {
			strikes[i].Least = least
		}
	}
}

// goOn lets a plan that ends by the bell go on for as many strikes as there are hits: on a bag that was struck harder
// there are more.
func (c cycle) goOn(strikes []judge.Strike, hits int, bag *rig.ComeBacks) []judge.Strike {
	last := strikes[0]
	for _, s := range strikes {
		if s.At > last.At {
			last = s
		}
	}
	apart := bag.At(bag.Place(c.meeting.Rebounds), c.launch)
	for k := 1; len(strikes) < hits; k++ {
		strikes = append(strikes, judge.Strike{At: last.At + float64(k)*apart, Window: last.Window,
			Count: c.meeting.Rebounds, Launch: c.launch, Spare: true})
	}
	return strikes
}

// judgement writes a result down; what cannot be told is null.
func judgement(r judge.Result, faults []faultOut) judgeOut {
	out := judgeOut{
		Clean: r.Clean, Late: r.Late, Early: r.Early, Missed: r.Missed, Extra: r.Extra, WrongHand: r.WrongHand,
		Offset: r.Offset, Bias: orNull(r.Bias), Spread: orNull(r.Spread), LongestRun: r.Longest, Drift: orNull(r.Drift),
		Matches: [][2]int{}, Faults: faults,
	}
	for _, m := range r.Matches {
		out.Matches = append(out.Matches, [2]int{m.Strike, m.Hit})
	}
	if f := r.Followed; f != nil {
		out.Tempo, out.Launch, out.Trend, out.LetGo, out.Met = orNull(f.Held.Tempo), orNull(f.Held.Launch),
			orNull(f.Held.Trend), &f.LetGo, orNull(f.Met)
	} else {
		out.Tempo = orNull(r.Tempo()) // whether the bag was met, no moment of the beat tells
	}
	return out
}

func hand(o *input.Object) drill.Hand {
	return drill.Hand(o.ChoiceOr("hand", "", string(drill.Lead), string(drill.Rear)))
}
