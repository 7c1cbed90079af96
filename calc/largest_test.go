package calc

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
)

// What the largest rounds cost that anybody may send to be judged, in the shapes that once took the square of their
// length: nothing hit, everything between, gaps, a scatter, and all of it on a bag's clock.
func BenchmarkLargestRounds(b *testing.B) {
	rng := rand.New(rand.NewPCG(1, 1))
	const cord = `"clock":"bag","cycle":{"rig":{"kind":"doubleEnd","ballDiameter":0.18,"ballMass":0.45,` +
		`"upper":{"span":0.75,"relaxed":0.577,"stiffness":150},"lower":{"span":0.75,"relaxed":0.577,"stiffness":150},` +
		`"damping":0.04},"launch":2,"rebounds":1},`
	for name, of := range map[string]struct {
		more       string
		apart, win float64
		hit        func(due float64) float64
	}{
		"met":     {"", 0.5, 0.1, func(due float64) float64 { return due + 0.06*rng.NormFloat64() }},
		"between": {"", 0.5, 0.1, func(due float64) float64 { return due + 0.25 }},
		"gaps":    {"", 4, 0.3, func(due float64) float64 { return 2 * due }},
		"scatter": {"", 4, 1.5, func(float64) float64 { return 80_000 * rng.Float64() }},
		"by bag":  {cord, 0.5, 0.1, func(float64) float64 { return 10_000 * rng.Float64() }},
	} {
		var strikes, hits []string
		for i := range maxJudged {
			due := of.apart * float64(i)
			strikes = append(strikes, fmt.Sprintf(`{"at":%g,"window":%g}`, due, of.win))
			hits = append(hits, fmt.Sprintf(`{"at":%.4f}`, min(of.hit(due), 86_000)))
		}
		question := []byte("{" + of.more + `"strikes":[` + strings.Join(strikes, ",") + `],"hits":[` +
			strings.Join(hits, ",") + "]}")
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := Do(b.Context(), "judge", question); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
