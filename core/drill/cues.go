package drill

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/trainee"
)

// Cues are unforeseeable calls on top of a drill: a defence to do at once, and the counter after it (common practice:
// never after the same punch each time, never at even gaps; then counters, none to three, fixed or free).
type Cues struct {
	Moves   []string `json:"moves,omitempty"`   // defences in the notation, such as "roll lead", "slip rear", "duck"
	Attacks []Attack `json:"attacks,omitempty"` // imagined attacks that are named instead
	Least   float64  `json:"least"`             // s, least gap
	Mean    float64  `json:"mean"`              // s, mean gap
	// s from the cue until the head has to be off the line; 0 takes DefaultLead
	Lead float64 `json:"lead,omitempty"`
	// lines of up to three strikes; one of them follows each cue of a move
	Counters []string `json:"counters,omitempty"`
	Free     int      `json:"free,omitempty"` // strikes of one's own choice instead, up to three
}

// Attack is an imagined attack that is called, and the answer to it: a defence and up to three strikes.
type Attack struct {
	Name   string `json:"name"`   // as it is called: jab, cross, lead hook …
	Answer string `json:"answer"` // in the notation; it begins with a defence
}

// DefaultLead (s) is how long before the blow a coach's swipe is seen coming. Assumed.
const DefaultLead = 1.0

// Callable are the defences that are usually called; others may be written.
func Callable() []string {
	return []string{"roll lead", "roll rear", "slip lead", "slip rear", "duck", "pull"}
}

// CalledMoves are the cues to begin with where a defence is called: a roll under a swipe from either side, at gaps that
// nobody foresees (common practice; the gaps are assumed).
func CalledMoves() Cues { return Cues{Moves: []string{"roll lead", "roll rear"}, Least: 3, Mean: 7} }

// NamedAttacks are the cues to begin with where an attack is named, with the answers to it (common practice).
func NamedAttacks() Cues {
	return Cues{Attacks: []Attack{{"jab", "slip rear - 2"}, {"cross", "slip lead - 3"}, {"lead hook", "duck - 3"}},
		Least: 3, Mean: 7}
}

// UsualCounters are those to begin with after a cue.
func UsualCounters() []string { return []string{"2", "3-2"} }

const mostCounters = 3 // strikes after a cue (common practice: none to three)

var cueLimits = struct{ least, mean, lead input.Limits }{
	lead:  input.Limits{Min: 0.3, Max: 5, Unit: "s"},
	least: input.Limits{Min: 0.5, Max: 60, Unit: "s"},
	mean:  input.Limits{Min: 1, Max: 120, Unit: "s"},
}

// readCues reads cues; their lines are kept as they are printed, like the drill's own. What cannot be read is left
// for Check to refuse.
func readCues(o *input.Object, s combo.Stance) (Cues, error) {
	c := Cues{
		Least: o.NumberOr("least", cueLimits.least, 3), Mean: o.NumberOr("mean", cueLimits.mean, 7),
		Lead: o.NumberOr("lead", input.Limits{Max: cueLimits.lead.Max, Unit: "s"}, 0),
		Free: o.WholeOr("free", 0, mostCounters, 0),
	}
	if o.Has("moves") {
		c.Moves = o.Texts("moves", 8, 40)
	}
	if o.Has("counters") {
		c.Counters = o.Texts("counters", 8, 100)
	}
	if o.Has("attacks") {
		for _, row := range o.List("attacks", 8) {
			c.Attacks = append(c.Attacks, Attack{row.Text("name", 40), row.Text("answer", 100)})
			o.Keep(row.Done())
		}
	}
	printed := func(text *string) {
		if line, _, err := combo.Read(*text, s); err == nil {
			*text = line.String()
		}
	}
	for i := range c.Moves {
		printed(&c.Moves[i])
	}
	for i := range c.Counters {
		printed(&c.Counters[i])
	}
	for i := range c.Attacks {
		printed(&c.Attacks[i].Answer)
	}
	return c, o.Done()
}

// Check refuses gaps, counts and moves that cannot be called, naming the field.
func (c Cues) Check() error {
	if len(c.Moves)+len(c.Attacks) == 0 {
		return input.Refuse("moves", "expected a defence to call, such as \"roll lead\"")
	}
	for i, a := range c.Attacks {
		if strings.TrimSpace(a.Name) == "" {
			return input.Refuse(fmt.Sprintf("attacks[%d].name", i), "expected the attack that is called")
		}
		if _, _, err := a.split(); err != nil {
			return input.Refuse(fmt.Sprintf("attacks[%d].answer", i), "%s", err)
		}
	}
	for _, text := range c.Moves {
		line, err := combo.Parse(text)
		if err != nil {
			return misread("moves", text, err)
		}
		if moves := line.Moves(combo.Orthodox); len(moves) != 1 || moves[0].Kind() != combo.Defence {
			return input.Refuse("moves", "expected single defences, and %q is none", text)
		}
	}
	for _, text := range c.Counters {
		line, err := combo.Parse(text)
		if err != nil {
			return misread("counters", text, err)
		}
		if moves := line.Moves(combo.Orthodox); len(moves) > 3 || combo.Balanced(moves).Strikes != len(moves) {
			return input.Refuse("counters", "expected up to three strikes, and not %q", text)
		}
	}
	if err := cueLimits.least.Check("least", c.Least); err != nil {
		return err
	}
	if c.Mean <= c.Least {
		return input.Refuse("mean", "expected more than the least gap of %g s, not %g: the gaps would be even", c.Least,
			c.Mean)
	}
	switch {
	case c.Lead != 0 && cueLimits.lead.Check("lead", c.Lead) != nil:
		return cueLimits.lead.Check("lead", c.Lead)
	case c.Free < 0 || c.Free > mostCounters:
		return input.Refuse("free", "expected 0 to %d strikes", mostCounters)
	case c.Free > 0 && len(c.Counters) > 0:
		return input.Refuse("free", "expected counters that are either set or free")
	}
	return cueLimits.mean.Check("mean", c.Mean)
}

