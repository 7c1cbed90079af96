package server

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
	"melodromos/core/words"
	"melodromos/library"
	"melodromos/store"
)

// Summary is what the log shows of a run, and what the next drill is chosen by.
type Summary struct {
	Headline string  `json:"headline"`
	Planned  int     `json:"planned"`
	Hits     int     `json:"hits"`
	Clean    int     `json:"clean"`
	Longest  int     `json:"longest"`
	Share    float64 `json:"share" doc:"of the strikes, those that met the bag: counted, or estimated where only times came in; 0 where nothing is judged"`
	Give     float64 `json:"give,omitempty" doc:"by how much an estimated share may be off, either way"`
	Counts   bool    `json:"counts" doc:"it moves what is known of somebody, and the ladder: a judged round that came to its bell"`
	Unjudged bool    `json:"unjudged,omitempty" doc:"no hits came in, or from a source too coarse to tell clean from late: then share says nothing"`
	Wild     bool    `json:"wild,omitempty" doc:"the coach marked it so"`
	Passes   int     `json:"passes,omitempty" doc:"of a slip bag, where nothing is struck: the figures above count them"`
	Tempo    float64 `json:"tempo,omitempty" doc:"strikes a minute that were held on the bag's clock"`
	Asked    float64 `json:"asked,omitempty" doc:"strikes a minute that were planned"`

	Rig *rig.RoundFit `json:"rig,omitempty" doc:"what the round tells of the bag"`
}

// Review is a judged run.
type Review struct {
	Run       Run        `json:"run"`
	StartedAt *time.Time `json:"startedAt"`
	Zone      string     `json:"zone"`
	Headline  string     `json:"headline"`
	Remarks   []string   `json:"remarks"`
	Recap     []string   `json:"recap" doc:"three things to take home"`
	Summary   Summary    `json:"summary"`
	UntilUS   int64      `json:"untilUs" doc:"how far the run came"`

	Early     int `json:"early"`
	Late      int `json:"late"`
	Missed    int `json:"missed"`
	Extra     int `json:"extra"`
	WrongHand int `json:"wrongHand"`

	KeptBy     string      `json:"keptBy" enum:"bag,beat" doc:"whose clock it was judged on"`
	OnScreen   bool        `json:"onScreen" doc:"the bag was on the screen alone"`
	Judged     bool        `json:"judged" doc:"there were hits, from a source that tells clean from late"`
	Ended      string      `json:"ended" enum:"bell,stopped,vanished,"`
	Tempo      *float64    `json:"tempo" doc:"strikes a minute that were held, on the bag's clock"`
	Asked      *float64    `json:"asked" doc:"strikes a minute that were planned"`
	Trend      *float64    `json:"trend" doc:"change of the tempo over the round as a share, quicker positive"`
	Slips      *float64    `json:"slips" doc:"share of the moves against a slip bag that the coach did not mark as touched or missed"`
	LetGo      int         `json:"letGo" doc:"come-backs let through against the plan"`
	Predicted  *float64    `json:"predicted" doc:"share that was to meet the bag, by the models alone"`
	OffsetKept bool        `json:"offsetKept" doc:"the latency is known, a steady lateness counts"`
	Offset     float64     `json:"offset" doc:"s, taken off before judging"`
	Bias       *float64    `json:"bias" doc:"s"`
	Spread     *float64    `json:"spread" doc:"s"`
	Drift      *float64    `json:"drift" doc:"s a minute"`
	Variety    *float64    `json:"variety"`
	Inbound    *float64    `json:"inbound"`
	Clock      *float64    `json:"clock" doc:"s, the timekeeper's part of the spread"`
	Motor      *float64    `json:"motor" doc:"s, the hand's part"`
	Strikes    []StrikeOut `json:"strikes"`
	Hits       []HitOut    `json:"hits"`
	Marks      []MarkOut   `json:"marks"`
	Hands      []GroupOut  `json:"hands"`
	Positions  []GroupOut  `json:"positions"`
	Breaks     []BreakOut  `json:"breaks"`
	Paces      []PaceOut   `json:"paces"`
}

// StrikeOut is a planned strike and what became of it.
type StrikeOut struct {
	At      float64  `json:"at"`
	Hand    string   `json:"hand" enum:"lead,rear,both"`
	Face    string   `json:"face" enum:"front,behind"`
	Pin     bool     `json:"pin" doc:"a trap"`
	Still   bool     `json:"still" doc:"on a bag at rest"`
	Window  float64  `json:"window"`
	Verdict string   `json:"verdict" enum:"clean,early,late,wrongHand,missed"`
	Error   *float64 `json:"error" doc:"s after the offset, late positive"`
}

