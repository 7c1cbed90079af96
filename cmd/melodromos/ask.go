package main

import (
	"bufio"
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"melodromos/account"
)

// asker asks whoever types, or reads the answers line by line from standard input.
type asker struct{ lines *bufio.Reader }

func newAsker(cmd *cobra.Command) asker { return asker{bufio.NewReader(cmd.InOrStdin())} }

// line asks one question and reads one line.
func (a asker) line(question string) (string, error) {
	fmt.Fprint(os.Stderr, question, " ")
	text, err := a.lines.ReadString('\n')
	if err != nil && text == "" {
		return "", fmt.Errorf("no answer came: %w", err)
	}
	return strings.TrimSpace(text), nil
}

// confirm asks for the same thing twice in two ways, and stops unless both answers are as they should be: first the
// name of what goes, then the word remove.
func (a asker) confirm(what, name string) error {
	fmt.Fprintln(os.Stderr, what)
	for _, ask := range []struct{ question, want string }{
		{fmt.Sprintf("Type %q to go on:", name), name},
		{"This cannot be undone. Type remove:", "remove"},
	} {
		answer, err := a.line(ask.question)
		if err != nil {
			return err
		}
		if answer != ask.want {
			return fmt.Errorf("that is not %q: nothing was removed", ask.want)
		}
	}
	return nil
}

// password asks for a new one, unseen where somebody types.
func (a asker) password() (string, error) {
	var password string
	if fd := int(os.Stdin.Fd()); term.IsTerminal(fd) {
		fmt.Fprintf(os.Stderr, "Password (%d to %d characters): ", account.LeastPassword, account.MostPassword)
		text, err := term.ReadPassword(fd)
		fmt.Fprintln(os.Stderr)
		if err != nil {
			return "", err
		}
		password = string(text)
	} else {
		line, err := a.lines.ReadString('\n')
		if err != nil && line == "" {
			return "", fmt.Errorf("read the password: %w", err)
		}
		password = strings.TrimRight(line, "\r\n")
	}
	return password, account.Password(password)
}
