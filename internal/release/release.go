// Package release says which version of the program this is.
package release

import "runtime/debug"

// Version is the release. A database remembers which one wrote it last.
const Version = "0.2.0"

// Revision is the commit that the program was built from, shortened, or "" when the build did not say.
func Revision() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return ""
	}
	for _, s := range info.Settings {
		if s.Key == "vcs.revision" {
			return s.Value[:min(12, len(s.Value))]
		}
	}
	return ""
}
