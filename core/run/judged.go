package run

import (
	"math"
	"slices"
	"time"

	"melodromos/core/drill"
	"melodromos/core/fault"
	"melodromos/core/judge"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// MarkKind is something that a coach sees and marks.
type MarkKind string

// The marks: a strike was missed, the bag went off line or wild, the trainee was touched, order was found again,
// fists touched in a fist roll. What
// only an eye sees of a fault is marked by the fault's own name.
const (
	MarkMissed  MarkKind = "missed"
	MarkOffLine MarkKind = "offLine"
	MarkWild    MarkKind = "wild"
	MarkTouched MarkKind = "touched"
	MarkFound   MarkKind = "found"
	MarkFists   MarkKind = "fistsTouched"
)

// Values lists them.
func (MarkKind) Values() []MarkKind {
	list := []MarkKind{MarkMissed, MarkOffLine, MarkWild, MarkTouched, MarkFound, MarkFists}
	for _, c := range fault.Seen() {
		list = append(list, MarkKind(c))
	}
	return list
}

// Mark is a coach's mark on the round's clock.
type Mark struct {
	At   drill.Micros
	Kind MarkKind
}

// CapturedHit is one captured hit as its device told of it.
type CapturedHit struct {
	At     drill.Micros
	Hand   drill.Hand // "" where it is not known
	Launch float64    // m/s at which the bag was driven off; 0 where it is not known
}

// Record is a round with all that was captured in it.
type Record struct {
	Opened
	Hits    []CapturedHit
	Marks   []Mark
	Latency *drill.Micros // of the device, where it was measured
	Until   drill.Micros  // how far the round came
	Ended   judge.Ended
	Band    trainee.Band // of whoever was on the bag: how far their force scatters
	// what a coach says of single strikes, the newest last
	Corrected []judge.Correction
	Stop      func() error // asked in long loops; nil for never
}

// Summary holds the figures of a round that the log keeps and the next drill is chosen by.
type Summary struct {
	// Headline tells it in words. They are made of the figures where the summary is told, and are not kept.
	Headline string  `json:"headline"`
	Planned  int     `json:"planned"`
	Hits     int     `json:"hits"`
	Clean    int     `json:"clean"`
	Missed   int     `json:"missed"`
	Extra    int     `json:"extra"`
	Longest  int     `json:"longest" doc:"in a row"`
	Share    float64 `json:"share" doc:"of the strikes, those that met the bag: counted, or estimated where only times came in; 0 where nothing is judged"`
	Give     float64 `json:"give,omitempty" doc:"by how much an estimated share may be off, either way"`
	Counts   bool    `json:"counts" doc:"it moves what is known of somebody, and the ladder: a judged round that came to its bell"`
	Unjudged bool    `json:"unjudged,omitempty" doc:"no hits came in, or from a source too coarse to tell clean from late: then share says nothing"`
	Wild     bool    `json:"wild,omitempty" doc:"the coach marked it so"`
	Passes   int     `json:"passes,omitempty" doc:"of a slip bag, where nothing is struck: the figures above count them"`
	Tempo    float64 `json:"tempo,omitempty" doc:"strikes a minute that were held on the bag's clock"`
	Asked    float64 `json:"asked,omitempty" doc:"strikes a minute that were planned"`
	Offset   float64 `json:"offset,omitempty" doc:"s, taken off before judging"`

	Lasted float64 `json:"lasted,omitempty" doc:"s from the bell"`

	Faults []fault.Code `json:"faults,omitempty" doc:"what went wrong, the most costly first"`

	Rig *rig.RoundFit `json:"rig,omitempty" doc:"what the round tells of the bag"`

	Conclusion judge.Conclusion `json:"-"` // what could be judged of it; "" of a round that came in as a table
	Scored     int              `json:"-"` // strikes that count: all that came due, but for touches that are not scored
}

// Judged is a round with what became of it.
type Judged struct {
	Round   judge.Judgement
	Slips   judge.Slips
	Faults  []fault.Fault
	Summary Summary

	record Record
}

// Judge judges a round as far as it came. A round that goes on is judged as if its bell had rung now.
func (r Record) Judge() Judged {
	if r.Ended == "" {
		r.Ended = judge.AtBell
	}
	latency := drill.Micros(0)
	if r.Latency != nil {
		latency = *r.Latency
	}
	hits := make([]judge.Hit, len(r.Hits))
	for i, h := range r.Hits {
		hits[i] = judge.Hit{At: (h.At - latency).Seconds(), Hand: h.Hand, Launch: h.Launch}
	}
	j := Judged{record: r}
	j.Round = judge.JudgeRound(r.Timeline, hits, r.Until, judge.Source{
		Latency: r.Latency != nil, Screen: drill.OnScreen(r.By, r.Plays), ForceSpread: trainee.Start(r.Band).Force,
		Stop: r.Stop,
	})
	if r.By != drill.Nothing {
		j.Round.MarkMissed(r.marked(MarkMissed))
		j.Round.PassHarmless(r.marked(MarkFists), fistsSeen)
	}
	j.Round.Correct(r.Corrected)
	j.Slips = judge.JudgeSlips(r.Timeline, r.touches(), r.Until)
	j.Faults = fault.Find(r.faulty(j.Round))
	j.Summary = j.summary().Told(r.Ended)
	return j
}

// fistsSeen (s) is how long before a mark fists may have touched. Assumed.
const fistsSeen = 1.0

// faulty is a judged round with what the coach saw in it.
func (r Record) faulty(round judge.Judgement) fault.Case {
	f := fault.Case{Judgement: round, Kind: r.Bag.Kind(), FormFree: r.FormFree()}
	for _, m := range r.Marks {
		f.Marks = append(f.Marks, fault.Observation{At: m.At.Seconds(), What: fault.Code(m.Kind),
			Hurt: m.Kind == MarkTouched || m.Kind == MarkMissed})
	}
	return f
}

// marked returns the times (s) at which a kind of mark was set.
func (r Record) marked(kind MarkKind) []float64 {
	var at []float64
	for _, m := range r.Marks {
		if m.Kind == kind {
			at = append(at, m.At.Seconds())
		}
	}
	return at
}

// touches returns the times (s) at which the bag touched somebody, by the coach's marks.
func (r Record) touches() []float64 {
	var at []float64
	for _, m := range r.Marks {
		if m.Kind == MarkTouched || m.Kind == MarkMissed {
			at = append(at, m.At.Seconds())
		}
	}
	return at
}

// Told is a summary with its headline, of a round that came to its end in some way.
func (s Summary) Told(e judge.Ended) Summary {
	if s.Conclusion == "" {
		return s
	}
	r := judge.Gist{As: s.Conclusion, Share: s.Share, Give: s.Give, Clean: s.Clean, Of: s.Scored, Longest: s.Longest,
		Hits: s.Hits}
	s.Headline = r.Headline(e, s.Lasted)
	return s
}

func (j Judged) summary() Summary {
	r, round := j.record, j.Round
	wild := slices.ContainsFunc(r.Marks, func(m Mark) bool { return m.Kind == MarkWild })
	if s := j.Slips; len(round.Planned) == 0 && s.Passes > 0 && r.By != drill.Nothing {
		return Summary{
			Conclusion: judge.PassesCounted, Scored: s.Passes, Planned: s.Passes, Hits: s.Passes - s.Touched,
			Clean:  s.Passes - s.Touched,
			Missed: s.Touched, Longest: s.Longest,
			Share: s.Share(), Wild: wild, Passes: s.Passes, Counts: r.Ended == judge.AtBell,
			Lasted: round.To - round.From,
		}
	}
	s := Summary{
		Conclusion: round.Logged(r.By).As, Scored: len(round.Planned) - round.Harmless, Planned: len(round.Planned),
		Hits: len(round.Hits), Clean: round.Clean,
		Missed: round.Missed, Extra: round.Extra,
		Longest: round.Longest, Wild: wild, Counts: round.Counts(r.Ended), Unjudged: !round.Judged(),
		Offset: round.Offset, Lasted: round.To - round.From,
	}
	if share := round.Share(); !math.IsNaN(share) {
		s.Share = share
	}
	for _, f := range j.Faults {
		s.Faults = append(s.Faults, f.Code)
	}
	if f := round.Followed; f != nil {
		s.Give = f.Give
		if !math.IsNaN(f.Held.Tempo) {
			s.Tempo, s.Asked = f.Held.Tempo, f.Held.Asked
		}
		if s.Counts {
			if fit, ok := rig.FitRound(r.Bag, f.Steps, r.meeting()); ok {
				s.Rig = &fit
			}
		}
	}
	return s
}

// Shows returns what a round that counts tells of the person, given what was known of them before it; nothing of one
// that does not.
func (j Judged) Shows(a trainee.Ability, at time.Time) []trainee.Evidence {
	if !j.Summary.Counts {
		return nil
	}
	r := j.record
	return trainee.FromRound(j.Round.Heard(r.Timeline, r.Plan, r.Bag.Kind(), a, at), a)
}
