package main

import (
	"time"

	"github.com/spf13/cobra"

	"tornister/core/load"
	"tornister/core/shrink"
	"tornister/core/unit"
	"tornister/words"
)

// shrinkSeconds is the time that a search for moves has when nothing else is asked for.
const shrinkSeconds = 1.7

// shrinkAnswer is what the command prints.
type shrinkAnswer struct {
	Format    string      `json:"format"`
	Fits      bool        `json:"fits"`   // as it is
	Enough    bool        `json:"enough"` // after the set
	NeedL     float64     `json:"need_l"`
	SavedL    float64     `json:"saved_l"`
	SavedG    float64     `json:"saved_g"`
	Cost      float64     `json:"cost"`
	Proven    bool        `json:"proven"`
	CutShort  bool        `json:"cut_short,omitempty"` // the clock ended the search
	Objective float64     `json:"objective"`           // optimum of the program: cost, less 1e-7 for each gram saved, of set and spared
	ShortL    float64     `json:"short_l,omitempty"`
	Set       []shrinkRow `json:"set"`
	Spared    []shrinkRow `json:"spared"` // in the optimum, and not needed by the trial packing
	Moves     []shrinkRow `json:"moves"`
}

type shrinkRow struct {
	Move   string  `json:"move"`
	Text   string  `json:"text"`
	Why    string  `json:"why"`
	Litres float64 `json:"litres"`
	Grams  float64 `json:"grams"`
	Cost   float64 `json:"cost"`
}

func shrinkRows(moves []shrink.Move) []shrinkRow {
	rows := []shrinkRow{}
	for _, m := range moves {
		rows = append(rows, shrinkRow{m.Key(), words.Say(m.What, unit.Metric), words.Say(m.Why, unit.Metric), m.Litres,
			m.Grams, m.Cost})
	}
	return rows
}

func shrinkCommand() *cobra.Command {
	var lp string
	var seconds float64
	cmd := &cobra.Command{
		Use:   "shrink FILE",
		Short: "Find the least-cost set of moves that makes a kit fit its pack",
		Long: "Reads a bundle (- for standard input) and writes, as JSON, every move that would make it smaller and the\n" +
			"cheapest set after which the trial packing takes it. Exit 0: it fits, or there is such a set. 3: there is none,\n" +
			"or none was found in the time given: the answer says cut_short then.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			start := time.Now()
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			options := load.Options{Seed: 1, Quick: true, Stop: clock(start, seconds)}
			plan := load.Make(&b.Task, options)
			found := shrink.Fit(&b.Task, plan, nil, options)
			if lp != "" {
				if err := writeFile(lp, found.Program.WriteLP); err != nil {
					return err
				}
			}
			err = writeJSON(cmd.OutOrStdout(),
				shrinkAnswer{Format: "tornister-shrink", Fits: plan.Fits(), Enough: found.Enough, NeedL: found.Program.NeedL,
					SavedL: found.Set.Litres, SavedG: found.Set.Grams, Cost: found.Set.Cost, Proven: found.Set.Proven,
					CutShort: found.CutShort, Objective: found.Objective(), ShortL: found.ShortL,
					Set: shrinkRows(found.Set.Moves), Spared: shrinkRows(found.Spared), Moves: shrinkRows(found.Program.Moves)})
			if err == nil && !found.Enough {
				return &exit{code: exitNoFit}
			}
			return err
		},
	}
	cmd.Flags().Float64Var(&seconds, "seconds", shrinkSeconds,
		"end the search after so many seconds (0: its own budget ends it)")
	cmd.Flags().StringVar(&lp, "lp", "", "write the choice of moves as a program in CPLEX LP format to this file")
	return cmd
}
