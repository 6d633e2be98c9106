package main

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"tornister/bundle"
	"tornister/bundle/dates"
	"tornister/bundle/sheet"
	"tornister/core/unit"
	"tornister/store"
)

// databaseFlag adds the flag that names the database file.
func databaseFlag(cmd *cobra.Command, database *string) {
	cmd.Flags().StringVar(database, "database", "",
		"database file (default: tornister/tornister.db in the user's configuration folder)")
}

// databasePath is the file named, or the usual one.
func databasePath(named string) (string, error) {
	if named != "" {
		return named, nil
	}
	folder, err := os.UserConfigDir()
	if err != nil {
		return "", fmt.Errorf("no place for the database: %w; name one with --database", err)
	}
	return filepath.Join(folder, "tornister", "tornister.db"), nil
}

// openDatabase opens the file named, or the usual one, making its folder when it is new.
func openDatabase(named string) (*store.Store, string, error) { return openWith(named, store.Open) }

// openForReading does the same for what changes nothing, also where the database is write-protected.
func openForReading(named string) (*store.Store, string, error) {
	return openWith(named, store.OpenReading)
}

func openWith(named string, open func(string) (*store.Store, error)) (*store.Store, string, error) {
	path, err := databasePath(named)
	if err != nil {
		return nil, "", err
	}
	if err := store.Folder(filepath.Dir(path)); err != nil {
		return nil, "", fmt.Errorf("no place for the database: %w", err)
	}
	kept, err := open(path)
	return kept, path, err
}

func importCommand() *cobra.Command {
	var database, name string
	var without bool
	cmd := &cobra.Command{
		Use:   "import FILE...",
		Short: "Bring bundles, or kit lists as CSV or XLSX, into the database",
		Long: "A bundle becomes a trip. A kit list goes on the shelf, its columns taken as their headings say; rows that\n" +
			"cannot be read are named on standard error and nothing is brought in, unless --without-unreadable is given.\n" +
			"All files are brought in, or none.",
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			type list struct {
				name    string
				objects []map[string]any
			}
			var bundles []*bundle.Bundle
			var lists []list
			for _, file := range args { // everything is read before anything is kept
				data, err := readLimited(cmd, file)
				if err != nil {
					return &exit{exitBadArgs, fmt.Sprintf("%s: %v", file, err)}
				}
				if trimmed := bytes.TrimSpace(data); len(trimmed) > 0 && trimmed[0] == '{' {
					b, err := bundle.Read(data)
					if err != nil {
						return &exit{exitBadArgs, fmt.Sprintf("%s is not a usable bundle.\n%v", file, err)}
					}
					bundles = append(bundles, b)
					continue
				}
				objects, err := listOf(cmd, file, data, name, without)
				if err != nil {
					return err
				}
				lists = append(lists, list{file, objects})
			}
			kept, path, err := openDatabase(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			var objects []map[string]any
			for _, l := range lists {
				objects = append(objects, l.objects...)
			}
			docs := make([]bundle.Doc, len(bundles))
			for i, b := range bundles {
				docs[i] = b.Doc
			}
			if err := kept.Import(cmd.Context(), docs, objects); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Brought in %d trips and %d things into %s.\n", len(docs), len(objects), path)
			return nil
		},
	}
	databaseFlag(cmd, &database)
	cmd.Flags().StringVar(&name, "sheet", "", "the sheet of an XLSX file (default: the first with something in it)")
	cmd.Flags().BoolVar(&without, "without-unreadable", false, "leave out rows that cannot be read")
	return cmd
}

// listOf reads a kit list; rows that cannot be read are named.
func listOf(cmd *cobra.Command, file string, data []byte, name string, without bool) ([]map[string]any, error) {
	table, err := sheet.Read(data, name)
	if err != nil {
		return nil, &exit{exitBadArgs, fmt.Sprintf("%s is neither a bundle nor a kit list: %v", file, err)}
	}
	var objects []map[string]any
	var refused []string
	for _, row := range sheet.Items(table, sheet.Propose(table)) {
		if row.Item == nil {
			refused = append(refused, fmt.Sprintf("%s, row %d: %s", file, row.Line, row.Reason))
			continue
		}
		objects = append(objects, row.Item)
	}
	if len(refused) > 0 && !without {
		return nil, &exit{exitBadArgs,
			strings.Join(refused, "\n") + "\nNothing was brought in. Mend these rows, or give --without-unreadable."}
	}
	for _, line := range refused {
		fmt.Fprintln(cmd.ErrOrStderr(), "left out:", line)
	}
	return objects, nil
}

