// Command mutants asks whether the tests of a package would notice: it changes one comparison, sign, number or
// condition of its code at random, runs the package's own tests on that (by an overlay: no file is touched), and
// counts the changes that some test caught. A change that no test notices is printed with its place.
//
//	go run ./internal/mutants -n 30 ./core/unit ./core/reach
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

func main() {
	n := flag.Int("n", 30, "mutants of each package")
	seed := flag.Uint64("seed", 1, "other mutants for another seed")
	tables := flag.String("tables", "kinds*.go", "files that are tables of figures: a gram more there is no mistake of the code")
	limit := flag.Duration("limit", 20*time.Second,
		"by how much more than four times as long as without a change the tests of a mutant may take: longer counts as caught")
	flag.Parse()
	failed := false
	for _, folder := range flag.Args() {
		killed, all, err := try(folder, *tables, *n, *seed, *limit)
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			failed = true
			continue
		}
		fmt.Printf("%s: %d of %d caught\n", folder, killed, all)
	}
	if failed {
		os.Exit(1)
	}
}

// mutant is one change: some bytes of a file replaced by others.
type mutant struct {
	file     string
	from, to int
	text     string
	where    string
}

func try(folder, tables string, n int, seed uint64, limit time.Duration) (killed, all int, err error) {
	var list []mutant
	names, err := filepath.Glob(filepath.Join(folder, "*.go"))
	if err != nil {
		return 0, 0, err
	}
	for _, name := range names {
		if table, _ := filepath.Match(tables, filepath.Base(name)); !table && !strings.HasSuffix(name, "_test.go") {
			found, err := mutantsOf(name)
			if err != nil {
				return 0, 0, err
			}
			list = append(list, found...)
		}
	}
	unchanged := mutant{}
	var limits [2]time.Duration
	for k := range modes {
		begin := time.Now()
		if caught, builds := unchanged.run(folder, [2]time.Duration{time.Hour}, modes[k:k+1]); caught || !builds {
			return 0, 0, fmt.Errorf("%s: the tests fail without any change", folder)
		}
		limits[k] = limit + 4*time.Since(begin)
	}
	r := rand.New(rand.NewPCG(seed, 1))
	r.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
	jobs := make(chan mutant)
	var mu sync.Mutex
	var wait sync.WaitGroup
	for range runtime.NumCPU() {
		wait.Go(func() {
			for m := range jobs {
				caught, builds := m.run(folder, limits, modes[:])
				mu.Lock()
				if builds && all < n {
					all++
					if caught {
						killed++
					} else {
						fmt.Printf("  lives: %s\n", m.where)
					}
				}
				mu.Unlock()
			}
		})
	}
	for _, m := range list {
		mu.Lock()
		enough := all >= n
		mu.Unlock()
		if enough {
			break
		}
		jobs <- m
	}
	close(jobs)
	wait.Wait()
	return killed, all, nil
}

// others are the operators that an operator is exchanged for.
var others = map[token.Token]token.Token{
	token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR, token.EQL: token.NEQ,
	token.NEQ: token.EQL,
	token.ADD: token.SUB, token.SUB: token.ADD, token.MUL: token.QUO, token.QUO: token.MUL, token.LAND: token.LOR,
	token.LOR:        token.LAND,
	token.ADD_ASSIGN: token.SUB_ASSIGN, token.SUB_ASSIGN: token.ADD_ASSIGN,
}

func mutantsOf(name string) (list []mutant, err error) {
	source, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	files := token.NewFileSet()
	tree, err := parser.ParseFile(files, name, source, 0)
	if err != nil {
		return nil, err
	}
	add := func(pos token.Pos, length int, text string) {
		at := files.Position(pos)
		old := string(source[at.Offset : at.Offset+length])
		list = append(list, mutant{name, at.Offset, at.Offset + length, text,
			fmt.Sprintf("%s:%d: %s becomes %s", name, at.Line, old, text)})
	}
	ast.Inspect(tree, func(node ast.Node) bool {
		switch e := node.(type) {
		case *ast.ImportSpec:
			return false
		case *ast.BinaryExpr:
			if other, is := others[e.Op]; is && !isText(e.X) && !isText(e.Y) {
				add(e.OpPos, len(e.Op.String()), other.String())
			}
		case *ast.AssignStmt:
			if other, is := others[e.Tok]; is {
				add(e.TokPos, len(e.Tok.String()), other.String())
			}
		case *ast.BasicLit:
			if v, err := strconv.ParseFloat(strings.ReplaceAll(e.Value, "_", ""), 64); err == nil && e.Kind != token.CHAR {
				text := strconv.FormatFloat(v*1.25, 'g', -1, 64)
				if e.Kind == token.INT {
					text = strconv.Itoa(int(v) + 1)
				}
				add(e.Pos(), len(e.Value), text)
			}
		case *ast.IfStmt:
			add(e.Cond.Pos(), 0, "!(")
			last := &list[len(list)-1]
			end := files.Position(e.Cond.End()).Offset
			last.to, last.text = end, "!("+string(source[last.from:end])+")"
			last.where = fmt.Sprintf("%s:%d: if the opposite", name, files.Position(e.Pos()).Line)
		}
		return true
	})
	return list, nil
}

func isText(e ast.Expr) bool {
	lit, is := e.(*ast.BasicLit)
	return is && lit.Kind == token.STRING
}

// modes are the ways in which the tests are run: most mutants are caught by the tests in small.
var modes = [2]string{"-test.short", "-test.short=false"}

// run tests a package with the change, or without one. What does not build is no mutant.
func (m *mutant) run(folder string, limits [2]time.Duration, modes []string) (caught, builds bool) {
	scratch, err := os.MkdirTemp("", "mutant")
	if err != nil {
		return false, false
	}
	defer os.RemoveAll(scratch)
	replace := map[string]string{}
	if m.file != "" {
		source, err := os.ReadFile(m.file)
		if err != nil {
			return false, false
		}
		full, _ := filepath.Abs(m.file)
		replace[full] = filepath.Join(scratch, "changed.go")
		if os.WriteFile(replace[full], slices.Concat(source[:m.from], []byte(m.text), source[m.to:]), 0o600) != nil {
			return false, false
		}
	}
	overlay, tests := filepath.Join(scratch, "overlay.json"), filepath.Join(scratch, "tests")
	told, _ := json.Marshal(map[string]map[string]string{"Replace": replace})
	if os.WriteFile(overlay, told, 0o600) != nil ||
		exec.Command("go", "test", "-c", "-vet=off", "-overlay", overlay, "-o", tests, "./"+folder).Run() != nil {
		return false, false
	}
	for k, mode := range modes {
		ctx, cancel := context.WithTimeout(context.Background(), limits[k])
		// The program itself is run, not go test: the clock is to stop it, and not who started it.
		test := exec.CommandContext(ctx, tests, mode, "-test.failfast")
		test.Dir = folder
		err := test.Run()
		late := ctx.Err() != nil
		cancel()
		if late {
			fmt.Printf("  ended by the clock: %s\n", m.where)
		}
		if err != nil {
			return true, true
		}
	}
	return false, true
}
