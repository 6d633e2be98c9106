package main

import (
	"github.com/spf13/cobra"

	"tornister/core/weigh"
)

// weighed is what readings say of a list, in the open format.
type weighed struct {
	Format   string        `json:"format"`
	Version  int           `json:"version"`
	Readings []readingTold `json:"readings"`
	Suspects []suspectTold `json:"suspects"`
	Foreign  float64       `json:"foreign_g"` // what list and other readings do not explain; 0 for nothing
	At       *int          `json:"at,omitempty"`
	Gone     int           `json:"readings_of_things_gone,omitempty"`
	ZeroOff  float64       `json:"zero_off_g,omitempty"`
}

type readingTold struct {
	What   any         `json:"what"`
	Scale  weigh.Scale `json:"scale"`
	G      float64     `json:"g"`
	SumG   float64     `json:"sum_g"`
	DiffG  float64     `json:"diff_g"`
	SdG    float64     `json:"sd_g"`
	Errors float64     `json:"errors"`
}

type suspectTold struct {
	Item   string  `json:"item"`
	MassG  float64 `json:"mass_g"`
	MovedG float64 `json:"moved_g"`
	SdG    float64 `json:"sd_g"`
}

// weighCommand sets the weighings of a bundle against its list.
func weighCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "weigh FILE",
		Short: "Set the weighings of a bundle against its list and say whose a difference can be",
		Long: "Reads a bundle (- for standard input) with weighings and writes what they say as JSON to standard output.\n" +
			"Exit 0: scale and list agree. 3: they do not. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			kept := b.Doc.Weighings()
			if len(kept) == 0 {
				return &exit{exitBadArgs, args[0] + ": /weighings: nothing was weighed; give what was on the scale and its grams"}
			}
			v := b.Weighed(0)
			told := weighed{Format: "tornister-weigh", Version: 1, Foreign: v.Foreign, Gone: v.Gone,
				ZeroOff: weigh.ZeroOff(weigh.Hanging, v.Told), Suspects: []suspectTold{}}
			if v.At >= 0 {
				told.At = &v.At
			}
			for i, r := range v.Readings {
				t := v.Told[i]
				told.Readings = append(told.Readings, readingTold{kept[i].What, r.Scale, r.G, t.SumG, t.DiffG, t.SdG, t.Errors()})
			}
			for _, s := range v.Suspects {
				told.Suspects = append(told.Suspects, suspectTold{v.Things[s.Thing].ID, v.Masses.Mean[s.Thing], s.MovedG, s.SdG})
			}
			if err := writeJSON(cmd.OutOrStdout(), told); err != nil {
				return err
			}
			if v.Foreign != 0 {
				return &exit{code: exitNoFit}
			}
			return nil
		},
	}
}
