package card_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/answer"
	"tornister/bundle"
	"tornister/card"
	"tornister/core/load"
	"tornister/core/unit"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/web/draw"
)

// made is the card of a demo kit, planned once.
var made = sync.OnceValues(func() (*bundle.Bundle, *card.Card) {
	b, err := bundle.Read(demo.LoneWalker)
	if err != nil {
		panic(err)
	}
	judged := verdict.Of(&b.Task, load.Options{Seed: 1, Quick: true})
	return b, card.Of(b.Doc.Name(), judged, answer.Of(judged, b.Assumed, unit.Metric), unit.Metric)
})

func packed(b *bundle.Bundle) (names []string) {
	for _, it := range b.Task.Items {
		if it.Carry == "pack" {
			names = append(names, it.Name)
		}
	}
	return names
}

func TestCardInWords(t *testing.T) {
	t.Parallel()
	b, c := made()
	var out strings.Builder
	require.NoError(t, c.Text(&out))
	for line := range strings.Lines(out.String()) {
		assert.LessOrEqual(t, len([]rune(strings.TrimRight(line, "\n"))), 80, line)
		assert.Equal(t, strings.TrimRight(line, " \n")+"\n", line, "nothing stands behind a line")
	}
	flat := strings.Join(strings.Fields(out.String()), " ")
	for _, name := range packed(b) {
		assert.Contains(t, flat, name)
	}
	assert.Equal(t, c.Steps, strings.Count(out.String(), "[ ]")-strings.Count(out.String(), "[ ]      "),
		"a box for each step")
	assert.Contains(t, out.String(), "First aid. First aid kit")
	assert.Contains(t, out.String(), "Roll the pack liner shut")
}

// A bag heads what is in it, once where its things follow each other.
func TestBagsAreHeadings(t *testing.T) {
	t.Parallel()
	_, c := made()
	heads := 0
	for _, g := range c.Groups {
		bag := ""
		for _, l := range g.Lines {
			if l.Bag != "" {
				assert.NotEqual(t, bag, l.Bag, "the same bag twice in a row")
				assert.Positive(t, l.In)
				bag = l.Bag
				heads++
			} else if l.In == 0 {
				bag = ""
			}
		}
	}
	assert.Positive(t, heads)
}

// The file needs nothing else: no address in it leads anywhere.
func TestCardAsOneFile(t *testing.T) {
	t.Parallel()
	b, c := made()
	var alone, linked bytes.Buffer
	require.NoError(t, c.HTML(&alone, nil))
	require.NoError(t, c.HTML(&linked, &card.Live{At: "/static/"}))
	for _, name := range packed(b) {
		assert.Contains(t, alone.String(), name)
	}
	assert.NotRegexp(t, regexp.MustCompile(`(src|href)="[^"#]`), alone.String())
	assert.NotContains(t, strings.ReplaceAll(alone.String(), "http://www.w3.org/2000/svg", ""), "http")
	assert.NotContains(t, linked.String(), "<style>", "the policy of the application's pages allows none")
	assert.Contains(t, card.Style(), ".shell")
}

func TestCardAsPDF(t *testing.T) {
	t.Parallel()
	_, c := made()
	var out bytes.Buffer
	require.NoError(t, c.PDF(&out))
	assert.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-1.")))
	assert.Len(t, regexp.MustCompile(`/Type /Page\b[^s]`).FindAll(out.Bytes(), -1), 1, "49 things go on one sheet")
}

// The picture is the drawing: its size, and its colours where the drawing has them.
func TestPictures(t *testing.T) {
	t.Parallel()
	_, c := made()
	data, err := draw.PNG(c.Drawing, 2)
	require.NoError(t, err)
	picture, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, 2*618, picture.Bounds().Dx())
	colours := map[[3]uint32]int{}
	for y := range picture.Bounds().Dy() {
		for x := range picture.Bounds().Dx() {
			r, g, b, _ := picture.At(x, y).RGBA()
			colours[[3]uint32{r >> 8, g >> 8, b >> 8}]++
		}
	}
	assert.Greater(t, colours[[3]uint32{0xc5, 0xbc, 0xcd}], 10_000, "camp things are violet over paper")
	assert.Greater(t, colours[[3]uint32{0x26, 0x30, 0x2f}], 1_000, "ink")
	ink := func(x, y int) bool { r, _, _, _ := picture.At(x, y).RGBA(); return r>>8 < 0x80 }
	sides, wide := 0, picture.Bounds().Dx() // the pack's outline: a stroke, neither a thing nor a word
	for y := 400; y < 700; y++ {
		for x := 2 * wide / 5; x < 3*wide/5; x++ {
			if ink(x, y) && ink(x, y-1) && ink(x, y+1) && !ink(x-4, y) && !ink(x+4, y) {
				sides++
			}
		}
	}
	assert.Greater(t, sides, 300, "lines are drawn")

	decoder := xml.NewDecoder(bytes.NewReader(draw.Standalone(c.Drawing)))
	for {
		if _, err := decoder.Token(); errors.Is(err, io.EOF) {
			break
		} else {
			require.NoError(t, err, "well-formed")
		}
	}
	_, err = draw.PNG("<svg></svg>", 2)
	assert.Error(t, err)
}
