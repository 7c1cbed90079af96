package main

import (
	"context"
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"melodromos/account"
	"melodromos/core/input"
	"melodromos/store"
)

func coachCommand() *cobra.Command {
	coach := &cobra.Command{Use: "coach", Short: "Manage the coaches who sign in"}
	coach.AddCommand(coachAdd(), coachList(), coachPassword(), coachSignOut(), coachRemove())
	return coach
}

// withStore opens the database for a command and closes it afterwards.
func withStore(ctx context.Context, do func(*store.Store) error) error {
	_, s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }()
	return do(s)
}

// newPassword asks for a password and gives its hash.
func newPassword(cmd *cobra.Command) (string, error) {
	password, err := newAsker(cmd).password()
	if err != nil {
		return "", err
	}
	return account.Hash(cmd.Context(), password)
}

func coachAdd() *cobra.Command {
	var c store.Coach
	var gym string
	cmd := &cobra.Command{
		Use:   "add",
		Short: "Add a coach to a gym; the password is asked for, or read from standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var err error
			if err = account.Email(c.Email); err != nil {
				return err
			}
			if c.Name, err = input.Name("name", c.Name); err != nil {
				return err
			}
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gym)
				if err != nil {
					return err
				}
				c.GymID = row.ID
				if c.PasswordHash, err = newPassword(cmd); err != nil {
					return err
				}
				if err := s.AddCoach(cmd.Context(), &c); errors.Is(err, store.ErrTaken) {
					return input.Refuse("email", "%s signs in already", c.Email)
				} else if err != nil {
					return fmt.Errorf("add %s: %w", c.Email, err)
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s can sign in to %s.\n", c.Email, row.Name)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&c.Email, "email", "", "e-mail address to sign in with")
	cmd.Flags().StringVar(&c.Name, "name", "", "name of the coach")
	cmd.Flags().StringVar(&gym, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	for _, name := range []string{"email", "name"} {
		_ = cmd.MarkFlagRequired(name) // the flag is there
	}
	return cmd
}

func coachList() *cobra.Command {
	return listing("List the coaches of all gyms", func(cmd *cobra.Command, s *store.Store, gym store.GymRow) error {
		coaches, err := s.Gym(cmd.Context(), gym.ID).Coaches()
		for _, c := range coaches {
			fmt.Fprintf(cmd.OutOrStdout(), "%s  %s  %s\n", c.Email, c.Name, gym.Name)
		}
		return err
	})
}

// ofCoach is a command that does something with the coach of an address.
func ofCoach(use, short string, do func(cmd *cobra.Command, gym *store.Gym, c store.Coach) error) *cobra.Command {
	var email string
	cmd := &cobra.Command{
		Use: use, Short: short, Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				c, err := s.CoachByEmail(cmd.Context(), email)
				if errors.Is(err, store.ErrNotFound) {
					return input.Refuse("email", "no coach signs in as %s; coach list shows all", email)
				}
				if err != nil {
					return err
				}
				return do(cmd, s.Gym(cmd.Context(), c.GymID), c)
			})
		},
	}
	cmd.Flags().StringVar(&email, "email", "", "e-mail address that the coach signs in with")
	_ = cmd.MarkFlagRequired("email") // the flag is there
	return cmd
}

func coachPassword() *cobra.Command {
	return ofCoach("password",
		"Set a coach's password anew and end all their sign-ins; it is asked for, or read from standard input",
		func(cmd *cobra.Command, gym *store.Gym, c store.Coach) error {
			hash, err := newPassword(cmd)
			if err != nil {
				return err
			}
			if _, err := gym.SetPassword(c.ID, hash); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s has a new password, and is signed out everywhere.\n", c.Email)
			return nil
		})
}

func coachSignOut() *cobra.Command {
	return ofCoach("sign-out", "End all sign-ins of a coach",
		func(cmd *cobra.Command, gym *store.Gym, c store.Coach) error {
			if _, err := gym.SignOutEverywhere(c.ID); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s is signed out everywhere.\n", c.Email)
			return nil
		})
}

func coachRemove() *cobra.Command {
	return ofCoach("remove", "Remove a coach, asked twice; the rounds they ran stay",
		func(cmd *cobra.Command, gym *store.Gym, c store.Coach) error {
			if err := newAsker(cmd).confirm(fmt.Sprintf("%s (%s) will not be able to sign in any more.", c.Name,
				c.Email),
				c.Email); err != nil {
				return err
			}
			err := gym.RemoveCoach(c.ID)
			if errors.Is(err, store.ErrLast) {
				return fmt.Errorf(
					"%s is the gym's last coach, and nobody could sign in to it: add another one first, or remove the gym", c.Email)
			}
			if err == nil {
				fmt.Fprintf(cmd.OutOrStdout(), "%s was removed.\n", c.Email)
			}
			return err
		})
}
