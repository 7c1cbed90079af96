package class

import (
	"testing"
)

// What was done stands beside what was planned, with what was carried on and the tries; of nothing nothing is said.
func TestSum(t *testing.T) {
	tens := template("tens")
	p := Class{Session: tens.Session}
	if said := p.Sum(nil); said != "" {
		t.Errorf("%q", said)
	}
	list := []BlockDone{{Person: "a", Lap: 0, Seconds: 180, OnBag: true, Got: 3, Failed: 1},
		{Person: "b", Lap: 0, Seconds: 180}, {Person: "a", Lap: 1, Seconds: 180, OnBag: true, Carried: true,
			Title: "A"},
		{Person: "b", Lap: 1, Seconds: 170, OnBag: true, Carried: true, Title: "A"}}
	said := p.Sum(list)
	n := len(tens.Session.Rounds)
	want := "Done: 2 of them by 2 people, 9 minutes on the bags and 3 off them, all together. Carried to a later round: A. Tries that came off: 3 of 4."
	if len(said) < len(want) || said[len(said)-len(want):] != want || n == 0 {
		t.Errorf("%q", said)
	}
}
