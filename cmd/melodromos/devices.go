package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"melodromos/server"
	"melodromos/standin"
)

func standInCommand() *cobra.Command {
	var s standin.Sensor
	var ability string
	cmd := &cobra.Command{
		Use:   "standin",
		Short: "Join a run as a simulated strike sensor, with the key that the run screen shows",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s.Person = standin.Like(ability)
			return s.Play(cmd.Context())
		},
	}
	cmd.Flags().StringVar(&s.URL, "url", "http://127.0.0.1:8090", "address of the server")
	cmd.Flags().StringVar(&s.Key, "key", "", "key of the run")
	cmd.Flags().StringVar(&ability, "ability", "intermediate",
		"first-timer, beginner, intermediate, advanced or expert")
	cmd.Flags().Uint64Var(&s.Seed, "seed", 1, "the same seed hits the same way")
	_ = cmd.MarkFlagRequired("key") // the flag is there
	return cmd
}

func openAPICommand() *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the description of the HTTP interface",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			app, err := server.New(server.Options{})
			if err != nil {
				return err
			}
			doc, err := app.OpenAPI()
			if err != nil {
				return err
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s\n", doc)
			return err
		},
	}
}
