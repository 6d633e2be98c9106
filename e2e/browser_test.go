// Package e2e uses the real interface in headless Chromium, as a person would.
package e2e

import (
	"context"
	_ "embed"
	"fmt"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/demo"
	"tornister/hook"
	"tornister/planner"
	"tornister/standin/forecast"
	"tornister/standin/scale"
	"tornister/store"
	"tornister/weather"
	"tornister/web"
)

// axe finds what bars people from a page; it is only ever loaded by these tests.
//
//go:embed vendor/axe.min.js
var axe string

// browser is a tab of headless Chromium on the demo data, with every address it asked for.
type browser struct {
	*testing.T
	tab     context.Context
	address string
	kept    *store.Store
	site    *web.Server
	mu      sync.Mutex
	asked   []string
}

// patience bounds a whole journey; a step waits for its condition, not for time to pass.
const patience = 5 * time.Minute

// How long a thorough search may take: briefly where a journey does not look at its end.
const (
	briefly    = 300 * time.Millisecond
	shortly    = 1500 * time.Millisecond
	thoroughly = 15 * time.Second
)

// open gives a tab on the demo data, with its trip as number 1.
func open(t *testing.T, width, height int64, thorough time.Duration) *browser {
	t.Helper()
	return openWith(t, width, height, thorough, string(demo.LoneWalker))
}

