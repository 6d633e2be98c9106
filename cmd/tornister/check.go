package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"tornister/core/kit"
)

func checkCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "check FILE",
		Short: "Check a bundle without planning it, and list what would be assumed",
		Args:  oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			out := cmd.OutOrStdout()
			fmt.Fprintf(out, "%s: good. %d lines, %d things to pack, %d zones.\n", args[0], len(b.Task.Items),
				len(kit.Pieces(b.Task.Items, kit.Pack)), len(b.Task.Pack.Zones))
			for _, a := range b.Assumed {
				fmt.Fprintf(out, "assumed %s\n", a)
			}
			return nil
		},
	}
}
