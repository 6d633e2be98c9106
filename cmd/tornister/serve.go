package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"tornister/demo/seed"
	"tornister/hook"
	"tornister/planner"
	"tornister/standin/forecast"
	"tornister/store"
	"tornister/weather"
	"tornister/web"
)

// service is how the interface is served.
type service struct {
	address, forecasts string
	scale              string
	simulated          bool // the scale is the stand-in
	hosts              []string
	open               bool
	tls                bool
	certificate, key   string // files of a certificate of one's own
	warm               bool   // trips are planned before anybody asks
	cards              string // where links to load cards are served; "" for nowhere
	cardsPlain         bool   // without encryption
	log                string
}

func serveCommand() *cobra.Command {
	var database string
	s := &service{}
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the interface from a database file",
		Long: "Serves the interface on a loopback address; everything entered stays in one file on this machine.\n" +
			"On another address it is served only with a password (tornister password) or, knowingly, to everybody with --open.\n" +
			"--tls encrypts with a certificate made here; --certificate and --key name one that was given.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			path, err := databasePath(database)
			if err != nil {
				return err
			}
			options, err := s.options(path)
			if err != nil {
				return err
			}
			kept, path, err := openDatabase(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			fmt.Fprintf(cmd.OutOrStdout(), "Kept in %s\n", path)
			stop := keepDaily(cmd, kept)
			defer stop()
			return s.serve(cmd, kept, options)
		},
	}
	s.flags(cmd, "127.0.0.1:7352", "requests")
	cmd.Flags().StringVar(&s.scale, "scale", "", "address of a hanging scale that serves its samples; empty asks none")
	cmd.Flags().StringVar(&s.forecasts, "forecast", "http://"+forecastAddress,
		"address of the forecast service; empty asks nobody")
	cmd.Flags().BoolVar(&s.open, "open", false,
		"ask nobody for a password, also on a network: whoever reaches it can read and change everything")
	cmd.Flags().BoolVar(&s.tls, "tls", false, "encrypt, with a certificate made here and kept beside the database")
	cmd.Flags().StringVar(&s.certificate, "certificate", "", "encrypt with this certificate (PEM)")
	cmd.Flags().StringVar(&s.key, "key", "", "key of the certificate (PEM)")
	databaseFlag(cmd, &database)
	return cmd
}

func (s *service) flags(cmd *cobra.Command, address, log string) {
	cmd.Flags().StringVar(&s.address, "address", address, "address to listen on; port 0 takes a free one")
	cmd.Flags().StringVar(&s.cards, "cards", "",
		"serve links to load cards, and nothing else, on this address of the local network: host:port; encrypted with a certificate made here")
	cmd.Flags().BoolVar(&s.cardsPlain, "cards-plain", false,
		"serve the links without encryption: who listens on the network can read them")
	cmd.Flags().StringSliceVar(&s.hosts, "host", nil, "another name that it is asked for under; may be repeated")
	cmd.Flags().StringVar(&s.log, "log", log, "what goes to standard error: requests, errors or nothing")
}

// logger writes to standard error what was asked for.
func (s *service) logger(w io.Writer) (*slog.Logger, error) {
	levels := map[string]slog.Level{"requests": slog.LevelInfo, "errors": slog.LevelWarn}
	level, known := levels[s.log]
	switch {
	case s.log == "nothing":
		return slog.New(slog.DiscardHandler), nil
	case !known:
		return nil, &exit{exitBadArgs, fmt.Sprintf("--log %s: give requests, errors or nothing", s.log)}
	}
	return slog.New(slog.NewTextHandler(w, &slog.HandlerOptions{Level: level})), nil
}

