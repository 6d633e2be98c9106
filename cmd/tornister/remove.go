package main

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"tornister/bundle"
	"tornister/store"
)

func removeCommand() *cobra.Command {
	var database string
	var trip uint
	cmd := &cobra.Command{
		Use:   "remove --trip N",
		Short: "Remove a trip with its list and its history; export without --trip lists them",
		Long:  "Removes a trip without looking at it: one that cannot be shown any more goes as well. What is on the shelf stays,\nand so do copies that were kept before.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			kept, _, err := openDatabase(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			name := ""
			trips, err := kept.Trips(cmd.Context())
			if err != nil {
				return err
			}
			for _, t := range trips {
				if t.ID == trip {
					name = bundle.Plain(t.Name)
				}
			}
			if err := kept.Remove(cmd.Context(), trip, store.AnyVersion); errors.Is(err, store.ErrNotFound) {
				return &exit{
					exitBadArgs,
					fmt.Sprintf("--trip %d: there is no such trip; export without --trip lists them", trip),
				}
			} else if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Removed trip %d, %s.\n", trip, name)
			return nil
		},
	}
	databaseFlag(cmd, &database)
	cmd.Flags().UintVar(&trip, "trip", 0, "number of the trip")
	return cmd
}
