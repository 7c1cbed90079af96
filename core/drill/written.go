package drill

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"melodromos/core/combo"
	"melodromos/core/input"
	"melodromos/core/rig"
	"melodromos/core/words"
)

// WrittenMove is a move of a rhythm that was written down. Only strikes have times; a defence or a step stands before
// the strike that follows it.
type WrittenMove struct {
	At   float64 // s, of a strike
	Move string  // of the notation; "" for a strike of which only the time is known
	Low  bool    // of the lower notes, where only the height of the notes tells strikes apart
}

// Written is a rhythm as a file has it: a row of strikes by time.
type Written struct {
	Moves    []WrittenMove
	Beat     float64 // quarter notes a minute
	Tick     float64 // s, to which its times are rounded
	Rebounds int     // board sounds after each strike; 0 where the file has none
}

// Plan makes a drill for a kind of bag of it, and says what it has become. What repeats itself is taken once, to be
// repeated. On a speed bag only a steady rhythm can be struck, since the bag comes back at one tempo; on the others the
// strikes land at the rhythm's own times, by the beat's clock.
func (w Written) Plan(kind rig.Kind) (Plan, []string, error) {
	times := w.times()
	if len(times) < 2 {
		return nil, nil, input.Refuse("strikes", "expected at least two strikes, not %d", len(times))
	}
	if len(times) > MostStrikes {
		return nil, nil, input.Refuse("strikes", "expected at most %d strikes, not %d", MostStrikes, len(times))
	}
	moves, how := w.named()
	if kind == rig.Speed {
		return w.steady(times, moves)
	}
	if kind == rig.Slip {
		return nil, nil, input.Refuse("kind",
			"expected another bag: a slip bag swings by itself, and its passes set the time")
	}
	n, every := w.repeats(moves, times)
	text, strikes := folded(moves, n)
	c := CombinationDrill{Text: text, Stance: combo.Orthodox, Landing: Freely, Pace: Combining, Guidance: Fading,
		Repetitions: len(times) / strikes, Pause: 2, Played: w.played(times, strikes, every)}
	said := []string{fmt.Sprintf("%s, %.1f a minute in the middle, over %.1f s.", words.Count(len(times), "strike"),
		60/c.Played.Usual(), times[len(times)-1]-times[0])}
	if c.Repetitions > 1 {
		said = append(said, fmt.Sprintf("%s repeat %d times, one every %.2f s.", words.Count(strikes, "strike"),
			c.Repetitions, c.Played.Every))
	}
	if how != "" {
		said = append(said, how)
	}
	if kind != rig.Hanging {
		said = append(said,
			"The strikes stand where the rhythm has them, by the beat's clock: whether the bag is there by then, the composer shows.")
	}
	line, err := combo.Parse(c.Text)
	if err != nil {
		return nil, nil, err
	}
	c.Text = line.String()
	if err := c.Check(); err != nil {
		return nil, nil, err
	}
	return c, said, nil
}

func (w Written) times() []float64 {
	var list []float64
	for _, b := range w.Moves {
		if !b.defends() {
			list = append(list, b.At)
		}
	}
	return list
}

// defends says whether it is no strike.
func (m WrittenMove) defends() bool {
	line, err := combo.Parse(m.Move)
	if m.Move == "" || err != nil {
		return false
	}
	moves := line.Moves(combo.Orthodox)
	return len(moves) == 1 && moves[0].Kind() != combo.Strike
}

// moves names every one; where only times are known, the hands take turns, or the lower notes are the rear hand's.
func (w Written) named() (list []string, how string) {
	two := slices.ContainsFunc(w.Moves, func(m WrittenMove) bool { return m.Low })
	n := 0
	for _, b := range w.Moves {
		switch {
		case b.Move != "":
			list = append(list, b.Move)
			continue
		case two && b.Low, !two && n%2 == 1:
			list = append(list, "2")
		default:
			list = append(list, "1")
		}
		n++
	}
	switch {
	case n == 0:
	case two:
		how = "The higher notes are the lead hand's, the lower ones the rear hand's."
	default:
		how = "The file names no hands: lead and rear take turns."
	}
	return list, how
}

// repeats is after how many moves the rhythm begins anew, and after how many seconds: the whole of it where it does
// not.
func (w Written) repeats(moves []string, times []float64) (n int, every float64) {
	whole := times[len(times)-1] - times[0] + usual(times)
	for n = 1; 2*n <= len(moves); n++ {
		if len(moves)%n != 0 {
			continue
		}
		same := true
		for i := n; i < len(moves) && same; i++ {
			same = moves[i] == moves[i-n]
		}
		if !same {
			continue
		}
		if every, ok := w.period(times, w.strikes(moves[:n])); ok {
			return n, every
		}
	}
	return len(moves), whole
}

func (w Written) strikes(moves []string) int {
	n := 0
	for _, m := range moves {
		if !(WrittenMove{Move: m}).defends() {
			n++
		}
	}
	return n
}