func exportCommand() *cobra.Command {
	var database, format, out, units string
	var trip uint
	cmd := &cobra.Command{
		Use:   "export",
		Short: "Write a trip as a bundle, its kit list as CSV or XLSX, or dates as a calendar",
		Long:  "Without --trip, lists the trips. The formats: json (bundle), csv, xlsx, ics.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if !slices.Contains([]string{"json", "csv", "xlsx", "ics"}, format) {
				return &exit{exitBadArgs, fmt.Sprintf("--format %s: give one of json, csv, xlsx, ics", format)}
			}
			kept, _, err := openForReading(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			if trip == 0 {
				trips, err := kept.Trips(cmd.Context())
				for _, t := range trips {
					fmt.Fprintf(cmd.OutOrStdout(), "%d\t%s\t%s\t%d lines\n", t.ID, bundle.Plain(t.Name), bundle.Plain(t.Pack),
						t.Things)
				}
				return err
			}
			state, err := kept.Trip(cmd.Context(), trip)
			if errors.Is(err, store.ErrNotFound) {
				return &exit{exitBadArgs, fmt.Sprintf("--trip %d: there is no such trip; export without --trip lists them", trip)}
			}
			if err != nil {
				return err
			}
			write := func(w io.Writer) error { return writeTrip(w, state, format, unit.System(units)) }
			if out == "" || out == "-" {
				return write(cmd.OutOrStdout())
			}
			return writeFile(out, write)
		},
	}
	databaseFlag(cmd, &database)
	cmd.Flags().UintVar(&trip, "trip", 0, "number of the trip")
	cmd.Flags().StringVar(&format, "format", "json", "json, csv, xlsx or ics")
	cmd.Flags().StringVarP(&out, "out", "o", "", "file to write (default: standard output)")
	cmd.Flags().StringVar(&units, "units", string(unit.Metric), "units of a kit list: metric or customary")
	return cmd
}

func writeTrip(w io.Writer, state *store.State, format string, units unit.System) error {
	if format == "json" {
		text, err := state.Doc.JSON()
		if err != nil {
			return err
		}
		_, err = w.Write(text)
		return err
	}
	b, err := bundle.FromDoc(state.Doc)
	if err != nil {
		return err
	}
	switch format {
	case "csv":
		return sheet.WriteCSV(w, b.Task.Items, units)
	case "xlsx":
		return sheet.WriteXLSX(w, b.Task.Items, units)
	}
	var list []dates.Dated
	for i := range b.Task.Items {
		if it := &b.Task.Items[i]; it.Expires != "" {
			list = append(list, dates.Dated{Key: fmt.Sprintf("trip-%d-%s", state.ID, it.ID), Name: it.Name, Day: it.Expires,
				Note: "On the list of " + state.Doc.Name()})
		}
	}
	return dates.Write(w, list, time.Now().UTC())
}

func backupCommand() *cobra.Command {
	var database string
	cmd := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write the whole database into a new file",
		Args:  oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			kept, path, err := openForReading(database)
			if err != nil {
				return err
			}
			defer kept.Close()
			if err := kept.Backup(cmd.Context(), args[0]); err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s is kept in %s.\n", path, args[0])
			return nil
		},
	}
	databaseFlag(cmd, &database)
	return cmd
}

func restoreCommand() *cobra.Command {
	var database string
	cmd := &cobra.Command{
		Use:   "restore FILE",
		Short: "Put a backup in the place of the database, keeping what is there; stop serve first",
		Args:  oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			path, err := databasePath(database)
			if err != nil {
				return err
			}
			before, err := store.Restore(cmd.Context(), args[0], path)
			if errors.Is(err, store.ErrBackup) || errors.Is(err, os.ErrNotExist) {
				return &exit{exitBadArgs, fmt.Sprintf("%s: %v. Nothing was changed.", args[0], err)}
			}
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s is restored from %s.\n", path, args[0])
			if before != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "What was there is kept in %s.\n", before)
			}
			return nil
		},
	}
	databaseFlag(cmd, &database)
	return cmd
}
