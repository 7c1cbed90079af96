package ledger

import (
	"encoding/json"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
	"melodromos/core/run"
	"melodromos/format"
	"melodromos/store"
)

// again judges an ended round once more.
func again(gym *store.Gym, runID string) error {
	_, err := Change(gym, runID, func(*store.Run) error { return nil })
	return err
}

// judgedBy holds the inputs of a round's judgement, and its result.
type judgedBy struct {
	Drill    json.RawMessage `json:"drill"`
	Timeline json.RawMessage `json:"timeline"`
	Latency  *int64          `json:"latencyUs"`
	Summary  *run.Summary    `json:"summary,omitempty"`

	Conclusion judge.Conclusion `json:"conclusion,omitempty"`
	Scored     int              `json:"scored,omitempty"`
}

// rejudge judges a round by another plan, clock or delay, and keeps what it was judged by before, with what came of it.
func rejudge(gym *store.Gym, r store.Run, opened run.Opened, anew run.Anew, on drill.Floor, by store.Coach) error {
	to, err := opened.Rejudge(anew, on)
	if err != nil {
		return err
	}
	line, err := gym.Timeline(r.ID)
	if err != nil {
		return err
	}
	was := judgedBy{Drill: json.RawMessage(r.DrillDoc), Timeline: json.RawMessage(line), Latency: r.LatencyUS}
	if o, err := gym.Outcome(r.ID); err == nil {
		sum := Summary(o, judge.Ended(r.Ending))
		was.Conclusion, was.Scored, sum.Headline = sum.Conclusion, sum.Scored, ""
		was.Summary = &sum
	}
	kept, err := json.Marshal(was)
	if err != nil {
		return err
	}
	if anew.Delay != nil {
		r.LatencyUS = anew.Delay
	}
	if r.DrillDoc, err = json.Marshal(to.Plan); err != nil {
		return err
	}
	next, err := json.Marshal(to.Timeline)
	if err != nil {
		return err
	}
	return gym.Together(func(in *store.Gym) error {
		err := in.AddCorrection(&store.Correction{RunID: r.ID, Kind: store.Rejudged, Reason: anew.Reason, Was: kept,
			Coach: by.Name, CoachID: &by.ID})
		if err == nil {
			err = in.Rejudge(r, next)
		}
		if err != nil {
			return err
		}
		return again(in, r.ID)
	})
}

// before puts back what a round was judged by.
func before(gym *store.Gym, runID string, kept store.Doc) error {
	var was judgedBy
	if err := json.Unmarshal(kept, &was); err != nil {
		return input.Refuse("", "what this round was judged by before could not be read: it stays as it is")
	}
	r, err := gym.Run(runID)
	if err != nil {
		return err
	}
	r.DrillDoc, r.LatencyUS = store.Doc(was.Drill), was.Latency
	return gym.Rejudge(r, store.Doc(was.Timeline))
}

// WasJudged returns the result of a round before it was re-judged; nil where that is not known.
func WasJudged(c store.Correction, e judge.Ended) *run.Summary {
	var was judgedBy
	if json.Unmarshal(c.Was, &was) != nil {
		return nil
	}
	if was.Summary == nil {
		return nil
	}
	was.Summary.Conclusion, was.Summary.Scored = was.Conclusion, was.Scored
	return new(was.Summary.Told(e))
}

// fileDevice names a table of times among what captures hits.
const fileDevice = "table of times"

// addTimes keeps the hits of a table in a round; zero is where its time begins on the round's clock. They replace those
// of a table before.
func addTimes(gym *store.Gym, runID string, times []format.Time, zero drill.Micros) error {
	hits := make([]store.Hit, len(times))
	for i, t := range times {
		hits[i] = store.Hit{Device: fileDevice, Seq: i, AtUS: int64(zero) + int64(t.At*1e6+0.5), Hand: orNil(t.Hand),
			Launch: orNil(t.Launch)}
	}
	return gym.Together(func(in *store.Gym) error {
		if err := in.DropHits(runID, fileDevice); err != nil {
			return err
		}
		if _, err := in.AddHits(runID, hits, nil); err != nil {
			return err
		}
		_, err := Change(in, runID, func(r *store.Run) error {
			r.Source = string(drill.Table)
			return nil
		})
		return err
	})
}
