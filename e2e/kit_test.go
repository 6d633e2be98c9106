package e2e

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/kit"
	"tornister/demo"
	"tornister/internal/sample"
)

// thirty things as people type them.
var thirty = []string{"down bag 950 g 7 l", "air mat 450 g", "tent for one 1.3 kg", "pegs", "groundsheet",
	"pot 0.9 l", "stove", "lighter", "matches", "mug 65 g", "spoon", "rain jacket 380 g", "rain trousers",
	"insulated jacket 12 oz", "hat and gloves", "spare clothes 500 g", "2 x socks", "first aid kit", "survival bag",
	"whistle worn", "headlamp", "spare light", "map", "compass", "phone", "power bank 180 g",
	"wash kit", "trowel", "sun cream", "water filter"}

// From an empty database to a verdict with its confidence: name and dates of a trip, a pack, thirty things typed one
// after the other, Load. docs/actions.md counts the actions.
func TestFromNothingByTyping(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := openWith(t, 1280, 800, thoroughly)
	b.goTo("/")
	actions := 0
	act := func(steps ...step) {
		actions++
		b.do(steps...)
	}
	act(chromedp.KeyEvent("n"))
	act(chromedp.KeyEvent("A weekend on the rim"))
	eval[any](b, `document.querySelector("[name=start]").value = "2026-09-04T13:00"; document.querySelector("[name=end]").value = "2026-09-06T11:30"`)
	actions += 2
	act(click("#new-trip button"))
	b.says("#verdict", "to pack")
	b.until(`document.querySelectorAll(".kit-name").length >= 5`) // food, gas and water are there already
	already := eval[int](b, `document.querySelectorAll(".kit-name").length`)
	b.until(`document.activeElement.id === "field-new"`)
	for _, line := range thirty {
		act(typed(line))
		b.until(`document.querySelector("#field-new").value === "" && document.activeElement.id === "field-new"`)
	}
	b.until(`document.querySelectorAll(".kit-name").length >= ` + jsonOf(already+len(thirty)))
	b.says(".detail", "fits")
	b.until(`!document.querySelector("#searching")`)
	b.says(".checks", "in 100")
	assert.Equal(t, 35, actions, "docs/actions.md says how many")
	b.onlyHere()
}

func jsonOf(v any) string {
	text, _ := json.Marshal(v)
	return string(text)
}

// The same with the list pasted.
func TestFromNothingByPasting(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := openWith(t, 1280, 800, briefly)
	b.goTo("/")
	b.do(chromedp.KeyEvent("n"), chromedp.KeyEvent("Pasted\r"))
	b.says("#verdict", "to pack")
	eval[any](b, `{ const data = new DataTransfer(); data.setData("text", `+jsonOf(strings.Join(thirty,
		"\n"))+`); const line = document.querySelector("#field-new"); line.focus(); line.dispatchEvent(new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true})); }`)
	b.until(`document.activeElement.id === "field-lines" && document.activeElement.value.includes("water filter")`)
	b.do(click(`.paste button`))
	b.until(`document.querySelectorAll(".kit-name").length > 30`)
	b.says("#undo", "add 30 things")
	b.onlyHere()
}

// sheets of different shape: another language with decimal commas, ounces, a workbook's own columns.
var sheets = map[string]struct {
	text string
	name string
	mass float64
}{
	"liste.csv": {"Packliste 2026;;;\nBereich;Gegenstand;Gewicht (kg);Anzahl\nSchlafen;Schlafsack;0,95;1\nKüche;Topf;0,14;1\n", "Schlafsack", 950},
	"ounces.csv": {"Item,Qty,Weight,Worn\nRain jacket,1,13.4 oz,no\nFleece,1,1 lb 4 oz,yes\n", "Fleece",
		20 * 28.349523125},
	"liste.tsv": {"désignation\tquantité\tpoids\tlongueur\tlargeur\thauteur\nTrousse de secours\t1\t0,24 kg\t17\t11\t6\n", "Trousse de secours", 240},
}

func TestSpreadsheetsThroughTheBrowser(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	folder := t.TempDir()
	bring := func(name, text string, replace bool) {
		file := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		b.goTo("/trips/1/sheet")
		b.until(`!document.querySelector("#searching")`) // the button does not move any more
		b.do(chromedp.SetUploadFiles(chromedp.CSS("#field-sheet"), []string{file}), click("#upload button"))
		b.says("#verdict", "can be brought in")
		if replace {
			b.do(click(`#bring [name=replace]`))
		}
		b.do(click("#bring-in"))
		b.until(`location.pathname === "/trips/1/layout"`)
		b.says("#undo", "bring in")
	}
	for name, s := range sheets {
		bring(name, s.text, false)
		it := b.item(s.name)
		require.NotNil(t, it, name)
		assert.InDelta(t, s.mass, it.MassG, 0.01, name)
	}
	csv := eval[string](b, `fetch("/trips/1/kit.csv").then(r => r.text())`)
	before := b.items()
	bring("again.csv", csv, true)
	assert.Equal(t, before, b.items(), "exported and imported again: equal")
	b.onlyHere()
}

