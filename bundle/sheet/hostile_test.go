package sheet_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"tornister/bundle/sheet"
)

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

// hostileSheets are files of some kilobytes that took gigabytes or minutes, and what is said of each.
func hostileSheets(t testing.TB) map[string]struct {
	data []byte
	word string
} {
	const first, texts = "xl/worksheets/sheet1.xml", "xl/sharedStrings.xml"
	in := func(more string) func(string) string {
		return func(s string) string { return strings.Replace(s, "</sheetData>", more+"</sheetData>", 1) }
	}
	after := func(more string) func(string) string {
		return func(s string) string { return strings.Replace(s, "</sheetData>", "</sheetData>"+more, 1) }
	}
	return map[string]struct {
		data []byte
		word string
	}{
		"a cell in the last column":   {altered(t, first, in(`<row r="3"><c r="XFD3"><v>1</v></c></row>`)), "column 16384"},
		"merged over the whole sheet": {altered(t, first, after(`<mergeCells count="1"><mergeCell ref="A1:XFD1048576"/></mergeCells>`)), ""},
		"a million empty rows":        {altered(t, first, in(strings.Repeat(`<row/>`, 1_000_000))), "rows"},
		"the last row":                {altered(t, first, in(`<row r="1048576"><c r="A1048576"><v>1</v></c></row>`)), ""},
		"empty cells without end":     {altered(t, first, in(`<row r="3">`+strings.Repeat(`<c r="A3"/>`, 900_000)+`</row>`)), "cells"},
		"a million texts":             {altered(t, texts, func(string) string { return `<sst xmlns="x">` + strings.Repeat("<si/>", 1_000_000) + `</sst>` }), "texts"},
		"packed zeros":                {altered(t, first, in(`<row r="3"><c t="inlineStr"><is><t>`+strings.Repeat("0", 60<<20)+`</t></is></c></row>`)), "MB"},
		"many styles": {altered(t, "xl/styles.xml", func(s string) string {
			return strings.Replace(s, "<fonts", strings.Repeat("<font/>", 900_000)+"<fonts", 1)
		}), "larger than 4 MB"},
		"deep tags":     {altered(t, first, in(strings.Repeat("<row>", 49_000))), ""},
		"wide text":     {[]byte("name,weight\n" + strings.Repeat(",", 8<<20-20)), "more than 80 columns"},
		"one long cell": {[]byte("name,weight\n\"" + strings.Repeat("x", 8<<20-30) + "\",1"), ""},
		"only quotes":   {[]byte(strings.Repeat("\"", 8<<20)), ""},
	}
}

func TestHostileSheetsEndInTime(t *testing.T) {
	if os.Getenv("TORNISTER_HOSTILE") == "" {
		t.Parallel()
		if _, err := os.Stat("/proc/self/status"); err != nil {
			t.Skip("the system does not tell the most room taken")
		}
		cmd := exec.Command(os.Args[0], "-test.run", "^TestHostileSheetsEndInTime$", "-test.v") // the room of this one alone
		cmd.Env = append(os.Environ(), "TORNISTER_HOSTILE=1", "GOMEMLIMIT=200MiB")
		out, err := cmd.CombinedOutput()
		assert.NoError(t, err, string(out))
		return
	}
	for name, c := range hostileSheets(t) {
		start := time.Now()
		table, err := sheet.Read(c.data, "")
		took := time.Since(start)
		if c.word != "" {
			assert.ErrorIs(t, err, sheet.ErrSheet, name)
			assert.ErrorContains(t, err, c.word, name)
		} else if err == nil {
			assert.NotNil(t, table, name)
		}
		fmt.Printf("%s: %d kB, %v, %v\n", name, len(c.data)>>10, took.Round(time.Millisecond), err)
		assert.Less(t, took, 6*time.Second, name) // two on an idle machine
	}
	status, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	var peak int
	for line := range strings.SplitSeq(string(status), "\n") {
		_, _ = fmt.Sscanf(line, "VmHWM: %d kB", &peak)
	}
	fmt.Printf("most room taken: %d MB, files built here included\n", peak>>10)
	assert.Less(t, peak, 500<<10, "kB; three hundred megabytes without the files built here")
}
