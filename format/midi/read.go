package midi

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"gitlab.com/gomidi/midi/v2/smf"

	"melodromos/core/combo"
	"melodromos/core/drill"
)

// MostBytes limits a file that is read.
const MostBytes = 2 << 20

// Read is a rhythm as a file has it.
type Read struct {
	drill.Written
	Track  string   // whose notes were taken
	Tracks []string // that hold notes, by name
}

// note is one that begins.
type note struct {
	tick int64
	key  uint8
	text string
}

// part is a track with its notes.
type part struct {
	name    string
	notes   []note
	lyrics  []note
	drums   bool
	ordinal int
}

// Rhythm reads the strikes of a file: the notes of the track "Strikes" where there is one, else of the first that is on
// the percussion channel, else of the first that has any; or of the one that is named. Notes that begin together are
// one strike. What a lyric beside a note says in the notation is what is struck.
func Rhythm(data []byte, named string) (r Read, err error) {
	defer func() { // the library takes some broken files for granted
		if gone := recover(); gone != nil {
			err = fmt.Errorf("expected a whole MIDI file: it ends or goes on where it should not")
		}
	}()
	if err := header(data); err != nil {
		return r, err
	}
	if err := whole(data); err != nil {
		return r, err
	}
	file, err := smf.ReadFrom(bytes.NewReader(data))
	if err != nil {
		return r, fmt.Errorf("expected a whole MIDI file: %w", err)
	}
	per, ok := file.TimeFormat.(smf.MetricTicks)
	if !ok || per == 0 {
		return r, errors.New("expected a MIDI file that counts ticks of a quarter note")
	}
	parts := partsOf(file)
	clock := clockOf(file, float64(per))
	var struck *part
	for i := range parts {
		p := &parts[i]
		if len(p.notes) == 0 || p.name == Boards || p.name == Passes || p.name == Defences || p.name == Bells {
			continue
		}
		r.Tracks = append(r.Tracks, p.name)
		switch {
		case named != "":
			if p.name == named && struck == nil {
				struck = p
			}
		case struck == nil, p.name == Strikes && struck.name != Strikes,
			p.drums && !struck.drums && struck.name != Strikes:
			struck = p
		}
	}
	if struck == nil && named != "" && len(r.Tracks) > 0 {
		return r, fmt.Errorf("expected one of the tracks %s, not %q", strings.Join(r.Tracks, ", "), named)
	}
	if struck == nil {
		return r, errors.New("expected a track with notes; there is none")
	}
	r.Track = struck.name
	r.Beat = 60 / (clock.first * float64(per))
	r.Tick = clock.first
	if most := 4 * drill.MostStrikes; len(struck.notes) > most {
		return r, fmt.Errorf("expected at most %d notes of a track, not %d", most, len(struck.notes))
	}
	said := sayings{}
	if r.Moves, err = struck.moves(clock, said); err != nil {
		return r, err
	}
	if struck.name == Strikes {
		for _, p := range parts {
			switch p.name {
			case Defences:
				if r.Moves, err = with(r.Moves, p, clock, said); err != nil {
					return r, err
				}
			case Boards:
				r.Rebounds = boards(p, struck)
			}
		}
	}
	if len(r.Moves) > drill.MostStrikes {
		return r, fmt.Errorf("expected at most %d notes, not %d", drill.MostStrikes, len(r.Moves))
	}
	return r, nil
}

func header(data []byte) error {
	switch {
	case len(data) > MostBytes:
		return fmt.Errorf("expected at most %d bytes", MostBytes)
	case len(data) < 14 || string(data[:4]) != "MThd":
		return errors.New("expected a Standard MIDI File, which begins with MThd")
	case data[12]&0x80 != 0:
		return errors.New("expected a MIDI file that counts ticks of a quarter note: this one counts frames of a film")
	case data[12] == 0 && data[13] == 0:
		return errors.New("expected a MIDI file with at least one tick to a quarter note")
	}
	return nil
}

// partsOf sorts out what stands on each track.
func partsOf(file *smf.SMF) []part {
	parts := make([]part, len(file.Tracks))
	for i, t := range file.Tracks {
		p := &parts[i]
		p.name, p.ordinal = fmt.Sprintf("Track %d", i+1), i
		var tick int64
		for _, e := range t {
			tick += int64(e.Delta)
			var channel, key, velocity uint8
			var text string
			switch {
			case e.Message.GetMetaTrackName(&text) && strings.TrimSpace(text) != "":
				p.name = strings.TrimSpace(text)
			case e.Message.GetNoteStart(&channel, &key, &velocity):
				p.notes = append(p.notes, note{tick: tick, key: key})
				p.drums = p.drums || channel == percussion
			case e.Message.GetMetaLyric(&text):
				p.lyrics = append(p.lyrics, note{tick: tick, text: strings.TrimSpace(text)})
			}
		}
	}
	return parts
}

