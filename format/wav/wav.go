// Package wav mixes the sound of a round or a session down into a WAV file, as the floor plays it: bells, counts,
// strikes, board sounds and spoken calls, one channel of 16 bits, for any speaker.
package wav

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"fmt"
	"io"
	"io/fs"
	"math"
	"math/rand/v2"
	"slices"

	"github.com/hajimehoshi/go-mp3"

	"melodromos/core/drill"
	"melodromos/core/input"
	"melodromos/format/sound"
)

// Rate is the number of samples a second. Nothing on the floor sounds above half of it.
const Rate = 22_050

const (
	bits    = 16
	tail    = 2.0  // s after the last event
	volume  = 0.8  // as the floor plays at full
	longest = 5400 // s, longer than a class is
	most    = 32_767
)

// Sound is a round or a session as it sounds, to be written.
type Sound struct {
	list    []placed // by their beginnings
	samples int
}

// Of renders events. The clips of the words that are called come from calls, as word.mp3; one that is not there is
// not spoken. mix holds the gain of each channel: 1 where it is missing, 0 to leave it out.
func Of(events []drill.Event, calls fs.FS, mix map[sound.Channel]float64) (Sound, error) {
	m := mixer{table: sound.All(), calls: calls, mix: mix, made: map[string][]float64{}, words: map[string][]float64{}}
	var list []placed
	end := 0.0
	for _, e := range events {
		end = math.Max(end, e.At.Seconds())
		if end > longest {
			return Sound{}, input.Refuse("", "expected at most %d minutes of sound, not %.0f", longest/60, end/60)
		}
		placed, err := m.place(e)
		if err != nil {
			return Sound{}, err
		}
		list = append(list, placed...)
	}
	slices.SortStableFunc(list, func(a, b placed) int { return cmp.Compare(a.from, b.from) })
	return Sound{list, int((end + tail) * Rate)}, nil
}

// placed is a sound that begins at a sample.
type placed struct {
	from  int
	wave  []float64
	times float64
}

type mixer struct {
	table map[string]sound.Sound
	calls fs.FS
	mix   map[sound.Channel]float64
	made  map[string][]float64 // by the name of the sound and the part
	words map[string][]float64
}

func (m *mixer) place(e drill.Event) ([]placed, error) {
	key := sound.Key(e)
	s, ok := m.table[key]
	loud, set := m.mix[s.Channel]
	if !set {
		loud = 1
	}
	if !ok || loud == 0 {
		return nil, nil
	}
	var list []placed
	at := e.At.Seconds()
	for i, p := range s.Parts {
		name := fmt.Sprintf("%s %d", key, i)
		wave, known := m.made[name]
		if !known {
			wave = Wave(p, uint64(i)+1)
			m.made[name] = wave
		}
		list = append(list, placed{int(math.Round((at + p.After) * Rate)), wave, loud})
	}
	if s.Speaks == nil {
		return list, nil
	}
	from := at + *s.Speaks
	for _, word := range sound.Words(e.Text) {
		clip, err := m.word(word)
		if err != nil {
			return nil, err
		}
		if len(clip) == 0 {
			continue
		}
		list = append(list, placed{int(math.Round(from * Rate)), clip, loud})
		from += float64(len(clip))/Rate + sound.BetweenWords
	}
	return list, nil
}

// header precedes the samples of a RIFF WAVE file of plain PCM (Multimedia Programming Interface and Data
// Specifications 1.0, IBM and Microsoft, 1991).
type header struct {
	Riff          [4]byte
	Length        uint32 // of what follows
	Wave, Fmt     [4]byte
	FmtLength     uint32
	Coding        uint16 // 1 is PCM
	Channels      uint16
	Rate          uint32 // samples a second
	BytesASecond  uint32
	BytesASample  uint16
	Bits          uint16
	Data          [4]byte
	SamplesLength uint32
}

const (
	sample     = bits / 8
	headLength = 44
)

// Len returns the length of the file (bytes).
func (s Sound) Len() int64 { return headLength + int64(s.samples)*sample }

// WriteTo writes the file, second by second, so that an hour takes no more room than a round.
func (s Sound) WriteTo(out io.Writer) (int64, error) {
	four := func(name string) [4]byte { return [4]byte([]byte(name)) }
	length := uint32(s.samples * sample)
	head := header{four("RIFF"), headLength - 8 + length, four("WAVE"), four("fmt "), 16, 1, 1, Rate, Rate * sample,
		sample, bits, four("data"), length}
	if err := binary.Write(out, binary.LittleEndian, head); err != nil {
		return 0, fmt.Errorf("write the sound: %w", err)
	}
	written := int64(headLength)
	sum, mixed, silence := make([]float64, Rate), make([]byte, Rate*sample), make([]byte, Rate*sample)
	var sounding []placed
	list := s.list
	for from := 0; from < s.samples; from += Rate {
		n := min(Rate, s.samples-from)
		for len(list) > 0 && list[0].from < from+n {
			sounding = append(sounding, list[0])
			list = list[1:]
		}
		second := silence // as most of an hour is
		if len(sounding) > 0 {
			second = mixed
			clear(sum)
			sounding = added(sum[:n], sounding, from)
			for i, v := range sum[:n] {
				loud := int16(math.Round(most * limited(volume*v)))
				binary.LittleEndian.PutUint16(mixed[i*sample:], uint16(loud))
			}
		}
		if _, err := out.Write(second[:n*sample]); err != nil {
			return written, fmt.Errorf("write the sound: %w", err)
		}
		written += int64(n) * sample
	}
	return written, nil
}

