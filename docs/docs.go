// Package docs embeds the manual, so that it can be read in the application.
package docs

import _ "embed"

// Manual is the manual in Markdown.
//
//go:embed manual.md
var Manual []byte
