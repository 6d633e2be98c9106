package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"tornister/bundle"
)

// readBundle reads a file, or standard input for "-". Input at fault ends the program with code 2.
func readBundle(cmd *cobra.Command, name string) (*bundle.Bundle, error) {
	data, err := readLimited(cmd, name)
	if err != nil {
		return nil, &exit{exitBadArgs, fmt.Sprintf("%s: %v", name, err)}
	}
	b, err := bundle.Read(data)
	if errors.As(err, new(bundle.Problems)) {
		return nil, &exit{exitBadArgs, fmt.Sprintf("%s is not a usable bundle.\n%v", name, err)}
	}
	return b, err
}

// readLimited reads at most one byte more than a bundle may have, which bundle.Read then refuses.
func readLimited(cmd *cobra.Command, name string) ([]byte, error) {
	source := cmd.InOrStdin()
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer file.Close()
		source = file
	}
	return io.ReadAll(io.LimitReader(source, bundle.MaxBytes+1))
}

// oneFile demands exactly one argument.
func oneFile(_ *cobra.Command, args []string) error {
	if len(args) != 1 {
		return &exit{exitBadArgs, "name one file, or - for standard input"}
	}
	return nil
}
