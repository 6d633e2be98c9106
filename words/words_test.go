package words

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/core/fact"
	"tornister/core/kit"
	"tornister/core/method"
	"tornister/core/reach"
	"tornister/core/unit"
)

// inCore calls a function for every node of the core's own code, with its place.
func inCore(t *testing.T, visit func(at, file string, n ast.Node)) {
	t.Helper()
	files := token.NewFileSet()
	err := filepath.WalkDir("../core", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(files, path, nil, 0)
		require.NoError(t, err)
		ast.Inspect(file, func(n ast.Node) bool {
			if n != nil {
				visit(files.Position(n.Pos()).String(), filepath.ToSlash(path), n)
			}
			return true
		})
		return nil
	})
	require.NoError(t, err)
}

var verb = regexp.MustCompile(`%(\.\d)?[sdf]`)

// Every fact that the core makes has its sentence, with a verb for each value, and every sentence has its fact.
func TestEveryFactHasItsWords(t *testing.T) {
	t.Parallel()
	made := map[string]bool{}
	inCore(t, func(at, _ string, n ast.Node) {
		call, is := n.(*ast.CallExpr)
		if !is {
			return
		}
		if of, is := call.Fun.(*ast.SelectorExpr); !is || of.Sel.Name != "Of" || fmt.Sprint(of.X) != "fact" {
			return
		}
		code, is := call.Args[0].(*ast.BasicLit)
		require.True(t, is, "%s: the code of a fact is written where it is made", at)
		name, err := strconv.Unquote(code.Value)
		require.NoError(t, err)
		made[name] = true
		sentence, known := catalogue[name]
		assert.True(t, known, "%s: %s has no words", at, name)
		assert.Len(t, verb.FindAllString(sentence, -1), len(call.Args)-1, "%s: %s says %q", at, name, sentence)
	})
	for code := range catalogue {
		assert.True(t, made[code], "nothing says %s", code)
	}
	assert.Greater(t, len(made), 100)
}

// vocabulary is where the core holds names: of kinds, sections and lines of lists, which are typed and matched, not
// spoken.
var vocabulary = regexp.MustCompile(`core/kit/(kinds_\w+|section|lists|named|tongues)\.go|core/unit/parse\.go`)

// A sentence is a text of three words or more.
var sentence = regexp.MustCompile(`\p{L}[ ,;:]+\p{L}+[ ,;:]+\p{L}`)

// No package of the core speaks: its texts are codes, names and figures. Errors are for who calls, and comments in
// exported programs for who reads those.
func TestTheCoreDoesNotSpeak(t *testing.T) {
	t.Parallel()
	quiet := map[ast.Node]bool{}
	looked := 0
	inCore(t, func(at, file string, n ast.Node) {
		switch n := n.(type) {
		case *ast.CallExpr:
			f := fmt.Sprint(n.Fun)
			if slices.Contains([]string{"&{errors New}", "&{fmt Errorf}", "panic"}, f) || strings.Contains(f, "append") &&
				title(n) {
				hush(quiet, n)
			}
		case *ast.CompositeLit:
			if name := fmt.Sprint(n.Type); name == "QuickError" || strings.Contains(name, "mip Program") {
				hush(quiet, n)
			}
		case *ast.BasicLit:
			looked++
			if n.Kind == token.STRING && !quiet[n] && !vocabulary.MatchString(file) && !strings.Contains(file, "/mip/") && !strings.Contains(n.Value, `json:"`) {
				assert.NotRegexp(t, sentence, verb.ReplaceAllString(n.Value, ""), at)
			}
		}
	})
	assert.Greater(t, looked, 1000)
}

// title reports whether a call adds to the comments of an exported program.
func title(call *ast.CallExpr) bool {
	to, is := call.Args[0].(*ast.SelectorExpr)
	return is && to.Sel.Name == "Title"
}

func hush(quiet map[ast.Node]bool, n ast.Node) {
	ast.Inspect(n, func(n ast.Node) bool {
		quiet[n] = true
		return true
	})
}

