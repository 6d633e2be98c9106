package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
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
	{"load-390", "/trips/1/load", 390, 844, "light"},
}

// TestScreenshots writes the pictures when it is asked to by make screenshots.
func TestScreenshots(t *testing.T) {
	if os.Getenv("TORNISTER_SCREENSHOTS") == "" {
		t.Skip("make screenshots takes the pictures")
	}
	for _, shot := range shots {
		b := open(t, shot.width, shot.height)
		b.goTo(shot.path)
		eval[any](b, `document.documentElement.dataset.theme = "`+shot.theme+`"`)
		eval[bool](b, `document.fonts.ready.then(() => true)`)
		picture, err := chromedp.Run(b.tab, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join("..", "docs", "screenshots", shot.name+".png"), picture, 0o600))
	}
}
