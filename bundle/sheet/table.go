// Package sheet brings kit lists in from spreadsheets and takes them out again. Read makes a Table of a CSV or XLSX
// file without trusting it; Propose guesses which column means what; Items says row by row what would become of it;
// Write takes a list out with every field, so that reading it again gives the same list. Nothing in a spreadsheet is
// ever executed, and what is written cannot be taken for a formula.
package sheet

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode"
	"unicode/utf16"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"

	"tornister/bundle"
)

// Limits of what is read.
const (
	MaxBytes   = 8 << 20
	MaxRows    = 2000
	MaxColumns = 80
	maxCell    = 500
)

// ErrSheet is wrapped by everything that is wrong with a file as a whole.
var ErrSheet = errors.New("not a usable spreadsheet")

func wrong(format string, values ...any) error {
	return fmt.Errorf("%w: %s", ErrSheet, fmt.Sprintf(format, values...))
}

// Table is a sheet as text. The heading is the first row with two filled cells; Rows does not hold it. Empty rows are
// left out, Lines keeps where each stood.
type Table struct {
	Name    string // of the sheet within its file, "" for CSV
	Sheets  []string
	Heading []string
	Rows    [][]string
	Lines   []int // the row number in the file, 1 is the first
	Notes   []string
	comma   bool // a semicolon parted the columns, so that commas are decimal
}

// Read makes a table of a file. Which kind of file it is is told by its content, not its name. The sheet names one of
// an XLSX file; "" is the first that has something in it.
func Read(data []byte, sheet string) (*Table, error) {
	if len(data) > MaxBytes {
		return nil, wrong("the file is larger than %d MB; split it", MaxBytes>>20)
	}
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) {
		return readXLSX(data, sheet)
	}
	if bytes.HasPrefix(data, []byte{0xd0, 0xcf, 0x11, 0xe0}) {
		return nil, wrong("it is in the old binary format; save it as XLSX or CSV")
	}
	return readCSV(data)
}

// decode turns bytes into text: UTF-8, UTF-16 with its mark, or Windows-1252, in which older programs write.
func decode(data []byte) (text string, note string, err error) {
	switch {
	case bytes.HasPrefix(data, []byte{0xef, 0xbb, 0xbf}):
		data = data[3:]
	case bytes.HasPrefix(data, []byte{0xff, 0xfe}), bytes.HasPrefix(data, []byte{0xfe, 0xff}):
		return decodeUTF16(data), "The file is in UTF-16.", nil
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return "", "", wrong("it is no text; save the list as CSV or XLSX")
	}
	if utf8.Valid(data) {
		return string(data), "", nil
	}
	decoded, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return "", "", wrong("its letters cannot be read; save it as UTF-8")
	}
	return string(decoded), "The file is not in UTF-8; its letters were read as Windows-1252. Look whether accents are right.", nil
}

func decodeUTF16(data []byte) string {
	little := data[0] == 0xff
	units := make([]uint16, 0, len(data)/2)
	for i := 2; i+1 < len(data); i += 2 {
		if little {
			units = append(units, uint16(data[i])|uint16(data[i+1])<<8)
		} else {
			units = append(units, uint16(data[i])<<8|uint16(data[i+1]))
		}
	}
	return string(utf16.Decode(units))
}

func readCSV(data []byte) (*Table, error) {
	text, note, err := decode(data)
	if err != nil {
		return nil, err
	}
	separator := separatorOf(text)
	if line := wideLine(text, separator); line > 0 {
		return nil, wrong("row %d has more than %d columns", line, MaxColumns)
	}
	reader := csv.NewReader(strings.NewReader(text))
	reader.Comma = separator
	reader.FieldsPerRecord = -1
	reader.LazyQuotes = true
	b := &builder{table: &Table{comma: separator == ';' || separator == '\t'}}
	for {
		record, err := reader.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, wrong("%v", err)
		}
		line, _ := reader.FieldPos(0)
		if err := b.add(line, record); err != nil {
			return nil, err
		}
	}
	if note != "" {
		b.table.Notes = append(b.table.Notes, note)
	}
	return b.done()
}

// mostMarks is how many marks a line may have: texts in quotes may hold some that part nothing.
const mostMarks = 2000

// wideLine is the number of the first line that has far more columns than a list, 0 for none.
func wideLine(text string, separator rune) int {
	n := 0
	for line := range strings.SplitSeq(text, "\n") {
		if n++; strings.Count(line, string(separator)) > mostMarks {
			return n
		}
	}
	return 0
}

// separatorOf finds what parts the columns: the mark of which the first lines have most, in equal numbers.
func separatorOf(text string) rune {
	var lines []string
	for line := range strings.SplitSeq(text, "\n") {
		if strings.TrimSpace(line) != "" {
			lines = append(lines, line)
		}
		if len(lines) == 20 {
			break
		}
	}
	best, bestScore := ',', -1
	for _, mark := range []rune{';', '\t', ',', '|'} {
		least := -1
		for _, line := range lines {
			if n := strings.Count(line, string(mark)); least < 0 || n < least {
				least = n
			}
		}
		if least > bestScore {
			best, bestScore = mark, least
		}
	}
	return best
}

