package labels

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"melodromos/core/drill"
	"melodromos/core/judge"
	"melodromos/core/ladder"
	"melodromos/core/run"
	"melodromos/core/session"
)

var update = flag.Bool("update", false, "write the tables of the interface anew")

// The interface shows what stands here: its tables are made of these. go test ./ui/labels -update writes them.
func TestInterfaceHasThese(t *testing.T) {
	file := filepath.Join("..", "src", "lib", "labels.gen.ts")
	var want strings.Builder
	want.WriteString("// Made of ui/labels by its test. Do not change it here.\n")
	for _, table := range All() {
		kind, end := "", " as const"
		if table.Open {
			kind, end = ": Record<string, string>", ""
		}
		fmt.Fprintf(&want, "export const %s%s = {\n", table.Name, kind)
		for _, l := range table.Labels {
			fmt.Fprintf(&want, "  %q: %q,\n", l.Code, l.Text)
		}
		fmt.Fprintf(&want, "}%s\n", end)
	}
	if *update {
		if err := os.WriteFile(file, []byte(want.String()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	got, err := os.ReadFile(file)
	if err != nil || string(got) != want.String() {
		t.Errorf("%s is stale: go test ./ui/labels -update writes it anew (%v)", file, err)
	}
}

// Every code that can be met in a list has its words, and no words stand for two codes of one table.
func TestEveryCodeHasWords(t *testing.T) {
	want := map[string]int{
		"verdicts":   len(judge.Verdict("").Values()),
		"recorders":  len(drill.Recorder("").Values()),
		"playings":   len(drill.Playing("").Values()),
		"states":     len(run.State("").Values()),
		"directions": len(ladder.Direction("").Values()),
		"choices":    len(ladder.Choice("").Values()),
		"roles":      len(session.Role("").Values()),
		"roundKinds": len(session.RoundKind("").Values()),
		"endings":    len(judge.Ended("").Values()) - 2, // the bell, and none yet, are not told
		"ratings":    len(run.Rating("").Values()) - 1,  // nothing said
	}
	for _, table := range All() {
		if n, told := want[table.Name]; told && len(table.Labels) != n {
			t.Errorf("%s: words for %d of %d codes", table.Name, len(table.Labels), n)
		}
		var texts []string
		for _, l := range table.Labels {
			if l.Text == "" || slices.Contains(texts, l.Text) {
				t.Errorf("%s: %q is %q", table.Name, l.Code, l.Text)
			}
			texts = append(texts, l.Text)
		}
	}
}

func ExampleAll() {
	for _, l := range All()[0].Labels {
		fmt.Println(l.Code, "is shown as", l.Text)
	}
	// Output:
	// first-timer is shown as First-timer
	// beginner is shown as Beginner
	// intermediate is shown as Intermediate
	// advanced is shown as Advanced
	// expert is shown as Expert
}
