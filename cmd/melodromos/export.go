package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"melodromos/core/input"
	"melodromos/format/document"
	"melodromos/ledger"
	"melodromos/server/schema"
	"melodromos/store"
)

// outOf holds the gym that an export reads and the file that it writes.
type outOf struct {
	cmd *cobra.Command
	s   *store.Store
	gym *store.Gym
	row store.GymRow
	out io.Writer
}

// exporting is a command that writes something of a gym into a file, or on standard output. A file that is there
// already is left alone, and one that cannot be finished is taken away.
func exporting(use, short string, args cobra.PositionalArgs, write func(e outOf, args []string) error) *cobra.Command {
	var gymID, file string
	cmd := &cobra.Command{Use: use, Short: short, Args: args,
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(cmd.Context(), func(s *store.Store) error {
				row, err := gymNamed(cmd.Context(), s, gymID)
				if err != nil {
					return err
				}
				e := outOf{cmd, s, s.Gym(cmd.Context(), row.ID), row, cmd.OutOrStdout()}
				if file == "" || file == "-" {
					return write(e, args)
				}
				return intoFile(file, func(out io.Writer) error {
					e.out = out
					return write(e, args)
				})
			})
		}}
	cmd.Flags().StringVar(&gymID, "gym", "",
		"id of the gym, as gym list shows it; may be left out where there is one alone")
	cmd.Flags().StringVarP(&file, "output", "o", "", "file to write; - or nothing for standard output")
	return cmd
}

// intoFile writes a new file, whole or not at all.
func intoFile(name string, write func(io.Writer) error) (err error) {
	f, err := os.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if os.IsExist(err) {
		return fmt.Errorf("%s is there already: choose another name", name)
	}
	if err != nil {
		return err
	}
	defer func() {
		if closing := f.Close(); err == nil {
			err = closing
		}
		if err != nil {
			_ = os.Remove(name)
		}
	}()
	return write(f)
}

func exportCommand() *cobra.Command {
	all := &cobra.Command{Use: "export", Short: "Write what a gym has put in, in open formats"}
	all.AddCommand(
		exporting("gym", "Write the whole gym but for its log as a JSON document", cobra.NoArgs,
			func(e outOf, _ []string) error {
				g, _, err := ledger.GymDocument(e.gym, e.row)
				if err != nil {
					return err
				}
				return ledger.WriteDocument(e.out, document.File{Holds: document.OfGym, Gym: &g})
			}),
		schemaCommand(),
	)
	for _, holds := range []document.Kind{document.OfBag, document.OfDrill, document.OfSession} {
		what := string(holds)
		all.AddCommand(exporting(what+" ID", "Write a "+what+" as a JSON document", cobra.ExactArgs(1),
			func(e outOf, args []string) error {
				doc, _, err := ledger.Document(e.gym, holds, args[0])
				if err != nil {
					return unknown(what, args[0], err)
				}
				return ledger.WriteDocument(e.out, doc)
			}))
	}
	all.AddCommand(tables()...)
	all.AddCommand(songs()...)
	all.AddCommand(pages()...)
	return all
}

// unknown says that there is nothing of an id; another error is what it is.
func unknown(what, id string, err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return input.Refuse("id", "expected the id of a %s of this gym, not %q", what, id)
	}
	return err
}

func schemaCommand() *cobra.Command {
	return &cobra.Command{Use: "schema", Short: "Print the JSON Schema of the documents", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			doc, err := schema.Documents()
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(doc)
			return err
		}}
}
