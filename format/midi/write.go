// Package midi writes a drill as a Standard MIDI File and reads a rhythm from one. Every sort of event has a track of
// its own with a name; what is struck, called or dodged stands beside its note as a lyric, in the notation. Source:
// Standard MIDI Files 1.0; sounds by the General MIDI level 1 percussion map (both from memory).
package midi

import (
	"cmp"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"gitlab.com/gomidi/midi/v2"
	"gitlab.com/gomidi/midi/v2/smf"

	"melodromos/core/drill"
	"melodromos/core/session"
)

// PerQuarter is the number of ticks in a quarter note: at 120 a minute a tick is 0.52 ms.
const PerQuarter = 960

// Names of the tracks.
const (
	Strikes  = "Strikes"
	Boards   = "Board sounds"
	Passes   = "Passes"
	Defences = "Defences"
	Calls    = "Calls"
	Bells    = "Bells and counts"
)

var trackNames = []string{Strikes, Boards, Passes, Defences, Calls, Bells}

const (
	percussion = 9 // the channel, from 0
	sounding   = 60
)

// Keys of the General MIDI percussion map.
const (
	lowBongo, hiBongo  = 61, 60
	muteConga, hiConga = 62, 63
	lowConga           = 64
	hiTimbale, lowTimb = 65, 66
	bassDrum, floorTom = 36, 41
	hiBlock, lowBlock  = 76, 77
	cabasa, shaker     = 69, 82
	cowbell, rideBell  = 56, 53
	claves, sideStick  = 75, 37
)

// punchKeys are those of the strikes to the head; to the body it is the low conga.
var punchKeys = map[string]uint8{"1": hiBongo, "2": lowBongo, "3": muteConga, "4": hiConga, "5": hiTimbale,
	"6": lowTimb}

// Song is a drill or a session as it is laid out, with the beat in which it is written.
type Song struct {
	Name     string
	Beat     float64 // quarter notes a minute
	Timeline drill.Timeline
}

// BeatOf is the beat in which a plan is written: of a technique a quarter note is a strike, of a combination the usual
// time between two, in whole quarters a minute; a rhythm that was played keeps its own.
func BeatOf(p drill.Plan, t drill.Timeline) float64 {
	beat := 0.0
	switch d := p.(type) {
	case drill.SpeedBagDrill:
		beat = d.Tempo
	case drill.CombinationDrill:
		if d.Played != nil {
			return d.Played.Beat
		}
	}
	if usual := t.Usual(); beat == 0 && usual > 0 {
		beat = math.Round(60 / usual)
	}
	return math.Min(math.Max(beat, drill.BeatLimits.Min), drill.BeatLimits.Max)
}

// quarter returns the length (µs) of a quarter note at a beat (per minute), for a tempo event.
func quarter(beat float64) float64 { return math.Round(60e6 / beat) }

type at struct {
	tick    int64
	message smf.Message
}

// track is one that is being written.
type track struct {
	name   string
	events []at
}

func (t *track) add(tick int64, m smf.Message) { t.events = append(t.events, at{tick, m}) }

// note sounds a key for a moment.
func (t *track) note(tick int64, key, velocity uint8) {
	t.add(tick, smf.Message(midi.NoteOn(percussion, key, velocity)))
	t.add(tick+sounding, smf.Message(midi.NoteOff(percussion, key)))
}

func (t *track) written() smf.Track {
	slices.SortStableFunc(t.events, func(a, b at) int { return cmp.Compare(a.tick, b.tick) })
	out := smf.Track{}
	out.Add(0, smf.MetaTrackSequenceName(t.name))
	last := int64(0)
	for _, e := range t.events {
		out.Add(uint32(e.tick-last), e.message)
		last = e.tick
	}
	out.Close(0)
	return out
}

// Write writes a drill.
func Write(out io.Writer, s Song) error {
	if err := drill.BeatLimits.Check("beat", s.Beat); err != nil {
		return err
	}
	per := quarter(s.Beat) / PerQuarter
	tick := func(m drill.Micros) int64 { return int64(math.Round(float64(max(0, m)) / per)) }
	tracks := map[string]*track{}
	for _, name := range trackNames {
		tracks[name] = &track{name: name}
	}
	first := &track{name: s.Name}
	first.add(0, smf.MetaTempo(60e6/quarter(s.Beat)))
	rep := -1
	for _, e := range s.Timeline.Events {
		when := tick(e.At)
		if e.Kind == drill.Strike && e.Text != "" && e.Move >= 0 && e.Rep > rep {
			rep = e.Rep
			first.add(when, smf.MetaMarker(fmt.Sprintf("Rep %d", rep+1)))
		}
		switch {
		case e.Kind == drill.Bell:
			first.add(when, smf.MetaMarker("Bell: "+e.Text))
		case e.Kind == session.Begins:
			first.add(when, smf.MetaMarker(e.Text))
		}
		lay(tracks, when, e)
	}
	file := smf.NewSMF1()
	file.TimeFormat = smf.MetricTicks(PerQuarter)
	if err := file.Add(first.written()); err != nil {
		return fmt.Errorf("write the tempo: %w", err)
	}
	for _, name := range trackNames {
		if t := tracks[name]; len(t.events) > 0 {
			if err := file.Add(t.written()); err != nil {
				return fmt.Errorf("write the track %s: %w", name, err)
			}
		}
	}
	_, err := file.WriteTo(out)
	return err
}

// lay puts an event on its track.
func lay(tracks map[string]*track, when int64, e drill.Event) {
	switch e.Kind {
	case drill.Strike:
		move := strike(e)
		tracks[Strikes].add(when, smf.MetaLyric(move))
		velocity := uint8(92)
		if strings.Contains(move, "!") {
			velocity = 120
		}
		tracks[Strikes].note(when, key(move), velocity)
	case drill.Rebound:
		k := uint8(hiBlock)
		if e.N%2 == 0 {
			k = lowBlock
		}
		tracks[Boards].note(when, k, 64)
	case drill.Pass:
		tracks[Passes].note(when, shaker, 64)
	case drill.Doing:
		tracks[Defences].add(when, smf.MetaLyric(e.Text))
		tracks[Defences].note(when, cabasa, 72)
	case drill.Cued:
		tracks[Calls].add(when, smf.MetaLyric(e.Text))
		tracks[Calls].note(when, cowbell, 96)
	case drill.Call, drill.Change, session.Begins, session.Next, session.Loose:
		if e.Text != "" {
			tracks[Calls].add(when, smf.MetaLyric(e.Text))
		}
	case drill.Bell:
		tracks[Bells].note(when, rideBell, 120)
	case drill.Count:
		tracks[Bells].note(when, claves, 80)
	case drill.Warning:
		tracks[Bells].note(when, sideStick, 80)
	}
}

// strike returns the strike of an event in the notation: for a technique on the speed bag the straight of the hand.
func strike(e drill.Event) string {
	if e.Text != "" {
		return e.Text
	}
	switch e.Hand {
	case drill.Rear:
		return "2"
	case drill.Both:
		return "double"
	}
	return "1"
}

func key(move string) uint8 {
	bare, _, _ := strings.Cut(strings.TrimSuffix(move, "!"), ":")
	bare = strings.TrimSuffix(bare, "!")
	if k, ok := punchKeys[bare]; ok {
		return k
	}
	switch {
	case strings.HasSuffix(bare, "b"):
		return lowConga
	case strings.HasPrefix(bare, "double"):
		return bassDrum
	}
	return floorTom
}
