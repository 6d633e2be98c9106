package main

import (
	"fmt"
	"net"
	"net/http"
	"time"

	"github.com/spf13/cobra"

	"tornister/standin/scale"
)

// scaleAddress is where the simulated scale listens.
const scaleAddress = "127.0.0.1:7354"

func scaleServer() *http.Server {
	return &http.Server{Handler: scale.New(scale.Every), ReadHeaderTimeout: 5 * time.Second, MaxHeaderBytes: 16 << 10}
}

func scaleCommand() *cobra.Command {
	var address string
	cmd := &cobra.Command{
		Use:   "scale",
		Short: "Simulate a hanging scale that serves its samples",
		Long: "Serves samples as newline-delimited JSON, ten a second: GET /scale?load=14200. A fault is asked for with\n" +
			"&fault=bad-lift, zero, ground, pounds, overload, silent, rubbish or negative. Point serve --scale at it.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			listener, err := net.Listen("tcp", address)
			if err != nil {
				return fmt.Errorf("cannot listen on %s: %w; name another with --address", address, err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "The scale is at http://%s\nStop it with Ctrl-C.\n", listener.Addr())
			return untilStopped(cmd, scaleServer(), listener)
		},
	}
	cmd.Flags().StringVar(&address, "address", scaleAddress, "address to listen on; port 0 takes a free one")
	return cmd
}
