package fault

import (
	"cmp"
	"slices"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/rig"
)

// entry is all that is known of a fault: in faults what hits, hands and force show, in sights what only an eye sees.
// What it says is common practice, its floors are assumed.
type entry struct {
	code   Code
	name   string // as it is said: "waiting before the next hit"
	remedy string // a sentence
	// floor returns the size that the fault has to exceed to be named, in its own measure, where strikes follow one
	// another in usual seconds; nil where only an eye sees it.
	floor func(usual float64) float64
	// possible tells whether a drill gives occasion for it; nil where only an eye sees it.
	possible func(occasion) bool
	// button is a word or two, on what is pressed when an eye sees it, and likely its place among the buttons for a
	// drill, 0 for none. Nil where hits show it.
	button string
	likely func(look) int
	// drills that mend it on the speed bag and in a combination, the best first; nil for what helps in general
	technique   func(speedRemedies) []RemedyDrill
	combination func(lineRemedies) []RemedyDrill
}

// occasion holds the features of a drill on a bag without which some faults cannot occur.
type occasion struct {
	onSpeed, double         bool // the speed bag's techniques; both fists at once
	hanging, byBag          bool
	timed, change, defended bool
	settles, bothHands      bool
}

// look holds the features of a drill that decide which faults can be seen in it.
type look struct {
	kind           rig.Kind
	technique      drill.Technique // "" of a combination
	uppercut, body bool            // its line has one
}

// about returns what is known of a fault.
func about(c Code) entry {
	for _, list := range [][]entry{faults, sights} {
		if i := slices.IndexFunc(list, func(e entry) bool { return e.code == c }); i >= 0 {
			return list[i]
		}
	}
	return entry{name: string(c)} // of a mark that a later release knew
}

func codes(list []entry) []Code {
	out := make([]Code, len(list))
	for i, e := range list {
		out[i] = e.code
	}
	return out
}

// Values lists all faults, those that only an eye sees at the end.
func (Code) Values() []Code { return slices.Concat(codes(faults), Seen()) }

// Seen lists the faults that only an eye sees.
func Seen() []Code { return codes(sights) }

// Name is a fault as it is said: "waiting before the next hit".
func (c Code) Name() string { return about(c).name }

// Name is a fault of a round as it is said; of a weaker hand which one it is.
func (f Fault) Name() string {
	if f.Code == WeakHand && f.hand != "" {
		return "the " + f.hand + " hand is weaker"
	}
	return f.Code.Name()
}

// Remedy returns the sentence that tells somebody how to mend a fault.
func (c Code) Remedy() string { return about(c).remedy }

// Pressed is the label of the button for a fault that an eye sees: a word or two.
func (c Code) Pressed() string { return about(c).button }

// BySight says whether only an eye sees a fault.
func (c Code) BySight() bool { return about(c).likely != nil }

// modelError is the error of a bag's measurements as a share of its times. That much lateness is nobody's fault.
// Assumed: calibration finds it within 5 % of the parameter that is known least, which is about half as much in the
// times.
const modelError = 0.03

// Floor is the size that a fault has to exceed to be named, in its own measure, where strikes follow one another in
// usual seconds by the bag (0 by the beat): seconds of lateness (of loops, for a doubled tempo), a share of the strikes
// of its kind, a share by which errors scatter more widely, by which a plan's changes of pace are gone, or seconds that
// were lost. All assumed: what a coach would just care about. 0 of what only an eye sees.
func Floor(code Code, usual float64) float64 {
	if floor := about(code).floor; floor != nil {
		return floor(usual)
	}
	return 0
}

// ToSee lists what a coach may see and mark with this drill on this kind of bag, the likeliest first.
func ToSee(p drill.Plan, kind rig.Kind) []Code {
	l := look{kind: kind}
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		l.technique = d.Technique
	case drill.CombinationDrill:
		if line, err := combo.Parse(d.Text); err == nil {
			for _, m := range line.Moves(d.Stance) {
				l.uppercut = l.uppercut || m.Shape() == combo.Uppercut
				l.body = l.body || m.ToBody() && !m.Leg()
			}
		}
	default:
		return nil
	}
	var list []Code
	rank := map[Code]int{}
	for _, e := range sights {
		if rank[e.code] = e.likely(l); rank[e.code] > 0 {
			list = append(list, e.code)
		}
	}
	slices.SortStableFunc(list, func(x, y Code) int { return cmp.Compare(rank[x], rank[y]) })
	return list
}

// Possible lists the faults that somebody can have with a drill on a kind of bag, as far as it is laid out: each has
// its occasion in the plan.
func Possible(p drill.Plan, t drill.Timeline, kind rig.Kind) []Code {
	technique, onSpeed := p.(drill.SpeedBagDrill)
	o := occasion{onSpeed: onSpeed, double: onSpeed && technique.Technique == drill.DoublePunch,
		hanging: kind == rig.Hanging, byBag: t.Clock == drill.ByBag}
	hands := map[drill.Hand]bool{}
	for _, s := range judge.Planned(t, -1) {
		hands[s.Hand] = true
		o.change, o.defended = o.change || s.Change, o.defended || s.Defended
		o.settles, o.timed = o.settles || s.Least > 0, o.timed || s.Timed()
	}
	o.bothHands = hands[drill.Lead] && hands[drill.Rear]
	var list []Code
	for _, e := range faults {
		if e.possible(o) {
			list = append(list, e.code)
		}
	}
	return list
}
