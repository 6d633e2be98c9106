package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"tornister/store"
)

func doctorCommand() *cobra.Command {
	var database string
	cmd := &cobra.Command{
		Use:   "doctor",
		Short: "Look at the database file and say how it is and what can be done",
		Long:  "Looks without changing anything, also at a file that cannot be opened. Exit 0: all is well. 1: something is not.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			path, err := databasePath(database)
			if err != nil {
				return err
			}
			out, ill := cmd.OutOrStdout(), false
			fmt.Fprintf(out, "%s\n", path)
			for _, f := range store.Examine(cmd.Context(), path) {
				if !f.Bad {
					fmt.Fprintf(out, "  well   %s\n", f.Text)
					continue
				}
				ill = true
				fmt.Fprintf(out, "  ill    %s\n         What can be done: %s.\n", f.Text, f.Mend)
			}
			if ill {
				return &exit{code: exitOther}
			}
			return nil
		},
	}
	databaseFlag(cmd, &database)
	return cmd
}
