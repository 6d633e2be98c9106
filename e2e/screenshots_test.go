package e2e

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/demo/seed"
	"tornister/store"
)

// shots are the pictures in docs/screenshots: one of each main view.
var shots = []struct {
	name, path    string
	width, height int64
	theme         string
}{
	{"trips", "/", 1280, 800, "light"},
	{"trip", "/trips/1/trip", 1280, 800, "light"},
	{"shrink", "/trips/2/shrink", 1280, 800, "light"},
	{"dry", "/trips/1/dry", 1280, 800, "light"},
	{"rehearse", "/trips/1/rehearse?drill=camp-in-rain&at=9", 1280, 800, "light"},
	{"shelf", "/shelf", 1280, 800, "light"},
	{"pack", "PACK?zone=front", 1280, 800, "light"},
	{"layout", "/trips/1/layout?item=sleeping-bag", 1280, 800, "light"},
	{"load", "/trips/1/load?thing=inner", 1280, 800, "light"},
	{"compare", "/trips/1/compare", 1280, 800, "light"},
	{"load-390", "/trips/1/load", 390, 844, "light"},
	{"along-390", "/trips/1/along", 390, 844, "light"},
	{"weigh", "/trips/1/weigh", 1280, 800, "light"},
	{"way", "/trips/1/way?stop=3", 1280, 800, "light"},
	{"back", "/trips/1/back", 1280, 800, "dark"},
	{"party", "/trips/3/party", 1280, 800, "light"},
	{"check-390", "/trips/3/check?bearer=pelle", 390, 844, "light"},
	{"stock", "/stock", 1280, 800, "dark"},
	{"practice", "/practice/1", 1280, 800, "light"},
}

// alsoTooMuch adds a trip whose sleeping bag does not go in, as number 2.
func (b *browser) alsoTooMuch() {
	kit := strings.Replace(string(demo.LoneWalker), `"loose_l": 10.5, "tight_l": 5.8`, `"loose_l": 28, "tight_l": 23`, 1)
	read, err := bundle.Read([]byte(kit))
	require.NoError(b, err)
	_, err = b.kept.Create(b.T.Context(), read.Doc)
	require.NoError(b, err)
}

// alsoACourse adds the field course with its kit shared and some of it checked, as number 3, and the centre's shelf.
func (b *browser) alsoACourse() {
	course, err := seed.Course(b.T.Context(), b.kept)
	require.NoError(b, err)
	require.NoError(b, b.kept.Change(b.T.Context(), course, store.AnyVersion, "kit check", func(d bundle.Doc) error {
		if err := d.Check("pelle", bundle.HasIt, "bag", "mat", "jacket"); err != nil {
			return err
		}
		return d.Check("pelle", bundle.NotGood, "warm")
	}))
}

// TestScreenshots writes the pictures when it is asked to by make screenshots.
func TestScreenshots(t *testing.T) {
	wanted := os.Getenv("TORNISTER_SCREENSHOTS") // 1 for all, else names
	if wanted == "" {
		t.Skip("make screenshots takes the pictures")
	}
	for _, shot := range shots {
		if wanted != "1" && !slices.Contains(strings.Split(wanted, ","), shot.name) {
			continue
		}
		b := open(t, shot.width, shot.height, thoroughly)
		b.alsoTooMuch()
		b.alsoACourse()
		b.goTo("/trips/1/load") // so that the list of trips has its verdict
		b.until(`!document.querySelector("#searching")`)
		path := shot.path
		switch {
		case shot.name == "shelf":
			eval[bool](b, `fetch("/trips/1/shelve", {method: "POST", body: new URLSearchParams({version: "1", return: "/"})}).then(r => r.ok)`)
		case strings.HasPrefix(path, "PACK"):
			path = strings.Replace(path, "PACK",
				eval[string](b, `fetch("/packs", {method: "POST", body: new URLSearchParams({pack: "generic:trainee-65"})}).then(r => new URL(r.url).pathname)`), 1)
		case shot.name == "weigh":
			for _, g := range []string{"18700", "18750", "16100"} {
				eval[bool](b, `fetch("/trips/1/weigh").then(r => r.text()).then(t => fetch("/trips/1/weighings", {method: "POST", body: new URLSearchParams({version: t.match(/data-version="(\d+)"/)[1], what: "pack", g: "`+g+`", scale: "hanging", return: "/"})})).then(r => r.ok)`)
			}
		case shot.name == "back":
			for _, id := range []string{"sleeping-bag", "bag-liner", "air-mat", "foam-mat"} {
				eval[bool](b, `fetch("/trips/1/back").then(r => r.text()).then(t => fetch("/trips/1/back", {method: "POST", body: new URLSearchParams({version: t.match(/data-version="(\d+)"/)[1], item: "`+id+`", answer: "used", return: "/"})})).then(r => r.ok)`)
			}
		case shot.name == "practice":
			b.practise("demo/lone-walker", "find")
			b.do(click("#start-exercise"))
			b.until(`document.querySelector(".find-faults")`)
		case strings.HasPrefix(shot.name, "along"):
			eval[bool](b, `fetch("/trips/1/along", {method: "POST", body: new URLSearchParams({key: "bag-liner", state: "in"})}).then(r => r.ok)`)
		}
		b.goTo(path)
		b.until(`!document.querySelector("#searching")`)
		eval[any](b, `document.documentElement.dataset.theme = "`+shot.theme+`"`)
		eval[bool](b, `document.fonts.ready.then(() => true)`)
		picture, err := chromedp.Run(b.tab, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join("..", "docs", "screenshots", shot.name+".png"), picture, 0o600))
	}
}