// openWith gives a tab on a database with these bundles as trips, or with nothing.
func openWith(t *testing.T, width, height int64, thorough time.Duration, bundles ...string) *browser {
	t.Helper()
	kept, err := store.Open(filepath.Join(t.TempDir(), "journey.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = kept.Close() })
	for _, text := range bundles {
		b, err := bundle.Read([]byte(text))
		require.NoError(t, err)
		_, err = kept.Create(t.Context(), b.Doc)
		require.NoError(t, err)
	}
	service := httptest.NewServer(forecast.New(forecast.Fine, time.Now))
	t.Cleanup(service.Close)
	hanging := httptest.NewServer(scale.New(scale.Every / 5))
	t.Cleanup(hanging.Close)
	handler, err := web.New(kept, weather.Service{URL: service.URL},
		web.Options{Planner: planner.Options{AtOnce: 1, First: patience, Thorough: thorough},
			Scale: hook.Service{URL: hanging.URL, Simulated: true}})
	require.NoError(t, err)
	t.Cleanup(handler.Close)
	server := httptest.NewServer(handler)
	t.Cleanup(server.Close)

	one, err := chromium()
	require.NoError(t, err)
	ctx, cancel := chromedp.NewContext(one, chromedp.WithNewBrowserContext())
	t.Cleanup(cancel)
	ctx, cancelTime := context.WithTimeout(ctx, patience)
	t.Cleanup(cancelTime)
	tab := &browser{T: t, tab: ctx, address: server.URL, kept: kept, site: handler}
	require.NoError(t, chromedp.Listen(ctx, func(event any) {
		if request, ok := event.(*network.EventRequestWillBeSent); ok {
			tab.mu.Lock()
			defer tab.mu.Unlock()
			tab.asked = append(tab.asked, request.Request.URL)
		}
	}))
	tab.do(chromedp.Func(func(ctx context.Context, target *chromedp.Target) error {
		_, err := cdp.Call(ctx, target, network.Enable, network.EnableParams{})
		return err
	}), chromedp.EmulateViewport(width, height))
	return tab
}

// chromium is the one browser of all tests; each has a profile of its own in it.
var chromium = sync.OnceValues(func() (context.Context, error) {
	program, err := exec.LookPath("chromium")
	if err != nil {
		return nil, fmt.Errorf("Chromium is missing; make test installs it: %w", err)
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(program), chromedp.NoSandbox,
		chromedp.DisableGPU, chromedp.NoFirstRun,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag("disable-sync", true), chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-prefers-reduced-motion", true), chromedp.Flag("disable-features", unseen))
	allocator, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, _ := chromedp.NewContext(allocator)
	end = func() {
		_ = chromedp.Cancel(ctx)
		stop()
	}
	_, err = chromedp.Run(ctx, chromedp.Navigate("about:blank"))
	return ctx, err
})

// unseen are parts of the browser that nobody sees here and that took a fifth of its time: two pages of its own beside
// each of ours, for the list under the address bar, and the offer to translate.
const unseen = "Translate,OmniboxAim,AiModeOmniboxEntryPoint,WebUIOmniboxPopup,WebUIOmniboxAimPopup,WebUIOmniboxFullPopup"

// end stops the browser, if there is one.
var end = func() {}

func TestMain(m *testing.M) {
	code := m.Run()
	end()
	os.Exit(code)
}

// step is an action that returns nothing.
type step = chromedp.Action[chromedp.Void]

func (b *browser) do(actions ...step) {
	b.Helper()
	require.NoError(b, chromedp.Do(b.tab, actions...))
}

// eval runs JavaScript, waits for its promise and gives its value.
func eval[T any](b *browser, expression string) T {
	b.Helper()
	value, err := chromedp.Run(b.tab, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(b, err, expression)
	return value
}

func click(selector string) step { return chromedp.Click(chromedp.CSS(selector)) }

func visible(selector string) step { return chromedp.WaitVisible(chromedp.CSS(selector)) }

func (b *browser) goTo(path string) {
	b.Helper()
	b.do(chromedp.Navigate(b.address+path), visible("#verdict"))
}

// typed gives a line to the field that has the focus, all at once, and Enter: faster than any hand.
func typed(line string) step {
	return func(ctx context.Context, target *chromedp.Target) (chromedp.Void, error) {
		if _, err := cdp.Call(ctx, target, input.InsertText, input.InsertTextParams{Text: line}); err != nil {
			return chromedp.Void{}, err
		}
		return chromedp.KeyEvent("\r")(ctx, target)
	}
}

// says waits until the text of an element contains the words.
func (b *browser) says(selector, words string) {
	b.Helper()
	expression := `(document.querySelector(` + quote(selector) + `)||{textContent:""}).textContent.includes(` + quote(words) + `)`
	if err := b.wait(expression); err != nil {
		text := eval[string](b, `(document.querySelector(`+quote(selector)+`)||{textContent:"(nothing)"}).textContent`)
		require.NoError(b, err, "%s should say %q but says %q", selector, words, strings.Join(strings.Fields(text), " "))
	}
}

// wait polls a JavaScript expression until it holds. A page that is left while it is polled is polled anew.
func (b *browser) wait(expression string) error {
	for deadline := time.Now().Add(time.Minute); ; {
		_, err := chromedp.Run(b.tab,
			chromedp.Poll[bool](`Boolean(`+expression+`)`, chromedp.WithPollingInterval(20*time.Millisecond),
				chromedp.WithPollingTimeout(time.Until(deadline))))
		left := err != nil && (strings.Contains(err.Error(), "navigated") ||
			strings.Contains(err.Error(), "Cannot find context"))
		if !left || time.Now().After(deadline) {
			return err
		}
	}
}

// until waits until a JavaScript expression holds.
func (b *browser) until(expression string) {
	b.Helper()
	require.NoError(b, b.wait(expression), expression)
}

// enter replaces the value of a field and leaves it, as somebody typing would.
func (b *browser) enter(selector, text string) {
	b.Helper()
	b.do(visible(selector))
	eval[any](b, `{ const f = document.querySelector(`+quote(selector)+`); f.focus(); f.select(); }`) // in one go: the page may change between
	b.do(chromedp.KeyEvent(text), chromedp.KeyEvent("\t"))
}

// onlyHere fails when the browser asked any address but the server's own.
func (b *browser) onlyHere() {
	b.Helper()
	b.mu.Lock()
	defer b.mu.Unlock()
	require.NotEmpty(b, b.asked)
	for _, url := range b.asked {
		if !strings.HasPrefix(url, b.address+"/") && !strings.HasPrefix(url, "data:") {
			b.Errorf("the page asked for %s", url)
		}
	}
}

func quote(text string) string {
	return "'" + strings.NewReplacer(`\`, `\\`, `'`, `\'`).Replace(text) + "'"
}
