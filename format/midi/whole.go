package midi

import (
	"encoding/binary"
	"errors"
	"fmt"
)

// whole refuses a file whose lengths do not add up, by the track and byte at which they do not: the library that reads
// it takes them on trust, and would ask for as much memory as a broken one says.
func whole(data []byte) error {
	rest, n := data[8:], binary.BigEndian.Uint32(data[4:8])
	if uint64(n) > uint64(len(rest)) || n < 6 {
		return errors.New("expected a whole MIDI file: its header is cut off")
	}
	offset := 8 + int(n)
	track := 0
	for offset < len(data) {
		if len(data)-offset < 8 {
			return fmt.Errorf("byte %d: expected another track, or the end of the file", offset)
		}
		kind, size := string(data[offset:offset+4]), binary.BigEndian.Uint32(data[offset+4:offset+8])
		offset += 8
		if uint64(size) > uint64(len(data)-offset) {
			return fmt.Errorf("byte %d: expected %d bytes more, and the file ends after %d", offset, size, len(data)-offset)
		}
		if kind == "MTrk" {
			track++
			w := walker{data: data[offset : offset+int(size)]}
			if err := w.events(); err != nil {
				return fmt.Errorf("track %d, byte %d: %w", track, offset+w.at, err)
			}
		}
		offset += int(size)
	}
	return nil
}

// walker goes through the events of a track.
type walker struct {
	data    []byte
	at      int
	running byte
}

var errCut = errors.New("expected more of the track: it is cut off")

func (w *walker) byte() (byte, error) {
	if w.at >= len(w.data) {
		return 0, errCut
	}
	w.at++
	return w.data[w.at-1], nil
}

// length is a number of variable length: at most four bytes of seven bits (Standard MIDI Files 1.0).
func (w *walker) length() (int, error) {
	n := 0
	for range 4 {
		b, err := w.byte()
		if err != nil {
			return 0, err
		}
		if n = n<<7 | int(b&0x7F); b < 0x80 {
			return n, nil
		}
	}
	return 0, errors.New("expected a length of at most four bytes")
}

func (w *walker) skip(n int) error {
	if n > len(w.data)-w.at {
		return errCut
	}
	w.at += n
	return nil
}

func (w *walker) events() error {
	for {
		if _, err := w.length(); err != nil { // ticks since the event before
			return err
		}
		status, err := w.byte()
		if err != nil {
			return err
		}
		switch {
		case status == 0xFF:
			kind, err := w.byte()
			if err != nil {
				return err
			}
			n, err := w.length()
			if err == nil {
				err = w.skip(n)
			}
			if err != nil {
				return err
			}
			if w.running = 0; kind == 0x2F {
				if w.at < len(w.data) {
					return errors.New("expected nothing after the end of the track")
				}
				return nil
			}
		case status == 0xF0 || status == 0xF7:
			n, err := w.length()
			if err == nil {
				err = w.skip(n)
			}
			if w.running = 0; err != nil {
				return err
			}
		case status > 0xF0:
			return fmt.Errorf("expected a note, a setting or a text, not %#x", status)
		default:
			if err := w.channel(status); err != nil {
				return err
			}
		}
	}
}

// channel passes over an event of a channel; one without a status has that of the one before.
func (w *walker) channel(first byte) error {
	n := 1
	if first >= 0x80 {
		w.running, n = first, 2
	}
	switch {
	case w.running == 0:
		return fmt.Errorf("expected an event, not %#x", first)
	case w.running&0xF0 == 0xC0 || w.running&0xF0 == 0xD0: // a programme or pressure has one byte
		n--
	}
	for _, b := range w.data[w.at:min(w.at+n, len(w.data))] {
		if b >= 0x80 {
			return errors.New("expected the value of a note or setting")
		}
	}
	return w.skip(n)
}
