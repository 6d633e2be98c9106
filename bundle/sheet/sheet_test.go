package sheet_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"tornister/bundle"
	"tornister/bundle/sheet"
	"tornister/core/kit"
	"tornister/core/unit"
	"tornister/demo"
)

func items(t *testing.T, data []byte) ([]kit.Item, []sheet.Row, *sheet.Table) {
	table, err := sheet.Read(data, "")
	require.NoError(t, err)
	rows := sheet.Items(table, sheet.Propose(table))
	var list []kit.Item
	for _, r := range rows {
		if r.Item != nil {
			it, err := bundle.CompleteItem(r.Item)
			require.NoError(t, err)
			list = append(list, *it)
		}
	}
	return list, rows, table
}

// Three sheets of different shape: headings in another language with decimal commas and semicolons, ounces with units
// in the cells, and a sum of several with its own order.
func TestSheetsOfDifferentShape(t *testing.T) {
	t.Parallel()
	german := "Meine Packliste;;;\r\n\r\nKategorie;Gegenstand;Gewicht (kg);Anzahl;Volumen in Liter\r\nSchlafen;Schlafsack;0,95;1;7,5\r\n;Socken;0,08;2;\r\nKüche;Kocher;0,085;;\r\nSumme;Gesamt;1,2;;\r\n"
	list, rows, table := items(t, []byte(german))
	assert.Len(t, table.Notes, 1, "the title is passed over")
	require.Len(t, list, 3)
	assert.Equal(t, "Schlafsack", list[0].Name)
	assert.InDelta(t, 950, list[0].MassG, 1e-9)
	assert.InDelta(t, 7.5, list[0].Shape.Litres(0), 1e-9)
	assert.Equal(t, "sleep", list[0].Group)
	assert.Equal(t, 2, list[1].Count)
	assert.Contains(t, rows[3].Reason, "sum")

	ounces := "Item,Qty,Weight,Worn\nRain jacket,1,13.4 oz,no\n\"Sleeping bag, down\",1,2 lb 4 oz,\nSocks,2,2.5,yes\nBad thing,one,1 oz,\n,,,\n"
	list, rows, _ = items(t, []byte(ounces))
	require.Len(t, list, 3)
	assert.InDelta(t, 13.4*unit.Ounce, list[0].MassG, 1e-6)
	assert.InDelta(t, 36*unit.Ounce, list[1].MassG, 1e-4)
	assert.Equal(t, "down-sleeping-bag", list[1].Kind)
	assert.Equal(t, kit.Worn, list[2].Carry)
	require.Len(t, rows, 4, "the empty row is no row")
	assert.Contains(t, rows[3].Reason, "count")
	assert.Equal(t, 5, rows[3].Line)

	french := "désignation\tquantité\tpoids total\tlongueur\tlargeur\thauteur\nTrousse de secours\t1\t240 g\t17\t11\t6\nBouteille\t2\t2180\t\t\t\n"
	list, _, _ = items(t, []byte(french))
	require.Len(t, list, 2)
	assert.Equal(t, [3]float64{17, 11, 6}, list[0].Shape.SizeCm)
	assert.InDelta(t, 1090, list[1].MassG, 1e-9, "the weight of all, shared by two")
}

