// Package licences carries the licences of everything that the program ships: the modules it is built from, the
// browser libraries and the fonts. `make licences` collects them anew, with the bill of materials in docs/sbom.json
// (CycloneDX).
package licences

import _ "embed"

// Text is the list of what is shipped with the licence of each, then the licences in full.
//
//go:embed LICENCES.txt
var Text string
