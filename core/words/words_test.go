package words

import "testing"

// An inch is 25.4 mm exactly (international yard and pound agreement, 1959).
func TestWords(t *testing.T) {
	for got, want := range map[string]string{
		Metric.Length(0.19): "19 cm", Metric.Length(0.125): "12.5 cm", Metric.Length(1): "1.00 m",
		Metric.Length(1.587):    "1.59 m",
		Imperial.Length(0.0254): "1 in", Imperial.Length(0.889): "35 in", Trimmed(3.04): "3", Trimmed(2.96): "3",
		Trimmed(0.25): "0.2",
		Number(3):     "three", Number(11): "11", Number(-1): "-1", Upper("hang it"): "Hang it",
		Upper("élan"): "Élan", Lower("Über"): "über",
		Ordinal(1): "first", Ordinal(9): "ninth", Ordinal(11): "11th", Ordinal(22): "22nd", Ordinal(113): "113th",
		Lower("Hangs"): "hangs",
		Upper(""):      "",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// Heights are said in feet and inches, as people say them; the foot is 0.3048 m exactly (international foot, 1959).
func TestFeet(t *testing.T) {
	for v, want := range map[float64]string{0.9144: "3 ft", 1.8288: "6 ft", 1.8034: "5 ft 11 in", 1.816: "5 ft 11½ in",
		2.85: "9 ft 4 in", 1.8287: "6 ft", -1.5: "−4 ft 11 in"} {
		if got := Imperial.Length(v); got != want {
			t.Errorf("%g m: %q, want %q", v, got, want)
		}
	}
}

// A sentence that was written for the metric gym is put into feet, inches and pounds; names of things stay.
func TestPut(t *testing.T) {
	for said, want := range map[string]string{
		"expected at most 2.5 m/s, not 9.1":             "expected at most 8.2 ft/s, not 9.1",
		"expected 6.0 to 40.0 cm":                       "expected 2.4 to 15.7 in",
		"less than the span of 0.86 m, not 1.9 m":       "less than the span of 33.9 in, not 6 ft 3 in",
		"a ball of 0.25 kg, 126 a minute, 3 mistakes":   "a ball of 0.6 lb, 126 a minute, 3 mistakes",
		"from 1.50 to 2.40 m above the floor":           "from 4 ft 11 in to 7 ft 10½ in above the floor",
		"two hits in three within 36 ms, 60 s, 4 moves": "two hits in three within 36 ms, 60 s, 4 moves",
	} {
		if got := Imperial.Put(said); got != want {
			t.Errorf("%q, want %q", got, want)
		}
		if Metric.Put(said) != said {
			t.Errorf("%q is changed", said)
		}
	}
}