// HitOut is a captured hit; extra belongs to no strike.
type HitOut struct {
	At    float64 `json:"at" doc:"s on the run's clock, the offset taken off"`
	Hand  string  `json:"hand"`
	Extra bool    `json:"extra"`
}

// MarkOut is a coach's mark.
type MarkOut struct {
	At   float64 `json:"at"`
	Kind string  `json:"kind" enum:"missed,offLine,wild,touched,found"`
}

// GroupOut is what one hand, or one position of the pattern, shows.
type GroupOut struct {
	Hand     string   `json:"hand"`
	Position int      `json:"position"`
	Planned  int      `json:"planned"`
	Clean    int      `json:"clean"`
	Bias     *float64 `json:"bias"`
	Spread   *float64 `json:"spread"`
}

// BreakOut is a strike that ended a run of clean ones.
type BreakOut struct {
	At      float64  `json:"at"`
	Run     int      `json:"run"`
	Verdict string   `json:"verdict"`
	Recover *float64 `json:"recover" doc:"s"`
}

// PaceOut is the tempo struck in a stretch.
type PaceOut struct {
	From  float64  `json:"from"`
	Hits  int      `json:"hits"`
	Tempo *float64 `json:"tempo"`
}

// LogRow is a run in the log.
type LogRow struct {
	ID        string     `json:"id"`
	DrillID   string     `json:"drillId"`
	DrillName string     `json:"drillName"`
	Trainee   string     `json:"trainee"`
	TraineeID string     `json:"traineeId"`
	RigName   string     `json:"rigName"`
	State     string     `json:"state" enum:"ready,running,paused,done,stopped"`
	Ending    string     `json:"ending" enum:"bell,stopped,vanished,"`
	StartedAt *time.Time `json:"startedAt"`
	CreatedAt time.Time  `json:"createdAt"`
	Zone      string     `json:"zone"`
	Summary   *Summary   `json:"summary,omitempty"`
}

func judgeRun(gym *store.Gym, p runParts, stop func() error) (judge.Round, []store.Mark, error) {
	rows, err := gym.Hits(p.ID)
	if err != nil {
		return judge.Round{}, nil, err
	}
	marks, err := gym.Marks(p.ID)
	if err != nil {
		return judge.Round{}, nil, err
	}
	latency := int64(0)
	if p.LatencyUS != nil {
		latency = *p.LatencyUS
	}
	hits := make([]judge.Hit, len(rows))
	for i, h := range rows {
		hits[i].At = drill.Micros(h.AtUS - latency).Seconds()
		if h.Hand != nil {
			hits[i].Hand = drill.Hand(*h.Hand)
		}
		if h.Launch != nil {
			hits[i].Launch = *h.Launch
		}
	}
	t, err := gym.Trainee(p.TraineeID)
	if err != nil {
		return judge.Round{}, nil, err
	}
	until := drill.Micros(p.Now(time.Now()))
	return judge.JudgeRound(p.timeline, hits, until, judge.Source{
		Latency: p.LatencyUS != nil, Screen: drill.OnScreen(p.recorder(), p.playing()), ForceSpread: trainee.Start(trainee.Band(t.Band)).Force, Stop: stop,
	}), marks, nil
}

// ended is how a run ended, at its bell where it still runs: what is judged then is what has come so far.
func (p runParts) ended() judge.Ended {
	if p.Ending == "" {
		return judge.AtBell
	}
	return judge.Ended(p.Ending)
}

// slipsOf is how the moves against a slip bag went, by the coach's marks.
func slipsOf(p runParts, marks []store.Mark) judge.Slips {
	var touches []float64
	for _, m := range marks {
		if m.Kind == "touched" || m.Kind == "missed" {
			touches = append(touches, drill.Micros(m.AtUS).Seconds())
		}
	}
	return judge.JudgeSlips(p.timeline, touches, drill.Micros(p.Now(time.Now())))
}