// Joined tells, for each imagined attack whose answer does not join as its defence loads the hands, or needs care,
// what it is. Advice, no bar.
func (c Cues) Joined() []string {
	var list []string
	for _, a := range c.Attacks {
		line, err := combo.Parse(a.Answer)
		if err != nil {
			continue
		}
		for _, m := range combo.Flow(line.Moves(combo.Orthodox)) {
			if !m.Deliberate {
				list = append(list, fmt.Sprintf("Answer to the %s: %s.", a.Name, m.Reason))
			}
		}
	}
	return list
}

// misread refuses a line within the cues, with the line.
func misread(field, text string, err error) error {
	return input.Refuse(field, "%s", reason(text, err))
}

// reason returns why a line cannot be read, with the line.
func reason(text string, err error) string {
	var refused *input.Error
	if errors.As(err, &refused) {
		return fmt.Sprintf("%q: %s", text, refused.Reason)
	}
	return fmt.Sprintf("%q: %v", text, err)
}

// LeadTime returns the time (s) from a cue to the moment when the head has to be off the line.
func (c Cues) LeadTime() float64 {
	if c.Lead == 0 {
		return DefaultLead
	}
	return c.Lead
}

// Off returns the time (s) that the slowest of the answers takes to get the head off the line.
func (c Cues) Off() float64 {
	off := 0.0
	for _, o := range c.options() {
		off = math.Max(off, trainee.TimesOf(o.Move).Off)
	}
	return off
}

// Need returns the time (s) that the slowest of the answers takes to get the head off the line, for somebody's reaction
// to a sound, and among how many cues it is chosen (Hick 1952). The counters after it are chosen while it is done.
func (c Cues) Need(reaction float64) (need float64, choices int) {
	choices = max(1, len(c.options()))
	return reaction + trainee.PerBit*math.Log2(float64(choices)) + c.Off(), choices
}

// Held returns the number of strikes that the answers ask to remember: those of each attack, the longest of set
// counters, or the free ones.
func (c Cues) Held() int {
	n, longest := c.Free, 0
	for _, o := range c.options() {
		if line, err := combo.Parse(o.Counter); err == nil {
			n += len(line.Moves(combo.Orthodox))
		}
	}
	for _, text := range c.Counters {
		if line, err := combo.Parse(text); err == nil {
			longest = max(longest, len(line.Moves(combo.Orthodox)))
		}
	}
	return n + longest
}

// split parts an answer into its defence and the strikes after it.
func (a Attack) split() (combo.Move, string, error) {
	line, err := combo.Parse(a.Answer)
	if err != nil {
		return combo.Move{}, "", fmt.Errorf("%s", reason(a.Answer, err))
	}
	moves := line.Moves(combo.Orthodox)
	if moves[0].Kind() != combo.Defence || len(moves) > 4 {
		return combo.Move{}, "", fmt.Errorf("expected a defence and up to three strikes, and not %q", a.Answer)
	}
	var after []string
	for _, m := range moves[1:] {
		if m.Kind() != combo.Strike {
			return combo.Move{}, "", fmt.Errorf("expected strikes after the defence of %q", a.Answer)
		}
		after = append(after, m.Move.String())
	}
	return moves[0].Move, strings.Join(after, " - "), nil
}

// options lists what may be called.
func (c Cues) options() []Cue {
	var list []Cue
	for _, text := range c.Moves {
		line, err := combo.Parse(text)
		if err != nil {
			continue
		}
		m := line.Moves(combo.Orthodox)[0].Move
		if !slices.ContainsFunc(list, func(o Cue) bool { return o.Move == m }) {
			list = append(list, Cue{Move: m, Free: c.Free})
		}
	}
	for _, a := range c.Attacks {
		if m, counter, err := a.split(); err == nil {
			list = append(list, Cue{Move: m, Call: a.Name, Counter: counter, Set: true})
		}
	}
	return list
}

