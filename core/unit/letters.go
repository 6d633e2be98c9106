package unit

import (
	"unicode"
	"unicode/utf8"
)

// Capital is a text that begins with a capital letter, as a sentence or a heading does.
func Capital(text string) string { return first(text, unicode.ToUpper) }

// Small is a name as it stands within a sentence: "Rain jacket" becomes "rain jacket". An abbreviation stays as it
// is.
func Small(name string) string {
	_, size := utf8.DecodeRuneInString(name)
	if next, _ := utf8.DecodeRuneInString(name[size:]); unicode.IsUpper(next) {
		return name
	}
	return first(name, unicode.ToLower)
}

func first(text string, change func(rune) rune) string {
	r, size := utf8.DecodeRuneInString(text)
	if size == 0 || r == utf8.RuneError {
		return text
	}
	return string(change(r)) + text[size:]
}
