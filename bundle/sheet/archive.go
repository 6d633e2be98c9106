package sheet

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"path"
	"strconv"
	"strings"
)

// What the parts of an XLSX file may hold. A kit of two thousand rows takes a tenth of it.
const (
	mostParts   = 300
	mostXML     = 16 << 20 // bytes of all parts in XML, unpacked
	mostPacked  = 48 << 20 // bytes of all parts, unpacked
	mostOther   = 4 << 20  // bytes of a part that is neither a sheet nor its texts
	mostRowTags = 50_000   // rows of a sheet, with those that only have a format
	mostRowAt   = 1 << 20  // number of the last row with something in it
	mostTexts   = 100_000  // shared texts
	mostCells   = 400_000  // cells of a sheet, with those that only have a format
)

// looked is what a part of a file turned out to hold before the library reads it.
type looked struct {
	rows, cells, texts, merged int
	lastRow                    int // with something in it
}

// lookInto reads all parts of an XLSX file once, keeping nothing, and refuses what would take more time or room than
// a kit list can need. It gives the last row with something in it, in whichever sheet, and how many groups of merged
// cells there are.
func lookInto(data []byte) (lastRow, merged int, err error) {
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return 0, 0, wrong("it cannot be opened (%v)", clip(err.Error()))
	}
	if len(archive.File) > mostParts {
		return 0, 0, wrong("it has %d parts; save the list alone", len(archive.File))
	}
	var inXML, inAll uint64
	for _, file := range archive.File {
		size := file.UncompressedSize64 // the reader of the archive ends at it
		if inAll += size; inAll > mostPacked {
			return 0, 0, wrong("unpacked it has more than %d MB; save the list alone", mostPacked>>20)
		}
		if kind := strings.ToLower(path.Ext(file.Name)); kind != ".xml" && kind != ".rels" && kind != ".vml" {
			continue // pictures and the like, which nothing here looks into
		}
		if inXML += size; inXML > mostXML {
			return 0, 0, wrong(
				"its sheets are larger than %d MB unpacked, most likely by rows that are empty but have a format; delete them, or save the list as CSV",
				mostXML>>20,
			)
		}
		opened, err := file.Open()
		if err != nil {
			return 0, 0, wrong("its part %q cannot be read (%v)", clip(file.Name), clip(err.Error()))
		}
		part, err := lookAt(opened)
		_ = opened.Close()
		if err != nil {
			return 0, 0, err
		}
		if size > mostOther && part.rows == 0 && part.texts == 0 {
			return 0, 0, wrong("its part %q is larger than %d MB; save the list alone", clip(file.Name), mostOther>>20)
		}
		lastRow, merged = max(lastRow, part.lastRow), merged+part.merged
	}
	return lastRow, merged, nil
}

// lookAt walks over the tags of a part. What is no XML is left to the library to refuse.
func lookAt(r io.Reader) (looked, error) {
	var part looked
	decoder := xml.NewDecoder(r)
	decoder.Strict = false
	row, cell, column := 0, "", 0
	for {
		token, err := decoder.RawToken()
		if err != nil {
			if errors.Is(err, zip.ErrFormat) || errors.Is(err, zip.ErrChecksum) {
				return part, wrong("it is damaged (%v)", err)
			}
			return part, nil
		}
		switch t := token.(type) {
		case xml.StartElement:
			switch t.Name.Local {
			case "row":
				part.rows++
				row++
				if n, err := strconv.Atoi(attribute(t, "r")); err == nil {
					row = n
				}
				column = 0
			case "c":
				part.cells++
				column++
				if cell = attribute(t, "r"); cell != "" {
					column = columnOf(cell)
				}
			case "si":
				part.texts++
			case "mergeCell":
				part.merged++
			case "v", "is", "f":
				if row > 0 && column > MaxColumns {
					return part, wrong("cell %s stands in column %d; at most %d are read", clip(cell), column, MaxColumns)
				}
				if part.lastRow = max(part.lastRow, row); part.lastRow > mostRowAt {
					return part, wrong("something stands in row %d; at most %d rows are read, within the first %d", row, MaxRows,
						mostRowAt)
				}
			}
		}
		switch {
		case part.rows > mostRowTags:
			return part, wrong(
				"a sheet has more than %d rows, most of them empty; delete them, or save the list as CSV",
				mostRowTags,
			)
		case part.cells > mostCells:
			return part, wrong(
				"a sheet has more than %d cells, most of them empty; delete them, or save the list as CSV",
				mostCells,
			)
		case part.texts > mostTexts:
			return part, wrong("it has more than %d texts; save the list alone", mostTexts)
		case part.merged > mostRowTags:
			return part, wrong(
				"it has more than %d groups of merged cells; part them, or save the list as CSV",
				mostRowTags,
			)
		}
	}
}

func attribute(t xml.StartElement, name string) string {
	for _, a := range t.Attr {
		if a.Name.Local == name && a.Name.Space == "" {
			return a.Value
		}
	}
	return ""
}

// columnOf is the number of the column in the name of a cell, 1 for A; what is beyond any sheet is a million.
func columnOf(cell string) (n int) {
	for _, r := range cell {
		switch {
		case r >= 'A' && r <= 'Z':
			n = 26*n + int(r-'A') + 1
		case r >= 'a' && r <= 'z':
			n = 26*n + int(r-'a') + 1
		default:
			return n
		}
		if n > 1_000_000 {
			return n
		}
	}
	return n
}
