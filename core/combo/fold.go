package combo

// Fold tells how a row of moves is held in mind: a group that is repeated at once is held once, and one more for its
// being repeated. It gives the place of each move among those that are held, from 0, whether the move only repeats one
// that is held, and how many places there are. Moves that are the same but for the rebounds after them are the same; a
// wait is no move.
func Fold(moves []Placed) (places []int, again []bool, held int) {
	places, again = make([]int, len(moves)), make([]bool, len(moves))
	for i := 0; i < len(moves); {
		length, times := group(moves[i:])
		n := held
		for k := range length {
			places[i+k] = n
			if moves[i+k].Kind() != Wait {
				n++
			}
		}
		for k := length; k < length*times; k++ {
			places[i+k], again[i+k] = places[i+k%length], true
		}
		if held = n; times > 1 {
			held++
		}
		i += length * times
	}
	return places, again, held
}

// group is the group at the beginning of a row whose repetition saves most to hold, and how often it comes; a single
// move once where nothing is saved.
func group(moves []Placed) (length, times int) {
	best := 0
	length, times = 1, 1
	for l := 1; 2*l <= len(moves); l++ {
		n := 1
		for (n+1)*l <= len(moves) && alike(moves[:l], moves[n*l:(n+1)*l]) {
			n++
		}
		if saved := (n-1)*l - 1; saved > best {
			best, length, times = saved, l, n
		}
	}
	return length, times
}

func alike(a, b []Placed) bool {
	for i := range a {
		x, y := a[i].Move, b[i].Move
		x.Rebounds, y.Rebounds = 0, 0
		if x != y || a[i].Stance != b[i].Stance {
			return false
		}
	}
	return true
}
