package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"melodromos/core/input"
	"melodromos/ledger"
	"melodromos/store"
)

func personCommand() *cobra.Command {
	person := &cobra.Command{Use: "person", Short: "Look after the people who train"}
	person.AddCommand(personList(), personErase())
	return person
}

func personList() *cobra.Command {
	return listing("List the people of all gyms with their ids, archived ones too",
		func(cmd *cobra.Command, s *store.Store, gym store.GymRow) error {
			for _, shelf := range []store.Shelf{store.InUse, store.Archived} {
				people, err := s.Gym(cmd.Context(), gym.ID).Trainees(shelf)
				if err != nil {
					return err
				}
				for _, t := range people {
					note := ""
					if t.ArchivedAt != nil {
						note = "  (archived)"
					}
					fmt.Fprintf(cmd.OutOrStdout(), "%s  %s  %s%s\n", t.ID, t.Name, gym.Name, note)
				}
			}
			return nil
		})
}

func personErase() *cobra.Command {
	var gymID string
	cmd := &cobra.Command{
		Use:   "erase ID",
		Short: "Erase a person for good, asked twice; their rounds stay as counts without a name",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gymID)
				if err != nil {
					return err
				}
				gym := s.Gym(cmd.Context(), row.ID)
				t, err := gym.Trainee(args[0])
				if err != nil {
					return input.Refuse("id",
						"expected the id of somebody of %s, as melodromos person list shows it, not %q", row.Name,
						args[0])
				}
				what := fmt.Sprintf(
					"What was measured, cautioned and decided of %s goes, with every hit of their rounds; the rounds stay as counts without a name. A backup that was made before still has them.", t.Name)
				if err := newAsker(cmd).confirm(what, t.Name); err != nil {
					return err
				}
				mentions, err := ledger.Mentions(gym, t)
				if err != nil {
					return err
				}
				var keys []string
				for _, m := range mentions {
					if m.Alike {
						keys = append(keys, m.Key)
					}
				}
				gone, left, err := ledger.Erase(gym, t, keys)
				if err != nil {
					return err
				}
				out := cmd.OutOrStdout()
				fmt.Fprintf(out, "%s was erased; %d rounds stay as counts.\n", t.Name, gone.Rounds)
				for _, m := range left {
					fmt.Fprintf(out, "Left, to be looked at: %s, %q\n", m.Where, m.Text)
				}
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&gymID, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	return cmd
}
