package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// order is the core from its ground up: a package may import only those before it. docs/architecture.md says why.
var order = []string{"unit", "fact", "mip", "kit", "rucksack", "method", "trail", "dry", "stuff", "reach", "job", "assign", "load",
	"balance", "party", "shrink", "verdict", "weigh", "days", "learn", "practice"}

// forbidden is what a rule of the trade never needs. math/rand/v2 is let in for its seeded generators.
var forbidden = []string{"net", "os", "html", "database", "embed", "io/fs", "github.com/gin-gonic", "gorm.io",
	"math/rand"}

// letIn are libraries that only compute: linear algebra, distances between words, letters without accents.
var letIn = []string{"gonum.org/", "github.com/hbollon/go-edlib", "golang.org/x/text/unicode"}

func TestArrowsPointUp(t *testing.T) {
	t.Parallel()
	files := 0
	err := filepath.WalkDir(".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files++
		pkg := strings.Split(filepath.ToSlash(path), "/")[0]
		rank := slices.Index(order, pkg)
		require.GreaterOrEqual(t, rank, 0, "%s is not in the order", path)
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		require.NoError(t, err)
		for _, spec := range file.Imports {
			name := strings.Trim(spec.Path.Value, `"`)
			for _, bad := range forbidden {
				assert.False(t, name == bad || strings.HasPrefix(name, bad+"/") && name != "math/rand/v2", "%s imports %s", path,
					name)
			}
			if ours, inside := strings.CutPrefix(name, "tornister/"); inside {
				within, ok := strings.CutPrefix(ours, "core/")
				require.True(t, ok, "%s imports %s, which is outside the core", path, name)
				assert.Less(t, slices.Index(order, within), rank, "%s imports %s, which stands below it", path, name)
			} else {
				first, _, _ := strings.Cut(name, "/")
				assert.True(t, !strings.Contains(first, ".") ||
					slices.ContainsFunc(letIn, func(p string) bool { return strings.HasPrefix(name, p) }), "%s imports %s", path, name)
			}
		}
		source, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.NotContains(t, string(source), "time.Now", "%s reads the clock", path)
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 10)
}
