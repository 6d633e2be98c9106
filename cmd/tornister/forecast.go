package main

import (
	"fmt"
	"net"
	"net/http"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"tornister/standin/forecast"
)

// forecastAddress is where the simulated service listens and where serve asks.
const forecastAddress = "127.0.0.1:7353"

func forecastServer(mode forecast.Mode) *http.Server {
	return &http.Server{Handler: forecast.New(mode, time.Now), ReadHeaderTimeout: 5 * time.Second,
		MaxHeaderBytes: 16 << 10}
}

func forecastCommand() *cobra.Command {
	var address, mode string
	cmd := &cobra.Command{
		Use:   "forecast",
		Short: "Simulate a forecast service for the made-up Orlava Plateau",
		Long:  "Serves made-up weather as JSON: GET /forecast?place=Orlava&from=2026-09-10&days=4.\nThe modes refused, slow and broken let it fail as real services do.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if !slices.Contains(forecast.Modes, forecast.Mode(mode)) {
				return &exit{exitBadArgs, fmt.Sprintf("--mode %s: give one of %v", mode, forecast.Modes)}
			}
			listener, err := net.Listen("tcp", address)
			if err != nil {
				return fmt.Errorf("cannot listen on %s: %w; name another with --address", address, err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "The forecast service is at http://%s/forecast, mode %s.\nStop it with Ctrl-C.\n",
				listener.Addr(), mode)
			return untilStopped(cmd, forecastServer(forecast.Mode(mode)), listener)
		},
	}
	cmd.Flags().StringVar(&address, "address", forecastAddress, "address to listen on; port 0 takes a free one")
	cmd.Flags().StringVar(&mode, "mode", string(forecast.Fine), "fine, refused, slow or broken")
	return cmd
}
