package rig

import (
	"errors"
	"math"
	"testing"

	"melodromos/core/input"
)

// With equal cords and no weight the ball comes back where it was struck, at the time of the one-dimensional model.
func TestEvenInTheMiddle(t *testing.T) {
	e, err := doubleEnd.evenness(3, 0)
	if err != nil {
		t.Fatal(err)
	}
	list, _ := doubleEnd.Returns(3, Meeting{}, 1)
	near(t, "height", e.Height, 0, 1e-9)
	near(t, "shift", e.Shift, 0, 1e-12)
	near(t, "time", e.At, list[0].At, 1e-6)
}

// Mirrored top to bottom, without weight, the error is the same the other way up.
func TestEvennessMirrored(t *testing.T) {
	high := doubleEnd
	high.Upper = Cord{Span: 0.6, Relaxed: 0.6 * 0.577 / 0.75, Stiffness: 150 * 0.75 / 0.6}
	high.Upper.Stiffness = doubleEnd.Lower.tension() / (high.Upper.Span - high.Upper.Relaxed) // as tight as the lower
	low := high
	low.Upper, low.Lower = high.Lower, high.Upper
	one, err := high.evenness(3, 0)
	if err != nil {
		t.Fatal(err)
	}
	two, err := low.evenness(3, 0)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "mirrored", one.Height, -two.Height, 1e-9)
	if math.Abs(one.Height) < 1e-5 {
		t.Errorf("off the middle it comes back even: %g", one.Height)
	}
}

// The further off the middle, the more uneven (common practice); and the weight is held by the shift of the lower cord.
func TestFurtherOffIsWorse(t *testing.T) {
	last := -1.0
	for _, off := range []float64{0, 0.05, 0.1, 0.15} {
		b := doubleEnd
		b.Upper.Span, b.Upper.Relaxed = 0.75-off, (0.75-off)*0.577/0.75
		b.Lower.Span, b.Lower.Relaxed = 0.75+off, (0.75+off)*0.577/0.75
		e, err := b.Evenness(3)
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(e.Height) <= last {
			t.Errorf("%g m off the middle it is off by %g, no more than before", off, e.Height)
		}
		last = math.Abs(e.Height)
	}
	heavy := doubleEnd
	heavy.BallMass = 3
	_, err := heavy.Evenness(3)
	var refused *input.Error
	if !errors.As(err, &refused) || refused.Field != "lower.relaxed" {
		t.Errorf("%v, want a refusal of lower.relaxed", err)
	}
}
