// Package run is a round as it is run: how it starts, pauses and ends, and what becomes of what was captured in it.
package run

import (
	"time"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/core/judge"
)

// State tells how far a round has come.
type State string

// A round is ready until its clock starts. Stopped rounds keep their hits; done ones came to their closing bell.
const (
	Ready   State = "ready"
	Running State = "running"
	Paused  State = "paused"
	Done    State = "done"
	Stopped State = "stopped"
)

// Values lists them.
func (State) Values() []State { return []State{Ready, Running, Paused, Done, Stopped} }

// Over says whether a round has ended.
func (s State) Over() bool { return s == Done || s == Stopped }

// Action moves a round's clock: start, pause, resume, stop.
type Action string

// The actions. Finish is the closing bell; Stop ends a round before it.
const (
	Start  Action = "start"
	Pause  Action = "pause"
	Resume Action = "resume"
	Stop   Action = "stop"
	Finish Action = "finish"
)

// Values lists them.
func (Action) Values() []Action { return []Action{Start, Pause, Resume, Stop, Finish} }

// RoundClock is the state of a round's clock. Times are wall-clock times, zero for what has not happened.
type RoundClock struct {
	State   State
	Ending  judge.Ended  // "" while it is not over
	Clock   drill.Micros // how far its clock is known to have come
	Zero    time.Time    // when the clock's zero was, while it runs
	Seen    time.Time    // when its screen was last heard of
	Started time.Time
	Ended   time.Time
}

// New is the course of a round that has been made.
func New(now time.Time) RoundClock { return RoundClock{State: Ready, Seen: now} }

// Now is the round's clock at a time of the wall.
func (c RoundClock) Now(at time.Time) drill.Micros {
	if c.Zero.IsZero() {
		return c.Clock
	}
	return max(c.Clock, drill.Micros(at.Sub(c.Zero).Microseconds()))
}

// Step takes an action that happened when the round's clock stood at clock. What comes late is taken as it is meant: a
// round that was counted as stopped because its screen was cut off goes on when the screen comes back, ending a round
// twice changes nothing, and one that came to its bell stays as it is. A pause of what never started is refused.
func (c RoundClock) Step(a Action, clock drill.Micros, now time.Time) (RoundClock, error) {
	if c.State == Done {
		return c, nil
	}
	switch a {
	case Start, Resume:
		c.Zero = now.Add(-time.Duration(clock) * time.Microsecond)
		c.State, c.Ending, c.Ended = Running, "", time.Time{}
		if c.Started.IsZero() {
			c.Started = c.Zero
		}
	case Pause:
		if c.Started.IsZero() {
			return c, input.Refuse("action", "expected a round that has started: this one has not")
		}
		c.State, c.Ending, c.Zero, c.Ended = Paused, "", time.Time{}, time.Time{}
	case Stop:
		if c.State == Stopped {
			return c, nil
		}
		c = c.end(Stopped, judge.Stopped, now)
	case Finish:
		if c.Started.IsZero() { // its start was never heard of: there is nothing to judge
			c = c.end(Stopped, judge.Stopped, now)
		} else {
			c = c.end(Done, judge.AtBell, now)
		}
	default:
		return c, input.Refuse("action", "expected start, pause, resume, stop or finish")
	}
	c.Seen, c.Clock = now, clock
	if c.Started.IsZero() {
		c.Clock = 0
	}
	return c, nil
}

// Heard notes that the round's screen was heard of, and how far it says that the clock has come. Only the screen's word
// keeps a round open.
func (c RoundClock) Heard(clock drill.Micros, now time.Time) RoundClock {
	if !c.State.Over() {
		c.Seen, c.Clock = now, max(c.Clock, clock)
	}
	return c
}

// Vanish ends a round whose screen has gone, at the last moment that it is known to have reached.
func (c RoundClock) Vanish() RoundClock {
	if c.State.Over() {
		return c
	}
	clock := c.Clock
	c = c.end(Stopped, judge.Vanished, c.Seen)
	if c.Clock = clock; c.Started.IsZero() {
		c.Clock = 0
	}
	return c
}

// end closes a round where its clock stands.
func (c RoundClock) end(state State, how judge.Ended, at time.Time) RoundClock {
	c.State, c.Ending, c.Zero, c.Ended = state, how, time.Time{}, at
	return c
}

// SetsGoing says whether an action sets a round going that stood: it is then asked anew whether anything bars it.
func (c RoundClock) SetsGoing(a Action) bool {
	return (a == Start || a == Resume) && c.State != Running && c.State != Done
}