// items are the things of trip 1 as the open format has them, completed.
func (b *browser) items() []kit.Item {
	text := eval[string](b, `fetch("/trips/1/bundle.json").then(r => r.text())`)
	read, err := bundle.Read([]byte(text))
	require.NoError(b, err)
	for i := range read.Task.Items { // an empty list and none are the same
		if it := &read.Task.Items[i]; len(it.Traits) == 0 {
			it.Traits = nil
		}
		if it := &read.Task.Items[i]; len(it.Functions) == 0 {
			it.Functions = nil
		}
	}
	return read.Task.Items
}

func (b *browser) item(name string) *kit.Item {
	items := b.items()
	for i := range items {
		if items[i].Name == name {
			return &items[i]
		}
	}
	return nil
}

// A kit that is too large is made to fit by keyboard: the least-cost set is tried, taken, and taken back.
func TestShrinkByKeyboard(t *testing.T) {
	t.Parallel()
	small := strings.NewReplacer(`"size_cm": [22, 15, 36], "volume_l": 12.6`, `"size_cm": [22, 15, 20], "volume_l": 7`,
		`"size_cm": [18, 13, 7], "volume_l": 1.5`, `"size_cm": [18, 13, 3], "volume_l": 0.6`).Replace(string(demo.ChildNight))
	b := openWith(t, 1280, 800, shortly, small)
	b.goTo("/trips/1/load")
	b.says("#verdict", "does not fit")
	b.do(chromedp.KeyEvent("3"))
	b.says("#verdict", "it fit.")
	b.until(`!document.querySelector("#searching")`)
	b.until(`document.querySelector("#try-set")`)
	b.do(chromedp.KeyEvent("t"))
	b.says("#trial h2", "fits")
	b.do(chromedp.KeyEvent("a"))
	b.says("#verdict", "It fits as it is")
	b.says("#undo", "shrink by")
	b.do(chromedp.KeyEvent("u"))
	b.says("#verdict", "too much")
	b.onlyHere()
}

// The groundsheet chooses, a reading measures, the shelf keeps, the trip follows.
func TestLayOutMeasureShelve(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/layout")
	eval[any](b, `document.querySelector('svg [data-line="camp-shoes"] .lay-outline').dispatchEvent(new MouseEvent("click", {bubbles: true}))`)
	b.says(".side h2", "Camp shoes")
	b.do(click(".measure summary"), visible("#measure"))
	eval[any](b, `document.querySelector("#measure [name=way]").value = "water"`)
	b.enter("#field-before", "4")
	b.enter("#field-after", "5.9")
	b.do(click("#measure button"))
	b.says(".side .quiet-line", "1.9 L")
	b.do(click(`form[action$="/shelve"] button`))
	b.says(".side", "holds on all its trips")
	b.goTo("/shelf")
	b.says(".kit-name", "Camp shoes")
	b.goTo("/trips/1/trip")
	b.enter("#field-leg-1-hours", "9")
	b.says(".supplies", "10.6 h")
	b.do(click(`form[action$="/forecast"] button`))
	b.says(".side", "made-up forecast")
	b.onlyHere()
}

// The drawing of a pack follows while its measures are typed, before they are saved.
func TestAPackDrawnWhileTyping(t *testing.T) {
	t.Parallel()
	b := openWith(t, 1280, 800, briefly)
	b.goTo("/packs")
	b.do(click(`.side button`))
	b.says("#verdict", "as stated")
	b.do(click(`[data-order]`), visible("#zone-form"))
	before := eval[string](b, `document.querySelector("#pack-drawing").innerHTML`)
	b.do(chromedp.Focus(chromedp.CSS("#field-high")))
	eval[any](b, `document.querySelector("#field-high").select()`)
	b.do(chromedp.KeyEvent("61"))
	b.until(`document.querySelector("#pack-drawing").innerHTML !== ` + jsonOf(before))
	b.says("#pack-drawing", "61 cm")
	b.says(".zones tr", "Zone") // the table is that of the saved pack still
	b.do(chromedp.KeyEvent("\t"))
	b.says("#verdict", "61 cm tall")
	b.onlyHere()
}

// A drill is played and timed by keyboard; another school changes the weak points.
func TestRehearseAndKeepDryByKeyboard(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/dry")
	b.says("#verdict", "All dry")
	b.do(chromedp.KeyEvent("6"))
	b.says("#verdict", "drills")
	b.do(chromedp.KeyEvent("l"))
	b.says(".clock", "s")
	b.until(`location.search.includes("at=1")`)
	b.do(chromedp.KeyEvent(" "))
	b.until(`location.search.includes("at=2")`) // it plays by itself
	b.do(chromedp.KeyEvent("w"))
	b.until(`document.querySelector("#stopwatch").textContent === "Stop"`)
	b.until(`Number(document.querySelector("#field-seconds").value) > 0.2`)
	b.do(chromedp.KeyEvent("w"))
	b.until(`document.querySelector("#stopwatch").textContent === "Start"`)
	b.do(chromedp.KeyEvent("\r")) // the focus is on Keep the time
	b.says(".side", "One real time")
	b.do(chromedp.KeyEvent("4"))
	b.says("#verdict", "All dry")
	b.do(chromedp.KeyEvent("t")) // the first other school, with all six checks
	b.says("#trial", "With it")
	b.says("#trial", "A cover over the pack")
	b.do(chromedp.KeyEvent("a"))
	b.says("#verdict", "weak")
	b.says("#undo", "cover")
	b.onlyHere()
}
