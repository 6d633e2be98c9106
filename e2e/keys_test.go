package e2e

import (
	"context"
	"strings"
	"testing"
	"time"

	"tornister/internal/sample"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// keysMiss goes to all that can be acted on, one after the other as Tab would, and says what shows no ring, what lies
// under a bar when it has the focus, and what only a pointer can press.
const keysMiss = `(() => {
	const all = [...document.querySelectorAll("a[href], button, input:not([type=hidden]), select, textarea, summary, [tabindex='0']")]
		.filter(e => !e.disabled && !e.closest("[aria-hidden=true]") && e.checkVisibility({visibilityProperty: true}));
	const says = (what, e) => what + ": " + e.outerHTML.slice(0, 140);
	const missed = all.filter(e => e.tabIndex < 0).map(e => says("no Tab leads to it", e));
	for (const e of all) {
		e.focus({focusVisible: true});
		const style = getComputedStyle(e), box = e.getBoundingClientRect();
		if (document.activeElement !== e) missed.push(says("takes no focus", e));
		else if (style.outlineStyle === "none" && style.boxShadow === "none") missed.push(says("no ring", e));
		const seen = [0.1, 0.3, 0.5, 0.7, 0.9].some(x => [0.1, 0.3, 0.5, 0.7, 0.9].some(y => {
			const found = document.elementFromPoint(box.left + x * box.width, box.top + y * box.height);
			return found && (e.contains(found) || found.contains(e));
		}));
		if (!seen) missed.push(says("hidden", e));
	}
	for (const e of document.querySelectorAll("body *")) {
		// what lies in a drawing stands as a link in the list beside it
		const drawn = e.closest(".page-load svg [data-step], .page-exercise svg [data-step], svg [data-line], svg [data-stop]");
		const pressed = !drawn && getComputedStyle(e).cursor === "pointer" || e.hasAttribute("x-on:click");
		if (pressed && e.checkVisibility() && !e.closest("a[href], button, input, select, textarea, summary, label, [tabindex='0']"))
			missed.push(says("by pointer only", e));
	}
	return [all.length < 10 ? ["only " + all.length + " things on the page"] : [], missed].flat();
})()`

// From nothing to a card in the hand by keys alone: a trip with its dates, things typed, a day lengthened, the pack
// changed, the order looked at, the card opened and packed along.
func TestFromNothingToACardByKeys(t *testing.T) {
	t.Parallel()
	b := openWith(t, 1280, 800, briefly)
	enter := chromedp.KeyEvent(kb.Enter)
	b.goTo("/")
	b.do(chromedp.KeyEvent("n"), chromedp.KeyEvent("A weekend on the rim"))
	b.tabTo(`[name="start"]`)
	b.do(chromedp.KeyEvent("09042026\t0100PM"))
	b.tabTo(`[name="end"]`)
	b.do(chromedp.KeyEvent("09062026\t1130AM"))
	b.tabTo(`#new-trip button`)
	b.do(enter)
	b.says("#verdict", "to pack")
	b.until(`document.activeElement.id === "field-new"`)
	for _, line := range thirty[:12] {
		b.do(typed(line))
	}
	b.until(`[...document.querySelectorAll(".kit-name a")].some(a => /rain jacket/i.test(a.textContent))`)
	b.do(chromedp.KeyEvent(kb.Escape), chromedp.KeyEvent("1"))
	b.says(".detail", "Coldest night")
	b.tabTo("#add-leg")
	b.do(enter)
	b.says("#said", "leg")
	b.until(`document.querySelector("#field-leg-0-hours") !== null`)
	b.tabTo("#field-leg-0-hours")
	b.do(chromedp.KeyEvent("7"), chromedp.KeyEvent("\t"))
	b.says(".supplies", "7.0 h")
	b.do(chromedp.KeyEvent(kb.Escape), chromedp.KeyEvent("5"))
	b.until(`location.pathname.endsWith("/load") && !document.querySelector("#searching")`)
	b.says("#verdict", "fits")
	b.tabTo(`[href$="/card"]`)
	b.do(enter)
	b.until(`location.pathname.endsWith("/card")`)
	b.tabTo(`[href$="/along"]`)
	b.do(enter)
	b.until(`location.pathname.endsWith("/along") && document.querySelector("#start") !== null`)
	b.tabTo("#start")
	b.do(enter)
	b.says("#verdict", "1 of")
	b.onlyHere()
}

// Somebody who has packed says so by keys alone, is told what would help, and does it.
func TestJudgeMyPackingByKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	enter := chromedp.KeyEvent(kb.Enter)
	b.goTo("/trips/1/load")
	b.until(`!document.querySelector("#searching")`)
	b.tabTo(`[href$="/hand"]`)
	b.do(enter)
	b.tabTo("#begin-plan")
	b.do(enter)
	b.says("#verdict", "It goes in your way.")
	first := eval[string](b, `document.querySelector(".hand-row [name=thing]").value`)
	b.tabTo("#down-" + first)
	b.do(enter)
	b.until(`document.querySelector("#turn-` + first + `").value === "2" && document.activeElement.id === "down-` + first + `"`)
	b.do(enter)
	b.until(`document.querySelector("#turn-` + first + `").value === "3"`)
	b.do(chromedp.Focus(chromedp.CSS("#zone-poles")))
	b.do(chromedp.KeyEvent("L"), enter) // the lid
	b.says(".left-out", "Tent poles: not into the lid")
	b.says(".hand-changes", "Tent poles: does not go into the lid")
	b.do(chromedp.Focus(chromedp.CSS(".hand-changes button")))
	b.do(enter)
	b.says("#verdict", "It goes in your way.")
	b.onlyHere()
}

// What the architecture promises: without scripts everything still works, on the phone as well.
func TestWithoutScripts(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := openWith(t, 390, 844, briefly)
	b.do(chromedp.Func(func(ctx context.Context, target *chromedp.Target) error {
		_, err := cdp.Call(ctx, target, emulation.SetScriptExecutionDisabled,
			emulation.SetScriptExecutionDisabledParams{Value: true})
		return err
	}))
	text := func(selector string) string {
		return eval[string](b, `(document.querySelector(`+jsonOf(selector)+`)||{textContent: ""}).textContent`)
	}
	b.goTo("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#field-trip"), "A weekend on the rim"), click("#new-trip button"), visible("#field-new"))
	comes := func(selector, words string) {
		require.Eventually(t, func() bool { return strings.Contains(text(selector), words) }, patience, 50*time.Millisecond)
	}
	for _, name := range []string{"Sleeping bag", "Mug", "Rain jacket"} {
		b.do(chromedp.SendKeys(chromedp.CSS("#field-new"), strings.ToLower(name)+"\r"))
		comes("#work", name)
	}
	b.do(click(`.road [data-key="5"]`), visible(".side [data-order]"))
	assert.Contains(t, text("#verdict"), "fits")
	b.do(click(`.side [data-order]`), visible("#move"))
	name := text(".side .chosen .thing-name")
	eval[any](b, `{ const m = document.querySelector("#move"); m.value = [...m.options].find(o => o.value && !o.selected).value; }`)
	b.do(click(`#move + noscript button`))
	comes("#undo", name)
	b.do(click("#undo"))
	comes("#redo", name)
	b.onlyHere()
}
