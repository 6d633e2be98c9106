package words

import (
	"fmt"
	"strings"

	"tornister/core/party"
)

// Blocked says why nothing can be shared, and what would mend it. name gives what a bearer or part is called.
func Blocked(b *party.Blocked, name func(id string) string) string {
	parts := make([]string, len(b.Parts))
	for i, id := range b.Parts {
		parts[i] = name(id)
	}
	what := strings.Join(parts, ", ")
	switch b.Why {
	case party.NoBearers:
		return "nobody is there to carry; add bearers, or bring somebody back who is away"
	case party.TooMany:
		return fmt.Sprintf("more than %d bearers; share a larger group in parties", party.MostBearers)
	case party.TooManyKit:
		return fmt.Sprintf("more than %d parts; keep pieces together, or leave something out", party.MostParts)
	case party.NoLimit:
		return fmt.Sprintf("%s has no limit; give the most that %s may carry, or the own weight", name(b.Bearer),
			name(b.Bearer))
	case party.Contradicts:
		return fmt.Sprintf("%s: to be carried together and apart at once; take one of the two ties away", what)
	case party.NobodyMay:
		return fmt.Sprintf("%s: nobody may carry this by the ties; children carry neither fuel nor the food of the night. Take a tie away, or leave it at home", what)
	case party.Unfinished:
		return "no sharing that keeps all ties was found in the time given; there may be one. Give it more time, or take a tie away"
	}
	return "no sharing keeps all ties; take one away"
}

// BearerKinds are what bearers can be, with their words.
var BearerKinds = []struct {
	Kind party.Kind
	Word string
}{{party.Instructor, "instructor"}, {party.Adult, "adult"}, {party.Trainee, "trainee"}, {party.Child,
	"child"}, {party.Convalescent, "convalescent"}}
