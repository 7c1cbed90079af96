package main

import (
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"melodromos/backup"
)

func backupCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "backup FILE",
		Short: "Write all gyms of the database into a new file, while the server runs or not",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			cfg, err := configured()
			if err != nil {
				return err
			}
			m, err := backup.Write(cmd.Context(), cfg.Database, args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(),
				"%s holds %d rows of %d tables, as they stood at %s. It has everything in it, people's particulars too: keep it where nobody else reads it.\n",
				args[0], m.Rows(), len(m.Tables), m.Made.Format(time.RFC3339))
			return nil
		},
	}
}

func restoreCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "restore FILE",
		Short: "Read a backup into an empty database, or one without a gym yet, while no server runs on it",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			cfg, err := configured()
			if err != nil {
				return err
			}
			m, err := backup.Restore(cmd.Context(), cfg.Database, args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%d rows of %d tables are back, as they stood at %s.\n", m.Rows(),
				len(m.Tables), m.Made.Format(time.RFC3339))
			return nil
		},
	}
}
