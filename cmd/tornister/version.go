package main

import (
	"fmt"
	"runtime/debug"

	"github.com/spf13/cobra"
)

// version is the release; a build from a checkout adds its revision.
const version = "0.1.0"

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  cobra.NoArgs,
		Run: func(cmd *cobra.Command, _ []string) {
			revision := ""
			if info, ok := debug.ReadBuildInfo(); ok {
				for _, s := range info.Settings {
					if s.Key == "vcs.revision" {
						revision = " (" + s.Value[:min(12, len(s.Value))] + ")"
					}
				}
			}
			fmt.Fprintf(cmd.OutOrStdout(), "tornister %s%s\n", version, revision)
		},
	}
}
