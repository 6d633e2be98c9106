// Package glpsol asks GLPK's solver, which knows nothing of this program, for the optimum of an exported program. Tests
// use it to check our own search from outside.
package glpsol

import (
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
)

// ErrInfeasible is the answer for a program without a solution.
var ErrInfeasible = errors.New("glpsol: no solution")

var (
	optimal   = regexp.MustCompile(`Status: +(INTEGER )?OPTIMAL`) // an empty program has no integers
	objective = regexp.MustCompile(`Objective: +\S+ = (\S+)`)
)

// Optimum solves the program that write writes in CPLEX LP format, to the last digit. Its files go into folder.
func Optimum(folder string, write func(io.Writer) error) (float64, error) {
	in, out := filepath.Join(folder, "program.lp"), filepath.Join(folder, "program.out")
	file, err := os.Create(in)
	if err != nil {
		return 0, err
	}
	if err := errors.Join(write(file), file.Close()); err != nil {
		return 0, err
	}
	printed, err := exec.Command("glpsol", "--lp", in, "-o", out, "--mipgap", "0").CombinedOutput()
	if err != nil {
		return 0, fmt.Errorf("glpsol (make test installs it): %w\n%s", err, printed)
	}
	answer, err := os.ReadFile(out)
	if err != nil {
		return 0, err
	}
	found := objective.FindSubmatch(answer)
	if !optimal.Match(answer) || found == nil {
		return 0, ErrInfeasible
	}
	return strconv.ParseFloat(string(found[1]), 64)
}