// Cue is one call: the move, the counter after it, and by when the answer is to be under way.
type Cue struct {
	At      float64    // s
	Call    string     // the attack that is named; "" where the move itself is called
	Move    combo.Move // what is done
	Counter string     // set strikes after it
	Free    int        // or so many of one's own choice
	Set     bool       // the counter belongs to the attack
	Lead    float64    // s from the cue until the head has to be off the line

	takes float64    // s that its answer takes, counters and all
	ends  combo.Move // the last punch of its counter
}

// counterTime (s) is the time for each strike of a counter. Assumed.
const counterTime = 0.3

// answer returns the time (s) that the answer to a cue takes, counters included, and the last punch of a set counter.
func (c Cue) answer() (takes float64, ends combo.Move) {
	strikes := c.Free
	if line, err := combo.Parse(c.Counter); err == nil {
		moves := line.Moves(combo.Orthodox)
		strikes += len(moves)
		ends = moves[len(moves)-1].Move
	}
	return trainee.SoundReaction + trainee.TimesOf(c.Move).Whole + counterTime*float64(strikes), ends
}

// Thrown tells what is thrown around the cues; the zero value tells nothing.
type Thrown struct {
	// Last tells which punch comes last before a moment (s), and when, were there no cues; false before the first.
	Last func(at float64) (punch combo.Move, when float64, ok bool)
	// Other tells the first stretch of time after a moment (s) in which another punch than this one came last; false
	// for none.
	Other func(at float64, than combo.Move) (from, to float64, ok bool)
}

// Draw gives the cues from one moment to another (s), by a seed: the same seed the same cues. The gaps are the least
// one and a random wait of a memoryless kind, at least a quarter of it on the mean, so that nothing tells when the
// next one comes. One never falls while the last one's answer is still under way; the same move never comes twice
// running where there is a choice, and no three cues come after the same punch (common practice). The counter after a
// roll or a slip is the hand on the side it ends on, after a duck the hand that threw last; where none of the set
// ones is, one is taken in its counterpart.
func (c Cues) Draw(seed uint64, from, to float64, thrown Thrown) []Cue {
	r := rand.New(rand.NewPCG(seed, 0x63756573))
	options := c.options()
	if len(options) == 0 {
		return nil
	}
	random := math.Max(c.Mean-c.Least, unevenly*c.Least)
	var list []Cue
	last, at, wait := -1, from, c.Least
	var punch, previous combo.Move // before the last cue, and before the one before it
	for {
		next := at + wait + r.ExpFloat64()*random
		now := thrown.before(next, list, punch)
		if thrown.Other != nil && now == punch && now == previous && len(list) > 1 {
			opens, closes, ok := thrown.Other(next-beforeCue, now)
			if !ok {
				return list // nothing else is thrown any more
			}
			next = beforeCue + opens + r.Float64()*(closes-opens)
			now = thrown.before(next, list, punch)
		}
		if at = next; at >= to {
			return list
		}
		previous, punch = punch, now
		choice := r.IntN(len(options))
		if len(options) > 1 && choice == last {
			choice = (last + 1 + r.IntN(len(options)-1)) % len(options)
		}
		cue := options[choice]
		cue.At = at
		cue.Lead = c.LeadTime()
		if !cue.Set && len(c.Counters) > 0 {
			cue.Counter = c.counter(r, cue.Move, now.Hand())
		}
		cue.takes, cue.ends = cue.answer()
		list = append(list, cue)
		last, wait = choice, math.Max(c.Least, cue.takes)
	}
}

// before is the punch that comes last before a moment (s): the drill's, or one of the counter to the last cue. What
// falls into an answer is left out of the drill; then it is the punch before that cue.
func (t Thrown) before(at float64, list []Cue, punch combo.Move) combo.Move {
	if t.Last == nil {
		return punch
	}
	m, when, ok := t.Last(at - beforeCue)
	if n := len(list); n > 0 && (!ok || when < list[n-1].At+list[n-1].takes) {
		if m = list[n-1].ends; m == (combo.Move{}) {
			return punch
		}
	}
	return m
}

// unevenly is the least unevenness of gaps, as a share of the shortest. Assumed.
const unevenly = 0.25

// counter draws one of the set counters that begins with the hand that the move loads.
func (c Cues) counter(r *rand.Rand, move combo.Move, threw combo.Hand) string {
	loaded := combo.Hand("")
	switch move.Word {
	case combo.Roll, combo.Slip:
		loaded = combo.Hand(move.Toward)
	case combo.Duck:
		loaded = threw
	}
	var fitting []string
	for _, text := range c.Counters {
		if first, ok := firstHand(text); ok && (loaded == "" || loaded == combo.Both || first == loaded ||
			first == combo.Both) {
			fitting = append(fitting, text)
		}
	}
	if len(fitting) > 0 {
		return fitting[r.IntN(len(fitting))]
	}
	line, err := combo.Parse(c.Counters[r.IntN(len(c.Counters))])
	if err != nil {
		return ""
	}
	return line.Counterpart().String()
}

// firstHand is the hand that a line of strikes begins with.
func firstHand(text string) (combo.Hand, bool) {
	line, err := combo.Parse(text)
	if err != nil {
		return "", false
	}
	return line.Moves(combo.Orthodox)[0].Hand(), true
}