func TestOutAndInAgainIsEqual(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	b.Task.Items[0].History = kit.History{Carried: 3, Used: 2}
	b.Task.Items[1].Instead = "warm things"
	b.Task.Items[1].MassFrom = "weighed"
	b.Task.Items[1].Needs, b.Task.Items[2].Needs = []string{"poles", "pegs"}, []string{}
	mat := slices.IndexFunc(b.Task.Items, func(it kit.Item) bool { return it.Shape.Kind == kit.Cylinder })
	b.Task.Items[mat].Shape.Gives = 1.5
	b.Task.Items[3].Name = "=HYPERLINK(\"x\")"
	b.Task.Items[4].Name = `Mat, "thin"; <b>`
	b.Task.Items[5].Name = "-5 degree bag"
	for name, write := range map[string]func(*bytes.Buffer) error{
		"csv":  func(out *bytes.Buffer) error { return sheet.WriteCSV(out, b.Task.Items, unit.Metric) },
		"xlsx": func(out *bytes.Buffer) error { return sheet.WriteXLSX(out, b.Task.Items, unit.Metric) },
	} {
		var out bytes.Buffer
		require.NoError(t, write(&out), name)
		list, rows, _ := items(t, out.Bytes())
		for _, r := range rows {
			require.Empty(t, r.Reason, "%s row %d", name, r.Line)
		}
		require.Len(t, list, len(b.Task.Items), name)
		for i := range list {
			want, got := b.Task.Items[i], list[i]
			assert.ElementsMatch(t, want.Traits, got.Traits)
			assert.ElementsMatch(t, want.Functions, got.Functions)
			want.Traits, got.Traits, want.Functions, got.Functions = nil, nil, nil, nil
			assert.Equal(t, want, got, name)
		}
	}
	var out bytes.Buffer
	require.NoError(t, sheet.WriteCSV(&out, b.Task.Items, unit.Customary))
	list, _, _ := items(t, out.Bytes())
	for i := range list {
		assert.InDelta(t, b.Task.Items[i].MassG, list[i].MassG, 1e-4)
		assert.InDelta(t, b.Task.Items[i].Shape.Litres(0), list[i].Shape.Litres(0), 1e-5)
	}
}

func TestFormulasAreKeptFromRunning(t *testing.T) {
	t.Parallel()
	list := []kit.Item{{ID: "a", Name: "=1+1", Count: 1}, {ID: "b", Name: "@cmd", Count: 1},
		{ID: "c", Name: "+49", Count: 1}}
	var out bytes.Buffer
	require.NoError(t, sheet.WriteCSV(&out, list, unit.Metric))
	records, err := csv.NewReader(&out).ReadAll()
	require.NoError(t, err)
	for _, record := range records[1:] {
		assert.Equal(t, byte('\''), record[0][0], record[0])
	}
	var book bytes.Buffer
	require.NoError(t, sheet.WriteXLSX(&book, list, unit.Metric))
	file, err := excelize.OpenReader(&book)
	require.NoError(t, err)
	formula, err := file.GetCellFormula("Kit", "A2")
	require.NoError(t, err)
	assert.Empty(t, formula)
}

func workbook(t *testing.T, fill func(*excelize.File)) []byte {
	file := excelize.NewFile()
	fill(file)
	var out bytes.Buffer
	require.NoError(t, file.Write(&out))
	return out.Bytes()
}

func TestWorkbooksWithMergedCellsAndFormulas(t *testing.T) {
	t.Parallel()
	data := workbook(t, func(f *excelize.File) {
		require.NoError(t, f.SetSheetRow("Sheet1", "A1", &[]any{"My kit for the hills"}))
		require.NoError(t, f.MergeCell("Sheet1", "A1", "D1"))
		require.NoError(t, f.SetSheetRow("Sheet1", "A3", &[]any{"Category", "Item", "Weight [g]", "Count"}))
		require.NoError(t, f.SetSheetRow("Sheet1", "A4", &[]any{"Sleep", "Down quilt", 640, 1}))
		require.NoError(t, f.SetSheetRow("Sheet1", "A5", &[]any{"", "Foam mat", nil, 1}))
		require.NoError(t, f.MergeCell("Sheet1", "A4", "A5"))
		require.NoError(t, f.SetCellFormula("Sheet1", "C5", `=WEBSERVICE("http://example.invalid")`))
		require.NoError(t, f.SetSheetRow("Sheet1", "A90000", &[]any{"", "Far away", 5, 1}))
	})
	list, _, table := items(t, data)
	require.Len(t, list, 3)
	assert.Equal(t, "Down quilt", list[0].Name)
	assert.InDelta(t, 640, list[0].MassG, 1e-9)
	assert.Positive(t, list[1].MassG, "a formula without a value gives none; the kind's weight is a guess")
	assert.Contains(t, strings.Join(table.Notes, " "), "merged")
	assert.Equal(t, 90000, table.Lines[2])
}

