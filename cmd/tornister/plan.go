package main

import (
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"tornister/bundle"
	"tornister/core/method"
	"tornister/core/unit"
	"tornister/core/verdict"
)

func planCommand() *cobra.Command {
	var methods []string
	var text bool
	var units string
	cmd := &cobra.Command{
		Use:   "plan FILE",
		Short: "Plan a bundle and write the answer as JSON (or as a load card with --text)",
		Long: "Reads a bundle (- for standard input) and writes the plan to standard output.\n" +
			"Exit 0: it fits. 3: it does not fit. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			start := time.Now()
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			if err := setMethods(b, methods); err != nil {
				return err
			}
			answer, _ := verdict.Of(&b.Task, b.Assumed)
			answer.Verdict.Seconds = float64(time.Since(start).Microseconds()) / 1e6
			if text {
				err = verdict.Card(cmd.OutOrStdout(), &b.Task, answer, unit.System(units))
			} else {
				err = writeJSON(cmd.OutOrStdout(), answer)
			}
			if err == nil && !answer.Verdict.Fits {
				return &exit{code: exitNoFit}
			}
			return err
		},
	}
	cmd.Flags().StringArrayVar(&methods, "method", nil, "choose a school, as key=value; may be repeated")
	cmd.Flags().BoolVar(&text, "text", false, "write the load card in words")
	cmd.Flags().StringVar(&units, "units", string(unit.Metric), "units of the load card: metric or customary")
	return cmd
}

// setMethods applies --method key=value and takes what was chosen out of the assumptions.
func setMethods(b *bundle.Bundle, choices []string) error {
	for _, choice := range choices {
		key, value, _ := strings.Cut(choice, "=")
		if !b.Task.Method.Set(key, value) {
			return &exit{exitBadArgs, fmt.Sprintf("--method %s: %s", choice, methodHelp(key))}
		}
		b.Assumed = slices.DeleteFunc(b.Assumed, func(a string) bool { return strings.HasPrefix(a, "/method/"+key+":") })
	}
	return nil
}

func methodHelp(key string) string {
	var keys []string
	for _, q := range method.Questions {
		keys = append(keys, q.Key)
		if q.Key != key {
			continue
		}
		var values []string
		for _, a := range q.Answers {
			values = append(values, a.Value)
		}
		return "give one of " + strings.Join(values, ", ")
	}
	return "give key=value with a key out of " + strings.Join(keys, ", ")
}

func writeJSON(w io.Writer, v any) error {
	encoder := json.NewEncoder(w)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	return encoder.Encode(v)
}
