package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/crypto/bcrypt"
	"golang.org/x/term"

	"tornister/store"
)

// What a password must be. bcrypt reads 72 bytes; its cost takes about a quarter of a second.
const (
	leastPassword = 8
	mostPassword  = 72
	passwordCost  = 12
)

// passwordFile is where the hash of a database's password is kept.
func passwordFile(database string) string { return database + ".password" }

// readPassword gives the hash of the password, nil when none is set.
func readPassword(database string) ([]byte, error) {
	hash, err := os.ReadFile(passwordFile(database))
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	hash = []byte(strings.TrimSpace(string(hash)))
	if _, err := bcrypt.Cost(hash); err != nil {
		return nil, &exit{
			exitOther,
			fmt.Sprintf(
				"%s is not what tornister password wrote (%v); set the password anew",
				passwordFile(database),
				err,
			),
		}
	}
	return hash, nil
}

func passwordCommand() *cobra.Command {
	var database string
	var remove bool
	cmd := &cobra.Command{
		Use:   "password",
		Short: "Set the password that the interface asks for, or take it away",
		Long: "Asks for a password of at least eight characters, or reads it from standard input, and keeps its hash (bcrypt)\n" +
			"beside the database. From the next start on, serve asks for it.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			path, err := databasePath(database)
			if err != nil {
				return err
			}
			file := passwordFile(path)
			if remove {
				if err := os.Remove(file); err != nil && !errors.Is(err, os.ErrNotExist) {
					return err
				}
				fmt.Fprintln(cmd.OutOrStdout(), "No password is asked for any more, from the next start on.")
				return nil
			}
			password, err := askPassword(cmd)
			if err != nil {
				return err
			}
			hash, err := bcrypt.GenerateFromPassword(password, passwordCost)
			if err != nil {
				return err
			}
			if err := store.Folder(filepath.Dir(path)); err != nil {
				return err
			}
			if err := writePrivate(file, append(hash, '\n')); err != nil {
				return err
			}
			fmt.Fprintln(cmd.OutOrStdout(), "The password is set, from the next start on.")
			return nil
		},
	}
	databaseFlag(cmd, &database)
	cmd.Flags().BoolVar(&remove, "remove", false, "ask for no password any more")
	return cmd
}

// askPassword asks twice at a terminal, without showing what is typed; otherwise it reads the first line.
func askPassword(cmd *cobra.Command) ([]byte, error) {
	var password []byte
	if file, ok := cmd.InOrStdin().(*os.File); ok && term.IsTerminal(int(file.Fd())) {
		ask := func(words string) (typed []byte, err error) {
			fmt.Fprint(cmd.ErrOrStderr(), words)
			typed, err = term.ReadPassword(int(file.Fd()))
			fmt.Fprintln(cmd.ErrOrStderr())
			return typed, err
		}
		first, err := ask("Password: ")
		if err != nil {
			return nil, err
		}
		again, err := ask("The same again: ")
		if err != nil {
			return nil, err
		}
		if string(first) != string(again) {
			return nil, &exit{exitBadArgs, "The two differ; nothing was set. Try again."}
		}
		password = first
	} else {
		line, err := bufio.NewReader(io.LimitReader(cmd.InOrStdin(), 1<<10)).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return nil, err
		}
		password = []byte(strings.TrimRight(line, "\r\n"))
	}
	if len(password) < leastPassword || len(password) > mostPassword {
		return nil, &exit{
			exitBadArgs,
			fmt.Sprintf(
				"A password has %d to %d bytes; this one has %d. Nothing was set.",
				leastPassword,
				mostPassword,
				len(password),
			),
		}
	}
	return password, nil
}

// writePrivate writes a file that only its owner reads, whole or not at all.
func writePrivate(name string, data []byte) error {
	part, err := os.CreateTemp(filepath.Dir(name), ".part-*") // made with 0600
	if err != nil {
		return err
	}
	defer os.Remove(part.Name())
	_, err = part.Write(data)
	if err := errors.Join(err, part.Chmod(0o600), part.Sync(), part.Close()); err != nil {
		return err
	}
	return os.Rename(part.Name(), name)
}
