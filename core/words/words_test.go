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

// Magnitudes are put into the units of whoever reads them (1 ft = 0.3048 m, 1 lb = 0.45359237 kg: exact, 1959).
func TestMagnitudes(t *testing.T) {
	for _, c := range []struct {
		metric, imperial, want, wanted string
	}{
		{Speed(2.5).In(Metric), Speed(2.5).In(Imperial), "2.5 m/s", "8.2 ft/s"},
		{Metres(0.86).In(Metric), Metres(0.86).In(Imperial), "0.86 m", "33.9 in"},
		{Metres(1.9).In(Metric), Metres(1.9).In(Imperial), "1.9 m", "6 ft 3 in"},
		{Magnitude{Value: 0.25, Unit: "kg"}.In(Metric), Magnitude{Value: 0.25, Unit: "kg"}.In(Imperial), "0.25 kg",
			"0.6 lb"},
		{Metres(0.06).Range(0.4, Metric), Metres(0.06).Range(0.4, Imperial), "0.06 to 0.4 m", "2.4 to 15.7 in"},
		{Metres(1.5).Range(2.4, Metric), Metres(1.5).Range(2.4, Imperial), "1.5 to 2.4 m",
			"4 ft 11 in to 7 ft 10½ in"},
		{Magnitude{Value: 60, Unit: "s"}.String(), Magnitude{Value: 60, Unit: "s"}.In(Imperial), "60 s", "60 s"},
	} {
		if c.metric != c.want || c.imperial != c.wanted {
			t.Errorf("%q and %q, want %q and %q", c.metric, c.imperial, c.want, c.wanted)
		}
	}
}
