package sound

import (
	"encoding/json"
	"flag"
	"os"
	"path/filepath"
	"testing"

	"melodromos/core/drill"
)

var update = flag.Bool("update", false, "write the table of the interface anew")

// The floor plays what stands here: its table is made of this one. go test ./format/sound -update writes it.
func TestFloorPlaysThis(t *testing.T) {
	file := filepath.Join("..", "..", "ui", "src", "lib", "run", "sounds.gen.ts")
	table, err := json.MarshalIndent(All(), "", "  ")
	if err != nil {
		t.Fatal(err)
	}
	quality, err := json.Marshal(map[string]float64{"betweenWords": BetweenWords, "attack": Attack, "silence": Silence,
		"narrow": Narrow})
	if err != nil {
		t.Fatal(err)
	}
	want := "// Made of format/sound by its test. Do not change it here.\nexport const sounds = " + string(table) +
		" as const\nexport const sounding = " + string(quality) + " as const\n"
	if *update {
		if err := os.WriteFile(file, []byte(want), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	got, err := os.ReadFile(file)
	if err != nil || string(got) != want {
		t.Errorf("%s is stale: go test ./format/sound -update writes it anew (%v)", file, err)
	}
}

// Each part can be heard and played: no pitch at which a ramp cannot end, within what a speaker of a phone gives, and
// no sound that is louder than full scale by far.
func TestPlayable(t *testing.T) {
	for name, s := range All() {
		sum := 0.0
		for _, p := range s.Parts {
			if p.From < 50 || p.From > 8000 || p.To < 50 || p.To > 8000 || p.Length < 0.01 || p.Length > 2 ||
				p.Loud <= Silence {
				t.Errorf("%s: %+v", name, p)
			}
			if p.After <= 0 {
				sum += p.Loud
			}
		}
		if sum > 1.5 {
			t.Errorf("%s: %g of full scale together", name, sum)
		}
		if len(s.Parts) == 0 && s.Speaks == nil {
			t.Errorf("%s is not heard", name)
		}
	}
}

func TestKey(t *testing.T) {
	for key, e := range map[string]drill.Event{
		"rebound":      {Kind: drill.Rebound, N: 1},
		"rebound.even": {Kind: drill.Rebound, N: 2},
		"bell":         {Kind: drill.Bell, Text: "start"},
		"bell.end":     {Kind: drill.Bell, Text: "end"},
		"call":         {Kind: drill.Call},
	} {
		if got := Key(e); got != key || All()[got].Channel == "" {
			t.Errorf("%s, %s expected", got, key)
		}
	}
}
