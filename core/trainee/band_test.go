package trainee

import (
	"fmt"
	"testing"
)

// Whoever is further on is no slower, no less even and no weaker.
func TestBandsAscend(t *testing.T) {
	for i := 1; i < len(Bands); i++ {
		a, b := Start(Bands[i-1]), Start(Bands[i])
		if !(b.Timing < a.Timing && b.Motor < a.Motor && b.Alternate < a.Alternate && b.SameHand < a.SameHand &&
			b.FistSpeed > a.FistSpeed) {
			t.Errorf("%s %+v after %s %+v", Bands[i], b, Bands[i-1], a)
		}
		if b.SameHand <= b.Alternate {
			t.Errorf("%s: one hand is as quick as two", Bands[i])
		}
	}
	if Start("unheard of") != Start(Beginner) {
		t.Error("an unknown band is no beginner")
	}
}

func ExampleAbility_Effort() {
	a := Start(Intermediate)
	fmt.Println(a.Effort(2), "/", a.Effort(3.5), "/", a.Effort(5.5), "/", a.Effort(7), "/", a.Effort(8))
	// Output: soft / about half power / hard / full power / harder than this hand can strike
}
