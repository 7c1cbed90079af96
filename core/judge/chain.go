package judge

import (
	"math"
	"slices"

	"melodromos/core/rig"
)

// Chain is the bag of a round on the bag's clock: each strike is due when the bag comes back from the one before it, at
// the force that one really had.
type Chain struct {
	Bag *rig.ComeBacks
	// s, the bell: strikes that would be due after it are not missed; +Inf where strikes are counted
	End         float64
	ForceSpread float64 // of the launch, as a share: how much of the scatter of the hits is the bag's answer to it
	Screen      bool    // the bag is on the screen alone: every hit drives it off as planned
}

// DefaultForceSpread is the standard deviation of one person's force, as a share of the launch, where nothing is known
// of them. Assumed.
const DefaultForceSpread = 0.05

// Followed holds the figures that only a round on the bag's clock has. Those that cannot be told are NaN.
type Followed struct {
	Due    int        // strikes that came due: the others were not missed
	At     []float64  // s, when each strike was due by the bag; 0 for those that did not come due
	Window []float64  // s, of the bag as it really came
	Counts []CountOff // strikes met at another count than planned
	LetGo  int        // come-backs let through against the plan
	Anew   int        // times a hit off the bag's come-backs started it anew
	Known  bool       // the force of the hits was known, so that lateness can be told
	Boards bool       // it is a bag under a board: its come-backs are counted in rebounds
	Coarse string     // why the source is too coarse to tell clean from late; empty where it is not
	Own    float64    // s, spread of the errors less what the scatter of the force brings; NaN where it cannot be told
	Met    float64    // share of the strikes due that met the bag
	Give   float64    // by how much Met may be off, either way; 0 where it was counted
	Held   HeldTempo  // against what was asked
	Steps  []rig.Step // launches that were known, with the time the bag took, for calibration
	Lags   []Lag      // of each hit that counted, behind the come-back that was to be met
}

// Lag is the lateness (s) of a hit against the return that its strike was to meet, counted from the hit before it: also
// where it met another one, or none.
type Lag struct {
	Strike, Hit int
	Late        float64
	Took        float64 // s that the bag takes to that come-back
	Off         bool    // it met no come-back
}

// CountOff is a strike that met the bag after another number of rebounds than planned.
type CountOff struct {
	Strike       int
	Asked, Heard int
}

// JudgeBag judges hits on the bag's clock. The strikes give the order, the hands, the counts and the force; of their
// moments only the first is looked for, like an offset, and those on a bag at rest tell where a repetition was called.
//
// A hit is matched to a come-back of the bag from the hit before it; one that is let through costs a strike, and the
// bag goes on by the model. A hit that fits no come-back starts the bag anew, and neither it nor the next can be clean.
// The round is matched as a whole: by dynamic programming over strikes and hits, where what a pair costs depends on the
// pair before it.
func JudgeBag(strikes []Strike, hits []Hit, c Chain, o Options) Result {
	f := newFollower(strikes, hits, c, o)
	path := f.best()
	r := Result{Strikes: make([]Verdict, len(strikes))}
	r.Followed = &Followed{At: make([]float64, len(strikes)), Window: make([]float64, len(strikes)), Met: math.NaN(),
		Boards: c.Bag.Step == 2}
	f.label(&r, path)
	f.tell(&r, path)
	return r
}

// label says what became of each strike.
func (f *follower) label(r *Result, path []node) {
	w := r.Followed
	f.impossible(path)
	last := -1
	due := f.offset // s, of the strike that comes
	if len(path) > 0 && path[0].kind == met && !f.keep {
		r.Offset = path[0].err
	}
	wild := f.wild(path)
	// the strike before was met at another count too: then it is no come-back let through but a wrong count
	offCount := 0
	for k, n := range path {
		over := n.strike // strikes before it were missed
		if n.kind == off {
			over = n.strike + 1
			w.Anew++
			w.LetGo += n.let
		}
		for i := last + 1; i < over; i++ {
			r.Strikes[i] = Missed
			due = f.missedAt(path, k, i, last, due)
			w.At[i], w.Window[i] = due, f.strikes[i].Window
		}
		last = max(last, n.strike)
		switch n.kind {
		case resumed:
			r.Strikes[n.strike], w.At[n.strike], w.Window[n.strike] = Missed, f.hits[n.hit].at,
				f.strikes[n.strike].Window
		case met:
			i := n.strike
			e := n.err
			if k == 0 && !f.keep {
				e = 0
			}
			v := f.verdict(n, e, n.let > 0 && wild || k > 0 && path[k-1].kind == met && sameSide(offCount, n.let))
			if n.let != 0 && n.place >= 0 {
				bag := f.c.Bag
				w.Counts = append(w.Counts, CountOff{i, bag.Counts[n.place-n.let*bag.Step], bag.Counts[n.place]})
				w.LetGo += max(0, n.let)
			}
			offCount = n.let
			r.Strikes[i], w.At[i], w.Window[i] = v, f.hits[n.hit].at-n.err, n.window
			r.Matches = append(r.Matches, Match{f.strikes[i].index, f.hits[n.hit].index, e, v})
			if wrong(f.strikes[i].Hand, f.hits[n.hit].Hand) {
				r.WrongHand++
			}
		}
		due = f.hits[n.hit].at
	}
	w.Due = last + 1
	for i := last + 1; i < len(f.strikes); i++ { // after the last hit
		if due = f.after(i, last, due); due > f.c.End+tolerance || f.strikes[i].Spare {
			break
		}
		r.Strikes[i], w.At[i], w.Window[i] = Missed, due, f.strikes[i].Window
		w.Due = i + 1
	}
	f.unsort(r)
	r.tally(len(f.hits))
}

