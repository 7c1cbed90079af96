package main

import (
	"fmt"
	"io"
	"io/fs"
	"time"

	"github.com/spf13/cobra"

	"melodromos/core/input"
	"melodromos/format/calendar"
	"melodromos/format/midi"
	"melodromos/format/sound"
	"melodromos/format/wav"
	"melodromos/ledger"
	"melodromos/store"
	"melodromos/ui"
)

// songs are the exports of what is laid out: drills, given or not, and sessions, as MIDI and as sound.
func songs() []*cobra.Command {
	var on ledger.On
	var silent bool
	laid := func(e outOf, args []string, wait bool) (midi.Song, error) {
		on.Wait = wait
		switch what, id := args[0], args[1]; what {
		case "drill":
			song, err := ledger.DrillSong(e.gym, e.row, id, on, nil)
			return song, unknown("drill", id, err)
		case "given":
			song, err := ledger.GivenSong(e.gym, e.row, id, wait, nil)
			return song, unknown("drill that somebody has", id, err)
		case "session":
			song, err := ledger.SessionSong(e.gym, e.row, id, on, nil)
			return song, unknown("session", id, err)
		}
		return midi.Song{}, input.Refuse("", "expected drill, given or session, not %q", args[0])
	}
	asMIDI := exporting("midi drill|given|session ID", "Write a drill or a session as a Standard MIDI File",
		cobra.ExactArgs(2), func(e outOf, args []string) error {
			song, err := laid(e, args, false)
			if err != nil {
				return err
			}
			return midi.Write(e.out, song)
		})
	asWAV := exporting("wav drill|given|session ID", "Mix a drill or a session down into a WAV file, as the floor plays it",
		cobra.ExactArgs(2), func(e outOf, args []string) error {
			song, err := laid(e, args, true)
			if err != nil {
				return err
			}
			return mixed(e.out, song, silent)
		})
	for _, cmd := range []*cobra.Command{asMIDI, asWAV} {
		cmd.Flags().StringVar(&on.Bag, "bag", "", "id of the bag; left out, the first of its kind that hangs")
		cmd.Flags().StringVar(&on.Person, "person", "", "id of who does it; left out, a beginner")
	}
	asWAV.Flags().BoolVar(&silent, "without-strikes", false, "bells, counts and voice alone")
	return []*cobra.Command{asMIDI, asWAV}
}

// mixed writes how a song sounds.
func mixed(out io.Writer, song midi.Song, silent bool) error {
	clips, err := fs.Sub(ui.Files(), "calls")
	if err != nil {
		return err
	}
	loud := map[sound.Channel]float64{}
	if silent {
		loud[sound.Strikes], loud[sound.Boards] = 0, 0
	}
	heard, err := wav.Of(song.Timeline.Events, clips, loud)
	if err == nil {
		_, err = heard.WriteTo(out)
	}
	return err
}

// tables are the exports of the log.
func tables() []*cobra.Command {
	var person string
	table := func(name, short string, write func(io.Writer, *store.Gym, string) error) *cobra.Command {
		cmd := exporting(name, short, cobra.NoArgs, func(e outOf, _ []string) error {
			if person != "" {
				if _, err := e.gym.Trainee(person); err != nil {
					return unknown("person", person, err)
				}
			}
			return write(e.out, e.gym, person)
		})
		cmd.Flags().StringVar(&person, "person", "", "id of somebody: only theirs")
		return cmd
	}
	return []*cobra.Command{
		table("log", "Write the log as comma-separated values", ledger.WriteLog),
		table("hits", "Write every hit of the log as comma-separated values", ledger.WriteHits),
		exporting("calendar", "Write when classes are held as an iCalendar file", cobra.NoArgs,
			func(e outOf, _ []string) error {
				t, err := ledger.Timetable(e.gym, e.row, time.Now())
				if err != nil {
					return fmt.Errorf("the timetable: %w", err)
				}
				return calendar.Write(e.out, t)
			}),
	}
}
