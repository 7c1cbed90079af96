package rig

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/interp"

	"melodromos/core/input"
)

// ComeBacks is a table of how a bag answers strikes of any force: a row for each launch, with the moments at which it
// then comes back, one after the other as long as nobody meets it, and how long it can be struck there. A run carries
// it, so that a round can follow the hits without working out the motion anew.
type ComeBacks struct {
	Counts []int `json:"counts"` // rebounds to each come-back, from 1 on unless the first ones cannot be met
	// places from one that comes to the hand to the next: 2 on a speed bag (the parity rule)
	Step  int           `json:"step"`
	Least float64       `json:"least"` // m/s that a launch has to exceed, 0 where any will do
	Touch float64       `json:"touch"` // s after a strike within which another hit is the same touch of the bag
	Rows  []ComeBackRow `json:"rows"`  // by launch, ascending

	at     []interp.NotAKnotCubic  // over x, one for each count
	window []interp.FritschButland // likewise; it has a corner where the ball begins to leave its own radius
	back   [][]TracePoint          // for each count, launches (as Swing) by their come-backs (as At), ascending
}

// ComeBackRow is one launch of the table. All times are in s after the strike.
type ComeBackRow struct {
	Launch float64   `json:"launch"` // m/s
	At     []float64 `json:"at"`     // come-backs, as Counts has them
	Window []float64 `json:"window"`
	Boards []float64 `json:"boards,omitempty"` // contacts with the board up to the last come-back
	// the bag's way, in even steps up to the last come-back; 1 is the board, or as far as it goes
	Swing []float64 `json:"swing"`
}

const (
	comeBackRows = 24 // launches of the table: times are then within 0.2 ms of the motion itself (tested)
	letThrough   = 2  // come-backs past the planned one that are told
	// s: longer than two fists of one blow are apart, shorter than any bag takes to come back to a hand. Assumed
	oneTouch  = 0.12
	rowPoints = 64 // points of the way
)

// NewComeBacks tabulates a bag for strikes that are planned to be met after a number of rebounds and no more than most;
// the meeting gives face and angle of a speed bag. A slip bag, which nobody has to strike, is refused.
func NewComeBacks(r Rig, m Meeting, most int) (*ComeBacks, error) {
	if r.Kind() == Slip {
		return nil, input.Refuse("rig", "expected a bag that is struck: a slip bag swings by itself")
	}
	limits, err := r.Limits(m)
	if err != nil {
		return nil, err
	}
	hardest := math.Max(limits.FastestLaunch, limits.SlowestLaunch)
	if b, ok := r.(SpeedBag); ok {
		return tabulate(counts(1, most+2*letThrough, 1), 2, b.least(b.angleOf(m)), hardest,
			func(launch float64, n []int) (ComeBackRow, error) { return b.comeBacks(launch, m, n) })
	}
	return tabulate(counts(1, most+letThrough, 1), 1, 0, hardest,
		func(launch float64, n []int) (ComeBackRow, error) { return swingBacks(r, launch, n) })
}

// DoubleComeBacks is NewComeBacks for double punches, each counted from its first contact.
func (b SpeedBag) DoubleComeBacks(m Meeting) (*ComeBacks, error) {
	m.Face = Front
	slow, err := b.SolveDouble(1, m) // refused, with the limits
	if err != nil {
		return nil, err
	}
	return tabulate(counts(m.Rebounds, m.Rebounds+2*letThrough, 2), 1, slow.Limits.SlowestLaunch, MaxLaunch,
		func(launch float64, n []int) (ComeBackRow, error) {
			row := ComeBackRow{Launch: launch}
			for _, c := range n {
				d, err := b.DoublePunch(launch, Meeting{Rebounds: c, Angle: m.Angle, Face: Front})
				if err != nil {
					return row, err
				}
				row.At, row.Window, row.Boards = append(row.At, d.Return.At), append(row.Window, d.Return.Window),
					d.Return.Boards
			}
			row.draw(contacts(row.Boards, row.At[len(row.At)-1], b.angleOf(m)/b.Contact()))
			return row, nil
		})
}

