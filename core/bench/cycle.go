package bench

import (
	"math"

	"melodromos/core/answer"
	"melodromos/core/drill"
	"melodromos/core/rig"
	"melodromos/core/trainee"
)

// Cycle is one cycle from strike to strike, to be drawn.
type Cycle struct {
	Trace     []rig.TracePoint `json:"trace"`
	Through   []rig.TracePoint `json:"through" doc:"past the return, when nobody strikes; at counts from the return"`
	Marks     []rig.Rebound    `json:"marks" doc:"contacts with the board, or turns"`
	Passes    []rig.Pass       `json:"passes" doc:"of a slip bag"`
	Return    float64          `json:"return" doc:"s"`
	Turn      float64          `json:"turn" doc:"s from one cycle, or repetition with its rest, to the next"`
	Window    float64          `json:"window" doc:"s, around the return"`
	Opens     float64          `json:"opens" doc:"s, from the return to the opening of the window"`
	Closes    float64          `json:"closes" doc:"s, from the return to its closing"`
	Strike    float64          `json:"strike" doc:"swing at which the bag is struck"`
	Mirrored  bool             `json:"mirrored" doc:"the next strike meets the bag from the other side"`
	Reach     float64          `json:"reach" doc:"s that a hand takes out to the bag, and back"`
	Speed     float64          `json:"speed" doc:"m/s, of the bag as it comes back"`
	Amplitude float64          `json:"amplitude" doc:"m of a swing of 1"`
	Contact   float64          `json:"contact" doc:"degrees at which a speed bag meets its board"`
	Pinned    *Cycle           `json:"pinned,omitempty" doc:"the cycle after a trap"`
	Starts    []float64        `json:"starts" doc:"s at which the trace begins anew, where it is that of a whole combination"`
}

// CycleOf is a picture of a bag's motion, to be drawn.
func CycleOf(p rig.Picture, kind rig.Kind) Cycle {
	return Cycle{
		Trace: answer.List(p.Trace), Through: answer.List(p.Through), Marks: answer.List(p.Marks),
		Passes: answer.List(p.Passes), Starts: []float64{}, Return: p.Return, Turn: p.Return,
		Window: p.Closes - p.Opens, Opens: p.Opens, Closes: p.Closes, Strike: p.Strike, Mirrored: p.Mirrored,
		Reach: trainee.StrikeMovement(kind), Speed: p.Speed, Amplitude: p.Reach, Contact: p.Contact * 180 / math.Pi,
	}
}

// FilmCycle is the motion of a run that repeats a film.
func FilmCycle(f drill.Film, kind rig.Kind) Cycle {
	c := CycleOf(rig.Picture{Trace: f.Trace, Marks: f.Marks, Passes: f.Passes, Return: f.Length, Reach: f.Reach}, kind)
	c.Starts, c.Turn = answer.List(f.Starts), max(f.Length, f.Turn) // earlier releases left the rest out
	return c
}

// TechniqueCycle is a cycle of a technique, and the one after a trap. The launch is in m/s; every is the time (s) from
// strike to strike.
func TechniqueCycle(d drill.SpeedBagDrill, bag rig.SpeedBag, launch, every float64) (Cycle, error) {
	picture, pinned, err := drill.Pictures(d, bag, launch, every)
	if err != nil {
		return Cycle{}, err
	}
	c := CycleOf(picture, rig.Speed)
	if pinned != nil {
		after := CycleOf(*pinned, rig.Speed)
		c.Pinned = &after
	}
	return c, nil
}
