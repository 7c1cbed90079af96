package drill

// Scheme says how the size of a set changes through a round.
type Scheme string

// The schemes: the same throughout; fewer as the rhythm holds through the change of hands (five a side, then fewer,
// down to two); or a target that rises (five on one side, then six on the other). Common practice all three.
const (
	Steady  Scheme = "" // "steady" in a document that says it
	Falling Scheme = "falling"
	Rising  Scheme = "rising"
)

const (
	held   = 4 // sets at each size of a falling scheme: twice a side. Assumed
	fewest = 2 // a falling scheme ends at two a side (common practice)
)

// step returns the number of strikes by which a set changes: linking goes out through the bag and back, and stays even.
func (d SpeedBagDrill) step() int {
	if d.Technique == Linking {
		return 2
	}
	return 1
}

// size returns the number of strikes, at least 1, in the set with that number, counted from 0.
func (d SpeedBagDrill) size(turn int) int {
	switch d.Scheme {
	case Falling:
		return max(min(fewest, d.PerHand), d.PerHand-d.step()*(turn/held))
	case Rising:
		return min(MaxPerHand, d.PerHand+d.step()*turn)
	}
	return max(1, d.PerHand)
}

// settled says whether no later set has another size than the one of that number.
func (d SpeedBagDrill) settled(turn int) bool {
	if d.Scheme == Falling {
		return d.size(turn) == min(fewest, d.PerHand)
	}
	return d.size(turn) == MaxPerHand
}

// set tells in which set the strike with this index from 0 stands, at which place of it from 0, and how large it is.
// Hands that change with every strike are sets of one; a hand that never changes stays in the first.
func (d SpeedBagDrill) set(i int) (turn, place, size int) {
	switch {
	case d.style().sets && d.PerHand == 0:
		return 0, i, MaxStrikes + 1
	case !d.style().sets:
		return i, 0, 1
	case d.Scheme == Steady:
		return i / d.PerHand, i % d.PerHand, d.PerHand
	}
	for ; i >= d.size(turn); turn++ {
		i -= d.size(turn)
		if d.settled(turn) { // from here on they are all alike
			turn++
			size = d.size(turn)
			return turn + i/size, i % size, size
		}
	}
	return turn, i, d.size(turn)
}

// schemed returns the number of strikes that show a scheme: until the smallest set has been worked on both sides, or
// four sets that rise.
func (d SpeedBagDrill) schemed() int {
	n, turns := 0, 4
	if d.Scheme == Falling {
		for turns = held; d.size(turns) != d.size(turns-1); turns += held {
		}
		turns -= held - 2
	}
	for turn := range turns {
		n += d.size(turn)
	}
	return n
}
