package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/internal/sample"
)

// two is a kit of two things, where what is typed is looked at and not what is planned.
const two = `{"format": "tornister", "version": 1, "pack": {"id": "bag", "name": "Plain bag", "mass_g": 600,
	"zones": [{"id": "body", "kind": "body", "size_cm": [28, 18, 45], "openings": ["top"]}]},
	"items": [{"id": "pot", "name": "Pot", "mass_g": 200}, {"id": "bag", "name": "Sleeping bag", "mass_g": 900}]}`

// Forty lines typed as fast as keys come all arrive, in their order, and the one that cannot be read comes back.
func TestNothingTypedIsLost(t *testing.T) {
	t.Parallel()
	b := openWith(t, 1280, 800, briefly, two)
	b.goTo("/trips/1/layout")
	b.do(click("#field-new"))
	var wanted []string
	n := sample.Of(t, 8, 40)
	for i := range n {
		name := fmt.Sprintf("Trinket no%c%c", 'a'+i/10, 'a'+i%10)
		wanted = append(wanted, name)
		line := name + " 20 g"
		if i == n/2 {
			line = "30 g"
			wanted = wanted[:n/2]
		}
		if i < 4 {
			b.do(chromedp.KeyEvent(line + "\r")) // letter by letter
		} else {
			b.do(typed(line))
		}
	}
	b.until(`[...document.querySelectorAll(".kit-name a")].filter(e => e.textContent.includes("Trinket")).length === ` + fmt.Sprint(n-1))
	got := eval[[]string](b, `[...document.querySelectorAll(".kit-name a")].map(e => e.textContent.trim()).filter(n => n.includes("Trinket"))`)
	assert.Equal(t, wanted, got)
	b.until(`["#field-lines", "#field-new"].some(id => document.querySelector(id).value === "30 g")`) // in the line when no hand is at it
	b.onlyHere()
}

// What is typed while one goes elsewhere arrives all the same.
func TestTypedAndGone(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/layout")
	b.do(click("#field-new"))
	for _, line := range []string{"Trinket one 10 g", "Trinket two 10 g", "Trinket three 10 g"} {
		b.do(chromedp.KeyEvent(line + "\r"))
	}
	b.do(click(`.road [data-key="5"]`))
	b.says("#verdict", "fits")
	b.do(click(`.road [data-key="2"]`))
	b.until(`[...document.querySelectorAll(".kit-name")].filter(e => e.textContent.includes("Trinket")).length === 3`)
}

// A pack is measured with a slip: the sides and the litres follow each other, what cannot be is refused in the
// reader's units and comes back to the editor, and no address is left behind that shows nothing.
func TestMeasuringAPackHasNoDeadEnd(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/packs")
	eval[bool](b, `fetch("/settings", {method: "POST", body: new URLSearchParams({units: "customary", return: "/packs"})}).then(r => r.ok)`)
	pack := eval[string](b, `fetch("/packs", {method: "POST", body: new URLSearchParams({pack: "generic:upland-52"})}).then(r => new URL(r.url).pathname)`)
	b.goTo(pack + "?zone=body")
	litres := eval[string](b, `document.querySelector("#field-litres").value`)
	b.enter("#field-across", "12 1/2 in")
	b.until(`document.querySelector("#field-across").value === "12.5"`)
	b.until(`document.querySelector("#field-litres").value !== ` + jsonOf(litres)) // they follow
	b.enter("#field-litres", "9,000 cu in")
	b.says(".wrong-text", "cu in")
	assert.NotContains(t, eval[string](b, `document.querySelector(".wrong-text").textContent`), " L")
	assert.Equal(t, pack, eval[string](b, `location.pathname`))
	b.enter("#field-litres", "1900")
	b.until(`!document.querySelector(".wrong-text")`)
	assert.Equal(t, "1900", eval[string](b, `document.querySelector("#field-litres").value`))
	b.do(chromedp.Reload())
	b.says("#verdict", "as stated")
	b.goTo(pack + "/zones/body")
	b.says("#verdict", "as stated") // an address that only takes forms leads back
	b.do(chromedp.KeyEvent(kb.Escape))
}

// Arrows walk through a list without acting; Enter takes, Escape leaves, and what was done is said.
func TestListsActWhenTaken(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/layout")
	version := eval[string](b, `document.querySelector("#state").dataset.version`)
	eval[any](b, `document.querySelector("tr:has([data-line-of=pot]) select").focus()`)
	b.do(chromedp.KeyEvent(kb.ArrowDown), chromedp.KeyEvent(kb.ArrowDown))
	b.says("#said", "Enter takes it")
	b.do(chromedp.KeyEvent(kb.Escape))
	b.until(`document.querySelector("tr:has([data-line-of=pot]) select").value === "pack"`)
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	assert.Equal(t, version, eval[string](b, `document.querySelector("#state").dataset.version`))
	b.do(chromedp.KeyEvent(kb.Enter))
	b.says("#said", "Done: carry Cook pot")
	b.until(`document.activeElement.tagName === "SELECT"`) // the focus is where it was
	b.do(chromedp.KeyEvent(kb.Tab))
	eval[any](b, `document.querySelector("#undo").focus()`)
	b.do(chromedp.KeyEvent(kb.Enter))
	b.says("#said", "Taken back: carry Cook pot")
}

