package main

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"melodromos/account"
	"melodromos/core/input"
	"melodromos/demo"
	"melodromos/store"
)

func gymCommand() *cobra.Command {
	gym := &cobra.Command{Use: "gym", Short: "Manage the gyms, whose data are kept apart"}
	gym.AddCommand(gymAdd(), gymList(), gymRemove(), gymLarge(), gymRebuild())
	return gym
}

func gymAdd() *cobra.Command {
	var gym store.GymRow
	cmd := &cobra.Command{
		Use:   "add",
		Short: "Add a gym and print its id",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var err error
			if gym.Name, err = input.Name("name", gym.Name); err != nil {
				return err
			}
			if err := account.Zone(gym.Zone); err != nil {
				return err
			}
			if err := account.Units(gym.Units); err != nil {
				return err
			}
			return withStore(cmd.Context(), func(s *store.Store) error {
				if err := s.AddGym(cmd.Context(), &gym); err != nil {
					return fmt.Errorf("add %s: %w", gym.Name, err)
				}
				fmt.Fprintln(cmd.OutOrStdout(), gym.ID)
				fmt.Fprintf(cmd.ErrOrStderr(),
					"Its first coach: melodromos coach add --gym %s --email you@gym.example --name \"Your name\"\n",
					gym.ID)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&gym.Name, "name", "", "name of the gym")
	cmd.Flags().StringVar(&gym.Zone, "zone", "UTC", "its time zone, such as Europe/Lisbon")
	cmd.Flags().StringVar(&gym.Units, "units", "metric", "metric or imperial")
	_ = cmd.MarkFlagRequired("name") // the flag is there
	return cmd
}

func gymList() *cobra.Command {
	return listing("List the gyms with their ids", func(cmd *cobra.Command, _ *store.Store, gym store.GymRow) error {
		note := ""
		if gym.Demo {
			note = "  (demo)"
		}
		fmt.Fprintf(cmd.OutOrStdout(), "%s  %s%s\n", gym.ID, gym.Name, note)
		return nil
	})
}

// listing is a command that prints something of each gym.
func listing(short string, list func(cmd *cobra.Command, s *store.Store, gym store.GymRow) error) *cobra.Command {
	return &cobra.Command{
		Use: "list", Short: short, Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				gyms, err := s.Gyms(cmd.Context())
				for _, gym := range gyms {
					err = errors.Join(err, list(cmd, s, gym))
				}
				return err
			})
		},
	}
}

func gymRemove() *cobra.Command {
	return &cobra.Command{
		Use:   "remove ID",
		Short: "Remove a gym with its people, bags and rounds, asked twice",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				gym, err := gymNamed(cmd.Context(), s, args[0])
				if err != nil {
					return err
				}
				people, runs, err := s.Gym(cmd.Context(), gym.ID).Counts()
				if err != nil {
					return err
				}
				what := fmt.Sprintf("%s has %d people and %d rounds. All of it goes; melodromos backup FILE keeps it.",
					gym.Name, people, runs)
				if err := newAsker(cmd).confirm(what, gym.Name); err != nil {
					return err
				}
				if err := s.DropGym(cmd.Context(), gym.ID); err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s was removed.\n", gym.Name)
				return nil
			})
		},
	}
}

// gymNamed finds a gym by its id. Without one it is the only gym there is, the demo's left aside. A name opens nothing:
// two gyms may have the same.
func gymNamed(ctx context.Context, s *store.Store, id string) (store.GymRow, error) {
	gyms, err := s.Gyms(ctx)
	if err != nil {
		return store.GymRow{}, err
	}
	own := slices.DeleteFunc(slices.Clone(gyms), func(g store.GymRow) bool { return g.Demo })
	if id == "" && len(own) == 1 {
		return own[0], nil
	}
	namesakes := ""
	for _, gym := range gyms {
		if gym.ID == id {
			return gym, nil
		}
		if gym.Name == id {
			namesakes += "; a gym of this name is " + gym.ID
		}
	}
	switch {
	case len(own) == 0:
		return store.GymRow{}, input.Refuse("gym",
			"there is none yet: melodromos gym add --name \"Your gym\" makes one and prints its id")
	case id == "":
		return store.GymRow{}, input.Refuse("gym",
			"expected the id of one of the %d gyms; melodromos gym list shows them", len(own))
	}
	return store.GymRow{}, input.Refuse("gym", "expected the id of a gym, as melodromos gym list shows it, not %q%s",
		id, namesakes)
}

func gymLarge() *cobra.Command {
	size := demo.Size{}
	cmd := &cobra.Command{
		Use:   "large",
		Short: "Make a made-up gym with many people and rounds, to see how fast it all is on this machine",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, email, err := demo.Large(cmd.Context(), s, size, time.Now().UTC())
				if err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s  %s\nSign in as %s with the password: %s\n", row.ID, row.Name, email,
					demo.LargePassword)
				return nil
			})
		},
	}
	cmd.Flags().IntVar(&size.People, "people", 60, "how many train there")
	cmd.Flags().IntVar(&size.Rounds, "rounds", 50_000, "how many rounds stand in the log")
	cmd.Flags().IntVar(&size.Hits, "hits", 1_000_000, "how many hits they hold")
	return cmd
}

func gymRebuild() *cobra.Command {
	var gymID string
	cmd := &cobra.Command{
		Use:   "rebuild",
		Short: "Make anew what is kept packed of everybody's rounds and tests, from the rounds and tests themselves",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gymID)
				if err != nil {
					return err
				}
				n, err := s.Gym(cmd.Context(), row.ID).RebuildDigests()
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%d digests of %s were made anew.\n", n, row.Name)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&gymID, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	return cmd
}
