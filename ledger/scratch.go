package ledger

import (
	"io"
	"os"
)

// Scratch is a file without a name, which is gone when it is closed. What may be too long for memory is put down in it.
func Scratch() (*os.File, error) {
	f, err := os.CreateTemp("", "melodromos-*")
	if err != nil {
		return nil, err
	}
	if err := os.Remove(f.Name()); err != nil {
		_ = f.Close()
		return nil, err
	}
	return f, nil
}

// PutDown is a scratch file of all that comes in.
func PutDown(in io.Reader) (*os.File, error) {
	f, err := Scratch()
	if err != nil {
		return nil, err
	}
	if _, err := io.Copy(f, in); err != nil {
		_ = f.Close()
		return nil, err
	}
	return f, nil
}
