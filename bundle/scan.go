package bundle

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// What a bundle may hold, whatever it says. Files within these limits are read and checked in well under a second.
const (
	maxDepth   = 24      // lists and objects within each other
	maxValues  = 100_000 // in all
	maxEntries = 2_000   // of one list or object
	maxNumber  = 30      // characters of a number
	maxText    = 1 << 16 // bytes of a text
)

// nextToNothing is the least that a number other than 0 may be: nothing is measured so finely, and one divided by it
// is no number.
const nextToNothing = 1e-9

// byteOrderMark may stand before the text; some programs write it.
var byteOrderMark = []byte("\xef\xbb\xbf")

// scan walks over the text of a bundle before anything is made of it and refuses what would be slow, would be lost or
// could mislead: too much or too deep, numbers that are no finite numbers of double precision or endless, a key that
// stands twice in one object, hidden characters, letters that are not UTF-8.
func scan(data []byte) error {
	decoder := jsontext.NewDecoder(bytes.NewReader(data))
	values := 0
	for {
		token, err := decoder.ReadToken()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return scanProblem(data, err)
		}
		at := func() string { return string(decoder.StackPointer()) }
		depth := decoder.StackDepth()
		if depth > maxDepth {
			return problem(
				at(),
				fmt.Sprintf("lists and objects stand %d deep in each other", depth),
				fmt.Sprintf("at most %d are read; a bundle needs eight", maxDepth),
			)
		}
		if values++; values > 2*maxValues { // names of fields count as well
			return problem(
				at(),
				"the file holds too many values",
				fmt.Sprintf("at most %d are read; a bundle describes one pack and one kit", maxValues),
			)
		}
		if kind, entries := decoder.StackIndex(depth); entries > maxEntries*map[jsontext.Kind]int64{'{': 2, '[': 1,
			0: 1}[kind] {
			return tooMany(decoder, kind, entries)
		}
		switch token.Kind() {
		case '0':
			if what := badNumber(token.String()); what != "" {
				return problem(at(), what, "give a plain number, such as 1.5")
			}
		case '"':
			if what, mend := badText(token.String()); what != "" {
				return problem(at(), what, mend)
			}
		}
	}
}

// tooMany counts a list or object to its end and refuses it.
func tooMany(decoder *jsontext.Decoder, kind jsontext.Kind, entries int64) error {
	at := string(decoder.StackPointer())
	for kind := decoder.PeekKind(); kind != ']' && kind != '}'; kind = decoder.PeekKind() {
		if err := decoder.SkipValue(); err != nil {
			break // what follows is wrong as well, but this comes first
		}
		entries++
	}
	if kind == '{' {
		entries /= 2 // names and values
	}
	return problem(
		at[:max(0, strings.LastIndexByte(at, '/'))],
		fmt.Sprintf("has %d entries", entries),
		fmt.Sprintf("give at most %d", maxEntries),
	)
}

// badNumber says what is wrong with a number; "" when nothing is.
func badNumber(text string) string {
	if len(text) > maxNumber {
		return fmt.Sprintf("the number has %d characters", len(text))
	}
	switch v, err := strconv.ParseFloat(text, 64); {
	case err != nil || math.IsInf(v, 0):
		return text + " is beyond what a number can be"
	case v != 0 && math.Abs(v) < nextToNothing:
		return text + " is next to nothing"
	}
	return ""
}

// badText says what is wrong with a text and how to mend it; "" when nothing is.
func badText(text string) (what, mend string) {
	if len(text) > maxText {
		return fmt.Sprintf("the text is %d bytes long", len(text)), fmt.Sprintf("give at most %d bytes", maxText)
	}
	for _, r := range text {
		if HiddenInText(r) {
			return fmt.Sprintf(
				"the text has a hidden character (%U)",
				r,
			), "write it without control characters and marks of direction"
		}
	}
	return "", ""
}

// Hidden reports whether a character is not seen but changes what is seen: a control character (C0, DEL, C1), a line
// or paragraph separator, or a mark that turns the direction of writing (Unicode Standard Annex #9).
func Hidden(r rune) bool {
	switch {
	case r < 0x20, r >= 0x7f && r <= 0x9f, r == 0x2028, r == 0x2029:
		return true
	case r == 0x061c, r == 0x200e, r == 0x200f, r >= 0x202a && r <= 0x202e, r >= 0x2066 && r <= 0x2069:
		return true
	}
	return false
}

// HiddenInText is Hidden for a text of several lines, in which line breaks and tabs are seen.
func HiddenInText(r rune) bool { return r != '\n' && r != '\t' && r != '\r' && Hidden(r) }

// Plain is a text as it can be shown anywhere: valid UTF-8, with a sign in the place of each hidden character.
func Plain(text string) string {
	return strings.Map(func(r rune) rune {
		if Hidden(r) {
			return utf8.RuneError
		}
		return r
	}, strings.ToValidUTF8(text, string(utf8.RuneError)))
}

// scanProblem says where the text stops being what is read here.
func scanProblem(data []byte, err error) error {
	var syntax *jsontext.SyntacticError
	if !errors.As(err, &syntax) {
		return syntaxProblem(data, err)
	}
	line, column := lineOf(data, syntax.ByteOffset)
	switch {
	case errors.Is(err, jsontext.ErrDuplicateName):
		return problem(
			string(syntax.JSONPointer),
			fmt.Sprintf("the name stands a second time in line %d, column %d", line, column),
			"keep one of the two; a reader could take either",
		)
	case strings.Contains(err.Error(), "UTF-8") || strings.Contains(err.Error(), "surrogate"):
		return problem(
			string(syntax.JSONPointer),
			fmt.Sprintf("line %d, column %d: a letter is not valid UTF-8", line, column),
			"save the file as UTF-8",
		)
	}
	return nil // the reader after this one names it
}

// lineOf gives line and column of a place in a text, both from 1.
func lineOf(data []byte, offset int64) (line, column int) {
	before := data[:min(max(0, offset), int64(len(data)))]
	return bytes.Count(before, []byte("\n")) + 1, utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:]) + 1
}
