package sheet

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"tornister/core/kit"
	"tornister/core/unit"
)

// writtenFields are the columns of an export, in order: every field of an item.
var writtenFields = []string{"name", "group", "count", "mass", "carry", "shape", "loose", "tight", "gap", "length",
	"width", "height", "diameter", "displaced", "inside", "mouth", "measured", "uncertainty",
	"when", "per_day", "urgent", "absorbs", "suffers", "case", "leaks", "returns_wet", "traits", "functions",
	"consumable", "nest_in", "day", "expires", "carried", "used", "follows", "fixed", "made_small", "instead",
	"comfort_c", "limit_c", "r_value", "kind", "id", "shelf"}

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
	units := columnUnits(system)
	heading := make([]string, len(writtenFields))
	for i, key := range writtenFields {
		f, _ := FieldOf(key)
		heading[i] = f.Names[0]
		if u := units[f.Kind]; u != "" {
			heading[i] += " (" + strings.Replace(u, "cuin", "cu in", 1) + ")"
		}
	}
	rows := [][]string{heading}
	for i := range items {
		row := make([]string, len(writtenFields))
		for c, key := range writtenFields {
			f, _ := FieldOf(key)
			row[c] = safe(textOf(&items[i], key, perUnit[units[f.Kind]]))
		}
		rows = append(rows, row)
	}
	return rows
}

// textOf is one cell of an item.
func textOf(it *kit.Item, key string, factor float64) string {
	s := it.Shape
	figure := func(v float64) string {
		if v == 0 {
			return ""
		}
		return strconv.FormatFloat(rounded(v/max(factor, 1e-9)), 'f', -1, 64)
	}
	plain := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	yes := func(b bool) string { return map[bool]string{true: "yes", false: "no"}[b] }
	list := func(words []string) string {
		if len(words) == 0 {
			return "-"
		}
		return strings.Join(words, " ")
	}
	switch key {
	case "name":
		return it.Name
	case "group":
		return it.Group
	case "count":
		return strconv.Itoa(it.Count)
	case "mass":
		return strconv.FormatFloat(rounded(it.MassG/factor), 'f', -1, 64)
	case "carry":
		return string(it.Carry)
	case "shape":
		return string(s.Kind)
	case "loose":
		return figure(s.LooseL)
	case "tight":
		return figure(s.TightL)
	case "gap":
		return figure(s.GapCm)
	case "length":
		return figure(max(s.LengthCm, s.SizeCm[0]))
	case "width":
		return figure(s.SizeCm[1])
	case "height":
		return figure(s.SizeCm[2])
	case "diameter":
		return figure(s.DiameterCm)
	case "displaced":
		return figure(s.VolumeL)
	case "inside":
		return figure(s.InsideL)
	case "mouth":
		return figure(s.MouthCm)
	case "measured":
		return string(it.Measured)
	case "uncertainty":
		return map[bool]string{true: plain(it.Spread)}[it.Spread > 0]
	case "when":
		return string(it.Use.When)
	case "per_day":
		return plain(it.Use.PerDay)
	case "urgent":
		return yes(it.Use.Urgent)
	case "absorbs":
		return yes(it.Water.Absorbs)
	case "suffers":
		return yes(it.Water.Suffers)
	case "case":
		return it.Water.Case
	case "leaks":
		return yes(it.Water.Leaks)
	case "returns_wet":
		return yes(it.Water.ReturnsWet)
	case "traits":
		words := make([]string, len(it.Traits))
		for i, t := range it.Traits {
			words[i] = string(t)
		}
		return list(words)
	case "functions":
		return list(it.Functions)
	case "consumable":
		return it.Consumable
	case "nest_in":
		return it.NestIn
	case "day":
		return map[bool]string{true: strconv.Itoa(it.Day)}[it.Day > 0]
	case "expires":
		return it.Expires
	case "carried":
		return map[bool]string{true: strconv.Itoa(it.History.Carried)}[it.History.Carried > 0]
	case "used":
		return map[bool]string{true: strconv.Itoa(it.History.Used)}[it.History.Used > 0]
	case "follows":
		return it.Follows
	case "fixed":
		return map[bool]string{true: "yes"}[it.Fixed]
	case "made_small":
		return strings.Join(it.MadeSmall, " ")
	case "comfort_c":
		return degrees(it.ComfortC)
	case "limit_c":
		return degrees(it.LimitC)
	case "r_value":
		return map[bool]string{true: plain(it.RValue)}[it.RValue > 0]
	case "instead":
		return it.Instead
	case "kind":
		return it.Kind
	case "id":
		return it.ID
	case "shelf":
		return it.Shelf
	}
	return ""
}

// degrees is a temperature that may not be known; a minus in front of a figure is no formula.
func degrees(c *float64) string {
	if c == nil {
		return ""
	}
	return strconv.FormatFloat(*c, 'f', -1, 64)
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
	for r, row := range grid(items, system) {
		cells := make([]any, len(row))
		for c, text := range row {
			cells[c] = text
			if f, _ := FieldOf(writtenFields[c]); r > 0 && (f.Kind != "" || writtenFields[c] == "count") && text != "" {
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