// contacts draws a swing from board to board where no finer picture is at hand.
func contacts(boards []float64, end, strike float64) []TracePoint {
	list, side := []TracePoint{{0, strike}}, 1.0
	for i, at := range boards {
		if i > 1 {
			side = -side
		}
		list = append(list, TracePoint{at, side})
	}
	return append(list, TracePoint{end, strike})
}

// counts lists rebound counts from one to another.
func counts(from, to, step int) []int {
	var list []int
	for c := from; c <= to; c += step {
		list = append(list, c)
	}
	return list
}

func (b SpeedBag) angleOf(m Meeting) float64 {
	if m.Angle == 0 {
		return DefaultStrikeAngle
	}
	return m.Angle
}

func (b SpeedBag) comeBacks(launch float64, m Meeting, counts []int) (ComeBackRow, error) {
	row := ComeBackRow{Launch: launch}
	for _, c := range counts {
		r, err := b.Return(launch, Meeting{Rebounds: c, Angle: m.Angle})
		if err != nil {
			return row, err
		}
		row.At, row.Window, row.Boards = append(row.At, r.At), append(row.Window, r.Window), r.Boards
	}
	points, err := b.Trace(launch, Meeting{Rebounds: counts[len(counts)-1], Angle: m.Angle}, 16)
	row.draw(points)
	return row, err
}

// swingBacks is a row of a bag that swings about its rest.
func swingBacks(r Rig, launch float64, counts []int) (ComeBackRow, error) {
	row := ComeBackRow{Launch: launch}
	list, err := r.Returns(launch, Meeting{}, len(counts))
	if err != nil {
		return row, err
	}
	for _, back := range list {
		row.At, row.Window = append(row.At, back.At), append(row.Window, back.Window)
	}
	points, _ := r.Trail([]Blow{{Launch: launch}}, 0, row.At[len(row.At)-1])
	row.draw(points)
	return row, nil
}

// draw samples a way evenly.
func (r *ComeBackRow) draw(points []TracePoint) {
	end := r.At[len(r.At)-1]
	r.Swing = make([]float64, rowPoints)
	for k, i := 0, 1; k < rowPoints && len(points) > 1; k++ {
		at := end * float64(k) / (rowPoints - 1)
		for i < len(points)-1 && points[i].At < at {
			i++
		}
		a, b := points[i-1], points[i]
		swing := b.Swing
		if b.At > a.At {
			swing = a.Swing + (b.Swing-a.Swing)*math.Min(1, (at-a.At)/(b.At-a.At))
		}
		r.Swing[k] = math.Round(1e3*swing) / 1e3
	}
}

// round keeps whole microseconds, as a timeline has them.
func (r *ComeBackRow) round() {
	for _, list := range [][]float64{r.At, r.Window, r.Boards} {
		for i, v := range list {
			list[i] = math.Round(1e6*v) / 1e6
		}
	}
}

// spread is the factor by which the launches of a table lie closer together where strikes are soft, as most are.
const spread = 1.5

// SoftestTold is the softest launch (m/s) of a table between two limits: any softer, a speed bag hardly reaches its
// board.
func SoftestTold(l Tempo) float64 {
	least := 0.0
	hardest := math.Max(l.FastestLaunch, l.SlowestLaunch)
	if l.FastestLaunch > l.SlowestLaunch {
		least = l.SlowestLaunch
	}
	x := math.Sqrt(hardest*hardest-least*least) * math.Pow(1.0/comeBackRows, spread)
	return math.Sqrt(x*x + least*least)
}

func tabulate(counts []int, step int, least, hardest float64,
	row func(float64, []int) (ComeBackRow, error)) (*ComeBacks, error) {
	c := &ComeBacks{Counts: counts, Step: step, Least: least, Touch: oneTouch}
	top := c.x(hardest)
	for k := range comeBackRows {
		part := float64(k+1) / comeBackRows
		x := top * math.Pow(part, spread)
		next, err := row(math.Sqrt(x*x+least*least), counts)
		if err != nil {
			return nil, err
		}
		next.round()
		c.Rows = append(c.Rows, next)
	}
	return c, c.Ready()
}