// Letter keys can be switched off, and the slider of the cut keeps its arrows.
func TestKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/load?view=side")
	b.until(`!document.querySelector("#searching")`)
	eval[any](b, `document.querySelector("#plane").focus()`)
	b.do(chromedp.KeyEvent(kb.ArrowRight))
	b.until(`location.search.includes("plane=")`)
	assert.NotRegexp(t, "thing=[a-z]", eval[string](b, `location.search`))
	b.do(chromedp.KeyEvent(kb.Escape), chromedp.KeyEvent("/"))
	b.until(`document.activeElement.id === "field-find"`)
	b.do(chromedp.KeyEvent("rain jackt\r"))
	b.says(".side .chosen .thing-name", "Rain jacket")
	eval[any](b, `document.activeElement.blur()`)
	b.do(chromedp.KeyEvent("?"), visible("#keys-dialog"), click(`#keys-dialog [value=off]`))
	b.until(`document.body.dataset.keys === "off" && document.readyState === "complete"`)
	b.do(chromedp.KeyEvent("2"))
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	b.until(`location.search.includes("thing=")`)
	assert.Contains(t, eval[string](b, `location.pathname`), "/load")
}

// Every step marks a first answer and changes to the better one by itself.
func TestFirstAnswersAreMarked(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, 4*time.Second) // long enough to be seen on a busy machine
	for _, step := range []string{"layout", "trip", "dry", "rehearse", "load"} {
		eval[any](b, `true`)
		b.goTo("/trips/1/layout")
		eval[bool](b, `fetch("/trips/1/items", {method: "POST", body: new URLSearchParams({lines: "Trinket for `+step+` 30 g", return: "/"})}).then(r => r.ok)`)
		b.goTo("/trips/1/" + step)
		b.says("#searching", "First answer")
		b.until(`document.querySelector("#work").getAttribute("aria-busy") === "true"`)
		high := eval[float64](b, `document.querySelector("#searching").offsetHeight`)
		b.until(`!document.querySelector("#searching")`)
		b.says("p.searching", "The search has ended")
		assert.InDelta(t, high, eval[float64](b, `document.querySelector("p.searching").offsetHeight`), 1,
			"nothing moves under the hand when the line has gone")
	}
}

// The phone: choosing a thing and moving it takes two taps after the step is open, beside what was tapped.
func TestMoveOnThePhone(t *testing.T) {
	t.Parallel()
	b := openWith(t, 390, 844, briefly, string(demo.SkiTour))
	b.goTo("/trips/1/load")
	b.until(`!document.querySelector("#searching")`)
	b.do(click(`.side [data-order]`))
	b.until(`document.querySelector("#move") !== null`)
	top := eval[float64](b, `document.querySelector("#move").getBoundingClientRect().top`)
	assert.Less(t, top, 780.0, "the list of zones stands in view")
	target := eval[string](b, `[...document.querySelector("#move").options].find(o => !o.selected).value`)
	eval[any](b, `{ const m = document.querySelector("#move"); m.value = `+jsonOf(target)+`; m.dispatchEvent(new Event("change", {bubbles: true})); }`)
	b.says("#said", "Done: pin")
	assert.True(t, strings.HasPrefix(eval[string](b, `location.pathname`), "/trips/1/load"))
}

// The end of the road by hand: a reading is kept when the needle has settled, a key answers for each thing, stops are
// walked with arrows, and packing along picks up where one left off.
func TestTheRoadToItsEnd(t *testing.T) {
	t.Parallel()
	b := open(t, 390, 844, briefly)
	b.goTo("/trips/1/weigh")
	b.until(`document.querySelector("#hold").disabled`)
	b.says("#needle-says", "settled at")
	b.do(click("#hold"))
	b.says("#said", "Done: weigh")
	b.says(".weigh-grid", "the whole pack")

	b.goTo("/trips/1/way")
	b.until(`document.readyState === "complete"`)
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	b.until(`location.search.includes("stop=2")`)
	b.says(".stop h2", "Evening, day 1")

	b.goTo("/trips/1/back")
	b.until(`document.readyState === "complete"`)
	first := eval[string](b, `document.querySelector(".along-name").textContent`)
	b.do(chromedp.KeyEvent("y"))
	b.says("#verdict", "1 of")
	b.until(`document.querySelector(".along-name").textContent !== ` + jsonOf(first))

	b.goTo("/trips/1/along")
	b.do(click("#start"))
	b.says("#verdict", "1 of")
	b.goTo("/trips/1/load")
	b.goTo("/trips/1/along")
	b.says("#verdict", "1 of")
	b.onlyHere()
}

