package main

import (
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"melodromos/core/input"
	"melodromos/format/document"
	"melodromos/ledger"
	"melodromos/store"
)

func importCommand() *cobra.Command {
	var gymID string
	var how ledger.Bringing
	cmd := &cobra.Command{
		Use:   "import FILE",
		Short: "Bring a document into a gym: a bag, a drill, a session or a whole gym; - reads standard input",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := whole(cmd, args[0])
			if err != nil {
				return err
			}
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gymID)
				if err != nil {
					return err
				}
				return bring(cmd, s.Gym(cmd.Context(), row.ID), data, how)
			})
		},
	}
	cmd.Flags().StringVar(&gymID, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	cmd.Flags().BoolVar(&how.Dry, "dry-run", false, "only say what would change")
	cmd.Flags().BoolVar(&how.Over, "over", false, "what is there and differs becomes what the file has")
	return cmd
}

func whole(cmd *cobra.Command, name string) ([]byte, error) {
	in := cmd.InOrStdin()
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	data, err := io.ReadAll(io.LimitReader(in, document.MostBytes+1))
	if err == nil && len(data) > document.MostBytes {
		err = input.Refuse("", "expected at most %d bytes", document.MostBytes)
	}
	return data, err
}

func bring(cmd *cobra.Command, gym *store.Gym, data []byte, how ledger.Bringing) error {
	f, err := document.Read(data)
	if err != nil {
		return err
	}
	told, err := ledger.Bring(gym, f, how, nil)
	if err != nil {
		return fmt.Errorf("nothing was brought in: %w", err)
	}
	tell(cmd, told, how.Dry)
	return nil
}

// tell prints what bringing in does, or would do.
func tell(cmd *cobra.Command, told []ledger.Brought, dry bool) {
	n := map[ledger.Does]int{}
	for _, c := range told {
		if n[c.Does]++; c.Does != ledger.Same {
			fmt.Fprintf(cmd.OutOrStdout(), "%-8s %-8s %s", c.Does, c.What, c.Name)
			if c.Detail != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "  (%s)", c.Detail)
			}
			fmt.Fprintln(cmd.OutOrStdout())
		}
	}
	done := "Brought in"
	if dry {
		done = "Nothing was changed; it would be"
	}
	fmt.Fprintf(cmd.OutOrStdout(), "%s: %d added, %d changed, %d the same, %d that differ and stay as they are.\n", done,
		n[ledger.Added], n[ledger.Changed], n[ledger.Same], n[ledger.Differs])
}
