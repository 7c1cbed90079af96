package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"melodromos/calc"
	"melodromos/core/input"
)

func calcCommand() *cobra.Command {
	return &cobra.Command{
		Use:       "calc " + strings.Join(calc.Operations(), "|"),
		Short:     "Answer one question: a JSON object on standard input, one on standard output",
		Args:      cobra.MatchAll(cobra.ExactArgs(1)),
		ValidArgs: calc.Operations(),
		RunE: func(cmd *cobra.Command, args []string) error {
			doc, err := io.ReadAll(io.LimitReader(cmd.InOrStdin(), calc.MaxDocument+1))
			if err != nil {
				return fmt.Errorf("read the question: %w", err)
			}
			if len(doc) > calc.MaxDocument {
				return input.Refuse("", "expected at most %d bytes", calc.MaxDocument)
			}
			out, err := calc.Do(cmd.Context(), args[0], doc)
			if err != nil {
				return err
			}
			_, err = fmt.Fprintf(cmd.OutOrStdout(), "%s\n", out)
			return err
		},
	}
}
