package ladder

import (
	"testing"

	"melodromos/core/rig"
	"melodromos/core/run"
)

// A gate cannot be passed by luck on few strikes: a short round has to be clean throughout.
func TestGate(t *testing.T) {
	for r, want := range map[run.PastRound]bool{
		{Share: 0.8, Longest: 10, Planned: 50}: true, {Share: 0.79, Longest: 30, Planned: 50}: false,
		{Share: 0.95, Longest: 9, Planned: 50}: false,
		{Share: 1, Longest: 6, Planned: 6}:     true, {Share: 0.83, Longest: 5, Planned: 6}: false, {}: false,
	} {
		if DefaultGate.Passes(r) != want {
			t.Errorf("%+v: %v", r, !want)
		}
	}
}

// A rung that names a tempo wants it held within 5 %.
func TestTempoIsHeld(t *testing.T) {
	for _, r := range Rungs(rig.Speed, BasicFirst) {
		if r.Paced != (r.Key == "speed.quick") {
			t.Errorf("%s names a tempo: %v", r.Key, r.Paced)
		}
	}
	for tempo, want := range map[float64]bool{0: true, 1: true, 0.96: true, 1.04: true, 0.93: false, 1.08: false} {
		if got := DefaultGate.Passes(run.PastRound{Share: 0.9, Longest: 20, Planned: 100, Rung: "speed.quick",
			Tempo: 120 * tempo, Asked: 120}); got != want {
			t.Errorf("%g of the tempo: %v", tempo, got)
		}
	}
}
