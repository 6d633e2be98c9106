package kit

import "strings"

// KindNamed finds the kind that a typed name means: the one of whose names the most words stand in it, the last of
// them counting most ("blue warm hat" is a hat). Plurals and one slip in a longer word are forgiven.
func KindNamed(name string) (Kind, bool) {
	typed := stems(name)
	best, bestScore := -1, 0
	for i := range Kinds {
		for _, phrase := range kindPhrases[i] {
			if score := matching(phrase, typed); score > bestScore {
				best, bestScore = i, score
			}
		}
	}
	if best < 0 {
		return Unknown, false
	}
	return Kinds[best], true
}

// kindPhrases holds each kind's names as stemmed words.
var kindPhrases = func() [][][]string {
	all := make([][][]string, len(Kinds))
	for i, k := range Kinds {
		for _, name := range append([]string{k.Name, strings.ReplaceAll(k.ID, "-", " ")}, k.Also...) {
			all[i] = append(all[i], stems(name))
		}
	}
	return all
}()

// stems gives the words of a name without case, plural and the small words between.
func stems(name string) []string {
	var words []string
	for _, w := range strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return strings.ContainsRune(" ,.-/_'", r) }) {
		switch w {
		case "a", "an", "the", "of", "in", "with", "for", "and", "my", "full", "empty", "l", "whole", "pair", "per":
			continue
		}
		if len(w) > 3 && !strings.HasSuffix(w, "ss") {
			w = strings.TrimSuffix(w, "s")
		}
		words = append(words, w)
	}
	return words
}

// matching scores a phrase against what was typed: 0 unless every word of the phrase was typed. More words win; of
// equal ones those typed exactly, then the phrase that stands at the end, then the one that leaves fewest words over.
func matching(phrase, typed []string) int {
	if len(phrase) == 0 || len(phrase) > len(typed) {
		return 0
	}
	exact, last := 0, -1
	for _, word := range phrase {
		found := false
		for at, t := range typed {
			if t == word {
				found, last = true, max(last, at)
				exact++
				break
			}
		}
		if !found {
			for at, t := range typed {
				if oneSlip(t, word) {
					found, last = true, max(last, at)
					break
				}
			}
		}
		if !found {
			return 0
		}
	}
	score := 1000*len(phrase) + 100*exact
	if last == len(typed)-1 {
		score += 50
	}
	return score - (len(typed) - len(phrase))
}

// oneSlip reports whether two words of at least five letters differ by one letter added, lost, changed or swapped
// with its neighbour.
func oneSlip(a, b string) bool {
	if len(a) < 5 || len(b) < 5 || len(a)-len(b) > 1 || len(b)-len(a) > 1 {
		return false
	}
	front := 0
	for front < min(len(a), len(b)) && a[front] == b[front] {
		front++
	}
	ra, rb := a[front:], b[front:]
	switch {
	case len(ra) == len(rb):
		return len(ra) <= 1 || ra[1:] == rb[1:] || len(ra) >= 2 && ra[0] == rb[1] && ra[1] == rb[0] && ra[2:] == rb[2:]
	case len(ra) > len(rb):
		return ra[1:] == rb
	}
	return ra == rb[1:]
}
