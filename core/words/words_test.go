package words

import "testing"

// An inch is 25.4 mm exactly (international yard and pound agreement, 1959).
func TestWords(t *testing.T) {
	for got, want := range map[string]string{
		Metric.Length(0.19): "19 cm", Metric.Length(0.125): "12.5 cm", Metric.Length(1): "1.00 m",
		Metric.Length(1.587):    "1.59 m",
		Imperial.Length(0.0254): "1 in", Imperial.Length(1.27): "50 in", Trimmed(3.04): "3", Trimmed(2.96): "3",
		Trimmed(0.25): "0.2",
		Number(3):     "three", Number(11): "11", Number(-1): "-1", Upper("hang it"): "Hang it",
		Ordinal(1): "first", Ordinal(9): "ninth", Ordinal(11): "11th", Ordinal(22): "22nd", Ordinal(113): "113th",
		Lower("Hangs"): "hangs",
		Upper(""):      "",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
