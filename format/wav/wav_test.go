package wav

import (
	"bytes"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"melodromos/core/combo"
	"melodromos/core/drill"
	"melodromos/core/session"
	"melodromos/format/others"
	"melodromos/format/sound"
)

var calls = os.DirFS(filepath.Join("..", "..", "ui", "public", "calls"))

type read struct {
	Rate, Channels, Bits int
	Seconds              float64
	Loudest              float64
	Onsets               []float64
}

// mixed is a mix as a file has it.
func mixed(t testing.TB, events []drill.Event, mix map[sound.Channel]float64) []byte {
	t.Helper()
	s, err := Of(events, calls, mix)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if n, err := s.WriteTo(&out); err != nil || n != s.Len() || out.Len() != int(n) {
		t.Fatalf("%d bytes of %d: %v", out.Len(), s.Len(), err)
	}
	return out.Bytes()
}

func seconds(s float64) drill.Micros { return drill.Micros(math.Round(s * 1e6)) }

// Strikes, board sounds, bells and counts are heard when they are due, within 4 ms, as another library reads the file:
// a tone takes 3 ms to be loud.
func TestHeardWhenDue(t *testing.T) {
	due := []float64{0.5, 1.1, 1.75, 3.2, 5.01}
	events := []drill.Event{{At: seconds(due[0]), Kind: drill.Count, N: 1}, {At: seconds(due[1]), Kind: drill.Strike},
		{At: seconds(due[2]), Kind: drill.Rebound, N: 1}, {At: seconds(due[3]), Kind: drill.Warning, N: 5},
		{At: seconds(due[4]), Kind: drill.Bell, Text: "end"}}
	var got read
	others.Ask(t, "wav.mjs", mixed(t, events, nil), &got)
	if got.Rate != Rate || got.Channels != 1 || got.Bits != 16 || math.Abs(got.Seconds-7.01) > 0.01 {
		t.Errorf("%+v", got)
	}
	for i, want := range due {
		if i >= len(got.Onsets) || math.Abs(got.Onsets[i]-want) > 0.004 {
			t.Fatalf("heard at %v, %v expected", got.Onsets, due)
		}
	}
	if got.Loudest < 0.3 || got.Loudest >= 1 {
		t.Errorf("the loudest is %g", got.Loudest)
	}
}

// What is called is spoken, word after word, for as long as its clips last; a channel that is left out is silent.
func TestSpoken(t *testing.T) {
	events := []drill.Event{{At: seconds(1), Kind: drill.Call, Text: "jab, cross, nosuchword"},
		{At: seconds(4), Kind: drill.Strike}}
	var got, mute read
	others.Ask(t, "wav.mjs", mixed(t, events, nil), &got)
	others.Ask(t, "wav.mjs", mixed(t, events, map[sound.Channel]float64{sound.Voice: 0}), &mute)
	if len(got.Onsets) < 3 || got.Onsets[0] < 1 || got.Onsets[0] > 1.3 || got.Onsets[len(got.Onsets)-1] > 4.01 {
		t.Errorf("spoken at %v", got.Onsets)
	}
	if len(mute.Onsets) != 1 || math.Abs(mute.Onsets[0]-4) > 0.002 {
		t.Errorf("without a voice: %v", mute.Onsets)
	}
}

// Every word that a template calls has a clip that can be read: what is heard on the floor is heard in the file.
func TestEveryCall(t *testing.T) {
	m := mixer{calls: calls, words: map[string][]float64{}}
	n := 0
	for _, s := range session.Templates() {
		for _, e := range session.Begin(s.Session, 0).Cues(session.Calls{Naming: combo.Naming{}}) {
			if table := sound.All()[sound.Key(e)]; table.Speaks == nil {
				continue
			}
			for _, word := range sound.Words(e.Text) {
				clip, err := m.word(word)
				if err != nil || len(clip) < Rate/10 || len(clip) > 3*Rate {
					t.Errorf("%s: %d samples, %v", word, len(clip), err)
				}
				n++
			}
		}
	}
	if n < 50 {
		t.Errorf("only %d words", n)
	}
}

// An hour is mixed second by second to the same bytes each time, and one that never ends is refused.
func TestLong(t *testing.T) {
	plan := session.Templates()[0].Session
	cues := session.Begin(plan, 10).Cues(session.Calls{})
	a, b := mixed(t, cues, nil), mixed(t, cues, nil)
	if !bytes.Equal(a, b) {
		t.Error("two mixes differ")
	}
	if want := 2 * Rate * plan.Seconds(); len(a) < want {
		t.Errorf("%d bytes, at least %d expected", len(a), want)
	}
	_, err := Of([]drill.Event{{At: seconds(6000), Kind: drill.Bell}}, nil, nil)
	if err == nil || !strings.Contains(err.Error(), "at most 90 minutes") {
		t.Error(err)
	}
}

// A burst is loudest about its pitch: more there than two octaves below or above (the definition of a band-pass).
func TestBandpass(t *testing.T) {
	power := func(pitch float64) float64 {
		f := bandpass(1400, sound.Narrow)
		sum := 0.0
		for i := range Rate {
			y := f.next(math.Sin(2 * math.Pi * pitch * float64(i) / Rate))
			if i > Rate/2 {
				sum += y * y
			}
		}
		return 2 * sum / (Rate / 2)
	}
	if p := power(1400); math.Abs(p-1) > 0.01 {
		t.Errorf("%g of the power passes at the pitch", p)
	}
	if low, high := power(350), power(5600); low > 0.06 || high > 0.06 {
		t.Errorf("%g and %g pass two octaves off", low, high)
	}
}

func BenchmarkMix(b *testing.B) {
	cues := session.Begin(session.Templates()[0].Session, 10).Cues(session.Calls{})
	for b.Loop() {
		mixed(b, cues, nil)
	}
}

func ExampleWave() {
	wave := Wave(sound.Tone{Shape: sound.Sine, From: 880, To: 860, Length: 0.07, Loud: 0.5}, 1)
	fmt.Println(len(wave))
	// Output: 1544
}
