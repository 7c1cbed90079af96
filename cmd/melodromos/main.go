// Command melodromos programs, runs and judges timing drills on the bags of a boxing gym.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"melodromos/core/input"
)

func main() {
	root := &cobra.Command{
		Use:           "melodromos",
		Short:         "Timing and rhythm drills matched to the bag as it hangs and to the person in front of it",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(serveCommand(), calcCommand(), gymCommand(), coachCommand(), personCommand(), backupCommand(),
		restoreCommand(), exportCommand(), importCommand(), standInCommand(), openAPICommand())
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		var refused *input.Error
		if errors.As(err, &refused) {
			os.Exit(2)
		}
		os.Exit(1)
	}
}
