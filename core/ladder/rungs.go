// Package ladder decides what a trainee does next on a kind of bag.
package ladder

import (
	"slices"

	"melodromos/core/catalogue"
	"melodromos/core/drill"
	"melodromos/core/rig"
)

// School says what a ladder begins with, where coaches differ.
type School string

// The schools for the speed bag: the basic rhythm first (the default), or the fist roll, because it is easier when done
// exactly.
const (
	BasicFirst School = ""
	RollFirst  School = "fistRoll"
)

// Values lists them.
func (School) Values() []School { return []School{BasicFirst, RollFirst} }

// Rung is a step of a ladder: a drill of the catalogue, laid out for whoever stands on it.
type Rung struct {
	catalogue.Entry
	added bool // it came in among the others: whoever is past a later one need not come back for it
}

// steps are the ladders by the keys of the catalogue, from the first touch to the expert (common practice; the order is
// that of the trade).
var steps = map[rig.Kind][]string{
	rig.Speed: {"once", "rear", "lead", "five", "three", "two", "alternating", "roll", "catch", "double", "linking",
		"trap", "exchange", "ear", "quick"},
	rig.DoubleEnd: {"jab", "later", "second", "two", "slip", "flow", "three", "answer", "duck", "pivot", "surprise",
		"long"},
	rig.Reflex: {"settle", "second", "two", "slip", "three", "flow", "answer", "roll", "surprise", "long"},
	rig.Slip:   {"guard", "lead", "rear", "sides", "duck", "touch", "both", "two", "long"},
	rig.Hanging: {"jab", "two", "double", "three", "body", "step", "roll", "comes", "stop", "pivot", "surprise",
		"long"},
}

// addedLater are the rungs that came in among the others.
var addedLater = []string{"speed.catch", "speed.exchange", "slip.guard", "hanging.stop"}

// ladders are the rungs of each kind of bag, kinds the kind of each rung.
var ladders, kinds = built()

func built() (map[rig.Kind][]Rung, map[string]rig.Kind) {
	list, kindOf := map[rig.Kind][]Rung{}, map[string]rig.Kind{}
	for kind, names := range steps {
		for _, name := range names {
			key := string(kind) + "." + name
			e, ok := catalogue.Find(key)
			if !ok {
				panic("no drill of the catalogue has the key " + key)
			}
			list[kind] = append(list[kind], Rung{e, slices.Contains(addedLater, key)})
			kindOf[key] = kind
		}
	}
	return list, kindOf
}

// Rungs lists the ladder of a kind of bag in the order of a school.
func Rungs(kind rig.Kind, s School) []Rung {
	list := slices.Clone(ladders[kind])
	if kind == rig.Speed && s == RollFirst {
		i := slices.IndexFunc(list, func(r Rung) bool { return r.Key == "speed.roll" })
		roll := list[i]
		list = slices.Insert(slices.Delete(list, i, i+1), 0, roll)
	}
	return list
}

// Find gives the rung of a key; false where there is none.
func Find(key string) (Rung, bool) {
	list := ladders[kinds[key]]
	i := slices.IndexFunc(list, func(r Rung) bool { return r.Key == key })
	if i < 0 {
		return Rung{}, false
	}
	return list[i], true
}

// KindOf is the kind of bag that the rung of that key belongs to; "" where there is no such rung.
func KindOf(key string) rig.Kind { return kinds[key] }

// Match is the key of the rung that a plan is the drill of, whatever its force, tempo and length; "" for none. So a
// drill that was written by hand counts on the ladder as well. Of a rung whose point is its tempo, the plan has to say
// its effort.
func Match(p drill.Plan, kind rig.Kind) string {
	for _, r := range ladders[kind] {
		if r.Is(p) {
			return r.Key
		}
	}
	return ""
}

// Follow is the kind of bag that somebody goes on with, the one they were on last (used is oldest first), or the first
// that hangs; "" where none does.
func Follow(hung, used []rig.Kind) rig.Kind {
	for i := len(used) - 1; i >= 0; i-- {
		if slices.Contains(hung, used[i]) {
			return used[i]
		}
	}
	if len(hung) == 0 {
		return ""
	}
	return hung[0]
}
