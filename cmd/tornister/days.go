package main

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"tornister/core/days"
	"tornister/core/load"
	"tornister/core/verdict"
)

// stopTold is a stop of a trip in the open format.
type stopTold struct {
	Kind     days.Kind          `json:"kind"`
	Day      int                `json:"day"`
	Leg      int                `json:"leg,omitempty"`
	Place    string             `json:"place,omitempty"`
	MassG    float64            `json:"mass_g"`
	Carried  map[string]float64 `json:"carried_g"`
	Eaten    float64            `json:"eaten_g,omitempty"`
	Burned   float64            `json:"burned_g,omitempty"`
	Drunk    float64            `json:"drunk_g,omitempty"`
	Filled   float64            `json:"filled_g,omitempty"`
	Bought   float64            `json:"bought_g,omitempty"`
	Dried    float64            `json:"dried_g,omitempty"`
	Left     []string           `json:"left,omitempty"`
	Taken    []string           `json:"taken,omitempty"`
	Hungry   int                `json:"meals_without_food,omitempty"`
	ShortL   float64            `json:"water_short_l,omitempty"`
	Fits     bool               `json:"fits"`
	Squeeze  float64            `json:"squeeze"`
	FillCm   float64            `json:"fill_cm"`
	CentreCm [3]float64         `json:"centre_cm"`
	LeanDeg  float64            `json:"lean_deg"`
	NextW    float64            `json:"next_leg_w,omitempty"`
	Checks   map[string]string  `json:"checks"`
	Moves    []moveTold         `json:"moves"`
}

type moveTold struct {
	Item string `json:"item"`
	From string `json:"from"`
	To   string `json:"to"`
}

// stopsTold are all of them, and which is the hardest for each check, counted from 0.
type stopsTold struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Stops   []stopTold     `json:"stops"`
	Hardest map[string]int `json:"hardest"`
}

// daysCommand plans a trip stop by stop.
func daysCommand() *cobra.Command {
	var ifs []string
	var seed int64
	cmd := &cobra.Command{
		Use:   "days FILE",
		Short: "Plan a trip stop by stop: what is left, how it is packed, what to move",
		Long: "Reads a bundle (- for standard input) and writes its stops as JSON to standard output. --if changes the trip for\n" +
			"trial: rain, full, companion, night (one more), dry=LEG for a source that has run dry, or shut=LEG for a shop.\n" +
			"Exit 0: the pack closes at every stop. 3: it does not. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			whatIf, err := whatIfOf(ifs, len(b.Task.Trip.Legs))
			if err != nil {
				return err
			}
			stops := days.Stops(&b.Task, whatIf, nil, load.Options{Seed: seed, Quick: true})
			if err := writeJSON(cmd.OutOrStdout(), toldOf(stops)); err != nil {
				return err
			}
			for i := range stops {
				if !stops[i].Judged.Plan.Fits() {
					return &exit{code: exitNoFit}
				}
			}
			return nil
		},
	}
	cmd.Flags().StringArrayVar(&ifs, "if", nil,
		"what if: rain, full, companion, night, dry=LEG or shut=LEG; may be repeated")
	cmd.Flags().Int64Var(&seed, "seed", 1, "seed of the search; the same seed gives the same plan")
	return cmd
}

func whatIfOf(ifs []string, legs int) (w days.WhatIf, err error) {
	for _, word := range ifs {
		what, leg, _ := strings.Cut(word, "=")
		n, notNumber := strconv.Atoi(leg)
		known := notNumber == nil && n >= 1 && n <= legs
		switch {
		case word == "rain":
			w.Rain = true
		case word == "full":
			w.Full = true
		case word == "companion":
			w.Companion = true
		case word == "night":
			w.Night = true
		case what == "dry" && known:
			w.Dry = append(w.Dry, n)
		case what == "shut" && known:
			w.Shut = append(w.Shut, n)
		default:
			return w, &exit{exitBadArgs,
				fmt.Sprintf("--if %s: give rain, full, companion, night, dry=LEG or shut=LEG with a leg from 1 to %d", word, legs)}
		}
	}
	return w, nil
}

func toldOf(stops []days.Stop) stopsTold {
	told := stopsTold{Format: "tornister-days", Version: 1, Hardest: map[string]int{}}
	for i := range stops {
		s := &stops[i]
		j := s.Judged
		one := stopTold{Kind: s.Kind, Day: s.Day, Leg: s.Leg, Place: s.Place, MassG: j.Balance.MassG, Eaten: s.Eaten,
			Burned: s.Burned, Drunk: s.Drunk, Filled: s.Filled, Bought: s.Bought, Dried: s.Dried,
			Left: s.Left, Taken: s.Taken, Hungry: s.Hungry,
			ShortL: s.Short,
			Carried: map[string]float64{"base": s.Have.Base, "food": s.Have.Food, "fuel": s.Have.Fuel, "water": s.Have.Water,
				"wet": s.Have.Wet, "rubbish": s.Have.Rubbish},
			Fits: j.Plan.Fits(), Squeeze: j.Plan.Squeeze, FillCm: j.Plan.FillCm, CentreCm: j.Balance.CentreCm,
			LeanDeg: j.Balance.LeanDeg, NextW: s.NextW, Checks: map[string]string{}, Moves: []moveTold{}}
		for _, name := range verdict.Names {
			one.Checks[name] = string(j.Check(name).State)
		}
		for _, m := range s.Moves {
			one.Moves = append(one.Moves, moveTold{m.Item, m.From, m.To})
		}
		told.Stops = append(told.Stops, one)
	}
	for _, name := range verdict.Names {
		told.Hardest[name] = days.Hardest(stops, name)
	}
	return told
}
