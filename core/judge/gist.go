package judge

import (
	"fmt"
	"math"

	"melodromos/core/drill"
	"melodromos/core/words"
)

// Conclusion says what could be judged of a round.
type Conclusion string

// The conclusions.
const (
	OnBeat        Conclusion = "onBeat"     // strikes counted on the beat
	Counted       Conclusion = "counted"    // strikes counted that met the bag
	Estimated     Conclusion = "estimated"  // the share that met the bag, where only times came in
	PassesCounted Conclusion = "passes"     // of a slip bag
	NoHits        Conclusion = "noHits"     // came in
	TooCoarse     Conclusion = "coarse"     // the source, to tell clean from late
	NoStrikes     Conclusion = "noStrikes"  // came due
	NotRecorded   Conclusion = "unrecorded" // nothing was to record it
)

// Values lists them.
func (Conclusion) Values() []Conclusion {
	return []Conclusion{OnBeat, Counted, Estimated, PassesCounted, NoHits, TooCoarse, NoStrikes, NotRecorded}
}

// Gist is a round in short: a code with its figures, which Sentence tells in words.
type Gist struct {
	As          Conclusion
	Share, Give float64 // that met the bag, from 0 to 1, and by how much an estimate of it may be off either way
	Clean, Of   int     // strikes, without those that are not scored; or passes
	Longest     int     // in a row
	Hits        int
}

// Gist is the round in short.
func (r Judgement) Gist() Gist {
	out := Gist{Clean: r.Clean, Of: len(r.Planned) - r.Harmless, Longest: r.Longest,
		Hits: len(r.Hits)}
	switch {
	case out.Of == 0:
		out.As = NoStrikes
	case len(r.Hits) == 0:
		out.As = NoHits
	case r.Followed == nil:
		out.As = OnBeat
	case r.Followed.Coarse != "":
		out.As = TooCoarse
	case r.Followed.Give < 0.005:
		out.As, out.Share = Counted, r.CleanShare()
	default:
		out.As, out.Share, out.Give = Estimated, r.Followed.Met, r.Followed.Give
	}
	return out
}

// Logged is a round in short for the log: one that nothing was to record is told as that.
func (r Judgement) Logged(by drill.Recorder) Gist {
	out := r.Gist()
	if by == drill.Nothing {
		out.As = NotRecorded
	}
	return out
}

func (r Gist) percent() float64 {
	if r.As == OnBeat {
		return 100 * float64(r.Clean) / float64(max(1, r.Of))
	}
	return 100 * r.Share
}

// Sentence tells a round in short.
func (r Gist) Sentence() string {
	switch r.As {
	case NoStrikes:
		return "Stopped before the first strike: nothing to judge."
	case NoHits:
		return fmt.Sprintf("Not judged: no hits were recorded, of %s.", words.Count(r.Of, "strike"))
	case OnBeat:
		return fmt.Sprintf("%.0f %% clean: %d of %d strikes, %d in a row.", r.percent(), r.Clean, r.Of, r.Longest)
	case TooCoarse:
		return fmt.Sprintf("%s recorded, not judged: this source is too coarse to tell clean from late.",
			words.Count(r.Hits, "hit"))
	case Counted:
		return fmt.Sprintf("%.0f %% clean: %d of %d strikes met the bag, %d in a row.", r.percent(), r.Clean, r.Of,
			r.Longest)
	case Estimated:
		return fmt.Sprintf("About %.0f %% met the bag, give or take %.0f. Counted: %d of %d, %d in a row.",
			100*r.Share, math.Max(1, 100*r.Give), r.Clean, r.Of, r.Longest)
	case PassesCounted:
		if r.Clean == r.Of {
			return fmt.Sprintf("None touched, of %s.", words.CountOf(r.Of, "pass", "passes"))
		}
		return fmt.Sprintf("%d of %d passes without a touch, %d in a row.", r.Clean, r.Of, r.Longest)
	case NotRecorded:
		return "Nothing was recorded."
	}
	return ""
}

// Headline tells a round of the log in short, with how it came to its end after so many seconds.
func (r Gist) Headline(e Ended, lasted float64) string {
	done := fmt.Sprintf("%.0f s", lasted)
	if lasted >= 60 {
		done = fmt.Sprintf("%d:%02.0f min", int(lasted)/60, math.Mod(lasted, 60))
	}
	how := map[Ended]string{Stopped: "Stopped early, after " + done + ".",
		Vanished: "The screen was lost after " + done + "."}[e]
	switch {
	case r.As == NotRecorded && how == "":
		return "Done, " + done + ". Nothing was recorded, so it is not judged."
	case r.As == PassesCounted, how == "", r.As == NoStrikes && e == Stopped:
		return r.Sentence()
	case r.As == NotRecorded:
		return how + " " + r.Sentence()
	case r.As == NoHits, r.As == NoStrikes:
		return how + " No hits were recorded."
	}
	return how + " So far: " + r.Sentence()
}