func summaryOf(r judge.Round, p runParts, marks []store.Mark) Summary {
	wild := slices.ContainsFunc(marks, func(m store.Mark) bool { return m.Kind == "wild" })
	if s := slipsOf(p, marks); len(r.Planned) == 0 && s.Passes > 0 && p.recorder() != drill.Nothing {
		return Summary{
			Headline: s.Headline(), Planned: s.Passes, Hits: s.Passes - s.Touched, Clean: s.Passes - s.Touched, Longest: s.Longest,
			Share: s.Share(), Wild: wild, Passes: s.Passes, Counts: p.ended() == judge.AtBell,
		}
	}
	s := Summary{Headline: r.Logged(p.ended(), p.recorder()), Planned: len(r.Planned), Hits: len(r.Hits), Clean: r.Clean, Longest: r.Longest, Wild: wild, Counts: r.Counts(p.ended()), Unjudged: !r.Judged()}
	if share := r.Share(); !math.IsNaN(share) {
		s.Share = share
	}
	if f := r.Followed; f != nil {
		s.Give = f.Give
		if !math.IsNaN(f.Held.Tempo) {
			s.Tempo, s.Asked = f.Held.Tempo, f.Held.Asked
		}
		if s.Counts {
			if fit, ok := rig.FitRound(p.bag, f.Steps, p.meeting()); ok {
				s.Rig = &fit
			}
		}
	}
	return s
}

// meeting is how the drill of a run meets a speed bag.
func (p runParts) meeting() rig.Meeting {
	if d, ok := p.plan.(drill.Drill); ok {
		return d.Meeting()
	}
	return everyday(p.bag.Kind())
}

// Summarise stores what the log shows of an ended run, and what it tells of whoever was on the bag. One that was removed from the log
// tells nothing.
func Summarise(gym *store.Gym, run store.Run) error {
	p, err := open(run)
	if err != nil {
		return err
	}
	round, marks, err := judgeRun(gym, p, nil) // what is kept is judged to the end
	if err != nil {
		return err
	}
	sum := summaryOf(round, p, marks)
	doc, err := json.Marshal(sum)
	if err != nil {
		return err
	}
	if _, err = gym.UpdateRun(run.ID, func(r *store.Run) error { r.Summary = doc; return nil }); err != nil {
		return err
	}
	if !sum.Counts || run.RemovedAt != nil {
		return gym.SetFindings(run.ID, nil)
	}
	return learn(gym, p, round)
}

// learn keeps what a round shows of whoever was on the bag. A simulated sensor shows nothing of anybody, but in the demo gym.
func learn(gym *store.Gym, p runParts, round judge.Round) error {
	row, err := gym.Row()
	if err != nil || p.Source == "standin" && !row.Demo {
		return err
	}
	t, err := gym.Trainee(p.TraineeID)
	if err != nil {
		return err
	}
	rows, err := gym.Findings(t.ID)
	if err != nil {
		return err
	}
	rows = slices.DeleteFunc(rows, func(f store.Finding) bool { return f.RunID != nil && *f.RunID == p.ID }) // not by itself
	return gym.SetFindings(p.ID, findingsOf(p, round, abilityWith(t, p.bag.Kind(), evidenceOf(rows), p.CreatedAt)))
}

func (s *Server) registerReview(api huma.API) {
	huma.Get(api, "/api/runs/{id}/review", func(ctx context.Context, in *ByID) (*one[Review], error) {
		row, err := who(ctx).gym.Run(in.ID)
		return single(ctx, row, err, func(r store.Run) (Review, error) { return s.review(ctx, r) })
	})
	huma.Get(api, "/api/runs", func(ctx context.Context, in *struct {
		Trainee string    `query:"trainee" doc:"only this trainee's"`
		Before  time.Time `query:"before" doc:"only runs made before"`
		Removed bool      `query:"removed" doc:"those that were removed from the log, instead of the others"`
		Limit   int       `query:"limit" minimum:"1" maximum:"200" default:"50"`
	}) (*many[LogRow], error) {
		gym := who(ctx).gym
		if in.Trainee != "" {
			if _, err := gym.Trainee(in.Trainee); err != nil {
				return nil, refused(ctx, "", err)
			}
		}
		rows, err := gym.Runs(store.RunFilter{TraineeID: in.Trainee, Before: in.Before, Removed: in.Removed, Limit: in.Limit})
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		n, err := namesOf(gym)
		if err != nil {
			return nil, refused(ctx, "", err)
		}
		return listed(ctx, rows, err, sure(n.logRow))
	})
}

// names of a gym's trainees and rigs by id, for lists.
type names struct{ trainees, rigs map[string]string }

func namesOf(gym *store.Gym) (names, error) {
	n := names{map[string]string{}, map[string]string{}}
	trainees, err := gym.Trainees()
	if err != nil {
		return n, err
	}
	for _, t := range trainees {
		n.trainees[t.ID] = t.Name
	}
	for _, retired := range []bool{false, true} { // the log outlives a rig
		rigs, err := gym.Rigs(retired)
		if err != nil {
			return n, err
		}
		for _, r := range rigs {
			n.rigs[r.ID] = r.Name
		}
	}
	return n, nil
}