// period returns the time (s) from repetition to repetition of k strikes, where it is the same for all within the
// rounding of the file. It is the slope of a straight line through the times, the same one for each strike of a
// repetition.
func (w Written) period(times []float64, k int) (every float64, ok bool) {
	if k == 0 {
		return 0, false
	}
	n := len(times) / k
	over, under := 0.0, 0.0
	middle := float64(n-1) / 2
	for i, at := range times {
		over += (float64(i/k) - middle) * at
		under += (float64(i/k) - middle) * (float64(i/k) - middle)
	}
	every = over / under
	p := w.played(times, k, every)
	for i, at := range times {
		if math.Abs(times[0]+float64(i/k)*every+p.Times[i%k]-at) > 1.2*w.Tick+1e-9 {
			return 0, false
		}
	}
	return every, true
}

// played are the times of a repetition of k strikes, each the mean of all repetitions, from its first.
func (w Written) played(times []float64, k int, every float64) *Played {
	sums := make([]float64, k)
	for i, at := range times {
		sums[i%k] += at - float64(i/k)*every
	}
	n := float64(len(times) / k)
	p := &Played{Times: make([]float64, k), Every: every, Beat: math.Min(math.Max(w.Beat, BeatLimits.Min),
		BeatLimits.Max)}
	for i := range sums {
		p.Times[i] = math.Round(1e7*(sums[i]-sums[0])/n) / 1e7
	}
	p.Every = math.Round(1e8*every) / 1e8
	return p
}

func usual(times []float64) float64 {
	return Played{Times: times}.Usual()
}

// folded is the line of the first n moves, what repeats within it as a group, and how many strikes it has.
func folded(moves []string, n int) (text string, strikes int) {
	for _, m := range moves[:n] {
		if !(WrittenMove{Move: m}).defends() {
			strikes++
		}
	}
	var items []string
	for i := 0; i < n; {
		size, times := 1, 1
		for s := 1; s <= 8 && i+2*s <= n; s++ {
			again := 1
			for i+(again+1)*s <= n && slices.Equal(moves[i:i+s], moves[i+again*s:i+(again+1)*s]) {
				again++
			}
			if again > 1 && again*s > size*times {
				size, times = s, again
			}
		}
		group := strings.Join(moves[i:i+size], " - ")
		if times > 1 {
			group = fmt.Sprintf("(%s)x%d", group, times)
		}
		items = append(items, group)
		i += size * times
	}
	return strings.Join(items, " - "), strikes
}

// steady is a steady rhythm as a technique of the speed bag.
func (w Written) steady(times []float64, moves []string) (Plan, []string, error) {
	every, ok := w.period(times, 1)
	if !ok {
		return nil, nil, input.Refuse("kind",
			"expected another bag: a speed bag comes back at one tempo, and this rhythm is not steady")
	}
	d := SpeedBagDrill{Technique: OneHand, FirstHand: Lead, Rebounds: cmp.Or(w.Rebounds, 3), StrikeAngle: 25,
		Strikes: len(times),
		Tempo:   math.Round(60/every*1e4) / 1e4}
	said := fmt.Sprintf("%s at %s a minute with one hand.", words.Count(len(times), "strike"), words.Trimmed(d.Tempo))
	hands := make([]Hand, len(moves))
	for i, m := range moves {
		hands[i] = Lead
		if line, err := combo.Parse(m); err == nil {
			hands[i] = line.Moves(combo.Orthodox)[0].Hand()
		}
	}
	d.FirstHand = hands[0]
	switch set := sets(hands); {
	case set == 1:
		d.Technique = Alternating
		if d.Rebounds == 1 {
			d.Technique, d.StrikeAngle = FistRoll, styles[FistRoll].angle
		}
		said = fmt.Sprintf("%s at %s a minute, hand after hand.", words.Count(len(times), "strike"),
			words.Trimmed(d.Tempo))
	case set > 1:
		d.PerHand = set
		if d.Rebounds%2 == 0 {
			d.Technique = Linking
		}
		said = fmt.Sprintf("%s at %s a minute, %d with each hand.", words.Count(len(times), "strike"),
			words.Trimmed(d.Tempo), set)
	}
	if d.FirstHand != Lead && d.FirstHand != Rear { // both: the second fist meets the first rebound
		d.Technique, d.FirstHand = DoublePunch, Lead
		d.Rebounds = max(1, d.Rebounds-1)
	}
	return d, []string{said}, d.Check()
}

// sets is after how many strikes the hands change, where they always do after as many; 0 where they do not.
func sets(hands []Hand) int {
	n := 1
	for n < len(hands) && hands[n] == hands[0] {
		n++
	}
	if n == len(hands) || n > MaxPerHand {
		return 0
	}
	for i, h := range hands {
		if want := hands[0]; (h == want) != (i/n%2 == 0) {
			return 0
		}
	}
	return n
}
