// Package outside asks solvers that know nothing of this program for the optimum of an exported program: GLPK's
// glpsol and COIN-OR's cbc. Tests use them to check our own solver.
package outside

import (
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// ErrInfeasible is the answer for a program without a solution. ErrUnended is that of a solver that did not come to
// an end in time, or, as cbc 2.10 does on one program in some hundreds, stopped at an assertion of its own.
var (
	ErrInfeasible = errors.New("no solution")
	ErrUnended    = errors.New("not solved")
)

// Seconds is how long a solver may take.
const Seconds = 20

// Solver is one way to ask. The files of the question go into folder.
type Solver func(folder string, write func(io.Writer) error) (float64, error)

var (
	glpsolOptimal   = regexp.MustCompile(`Status: +(INTEGER )?OPTIMAL`) // an empty program has no integers
	glpsolObjective = regexp.MustCompile(`Objective: +\S+ = (\S+)`)
	cbcObjective    = regexp.MustCompile(`(?s)Optimal solution found.*Objective value: +(\S+)`)
	cbcNone         = regexp.MustCompile(`(?i)problem is infeasible|says infeasible|proven infeasible`)
	cbcPlain        = regexp.MustCompile(`Optimal(?: -)? objective(?: value)? +(\S+)`) // a program that its presolve, or the relaxation alone, solves
)

// Glpsol solves the program that write writes in CPLEX LP format, to the last digit, with cuts.
func Glpsol(folder string, write func(io.Writer) error) (float64, error) {
	in, out := filepath.Join(folder, "program.lp"), filepath.Join(folder, "program.out")
	if err := save(in, write); err != nil {
		return 0, err
	}
	started := time.Now()
	ask := func(more ...string) ([]byte, error) {
		arguments := []string{"--lp", in, "-o", out, "--mipgap", "0", "--tmlim", strconv.Itoa(Seconds), "--memlim", "500"}
		return exec.Command("glpsol", append(arguments, more...)...).CombinedOutput()
	}
	printed, err := ask("--cuts")
	if strings.Contains(string(printed),
		"glp_add_cols") { // with cuts GLPK 5.0 aborts on a program that its presolve solves
		printed, err = ask()
	}
	if err != nil {
		return 0, fmt.Errorf("glpsol (make test installs it): %w\n%s", err, printed)
	}
	answer, err := os.ReadFile(out)
	if err != nil {
		return 0, err
	}
	found := glpsolObjective.FindSubmatch(answer)
	if !glpsolOptimal.Match(answer) || found == nil {
		if time.Since(started) > (Seconds-1)*time.Second {
			return 0, ErrUnended
		}
		return 0, ErrInfeasible
	}
	return strconv.ParseFloat(string(found[1]), 64)
}

// Overlooked is what glpsol's optimum may be above the true one although it is asked to the last digit: a branch whose
// bound is better by less than tol_obj, 1e-7 of the objective and one, is cut (GLPK reference manual, glp_iocp, and
// ios_is_hopeful in its source, from memory); glpsol has no option for it.
func Overlooked(optimum float64) float64 { return 1e-7 * (1 + math.Abs(optimum)) }

// Cbc does the same with the other solver.
func Cbc(folder string, write func(io.Writer) error) (float64, error) {
	in := filepath.Join(folder, "program-cbc.lp")
	if err := save(in, write); err != nil {
		return 0, err
	}
	printed, err := exec.Command("cbc", in, "sec", strconv.Itoa(Seconds), "ratio", "0", "solve").CombinedOutput()
	text := string(printed)
	switch {
	case strings.Contains(text, "ClpNonLinearCost.cpp"):
		return 0, ErrUnended
	case err != nil:
		return 0, fmt.Errorf("cbc (make test installs it): %w\n%s", err, printed)
	case cbcNone.MatchString(text):
		return 0, ErrInfeasible
	}
	found := cbcObjective.FindStringSubmatch(text)
	if found == nil {
		if found = cbcPlain.FindStringSubmatch(text); found == nil {
			return 0, ErrUnended
		}
	}
	return strconv.ParseFloat(found[1], 64)
}

func save(name string, write func(io.Writer) error) error {
	file, err := os.Create(name)
	if err != nil {
		return err
	}
	return errors.Join(write(file), file.Close())
}
