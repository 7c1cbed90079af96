package main

import (
	"bufio"
	"fmt"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"melodromos/server"
	"melodromos/standin"
	"melodromos/store"
)

func coachCommand() *cobra.Command {
	coach := &cobra.Command{Use: "coach", Short: "Manage the coaches who sign in"}
	var c store.Coach
	gym := store.GymRow{Units: "metric"}
	add := &cobra.Command{
		Use:   "add",
		Short: "Add a coach, and the gym if it is new; the password is asked for, or read from standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if _, err := time.LoadLocation(gym.Zone); err != nil {
				return fmt.Errorf("--zone: expected a name such as Europe/Lisbon: %w", err)
			}
			if gym.Units != "metric" && gym.Units != "imperial" {
				return fmt.Errorf("--units: expected metric or imperial, not %q", gym.Units)
			}
			password, err := askPassword(cmd)
			if err != nil {
				return err
			}
			if c.PasswordHash, err = server.HashPassword(password); err != nil {
				return err
			}
			_, s, err := opened(cmd.Context())
			if err != nil {
				return err
			}
			defer func() { _ = s.Close() }()
			if err := s.AddCoach(cmd.Context(), gym, &c); err != nil {
				return fmt.Errorf("add %s: %w", c.Email, err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s can sign in to %s.\n", c.Email, gym.Name)
			return nil
		},
	}
	add.Flags().StringVar(&c.Email, "email", "", "e-mail address to sign in with")
	add.Flags().StringVar(&c.Name, "name", "", "name of the coach")
	add.Flags().StringVar(&gym.Name, "gym", "", "name of the gym")
	add.Flags().StringVar(&gym.Zone, "zone", "UTC", "time zone of a new gym")
	add.Flags().StringVar(&gym.Units, "units", "metric", "units of a new gym: metric or imperial")
	for _, name := range []string{"email", "name", "gym"} {
		_ = add.MarkFlagRequired(name) // the flag is there
	}
	coach.AddCommand(add)
	return coach
}

const leastPassword = 10 // characters

func askPassword(cmd *cobra.Command) (string, error) {
	var password string
	if fd := int(os.Stdin.Fd()); term.IsTerminal(fd) {
		fmt.Fprint(os.Stderr, "Password: ")
		text, err := term.ReadPassword(fd)
		fmt.Fprintln(os.Stderr)
		if err != nil {
			return "", err
		}
		password = string(text)
	} else {
		line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
		if err != nil && line == "" {
			return "", fmt.Errorf("read the password: %w", err)
		}
		password = strings.TrimRight(line, "\r\n")
	}
	if len([]rune(password)) < leastPassword {
		return "", fmt.Errorf("the password: expected at least %d characters", leastPassword)
	}
	return password, nil
}

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
	cmd.Flags().StringVar(&ability, "ability", "intermediate", "first-timer, beginner, intermediate, advanced or expert")
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
			doc, err := server.New(server.Options{}).OpenAPI()
			if err != nil {
				return err
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s\n", doc)
			return err
		},
	}
}
