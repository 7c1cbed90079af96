package input

import (
	"errors"
	"io"
)

// ErrLong ends a reading that has used up its allowance.
var ErrLong = errors.New("longer than it may be")

// Metered reads on as long as Left lasts (bytes), and fails with ErrLong then. Whoever reads piece by piece sets Left
// anew before each, so that no piece is longer than it may be, however long the whole is.
type Metered struct {
	In   io.Reader
	Left int
}

// Read reads what comes next.
func (m *Metered) Read(p []byte) (int, error) {
	if m.Left <= 0 {
		return 0, ErrLong
	}
	n, err := m.In.Read(p[:min(len(p), m.Left)])
	m.Left -= n
	return n, err
}
