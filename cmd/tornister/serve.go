package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"tornister/bundle"
	"tornister/demo"
	"tornister/standin/forecast"
	"tornister/store"
	"tornister/weather"
	"tornister/web"
)

func serveCommand() *cobra.Command {
	var address, database, forecasts string
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the interface from a database file",
		Long: "Serves the interface on a loopback address; everything entered stays in one file on this machine.\n" +
			"Another address can be named with --address: then anybody who reaches it can read and change the trips.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			kept, path, err := openDatabase(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			fmt.Fprintf(cmd.OutOrStdout(), "Kept in %s\n", path)
			return serve(cmd, kept, address, forecasts)
		},
	}
	cmd.Flags().StringVar(&forecasts, "forecast", "http://"+forecastAddress, "address of the forecast service; empty asks nobody")
	cmd.Flags().StringVar(&address, "address", "127.0.0.1:7352", "address to listen on; port 0 takes a free one")
	databaseFlag(cmd, &database)
	return cmd
}

func demoCommand() *cobra.Command {
	var address string
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve the interface with the Orlava demo data in a throwaway database",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			folder, err := os.MkdirTemp("", "tornister-demo-")
			if err != nil {
				return fmt.Errorf("no place for the throwaway database: %w", err)
			}
			defer os.RemoveAll(folder)
			kept, err := store.Open(filepath.Join(folder, "demo.db"))
			if err != nil {
				return err
			}
			defer kept.Close()
			for _, text := range demo.Trips {
				b, err := bundle.Read(text)
				if err != nil {
					return fmt.Errorf("demo data: %w", err)
				}
				if _, err := kept.Create(cmd.Context(), b.Doc); err != nil {
					return fmt.Errorf("demo data: %w", err)
				}
			}
			listener, err := net.Listen("tcp", "127.0.0.1:0")
			if err != nil {
				return fmt.Errorf("no place for the simulated forecast service: %w", err)
			}
			defer listener.Close()
			go func() { _ = forecastServer(forecast.Fine).Serve(listener) }()
			return serve(cmd, kept, address, "http://"+listener.Addr().String())
		},
	}
	cmd.Flags().StringVar(&address, "address", "127.0.0.1:0", "address to listen on; port 0 takes a free one")
	return cmd
}

// serve answers requests for the interface.
func serve(cmd *cobra.Command, kept *store.Store, address, forecasts string) error {
	handler, err := web.New(kept, weather.Service{URL: strings.TrimSuffix(forecasts, "/")})
	if err != nil {
		return err
	}
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w; name another with --address", address, err)
	}
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second, MaxHeaderBytes: 64 << 10}
	fmt.Fprintf(cmd.OutOrStdout(), "Tornister is at http://%s/\nStop it with Ctrl-C.\n", listener.Addr())

	defer handler.Close()
	return untilStopped(cmd, server, listener)
}

// untilStopped answers requests until the program is told to stop, then lets those under way finish.
func untilStopped(cmd *cobra.Command, server *http.Server, listener net.Listener) error {
	stop, cancel := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
	defer cancel()
	failed := make(chan error, 1)
	go func() { failed <- server.Serve(listener) }()
	select {
	case err := <-failed:
		return err
	case <-stop.Done():
	}
	finish, cancelFinish := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancelFinish()
	if err := server.Shutdown(finish); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}