func TestFilesThatAreNoLists(t *testing.T) {
	t.Parallel()
	var many strings.Builder
	many.WriteString("name,weight\n")
	for i := range sheet.MaxRows + 5 {
		fmt.Fprintf(&many, "thing %d,5\n", i)
	}
	for name, data := range map[string][]byte{
		"nothing": {}, "blank lines": []byte("\n\n,,\n"), "only a heading": []byte("name,weight\n"),
		"an old workbook": {0xd0, 0xcf, 0x11, 0xe0, 1, 2}, "a picture": {0x89, 'P', 'N', 'G', 0, 0, 1},
		"a broken workbook": []byte("PK\x03\x04 and then nothing"), "a million rows": []byte(many.String()),
		"a wide row": []byte(strings.Repeat("x,", 300) + "\n1,2\n"), "huge": make([]byte, sheet.MaxBytes+1),
	} {
		_, err := sheet.Read(data, "")
		assert.ErrorIs(t, err, sheet.ErrSheet, name)
	}
}

func TestEncodings(t *testing.T) {
	t.Parallel()
	list, _, table := items(t, []byte("Name;Gewicht\nHandschuhe f\xfcr K\xe4lte;50\n"))
	require.Len(t, list, 1)
	assert.Equal(t, "Handschuhe für Kälte", list[0].Name)
	assert.NotEmpty(t, table.Notes)
	utf16 := []byte{0xff, 0xfe}
	for _, r := range "name,weight\nHut,60\n" {
		utf16 = append(utf16, byte(r), 0)
	}
	list, _, _ = items(t, utf16)
	require.Len(t, list, 1)
	assert.Equal(t, "Hut", list[0].Name)
	list, _, _ = items(t, []byte("\xef\xbb\xbfname,weight\nHat,\"1,250\"\n"))
	assert.InDelta(t, 1250, list[0].MassG, 1e-9, "parted thousands")
}

func TestRefusedRowsCanBeMended(t *testing.T) {
	t.Parallel()
	table, err := sheet.Read([]byte("name,weight,good until\nPot,heavy,\n=Pan,140,2027-13-40\nMug,65,31.12.2027\n"), "")
	require.NoError(t, err)
	rows := sheet.Items(table, sheet.Propose(table))
	assert.NotEmpty(t, rows[0].Reason)
	assert.NotEmpty(t, rows[1].Reason)
	require.Empty(t, rows[2].Reason)
	assert.Equal(t, "2027-12-31", rows[2].Item["expires"])
	var out bytes.Buffer
	require.NoError(t, sheet.WriteRefused(&out, table, rows))
	assert.Contains(t, out.String(), "'=Pan")
	assert.NotContains(t, out.String(), "Mug")
}

func TestIntoAList(t *testing.T) {
	t.Parallel()
	b, err := bundle.Read(demo.LoneWalker)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, sheet.WriteCSV(&out, b.Task.Items, unit.Metric))
	_, rows, _ := items(t, out.Bytes())
	doc := b.Doc.Clone()
	sheet.Into(doc, rows, true)
	again, err := bundle.FromDoc(doc)
	require.NoError(t, err)
	assert.Equal(t, len(b.Task.Items), len(again.Task.Items))
	sheet.Into(doc, rows, false)
	twice, err := bundle.FromDoc(doc)
	require.NoError(t, err)
	assert.Len(t, twice.Task.Items, 2*len(b.Task.Items))
}

func FuzzRead(f *testing.F) {
	for _, seed := range []string{"name,weight\nPot,140\n", "a;b\n1;2", "\xff\xfen\x00", "PK\x03\x04", "\"",
		"name\n=1+1\n"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		table, err := sheet.Read(data, "")
		if err != nil {
			return
		}
		for _, row := range sheet.Items(table, sheet.Propose(table)) {
			if (row.Item == nil) == (row.Reason == "") {
				t.Fatalf("row %d is neither read nor refused", row.Line)
			}
		}
	})
}