// Each value is written in the reader's units; a fact within a fact is told in its place, and none says nothing.
func TestValuesInTheReadersUnits(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		fact              fact.Fact
		metric, customary string
	}{
		{fact.Fact{}, "", ""},
		{fact.Of("load.only"), "the only zone that takes it", "the only zone that takes it"},
		{fact.Of("load.nest", fact.Litres(2)), "inside: 2.0 L of room it would take elsewhere",
			"inside: 122 cu in of room it would take elsewhere"},
		{fact.Of("load.swing", fact.Grams(454), fact.Small("Front pocket")),
			"454 g would pull backwards in the front pocket", "1 lb 0 oz would pull backwards in the front pocket"},
		{fact.Of("load.reach", fact.TimesADay(3), 21., fact.Small("Body")),
			"wanted 3 times a day: 21 s nearer than in the body", "wanted 3 times a day: 21 s nearer than in the body"},
		{fact.Of("load.deeper", fact.Fact{}), "deeper than its turn", "deeper than its turn"},
		{fact.Of("load.turn-and-lane", fact.Of("load.turn-heavy", fact.Grams(1200), fact.Of("load.heavy-low")),
			fact.Of("load.lane-back")), "1.20 kg, so low, against the spine", "2 lb 10 oz, so low, against the spine"},
		{fact.Of("dry.larger-liner", fact.WholeLitres(13.2)), "a liner of 14 L", "a liner of 854 cu in"},
		{fact.Of("dry.none-large", fact.Of("dry.bag", fact.WholeLitres(9))),
			"a dry bag of 9 L: none that is owned is large enough",
			"a dry bag of 549 cu in: none that is owned is large enough"},
		{fact.Of("load.longer-pack", fact.Cm(25.4)), "a pack with 25.4 cm more room that way, or a way to carry it outside",
			"a pack with 10 in more room that way, or a way to carry it outside"},
		{fact.Of("load.sides", fact.SizeCm{10, 20, 30}), "10 × 20 × 30 cm", "3.9 × 7.9 × 11.8 in"},
		{fact.Of("trail.mild-day", fact.Water(2.5)), "2.5 L for a mild day (common practice)",
			"85 fl oz for a mild day (common practice)"},
		{fact.Of("trail.from-stream", fact.Celsius(10)), "from 10 °C", "from 50 °F"},
		{fact.Of("safe.with-liner", fact.Degrees(5)), " with the liner's 5 °C (common practice)",
			" with the liner's 9 °F (common practice)"},
		{fact.Of("trail.day-food", fact.Names{"breakfast", "lunch"}, 60., fact.Of("trail.by-mass", fact.Grams(800))),
			"breakfast, lunch: 60 % of 800 g a day", "breakfast, lunch: 60 % of 1 lb 12 oz a day"},
		{fact.Of("fit.crammed", fact.Part(0.5)), "Crammed half of the way: it takes a knee to close it.",
			"Crammed half of the way: it takes a knee to close it."},
		{fact.Of("fit.out", fact.Things(1)), "1 thing out", "1 thing out"},
		{fact.Of("weight.heavy-lift", fact.Grams(20000), fact.BodyKg(25)),
			"20.0 kg is a heavy lift: on to the knee first, then one shoulder; above about 25 kg help each other (common practice).", "44.1 lb is a heavy lift: on to the knee first, then one shoulder; above about 55 lb help each other (common practice)."},
		{fact.Of("no.words", 1), "no.words", "no.words"},
	} {
		assert.Equal(t, c.metric, Say(c.fact, unit.Metric))
		assert.Equal(t, c.customary, Say(c.fact, unit.Customary))
	}
	assert.Equal(t, "pot, mug, spoon and 2 more",
		Say(fact.Of("reach.of", fact.Names{"Pot", "Mug", "Spoon", "Cup", "Lid"}), unit.Metric))
	assert.Equal(t, "once a day", often(1))
	assert.Equal(t, "now and then", often(0.1))
	assert.Equal(t, "a little", Part(0.01))
	assert.Equal(t, "as tight as it goes", Part(1))
}

// What the core knows by a key has its name here, and nothing else has.
func TestEveryKeyHasItsName(t *testing.T) {
	t.Parallel()
	var asked, answers, groups, usual, work []string
	for _, q := range method.Questions {
		asked = append(asked, q.Key)
		for _, a := range q.Answers {
			answers = append(answers, q.Key+"."+a)
			assert.NotEmpty(t, School(q.Key, a))
		}
		assert.NotEmpty(t, Asks(q.Key))
	}
	for _, p := range method.Presets {
		groups = append(groups, p.ID)
		assert.NotEmpty(t, Preset(p.ID).Name)
	}
	for i := range reach.Drills {
		usual = append(usual, reach.Drills[i].ID)
		assert.NotEmpty(t, Drill(&reach.Drills[i]).Words)
	}
	for _, d := range kit.Duties {
		work = append(work, d.Function)
		assert.NotEmpty(t, Duty(d.Function).Words)
	}
	assert.ElementsMatch(t, asked, slices.Collect(maps.Keys(questions)))
	assert.ElementsMatch(t, answers, slices.Collect(maps.Keys(schools)))
	assert.ElementsMatch(t, groups, slices.Collect(maps.Keys(presets)))
	assert.ElementsMatch(t, usual, slices.Collect(maps.Keys(drills)))
	assert.ElementsMatch(t, work, slices.Collect(maps.Keys(duties)))
	assert.Equal(t, Told{Name: "Bear in camp"}, Drill(&reach.Drill{ID: "own", Name: "Bear in camp"}))
}
