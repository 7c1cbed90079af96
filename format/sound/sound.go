// Package sound says how each event of a round or a session sounds: of which tones and bursts it is made, when a word
// is spoken. The floor plays it from this table, and so does whatever mixes a round down into a file.
package sound

import (
	"strings"

	"melodromos/core/drill"
	"melodromos/core/session"
)

// Waveform is the form of a wave.
type Waveform string

// A burst is noise about a pitch.
const (
	Sine     Waveform = "sine"
	Triangle Waveform = "triangle"
	Noise    Waveform = "noise"
)

// Tone is a tone that glides from a pitch to another as it dies away, or a burst of noise about a pitch.
type Tone struct {
	Shape  Waveform `json:"shape"`
	After  float64  `json:"after"`  // s, after the event; before it where it is negative
	From   float64  `json:"from"`   // Hz
	To     float64  `json:"to"`     // Hz, at its end
	Length float64  `json:"length"` // s
	Loud   float64  `json:"loud"`   // of full scale, where it is loudest
}

// Channel is a group of sounds with a loudness of its own.
type Channel string

// The channels.
const (
	Bells    Channel = "bell"
	Warnings Channel = "warning"
	Strikes  Channel = "strike"
	Boards   Channel = "board"
	Voice    Channel = "voice"
)

// Sound describes the sound of an event. Where Speaks is set, the words of its text follow so many seconds after it.
type Sound struct {
	Channel Channel  `json:"channel"`
	Parts   []Tone   `json:"parts"`
	Speaks  *float64 `json:"speaks"`
}

// How words follow one another, and how quietly a sound begins and ends.
const (
	BetweenWords = 0.03   // s
	Attack       = 0.003  // s until a tone is loudest
	Silence      = 0.0001 // of full scale
	Narrow       = 1.4    // the quality of the filter about the pitch of a burst
)

// All are the sounds by what they are called: the kind of an event, and of some a variant.
func All() map[string]Sound {
	at := func(s float64) *float64 { return &s }
	board := func(pitch, tone float64) []Tone {
		return []Tone{{Noise, 0, pitch, pitch, 0.022, 0.55}, {Triangle, 0, tone, 420, 0.03, 0.22}}
	}
	bell := func(strokes ...float64) []Tone {
		var parts []Tone
		for _, s := range strokes {
			for _, p := range []struct{ ratio, loud float64 }{{1, 0.4}, {2.41, 0.22}, {3.9, 0.12}} {
				parts = append(parts, Tone{Sine, s, 620 * p.ratio, 618 * p.ratio, 1.1 / p.ratio, p.loud})
			}
		}
		return parts
	}
	beep := func(from, to, length, loud float64) []Tone { return []Tone{{Triangle, 0, from, to, length, loud}} }
	return map[string]Sound{
		// leather: a low thud under a short slap
		string(drill.Strike): {Strikes, []Tone{{Sine, 0, 150, 55, 0.12, 0.9}, {Noise, 0, 1400, 1400, 0.045, 0.5}}, nil},
		// the board: dry wood, the far one a little lower than the near one
		string(drill.Rebound):           {Boards, board(2100, 470), nil},
		string(drill.Rebound) + ".even": {Boards, board(2600, 560), nil},
		// a slip bag going by
		string(drill.Pass): {Strikes, []Tone{{Noise, -0.04, 420, 420, 0.12, 0.3}}, nil},
		string(drill.Cued): {Voice, []Tone{{Triangle, -0.02, 1400, 1400, 0.05, 0.35}}, at(0)},
		// two light strokes of the bell
		string(session.Begins): {Bells, []Tone{{Sine, 0, 930, 925, 0.4, 0.3}, {Sine, 0.14, 930, 925, 0.4, 0.3}},
			at(0.35)},
		string(session.Next):        {Voice, []Tone{}, at(0)},
		string(session.Loose):       {Voice, []Tone{}, at(0)},
		string(drill.Call):          {Voice, []Tone{}, at(0)},
		string(drill.Count):         {Warnings, beep(880, 860, 0.07, 0.5), nil},
		string(drill.Warning):       {Warnings, beep(1180, 1150, 0.09, 0.4), nil},
		string(drill.Bell):          {Bells, bell(0), nil},
		string(drill.Bell) + ".end": {Bells, bell(0, 0.32, 0.64), nil},
	}
}

// Key returns the name of an event's sound, "" where it has none.
func Key(e drill.Event) string {
	switch {
	case e.Kind == drill.Rebound && e.N > 0 && e.N%2 == 0:
		return string(e.Kind) + ".even"
	case e.Kind == drill.Bell && e.Text == "end":
		return string(e.Kind) + ".end"
	}
	return string(e.Kind)
}

// Words are those of a text that are spoken, one clip each.
func Words(text string) []string {
	return strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" ,;", r) })
}
