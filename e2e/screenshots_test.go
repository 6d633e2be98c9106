package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
)

// shots are the pictures in docs/screenshots: one of each main view.
var shots = []struct {
	name, path    string
	width, height int64
	theme         string
}{
	{"layout", "/trips/1/layout?item=sleeping-bag", 1280, 800, "light"},
	{"layout-dark", "/trips/1/layout", 1280, 800, "dark"},
	{"layout-390", "/trips/1/layout", 390, 844, "light"},
	{"load", "/trips/1/load?thing=inner", 1280, 800, "light"},
	{"load-dark", "/trips/1/load", 1280, 800, "dark"},
	{"load-behind", "/trips/1/load?view=behind&colour=weight", 1280, 800, "light"},
	{"load-play", "/trips/1/load?upto=17", 1280, 800, "light"},
	{"load-overflow", "/trips/2/load", 1280, 800, "light"},
	{"compare", "/trips/1/compare", 1280, 800, "light"},
	{"load-390", "/trips/1/load", 390, 844, "light"},
}

// alsoTooMuch adds a trip whose sleeping bag does not go in, as number 2.
func (b *browser) alsoTooMuch() {
	kit := strings.Replace(string(demo.LoneWalker), `"loose_l": 10.5, "tight_l": 5.8`, `"loose_l": 24, "tight_l": 19`, 1)
	read, err := bundle.Read([]byte(kit))
	require.NoError(b, err)
	_, err = b.kept.Create(b.T.Context(), read.Doc)
	require.NoError(b, err)
}

// TestScreenshots writes the pictures when it is asked to by make screenshots.
func TestScreenshots(t *testing.T) {
	if os.Getenv("TORNISTER_SCREENSHOTS") == "" {
		t.Skip("make screenshots takes the pictures")
	}
	for _, shot := range shots {
		b := open(t, shot.width, shot.height)
		b.alsoTooMuch()
		b.goTo(shot.path)
		b.until(`!document.querySelector("#searching")`)
		eval[any](b, `document.documentElement.dataset.theme = "`+shot.theme+`"`)
		eval[bool](b, `document.fonts.ready.then(() => true)`)
		picture, err := chromedp.Run(b.tab, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join("..", "docs", "screenshots", shot.name+".png"), picture, 0o600))
	}
}
