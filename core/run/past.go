package run

import "time"

// PastRound is an ended round with the figures that the log keeps of it, or what somebody did on a bag in a class, of
// which nothing was judged.
type PastRound struct {
	ID         string
	At         time.Time
	Bag        string  // id
	Assignment string  // id; "" where it is gone
	Rung       string  // key; "" for none
	Eased      bool    // it was made easier than the rung has it: it trains, and passes no gate
	InClass    bool    // on a bag that the class went round to: it leads nobody from the bag that they go on with
	Counts     bool    // judged up to its bell
	Judged     bool    // as far as it came
	Share      float64 // of the strikes that met the bag; of a slip bag, of the passes that did not touch
	Give       float64 // by how much that may be off, where it was estimated
	Longest    int     // clean in a row
	Planned    int     // strikes, or passes
	Strikes    int     // that were struck
	Passes     int     // of a slip bag, where nothing was struck
	Wild       bool    // the coach marked it so, or it broke off
	Tempo      float64 // strikes a minute that were held; 0 where that is not known
	Asked      float64 // strikes a minute that were planned
	Predicted  float64 // share; NaN where nothing was predicted
	Lasted     float64 // s
}
