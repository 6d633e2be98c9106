package main

import (
	"errors"
	"time"

	"github.com/spf13/cobra"

	"tornister/bundle"
	"tornister/core/party"
	"tornister/words"
)

// shareAnswer is what the command prints.
type shareAnswer struct {
	Format   string            `json:"format"`
	Fits     bool              `json:"fits"`  // every pack takes its share
	Share    float64           `json:"share"` // the largest, of anybody's own limit
	Bound    float64           `json:"bound"` // no sharing has a smaller largest one
	Proven   bool              `json:"proven"`
	CutShort bool              `json:"cut_short,omitempty"`
	Fewest   bool              `json:"fewest_changes"` // proved that none as good changes less
	Changes  int               `json:"changes"`
	Tries    int               `json:"trial_packings"`
	Refused  int               `json:"refused_sets"` // of parts that a pack does not take
	Short    []string          `json:"short"`
	Over     []string          `json:"over"` // the own limit
	Bearers  []shareRow        `json:"bearers"`
	Holder   map[string]string `json:"holder"`
	Stages   []shareStage      `json:"stages"`
}

// shareRow is one bearer.
type shareRow struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	LimitG  float64  `json:"limit_g"`
	OwnG    float64  `json:"own_g"`
	BeforeG float64  `json:"before_g"` // with what was agreed before
	MassG   float64  `json:"mass_g"`
	Share   float64  `json:"share"`
	Parts   []string `json:"parts"`
	Fits    bool     `json:"fits"`
	FillCm  float64  `json:"fill_cm"`
	Squeeze float64  `json:"squeeze"`
}

// shareStage is a program whose least value an outside solver finds as well.
type shareStage struct {
	Name string `json:"name"`
	Want int    `json:"least"`
	File string `json:"file,omitempty"`
}

// shareCommand shares a party's kit.
func shareCommand() *cobra.Command {
	var lp string
	var seconds float64
	var keep bool
	cmd := &cobra.Command{
		Use:   "share FILE",
		Short: "Share a party's kit fairly, so that every pack closes",
		Long: "Reads a bundle with a party (- for standard input) and writes who carries what as JSON: the largest share of anybody's\n" +
			"own limit as small as can be, then the second largest, and so on, then as few changes as possible; --keep asks for\n" +
			"few changes first. A share that the trial packing does not take is forbidden and the next best one taken.\n" +
			"Exit 0: every pack takes its share. 3: none such was found. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			start := time.Now()
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			shared, err := b.Doc.Sharing()
			if err != nil {
				return err
			}
			shared.Problem.Keep = keep
			packs := shared.Packs()
			found, err := party.Fair(shared.Problem, packs.Fits, party.Options{Stop: clock(start, seconds)})
			if blocked := new(party.Blocked); errors.As(err, &blocked) {
				return &exit{exitBadArgs, "/party: " + words.Blocked(blocked, shared.Name)}
			} else if err != nil {
				return err
			}
			told := shareTold(b.Doc.Party(), shared, found, packs)
			for _, stage := range found.Stages() {
				row := shareStage{Name: stage.Name, Want: stage.Want}
				if lp != "" {
					row.File = lp + stage.Name + ".lp"
					if err := writeFile(row.File, stage.WriteLP); err != nil {
						return err
					}
				}
				told.Stages = append(told.Stages, row)
			}
			err = writeJSON(cmd.OutOrStdout(), told)
			if err == nil && !told.Fits {
				return &exit{code: exitNoFit}
			}
			return err
		},
	}
	cmd.Flags().Float64Var(&seconds, "seconds", shareSeconds,
		"end the search after so many seconds (0: its own budget ends it)")
	cmd.Flags().BoolVar(&keep, "keep", false, "change as little as possible of what is agreed, and be fair after that")
	cmd.Flags().StringVar(&lp, "lp", "",
		"write the stages as programs in CPLEX LP format to files that begin so: share- gives share-levels-1.lp and so on")
	return cmd
}

// shareSeconds is the time that a search for shares has when nothing else is asked for.
const shareSeconds = 8

func shareTold(p *bundle.Party, shared *bundle.Shared, found *party.Answer, packs *party.Packs) *shareAnswer {
	told := &shareAnswer{Format: "tornister-share", Fits: len(found.Short) == 0, Bound: found.Bound,
		Proven: found.Proven, Fewest: found.Fewest, CutShort: found.Cut, Changes: found.Changes,
		Tries: found.Tries, Refused: found.Refused, Short: append([]string{}, found.Short...),
		Over: append([]string{}, found.Over...), Holder: found.Holder}
	for i := range found.Loads {
		l := &found.Loads[i]
		plan := packs.Plan(l.Bearer, l.Parts)
		who := shared.Bearer(l.Bearer)
		told.Share = max(told.Share, l.Share)
		told.Bearers = append(told.Bearers, shareRow{ID: l.Bearer, Name: p.Bearer(l.Bearer).Name, LimitG: who.LimitG,
			OwnG: who.OwnG, BeforeG: shared.MassG(l.Bearer, p.Agreed), MassG: l.MassG, Share: l.Share,
			Parts: append([]string{}, l.Parts...), Fits: plan.Fits(), FillCm: plan.FillCm, Squeeze: plan.Squeeze})
	}
	return told
}
