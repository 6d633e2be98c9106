// Package bundle reads and writes the open format: one JSON object with a pack, the kit, and what the trip and the
// packer ask. Everything that enters Tornister passes Read: size limits, JSON Schema (2020-12, in schema.json), then
// the checks that a schema cannot say. What is left out gets a documented default, and Assumed lists it; what is
// unknown is kept, so that reading and writing again loses nothing.
package bundle

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"tornister/core/job"
)

// MaxBytes and MaxPieces bound what is read.
const (
	MaxBytes  = 8 << 20
	MaxItems  = 500
	MaxPieces = 600
)

// Schema is the published JSON Schema of the format.
//
//go:embed schema.json
var Schema []byte

// AnswerSchema is the published JSON Schema of the answer of a plan.
//
//go:embed answer.schema.json
var AnswerSchema []byte

var compiled = sync.OnceValues(func() (*jsonschema.Schema, error) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		return nil, fmt.Errorf("schema: %w", err)
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("urn:tornister:bundle:1", doc); err != nil {
		return nil, fmt.Errorf("schema: %w", err)
	}
	return compiler.Compile("urn:tornister:bundle:1")
})

// Bundle is a valid input: the document as it was given, and the Task it stands for.
type Bundle struct {
	Doc     Doc
	Task    job.Task
	Assumed []string // "/trip/rain: 0.3", what was left out and the default taken
}

// Doc is a bundle as given, numbers kept as they were written.
type Doc map[string]any

// Read parses and checks a bundle. The error is of type Problems when the input is at fault.
func Read(data []byte) (*Bundle, error) {
	if len(data) > MaxBytes {
		return nil, problem("", fmt.Sprintf("larger than %d MB", MaxBytes>>20),
			"a bundle describes one pack and one kit; split the file")
	}
	data = bytes.TrimPrefix(data, byteOrderMark)
	if err := scan(data); err != nil {
		return nil, err
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	var tree any
	if err := decoder.Decode(&tree); err != nil {
		return nil, syntaxProblem(data, err)
	}
	if _, err := decoder.Token(); err != io.EOF {
		return nil, problem("", "something follows after the end of the JSON object", "give one object and nothing else")
	}
	doc, ok := tree.(map[string]any)
	if !ok {
		return nil, problem("", "not a JSON object", "a bundle begins with { and has format, version, pack and items")
	}
	b, err := FromDoc(doc)
	if err == nil {
		err = b.Doc.checkWaiting()
	}
	if err != nil {
		return nil, err
	}
	if changed, err := b.Doc.settle(); err != nil || !changed {
		return b, err
	}
	return FromDoc(b.Doc)
}

// FromDoc checks a document and makes its Task. The document is not changed; it belongs to the bundle afterwards.
func FromDoc(doc Doc) (*Bundle, error) {
	if err := refuseEarly(doc); err != nil {
		return nil, err
	}
	schema, err := compiled()
	if err != nil {
		return nil, err
	}
	if err := schema.Validate(map[string]any(doc)); err != nil {
		return nil, schemaProblems(err)
	}
	if ps := wrongUnits(doc); len(ps) > 0 {
		return nil, capped(ps)
	}
	if ps := checkReferences(doc); len(ps) > 0 {
		return nil, capped(ps)
	}
	return complete(doc)
}

// refuseEarly refuses what would be slow to check in full.
func refuseEarly(doc Doc) error {
	if format, ok := doc["format"]; ok && format != "tornister" {
		return problem("/format", fmt.Sprintf("%q is not this format", clip(fmt.Sprint(format))),
			`a bundle says "format": "tornister"`)
	}
	for key, limit := range map[string]int{"items": MaxItems, "bags": 100, "pins": 1000} {
		if list, ok := doc[key].([]any); ok && len(list) > limit {
			return problem("/"+key, fmt.Sprintf("has %d entries", len(list)), fmt.Sprintf("give at most %d", limit))
		}
	}
	if at, what := badNumberIn(map[string]any(doc)); what != "" {
		return problem(at, what, "give a plain number, such as 1.5")
	}
	return nil
}

// badNumberIn finds a number that the checks after this cannot take: they reckon with fractions of any length.
func badNumberIn(tree any) (at, what string) {
	switch t := tree.(type) {
	case json.Number:
		return "", badNumber(t.String())
	case map[string]any:
		for key, v := range t {
			if at, what := badNumberIn(v); what != "" {
				return pointer(key) + at, what
			}
		}
	case []any:
		for i, v := range t {
			if at, what := badNumberIn(v); what != "" {
				return pointer(i) + at, what
			}
		}
	}
	return "", ""
}

// JSON writes the document as it was given.
func (d Doc) JSON() ([]byte, error) {
	var out bytes.Buffer
	encoder := json.NewEncoder(&out)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	if err := encoder.Encode(map[string]any(d)); err != nil {
		return nil, fmt.Errorf("write bundle: %w", err)
	}
	return out.Bytes(), nil
}

// List gives the objects of a list of the document, such as "items" or "pins".
func (d Doc) List(key string) []map[string]any {
	return objects(d[key])
}

func objects(list any) []map[string]any {
	entries, _ := list.([]any)
	found := make([]map[string]any, 0, len(entries))
	for _, e := range entries {
		if o, ok := e.(map[string]any); ok {
			found = append(found, o)
		}
	}
	return found
}

// Clone copies the document deeply, so that an edit of the copy leaves the original alone.
func (d Doc) Clone() Doc { return Doc(cloneTree(map[string]any(d)).(map[string]any)) }

func cloneTree(tree any) any {
	switch t := tree.(type) {
	case map[string]any:
		copied := maps.Clone(t)
		for k, v := range copied {
			copied[k] = cloneTree(v)
		}
		return copied
	case []any:
		copied := make([]any, len(t))
		for i, v := range t {
			copied[i] = cloneTree(v)
		}
		return copied
	}
	return tree
}

// Name is what the trip is called, or the pack when the trip has no name.
func (d Doc) Name() string {
	for _, key := range []string{"trip", "pack"} {
		if o, ok := d[key].(map[string]any); ok {
			if name, ok := o["name"].(string); ok && name != "" {
				return name
			}
		}
	}
	return "Trip without a name"
}
