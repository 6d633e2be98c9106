package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"tornister/internal/release"
)

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  cobra.NoArgs,
		Run: func(cmd *cobra.Command, _ []string) {
			revision := release.Revision()
			if revision != "" {
				revision = " (" + revision + ")"
			}
			fmt.Fprintf(cmd.OutOrStdout(), "tornister %s%s\n", release.Version, revision)
		},
	}
}
