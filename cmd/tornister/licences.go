package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"tornister/internal/licences"
)

func licencesCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "licences",
		Short: "Print what the program ships and the licences of it",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := fmt.Fprint(cmd.OutOrStdout(), licences.Text)
			return err
		},
	}
}