func readXLSX(data []byte, sheet string) (*Table, error) {
	last, merged, err := lookInto(data)
	if err != nil {
		return nil, err
	}
	file, err := excelize.OpenReader(bytes.NewReader(data),
		excelize.Options{UnzipSizeLimit: mostPacked, UnzipXMLSizeLimit: mostPacked, RawCellValue: true})
	if err != nil {
		return nil, wrong("it cannot be opened (%v)", clip(err.Error()))
	}
	defer file.Close()
	sheets := file.GetSheetList()
	if len(sheets) == 0 {
		return nil, wrong("it has no sheet")
	}
	if sheet != "" && !slices.Contains(sheets, sheet) {
		return nil, wrong("it has no sheet %q", clip(sheet))
	}
	var table *Table
	for _, name := range sheets {
		if sheet != "" && name != sheet {
			continue
		}
		if table, err = readSheet(file, name, last); err == nil {
			break
		}
		if !errors.Is(err, errEmpty) {
			return nil, err
		}
	}
	if table == nil {
		return nil, err
	}
	table.Sheets = sheets
	if merged > 0 {
		table.Notes = append(table.Notes,
			fmt.Sprintf("%d groups of merged cells in the file: only the first cell of each has a value.", merged))
	}
	return table, nil
}

// readSheet reads a sheet row by row, up to the last with something in it.
func readSheet(file *excelize.File, name string, last int) (*Table, error) {
	rows, err := file.Rows(name)
	if err != nil {
		return nil, wrong("the sheet %q cannot be read (%v)", name, clip(err.Error()))
	}
	defer rows.Close()
	b := &builder{table: &Table{Name: name}}
	for line := 1; line <= last && rows.Next(); line++ {
		record, err := rows.Columns()
		if err != nil {
			return nil, wrong("row %d of the sheet %q cannot be read (%v)", line, name, clip(err.Error()))
		}
		if err := b.add(line, record); err != nil {
			return nil, err
		}
	}
	if err := rows.Error(); err != nil {
		return nil, wrong("the sheet %q breaks off (%v)", name, clip(err.Error()))
	}
	return b.done()
}

// builder collects rows within the limits.
type builder struct{ table *Table }

// add takes a row; empty ones are passed over.
func (b *builder) add(line int, record []string) error {
	if len(record) > MaxColumns {
		if strings.TrimSpace(strings.Join(record[MaxColumns:], "")) != "" {
			return wrong("row %d has more than %d columns", line, MaxColumns)
		}
		record = record[:MaxColumns]
	}
	cells := make([]string, len(record))
	empty := true
	for i, cell := range record {
		cells[i] = clean(cell)
		empty = empty && cells[i] == ""
	}
	if empty {
		return nil
	}
	if len(b.table.Rows) > MaxRows {
		return wrong("more than %d rows; a kit has fewer, split the file", MaxRows)
	}
	b.table.Rows = append(b.table.Rows, cells)
	b.table.Lines = append(b.table.Lines, line)
	return nil
}

func filled(cells []string) (n int) {
	for _, c := range cells {
		if c != "" {
			n++
		}
	}
	return n
}

var errEmpty = fmt.Errorf("%w: there is nothing in it", ErrSheet)

func (b *builder) done() (*Table, error) {
	t := b.table
	if len(t.Rows) == 0 {
		return nil, errEmpty
	}
	head := max(0, slices.IndexFunc(t.Rows, func(cells []string) bool { return filled(cells) > 1 }))
	for i := range head { // a title, a date, a line of thanks
		t.Notes = append(t.Notes, fmt.Sprintf("Row %d stands above the heading and was passed over: %s", t.Lines[i],
			clip(strings.Join(t.Rows[i], " "))))
	}
	first := t.Lines[head]
	t.Heading, t.Rows, t.Lines = t.Rows[head], t.Rows[head+1:], t.Lines[head+1:]
	if noHeading(t.Heading) { // the first row is a thing already
		t.Rows = slices.Insert(t.Rows, 0, t.Heading)
		t.Lines = slices.Insert(t.Lines, 0, first)
		t.Heading = make([]string, len(t.Heading))
		t.Notes = append(t.Notes, "There is no heading; choose what each column means.")
	}
	if len(t.Rows) == 0 {
		return nil, errEmpty
	}
	width := len(t.Heading)
	for _, r := range t.Rows {
		width = max(width, len(r))
	}
	for i := range t.Rows {
		t.Rows[i] = append(t.Rows[i], make([]string, width-len(t.Rows[i]))...)
	}
	t.Heading = append(t.Heading, make([]string, width-len(t.Heading))...)
	return t, nil
}

// noHeading reports whether a row has figures where a heading would have words.
func noHeading(cells []string) bool {
	return slices.ContainsFunc(cells, func(c string) bool {
		return c != "" && strings.IndexFunc(c, func(r rune) bool { return unicode.IsDigit(r) }) == 0
	})
}

// clean takes what a cell may hold: one line of printable letters, no longer than a name may be, without the mark
// that keeps a text from being a formula.
func clean(cell string) string {
	cell = strings.Join(strings.FieldsFunc(cell, func(r rune) bool {
		return unicode.IsSpace(r) || bundle.Hidden(r) || r == '\ufeff' || r == utf8.RuneError
	}), " ")
	if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune("=+-@", rune(cell[1])) {
		cell = cell[1:]
	}
	if r := []rune(cell); len(r) > maxCell {
		cell = string(r[:maxCell])
	}
	return cell
}

func clip(text string) string {
	if r := []rune(text); len(r) > 80 {
		return string(r[:80]) + "…"
	}
	return text
}
