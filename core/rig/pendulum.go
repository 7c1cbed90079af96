package rig

import (
	"math"

	"melodromos/core/motion"
)

// solvePendulum solves for the launch or pull of a pendulum, whose swing slows as it grows.
func solvePendulum(tempo float64, m Meeting, limitsOf func(Meeting) (Tempo, error),
	cycle func(float64) (float64, error), answer func(float64) (TempoAnswer, error)) (TempoAnswer, error) {
	if err := TempoLimits.Check("tempo", tempo); err != nil {
		return TempoAnswer{}, err
	}
	limits, err := limitsOf(m)
	if err != nil {
		return TempoAnswer{}, err
	}
	if tempo < limits.Slowest || tempo >= limits.Fastest {
		return TempoAnswer{Tempo: tempo, Limits: limits}, nil
	}
	launch, err := motion.Root(func(v float64) float64 {
		t, err := cycle(v)
		if err != nil {
			return math.NaN()
		}
		return t - 60/tempo
	}, 1e-6*limits.SlowestLaunch, limits.SlowestLaunch, 1e-12)
	if err != nil {
		launch = 1e-6 * limits.SlowestLaunch // within rounding of the small swing
	}
	a, err := answer(launch)
	a.Tempo = tempo
	return a, err
}
