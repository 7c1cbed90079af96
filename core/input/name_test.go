package input

import (
	"strings"
	"testing"
)

func TestName(t *testing.T) {
	for name, want := range map[string]string{
		"Ann": "Ann", " Ann \n": "Ann", " \t\u00a0": "", "a\x00b": "", strings.Repeat("x", 121): "",
		"\u200b": "", "\u200d\ufe0f": "", "\u0301": "", "3": "3", "Zoë\u200d": "Zoë\u200d",
		"  " + strings.Repeat("é", 120): strings.Repeat("é", 120),
	} {
		if got, err := Name("name", name); got != want || (err == nil) != (want != "") {
			t.Errorf("%.20q: %.20q %v, want %.20q", name, got, err, want)
		}
	}
}