// Ready prepares a table that was read from its document. It refuses one that cannot be a table.
func (c *ComeBacks) Ready() error {
	xs := make([]float64, len(c.Rows))
	for i, r := range c.Rows {
		if xs[i] = c.x(r.Launch); len(r.At) != len(c.Counts) || len(r.Window) != len(c.Counts) ||
			i > 0 && !(xs[i] > xs[i-1]) {
			return input.Refuse("bag", "expected rows by launch, each with every come-back")
		}
	}
	if len(xs) < 4 || len(c.Counts) == 0 || c.Step < 1 {
		return input.Refuse("bag", "expected a table of come-backs")
	}
	c.at, c.window = make([]interp.NotAKnotCubic, len(c.Counts)), make([]interp.FritschButland, len(c.Counts))
	ys := make([]float64, len(xs))
	for n := range c.Counts {
		for i, r := range c.Rows {
			ys[i] = r.At[n]
		}
		if err := c.at[n].Fit(xs, ys); err != nil {
			return err
		}
		for i, r := range c.Rows {
			ys[i] = r.Window[n]
		}
		if err := c.window[n].Fit(xs, ys); err != nil {
			return err
		}
	}
	c.invert()
	return nil
}

// perRow is the number of steps in which launches are looked up between two rows.
const perRow = 12

// invert lists launches by when the bag comes back from them.
func (c *ComeBacks) invert() {
	c.back = make([][]TracePoint, len(c.Counts))
	for n := range c.back {
		for i, row := range c.Rows[:len(c.Rows)-1] {
			a, b := c.x(row.Launch), c.x(c.Rows[i+1].Launch)
			for k := range perRow {
				x := a + (b-a)*float64(k)/perRow
				c.back[n] = append(c.back[n], TracePoint{c.at[n].Predict(x), math.Sqrt(x*x + c.Least*c.Least)})
			}
		}
		last := c.Rows[len(c.Rows)-1]
		c.back[n] = append(c.back[n], TracePoint{last.At[n], last.Launch})
		slices.SortFunc(c.back[n], func(a, b TracePoint) int { return cmp.Compare(a.At, b.At) })
	}
}

// x returns the variable in which times are smooth: the speed (m/s) at the first contact with a board, or the launch
// where there is no board.
func (c *ComeBacks) x(launch float64) float64 {
	return math.Sqrt(math.Max(0, launch*launch-c.Least*c.Least))
}

// Place returns the index of a rebound count in Counts, −1 where it is not there.
func (c *ComeBacks) Place(rebounds int) int { return slices.Index(c.Counts, rebounds) }

// Held is a launch (m/s) held to those of the table.
func (c *ComeBacks) Held(launch float64) float64 {
	return math.Min(math.Max(launch, c.Rows[0].Launch), c.Rows[len(c.Rows)-1].Launch)
}

// At returns the time (s) after a strike at launch m/s at which the bag is back for the count at an index; launches are
// held to those of the table.
func (c *ComeBacks) At(place int, launch float64) float64 {
	return c.at[place].Predict(c.x(c.Held(launch)))
}

// Window returns the time (s) during which it can be struck there.
func (c *ComeBacks) Window(place int, launch float64) float64 {
	return math.Max(0, c.window[place].Predict(c.x(c.Held(launch))))
}

// Bounds are the soonest and the latest come-back (s) for the count that stands at a place.
func (c *ComeBacks) Bounds(place int) (soonest, latest float64) {
	a, b := c.Rows[0].At[place], c.Rows[len(c.Rows)-1].At[place]
	return math.Min(a, b), math.Max(a, b)
}

// Launch is the launch (m/s) from which the bag comes back at s for the count that stands at a place, held to those of
// the table. Times change one way with the launch, on every bag. Read to 0.5 % of the launch.
func (c *ComeBacks) Launch(place int, at float64) float64 {
	list := c.back[place]
	i, _ := slices.BinarySearchFunc(list, at, func(p TracePoint, at float64) int { return cmp.Compare(p.At, at) })
	switch {
	case i == 0:
		return list[0].Swing
	case i == len(list):
		return list[i-1].Swing
	}
	a, b := list[i-1], list[i]
	return a.Swing + (b.Swing-a.Swing)*(at-a.At)/(b.At-a.At)
}

// Step is one strike whose force was known, and the time the bag took to the next.
type Step struct {
	Launch   float64 // m/s
	Rebounds int
	Took     float64 // s
}
