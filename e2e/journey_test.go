package e2e

import (
	"os"
	"strconv"
	"testing"

	"tornister/internal/sample"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// Open the demo, find the verdict, make the sleeping bag bulkier until it does not fit, read which thing was left
// out, undo.
func TestBulkierSleepingBag(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/")
	b.do(click(`.trips a`))
	b.says("#verdict", "fits")
	b.do(click(`.road [data-key="2"]`))
	b.says("#verdict", "49 things to pack")
	b.do(click(`a[href$="item=sleeping-bag"]`), visible("#editor"))
	eval[bool](b, `window.sameDocument = true`)
	for _, litres := range []string{"14", "20", "28"} {
		b.enter("#field-loose", litres)
		b.says(".undo-label, #undo", "Down sleeping bag")
		b.says(".side .quiet-line", litres+".0 L")
		b.enter("#field-tight", litres)
		b.says(".side .quiet-line", "→ "+litres+".0 L")
	}
	b.says(".detail", "It does not fit")
	b.says(".check-stop", "out")
	b.until(`window.sameDocument === true`) // all of it without a reload
	b.do(click(`.road [data-key="5"]`))
	b.says("#left-out", "even tight")
	b.says("#left-out", "It would take")
	for range 6 {
		b.do(click("#undo"), visible("#page"))
	}
	b.until(`document.querySelector("#undo").disabled`)
	b.says("#verdict", "fits")
	b.onlyHere()
}

// The whole of Load by keyboard: choose, pin, move, undo.
func TestLoadByKeyboard(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/load")
	b.until(`!document.querySelector("#searching")`) // the order does not change any more
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	b.until(`location.search.includes("thing=")`)
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	b.until(`document.querySelectorAll("[data-order]")[1].getAttribute("aria-current") === "true"`)
	b.do(chromedp.KeyEvent("p"))
	b.says("#pin", "As planned")
	b.says(".side .chosen .pinned", "pinned")
	b.do(chromedp.KeyEvent("u"))
	b.says("#pin", "Pin here")
	b.do(chromedp.KeyEvent("m"))
	b.until(`document.activeElement.id === "move"`)
	b.do(chromedp.KeyEvent(kb.Escape), chromedp.KeyEvent("?"), visible("#keys-dialog"), chromedp.KeyEvent(kb.Escape))
	b.until(`!document.querySelector("#keys-dialog").open`)
	b.do(chromedp.KeyEvent("2"))
	b.says("#verdict", "things to pack")
	b.do(chromedp.KeyEvent("n"))
	b.until(`document.activeElement.id === "field-new"`)
	b.do(chromedp.KeyEvent("Harmonica 120 g 0.2 L\r"))
	b.until(`[...document.querySelectorAll(".kit-name")].some(e => e.textContent.includes("Harmonica"))`)
	b.onlyHere()
}

// A second window that changes the same trip is told, and what it entered is kept.
func TestTwoWindows(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/trips/1/layout?item=pot")
	b.until(`!document.querySelector("#searching")`) // else the page fetches the other window's state with its better plan
	assert.True(t, eval[bool](b, `fetch("/trips/1/items/mug/remove", {method: "POST", body: new URLSearchParams({version: "1", return: "/"})}).then(r => r.ok)`))
	b.enter("#field-mass", "222")
	b.says(".notice", "changed in another window")
	b.until(`document.querySelector("#field-mass").value === "222"`)
	b.enter("#field-mass", "223")
	b.until(`!document.querySelector(".notice")`)
	b.says("tr.chosen", "223 g")
}

// axe-core finds nothing serious on any page, light or dark, wide or narrow. Colours are looked at in both themes of
// the wide page, all else once at each width: contrast does not change with the width, nor the rest with the theme.
func TestAccessible(t *testing.T) {
	t.Parallel()
	for _, width := range []int64{1280, 390} {
		t.Run(strconv.Itoa(int(width)), func(t *testing.T) {
			if t.Parallel(); width == 390 {
				sample.Whole(t)
			}
			b := open(t, width, 800, briefly)
			b.goTo("/trips/1/layout")
			eval[bool](b, `fetch("/trips/1/shelve", {method: "POST", body: new URLSearchParams({version: "1", return: "/"})}).then(r => r.ok)`)
			pack := eval[string](b, `fetch("/packs", {method: "POST", body: new URLSearchParams({pack: "generic:trainee-65"})}).then(r => new URL(r.url).pathname)`)
			eval[bool](b, `fetch("/trips/1/hand", {method: "POST", body: new URLSearchParams({begin: "plan"})}).then(r => r.ok)`)
			b.goTo("/shelf")
			thing := eval[string](b, `document.querySelector("[data-order]").getAttribute("href")`)
			for n, path := range []string{"/", "/trips/1/trip", "/trips/1/shrink", "/trips/1/dry",
				"/trips/1/rehearse?drill=camp-in-rain&at=7",
				"/trips/1/sheet", "/shelf", thing, "/packs", pack + "?zone=front", "/trips/1/layout", "/trips/1/layout?item=pot",
				"/trips/1/load", "/trips/1/load?thing=inner&view=behind", "/trips/1/load?upto=7", "/trips/1/compare",
				"/trips/1/along", "/trips/1/hand", "/trips/1/weigh", "/stock", "/trips/1/way?stop=2&if=rain", "/trips/1/back", "/practice", "/manual", "/nothing-here"} {
				if sample.Small() && n%4 > 0 {
					continue
				}
				b.stands(path, width)
				if width == 1280 {
					assert.False(t, eval[bool](b, `document.documentElement.scrollHeight > window.innerHeight + 1`),
						"%s has a second scroll bar for the whole page", path)
					assert.False(t, eval[bool](b,
						`[...document.querySelectorAll(".strip-figure")].some(f => f.scrollWidth > f.clientWidth + 1)`),
						"the days scroll sideways")
				}
			}
			b.onlyHere()
		})
	}
}

// stands opens a page and checks that it bars nobody, in light and dark, with what can be unfolded unfolded, and does
// not scroll sideways; that what can be pressed is come to with Tab, is seen when it has the focus, and no bar hides
// it. On a narrower screen than 1280 the page is the same, so only what the width decides is looked for there;
// TORNISTER_AXE=all looks for everything everywhere.
func (b *browser) stands(path string, width int64) {
	b.Helper()
	b.goTo(path)
	assert.Empty(b, eval[[]string](b, keysMiss), "%s at %d", path, width)
	eval[any](b, axe+";true")
	eval[any](b, `document.querySelectorAll("details").forEach(d => { d.open = true; })`)
	switch {
	case os.Getenv("TORNISTER_AXE") == "all":
		b.barsNobody(path, `{}`)
		eval[any](b, `document.documentElement.dataset.theme = "dark"`)
		b.barsNobody(path+" dark", `{}`)
	case width == 1280:
		b.barsNobody(path, `{runOnly: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"]}`)
		eval[any](b, `document.documentElement.dataset.theme = "dark"`)
		b.barsNobody(path+" dark", `{runOnly: {type: "rule", values: ["color-contrast"]}}`)
	default:
		b.barsNobody(path, `{runOnly: {type: "rule", values: ["target-size", "scrollable-region-focusable", "aria-hidden-focus", "link-name", "button-name", "label", "select-name"]}}`)
	}
	assert.False(b, eval[bool](b, `document.documentElement.scrollWidth > window.innerWidth`),
		"%s scrolls sideways at %d", path, width)
}

// barsNobody runs axe-core, which is loaded, on the page.
func (b *browser) barsNobody(what, options string) {
	b.Helper()
	found := eval[[]string](b, `axe.run(`+options+`).then(r => r.violations`+
		`.map(v => v.id + ": " + v.nodes.slice(0, 3).map(n => n.html.slice(0, 120) + " " + n.failureSummary).join(" | ")))`)
	assert.Empty(b, found, what)
	twice := eval[[]string](b, `(ids => ids.filter((id, i) => ids.indexOf(id) !== i))([...document.querySelectorAll("[id]")].map(e => e.id))`)
	assert.Empty(b, twice, "%s: ids that stand twice", what)
}

// Load plays the loading step by step, cuts elsewhere, and compares ways of packing.
func TestPlayCutCompare(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, thoroughly)
	b.goTo("/trips/1/load")
	b.says(".checks", "in 100") // the thorough plan has arrived without a reload
	b.until(`!document.querySelector("#searching")`)
	b.do(chromedp.KeyEvent("."))
	b.until(`location.search.includes("plane=5")`)
	b.do(chromedp.KeyEvent("v"))
	b.until(`location.search.includes("view=behind") && document.querySelector(".main-drawing .caption").textContent.includes("from behind")`)
	b.do(chromedp.KeyEvent("l"))
	b.says(".now", "1 of 49")
	b.do(click("#play"))
	b.says(".now", "3 of 49") // by itself
	b.do(click("#play"), chromedp.KeyEvent(kb.Escape))
	b.until(`!document.querySelector(".now")`)
	b.do(chromedp.KeyEvent("c"))
	b.says("#verdict", "different ways")
	b.until(`document.querySelectorAll(".way").length === 4`)
	b.do(click(`.way:nth-child(3) button`))
	b.says("#undo", "pack like Ski tour")
	b.onlyHere()
}
