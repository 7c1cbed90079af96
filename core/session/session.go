// Package session lays out a session: what is done before the bag, rounds of blocks with their rests, a
// finisher and the cool-down. It knows neither people nor a bag that hangs: those come with the class.
package session

import (
	"slices"

	"melodromos/core/drill"
	"melodromos/core/rig"
)

// RoundKind says what a round of a session is.
type RoundKind string

// The rounds in the order of the work (common practice).
const (
	WarmUp   RoundKind = "warmUp"   // off the bag
	Change   RoundKind = "change"   // wraps, gloves and water
	Work     RoundKind = "work"     // on the bags
	Finisher RoundKind = "finisher" // conditioning, counted or timed
	CoolDown RoundKind = "coolDown"
)

// Values lists them.
func (RoundKind) Values() []RoundKind { return []RoundKind{WarmUp, Change, Work, Finisher, CoolDown} }

// Role says what a block is for within its round.
type Role string

// The roles: an easy flow opens, what is known comes before what is new, the middle is for the new, then the whole, and
// the end is free or fast (common practice). Own is everybody's own drill, Off stands off the bag.
const (
	Opener  Role = "opener"
	Known   Role = "known"
	New     Role = "new"
	Whole   Role = "whole"
	Fast    Role = "fast"
	Free    Role = "free"
	Set     Role = "drill" // one drill for everybody
	Own     Role = "own"
	Counted Role = "counted"
	Off     Role = "off"
)

// Values lists them.
func (Role) Values() []Role {
	return []Role{Opener, Known, New, Whole, Fast, Free, Set, Own, Counted, Off}
}

// Block is a stretch of a round in which one thing is done.
type Block struct {
	Role     Role           `json:"role" enum:"opener,known,new,whole,fast,free,drill,own,counted,off"`
	Seconds  int            `json:"seconds" minimum:"1" maximum:"3600" doc:"how long it lasts; of a counted block the time that is set aside for it"`
	Times    int            `json:"times,omitempty" minimum:"0" maximum:"500" doc:"reps to do in a counted block; 0 for by time"`
	Activity Activity       `json:"activity,omitempty" enum:"skipping,bouncing,trunk,easyShadow,shadow,gloves,planks,squats,crunches,footwork,stretch,talk,breathe" doc:"what is done off the bag"`
	Text     string         `json:"text,omitempty" maxLength:"2000" doc:"the combination that is thrown"`
	Drill    string         `json:"drill,omitempty" maxLength:"60" doc:"key of a drill of the library"`
	Pace     drill.Pace     `json:"pace,omitempty" enum:"flow,combination,power,speed,free" doc:"of a combination"`
	Guidance drill.Guidance `json:"guidance,omitempty" enum:"called,partly,alone,fading" doc:"how far a combination is called"`
	Tries    int            `json:"tries,omitempty" minimum:"0" maximum:"100" doc:"success is marked as so many of this many tries; 0 for not marked"`
}

// OnBag says whether a block needs a bag.
func (b Block) OnBag() bool { return b.Activity == "" }

// Round is the work planned between two bells, and the rest after it.
type Round struct {
	Kind     RoundKind `json:"kind" enum:"warmUp,change,work,finisher,coolDown"`
	Emphasis string    `json:"emphasis" maxLength:"120" doc:"the one thing that this round is for"`
	Seconds  int       `json:"seconds" minimum:"5" maximum:"3600" doc:"from bell to bell; its blocks add up to it"`
	Rest     int       `json:"rest" minimum:"0" maximum:"900" doc:"s after it, until the next begins"`
	Blocks   []Block   `json:"blocks" minItems:"1" maxItems:"24" nullable:"false"`
}

// Session is a plan of rounds. Where Bag names a kind of bag its combinations are for that kind alone.
type Session struct {
	Name   string   `json:"name" maxLength:"120"`
	Note   string   `json:"note" maxLength:"400"`
	Bag    rig.Kind `json:"bag" enum:",speed,doubleEnd,reflex,slip,hanging" doc:"the kind of bag; empty for whichever everybody has"`
	Rounds []Round  `json:"rounds" minItems:"1" maxItems:"40" nullable:"false"`
}

// Clone is a copy that shares nothing with it.
func (s Session) Clone() Session {
	s.Rounds = slices.Clone(s.Rounds)
	for i := range s.Rounds {
		s.Rounds[i].Blocks = slices.Clone(s.Rounds[i].Blocks)
	}
	return s
}

// Taken returns the time (s) that the blocks of a round take.
func (r Round) Taken() int {
	n := 0
	for _, b := range r.Blocks {
		n += b.Seconds
	}
	return n
}

// OnBags says whether any of its blocks needs a bag.
func (r Round) OnBags() bool { return slices.ContainsFunc(r.Blocks, Block.OnBag) }

// OwnDrills says whether everybody does their own drill in it.
func (r Round) OwnDrills() bool {
	return slices.ContainsFunc(r.Blocks, func(b Block) bool { return b.Role == Own })
}

// Seconds returns the length (s) of a session; the rest after the last round does not count.
func (s Session) Seconds() int {
	n := 0
	for i, r := range s.Rounds {
		n += r.Seconds
		if i+1 < len(s.Rounds) {
			n += r.Rest
		}
	}
	return n
}
