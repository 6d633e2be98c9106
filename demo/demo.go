// Package demo ships made-up trips across the Orlava Plateau, an invented limestone upland with caves, little surface
// water, cold nights and sudden rain, and the generic packs a new trip can begin with. No place, person or maker in it
// is real.
package demo

import (
	_ "embed"
	"encoding/json"
	"sync"
)

// LoneWalker is three nights alone across the plateau, as a bundle.
//
//go:embed lone-walker.json
var LoneWalker []byte

//go:embed packs.json
var packs []byte

// Pack is a generic pack: what a list shows of it, and its object in the open format.
type Pack struct {
	ID    string
	Name  string
	MassG float64
	JSON  json.RawMessage
}

// Packs lists the generic packs, smallest first.
var Packs = sync.OnceValue(func() []Pack {
	var raw []json.RawMessage
	if err := json.Unmarshal(packs, &raw); err != nil {
		panic("demo: packs.json: " + err.Error()) // the file is embedded
	}
	list := make([]Pack, len(raw))
	for i, text := range raw {
		var head struct {
			ID    string  `json:"id"`
			Name  string  `json:"name"`
			MassG float64 `json:"mass_g"`
		}
		if err := json.Unmarshal(text, &head); err != nil {
			panic("demo: packs.json: " + err.Error())
		}
		list[i] = Pack{head.ID, head.Name, head.MassG, text}
	}
	return list
})
