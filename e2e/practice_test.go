package e2e

import (
	"fmt"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/internal/sample"
)

// practise begins an exercise as its button does.
func (b *browser) practise(kit, kind string) {
	b.Helper()
	b.goTo("/practice?person=Ona")
	b.do(click(fmt.Sprintf(`form:has([value="%s"]) button[value="%s"]`, kit, kind)))
	b.until(`document.querySelector("#start-exercise")`)
}

// An exercise by keys alone: n starts the clock and goes on, letters answer; what was missed is kept for tomorrow.
func TestPractiseByKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/practice")
	b.do(chromedp.Focus(chromedp.CSS("#field-person")), chromedp.KeyEvent("Ona"), chromedp.KeyEvent(kb.Enter))
	b.says("#verdict", "Ona: no exercises done")
	b.practise("demo/child-night", "where")
	of := 6
	for n := range of {
		b.do(chromedp.KeyEvent("n"))
		b.until(fmt.Sprintf(`document.querySelector("#work").textContent.includes("Question %d of %d") && document.querySelector("[data-running]")`, n+1, of))
		if n == 0 {
			b.until(`document.querySelector("[data-running]").textContent === "1 s"`) // the clock runs
		}
		b.do(chromedp.KeyEvent("b"))
		b.until(`document.querySelector(".question-verdict")`)
	}
	b.do(chromedp.KeyEvent("n"))
	b.says("#verdict", " of 100, in ")
	b.do(chromedp.KeyEvent(kb.Escape))
	b.says("#verdict", "Ona: one exercise done")
	b.until(`document.querySelector(".progress-plot")`)
	b.onlyHere()
}

// Whoever types a name and begins at once practises by that name.
func TestANameThatIsOnlyTyped(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.goTo("/practice")
	b.do(chromedp.Focus(chromedp.CSS("#field-person")), chromedp.KeyEvent("Per"))
	b.do(click(`form:has([value="demo/child-night"]) button[value="where"]`))
	b.until(`document.querySelector("#start-exercise")`)
	b.says("#work > .detail", "Per, ")
	b.goTo("/practice")
	b.until(`document.querySelector("#field-person").value === "Per"`)
}

// A thing in the drawing is ticked in the list as it is tapped, stays ticked as one looks from another side and after
// a reload, and counts.
func TestFaultsAreTappedOnThePhone(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 390, 844, briefly)
	b.practise("demo/ski-tour", "find")
	b.do(click("#start-exercise"))
	b.until(`document.querySelector(".find-faults")`)
	step := eval[string](b, `(() => { const t = document.querySelector(".main-drawing [data-step]"); t.dispatchEvent(new MouseEvent("click", {bubbles: true})); return t.dataset.step; })()`)
	ticked := `document.querySelector('[data-tick="` + step + `"]').checked`
	require.True(t, eval[bool](b, ticked))
	b.do(click(`.small-look[value="above"]`))
	b.until(`document.querySelector(".main-drawing").textContent.includes("from above")`)
	assert.True(t, eval[bool](b, ticked))
	b.do(chromedp.Reload())
	b.until(ticked)
	b.do(click("#take"))
	b.says("#verdict", " of 100, in ")
	assert.Positive(t, eval[int](b, `document.querySelectorAll(".faults li").length`))
	b.onlyHere()
}

// By hand: arrows choose a thing, letters put it into a zone, until the pack is shut.
func TestLoadByHandWithKeys(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	b := open(t, 1280, 800, briefly)
	b.practise("demo/child-night", "hand")
	b.do(chromedp.KeyEvent("n"))
	b.until(`document.querySelector(".loading-out")`)
	all := eval[int](b, `document.querySelectorAll(".loading-out li").length`)
	b.do(chromedp.KeyEvent(kb.ArrowDown))
	b.until(`document.querySelector(".where-to")`)
	b.do(chromedp.KeyEvent("a"))
	b.until(fmt.Sprintf(`document.querySelectorAll(".loading-out li").length === %d && document.querySelectorAll(".loading-in li").length === 1`, all-1))
	b.onlyHere()
}

// The pages of practice bar nobody.
func TestPracticeIsAccessible(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	for _, width := range []int64{1280, 390} {
		t.Run(strconv.Itoa(int(width)), func(t *testing.T) {
			t.Parallel()
			b := open(t, width, 800, briefly)
			do := func(id int, fields string) {
				b.Helper()
				require.True(t, eval[bool](b, fmt.Sprintf(`fetch("/practice/%d", {method: "POST", body: new URLSearchParams(%q)}).then(r => r.ok)`, id, fields)))
			}
			b.practise("demo/child-night", "where")
			b.stands("/practice/1", width)
			do(1, "do=start")
			b.stands("/practice/1", width)
			do(1, "answer=lid")
			b.stands("/practice/1", width)
			for range 6 {
				do(1, "do=start")
				do(1, "answer=lid")
			}
			do(1, "do=end")
			b.stands("/practice/1", width)
			b.practise("demo/child-night", "find")
			do(2, "do=start")
			b.stands("/practice/2", width)
			do(2, "do=done&thing=bag")
			b.stands("/practice/2", width)
			b.practise("demo/child-night", "hand")
			do(3, "do=start")
			do(3, "thing=bag&zone=body")
			b.stands("/practice/3?thing=toy", width)
			do(3, "do=done")
			b.stands("/practice/3?advice=1", width)
			b.stands("/practice?person=Ona", width)
			b.onlyHere()
		})
	}
}