// wildShare is the share of hits off the plan's come-backs from which on meeting one that was let through counts as
// chance. Assumed.
const wildShare = 0.3

func (f *follower) wild(path []node) bool {
	n := 0
	for _, p := range path {
		if p.kind != met || p.let != 0 {
			n++
		}
	}
	return float64(n) > wildShare*float64(len(f.hits))
}

func sameSide(a, b int) bool { return a > 0 && b > 0 || a < 0 && b < 0 }

// verdict of a strike that was met.
func (f *follower) verdict(n node, e float64, again bool) Verdict {
	s := f.strikes[n.strike]
	switch {
	case n.let < 0: // a come-back too soon
		return Early
	case again: // time and again after one come-back too many, or by chance
		return Late
	case n.extras > 1: // whatever the hits between did to the bag, this was chance
		return Early
	case f.cannot[n.hit] > 0: // no force gives this tempo at this count
		return Late
	case f.cannot[n.hit] < 0:
		return Early
	}
	if (s.Still || n.place < 0 && n.before >= 0) && !s.answer { // a bag at rest
		if n.soon {
			return Early
		}
		if wrong(s.Hand, f.hits[n.hit].Hand) {
			return WrongHand
		}
		return Clean
	}
	s.Window = n.window
	return verdict(s.Strike, Hit{Hand: f.hits[n.hit].Hand}, e)
}

// missedAt returns the time (s) at which a strike that was not met was due: by the come-backs from the last hit that
// the bag had, in the order of the plan.
func (f *follower) missedAt(path []node, k, i, last int, due float64) float64 {
	if k == 0 || last < 0 || f.strikes[i].Still {
		return f.strikes[i].At + f.offset
	}
	if ways := f.waysOf(path[k-1]); ways != nil {
		if at := ways.planned + (i - last - 1); at < len(ways.due) {
			return ways.due[at]
		}
		return due + f.planned(i)
	}
	return f.after(i, last, due)
}

// after returns the time (s) at which a strike is due after another one, if that is struck as planned.
func (f *follower) after(i, last int, from float64) float64 {
	if s := f.strikes[i]; last < 0 || s.Still || s.answer || i == 0 {
		return s.At + f.offset
	}
	return from + f.planned(i)*f.pace
}

// planned returns the time (s) that the bag takes to a strike from the one before it at the planned force.
func (f *follower) planned(i int) float64 {
	before, s := f.strikes[i-1], f.strikes[i]
	place := f.c.Bag.Place(s.Count)
	if place < 0 || before.Launch == 0 {
		return s.At - before.At
	}
	return f.c.Bag.At(place, before.Launch) + before.Ahead - s.Ahead
}

// unsort puts what is known of each strike where the strikes were given.
func (f *follower) unsort(r *Result) {
	w := r.Followed
	verdicts, at, window := slices.Clone(r.Strikes), slices.Clone(w.At), slices.Clone(w.Window)
	for i, s := range f.strikes {
		r.Strikes[s.index], w.At[s.index], w.Window[s.index] = verdicts[i], at[i], window[i]
	}
	for _, s := range f.strikes {
		r.order = append(r.order, s.index)
	}
	for i := range w.Counts {
		w.Counts[i].Strike = f.strikes[w.Counts[i].Strike].index
	}
}

// tell fills in errors, tempo and force.
func (f *follower) tell(r *Result, path []node) {
	w := r.Followed
	steps := f.transitions(path)
	w.Known = f.known(steps)
	w.Lags = f.lags(path)
	var at, errors []float64
	for _, n := range path {
		if s := f.strikes[n.strike]; n.kind == met && n.place >= 0 && n.let == 0 && !s.Still && !s.answer {
			at, errors = append(at, w.At[s.index]), append(errors, n.err)
		}
	}
	if w.Known {
		r.summed(at, errors)
	} else {
		r.scattered(errors)
	}
	for _, s := range steps {
		if s.launch > 0 && !f.c.Screen {
			w.Steps = append(w.Steps, rig.Step{Launch: s.launch, Rebounds: s.count, Took: s.took})
		}
	}
	w.Held = f.heldTempo(steps, w.Known)
	w.Coarse = f.coarse(steps)
	w.Met, w.Give = f.metShare(r, steps)
	w.Own = f.own(r.Spread, steps, w.Known)
}

// lags returns the lateness of each hit of a reading, counted from the hit before it.
func (f *follower) lags(path []node) []Lag {
	var list []Lag
	for k := 1; k < len(path); k++ {
		from, to := path[k-1], path[k]
		next := from.strike + 1
		if next >= len(f.strikes) || f.loose(next) || to.kind == met && to.strike != next {
			continue
		}
		from.kind = met // wherever it fell, the bag goes on from it
		w := f.waysOf(from)
		if w == nil {
			continue
		}
		due := w.due[w.planned]
		list = append(list, Lag{f.strikes[next].index, f.hits[to.hit].index, f.hits[to.hit].at - due,
			due - f.hits[from.hit].at, to.kind != met})
	}
	return list
}
