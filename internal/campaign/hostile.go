package campaign

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"tornister/bundle"
)

// HostileFile is a file that was made to harm, and a word out of what is said of it; "" where it is read without
// harm.
type HostileFile struct {
	Data []byte
	Word string
}

// HostileBundles are texts that stopped or slowed the program, or were taken in silence.
func HostileBundles() map[string]HostileFile {
	const plain = `{"format":"tornister","version":1,
 "pack":{"id":"p","name":"Plain bag","mass_g":600,"zones":[{"id":"body","kind":"body","size_cm":[28,18,45],"openings":["top"]}]},
 "items":[{"id":"bag","name":"Sleeping bag","mass_g":900,"shape":{"kind":"soft","loose_l":10,"tight_l":6}},
  {"id":"pot","name":"Pot","mass_g":200,"shape":{"kind":"cylinder","diameter_cm":14,"length_cm":11}}]}`
	with := func(old, new string) []byte { return []byte(strings.Replace(plain, old, new, 1)) }
	var boxes []string
	for i := range bundle.MaxItems {
		boxes = append(
			boxes,
			fmt.Sprintf(
				`{"id":"i%d","mass_g":%d,"shape":{"kind":"box","size_cm":[%d,%d,%d]}}`,
				i,
				10+i,
				2+i%7,
				3+i%11,
				2+i%5,
			),
		)
	}
	full := func(litres string) []byte {
		return []byte(
			`{"format":"tornister","version":1,"pack":{"id":"p","zones":[{"id":"body","kind":"body","volume_l":` + litres + `}]},"items":[` + strings.Join(
				boxes,
				",",
			) + `]}`,
		)
	}
	return map[string]HostileFile{
		"1e999999999 grams": {with("900", "1e999999999"), "beyond what a number can be"},
		"a million digits":  {with("900", strings.Repeat("9", 1_000_000)), "1000000 characters"},
		"four million numbers as zones": {
			with(`"zones":[`, `"zones":[`+strings.Repeat("1,", bundle.MaxBytes/2-len(plain))),
			"entries",
		},
		"a hundred thousand lists deep": {with("900", strings.Repeat("[", 100_000)), "deep"},
		"a name twice in an object":     {with(`"mass_g":200`, `"mass_g":200,"mass_g":2000`), "second time"},
		"a name that turns the writing": {with(`"Pot"`, `"P\u202eot"`), "U+202E"},
		"a body of 1e-9 L":              {with(`"size_cm":[28,18,45]`, `"volume_l":1e-9`), "too little"},
		"a body half a centimetre deep": {with("[28,18,45]", "[28,0.5,45]"), "at least 3 cm"},
		"150 L in a box of 23 L": {
			with(`"size_cm":[28,18,45]`, `"size_cm":[28,18,45],"volume_l":150`),
			"do not go into",
		},
		"a pack like a house":             {with("[28,18,45]", "[190,190,190]"), "at most 300 L"},
		"500 boxes in 3 L":                {full("3"), ""},
		"500 boxes in 300 L":              {full("300"), ""},
		"zeros":                           {make([]byte, bundle.MaxBytes), "not JSON"},
		"brackets and nothing else, 8 MB": {bytes.Repeat([]byte("["), bundle.MaxBytes), "deep"},
		"one text of 8 MB": {
			with(`"Pot"`, `"`+strings.Repeat("x", bundle.MaxBytes-len(plain)-10)+`"`),
			"bytes long",
		},
	}
}

// altered is a good XLSX file with the text of its sheet, or another part, changed.
func altered(t testing.TB, part string, change func(string) string) []byte {
	file := excelize.NewFile()
	require.NoError(t, file.SetSheetRow("Sheet1", "A1", &[]any{"name", "weight"}))
	require.NoError(t, file.SetSheetRow("Sheet1", "A2", &[]any{"Pot", 140}))
	whole, err := file.WriteToBuffer()
	require.NoError(t, err)
	from, err := zip.NewReader(bytes.NewReader(whole.Bytes()), int64(whole.Len()))
	require.NoError(t, err)
	var out bytes.Buffer
	to := zip.NewWriter(&out)
	for _, f := range from.File {
		opened, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(opened)
		require.NoError(t, err)
		w, err := to.Create(f.Name)
		require.NoError(t, err)
		if f.Name == part {
			text = []byte(change(string(text)))
		}
		_, err = w.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, to.Close())
	return out.Bytes()
}

// HostileSheets are files of some kilobytes that took gigabytes or minutes, and what is said of each.
func HostileSheets(t testing.TB) map[string]HostileFile {
	const first, texts = "xl/worksheets/sheet1.xml", "xl/sharedStrings.xml"
	in := func(more string) func(string) string {
		return func(s string) string { return strings.Replace(s, "</sheetData>", more+"</sheetData>", 1) }
	}
	after := func(more string) func(string) string {
		return func(s string) string { return strings.Replace(s, "</sheetData>", "</sheetData>"+more, 1) }
	}
	return map[string]HostileFile{
		"a cell in the last column": {
			altered(t, first, in(`<row r="3"><c r="XFD3"><v>1</v></c></row>`)),
			"column 16384",
		},
		"merged over the whole sheet": {
			altered(t, first, after(`<mergeCells count="1"><mergeCell ref="A1:XFD1048576"/></mergeCells>`)),
			"",
		},
		"a million empty rows": {altered(t, first, in(strings.Repeat(`<row/>`, 1_000_000))), "rows"},
		"the last row": {
			altered(t, first, in(`<row r="1048576"><c r="A1048576"><v>1</v></c></row>`)),
			"",
		},
		"empty cells without end": {
			altered(t, first, in(`<row r="3">`+strings.Repeat(`<c r="A3"/>`, 900_000)+`</row>`)),
			"cells",
		},
		"a million texts": {
			altered(
				t,
				texts,
				func(string) string { return `<sst xmlns="x">` + strings.Repeat("<si/>", 1_000_000) + `</sst>` },
			),
			"texts",
		},
		"packed zeros": {
			altered(
				t,
				first,
				in(`<row r="3"><c t="inlineStr"><is><t>`+strings.Repeat("0", 60<<20)+`</t></is></c></row>`),
			),
			"MB",
		},
		"many styles": {altered(t, "xl/styles.xml", func(s string) string {
			return strings.Replace(s, "<fonts", strings.Repeat("<font/>", 900_000)+"<fonts", 1)
		}), "larger than 4 MB"},
		"deep tags":     {altered(t, first, in(strings.Repeat("<row>", 49_000))), ""},
		"wide text":     {[]byte("name,weight\n" + strings.Repeat(",", 8<<20-20)), "more than 80 columns"},
		"one long cell": {[]byte("name,weight\n\"" + strings.Repeat("x", 8<<20-30) + "\",1"), ""},
		"only quotes":   {[]byte(strings.Repeat("\"", 8<<20)), ""},
	}
}
