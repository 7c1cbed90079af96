package session

import (
	"cmp"
	"fmt"
	"slices"

	"melodromos/core/input"
	"melodromos/core/words"
)

// LeastBlock is the shortest block (s) that a round is stretched to. Assumed: under it nothing can be called and done.
const LeastBlock = 10

// Fitted stretches or shrinks the blocks of a round so that they add up to its length to the second, in proportion, and
// none below LeastBlock. The block held (−1 for none) keeps its length, and so do counted ones. False where that cannot
// be: then the round comes back as it is.
func (r Round) Fitted(held int) (Round, bool) {
	var free []int // places of the blocks that give
	fixed, sum := 0, 0
	for i, b := range r.Blocks {
		if i == held || b.Times > 0 {
			fixed += b.Seconds
		} else {
			free = append(free, i)
			sum += b.Seconds
		}
	}
	room := r.Seconds - fixed
	if room == sum {
		return r, true
	}
	if len(free) == 0 || room < LeastBlock*len(free) {
		return r, false
	}
	shares := make([]int, len(free))
	for i, at := range free {
		shares[i] = r.Blocks[at].Seconds
	}
	r.Blocks = slices.Clone(r.Blocks)
	for i, seconds := range parted(room, shares, LeastBlock) {
		r.Blocks[free[i]].Seconds = seconds
	}
	return r, true
}

// Settled gives counted blocks the time that their reps take, and lets the other blocks of a round give way to the
// block of it that was changed (−1 for the round's own length). No round is changed where round is −1, or where that
// cannot be.
func (s Session) Settled(round, block int) Session {
	s = s.Clone()
	for i, r := range s.Rounds {
		for j, b := range r.Blocks {
			r.Blocks[j].Seconds = b.Lasting()
		}
		if i == round {
			s.Rounds[i], _ = r.Fitted(block)
		}
	}
	return s
}

// parted parts a whole in proportion to shares, each at least least, by the largest remainder: the sum is exact. The
// whole is at least least for each.
func parted(whole int, shares []int, least int) []int {
	out := make([]int, len(shares))
	open := make([]int, len(shares))
	for i := range open {
		open[i] = i
	}
	for {
		left, sum := whole, 0
		for i, v := range out {
			if !slices.Contains(open, i) {
				left -= v
			}
		}
		for _, i := range open {
			sum += max(1, shares[i])
		}
		short := slices.IndexFunc(open, func(i int) bool { return left*max(1, shares[i]) < least*sum })
		if short >= 0 { // it gets the least, the others share the rest
			out[open[short]] = least
			open = slices.Delete(open, short, short+1)
			continue
		}
		rest := left
		for _, i := range open {
			out[i] = left * max(1, shares[i]) / sum
			rest -= out[i]
		}
		slices.SortStableFunc(open, func(a, b int) int {
			return cmp.Compare(left*max(1, shares[b])%sum, left*max(1, shares[a])%sum)
		})
		for _, i := range open[:rest] {
			out[i]++
		}
		return out
	}
}

// Check refuses a session that contradicts itself, by field.
func (s Session) Check() error {
	if len(s.Rounds) == 0 {
		return input.Refuse("rounds", "expected at least one round")
	}
	for i, r := range s.Rounds {
		for j, b := range r.Blocks {
			if err := b.check(); err != nil {
				return input.Under(fmt.Sprintf("rounds[%d]", i), input.Under(fmt.Sprintf("blocks[%d]", j), err))
			}
		}
		if len(r.Blocks) == 0 {
			return input.Refuse(fmt.Sprintf("rounds[%d].blocks", i), "expected at least one block")
		}
	}
	for i, r := range s.Rounds {
		if taken := r.Taken(); taken != r.Seconds {
			return input.Refuse(fmt.Sprintf("rounds[%d].seconds", i), "expected the blocks to fill the round: %s",
				misfit(taken, r.Seconds))
		}
	}
	return nil
}

func misfit(taken, seconds int) string {
	if taken > seconds {
		return fmt.Sprintf("they are %s too long for it", words.Count(taken-seconds, "second"))
	}
	return fmt.Sprintf("they leave %s of it empty", words.Count(seconds-taken, "second"))
}
