package campaign

import (
	"bytes"
	"encoding/json"
	"fmt"
	"sync"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"tornister/bundle"
)

var answerSchema = sync.OnceValues(func() (*jsonschema.Schema, error) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(bundle.AnswerSchema))
	if err != nil {
		return nil, err
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("urn:tornister:answer:1", doc); err != nil {
		return nil, err
	}
	return compiler.Compile("urn:tornister:answer:1")
})

// written is what the oracle reads of an answer; it shares no types with the planner.
type written struct {
	Verdict struct {
		Fits bool `json:"fits"`
	} `json:"verdict"`
	Load []struct {
		Item   string `json:"item"`
		Piece  int    `json:"piece"`
		Zone   string `json:"zone"`
		Inside string `json:"inside"`
		BoxCm  *struct {
			Min [3]float64 `json:"min"`
			Max [3]float64 `json:"max"`
		} `json:"box_cm"`
	} `json:"load"`
	LeftOut []struct {
		Item  string `json:"item"`
		Piece int    `json:"piece"`
	} `json:"left_out"`
	Proof struct{ Objective, Bound float64 } `json:"proof"`
	Cells *struct {
		CellCm float64  `json:"cell_cm"`
		Size   [3]int   `json:"size"`
		Owner  []string `json:"owner"`
		Runs   [][2]int `json:"runs"`
	} `json:"cells"`
}

// Oracle says what is wrong with the answer to a bundle that was read: it must be valid UTF-8 and follow the
// published schema; it fits exactly when nothing is left out; every thing that is to be packed stands in it exactly
// once; the bound is one; the cells are as many as the grid has.
func Oracle(kit []byte, text []byte) (wrong []string) {
	bad := func(format string, values ...any) { wrong = append(wrong, fmt.Sprintf(format, values...)) }
	if !utf8.Valid(text) {
		bad("the answer is not valid UTF-8")
	}
	schema, err := answerSchema()
	if err != nil {
		return []string{err.Error()}
	}
	tree, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return []string{"the answer is no JSON: " + err.Error()}
	}
	if err := schema.Validate(tree); err != nil {
		bad("the answer does not follow its schema: %v", err)
	}
	var a written
	if err := json.Unmarshal(text, &a); err != nil {
		return append(wrong, err.Error())
	}
	if a.Verdict.Fits != (len(a.LeftOut) == 0) {
		bad("fits is %v with %d things left out", a.Verdict.Fits, len(a.LeftOut))
	}
	if a.Proof.Bound > a.Proof.Objective+1e-6*(1+a.Proof.Objective) {
		bad("the bound %v is above the objective %v", a.Proof.Bound, a.Proof.Objective)
	}
	type piece struct {
		item   string
		number int
	}
	want := wanted(kit)
	seen := map[piece]int{}
	for _, l := range a.Load {
		seen[piece{l.Item, l.Piece}]++
		if l.BoxCm != nil {
			for axis := range 3 {
				if l.BoxCm.Max[axis] <= l.BoxCm.Min[axis] {
					bad("the box of %s is empty", l.Item)
				}
			}
		}
	}
	for _, l := range a.LeftOut {
		seen[piece{l.Item, l.Piece}]++
	}
	total := 0
	for p, n := range seen {
		if total += n; n != 1 {
			bad("%s %d stands %d times in the answer", p.item, p.number, n)
		}
		if want[p.item] == 0 {
			bad("%s is not to be packed", p.item)
		}
	}
	sum := 0
	for _, n := range want {
		sum += n
	}
	if total != sum {
		bad("%d things are to be packed, %d stand in the answer", sum, total)
	}
	if a.Cells != nil {
		n := 0
		for _, run := range a.Cells.Runs {
			n += run[1]
			if run[0] >= len(a.Cells.Owner) {
				bad("a cell belongs to nobody")
			}
		}
		if n != a.Cells.Size[0]*a.Cells.Size[1]*a.Cells.Size[2] {
			bad("the cells are %d of %v", n, a.Cells.Size)
		}
	}
	return wrong
}

// wanted counts the pieces that are to be packed, by item, read from the bundle itself.
func wanted(kit []byte) map[string]int {
	var b struct {
		Items []struct {
			ID    string   `json:"id"`
			Count *float64 `json:"count"`
			Carry string   `json:"carry"`
		} `json:"items"`
	}
	_ = json.Unmarshal(bytes.TrimPrefix(kit, []byte("\xef\xbb\xbf")), &b)
	want := map[string]int{}
	for _, it := range b.Items {
		if it.Carry != "" && it.Carry != "pack" {
			continue
		}
		want[it.ID] = 1
		if it.Count != nil {
			want[it.ID] = int(*it.Count)
		}
	}
	return want
}