// added adds what sounds to the samples that begin at one, and returns what sounds on after them.
func added(sum []float64, sounding []placed, from int) []placed {
	end := from + len(sum)
	return slices.DeleteFunc(sounding, func(p placed) bool {
		for at := max(from, p.from); at < min(end, p.from+len(p.wave)); at++ {
			sum[at-from] += p.times * p.wave[at-p.from]
		}
		return p.from+len(p.wave) <= end
	})
}

// limited keeps a sum of sounds within full scale, and leaves it alone up to four fifths of it.
func limited(v float64) float64 {
	const knee = 0.8
	if a := math.Abs(v); a > knee {
		return math.Copysign(knee+(1-knee)*math.Tanh((a-knee)/(1-knee)), v)
	}
	return v
}

// Wave is a part of a sound, sample by sample. The noise is drawn from a seed: the same part gives the same samples.
func Wave(p sound.Tone, seed uint64) []float64 {
	n := int(math.Ceil(p.Length * Rate))
	wave := make([]float64, n)
	fall := func(t, from float64) float64 { // to silence, from a moment on
		return p.Loud * math.Pow(sound.Silence/p.Loud, (t-from)/(p.Length-from))
	}
	if p.Shape == sound.Noise {
		noise := rand.New(rand.NewPCG(seed, 2))
		f := bandpass(p.From, sound.Narrow)
		for i := range wave {
			wave[i] = fall(float64(i)/Rate, 0) * f.next(2*noise.Float64()-1)
		}
		return wave
	}
	phase := 0.0
	for i := range wave {
		t := float64(i) / Rate
		loud := fall(t, sound.Attack)
		if t < sound.Attack {
			loud = sound.Silence * math.Pow(p.Loud/sound.Silence, t/sound.Attack)
		}
		v := math.Sin(2 * math.Pi * phase)
		if p.Shape == sound.Triangle {
			v = 2 / math.Pi * math.Asin(v)
		}
		wave[i] = loud * v
		phase += p.From * math.Pow(p.To/p.From, t/p.Length) / Rate
	}
	return wave
}

// filter is a second-order section.
type filter struct{ b0, b2, a1, a2, x1, x2, y1, y2 float64 }

// bandpass lets a pitch pass as it is, and less the further off it is. Source: the Audio EQ Cookbook of R.
// Bristow-Johnson, band-pass with 0 dB at its peak, as the W3C's Web Audio API has it (from memory).
func bandpass(pitch, quality float64) *filter {
	w := 2 * math.Pi * pitch / Rate
	alpha := math.Sin(w) / (2 * quality)
	a0 := 1 + alpha
	return &filter{b0: alpha / a0, b2: -alpha / a0, a1: -2 * math.Cos(w) / a0, a2: (1 - alpha) / a0}
}

func (f *filter) next(x float64) float64 {
	y := f.b0*x + f.b2*f.x2 - f.a1*f.y1 - f.a2*f.y2
	f.x1, f.x2, f.y1, f.y2 = x, f.x1, y, f.y1
	return y
}

// word is the clip of a word at this rate; nothing where there is none.
func (m *mixer) word(word string) ([]float64, error) {
	if clip, known := m.words[word]; known {
		return clip, nil
	}
	m.words[word] = nil
	if m.calls == nil || !fs.ValidPath(word+".mp3") {
		return nil, nil
	}
	data, err := fs.ReadFile(m.calls, word+".mp3")
	if err != nil {
		return nil, nil // what cannot be said stands on the cards
	}
	clip, err := decoded(data)
	if err != nil {
		return nil, fmt.Errorf("the clip of %q: %w", word, err)
	}
	m.words[word] = clip
	return clip, nil
}

// decoded is a clip as one channel at this rate.
func decoded(data []byte) ([]float64, error) {
	d, err := mp3.NewDecoder(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	pcm, err := io.ReadAll(d) // two channels of 16 bits
	if err != nil {
		return nil, err
	}
	mono := make([]float64, len(pcm)/4)
	for i := range mono {
		left := int16(binary.LittleEndian.Uint16(pcm[4*i:]))
		right := int16(binary.LittleEndian.Uint16(pcm[4*i+2:]))
		mono[i] = (float64(left) + float64(right)) / 65536
	}
	return resampled(mono, float64(d.SampleRate())/Rate), nil
}

// resampled takes a wave at so many of its samples for one, in straight lines between them: speech needs no more.
func resampled(wave []float64, step float64) []float64 {
	if step == 1 || len(wave) < 2 {
		return wave
	}
	out := make([]float64, int(float64(len(wave)-1)/step))
	for i := range out {
		at := float64(i) * step
		k := int(at)
		out[i] = wave[k] + (at-float64(k))*(wave[k+1]-wave[k])
	}
	return out
}
