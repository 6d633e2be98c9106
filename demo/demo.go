// Package demo ships made-up trips across the Orlava Plateau, an invented limestone upland with caves, little surface
// water, cold nights and sudden rain, and the generic packs a new trip can begin with. No place, person or maker in
// it is real.
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

// SkiTour is a day on the plateau's north rim with rescue kit, as a bundle.
//
//go:embed ski-tour.json
var SkiTour []byte

// ChildNight is the pack of a child of eight for one night on the plateau's edge, as a bundle.
//
//go:embed child-night.json
var ChildNight []byte

// FieldCourse is a course of an instructor and five trainees with what they share, as a bundle.
//
//go:embed field-course.json
var FieldCourse []byte

// Trips are the bundles of those who walk alone that the demo database holds, the first shown last.
var Trips = [][]byte{ChildNight, SkiTour, LoneWalker}

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