// clock turns ticks into seconds.
type clock struct {
	from    []int64   // ticks at which a tempo begins
	seconds []float64 // until then
	per     []float64 // s of a tick from then on
	first   float64   // s of a tick, of the first tempo
}

func clockOf(file *smf.SMF, per float64) clock {
	const usual = 0.5 // s of a quarter note where no tempo is said (Standard MIDI Files 1.0)
	type change struct {
		tick  int64
		tempo float64
	}
	var list []change
	for _, t := range file.Tracks {
		var tick int64
		for _, e := range t {
			tick += int64(e.Delta)
			var beat float64
			if e.Message.GetMetaTempo(&beat) && beat > 0 && !math.IsInf(beat, 0) {
				list = append(list, change{tick, math.Round(60e6/beat) / 1e6})
			}
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return list[i].tick < list[j].tick })
	if len(list) == 0 || list[0].tick > 0 {
		list = slices.Insert(list, 0, change{0, usual})
	}
	c := clock{first: list[0].tempo / per}
	at := 0.0
	for i, l := range list {
		if i > 0 {
			at += float64(l.tick-list[i-1].tick) * list[i-1].tempo / per
		}
		c.from, c.seconds, c.per = append(c.from, l.tick), append(c.seconds, at), append(c.per, l.tempo/per)
	}
	for i := range c.from { // several at one moment: the last holds
		if c.from[i] == 0 {
			c.first = c.per[i]
		}
	}
	return c
}

func (c clock) at(tick int64) float64 {
	i := sort.Search(len(c.from), func(i int) bool { return c.from[i] > tick }) - 1
	return c.seconds[i] + float64(tick-c.from[i])*c.per[i]
}

// sayings are the lyrics that were read before: each is read once, however often it is sung.
type sayings map[string]saying

// saying is a move that a lyric says in the notation; without text it says none.
type saying struct {
	text   string
	strike bool
}

// What a lyric that says a move has at most (bytes), and how many different ones a file may have: there are dozens.
const (
	longestSaying = 60
	mostSayings   = 2000
)

func (s sayings) read(lyric string) (saying, error) {
	if one, known := s[lyric]; known || len(lyric) > longestSaying {
		return one, nil
	}
	if len(s) == mostSayings {
		return saying{}, fmt.Errorf("expected at most %d different lyrics", mostSayings)
	}
	var one saying
	if line, err := combo.Parse(lyric); err == nil {
		if moves := line.Moves(combo.Orthodox); len(moves) == 1 {
			one = saying{line.String(), moves[0].Kind() == combo.Strike}
		}
	}
	s[lyric] = one
	return one, nil
}

// moves are the strikes of a track, those that begin together once.
func (p part) moves(c clock, read sayings) ([]drill.WrittenMove, error) {
	said := map[int64]string{}
	for _, l := range p.lyrics {
		one, err := read.read(l.text)
		if err != nil {
			return nil, err
		}
		if one.text != "" && one.strike {
			said[l.tick] = one.text
		}
	}
	low, high := uint8(127), uint8(0)
	for _, n := range p.notes {
		low, high = min(low, n.key), max(high, n.key)
	}
	var list []drill.WrittenMove
	slices.SortStableFunc(p.notes, func(a, b note) int { return int(min(max(a.tick-b.tick, -1), 1)) })
	for i, n := range p.notes {
		if i > 0 && n.tick == p.notes[i-1].tick {
			continue
		}
		m := drill.WrittenMove{At: c.at(n.tick), Move: said[n.tick]}
		m.Low = m.Move == "" && high > low && float64(n.key) < (float64(low)+float64(high))/2
		list = append(list, m)
	}
	return list, nil
}

// with puts the defences of a track among strikes.
func with(strikes []drill.WrittenMove, p part, c clock, read sayings) ([]drill.WrittenMove, error) {
	list := slices.Clone(strikes)
	for _, l := range p.lyrics {
		one, err := read.read(l.text)
		if err != nil {
			return nil, err
		}
		if one.text != "" && !one.strike {
			list = append(list, drill.WrittenMove{At: c.at(l.tick), Move: one.text})
		}
	}
	slices.SortStableFunc(list, func(a, b drill.WrittenMove) int {
		switch {
		case a.At < b.At:
			return -1
		case a.At > b.At:
			return 1
		}
		return 0
	})
	return list, nil
}

// boards returns the number of board sounds between the first two strikes.
func boards(p part, struck *part) int {
	if len(struck.notes) < 2 {
		return 0
	}
	n := 0
	for _, b := range p.notes {
		if b.tick > struck.notes[0].tick && b.tick < struck.notes[1].tick {
			n++
		}
	}
	return min(n, drill.MaxRebounds)
}
