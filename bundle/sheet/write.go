package sheet

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"tornister/core/kit"
	"tornister/core/unit"
)

// written are the columns of an export, in order: every field of an item.
func written() []Field {
	return slices.DeleteFunc(slices.Clone(Fields), func(f Field) bool { return f.write == nil })
}

// columnUnits are the units of an export.
func columnUnits(system unit.System) map[string]string {
	if system == unit.Customary {
		return map[string]string{"mass": "oz", "litres": "cuin", "length": "in"}
	}
	return map[string]string{"mass": "g", "litres": "l", "length": "cm"}
}

var perUnit = map[string]float64{"g": 1, "oz": unit.Ounce, "l": 1, "cuin": unit.CubicInch, "cm": 1, "in": unit.Inch}

// grid is the list as text, the heading first.
func grid(items []kit.Item, system unit.System) [][]string {
	units, fields := columnUnits(system), written()
	heading := make([]string, len(fields))
	for i, f := range fields {
		heading[i] = f.Names[0]
		if u := units[f.Kind]; u != "" {
			heading[i] += " (" + strings.Replace(u, "cuin", "cu in", 1) + ")"
		}
	}
	rows := [][]string{heading}
	for i := range items {
		row := make([]string, len(fields))
		for c, f := range fields {
			row[c] = safe(f.write(&items[i], cmp.Or(perUnit[units[f.Kind]], 1)))
		}
		rows = append(rows, row)
	}
	return rows
}

// safe keeps a text from being run as a formula by the program that opens it.
func safe(text string) string {
	if text != "" && strings.ContainsRune("=+-@\t\r", rune(text[0])) && text != "-" {
		if _, err := strconv.ParseFloat(text, 64); err == nil && text[0] == '-' {
			return text // a negative figure
		}
		return "'" + text
	}
	return text
}

// WriteCSV takes a kit list out as CSV (UTF-8, RFC 4180).
func WriteCSV(out io.Writer, items []kit.Item, system unit.System) error {
	w := csv.NewWriter(out)
	w.UseCRLF = true
	if err := w.WriteAll(grid(items, system)); err != nil {
		return fmt.Errorf("write CSV: %w", err)
	}
	return nil
}

// WriteXLSX takes a kit list out as a workbook with one sheet; figures are figures, everything else is text.
func WriteXLSX(out io.Writer, items []kit.Item, system unit.System) error {
	file := excelize.NewFile()
	defer file.Close()
	const name = "Kit"
	if err := file.SetSheetName("Sheet1", name); err != nil {
		return fmt.Errorf("write XLSX: %w", err)
	}
	fields := written()
	for r, row := range grid(items, system) {
		cells := make([]any, len(row))
		for c, text := range row {
			cells[c] = text
			if f := fields[c]; r > 0 && (f.Kind != "" || f.Key == "count") && text != "" {
				if v, err := strconv.ParseFloat(text, 64); err == nil {
					cells[c] = v
				}
			}
		}
		if err := file.SetSheetRow(name, fmt.Sprintf("A%d", r+1), &cells); err != nil {
			return fmt.Errorf("write XLSX: %w", err)
		}
	}
	if err := file.SetColWidth(name, "A", "A", 32); err != nil {
		return fmt.Errorf("write XLSX: %w", err)
	}
	var buffer bytes.Buffer
	if err := file.Write(&buffer); err != nil {
		return fmt.Errorf("write XLSX: %w", err)
	}
	_, err := out.Write(buffer.Bytes())
	return err
}

// WriteRefused takes the rows out that could not be read, with the reason, so that they can be mended and brought
// again.
func WriteRefused(out io.Writer, t *Table, rows []Row) error {
	w := csv.NewWriter(out)
	w.UseCRLF = true
	if err := w.Write(append(safeAll(t.Heading), "row", "why not")); err != nil {
		return err
	}
	for _, r := range rows {
		if r.Reason != "" {
			if err := w.Write(append(safeAll(r.Cells), strconv.Itoa(r.Line), safe(r.Reason))); err != nil {
				return err
			}
		}
	}
	w.Flush()
	return w.Error()
}

func safeAll(cells []string) []string {
	out := make([]string, len(cells), len(cells)+2)
	for i, c := range cells {
		out[i] = safe(c)
	}
	return out
}
