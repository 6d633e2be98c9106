package main

import (
	"fmt"
	"io"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"tornister/answer"
	"tornister/bundle"
	"tornister/card"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/web/draw"
)

// cardCommand plans a bundle and writes its load card.
func cardCommand() *cobra.Command {
	var out, units, bearer string
	var seed int64
	cmd := &cobra.Command{
		Use:   "card FILE",
		Short: "Plan a bundle and write its load card: words, HTML, PDF, or the drawing as SVG or PNG",
		Long: "Reads a bundle (- for standard input) and writes its load card: in words to standard output, or with --out to a\n" +
			"file whose ending says how: .txt, .html (one file that works without network), .pdf, .svg or .png.\n" +
			"Exit 0: it fits. 3: it does not fit. 2: bad input, with place and mend on standard error. 1: anything else.",
		Args: oneFile,
		RunE: func(cmd *cobra.Command, args []string) error {
			system := unit.System(units)
			if system != unit.Metric && system != unit.Customary {
				return &exit{exitBadArgs, fmt.Sprintf("--units %s: give metric or customary", units)}
			}
			write, err := cardWriter(out)
			if err != nil {
				return err
			}
			b, err := readBundle(cmd, args[0])
			if err != nil {
				return err
			}
			name := b.Doc.Name()
			if bearer != "" {
				if b, err = ofBearer(b, bearer); err != nil {
					return err
				}
				name += ", " + b.Doc.Party().Bearer(bearer).Name
			}
			judged := verdict.Of(&b.Task, load.Options{Seed: seed, Sure: true})
			told := answer.Of(judged, b.Assumed, system)
			made := card.Of(name, judged, told, system)
			if out == "" {
				err = made.Text(cmd.OutOrStdout())
			} else {
				err = writeFile(out, func(w io.Writer) error { return write(made, w) })
			}
			if err == nil && !told.Verdict.Fits {
				return &exit{code: exitNoFit}
			}
			return err
		},
	}
	cmd.Flags().StringVar(&out, "out", "", "file to write, ending in .txt, .html, .pdf, .svg or .png")
	cmd.Flags().StringVar(&bearer, "bearer", "",
		"id of the bearer of a party whose card it is; otherwise of whose pack is at the top")
	cmd.Flags().StringVar(&units, "units", string(unit.Metric), "units of the card: metric or customary")
	cmd.Flags().Int64Var(&seed, "seed", 1, "seed of the search; the same seed gives the same plan")
	return cmd
}

// ofBearer is a bundle as it is for one bearer of its party.
func ofBearer(b *bundle.Bundle, bearer string) (*bundle.Bundle, error) {
	doc, err := b.Doc.Of(bearer)
	if err == nil {
		b, err = bundle.FromDoc(doc)
	}
	if err != nil {
		return nil, &exit{exitBadArgs, fmt.Sprintf("--bearer %s: %v", bearer, err)}
	}
	return b, nil
}

// cardWriter is how a file of a name's ending is written.
func cardWriter(name string) (func(*card.Card, io.Writer) error, error) {
	ways := map[string]func(*card.Card, io.Writer) error{
		"":      func(c *card.Card, w io.Writer) error { return c.Text(w) },
		".txt":  func(c *card.Card, w io.Writer) error { return c.Text(w) },
		".html": func(c *card.Card, w io.Writer) error { return c.HTML(w, nil) },
		".pdf":  func(c *card.Card, w io.Writer) error { return c.PDF(w) },
		".svg":  func(c *card.Card, w io.Writer) error { _, err := w.Write(draw.Standalone(c.Drawing)); return err },
		".png": func(c *card.Card, w io.Writer) error {
			picture, err := draw.PNG(c.Drawing, 2)
			if err == nil {
				_, err = w.Write(picture)
			}
			return err
		},
	}
	if way := ways[strings.ToLower(filepath.Ext(name))]; way != nil {
		return way, nil
	}
	return nil, &exit{exitBadArgs, fmt.Sprintf("--out %s: end the name in .txt, .html, .pdf, .svg or .png", name)}
}
