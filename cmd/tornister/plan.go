package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"tornister/answer"
	"tornister/bundle"
	"tornister/card"
	"tornister/core/days"
	"tornister/core/load"
	"tornister/core/method"
	"tornister/core/unit"
	"tornister/core/verdict"
)

func planCommand() *cobra.Command {
	var methods []string
	var text bool
	var units string
	var seed int64
	var lp, bagsLP, order string
	var cells, quick bool
	var seconds float64
	var withDays bool
	cmd := &cobra.Command{
		Use:   "plan FILE",
		Short: "Plan a bundle and write the answer as JSON (or as a load card with --text)",
		Long: "Reads a bundle (- for standard input) and writes the plan to standard output. With --order, judges the order in\n" +
			"which a hand has packed instead, and says which changes would help most.\n" +
			"Exit 0: it fits. 3: it does not fit. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			start := time.Now()
			if system := unit.System(units); system != unit.Metric && system != unit.Customary {
				return &exit{exitBadArgs, fmt.Sprintf("--units %s: give metric or customary", units)}
			}
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			if err := setMethods(b, methods); err != nil {
				return err
			}
			if quick && seconds <= 0 && order == "" { // what would help is looked for by its own budget
				seconds = firstSeconds
			}
			options := load.Options{Seed: seed, Quick: quick, Sure: !quick, Stop: clock(start, seconds)}
			judged, hand, err := planOrJudge(cmd, b, order, options, unit.System(units))
			if err != nil {
				return err
			}
			plan, told := judged.Plan, answer.Of(judged, b.Assumed, unit.System(units))
			told.Hand = hand
			told.Seed = seed
			if cells {
				told.Cells = answer.CellsOf(plan)
			}
			if lp != "" {
				if err := writeFile(lp, plan.WriteLP); err != nil {
					return err
				}
			}
			if bagsLP != "" {
				if err := writeFile(bagsLP, judged.Barriers.Program.WriteLP); err != nil {
					return err
				}
			}
			var stops []stopTold
			if withDays {
				stops = toldOf(days.Stops(&b.Task, days.WhatIf{}, judged,
					load.Options{Seed: seed, Quick: true, Stop: options.Stop})).Stops
			}
			told.Verdict.Seconds = float64(time.Since(start).Microseconds()) / 1e6
			if text {
				err = card.Of(b.Doc.Name(), judged, told, unit.System(units)).Text(cmd.OutOrStdout())
			} else {
				err = writeJSON(cmd.OutOrStdout(), struct {
					*answer.Answer
					Stops []stopTold `json:"stops,omitempty"`
				}{told, stops})
			}
			if err == nil && !told.Verdict.Fits {
				return &exit{code: exitNoFit}
			}
			return err
		},
	}
	cmd.Flags().StringArrayVar(&methods, "method", nil, "choose a school, as key=value; may be repeated")
	cmd.Flags().BoolVar(&withDays, "days", false,
		"add the stops of the trip to the answer, as the command days writes them")
	cmd.Flags().BoolVar(&text, "text", false, "write the load card in words")
	cmd.Flags().Int64Var(&seed, "seed", 1, "seed of the search; the same seed gives the same plan")
	cmd.Flags().BoolVar(&cells, "cells", false, "add the cells of the trial packing to the answer")
	cmd.Flags().StringVar(&lp, "lp", "", "write the zone assignment as a program in CPLEX LP format to this file")
	cmd.Flags().StringVar(&bagsLP, "bags-lp", "",
		"write the choice of dry bags as a program in CPLEX LP format to this file")
	cmd.Flags().StringVar(&order, "order", "",
		"judge the order in this file instead of planning one: a list of objects with item and zone, first in first, or an answer")
	cmd.Flags().BoolVar(&quick, "quick", false, "give the first answer: no search for a better order, no confidence")
	cmd.Flags().Float64Var(&seconds, "seconds", 0,
		"cut the search short after so many seconds (0: its own budget ends it)")
	cmd.Flags().StringVar(&units, "units", string(unit.Metric),
		"units of the sentences and the load card: metric or customary")
	return cmd
}

// mostChanges is how many changes of an order are proposed.
const mostChanges = 3

// planOrJudge plans a bundle, or judges the order in a file when one is named.
func planOrJudge(cmd *cobra.Command, b *bundle.Bundle, order string, options load.Options,
	system unit.System) (*verdict.Judged, *answer.Hand, error) {
	if order == "" {
		return verdict.Of(&b.Task, options), nil, nil
	}
	data, err := readLimited(cmd, order)
	if err != nil {
		return nil, nil, &exit{exitBadArgs, fmt.Sprintf("%s: %v", order, err)}
	}
	arrangement, err := bundle.ReadOrder(data, &b.Task)
	if err != nil {
		return nil, nil, &exit{exitBadArgs, fmt.Sprintf("%s is not a usable order.\n%v", order, err)}
	}
	options.Sure = false
	plan := load.Make(&b.Task, options)
	options.Like = plan.Lays()
	now, planned := load.Price(&b.Task, arrangement, options), load.Price(&b.Task, plan.Arrangement(), options)
	changes := load.Advise(&b.Task, arrangement, mostChanges, options)
	return verdict.Judge(&b.Task, now.Plan), answer.HandOf(now, planned.Cost(), changes, &b.Task, system), nil
}

// firstSeconds bounds what is asked for a first answer. Usual kits need a tenth of it.
const firstSeconds = 1.0

// clock ends a search so that the answer is there some seconds after its start, or little later; 0 never does.
func clock(start time.Time, seconds float64) func() bool {
	if seconds <= 0 {
		return nil
	}
	end := start.Add(time.Duration((seconds - min(0.3, seconds/3)) * float64(time.Second)))
	return func() bool { return time.Now().After(end) }
}

// writeFile writes a new file; a file that could not be written whole is an error.
func writeFile(name string, write func(io.Writer) error) error {
	file, err := os.Create(name)
	if err != nil {
		return err
	}
	return errors.Join(write(file), file.Close())
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
		return "give one of " + strings.Join(q.Answers, ", ")
	}
	return "give key=value with a key out of " + strings.Join(keys, ", ")
}

func writeJSON(w io.Writer, v any) error {
	encoder := json.NewEncoder(w)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	return encoder.Encode(v)
}
