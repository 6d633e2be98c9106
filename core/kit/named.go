package kit

import (
	"math/bits"
	"slices"
	"strings"

	edlib "github.com/hbollon/go-edlib"
	"golang.org/x/text/unicode/norm"
)

// KindNamed finds the kind that a typed name means: the one of whose names the most words stand in it, the last of
// them counting most ("blue warm hat" is a hat). Plurals and one slip in a longer word are forgiven.
func KindNamed(name string) (Kind, bool) {
	typed := stems(name)
	best, bestScore := -1, 0
	for i := range Kinds {
		for _, phrase := range kindPhrases[i] {
			if score := phrase.matching(typed); score > bestScore {
				best, bestScore = i, score
			}
		}
	}
	if best < 0 {
		return Unknown, false
	}
	return Kinds[best], true
}

// phrase is a name of a kind as stemmed words, and how long a word of it must be for a slip of the hand to be forgiven.
type phrase struct {
	words []string
	slips int
}

// A slip is forgiven in a word of at least so many letters. Short words of other languages are too near to other words
// of this one: a crate is no "carte".
const (
	slipsFrom       = 5
	slipsFromAbroad = 7
)

// kindPhrases holds each kind's names.
var kindPhrases = func() [][]phrase {
	all := make([][]phrase, len(Kinds))
	for i, k := range Kinds {
		for _, name := range append([]string{k.Name, strings.ReplaceAll(k.ID, "-", " ")}, k.Also...) {
			all[i] = append(all[i], phrase{stems(name), slipsFrom})
		}
		for _, name := range tongues[k.ID] {
			all[i] = append(all[i], phrase{stems(name), slipsFromAbroad})
		}
	}
	return all
}()

// stems gives the words of a name without case, plural and the small words between.
func stems(name string) []string {
	var words []string
	for _, w := range strings.FieldsFunc(plain(name), func(r rune) bool { return strings.ContainsRune(" ,.-/_'", r) }) {
		switch w {
		case "a", "an", "the", "of", "in", "with", "for", "and", "my", "full", "empty", "l", "whole", "pair", "per",
			"de", "la", "el", "du", "des", "le", "les", "der", "die", "das", "mit", "fur", "och", "med":
			continue
		}
		if len(w) > 3 && !strings.HasSuffix(w, "ss") {
			w = strings.TrimSuffix(w, "s")
		}
		words = append(words, w)
	}
	return words
}

// withoutPair gives a name without the words before it that say that it comes in pairs, which is no part of it: 3 pairs
// of socks are socks three times.
func withoutPair(name []string) []string {
	drop := func(words ...string) {
		if len(name) > 1 && slices.Contains(words, strings.ToLower(name[0])) {
			name = name[1:]
		}
	}
	if before := len(name); before > 1 {
		drop(pairs...)
		if len(name) < before || strings.EqualFold(name[0], "of") { // 2 litres of water
			drop("of", "de", "di")
		}
	}
	return name
}

// pairs are the words for two that belong together, dayWords those that food is counted by, forWords those before them.
var (
	forWords = []string{"for", "für", "pour", "para", "per", "för", "voor"}
	pairs    = []string{"pair", "pairs", "paar", "paire", "paires", "par", "pares", "paio", "paia"}
	dayWords = []string{"day", "days", "tag", "tage", "tagen", "jour", "jours", "dia", "dias", "día", "días", "giorno", "giorni",
		"dag", "dagar", "dagen"}
)

// plain is a name in small letters without accents.
func plain(name string) string {
	letters := func(r rune) rune {
		switch {
		case r >= 0x300 && r < 0x370: // combining marks
			return -1
		case r == '’':
			return '\''
		}
		return r
	}
	return strings.ReplaceAll(strings.Map(letters, norm.NFD.String(strings.ToLower(name))), "ß", "ss")
}

// matching scores a phrase against what was typed: 0 unless every word of the phrase was typed. More words win; of
// equal ones those typed exactly, then the phrase that stands at the end, then the one that leaves fewest words over.
func (p phrase) matching(typed []string) int {
	if len(p.words) == 0 || len(p.words) > len(typed) {
		return 0
	}
	exact, last := 0, -1
	for _, word := range p.words {
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
				if min(len(t), len(word)) >= p.slips && slips(t, word) {
					found, last = true, max(last, at)
					break
				}
			}
		}
		if !found {
			return 0
		}
	}
	score := 1000*len(p.words) + 100*exact
	if last == len(typed)-1 {
		score += 50
	}
	return score - (len(typed) - len(p.words))
}

// itself holds words that are what they say, however near they are to the name of a kind: a table is no tablets, and
// vanilla no pole.
var itself = setOf(`batter battle break broad chain chart dairy flake flash floor
		globe grass grove later launch linen medal navel packet pasty place plant platter porch price prone puppy
		ratio scrap screw shack shake shape sheet shove skirt slang slice smack snake spare spark spool spring sprint stack
		steal steam steep sting stock stone store straw stray strip sweat table taste tower train trial truck vanilla
		wader waiter whittle witch`)

// measures are words that tell what a number before them is of, where it counts no things: a 2 person tent is one tent.
var measures = setOf(`person persons people man men p season seasons berth piece part section layer ply
		point points wall room way lens burner w watt watts lumen lumens volt personen persoons mann manna
		jahreszeiten seizoenen places personas persone saisons estaciones stagioni`)

// setOf is the set of the words of a text.
func setOf(text string) map[string]bool {
	all := map[string]bool{}
	for _, w := range strings.Fields(text) {
		all[w] = true
	}
	return all
}

// slips reports whether two words are one, but for slips of the hand: a letter added, lost, changed or swapped
// with its neighbour in a word of at least five letters, two of them in one of at least nine. The first letter is
// seldom the one (8 in 100 of misspellings: Pollock and Zamora, 1983, from memory), and another one makes another word:
// honey of money, a mallet of a wallet.
func slips(a, b string) bool {
	if a[0] != b[0] || itself[a] || itself[b] {
		return false
	}
	most := 0
	switch shorter := min(len(a), len(b)); {
	case shorter >= 9:
		most = 2
	case shorter >= slipsFrom:
		most = 1
	}
	return most > 0 && len(a)-len(b) <= most && len(b)-len(a) <= most &&
		bits.OnesCount32(letters(a)^letters(b)) <= 2*most && // a slip changes one letter for another at most
		edlib.OSADamerauLevenshteinDistance(a, b) <= most
}

// letters is the set of the letters a to z in a word.
func letters(word string) (set uint32) {
	for i := range len(word) {
		if c := word[i] - 'a'; c < 26 {
			set |= 1 << c
		}
	}
	return set
}

// Find is the item of a list that somebody means by a word or two of its name, or by another name of its kind; nil
// for none.
func Find(items []Item, wanted string) *Item {
	words := stems(wanted)
	if len(words) == 0 {
		return nil
	}
	best, bestScore := -1, 0
	try := func(i, score int) {
		if score > bestScore {
			best, bestScore = i, score
		}
	}
	for i := range items {
		name := stems(items[i].Name)
		try(i, 10*phrase{words, slipsFrom}.matching(name))
		if strings.Contains(plain(items[i].Name), plain(strings.TrimSpace(wanted))) {
			try(i, 9000)
		}
		if k, known := KindNamed(wanted); known && items[i].Kind == k.ID {
			try(i, 100)
		}
	}
	if best < 0 {
		return nil
	}
	return &items[best]
}