// Each fault of the scale in turn: what it says, and that nothing can be kept that has not settled.
func TestTheScalesFaults(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	for _, c := range []struct {
		load, fault, says string
		settles           bool
	}{
		{"pack", "none", "settled at", true},
		{"pack", "pounds", "turned into grams", true},
		{"pack", "ground", "creeps", false},
		{"pack", "overload", "more hangs on it than it can weigh", false},
		{"pack", "negative", "zero is off", false},
		{"pack", "silent", "fallen silent", false},
		{"pack", "rubbish", "cannot be read", false},
		{"nothing", "zero", "zero is off by that", true},
		{"nothing", "none", "nothing hangs on it", false},
	} {
		b.goTo("/trips/1/weigh?load=" + c.load + "&fault=" + c.fault)
		b.says("#needle-says", c.says)
		b.until(`document.querySelector("#hold").disabled === ` + jsonOf(!c.settles))
	}
	// A bad lift settles, too; beside good readings it is named for what it is.
	for _, fault := range []string{"none", "none", "bad-lift"} {
		b.goTo("/trips/1/weigh?load=pack&fault=" + fault)
		b.until(`!document.querySelector("#hold").disabled`)
		b.do(click("#hold"))
		b.says("#said", "Done: weigh")
	}
	b.says(".weigh-grid", "a hand helped")
}

// A pack of one's own with five zones measured takes 22 actions: the pack it is most like and putting it on the
// shelf, then for each zone the zone and its three sides; it is used on the trip from its own page.
func TestAPackOfOnesOwn(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/packs")
	actions := 0
	eval[any](b, `{ const list = document.querySelector("#field-pack"); list.value = "generic:upland-52"; list.dispatchEvent(new Event("change", {bubbles: true})); }`)
	actions++
	b.do(click(`form[action="/packs"] button`))
	actions++
	b.says("#verdict", "as stated")
	for _, of := range []struct {
		zone  string
		sides [3]string
	}{{"Body", [3]string{"29.5", "21.5", "50.5"}}, {"Lid", [3]string{"25.5", "18.5", "8.5"}}, {"Front pocket",
		[3]string{"23.5", "5.5", "36.5"}}, {"Left side pocket", [3]string{"10.5", "8.5", "25.5"}}, {"Back sleeve",
		[3]string{"23.5", "3.5", "37.5"}}} {
		zone, sides := of.zone, of.sides
		eval[any](b, `[...document.querySelectorAll(".zones a")].find(a => a.textContent === `+jsonOf(zone)+`).click()`)
		actions++
		b.says(".side h2", zone)
		for i, name := range []string{"across", "deep", "high"} {
			const saved = `(document.querySelector("#zone-form [name=version]")||{value: ""}).value`
			b.until(saved + ` !== ""`)
			version := eval[string](b, saved)
			b.enter("#field-"+name, sides[i])
			actions++
			b.until(`![` + jsonOf(version) + `, ""].includes(` + saved + `)`) // it is saved
			b.until(`(document.querySelector("#field-` + name + `")||{}).value === ` + jsonOf(sides[i]) + ` && !document.querySelector(".wrong-text, .notice-wrong")`)
		}
	}
	assert.Equal(t, 22, actions, "docs/actions.md says how many")
	b.do(click(".side [data-let-go]"))
	b.says(".side", "Take it on a trip")
	b.do(click(`form[action$="/use"] button`))
	b.says(".detail", "things in the my upland pack")
	b.onlyHere()
}

// tabTo presses Tab until the element has the focus.
func (b *browser) tabTo(selector string) {
	b.Helper()
	for range 200 { // round the whole page once
		if eval[bool](b, `document.activeElement !== null && document.activeElement.matches(`+jsonOf(selector)+`)`) {
			return
		}
		b.do(chromedp.KeyEvent("\t"))
	}
	require.Fail(b, "no Tab leads to "+selector)
}

// Weigh in by keys alone: the needle's reading is kept, another one is typed, what it makes likely is taken over,
// and what was seen of the packed pack is said.
func TestWeighInByKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/load")
	b.do(chromedp.KeyEvent("7"))
	b.says("#needle-says", "settled at")
	b.tabTo("#hold")
	b.do(chromedp.KeyEvent(kb.Enter))
	b.says("#said", "Done: weigh")
	b.tabTo("#field-g")
	b.do(chromedp.KeyEvent("16.4 kg"), chromedp.KeyEvent(kb.Enter))
	b.says(".weigh-grid", "16.4 kg")
	b.says(".weigh-grid", "Whose it can be")
	b.tabTo("#take")
	b.do(chromedp.KeyEvent(kb.Enter))
	b.says("#said", "Done:")
	b.tabTo("#undo")
	b.do(chromedp.KeyEvent(kb.Enter))
	b.says("#said", "Taken back:")
	b.onlyHere()
}
