package main

import (
	"fmt"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"melodromos/core/rig"
	"melodromos/ledger"
	"melodromos/store"
)

func importCommand() *cobra.Command {
	var gymID string
	file := ledger.File{Kind: rig.Hanging}
	cmd := &cobra.Command{
		Use:   "import FILE",
		Short: "Bring a file into a gym: a document, a log or hits as a table, a rhythm as MIDI; - reads standard input",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in, err := fileOf(cmd, args[0])
			if err != nil {
				return err
			}
			defer func() { _ = in.Close() }()
			if file.In, file.Name = in, filepath.Base(args[0]); args[0] == "-" {
				file.Name = "Rhythm"
			}
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gymID)
				if err != nil {
					return err
				}
				told, err := ledger.BringFile(s.Gym(cmd.Context(), row.ID), file, nil)
				if err != nil {
					return fmt.Errorf("nothing was brought in: %w", err)
				}
				tell(cmd, told, file.Dry)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&gymID, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	cmd.Flags().BoolVar(&file.Dry, "dry-run", false, "only say what would change")
	cmd.Flags().BoolVar(&file.Over, "over", false, "what is there and differs becomes what the file has")
	cmd.Flags().StringVar((*string)(&file.Kind), "bag", string(file.Kind),
		"kind of bag that a rhythm is for: speed, doubleEnd, reflex or hanging")
	cmd.Flags().StringVar(&file.Track, "track", "", "track of a MIDI file whose notes are the strikes")
	return cmd
}

// fileOf is a file, or what comes in, as one that can be read from anywhere: as long as it may be, since it is whoever
// runs this machine who asks.
func fileOf(cmd *cobra.Command, name string) (*os.File, error) {
	if name != "-" {
		return os.Open(name)
	}
	return ledger.PutDown(cmd.InOrStdin())
}

// tell prints what bringing in does, or would do.
func tell(cmd *cobra.Command, told ledger.Result, dry bool) {
	for _, c := range told.Changes {
		if c.Does != ledger.Same {
			fmt.Fprintf(cmd.OutOrStdout(), "%-8s %-8s %s", c.Does, c.What, c.Name)
			if c.Detail != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "  (%s)", c.Detail)
			}
			if c.Count > 1 {
				fmt.Fprintf(cmd.OutOrStdout(), "  %d", c.Count)
			}
			fmt.Fprintln(cmd.OutOrStdout())
		}
	}
	for _, line := range told.Said {
		fmt.Fprintln(cmd.OutOrStdout(), line)
	}
	said := told.Sentence(dry)
	if dry {
		said = "Nothing was changed. " + said
	}
	fmt.Fprintln(cmd.OutOrStdout(), said)
}
