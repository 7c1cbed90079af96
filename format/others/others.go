// Package others hands what the product wrote to libraries that others have written, and gives what they read of it: a
// check of a format that shares nothing with the code that wrote it. They come with the parts of the interface, and are
// needed by tests alone.
package others

import (
	"bytes"
	"encoding/json"
	"os/exec"
	"path/filepath"
	"runtime"
	"testing"
)

// Ask runs a script of ui/others on what it is given, and reads its answer.
func Ask(t testing.TB, script string, in []byte, answer any, args ...string) {
	t.Helper()
	out := Run(t, script, in, args...)
	if err := json.Unmarshal(out, answer); err != nil {
		t.Fatalf("%s: %v: %.200s", script, err, out)
	}
}

// Run runs a script of ui/others on what it is given.
func Run(t testing.TB, script string, in []byte, args ...string) []byte {
	t.Helper()
	_, here, _, _ := runtime.Caller(0)
	path := filepath.Join(filepath.Dir(here), "..", "..", "ui", "others", script)
	cmd := exec.Command("node", append([]string{path}, args...)...)
	var said bytes.Buffer
	cmd.Stdin, cmd.Stderr = bytes.NewReader(in), &said
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("%s (npm ci in ui brings what it needs): %v: %.400s", script, err, said.String())
	}
	return out
}
