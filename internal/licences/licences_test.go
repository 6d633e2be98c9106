package licences_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/internal/licences"
)

// Every module that the program is built from, and every browser library it ships, stands in the list and in the bill
// of materials at the version in use.
func TestEverythingShippedIsListed(t *testing.T) {
	t.Parallel()
	out, err := exec.Command("go", "list", "-deps", "-f",
		"{{with .Module}}{{if .Version}}{{.Path}} {{.Version}}{{end}}{{end}}", "tornister/cmd/tornister").
		Output()
	require.NoError(t, err)
	vendored, err := os.ReadFile("../../web/static/vendor/VERSIONS.txt")
	require.NoError(t, err)
	text, err := os.ReadFile("../../docs/sbom.json")
	require.NoError(t, err)
	var bill struct {
		BomFormat  string
		Components []struct{ Name, Version string }
	}
	require.NoError(t, json.Unmarshal(text, &bill))
	assert.Equal(t, "CycloneDX", bill.BomFormat)
	in := map[string]bool{}
	for _, c := range bill.Components {
		in[c.Name+" "+c.Version] = true
	}
	listed := strings.Join(strings.Fields(licences.Text), " ")
	seen := 0
	for line := range strings.Lines(string(out) + string(vendored)) {
		f := strings.Fields(line)
		if len(f) < 2 || f[0] == "axe-core" {
			continue
		}
		seen++
		assert.True(t, in[f[0]+" "+f[1]], "%s %s is not in docs/sbom.json; run make licences", f[0], f[1])
		assert.Contains(t, listed, f[0]+" "+f[1], "run make licences")
	}
	assert.Greater(t, seen, 30)
}