func (n names) logRow(r store.Run) LogRow {
	row := LogRow{
		ID: r.ID, DrillID: r.DrillID, DrillName: r.DrillName, Trainee: n.trainees[r.TraineeID], TraineeID: r.TraineeID,
		RigName: n.rigs[r.RigID], State: string(r.State), Ending: string(r.Ending), StartedAt: r.StartedAt, CreatedAt: r.CreatedAt, Zone: r.Zone,
	}
	var sum Summary
	if len(r.Summary) > 0 && json.Unmarshal(r.Summary, &sum) == nil {
		row.Summary = &sum
	}
	return row
}

func (s *Server) review(ctx context.Context, row store.Run) (Review, error) {
	p, err := open(row)
	if err != nil {
		return Review{}, err
	}
	round, marks, err := judgeRun(who(ctx).gym, p, who(ctx).stop)
	if err != nil {
		return Review{}, err
	}
	if err := who(ctx).stop(); err != nil {
		return Review{}, err
	}
	run, err := s.runOut(ctx, row)
	if err != nil {
		return Review{}, err
	}
	run.Cycle.Starts = some(round.Begun(p.timeline, run.Cycle.Starts))
	sum := summaryOf(round, p, marks)
	v := Review{
		Run: run, StartedAt: row.StartedAt, Zone: row.Zone, Headline: sum.Headline, Remarks: round.Remarks(), Recap: some(library.Recap(p.plan)), Summary: sum,
		KeptBy: string(round.By), OnScreen: drill.OnScreen(p.recorder(), p.playing()) && round.By == drill.ByBag, Judged: round.Judged() || sum.Passes > 0, Ended: string(p.Ending), Predicted: row.Predicted,
		UntilUS: run.ClockUS, Early: round.Early, Late: round.Late, Missed: round.Missed, Extra: round.Extra, WrongHand: round.WrongHand,
		OffsetKept: round.Kept, Offset: round.Offset, Bias: number(round.Bias), Spread: number(round.Spread), Drift: number(round.Drift),
		Variety: number(round.Variety), Inbound: number(round.Inbound), Clock: number(round.Measures.Clock), Motor: number(round.Motor),
		Strikes: []StrikeOut{}, Hits: []HitOut{}, Marks: []MarkOut{}, Breaks: []BreakOut{}, Paces: []PaceOut{},
		Hands: groupsOut(round.Hands), Positions: groupsOut(round.Positions),
	}
	if f := round.Followed; f != nil {
		v.Tempo, v.Asked, v.Trend, v.LetGo = number(f.Held.Tempo), number(f.Held.Asked), number(f.Held.Trend), f.LetGo
	}
	if c, ok := p.plan.(drill.Combination); ok {
		if pace := round.Pace(c.Tempo, c.Slower); pace != "" {
			v.Remarks = append(v.Remarks, pace)
		}
	}
	if s := slipsOf(p, marks); s.Passes > 0 {
		v.Slips = number(s.Share())
		if len(round.Planned) > 0 {
			v.Remarks = append(v.Remarks, "Against the bag, by your marks: "+words.Lower(s.Headline()))
		}
	}
	if v.Remarks == nil {
		v.Remarks = []string{}
	}
	for i, strike := range round.Planned {
		v.Strikes = append(v.Strikes, StrikeOut{At: strike.At, Hand: string(strike.Hand), Face: string(strike.Face), Pin: strike.Pin, Still: strike.Still, Window: strike.Window, Verdict: string(round.Strikes[i])})
	}
	for _, h := range round.Hits {
		v.Hits = append(v.Hits, HitOut{At: h.At - round.Offset, Hand: string(h.Hand), Extra: true})
	}
	for _, m := range round.Matches {
		v.Strikes[m.Strike].Error = number(m.Error)
		v.Hits[m.Hit].Extra = false
	}
	for _, m := range marks {
		v.Marks = append(v.Marks, MarkOut{drill.Micros(m.AtUS).Seconds(), m.Kind})
	}
	for _, b := range round.Breaks {
		v.Breaks = append(v.Breaks, BreakOut{b.At, b.Run, string(b.Verdict), number(b.Recover)})
	}
	for _, t := range round.Paces {
		v.Paces = append(v.Paces, PaceOut{t.From, t.Hits, number(t.Tempo)})
	}
	return v, nil
}

func groupsOut(groups []judge.Group) []GroupOut {
	list := []GroupOut{}
	for _, g := range groups {
		list = append(list, GroupOut{string(g.Hand), g.Position, g.Planned, g.Clean, number(g.Bias), number(g.Spread)})
	}
	return list
}
