package answer

import (
	"fmt"
	"io"
	"math"
	"strings"

	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/unit"
	"tornister/core/verdict"
)

// Card writes the load card in words: the verdict, the checks, the order of loading with its reasons, and what is
// left out. Figures are printed in the given system of units.
func Card(w io.Writer, task *load.Task, a *Answer, system unit.System) error {
	names := map[string]string{}
	for i := range task.Items {
		names[task.Items[i].ID] = task.Items[i].Name
	}
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n%s\n\n", strings.ToUpper(task.Pack.Name), Sentence(a.Verdict, len(a.LeftOut), system))
	for _, c := range a.Checks {
		fmt.Fprintf(&b, "%-8s %-8s %s\n", unit.Capital(c.Check), c.State, strings.TrimSuffix(c.Figure+", "+c.Detail, ", "))
	}
	fmt.Fprintf(&b, "\nLoading order, first in first\n")
	for _, l := range a.Load {
		place := task.Pack.Zone(l.Zone).Name
		if l.Lane != load.Full {
			place += ", " + string(l.Lane)
		}
		if l.Inside != "" {
			place = "inside the " + unit.Small(names[l.Inside])
		}
		fmt.Fprintf(&b, "%3d  %-28s %-22s %s\n", l.Step, pieceName(names[l.Item], l.Piece), place, reasonWords(l.Reasons))
		for _, r := range a.Rolls {
			if r.AfterStep == l.Step {
				fmt.Fprintf(&b, "     Roll the liner shut at %s.\n", system.Length(math.Round(r.HeightCm)))
			}
		}
	}
	if len(a.LeftOut) > 0 {
		fmt.Fprintf(&b, "\nLeft out\n")
		for _, l := range a.LeftOut {
			fmt.Fprintf(&b, "     %s %s. It would take %s.\n", pieceName(names[l.Item], l.Piece), l.Why, l.LeastChange)
		}
	}
	for i, broken := range a.Broken {
		if i == 0 {
			fmt.Fprintf(&b, "\nRules not kept\n")
		}
		fmt.Fprintf(&b, "     %s\n", broken.Why)
	}
	if a.Hand != nil {
		a.Hand.write(&b, names, &task.Pack)
	}
	sums := verdict.KitOf(task.Items, &task.Pack)
	fmt.Fprintf(&b, "\nOn the back %s; base %s, food, fuel and water %s; worn %s, in hand %s.\n", system.Mass(a.Balance.MassG),
		system.Mass(sums.BaseG), system.Mass(sums.ConsumableG), system.Mass(sums.Worn.MassG), system.Mass(sums.Hand.MassG))
	fmt.Fprintf(&b, "Lift a heavy pack on to the knee first, then one shoulder. This is advice: local rules, makers' instructions\nand licensed guides go first.\n")
	_, err := io.WriteString(w, b.String())
	return err
}

// write says what the order is worth, and what would help.
func (h *Hand) write(b *strings.Builder, names map[string]string, pack *rucksack.Pack) {
	fmt.Fprintf(b, "\nYour own order: %.0f s a day by our prices; the planned one %.0f s.\n", h.CostS, h.PlannedS)
	for _, s := range h.Misfit {
		fmt.Fprintf(b, "     %s does not go into the %s as arranged.\n", pieceName(names[s.Item], s.Piece), unit.Small(pack.Zone(s.Zone).Name))
	}
	for _, c := range h.Changes {
		fmt.Fprintf(b, "     %s\n", c.Text)
	}
	if len(h.Changes) == 0 {
		fmt.Fprintf(b, "     No single change that was tried would help.\n")
	}
}

func pieceName(name string, piece int) string {
	if piece > 0 {
		return fmt.Sprintf("%s (%d)", name, piece)
	}
	return name
}

func reasonWords(reasons []Reason) string {
	texts := make([]string, len(reasons))
	for i, r := range reasons {
		texts[i] = r.Text
	}
	return strings.Join(texts, "; ")
}
