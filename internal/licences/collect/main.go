// Command collect reads a bill of materials (CycloneDX JSON) of the modules on standard input, adds the browser
// libraries and fonts that are shipped, and writes docs/sbom.json and internal/licences/LICENCES.txt.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"

	"tornister/internal/release"
)

type component = map[string]any

// shipped is a module or library with its licence.
type shipped struct{ name, version, licence, text string }

func main() {
	if err := collect(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func collect() error {
	var bill map[string]any
	if err := json.NewDecoder(os.Stdin).Decode(&bill); err != nil {
		return fmt.Errorf("bill of materials: %w", err)
	}
	// The same input makes the same file, whenever and from whichever commit.
	bill["metadata"] = component{
		"component": component{
			"type":     "application",
			"name":     "tornister",
			"version":  release.Version,
			"licenses": spdx("MIT"),
		},
	}
	delete(bill, "dependencies")
	components, _ := bill["components"].([]any)
	var list []shipped
	for _, c := range components {
		one := c.(component)
		s := shipped{name: fmt.Sprint(one["name"]), version: fmt.Sprint(one["version"]), licence: licenceOf(one)}
		var err error
		if s.text, err = moduleLicence(s.name); err != nil {
			return err
		}
		if s.name == "std" ||
			strings.HasPrefix(s.name, "golang.org/x/") { // three clauses; the tool takes the text for another
			s.licence = "BSD-3-Clause"
			delete(one, "evidence")
			one["licenses"] = spdx(s.licence)
		}
		if s.licence == "" || s.text == "" {
			return fmt.Errorf("%s %s: no licence found", s.name, s.version)
		}
		list = append(list, s)
	}
	vendored, err := browserLibraries()
	if err != nil {
		return err
	}
	for _, s := range vendored {
		list = append(list, s)
		components = append(
			components,
			component{
				"type":     "library",
				"bom-ref":  "pkg:npm/" + s.name + "@" + s.version,
				"purl":     "pkg:npm/" + strings.Replace(s.name, "@", "%40", 1) + "@" + s.version,
				"name":     s.name,
				"version":  s.version,
				"licenses": spdx(s.licence),
			},
		)
	}
	bill["components"] = components
	slices.SortFunc(list, func(a, b shipped) int { return strings.Compare(a.name, b.name) })
	var out bytes.Buffer
	fmt.Fprintf(&out, "What Tornister ships, and under which licences. Tornister itself: MIT.\n\n")
	for _, s := range list {
		fmt.Fprintf(&out, "%-45s %-40s %s\n", s.name, s.version, s.licence)
	}
	for _, s := range list {
		fmt.Fprintf(
			&out,
			"\n%s\n%s %s (%s)\n\n%s\n",
			strings.Repeat("=", 80),
			s.name,
			s.version,
			s.licence,
			strings.TrimSpace(s.text),
		)
	}
	text, err := json.MarshalIndent(bill, "", " ")
	if err != nil {
		return err
	}
	return errors.Join(
		os.WriteFile("internal/licences/LICENCES.txt", out.Bytes(), 0o644),
		os.WriteFile("docs/sbom.json", append(text, '\n'), 0o644),
	)
}

func spdx(id string) []any { return []any{component{"license": component{"id": id}}} }

// licenceOf is the SPDX name that the bill gives a component.
func licenceOf(c component) string {
	evidence, _ := c["evidence"].(map[string]any)
	for _, from := range []any{c["licenses"], evidence["licenses"]} {
		list, _ := from.([]any)
		var names []string
		for _, l := range list {
			one, _ := l.(map[string]any)
			licence, _ := one["license"].(map[string]any)
			if id, ok := licence["id"].(string); ok {
				names = append(names, id)
			}
		}
		if len(names) > 0 {
			return strings.Join(names, " and ")
		}
	}
	return ""
}

// moduleLicence reads the licence files of a module.
func moduleLicence(module string) (string, error) {
	where := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", module)
	if module == "std" {
		where = exec.Command("go", "env", "GOROOT")
	}
	out, err := where.Output()
	if err != nil {
		return "", fmt.Errorf("%s: %w", module, err)
	}
	folder := strings.TrimSpace(string(out))
	entries, err := os.ReadDir(folder)
	if err != nil {
		return "", err
	}
	var texts []string
	for _, e := range entries {
		name := strings.ToUpper(e.Name())
		if e.IsDir() ||
			!strings.HasPrefix(name, "LICENSE") && !strings.HasPrefix(name, "LICENCE") && !strings.HasPrefix(name, "COPYING") &&
				!strings.HasPrefix(name, "NOTICE") {
			continue
		}
		text, err := os.ReadFile(filepath.Join(folder, e.Name()))
		if err != nil {
			return "", err
		}
		texts = append(texts, string(text))
	}
	return strings.Join(texts, "\n"), nil
}

// browserLibraries are those of web/static/vendor, as `make vendor` wrote them down. axe-core is for tests and not
// shipped.
func browserLibraries() ([]shipped, error) {
	const folder = "web/static/vendor"
	versions, err := os.ReadFile(folder + "/VERSIONS.txt")
	if err != nil {
		return nil, err
	}
	var list []shipped
	for line := range strings.Lines(string(versions)) {
		f := strings.Fields(line)
		if len(f) != 3 || f[0] == "axe-core" {
			continue
		}
		name := strings.ReplaceAll(strings.TrimPrefix(f[0], "@"), "/", "-")
		text, err := os.ReadFile(fmt.Sprintf("%s/licences/%s.txt", folder, name))
		if errors.Is(err, fs.ErrNotExist) {
			text = []byte("Its package carries no text of its own; the licence is the usual " + f[2] + " one.")
		} else if err != nil {
			return nil, err
		}
		list = append(list, shipped{f[0], f[1], f[2], string(text)})
	}
	return list, nil
}
