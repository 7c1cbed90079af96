package input

import (
	"errors"
	"io"
	"strings"
	"testing"
)

func TestMetered(t *testing.T) {
	m := &Metered{In: strings.NewReader("one two three"), Left: 3}
	for _, want := range []string{"one", " tw", "o three"} {
		got, err := io.ReadAll(m)
		if string(got) != want || (err != nil) != (m.Left == 0) || err != nil && !errors.Is(err, ErrLong) {
			t.Errorf("%q %v, want %q", got, err, want)
		}
		if m.Left = 3; want == " tw" {
			m.Left = 100
		}
	}
}
