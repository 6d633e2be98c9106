package e2e

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strconv"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/demo"
	"tornister/internal/sample"
	"tornister/store"
)

// The party's kit is shared, a part given away and taken back, a tie made and another's pack put on the floor, by
// keys alone.
func TestPartyByKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := openWith(t, 1280, 800, briefly, string(demo.FieldCourse))
	b.goTo("/trips/1/party")
	b.says("#verdict", "40 parts")
	b.do(chromedp.KeyEvent("f"))
	b.says(".try", "Proved: there is no fairer one")
	b.do(chromedp.KeyEvent("a"))
	b.says("#verdict", "Everything is carried, and every pack closes.")
	b.says("#said", "share fairly")
	b.do(chromedp.Focus(chromedp.CSS(`.group-table a`)), chromedp.KeyEvent(kb.Enter))
	b.says(".side h2", "Shelter 1: inner")
	b.do(chromedp.KeyEvent("d")) // to the fourth
	b.says(".side .quiet-line", "carried by Tomas")
	b.do(chromedp.KeyEvent("u"))
	b.until(`!document.querySelector(".side .quiet-line").textContent.includes("Tomas")`)
	b.do(chromedp.KeyEvent(kb.Escape))
	b.says(".side", "Share it")
	b.do(chromedp.Focus(chromedp.CSS("#field-bearer")), chromedp.KeyEvent(kb.ArrowDown), chromedp.KeyEvent(kb.ArrowDown),
		chromedp.KeyEvent(kb.ArrowDown), chromedp.KeyEvent(kb.ArrowDown), chromedp.KeyEvent(kb.ArrowDown),
		chromedp.KeyEvent(kb.Enter))
	b.says("#said", "the pack of Pelle on the floor")
	b.do(chromedp.KeyEvent(kb.Escape),
		chromedp.KeyEvent(kb.Escape)) // the browser's own list may be open, then out of the field
	b.do(chromedp.KeyEvent("2"))
	b.says(".work", "Soft toy")
	b.onlyHere()
}

// The room, the kit check and the cards bar nobody, in light and dark, on laptop and phone.
func TestPartyBarsNobody(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	for _, size := range [][2]int64{{1280, 800}, {390, 844}} {
		t.Run(fmt.Sprint(size[0]), func(t *testing.T) {
			t.Parallel()
			b := openWith(t, size[0], size[1], briefly, string(demo.FieldCourse))
			for _, path := range []string{"/trips/1/party", "/trips/1/party?try=fair", "/trips/1/party?part=aid",
				"/trips/1/party?bearer=pelle", "/trips/1/check?bearer=pelle", "/trips/1/cards"} {
				b.stands(path, size[0])
			}
		})
	}
}

// phone is a tab of its own, with its own storage, on a card.
func (b *browser) phone(url string) *browser {
	b.Helper()
	ctx, cancel := chromedp.NewContext(b.tab, chromedp.WithNewBrowserContext())
	b.Cleanup(cancel)
	one := &browser{T: b.T, tab: ctx, address: url, kept: b.kept}
	one.do(chromedp.EmulateViewport(390, 844), chromedp.Navigate(url), visible("h1"))
	return one
}

// Six phones open their cards; the network goes, they tick, one opens its card anew without it; when it is back every
// tick is home once.
func TestSixPhonesWithoutNetwork(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := openWith(t, 1280, 800, briefly, string(demo.FieldCourse))
	handler := b.site.Cards()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := listener.Addr().String()
	cards := &httptest.Server{Listener: listener, Config: &http.Server{Handler: handler, ReadHeaderTimeout: time.Second}}
	cards.Start()
	ids := []string{"ravna", "jarek", "ilka", "tomas", "sunniva", "pelle"}
	var phones []*browser
	for _, id := range ids {
		link, err := b.kept.MakeCardLink(context.Background(), 1, id, time.Now().Add(time.Hour))
		require.NoError(t, err)
		phones = append(phones, b.phone("http://"+at+"/c/"+link.Token+"/"))
	}

	for _, p := range phones {
		p.says("#home", "All ticks are home")
	}

	phones[5].until(`navigator.serviceWorker.controller !== null`)
	assert.False(t, eval[bool](phones[5], `document.documentElement.scrollWidth > window.innerWidth`),
		"the card scrolls sideways")

	cards.CloseClientConnections()
	cards.Close()

	want := map[string]string{}
	for n, p := range phones {
		eval[any](p, `[...document.querySelectorAll("input[data-key]")].slice(0, `+strconv.Itoa(n+1)+`).forEach(box => box.click())`)
		for _, key := range eval[[]string](p,
			`[...document.querySelectorAll("input[data-key]:checked")].map(box => box.dataset.key)`) {
			want[ids[n]+"/"+key] = store.TickIn
		}
		p.says("#home", "for a network")
	}

	phones[5].do(chromedp.Reload(), visible("h1"))
	phones[5].says("h1", "Pelle")
	phones[5].says("#done", "done")
	require.NotEmpty(t, want)

	again, err := net.Listen("tcp", at)
	require.NoError(t, err)
	back := &httptest.Server{Listener: again, Config: &http.Server{Handler: handler, ReadHeaderTimeout: time.Second}}
	back.Start()
	t.Cleanup(back.Close)
	for _, p := range phones {
		p.says("#home", "All ticks are home")
	}
	states, err := b.kept.Ticks(context.Background(), 1)
	require.NoError(t, err)
	assert.Equal(t, want, states)
}