// options decides who may come in. An address that others can reach needs a password, or an explicit word that it
// needs none.
func (s *service) options(database string) (web.Options, error) {
	o := web.Options{Secure: s.tls || s.certificate != "", Hosts: lowered(s.hosts)}
	if (s.certificate == "") != (s.key == "") {
		return o, &exit{exitBadArgs, "--certificate and --key belong together: give both"}
	}
	hash, err := readPassword(database)
	if err != nil {
		return o, err
	}
	o.Password = hash
	host, _, err := net.SplitHostPort(s.address)
	if err != nil {
		return o, &exit{exitBadArgs, fmt.Sprintf("--address %s: give host:port, such as 127.0.0.1:7352", s.address)}
	}
	away := !loopback(host)
	switch {
	case s.open && hash != nil:
		return o, &exit{exitBadArgs,
			"--open asks nobody for a password, but one is set; leave --open out, or take the password away with: tornister password --remove"}
	case away && hash == nil && !s.open:
		return o, &exit{exitBadArgs,
			fmt.Sprintf("--address %s can be reached from other machines, and no password is set: whoever reaches it could read and change everything.\n"+
				"Set one with: tornister password\nOr serve it to everybody, knowingly, with --open.", s.address)}
	}
	o.Open = away && s.open
	if away {
		o.Hosts = append(o.Hosts, namesOf(host)...)
	}
	return o, nil
}

func lowered(names []string) (list []string) {
	for _, n := range names {
		list = append(list, strings.ToLower(n))
	}
	return list
}

func loopback(host string) bool {
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// namesOf are the names and addresses under which a listening address is reached: its own, or all of this machine.
func namesOf(host string) []string {
	ip := net.ParseIP(host)
	if host != "" && (ip == nil || !ip.IsUnspecified()) {
		return []string{strings.ToLower(host)}
	}
	var list []string
	if name, err := os.Hostname(); err == nil {
		list = append(list, strings.ToLower(name), strings.ToLower(name)+".local")
	}
	addresses, _ := net.InterfaceAddrs()
	for _, a := range addresses {
		if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && !n.IP.IsLinkLocalUnicast() {
			list = append(list, n.IP.String())
		}
	}
	return list
}

// keepDaily keeps a copy of the database for each day, until it is stopped. A copy that could not be kept is said and
// tried again.
func keepDaily(cmd *cobra.Command, kept *store.Store) (stop func()) {
	ctx, cancel := context.WithCancel(cmd.Context())
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		tick := time.NewTicker(time.Hour)
		defer tick.Stop()
		for {
			if err := kept.Daily(ctx); err != nil && ctx.Err() == nil {
				fmt.Fprintf(cmd.ErrOrStderr(), "No copy of the database was kept for today: %v\n", err)
			}
			select {
			case <-tick.C:
			case <-ctx.Done():
				return
			}
		}
	}()
	return func() { cancel(); <-ended }
}

func demoCommand() *cobra.Command {
	s := &service{}
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
			database := filepath.Join(folder, "demo.db")
			options, err := s.options(database)
			if err != nil {
				return err
			}
			kept, err := store.Open(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			if err := seed.Fill(cmd.Context(), kept); err != nil {
				return err
			}
			listener, err := net.Listen("tcp", "127.0.0.1:0")
			if err != nil {
				return fmt.Errorf("no place for the simulated forecast service: %w", err)
			}
			defer listener.Close()
			go func() { _ = forecastServer(forecast.Fine).Serve(listener) }()
			s.forecasts, s.warm = "http://"+listener.Addr().String(), true
			hanging, err := net.Listen("tcp", "127.0.0.1:0")
			if err != nil {
				return fmt.Errorf("no place for the simulated scale: %w", err)
			}
			defer hanging.Close()
			go func() { _ = scaleServer().Serve(hanging) }()
			s.scale, s.simulated = "http://"+hanging.Addr().String(), true
			return s.serve(cmd, kept, options)
		},
	}
	s.flags(cmd, "127.0.0.1:0", "errors")
	return cmd
}

