package ledger_test

import (
	"encoding/json"
	"testing"
	"time"

	"melodromos/core/drill"
	"melodromos/core/ladder"
	"melodromos/core/roster"
	"melodromos/demo"
	"melodromos/ledger"
	"melodromos/store"
	"melodromos/store/storetest"
)

// What is proposed to somebody on any bag is what they have once it is taken, and what is proposed to them then:
// nothing is read in two ways. Taken twice, it is given once.
func TestWhatIsProposedIsGiven(t *testing.T) {
	s := storetest.Open(t)
	if err := demo.Load(t.Context(), s, time.Now()); err != nil {
		t.Fatal(err)
	}
	row, err := s.DemoGym(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	gym := s.Gym(t.Context(), row.ID)
	coaches, err := gym.Coaches()
	if err != nil {
		t.Fatal(err)
	}
	read := func() roster.Roster {
		c, err := ledger.Roster(gym, row, "", time.Now(), nil)
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	whole := read()
	taken := 0
	for i := range whole.Members {
		m := &whole.Members[i]
		for _, kind := range whole.Kinds() {
			p, err := whole.On(m, kind)
			if err != nil {
				t.Fatal(err)
			}
			if p.Barred != "" {
				continue
			}
			var first store.Assignment
			for time := range 2 {
				a, err := ledger.Take(gym, p, ladder.Accept, "", coaches[0])
				if err != nil {
					t.Fatal(err)
				}
				if time == 0 {
					first = a
				} else if a.ID != first.ID {
					t.Errorf("%s on %s: given twice", m.Name, kind)
				}
			}
			given, err := ledger.Given(first, string(m.Stance))
			if err != nil {
				t.Fatal(err)
			}
			if want, got := text(t, p.Plan()), text(t, given); want != got {
				t.Errorf("%s on %s is proposed %s and given %s", m.Name, kind, want, got)
			}
			after := read()
			again, err := after.On(after.Member(m.ID), kind)
			if err != nil {
				t.Fatal(err)
			}
			if again.AssignmentID != first.ID || text(t, again.Plan()) != text(t, given) {
				t.Errorf("%s on %s has %s, and is then proposed %s", m.Name, kind, text(t, given),
					text(t, again.Plan()))
			}
			taken++
		}
	}
	if taken < 20 {
		t.Errorf("only %d were proposed", taken)
	}
}

func text(t *testing.T, p drill.Plan) string {
	t.Helper()
	out, err := json.Marshal(p)
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}