// serve answers requests for the interface.
func (s *service) serve(cmd *cobra.Command, kept *store.Store, options web.Options) error {
	log, err := s.logger(cmd.ErrOrStderr())
	if err != nil {
		return err
	}
	options.Log = log
	options.Planner.First = planner.AtOnce
	options.Scale = hook.Service{URL: strings.TrimSuffix(s.scale, "/"), Simulated: s.simulated}
	slog.SetDefault(log)
	cards, err := s.listenForCards(kept.Path(), &options)
	if err != nil {
		return err
	}
	handler, err := web.New(kept, weather.Service{URL: strings.TrimSuffix(s.forecasts, "/")}, options)
	if err != nil {
		return err
	}
	defer handler.Close()
	if s.warm {
		handler.Warm()
	}
	listener, err := net.Listen("tcp", s.address)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w; name another with --address", s.address, err)
	}
	defer listener.Close()
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second,
		WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute,
		MaxHeaderBytes: 64 << 10, ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn)}
	out, scheme := cmd.OutOrStdout(), "http"
	if options.Secure {
		scheme = "https"
		pair, own, err := s.keyPair(kept.Path(), options.Hosts)
		if err != nil {
			return err
		}
		server.TLSConfig = &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12}
		if own {
			fmt.Fprintf(out, "The certificate was made here, so browsers warn once. Its SHA-256 fingerprint: %s\n",
				fingerprint(pair))
		}
		listener = tls.NewListener(listener, server.TLSConfig)
	}
	for i, address := range openable(listener.Addr().String(), options.Hosts) {
		fmt.Fprintf(out, "%s %s://%s/\n", []string{"Tornister is at", "          or at"}[min(i, 1)], scheme, address)
	}
	switch {
	case options.Open:
		fmt.Fprintln(out, "WARNING: it is open to everybody who reaches this machine; no password is asked for.")
	case len(options.Password) > 0 && !options.Secure && !loopbackOnly(listener):
		fmt.Fprintln(out, "WARNING: the password travels unencrypted over the network; --tls encrypts.")
	}
	if cards != nil {
		defer cards.Close()
		server := &http.Server{Handler: handler.Cards(), ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 15 * time.Second,
			WriteTimeout: 30 * time.Second, IdleTimeout: time.Minute, MaxHeaderBytes: 16 << 10,
			ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn)}
		defer server.Close()
		go func() { _ = server.Serve(cards) }()
		fmt.Fprintf(out, "Links to load cards are served at %s\n", options.CardsAt)
	}
	fmt.Fprintln(out, "Stop it with Ctrl-C.")
	return untilStopped(cmd, server, listener)
}

// listenForCards listens where links to load cards are served, and notes their address; nil when they are not.
func (s *service) listenForCards(database string, options *web.Options) (net.Listener, error) {
	if s.cards == "" {
		return nil, nil
	}
	host, _, err := net.SplitHostPort(s.cards)
	if err != nil {
		return nil, &exit{exitBadArgs, fmt.Sprintf("--cards %s: give host:port, such as 0.0.0.0:7353", s.cards)}
	}
	listener, err := net.Listen("tcp", s.cards)
	if err != nil {
		return nil, fmt.Errorf("cannot listen on %s: %w; name another with --cards", s.cards, err)
	}
	names := namesOf(host)
	at := openable(listener.Addr().String(), names)
	scheme := "https"
	if s.cardsPlain {
		scheme = "http"
	} else {
		pair, _, err := s.keyPair(database, names)
		if err != nil {
			listener.Close()
			return nil, err
		}
		listener = tls.NewListener(listener, &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12})
	}
	options.CardsAt = scheme + "://" + at[len(at)-1]
	return listener, nil
}

func loopbackOnly(l net.Listener) bool {
	host, _, err := net.SplitHostPort(l.Addr().String())
	return err == nil && loopback(host)
}

// openable turns the address that is listened on into those that a browser can open, the one for this machine first.
func openable(address string, hosts []string) []string {
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return []string{address}
	}
	if ip := net.ParseIP(host); ip == nil || !ip.IsUnspecified() {
		return []string{address}
	}
	list := []string{net.JoinHostPort("127.0.0.1", port)}
	for _, h := range hosts {
		if a := net.JoinHostPort(h, port); net.ParseIP(h) != nil && !slices.Contains(list, a) {
			list = append(list, a)
		}
	}
	return list
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
